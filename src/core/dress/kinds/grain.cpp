#include "core/dress/kinds/grain.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

constexpr std::size_t kMostStrokes = 900;

/// Where strokes stand: strewn by the part's own frame, so that every wearer gets the same.
std::vector<Vec3> strewn(const Grain& g, const Dressing& d) {
  Random dice(static_cast<std::uint64_t>(g.seed));
  const Mesh& face = d.site.outer;
  std::vector<std::size_t> order(face.vertices.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
  for (std::size_t i = order.size(); i > 1; --i)
    std::swap(order[i - 1], order[static_cast<std::size_t>(dice.below(i))]);
  const bool both = d.detail.mirrored && d.site.mirrored;
  std::vector<Vec3> homes, places;
  for (const std::size_t v : order) {
    if (places.size() >= kMostStrokes) break;
    if (both && face.vertices[v].x() < 0.0) continue;
    const Vec3 home = d.site.at_home(face.vertices[v]);
    const bool free = std::none_of(
        homes.begin(), homes.end(), [&](const Vec3& h) { return (h - home).squaredNorm() < g.apart_mm * g.apart_mm; });
    if (free) homes.push_back(home), places.push_back(face.vertices[v]);
  }
  return places;
}

const char* word_of(Grain::Of of) {
  constexpr const char* kWords[] = {"grain", "brush", "fur"};
  return kWords[static_cast<int>(of)];
}

std::vector<std::string> how_to(const Grain& g) {
  switch (g.of) {
    case Grain::Of::brush:
      return {"Brush every coat along the strokes as they are drawn, the last one above all."};
    case Grain::Of::fur:
      return {"Lay hair and fur along the strokes, roots first; trim it the same way."};
    default:
      return {
          "Scratch the grain along the strokes as they are drawn, before it is sealed: long light pulls, then a few "
          "deep ones."};
  }
}

}  // namespace

std::vector<Dial> dials_of(Grain& g) {
  Dials dials;
  dials.group("Which way it runs")
      .choice("of", g.of, {"grain", "brush", "fur"}, "What runs so",
          "Its line is the stroke that tells the way; the rest of the part follows.")
      .choice("follows", g.follows, {"the same slope", "the form freely"}, "The rest keeps to",
          "The same slope all round, of a horn along its spine; or as smooth as the form allows.")
      .length("apart", g.apart_mm, {8, 200}, "Strokes apart", "Drawn on the pieces so far from each other.")
      .length("long", g.long_mm, {6, 300}, "Strokes long", "About, of one stroke.")
      .share("uneven", g.uneven, {0, 0.9}, "Give or take", "No two quite alike.")
      .count("seed", g.seed, {1, 9999}, "Another lot", "Every number strews them otherwise.");
  return std::move(dials).all();
}

void put_on(const Grain& g, Dressing& d) {
  const GrainField field(d.site, d.lines, g.follows);
  Random dice(static_cast<std::uint64_t>(g.seed) + 1);
  const bool both = d.detail.mirrored && d.site.mirrored;
  Mesh seen;
  double all_mm = 0.0;
  for (const Vec3& place : strewn(g, d)) {
    const auto stroke = field.stroke(place, g.long_mm * (1.0 + g.uneven * dice.uniform(-1.0, 1.0)));
    const FormLine line = line_through(d.site, stroke, false);
    if (line.size() < 2 || line.length_mm < 4.0) continue;
    for (const bool image : {false, true}) {
      if (image && !both) break;
      std::vector<Vec3> at = line.at;
      if (image)
        for (Vec3& p : at) p.x() = -p.x();
      d.trace(at, false, TraceKind::grain, {});
      add_mesh(seen, band_along(d.site, image ? line_through(d.site, at, false) : line, 0.35, 0.35, 0.06, 0.08));
    }
    d.place(line.at_mm(0.5 * line.length_mm), line.length_mm, false);
    all_mm += line.length_mm * (both ? 2.0 : 1.0);
    ++d.out.count;
  }
  d.solid(Matter::cord, std::move(seen), 0.0, false);
  d.out.length_mm = all_mm;
  d.fact(counted(d.out.count, "stroke") + (both ? " a side" : "") + " drawn on the pieces, " +
      fixed(all_mm / 1000.0, 1) + " m in all.");
  if (d.out.count == 0)
    return d.remark("room", Severity::warning,
        "no stroke of " + in_mm(g.long_mm) + " finds room; make them shorter or closer.", g.long_mm, {});
  d.step("Keep to the " + std::string(word_of(g.of)) + " of " + d.detail.name, how_to(g),
      g.of == Grain::Of::grain ? "Wire brush and rasp: goggles, and a dust mask." : "", false, true);
}

}  // namespace awl
