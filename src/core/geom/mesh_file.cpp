#include "core/geom/mesh_file.hpp"

#include <algorithm>
#include <cstdint>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

template <class T>
void put(std::string& out, T value) {
  out.append(reinterpret_cast<const char*>(&value), sizeof value);
}

std::string obj_bytes(const Mesh& mesh) {
  std::string out = "# millimetres, x wearer's left, y up, z forward\n";
  for (const Vec3& p : mesh.vertices)
    out += "v " + fixed(p.x(), 6) + " " + fixed(p.y(), 6) + " " + fixed(p.z(), 6) + "\n";
  for (const Tri& t : mesh.triangles)
    out += "f " + std::to_string(t[0] + 1) + " " + std::to_string(t[1] + 1) + " " + std::to_string(t[2] + 1) + "\n";
  return out;
}

std::string stl_bytes(const Mesh& mesh) {
  std::string out(80, ' ');
  out.replace(0, 31, "binary stl, units: millimetres ");
  put(out, static_cast<std::uint32_t>(mesh.triangles.size()));
  for (const Tri& t : mesh.triangles) {
    const Vec3 n = area_vector(mesh, t).normalized();
    for (const Vec3& p : {n, mesh.vertices[t[0]], mesh.vertices[t[1]], mesh.vertices[t[2]]})
      for (int k = 0; k < 3; ++k) put(out, static_cast<float>(p[k]));
    put(out, std::uint16_t{0});
  }
  return out;
}

std::string ply_bytes(const Mesh& mesh) {
  std::string out = "ply\nformat binary_little_endian 1.0\ncomment millimetres\nelement vertex " +
      std::to_string(mesh.vertices.size()) +
      "\nproperty double x\nproperty double y\nproperty double z\nelement face " +
      std::to_string(mesh.triangles.size()) + "\nproperty list uchar int vertex_indices\nend_header\n";
  for (const Vec3& p : mesh.vertices)
    for (int k = 0; k < 3; ++k) put(out, p[k]);
  for (const Tri& t : mesh.triangles) {
    put(out, std::uint8_t{3});
    for (const int v : t) put(out, static_cast<std::int32_t>(v));
  }
  return out;
}

}  // namespace

std::string mesh_ending(const std::filesystem::path& path) {
  std::string ending = path.extension().string();
  std::transform(
      ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return ending.empty() ? ending : ending.substr(1);
}

Result<std::string> mesh_bytes(const Mesh& mesh, const std::string& ending) {
  if (ending == "obj") return obj_bytes(mesh);
  if (ending == "stl") return stl_bytes(mesh);
  if (ending == "ply") return ply_bytes(mesh);
  return fail(
      Errc::unknown_name, "A mesh is written as .obj, .stl or .ply, not as " + in_quotes("." + ending, 20) + ".");
}

Result<void> write_mesh(const std::filesystem::path& path, const Mesh& mesh) {
  const auto bytes = mesh_bytes(mesh, mesh_ending(path));
  if (!bytes) return fail(bytes);
  return write_file_safely(path, *bytes);
}

}  // namespace awl
