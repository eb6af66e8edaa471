#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/head/built_form.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

const Remark* remark(const Derived& d, const std::string& id) {
  const auto it = std::find_if(d.remarks.begin(), d.remarks.end(), [&](const Remark& r) { return r.id == id; });
  return it == d.remarks.end() ? nullptr : &*it;
}

/// A remark as a maker reads it: a sentence with its number in it, a place, and where there is a limit the number is
/// beyond it.
void check_readable(const Remark& r) {
  INFO(r.id << ": " << r.sentence);
  CHECK(r.sentence.size() > 30);
  CHECK(r.sentence.back() == '.');
  CHECK_FALSE(r.where.empty());
  for (const Remedy& remedy : r.remedies) {
    CHECK_FALSE(remedy.text.empty());
    CHECK_FALSE(remedy.act.empty());
  }
}

Build two_hoods() {
  Build b = test::demo();
  b.parts.clear();
  REQUIRE(add_part(b, *part_from_preset("hood")));
  Part outer = *part_from_preset("hood");
  outer.name = "outer hood";
  REQUIRE(add_part(b, outer, 1));
  for (Part& p : b.parts) p.seams = {SeamPreset::gores, 4, 110.0, true, 5.0, false};
  return b;
}

/// Distances read on a form built as it was meant, each as its plan says.
Build as_built(const Derived& d) {
  Build b = test::demo();
  for (const BuiltDistance& distance : d.check->distances)
    if (distance.round.empty())
      b.built[distance.id] = std::round((d.check->marks[distance.to].at - d.check->marks[distance.from].at).norm());
  return b;
}

}  // namespace

TEST_CASE("seams of an outer layer over those below are told, and set between them by the remedy",
    "[builds][remarks][stagger]") {
  const Build b = two_hoods();
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.panels);
  const Remark* told = remark(d, "seam.stagger");
  REQUIRE(told != nullptr);
  check_readable(*told);
  CHECK(*told->measured > *told->limit);
  CHECK(told->sentence.find("outer hood") != std::string::npos);
  REQUIRE(told->remedies.size() == 1);
  const auto apart = apply_act(b, told->remedies[0].act);
  REQUIRE(apart);
  const Derived after = test::chain()->derive(*apart);
  const Remark* still = remark(after, "seam.stagger");
  const double share = still == nullptr ? 0.0 : *still->measured;
  CHECK(share < 0.7 * *told->measured);
}

TEST_CASE("what taking in leaves unequal is told with by how much, and every remedy offered evens it",
    "[builds][remarks][alter]") {
  Build b = test::demo();
  b.parts[0].seams = {SeamPreset::gores, 3, 110.0, true, 5.0, false};
  const Derived plain = test::chain()->derive(b);
  REQUIRE(plain.complete());
  REQUIRE(remark(plain, "seam.unequal") == nullptr);
  const auto taken_in = [&](const char* seam) {
    Build taken = b;
    Alteration a;
    a.part = b.parts[0].id, a.seam = seam, a.middle_mm = 2.0, a.last_mm = 8.0;
    REQUIRE(add_alteration(taken, a));
    return taken;
  };
  // One that ends at the belt leaves the piece below longer there, by what each side lost.
  const Build at_belt = taken_in("gore 1 left"), at_edge = taken_in("gore 2 left");
  const Derived belt = test::chain()->derive(at_belt), edge = test::chain()->derive(at_edge);
  const Remark* longer = remark(belt, "seam.unequal");
  REQUIRE(longer != nullptr);
  check_readable(*longer);
  CHECK(longer->severity == Severity::warning);
  CHECK(longer->sentence.find("belt") != std::string::npos);
  CHECK(*longer->measured == Approx(4.0).margin(0.3));
  // One that runs out at the lower edge leaves nothing to ease in: what stands out there is trimmed.
  const Remark* out = remark(edge, "seam.unequal");
  REQUIRE(out != nullptr);
  CHECK(out->severity == Severity::note);
  CHECK(out->sentence.find("trimmed") != std::string::npos);
  // Without a belt the next seam can be taken in as well: that is offered.
  b.parts[0].seams.belt = false;
  const Build whole = taken_in("gore 1 left");
  const Derived next_seam = test::chain()->derive(whole);
  int tried = 0;
  for (const auto& [build, d] : {std::pair(&at_belt, &belt), std::pair(&at_edge, &edge), std::pair(&whole, &next_seam)})
    for (const Remark& r : d->remarks)
      for (const Remedy& remedy : r.id == "seam.unequal" ? r.remedies : std::vector<Remedy>()) {
        const auto mended = apply_act(*build, remedy.act);
        REQUIRE(mended);
        const Derived after = test::chain()->derive(*mended);
        const Remark* left = remark(after, "seam.unequal");
        CHECK((left == nullptr || *left->measured < *r.measured));
        ++tried;
      }
  CHECK(tried > 0);
}

TEST_CASE(
    "a distance on the check sheet that does not go with the others is left out and told", "[builds][remarks][check]") {
  const Derived& plain = test::derived();
  REQUIRE(plain.check);
  Build b = as_built(plain);
  REQUIRE(b.built.size() > 4);
  const Derived good = test::chain()->derive(b);
  REQUIRE(good.built);
  CHECK(remark(good, "check.doubted") == nullptr);
  const std::string id = b.built.begin()->first;
  b.built[id] += 25.0;
  const Derived odd = test::chain()->derive(b);
  const Remark* told = remark(odd, "check.doubted");
  REQUIRE(told != nullptr);
  check_readable(*told);
  CHECK(told->where.rfind("check/", 0) == 0);
  REQUIRE(told->remedies.size() == 1);
  CHECK(told->remedies[0].act.rfind("edit-check ", 0) == 0);
}

TEST_CASE("a reading no head can have is refused with its name, and the rest goes on", "[builds][remarks][check]") {
  Build b = as_built(test::derived());
  b.built.begin()->second = 4.0;
  const Derived d = test::chain()->derive(b);
  const Remark* told = remark(d, "check.reading");
  REQUIRE(told != nullptr);
  check_readable(*told);
  CHECK(told->sentence.find("4") != std::string::npos);
  CHECK(d.complete());
}

TEST_CASE("two readings far apart ask for a third, near ones do not", "[builds][remarks][tape]") {
  Build b = test::demo();
  TapeEntry& round = b.tape.head.at(MeasureId::HC);
  round.second_mm = round.first_mm + 1.0;
  CHECK(remark(test::chain()->derive(b), "tape.spread") == nullptr);
  round.second_mm = round.first_mm + 18.0;
  const Derived d = test::chain()->derive(b);
  const Remark* told = remark(d, "tape.spread");
  REQUIRE(told != nullptr);
  check_readable(*told);
  CHECK(told->where == "HC");
  CHECK(*told->measured == Approx(18.0));
  CHECK(*told->measured > *told->limit);
  CHECK(told->sentence.find("18") != std::string::npos);
}

TEST_CASE("what a build has beside the form and is not measured yet is asked for", "[builds][remarks][tape]") {
  Build b = test::demo();
  CHECK(remark(test::chain()->derive(b), "tape.todo") == nullptr);
  b.extras.insert(Extra::arm_guards);
  const Derived d = test::chain()->derive(b);
  const Remark* told = remark(d, "tape.todo");
  REQUIRE(told != nullptr);
  check_readable(*told);
  REQUIRE(told->remedies.size() == 1);
  CHECK(told->remedies[0].act == "edit-measure " + told->where);
}

TEST_CASE("a sheet drawn thinner than half is told with where", "[builds][remarks][make]") {
  Build b = *demo_by_name("reed-mask", Day{20731});
  b.parts.back().way.way = Way::drawn;
  const Derived d = test::chain()->derive(b);
  const Remark* told = remark(d, "make.thin");
  REQUIRE(told != nullptr);
  check_readable(*told);
  CHECK(*told->measured < *told->limit);
  CHECK(*told->limit == Approx(0.5 * b.parts.back().way.sheet_mm));
}

TEST_CASE("remarks come most serious first, each with a place and a sentence, for every demo",
    "[builds][remarks][property]") {
  for (const DemoEntry& entry : demo_gallery()) {
    INFO(entry.name);
    const Derived d = test::chain()->derive(entry.make(Day{20731}));
    REQUIRE(d.complete());
    for (std::size_t i = 0; i < d.remarks.size(); ++i) {
      check_readable(d.remarks[i]);
      CHECK(d.remarks[i].severity != Severity::stop);
      if (i > 0) CHECK(static_cast<int>(d.remarks[i - 1].severity) >= static_cast<int>(d.remarks[i].severity));
    }
  }
}

TEST_CASE("every remedy of a spoilt build can be pressed: it is a place to go, or a change that is allowed",
    "[builds][remarks][property]") {
  // Spoilt in many ways at once: cold firm foam, few gores, thick, small sheet.
  Build b = *demo_by_name("heron-warden", Day{20731});
  b.foam.heated = false, b.foam.thickness_mm = 10.0;
  for (Part& p : b.parts) p.seams.gores_per_side = 2, p.seams.belt = false;
  Derived kept;
  const Derived d = test::chain()->derive(b);
  int pressed = 0;
  for (const Remark& r : d.remarks)
    for (const Remedy& remedy : r.remedies) {
      INFO(r.id << ": " << remedy.act);
      const std::string verb = remedy.act.substr(0, remedy.act.find(' '));
      if (const auto done = apply_act(b, remedy.act)) {
        CHECK_FALSE(*done == b);
        ++pressed;
      } else {
        // Not a change of the build: something the window does.
        CHECK(std::set<std::string>{"go", "edit-measure", "edit-check", "add-darts", "move-seams"}.count(verb) == 1);
      }
    }
  CHECK(pressed > 0);
}
