#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/geom/polygon.hpp"
#include "core/piece/drawing.hpp"
#include "core/piece/piece_mark.hpp"
#include "core/piece/piece_place.hpp"
#include "core/seam/draw_cut.hpp"
#include "support/dressed_case.hpp"

using namespace awl;
using test::as_form;
using test::dress_rules;
using test::turned_cone;
using test::turned_tube;

namespace {

Detail along(TrackFrom from, std::vector<Vec3> points = {}) {
  Detail d;
  d.id = 4, d.name = "a line";
  d.track.from = from, d.track.points = std::move(points);
  return d;
}

/// A tube in two mirrored halves, seam in front and behind, as forms of this program are.
SeamMesh mirrored_tube() {
  Mesh half;
  constexpr int kAround = 40, kRows = 20;
  for (int r = 0; r <= kRows; ++r)
    for (int c = 0; c <= kAround; ++c) {
      const double a = kPi * c / kAround;
      half.vertices.push_back(
          {c == 0 || c == kAround ? 0.0 : 80.0 * std::sin(a), -60.0 + 120.0 * r / kRows, 80.0 * std::cos(a)});
    }
  for (int r = 0; r < kRows; ++r)
    for (int c = 0; c < kAround; ++c) {
      const int a = r * (kAround + 1) + c, b = a + 1, d = a + kAround + 1, e = d + 1;
      half.triangles.push_back({a, b, d});
      half.triangles.push_back({b, e, d});
    }
  Draft draft;
  draft.mirrored = true, draft.mesh = half;
  const int seam = draft.seam("middle");
  for (int r = 0; r < kRows; ++r)
    for (const int c : {0, kAround}) draft.seams[edge_of(r * (kAround + 1) + c, (r + 1) * (kAround + 1) + c)] = seam;
  return seams_of(draft);
}

DressSite site_of_form(const SeamMesh& form) {
  DressSite::Source source;
  source.part = 1, source.name = "tube", source.form = &form;
  source.span = span_of(form, "tube", true, 5.0);
  return DressSite(source);
}

}  // namespace

TEST_CASE("every source of a line gives the line it names", "[dress][line]") {
  const auto cut = draw_cuts(turned_cone(), {{{0, 0, 100}, {0, 60, 80}, {0, 120, 60}}});
  REQUIRE(cut);
  const DressSite site = DressSite::of_mesh(*cut);
  const auto length = [&](const Detail& d) {
    const auto lines = lines_of(d, site, nullptr);
    INFO((lines ? std::string() : lines.error().text));
    REQUIRE(lines);
    REQUIRE(lines->size() == 1);
    return lines->front().length_mm;
  };
  const double slant = std::hypot(40.0, 120.0);
  Detail rim = along(TrackFrom::rim);
  rim.track.number = 2;
  CHECK(length(rim) == Approx(kTwoPi * 60.0).epsilon(1e-3));
  Detail seam = along(TrackFrom::seam);
  seam.track.name = "cut 1";
  CHECK(length(seam) == Approx(slant).epsilon(2e-3));
  CHECK(length(along(TrackFrom::round, {{0, 30, 90}})) == Approx(kTwoPi * 90.0).epsilon(2e-3));
  CHECK(length(along(TrackFrom::way, {{100, 0, 0}, {60, 120, 0}})) == Approx(slant).epsilon(2e-3));
  CHECK(length(along(TrackFrom::drawn, {{100, 0, 0}, {80, 60, 0}, {60, 120, 0}})) == Approx(slant).epsilon(2e-3));
  Detail part = along(TrackFrom::round, {{0, 30, 90}});
  part.track.start = 0.25, part.track.end = 0.75;
  CHECK(length(part) == Approx(kPi * 90.0).epsilon(5e-3));
  const auto base = lines_of(rim, site, nullptr);
  Detail beside_it = along(TrackFrom::beside);
  beside_it.track.number = 1, beside_it.track.off_mm = 20.0;
  const auto moved = lines_of(beside_it, site, &*base);
  REQUIRE(moved);
  // The upper rim has the part below it: inwards is down, where the cone is wider.
  CHECK(moved->front().length_mm == Approx(kTwoPi * (60.0 + 20.0 * 40.0 / slant)).epsilon(3e-3));
}

TEST_CASE("a line that is not there is refused with what is", "[dress][line][hostile]") {
  const auto cut = draw_cuts(turned_cone(), {{{0, 0, 100}, {0, 60, 80}, {0, 120, 60}}});
  REQUIRE(cut);
  const DressSite site = DressSite::of_mesh(*cut);
  const auto why = [&](const Detail& d) {
    const auto lines = lines_of(d, site, nullptr);
    REQUIRE_FALSE(lines);
    CHECK(lines.error().where == "dress/4");
    CHECK(lines.error().text.starts_with("a line: "));
    return lines.error().text;
  };
  Detail d = along(TrackFrom::rim);
  d.track.number = 7;
  CHECK(why(d).find("2 rims, not 7") != std::string::npos);
  d = along(TrackFrom::seam), d.track.name = "back";
  CHECK(why(d).find("it has cut 1") != std::string::npos);
  d = along(TrackFrom::feature), d.track.name = "ridge";
  CHECK(why(d).find("it has none") != std::string::npos);
  d = along(TrackFrom::foot), d.track.number = 3;
  CHECK(why(d).find("no part number 3 sits") != std::string::npos);
  CHECK(why(along(TrackFrom::drawn)).find("no place yet") != std::string::npos);
  CHECK(why(along(TrackFrom::way, {{100, 0, 0}})).find("both its ends") != std::string::npos);
  CHECK(why(along(TrackFrom::round)).find("no height yet") != std::string::npos);
  CHECK(why(along(TrackFrom::beside)).find("has no line") != std::string::npos);
  d = along(TrackFrom::rim), d.track.off_mm = 300.0;
  CHECK(why(d).find("leaves the form") != std::string::npos);
  CHECK(why(along(TrackFrom::drawn,
                {{100, 0, 0}, {60, 120, 0}, {-100, 0, 0}, {80, 60, 0}, {0, 40, 87}, {70, 90, 10}, {75, 20, 60},
                    {70, 90, 10}}))
            .size() > 20);
}

TEST_CASE("on a mirrored form a line has its image, but for one that is its own", "[dress][line][mirror]") {
  const SeamMesh form = mirrored_tube();
  REQUIRE(is_mirrored(form));
  const DressSite site = site_of_form(form);
  CHECK(site.mirrored);
  const Detail side = along(TrackFrom::drawn, {{80, -30, 0}, {70, 20, 38}});
  const auto both = lines_of(side, site, nullptr);
  REQUIRE(both);
  REQUIRE(both->size() == 2);
  const FormLine &own = (*both)[0], &image = (*both)[1];
  CHECK(image.length_mm == Approx(own.length_mm));
  CHECK((image.at.back() - Vec3(-own.at.front().x(), own.at.front().y(), own.at.front().z())).norm() < 1e-9);
  // Its left is the image of the left: what lies beside one lies beside the other on the same hand.
  const Vec3 left = own.left(2), of_image = image.left(image.size() - 3);
  CHECK((of_image - Vec3(-left.x(), left.y(), left.z())).norm() < 1e-9);
  Detail one = side;
  one.mirrored = false;
  CHECK(lines_of(one, site, nullptr)->size() == 1);
  CHECK(lines_of(along(TrackFrom::round, {{0, 0, 80}}), site, nullptr)->size() == 1);
  CHECK(lines_of(along(TrackFrom::drawn, {{0, -40, 80}, {0, 40, 80}}), site, nullptr)->size() == 1);
  Detail rim = along(TrackFrom::rim);
  CHECK(lines_of(rim, site, nullptr)->size() == 1);
}

TEST_CASE("marks of one side are on one copy, and say so on the pattern of both", "[dress][marks][mirror]") {
  SeamMesh form = mirrored_tube();
  PanelOptions options;
  options.form_is_outside = true;
  const auto panels = make_panels(form, options);
  INFO((panels ? std::string() : panels.error().text));
  REQUIRE(panels);
  auto pieces = make_pieces(*panels);
  REQUIRE(pieces.size() == 1);
  REQUIRE(pieces[0].twin);
  const std::vector<int> part_of{1};
  const auto marked = [&](double x, bool paired) {
    auto all = pieces;
    PieceMark line{PieceMark::Kind::trace, {{x, -20, 0}, {x, 20, 0}}, 0.0, "scar", 1, TraceKind::carve, paired};
    PieceMark bore{PieceMark::Kind::trace, {{x, 40, 0}}, 2.0, "bore", 1, TraceKind::drill, paired};
    put_marks(all, *panels, part_of, {line, bore});
    return all[0];
  };
  const Piece both = marked(80, true), left = marked(80, false), right = marked(-80, false);
  REQUIRE(both.traces.size() == 2);
  CHECK(marked(-80, true).traces.empty());  // its image carries it
  for (const PieceTrace& t : both.traces) CHECK(t.side == TraceSide::both);
  for (const PieceTrace& t : left.traces) CHECK(t.side == TraceSide::left);
  for (const PieceTrace& t : right.traces) CHECK(t.side == TraceSide::right);
  CHECK((left.traces[0].line.front() - right.traces[0].line.front()).norm() < 1e-6);
  CHECK(left.traces[1].bore_mm == 4.0);
  const auto drawn = [](const Piece& piece, Copy copy) {
    int lines = 0;
    std::string words;
    for (const Mark& m : draw_piece(piece, copy).marks) {
      lines += m.layer == Layer::draw || m.layer == Layer::drill ? 1 : 0;
      words += m.text + "\n";
    }
    return std::pair(lines, words);
  };
  CHECK(drawn(left, Copy::left).first == 2);
  CHECK(drawn(left, Copy::right).first == 0);
  CHECK(drawn(right, Copy::right).first == 2);
  CHECK(drawn(left, Copy::pattern).second.find("scar, left only") != std::string::npos);
  CHECK(drawn(both, Copy::pattern).second.find("only") == std::string::npos);
  // A hole on one side alone is bored into one copy, never cut into both.
  auto holed = pieces;
  put_marks(holed, *panels, part_of, {{PieceMark::Kind::hole, {{-80, 0, 0}}, 5.0, "vent", 1, TraceKind::drill, false}});
  CHECK(holed[0].holes.empty());
  REQUIRE(holed[0].traces.size() == 1);
  CHECK(holed[0].traces[0].side == TraceSide::right);
}

TEST_CASE("names of what is drawn on pieces and of layers are told apart", "[dress][marks]") {
  std::set<std::string> names;
  for (int k = 0; k <= static_cast<int>(TraceKind::grain); ++k) names.insert(name_of(static_cast<TraceKind>(k)));
  CHECK(names.size() == 11);
  CHECK(std::string(name_of(Layer::draw)) == "draw");
  CHECK(std::string(name_of(Layer::drill)) == "drill");
  std::set<std::string> kinds, labels;
  for (const DetailShape& shape : detail_kinds()) {
    kinds.insert(kind_of(shape)), labels.insert(label_of(shape));
    CHECK(detail_shape_from(kind_of(shape)).value() == shape);
  }
  CHECK(kinds.size() == detail_kinds().size());
  CHECK(labels.size() == detail_kinds().size());
  for (const auto from : {TrackFrom::drawn, TrackFrom::way, TrackFrom::round, TrackFrom::rim, TrackFrom::seam,
           TrackFrom::feature, TrackFrom::foot, TrackFrom::beside})
    CHECK(track_from(name_of(from)).value() == from);
  CHECK_FALSE(track_from("moon"));
}

TEST_CASE("every dial of a detail says when one would turn it, within limits that its usual value keeps", "[dress]") {
  for (const DetailShape& shape : detail_kinds()) {
    Detail d;
    d.shape = shape;
    std::set<std::string> ids;
    for (const Dial& dial : dials_of(d)) {
      CAPTURE(kind_of(shape), dial.facts.id);
      CHECK(ids.insert(dial.facts.id).second);
      CHECK_FALSE(dial.facts.label.empty());
      CHECK_FALSE(dial.facts.tip.empty());
      CHECK_FALSE(dial.facts.group.empty());
      if (dial.facts.kind == DialKind::choice) {
        CHECK(dial.facts.options.size() > 1);
        continue;
      }
      CHECK(dial.value() >= dial.facts.least);
      CHECK(dial.value() <= dial.facts.most);
    }
    CHECK(check_dials(dials_of(d), "dress/1"));
  }
}
