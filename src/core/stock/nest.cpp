#include "core/stock/nest.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>
#include <set>

#include "core/base/numbers.hpp"
#include "core/stock/nest_bench.hpp"
#include "core/stock/tighten.hpp"

namespace awl {
namespace {

Result<void> check_sheet(const SheetSize& s) {
  if (s.width_mm >= 50.0 && s.height_mm >= 50.0 && s.width_mm <= 5000.0 && s.height_mm <= 5000.0) return {};
  return fail(Errc::out_of_range,
      "A sheet of " + fixed(s.width_mm, 0) + " x " + fixed(s.height_mm, 0) + " mm is outside 50 to 5000 mm a side.",
      "foam/sheet");
}

std::string too_large(const Piece& piece, const SheetSize& sheet) {
  Vec2 low = piece.knife_line()[0], high = low;
  for (const Vec2& p : piece.knife_line()) low = low.cwiseMin(p), high = high.cwiseMax(p);
  return "Piece " + std::to_string(piece.number) + " (" + piece.name + ") is " + fixed((high - low).x(), 0) + " x " +
      fixed((high - low).y(), 0) + " mm and does not fit a sheet of " + fixed(sheet.width_mm, 0) + " x " +
      fixed(sheet.height_mm, 0) + " mm. Take a larger sheet, glue two edge to edge, or add a seam.";
}

constexpr double kLeastMm2 = 1e-3;  // what has less is no piece

/// The pieces of one kind and thickness and what they are laid on.
struct SheetGroup {
  std::string stuff;
  double thickness_mm = 0.0;
  SheetSize sheet;
  std::vector<Offcut> offcuts;
  std::vector<NestJob> jobs;
  std::vector<Placement> held;  ///< their sheets count from the group's first
};

std::vector<SheetGroup> groups_of(
    const std::vector<Piece>& pieces, const SheetSize& sheet, const NestStock& stock, const NestOptions& options) {
  std::map<std::pair<std::string, double>, SheetGroup> by_kind;
  std::map<std::pair<std::string, int>, const HeldCopy*> held;
  for (const HeldCopy& h : stock.held) held[{h.piece, h.copy}] = &h;
  for (const Piece& piece : pieces) {
    SheetGroup& group = by_kind[{piece.stuff, piece.thickness_mm}];
    group.stuff = piece.stuff, group.thickness_mm = piece.thickness_mm, group.sheet = sheet;
    for (const OtherSheet& o : stock.others)
      if (o.stuff == piece.stuff && std::abs(o.thickness_mm - piece.thickness_mm) < 0.05) group.sheet = o.size;
    std::shared_ptr<const std::vector<Stamp>> straight, flipped;
    for (int copy = 0; copy < piece.copies; ++copy) {
      if (const auto h = held.find({piece.name, copy}); h != held.end()) {
        group.held.push_back(
            {piece.id, h->second->blank, {h->second->at, h->second->angle_rad, copy == 1}, copy, true});
        continue;
      }
      auto& stamps = copy == 1 ? flipped : straight;
      if (!stamps) stamps = std::make_shared<const std::vector<Stamp>>(stamps_of(piece, copy == 1, options));
      group.jobs.push_back({&piece, copy, stamps});
    }
  }
  std::vector<SheetGroup> groups;
  for (auto& [kind, group] : by_kind) {
    for (const Offcut& o : stock.offcuts)
      if (kind.first.empty() && std::abs(o.thickness_mm - kind.second) < 0.05) group.offcuts.push_back(o);
    std::stable_sort(group.offcuts.begin(), group.offcuts.end(),
        [](const Offcut& a, const Offcut& b) { return signed_area_mm2(a.outline) < signed_area_mm2(b.outline); });
    groups.push_back(std::move(group));
  }
  return groups;
}

/// Lays one group and adds it to the layout, its unused offcuts left out.
Result<void> lay_group(SheetGroup& group, const std::vector<Piece>& pieces, const NestOptions& options, Layout& layout,
    const Progress& progress) {
  const SheetSize& sheet = group.sheet;
  NestBench bench(sheet, options, group.offcuts);
  for (const Placement& h : group.held) {
    std::vector<Vec2> line;
    for (const Vec2& p : claim_of(pieces[h.piece.value], 0.5 * options.gap_mm + kHalfDiagonal * options.cell_mm))
      line.push_back(h.pose(p));
    bench.hold(h.sheet, line);
  }
  for (NestJob& job : group.jobs) {
    if (!(std::abs(signed_area_mm2(job.piece->knife_line())) > kLeastMm2))
      return fail(Errc::degenerate_shape, "The piece " + job.piece->name + " has no area; it cannot be cut.",
          "pieces/" + job.piece->name);
    std::vector<Stamp> fitting;
    for (const Stamp& s : *job.stamps)
      if (bench.fits_empty(s.mask)) fitting.push_back(s);
    if (fitting.empty()) return fail(Errc::out_of_range, too_large(*job.piece, sheet), "pieces/" + job.piece->name);
    if (fitting.size() < job.stamps->size())
      job.stamps = std::make_shared<const std::vector<Stamp>>(std::move(fitting));
  }
  const auto spots = best_spots(bench, group.jobs, options, progress);
  if (!spots) return fail(spots);
  std::vector<Placement> placed = group.held;
  for (std::size_t j = 0; j < group.jobs.size(); ++j) {
    const Spot& spot = (*spots)[j];
    const Stamp& stamp = (*group.jobs[j].stamps)[spot.turn];
    Pose pose = stamp.pose;
    pose.at = Vec2::Constant(bench.corner_mm()) + options.cell_mm * Vec2(spot.column, spot.row) - stamp.mask.low;
    placed.push_back({group.jobs[j].piece->id, spot.blank, pose, group.jobs[j].copy, false});
  }
  if (options.tries > 1 && bench.blanks(*spots) > bench.offcuts()) tighten_last(pieces, sheet, options, placed);
  std::vector<int> number(bench.blanks(*spots), -1);
  std::set<int> used;
  for (const Placement& p : placed) used.insert(p.sheet);
  for (const int b : used) {
    number[b] = layout.sheets++;
    Blank blank;
    blank.thickness_mm = group.thickness_mm, blank.stuff = group.stuff, blank.place = b;
    if (b < bench.offcuts())
      blank.offcut = group.offcuts[b].id, blank.name = group.offcuts[b].name, blank.outline = group.offcuts[b].outline;
    else
      blank.outline = {{0, 0}, {sheet.width_mm, 0}, {sheet.width_mm, sheet.height_mm}, {0, sheet.height_mm}};
    blank.area_mm2 = signed_area_mm2(blank.outline);
    layout.blanks.push_back(std::move(blank));
  }
  for (Placement& p : placed) p.sheet = number[p.sheet], layout.placements.push_back(p);
  return {};
}

}  // namespace

Result<Layout> nest(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options,
    const NestStock& stock, const Progress& progress) {
  if (auto good = check_sheet(sheet); !good) return fail(good);
  if (!progress.keep_going(0.0)) return fail(Errc::cancelled, "Stopped.");
  Layout layout;
  layout.sheet = sheet;
  auto groups = groups_of(pieces, sheet, stock, options);
  double done = 0.0, total = 0.0, used = 0.0, area = 0.0;
  for (const SheetGroup& g : groups) total += static_cast<double>(g.jobs.size()) + 1.0;
  for (SheetGroup& g : groups) {
    const double share = (static_cast<double>(g.jobs.size()) + 1.0) / total;
    if (auto laid = lay_group(g, pieces, options, layout, progress.span(done, done + share)); !laid) return fail(laid);
    done += share;
  }
  for (const Placement& p : layout.placements) used += pieces[p.piece.value].area_mm2;
  for (const Blank& b : layout.blanks) area += b.area_mm2;
  layout.density = area > 0.0 ? used / area : 0.0;
  layout.overlap_mm2 = overlap_area_mm2(pieces, layout);
  if (layout.overlap_mm2 > 0.01) {
    const bool held =
        std::any_of(layout.placements.begin(), layout.placements.end(), [](const Placement& p) { return p.held; });
    return fail(Errc::overlap,
        held ? "Pieces laid down by hand lie over each other or over the edge, by " + fixed(layout.overlap_mm2, 0) +
                " mm2: move one, or let it be laid again."
             : "Pieces overlap by " + fixed(layout.overlap_mm2, 2) + " mm2 on the sheets.",
        "foam/layout");
  }
  return layout;
}

}  // namespace awl
