#include <catch2/catch.hpp>

#include "core/chain/forms/cover.hpp"
#include "core/geom/nearest.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"
#include "core/chain/questions.hpp"

using namespace awl;

namespace {

Build covered(const std::string& demo, CoverSpec spec, const std::string& stuff = {}, double thickness = 0.0) {
  Build b = *demo_by_name(demo, Day{20731});
  b.dress = {};
  Part part;
  part.name = "cover", part.shape = spec, part.stuff = stuff, part.thickness_mm = thickness;
  REQUIRE(add_part(b, part, b.parts.front().id));
  return b;
}

double area_of(const Derived& d, const std::string& part) {
  double sum = 0.0;
  for (const Piece& p : *d.pieces)
    if (p.name.rfind(part, 0) == 0) sum += signed_area_mm2(p.outline) * p.copies;
  return sum;
}

}  // namespace

TEST_CASE("a cover lies on the foam, its thickness further out, and its pieces are larger by what that asks",
    "[builds][cover]") {
  const Build b = covered("reed-mask", {CoverFace::outside, CoverOver::all, 0.0, 0.0});
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  REQUIRE(d.form->parts.size() == b.parts.size());
  const PartForm &below = *d.form->parts.front(), &cover = *d.form->parts.back();
  const Mesh outer =
      sheet_face(below.surface.mesh, {span_of(below.surface, below.name, below.outside, below.thickness_mm)}, true);
  const Nearest skin(outer);
  double worst = 0.0;
  for (const Vec3& p : cover.surface.mesh.vertices) worst = std::max(worst, (skin.to(p).point - p).norm());
  CHECK(worst < 0.6);
  CHECK_FALSE(cover.outside);
  // Worked by hand: a face h further out over a mean radius R has an area larger by about 2 h / R; the middle layers
  // are a sheet apart.
  CHECK(area_mm2(cover.surface.mesh) > 1.01 * area_mm2(below.surface.mesh));
  CHECK(area_of(d, "cover") > 1.01 * area_of(d, below.name));
}

TEST_CASE("a lining is smaller, a cover with a gap larger still", "[builds][cover]") {
  const auto area = [](CoverSpec spec) {
    const Derived d = test::chain()->derive(covered("reed-mask", spec));
    REQUIRE(d.complete());
    return area_of(d, "cover");
  };
  const double flush = area({CoverFace::outside, CoverOver::all, 0.0, 0.0});
  CHECK(area({CoverFace::inside, CoverOver::all, 0.0, 0.0}) < 0.98 * flush);
  CHECK(area({CoverFace::outside, CoverOver::all, 8.0, 0.0}) > 1.01 * flush);
}

TEST_CASE(
    "a skin is wrapped round the edges: its free edges have the wrap and the foam's thickness", "[builds][cover]") {
  const Build b = covered("reed-mask", {CoverFace::outside, CoverOver::all, 0.0, 12.0}, "fabric", 1.0);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const double below = d.form->parts.front()->thickness_mm;
  int free_edges = 0, seams = 0;
  for (const Piece& p : *d.pieces) {
    if (p.name.rfind("cover", 0) != 0) {
      CHECK(p.stuff.empty());
      continue;
    }
    CHECK(p.stuff == "fabric");
    CHECK(p.thickness_mm == 1.0);
    for (const PieceEdge& e : p.edges) {
      CHECK(e.margin_mm == Approx(e.seam.valid() ? 12.0 : 12.0 + below));  // fabric's own seam margin is 12 mm too
      ++(e.seam.valid() ? seams : free_edges);
    }
    CHECK(signed_area_mm2(p.knife_line()) > 1.05 * signed_area_mm2(p.outline));
  }
  CHECK(free_edges > 0);
  CHECK(seams > 0);
  for (const Placement& p : d.layout->placements)
    CHECK(d.layout->blanks[p.sheet].stuff == (*d.pieces)[p.piece.value].stuff);
  // Whatever is said of its strain does not speak of heat, nor of other foam.
  for (const Remark& r : d.remarks) {
    if (r.id != "seam.strain" || r.sentence.find("Fabric") == std::string::npos) continue;
    CHECK(r.sentence.find("heated") == std::string::npos);
    for (const Remedy& remedy : r.remedies) CHECK(remedy.act.rfind("set-thickness", 0) != 0);
  }
  const auto bytes = build_bytes(b);
  REQUIRE(bytes);
  CHECK(build_from_bytes(*bytes).value() == b);
}

TEST_CASE("a brim is doubled alone", "[builds][cover]") {
  const Build b = covered("almanac-seller", {CoverFace::inside, CoverOver::brim, 0.0, 0.0});
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const PartForm &hat = *d.form->parts.front(), &brim = *d.form->parts.back();
  CHECK(brim.area_mm2 < 0.7 * hat.area_mm2);
  CHECK(brim.area_mm2 > 0.1 * hat.area_mm2);
  double hat_top = -1e9, brim_top = -1e9;
  for (const Vec3& p : hat.surface.mesh.vertices) hat_top = std::max(hat_top, p.y());
  for (const Vec3& p : brim.surface.mesh.vertices) brim_top = std::max(brim_top, p.y());
  CHECK(brim_top < hat_top - 100.0);
}

TEST_CASE("a cover without a part below, or of a brim that is not there, says so", "[builds][cover]") {
  Build b = covered("reed-mask", {CoverFace::outside, CoverOver::brim, 0.0, 0.0});
  const Derived none = test::chain()->derive(b);
  CHECK(std::any_of(none.part_errors.begin(), none.part_errors.end(),
      [](const Error& e) { return e.text.find("brim") != std::string::npos; }));
  b.parts.back().on = 0;
  const Derived loose = test::chain()->derive(b);
  CHECK(std::any_of(loose.part_errors.begin(), loose.part_errors.end(),
      [](const Error& e) { return e.text.find("sits on") != std::string::npos; }));
  b.parts.back().stuff = "moon-cheese";
  CHECK(check(*test::chain(), b).error().text.find("moon-cheese") != std::string::npos);
}
