#include "core/form/plate.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/form/oval.hpp"
#include "core/form/rings.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

constexpr double kEdgeMm = 8.0;

/// A strip bent about the frame's up axis: distance along the sheet to (side, out), curvature changing only near the
/// lip.
Vec2 profile(double u, double radius, double lip_from, double lip_rad_per_mm) {
  constexpr int kSteps = 48;
  double x = 0.0, z = 0.0, turned = 0.0;
  const double step = std::abs(u) / kSteps;
  for (int i = 0; i < kSteps; ++i) {
    const double s = (i + 0.5) * step, bend = 1.0 / radius + (s > lip_from ? lip_rad_per_mm : 0.0);
    x += step * std::cos(turned + 0.5 * step * bend), z += step * std::sin(turned + 0.5 * step * bend);
    turned += step * bend;
  }
  return {u < 0.0 ? -x : x, z};
}

/// Nearest triangle of the flat sheet, and the place in space over it.
class SheetLookup {
 public:
  explicit SheetLookup(FaceSheet sheet)
      : sheet_(std::move(sheet)), normals_(vertex_normals(sheet_.mesh)), near_(flattened()) {}

  /// Where on the sheet a place of space is nearest.
  Vec2 under(const Vec3& place) const {
    int best = 0;
    for (int v = 1; v < static_cast<int>(sheet_.flat.size()); ++v)
      if ((sheet_.mesh.vertices[v] - place).squaredNorm() < (sheet_.mesh.vertices[best] - place).squaredNorm())
        best = v;
    return sheet_.flat[best];
  }

  Vec3 at(const Vec2& uv, double off_mm) const {
    const NearestHit hit = near_.to({uv.x(), uv.y(), 0.0});
    const Tri& t = sheet_.mesh.triangles[hit.triangle];
    Vec3 p = Vec3::Zero(), n = Vec3::Zero();
    for (int k = 0; k < 3; ++k) p += hit.weights[k] * sheet_.mesh.vertices[t[k]], n += hit.weights[k] * normals_[t[k]];
    // Beyond the sheet's rim it goes on as a plane would.
    const Vec2 beyond = uv - Vec2(hit.point.x(), hit.point.y());
    return p + off_mm * n.normalized() + slope(t) * beyond;
  }

 private:
  Mesh flattened() const {
    Mesh flat{{}, sheet_.mesh.triangles};
    for (const Vec2& p : sheet_.flat) flat.vertices.push_back({p.x(), p.y(), 0.0});
    return flat;
  }
  Eigen::Matrix<double, 3, 2> slope(const Tri& t) const {
    Eigen::Matrix2d flat;
    flat << sheet_.flat[t[1]] - sheet_.flat[t[0]], sheet_.flat[t[2]] - sheet_.flat[t[0]];
    Eigen::Matrix<double, 3, 2> space;
    space << sheet_.mesh.vertices[t[1]] - sheet_.mesh.vertices[t[0]],
        sheet_.mesh.vertices[t[2]] - sheet_.mesh.vertices[t[0]];
    return space * flat.inverse();
  }

  FaceSheet sheet_;
  std::vector<Vec3> normals_;
  Nearest near_;
};

Vec2 scale_of(const PlateSpec& spec, const Headform& head) {
  if (!spec.follows_face) return Vec2::Ones();
  const auto& was = template_landmarks();
  const auto gap = [](const auto& from, Landmark a, Landmark b) {
    return (from[static_cast<int>(a)] - from[static_cast<int>(b)]).norm();
  };
  return {
      gap(head.landmarks, Landmark::zygion_l, Landmark::zygion_r) / gap(was, Landmark::zygion_l, Landmark::zygion_r),
      gap(head.landmarks, Landmark::sellion, Landmark::menton) / gap(was, Landmark::sellion, Landmark::menton)};
}

double half_breadth(const PlateSpec& spec, const Vec2& scale) {
  double most = 1.0;
  for (const PlateLayer& layer : spec.layers)
    for (const CurvePoint& p : layer.outline) most = std::max(most, scale.x() * std::abs(p.at.x()));
  return most;
}

/// A plate on its lower edge: its up is out of the head, it faces the wearer's front, then spins about its own up.
Result<SeatFrame> standing_frame(const Site& site, Seat seat) {
  const double spin = seat.spin_deg;
  seat.spin_deg = 0.0;
  auto frame = seat_frame(site, seat);
  if (!frame) return frame;
  const Vec3 up = frame->out, ahead = (Vec3::UnitZ() - up.z() * up).normalized();
  frame->out = Eigen::AngleAxisd(radians(spin), up) * ahead;
  frame->up = up, frame->side = up.cross(frame->out);
  return frame;
}

/// The outline of a crest less what would be inside the head or the host.
std::vector<Vec2> cut_to_head(
    const std::vector<Vec2>& outline, const Site& site, const PlateMap& map, double off_mm, double gap_mm) {
  const SeatFrame& f = map.frame;
  std::vector<std::vector<Vec2>> cut;
  for (const auto& line : site.section({map.to_space({0, 0}, off_mm), f.side})) {
    std::vector<Vec2> ring;
    for (const Vec3& p : line) ring.push_back({-(p - f.origin).dot(f.up), (p - f.origin).dot(f.out)});
    if (ring.size() < 8) continue;
    if (signed_area_mm2(ring) < 0.0) std::reverse(ring.begin(), ring.end());
    const auto grown = offset_polygon(ring, std::max(gap_mm, 0.5));
    cut.insert(cut.end(), grown.begin(), grown.end());
  }
  return without(outline, cut);
}

/// What part of the face a plate covers, rounded so that small changes keep the sheet.
FaceReach reach_of(const PlateSpec& spec, double origin_y_mm) {
  constexpr double kStep = 10.0, kBeyond = 8.0;
  double side = 0.0, low = 1e3, high = -1e3;
  for (const PlateLayer& layer : spec.layers)
    for (const CurvePoint& p : layer.outline)
      side = std::max(side, std::abs(p.at.x())), low = std::min(low, p.at.y()), high = std::max(high, p.at.y());
  const auto step = [&](double mm) { return kStep * std::ceil(mm / kStep); };
  return {step(origin_y_mm + 0.5 * (low + high)), step(side + kBeyond), step(0.5 * (high - low) + kBeyond)};
}

/// Moves a plate straight out until it is nowhere nearer than its ease: over a nose it stands off as far as the nose
/// asks.
void clear_the_head(const PlateSpec& spec, const Site& site, PlateMap& map) {
  constexpr double kStep = 9.0;
  double push = 0.0;
  const std::vector<CurvePoint>& first = spec.layers.front().outline;
  std::vector<Vec2> ring;
  for (const CurvePoint& p : first) ring.push_back(p.at.cwiseProduct(map.scale));
  if (spec.on_fold)
    for (std::size_t i = first.size(); i-- > 0;) ring.push_back({-ring[i].x(), ring[i].y()});
  Vec2 low = ring[0], high = ring[0];
  for (const Vec2& p : ring) low = low.cwiseMin(p), high = high.cwiseMax(p);
  for (int round = 0; round < 3; ++round) {
    double least = 1e300;
    for (double x = low.x(); x <= high.x(); x += kStep)
      for (double y = low.y(); y <= high.y(); y += kStep)
        if (inside(ring, {x, y})) least = std::min(least, site.above(map.to_space({x, y}, 0.0) + push * map.frame.out));
    if (least > 1e200 || least >= spec.ease_mm - 0.05) break;
    push += spec.ease_mm - least;
  }
  map.to_space = [was = map.to_space, move = Vec3(push * map.frame.out)](
                     const Vec2& uv, double off) { return Vec3(was(uv, off) + move); };
}

/// The whole outline of a layer on this wearer's sheet.
std::vector<Vec2> whole_outline(const PlateLayer& layer, const Vec2& scale, bool on_fold) {
  std::vector<CurvePoint> points = layer.outline;
  for (CurvePoint& p : points) p.at = p.at.cwiseProduct(scale);
  std::vector<Vec2> line = smooth_curve(points, !on_fold, 4.0);
  if (!on_fold) return line;
  for (Vec2& p : line) p.x() = std::max(p.x(), 0.0);
  for (std::size_t i = line.size() - 1; i-- > 1;) line.push_back({-line[i].x(), line[i].y()});
  return line;
}

Result<void> check_plate(const PlateSpec& asked) {
  PlateSpec spec = asked;
  if (auto good = check_dials(dials_of(spec), "plate"); !good) return good;
  if (spec.layers.empty()) return fail(Errc::empty_input, "A plate needs at least one outline.", "plate/outline");
  for (std::size_t i = 0; i < spec.layers.size(); ++i) {
    const auto& outline = spec.layers[i].outline;
    const std::string where = "plate/layer" + std::to_string(i + 1);
    if (outline.size() < 3)
      return fail(Errc::degenerate_shape,
          "Layer " + std::to_string(i + 1) + " has " + std::to_string(outline.size()) +
              " points; an outline needs three.",
          where);
    if (spec.on_fold && (std::abs(outline.front().at.x()) > 1e-6 || std::abs(outline.back().at.x()) > 1e-6))
      return fail(Errc::degenerate_shape,
          "The half outline of layer " + std::to_string(i + 1) + " must begin and end on the fold line.", where);
    for (const CurvePoint& p : outline)
      if (!(std::abs(p.at.x()) <= 600.0 && std::abs(p.at.y()) <= 600.0) || (spec.on_fold && p.at.x() < -1e-6))
        return fail(Errc::out_of_range,
            "A point of layer " + std::to_string(i + 1) + " lies at " + fixed(p.at.x(), 0) + ", " + fixed(p.at.y(), 0) +
                " mm; it must stay on its own side of the fold and within 600 mm.",
            where);
  }
  return {};
}

/// A flat outline as a sheet in its place.
Result<void> add_sheet(Draft& draft, const PlateMap& map, const std::vector<Vec2>& outline,
    const std::vector<std::vector<Vec2>>& holes, double off_mm, SheetFacts facts) {
  const auto flat = triangulate(outline, holes, kEdgeMm);
  if (!flat) return fail(flat);
  const int first = static_cast<int>(draft.mesh.vertices.size());
  for (const Vec2& uv : flat->vertices) {
    draft.mesh.vertices.push_back(map.to_space(uv, off_mm));
    draft.flat.push_back(uv);
    draft.home.push_back(
        {uv.x() / map.scale.x(), uv.y() / map.scale.y(), 60.0 * static_cast<double>(draft.sheets.size())});
    draft.sheet_of.push_back(static_cast<int>(draft.sheets.size()));
  }
  draft.sheets.push_back(facts);
  for (const Tri& t : flat->triangles) draft.mesh.triangles.push_back({t[0] + first, t[1] + first, t[2] + first});
  for (const auto& hole : holes)
    for (int i = first; i < static_cast<int>(draft.flat.size()); ++i)
      if (distance_to_outline(hole, draft.flat[i]) < 1e-6) draft.opening.insert(i);
  return {};
}

/// What fills a sandwich between two layers: the smaller of both outlines, kept behind their rims.
Result<void> add_core(Draft& draft, const PlateSpec& spec, const PlateMap& map, const std::vector<Vec2>& below,
    const std::vector<Vec2>& above, double off_mm) {
  const bool smaller_below = std::abs(signed_area_mm2(below)) <= std::abs(signed_area_mm2(above));
  auto outline = smaller_below ? below : above;
  if (signed_area_mm2(outline) < 0.0) std::reverse(outline.begin(), outline.end());
  if (spec.core_in_mm > 0.0) {
    std::vector<Vec2> largest;
    for (auto& ring : offset_polygon(outline, -spec.core_in_mm))
      if (largest.empty() || std::abs(signed_area_mm2(ring)) > std::abs(signed_area_mm2(largest)))
        largest = std::move(ring);
    outline = std::move(largest);
  }
  if (outline.size() < 3)
    return fail(Errc::degenerate_shape,
        "Nothing is left of the core " + fixed(spec.core_in_mm, 1) + " mm behind the rims.", "plate/core.in");
  return add_sheet(draft, map, outline, {}, off_mm, {spec.core_mm, 0.0});
}

/// One layer's sheet, placed; `outline` becomes its own.
Result<void> add_layer(Draft& draft, const PlateSpec& spec, const Site& site, const PlateMap& map, std::size_t index,
    const std::vector<std::vector<Vec2>>& holes, std::vector<Vec2>& outline) {
  const PlateLayer& layer = spec.layers[index];
  outline = whole_outline(layer, map.scale, spec.on_fold);
  if (spec.upright) {
    if (signed_area_mm2(outline) < 0.0) std::reverse(outline.begin(), outline.end());
    outline =
        cut_to_head(outline, site, map, static_cast<double>(index) * (spec.layer_mm + spec.core_mm), spec.ease_mm);
    if (outline.size() < 3)
      return fail(Errc::degenerate_shape,
          "Nothing of layer " + std::to_string(index + 1) + " stands out of the head; draw it higher.",
          "plate/layer" + std::to_string(index + 1));
  }
  const double off = static_cast<double>(index) * (spec.layer_mm + spec.core_mm);
  if (auto made = add_sheet(draft, map, outline, layer.holes ? holes : std::vector<std::vector<Vec2>>{}, off,
          {spec.layer_mm, layer.bevel_deg});
      !made)
    return fail(made.error().code, "Layer " + std::to_string(index + 1) + ": " + made.error().text,
        "plate/layer" + std::to_string(index + 1));
  FeatureLine rim{index == 0 ? "rim" : "rim of layer " + std::to_string(index + 1), {}};
  for (const Vec2& p : outline) rim.line.push_back(map.to_space(p, off));
  draft.features.push_back(std::move(rim));
  return {};
}

}  // namespace

Vec2 PlateMap::under(const Vec3& place) const {
  const auto seen = [&](const Vec2& uv) {
    const Vec3 off = to_space(uv, 0.0) - place;
    return Vec2(off.dot(frame.side), off.dot(frame.up));
  };
  Vec2 uv((place - frame.origin).dot(frame.side), (place - frame.origin).dot(frame.up));
  for (int i = 0; i < 12; ++i) {
    const Vec2 off = seen(uv);
    if (off.norm() < 1e-3) break;
    constexpr double h = 0.5;
    Eigen::Matrix2d j;
    j << (seen(uv + Vec2(h, 0)) - seen(uv - Vec2(h, 0))) / (2 * h),
        (seen(uv + Vec2(0, h)) - seen(uv - Vec2(0, h))) / (2 * h);
    if (std::abs(j.determinant()) < 0.02) break;
    Vec2 step = j.inverse() * off;
    if (step.norm() > 20.0) step *= 20.0 / step.norm();
    uv -= step;
  }
  return uv;
}

Result<PlateMap> plate_map(const PlateSpec& spec, const Site& site, const FaceSheetMaker& face) {
  auto frame = spec.standing ? standing_frame(site, spec.seat) : seat_frame(site, spec.seat);
  if (!frame) return fail(frame);
  PlateMap map;
  map.frame = *frame, map.scale = scale_of(spec, site.head());
  const SeatFrame f = *frame;
  const double own = oval_over(site.head(), f.origin.y()).circle_radius_mm() + spec.ease_mm;
  if (spec.upright) {
    map.to_space = [f, middle = 0.5 * static_cast<double>(spec.layers.size() - 1) * (spec.layer_mm + spec.core_mm)](
                       const Vec2& uv, double off) { return Vec3(f.at(middle - off, -uv.x(), uv.y())); };
  } else if (spec.bend == Bend::flat) {
    map.to_space = [f, ease = spec.ease_mm](const Vec2& uv, double off) { return f.at(uv.x(), uv.y(), ease + off); };
  } else if (spec.bend == Bend::round) {
    map.to_space = [f, own, ease = spec.ease_mm](const Vec2& uv, double off) {
      return f.at((own + off) * std::sin(uv.x() / (own + off)), uv.y(),
          (own + off) * std::cos(uv.x() / (own + off)) - own + ease);
    };
  } else if (spec.bend == Bend::cone) {
    map.to_space = [f, own, ease = spec.ease_mm, s = std::sin(radians(spec.slope_deg)),
                       c = std::cos(radians(spec.slope_deg))](const Vec2& uv, double off) {
      const double apex = (own + off) / s, rho = std::hypot(uv.x(), apex - uv.y()),
                   turn = std::atan2(uv.x(), apex - uv.y()) / s;
      return Vec3(f.at(rho * s * std::sin(turn), (apex - rho) * c, rho * s * std::cos(turn) - own + ease));
    };
  } else if (spec.bend == Bend::cup) {
    const double lip = half_breadth(spec, map.scale) - spec.lip_mm,
                 rate = radians(spec.lip_deg) / std::max(spec.lip_mm, 1.0);
    map.to_space = [f, lip, rate, r = spec.cup_mm](const Vec2& uv, double off) {
      const Vec2 p = profile(uv.x(), r, lip, rate);
      return f.at(p.x(), uv.y(), p.y() + off);
    };
  } else if (spec.bend == Bend::face) {
    const FaceReach reach = reach_of(spec, f.origin.y() / std::max(map.scale.y(), 0.3));
    auto sheet = face(spec.ease_mm, reach);
    if (!sheet) return fail(sheet);
    const auto lookup = std::make_shared<const SheetLookup>(std::move(*sheet));
    const Vec2 origin(0.0, lookup->under(f.origin).y());
    map.to_space = [lookup, origin](const Vec2& uv, double off) { return lookup->at(uv + origin, off); };
  }
  if (!spec.upright && !spec.standing && spec.bend != Bend::face && spec.bend != Bend::cup)
    clear_the_head(spec, site, map);
  return map;
}

std::vector<std::vector<Vec2>> holes_on_sheet(const PlateSpec& spec, const PlateMap& map, const Headform& head) {
  std::vector<std::vector<Vec2>> holes;
  for (const PlateHole& hole : spec.holes) {
    Vec2 centre(hole.aside_mm, hole.up_mm);
    if (hole.place == HoleFor::free)
      centre = centre.cwiseProduct(map.scale);
    else {
      const Landmark at = hole.place == HoleFor::eye ? Landmark::pupil_l
          : hole.place == HoleFor::mouth             ? Landmark::stomion
                                                     : Landmark::pronasale;
      centre += map.under(head.at(at));
    }
    const bool middle = hole.place == HoleFor::mouth || hole.place == HoleFor::nose ||
        (hole.place == HoleFor::free && std::abs(hole.aside_mm) < 1e-9);
    std::vector<Vec2> ring;
    constexpr int kSteps = 48;
    const Eigen::Rotation2Dd tilt(radians(hole.tilt_deg));
    for (int i = 0; i < kSteps; ++i) {
      const double a = kTwoPi * i / kSteps, c = std::cos(a), s = std::sin(a),
                   r = std::pow(
                       std::pow(std::abs(c), hole.square) + std::pow(std::abs(s), hole.square), -1.0 / hole.square);
      ring.push_back(Vec2(0.5 * hole.wide_mm * r * c, 0.5 * hole.tall_mm * r * s));
      if (!(middle && spec.on_fold)) ring.back() = tilt * ring.back();
      ring.back() += middle && spec.on_fold ? Vec2(0.0, centre.y()) : centre;
    }
    if (!middle && spec.on_fold) {
      holes.push_back(ring);
      for (Vec2& p : holes.back()) p.x() = -p.x();
    }
    holes.push_back(std::move(ring));
  }
  return holes;
}

namespace {

bool may_be_one_sided(const PlateSpec& s) { return !s.on_fold && !s.upright; }

}  // namespace

Result<Draft> draft_plate(const PlateSpec& asked, const Site& site, const FaceSheetMaker& face) {
  PlateSpec spec = asked;
  const bool pair = may_be_one_sided(spec), one = pair && spec.one_sided, right = one && spec.seat.on_right();
  if (right) spec.seat = across(spec.seat);
  if (auto good = check_plate(spec); !good) return fail(good);
  const auto map = plate_map(spec, site, face);
  if (!map) return fail(map);
  Draft draft;
  draft.mirrored = pair && !one;  // what is drawn on the fold is made whole at once
  PlateSpec used = spec;
  if (spec.upright) used.on_fold = false;
  const auto holes = holes_on_sheet(used, *map, site.head());
  std::vector<Vec2> below;
  for (std::size_t i = 0; i < used.layers.size(); ++i) {
    std::vector<Vec2> outline;
    if (auto good = add_layer(draft, used, site, *map, i, holes, outline); !good) return fail(good);
    if (i > 0 && spec.core_mm > 0.0)
      if (auto good = add_core(draft, used, *map, below, outline,
              static_cast<double>(i) * (spec.layer_mm + spec.core_mm) - spec.core_mm);
          !good)
        return fail(good);
    below = std::move(outline);
  }
  // A pair's own frame lies aside of its mirror image; of one of it too, so that what is drawn on it stays.
  if (pair)
    for (Vec3& home : draft.home) home.x() += kPairHomeMm;
  if (pair && !one)
    for (const Vec3& p : draft.mesh.vertices)
      if (p.x() < 0.5)
        return fail(Errc::degenerate_shape,
            "The pair meets in the middle of the head: one reaches " + fixed(0.5 - p.x(), 0) +
                " mm past it. Sit it further round, or make it narrower.",
            "plate/seat.around");
  if (right) reflect(draft);
  return draft;
}

namespace {

void add_one_side(Dials& dials, PlateSpec& s) {
  dials.yes_no("one", s.one_sided, "On one side only", "The wearer's left; sat round to the right its mirror image.");
}

}  // namespace

std::vector<Dial> hidden_dials_of(PlateSpec& s) {
  Dials dials;
  if (!may_be_one_sided(s)) add_one_side(dials, s);
  dials.add(hidden_dials_of(s.seat));
  return std::move(dials).all();
}

std::vector<Dial> dials_of(PlateSpec& s) {
  const std::string bend = "How it is bent", layers = "Layers";
  Dials dials;
  dials.group(bend);
  dials.choice("bend", s.bend,
      {"not at all", "round the head", "as a cone", "onto the face itself", "cupped, edges forward"}, "Bent",
      "Onto what the flat plate goes.");
  dials.yes_no(
      "standing", s.standing, "Stands on its edge", "Facing the front, as ears do; otherwise it lies on the head.");
  if (may_be_one_sided(s)) add_one_side(dials, s);
  dials.length("ease", s.ease_mm, {0, 40}, "Off the skin", "Padding behind it.");
  dials.angle("slope", s.slope_deg, {3, 60}, "Slope of the cone", "Narrower upwards.");
  dials.length("cup", s.cup_mm, {15, 400}, "Radius of the cup", "Smaller is more curved.");
  dials.angle("lip", s.lip_deg, {0, 150}, "Rim curls by", "A curled lip, as on an ear.");
  dials.length("lip.width", s.lip_mm, {5, 60}, "Width of the curled rim", "Measured on the sheet.");
  dials.group(layers);
  dials.length("layer", s.layer_mm, {1, 20}, "Thickness of a layer", "Each lies over the one below.");
  dials.length(
      "core", s.core_mm, {0, 60}, "Core between layers", "What a sandwich is filled with: a piece of this thickness.");
  dials.length("core.in", s.core_in_mm, {0, 30}, "Core behind the rims by", "So that it does not show.");

  for (std::size_t i = 0; i < s.layers.size(); ++i)
    dials.angle("layer" + std::to_string(i + 1) + ".bevel", s.layers[i].bevel_deg, {-45, 45},
        "Bevel of layer " + std::to_string(i + 1),
        "Blade tilt of its rim from the square cut; a plus leaves the outer face larger.");
  for (std::size_t i = 0; i < s.holes.size(); ++i) {
    PlateHole& h = s.holes[i];
    const std::string id = "hole" + std::to_string(i + 1) + ".", group = "Hole " + std::to_string(i + 1);
    dials.group(group);
    dials.choice(id + "place", h.place, {"an eye", "the mouth", "the nose", "anything else"}, "Hole for",
        "It follows this place of the wearer.");
    dials.length(id + "wide", h.wide_mm, {3, 200}, "Wide", "Across.");
    dials.length(id + "tall", h.tall_mm, {3, 200}, "Tall", "Upright.");
    dials.length(id + "aside", h.aside_mm, {-100, 300}, "Aside", "From that place, to the left.");
    dials.length(id + "up", h.up_mm, {-200, 300}, "Higher", "From that place.");
    dials.angle(id + "tilt", h.tilt_deg, {-60, 60}, "Outer end raised", "A slant.");
    dials.share(id + "square", h.square, {1.2, 8}, "Squareness", "Two is an ellipse, six nearly a rectangle.");
  }
  dials.add(dials_of(s.seat));
  return std::move(dials).all();
}

}  // namespace awl
