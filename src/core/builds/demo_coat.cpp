#include "core/builds/demo_coat.hpp"

#include <algorithm>

#include "core/stuff/bears.hpp"

namespace awl {
namespace {

struct Colour {
  const char* name;
  int rgb;
};

/// What a demo wears: a colour for each part in its order, one for what is raised on them, and how it is put on.
struct Finish {
  const char* id;
  std::vector<Colour> parts;
  Colour raised;
  const char *seal, *paint, *clear;
  Shade shade;
  bool sprayed_first;  ///< the largest part is sprayed, the others brushed beside it
};

const std::vector<Finish>& finishes() {
  static const std::vector<Finish> all{
      {"heron-warden", {{"slate blue", 0x4f6475}, {"bill ochre", 0xc48a2a}, {"ink", 0x1e2a36}}, {"mist", 0xc9d3d6},
          "rubber", "acrylic", "matt", Shade::wash, true},
      {"ferry-keeper", {{"weathered iron", 0x4a4f52}, {"tarred cap", 0x2b2724}, {"moss", 0x5c6b3d}}, {"rust", 0x9a4f24},
          "rubber", "acrylic", "matt", Shade::wash, false},
      {"almanac-seller", {{"parchment", 0xd8c193}, {"old brass", 0xa9843a}}, {"oxblood", 0x6e2323}, "primer", "acrylic",
          "matt", Shade::wash, false},
      {"toll-clerk", {{"bottle green", 0x1f4a3a}, {"old brass", 0xa9843a}, {"black lacquer", 0x1b1b1d}},
          {"claret", 0x7a2434}, "primer", "acrylic", "matt", Shade::none, true},
      {"thicket-ram", {{"bark", 0x5a4331}, {"horn grey", 0x8d8270}, {"fawn", 0xb08a5f}}, {"bone", 0xd9ceb2}, "rubber",
          "acrylic", "matt", Shade::wash, false},
      {"reed-mask", {{"reed", 0xb9a45c}, {"mud", 0x5e4c36}}, {"ash", 0x3d3a35}, "glue-coats", "acrylic", "matt",
          Shade::oil, false},
      {"eel-catcher", {{"eel back", 0x32463f}, {"belly", 0xa9b08a}, {"gum", 0x7d3b3b}}, {"bone", 0xd9ceb2}, "rubber",
          "acrylic", "matt", Shade::wash, false},
      {"lamp-post", {{"cast iron", 0x30363a}, {"verdigris", 0x4d8673}, {"old brass", 0xa9843a}}, {"soot", 0x1d1c1b},
          "rubber", "acrylic", "matt", Shade::wash, true},
      {"marsh-guard", {{"peat", 0x3c3226}, {"rush green", 0x6a7a3f}, {"leather", 0x7b5130}}, {"dull steel", 0x83898b},
          "rubber", "acrylic", "matt", Shade::wash, false},
      {"otter-pup", {{"otter brown", 0x6b4a32}, {"cream", 0xe4d3b5}, {"nose", 0x2a2021}}, {"whisker", 0xf0e8d8},
          "rubber", "acrylic", "matt", Shade::none, false},
  };
  return all;
}

/// Where the largest part runs from its colour into another.
struct Fading {
  const char *id, *name;
  int rgb;
  FadeWay way;
};
constexpr Fading kFadings[] = {{"heron-warden", "mist", 0xc9d3d6, FadeWay::down},
    {"otter-pup", "cream", 0xe4d3b5, FadeWay::down}, {"eel-catcher", "belly", 0xa9b08a, FadeWay::down}};

/// A patch of another colour on the first part: a line round it, in its own frame, and a place inside.
struct Patch {
  const char *id, *name;
  Colour colour;
  std::vector<Vec3> round;
  const char* within;
};
const std::vector<Patch>& patches() {
  static const std::vector<Patch> all{{"heron-warden", "eye stripe", {"ink", 0x1e2a36},
      {{47, 36, 92}, {62, 50, 78}, {76, 60, 50}, {86, 58, 4}, {74, 56, -60}, {40, 66, -94}, {62, 44, -84},
          {84, 40, -20}, {86, 38, 20}, {70, 34, 66}, {52, 26, 88}},
      "80 50 30"}};
  return all;
}

void add_patch(Build& b, const Patch& patch) {
  DrawnSeam line;
  line.name = patch.name;
  line.points = patch.round;
  line.closed = true;
  line.role = LineRole::colours;
  for (const DrawnSeam& s : b.parts[0].drawn) line.id = std::max(line.id, s.id + 1);
  b.parts[0].drawn.push_back(std::move(line));
  ColourArea area;
  area.name = patch.name;
  area.of = "field " + std::to_string(b.parts[0].id) + " " + patch.within;
  area.pigment = add_pigment(b, patch.colour.name, patch.colour.rgb);
  area.hard_edge = true;
  (void)add_area(b, area);
}

/// Sewn and clear stuff keeps its own colour.
bool is_painted(const Detail& d) { return d.stuff.empty() || d.stuff.starts_with("eva-"); }

bool is_raised(const DetailShape& shape) {
  return std::holds_alternative<Outline>(shape) || std::holds_alternative<Rib>(shape) ||
      std::holds_alternative<Strip>(shape) || std::holds_alternative<Scales>(shape) ||
      std::holds_alternative<LacedPlates>(shape) || std::holds_alternative<Buckle>(shape);
}

}  // namespace

int add_pigment(Build& b, const std::string& name, int rgb) {
  for (const Pigment& p : b.coat.pigments)
    if (p.rgb == rgb && p.name == name) return p.id;
  int id = 1;
  for (const Pigment& p : b.coat.pigments) id = std::max(id, p.id + 1);
  b.coat.pigments.push_back({id, name, rgb});
  return id;
}

Result<int> add_area(Build& b, ColourArea area) {
  if (b.coat.areas.size() >= 60)
    return fail(Errc::too_large, "60 colour areas are the most; make areas of one paint one.", "coat/areas");
  area.id = 1;
  for (const ColourArea& a : b.coat.areas) area.id = std::max(area.id, a.id + 1);
  b.coat.areas.push_back(area);
  return area.id;
}

Build with_part_colours(Build b, const Materials& materials) {
  constexpr Colour kUsual[] = {
      {"slate", 0x55626c}, {"ochre", 0xb8862f}, {"moss", 0x5f6f45}, {"brick", 0x8c4a35}, {"bone", 0xd6cbb0}};
  std::size_t turn = b.coat.areas.size();
  for (const Part& part : b.parts) {
    const std::string of = "part " + std::to_string(part.id);
    const bool there =
        std::any_of(b.coat.areas.begin(), b.coat.areas.end(), [&](const ColourArea& a) { return a.of == of; });
    const auto stuff = part.stuff.empty() ? foam_of(b.foam, materials) : materials.foam(part.stuff);
    if (there || part.way.way == Way::net || part.way.way == Way::drawn || (stuff && !takes_coats(*stuff))) continue;
    const Colour& colour = kUsual[turn++ % std::size(kUsual)];
    ColourArea area;
    area.name = part.name;
    area.of = of;
    area.pigment = add_pigment(b, colour.name, colour.rgb);
    if (!add_area(b, area)) break;
  }
  return b;
}

void coat_demo(Build& b, const std::string& id) {
  const auto at = std::find_if(finishes().begin(), finishes().end(), [&](const Finish& f) { return id == f.id; });
  if (at == finishes().end()) return;
  b.coat.seal = at->seal;
  b.coat.paint = at->paint;
  b.coat.clear = at->clear;
  b.coat.shade = at->shade;
  for (std::size_t i = 0; i < b.parts.size(); ++i) {
    const Part& part = b.parts[i];
    if (part.way.way == Way::drawn) continue;  // a clear visor
    const Colour& colour = at->parts[std::min(i, at->parts.size() - 1)];
    ColourArea area;
    area.name = part.name;
    area.of = "part " + std::to_string(part.id);
    area.pigment = add_pigment(b, colour.name, colour.rgb);
    if (i == 0 && at->sprayed_first) area.paint = "spray";
    area.hard_edge = i > 0;
    (void)add_area(b, area);
  }
  for (const Detail& d : b.dress.details) {
    if (!is_raised(d.shape) || !is_painted(d)) continue;
    ColourArea area;
    area.name = d.name;
    area.of = "detail " + std::to_string(d.id);
    area.pigment = add_pigment(b, at->raised.name, at->raised.rgb);
    (void)add_area(b, area);
  }
  for (const Patch& patch : patches())
    if (id == patch.id) add_patch(b, patch);
  for (const Fading& f : kFadings)
    if (id == f.id && !b.coat.areas.empty()) {
      b.coat.areas.front().fades_to = add_pigment(b, f.name, f.rgb);
      b.coat.areas.front().fades = f.way;
    }
  b.coat.drying_places = 3;
  // Three hundred scales are not cut in a fortnight of evenings.
  b.coat.due = Day{b.coat.start.number + (id == "thicket-ram" ? 24 : 16)};
}

}  // namespace awl
