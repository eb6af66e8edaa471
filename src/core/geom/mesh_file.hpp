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

/// The ending of a path in small letters, without its point.
std::string mesh_ending(const std::filesystem::path& path);

/// Reads OBJ, STL (either kind), PLY (text or binary, either way round) or OFF (coloured too); polygons are fanned.
///
/// Contract: STL corners that agree to the last bit are joined, triangles that use one point twice are left out;
/// nothing
///           else is repaired.
/// Errors: cannot_read; bad_file names what is wrong (index beyond the vertices, a number that is not finite, cut
/// short);
///         out_of_range for a point a kilometre away; too_large beyond 20 million points or triangles.
Result<Mesh> read_mesh(const std::filesystem::path& path);
Result<Mesh> mesh_from_bytes(const std::string& bytes, const std::string& ending);

/// The same for scans: a cloud of points without triangles is welcome too.
Result<Mesh> read_scan_file(const std::filesystem::path& path);
Result<Mesh> scan_from_bytes(const std::string& bytes, const std::string& ending);

}  // namespace awl
