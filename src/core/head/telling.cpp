#include "core/head/telling.hpp"

#include <algorithm>

namespace awl {
namespace {

using Square = Eigen::Matrix<double, kModeCount, kModeCount>;
using Row = Eigen::Matrix<double, 1, kModeCount>;

double variance_of(const MeasureFacts& f) { return f.tolerance_mm * f.tolerance_mm; }

void learn(Square& c, const Row& g, double variance) {
  const Eigen::Matrix<double, kModeCount, 1> cg = c * g.transpose();
  c -= cg * cg.transpose() / (g.dot(cg) + variance);
}

}  // namespace

std::vector<Telling> most_telling(
    const Centre& centre, const MeasureSet& known, const std::vector<ModeColumns>& places, int count) {
  Square w = Square::Zero(), c = mode_sd().cwiseAbs2().asDiagonal();
  for (const ModeColumns& b : places) w.noalias() += b.transpose() * b;
  const double before = (w * c).trace();
  for (const auto& [id, value] : known) learn(c, centre.jacobian.row(index_of(id)), variance_of(facts_of(id)));
  std::vector<Telling> list;
  while (static_cast<int>(list.size()) < count) {
    Telling best{MeasureId::HC, -1.0};
    for (const MeasureFacts& f : measure_facts()) {
      const bool listed = std::any_of(list.begin(), list.end(), [&](const Telling& t) { return t.id == f.id; });
      if (listed || known.count(f.id) || is_sided(f.id)) continue;
      const Row g = centre.jacobian.row(index_of(f.id));
      const Row gc = g * c;
      const double share = (gc * w).dot(gc) / (gc.dot(g) + variance_of(f)) / std::max(before, 1e-12);
      if (share > best.share) best = {f.id, share};
    }
    if (best.share < 0.0) break;
    learn(c, centre.jacobian.row(index_of(best.id)), variance_of(facts_of(best.id)));
    list.push_back(best);
  }
  return list;
}

}  // namespace awl
