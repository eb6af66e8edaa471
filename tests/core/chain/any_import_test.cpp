// Meshes brought in, cut as a suggestion says.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/chain/questions.hpp"
#include "core/io/build_file.hpp"
#include "core/seam/suggest.hpp"
#include "support/bench_data.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

/// A head of an animal nobody drew: a ball with a snout, two ears and a hollow at the nape.
Mesh animal(double uneven) {
  Mesh mesh = test::icosphere(110.0, 4);
  const auto bump = [](const Vec3& n, const Vec3& at, double high, double sharp) {
    return high * std::exp(-sharp * (n - at.normalized()).squaredNorm());
  };
  for (Vec3& p : mesh.vertices) {
    const Vec3 n = p.normalized();
    p += n *
        (bump(n, {0, -0.2, 1}, 70.0, 8.0) + bump(n, {0.7, 0.8, -0.1}, 45.0, 18.0) +
            bump(n, {-0.7, 0.8, -0.1}, 45.0 + uneven, 18.0) - bump(n, {0, -0.3, -1}, 15.0, 6.0));
  }
  return mesh;
}

Build with_import(ImportSpec spec) {
  Build b = test::demo();
  b.parts.clear(), b.dress = {}, b.fit = {}, b.coat.areas.clear(), b.alterations.clear();
  Part part;
  part.name = "animal", part.shape = std::move(spec);
  (void)add_part(b, part);
  return b;
}

ImportSpec animal_spec(double uneven, bool mirror) {
  ImportSpec spec;
  spec.mesh = std::make_shared<const Mesh>(animal(uneven)), spec.file = "animal.obj";
  spec.foam_mm = 5.0, spec.mirror = mirror;
  return spec;
}

ImportSpec& import_of(Build& b) { return std::get<ImportSpec>(b.parts.front().shape); }

double worst_of(const Derived& d) {
  double worst = 0.0;
  for (const Panel& p : d.panels->panels) worst = std::max(worst, p.overlaps || p.flipped > 0 ? 1.0 : p.strain.p99);
  return worst;
}

}  // namespace

TEST_CASE("a mesh brought in is cut exactly as was suggested, and stays so when moved and saved", "[chain][import]") {
  const bool mirror = GENERATE(true, false);
  CAPTURE(mirror);
  Build b = with_import(animal_spec(mirror ? 0.0 : 12.0, mirror));
  const auto ways = suggest(*test::chain(), b, b.parts.front().id, 0.06);
  REQUIRE(ways);
  REQUIRE(!ways->empty());
  for (const Suggestion& way : *ways) REQUIRE(way.cut);
  const Suggestion& way = ways->front();
  CHECK(way.panels <= 12);
  CHECK(way.worst <= 0.066);
  CHECK(way.cut->cut_for.empty());

  // In pencil it changes nothing that is cut.
  const Part pencilled = with_way(b.parts.front(), way, false);
  CHECK(pencilled.drawn.size() == way.seams.size());
  CHECK(std::none_of(pencilled.drawn.begin(), pencilled.drawn.end(), [](const DrawnSeam& s) { return s.inked; }));
  CHECK_FALSE(std::get<ImportSpec>(pencilled.shape).cut);

  b.parts.front() = with_way(pencilled, way, true);
  CHECK(b.parts.front().drawn.empty());
  REQUIRE(import_of(b).stands_cut());
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.panels);
  CHECK(static_cast<int>(d.panels->panels.size()) == way.panels);
  CHECK(worst_of(d) == Approx(way.worst).margin(0.002));
  CHECK(d.panels->seam_total_mm() == Approx(way.seam_mm).epsilon(0.01));

  // Moved up and made larger the same panels come out, the larger with more seam.
  import_of(b).up_mm += 30.0, import_of(b).scale = 1.15;
  REQUIRE(import_of(b).stands_cut());
  const Derived large = test::chain()->derive(b);
  REQUIRE(large.panels);
  CHECK(large.panels->panels.size() == d.panels->panels.size());
  CHECK(large.panels->seam_total_mm() == Approx(1.15 * d.panels->seam_total_mm()).epsilon(0.02));

  // As saved, so opened.
  const auto bytes = build_bytes(b);
  REQUIRE(bytes);
  const auto again = build_from_bytes(*bytes);
  REQUIRE(again);
  CHECK(*again == b);

  // Cut away lower, it would be another mesh: the panels are left out, and that is said.
  import_of(b).cut_low = 0.2;
  CHECK_FALSE(import_of(b).stands_cut());
  const Derived other = test::chain()->derive(b);
  REQUIRE(other.form);
  CHECK(other.form->surface.seam_of.empty());
  CHECK(
      std::any_of(other.remarks.begin(), other.remarks.end(), [](const Remark& r) { return r.id == "form.cut-anew"; }));
  import_of(b).cut_low = 0.0;
  CHECK(import_of(b).stands_cut());
}

TEST_CASE("seams that are no edges of the mesh they cut are refused with their place", "[chain][import][hostile]") {
  Build b = with_import(animal_spec(0.0, false));
  auto cut = std::make_shared<CutMesh>();
  cut->mesh = test::icosphere(100.0, 1), cut->seam_names = {"seam 1"}, cut->cut_for = import_of(b).cut_facts();
  const Tri t = cut->mesh.triangles.front();
  cut->seams[edge_of(t[0], t[1])] = 0;
  import_of(b).cut = cut;
  const auto good = build_bytes(b);
  REQUIRE(good);
  CHECK(build_from_bytes(*good));

  int far = 0;
  while (far == t[0] || (cut->mesh.vertices[far] - cut->mesh.vertices[t[0]]).norm() < 150.0) ++far;
  auto no_edge = std::make_shared<CutMesh>(*cut);
  no_edge->seams[edge_of(t[0], far)] = 0;
  import_of(b).cut = no_edge;
  const auto refused = build_from_bytes(*build_bytes(b));
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("no edge of the mesh") != std::string::npos);

  auto nameless = std::make_shared<CutMesh>(*cut);
  nameless->seam_names.clear();
  import_of(b).cut = nameless;
  CHECK_FALSE(build_from_bytes(*build_bytes(b)));
}

TEST_CASE("a mesh is hollowed out within itself, half within, or to a shell round it", "[chain][import]") {
  constexpr double kRadius = 140.0, kThick = 8.0;
  ImportSpec spec;
  spec.mesh = std::make_shared<const Mesh>(test::icosphere(kRadius, 4)), spec.file = "ball.obj";
  spec.cut_low = 0.3;
  struct Case {
    ImportFace face;
    double outer, inner;
  };
  for (const Case& c : {Case{ImportFace::outside, kRadius, kRadius - kThick},
           Case{ImportFace::middle, kRadius + 0.5 * kThick, kRadius - 0.5 * kThick},
           Case{ImportFace::inside, kRadius + kThick, kRadius}}) {
    CAPTURE(static_cast<int>(c.face));
    spec.face = c.face;
    Build b = with_import(spec);
    b.foam.thickness_mm = kThick;
    const Derived d = test::chain()->derive(b);
    CAPTURE(d.error ? d.error->text : std::string());
    REQUIRE(d.form);
    const Vec3 middle = box_of(d.form->faces.outer.vertices).high - Vec3::Constant(c.outer);
    const auto mean = [&](const Mesh& mesh) {
      double sum = 0.0;
      int count = 0;
      const Box box = box_of(mesh.vertices);
      for (const Vec3& p : mesh.vertices)
        if (p.y() > 0.5 * (box.low.y() + box.high.y())) sum += (p - middle).norm(), ++count;
      return sum / count;
    };
    CHECK(mean(d.form->faces.outer) == Approx(c.outer).margin(0.6));
    CHECK(mean(d.form->faces.inner) == Approx(c.inner).margin(0.6));
    const auto again = build_from_bytes(*build_bytes(b));
    REQUIRE(again);
    CHECK(std::get<ImportSpec>(again->parts.front().shape).face == c.face);
  }
}
