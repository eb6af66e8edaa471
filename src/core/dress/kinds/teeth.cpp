#include "core/dress/kinds/teeth.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {

ToothRow teeth_along(const Teeth& t, double length_mm) {
  ToothRow row;
  const int n = t.count;
  Random dice(static_cast<std::uint64_t>(t.seed));
  std::vector<double> profile;
  for (int i = 0; i < n; ++i) {
    const double aside = n > 1 ? std::abs(2.0 * i / (n - 1) - 1.0) : 0.0;
    profile.push_back(1.0 - (1.0 - t.least) * aside);
  }
  const double room = length_mm - 2.0 * t.margin_mm - (n - 1) * t.gap_mm,
               each = room / std::accumulate(profile.begin(), profile.end(), 0.0);
  double from = t.margin_mm, covered = 0.0;
  for (int i = 0; i < n; ++i) {
    const double wide = each * profile[i], chance = dice.uniform(-1.0, 1.0);
    row.wide_mm.push_back(wide), row.at_mm.push_back(from + 0.5 * wide);
    row.high_mm.push_back(t.high_mm * profile[i] * (1.0 + t.uneven * chance));
    from += wide + t.gap_mm;
    covered += 0.5 * wide * row.high_mm.back();
  }
  row.open_share = std::clamp(1.0 - covered / (length_mm * t.high_mm), 0.0, 1.0);
  return row;
}

std::vector<Dial> dials_of(Teeth& t) {
  Dials dials;
  dials.group("The row")
      .count("count", t.count, {1, 80}, "How many", "Along the whole jaw.")
      .length("gap", t.gap_mm, {0, 40}, "Gap", "Between two; the wearer may see through it.")
      .length("margin", t.margin_mm, {0, 80}, "Free at both ends", "Of the line.")
      .share("least", t.least, {0.1, 1}, "Outermost", "Of the largest, which stands in the middle.")
      .share("uneven", t.uneven, {0, 0.6}, "Give or take", "No two quite alike.")
      .yes_no("down", t.down, "Pointing down", "Of an upper jaw; a lower one's point up.");
  dials.group("One of them")
      .choice("from", t.from, {"rod", "sheet"}, "Cut from", "A rod is turned and sanded; sheet ones are flat.")
      .length("high", t.high_mm, {3, 150}, "Height", "Of the largest, from the gum.")
      .length("root", t.root_mm, {0, 40}, "Root", "What goes into the ledge.")
      .share("lean", t.lean, {-1, 1}, "Leans", "+ outwards at its tip.")
      .length("gum", t.gum_mm, {0, 40}, "Gum", "A band along their feet; 0 is none.");
  dials.group("Chance").count("seed", t.seed, {1, 9999}, "Another lot", "Where they are uneven.");
  return std::move(dials).all();
}

void put_on(const Teeth& t, Dressing& d) {
  Mesh all;
  ToothRow row;
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine& line = d.lines[k];
    const double taken = 2.0 * t.margin_mm + (t.count - 1) * t.gap_mm;
    if (line.length_mm - taken < 2.0 * t.count) {
      const int most =
          std::max(1, static_cast<int>((line.length_mm - 2.0 * t.margin_mm + t.gap_mm) / (2.0 + t.gap_mm)));
      return d.remark("room", Severity::warning,
          "a line of " + in_mm(line.length_mm) + " has no room for " + std::to_string(t.count) +
              " teeth with gaps of " + in_mm(t.gap_mm) + "; " + std::to_string(most) + " is the most.",
          t.count, most, {{"Take " + std::to_string(most), d.turn_act("count", most)}});
    }
    row = teeth_along(t, line.length_mm);
    const double deep = t.from == Teeth::From::sheet ? d.thickness_mm(5.0) : 0.0;
    for (int i = 0; i < t.count; ++i) {
      const FormLine::At at = line.at_mm(row.at_mm[i]);
      // They stand along the jaw's own face, up or down.
      const Vec3 up = (t.down ? -Vec3::UnitY() : Vec3(Vec3::UnitY()));
      const Vec3 stands = (up - at.along.dot(up) * at.along).normalized();
      const Vec3 out = at.normal - stands.dot(at.normal) * stands;
      const double leans = stands.cross(at.along).dot(out) > 0.0 ? t.lean : -t.lean;
      const double half = 0.5 * (deep > 0.0 ? deep : 0.75 * row.wide_mm[i]);
      const Vec3 foot = at.at - (d.site.thickness_mm > half ? std::min(d.site.thickness_mm, half) : 0.0) * out;
      add_mesh(all, cone_on(foot, at.along, stands, row.wide_mm[i], 2.0 * half, row.high_mm[i], leans));
      d.place(at, row.wide_mm[i], k == 1);
      if (k == 0 && i == t.count / 2) d.grip("high", at.at + row.high_mm[i] * stands, stands);
    }
    if (t.gum_mm > 0.0) {
      d.solid(
          Matter::horn, bar_along(line.at, t.gum_mm, line.closed), 0.3 * d.grams(line.length_mm * t.gum_mm * t.gum_mm));
      d.trace(line.at, line.closed, TraceKind::glue, "gum");
    }
  }
  double volume = 0.0;
  for (int i = 0; i < t.count; ++i) volume += kPi / 12.0 * row.wide_mm[i] * row.wide_mm[i] * 0.75 * row.high_mm[i];
  d.solid(Matter::horn, std::move(all), d.grams(volume * d.sides()));
  d.out.count = t.count, d.out.open_share = row.open_share;
  const int all_teeth = t.count * d.sides();
  d.out.with_spare = all_teeth + std::max(1, static_cast<int>(std::ceil(d.rules.spare_share * all_teeth)));
  const double heights = std::accumulate(row.high_mm.begin(), row.high_mm.end(), 0.0);
  d.out.length_mm = heights;
  d.out.rows.push_back({d.lines.front().length_mm, t.count});
  const double tallest = *std::max_element(row.high_mm.begin(), row.high_mm.end());
  if (t.from == Teeth::From::sheet) {
    for (int i = 0; i < t.count; ++i)
      d.piece(d.detail.name + ", tooth " + std::to_string(i + 1),
          {{-0.5 * row.wide_mm[i], -t.root_mm}, {0.5 * row.wide_mm[i], -t.root_mm}, {0.5 * row.wide_mm[i], 0.0},
              {0.2 * row.wide_mm[i], 0.65 * row.high_mm[i]}, {0.0, row.high_mm[i]},
              {-0.2 * row.wide_mm[i], 0.65 * row.high_mm[i]}, {-0.5 * row.wide_mm[i], 0.0}},
          d.thickness_mm(5.0), d.sides());
  } else {
    const double rod = d.sides() * (heights + t.count * (t.root_mm + d.rules.saw_mm));
    d.want("rod/" + fixed(row.wide_mm[t.count / 2], 0),
        "Foam rod, " + in_mm(std::ceil(row.wide_mm[t.count / 2])) + " across", std::ceil(rod / 100.0) / 10.0, "m");
  }
  if (t.gum_mm > 0.0)
    d.want("gum-rod/" + fixed(t.gum_mm, 0), "Foam rod for gums, " + in_mm(t.gum_mm) + " across",
        std::ceil(d.sides() * d.lines.front().length_mm / 100.0) / 10.0, "m");
  d.fact(counted(t.count, "tooth") + ", " + in_mm(*std::min_element(row.high_mm.begin(), row.high_mm.end())) + " to " +
      in_mm(tallest) + " high; " + fixed(100.0 * row.open_share, 0) + " % of their band stays open to see through.");
  std::vector<std::string> cut;
  for (int i = 0; i < t.count; ++i)
    cut.push_back("Tooth " + std::to_string(i + 1) + ": " + fixed(row.wide_mm[i], 1) + " wide, " +
        fixed(row.high_mm[i], 1) + " high, its middle at " + fixed(row.at_mm[i], 1) + " mm.");
  d.step("Cut the teeth of " + d.detail.name, std::move(cut),
      "Small parts: pin them to a board, keep the blade away from the fingers; mask and goggles when sanding.", false,
      false);
  d.step("Set the teeth of " + d.detail.name,
      {"From the middle to both ends, at their places along the line; roots " + in_mm(t.root_mm) + " deep.",
          "Teeth first, gums after: the gum hides every foot."},
      "Blunt every tip that could meet a face.", true, true);
}

}  // namespace awl
