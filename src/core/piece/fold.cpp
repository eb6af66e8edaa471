#include "core/piece/fold.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/curve_fit.hpp"

namespace awl {
namespace {

constexpr double kFitsMm = 1.0;       // edges nearer than this when laid side by side are one line: workshop value
constexpr double kOverlapMm2 = 4.0;   // and so much may outlines overlap at their corners
constexpr std::size_t kSamples = 25;  // places of an edge compared
constexpr double kOneWay = 0.4;       // the other way it bends no more than by this share
constexpr double kShortestSlotMm = 8.0;

Vec2 at_share(const std::vector<Vec2>& line, double share) {
  double all = 0.0;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) all += (line[i + 1] - line[i]).norm();
  double left = share * all;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const double step = (line[i + 1] - line[i]).norm();
    if (left <= step && step > 0.0) return line[i] + left / step * (line[i + 1] - line[i]);
    left -= step;
  }
  return line.back();
}

/// The pose least squares take one set of places to another by; distances stay.
Pose best_pose(const std::vector<Vec2>& from, const std::vector<Vec2>& to, bool flipped) {
  Pose pose;
  pose.flipped = flipped;
  Vec2 middle_from = Vec2::Zero(), middle_to = Vec2::Zero();
  const double n = static_cast<double>(from.size());
  for (std::size_t i = 0; i < from.size(); ++i) middle_from += pose.turned(from[i]) / n, middle_to += to[i] / n;
  double dot = 0.0, cross = 0.0;
  for (std::size_t i = 0; i < from.size(); ++i) {
    const Vec2 a = pose.turned(from[i]) - middle_from, b = to[i] - middle_to;
    dot += a.dot(b), cross += a.x() * b.y() - a.y() * b.x();
  }
  pose.angle_rad = std::atan2(cross, dot);
  pose.at = middle_to - Eigen::Rotation2Dd(pose.angle_rad) * middle_from;
  return pose;
}

/// An edge as it lies in the sheet when it is folded there: moved out by half of what the groove takes at the middle
/// layer.
std::vector<Vec2> opened(const PieceEdge& edge, double thickness_mm) {
  const std::size_t n = edge.line.size();
  std::vector<Vec2> line;
  for (std::size_t i = 0; i < n; ++i) {
    const Vec2 along = (edge.line[std::min(i + 1, n - 1)] - edge.line[i > 0 ? i - 1 : 0]).normalized();
    const std::size_t stretch = std::min(i, edge.tilts_deg.empty() ? 0 : edge.tilts_deg.size() - 1);
    const double tilt = edge.tilts_deg.empty() ? edge.tilt_deg : edge.tilts_deg[stretch];
    line.push_back(edge.line[i] + 0.5 * fold_groove(thickness_mm, 2.0 * tilt).apart_mm * Vec2(along.y(), -along.x()));
  }
  return line;
}

struct Fit {
  Pose pose;
  double off_mm = 0.0;     ///< the farthest both edges lie apart
  std::vector<Vec2> fold;  ///< between them, in the place of the first
};

Fit fit_of(const std::vector<Vec2>& own, const std::vector<Vec2>& other, bool mirrored) {
  std::vector<Vec2> a, b;
  for (std::size_t k = 0; k < kSamples; ++k) {
    const double share = static_cast<double>(k) / (kSamples - 1);
    a.push_back(at_share(own, share));
    // The other piece has the edge on its left too, so it runs the other way; its mirror image does not.
    b.push_back(at_share(other, mirrored ? share : 1.0 - share));
  }
  Fit fit;
  fit.pose = best_pose(b, a, mirrored);
  for (std::size_t k = 0; k < kSamples; ++k) {
    const Vec2 there = fit.pose(b[k]);
    fit.off_mm = std::max(fit.off_mm, (there - a[k]).norm());
    fit.fold.push_back(0.5 * (there + a[k]));
  }
  return fit;
}

template <class Points>
void move_all(Points& points, const Pose& pose) {
  for (Vec2& p : points) p = pose(p);
  if (pose.flipped) std::reverse(points.begin(), points.end());
}

Curve moved(Curve curve, const Pose& pose) {
  for (Cubic& c : curve)
    for (Vec2& p : c.p) p = pose(p);
  return pose.flipped ? reversed(curve) : curve;
}

PieceEdge moved(PieceEdge edge, const Pose& pose) {
  edge.curve = moved(std::move(edge.curve), pose);
  move_all(edge.line, pose);
  if (pose.flipped) std::reverse(edge.tilts_deg.begin(), edge.tilts_deg.end());
  for (Tick& t : edge.ticks) t.at = pose(t.at), t.inward = pose.turned(t.inward);
  return edge;
}

/// The piece where it lies in another.
Piece moved(Piece piece, const Pose& pose) {
  std::vector<PieceEdge> edges;
  for (PieceEdge& e : piece.edges) edges.push_back(moved(std::move(e), pose));
  if (pose.flipped) std::reverse(edges.begin(), edges.end());
  piece.edges = std::move(edges);
  move_all(piece.outline, pose);
  for (auto& hole : piece.holes) move_all(hole, pose);
  for (Curve& curve : piece.hole_curves) curve = moved(std::move(curve), pose);
  for (PieceCross& cross : piece.crosses) cross.at = pose(cross.at);
  for (PieceTrace& trace : piece.traces)
    for (Vec2& p : trace.line) p = pose(p);
  for (auto& guide : piece.guides)
    for (Vec2& p : guide) p = pose(p);
  for (FoldedOn& on : piece.also) on.pose = pose.after(on.pose);
  return piece;
}

/// Edges behind one, in their order round the piece.
std::vector<PieceEdge> edges_after(const Piece& piece, std::size_t edge) {
  std::vector<PieceEdge> edges;
  for (std::size_t k = 1; k < piece.edges.size(); ++k) edges.push_back(piece.edges[(edge + k) % piece.edges.size()]);
  return edges;
}

std::string groove_words(const FoldGroove& groove) {
  const std::string size = fixed(groove.depth_mm, 1) + " mm deep, " + fixed(groove.wide_mm, 1) + " mm wide, and fold";
  return groove.turn_deg >= 0.0 ? "groove the inside " + size : "groove the outside " + size;
}

/// A short straight edge that closes the outline over the ends of the groove, which falls away when it is folded.
PieceEdge end_of_groove(const Vec2& from, const Vec2& to) {
  PieceEdge edge;
  edge.line = {from, to};
  edge.curve = {straight(from, to)};
  edge.length_mm = (to - from).norm();
  edge.cut = EdgeCut::square;
  return edge;
}

void add_fold(Piece& piece, const Fit& fit, const FoldGroove& groove) {
  if (!groove.needed()) return;
  PieceTrace fold;
  fold.line = fit.fold, fold.kind = TraceKind::fold, fold.label = groove_words(groove);
  piece.traces.push_back(std::move(fold));
}

/// A piece's name without its part's.
std::string own_name(const Piece& piece, const std::string& other) {
  const auto comma = piece.name.find(", ");
  return comma != std::string::npos && other.starts_with(piece.name.substr(0, comma + 2)) ? piece.name.substr(comma + 2)
                                                                                          : piece.name;
}

/// Both as one piece. `b` lies in the place of `a` already.
Piece as_one(
    const Piece& a, std::size_t edge_a, const Piece& b, std::size_t edge_b, const Fit& fit, const FoldGroove& groove) {
  Piece one = a;
  const auto first = edges_after(a, edge_a), second = edges_after(b, edge_b);
  one.edges = first;
  const auto close = [&](const Vec2& to) {
    const Vec2 from = one.edges.back().line.back();
    if ((to - from).norm() > 1e-6) one.edges.push_back(end_of_groove(from, to));
  };
  close(second.front().line.front());
  one.edges.insert(one.edges.end(), second.begin(), second.end());
  close(first.front().line.front());
  one.outline.clear(), one.knife.clear();
  bool known = true;
  for (const PieceEdge& e : one.edges) {
    one.outline.insert(one.outline.end(), e.line.begin(), e.line.end() - 1);
    one.knife.insert(one.knife.end(), e.curve.begin(), e.curve.end());
    known = known && !e.curve.empty();
  }
  if (!known) one.knife.clear();
  const auto add = [](auto& to, const auto& more) { to.insert(to.end(), more.begin(), more.end()); };
  add(one.holes, b.holes), add(one.crosses, b.crosses), add(one.guides, b.guides);
  if (one.hole_curves.size() == a.holes.size() && b.hole_curves.size() == b.holes.size())
    add(one.hole_curves, b.hole_curves);
  else
    one.hole_curves.clear();
  for (const PieceTrace& t : b.traces)
    if (std::none_of(one.traces.begin(), one.traces.end(),
            [&](const PieceTrace& own) { return own.label == t.label && own.line == t.line; }))
      one.traces.push_back(t);
  for (const std::string& note : b.notes)
    if (std::find(one.notes.begin(), one.notes.end(), note) == one.notes.end()) one.notes.push_back(note);
  add_fold(one, fit, groove);
  one.area_mm2 = signed_area_mm2(one.outline);
  for (const auto& hole : one.holes) one.area_mm2 -= std::abs(signed_area_mm2(hole));
  if (one.heat_note != b.heat_note)
    one.heat_note = one.heat_note == "stays flat" ? b.heat_note
        : b.heat_note == "stays flat"             ? one.heat_note
                                                  : one.heat_note + "; beyond the fold " + b.heat_note;
  if (b.bend_across_mm > 0.0)
    one.bend_across_mm = one.bend_across_mm > 0.0 ? std::min(one.bend_across_mm, b.bend_across_mm) : b.bend_across_mm;
  one.cut_line.clear(), one.clips.clear();
  for (PieceEdge& e : one.edges) e.stays_apart.clear();  // it is another piece now: they are looked at again
  find_label_place(one);
  return one;
}

double overlap_mm2(const Piece& a, const Piece& b) {
  double both = 0.0;
  for (const auto& ring : common({a.outline}, {b.outline})) both += signed_area_mm2(ring);
  return both;
}

double mean_turn_deg(const PieceEdge& edge) { return 2.0 * edge.tilt_deg; }

class Folder {
 public:
  Folder(std::vector<Piece>& pieces, const PanelSet& panels) : pieces_(pieces), panels_(panels) {}

  void run() {
    for (at_ = 0; at_ < pieces_.size(); ++at_)
      while (fold_one(at_)) {
      }
  }

 private:
  /// Joins one neighbour over a trench to a piece; false if none fits.
  bool fold_one(std::size_t i) {
    for (std::size_t e = 0; e < pieces_[i].edges.size(); ++e) {
      const PieceEdge& edge = pieces_[i].edges[e];
      if (edge.cut != EdgeCut::trench || !edge.seam.valid() || !edge.stays_apart.empty()) continue;
      std::string why;
      if (try_edge(i, e, why)) return true;
      pieces_[i].edges[e].stays_apart = why;
    }
    return false;
  }

  bool try_edge(std::size_t i, std::size_t e, std::string& why) {
    const Piece& a = pieces_[i];
    const SeamId seam = a.edges[e].seam;
    const auto& sides = panels_.seams[seam.value].panels;
    if (a.twin && (sides[0] == *a.twin || sides[1] == *a.twin) && sides[0] != sides[1]) return try_image(i, e, why);
    for (std::size_t j = 0; j < pieces_.size(); ++j)
      for (std::size_t f = 0; f < pieces_[j].edges.size(); ++f) {
        if (pieces_[j].edges[f].seam != seam || (j == i && f == e)) continue;
        if (j == i) return why = "it would have to close on itself", false;
        if (pieces_[j].copies != a.copies || pieces_[j].twin.has_value() != a.twin.has_value())
          return why = "one side is cut once, the other twice", false;
        if (pieces_[j].stuff != a.stuff || std::abs(pieces_[j].thickness_mm - a.thickness_mm) > 1e-9)
          return why = "both sides are of different sheet", false;
        return join(i, e, j, f, why);
      }
    return why = image_of(seam).valid() ? "one side is cut once, the other twice" : "its other side is no piece", false;
  }

  bool fits(const Piece& a, std::size_t e, const Piece& b, std::size_t f, bool mirrored, Fit& fit, Piece& there,
      std::string& why) const {
    fit = fit_of(opened(a.edges[e], a.thickness_mm), opened(b.edges[f], b.thickness_mm), mirrored);
    if (fit.off_mm > kFitsMm)
      return why = "laid side by side their edges are " + fixed(fit.off_mm, 1) + " mm apart", false;
    there = moved(b, fit.pose);
    if (overlap_mm2(a, there) > kOverlapMm2) return why = "they would lie over each other in the sheet", false;
    return true;
  }

  bool join(std::size_t i, std::size_t e, std::size_t j, std::size_t f, std::string& why) {
    const Piece a = pieces_[i], b = pieces_[j];
    Fit fit;
    Piece there;
    if (!fits(a, e, b, f, false, fit, there, why)) {
      pieces_[j].edges[f].stays_apart = why;
      return false;
    }
    Piece one = as_one(a, e, there, f, fit, fold_groove(a.thickness_mm, mean_turn_deg(a.edges[e])));
    one.also.push_back({b.panel, b.twin, fit.pose});
    one.also.insert(one.also.end(), there.also.begin(), there.also.end());
    one.name = a.name + " and " + own_name(b, a.name);
    one.folds.insert(one.folds.end(), b.folds.begin(), b.folds.end());
    one.folds.push_back(a.edges[e].seam);
    if (const SeamId image = image_of(a.edges[e].seam); a.twin && image.valid()) one.folds.push_back(image);
    pieces_[i] = std::move(one);
    pieces_.erase(pieces_.begin() + static_cast<std::ptrdiff_t>(j));
    if (j < i) --at_;
    return true;
  }

  /// The same seam on the other side; invalid where there is none.
  SeamId image_of(SeamId seam) const {
    // A panel in the middle is its own image.
    const auto twin = [&](PanelId of) {
      for (const Panel& p : panels_.panels)
        if (p.mirror_of == of) return p.id;
      return panels_.panels[of.value].mirror_of.value_or(of);
    };
    const Seam& own = panels_.seams[seam.value];
    const PanelId one = twin(own.panels[0]), other = twin(own.panels[1]);
    for (const Seam& s : panels_.seams)
      if (s.id != seam && s.letter == own.letter &&
          ((s.panels[0] == one && s.panels[1] == other) || (s.panels[0] == other && s.panels[1] == one)))
        return s.id;
    return {};
  }

  /// A trench in the wearer's middle: the piece and its image as one, cut once.
  bool try_image(std::size_t i, std::size_t e, std::string& why) {
    const Piece a = pieces_[i];
    Fit fit;
    Piece there;
    if (!fits(a, e, a, e, true, fit, there, why)) return false;
    const std::size_t f = a.edges.size() - 1 - e;  // edges of an image run the other way round
    for (PieceEdge& edge : there.edges)
      if (const SeamId image = edge.seam.valid() ? image_of(edge.seam) : SeamId{}; image.valid()) edge.seam = image;
    Piece one = as_one(a, e, there, f, fit, fold_groove(a.thickness_mm, mean_turn_deg(a.edges[e])));
    one.copies = 1;
    one.twin.reset();
    one.traces.clear();
    const auto add = [&](const std::vector<PieceTrace>& traces, TraceSide not_of) {
      for (PieceTrace t : traces)
        if (t.side != not_of) t.side = TraceSide::both, one.traces.push_back(std::move(t));
    };
    add(a.traces, TraceSide::right);
    add(there.traces, TraceSide::left);
    add_fold(one, fit, fold_groove(a.thickness_mm, mean_turn_deg(a.edges[e])));
    one.folds.push_back(a.edges[e].seam);
    one.also.clear();
    for (const FoldedOn& on : a.also) one.also.push_back({on.panel, std::nullopt, on.pose});
    one.also.push_back({*a.twin, std::nullopt, fit.pose});
    for (const FoldedOn& on : a.also)
      if (on.twin) one.also.push_back({*on.twin, std::nullopt, fit.pose.after(on.pose)});
    one.name = a.name + ", both sides";
    pieces_[i] = std::move(one);
    return true;
  }

  std::vector<Piece>& pieces_;
  const PanelSet& panels_;
  std::size_t at_ = 0;  ///< the piece that is gone on with
};

/// How the panel turns at each triangle, seen in the flat: normals against places.
Eigen::Matrix2d bend_at(const Panel& panel, const std::vector<Vec3>& normals, const Tri& t) {
  Eigen::Matrix2d flat, turn;
  const Vec3 normal = area_vector(panel.solid, t).normalized();
  // The flat frame's axes on the form, from both edges.
  Eigen::Matrix<double, 3, 2> edges;
  for (int k = 0; k < 2; ++k) {
    flat.col(k) = panel.flat[t[k + 1]] - panel.flat[t[0]];
    edges.col(k) = panel.solid.vertices[t[k + 1]] - panel.solid.vertices[t[0]];
  }
  if (std::abs(flat.determinant()) < 1e-9) return Eigen::Matrix2d::Zero();
  const Eigen::Matrix<double, 3, 2> axes = edges * flat.inverse();
  Eigen::Matrix<double, 3, 2> turns;
  for (int k = 0; k < 2; ++k) {
    const Vec3 by = normals[t[k + 1]] - normals[t[0]];
    turns.col(k) = by - by.dot(normal) * normal;
  }
  turn = axes.transpose() * turns * flat.inverse();
  return 0.5 * (turn + turn.transpose());
}

}  // namespace

FoldGroove fold_groove(double thickness_mm, double turn_deg) {
  FoldGroove groove;
  const double lean = std::tan(0.5 * radians(std::abs(turn_deg)));
  groove.turn_deg = turn_deg;
  groove.depth_mm = 0.8 * thickness_mm;
  groove.wide_mm = 2.0 * groove.depth_mm * lean;
  groove.apart_mm = thickness_mm * lean;
  return groove;
}

void fold_pieces(std::vector<Piece>& pieces, const PanelSet& panels) { Folder(pieces, panels).run(); }

bool draw_slots(Piece& piece, const Panel& panel, double bears_strain) {
  const auto normals = vertex_normals(panel.solid);
  Eigen::Matrix2d mean = Eigen::Matrix2d::Zero();
  double all = 0.0;
  for (const Tri& t : panel.solid.triangles) {
    const double area = 0.5 * area_vector(panel.solid, t).norm();
    mean += area * bend_at(panel, normals, t);
    all += area;
  }
  if (all <= 0.0) return false;
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> solver(mean / all);
  const int way = std::abs(solver.eigenvalues()[0]) > std::abs(solver.eigenvalues()[1]) ? 0 : 1;
  const double bend = solver.eigenvalues()[way], other = solver.eigenvalues()[1 - way];
  if (std::abs(bend) < 1e-6 || std::abs(other) > kOneWay * std::abs(bend)) return false;
  // The radius is that of the inner face; the panel lies at the middle of the sheet.
  const double radius = 1.0 / std::abs(bend) - 0.5 * panel.thickness_mm;
  const Vec2 across = solver.eigenvectors().col(way), along(-across.y(), across.x());
  double low = 1e300, high = -1e300, least = 1e300, most = -1e300;
  for (const Vec2& p : panel.flat) {
    low = std::min(low, across.dot(p)), high = std::max(high, across.dot(p));
    least = std::min(least, along.dot(p)), most = std::max(most, along.dot(p));
  }
  const double turn = degrees((high - low) * std::abs(bend));
  if (radius <= 0.0 || turn < 1.0) return false;
  const auto plan = plan_slots(panel.thickness_mm, radius, std::min(turn, 350.0), bears_strain);
  if (!plan || !plan->needed || plan->count < 1) return false;
  const double apart = (high - low) / plan->count;
  bool drawn = false;
  for (int k = 0; k < plan->count; ++k) {
    const double at = low + (k + 0.5) * apart;
    const std::vector<Vec2> strip{at * across + (least - 1.0) * along, (at + 0.01) * across + (least - 1.0) * along,
        (at + 0.01) * across + (most + 1.0) * along, at * across + (most + 1.0) * along};
    Rings region{piece.outline};
    for (const auto& hole : piece.holes) {
      region.push_back(hole);
      if (signed_area_mm2(hole) > 0.0) std::reverse(region.back().begin(), region.back().end());
    }
    for (const auto& ring : common(region, {strip})) {
      double from = 1e300, to = -1e300;
      for (const Vec2& p : ring) from = std::min(from, along.dot(p)), to = std::max(to, along.dot(p));
      if (to - from < kShortestSlotMm) continue;
      PieceTrace trace;
      trace.line = {at * across + from * along, at * across + to * along};
      trace.kind = TraceKind::slot;
      if (!drawn)
        trace.label = std::to_string(plan->count) + (bend > 0.0 ? " slots inside, " : " slots outside, ") +
            fixed(plan->depth_mm, 1) + " mm deep, " + fixed(plan->wide_mm, 1) + " wide, " + fixed(apart, 1) + " apart";
      piece.traces.push_back(std::move(trace));
      drawn = true;
    }
  }
  return drawn;
}

}  // namespace awl
