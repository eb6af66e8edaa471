#include "core/seam/meeting/meeting.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/geom/offset.hpp"
#include "core/geom/open_field.hpp"
#include "core/seam/meeting/rim_tilt.hpp"
#include "core/seam/panels.hpp"

using namespace awl;

namespace {

/// A surface from a grid of places; `round`: its columns close.
Draft grid(int rows, int columns, bool round, const std::function<Vec3(double, double)>& at) {
  Draft draft;
  draft.mirrored = false;
  for (int r = 0; r <= rows; ++r)
    for (int c = 0; c < columns + (round ? 0 : 1); ++c) {
      draft.mesh.vertices.push_back(at(1.0 * c / columns, 1.0 * r / rows));
      draft.home.push_back(Vec3(c, r, 0));
    }
  const int wide = columns + (round ? 0 : 1);
  for (int r = 0; r < rows; ++r)
    for (int c = 0; c < columns; ++c) {
      const int a = r * wide + c, b = r * wide + (c + 1) % wide, d = a + wide, e = b + wide;
      draft.mesh.triangles.push_back({a, d, b});
      draft.mesh.triangles.push_back({b, d, e});
    }
  return draft;
}

/// A dome: an egg from its top down to an open rim, with waves in its skin.
SeamMesh dome(const Vec3& radii, double wave_mm) {
  constexpr int kColumns = 64;
  const auto at = [=](double u, double v) {
    const double a = kTwoPi * u, e = 0.05 + 1.87 * v,
                 s = 1.0 + wave_mm / radii.x() * std::sin(3.0 * a) * std::pow(std::sin(2.0 * e), 2);
    return Vec3(
        s * radii.x() * std::sin(e) * std::sin(a), radii.y() * std::cos(e), s * radii.z() * std::sin(e) * std::cos(a));
  };
  Draft draft = grid(34, kColumns, true, at);
  const int top = static_cast<int>(draft.mesh.vertices.size());
  draft.mesh.vertices.push_back(Vec3(0, radii.y(), 0)), draft.home.push_back(Vec3(0, -1, 0));
  for (int c = 0; c < kColumns; ++c) draft.mesh.triangles.push_back({top, c, (c + 1) % kColumns});
  return seams_of(draft);
}

/// A tapering tube from a place along a direction, its skin's outside out.
SeamMesh tube(const Vec3& from, const Vec3& along, double radius, double tip, double length) {
  const Vec3 side = along.cross(std::abs(along.y()) < 0.9 ? Vec3(Vec3::UnitY()) : Vec3(Vec3::UnitX())).normalized(),
             up = side.cross(along);
  const auto at = [=](double u, double v) {
    const double r = radius + (tip - radius) * v, a = kTwoPi * u;
    return Vec3(from + v * length * along + r * (std::cos(a) * side + std::sin(a) * up));
  };
  Draft draft = grid(20, 28, true, at);
  const int label = draft.seam("strip");
  for (int r = 0; r < 20; ++r) draft.seams[edge_of(28 * r, 28 * (r + 1))] = label;
  if (area_vector(draft.mesh, draft.mesh.triangles[0]).dot(draft.mesh.vertices[draft.mesh.triangles[0][0]] - from) <
      0.0)
    for (Tri& t : draft.mesh.triangles) std::swap(t[1], t[2]);
  return seams_of(draft);
}

MeetSide side_of(const SeamMesh& form, const char* name, bool outside, double mm = 5.0) {
  return {&form, outside, mm, name};
}

Mesh face_of(const MeetSide& side, bool outer) {
  return sheet_face(*side.form, span_of(*side.form, side.name, side.outside, side.thickness_mm), outer);
}

bool is_surface(const Mesh& mesh) {
  for (const auto& e : topology_of(mesh).edges)
    if (e.more > 0) return false;
  return true;
}

/// A horn standing out of a dome, somewhere.
struct Pair {
  SeamMesh lower, upper;
  Vec3 out;
};
Pair random_pair(Random& random) {
  const auto between = [&](double low, double high) { return low + (high - low) * random.uniform(); };
  Pair pair;
  pair.lower = dome({between(75, 110), between(90, 130), between(85, 120)}, between(0, 5));
  const double a = between(0, kTwoPi), e = between(0.1, 1.2);
  const Vec3 dir(std::sin(e) * std::sin(a), std::cos(e), std::sin(e) * std::cos(a));
  const Nearest near(pair.lower.mesh);
  const auto hit = near.first_hit(500.0 * dir, -dir);
  const Vec3 at = (500.0 - hit->along_mm) * dir;
  const Vec3 lean(between(-0.5, 0.5), between(-0.3, 0.5), between(-0.5, 0.5));
  pair.out = (dir + lean).normalized();
  const double sunk = between(-25, 40), radius = between(12, 30);
  pair.upper = tube(at - sunk * pair.out, pair.out, radius, between(0.4, 1.1) * radius, between(90, 200));
  return pair;
}

}  // namespace

TEST_CASE("A horn's foot lies on what it sits on, through its thickness, whatever both are") {
  Random random(31);
  int made = 0, refused = 0;
  for (int i = 0; i < 300; ++i) {
    const Pair pair = random_pair(random);
    const MeetSide upper = side_of(pair.upper, "horn", i % 2 == 0), lower = side_of(pair.lower, "dome", i % 3 == 0);
    const auto met = meet(upper, lower, pair.lower, {1, MeetHow::sits});
    INFO("pair " << i);
    if (!met) {
      CHECK(met.error().text.size() > 20);
      ++refused;
      continue;
    }
    ++made;
    CHECK_FALSE(met->lower);
    REQUIRE(is_surface(met->upper.mesh));
    CHECK(border_loops(met->upper.mesh).size() == 2);
    const MeetSide cut = side_of(met->upper, "horn", upper.outside);
    const OpenField field(face_of(lower, true));
    const Mesh middle = middle_of(cut), outer = face_of(cut, true), inner = face_of(cut, false);
    // Over the dome's own rim the foot is cut as if it went on: there is nothing to measure from.
    const auto off = [&](const Vec3& p) {
      const NearestHit hit = field.hit(p);
      return field.past(hit) ? 0.0 : std::abs(hit.signed_mm);
    };
    double worst_middle = 0.0, worst_between = 0.0, worst_face = 0.0;
    for (const auto& [edge, tilt] : met->upper.rim_tilt) {
      for (const int v : {edge.first, edge.second}) {
        worst_middle = std::max(worst_middle, off(middle.vertices[v]));
        if (std::abs(tilt) < radians(45))
          worst_face = std::max({worst_face, off(outer.vertices[v]), off(inner.vertices[v])});
      }
      worst_between = std::max(worst_between, off(0.5 * (middle.vertices[edge.first] + middle.vertices[edge.second])));
    }
    CHECK(worst_middle < 0.05);
    CHECK(worst_between < 0.4);
    CHECK(worst_face < 0.8);
    CHECK(met->line_mm > 50.0);
    // All that stands above is there, and the seam still reaches the foot.
    const auto names = met->upper.seam_names;
    CHECK(names == std::vector<std::string>{"strip"});
  }
  CHECK(made >= 270);
  CHECK(made + refused == 300);
}

TEST_CASE("Two skins that cross become one that is watertight along their seam, or a sentence") {
  Random random(77);
  int made = 0;
  for (int i = 0; i < 120; ++i) {
    const Pair pair = random_pair(random);
    const auto met = meet(
        side_of(pair.upper, "horn", i % 2 == 0), side_of(pair.lower, "dome", false), pair.lower, {1, MeetHow::skin});
    INFO("pair " << i);
    if (!met) {
      CHECK(met.error().text.size() > 20);
      continue;
    }
    ++made;
    const SeamMesh& one = *met->lower;
    REQUIRE(is_surface(one.mesh));
    // The dome's rim and the horn's open tip: what was cut is open nowhere.
    CHECK(border_loops(one.mesh).size() == 2);
    const auto parts = connected_parts(one.mesh, [](int, int) { return true; });
    CHECK(*std::max_element(parts.begin(), parts.end()) == 0);
    CHECK(std::count(one.seam_names.begin(), one.seam_names.end(), "horn on dome") == 1);
    // The seam parts both again.
    const auto cut = connected_parts(one.mesh, [&](int a, int b) {
      const SeamId id = one.seam_at(a, b);
      return !id.valid() || one.seam_names[id.value] != "horn on dome";
    });
    CHECK(*std::max_element(cut.begin(), cut.end()) == 1);
    // Frames of both stay apart.
    double top = 0.0;
    for (const Vec3& h : one.home) top = std::max(top, h.y());
    CHECK(top > 1000.0);
  }
  CHECK(made >= 100);
}

TEST_CASE("A hole below a foot is as wide as the foot inside, and round what runs through as wide as that outside") {
  const SeamMesh lower = dome({100, 120, 110}, 0.0);
  const SeamMesh upper = tube({0, 100, 0}, Vec3::UnitY(), 30, 30, 120);
  const MeetSide tube_side = side_of(upper, "tube", true), dome_side = side_of(lower, "dome", false);
  const auto opened = meet(tube_side, dome_side, lower, {1, MeetHow::opens});
  REQUIRE(opened);
  REQUIRE(opened->lower);
  CHECK(opened->hole_mm2 == Approx(kPi * 25 * 25).epsilon(0.06));
  Meet through{1, MeetHow::through, 1.0};
  const auto run = meet(tube_side, dome_side, lower, through);
  REQUIRE(run);
  CHECK(run->hole_mm2 == Approx(kPi * 31 * 31).epsilon(0.06));
  // It stands out behind by the sheet and eight millimetres more.
  const OpenField field(face_of(dome_side, true));
  double deepest = 0.0;
  for (const Vec3& p : run->upper.mesh.vertices) deepest = std::min(deepest, field(p));
  CHECK(deepest == Approx(-13.0).margin(1.0));
  CHECK(run->upper.rim_tilt.empty());
  // A second horn beside it keeps what the first left: its hole's rim is still tilted.
  const SeamMesh second = tube({60, 70, 0}, Vec3(0.6, 0.8, 0).normalized(), 14, 10, 90);
  const auto both =
      meet(side_of(second, "horn", true), side_of(*opened->lower, "dome", false), lower, {1, MeetHow::opens});
  REQUIRE(both);
  CHECK(both->lower->rim_tilt.size() > opened->lower->rim_tilt.size());
  CHECK(border_loops(both->lower->mesh).size() == border_loops(lower.mesh).size() + 2);
}

TEST_CASE("What fills an opening ends on its rim") {
  // A dome with a round window in front, and a bowl behind that is wider than the window.
  const auto skin = [](double radius, double wide) {
    return seams_of(grid(24, 48, true, [=](double u, double v) {
      const double a = kTwoPi * u, e = 0.02 + wide * v;
      return Vec3(radius * std::sin(e) * std::sin(a), radius * std::sin(e) * std::cos(a), radius * std::cos(e));
    }));
  };
  const auto window = seams_of(grid(24, 48, true, [](double u, double v) {
    const double a = kTwoPi * u, e = 0.6 + 1.6 * v;
    return Vec3(110 * std::sin(e) * std::sin(a), 110 * std::sin(e) * std::cos(a), 110 * std::cos(e));
  }));
  const SeamMesh bowl = skin(104, 1.0);
  const MeetSide upper = side_of(bowl, "bowl", false), lower = side_of(window, "shell", false);
  const auto met = meet(upper, lower, window, {1, MeetHow::edge});
  REQUIRE(met);
  const Mesh middle = middle_of(side_of(met->upper, "bowl", false)), shell = middle_of(lower);
  double worst = 0.0;
  std::size_t on = 0;
  for (const auto& [edge, tilt] : met->upper.rim_tilt)
    for (const int v : {edge.first, edge.second}) {
      double nearest = 1e300;
      for (const auto& loop : border_loops(shell))
        for (std::size_t i = 0; i < loop.size(); ++i)
          nearest = std::min(nearest,
              (middle.vertices[v] -
                  closest_on_stretch(
                      middle.vertices[v], shell.vertices[loop[i]], shell.vertices[loop[(i + 1) % loop.size()]]))
                  .norm());
      worst = std::max(worst, nearest), ++on;
    }
  CHECK(on > 90);
  CHECK(worst < 0.05);
  // All round the window, and nowhere else.
  double round = 1e300;
  for (const auto& loop : border_loops(shell)) {
    double length = 0.0;
    for (std::size_t i = 0; i < loop.size(); ++i)
      length += (shell.vertices[loop[(i + 1) % loop.size()]] - shell.vertices[loop[i]]).norm();
    round = std::min(round, length);
  }
  CHECK(met->line_mm == Approx(round).epsilon(1e-6));
  // Both edges share the angle between them.
  REQUIRE(met->lower);
  CHECK(met->lower->rim_tilt.size() > 40);
}

TEST_CASE("What fills an opening with corners that stand into it keeps its own corners apart") {
  // Much of the bowl's edge is nearest to one tooth of the window's rim or another.
  Random random(12);
  for (int n = 0; n < 12; ++n) {
    const int teeth = 5 + static_cast<int>(random.below(5));
    const double deep = 0.06 + 0.12 * random.uniform(), turned = random.uniform();
    CAPTURE(n, teeth, deep, turned);
    const auto window = seams_of(grid(24, 48, true, [&](double u, double v) {
      const double tooth = std::pow(std::abs(std::cos(kPi * teeth * u)), 6.0), a = kTwoPi * (u + turned),
                   e = 0.6 - deep * tooth * (1.0 - v) + 1.6 * v;
      return Vec3(110 * std::sin(e) * std::sin(a), 110 * std::sin(e) * std::cos(a), 110 * std::cos(e));
    }));
    const SeamMesh bowl = seams_of(grid(40, 90, true, [&](double u, double v) {
      const double a = kTwoPi * u, e = 0.02 + 1.0 * v;
      return Vec3(98 * std::sin(e) * std::sin(a), 98 * std::sin(e) * std::cos(a), 98 * std::cos(e));
    }));
    const auto met = meet(side_of(bowl, "bowl", false), side_of(window, "shell", false), window, {1, MeetHow::edge});
    REQUIRE(met);
    const Mesh middle = middle_of(side_of(met->upper, "bowl", false));
    double least = 1e300;
    for (const auto& loop : border_loops(middle))
      for (std::size_t i = 0; i < loop.size(); ++i)
        least = std::min(least, (middle.vertices[loop[(i + 1) % loop.size()]] - middle.vertices[loop[i]]).norm());
    CHECK(least > 0.01);
    for (const Tri& t : middle.triangles) REQUIRE(area_vector(middle, t).norm() > 1e-6);
  }
}

TEST_CASE("What cannot meet says by how much and why") {
  const SeamMesh lower = dome({100, 120, 110}, 0.0);
  const auto said = [&](const SeamMesh& upper, MeetHow how, double mm = 5.0) {
    const auto met = meet(side_of(upper, "horn", true, mm), side_of(lower, "dome", false), lower, {1, how});
    REQUIRE_FALSE(met);
    return met.error().text;
  };
  CHECK(said(tube({0, 230, 0}, Vec3::UnitY(), 20, 10, 60), MeetHow::sits) ==
      "The horn ends 105 mm above the dome; parts meet within 60 mm. Move it nearer, or make it longer at its foot.");
  CHECK(said(tube({0, 0, 0}, Vec3::UnitY(), 20, 10, 60), MeetHow::sits).starts_with("Nothing of the horn stands out"));
  CHECK(said(tube({0, 110, 0}, Vec3::UnitY(), 20, 10, 60), MeetHow::skin, 8.0) ==
      "The horn is of 8.0 mm and the dome of 5.0 mm; one skin is of one thickness.");
  CHECK(check_meet({1, MeetHow::through, 12.0}).error().text == "A play of 12.0 mm is outside 0 to 10 mm.");
  CHECK(meet_how_from("glued").error().text == "Parts meet as sits, opens, through, edge or skin, not as \"glued\".");
  for (const char* word : {"sits", "opens", "through", "edge", "skin"})
    CHECK(name_of(*meet_how_from(word)) == std::string(word));
}
