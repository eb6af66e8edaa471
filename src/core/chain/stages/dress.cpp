#include "core/chain/stages/dress.hpp"

#include <algorithm>

#include "core/chain/shop.hpp"
#include "core/derived/part_lines.hpp"
#include "core/derived/stuffs.hpp"

namespace awl {

Result<DressSite> DressSiteStep::run(Shop& shop, const Inputs& in, const Progress& progress) {
  DressSite site = dress_site(*in.form, in.sweep);
  for (const auto& guest : in.guests) {
    const auto other = shop.make<DressSiteStep>({guest, false, {}}, progress);
    if (!other) return fail(other);
    add_foot(site, **other);
  }
  return site;
}

Result<Dressed> DetailStep::run(Shop& shop, const Inputs& in, const Progress&) {
  return dressed(in.detail, *in.site, in.stuffs, shop.dress_rules(), in.beside ? &in.beside->lines : nullptr);
}

Result<Dressed> FeetStep::run(Shop&, const Inputs& in, const Progress&) { return footprints(*in); }

Result<std::optional<DressStage::Inputs>> DressStage::inputs(
    const Shop& shop, const Build& build, const Derived& derived) {
  if (build.making != Making::parts || !derived.form) return std::optional<Inputs>{};
  Inputs in;
  for (const auto& form : derived.form->parts) {
    const Part* part = find_part(build, form->part);
    if (part == nullptr) continue;
    One one;
    one.site.form = form;
    one.site.sweep = std::holds_alternative<SweepSpec>(part->shape);
    for (const auto& guest : derived.form->parts)
      if (const Part* other = find_part(build, guest->part); other != nullptr && other->on == part->id)
        one.site.guests.push_back(guest);
    one.feet = build.dress.footprints && !one.site.guests.empty() && part->way.way == Way::skin;
    const bool dressed = std::any_of(
        build.dress.details.begin(), build.dress.details.end(), [&](const Detail& d) { return d.part == part->id; });
    if (!one.feet && !dressed) continue;
    const auto host = stuff_of(build, derived, *part, shop.materials());
    if (!host) return fail(host);
    one.stuffs.own = one.stuffs.host = *host, one.stuffs.host_kind = part->stuff;
    in.parts.push_back(std::move(one));
  }
  if (in.parts.empty()) return std::optional<Inputs>{};
  in.details = build.dress.details;
  return in;
}

Result<DressStage::Made> DressStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  Made made;
  std::vector<Held<DressSite>> sites;
  for (const One& one : in.parts) {
    const auto site = shop.make<DressSiteStep>(one.site, progress);
    if (!site) return fail(site);
    sites.push_back(*site);
    if (!one.feet || (*site)->feet.empty()) continue;
    const auto feet = shop.make<FeetStep>(*site, progress);
    if (!feet) return fail(feet);
    made.push_back(*feet);
  }
  for (std::size_t i = 0; i < in.details.size(); ++i) {
    const Detail& detail = in.details[i];
    if (!progress.keep_going(static_cast<double>(i) / static_cast<double>(in.details.size())))
      return fail(Errc::cancelled, "Stopped.", "dress");
    const auto on = std::find_if(
        in.parts.begin(), in.parts.end(), [&](const One& one) { return one.site.form->part == detail.part; });
    if (on == in.parts.end()) continue;  // its part could not be made
    DetailStep::Inputs asked{sites[on - in.parts.begin()], detail, on->stuffs, {}};
    if (!detail.stuff.empty()) {
      const auto own = shop.materials().foam(detail.stuff);
      if (!own) return fail(own.error().code, own.error().text, "dress/" + std::to_string(detail.id));
      asked.stuffs.own = *own;
    }
    if (detail.track.from == TrackFrom::beside)
      for (const auto& other : made)
        if (other->detail == detail.track.number) asked.beside = other;
    const auto done = shop.make<DetailStep>(asked, progress);
    if (!done) return fail(done);
    made.push_back(*done);
  }
  return made;
}

void DressStage::keep(Derived& derived, const Held<Made>& made) { derived.dressed = made; }

}  // namespace awl
