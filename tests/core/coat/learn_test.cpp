#include "core/coat/learn.hpp"

#include <catch2/catch.hpp>

#include "core/coat/amounts.hpp"
#include "core/coat/coat_spec.hpp"

using namespace awl;

TEST_CASE("three logs move a rule as far as they are worth", "[coat][learn]") {
  const StageTime t = stage_time("seal", 60.0, {{60, 90}, {60, 100}, {60, 110}});
  CHECK(t.median_min == Approx(94.6).margin(0.05));
  CHECK(t.p50_min.first == Approx(74.6).margin(0.05));
  CHECK(t.p50_min.second == Approx(120.1).margin(0.05));
  CHECK(t.p80_min.first == Approx(58.7).margin(0.05));
  CHECK(t.p80_min.second == Approx(152.7).margin(0.05));
  CHECK(t.nu == Approx(6.0));
  CHECK(t.logs == 3);
}

TEST_CASE("without logs the rule stands, with a wide range; logs narrow it", "[coat][learn]") {
  const StageTime none = stage_time("cut", 60.0, {{0.0, 50.0}, {60.0, 0.0}});
  CHECK(none.logs == 0);
  CHECK(none.median_min == Approx(60.0));
  const StageTime many = stage_time("cut", 60.0, std::vector<StageLog>(12, {60.0, 60.0}));
  CHECK(many.p80_min.second - many.p80_min.first < 0.6 * (none.p80_min.second - none.p80_min.first));
  const StageTime slow = stage_time("cut", 60.0, std::vector<StageLog>(8, {60.0, 120.0}));
  CHECK(slow.median_min > 110.0);
  CHECK(slow.median_min < 120.0);
}

TEST_CASE("stages add up by their means, not their medians", "[coat][learn]") {
  const StageTime one = stage_time("a", 60.0, {}), other = stage_time("b", 120.0, {});
  const WholeTime whole = whole_time({one, other});
  CHECK(whole.mean_min == Approx(one.mean_min + other.mean_min));
  CHECK(whole.median_min > 180.0);
  CHECK(whole.p80_min.first < whole.p50_min.first);
  // Independent stages even each other out.
  CHECK(whole.p80_min.second / whole.median_min < one.p80_min.second / one.median_min);
  CHECK(whole_time({}).median_min == 0.0);
}

TEST_CASE("a price is rounded up from materials, hours, overheads and margin", "[coat][learn]") {
  WholeTime time;
  time.median_min = 14.5 * 60.0;
  time.p80_min = {10.0 * 60.0, 20.0 * 60.0};
  const Quote q = quote_of(41.20, time, {18.0, 0.12, 0.2, 0.15, 5.0});
  CHECK(q.exact == Approx(413.25).margin(0.01));
  CHECK(q.price == Approx(415.0));
  CHECK(q.materials + q.waste + q.labour + q.overheads + q.margin == Approx(q.exact));
  CHECK(q.price_p80.first < q.price);
  CHECK(q.price_p80.second > q.price);
  QuoteRates rates;
  rates.margin = -0.1;
  CHECK(check_rates(rates).error().where == "quote/margin");
}

TEST_CASE("amounts go from the square metre to the can and the gram", "[coat][amounts]") {
  CoatUse spray{0.32, 3, 60.0, 0.4, 0.1, 300.0};
  CHECK(amount_of(spray).ml == Approx(105.6));
  CHECK(amount_of(spray).cans == 1);
  CoatUse rubber{0.32, 3, 180.0, 0.0, 0.1, 750.0, 0.95, 0.35};
  CHECK(amount_of(rubber).dry_g == Approx(57.5).margin(0.05));
  CHECK(amount_of(rubber).film_mm == Approx(0.18).margin(0.001));
  CHECK(amount_of({}).ml == 0.0);
}

TEST_CASE("cold and damp slow drying, warmth and a fan help, within limits", "[coat][amounts]") {
  CHECK(drying_factor({20.0, 0.5, false}, "water") == Approx(1.0));
  CHECK(drying_factor({10.0, 0.8, false}, "water") == Approx(5.0));
  CHECK(drying_factor({28.0, 0.4, false}, "water") == Approx(0.5).margin(0.03));
  CHECK(drying_factor({20.0, 0.5, true}, "solvent") == Approx(0.65));
  CHECK(drying_factor({2.0, 0.98, false}, "water", 3.0) == Approx(6.0));
  CHECK(drying_factor({20.0, 0.9, false}, "solvent") == Approx(1.0));
}
