#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/builds/area_acts.hpp"
#include "core/builds/settings.hpp"

namespace awl {
namespace {

using Outcome = Result<Build>;

/// A failed reading of an act's words, with the act's own name.
template <class T>
tl::unexpected<Error> unread(const char* what, const Result<T>& failed) {
  return fail(failed.error().code, std::string(what) + ": " + failed.error().text);
}

Result<Part*> part_named(Build& build, Words& words) {
  const auto id = words.whole();
  if (!id) return unread("Which part", id);
  Part* part = find_part(build, *id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(*id) + ".", "parts");
  return part;
}

/// "use-expected HC 575.0": the first reading becomes what would go with the others.
Outcome use_expected(Build next, Words& words) {
  const auto id = measure_from_code(words.next());
  if (!id) return fail(id);
  const auto expected_mm = words.number();
  if (!expected_mm) return unread("The value to use", expected_mm);
  const auto entry = next.tape.head.find(*id);
  if (entry == next.tape.head.end())
    return fail(Errc::unknown_name, "The " + spoken_name(*id) + " has not been measured.", facts_of(*id).code);
  entry->second.first_mm = *expected_mm + facts_of(*id).hair_share * entry->second.over_hair_mm;
  entry->second.second_mm.reset();
  return next;
}

/// The measures an act names, all of them taken.
Result<std::vector<MeasureId>> taken_measures(const Build& build, Words& words) {
  std::vector<MeasureId> ids;
  while (!words.at_end()) {
    const auto id = measure_from_code(words.next());
    if (!id) return fail(id);
    if (build.tape.head.count(*id) == 0)
      return fail(Errc::unknown_name, "The " + spoken_name(*id) + " has not been measured.", facts_of(*id).code);
    ids.push_back(*id);
  }
  return ids;
}

Outcome accept_measures(Build next, Words& words) {
  const auto ids = taken_measures(next, words);
  if (!ids) return fail(ids);
  next.tape.accepted.insert(ids->begin(), ids->end());
  return next;
}

Outcome swap_measures(Build next, Words& words) {
  const auto ids = taken_measures(next, words);
  if (!ids) return fail(ids);
  if (ids->size() != 2)
    return fail(Errc::unknown_name, "Two measures change places, not " + std::to_string(ids->size()) + ".");
  std::swap(next.tape.head[(*ids)[0]], next.tape.head[(*ids)[1]]);
  return next;
}

Outcome scale_tapes(Build next, Words& words) {
  const auto factor = words.number();
  if (!factor) return unread("The factor", factor);
  if (!(*factor >= 0.5 && *factor <= 2.0))
    return fail(Errc::out_of_range, "Tapes are scaled by 0.5 to 2, not by " + fixed(*factor, 3) + ".");
  for (auto& [id, e] : next.tape.head) {
    if (!is_tape(id)) continue;
    e.first_mm *= *factor;
    if (e.second_mm) *e.second_mm *= *factor;
  }
  return next;
}

/// The wrap an act on wraps means: that of the number behind the value, without one the first.
Result<Part*> wrap_meant(Build& build, Words& words) {
  if (!words.at_end()) {
    const auto part = part_named(build, words);
    if (!part || std::holds_alternative<WrapSpec>((*part)->shape)) return part;
  } else {
    for (Part& p : build.parts)
      if (std::holds_alternative<WrapSpec>(p.shape)) return &p;
  }
  return fail(Errc::unknown_name, "This build has no wrap to change.");
}

Outcome set_gores(Build next, Words& words) {
  const auto gores = words.whole();
  if (!gores) return unread("How many gores", gores);
  const auto part = wrap_meant(next, words);
  if (!part) return fail(part);
  (*part)->seams.preset = SeamPreset::gores;
  (*part)->seams.gores_per_side = *gores;
  return next;
}

Outcome set_belt(Build next, Words& words) {
  words.next();  // "on"
  const auto part = wrap_meant(next, words);
  if (!part) return fail(part);
  (*part)->seams.belt = true;
  (*part)->seams.belt_up_mm = 5.0;
  return next;
}

Outcome set_edge(Build next, Words& words) {
  const auto edge = wrap_edge_from(std::string(words.next()));
  if (!edge) return fail(edge);
  const auto part = wrap_meant(next, words);
  if (!part) return fail(part);
  std::get<WrapSpec>((*part)->shape).edge = *edge;
  return next;
}

/// "turn 3 seat.gap 4"
Outcome turn(Build next, Words& words) {
  const auto id = words.whole();
  if (!id) return unread("Which part", id);
  const std::string dial(words.next());
  const auto to = words.number();
  if (!to) return unread("The value to turn it to", to);
  return turn_dial(next, *id, dial, *to);
}

/// "set foam/gap 5", "set fit/hold/2/magnet 10 x 3 N42"
Outcome set_anything(Build next, Words& words) {
  const std::string setting(words.next());
  const std::string to(words.rest());
  if (to.empty()) return fail(Errc::empty_input, "What to set " + in_quotes(setting) + " to is not said.");
  return with_setting(std::move(next), setting, to);
}

/// "take-in 1 6 1.5 0 belt": part, millimetres at both ends and in the middle, the seam's name.
Outcome take_in(Build next, Words& words) {
  Alteration a;
  const auto part = words.whole();
  if (!part) return unread("Which part", part);
  a.part = *part;
  for (double* mm : {&a.first_mm, &a.middle_mm, &a.last_mm}) {
    const auto value = words.number();
    if (!value) return unread("How much to take in", value);
    *mm = *value;
  }
  a.seam = std::string(words.rest());
  if (auto added = add_alteration(next, a); !added) return fail(added);
  return next;
}

Outcome drop_alteration(Build next, Words& words) {
  const auto id = words.whole();
  if (!id) return unread("Which alteration", id);
  std::erase_if(next.alterations, [&](const Alteration& a) { return a.id == *id; });
  return next;
}

/// "drop-correction 2": part.
Outcome drop_correction(Build next, Words& words) {
  const auto part = words.whole();
  if (!part) return unread("Which part", part);
  std::erase_if(next.corrections, [&](const Correction& c) { return c.part == *part; });
  return next;
}

Outcome set_way(Build next, Words& words) {
  const auto part = part_named(next, words);
  if (!part) return fail(part);
  const auto way = way_from(std::string(words.next()));
  if (!way) return fail(way);
  (*part)->way.way = *way;
  return next;
}

Outcome set_pull(Build next, Words& words) {
  const auto part = part_named(next, words);
  if (!part) return fail(part);
  const auto axis = axis_from(std::string(words.next()));
  if (!axis) return fail(axis);
  (*part)->way.pull = *axis;
  return next;
}

/// "meet 3 1 sits": a part, the earlier one it is cut to, and how.
Outcome meet_part(Build next, Words& words) {
  const auto part = part_named(next, words);
  if (!part) return fail(part);
  const auto with = part_named(next, words);
  if (!with) return fail(with);
  const auto how = meet_how_from(std::string(words.next()));
  if (!how) return fail(how);
  Meet meet{(*with)->id, *how};
  if (!words.at_end()) {
    const auto play = words.number();
    if (!play) return unread("The play", play);
    meet.play_mm = *play;
  }
  auto& meets = (*part)->meets;
  const auto known = std::find_if(meets.begin(), meets.end(), [&](const Meet& m) { return m.with == meet.with; });
  if (known == meets.end())
    meets.push_back(meet);
  else
    *known = meet;
  return next;
}

/// "part-from 3 1": it is not cut to that one any more.
Outcome part_from_other(Build next, Words& words) {
  const auto part = part_named(next, words);
  if (!part) return fail(part);
  const auto with = words.whole();
  if (!with) return unread("From which part", with);
  std::erase_if((*part)->meets, [&](const Meet& m) { return m.with == *with; });
  return next;
}

/// "set-stuff 3 eva-firm": what a part is cut from, in its usual thickness; without a name the build's foam.
Outcome set_stuff(Build next, Words& words) {
  const auto part = part_named(next, words);
  if (!part) return fail(part);
  (*part)->stuff = std::string(words.next());
  (*part)->thickness_mm = 0.0;
  if (words.at_end()) return next;
  const auto thickness = words.number();
  if (!thickness) return unread("The thickness", thickness);
  (*part)->thickness_mm = *thickness;
  return next;
}

Outcome set_stagger(Build next, Words& words) {
  const auto part = part_named(next, words);
  if (!part) return fail(part);
  (*part)->seams.stagger = true;
  return next;
}

Outcome set_sheet(Build next, Words& words) {
  const auto width = words.number(), height = words.number();
  if (!width) return unread("The sheet's width", width);
  if (!height) return unread("The sheet's height", height);
  next.foam.sheet = {*width, *height};
  return next;
}

Outcome set_thickness(Build next, Words& words) {
  const auto mm = words.number();
  if (!mm) return unread("The thickness", mm);
  next.foam.thickness_mm = *mm;
  return next;
}

Outcome set_hours(Build next, Words& words) {
  const auto hours = words.number();
  if (!hours) return unread("The hours a day", hours);
  next.coat.hours_a_day = *hours;
  return next;
}

Outcome set_head_plan(Build next, Words& words) {
  const auto plan = words.whole();
  if (!plan) return unread("The plan", plan);
  next.foam_head.plan = *plan;
  return next;
}

Outcome compared(Build next, Words& words) {
  const auto look = look_from(std::string(words.next()));
  if (!look) return fail(look);
  next.compared.insert(*look);
  return next;
}

Outcome fit_to(Build next, Words& words) {
  next.fit_to_built = words.next() == "built";
  return next;
}
Outcome set_slots(Build next, Words& words) {
  next.foam.slotted = words.next() != "off";
  return next;
}
Outcome set_heated(Build next, Words& words) {
  next.foam.heated = words.next() != "off";
  return next;
}
Outcome set_heat_seal(Build next, Words& words) {
  next.coat.heat_seal = words.next() != "off";
  return next;
}
Outcome drop_held(Build next, Words&) {
  next.foam.held.clear();
  return next;
}
Outcome set_seal(Build next, Words& words) {
  next.coat.seal = std::string(words.next());
  return next;
}
Outcome set_paint(Build next, Words& words) {
  next.coat.paint = std::string(words.next());
  return next;
}
Outcome set_clear(Build next, Words& words) {
  next.coat.clear = std::string(words.next());
  return next;
}
Outcome set_glue(Build next, Words& words) {
  next.coat.glue = std::string(words.next());
  return next;
}

template <class E>
Outcome set_word(Build next, Words& words, E FinishSpec::*field, Result<E> (*from)(const std::string&)) {
  const auto word = from(std::string(words.next()));
  if (!word) return fail(word);
  next.coat.*field = *word;
  return next;
}
Outcome set_bare_seams(Build next, Words& words) {
  next.coat.fill_seams = false;
  return set_word(std::move(next), words, &FinishSpec::bare_seams, seam_look_from);
}
Outcome set_build_up(Build next, Words& words) {
  return set_word(std::move(next), words, &FinishSpec::build_up, build_up_from);
}
Outcome set_shade(Build next, Words& words) { return set_word(std::move(next), words, &FinishSpec::shade, shade_from); }
Outcome search_longer(Build next, Words& words) {
  next.coat.search_longer = words.next() != "off";
  return next;
}
Outcome set_places(Build next, Words& words) {
  const auto places = words.whole();
  if (!places) return unread("The drying places", places);
  next.coat.drying_places = *places;
  return next;
}

struct Act {
  std::string_view verb;
  Outcome (*run)(Build next, Words& words);
};
constexpr Act kActs[] = {{"use-expected", use_expected}, {"accept-measure", accept_measures},
    {"swap-measures", swap_measures}, {"scale-tapes", scale_tapes}, {"set-gores", set_gores}, {"set-belt", set_belt},
    {"set-edge", set_edge}, {"turn", turn}, {"set", set_anything}, {"take-in", take_in},
    {"drop-alteration", drop_alteration}, {"drop-correction", drop_correction}, {"set-way", set_way},
    {"set-pull", set_pull}, {"set-stuff", set_stuff}, {"meet", meet_part}, {"part-from", part_from_other},
    {"set-stagger", set_stagger}, {"set-sheet", set_sheet}, {"set-thickness", set_thickness}, {"set-hours", set_hours},
    {"set-head-plan", set_head_plan}, {"compared", compared}, {"fit-to", fit_to}, {"set-heated", set_heated},
    {"set-slots", set_slots}, {"set-heat-seal", set_heat_seal}, {"set-bare-seams", set_bare_seams},
    {"set-build-up", set_build_up}, {"set-shade", set_shade}, {"search-longer", search_longer},
    {"set-places", set_places}, {"drop-held", drop_held}, {"set-seal", set_seal}, {"set-paint", set_paint},
    {"set-clear", set_clear}, {"set-glue", set_glue}};

}  // namespace

Result<Build> apply_act(const Build& build, const std::string& act) {
  Words words(act);
  const std::string_view verb = words.next();
  for (const Act& known : kActs)
    if (known.verb == verb) return known.run(build, words);
  for (const auto* area : {&fit_acts(), &dress_acts(), &coat_acts()})
    for (const ActOf& known : *area)
      if (known.verb == verb) return known.run(build, words);
  return fail(Errc::unknown_name, in_quotes(act) + " is no change of a build.");
}

}  // namespace awl
