#pragma once
#include <filesystem>

#include "core/base/result.hpp"

namespace awl {

/// Workshop values of details. Their reasons stand beside them in data/rules/dress.json; the values here are those of
/// that file.
struct DressRules {
  double tuck_mm = 8;
  double lap_mm = 10;
  double notice_strain = 0.01;
  double spare_share = 0.05;
  double edge_bores = 2;
  double leave_mm = 1.5;
  double seam_clear_mm = 4;
  double opens_mm = 1.5;
  double blade_deg = 60;
  double damage_seam_mm = 4;
  double damage_rim_mm = 8;
  double tuft_spare = 0.15;
  double tuft_dry_rows = 3;
  double lace_spare = 0.1;
  double lace_strip_pitches = 3;
  double saw_mm = 2;
  double disc_gap_mm = 0.4;
  double mesh_shrink = 0.15;
  double wire_every_mm = 60;
  double wire_loops = 1.5;
  double slot_side_mm = 2;
  double slot_over_mm = 1;
  double battery_share = 0.8;
  double cable_share = 1.1;
  double cable_more_mm = 50;
  double rivet_g_mm3 = 0.0028;
  double hair_g_mm2 = 0.0002;
  bool operator==(const DressRules&) const = default;
};

/// Errors: cannot_read, bad_file.
Result<DressRules> load_dress_rules(const std::filesystem::path& folder);

}  // namespace awl
