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

namespace {

/// What a detail is asked with. Errors: unknown_name for what it is made of.
Result<DetailStep::Inputs> asked_of(
    const Shop& shop, const Detail& detail, const Held<DressSite>& site, const DressStuffs& stuffs) {
  DetailStep::Inputs asked{site, detail, stuffs, {}};
  if (detail.stuff.empty()) return asked;
  const auto own = shop.materials().foam(detail.stuff);
  if (!own) return fail(own.error().code, own.error().text, "dress/" + std::to_string(detail.id));
  asked.stuffs.own = *own;
  return asked;
}

/// All details in their order: side by side, but for those that lie beside one before them.
Result<void> add_details(Shop& shop, const DressStage::Inputs& in, const std::vector<Held<DressSite>>& sites,
    DressStage::Made& made, const Progress& progress) {
  std::vector<DetailStep::Inputs> asked, free;
  for (const Detail& detail : in.details) {
    const auto on = std::find_if(in.parts.begin(), in.parts.end(),
        [&](const DressStage::One& one) { return one.site.form->part == detail.part; });
    if (on == in.parts.end()) continue;  // its part could not be made
    auto one = asked_of(shop, detail, sites[static_cast<std::size_t>(on - in.parts.begin())], on->stuffs);
    if (!one) return fail(one);
    asked.push_back(std::move(*one));
    if (detail.track.from != TrackFrom::beside) free.push_back(asked.back());
  }
  const auto done = shop.make_all<DetailStep>(free, progress);
  auto next = done.begin();
  for (DetailStep::Inputs& one : asked) {
    const bool is_beside = one.detail.track.from == TrackFrom::beside;
    if (is_beside)
      for (const auto& other : made)
        if (other->detail == one.detail.track.number) one.beside = other;
    const auto dressed = is_beside ? shop.make<DetailStep>(one, progress) : *next++;
    if (!dressed) return fail(dressed);
    made.push_back(*dressed);
  }
  return {};
}

}  // namespace

Result<DressStage::Made> DressStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  std::vector<DressSiteStep::Inputs> wanted;
  for (const One& one : in.parts) wanted.push_back(one.site);
  std::vector<Held<DressSite>> sites, crowded;
  for (const auto& site : shop.make_all<DressSiteStep>(wanted, progress.span(0.0, 0.4))) {
    if (!site) return fail(site);
    if (in.parts[sites.size()].feet && !(*site)->feet.empty()) crowded.push_back(*site);
    sites.push_back(*site);
  }
  Made made;
  for (const auto& feet : shop.make_all<FeetStep>(crowded, progress.span(0.4, 0.5))) {
    if (!feet) return fail(feet);
    made.push_back(*feet);
  }
  if (auto added = add_details(shop, in, sites, made, progress.span(0.5, 1.0)); !added) return fail(added);
  return made;
}

void DressStage::keep(Derived& derived, const Held<Made>& made) { derived.dressed = made; }

}  // namespace awl
