#include <algorithm>
#include <clipper.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/curve_fit.hpp"
#include "core/piece/piece.hpp"
#include "core/seam/flatten.hpp"

namespace awl {
namespace {

constexpr double kClipUnits = 1000.0;  // per millimetre

ClipperLib::Path clip_path_of(const std::vector<Vec2>& line) {
  ClipperLib::Path path;
  for (const Vec2& p : line) path.push_back({std::llround(p.x() * kClipUnits), std::llround(p.y() * kClipUnits)});
  if (!ClipperLib::Orientation(path)) ClipperLib::ReversePath(path);
  return path;
}

/// What lies beyond a line by a margin, the piece on its left; a closed line begins again at its first point.
void add_margin(ClipperLib::Paths& paths, const std::vector<Vec2>& line, double margin_mm) {
  const bool closed = (line.front() - line.back()).norm() < 1e-6;
  Vec2 last = Vec2::Zero();
  if (closed) {
    const Vec2 step = line.back() - line[line.size() - 2];
    last = margin_mm * Vec2(step.y(), -step.x()).normalized();
  }
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const Vec2 step = line[i + 1] - line[i];
    if (step.norm() < 1e-6) continue;
    const Vec2 out = margin_mm * Vec2(step.y(), -step.x()).normalized();
    paths.push_back(clip_path_of({line[i], line[i] + out, line[i + 1] + out, line[i + 1]}));
    const double turn = std::atan2(last.x() * out.y() - last.y() * out.x(), last.dot(out));
    if (last != Vec2::Zero() && turn > 1e-3) {
      std::vector<Vec2> fan{line[i]};
      const int parts = 1 + static_cast<int>(turn / 0.2);
      for (int k = 0; k <= parts; ++k) {
        const double a = turn * k / parts;
        fan.push_back(line[i] +
            Vec2(std::cos(a) * last.x() - std::sin(a) * last.y(), std::sin(a) * last.x() + std::cos(a) * last.y()));
      }
      paths.push_back(clip_path_of(fan));
    }
    last = out;
  }
}

/// Edges one after the other with the same margin, as one line each, so that the corners between them are filled.
std::vector<std::pair<std::vector<Vec2>, double>> margin_runs(const Piece& piece) {
  const std::size_t n = piece.edges.size();
  std::size_t start = 0;
  for (std::size_t i = 0; i < n; ++i)
    if (piece.edges[i].margin_mm != piece.edges[(i + n - 1) % n].margin_mm) start = i;
  std::vector<std::pair<std::vector<Vec2>, double>> runs;
  for (std::size_t k = 0; k < n; ++k) {
    const PieceEdge& e = piece.edges[(start + k) % n];
    if (k == 0 || e.margin_mm != runs.back().second)
      runs.push_back({e.line, e.margin_mm});
    else
      runs.back().first.insert(runs.back().first.end(), e.line.begin() + 1, e.line.end());
  }
  return runs;
}

std::vector<Vec2> joined(const ClipperLib::Paths& paths) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(paths, ClipperLib::ptSubject, true);
  ClipperLib::Paths out;
  clipper.Execute(ClipperLib::ctUnion, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  if (out.empty()) return {};
  const auto& most = *std::max_element(
      out.begin(), out.end(), [](const auto& a, const auto& b) { return ClipperLib::Area(a) < ClipperLib::Area(b); });
  std::vector<Vec2> line;
  for (const auto& p : most) line.push_back(Vec2(static_cast<double>(p.X), static_cast<double>(p.Y)) / kClipUnits);
  return line;
}

/// Triangles and snips of a margin that is folded, as the fold line curves.
void add_clips(Piece& piece, const PieceEdge& edge) {
  constexpr double kTurn = 12.0, kApartMm = 6.0, kWholeShare = 0.25;
  double since = 0.0, turned = 0.0;
  Vec2 last = Vec2::Zero();
  for (std::size_t i = 0; i + 1 < edge.line.size(); ++i) {
    const Vec2 step = edge.line[i + 1] - edge.line[i];
    const double length = step.norm();
    if (length < 1e-6) continue;
    const Vec2 along = step / length, out(along.y(), -along.x());
    if (last != Vec2::Zero()) turned += std::atan2(last.x() * along.y() - last.y() * along.x(), last.dot(along));
    last = along;
    since += length;
    if (std::abs(degrees(turned)) < kTurn || since < kApartMm || i + 2 >= edge.line.size()) continue;
    const Vec2 foot = edge.line[i] + kWholeShare * edge.margin_mm * out, rim = edge.line[i] + edge.margin_mm * out;
    // Outwards: what bunches is as wide as the turn makes it, at the margin's rim.
    const double half = std::min(0.45 * since, 0.5 * edge.margin_mm * std::abs(turned));
    if (turned > 0.0)
      piece.clips.push_back({foot, rim - half * along, rim + half * along});
    else
      piece.clips.push_back({foot, rim});
    since = turned = 0.0;
  }
}

/// Points a knife follows as the cubics they came from, near enough.
Curve as_curve(const std::vector<Vec2>& line) {
  constexpr double kOffMm = 0.03, kCornerDeg = 18.0, kShortestMm = 2.0;
  Curve curve = fit_outline(line, kCornerDeg, {kOffMm, kShortestMm, 3});
  return crosses_itself(points_of(curve, kOffMm, 5.0)) ? Curve{} : curve;
}

}  // namespace

void set_knife_line(Piece& piece, const Margins& margins) {
  const bool wide =
      std::any_of(piece.edges.begin(), piece.edges.end(), [](const PieceEdge& e) { return e.margin_mm > 0.0; });
  const double offset = 0.5 * margins.kerf_mm - 0.5 * margins.pen_mm;
  piece.cut_line.clear(), piece.clips.clear();
  if (!wide && offset == 0.0) return;
  ClipperLib::Paths paths{clip_path_of(piece.outline)};
  for (const auto& [run, mm] : margin_runs(piece))
    if (mm > 0.0) add_margin(paths, run, mm);
  auto line = joined(paths);
  if (offset != 0.0) {
    auto rings = offset_polygon(line, offset);
    if (!rings.empty())
      line = *std::max_element(rings.begin(), rings.end(),
          [](const auto& a, const auto& b) { return signed_area_mm2(a) < signed_area_mm2(b); });
  }
  if (!piece.knife.empty()) piece.knife = as_curve(line);
  piece.cut_line = std::move(line);
  for (const PieceEdge& e : piece.edges)
    if (e.margin_mm > 0.0 && (e.cut == EdgeCut::flap || !e.seam.valid())) add_clips(piece, e);
}

void cut_notches(Piece& piece) {
  constexpr double kDeepMm = 4.0,
                   kHalfMm = 1.5;  // a pencil's point finds them, the foam is not weakened: workshop value
  for (const PieceEdge& edge : piece.edges) {
    if (!edge.seam.valid()) continue;
    for (const Tick& tick : edge.ticks) {
      const Vec2 rim = tick.at - edge.margin_mm * tick.inward, along(-tick.inward.y(), tick.inward.x());
      piece.clips.push_back({rim + kHalfMm * along, rim + kDeepMm * tick.inward, rim - kHalfMm * along});
    }
  }
}

void set_edges(std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of,
    const std::vector<SeamCut>& cuts, const Margins& all, const std::map<int, Margins>& own) {
  std::map<std::string, std::string> letter_of;  // by name; a seam and its mirror image have one
  for (const Seam& s : panels.seams) letter_of[s.name] = s.letter;
  const auto chosen = [&](int part, SeamId seam) -> const SeamCut* {
    for (const SeamCut& c : cuts) {
      if (c.part != part || !seam.valid()) continue;
      const Seam& cut = panels.seams[seam.value];
      const auto named = letter_of.find(c.seam);
      if (cut.name == c.seam || (!cut.letter.empty() && named != letter_of.end() && named->second == cut.letter))
        return &c;
    }
    return nullptr;
  };
  for (Piece& piece : pieces) {
    const int span = piece.panel.valid() ? panels.panels[piece.panel.value].part : 0;
    const int part = span < static_cast<int>(part_of.size()) ? part_of[span] : 0;
    const auto mine = own.find(part);
    const Margins& margins = piece.panel.valid() && mine != own.end() ? mine->second : all;
    for (PieceEdge& edge : piece.edges) {
      edge.margin_mm = edge.seam.valid() ? margins.seam_mm : margins.rim_mm;
      edge.cut = !edge.seam.valid() || std::abs(edge.tilt_deg) >= least_tilt_deg(piece.thickness_mm) ? EdgeCut::tilted
                                                                                                     : EdgeCut::square;
      const SeamCut* cut = piece.panel.valid() ? chosen(part, edge.seam) : nullptr;
      if (cut == nullptr) continue;
      edge.cut = cut->cut;
      if (cut->cut == EdgeCut::two_cuts) {
        double steepest = edge.tilt_deg;
        for (const double tilt : edge.tilts_deg) steepest = std::max(steepest, tilt);
        edge.margin_mm = std::max(edge.margin_mm, first_cut_out_mm(piece.thickness_mm, steepest));
      }
      // Of a flap or an overlap one side has it: that of the piece glued first, whose number is lower.
      const auto& sides = panels.seams[edge.seam.value].panels;
      const bool first = sides[0] == sides[1] || piece.panel == std::min(sides[0], sides[1]) ||
          (piece.twin && *piece.twin == std::min(sides[0], sides[1]));
      if ((cut->cut == EdgeCut::flap || cut->cut == EdgeCut::overlap) && first)
        edge.margin_mm = std::max(edge.margin_mm, cut->margin_mm);
    }
    if (margins.hole_mm > 0.0)
      for (auto& hole : piece.holes) {
        auto rings = offset_polygon(hole, signed_area_mm2(hole) > 0.0 ? -margins.hole_mm : margins.hole_mm);
        std::erase_if(rings, [](const auto& r) { return std::abs(signed_area_mm2(r)) < 20.0; });
        if (rings.empty() || std::abs(signed_area_mm2(rings[0])) >= std::abs(signed_area_mm2(hole))) continue;
        hole = rings[0];
        if (const auto at = static_cast<std::size_t>(&hole - piece.holes.data()); at < piece.hole_curves.size())
          piece.hole_curves[at] = as_curve(hole);
      }
    set_knife_line(piece, margins);
  }
}

}  // namespace awl
