#include "core/builds/build.hpp"

#include <algorithm>
#include <cmath>
#include <sstream>

#include "core/base/numbers.hpp"

namespace awl {

Result<Foam> foam_of(const FoamSpec& spec, const Materials& materials) {
  if (spec.own_kind && spec.own_kind->id == spec.foam) return *spec.own_kind;
  return materials.foam(spec.foam);
}

namespace {

Result<void> check_foam(const FoamSpec& spec, const Materials& materials) {
  const auto foam = foam_of(spec, materials);
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
  const struct { const char* what; double mm; } margins[] = {{"seam margin", spec.margins.seam_mm}, {"rim margin", spec.margins.rim_mm}, {"hole margin", spec.margins.hole_mm}, {"pen", spec.margins.pen_mm}, {"kerf", spec.margins.kerf_mm}};
  for (const auto& m : margins)
    if (!(m.mm >= 0.0 && m.mm <= 60.0)) return fail(Errc::out_of_range, "A " + std::string(m.what) + " of " + fixed(m.mm, 1) + " mm is outside 0 to 60 mm.", "foam/margins");
  if (spec.nest_tries < 1 || spec.nest_tries > 2000) return fail(Errc::out_of_range, std::to_string(spec.nest_tries) + " orders to try are outside 1 to 2000.", "foam/tries");
  return {};
}

}  // namespace

Result<void> check_build(const Build& build, const Materials& materials, const std::vector<Population>& people) {
  const bool scan_alone = build.scan.ready() && build.tape.head.empty();
  if (auto good = check_sheet(build.tape, people); !scan_alone && !good) return good;
  if (auto good = check_foam_head(build.foam_head); !good) return good;
  for (std::size_t i = 0; i < build.parts.size(); ++i) {
    const Part& part = build.parts[i];
    if (auto good = check_part(part); !good) return good;
    bool known = part.on == 0;
    for (std::size_t k = 0; k < i; ++k) known = known || build.parts[k].id == part.on;
    if (!known) return fail(Errc::out_of_range, "The part \"" + part.name + "\" must sit on the head or on a part made before it.", "parts/" + std::to_string(part.id) + "/on");
    if (!(part.thickness_mm == 0.0 || (part.thickness_mm >= 0.3 && part.thickness_mm <= 40.0)))
      return fail(Errc::out_of_range, "A thickness of " + fixed(part.thickness_mm, 1) + " mm for " + part.name + " is outside 0.3 to 40 mm.", "parts/" + std::to_string(part.id) + "/thickness");
    if (!part.stuff.empty())
      if (const auto kind = materials.foam(part.stuff); !kind) return fail(kind.error().code, "The " + part.name + ": " + kind.error().text, "parts/" + std::to_string(part.id) + "/stuff");
    if (auto good = check_way(part.way); !good) return fail(good.error().code, "The " + part.name + ": " + good.error().text, "parts/" + std::to_string(part.id) + "/way");
  }
  for (const Alteration& a : build.alterations)
    if (auto good = check_alteration(a); !good) return good;
  return check_foam(build.foam, materials);
}

const char* name_of(Making making) { return making == Making::parts ? "parts" : "headform"; }

Result<Making> making_from(const std::string& name) {
  for (const Making m : {Making::parts, Making::headform})
    if (name == name_of(m)) return m;
  return fail(Errc::unknown_name, "A build makes its parts or a headform, not \"" + name + "\".");
}

const char* name_of(LookFrom look) {
  constexpr const char* kNames[kLooks] = {"front", "left", "right", "back", "top"};
  return kNames[static_cast<int>(look)];
}

Result<LookFrom> look_from(const std::string& name) {
  for (int i = 0; i < kLooks; ++i)
    if (name == name_of(static_cast<LookFrom>(i))) return static_cast<LookFrom>(i);
  return fail(Errc::unknown_name, "A form is looked at from the front, left, right, back or top, not from \"" + name + "\".");
}

const Part* find_part(const Build& build, int id) { return find_part(const_cast<Build&>(build), id); }

Part* find_part(Build& build, int id) {
  for (Part& p : build.parts)
    if (p.id == id) return &p;
  return nullptr;
}

Part& first_wrap(Build& build) {
  for (Part& p : build.parts)
    if (std::holds_alternative<WrapSpec>(p.shape)) return p;
  throw ContractViolation("first_wrap: the build has no wrap");
}

Result<int> add_part(Build& build, Part part, int on) {
  constexpr std::size_t kMost = 24;
  if (build.parts.size() >= kMost) return fail(Errc::out_of_range, "A build holds up to " + std::to_string(kMost) + " parts.", "parts");
  part.id = 1;
  for (const Part& p : build.parts) part.id = std::max(part.id, p.id + 1);
  part.on = find_part(build, on) != nullptr ? on : 0;
  const std::string base = part.name;
  const auto taken = [&](const std::string& name) { return std::any_of(build.parts.begin(), build.parts.end(), [&](const Part& p) { return p.name == name; }); };
  for (int n = 2; taken(part.name); ++n) part.name = base + " " + std::to_string(n);
  build.parts.push_back(part);
  return part.id;
}

Result<int> add_alteration(Build& build, Alteration alteration) {
  if (find_part(build, alteration.part) == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(alteration.part) + ".", "alterations");
  for (const Alteration& a : build.alterations) alteration.id = std::max(alteration.id, a.id + 1);
  if (auto good = check_alteration(alteration); !good) return tl::make_unexpected(good.error());
  build.alterations.push_back(alteration);
  return alteration.id;
}

Result<void> remove_part(Build& build, int id) {
  const Part* gone = find_part(build, id);
  if (gone == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  const int below = gone->on;
  for (Part& p : build.parts)
    if (p.on == id) p.on = below;
  build.parts.erase(build.parts.begin() + (gone - build.parts.data()));
  std::erase_if(build.alterations, [id](const Alteration& a) { return a.part == id; });
  return {};
}

Result<Build> turn_dial(const Build& build, int id, const std::string& dial, double value) {
  Build next = build;
  Part* part = find_part(next, id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  auto turned = with_dial(*part, dial, value);
  if (!turned) return tl::make_unexpected(turned.error());
  *part = std::move(*turned);
  return next;
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

/// Acts on a wrap and its seams; "set-gores 5 2" means the part of number 2, without a number the first wrap.
Result<Build> wrap_after(Build next, const std::string& verb, const std::string& value) {
  std::istringstream words(value);
  std::string first;
  int id = 0;
  words >> first >> id;
  Part* part = id > 0 ? find_part(next, id) : nullptr;
  for (Part& p : next.parts)
    if (id <= 0 && part == nullptr && std::holds_alternative<WrapSpec>(p.shape)) part = &p;
  if (part == nullptr || !std::holds_alternative<WrapSpec>(part->shape)) return fail(Errc::unknown_name, "This build has no wrap to change.");
  if (verb == "set-gores") part->seams.preset = SeamPreset::gores, part->seams.gores_per_side = std::atoi(first.c_str());
  if (verb == "set-belt") part->seams.belt = true, part->seams.belt_up_mm = 5.0;
  if (verb == "set-edge") {
    const auto edge = wrap_edge_from(first);
    if (!edge) return tl::make_unexpected(edge.error());
    std::get<WrapSpec>(part->shape).edge = *edge;
  }
  return next;
}

/// "take-in 1 6 1.5 0 belt": part, millimetres at both ends and in the middle, the seam's name.
Result<Build> taken_in(Build next, const std::string& value) {
  std::istringstream words(value);
  Alteration a;
  words >> a.part >> a.first_mm >> a.middle_mm >> a.last_mm >> std::ws;
  std::getline(words, a.seam);
  if (auto added = add_alteration(next, a); !added) return tl::make_unexpected(added.error());
  return next;
}

bool is_tape_act(const std::string& verb) { return verb == "use-expected" || verb == "accept-measure" || verb == "swap-measures" || verb == "scale-tapes"; }

Result<Build> way_after(Build next, const std::string& verb, int id, const std::string& word) {
  Part* part = find_part(next, id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  if (verb == "set-way") {
    const auto way = way_from(word);
    if (!way) return tl::make_unexpected(way.error());
    part->way.way = *way;
  } else {
    const auto axis = axis_from(word);
    if (!axis) return tl::make_unexpected(axis.error());
    part->way.pull = *axis;
  }
  return next;
}

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
  std::getline(words >> std::ws, value);
  if (verb == "set-gores" || verb == "set-belt" || verb == "set-edge") return wrap_after(next, verb, value);
  if (verb == "turn") {  // "turn 3 seat.gap 4"
    std::istringstream in(value);
    int id = 0;
    std::string dial;
    double to = 0.0;
    in >> id >> dial >> to;
    return turn_dial(build, id, dial, to);
  }
  if (verb == "take-in") return taken_in(next, value);
  if (verb == "set-pull" || verb == "set-way") {  // "set-pull 3 up"
    std::istringstream in(value);
    int id = 0;
    std::string word;
    in >> id >> word;
    return way_after(next, verb, id, word);
  }
  if (verb == "drop-alteration") {
    std::erase_if(next.alterations, [&](const Alteration& a) { return a.id == std::atoi(value.c_str()); });
    return next;
  }
  if (verb == "set-thickness") next.foam.thickness_mm = std::atof(value.c_str());
  else if (verb == "set-stagger") {
    if (Part* part = find_part(next, std::atoi(value.c_str()))) part->seams.stagger = true;
  } else if (verb == "set-head-plan") next.foam_head.plan = std::atoi(value.c_str());
  else if (verb == "fit-to") next.fit_to_built = value == "built";
  else if (verb == "compared") {
    const auto look = look_from(value);
    if (!look) return tl::make_unexpected(look.error());
    next.compared.insert(*look);
  } else if (verb == "set-heated") next.foam.heated = value != "off";
  else if (verb == "drop-held") next.foam.held.clear();
  else if (verb == "set-sheet") {
    std::istringstream sides(value);
    sides >> next.foam.sheet.width_mm >> next.foam.sheet.height_mm;
  } else if (verb == "set-seal") next.coat.seal = value;
  else if (verb == "set-paint") next.coat.paint = value;
  else if (verb == "set-glue") next.coat.glue = value;
  else if (verb == "set-heat-seal") next.coat.heat_seal = true;
  else if (verb == "set-hours") next.coat.hours_a_day = std::atof(value.c_str());
  else return fail(Errc::unknown_name, "\"" + act + "\" is no change of a build.");
  return next;
}

}  // namespace awl
