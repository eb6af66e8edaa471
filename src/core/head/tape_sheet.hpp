#pragma once
#include <optional>

#include "core/base/day.hpp"
#include "core/base/remark.hpp"
#include "core/head/population.hpp"

namespace awl {

/// One measure as it was taken.
struct TapeEntry {
  double first_mm = 0.0;
  std::optional<double> second_mm;  ///< taken again; the mean of both counts
  double over_hair_mm = 0.0;        ///< thickness of hair or cap under the tape
  Day day;                          ///< when; Day{0}: not noted
  std::string by;                   ///< who measured

  double mean_mm() const { return second_mm ? 0.5 * (first_mm + *second_mm) : first_mm; }
  double spread_mm() const { return second_mm ? std::abs(first_mm - *second_mm) : 0.0; }
  /// What bare skin would read.
  double skin_mm(MeasureId id) const { return mean_mm() - facts_of(id).hair_share * over_hair_mm; }
  bool operator==(const TapeEntry&) const = default;
};

/// Measures of the wearer beside the head, for what hangs on a strap or is worn elsewhere.
enum class BodyMeasure { shoulders, chin_strap, back_strap, wrist, hand, forearm };
inline constexpr int kBodyMeasureCount = 6;
struct BodyFacts {
  BodyMeasure id;
  const char *code, *name, *how;
  double least_mm, most_mm;
};
const std::array<BodyFacts, kBodyMeasureCount>& body_facts();
const BodyFacts& facts_of(BodyMeasure id);
Result<BodyMeasure> body_measure_from_code(std::string_view code);

/// What a build has beside the form itself, and so what else must be measured.
enum class Extra { chin_strap, back_strap, shoulder_piece, arm_guards };
inline constexpr int kExtraCount = 4;
const char* code_of(Extra extra);  ///< "chin-strap"
const char* name_of(Extra extra);  ///< "a chin strap"
std::vector<BodyMeasure> needed_by(Extra extra);
Result<Extra> extra_from_code(std::string_view code);

/// Everything measured on one wearer, as it stands in their record.
struct TapeSheet {
  std::map<MeasureId, TapeEntry> head;
  std::map<BodyMeasure, double> body;  ///< millimetres
  std::string people = "auto";
  std::set<MeasureId> accepted;  ///< doubted values the maker stands by
  Day day;                       ///< stamped on entries as they are made
  std::string by;

  /// Replaces the first reading and keeps the rest of the entry.
  void set(MeasureId id, double first_mm);
  /// What bare skin would read, for the fit.
  WearerMeasures measures() const;
  bool operator==(const TapeSheet&) const = default;
};

/// A sheet with these values and nothing else noted.
TapeSheet sheet_of(const MeasureSet& measures, const std::string& people = "auto");

/// Errors: those of check_measures on the skin values; out_of_range for hair, body measures and a second reading that
///         is another measure altogether.
Result<void> check_sheet(const TapeSheet& sheet, const std::vector<Population>& all);

/// Two readings that lie too far apart, and what is still to be measured for the extras of a build.
std::vector<Remark> judge_sheet(const TapeSheet& sheet, const std::set<Extra>& extras);

}  // namespace awl
