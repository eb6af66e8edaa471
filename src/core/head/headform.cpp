#include "core/head/headform.hpp"

#include <Eigen/Cholesky>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/head/contradictions.hpp"

namespace awl {
namespace {

constexpr double kTapeShare = 0.2;       // a given tape is met to a fifth of its tolerance
constexpr double kLeastAngleDeg = 12.0;
constexpr double kMostModeSd = 6.0;

/// Only a measure of one side tells that a head is crooked; without one the fit stays exactly symmetric.
bool is_sided(MeasureId id) {
  using M = MeasureId;
  return id == M::EHL || id == M::EHR || id == M::EPL || id == M::EPR || id == M::CEL || id == M::CER || id == M::HBL || id == M::HBR;
}

int count_flipped(const Mesh& mesh, const Mesh& before) {
  int flipped = 0;
  for (const Tri& t : mesh.triangles) flipped += area_vector(mesh, t).dot(area_vector(before, t)) <= 0.0 ? 1 : 0;
  return flipped;
}

std::array<char, kMeasureCount> every_measure() {
  std::array<char, kMeasureCount> all;
  all.fill(1);
  return all;
}

}  // namespace

Result<std::shared_ptr<const HeadFitter>> HeadFitter::load(const std::filesystem::path& folder) {
  auto head = load_head_template(folder);
  if (!head) return tl::make_unexpected(head.error());
  auto fitter = std::make_shared<HeadFitter>();
  fitter->head_ = *head;
  // The mean head: the mean tapes, with a prior twice as wide round the template.
  Target target;
  target.wanted = every_measure();
  target.prior_sd = 2.0 * mode_sd();
  for (const MeasureFacts& f : measure_facts()) {
    target.value_mm[index_of(f.id)] = f.mean_mm;
    target.sigma_mm[index_of(f.id)] = kTapeShare * f.tolerance_mm;
  }
  Coefficients c = Coefficients::Zero();
  const auto gauge_at = [&] { return Gauge(*fitter->head_, c, fitter->head_->riders.carried(c), target.wanted, true); };
  for (int cut = 0; cut < 2; ++cut) c = fitter->descend(gauge_at(), target, c);
  fitter->mean_ = c;
  fitter->mean_gauge_ = std::make_shared<Gauge>(gauge_at());
  fitter->mean_gauge_->read(c, fitter->mean_reads_, &fitter->jacobian_);
  return fitter;
}

HeadFitter::Target HeadFitter::target_for(const MeasureSet& measures, double loosen) const {
  Target target;
  target.prior = mean_;
  target.prior_sd = mode_sd();
  const auto want = [&](MeasureId id) { target.wanted[index_of(id)] = 1; };
  for (const auto& [id, value_mm] : measures) {
    want(id);
    target.crooked = target.crooked || is_sided(id);
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

void HeadFitter::fill_readings(Headform& form, const MeasureSet& measures) const {
  MeasureVector reads;
  Gauge(*head_, form.coefficients, form.mesh.vertices, every_measure(), false).read(form.coefficients, reads, nullptr);
  const MeasureVector band = uncertainty(*this, measures);
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
  fill_readings(form, {});
  return form;
}

Result<Headform> HeadFitter::fit(const MeasureSet& measures, const Coefficients* start) const {
  if (auto good = check_measures(measures); !good) return tl::make_unexpected(good.error());
  Headform form;
  for (const double loosen : {1.0, 2.0, 4.0}) {
    const Target target = target_for(measures, loosen);
    Coefficients c = start != nullptr ? *start : descend(*mean_gauge_, target, mean_);
    c = descend(Gauge(*head_, c, head_->riders.carried(c), target.wanted, true), target, c);
    form.coefficients = c;
    form.mesh = {head_->riders.carried(c), head_->mesh.triangles};
    form.flipped = count_flipped(form.mesh, head_->mesh);
    form.smallest_angle_deg = smallest_angle_deg(form.mesh);
    form.loosened = loosen > 1.0;
    const double furthest = (c - mean_).cwiseQuotient(mode_sd()).cwiseAbs().maxCoeff();
    if (form.flipped == 0 && form.smallest_angle_deg >= kLeastAngleDeg && furthest <= kMostModeSd) break;
  }
  for (int i = 0; i < kLandmarkCount; ++i) form.landmarks[i] = head_->landmarks.at(i, form.coefficients);
  fill_readings(form, measures);
  form.remarks = contradictions(*this, measures);
  if (form.loosened)
    form.remarks.push_back({"head.loosened", Severity::warning, "headform",
                            "These measures bend the headform too far, so they are met only loosely; look for a slipped tape.", {}, {}, "Go to the measures", "go tape"});
  return form;
}

}  // namespace awl
