#include "core/fit/fit_part.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include <Eigen/Geometry>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kSharpCosine = 0.766;  // 40 degrees
constexpr double kIndex = 1.5;          // of clear plastics

/// Share thrown back by both faces of a sheet, by Fresnel for unpolarised light.
double thrown_back(double cosine) {
  const double c = std::clamp(cosine, 0.02, 1.0), sine = std::sqrt(1.0 - c * c) / kIndex,
               inside = std::sqrt(1.0 - sine * sine);
  const double s = (c - kIndex * inside) / (c + kIndex * inside), p = (inside - kIndex * c) / (inside + kIndex * c);
  return 0.5 * (s * s + p * p);
}

}  // namespace

double light_through(const ThroughLook& look, double cosine) {
  const double c = std::clamp(std::abs(cosine), 0.02, 1.0);
  switch (look.kind) {
    case ThroughLook::Kind::none:
      return 0.0;
    case ThroughLook::Kind::flat:
      return look.share;
    case ThroughLook::Kind::sheet: {
      const double ratio = (1.0 - thrown_back(c)) / (1.0 - thrown_back(1.0));
      return look.share * ratio * ratio;
    }
    case ThroughLook::Kind::woven: {
      const double k = 1.0 - std::sqrt(look.share);
      return (1.0 - k) * std::max(0.0, 1.0 - k / c);
    }
    case ThroughLook::Kind::holes: {
      const double q = look.thick_mm * std::sqrt(1.0 - c * c) / c / std::max(look.hole_mm, 0.05);
      if (q >= 1.0) return 0.0;
      return look.share * (2.0 / kPi) * (std::acos(q) - q * std::sqrt(1.0 - q * q));
    }
    case ThroughLook::Kind::cloth:
      return look.share <= 0.0 ? 0.0 : std::pow(look.share, 1.0 / c);
  }
  return 0.0;
}

std::vector<RimStretch> rims_of(const Mesh& mesh) {
  const Topology topo = topology_of(mesh);
  std::vector<RimStretch> rims;
  for (const auto& e : topo.edges) {
    const Vec3 n = area_vector(mesh, mesh.triangles[e.left]).normalized();
    const bool border = e.right < 0;
    if (border) {
      rims.push_back({mesh.vertices[e.a], mesh.vertices[e.b], n});
      continue;
    }
    const Vec3 m = area_vector(mesh, mesh.triangles[e.right]).normalized();
    // Both faces of a sharp edge: which of them the view slips along is told by the view.
    if (n.dot(m) < kSharpCosine) {
      rims.push_back({mesh.vertices[e.a], mesh.vertices[e.b], n});
      rims.push_back({mesh.vertices[e.a], mesh.vertices[e.b], m});
    }
  }
  return rims;
}

SolidMass mass_of(const Mesh& solid, double density_kg_m3) {
  // Second moments by signed tetrahedra from the origin. Source: docs/formulas/fit-balance.md eq. (1).
  double volume = 0.0, xx = 0.0, zz = 0.0;
  Vec3 first = Vec3::Zero();
  for (const Tri& t : solid.triangles) {
    const Vec3 &a = solid.vertices[t[0]], &b = solid.vertices[t[1]], &c = solid.vertices[t[2]];
    const double v = a.dot(b.cross(c)) / 6.0;
    volume += v;
    first += v * (a + b + c) / 4.0;
    const auto square = [&](int k) {
      return v / 10.0 * (a[k] * a[k] + b[k] * b[k] + c[k] * c[k] + a[k] * b[k] + b[k] * c[k] + c[k] * a[k]);
    };
    xx += square(0), zz += square(2);
  }
  if (std::abs(volume) < 1e-9) return {};
  const double g_mm3 = density_kg_m3 * 1e-6;
  SolidMass mass;
  mass.mass_g = std::abs(volume) * g_mm3;
  mass.centre = first / volume;
  const double about_origin = std::abs(xx + zz) * g_mm3;
  mass.inertia_g_mm2 = std::max(
      0.0, about_origin - mass.mass_g * (mass.centre.x() * mass.centre.x() + mass.centre.z() * mass.centre.z()));
  return mass;
}

bool is_closed(const Mesh& mesh) {
  std::map<std::pair<int, int>, int> uses;
  for (const Tri& t : mesh.triangles)
    for (int k = 0; k < 3; ++k) uses[{t[k], t[(k + 1) % 3]}] += 1;
  return std::all_of(uses.begin(), uses.end(), [&](const auto& use) {
    const auto back = uses.find({use.first.second, use.first.first});
    return back != uses.end() && back->second == use.second;
  });
}

}  // namespace awl
