// Builds begun from nothing.
#include "core/builds/fresh.hpp"

#include <catch2/catch.hpp>

#include "core/io/build_file.hpp"
#include "core/stuff/bears.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

Result<Build> fresh(const FreshBuild& wish) {
  return fresh_build(wish, test::chain()->materials(), test::chain()->fitter().populations());
}

FreshBuild wish_of(const std::string& start) {
  FreshBuild wish;
  wish.start = start, wish.today = Day{20731};
  return wish;
}

}  // namespace

TEST_CASE("every ready start makes a build whose pieces come out", "[builds][fresh]") {
  for (const PartPreset* p : first_starts()) {
    CAPTURE(p->id);
    const auto b = fresh(wish_of(p->id));
    REQUIRE(b);
    CHECK(b->name == p->label);
    CHECK(build_from_bytes(*build_bytes(*b)).value() == *b);
    const Derived d = test::chain()->derive(*b);
    if (d.error) UNSCOPED_INFO(d.error->text);
    CHECK(d.pieces);
    CHECK(std::count(things().begin(), things().end(), p->thing) == 1);
  }
}

TEST_CASE("what sits on something comes with a base, what is worn by itself does not", "[builds][fresh]") {
  CHECK(fresh(wish_of("horn"))->parts.size() == 2);
  CHECK(fresh(wish_of("horn"))->parts[1].on == fresh(wish_of("horn"))->parts[0].id);
  CHECK(fresh(wish_of("great-helm"))->parts.size() == 1);
  CHECK(fresh(wish_of(kHeadformStart))->making == Making::headform);
}

TEST_CASE(
    "without a measure it is an average adult's, and says so; three measures are taken as given", "[builds][fresh]") {
  const auto assumed = fresh(wish_of("hood"));
  REQUIRE(assumed);
  CHECK(assumed->tape.head.at(MeasureId::HC).by == kAssumedBy);
  FreshBuild wish = wish_of("hood");
  wish.wearer = "Ferry Keeper";
  wish.tape.set(MeasureId::HC, 601.0), wish.tape.set(MeasureId::TOP, 352.0), wish.tape.set(MeasureId::BNA, 360.0);
  const auto measured = fresh(wish);
  REQUIRE(measured);
  CHECK(measured->name == "Hood for Ferry Keeper");
  CHECK(measured->tape.head.at(MeasureId::HC).by.empty());
  const Derived d = test::chain()->derive(*measured);
  REQUIRE(d.head);
  CHECK(d.head->reading(MeasureId::HC).reads_mm == Approx(601.0).margin(1.0));
}

TEST_CASE("material, sheet, heat and days follow what was said", "[builds][fresh]") {
  FreshBuild wish = wish_of("bowl-helm");
  wish.foam = "floor-mat", wish.thickness_mm = 10.0, wish.due = Day{wish.today.number + 5};
  const auto b = fresh(wish);
  REQUIRE(b);
  CHECK(b->foam.sheet == SheetSize{600.0, 600.0});
  CHECK(b->foam.heated);
  CHECK(b->coat.due == wish.due);
  wish.due = wish.today;  // no time at all is not meant
  CHECK(fresh(wish)->coat.due.number == wish.today.number + 14);
  wish.foam = "insulation-board";
  CHECK_FALSE(fresh(wish)->foam.heated);
}

TEST_CASE("starts, materials and measures that cannot be are refused in words", "[builds][fresh]") {
  CHECK(fresh(wish_of("a boat")).error().text.find("a boat") != std::string::npos);
  FreshBuild wish = wish_of("hood");
  wish.foam = "granite";
  CHECK(fresh(wish).error().text.find("granite") != std::string::npos);
  wish = wish_of("hood");
  wish.tape.set(MeasureId::HC, 5600.0);
  const auto huge = fresh(wish);
  REQUIRE_FALSE(huge);
  CHECK(huge.error().text.find("5600") != std::string::npos);
}

TEST_CASE("a build is saved with its picture, which is read without it", "[builds][noggin][fresh]") {
  const test::TempFolder folder;
  const auto path = folder / "b.noggin";
  const Build b = test::demo();
  REQUIRE(save_build(path, b, "not looked at here"));
  CHECK(picture_in_build(path).value() == "not looked at here");
  CHECK(open_build(path).value() == b);
  REQUIRE(save_build(path, b));
  CHECK(picture_in_build(path).error().text.find("without a picture") != std::string::npos);
  CHECK_FALSE(picture_in_build(folder / "none.noggin"));
}
