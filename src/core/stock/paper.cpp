#include "core/stock/paper.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

// Workshop values.
constexpr double kPatternGapMm = 4.0, kPageMarginMm = 1.0;
constexpr int kPatternTurns = 24;
constexpr double kTurnStepDeg = 3.0, kAlongMm = 4.0;
constexpr double kLeastPageMm = 60.0;

Eigen::AlignedBox2d extent_of(const std::vector<Vec2>& line) {
  Eigen::AlignedBox2d box;
  for (const Vec2& p : line) box.extend(p);
  return box;
}

std::vector<Vec2> turned(const std::vector<Vec2>& line, double angle_rad) {
  Pose pose;
  pose.angle_rad = angle_rad;
  std::vector<Vec2> out;
  for (const Vec2& p : line) out.push_back(pose(p));
  return out;
}

/// An outline with places no further apart than a knife would jump.
std::vector<Vec2> dense(const std::vector<Vec2>& line) {
  std::vector<Vec2> out;
  for (std::size_t i = 0; i < line.size(); ++i) {
    const Vec2 &a = line[i], &b = line[(i + 1) % line.size()];
    const int steps = std::max(1, static_cast<int>(std::ceil((b - a).norm() / kAlongMm)));
    for (int k = 0; k < steps; ++k) out.push_back(a + (b - a) * k / steps);
  }
  return out;
}

/// Everything a piece is cut by, for its reach.
std::vector<Vec2> reach_of(const Piece& piece) {
  std::vector<Vec2> reach = piece.outline;
  reach.insert(reach.end(), piece.knife_line().begin(), piece.knife_line().end());
  return reach;
}

int tiles(double length, double page, double overlap) {
  return std::max(1, static_cast<int>(std::ceil((length - overlap) / (page - overlap) - 1e-9)));
}

/// Marks the pages an outline runs over or covers; a place in an overlap counts for one of them.
void mark_pages(Spread& spread, const std::vector<Vec2>& outline, const PaperPage& page) {
  const Vec2 step(page.width_mm - page.overlap_mm, page.height_mm - page.overlap_mm);
  const auto cell = [&](double x, double along, int count) {
    return std::clamp(static_cast<int>(std::floor((x - 0.5 * page.overlap_mm) / along)), 0, count - 1);
  };
  spread.used.assign(static_cast<std::size_t>(spread.columns) * static_cast<std::size_t>(spread.rows), 0);
  for (const Vec2& p : outline)
    spread.used[cell(p.y(), step.y(), spread.rows) * spread.columns + cell(p.x(), step.x(), spread.columns)] = 1;
  for (int r = 0; r < spread.rows; ++r)
    for (int c = 0; c < spread.columns; ++c) {
      const Vec2 middle(c * step.x() + 0.5 * page.width_mm, r * step.y() + 0.5 * page.height_mm);
      char& used = spread.used[r * spread.columns + c];
      if (used == 0 && inside(outline, middle)) used = 1;
    }
}

/// One pattern over as few pages as any turn of it needs.
Spread over_pages(const Piece& piece, const PaperPage& page) {
  const std::vector<Vec2> line = dense(reach_of(piece));
  Spread best;
  double spare = 0.0;
  for (double deg = 0.0; deg < 180.0; deg += kTurnStepDeg) {
    const auto lies = turned(line, radians(deg));
    const Eigen::AlignedBox2d box = extent_of(lies);
    const Vec2 size = box.sizes() + Vec2::Constant(2.0 * kPageMarginMm);
    Spread next;
    next.columns = tiles(size.x(), page.width_mm, page.overlap_mm);
    next.rows = tiles(size.y(), page.height_mm, page.overlap_mm);
    next.room = {next.columns * (page.width_mm - page.overlap_mm) + page.overlap_mm,
        next.rows * (page.height_mm - page.overlap_mm) + page.overlap_mm};
    const Vec2 slack = Vec2(next.room.width_mm, next.room.height_mm) - size;
    for (const double fx : {0.5, 0.0, 1.0})
      for (const double fy : {0.5, 0.0, 1.0}) {
        const Vec2 at = Vec2::Constant(kPageMarginMm) + Vec2(fx * slack.x(), fy * slack.y()) - box.min();
        std::vector<Vec2> moved = lies;
        for (Vec2& p : moved) p += at;
        mark_pages(next, moved, page);
        const double room = -next.room.width_mm * next.room.height_mm;
        const auto rank = [](const Spread& s) { return std::pair(s.pages(), s.joins()); };
        if (!best.pieces.empty() && std::tuple(rank(best), -spare) <= std::tuple(rank(next), -room)) continue;
        next.pieces = {piece.id}, next.poses = {{at, radians(deg), false}};
        best = next, spare = room;
      }
  }
  return best;
}

bool fits_a_page(const Piece& piece, const PaperPage& page) {
  const auto reach = reach_of(piece);
  for (int k = 0; k < kPatternTurns; ++k) {
    const Vec2 size = extent_of(turned(reach, kTwoPi * k / kPatternTurns)).sizes();
    // Beside the page's rim a pattern keeps half of what lies between two.
    const double rim = 2.0 * kPageMarginMm + kPatternGapMm;
    if (size.x() + rim < page.width_mm && size.y() + rim < page.height_mm) return true;
  }
  return false;
}

/// Small patterns of one part, together on single pages.
Result<std::vector<Spread>> on_single_pages(std::vector<Piece> small, const PaperPage& page, const Progress& progress) {
  std::vector<PieceId> known;
  for (std::size_t i = 0; i < small.size(); ++i) {
    known.push_back(small[i].id);
    small[i].id = PieceId{static_cast<int>(i)};
    small[i].copies = 1, small[i].thickness_mm = 1.0, small[i].stuff.clear();
  }
  NestOptions options;
  options.gap_mm = kPatternGapMm, options.margin_mm = kPageMarginMm, options.cell_mm = 1.0,
  options.turns = kPatternTurns;
  const auto laid = nest(small, {page.width_mm, page.height_mm}, options, {}, progress);
  if (!laid) return fail(laid);
  std::vector<Spread> pages(static_cast<std::size_t>(laid->sheets));
  for (Spread& s : pages) s.room = laid->sheet, s.used = {1};
  for (const Placement& p : laid->placements) {
    Spread& on = pages[static_cast<std::size_t>(p.sheet)];
    on.pieces.push_back(known[static_cast<std::size_t>(p.piece.value)]), on.poses.push_back(p.pose);
  }
  std::erase_if(pages, [](const Spread& s) { return s.pieces.empty(); });
  return pages;
}

const Piece& piece_of(const std::vector<Piece>& pieces, PieceId id) {
  return *std::find_if(pieces.begin(), pieces.end(), [&](const Piece& p) { return p.id == id; });
}

std::string title_of(const Spread& spread, const std::vector<Piece>& pieces, const std::string& part) {
  std::vector<int> numbers;
  for (const PieceId id : spread.pieces) numbers.push_back(piece_of(pieces, id).number);
  std::sort(numbers.begin(), numbers.end());
  std::string title = part.empty() ? "" : part + ": ";
  title += numbers.size() == 1 ? "piece " : "pieces ";
  for (std::size_t i = 0; i < numbers.size(); ++i) title += (i > 0 ? ", " : "") + std::to_string(numbers[i]);
  return title;
}

int first_number(const Spread& spread, const std::vector<Piece>& pieces) {
  int first = 1 << 30;
  for (const PieceId id : spread.pieces) first = std::min(first, piece_of(pieces, id).number);
  return first;
}

}  // namespace

int Spread::pages() const { return static_cast<int>(std::count(used.begin(), used.end(), 1)); }

int Spread::joins() const {
  int count = 0;
  for (int r = 0; r < rows; ++r)
    for (int c = 0; c < columns; ++c)
      if (uses(c, r)) count += (uses(c + 1, r) ? 1 : 0) + (uses(c, r + 1) ? 1 : 0);
  return count;
}

Result<std::vector<Spread>> spread_on_paper(const std::vector<Piece>& pieces, const PaperPage& page,
    const std::function<std::string(const Piece&)>& part_of, const Progress& progress) {
  if (!(page.width_mm - page.overlap_mm >= kLeastPageMm && page.height_mm - page.overlap_mm >= kLeastPageMm))
    return fail(Errc::out_of_range,
        "A page of " + fixed(page.width_mm, 0) + " x " + fixed(page.height_mm, 0) + " mm inside its margins, " +
            fixed(page.overlap_mm, 0) + " mm of them shared, leaves no room for patterns; " + fixed(kLeastPageMm, 0) +
            " mm are needed.");
  std::vector<std::string> parts;
  std::map<std::string, std::vector<const Piece*>> of_part;
  for (const Piece& p : pieces) {
    const std::string part = part_of ? part_of(p) : "";
    if (of_part.count(part) == 0) parts.push_back(part);
    of_part[part].push_back(&p);
  }
  std::vector<Spread> all;
  std::size_t done = 0;
  for (const std::string& part : parts) {
    if (!progress.keep_going(static_cast<double>(done) / static_cast<double>(pieces.size())))
      return fail(Errc::cancelled, "Stopped.");
    std::vector<Piece> small;
    std::vector<Spread> spreads;
    for (const Piece* p : of_part[part]) {
      if (fits_a_page(*p, page))
        small.push_back(*p);
      else
        spreads.push_back(over_pages(*p, page));
    }
    done += of_part[part].size();
    if (!small.empty()) {
      auto single = on_single_pages(std::move(small), page, {});
      if (!single) return fail(single);
      spreads.insert(spreads.end(), single->begin(), single->end());
    }
    std::stable_sort(spreads.begin(), spreads.end(),
        [&](const Spread& a, const Spread& b) { return first_number(a, pieces) < first_number(b, pieces); });
    for (Spread& s : spreads) s.title = title_of(s, pieces, part);
    all.insert(all.end(), spreads.begin(), spreads.end());
  }
  return all;
}

Drawing drawing_of(const Spread& spread, const std::vector<Piece>& pieces) {
  Drawing out;
  for (std::size_t i = 0; i < spread.pieces.size(); ++i) {
    const Drawing one = placed(draw_piece(piece_of(pieces, spread.pieces[i])), spread.poses[i]);
    out.marks.insert(out.marks.end(), one.marks.begin(), one.marks.end());
  }
  return out;
}

}  // namespace awl
