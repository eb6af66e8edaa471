#include "bench/plan_jobs.hpp"

#include "bench/figure.hpp"
#include "core/coat/masking.hpp"
#include "core/coat/work/audit.hpp"
#include "core/coat/work/slack.hpp"
#include "tests/support/random_project.hpp"

namespace awl::bench {
namespace {

constexpr int kPlans = 200;

void schedules(const char* name, const ScheduleSearch& search) {
  int within = 0, best = 0, refused = 0;
  std::vector<double> gaps, times;
  for (int k = 0; k < kPlans; ++k) {
    const Project p = support::random_project(static_cast<std::uint64_t>(k));
    const double start = now_ms();
    const auto found = find_schedule(p, search);
    times.push_back(now_ms() - start);
    if (!found || !broken_by(p, found->schedule).empty()) {
      ++refused;
      continue;
    }
    gaps.push_back(100.0 * static_cast<double>(found->schedule.ready - found->bound) /
        static_cast<double>(std::max<Moment>(1, found->bound - p.start)));
    within += gaps.back() <= 5.0 ? 1 : 0;
    best += found->proven_best ? 1 : 0;
  }
  std::sort(gaps.begin(), gaps.end());
  std::sort(times.begin(), times.end());
  double mean = 0.0;
  for (const double g : gaps) mean += g / static_cast<double>(gaps.size());
  const std::string of = std::string("plan_") + name + "_";
  const auto tell = [&](const char* what, double value) { std::printf("%-42s\t%.3f\n", (of + what).c_str(), value); };
  tell("within_5_percent", within);
  tell("proved_best", best);
  tell("refused_by_the_audit", refused);
  tell("gap_mean_percent", mean);
  tell("gap_p90_percent", gaps[gaps.size() * 9 / 10]);
  tell("gap_worst_percent", gaps.back());
  tell("median_ms", times[times.size() / 2]);
  tell("longest_ms", times.back());
}

}  // namespace

void plan_jobs() {
  schedules("usual", {});
  schedules("longer", long_search());
  const Project p = support::random_project(5);
  const auto found = find_schedule(p);
  if (found) figure("plan_slack_of_all_ms", [&] { (void)slack_min(p, *found); });
  Random random(11);
  MaskingQuestion q;
  q.areas.resize(12);
  q.border_mm.assign(12, std::vector<double>(12, 0.0));
  q.reach_mm = q.border_mm;
  for (std::size_t i = 0; i < 12; ++i) {
    q.areas[i].sprayed = random.uniform() < 0.5;
    q.areas[i].lightness = random.uniform();
    for (std::size_t j = 0; j < i; ++j)
      q.border_mm[i][j] = q.border_mm[j][i] = random.uniform() < 0.4 ? random.uniform(20.0, 400.0) : 0.0;
  }
  figure("masking_order_12_areas_ms", [&] { (void)masking_order(q); });
}

}  // namespace awl::bench
