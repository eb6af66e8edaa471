#include "core/seam/alter.hpp"

#include <catch2/catch.hpp>
#include <random>

#include "core/seam/glue_up.hpp"
#include "support/bench_data.hpp"
#include "support/turned.hpp"

using namespace awl;
using awl::test::turned;

namespace {

/// Three panels round a cylinder of 80 mm, 120 mm high, open above and below.
PanelSet cylinder() {
  auto set = make_panels(turned([](double) { return 80.0; }, [](double s) { return 120.0 * s; }, 12, 48, 3),
      {.thickness_mm = 0.0, .least_mm2 = 0.0});
  REQUIRE(set);
  return *set;
}

Alteration at_seam(const std::string& seam, double first, double middle, double last) {
  Alteration a;
  a.seam = seam, a.first_mm = first, a.middle_mm = middle, a.last_mm = last;
  return a;
}

/// How broad a panel's flat is at a share of its height.
double breadth_at(const Panel& p, double share) {
  double low = 1e9, high = -1e9, left = 1e9, right = -1e9;
  for (const Vec2& q : p.flat) low = std::min(low, q.y()), high = std::max(high, q.y());
  for (std::size_t v = 0; v < p.flat.size(); ++v)
    if (std::abs(p.flat[v].y() - (low + share * (high - low))) < 1.0)
      left = std::min(left, p.flat[v].x()), right = std::max(right, p.flat[v].x());
  return right - left;
}

Build belted_hood() {
  Build b = test::demo();
  b.parts.clear();
  (void)add_part(b, *part_from_preset("hood"));
  b.parts[0].seams = {SeamPreset::gores, 3, 110.0, true, 5.0, false};
  return b;
}

const Seam& lettered(const PanelSet& set, const std::function<bool(const std::string&)>& wanted) {
  const auto it = std::find_if(
      set.seams.begin(), set.seams.end(), [&](const Seam& s) { return !s.letter.empty() && wanted(s.name); });
  REQUIRE(it != set.seams.end());
  return *it;
}

}  // namespace

TEST_CASE("a seam taken in evenly takes just that much off the girth", "[seam][alter]") {
  const PanelSet before = cylinder();
  const auto after = alter(before, {at_seam("seam 1", 6.0, 6.0, 6.0)});
  REQUIRE(after);
  const auto rims = rim_girths(*after);
  REQUIRE(rims.size() == 2);
  for (const RimGirth& rim : rims) {
    CHECK(rim.before_mm - rim.after_mm == Approx(6.0).margin(0.01));
    CHECK(rim.before_mm == Approx(2 * 48 * 80.0 * std::sin(kPi / 48)).margin(0.01));
  }
  // The seam itself keeps its length, and both its sides.
  CHECK(after->seams[0].side_mm[0] == Approx(120.0).margin(0.01));
  CHECK(after->seams[0].side_mm[1] == Approx(120.0).margin(0.01));
  CHECK(unequal_seams(*after).empty());
  for (const Panel& p : after->panels) CHECK(count_flips(p.solid, p.flat) == 0);
}

TEST_CASE("tapering to nothing at both ends leaves the openings as they are", "[seam][alter]") {
  const auto after = alter(cylinder(), {at_seam("seam 2", 0.0, 8.0, 0.0)});
  REQUIRE(after);
  for (const RimGirth& rim : rim_girths(*after)) CHECK(rim.after_mm == Approx(rim.before_mm).margin(0.05));
  int narrower = 0;
  const PanelSet before = cylinder();
  for (std::size_t i = 0; i < after->panels.size(); ++i) {
    const double gone = breadth_at(before.panels[i], 0.5) - breadth_at(after->panels[i], 0.5);
    if (gone < 0.1) continue;
    ++narrower;
    CHECK(gone == Approx(4.0).margin(0.1));
    CHECK(breadth_at(before.panels[i], 0.0) == Approx(breadth_at(after->panels[i], 0.0)).margin(0.05));
  }
  CHECK(narrower == 2);
}

TEST_CASE("letting out is taking in backwards", "[seam][alter]") {
  const auto there = alter(cylinder(), {at_seam("seam 1", -4.0, -4.0, -4.0)});
  REQUIRE(there);
  for (const RimGirth& rim : rim_girths(*there)) CHECK(rim.after_mm - rim.before_mm == Approx(4.0).margin(0.01));
  const auto back = alter(*there, {at_seam("seam 1", 4.0, 4.0, 4.0)});
  REQUIRE(back);
  const PanelSet before = cylinder();
  for (std::size_t i = 0; i < before.panels.size(); ++i)
    for (std::size_t v = 0; v < before.panels[i].flat.size(); ++v)
      REQUIRE((back->panels[i].flat[v] - before.panels[i].flat[v]).norm() < 0.15);
}

TEST_CASE("what was cut off one piece on the foam comes off that piece alone", "[seam][alter]") {
  const PanelSet before = cylinder();
  Alteration a = at_seam("seam 1", 5.0, 5.0, 5.0);
  a.panel = before.panels[before.seams[0].panels[0].value].name, a.on_foam = true, a.note = "gaped";
  const auto after = alter(before, {a});
  REQUIRE(after);
  int changed = 0;
  for (const Panel& p : after->panels) {
    if (p.before.empty()) continue;
    ++changed;
    CHECK(p.name == a.panel);
  }
  CHECK(changed == 1);
  CHECK(words_of(a).find("5.0 mm cut off on the foam") == 0);
  CHECK(words_of(a).find("gaped") != std::string::npos);
  // A free edge trimmed: the piece gets shorter.
  Alteration edge;
  edge.panel = a.panel, edge.first_mm = edge.middle_mm = edge.last_mm = 3.0;
  const auto trimmed = alter(before, {edge});
  REQUIRE(trimmed);
  double was = 0.0, is = 0.0;
  for (const Panel& p : before.panels) was += std::abs(breadth_at(p, 0.0));
  for (const Panel& p : trimmed->panels)
    if (p.name == a.panel)
      for (const BorderEdge& e : p.border)
        if (e.seam == SeamId{0}) is += (p.flat[e.a] - p.flat[e.b]).norm();
  CHECK(is == Approx(120.0 - 6.0).margin(0.1));
  CHECK(was > 0.0);
}

TEST_CASE("an alteration that cannot be says what and how much would work", "[seam][alter]") {
  const PanelSet set = cylinder();
  const auto unknown = alter(set, {at_seam("seam 9", 0, 6, 0)});
  REQUIRE_FALSE(unknown);
  CHECK(unknown.error().code == Errc::unknown_name);
  CHECK(unknown.error().text.find("seam 9") != std::string::npos);
  CHECK(unknown.error().where == "alterations/1");
  const auto much = alter_one(set, at_seam("seam 1", 0, 200, 0));
  REQUIRE_FALSE(much);
  CHECK(much.error().text.find("60 mm is the most") != std::string::npos);
  // Narrow panels cross themselves long before that.
  const auto narrow = make_panels(turned([](double) { return 20.0; }, [](double s) { return 120.0 * s; }, 12, 48, 6),
      {.thickness_mm = 0.0, .least_mm2 = 0.0});
  REQUIRE(narrow);
  const auto crossed = alter_one(*narrow, at_seam("seam 1", 0, 55, 0));
  REQUIRE_FALSE(crossed);
  CHECK(crossed.error().code == Errc::out_of_range);
  CHECK(crossed.error().text.find("% of that works") != std::string::npos);
  CHECK_FALSE(check_alteration({}));
}

TEST_CASE("random alterations turn no triangle over, or are refused", "[seam][alter][property]") {
  const PanelSet& set = *test::derived().part_panels[0];
  std::mt19937 random(5);
  std::uniform_real_distribution<double> mm(-25.0, 25.0);
  int done = 0;
  for (int round = 0; round < 60; ++round) {
    const Seam& seam = set.seams[random() % set.seams.size()];
    const auto after = alter(set, {at_seam(seam.name, mm(random), mm(random), mm(random))});
    if (!after) {
      CHECK_FALSE(after.error().text.empty());
      continue;
    }
    ++done;
    for (const Panel& p : after->panels) {
      CHECK(count_flips(p.solid, p.flat) == 0);
      std::vector<Vec2> outline;
      for (const BorderEdge& e : p.border) outline.push_back(p.flat[e.a]);
      CHECK_FALSE(crosses_itself(outline));
    }
  }
  CHECK(done > 20);
}

TEST_CASE("one side altered makes two pieces of a mirrored pair, both sides keep the pair", "[seam][alter][chain]") {
  Build b = belted_hood();
  const Derived before = test::chain()->derive(b);
  REQUIRE(before.panels);
  const Seam& seam = lettered(*before.part_panels[0],
      [](const std::string& n) { return n.find("left") != std::string::npos && n.find("belt") == std::string::npos; });
  Alteration a = at_seam(seam.name, 0.0, 6.0, 0.0);
  REQUIRE(add_alteration(b, a));
  const Derived both = test::chain()->derive(b);
  REQUIRE(both.complete());
  CHECK(both.pieces->size() == before.pieces->size());
  CHECK(both.form == before.form);
  CHECK(unequal_seams(*both.part_panels[0]).empty());  // tapering to nothing, at the crown too where all gores meet
  b.alterations[0].mirrored = false;
  const Derived one = test::chain()->derive(b);
  REQUIRE(one.complete());
  CHECK(one.pieces->size() > before.pieces->size());
  // What is not there any more is told, and the pieces are made without it.
  b.alterations[0].seam = "a seam long gone";
  const Derived gone = test::chain()->derive(b);
  REQUIRE(gone.complete());
  const auto told =
      std::find_if(gone.remarks.begin(), gone.remarks.end(), [](const Remark& r) { return r.id == "seam.altered"; });
  REQUIRE(told != gone.remarks.end());
  const auto mended = apply_act(b, told->remedies.at(0).act);
  REQUIRE(mended);
  CHECK(mended->alterations.empty());
}

TEST_CASE(
    "a take-in that ends at another seam makes that one unequal, and going on beyond it mends it", "[seam][alter]") {
  // Seam 1 ends at a belt half way down; below it another one goes on, or none.
  const bool goes_on = GENERATE(true, false);
  SeamMesh form = turned([](double) { return 80.0; }, [](double s) { return 120.0 * s; }, 12, 48, 3);
  form.seam_names.push_back("belt"), form.seam_names.push_back("below");
  for (int k = 0; k < 48; ++k) form.seam_of[edge_of(6 * 48 + k, 6 * 48 + (k + 1) % 48)] = SeamId{3};
  for (int i = 0; i < 6; ++i) {
    if (goes_on)
      form.seam_of[edge_of(i * 48, (i + 1) * 48)] = SeamId{4};
    else
      form.seam_of.erase(edge_of(i * 48, (i + 1) * 48));
  }
  const auto set = make_panels(form, {.thickness_mm = 0.0, .least_mm2 = 0.0});
  REQUIRE(set);
  REQUIRE(unequal_seams(*set).empty());
  const auto after = alter(*set, {at_seam("seam 1", 0.0, 2.0, 8.0)});
  REQUIRE(after);
  const auto unequal = unequal_seams(*after);
  REQUIRE(unequal.size() == 2);
  for (const UnequalSeam& u : unequal) {
    CHECK(u.by_mm == Approx(4.0).margin(0.1));
    CHECK(after->seams[u.seam.value].name == "belt");
    CHECK(u.go_on == (goes_on ? "below" : ""));
    CHECK_FALSE(u.to_free_edge);
  }
  if (!goes_on) return;
  const auto mended = alter(*set, {at_seam("seam 1", 0.0, 2.0, 8.0), at_seam("below", 8.0, 2.0, 0.0)});
  REQUIRE(mended);
  CHECK(unequal_seams(*mended).empty());
}

TEST_CASE("a cylinder taken in glues up narrower by as much", "[seam][alter][glue]") {
  const auto after = alter(cylinder(), {at_seam("seam 1", 12.0, 12.0, 12.0)});
  REQUIRE(after);
  PanelSet thin = *after;
  for (Panel& p : thin.panels) p.thickness_mm = 2.0;
  const auto glued = glue_up(thin);
  REQUIRE(glued);
  REQUIRE(glued->rims.size() == 2);
  for (const GluedRim& rim : glued->rims) {
    CHECK(rim.girth_mm - rim.glued_girth_mm == Approx(12.0).margin(0.5));
    CHECK(rim.glued_breadth_mm == Approx(rim.breadth_mm - 12.0 / kPi).margin(1.0));
  }
}
