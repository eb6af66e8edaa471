// Curves a person would draw on plain meshes, with known answers: how many disks there are afterwards.
#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "core/seam/draw_cut.hpp"
#include "core/seam/panels.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

constexpr int kCases = 260;  // on each of eight meshes
constexpr double kShakeMm = 1.0, kNearMm = 1.9;

struct Drawn {
  std::vector<CutLine> cuts;
  int disks = 1;
  std::string kind;
};

/// Draws on one mesh as a hand does: through vertices and along edges as often as between them.
class Hand {
 public:
  Hand(const Mesh& mesh, std::uint64_t seed) : mesh_(mesh), near_(mesh), loops_(border_loops(mesh)), random_(seed) {}

  Vec3 on(const Vec3& p) const { return near_.to(p).point; }
  bool one_in(int n) { return random_.next() % static_cast<std::uint64_t>(n) == 0; }
  double uniform(double a, double b) { return random_.uniform(a, b); }
  int up_to(int n) { return 1 + static_cast<int>(random_.next() % static_cast<std::uint64_t>(n)); }
  /// Half of them along the grid.
  double angle() { return one_in(2) ? kTwoPi * static_cast<double>(random_.next() % 32) / 32.0 : uniform(0.0, kTwoPi); }
  Vec3 direction() {
    return one_in(4) ? Vec3(Vec3::Unit(static_cast<int>(random_.next() % 3)))
                     : Vec3(Vec3(random_.normal(), random_.normal(), random_.normal()).normalized());
  }

  /// Round in the plane at `off` along a normal.
  CutLine round(const Vec3& normal, double off, double radius) {
    const Vec3 n = normal.normalized(), a = n.unitOrthogonal(), b = n.cross(a);
    const int steps = 11 + up_to(30);
    const double from = uniform(0.0, kTwoPi);
    CutLine line;
    for (int i = 0; i <= steps; ++i) {
      const double t = from + kTwoPi * (i % steps) / steps;
      line.push_back(on(off * n + radius * (std::cos(t) * a + std::sin(t) * b)));
    }
    return line;
  }

  /// A place of the rim nearest to one asked for, now and then missed by up to 2 mm, inwards or outwards.
  Vec3 rim(const Vec3& wanted) {
    Vec3 best = wanted;
    double nearest = 1e300;
    for (const auto& loop : loops_)
      for (std::size_t i = 0; i < loop.size(); ++i) {
        const Vec3 p = closest_on_stretch(wanted, mesh_.vertices[loop[i]], mesh_.vertices[loop[(i + 1) % loop.size()]]);
        if ((p - wanted).norm() < nearest) nearest = (p - wanted).norm(), best = p;
      }
    const Vec3 in = Vec3(0.0, best.y() < 0.0 ? 1.0 : best.y() > 1.0 ? -1.0 : 1.0, 0.0);
    if (one_in(4)) return on(best + uniform(0.0, kNearMm) * in);
    if (one_in(4)) return best - uniform(0.0, kNearMm) * in;
    return best;
  }

  /// Every place a millimetre off; what was closed is so in half of them.
  void shake(Drawn& drawn) {
    if (!one_in(3)) return;
    drawn.kind += ", shaken";
    for (CutLine& line : drawn.cuts) {
      const bool closed = (line.front() - line.back()).norm() < 1e-9;
      for (Vec3& p : line)
        p += uniform(0.0, kShakeMm) * Vec3(random_.normal(), random_.normal(), random_.normal()).normalized();
      if (closed && one_in(2)) line.back() = line.front();
    }
  }

 private:
  const Mesh& mesh_;
  Nearest near_;
  std::vector<std::vector<int>> loops_;
  Random random_;
};

/// One, two or three great circles across each other.
Drawn on_ball(Hand& hand) {
  const Vec3 first = hand.direction();
  const int count = hand.up_to(3);
  if (count == 1 && hand.one_in(2)) return {{hand.round(first, hand.uniform(-70.0, 70.0), 90.0)}, 2, "a small circle"};
  Drawn drawn{{hand.round(first, 0.0, 110.0)}, 2, "great circles"};
  if (count == 1) return drawn;
  Vec3 second = hand.direction();
  while (std::abs(second.dot(first)) > 0.8) second = hand.direction();
  drawn.cuts.push_back(hand.round(second, 0.0, 110.0)), drawn.disks = 4;
  if (count == 3) drawn.cuts.push_back(hand.round(first.cross(second), 0.0, 110.0)), drawn.disks = 8;
  return drawn;
}

/// From rim to rim, over the top or beside it; or a slit up to the top.
Drawn on_cap(Hand& hand, double radius, double foot, const Vec3& top) {
  const auto rim_at = [&](double a) { return Vec3(radius * std::cos(a), foot, radius * std::sin(a)); };
  const auto over = [&](double from, double to, double share) {
    CutLine line{hand.rim(rim_at(from))};
    const Vec3 p = rim_at(from), q = rim_at(to);
    const int steps = 1 + hand.up_to(9);
    for (int i = 1; i < steps; ++i) {
      const double t = static_cast<double>(i) / steps;
      line.push_back(hand.on((1.0 - t) * p + t * q + Vec3(0.0, share * (top.y() - foot) * 4.0 * t * (1.0 - t), 0.0)));
    }
    line.push_back(hand.rim(q));
    return line;
  };
  const double a = hand.angle();
  switch (hand.up_to(4)) {
    case 1:
      return {{over(a, a + kPi, 1.0)}, 2, "over the top"};
    case 2: {
      Drawn drawn{{over(a, a + kPi, 1.0), over(a + 0.5 * kPi, a + 1.5 * kPi, 1.0)}, 4, "twice over the top"};
      for (CutLine& line : drawn.cuts) line[line.size() / 2] = top;
      return drawn;
    }
    case 3: {
      CutLine line{hand.rim(rim_at(a))};
      const int steps = hand.up_to(5);
      for (int i = 1; i <= steps; ++i)
        line.push_back(
            hand.on((1.0 - static_cast<double>(i) / steps) * rim_at(a) + (static_cast<double>(i) / steps) * top));
      return {{line}, 1, "a slit to the top"};
    }
    default:
      return {{over(a, a + 1.4 + hand.uniform(0.0, 0.8), 0.45)}, 2, "beside the top"};
  }
}

Drawn on_tube(Hand& hand, double radius, double height) {
  Drawn drawn{{}, hand.up_to(3), "up the tube"};
  const double a = hand.angle();
  for (int c = 0; c < drawn.disks; ++c) {
    const double at = a + kTwoPi * c / drawn.disks;
    const int steps = 1 + hand.up_to(8);
    const auto place = [&](double angle, double y) {
      return Vec3(radius * std::cos(angle), y, radius * std::sin(angle));
    };
    CutLine line{hand.rim(place(at, -0.5 * height))};
    for (int i = 1; i < steps; ++i)
      line.push_back(hand.on(place(at + hand.uniform(-0.15, 0.15), height * (static_cast<double>(i) / steps - 0.5))));
    line.push_back(hand.rim(place(at, 0.5 * height)));
    drawn.cuts.push_back(line);
  }
  if (!hand.one_in(2)) return drawn;
  drawn.cuts.push_back(
      hand.round(Vec3(hand.uniform(-0.2, 0.2), 1.0, hand.uniform(-0.2, 0.2)), hand.uniform(-30.0, 30.0), radius + 2.0));
  drawn.disks *= 2, drawn.kind += " and round it";
  return drawn;
}

Drawn on_ring(Hand& hand, double ring, double tube) {
  const auto curve = [&](bool across, double at) {
    const int steps = 12 + hand.up_to(30);
    const double from = hand.uniform(0.0, kTwoPi);
    CutLine line;
    for (int i = 0; i <= steps; ++i) {
      const double t = from + kTwoPi * (i % steps) / steps;
      line.push_back(hand.on(across ? test::on_torus(ring, tube, at, t) : test::on_torus(ring, tube, t, at)));
    }
    return line;
  };
  const int across = hand.up_to(2), along = hand.up_to(2);
  const double u = hand.angle(), v = hand.angle();
  Drawn drawn{{}, across * along, "across and along the ring"};
  for (int i = 0; i < across; ++i) drawn.cuts.push_back(curve(true, u + kTwoPi * i / across));
  for (int i = 0; i < along; ++i) drawn.cuts.push_back(curve(false, v + kTwoPi * i / along));
  return drawn;
}

Drawn on_box(Hand& hand) {
  if (hand.one_in(3)) return {{hand.round(hand.direction(), 0.0, 120.0)}, 2, "a tilted plane"};
  const int count = hand.up_to(3), first = hand.up_to(3);
  Drawn drawn{{}, 1 << count, "level and upright planes"};
  for (int c = 0; c < count; ++c) drawn.cuts.push_back(hand.round(Vec3::Unit((first + c) % 3), 0.0, 120.0));
  return drawn;
}

/// What is wrong with the panels of a cut; empty if nothing is.
std::string fault_of(const Mesh& mesh, const Drawn& drawn) {
  const auto cut = draw_cuts(mesh, drawn.cuts);
  if (!cut) return cut.error().text;
  PanelOptions rough;
  rough.thickness_mm = 0.0, rough.match_seams = false, rough.flatten.minimax = false, rough.flatten.rigid_rounds = 1;
  const auto set = make_panels(*cut, rough);
  if (!set) return set.error().text;
  if (static_cast<int>(set->panels.size()) != drawn.disks)
    return std::to_string(set->panels.size()) + " panels, not " + std::to_string(drawn.disks);
  double area = 0.0;
  for (const Panel& p : set->panels) area += area_mm2(p.solid);
  return std::abs(area - area_mm2(mesh)) < 0.02 * area ? std::string() : "the surface changed its area";
}

void check_all(const char* name, const Mesh& mesh, std::uint64_t seed, const std::function<Drawn(Hand&)>& draw) {
  Hand hand(mesh, seed);
  for (int i = 0; i < kCases; ++i) {
    Drawn drawn = draw(hand);
    hand.shake(drawn);
    const std::string fault = fault_of(mesh, drawn);
    CAPTURE(name, i, drawn.kind, fault);
    REQUIRE(fault.empty());
  }
}

}  // namespace

TEST_CASE("lines a person would draw cut plain meshes into the disks they should", "[seam][cut][property]") {
  SECTION("a ball as a grid") { check_all("ball", test::grid_sphere(100.0), 1, on_ball); }
  SECTION("a ball of even triangles") { check_all("icosphere", test::icosphere(100.0, 3), 2, on_ball); }
  SECTION("half a ball as a grid") {
    check_all("half", test::grid_hemisphere(100.0), 3, [](Hand& h) { return on_cap(h, 100.0, 0.0, Vec3(0, 100, 0)); });
  }
  SECTION("half a ball with a jagged rim") {
    check_all("jagged", test::upper_half(test::icosphere(100.0, 3)), 4,
        [](Hand& h) { return on_cap(h, 100.0, 0.0, Vec3(0, 100, 0)); });
  }
  SECTION("a cone") {
    check_all("cone", test::cone(80.0, 160.0), 5, [](Hand& h) { return on_cap(h, 80.0, -80.0, Vec3(0, 80, 0)); });
  }
  SECTION("a tube") {
    check_all("tube", test::cylinder(80.0, 160.0), 6, [](Hand& h) { return on_tube(h, 80.0, 160.0); });
  }
  SECTION("a ring") {
    check_all("ring", test::torus(100.0, 35.0), 7, [](Hand& h) { return on_ring(h, 100.0, 35.0); });
  }
  SECTION("a box") { check_all("box", test::box(120.0), 8, on_box); }
}

TEST_CASE("what cannot lie flat is refused with the truth about it", "[seam][cut]") {
  const auto says = [](const Mesh& mesh, const std::vector<CutLine>& cuts, const char* words) {
    const auto cut = draw_cuts(mesh, cuts);
    const auto set = cut ? make_panels(*cut, {.thickness_mm = 0.0}) : Result<PanelSet>(fail(cut));
    REQUIRE_FALSE(set);
    CAPTURE(set.error().text);
    CHECK(set.error().text.find(words) != std::string::npos);
  };
  says(test::cylinder(80.0, 160.0), {}, "2 borders");
  says(test::grid_sphere(100.0), {}, "closed all round");
  Hand hand(test::torus(100.0, 35.0), 3);
  says(test::torus(100.0, 35.0), {hand.round(Vec3::UnitY(), 0.0, 140.0)}, "2 borders");
  says(test::grid_sphere(100.0), {{Vec3(0, 100, 0)}}, "fewer than two points");
}
