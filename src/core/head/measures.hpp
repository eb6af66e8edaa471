#pragma once
#include <array>
#include <map>
#include <string>
#include <string_view>

#include "core/base/result.hpp"

namespace awl {

/// Every tape measure of the head; the sided ones come once as the mean and once for each side.
enum class MeasureId {
  HC, HL, HB, TOP, BNA, EEF, EEB, CCC, FH, FW, JW, PD,
  EH, EHL, EHR, EP, EPL, EPR, NP, NC, CE, CEL, CER, HH, TW, HBL, HBR,
};
inline constexpr int kMeasureCount = 27;

/// What is known of one measure before anybody is measured.
struct MeasureFacts {
  MeasureId id;
  const char* code;  ///< "HC"
  const char* name;  ///< "Head circumference"
  const char* how;   ///< one line: where the tape runs
  double mean_mm, sd_mm, least_mm, most_mm, tolerance_mm;
};

/// Adult means and ranges. Source: docs/formulas/headform.md, table of tape measures (approximate).
const std::array<MeasureFacts, kMeasureCount>& measure_facts();
const MeasureFacts& facts_of(MeasureId id);
inline int index_of(MeasureId id) { return static_cast<int>(id); }

/// Errors: unknown_name with the word.
Result<MeasureId> measure_from_code(std::string_view code);

/// What the tape said, in millimetres; any subset.
using MeasureSet = std::map<MeasureId, double>;

/// Errors: out_of_range with value, limits and place; where a slipped unit explains the value, it says so.
Result<void> check_measure(MeasureId id, double value_mm);

/// Refuses an empty set and any value out of range.
Result<void> check_measures(const MeasureSet& measures);

}  // namespace awl
