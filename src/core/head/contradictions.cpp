#include "core/head/contradictions.hpp"

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

struct Subset {
  std::vector<int> rows;
  Eigen::MatrixXd covariance;  ///< of the given measures, tape tolerance included
  Eigen::VectorXd deviation;   ///< given minus mean
};

Eigen::MatrixXd population_covariance(const HeadFitter& fitter) {
  const Eigen::MatrixXd scaled = fitter.jacobian() * mode_sd().asDiagonal();
  return scaled * scaled.transpose();
}

Subset subset_of(const HeadFitter& fitter, const MeasureSet& measures) {
  Subset s;
  for (const auto& [id, value] : measures) s.rows.push_back(index_of(id));
  const int n = static_cast<int>(s.rows.size());
  const Eigen::MatrixXd all = population_covariance(fitter);
  s.covariance.resize(n, n);
  s.deviation.resize(n);
  for (int i = 0; i < n; ++i) {
    const MeasureFacts& facts = measure_facts()[s.rows[i]];
    for (int j = 0; j < n; ++j) s.covariance(i, j) = all(s.rows[i], s.rows[j]);
    s.covariance(i, i) += facts.tolerance_mm * facts.tolerance_mm;
    s.deviation[i] = measures.at(facts.id) - fitter.mean_reads()[s.rows[i]];
  }
  return s;
}

Remark disagreement(const MeasureFacts& f, double given_mm, double expected_mm) {
  Remark r;
  r.id = "head.contradiction";
  r.severity = Severity::warning;
  r.where = f.code;
  r.sentence = std::string(f.name) + " of " + fixed(given_mm, 0) + " mm does not go with the other measures: they lead to about " +
               fixed(expected_mm, 0) + " mm. The headform would come out bent to meet it.";
  r.measured = given_mm;
  r.limit = expected_mm;
  r.remedy = "Measure again";
  r.remedy_act = std::string("edit-measure ") + f.code;
  return r;
}

void check_roundness(const MeasureSet& m, std::vector<Remark>& remarks) {
  if (!m.count(MeasureId::HC) || !m.count(MeasureId::HL) || !m.count(MeasureId::HB)) return;
  const double oval_mm = ellipse_perimeter_mm(m.at(MeasureId::HL), m.at(MeasureId::HB));
  const double ratio = m.at(MeasureId::HC) / oval_mm;
  if (ratio >= 0.99 && ratio <= 1.07) return;
  Remark r = disagreement(facts_of(MeasureId::HC), m.at(MeasureId::HC), 1.03 * oval_mm);
  r.id = "head.roundness";
  r.sentence = "A head " + fixed(m.at(MeasureId::HL), 0) + " mm long and " + fixed(m.at(MeasureId::HB), 0) + " mm wide cannot be " +
               fixed(m.at(MeasureId::HC), 0) + " mm round: about " + fixed(1.03 * oval_mm, 0) + " mm is to be expected.";
  remarks.push_back(r);
}

}  // namespace

double ellipse_perimeter_mm(double length_mm, double breadth_mm) {
  const double a = length_mm / 2, b = breadth_mm / 2, h = std::pow((a - b) / (a + b), 2);
  return kPi * (a + b) * (1 + 3 * h / (10 + std::sqrt(4 - 3 * h)));
}

std::vector<Remark> contradictions(const HeadFitter& fitter, const MeasureSet& measures) {
  std::vector<Remark> remarks;
  check_roundness(measures, remarks);
  if (measures.size() < 3) return remarks;
  const Subset s = subset_of(fitter, measures);
  const int n = static_cast<int>(s.rows.size());
  const Eigen::MatrixXd precision = s.covariance.ldlt().solve(Eigen::MatrixXd::Identity(n, n));
  const Eigen::VectorXd pull = precision * s.deviation;
  const double limit = n <= 4 ? 3.0 : 3.5;
  std::vector<std::pair<double, int>> worst;
  for (int i = 0; i < n; ++i)
    if (const double z = std::abs(pull[i]) / std::sqrt(precision(i, i)); z > limit) worst.push_back({-z, i});
  std::sort(worst.begin(), worst.end());
  for (const auto& [z, i] : worst) {
    const MeasureFacts& facts = measure_facts()[s.rows[i]];
    const double given_mm = measures.at(facts.id);
    remarks.push_back(disagreement(facts, given_mm, given_mm - pull[i] / precision(i, i)));
  }
  return remarks;
}

MeasureVector uncertainty(const HeadFitter& fitter, const MeasureSet& measures) {
  const Eigen::MatrixXd all = population_covariance(fitter);
  const Subset s = subset_of(fitter, measures);
  const int n = static_cast<int>(s.rows.size());
  Eigen::MatrixXd cross(kMeasureCount, n);
  for (int j = 0; j < n; ++j) cross.col(j) = all.col(s.rows[j]);
  const Eigen::MatrixXd gain = s.covariance.ldlt().solve(cross.transpose());
  MeasureVector sd;
  for (int i = 0; i < kMeasureCount; ++i)
    sd[i] = measures.count(measure_facts()[i].id) ? 0.0 : std::sqrt(std::max(0.0, all(i, i) - cross.row(i).dot(gain.col(i))));
  return sd;
}

}  // namespace awl
