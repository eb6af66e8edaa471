// Tape sheets, tape paths and the short list.
#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/geom/nearest.hpp"
#include "core/head/tape_path.hpp"
#include "core/head/tape_sheet.hpp"
#include "core/head/telling.hpp"
#include "support/bench_data.hpp"

using namespace awl;
using M = MeasureId;

TEST_CASE("two readings are averaged, and hair under the tape is taken off", "[head][tape]") {
  TapeEntry e{580.0, 584.0, 5.0, {}, {}};
  CHECK(e.mean_mm() == 582.0);
  CHECK(e.spread_mm() == 4.0);
  CHECK(e.skin_mm(M::HC) == Approx(582.0 - kTwoPi * 5.0));
  CHECK(e.skin_mm(M::PD) == 582.0);
  CHECK(TapeEntry{160.0, {}, 5.0, {}, {}}.skin_mm(M::HB) == 150.0);
}

TEST_CASE("a headform fitted over hair is smaller by it", "[head][tape]") {
  TapeSheet sheet = sheet_of({{M::HC, 600}}, "adult");
  sheet.head[M::HC].over_hair_mm = 6.0;
  const auto form = test::fitter().fit(sheet.measures());
  REQUIRE(form);
  CHECK(form->reading(M::HC).reads_mm == Approx(600 - kTwoPi * 6).margin(1.0));
}

TEST_CASE("readings far apart are remarked on, absurd ones refused", "[head][tape]") {
  TapeSheet sheet = sheet_of({{M::HC, 580}});
  sheet.head[M::HC].second_mm = 583.0;
  CHECK(judge_sheet(sheet, {}).empty());
  sheet.head[M::HC].second_mm = 592.0;
  const auto remarks = judge_sheet(sheet, {});
  REQUIRE(remarks.size() == 1);
  CHECK(remarks[0].sentence.find("12 mm apart") != std::string::npos);
  CHECK(check_sheet(sheet, test::fitter().populations()));
  sheet.head[M::HC].second_mm = 360.0;
  CHECK(check_sheet(sheet, test::fitter().populations()).error().where == "HC/second");
  sheet.head[M::HC] = {580.0, {}, 70.0, {}, {}};
  CHECK(check_sheet(sheet, test::fitter().populations()).error().where == "HC/hair");
}

TEST_CASE("what an extra needs and nobody measured is a to-do that says what waits", "[head][tape]") {
  TapeSheet sheet = sheet_of({{M::HC, 580}});
  auto todo = judge_sheet(sheet, {Extra::shoulder_piece, Extra::arm_guards});
  REQUIRE(todo.size() == 4);
  CHECK(todo[0].sentence == "Shoulder width is still to be measured: a shoulder piece waits for it.");
  CHECK(todo[0].severity == Severity::note);
  sheet.body[BodyMeasure::shoulders] = 420.0;
  CHECK(judge_sheet(sheet, {Extra::shoulder_piece}).empty());
  sheet.body[BodyMeasure::wrist] = 900.0;
  CHECK(check_sheet(sheet, test::fitter().populations()).error().where == "WRG");
  for (const auto& f : body_facts()) CHECK(*body_measure_from_code(f.code) == f.id);
  for (const Extra e : {Extra::chin_strap, Extra::back_strap, Extra::shoulder_piece, Extra::arm_guards})
    CHECK(*extra_from_code(code_of(e)) == e);
}

TEST_CASE("the path of every tape is as long as the tape reads", "[head][tape][paths]") {
  const auto form = test::fitter().fit({{M::HC, 590}, {M::HBL, 80}, {M::HBR, 76}, {M::FH, 124}});
  REQUIRE(form);
  for (const TapePath& path : tape_paths(test::fitter(), *form)) {
    const MeasureFacts& f = facts_of(path.id);
    CAPTURE(f.code);
    REQUIRE(path.line.size() >= 2);
    double length = 0.0;
    for (std::size_t i = 0; i + 1 < path.line.size(); ++i) length += (path.line[i + 1] - path.line[i]).norm();
    const bool of_one_side =
        path.id == M::EH || path.id == M::EP || path.id == M::CE;  // shown on the left, read as the mean
    CHECK(length == Approx(form->reading(path.id).reads_mm).margin(of_one_side ? 4.0 : path.id == M::TW ? 1.0 : 1e-6));
  }
}

TEST_CASE("tapes lie on the head or bridge its hollows, never in it", "[head][tape][paths]") {
  const auto form = test::fitter().fit({{M::HC, 566}});
  const Nearest near_head(form->mesh);
  for (const TapePath& path : tape_paths(test::fitter(), *form)) {
    if (path.straight || path.id == M::EEB || path.id == M::NC) continue;
    CAPTURE(facts_of(path.id).code);
    for (const Vec3& p : path.line) CHECK(near_head.to(p).signed_mm > -0.6);
  }
}

TEST_CASE("the short list follows from what the build hangs on", "[head][telling]") {
  const auto& fitter = test::fitter();
  const auto places_where = [&](const std::function<bool(const Vec3&)>& wanted) {
    std::vector<ModeColumns> places;
    for (int v = 0; v < static_cast<int>(fitter.head().mesh.vertices.size()); v += 7)
      if (wanted(fitter.head().mesh.vertices[v])) places.push_back(fitter.head().riders.modes(v));
    return places;
  };
  const auto cap = most_telling(fitter.adults(), {}, places_where([](const Vec3& p) { return p.y() > 40; }), 6);
  REQUIRE(cap.size() == 6);
  for (std::size_t i = 1; i < cap.size(); ++i) CHECK(cap[i].share <= cap[i - 1].share + 1e-9);
  double told = 0.0;
  for (const Telling& t : cap) told += t.share;
  CHECK(told > 0.6);
  CHECK(told <= 1.0);
  const auto has = [](const std::vector<Telling>& list, M id) {
    return std::any_of(list.begin(), list.end(), [&](const Telling& t) { return t.id == id; });
  };
  CHECK_FALSE(has(cap, M::FH));
  const auto mask = most_telling(
      fitter.adults(), {}, places_where([](const Vec3& p) { return p.y() < 30 && p.y() > -100 && p.z() > 40; }), 6);
  CHECK((has(mask, M::FH) || has(mask, M::HH) || has(mask, M::CE)));
  // What is known already is not asked again.
  const auto rest =
      most_telling(fitter.adults(), {{cap[0].id, 560.0}}, places_where([](const Vec3& p) { return p.y() > 40; }), 6);
  CHECK_FALSE(has(rest, cap[0].id));
}

TEST_CASE("knowing the short list narrows the estimates more than knowing six others", "[head][telling][property]") {
  const auto& centre = test::fitter().adults();
  std::vector<ModeColumns> places;
  for (int v = 0; v < static_cast<int>(test::fitter().head().mesh.vertices.size()); v += 5)
    places.push_back(test::fitter().head().riders.modes(v));
  const auto told = [&](const MeasureSet& known) {
    double sum = 0.0;
    for (const Telling& t : most_telling(centre, known, places, 19)) sum += t.share;
    return sum;  // what is still to be learned
  };
  MeasureSet best;
  for (const Telling& t : most_telling(centre, {}, places, 6)) best[t.id] = centre.reads[index_of(t.id)];
  CHECK(told(best) < told({{M::PD, 63}, {M::EH, 63}, {M::EP, 19}, {M::NP, 20}, {M::JW, 114}, {M::TW, 95}}));
}
