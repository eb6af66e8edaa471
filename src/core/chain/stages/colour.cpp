#include "core/chain/stages/colour.hpp"

#include "core/chain/shop.hpp"

namespace awl {

Result<std::optional<ColourStage::Inputs>> ColourStage::inputs(
    const Shop&, const Build& build, const Derived& derived) {
  const bool parted = std::any_of(build.parts.begin(), build.parts.end(), [](const Part& p) {
    return std::any_of(p.drawn.begin(), p.drawn.end(), [](const DrawnSeam& s) { return s.role == LineRole::colours; });
  });
  if ((build.coat.areas.empty() && !parted) || build.making != Making::parts || !derived.form)
    return std::optional<Inputs>{};
  Inputs in{derived.form, derived.panels, derived.dressed, build.coat.areas, {}};
  for (const Part& part : build.parts) in.seats.push_back({part.id, part.on});
  return in;
}

Result<ColourMap> ColourStage::run(Shop&, const Inputs& in, const Progress&) {
  return colour_map(ColourGround{*in.form, in.panels.get(), in.dressed.get(), in.areas, [&](int part) {
                                   for (const Seat& seat : in.seats)
                                     if (seat.part == part) return seat.on;
                                   return 0;
                                 }});
}

void ColourStage::keep(Derived& derived, const Held<Made>& made) { derived.colours = made; }

}  // namespace awl
