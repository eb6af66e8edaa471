#include "core/stock/nest.hpp"

#include <algorithm>
#include <atomic>
#include <clipper.hpp>
#include <cmath>
#include <map>
#include <memory>
#include <numeric>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/random.hpp"
#include "core/stock/bit_sheet.hpp"

namespace awl {
namespace {

constexpr double kClipperUnits = 1000.0;   // per millimetre
constexpr double kHalfDiagonal = 0.7072;   // of a cell
constexpr double kMiddleShare = 1.0;       // how much a copy's middle counts against its far side when a search chooses its turn

ClipperLib::Path to_path(const std::vector<Vec2>& line) {
  ClipperLib::Path path;
  for (const Vec2& p : line) path.push_back({std::llround(p.x() * kClipperUnits), std::llround(p.y() * kClipperUnits)});
  return path;
}

/// The outline with room round it, whole.
std::vector<Vec2> grown(const std::vector<Vec2>& outline, double by_mm) {
  auto rings = offset_polygon(outline, by_mm);
  if (rings.empty()) return {};
  return std::move(*std::max_element(rings.begin(), rings.end(), [](const auto& a, const auto& b) { return std::abs(signed_area_mm2(a)) < std::abs(signed_area_mm2(b)); }));
}

/// A copy in one orientation: its mask and how it is turned, at the origin.
struct Stamp {
  Pose pose;
  CellMask mask;
  double weight = 0.0;   ///< columns from its low side to where it is judged: between its middle and its far side
};

/// One copy to lay, with all its turns.
struct Job {
  const Piece* piece = nullptr;
  int copy = 0;
  std::shared_ptr<const std::vector<Stamp>> stamps;
};

struct Spot {
  int blank = -1, column = 0, row = 0, turn = -1;
};

/// Sheets of one thickness: the offcuts, then as many new ones as are needed.
class Bench {
 public:
  Bench(const SheetSize& sheet, const NestOptions& options, const std::vector<Offcut>& offcuts) : options_(options) {
    const auto cells = [&](double length) { return static_cast<int>((length - 2 * options.margin_mm + options.gap_mm) / options.cell_mm); };
    fresh_ = std::make_shared<const BitSheet>(cells(sheet.width_mm), cells(sheet.height_mm));
    for (const Offcut& o : offcuts) start_.push_back(offcut_sheet(o));
    offcuts_ = static_cast<int>(start_.size());
  }

  /// Puts a copy the maker holds on its sheet before anything else.
  void hold(int blank, const std::vector<Vec2>& grown_outline) {
    while (static_cast<int>(start_.size()) <= blank) start_.push_back(*fresh_);
    BitSheet& sheet = start_[blank];
    sheet.take(CellMask::on_grid(grown_outline, options_.cell_mm, Vec2::Constant(corner_mm()), sheet.columns(), sheet.rows()), 0, 0);
    held_to_ = std::max(held_to_, blank + 1);
  }

  bool fits_empty(const CellMask& mask) const {
    if (mask.columns <= fresh_->columns() && mask.rows <= fresh_->rows()) return true;
    return std::any_of(start_.begin(), start_.begin() + offcuts_, [&](const BitSheet& s) { return first_spot(s, mask, 1e300).blank >= 0; });
  }

  /// Lays the jobs in this order. Empty if one finds no place. `keep_going` is asked after each.
  std::vector<Spot> lay(const std::vector<Job>& jobs, const std::vector<int>& order, const std::function<bool()>& keep_going) const {
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

  /// How much sheet that takes: every sheet but the last whole, of the last as far as it is used; offcuts count a little.
  double cost(const std::vector<Job>& jobs, const std::vector<Spot>& spots) const {
    int last = -1;
    double right = 0.0, offcuts = 0.0;
    std::vector<char> used(offcuts_, 0);
    for (std::size_t j = 0; j < spots.size(); ++j)
      if (spots[j].blank >= offcuts_) last = std::max(last, spots[j].blank);
      else if (!used[spots[j].blank]) used[spots[j].blank] = 1, offcuts += 1.0;
    double spread = 0.0;  // breaks ties: the more to the left all lies, the nearer a better order is
    for (std::size_t j = 0; j < spots.size(); ++j) {
      const double end = spots[j].column + (*jobs[j].stamps)[spots[j].turn].mask.columns;
      if (spots[j].blank == last) right = std::max(right, end), spread += end / fresh_->columns();
    }
    const double whole = last < offcuts_ ? 0.0 : last - offcuts_;
    return whole + (last < 0 ? 0.0 : right / fresh_->columns()) + 1e-3 * spread / static_cast<double>(spots.size()) + 1e-3 * offcuts;
  }

  int blanks(const std::vector<Spot>& spots) const {
    int most = held_to_;
    for (const Spot& s : spots) most = std::max(most, s.blank + 1);
    return most;
  }
  int offcuts() const { return offcuts_; }
  double corner_mm() const { return options_.margin_mm - 0.5 * options_.gap_mm; }

 private:
  BitSheet offcut_sheet(const Offcut& o) const {
    Vec2 high = Vec2::Zero();
    for (const Vec2& p : o.outline) high = high.cwiseMax(p);
    const auto cells = [&](double length) { return static_cast<int>(std::max(0.0, length - 2 * corner_mm()) / options_.cell_mm); };
    BitSheet sheet(cells(high.x()), cells(high.y()));
    sheet.take_all();
    // A cell is free if all that a mask may stand for there keeps its margin from the edge.
    for (const auto& ring : offset_polygon(o.outline, -(options_.margin_mm + kHalfDiagonal * options_.cell_mm)))
      sheet.release(CellMask::on_grid(ring, options_.cell_mm, Vec2::Constant(corner_mm()), sheet.columns(), sheet.rows()));
    return sheet;
  }

  /// Leftmost, then lowest, its low column before `before`.
  static Spot first_spot(const BitSheet& sheet, const CellMask& mask, double before) {
    for (int c = 0; c + mask.columns <= sheet.columns() && c < before; ++c)
      if (const int row = sheet.lowest_free(mask, c); row >= 0) return {0, c, row, 0};
    return {};
  }

  NestOptions options_;
  std::shared_ptr<const BitSheet> fresh_;
  std::vector<BitSheet> start_;
  int offcuts_ = 0, held_to_ = 0;
};

std::vector<Stamp> stamps_of(const std::vector<Vec2>& knife_line, bool flipped, const NestOptions& options) {
  // Grown so that a cell whose middle is outside cannot touch the piece and its half of the gap.
  const auto outline = grown(knife_line, 0.5 * options.gap_mm + kHalfDiagonal * options.cell_mm);
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

Result<void> check_sheet(const SheetSize& s) {
  if (s.width_mm >= 50.0 && s.height_mm >= 50.0 && s.width_mm <= 5000.0 && s.height_mm <= 5000.0) return {};
  return fail(Errc::out_of_range, "A sheet of " + fixed(s.width_mm, 0) + " x " + fixed(s.height_mm, 0) + " mm is outside 50 to 5000 mm a side.", "foam/sheet");
}

std::string too_large(const Piece& piece, const SheetSize& sheet) {
  Vec2 low = piece.knife_line()[0], high = low;
  for (const Vec2& p : piece.knife_line()) low = low.cwiseMin(p), high = high.cwiseMax(p);
  return "Piece " + std::to_string(piece.number) + " (" + piece.name + ") is " + fixed((high - low).x(), 0) + " x " + fixed((high - low).y(), 0) +
         " mm and does not fit a sheet of " + fixed(sheet.width_mm, 0) + " x " + fixed(sheet.height_mm, 0) + " mm. Take a larger sheet, glue two edge to edge, or add a seam.";
}

/// The pieces of one kind and thickness and what they are laid on.
struct Group {
  std::string stuff;
  double thickness_mm = 0.0;
  SheetSize sheet;
  std::vector<Offcut> offcuts;
  std::vector<Job> jobs;
  std::vector<Placement> held;   ///< their sheets count from the group's first
};

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

/// The best of several orders: by size first, then what a seeded search makes of it. Orders are laid out a few at a time, on all
/// cores; how many does not depend on the machine, so that the result is the same everywhere.
Result<std::vector<Spot>> best_spots(const Bench& bench, const std::vector<Job>& jobs, const NestOptions& options, const Progress& progress) {
  constexpr int kAtOnce = 2;
  std::vector<int> order(jobs.size());
  std::iota(order.begin(), order.end(), 0);
  std::stable_sort(order.begin(), order.end(), [&](int a, int b) { return jobs[a].piece->area_mm2 > jobs[b].piece->area_mm2; });
  int tried = 0;
  std::atomic<bool> stopped{false};
  // Only one of the threads asks whether to go on.
  const auto run = [&](const std::vector<int>& o, bool asks) {
    std::size_t done = 0;
    return bench.lay(jobs, o, [&] {
      if (asks && !progress.keep_going((tried + static_cast<double>(done++) / static_cast<double>(std::max<std::size_t>(1, o.size()))) / options.tries)) stopped = true;
      return !stopped;
    });
  };
  auto best = run(order, true);
  if (best.size() != jobs.size()) return fail(Errc::cancelled, "Stopped.");
  double cost = bench.cost(jobs, best);
  Random random(7);
  std::vector<int> at = order;   // a worse order is walked through for a while, never kept
  double at_cost = cost;
  for (tried = 1; tried < options.tries && jobs.size() > 1; tried += kAtOnce) {
    std::vector<std::vector<int>> next;
    std::vector<std::vector<Spot>> spots(kAtOnce);
    for (int k = 0; k < kAtOnce; ++k) next.push_back(tried == 1 && k == 0 ? at : shuffled(at, random));
    if (tried == 1) {
      const auto longest = [&](int j) { return std::max((*jobs[j].stamps)[0].mask.columns, (*jobs[j].stamps)[0].mask.rows); };
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

/// Pushes the copies of one new sheet closer together on finer cells, from left to right, each also turned a little; those near
/// the right end may drop into any hole. What finds no place leaves the sheet as it was.
class Tightener {
 public:
  Tightener(const SheetSize& sheet, const NestOptions& options) : sheet_(sheet), options_(options) { options_.cell_mm = kFineMm; }

  /// `held`: outlines already grown that do not move. True if the sheet is shorter now.
  bool run(std::vector<Placement*> copies, const std::vector<Piece>& pieces, const std::vector<std::vector<Vec2>>& held) {
    const auto cells = [&](double length) { return static_cast<int>((length - 2 * options_.margin_mm + options_.gap_mm) / kFineMm); };
    std::vector<Pose> before;
    for (const Placement* p : copies) before.push_back(p->pose);
    const double was = end_of(copies, pieces);
    BitSheet bits(cells(sheet_.width_mm), cells(sheet_.height_mm));
    for (const auto& h : held) bits.take(CellMask::on_grid(h, kFineMm, Vec2::Constant(corner()), bits.columns(), bits.rows()), 0, 0);
    std::stable_sort(copies.begin(), copies.end(), [&](const Placement* a, const Placement* b) { return left_of(posed(line_of(*a, pieces), a->pose)) < left_of(posed(line_of(*b, pieces), b->pose)); });
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
    if (line.empty()) line = grown(pieces[p.piece.value].knife_line(), 0.5 * options_.gap_mm + kHalfDiagonal * kFineMm);
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
      const int last = std::min({bits.columns() - mask.columns, least_right - mask.columns - 1, static_cast<int>((left - corner() + kPastMm) / kFineMm)});
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

std::vector<Group> groups_of(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestStock& stock, const NestOptions& options) {
  std::map<std::pair<std::string, double>, Group> by_kind;
  std::map<std::pair<std::string, int>, const HeldCopy*> held;
  for (const HeldCopy& h : stock.held) held[{h.piece, h.copy}] = &h;
  for (const Piece& piece : pieces) {
    Group& group = by_kind[{piece.stuff, piece.thickness_mm}];
    group.stuff = piece.stuff, group.thickness_mm = piece.thickness_mm, group.sheet = sheet;
    for (const OtherSheet& o : stock.others)
      if (o.stuff == piece.stuff && std::abs(o.thickness_mm - piece.thickness_mm) < 0.05) group.sheet = o.size;
    std::shared_ptr<const std::vector<Stamp>> straight, flipped;
    for (int copy = 0; copy < piece.copies; ++copy) {
      if (const auto h = held.find({piece.name, copy}); h != held.end()) {
        group.held.push_back({piece.id, h->second->blank, {h->second->at, h->second->angle_rad, copy == 1}, copy, true});
        continue;
      }
      auto& stamps = copy == 1 ? flipped : straight;
      if (!stamps) stamps = std::make_shared<const std::vector<Stamp>>(stamps_of(piece.knife_line(), copy == 1, options));
      group.jobs.push_back({&piece, copy, stamps});
    }
  }
  std::vector<Group> groups;
  for (auto& [kind, group] : by_kind) {
    for (const Offcut& o : stock.offcuts)
      if (kind.first.empty() && std::abs(o.thickness_mm - kind.second) < 0.05) group.offcuts.push_back(o);
    std::stable_sort(group.offcuts.begin(), group.offcuts.end(), [](const Offcut& a, const Offcut& b) { return signed_area_mm2(a.outline) < signed_area_mm2(b.outline); });
    groups.push_back(std::move(group));
  }
  return groups;
}

/// Searched layouts: the last new sheet is the one whose length counts.
void tighten_last(const Bench& bench, const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options, std::vector<Placement>& placed) {
  int last = -1;
  for (const Placement& p : placed) last = std::max(last, p.sheet);
  if (last < bench.offcuts()) return;
  std::vector<Placement*> copies;
  std::vector<std::vector<Vec2>> held;
  for (Placement& p : placed) {
    if (p.sheet != last) continue;
    if (p.held) held.push_back(posed(grown(pieces[p.piece.value].knife_line(), 0.5 * options.gap_mm + kHalfDiagonal), p.pose));
    else copies.push_back(&p);
  }
  Tightener tightener(sheet, options);
  constexpr int kPasses = 4;
  for (int pass = 0; pass < kPasses && tightener.run(copies, pieces, held); ++pass) {}
}

/// Lays one group and adds it to the layout, its unused offcuts left out.
Result<void> lay_group(Group& group, const std::vector<Piece>& pieces, const NestOptions& options, Layout& layout, const Progress& progress) {
  const SheetSize& sheet = group.sheet;
  Bench bench(sheet, options, group.offcuts);
  for (const Placement& h : group.held) {
    std::vector<Vec2> line;
    for (const Vec2& p : grown(pieces[h.piece.value].knife_line(), 0.5 * options.gap_mm + kHalfDiagonal * options.cell_mm)) line.push_back(h.pose(p));
    bench.hold(h.sheet, line);
  }
  for (Job& job : group.jobs) {
    std::vector<Stamp> fitting;
    for (const Stamp& s : *job.stamps)
      if (bench.fits_empty(s.mask)) fitting.push_back(s);
    if (fitting.empty()) return fail(Errc::out_of_range, too_large(*job.piece, sheet), "pieces/" + job.piece->name);
    if (fitting.size() < job.stamps->size()) job.stamps = std::make_shared<const std::vector<Stamp>>(std::move(fitting));
  }
  const auto spots = best_spots(bench, group.jobs, options, progress);
  if (!spots) return tl::make_unexpected(spots.error());
  std::vector<Placement> placed = group.held;
  for (std::size_t j = 0; j < group.jobs.size(); ++j) {
    const Spot& spot = (*spots)[j];
    const Stamp& stamp = (*group.jobs[j].stamps)[spot.turn];
    Pose pose = stamp.pose;
    pose.at = Vec2::Constant(bench.corner_mm()) + options.cell_mm * Vec2(spot.column, spot.row) - stamp.mask.low;
    placed.push_back({group.jobs[j].piece->id, spot.blank, pose, group.jobs[j].copy, false});
  }
  if (options.tries > 1) tighten_last(bench, pieces, sheet, options, placed);
  std::vector<int> number(bench.blanks(*spots), -1);
  std::set<int> used;
  for (const Placement& p : placed) used.insert(p.sheet);
  for (const int b : used) {
    number[b] = layout.sheets++;
    Blank blank;
    blank.thickness_mm = group.thickness_mm, blank.stuff = group.stuff, blank.place = b;
    if (b < bench.offcuts()) blank.offcut = group.offcuts[b].id, blank.name = group.offcuts[b].name, blank.outline = group.offcuts[b].outline;
    else blank.outline = {{0, 0}, {sheet.width_mm, 0}, {sheet.width_mm, sheet.height_mm}, {0, sheet.height_mm}};
    blank.area_mm2 = signed_area_mm2(blank.outline);
    layout.blanks.push_back(std::move(blank));
  }
  for (Placement& p : placed) p.sheet = number[p.sheet], layout.placements.push_back(p);
  return {};
}

}  // namespace

Result<Layout> nest(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options, const NestStock& stock, const Progress& progress) {
  if (auto good = check_sheet(sheet); !good) return tl::make_unexpected(good.error());
  if (!progress.keep_going(0.0)) return fail(Errc::cancelled, "Stopped.");
  Layout layout;
  layout.sheet = sheet;
  auto groups = groups_of(pieces, sheet, stock, options);
  double done = 0.0, total = 0.0, used = 0.0, area = 0.0;
  for (const Group& g : groups) total += static_cast<double>(g.jobs.size()) + 1.0;
  for (Group& g : groups) {
    const double share = (static_cast<double>(g.jobs.size()) + 1.0) / total;
    if (auto laid = lay_group(g, pieces, options, layout, progress.span(done, done + share)); !laid) return tl::make_unexpected(laid.error());
    done += share;
  }
  for (const Placement& p : layout.placements) used += pieces[p.piece.value].area_mm2;
  for (const Blank& b : layout.blanks) area += b.area_mm2;
  layout.density = area > 0.0 ? used / area : 0.0;
  layout.overlap_mm2 = overlap_area_mm2(pieces, layout);
  if (layout.overlap_mm2 > 0.01) {
    const bool held = std::any_of(layout.placements.begin(), layout.placements.end(), [](const Placement& p) { return p.held; });
    return fail(Errc::overlap, held ? "Pieces laid down by hand lie over each other or over the edge, by " + fixed(layout.overlap_mm2, 0) + " mm2: move one, or let it be laid again."
                                    : "Pieces overlap by " + fixed(layout.overlap_mm2, 2) + " mm2 on the sheets.", "foam/layout");
  }
  return layout;
}

namespace {

std::vector<Vec2> to_line(const ClipperLib::Path& path) {
  std::vector<Vec2> line;
  for (const auto& p : path) line.push_back(Vec2(static_cast<double>(p.X), static_cast<double>(p.Y)) / kClipperUnits);
  return line;
}

ClipperLib::Paths difference(const ClipperLib::Paths& from, const ClipperLib::Paths& cut) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(from, ClipperLib::ptSubject, true);
  clipper.AddPaths(cut, ClipperLib::ptClip, true);
  ClipperLib::Paths out;
  clipper.Execute(ClipperLib::ctDifference, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  return out;
}

/// A slit from a hole to the sheet's edge below: what is left round it can then be told by one outline.
ClipperLib::Path slit_below(const ClipperLib::Path& hole) {
  const auto low = *std::min_element(hole.begin(), hole.end(), [](const auto& a, const auto& b) { return a.Y < b.Y; });
  const auto half = static_cast<ClipperLib::cInt>(0.5 * kClipperUnits), up = static_cast<ClipperLib::cInt>(kClipperUnits), far = static_cast<ClipperLib::cInt>(1e4 * kClipperUnits);
  return {{low.X - half, low.Y - far}, {low.X + half, low.Y - far}, {low.X + half, low.Y + up}, {low.X - half, low.Y + up}};
}

}  // namespace

std::vector<Offcut> leftovers(const std::vector<Piece>& pieces, const Layout& layout, const std::string& foam, double gap_mm, double least_mm) {
  std::vector<Offcut> kept;
  for (int s = 0; s < layout.sheets; ++s) {
    const Blank& blank = layout.blanks[s];
    ClipperLib::Paths cut;
    for (const Placement& p : layout.placements) {
      if (p.sheet != s) continue;
      std::vector<Vec2> line;
      for (const Vec2& q : grown(pieces[p.piece.value].knife_line(), 0.5 * gap_mm)) line.push_back(p.pose(q));
      cut.push_back(to_path(line));
      if (!ClipperLib::Orientation(cut.back())) ClipperLib::ReversePath(cut.back());
    }
    auto left = difference({to_path(blank.outline)}, cut);
    for (int round = 0; round < 100; ++round) {
      const auto hole = std::find_if(left.begin(), left.end(), [](const auto& p) { return !ClipperLib::Orientation(p); });
      if (hole == left.end()) break;
      cut.push_back(slit_below(*hole));
      left = difference({to_path(blank.outline)}, cut);
    }
    for (const auto& ring : left)
      for (const auto& core : offset_polygon(to_line(ring), -0.5 * least_mm))
        for (const auto& wide : offset_polygon(core, 0.5 * least_mm)) {
          const auto made = make_offcut({0, "left of " + (blank.name.empty() ? "sheet " + std::to_string(s + 1) : blank.name), blank.stuff.empty() ? foam : blank.stuff, blank.thickness_mm, wide, {}});
          if (made && signed_area_mm2(made->outline) >= least_mm * least_mm) kept.push_back(*made);
        }
  }
  return kept;
}

SheetSize room_of(const Layout& layout) {
  SheetSize room = layout.sheet;
  for (const Blank& b : layout.blanks)
    for (const Vec2& p : b.outline) room.width_mm = std::max(room.width_mm, p.x()), room.height_mm = std::max(room.height_mm, p.y());
  return room;
}

double overlap_area_mm2(const std::vector<Piece>& pieces, const Layout& layout) {
  std::vector<ClipperLib::Path> paths;
  for (const Placement& p : layout.placements) {
    std::vector<Vec2> line;
    for (const Vec2& q : pieces[p.piece.value].knife_line()) line.push_back(p.pose(q));
    paths.push_back(to_path(line));
    if (!ClipperLib::Orientation(paths.back())) ClipperLib::ReversePath(paths.back());
  }
  double sum = 0.0;
  const auto area_of = [&](ClipperLib::ClipType type, const ClipperLib::Path& a, const ClipperLib::Path& b) {
    ClipperLib::Clipper clipper;
    clipper.AddPath(a, ClipperLib::ptSubject, true);
    clipper.AddPath(b, ClipperLib::ptClip, true);
    ClipperLib::Paths out;
    clipper.Execute(type, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    double area = 0.0;
    for (const auto& path : out) area += ClipperLib::Area(path);
    return std::abs(area) / (kClipperUnits * kClipperUnits);
  };
  const auto whole = to_path({{0, 0}, {layout.sheet.width_mm, 0}, {layout.sheet.width_mm, layout.sheet.height_mm}, {0, layout.sheet.height_mm}});
  std::vector<ClipperLib::Path> blanks;
  for (const Blank& b : layout.blanks) blanks.push_back(to_path(b.outline));
  for (std::size_t i = 0; i < paths.size(); ++i) {
    const auto sheet = static_cast<std::size_t>(layout.placements[i].sheet);
    sum += area_of(ClipperLib::ctDifference, paths[i], sheet < blanks.size() ? blanks[sheet] : whole);
    for (std::size_t j = i + 1; j < paths.size(); ++j)
      if (layout.placements[i].sheet == layout.placements[j].sheet) sum += area_of(ClipperLib::ctIntersection, paths[i], paths[j]);
  }
  return sum;
}

Drawing draw_sheet(const std::vector<Piece>& pieces, const Layout& layout, int sheet) {
  Drawing out;
  Mark border;
  border.layer = Layer::sheet;
  border.closed = true;
  if (sheet < static_cast<int>(layout.blanks.size())) border.line = layout.blanks[sheet].outline;
  else border.line = {{0, 0}, {layout.sheet.width_mm, 0}, {layout.sheet.width_mm, layout.sheet.height_mm}, {0, layout.sheet.height_mm}};
  out.marks.push_back(border);
  for (const Placement& p : layout.placements) {
    if (p.sheet != sheet) continue;
    const Drawing piece = placed(draw_piece(pieces[p.piece.value], p.pose.flipped ? Copy::right : Copy::left), p.pose);
    out.marks.insert(out.marks.end(), piece.marks.begin(), piece.marks.end());
  }
  return out;
}

}  // namespace awl
