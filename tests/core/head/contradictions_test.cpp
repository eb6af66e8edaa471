#include "core/head/contradictions.hpp"

#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "support/bench_data.hpp"

using namespace awl;
using M = MeasureId;

namespace {

WearerMeasures adult(const MeasureSet& set) { return {set, "adult", {}}; }

}  // namespace

TEST_CASE("the perimeter of an ellipse is right where it is known", "[head][contradictions]") {
  CHECK(ellipse_perimeter_mm(100, 100) == Approx(kPi * 100));
  CHECK(ellipse_perimeter_mm(200, 150) == Approx(552.56).margin(0.5));
}

TEST_CASE("plausible heads raise no alarm, 25 mm too much is flagged", "[head][contradictions][property]") {
  test::Subjects subjects(11);
  int false_alarms = 0, caught = 0;
  for (int n = 0; n < 200; ++n) {
    MeasureSet set = test::pick(subjects.next(), {M::HC, M::HL, M::HB});
    false_alarms += contradictions(test::fitter().adults(), adult(set)).empty() ? 0 : 1;
    set[M::HC] += 25.0;
    caught += contradictions(test::fitter().adults(), adult(set)).empty() ? 0 : 1;
  }
  CHECK(false_alarms == 0);
  CHECK(caught >= 196);
}

TEST_CASE("a head 200 long and 158 wide cannot be 540 round, and the sentence says so", "[head][contradictions]") {
  const auto remarks = contradictions(test::fitter().adults(), adult({{M::HC, 540}, {M::HL, 200}, {M::HB, 158}}));
  REQUIRE_FALSE(remarks.empty());
  CHECK(remarks[0].sentence.find("cannot be 540 mm round") != std::string::npos);
  CHECK(remarks[0].where == "HC");
  CHECK(*remarks[0].limit > 570.0);
  CHECK(remarks[0].remedies.at(0).act == "edit-measure HC");
}

TEST_CASE("the slipped one of many measures is the first to be named", "[head][contradictions]") {
  test::Subjects subjects(13);
  int named = 0;
  for (int n = 0; n < 40; ++n) {
    MeasureSet set = test::pick(subjects.next(), {M::HC, M::HL, M::HB, M::TOP, M::BNA, M::CCC, M::HH});
    set[M::TOP] += 40.0;
    const auto remarks = contradictions(test::fitter().adults(), adult(set));
    named += !remarks.empty() && remarks[0].where == "TOP" ? 1 : 0;
  }
  CHECK(named >= 34);
}

TEST_CASE("two measures alone cannot contradict beyond their roundness", "[head][contradictions]") {
  CHECK(contradictions(test::fitter().adults(), adult({{M::HC, 640}, {M::HL, 172}})).empty());
}

TEST_CASE("of three measures the slipped circumference is named first in most cases", "[head][contradictions]") {
  test::Subjects subjects(19);
  int named = 0;
  for (int n = 0; n < 100; ++n) {
    MeasureSet set = test::pick(subjects.next(), {M::HC, M::HL, M::HB});
    set[M::HC] += 25.0;
    const auto remarks = contradictions(test::fitter().adults(), adult(set));
    named += !remarks.empty() && remarks[0].where == "HC" ? 1 : 0;
  }
  CHECK(named >= 70);
}

TEST_CASE(
    "any slipped measure of a full set is named first in at least seven of ten", "[head][contradictions][property]") {
  test::Subjects subjects(23);
  int named = 0, tried = 0;
  for (int n = 0; n < 60; ++n) {
    const MeasureVector m = subjects.next();
    MeasureSet set = test::pick(m, {M::HC, M::HL, M::HB, M::TOP, M::BNA, M::EEF, M::CCC, M::FH, M::FW, M::NC, M::HH});
    auto at = set.begin();
    std::advance(at, n % set.size());
    if (at->first == M::NC || at->first == M::FH) continue;  // necks and faces vary too freely to be doubted
    at->second *= n % 2 == 0 ? 1.09 : 0.91;
    const auto remarks = contradictions(test::fitter().adults(), adult(set));
    ++tried;
    named += !remarks.empty() && remarks[0].where == facts_of(at->first).code ? 1 : 0;
  }
  CAPTURE(named, tried);
  CHECK(named >= 0.7 * tried);
}

TEST_CASE("swapped fields are recognised and the swap is offered", "[head][contradictions]") {
  test::Subjects subjects(29);
  int seen = 0;
  for (int n = 0; n < 40; ++n) {
    MeasureSet set = test::pick(subjects.next(), {M::HC, M::HL, M::HB, M::TOP, M::BNA, M::EEF, M::EEB, M::CCC});
    std::swap(set[M::HC], set[M::CCC]);
    const auto remarks = contradictions(test::fitter().adults(), adult(set));
    REQUIRE_FALSE(remarks.empty());
    seen += remarks[0].id == "head.swapped" && remarks[0].remedies[0].act == "swap-measures HC CCC" ? 1 : 0;
  }
  CHECK(seen >= 32);
}

TEST_CASE("a slack tape is told from a large head", "[head][contradictions]") {
  test::Subjects subjects(31);
  int seen = 0, alarms = 0;
  for (int n = 0; n < 40; ++n) {
    MeasureSet set = test::pick(subjects.next(), {M::HC, M::HL, M::HB, M::TOP, M::BNA, M::EEF, M::EEB, M::CCC, M::HH});
    const auto honest = contradictions(test::fitter().adults(), adult(set));
    alarms += !honest.empty() && honest[0].id == "head.slack-tape" ? 1 : 0;
    for (auto& [id, mm] : set)
      if (is_tape(id)) mm *= 1.045;
    const auto remarks = contradictions(test::fitter().adults(), adult(set));
    const bool told = !remarks.empty() && remarks[0].id == "head.slack-tape" && *remarks[0].measured > 2.5;
    seen += told ? 1 : 0;
    if (told) CHECK(remarks[0].remedies.back().act.find("accept-measure HC TOP") == 0);
  }
  CHECK(alarms == 0);
  CHECK(seen >= 30);
}

TEST_CASE("a value the maker stands by is not doubted again", "[head][contradictions]") {
  WearerMeasures wearer = adult({{M::HC, 540}, {M::HL, 200}, {M::HB, 158}});
  REQUIRE(contradictions(test::fitter().adults(), wearer)[0].where == "HC");
  wearer.accepted = {M::HC};
  CHECK(contradictions(test::fitter().adults(), wearer).empty());
}
