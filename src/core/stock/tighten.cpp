#include "core/stock/tighten.hpp"

#include <algorithm>
#include <map>

#include "core/base/numbers.hpp"
#include "core/stock/nest_bench.hpp"

namespace awl {
namespace {

std::vector<Vec2> posed(const std::vector<Vec2>& line, const Pose& pose) {
  std::vector<Vec2> out;
  out.reserve(line.size());
  for (const Vec2& p : line) out.push_back(pose(p));
  return out;
}

double left_of(const std::vector<Vec2>& line) {
  double left = 1e300;
  for (const Vec2& p : line) left = std::min(left, p.x());
  return left;
}

/// Pushes the copies of one new sheet closer together on finer cells, from left to right, each also turned a little;
/// those near the right end may drop into any hole. What finds no place leaves the sheet as it was.
class Tightener {
 public:
  Tightener(const SheetSize& sheet, const NestOptions& options) : sheet_(sheet), options_(options) {
    options_.cell_mm = kFineMm;
  }

  /// `held`: outlines already grown that do not move. True if the sheet is shorter now.
  bool run(
      std::vector<Placement*> copies, const std::vector<Piece>& pieces, const std::vector<std::vector<Vec2>>& held) {
    const auto cells = [&](double length) {
      return static_cast<int>((length - 2 * options_.margin_mm + options_.gap_mm) / kFineMm);
    };
    std::vector<Pose> before;
    for (const Placement* p : copies) before.push_back(p->pose);
    const double was = end_of(copies, pieces);
    BitSheet bits(cells(sheet_.width_mm), cells(sheet_.height_mm));
    for (const auto& h : held)
      bits.take(CellMask::on_grid(h, kFineMm, Vec2::Constant(corner()), bits.columns(), bits.rows()), 0, 0);
    std::stable_sort(copies.begin(), copies.end(), [&](const Placement* a, const Placement* b) {
      return left_of(posed(line_of(*a, pieces), a->pose)) < left_of(posed(line_of(*b, pieces), b->pose));
    });
    bool good = true;
    for (Placement* p : copies)
      if (!(good = put(*p, pieces, bits, was))) break;
    if (good && end_of(copies, pieces) < was - 0.1) return true;
    // Poses were kept in the caller's order.
    std::stable_sort(copies.begin(), copies.end());
    for (std::size_t i = 0; i < copies.size(); ++i) copies[i]->pose = before[i];
    return false;
  }

 private:
  static constexpr double kFineMm = 0.5;
  double corner() const { return options_.margin_mm - 0.5 * options_.gap_mm; }

  const std::vector<Vec2>& line_of(const Placement& p, const std::vector<Piece>& pieces) {
    auto& line = grown_[p.piece.value];
    if (line.empty()) line = claim_of(pieces[p.piece.value], 0.5 * options_.gap_mm + kHalfDiagonal * kFineMm);
    return line;
  }

  double end_of(const std::vector<Placement*>& copies, const std::vector<Piece>& pieces) {
    double right = 0.0;
    for (const Placement* p : copies)
      for (const Vec2& q : posed(line_of(*p, pieces), p->pose)) right = std::max(right, q.x());
    return right;
  }

  bool put(Placement& p, const std::vector<Piece>& pieces, BitSheet& bits, double end) {
    constexpr double kReachMm = 30.0, kPastMm = 12.0;
    const auto& outline = line_of(p, pieces);
    const double left = left_of(posed(outline, p.pose));
    const bool anywhere = left > 0.6 * end;
    const int first = anywhere ? 0 : std::max(0, static_cast<int>((left - corner() - kReachMm) / kFineMm));
    int least_right = bits.columns() + 1;
    Pose best;
    CellMask best_mask;
    int at_column = -1, at_row = -1;
    const auto offer = [&](double angle) {
      const Pose pose{Vec2::Zero(), angle, p.pose.flipped};
      CellMask mask = CellMask::of(posed(outline, pose), kFineMm);
      const int last = std::min({bits.columns() - mask.columns, least_right - mask.columns - 1,
          static_cast<int>((left - corner() + kPastMm) / kFineMm)});
      for (int c = first; c <= last; ++c)
        if (const int row = bits.lowest_free(mask, c); row >= 0) {
          least_right = c + mask.columns, at_column = c, at_row = row;
          best = pose, best_mask = std::move(mask);
          return;
        }
    };
    offer(p.pose.angle_rad);
    if (options_.turn_freely) {
      for (const double by : {3.0, -3.0, 8.0, -8.0}) offer(p.pose.angle_rad + radians(by));
      if (anywhere)
        for (int t = 1; t < 8; ++t) offer(p.pose.angle_rad + kTwoPi * t / 8);
    } else {
      offer(p.pose.angle_rad + kPi);
    }
    if (at_column < 0) return false;
    bits.take(best_mask, at_column, at_row);
    p.pose = best;
    p.pose.at = Vec2::Constant(corner()) + kFineMm * Vec2(at_column, at_row) - best_mask.low;
    return true;
  }

  SheetSize sheet_;
  NestOptions options_;
  std::map<int, std::vector<Vec2>> grown_;
};

}  // namespace

void tighten_last(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options,
    std::vector<Placement>& placed) {
  int last = -1;
  for (const Placement& p : placed) last = std::max(last, p.sheet);
  std::vector<Placement*> copies;
  std::vector<std::vector<Vec2>> held;
  for (Placement& p : placed) {
    if (p.sheet != last) continue;
    if (p.held)
      held.push_back(posed(claim_of(pieces[p.piece.value], 0.5 * options.gap_mm + kHalfDiagonal), p.pose));
    else
      copies.push_back(&p);
  }
  Tightener tightener(sheet, options);
  constexpr int kPasses = 4;
  for (int pass = 0; pass < kPasses && tightener.run(copies, pieces, held); ++pass) {
  }
}

}  // namespace awl
