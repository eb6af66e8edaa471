#include "core/head/contradictions.hpp"

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

using M = MeasureId;
constexpr double kSlipShare = 0.05;      // workshop value: how far a slipped measure is off, as a share of it
constexpr double kSlipOdds = 0.02;       // workshop value: one measure in fifty is slipped
constexpr double kRarerThanASlip = 3.0;  // log odds: swapped fields and slack tapes are rarer than one slip
constexpr double kLeastSlack = 0.012;    // less is within what a tape gives

struct Subset {
  std::vector<const MeasureFacts*> facts;
  Eigen::VectorXd given, mean;
  Eigen::MatrixXd covariance;  ///< tape tolerance included
  Eigen::VectorXd deviation() const { return given - mean; }
};

Subset subset_of(const Centre& centre, const MeasureSet& measures) {
  Subset s;
  for (const auto& [id, value] : measures) s.facts.push_back(&facts_of(id));
  const auto n = static_cast<Eigen::Index>(s.facts.size());
  const auto& all = centre.covariance;
  s.covariance.resize(n, n);
  s.given.resize(n), s.mean.resize(n);
  for (Eigen::Index i = 0; i < n; ++i) {
    const MeasureFacts& f = *s.facts[i];
    for (Eigen::Index j = 0; j < n; ++j) s.covariance(i, j) = all(index_of(f.id), index_of(s.facts[j]->id));
    s.covariance(i, i) += f.tolerance_mm * f.tolerance_mm;
    s.given[i] = measures.at(f.id);
    s.mean[i] = centre.reads[index_of(f.id)];
  }
  return s;
}

/// What may have happened, and by how much it raises the log likelihood.
struct Story {
  enum class Kind { slip, swap, slack } kind = Kind::slip;
  double gain = -1e300;
  int i = -1, j = -1;        ///< measures of the subset
  double expected_mm = 0.0;  ///< of measure i, for a slip
  double share = 0.0;        ///< for slack tapes: + slack, - too tight
};

class Inquiry {
 public:
  explicit Inquiry(const Subset& s) : s_(s), r_(s.deviation()) {
    const auto n = r_.size();
    p_ = s.covariance.ldlt().solve(Eigen::MatrixXd::Identity(n, n));
    pull_ = p_ * r_;
  }

  bool alarmed() const {
    const double limit = r_.size() <= 4 ? 3.0 : 3.5;
    for (Eigen::Index i = 0; i < r_.size(); ++i)
      if (std::abs(pull_[i]) > limit * std::sqrt(p_(i, i))) return true;
    return false;
  }

  Story best() const {
    Story best = slips();
    for (const Story& other : {swaps(), slack()})
      if (other.gain - kRarerThanASlip > best.gain) best = other;
    return best;
  }

  Story slips() const {
    Story best;
    for (int i = 0; i < r_.size(); ++i) {
      // Likelihood with an extra variance s^2 on measure i, against that without (matrix determinant lemma).
      const double s2p = std::pow(kSlipShare * s_.given[i], 2) * p_(i, i), z2 = pull_[i] * pull_[i] / p_(i, i);
      const double gain = 0.5 * (z2 * s2p / (1.0 + s2p) - std::log1p(s2p));
      if (gain > best.gain) best = {Story::Kind::slip, gain, i, -1, s_.given[i] - pull_[i] / p_(i, i), 0.0};
    }
    return best;
  }

 private:
  Story swaps() const {
    Story best;
    const double before = r_.dot(pull_);
    for (int i = 0; i < r_.size(); ++i)
      for (int j = i + 1; j < r_.size(); ++j) {
        if (std::abs(s_.given[i] - s_.given[j]) < 3.0 * (s_.facts[i]->tolerance_mm + s_.facts[j]->tolerance_mm))
          continue;
        Eigen::VectorXd r = r_;
        r[i] = s_.given[j] - s_.mean[i], r[j] = s_.given[i] - s_.mean[j];
        const double gain = 0.5 * (before - r.dot(p_ * r));
        if (gain > best.gain) best = {Story::Kind::swap, gain, i, j, 0.0, 0.0};
      }
    return best;
  }

  Story slack() const {
    Eigen::VectorXd v = Eigen::VectorXd::Zero(r_.size());
    int tapes = 0;
    for (Eigen::Index i = 0; i < r_.size(); ++i)
      if (is_tape(s_.facts[i]->id)) v[i] = s_.given[i], ++tapes;
    if (tapes < 3 || tapes == r_.size()) return {};
    const double vpv = v.dot(p_ * v), vpr = v.dot(pull_), share = vpr / vpv;
    if (std::abs(share) < kLeastSlack) return {};
    const double s2p = 0.03 * 0.03 * vpv;
    return {Story::Kind::slack, 0.5 * (vpr * vpr / vpv * s2p / (1.0 + s2p) - std::log1p(s2p)), -1, -1, 0.0, share};
  }

  const Subset& s_;
  Eigen::VectorXd r_, pull_;
  Eigen::MatrixXd p_;
};

std::string in_mm(double value) { return fixed(value, 0) + " mm"; }

Remark told(const Subset& s, const Story& story) {
  Remark r{"head.contradiction", Severity::warning, {}, {}, {}, {}, {}};
  if (story.kind == Story::Kind::slack) {
    const std::string by = fixed(100.0 * std::abs(story.share), 1) + " %";
    r.id = "head.slack-tape", r.where = "HC";
    r.sentence = story.share > 0.0
        ? "All tapes read about " + by +
            " long beside the straight distances: slack, or laid over hair that was not noted."
        : "All tapes read about " + by + " short beside the straight distances: pulled into the skin?";
    r.measured = 100.0 * story.share, r.limit = 100.0 * kLeastSlack;
    std::string tapes;
    for (const MeasureFacts* f : s.facts)
      if (is_tape(f->id)) tapes += std::string(" ") + f->code;
    r.remedies = {{"Measure again", "edit-measure HC"},
        {"Correct all tapes by " + by, "scale-tapes " + fixed(1.0 - story.share, 4)},
        {"Accept: this head is unusual", "accept-measure" + tapes}};
    return r;
  }
  const MeasureFacts& f = *s.facts[story.i];
  r.where = f.code, r.measured = s.given[story.i];
  const std::string code = f.code;
  if (story.kind == Story::Kind::swap) {
    const MeasureFacts& g = *s.facts[story.j];
    r.id = "head.swapped", r.limit = s.given[story.j];
    r.sentence = std::string(f.name) + " of " + in_mm(s.given[story.i]) + " and " + spoken_name(g.id) + " of " +
        in_mm(s.given[story.j]) + " look written into each other's fields.";
    r.remedies = {{"Swap the two", "swap-measures " + code + " " + g.code}, {"Measure again", "edit-measure " + code},
        {"Accept: this head is unusual", "accept-measure " + code + " " + g.code}};
    return r;
  }
  r.limit = story.expected_mm;
  r.sentence = std::string(f.name) + " of " + in_mm(s.given[story.i]) +
      " does not go with the other measures: they lead to about " + in_mm(story.expected_mm) +
      ". The headform would come out bent to meet it.";
  r.remedies = {{"Measure again", "edit-measure " + code},
      {"Use " + in_mm(story.expected_mm), "use-expected " + code + " " + fixed(story.expected_mm, 1)},
      {"Accept: this head is unusual", "accept-measure " + code}};
  return r;
}

/// A head of this length and breadth that cannot be so round; the sentence everybody understands.
bool check_roundness(const MeasureSet& m, std::vector<Remark>& remarks) {
  if (!m.count(M::HC) || !m.count(M::HL) || !m.count(M::HB)) return false;
  const double expected_mm = 1.03 * ellipse_perimeter_mm(m.at(M::HL), m.at(M::HB)),
               ratio = 1.03 * m.at(M::HC) / expected_mm;
  const std::string impossible = "A head " + fixed(m.at(M::HL), 0) + " mm long and " + fixed(m.at(M::HB), 0) +
      " mm wide cannot be " + in_mm(m.at(M::HC)) + " round: about " + in_mm(expected_mm) + " is to be expected.";
  const bool off = ratio < 0.99 || ratio > 1.07;
  if (remarks.empty() && off)
    remarks.push_back({"head.roundness", Severity::warning, "HC", {}, m.at(M::HC), expected_mm,
        {{"Measure again", "edit-measure HC"},
            {"Use " + in_mm(expected_mm), "use-expected HC " + fixed(expected_mm, 1)},
            {"Accept: this head is unusual", "accept-measure HC"}}});
  if (!remarks.empty() && off && remarks[0].where == "HC" && remarks[0].id != "head.slack-tape" &&
      remarks[0].id != "head.swapped")
    remarks[0].sentence = impossible;
  return off;
}

}  // namespace

double ellipse_perimeter_mm(double length_mm, double breadth_mm) {
  const double a = length_mm / 2, b = breadth_mm / 2, h = std::pow((a - b) / (a + b), 2);
  return kPi * (a + b) * (1 + 3 * h / (10 + std::sqrt(4 - 3 * h)));
}

std::vector<Remark> contradictions(const Centre& centre, const WearerMeasures& wearer) {
  std::vector<Remark> remarks;
  MeasureSet left = wearer.set;
  for (const MeasureId id : wearer.accepted) left.erase(id);
  const MeasureSet judged = left;
  // Each culprit is set aside before the rest are judged again, so that it does not accuse its neighbours.
  for (int round = 0; round < 3 && left.size() >= 3; ++round) {
    const Subset s = subset_of(centre, left);
    const Inquiry inquiry(s);
    if (!inquiry.alarmed()) break;
    const Story story = inquiry.best();
    remarks.push_back(told(s, story));
    if (story.kind == Story::Kind::slack) break;
    left.erase(s.facts[story.i]->id);
    if (story.j >= 0) left.erase(s.facts[story.j]->id);
  }
  check_roundness(judged, remarks);
  return remarks;
}

MeasureVector uncertainty(const Centre& centre, const MeasureSet& measures) {
  const auto& all = centre.covariance;
  const Subset s = subset_of(centre, measures);
  Eigen::MatrixXd cross(kMeasureCount, static_cast<Eigen::Index>(s.facts.size()));
  for (std::size_t j = 0; j < s.facts.size(); ++j)
    cross.col(static_cast<Eigen::Index>(j)) = all.col(index_of(s.facts[j]->id));
  const Eigen::MatrixXd gain = s.facts.empty() ? Eigen::MatrixXd(0, kMeasureCount)
                                               : Eigen::MatrixXd(s.covariance.ldlt().solve(cross.transpose()));
  MeasureVector sd;
  for (int i = 0; i < kMeasureCount; ++i)
    sd[i] = measures.count(measure_facts()[i].id) ? 0.0
                                                  : std::sqrt(std::max(0.0, all(i, i) - cross.row(i).dot(gain.col(i))));
  return sd;
}

double log_evidence(const Centre& centre, const MeasureSet& measures) {
  const Subset s = subset_of(centre, measures);
  const auto n = static_cast<Eigen::Index>(s.facts.size());
  const Eigen::LDLT<Eigen::MatrixXd> solver(s.covariance);
  const Eigen::MatrixXd p = solver.solve(Eigen::MatrixXd::Identity(n, n));
  const Eigen::VectorXd r = s.deviation(), pull = p * r;
  const double squares = r.dot(pull), log_det = solver.vectorD().array().log().sum(), log_turn = std::log(kTwoPi);
  double best = -0.5 * (squares + log_det + static_cast<double>(n) * log_turn);
  // Without measure i the squares lose pull_i^2 / P_ii and the determinant gains P_ii; its slip is a priori this
  // likely.
  for (Eigen::Index i = 0; i < n; ++i) {
    const double others = -0.5 *
        (squares - pull[i] * pull[i] / p(i, i) + log_det + std::log(p(i, i)) + static_cast<double>(n - 1) * log_turn);
    best = std::max(best, others - std::log(4.0 * kSlipShare * s.given[i] / kSlipOdds));
  }
  return std::log(centre.people.share) + best;
}

}  // namespace awl
