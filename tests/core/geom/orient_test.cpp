#include "core/geom/orient.hpp"

#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "support/plain_shapes.hpp"
#include "support/solids.hpp"

using namespace awl;

TEST_CASE("triangles wound the other way are set right and counted", "[geom][orient]") {
  const Mesh whole = GENERATE(test::grid_hemisphere(100.0), test::torus(100.0, 35.0), test::cube(10.0));
  Random random(3);
  for (const int wrong : {0, 1, 3}) {
    Mesh mixed = whole;
    std::set<std::size_t> turned;
    while (static_cast<int>(turned.size()) < wrong) turned.insert(random.next() % mixed.triangles.size());
    for (const std::size_t f : turned) std::swap(mixed.triangles[f][1], mixed.triangles[f][2]);
    const auto right = oriented(mixed);
    REQUIRE(right);
    CHECK(right->turned == wrong);
    CHECK(right->mesh.triangles.size() == whole.triangles.size());
    CHECK(area_vector(right->mesh, right->mesh.triangles[0]).dot(area_vector(whole, whole.triangles[0])) > 0.0);
    CHECK(oriented(right->mesh)->turned == 0);
  }
}

TEST_CASE("a closed mesh that is inside out is turned as a whole, an open one is left", "[geom][orient]") {
  const auto turn_all = [](Mesh m) {
    for (Tri& t : m.triangles) std::swap(t[1], t[2]);
    return m;
  };
  const auto closed = oriented(turn_all(test::cube(10.0)));
  REQUIRE(closed);
  CHECK(closed->inside_out);
  CHECK(closed->turned == 0);
  CHECK(volume_mm3(closed->mesh) > 0.0);
  const auto open = oriented(turn_all(test::grid_hemisphere(100.0)));
  REQUIRE(open);
  CHECK_FALSE(open->inside_out);
}

TEST_CASE("what has one side, or three sheets at an edge, is refused", "[geom][orient]") {
  const int n = 24;
  Mesh band;
  for (int i = 0; i < n; ++i) {
    const double a = kTwoPi * i / n, half = 0.5 * a;
    for (const double s : {-8.0, 8.0})
      band.vertices.push_back(Vec3(
          (50.0 + s * std::cos(half)) * std::cos(a), s * std::sin(half), (50.0 + s * std::cos(half)) * std::sin(a)));
  }
  for (int i = 0; i < n; ++i) {
    const bool last = i + 1 == n;
    const int a = 2 * i, b = a + 1, c = last ? 1 : a + 2, d = last ? 0 : a + 3;
    band.triangles.push_back({a, c, b}), band.triangles.push_back({b, c, d});
  }
  CHECK(oriented(band).error().text.find("one side") != std::string::npos);
  Mesh three{
      {Vec3(0, 0, 0), Vec3(1, 0, 0), Vec3(0, 1, 0), Vec3(0, 0, 1), Vec3(0, -1, 0)}, {{0, 1, 2}, {1, 0, 3}, {0, 1, 4}}};
  CHECK(oriented(three).error().text.find("3 triangles") != std::string::npos);
}
