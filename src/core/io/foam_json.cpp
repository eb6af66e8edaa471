#include "core/io/foam_json.hpp"

namespace awl {
namespace {

Json margins_to_json(const Margins& m) {
  return {{"seam_mm", m.seam_mm}, {"rim_mm", m.rim_mm}, {"hole_mm", m.hole_mm}, {"pen_mm", m.pen_mm},
      {"kerf_mm", m.kerf_mm}};
}

}  // namespace

Json outline_to_json(const std::vector<Vec2>& outline) {
  Json all = Json::array();
  for (const Vec2& p : outline) all.push_back({p.x(), p.y()});
  return all;
}

std::vector<Vec2> outline_from_json(const JsonAt& json) {
  constexpr std::size_t kMostCorners = 2000;
  if (json.size() > kMostCorners)
    json.refuse(Errc::too_large,
        "has " + std::to_string(json.size()) + " corners; " + std::to_string(kMostCorners) + " are the most");
  std::vector<Vec2> outline;
  for (const JsonAt& p : json.all()) outline.push_back(Vec2(p.at(0).number(), p.at(1).number()));
  return outline;
}

Json foam_to_json(const FoamSpec& f) {
  Json cuts = Json::array(), offcuts = Json::array(), held = Json::array();
  for (const SeamCut& c : f.cuts)
    cuts.push_back({{"part", c.part}, {"seam", c.seam}, {"cut", name_of(c.cut)}, {"margin_mm", c.margin_mm}});
  for (const Offcut& o : f.offcuts)
    offcuts.push_back({{"id", o.id}, {"name", o.name}, {"foam", o.foam}, {"thickness_mm", o.thickness_mm},
        {"kept", o.kept.iso()}, {"outline", outline_to_json(o.outline)}});
  for (const HeldCopy& h : f.held)
    held.push_back({{"piece", h.piece}, {"copy", h.copy}, {"blank", h.blank}, {"at", {h.at.x(), h.at.y()}},
        {"angle_rad", h.angle_rad}});
  Json j = {{"foam", f.foam}, {"thickness_mm", f.thickness_mm}, {"heated", f.heated},
      {"sheet_width_mm", f.sheet.width_mm}, {"sheet_height_mm", f.sheet.height_mm}, {"gap_mm", f.gap_mm},
      {"nest_tries", f.nest_tries}, {"turn_freely", f.turn_freely}, {"cuts", cuts},
      {"margins", margins_to_json(f.margins)}, {"offcuts", offcuts}, {"held", held}};
  if (f.own_kind) j["own_kind"] = Json::parse(foam_text(*f.own_kind));
  return j;
}

Json order_to_json(const std::vector<OrderRule>& rules) {
  Json all = Json::array();
  for (const OrderRule& r : rules) all.push_back({{"first", r.first}, {"then", r.then}, {"why", r.why}});
  return all;
}

FoamSpec foam_from_json(const JsonAt& j) {
  FoamSpec f;
  f.foam = j.at("foam"), f.thickness_mm = j.at("thickness_mm"), f.heated = j.at("heated"),
  f.sheet = {j.at("sheet_width_mm"), j.at("sheet_height_mm")}, f.gap_mm = j.at("gap_mm");
  f.nest_tries = j.at("nest_tries"), f.turn_freely = j.at("turn_freely");
  for (const JsonAt& c : j.at("cuts").all())
    f.cuts.push_back({c.at("part"), c.at("seam"), taken(edge_cut_from(c.at("cut"))), c.at("margin_mm")});
  const JsonAt m = j.at("margins");
  f.margins = {m.at("seam_mm"), m.at("rim_mm"), m.at("hole_mm"), m.at("pen_mm"), m.at("kerf_mm")};
  for (const JsonAt& o : j.at("offcuts").all())
    f.offcuts.push_back(taken(make_offcut({o.at("id"), o.at("name"), o.at("foam"), o.at("thickness_mm"),
        outline_from_json(o.at("outline")), taken(parse_day(o.at("kept")))})));
  for (const JsonAt& h : j.at("held").all()) {
    const JsonAt at = h.at("at");
    f.held.push_back(
        {h.at("piece"), h.at("copy"), h.at("blank"), Vec2(at.at(0).number(), at.at(1).number()), h.at("angle_rad")});
  }
  if (const auto own = j.find("own_kind")) f.own_kind = foam_from_json_at(*own);
  return f;
}

void migrate_foam_from_4(Json& foam) {
  foam["nest_tries"] = 1, foam["turn_freely"] = true;
  foam["cuts"] = foam["offcuts"] = foam["held"] = Json::array();
  foam["margins"] = margins_to_json({});
}

}  // namespace awl
