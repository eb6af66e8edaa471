#include "core/seam/panels.hpp"

#include <catch2/catch.hpp>

#include "core/form/wrap.hpp"
#include "support/bench_data.hpp"
#include "support/effort.hpp"
#include "support/solids.hpp"
#include "core/judge/judge.hpp"

using namespace awl;

namespace {

SeamMesh hood_seams(const WrapSpec& hood, const SeamSpec& seams) {
  static const auto fitter = HeadFitter::load(data_folder() / "headform");
  static const auto maker = WrapMaker::load(data_folder() / "headform", *fitter);
  const auto blank = (*maker)->blank(hood);
  REQUIRE(blank);
  auto cut = cut_by_preset(blank->half, blank->midline, seams);
  REQUIRE(cut);
  return std::move(*cut);
}

}  // namespace

TEST_CASE("both sides of every seam agree and nothing overlaps, for every edge and preset", "[seam][panels]") {
  WrapSpec hood;
  hood.edge = GENERATE(WrapEdge::skull_cap, WrapEdge::open_face, WrapEdge::full_cowl);
  SeamSpec seams;
  seams.preset = GENERATE(SeamPreset::gores, SeamPreset::side_middle_side);
  seams.gores_per_side = GENERATE(2, 4);
  seams.belt = GENERATE(false, true);
  if (seams.preset == SeamPreset::side_middle_side && seams.gores_per_side == 4) return;
  const auto set = make_panels(hood_seams(hood, seams), {});
  CAPTURE(name_of(hood.edge), name_of(seams.preset), seams.gores_per_side, seams.belt);
  REQUIRE(set);
  for (const Panel& p : set->panels) {
    CAPTURE(p.name);
    CHECK(p.flipped == 0);
    CHECK_FALSE(p.overlaps);
    CHECK(euler_characteristic(p.solid) == 1);
    CHECK(area_mm2(p.solid) > 1000.0);
  }
  for (const Seam& s : set->seams) {
    CAPTURE(s.name);
    CHECK(std::abs(s.side_mm[0] - s.side_mm[1]) <= 0.05);
  }
}

TEST_CASE("panels cover the form once", "[seam][panels]") {
  const auto set = make_panels(hood_seams({}, {}), {.thickness_mm = 0.0});
  REQUIRE(set);
  std::vector<int> seen(set->form.mesh.triangles.size(), 0);
  double area = 0.0;
  for (const Panel& p : set->panels) {
    for (const int f : p.faces) ++seen[f];
    area += area_mm2(p.solid);
  }
  CHECK(seen == std::vector<int>(seen.size(), 1));
  CHECK(area == Approx(area_mm2(set->form.mesh)));
}

TEST_CASE("the right-hand panel is the exact mirror image of its twin", "[seam][panels]") {
  const auto set = make_panels(hood_seams({}, {}), {});
  REQUIRE(set);
  int pairs = 0;
  for (const Panel& right : set->panels) {
    if (!right.mirror_of) continue;
    ++pairs;
    const Panel& left = set->panels[right.mirror_of->value];
    REQUIRE(left.flat.size() == right.flat.size());
    for (std::size_t v = 0; v < left.flat.size(); ++v) {
      REQUIRE(right.flat[v].x() == -left.flat[v].x());
      REQUIRE(right.flat[v].y() == left.flat[v].y());
    }
    CHECK(right.strain.p99 == Approx(left.strain.p99));
  }
  CHECK(pairs == 7);
}

TEST_CASE("thicker foam makes larger pieces", "[seam][panels]") {
  const SeamMesh seams = hood_seams({}, {});
  const auto area = [&](double t) {
    double sum = 0.0;
    const auto set = make_panels(seams, {.thickness_mm = t});
    for (const Panel& p : set->panels) sum += area_mm2(p.solid);
    return sum;
  };
  // A ball of about 100 mm: each 5 mm of middle layer adds about 5 %.
  CHECK(area(10.0) / area(0.0) == Approx(1.10).margin(0.04));
}

TEST_CASE("flat panels stand upright: the crown's tip is up", "[seam][panels]") {
  const auto set = make_panels(hood_seams({}, {}), {});
  for (const Panel& p : set->panels) {
    if (p.name.find("crown") == std::string::npos) continue;
    std::size_t top = 0;
    for (std::size_t v = 0; v < p.solid.vertices.size(); ++v)
      if (p.solid.vertices[v].y() > p.solid.vertices[top].y()) top = v;
    double high = -1e9, low = 1e9;
    for (const Vec2& q : p.flat) high = std::max(high, q.y()), low = std::min(low, q.y());
    CAPTURE(p.name);
    CHECK(p.flat[top].y() > low + 0.9 * (high - low));
  }
}

TEST_CASE("a cube's seams turn by a right angle outwards", "[seam][panels]") {
  SeamMesh cube;
  cube.mesh = test::cube(40.0);
  // All edges between different faces are one seam.
  const Topology topo = topology_of(cube.mesh);
  for (const auto& e : topo.edges) {
    const Vec3 a = area_vector(cube.mesh, cube.mesh.triangles[e.left]),
               b = area_vector(cube.mesh, cube.mesh.triangles[e.right]);
    if (a.normalized().dot(b.normalized()) < 0.5) cube.seam_of[edge_of(e.a, e.b)] = SeamId{0};
  }
  cube.seam_names = {"edges"};
  const auto set = make_panels(cube, {.thickness_mm = 0.0});
  REQUIRE(set);
  CHECK(set->panels.size() == 6);
  CHECK(set->seams[0].mean_turn_rad == Approx(kPi / 2));
  CHECK(set->seams[0].length_3d_mm == Approx(12 * 40.0));
  for (const Panel& p : set->panels) CHECK(p.strain.max < 1e-4);
}

TEST_CASE("numbers outside their limits are refused by name", "[seam][panels]") {
  CHECK(check_seams({.gores_per_side = 0}).error().where == "seams/gores");
  CHECK(check_seams({.gores_per_side = 9}).error().text.find("1 to 8") != std::string::npos);
  CHECK(check_seams({.middle_mm = 20}).error().where == "seams/middle");
  CHECK(check_seams({.belt_up_mm = 200}).error().where == "seams/belt-up");
  CHECK_FALSE(seam_preset_from("zigzag"));
}

TEST_CASE("letters go on after Z", "[seam][panels]") {
  CHECK(letter_of(0) == "A");
  CHECK(letter_of(25) == "Z");
  CHECK(letter_of(26) == "AA");
  CHECK(letter_of(53) == "BB");
}

TEST_CASE("a mirrored form's seams share their letters left and right", "[seam][panels]") {
  const auto set = make_panels(hood_seams({}, {}), {});
  std::map<std::string, std::vector<std::string>> by_letter;
  for (const Seam& s : set->seams) by_letter[s.letter].push_back(s.name);
  CHECK(by_letter.size() == 5);
  for (const auto& [letter, names] : by_letter) CHECK((names.size() == 2 || names[0].find("centre") == 0));
}

TEST_CASE("flattening all panels stops when asked", "[seam][panels]") {
  const auto stopped = make_panels(hood_seams({}, {}), {}, Progress([](double f) { return f < 0.2; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
}

TEST_CASE("what is too small to cut goes to the panel it runs on into, not over a fold", "[seam][panels]") {
  // A low band in ten pieces, each below the least size, between a dome and a level brim.
  Build b = test::demo();
  b.parts.clear();
  Part dome = *part_from_preset("petal-dome");
  for (const auto& [dial, value] : {std::pair{"ring2.up", 20.0}, {"brim.front", 22.0}, {"ring1.longer", 30.0}}) {
    const auto turned = with_dial(dome, dial, value);
    REQUIRE(turned);
    dome = *turned;
  }
  REQUIRE(add_part(b, dome));
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.panels);
  int brims = 0;
  for (const Panel& p : d.panels->panels) {
    CAPTURE(p.name);
    CHECK_FALSE(p.overlaps);
    CHECK(p.flipped == 0);
    CHECK(p.strain.p99 < 0.05);
    const Vec3 size = box_of(p.solid.vertices).size();
    if (size.x() < 120.0 || size.z() < 120.0) continue;
    ++brims;
    CHECK(size.y() < 10.0);  // level: nothing of the band hangs on it
  }
  CHECK(brims == 1);
}

TEST_CASE("a brim that turns by more than a full turn is cut in halves, a level one once", "[seam][panels]") {
  const auto brims = [](double drop_mm) {
    Build b = test::demo();
    b.parts.clear();
    Part hat = *part_from_preset("cone-hat");
    for (const auto& [dial, value] :
        {std::pair{"brim.side", 48.0}, {"brim.back", 72.0}, {"brim.curl", 10.0}, {"ring1.drop", drop_mm}}) {
      const auto turned = with_dial(hat, dial, value);
      REQUIRE(turned);
      hat = *turned;
    }
    hat.seams = {SeamPreset::side_middle_side, 3, 110.0, false, 5.0, false};
    REQUIRE(add_part(b, hat));
    const Derived d = test::chain()->derive(b);
    REQUIRE(d.panels);
    std::vector<Panel> found;
    for (const Panel& p : d.panels->panels) {
      CAPTURE(drop_mm, p.name);
      CHECK_FALSE(p.overlaps);
      CHECK(p.flipped == 0);
      if (const Vec3 size = box_of(p.solid.vertices).size(); size.y() < 90.0 && size.z() > 330.0) found.push_back(p);
    }
    return found;
  };
  const auto level = brims(0.0), wavy = brims(-12.0);
  REQUIRE(level.size() == 1);
  REQUIRE(wavy.size() == 2);
  CHECK(wavy[1].mirror_of == wavy[0].id);
  for (const BorderEdge& e : level[0].border)
    if (std::abs(level[0].solid.vertices[e.a].x()) + std::abs(level[0].solid.vertices[e.b].x()) < 1e-9)
      CHECK(level[0].solid.vertices[e.a].z() < 0.0);  // its one cut is at the back
}

TEST_CASE("random panels of random forms: none turns over and none lies over itself", "[seam][panels][property]") {
  Random random(5);
  int panels = 0, builds = 0, refused = 0, over = 0;
  const int wanted = test::tries(500, 2000);
  while (panels < wanted && builds < 4 * wanted / 5) {
    Build b = test::demo();
    b.parts.clear();
    const auto& presets = part_presets();
    const std::string preset =
        presets[static_cast<std::size_t>(random.uniform(0.0, static_cast<double>(presets.size()) - 1e-9))].id;
    REQUIRE(add_part(b, *part_from_preset(preset)));
    const double round_mm = random.uniform(520.0, 610.0);
    b.tape = sheet_of({{MeasureId::HC, round_mm}, {MeasureId::HL, round_mm * random.uniform(0.34, 0.352)},
                          {MeasureId::HB, round_mm * random.uniform(0.265, 0.277)}},
        "adult");
    Part& part = b.parts[0];
    part.seams = {random.uniform(0, 1) < 0.5 ? SeamPreset::gores : SeamPreset::side_middle_side,
        static_cast<int>(random.uniform(1.0, 7.99)), 110.0, random.uniform(0, 1) < 0.5, 5.0, false};
    for (const Dial& d : dials_of(part))
      if (d.facts.kind != DialKind::choice && random.uniform(0, 1) < 0.25)
        d.turn(std::clamp(d.value() + 0.25 * (d.facts.most - d.facts.least) * random.uniform(-0.5, 0.5), d.facts.least,
            d.facts.most));
    Derived kept;
    const Derived end = test::chain()->derive(b, Progress([&](double) { return !kept.panels; }), [&](const Derived& d) {
      if (d.panels) kept = d;
    });
    ++builds;
    if (!kept.panels) {
      ++refused;
      REQUIRE(end.error);
      CHECK_FALSE(end.error->text.empty());
      continue;
    }
    for (const Panel& p : kept.panels->panels) {
      if (p.mirror_of) continue;
      ++panels;
      CAPTURE(preset, p.name);
      CHECK(p.flipped == 0);
      over += p.overlaps ? 1 : 0;
    }
    const bool any =
        std::any_of(kept.panels->panels.begin(), kept.panels->panels.end(), [](const Panel& p) { return p.overlaps; });
    const auto remarks = judge(b, kept, test::chain()->materials());
    CHECK(std::any_of(remarks.begin(), remarks.end(), [](const Remark& r) { return r.id == "seam.overlap"; }) == any);
  }
  CAPTURE(builds, refused, over);
  CHECK(over == 0);
  CHECK(panels >= wanted);
  CHECK(refused < builds / 3);
}

TEST_CASE("on a mirrored form the same letter stands for the same seam left and right", "[seam][letters][property]") {
  for (const DemoEntry& entry : demo_gallery()) {
    INFO(entry.name);
    const Derived d = test::chain()->derive(entry.make(Day{20000}));
    REQUIRE(d.panels);
    std::map<std::string, double> length;
    for (const Seam& s : d.panels->seams) {
      if (s.name.find(" right") == std::string::npos && s.name.find(" left") == std::string::npos) continue;
      CAPTURE(s.letter, s.name);
      const auto [known, fresh] = length.try_emplace(s.letter, s.length_3d_mm);
      if (!fresh) CHECK(known->second == Approx(s.length_3d_mm).margin(0.5));
    }
    // What a twin panel is joined to is the twin of what the panel is joined to.
    for (const Panel& p : d.panels->panels) {
      if (!p.mirror_of) continue;
      std::multiset<std::string> own, its;
      for (const Seam& s : d.panels->seams)
        for (const PanelId id : s.panels) {
          if (id == p.id) own.insert(s.letter);
          if (id == *p.mirror_of) its.insert(s.letter);
        }
      CHECK(own == its);
    }
  }
}

TEST_CASE("wherever a belt crosses the gores of a mask, every triangle is in one panel and both sides are alike",
    "[seam][mirror][property]") {
  Build b = *demo_by_name("otter-pup", Day{20000});
  b.parts = {b.parts[1]};
  b.fit = {}, b.dress = {};  // its slit was in the part that is gone
  b.parts[0].on = 0;
  for (const int gores : {1, 2, 3, 4}) {
    b.parts[0].seams.gores_per_side = gores;
    for (double up = -32.0; up <= 8.0; up += 8.0) {
      CAPTURE(gores, up);
      b.parts[0].seams.belt_up_mm = up;
      const Derived d = test::chain()->derive(b);
      REQUIRE(d.panels);
      std::vector<int> count(d.panels->form.mesh.triangles.size(), 0);
      for (const Panel& p : d.panels->panels)
        for (const int f : p.faces) {
          REQUIRE(f < static_cast<int>(count.size()));
          ++count[f];
        }
      CHECK(std::all_of(count.begin(), count.end(), [](int n) { return n == 1; }));
      // Left and right have as much seam of every letter.
      std::map<std::string, double> left, right;
      for (const Seam& s : d.panels->seams) {
        CHECK(s.panels[0].valid());
        if (s.name.find(" left") != std::string::npos) left[s.letter] += s.length_3d_mm;
        if (s.name.find(" right") != std::string::npos) right[s.letter] += s.length_3d_mm;
      }
      CHECK(left.size() == right.size());
      for (const auto& [letter, mm] : left) CHECK(right[letter] == Approx(mm).margin(0.5));
    }
  }
}
