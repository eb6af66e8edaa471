#include "core/io/build_file.hpp"

#include <algorithm>

#include "core/base/data_files.hpp"
#include "core/base/guard.hpp"
#include "core/base/text.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/build_json.hpp"
#include "core/io/zip_file.hpp"

namespace awl {
namespace {

constexpr const char* kScanEntry = "scan.ply";
constexpr const char* kPictureEntry = "picture.png";

Result<void> add_mesh_entry(Entries& entries, const std::string& name, const Mesh& mesh) {
  auto ply = mesh_bytes(mesh, "ply");
  if (!ply) return fail(ply);
  entries.push_back({name, std::move(*ply)});
  return {};
}

/// The scan stands beside the JSON that names it.
void take_scan(Build& build, const JsonAt& j, ZipFile& zip) {
  const auto scan_json = j.find("scan");
  if (!scan_json) return;
  Scan scan{taken(scan_from_bytes(taken(zip.entry(kScanEntry)), "ply")), {}};
  const auto& known = scan_landmarks();
  for (const auto& [name, at] : scan_json->at("marks").items()) {
    const auto mark = std::find_if(known.begin(), known.end(),
        [&, word = name](Landmark l) { return word == std::to_string(static_cast<int>(l)); });
    if (mark == known.end()) at.refuse(Errc::unknown_name, "is no place of a scan that is known");
    scan.marks[*mark] = Vec3(at.at(0).number(), at.at(1).number(), at.at(2).number());
  }
  build.scan = {std::make_shared<const Scan>(std::move(scan)), scan_json->at("used")};
}

/// A mesh cut into panels: its seams are edges it has.
std::shared_ptr<const CutMesh> cut_mesh_from(const JsonAt& j, ZipFile& zip) {
  constexpr int kMostSeams = 10000;
  auto cut = std::make_shared<CutMesh>();
  cut->mesh = taken(mesh_from_bytes(taken(zip.entry(j.at("mesh"))), "ply"));
  std::set<std::pair<int, int>> edges;
  for (const auto& e : topology_of(cut->mesh).edges) {
    if (e.more > 0) j.at("mesh").refuse(Errc::bad_file, "is no surface: an edge of it has more than two triangles");
    edges.insert(edge_of(e.a, e.b));
  }
  for (const JsonAt& fact : j.at("for").all()) cut->cut_for.push_back(fact.number());
  for (const JsonAt& name : j.at("names").all()) cut->seam_names.push_back(name);
  const int most = static_cast<int>(std::min<std::size_t>(cut->seam_names.size(), kMostSeams)) - 1;
  for (const JsonAt& seam : j.at("seams").all()) {
    const int last = static_cast<int>(cut->mesh.vertices.size()) - 1;
    const auto edge = edge_of(static_cast<int>(seam.at(0).whole(0, last)), static_cast<int>(seam.at(1).whole(0, last)));
    if (edges.count(edge) == 0) seam.refuse(Errc::bad_file, "is no edge of the mesh it cuts");
    cut->seams[edge] = static_cast<int>(seam.at(2).whole(0, most));
  }
  return cut;
}

/// Meshes brought in and pictures stand beside the JSON, one each.
void take_meshes(Build& build, const JsonAt& j, ZipFile& zip) {
  const auto parts = j.at("parts").all();
  for (std::size_t i = 0; i < parts.size(); ++i) {
    const auto name = parts[i].find("mesh");
    if (!name) continue;
    auto* import = std::get_if<ImportSpec>(&build.parts[i].shape);
    if (import == nullptr) name->refuse(Errc::bad_file, "names a mesh, but the part is no mesh brought in");
    import->mesh = std::make_shared<const Mesh>(taken(mesh_from_bytes(taken(zip.entry(*name)), "ply")));
    if (const auto cut = parts[i].find("cut")) import->cut = cut_mesh_from(*cut, zip);
  }
  for (Reference& r : build.references)
    r.bytes = std::make_shared<const std::string>(taken(zip.entry(picture_entry(r.look))));
}

Result<Build> read_build(const std::string& bytes, bool as_version, const std::shared_ptr<ZipFile::Budget>& budget);

/// A version holds none of its own: what nests deeper is refused before it is read.
void take_versions(Build& build, ZipFile& zip, bool as_version) {
  if (as_version && !build.versions.empty())
    throw JsonRefused{{Errc::bad_file, "A version cannot hold versions of its own.", "versions"}};
  for (Version& v : build.versions)
    v.held =
        std::make_shared<const Build>(taken(read_build(taken(zip.entry(version_entry(v.id))), true, zip.budget())));
}

/// Its build.json, brought up to today's format.
Result<Json> json_of(ZipFile& zip) {
  const auto text = zip.entry("build.json");
  if (!text) return fail(text);
  auto json = json_in(*text, "The build.json in this file");
  if (!json) return json;
  const auto format = read_json(*json, "", [](const JsonAt& j) { return j.at("format_version").whole(); });
  if (!format)
    return fail(Errc::bad_file, "The build.json in this file does not say its format: " + format.error().text);
  if (*format > kBuildFormat)
    return fail(Errc::newer_file,
        "This build was saved by a newer version of Noggin Awl (format " + std::to_string(*format) +
            "; this one reads up to " + std::to_string(kBuildFormat) + ").");
  if (*format < 1)
    return fail(
        Errc::bad_file, "The build.json in this file has format " + std::to_string(*format) + ", which never was.");
  if (auto good = migrate(*json, *format); !good) return fail(good);
  return json;
}

Result<Build> read_build(const std::string& bytes, bool as_version, const std::shared_ptr<ZipFile::Budget>& budget) {
  auto zip = ZipFile::open(bytes, budget);
  if (!zip) return fail(zip);
  const auto json = json_of(*zip);
  if (!json) return fail(json);
  return read_json(*json, "", [&](const JsonAt& j) {
    Build build = build_from_json(j);
    taken(check_inputs(build));
    take_scan(build, j, *zip);
    take_meshes(build, j, *zip);
    take_versions(build, *zip, as_version);
    return build;
  });
}

}  // namespace

Result<std::string> build_bytes(const Build& build, const std::string& picture) {
  if (auto good = check_inputs(build); !good) return fail(good);
  // Every text was checked to be UTF-8; should one have slipped in all the same, saving goes before its spelling.
  Entries entries{{"build.json", build_to_json(build).dump(2, ' ', false, Json::error_handler_t::replace)}};
  if (build.scan.scan)
    if (auto good = add_mesh_entry(entries, kScanEntry, build.scan.scan->mesh); !good) return fail(good);
  for (const Part& part : build.parts) {
    const auto* import = std::get_if<ImportSpec>(&part.shape);
    if (import == nullptr || !import->mesh) continue;
    if (auto good = add_mesh_entry(entries, mesh_entry(part.id), *import->mesh); !good) return fail(good);
    if (!import->cut) continue;
    if (auto good = add_mesh_entry(entries, cut_mesh_entry(part.id), import->cut->mesh); !good) return fail(good);
  }
  for (const Reference& r : build.references)
    if (r.bytes) entries.push_back({picture_entry(r.look), *r.bytes});
  for (const Version& v : build.versions) {
    auto bytes = build_bytes(*v.held);
    if (!bytes) return bytes;
    entries.push_back({version_entry(v.id), std::move(*bytes)});
  }
  if (!picture.empty()) entries.push_back({kPictureEntry, picture});
  return zipped(entries);
}

Result<Build> build_from_bytes(const std::string& bytes) {
  return guarded("reading a build", [&] { return read_build(bytes, false, std::make_shared<ZipFile::Budget>()); });
}

Result<void> save_build(const std::filesystem::path& path, const Build& build, const std::string& picture) {
  const auto bytes = build_bytes(build, picture);
  if (!bytes) return fail(bytes);
  return write_file_safely(path, *bytes, true);
}

Result<Build> open_build(const std::filesystem::path& path) {
  const auto bytes = read_file(path);
  if (!bytes) return fail(bytes);
  auto build = build_from_bytes(*bytes);
  if (!build) build.error().text = short_enough(excerpt(path.filename().string()) + ": " + build.error().text);
  return build;
}

Result<std::string> picture_in_build(const std::filesystem::path& path) {
  const auto bytes = read_file(path);
  if (!bytes) return fail(bytes);
  return guarded("reading a picture", [&]() -> Result<std::string> {
    auto zip = ZipFile::open(*bytes, std::make_shared<ZipFile::Budget>());
    if (!zip) return fail(zip);
    auto picture = zip->entry(kPictureEntry);
    if (!picture || picture->empty())
      return fail(Errc::empty_input, excerpt(path.filename().string()) + " was saved without a picture.");
    return picture;
  });
}

}  // namespace awl
