#include "core/dress/kinds/filling.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/geom/solid.hpp"

namespace awl {

std::vector<Dial> dials_of(Filling& f) {
  Dials dials;
  dials.group("The filling")
      .share("share", f.share, {0.05, 1}, "Of the room inside", "Tips are filled, the place of the head is not.");
  auto all = std::move(dials).all();
  all.push_back({{"density", "Pressed in, kg a cubic metre", "Fluff is about 12; more is harder.", DialKind::count, 2.0,
                     120.0, {}, "The filling"},
      [&f] { return f.kg_m3; }, [&f](double v) { f.kg_m3 = v; }});
  return all;
}

void put_on(const Filling& f, Dressing& d) {
  const double room = std::abs(volume_mm3(capped(d.site.inner)));
  const double grams = room * f.share * f.kg_m3 * 1e-6;
  if (room < 1000.0)
    return d.remark("room", Severity::warning, "this part encloses nothing that could be filled.", room, 1000.0);
  d.out.count = 1;
  d.fact("Room inside " + fixed(room / 1e6, 2) + " litres; " + fixed(100.0 * f.share, 0) + " % of it takes " +
      fixed(grams, 0) + " g of filling.");
  d.want("filling", "Filling, fluff", std::ceil(grams / 10.0) * 10.0, "g");
  d.step("Fill " + d.detail.name,
      {"Through the open base or a seam left open, small handfuls into the tip first; a wire goes in before it."},
      "It burns: keep lamps, packs and hot tools away from it. Nothing loose before nose and mouth.", false, true);
}

}  // namespace awl
