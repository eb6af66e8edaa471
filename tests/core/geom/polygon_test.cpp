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
  for (int i = 0; i < 24; ++i)
    line.push_back(centre + random.uniform(30, 60) * Vec2(std::cos(kTwoPi * i / 24), std::sin(kTwoPi * i / 24)));
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
  const std::vector<Vec2> waisted{{0, 0}, {40, 0}, {40, 40}, {22, 40}, {22, 60}, {40, 60}, {40, 100}, {0, 100}, {0, 60},
      {18, 60}, {18, 40}, {0, 40}};
  CHECK(offset_polygon(waisted, -3.0).size() == 2);
}

TEST_CASE("regions united and intersected keep the books of area", "[geom][polygon][property]") {
  const std::uint64_t seed = static_cast<std::uint64_t>(GENERATE(range(1, 16)));
  const auto a = random_outline(seed);
  auto b = random_outline(seed + 100);
  for (Vec2& p : b) p += Vec2(12.0, -7.0);
  const double both = region_area_mm2(common({a}, {b})), either = region_area_mm2(united({a, b}));
  CHECK(both + either == Approx(signed_area_mm2(a) + signed_area_mm2(b)).epsilon(1e-4));
  CHECK(region_area_mm2(common({a}, {a})) == Approx(signed_area_mm2(a)).epsilon(1e-4));
  // Whichever way the outlines run.
  const std::vector<Vec2> back(b.rbegin(), b.rend());
  CHECK(region_area_mm2(united({a, back})) == Approx(either).epsilon(1e-6));
}

TEST_CASE("curves within curves make holes, and holes stay holes", "[geom][polygon]") {
  const std::vector<Vec2> hole{{10, 10}, {30, 10}, {30, 30}, {10, 30}}, island{{15, 15}, {25, 15}, {25, 25}, {15, 25}};
  const Rings region = region_of({kSquare, hole, island});
  REQUIRE(region.size() == 3);
  CHECK(region_area_mm2(region) == Approx(1600.0 - 400.0 + 100.0));
  int holes = 0;
  for (const auto& ring : region) holes += signed_area_mm2(ring) < 0.0 ? 1 : 0;
  CHECK(holes == 1);
  // Grown, the hole shrinks; drawn in, it grows.
  CHECK(region_area_mm2(offset_region(region_of({kSquare, hole}), 2.0)) ==
      Approx(44.0 * 44.0 - (4.0 - kPi) * 4.0 - 16.0 * 16.0).epsilon(2e-3));
  CHECK(region_area_mm2(offset_region(region_of({kSquare, hole}), -2.0)) ==
      Approx(36.0 * 36.0 - 24.0 * 24.0 + (4.0 - kPi) * 4.0).epsilon(2e-3));
  CHECK(offset_region(region_of({kSquare, hole}), -6.0).empty());
  CHECK(joined_regions(region).size() == 3);
}

TEST_CASE("an outline without its idle corners is the same outline", "[geom][polygon]") {
  std::vector<Vec2> many;
  for (std::size_t i = 0; i < kSquare.size(); ++i)
    for (int k = 0; k < 10; ++k) many.push_back(kSquare[i] + k / 10.0 * (kSquare[(i + 1) % 4] - kSquare[i]));
  const auto few = thinned(many, 0.05);
  CHECK(few.size() == 4);
  CHECK(std::abs(signed_area_mm2(few)) == Approx(1600.0));
  CHECK(thinned({{0, 0}, {1e-5, 0}, {0, 1e-5}}, 0.05).size() == 3);
}

TEST_CASE("the roomiest place is the one that asking every place would find", "[geom][polygon][property]") {
  Random random(3);
  for (std::uint64_t seed = 1; seed < 30; ++seed) {
    const auto outline = random_outline(seed);
    std::vector<std::vector<Vec2>> holes;
    if (seed % 2 == 0) {
      const Vec2 at = polygon_centre(outline) + Vec2(random.uniform(-15, 15), random.uniform(-15, 15));
      holes.push_back({at, at + Vec2(9, 0), at + Vec2(9, 9), at + Vec2(0, 9)});
    }
    const auto room_at = [&](const Vec2& p) {
      if (!inside(outline, p)) return 0.0;
      double mm = distance_to_outline(outline, p);
      for (const auto& hole : holes) mm = inside(hole, p) ? 0.0 : std::min(mm, distance_to_outline(hole, p));
      return mm;
    };
    const Roomiest found = roomiest_place(outline, holes);
    CHECK(found.room_mm == room_at(found.at));
    double most = 0.0;
    for (double x = -120; x < 120; x += 2)
      for (double y = -120; y < 120; y += 2) most = std::max(most, room_at({x, y}));
    CAPTURE(seed, most);
    CHECK(found.room_mm > most - 1.0);
  }
  CHECK(roomiest_place(kSquare).room_mm == Approx(20.0));
}
