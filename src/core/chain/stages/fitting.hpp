#pragma once
#include "core/builds/build.hpp"
#include "core/chain/step.hpp"
#include "core/derived/derived.hpp"
#include "core/fit/opening_view.hpp"
#include "core/fit/worn.hpp"
#include "core/stuff/materials.hpp"

namespace awl {

/// A headform made ready to be asked about what is worn on it.
struct FitHeadStep {
  struct Inputs {
    Held<Headform> head;
    double wig_mm = 0.0;  ///< not part of the head; kept so that another wig is another question
    bool operator==(const Inputs&) const = default;
  };
  using Made = FitHead;
  static constexpr std::size_t kKept = 3;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// One part as the fit sees it: its solid, its mass, what it gives.
struct FitPartStep {
  struct Inputs {
    Held<PartForm> form;
    HeldWays way;  ///< none: a skin
    Foam stuff;
    std::string cut_from;  ///< as the part says: empty for the build's own foam
    double coat_g_m2 = 0.0, wig_mm = 0.0;
    int on = 0;  ///< the part it sits on; 0: the head
    bool heated = true;
    bool operator==(const Inputs&) const = default;
  };
  using Made = FitPart;
  static constexpr std::size_t kKept = 48;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// What slits and holds come to. Nothing to do while a build has none.
struct FittingStage {
  struct Inputs {
    Held<Headform> head;
    std::vector<FitPartStep::Inputs> parts;
    FitSpec spec;
    bool operator==(const Inputs&) const = default;
  };
  using Made = std::vector<Yield>;
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.01;
  static constexpr bool kTold = false;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// All that is said of a build as worn. Asked beside the chain, since it takes as long as the rest.
struct WornStep {
  struct Inputs {
    Held<Headform> head;
    std::vector<FitPartStep::Inputs> parts;
    FitSpec spec;
    Held<std::vector<Held<Dressed>>> dressed;  ///< details weigh, and some hide what is behind them
    bool child = false;
    double shoulders_mm = 0.0;
    bool operator==(const Inputs&) const = default;
  };
  using Made = Worn;
  static constexpr std::size_t kKept = 4;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// The same report with its sight anew, in steps of so many degrees. Errors: those of the steps; cancelled.
Result<std::shared_ptr<const Worn>> look_through(
    Shop& shop, const WornStep::Inputs& in, const Worn& before, double step_deg, const Progress& progress);

/// What is seen past all else of a question, through a form of one of its parts that has its openings filled. None
/// where that part is not asked about, or its vertices have no places of their own. Errors: those of the steps;
/// cancelled.
Result<std::optional<OpeningView>> opening_view(
    Shop& shop, const WornStep::Inputs& in, const Held<PartForm>& filled, double step_deg, const Progress& progress);

/// What is asked of a derived build. Errors: unknown_name. Nothing where nothing of it is worn on a head.
Result<std::optional<WornStep::Inputs>> worn_question(const Shop& shop, const Build& build, const Derived& derived);

}  // namespace awl
