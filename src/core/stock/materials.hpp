#pragma once
#include <filesystem>
#include <string>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

/// A kind of foam sheet. All numbers are workshop values from data/materials/foams.json.
struct Foam {
  std::string id, name;
  std::vector<double> thickness_mm;
  double density_kg_m3 = 0.0;
  double strain_cold = 0.0, strain_heated = 0.0;  ///< what it bears, as |e|
  bool heat_seal = false, sands = false;
  double squeeze_stiffness = 0.6;  ///< squeezed over stretched
  double keeps_bend_heated = 0.8;  ///< share of a bend it keeps when it was bent warm
};

struct Glue {
  std::string id, name, caution;
  double hands_min_per_m = 0.0, wait_min = 0.0, cure_min = 0.0, ml_per_m = 0.0;
  std::vector<std::string> not_on;  ///< foams it must not meet
};

/// A seal, paint or clear coat.
struct Coating {
  std::string id, name, kind, caution;
  int coats = 0;
  double hands_min_per_m2 = 0.0, wait_min = 0.0, last_wait_min = 0.0, ml_per_m2 = 0.0;
  std::vector<std::string> holds;  ///< kinds of paint that stay on it
};

/// Everything in data/materials.
struct Materials {
  std::vector<Foam> foams;
  std::vector<Glue> glues;
  std::vector<Coating> seals, paints, clears;

  /// Errors of all five: unknown_name with the id and what it was wanted for.
  Result<Foam> foam(const std::string& id) const;
  Result<Glue> glue(const std::string& id) const;
  Result<Coating> seal(const std::string& id) const;
  Result<Coating> paint(const std::string& id) const;
  Result<Coating> clear(const std::string& id) const;
};

/// Errors: cannot_read; bad_file with the file and what is missing in it.
Result<Materials> load_materials(const std::filesystem::path& folder);

}  // namespace awl
