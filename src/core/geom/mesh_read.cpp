#include <algorithm>
#include <bit>
#include <charconv>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <unordered_map>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geom/mesh_file.hpp"

namespace awl {
namespace {

constexpr double kFarthestMm = 1e6;  // a kilometre: beyond it a double no longer tells foam's thickness apart
constexpr std::size_t kMostFilePoints = 20'000'000, kMostTriangles = 20'000'000;
constexpr long long kMostCorners = 10'000;  // of one polygon

tl::unexpected<Error> bad(std::string text) { return fail(Errc::bad_file, std::move(text)); }
std::string counted(long long n, const char* of) { return std::to_string(n) + " " + of; }

/// What is read, before it is known whether every corner has its point.
struct Raw {
  std::vector<Vec3> points;
  std::vector<std::array<long long, 3>> triangles;

  void fan(const std::vector<long long>& corners) {
    for (std::size_t i = 2; i < corners.size(); ++i) triangles.push_back({corners[0], corners[i - 1], corners[i]});
  }
};

/// Lines one after the other, without their ends; `number` is that of the line in hand.
class Lines {
 public:
  explicit Lines(std::string_view text) : rest_(text) {}
  bool next(std::string_view& line) {
    if (rest_.empty()) return false;
    const std::size_t end = std::min(rest_.find('\n'), rest_.size());
    line = rest_.substr(0, end);
    rest_.remove_prefix(std::min(end + 1, rest_.size()));
    if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
    ++number;
    return true;
  }
  /// The next line with something on it that is no remark.
  bool next_filled(std::string_view& line) {
    while (next(line)) {
      line = line.substr(0, line.find('#'));
      if (!Words(line).at_end()) return true;
    }
    return false;
  }
  std::string_view rest() const { return rest_; }
  int number = 0;

 private:
  std::string_view rest_;
};

bool take_point(Words& words, Vec3& p) {
  for (int k = 0; k < 3; ++k) {
    const auto value = words.number();
    if (!value) return false;
    p[k] = *value;
  }
  return true;
}

/// The point of a corner like "7", "7/1/3" or "-1", from 0; none if it is no corner.
std::optional<long long> obj_corner(std::string_view word, std::size_t points) {
  long long index = 0;
  const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), index);
  const bool ends = end == word.data() + word.size() || *end == '/';
  if (error != std::errc() || !ends || index == 0) return std::nullopt;
  return index < 0 ? static_cast<long long>(points) + index : index - 1;
}

Result<Raw> read_obj(std::string_view bytes) {
  Raw raw;
  Lines lines(bytes);
  std::vector<long long> corners;
  for (std::string_view line; lines.next_filled(line);) {
    Words words(line);
    const std::string_view key = words.next();
    const std::string at = "Line " + std::to_string(lines.number) + " of the OBJ file";
    if (key == "v") {
      Vec3 p;
      if (!take_point(words, p)) return bad(at + " is no point of three numbers.");
      raw.points.push_back(p);
    } else if (key == "f") {
      corners.clear();
      for (std::string_view word = words.next(); !word.empty(); word = words.next()) {
        const auto corner = obj_corner(word, raw.points.size());
        if (!corner) return bad(at + " names a corner " + in_quotes(word, 20) + ", which is no number of a point.");
        corners.push_back(*corner);
      }
      if (static_cast<long long>(corners.size()) > kMostCorners)
        return bad(at + " has " + counted(corners.size(), "corners; up to ") + counted(kMostCorners, "are read."));
      raw.fan(corners);
    }
  }
  return raw;
}

/// Points that agree to the last bit are one.
class Joiner {
 public:
  long long operator()(Raw& raw, Vec3 p) {
    p += Vec3::Zero();  // -0 and 0 are one place
    const auto [it, fresh] = known_.try_emplace({p.x(), p.y(), p.z()}, static_cast<long long>(raw.points.size()));
    if (fresh) raw.points.push_back(p);
    return it->second;
  }

 private:
  struct Hash {
    std::size_t operator()(const std::array<double, 3>& p) const {
      std::uint64_t h = 1469598103934665603ull;
      for (const double x : p)
        h = (h ^ (std::bit_cast<std::uint64_t>(x) >> 17)) * 1099511628211ull + (std::bit_cast<std::uint64_t>(x) << 7);
      return h ^ (h >> 29);
    }
  };
  std::unordered_map<std::array<double, 3>, long long, Hash> known_;
};

Result<Raw> read_stl_text(std::string_view bytes) {
  Raw raw;
  Joiner join;
  std::vector<long long> corners;
  Words words(bytes);
  for (std::string_view word = words.next(); !word.empty(); word = words.next()) {
    if (word == "endloop" || word == "facet") raw.fan(corners), corners.clear();
    if (word != "vertex") continue;
    Vec3 p;
    if (!take_point(words, p))
      return bad("Triangle " + std::to_string(raw.triangles.size() + 1) +
          " of the STL file has a corner that is not three numbers.");
    if (static_cast<long long>(corners.size()) >= kMostCorners)
      return bad("A face of the STL file has more than " + counted(kMostCorners, "corners."));
    corners.push_back(join(raw, p));
  }
  raw.fan(corners);
  return raw;
}

Result<Raw> read_stl(std::string_view bytes) {
  constexpr std::size_t kHead = 84, kEach = 50;
  std::uint32_t count = 0;
  if (bytes.size() >= kHead) std::memcpy(&count, bytes.data() + 80, 4);
  const std::size_t wanted = kHead + kEach * std::size_t{count};
  // Some programs add to the end; a text never counts so few triangles in its 81st letter.
  if (bytes.size() >= kHead && count > 0 && bytes.size() >= wanted && bytes.size() - wanted < wanted) {
    Raw raw;
    Joiner join;
    raw.triangles.reserve(count);
    for (std::uint32_t i = 0; i < count; ++i) {
      float n[12];
      std::memcpy(n, bytes.data() + kHead + kEach * i, sizeof n);
      std::array<long long, 3> t{};
      for (int k = 0; k < 3; ++k) t[k] = join(raw, Vec3(n[3 + 3 * k], n[4 + 3 * k], n[5 + 3 * k]));
      raw.triangles.push_back(t);
    }
    return raw;
  }
  if (bytes.starts_with("solid")) return read_stl_text(bytes);
  if (bytes.size() < kHead)
    return bad("This is no STL file: it has " + counted(bytes.size(), "bytes, fewer than its head takes."));
  return bad("The STL file is cut short: it announces " + counted(count, "triangles, which take ") +
      counted(wanted, "bytes, and has ") + std::to_string(bytes.size()) + ".");
}

enum class PlyType { i8, u8, i16, u16, i32, u32, f32, f64 };
constexpr std::size_t kPlySize[] = {1, 1, 2, 2, 4, 4, 4, 8};

std::optional<PlyType> ply_type(std::string_view word) {
  constexpr std::pair<const char*, PlyType> kWords[] = {{"char", PlyType::i8}, {"int8", PlyType::i8},
      {"uchar", PlyType::u8}, {"uint8", PlyType::u8}, {"short", PlyType::i16}, {"int16", PlyType::i16},
      {"ushort", PlyType::u16}, {"uint16", PlyType::u16}, {"int", PlyType::i32}, {"int32", PlyType::i32},
      {"uint", PlyType::u32}, {"uint32", PlyType::u32}, {"float", PlyType::f32}, {"float32", PlyType::f32},
      {"double", PlyType::f64}, {"float64", PlyType::f64}};
  for (const auto& [known, type] : kWords)
    if (word == known) return type;
  return std::nullopt;
}

struct PlyProperty {
  std::string name;
  PlyType type = PlyType::f32;
  std::optional<PlyType> counted;  ///< of a list: the type of its count
};
struct PlyElement {
  std::string name;
  long long count = 0;
  std::vector<PlyProperty> properties;
};
struct PlyHead {
  enum class Format { ascii, little, big } format = Format::ascii;
  std::vector<PlyElement> elements;
};

Result<void> read_ply_property(PlyHead& head, Words& words) {
  if (head.elements.empty()) return bad("The PLY file's head has a property before any element.");
  PlyProperty property;
  std::string_view type = words.next();
  if (type == "list") {
    const std::string_view counted = words.next();
    property.counted = ply_type(counted);
    if (!property.counted)
      return bad("The PLY file counts a list by " + in_quotes(counted, 20) + ", which is not known.");
    type = words.next();
  }
  const auto known = ply_type(type);
  if (!known) return bad("The PLY file has a property of the type " + in_quotes(type, 20) + ", which is not known.");
  property.type = *known, property.name = std::string(words.next());
  head.elements.back().properties.push_back(std::move(property));
  return {};
}

Result<PlyHead> read_ply_head(Lines& lines) {
  PlyHead head;
  for (std::string_view line; lines.next(line);) {
    Words words(line);
    const std::string_view key = words.next();
    if (key == "end_header") return head;
    if (key == "format") {
      const std::string_view format = words.next();
      if (format == "binary_little_endian")
        head.format = PlyHead::Format::little;
      else if (format == "binary_big_endian")
        head.format = PlyHead::Format::big;
      else if (format != "ascii")
        return bad("The PLY file is of a kind that is not known: " + in_quotes(format, 20) + ".");
    } else if (key == "element") {
      PlyElement element{std::string(words.next()), 0, {}};
      const auto count = words.number();
      if (!count || *count < 0 || *count != std::floor(*count) || *count > kMostFilePoints)
        return bad("The PLY file announces a number of " + excerpt(element.name, 20) + " that cannot be.");
      element.count = static_cast<long long>(*count);
      head.elements.push_back(std::move(element));
    } else if (key == "property") {
      if (auto good = read_ply_property(head, words); !good) return fail(good);
    }
  }
  return bad("The PLY file's head does not end.");
}

/// Numbers one after the other from the body of a PLY file; after the first that is not there all are 0.
class PlyBody {
 public:
  PlyBody(std::string_view bytes, PlyHead::Format format) : bytes_(bytes), format_(format) {}

  double next(PlyType type) {
    if (!good_) return 0.0;
    if (format_ == PlyHead::Format::ascii) {
      bytes_ = Words(bytes_).rest();
      const auto value = take_number(bytes_);
      good_ = value.has_value();
      return value.value_or(0.0);
    }
    switch (type) {
      case PlyType::i8:
        return raw<std::int8_t>();
      case PlyType::u8:
        return raw<std::uint8_t>();
      case PlyType::i16:
        return raw<std::int16_t>();
      case PlyType::u16:
        return raw<std::uint16_t>();
      case PlyType::i32:
        return raw<std::int32_t>();
      case PlyType::u32:
        return raw<std::uint32_t>();
      case PlyType::f32:
        return raw<float>();
      case PlyType::f64:
        return raw<double>();
    }
    return 0.0;
  }
  bool good() const { return good_; }
  /// Whether so many rows of so few bytes can still be there.
  bool has_room_for(const PlyElement& element) const {
    std::size_t least = 0;
    for (const PlyProperty& p : element.properties)
      least += format_ == PlyHead::Format::ascii ? 1 : kPlySize[static_cast<int>(p.counted.value_or(p.type))];
    return static_cast<std::size_t>(element.count) * least <= bytes_.size();
  }

 private:
  template <class T>
  double raw() {
    if (bytes_.size() < sizeof(T)) return good_ = false, 0.0;
    std::array<char, sizeof(T)> own;
    std::copy_n(bytes_.begin(), sizeof(T), own.begin());
    if (format_ == PlyHead::Format::big) std::reverse(own.begin(), own.end());
    bytes_.remove_prefix(sizeof(T));
    return static_cast<double>(std::bit_cast<T>(own));
  }
  std::string_view bytes_;
  PlyHead::Format format_;
  bool good_ = true;
};

/// A list that says what a face's corners are; other lists are passed over.
Result<std::vector<long long>> read_ply_list(PlyBody& body, const PlyProperty& p) {
  const double count = body.next(*p.counted);
  if (!(count >= 0.0 && count <= kMostCorners) || count != std::floor(count))
    return bad("The PLY file has a face of " + fixed(count, 0) + " corners.");
  std::vector<long long> list;
  for (double k = 0.0; k < count && body.good(); ++k) {
    const double value = body.next(p.type);
    list.push_back(std::abs(value) < 9e15 && value == std::floor(value) ? static_cast<long long>(value) : -1);
  }
  return list;
}

Result<void> read_ply_element(PlyBody& body, const PlyElement& element, Raw& raw) {
  if (element.properties.empty()) return {};
  if (!body.has_room_for(element))
    return bad("The PLY file is cut short: it announces " + counted(element.count, element.name.substr(0, 20).c_str()) +
        " rows and is too small for them.");
  std::array<std::size_t, 3> xyz{};
  for (int k = 0; k < 3 && element.name == "vertex"; ++k) {
    const auto at = std::find_if(element.properties.begin(), element.properties.end(),
        [&](const PlyProperty& p) { return !p.counted && p.name.size() == 1 && p.name[0] == "xyz"[k]; });
    if (at == element.properties.end())
      return bad("The points of the PLY file have no " + std::string(1, "xyz"[k]) + ".");
    xyz[k] = static_cast<std::size_t>(at - element.properties.begin());
  }
  std::vector<double> row(element.properties.size());
  for (long long i = 0; i < element.count && body.good(); ++i) {
    for (std::size_t k = 0; k < row.size(); ++k) {
      const PlyProperty& p = element.properties[k];
      if (!p.counted) {
        row[k] = body.next(p.type);
        continue;
      }
      const auto list = read_ply_list(body, p);
      if (!list) return fail(list);
      if (element.name == "face" && (p.name == "vertex_indices" || p.name == "vertex_index")) raw.fan(*list);
    }
    if (element.name == "vertex") raw.points.push_back({row[xyz[0]], row[xyz[1]], row[xyz[2]]});
  }
  if (!body.good()) return bad("The PLY file is cut short, or one of its numbers cannot be read.");
  return {};
}

Result<Raw> read_ply(std::string_view bytes) {
  Lines lines(bytes);
  const auto head = read_ply_head(lines);
  if (!head) return fail(head);
  Raw raw;
  PlyBody body(lines.rest(), head->format);
  for (const PlyElement& element : head->elements)
    if (auto good = read_ply_element(body, element, raw); !good) return fail(good);
  return raw;
}

/// A row of an OFF file: what stands behind the three coordinates or the corners is a colour or a normal.
Result<Raw> read_off(std::string_view bytes) {
  Raw raw;
  Lines lines(bytes);
  std::string_view line;
  if (!lines.next_filled(line)) return bad("This is no OFF file.");
  Words words(line);
  const std::string_view word = words.next();
  if (!(word == "OFF" || word == "COFF" || word == "NOFF" || word == "CNOFF" || word == "STOFF"))
    return bad("This is no OFF file.");
  if (words.at_end() && lines.next_filled(line)) words = Words(line);
  const auto points = words.whole(), faces = words.whole();
  if (!points || !faces || *points < 0 || *faces < 0)
    return bad(
        "Line " + std::to_string(lines.number) + " of the OFF file does not say how many points and faces there are.");
  for (int v = 0; v < *points; ++v) {
    Vec3 p;
    if (!lines.next_filled(line))
      return bad(
          "The OFF file is cut short: it announces " + counted(*points, "points and has ") + std::to_string(v) + ".");
    Words row(line);
    if (!take_point(row, p))
      return bad("Line " + std::to_string(lines.number) + " of the OFF file is no point of three numbers.");
    raw.points.push_back(p);
  }
  std::vector<long long> corners;
  for (int f = 0; f < *faces; ++f) {
    if (!lines.next_filled(line))
      return bad(
          "The OFF file is cut short: it announces " + counted(*faces, "faces and has ") + std::to_string(f) + ".");
    Words row(line);
    const auto count = row.whole();
    corners.clear();
    for (int k = 0; count && k < *count && k < kMostCorners; ++k) {
      const auto corner = row.whole();
      if (!corner) break;
      corners.push_back(*corner);
    }
    if (!count || static_cast<long long>(corners.size()) != *count)
      return bad("Line " + std::to_string(lines.number) +
          " of the OFF file is no face: its count of corners and then their numbers are wanted.");
    raw.fan(corners);
  }
  return raw;
}

/// Every point somewhere near a bench, every corner a point. Triangles that use one point twice are left out: they are
/// none.
Result<Mesh> checked(Result<Raw> raw, bool needs_triangles) {
  if (!raw) return fail(raw);
  if (raw->points.size() > kMostFilePoints || raw->triangles.size() > kMostTriangles)
    return fail(Errc::too_large,
        "The mesh has " + counted(raw->triangles.size(), "triangles; up to ") + counted(kMostTriangles, "are read."));
  Mesh mesh;
  mesh.vertices = std::move(raw->points);
  const auto count = static_cast<long long>(mesh.vertices.size());
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v) {
    if (!mesh.vertices[v].allFinite())
      return bad("Point " + std::to_string(v + 1) + " of the mesh is not a finite number.");
    if (const double far = mesh.vertices[v].cwiseAbs().maxCoeff(); far > kFarthestMm)
      return fail(Errc::out_of_range,
          "Point " + std::to_string(v + 1) + " of the mesh lies " + fixed(far, 0) + " mm away from its middle; up to " +
              fixed(kFarthestMm, 0) + " mm can be.");
  }
  mesh.triangles.reserve(raw->triangles.size());
  for (std::size_t f = 0; f < raw->triangles.size(); ++f) {
    const auto& t = raw->triangles[f];
    for (const long long v : t)
      if (v < 0 || v >= count)
        return bad("Triangle " + std::to_string(f + 1) + " of the mesh uses point " + std::to_string(v + 1) +
            ", but there are " + std::to_string(count) + ".");
    if (t[0] != t[1] && t[1] != t[2] && t[2] != t[0])
      mesh.triangles.push_back({static_cast<int>(t[0]), static_cast<int>(t[1]), static_cast<int>(t[2])});
  }
  if (mesh.vertices.empty()) return bad("The file holds no points and no triangles.");
  if (needs_triangles && mesh.triangles.empty()) return bad("The file holds no triangles.");
  return mesh;
}

Result<Mesh> from_bytes(std::string_view bytes, const std::string& ending, bool needs_triangles) {
  if (ending == "obj") return checked(read_obj(bytes), needs_triangles);
  if (ending == "stl") return checked(read_stl(bytes), needs_triangles);
  if (ending == "ply") return checked(read_ply(bytes), needs_triangles);
  if (ending == "off") return checked(read_off(bytes), needs_triangles);
  return fail(Errc::unknown_name,
      "A mesh is read from .obj, .stl, .ply or .off, not from " + in_quotes("." + ending, 20) + ".");
}

Result<Mesh> from_file(const std::filesystem::path& path, bool needs_triangles) {
  const auto bytes = read_file(path);
  if (!bytes) return fail(bytes);
  auto mesh = from_bytes(*bytes, mesh_ending(path), needs_triangles);
  if (!mesh) mesh.error().where = path.filename().string();
  return mesh;
}

}  // namespace

Result<Mesh> mesh_from_bytes(const std::string& bytes, const std::string& ending) {
  return from_bytes(bytes, ending, true);
}
Result<Mesh> scan_from_bytes(const std::string& bytes, const std::string& ending) {
  return from_bytes(bytes, ending, false);
}
Result<Mesh> read_mesh(const std::filesystem::path& path) { return from_file(path, true); }
Result<Mesh> read_scan_file(const std::filesystem::path& path) { return from_file(path, false); }

}  // namespace awl
