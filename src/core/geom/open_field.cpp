#include "core/geom/open_field.hpp"

#include <cmath>

namespace awl {
namespace {

std::shared_ptr<const std::vector<char>> border_of(const Mesh& mesh) {
  auto border = std::make_shared<std::vector<char>>(mesh.vertices.size(), 0);
  for (const auto& loop : border_loops(mesh))
    for (const int v : loop) (*border)[v] = 1;
  return border;
}

}  // namespace

OpenField::OpenField(const Mesh& mesh)
    : mesh_(std::make_shared<const Mesh>(mesh)), border_(border_of(mesh)), near_(mesh) {}

bool OpenField::past(const NearestHit& hit) const {
  constexpr double kOnCorner = 1e-6;
  const Tri& t = mesh_->triangles[hit.triangle];
  for (int k = 0; k < 3; ++k)
    if (hit.weights[k] >= kOnCorner && (*border_)[t[k]] == 0) return false;
  return true;
}

double OpenField::operator()(const Vec3& p) const {
  const NearestHit at = hit(p);
  return past(at) ? std::abs(at.signed_mm) : at.signed_mm;
}

}  // namespace awl
