#include <algorithm>

#include "core/base/text.hpp"
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

/// Specs of one kind, each with all its fields.
template <class S>
std::vector<S> list_from_json(const JsonAt& json) {
  std::vector<S> specs;
  for (const JsonAt& one : json.all()) specs.push_back(spec_from_json<S>(one));
  return specs;
}

TapeSheet sheet_from(const JsonAt& j) {
  TapeSheet sheet;
  sheet.people = j.at("people"), sheet.by = j.at("by"), sheet.day = taken(parse_day(j.at("day")));
  for (const auto& [code, e] : j.at("head").items()) {
    TapeEntry& entry = sheet.head[taken(measure_from_code(code))];
    entry.first_mm = e.at("first_mm");
    if (e.has("second_mm")) entry.second_mm = e.at("second_mm").get<double>();
    entry.over_hair_mm = e.value("over_hair_mm", 0.0);
    if (e.has("day")) entry.day = taken(parse_day(e.at("day")));
    entry.by = e.value("by", "");
  }
  for (const auto& [code, mm] : j.at("body_mm").items()) sheet.body[taken(body_measure_from_code(code))] = mm;
  for (const JsonAt& code : j.at("accepted").all())
    sheet.accepted.insert(taken(measure_from_code(code.get<std::string>())));
  return sheet;
}

/// What no head of any age has is damage, whatever the fit would say of it.
void check_values(const TapeSheet& sheet) {
  for (const auto& [id, e] : sheet.head) taken(check_possible(id, e.skin_mm(id)));
}

std::vector<CurvePoint> curve_from(const JsonAt& j) {
  std::vector<CurvePoint> outline;
  for (const JsonAt& p : j.all())
    outline.push_back({Vec2(p.at(0).get<double>(), p.at(1).get<double>()), p.at(2).get<bool>()});
  return outline;
}

/// The spec with as many rings, cards, layers and holes as it needs, before its dials are set.
Shape empty_shape(const JsonAt& j) {
  const std::string kind = j.at("kind");
  const auto counted = [&](const char* what) { return static_cast<std::size_t>(j.at(what).whole(0, 64)); };
  if (kind == "wrap") {
    WrapSpec spec;
    spec.cards.resize(counted("cards"));
    return spec;
  }
  if (kind == "rings") {
    RingsSpec spec;
    spec.rings.resize(counted("rings")), spec.bands.resize(std::max<std::size_t>(spec.rings.size(), 1) - 1);
    return spec;
  }
  if (kind == "plate") {
    PlateSpec spec;
    spec.holes.resize(counted("holes")), spec.on_fold = j.at("on_fold"), spec.follows_face = j.at("follows_face"),
                                         spec.upright = j.at("upright");
    for (const JsonAt& layer : j.at("layers").all())
      spec.layers.push_back({curve_from(layer.at("outline")), layer.at("holes"), layer.at("bevel_deg")});
    return spec;
  }
  if (kind == "sweep") return SweepSpec{};
  if (kind == "tongue") return TongueSpec{};
  if (kind == "limb") return LimbSpec{};
  if (kind == "cover") return CoverSpec{};
  if (kind == "body") {
    BodySpec spec;
    spec.outline = curve_from(j.at("outline"));
    return spec;
  }
  if (kind == "import") {
    ImportSpec spec;
    spec.file = j.at("file");
    return spec;
  }
  j.at("kind").refuse(Errc::unknown_name, "is " + in_quotes(kind) + ", a kind of part that is not known");
}

Part part_from(const JsonAt& j) {
  Part part;
  part.id = j.at("id"), part.name = j.at("name"), part.on = j.at("on"), part.thickness_mm = j.at("thickness_mm");
  part.shape = empty_shape(j);
  if (const auto seams = j.find("seams")) part.seams = spec_from_json<SeamSpec>(*seams);
  for (int round = 0; round < 2; ++round)
    take_dials(j.at("dials"), dials_of(part));  // some choices bring dials of their own
  take_dials(j.at("dials"), hidden_dials_of(part));
  part.own_seams = j.value("own_seams", true);
  part.stuff = j.value("stuff", "");
  if (j.has("way")) part.way = spec_from_json<WaySpec>(j.at("way"));  // before format 6 all parts were skins
  if (const auto drawn = j.find("drawn")) part.drawn = list_from_json<DrawnSeam>(*drawn);
  if (const auto meets = j.find("meets")) part.meets = list_from_json<Meet>(*meets);
  return part;
}

}  // namespace

Build build_from_json(const JsonAt& j) {
  Build b;
  b.name = j.at("name"), b.wearer = j.at("wearer"), b.notes = j.at("notes");
  b.shown = taken(unit_from_symbol(j.at("shown").get<std::string>()));
  b.tape = sheet_from(j.at("tape"));
  for (const JsonAt& code : j.at("extras").all()) b.extras.insert(taken(extra_from_code(code.get<std::string>())));
  b.making = taken(making_from(j.at("making").get<std::string>()));
  b.foam_head = spec_from_json<FoamHeadSpec>(j.at("foam_head"));
  if (const auto way = j.find("head_way")) b.head_way = spec_from_json<WaySpec>(*way);
  for (const auto& [id, mm] : j.at("built_mm").items()) b.built[id] = mm;
  b.fit_to_built = j.at("fit_to_built");
  b.foam = foam_from_json(j.at("foam"));
  if (const auto sequence = j.find("sequence"))
    for (const JsonAt& name : sequence->all()) b.sequence.push_back(name);
  b.order = list_from_json<OrderRule>(j.at("order"));
  b.coat = spec_from_json<CoatSpec>(j.at("coat"));
  if (const auto dress = j.find("dress")) b.dress = spec_from_json<DressSpec>(*dress);
  if (const auto fit = j.find("fit")) b.fit = spec_from_json<FitSpec>(*fit);
  if (!b.tape.head.empty()) check_values(b.tape);
  b.parts.clear();
  for (const JsonAt& part : j.at("parts").all()) b.parts.push_back(part_from(part));
  for (const JsonAt& r : j.at("references").all()) {
    const JsonAt& at = r.at("origin_px");
    b.references.push_back({taken(look_from(r.at("from"))), r.at("file"), nullptr, r.at("mm_per_pixel"),
        Vec2(at.at(0).get<double>(), at.at(1).get<double>())});
  }
  for (const JsonAt& look : j.at("compared").all()) b.compared.insert(taken(look_from(look)));
  b.alterations = list_from_json<Alteration>(j.at("alterations"));
  for (const Alteration& a : b.alterations) taken(check_alteration(a));
  if (const auto corrections = j.find("corrections")) b.corrections = list_from_json<Correction>(*corrections);
  b.versions = list_from_json<Version>(j.at("versions"));
  b.stems_from = j.at("stems_from");
  return b;
}

}  // namespace awl
