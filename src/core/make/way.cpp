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

Result<void> check_way(const WaySpec& s) {
  struct Limit {
    double value, least, most;
    const char* what;
    const char* unit;
  };
  for (const Limit& l : {Limit{s.wall_mm, 0.0, 200.0, "The wall of slabs", " mm"},
           Limit{s.spare_mm, 0.0, 30.0, "What is left on for carving", " mm"},
           Limit{static_cast<double>(s.net_faces), 20.0, 1000.0, "The number of faces of a paper net", ""},
           Limit{s.net_tab_mm, 0.0, 20.0, "A tab of a paper net", " mm"},
           Limit{s.sheet_mm, 0.3, 12.0, "A drawn sheet", " mm"},
           Limit{s.skirt_mm, 0.0, 200.0, "The skirt of a buck", " mm"},
           Limit{s.clamp_mm, 5.0, 100.0, "What the frame holds", " mm"}})
    if (!(l.value >= l.least && l.value <= l.most))
      return fail(Errc::out_of_range,
          std::string(l.what) + ", " + fixed(l.value, 1) + l.unit + ", is outside " + fixed(l.least, 1) + " to " +
              fixed(l.most, 1) + l.unit + ".",
          "way");
  return {};
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
