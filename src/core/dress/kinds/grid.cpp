#include "core/dress/kinds/grid.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

/// How many fit between both edges, and where they stand, from the middle out.
std::vector<double> across_of(double side_mm, double edge_mm, double pitch_mm) {
  const int n = std::max(0, static_cast<int>(std::floor((side_mm - 2.0 * edge_mm) / pitch_mm + 1e-9)) + 1);
  std::vector<double> at;
  for (int i = 0; i < n; ++i) at.push_back((i - 0.5 * (n - 1)) * pitch_mm);
  return at;
}

int holes(const HoleField& g, Dressing& d, const FormLine::At& at, bool image) {
  int count = 0;
  const auto ups = across_of(g.high_mm, g.edge_mm, g.pitch_up_mm);
  Mesh rings;
  for (std::size_t r = 0; r < ups.size(); ++r) {
    auto row = across_of(g.wide_mm, g.edge_mm, g.pitch_mm);
    if (g.staggered && r % 2 == 1 && row.size() > 1) {
      for (double& x : row) x += 0.5 * g.pitch_mm;
      row.pop_back();
    }
    for (const double x : row) {
      FormLine::At hole = upright_at(d.site, over_face(d.site, at, x, ups[r]));
      d.hole(hole.at, g.across_mm);
      d.place(hole, g.across_mm, image);
      add_mesh(rings, ring_on(hole, g.across_mm, 0.8, 0.5));
      ++count;
    }
  }
  d.solid(Matter::metal, std::move(rings), 0.0, false);
  return count;
}

int bars(const HoleField& g, Dressing& d, const FormLine::At& at, double thick, bool image) {
  std::vector<Vec3> rim;
  const auto corner = [&](double x, double y) { return over_face(d.site, at, x, y); };
  const double h = 0.5 * g.high_mm;
  constexpr int kSteps = 8;
  for (const Vec2& p : square_round(g.wide_mm, g.high_mm, kSteps)) rim.push_back(corner(p.x(), p.y()));
  d.hole(rim);
  const double bar = std::max(2.0, g.pitch_mm - g.across_mm);
  int count = 0;
  Mesh all;
  for (const double x : across_of(g.wide_mm, g.edge_mm, g.pitch_mm)) {
    const FormLine line = line_through(d.site, {corner(x, -h), corner(x, 0.0), corner(x, h)}, false);
    add_mesh(all, band_along(d.site, line, 0.5 * bar, 0.5 * bar, -thick, thick));
    d.place(line.at_mm(0.5 * line.length_mm), bar, image);
    ++count;
  }
  d.solid(Matter::metal, std::move(all), d.grams(count * bar * g.high_mm * thick));
  d.piece(d.detail.name + ", bar", {{0.0, 0.0}, {bar, 0.0}, {bar, g.high_mm + 16.0}, {0.0, g.high_mm + 16.0}}, thick,
      count * d.sides());
  return count;
}

}  // namespace

std::vector<Dial> dials_of(HoleField& g) {
  Dials dials;
  dials.group("The field")
      .choice("of", g.of, {"holes", "bars"}, "Made of", "Holes are punched; bars stand in one opening.")
      .length("wide", g.wide_mm, {8, 400}, "Wide", "Level, from edge to edge.")
      .length("high", g.high_mm, {8, 400}, "High", "Upright, from edge to edge.")
      .length("across", g.across_mm, {1, 60}, "Hole, or gap between bars", "What air and sight pass.")
      .length("pitch", g.pitch_mm, {2, 120}, "From middle to middle", "Level.")
      .length("pitch-up", g.pitch_up_mm, {2, 120}, "From row to row", "Of holes.")
      .length("edge", g.edge_mm, {0, 60}, "Free at its edges", "Between the outermost holes' middles and the edge.")
      .yes_no("staggered", g.staggered, "Every other row between", "Closer, and stronger.");
  return std::move(dials).all();
}

void put_on(const HoleField& g, Dressing& d) {
  if (g.pitch_mm <= g.across_mm + 1.0)
    return d.remark("room", Severity::warning,
        "holes of " + in_mm(g.across_mm) + " every " + in_mm(g.pitch_mm) + " run into each other; take a pitch of " +
            in_mm(g.across_mm + 2.0) + " or more.",
        g.pitch_mm, g.across_mm + 2.0, {{"Wider apart", d.turn_act("pitch", g.across_mm + 2.0)}});
  int count = 0;
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine::At at = upright_at(d.site, d.lines[k].at_mm(0.5 * d.lines[k].length_mm).at);
    if (k == 0) {
      d.grip("wide", d.site.onto(at.at + 0.5 * g.wide_mm * at.along), at.along, 2.0);
      d.grip("high", d.site.onto(at.at + 0.5 * g.high_mm * at.left), at.left, 2.0);
    }
    count = g.of == HoleField::Of::holes ? holes(g, d, at, k == 1) : bars(g, d, at, d.thickness_mm(3.0), k == 1);
  }
  d.out.count = count, d.out.pitch_mm = g.pitch_mm, d.out.with_spare = count * d.sides();
  const bool holed = g.of == HoleField::Of::holes;
  const double field = g.wide_mm * g.high_mm,
               open = holed ? count * kPi * 0.25 * g.across_mm * g.across_mm : field * g.across_mm / g.pitch_mm;
  d.out.open_share = std::min(1.0, open / field);
  d.fact(counted(count, holed ? "hole" : "bar") + (d.sides() > 1 ? " a side" : "") + ", " +
      fixed(100.0 * d.out.open_share, 0) + " % of the field open.");
  if (count == 0)
    d.remark("room", Severity::warning,
        "a field of " + in_mm(g.wide_mm) + " x " + in_mm(g.high_mm) + " has no room for one " +
            (holed ? "hole" : "bar") + " between its edges of " + in_mm(g.edge_mm) + ".");
  if (g.edge_mm < d.rules.edge_bores * g.across_mm && holed)
    d.remark("tears-out", Severity::note,
        "its outer holes stand " + in_mm(g.edge_mm) + " from the field's edge; " +
            in_mm(d.rules.edge_bores * g.across_mm) + ", two holes, keeps the edge from tearing.",
        g.edge_mm, d.rules.edge_bores * g.across_mm,
        {{"More edge", d.turn_act("edge", std::ceil(d.rules.edge_bores * g.across_mm))}});
  if (holed)
    d.step("Punch " + d.detail.name, {"Punch every hole while the piece lies flat, the middle row first."},
        "Punch on a board, hand out of the way.", false, false);
  else
    d.step("Set the bars of " + d.detail.name,
        {"Glue each bar 8 mm over the edge behind the opening, the middle one first, then to both sides."},
        kBladeCaution, true, true);
}

}  // namespace awl
