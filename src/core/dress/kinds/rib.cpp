#include "core/dress/kinds/rib.hpp"

#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/geom/polygon.hpp"
#include "core/geom/solid.hpp"
#include "core/seam/flatten.hpp"

namespace awl {
namespace {

constexpr double kUsualRibMm = 5.0, kWavesMm = 6.0;

/// Its outer edge as it follows the inner face, and the inner edge, in the plane that lies best with the line.
struct RibShape {
  std::vector<Vec2> outer, inner;
  double off_mm = 0.0;  ///< how far the line leaves that plane
  Mesh solid;
};

RibShape shape_of(const Rib& r, const DressSite& site, const FormLine& line, double thick) {
  std::vector<Vec3> edge;
  for (const Vec3& p : line.at) edge.push_back(site.inside_of(site.hit(p)));
  Vec3 middle = Vec3::Zero();
  for (const Vec3& p : edge) middle += p / static_cast<double>(edge.size());
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (const Vec3& p : edge) spread += (p - middle) * (p - middle).transpose();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
  const Vec3 u = axes.eigenvectors().col(2), n = axes.eigenvectors().col(0), v = n.cross(u);
  RibShape shape;
  const std::size_t count = edge.size();
  for (std::size_t i = 0; i < count; ++i) {
    const double share = line.closed ? 0.5 : static_cast<double>(i) / static_cast<double>(count - 1);
    const double deep = line.closed ? r.deep_mm : r.end_mm + (r.deep_mm - r.end_mm) * std::sin(kPi * share);
    Vec3 in = -line.normal[i];
    in = (in - n.dot(in) * n);
    in = in.norm() > 0.2 ? in.normalized() : Vec3((middle - edge[i]).normalized());
    const Vec3 to = edge[i] + deep * in;
    shape.outer.push_back({u.dot(edge[i] - middle), v.dot(edge[i] - middle)});
    shape.inner.push_back({u.dot(to - middle), v.dot(to - middle)});
    shape.off_mm = std::max(shape.off_mm, std::abs(n.dot(edge[i] - middle)));
    for (const Vec3& p : {edge[i], to})
      for (const double side : {0.5, -0.5}) shape.solid.vertices.push_back(p + side * thick * n);
  }
  for (std::size_t i = 0; i + (line.closed ? 0 : 1) < count; ++i) {
    const int a = static_cast<int>(4 * i), b = static_cast<int>(4 * ((i + 1) % count));
    for (const auto& [p, q] : {std::pair{0, 2}, {2, 3}, {3, 1}, {1, 0}}) {
      shape.solid.triangles.push_back({a + p, b + p, a + q});
      shape.solid.triangles.push_back({a + q, b + p, b + q});
    }
  }
  if (volume_mm3(shape.solid) < 0.0)
    for (Tri& t : shape.solid.triangles) std::swap(t[1], t[2]);
  return shape;
}

}  // namespace

std::vector<Dial> dials_of(Rib& r) {
  Dials dials;
  dials.group("The rib")
      .length("deep", r.deep_mm, {3, 120}, "Depth", "From the inner face inwards: it must leave the head its room.")
      .length("end", r.end_mm, {0, 120}, "Depth at its ends", "Of an open line; it runs out.");
  return std::move(dials).all();
}

void put_on(const Rib& r, Dressing& d) {
  const double thick = d.thickness_mm(kUsualRibMm);
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    RibShape shape = shape_of(r, d.site, d.lines[k], thick);
    if (shape.off_mm > kWavesMm)
      return d.remark("waves", Severity::warning,
          "its line leaves every plane by " + in_mm(shape.off_mm) + ": a rib is cut flat and bears " + in_mm(kWavesMm) +
              ". Take a level line, or one on the middle.",
          shape.off_mm, kWavesMm);
    std::vector<Vec2> outline = shape.outer;
    if (!d.lines[k].closed) outline.insert(outline.end(), shape.inner.rbegin(), shape.inner.rend());
    if (crosses_itself(outline) || crosses_itself(shape.inner))
      return d.remark("folds", Severity::warning,
          "its line turns so sharply that a rib " + in_mm(r.deep_mm) + " deep lies over itself; make it shallower.",
          r.deep_mm, {}, {{"Half as deep", d.turn_act("deep", std::max(3.0, std::floor(0.5 * r.deep_mm)))}});
    if (k == 0)
      d.piece(d.detail.name, outline, thick, d.sides(),
          d.lines[k].closed ? std::vector<std::vector<Vec2>>{shape.inner} : std::vector<std::vector<Vec2>>{});
    if (k == 0) {
      const FormLine::At middle = d.lines[k].at_mm(0.5 * d.lines[k].length_mm);
      d.grip("deep", middle.at - (d.site.thickness_mm + r.deep_mm) * middle.normal, -middle.normal);
    }
    d.trace(d.lines[k].at, d.lines[k].closed, TraceKind::glue, k == 0 ? d.detail.name + ", inside" : std::string());
    const double mass = d.grams(d.lines[k].length_mm * r.deep_mm * thick);
    d.solid(Matter::foam, std::move(shape.solid), mass);
  }
  d.out.count = d.sides(), d.out.length_mm = d.lines.front().length_mm;
  d.out.yield.glue_mm2 += 2.0 * d.sides() * d.lines.front().length_mm * thick;
  d.fact("A rib " + in_mm(r.deep_mm) + " deep along " + in_mm(d.lines.front().length_mm) + ", cut to the inner face.");
  d.step("Set " + d.detail.name, {"Glue it edge-on inside along its line, before the part is closed."}, kBladeCaution,
      true, true);
}

}  // namespace awl
