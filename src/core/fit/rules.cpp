#include "core/fit/rules.hpp"

#include "core/base/data_files.hpp"
#include "core/base/json_reader.hpp"

namespace awl {
namespace {

struct RuleValue {
  const char *group, *name;
  double& (*field)(FitRules&);
};

constexpr RuleValue kEntries[] = {
    {"sight", "turn_behind_mm", [](FitRules& r) -> double& { return r.sight.turn_behind_mm; }},
    {"sight", "entrance_behind_mm", [](FitRules& r) -> double& { return r.sight.entrance_behind_mm; }},
    {"sight", "lids_mm", [](FitRules& r) -> double& { return r.sight.lids_mm; }},
    {"sight", "ahead_temporal_deg", [](FitRules& r) -> double& { return r.sight.ahead_temporal_deg; }},
    {"sight", "ahead_nasal_deg", [](FitRules& r) -> double& { return r.sight.ahead_nasal_deg; }},
    {"sight", "ahead_up_deg", [](FitRules& r) -> double& { return r.sight.ahead_up_deg; }},
    {"sight", "ahead_down_deg", [](FitRules& r) -> double& { return r.sight.ahead_down_deg; }},
    {"sight", "looked_side_deg", [](FitRules& r) -> double& { return r.sight.looked_side_deg; }},
    {"sight", "looked_up_deg", [](FitRules& r) -> double& { return r.sight.looked_up_deg; }},
    {"sight", "looked_down_deg", [](FitRules& r) -> double& { return r.sight.looked_down_deg; }},
    {"sight", "least_through", [](FitRules& r) -> double& { return r.sight.least_through; }},
    {"sight", "adult_eye_height_mm", [](FitRules& r) -> double& { return r.sight.adult_eye_height_mm; }},
    {"sight", "child_eye_height_mm", [](FitRules& r) -> double& { return r.sight.child_eye_height_mm; }},
    {"sight", "bar_sr", [](FitRules& r) -> double& { return r.sight.bar_sr; }},
    {"sight", "nod_at_stairs_deg", [](FitRules& r) -> double& { return r.sight.nod_at_stairs_deg; }},
    {"going_on", "squeezed", [](FitRules& r) -> double& { return r.going_on.squeezed; }},
    {"going_on", "seam_strain", [](FitRules& r) -> double& { return r.going_on.seam_strain; }},
    {"going_on", "pull_n", [](FitRules& r) -> double& { return r.going_on.pull_n; }},
    {"going_on", "modulus_firm_mpa", [](FitRules& r) -> double& { return r.going_on.modulus_firm_mpa; }},
    {"going_on", "modulus_soft_mpa", [](FitRules& r) -> double& { return r.going_on.modulus_soft_mpa; }},
    {"going_on", "modulus_block_mpa", [](FitRules& r) -> double& { return r.going_on.modulus_block_mpa; }},
    {"going_on", "seats_at", [](FitRules& r) -> double& { return r.going_on.seats_at; }},
    {"going_on", "press_hair_mm", [](FitRules& r) -> double& { return r.going_on.press_hair_mm; }},
    {"going_on", "press_skin_mm", [](FitRules& r) -> double& { return r.going_on.press_skin_mm; }},
    {"going_on", "slit_opens_share", [](FitRules& r) -> double& { return r.going_on.slit_opens_share; }},
    {"going_on", "slit_spare_mm", [](FitRules& r) -> double& { return r.going_on.slit_spare_mm; }},
    {"going_on", "slit_end_hole_mm", [](FitRules& r) -> double& { return r.going_on.slit_end_hole_mm; }},
    {"clearance", "touch_mm", [](FitRules& r) -> double& { return r.clearance.touch_mm; }},
    {"clearance", "gape_mm", [](FitRules& r) -> double& { return r.clearance.gape_mm; }},
    {"clearance", "gape_run_mm", [](FitRules& r) -> double& { return r.clearance.gape_run_mm; }},
    {"clearance", "ear_free_mm", [](FitRules& r) -> double& { return r.clearance.ear_free_mm; }},
    {"clearance", "ear_folded_mm", [](FitRules& r) -> double& { return r.clearance.ear_folded_mm; }},
    {"clearance", "relief_margin_mm", [](FitRules& r) -> double& { return r.clearance.relief_margin_mm; }},
    {"clearance", "room_mm", [](FitRules& r) -> double& { return r.clearance.room_mm; }},
    {"turning", "nod_most_deg", [](FitRules& r) -> double& { return r.turning.nod_most_deg; }},
    {"turning", "up_most_deg", [](FitRules& r) -> double& { return r.turning.up_most_deg; }},
    {"turning", "turn_most_deg", [](FitRules& r) -> double& { return r.turning.turn_most_deg; }},
    {"turning", "tilt_most_deg", [](FitRules& r) -> double& { return r.turning.tilt_most_deg; }},
    {"turning", "touch_mm", [](FitRules& r) -> double& { return r.turning.touch_mm; }},
    {"turning", "skull_share", [](FitRules& r) -> double& { return r.turning.skull_share; }},
    {"turning", "skull_most_deg", [](FitRules& r) -> double& { return r.turning.skull_most_deg; }},
    {"balance", "head_kg", [](FitRules& r) -> double& { return r.balance.head_kg; }},
    {"balance", "child_head_kg", [](FitRules& r) -> double& { return r.balance.child_head_kg; }},
    {"balance", "head_before_mm", [](FitRules& r) -> double& { return r.balance.head_before_mm; }},
    {"balance", "trim_share", [](FitRules& r) -> double& { return r.balance.trim_share; }},
    {"balance", "warn_share", [](FitRules& r) -> double& { return r.balance.warn_share; }},
    {"balance", "note_g", [](FitRules& r) -> double& { return r.balance.note_g; }},
    {"balance", "warn_g", [](FitRules& r) -> double& { return r.balance.warn_g; }},
    {"balance", "side_nm", [](FitRules& r) -> double& { return r.balance.side_nm; }},
    {"balance", "glue_g_m", [](FitRules& r) -> double& { return r.balance.glue_g_m; }},
    {"hold", "magnet_share", [](FitRules& r) -> double& { return r.hold.magnet_share; }},
    {"hold", "safety", [](FitRules& r) -> double& { return r.hold.safety; }},
    {"hold", "shake_g", [](FitRules& r) -> double& { return r.hold.shake_g; }},
    {"hold", "slide", [](FitRules& r) -> double& { return r.hold.slide; }},
    {"hold", "elastic_stretch", [](FitRules& r) -> double& { return r.hold.elastic_stretch; }},
    {"hold", "elastic_face_stretch", [](FitRules& r) -> double& { return r.hold.elastic_face_stretch; }},
    {"hold", "elastic_n_mm", [](FitRules& r) -> double& { return r.hold.elastic_n_mm; }},
    {"hold", "skin_kpa", [](FitRules& r) -> double& { return r.hold.skin_kpa; }},
    {"hold", "band_n", [](FitRules& r) -> double& { return r.hold.band_n; }},
    {"hold", "friction_hair", [](FitRules& r) -> double& { return r.hold.friction_hair; }},
    {"hold", "friction_skin", [](FitRules& r) -> double& { return r.hold.friction_skin; }},
    {"hold", "tab_spare_mm", [](FitRules& r) -> double& { return r.hold.tab_spare_mm; }},
    {"air", "dead_near_mm", [](FitRules& r) -> double& { return r.air.dead_near_mm; }},
    {"air", "dead_shut", [](FitRules& r) -> double& { return r.air.dead_shut; }},
    {"air", "dead_say_ml", [](FitRules& r) -> double& { return r.air.dead_say_ml; }},
    {"air", "fog_near_mm", [](FitRules& r) -> double& { return r.air.fog_near_mm; }},
    {"air", "fog_open_mm2", [](FitRules& r) -> double& { return r.air.fog_open_mm2; }},
};

}  // namespace

Result<FitRules> load_fit_rules(const std::filesystem::path& folder) {
  const auto text = read_file(folder / "fit.json");
  if (!text) return fail(text);
  const auto json = json_in(*text, "The rules of fit");
  if (!json) return fail(json);
  return read_json(*json, "fit.json", [](const JsonAt& from) {
    FitRules rules;
    for (const RuleValue& e : kEntries) e.field(rules) = from.at(e.group).at(e.name).at(std::size_t{0}).number();
    return rules;
  });
}

}  // namespace awl
