#include "core/form/wrap.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/random.hpp"
#include "core/form/closing.hpp"
#include "core/geom/nearest.hpp"
#include "support/bench_data.hpp"
#include "support/solids.hpp"

using namespace awl;

namespace {

const WrapMaker& maker() {
  static const auto fitter = HeadFitter::load(data_folder() / "headform");
  static const auto loaded = WrapMaker::load(data_folder() / "headform", *fitter);
  REQUIRE(loaded);
  return **loaded;
}

/// The whole shell of a hood over a head, with its clearance.
struct Fitted {
  Mesh shell;
  Clearance clearance;
};

Fitted wear(const WrapSpec& spec, const Coefficients& c, const Mesh& head) {
  const auto blank = maker().blank(spec);
  REQUIRE(blank);
  const Mirrored whole = mirror_half(blank->half);
  Fitted worn{whole.mesh, {}};
  worn.shell.vertices = maker().riders(whole.mesh.vertices, whole.twin_of).carried(c);
  const auto settled = settle_on_head(worn.shell, head, spec.ease_mm());
  REQUIRE(settled);
  worn.clearance = *settled;
  return worn;
}

int sharp_folds(const Mesh& mesh) {
  int folds = 0;
  for (const auto& e : topology_of(mesh).edges) {
    if (e.right < 0) continue;
    const Vec3 a = area_vector(mesh, mesh.triangles[e.left]).normalized();
    const Vec3 b = area_vector(mesh, mesh.triangles[e.right]).normalized();
    folds += a.dot(b) < 0.5 ? 1 : 0;
  }
  return folds;
}

}  // namespace

TEST_CASE("clearance is that of the nearest corner or middle of a triangle, within the head too", "[form][wrap]") {
  const Mesh& head = test::fitter().head().mesh;
  const Nearest near(head);
  Random random(9);
  const Fitted worn = wear(WrapSpec{}, Coefficients::Zero(), head);
  for (const double push_mm : {0.0, 6.0, 25.0, 60.0}) {
    Mesh form = worn.shell;  // dented towards the middle, deepest at a place of its own
    const Vec3 at = form.vertices[random.below(form.vertices.size())];
    for (Vec3& p : form.vertices) p -= push_mm * std::exp(-(p - at).squaredNorm() / 900.0) * p.normalized();
    double least = 1e300, sum = 0.0;
    for (const Vec3& p : form.vertices) {
      const double mm = near.to(p).signed_mm;
      least = std::min(least, mm), sum += mm;
    }
    for (const Tri& t : form.triangles)
      least =
          std::min(least, near.to((form.vertices[t[0]] + form.vertices[t[1]] + form.vertices[t[2]]) / 3.0).signed_mm);
    const Clearance told = clearance_of(form, head);
    CAPTURE(push_mm);
    CHECK(told.least_mm == Approx(least).margin(1e-9));
    CHECK(told.mean_mm == Approx(sum / static_cast<double>(form.vertices.size())));
  }
}

TEST_CASE("sixty random heads keep at least 0.95 of the ease that was asked", "[form][hood][property]") {
  test::Subjects subjects(21);
  const double ease = GENERATE(8.0, 12.0, 25.0);
  const auto edge = GENERATE(WrapEdge::open_face, WrapEdge::full_cowl);
  WrapSpec spec;
  spec.edge = edge;
  spec.hair_mm = 2.0;
  spec.padding_mm = ease - 2.0;
  for (int n = 0; n < 10; ++n) {
    const Coefficients c = subjects.coefficients() + test::fitter().adults().mean;
    const Headform head = test::fitter().shape(c);
    const Fitted worn = wear(spec, c, head.mesh);
    CAPTURE(n, ease);
    CHECK(worn.clearance.least_mm >= 0.95 * ease);
    CHECK(worn.clearance.mean_mm < ease + 6.0);
    CHECK(sharp_folds(worn.shell) == 0);
  }
}

TEST_CASE("every edge leaves one piece with the borders it should have", "[form][hood]") {
  const auto [edge, borders] = GENERATE(
      table<WrapEdge, std::size_t>({{WrapEdge::skull_cap, 1}, {WrapEdge::open_face, 1}, {WrapEdge::full_cowl, 2}}));
  WrapSpec spec;
  spec.edge = edge;
  const auto blank = maker().blank(spec);
  REQUIRE(blank);
  const Mesh whole = mirror_half(blank->half).mesh;
  CHECK(border_loops(whole).size() == borders);
  CHECK(euler_characteristic(whole) == 2 - static_cast<int>(borders));
  const auto part = connected_parts(whole, [](int, int) { return true; });
  CHECK(*std::max_element(part.begin(), part.end()) == 0);
}

TEST_CASE("a skull cap is smaller than an open hood, a cowl larger", "[form][hood]") {
  const auto area = [](WrapEdge edge) {
    WrapSpec spec;
    spec.edge = edge;
    return area_mm2(maker().blank(spec)->half);
  };
  CHECK(area(WrapEdge::skull_cap) < 0.8 * area(WrapEdge::open_face));
  CHECK(area(WrapEdge::full_cowl) > 1.1 * area(WrapEdge::open_face));
}

TEST_CASE("the cap's edge runs over the brow and the ears of the wearer", "[form][hood]") {
  WrapSpec spec;
  spec.edge = WrapEdge::skull_cap;
  const auto head = test::fitter().fit({{MeasureId::HC, 610}, {MeasureId::HH, 245}});
  REQUIRE(head);
  const Fitted worn = wear(spec, head->coefficients, head->mesh);
  double front = 1e9, side = 1e9;
  for (const auto& loop : border_loops(worn.shell))
    for (const int v : loop) {
      const Vec3& p = worn.shell.vertices[v];
      if (p.z() > 60) front = std::min(front, p.y());
      if (std::abs(p.x()) > 70 && std::abs(p.z() + 15.0) < 12.0) side = std::min(side, p.y());
    }
  CHECK(front > head->at(Landmark::glabella).y() + 10.0);
  CHECK(side > head->at(Landmark::ear_top_l).y());
}

TEST_CASE("raising the edge and widening the face take foam away", "[form][hood]") {
  WrapSpec spec;
  const double before = area_mm2(maker().blank(spec)->half);
  spec.edge_up_mm = 15.0;
  const double raised = area_mm2(maker().blank(spec)->half);
  CHECK(raised < before);
  spec.face_wider_mm = 10.0;
  CHECK(area_mm2(maker().blank(spec)->half) < raised);
}

TEST_CASE("an edge that leaves nothing is refused with what is left", "[form][hood]") {
  WrapSpec spec;
  spec.edge = WrapEdge::skull_cap;
  spec.edge_up_mm = 100.0;
  const auto blank = maker().blank(spec);
  REQUIRE_FALSE(blank);
  CHECK(blank.error().code == Errc::degenerate_shape);
  CHECK(blank.error().where == "form/edge");
  CHECK(blank.error().text.find("100 mm") != std::string::npos);
}

TEST_CASE("layers and edges beyond their limits name the layer and the limit", "[form][hood]") {
  WrapSpec spec;
  spec.hair_mm = 41.0;
  CHECK(check_wrap(spec).error().where == "form/hair");
  CHECK(check_wrap(spec).error().text.find("0 mm to 40 mm") != std::string::npos);
  spec = {};
  spec.hair_mm = spec.padding_mm = 0.0;
  CHECK(check_wrap(spec).error().where == "form/ease");
  spec = {};
  spec.padding_mm = std::nan("");
  CHECK(check_wrap(spec).error().where == "form/padding");
  spec = {};
  spec.face_wider_mm = -31.0;
  CHECK(check_wrap(spec).error().where == "form/face");
  CHECK_FALSE(wrap_edge_from("bonnet"));
  for (const auto edge : {WrapEdge::skull_cap, WrapEdge::open_face, WrapEdge::full_cowl})
    CHECK(*wrap_edge_from(name_of(edge)) == edge);
}

TEST_CASE("settling stops when asked", "[form][hood]") {
  WrapSpec spec;
  const auto blank = maker().blank(spec);
  Mesh shell = mirror_half(blank->half).mesh;
  const auto stopped = settle_on_head(shell, test::fitter().head().mesh, 10.0, Progress([](double) { return false; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
}

TEST_CASE("tape over two balls bridges the hollow between them", "[form][closing]") {
  // Two balls side by side in z; the shell between them must stand off further than the ease.
  Mesh two = test::ball(30.0, 6.0);
  const std::size_t n = two.vertices.size();
  for (std::size_t v = 0; v < n; ++v) two.vertices.push_back(two.vertices[v] + Vec3(0, 0, 90));
  for (std::size_t t = 0, m = two.triangles.size(); t < m; ++t) {
    Tri image = two.triangles[t];
    for (int& v : image) v += static_cast<int>(n);
    two.triangles.push_back(image);
  }
  ClosingOptions options;
  options.cell_mm = 6.0;
  options.edge_mm = 9.0;
  options.fairing_rounds = 5;
  const auto shell = closing_shell_half(two, options);
  REQUIRE(shell);
  const Nearest near(two);
  double least = 1e9, across = 0.0;
  for (const Vec3& p : shell->vertices) {
    least = std::min(least, near.to(p).signed_mm);
    if (std::abs(p.z() - 45.0) < 6.0) across = std::max(across, near.to(p).signed_mm);
  }
  CHECK(least > 9.0);
  CHECK(across > 16.0);
  CHECK(closing_shell_half(two, {.tightness_mm = 20.0, .ease_mm = 25.0}).error().code == Errc::out_of_range);
}
