#include "core/coat/coat_spec.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr const char* kSeamLooks[] = {"leave", "sand", "cover", "fill"};
constexpr const char* kBuildUps[] = {"none", "clay", "layers"};
constexpr const char* kShades[] = {"none", "wash", "oil"};
constexpr const char* kFadeWays[] = {"down", "back", "outwards"};
constexpr int kPlannedDays = 400;
constexpr std::size_t kMostColourAreas = 60, kMostPigments = 60, kMostNamedDays = 400;

template <class E, std::size_t N>
Result<E> from_word(const std::string& word, const char* const (&words)[N], const char* what) {
  for (std::size_t i = 0; i < N; ++i)
    if (word == words[i]) return static_cast<E>(i);
  return fail(Errc::unknown_name, "There is no " + std::string(what) + " called " + in_quotes(word, 30) + ".", "coat");
}

Result<void> check_number(double value, double least, double most, const std::string& what, const std::string& where) {
  if (value >= least && value <= most) return {};
  return fail(Errc::out_of_range,
      what + " may be " + fixed(least, least == std::floor(least) ? 0 : 1) + " to " + fixed(most, 0) + "; it is " +
          fixed(value, 1) + ".",
      where);
}

Result<void> check_days(const CoatSpec& s) {
  CoatSpec copy = s;
  if (auto good = check_dials(own_dials_of(copy), "coat"); !good) return good;
  if (s.opens_h + s.hours_a_day > 24.0)
    return fail(Errc::out_of_range,
        "A bench that opens at " + fixed(s.opens_h, 0) + " h for " + fixed(s.hours_a_day, 1) +
            " hours runs past midnight.",
        "coat/hours");
  if (s.due < s.start)
    return fail(Errc::out_of_range, "The due day " + s.due.iso() + " lies before the start on " + s.start.iso() + ".",
        "coat/due");
  if (std::find(s.open_on.begin(), s.open_on.end(), true) == s.open_on.end())
    return fail(Errc::out_of_range, "The bench is never open: give it a day of the week.", "coat/open");
  return {};
}

Result<void> check_lists(const FinishSpec& s) {
  if (s.open_on.size() != 7)
    return fail(Errc::out_of_range,
        "A week has 7 days; open or closed is said of " + std::to_string(s.open_on.size()) + ".", "coat/open");
  constexpr std::size_t kMostTicks = 1000;
  if (s.ticks.size() > kMostTicks || s.joint_glues.size() > kMostTicks || s.joint_looks.size() > kMostTicks)
    return fail(Errc::too_large, "More than " + std::to_string(kMostTicks) + " steps are ticked, or joints named.",
        "coat/ticks");
  if (s.bare_seams == SeamLook::fill)
    return fail(Errc::out_of_range, "Seams that are not filled cannot be filled: leave, sand or cover.", "coat/seams");
  if (s.closed.size() > kMostNamedDays || s.outdoors.size() > kMostNamedDays)
    return fail(Errc::too_large, "More than " + std::to_string(kMostNamedDays) + " days are named.", "coat/days");
  for (const OutdoorDay& d : s.outdoors)
    if (d.from_min < 0 || d.to_min > kDayMin || d.from_min >= d.to_min)
      return fail(
          Errc::out_of_range, "The outdoor hours of " + d.day.iso() + " end before they begin.", "coat/outdoors");
  for (const StepTick& t : s.ticks) {
    const auto from = parse_moment(t.start), to = parse_moment(t.end);
    if (!from) return fail(from.error().code, from.error().text, "coat/ticks");
    if (!to) return fail(to.error().code, to.error().text, "coat/ticks");
    if (*to < *from)
      return fail(Errc::out_of_range, "A ticked step ends at " + t.end + ", before it starts at " + t.start + ".",
          "coat/ticks");
  }
  if (!s.now.empty())
    if (const auto now = parse_moment(s.now); !now) return fail(now.error().code, now.error().text, "coat/now");
  return {};
}

Result<void> check_colours(const FinishSpec& s) {
  if (s.areas.size() > kMostColourAreas || s.pigments.size() > kMostPigments)
    return fail(
        Errc::too_large, "More than " + std::to_string(kMostColourAreas) + " colour areas or colours.", "coat/areas");
  std::set<int> ids;
  for (const Pigment& p : s.pigments) {
    if (!ids.insert(p.id).second || p.id <= 0)
      return fail(Errc::out_of_range, "Two colours have the number " + std::to_string(p.id) + ".", "coat/pigments");
    if (p.rgb < 0 || p.rgb > 0xffffff)
      return fail(Errc::out_of_range, "The colour " + in_quotes(p.name) + " is no colour.", "coat/pigments");
  }
  std::set<int> areas;
  for (const ColourArea& a : s.areas) {
    const std::string where = "coat/areas/" + std::to_string(a.id);
    if (!areas.insert(a.id).second || a.id <= 0)
      return fail(Errc::out_of_range, "Two colour areas have the number " + std::to_string(a.id) + ".", where);
    for (const int pigment : {a.pigment, a.fades_to})
      if (pigment != 0 && ids.count(pigment) == 0)
        return fail(
            Errc::unknown_name, "The colour area " + in_quotes(a.name) + " is of a colour that is not there.", where);
    if (auto good = check_number(a.coats, 0.0, 12.0, "The coats of " + in_quotes(a.name), where); !good) return good;
  }
  return {};
}

}  // namespace

const char* name_of(SeamLook look) { return kSeamLooks[static_cast<int>(look)]; }
const char* name_of(BuildUp with) { return kBuildUps[static_cast<int>(with)]; }
const char* name_of(Shade shade) { return kShades[static_cast<int>(shade)]; }
const char* name_of(FadeWay way) { return kFadeWays[static_cast<int>(way)]; }
Result<SeamLook> seam_look_from(const std::string& w) { return from_word<SeamLook>(w, kSeamLooks, "look of a seam"); }
Result<BuildUp> build_up_from(const std::string& w) { return from_word<BuildUp>(w, kBuildUps, "build-up"); }
Result<Shade> shade_from(const std::string& w) { return from_word<Shade>(w, kShades, "shading"); }
Result<FadeWay> fade_way_from(const std::string& w) { return from_word<FadeWay>(w, kFadeWays, "way of fading"); }

std::vector<Dial> dials_of(FinishSpec& s) {
  Dials dials;
  dials
      .choice("bare-seams", s.bare_seams, {std::begin(kSeamLooks), std::end(kSeamLooks)}, "Seams",
          "What is done with them before sealing.")
      .key("bare_seams")
      .said({"Leave them to be seen", "Sand only", "Cover with a strip", "Fill and sand"})
      .count("passes", s.fill_passes, {1, 9}, "Passes of filler", "Each fills what the one before sank in.")
      .key("fill_passes")
      .choice("build-up", s.build_up, {std::begin(kBuildUps), std::end(kBuildUps)}, "Built up with",
          "Brows, cheeks, ridges put on after gluing.")
      .key("build_up")
      .said({"nothing", "soft filler", "layers of thin foam"})
      .flag("tape", s.tape_inside, "Tape the seams from inside", "Backs thin foam; keeps glue from showing.")
      .key("tape_inside")
      .flag("sand-between", s.sand_between, "Sand between coats that want it", "Primer and house paint.")
      .key("sand_between")
      .count("seal-coats", s.seal_coats, {0, 12}, "Coats of seal", "0: as the product says.")
      .key("seal_coats")
      .or_zero("as the product says")
      .count("clear-coats", s.clear_coats, {0, 12}, "Clear coats", "0: as the product says.")
      .key("clear_coats")
      .or_zero("as the product says")
      .choice("shade", s.shade, {std::begin(kShades), std::end(kShades)}, "Hollows",
          "Darkened, so that shapes read from afar.")
      .said({"as they are", "with a wash", "with oil colour, dries for days"})
      .flag("dry-brush", s.dry_brush, "Dry-brush edges and raised lines", "Lights what stands proud.")
      .key("dry_brush")
      .number("read", s.read_at_m, {0.5, 100}, " m", 1, "Read from", "From where lines are to be read.")
      .key("read_at_m")
      .count("hands", s.hands, {1, 2}, "Pairs of hands", "At the bench.")
      .count("places", s.drying_places, {1, 20}, "Coats that can dry at once", "Room on the shelf.")
      .key("drying_places")
      .flag("outdoors-named", s.names_outdoors, "Outdoors only on days I name",
          "For spraying, and for what gives off harmful gas.")
      .key("names_outdoors")
      .number("temperature", s.temperature_c, {2, 45}, " \u00b0C", 0, "Warmth", "Of the room it dries in.")
      .key("temperature_c")
      .share("damp", s.damp, {0.05, 0.98}, "Damp", "Relative humidity of the room it dries in.")
      .flag("fan", s.fan, "A fan moves the air", "Not towards wet spray.")
      .flag("longer", s.search_longer, "Search longer for a better order", "Takes a second or two at every change.")
      .key("search_longer");
  return std::move(dials).all();
}

std::vector<Dial> own_dials_of(CoatSpec& s) {
  Dials dials;
  dials.word("glue", s.glue, "Glue", "Each has its own wait and its own caution.")
      .word("seal", s.seal, "Seal", "Foam drinks paint: something must close it first.")
      .word("paint", s.paint, "Paint", "Must stay on the seal below it.")
      .word("clear", s.clear, "Clear coat", "Keeps the paint from rubbing off.")
      .flag("fill-seams", s.fill_seams, "Fill the seams", "Filled, then sanded.")
      .key("fill_seams")
      .flag("heat-seal", s.heat_seal, "Heat-seal the foam first", "Closes the pores, where the material bears heat.")
      .key("heat_seal")
      .number("hours", s.hours_a_day, {0.5, 16}, " h", 1, "Hours a day", "At the bench.")
      .key("hours_a_day")
      .number("opens", s.opens_h, {0, 23.5}, " h", 1, "Bench opens", "Hours since midnight.")
      .key("opens_h");
  return std::move(dials).all();
}

Result<void> check_coat(const CoatSpec& s) {
  if (auto good = check_days(s); !good) return good;
  return check_finish(s);
}

Result<void> check_finish(const FinishSpec& s) {
  if (auto good = check_lists(s); !good) return good;
  if (auto good = check_colours(s); !good) return good;
  if (auto good = check_rates(s.rates); !good) return good;
  FinishSpec copy = s;
  return check_dials(dials_of(copy), "coat");
}

WorkDays work_days(const CoatSpec& s) {
  WorkDays days;
  const int opens = static_cast<int>(std::lround(s.opens_h * 60.0));
  days.usual = {{opens,
      std::min<int>(static_cast<int>(kDayMin), opens + static_cast<int>(std::lround(s.hours_a_day * 60.0))), s.hands}};
  days.closed.insert(s.closed.begin(), s.closed.end());
  for (int d = 0; d < kPlannedDays; ++d) {
    const Day day{s.start.number + d};
    const int weekday = ((day.number + 3) % 7 + 7) % 7;  // 1970-01-01 was a Thursday
    if (!s.open_on[static_cast<std::size_t>(weekday)]) days.closed.insert(day);
  }
  if (s.names_outdoors) {
    days.outdoors.emplace();
    for (const OutdoorDay& d : s.outdoors)
      days.outdoors->push_back({midnight_of(d.day) + d.from_min, midnight_of(d.day) + d.to_min});
  }
  return days;
}

std::vector<TickedStep> ticked_steps(const FinishSpec& s) {
  std::vector<TickedStep> ticks;
  for (const StepTick& t : s.ticks)
    if (const auto from = parse_moment(t.start), to = parse_moment(t.end); from && to)
      ticks.push_back({t.step, *from, *to});
  return ticks;
}

double drying_factor(const DryingRoom& room, const std::string& base, double thickness) {
  const bool water = base == "water";
  const double power = water ? 1.5 : base == "oil" ? 2.0 : 1.0;
  const double damp = water ? 0.5 / (1.0 - std::min(room.damp, 0.85)) : 1.0;
  const double f =
      std::pow(2.0, (20.0 - room.temperature_c) / 10.0) * damp * std::pow(thickness, power) * (room.fan ? 0.65 : 1.0);
  return std::clamp(f, 0.5, 6.0);
}

const Pigment* find_pigment(const FinishSpec& s, int id) {
  const auto at = std::find_if(s.pigments.begin(), s.pigments.end(), [&](const Pigment& p) { return p.id == id; });
  return at == s.pigments.end() ? nullptr : &*at;
}

}  // namespace awl
