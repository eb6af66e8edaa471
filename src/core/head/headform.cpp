#include "core/head/headform.hpp"

#include <Eigen/Cholesky>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/head/contradictions.hpp"

namespace awl {
namespace {

constexpr double kTapeShare = 0.2;  // a given tape is met to a fifth of its tolerance
constexpr double kLeastAngleDeg = 12.0;
constexpr double kMostModeSd = 6.0;
constexpr int kMostCuts = 4;
constexpr double kGoodShare = 0.5;  // of its tolerance, to which every given tape should be met

int count_flipped(const Mesh& mesh, const Mesh& before) {
  int flipped = 0;
  for (const Tri& t : mesh.triangles) flipped += area_vector(mesh, t).dot(area_vector(before, t)) <= 0.0 ? 1 : 0;
  return flipped;
}

/// Largest miss of a given tape, in tolerances.
double furthest_off(const Headform& form) {
  double most = 0.0;
  for (const MeasureFacts& f : measure_facts())
    if (const Reading& r = form.reading(f.id); r.given)
      most = std::max(most, std::abs(r.reads_mm - r.given_mm) / f.tolerance_mm);
  return most;
}

std::array<char, kMeasureCount> every_measure() {
  std::array<char, kMeasureCount> all;
  all.fill(1);
  return all;
}

}  // namespace

Result<std::shared_ptr<const HeadFitter>> HeadFitter::load(const std::filesystem::path& folder) {
  auto head = load_head_template(folder);
  if (!head) return fail(head);
  auto fitter = std::make_shared<HeadFitter>();
  fitter->head_ = *head;
  auto populations = load_populations(folder / "populations.json");
  if (!populations) return fail(populations);
  fitter->populations_ = std::move(*populations);
  for (const Population& people : fitter->populations_) fitter->add_centre(people);
  return fitter;
}

/// The mean head: the mean tapes, with a prior twice as wide round the template.
void HeadFitter::add_centre(const Population& people) {
  Target target;
  target.wanted = every_measure();
  target.prior_sd = 2.0 * mode_sd();
  target.value_mm = people.mean_mm;
  for (const MeasureFacts& f : measure_facts()) target.sigma_mm[index_of(f.id)] = kTapeShare * f.tolerance_mm;
  Centre centre;
  centre.people = people;
  if (!centres_.empty()) centre.mean = adults().mean;
  const auto gauge_at = [&] {
    return Gauge(*head_, centre.mean, head_->riders.carried(centre.mean), target.wanted, true);
  };
  for (int cut = 0; cut < 2; ++cut) centre.mean = descend(gauge_at(), target, centre.mean);
  centre.gauge = std::make_shared<Gauge>(gauge_at());
  centre.gauge->read(centre.mean, centre.reads, &centre.jacobian);
  const MeasureJacobian scaled = centre.jacobian * mode_sd().asDiagonal();
  centre.covariance.noalias() = scaled * scaled.transpose();
  centres_.push_back(std::move(centre));
}

const Centre& HeadFitter::centre_for(const WearerMeasures& wearer) const {
  const Centre* best = &adults();
  double most = -1e300;
  for (const Centre& centre : centres_) {
    if (wearer.people == centre.people.id) return centre;
    if (wearer.people != "auto" || wearer.set.empty()) continue;
    if (const double evidence = log_evidence(centre, wearer.set); evidence > most) most = evidence, best = &centre;
  }
  return *best;
}

HeadFitter::Target HeadFitter::target_for(const Centre& centre, const MeasureSet& measures, double loosen) const {
  Target target;
  target.prior = centre.mean;
  target.prior_sd = mode_sd();
  const auto want = [&](MeasureId id) { target.wanted[index_of(id)] = 1; };
  for (const auto& [id, value_mm] : measures) {
    want(id);
    target.crooked = target.crooked || is_sided(id);  // without one the fit stays exactly symmetric
    target.value_mm[index_of(id)] = value_mm;
    target.sigma_mm[index_of(id)] = loosen * kTapeShare * facts_of(id).tolerance_mm;
  }
  return target;
}

/// Levenberg-Marquardt on frozen sections; 32 unknowns, a handful of steps.
Coefficients HeadFitter::descend(const Gauge& gauge, const Target& target, Coefficients c) const {
  MeasureVector reads;
  MeasureJacobian jacobian;
  double damping = 1e-3;
  const auto cost_of = [&](const Coefficients& at, MeasureVector& read, MeasureJacobian* j) {
    gauge.read(at, read, j);
    if (!target.crooked) j->rightCols<kModeCount - kSymmetricModes>().setZero();
    double cost = ((at - target.prior).cwiseQuotient(target.prior_sd)).squaredNorm();
    for (int i = 0; i < kMeasureCount; ++i)
      if (target.wanted[i]) cost += std::pow((read[i] - target.value_mm[i]) / target.sigma_mm[i], 2);
    return cost;
  };
  double cost = cost_of(c, reads, &jacobian);
  for (int step = 0; step < 15; ++step) {
    Eigen::Matrix<double, kModeCount, kModeCount> h = target.prior_sd.cwiseAbs2().cwiseInverse().asDiagonal();
    Coefficients g = (target.prior - c).cwiseQuotient(target.prior_sd.cwiseAbs2());
    for (int i = 0; i < kMeasureCount; ++i) {
      if (!target.wanted[i]) continue;
      const double w = 1.0 / (target.sigma_mm[i] * target.sigma_mm[i]);
      h.noalias() += w * jacobian.row(i).transpose() * jacobian.row(i);
      g += w * (target.value_mm[i] - reads[i]) * jacobian.row(i).transpose();
    }
    const Eigen::Matrix<double, kModeCount, 1> diagonal = h.diagonal();
    h.diagonal() += damping * diagonal;
    const Coefficients move = h.ldlt().solve(g);
    MeasureVector next_reads;
    MeasureJacobian next_jacobian;
    const double next = cost_of(c + move, next_reads, &next_jacobian);
    if (next > cost) {
      damping *= 10.0;
      if (damping > 1e4) break;
      continue;
    }
    const bool settled = cost - next < 1e-4 * (1.0 + next);
    c += move, cost = next, reads = next_reads, jacobian = next_jacobian;
    damping = std::max(1e-9, 0.1 * damping);
    if (settled) break;
  }
  return c;
}

void HeadFitter::fill_readings(Headform& form, const Centre& centre, const MeasureSet& measures) const {
  MeasureVector reads;
  Gauge(*head_, form.coefficients, form.mesh.vertices, every_measure(), false).read(form.coefficients, reads, nullptr);
  const MeasureVector band = uncertainty(centre, measures);
  for (int i = 0; i < kMeasureCount; ++i) {
    const auto given = measures.find(measure_facts()[i].id);
    form.readings[i] = {given != measures.end(), given != measures.end() ? given->second : 0.0, reads[i], band[i]};
  }
}

Headform HeadFitter::shape(const Coefficients& c) const {
  Headform form;
  form.coefficients = c;
  form.mesh = {head_->riders.carried(c), head_->mesh.triangles};
  for (int i = 0; i < kLandmarkCount; ++i) form.landmarks[i] = head_->landmarks.at(i, c);
  form.flipped = count_flipped(form.mesh, head_->mesh);
  form.smallest_angle_deg = smallest_angle_deg(form.mesh);
  fill_readings(form, adults(), {});
  return form;
}

Result<Headform> HeadFitter::fit(const MeasureSet& measures, const Coefficients* start) const {
  return fit(WearerMeasures{measures, "auto", {}}, start);
}

Result<Headform> HeadFitter::fit(const WearerMeasures& wearer, const Coefficients* start) const {
  if (auto good = check_measures(wearer, populations_); !good) return fail(good);
  const MeasureSet& measures = wearer.set;
  const Centre& centre = centre_for(wearer);
  Headform form;
  form.people = centre.people.id;
  form.people_inferred = wearer.people == "auto";
  for (const double loosen : {1.0, 2.0, 4.0}) {
    const Target target = target_for(centre, measures, loosen);
    Coefficients c = start != nullptr ? *start : descend(*centre.gauge, target, centre.mean);
    // Cut anew until what was fitted is what a tape reads; one cut is enough but for short necks far from the mean.
    for (int cut = 0; cut < kMostCuts; ++cut) {
      c = descend(Gauge(*head_, c, head_->riders.carried(c), target.wanted, true), target, c);
      form.coefficients = c;
      form.mesh = {head_->riders.carried(c), head_->mesh.triangles};
      fill_readings(form, centre, measures);
      if (furthest_off(form) < kGoodShare || loosen > 1.0) break;
    }
    form.flipped = count_flipped(form.mesh, head_->mesh);
    form.smallest_angle_deg = smallest_angle_deg(form.mesh);
    form.loosened = loosen > 1.0;
    const double furthest = (c - centre.mean).cwiseQuotient(mode_sd()).cwiseAbs().maxCoeff();
    if (form.flipped == 0 && form.smallest_angle_deg >= kLeastAngleDeg && furthest <= kMostModeSd) break;
  }
  for (int i = 0; i < kLandmarkCount; ++i) form.landmarks[i] = head_->landmarks.at(i, form.coefficients);
  form.remarks = contradictions(centre, wearer);
  if (form.loosened)
    form.remarks.push_back({"head.loosened", Severity::warning, "headform",
        "These measures bend the headform too far, so they are met only loosely; look for a slipped tape.", {}, {},
        {{"Go to the measures", "go tape"}}});
  return form;
}

}  // namespace awl
