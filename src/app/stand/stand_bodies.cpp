#include "app/stand/stand_bodies.hpp"

#include <cmath>
#include <iterator>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

const Vec3f kPlinthWood(0.58f, 0.40f, 0.25f);

}  // namespace

StandBody bodyOf(const Mesh& mesh, const Vec3f& colour) {
  StandBody body;
  body.colour = colour;
  for (const Vec3& p : mesh.vertices) body.places.push_back(p.cast<float>());
  for (const Vec3& n : vertex_normals(mesh)) body.normals.push_back(n.cast<float>());
  body.triangles.assign(mesh.triangles.begin(), mesh.triangles.end());
  return body;
}

StandBody plinth() {
  const float profile[][2] = {{0, -165}, {70, -165}, {92, -166}, {97, -169}, {97, -174}, {94, -177}, {104, -179},
      {112, -183}, {112, -191}, {108, -194}, {0, -194}};
  constexpr int kAround = 72;
  Mesh mesh;
  const int rings = static_cast<int>(std::size(profile));
  for (const auto& [r, y] : profile)
    for (int k = 0; k < kAround; ++k) {
      const double a = kTwoPi * k / kAround;
      mesh.vertices.push_back({r * std::sin(a), y, -20.0 + r * std::cos(a)});
    }
  for (int i = 0; i + 1 < rings; ++i)
    for (int k = 0; k < kAround; ++k) {
      const int a = i * kAround + k, b = i * kAround + (k + 1) % kAround;
      mesh.triangles.push_back({a, a + kAround, b});
      mesh.triangles.push_back({b, a + kAround, b + kAround});
    }
  StandBody body = bodyOf(mesh, kPlinthWood);
  body.gloss = 0.2f;
  return body;
}

StandBody shouldersOf(const Headform& head, double breadth_mm) {
  const double half = 0.5 * (breadth_mm > 0.0 ? breadth_mm : 2.15 * head.reading(MeasureId::HL).reads_mm + 10.0);
  const double neck = head.reading(MeasureId::NC).reads_mm / kTwoPi, top = head.at(Landmark::larynx).y() - 10.0;
  // Half breadth and half depth of the body at heights below the throat.
  struct Level {
    double down, wide, deep;
  };
  const Level levels[] = {{-20, neck, neck}, {0, 1.02 * neck, neck}, {20, 0.36 * half, 1.1 * neck},
      {45, 0.66 * half, 1.25 * neck}, {75, 0.9 * half, 1.35 * neck}, {120, half, 1.45 * neck},
      {190, 0.97 * half, 1.6 * neck}, {330, 0.86 * half, 1.6 * neck}};
  constexpr int kRows = 44, kAround = 72;
  std::vector<Vec3> knots;
  for (const Level& l : levels) knots.push_back({l.wide, l.down, l.deep});
  const auto curve = smooth_through(knots, false, 350.0 / kRows);
  Mesh mesh;
  for (const Vec3& row : curve)
    for (int k = 0; k < kAround; ++k) {
      const double a = kTwoPi * k / kAround;
      mesh.vertices.push_back({row.x() * std::sin(a), top - row.y(), -34.0 + row.z() * std::cos(a)});
    }
  for (int r = 0; r + 1 < static_cast<int>(curve.size()); ++r)
    for (int k = 0; k < kAround; ++k) {
      const int p = r * kAround + k, q = r * kAround + (k + 1) % kAround;
      mesh.triangles.push_back({p, p + kAround, q});
      mesh.triangles.push_back({q, p + kAround, q + kAround});
    }
  StandBody body = bodyOf(mesh, Vec3f(0.55f, 0.57f, 0.60f));
  body.gloss = 0.0f;
  return body;
}

std::vector<StandBody> limbsOf(const PartForm& part) {
  Mesh limb = part.worn_on;
  if (limb.triangles.empty()) return {};
  std::vector<StandBody> both{bodyOf(limb, kStandBlue)};
  for (Vec3& p : limb.vertices) p.x() = -p.x();
  for (Tri& t : limb.triangles) std::swap(t[1], t[2]);
  both.push_back(bodyOf(limb, kStandBlue));
  return both;
}

}  // namespace awl
