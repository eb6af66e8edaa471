#include "core/coat/colour.hpp"
#include "core/coat/masking.hpp"

#include <catch2/catch.hpp>
#include <numeric>

#include "core/base/random.hpp"

using namespace awl;

namespace {

MaskingQuestion three_areas() {
  MaskingQuestion q;
  q.areas.resize(3);
  q.areas[0].name = "A";
  q.areas[1].name = "B";
  q.areas[2].name = "C";
  q.areas[0].sprayed = q.areas[1].sprayed = true;
  q.areas[2].hard_edge = true;
  q.border_mm = {{0, 200, 0}, {200, 0, 100}, {0, 100, 0}};
  q.reach_mm.assign(3, std::vector<double>(3, 0.0));
  return q;
}

MaskingQuestion random_question(std::uint64_t seed, int n) {
  Random random(seed);
  MaskingQuestion q;
  q.areas.resize(static_cast<std::size_t>(n));
  q.border_mm.assign(q.areas.size(), std::vector<double>(q.areas.size(), 0.0));
  q.reach_mm = q.border_mm;
  for (int i = 0; i < n; ++i) {
    MaskArea& a = q.areas[i];
    a.name = std::string(1, static_cast<char>('A' + i));
    a.sprayed = random.uniform() < 0.5;
    a.hard_edge = random.uniform() < 0.5;
    a.lightness = random.uniform();
    a.bears_tape = random.uniform() < 0.85;
    a.area_mm2 = random.uniform(1e3, 1e5);
    if (i > 1 && random.uniform() < 0.2) a.after = {i - 1};
    for (int j = 0; j < i; ++j) {
      if (random.uniform() < 0.4) q.border_mm[i][j] = q.border_mm[j][i] = random.uniform(20.0, 400.0);
      if (random.uniform() < 0.2) q.reach_mm[i][j] = q.reach_mm[j][i] = random.uniform(20.0, 100.0);
    }
  }
  return q;
}

/// The cost of an order; negative if it is not allowed.
double cost_of(const MaskingQuestion& q, const std::vector<int>& order) {
  double sum = 0.0;
  unsigned long painted = 0;
  for (const int area : order) {
    MaskingCost one;
    if (!masking_cost(q, painted, area, one)) return -1.0;
    sum += one.cost_mm;
    painted |= 1UL << area;
  }
  return sum;
}

double brute_force(const MaskingQuestion& q) {
  std::vector<int> order(q.areas.size());
  std::iota(order.begin(), order.end(), 0);
  double best = -1.0;
  do {
    const double cost = cost_of(q, order);
    if (cost >= 0.0 && (best < 0.0 || cost < best)) best = cost;
  } while (std::next_permutation(order.begin(), order.end()));
  return best;
}

}  // namespace

TEST_CASE("the area between two others is painted last", "[coat][masking]") {
  const MaskingQuestion q = three_areas();
  const auto plan = masking_order(q);
  REQUIRE(plan);
  CHECK(plan->cost_mm == Approx(450.0));
  CHECK(plan->steps.back().area == 1);
  CHECK(plan->steps.back().border_mm == Approx(300.0));
  CHECK(plan->steps.back().tape_mm == Approx(345.0));
  CHECK(plan->steps.back().covers == std::vector<int>{0, 2});
  for (const auto& order : std::vector<std::vector<int>>{{0, 1, 2}, {1, 0, 2}, {1, 2, 0}, {2, 1, 0}})
    CHECK(cost_of(q, order) == Approx(600.0));
}

TEST_CASE("no order costs less than the one found", "[coat][masking][property]") {
  for (std::uint64_t seed = 0; seed < 60; ++seed) {
    CAPTURE(seed);
    const MaskingQuestion q = random_question(seed, 4 + static_cast<int>(seed % 4));
    const double best = brute_force(q);
    const auto plan = masking_order(q);
    REQUIRE(plan.has_value() == (best >= 0.0));
    if (plan) CHECK(plan->cost_mm == Approx(best));
  }
}

TEST_CASE(
    "beyond what can be proved the order is at least no worse than the next best thing each time", "[coat][masking]") {
  for (std::uint64_t seed = 0; seed < 4; ++seed) {
    MaskingQuestion q = random_question(seed + 500, 17);
    for (MaskArea& a : q.areas) {
      a.bears_tape = true;
      a.after.clear();
    }
    const auto plan = masking_order(q);
    REQUIRE(plan);
    CHECK_FALSE(plan->exact);
    std::vector<int> greedy;
    unsigned long painted = 0;
    while (greedy.size() < q.areas.size()) {
      int best = -1;
      MaskingCost least, one;
      for (int i = 0; i < 17; ++i)
        if (((painted >> i) & 1UL) == 0 && masking_cost(q, painted, i, one) &&
            (best < 0 || one.cost_mm < least.cost_mm)) {
          best = i;
          least = one;
        }
      greedy.push_back(best);
      painted |= 1UL << best;
    }
    CHECK(plan->cost_mm <= cost_of(q, greedy) + 1e-9);
  }
}

TEST_CASE("what may not be taped over is named when it stands in the way", "[coat][masking]") {
  MaskingQuestion q = three_areas();
  q.areas[0].bears_tape = q.areas[2].bears_tape = false;
  q.areas[1].after = {0};
  const auto refused = masking_order(q);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("A, C") != std::string::npos);
  q.areas[1].after.clear();
  CHECK(masking_order(q).has_value());
  q.border_mm.pop_back();
  CHECK(masking_order(q).error().code == Errc::out_of_range);
}

TEST_CASE(
    "strokes read from afar as the eye resolves them, and gradients in steps that do not show", "[coat][masking]") {
  CHECK(seen_stroke_mm(10.0) == Approx(2.9).margin(0.05));
  CHECK(read_stroke_mm(10.0) == Approx(8.7).margin(0.05));
  CHECK(read_stroke_mm(20.0) == Approx(17.5).margin(0.05));
  CHECK(lightness_of(0x000000) == Approx(0.0).margin(1e-9));
  CHECK(lightness_of(0xffffff) == Approx(1.0).margin(1e-4));
  CHECK(gradient_mixes(0x123456, 0x123456) == 1);
  // From black to a grey of L* 67 it takes ten.
  CHECK(colour_difference(0x000000, 0xa3a3a3) == Approx(67.0).margin(0.6));
  CHECK(gradient_mixes(0x000000, 0xa3a3a3) == 10);
}

TEST_CASE("mixes go from one colour to the other in steps that do not show", "[coat][colours]") {
  for (const auto& [one, other] : {std::pair{0x1a3c28U, 0xe8d9b0U}, {0xc01010U, 0xc0c010U}, {0x000000U, 0xffffffU}}) {
    const int count = gradient_mixes(one, other);
    CHECK(mix_between(one, other, 0, count) == one);
    CHECK(mix_between(one, other, count - 1, count) == other);
    CHECK(mix_between(one, other, count + 5, count) == other);
    for (int k = 0; k + 1 < count; ++k) {
      CAPTURE(k, count);
      CHECK(colour_difference(mix_between(one, other, k, count), mix_between(one, other, k + 1, count)) < 9.0);
    }
  }
  CHECK(mix_between(0x445566, 0x445566, 0, 1) == 0x445566);
}
