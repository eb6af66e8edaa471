#include "core/seam/meeting/meeting.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/seam/meeting/middle_sheet.hpp"
#include "core/seam/meeting/rim_tilt.hpp"
#include "core/seam/meeting/sewn.hpp"

namespace awl {
namespace {

constexpr double kMeetReachMm = 60.0;  // a foot farther off than this is not meant to meet: workshop value
constexpr double kCarriedMm = 60.0;    // how far a face goes on past its rim
constexpr double kBehindMm = 8.0;      // what runs through stands out behind: workshop value
constexpr const char* kNames[] = {"sits", "opens", "through", "edge", "skin"};

/// Cuts that lie in a face: through the sheet as straight as that allows.
std::function<Vec3(const Vec3&, const Vec3&)> laid_on_face(const OpenField& field) {
  return [&field, normals = vertex_normals(field.mesh())](const Vec3& p, const Vec3& sheet) {
    const Vec3 n = value_at(field.hit(p), field.mesh(), normals).normalized();
    return Vec3(sheet - sheet.dot(n) * n);
  };
}

tl::unexpected<Error> too_far(const MeetSide& upper, const MeetSide& lower, double mm) {
  return fail(Errc::no_solution,
      "The " + upper.name + " ends " + fixed(mm, 0) + " mm above the " + lower.name + "; parts meet within " +
          fixed(kMeetReachMm, 0) + " mm. Move it nearer, or make it longer at its foot.",
      "meets");
}

tl::unexpected<Error> nowhere(const MeetSide& upper, const MeetSide& lower) {
  return fail(Errc::no_solution,
      "The " + upper.name + " and the " + lower.name + " nowhere run into each other; move it, or let them be apart.",
      "meets");
}

/// An upper whose foot is cut `deep_mm` below the field, and what of it was carried on.
struct Foot {
  MiddleSheet carried, cut;
};

Result<Foot> foot_on(const MeetSide& upper, const MeetSide& lower, const OpenField& field, double deep_mm) {
  MiddleSheet carried(upper);
  const double far = carried.carry_on(field, kMeetReachMm);
  if (far > kMeetReachMm) return too_far(upper, lower, far);
  MiddleSheet cut = carried;
  const double before = area_mm2(cut.draft.mesh);
  cut.cut([&](const Vec3& p) { return field(p) + deep_mm; });
  if (cut.draft.mesh.triangles.empty())
    return fail(Errc::degenerate_shape,
        "Nothing of the " + upper.name + " stands out of the " + lower.name + "; lift it, or make it longer.", "meets");
  if (area_mm2(cut.draft.mesh) > before - 1.0) return nowhere(upper, lower);
  return Foot{std::move(carried), std::move(cut)};
}

/// The lower with what lies inside of a tube's face taken out.
Result<void> open_below(Met& met, const MeetSide& upper, const MeetSide& lower, const Mesh& tube, double play_mm) {
  const OpenField field(tube);
  MiddleSheet sheet(lower);
  const double before = area_mm2(sheet.whole());
  const auto beyond = [&](const Vec3& p) { return field(p) - play_mm; };
  sheet.cut(beyond);
  met.hole_mm2 = before - area_mm2(sheet.whole());
  if (sheet.draft.mesh.triangles.empty() || met.hole_mm2 > 0.6 * before)
    return fail(Errc::degenerate_shape,
        "The hole for the " + upper.name + " would take " + fixed(100.0 * met.hole_mm2 / before, 0) + " % of the " +
            lower.name + " away; it must be smaller than what it goes into.",
        "meets");
  if (met.hole_mm2 < 1.0) return nowhere(upper, lower);
  met.lower = sheet.form();
  tilt_rims(
      *met.lower, sheet.whole(), [&](const Vec3& p) { return std::abs(beyond(p)) < kOnCutMm; }, laid_on_face(field));
  return {};
}

Result<Met> on_face(const MeetSide& upper, const MeetSide& lower, const SeamMesh& face, const Meet& how) {
  const MeetSide whole{&face, lower.outside, lower.thickness_mm, lower.name};
  const OpenField field(carried_on(MiddleSheet(whole).face(true), kCarriedMm));
  const bool through = how.how == MeetHow::through;
  const double deep = through ? lower.thickness_mm + kBehindMm : 0.0;
  const auto foot = foot_on(upper, lower, field, deep);
  if (!foot) return fail(foot);
  Met met;
  met.upper = foot->cut.form();
  const Rim rim = tilt_rims(
      met.upper, foot->cut.whole(), [&](const Vec3& p) { return std::abs(field(p) + deep) < kOnCutMm; },
      laid_on_face(field));
  if (rim.mm == 0.0) return nowhere(upper, lower);
  if (through) met.upper.rim_tilt.clear();  // its end is free: cut square
  met.line_mm = rim.mm, met.steepest_deg = through ? 0.0 : steepest_deg(rim);
  if (how.how == MeetHow::sits) return met;
  if (rim.closed == 0)
    return fail(Errc::no_solution,
        "The foot of the " + upper.name + " is no closed ring on the " + lower.name +
            ", so there is no inside to open; let it sit, or move it well within the " + lower.name + ".",
        "meets");
  const auto opened = open_below(met, upper, lower, foot->carried.face(through), through ? how.play_mm : 0.0);
  if (!opened) return fail(opened);
  return met;
}

}  // namespace

const char* name_of(MeetHow how) { return kNames[static_cast<int>(how)]; }

Result<MeetHow> meet_how_from(const std::string& name) {
  for (int i = 0; i < static_cast<int>(std::size(kNames)); ++i)
    if (name == kNames[i]) return static_cast<MeetHow>(i);
  return fail(
      Errc::unknown_name, "Parts meet as sits, opens, through, edge or skin, not as \"" + name + "\".", "meets");
}

Result<void> check_meet(const Meet& meet) {
  constexpr double kMostPlayMm = 10.0;
  if (!(meet.play_mm >= 0.0 && meet.play_mm <= kMostPlayMm))
    return fail(Errc::out_of_range,
        "A play of " + fixed(meet.play_mm, 1) + " mm is outside 0 to " + fixed(kMostPlayMm, 0) + " mm.", "meets/play");
  return {};
}

Result<Met> meet(const MeetSide& upper, const MeetSide& lower, const SeamMesh& face, const Meet& how) {
  if (how.how == MeetHow::edge) return edge_to_edge(upper, lower);
  if (how.how == MeetHow::skin) return one_skin(upper, lower);
  return on_face(upper, lower, face, how);
}

}  // namespace awl
