#include "core/piece/edge_cut.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <iterator>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr const char* kNames[kEdgeCuts] = {
    "tilted", "square", "trench", "flap", "overlap", "laced", "taped", "two-cuts"};
constexpr const char* kWords[kEdgeCuts] = {"edges cut at half the turn, glued face to face",
    "edges cut square, the gap filled", "one sheet, grooved on the inside and folded",
    "a flap folded under the neighbour and glued", "laid over the neighbour",
    "square edges laced over a strip glued behind", "square edges taped behind",
    "cut square farther out, then the wedge taken off from that edge"};

/// One sheet ending at the seam, seen along it. `side` is -1 for the left one.
struct Sheet {
  Vec2 along, out;  ///< from the seam into the sheet, and towards its outer face
  double t;

  Sheet(int side, double half_rad, double thickness_mm)
      : along(side * std::cos(half_rad), -std::sin(half_rad)), out(side * std::sin(half_rad), std::cos(half_rad)),
        t(thickness_mm) {}
  /// Its outline when the inner face ends at `inner_mm` along it and the outer one at `outer_mm`.
  std::vector<Vec2> cut(double inner_mm, double outer_mm, double length_mm, const Vec2& from = Vec2::Zero()) const {
    return {from + inner_mm * along, from + length_mm * along, from + length_mm * along + t * out,
        from + outer_mm * along + t * out};
  }
  /// A strip lying on its inner face (below) or its outer one.
  std::vector<Vec2> strip(double start_mm, double end_mm, double thickness_mm, bool outside) const {
    const Vec2 foot = outside ? Vec2(t * out) : Vec2::Zero(), to = (outside ? 1.0 : -1.0) * thickness_mm * out;
    return {foot + start_mm * along, foot + end_mm * along, foot + end_mm * along + to, foot + start_mm * along + to};
  }
};

std::string mm(double v) { return fixed(v, 1) + " mm"; }

void blade(CrossSection& s, const Sheet& left, double inner_mm, double outer_mm) {
  const Vec2 low = inner_mm * left.along, high = outer_mm * left.along + left.t * left.out, over = 0.8 * (high - low);
  s.blade_from = high + over, s.blade_to = low - 0.25 * (high - low);
  s.tilt_deg = degrees(std::atan2(inner_mm - outer_mm, left.t));
}

/// First square outside of all, then the wedge: the sheets end as those of a tilted cut do.
CrossSection in_two_cuts(const Sheet& left, const Sheet& right, double mitre, double leans_deg, double reach) {
  CrossSection s;
  s.left = left.cut(0.0, -mitre, reach), s.right = right.cut(0.0, -mitre, reach);
  blade(s, left, 0.0, -mitre);
  s.second_blade = std::pair(s.blade_from, s.blade_to);
  const double first = std::min(0.0, -mitre);
  blade(s, left, first, first);
  s.outer_longer_mm = mitre;
  s.words = mitre < 0.0 ? "First cut square on the line. Then draw a second line " + mm(-mitre) +
          " in from that edge on the outside and take the wedge off between it and the edge of the inside: the blade "
          "lies " +
          fixed(leans_deg, 0) + " degrees from the sheet."
                        : "First cut square, " + mm(mitre) +
          " outside the line. Then take the wedge off between the line, on the inside, and the edge of the outside: "
          "the blade lies " +
          fixed(leans_deg, 0) + " degrees from the sheet.";
  return s;
}

}  // namespace

const char* name_of(EdgeCut cut) { return kNames[static_cast<int>(cut)]; }
const char* words_of(EdgeCut cut) { return kWords[static_cast<int>(cut)]; }

Result<EdgeCut> edge_cut_from(const std::string& name) {
  for (int i = 0; i < kEdgeCuts; ++i)
    if (name == kNames[i]) return static_cast<EdgeCut>(i);
  return fail(Errc::unknown_name, "There is no edge called \"" + name + "\".", name);
}

double first_cut_out_mm(double thickness_mm, double tilt_deg) {
  constexpr double kMostDeg = 75.0;
  return thickness_mm * std::tan(radians(std::clamp(tilt_deg, 0.0, kMostDeg)));
}

double least_tilt_deg(double thickness_mm) {
  constexpr double kGlueFillsMm = 0.8;
  return degrees(std::atan(kGlueFillsMm / (2.0 * std::max(thickness_mm, 0.1))));  // (1)
}

Result<CrossSection> cross_section(EdgeCut cut, double t, double turn_deg, double margin_mm) {
  if (!(t >= 0.2 && t <= 60.0))
    return fail(Errc::out_of_range, "A sheet of " + fixed(t, 1) + " mm is outside 0.2 to 60 mm.");
  if (!(std::abs(turn_deg) <= 150.0))
    return fail(Errc::out_of_range,
        "A seam that turns by " + fixed(turn_deg, 0) + " degrees is outside 150 degrees either way.");
  const double half = 0.5 * radians(turn_deg), reach = std::max({4.0 * t, margin_mm + 2.0 * t, 16.0}),
               mitre = t * std::tan(half);
  const Sheet left(-1, half, t), right(1, half, t);
  const bool furrow = turn_deg < 0.0;
  CrossSection s;
  if (cut == EdgeCut::tilted) {
    s.left = left.cut(0.0, -mitre, reach), s.right = right.cut(0.0, -mitre, reach);
    blade(s, left, 0.0, -mitre);
    s.outer_longer_mm = mitre;
    s.words = std::abs(s.tilt_deg) < 0.5
        ? "Nothing to tilt: cut square."
        : "Tilt the blade " + fixed(std::abs(s.tilt_deg), 0) + " degrees from square so that the outer face stays " +
            mm(std::abs(mitre)) + (furrow ? " shorter." : " longer.");
    return s;
  }
  if (cut == EdgeCut::two_cuts) return in_two_cuts(left, right, mitre, 90.0 - std::abs(degrees(half)), reach);
  if (cut == EdgeCut::trench) {
    // What is left stands 0.2 of the sheet and hinges; the groove's walls close on each other.
    const double skin = 0.2 * t, depth = t - skin, half_width = depth * std::tan(std::abs(half));
    const Vec2 apex(0.0, furrow ? 0.0 : t / std::cos(half));
    s.left = left.cut(0.0, -mitre, reach), s.right = right.cut(0.0, -mitre, reach);
    s.others = {{apex, apex + skin * Vec2(-0.3, furrow ? 1.0 : -1.0), apex + skin * Vec2(0.3, furrow ? 1.0 : -1.0)}};
    blade(s, left, 0.0, -half_width * (furrow ? -1.0 : 1.0));
    s.words = "Groove the " + std::string(furrow ? "outside" : "inside") + " " + mm(depth) + " deep, " +
        mm(2.0 * half_width) + " wide at the face, and fold; " + mm(skin) +
        " stays whole. No second edge to glue true.";
    return s;
  }
  // Square edges meet at the inner corner of a ridge, at the outer one of a furrow; the other side stands open.
  const double shift = furrow ? -mitre : 0.0;
  s.gap_mm = 2.0 * std::abs(mitre) * std::cos(half);
  s.left = left.cut(shift, shift, reach), s.right = right.cut(shift, shift, reach);
  blade(s, left, shift, shift);
  const std::string open = s.gap_mm < 0.1 ? ""
                                          : " It stands open by " + mm(s.gap_mm) + " on the " +
          (furrow ? "inside" : "outside") + (s.gap_mm < 0.85 ? "; the glue fills that." : ": fill it.");
  switch (cut) {
    case EdgeCut::flap:
      s.others = {left.strip(shift, margin_mm, std::min(t, 2.0), false)};
      s.words = "Leave " + mm(margin_mm) +
          " beyond the line on one side, fold it under the other and glue; clip it where it curves.";
      break;
    case EdgeCut::overlap:
      s.others = {right.strip(shift, margin_mm, t, true)};
      s.words = "The upper piece goes on " + mm(margin_mm) + " over the lower; it is longer by " +
          mm(std::abs(std::tan(half)) * t) + " for lying outside. Thin it towards its edge.";
      break;
    case EdgeCut::laced:
      s.others = {left.strip(shift, 14.0, 2.0, false), right.strip(shift, 14.0, 2.0, false)};
      s.words =
          "Square edges; glue a strip 28 mm wide behind one side, punch holes 7 mm from the edge every 15 mm, lace.";
      break;
    case EdgeCut::taped:
      s.others = {left.strip(shift, 12.0, 0.4, false), right.strip(shift, 12.0, 0.4, false)};
      s.words = "Square edges; tape behind, for trying on. It does not hold for good." + open;
      break;
    default:
      s.words = "Cut square." + open;
  }
  return s;
}

double least_bend_radius_mm(double thickness_mm, double bears_strain) {
  return 0.5 * thickness_mm * std::max(0.0, 1.0 / std::max(bears_strain, 1e-6) - 1.0);  // (2)
}

Result<SlotPlan> plan_slots(double t, double radius_mm, double angle_deg, double bears) {
  if (!(radius_mm > 0.0))
    return fail(Errc::out_of_range,
        "A bend needs a radius of more than 0 mm; " + fixed(radius_mm, 1) + " mm was asked.", "bend/radius");
  if (!(angle_deg >= 1.0 && angle_deg <= 350.0))
    return fail(
        Errc::out_of_range, "A bend of " + fixed(angle_deg, 0) + " degrees is outside 1 to 350 degrees.", "bend/angle");
  SlotPlan plan;
  const double angle = radians(angle_deg), without = least_bend_radius_mm(t, bears);
  if (radius_mm >= without) {
    plan.needed = false, plan.left_mm = t, plan.strain = 0.5 * t / (radius_mm + 0.5 * t);
    plan.words = "It bends round " + mm(radius_mm) + " without slots: its outside stretches " +
        fixed(100.0 * plan.strain, 0) + " % and bears " + fixed(100.0 * bears, 0) + " %.";
    return plan;
  }
  const double skin = std::max(1.0, 0.25 * t), depth = t - skin;  // workshop value: less than a quarter tears
  const double stiff = 0.5 * skin * (1.0 / bears - 1.0);          // radius the skin takes, (2)
  constexpr double kRibMm = 2.0;                                  // between two slots, workshop value
  SlotPlan best;
  for (const double wide : {1.5, 2.0, 3.0, 4.0, 5.0, 6.0}) {
    const int n =
        std::max(1, static_cast<int>(std::ceil(std::max(depth * angle, stiff * angle) / wide - 1e-9)));  // (3), (4)
    const double apart = (radius_mm + depth + 0.5 * skin) * angle / n;
    if (depth <= 0.0 || apart < wide + kRibMm || (best.count > 0 && n >= best.count)) continue;
    best.count = n, best.wide_mm = wide, best.depth_mm = depth, best.left_mm = skin, best.apart_mm = apart;
    best.strain = 0.5 * skin / (wide * n / angle + 0.5 * skin);
  }
  if (best.count == 0) {
    // The tightest that goes: ribs and slots of the widest kind fill the whole arc.
    const double wide = 6.0, per_mm = std::max(depth, stiff) / wide;
    const double least = std::max(0.0, per_mm * (wide + kRibMm) - depth - 0.5 * skin);
    return fail(Errc::no_solution,
        "A sheet of " + mm(t) + " cannot be slotted to bend round " + mm(radius_mm) +
            ": the slots would run into each other. It goes from " + mm(std::ceil(least)) +
            " on, with heat tighter; or take two thinner sheets.",
        "bend/radius");
  }
  best.words = std::to_string(best.count) + " slots on the inside, " + mm(best.depth_mm) + " deep and " +
      mm(best.wide_mm) + " wide, " + mm(best.apart_mm) + " from middle to middle; " + mm(best.left_mm) +
      " stays under each.";
  return best;
}

std::vector<Dial> dials_of(Margins& m) {
  constexpr DialRange kBeyond{0, 60};
  Dials dials;
  dials
      .length("seam", m.seam_mm, kBeyond, "Along seams",
          "Fabric and leather are sewn or glued beyond the line; foam is not.")
      .key("seam_mm")
      .length("rim", m.rim_mm, kBeyond, "Along free edges", "To fold round the rim, or to trim a skin.")
      .key("rim_mm")
      .length("hole", m.hole_mm, kBeyond, "Into openings", "A lens is larger than its hole.")
      .key("hole_mm")
      .length("pen", m.pen_mm, kBeyond, "Width of the pen",
          "A line drawn round a card lies outside it: the card is made smaller by half of it.")
      .key("pen_mm")
      .length("kerf", m.kerf_mm, kBeyond, "What the cut takes",
          "A laser or a router takes some away; half of it is given back on each side. Never a laser or a hot wire on "
          "rigid PVC: its gas is poisonous.")
      .key("kerf_mm");
  return std::move(dials).all();
}

}  // namespace awl
