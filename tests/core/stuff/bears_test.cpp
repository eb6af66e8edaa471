#include "core/stuff/bears.hpp"

#include <catch2/catch.hpp>

#include "support/bench_data.hpp"

using namespace awl;

namespace {

Foam foam(const char* id) { return test::materials().foam(id).value(); }
Glue glue(const char* id) { return test::materials().glue(id).value(); }

}  // namespace

TEST_CASE("heat is borne, borne outdoors, or not, and says so", "[stock][harm]") {
  for (const char* id : {"eva-soft", "eva-firm", "floor-mat", "thermoplastic", "clear-sheet", "tinted-sheet"}) {
    CAPTURE(id);
    CHECK(heat_on(foam(id)).allowed);
    CHECK_FALSE(heat_on(foam(id)).outdoors);
    CHECK_FALSE(heat_on(foam(id)).caution.empty());
  }
  for (const char* id : {"soft-block", "insulation-board", "card", "fabric", "mesh"}) {
    CAPTURE(id);
    CHECK_FALSE(heat_on(foam(id)).allowed);
    CHECK(heat_on(foam(id)).why.find(foam(id).name) != std::string::npos);
    CHECK(bears_strain(foam(id), true) == foam(id).strain_cold);
  }
  CHECK(heat_on(foam("rigid-pvc")).outdoors);
  CHECK(heat_on(foam("rigid-pvc")).caution.find("utdoors") != std::string::npos);
}

TEST_CASE("a joint is stopped by either of its faces", "[stock][harm]") {
  for (const char* id : {"contact", "instant", "hot-glue"}) {
    CHECK_FALSE(glue_on(glue(id), foam("eva-firm"), foam("insulation-board")).allowed);
    CHECK_FALSE(glue_on(glue(id), foam("insulation-board"), foam("eva-firm")).allowed);
  }
  CHECK_FALSE(glue_on(glue("contact"), foam("eva-firm"), foam("clear-sheet")).allowed);
  CHECK_FALSE(glue_on(glue("instant"), foam("soft-block"), foam("card")).allowed);
  CHECK(glue_on(glue("contact"), foam("eva-firm"), foam("eva-soft")).allowed);
}

TEST_CASE("no pair of materials is left without a glue, and what serves is borne", "[stock][harm]") {
  int stopped = 0, all = 0;
  for (const Foam& a : test::materials().foams)
    for (const Foam& b : test::materials().foams)
      for (const Glue& g : test::materials().glues) {
        const auto served = glue_for(test::materials(), g, a, b);
        CAPTURE(a.id, b.id, g.id);
        REQUIRE(served);
        ++all, stopped += served->as_asked ? 0 : 1;
        CHECK(glue_on(served->product, a, b).allowed);
        CHECK(served->as_asked == glue_on(g, a, b).allowed);
        CHECK(served->as_asked == served->why.empty());
      }
  CHECK(stopped > 100);
  CHECK(stopped < all / 2);
}

TEST_CASE("kinds that say nothing of heat and solvents get the facts of what they are", "[stock][harm]") {
  Foam own = foam("eva-firm");
  own.taboos = {{"heat", "it says so"}, {"solvent", "it says so"}};
  own = with_usual_facts(own);
  CHECK(own.heat == Heat::never);
  CHECK(own.solvent == Solvent::eaten);
  // A file of an earlier time knows no facts.
  std::string text = foam_text(foam("rigid-pvc"));
  for (const char* key : {"\"heat\":\"outdoors\",", "\"solvent\":\"bears\",", "\"pores\":\"closed\",", "\"flex\":0,"})
    if (const auto at = text.find(key); at != std::string::npos) text.erase(at, std::string(key).size());
  const auto old = foam_from_text(text);
  REQUIRE(old);
  CHECK(old->heat == Heat::outdoors);
  CHECK(old->pores == Pores::closed);
}
