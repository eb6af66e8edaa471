#include "core/io/way_json.hpp"

namespace awl {

Json way_to_json(const WaySpec& s) {
  return {{"way", name_of(s.way)}, {"along", name_of(s.along)}, {"block", s.block}, {"wall_mm", s.wall_mm},
      {"spare_mm", s.spare_mm}, {"net_faces", s.net_faces}, {"net_tab_mm", s.net_tab_mm}, {"pull", name_of(s.pull)},
      {"sheet", s.sheet}, {"sheet_mm", s.sheet_mm}, {"skirt_mm", s.skirt_mm}, {"clamp_mm", s.clamp_mm}};
}

WaySpec way_from_json(const JsonAt& j) {
  WaySpec s;
  s.way = taken(way_from(j.at("way"))), s.along = taken(axis_from(j.at("along"))),
  s.pull = taken(axis_from(j.at("pull")));
  s.block = j.at("block"), s.wall_mm = j.at("wall_mm"), s.spare_mm = j.at("spare_mm"), s.net_faces = j.at("net_faces"),
  s.net_tab_mm = j.at("net_tab_mm");
  s.sheet = j.at("sheet"), s.sheet_mm = j.at("sheet_mm"), s.skirt_mm = j.at("skirt_mm"), s.clamp_mm = j.at("clamp_mm");
  return s;
}

}  // namespace awl
