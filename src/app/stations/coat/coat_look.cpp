#include "app/stations/coat/coat_look.hpp"

#include <limits>

#include "app/widgets/text.hpp"
#include "core/coat/colour.hpp"
#include "core/derived/colour_map.hpp"

namespace awl {
namespace {

/// What paint lies on by the time a step is done: seals and paints, by the rules' names.
bool isDoneBy(const Plan& plan, const QString& chosen, const std::string& id) {
  if (chosen.isEmpty()) return true;
  for (const PlannedStep& s : plan.steps) {
    if (s.id == id) return true;
    if (QString::fromStdString(s.id) == chosen) return false;
  }
  return false;
}

/// The last step of a rule and scope; empty if there is none.
std::string lastOf(const Plan& plan, const std::string& prefix) {
  std::string last;
  for (const PlannedStep& s : plan.steps)
    if (s.id.starts_with(prefix)) last = s.id;
  return last;
}

/// How far a place lies along a way of fading.
double alongFade(const Vec3& p, FadeWay way) {
  return way == FadeWay::down ? -p.y() : way == FadeWay::back ? -p.z() : std::abs(p.x());
}

/// The mixes of one area, laid on its faces in even steps.
void fade(const ColourMap& map, const Mesh& mesh, const ColourArea& area, int from, int to, std::vector<int>& rgb) {
  // Each mix is laid into the last, so no step is seen between them.
  constexpr int kBlends = 8;
  const int count = kBlends * gradient_mixes(static_cast<unsigned>(from), static_cast<unsigned>(to));
  const auto at = [&](std::size_t f) {
    const auto& t = mesh.triangles[f];
    return alongFade((mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0, area.fades);
  };
  double least = std::numeric_limits<double>::max(), most = -least;
  for (std::size_t f = 0; f < rgb.size(); ++f)
    if (map.area_of_face[f] == area.id) {
      least = std::min(least, at(f));
      most = std::max(most, at(f));
    }
  if (most <= least) return;
  for (std::size_t f = 0; f < rgb.size(); ++f)
    if (map.area_of_face[f] == area.id)
      rgb[f] = static_cast<int>(mix_between(static_cast<unsigned>(from), static_cast<unsigned>(to),
          static_cast<int>((at(f) - least) / (most - least) * count), count));
}

}  // namespace

std::shared_ptr<const PaintedLook> lookAfter(const Build& build, const Derived& d, const QString& step) {
  if (!d.form || !d.plan || build.making != Making::parts) return nullptr;
  auto look = std::make_shared<PaintedLook>();
  const Plan& plan = *d.plan;
  look->on = d.form;
  if (d.colours) look->ground = d.colours->ground;
  const Mesh& surface = look->ground ? look->ground->surface : d.form->surface.mesh;
  look->rgb_of_face.assign(surface.triangles.size(), -1);
  const std::string sealed = lastOf(plan, "seal/");
  if (!sealed.empty() && isDoneBy(plan, step, sealed)) look->rest = 0x8d8980;
  const auto painted = [&](int area) {
    const std::string last = lastOf(plan, "paint/" + std::to_string(area) + "/");
    return !last.empty() && isDoneBy(plan, step, last);
  };
  for (const ColourArea& a : build.coat.areas) {
    const Pigment *own = find_pigment(build.coat, a.pigment), *end = find_pigment(build.coat, a.fades_to);
    if (!d.colours || own == nullptr || !painted(a.id)) continue;
    const ColourMap& map = *d.colours;
    if (map.area_of_face.size() == look->rgb_of_face.size()) {
      for (std::size_t f = 0; f < map.area_of_face.size(); ++f)
        if (map.area_of_face[f] == a.id) look->rgb_of_face[f] = own->rgb;
      if (end != nullptr && end->rgb != own->rgb) fade(map, surface, a, own->rgb, end->rgb, look->rgb_of_face);
    }
    for (const auto& [detail, area] : map.details)
      if (area == a.id) look->rgb_of_detail[detail] = own->rgb;
  }
  const std::string clear = lastOf(plan, "clear/");
  look->gloss = !clear.empty() && isDoneBy(plan, step, clear) ? 0.16f : 0.07f;
  return look;
}

}  // namespace awl
