#include "core/make/way.hpp"

#include <array>
#include <map>

#include "core/base/numbers.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

constexpr std::array<const char*, 6> kWays{"skin", "slabs", "carve", "net", "drawn", "cast"};
constexpr std::array<const char*, 3> kShells{"tape", "card", "bandage"}, kFillings{"expanding", "plaster", "scraps"};
constexpr std::array<const char*, 4> kAxes{"up", "front", "side", "own"};

template <class Value, std::size_t N>
Result<Value> by_name(const std::array<const char*, N>& names, const std::string& name, const char* what) {
  std::string all;
  for (std::size_t i = 0; i < N; ++i) {
    if (name == names[i]) return static_cast<Value>(i);
    all += (i == 0 ? "" : ", ") + std::string(names[i]);
  }
  return fail(Errc::unknown_name, "\"" + name + "\" is no " + what + "; there are: " + all + ".");
}

}  // namespace

const char* name_of(Way way) { return kWays[static_cast<std::size_t>(way)]; }
Result<Way> way_from(const std::string& name) { return by_name<Way>(kWays, name, "way of making a part"); }
const char* name_of(CastShell shell) { return kShells[static_cast<std::size_t>(shell)]; }
const char* name_of(CastFill fill) { return kFillings[static_cast<std::size_t>(fill)]; }
Result<CastShell> cast_shell_from(const std::string& name) {
  return by_name<CastShell>(kShells, name, "shell to cast in");
}
Result<CastFill> cast_fill_from(const std::string& name) {
  return by_name<CastFill>(kFillings, name, "fill of a cast");
}
const char* name_of(Axis axis) { return kAxes[static_cast<std::size_t>(axis)]; }
Result<Axis> axis_from(const std::string& name) { return by_name<Axis>(kAxes, name, "direction"); }

std::vector<Dial> dials_of(WaySpec& s) {
  Dials dials;
  dials
      .choice("way", s.way, {kWays.begin(), kWays.end()}, "Made as",
          "Skin for hollow, light forms; slabs and carving for thick ones; a paper net only to check the size; drawn "
          "for visors.")
      .said({"Skin of sheet pieces", "Slabs, stacked", "Carved from a block", "Paper net, to check",
          "Visor, drawn over a buck", "Cast in a wrap"})
      .choice("along", s.along, {kAxes.begin(), kAxes.end()}, "Stacked",
          "Slabs lie across this direction; a block stands along it. The part's own longest extent suits horns and "
          "fins.")
      .said({"upwards", "from back to front", "from side to side", "along its longest extent"})
      .word("block", s.block, "Cut from", "The stack takes whichever of its thicknesses wastes least.")
      .length("wall", s.wall_mm, {0, 200}, "Wall",
          "0: solid. Else each slab is cut hollow where so much stays all round: room for a fan, or a head.")
      .key("wall_mm")
      .length("spare", s.spare_mm, {0, 30}, "Left on", "Beyond the form, for carving.")
      .key("spare_mm")
      .count("faces", s.net_faces, {20, 1000}, "Faces", "More faces come nearer to the form and take longer to glue.")
      .key("net_faces")
      .length("tab", s.net_tab_mm, {0, 20}, "Tabs", "Smaller where there is no room, none where tape does it.")
      .key("net_tab_mm")
      .choice("pull", s.pull, {kAxes.begin(), kAxes.end()}, "Pulled towards",
          "The side of the head that lies on top in the press.")
      .said({"the top", "the front", "the side", "along its longest extent"})
      .word("sheet", s.sheet, "Sheet", "What is heated and drawn.")
      .length("thick", s.sheet_mm, {0.3, 12}, "Thickness", "Before it is drawn; the facts below say how thin it gets.")
      .key("sheet_mm")
      .length("skirt", s.skirt_mm, {0, 200}, "Skirt", "How far the buck goes on straight below the visor's edge.")
      .key("skirt_mm")
      .length("clamp", s.clamp_mm, {5, 100}, "In the frame", "What the frame holds all round.")
      .key("clamp_mm")
      .choice("shell", s.shell, {kShells.begin(), kShells.end()}, "Its shell",
          "What the wrap is of. Plaster bandage only over a headform, never on a face.")
      .said({"Film and tape", "Strips of card", "Plaster bandage"})
      .later()
      .choice("fill", s.fill, {kFillings.begin(), kFillings.end()}, "Filled with",
          "Foam is light, plaster heavy and stands well, offcuts cost nothing.")
      .said({"Expanding foam", "Plaster, as a wall", "Offcuts and glue"})
      .later();
  return std::move(dials).all();
}

Result<void> check_way(const WaySpec& spec) {
  WaySpec copy = spec;
  return check_dials(dials_of(copy), "way");
}

std::vector<Body> bodies_of(const Mesh& outer, bool mirrored, const std::string& name) {
  const auto part = connected_parts(outer, [](int, int) { return true; });
  std::map<int, std::vector<int>> faces;
  for (int f = 0; f < static_cast<int>(part.size()); ++f) faces[part[f]].push_back(f);
  const int half = static_cast<int>(outer.triangles.size()) / 2;
  std::vector<Body> bodies;
  for (const auto& [id, own] : faces) {
    bool paired = false;
    if (mirrored) {
      const int twin = own.front() < half ? own.front() + half : own.front() - half;
      paired = part[twin] != id;
      if (paired && own.front() >= half) continue;
    }
    std::vector<int> old;
    Body body;
    body.open = part_of(outer, own, old);
    body.solid = capped(body.open);
    body.paired = paired;
    bodies.push_back(std::move(body));
  }
  for (std::size_t i = 0; i < bodies.size(); ++i)
    bodies[i].name = bodies.size() == 1 ? name : name + " " + std::to_string(i + 1);
  return bodies;
}

}  // namespace awl
