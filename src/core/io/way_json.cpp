#include "core/io/way_json.hpp"

namespace awl {

nlohmann::ordered_json way_to_json(const WaySpec& s) {
  return {{"way", name_of(s.way)}, {"along", name_of(s.along)}, {"block", s.block}, {"wall_mm", s.wall_mm}, {"spare_mm", s.spare_mm}, {"net_faces", s.net_faces}, {"net_tab_mm", s.net_tab_mm},
          {"pull", name_of(s.pull)}, {"sheet", s.sheet}, {"sheet_mm", s.sheet_mm}, {"skirt_mm", s.skirt_mm}, {"clamp_mm", s.clamp_mm}};
}

Result<WaySpec> way_from_json(const nlohmann::ordered_json& j) {
  WaySpec s;
  const auto way = way_from(j.at("way"));
  if (!way) return tl::make_unexpected(way.error());
  for (const auto& [key, axis] : {std::pair{"along", &s.along}, {"pull", &s.pull}}) {
    const auto read = axis_from(j.at(key));
    if (!read) return tl::make_unexpected(read.error());
    *axis = *read;
  }
  s.way = *way, s.block = j.at("block"), s.wall_mm = j.at("wall_mm"), s.spare_mm = j.at("spare_mm"), s.net_faces = j.at("net_faces"), s.net_tab_mm = j.at("net_tab_mm");
  s.sheet = j.at("sheet"), s.sheet_mm = j.at("sheet_mm"), s.skirt_mm = j.at("skirt_mm"), s.clamp_mm = j.at("clamp_mm");
  return s;
}

}  // namespace awl
