#pragma once
#include "core/derived/derived.hpp"

namespace awl {

/// What the wearer is told: how it goes on, how it is kept, and what it travels in.
struct CareSheet {
  struct Section {
    std::string title;
    std::vector<std::string> lines;
  };
  std::vector<Section> sections;
  Vec3 size_mm = Vec3::Zero();  ///< of all of it
  Vec3 box_mm = Vec3::Zero();   ///< the stock box that holds it with padding all round
  bool stock_box = true;        ///< false: none is large enough, and the size is its own
  double mass_g = 0.0;          ///< 0 while it is not known
};

/// Follows from the materials, holds and rooms there are: magnets, hot glue, thermoplastics, linings, batteries.
/// Workshop values: 40 mm of padding on every side, the sizes of boxes. Contract: a form is there.
CareSheet care_sheet(const Build& build, const Derived& derived, const Materials& materials);

}  // namespace awl
