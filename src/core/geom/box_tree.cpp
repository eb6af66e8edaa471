#include "core/geom/box_tree.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace awl {
namespace {

constexpr float kInfinite = std::numeric_limits<float>::infinity();
constexpr double kSingle = 1.2e-7;  // relative error of single numbers

void look_at(const Mesh& mesh, int triangle, const Vec3& p, ClosestTriangle& best) {
  const Tri& t = mesh.triangles[triangle];
  const Vec3 &a = mesh.vertices[t[0]], &b = mesh.vertices[t[1]], &c = mesh.vertices[t[2]];
  const Vec3 w = closest_weights(p, a, b, c);
  const Vec3 point = w[0] * a + w[1] * b + w[2] * c;
  const double squared = (point - p).squaredNorm();
  if (squared < best.squared) best = {triangle, point, w, squared};
}

}  // namespace

/// What is known of the triangles while the tree is made.
struct BoxTree::Making {
  struct One {
    Eigen::Vector3f middle;
    int triangle;
  };
  const Mesh& mesh;
  std::vector<One> order;

  /// Parts a range at the middle one along its longest side.
  void halve(std::size_t first, std::size_t half, std::size_t last) {
    Eigen::Array3f low = order[first].middle, high = low;
    for (std::size_t i = first + 1; i < last; ++i)
      low = low.min(order[i].middle.array()), high = high.max(order[i].middle.array());
    int axis = 0;
    (high - low).maxCoeff(&axis);
    const auto begin = order.begin();
    std::nth_element(begin + static_cast<long>(first), begin + static_cast<long>(half), begin + static_cast<long>(last),
        [axis](const One& a, const One& b) {
          return a.middle[axis] < b.middle[axis] || (a.middle[axis] == b.middle[axis] && a.triangle < b.triangle);
        });
  }

  /// Of one triangle, a hair too large for what single numbers leave away.
  Eigen::AlignedBox3f box_of(int triangle) const {
    const Tri& t = mesh.triangles[triangle];
    const Vec3 &a = mesh.vertices[t[0]], &b = mesh.vertices[t[1]], &c = mesh.vertices[t[2]];
    const Vec3 low = a.cwiseMin(b).cwiseMin(c), high = a.cwiseMax(b).cwiseMax(c);
    const Vec3 hair = kSingle * low.cwiseAbs().cwiseMax(high.cwiseAbs());
    return {(low - hair).cast<float>(), (high + hair).cast<float>()};
  }
};

BoxTree::BoxTree(const Mesh& mesh) {
  Making making{mesh, {}};
  making.order.reserve(mesh.triangles.size());
  for (std::size_t f = 0; f < mesh.triangles.size(); ++f) {
    const Tri& t = mesh.triangles[f];
    const Eigen::Vector3f middle =
        ((mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0).cast<float>();
    if (middle.allFinite()) making.order.push_back({middle, static_cast<int>(f)});
  }
  for (const Vec3& p : mesh.vertices)
    if (p.allFinite()) most_ = std::max(most_, p.cwiseAbs().maxCoeff());
  if (making.order.empty()) return;
  any_ = making.order.front().triangle;
  nodes_.reserve(making.order.size() / 2 + 1);
  Eigen::AlignedBox3f box;
  add(making, 0, making.order.size(), box);
}

int BoxTree::add(Making& making, std::size_t first, std::size_t last, Eigen::AlignedBox3f& box) {
  const int own = static_cast<int>(nodes_.size());
  nodes_.emplace_back();
  for (int axis = 0; axis < 3; ++axis)
    nodes_[own].low[axis].setConstant(kInfinite), nodes_[own].high[axis].setConstant(-kInfinite);
  std::fill(std::begin(nodes_[own].child), std::end(nodes_[own].child), 0);
  // Quarters of powers of four, so that all nodes but the last ones are full.
  std::size_t quarter = 1;
  while (4 * quarter < last - first) quarter *= 4;
  if (quarter > 1) {
    const auto end = [&](std::size_t quarters) { return std::min(first + quarters * quarter, last); };
    if (end(2) < last) making.halve(first, end(2), last);
    if (end(1) < end(2)) making.halve(first, end(1), end(2));
    if (end(3) < end(4)) making.halve(end(2), end(3), end(4));
  }
  for (int k = 0; first < last; ++k, first += quarter) {
    Eigen::AlignedBox3f part;
    const std::size_t end = std::min(first + quarter, last);
    int child = ~making.order[first].triangle;
    if (end - first > 1)
      child = add(making, first, end, part);
    else
      part = making.box_of(~child);
    nodes_[own].child[k] = child;
    for (int axis = 0; axis < 3; ++axis)
      nodes_[own].low[axis][k] = part.min()[axis], nodes_[own].high[axis][k] = part.max()[axis];
    box.extend(part);
  }
  return own;
}

ClosestTriangle BoxTree::closest(const Mesh& mesh, const Vec3& p, double within_mm) const {
  constexpr std::size_t kStack = 128;  // three waiting at each of at most sixteen levels, and more than that
  ClosestTriangle best;
  struct Waiting {
    float squared;
    int child;
  };
  std::array<Waiting, kStack> waiting;
  std::size_t count = 0;
  if (!nodes_.empty()) waiting[count++] = {0.0f, 0};
  const double hair = 4.0 * kSingle * (most_ + p.cwiseAbs().maxCoeff());
  const Eigen::Array4f at[3] = {Eigen::Array4f::Constant(static_cast<float>(p.x())),
      Eigen::Array4f::Constant(static_cast<float>(p.y())), Eigen::Array4f::Constant(static_cast<float>(p.z()))};
  const auto squared_with_hair = [hair](double mm) {
    return static_cast<float>((mm + hair) * (mm + hair) * (1.0 + 8.0 * kSingle));
  };
  float within = squared_with_hair(within_mm);  // squared: nothing farther off is looked at
  while (count > 0) {
    const Waiting next = waiting[--count];
    if (!(next.squared < within)) continue;
    if (next.child < 0) {
      look_at(mesh, ~next.child, p, best);
      within = std::min(within, squared_with_hair(std::sqrt(best.squared)));
      continue;
    }
    const Node& node = nodes_[next.child];
    Eigen::Array4f sum = Eigen::Array4f::Zero();
    for (int axis = 0; axis < 3; ++axis) {
      const Eigen::Array4f off = (node.low[axis] - at[axis]).max(at[axis] - node.high[axis]).max(0.0f);
      sum += off * off;
    }
    float squared[4];
    Eigen::Map<Eigen::Array4f> each(squared);
    each = sum;
    const std::size_t from = count;
    for (int k = 0; k < 4; ++k) {
      if (!(squared[k] < within)) continue;
      std::size_t place = count++;  // the nearest last, so that it comes next
      for (; place > from && waiting[place - 1].squared < squared[k]; --place) waiting[place] = waiting[place - 1];
      waiting[place] = {squared[k], node.child[k]};
    }
  }
  if (best.triangle >= 0) return best.squared > within_mm * within_mm ? ClosestTriangle() : best;
  if (std::isfinite(within_mm) || mesh.triangles.empty()) return best;
  // A place too far off for single numbers, or none at all: any triangle is as near as another.
  const Vec3& corner = mesh.vertices[mesh.triangles[any_][0]];
  return {any_, corner, Vec3::UnitX(), (corner - p).squaredNorm()};
}

}  // namespace awl
