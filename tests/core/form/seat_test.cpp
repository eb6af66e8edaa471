#include "core/form/seat.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/chain/questions.hpp"
#include "core/derived/seating.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

/// A closed sphere about `middle`, facing outwards.
Mesh globe(const Vec3& middle, double radius_mm) {
  constexpr int kRound = 48, kUp = 24;
  Mesh mesh;
  for (int i = 0; i <= kUp; ++i)
    for (int k = 0; k < kRound; ++k) {
      const double up = kPi * (static_cast<double>(i) / kUp - 0.5), round = 2.0 * kPi * k / kRound;
      mesh.vertices.push_back(
          middle + radius_mm * Vec3(std::cos(up) * std::sin(round), std::sin(up), std::cos(up) * std::cos(round)));
    }
  const auto at = [](int i, int k) { return i * kRound + k % kRound; };
  for (int i = 0; i < kUp; ++i)
    for (int k = 0; k < kRound; ++k) {
      if (i > 0) mesh.triangles.push_back({at(i, k), at(i, k + 1), at(i + 1, k)});
      if (i + 1 < kUp) mesh.triangles.push_back({at(i, k + 1), at(i + 1, k + 1), at(i + 1, k)});
    }
  return mesh;
}

double off_mm(const Mesh& face, const Vec3& at) { return std::abs(Nearest(face).to(at).signed_mm); }

Part ball_of(double mm) {
  Part ball = part_from_preset("ball").value();
  auto& spec = std::get<BodySpec>(ball.shape);
  spec.sides = BodySides::one, spec.wide_mm = spec.tall_mm = spec.deep_mm = mm, spec.sunk_mm = 0.0;
  return ball;
}

Vec3 middle_of(const Mesh& mesh) {
  const Box box = box_of(mesh.vertices);
  return 0.5 * (box.low + box.high);
}

}  // namespace

TEST_CASE("a spot of a globe is found again, and faces away from its middle", "[form][seat]") {
  const Vec3 middle(0, 40, 260);
  const Mesh host = globe(middle, 60.0);
  const Site site(*test::derived().head, host);
  Random random(11);
  for (int i = 0; i < 60; ++i) {
    const Vec3 way = Vec3(random.normal(), random.normal(), random.normal()).normalized();
    const Seat seat = on_spot(Seat{}, site.box(), middle + 60.0 * way);
    CHECK(seat.by == SeatBy::spot);
    const auto frame = seat_frame(site, seat);
    REQUIRE(frame);
    CHECK((frame->origin - middle - 60.0 * way).norm() < 1.0);
    CHECK(frame->out.dot(way) > std::cos(radians(6.0)));
    CHECK(std::abs(frame->up.dot(frame->out)) < 1e-9);
    CHECK((frame->side - frame->up.cross(frame->out)).norm() < 1e-9);
    CHECK(frame->up.y() > -0.32);  // up as the wearer's, or all but level
  }
}

TEST_CASE(
    "under a globe a seat faces down, on its middle line it lies in the plane, and tips as asked", "[form][seat]") {
  const Vec3 middle(0, 40, 260);
  const Mesh host = globe(middle, 60.0);
  const Site site(*test::derived().head, host);
  Seat seat;
  seat.by = SeatBy::spot, seat.spot_up = 0.0;
  auto frame = seat_frame(site, seat);
  REQUIRE(frame);
  CHECK(frame->origin.y() == Approx(-20.0).margin(0.1));
  CHECK(frame->out.y() < -0.999);
  CHECK(frame->out.x() == 0.0);
  CHECK(frame->up.z() < -0.99);  // level: backwards
  seat.spot_up = 0.5, seat.spot_front = 1.0, seat.gap_mm = 7.0;
  frame = seat_frame(site, seat);
  CHECK((frame->origin - middle - Vec3(0, 0, 67)).norm() < 0.1);
  seat.lean_deg = 30.0;
  CHECK(seat_frame(site, seat)->out.y() == Approx(0.5).margin(0.01));
  seat.spot_across = 0.4;
  CHECK_FALSE(seat.on_right());
  CHECK(across(seat).on_right());
  CHECK(in_middle(seat).spot_across == 0.0);
  const auto left = seat_frame(site, seat), right = seat_frame(site, across(seat));
  CHECK((left->origin - Vec3(-1, 1, 1).cwiseProduct(right->origin)).norm() < 0.5);
}

TEST_CASE("on what lies on one side alone a spot's side is the wearer's, also on its inner half", "[form][seat]") {
  const Vec3 middle(110, 40, 60);
  const Mesh host = globe(middle, 40.0);
  const Site site(*test::derived().head, host);
  for (const Vec3& way : {Vec3(Vec3::UnitY()), Vec3(-0.8, 0.6, 0.0), Vec3(0.8, 0.0, 0.6)}) {
    const Seat seat = on_spot(Seat{}, site.box(), middle + 40.0 * way);
    CHECK_FALSE(seat.on_right());
    CHECK((seat_frame(site, seat)->origin - middle - 40.0 * way).norm() < 1.0);
    // One of a pair there keeps its place: it is not taken for one of the right side.
    SweepSpec horn;
    horn.seat = seat, horn.pair = horn.one_sided = true, horn.strips = 4;
    horn.length_mm = 120, horn.curl_deg = 0, horn.base_wide_mm = horn.base_deep_mm = 30;
    const auto draft = draft_sweep(horn, site);
    REQUIRE(draft);
    double nearest = 1e9;
    for (const Vec3& p : draft->mesh.vertices) nearest = std::min(nearest, (p - middle - 40.0 * way).norm());
    CHECK(nearest < 20.0);
  }
}

TEST_CASE("a ball goes where one points: under a beak, and stays there on other heads", "[form][seat][regrade]") {
  Build build = demo_by_name("heron-warden", Day{20731}).value();
  const Derived before = test::chain()->derive(build);
  const auto beak =
      std::find_if(build.parts.begin(), build.parts.end(), [](const Part& p) { return p.name == "beak"; });
  REQUIRE(beak != build.parts.end());
  const int host = beak->id;
  const Mesh face = outer_face(*before.form->of(host));
  Vec3 lowest = face.vertices.front();  // of the foremost half
  const Box box = box_of(face.vertices);
  for (const Vec3& p : face.vertices)
    if (p.z() > 0.5 * (box.low.z() + box.high.z()) && p.y() < lowest.y()) lowest = p;
  const int id = add_part(build, ball_of(24.0)).value();
  const auto seated = seated_at(*test::chain(), build, before, id, lowest);
  REQUIRE(seated);
  CHECK(seated->on == host);
  *find_part(build, id) = *seated;
  REQUIRE(check_inputs(build));
  for (const double girth : {0.0, 530.0, 610.0}) {
    if (girth > 0.0) build.tape.head[MeasureId::HC].first_mm = girth;
    const Derived d = test::chain()->derive(build);
    REQUIRE(d.form);
    REQUIRE(d.form->of(id) != nullptr);
    const Vec3 middle = middle_of(d.form->shape_of(id)->surface.mesh);
    const double away = off_mm(outer_face(*d.form->shape_of(host)), middle);
    CAPTURE(girth, away);
    CHECK(away > 6.0);
    CHECK(away < 16.0);  // half of its 24 mm, beside a face that is round
    if (girth == 0.0) CHECK((middle - lowest).norm() < 18.0);
  }
}

TEST_CASE("what is pointed at must be the head or a part made before", "[form][seat][bad]") {
  Build build = demo_by_name("heron-warden", Day{20731}).value();
  const Derived derived = test::chain()->derive(build);
  const int id = add_part(build, ball_of(24.0)).value();
  const Part ball = *find_part(build, id);
  const auto far = host_at(ball, build, derived, Vec3(0, 0, 900));
  REQUIRE_FALSE(far);
  CHECK(far.error().text.find("every part made before the ball") != std::string::npos);
  CHECK(host_at(build.parts.front(), build, derived, Vec3::Zero()).error().code == Errc::unknown_name);
  CHECK(host_at(ball, build, Derived{}, Vec3::Zero()).error().code == Errc::empty_input);
  // On the bare head again.
  find_part(build, id)->on = build.parts.front().id;
  const auto on_head = seated_at(*test::chain(), build, derived, id, derived.head->at(Landmark::tragion_l));
  REQUIRE(on_head);
  CHECK(on_head->on == 0);
  CHECK(seated_at(*test::chain(), build, derived, 99, Vec3::Zero()).error().code == Errc::unknown_name);
}

TEST_CASE("both ways of telling a seat are kept in a file, also the one not in use", "[form][seat][io]") {
  for (const SeatBy by : {SeatBy::angles, SeatBy::spot}) {
    Build build = demo_by_name("heron-warden", Day{20731}).value();
    const int id = add_part(build, ball_of(24.0)).value();
    Seat& seat = *seat_of(*find_part(build, id));
    seat.by = by, seat.around_deg = -33.0, seat.up_deg = 12.0;
    seat.spot_across = -0.25, seat.spot_up = 0.125, seat.spot_front = 0.75;
    const auto bytes = build_bytes(build);
    REQUIRE(bytes);
    CHECK(*build_from_bytes(*bytes) == build);
  }
}
