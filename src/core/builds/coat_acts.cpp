#include <algorithm>

#include "core/builds/area_acts.hpp"

namespace awl {
namespace {

using Done = Result<Build>;

/// The last word of a text, taken off its end; ids of steps have spaces in them.
std::string take_last(std::string& text) {
  const std::size_t cut = text.find_last_of(' ');
  const std::string word = cut == std::string::npos ? text : text.substr(cut + 1);
  text.erase(cut == std::string::npos ? 0 : cut);
  return word;
}

/// "tick glue/crest on hood/contact/1a 2026-12-07T09:00 2026-12-07T09:20"
Done tick(Build next, Words& words) {
  std::string step(words.rest());
  const std::string end = take_last(step), start = take_last(step);
  for (const std::string* when : {&start, &end})
    if (const auto read = parse_moment(*when); !read) return fail(read);
  if (step.empty()) return fail(Errc::empty_input, "Which step is ticked is not said.", "coat/ticks");
  std::erase_if(next.coat.ticks, [&](const StepTick& t) { return t.step == step; });
  next.coat.ticks.push_back({step, start, end});
  next.coat.now = std::max(next.coat.now, end);  // what is left is planned from here on
  return next;
}

Done untick(Build next, Words& words) {
  const std::string step(words.rest());
  if (std::erase_if(next.coat.ticks, [&](const StepTick& t) { return t.step == step; }) == 0)
    return fail(Errc::unknown_name, "The step " + in_quotes(step) + " is not ticked.", "coat/ticks");
  if (next.coat.ticks.empty()) next.coat.now.clear();
  return next;
}

Done plan_from(Build next, Words& words) {
  const std::string now(words.next());
  if (!now.empty())
    if (const auto read = parse_moment(now); !read) return fail(read);
  next.coat.now = now;
  return next;
}

Result<ColourArea*> area_named(Build& build, Words& words) {
  const auto id = words.whole();
  if (!id) return fail(id);
  for (ColourArea& a : build.coat.areas)
    if (a.id == *id) return &a;
  return fail(Errc::unknown_name, "There is no colour area number " + std::to_string(*id) + ".", "coat/areas");
}

Done paint_area(Build next, Words& words) {
  const auto area = area_named(next, words);
  if (!area) return fail(area);
  const auto pigment = words.whole();
  if (!pigment) return fail(pigment);
  (*area)->pigment = *pigment;
  return next;
}

Done drop_area(Build next, Words& words) {
  const auto area = area_named(next, words);
  if (!area) return fail(area);
  next.coat.areas.erase(next.coat.areas.begin() + (*area - next.coat.areas.data()));
  return next;
}

/// "glue-joint epoxy crest on hood"; "-" for the build's own.
Done glue_joint(Build next, Words& words) {
  const std::string glue(words.next()), joint(words.rest());
  std::erase_if(next.coat.joint_glues, [&](const JointGlue& j) { return j.joint == joint; });
  if (glue != "-") next.coat.joint_glues.push_back({joint, glue});
  return next;
}

/// "seam-joint cover crest on hood"; "-" for the build's own.
Done seam_joint(Build next, Words& words) {
  const std::string look(words.next()), joint(words.rest());
  if (joint.empty()) return fail(Errc::empty_input, "Which joint's seams are meant is not said.", "coat/seams");
  std::erase_if(next.coat.joint_looks, [&](const JointLook& j) { return j.joint == joint; });
  if (look == "-") return next;
  const auto read = seam_look_from(look);
  if (!read) return fail(read);
  next.coat.joint_looks.push_back({joint, *read});
  return next;
}

/// "fade-area 2 3 down": to colour 3; colour 0 for no fading.
Done fade_area(Build next, Words& words) {
  const auto area = area_named(next, words);
  if (!area) return fail(area);
  const auto pigment = words.whole();
  if (!pigment) return fail(pigment);
  (*area)->fades_to = *pigment;
  if (const std::string way(words.next()); !way.empty()) {
    const auto read = fade_way_from(way);
    if (!read) return fail(read);
    (*area)->fades = *read;
  }
  return next;
}

}  // namespace

const std::vector<ActOf>& coat_acts() {
  static const std::vector<ActOf> acts{{"tick", tick}, {"untick", untick}, {"plan-from", plan_from},
      {"paint-area", paint_area}, {"drop-area", drop_area}, {"glue-joint", glue_joint}, {"seam-joint", seam_joint},
      {"fade-area", fade_area}};
  return acts;
}

}  // namespace awl
