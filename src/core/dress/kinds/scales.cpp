#include "core/dress/kinds/scales.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

constexpr double kUsualScaleMm = 2.0;
constexpr double kUnlike = 1.15;  // of one row: the longest against the shortest

/// Shares of its width from root to end.
std::vector<double> widths_of(Scales::Tip tip) {
  switch (tip) {
    case Scales::Tip::pointed:
      return {1.0, 1.0, 0.9, 0.5, 0.05};
    case Scales::Tip::square:
      return {1.0, 1.0, 1.0, 1.0, 0.95};
    case Scales::Tip::feather:
      return {0.5, 0.85, 1.0, 0.9, 0.6, 0.1};
    default:
      return {1.0, 1.0, 1.0, 0.85, 0.45};
  }
}

class ScaleLayer {
 public:
  ScaleLayer(const Scales& s, Dressing& d, const FormLine& from, bool image)
      : s_(s), d_(d), from_(from), thick_(d.thickness_mm(kUsualScaleMm)), image_(image) {
    // Along a sweep by its own frame: over the surface the inside of a curl is a short cut.
    far_ = !d.site.along.empty() && begins_at_base(from) ? d.site.along
                                                         : distance_over(d.site.outer, from.at, from.closed);
    reach_ = 0.0;
    for (std::size_t v = 0; v < far_.size(); ++v)
      if (far_[v] < 1e299 && side_of(d.site.outer.vertices[v])) reach_ = std::max(reach_, far_[v]);
    if (s.reach_mm > 0.0) reach_ = std::min(reach_, s.reach_mm);
  }

  /// False: there is no room for a row.
  bool lay() {
    if (reach_ < s_.exposed_mm) return false;
    const int rows = std::max(1, static_cast<int>(std::ceil((reach_ - s_.long_mm) / s_.exposed_mm - 1e-9)) + 1);
    for (int i = 1; i <= rows; ++i) row(i);
    return true;
  }

  Mesh all;
  int count = 0;

 private:
  bool begins_at_base(const FormLine& from) const {
    double sum = 0.0;
    for (const Vec3& p : from.at)
      sum += value_at(d_.site.hit(p), d_.site.outer, d_.site.along) / static_cast<double>(from.size());
    return sum < 0.15 * length_of(d_.site.spine, false);
  }
  /// A mirrored pair is dressed one by one; a part over the middle whole.
  bool side_of(const Vec3& p) const { return d_.sides() < 2 || (image_ ? p.x() < 0.0 : p.x() >= 0.0); }

  /// The line of one distance, moved out over the layers below, its longest closed or open stretch.
  std::vector<SiteLine> level(double s) const {
    std::vector<SiteLine> mine;
    constexpr double kAtItMm = 0.1;
    if (s < kAtItMm) return {{{}, from_.at, from_.closed}};
    for (SiteLine& l : level_lines(d_.site.outer, far_, std::clamp(s, 1e-4, reach_ - 1e-4)))
      if (side_of(l.at[l.at.size() / 2]) && length_of(l.at, l.closed) > 0.5 * s_.wide_mm) mine.push_back(std::move(l));
    return mine;
  }
  double girth(const std::vector<SiteLine>& lines, double out_mm) const {
    double sum = 0.0;
    for (const SiteLine& l : lines) {
      std::vector<Vec3> moved;
      for (const Vec3& p : l.at) moved.push_back(p + out_mm * d_.site.normal_at(d_.site.hit(p)));
      sum += length_of(moved, l.closed);
    }
    return sum;
  }

  void row(int i) {
    const double s1 = reach_ - (i - 1) * s_.exposed_mm, s0 = std::max(0.0, s1 - s_.long_mm);
    const int below = std::min(i - 1, static_cast<int>(std::ceil(s_.long_mm / s_.exposed_mm)) - 1);
    const auto base = level(s0), end = level(s1);
    const double g0 = girth(base, 0.5 * thick_), g1 = girth(end, thick_ * (below + 0.5));
    const int n = std::max(3, static_cast<int>(std::round(std::max(g0, g1) / s_.wide_mm)));
    const double wide = std::max(g0, g1) / n;
    if (wide < 0.5 * s_.wide_mm) return;  // at a closed tip they collapse: one cap piece there
    count += n;
    const auto lengths = stand(base, n, wide, s1 - s0, i % 2 == 0, below);
    if (image_) return;
    d_.out.rows.push_back({g0, n});
    pieces(i, n, g0 / n, g1 / n, s1 - s0, lengths);
  }

  /// One outline a row; where the part curls up to three, by the length a scale takes there: short inside, long
  /// outside.
  void pieces(int i, int n, double root, double end, double length, std::vector<double> lengths) {
    std::sort(lengths.begin(), lengths.end());
    if (static_cast<int>(lengths.size()) != n || n < 3 || lengths.back() < kUnlike * lengths.front())
      return piece(i, n, root, end, length, {});
    constexpr int kSizes = 3;
    const char* names[kSizes] = {", short", ", middle", ", long"};
    for (int k = 0; k < kSizes; ++k) {
      const int a = k * n / kSizes, b = (k + 1) * n / kSizes;
      double mean = 0.0;
      for (int j = a; j < b; ++j) mean += lengths[static_cast<std::size_t>(j)] / (b - a);
      piece(i, b - a, root, end, mean, names[k]);
    }
  }

  /// As wide at its root and its end as the rows there are.
  void piece(int i, int n, double root, double end, double length, const std::string& size) {
    const auto widths = widths_of(s_.tip);
    std::vector<Vec2> right, left;
    for (std::size_t k = 0; k < widths.size(); ++k) {
      const double share = static_cast<double>(k) / static_cast<double>(widths.size() - 1);
      // A closed tip draws a row together; a scale is no narrower than half its root there.
      const double half = 0.5 * widths[k] * ((1.0 - share) * root + share * std::max(end, 0.5 * root));
      right.push_back({half, length * share}), left.push_back({-half, length * share});
    }
    right.insert(right.end(), left.rbegin(), left.rend());
    d_.piece(d_.detail.name + ", row " + std::to_string(i) + size, std::move(right), thick_, n * d_.sides());
  }

  /// How long each of them is: by the part's own frame a scale is shorter inside a curl than outside.
  std::vector<double> stand(
      const std::vector<SiteLine>& lines, int n, double wide, double length, bool half_on, int below) {
    double whole = 0.0;
    std::vector<double> lengths;
    for (const SiteLine& l : lines) whole += length_of(l.at, l.closed);
    if (whole < 2.0 * wide) return lengths;  // at a closed tip one cap piece is enough, and no leaf stands there
    for (const SiteLine& l : lines) {
      const FormLine line = line_through(d_.site, l.at, l.closed);
      const int here = std::max(1, static_cast<int>(std::round(n * line.length_mm / whole)));
      for (int j = 0; j < here; ++j) {
        const FormLine::At at =
            line.at_mm(line.length_mm * (j + (half_on ? 0.5 : 0.0) + (l.closed ? 0.0 : 0.25)) / here);
        const NearestHit hit = d_.site.hit(at.at);
        Vec3 grows = slope_at(d_.site.outer, far_, hit);
        if (grows.norm() < 0.2) continue;
        const double own = length / std::clamp(grows.norm(), 0.5, 2.5);
        lengths.push_back(own);
        grows = (grows - at.normal.dot(grows) * at.normal).normalized();
        d_.place(at, wide, image_);
        add_mesh(all,
            leaf_on(d_.site, at.at, grows, own, 0.96 * wide, widths_of(s_.tip), 0.2, s_.lift_mm + 0.6 * thick_ * below,
                thick_));
      }
    }
    return lengths;
  }

  const Scales& s_;
  Dressing& d_;
  const FormLine& from_;
  double thick_, reach_ = 0.0;
  bool image_;
  std::vector<double> far_;
};

}  // namespace

std::vector<Dial> dials_of(Scales& s) {
  Dials dials;
  dials.group("One of them")
      .choice("tip", s.tip, {"round", "pointed", "square", "feather"}, "End", "Feathers are narrow at their root.")
      .length("long", s.long_mm, {6, 300}, "Length", "Hidden part and all.")
      .length("exposed", s.exposed_mm, {3, 200}, "Shows", "From row to row; the rest lies under the next.")
      .length("wide", s.wide_mm, {4, 160}, "Width", "About: rows come out even.")
      .length("lift", s.lift_mm, {0, 60}, "Free end lifts", "Above what lies below.")
      .length("reach", s.reach_mm, {0, 900}, "As far as", "From the line they begin at; 0 is all the way.");
  return std::move(dials).all();
}

void put_on(const Scales& s, Dressing& d) {
  if (s.exposed_mm > s.long_mm)
    return d.remark("room", Severity::warning,
        "rows " + in_mm(s.exposed_mm) + " apart are not covered by scales " + in_mm(s.long_mm) + " long; let " +
            in_mm(0.6 * s.long_mm) + " show.",
        s.exposed_mm, s.long_mm, {{"Closer", d.turn_act("exposed", std::floor(0.6 * s.long_mm))}});
  const double girth = d.lines.front().length_mm;
  if (3.0 * s.wide_mm > girth)
    return d.remark("room", Severity::warning,
        "scales " + in_mm(s.wide_mm) + " wide are too wide for a line of " + in_mm(girth) + "; " +
            in_mm(std::floor(girth / 3.0)) + " is the most.",
        s.wide_mm, girth / 3.0, {{"Narrower", d.turn_act("wide", std::max(4.0, std::floor(girth / 3.0)))}});
  int all = 0;
  const double thick = d.thickness_mm(kUsualScaleMm);
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    ScaleLayer layer(s, d, d.lines[k], k == 1);
    if (!layer.lay())
      return d.remark("room", Severity::warning,
          "the part reaches no " + in_mm(s.exposed_mm) + " from this line: there is no room for a row.");
    all += layer.count;
    if (k == 0) d.out.count = layer.count;
    d.solid(Matter::foam, std::move(layer.all), d.grams(layer.count * s.wide_mm * s.long_mm * thick), false);
  }
  d.out.with_spare = all + std::max(1, static_cast<int>(std::ceil(d.rules.spare_share * all)));
  d.out.yield.glue_mm2 += 2.0 * all * s.wide_mm * (s.long_mm - s.exposed_mm);
  d.fact(std::to_string(d.out.count) + " in " + std::to_string(d.out.rows.size()) + " rows" +
      (d.sides() > 1 ? " a side" : "") + ".");
  d.trace(d.lines.front().at, d.lines.front().closed, TraceKind::level, d.detail.name + " begin");
  d.step("Lay " + d.detail.name,
      {"From the far end to the line they begin at: row 1 first, each next row over the roots of the one before.",
          "Glue the hidden part only; every other row half a scale on, joints at the back."},
      kBladeCaution, true, true);
}

}  // namespace awl
