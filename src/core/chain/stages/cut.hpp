#pragma once
#include "core/chain/step.hpp"
#include "core/chain/to_cut.hpp"
#include "core/derived/derived.hpp"
#include "core/stock/nest.hpp"

namespace awl {

/// Parts made some other way than from flat panels. A way that cannot be gone is told of and the part left a skin.
struct WayStage {
  struct Inputs {
    Held<Form> form;
    std::vector<WaySpec> ways;  ///< of each of the form's parts
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    HeldWays ways;
    std::vector<Error> left_out;
  };
  static constexpr std::size_t kKept = 8;
  static constexpr double kShare = 0.10;
  static constexpr bool kTold = false;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// One part made its way.
struct WayStep {
  struct Inputs {
    Held<PartForm> form;
    WaySpec way;
    bool operator==(const Inputs&) const = default;
  };
  using Made = MadeWay;
  static constexpr std::size_t kKept = 24;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// The pieces to cut, with everything the maker chose about their edges.
struct PieceStage {
  struct Inputs {
    Held<PanelSet> panels;
    Held<Form> form;
    Held<CheckPlan> check;
    HeldWays ways;
    Held<std::vector<Yield>> fittings;
    Held<std::vector<Held<Dressed>>> dressed;
    CutChoices choices;
    bool operator==(const Inputs&) const = default;
  };
  using Made = std::vector<Piece>;
  static constexpr std::size_t kKept = 8;
  static constexpr double kShare = 0.01;
  static constexpr bool kTold = true;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// The pieces on their sheets.
struct LayoutStage {
  struct Inputs {
    Held<std::vector<Piece>> pieces;
    SheetSize sheet;
    NestOptions nesting;
    NestStock stock;
    bool operator==(const Inputs&) const = default;
  };
  using Made = Layout;
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.12;
  static constexpr bool kTold = true;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

}  // namespace awl
