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

Result<void> check_build(const Build& build, const Materials& materials, const std::vector<Population>& people) {
  const bool scan_alone = build.scan.ready() && build.tape.head.empty();
  if (auto good = check_sheet(build.tape, people); !scan_alone && !good) return good;
  if (auto good = check_foam_head(build.foam_head); !good) return good;
  if (auto good = check_hood(build.hood); !good) return good;
  if (auto good = check_seams(build.seams); !good) return good;
  return check_foam(build.foam, materials);
}

const char* name_of(Making making) { return making == Making::hood ? "hood" : "headform"; }

Result<Making> making_from(const std::string& name) {
  for (const Making m : {Making::hood, Making::headform})
    if (name == name_of(m)) return m;
  return fail(Errc::unknown_name, "A build makes a hood or a headform, not \"" + name + "\".");
}

Build demo_build(Day today) {
  Build b;
  b.name = "Heron Warden, hood";
  b.wearer = "Heron Warden";
  b.tape.people = "adult";
  b.tape.day = today;
  b.tape.by = "the workshop";
  for (const auto& [id, mm] : MeasureSet{{MeasureId::HC, 584.0}, {MeasureId::HL, 201.0}, {MeasureId::HB, 158.0}, {MeasureId::TOP, 352.0}, {MeasureId::FH, 121.0}, {MeasureId::NC, 385.0}}) b.tape.set(id, mm);
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

namespace {

/// Acts on the tape sheet: "use-expected HC 575.0", "accept-measure HL HB", "swap-measures HL HB", "scale-tapes 0.98".
Result<TapeSheet> sheet_after(TapeSheet sheet, const std::string& verb, std::istringstream& words) {
  if (verb == "scale-tapes") {
    double factor = 1.0;
    words >> factor;
    for (auto& [id, e] : sheet.head) {
      if (!is_tape(id)) continue;
      e.first_mm *= factor;
      if (e.second_mm) *e.second_mm *= factor;
    }
    return sheet;
  }
  std::vector<MeasureId> ids;
  double expected_mm = 0.0;
  for (std::string word; words >> word;) {
    if (verb == "use-expected" && !ids.empty()) {
      expected_mm = std::atof(word.c_str());
      continue;
    }
    const auto id = measure_from_code(word);
    if (!id) return tl::make_unexpected(id.error());
    if (!sheet.head.count(*id)) return fail(Errc::unknown_name, "The " + spoken_name(*id) + " has not been measured.", word);
    ids.push_back(*id);
  }
  if (verb == "accept-measure") sheet.accepted.insert(ids.begin(), ids.end());
  else if (verb == "swap-measures" && ids.size() == 2) std::swap(sheet.head[ids[0]], sheet.head[ids[1]]);
  else if (verb == "use-expected" && ids.size() == 1) {
    TapeEntry& e = sheet.head[ids[0]];
    e.first_mm = expected_mm + facts_of(ids[0]).hair_share * e.over_hair_mm;
    e.second_mm.reset();
  } else return fail(Errc::unknown_name, "\"" + verb + "\" does not fit these measures.");
  return sheet;
}

bool is_tape_act(const std::string& verb) { return verb == "use-expected" || verb == "accept-measure" || verb == "swap-measures" || verb == "scale-tapes"; }

}  // namespace

Result<Build> apply_act(const Build& build, const std::string& act) {
  std::istringstream words(act);
  std::string verb, value;
  words >> verb;
  Build next = build;
  if (is_tape_act(verb)) {
    auto sheet = sheet_after(build.tape, verb, words);
    if (!sheet) return tl::make_unexpected(sheet.error());
    next.tape = std::move(*sheet);
    return next;
  }
  words >> value;
  if (verb == "set-gores") next.seams.preset = SeamPreset::gores, next.seams.gores_per_side = std::atoi(value.c_str());
  else if (verb == "set-head-plan") next.foam_head.plan = std::atoi(value.c_str());
  else if (verb == "fit-to") next.fit_to_built = value == "built";
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
