#include "core/seam/correction.hpp"

#include <algorithm>
#include <cmath>

#include "core/seam/follow.hpp"
#include "core/seam/truing.hpp"

namespace awl {
namespace {

constexpr double kSamePieceMm = 0.05, kRoundedTo = 1e4;  // moves are kept to a ten-thousandth

double round_mm(const Panel& panel) {
  double sum = 0.0;
  for (const BorderEdge& e : panel.border) sum += (panel.flat[e.b] - panel.flat[e.a]).norm();
  return sum;
}

Vec2 rounded(const Vec2& p) {
  return {std::round(kRoundedTo * p.x()) / kRoundedTo, std::round(kRoundedTo * p.y()) / kRoundedTo};
}

tl::unexpected<Error> other_pieces(const Correction& correction) {
  return fail(Errc::unknown_name,
      "Its outlines were corrected for other pieces than it has now, and are left as drawn: correct them again.",
      "corrections/" + std::to_string(correction.part));
}

}  // namespace

Correction correction_of(const PanelSet& set, const Trued& trued, int part, bool closer) {
  Correction made;
  made.part = part, made.closer = closer;
  made.before_mm = trued.before.p95_mm, made.after_mm = trued.after.p95_mm;
  for (const Panel& p : set.panels) {
    if (p.mirror_of) continue;
    Correction::OfPanel own{p.name, round_mm(p), {}};
    for (const BorderEdge& e : p.border)
      own.moves.push_back(rounded(trued.flat[static_cast<std::size_t>(p.id.value)][e.a] - p.flat[e.a]));
    made.panels.push_back(std::move(own));
  }
  return made;
}

Result<PanelSet> corrected(PanelSet set, const Correction& correction) {
  std::size_t used = 0;
  for (Panel& p : set.panels) {
    if (p.mirror_of) continue;
    const auto own = std::find_if(
        correction.panels.begin(), correction.panels.end(), [&](const auto& c) { return c.panel == p.name; });
    if (own == correction.panels.end() || own->moves.size() != p.border.size() ||
        std::abs(own->round_mm - round_mm(p)) > kSamePieceMm)
      return other_pieces(correction);
    ++used;
    Eigen::MatrixXd moves(static_cast<Eigen::Index>(2 * p.border.size()), 1);
    for (std::size_t i = 0; i < own->moves.size(); ++i)
      moves.block<2, 1>(static_cast<Eigen::Index>(2 * i), 0) = own->moves[i];
    const Eigen::MatrixXd all = followed_border(p, moves);
    for (std::size_t v = 0; v < p.flat.size(); ++v) p.flat[v] += all.block<2, 1>(static_cast<Eigen::Index>(2 * v), 0);
    std::vector<Vec2> outline;
    for (const BorderEdge& e : p.border) outline.push_back(p.flat[e.a]);
    if (count_flips(p.solid, p.flat) > p.flipped || (!p.overlaps && crosses_itself(outline)))
      return fail(Errc::out_of_range,
          "Corrected, the piece " + p.name + " would turn over or cross itself; its outlines are left as drawn.",
          "corrections/" + std::to_string(correction.part));
  }
  if (used != correction.panels.size()) return other_pieces(correction);
  for (Panel& right : set.panels) {
    if (!right.mirror_of) continue;
    right.flat = set.panels[static_cast<std::size_t>(right.mirror_of->value)].flat;
    for (Vec2& at : right.flat) at.x() = -at.x();
  }
  return set;
}

}  // namespace awl
