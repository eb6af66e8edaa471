#pragma once
#include "core/builds/build.hpp"
#include "core/chain/step.hpp"
#include "core/head/built_form.hpp"
#include "core/head/tape_path.hpp"
#include "core/head/telling.hpp"

namespace awl {

/// The wearer's head, of tapes or of a scan the tapes join in.
struct HeadStage {
  struct Inputs {
    WearerMeasures measures;
    HeldScan scan;
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    Held<Headform> head;
    Held<std::vector<TapePath>> tapes;
    Held<ScanFit> scan;
  };
  static constexpr std::size_t kKept = 8;
  static constexpr double kShare = 0.02;
  static constexpr bool kTold = false;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// What to measure on the headform as built, and what that says. A reading that cannot be is told; the chain goes on.
struct CheckStage {
  struct Inputs {
    Held<Headform> head;
    double neck_up_mm = 0.0;
    bool mirrored = false;
    std::map<std::string, double> built;
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    Held<CheckPlan> plan;
    Held<BuiltForm> built;
    std::optional<Error> error;
  };
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.01;
  static constexpr bool kTold = false;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// What to measure first for the forms of this build, and what next.
struct TellingStage {
  struct Inputs {
    WearerMeasures measures;
    Part wrap;  ///< without a wrap an open-face hood stands for the forms
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    std::vector<Telling> short_list;
    std::optional<Telling> next;
  };
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.01;
  static constexpr bool kTold = true;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// The head a form is built to: of a mirrored headform the mean of both sides.
Headform meant_head(const HeadFitter& fitter, const Headform& head, bool mirrored);

}  // namespace awl
