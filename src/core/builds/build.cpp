#include "core/builds/build.hpp"

#include <algorithm>
#include <cmath>
#include <sstream>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

Result<void> check_foam(const FoamSpec& spec, const Materials& materials) {
  const auto foam = materials.foam(spec.foam);
  if (!foam) return tl::make_unexpected(foam.error());
  const auto& offered = foam->thickness_mm;
  if (std::find(offered.begin(), offered.end(), spec.thickness_mm) == offered.end()) {
    std::string list;
    for (const double t : offered) list += (list.empty() ? "" : ", ") + fixed(t, 0);
    return fail(Errc::out_of_range, foam->name + " is not to be had " + fixed(spec.thickness_mm, 1) + " mm thick; it comes in " + list + " mm.", "foam/thickness");
  }
  if (!(spec.gap_mm >= 0.0 && spec.gap_mm <= 50.0))
    return fail(Errc::out_of_range, "A gap of " + fixed(spec.gap_mm, 1) + " mm between pieces is outside 0 to 50 mm.", "foam/gap");
  for (const double side : {spec.sheet.width_mm, spec.sheet.height_mm})
    if (!(side >= 50.0 && side <= 5000.0))
      return fail(Errc::out_of_range, "A sheet side of " + fixed(side, 0) + " mm is outside 50 to 5000 mm.", "foam/sheet");
  return {};
}

}  // namespace

Result<void> check_build(const Build& build, const Materials& materials) {
  if (auto good = check_measures(build.measures); !good) return good;
  if (auto good = check_hood(build.hood); !good) return good;
  if (auto good = check_seams(build.seams); !good) return good;
  return check_foam(build.foam, materials);
}

Build demo_build(Day today) {
  Build b;
  b.name = "Heron Warden, hood";
  b.wearer = "Heron Warden";
  b.measures = {{MeasureId::HC, 584.0}, {MeasureId::HL, 201.0}, {MeasureId::HB, 158.0}, {MeasureId::TOP, 352.0}, {MeasureId::FH, 121.0}, {MeasureId::NC, 385.0}};
  b.hood.edge = HoodEdge::open_face;
  b.hood.hair_mm = 4.0;
  b.hood.padding_mm = 8.0;
  b.coat.start = today;
  b.coat.due = Day{today.number + 11};
  b.notes = "Beaked cowl helm with crest for the Saltmarsh Lantern Walk. This hood is its base.";
  return b;
}

Result<Build> demo_by_name(const std::string& name, Day today) {
  if (name == "heron-warden") return demo_build(today);
  return fail(Errc::unknown_name, "There is no demo called \"" + name + "\"; there is heron-warden.");
}

Result<Build> apply_act(const Build& build, const std::string& act) {
  std::istringstream words(act);
  std::string verb, value;
  words >> verb >> value;
  Build next = build;
  if (verb == "set-gores") next.seams.preset = SeamPreset::gores, next.seams.gores_per_side = std::atoi(value.c_str());
  else if (verb == "set-belt") next.seams.belt = true, next.seams.belt_up_mm = 5.0;
  else if (verb == "set-heated") next.foam.heated = true;
  else if (verb == "set-edge") {
    const auto edge = hood_edge_from(value);
    if (!edge) return tl::make_unexpected(edge.error());
    next.hood.edge = *edge;
  } else if (verb == "set-seal") next.coat.seal = value;
  else if (verb == "set-paint") next.coat.paint = value;
  else if (verb == "set-glue") next.coat.glue = value;
  else if (verb == "set-heat-seal") next.coat.heat_seal = true;
  else if (verb == "set-hours") next.coat.hours_a_day = std::atof(value.c_str());
  else return fail(Errc::unknown_name, "\"" + act + "\" is no change of a build.");
  return next;
}

}  // namespace awl
