#pragma once
#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/dress/dress.hpp"
#include "core/io/dress_case.hpp"

namespace awl::test {

/// Known answers: plain surfaces whose strips, rows and marks can be worked out by hand. Source:
/// docs/formulas/dress-*.md, "worked by hand".
inline const DressRules& dress_rules() {
  static const DressRules loaded = *load_dress_rules(data_folder() / "rules");
  return loaded;
}

/// A surface of revolution about the upright axis, seen from outside; the front is at +z.
inline Mesh turned_surface(int rows, const std::function<Vec2(double)>& profile, bool closed = false) {
  constexpr int kColumns = 240;
  Mesh m;
  for (int r = 0; r < rows + (closed ? 0 : 1); ++r)
    for (int c = 0; c < kColumns; ++c) {
      const Vec2 p = profile(static_cast<double>(r) / rows);
      const double a = kTwoPi * c / kColumns;
      m.vertices.push_back({p.x() * std::sin(a), p.y(), p.x() * std::cos(a)});
    }
  const int count = rows + (closed ? 0 : 1);
  for (int r = 0; r < rows; ++r)
    for (int c = 0; c < kColumns; ++c) {
      const int a = r * kColumns + c, b = r * kColumns + (c + 1) % kColumns, d = (r + 1) % count * kColumns + c,
                e = (r + 1) % count * kColumns + (c + 1) % kColumns;
      m.triangles.push_back({a, b, d});
      m.triangles.push_back({b, e, d});
    }
  return m;
}
inline Mesh turned_cone() {
  return turned_surface(30, [](double t) { return Vec2(100.0 - 40.0 * t, 120.0 * t); });
}
inline Mesh turned_tube() {
  return turned_surface(60, [](double t) { return Vec2(80.0, -120.0 + 240.0 * t); });
}
inline Mesh turned_sphere() {
  return turned_surface(120, [](double t) {
    const double polar = kPi - 0.1 - t * (kPi - 0.2);
    return Vec2(100.0 * std::sin(polar), 100.0 * std::cos(polar));
  });
}
inline Mesh turned_ring() {
  return turned_surface(
      80, [](double t) { return Vec2(120.0 + 40.0 * std::cos(kTwoPi * t), 40.0 * std::sin(kTwoPi * t)); }, true);
}

inline SeamMesh as_form(const Mesh& mesh) {
  SeamMesh form;
  form.mesh = mesh;
  return form;
}

/// What one detail of a case comes to on a mesh.
inline Dressed dressed_case(const SeamMesh& mesh, const std::string& details) {
  const DressSite site = DressSite::of_mesh(mesh);
  const auto spec = dress_case_from(R"({"details":[)" + details + "]}", site, "case");
  INFO((spec ? std::string() : spec.error().text));
  REQUIRE(spec);
  const Foam foam = load_materials(data_folder() / "materials")->foam("eva-firm").value();
  return dressed(spec->details.back(), site, {foam, foam, {}}, dress_rules(), nullptr);
}

inline std::string told_by(const Dressed& d) {
  std::string all;
  for (const Remark& r : d.yield.remarks) all += r.sentence + "\n";
  return all;
}

inline Dressed on_tube(const std::string& details) { return dressed_case(as_form(turned_tube()), details); }
inline Dressed on_cone(const std::string& details) { return dressed_case(as_form(turned_cone()), details); }

inline const Remark* remark_in(const Dressed& d, const std::string& id) {
  for (const Remark& r : d.yield.remarks)
    if (r.id == id) return &r;
  return nullptr;
}

}  // namespace awl::test
