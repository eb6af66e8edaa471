#include "core/derived/left_rings.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/builds/build.hpp"
#include "core/derived/stuffs.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

constexpr double kLeastMm = 15.0;

}  // namespace

std::vector<LeftDisc> discs_left(const std::vector<Piece>& pieces, const std::vector<Offcut>& offcuts) {
  std::vector<LeftDisc> left;
  for (const Piece& p : pieces)
    for (const auto& hole : p.holes)
      if (const double r = hole.size() < 3 ? 0.0 : roomiest_place(hole).room_mm; r >= kLeastMm)
        left.push_back({"the disc cut out of piece " + std::to_string(p.number), p.stuff, p.thickness_mm, r});
  for (const Offcut& o : offcuts)
    if (const double r = roomiest_place(o.outline).room_mm; r >= kLeastMm)
      left.push_back({"the offcut " + o.name, o.foam, o.thickness_mm, r});
  return left;
}

std::optional<RingServes> ring_for(
    const FlatStrip& strip, double wide_mm, double most_strain, const std::vector<LeftDisc>& left) {
  std::optional<RingServes> best;
  const double turn = std::abs(strip.turn_rad) / std::max(strip.length_mm, 1e-9);  // per millimetre
  for (const LeftDisc& disc : left) {
    // The ring wanted, as far as it lies within what there is; else along its outer edge.
    const double wanted = turn > 1e-6 ? 1.0 / turn : 1e9;
    const double most = disc.radius_mm - 0.5 * wide_mm;
    if (most < wide_mm) continue;
    const double radius = std::clamp(wanted, wide_mm, most);
    if (kTwoPi * radius < strip.length_mm) continue;
    const double strain = std::abs(1.0 / radius - turn) * 0.5 * wide_mm;
    if (strain > most_strain || (best && strain >= best->strain)) continue;
    best = RingServes{disc, radius - 0.5 * wide_mm, radius + 0.5 * wide_mm, strain};
  }
  return best;
}

Result<std::vector<std::string>> rings_that_serve(
    const Build& build, const Derived& derived, const Dressed& made, const Materials& materials) {
  std::vector<std::string> words;
  const Detail* detail = find_detail(build.dress, made.detail);
  const Strip* strip = detail != nullptr ? std::get_if<Strip>(&detail->shape) : nullptr;
  if (strip == nullptr || strip->lies == Strip::Lies::over_edge || !derived.pieces || made.yield.pieces.empty())
    return words;
  const auto own = stuff_of(build, made.yield.pieces.front(), materials);
  if (!own) return fail(own);
  const double thick = made.yield.pieces.front().thickness_mm;
  auto left = discs_left(*derived.pieces, build.foam.offcuts);
  std::erase_if(left, [&](const LeftDisc& ring) {
    return (ring.stuff.empty() ? build.foam.foam : ring.stuff) != own->id || std::abs(ring.thickness_mm - thick) > 0.05;
  });
  for (const auto& [name, flat] : made.strips)
    if (const auto ring = ring_for(flat, strip->wide_mm, bears_strain(*own, true), left))
      words.push_back(name + ": " + ring->from.from + " serves, a ring between radii of " + fixed(ring->inner_mm, 0) +
          " and " + fixed(ring->outer_mm, 0) + " mm; its edges give " + fixed(100.0 * ring->strain, 1) + " %.");
  return words;
}

}  // namespace awl
