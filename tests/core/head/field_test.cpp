#include "core/head/field.hpp"

#include <catch2/catch.hpp>

#include "core/head/landmarks.hpp"
#include "support/bench_data.hpp"

using namespace awl;

TEST_CASE("a ball of the recipe is a distance field", "[head][field]") {
  const auto field = Field::parse("add ell s 0  0 0 0  10 10 10\n");
  REQUIRE(field);
  CHECK((*field)({15, 0, 0}) == Approx(5.0));
  CHECK((*field)({0, 4, 0}) == Approx(-6.0));
  CHECK(field->gradient({0, 0, 20}).z() == Approx(1.0).epsilon(1e-6));
  CHECK(field->project({7, 8, 9}).norm() == Approx(10.0).margin(1e-4));
}

TEST_CASE("both sides joined and folded have no crease in the middle", "[head][field]") {
  const auto field = Field::parse("add ell m 10  8 0 0  10 10 10\n");
  REQUIRE(field);
  CHECK((*field)({3, 9, 1}) == Approx((*field)({-3, 9, 1})));
  CHECK(std::abs(field->gradient({0, 12, 0}).x()) < 1e-9);
}

TEST_CASE("a wrong recipe line is named", "[head][field]") {
  for (const char* wrong : {"add ell s 0  1 2 3\n", "add cube s 0 1 2 3 4 5 6\n",
           "add grp s 0 0 0 0\n add ell s 0 0 0 0 1 1 1\n", "add\n"}) {
    const auto field = Field::parse(std::string("# head\n") + wrong);
    REQUIRE_FALSE(field);
    CHECK(field.error().code == Errc::bad_file);
    CHECK(field.error().text.find("Line ") != std::string::npos);
  }
  CHECK_FALSE(Field::parse("# nothing\n"));
}

TEST_CASE("every landmark lies on the template's skin", "[head][field]") {
  const auto field = Field::parse(*read_file(data_folder() / "headform" / "template.field"));
  REQUIRE(field);
  for (int i = 0; i < kLandmarkCount; ++i) {
    CAPTURE(name_of(static_cast<Landmark>(i)));
    CHECK(std::abs((*field)(template_landmarks()[i])) < 0.2);
  }
}

TEST_CASE("the shipped head is the recipe's surface: closed, mirrored, well shaped", "[head][template]") {
  const HeadTemplate& head = test::fitter().head();
  const auto field = Field::parse(*read_file(data_folder() / "headform" / "template.field"));
  CHECK(euler_characteristic(head.mesh) == 2);
  CHECK(border_loops(head.mesh).empty());
  CHECK(smallest_angle_deg(head.mesh) > 20.0);
  double worst = 0.0;
  for (std::size_t v = 0; v < head.mesh.vertices.size(); v += 5)
    worst = std::max(worst, std::abs((*field)(head.mesh.vertices[v])));
  CHECK(worst < 0.05);
  for (std::size_t v = 0; v < head.twin_of.size(); ++v) {
    const Vec3 &p = head.mesh.vertices[v], &q = head.mesh.vertices[head.twin_of[v]];
    REQUIRE((p.x() == -q.x() && p.y() == q.y() && p.z() == q.z()));
  }
}
