#pragma once
#include <Eigen/Core>
#include <array>
#include <map>
#include <string>
#include <string_view>

#include "core/base/result.hpp"

namespace awl {

/// Every tape measure of the head; the sided ones come once as the mean and once for each side.
enum class MeasureId {
  HC,
  HL,
  HB,
  TOP,
  BNA,
  EEF,
  EEB,
  CCC,
  FH,
  FW,
  JW,
  PD,
  EH,
  EHL,
  EHR,
  EP,
  EPL,
  EPR,
  NP,
  NC,
  CE,
  CEL,
  CER,
  HH,
  TW,
  HBL,
  HBR,
};
inline constexpr int kMeasureCount = 27;

/// One number for each measure, in the order of MeasureId.
using MeasureVector = Eigen::Matrix<double, kMeasureCount, 1>;

/// What a measure is taken with. A helper is needed where one cannot see or reach.
enum class Tool { tape, ruler, tape_and_helper, ruler_and_helper };
const char* name_of(Tool tool);  ///< "tape", "ruler", "tape and a helper", "ruler and a helper"

/// From where a measure is seen best.
enum class Side { front, left, top, back };

/// What is known of one measure before anybody is measured.
struct MeasureFacts {
  MeasureId id;
  const char* code;     ///< "HC"
  const char* name;     ///< "Head circumference"
  const char* how;      ///< one line: where the tape runs
  const char* decides;  ///< what hangs on it
  Tool tool;
  Side seen_from;
  double mean_mm, sd_mm, least_mm, most_mm, tolerance_mm;
  double hair_share;  ///< how many times a layer of hair lengthens it: 2 pi for a full round
};

/// Adult means and ranges. Source: docs/formulas/headform.md, table of tape measures (approximate).
const std::array<MeasureFacts, kMeasureCount>& measure_facts();
const MeasureFacts& facts_of(MeasureId id);
inline int index_of(MeasureId id) { return static_cast<int>(id); }
/// True for a tape laid round something, false for a straight distance.
inline bool is_tape(MeasureId id) {
  return facts_of(id).tool == Tool::tape || facts_of(id).tool == Tool::tape_and_helper;
}
/// True for a measure of one side alone: only these tell that a head is crooked.
bool is_sided(MeasureId id);
/// The name inside a sentence: "head circumference".
std::string spoken_name(MeasureId id);

/// Errors: unknown_name with the word.
Result<MeasureId> measure_from_code(std::string_view code);

/// What the tape said, in millimetres; any subset.
using MeasureSet = std::map<MeasureId, double>;

}  // namespace awl
