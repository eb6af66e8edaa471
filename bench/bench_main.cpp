// Prints the figures the product is held to, each line: name <tab> value. Ratios against CGAL come from one run.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>
#include <string>

#include "bench/cgal_flatten.hpp"
#include "bench/mesh_jobs.hpp"
#include "bench/nest_jobs.hpp"
#include "bench/pair_jobs.hpp"
#include "bench/dress_jobs.hpp"
#include "bench/plan_jobs.hpp"
#include "bench/worn_jobs.hpp"
#include "core/base/data_files.hpp"
#include "core/base/random.hpp"
#include "core/chain/chain.hpp"
#include "core/chain/corrected.hpp"
#include "core/chain/glued.hpp"
#include "core/geom/iso_surface.hpp"
#include "core/geom/nearest.hpp"
#include "core/geom/remesh.hpp"
#include "core/piece/fair_outlines.hpp"
#include "core/seam/darts.hpp"
#include "core/seam/suggest.hpp"

namespace {

using namespace awl;

double now_ms() {
  return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

double median_ms(int rounds, const std::function<void()>& work) {
  std::vector<double> times;
  for (int i = 0; i < rounds; ++i) {
    const double start = now_ms();
    work();
    times.push_back(now_ms() - start);
  }
  std::sort(times.begin(), times.end());
  return times[times.size() / 2];
}

void figure(const std::string& name, double value) { std::printf("%-42s\t%.3f\n", name.c_str(), value); }

Mesh quarter_gore(double edge_mm) {
  RemeshGoal goal;
  goal.edge_mm = [=](const Vec3&) { return edge_mm; };
  goal.project = [](const Vec3& p, bool) { return Vec3(100.0 * p.normalized()); };
  Mesh m = remesh(*iso_surface(grid_over(Vec3::Constant(-115), Vec3::Constant(115), std::max(2.0, edge_mm)),
                      [](const Vec3& p) { return p.norm() - 100.0; }),
      goal);
  EdgeLabels held;
  for (const auto& f : {std::function<double(const Vec3&)>([](const Vec3& p) { return p.y(); }),
           {[](const Vec3& p) { return p.x(); }}, {[](const Vec3& p) { return p.z(); }}}) {
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

/// Turning dials of the showpiece: until its form is there, and until everything behind it is. Cards show at once as
/// they lie on the head (a few lines); the tape over them follows.
void bench_forms(const Chain& chain) {
  Build build = *demo_by_name("heron-warden", Day{20000});
  (void)chain.derive(build);
  const auto turned = [&](int part, const char* dial, double step, const char* name) {
    double now = *dial_value(*find_part(build, part), dial);
    std::vector<double> form_ms;
    const double all = median_ms(5, [&] {
      build = *turn_dial(build, part, dial, now += step);
      double at = 0.0;
      const double start = now_ms();
      (void)chain.derive(build, {}, [&](const Derived& d) {
        if (d.form && at == 0.0) at = now_ms() - start;
      });
      form_ms.push_back(at);
    });
    std::sort(form_ms.begin(), form_ms.end());
    figure(std::string("form_") + name + "_ms", form_ms[form_ms.size() / 2]);
    figure(std::string("form_") + name + "_with_pieces_and_sheets_ms", all);
  };
  turned(3, "length", 3.0, "crest_length");
  turned(1, "padding", 0.5, "cowl_padding");
  turned(2, "card1.reach", 2.0, "beak_card");
  turned(1, "card1.reach", 1.0, "brow_card_of_whole_cowl");
  double head = 572.0;
  figure("regrade_showpiece_one_measure_ms", median_ms(5, [&] {
    build.tape.set(MeasureId::HC, head += 2.0);
    (void)chain.derive(build);
  }));
  // What shows while a card is dragged: the card as it lies on this head.
  const Derived shown = chain.derive(build);
  figure("form_card_preview_ms", median_ms(9, [&] {
    for (const Card& card : wrap_of(build).cards) {
      const Mesh half = shape_of(card).half;
      (void)Riders(half.vertices, std::vector<double>(half.vertices.size(), 0.0)).carried(shown.head->coefficients);
    }
  }));
  int unsound = 0;
  double worst = 0.0;
  for (const DemoEntry& entry : demo_gallery()) {
    const Derived d = chain.derive(entry.make(Day{20000}));
    unsound += d.complete() ? 0 : 1;
    for (const Panel& p : d.panels ? d.panels->panels : std::vector<Panel>{}) worst = std::max(worst, p.strain.p99);
  }
  figure("demo_builds_not_complete", unsound);
  figure("demo_builds_worst_strain_p99_percent", 100.0 * worst);
}

/// The showpiece glued up from its flat pieces, part by part, and what that came to.
void bench_glue(const Chain& chain) {
  const Build build = *demo_by_name("heron-warden", Day{20000});
  const Derived d = chain.derive(build);
  GluedForm made;
  figure(
      "glue_showpiece_ms", median_ms(1, [&] { made = glue_form(d, build, chain.materials()).value_or(GluedForm{}); }));
  figure("glue_showpiece_p95_mm", made.p95_mm), figure("glue_showpiece_most_mm", made.most_mm);
  CorrectedForm corrected;
  figure("correct_showpiece_ms", median_ms(1, [&] {
    corrected = correct_outlines(d, build, chain.materials(), 0, false).value_or(CorrectedForm{});
  }));
  for (const Correction& c : corrected.corrections) {
    const std::string part = "correct_showpiece_part_" + std::to_string(c.part);
    figure(part + "_p95_before_mm", c.before_mm), figure(part + "_p95_after_mm", c.after_mm);
  }
}

/// Outlines as cubics: of all demos how many, how long it takes, and how far off the flat panels.
void bench_outlines(const Chain& chain) {
  int cubics = 0;
  std::size_t chords = 0;
  double ms = 0.0, uneven = 0.0;
  std::vector<double> off;
  for (const DemoEntry& entry : demo_gallery()) {
    const Derived d = chain.derive(entry.make(Day{20000}));
    if (!d.panels) continue;
    FairOutlines fair;
    ms += median_ms(3, [&] { fair = fair_outlines(*d.panels); });
    uneven = std::max(uneven, fair.uneven_mm);
    for (std::size_t p = 0; p < fair.panels.size(); ++p) {
      const Panel& panel = d.panels->panels[p];
      if (panel.mirror_of) continue;
      chords += panel.border.size();
      for (const FairStretch& s : fair.panels[p].stretches) {
        cubics += static_cast<int>(s.curve.size());
        for (std::size_t k = 0; k < s.count; ++k)
          off.push_back(
              (at_length(s.curve, s.at_mm[k]).at - panel.flat[panel.border[(s.first + k) % panel.border.size()].a])
                  .norm());
      }
    }
  }
  std::sort(off.begin(), off.end());
  figure("outlines_ms", ms), figure("outlines_cubics", cubics), figure("outlines_chords", static_cast<double>(chords));
  figure("outlines_uneven_mm", uneven);
  if (!off.empty())
    figure("outlines_off_p99_mm", off[off.size() * 99 / 100]), figure("outlines_off_most_mm", off.back());
}

/// Suggested panels of a cap and a hood, and darts in the worst panel of a hood cut side, middle, side.
void bench_seams(const Chain& chain) {
  for (const char* preset : {"skull-cap", "hood"}) {
    Build build = demo_build(Day{20000});
    build.parts.clear();
    (void)add_part(build, *part_from_preset(preset));
    build.parts[0].seams.preset = SeamPreset::none;
    const Derived d = chain.derive(build);
    SuggestOptions options;
    options.tolerance = 0.05, options.thickness_mm = 5.0;
    for (const bool keep_middle : {true, false}) {
      options.keep_middle = keep_middle;
      Suggestion way;
      const std::string name = std::string("suggest_") + preset + (keep_middle ? "_middle_whole" : "_down_the_middle");
      figure(name + "_ms",
          median_ms(1, [&] { way = suggest_panels(undrawn(*d.form->parts[0]), options).value_or(Suggestion{}); }));
      figure(name + "_panels", way.panels), figure(name + "_seam_mm", way.seam_mm),
          figure(name + "_worst_percent", 100.0 * way.worst);
    }
  }
  Build build = demo_build(Day{20000});
  build.parts[0].seams.preset = SeamPreset::side_middle_side, build.parts[0].seams.belt = false;
  const Derived d = chain.derive(build);
  Darts darts;
  const Panel* worst = &d.panels->panels[0];
  for (const Panel& p : d.panels->panels)
    if (!p.mirror_of && p.strain.p99 > worst->strain.p99) worst = &p;
  figure("darts_ms", median_ms(1, [&] { darts = propose_darts(worst->solid, {}).value_or(Darts{}); }));
  figure("darts_before_percent", 100.0 * darts.before), figure("darts_after_percent", 100.0 * darts.after),
      figure("darts_length_mm", darts.length_mm);
}

/// Scans of heads that are known, 30 % missing and a tuft of hair: time, and error where there was data.
void bench_scan(const Chain& chain) {
  const HeadFitter& fitter = chain.fitter();
  double worst = 0.0, mean = 0.0, ms = 0.0;
  constexpr int kHeads = 8;
  for (int n = 0; n < kHeads; ++n) {
    const Headform truth = *fitter.fit(
        MeasureSet{{MeasureId::HC, 545.0 + 8.0 * n}, {MeasureId::FH, 112.0 + 2.0 * n}, {MeasureId::EP, 16.0 + n}});
    ScannerHabits habits;
    habits.seed = 20 + static_cast<std::uint64_t>(n);
    const SimulatedScan sim = simulate_scan(truth, habits);
    if (sim.scan.marks.size() < 3) continue;
    Result<ScanFit> fit = fit_scan(fitter, sim.scan, {{}, "adult", {}});
    ms += median_ms(1, [&] { fit = fit_scan(fitter, sim.scan, {{}, "adult", {}}); }) / kHeads;
    std::vector<double> errors;
    const Nearest near(fit->head.mesh);
    for (std::size_t i = 0; i < sim.true_place.size(); ++i)
      if (!sim.is_hair[i] && sim.true_place[i].y() > -100.0)
        errors.push_back(std::abs(near.to(sim.true_place[i]).signed_mm));
    std::sort(errors.begin(), errors.end());
    const double p95 = errors[errors.size() * 95 / 100];
    worst = std::max(worst, p95), mean += p95 / kHeads;
  }
  figure("scan_fit_ms", ms);
  figure("scan_p95_error_mean_mm", mean);
  figure("scan_p95_error_worst_mm", worst);
}

/// Crooked foam heads, each distance read twice by a trembling hand as the sheet asks: how far side and twist are told
/// wrong.
void bench_built(const Chain& chain) {
  const Headform head = *chain.fitter().fit(demo_build(Day{0}).tape.measures());
  const CheckPlan plan = plan_check(chain.fitter(), head, -157.0);
  figure("check_sheet_distances", static_cast<double>(plan.distances.size()));
  Random random(5);
  double side = 0.0, twist = 0.0;
  for (int n = 0; n < 40; ++n) {
    BuiltShape bent = plan.meant;
    bent.flaws[static_cast<int>(Flaw::left)] = 5.0, bent.flaws[static_cast<int>(Flaw::twist)] = 4.0;
    std::map<std::string, double> readings;
    for (const BuiltDistance& d : plan.distances)
      if (d.round.empty())
        readings[d.id] = (bent(plan.marks[d.to].at) - bent(plan.marks[d.from].at)).norm() +
            0.5 * 0.5 * (random.normal() + random.normal());
    const auto built = judge_built(plan, head, readings);
    side = std::max(side, std::abs(built->shape.flaws[static_cast<int>(Flaw::left)] - 5.0));
    twist = std::max(twist, std::abs(built->shape.flaws[static_cast<int>(Flaw::twist)] - 4.0));
  }
  figure("check_side_error_worst_mm", side);
  figure("check_twist_error_worst_degrees", twist);
}

void bench_foam_head(const Chain& chain) {
  Build build = demo_build(Day{20000});
  build.making = Making::headform;
  Derived d;
  figure("foam_head_suggested_ms", median_ms(1, [&] { d = chain.derive(build); }));
  double worst = 0.0;
  for (const Panel& p : d.panels->panels) worst = std::max(worst, p.strain.p99);
  figure("foam_head_pieces", static_cast<double>(d.pieces->size()));
  figure("foam_head_seam_mm", d.panels->seam_total_mm());
  figure("foam_head_worst_strain_p99_percent", 100.0 * worst);
}

}  // namespace

int main() {
  std::shared_ptr<const Chain> chain;
  figure("load_ms", median_ms(3, [&] { chain = *Chain::load(data_folder()); }));
  bench_fit(*chain);
  bench_chain(*chain);
  bench_forms(*chain);
  bench::worn_jobs(*chain);
  bench::dress_jobs(*chain);
  bench::plan_jobs();
  bench_seams(*chain);
  bench_outlines(*chain);
  bench_glue(*chain);
  bench_foam_head(*chain);
  bench_built(*chain);
  bench_scan(*chain);
  bench::nest_jobs();
  bench::mesh_jobs();
  bench::pair_jobs();
  for (const double edge : {14.0, 7.0, 4.0, 2.2}) bench_flatten(edge);
  return 0;
}
