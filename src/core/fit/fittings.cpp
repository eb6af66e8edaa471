#include "core/fit/fittings.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/fit/clearance.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kEyeletAsideMm = 10.0, kEyeletMm = 2.5, kFirstEyeletMm = 8.0, kTailsMm = 200.0;
constexpr double kMagnetEveryMm = 55.0, kOverMagnetMm = 0.5, kElasticUpMm = 35.0;
constexpr double kStripSpareMm = 30.0, kStrapEveryMm = 50.0;

const char* kMagnetCaution =
    "Magnets pinch and chip: keep them apart and away from pacemakers, other implants and cards. Swallowed by a child "
    "they are an emergency: glue them in and cover them. No heat gun near them: above 80 \u00b0C they fade for good.";
const char* kStrapCaution = "A strap must open at once with one hand, or tear away: never tie it fast under the chin.";

const FitPart* part_of_id(const std::vector<FitPart>& parts, int id) {
  const auto at = std::find_if(parts.begin(), parts.end(), [&](const FitPart& p) { return p.part == id; });
  return at == parts.end() ? nullptr : &*at;
}

Vec3 along(const std::vector<Vec3>& line, double mm) {
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const double length = (line[i + 1] - line[i]).norm();
    if (mm <= length) return line[i] + mm / std::max(length, 1e-9) * (line[i + 1] - line[i]);
    mm -= length;
  }
  return line.back();
}

std::string mm(double value) { return fixed(value, 0) + " mm"; }

Piece strip_piece(const std::string& name, double wide, double tall, double thickness_mm, int part, int copies) {
  const Vec2 half(0.5 * wide, 0.5 * tall);
  Piece piece =
      plate_piece(name, 1, {-half, Vec2(half.x(), -half.y()), half, Vec2(-half.x(), half.y())}, {}, thickness_mm);
  piece.part = part, piece.copies = copies, piece.face_up = "any side up";
  piece.front.reset();
  return piece;
}

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
  ElasticCut cut;
};
ElasticRound elastic_round(const FitHead& head, const FitPart& part, const Hold& hold, const FitRules& rules) {
  ElasticRound round;
  double radius = 80.0;
  const Vec3 ears = head.between_ears();
  std::vector<Vec2> points;
  for (const auto& line : section_lines(head.folded(), {ears + Vec3(0.0, kElasticUpMm, 0.0), Vec3::UnitY()}))
    for (const Vec3& p : line)
      if (!part.is_mask || p.z() < ears.z() + 20.0) points.push_back({p.x(), p.z()});
  if (points.size() > 2) {
    round.path_mm = tape_round_mm(points), radius = round.path_mm / kTwoPi;
    if (part.is_mask) round.path_mm -= chord_across(points);
  }
  round.cut = elastic_cut({round.path_mm, hold.wide_mm, 30.0, part.is_mask}, radius, rules);
  return round;
}

class Fitter {
 public:
  Fitter(const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules)
      : head_(head), parts_(parts), rules_(rules) {}

  std::optional<Yield> slit(const Slit& slit) const {
    const FitPart* part = part_of_id(parts_, slit.part);
    if (part == nullptr) return std::nullopt;
    if (slit.at == SlitAt::halves) return halves(*part, slit);
    Yield y;
    y.part = slit.part;
    const bool two = slit.at == SlitAt::sides;
    y.name = part->name + ", " + (two ? "slits at both sides" : "slit at the back");
    const std::vector<int> sides = two ? std::vector{1, -1} : std::vector{0};
    double longest = 0.0;
    for (const int side : sides) {
      const auto path = slit_path(head_, *part, side, slit.long_mm);
      if (path.size() < 2) {
        y.remarks.push_back({"fit.slit", Severity::warning, place_of(slit),
            "The " + part->name + " has no rim " + (two ? "at its sides" : "at its back") +
                " for a slit to run up from. Take the other place, or another part.",
            {}, {}, {{"Take the slit away", "drop-slit " + std::to_string(slit.id)}}});
        return y;
      }
      longest = std::max(longest, add_slit(y, *part, slit, path, side));
    }
    tell_slit(y, *part, slit, longest, static_cast<int>(sides.size()));
    return y;
  }

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
    }
    return y;
  }

  std::optional<Yield> cutout(const Cutout& cutout) const {
    const FitPart* part = part_of_id(parts_, cutout.part);
    if (part == nullptr) return std::nullopt;
    Yield y;
    y.part = cutout.part;
    y.name = part->name + ", " + name_of(cutout.kind);
    if (cutout.kind == CutoutKind::ears)
      ears(y, *part, cutout);
    else
      vents(y, *part, cutout);
    return y;
  }

 private:
  /// A hole along each ear's own outline with a margin, where the part covers it.
  void ears(Yield& y, const FitPart& part, const Cutout& cutout) const {
    for (const EarRoom& ear : ear_rooms(head_, {part}, rules_)) {
      const Vec3 out = ear.left ? Vec3(Vec3::UnitX()) : Vec3(-Vec3::UnitX());
      PieceMark mark{PieceMark::Kind::hole, {}, 0.0, "ear", cutout.part};
      for (const Vec2& p : ear.relief) {
        const Vec3 from(0.0, p.y(), p.x());
        if (const auto hit = part.near->first_hit(from, out)) mark.line.push_back(from + hit->along_mm * out);
      }
      // Where the part does not cover all of it there is nothing to cut out.
      if (mark.line.size() < ear.relief.size() || mark.line.size() < 3) continue;
      y.facts.push_back(std::string("A hole of ") + fixed(ear.relief_wide_mm, 0) + " x " + mm(ear.relief_tall_mm) +
          " over the " + (ear.left ? "left" : "right") + " ear.");
      y.lines.push_back(mark.line);
      y.lines.back().push_back(mark.line.front());
      y.marks.push_back(std::move(mark));
    }
    if (y.marks.empty())
      y.remarks.push_back({"fit.cutout", Severity::note, "fit/cutout/" + std::to_string(cutout.id),
          "The " + part.name + " does not cover the ears; there is nothing to cut out for them.", {}, {},
          {{"Take it back", "drop-cutout " + std::to_string(cutout.id)}}});
    else
      y.steps.push_back({"Try the ear holes of the " + part.name,
          {"Cut them a little smaller than printed, try it on, open them until the ears lie free.",
              "Round their edges; a rim strip hides them."},
          "Fresh blade, cut away from the hand that holds.", false, true});
  }

  /// A bow of round holes across the top or the back.
  void vents(Yield& y, const FitPart& part, const Cutout& cutout) const {
    constexpr double kVentPitch = 2.2, kVentRadiusMm = 100.0;  // their middles apart by so many widths
    const bool top = cutout.kind == CutoutKind::vents_top;
    const Vec3 middle = head_.between_ears() + Vec3(0.0, 40.0, 0.0);
    for (int i = 0; i < cutout.count; ++i) {
      const double aside = kVentPitch * cutout.wide_mm * (i - 0.5 * (cutout.count - 1)) / kVentRadiusMm;
      const Vec3 out =
          top ? Vec3(std::sin(aside), std::cos(aside), -0.35) : Vec3(std::sin(aside), 0.35, -std::cos(aside));
      const auto hit = part.near->first_hit(middle, out.normalized());
      if (!hit) continue;
      const Vec3 at = middle + hit->along_mm * out.normalized();
      y.marks.push_back({PieceMark::Kind::hole, {at}, 0.5 * cutout.wide_mm, "vent", cutout.part});
    }
    y.facts.push_back(
        std::to_string(y.marks.size()) + " vents of " + mm(cutout.wide_mm) + (top ? " above." : " behind."));
    y.steps.push_back({"Punch the vents of the " + part.name,
        {"Punch or cut them before gluing; mesh glued behind keeps hair and fingers out."},
        "Punch on a board, hand out of the way.", false, false});
  }

  static std::string place_of(const Slit& s) { return "fit/slit/" + std::to_string(s.id); }

  /// A part cut right over from ear to ear, its halves drawn together by magnets in strips along the cut.
  Yield halves(const FitPart& part, const Slit& slit) const {
    Yield y;
    y.part = slit.part, y.name = part.name + ", two halves";
    const Plane plane{head_.between_ears() + Vec3(0.0, 0.0, 1e-3), Vec3::UnitZ()};
    std::vector<Vec3> path;
    double length = 0.0;
    for (auto& line : section_lines(part.inner, plane)) {
      double own = 0.0;
      for (std::size_t i = 0; i + 1 < line.size(); ++i) own += (line[i + 1] - line[i]).norm();
      if (own > length) length = own, path = std::move(line);
    }
    if (path.size() < 2 || length < 100.0) {
      y.remarks.push_back({"fit.slit", Severity::warning, place_of(slit),
          "The " + part.name + " does not go over the head from ear to ear; it cannot be parted there.", {}, {},
          {{"Leave it whole", "drop-slit " + std::to_string(slit.id)}}});
      return y;
    }
    const int pairs = std::max(4, static_cast<int>(length / kMagnetEveryMm));
    y.lines.push_back(path);
    y.marks.push_back({PieceMark::Kind::cut, path, 0.0, {}, slit.part});
    for (int i = 0; i < pairs; ++i)
      for (const double side : {1.0, -1.0})
        y.marks.push_back({PieceMark::Kind::cross,
            {part.near->to(along(path, length * (i + 0.5) / pairs) + side * kEyeletAsideMm * Vec3::UnitZ()).point}, 0.0,
            // What meets must be unlike, and next to each other too, so that it cannot be closed shifted.
            (i % 2 == 0) == (side > 0.0) ? "N in" : "S in", slit.part});
    y.pieces.push_back(strip_piece(part.name + ", strip along the parting", 2.0 * kStripSpareMm, length,
        std::max(1.0, part.thick_mm), slit.part, 1));
    y.pieces.back().stuff = part.stuff;
    y.facts.push_back(
        "Parted over " + mm(length) + " from ear to ear, " + std::to_string(pairs) + " pairs of magnets.");
    y.wants.push_back(
        {"magnet/10 x 3 N42", "Disc magnets, 10 x 3 N42", 2.0 * pairs, "pieces", "the halves of the " + part.name});
    y.steps.push_back({"Leave the " + part.name + " in two halves",
        {"Do not glue the seam from ear to ear; where there is none, cut along the line."},
        "Fresh blade, cut away from the hand that holds.", false, false});
    y.steps.push_back({"Join the two halves of the " + part.name + " by magnets",
        {"Glue the strip inside the back half so that it reaches under the front.",
            "Set a magnet at every mark: N and S in turn along each edge, unlike across it. Try each pair before it is "
            "glued.",
            "A ribbon at the crown keeps both halves together while it is off."},
        kMagnetCaution, true, true});
    return y;
  }

  /// Marks of one slit; its own length as it came out.
  double add_slit(Yield& y, const FitPart& part, const Slit& slit, const std::vector<Vec3>& path, int side) const {
    double length = 0.0;
    for (std::size_t i = 0; i + 1 < path.size(); ++i) length += (path[i + 1] - path[i]).norm();
    y.lines.push_back(path);
    y.marks.push_back({PieceMark::Kind::cut, path, 0.0, {}, slit.part});
    const Vec3 aside = side == 0 ? Vec3(Vec3::UnitX()) : Vec3(Vec3::UnitZ());
    y.marks.push_back(
        {PieceMark::Kind::hole, {path.back()}, 0.5 * rules_.going_on.slit_end_hole_mm, "end of the slit", slit.part});
    if (slit.by != ClosedBy::lacing) return length;
    for (double at = kFirstEyeletMm; at < length - 4.0; at += slit.pitch_mm)
      for (const double sign : {1.0, -1.0})
        y.marks.push_back({PieceMark::Kind::hole,
            {part.near->to(along(path, at) + sign * kEyeletAsideMm * aside).point}, kEyeletMm, "eyelet", slit.part});
    return length;
  }

  void tell_slit(Yield& y, const FitPart& part, const Slit& slit, double length, int count) const {
    const std::string where = slit.at == SlitAt::back ? "at the back" : "at each side";
    y.facts.push_back("A slit of " + mm(length) + " " + where + ", opening by " + mm(slit.opens_mm) + ".");
    const double thick = std::max(1.0, part.thick_mm);
    y.pieces.push_back(strip_piece(part.name + ", strip behind the slit", slit.opens_mm + 2.0 * kStripSpareMm,
        length + kStripSpareMm, thick, slit.part, count));
    y.pieces.back().stuff = part.stuff;
    y.steps.push_back({"Leave the slit of the " + part.name + " open",
        {"Where it runs along a seam, glue that seam only above the round hole; elsewhere cut from the rim up to it. "
         "The hole keeps it from tearing on."},
        "Fresh blade, cut away from the hand that holds.", false, false});
    BenchStep step;
    step.at_end = true;
    step.title = "Back the slit of the " + part.name + " " + where;
    step.lines = {"Glue the strip behind one edge only; the other edge slides over it."};
    step.glued = true;
    if (slit.by == ClosedBy::lacing) {
      const int pairs = std::max(2, static_cast<int>((length - kFirstEyeletMm - 4.0) / slit.pitch_mm) + 1);
      const Lacing lacing{slit.straight ? LacingWay::straight : LacingWay::crossed, pairs, slit.pitch_mm,
          2.0 * kEyeletAsideMm + slit.opens_mm, kTailsMm};
      const double cord = cord_mm(lacing) * count;
      y.facts.push_back(std::to_string(pairs) + " pairs of eyelets" + (count > 1 ? " a side" : "") + ", " +
          fixed(cord / 1000.0, 1) + " m of cord" + (count > 1 ? " in all." : "."));
      y.wants.push_back({"eyelet", "Eyelets, 5 mm", 2.0 * pairs * count, "pieces", "the slit of the " + part.name});
      y.wants.push_back(
          {"cord", "Lacing cord, 3 mm", std::ceil(cord / 100.0) / 10.0, "m", "the slit of the " + part.name});
      step.lines.push_back("Punch the eyelet holes, set the eyelets, lace it loosely before it goes on.");
    } else {
      const int straps = std::max(1, static_cast<int>(std::lround(length / kStrapEveryMm)));
      const ElasticCut cut = elastic_cut({slit.opens_mm + 40.0, 20.0, 30.0, false}, 80.0, rules_);
      y.facts.push_back(std::to_string(straps * count) + " elastics across it, each cut " + mm(cut.cut_mm) + ".");
      y.wants.push_back({"elastic/20", "Elastic, 20 mm wide", straps * count * cut.cut_mm / 1000.0, "m",
          "the slit of the " + part.name});
      y.wants.push_back({"snap", "Snaps, sewn on", 2.0 * straps * count, "pieces", "one end of each elastic opens"});
      step.lines.push_back("Fix the elastics across the slit unstretched at one edge, with snaps at the other.");
    }
    y.steps.push_back(std::move(step));
  }

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
    const auto [path, cut] = elastic_round(head_, part, hold, rules_);
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

std::vector<Vec3> slit_path(const FitHead& head, const FitPart& part, int side, double long_mm) {
  const auto entry = entry_of(part.inner, head.mid_neck());
  if (!entry) return {};
  const Vec3 towards = side == 0 ? Vec3(-Vec3::UnitZ()) : Vec3(side > 0 ? Vec3::UnitX() : Vec3(-Vec3::UnitX()));
  const Plane plane{
      side == 0 ? Vec3(Vec3::Zero()) : head.between_ears(), side == 0 ? Vec3(Vec3::UnitX()) : Vec3(Vec3::UnitZ())};
  std::vector<Vec3> best;
  double least = 30.0;
  for (auto line : section_lines(part.inner, plane)) {
    if (line.size() < 2 || (line.front() - line.back()).norm() < 1e-6) continue;
    for (int way = 0; way < 2; ++way) {
      std::reverse(line.begin(), line.end());
      if (towards.dot(line.front() - entry->middle) <= 0.0) continue;
      double off = 1e300;
      for (std::size_t i = 0; i < entry->rim.size(); ++i)
        off = std::min(off,
            (closest_on_stretch(line.front(), entry->rim[i], entry->rim[(i + 1) % entry->rim.size()]) - line.front())
                .norm());
      if (off < least) least = off, best = line;
    }
  }
  if (best.empty()) return {};
  std::vector<Vec3> path{best.front()};
  double walked = 0.0;
  for (std::size_t i = 0; i + 1 < best.size() && walked < long_mm; ++i) {
    const double step = (best[i + 1] - best[i]).norm();
    const double take = std::min(step, long_mm - walked);
    if (step > 1e-9) path.push_back(best[i] + take / step * (best[i + 1] - best[i]));
    walked += take;
  }
  return path;
}

std::vector<Yield> fittings_of(
    const FitHead& head, const std::vector<FitPart>& parts, const FitSpec& spec, const FitRules& rules) {
  const Fitter fitter(head, parts, rules);
  std::vector<Yield> all;
  for (const Slit& s : spec.slits)
    if (auto y = fitter.slit(s)) all.push_back(std::move(*y));
  for (const Hold& h : spec.holds)
    if (auto y = fitter.hold(h)) all.push_back(std::move(*y));
  for (const Cutout& c : spec.cutouts)
    if (auto y = fitter.cutout(c)) all.push_back(std::move(*y));
  return all;
}

bool goes_on_opened(const FitSpec& spec, const GoingOn& on) {
  if (on.passes) return false;
  return is_parted(spec, on.part) || (!on.stiff && on.opens_mm <= slit_opening(spec, on.part));
}

std::vector<HoldCheck> check_holds(
    const FitHead& head, const std::vector<FitPart>& parts, const FitSpec& spec, const FitRules& rules) {
  std::vector<HoldCheck> checks;
  for (const Hold& h : spec.holds) {
    const FitPart* part = part_of_id(parts, h.part);
    if (part == nullptr) continue;
    HoldCheck check;
    check.hold = h.id;
    const double own_g = part->own_mass_g > 0.0 ? part->own_mass_g : part->mass_g;
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
    } else {
      check.words = "Not reckoned: it holds what it is sewn to. Sew it to hold " + fixed(check.needed_n, 1) + " N.";
    }
    checks.push_back(std::move(check));
  }
  return checks;
}

}  // namespace awl
