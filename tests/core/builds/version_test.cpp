#include "core/builds/version.hpp"

#include <catch2/catch.hpp>

#include "core/chain/difference.hpp"
#include "core/chain/glued.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

const Day kDay{20731};

Build with_padding(Build build, double mm) {
  wrap_of(build).padding_mm = mm;
  return build;
}

}  // namespace

TEST_CASE("a version is kept, changed from, and gone back to without loss", "[builds][versions]") {
  const Build first = test::demo();
  const auto kept = keep_version(first, "first cut", "12 mm too big at the temples", kDay);
  REQUIRE(kept);
  CHECK(kept->stems_from == 1);
  CHECK(is_as(*kept, kept->versions[0]));
  const Build changed = with_padding(*kept, 9.5);
  CHECK_FALSE(is_as(changed, changed.versions[0]));
  const auto back = go_back(changed, 1, kDay);
  REQUIRE(back);
  CHECK(wrap_of(*back).padding_mm == wrap_of(first).padding_mm);
  // What was there is kept first, and stems from what it was made of.
  REQUIRE(back->versions.size() == 2);
  CHECK(back->versions[1].name == "before going back to first cut");
  CHECK(back->versions[1].from == 1);
  CHECK(wrap_of(*back->versions[1].held).padding_mm == 9.5);
  CHECK(back->versions[1].held->versions.empty());
  // A branch: the next one stems from the first.
  const auto branch = keep_version(with_padding(*back, 16.0), "for a wig", {}, kDay);
  REQUIRE(branch);
  CHECK(branch->versions[2].from == 1);
  // Going back from what is a version already keeps nothing twice.
  const auto again = go_back(*branch, 2, kDay);
  REQUIRE(again);
  CHECK(again->versions.size() == 3);
  CHECK(wrap_of(*again).padding_mm == 9.5);
}

TEST_CASE("a version forgotten leaves its followers to what it stemmed from", "[builds][versions]") {
  Build b = *keep_version(test::demo(), "one", {}, kDay);
  b = *keep_version(with_padding(b, 9.5), "two", {}, kDay);
  b = *keep_version(with_padding(b, 16.0), "three", {}, kDay);
  const auto left = forget_version(b, 2);
  REQUIRE(left);
  REQUIRE(left->versions.size() == 2);
  CHECK(left->versions[1].from == 1);
  CHECK(left->stems_from == 3);
  CHECK(forget_version(*left, 3)->stems_from == 1);
  const auto none = forget_version(b, 9);
  REQUIRE_FALSE(none);
  CHECK(none.error().text.find("9") != std::string::npos);
  CHECK_FALSE(go_back(b, 9, kDay));
  CHECK_FALSE(keep_version(b, "", {}, kDay));
  CHECK_FALSE(describe_version(b, 1, "", "x"));
  const auto described = describe_version(b, 1, "first", "tight");
  REQUIRE(described);
  CHECK(described->versions[0].name == "first");
  CHECK(described->versions[0].note == "tight");
  for (int i = 0; i < 37; ++i) b = *keep_version(b, "more", {}, kDay);
  CHECK(b.versions.size() == 40);
  CHECK_FALSE(keep_version(b, "too many", {}, kDay));
}

TEST_CASE("versions, alterations and strips are in the file as they were", "[builds][versions][noggin]") {
  Build b = *keep_version(test::demo(), "first cut", "a note", kDay);
  b = with_padding(b, 9.0);
  Alteration a;
  a.seam = "centre line", a.first_mm = -2.0, a.middle_mm = 6.5, a.on_foam = true, a.mirrored = false,
  a.note = "gaped at the nape";
  REQUIRE(add_alteration(b, a));
  DrawnSeam strip;
  strip.points = {{0, 120, 20}, {0, 130, -40}}, strip.role = LineRole::hides, strip.reach_mm = 18.0,
  strip.name = "under the crest";
  b.parts[0].drawn.push_back(strip);
  b = *keep_version(b, "second cut", {}, kDay);
  const auto bytes = build_bytes(b);
  REQUIRE(bytes);
  const auto read = build_from_bytes(*bytes);
  REQUIRE(read);
  CHECK(*read == b);
  CHECK(read->versions[1].held->alterations.size() == 1);
  CHECK(read->versions[1].held->parts[0].drawn[0].role == LineRole::hides);
  CHECK(*build_bytes(*read) == *bytes);
  // A version within a version is no version of ours.
  Build nested = b;
  nested.versions[0].held = std::make_shared<const Build>(*keep_version(test::demo(), "inner", {}, kDay));
  const auto refused = build_from_bytes(*build_bytes(nested));
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("versions of its own") != std::string::npos);
}

TEST_CASE("a version is laid over what is now, piece by piece and place by place", "[builds][versions]") {
  const Build was = test::demo(), is = with_padding(was, wrap_of(was).padding_mm + 4.0);
  const Derived former = test::chain()->derive(was), present = test::chain()->derive(is);
  const auto difference = difference_between(former, present);
  REQUIRE(difference);
  CHECK(difference->off_mm.size() == present.panels->form.mesh.vertices.size());
  double mean = 0.0;
  for (const double mm : difference->off_mm) mean += mm / static_cast<double>(difference->off_mm.size());
  CHECK(mean == Approx(4.0).margin(0.6));
  int changed = 0;
  for (const PieceChange& c : difference->pieces) changed += c.kind == PieceChange::Kind::changed ? 1 : 0;
  CHECK(changed == static_cast<int>(present.pieces->size()));
  const auto same = difference_between(former, former);
  REQUIRE(same);
  CHECK(same->most_mm < 1e-6);
  CHECK_FALSE(difference_between(Derived{}, former));
}

TEST_CASE("the demo glued up comes out near its form, and what is told of it can be found", "[builds][glue]") {
  const auto glued = glue_form(test::derived(), test::demo(), test::chain()->materials());
  REQUIRE(glued);
  CHECK(glued->panels == test::derived().panels);
  CHECK(glued->off_mm.size() == glued->panels->form.mesh.vertices.size());
  CHECK(glued->moved.size() == glued->off_mm.size());
  CHECK(glued->p95_mm < 6.0);
  REQUIRE_FALSE(glued->findings.empty());
  for (std::size_t i = 0; i < glued->findings.size(); ++i) {
    CHECK(glued->findings[i].sentence.back() == '.');
    if (i > 0) CHECK(glued->findings[i].mm <= glued->findings[i - 1].mm);
  }
  const auto stopped =
      glue_form(test::derived(), test::demo(), test::chain()->materials(), Progress([](double) { return false; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
  CHECK_FALSE(glue_form(Derived{}, test::demo(), test::chain()->materials()));
}
