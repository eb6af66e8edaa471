// Every material, pair of materials, glue, coat and way of making, walked through the plan and the build sheet: nothing
// that hurts or ruins is advised. What hurts is told here by a table of its own, not by the code under test.
#include <catch2/catch.hpp>

#include "core/steps/assembly.hpp"
#include "core/derived/stuffs.hpp"
#include "support/bench_data.hpp"
#include "support/finishing_rules.hpp"

using namespace awl;

namespace {

/// What this project knows of its materials from their taboos and their kinds.
const std::set<std::string> kNoHeat{"soft-block", "insulation-board", "card", "fabric", "mesh"};
const std::set<std::string> kHeatOutdoors{"rigid-pvc"};
const std::set<std::string> kEaten{"insulation-board"};
const std::set<std::string> kFogged{"clear-sheet", "tinted-sheet"};
const std::set<std::string> kSoaks{"soft-block", "fabric"};
const std::map<std::string, std::string> kGlueBases{{"contact", "solvent"}, {"spray-glue", "solvent"},
    {"contact-water", "water"}, {"instant", "vapour"}, {"hot-glue", "hot"}, {"epoxy", "epoxy"}};
const std::set<std::string> kSolventCoats{
    "Rubber coat", "Filler from a can, sprayed", "Spray paint colour", "Clear coat, sprayed"};
const std::set<std::string> kWaterSeals{"Wood glue and water", "Flexible primer, brushed", "House paint"};

bool harms(const std::string& glue, const std::string& face) {
  const std::string& base = kGlueBases.at(glue);
  const bool solvent = base == "solvent" || base == "vapour";
  return (kEaten.count(face) != 0 && (solvent || base == "hot")) || (kFogged.count(face) != 0 && solvent) ||
      (kSoaks.count(face) != 0 && base == "vapour");
}

std::string glue_in(const std::string& text) {
  std::string longest, id;
  for (const Glue& g : test::materials().glues)
    if (text.find(g.name) != std::string::npos && g.name.size() > longest.size()) longest = g.name, id = g.id;
  return id;
}

bool speaks_of_heat(const std::string& text) {
  for (const char* word : {"with heat", "Heat ", "heat gun", "Warm ", "hot air"})
    if (text.find(word) != std::string::npos) return true;
  return false;
}

CoatSpec coat(const std::string& glue, const std::string& seal, const std::string& paint, const std::string& clear) {
  CoatSpec spec;
  spec.glue = glue, spec.seal = seal, spec.paint = paint, spec.clear = clear, spec.start = Day{20731},
  spec.due = Day{20800};
  return spec;
}

void check_plan(const FinishWork& work, const CoatSpec& spec, const std::string& one, const std::string& other) {
  const auto served = serve(spec, work, test::materials());
  CAPTURE(one, other, spec.glue, spec.seal, spec.paint, spec.clear);
  REQUIRE(served);
  std::map<std::string, bool> sealed;
  for (const WorkStep& w : expand(spec, *served, work, test::finishing_rules()).project.steps) {
    struct {
      std::string id, name, caution;
      bool outdoors;
    } const s{rule_of(w.id), w.title + ": " + w.scope, joined_cautions(w.cautions), w.outdoors};
    CAPTURE(s.id, s.name, s.caution);
    if (s.id == "heat-shape" || s.id == "heat-seal") {
      CHECK_FALSE((kNoHeat.count(one) != 0 && kNoHeat.count(other) != 0));
      for (const std::string& m : kNoHeat) CHECK(s.name.find(test::materials().foam(m)->name) == std::string::npos);
      if (s.name.find("PVC") != std::string::npos ||
          (kHeatOutdoors.count(one) != 0 && kHeatOutdoors.count(other) != 0)) {
        CHECK(s.outdoors);
        CHECK(s.caution.find("utdoors only") != std::string::npos);
        CHECK(s.caution.find("air the room") == std::string::npos);
      }
      CHECK_FALSE(s.caution.empty());
    }
    if (s.id == "glue") {
      // Only what joins something: the harm must be in no joint that this glue is planned for.
      const std::string glue = glue_in(s.name);
      REQUIRE_FALSE(glue.empty());
      const bool serves_one = !harms(glue, one), serves_other = !harms(glue, other),
                 serves_both = serves_one && serves_other;
      CHECK((serves_one || serves_other || serves_both));
      CHECK_FALSE(s.caution.empty());
    }
    if (s.id == "padding") {
      const std::string glue = glue_in(s.name);
      REQUIRE_FALSE(glue.empty());
      CHECK_FALSE(harms(glue, "soft-block"));
      for (const std::string& m : {one, other}) CHECK_FALSE(harms(glue, m));
    }
    const bool solvent = std::any_of(kSolventCoats.begin(), kSolventCoats.end(),
        [&](const std::string& c) { return s.name.find(c) != std::string::npos; });
    const bool water = std::any_of(kWaterSeals.begin(), kWaterSeals.end(),
        [&](const std::string& c) { return s.name.find(c) != std::string::npos; });
    if (s.id == "seal" && water) sealed[one] = true;
    if (solvent) {
      CHECK_FALSE(s.caution.empty());
      // Alone on what solvents eat, it comes only over a water-based seal; what is looked through is masked.
      if (kEaten.count(one) != 0 && one == other) CHECK(sealed[one]);
      if ((kFogged.count(one) != 0) != (kFogged.count(other) != 0)) CHECK(s.caution.find("Mask") != std::string::npos);
      CHECK_FALSE((kFogged.count(one) != 0 && kFogged.count(other) != 0));
    }
  }
}

FinishWork work_of(const Foam& one, const Foam& other) {
  FinishWork work = work_on(one, {6, 2.0, 0.1});
  work.stuffs.front().parts = {"hood"};
  if (other.id == one.id) return work;
  work.stuffs.push_back({other, {"visor"}, {2, 0.5, 0.03}, true, true, false});
  work.joints.push_back({other, other, 0.5, "visor", "visor", {}});
  work.joints.push_back({one, other, 0.3, "visor on form", "visor", "form"});
  return work;
}

/// Two parts, one on the other, made of any two materials: the pieces say which, nothing is laid out anew.
struct Pair {
  Build build;
  Derived derived;
};
const Pair& hood_with_ear() {
  static const Pair pair = [] {
    Pair p;
    p.build = test::demo();
    p.build.parts.resize(1);
    Part ear = *part_from_preset("emblem");
    REQUIRE(add_part(p.build, ear, p.build.parts[0].id));
    p.derived = test::chain()->derive(p.build);
    REQUIRE(p.derived.complete());
    return p;
  }();
  return pair;
}

Pair made_of(const Foam& one, const Foam& other) {
  Pair pair = hood_with_ear();
  pair.build.foam.foam = one.id;
  pair.build.parts[1].stuff = other.id;
  auto pieces = *pair.derived.pieces;
  for (Piece& p : pieces)
    p.stuff = p.panel.valid() && pair.derived.panels->panels[p.panel.value].part == 1 ? other.id : "";
  pair.derived.pieces = std::make_shared<const std::vector<Piece>>(std::move(pieces));
  return pair;
}

void check_sheet(const Pair& pair, const Foam& one, const Foam& other) {
  const auto sheet = assemble(pair.build, pair.derived, test::materials());
  REQUIRE(sheet);
  bool fixed_on = false, wear = false;
  for (const BuildStep& s : sheet->steps) {
    std::string all = s.title;
    for (const std::string& line : s.lines) all += " " + line;
    CAPTURE(one.id, other.id, pair.build.coat.glue, all, s.caution);
    if (s.kind == StepKind::prepare && speaks_of_heat(s.title)) {
      const bool outdoors = s.title.find("outdoors") != std::string::npos;
      const std::set<std::string> both{one.id, other.id};
      CHECK(std::any_of(both.begin(), both.end(),
          [&](const std::string& m) { return kNoHeat.count(m) == 0 && (kHeatOutdoors.count(m) != 0) == outdoors; }));
      if (outdoors) CHECK(s.caution.find("utdoors only") != std::string::npos);
      // A piece of what bears no heat is not among them.
      for (const Piece& p : *pair.derived.pieces) {
        const std::string m = p.stuff.empty() ? one.id : p.stuff;
        const std::string line = std::to_string(p.number) + ", " + p.name + ": ";
        if (kNoHeat.count(m) != 0 || (kHeatOutdoors.count(m) != 0) != outdoors)
          CHECK(all.find(" " + line) == std::string::npos);
      }
    }
    if (!s.glue) continue;
    const bool on_other = s.title.starts_with("Fix the ");
    fixed_on = fixed_on || on_other;
    std::set<std::string> faces;
    for (const SeamId seam : s.seams)
      for (const PanelId p : pair.derived.panels->seams[seam.value].panels)
        faces.insert(pair.derived.panels->panels[p.value].part == 1 ? other.id : one.id);
    if (on_other) faces = {one.id, other.id};
    for (const std::string& face : faces) CHECK_FALSE(harms(s.glue->id, face));
    CHECK(s.caution.find(s.glue->caution) != std::string::npos);
    CHECK_FALSE(s.caution.empty());
  }
  for (const BuildStep& s : sheet->steps)
    wear = wear || (s.kind == StepKind::wear && s.caution.find("sight and hearing") != std::string::npos);
  CHECK(fixed_on);
  CHECK(wear);
}

}  // namespace

TEST_CASE("no plan advises what a material does not bear", "[builds][harm]") {
  for (const Foam& one : test::materials().foams)
    for (const Foam& other : test::materials().foams)
      for (const Glue& glue : test::materials().glues)
        for (const Coating& seal : test::materials().seals)
          for (const Coating& paint : test::materials().paints)
            for (const Coating& clear : test::materials().clears) {
              if (one.id != other.id && glue.id != "contact" && seal.id != "rubber")
                continue;  // pairs with each glue, and with each coat
              check_plan(work_of(one, other), coat(glue.id, seal.id, paint.id, clear.id), one.id, other.id);
            }
}

TEST_CASE("with stretch by heat off, no plan shapes anything with it", "[builds][harm]") {
  for (const Foam& one : test::materials().foams) {
    FinishWork work = work_of(one, one);
    work.heated = false;
    const auto plan = plan_finishing(
        coat("contact-water", "primer", "acrylic", "matt"), work, test::materials(), test::finishing_rules());
    REQUIRE(plan);
    CHECK(std::none_of(
        plan->steps.begin(), plan->steps.end(), [](const PlannedStep& s) { return rule_of(s.id) == "heat-shape"; }));
  }
}

TEST_CASE("no build sheet glues or heats what does not bear it, for every pair and glue", "[builds][harm]") {
  for (const Foam& one : test::materials().foams)
    for (const Foam& other : test::materials().foams) {
      Pair pair = made_of(one, other);
      for (const Glue& glue : test::materials().glues) {
        pair.build.coat.glue = glue.id;
        check_sheet(pair, one, other);
      }
    }
}

TEST_CASE("slabs, blocks, nets and drawn visors see the material they are made of", "[builds][harm]") {
  Build build = hood_with_ear().build;
  build.coat.glue = "instant";  // soaks into soft block
  for (const Way way : {Way::slabs, Way::carve}) {
    build.parts[1].way.way = way, build.parts[1].way.block = "soft-block";
    const Derived d = test::chain()->derive(build);
    REQUIRE(d.complete());
    const auto sheet = assemble(build, d, test::materials());
    REQUIRE(sheet);
    for (const BuildStep& s : sheet->steps) {
      if (s.title.find(build.parts[1].name) == std::string::npos || s.kind == StepKind::compare ||
          s.kind == StepKind::dry_fit)
        continue;
      CAPTURE(s.title, s.caution);
      if (s.glue) CHECK(s.glue->id != "instant");
      CHECK_FALSE(speaks_of_heat(s.title));
    }
    CHECK(std::any_of(
        d.plan->remarks.begin(), d.plan->remarks.end(), [](const Remark& r) { return r.id == "coat.glue"; }));
  }
  build.parts[1].way.way = Way::drawn;
  for (const Foam& sheet : test::materials().foams) {
    build.parts[1].way.sheet = sheet.id;
    const Derived d = test::chain()->derive(build);
    const bool made = std::any_of(d.ways.begin(), d.ways.end(), [](const auto& w) { return w != nullptr; });
    CAPTURE(sheet.id);
    CHECK(made == (kNoHeat.count(sheet.id) == 0));
    for (const auto& way : d.ways)
      if (way && kHeatOutdoors.count(sheet.id) != 0)
        CHECK(way->steps.front().caution.find("utdoors only") != std::string::npos);
  }
}
