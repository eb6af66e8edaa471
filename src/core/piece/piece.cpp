#include "core/piece/piece.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/nearest.hpp"
#include "core/piece/fair_outlines.hpp"

namespace awl {
namespace {

constexpr double kFlatMm = 2000.0;  // radius of a bend nobody needs to make: workshop value

/// A place on a form edge: (1 - t) * a + t * b, a < b.
struct SeamPlace {
  std::pair<int, int> edge;
  double t = 0.0, along_mm = 0.0;
  std::string word = {};  ///< of a quarter
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

/// Directions along a chain as it runs on the whole: what zigzags along a mesh's edges does not turn.
std::vector<Vec3> directions_along(const std::vector<int>& chain, const std::vector<Vec3>& at) {
  constexpr int kRounds = 3;
  std::vector<Vec3> line;
  for (const int v : chain) line.push_back(at[v]);
  for (int round = 0; round < kRounds; ++round) {
    const std::vector<Vec3> was = line;
    for (std::size_t i = 1; i + 1 < line.size(); ++i) line[i] = 0.25 * was[i - 1] + 0.5 * was[i] + 0.25 * was[i + 1];
  }
  std::vector<Vec3> steps;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) steps.push_back((line[i + 1] - line[i]).normalized());
  return steps;
}

/// Where the ticks of one seam stand, by arc length and turning.
std::vector<SeamPlace> tick_places(const std::vector<int>& chain, const std::vector<Vec3>& at, const TickRule& rule) {
  std::vector<SeamPlace> places;
  double total = 0.0;
  for (std::size_t i = 0; i + 1 < chain.size(); ++i) total += (at[chain[i + 1]] - at[chain[i]]).norm();
  const auto directions = directions_along(chain, at);
  double along = 0.0, since = 0.0, turned = 0.0;
  for (std::size_t i = 0; i + 1 < chain.size(); ++i) {
    const double length = (at[chain[i + 1]] - at[chain[i]]).norm();
    if (i > 0) turned += std::acos(std::clamp(directions[i - 1].dot(directions[i]), -1.0, 1.0));
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

/// Where a level seam passes the wearer's front, back and sides, the middle of its form taken for theirs.
std::vector<SeamPlace> quarter_places(const std::vector<int>& chain, const std::vector<Vec3>& at, const Vec3& middle) {
  constexpr double kLevel = 0.5, kAcross = 0.7;  // how far a seam may climb, how squarely it passes
  const auto directions = directions_along(chain, at);
  std::vector<SeamPlace> places;
  double along = 0.0;
  for (std::size_t i = 0; i + 1 < chain.size(); ++i) {
    const Vec3 &p = at[chain[i]], &q = at[chain[i + 1]];
    const double length = (q - p).norm();
    for (const int axis : {0, 2}) {
      const double a = p[axis] - middle[axis], b = q[axis] - middle[axis];
      if ((a < 0.0) == (b < 0.0) || std::abs(directions[i].y()) > kLevel || std::abs(directions[i][axis]) < kAcross)
        continue;
      const double t = a / (a - b), there = axis == 0 ? p.z() - middle.z() : p.x() - middle.x();
      const bool forward = chain[i] < chain[i + 1];
      places.push_back({edge_of(chain[i], chain[i + 1]), forward ? t : 1.0 - t, along + t * length,
          axis == 0         ? (there > 0.0 ? "front" : "back")
              : there > 0.0 ? "left"
                            : "right"});
    }
    along += length;
  }
  return places;
}

/// Ticks of a seam on one border edge, at their length along the stretch it lies in: the same on both its sides.
void add_ticks(PieceEdge& edge, const Panel& panel, std::size_t border, const FairStretch& stretch, std::size_t k,
    const std::vector<SeamPlace>& places) {
  const BorderEdge& e = panel.border[border];
  const int ga = panel.vertex_of[e.a], gb = panel.vertex_of[e.b];
  for (std::size_t i = 0; i < places.size(); ++i) {
    if (places[i].edge != edge_of(ga, gb)) continue;
    const double t = ga < gb ? places[i].t : 1.0 - places[i].t;
    const OnCurve on = at_length(stretch.curve, (1.0 - t) * stretch.at_mm[k] + t * stretch.at_mm[k + 1]);
    Tick tick{on.at, Vec2(-on.along.y(), on.along.x()), 0, places[i].along_mm, places[i].word};
    if (tick.word.empty()) tick.number = static_cast<int>(i) + 1;
    edge.ticks.push_back(std::move(tick));
  }
}

/// The mean tilt of the blade between two places along a stretch.
double tilt_between(const Panel& panel, const FairStretch& stretch, double from, double to) {
  double sum = 0.0;
  for (std::size_t k = 0; k < stretch.count; ++k) {
    const double common = std::min(to, stretch.at_mm[k + 1]) - std::max(from, stretch.at_mm[k]);
    const BorderEdge& e = panel.border[(stretch.first + k) % panel.border.size()];
    if (common > 0.0) sum += common * degrees(0.5 * e.turn_rad);
  }
  return sum / std::max(to - from, 1e-9);
}

/// A stretch drawn out: its points, and the blade's tilt along each step between them.
void add_stretch(PieceEdge& edge, const Panel& panel, const FairStretch& stretch) {
  std::vector<double> lengths;
  const auto points = points_of(stretch.curve, kDrawnOffMm, kDrawnChordMm, &lengths);
  if (edge.line.empty()) edge.line.push_back(points.front());
  const double bevel = panel.border[stretch.first].seam.valid() ? 0.0 : panel.bevel_deg;
  for (std::size_t i = 0; i + 1 < points.size(); ++i) {
    edge.line.push_back(points[i + 1]);
    edge.tilts_deg.push_back(bevel + tilt_between(panel, stretch, lengths[i], lengths[i + 1]));
  }
  edge.length_mm += lengths.back();
  edge.curve.insert(edge.curve.end(), stretch.curve.begin(), stretch.curve.end());
}

/// Edges of a piece, one for each seam it meets, from where the seam changes.
std::vector<PieceEdge> edges_of(const Panel& panel, const FairPanel& fair, const PanelSet& set,
    const std::map<SeamId, std::vector<SeamPlace>>& ticks) {
  std::vector<PieceEdge> edges;
  const std::size_t n = fair.stretches.size();
  const auto seam_of = [&](std::size_t s) { return panel.border[fair.stretches[s % n].first].seam; };
  std::size_t start = 0;
  while (start + 1 < n && seam_of(start) == seam_of(start + n - 1)) ++start;
  if (seam_of(start) == seam_of(start + n - 1)) start = 0;
  double turn = 0.0;
  const auto close_run = [&] {
    if (edges.empty()) return;
    const double bevel = edges.back().seam.valid() ? 0.0 : panel.bevel_deg;
    edges.back().tilt_deg = bevel + degrees(0.5 * turn / std::max(edges.back().length_mm, 1e-9));
  };
  for (std::size_t s = start; s < start + n; ++s) {
    const FairStretch& stretch = fair.stretches[s % n];
    if (edges.empty() || seam_of(s) != edges.back().seam) {
      close_run();
      turn = 0.0;
      PieceEdge fresh;
      fresh.seam = seam_of(s);
      if (fresh.seam.valid()) fresh.letter = set.seams[fresh.seam.value].letter;
      edges.push_back(std::move(fresh));
    }
    PieceEdge& edge = edges.back();
    add_stretch(edge, panel, stretch);
    const auto places = ticks.find(edge.seam);
    for (std::size_t k = 0; k < stretch.count; ++k) {
      const std::size_t border = (stretch.first + k) % panel.border.size();
      turn += (stretch.at_mm[k + 1] - stretch.at_mm[k]) * panel.border[border].turn_rad;
      if (places != ticks.end()) add_ticks(edge, panel, border, stretch, k, places->second);
    }
  }
  close_run();
  return edges;
}

/// Rims of openings within a panel, as curves and as points.
void put_holes(Piece& piece, const Panel& panel, const FairPanel& fair) {
  for (std::size_t h = 0; h < panel.holes.size(); ++h) {
    const Curve& curve = fair.holes[h];
    std::vector<Vec2> rim = points_of(curve, kDrawnOffMm, kDrawnChordMm);
    if (rim.size() > 3 && !crosses_itself({rim.begin(), rim.end() - 1})) {
      rim.pop_back();
      piece.hole_curves.push_back(curve);
    } else {
      rim.clear();
      for (const int v : panel.holes[h]) rim.push_back(panel.flat[v]);
      piece.hole_curves.emplace_back();
    }
    piece.area_mm2 -= std::abs(signed_area_mm2(rim));
    piece.holes.push_back(std::move(rim));
  }
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

void find_label_place(Piece& piece) {
  const Roomiest place = roomiest_place(piece.outline, piece.holes);
  piece.label_at = place.at, piece.label_room_mm = place.room_mm;
}

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

Vec2 Pose::turned(const Vec2& p) const { return Eigen::Rotation2Dd(angle_rad) * Vec2(flipped ? -p.x() : p.x(), p.y()); }

Pose Pose::after(const Pose& first) const {
  // A mirror turns the other way round.
  return {(*this)(first.at), angle_rad + (flipped ? -first.angle_rad : first.angle_rad), flipped != first.flipped};
}

std::vector<PanelId> Piece::panels() const {
  std::vector<PanelId> all;
  if (panel.valid()) all.push_back(panel);
  if (twin) all.push_back(*twin);
  for (const FoldedOn& on : also) {
    all.push_back(on.panel);
    if (on.twin) all.push_back(*on.twin);
  }
  return all;
}

std::string Piece::cut_note() const { return "cut " + std::to_string(copies) + (copies == 2 ? ", flip 1" : ""); }

const char* name_of(TraceKind kind) {
  constexpr const char* kNames[] = {
      "foot", "glue", "centre", "level", "place", "drill", "open", "burn", "carve", "stitch", "grain", "fold", "slot"};
  return kNames[static_cast<int>(kind)];
}

const char* name_of(TraceSide side) {
  constexpr const char* kNames[] = {"both", "left", "right"};
  return kNames[static_cast<int>(side)];
}

std::vector<Piece> make_pieces(const PanelSet& set, const TickRule& rule) {
  std::map<SeamId, std::vector<SeamPlace>> ticks;
  std::vector<Vec3> middle_of;  // of each part's form
  std::size_t v0 = 0;
  for (const FormSpan& span : set.spans) {
    Box box;
    for (int v = 0; v < span.vertices; ++v) box.include(set.form.mesh.vertices[v0 + v]);
    middle_of.insert(middle_of.end(), static_cast<std::size_t>(span.vertices), 0.5 * (box.low + box.high));
    v0 += static_cast<std::size_t>(span.vertices);
  }
  for (const auto& [id, chain] : seam_chains(set.form)) {
    ticks[id] = tick_places(chain, set.form.mesh.vertices, rule);
    if (!rule.quarters) continue;
    for (SeamPlace& place : quarter_places(chain, set.form.mesh.vertices, middle_of[chain.front()]))
      ticks[id].push_back(std::move(place));
  }
  const FairOutlines fair = fair_outlines(set);
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
    const FairPanel& own = fair.panels[panel->id.value];
    piece.edges = edges_of(*panel, own, set, ticks);
    for (const PieceEdge& e : piece.edges) piece.knife.insert(piece.knife.end(), e.curve.begin(), e.curve.end());
    for (const PieceEdge& e : piece.edges) piece.outline.insert(piece.outline.end(), e.line.begin(), e.line.end() - 1);
    piece.thickness_mm = panel->thickness_mm;
    piece.area_mm2 = signed_area_mm2(piece.outline);
    put_holes(piece, *panel, own);
    piece.front = front_of(*panel);
    piece.heat_note = heat_note_of(*panel, piece.thickness_mm);
    if (const double radius = bend_radius_mm(*panel); radius <= kFlatMm) piece.bend_across_mm = 2.0 * radius;
    find_label_place(piece);
    pieces.push_back(std::move(piece));
  }
  return pieces;
}

}  // namespace awl
