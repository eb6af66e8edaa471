#include "core/dress/kinds/lacing.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"
#include "core/seam/flatten.hpp"

namespace awl {
namespace {

constexpr double kUsualPlateMm = 4.0, kPackM = 10.0;

/// Plates hang: below the line, each row a little longer and standing off a little further.
class PlateHanger {
 public:
  PlateHanger(const LacedPlates& p, Dressing& d, const FormLine& line)
      : p_(p), line_(line), thick_(d.thickness_mm(kUsualPlateMm)) {}

  void hang() {
    for (int r = 0; r < p_.rows; ++r) {
      plate(r);
      cords(r);
    }
  }
  Mesh plates, laces;

  /// A place of row r: its share along, and how far down the plate.
  Vec3 at(int r, double share, double down_mm) const {
    const FormLine::At on = line_.at_mm(share * line_.length_mm);
    const Vec3 out = Vec3(on.normal.x(), 0.0, on.normal.z()).normalized();
    const double down = r * (p_.high_mm - p_.overlap_mm) + down_mm,
                 grown = 0.5 * p_.flare * (r + down_mm / p_.high_mm) * line_.length_mm;
    const Vec3 aside = (2.0 * share - 1.0) * grown * (line_.closed ? Vec3(Vec3::Zero()) : on.along);
    return on.at - down * Vec3::UnitY() + aside +
        (p_.stands_mm * (r + 1.0 + 0.6 * down_mm / p_.high_mm) + thick_ * (r % 2)) * out;
  }

 private:
  void plate(int r) {
    const int steps = std::max(8, static_cast<int>(line_.length_mm / 12.0));
    constexpr int kDown = 3;
    Mesh sheet;
    const int across = line_.closed ? steps : steps + 1;
    for (int face = 0; face < 2; ++face)
      for (int i = 0; i < across; ++i) {
        const double share = static_cast<double>(i) / steps;
        const FormLine::At on = line_.at_mm(share * line_.length_mm);
        const Vec3 out = Vec3(on.normal.x(), 0.0, on.normal.z()).normalized();
        for (int k = 0; k <= kDown; ++k)
          sheet.vertices.push_back(at(r, share, p_.high_mm * k / kDown) + (face == 0 ? thick_ : 0.0) * out);
      }
    const int column = kDown + 1, all = across * column;
    const auto quad = [&](int a, int b, int c, int e) {
      sheet.triangles.push_back({a, b, c}), sheet.triangles.push_back({b, e, c});
    };
    for (int i = 0; i + (line_.closed ? 0 : 1) < across; ++i) {
      const int a = i * column, b = (i + 1) % across * column;
      for (int k = 0; k < kDown; ++k) {
        quad(a + k, a + k + 1, b + k, b + k + 1);
        quad(all + a + k, all + b + k, all + a + k + 1, all + b + k + 1);
      }
      quad(a, b, all + a, all + b);
      quad(a + kDown, all + a + kDown, b + kDown, all + b + kDown);
    }
    if (!line_.closed)
      for (int k = 0; k < kDown; ++k) {
        const int b = (across - 1) * column;
        quad(k, all + k, k + 1, all + k + 1);
        quad(b + k, b + k + 1, all + b + k, all + b + k + 1);
      }
    // Outwards whichever way the line runs.
    if (volume_mm3(sheet) < 0.0)
      for (Tri& t : sheet.triangles) std::swap(t[1], t[2]);
    add_mesh(plates, sheet);
  }

  void cords(int r) {
    const int columns = columns_of(p_, line_.length_mm);
    for (int c = 0; c < columns; ++c) {
      const double share = (c + 0.5) / columns;
      const FormLine::At on = line_.at_mm(share * line_.length_mm);
      const Vec3 out = (thick_ + 1.0) * Vec3(on.normal.x(), 0.0, on.normal.z()).normalized();
      const Vec3 lower = at(r, share, 0.6 * p_.apart_mm) + out;
      const Vec3 upper = r == 0 ? Vec3(on.at + 0.4 * p_.apart_mm * Vec3::UnitY() + out)
                                : Vec3(at(r - 1, share, p_.high_mm - p_.overlap_mm - 0.4 * p_.apart_mm) + out);
      add_mesh(laces, bar_along({lower, 0.5 * (lower + upper) + 0.4 * out, upper}, 2.4));
    }
  }

 public:
  static int columns_of(const LacedPlates& p, double length_mm) {
    return p.columns > 0 ? std::max(2, p.columns) : std::max(2, static_cast<int>(std::round(length_mm / p.pitch_mm)));
  }

 private:
  const LacedPlates& p_;
  const FormLine& line_;
  double thick_;
};

/// A plate laid flat: an arc where it flares, with its rows of holes.
void add_piece(const LacedPlates& p, Dressing& d, int r, double length_mm, int columns, double thick) {
  const double top = length_mm * (1.0 + p.flare * r), foot = length_mm * (1.0 + p.flare * (r + 1));
  const double turn = (foot - top) / p.high_mm, radius = turn > 1e-6 ? top / turn : 0.0;
  const auto flat = [&](double share, double down) {
    const double aside = share - 0.5;
    if (radius <= 0.0) return Vec2(aside * top, -down);
    return Vec2((radius + down) * std::sin(aside * turn), radius - (radius + down) * std::cos(aside * turn));
  };
  std::vector<Vec2> outline;
  constexpr int kSteps = 24;
  for (int i = 0; i <= kSteps; ++i) outline.push_back(flat(static_cast<double>(i) / kSteps, p.high_mm));
  for (int i = kSteps; i >= 0; --i) outline.push_back(flat(static_cast<double>(i) / kSteps, 0.0));
  std::vector<PieceTrace> holes;
  for (int c = 0; c < columns; ++c)
    for (const double down : {0.6 * p.apart_mm, p.high_mm - p.overlap_mm - 0.4 * p.apart_mm}) {
      if (r + 1 == p.rows && down > 0.6 * p.apart_mm + 1e-9) continue;  // nothing hangs from the last
      holes.push_back({{flat((c + 0.5) / columns, down)}, false, TraceKind::drill, {}, TraceSide::both, p.hole_mm});
    }
  d.piece(
      d.detail.name + ", plate " + std::to_string(r + 1), std::move(outline), thick, d.sides(), {}, std::move(holes));
}

}  // namespace

double lace_mm(LacedPlates::Path path, int c, double p, double d, double t, double tail) {
  const double slant = std::hypot(p, d),
               on = path == LacedPlates::Path::ladder ? c * d + (c - 1) * slant
      : path == LacedPlates::Path::crossed            ? d + 2.0 * (c - 1) * slant
                                                      : c * d + (c - 1) * p;
  return on + 2.0 * c * t + 2.0 * tail;
}

std::vector<Dial> dials_of(LacedPlates& p) {
  Dials dials;
  dials.group("The plates")
      .count("rows", p.rows, {0, 8}, "Rows", "One below the other; 0 is a row of holes alone.")
      .length("high", p.high_mm, {15, 200}, "Height of one", "Overlap and all.")
      .length("overlap", p.overlap_mm, {0, 80}, "Lies over the next by", "So that nothing shows between.")
      .share("flare", p.flare, {0, 0.3}, "Each longer by", "They open towards the shoulders.")
      .length("stands", p.stands_mm, {0, 40}, "Stands off", "Each row from the one above it.");
  dials.group("The lacing")
      .choice(
          "path", p.path, {"ladder", "crossed", "straight"}, "Laced", "Crossed takes the most cord and pulls evenest.")
      .count("columns", p.columns, {0, 200}, "Pairs of holes", "In a row; 0: as their distance gives.")
      .count("cords", p.cords, {0, 200}, "Cords", "Cut from one reel; 0: one a row.")
      .length("pitch", p.pitch_mm, {4, 80}, "From hole to hole", "Along the row.")
      .length("apart", p.apart_mm, {4, 80}, "Across", "From one row of holes to the other.")
      .length("hole", p.hole_mm, {1, 12}, "Holes", "The cord twice through, with a tip.")
      .length("tail", p.tail_mm, {20, 500}, "Tails", "To tie, at each end.");
  return std::move(dials).all();
}

void put_on(const LacedPlates& p, Dressing& d) {
  const double thick = d.thickness_mm(kUsualPlateMm);
  if (p.rows > 0 && p.overlap_mm + p.apart_mm > p.high_mm)
    return d.remark("room", Severity::warning,
        "a plate " + in_mm(p.high_mm) + " high has no room for an overlap of " + in_mm(p.overlap_mm) + " and holes " +
            in_mm(p.apart_mm) + " apart; make it " + in_mm(p.overlap_mm + p.apart_mm + 10.0) + ".",
        p.high_mm, p.overlap_mm + p.apart_mm, {{"Higher", d.turn_act("high", p.overlap_mm + p.apart_mm + 10.0)}});
  int columns = p.columns;
  double laced = lace_mm(p.path, columns, p.pitch_mm, p.apart_mm, thick, p.tail_mm);
  double cord = d.lines.empty() ? laced : 0.0;
  for (const FormLine& line : d.lines) {
    columns = PlateHanger::columns_of(p, line.length_mm);
    PlateHanger hanger(p, d, line);
    hanger.hang();
    if (d.out.grips.empty() && p.rows > 0)
      d.grip(
          "high", hanger.at(0, 0.5, p.high_mm), (hanger.at(0, 0.5, p.high_mm) - hanger.at(0, 0.5, 0.0)).normalized());
    const double mass = d.grams(p.rows * line.length_mm * p.high_mm * thick);
    d.solid(Matter::foam, std::move(hanger.plates), mass, false);
    d.solid(Matter::cord, std::move(hanger.laces), 0.0, false);
    for (int c = 0; c < columns; ++c) {
      const FormLine::At on = line.at_mm(line.length_mm * (c + 0.5) / columns);
      const Vec3 up = Vec3::UnitY() - on.normal.y() * on.normal;
      if (up.norm() > 0.3) d.bore(shot(d.site, on.at, up, 0.4 * p.apart_mm), p.hole_mm);
    }
    const double pitch = p.columns > 0 ? p.pitch_mm : line.length_mm / columns;
    laced = lace_mm(p.path, columns, pitch, p.apart_mm, std::max(thick, d.site.thickness_mm), p.tail_mm);
    cord += laced * std::max(1, p.rows);
  }
  // What keeps the holes from tearing, behind the edge they are in.
  for (std::size_t k = 0; k < d.lines.size() && k < 1; ++k) {
    StripOptions behind;
    behind.wide_mm = d.rules.lace_strip_pitches * p.pitch_mm, behind.thick_mm = 2.0, behind.inside = true;
    const FlatStrip flat = flat_strip(d.site, d.lines[k], behind);
    if (lengths_of(flat, kSheetRoomMm, behind.wide_mm) == 1 && !crosses_itself(flat.outline))
      d.piece(d.detail.name + ", strip behind the holes", flat.outline, behind.thick_mm, d.sides());
  }
  for (int r = 0; r < p.rows; ++r) add_piece(p, d, r, d.lines.front().length_mm, columns, thick);
  const int cords = p.cords > 0 ? p.cords : std::max(1, p.rows) * std::max(1, d.sides());
  d.out.count = columns, d.out.length_mm = laced;
  d.out.pitch_mm = d.lines.empty() ? p.pitch_mm : d.lines.front().length_mm / columns;
  if (!d.lines.empty()) d.out.rows.push_back({d.lines.front().length_mm, columns});
  const double metres = (1.0 + d.rules.lace_spare) * cord / 1000.0;
  d.fact(counted(p.rows, "plate") + " of " + in_mm(p.high_mm) + ", " + std::to_string(columns) +
      " pairs of holes a row; each cord " + fixed(laced / 1000.0, 2) + " m, " + std::to_string(cords) + " of them.");
  d.want("cord", "Cord, 2 to 3 mm", kPackM * std::ceil(metres / kPackM), "m");
  d.out.with_spare = cords + 1;
  d.want("tip-wrap", "Wraps for cord tips", cords + 1, "pieces");
  d.step("Punch the holes of " + d.detail.name,
      {"Punch " + in_mm(p.hole_mm) + " at every mark, in the plates and along the edge they hang from."},
      "Punch on a board, hand out of the way.", false, false);
  d.step("Lace " + d.detail.name,
      {"Wrap the cord " + std::to_string(cords + 1) + " times before it is cut, then cut through the middle of " +
              std::to_string(std::max(0, cords - 1)) + " wraps: every end is a tip.",
          "Start in the middle of each row with half the cord to each side; a strip " +
              in_mm(d.rules.lace_strip_pitches * p.pitch_mm) + " wide behind the holes keeps them from tearing.",
          "Heat seals synthetic tips: a flame melts and drips."},
      "Melting cord drips and burns: over a dish, not over a hand.", false, true);
}

}  // namespace awl
