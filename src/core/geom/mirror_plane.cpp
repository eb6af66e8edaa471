#include "core/geom/mirror_plane.hpp"

#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/base/random.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr int kProbes = 500, kRounds = 25;
constexpr double kSureShare = 0.95;

/// Places spread over the surface by area.
std::vector<Vec3> samples_of(const Mesh& mesh) {
  std::vector<double> upto;
  double all = 0.0;
  for (const Tri& t : mesh.triangles) upto.push_back(all += area_vector(mesh, t).norm());
  Random random(7);
  std::vector<Vec3> places;
  for (int i = 0; i < kProbes; ++i) {
    const double at = (i + random.uniform()) / kProbes * all;
    const auto f = std::min(static_cast<std::size_t>(std::lower_bound(upto.begin(), upto.end(), at) - upto.begin()),
        mesh.triangles.size() - 1);
    double u = random.uniform(), v = random.uniform();
    if (u + v > 1.0) u = 1.0 - u, v = 1.0 - v;
    const Tri& t = mesh.triangles[f];
    places.push_back((1.0 - u - v) * mesh.vertices[t[0]] + u * mesh.vertices[t[1]] + v * mesh.vertices[t[2]]);
  }
  return places;
}

Vec3 reflected(const Vec3& p, const MirrorPlane& plane) {
  return p - 2.0 * (plane.normal.dot(p) - plane.d) * plane.normal;
}

double off_of(const std::vector<Vec3>& places, const Nearest& surface, const MirrorPlane& plane) {
  std::vector<double> far;
  for (const Vec3& p : places) far.push_back(std::abs(surface.to(reflected(p, plane)).signed_mm));
  const auto at = far.begin() + static_cast<std::ptrdiff_t>(kSureShare * static_cast<double>(far.size()));
  std::nth_element(far.begin(), at, far.end());
  return *at;
}

/// The plane between places and what their images lie nearest to.
MirrorPlane refined(const std::vector<Vec3>& places, const Nearest& surface, MirrorPlane plane) {
  for (int round = 0; round < kRounds; ++round) {
    std::vector<Vec3> images;
    Vec3 a = Vec3::Zero(), b = Vec3::Zero();
    for (const Vec3& p : places) {
      images.push_back(surface.to(reflected(p, plane)).point);
      a += p / kProbes;
      b += images.back() / kProbes;
    }
    Eigen::Matrix3d m = Eigen::Matrix3d::Zero();
    for (std::size_t i = 0; i < places.size(); ++i) {
      const Vec3 u = places[i] - a, v = images[i] - b;
      m += u * v.transpose() + v * u.transpose();
    }
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(m);
    const Vec3 normal = axes.eigenvectors().col(0);
    const double d = 0.5 * normal.dot(a + b);
    const bool still =
        std::abs(normal.dot(plane.normal)) > 1.0 - 1e-10 && std::abs(std::abs(d) - std::abs(plane.d)) < 1e-4;
    plane.normal = normal;
    plane.d = d;
    if (still) break;
  }
  return plane;
}

}  // namespace

std::optional<MirrorPlane> mirror_plane_of(const Mesh& mesh, double within_mm) {
  const std::vector<Vec3> places = samples_of(mesh);
  const Nearest surface(mesh);
  Vec3 middle = Vec3::Zero();
  for (const Vec3& p : places) middle += p / kProbes;
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (const Vec3& p : places) spread += (p - middle) * (p - middle).transpose();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
  std::vector<Vec3> tried{Vec3::UnitX(), Vec3::UnitY(), Vec3::UnitZ(), axes.eigenvectors().col(0),
      axes.eigenvectors().col(1), axes.eigenvectors().col(2)};
  for (int i = 0; i < 3; ++i)
    for (int j = i + 1; j < 3; ++j)
      for (const double sign : {1.0, -1.0}) {
        Vec3 n = Vec3::Zero();
        n[i] = 1.0, n[j] = sign;
        tried.push_back(n.normalized());
      }
  std::vector<MirrorPlane> planes(tried.size());
  parallel_for(static_cast<int>(tried.size()), [&](int i) {
    const auto k = static_cast<std::size_t>(i);
    planes[k] = refined(places, surface, {tried[k], tried[k].dot(middle), 0.0});
    planes[k].off_mm = off_of(places, surface, planes[k]);
  });
  // Of planes as good as each other the first: that of the file's own axes.
  const MirrorPlane* best = nullptr;
  for (const MirrorPlane& p : planes)
    if (p.off_mm <= within_mm && (best == nullptr || p.off_mm < 0.8 * best->off_mm - 1e-6)) best = &p;
  if (best == nullptr) return std::nullopt;
  MirrorPlane found = *best;
  Eigen::Index large = 0;
  found.normal.cwiseAbs().maxCoeff(&large);
  if (found.normal[large] < 0.0) found.normal = -found.normal, found.d = -found.d;
  return found;
}

Mesh with_plane_upright(const Mesh& mesh, const MirrorPlane& plane) {
  const Eigen::Matrix3d turn = Eigen::Quaterniond::FromTwoVectors(plane.normal, Vec3::UnitX()).toRotationMatrix();
  Mesh turned = mesh;
  for (Vec3& p : turned.vertices) {
    p = turn * p;
    p.x() -= plane.d;
  }
  return turned;
}

}  // namespace awl
