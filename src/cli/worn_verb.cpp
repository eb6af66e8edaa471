#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/base/numbers.hpp"
#include "core/chain/questions.hpp"
#include "core/io/build_file.hpp"
#include "core/fit/worn.hpp"
#include "core/io/worn_case.hpp"

namespace awl {
namespace {

Json place_json(const Vec3& p) { return {rounded(p.x(), 2), rounded(p.y(), 2), rounded(p.z(), 2)}; }

Json eye_json(const Eye& eye) {
  return {{"pupil_mm", place_json(eye.pupil)}, {"unaided_sr", rounded(eye.ahead.unaided_sr, 4)},
      {"kept_sr", rounded(eye.ahead.kept_sr, 5)}, {"looked_sr", rounded(eye.looked.kept_sr, 5)},
      {"edge_gain_sr_mm", rounded(eye.edge_gain_sr_mm, 5)}};
}

Json sight_json(const Sight& s) {
  Json zones = Json::object(), meridians = Json::object(), windows = Json::array(), blind = Json::array();
  for (const SightZone& z : s.zones) zones[z.id] = z.there ? Json(rounded(z.kept, 3)) : Json();
  for (const auto& m : s.meridians) meridians[m.words] = {rounded(m.kept_deg, 1), rounded(m.bare_deg, 1)};
  for (const FloorWindow& w : s.windows) windows.push_back({rounded(w.from_m, 2), rounded(w.to_m, 2)});
  for (const BlindPlace& b : s.blind)
    blind.push_back({{"sr", rounded(b.sr, 4)}, {"az", rounded(b.az_deg, 1)}, {"el", rounded(b.el_deg, 1)},
        {"bar", b.is_bar}, {"words", b.words}});
  const auto metres = [](const std::optional<double>& m) { return m ? Json(rounded(*m, 3)) : Json(); };
  Json gain{{"left", rounded(s.eyes[0].edge_gain_sr_mm, 5)}, {"right", rounded(s.eyes[1].edge_gain_sr_mm, 5)}};
  constexpr const char* kSides[] = {"above", "outwards", "below", "inwards"};
  for (int e = 0; e < 2; ++e)
    for (int k = 0; k < 4; ++k)
      gain[std::string(e == 0 ? "left_" : "right_") + kSides[k]] = rounded(s.eyes[e].gain_by_side[k], 5);
  return {{"left", eye_json(s.eyes[0])}, {"right", eye_json(s.eyes[1])}, {"kept", rounded(s.kept, 4)},
      {"kept_both", rounded(s.kept_both, 4)}, {"looked", rounded(s.looked, 4)}, {"zones", zones},
      {"meridians_deg", meridians},
      {"floor_m", {{"level", metres(s.floor_level_m)}, {"nod20", metres(s.floor_nod_m)}, {"windows", windows}}},
      {"blind", blind}, {"edge_gain_sr_mm", gain}};
}

Json going_json(const GoingOn& g) {
  return {{"part", g.name}, {"from", name_of(g.from)}, {"stretch", rounded(g.stretch, 5)},
      {"straight", rounded(g.straight, 5)}, {"short_mm", rounded(g.short_mm, 2)}, {"ring_mm", rounded(g.ring_mm, 1)},
      {"pitch_deg", rounded(g.pitch_deg, 1)}, {"passes", g.passes}, {"slit_mm", rounded(g.slit_mm, 1)},
      {"opens_mm", rounded(g.opens_mm, 2)}, {"slits", g.slits}, {"overlap_mm", rounded(g.overlap_mm, 2)},
      {"stops_short_mm", rounded(g.stops_short_mm, 2)}, {"rests_up_mm", rounded(g.rests_up_mm, 1)}};
}

Json clearance_json(const Worn& worn) {
  double least = 1e300;
  Json contacts = Json::array(), gapes = Json::array(), ears = Json::array();
  for (const PartClearance& c : worn.clearance) {
    if (!c.room_mm.empty()) least = std::min(least, c.least_mm);
    for (const Contact& t : c.contacts)
      contacts.push_back({{"part", c.name}, {"area_mm2", rounded(t.area_mm2, 1)},
          {"deepest_mm", rounded(t.deepest_mm, 2)}, {"at", place_json(t.at)}, {"place", t.place}});
    for (const Gape& g : c.gapes)
      gapes.push_back({{"part", c.name}, {"widest_mm", rounded(g.widest_mm, 2)}, {"long_mm", rounded(g.long_mm, 1)},
          {"at", place_json(g.at)}, {"place", g.place}});
  }
  constexpr const char* kStates[] = {"free", "folded", "pushes", "uncovered"};
  for (const EarRoom& e : worn.ears)
    ears.push_back({{"side", e.left ? "left" : "right"}, {"state", kStates[static_cast<int>(e.state)]},
        {"by_mm", rounded(e.by_mm, 1)}, {"stands_off_mm", rounded(e.stands_off_mm, 1)},
        {"relief_mm2", rounded(e.relief_mm2, 0)}});
  return {{"least_mm", least < 1e299 ? Json(rounded(least, 3)) : Json()}, {"contacts", contacts}, {"gapes", gapes},
      {"ears", ears}};
}

Json turning_json(const Turning& t) {
  return {{"nod_deg", t.nod_deg}, {"up_deg", t.up_deg}, {"turn_deg", {t.turn_deg[0], t.turn_deg[1]}},
      {"tilt_deg", {t.tilt_deg[0], t.tilt_deg[1]}}, {"jaw_deg", t.jaw_deg ? Json(*t.jaw_deg) : Json()}};
}

Json balance_json(const Balance& b) {
  return {{"mass_g", rounded(b.mass_g, 3)}, {"centre_mm", place_json(b.centre)},
      {"forward_nm", rounded(b.forward_nm, 5)}, {"side_nm", rounded(b.side_nm, 5)},
      {"inertia_kg_cm2", rounded(b.inertia_kg_cm2, 3)}, {"counterweight_g", nullptr}};
}

Json air_json(const Air& a) {
  Json zones = Json::object();
  for (const auto& o : a.openings) zones[o.zone] = rounded(o.mm2, 0);
  return {{"open_mm2", rounded(a.open_mm2, 0)}, {"dead_ml", a.dead_ml ? Json(rounded(*a.dead_ml, 1)) : Json()},
      {"zones", zones}, {"fogs", a.fogs}};
}

Json worn_json(const Worn& worn) {
  Json going = nullptr, each = Json::array();
  if (const GoingOn* worst = worn.tightest()) going = going_json(*worst);
  for (const GoingOn& g : worn.going_on) each.push_back(going_json(g));
  return {{"sight", worn.sight ? sight_json(*worn.sight) : Json()}, {"going_on", going}, {"each", each},
      {"clearance", worn.clearance.empty() ? Json() : clearance_json(worn)},
      {"turning", worn.turning ? turning_json(*worn.turning) : Json()}, {"balance", balance_json(worn.balance)},
      {"hold", Json::array()}, {"air", air_json(worn.air)}, {"remarks", Json::array()}};
}

Json hold_json(const HoldAsked& h) {
  if (h.kind == HoldAsked::Kind::lacing) return {{"force_n", nullptr}, {"cord_mm", rounded(cord_mm(h.lacing), 2)}};
  const double n =
      h.kind == HoldAsked::Kind::magnets ? magnet_pull_n(h.one, h.other, h.gap_mm) : magnet_on_steel_n(h.one, h.gap_mm);
  return {{"force_n", rounded(n, 4)}, {"cord_mm", nullptr}};
}

void tell_case(const VerbOptions& o, std::ostream& out) {
  const Stopwatch watch;
  const FitRules rules = need(load_fit_rules(data_folder() / "rules"));
  const WornCase c = need(read_worn_case(o.worn_case));
  const Worn worn = need(worn_on(*c.head, c.parts, c.question, rules));
  Json json = worn_json(worn);
  if (!c.weighs) json["balance"] = nullptr;
  if (c.target_nm && c.weight_at_mm && c.weighs)
    if (const auto g = counterweight_g(*c.head, worn.balance.forward_nm, *c.target_nm, *c.weight_at_mm))
      json["balance"]["counterweight_g"] = rounded(*g, 3);
  if (c.target_nm && c.weight_g && c.weighs)
    json["balance"]["weight_z_mm"] =
        rounded(counterweight_z_mm(*c.head, worn.balance.forward_nm, *c.target_nm, *c.weight_g), 2);
  for (const HoldAsked& h : c.hold) json["hold"].push_back(hold_json(h));
  json["ms"] = rounded(watch.ms(), 1);
  out << line_of(json);
}

void print_worn(const Build& build, const Worn& worn, std::ostream& out) {
  for (const GoingOn& g : worn.going_on) {
    const bool opened = goes_on_opened(build.fit, g);
    out << g.name << ": " << (g.passes || opened ? "goes on " : "does not go on ") << name_of(g.from);
    if (opened)
      out << ", opened";
    else if (!g.stiff && g.short_mm <= 0.0)
      out << ", " << fixed(-g.short_mm, 0) << " mm to spare";
    else if (!g.stiff)
      out << ", short by " << fixed(g.short_mm, 0) << " mm";
    out << ".\n";
  }
  if (worn.sight) out << "Sight: about " << fixed(100.0 * worn.sight->kept, 0) << " % of the field ahead is left.\n";
  out << "Mass: about " << fixed(worn.balance.mass_g, 0) << " g.\n";
}

void tell_build(const VerbOptions& o, std::ostream& out) {
  if (o.input.empty()) throw Failed{{Errc::empty_input, "Name a build, or a case with --case.", "worn"}};
  const auto shop = chain();
  const Build build = need(open_build(o.input));
  const Derived derived = shop->derive(build);
  if (derived.error) throw Failed{*derived.error};
  const Stopwatch watch;
  const Derived d = with_worn(*shop, build, derived);
  if (!d.worn)
    throw Failed{{Errc::empty_input, "Nothing of this build is worn on a head; there is nothing to fit.", "worn"}};
  if (!o.json) {
    print_worn(build, *d.worn, out);
    for (const Remark& r : d.remarks)
      if (r.id.starts_with("fit.")) out << name_of(r.severity) << ": " << r.sentence << "\n";
    return;
  }
  Json json = worn_json(*d.worn);
  for (const HoldCheck& h : d.worn->holds)
    json["hold"].push_back({{"force_n", h.force_n ? Json(rounded(*h.force_n, 3)) : Json()},
        {"needed_n", rounded(h.needed_n, 3)}, {"words", h.words}});
  std::vector<Remark> about;
  for (const Remark& r : d.remarks)
    if (r.id.starts_with("fit.")) about.push_back(r);
  json["remarks"] = remarks_json(about);
  json["ms"] = rounded(watch.ms(), 1);
  out << line_of(json);
}

}  // namespace

Result<void> verbWorn(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] { o.worn_case.empty() ? tell_build(o, out) : tell_case(o, out); });
}

}  // namespace awl
