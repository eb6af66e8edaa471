#include "core/geom/mending/thinned.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <atomic>
#include <cmath>
#include <numeric>

#include "core/base/parallel.hpp"

namespace awl {
namespace {

constexpr std::size_t kBlock = 100'000;  // triangles; a fifth of a second of work
constexpr int kMostPasses = 40;
constexpr double kPassShare = 0.5;    // cheapest edges a pass looks at: dearer ones wait for their neighbours
constexpr double kLeastTurn = 0.3;    // cosine a triangle's normal may turn by
constexpr double kLeastShape = 0.02;  // height over longest side of a triangle that was better before
constexpr double kShortFirst = 1e-4;  // of flat places the short edges go first

/// Sum of squared distances from planes, weighted by area: half of a symmetric 4 x 4 matrix.
struct Quadric {
  Eigen::Matrix3d a = Eigen::Matrix3d::Zero();
  Vec3 b = Vec3::Zero();
  double c = 0.0, area = 0.0;
  void add(const Quadric& o) { a += o.a, b += o.b, c += o.c, area += o.area; }
  double at(const Vec3& p) const { return std::max(0.0, p.dot(a * p + 2.0 * b) + c); }
};

/// Height over longest side: 0.87 of an even triangle, 0 of three corners on a line.
double shape_of(const Vec3& a, const Vec3& b, const Vec3& c) {
  const double longest = std::max({(b - a).squaredNorm(), (c - b).squaredNorm(), (a - c).squaredNorm()});
  return longest > 0.0 ? (b - a).cross(c - a).norm() / longest : 0.0;
}

/// Takes corners out of one block by pulling each into a neighbour; the corners of its border stay.
class Thinner {
 public:
  explicit Thinner(Mesh block) : mesh_(std::move(block)), onto_(mesh_.vertices.size()) {
    std::iota(onto_.begin(), onto_.end(), 0);
    quadrics_.resize(mesh_.vertices.size());
    stamp_.assign(mesh_.vertices.size(), 0);
    for (const Tri& t : mesh_.triangles) {
      const Vec3 twice = area_vector(mesh_, t);
      const double length = twice.norm();
      if (!(length > 0.0)) continue;
      const Vec3 n = twice / length;
      const double off = -n.dot(mesh_.vertices[t[0]]);
      const Quadric q{length * n * n.transpose(), length * off * n, length * off * off, length};
      for (const int v : t) quadrics_[v].add(q);
    }
  }

  std::vector<Tri> run(std::size_t wanted) && {
    for (int pass = 0; pass < kMostPasses && mesh_.triangles.size() > wanted; ++pass)
      if (!take_out(wanted)) break;
    return std::move(mesh_.triangles);
  }

 private:
  struct Pull {
    double cost = 0.0;
    int from = -1, to = -1;
  };

  /// One pass over edges that do not disturb each other; false once nothing goes any more.
  bool take_out(std::size_t wanted) {
    topo_ = topology_of(mesh_);
    locked_.assign(mesh_.vertices.size(), 0);
    for (const Topology::Edge& e : topo_.edges)
      if (e.right < 0 || e.more > 0) locked_[e.a] = locked_[e.b] = 1;
    touched_.assign(mesh_.triangles.size(), 0);
    std::vector<Pull> pulls = cheapest();
    std::size_t left = mesh_.triangles.size();
    for (const Pull& pull : pulls) {
      if (left <= wanted) break;
      if (!may_go(pull.from, pull.to)) continue;
      for (const int f : topo_.faces_round[pull.from]) touched_[f] = 1;
      onto_[pull.from] = pull.to;
      quadrics_[pull.to].add(quadrics_[pull.from]);
      left -= 2;
    }
    if (left == mesh_.triangles.size()) return false;
    std::vector<Tri> kept;
    kept.reserve(left);
    for (Tri t : mesh_.triangles) {
      for (int& v : t) v = onto_[v];
      if (t[0] != t[1] && t[1] != t[2] && t[2] != t[0]) kept.push_back(t);
    }
    mesh_.triangles = std::move(kept);
    return true;
  }

  /// The better way of each edge, cheapest first.
  std::vector<Pull> cheapest() const {
    std::vector<Pull> pulls;
    pulls.reserve(topo_.edges.size());
    for (const Topology::Edge& e : topo_.edges) {
      const Pull there{cost(e.a, e.b), e.a, e.b}, back{cost(e.b, e.a), e.b, e.a};
      const bool forth = !locked_[e.a] && (locked_[e.b] || there.cost <= back.cost);
      if (forth || !locked_[e.b]) pulls.push_back(forth ? there : back);
    }
    const auto dearer = [](const Pull& x, const Pull& y) {
      return x.cost != y.cost ? x.cost < y.cost : std::pair(x.from, x.to) < std::pair(y.from, y.to);
    };
    const auto half =
        pulls.begin() + static_cast<std::ptrdiff_t>(std::ceil(kPassShare * static_cast<double>(pulls.size())));
    if (half != pulls.end()) std::nth_element(pulls.begin(), half, pulls.end(), dearer), pulls.erase(half, pulls.end());
    std::sort(pulls.begin(), pulls.end(), dearer);
    return pulls;
  }

  double cost(int from, int to) const {
    const Vec3& p = mesh_.vertices[to];
    return quadrics_[from].at(p) + quadrics_[to].at(p) +
        kShortFirst * quadrics_[from].area * (p - mesh_.vertices[from]).squaredNorm();
  }

  /// Whether this corner can go into that one and leave a surface: nothing round either has changed in this pass,
  /// the two share no neighbour but those of their edge, no triangle turns over, and nothing new joins two corners
  /// of the block's border, which another block may join as well.
  bool may_go(int from, int to) {
    for (const int v : {from, to})
      for (const int f : topo_.faces_round[v])
        if (touched_[f]) return false;
    const int ours = ++last_stamp_;
    for (const int f : topo_.faces_round[to])
      for (const int v : mesh_.triangles[f]) stamp_[v] = ours;
    int shared = 0;
    for (const int f : topo_.faces_round[from]) {
      const Tri& t = mesh_.triangles[f];
      const int k = t[0] == from ? 0 : t[1] == from ? 1 : 2;
      const int a = t[(k + 1) % 3], b = t[(k + 2) % 3];
      // Each neighbour but `to` is `a` of one triangle round a corner that is on no border.
      if (a != to && stamp_[a] == ours) ++shared;
      if (a == to || b == to) continue;
      if (locked_[to] && ((locked_[a] && stamp_[a] != ours) || (locked_[a] && locked_[b]))) return false;
      if (stamp_[a] == ours && stamp_[b] == ours) return false;
      const Vec3 &pa = mesh_.vertices[a], &pb = mesh_.vertices[b];
      const Vec3 was = (pa - mesh_.vertices[from]).cross(pb - mesh_.vertices[from]);
      const Vec3 is = (pa - mesh_.vertices[to]).cross(pb - mesh_.vertices[to]);
      if (was.dot(is) < kLeastTurn * was.norm() * is.norm()) return false;
      const double shape = shape_of(mesh_.vertices[to], pa, pb);
      if (shape < kLeastShape && shape <= shape_of(mesh_.vertices[from], pa, pb)) return false;
    }
    return shared == 2;
  }

  Mesh mesh_;
  Topology topo_;
  std::vector<int> onto_, stamp_;
  std::vector<Quadric> quadrics_;
  std::vector<char> locked_, touched_;
  int last_stamp_ = 0;
};

/// Triangles in blocks along the longest side of their mesh.
std::vector<std::vector<int>> blocks_of(const Mesh& mesh) {
  int axis = 0;
  box_of(mesh.vertices).size().maxCoeff(&axis);
  std::vector<std::pair<double, int>> order;
  order.reserve(mesh.triangles.size());
  for (int f = 0; f < static_cast<int>(mesh.triangles.size()); ++f) {
    double at = 0.0;
    for (const int v : mesh.triangles[f]) at += mesh.vertices[v][axis];
    order.emplace_back(at, f);
  }
  std::sort(order.begin(), order.end());
  std::vector<std::vector<int>> blocks((order.size() + kBlock - 1) / kBlock);
  for (std::size_t i = 0; i < order.size(); ++i) blocks[i * blocks.size() / order.size()].push_back(order[i].second);
  return blocks;
}

}  // namespace

Result<Mesh> thinned(const Mesh& mesh, int wanted, const Progress& progress) {
  if (static_cast<int>(mesh.triangles.size()) <= wanted) return mesh;
  const double share = static_cast<double>(wanted) / static_cast<double>(mesh.triangles.size());
  const auto blocks = blocks_of(mesh);
  std::vector<std::vector<Tri>> made(blocks.size());
  std::atomic<bool> stop{false};
  SideBySide told(progress, std::vector<double>(blocks.size(), 1.0));
  parallel_for(static_cast<int>(blocks.size()), [&](int b) {
    if (stop) return;
    std::vector<int> vertex_of;
    Mesh part = part_of(mesh, blocks[b], vertex_of);
    made[b] = Thinner(std::move(part)).run(static_cast<std::size_t>(share * static_cast<double>(blocks[b].size())));
    for (Tri& t : made[b])
      for (int& v : t) v = vertex_of[v];
    if (!told.of(static_cast<std::size_t>(b)).keep_going(1.0)) stop = true;
  });
  if (stop) return fail(Errc::cancelled, "Stopped; nothing was changed.");
  Mesh thin{mesh.vertices, {}};
  for (const auto& block : made) thin.triangles.insert(thin.triangles.end(), block.begin(), block.end());
  std::vector<int> all(thin.triangles.size()), vertex_of;
  std::iota(all.begin(), all.end(), 0);
  return part_of(thin, all, vertex_of);
}

}  // namespace awl
