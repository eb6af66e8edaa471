#include "core/head/contradictions.hpp"

#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "support/bench_data.hpp"

using namespace awl;
using M = MeasureId;

TEST_CASE("the perimeter of an ellipse is right where it is known", "[head][contradictions]") {
  CHECK(ellipse_perimeter_mm(100, 100) == Approx(kPi * 100));
  CHECK(ellipse_perimeter_mm(200, 150) == Approx(552.56).margin(0.5));
}

TEST_CASE("plausible heads raise no alarm; 25 mm too much is flagged", "[head][contradictions][property]") {
  test::Subjects subjects(11);
  int false_alarms = 0, caught = 0;
  for (int n = 0; n < 200; ++n) {
    MeasureSet set = test::pick(subjects.next(), {M::HC, M::HL, M::HB});
    false_alarms += contradictions(test::fitter(), set).empty() ? 0 : 1;
    set[M::HC] += 25.0;
    caught += contradictions(test::fitter(), set).empty() ? 0 : 1;
  }
  CHECK(false_alarms == 0);
  CHECK(caught >= 196);
}

TEST_CASE("a head 200 long and 158 wide cannot be 540 round, and the sentence says so", "[head][contradictions]") {
  const auto remarks = contradictions(test::fitter(), {{M::HC, 540}, {M::HL, 200}, {M::HB, 158}});
  REQUIRE_FALSE(remarks.empty());
  CHECK(remarks[0].sentence.find("cannot be 540 mm round") != std::string::npos);
  CHECK(remarks[0].where == "HC");
  CHECK(*remarks[0].limit > 570.0);
  CHECK(remarks[0].remedy_act == "edit-measure HC");
}

TEST_CASE("the slipped one of many measures is the first to be named", "[head][contradictions]") {
  test::Subjects subjects(13);
  int named = 0;
  for (int n = 0; n < 40; ++n) {
    MeasureSet set = test::pick(subjects.next(), {M::HC, M::HL, M::HB, M::TOP, M::BNA, M::CCC, M::HH});
    set[M::TOP] += 40.0;
    const auto remarks = contradictions(test::fitter(), set);
    named += !remarks.empty() && remarks[0].where == "TOP" ? 1 : 0;
  }
  CHECK(named >= 34);
}

TEST_CASE("two measures alone cannot contradict beyond their roundness", "[head][contradictions]") {
  CHECK(contradictions(test::fitter(), {{M::HC, 640}, {M::HL, 172}}).empty());
}
