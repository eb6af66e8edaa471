#pragma once
#include <filesystem>

#include "core/base/result.hpp"

namespace awl {

/// Workshop values of what is worn. Their reasons stand beside them in data/rules/fit.json; the values here are those
/// of that file.
struct FitRules {
  struct Sight {
    double turn_behind_mm = 13.5;
    double entrance_behind_mm = 3;
    double lids_mm = 18;
    double ahead_temporal_deg = 100;
    double ahead_nasal_deg = 62;
    double ahead_up_deg = 70;
    double ahead_down_deg = 80;
    double looked_side_deg = 45;
    double looked_up_deg = 35;
    double looked_down_deg = 50;
    double least_through = 0.15;
    double adult_eye_height_mm = 1550;
    double child_eye_height_mm = 980;
    double bar_sr = 0.003;
    double nod_at_stairs_deg = 25;
    bool operator==(const Sight&) const = default;
  } sight;
  struct GoingOn {
    double squeezed = 0.5;
    double seam_strain = 0.03;
    double pull_n = 40;
    double modulus_firm_mpa = 1.2;
    double modulus_soft_mpa = 0.6;
    double modulus_block_mpa = 0.1;
    double seats_at = 0.01;
    double press_hair_mm = 3;
    double press_skin_mm = 1;
    double slit_opens_share = 1.2;
    double slit_spare_mm = 10;
    double slit_end_hole_mm = 4;
    bool operator==(const GoingOn&) const = default;
  } going_on;
  struct Room {
    double touch_mm = 1;
    double gape_mm = 6;
    double gape_run_mm = 15;
    double ear_free_mm = 2;
    double ear_folded_mm = 5;
    double relief_margin_mm = 6;
    double room_mm = 2;
    bool operator==(const Room&) const = default;
  } clearance;
  struct Turning {
    double nod_most_deg = 50;
    double up_most_deg = 60;
    double turn_most_deg = 70;
    double tilt_most_deg = 40;
    double touch_mm = 2;
    double skull_share = 0.3;
    double skull_most_deg = 12;
    bool operator==(const Turning&) const = default;
  } turning;
  struct Balance {
    double head_kg = 4.5;
    double child_head_kg = 3.5;
    double head_before_mm = 18;
    double trim_share = 0.25;
    double warn_share = 0.5;
    double note_g = 600;
    double warn_g = 1000;
    double side_nm = 0.05;
    double glue_g_m = 2;
    bool operator==(const Balance&) const = default;
  } balance;
  struct Hold {
    double magnet_share = 0.8;
    double safety = 1.5;
    double shake_g = 2;
    double slide = 0.3;
    double elastic_stretch = 0.15;
    double elastic_face_stretch = 0.3;
    double elastic_n_mm = 0.7;
    double skin_kpa = 4;
    double band_n = 4;
    double friction_hair = 0.3;
    double friction_skin = 0.5;
    double tab_spare_mm = 15;
    bool operator==(const Hold&) const = default;
  } hold;
  struct Air {
    double dead_near_mm = 80;
    double dead_shut = 0.85;
    double dead_say_ml = 500;
    double fog_near_mm = 60;
    double fog_open_mm2 = 1000;
    bool operator==(const Air&) const = default;
  } air;
  bool operator==(const FitRules&) const = default;
};

/// Errors: cannot_read; bad_file naming what is missing.
Result<FitRules> load_fit_rules(const std::filesystem::path& folder);

}  // namespace awl
