#include "core/derived/part_ground.hpp"

namespace awl {

PartGround::PartGround(std::shared_ptr<const PartForm> form, std::shared_ptr<const Headform> head)
    : form_(std::move(form)), head_(std::move(head)), near_(form_->surface.mesh),
      places_(form_->surface.mesh, form_->surface.home),
      outer_(sheet_face(
          form_->surface.mesh, {span_of(form_->surface, form_->name, form_->outside, form_->thickness_mm)}, true)),
      mirrored_(is_mirrored(form_->surface)) {
  constexpr double kOverMm = 40.0;  // a landmark deeper below the form is not one of its places
  const auto& v = form_->surface.mesh.vertices;
  for (const auto& e : topology_of(form_->surface.mesh).edges)
    if (e.right < 0) edges_.push_back({v[e.a], v[e.b]});
  for (int i = 0; i < kLandmarkCount; ++i) {
    const Vec3 over = onto(head_->landmarks[i]);
    if ((over - head_->landmarks[i]).norm() < kOverMm) landmarks_.push_back({over, name_of(static_cast<Landmark>(i))});
  }
}

Snap PartGround::snapped(const Vec3& place, double reach_mm) const {
  Snap best{place, {}};
  double least = reach_mm;
  const auto offer = [&](const Vec3& q, const std::string& to, double favour = 1.0) {
    const double d = (q - place).norm() * favour;
    if (d >= least) return;
    least = d;
    best = {q, to};
  };
  const auto offer_line = [&](const std::vector<Vec3>& line, const std::string& to) {
    for (std::size_t i = 0; i + 1 < line.size(); ++i) offer(closest_on_stretch(place, line[i], line[i + 1]), to);
  };
  if (mirrored_) offer(Vec3(0.0, place.y(), place.z()), "the middle line");
  for (const FeatureLine& line : form_->features) offer_line(line.line, "the " + line.name);
  for (const DrawnLine& line : form_->drawn) {
    if (line.seam.hidden) continue;
    for (const Vec3& m : line.markers) offer(m, "a marker of " + line.seam.name, 0.7);
    offer_line(line.line, line.seam.name);
  }
  const auto& v = form_->surface.mesh.vertices;
  for (const auto& [edge, id] : form_->surface.seam_of)
    offer(closest_on_stretch(place, v[edge.first], v[edge.second]), "the seam " + form_->surface.seam_names[id.value]);
  for (const auto& [a, b] : edges_) offer(closest_on_stretch(place, a, b), "the edge");
  for (const auto& [over, name] : landmarks_) offer(over, std::string("over the ") + name);
  return best;
}

}  // namespace awl
