#include "core/base/numbers.hpp"

#include <catch2/catch.hpp>
#include <limits>

#include "core/base/random.hpp"

using namespace awl;

TEST_CASE("numbers are written with a point and no minus before nothing", "[base][numbers]") {
  CHECK(fixed(3.14159, 2) == "3.14");
  CHECK(fixed(-0.04, 1) == "0.0");
  CHECK(fixed(-0.06, 1) == "-0.1");
  CHECK(fixed(1234567.0, 0) == "1234567");
  CHECK(fixed(0.0, 3) == "0.000");
}

TEST_CASE(
    "a smooth minimum lies below both, touches the smaller far off, and is symmetric", "[base][numbers][property]") {
  Random random(1);
  for (int i = 0; i < 500; ++i) {
    const double a = random.uniform(-20, 20), b = random.uniform(-20, 20), k = random.uniform(0.1, 8.0);
    const double m = smooth_min(a, b, k);
    REQUIRE(m <= std::min(a, b));
    REQUIRE(m >= std::min(a, b) - 0.25 * k);
    REQUIRE(m == smooth_min(b, a, k));
    REQUIRE(smooth_max(a, b, k) == -smooth_min(-a, -b, k));
    if (std::abs(a - b) >= k) REQUIRE(m == std::min(a, b));
    // Its slope never jumps: small steps make small changes.
    REQUIRE(std::abs(smooth_min(a + 1e-4, b, k) - m) <= 1.01e-4);
  }
  CHECK(smooth_min(2.0, 5.0, 0.0) == 2.0);
  CHECK(smooth_max(2.0, 5.0, 0.0) == 5.0);
}

TEST_CASE("a smooth step begins and ends level, either way", "[base][numbers]") {
  CHECK(smoothstep(2.0, 6.0, 1.0) == 0.0);
  CHECK(smoothstep(2.0, 6.0, 4.0) == Approx(0.5));
  CHECK(smoothstep(2.0, 6.0, 7.0) == 1.0);
  CHECK(smoothstep(6.0, 2.0, 7.0) == 0.0);
  CHECK(smoothstep(6.0, 2.0, 1.0) == 1.0);
  CHECK(smoothstep(0.0, 1.0, 0.001) < 1e-5);
}

TEST_CASE("a bell is one at its middle and the same on both sides", "[base][numbers]") {
  CHECK(bell(0.0, 3.0) == 1.0);
  CHECK(bell(3.0, 3.0) == Approx(std::exp(-0.5)));
  CHECK(bell(-1.7, 3.0) == bell(1.7, 3.0));
}

TEST_CASE("degrees go to radians and back", "[base][numbers]") {
  for (const double d : {-180.0, -33.0, 0.0, 90.0, 271.5}) CHECK(degrees(radians(d)) == Approx(d));
  CHECK(radians(180.0) == Approx(kPi));
}

TEST_CASE(
    "random numbers are even between their limits, normal ones have mean 0 and spread 1, and a seed gives the same "
    "again",
    "[base][random]") {
  Random random(42), again(42), other(43);
  double sum = 0.0, low = 1e9, high = -1e9, normal = 0.0, squares = 0.0;
  std::array<int, 10> bins{};
  const int n = 20000;
  for (int i = 0; i < n; ++i) {
    const double u = random.uniform(-2.0, 3.0);
    REQUIRE(u == again.uniform(-2.0, 3.0));
    sum += u, low = std::min(low, u), high = std::max(high, u);
    ++bins[static_cast<std::size_t>((u + 2.0) / 0.5)];
  }
  CHECK(low >= -2.0);
  CHECK(high < 3.0);
  CHECK(sum / n == Approx(0.5).margin(0.05));
  for (const int b : bins) CHECK(b == Approx(n / 10).epsilon(0.08));
  for (int i = 0; i < n; ++i) {
    const double z = random.normal();
    normal += z, squares += z * z;
  }
  CHECK(normal / n == Approx(0.0).margin(0.03));
  CHECK(squares / n == Approx(1.0).margin(0.04));
  CHECK(Random(42).next() != other.next());
}
