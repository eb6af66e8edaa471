#include "core/make/slabs.hpp"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kGluePlaneMm = 1.5;  // a glue plane costs as much as so much slab: workshop value
constexpr double kCellMm = 4.0;       // of the raster that waste is counted on
constexpr double kSlabStepMm = 1.0;   // between sections
constexpr double kLeastHeightMm = 3.0, kMostHeightMm = 1500.0;

/// Which cells a section covers.
class Shadow {
 public:
  Shadow(const Rings& region, const Vec2& low, int columns, int rows)
      : bits_((static_cast<std::size_t>(columns) * rows + 63) / 64) {
    for (int c = 0; c < columns; ++c) {
      const double x = low.x() + (c + 0.5) * kCellMm;
      std::vector<double> crossings;
      for (const auto& ring : region)
        for (std::size_t i = 0; i < ring.size(); ++i) {
          const Vec2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
          if ((a.x() > x) != (b.x() > x)) crossings.push_back(a.y() + (x - a.x()) / (b.x() - a.x()) * (b.y() - a.y()));
        }
      std::sort(crossings.begin(), crossings.end());
      for (std::size_t k = 0; k + 1 < crossings.size(); k += 2)
        for (int r = std::max(0, static_cast<int>(std::ceil((crossings[k] - low.y()) / kCellMm - 0.5)));
             r < rows && low.y() + (r + 0.5) * kCellMm <= crossings[k + 1]; ++r) {
          const std::size_t cell = static_cast<std::size_t>(c) * rows + r;
          bits_[cell / 64] |= std::uint64_t{1} << (cell % 64);
        }
    }
  }
  void add(const Shadow& other) {
    for (std::size_t i = 0; i < bits_.size(); ++i) bits_[i] |= other.bits_[i];
  }
  double area_mm2() const {
    int cells = 0;
    for (const std::uint64_t w : bits_) cells += std::popcount(w);
    return cells * kCellMm * kCellMm;
  }

 private:
  std::vector<std::uint64_t> bits_;
};

/// Sections of the form at all heights, and the stack they ask for.
class Stacker {
 public:
  Stacker(const Mesh& solid, const SlabOptions& options) : solid_(solid), options_(options) {
    up_ = options.up.normalized();
    low_ = 1e300, high_ = -1e300;
    for (const Vec3& p : solid.vertices) low_ = std::min(low_, up_.dot(p)), high_ = std::max(high_, up_.dot(p));
    Vec3 front = options.front - options.front.dot(up_) * up_;
    if (front.norm() < 0.1)
      front = std::abs(up_.y()) < 0.9 ? Vec3(Vec3::UnitY() - up_.y() * up_) : Vec3(Vec3::UnitZ() - up_.z() * up_);
    Vec3 middle = Vec3::Zero();
    for (const Vec3& p : solid.vertices) middle += p / static_cast<double>(solid.vertices.size());
    frame_.v = front.normalized(), frame_.u = frame_.v.cross(up_);
    frame_.origin = middle + (low_ - up_.dot(middle)) * up_;
  }

  double height() const { return high_ - low_; }
  const PlaneFrame& frame() const { return frame_; }

  /// The form at a height over its lowest point, in the frame of the slabs.
  Rings at(double z) const {
    Plane plane;
    plane.normal = up_, plane.origin = frame_.origin + z * up_;
    const PlaneFrame own = frame_of(plane);
    Rings region = section_region(solid_, plane);
    for (auto& ring : region)
      for (Vec2& p : ring) p = frame_(own.origin + p.x() * own.u + p.y() * own.v);
    return region;
  }

  bool take_sections(const Progress& progress) {
    const int count = std::max(1, static_cast<int>(std::floor(height() / kSlabStepMm)));
    for (int i = 0; i < count; ++i) {
      if (!progress.keep_going(static_cast<double>(i) / count)) return false;
      levels_.push_back(at((i + 0.5) * height() / count));
    }
    return true;
  }

  /// Heights of the slabs from the bottom upwards. Empty if stopped.
  std::vector<double> heights(const Progress& progress) const {
    const int count = static_cast<int>(levels_.size());
    Vec2 low = Vec2::Constant(1e300), high = -low;
    for (const Rings& level : levels_)
      for (const auto& ring : level)
        for (const Vec2& p : ring) low = low.cwiseMin(p), high = high.cwiseMax(p);
    const int columns = static_cast<int>((high - low).x() / kCellMm) + 1,
              rows = static_cast<int>((high - low).y() / kCellMm) + 1;
    std::vector<Shadow> shadows;
    for (const Rings& level : levels_) shadows.emplace_back(level, low, columns, rows);
    const double step = height() / count;
    std::vector<double> cost(count + 1, 1e300);
    std::vector<double> choice(count + 1, 0.0);
    cost[count] = 0.0;
    std::vector<double> sorted = options_.heights_mm;
    std::sort(sorted.begin(), sorted.end());
    for (int from = count - 1; from >= 0; --from) {
      if (!progress.keep_going(1.0 - static_cast<double>(from) / count)) return {};
      Shadow covered = shadows[from];
      int done = from + 1;
      for (const double t : sorted) {
        // Rounded down: a slab may reach a fraction of a millimetre past the next one's foot, never fall short of it.
        const int to = std::min(count, from + std::max(1, static_cast<int>(std::floor(t / step + 1e-9))));
        for (; done < to; ++done) covered.add(shadows[done]);
        const double area = std::max(covered.area_mm2(), kCellMm * kCellMm);
        const double c = cost[to] + area * (t + (to < count ? kGluePlaneMm : 0.0));
        if (c < cost[from]) cost[from] = c, choice[from] = t;
      }
    }
    std::vector<double> heights;
    for (int at = 0; at < count;
         at = std::min(count, at + std::max(1, static_cast<int>(std::floor(choice[at] / step + 1e-9)))))
      heights.push_back(choice[at]);
    return heights;
  }

  Slab slab(double from, double thickness) const {
    Slab s;
    s.from_mm = from, s.thickness_mm = thickness;
    const double top = std::min(from + thickness, height());
    constexpr double kInside = 0.3;  // from the very tip and foot, where there is no section
    s.below = at(std::max(from, kInside)), s.above = at(std::max(std::min(top, height() - kInside), kInside));
    Rings all = s.below;
    all.insert(all.end(), s.above.begin(), s.above.end());
    const int count = static_cast<int>(levels_.size());
    const int first = std::clamp(static_cast<int>(from / height() * count), 0, count - 1),
              last = std::clamp(static_cast<int>(top / height() * count), first + 1, count);
    for (int i = first; i < last; ++i) all.insert(all.end(), levels_[i].begin(), levels_[i].end());
    s.cut = offset_region(joined_regions(all), options_.spare_mm);
    if (options_.wall_mm > 0.0) hollow(s, first, last);
    for (auto& ring : s.cut) ring = thinned(ring, kOnTheLineMm);
    s.upper_trim_mm = trim(s.cut, s.above), s.lower_trim_mm = trim(s.cut, s.below);
    s.taper_deg = degrees(std::atan2(std::max(s.upper_trim_mm, s.lower_trim_mm), thickness));
    return s;
  }

 private:
  /// What may be cut out upright and leaves the wall everywhere: sideways, above and below.
  void hollow(Slab& s, int first, int last) const {
    const int count = static_cast<int>(levels_.size());
    const int reach = static_cast<int>(std::ceil(options_.wall_mm / height() * count));
    if (last + reach > count || (first - reach < 0 && !options_.open_below)) return;
    Rings room;
    for (int i = std::max(0, first - reach), begin = i; i < last + reach; ++i) {
      const Rings inner = offset_region(levels_[i], -options_.wall_mm);
      room = i == begin ? inner : common(room, inner);
      if (room.empty()) return;
    }
    for (auto& ring : room) {
      if (signed_area_mm2(ring) < 400.0) continue;  // smaller than two fingers: not worth cutting
      std::reverse(ring.begin(), ring.end());
      s.cut.push_back(std::move(ring));
    }
  }

  static double trim(const Rings& cut, const Rings& section) {
    if (section.empty()) return 0.0;
    double most = 0.0;
    for (const auto& ring : cut) {
      if (signed_area_mm2(ring) < 0.0) continue;
      for (const Vec2& p : ring) {
        double nearest = 1e300;
        for (const auto& own : section) nearest = std::min(nearest, inside(own, p) ? 0.0 : distance_to_outline(own, p));
        most = std::max(most, nearest);
      }
    }
    return most;
  }

  const Mesh& solid_;
  SlabOptions options_;
  Vec3 up_;
  double low_, high_;
  PlaneFrame frame_;
  std::vector<Rings> levels_;
};

}  // namespace

Result<SlabPlan> plan_slabs(const Mesh& solid, const SlabOptions& options, const Progress& progress) {
  if (options.heights_mm.empty())
    return fail(Errc::empty_input, "There is no slab to stack: this kind has no thickness.", "way");
  Stacker stacker(solid, options);
  if (stacker.height() < kLeastHeightMm)
    return fail(Errc::degenerate_shape,
        "The form is only " + fixed(stacker.height(), 1) +
            " mm high that way; there is nothing to stack. Choose another direction.",
        "way");
  if (stacker.height() > kMostHeightMm)
    return fail(Errc::out_of_range,
        "The form is " + fixed(stacker.height(), 0) + " mm high, more than the " + fixed(kMostHeightMm, 0) +
            " mm a stack may have.",
        "way");
  if (!stacker.take_sections(progress.span(0.0, 0.6))) return fail(Errc::cancelled, "Stopped.");
  const auto heights = stacker.heights(progress.span(0.6, 0.8));
  if (heights.empty()) return fail(Errc::cancelled, "Stopped.");
  SlabPlan plan;
  plan.frame = stacker.frame(), plan.height_mm = stacker.height();
  plan.form_mm3 = std::abs(volume_mm3(solid));
  double from = 0.0;
  for (const double t : heights) {
    if (!progress.keep_going(0.8 + 0.2 * from / plan.height_mm)) return fail(Errc::cancelled, "Stopped.");
    if (from >= plan.height_mm) break;  // slabs were rounded down to whole sections: the last may not be needed
    plan.slabs.push_back(stacker.slab(from, t));
    plan.slabs_mm3 += region_area_mm2(plan.slabs.back().cut) * t;
    from += t;
  }
  plan.stacked_mm = from;
  for (std::size_t i = 0; i + 1 < plan.slabs.size(); ++i)
    plan.glue_mm2 += region_area_mm2(common(plan.slabs[i].cut, plan.slabs[i + 1].cut));
  return plan;
}

std::vector<Piece> slab_pieces(const SlabPlan& plan, const Body& body, const std::string& stuff) {
  std::vector<Piece> pieces;
  for (std::size_t i = 0; i < plan.slabs.size(); ++i) {
    const Slab& slab = plan.slabs[i];
    int island = 0;
    for (const auto& ring : slab.cut) {
      if (signed_area_mm2(ring) <= 0.0) continue;
      std::vector<std::vector<Vec2>> holes;
      for (const auto& hole : slab.cut)
        if (signed_area_mm2(hole) < 0.0 && inside(ring, hole.front())) holes.push_back(hole);
      const Vec2 middle = polygon_centre(ring);
      std::string name = body.name + ", slab " + std::to_string(i + 1);
      if (++island > 1) name += static_cast<char>('a' + std::min(island - 1, 25));
      Piece piece = plate_piece(name, static_cast<int>(pieces.size()) + 1, ring, holes, slab.thickness_mm);
      if (i + 1 < plan.slabs.size())
        for (const auto& next : common({ring}, plan.slabs[i + 1].cut)) {  // only what stands on this one
          std::vector<Vec2> guide;
          for (const Vec2& p : next) guide.push_back(p - middle);
          guide.push_back(guide.front());
          piece.guides.push_back(std::move(guide));
        }
      piece.copies = body.paired ? 2 : 1;
      piece.stuff = stuff, piece.face_up = "this side up";
      if (i + 1 < plan.slabs.size())
        piece.notes.push_back(
            "glue plane " + std::to_string(i + 1) + ": slab " + std::to_string(i + 2) + " on the broken line");
      const double most = std::max(slab.upper_trim_mm, slab.lower_trim_mm);
      if (most > 1.0)
        piece.notes.push_back("carve up to " + fixed(most, 0) + " mm off its " +
            (slab.upper_trim_mm >= slab.lower_trim_mm ? "upper" : "lower") + " edge");
      pieces.push_back(std::move(piece));
    }
  }
  return pieces;
}

}  // namespace awl
