#include "core/piece/piece.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr double kFlatMm = 2000.0;  // radius of a bend nobody needs to make: workshop value

/// A place on a form edge: (1 - t) * a + t * b, a < b.
struct SeamPlace {
  std::pair<int, int> edge;
  double t = 0.0, along_mm = 0.0;
};

/// Vertices of each seam in order from one end to the other.
std::map<SeamId, std::vector<int>> seam_chains(const SeamMesh& form) {
  std::map<SeamId, std::map<int, std::vector<int>>> next;
  for (const auto& [edge, id] : form.seam_of) {
    next[id][edge.first].push_back(edge.second);
    next[id][edge.second].push_back(edge.first);
  }
  std::map<SeamId, std::vector<int>> chains;
  for (auto& [id, links] : next) {
    int start = links.begin()->first;
    for (const auto& [v, to] : links)
      if (to.size() == 1) {
        start = v;
        break;
      }
    std::vector<int>& chain = chains[id];
    for (int v = start, from = -1; v >= 0 && chain.size() <= links.size() && (chain.empty() || v != start);) {
      chain.push_back(v);
      int to = -1;
      for (const int w : links[v])
        if (w != from && (chain.size() < 2 || w != chain[chain.size() - 2])) to = w;
      from = v, v = to;
    }
  }
  return chains;
}

/// Where the ticks of one seam stand, by arc length and turning.
std::vector<SeamPlace> tick_places(const std::vector<int>& chain, const std::vector<Vec3>& at, const TickRule& rule) {
  std::vector<SeamPlace> places;
  double total = 0.0;
  for (std::size_t i = 0; i + 1 < chain.size(); ++i) total += (at[chain[i + 1]] - at[chain[i]]).norm();
  double along = 0.0, since = 0.0, turned = 0.0;
  Vec3 last = Vec3::Zero();
  for (std::size_t i = 0; i + 1 < chain.size(); ++i) {
    const Vec3 step = at[chain[i + 1]] - at[chain[i]];
    const double length = step.norm();
    if (i > 0) turned += std::acos(std::clamp(last.dot(step / length), -1.0, 1.0));
    last = step / length;
    const bool due =
        since + length >= rule.every_mm || (degrees(turned) >= rule.turn_deg && since + length >= rule.apart_mm);
    const double t = std::clamp((std::min(rule.every_mm, since + length) - since) / length, 0.1, 0.9);
    if (due && along + t * length < total - rule.apart_mm) {
      const bool forward = chain[i] < chain[i + 1];
      places.push_back({edge_of(chain[i], chain[i + 1]), forward ? t : 1.0 - t, along + t * length});
      since = (1.0 - t) * length, turned = 0.0;
    } else {
      since += length;
    }
    along += length;
  }
  return places;
}

/// The border starting at a corner, so that no run is broken in two.
std::size_t first_corner(const Panel& panel) {
  for (std::size_t i = 0; i < panel.border.size(); ++i)
    if (panel.border[i].seam != panel.border[(i + panel.border.size() - 1) % panel.border.size()].seam) return i;
  return 0;
}

void add_ticks(PieceEdge& edge, const Panel& panel, const BorderEdge& e, const std::vector<SeamPlace>& places) {
  const int ga = panel.vertex_of[e.a], gb = panel.vertex_of[e.b];
  for (std::size_t k = 0; k < places.size(); ++k) {
    if (places[k].edge != edge_of(ga, gb)) continue;
    const double t = ga < gb ? places[k].t : 1.0 - places[k].t;
    const Vec2 a = panel.flat[e.a], b = panel.flat[e.b], d = (b - a).normalized();
    edge.ticks.push_back({a + t * (b - a), Vec2(-d.y(), d.x()), static_cast<int>(k) + 1, places[k].along_mm});
  }
}

std::vector<PieceEdge> edges_of(
    const Panel& panel, const PanelSet& set, const std::map<SeamId, std::vector<SeamPlace>>& ticks) {
  std::vector<PieceEdge> edges;
  const std::size_t n = panel.border.size(), start = first_corner(panel);
  double turn = 0.0;
  const auto close_run = [&] {
    if (!edges.empty() && !edges.back().seam.valid())
      edges.back().tilt_deg = panel.bevel_deg;
    else if (!edges.empty())
      edges.back().tilt_deg = degrees(0.5 * turn / std::max(edges.back().length_mm, 1e-9));
  };
  for (std::size_t k = 0; k < n; ++k) {
    const BorderEdge& e = panel.border[(start + k) % n];
    if (edges.empty() || e.seam != edges.back().seam) {
      close_run();
      turn = 0.0;
      PieceEdge fresh;
      fresh.seam = e.seam;
      if (e.seam.valid()) fresh.letter = set.seams[e.seam.value].letter;
      fresh.line.push_back(panel.flat[e.a]);
      edges.push_back(std::move(fresh));
    }
    PieceEdge& edge = edges.back();
    const double length = (panel.flat[e.b] - panel.flat[e.a]).norm();
    edge.line.push_back(panel.flat[e.b]);
    edge.length_mm += length;
    edge.tilts_deg.push_back(e.seam.valid() ? degrees(0.5 * e.turn_rad) : panel.bevel_deg);
    turn += length * e.turn_rad;
    if (const auto places = ticks.find(e.seam); places != ticks.end()) add_ticks(edge, panel, e, places->second);
  }
  close_run();
  return edges;
}

/// The roomiest place by a coarse grid and two refinements.
void find_label_place(Piece& piece) {
  Vec2 low = piece.outline[0], high = low;
  for (const Vec2& p : piece.outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
  Vec2 best = 0.5 * (low + high);
  double room = -1.0, reach = 0.5 * std::max((high - low).x(), (high - low).y());
  for (int round = 0; round < 4; ++round, reach *= 0.25) {
    const Vec2 centre = best;
    for (int i = -8; i <= 8; ++i)
      for (int j = -8; j <= 8; ++j) {
        const Vec2 p = centre + reach / 8.0 * Vec2(i, j);
        if (!inside(piece.outline, p)) continue;
        double d = distance_to_outline(piece.outline, p);
        for (const auto& hole : piece.holes) d = inside(hole, p) ? 0.0 : std::min(d, distance_to_outline(hole, p));
        if (d > room) room = d, best = p;
      }
  }
  piece.label_at = best;
  piece.label_room_mm = std::max(room, 0.0);
}

/// Where the wearer's front points on the flat panel, if it lies in its surface at all.
std::optional<Vec2> front_of(const Panel& panel) {
  Vec2 sum = Vec2::Zero();
  double area = 0.0;
  for (const Tri& t : panel.solid.triangles) {
    const TriangleFrame frame =
        frame_of_triangle(panel.solid.vertices[t[0]], panel.solid.vertices[t[1]], panel.solid.vertices[t[2]]);
    Eigen::Matrix2d j = Eigen::Matrix2d::Zero();
    for (int k = 0; k < 3; ++k) j += panel.flat[t[k]] * frame.gradients.col(k).transpose();
    const Vec3 e1 = (panel.solid.vertices[t[1]] - panel.solid.vertices[t[0]]).normalized();
    sum += frame.area_mm2 * (j * Vec2(e1.z(), area_vector(panel.solid, t).normalized().cross(e1).z()));
    area += frame.area_mm2;
  }
  if (sum.norm() < 0.45 * area) return std::nullopt;
  return Vec2(sum.normalized());
}

/// Glue order: crown first, front to back, then downwards.
double glue_rank(const Panel& panel) {
  Vec3 c = Vec3::Zero();
  for (const Vec3& p : panel.solid.vertices) c += p / static_cast<double>(panel.solid.vertices.size());
  const double level = c.y() > 55.0 ? 0.0 : c.y() > -20.0 ? 1.0 : 2.0;
  return 1000.0 * level - c.z();
}

std::string tens_mm(double mm) { return fixed(10.0 * std::round(0.1 * mm), 0); }

/// What heat and hands must do to the flat piece.
std::string heat_note_of(const Panel& panel, double thickness_mm) {
  const double radius = bend_radius_mm(panel);
  if (radius > kFlatMm) return "stays flat";
  std::string note = "bend round about " + tens_mm(2.0 * radius) + " mm across";
  if (panel.strain.p99 > 0.01)
    note += ", stretch up to " + fixed(100.0 * panel.strain.p99, 0) + " % over something round";
  if (0.5 * thickness_mm / std::max(radius, 1.0) > 0.1) note += "; cut slots inside";
  return note;
}

}  // namespace

double bend_radius_mm(const Panel& panel) {
  const auto normals = vertex_normals(panel.solid);
  Vec3 middle = Vec3::Zero(), mean = Vec3::Zero();
  const double n = static_cast<double>(normals.size());
  for (std::size_t v = 0; v < normals.size(); ++v) middle += panel.solid.vertices[v] / n, mean += normals[v] / n;
  double places = 0.0, turns = 0.0;
  for (std::size_t v = 0; v < normals.size(); ++v)
    places += (panel.solid.vertices[v] - middle).squaredNorm(), turns += (normals[v] - mean).squaredNorm();
  return std::sqrt(places / std::max(turns, 1e-12));
}

Piece plate_piece(const std::string& name, int number, std::vector<Vec2> outline, std::vector<std::vector<Vec2>> holes,
    double thickness_mm) {
  Piece piece;
  piece.id = PieceId{number - 1};
  piece.number = number, piece.name = name, piece.thickness_mm = thickness_mm;
  if (signed_area_mm2(outline) < 0.0) std::reverse(outline.begin(), outline.end());
  const Vec2 middle = polygon_centre(outline);
  for (Vec2& p : outline) p -= middle;
  for (auto& hole : holes)
    for (Vec2& p : hole) p -= middle;
  PieceEdge rim;
  rim.line = outline;
  rim.line.push_back(outline.front());
  for (std::size_t i = 0; i + 1 < rim.line.size(); ++i) rim.length_mm += (rim.line[i + 1] - rim.line[i]).norm();
  piece.edges.push_back(std::move(rim));
  piece.area_mm2 = signed_area_mm2(outline);
  for (const auto& hole : holes) piece.area_mm2 -= std::abs(signed_area_mm2(hole));
  piece.outline = std::move(outline), piece.holes = std::move(holes);
  piece.front = Vec2::UnitY();
  find_label_place(piece);
  return piece;
}

void add_cross(std::vector<Piece>& pieces, const PanelSet& set, const Vec3& place, const std::string& name) {
  double best = 1e300;
  Piece* on = nullptr;
  Vec2 at = Vec2::Zero();
  for (Piece& piece : pieces) {
    if (!piece.panel.valid()) continue;
    const Panel& panel = set.panels[piece.panel.value];
    for (const Tri& t : panel.solid.triangles) {
      const Vec3 w =
          closest_weights(place, panel.solid.vertices[t[0]], panel.solid.vertices[t[1]], panel.solid.vertices[t[2]]);
      const Vec3 hit =
          w[0] * panel.solid.vertices[t[0]] + w[1] * panel.solid.vertices[t[1]] + w[2] * panel.solid.vertices[t[2]];
      const double off = (hit - place).norm();
      if (off >= best) continue;
      best = off, on = &piece;
      at = w[0] * panel.flat[t[0]] + w[1] * panel.flat[t[1]] + w[2] * panel.flat[t[2]];
    }
  }
  if (on == nullptr || best > 15.0) return;
  const bool both_sides = on->copies == 2 && name.rfind("left ", 0) == 0;
  on->crosses.push_back({at, both_sides ? name.substr(5) : name});
}

std::string Piece::cut_note() const { return "cut " + std::to_string(copies) + (copies == 2 ? ", flip 1" : ""); }

const char* name_of(TraceKind kind) {
  constexpr const char* kNames[] = {
      "foot", "glue", "centre", "level", "place", "drill", "open", "burn", "carve", "stitch", "grain"};
  return kNames[static_cast<int>(kind)];
}

const char* name_of(TraceSide side) {
  constexpr const char* kNames[] = {"both", "left", "right"};
  return kNames[static_cast<int>(side)];
}

std::vector<Piece> make_pieces(const PanelSet& set, const TickRule& rule) {
  std::map<SeamId, std::vector<SeamPlace>> ticks;
  for (const auto& [id, chain] : seam_chains(set.form)) ticks[id] = tick_places(chain, set.form.mesh.vertices, rule);
  std::map<PanelId, PanelId> twin_of;
  std::vector<const Panel*> order;
  for (const Panel& panel : set.panels) {
    if (panel.mirror_of)
      twin_of[*panel.mirror_of] = panel.id;
    else
      order.push_back(&panel);
  }
  std::stable_sort(order.begin(), order.end(), [](const Panel* a, const Panel* b) {
    return std::pair(a->part, glue_rank(*a)) < std::pair(b->part, glue_rank(*b));
  });
  std::vector<Piece> pieces;
  for (const Panel* panel : order) {
    Piece piece;
    piece.id = PieceId{static_cast<int>(pieces.size())};
    piece.number = static_cast<int>(pieces.size()) + 1;
    piece.panel = panel->id;
    piece.name = panel->name;
    if (const auto twin = twin_of.find(panel->id); twin != twin_of.end()) {
      piece.twin = twin->second;
      piece.copies = 2;
      if (const auto at = piece.name.find(" left"); at != std::string::npos) piece.name.erase(at, 5);
    }
    piece.edges = edges_of(*panel, set, ticks);
    for (const PieceEdge& e : piece.edges) piece.outline.insert(piece.outline.end(), e.line.begin(), e.line.end() - 1);
    piece.thickness_mm = panel->thickness_mm;
    piece.area_mm2 = signed_area_mm2(piece.outline);
    for (const auto& loop : panel->holes) {
      piece.holes.emplace_back();
      for (const int v : loop) piece.holes.back().push_back(panel->flat[v]);
      piece.area_mm2 -= std::abs(signed_area_mm2(piece.holes.back()));
    }
    piece.front = front_of(*panel);
    piece.heat_note = heat_note_of(*panel, piece.thickness_mm);
    if (const double radius = bend_radius_mm(*panel); radius <= kFlatMm) piece.bend_across_mm = 2.0 * radius;
    find_label_place(piece);
    pieces.push_back(std::move(piece));
  }
  return pieces;
}

}  // namespace awl
