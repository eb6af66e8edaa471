#include "core/dress/kinds/tufts.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {

std::vector<Dial> dials_of(Tufts& t) {
  Dials dials;
  dials.group("The rows")
      .count("rows", t.rows, {1, 60}, "Rows", "From the edge inwards.")
      .length("pitch", t.pitch_mm, {3, 80}, "From row to row", "Nearer for short hair.")
      .length("wide", t.wide_mm, {3, 120}, "Width of a tuft", "Where it is glued.")
      .share("overlap", t.overlap, {0, 0.8}, "Lies under its neighbour", "Share of its width; more is denser.")
      .length("long", t.long_mm, {5, 300}, "Length", "What hangs free.")
      .length("lift", t.lift_mm, {0, 120}, "Stands off", "At its end.");
  return std::move(dials).all();
}

void put_on(const Tufts& t, Dressing& d) {
  int all = 0, missing = 0;
  Mesh seen;
  for (std::size_t side = 0; side < d.lines.size(); ++side) {
    const FormLine& from = d.lines[side];
    const auto far = distance_over(d.site.outer, from.at, from.closed, t.rows * t.pitch_mm + 30.0);
    // Of a line on each side its rows stay on their own half.
    const auto mine = [&](const Vec3& p) { return d.sides() < 2 || (side == 1 ? p.x() <= 0.0 : p.x() >= 0.0); };
    for (int k = 0; k < t.rows; ++k) {
      std::vector<SiteLine> lines;
      if (k == 0) {
        lines.push_back({{}, from.at, from.closed});
      } else {
        for (SiteLine& l : level_lines(d.site.outer, far, k * t.pitch_mm))
          if (mine(l.at[l.at.size() / 2])) lines.push_back(std::move(l));
      }
      double length = 0.0;
      for (const SiteLine& l : lines) length += length_of(l.at, l.closed);
      if (length < 0.5 * t.wide_mm) {
        missing += side == 0 ? 1 : 0;
        continue;
      }
      const int n = static_cast<int>(std::ceil(length / (t.wide_mm * (1.0 - t.overlap)) - 1e-9));
      all += n;
      if (side == 0) d.out.rows.push_back({length, n}), d.out.count += n;
      for (const SiteLine& l : lines) {
        const FormLine line = line_through(d.site, l.at, l.closed);
        const int here = std::max(1, static_cast<int>(std::round(n * line.length_mm / length)));
        for (int j = 0; j < here; ++j) {
          const FormLine::At at = line.at_mm(line.length_mm * (j + (k % 2 == 1 ? 0.75 : 0.25)) / here);
          const NearestHit hit = d.site.hit(at.at);
          Vec3 grows = -growth_at(d.site.outer, far, hit);  // the hair hangs back over the row before
          if (k == 0 || grows.norm() < 0.5) grows = -at.left;
          d.place(at, t.wide_mm, side == 1);
          if (side == 0 && k == 0 && j == here / 2)
            d.grip("long", at.at + t.long_mm * grows + t.lift_mm * at.normal, grows);
          const double wave = 0.75 + 0.25 * std::sin(7.0 * j + 3.0 * k);
          add_mesh(seen,
              leaf_on(d.site, at.at, grows, t.long_mm * wave, 1.1 * t.wide_mm, {0.9, 1.0, 0.75, 0.15}, 0.4,
                  t.lift_mm * wave, 1.2));
        }
      }
    }
  }
  d.out.with_spare = static_cast<int>(std::ceil((1.0 + d.rules.tuft_spare) * all - 1e-9));
  d.out.pitch_mm = t.pitch_mm;
  d.solid(Matter::hair, std::move(seen), d.rules.hair_g_mm2 * all * t.wide_mm * t.long_mm, false);
  std::string rows;
  for (const DressRow& r : d.out.rows) rows += (rows.empty() ? "" : ", ") + std::to_string(r.count);
  d.fact(std::to_string(d.out.count) + " tufts" + (d.sides() > 1 ? " a side" : "") + ": " + rows + ". Make " +
      std::to_string(d.out.with_spare) + ".");
  if (missing > 0)
    d.remark("fewer", Severity::note,
        "there is room for " + std::to_string(t.rows - missing) + " of " + std::to_string(t.rows) +
            " rows before the part ends.",
        t.rows - missing, t.rows,
        {{"Take " + std::to_string(t.rows - missing), d.turn_act("rows", std::max(1, t.rows - missing))}});
  d.want("tuft/" + fixed(t.wide_mm, 0), "Tufts, " + in_mm(t.wide_mm) + " wide, " + in_mm(t.long_mm) + " long",
      d.out.with_spare);
  for (const FormLine& line : d.lines) d.trace(line.at, line.closed, TraceKind::level, d.detail.name + ", first row");
  d.step("Glue " + d.detail.name,
      {"From the edge inwards: the first row along the edge, each next " + in_mm(t.pitch_mm) +
              " further in, over the roots of the last.",
          "Let it dry every " + fixed(d.rules.tuft_dry_rows, 0) + " rows. Make " + std::to_string(d.out.with_spare) +
              " before you begin: they are always too few."},
      "Loose hair keeps away from hot tools and flames; keep it off lamps.", true, true);
}

}  // namespace awl
