#include "core/fit/fitted_holds.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"
#include "core/fit/fittings.hpp"
#include "core/fit/jaw.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace fitting {

const char* const kMagnetCaution =
    "Magnets pinch and chip: keep them apart and away from pacemakers, other implants and cards. Swallowed by a child "
    "they are an emergency: glue them in and cover them. No heat gun near them: above 80 \u00b0C they fade for good.";

std::string mm(double value) { return fixed(value, 0) + " mm"; }

const FitPart* part_of_id(const std::vector<FitPart>& parts, int id) {
  const auto at = std::find_if(parts.begin(), parts.end(), [&](const FitPart& p) { return p.part == id; });
  return at == parts.end() ? nullptr : &*at;
}

}  // namespace fitting

namespace {

using fitting::kMagnetCaution;
using fitting::mm;
using fitting::part_of_id;

constexpr double kOverMagnetMm = 0.5, kElasticUpMm = 35.0;
// Workshop values of a jaw.
constexpr double kHingeScrewMm = 4.0, kMovesApartMm = 3.0, kJawOffMm = 10.0, kChinGapMm = 25.0, kChinCarriesN = 2.0;

const char* kJawCaution =
    "It pinches: keep lips, beard and hair clear of edges that move, and nothing against the throat. The jaw must open "
    "and come off at once, by the wearer alone.";
const char* kStrapCaution = "A strap must open at once with one hand, or tear away: never tie it fast under the chin.";

/// A pair of magnets across what lies between, and the cover over each.
struct MagnetPair {
  double gap_mm = 0.0, pull_n = 0.0;
};
MagnetPair pair_of(const Magnet& magnet, const Hold& hold) {
  MagnetPair pair;
  pair.gap_mm = hold.between_mm + (hold.steel ? 1.0 : 2.0) * kOverMagnetMm;
  pair.pull_n = hold.steel ? magnet_on_steel_n(magnet, pair.gap_mm) : magnet_pull_n(magnet, magnet, pair.gap_mm);
  return pair;
}

/// How far it is across the foremost of some places seen from above.
double chord_across(const std::vector<Vec2>& points) {
  double front = -1e300;
  for (const Vec2& p : points) front = std::max(front, p.y());
  double low = 1e300, high = -1e300;
  for (const Vec2& p : points)
    if (p.y() > front - 8.0) low = std::min(low, p.x()), high = std::max(high, p.x());
  return std::max(0.0, high - low);
}

/// An elastic round the head above the ears; of a mask round the back of it only.
struct ElasticRound {
  double path_mm = 0.0;
  std::vector<Vec3> way;
  ElasticCut cut;
};
ElasticRound elastic_round(const FitHead& head, const FitPart& part, const Hold& hold, const FitRules& rules) {
  ElasticRound round;
  double radius = 80.0;
  const Vec3 ears = head.between_ears();
  std::vector<Vec2> points;
  const double at_mm = ears.y() + kElasticUpMm;
  for (const auto& line : section_lines(head.folded(), {Vec3(0.0, at_mm, 0.0), Vec3::UnitY()}))
    for (const Vec3& p : line)
      if (!part.is_mask || p.z() < ears.z() + 20.0) points.push_back({p.x(), p.z()});
  if (points.size() > 2) {
    const auto hull = convex_hull(points);
    // Of a mask the hull's longest side lies straight across before the ears: there is no elastic.
    std::size_t first = 0;
    double longest = 0.0;
    for (std::size_t i = 0; i < hull.size(); ++i) {
      const std::size_t next = (i + 1) % hull.size();
      if (const double side = (points[hull[next]] - points[hull[i]]).norm(); side > longest)
        longest = side, first = next;
    }
    for (std::size_t i = 0; i < hull.size(); ++i) {
      const Vec2& p = points[hull[(first + i) % hull.size()]];
      round.way.push_back({p.x(), at_mm, p.y()});
    }
    if (!part.is_mask) round.way.push_back(round.way.front());
    round.path_mm = tape_round_mm(points), radius = round.path_mm / kTwoPi;
    if (part.is_mask) round.path_mm -= chord_across(points);
  }
  round.cut = elastic_cut({round.path_mm, hold.wide_mm, 30.0, part.is_mask}, radius, rules);
  return round;
}

class Holder {
 public:
  Holder(const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules)
      : head_(head), parts_(parts), rules_(rules) {}

  std::optional<Yield> hold(const Hold& hold) const {
    const FitPart* part = part_of_id(parts_, hold.part);
    if (part == nullptr) return std::nullopt;
    Yield y;
    y.part = hold.part;
    y.name = part->name + ", " + name_of(hold.by);
    switch (hold.by) {
      case HoldBy::magnets:
        magnets(y, *part, hold);
        break;
      case HoldBy::chin_strap:
        chin_strap(y, *part, hold);
        break;
      case HoldBy::elastic:
        elastic(y, *part, hold);
        break;
      case HoldBy::band:
        y.facts.push_back(
            "The " + part->name + " sits by its own band; a strip of soft foam inside keeps it from sliding.");
        y.wants.push_back(
            {"padding", "Soft foam strip, 10 mm, self-adhesive", 0.6, "m", "inside the rim of the " + part->name});
        break;
      case HoldBy::tabs:
        small(y, *part, hold, "Tabs", "tab",
            "Tabs go through the wig and are pinned to it: each stands out by " +
                mm(hold.between_mm + rules_.hold.tab_spare_mm) + ".");
        break;
      case HoldBy::clips:
        small(
            y, *part, hold, "Snap clips", "clip", "Sew each clip to a strip of cloth, glue the strip inside the rim.");
        break;
      case HoldBy::jaw:
        jaw(y, *part, hold);
        break;
    }
    return y;
  }

 private:
  void magnets(Yield& y, const FitPart& part, const Hold& hold) const {
    const auto magnet = magnet_from(hold.magnet);
    if (!magnet) {
      y.remarks.push_back({"fit.magnet", Severity::warning, "fit/hold/" + std::to_string(hold.id), magnet.error().text,
          {}, {}, {{"Take 10 x 3 N42", "set-magnet " + std::to_string(hold.id) + " 10 x 3 N42"}}});
      return;
    }
    const int bodies = part.bodies;
    const MagnetPair pair = pair_of(*magnet, hold);
    y.facts.push_back(std::to_string(hold.count) + (hold.steel ? " magnets on steel" : " pairs of magnets") +
        (bodies > 1 ? " for each of the two" : "") + ", each pulling about " +
        fixed(rules_.hold.magnet_share * pair.pull_n, 1) + " N across " + fixed(pair.gap_mm, 1) + " mm.");
    const double magnets = hold.count * bodies * (hold.steel ? 1.0 : 2.0);
    y.wants.push_back(
        {"magnet/" + hold.magnet, "Disc magnets, " + hold.magnet, magnets, "pieces", "hold the " + part.name});
    if (hold.steel)
      y.wants.push_back({"steel-plate", "Steel plates, 1 mm, a little larger than the magnets",
          1.0 * hold.count * bodies, "pieces", "the other side"});
    base_marks(y, part, hold, [&](int i) { return std::string(i % 2 == 0 ? "N up" : "S up"); });
    BenchStep step;
    step.at_end = true;
    step.title = "Set the magnets of the " + part.name;
    step.lines = {
        "Join each pair first and mark the faces that meet; mark them N and S in turn, the right side mirrored.",
        "Sink each into the foam, " + fixed(kOverMagnetMm, 1) +
            " mm of cover over it at most: every millimetre more costs a third.",
        "Glue them in, let it harden with the pair apart, then try the pull."};
    step.glued = true;
    step.caution = kMagnetCaution;
    y.steps.push_back(std::move(step));
  }

  void chin_strap(Yield& y, const FitPart& part, const Hold& hold) const {
    const auto length = chin_strap_mm(head_);
    y.lines.push_back(awl::chin_strap(head_));
    if (!length) {
      y.remarks.push_back({"fit.strap", Severity::note, "fit/hold/" + std::to_string(hold.id),
          "How long a chin strap must be is not known: the places of ears and jaw are missing. Measure from ear flap "
          "under the chin to ear flap.",
          {}, {}, {}});
      return;
    }
    y.facts.push_back("From ear flap under the chin to ear flap " + mm(*length) + ": cut two straps of " +
        mm(0.5 * *length + 60.0) + ", with a buckle that opens at once.");
    y.wants.push_back({"strap/" + fixed(hold.wide_mm, 0), "Strap, " + mm(hold.wide_mm) + " wide",
        (*length + 120.0) / 1000.0, "m", "chin strap"});
    y.wants.push_back({"buckle", "Side-release buckle, " + mm(hold.wide_mm), 1.0, "pieces", "chin strap"});
    for (const Landmark l : {Landmark::tragion_l, Landmark::tragion_r})
      if (head_.at(l))
        y.marks.push_back(
            {PieceMark::Kind::cross, {part.near->to(*head_.at(l) + Vec3(0, -10, 0)).point}, 0.0, "strap", hold.part});
    y.steps.push_back({"Fix the chin strap of the " + part.name,
        {"Rivet or sew both straps inside, at the marked places before the ears, over a patch twice their width."},
        kStrapCaution, false, true});
  }

  void elastic(Yield& y, const FitPart& part, const Hold& hold) const {
    const bool face = part.is_mask;
    const Vec3 ears = head_.between_ears();
    const auto [path, way, cut] = elastic_round(head_, part, hold, rules_);
    y.lines.push_back(way);
    y.facts.push_back("Elastic round " + std::string(face ? "the back of the head" : "the head") + ", " + mm(path) +
        " of way: cut " + mm(cut.cut_mm) + ", it pulls about " + fixed(cut.pull_n, 1) + " N.");
    if (cut.too_tight)
      y.remarks.push_back({"fit.elastic", Severity::warning, "fit/hold/" + std::to_string(hold.id),
          "An elastic of " + mm(hold.wide_mm) + " presses with " + fixed(cut.presses_kpa, 1) + " kPa, more than " +
              fixed(rules_.hold.skin_kpa, 0) + ": it hurts after an hour. Take a wider one.",
          cut.presses_kpa, rules_.hold.skin_kpa,
          {{"Take 30 mm", "set-hold-width " + std::to_string(hold.id) + " 30"}}});
    y.wants.push_back({"elastic/" + fixed(hold.wide_mm, 0), "Elastic, " + mm(hold.wide_mm) + " wide",
        cut.cut_mm / 1000.0, "m", "holds the " + part.name});
    y.wants.push_back({"snap", "Snaps, sewn on", 2.0, "pieces", "one end of the elastic opens"});
    for (const double sign : {1.0, -1.0})
      y.marks.push_back({PieceMark::Kind::cross,
          {part.near->to(ears + Vec3(sign * 90.0, kElasticUpMm, face ? 40.0 : 0.0)).point}, 0.0, "elastic", hold.part});
    y.steps.push_back({"Fix the elastic of the " + part.name,
        {"Sew or rivet it on unstretched, at the marked places; one end with a snap.",
            "Try it for ten minutes: red marks mean it is too tight."},
        kStrapCaution, false, true});
  }

  /// Two screws on the axis of the wearer's own jaw, through the part and through what it hangs on.
  void jaw(Yield& y, const FitPart& part, const Hold& hold) const {
    const std::string place = "fit/hold/" + std::to_string(hold.id);
    const std::vector<Remedy> back{{"Take it away", "drop-hold " + std::to_string(hold.id)}};
    const auto work = jaw_work(head_, part);
    if (!work) {
      y.remarks.push_back({"fit.jaw", Severity::note, place,
          "Where the wearer's jaw turns is not known: the places of ears and chin are missing on this head.", {}, {},
          back});
      return;
    }
    const auto& [talking, loud, wide] = work->openings;
    y.facts.push_back(
        "Its screws stand 11 mm before and 5 mm below the notch of each ear flap; from there to the chin it is " +
        mm(work->lever_mm) + ", to its farthest place " + mm(work->tip_mm) + ".");
    y.facts.push_back("Talking the chin drops " + mm(talking.chin_mm) + " and the jaw's end goes " +
        mm(talking.throw_mm) + ", aloud " + mm(loud.throw_mm) + ", wide open " + mm(wide.throw_mm) +
        "; the chin slides " + mm(wide.slides_mm) + " in its cup.");
    y.facts.push_back(
        "It hangs on the chin with about " + fixed(work->carries_n, 1) + " N; an elastic behind takes that.");
    if (work->off_mm > kJawOffMm)
      y.remarks.push_back({"fit.jaw", Severity::warning, place,
          "The " + part.name + " ends " + mm(work->off_mm) +
              " from where the jaw turns; hung there it would slide along the chin by " +
              mm(2.0 * work->off_mm * std::sin(0.5 * radians(wide.jaw_deg))) +
              " when the mouth is opened wide, and jam at " + mm(kJawOffMm) +
              ". Let it reach to before the ear flaps, or carry it on two stiff arms of that length.",
          work->off_mm, kJawOffMm, back});
    if (!work->chin_gap_mm || *work->chin_gap_mm > kChinGapMm)
      y.remarks.push_back({"fit.jaw", Severity::warning, place,
          "The " + part.name + " does not come before the chin" +
              (work->chin_gap_mm ? ": " + mm(*work->chin_gap_mm) + " are between them" : std::string()) +
              ". Nothing opens it: bring it nearer, or fill the gap with a cup of soft foam.",
          work->chin_gap_mm, kChinGapMm, back});
    if (work->carries_n > kChinCarriesN)
      y.remarks.push_back({"fit.jaw", Severity::note, place,
          "The " + part.name + " hangs on the chin with " + fixed(work->carries_n, 1) +
              " N: more than it likes for an evening. Hollow its end out, or take a stronger elastic behind.",
          work->carries_n, kChinCarriesN, {}});
    for (const int side : {0, 1}) {
      const Vec3 out = side == 0 ? Vec3(Vec3::UnitX()) : Vec3(-Vec3::UnitX());
      if (work->at[side])
        y.marks.push_back({PieceMark::Kind::hole, {*work->at[side]}, 0.5 * kHingeScrewMm, "hinge", hold.part});
      for (const FitPart& other : parts_) {
        if (other.part == hold.part || other.part <= 0) continue;
        if (const auto hit = other.near->first_hit(work->hinge, out); hit && !other.inner.vertices.empty())
          y.marks.push_back(
              {PieceMark::Kind::hole, {work->hinge + hit->along_mm * out}, 0.5 * kHingeScrewMm, "hinge", other.part});
      }
    }
    y.wants.push_back(
        {"hinge-screw", "Screws, M4 x 20, with washers and locking nuts", 2.0, "pieces", "hinge of the " + part.name});
    y.wants.push_back({"elastic/6", "Elastic, 6 mm wide", 0.4, "m", "brings the " + part.name + " up again"});
    y.wants.push_back({"padding", "Soft foam strip, 10 mm, self-adhesive", 0.2, "m", "cup of the chin"});
    BenchStep step;
    step.at_end = true;
    step.title = "Hang the " + part.name + " on its hinge";
    step.lines = {"Glue a patch of sheet behind each hole before it is bored: foam alone tears out.",
        "Screw, washer, jaw, washer, shell, washer, locking nut: tight enough to stay, loose enough to fall by itself. "
        "Round heads inside, cut ends covered.",
        "Leave " + mm(kMovesApartMm) + " between edges that pass each other; line the cup of the chin with soft foam.",
        "Fix the elastic behind the hinge so that it just lifts the jaw; try it talking, then wide open."};
    step.caution = kJawCaution;
    y.steps.push_back(std::move(step));
  }

  void small(Yield& y, const FitPart& part, const Hold& hold, const char* what, const char* mark,
      const std::string& how) const {
    y.facts.push_back(std::to_string(hold.count * part.bodies) + " " + mark + "s.");
    y.wants.push_back({mark, what, 1.0 * hold.count * part.bodies, "pieces", "hold the " + part.name});
    base_marks(y, part, hold, [&](int) { return std::string(mark); });
    y.steps.push_back({std::string("Fix the ") + mark + "s of the " + part.name, {how}, {}, false, true});
  }

  /// Crosses evenly round the base of a part, where it meets what it sits on.
  template <class Name>
  void base_marks(Yield& y, const FitPart& part, const Hold& hold, Name&& name) const {
    for (int i = 0; i < hold.count && !part.base.empty(); ++i) {
      const std::size_t k = (2 * i + 1) * part.base.size() / (2 * static_cast<std::size_t>(hold.count));
      y.marks.push_back({PieceMark::Kind::cross, {part.base[std::min(k, part.base.size() - 1)]}, 0.0, name(i), 0});
    }
  }

  const FitHead& head_;
  const std::vector<FitPart>& parts_;
  const FitRules& rules_;
};

}  // namespace

std::optional<Yield> fitted_hold(
    const FitHead& head, const std::vector<FitPart>& parts, const Hold& hold, const FitRules& rules) {
  return Holder(head, parts, rules).hold(hold);
}

/// What hangs on a part: its own mass, and all that sits on it.
double carried_g(const std::vector<FitPart>& parts, const FitPart& part) {
  double sum = part.own_mass_g > 0.0 ? part.own_mass_g : part.mass_g;
  if (part.bodies > 1) return sum;  // what sits on one of a pair is not told apart
  std::set<int> below{part.part};
  // Parts sit on those before them in no set order: again until nothing is added.
  for (bool more = true; more;) {
    more = false;
    for (const FitPart& other : parts)
      if (!other.on_head && other.sits_on != 0 && below.count(other.sits_on) != 0 && below.insert(other.part).second)
        sum += other.mass_g, more = true;
  }
  return sum;
}

std::vector<HoldCheck> check_holds(
    const FitHead& head, const std::vector<FitPart>& parts, const FitSpec& spec, const FitRules& rules) {
  std::vector<HoldCheck> checks;
  for (const Hold& h : spec.holds) {
    const FitPart* part = part_of_id(parts, h.part);
    if (part == nullptr) continue;
    HoldCheck check;
    check.hold = h.id;
    const double own_g = carried_g(parts, *part);
    check.needed_n = rules.hold.shake_g * own_g * 1e-3 * kGravity;
    const std::string of_needed = " N of " + fixed(check.needed_n, 1) + " N needed at a nod.";
    const auto magnet = h.by == HoldBy::magnets ? magnet_from(h.magnet) : Result<Magnet>(fail(Error{}));
    if (magnet) {
      check.needed_n = needed_n({own_g, part->arm_mm, part->half_base_mm}, rules);
      check.force_n = h.count * rules.hold.magnet_share * pair_of(*magnet, h).pull_n;
      check.words = std::to_string(h.count) + " magnets hold " + fixed(*check.force_n, 1) + " N of " +
          fixed(check.needed_n, 1) + " N needed at a shake.";
    } else if (h.by == HoldBy::elastic) {
      check.force_n = band_holds_n(elastic_round(head, *part, h, rules).cut.pull_n, true, rules);
      check.words = "The elastic holds " + fixed(*check.force_n, 1) + of_needed;
    } else if (h.by == HoldBy::band) {
      check.force_n = band_holds_n(rules.hold.band_n, true, rules);
      check.words = "The band holds " + fixed(*check.force_n, 1) + of_needed;
    } else if (h.by == HoldBy::jaw) {
      check.words = "A hinge, not a hold: what it hangs on must be held by itself.";
    } else {
      check.words = "Not reckoned: it holds what it is sewn to. Sew it to hold " + fixed(check.needed_n, 1) + " N.";
    }
    checks.push_back(std::move(check));
  }
  return checks;
}

}  // namespace awl
