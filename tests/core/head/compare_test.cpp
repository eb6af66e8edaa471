#include "core/head/compare.hpp"

#include <catch2/catch.hpp>

#include "core/geom/offset.hpp"
#include "support/bench_data.hpp"

using namespace awl;
using M = MeasureId;

TEST_CASE("a head pushed outwards stands out by as much everywhere", "[head][compare]") {
  const auto form = test::fitter().fit({{M::HC, 566}});
  REQUIRE(form);
  CHECK(std::abs(distance_map(form->mesh, form->mesh).most_mm) < 1e-6);
  const DistanceMap out = distance_map(offset_by_planes(form->mesh, 1.0), form->mesh);
  CHECK(out.mean_mm == Approx(1.0).margin(0.15));
  CHECK(out.p95_mm < 1.3);
  CHECK(distance_map(offset_by_planes(form->mesh, -1.0), form->mesh).mean_mm == Approx(-1.0).margin(0.15));
}

TEST_CASE(
    "a symmetric head equals its other side, a crooked one does not, and the words say where", "[head][compare]") {
  const auto even = test::fitter().fit({{M::HC, 566}});
  CHECK(std::abs(left_against_right(*even).most_mm) < 1e-6);
  const auto crooked = test::fitter().fit({{M::HC, 566}, {M::HBL, 81}, {M::HBR, 74}});
  REQUIRE(crooked);
  const DistanceMap map = left_against_right(*crooked);
  CHECK(std::abs(map.most_mm) > 2.5);
  // Somewhere on the left it stands out, somewhere on the right it lies in.
  double left = 0.0, right = 0.0;
  for (std::size_t v = 0; v < map.mm.size(); ++v) {
    const Vec3& p = crooked->mesh.vertices[v];
    if (p.x() > 50) left = std::max(left, map.mm[v]);
    if (p.x() < -50) right = std::min(right, map.mm[v]);
  }
  CHECK(left > 2.5);
  CHECK(right < -2.5);
}

TEST_CASE("places are spoken by the nearest landmark, with their side", "[head][compare]") {
  const auto form = test::fitter().fit({{M::HC, 566}});
  CHECK(spoken_place(*form, form->at(Landmark::vertex)) == "crown");
  CHECK(spoken_place(*form, form->at(Landmark::gonion_l)) == "left corner of the jaw");
  CHECK(spoken_place(*form, form->at(Landmark::gonion_r) - Vec3(2, 1, 0)) == "right corner of the jaw");
}
