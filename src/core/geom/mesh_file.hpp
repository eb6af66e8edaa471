#pragma once
#include <filesystem>

#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// Writes a mesh in millimetres; the ending chooses OBJ, STL (binary) or PLY (binary).
///
/// Errors: unknown_name for another ending; cannot_write with the reason (the old file stays).
Result<void> write_mesh(const std::filesystem::path& path, const Mesh& mesh);

/// The bytes of such a file. `ending` is "obj", "stl" or "ply".
Result<std::string> mesh_bytes(const Mesh& mesh, const std::string& ending);

/// Reads OBJ, STL (either kind), PLY (ascii or little-endian binary) or OFF; polygons are fanned.
///
/// Contract: STL corners that agree to the last bit are joined; nothing else is repaired.
/// Errors: cannot_read; bad_file names what is wrong (index beyond the vertices, a number that is not finite, cut short).
Result<Mesh> read_mesh(const std::filesystem::path& path);
Result<Mesh> mesh_from_bytes(const std::string& bytes, const std::string& ending);

/// The same for scans: a cloud of points without triangles is welcome too.
Result<Mesh> read_scan_file(const std::filesystem::path& path);
Result<Mesh> scan_from_bytes(const std::string& bytes, const std::string& ending);

}  // namespace awl
