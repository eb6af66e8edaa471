#include "bench/nest_jobs.hpp"

#include <chrono>
#include <cmath>
#include <cstdio>
#include <vector>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/stock/nest.hpp"

namespace awl::bench {
namespace {

constexpr SheetSize kSheet{1000.0, 600.0};

/// Gores, petals, crescents, strips and plates in the sizes helmets have.
std::vector<Piece> job(std::uint64_t seed) {
  Random r(seed);
  std::vector<Piece> pieces;
  const int count = 20 + static_cast<int>(r.next() % 26);
  for (int n = 1; n <= count; ++n) {
    std::vector<Vec2> line;
    const double tall = r.uniform(40, 190), wide = r.uniform(20, 80);
    switch (r.next() % 4) {
      case 0:  // a gore: two bellied sides to a tip
        for (int i = 0; i <= 12; ++i) line.push_back({0.5 * wide * std::cos(0.5 * kPi * i / 12.0), tall * i / 12.0});
        for (int i = 11; i >= 0; --i) line.push_back({-0.5 * wide * std::cos(0.5 * kPi * i / 12.0), tall * i / 12.0});
        break;
      case 1:  // a crescent
        for (int i = 0; i <= 16; ++i)
          line.push_back(
              tall * Vec2(std::cos(radians(200.0 * i / 16 - 10)), std::sin(radians(200.0 * i / 16 - 10))) * 0.6);
        for (int i = 16; i >= 0; --i)
          line.push_back((0.6 * tall - 0.5 * wide) *
              Vec2(std::cos(radians(200.0 * i / 16 - 10)), std::sin(radians(200.0 * i / 16 - 10))));
        if (0.6 * tall - 0.5 * wide > 4.0) break;
        line.clear();
        [[fallthrough]];
      case 2:  // a lump with a bay
        for (int i = 0; i < 36; ++i) {
          const double a = kTwoPi * i / 36, s = 1.0 - 0.5 * bell(std::remainder(a - 1.0, kTwoPi), 0.5);
          line.push_back({0.5 * wide * s * std::cos(a), 0.4 * tall * s * std::sin(a)});
        }
        break;
      default:  // a tapering strip
        line = {{0, 0}, {wide, 0}, {0.7 * wide, tall}, {0.2 * wide, tall}};
    }
    pieces.push_back(plate_piece("p" + std::to_string(n), n, line, {}, 5.0));
    pieces.back().copies = 1 + static_cast<int>(r.next() % 2);
  }
  return pieces;
}

/// Area of the pieces over the sheet they take: all sheets but the last whole, of the last as far as it is used.
double density(const std::vector<Piece>& pieces, const Layout& l) {
  double area = 0.0, right = 0.0;
  for (const Placement& p : l.placements) {
    area += pieces[p.piece.value].area_mm2;
    if (p.sheet == l.sheets - 1)
      for (const Vec2& q : pieces[p.piece.value].outline) right = std::max(right, p.pose(q).x());
  }
  return area / (((l.sheets - 1) * kSheet.width_mm + right) * kSheet.height_mm);
}

double now_s() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

}  // namespace

void nest_jobs() {
  double worst = 1e9, sum = 0.0, slowest = 0.0, overlaps = 0.0;
  constexpr int kJobs = 10;
  std::printf("\nnesting: density first bitmap, density by search, ratio, seconds of each\n");
  for (int n = 0; n < kJobs; ++n) {
    const auto pieces = job(100 + static_cast<std::uint64_t>(n));
    double start = now_s();
    const auto first = nest(pieces, kSheet, {.cell_mm = 2.0, .turns = 4});
    const double first_s = now_s() - start;
    start = now_s();
    const auto best = nest(pieces, kSheet, {.cell_mm = 1.0, .turns = 32, .tries = 50});
    const double best_s = now_s() - start;
    if (!first || !best) continue;
    const double a = density(pieces, *first), b = density(pieces, *best);
    std::printf("  job %d, %zu copies\t%.3f\t%.3f\t%.3f\t%.2f\t%.2f\n", n + 1, best->placements.size(), a, b, b / a,
        first_s, best_s);
    worst = std::min(worst, b / a), sum += b / a / kJobs, slowest = std::max(slowest, best_s),
    overlaps += best->overlap_mm2;
  }
  std::printf("nest_ratio_mean\t%.3f\nnest_ratio_worst\t%.3f\nnest_slowest_s\t%.2f\nnest_overlap_mm2\t%.3f\n", sum,
      worst, slowest, overlaps);
}

}  // namespace awl::bench
