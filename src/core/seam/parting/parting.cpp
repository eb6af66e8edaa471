#include "core/seam/parting/parting.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/seam/parting/joining.hpp"
#include "core/seam/parting/opening.hpp"
#include "core/seam/parting/seeds.hpp"
#include "core/seam/parting/straighten.hpp"

namespace awl::parting {
namespace {

// Workshop values.
constexpr double kFinishShare = 0.66;  // what the finish leaves of a rigid map's strain
constexpr int kSlides = 8, kSearchSteps = 5, kFullSteps = 12;
constexpr double kSmallPanelMm2 = 400.0, kDealtMm2 = 200.0, kCrumbOver = 1.05;
constexpr int kOpenings = 40, kLastRounds = 3;

double strain_of(const Patch& p) { return p.bad ? 1.0 : p.finish >= 0.0 ? p.finish : kFinishShare * p.rigid; }

class Parter {
 public:
  Parter(const PartingOptions& options, Patchwork work, const Progress& progress)
      : options_(options), progress_(progress), work_(std::move(work)), surface_(work_.mesh), random_(options.seed),
        limit_(options.tolerance / kFinishShare) {}

  Result<Patchwork> run() {
    std::vector<int> all(work_.mesh.triangles.size());
    for (std::size_t f = 0; f < all.size(); ++f) all[f] = static_cast<int>(f);
    const auto seeds = seed(work_, all, work_.is_half() ? options_.seeds / 2 : options_.seeds);
    joiner_.measure(work_, seeds, limit_);
    if (!joiner_.run(work_, {limit_, 0.0, nullptr, {}}, progress_.span(0.0, 0.15))) return stopped();
    smooth_all();
    if (!joiner_.run(work_, {limit_, 0.0, nullptr, {}}, progress_.span(0.2, 0.25))) return stopped();
    finish(ids(), kSearchSteps);
    for (int round = 0; round < options_.rounds; ++round) {
      if (!progress_.keep_going(0.25 + 0.5 * round / options_.rounds)) return stopped();
      search();
    }
    return settle(0.75);
  }

  /// Opens what is over, joins what the finish allows, and measures to the end.
  Result<Patchwork> settle(double from) {
    for (int round = 0; round < kLastRounds; ++round) {
      if (!progress_.keep_going(from + (1.0 - from) * round / kLastRounds)) return stopped();
      open_all();
      if (!joiner_.run_by_finish(work_, options_.tolerance, options_.slits, progress_.span(from, 1.0)))
        return stopped();
      if (!deal_crumbs()) return stopped();
      finish(ids(), kFullSteps);
      if (worst_of(work_) <= options_.tolerance) break;
    }
    return std::move(work_);
  }

  Result<Patchwork> again() {
    // New numbers: what was found of the old ones was of other places.
    for (const int id : ids()) {
      auto faces = work_.patches.at(id).faces;
      work_.patches.erase(id);
      work_.set_patch(std::move(faces));
    }
    joiner_.measure(work_, ids(), limit_);
    finish(ids(), kFullSteps);
    return settle(0.1);
  }

  Result<Patchwork> dealt() {
    if (!deal_crumbs()) return stopped();
    return std::move(work_);
  }

 private:
  static tl::unexpected<Error> stopped() { return fail(Errc::cancelled, "Stopped."); }
  std::vector<int> ids() const {
    std::vector<int> list;
    for (const auto& [id, patch] : work_.patches) list.push_back(id);
    return list;
  }

  void finish(const std::vector<int>& patches, int steps) {
    std::vector<Judged> judged(patches.size());
    parallel_for(static_cast<int>(patches.size()), [&](int i) {
      const auto k = static_cast<std::size_t>(i);
      judged[k] = judge_finish(work_.copy_of(work_.patches.at(patches[k]).faces), steps);
    });
    for (std::size_t k = 0; k < patches.size(); ++k) {
      Patch& p = work_.patches.at(patches[k]);
      p.finish = judged[k].rigid;
      p.bad = judged[k].bad;
    }
  }

  void smooth_all() {
    const auto now = ids();
    straighten(work_, {now.begin(), now.end()}, limit_);
    const auto then = ids();
    joiner_.measure(work_, slide(work_, surface_, {then.begin(), then.end()}, kSlides), limit_);
  }

  double cost() const {
    double sum = work_.panels() + work_.seam_mm() / std::sqrt(std::max(1.0, work_.whole_area()));
    for (const auto& [id, p] : work_.patches) {
      const double copies = work_.is_half() && !p.sewn ? 2.0 : 1.0;
      const double over = strain_of(p) / options_.tolerance - 1.0;
      if (p.bad)
        sum += 6.0 * copies;
      else if (over > 0.0)
        sum += copies * (1.2 + 2.5 * std::min(1.5, over));
      const double area = (p.sewn ? 2.0 : 1.0) * p.area_mm2;
      if (area < kSmallPanelMm2) sum += copies * (1.0 - 0.7 * area / kSmallPanelMm2);
    }
    return sum;
  }

  /// A patch that is over, three times in four; else any, small ones sooner.
  int pick() {
    std::vector<int> over;
    std::vector<std::pair<int, double>> weights;
    double all = 0.0;
    for (const auto& [id, p] : work_.patches) {
      if (strain_of(p) > options_.tolerance) over.push_back(id);
      weights.push_back({id, 1.0 / std::sqrt(std::max(100.0, p.area_mm2))});
      all += weights.back().second;
    }
    if (!over.empty() && random_.below(4) != 0) return over[static_cast<std::size_t>(random_.below(over.size()))];
    double at = random_.uniform(0.0, all);
    for (const auto& [id, w] : weights)
      if ((at -= w) <= 0.0) return id;
    return weights.back().first;
  }

  std::vector<int> beside(int patch) const {
    std::set<int> near;
    for (const int f : work_.patches.at(patch).faces)
      for (const int e : work_.topo.edges_of[f]) {
        const auto& edge = work_.topo.edges[e];
        const int next = edge.left == f ? edge.right : edge.left;
        if (next >= 0 && work_.patch_of[next] != patch) near.insert(work_.patch_of[next]);
      }
    return {near.begin(), near.end()};
  }

  /// Takes a few patches apart, joins them anew, and keeps what comes of it if it costs less.
  void search() {
    const Patchwork before = work_;
    const double was = cost();
    const int first = pick();
    const bool bad = strain_of(work_.patches.at(first)) > options_.tolerance;
    std::set<int> apart{first};
    const auto near = beside(first);
    for (int k = random_.below(4); k > 0 && !near.empty(); --k)
      apart.insert(near[static_cast<std::size_t>(random_.below(near.size()))]);
    std::vector<int> faces;
    for (const int id : apart) {
      const auto& own = work_.patches.at(id).faces;
      faces.insert(faces.end(), own.begin(), own.end());
    }
    std::sort(faces.begin(), faces.end());
    const int count = static_cast<int>(apart.size()) * (2 + random_.below(5));
    const double limit = limit_ * (bad ? random_.uniform(0.55, 1.25) : random_.uniform(0.75, 1.4));
    std::set<int> fresh;
    for (const int id : seed(work_, faces, count, &random_)) fresh.insert(id);
    joiner_.measure(work_, {fresh.begin(), fresh.end()}, limit);
    const std::set<int> others = all_but(fresh);
    joiner_.run(work_, {limit, 0.35, &random_, [&](int one, int other) {
                          return others.count(one) == 0 && others.count(other) == 0;
                        }});
    joiner_.run(work_, {limit, 0.0, nullptr, [&](int one, int other) {
                          return others.count(one) == 0 || (other != 0 && others.count(other) == 0);
                        }});
    std::set<int> changed = new_since(before);
    straighten(work_, changed, limit_);
    changed = new_since(before);
    const auto slid = slide(work_, surface_, changed, kSlides);
    joiner_.measure(work_, slid, limit_);
    if (cost() > was + 1.0) {  // what the finish can still bring is less
      work_ = before;
      return;
    }
    finish(slid, kSearchSteps);
    if (!(cost() < was - 1e-9)) work_ = before;
  }

  std::set<int> all_but(const std::set<int>& some) const {
    std::set<int> rest;
    for (const auto& [id, p] : work_.patches)
      if (some.count(id) == 0) rest.insert(id);
    return rest;
  }
  std::set<int> new_since(const Patchwork& before) const {
    std::set<int> fresh;
    for (const auto& [id, p] : work_.patches)
      if (before.patches.count(id) == 0) fresh.insert(id);
    return fresh;
  }

  /// Crumbs go to their neighbours whole, or triangle by triangle; what none takes stays. False if cancelled.
  bool deal_crumbs() {
    if (!joiner_.run_by_finish(work_, kCrumbOver * options_.tolerance, false, progress_.span(0.9, 0.95), kDealtMm2))
      return false;
    const Patchwork before = work_;
    std::vector<int> crumbs;
    for (const auto& [id, p] : work_.patches)
      if (p.area_mm2 < kDealtMm2 && p.faces.size() > 1) crumbs.push_back(id);
    if (crumbs.empty()) return true;
    for (const int id : crumbs) {
      const auto faces = work_.patches.at(id).faces;
      work_.patches.erase(id);
      for (const int f : faces)
        for (const int e : work_.topo.edges_of[f]) work_.cut[e] = 1;
      for (const int f : faces) work_.patches.at(work_.set_patch({f})).bad = false;
    }
    if (!joiner_.run_by_finish(work_, kCrumbOver * options_.tolerance, false, progress_.span(0.95, 1.0), kDealtMm2))
      return false;
    if (work_.patches.size() >= before.patches.size()) work_ = before;
    return true;
  }

  void open_all() {
    std::set<int> given_up;
    for (int k = 0; k < kOpenings; ++k) {
      int worst = 0;
      for (const auto& [id, p] : work_.patches)
        if (strain_of(p) > options_.tolerance && given_up.count(id) == 0 &&
            (worst == 0 || strain_of(p) > strain_of(work_.patches.at(worst))))
          worst = id;
      if (worst == 0) return;
      const auto made = open_hot(work_, worst, options_.tolerance, options_.slits);
      if (made.empty()) {
        given_up.insert(worst);
        continue;
      }
    }
  }

  const PartingOptions options_;
  const Progress progress_;
  Patchwork work_;
  const Nearest surface_;
  Joiner joiner_;
  Random random_;
  double limit_;
};

}  // namespace

Result<Patchwork> settled(Patchwork work, const PartingOptions& options, const Progress& progress) {
  std::vector<int> all(work.mesh.vertices.size());
  for (std::size_t v = 0; v < all.size(); ++v) all[v] = static_cast<int>(v);
  work.moved(all);
  return Parter(options, std::move(work), progress).again();
}

Result<Patchwork> without_crumbs(Patchwork work, const PartingOptions& options, const Progress& progress) {
  return Parter(options, std::move(work), progress).dealt();
}

double worst_of(const Patchwork& work) {
  double worst = 0.0;
  for (const auto& [id, p] : work.patches) worst = std::max(worst, strain_of(p));
  return worst;
}

Result<Patchwork> part_surface(Mesh surface, bool mirrored, const std::function<double(const Vec3&)>& weight,
    const PartingOptions& options, const Progress& progress) {
  if (surface.triangles.empty()) return fail(Errc::empty_input, "There is no surface to part.");
  Patchwork work(std::move(surface), mirrored, weight);
  work.sews = options.sews;
  return Parter(options, std::move(work), progress).run();
}

}  // namespace awl::parting
