#include "core/head/population.hpp"

#include <catch2/catch.hpp>

#include "support/bench_data.hpp"

using namespace awl;
using M = MeasureId;

namespace {

const std::vector<Population>& people() { return test::fitter().populations(); }

}  // namespace

TEST_CASE("adults and five bands of children are known, their shares adding up", "[head][people]") {
  REQUIRE(people().size() == 6);
  CHECK(people()[0].id == "adult");
  double share = 0.0;
  for (std::size_t i = 0; i < people().size(); ++i) {
    share += people()[i].share;
    // From band to band every measure grows, and adults are largest.
    const Population& next = people()[i + 1 < people().size() ? i + 1 : 0];
    if (i > 0) CHECK((next.mean_mm - people()[i].mean_mm).minCoeff() > 0.0);
    CHECK((people()[i].most_mm - people()[i].mean_mm).minCoeff() > 0.0);
    CHECK((people()[i].mean_mm - people()[i].least_mm).minCoeff() > 0.0);
  }
  CHECK(share == Approx(1.0));
}

TEST_CASE("the mean head of every population reads its own means, unfolded", "[head][people]") {
  for (const Population& p : people()) {
    const Centre& centre = test::fitter().centre_for({{}, p.id, {}});
    const Headform form = test::fitter().shape(centre.mean);
    CAPTURE(p.id);
    CHECK(form.flipped == 0);
    CHECK(form.smallest_angle_deg >= 12.0);
    for (const MeasureFacts& f : measure_facts()) {
      CAPTURE(f.code);
      CHECK(centre.reads[index_of(f.id)] == Approx(p.mean_mm[index_of(f.id)]).margin(2.5 * f.tolerance_mm));
    }
  }
}

TEST_CASE("thirty children meet their tapes without a fold", "[head][people][property]") {
  double worst_share = 0.0, least_angle = 90.0;
  for (const char* id : {"child-2", "child-5", "child-8", "child-11", "child-14"}) {
    test::Subjects subjects(17, id);
    for (int n = 0; n < 6; ++n) {
      const MeasureVector m = subjects.next();
      const auto form =
          test::fitter().fit(WearerMeasures{test::pick(m, {M::HC, M::HL, M::HB, M::TOP, M::FH, M::NC}), id, {}});
      REQUIRE(form);
      CAPTURE(id, n);
      CHECK(form->flipped == 0);
      least_angle = std::min(least_angle, form->smallest_angle_deg);
      for (const M measure : {M::HC, M::HL, M::HB, M::TOP, M::FH, M::NC})
        worst_share = std::max(worst_share,
            std::abs(form->reading(measure).reads_mm - m[index_of(measure)]) / facts_of(measure).tolerance_mm);
    }
  }
  CHECK(worst_share < 1.0);
  CHECK(least_angle >= 12.0);
}

TEST_CASE("a child is no shrunken adult", "[head][people]") {
  const auto child = test::fitter().fit(WearerMeasures{{{M::HC, 512}}, "child-5", {}});
  const auto adult = test::fitter().fit(WearerMeasures{{{M::HC, 558}}, "adult", {}});
  REQUIRE((child && adult));
  const double size = 512.0 / 558.0;
  for (const M face : {M::FH, M::JW, M::NC, M::NP, M::HH}) {
    CAPTURE(facts_of(face).code);
    CHECK(child->reading(face).reads_mm < 0.98 * size * adult->reading(face).reads_mm);
  }
  CHECK(child->reading(M::TOP).reads_mm > size * adult->reading(M::TOP).reads_mm);
}

TEST_CASE("whose head it is, is inferred from the measures unless it is said", "[head][people]") {
  const auto inferred = [](const MeasureSet& set) { return test::fitter().fit(set)->people; };
  CHECK(inferred({{M::HC, 584}, {M::HL, 200}}) == "adult");
  CHECK(inferred({{M::HC, 545}, {M::HL, 189}, {M::FH, 114}, {M::HH, 220}}) == "adult");
  CHECK(inferred({{M::HC, 511}, {M::HL, 178}, {M::FH, 95}}) == "child-5");
  CHECK(inferred({{M::HC, 491}, {M::FH, 87}, {M::NC, 242}}) == "child-2");
  const auto chosen = test::fitter().fit(WearerMeasures{{{M::HC, 520}}, "adult", {}});
  CHECK(chosen->people == "adult");
  CHECK_FALSE(chosen->people_inferred);
}

TEST_CASE(
    "a value out of range is held against the people chosen, and the field next door is thought of", "[head][people]") {
  CHECK(check_measure(M::FH, 95, people(), "auto"));
  CHECK(check_measure(M::FH, 95, people(), "child-5"));
  const auto refused = check_measure(M::FH, 95, people(), "adult");
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("99 to 137") != std::string::npos);
  const auto swapped = check_measure(M::HB, 196, people(), "adult");
  REQUIRE_FALSE(swapped);
  CHECK(swapped.error().text.find("head length") != std::string::npos);
  CHECK(check_measure(M::HC, 560, people(), "giants").error().code == Errc::unknown_name);
}

TEST_CASE("a damaged file of populations is refused with its place", "[head][people]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(
      folder / "p.json", R"({"populations":[{"id":"x","name":"X","share":0.1,"sd_share":1,"mean_mm":{"HC":500}}]})"));
  const auto refused = load_populations(folder / "p.json");
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("populations/1/mean_mm") != std::string::npos);
  CHECK(load_populations(folder / "none.json").error().code == Errc::cannot_read);
}
