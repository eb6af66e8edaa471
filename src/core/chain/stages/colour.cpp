#include "core/chain/stages/colour.hpp"

#include "core/chain/shop.hpp"

namespace awl {

Result<std::optional<ColourStage::Inputs>> ColourStage::inputs(
    const Shop&, const Build& build, const Derived& derived) {
  if (build.coat.areas.empty() || build.making != Making::parts || !derived.form) return std::optional<Inputs>{};
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
