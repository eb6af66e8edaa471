#include "core/derived/paint_ground.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/builds/demo_coat.hpp"
#include "core/derived/colour_map.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

constexpr double kPatchMm = 26.0;

/// The hood alone, with lines drawn on it and no colours yet.
Build plain_hood(const std::function<void(Part&, const PartForm&)>& draw) {
  Build b = demo_build(Day{20794});
  b.coat.areas.clear();
  const Derived bare = test::chain()->derive(b);
  REQUIRE(bare.form);
  draw(b.parts[0], *bare.form->parts[0]);
  return b;
}

DrawnSeam colour_line(const PartForm& form, const std::vector<Vec3>& at, bool closed, bool mirrored) {
  DrawnSeam line;
  line.name = "where they meet";
  line.role = LineRole::colours;
  line.closed = closed, line.mirrored = mirrored;
  const Places places(form.surface.mesh, form.surface.home);
  for (const Vec3& p : at) line.points.push_back(places.at_home(p));
  return line;
}

/// A ring of markers round the place of the form nearest to `towards` from its middle.
std::vector<Vec3> ring(const PartForm& form, const Vec3& at, double radius, int markers) {
  const Nearest near(form.surface.mesh);
  const NearestHit hit = near.to(at);
  const Tri& t = form.surface.mesh.triangles[hit.triangle];
  const Vec3 normal = area_vector(form.surface.mesh, t).normalized();
  const Vec3 one = normal.unitOrthogonal(), other = normal.cross(one);
  std::vector<Vec3> places;
  for (int k = 0; k < markers; ++k) {
    const double a = 2.0 * M_PI * k / markers;
    places.push_back(near.to(hit.point + radius * (std::cos(a) * one + std::sin(a) * other)).point);
  }
  return places;
}

/// The place of a form at the wearer's left.
Vec3 left_of(const PartForm& form) {
  const Box box = box_of(form.surface.mesh.vertices);
  const Vec3 middle = 0.5 * (box.low + box.high);
  return {box.high.x(), middle.y() + 0.15 * box.size().y(), middle.z()};
}

double ends_mm(const PaintGround& g, const PaintField& field) {
  double mm = 0.0;
  for (const auto& [a, b] : field.ends) mm += (g.surface.vertices[a] - g.surface.vertices[b]).norm();
  return mm;
}

ColourArea area_on(const std::string& name, const std::string& of) {
  ColourArea area;
  area.name = name;
  area.of = of;
  return area;
}

}  // namespace

TEST_CASE("a ring drawn for two colours is a field of its size, on both sides", "[paint_ground]") {
  const Build b = plain_hood([](Part& part, const PartForm& form) {
    part.drawn = {colour_line(form, ring(form, left_of(form), kPatchMm, 16), true, true)};
  });
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.colours);
  REQUIRE(d.colours->ground);
  const PaintGround& g = *d.colours->ground;
  CHECK(g.lost.empty());
  REQUIRE(g.fields.size() == 3);
  std::vector<PaintField> small;
  double all = 0.0;
  for (const PaintField& f : g.fields) {
    all += f.area_mm2;
    if (f.area_mm2 < 10'000.0) small.push_back(f);
  }
  CHECK(all == Approx(area_mm2(d.form->surface.mesh)).epsilon(2e-3));
  REQUIRE(small.size() == 2);
  for (const PaintField& f : small) {
    // A little less than the flat circle: put straight onto a dome the markers move towards its middle.
    CHECK(f.area_mm2 > 0.94 * M_PI * kPatchMm * kPatchMm);
    CHECK(f.area_mm2 < 1.01 * M_PI * kPatchMm * kPatchMm);
    CHECK(ends_mm(g, f) == Approx(2.0 * M_PI * kPatchMm).epsilon(0.02));
    CHECK(f.image >= 0);
  }
  CHECK(g.fields[small[0].image].within.x() * small[0].within.x() < 0.0);
}

TEST_CASE(
    "the ground keeps to the form: every triangle in the one it was cut from, both faces alike", "[paint_ground]") {
  const Build b = plain_hood([](Part& part, const PartForm& form) {
    part.drawn = {colour_line(form, ring(form, left_of(form), kPatchMm, 16), true, true)};
  });
  const Derived d = test::chain()->derive(b);
  const PaintGround& g = *d.colours->ground;
  REQUIRE(g.face_of.size() == g.outer.triangles.size());
  REQUIRE(g.surface.triangles.size() == g.outer.triangles.size());
  CHECK(g.spans == std::vector<int>{static_cast<int>(g.face_of.size())});
  std::vector<double> covered(d.form->faces.outer.triangles.size(), 0.0);
  for (std::size_t f = 0; f < g.face_of.size(); ++f) {
    covered[g.face_of[f]] += 0.5 * area_vector(g.outer, g.outer.triangles[f]).norm();
    CHECK(area_vector(g.outer, g.outer.triangles[f])
              .dot(area_vector(d.form->faces.outer, d.form->faces.outer.triangles[g.face_of[f]])) >= 0.0);
  }
  int off = 0;
  for (std::size_t f = 0; f < covered.size(); ++f) {
    const double own = 0.5 * area_vector(d.form->faces.outer, d.form->faces.outer.triangles[f]).norm();
    off += std::abs(covered[f] - own) > 0.12 * own ? 1 : 0;
  }
  CHECK(off < static_cast<int>(covered.size()) / 200);
}

TEST_CASE("a field is painted before its part, with its image unless it stands alone", "[paint_ground][colours]") {
  Build b = plain_hood([](Part& part, const PartForm& form) {
    part.drawn = {colour_line(form, ring(form, left_of(form), kPatchMm, 16), true, true)};
  });
  const Derived bare = test::chain()->derive(b);
  const PaintGround& g = *bare.colours->ground;
  const auto small = std::find_if(
      g.fields.begin(), g.fields.end(), [](const PaintField& f) { return f.area_mm2 < 10'000.0 && f.within.x() > 0; });
  REQUIRE(small != g.fields.end());
  const auto painted = [&](const std::string& of) {
    b.coat.areas.clear();
    (void)add_area(b, area_on("patch", of));
    (void)add_area(b, area_on("hood", "part " + std::to_string(small->part)));
    return test::chain()->derive(b);
  };
  const Derived both = painted(words_of(*small)), alone = painted(words_of(*small) + " alone");
  REQUIRE(both.colours);
  REQUIRE(alone.colours);
  CHECK(both.colours->lost.empty());
  const double whole = area_mm2(bare.form->surface.mesh);
  const auto size_of = [](const Derived& d, int area) {
    const ColourMap& map = *d.colours;
    for (std::size_t i = 0; i < map.areas.size(); ++i)
      if (map.areas[i] == area) return map.area_mm2[i];
    return 0.0;
  };
  CHECK(size_of(both, 1) == Approx(2.0 * small->area_mm2).epsilon(0.02));
  CHECK(size_of(alone, 1) == Approx(small->area_mm2).epsilon(1e-6));
  CHECK(size_of(both, 1) + size_of(both, 2) == Approx(whole).epsilon(2e-3));
  CHECK(both.colours->border_mm[0][1] == Approx(4.0 * M_PI * kPatchMm).epsilon(0.02));
  CHECK(both.plan->masking.size() == 2);
}

TEST_CASE("a line from edge to edge parts a form in two, one that ends nowhere parts nothing", "[paint_ground]") {
  const auto across = [](double share) {
    return plain_hood([share](Part& part, const PartForm& form) {
      // Over the crown from ear to ear, from the lower edge at one side to the other's.
      const Mesh& mesh = form.surface.mesh;
      const Box box = box_of(mesh.vertices);
      const Nearest near(mesh);
      std::vector<Vec3> at;
      for (int k = 0; k <= 12; ++k) {
        const double a = M_PI * share * k / 12.0 - 0.5 * M_PI * (share - 1.0);
        at.push_back(near.to(Vec3(0.5 * box.size().x() * std::cos(a),
                                 box.low.y() + box.size().y() * std::sin(a) - (k % 12 == 0 ? 30.0 : 0.0), 0.0))
                         .point);
      }
      part.drawn = {colour_line(form, at, false, false)};
    });
  };
  const Derived whole = test::chain()->derive(across(1.0)), nowhere = test::chain()->derive(across(0.5));
  REQUIRE(whole.colours->ground);
  std::vector<double> large;
  for (const PaintField& f : whole.colours->ground->fields)
    if (f.area_mm2 > 10'000.0) large.push_back(f.area_mm2);
  CHECK(large.size() == 2);
  REQUIRE(nowhere.colours->ground);
  CHECK(nowhere.colours->ground->fields.size() == 1);
  // Painting it says what is missing, and paints nothing.
  Build b = across(0.5);
  (void)add_area(b, area_on("front", words_of(nowhere.colours->ground->fields[0])));
  const Derived told = test::chain()->derive(b);
  REQUIRE(told.colours->lost.size() == 1);
  CHECK(told.colours->lost[0].text.find("has no line round it") != std::string::npos);
  CHECK(told.colours->lost[0].where == "coat/areas/1");
}

TEST_CASE("fields ride along to another head", "[paint_ground]") {
  Build b = plain_hood([](Part& part, const PartForm& form) {
    part.drawn = {colour_line(form, ring(form, left_of(form), kPatchMm, 16), true, true)};
  });
  const Derived bare = test::chain()->derive(b);
  for (const PaintField& f : bare.colours->ground->fields)
    if (f.area_mm2 < 10'000.0 && f.within.x() > 0.0) (void)add_area(b, area_on("patch", words_of(f)));
  for (const double girth : {520.0, 560.0, 615.0}) {
    CAPTURE(girth);
    b.tape.set(MeasureId::HC, girth);
    const Derived d = test::chain()->derive(b);
    REQUIRE(d.colours);
    CHECK(d.colours->lost.empty());
    CHECK(d.colours->ground->fields.size() == 3);
    REQUIRE(d.colours->area_mm2.size() == 1);
    const double scale = girth / 575.0;
    CHECK(d.colours->area_mm2[0] == Approx(2.0 * M_PI * kPatchMm * kPatchMm * scale * scale).epsilon(0.2));
  }
}

TEST_CASE("what is between lines is read from its words, and nothing else is taken for it", "[paint_ground]") {
  const auto read = [](const std::string& of) { return area_of(area_on("it", of)); };
  const auto field = read("field 2 1.5 -80 40.25 alone");
  REQUIRE(field);
  CHECK(field->kind == AreaOf::Kind::field);
  CHECK(field->id == 2);
  CHECK(field->seed == Vec3(1.5, -80.0, 40.25));
  CHECK_FALSE(field->both_sides);
  CHECK(read("field 2 1.5 -80 40.25")->both_sides);
  for (const char* bad : {"field 2", "field 2 1 2", "field 0 1 2 3", "field 2 1,5 2 3", "field 2 1 2 3 both"})
    CHECK(read(bad).error().code == Errc::bad_file);
}
