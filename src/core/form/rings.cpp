#include "core/form/rings.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/form/ring_mesh.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kLeastBrimMm = 4.0;  // a brim runs out to nothing nowhere: there is always foam to glue
constexpr int kColumns = 96;          // of the half, at least
constexpr double kRowMm = 24.0, kWindowRowMm = 10.0,
                 kSlitRowMm = 6.0;   // of straight bands, finer where an opening is cut
constexpr double kFlatTopMm = 55.0;  // above this below the crown a head has no more oval of its own

double height_of(const Headform& head, RingFrom from, double last_mm) {
  switch (from) {
    case RingFrom::chin:
      return head.at(Landmark::menton).y();
    case RingFrom::mouth:
      return head.at(Landmark::stomion).y();
    case RingFrom::brow:
      return head.at(Landmark::glabella).y();
    case RingFrom::hat_line:
      return std::max(head.at(Landmark::ear_top_l).y(), head.at(Landmark::ear_top_r).y()) + 6.0;
    case RingFrom::crown:
      return head.at(Landmark::vertex).y();
    case RingFrom::last_ring:
      return last_mm;
  }
  return last_mm;
}

Result<std::vector<RingCurve>> curves_of(const RingsSpec& spec, const Site& site) {
  std::vector<RingCurve> curves;
  double last_mm = height_of(site.head(), RingFrom::hat_line, 0.0);
  for (std::size_t i = 0; i < spec.rings.size(); ++i) {
    const Ring& ring = spec.rings[i];
    const std::string where = "rings/ring" + std::to_string(i + 1);
    const double y = height_of(site.head(), ring.from, last_mm) + ring.up_mm;
    if (i > 0 && y < last_mm + 4.0)
      return fail(Errc::degenerate_shape,
          "Ring " + std::to_string(i + 1) + " lies " + fixed(y - last_mm, 0) +
              " mm above the one below it; raise it by " + fixed(last_mm + 4.0 - y, 0) +
              " mm for a band of at least 4 mm.",
          where + ".up");
    Oval oval = oval_over(site.head(), y).grown(spec.ease_mm);
    const double breadth = oval.breadth_mm() + 2.0 * ring.grow_mm + ring.wider_mm,
                 length = oval.length_mm() + 2.0 * ring.grow_mm + ring.longer_mm;
    if (std::min(breadth, length) < 20.0)
      return fail(Errc::degenerate_shape,
          "Ring " + std::to_string(i + 1) + " would be " + fixed(std::min(breadth, length), 0) +
              " mm across; 20 mm is the least: grow it by " + fixed(0.5 * (20.0 - std::min(breadth, length)), 0) +
              " mm more.",
          where + ".grow");
    const double middle = 0.5 * (oval.support(0.0) - oval.support(kPi));
    if (spec.oval == OvalKind::ellipse)
      oval = Oval::ellipse(0.5 * breadth, 0.5 * length).shifted(middle);
    else if (spec.oval == OvalKind::squarish)
      oval = Oval::squarish(0.5 * breadth, 0.5 * length, 3.6).shifted(middle);
    else
      oval = oval.grown(std::max(0.0, ring.grow_mm))
                 .scaled(breadth, length);  // outwards by the same all round; inwards it might fold
    curves.push_back(
        {oval.shifted(ring.forward_mm), y, radians(ring.lean_deg), middle + ring.forward_mm, ring.side_drop_mm});
    last_mm = y;
  }
  return curves;
}

/// Where the pieces are cut, as columns of the half.
std::vector<int> cut_columns(int pieces_round, int columns) {
  if (pieces_round <= 1) return {columns};
  std::vector<int> at;
  for (int k = 0; k <= pieces_round / 2; ++k) at.push_back(2 * k * columns / pieces_round);
  return at;
}

void add_brim(RingMesh& mesh, const Brim& brim, const RingCurve& ring) {
  if (!brim.any()) return;
  const double most = std::max({brim.front_mm, brim.side_mm, brim.back_mm});
  const int rows = std::max(3, static_cast<int>(std::ceil(most / 12.0)));
  const auto width = [&](double a) {
    const double ends = brim.front_mm * std::pow(std::cos(0.5 * a), 2) + brim.back_mm * std::pow(std::sin(0.5 * a), 2);
    return ends + (brim.side_mm - 0.5 * (brim.front_mm + brim.back_mm)) * std::pow(std::sin(a), 2);
  };
  const auto place = [&](double a, double t) {
    const Vec3 foot = ring(a);
    const double out = t * std::max(width(a), kLeastBrimMm), roll = std::pow(std::sin(a), 2) * brim.curl_mm * t * t;
    return Vec3(foot + out * std::cos(radians(brim.droop_deg)) * ring.outward(a) +
        Vec3(0.0, roll - out * std::sin(radians(brim.droop_deg)), 0.0));
  };
  mesh.add_skirt(
      "brim", rows, place, brim.halves ? std::vector<int>{0, mesh.columns()} : std::vector<int>{mesh.columns()});
}

/// A peak over the brow, and rows of plates round the neck: parts of their own that hang on the lowest ring.
void add_hung(Draft& draft, const RingsSpec& spec, const RingCurve& ring) {
  constexpr double kOverlapMm = 12.0;
  if (spec.peak_mm > 0.0) {
    const double half = radians(spec.peak_half_deg), droop = radians(spec.peak_droop_deg);
    const auto place = [&](double a, double t) {
      const double c = std::cos(0.5 * kPi * a / half), out = t * spec.peak_mm * c;
      return Vec3(ring(a) + out * std::cos(droop) * ring.outward(a) - Vec3(0.0, out * std::sin(droop), 0.0));
    };
    hang_sheet(draft, 0, {0.0, 0.97 * half, true, false}, spec.peak_mm, place);
  }
  for (int row = 0; row < spec.neck_rows; ++row) {
    const double step = spec.neck_row_mm - kOverlapMm, flare = std::tan(radians(spec.neck_flare_deg));
    RingCurve top = ring, foot = ring;
    const double out = (row + 1) * (spec.thickness_mm + 1.5) + row * step * flare;
    top.oval = ring.oval.grown(out), foot.oval = ring.oval.grown(out + spec.neck_row_mm * flare);
    top.height_mm -= row * step - kOverlapMm, foot.height_mm = top.height_mm - spec.neck_row_mm;
    const auto place = [&](double a, double t) { return Vec3((1.0 - t) * top(a) + t * foot(a)); };
    hang_sheet(draft, row + 1, {radians(spec.neck_from_deg), kPi, false, true}, spec.neck_row_mm, place);
  }
}

/// Positive outside the openings for eyes, breath or face, which follow this wearer's pupils, mouth and brow.
double outside_face(const RingsSpec& spec, const Headform& head, const Vec3& p) {
  if (p.z() < head.at(Landmark::tragion_l).z()) return 100.0;
  const double more = spec.face_open_mm,
               pupils = 0.5 * (head.at(Landmark::pupil_l).x() - head.at(Landmark::pupil_r).x());
  const double eyes = head.at(Landmark::pupil_l).y(), chin = head.at(Landmark::menton).y(),
               brow = head.at(Landmark::glabella).y();
  const auto oval = [&](double cx, double cy, double half_x, double half_y, double power) {
    const double u = std::abs(std::abs(p.x()) - cx) / half_x, v = std::abs(p.y() - cy) / half_y;
    return (std::pow(std::pow(u, power) + std::pow(v, power), 1.0 / power) - 1.0) * std::min(half_x, half_y);
  };
  if (spec.face == FaceKind::slits)
    return oval(pupils, eyes, std::min(24.0 + more, pupils - 6.0), 8.0 + more, 3.0);  // a bridge stays between them
  if (spec.face == FaceKind::window) return oval(0.0, eyes - 4.0, pupils + 42.0 + more, 30.0 + more, 3.4);
  const double foot = std::abs(p.x()) /
      (0.62 * (head.at(Landmark::zygion_l).x() - head.at(Landmark::zygion_r).x()) * 0.5 + 16.0 + more);
  const double top = brow - 2.0 + more, v = std::max(0.0, p.y() - chin) / std::max(20.0, top - chin);
  return (std::pow(std::pow(foot, 3.0) + std::pow(v, 3.0), 1.0 / 3.0) - 1.0) * 50.0;
}

/// Rows fine enough for what is cut into a band between two heights.
double row_height(const RingsSpec& spec, const Headform& head, double low_mm, double high_mm) {
  const double eyes = head.at(Landmark::pupil_l).y();
  if (spec.face == FaceKind::none || low_mm > eyes + 50.0 || high_mm < head.at(Landmark::menton).y() - 20.0)
    return kRowMm;
  return spec.face == FaceKind::slits ? kSlitRowMm : kWindowRowMm;
}

void cut_face(Draft& draft, const RingsSpec& spec, const Headform& head) {
  if (spec.face == FaceKind::none) return;
  const auto f = [&](const Vec3& p) { return outside_face(spec, head, p); };
  trim(draft, f);
  constexpr double kOnRimMm = 1e-2;
  for (const auto& loop : border_loops(draft.mesh)) {
    const auto on_rim =
        std::count_if(loop.begin(), loop.end(), [&](int v) { return std::abs(f(draft.mesh.vertices[v])) < kOnRimMm; });
    if (2 * on_rim > static_cast<long>(loop.size())) draft.opening.insert(loop.begin(), loop.end());
  }
}

Result<void> check_stack(const RingsSpec& spec) {
  RingsSpec copy = spec;
  if (auto good = check_dials(dials_of(copy), "rings"); !good) return good;
  if (spec.rings.size() < 2 || spec.rings.size() > 8 || spec.bands.size() + 1 != spec.rings.size())
    return fail(
        Errc::out_of_range, "A stack has 2 to 8 rings, not " + std::to_string(spec.rings.size()) + ".", "rings");
  if (spec.pieces_round != 1 && spec.pieces_round % 2 != 0)
    return fail(Errc::out_of_range,
        "A band is cut once at the back, or in an even number of pieces, not in " + std::to_string(spec.pieces_round) +
            "; " + std::to_string(spec.pieces_round + 1) + " works.",
        "rings/pieces");
  return {};
}

void add_handles(Draft& draft, const RingsSpec& spec, const std::vector<RingCurve>& curves, const Vec3& apex) {
  for (std::size_t i = 0; i < curves.size(); ++i) {
    const std::string ring = "ring" + std::to_string(i + 1);
    draft.handles.push_back({ring + ".up", curves[i](0.0), Vec3::UnitY(), 1.0});
    draft.handles.push_back({ring + ".grow", curves[i](0.5 * kPi), Vec3::UnitX(), 1.0});
    FeatureLine line{i == 0 ? "lower edge" : "ring " + std::to_string(i + 1), {}};
    for (int k = -60; k <= 60; ++k) line.line.push_back(curves[i](kPi * k / 60.0));
    draft.features.push_back(std::move(line));
  }
  if (spec.cap == CapKind::domed || spec.cap == CapKind::pointed)
    draft.handles.push_back({"cap", apex, Vec3::UnitY(), 1.0});
  if (spec.brim.any())
    draft.handles.push_back({"brim.front", curves[0](0.0) + Vec3(0, 0, spec.brim.front_mm), Vec3::UnitZ(), 1.0});
  if (spec.brim.any())
    draft.handles.push_back({"brim.side", curves[0](0.5 * kPi) + Vec3(spec.brim.side_mm, 0, 0), Vec3::UnitX(), 1.0});
}

void tilt(Draft& draft, double tilt_rad, const Vec3& about) {
  if (tilt_rad == 0.0) return;
  const Eigen::AngleAxisd turn(-tilt_rad, Vec3::UnitX());
  const auto move = [&](Vec3& p) { p = about + turn * (p - about); };
  for (Vec3& p : draft.mesh.vertices) move(p);
  for (FeatureLine& line : draft.features)
    for (Vec3& p : line.line) move(p);
  for (Handle& h : draft.handles) move(h.at), h.along = turn * h.along;
}

}  // namespace

Oval oval_over(const Headform& head, double height_mm) {
  const double top = head.at(Landmark::vertex).y() - kFlatTopMm;
  std::vector<Vec2> points;
  for (const Vec3& p : head.mesh.vertices)
    if (p.y() >= std::min(height_mm, top)) points.push_back({p.x(), p.z()});
  std::vector<Vec2> hull;
  for (const int i : convex_hull(points)) hull.push_back(points[i]);
  return Oval::round(hull);
}

Result<Draft> draft_rings(const RingsSpec& spec, const Site& site) {
  if (auto good = check_stack(spec); !good) return fail(good);
  const auto curves = curves_of(spec, site);
  if (!curves) return fail(curves);
  const int columns = spec.pieces_round <= 1
      ? kColumns
      : std::max(1, static_cast<int>(std::round(kColumns * 2.0 / spec.pieces_round / 16.0))) * 16 * spec.pieces_round /
          2;
  Oval mean = curves->front().oval;
  for (std::size_t i = 1; i < curves->size(); ++i)
    mean = mean.towards((*curves)[i].oval, 1.0 / static_cast<double>(i + 1));
  RingMesh mesh(curves->front(), columns, cut_columns(spec.pieces_round, columns), mean);
  for (std::size_t i = 0; i + 1 < curves->size(); ++i)
    if (auto good =
            mesh.add_band((*curves)[i + 1], spec.bands[i].kind == BandKind::straight ? 0.0 : spec.bands[i].bulge_mm,
                row_height(spec, site.head(), (*curves)[i].height_mm, (*curves)[i + 1].height_mm));
        !good)
      return fail(good);
  Vec3 apex = curves->back()(0.0);
  // A dome rises over the wearer's own crown, a point over its ring.
  const double over_crown =
      std::max(0.0, site.head().at(Landmark::vertex).y() + spec.ease_mm - curves->back().height_mm);
  if (spec.cap != CapKind::none)
    apex = mesh.add_cap(spec.cap == CapKind::pointed,
        spec.cap == CapKind::flat ? 0.0 : spec.cap_mm + (spec.cap == CapKind::domed ? over_crown : 0.0));
  add_brim(mesh, spec.brim, curves->front());
  Draft draft = mesh.take();
  drop_unused(draft);
  cut_face(draft, spec, site.head());
  add_hung(draft, spec, curves->front());
  add_handles(draft, spec, *curves, apex);
  draft.lower_girth_mm = curves->front().oval.girth_mm();
  tilt(draft, radians(spec.tilt_deg), Vec3(0.0, curves->front().height_mm, 0.0));
  return draft;
}

std::vector<Dial> dials_of(RingsSpec& s) {
  Dials dials;
  dials.group("The stack");
  dials.length("ease", s.ease_mm, {0, 40}, "Hair and padding", "How far the inside stays off the bare head.");
  dials.angle("tilt", s.tilt_deg, {-30, 30}, "Tilted back", "The whole stack leans; a minus tips it forward.");
  dials.choice("oval", s.oval, {"the head's own", "ellipse", "rounded square"}, "Outline",
      "The head's own oval sits best; an ellipse or a rounded square is a choice of looks.");
  dials.count("pieces", s.pieces_round, {1, 16}, "Pieces round",
      "One is cut at the back; petals of a dome and staves want an even number.");

  for (std::size_t i = 0; i < s.rings.size(); ++i) {
    Ring& r = s.rings[i];
    const std::string id = "ring" + std::to_string(i + 1) + ".",
                      group = i == 0 ? "Lower edge" : "Ring " + std::to_string(i + 1);
    dials.group(group);
    dials.choice(id + "from", r.from, {"chin", "mouth", "brow", "hat line", "crown", "ring below"},
        "Height counted from", "What part of the wearer this ring follows.");
    dials.length(id + "up", r.up_mm, {-250, 500}, "Above that", "Raises the ring.");
    dials.length(id + "grow", r.grow_mm, {-90, 200}, "Larger all round", "Beyond the head's own oval; a minus tapers.");
    dials.length(id + "wider", r.wider_mm, {-80, 200}, "Wider", "Side to side.");
    dials.length(id + "longer", r.longer_mm, {-80, 200}, "Longer", "Front to back.");
    dials.length(id + "forward", r.forward_mm, {-80, 80}, "Moved forward", "The whole ring.");
    dials.angle(id + "lean", r.lean_deg, {-25, 25}, "Front raised", "Leans the ring in its own plane.");
    dials.length(id + "drop", r.side_drop_mm, {-60, 60}, "Sides lower by", "A curved top.");
    if (i == 0) continue;
    Band& b = s.bands[i - 1];
    const std::string band = "band" + std::to_string(i) + ".";
    dials.choice(band + "kind", b.kind, {"straight", "bulged or waisted"}, "The band below it",
        "Straight bands unroll exactly; bulged ones want heat or petals.");
    dials.length(band + "bulge", b.bulge_mm, {-40, 60}, "Its bulge", "A minus makes a waist.");
  }
  const std::string cap = "Cap", brim = "Brim and peak", neck = "Neck plates", face = "Face";
  dials.group(cap);
  dials.choice("cap.kind", s.cap, {"open", "flat", "domed", "pointed"}, "Closed on top", "How the stack ends.");
  dials.length("cap", s.cap_mm, {0, 500}, "Height of the cap",
      "Of a dome: above the wearer's crown and the ease. Of a point: above its ring.");
  dials.group(brim);
  dials.length("brim.front", s.brim.front_mm, {0, 200}, "Brim, front", "Nothing all round: no brim.");
  dials.length("brim.side", s.brim.side_mm, {0, 200}, "Brim, sides", "Often narrower than front and back.");
  dials.length("brim.back", s.brim.back_mm, {0, 200}, "Brim, back", "Wide to shed rain.");
  dials.angle("brim.droop", s.brim.droop_deg, {-30, 60}, "Brim droops by", "Below level.");
  dials.length("brim.curl", s.brim.curl_mm, {0, 80}, "Sides rolled up by", "A curled brim.");
  dials.yes_no("brim.halves", s.brim.halves, "Brim in halves", "When the sheet is too small for the whole.");
  dials.length("peak", s.peak_mm, {0, 150}, "Peak over the brow", "Nothing: no peak.");
  dials.angle("peak.half", s.peak_half_deg, {20, 100}, "Peak reaches round to", "Each side, from the front.");
  dials.angle("peak.droop", s.peak_droop_deg, {-20, 60}, "Peak droops by", "Below level.");
  dials.group(neck);
  dials.count("neck.rows", s.neck_rows, {0, 6}, "Rows of neck plates", "Laced or riveted one over the other.");
  dials.length("neck.row", s.neck_row_mm, {20, 120}, "Depth of a row", "Each covers part of the next.");
  dials.angle("neck.flare", s.neck_flare_deg, {0, 45}, "Flare", "Away from the neck.");
  dials.angle("neck.from", s.neck_from_deg, {30, 150}, "Rows begin at", "From the front, round to the back.");
  dials.group(face);
  dials.choice("face.kind", s.face, {"none", "eye slits", "window", "whole face"}, "Opening for the face",
      "Placed from the wearer's pupils, brow and chin.");
  dials.length("face.open", s.face_open_mm, {-6, 40}, "Opened further", "All round; a minus closes it.");
  return std::move(dials).all();
}

}  // namespace awl
