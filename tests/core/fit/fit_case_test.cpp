#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/worn_case.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

/// Known answers: plain bodies whose fit can be worked out by hand. Source: docs/formulas/fit-*.md, "worked by hand".
const FitRules& rules() {
  static const FitRules loaded = *load_fit_rules(data_folder() / "rules");
  return loaded;
}

Mesh ball(double r, const Vec3& middle = Vec3::Zero(), bool inwards = false) {
  constexpr int kRows = 80, kAround = 160;
  Mesh m;
  m.vertices.push_back(middle + Vec3(0, r, 0));
  for (int i = 1; i < kRows; ++i)
    for (int k = 0; k < kAround; ++k) {
      const double a = kPi * i / kRows, b = kTwoPi * k / kAround;
      m.vertices.push_back(middle + r * Vec3(std::sin(a) * std::sin(b), std::cos(a), std::sin(a) * std::cos(b)));
    }
  m.vertices.push_back(middle - Vec3(0, r, 0));
  const int last = static_cast<int>(m.vertices.size()) - 1;
  for (int k = 0; k < kAround; ++k) {
    const int l = (k + 1) % kAround;
    m.triangles.push_back({0, 1 + k, 1 + l});
    for (int i = 0; i < kRows - 2; ++i) {
      const int a = 1 + i * kAround + k, b = 1 + i * kAround + l;
      m.triangles.push_back({a, a + kAround, b + kAround});
      m.triangles.push_back({a, b + kAround, b});
    }
    m.triangles.push_back({last, 1 + (kRows - 2) * kAround + l, 1 + (kRows - 2) * kAround + k});
  }
  if (inwards)
    for (Tri& t : m.triangles) std::swap(t[1], t[2]);
  return m;
}

void put(Mesh& to, const Mesh& more) {
  const int first = static_cast<int>(to.vertices.size());
  to.vertices.insert(to.vertices.end(), more.vertices.begin(), more.vertices.end());
  for (const Tri& t : more.triangles) to.triangles.push_back({t[0] + first, t[1] + first, t[2] + first});
}

/// A square sheet before the face with a hole: round, or a rectangle if `tall` is given.
Mesh front(double z, double hole_x, double wide, double tall = 0.0) {
  constexpr int kAround = 256;
  constexpr double kHalf = 300.0;
  Mesh m;
  for (int ring = 0; ring < 2; ++ring)
    for (int k = 0; k < kAround; ++k) {
      const double a = kTwoPi * k / kAround, c = std::cos(a), s = std::sin(a);
      double r = wide;
      if (ring == 0 && tall > 0.0)
        r = std::min(std::abs(c) > 1e-12 ? wide / std::abs(c) : 1e9, std::abs(s) > 1e-12 ? tall / std::abs(s) : 1e9);
      if (ring == 1) {
        r = 1e9;
        if (std::abs(c) > 1e-12) r = std::min(r, ((c > 0 ? kHalf : -kHalf) - hole_x) / c);
        if (std::abs(s) > 1e-12) r = std::min(r, kHalf / std::abs(s));
      }
      m.vertices.push_back({hole_x + r * c, r * s, z});
    }
  for (int k = 0; k < kAround; ++k) {
    const int l = (k + 1) % kAround;
    m.triangles.push_back({k, kAround + k, kAround + l});
    m.triangles.push_back({k, kAround + l, l});
  }
  for (const double x : {kHalf, -kHalf})
    for (const double y : {kHalf, -kHalf}) {
      const double a = std::fmod(std::atan2(y, x - hole_x) + kTwoPi, kTwoPi);
      const int k = static_cast<int>(a / kTwoPi * kAround) % kAround;
      m.vertices.push_back({x, y, z});
      m.triangles.push_back({kAround + k, static_cast<int>(m.vertices.size()) - 1, kAround + (k + 1) % kAround});
    }
  return m;
}

/// The walls that make a box of such a front.
Mesh behind(double z) {
  Mesh m;
  for (const double at : {z, -300.0})
    for (const auto& [x, y] : {std::pair{300.0, 300.0}, {-300.0, 300.0}, {-300.0, -300.0}, {300.0, -300.0}})
      m.vertices.push_back({x, y, at});
  for (int k = 0; k < 4; ++k) {
    const int l = (k + 1) % 4;
    m.triangles.push_back({k, 4 + k, 4 + l});
    m.triangles.push_back({k, 4 + l, l});
  }
  m.triangles.push_back({4, 5, 6});
  m.triangles.push_back({4, 6, 7});
  return m;
}

/// A band round the upright axis, its radius at each height.
Mesh tube(const std::vector<Vec2>& radius_at) {
  constexpr int kAround = 128;
  Mesh m;
  for (const Vec2& ring : radius_at)
    for (int k = 0; k < kAround; ++k) {
      const double a = kTwoPi * k / kAround;
      m.vertices.push_back({ring.x() * std::sin(a), ring.y(), ring.x() * std::cos(a)});
    }
  for (int i = 0; i + 1 < static_cast<int>(radius_at.size()); ++i)
    for (int k = 0; k < kAround; ++k) {
      const int a = i * kAround + k, b = i * kAround + (k + 1) % kAround;
      m.triangles.push_back({a, b, b + kAround});
      m.triangles.push_back({a, b + kAround, a + kAround});
    }
  return m;
}

/// A case in a folder of its own.
class Bodies {
 public:
  std::string add(const std::string& name, const Mesh& mesh) {
    REQUIRE(write_mesh(folder_ / (name + ".obj"), mesh));
    return "\"" + name + ".obj\"";
  }
  WornCase read(const std::string& json) {
    const auto c = worn_case_in(json, folder_.path());
    if (!c) UNSCOPED_INFO(c.error().text);
    REQUIRE(c);
    return *c;
  }
  Worn worn(const std::string& json) {
    const WornCase c = read(json);
    const auto w = worn_on(*c.head, c.parts, c.question, rules());
    REQUIRE(w);
    return *w;
  }

 private:
  test::TempFolder folder_;
};

const std::string kEyes = "\"landmarks\":{\"pupil_l\":[31,0,80],\"pupil_r\":[-31,0,80]}";

}  // namespace

TEST_CASE("a round hole before an eye leaves its own cone, and a wider one more by its rim", "[fit][sight]") {
  Bodies bodies;
  const auto head = bodies.add("head", ball(60.0));
  Mesh box = front(107.0, 31.0, 15.0);
  put(box, behind(107.0));
  const Worn w =
      bodies.worn("{\"head\":" + head + "," + kEyes + ",\"parts\":[{\"mesh\":" + bodies.add("box", box) + "}]}");
  REQUIRE(w.sight);
  CHECK(w.sight->eyes[0].ahead.unaided_sr == Approx(4.899).epsilon(0.003));
  CHECK(w.sight->eyes[0].ahead.kept_sr == Approx(0.6633).epsilon(0.01));
  CHECK(w.sight->eyes[0].edge_gain_sr_mm == Approx(0.0749).epsilon(0.03));
  // The other eye is the mirror image but for its hole.
  CHECK(w.sight->eyes[1].ahead.unaided_sr == Approx(w.sight->eyes[0].ahead.unaided_sr).epsilon(1e-6));
  // Behind a sheet that lets two fifths through there is two fifths of the light.
  Mesh pane;
  pane.vertices = {{-299, -299, 112}, {299, -299, 112}, {299, 299, 112}, {-299, 299, 112}};
  pane.triangles = {{0, 1, 2}, {0, 2, 3}};
  const Worn dim = bodies.worn("{\"head\":" + head + "," + kEyes +
      ",\"parts\":[{\"mesh\":\"box.obj\"},{\"mesh\":" + bodies.add("pane", pane) + ",\"let_through\":0.4}]}");
  CHECK(dim.sight->eyes[0].ahead.kept_sr == Approx(0.2653).epsilon(0.01));
}

TEST_CASE("two sheets let through what both do: a tunnel is narrower, and aside narrower still", "[fit][sight]") {
  Bodies bodies;
  const auto head = bodies.add("head", ball(60.0));
  for (const auto& [x, sr] : {std::pair{31.0, 0.2122}, {41.0, 0.1751}}) {
    Mesh box = front(107.0, x, 8.0);
    put(box, behind(107.0));
    put(box, front(97.0, x, 8.0));
    const Worn w =
        bodies.worn("{\"head\":" + head + "," + kEyes + ",\"parts\":[{\"mesh\":" + bodies.add("box", box) + "}]}");
    CHECK(w.sight->eyes[0].ahead.kept_sr == Approx(sr).epsilon(0.015));
  }
}

TEST_CASE("the nearest floor follows from the window's lower edge and the height of the eyes", "[fit][sight]") {
  Bodies bodies;
  const auto head = bodies.add("head", ball(60.0));
  Mesh box = front(117.0, 0.0, 60.0, 20.0);
  put(box, behind(117.0));
  const Worn w = bodies.worn("{\"head\":" + head + "," + kEyes +
      ",\"eye_height_mm\":1550,\"parts\":[{\"mesh\":" + bodies.add("box", box) + "}]}");
  REQUIRE(w.sight->floor_level_m);
  CHECK(*w.sight->floor_level_m == Approx(3.10).margin(0.13));
  CHECK(*w.sight->floor_nod_m == Approx(1.47).margin(0.05));
  CHECK(w.sight->windows.empty());
}

TEST_CASE("a ring smaller than the head lacks the difference of the girths, a larger one passes", "[fit][on]") {
  Bodies bodies;
  const auto head = bodies.add("head", ball(80.0));
  const auto with = [&](double radius) {
    return bodies.worn("{\"head\":" + head + ",\"axis\":\"down\",\"parts\":[{\"mesh\":" +
        bodies.add("ring", tube({{radius, -10}, {radius, 0}, {radius, 10}})) + "}]}");
  };
  const Worn tight = with(75.0), wide = with(85.0);
  REQUIRE(tight.tightest() != nullptr);
  CHECK(tight.tightest()->stretch == Approx(0.0667).margin(0.002));
  CHECK(tight.tightest()->short_mm == Approx(31.4).margin(0.5));
  CHECK_FALSE(tight.tightest()->passes);
  CHECK(tight.tightest()->slit_mm >= 20.0);
  CHECK(wide.tightest()->passes);
}

TEST_CASE("a stiff cone and a stiff box stop where they touch", "[fit][on]") {
  Bodies bodies;
  const auto head = bodies.add("head", ball(80.0));
  std::vector<Vec2> cone;
  for (int i = 0; i <= 60; ++i) cone.push_back({200.0 * i / 60 * std::tan(radians(30.0)) + 1e-3, -200.0 * i / 60});
  const auto stops = [&](const Mesh& mesh) {
    return bodies
        .worn("{\"head\":" + head +
            ",\"axis\":\"down\",\"parts\":[{\"stiff\":true,\"mesh\":" + bodies.add("stiff", mesh) + "}]}")
        .tightest()
        ->stops_short_mm;
  };
  CHECK(stops(tube(cone)) == Approx(160.0).margin(1.0));
  Mesh box;
  for (const double y : {0.0, 200.0})
    for (const auto& [x, z] : {std::pair{75.0, 75.0}, {-75.0, 75.0}, {-75.0, -75.0}, {75.0, -75.0}})
      box.vertices.push_back({x, y, z});
  for (int k = 0; k < 4; ++k) {
    const int l = (k + 1) % 4;
    box.triangles.push_back({k, 4 + k, 4 + l});
    box.triangles.push_back({k, 4 + l, l});
  }
  box.triangles.push_back({4, 5, 6});
  box.triangles.push_back({4, 6, 7});
  CHECK(stops(box) == Approx(27.8).margin(0.5));
}

TEST_CASE("a ball in a ball touches where a cap of it is nearer than the layers", "[fit][room]") {
  Bodies bodies;
  Mesh shell = ball(95.0, {0, 0, 13}, true);
  put(shell, ball(100.0, {0, 0, 13}));
  const Worn w = bodies.worn("{\"head\":" + bodies.add("head", ball(80.0)) +
      ",\"layers_mm\":4,\"parts\":[{\"mesh\":" + bodies.add("shell", shell) + "}]}");
  REQUIRE(w.clearance.size() == 1);
  CHECK(w.clearance.front().least_mm == Approx(-2.0).margin(0.02));
  REQUIRE(w.clearance.front().contacts.size() == 1);
  CHECK(w.clearance.front().contacts.front().area_mm2 == Approx(11500.0).epsilon(0.02));
}

TEST_CASE("a box of foam and a battery weigh and pull as they must, and a weight behind mends it", "[fit][balance]") {
  Bodies bodies;
  Mesh box;
  const auto ring = [&](double half, double y) {
    for (const auto& [x, z] : {std::pair{half, half}, {-half, half}, {-half, -half}, {half, -half}})
      box.vertices.push_back({x, y, 15 + z});
  };
  ring(100, -100), ring(100, 100), ring(95, -100), ring(95, 95);
  for (int k = 0; k < 4; ++k) {
    const int l = (k + 1) % 4;
    for (const Tri& t : {Tri{k, 4 + l, 4 + k}, Tri{k, l, 4 + l}, Tri{8 + k, 12 + k, 12 + l}, Tri{8 + k, 12 + l, 8 + l},
             Tri{k, 8 + k, 8 + l}, Tri{k, 8 + l, l}})
      box.triangles.push_back(t);
  }
  for (const Tri& t : {Tri{4, 5, 6}, Tri{4, 6, 7}, Tri{12, 14, 13}, Tri{12, 15, 14}}) box.triangles.push_back(t);
  const WornCase c = bodies.read("{\"head\":" + bodies.add("head", ball(80.0)) +
      ",\"fittings\":[{\"mass_g\":150,\"at\":[0,0,130]}],\"weight_at\":-120,\"target_nm\":0.1,\"parts\":[{\"mesh\":" +
      bodies.add("box", box) + ",\"density_kg_m3\":100}]}");
  REQUIRE(c.parts.front().closed);
  CHECK(c.parts.front().mass_g == Approx(96.05).margin(0.02));
  const Balance b = balance_of(*c.head, c.parts, c.question.loads, rules(), false);
  CHECK(b.forward_nm == Approx(0.2296).margin(0.0003));
  CHECK(*counterweight_g(*c.head, b.forward_nm, *c.target_nm, *c.weight_at_mm) == Approx(120.1).margin(0.2));
  CHECK(counterweight_z_mm(*c.head, b.forward_nm, 0.1, 120.07) == Approx(-120.0).margin(0.5));
  CHECK_FALSE(counterweight_g(*c.head, b.forward_nm, 0.1, 40.0));
}

TEST_CASE("magnets pull as discs do, not as dipoles, and cord is as long as its way", "[fit][hold]") {
  const auto pull = [](const char* one, const char* other, double gap) {
    return magnet_pull_n(*magnet_from(one), *magnet_from(other), gap);
  };
  CHECK(pull("10 x 3 N42", "10 x 3 N42", 3.0) == Approx(5.432).epsilon(1e-3));
  CHECK(magnet_on_steel_n(*magnet_from("10 x 3 N42"), 3.0) == Approx(2.085).epsilon(1e-3));
  CHECK(pull("12 x 3 N42", "8 x 3 N42", 2.0) == Approx(5.723).epsilon(1e-3));
  // Worked out by summed charge sheets for pairs of one size.
  const std::pair<const char*, std::array<double, 5>> kPairs[] = {{"8 x 3 N42", {8.63, 5.29, 3.46, 1.63, 0.63}},
      {"10 x 3 N42", {12.2, 7.90, 5.43, 2.81, 1.20}}, {"12 x 3 N42", {15.8, 10.6, 7.57, 4.19, 1.94}},
      {"15 x 5 N42", {35.9, 26.2, 19.9, 12.3, 6.50}}, {"20 x 3 N42", {30.3, 21.7, 16.6, 10.5, 5.96}}};
  constexpr double kGaps[] = {1, 2, 3, 5, 8};
  for (const auto& [magnet, newtons] : kPairs)
    for (int i = 0; i < 5; ++i) CHECK(pull(magnet, magnet, kGaps[i]) == Approx(newtons[i]).epsilon(0.01));
  CHECK(cord_mm({LacingWay::crossed, 6, 20, 15, 200}) == Approx(665.0));
  CHECK(cord_mm({LacingWay::straight, 6, 20, 15, 200}) == Approx(690.0));
  // A ram's horn of 45 g: two of 10 x 3 hold it across up to 5 mm.
  const double needed = needed_n({45.0, 106.0, 34.0}, rules());
  CHECK(needed == Approx(4.4).margin(0.1));
  const auto gap = gap_allowed_mm(*magnet_from("10 x 3 N42"), *magnet_from("10 x 3 N42"), 2, needed, rules());
  REQUIRE(gap);
  CHECK(*gap == Approx(5.0).margin(0.3));
  CHECK_FALSE(magnet_from("10 x 3 N99"));
  CHECK_FALSE(magnet_from("ten"));
}

TEST_CASE("a chin piece stops the nod where it meets the chest", "[fit][turning]") {
  Bodies bodies;
  Mesh chin;
  chin.vertices = {{0, -120, 150}, {40, -60, 120}, {-40, -60, 120}};
  chin.triangles = {{0, 1, 2}};
  const Worn w = bodies.worn("{\"head\":" + bodies.add("head", ball(80.0)) +
      ",\"body_plane_y\":-170,\"parts\":[{\"mesh\":" + bodies.add("chin", chin) + "}]}");
  REQUIRE(w.turning);
  CHECK(w.turning->nod_deg == Approx(19.0).margin(1.0));
}

TEST_CASE("the rules of fit in the program are those of its data", "[fit][rules]") {
  const auto loaded = load_fit_rules(data_folder() / "rules");
  REQUIRE(loaded);
  CHECK(*loaded == FitRules{});
  CHECK_FALSE(load_fit_rules("/nowhere"));
}

TEST_CASE("a case that is none is refused by its place", "[fit][hostile]") {
  Bodies bodies;
  const auto head = bodies.add("head", ball(60.0));
  const auto refused = [&](const std::string& json) {
    const auto c = worn_case_in(json, "/");
    REQUIRE_FALSE(c);
    CHECK(c.error().text.size() < 400);
    return c.error().text;
  };
  CHECK(refused("{\"head\":\"nowhere.obj\"}").find("nowhere.obj") != std::string::npos);
  CHECK(refused("{\"landmarks\":{\"third eye\":[0,0,0]}}").find("no place of a head") != std::string::npos);
  CHECK_FALSE(refused("{\"hold\":[{\"kind\":\"glue\"}]}").empty());
  CHECK_FALSE(refused("{\"hold\":[{\"kind\":\"magnets\",\"r1_mm\":-5}]}").empty());
  CHECK_FALSE(refused("[1,2").empty());
}
