#include "core/seam/parting/joining.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"

namespace awl::parting {
namespace {

constexpr double kArcWorth = 0.3, kImageWorth = 0.2, kCrumbWorth = 2.0;
constexpr double kCrumbMm2 = 400.0;
constexpr std::size_t kTriedArcs = 2;
constexpr int kJoinSteps = 6;
constexpr double kLeastSlitMm = 20.0;
constexpr std::size_t kTriedAtOnce = 4;
constexpr int kMostFinishes = 100;     // after so many no more slits are tried
constexpr double kLargestSlit = 0.35;  // of the whole: beyond it a piece is more slit than panel

std::vector<int> faces_of(const Patchwork& work, const Arc& arc) {
  std::vector<int> faces = work.patches.at(arc.one).faces;
  if (arc.other != 0) {
    const auto& more = work.patches.at(arc.other).faces;
    faces.insert(faces.end(), more.begin(), more.end());
    std::sort(faces.begin(), faces.end());
  }
  return faces;
}

LocalCopy joined_copy(const Patchwork& work, const Arc& arc) {
  return work.copy_of(faces_of(work, arc), std::set<int>(arc.edges.begin(), arc.edges.end()));
}

double smaller_mm2(const Patchwork& work, const Arc& arc) {
  const double one = work.patches.at(arc.one).area_mm2;
  return arc.other == 0 ? one : std::min(one, work.patches.at(arc.other).area_mm2);
}

bool is_fold(const Arc& arc) { return arc.folded_mm > 0.5 * arc.length_mm; }

}  // namespace

Joiner::Key Joiner::key_of(const Arc& arc) {
  return {
      arc.one, arc.other, std::min(arc.edges.front(), arc.edges.back()), std::max(arc.edges.front(), arc.edges.back())};
}

const std::vector<Arc>& Joiner::arcs_of(const Patchwork& work, int one, int other) {
  const auto [at, fresh] = arcs_.try_emplace({one, other});
  if (fresh) at->second = work.arcs(one, other);
  return at->second;
}

/// Where a patch was joined, arcs of its neighbours among each other may have grown.
void Joiner::forget_round(const Patchwork& work, int patch) {
  std::set<int> near{patch};
  for (const int f : work.patches.at(patch).faces)
    for (const int v : work.mesh.triangles[f])
      for (const int g : work.topo.faces_round[v]) near.insert(work.patch_of[g]);
  std::erase_if(arcs_, [&](const auto& entry) {
    const auto& [one, other] = entry.first;
    return near.count(one) != 0 && (other == 0 || near.count(other) != 0);
  });
}

void Joiner::measure(Patchwork& work, const std::vector<int>& patches, double limit) {
  std::vector<Judged> judged(patches.size());
  parallel_for(static_cast<int>(patches.size()), [&](int i) {
    const auto k = static_cast<std::size_t>(i);
    judged[k] = judge_rigid(work.copy_of(work.patches.at(patches[k]).faces), limit);
  });
  for (std::size_t k = 0; k < patches.size(); ++k) {
    Patch& p = work.patches.at(patches[k]);
    p.rigid = judged[k].rigid;
    p.bad = judged[k].bad;
    p.finish = -1.0;
  }
}

bool Joiner::run(Patchwork& work, const JoinRule& rule, const Progress& progress) {
  arcs_.clear();
  const std::size_t at_first = work.patches.size();
  auto pairs = work.neighbours();
  while (true) {
    if (!progress.keep_going(1.0 - static_cast<double>(work.patches.size()) / std::max<std::size_t>(1, at_first)))
      return false;
    std::vector<const Arc*> arcs, unknown;
    for (const auto& [a, b] : pairs) {
      const int one = a == 0 ? b : a, other = a == 0 ? 0 : b;
      if (rule.allowed && !rule.allowed(one, other)) continue;
      if (other == 0 && work.patches.at(one).sewn) continue;
      const auto& runs = arcs_of(work, one, other);
      for (std::size_t k = 0; k < std::min(kTriedArcs, runs.size()); ++k) {
        if (is_fold(runs[k])) continue;
        arcs.push_back(&runs[k]);
        if (known_.count(key_of(runs[k])) == 0) unknown.push_back(&runs[k]);
      }
    }
    std::vector<Judged> judged(unknown.size());
    parallel_for(static_cast<int>(unknown.size()), [&](int i) {
      const auto k = static_cast<std::size_t>(i);
      judged[k] = judge_rigid(joined_copy(work, *unknown[k]), rule.limit);
    });
    for (std::size_t k = 0; k < unknown.size(); ++k) known_[key_of(*unknown[k])] = judged[k];
    const Arc* best = nullptr;
    double least = 1e300;
    for (const Arc* arc : arcs) {
      const Judged& j = known_.at(key_of(*arc));
      if (j.bad || j.rigid > rule.limit) continue;
      const double small = smaller_mm2(work, *arc);
      double score = j.rigid / rule.limit - kArcWorth * arc->cost_mm / std::sqrt(std::max(small, 1.0));
      if (arc->other == 0) score -= kImageWorth;
      if (small < kCrumbMm2) score -= kCrumbWorth;
      if (rule.random != nullptr && rule.noise > 0.0) score += rule.noise * rule.random->normal();
      if (score < least) least = score, best = arc;
    }
    if (best == nullptr) return true;
    const Judged kept = known_.at(key_of(*best));
    const int made = work.join(Arc(*best));
    work.patches.at(made).rigid = kept.rigid;
    work.patches.at(made).bad = kept.bad;
    forget_round(work, made);
    pairs = work.neighbours();
  }
}

bool Joiner::run_by_finish(Patchwork& work, double tolerance, bool slits, const Progress& progress, double crumbs_mm2) {
  const double limit = tolerance / 0.66;
  int finishes = 0;
  struct Offer {
    Arc arc;
    double rank;
  };
  std::set<Key> refused;
  for (bool any = true; any;) {
    any = false;
    arcs_.clear();
    std::vector<Offer> offers;
    for (const auto& [a, b] : work.neighbours()) {
      const int one = a == 0 ? b : a, other = a == 0 ? 0 : b;
      if (other == 0 && work.patches.at(one).sewn) continue;
      const auto runs = work.arcs(one, other);
      for (std::size_t k = 0; k < std::min(kTriedArcs, runs.size()); ++k) {
        const Arc& whole = runs[k];
        if (std::any_of(whole.edges.begin(), whole.edges.end(), [&](int e) { return work.stays_cut.count(e) != 0; }))
          continue;
        const double small = smaller_mm2(work, whole);
        if (crumbs_mm2 > 0.0 ? small >= crumbs_mm2 : is_fold(whole)) continue;
        const double least = std::max(kLeastSlitMm, 0.3 * std::sqrt(small));
        offers.push_back({whole, -whole.cost_mm});
        const std::size_t n = whole.edges.size();
        double joint = work.patches.at(one).area_mm2;
        if (other != 0) joint += work.patches.at(other).area_mm2;
        const bool large = joint > kLargestSlit * (work.is_half() ? 0.5 : 1.0) * work.whole_area();
        for (const double share : {0.75, 0.5, 0.3}) {
          const auto count = static_cast<std::size_t>(share * static_cast<double>(n));
          if (!slits || large || k > 0 || count < 2 || share * whole.length_mm < least) continue;
          for (const std::size_t from : {std::size_t{0}, (n - count) / 2, n - count}) {
            Arc part{one, other, {}, share * whole.length_mm, share * whole.cost_mm, 0.0};
            part.edges.assign(whole.edges.begin() + static_cast<std::ptrdiff_t>(from),
                whole.edges.begin() + static_cast<std::ptrdiff_t>(from + count));
            offers.push_back({std::move(part), 1e6 - share * whole.cost_mm});
          }
        }
      }
    }
    std::stable_sort(offers.begin(), offers.end(), [](const Offer& x, const Offer& y) { return x.rank < y.rank; });
    // So many at a time, and the first in rank that lies well: the same whatever the cores.
    std::erase_if(offers, [&](const Offer& o) {
      return refused.count(key_of(o.arc)) != 0 || (o.rank > 0.0 && finishes > kMostFinishes);
    });
    for (std::size_t from = 0; from < offers.size() && !any; from += kTriedAtOnce) {
      if (!progress.keep_going(0.5)) return false;
      const std::size_t count = std::min(kTriedAtOnce, offers.size() - from);
      std::vector<Judged> rigid(count), finish(count);
      parallel_for(static_cast<int>(count), [&](int i) {
        const auto k = static_cast<std::size_t>(i);
        const Arc& arc = offers[from + k].arc;
        const LocalCopy copy = joined_copy(work, arc);
        const auto at = known_.find(key_of(arc));
        rigid[k] = at != known_.end() ? at->second : judge_rigid(copy, limit);
        const double most = (smaller_mm2(work, arc) < kCrumbMm2   ? 4.0
                                    : offers[from + k].rank > 0.0 ? 1.2
                                                                  : 1.5) *
            limit;
        if (rigid[k].rigid < most) finish[k] = judge_finish(copy, kJoinSteps);
      });
      for (std::size_t k = 0; k < count; ++k) {
        const Arc& arc = offers[from + k].arc;
        known_[key_of(arc)] = rigid[k];
        finishes += finish[k].rigid < 1e8 ? 1 : 0;
        if (finish[k].bad || finish[k].rigid > tolerance) {
          refused.insert(key_of(arc));
          continue;
        }
        Patch& p = work.patches.at(work.join(Arc(arc)));
        p.rigid = rigid[k].rigid;
        p.finish = finish[k].rigid;
        p.bad = false;
        any = true;
        break;
      }
    }
  }
  return true;
}

}  // namespace awl::parting
