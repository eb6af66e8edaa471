#include "core/base/numbers.hpp"
#include "core/io/build_json.hpp"
#include "core/io/foam_json.hpp"
#include "core/io/codec/dials.hpp"
#include "core/io/codec/dress_json.hpp"
#include "core/io/codec/fit_json.hpp"
#include "core/io/codec/coat_json.hpp"
#include "core/io/codec/foam_json.hpp"
#include "core/io/codec/seam_json.hpp"

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

/// Specs of one kind, each with all its fields.
template <class S>
Json list_to_json(const std::vector<S>& specs) {
  Json all = Json::array();
  for (const S& spec : specs) all.push_back(spec_to_json(spec));
  return all;
}

/// What a part does not have now and is kept, where it is not as in a new one.
std::vector<Dial> changed_and_hidden(Part& part) {
  Part plain = part;
  plain.shape = std::visit([](const auto& shape) -> Shape { return std::decay_t<decltype(shape)>{}; }, part.shape);
  std::map<std::string, double> usual;
  for (const auto& dials : {dials_of(plain), hidden_dials_of(plain)})
    for (const Dial& d : dials) usual[d.facts.id] = d.value();
  std::vector<Dial> changed;
  for (Dial& d : hidden_dials_of(part))
    if (const auto at = usual.find(d.facts.id); d.value() != (at == usual.end() ? 0.0 : at->second))
      changed.push_back(std::move(d));
  return changed;
}

Json part_to_json(const Part& part) {
  Json j = {{"id", part.id}, {"name", part.name}, {"kind", kind_of(part.shape)}, {"on", part.on},
      {"thickness_mm", part.thickness_mm}};
  if (const auto* rings = std::get_if<RingsSpec>(&part.shape)) j["rings"] = rings->rings.size();
  if (const auto* wrap = std::get_if<WrapSpec>(&part.shape)) {
    j["cards"] = wrap->cards.size();
    j["seams"] = spec_to_json(part.seams);
  }
  if (const auto* plate = std::get_if<PlateSpec>(&part.shape)) {
    j["holes"] = plate->holes.size(), j["on_fold"] = plate->on_fold, j["follows_face"] = plate->follows_face,
    j["upright"] = plate->upright;
    j["layers"] = Json::array();
    for (const PlateLayer& layer : plate->layers)
      j["layers"].push_back(
          {{"outline", curve_to_json(layer.outline)}, {"holes", layer.holes}, {"bevel_deg", layer.bevel_deg}});
  }
  if (const auto* body = std::get_if<BodySpec>(&part.shape)) j["outline"] = curve_to_json(body->outline);
  if (const auto* import = std::get_if<ImportSpec>(&part.shape)) {
    j["file"] = import->file;
    if (import->mesh) j["mesh"] = mesh_entry(part.id);
    if (import->cut) {
      Json seams = Json::array();
      for (const auto& [edge, label] : import->cut->seams) seams.push_back({edge.first, edge.second, label});
      j["cut"] = {{"mesh", cut_mesh_entry(part.id)}, {"for", import->cut->cut_for}, {"names", import->cut->seam_names},
          {"seams", std::move(seams)}};
    }
  }
  Part copy = part;
  j["dials"] = json_of_dials(dials_of(copy));
  j["dials"] = json_of_dials(changed_and_hidden(copy), std::move(j["dials"]));
  j["own_seams"] = part.own_seams;
  j["stuff"] = part.stuff;
  j["way"] = spec_to_json(part.way);
  j["drawn"] = list_to_json(part.drawn);
  if (!part.meets.empty()) j["meets"] = list_to_json(part.meets);
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
      {"foam_head", spec_to_json(b.foam_head)},
      {"head_way", spec_to_json(b.head_way)},
      {"built_mm", b.built},
      {"fit_to_built", b.fit_to_built},
      {"parts", parts},
      {"references", references},
      {"compared", compared},
      {"foam", foam_to_json(b.foam)},
      {"order", list_to_json(b.order)},
      {"sequence", b.sequence},
      {"coat", spec_to_json(b.coat)},
      {"dress", spec_to_json(b.dress)},
      {"fit", spec_to_json(b.fit)},
      {"notes", b.notes},
      {"alterations", list_to_json(b.alterations)},
      {"versions", list_to_json(b.versions)},
      {"stems_from", b.stems_from},
  };
  if (!b.corrections.empty()) j["corrections"] = list_to_json(b.corrections);
  if (!b.scan.scan) return j;
  Json marks = Json::object();
  for (const auto& [mark, at] : b.scan.scan->marks)
    marks[std::to_string(static_cast<int>(mark))] = {at.x(), at.y(), at.z()};
  j["scan"] = {{"used", b.scan.used}, {"marks", marks}};
  return j;
}

}  // namespace awl
