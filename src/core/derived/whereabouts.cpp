#include "core/derived/whereabouts.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

/// "behind", "above": which way a place lies from another, in the head's directions.
const char* way_word(const Vec3& from, const Vec3& to) {
  const Vec3 d = to - from;
  if (std::abs(d.y()) >= std::abs(d.x()) && std::abs(d.y()) >= std::abs(d.z())) return d.y() > 0.0 ? "above" : "below";
  if (std::abs(d.z()) >= std::abs(d.x())) return d.z() > 0.0 ? "before" : "behind";
  return "beside";
}

}  // namespace

std::string whereabouts(const Headform& head, const Vec3& place) {
  int best = 0;
  for (int i = 1; i < kLandmarkCount; ++i)
    if ((head.landmarks[i] - place).squaredNorm() < (head.landmarks[best] - place).squaredNorm()) best = i;
  const std::string side = std::abs(place.x()) < 12.0 ? "in the middle" : place.x() > 0.0 ? "left" : "right";
  const std::string name = name_of(static_cast<Landmark>(best));
  return side + (name.starts_with("under") || name.starts_with("between") ? ", " : ", near the ") + name;
}

std::string edge_words(const Box& form, const Vec3& rim_middle) {
  const Vec3 from = rim_middle - 0.5 * (form.low + form.high), half = (0.5 * form.size()).cwiseMax(1.0);
  const Vec3 share = from.cwiseQuotient(half);
  int axis = 0;
  share.cwiseAbs().maxCoeff(&axis);
  if (axis == 0) return share.x() > 0.0 ? "the left edge" : "the right edge";
  if (axis == 1) return share.y() > 0.0 ? "the upper edge" : "the lower edge";
  return share.z() > 0.0 ? "the front edge" : "the back edge";
}

WorstSpot worst_spot(const Panel& panel, const PanelSet& set, const Headform& head) {
  WorstSpot spot;
  int worst = 0;
  for (int f = 1; f < static_cast<int>(panel.face_strain.size()); ++f)
    if (std::abs(panel.face_strain[f]) > std::abs(panel.face_strain[worst])) worst = f;
  const Tri& t = panel.solid.triangles[worst];
  spot.at = (panel.solid.vertices[t[0]] + panel.solid.vertices[t[1]] + panel.solid.vertices[t[2]]) / 3.0;
  spot.strain = panel.face_strain[worst];
  const TriangleFrame frame =
      frame_of_triangle(panel.solid.vertices[t[0]], panel.solid.vertices[t[1]], panel.solid.vertices[t[2]]);
  Eigen::Matrix2d j = Eigen::Matrix2d::Zero();
  for (int k = 0; k < 3; ++k) j += panel.flat[t[k]] * frame.gradients.col(k).transpose();
  const Polar2 polar = signed_svd(j);
  // The flat is smaller than the form where it stretches: the smaller singular value is the stretched way.
  const Vec2 way = polar.v.col(spot.strain > 0.0 ? 1 : 0);
  const Vec3 e1 = (panel.solid.vertices[t[1]] - panel.solid.vertices[t[0]]).normalized(),
             n = area_vector(panel.solid, t).normalized();
  spot.along = way.x() * e1 + way.y() * n.cross(e1);
  double near_mm = 1e300;
  Vec3 near_at = Vec3::Zero();
  SeamId seam;
  for (const BorderEdge& e : panel.border) {
    if (!e.seam.valid()) continue;
    const Vec3 q = closest_on_stretch(spot.at, panel.solid.vertices[e.a], panel.solid.vertices[e.b]);
    if ((q - spot.at).norm() < near_mm) near_mm = (q - spot.at).norm(), near_at = q, seam = e.seam;
  }
  spot.words = fixed(100.0 * std::abs(spot.strain), 1) + (spot.strain > 0.0 ? " % stretch, " : " % squeeze, ") +
      whereabouts(head, spot.at);
  if (seam.valid())
    spot.words += ", " + (near_mm < 3.0 ? std::string("at") : fixed(near_mm, 0) + " mm " + way_word(near_at, spot.at)) +
        " seam " + set.seams[seam.value].letter;
  return spot;
}

}  // namespace awl
