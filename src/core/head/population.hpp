#pragma once
#include <filesystem>
#include <set>
#include <string>
#include <vector>

#include "core/head/measures.hpp"

namespace awl {

/// People of one kind before anybody is measured: adults, or children of an age band.
///
/// A child is no small adult: braincase nearly grown, face, jaw, nose and neck not. All numbers are approximate.
struct Population {
  std::string id;      ///< "adult", "child-5"
  std::string name;    ///< "Child of 4 to 6"
  double share = 1.0;  ///< how likely before anything is known; all shares together are 1
  MeasureVector mean_mm = MeasureVector::Zero(), sd_mm = MeasureVector::Ones();
  MeasureVector least_mm = MeasureVector::Zero(), most_mm = MeasureVector::Zero();  ///< sane range
};

/// Adults (from measure_facts) first, then the children of data/headform/populations.json.
/// Errors: cannot_read; bad_file with the population and the measure that is missing.
Result<std::vector<Population>> load_populations(const std::filesystem::path& file);

/// Measures as they were taken, with the people they are held against.
struct WearerMeasures {
  MeasureSet set;
  std::string people = "auto";   ///< id of a population, or "auto": inferred from the measures
  std::set<MeasureId> accepted;  ///< doubted values the maker stands by: no longer remarked on
  bool operator==(const WearerMeasures&) const = default;
};

/// Refuses what no head of any age has, with the likely slip. Errors: out_of_range.
Result<void> check_possible(MeasureId id, double value_mm);

/// Limits a value of these people keeps to; "auto" allows what any of them may have.
/// Errors: out_of_range with value, limits and place; a slipped unit or a swapped field is named when it explains the
///         value; not_a_number; unknown_name for people that are not known.
Result<void> check_measure(
    MeasureId id, double value_mm, const std::vector<Population>& all, const std::string& people);

/// Refuses an empty set and any value out of range.
Result<void> check_measures(const WearerMeasures& measures, const std::vector<Population>& all);

}  // namespace awl
