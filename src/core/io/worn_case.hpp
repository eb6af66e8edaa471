#pragma once
#include <filesystem>

#include "core/fit/worn.hpp"

namespace awl {

/// One question of a case about holding, and its answer.
struct HoldAsked {
  enum class Kind { magnets, magnet_steel, lacing } kind = Kind::magnets;
  Magnet one, other;
  double gap_mm = 0.0;
  Lacing lacing;
};

/// A head and what is worn on it, as a script describes them. See docs/formats/worn-case.md.
struct WornCase {
  std::shared_ptr<const FitHead> head;
  std::vector<FitPart> parts;
  WornQuestion question;
  std::vector<HoldAsked> hold;
  std::optional<double> weight_at_mm, weight_g, target_nm;
  bool weighs = false;  ///< masses were given
};

/// Errors: cannot_read; bad_file, out_of_range and too_large with the place in the case; those of read_mesh.
Result<WornCase> read_worn_case(const std::filesystem::path& path);
Result<WornCase> worn_case_in(const std::string& text, const std::filesystem::path& beside);

/// A part as the fit sees it, from a mesh alone: closed with its own thickness, or a sheet.
FitPart fit_part_of(Mesh mesh, const FitHead& head);

/// A place of the head by its field name: "pupil_l", "tragion_r", "subnasale". Errors: unknown_name.
Result<Landmark> landmark_from(const std::string& name);

}  // namespace awl
