#include "core/piece/changes.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"

using namespace awl;

namespace {

/// An outline without any symmetry.
std::vector<Vec2> leaf(double size) {
  std::vector<Vec2> outline;
  for (int i = 0; i < 90; ++i) {
    const double a = kTwoPi * i / 90,
                 r = size * (1.0 + 0.25 * std::cos(a) + 0.12 * std::sin(2 * a) + 0.08 * std::cos(3 * a));
    outline.push_back({r * std::cos(a), 0.7 * r * std::sin(a)});
  }
  return outline;
}

Piece piece(const std::string& name, std::vector<Vec2> outline, int number = 1) {
  Piece p;
  p.name = name, p.number = number, p.outline = std::move(outline), p.area_mm2 = signed_area_mm2(p.outline);
  return p;
}

}  // namespace

TEST_CASE("an outline turned, shifted and begun elsewhere is laid back over itself", "[piece][changes][property]") {
  Random random(4);
  const auto whole = leaf(80.0);
  for (int round = 0; round < 20; ++round) {
    const Eigen::Rotation2Dd turn(random.uniform(-3.1, 3.1));
    const Vec2 by(random.uniform(-300, 300), random.uniform(-300, 300));
    std::vector<Vec2> moved;
    const std::size_t start = static_cast<std::size_t>(random.uniform(0, 89));
    for (std::size_t i = 0; i < whole.size(); ++i) moved.push_back(turn * whole[(i + start) % whole.size()] + by);
    for (const Vec2& p : laid_over(moved, whole))
      CHECK(distance_to_outline(whole, p) < 0.8);  // outlines are compared by steps of 3 mm
  }
}

TEST_CASE("what changed is told piece by piece: moved, new and gone", "[piece][changes]") {
  std::vector<Vec2> wider = leaf(80.0);
  for (Vec2& p : wider) p *= 1.05;
  const auto changes =
      changes_between({piece("gore", leaf(80.0)), piece("strip", leaf(30.0), 2), piece("cap", leaf(50.0), 3)},
          {piece("gore", wider), piece("cap", leaf(50.0), 2), piece("peak", leaf(20.0), 3)});
  REQUIRE(changes.size() == 4);
  CHECK(changes[0].kind == PieceChange::Kind::changed);
  CHECK(changes[0].most_mm == Approx(0.05 * 80.0 * 1.25).epsilon(0.25));
  CHECK(changes[0].area_mm2 > 0.0);
  CHECK(changes[0].sentence().find("larger by") != std::string::npos);
  CHECK(changes[1].kind == PieceChange::Kind::same);
  CHECK(changes[2].kind == PieceChange::Kind::added);
  CHECK(changes[3].kind == PieceChange::Kind::gone);
  CHECK(changes[3].sentence() == "2 strip is gone.");
}
