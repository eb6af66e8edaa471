#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/form/import.hpp"
#include "core/form/limb.hpp"
#include "core/form/plate.hpp"
#include "core/form/rings.hpp"
#include "core/form/sweep.hpp"
#include "core/form/under_tape.hpp"
#include "core/seam/strain.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

const Headform& head() { return *test::derived().head; }
const Site& bare() {
  static const Site site(head());
  return site;
}

SweepSpec straight(double length, double base) {
  SweepSpec s;
  s.seat.up_deg = 60.0, s.seat.around_deg = 70.0;
  s.length_mm = length, s.curl_deg = 0.0, s.base_wide_mm = s.base_deep_mm = base, s.tip_share = 0.0, s.taper = 1.0;
  s.base = BaseCut::by_lean, s.strips = 2;
  return s;
}

double length_of(const std::vector<Vec3>& line) {
  double sum = 0.0;
  for (std::size_t i = 1; i < line.size(); ++i) sum += (line[i] - line[i - 1]).norm();
  return sum;
}

}  // namespace

TEST_CASE(
    "a seat's axes stand square on each other and out of the head, the same on both sides", "[form][seat][property]") {
  Random random(3);
  for (int i = 0; i < 60; ++i) {
    Seat seat{.around_deg = random.uniform(5.0, 170.0), .up_deg = random.uniform(-20.0, 85.0),
        .spin_deg = random.uniform(-60, 60), .lean_deg = random.uniform(-30, 30), .splay_deg = random.uniform(-30, 30),
        .gap_mm = random.uniform(0, 6)};
    const auto frame = seat_frame(bare(), seat);
    REQUIRE(frame);
    for (const Vec3* axis : {&frame->out, &frame->up, &frame->side}) REQUIRE(axis->norm() == Approx(1.0));
    REQUIRE(std::abs(frame->out.dot(frame->up)) < 1e-9);
    REQUIRE(std::abs(frame->out.dot(frame->side)) < 1e-9);
    REQUIRE(frame->up.cross(frame->out).dot(frame->side) == Approx(1.0));
    REQUIRE((frame->at(3, 4, 12) - frame->origin).norm() == Approx(13.0));
    // Upright on its base it looks away from the middle of the head.
    seat.lean_deg = seat.splay_deg = 0.0;
    REQUIRE(seat_frame(bare(), seat)->out.dot(frame->origin - bare().middle()) > 0.0);
    // Off the surface by the gap.
    Seat higher = seat;
    higher.gap_mm += 10.0;
    REQUIRE(
        (seat_frame(bare(), higher)->origin - seat_frame(bare(), seat)->origin).norm() == Approx(10.0).margin(1e-6));
  }
}

TEST_CASE("the host is below what sits on it", "[form][seat]") {
  const Vec3 top = head().at(Landmark::vertex);
  CHECK(bare().above(top + Vec3(0, 25, 0)) == Approx(25.0).margin(0.5));
  CHECK(bare().above(top - Vec3(0, 25, 0)) < 0.0);
  const auto crown = bare().outermost(Vec3::UnitY());
  REQUIRE(crown);
  CHECK(crown->y() == Approx(top.y()).margin(4.0));
  CHECK_FALSE(bare().section({bare().middle(), Vec3::UnitY()}).empty());
}

TEST_CASE("a straight sweep is a cone with its slant and its base", "[form][sweep]") {
  const double length = GENERATE(120.0, 240.0), base = GENERATE(40.0, 70.0);
  SweepSpec spec = straight(length, base);
  const auto draft = draft_sweep(spec, bare());
  REQUIRE(draft);
  CHECK(draft->outside);
  REQUIRE(draft->mirrored);
  const double slant = std::hypot(length, 0.5 * base);
  CHECK(area_mm2(draft->mesh) == Approx(kPi * 0.5 * base * slant).epsilon(0.05));
  const auto loops = border_loops(draft->mesh);
  REQUIRE(loops.size() == 1);
  double round = 0.0;
  for (std::size_t i = 0; i < loops[0].size(); ++i)
    round += (draft->mesh.vertices[loops[0][(i + 1) % loops[0].size()]] - draft->mesh.vertices[loops[0][i]]).norm();
  CHECK(round == Approx(kPi * base).epsilon(0.03));
}

TEST_CASE("a spine is as long as asked however it bends, and turns by its curl", "[form][sweep][property]") {
  SweepSpec spec = straight(260.0, 30.0);
  spec.curl_deg = GENERATE(0.0, 90.0, 250.0), spec.rise_deg = GENERATE(0.0, 40.0),
  spec.tighten = GENERATE(-0.5, 0.0, 0.6);
  const auto frame = seat_frame(bare(), spec.seat);
  REQUIRE(frame);
  const auto spine = spine_of(spec, *frame);
  CHECK(length_of(spine) == Approx(spec.length_mm).epsilon(0.005));
  CHECK((spine.front() - frame->origin).norm() < 1e-6);
  if (spec.rise_deg != 0.0) return;
  double turn = 0.0;
  for (std::size_t i = 2; i < spine.size(); ++i) {
    const Vec3 a = spine[i - 1] - spine[i - 2], b = spine[i] - spine[i - 1];
    turn += std::atan2(a.cross(b).norm(), a.dot(b));
  }
  const double stretches = static_cast<double>(spine.size() - 1);  // half a bend at either end lies within a stretch
  CHECK(degrees(turn) * stretches / (stretches - 1.0) == Approx(spec.curl_deg).margin(0.02 * spec.curl_deg + 0.5));
}

TEST_CASE("a sweep thicker than its bend is refused with a way that works", "[form][sweep]") {
  SweepSpec spec = straight(160.0, 110.0);
  spec.curl_deg = 340.0;
  const auto refused = draft_sweep(spec, bare());
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::degenerate_shape);
  CHECK(refused.error().text.find("mm") != std::string::npos);
}

TEST_CASE("a tongue curls by the surplus of its longer layer", "[form][sweep]") {
  TongueSpec tongue;
  const double r = curl_radius_mm(tongue), mid = 0.5 * (tongue.thick_mm + tongue.thin_mm);
  CHECK((r + mid) / r == Approx((tongue.length_mm + tongue.longer_mm) / tongue.length_mm));
  tongue.longer_mm *= 2.0;
  CHECK(curl_radius_mm(tongue) == Approx(0.5 * r));
  const auto draft = draft_tongue(tongue, bare());
  REQUIRE(draft);
  CHECK(border_loops(draft->mesh).size() >= 1);
}

TEST_CASE("a band runs between the head's own ovals at both heights, grown by the ease", "[form][rings]") {
  RingsSpec spec;
  spec.ease_mm = 8.0;
  spec.rings = {{RingFrom::hat_line, 0.0, 0.0}, {RingFrom::last_ring, 60.0, 0.0}};
  spec.bands = {{}};
  const auto draft = draft_rings(spec, bare());
  REQUIRE(draft);
  REQUIRE(draft->mirrored);
  CHECK_FALSE(draft->outside);
  const auto half_girth = [&](double at) {
    double sum = 0.0;
    for (const auto& loop : border_loops(draft->mesh))
      for (std::size_t i = 0; i < loop.size(); ++i) {
        const Vec3 &a = draft->mesh.vertices[loop[i]], &b = draft->mesh.vertices[loop[(i + 1) % loop.size()]];
        if (std::abs(a.y() - at) < 1e-6 && std::abs(b.y() - at) < 1e-6 &&
            (std::abs(a.x()) > 1e-6 || std::abs(b.x()) > 1e-6))
          sum += (b - a).norm();
      }
    return sum;
  };
  const Box box = box_of(draft->mesh.vertices);
  CHECK(box.size().y() == Approx(60.0).margin(1e-6));
  const double low = half_girth(box.low.y()), high = half_girth(box.high.y());
  CHECK(2.0 * high == Approx(oval_over(head(), box.high.y()).girth_mm() + kTwoPi * 8.0).epsilon(2e-3));
  CHECK(2.0 * low == Approx(draft->lower_girth_mm).epsilon(2e-3));
  // Nearly a cone's: the mean girth times the slant.
  const double slant = std::hypot(60.0, (low - high) / kPi);
  CHECK(area_mm2(draft->mesh) > 60.0 * 0.5 * (low + high));
  CHECK(area_mm2(draft->mesh) == Approx(slant * 0.5 * (low + high)).epsilon(0.02));
  // Round the head plus the ease, and not much more: a tape lies on hollows, an oval does not dip into them.
  CHECK(draft->lower_girth_mm > head().reading(MeasureId::HC).reads_mm + kTwoPi * 8.0 - 6.0);
  CHECK(draft->lower_girth_mm < head().reading(MeasureId::HC).reads_mm + kTwoPi * 8.0 + 30.0);
}

TEST_CASE("growing a ring by g makes it 2 pi g longer round", "[form][rings][property]") {
  RingsSpec spec;
  spec.rings = {{RingFrom::hat_line, 0.0, 0.0}, {RingFrom::last_ring, 40.0, 0.0}};
  spec.bands = {{}};
  const double before = draft_rings(spec, bare())->lower_girth_mm;
  for (const double g : {3.0, 10.0, 25.0}) {
    spec.rings[0].grow_mm = g;
    CHECK(draft_rings(spec, bare())->lower_girth_mm == Approx(before + kTwoPi * g).margin(0.3));
  }
}

TEST_CASE("an oval over the head lets everything above it pass", "[form][rings][property]") {
  const double brow = head().at(Landmark::glabella).y();
  double last = 1e9;
  for (const double up : {-10.0, 10.0, 30.0, 50.0}) {
    const Oval oval = oval_over(head(), brow + up);
    for (const Vec3& p : head().mesh.vertices) {
      if (p.y() < brow + up) continue;
      for (int k = 0; k < 24; ++k) {
        const double a = kPi * k / 23.0;
        REQUIRE(std::abs(p.x()) * std::sin(a) + p.z() * std::cos(a) < oval.support(a) + 1.5);
      }
    }
    CHECK(oval.girth_mm() <= last + 0.1);
    last = oval.girth_mm();
  }
}

TEST_CASE("an arm guard is a cone of the arm's own girths", "[form][limb]") {
  LimbSpec spec;
  const LimbMeasures arm{170.0, 270.0, 205.0};
  const auto draft = draft_limb(spec, arm, head());
  REQUIRE(draft);
  std::vector<double> rounds;
  for (const auto& loop : border_loops(draft->mesh)) {
    double sum = 0.0;
    for (std::size_t i = 0; i < loop.size(); ++i)
      sum += (draft->mesh.vertices[loop[(i + 1) % loop.size()]] - draft->mesh.vertices[loop[i]]).norm();
    rounds.push_back(sum);
  }
  std::sort(rounds.begin(), rounds.end());
  REQUIRE(rounds.size() == 2);
  CHECK(rounds[0] == Approx(170.0 + kTwoPi * spec.ease_mm).epsilon(2e-3));
  CHECK(rounds[1] == Approx(270.0 + kTwoPi * (spec.ease_mm + spec.flare_mm)).epsilon(2e-3));
  CHECK(draft->seam_names.size() == 1);
  CHECK(std::none_of(
      draft->remarks.begin(), draft->remarks.end(), [](const Remark& r) { return r.id == "form.slip-on"; }));
  // A hand too wide for the wrist end is told, with both girths; a gap to lace lets it through.
  const LimbMeasures fist{170.0, 270.0, 290.0};
  const auto tight = draft_limb(spec, fist, head());
  REQUIRE(tight);
  const auto told = std::find_if(
      tight->remarks.begin(), tight->remarks.end(), [](const Remark& r) { return r.id == "form.slip-on"; });
  REQUIRE(told != tight->remarks.end());
  CHECK(told->limit == 290.0);
  spec.overlap_mm = -64.0;
  const auto laced = draft_limb(spec, fist, head());
  REQUIRE(laced);
  CHECK(laced->seam_names.empty());
  CHECK(std::none_of(
      laced->remarks.begin(), laced->remarks.end(), [](const Remark& r) { return r.id == "form.slip-on"; }));
  spec.length_mm = 900.0;
  CHECK(draft_limb(spec, arm, head()).error().text.find("900") != std::string::npos);
}

TEST_CASE("an unmeasured arm is estimated, and says so", "[form][limb]") {
  const auto draft = draft_limb({}, {}, head());
  REQUIRE(draft);
  CHECK(std::any_of(
      draft->remarks.begin(), draft->remarks.end(), [](const Remark& r) { return r.id == "form.limb-measures"; }));
}

TEST_CASE("a plate bent round keeps its lengths", "[form][plate][property]") {
  Part part = *part_from_preset("emblem");
  PlateSpec spec = std::get<PlateSpec>(part.shape);
  spec.bend = GENERATE(Bend::flat, Bend::round, Bend::cone);
  const auto draft = draft_plate(spec, bare(), {});
  REQUIRE(draft);
  REQUIRE(draft->flat.size() == draft->mesh.vertices.size());
  const Strain strain = summarise(draft->mesh, draft->flat);
  CAPTURE(static_cast<int>(spec.bend));
  CHECK(strain.max < 0.01);
}

TEST_CASE("an outline that crosses itself is refused with the place", "[form][plate]") {
  PlateSpec spec = std::get<PlateSpec>(part_from_preset("emblem")->shape);
  spec.on_fold = true;
  spec.layers = {{{{Vec2(0, 40), true}, {Vec2(30, -30), true}, {Vec2(30, 30), true}, {Vec2(0, -40), true}}, true, 0.0}};
  const auto refused = draft_plate(spec, bare(), {});
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::degenerate_shape);
}

TEST_CASE("every card stands off the head by its reach, and its field is a distance", "[form][cards][property]") {
  for (int k = 0; k < static_cast<int>(card_kinds().size()); ++k) {
    const Card card{static_cast<CardKind>(k), 30.0, 60.0, 40.0, 0.0, 0.0, 0.0, 2.0};
    CAPTURE(name_of(card.kind));
    CHECK(card_kinds()[k] == name_of(card.kind));
    const CardShape shape = shape_of(card);
    REQUIRE_FALSE(shape.half.triangles.empty());
    Card further = card;
    further.reach_mm += 10.0;
    CHECK((shape_of(further).tip - shape.tip).dot(shape.outward) > 5.0);
    const CardField field({card});
    CHECK_FALSE(field.empty());
    // Its own corners lie within its rounding, and a distance never changes by more than its argument moves.
    for (const Vec3& p : shape.half.vertices) REQUIRE(field(p) <= 0.0);
    Random random(7);
    for (int i = 0; i < 40; ++i) {
      const Vec3 p(random.uniform(0, 160), random.uniform(-160, 160), random.uniform(-160, 160)),
          q = p + 5.0 * Vec3(0.6, 0.0, 0.8);
      REQUIRE(std::abs(field(p) - field(q)) <= 5.0 + 1e-3);
    }
  }
  CHECK(CardField({}).empty());
}

TEST_CASE("an arm is in its guard, and wears it", "[form][limb]") {
  LimbSpec spec;
  const LimbMeasures arm{170.0, 265.0, 215.0};
  const auto draft = draft_limb(spec, arm, head());
  REQUIRE(draft);
  REQUIRE_FALSE(draft->worn_on.triangles.empty());
  const Box guard = box_of(draft->mesh.vertices), limb = box_of(draft->worn_on.vertices);
  CHECK(limb.low.y() < guard.low.y() - 60.0);  // the hand
  CHECK(limb.high.y() > guard.high.y());
  const Vec3 axis = 0.5 * (guard.low + guard.high);
  const double low = arm.wrist_mm / kTwoPi, high = arm.forearm_mm / kTwoPi;
  for (const Vec3& p : draft->worn_on.vertices) {
    if (p.y() < guard.low.y() || p.y() > guard.high.y()) continue;
    const double t = (p.y() - guard.low.y()) / spec.length_mm, inner = low + (high - low) * t + spec.ease_mm;
    CHECK(std::hypot(p.x() - axis.x(), p.z() - axis.z()) < inner + spec.flare_mm * t);
  }
}

namespace {

/// A shell round y, from its rim at y = 0 up to `deep`, 100 wide in x and 120 in z.
Mesh shell(double deep) {
  constexpr int kRound = 48, kRows = 14;
  Mesh mesh;
  for (int r = 0; r < kRows; ++r)
    for (int k = 0; k < kRound; ++k) {
      const double up = 0.5 * kPi * r / kRows, a = kTwoPi * k / kRound;
      mesh.vertices.push_back(
          {100.0 * std::cos(up) * std::sin(a), deep * std::sin(up), 120.0 * std::cos(up) * std::cos(a)});
    }
  for (int r = 0; r + 1 < kRows; ++r)
    for (int k = 0; k < kRound; ++k) {
      const int p = r * kRound + k, q = r * kRound + (k + 1) % kRound;
      mesh.triangles.push_back({p, q, p + kRound});
      mesh.triangles.push_back({q, q + kRound, p + kRound});
    }
  return mesh;
}

Mesh turned_mesh(Mesh mesh, const Eigen::Matrix3d& turn) {
  for (Vec3& p : mesh.vertices) p = turn * p;
  return mesh;
}

}  // namespace

TEST_CASE("a mesh is stood up by its opening, whichever way its file has up", "[form][import]") {
  const Mesh helm = shell(260.0);
  for (const Vec3& up : {Vec3(0, 1, 0), Vec3(0, 0, 1), Vec3(0, -1, 0), Vec3(0, 0, -1)}) {
    CAPTURE(up.transpose());
    const Eigen::Matrix3d turn = Eigen::Quaterniond::FromTwoVectors(Vec3::UnitY(), up).toRotationMatrix();
    const UpGuess guess = guess_up(turned_mesh(helm, turn), Vec3(Vec3::UnitX()));
    CHECK((guess.up - up).norm() < 1e-9);
    CHECK(guess.sentence.empty() == (up.y() > 0.5));
    const UnitGuess unit = guess_unit(turned_mesh(helm, turn), head(), guess.up);
    CHECK(unit.scale_to_fit == Approx(guess_unit(helm, head()).scale_to_fit));
    ImportSpec spec;
    spec.mesh = std::make_shared<const Mesh>(turned_mesh(helm, turn));
    spec = with_up(std::move(spec), guess.up);
    const auto draft = draft_import(spec, bare());
    REQUIRE(draft);
    CHECK(box_of(draft->mesh.vertices).size().y() > 240.0);
    // Its rim is below.
    const auto loops = border_loops(draft->mesh);
    REQUIRE_FALSE(loops.empty());
    const Box box = box_of(draft->mesh.vertices);
    CHECK(draft->mesh.vertices[loops.front().front()].y() < 0.5 * (box.low.y() + box.high.y()));
  }
}

TEST_CASE("an opening that looks aslant tells nothing of what is up", "[form][import]") {
  const Mesh aslant = turned_mesh(shell(260.0), Eigen::AngleAxisd(radians(60.0), Vec3::UnitX()).toRotationMatrix());
  const UpGuess guess = guess_up(aslant, Vec3(Vec3::UnitX()));
  CHECK((guess.up - Vec3::UnitY()).norm() < 1e-9);
  CHECK(guess.sentence.empty());
}

TEST_CASE("a mask is not stood on its rim, and a foot is found", "[form][import]") {
  // Open behind: z is forward.
  const Mesh mask = turned_mesh(shell(70.0), Eigen::AngleAxisd(0.5 * kPi, Vec3::UnitX()).toRotationMatrix());
  const UpGuess worn = guess_up(mask, Vec3(Vec3::UnitX()));
  CHECK((worn.up - Vec3::UnitY()).norm() < 1e-9);
  CHECK(worn.sentence.empty());
  // The same bust with a flat foot, closed, lying on its back.
  Mesh bust = shell(260.0);
  const int middle = static_cast<int>(bust.vertices.size());
  bust.vertices.push_back(Vec3::Zero());
  for (int k = 0; k < 48; ++k) bust.triangles.push_back({(k + 1) % 48, k, middle});
  const int tip = static_cast<int>(bust.vertices.size());
  bust.vertices.push_back({0, 260, 0});
  for (int k = 0; k < 48; ++k) bust.triangles.push_back({13 * 48 + k, 13 * 48 + (k + 1) % 48, tip});
  REQUIRE(border_loops(bust).empty());
  const Eigen::Matrix3d turn = Eigen::Quaterniond::FromTwoVectors(Vec3::UnitY(), Vec3::UnitZ()).toRotationMatrix();
  const UpGuess guess = guess_up(turned_mesh(bust, turn), std::nullopt);
  CHECK((guess.up - Vec3::UnitZ()).norm() < 1e-9);
  CHECK(guess.sentence.find("foot") != std::string::npos);
  CHECK(guess_up(bust, std::nullopt).sentence.empty());
}
