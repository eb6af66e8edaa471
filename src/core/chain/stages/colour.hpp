#pragma once
#include "core/chain/step.hpp"
#include "core/derived/colour_map.hpp"

namespace awl {

/// Where the colours lie. Nothing to do without colour areas and lines for colours to meet at.
struct ColourStage {
  struct Seat {
    int part = 0, on = 0;
    bool operator==(const Seat&) const = default;
  };
  struct Inputs {
    Held<Form> form;
    Held<PanelSet> panels;
    Held<std::vector<Held<Dressed>>> dressed;
    std::vector<ColourArea> areas;
    std::vector<Seat> seats;  ///< which part stands on which
    bool operator==(const Inputs&) const = default;
  };
  using Made = ColourMap;
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.01;
  static constexpr bool kTold = false;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

}  // namespace awl
