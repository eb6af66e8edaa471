#include "core/form/limb.hpp"

#include <cmath>
#include <iterator>

#include "core/base/numbers.hpp"

namespace awl {

namespace {

/// A forearm that hangs with its hand closed: rings round its axis, wrist at y = 0. For the eye alone; proportions to
/// the girths.
Mesh forearm_of(double wrist_mm, double forearm_mm, double hand_mm, double length_mm) {
  const double wrist = wrist_mm / kTwoPi, arm = forearm_mm / kTwoPi, fist = 1.12 * hand_mm / kTwoPi;
  struct Ring {
    double y, wide, deep;  // half axes: across the wearer, front to back
  };
  const double top = length_mm + 0.5 * arm;
  const Ring rings[] = {{-3.1 * fist, 0.05 * fist, 0.05 * fist}, {-3.0 * fist, 0.55 * fist, 0.7 * fist},
      {-2.6 * fist, 0.82 * fist, 1.12 * fist}, {-1.7 * fist, 0.92 * fist, 1.3 * fist},
      {-0.9 * fist, 0.8 * fist, 1.12 * fist}, {-0.35 * fist, 0.92 * wrist, 1.06 * wrist},
      {0.0, 0.95 * wrist, 1.05 * wrist}, {0.35 * length_mm, 0.5 * (wrist + arm), 0.5 * (wrist + arm)},
      {0.72 * length_mm, arm, arm}, {length_mm, 0.97 * arm, arm}, {top, 0.8 * arm, 0.85 * arm},
      {top + 0.25 * arm, 0.45 * arm, 0.5 * arm}, {top + 0.33 * arm, 0.05 * arm, 0.05 * arm}};
  constexpr int kRound = 40;
  Mesh mesh;
  for (const Ring& ring : rings)
    for (int k = 0; k < kRound; ++k) {
      const double a = kTwoPi * k / kRound;
      mesh.vertices.push_back({ring.wide * std::cos(a), ring.y, ring.deep * std::sin(a)});
    }
  for (int r = 0; r + 1 < static_cast<int>(std::size(rings)); ++r)
    for (int k = 0; k < kRound; ++k) {
      const int p = r * kRound + k, q = r * kRound + (k + 1) % kRound;
      mesh.triangles.push_back({p, p + kRound, q});
      mesh.triangles.push_back({q, p + kRound, q + kRound});
    }
  return mesh;
}

}  // namespace

Result<Draft> draft_limb(const LimbSpec& asked, const LimbMeasures& arm, const Headform& head) {
  LimbSpec spec = asked;
  if (auto good = check_dials(dials_of(spec), "limb"); !good) return fail(good);
  // Without a tape round the arm: workshop proportions to the head.
  const double hc = head.reading(MeasureId::HC).reads_mm;
  const double wrist = arm.wrist_mm > 0.0 ? arm.wrist_mm : 0.30 * hc,
               forearm = arm.forearm_mm > 0.0 ? arm.forearm_mm : 0.46 * hc,
               hand = arm.hand_mm > 0.0 ? arm.hand_mm : 0.36 * hc;
  const double low = wrist / kTwoPi + spec.ease_mm, high = forearm / kTwoPi + spec.ease_mm + spec.flare_mm;
  constexpr int kAround = 72;
  const int rows = std::max(3, static_cast<int>(std::ceil(spec.length_mm / 20.0)));
  const double open = spec.overlap_mm < 0.0 ? -spec.overlap_mm : 0.0;
  Draft draft;
  const Vec3 middle(head.reading(MeasureId::HB).reads_mm * 0.5 + 130.0 + high, -150.0, 0.0);
  for (int r = 0; r <= rows; ++r) {
    const double t = static_cast<double>(r) / rows, radius = low + (high - low) * t, gap = open / radius;
    for (int k = 0; k <= kAround; ++k) {
      const double a = 0.5 * gap + (kTwoPi - gap) * k / kAround;
      draft.home.push_back(
          {1000.0 - 100.0 * std::cos(kTwoPi * k / kAround), 300.0 * t, 100.0 * std::sin(kTwoPi * k / kAround)});
      draft.mesh.vertices.push_back(middle + Vec3(-radius * std::cos(a), spec.length_mm * t, radius * std::sin(a)));
    }
  }
  const bool meets = open == 0.0;
  const auto at = [&](int r, int k) { return r * (kAround + 1) + (meets && k == kAround ? 0 : k); };
  for (int r = 0; r < rows; ++r)
    for (int k = 0; k < kAround; ++k) {
      const int a = at(r, k), b = at(r, k + 1), c = at(r + 1, k), d = at(r + 1, k + 1);
      draft.mesh.triangles.push_back({a, b, c});
      draft.mesh.triangles.push_back({b, d, c});
    }
  if (meets) {
    const int label = draft.seam("arm seam");
    for (int r = 0; r < rows; ++r) draft.seams[edge_of(at(r, 0), at(r + 1, 0))] = label;
  }
  draft.handles.push_back({"length", middle + Vec3(high, spec.length_mm, 0), Vec3::UnitY(), 1.0});
  draft.handles.push_back({"flare", middle + Vec3(high, spec.length_mm * 0.9, 0), Vec3::UnitX(), 1.0});
  const double opening = kTwoPi * low + open;
  if (opening < hand + 4.0)
    draft.remarks.push_back({"form.slip-on", Severity::warning, "limb/overlap",
        "The hand is " + fixed(hand, 0) + " mm round" + (arm.hand_mm > 0.0 ? "" : " (estimated)") +
            " and the wrist end " + fixed(opening, 0) + " mm: it does not slip on. Leave a gap of " +
            fixed(std::ceil(hand + 4.0 - opening), 0) + " mm to lace, or add " +
            fixed(std::ceil((hand + 4.0 - opening) / kTwoPi), 0) + " mm of ease.",
        opening, hand, {}});
  if (arm.wrist_mm <= 0.0 || arm.forearm_mm <= 0.0)
    draft.remarks.push_back({"form.limb-measures", Severity::note, "limb/length",
        "Wrist and forearm are estimated from the head; measure them before cutting.", {}, {},
        {{"Measure them", "go tape"}}});
  drop_unused(draft);
  draft.worn_on = forearm_of(wrist, forearm, hand, spec.length_mm);
  for (Vec3& p : draft.worn_on.vertices) p += middle;
  return draft;
}

std::vector<Dial> dials_of(LimbSpec& s) {
  const std::string group = "Arm guard";
  Dials dials;
  dials.group(group);
  dials.length("length", s.length_mm, {60, 320}, "Length", "From the wrist towards the elbow.");
  dials.length("ease", s.ease_mm, {0, 40}, "Sleeve and padding", "All round the arm.");
  dials.length("flare", s.flare_mm, {-10, 60}, "Flare", "Wider at the elbow end.");
  dials.length("overlap", s.overlap_mm, {-120, 0}, "Gap to lace", "A minus leaves the seam open by so much.");

  return std::move(dials).all();
}

}  // namespace awl
