#pragma once
#include "core/chain/step.hpp"
#include "core/derived/derived.hpp"

namespace awl {

/// Every part's panels laid flat, taken in and let out as the maker did. An alteration that cannot be done any more is
/// told of and left out.
struct PanelStage {
  struct Inputs {
    Held<Form> form;
    std::vector<Alteration> alterations;
    std::vector<Correction> corrections;
    std::vector<bool> flat;  ///< for each of the form's parts, whether it is made from sheet and so must lie flat
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    Held<PanelSet> joined;
    std::vector<Held<PanelSet>> by_part;
    std::vector<Held<std::vector<LeftUnequal>>> unequal;  ///< of each part
    std::vector<Error> left_out;
  };
  static constexpr std::size_t kKept = 8;
  static constexpr double kShare = 0.43;
  static constexpr bool kTold = true;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// One part's panels as its form asks for them.
struct FlatPartStep {
  using Inputs = Held<PartForm>;
  using Made = PanelSet;
  static constexpr std::size_t kKept = 40;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// The same with outlines that come out truer.
struct CorrectStep {
  struct Inputs {
    Held<PanelSet> panels;
    Correction correction;
    bool operator==(const Inputs&) const = default;
  };
  using Made = PanelSet;
  static constexpr std::size_t kKept = 16;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// The same with edges moved.
struct AlterStep {
  struct Inputs {
    Held<PanelSet> panels;
    std::vector<Alteration> alterations;
    bool operator==(const Inputs&) const = default;
  };
  using Made = PanelSet;
  static constexpr std::size_t kKept = 16;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// A part that is not made from sheet and does not lie flat: its form without panels.
struct UncutStep {
  using Inputs = Held<PartForm>;
  using Made = PanelSet;
  static constexpr std::size_t kKept = 16;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// Seams that altering left unequal, and what would even them: tried out here, so that no judge need reckon.
struct UnequalStep {
  struct Inputs {
    Held<PanelSet> panels;
    int part = 0;
    bool operator==(const Inputs&) const = default;
  };
  using Made = std::vector<LeftUnequal>;
  static constexpr std::size_t kKept = 40;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// The panels of several parts as one set.
struct JoinPanelsStep {
  using Inputs = std::vector<Held<PanelSet>>;
  using Made = PanelSet;
  static constexpr std::size_t kKept = 8;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

PanelOptions panel_options(const PartForm& form);

}  // namespace awl
