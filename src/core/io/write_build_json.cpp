#include "core/base/numbers.hpp"
#include "core/io/build_json.hpp"
#include "core/io/foam_json.hpp"
#include "core/io/way_json.hpp"

namespace awl {
namespace {

Json to_json(const TapeSheet& sheet) {
  Json head = Json::object(), body = Json::object(), accepted = Json::array();
  for (const auto& [id, e] : sheet.head) {
    Json& j = head[facts_of(id).code] = {{"first_mm", e.first_mm}};
    if (e.second_mm) j["second_mm"] = *e.second_mm;
    if (e.over_hair_mm != 0.0) j["over_hair_mm"] = e.over_hair_mm;
    if (e.day != Day{}) j["day"] = e.day.iso();
    if (!e.by.empty()) j["by"] = e.by;
  }
  for (const auto& [id, mm] : sheet.body) body[facts_of(id).code] = mm;
  for (const MeasureId id : sheet.accepted) accepted.push_back(facts_of(id).code);
  return {{"people", sheet.people}, {"day", sheet.day.iso()}, {"by", sheet.by}, {"head", head}, {"body_mm", body},
      {"accepted", accepted}};
}

Json curve_to_json(const std::vector<CurvePoint>& outline) {
  Json points = Json::array();
  for (const CurvePoint& p : outline) points.push_back({p.at.x(), p.at.y(), p.corner});
  return points;
}

/// Dials by their ids; a choice by its word, so that a later order of choices changes no file.
Json dials_to_json(Part part) {
  Json dials = Json::object();
  for (const Dial& d : dials_of(part)) {
    if (d.facts.kind == DialKind::choice)
      dials[d.facts.id] = dial_text(d.facts, d.value());
    else
      dials[d.facts.id] = d.value();
  }
  return dials;
}

Json drawn_to_json(const DrawnSeam& seam) {
  Json points = Json::array();
  for (const Vec3& p : seam.points) points.push_back({p.x(), p.y(), p.z()});
  return {{"id", seam.id}, {"name", seam.name}, {"points", points}, {"closed", seam.closed}, {"inked", seam.inked},
      {"mirrored", seam.mirrored}, {"hidden", seam.hidden}, {"locked", seam.locked}, {"role", name_of(seam.role)},
      {"reach_mm", seam.reach_mm}};
}

Json alterations_to_json(const Build& b) {
  Json all = Json::array();
  for (const Alteration& a : b.alterations)
    all.push_back({{"id", a.id}, {"part", a.part}, {"seam", a.seam}, {"panel", a.panel}, {"first_mm", a.first_mm},
        {"middle_mm", a.middle_mm}, {"last_mm", a.last_mm}, {"mirrored", a.mirrored}, {"on_foam", a.on_foam},
        {"note", a.note}});
  return all;
}

Json versions_to_json(const Build& b) {
  Json all = Json::array();
  for (const Version& v : b.versions)
    all.push_back({{"id", v.id}, {"name", v.name}, {"note", v.note}, {"day", v.day.iso()}, {"from", v.from}});
  return all;
}

Json part_to_json(const Part& part) {
  Json j = {{"id", part.id}, {"name", part.name}, {"kind", kind_of(part.shape)}, {"on", part.on},
      {"thickness_mm", part.thickness_mm}};
  if (const auto* rings = std::get_if<RingsSpec>(&part.shape)) j["rings"] = rings->rings.size();
  if (const auto* wrap = std::get_if<WrapSpec>(&part.shape)) {
    const SeamSpec& s = part.seams;
    j["cards"] = wrap->cards.size();
    j["seams"] = {{"preset", name_of(s.preset)}, {"gores_per_side", s.gores_per_side}, {"middle_mm", s.middle_mm},
        {"belt", s.belt}, {"belt_up_mm", s.belt_up_mm}, {"stagger", s.stagger}};
  }
  if (const auto* plate = std::get_if<PlateSpec>(&part.shape)) {
    j["holes"] = plate->holes.size(), j["on_fold"] = plate->on_fold, j["follows_face"] = plate->follows_face,
    j["upright"] = plate->upright;
    j["layers"] = Json::array();
    for (const PlateLayer& layer : plate->layers)
      j["layers"].push_back(
          {{"outline", curve_to_json(layer.outline)}, {"holes", layer.holes}, {"bevel_deg", layer.bevel_deg}});
  }
  if (const auto* import = std::get_if<ImportSpec>(&part.shape)) {
    j["file"] = import->file;
    if (import->mesh) j["mesh"] = mesh_entry(part.id);
  }
  j["dials"] = dials_to_json(part);
  j["own_seams"] = part.own_seams;
  j["stuff"] = part.stuff;
  j["way"] = way_to_json(part.way);
  j["drawn"] = Json::array();
  for (const DrawnSeam& seam : part.drawn) j["drawn"].push_back(drawn_to_json(seam));
  return j;
}

}  // namespace

Json build_to_json(const Build& b) {
  Json extras = Json::array();
  for (const Extra extra : b.extras) extras.push_back(code_of(extra));
  Json parts = Json::array();
  for (const Part& part : b.parts) parts.push_back(part_to_json(part));
  Json references = Json::array(), compared = Json::array();
  for (const Reference& r : b.references)
    references.push_back({{"from", name_of(r.look)}, {"file", r.file}, {"mm_per_pixel", r.mm_per_pixel},
        {"origin_px", {r.origin_px.x(), r.origin_px.y()}}});
  for (const LookFrom look : b.compared) compared.push_back(name_of(look));
  Json j = {
      {"format_version", kBuildFormat},
      {"name", b.name},
      {"wearer", b.wearer},
      {"shown", symbol_of(b.shown)},
      {"tape", to_json(b.tape)},
      {"extras", extras},
      {"making", name_of(b.making)},
      {"foam_head",
          {{"neck_up_mm", b.foam_head.neck_up_mm}, {"pipe_mm", b.foam_head.pipe_mm}, {"mirrored", b.foam_head.mirrored},
              {"plan", b.foam_head.plan}}},
      {"built_mm", b.built},
      {"fit_to_built", b.fit_to_built},
      {"parts", parts},
      {"references", references},
      {"compared", compared},
      {"foam", foam_to_json(b.foam)},
      {"order", order_to_json(b.order)},
      {"sequence", b.sequence},
      {"coat",
          {{"glue", b.coat.glue}, {"seal", b.coat.seal}, {"paint", b.coat.paint}, {"clear", b.coat.clear},
              {"fill_seams", b.coat.fill_seams}, {"heat_seal", b.coat.heat_seal}, {"start", b.coat.start.iso()},
              {"due", b.coat.due.iso()}, {"hours_a_day", b.coat.hours_a_day}, {"opens_h", b.coat.opens_h}}},
      {"notes", b.notes},
      {"alterations", alterations_to_json(b)},
      {"versions", versions_to_json(b)},
      {"stems_from", b.stems_from},
  };
  if (!b.scan.scan) return j;
  Json marks = Json::object();
  for (const auto& [mark, at] : b.scan.scan->marks)
    marks[std::to_string(static_cast<int>(mark))] = {at.x(), at.y(), at.z()};
  j["scan"] = {{"used", b.scan.used}, {"marks", marks}};
  return j;
}

}  // namespace awl
