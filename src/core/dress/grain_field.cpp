#include "core/dress/grain_field.hpp"

#include <Eigen/Geometry>
#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>

#include "core/dress/distance.hpp"

namespace awl {
namespace {

using Complex = std::complex<double>;
constexpr double kLeastCot = 1e-4, kTold = 1e4, kUntold = 1e-9;

double cot_at(const Vec3& corner, const Vec3& a, const Vec3& b) {
  const Vec3 u = a - corner, v = b - corner;
  return u.dot(v) / std::max(u.cross(v).norm(), 1e-12);
}

/// At every vertex a direction that means the same all over: level, of a sweep along its spine.
std::vector<Vec3> directions_of(const DressSite& site) {
  std::vector<Vec3> all(site.normals.size(), Vec3::Zero());
  if (!site.along.empty())
    for (std::size_t f = 0; f < site.outer.triangles.size(); ++f) {
      const Vec3 slope = slope_at(site.outer, site.along, {{}, static_cast<int>(f), {}, 0.0});
      for (const int v : site.outer.triangles[f]) all[static_cast<std::size_t>(v)] += slope;
    }
  for (std::size_t v = 0; v < all.size(); ++v) {
    const Vec3 &normal = site.normals[v], along = in_plane(all[v], normal), level = Vec3::UnitY().cross(normal);
    all[v] = (along.norm() > 0.05 ? along : level.norm() > 0.1 ? level : in_plane(Vec3::UnitX(), normal)).normalized();
  }
  return all;
}

}  // namespace

GrainField::GrainField(const DressSite& site, const std::vector<FormLine>& told, GrainFollows follows)
    : site_(site), east_(directions_of(site)) {
  const auto& at = site.outer.vertices;
  const int n = static_cast<int>(at.size());
  std::vector<Eigen::Triplet<Complex>> parts;
  Eigen::VectorXcd wanted = Eigen::VectorXcd::Zero(n);
  for (const Tri& t : site.outer.triangles)
    for (int k = 0; k < 3; ++k) {
      const int i = t[(k + 1) % 3], j = t[(k + 2) % 3];
      const double w = 0.5 * std::max(kLeastCot, cot_at(at[t[k]], at[i], at[j]));
      // One direction seen from both ends of the edge: what is carried from i to j turns by their difference.
      const Vec3 edge = at[j] - at[i];
      const double turn = follows == GrainFollows::slope ? 0.0 : 2.0 * (angle_of(j, edge) - angle_of(i, edge));
      const Complex carried = std::polar(w, turn);
      parts.push_back({i, i, w}), parts.push_back({j, j, w});
      parts.push_back({j, i, -carried}), parts.push_back({i, j, -std::conj(carried)});
    }
  for (const FormLine& line : told)
    for (std::size_t s = 0; s < line.size(); ++s) {
      const NearestHit hit = site.hit(line.at[s]);
      const Vec3 along = line.along(s);
      for (int k = 0; k < 3; ++k) {
        const int v = site.outer.triangles[hit.triangle][k];
        const double w = kTold * std::max(0.0, hit.weights[k]);
        parts.push_back({v, v, w});
        wanted[v] += w * std::polar(1.0, 2.0 * angle_of(v, along));
      }
    }
  for (int v = 0; v < n; ++v) parts.push_back({v, v, kUntold});
  Eigen::SparseMatrix<Complex> all(n, n);
  all.setFromTriplets(parts.begin(), parts.end());
  const Eigen::VectorXcd found = Eigen::SimplicialLDLT<Eigen::SparseMatrix<Complex>>(all).solve(wanted);
  twice_.assign(found.data(), found.data() + n);
}

double GrainField::angle_of(int vertex, const Vec3& direction) const {
  return angle_about(east_[vertex], direction, site_.normals[vertex]);
}

Vec3 GrainField::at_corner(int vertex) const {
  constexpr double kNone = 1e-6;
  const Complex z = twice_[vertex];
  if (!(std::abs(z) > kNone)) return Vec3::Zero();
  const double half = 0.5 * std::arg(z);
  return std::cos(half) * east_[vertex] + std::sin(half) * site_.normals[vertex].cross(east_[vertex]);
}

Vec3 GrainField::along(const NearestHit& hit) const {
  Vec3 sum = Vec3::Zero();
  const Tri& t = site_.outer.triangles[hit.triangle];
  for (int k = 0; k < 3; ++k) {
    const Vec3 one = at_corner(t[k]);
    sum += hit.weights[k] * (one.dot(sum) < 0.0 ? Vec3(-one) : one);
  }
  const Vec3 in = in_plane(sum, site_.normal_at(hit));
  return in.norm() > 1e-6 ? Vec3(in.normalized()) : Vec3(Vec3::Zero());
}

std::vector<Vec3> GrainField::stroke(const Vec3& middle, double long_mm) const {
  constexpr double kStepMm = 2.0;
  std::vector<Vec3> line{middle};
  for (const double sense : {1.0, -1.0}) {
    NearestHit now = site_.hit(middle);
    Vec3 way = sense * along(now);
    for (double gone = 0.0; gone < 0.5 * long_mm && way.norm() > 0.5;) {
      const double step = std::min(kStepMm, 0.5 * long_mm - gone + 1e-9);
      const NearestHit to = site_.hit(now.point + step * way);
      if ((to.point - now.point).norm() < 0.4 * step) break;  // the rim
      line.push_back(to.point);
      const Vec3 next = along(to);
      way = next.dot(way) < 0.0 ? Vec3(-next) : next;
      now = to, gone += step;
    }
    std::reverse(line.begin(), line.end());
  }
  return line;
}

}  // namespace awl
