#include "core/geom/polygon.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"

using namespace awl;

namespace {

const std::vector<Vec2> kSquare{{0, 0}, {40, 0}, {40, 40}, {0, 40}};

/// A star-shaped outline with random radii, counter-clockwise.
std::vector<Vec2> random_outline(std::uint64_t seed) {
  Random random(seed);
  std::vector<Vec2> line;
  const Vec2 centre(random.uniform(-50, 50), random.uniform(-50, 50));
  for (int i = 0; i < 24; ++i) line.push_back(centre + random.uniform(30, 60) * Vec2(std::cos(kTwoPi * i / 24), std::sin(kTwoPi * i / 24)));
  return line;
}

}  // namespace

TEST_CASE("a square's area, centre and distances are what one computes by hand", "[geom][polygon]") {
  CHECK(signed_area_mm2(kSquare) == Approx(1600.0));
  CHECK((polygon_centre(kSquare) - Vec2(20, 20)).norm() < 1e-9);
  CHECK(inside(kSquare, {1, 39}));
  CHECK_FALSE(inside(kSquare, {41, 20}));
  CHECK(distance_to_outline(kSquare, {20, 20}) == Approx(20.0));
  CHECK(distance_to_outline(kSquare, {50, 50}) == Approx(std::hypot(10.0, 10.0)));
  std::vector<Vec2> turned(kSquare.rbegin(), kSquare.rend());
  CHECK(signed_area_mm2(turned) == Approx(-1600.0));
}

TEST_CASE("an offset outline keeps its distance, outwards and inwards", "[geom][polygon][property]") {
  const auto outline = random_outline(static_cast<std::uint64_t>(GENERATE(range(1, 12))));
  const double by = GENERATE(4.0, -4.0);
  for (const auto& ring : offset_polygon(outline, by)) {
    for (const Vec2& p : ring) {
      CHECK(distance_to_outline(outline, p) >= std::abs(by) - 0.12);
      CHECK(inside(outline, p) == (by < 0.0));
    }
  }
  double area = 0.0;
  for (const auto& ring : offset_polygon(outline, by)) area += signed_area_mm2(ring);
  CHECK((area > signed_area_mm2(outline)) == (by > 0.0));
}

TEST_CASE("an outline offset inwards too far is gone, a waisted one breaks in two", "[geom][polygon]") {
  CHECK(offset_polygon(kSquare, -21.0).empty());
  const std::vector<Vec2> waisted{{0, 0}, {40, 0}, {40, 40}, {22, 40}, {22, 60}, {40, 60}, {40, 100}, {0, 100}, {0, 60}, {18, 60}, {18, 40}, {0, 40}};
  CHECK(offset_polygon(waisted, -3.0).size() == 2);
}
