#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/fit/worn.hpp"
#include "core/judge/case.hpp"

namespace awl {
namespace {

constexpr double kPressesMm = 1.5, kPressesMm2 = 150.0, kGapeMm = 14.0, kMeantMm = 40.0, kSeenShare = 0.5;
constexpr double kMuchAirMl = 250.0;
constexpr double kFloorM = 4.0, kKeptShare = 0.25, kNodDeg = 20.0;

std::string whole_mm(double v) { return fixed(v, 0) + " mm"; }
std::string in_percent(double share) { return fixed(100.0 * share, 0) + " %"; }
std::string part_place(int part) { return "fit/" + std::to_string(part); }

/// The slit that would do, rounded up to what one would mark.
std::string slit_act(const GoingOn& g, const char* by) {
  return "add-slit " + std::to_string(g.part) + (g.slits > 1 ? " sides " : " back ") +
      fixed(5.0 * std::ceil(g.slit_mm / 5.0), 0) + " " + fixed(std::ceil(g.opens_mm / g.slits), 0) + " " + by;
}

/// Other ways: a rim larger by what it lacks, or an edge that leaves the face open.
std::vector<Remedy> larger_rim(const Build& build, const GoingOn& g) {
  const Part* part = find_part(build, g.part);
  const std::string number = std::to_string(g.part);
  if (part == nullptr) return {};
  if (const auto* rings = std::get_if<RingsSpec>(&part->shape))
    return {{"Grow its lower edge",
        "turn " + number + " ring1.grow " +
            fixed(rings->rings.front().grow_mm + std::ceil(g.short_mm / kTwoPi) + 1.0, 0)}};
  const auto* wrap = std::get_if<WrapSpec>(&part->shape);
  if (wrap != nullptr && wrap->edge == WrapEdge::full_cowl)
    return {{"Take the open-face edge", "set-edge open-face " + number}};
  return {};
}

std::string halves_act(const GoingOn& g) { return "add-slit " + std::to_string(g.part) + " halves 100 40 magnets"; }

void judge_going_on(const Case& c, Remarks& remarks) {
  for (const GoingOn& g : c.derived.worn->going_on) {
    if (g.passes || goes_on_opened(c.build.fit, g)) continue;
    if (g.stiff) {
      remarks
          .warn("fit.stops", part_place(g.part),
              "The " + g.name + " does not go on: it stops " + whole_mm(g.stops_short_mm) + " before its place" +
                  (g.overlap_mm > 0.0
                          ? " and would press " + whole_mm(g.overlap_mm) + " into the head near " + g.overlap_at
                          : std::string()) +
                  ". It is stiff and cannot be pulled over. Give it more room, or split it.")
          .measured(g.stops_short_mm, 0.0)
          .offer("Part it in two halves, magnets", halves_act(g));
      continue;
    }
    auto made = remarks.warn("fit.passes", part_place(g.part),
        "The " + g.name + " does not go over the head: " + whole_mm(g.ring_mm) + " in from its rim it is " +
            whole_mm(g.ring_girth_mm) + " round and lacks " + whole_mm(g.short_mm) +
            " beyond what the foam gives. A slit of " + whole_mm(g.slit_mm) +
            (g.slits > 1 ? " at each side" : " at the back") + " lets it pass.");
    made.measured(g.short_mm, 0.0);
    made.offer("Slit it and lace it", slit_act(g, "lacing"));
    made.offer("Slit it, elastic with snaps", slit_act(g, "elastic"));
    made.offer("Part it in two halves, magnets", halves_act(g));
    made.offer(larger_rim(c.build, g));
  }
}

/// The part that covers the ears: the first of those on the head that goes round it.
int covering_part(const Case& c) {
  for (const GoingOn& g : c.derived.worn->going_on)
    if (g.has_rings) return g.part;
  return c.build.parts.empty() ? 1 : c.build.parts.front().id;
}

void judge_inside(const Case& c, Remarks& remarks) {
  for (const PartClearance& p : c.derived.worn->clearance) {
    if (p.pressing_mm < kPressesMm || p.pressing_mm2 < kPressesMm2) continue;
    remarks
        .warn("fit.presses", part_place(p.part),
            "The " + p.name + " presses " + fixed(p.pressing_mm, 1) + " mm on " + fixed(p.pressing_mm2 / 100.0, 1) +
                " cm\u00b2 at " + p.pressing_at + " with its padding squeezed: give it more ease there.")
        .measured(p.pressing_mm, kPressesMm);
  }
  for (const PartClearance& p : c.derived.worn->clearance) {
    const Part* part = find_part(c.build, p.part);
    // Rims of hats and helms stand off by design; those of a skin over the face should lie on it.
    if (part == nullptr || !std::holds_alternative<WrapSpec>(part->shape) || p.gapes.empty()) continue;
    const Gape& g = p.gapes.front();
    if (g.widest_mm < kGapeMm || g.widest_mm > kMeantMm) continue;
    remarks
        .note("fit.gapes", part_place(p.part),
            "The rim of the " + p.name + " stands off by " + whole_mm(g.widest_mm) + " over " + whole_mm(g.long_mm) +
                " at " + g.place + ": it shows, unless it is meant to.")
        .measured(g.widest_mm, kGapeMm);
  }
  for (const EarRoom& e : c.derived.worn->ears)
    if (e.state == EarRoom::State::pushes && !has_cutout(c.build.fit, 0, CutoutKind::ears))
      remarks
          .note("fit.ear", std::string("fit/ear/") + (e.left ? "left" : "right"),
              std::string("The ") + (e.left ? "left" : "right") + " ear has " + whole_mm(std::max(0.0, e.room_mm)) +
                  " of room and pushes the side out by " + fixed(e.by_mm, 1) + " mm: a hole of about " +
                  fixed(e.relief_wide_mm, 0) + " x " + fixed(e.relief_tall_mm, 0) + " mm over it lets it be.")
          .measured(e.room_mm, e.stands_off_mm)
          .offer("Cut holes for the ears", "add-cutout " + std::to_string(covering_part(c)) + " ears");
}

/// What opens the view: the opening for the eyes taller or wider, as far as its dial goes.
std::vector<Remedy> more_sight(const Build& build, bool taller) {
  for (const Part& part : build.parts) {
    Part copy = part;
    const auto* rings = std::get_if<RingsSpec>(&part.shape);
    for (const Dial& d : dials_of(copy)) {
      const bool eye = d.facts.id == (taller ? "eye-tall" : "eye-wide") && d.value() > 0.0,
                 face = d.facts.id == "face.open" && rings != nullptr && static_cast<int>(rings->face) != 0;
      const double more = std::min(d.facts.most, d.value() + (taller || face ? 6.0 : 10.0));
      if ((eye || face) && more >= d.value() + 1.0)
        return {{face    ? "Open it further"
                : taller ? "Make the eye holes taller"
                         : "Make the eye holes wider",
            "turn " + std::to_string(part.id) + " " + d.facts.id + " " + fixed(more, 0)}};
    }
  }
  return {};
}

void judge_sight(const Case& c, Remarks& remarks) {
  const auto& sight = c.derived.worn->sight;
  if (!sight) return;
  const auto zone = [&](const char* id) -> const SightZone* {
    for (const SightZone& z : sight->zones)
      if (z.id == id && z.there) return &z;
    return nullptr;
  };
  if (sight->kept < 0.005) {
    remarks
        .warn("fit.blind", "fit/sight",
            "Nothing is seen: both eyes are covered. Cut openings before the pupils, or look out through a mesh.")
        .measured(sight->kept, kKeptShare);
    return;
  }
  if (sight->kept < kKeptShare)
    remarks
        .warn("fit.sight", "fit/sight",
            "About " + in_percent(sight->kept) +
                " of the field ahead is left: what comes from the side is noticed late. "
                "Never without a handler on stairs, in traffic or in a crowd.")
        .measured(100.0 * sight->kept, 100.0 * kKeptShare)
        .offer(more_sight(c.build, false));
  const SightZone* stair = zone("stair");
  if (stair != nullptr && stair->kept < kSeenShare)
    remarks
        .warn("fit.stairs", "fit/sight",
            (stair->kept < 0.005 ? std::string("Nothing of the first stair down is seen")
                                 : "Of the first stair down, about " + in_percent(stair->kept) + " is seen") +
                " with the head bent: stairs with a handler, or helm off.")
        .measured(100.0 * stair->kept, 100.0 * kSeenShare)
        .offer(more_sight(c.build, true));
  if (!sight->floor_level_m || *sight->floor_level_m > kFloorM)
    remarks.note("fit.floor", "fit/sight",
        sight->floor_level_m ? "The nearest floor that is seen lies about " + fixed(*sight->floor_level_m, 1) +
                " m ahead, " + fixed(sight->floor_nod_m.value_or(0.0), 1) + " m with the head bent."
                             : std::string("No floor is seen ahead without bending the head."));
}

void judge_turning(const Case& c, Remarks& remarks) {
  const auto& t = c.derived.worn->turning;
  if (!t || t->nod_deg >= kNodDeg) return;
  remarks
      .note("fit.nod", "fit/turning",
          "The head can be bent forward by about " + fixed(t->nod_deg, 0) +
              " degrees before the lower edge meets the chest: looking at one's feet wants more. Raise the edge in "
              "front.")
      .measured(t->nod_deg, kNodDeg);
}

constexpr double kMostWeightG = 400.0;

void judge_balance(const Case& c, Remarks& remarks) {
  const Balance& b = c.derived.worn->balance;
  const FitRules::Balance& rules = c.derived.worn->rules.balance;
  // A weight behind trims it, where it does not make it too heavy.
  const double weight_g = 10.0 * std::ceil(b.counterweight_g.value_or(0.0) / 10.0);
  const bool trims = weight_g > 0.0 && weight_g <= kMostWeightG && b.mass_g + weight_g <= rules.warn_g;
  const Remedy put{"Put " + fixed(weight_g, 0) + " g in behind", "add-counterweight " + fixed(weight_g, 0)};
  if (b.share > rules.warn_share || b.mass_g > rules.warn_g) {
    auto made = remarks.warn("fit.heavy", "fit/balance",
        "It weighs about " + fixed(b.mass_g, 0) + " g and pulls the head " + (b.share > 0.0 ? "forward" : "back") +
            " by " + in_percent(std::abs(b.share)) + " of the head's own pull: too much for an evening.");
    made.measured(b.mass_g, rules.warn_g);
    if (trims) made.offer({put});
  } else if (b.share > rules.trim_share) {
    auto made = remarks.note("fit.trim", "fit/balance",
        "It pulls the head forward by " + in_percent(b.share) +
            " of the head's own pull: put the battery at the back, or a counterweight.");
    made.measured(b.forward_nm, std::nullopt).offer("Put a battery at the back", "add-room battery");
    if (trims) made.offer({put});
  }
  if (b.mass_g > rules.note_g && b.mass_g <= rules.warn_g)
    remarks
        .note("fit.weight", "fit/balance",
            "It weighs about " + fixed(b.mass_g, 0) + " g: that is felt after an hour. Plan a rest.")
        .measured(b.mass_g, rules.note_g);
  if (std::abs(b.side_nm) > rules.side_nm)
    remarks
        .note("fit.side", "fit/balance",
            "It pulls to the wearer's " + std::string(b.side_nm > 0.0 ? "left" : "right") + " by " +
                fixed(std::abs(b.side_nm), 2) + " N m: it tires the neck.")
        .measured(b.side_nm, rules.side_nm);
}

/// What holds a part that is no more by itself.
void judge_lost_holds(const Case& c, Remarks& remarks) {
  for (const Hold& h : c.build.fit.holds)
    if (const PartForm* skin = skin_holding(c, h.part)) {
      const std::string part = find_part(c.build, h.part)->name;
      remarks
          .note("fit.one-skin", "fit/hold/" + std::to_string(h.id),
              "What holds the " + part + " is left out: the " + part + " is one skin with the " + skin->name +
                  " now. Hold the " + skin->name + " instead, or let the parts meet some other way.")
          .offer("Take it away", "drop-hold " + std::to_string(h.id));
    }
}

void judge_hold(const Case& c, Remarks& remarks) {
  for (const HoldCheck& h : c.derived.worn->holds)
    if (h.falls_short())
      remarks
          .warn(
              "fit.hold", "fit/hold/" + std::to_string(h.hold), h.words + " It comes off: take more, or stronger ones.")
          .measured(*h.force_n, h.needed_n)
          .offer("One more", "more-hold " + std::to_string(h.hold));
  for (const RoomCheck& r : c.derived.worn->rooms) {
    if (r.fits) continue;
    const auto room = std::find_if(
        c.build.fit.rooms.begin(), c.build.fit.rooms.end(), [&](const Room& one) { return one.id == r.room; });
    if (room == c.build.fit.rooms.end()) continue;
    const bool shell = r.shell_mm < r.skin_mm;
    remarks
        .warn("fit.room", "fit/room/" + std::to_string(r.room),
            std::string("The ") + name_of(room->kind) + " does not fit: it " +
                (shell ? "comes " + fixed(std::abs(r.shell_mm), 0) + " mm " + (r.shell_mm < 0.0 ? "into" : "near") +
                            " the " + r.shell
                       : "comes " + fixed(std::abs(r.skin_mm), 0) + " mm " + (r.skin_mm < 0.0 ? "into" : "near") +
                            " the head") +
                ", and wants " + whole_mm(c.derived.worn->rules.clearance.room_mm) +
                " to both. Move it, or take a smaller one.")
        .measured(shell ? r.shell_mm : r.skin_mm, c.derived.worn->rules.clearance.room_mm);
  }
  const auto& air = c.derived.worn->air;
  if (air.dead_ml && *air.dead_ml > kMuchAirMl &&
      *air.dead_ml < c.derived.worn->rules.air.dead_say_ml)  // a helm is a room: its openings are told instead
    remarks
        .note("fit.air", "fit/air",
            "About " + fixed(*air.dead_ml, 0) +
                " ml of air stays before nose and mouth and is breathed again: open it "
                "near the mouth, rest often, take it off when short of breath.")
        .measured(*air.dead_ml, kMuchAirMl)
        .offer("Put vents in behind", "add-cutout " + std::to_string(covering_part(c)) + " vents-back");
  if (air.fogs)
    remarks.note("fit.fog", "fit/air",
        "The visor stands close before nose and mouth and little is open above it: it fogs. Open something above, or "
        "move it away.");
}

}  // namespace

void judge_fit(const Case& c, Remarks& remarks) {
  judge_lost_holds(c, remarks);
  if (!c.derived.worn) return;
  judge_going_on(c, remarks);
  judge_inside(c, remarks);
  judge_sight(c, remarks);
  judge_turning(c, remarks);
  judge_balance(c, remarks);
  judge_hold(c, remarks);
}

}  // namespace awl
