#include "core/stock/nest.hpp"

#include <algorithm>
#include <clipper.hpp>
#include <cmath>
#include <map>
#include <cstdint>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kClipperUnits = 1000.0;  // per millimetre

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

/// Rows of bits; bit x of row y is cell (x, y).
class Bitmap {
 public:
  Bitmap(int width, int height) : width_(width), height_(height), words_((width + 63) / 64 + 1), bits_(static_cast<std::size_t>(words_) * height, 0) {}
  int width() const { return width_; }
  int height() const { return height_; }
  void set(int x, int y) { bits_[static_cast<std::size_t>(y) * words_ + x / 64] |= std::uint64_t{1} << (x % 64); }

  bool meets(const Bitmap& piece, int dx, int dy) const {
    const int shift = dx % 64, first = dx / 64;
    for (int y = 0; y < piece.height_; ++y) {
      const std::uint64_t* row = &bits_[static_cast<std::size_t>(y + dy) * words_ + first];
      const std::uint64_t* mask = &piece.bits_[static_cast<std::size_t>(y) * piece.words_];
      const int count = std::min(piece.words_, words_ - first);
      for (int w = 0; w < count; ++w) {
        if (row[w] & (mask[w] << shift)) return true;
        if (shift != 0 && w + 1 < words_ - first && (row[w + 1] & (mask[w] >> (64 - shift)))) return true;
      }
    }
    return false;
  }

  void add(const Bitmap& piece, int dx, int dy) {
    for (int y = 0; y < piece.height_; ++y)
      for (int x = 0; x < piece.width_; ++x)
        if (piece.bits_[static_cast<std::size_t>(y) * piece.words_ + x / 64] >> (x % 64) & 1) set(x + dx, y + dy);
  }

 private:
  int width_, height_, words_;
  std::vector<std::uint64_t> bits_;
};

/// A copy in one orientation: its mask and where the mask's corner lies relative to the piece.
struct Stamp {
  Pose pose;       ///< at the origin
  Vec2 low;        ///< of the mask
  Bitmap mask;
};

Stamp make_stamp(const std::vector<Vec2>& grown_outline, const Pose& pose, double cell) {
  std::vector<Vec2> line;
  Vec2 low = Vec2::Constant(1e300), high = -low;
  for (const Vec2& p : grown_outline) line.push_back(pose(p)), low = low.cwiseMin(line.back()), high = high.cwiseMax(line.back());
  const int w = static_cast<int>(std::ceil((high.x() - low.x()) / cell)) + 1, h = static_cast<int>(std::ceil((high.y() - low.y()) / cell)) + 1;
  Stamp stamp{pose, low, Bitmap(w, h)};
  for (int y = 0; y < h; ++y) {
    const double at = low.y() + (y + 0.5) * cell;
    std::vector<double> cuts;
    for (std::size_t i = 0; i < line.size(); ++i) {
      const Vec2 &a = line[i], &b = line[(i + 1) % line.size()];
      if ((a.y() > at) != (b.y() > at)) cuts.push_back(a.x() + (at - a.y()) / (b.y() - a.y()) * (b.x() - a.x()));
    }
    std::sort(cuts.begin(), cuts.end());
    for (std::size_t i = 0; i + 1 < cuts.size(); i += 2)
      for (int x = std::max(0, static_cast<int>(std::ceil((cuts[i] - low.x()) / cell - 0.5))); x < w && low.x() + (x + 0.5) * cell <= cuts[i + 1]; ++x)
        stamp.mask.set(x, y);
  }
  return stamp;
}

struct Spot {
  int sheet = -1, x = 0, y = 0, turn = -1;
};

class Nester {
 public:
  Nester(const SheetSize& sheet, const NestOptions& options) : options_(options) {
    columns_ = static_cast<int>((sheet.width_mm - 2 * options.margin_mm + options.gap_mm) / options.cell_mm);
    rows_ = static_cast<int>((sheet.height_mm - 2 * options.margin_mm + options.gap_mm) / options.cell_mm);
  }

  std::vector<Stamp> stamps(const Piece& piece, bool flipped) const {
    // Grown so that a cell whose centre is outside cannot touch the piece and its half of the gap.
    const auto outline = grown(piece.outline, 0.5 * options_.gap_mm + 0.7072 * options_.cell_mm);
    std::vector<Stamp> out;
    for (int t = 0; t < options_.turns; ++t) out.push_back(make_stamp(outline, {Vec2::Zero(), kTwoPi * t / options_.turns, flipped}, options_.cell_mm));
    return out;
  }

  bool fits_empty(const Stamp& s) const { return s.mask.width() <= columns_ && s.mask.height() <= rows_; }

  /// Leftmost, then lowest free spot over all turns, so that one straight offcut is left; a new sheet when needed.
  Spot place(const std::vector<Stamp>& stamps) {
    Spot best;
    for (int sheet = 0; best.sheet < 0; ++sheet) {
      if (sheet == static_cast<int>(sheets_.size())) sheets_.emplace_back(columns_, rows_);
      int least_right = columns_ + 1;
      for (int t = 0; t < static_cast<int>(stamps.size()); ++t)
        if (const auto spot = first_free(sheets_[sheet], stamps[t], least_right); spot.sheet >= 0)
          best = {sheet, spot.x, spot.y, t}, least_right = spot.x + stamps[t].mask.width();
    }
    sheets_[best.sheet].add(stamps[best.turn].mask, best.x, best.y);
    return best;
  }

  int sheet_count() const { return static_cast<int>(sheets_.size()); }

  Vec2 corner(const Spot& spot) const {
    const double edge = options_.margin_mm - 0.5 * options_.gap_mm;
    return Vec2(edge + spot.x * options_.cell_mm, edge + spot.y * options_.cell_mm);
  }

 private:
  static Spot first_free(const Bitmap& sheet, const Stamp& stamp, int least_right) {
    const int w = stamp.mask.width();
    for (int x = 0; x + w <= sheet.width() && x + w < least_right; ++x)
      for (int y = 0; y + stamp.mask.height() <= sheet.height(); ++y)
        if (!sheet.meets(stamp.mask, x, y)) return {0, x, y, 0};
    return {};
  }

  NestOptions options_;
  int columns_ = 0, rows_ = 0;
  std::vector<Bitmap> sheets_;
};

Result<void> check_sheet(const SheetSize& s) {
  if (s.width_mm >= 50.0 && s.height_mm >= 50.0 && s.width_mm <= 5000.0 && s.height_mm <= 5000.0) return {};
  return fail(Errc::out_of_range, "A sheet of " + fixed(s.width_mm, 0) + " x " + fixed(s.height_mm, 0) + " mm is outside 50 to 5000 mm a side.", "foam/sheet");
}

std::string too_large(const Piece& piece, const SheetSize& sheet) {
  Vec2 low = piece.outline[0], high = low;
  for (const Vec2& p : piece.outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
  return "Piece " + std::to_string(piece.number) + " (" + piece.name + ") is " + fixed((high - low).x(), 0) + " x " + fixed((high - low).y(), 0) +
         " mm and does not fit a sheet of " + fixed(sheet.width_mm, 0) + " x " + fixed(sheet.height_mm, 0) + " mm. Take a larger sheet or add a seam.";
}

}  // namespace

Result<Layout> nest(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options, const Progress& progress) {
  if (auto good = check_sheet(sheet); !good) return tl::make_unexpected(good.error());
  Layout layout;
  layout.sheet = sheet;
  std::vector<const Piece*> order;
  for (const Piece& p : pieces) order.push_back(&p);
  std::stable_sort(order.begin(), order.end(), [](const Piece* a, const Piece* b) { return a->area_mm2 > b->area_mm2; });
  std::map<double, Nester> nesters;  // sheets of one thickness hold pieces of one thickness
  std::vector<double> thickness;     // per placement
  double used = 0.0;
  for (std::size_t i = 0; i < order.size(); ++i) {
    const Piece& piece = *order[i];
    Nester& nester = nesters.try_emplace(piece.thickness_mm, sheet, options).first->second;
    for (int copy = 0; copy < piece.copies; ++copy) {
      if (!progress.keep_going(static_cast<double>(i) / static_cast<double>(order.size()))) return fail(Errc::cancelled, "Stopped.");
      auto stamps = nester.stamps(piece, copy == 1);
      std::erase_if(stamps, [&](const Stamp& s) { return !nester.fits_empty(s); });
      if (stamps.empty()) return fail(Errc::out_of_range, too_large(piece, sheet), "pieces/" + piece.name);
      const Spot spot = nester.place(stamps);
      Pose pose = stamps[spot.turn].pose;
      pose.at = nester.corner(spot) - stamps[spot.turn].low;
      layout.placements.push_back({piece.id, spot.sheet, pose});
      thickness.push_back(piece.thickness_mm);
      used += piece.area_mm2;
    }
  }
  std::map<double, int> first_sheet;
  for (const auto& [mm, nester] : nesters) first_sheet[mm] = layout.sheets, layout.sheets += nester.sheet_count();
  for (std::size_t i = 0; i < thickness.size(); ++i) layout.placements[i].sheet += first_sheet[thickness[i]];
  layout.density = layout.sheets > 0 ? used / (layout.sheets * sheet.width_mm * sheet.height_mm) : 0.0;
  layout.overlap_mm2 = overlap_area_mm2(pieces, layout);
  if (layout.overlap_mm2 > 0.01) return fail(Errc::overlap, "Pieces overlap by " + fixed(layout.overlap_mm2, 2) + " mm2 on the sheets.", "foam/layout");
  return layout;
}

double overlap_area_mm2(const std::vector<Piece>& pieces, const Layout& layout) {
  std::vector<ClipperLib::Path> paths;
  for (const Placement& p : layout.placements) {
    std::vector<Vec2> line;
    for (const Vec2& q : pieces[p.piece.value].outline) line.push_back(p.pose(q));
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
  const auto sheet = to_path({{0, 0}, {layout.sheet.width_mm, 0}, {layout.sheet.width_mm, layout.sheet.height_mm}, {0, layout.sheet.height_mm}});
  for (std::size_t i = 0; i < paths.size(); ++i) {
    sum += area_of(ClipperLib::ctDifference, paths[i], sheet);
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
  border.line = {{0, 0}, {layout.sheet.width_mm, 0}, {layout.sheet.width_mm, layout.sheet.height_mm}, {0, layout.sheet.height_mm}};
  out.marks.push_back(border);
  for (const Placement& p : layout.placements) {
    if (p.sheet != sheet) continue;
    const Drawing piece = placed(draw_piece(pieces[p.piece.value], p.pose.flipped ? Copy::right : Copy::left), p.pose);
    out.marks.insert(out.marks.end(), piece.marks.begin(), piece.marks.end());
  }
  return out;
}

}  // namespace awl
