#include "core/dress/kinds/lens.hpp"

#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/polygon.hpp"
#include "core/seam/flatten.hpp"

namespace awl {
namespace {

const char* word_of(Lens::Of of) {
  constexpr const char* kWords[] = {"clear", "tinted", "mesh", "cloth", "foam"};
  return kWords[static_cast<int>(of)];
}
const char* stuff_of(Lens::Of of) {
  constexpr const char* kStuffs[] = {"clear-sheet", "tinted-sheet", "mesh", "fabric", ""};
  return kStuffs[static_cast<int>(of)];
}
double light_of(Lens::Of of) {
  constexpr double kLight[] = {0.9, 0.33, 0.5, 0.35, 0.0};
  return kLight[static_cast<int>(of)];
}
double usual_mm(Lens::Of of) { return of == Lens::Of::foam ? 5.0 : 1.0; }

/// The ring between an opening and a line `hold_mm` further out, laid flat; the outer border of it.
Result<std::vector<Vec2>> laid_flat(const DressSite& site, const FormLine& rim, double hold_mm) {
  const auto far = distance_over(site.outer, rim.at, true, hold_mm + 4.0 * site.edge_mm);
  Draft ring;
  ring.mirrored = false, ring.mesh = site.outer;
  const auto kept = [&](const Vec3& p) { return hold_mm - std::min(1e6, value_at(site.hit(p), site.outer, far)); };
  trim(ring, kept);
  const Vec3 at = rim.at.front();
  keep_parts(ring, [&](const Vec3& p) { return (p - at).norm() < 2.0 * site.edge_mm + hold_mm; });
  join_close_corners(ring, 0.05 * site.edge_mm);
  auto flat = Flattener::of(ring.mesh, 1);
  if (!flat) return fail(flat);
  if (auto done = flat->flatten({}); !done) return fail(done);
  std::vector<int> longest;
  double most = 0.0;
  for (const auto& loop : border_loops(ring.mesh)) {
    std::vector<Vec3> places;
    for (const int v : loop) places.push_back(ring.mesh.vertices[v]);
    if (const double length = length_of(places, true); length > most) most = length, longest = loop;
  }
  std::vector<Vec2> outline;
  for (const int v : longest) outline.push_back(flat->uv()[v]);
  return outline;
}

/// Drawn on the plane that lies best with it, where it does not lie flat.
std::vector<Vec2> drawn_flat(const std::vector<Vec3>& line) {
  Vec3 middle = Vec3::Zero();
  for (const Vec3& p : line) middle += p / static_cast<double>(line.size());
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (const Vec3& p : line) spread += (p - middle) * (p - middle).transpose();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
  std::vector<Vec2> flat;
  for (const Vec3& p : line)
    flat.push_back({axes.eigenvectors().col(2).dot(p - middle), axes.eigenvectors().col(1).dot(p - middle)});
  return flat;
}

void disc(const Lens& l, Dressing& d, const FormLine::At& at, bool image, double thick) {
  std::vector<Vec3> rim;
  constexpr int kCorners = 36;
  const double r = 0.5 * l.across_mm;
  for (int i = 0; i < kCorners; ++i) {
    const double a = kTwoPi * i / kCorners;
    const Vec3 way = std::cos(a) * at.along + std::sin(a) * at.left;
    double gone = 0.0;
    const Vec3 on = shot(d.site, at.at, way, r, &gone);
    rim.push_back(gone > r - 1.0 ? on : d.site.onto(at.at + r * way));  // over a hole it goes on straight
  }
  d.trace(rim, true, TraceKind::foot, image ? std::string() : d.detail.name);
  d.place(at, l.across_mm, image);
  const bool seen_through = light_of(l.of) > 0.0;
  d.solid(
      seen_through ? l.of == Lens::Of::cloth || l.of == Lens::Of::mesh ? Matter::cloth : Matter::clear : Matter::foam,
      cap_over(rim, at.normal, 0.0, std::max(l.rise_mm, 0.4), thick), d.grams(kPi * r * r * thick), false);
}

struct Opening {
  FormLine rim;
  bool image = false;
};

bool over_opening(const Lens& l, Dressing& d, const Opening& o, double thick) {
  const auto line = beside(d.site, o.rim, l.hold_mm);
  if (!line) {
    d.remark("hold", Severity::warning,
        "there is less than " + in_mm(l.hold_mm) + " of part round the opening to hold it. " + line.error().text,
        l.hold_mm, {});
    return false;
  }
  auto flat = laid_flat(d.site, o.rim, l.hold_mm);
  const bool fits = flat && flat->size() > 2 && !crosses_itself(*flat);
  std::vector<Vec2> outline = fits ? *flat : drawn_flat(line->at);
  if (!fits)
    d.remark("drawn", Severity::note,
        "round this opening the part is too round for a flat sheet; its outline is drawn straight at it. Form it, or "
        "try it in card first.");
  double blank = 1.0;
  if (l.rise_mm > 0.0) {
    const double a = 0.5 * o.rim.length_mm / kPi, radius = (a * a + l.rise_mm * l.rise_mm) / (2.0 * l.rise_mm),
                 arc = radius * std::asin(std::min(1.0, a / radius)), shrinks = 1.0 - a / arc;
    blank = arc / a;
    d.fact("Domed by " + in_mm(l.rise_mm) + ": cut " + fixed(100.0 * (blank - 1.0), 0) + " % larger, its rim shrinks " +
        fixed(100.0 * shrinks, 0) + " %.");
    if (shrinks > d.rules.mesh_shrink)
      d.remark("shrinks", Severity::warning,
          "domed by " + in_mm(l.rise_mm) + " its rim must shrink by " + fixed(100.0 * shrinks, 0) + " %; beyond " +
              fixed(100.0 * d.rules.mesh_shrink, 0) + " % it folds. Make it flatter.",
          shrinks, d.rules.mesh_shrink, {{"Flatter", d.turn_act("rise", std::floor(0.7 * l.rise_mm))}});
  }
  for (Vec2& p : outline) p *= blank;
  if (!o.image) {
    Piece& piece = d.piece(d.detail.name, outline, thick, d.sides());
    if (l.of != Lens::Of::foam) piece.stuff = d.detail.stuff.empty() ? stuff_of(l.of) : d.detail.stuff;
  }
  d.trace(line->at, true, TraceKind::glue, o.image ? std::string() : d.detail.name);
  const Vec3 out = o.rim.normal.front();
  Vec3 normal = Vec3::Zero();
  for (const Vec3& n : o.rim.normal) normal += n;
  std::vector<Vec3> rim = o.rim.at;
  const double over = l.behind ? -d.site.thickness_mm - thick : 0.0;
  const bool woven = l.of == Lens::Of::mesh || l.of == Lens::Of::cloth;
  d.solid(light_of(l.of) <= 0.0 ? Matter::foam
          : woven               ? Matter::cloth
                                : Matter::clear,
      cap_over(rim, normal.norm() > 0.1 ? normal.normalized() : out, over, l.rise_mm, std::max(thick, 0.6)),
      d.grams(std::abs(signed_area_mm2(outline)) * thick), true, light_of(l.of), thick);
  if (l.frame_mm > 0.0) {
    if (const auto middle = beside(d.site, o.rim, 0.5 * l.frame_mm)) {
      StripOptions strip;
      strip.wide_mm = l.frame_mm, strip.thick_mm = 3.0;
      d.add_strip(*middle, strip, d.detail.name + (o.image ? ", frame of the other side" : ", frame"), d.rules.lap_mm);
      d.solid(Matter::metal, band_along(d.site, *middle, 0.5 * l.frame_mm, 0.5 * l.frame_mm, 0.0, 3.0), 0.0, false);
    }
  }
  FormLine::At at;
  at.at = line->at.front(), at.normal = out;
  if (!o.image) d.grip("hold", line->at.front(), (line->at.front() - o.rim.at.front()).normalized());
  d.place(at, o.rim.length_mm / kPi, o.image);
  return true;
}

}  // namespace

std::vector<Dial> dials_of(Lens& l) {
  Dials dials;
  dials.group("What it is")
      .choice("of", l.of, {"clear", "tinted", "mesh", "cloth", "foam"}, "Made of",
          "Sight counts what light each lets through.")
      .length("hold", l.hold_mm, {1, 60}, "Larger than the opening by", "What is glued, all round.")
      .length("rise", l.rise_mm, {0, 80}, "Domed by", "Its middle stands out by so much.")
      .length("frame", l.frame_mm, {0, 60}, "Frame", "Width of a ring strip round it; 0 is none.")
      .yes_no("behind", l.behind, "From inside", "Glued behind the opening; else on the face.");
  dials.group("A disc on a place")
      .length("across", l.across_mm, {4, 300}, "Across", "Where it covers no opening: a nose, a boss, an eye.");
  return std::move(dials).all();
}

void put_on(const Lens& l, Dressing& d) {
  const double thick = d.thickness_mm(usual_mm(l.of));
  if (d.detail.track.from != TrackFrom::rim) {
    for (std::size_t k = 0; k < d.lines.size(); ++k)
      disc(l, d, d.lines[k].at_mm(0.5 * d.lines[k].length_mm), k == 1, thick);
    const FormLine::At at = d.lines.front().at_mm(0.5 * d.lines.front().length_mm);
    d.grip("across", d.site.onto(at.at + 0.5 * l.across_mm * at.along), at.along, 2.0);
    std::vector<Vec2> circle;
    for (int i = 0; i < 48; ++i)
      circle.push_back(0.5 * l.across_mm * Vec2(std::cos(kTwoPi * i / 48), std::sin(kTwoPi * i / 48)));
    Piece& piece = d.piece(d.detail.name, std::move(circle), thick, d.sides());
    if (l.of != Lens::Of::foam) piece.stuff = d.detail.stuff.empty() ? stuff_of(l.of) : d.detail.stuff;
    d.out.count = 1;
    d.fact("A disc of " + in_mm(l.across_mm) + (l.rise_mm > 0.0 ? ", domed by " + in_mm(l.rise_mm) : std::string()) +
        "; into a tube it is cut " + fixed(d.rules.disc_gap_mm, 1) + " mm smaller than the bore.");
    return d.step("Put on " + d.detail.name, {"Glue it on within its outline as drawn."}, kBladeCaution, true, true);
  }
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine& rim = d.lines[k];
    constexpr double kLargestMm = 700.0;
    if (!rim.closed || rim.length_mm > kLargestMm)
      return d.remark("no-hole", Severity::warning,
          "this rim is " + in_mm(rim.length_mm) + " round and no opening to be closed; up to " + in_mm(kLargestMm) +
              " can be. Take the edge of an eye or a vent.",
          rim.length_mm, kLargestMm);
    if (!over_opening(l, d, {rim, k == 1}, thick)) return;
  }
  d.out.count = 1;
  d.fact(std::string(word_of(l.of)) + ", " + in_mm(l.hold_mm) + " larger than its opening all round" +
      (d.sides() > 1 ? ", one a side, the second flipped." : "."));
  d.step("Glue in " + d.detail.name,
      {"Try it in card first. Take the film off after painting; glue only its margin, " + in_mm(l.hold_mm) + " wide.",
          l.behind ? "From inside, once the part is painted." : "On the face, then its frame over it."},
      "Never a film or sheet over nose and mouth. A tint or mesh shortens sight: a handler at stairs and in the dark.",
      true, true);
}

}  // namespace awl
