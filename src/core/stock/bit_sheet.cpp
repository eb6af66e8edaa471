#include "core/stock/bit_sheet.hpp"

#include <algorithm>
#include <bit>
#include <cmath>
#include <numeric>

namespace awl {
namespace {

/// into |= from shifted down by so many rows.
void or_shifted(std::uint64_t* into, const std::uint64_t* from, int words, int by) {
  const int whole = by / 64, part = by % 64;
  for (int w = 0; w + whole < words; ++w) {
    std::uint64_t bits = from[w + whole] >> part;
    if (part != 0 && w + whole + 1 < words) bits |= from[w + whole + 1] << (64 - part);
    into[w] |= bits;
  }
}

}  // namespace

CellMask CellMask::of(const std::vector<Vec2>& outline, double cell_mm) {
  Vec2 low = Vec2::Constant(1e300), high = -low;
  for (const Vec2& p : outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
  const auto cells = [&](double length) { return static_cast<int>(std::ceil(length / cell_mm)) + 1; };
  return on_grid(outline, cell_mm, low, cells(high.x() - low.x()), cells(high.y() - low.y()));
}

CellMask CellMask::on_grid(const std::vector<Vec2>& outline, double cell_mm, const Vec2& low, int columns, int rows) {
  CellMask mask;
  mask.columns = columns, mask.rows = rows, mask.low = low;
  const auto middle_of = [&](int column) { return low.x() + (column + 0.5) * cell_mm; };
  const auto column_at = [&](double x) {
    const double at = (x - low.x()) / cell_mm - 0.5;
    return at > 0.0 ? static_cast<int>(std::min(at, static_cast<double>(columns))) : -1;
  };
  std::vector<std::pair<int, double>> cuts;  // column, and where along it the outline crosses
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const Vec2 &a = outline[i], &b = outline[(i + 1) % outline.size()];
    const auto [left, right] = std::minmax(a.x(), b.x());
    for (int c = std::max(0, column_at(left)); c <= std::min(columns - 1, column_at(right) + 1); ++c) {
      const double x = middle_of(c);
      if ((a.x() > x) != (b.x() > x)) cuts.emplace_back(c, a.y() + (x - a.x()) / (b.x() - a.x()) * (b.y() - a.y()));
    }
  }
  std::sort(cuts.begin(), cuts.end());
  for (std::size_t i = 0; i + 1 < cuts.size(); i += 2) {  // as many times in as out, in every column
    const int c = cuts[i].first;
    const int from = std::max(0, static_cast<int>(std::ceil((cuts[i].second - low.y()) / cell_mm - 0.5)));
    const int to = std::min(rows - 1, static_cast<int>(std::floor((cuts[i + 1].second - low.y()) / cell_mm - 0.5)));
    if (to < from) continue;
    if (!mask.runs.empty() && mask.runs.back().column == c && from <= mask.runs.back().to + 1)
      mask.runs.back().to = std::max(mask.runs.back().to, to);
    else
      mask.runs.push_back({c, from, to});
  }
  mask.by_length.resize(mask.runs.size());
  std::iota(mask.by_length.begin(), mask.by_length.end(), 0);
  std::stable_sort(mask.by_length.begin(), mask.by_length.end(),
      [&](int a, int b) { return mask.runs[a].to - mask.runs[a].from > mask.runs[b].to - mask.runs[b].from; });
  return mask;
}

BitSheet::BitSheet(int columns, int rows)
    : columns_(std::max(columns, 0)), rows_(std::max(rows, 0)), words_(rows_ / 64 + 1) {
  while (levels_ < kLevels && (1 << levels_) <= std::max(rows_, 1)) ++levels_;
  bits_.assign(static_cast<std::size_t>(columns_) * levels_ * words_, 0);
  longest_free_.assign(columns_, rows_);
}

void BitSheet::renew(int column) {
  for (int level = 1; level < levels_; ++level) {
    const std::uint64_t* below = column_bits(level - 1, column);
    std::uint64_t* own = column_bits(level, column);
    std::copy(below, below + words_, own);
    or_shifted(own, below, words_, 1 << (level - 1));
  }
  const std::uint64_t* bits = column_bits(0, column);
  int longest = 0, free = 0;
  for (int w = 0; w < words_; ++w) {
    const int end = std::min(64, rows_ - 64 * w);
    for (int b = 0; b < end;) {
      const std::uint64_t rest = bits[w] >> b;
      const int clear = std::min(end - b, rest == 0 ? 64 : std::countr_zero(rest));
      free += clear, b += clear;
      longest = std::max(longest, free);
      if (b >= end) break;
      free = 0, b += std::countr_one(bits[w] >> b);
    }
  }
  longest_free_[column] = longest;
}

void BitSheet::take(const CellMask& mask, int column, int row) {
  int last = -1;
  for (const auto& run : mask.runs) {
    std::uint64_t* bits = column_bits(0, column + run.column);
    for (int r = row + run.from; r <= row + run.to; ++r) bits[r / 64] |= std::uint64_t{1} << (r % 64);
    if (last >= 0 && last != run.column) renew(column + last);
    last = run.column;
  }
  if (last >= 0) renew(column + last);
}

void BitSheet::take_all() {
  std::fill(bits_.begin(), bits_.end(), ~std::uint64_t{0});
  std::fill(longest_free_.begin(), longest_free_.end(), 0);
}

void BitSheet::release(const CellMask& mask) {
  for (const auto& run : mask.runs) {
    std::uint64_t* bits = column_bits(0, run.column);
    for (int r = run.from; r <= run.to; ++r) bits[r / 64] &= ~(std::uint64_t{1} << (r % 64));
  }
  for (int c = 0; c < columns_; ++c) renew(c);
}

int BitSheet::lowest_free(const CellMask& mask, int column) const {
  const int most = rows_ - mask.rows;
  if (most < 0 || column + mask.columns > columns_) return -1;
  for (const int i : mask.by_length)
    if (mask.runs[i].to - mask.runs[i].from >= longest_free_[column + mask.runs[i].column]) return -1;
  std::array<std::uint64_t, 256> met;
  const int words = std::min(words_, most / 64 + 1);
  if (words_ > static_cast<int>(met.size())) return -1;
  std::fill(met.begin(), met.begin() + words, 0);
  int from = 0;  // rows below are known to be taken
  for (const int i : mask.by_length) {
    const auto& run = mask.runs[i];
    const int length = run.to - run.from + 1, level = std::bit_width(static_cast<unsigned>(length)) - 1;
    const std::uint64_t* bits = column_bits(level, column + run.column);
    // Only the words that matter, from the first not yet all taken.
    const int first = from / 64;
    for (const int by : {run.from, run.to + 1 - (1 << level)}) {
      const int whole = by / 64, part = by % 64;
      for (int w = first; w < words && w + whole < words_; ++w) {
        std::uint64_t b = bits[w + whole] >> part;
        if (part != 0 && w + whole + 1 < words_) b |= bits[w + whole + 1] << (64 - part);
        met[w] |= b;
      }
    }
    while (from <= most && from / 64 < words && met[from / 64] >> (from % 64) & 1) {
      const std::uint64_t left = ~(met[from / 64] >> (from % 64));
      from += std::min(std::countr_zero(left), 64 - from % 64);
    }
    if (from > most) return -1;
  }
  return from;
}

}  // namespace awl
