#include "core/form/body.hpp"

#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/form/picture_outline.hpp"
#include "core/geom/polygon.hpp"
#include "core/seam/panels.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

const Site& bare() {
  static const Site site(*test::derived().head);
  return site;
}

BodySpec body(BodyKind kind, BodySides sides, const Vec3& size = {80, 64, 50}) {
  BodySpec s;
  s.kind = kind, s.sides = sides, s.wide_mm = size.x(), s.tall_mm = size.y(), s.deep_mm = size.z();
  s.seat.around_deg = sides == BodySides::middle ? 0.0 : 70.0, s.seat.up_deg = 50.0;
  return s;
}

/// A picture with a bright ground and something dark on it.
GreyPicture picture_of(int width, int height, const std::function<bool(double x, double y)>& dark) {
  GreyPicture picture{width, height, {}};
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      double share = 0.0;  // what of the pixel is covered
      for (int i = 0; i < 4; ++i)
        for (int j = 0; j < 4; ++j) share += dark(x + (i + 0.5) / 4, y + (j + 0.5) / 4) ? 1.0 / 16 : 0.0;
      picture.grey.push_back(static_cast<float>(230.0 - 200.0 * share));
    }
  return picture;
}

}  // namespace

TEST_CASE("Bodies are closed, face outwards, and lie flat along their own seams") {
  for (const BodyKind kind : {BodyKind::ball, BodyKind::disc, BodyKind::box, BodyKind::turned, BodyKind::inflated})
    for (const BodySides sides : {BodySides::pair, BodySides::middle, BodySides::one}) {
      INFO("kind " << static_cast<int>(kind) << ", sides " << static_cast<int>(sides));
      const auto draft = draft_body(body(kind, sides), bare());
      REQUIRE(draft);
      CHECK(draft->outside);
      const SeamMesh form = seams_of(*draft);
      for (const auto& e : topology_of(form.mesh).edges) REQUIRE((e.right >= 0 && e.more == 0));
      const double count = sides == BodySides::pair ? 2.0 : 1.0, box = 80.0 * 64.0 * 50.0;
      const double share = volume_mm3(form.mesh) / count / box;
      if (kind == BodyKind::box) CHECK(share == Approx(1.0));
      if (kind == BodyKind::ball) CHECK(share == Approx(kPi / 6.0).epsilon(0.03));
      if (kind == BodyKind::disc) CHECK(share == Approx(kPi / 4.0).epsilon(0.05));
      CHECK(share > 0.15);
      CHECK(share < 1.0 + 1e-9);
      CHECK(is_mirrored(form) == (sides != BodySides::one));
      PanelOptions options;
      options.form_is_outside = true, options.least_mm2 = 0.0;
      const auto panels = make_panels(form, options);
      REQUIRE(panels);
      for (const Panel& p : panels->panels) {
        CHECK(p.flipped == 0);
        CHECK_FALSE(p.overlaps);
        CHECK(p.flat.size() > 4);
      }
      if (kind == BodyKind::box) {
        CHECK(panels->panels.size() == (sides == BodySides::pair ? 12u : 6u));
        for (const Panel& p : panels->panels) CHECK(p.strain.p99 < 0.02);
      }
      if (kind == BodyKind::disc) {
        CHECK(panels->panels.size() == (sides == BodySides::pair ? 6u : 3u));
        for (const Panel& p : panels->panels) CHECK(p.strain.p99 < 0.02);
      }
      if (kind == BodyKind::ball) CHECK(panels->panels.size() == (sides == BodySides::pair ? 12u : 6u));
      if (kind == BodyKind::inflated) CHECK(panels->panels.size() == (sides == BodySides::pair ? 4u : 2u));
    }
}

TEST_CASE("A body stands where its seat is, sunk as far as it says, and its handles lie on it") {
  BodySpec spec = body(BodyKind::box, BodySides::pair);
  spec.sunk_mm = 10;
  const auto frame = seat_frame(bare(), spec.seat);
  REQUIRE(frame);
  const auto draft = draft_body(spec, bare());
  double low = 1e300, high = -1e300;
  for (const Vec3& p : draft->mesh.vertices) {
    low = std::min(low, frame->out.dot(p - frame->origin)), high = std::max(high, frame->out.dot(p - frame->origin));
  }
  CHECK(low == Approx(-10.0));
  CHECK(high == Approx(40.0));
  const Nearest near(draft->mesh);
  REQUIRE(draft->handles.size() == 3);
  for (const Handle& h : draft->handles) CHECK(std::abs(near.to(h.at).signed_mm) < 0.5);
  spec.sunk_mm = -20;
  const auto lifted = draft_body(spec, bare());
  CHECK((lifted->mesh.vertices[0] - draft->mesh.vertices[0]).norm() == Approx(30.0));
  // Its own frame knows neither its size nor its wearer.
  spec.wide_mm = 160, spec.seat.up_deg = 20;
  CHECK(draft_body(spec, bare())->home.front().isApprox(draft->home.front(), 1e-9));
}

TEST_CASE("An outline that cannot be turned, or a pair that meets, is refused in words") {
  BodySpec spec = body(BodyKind::turned, BodySides::pair);
  spec.outline = {{{20, 0}, true}, {{-4, 20}, false}, {{10, 40}, true}};
  CHECK(draft_body(spec, bare()).error().text ==
      "The outline to be turned crosses its axis by 4.0 mm; draw it on one side.");
  spec.outline = {{{20, 0}, true}, {{0, 20}, true}, {{10, 40}, true}};
  CHECK(draft_body(spec, bare()).error().text ==
      "The outline to be turned touches its axis on the way; only its ends may.");
  spec = body(BodyKind::ball, BodySides::pair);
  spec.seat.around_deg = 3;
  CHECK(draft_body(spec, bare()).error().text.starts_with("The pair meets in the middle of the head: one reaches "));
  spec.sides = BodySides::middle;
  CHECK(draft_body(spec, bare()));
  spec.strips = 40;
  CHECK(draft_body(spec, bare()).error().where == "body/strips");
  spec = body(BodyKind::inflated, BodySides::one);
  spec.outline = {{{0, 0}, true}, {{30, 30}, true}, {{30, 0}, true}, {{0, 30}, true}};
  CHECK(draft_body(spec, bare()).error().code == Errc::degenerate_shape);
}

TEST_CASE("An outline is found on a picture to a fraction of a pixel") {
  const auto disc = picture_of(240, 200, [](double x, double y) { return std::hypot(x - 130, y - 90) < 60; });
  const auto outline = picture_outline(disc, 120.0);
  REQUIRE(outline);
  CHECK(outline->size() >= 12);
  CHECK(outline->size() < 90);
  for (const CurvePoint& p : *outline) {
    CHECK(p.at.norm() == Approx(60.0).margin(0.4));
    CHECK_FALSE(p.corner);
  }
  std::vector<Vec2> ring;
  for (const CurvePoint& p : *outline) ring.push_back(p.at);
  CHECK(signed_area_mm2(ring) > 0.0);
  // A square has four corners and nothing else; the largest thing on the picture is meant; a bright one on a dark
  // ground as well.
  const auto square = picture_of(160, 160, [](double x, double y) {
    return (std::abs(x - 70) < 40 && std::abs(y - 80) < 40) || std::hypot(x - 145, y - 20) < 8;
  });
  auto inverse = square;
  for (float& v : inverse.grey) v = 255.0f - v;
  for (const GreyPicture* p : {&square, static_cast<const GreyPicture*>(&inverse)}) {
    const auto corners = picture_outline(*p, 50.0);
    REQUIRE(corners);
    CHECK(std::count_if(corners->begin(), corners->end(), [](const CurvePoint& q) { return q.corner; }) >= 4);
    for (const CurvePoint& q : *corners) CHECK(q.at.cwiseAbs().maxCoeff() == Approx(25.0).margin(0.5));
  }
  const auto profile = profile_of(*outline);
  CHECK(profile.front().at.y() == Approx(-60.0).margin(0.4));
  CHECK(profile[12].at.x() == Approx(60.0).margin(0.6));
  CHECK(profile.front().at.x() < 12.0);
}

TEST_CASE("A picture without anything on it says so") {
  CHECK(picture_outline(picture_of(60, 60, [](double, double) { return false; }), 50)
            .error()
            .text.starts_with("There is nothing on this picture"));
  CHECK(picture_outline(picture_of(4, 60, [](double, double) { return true; }), 50).error().text ==
      "A picture of 4 x 60 pixels is too small to find an outline in; 8 both ways are the least.");
  // Noise alone is nothing worth cutting.
  Random random(4);
  GreyPicture noise{64, 64, {}};
  for (int i = 0; i < 64 * 64; ++i) noise.grey.push_back(static_cast<float>(random.uniform(100, 255)));
  const auto found = picture_outline(noise, 50);
  CHECK((!found || found->size() >= 3));
}
