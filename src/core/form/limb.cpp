#include "core/form/limb.hpp"

#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

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
