#include "core/seam/parting/seeds.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <queue>

namespace awl::parting {
namespace {

constexpr int kLloydRounds = 8;
constexpr double kPlaceShare = 0.84;  // where a face lies against where it looks, when starts are spread
constexpr double kPlaceWeight = 0.06;

class Seeder {
 public:
  Seeder(Patchwork& work, const std::vector<int>& faces) : work_(work), faces_(faces) {
    in_.assign(work.mesh.triangles.size(), 0);
    for (const int f : faces) in_[f] = 1;
    normal_.resize(in_.size());
    middle_.resize(in_.size());
    Vec3 centre = Vec3::Zero();
    double all = 0.0;
    for (const int f : faces) {
      const Tri& t = work.mesh.triangles[f];
      normal_[f] = area_vector(work.mesh, t).normalized();
      middle_[f] = (work.mesh.vertices[t[0]] + work.mesh.vertices[t[1]] + work.mesh.vertices[t[2]]) / 3.0;
      centre += work.area(f) * middle_[f];
      all += work.area(f);
    }
    centre /= std::max(all, 1e-12);
    double spread = 0.0;
    for (const int f : faces) spread += work.area(f) / std::max(all, 1e-12) * (middle_[f] - centre).squaredNorm();
    spread_ = std::max(spread, 1e-6);
  }

  std::vector<int> run(int count, Random* random) {
    count = std::clamp(count, 1, static_cast<int>(faces_.size()));
    start(count, random);
    for (int round = 0; round < kLloydRounds; ++round) {
      flood();
      if (round + 1 < kLloydRounds) refit();
    }
    return part();
  }

 private:
  struct Proxy {
    Vec3 normal, middle;
    int face = 0;
  };

  double far(int f, int g) const {
    return (normal_[f] - normal_[g]).squaredNorm() +
        kPlaceShare * kPlaceShare * (middle_[f] - middle_[g]).squaredNorm() / spread_;
  }

  /// Farthest from all that were taken.
  void start(int count, Random* random) {
    std::vector<double> least(in_.size(), 1e300);
    int next = random != nullptr ? faces_[static_cast<std::size_t>(random->below(faces_.size()))] : faces_.front();
    for (int k = 0; k < count; ++k) {
      proxies_.push_back({normal_[next], middle_[next], next});
      int best = faces_.front();
      for (const int f : faces_) {
        least[f] = std::min(least[f], far(f, next));
        if (least[f] > least[best]) best = f;
      }
      next = best;
    }
  }

  double error(int f, const Proxy& p) const {
    const double g = kPlaceWeight * static_cast<double>(proxies_.size()) / spread_;
    return work_.area(f) * ((normal_[f] - p.normal).squaredNorm() + g * (middle_[f] - p.middle).squaredNorm());
  }

  void flood() {
    group_.assign(in_.size(), -1);
    using Item = std::tuple<double, int, int>;
    std::priority_queue<Item, std::vector<Item>, std::greater<>> queue;
    for (int k = 0; k < static_cast<int>(proxies_.size()); ++k) queue.push({0.0, proxies_[k].face, k});
    while (!queue.empty()) {
      const auto [cost, f, k] = queue.top();
      queue.pop();
      if (group_[f] >= 0) continue;
      group_[f] = k;
      for (const int e : work_.topo.edges_of[f]) {
        const auto& edge = work_.topo.edges[e];
        const int next = edge.left == f ? edge.right : edge.left;
        if (next >= 0 && in_[next] && group_[next] < 0) queue.push({error(next, proxies_[k]), next, k});
      }
    }
    // What no flood reaches, since it hangs together with nothing, is a group of its own.
    for (const int f : faces_)
      if (group_[f] < 0) {
        const int k = static_cast<int>(proxies_.size());
        proxies_.push_back({normal_[f], middle_[f], f});
        std::vector<int> own{f};
        group_[f] = k;
        for (std::size_t i = 0; i < own.size(); ++i)
          for (const int e : work_.topo.edges_of[own[i]]) {
            const auto& edge = work_.topo.edges[e];
            const int next = edge.left == own[i] ? edge.right : edge.left;
            if (next >= 0 && in_[next] && group_[next] < 0) group_[next] = k, own.push_back(next);
          }
      }
  }

  void refit() {
    std::vector<double> all(proxies_.size(), 0.0), least(proxies_.size(), 1e300);
    for (Proxy& p : proxies_) p.normal = p.middle = Vec3::Zero();
    for (const int f : faces_) {
      Proxy& p = proxies_[static_cast<std::size_t>(group_[f])];
      p.normal += work_.area(f) * normal_[f];
      p.middle += work_.area(f) * middle_[f];
      all[static_cast<std::size_t>(group_[f])] += work_.area(f);
    }
    for (std::size_t k = 0; k < proxies_.size(); ++k) {
      proxies_[k].normal.normalize();
      proxies_[k].middle /= std::max(all[k], 1e-12);
    }
    for (const int f : faces_) {
      const auto k = static_cast<std::size_t>(group_[f]);
      const double e = error(f, proxies_[k]) / std::max(work_.area(f), 1e-12);
      if (e < least[k]) least[k] = e, proxies_[k].face = f;
    }
  }

  std::vector<int> part() {
    for (const int f : faces_)
      for (const int e : work_.topo.edges_of[f]) {
        const auto& edge = work_.topo.edges[e];
        if (work_.mirror[e]) work_.cut[e] = 1;
        if (edge.right < 0 || !in_[edge.left] || !in_[edge.right]) continue;
        work_.cut[e] = group_[edge.left] != group_[edge.right];
      }
    std::vector<int> made;
    for (const int id : work_.patches_from(faces_)) {
      if (work_.copy_of(work_.patches.at(id).faces).disk) {
        made.push_back(id);
        continue;
      }
      open(work_.patches.at(id).faces);
      if (work_.copy_of(work_.patches.at(id).faces).disk)
        made.push_back(id);
      else
        for (const int half : halved(id)) made.push_back(half);
    }
    return made;
  }

  /// What is closed all round, and so has no tree to be opened along, in two halves across its longest way.
  std::vector<int> halved(int patch) {
    const std::vector<int> faces = work_.patches.at(patch).faces;
    Box box;
    Vec3 middle = Vec3::Zero();
    for (const int f : faces) {
      box.include(middle_[f]);
      middle += middle_[f] / static_cast<double>(faces.size());
    }
    Eigen::Index axis = 0;
    box.size().maxCoeff(&axis);
    std::set<int> own(faces.begin(), faces.end());
    const auto above = [&](int f) { return middle_[f][axis] > middle[axis]; };
    for (const int f : faces)
      for (const int e : work_.topo.edges_of[f]) {
        const auto& edge = work_.topo.edges[e];
        if (edge.right >= 0 && own.count(edge.left) != 0 && own.count(edge.right) != 0 &&
            above(edge.left) != above(edge.right))
          work_.cut[e] = 1;
      }
    work_.patches.erase(patch);
    const auto parts = work_.patches_from(faces);
    for (const int id : parts)
      if (!work_.copy_of(work_.patches.at(id).faces).disk) open(work_.patches.at(id).faces);
    return parts;
  }

  /// Every edge outside a tree over the faces is cut, then ends that lead nowhere are mended.
  void open(const std::vector<int>& faces) {
    std::set<int> own(faces.begin(), faces.end());
    Vec3 centre = Vec3::Zero();
    for (const int f : faces) centre += middle_[f] / static_cast<double>(faces.size());
    int root = faces.front();
    for (const int f : faces)
      if ((middle_[f] - centre).squaredNorm() < (middle_[root] - centre).squaredNorm()) root = f;
    std::set<int> crossed, reached{root};
    std::vector<int> queue{root};
    for (std::size_t i = 0; i < queue.size(); ++i)
      for (const int e : work_.topo.edges_of[queue[i]]) {
        const auto& edge = work_.topo.edges[e];
        const int next = edge.left == queue[i] ? edge.right : edge.left;
        if (work_.cut[e] || next < 0 || own.count(next) == 0 || !reached.insert(next).second) continue;
        crossed.insert(e);
        queue.push_back(next);
      }
    std::map<int, std::vector<int>> round;
    std::vector<int> tips;
    for (const int f : faces)
      for (const int e : work_.topo.edges_of[f]) {
        const auto& edge = work_.topo.edges[e];
        if (edge.left != f || edge.right < 0 || work_.cut[e] || crossed.count(e) != 0) continue;
        work_.cut[e] = 1;
        for (const int v : {edge.a, edge.b}) round[v].push_back(e);
      }
    for (const auto& [v, edges] : round) tips.push_back(v);
    while (!tips.empty()) {
      const int v = tips.back();
      tips.pop_back();
      if (work_.cut_degree(v) != 1) continue;
      for (const int e : round[v])
        if (work_.cut[e]) {
          work_.cut[e] = 0;
          const auto& edge = work_.topo.edges[e];
          tips.push_back(edge.a == v ? edge.b : edge.a);
          break;
        }
    }
  }

  Patchwork& work_;
  const std::vector<int>& faces_;
  std::vector<char> in_;
  std::vector<Vec3> normal_, middle_;
  double spread_ = 1.0;
  std::vector<Proxy> proxies_;
  std::vector<int> group_;
};

}  // namespace

std::vector<int> seed(Patchwork& work, const std::vector<int>& faces, int count, Random* random) {
  for (const int f : faces) work.patches.erase(work.patch_of[f]);
  return Seeder(work, faces).run(count, random);
}

}  // namespace awl::parting
