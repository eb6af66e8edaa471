#include "core/stock/layout.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <clipper.hpp>
#include <cmath>

namespace awl {
namespace {

constexpr double kClipperUnits = 1000.0;  // per millimetre

ClipperLib::Path to_path(const std::vector<Vec2>& line) {
  ClipperLib::Path path;
  for (const Vec2& p : line) path.push_back({std::llround(p.x() * kClipperUnits), std::llround(p.y() * kClipperUnits)});
  return path;
}

std::vector<Vec2> to_line(const ClipperLib::Path& path) {
  std::vector<Vec2> line;
  for (const auto& p : path) line.push_back(Vec2(static_cast<double>(p.X), static_cast<double>(p.Y)) / kClipperUnits);
  return line;
}

ClipperLib::Paths difference(const ClipperLib::Paths& from, const ClipperLib::Paths& cut) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(from, ClipperLib::ptSubject, true);
  clipper.AddPaths(cut, ClipperLib::ptClip, true);
  ClipperLib::Paths out;
  clipper.Execute(ClipperLib::ctDifference, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  return out;
}

using Extent = Eigen::AlignedBox<ClipperLib::cInt, 2>;

Extent extent_of(const ClipperLib::Path& path) {
  Extent extent;
  for (const auto& p : path) extent.extend(Extent::VectorType(p.X, p.Y));
  return extent;
}

bool is_upright_rectangle(const ClipperLib::Path& path) {
  if (path.size() != 4) return false;
  const auto sizes = extent_of(path).sizes().eval();
  return std::abs(ClipperLib::Area(path)) == static_cast<double>(sizes.x()) * static_cast<double>(sizes.y());
}

/// A slit from a hole to the sheet's edge below: what is left round it can then be told by one outline.
ClipperLib::Path slit_below(const ClipperLib::Path& hole) {
  const auto low = *std::min_element(hole.begin(), hole.end(), [](const auto& a, const auto& b) { return a.Y < b.Y; });
  const auto half = static_cast<ClipperLib::cInt>(0.5 * kClipperUnits),
             up = static_cast<ClipperLib::cInt>(kClipperUnits),
             far = static_cast<ClipperLib::cInt>(1e4 * kClipperUnits);
  return {
      {low.X - half, low.Y - far}, {low.X + half, low.Y - far}, {low.X + half, low.Y + up}, {low.X - half, low.Y + up}};
}

/// The outline with room round it, whole.
std::vector<Vec2> grown(const std::vector<Vec2>& outline, double by_mm) {
  auto rings = offset_polygon(outline, by_mm);
  if (rings.empty()) return {};
  return std::move(*std::max_element(rings.begin(), rings.end(),
      [](const auto& a, const auto& b) { return std::abs(signed_area_mm2(a)) < std::abs(signed_area_mm2(b)); }));
}

}  // namespace

std::vector<Vec2> claim_of(const Piece& piece, double by_mm) {
  constexpr double kLeastMm2 = 900.0;  // what falls out of a smaller hole serves nobody: workshop value
  auto claim = by_mm != 0.0 ? grown(piece.knife_line(), by_mm) : piece.knife_line();
  if (claim.empty() || piece.holes.empty()) return claim;
  if (signed_area_mm2(claim) < 0.0) std::reverse(claim.begin(), claim.end());
  const Vec2 begin = claim.front();
  for (auto hole : piece.holes) {
    if (signed_area_mm2(hole) < 0.0) std::reverse(hole.begin(), hole.end());
    for (auto& left : by_mm != 0.0 ? offset_polygon(hole, -by_mm) : Rings{hole}) {
      if (signed_area_mm2(left) < kLeastMm2) continue;
      std::reverse(left.begin(), left.end());
      claim.push_back(begin);
      claim.insert(claim.end(), left.begin(), left.end());
      claim.push_back(left.front());
    }
  }
  return claim;
}

std::vector<Offcut> leftovers(
    const std::vector<Piece>& pieces, const Layout& layout, const std::string& foam, double gap_mm, double least_mm) {
  std::vector<Offcut> kept;
  for (int s = 0; s < layout.sheets; ++s) {
    const Blank& blank = layout.blanks[s];
    ClipperLib::Paths cut;
    for (const Placement& p : layout.placements) {
      if (p.sheet != s) continue;
      std::vector<Vec2> line;
      for (const Vec2& q : claim_of(pieces[p.piece.value], 0.5 * gap_mm)) line.push_back(p.pose(q));
      cut.push_back(to_path(line));
      if (!ClipperLib::Orientation(cut.back())) ClipperLib::ReversePath(cut.back());
    }
    auto left = difference({to_path(blank.outline)}, cut);
    for (int round = 0; round < 100; ++round) {
      const auto hole =
          std::find_if(left.begin(), left.end(), [](const auto& p) { return !ClipperLib::Orientation(p); });
      if (hole == left.end()) break;
      cut.push_back(slit_below(*hole));
      left = difference({to_path(blank.outline)}, cut);
    }
    for (const auto& ring : left)
      for (const auto& core : offset_polygon(to_line(ring), -0.5 * least_mm))
        for (const auto& wide : offset_polygon(core, 0.5 * least_mm)) {
          const auto made =
              make_offcut({0, "left of " + (blank.name.empty() ? "sheet " + std::to_string(s + 1) : blank.name),
                  blank.stuff.empty() ? foam : blank.stuff, blank.thickness_mm, wide, {}});
          if (made && signed_area_mm2(made->outline) >= least_mm * least_mm) kept.push_back(*made);
        }
  }
  return kept;
}

SheetSize room_of(const Layout& layout) {
  SheetSize room = layout.sheet;
  for (const Blank& b : layout.blanks)
    for (const Vec2& p : b.outline)
      room.width_mm = std::max(room.width_mm, p.x()), room.height_mm = std::max(room.height_mm, p.y());
  return room;
}

double overlap_area_mm2(const std::vector<Piece>& pieces, const Layout& layout) {
  std::vector<ClipperLib::Path> paths;
  for (const Placement& p : layout.placements) {
    std::vector<Vec2> line;
    for (const Vec2& q : claim_of(pieces[p.piece.value], 0.0)) line.push_back(p.pose(q));
    paths.push_back(to_path(line));
    if (!ClipperLib::Orientation(paths.back())) ClipperLib::ReversePath(paths.back());
  }
  double sum = 0.0;
  const auto area_of = [&](ClipperLib::ClipType type, const ClipperLib::Path& a, const ClipperLib::Path& b) {
    ClipperLib::Clipper clipper;
    clipper.AddPath(a, ClipperLib::ptSubject, true);
    clipper.AddPath(b, ClipperLib::ptClip, true);
    ClipperLib::Paths out;
    clipper.Execute(type, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    double area = 0.0;
    for (const auto& path : out) area += ClipperLib::Area(path);
    return std::abs(area) / (kClipperUnits * kClipperUnits);
  };
  const auto whole = to_path({{0, 0}, {layout.sheet.width_mm, 0}, {layout.sheet.width_mm, layout.sheet.height_mm},
      {0, layout.sheet.height_mm}});
  std::vector<ClipperLib::Path> blanks;
  for (const Blank& b : layout.blanks) blanks.push_back(to_path(b.outline));
  std::vector<Extent> extents;
  for (const auto& path : paths) extents.push_back(extent_of(path));
  for (std::size_t i = 0; i < paths.size(); ++i) {
    const auto sheet = static_cast<std::size_t>(layout.placements[i].sheet);
    const auto& blank = sheet < blanks.size() ? blanks[sheet] : whole;
    if (!is_upright_rectangle(blank) || !extent_of(blank).contains(extents[i]))
      sum += area_of(ClipperLib::ctDifference, paths[i], blank);
    for (std::size_t j = i + 1; j < paths.size(); ++j)
      if (layout.placements[i].sheet == layout.placements[j].sheet && extents[i].intersects(extents[j]))
        sum += area_of(ClipperLib::ctIntersection, paths[i], paths[j]);
  }
  return sum;
}

Drawing draw_sheet(const std::vector<Piece>& pieces, const Layout& layout, int sheet) {
  Drawing out;
  Mark border;
  border.layer = Layer::sheet;
  border.closed = true;
  if (sheet < static_cast<int>(layout.blanks.size()))
    border.line = layout.blanks[sheet].outline;
  else
    border.line = {{0, 0}, {layout.sheet.width_mm, 0}, {layout.sheet.width_mm, layout.sheet.height_mm},
        {0, layout.sheet.height_mm}};
  out.marks.push_back(border);
  for (const Placement& p : layout.placements) {
    if (p.sheet != sheet) continue;
    const Drawing piece = placed(draw_piece(pieces[p.piece.value], p.pose.flipped ? Copy::right : Copy::left), p.pose);
    out.marks.insert(out.marks.end(), piece.marks.begin(), piece.marks.end());
  }
  return out;
}

}  // namespace awl
