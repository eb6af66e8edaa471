#include "core/builds/fresh.hpp"

#include <algorithm>

#include "core/stuff/bears.hpp"

namespace awl {
namespace {

/// What sits on something else, and what that is unless the maker has another.
bool wants_base(const std::string& thing) {
  return thing == "Horns and tusks" || thing == "Ears" || thing == "Crests and tails" || thing == "Fittings";
}

Day due_of(const FreshBuild& wish) {
  constexpr int kUsualDays = 14;
  return wish.due.number > wish.today.number ? wish.due : Day{wish.today.number + kUsualDays};
}

}  // namespace

std::vector<const PartPreset*> first_starts() {
  std::vector<const PartPreset*> starts;
  for (const PartPreset& p : part_presets())
    if (p.thing != "Covers and linings" && p.thing != "Balls and blocks" && p.id != "tongue" && p.id != "buckle" &&
        p.id != "tail")
      starts.push_back(&p);
  return starts;
}

Result<Build> fresh_build(const FreshBuild& wish, const Materials& materials, const std::vector<Population>& people) {
  Build b;
  b.parts.clear();
  const bool headform = wish.start == kHeadformStart;
  std::string called = "Headform";
  if (headform) {
    b.making = Making::headform;
    if (auto added = add_part(b, *part_from_preset("hood")); !added) return fail(added);
  } else {
    auto part = part_from_preset(wish.start);
    if (!part) return fail(part);
    const auto& all = part_presets();
    const PartPreset& preset =
        *std::find_if(all.begin(), all.end(), [&](const PartPreset& p) { return p.id == wish.start; });
    called = preset.label;
    int on = 0;
    if (wants_base(preset.thing)) {
      const auto base = add_part(b, *part_from_preset("hood"));
      if (!base) return fail(base);
      on = *base;
    }
    if (auto added = add_part(b, cut_to_base(std::move(*part), on), on); !added) return fail(added);
    if (std::holds_alternative<LimbSpec>(b.parts.back().shape)) b.extras.insert(Extra::arm_guards);
  }
  b.name = !wish.name.empty() ? wish.name : wish.wearer.empty() ? called : called + " for " + wish.wearer;
  b.wearer = wish.wearer;
  b.shown = wish.shown;
  b.tape = wish.tape;
  b.tape.day = wish.today;
  if (b.tape.head.empty()) {
    b.tape.set(MeasureId::HC, facts_of(MeasureId::HC).mean_mm);
    b.tape.head[MeasureId::HC].by = kAssumedBy;
  }
  if (auto good = check_sheet(b.tape, people); !good) return fail(good);
  b.foam.foam = wish.foam, b.foam.thickness_mm = wish.thickness_mm;
  const auto foam = foam_of(b.foam, materials);
  if (!foam) return fail(foam);
  b.foam.heated = heat_on(*foam).allowed;
  for (auto sold = foam->sold.rbegin(); sold != foam->sold.rend(); ++sold)
    if (sold->thickness_mm == wish.thickness_mm) b.foam.sheet = {sold->width_mm, sold->height_mm};
  b.coat.start = wish.today, b.coat.due = due_of(wish);
  if (auto good = check_inputs(b); !good) return fail(good);
  return b;
}

}  // namespace awl
