#include "core/dress/kinds/lights.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/kinds/studs.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {

std::vector<Dial> dials_of(Lights& l) {
  Dials dials;
  dials.group("The lamps").length("across", l.across_mm, {1, 80}, "Across", "Of one lamp, and its hole.");
  add_spacing(dials, l.spacing);
  dials.group("What they run on")
      .length("lead", l.lead_mm, {0, 3000}, "Way to the battery", "From the line's nearer end, inside.");
  auto all = std::move(dials).all();
  const auto number = [&](std::string id, double& field, double most, std::string label, std::string tip) {
    all.push_back(
        {{std::move(id), std::move(label), std::move(tip), DialKind::count, 1.0, most, {}, "What they run on"},
            [&field] { return field; }, [&field](double v) { field = v; }});
  };
  number("each-ma", l.each_ma, 2000.0, "Each takes, mA", "As its label says.");
  number("battery-mah", l.battery_mah, 50000.0, "Battery holds, mAh", "As its label says; about four fifths come out.");
  return all;
}

void put_on(const Lights& l, Dressing& d) {
  Mesh lamps;
  int all = 0;
  double cable = 0.0;
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine& line = d.lines[k];
    const auto made = spaced(line.length_mm, line.closed, l.spacing);
    if (!made) return d.remark("room", Severity::warning, made.error().text);
    for (const double mm : made->along_mm) {
      const FormLine::At at = line.at_mm(mm);
      d.hole(at.at, l.across_mm);
      d.place(at, l.across_mm, k == 1);
      add_mesh(lamps, dome_on(at, l.across_mm, 0.45 * l.across_mm));
    }
    all += static_cast<int>(made->along_mm.size());
    if (k == 0) d.out.count = all, d.out.pitch_mm = made->pitch_mm;
    cable += d.rules.cable_share * (line.length_mm + l.lead_mm) + d.rules.cable_more_mm;
    std::vector<Vec3> inside;
    for (std::size_t i = 0; i < line.size(); ++i)
      inside.push_back(d.site.inside_of(d.site.hit(line.at[i])) - 2.0 * line.normal[i]);
    d.solid(Matter::cord, bar_along(inside, 2.0, line.closed), cable * 0.012, false);
  }
  add_spacing_grip(d, l.spacing);
  constexpr double kLampGramsPerMm3 = 0.0015;
  d.solid(Matter::lamp, std::move(lamps), all * kLampGramsPerMm3 * std::pow(l.across_mm, 3), false);
  const double drawn = all * l.each_ma, hours = l.battery_mah * d.rules.battery_share / std::max(drawn, 1e-9);
  d.out.length_mm = cable, d.out.with_spare = all + std::max(1, static_cast<int>(std::ceil(d.rules.spare_share * all)));
  d.fact(counted(all, "lamp") + ", " + fixed(drawn, 0) + " mA: about " + fixed(hours, 1) + " hours on " +
      fixed(l.battery_mah, 0) + " mAh. Cable " + fixed(cable / 1000.0, 1) + " m.");
  if (hours < 2.0)
    d.remark("runs-short", Severity::note,
        "it runs " + fixed(hours, 1) + " hours: less than an evening of 2. A battery of " +
            fixed(std::ceil(2.0 * drawn / d.rules.battery_share / 100.0) * 100.0, 0) + " mAh lasts.",
        hours, 2.0,
        {{"Take that battery",
            d.turn_act(
                "battery-mah", std::min(50000.0, std::ceil(2.0 * drawn / d.rules.battery_share / 100.0) * 100.0))}});
  d.want("lamp/" + fixed(l.across_mm, 0), "Lamps, " + in_mm(l.across_mm) + ", " + fixed(l.each_ma, 0) + " mA",
      d.out.with_spare);
  d.want("cable", "Two-core cable", std::ceil(cable / 100.0) / 10.0, "m");
  d.want("battery", "Battery pack with holder and fuse, " + fixed(l.battery_mah, 0) + " mAh", 1);
  d.step("Bore for " + d.detail.name, {"Punch " + in_mm(l.across_mm) + " at every mark while the piece lies flat."},
      "Punch on a board, hand out of the way.", false, false);
  d.step("Wire " + d.detail.name,
      {"Before the part is closed: lamps in, cable along the inside, held every 60 mm, a loop to spare at every lamp.",
          "Put the battery in at Fit, Inside: it counts for room and balance. Let it run for an hour on the bench "
          "before it is worn."},
      "Lamps and packs grow warm in closed foam: a fuse at the pack, nothing that sparks against foam, a pack that can "
      "be pulled out at once; charge it outside the part, as its label says.",
      false, true);
}

}  // namespace awl
