#include "core/stock/nest_bench.hpp"

#include <algorithm>
#include <atomic>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/random.hpp"

namespace awl {
namespace {

constexpr double kMiddleShare =
    1.0;  // how much a copy's middle counts against its far side when a search chooses its turn

/// Another order near this one: one or two copies swapped or moved.
std::vector<int> shuffled(std::vector<int> order, Random& random) {
  const auto pick = [&] { return static_cast<std::size_t>(random.next() % std::max<std::size_t>(1, order.size())); };
  for (int moves = 1 + static_cast<int>(random.next() % 2); moves > 0; --moves) {
    const std::size_t a = pick(), b = pick();
    if (random.next() % 2 == 0) {
      std::swap(order[a], order[b]);
    } else {
      const int moved = order[a];
      order.erase(order.begin() + static_cast<long>(a));
      order.insert(order.begin() + static_cast<long>(std::min(b, order.size())), moved);
    }
  }
  return order;
}

}  // namespace

NestBench::NestBench(const SheetSize& sheet, const NestOptions& options, const std::vector<Offcut>& offcuts)
    : options_(options) {
  const auto cells = [&](double length) {
    return static_cast<int>((length - 2 * options.margin_mm + options.gap_mm) / options.cell_mm);
  };
  fresh_ = std::make_shared<const BitSheet>(cells(sheet.width_mm), cells(sheet.height_mm));
  for (const Offcut& o : offcuts) start_.push_back(offcut_sheet(o));
  offcuts_ = static_cast<int>(start_.size());
}

void NestBench::hold(int blank, const std::vector<Vec2>& grown_outline) {
  while (static_cast<int>(start_.size()) <= blank) start_.push_back(*fresh_);
  BitSheet& sheet = start_[blank];
  sheet.take(
      CellMask::on_grid(grown_outline, options_.cell_mm, Vec2::Constant(corner_mm()), sheet.columns(), sheet.rows()), 0,
      0);
  held_to_ = std::max(held_to_, blank + 1);
}

bool NestBench::fits_empty(const CellMask& mask) const {
  if (mask.columns <= fresh_->columns() && mask.rows <= fresh_->rows()) return true;
  return std::any_of(start_.begin(), start_.begin() + offcuts_,
      [&](const BitSheet& s) { return first_spot(s, mask, 1e300).blank >= 0; });
}

std::vector<Spot> NestBench::lay(
    const std::vector<NestJob>& jobs, const std::vector<int>& order, const std::function<bool()>& keep_going) const {
  std::vector<BitSheet> sheets = start_;
  std::vector<Spot> spots(jobs.size());
  for (const int j : order) {
    if (!keep_going()) return {};
    Spot best;
    for (int b = 0; best.blank < 0; ++b) {
      if (b == static_cast<int>(sheets.size())) sheets.push_back(*fresh_);
      double least = 1e300;
      const auto& stamps = *jobs[j].stamps;
      for (int t = 0; t < static_cast<int>(stamps.size()); ++t)
        if (const Spot spot = first_spot(sheets[b], stamps[t].mask, least - stamps[t].weight); spot.blank >= 0)
          best = {b, spot.column, spot.row, t}, least = spot.column + stamps[t].weight;
    }
    sheets[best.blank].take((*jobs[j].stamps)[best.turn].mask, best.column, best.row);
    spots[j] = best;
  }
  return spots;
}

double NestBench::cost(const std::vector<NestJob>& jobs, const std::vector<Spot>& spots) const {
  int last = -1;
  double right = 0.0, offcuts = 0.0;
  std::vector<char> used(offcuts_, 0);
  for (std::size_t j = 0; j < spots.size(); ++j)
    if (spots[j].blank >= offcuts_)
      last = std::max(last, spots[j].blank);
    else if (!used[spots[j].blank])
      used[spots[j].blank] = 1, offcuts += 1.0;
  double spread = 0.0;  // breaks ties: the more to the left all lies, the nearer a better order is
  for (std::size_t j = 0; j < spots.size(); ++j) {
    const double end = spots[j].column + (*jobs[j].stamps)[spots[j].turn].mask.columns;
    if (spots[j].blank == last) right = std::max(right, end), spread += end / fresh_->columns();
  }
  const double whole = last < offcuts_ ? 0.0 : last - offcuts_;
  return whole + (last < 0 ? 0.0 : right / fresh_->columns()) + 1e-3 * spread / static_cast<double>(spots.size()) +
      1e-3 * offcuts;
}

int NestBench::blanks(const std::vector<Spot>& spots) const {
  int most = held_to_;
  for (const Spot& s : spots) most = std::max(most, s.blank + 1);
  return most;
}

BitSheet NestBench::offcut_sheet(const Offcut& o) const {
  Vec2 high = Vec2::Zero();
  for (const Vec2& p : o.outline) high = high.cwiseMax(p);
  const auto cells = [&](double length) {
    return static_cast<int>(std::max(0.0, length - 2 * corner_mm()) / options_.cell_mm);
  };
  BitSheet sheet(cells(high.x()), cells(high.y()));
  sheet.take_all();
  // A cell is free if all that a mask may stand for there keeps its margin from the edge.
  for (const auto& ring : offset_polygon(o.outline, -(options_.margin_mm + kHalfDiagonal * options_.cell_mm)))
    sheet.release(
        CellMask::on_grid(ring, options_.cell_mm, Vec2::Constant(corner_mm()), sheet.columns(), sheet.rows()));
  return sheet;
}

Spot NestBench::first_spot(const BitSheet& sheet, const CellMask& mask, double before) {
  for (int c = 0; c + mask.columns <= sheet.columns() && c < before; ++c)
    if (const int row = sheet.lowest_free(mask, c); row >= 0) return {0, c, row, 0};
  return {};
}

std::vector<Stamp> stamps_of(const Piece& piece, bool flipped, const NestOptions& options) {
  // Grown so that a cell whose middle is outside cannot touch the piece and its half of the gap.
  const auto outline = claim_of(piece, 0.5 * options.gap_mm + kHalfDiagonal * options.cell_mm);
  const int turns = options.turn_freely ? options.turns : 2;
  std::vector<Stamp> stamps;
  for (int t = 0; t < turns; ++t) {
    const Pose pose{Vec2::Zero(), kTwoPi * t / turns, flipped};
    std::vector<Vec2> line;
    for (const Vec2& p : outline) line.push_back(pose(p));
    CellMask mask = CellMask::of(line, options.cell_mm);
    const double middle = (polygon_centre(line).x() - mask.low.x()) / options.cell_mm;
    const double share = options.tries > 1 ? kMiddleShare : 0.0;  // at once: the far side alone
    const double weight = share * middle + (1.0 - share) * mask.columns;
    stamps.push_back({pose, std::move(mask), weight});
  }
  return stamps;
}

/// The best of several orders: by size first, then what a seeded search makes of it. Orders are laid out a few at a
/// time, on all cores; how many does not depend on the machine, so that the result is the same everywhere.
Result<std::vector<Spot>> best_spots(
    const NestBench& bench, const std::vector<NestJob>& jobs, const NestOptions& options, const Progress& progress) {
  constexpr int kAtOnce = 2;
  std::vector<int> order(jobs.size());
  std::iota(order.begin(), order.end(), 0);
  std::stable_sort(
      order.begin(), order.end(), [&](int a, int b) { return jobs[a].piece->area_mm2 > jobs[b].piece->area_mm2; });
  int tried = 0;
  std::atomic<bool> stopped{false};
  // Only one of the threads asks whether to go on.
  const auto run = [&](const std::vector<int>& o, bool asks) {
    std::size_t done = 0;
    return bench.lay(jobs, o, [&] {
      if (asks &&
          !progress.keep_going(
              (tried + static_cast<double>(done++) / static_cast<double>(std::max<std::size_t>(1, o.size()))) /
              options.tries))
        stopped = true;
      return !stopped;
    });
  };
  auto best = run(order, true);
  if (best.size() != jobs.size()) return fail(Errc::cancelled, "Stopped.");
  double cost = bench.cost(jobs, best);
  Random random(7);
  std::vector<int> at = order;  // a worse order is walked through for a while, never kept
  double at_cost = cost;
  for (tried = 1; tried < options.tries && jobs.size() > 1; tried += kAtOnce) {
    std::vector<std::vector<int>> next;
    std::vector<std::vector<Spot>> spots(kAtOnce);
    for (int k = 0; k < kAtOnce; ++k) next.push_back(tried == 1 && k == 0 ? at : shuffled(at, random));
    if (tried == 1) {
      const auto longest = [&](int j) {
        return std::max((*jobs[j].stamps)[0].mask.columns, (*jobs[j].stamps)[0].mask.rows);
      };
      std::stable_sort(next[0].begin(), next[0].end(), [&](int a, int b) { return longest(a) > longest(b); });
    }
    parallel_for(kAtOnce, [&](int k) { spots[k] = run(next[k], k == 0); });
    for (int k = 0; k < kAtOnce; ++k) {
      if (spots[k].size() != jobs.size()) return fail(Errc::cancelled, "Stopped.");
      const double fresh = bench.cost(jobs, spots[k]);
      const double slack = 0.01 * (1.0 - static_cast<double>(tried) / options.tries);
      if (fresh <= at_cost + slack * random.uniform()) at = next[k], at_cost = fresh;
      if (fresh < cost) cost = fresh, best = std::move(spots[k]), at = next[k];
    }
  }
  return best;
}

}  // namespace awl
