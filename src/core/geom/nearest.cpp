#include "core/geom/nearest.hpp"

#include <atomic>
#include <embree3/rtcore.h>

#include <Eigen/Geometry>
#include <cmath>
#include <cstring>
#include <limits>
#include <mutex>

namespace awl {

/// A ball a triangle lies in.
struct BoundingBall {
  Vec3 middle;
  double radius = 0.0;
};

/// What tells inside from outside where an edge or a corner is nearest.
struct SurfaceSigns {
  std::vector<Vec3> vertex_normals;
  std::vector<std::array<Vec3, 3>> edge_normals;  ///< per triangle, edge k -> k+1
};

struct Nearest::Tree {
  Mesh mesh;
  std::vector<BoundingBall> balls;
  mutable std::once_flag asked;
  mutable SurfaceSigns signs;  ///< made when first asked for: rays need none
  RTCScene scene = nullptr;
  Tree() = default;
  const SurfaceSigns& sign() const {
    std::call_once(asked, [this] { signs = signs_of(mesh); });
    return signs;
  }
  static SurfaceSigns signs_of(const Mesh& mesh);
  Tree(const Tree&) = delete;
  Tree& operator=(const Tree&) = delete;
  ~Tree() {
    if (scene != nullptr) rtcReleaseScene(scene);
  }
};

namespace {

/// One device for the process; Embree's devices are meant to be shared.
RTCDevice shared_device() {
  static const RTCDevice device = rtcNewDevice("threads=1");
  return device;
}

RTCScene build_scene(const Mesh& mesh) {
  const RTCScene scene = rtcNewScene(shared_device());
  const RTCGeometry geometry = rtcNewGeometry(shared_device(), RTC_GEOMETRY_TYPE_TRIANGLE);
  auto* v = static_cast<float*>(rtcSetNewGeometryBuffer(
      geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 3 * sizeof(float), mesh.vertices.size()));
  auto* t = static_cast<unsigned*>(rtcSetNewGeometryBuffer(
      geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 3 * sizeof(unsigned), mesh.triangles.size()));
  for (const Vec3& p : mesh.vertices)
    for (int k = 0; k < 3; ++k) *v++ = static_cast<float>(p[k]);
  for (const Tri& f : mesh.triangles)
    for (const int i : f) *t++ = static_cast<unsigned>(i);
  rtcSetSceneFlags(scene, RTC_SCENE_FLAG_ROBUST);
  rtcCommitGeometry(geometry);
  rtcAttachGeometry(scene, geometry);
  rtcReleaseGeometry(geometry);
  rtcCommitScene(scene);
  return scene;
}

std::vector<BoundingBall> balls_of(const Mesh& mesh) {
  std::vector<BoundingBall> balls(mesh.triangles.size());
  for (std::size_t f = 0; f < balls.size(); ++f) {
    const Tri& t = mesh.triangles[f];
    const Vec3 &a = mesh.vertices[t[0]], &b = mesh.vertices[t[1]], &c = mesh.vertices[t[2]];
    const Vec3 middle = (a + b + c) / 3.0;
    const double most = std::max({(a - middle).squaredNorm(), (b - middle).squaredNorm(), (c - middle).squaredNorm()});
    balls[f] = {middle, std::sqrt(most) * (1.0 + 1e-12)};
  }
  return balls;
}

struct Query {
  const Mesh* mesh;
  const std::vector<BoundingBall>* balls;
  Vec3 at;
  NearestHit best;
  double best_mm = 0.0;
};

bool visit(RTCPointQueryFunctionArguments* args) {
  auto* query = static_cast<Query*>(args->userPtr);
  // Embree offers all of a leaf; most of it is told by its ball to be farther than what there is.
  const BoundingBall& ball = (*query->balls)[args->primID];
  const double within = query->best_mm + ball.radius;
  if (query->best.triangle >= 0 && (ball.middle - query->at).squaredNorm() > within * within) return false;
  const Tri& t = query->mesh->triangles[args->primID];
  const Vec3 &a = query->mesh->vertices[t[0]], &b = query->mesh->vertices[t[1]], &c = query->mesh->vertices[t[2]];
  const Vec3 w = closest_weights(query->at, a, b, c);
  const Vec3 point = w[0] * a + w[1] * b + w[2] * c;
  const double d = (point - query->at).norm();
  if (query->best.triangle >= 0 && d >= query->best_mm) return false;
  query->best = {point, static_cast<int>(args->primID), w, 0.0};
  query->best_mm = d;
  args->query->radius = std::nextafter(static_cast<float>(d), std::numeric_limits<float>::infinity());
  return true;
}

RTCRayHit ray_from(const Vec3& from, const Vec3& direction, double near_mm, double far_mm) {
  RTCRayHit ray;
  std::memset(&ray, 0, sizeof ray);
  const Vec3 d = direction.normalized();
  ray.ray.org_x = static_cast<float>(from.x()), ray.ray.org_y = static_cast<float>(from.y()),
  ray.ray.org_z = static_cast<float>(from.z());
  ray.ray.dir_x = static_cast<float>(d.x()), ray.ray.dir_y = static_cast<float>(d.y()),
  ray.ray.dir_z = static_cast<float>(d.z());
  ray.ray.tnear = static_cast<float>(near_mm);
  ray.ray.tfar = static_cast<float>(far_mm);
  ray.ray.mask = ~0u;
  ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  return ray;
}

}  // namespace

Vec3 closest_on_stretch(const Vec3& p, const Vec3& a, const Vec3& b, double* share) {
  const double t = std::clamp((p - a).dot(b - a) / std::max((b - a).squaredNorm(), 1e-30), 0.0, 1.0);
  if (share != nullptr) *share = t;
  return a + t * (b - a);
}

Vec3 closest_weights(const Vec3& p, const Vec3& a, const Vec3& b, const Vec3& c) {
  const Vec3 ab = b - a, ac = c - a, ap = p - a;
  const double d1 = ab.dot(ap), d2 = ac.dot(ap);
  if (d1 <= 0 && d2 <= 0) return {1, 0, 0};
  const Vec3 bp = p - b;
  const double d3 = ab.dot(bp), d4 = ac.dot(bp);
  if (d3 >= 0 && d4 <= d3) return {0, 1, 0};
  const double vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return {1 - d1 / (d1 - d3), d1 / (d1 - d3), 0};
  const Vec3 cp = p - c;
  const double d5 = ab.dot(cp), d6 = ac.dot(cp);
  if (d6 >= 0 && d5 <= d6) return {0, 0, 1};
  const double vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return {1 - d2 / (d2 - d6), 0, d2 / (d2 - d6)};
  const double va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const double w = (d4 - d3) / ((d4 - d3) + (d5 - d6));
    return {0, 1 - w, w};
  }
  const double sum = va + vb + vc;
  if (sum == 0.0) return {1, 0, 0};
  return {va / sum, vb / sum, vc / sum};
}

SurfaceSigns Nearest::Tree::signs_of(const Mesh& mesh) {
  SurfaceSigns signs{vertex_normals(mesh), std::vector<std::array<Vec3, 3>>(mesh.triangles.size())};
  const Topology topo = topology_of(mesh);
  std::vector<Vec3> normals;
  for (const Tri& t : mesh.triangles) normals.push_back(area_vector(mesh, t).normalized());
  const auto face_normal = [&](int f) { return f < 0 ? Vec3(Vec3::Zero()) : normals[f]; };
  for (std::size_t f = 0; f < mesh.triangles.size(); ++f)
    for (int k = 0; k < 3; ++k) {
      const auto& e = topo.edges[topo.edges_of[f][k]];
      signs.edge_normals[f][k] = face_normal(e.left) + face_normal(e.right);
    }
  return signs;
}

namespace {
std::atomic<int> built{0};
}  // namespace

int Nearest::trees_built() { return built; }

Nearest::Nearest(const Mesh& mesh) {
  ++built;
  auto tree = std::make_shared<Tree>();
  tree->mesh = mesh;
  tree->balls = balls_of(mesh);
  tree->scene = build_scene(mesh);
  tree_ = tree;
}

NearestHit Nearest::to(const Vec3& p) const {
  Query query{&tree_->mesh, &tree_->balls, p, {}, 0.0};
  RTCPointQuery ask{static_cast<float>(p.x()), static_cast<float>(p.y()), static_cast<float>(p.z()), 0.0f,
      std::numeric_limits<float>::infinity()};
  RTCPointQueryContext context;
  rtcInitPointQueryContext(&context);
  rtcPointQuery(tree_->scene, &ask, &context, visit, &query);
  NearestHit& hit = query.best;
  if (hit.triangle < 0) return hit;
  // Sign by the angle-weighted normal of the feature that was hit. Source: bibliography baerentzen2005.
  const Tri& t = tree_->mesh.triangles[hit.triangle];
  Vec3 normal = area_vector(tree_->mesh, t);
  int zero = -1, zeros = 0, last = 0;
  for (int k = 0; k < 3; ++k) {
    if (hit.weights[k] < 1e-9)
      zero = k, ++zeros;
    else
      last = k;
  }
  if (zeros == 1) normal = tree_->sign().edge_normals[hit.triangle][(zero + 1) % 3];
  if (zeros == 2) normal = tree_->sign().vertex_normals[t[last]];
  hit.signed_mm = (p - hit.point).dot(normal) < 0.0 ? -query.best_mm : query.best_mm;
  return hit;
}

std::optional<RayHit> Nearest::first_hit(const Vec3& from, const Vec3& direction, double from_mm) const {
  RTCRayHit ray = ray_from(from, direction, from_mm, std::numeric_limits<float>::infinity());
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  rtcIntersect1(tree_->scene, &context, &ray);
  if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return std::nullopt;
  return RayHit{ray.ray.tfar, static_cast<int>(ray.hit.primID)};
}

bool Nearest::blocked(const Vec3& from, const Vec3& direction, double within_mm) const {
  RTCRayHit ray = ray_from(from, direction, 1e-2, within_mm);
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  rtcOccluded1(tree_->scene, &context, &ray.ray);
  return ray.ray.tfar < 0.0f;
}

}  // namespace awl
