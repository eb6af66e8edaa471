#include "core/head/built_form.hpp"

#include <catch2/catch.hpp>

#include "support/bench_data.hpp"

using namespace awl;

namespace {

constexpr double kFoot = -157.0;

const Headform& head() {
  static const Headform form = *test::fitter().fit(test::demo().tape.measures());
  return form;
}

const CheckPlan& plan() {
  static const CheckPlan p = plan_check(test::fitter(), head(), kFoot);
  return p;
}

/// What a maker reads on a form with these flaws, the hand trembling by `noise_mm`. Bent here in its own way: the marks
/// are moved by hand-written steps, not by BuiltShape.
std::map<std::string, double> read_off(const std::function<Vec3(Vec3)>& bend, double noise_mm, std::uint64_t seed) {
  Random random(seed);
  std::map<std::string, double> readings;
  for (const BuiltDistance& d : plan().distances) {
    double length = 0.0;
    if (d.round.empty()) length = (bend(plan().marks[d.to].at) - bend(plan().marks[d.from].at)).norm();
    for (std::size_t i = 0; i + 1 < d.round.size(); ++i) length += (bend(d.round[i + 1]) - bend(d.round[i])).norm();
    readings[d.id] = length + noise_mm * random.normal();
  }
  return readings;
}

const Finding* find(const BuiltForm& form, Flaw flaw) {
  for (const Finding& f : form.findings)
    if (f.flaw == flaw) return &f;
  return nullptr;
}

}  // namespace

TEST_CASE("the check sheet is short and its distances tell every flaw", "[head][built]") {
  CHECK(plan().distances.size() >= 10);
  CHECK(plan().distances.size() <= 22);
  std::set<std::string> ids;
  for (const BuiltDistance& d : plan().distances) {
    CHECK(ids.insert(d.id).second);
    CHECK(d.target_mm > 70.0);
    if (d.round.empty()) CHECK(d.target_mm == Approx((plan().marks[d.to].at - plan().marks[d.from].at).norm()));
  }
  CHECK(judge_built(plan(), head(), read_off([](Vec3 p) { return p; }, 0.0, 1))->sd.maxCoeff() < 1.0);
}

TEST_CASE("a form built as meant has no findings", "[head][built]") {
  const auto form = judge_built(plan(), head(), read_off([](Vec3 p) { return p; }, 0.0, 1));
  REQUIRE(form);
  CHECK(form->findings.empty());
  CHECK(form->shape.flaws.norm() < 1e-6);
  CHECK(std::abs(form->map.most_mm) < 1e-6);
}

TEST_CASE("a head twisted by 4 degrees and 5 mm wide on one side is described rightly", "[head][built][property]") {
  const double side = GENERATE(1.0, -1.0), turn = GENERATE(4.0, -4.0);
  const auto seed = static_cast<std::uint64_t>(GENERATE(range(1, 9)));
  const auto crooked = [&](Vec3 p) {
    const double wide = side > 0 ? head().at(Landmark::euryon_l).x() : -head().at(Landmark::euryon_r).x();
    if (p.x() * side > 0.0 && p.y() > -20.0) p.x() += side * 5.0 * std::abs(p.x()) / wide;
    const double a = turn * M_PI / 180.0 * (p.y() - kFoot) / (head().at(Landmark::vertex).y() - kFoot);
    const double x = p.x(), z = p.z() + 22.0;
    return Vec3(x * std::cos(a) + z * std::sin(a), p.y(), -22.0 - x * std::sin(a) + z * std::cos(a));
  };
  const auto form = judge_built(plan(), head(), read_off(crooked, 0.5, seed));
  REQUIRE(form);
  const Finding* wide = find(*form, side > 0 ? Flaw::left : Flaw::right);
  const Finding* twist = find(*form, Flaw::twist);
  CAPTURE(side, turn, seed);
  REQUIRE((wide != nullptr && twist != nullptr));
  CHECK(wide->amount == Approx(5.0).margin(1.0));
  CHECK(twist->amount == Approx(turn).margin(1.0));
  CHECK(wide->sentence.find(side > 0 ? "left side stands out" : "right side stands out") != std::string::npos);
  CHECK(twist->sentence.find(turn > 0 ? "to the wearer's left" : "to the wearer's right") != std::string::npos);
  for (const Finding& f : form->findings)
    CHECK((f.flaw == Flaw::twist || f.flaw == wide->flaw || std::abs(f.amount) < 1.5));
  CHECK(std::abs(form->map.most_mm) > 3.0);
}

TEST_CASE("random flaws are found from trembling readings", "[head][built][property]") {
  Random random(41);
  double worst = 0.0;
  for (int n = 0; n < 40; ++n) {
    BuiltShape bent = plan().meant;
    for (int k = 0; k < kFlawCount; ++k) bent.flaws[k] = 2.5 * random.normal() * (k == 0 ? 0.4 : 1.0);
    const auto form = judge_built(plan(), head(), read_off(bent, 0.4, 100 + static_cast<std::uint64_t>(n)));
    REQUIRE(form);
    for (int k = 1; k < kFlawCount; ++k)
      worst = std::max(worst, std::abs(form->shape.flaws[k] - bent.flaws[k]) / std::max(1.0, 4.0 * form->sd[k]));
  }
  CHECK(worst < 1.0);
}

TEST_CASE("one blunder on the sheet is named and left out", "[head][built]") {
  auto readings = read_off([](Vec3 p) { return p; }, 0.2, 3);
  const std::string id = plan().distances[2].id;
  readings[id] += 18.0;
  const auto form = judge_built(plan(), head(), readings);
  REQUIRE(form);
  REQUIRE(form->doubted.size() >= 1);
  CHECK(form->doubted[0] == id);
  CHECK(form->findings.empty());
}

TEST_CASE("what is no reading of this sheet is refused with a sentence", "[head][built]") {
  CHECK(judge_built(plan(), head(), {}).error().code == Errc::empty_input);
  CHECK(judge_built(plan(), head(), {{"nose to toe", 100.0}}).error().code == Errc::unknown_name);
  const BuiltDistance& d = plan().distances[0];
  const auto refused = judge_built(plan(), head(), {{d.id, d.target_mm + 200.0}});
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::out_of_range);
  CHECK(refused.error().where == "check/" + d.id);
}
