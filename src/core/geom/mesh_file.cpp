#include "core/geom/mesh_file.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <map>
#include <sstream>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"

namespace awl {
namespace {

template <class T>
void put(std::string& out, T value) {
  out.append(reinterpret_cast<const char*>(&value), sizeof value);
}

std::string obj_bytes(const Mesh& mesh) {
  std::string out = "# millimetres, x wearer's left, y up, z forward\n";
  for (const Vec3& p : mesh.vertices) out += "v " + fixed(p.x(), 6) + " " + fixed(p.y(), 6) + " " + fixed(p.z(), 6) + "\n";
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
  std::string out = "ply\nformat binary_little_endian 1.0\ncomment millimetres\nelement vertex " + std::to_string(mesh.vertices.size()) +
                    "\nproperty double x\nproperty double y\nproperty double z\nelement face " + std::to_string(mesh.triangles.size()) +
                    "\nproperty list uchar int vertex_indices\nend_header\n";
  for (const Vec3& p : mesh.vertices)
    for (int k = 0; k < 3; ++k) put(out, p[k]);
  for (const Tri& t : mesh.triangles) {
    put(out, std::uint8_t{3});
    for (const int v : t) put(out, static_cast<std::int32_t>(v));
  }
  return out;
}

void fan(Mesh& mesh, const std::vector<long>& corners) {
  for (std::size_t i = 2; i < corners.size(); ++i)
    mesh.triangles.push_back({static_cast<int>(corners[0]), static_cast<int>(corners[i - 1]), static_cast<int>(corners[i])});
}

Result<Mesh> read_obj(const std::string& bytes) {
  Mesh mesh;
  std::istringstream in(bytes);
  int number = 0;
  for (std::string line; std::getline(in, line);) {
    ++number;
    std::istringstream words(line);
    std::string key;
    words >> key;
    if (key == "v") {
      Vec3 p;
      if (!(words >> p.x() >> p.y() >> p.z())) return fail(Errc::bad_file, "Line " + std::to_string(number) + " of the OBJ file is no point of three numbers.");
      mesh.vertices.push_back(p);
    } else if (key == "f") {
      std::vector<long> corners;
      for (std::string word; words >> word;) {
        const long index = std::strtol(word.c_str(), nullptr, 10);
        corners.push_back(index < 0 ? static_cast<long>(mesh.vertices.size()) + index : index - 1);
      }
      fan(mesh, corners);
    }
  }
  return mesh;
}

class Joiner {
 public:
  int operator()(Mesh& mesh, const Vec3& p) {
    const auto [it, fresh] = known_.try_emplace({p.x(), p.y(), p.z()}, static_cast<int>(mesh.vertices.size()));
    if (fresh) mesh.vertices.push_back(p);
    return it->second;
  }

 private:
  std::map<std::array<double, 3>, int> known_;
};

Result<Mesh> read_stl(const std::string& bytes) {
  Mesh mesh;
  Joiner join;
  std::uint32_t count = 0;
  if (bytes.size() >= 84) std::memcpy(&count, bytes.data() + 80, 4);
  if (bytes.size() >= 84 && bytes.size() == 84 + 50ull * count) {
    for (std::uint32_t i = 0; i < count; ++i) {
      float n[12];
      std::memcpy(n, bytes.data() + 84 + 50ull * i, sizeof n);
      Tri t{};
      for (int k = 0; k < 3; ++k) t[k] = join(mesh, Vec3(n[3 + 3 * k], n[4 + 3 * k], n[5 + 3 * k]));
      mesh.triangles.push_back(t);
    }
    return mesh;
  }
  if (bytes.compare(0, 5, "solid") != 0)
    return fail(Errc::bad_file, "The STL file is cut short: it announces " + std::to_string(count) + " triangles and holds " +
                                    std::to_string(bytes.size() < 84 ? 0 : (bytes.size() - 84) / 50) + ".");
  std::istringstream in(bytes);
  std::vector<long> corners;
  for (std::string word; in >> word;) {
    if (word != "vertex") continue;
    Vec3 p;
    if (!(in >> p.x() >> p.y() >> p.z())) return fail(Errc::bad_file, "The STL file has a corner that is not three numbers.");
    corners.push_back(join(mesh, p));
    if (corners.size() == 3) fan(mesh, corners), corners.clear();
  }
  return mesh;
}

struct PlyHeader {
  bool binary = false;
  long vertices = 0, faces = 0;
  std::vector<std::string> vertex_types;  ///< in file order
  std::array<int, 3> xyz{-1, -1, -1};
  std::string count_type, index_type;
  std::size_t size = 0;
};

Result<PlyHeader> read_ply_header(const std::string& bytes) {
  PlyHeader head;
  std::istringstream in(bytes);
  std::string element;
  for (std::string line; std::getline(in, line);) {
    std::istringstream words(line);
    std::string key, a, b, c;
    words >> key >> a >> b >> c;
    if (key == "format" && a == "binary_big_endian") return fail(Errc::bad_file, "Big-endian PLY files are not read; save it as ascii or little-endian.");
    if (key == "format") head.binary = a != "ascii";
    if (key == "element") element = a;
    if (key == "element" && a == "vertex") head.vertices = std::atol(b.c_str());
    if (key == "element" && a == "face") head.faces = std::atol(b.c_str());
    if (key == "property" && element == "vertex") {
      for (int k = 0; k < 3; ++k)
        if (b == std::string(1, "xyz"[k])) head.xyz[k] = static_cast<int>(head.vertex_types.size());
      head.vertex_types.push_back(a);
    }
    if (key == "property" && element == "face" && a == "list") head.count_type = b, head.index_type = c;
    if (key == "end_header") {
      head.size = static_cast<std::size_t>(in.tellg());
      if (head.xyz[0] < 0 || head.xyz[1] < 0 || head.xyz[2] < 0) break;
      return head;
    }
  }
  return fail(Errc::bad_file, "The PLY file's header is not complete.");
}

/// Takes numbers one after the other from the body of a PLY file.
class PlyBody {
 public:
  PlyBody(const std::string& bytes, const PlyHeader& head) : bytes_(bytes), at_(head.size), binary_(head.binary) {
    if (!binary_) text_.str(bytes.substr(head.size));
  }

  double next(const std::string& type) {
    if (!binary_) {
      double value = 0.0;
      good_ = good_ && static_cast<bool>(text_ >> value);
      return value;
    }
    if (type == "double" || type == "float64") return raw<double>();
    if (type == "float" || type == "float32") return raw<float>();
    if (type == "uchar" || type == "uint8") return raw<std::uint8_t>();
    if (type == "char" || type == "int8") return raw<std::int8_t>();
    if (type == "ushort" || type == "uint16") return raw<std::uint16_t>();
    if (type == "short" || type == "int16") return raw<std::int16_t>();
    if (type == "uint" || type == "uint32") return raw<std::uint32_t>();
    return raw<std::int32_t>();
  }
  bool good() const { return good_; }

 private:
  template <class T>
  double raw() {
    if (at_ + sizeof(T) > bytes_.size()) return good_ = false, 0.0;
    T value;
    std::memcpy(&value, bytes_.data() + at_, sizeof(T));
    at_ += sizeof(T);
    return static_cast<double>(value);
  }
  const std::string& bytes_;
  std::size_t at_;
  bool binary_, good_ = true;
  std::istringstream text_;
};

Result<Mesh> read_ply(const std::string& bytes) {
  const auto head = read_ply_header(bytes);
  if (!head) return tl::make_unexpected(head.error());
  Mesh mesh;
  PlyBody body(bytes, *head);
  for (long v = 0; v < head->vertices && body.good(); ++v) {
    std::vector<double> row;
    for (const auto& type : head->vertex_types) row.push_back(body.next(type));
    mesh.vertices.push_back({row[head->xyz[0]], row[head->xyz[1]], row[head->xyz[2]]});
  }
  for (long f = 0; f < head->faces && body.good(); ++f) {
    std::vector<long> corners;
    const long count = static_cast<long>(body.next(head->count_type));
    for (long k = 0; k < count && body.good(); ++k) corners.push_back(static_cast<long>(body.next(head->index_type)));
    fan(mesh, corners);
  }
  if (!body.good()) return fail(Errc::bad_file, "The PLY file is cut short.");
  return mesh;
}

Result<Mesh> read_off(const std::string& bytes) {
  std::istringstream in(bytes);
  std::string word;
  long vertices = 0, faces = 0, edges = 0;
  if (!(in >> word >> vertices >> faces >> edges) || word != "OFF") return fail(Errc::bad_file, "This is no OFF file.");
  Mesh mesh;
  Vec3 p;
  for (long v = 0; v < vertices && in >> p.x() >> p.y() >> p.z(); ++v) mesh.vertices.push_back(p);
  for (long f = 0, count = 0; f < faces && in >> count; ++f) {
    std::vector<long> corners;
    long index = 0;
    for (long k = 0; k < count && in >> index; ++k) corners.push_back(index);
    fan(mesh, corners);
  }
  if (!in) return fail(Errc::bad_file, "The OFF file is cut short.");
  return mesh;
}

Result<Mesh> checked(Result<Mesh> mesh, bool needs_triangles) {
  if (!mesh) return mesh;
  const long count = static_cast<long>(mesh->vertices.size());
  for (std::size_t v = 0; v < mesh->vertices.size(); ++v)
    if (!mesh->vertices[v].allFinite()) return fail(Errc::bad_file, "Point " + std::to_string(v + 1) + " of the mesh is not a finite number.");
  for (std::size_t f = 0; f < mesh->triangles.size(); ++f)
    for (const int v : mesh->triangles[f])
      if (v < 0 || v >= count)
        return fail(Errc::bad_file, "Triangle " + std::to_string(f + 1) + " of the mesh uses point " + std::to_string(v + 1) + ", but there are " + std::to_string(count) + ".");
  if (needs_triangles && mesh->triangles.empty()) return fail(Errc::bad_file, "The file holds no triangles.");
  if (mesh->vertices.empty()) return fail(Errc::bad_file, "The file holds no points.");
  return mesh;
}

std::string ending_of(const std::filesystem::path& path) {
  std::string ending = path.extension().string();
  std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return ending.empty() ? ending : ending.substr(1);
}

}  // namespace

Result<std::string> mesh_bytes(const Mesh& mesh, const std::string& ending) {
  if (ending == "obj") return obj_bytes(mesh);
  if (ending == "stl") return stl_bytes(mesh);
  if (ending == "ply") return ply_bytes(mesh);
  return fail(Errc::unknown_name, "A mesh is written as .obj, .stl or .ply, not as ." + ending + ".");
}

Result<void> write_mesh(const std::filesystem::path& path, const Mesh& mesh) {
  const auto bytes = mesh_bytes(mesh, ending_of(path));
  if (!bytes) return tl::make_unexpected(bytes.error());
  return write_file_safely(path, *bytes);
}

namespace {

Result<Mesh> from_bytes(const std::string& bytes, const std::string& ending, bool needs_triangles) {
  if (ending == "obj") return checked(read_obj(bytes), needs_triangles);
  if (ending == "stl") return checked(read_stl(bytes), needs_triangles);
  if (ending == "ply") return checked(read_ply(bytes), needs_triangles);
  if (ending == "off") return checked(read_off(bytes), needs_triangles);
  return fail(Errc::unknown_name, "A mesh is read from .obj, .stl, .ply or .off, not from ." + ending + ".");
}

Result<Mesh> from_file(const std::filesystem::path& path, bool needs_triangles) {
  const auto bytes = read_file(path);
  if (!bytes) return tl::make_unexpected(bytes.error());
  auto mesh = from_bytes(*bytes, ending_of(path), needs_triangles);
  if (!mesh) mesh.error().where = path.filename().string();
  return mesh;
}

}  // namespace

Result<Mesh> mesh_from_bytes(const std::string& bytes, const std::string& ending) { return from_bytes(bytes, ending, true); }
Result<Mesh> scan_from_bytes(const std::string& bytes, const std::string& ending) { return from_bytes(bytes, ending, false); }
Result<Mesh> read_mesh(const std::filesystem::path& path) { return from_file(path, true); }
Result<Mesh> read_scan_file(const std::filesystem::path& path) { return from_file(path, false); }

}  // namespace awl
