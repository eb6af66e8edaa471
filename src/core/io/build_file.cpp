#include "core/io/build_file.hpp"

#include <zip.h>

#include <algorithm>
#include <memory>
#include <nlohmann/json.hpp>
#include <sstream>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"

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

Json to_json(const Build& b) {
  Json extras = Json::array();
  for (const Extra extra : b.extras) extras.push_back(code_of(extra));
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
      {"hood", {{"edge", name_of(b.hood.edge)}, {"hair_mm", b.hood.hair_mm}, {"padding_mm", b.hood.padding_mm}, {"edge_up_mm", b.hood.edge_up_mm}, {"face_wider_mm", b.hood.face_wider_mm}}},
      {"seams", {{"preset", name_of(b.seams.preset)}, {"gores_per_side", b.seams.gores_per_side}, {"middle_mm", b.seams.middle_mm}, {"belt", b.seams.belt}, {"belt_up_mm", b.seams.belt_up_mm}}},
      {"foam", {{"foam", b.foam.foam}, {"thickness_mm", b.foam.thickness_mm}, {"heated", b.foam.heated}, {"sheet_width_mm", b.foam.sheet.width_mm}, {"sheet_height_mm", b.foam.sheet.height_mm}, {"gap_mm", b.foam.gap_mm}}},
      {"coat", {{"glue", b.coat.glue}, {"seal", b.coat.seal}, {"paint", b.coat.paint}, {"clear", b.coat.clear}, {"fill_seams", b.coat.fill_seams}, {"heat_seal", b.coat.heat_seal},
                {"start", b.coat.start.iso()}, {"due", b.coat.due.iso()}, {"hours_a_day", b.coat.hours_a_day}, {"opens_h", b.coat.opens_h}}},
      {"notes", b.notes},
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

/// Format 1 knew one value a measure, of adults.
void migrate_from_1(Json& j) {
  Json head = Json::object();
  for (const auto& [code, mm] : j.at("measures_mm").items()) head[code] = {{"first_mm", mm}};
  j["tape"] = {{"people", "adult"}, {"day", Day{}.iso()}, {"by", ""}, {"head", head}, {"body_mm", Json::object()}, {"accepted", Json::array()}};
  j["extras"] = Json::array();
  const Build fresh;
  j["making"] = name_of(fresh.making), j["built_mm"] = Json::object(), j["fit_to_built"] = false;
  j["foam_head"] = {{"neck_up_mm", 0.0}, {"pipe_mm", 0.0}, {"mirrored", true}, {"plan", -1}};
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
  const Json &hood = j.at("hood"), &seams = j.at("seams"), &foam = j.at("foam"), &coat = j.at("coat");
  b.hood = {taken(hood_edge_from(hood.at("edge"))), hood.at("hair_mm"), hood.at("padding_mm"), hood.at("edge_up_mm"), hood.at("face_wider_mm")};
  b.seams = {taken(seam_preset_from(seams.at("preset"))), seams.at("gores_per_side"), seams.at("middle_mm"), seams.at("belt"), seams.at("belt_up_mm")};
  b.foam = {foam.at("foam"), foam.at("thickness_mm"), foam.at("heated"), {foam.at("sheet_width_mm"), foam.at("sheet_height_mm")}, foam.at("gap_mm")};
  b.coat = {coat.at("glue"), coat.at("seal"), coat.at("paint"), coat.at("clear"), coat.at("fill_seams"), coat.at("heat_seal"),
            taken(parse_day(coat.at("start"))), taken(parse_day(coat.at("due"))), coat.at("hours_a_day"), coat.at("opens_h")};
  if (!b.tape.head.empty()) check_values(b.tape);
  if (auto good = check_hood(b.hood); !good) throw Refused{good.error()};
  if (auto good = check_seams(b.seams); !good) throw Refused{good.error()};
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

}  // namespace

Result<Build> build_from_bytes(const std::string& bytes) {
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
    Build build = from_json(j);
    take_scan(build, j, bytes);
    return build;
  } catch (const Refused& refused) {
    return fail(Errc::bad_file, "The build in this file cannot be used: " + refused.error.text, refused.error.where);
  } catch (const Json::exception& e) {
    return fail(Errc::bad_file, std::string("A value in build.json is missing or of the wrong kind: ") + e.what() + ".");
  }
}

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
