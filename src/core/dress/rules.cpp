#include "core/dress/rules.hpp"

#include "core/base/data_files.hpp"
#include "core/base/json_reader.hpp"

namespace awl {
namespace {

struct DressRuleValue {
  const char* name;
  double DressRules::*field;
};

constexpr DressRuleValue kDressEntries[] = {
    {"tuck_mm", &DressRules::tuck_mm},
    {"lap_mm", &DressRules::lap_mm},
    {"notice_strain", &DressRules::notice_strain},
    {"spare_share", &DressRules::spare_share},
    {"edge_bores", &DressRules::edge_bores},
    {"leave_mm", &DressRules::leave_mm},
    {"seam_clear_mm", &DressRules::seam_clear_mm},
    {"opens_mm", &DressRules::opens_mm},
    {"blade_deg", &DressRules::blade_deg},
    {"damage_seam_mm", &DressRules::damage_seam_mm},
    {"damage_rim_mm", &DressRules::damage_rim_mm},
    {"tuft_spare", &DressRules::tuft_spare},
    {"tuft_dry_rows", &DressRules::tuft_dry_rows},
    {"lace_spare", &DressRules::lace_spare},
    {"lace_strip_pitches", &DressRules::lace_strip_pitches},
    {"saw_mm", &DressRules::saw_mm},
    {"disc_gap_mm", &DressRules::disc_gap_mm},
    {"mesh_shrink", &DressRules::mesh_shrink},
    {"wire_every_mm", &DressRules::wire_every_mm},
    {"wire_loops", &DressRules::wire_loops},
    {"slot_side_mm", &DressRules::slot_side_mm},
    {"slot_over_mm", &DressRules::slot_over_mm},
    {"battery_share", &DressRules::battery_share},
    {"cable_share", &DressRules::cable_share},
    {"cable_more_mm", &DressRules::cable_more_mm},
    {"rivet_g_mm3", &DressRules::rivet_g_mm3},
    {"hair_g_mm2", &DressRules::hair_g_mm2},
};

}  // namespace

Result<DressRules> load_dress_rules(const std::filesystem::path& folder) {
  const auto text = read_file(folder / "dress.json");
  if (!text) return fail(text);
  const auto json = json_in(*text, "The rules of details");
  if (!json) return fail(json);
  return read_json(*json, "dress.json", [](const JsonAt& from) {
    DressRules rules;
    for (const DressRuleValue& e : kDressEntries) rules.*e.field = from.at(e.name).at(std::size_t{0}).number();
    return rules;
  });
}

}  // namespace awl
