#include "core/io/build_file.hpp"

#include <zip.h>

#include <algorithm>
#include <memory>
#include <nlohmann/json.hpp>
#include <sstream>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/foam_json.hpp"
#include "core/io/way_json.hpp"

namespace awl {
namespace {

using Json = nlohmann::ordered_json;
constexpr const char* kScanEntry = "scan.ply";

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
  return {{"people", sheet.people}, {"day", sheet.day.iso()}, {"by", sheet.by}, {"head", head}, {"body_mm", body}, {"accepted", accepted}};
}

Json outline_to_json(const std::vector<CurvePoint>& outline) {
  Json points = Json::array();
  for (const CurvePoint& p : outline) points.push_back({p.at.x(), p.at.y(), p.corner});
  return points;
}

/// Dials by their ids; a choice by its word, so that a later order of choices changes no file.
Json dials_to_json(Part part) {
  Json dials = Json::object();
  for (const Dial& d : dials_of(part)) {
    if (d.facts.kind == DialKind::choice) dials[d.facts.id] = dial_text(d.facts, d.value());
    else dials[d.facts.id] = d.value();
  }
  return dials;
}

std::string picture_entry(LookFrom look) { return std::string("picture-") + name_of(look); }
std::string mesh_entry(int part) { return "part-" + std::to_string(part) + ".ply"; }

Json drawn_to_json(const DrawnSeam& seam) {
  Json points = Json::array();
  for (const Vec3& p : seam.points) points.push_back({p.x(), p.y(), p.z()});
  return {{"id", seam.id}, {"name", seam.name}, {"points", points}, {"closed", seam.closed}, {"inked", seam.inked}, {"mirrored", seam.mirrored}, {"hidden", seam.hidden}, {"locked", seam.locked},
          {"role", name_of(seam.role)}, {"reach_mm", seam.reach_mm}};
}

Json alterations_to_json(const Build& b) {
  Json all = Json::array();
  for (const Alteration& a : b.alterations)
    all.push_back({{"id", a.id}, {"part", a.part}, {"seam", a.seam}, {"panel", a.panel}, {"first_mm", a.first_mm}, {"middle_mm", a.middle_mm}, {"last_mm", a.last_mm}, {"mirrored", a.mirrored}, {"on_foam", a.on_foam}, {"note", a.note}});
  return all;
}

std::string version_entry(int id) { return "version-" + std::to_string(id) + ".noggin"; }

Json versions_to_json(const Build& b) {
  Json all = Json::array();
  for (const Version& v : b.versions) all.push_back({{"id", v.id}, {"name", v.name}, {"note", v.note}, {"day", v.day.iso()}, {"from", v.from}});
  return all;
}

Json part_to_json(const Part& part) {
  Json j = {{"id", part.id}, {"name", part.name}, {"kind", kind_of(part.shape)}, {"on", part.on}, {"thickness_mm", part.thickness_mm}};
  if (const auto* rings = std::get_if<RingsSpec>(&part.shape)) j["rings"] = rings->rings.size();
  if (const auto* wrap = std::get_if<WrapSpec>(&part.shape)) {
    const SeamSpec& s = part.seams;
    j["cards"] = wrap->cards.size();
    j["seams"] = {{"preset", name_of(s.preset)}, {"gores_per_side", s.gores_per_side}, {"middle_mm", s.middle_mm}, {"belt", s.belt}, {"belt_up_mm", s.belt_up_mm}, {"stagger", s.stagger}};
  }
  if (const auto* plate = std::get_if<PlateSpec>(&part.shape)) {
    j["holes"] = plate->holes.size(), j["on_fold"] = plate->on_fold, j["follows_face"] = plate->follows_face, j["upright"] = plate->upright;
    j["layers"] = Json::array();
    for (const PlateLayer& layer : plate->layers) j["layers"].push_back({{"outline", outline_to_json(layer.outline)}, {"holes", layer.holes}, {"bevel_deg", layer.bevel_deg}});
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

Json to_json(const Build& b) {
  Json extras = Json::array();
  for (const Extra extra : b.extras) extras.push_back(code_of(extra));
  Json parts = Json::array();
  for (const Part& part : b.parts) parts.push_back(part_to_json(part));
  Json references = Json::array(), compared = Json::array();
  for (const Reference& r : b.references) references.push_back({{"from", name_of(r.look)}, {"file", r.file}, {"mm_per_pixel", r.mm_per_pixel}, {"origin_px", {r.origin_px.x(), r.origin_px.y()}}});
  for (const LookFrom look : b.compared) compared.push_back(name_of(look));
  Json j = {
      {"format_version", kBuildFormat},
      {"name", b.name},
      {"wearer", b.wearer},
      {"shown", symbol_of(b.shown)},
      {"tape", to_json(b.tape)},
      {"extras", extras},
      {"making", name_of(b.making)},
      {"foam_head", {{"neck_up_mm", b.foam_head.neck_up_mm}, {"pipe_mm", b.foam_head.pipe_mm}, {"mirrored", b.foam_head.mirrored}, {"plan", b.foam_head.plan}}},
      {"built_mm", b.built},
      {"fit_to_built", b.fit_to_built},
      {"parts", parts},
      {"references", references},
      {"compared", compared},
      {"foam", foam_to_json(b.foam)},
      {"order", order_to_json(b.order)},
      {"sequence", b.sequence},
      {"coat", {{"glue", b.coat.glue}, {"seal", b.coat.seal}, {"paint", b.coat.paint}, {"clear", b.coat.clear}, {"fill_seams", b.coat.fill_seams}, {"heat_seal", b.coat.heat_seal},
                {"start", b.coat.start.iso()}, {"due", b.coat.due.iso()}, {"hours_a_day", b.coat.hours_a_day}, {"opens_h", b.coat.opens_h}}},
      {"notes", b.notes},
      {"alterations", alterations_to_json(b)},
      {"versions", versions_to_json(b)},
      {"stems_from", b.stems_from},
  };
  if (!b.scan.scan) return j;
  Json marks = Json::object();
  for (const auto& [mark, at] : b.scan.scan->marks) marks[std::to_string(static_cast<int>(mark))] = {at.x(), at.y(), at.z()};
  j["scan"] = {{"used", b.scan.used}, {"marks", marks}};
  return j;
}

/// Thrown inside this file only, to leave the reading at the first wrong value.
struct Refused { Error error; };

template <class T>
T taken(Result<T> result) {
  if (!result) throw Refused{result.error()};
  return std::move(*result);
}

DrawnSeam seam_from_json(const Json& j) {
  DrawnSeam seam;
  seam.id = j.at("id"), seam.name = j.at("name"), seam.closed = j.at("closed"), seam.inked = j.at("inked");
  seam.mirrored = j.at("mirrored"), seam.hidden = j.at("hidden"), seam.locked = j.at("locked");
  const Json& points = j.at("points");
  for (const Json& p : points) seam.points.push_back({p.at(0).get<double>(), p.at(1).get<double>(), p.at(2).get<double>()});
  seam.role = taken(line_role_from(j.at("role"))), seam.reach_mm = j.at("reach_mm");
  return seam;
}

Alteration alteration_from(const Json& j) {
  Alteration a{j.at("id"), j.at("part"), j.at("seam"), j.at("panel"), j.at("first_mm"), j.at("middle_mm"), j.at("last_mm"), j.at("mirrored"), j.at("on_foam"), j.at("note")};
  if (auto good = check_alteration(a); !good) throw Refused{good.error()};
  return a;
}

TapeSheet sheet_from(const Json& j) {
  TapeSheet sheet;
  sheet.people = j.at("people"), sheet.by = j.at("by"), sheet.day = taken(parse_day(j.at("day")));
  for (const auto& [code, e] : j.at("head").items()) {
    TapeEntry& entry = sheet.head[taken(measure_from_code(code))];
    entry.first_mm = e.at("first_mm");
    if (e.contains("second_mm")) entry.second_mm = e["second_mm"].get<double>();
    entry.over_hair_mm = e.value("over_hair_mm", 0.0);
    if (e.contains("day")) entry.day = taken(parse_day(e["day"]));
    entry.by = e.value("by", "");
  }
  for (const auto& [code, mm] : j.at("body_mm").items()) sheet.body[taken(body_measure_from_code(code))] = mm;
  for (const Json& code : j.at("accepted")) sheet.accepted.insert(taken(measure_from_code(code.get<std::string>())));
  return sheet;
}

/// What no head of any age has is damage, whatever the fit would say of it.
void check_values(const TapeSheet& sheet) {
  for (const auto& [id, e] : sheet.head)
    if (auto good = check_possible(id, e.skin_mm(id)); !good) throw Refused{good.error()};
}

/// Format 3 knew lines that cut and nothing else, no alterations and no versions.
void migrate_from_3(Json& j) {
  for (Json& part : j.at("parts"))
    if (const auto drawn = part.find("drawn"); drawn != part.end())
      for (Json& seam : *drawn) seam["role"] = name_of(LineRole::cut), seam["reach_mm"] = DrawnSeam{}.reach_mm;
  j["alterations"] = Json::array(), j["versions"] = Json::array(), j["stems_from"] = 0;
}

/// Format 2 knew one hood.
void migrate_from_2(Json& j) {
  const Json hood = j.at("hood");
  Json seams = j.at("seams");
  seams["stagger"] = false;
  const std::map<std::string, std::string> words{{"skull-cap", "skull cap"}, {"open-face", "open-face hood"}, {"full-cowl", "full cowl"}};
  const std::string edge = hood.at("edge");
  if (words.count(edge) == 0) throw Refused{Error{Errc::unknown_name, "The hood's edge \"" + edge + "\" is not known.", "hood/edge"}};
  j["parts"] = Json::array({{{"id", 1}, {"name", "hood"}, {"kind", "wrap"}, {"on", 0}, {"thickness_mm", 0.0}, {"cards", 0}, {"seams", seams},
                             {"dials", {{"edge", words.at(edge)}, {"hair", hood.at("hair_mm")}, {"padding", hood.at("padding_mm")}, {"up", hood.at("edge_up_mm")}, {"face", hood.at("face_wider_mm")}}}}});
  j["references"] = Json::array(), j["compared"] = Json::array();
  if (j.at("making") == "hood") j["making"] = name_of(Making::parts);
}

std::vector<CurvePoint> outline_from(const Json& j) {
  std::vector<CurvePoint> outline;
  for (const Json& p : j) outline.push_back({Vec2(p.at(0).get<double>(), p.at(1).get<double>()), p.at(2).get<bool>()});
  return outline;
}

/// The spec with as many rings, cards, layers and holes as it needs, before its dials are set.
Shape empty_shape(const Json& j) {
  const std::string kind = j.at("kind");
  const auto counted = [&](const char* what) { return std::min<std::size_t>(j.at(what).get<std::size_t>(), 64); };
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
    spec.holes.resize(counted("holes")), spec.on_fold = j.at("on_fold"), spec.follows_face = j.at("follows_face"), spec.upright = j.at("upright");
    for (const Json& layer : j.at("layers")) spec.layers.push_back({outline_from(layer.at("outline")), layer.at("holes"), layer.at("bevel_deg")});
    return spec;
  }
  if (kind == "sweep") return SweepSpec{};
  if (kind == "tongue") return TongueSpec{};
  if (kind == "limb") return LimbSpec{};
  if (kind == "cover") return CoverSpec{};
  if (kind == "import") {
    ImportSpec spec;
    spec.file = j.at("file");
    return spec;
  }
  throw Refused{Error{Errc::unknown_name, "A part of the kind \"" + kind + "\" is not known.", "parts"}};
}

/// Turns every dial the file knows. Throws Refused for a word a choice does not have.
void set_dials(Part& part, const Json& dials) {
  for (const Dial& d : dials_of(part)) {
    if (!dials.contains(d.facts.id)) continue;  // made later than the file: its usual value
    const Json& value = dials[d.facts.id];
    if (d.facts.kind != DialKind::choice) {
      d.turn(value.get<double>());
      continue;
    }
    const auto& words = d.facts.options;
    const auto at = std::find(words.begin(), words.end(), value.get<std::string>());
    if (at == words.end()) throw Refused{Error{Errc::unknown_name, d.facts.label + " cannot be \"" + value.get<std::string>() + "\".", "parts/" + std::to_string(part.id) + "/" + d.facts.id}};
    d.turn(static_cast<double>(at - words.begin()));
  }
}

Part part_from(const Json& j) {
  Part part;
  part.id = j.at("id"), part.name = j.at("name"), part.on = j.at("on"), part.thickness_mm = j.at("thickness_mm");
  part.shape = empty_shape(j);
  if (j.contains("seams")) {
    const Json& s = j["seams"];
    part.seams = {taken(seam_preset_from(s.at("preset"))), s.at("gores_per_side"), s.at("middle_mm"), s.at("belt"), s.at("belt_up_mm"), s.at("stagger")};
  }
  for (int round = 0; round < 2; ++round) set_dials(part, j.at("dials"));  // some choices bring dials of their own
  part.own_seams = j.value("own_seams", true);
  part.stuff = j.value("stuff", "");
  if (j.contains("way")) part.way = taken(way_from_json(j["way"]));  // before format 6 all parts were skins
  if (const auto drawn = j.find("drawn"); drawn != j.end())
    for (const Json& seam : *drawn) part.drawn.push_back(seam_from_json(seam));
  if (auto good = check_part(part); !good) throw Refused{good.error()};
  return part;
}

/// Format 1 knew one value a measure, of adults.
void migrate_from_1(Json& j) {
  Json head = Json::object();
  for (const auto& [code, mm] : j.at("measures_mm").items()) head[code] = {{"first_mm", mm}};
  j["tape"] = {{"people", "adult"}, {"day", Day{}.iso()}, {"by", ""}, {"head", head}, {"body_mm", Json::object()}, {"accepted", Json::array()}};
  j["extras"] = Json::array();
  j["making"] = "hood", j["built_mm"] = Json::object(), j["fit_to_built"] = false;
  j["foam_head"] = {{"neck_up_mm", 0.0}, {"pipe_mm", 0.0}, {"mirrored", true}, {"plan", -1}};
}

void migrate_from_4(Json& j) {
  migrate_foam_from_4(j.at("foam"));
  j["order"] = Json::array();
}

Build from_json(const Json& j) {
  Build b;
  b.name = j.at("name"), b.wearer = j.at("wearer"), b.notes = j.at("notes");
  b.shown = taken(unit_from_symbol(j.at("shown").get<std::string>()));
  b.tape = sheet_from(j.at("tape"));
  for (const Json& code : j.at("extras")) b.extras.insert(taken(extra_from_code(code.get<std::string>())));
  b.making = taken(making_from(j.at("making").get<std::string>()));
  const Json& bust = j.at("foam_head");
  b.foam_head = {bust.at("neck_up_mm"), bust.at("pipe_mm"), bust.at("mirrored"), bust.at("plan")};
  for (const auto& [id, mm] : j.at("built_mm").items()) b.built[id] = mm;
  b.fit_to_built = j.at("fit_to_built");
  if (auto good = check_foam_head(b.foam_head); !good) throw Refused{good.error()};
  const Json& coat = j.at("coat");
  b.foam = taken(foam_from_json(j.at("foam")));
  if (j.contains("sequence")) b.sequence = j["sequence"].get<std::vector<std::string>>();
  for (const Json& rule : j.at("order")) b.order.push_back({rule.at("first"), rule.at("then"), rule.at("why")});
  b.coat = {coat.at("glue"), coat.at("seal"), coat.at("paint"), coat.at("clear"), coat.at("fill_seams"), coat.at("heat_seal"),
            taken(parse_day(coat.at("start"))), taken(parse_day(coat.at("due"))), coat.at("hours_a_day"), coat.at("opens_h")};
  if (!b.tape.head.empty()) check_values(b.tape);
  b.parts.clear();
  for (const Json& part : j.at("parts")) b.parts.push_back(part_from(part));
  for (const Json& r : j.at("references")) {
    const Json& at = r.at("origin_px");
    b.references.push_back({taken(look_from(r.at("from"))), r.at("file"), nullptr, r.at("mm_per_pixel"), Vec2(at.at(0).get<double>(), at.at(1).get<double>())});
  }
  for (const Json& look : j.at("compared")) b.compared.insert(taken(look_from(look)));
  for (const Json& a : j.at("alterations")) b.alterations.push_back(alteration_from(a));
  for (const Json& v : j.at("versions")) b.versions.push_back({v.at("id"), v.at("name"), v.at("note"), taken(parse_day(v.at("day"))), v.at("from"), nullptr});
  b.stems_from = j.at("stems_from");
  return b;
}

struct ZipCloser {
  void operator()(zip_t* zip) const { zip_discard(zip); }
};

Result<std::string> entry_of(const std::string& bytes, const char* name) {
  zip_error_t error;
  zip_error_init(&error);
  zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
  const std::unique_ptr<zip_t, ZipCloser> zip(source != nullptr ? zip_open_from_source(source, ZIP_RDONLY | ZIP_CHECKCONS, &error) : nullptr);
  if (!zip) {
    if (source != nullptr) zip_source_free(source);
    zip_error_fini(&error);
    return fail(Errc::bad_file, "This is no .noggin file, or it is damaged or cut short.");
  }
  zip_stat_t stat;
  if (zip_stat(zip.get(), name, 0, &stat) != 0) return fail(Errc::bad_file, "This archive holds no " + std::string(name) + "; it is no .noggin file.");
  constexpr zip_uint64_t kMost = 64u << 20;
  if (stat.size > kMost) return fail(Errc::bad_file, "The " + std::string(name) + " in this file is larger than 64 MB; it is damaged.");
  std::string text(stat.size, '\0');
  zip_file_t* file = zip_fopen(zip.get(), name, 0);
  const bool read = file != nullptr && zip_fread(file, text.data(), stat.size) == static_cast<zip_int64_t>(stat.size);
  if (file != nullptr && zip_fclose(file) != 0) return fail(Errc::bad_file, "The .noggin file is damaged: its checksum does not agree.");
  if (!read) return fail(Errc::bad_file, "The .noggin file is damaged or cut short.");
  return text;
}

/// Names and bytes of the entries, in order.
using Entries = std::vector<std::pair<std::string, std::string>>;

Result<std::string> zipped(const Entries& entries) {
  zip_error_t error;
  zip_error_init(&error);
  zip_source_t* target = zip_source_buffer_create(nullptr, 0, 0, &error);
  zip_source_keep(target);
  zip_t* zip = zip_open_from_source(target, ZIP_TRUNCATE, &error);
  bool good = zip != nullptr;
  for (const auto& [name, content] : entries) {
    zip_source_t* entry = good ? zip_source_buffer(zip, content.data(), content.size(), 0) : nullptr;
    const zip_int64_t index = entry != nullptr ? zip_file_add(zip, name.c_str(), entry, ZIP_FL_ENC_UTF_8) : -1;
    // A fixed time, so that the same build gives the same bytes.
    if (index >= 0) zip_file_set_mtime(zip, static_cast<zip_uint64_t>(index), 315532800, 0);
    good = good && index >= 0;
  }
  std::string bytes;
  if (!good || zip_close(zip) != 0) return fail(Errc::cannot_write, "The build could not be packed.");
  if (zip_source_open(target) == 0) {
    zip_source_seek(target, 0, SEEK_END);
    bytes.resize(static_cast<std::size_t>(zip_source_tell(target)));
    zip_source_seek(target, 0, SEEK_SET);
    zip_source_read(target, bytes.data(), bytes.size());
    zip_source_close(target);
  }
  zip_source_free(target);
  return bytes;
}

Result<MeasureSet> measures_from_json(const std::string& text) {
  const Json j = Json::parse(text, nullptr, false);
  if (j.is_discarded() || !j.is_object() || !j.contains("measures") || !j["measures"].is_object())
    return fail(Errc::bad_file, "The measures file is not readable JSON with \"measures\".");
  const auto unit = unit_from_symbol(j.value("units", "mm"));
  if (!unit) return tl::make_unexpected(unit.error());
  MeasureSet set;
  for (const auto& [code, value] : j["measures"].items()) {
    const auto id = measure_from_code(code);
    if (!id) return tl::make_unexpected(id.error());
    if (!value.is_number()) return fail(Errc::not_a_number, "The measure " + code + " is not a number.", code);
    set[*id] = value.get<double>() * mm_per(*unit);
  }
  return set;
}

Result<MeasureSet> measures_from_csv(const std::string& text) {
  MeasureSet set;
  std::istringstream in(text);
  int number = 0;
  for (std::string line; std::getline(in, line);) {
    ++number;
    if (!line.empty() && line.back() == '\r') line.pop_back();
    if (line.empty() || line[0] == '#') continue;
    const auto comma = line.find_first_of(",;");
    const std::string at = "line " + std::to_string(number);
    if (comma == std::string::npos) return fail(Errc::bad_file, "Line " + std::to_string(number) + " of the measures has no comma: \"" + line + "\".", at);
    const auto id = measure_from_code(line.substr(0, comma));
    if (!id) return fail(id.error().code, "Line " + std::to_string(number) + ": " + id.error().text, at);
    const auto mm = parse_length(line.substr(comma + 1), LengthUnit::mm);
    if (!mm) return fail(mm.error().code, "Line " + std::to_string(number) + ": " + mm.error().text, at);
    set[*id] = *mm;
  }
  return set;
}

}  // namespace

Result<std::string> build_bytes(const Build& build) {
  Entries entries{{"build.json", to_json(build).dump(2)}};
  if (build.scan.scan) {
    const auto ply = mesh_bytes(build.scan.scan->mesh, "ply");
    if (!ply) return ply;
    entries.push_back({kScanEntry, *ply});
  }
  for (const Part& part : build.parts) {
    const auto* import = std::get_if<ImportSpec>(&part.shape);
    if (import == nullptr || !import->mesh) continue;
    const auto ply = mesh_bytes(*import->mesh, "ply");
    if (!ply) return ply;
    entries.push_back({mesh_entry(part.id), *ply});
  }
  for (const Reference& r : build.references)
    if (r.bytes) entries.push_back({picture_entry(r.look), *r.bytes});
  for (const Version& v : build.versions) {
    auto bytes = build_bytes(*v.held);
    if (!bytes) return bytes;
    entries.push_back({version_entry(v.id), std::move(*bytes)});
  }
  return zipped(entries);
}

namespace {

/// The scan stands beside the JSON that names it. Thrown as Refused when it does not.
void take_scan(Build& build, const Json& j, const std::string& bytes) {
  if (!j.contains("scan")) return;
  const auto ply = taken(entry_of(bytes, kScanEntry));
  Scan scan{taken(scan_from_bytes(ply, "ply")), {}};
  for (const auto& [name, at] : j["scan"].at("marks").items()) {
    const auto& known = scan_landmarks();
    const auto mark = std::find_if(known.begin(), known.end(), [&, word = name](Landmark l) { return word == std::to_string(static_cast<int>(l)); });
    if (mark == known.end()) throw Refused{{Errc::unknown_name, "Place number " + name + " of the scan is not known.", "scan/marks"}};
    scan.marks[*mark] = Vec3(at.at(0), at.at(1), at.at(2));
  }
  build.scan = {std::make_shared<const Scan>(std::move(scan)), j["scan"].at("used")};
}

/// Meshes brought in and pictures stand beside the JSON, one each.
void take_meshes(Build& build, const Json& j, const std::string& bytes) {
  for (const Json& of : j.at("parts")) {
    if (!of.contains("mesh")) continue;
    Part* part = find_part(build, of.at("id"));
    const std::string entry = of.at("mesh");
    auto mesh = mesh_from_bytes(taken(entry_of(bytes, entry.c_str())), "ply");
    if (!mesh) throw Refused{mesh.error()};
    std::get<ImportSpec>(part->shape).mesh = std::make_shared<const Mesh>(std::move(*mesh));
  }
  for (Reference& r : build.references) r.bytes = std::make_shared<const std::string>(taken(entry_of(bytes, picture_entry(r.look).c_str())));
}

/// A version holds none of its own: what nests deeper is refused before it is read.
Result<Build> read_build(const std::string& bytes, bool as_version) {
  const auto text = entry_of(bytes, "build.json");
  if (!text) return tl::make_unexpected(text.error());
  Json j = Json::parse(*text, nullptr, false);
  if (j.is_discarded() || !j.is_object() || !j.contains("format_version") || !j["format_version"].is_number_integer())
    return fail(Errc::bad_file, "The build.json in this file is not readable.");
  const int version = j["format_version"];
  if (version > kBuildFormat)
    return fail(Errc::newer_file, "This build was saved by a newer version of Noggin Awl (format " + std::to_string(version) + "; this one reads up to " + std::to_string(kBuildFormat) + ").");
  if (version < 1) return fail(Errc::bad_file, "The build.json in this file has format " + std::to_string(version) + ", which never was.");
  try {
    if (version < 2) migrate_from_1(j);
    if (version < 3) migrate_from_2(j);
    if (version < 4) migrate_from_3(j);
    if (version < 5) migrate_from_4(j);
    Build build = from_json(j);
    take_scan(build, j, bytes);
    take_meshes(build, j, bytes);
    if (as_version && !build.versions.empty()) throw Refused{{Errc::bad_file, "A version cannot hold versions of its own.", "versions"}};
    for (Version& v : build.versions) {
      auto held = read_build(taken(entry_of(bytes, version_entry(v.id).c_str())), true);
      if (!held) throw Refused{held.error()};
      v.held = std::make_shared<const Build>(std::move(*held));
    }
    return build;
  } catch (const Refused& refused) {
    return fail(Errc::bad_file, "The build in this file cannot be used: " + refused.error.text, refused.error.where);
  } catch (const Json::exception& e) {
    return fail(Errc::bad_file, std::string("A value in build.json is missing or of the wrong kind: ") + e.what() + ".");
  }
}

}  // namespace

Result<Build> build_from_bytes(const std::string& bytes) { return read_build(bytes, false); }

Result<void> save_build(const std::filesystem::path& path, const Build& build) {
  const auto bytes = build_bytes(build);
  if (!bytes) return tl::make_unexpected(bytes.error());
  std::error_code ignored;
  if (std::filesystem::is_regular_file(path, ignored))
    std::filesystem::copy_file(path, path.string() + "~", std::filesystem::copy_options::overwrite_existing, ignored);
  return write_file_safely(path, *bytes);
}

Result<Build> open_build(const std::filesystem::path& path) {
  const auto bytes = read_file(path);
  if (!bytes) return tl::make_unexpected(bytes.error());
  auto build = build_from_bytes(*bytes);
  if (!build) build.error().text = path.filename().string() + ": " + build.error().text;
  return build;
}

Result<MeasureSet> measures_from_text(const std::string& text) {
  const auto first = text.find_first_not_of(" \t\r\n");
  auto set = first != std::string::npos && text[first] == '{' ? measures_from_json(text) : measures_from_csv(text);
  if (!set) return set;
  if (set->empty()) return fail(Errc::empty_input, "No measure was given; one is enough, the head circumference says most.", "measures");
  for (const auto& [id, mm] : *set)
    if (auto good = check_possible(id, mm); !good) return tl::make_unexpected(good.error());
  return set;
}

Result<MeasureSet> read_measures(const std::filesystem::path& path) {
  const auto text = read_file(path);
  if (!text) return tl::make_unexpected(text.error());
  return measures_from_text(*text);
}

}  // namespace awl
