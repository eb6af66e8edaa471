#pragma once
#include <string>
#include <vector>

#include "core/head/tape_sheet.hpp"

namespace awl {

/// One line of a table of wearers.
struct NamedSheet {
  std::string wearer;
  TapeSheet sheet;
  bool operator==(const NamedSheet&) const = default;
};

/// Table of wearers as CSV: columns wearer, day, by, people, then measures by code; docs/formats/wearers-csv.md.
/// Second readings and hair are not in it: each value is the one that counts, on bare skin, in millimetres with '.'.
std::string wearers_csv(const std::vector<NamedSheet>& wearers);

/// Reads such a table. Separator ',' ';' or tab, found in the heading; cells may be quoted; a measure's heading may
/// carry a unit ("HC [cm]"), a cell its own ("22 1/2 in"); with ';' or tab a decimal comma is understood.
///
/// Errors: bad_file, unknown_name, wrong_unit, not_a_number, out_of_range, each naming line and column.
Result<std::vector<NamedSheet>> wearers_from_csv(const std::string& text);

}  // namespace awl
