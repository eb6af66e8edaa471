#include "core/seam/panel_names.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

Vec3 centre_of(const Panel& panel) {
  Vec3 sum = Vec3::Zero();
  double area = 0.0;
  for (const Tri& t : panel.solid.triangles) {
    const double a = area_vector(panel.solid, t).norm();
    sum += a / 3.0 * (panel.solid.vertices[t[0]] + panel.solid.vertices[t[1]] + panel.solid.vertices[t[2]]);
    area += a;
  }
  return sum / std::max(area, 1e-9);
}

std::string place_of(const Vec3& c, bool middle) {
  const double turn = degrees(std::atan2(std::abs(c.x()), c.z() + 5.0));
  const std::string level = c.y() > 55.0 ? "crown" : c.y() < -20.0 ? "lower" : "";
  const std::string around = turn < 60.0 ? "front" : turn < 120.0 ? "side" : "back";
  if (middle && level == "crown") return "crown";
  return level.empty() ? around : level + " " + around;
}

}  // namespace

void name_panels(std::vector<Panel>& panels, bool on_head) {
  std::map<std::string, int> used;
  for (Panel& p : panels) {
    if (!on_head) {
      p.name = std::to_string(p.id.value + 1);
      continue;
    }
    const Vec3 c = centre_of(p);
    const bool middle = std::abs(c.x()) < 8.0;
    std::string name = place_of(c, middle);
    name += middle ? (name == "crown" ? "" : " middle") : c.x() > 0.0 ? " left" : " right";
    const int count = ++used[name];
    p.name = count == 1 ? name : name + " " + std::to_string(count);
  }
}

void letter_seams(std::vector<Seam>& seams) {
  std::map<std::string, std::string> letters;
  const auto base = [](std::string name) {
    for (const char* side : {" left", " right"})
      if (const auto at = name.find(side); at != std::string::npos) name.erase(at, std::string(side).size());
    return name;
  };
  for (Seam& seam : seams) {
    if (seam.length_3d_mm <= 0.0) continue;
    const auto [it, fresh] = letters.try_emplace(base(seam.name), letter_of(static_cast<int>(letters.size())));
    seam.letter = it->second;
  }
}

}  // namespace awl
