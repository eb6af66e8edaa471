#pragma once
#include <map>

#include "core/derived/derived.hpp"

namespace awl {

/// One line of the shopping list.
struct Purchase {
  std::string id;    ///< "sheet/eva-firm/5", "glue/contact", "tape", "blade"
  std::string what;  ///< "EVA foam sheet, firm, 5 mm, 1000 x 600 mm"
  double need = 0.0;
  std::string unit;    ///< "sheets", "ml", "m", "pieces"
  double have = 0.0;   ///< in stock
  double buy = 0.0;    ///< what is missing, in whole units of sale
  double price = 0.0;  ///< of what is bought
  bool priced = true;  ///< false: no price is known
  std::string why;     ///< how the need came about
};

struct Shopping {
  std::vector<Purchase> lines;
  double price = 0.0;
  bool all_priced = true;
  double joint_mm2 = 0.0;  ///< both faces of every seam
  double cut_mm = 0.0;     ///< all that is cut
};

/// What a build takes, against what the shop has (by Purchase::id): sheets beyond its offcuts, glue for both faces of
/// every seam, tape, blades.
///
/// Units: prices in the shop's own money. Workshop values: the glue's ml a metre are of a 5 mm sheet's square edge and
/// grow with the
///        face; a blade's length is good for 4 m of 5 mm foam; coats come from the finishing plan.
/// Errors: empty_input without a layout.
Result<Shopping> shopping(const Build& build, const Derived& derived, const Materials& materials,
    const std::map<std::string, double>& stock = {});

/// The list as CSV: what, need, unit, have, buy, price.
std::string shopping_csv(const Shopping& list);

}  // namespace awl
