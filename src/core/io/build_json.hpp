#pragma once
#include "core/base/json_reader.hpp"
#include "core/builds/build.hpp"

// Inside io only: a build and the build.json of a .noggin file; docs/formats/noggin.md.

namespace awl {

/// Version of the .noggin format written.
inline constexpr int kBuildFormat = 6;

Json build_to_json(const Build& build);
/// All of a build but what stands beside its JSON: the scan, meshes, pictures, and what its versions hold. Contract: in
/// read_json.
Build build_from_json(const JsonAt& json);
/// Brings JSON of an older format up to today's. Errors: bad_file if it lacks what that format has.
Result<void> migrate(Json& json, int from);

/// Names of what stands beside build.json.
inline std::string picture_entry(LookFrom look) { return std::string("picture-") + name_of(look); }
inline std::string mesh_entry(int part) { return "part-" + std::to_string(part) + ".ply"; }
inline std::string cut_mesh_entry(int part) { return "part-" + std::to_string(part) + "-cut.ply"; }
inline std::string version_entry(int id) { return "version-" + std::to_string(id) + ".noggin"; }

}  // namespace awl
