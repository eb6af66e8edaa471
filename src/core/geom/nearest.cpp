#include "core/geom/nearest.hpp"

#include <atomic>
#include <bit>
#include <embree3/rtcore.h>

#include <Eigen/Geometry>
#include <cmath>
#include <cstring>
#include <limits>
#include <list>
#include <mutex>

#include "core/geom/box_tree.hpp"

namespace awl {

struct Nearest::Tree {
  explicit Tree(const Mesh& m);
  Tree(const Tree&) = delete;
  Tree& operator=(const Tree&) = delete;
  ~Tree() {
    if (scene_ != nullptr) rtcReleaseScene(scene_);
  }
  /// Made when first asked for: most trees shoot no rays.
  RTCScene scene() const;
  /// Which way the surface faces at a corner of a triangle, or across an edge.
  Vec3 normal_at_corner(int vertex) const;
  Vec3 normal_across(int triangle, int edge) const;

  const Mesh mesh;
  const BoxTree boxes;

 private:
  const Rows& rounds() const;

  mutable std::once_flag shot_, asked_;
  mutable RTCScene scene_ = nullptr;
  mutable Rows rounds_;
};

namespace {

std::atomic<int> built{0};

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

Nearest::Tree::Tree(const Mesh& m) : mesh(m), boxes(m) { ++built; }

Vec3 closest_on_stretch(const Vec3& p, const Vec3& a, const Vec3& b, double* share) {
  const double t = std::clamp((p - a).dot(b - a) / std::max((b - a).squaredNorm(), 1e-30), 0.0, 1.0);
  if (share != nullptr) *share = t;
  return a + t * (b - a);
}

RTCScene Nearest::Tree::scene() const {
  std::call_once(shot_, [this] { scene_ = build_scene(mesh); });
  return scene_;
}

const Rows& Nearest::Tree::rounds() const {
  std::call_once(asked_, [this] { rounds_ = faces_round(mesh); });
  return rounds_;
}

Vec3 Nearest::Tree::normal_at_corner(int vertex) const {
  Vec3 sum = Vec3::Zero();
  for (const int f : rounds()[vertex]) {
    const Tri& t = mesh.triangles[f];
    const int k = t[0] == vertex ? 0 : t[1] == vertex ? 1 : 2;
    sum += corner_angle(mesh.vertices[vertex], mesh.vertices[t[(k + 1) % 3]], mesh.vertices[t[(k + 2) % 3]]) *
        area_vector(mesh, t).normalized();
  }
  return sum;
}

Vec3 Nearest::Tree::normal_across(int triangle, int edge) const {
  const int a = mesh.triangles[triangle][edge], b = mesh.triangles[triangle][(edge + 1) % 3];
  Vec3 sum = Vec3::Zero();
  int sides = 0;
  for (const int f : rounds()[a]) {
    const Tri& t = mesh.triangles[f];
    if (sides == 2 || (t[0] != b && t[1] != b && t[2] != b)) continue;
    sum += area_vector(mesh, t).normalized(), ++sides;
  }
  return sum;
}

namespace {

/// A number made of all the bits of a mesh.
std::uint64_t print_of(const Mesh& mesh) {
  std::uint64_t print = mesh.vertices.size();
  const auto add = [&](std::uint64_t bits) {
    print = (print ^ bits) * 0x9e3779b97f4a7c15u;
    print ^= print >> 29;
  };
  for (const Vec3& p : mesh.vertices)
    for (int k = 0; k < 3; ++k) add(std::bit_cast<std::uint64_t>(p[k]));
  for (const Tri& t : mesh.triangles)
    for (const int v : t) add(static_cast<std::uint64_t>(v));
  return print;
}

}  // namespace

/// The trees made last. The stages of a chain ask about the same few surfaces again and again, each on its own.
class Nearest::Kept {
 public:
  static Kept& of_all() {
    static auto* const kept = new Kept;  // for as long as the program runs
    return *kept;
  }

  std::shared_ptr<const Tree> tree_of(const Mesh& mesh) {
    // An edit asks for some twenty. A triangle takes about 130 bytes; Embree takes more, and much for a small mesh too.
    constexpr std::size_t kMost = 250'000, kMostOfOne = 60'000, kMostTrees = 48;
    if (mesh.triangles.size() > kMostOfOne) return std::make_shared<const Tree>(mesh);
    const std::uint64_t print = print_of(mesh);
    if (auto known = found(print, mesh)) return known;
    auto tree = std::make_shared<const Tree>(mesh);
    if (auto known = found(print, mesh)) return known;  // another thread was as quick
    const std::lock_guard lock(mutex_);
    trees_.push_front({print, tree});
    held_ += mesh.triangles.size();
    while (held_ > kMost || trees_.size() > kMostTrees)
      held_ -= trees_.back().tree->mesh.triangles.size(), trees_.pop_back();
    return tree;
  }

 private:
  struct One {
    std::uint64_t print;
    std::shared_ptr<const Tree> tree;
  };

  std::shared_ptr<const Tree> found(std::uint64_t print, const Mesh& mesh) {
    const std::lock_guard lock(mutex_);
    for (auto one = trees_.begin(); one != trees_.end(); ++one)
      if (one->print == print && one->tree->mesh == mesh) {
        trees_.splice(trees_.begin(), trees_, one);
        return trees_.front().tree;
      }
    return nullptr;
  }

  std::mutex mutex_;
  std::list<One> trees_;  ///< the one asked for last in front
  std::size_t held_ = 0;  ///< triangles
};

int Nearest::trees_built() { return built; }

Nearest::Nearest(const Mesh& mesh) : tree_(Kept::of_all().tree_of(mesh)) {}

const Mesh& Nearest::mesh() const { return tree_->mesh; }

NearestHit Nearest::to(const Vec3& p) const { return with_sign(p, tree_->boxes.closest(tree_->mesh, p)); }

std::optional<NearestHit> Nearest::within(const Vec3& p, double mm) const {
  const ClosestTriangle found = tree_->boxes.closest(tree_->mesh, p, mm);
  return found.triangle < 0 ? std::nullopt : std::optional(with_sign(p, found));
}

NearestHit Nearest::with_sign(const Vec3& p, const ClosestTriangle& found) const {
  NearestHit hit{found.point, found.triangle, found.weights, 0.0};
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
  if (zeros == 1) normal = tree_->normal_across(hit.triangle, (zero + 1) % 3);
  if (zeros == 2) normal = tree_->normal_at_corner(t[last]);
  hit.signed_mm = std::copysign(std::sqrt(found.squared), (p - hit.point).dot(normal) < 0.0 ? -1.0 : 1.0);
  return hit;
}

std::optional<RayHit> Nearest::first_hit(const Vec3& from, const Vec3& direction, double from_mm) const {
  RTCRayHit ray = ray_from(from, direction, from_mm, std::numeric_limits<float>::infinity());
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  rtcIntersect1(tree_->scene(), &context, &ray);
  if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return std::nullopt;
  return RayHit{ray.ray.tfar, static_cast<int>(ray.hit.primID)};
}

bool Nearest::blocked(const Vec3& from, const Vec3& direction, double within_mm) const {
  RTCRayHit ray = ray_from(from, direction, 1e-2, within_mm);
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  rtcOccluded1(tree_->scene(), &context, &ray.ray);
  return ray.ray.tfar < 0.0f;
}

}  // namespace awl
