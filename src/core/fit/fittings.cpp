#include "core/fit/fittings.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/fit/clearance.hpp"
#include "core/fit/fitted_holds.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kEyeletAsideMm = 10.0, kEyeletMm = 2.5, kFirstEyeletMm = 8.0, kTailsMm = 200.0;
constexpr double kMagnetEveryMm = 55.0;
constexpr double kStripSpareMm = 30.0, kStrapEveryMm = 50.0;

Vec3 along(const std::vector<Vec3>& line, double mm) {
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const double length = (line[i + 1] - line[i]).norm();
    if (mm <= length) return line[i] + mm / std::max(length, 1e-9) * (line[i + 1] - line[i]);
    mm -= length;
  }
  return line.back();
}

Piece strip_piece(const std::string& name, double wide, double tall, double thickness_mm, int part, int copies) {
  const Vec2 half(0.5 * wide, 0.5 * tall);
  Piece piece =
      plate_piece(name, 1, {-half, Vec2(half.x(), -half.y()), half, Vec2(-half.x(), half.y())}, {}, thickness_mm);
  piece.part = part, piece.copies = copies, piece.face_up = "any side up";
  piece.front.reset();
  return piece;
}

using fitting::mm;
using fitting::part_of_id;

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

  std::optional<Yield> cutout(const Cutout& cutout) const {
    const FitPart* part = part_of_id(parts_, cutout.part);
    if (part == nullptr) return std::nullopt;
    Yield y;
    y.part = cutout.part;
    y.name = part->name + ", " + name_of(cutout.kind);
    if (cutout.kind == CutoutKind::ears)
      ears(y, *part, cutout);
    else if (cutout.kind == CutoutKind::nose)
      nose(y, *part, cutout);
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

  /// Where the part lies before the nose, outlined to be formed warm onto it: between its wings, from the root of the
  /// nose to its foot, as it is met straight ahead.
  void nose(Yield& y, const FitPart& part, const Cutout& cutout) const {
    constexpr double kAsideMm = 8.0, kAboveMm = 4.0, kBelowMm = 4.0, kFarMm = 120.0;
    constexpr int kPoints = 32;
    const std::string place = "fit/cutout/" + std::to_string(cutout.id);
    const std::vector<Remedy> back{{"Take it back", "drop-cutout " + std::to_string(cutout.id)}};
    const auto &root = head_.at(Landmark::sellion), &foot = head_.at(Landmark::subnasale),
               &tip = head_.at(Landmark::pronasale), &wing = head_.at(Landmark::alare_l);
    if (!root || !foot || !tip || !wing) {
      y.remarks.push_back({"fit.nose", Severity::note, place,
          "Where the nose is, is not known: its places are missing on this head.", {}, {}, back});
      return;
    }
    PieceMark mark{PieceMark::Kind::line, {}, 0.0, "warm onto the nose", cutout.part};
    const double middle = 0.5 * (root->y() + kAboveMm + foot->y() - kBelowMm),
                 tall = 0.5 * (root->y() + kAboveMm - foot->y() + kBelowMm), wide = std::abs(wing->x()) + kAsideMm;
    for (int i = 0; i <= kPoints; ++i) {
      const double a = kTwoPi * (i % kPoints) / kPoints, narrow = 1.0 - 0.35 * std::max(0.0, std::sin(a));
      const Vec3 from(wide * narrow * std::cos(a), middle + tall * std::sin(a), tip->z() - 60.0);
      const auto hit = part.near->first_hit(from, Vec3::UnitZ());
      if (hit && hit->along_mm < kFarMm) mark.line.push_back(from + hit->along_mm * Vec3::UnitZ());
    }
    if (mark.line.size() < kPoints / 2) {
      y.remarks.push_back({"fit.nose", Severity::note, place,
          "The " + part.name + " does not lie before the nose; there is nothing to form onto it.", {}, {}, back});
      return;
    }
    if (!part.takes_heat) {
      y.remarks.push_back({"fit.nose", Severity::warning, place,
          "What the " + part.name +
              " is of may not be warmed: it cannot be formed onto the nose. Take more ease there.",
          {}, {}, back});
      return;
    }
    const double off = std::abs(part.near->to(*tip).signed_mm);
    y.facts.push_back("Before the nose, " + fixed(2.0 * wide, 0) + " x " + mm(2.0 * tall) +
        " is formed warm; it stands " + mm(off) + " off its tip.");
    y.lines.push_back(mark.line);
    y.marks.push_back(std::move(mark));
    y.steps.push_back({"Form the " + part.name + " onto the nose",
        {"Warm the outlined zone alone, from both sides, until it droops.",
            "Press it over the headform's nose, or over a ball of its size, with a gloved thumb; hold it until it is "
            "cool. "
            "Never on a face.",
            "Try it on when it is cold: breath goes free, nothing presses the bridge."},
        "Hot foam and hot air burn: gloves, air the room, and only as its maker says.", false, true});
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
        fitting::kMagnetCaution, true, true});
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

  const FitHead& head_;
  const std::vector<FitPart>& parts_;
  const FitRules& rules_;
};

}  // namespace

bool closes(const Yield& fitting, int part) {
  return fitting.part == part &&
      (fitting.name.find(", slit") != std::string::npos || fitting.name.ends_with("two halves"));
}

bool is_of(const Yield& fitting, const Hold& hold) {
  return fitting.part == hold.part && fitting.name.ends_with(name_of(hold.by));
}

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
    if (auto y = fitted_hold(head, parts, h, rules)) all.push_back(std::move(*y));
  for (const Cutout& c : spec.cutouts)
    if (auto y = fitter.cutout(c)) all.push_back(std::move(*y));
  return all;
}

bool goes_on_opened(const FitSpec& spec, const GoingOn& on) {
  if (on.passes) return false;
  return is_parted(spec, on.part) || (!on.stiff && on.opens_mm <= slit_opening(spec, on.part));
}

}  // namespace awl
