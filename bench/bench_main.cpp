// Prints the figures the product is held to, each line: name <tab> value. Ratios against CGAL come from one run.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>

#include "bench/cgal_flatten.hpp"
#include "core/base/data_files.hpp"
#include "core/builds/chain.hpp"
#include "core/geom/iso_surface.hpp"
#include "core/geom/remesh.hpp"

namespace {

using namespace awl;

double median_ms(int rounds, const std::function<void()>& work) {
  std::vector<double> times;
  for (int i = 0; i < rounds; ++i) {
    const auto start = std::chrono::steady_clock::now();
    work();
    times.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
  }
  std::sort(times.begin(), times.end());
  return times[times.size() / 2];
}

void figure(const char* name, double value) { std::printf("%-42s\t%.3f\n", name, value); }

Mesh quarter_gore(double edge_mm) {
  RemeshGoal goal;
  goal.edge_mm = [=](const Vec3&) { return edge_mm; };
  goal.project = [](const Vec3& p, bool) { return Vec3(100.0 * p.normalized()); };
  Mesh m = remesh(*iso_surface(grid_over(Vec3::Constant(-115), Vec3::Constant(115), std::max(2.0, edge_mm)), [](const Vec3& p) { return p.norm() - 100.0; }), goal);
  EdgeLabels held;
  for (const auto& f : {std::function<double(const Vec3&)>([](const Vec3& p) { return p.y(); }), {[](const Vec3& p) { return p.x(); }}, {[](const Vec3& p) { return p.z(); }}}) {
    split_along(m, f, held);
    m = keep_where(m, f, held);
  }
  return m;
}

void bench_fit(const Chain& chain) {
  const HeadFitter& fitter = chain.fitter();
  double cold = 0.0, warm = 0.0;
  for (int n = 0; n < 40; ++n) {
    MeasureSet set = demo_build(Day{0}).tape.measures().set;
    set[MeasureId::HC] = 540.0 + 2.0 * n;
    set[MeasureId::HL] = 186.0 + 0.7 * n;
    set[MeasureId::HB] = 148.0 + 0.4 * n;
    const auto form = fitter.fit(set);
    cold += median_ms(3, [&] { (void)fitter.fit(set); }) / 40.0;
    set[MeasureId::HC] += 1.0;
    warm += median_ms(3, [&] { (void)fitter.fit(set, &form->coefficients); }) / 40.0;
  }
  figure("fit_cold_six_measures_ms", cold);
  figure("fit_warm_six_measures_ms", warm);
}

void bench_flatten(double edge_mm) {
  const Mesh m = quarter_gore(edge_mm);
  const int rounds = m.triangles.size() > 5000 ? 3 : 7;
  std::vector<Vec2> uv;
  const auto own = [&](bool minimax) {
    return median_ms(rounds, [&] {
      auto f = Flattener::of(m);
      FlattenOptions options;
      options.minimax = minimax;
      (void)f->flatten(options);
      uv = f->uv();
    });
  };
  const double rigid_ms = own(false);
  const Strain rigid = summarise(m, uv);
  const double even_ms = own(true);
  const Strain even = summarise(m, uv);
  std::vector<Vec2> theirs;
  const double cgal_ms = median_ms(1, [&] { theirs = bench::cgal_as_rigid_as_possible(m); });
  const Strain cgal = summarise(m, theirs);
  std::printf("\nquarter gore of a hemisphere, %zu triangles\n", m.triangles.size());
  figure("  own_rigid_ms", rigid_ms);
  figure("  own_rigid_worst_percent", 100 * rigid.max);
  figure("  own_rigid_mean_percent", 100 * rigid.mean);
  figure("  own_even_ms", even_ms);
  figure("  own_even_worst_percent", 100 * even.max);
  figure("  own_even_p99_percent", 100 * even.p99);
  figure("  cgal_rigid_ms", cgal_ms);
  figure("  cgal_rigid_worst_percent", 100 * cgal.max);
  figure("  cgal_rigid_mean_percent", 100 * cgal.mean);
  figure("  time_ratio_cgal_over_own_rigid", cgal_ms / rigid_ms);
}

void bench_chain(const Chain& chain) {
  Build build = demo_build(Day{20000});
  const Derived first = chain.derive(build);
  double step = 0.0;
  const double regrade = median_ms(9, [&] {
    build.tape.set(MeasureId::HC, 572.0 + (step += 2.0));
    (void)chain.derive(build);
  });
  figure("regrade_demo_one_measure_ms", regrade);
  double worst = 0.0, seams = 0.0;
  for (const Panel& p : first.panels->panels) worst = std::max(worst, p.strain.p99);
  for (const Seam& s : first.panels->seams) seams = std::max(seams, std::abs(s.side_mm[0] - s.side_mm[1]));
  figure("demo_worst_strain_p99_percent", 100 * worst);
  figure("demo_seam_sides_differ_by_at_most_mm", seams);
  figure("demo_least_clearance_mm", first.form->clearance.least_mm);
  figure("demo_sheet_density_percent", 100 * first.layout->density);
  const double nest_ms = median_ms(5, [&] { (void)nest(*first.pieces, build.foam.sheet); });
  figure("nest_demo_ms", nest_ms);
}

}  // namespace

int main() {
  std::shared_ptr<const Chain> chain;
  figure("load_ms", median_ms(3, [&] { chain = *Chain::load(data_folder()); }));
  bench_fit(*chain);
  bench_chain(*chain);
  for (const double edge : {14.0, 7.0, 4.0, 2.2}) bench_flatten(edge);
  return 0;
}
