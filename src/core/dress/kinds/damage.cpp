#include "core/dress/kinds/damage.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

struct Blow {
  Vec3 at;
  double size_mm;
  bool gouge;
  FormLine line;
};

class Strewer {
 public:
  Strewer(const Damage& what, Dressing& d)
      : w_(what), d_(d), dice_(static_cast<std::uint64_t>(what.seed)), seams_(far_from(d.site.seams)),
        rims_(far_from(d.site.rims)) {
    // Places are told by the part's own frame: the same for every wearer.
    double sum = 0.0;
    for (const Tri& t : d.site.outer.triangles) {
      const Vec3 a = home(t[0]), b = home(t[1]), c = home(t[2]);
      areas_.push_back(sum += 0.5 * (b - a).cross(c - a).norm());
    }
  }

  std::vector<Blow> run() {
    std::vector<Blow> kept;
    const int most = 12 * w_.count;
    for (int i = 0; i < most && static_cast<int>(kept.size()) < w_.count; ++i) {
      Blow blow = next();
      if (fits(blow, kept)) kept.push_back(std::move(blow));
    }
    return kept;
  }

 private:
  Vec3 home(int v) { return d_.site.at_home(d_.site.outer.vertices[v]); }

  std::vector<double> far_from(const std::vector<SiteLine>& lines) const {
    std::vector<double> far(d_.site.outer.vertices.size(), 1e300);
    for (const SiteLine& l : lines) {
      const auto one = distance_over(d_.site.outer, l.at, l.closed, 60.0);
      for (std::size_t v = 0; v < far.size(); ++v) far[v] = std::min(far[v], one[v]);
    }
    for (double& f : far) f = std::min(f, 1e6);
    return far;
  }

  Blow next() {
    const double pick = dice_.uniform() * areas_.back();
    const std::size_t face =
        std::min(static_cast<std::size_t>(std::lower_bound(areas_.begin(), areas_.end(), pick) - areas_.begin()),
            areas_.size() - 1);
    double u = dice_.uniform(), v = dice_.uniform();
    if (u + v > 1.0) u = 1.0 - u, v = 1.0 - v;
    const Tri& t = d_.site.outer.triangles[face];
    const auto& p = d_.site.outer.vertices;
    Blow blow;
    blow.at = (1.0 - u - v) * p[t[0]] + u * p[t[1]] + v * p[t[2]];
    // Many small ones, few large ones.
    blow.size_mm = w_.least_mm + (w_.most_mm - w_.least_mm) * std::pow(dice_.uniform(), 2.5);
    const double turned = radians(w_.grain_deg + w_.spread_deg * (2.0 * dice_.uniform() - 1.0));
    const double which = dice_.uniform();
    blow.gouge = w_.of == Damage::Of::gouges || (w_.of == Damage::Of::both && which < 0.6);
    const NearestHit hit = d_.site.hit(blow.at);
    const Vec3 normal = d_.site.normal_at(hit);
    Vec3 level = Vec3::UnitY().cross(normal);
    level = level.norm() > 0.1 ? level.normalized() : Vec3(Vec3::UnitX());
    const Vec3 along = std::cos(turned) * level + std::sin(turned) * normal.cross(level);
    const double half = 0.5 * blow.size_mm * (blow.gouge ? 1.5 : 0.5);
    blow.line = line_through(
        d_.site, {shot(d_.site, blow.at, -along, half), blow.at, shot(d_.site, blow.at, along, half)}, false);
    return blow;
  }

  bool fits(const Blow& blow, const std::vector<Blow>& kept) const {
    const NearestHit hit = d_.site.hit(blow.at);
    const double half = 0.5 * blow.size_mm;
    if (value_at(hit, d_.site.outer, seams_) < half + d_.rules.damage_seam_mm) return false;
    if (value_at(hit, d_.site.outer, rims_) < half + d_.rules.damage_rim_mm) return false;
    if (d_.detail.mirrored && d_.site.mirrored && blow.at.x() < half + 2.0) return false;
    return std::none_of(kept.begin(), kept.end(),
        [&](const Blow& other) { return (other.at - blow.at).norm() < half + 0.5 * other.size_mm + 3.0; });
  }

  const Damage& w_;
  Dressing& d_;
  Random dice_;
  std::vector<double> seams_, rims_, areas_;
};

}  // namespace

std::vector<Dial> dials_of(Damage& w) {
  Dials dials;
  dials.group("What happened to it")
      .choice("of", w.of, {"gouges", "dents", "both"}, "What", "Gouges are carved, dents are pressed in warm.")
      .count("count", w.count, {1, 200}, "How many", "Kept off seams, rims and eyes.")
      .length("least", w.least_mm, {2, 60}, "Smallest", "Many are small.")
      .length("most", w.most_mm, {2, 90}, "Largest", "Few are large.")
      .angle("grain", w.grain_deg, {-90, 90}, "Gouges run", "From level; blows mostly come one way.")
      .angle("spread", w.spread_deg, {0, 90}, "Give or take", "No two quite alike.")
      .length("depth", w.depth_mm, {0.5, 10}, "Depth", "At their middle.")
      .count("seed", w.seed, {1, 9999}, "Another lot", "Every number strews them otherwise.");
  return std::move(dials).all();
}

void put_on(const Damage& w, Dressing& d) {
  const auto blows = Strewer(w, d).run();
  Mesh marks;
  int gouges = 0;
  const bool both = d.detail.mirrored && d.site.mirrored;
  for (const Blow& blow : blows) {
    gouges += blow.gouge ? 1 : 0;
    d.trace(blow.line.at, false, TraceKind::carve, blow.gouge ? "gouge" : "dent");
    d.place(blow.line.at_mm(0.5 * blow.line.length_mm), blow.size_mm, false);
    const double half = blow.gouge ? std::max(1.0, 0.09 * blow.size_mm) : 0.3 * blow.size_mm;
    Mesh seen = band_along(d.site, blow.line, half, half, 0.05, 0.15);
    add_mesh(marks, seen);
    if (!both) continue;
    std::vector<Vec3> image = blow.line.at;
    for (Vec3& p : image) p.x() = -p.x();
    d.trace(image, false, TraceKind::carve, {});
    for (Vec3& p : seen.vertices) p.x() = -p.x();
    for (Tri& t : seen.triangles) std::swap(t[1], t[2]);
    add_mesh(marks, seen);
  }
  d.solid(Matter::cord, std::move(marks), 0.0, false);
  d.out.count = static_cast<int>(blows.size()), d.out.dropped = w.count - d.out.count;
  d.fact(std::to_string(gouges) + " gouges and " + std::to_string(d.out.count - gouges) + " dents" +
      (both ? " a side" : "") + ".");
  if (d.out.dropped > 0)
    d.remark("fewer", Severity::note,
        "only " + std::to_string(d.out.count) + " of " + std::to_string(w.count) +
            " find room off seams, rims and each other. Make them smaller, or ask for fewer.",
        d.out.count, w.count,
        {{"Take " + std::to_string(std::max(1, d.out.count)), d.turn_act("count", std::max(1, d.out.count))}});
  const Verdict heat = heat_on(d.host);
  std::vector<std::string> lines{
      "Carve the gouges as drawn, two cuts leaning to each other, " + in_mm(w.depth_mm) + " deep at their middle."};
  if (w.of != Damage::Of::gouges)
    lines.push_back(heat.allowed ? "Press the dents in warm with a spoon or a stone."
                                 : "Carve the dents as shallow bowls: this material is not warmed.");
  d.step("Batter it: " + d.detail.name, std::move(lines),
      joined_cautions({kBladeCaution, w.of != Damage::Of::gouges && heat.allowed ? heat.caution : std::string()}),
      false, true);
}

}  // namespace awl
