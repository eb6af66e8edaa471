#include "core/derived/colour_map.hpp"

#include <algorithm>
#include <map>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/dress/dressed.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr double kFootMm = 12.0;   // a rim that lies nearer to another part stands on it
constexpr double kReachMm = 60.0;  // what is sprayed past an edge still settles so far off: workshop value

double round_of(const std::vector<Vec2>& line) {
  double mm = 0.0;
  for (std::size_t i = 0; i < line.size(); ++i) mm += (line[(i + 1) % line.size()] - line[i]).norm();
  return mm;
}

class Mapper {
 public:
  explicit Mapper(const ColourGround& ground)
      : ground_(ground), cut_(paint_ground(ground.form, ground.dressed)),
        mesh_(cut_ ? cut_->surface : ground.form.surface.mesh) {}

  ColourMap run() {
    map_.ground = cut_;
    map_.area_of_face.assign(mesh_.triangles.size(), 0);
    if (cut_) map_.lost_lines = cut_->lost;
    find_spans();
    for (const auto kind :
        {AreaOf::Kind::part, AreaOf::Kind::panel, AreaOf::Kind::field, AreaOf::Kind::detail, AreaOf::Kind::inside})
      for (const ColourArea& area : ground_.areas) {
        const auto of = area_of(area);
        if (of && of->kind == kind) paint(area, *of);
        if (!of && kind == AreaOf::Kind::part) map_.lost.push_back(of.error());
      }
    count();
    borders();
    return std::move(map_);
  }

 private:
  struct Span {
    int part = 0, first = 0, last = 0;
    std::string name;
  };

  void find_spans() {
    int at = 0;
    for (std::size_t i = 0; i < ground_.form.parts.size(); ++i) {
      const int n = cut_ ? cut_->spans[i] : ground_.form.spans[i].triangles;
      spans_.push_back({ground_.form.parts[i]->part, at, at + n, ground_.form.parts[i]->name});
      at += n;
    }
  }
  const Span* span_of_part(int part) const {
    const auto at = std::find_if(spans_.begin(), spans_.end(), [&](const Span& s) { return s.part == part; });
    return at == spans_.end() ? nullptr : &*at;
  }

  void lose(const ColourArea& area, const std::string& what) {
    map_.lost.push_back(
        {Errc::unknown_name, "The colour area " + in_quotes(area.name) + " is of " + what + ", which is not there.",
            "coat/areas/" + std::to_string(area.id)});
  }

  /// Its row in the map, made if it is new.
  std::size_t row(const ColourArea& area, int part, const std::string& host) {
    const auto at = std::find(map_.areas.begin(), map_.areas.end(), area.id);
    if (at != map_.areas.end()) return static_cast<std::size_t>(at - map_.areas.begin());
    map_.areas.push_back(area.id);
    map_.area_mm2.push_back(0.0);
    map_.host.push_back(host);
    map_.part.push_back(part);
    return map_.areas.size() - 1;
  }

  void paint(const ColourArea& area, const AreaOf& of) {
    if (of.kind == AreaOf::Kind::detail) return paint_detail(area, of.id);
    const Span* span = span_of_part(of.id);
    if (span == nullptr) return lose(area, "a part");
    if (of.kind == AreaOf::Kind::inside) {
      map_.area_mm2[row(area, span->part, span->name)] +=
          ground_.form.parts[static_cast<std::size_t>(span - spans_.data())]->area_mm2;
      return;
    }
    if (of.kind == AreaOf::Kind::field) return paint_field(area, of, *span);
    if (of.kind == AreaOf::Kind::part) {
      row(area, span->part, span->name);
      std::fill(map_.area_of_face.begin() + span->first, map_.area_of_face.begin() + span->last, area.id);
      return;
    }
    bool any = false;
    if (ground_.panels != nullptr)
      for (const Panel& p : ground_.panels->panels) {
        if (spans_[static_cast<std::size_t>(p.part)].part != of.id) continue;
        if (p.name != of.panel && p.name != span->name + ", " + of.panel && !p.name.ends_with(of.panel)) continue;
        any = true;
        paint_panel(p, area.id);
      }
    if (!any) return lose(area, "the panel " + in_quotes(of.panel));
    row(area, span->part, span->name);
  }

  void paint_panel(const Panel& panel, int area) {
    if (!cut_) {
      for (const int f : panel.faces) map_.area_of_face[static_cast<std::size_t>(f)] = area;
      return;
    }
    std::vector<char> in(ground_.form.surface.mesh.triangles.size(), 0);
    for (const int f : panel.faces) in[static_cast<std::size_t>(f)] = 1;
    for (std::size_t f = 0; f < map_.area_of_face.size(); ++f)
      if (in[static_cast<std::size_t>(cut_->face_of[f])] != 0) map_.area_of_face[f] = area;
  }

  void paint_field(const ColourArea& area, const AreaOf& of, const Span& span) {
    const auto fields = cut_ ? fields_at(*cut_, ground_.form, of.id, of.seed, of.both_sides) : std::vector<int>();
    std::size_t faces = 0;
    for (const int k : fields) faces += cut_->fields[static_cast<std::size_t>(k)].faces.size();
    if (fields.empty() || faces >= static_cast<std::size_t>(span.last - span.first)) {
      map_.lost.push_back({Errc::degenerate_shape,
          "The colour area " + in_quotes(area.name) + " has no line round it on the " + span.name +
              ": draw where colours meet, or give the part that colour.",
          "coat/areas/" + std::to_string(area.id)});
      return;
    }
    for (const int k : fields)
      for (const int f : cut_->fields[static_cast<std::size_t>(k)].faces)
        map_.area_of_face[static_cast<std::size_t>(f)] = area.id;
    row(area, span.part, span.name);
  }

  const Dressed* dressed(int detail) const {
    if (ground_.dressed != nullptr)
      for (const auto& one : *ground_.dressed)
        if (one->detail == detail) return one.get();
    return nullptr;
  }

  void paint_detail(const ColourArea& area, int detail) {
    const Dressed* d = dressed(detail);
    if (d == nullptr) return lose(area, "a detail");
    const Span* span = span_of_part(d->yield.part);
    if (span == nullptr) return lose(area, "a detail of a part that could not be made");
    const std::size_t at = row(area, span->part, span->name);
    for (const Piece& p : d->yield.pieces) map_.area_mm2[at] += std::abs(signed_area_mm2(p.outline)) * p.copies;
    if (d->yield.pieces.empty())
      for (const YieldSolid& s : d->yield.solids) map_.area_mm2[at] += 0.5 * awl::area_mm2(s.mesh);
    map_.details.push_back({detail, area.id});
  }

  void count() {
    for (std::size_t f = 0; f < mesh_.triangles.size(); ++f)
      if (const int id = map_.area_of_face[f]; id != 0)
        map_.area_mm2[index_of(id)] += 0.5 * area_vector(mesh_, mesh_.triangles[f]).norm();
  }
  std::size_t index_of(int id) const {
    return static_cast<std::size_t>(std::find(map_.areas.begin(), map_.areas.end(), id) - map_.areas.begin());
  }

  void meet(int one, int other, double mm) {
    if (one == other) return;
    if (one == 0 || other == 0) {
      map_.bare_mm[index_of(one + other)] += mm;
      return;
    }
    const std::size_t a = index_of(one), b = index_of(other);
    map_.border_mm[a][b] += mm;
    map_.border_mm[b][a] += mm;
  }

  void borders() {
    const std::size_t n = map_.areas.size();
    map_.border_mm.assign(n, std::vector<double>(n, 0.0));
    map_.reach_mm = map_.border_mm;
    map_.bare_mm.assign(n, 0.0);
    if (n == 0) return;
    edges_within();
    feet();
    for (const auto& [detail, area] : map_.details) {
      const Dressed* d = dressed(detail);
      double round = 0.0, along = 0.0;
      for (const Piece& p : d->yield.pieces) round += round_of(p.outline) * p.copies;
      for (const FormLine& line : d->lines) along += line.length_mm;
      const double mm = along > 0.0 ? std::min(round, 2.0 * along * std::max<std::size_t>(1, d->rows.size())) : round;
      if (mm > 0.0) meet(area, area_under(*d), mm);
    }
    reach();
  }

  /// How much of each other's edges areas of one part lie within reach of that do not meet.
  void reach() {
    const std::size_t n = map_.areas.size();
    for (std::size_t a = 0; a < n; ++a)
      for (std::size_t b = 0; b < n; ++b) {
        if (a == b || map_.part[a] != map_.part[b] || map_.border_mm[a][b] > 0.0) continue;
        double mm = 0.0;
        for (const auto& [at, length] : edges_of_[map_.areas[b]])
          if (std::any_of(edges_of_[map_.areas[a]].begin(), edges_of_[map_.areas[a]].end(),
                  [&, p = at](const auto& edge) { return (edge.first - p).norm() < kReachMm; }))
            mm += length;
        map_.reach_mm[a][b] = std::max(map_.reach_mm[a][b], mm);
        map_.reach_mm[b][a] = map_.reach_mm[a][b];
      }
  }

  /// The area most of a detail's line lies on.
  int area_under(const Dressed& d) const {
    const Span* span = span_of_part(d.yield.part);
    std::map<int, int> seen;
    for (int f = span->first; f < span->last; ++f) ++seen[map_.area_of_face[static_cast<std::size_t>(f)]];
    int most = 0, best = -1;
    for (const auto& [area, faces] : seen)
      if (faces > best) {
        best = faces;
        most = area;
      }
    return most;
  }

  void edges_within() {
    std::map<std::pair<int, int>, int> first;
    for (std::size_t f = 0; f < mesh_.triangles.size(); ++f)
      for (int k = 0; k < 3; ++k) {
        const int a = mesh_.triangles[f][k], b = mesh_.triangles[f][(k + 1) % 3];
        const auto [at, is_new] = first.try_emplace({std::min(a, b), std::max(a, b)}, static_cast<int>(f));
        if (is_new) continue;
        const int one = map_.area_of_face[static_cast<std::size_t>(at->second)], other = map_.area_of_face[f];
        if (one != other) {
          const double mm = (mesh_.vertices[a] - mesh_.vertices[b]).norm();
          meet(one, other, mm);
          for (const int area : {one, other})
            edges_of_[area].push_back({0.5 * (mesh_.vertices[a] + mesh_.vertices[b]), mm});
        }
        first.erase(at);
      }
    rims_.clear();
    for (const auto& [edge, face] : first) rims_.push_back({edge.first, edge.second, face});
  }

  /// Rims of parts that stand on others.
  void feet() {
    for (const Span& guest : spans_) {
      const int on = ground_.on(guest.part);
      const Span* host = on != 0 ? span_of_part(on) : nullptr;
      if (host == nullptr) continue;
      Mesh below;
      below.vertices = mesh_.vertices;
      below.triangles.assign(mesh_.triangles.begin() + host->first, mesh_.triangles.begin() + host->last);
      const Nearest nearest(below);
      for (const auto& [a, b, face] : rims_) {
        if (face < guest.first || face >= guest.last) continue;
        const NearestHit hit = nearest.to(0.5 * (mesh_.vertices[a] + mesh_.vertices[b]));
        if (hit.triangle < 0 || std::abs(hit.signed_mm) > kFootMm) continue;
        meet(map_.area_of_face[static_cast<std::size_t>(face)],
            map_.area_of_face[static_cast<std::size_t>(host->first + hit.triangle)],
            (mesh_.vertices[a] - mesh_.vertices[b]).norm());
      }
    }
  }

  const ColourGround& ground_;
  std::shared_ptr<const PaintGround> cut_;
  const Mesh& mesh_;
  std::vector<Span> spans_;
  struct Rim {
    int a, b, face;
  };
  std::vector<Rim> rims_;
  std::map<int, std::vector<std::pair<Vec3, double>>> edges_of_;  ///< of each area, where it ends
  ColourMap map_;
};

}  // namespace

int ColourMap::area_of_detail(int detail) const {
  for (const auto& [one, area] : details)
    if (one == detail) return area;
  return 0;
}

Result<AreaOf> area_of(const ColourArea& area) {
  constexpr std::pair<const char*, AreaOf::Kind> kKinds[] = {{"part", AreaOf::Kind::part},
      {"inside", AreaOf::Kind::inside}, {"panel", AreaOf::Kind::panel}, {"field", AreaOf::Kind::field},
      {"detail", AreaOf::Kind::detail}};
  Words words(area.of);
  const std::string kind(words.next());
  AreaOf of;
  of.id = words.whole().value_or(0);
  for (const auto& [word, value] : kKinds) {
    if (kind != word || of.id <= 0) continue;
    of.kind = value;
    if (value == AreaOf::Kind::panel) {
      of.panel = words.rest();
      if (of.panel.empty()) break;
    }
    if (value == AreaOf::Kind::field) {
      bool sound = true;
      for (double& c : of.seed) {
        const auto read = words.number();
        sound = sound && read;
        c = read.value_or(0.0);
      }
      const std::string_view alone = words.next();
      of.both_sides = alone.empty();
      if (!sound || (!of.both_sides && alone != "alone")) break;
    }
    return of;
  }
  return fail(Errc::bad_file,
      "The colour area " + in_quotes(area.name) + " is of " + in_quotes(area.of) +
          ", which names no part, inside, panel, field or detail.",
      "coat/areas/" + std::to_string(area.id));
}

std::string words_of(const PaintField& field) {
  std::string words = "field " + std::to_string(field.part);
  for (const double c : field.seed) words += " " + fixed(c, 2);
  return words;
}

ColourMap colour_map(const ColourGround& ground) { return Mapper(ground).run(); }

}  // namespace awl
