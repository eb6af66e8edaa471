#include "core/piece/changes.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr int kSteps = 180;
constexpr double kSameMm = 0.1;  // less is not seen by a knife

double girth(const std::vector<Vec2>& outline) {
  double sum = 0.0;
  for (std::size_t i = 0; i < outline.size(); ++i) sum += (outline[(i + 1) % outline.size()] - outline[i]).norm();
  return sum;
}

/// Equal steps along a closed outline.
std::vector<Vec2> evenly(const std::vector<Vec2>& outline) {
  std::vector<Vec2> points;
  const double step = girth(outline) / kSteps;
  double along = 0.0;
  std::size_t i = 0;
  double before = 0.0;
  while (static_cast<int>(points.size()) < kSteps && i < outline.size()) {
    const Vec2 &a = outline[i], &b = outline[(i + 1) % outline.size()];
    const double length = (b - a).norm();
    while (static_cast<int>(points.size()) < kSteps && along <= before + length) {
      points.push_back(length > 0.0 ? Vec2(a + (along - before) / length * (b - a)) : a);
      along += step;
    }
    before += length, ++i;
  }
  while (static_cast<int>(points.size()) < kSteps) points.push_back(outline.back());
  return points;
}

struct Lay {
  double turn = 0.0;
  Vec2 from = Vec2::Zero(), to = Vec2::Zero();
  double off = 1e300;
};

/// Best turn and shift of p onto q when p begins `start` steps later.
Lay lay(const std::vector<Vec2>& p, const std::vector<Vec2>& q, int start) {
  Lay best;
  for (int i = 0; i < kSteps; ++i) best.from += p[i] / kSteps, best.to += q[i] / kSteps;
  double c = 0.0, s = 0.0, sum = 0.0;
  for (int i = 0; i < kSteps; ++i) {
    const Vec2 a = p[(i + start) % kSteps] - best.from, b = q[i] - best.to;
    c += a.dot(b), s += a.x() * b.y() - a.y() * b.x(), sum += a.squaredNorm() + b.squaredNorm();
  }
  best.turn = std::atan2(s, c), best.off = sum - 2.0 * std::hypot(c, s);
  return best;
}

double farthest(const std::vector<Vec2>& from, const std::vector<Vec2>& to) {
  double most = 0.0;
  for (const Vec2& p : evenly(from)) most = std::max(most, distance_to_outline(to, p));
  return most;
}

}  // namespace

std::string PieceChange::sentence() const {
  const std::string piece = std::to_string(number) + " " + name;
  if (kind == Kind::added) return piece + " is new.";
  if (kind == Kind::gone) return piece + " is gone.";
  if (kind == Kind::same) return piece + " is as it was.";
  return piece + ": its edge moves by up to " + fixed(most_mm, 1) + " mm, " +
      (longer_mm >= 0.0 ? "longer" : "shorter") + " round by " + fixed(std::abs(longer_mm), 1) + " mm, " +
      (area_mm2 >= 0.0 ? "larger" : "smaller") + " by " + fixed(std::abs(area_mm2) / 100.0, 1) + " cm\u00b2.";
}

std::vector<Vec2> laid_over(const std::vector<Vec2>& outline, const std::vector<Vec2>& other) {
  const auto p = evenly(outline), q = evenly(other);
  Lay best;
  for (int start = 0; start < kSteps; ++start)
    if (const Lay one = lay(p, q, start); one.off < best.off) best = one;
  const double c = std::cos(best.turn), s = std::sin(best.turn);
  std::vector<Vec2> laid;
  for (const Vec2& at : outline) {
    const Vec2 d = at - best.from;
    laid.push_back(best.to + Vec2(c * d.x() - s * d.y(), s * d.x() + c * d.y()));
  }
  return laid;
}

std::vector<PieceChange> changes_between(const std::vector<Piece>& former, const std::vector<Piece>& present) {
  std::vector<PieceChange> changes;
  std::vector<char> found(former.size(), 0);
  for (const Piece& now : present) {
    PieceChange change;
    change.number = now.number, change.name = now.name, change.kind = PieceChange::Kind::added;
    for (std::size_t i = 0; i < former.size(); ++i) {
      if (found[i] || former[i].name != now.name) continue;
      found[i] = 1;
      change.former = laid_over(former[i].outline, now.outline);
      change.most_mm = std::max(farthest(change.former, now.outline), farthest(now.outline, change.former));
      change.area_mm2 = now.area_mm2 - former[i].area_mm2,
      change.longer_mm = girth(now.outline) - girth(former[i].outline);
      change.kind = change.most_mm < kSameMm ? PieceChange::Kind::same : PieceChange::Kind::changed;
      break;
    }
    changes.push_back(std::move(change));
  }
  for (std::size_t i = 0; i < former.size(); ++i)
    if (!found[i]) {
      changes.push_back({});
      changes.back().number = former[i].number, changes.back().name = former[i].name,
      changes.back().kind = PieceChange::Kind::gone;
    }
  return changes;
}

}  // namespace awl
