#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

const Purchase* line(const Shopping& list, const std::string& id) {
  for (const Purchase& p : list.lines)
    if (p.id == id) return &p;
  return nullptr;
}

}  // namespace

TEST_CASE("rules of order are kept and all else stays where it was", "[builds][order]") {
  const std::vector<std::string> names{"lid", "cover", "rim, left", "rim, right", "lining"};
  CHECK(in_order(names, {}).value() == std::vector<int>{0, 1, 2, 3, 4});
  CHECK(in_order(names, {{"lining", "cover", ""}}).value() == std::vector<int>{0, 2, 3, 4, 1});
  CHECK(in_order(names, {{"rim", "lid", ""}}).value() == std::vector<int>{1, 2, 3, 0, 4});
}

TEST_CASE("random rules without a circle give an order that keeps every one", "[builds][order][property]") {
  Random r(GENERATE(range(1, 30)));
  std::vector<std::string> names;
  for (int i = 0; i < 12; ++i) names.push_back("p" + std::to_string(i) + ".");
  std::vector<int> hidden(12);
  for (int i = 0; i < 12; ++i) hidden[i] = i;
  for (int i = 11; i > 0; --i) std::swap(hidden[i], hidden[r.next() % static_cast<unsigned>(i + 1)]);
  std::vector<OrderRule> rules;
  for (int k = 0; k < 15; ++k) {
    const auto a = r.next() % 12, b = r.next() % 12;
    if (a < b) rules.push_back({names[hidden[a]], names[hidden[b]], ""});
  }
  const auto order = in_order(names, rules);
  REQUIRE(order);
  for (const OrderRule& rule : rules) {
    const auto at = [&](const std::string& n) {
      return std::find_if(order->begin(), order->end(), [&](int i) { return names[i] == n; });
    };
    CHECK(at(rule.first) < at(rule.then));
  }
}

TEST_CASE("a circle is named, whole and nothing else", "[builds][order]") {
  const auto circle = in_order({"lid", "cover", "strap", "rim"},
      {{"lid", "cover", ""}, {"cover", "strap", ""}, {"strap", "lid", ""}, {"strap", "rim", ""}});
  REQUIRE_FALSE(circle);
  CHECK(circle.error().code == Errc::no_solution);
  for (const char* name : {"lid", "cover", "strap"}) CHECK(circle.error().text.find(name) != std::string::npos);
  CHECK(circle.error().text.find("rim") == std::string::npos);
  CHECK(circle.error().text.find("lid before cover before strap before lid") != std::string::npos);
  CHECK(in_order({"lid"}, {{"lid", "lid", ""}}).error().text.find("itself") != std::string::npos);
  CHECK(in_order({"lid"}, {{"lid", "hinge", ""}}).error().text.find("hinge") != std::string::npos);
}

TEST_CASE("every demo's build sheet puts each panel on once and closes each seam once", "[builds][assembly]") {
  for (const DemoEntry& entry : demo_gallery()) {
    INFO(entry.name);
    const Build build = entry.make(Day{20000});
    const Derived d = test::chain()->derive(build);
    REQUIRE(d.complete());
    const auto sheet = assemble(build, d, test::chain()->materials());
    REQUIRE(sheet);
    std::multiset<PanelId> on;
    std::multiset<SeamId> closed;
    std::set<PanelId> there;
    for (const BuildStep& step : sheet->steps) {
      CHECK_FALSE(step.title.empty());
      if (step.kind != StepKind::glue) continue;
      // Nothing is joined to what is not there yet.
      for (const PanelId p : step.adds) on.insert(p), there.insert(p);
      for (const SeamId s : step.seams) {
        closed.insert(s);
        for (const PanelId p : d.panels->seams[s.value].panels) CHECK(there.count(p) == 1);
      }
      if (!step.seams.empty()) CHECK_FALSE(step.caution.empty());
    }
    CHECK(on.size() == d.panels->panels.size());
    CHECK(closed.size() == d.panels->seams.size());
    CHECK(std::set<SeamId>(closed.begin(), closed.end()).size() == closed.size());
    CHECK(sheet->steps.front().caution.find("blade") != std::string::npos);
    const auto list = shopping(build, d, test::chain()->materials());
    REQUIRE(list);
    CHECK(list->price > 0.0);
    CHECK(line(*list, "glue/contact")->need == std::ceil(9.0 * list->joint_mm2 / 10000.0));
  }
}

TEST_CASE("what sits on a part is glued after it, and a rule against that is refused", "[builds][assembly]") {
  Build build = *demo_by_name("heron-warden", Day{20000});
  const Derived d = test::chain()->derive(build);
  const auto sheet = assemble(build, d, test::chain()->materials());
  REQUIRE(sheet);
  int cowl = -1, crest = -1;
  for (int i = 0; i < static_cast<int>(sheet->order.size()); ++i) {
    const std::string& name = (*d.pieces)[sheet->order[i]].name;
    if (name.starts_with("cowl")) cowl = i;
    if (name.starts_with("swept crest") && crest < 0) crest = i;
  }
  CHECK(cowl < crest);
  build.order = {{"swept crest", "cowl", "wanted"}};
  const auto refused = assemble(build, d, test::chain()->materials());
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("circle") != std::string::npos);
}

TEST_CASE(
    "waits: contact cement stays within its minutes, help shortens, a second coat is quicker", "[builds][assembly]") {
  const auto& m = test::chain()->materials();
  const Glue contact = *m.glue("contact");
  CHECK(glue_wait_min(contact, 1, DryingHelp::none) == Approx(12.0));
  CHECK(glue_wait_min(contact, 2, DryingHelp::none) < 12.0);
  CHECK(glue_wait_min(contact, 2, DryingHelp::hair_dryer) == Approx(5.0));
  CHECK(glue_open_min(contact) > glue_wait_min(contact, 1, DryingHelp::none));
}

TEST_CASE("glue is for both faces of every seam, and stock is taken off what is bought", "[builds][shopping]") {
  const Derived& d = test::derived();
  const Build build = test::demo();
  const auto list = shopping(build, d, test::chain()->materials());
  REQUIRE(list);
  const double t = build.foam.thickness_mm;
  CHECK(list->joint_mm2 >= 2.0 * t * d.panels->seam_total_mm() * 0.97);
  CHECK(list->joint_mm2 <= 2.0 * t * d.panels->seam_total_mm() * 1.2);
  const Purchase* sheets = line(*list, "sheet/eva-firm/5");
  REQUIRE(sheets != nullptr);
  CHECK(sheets->need == d.layout->sheets);
  CHECK(sheets->price == Approx(13.0 * d.layout->sheets));
  const auto stocked =
      shopping(build, d, test::chain()->materials(), {{"sheet/eva-firm/5", 100.0}, {"glue/contact", 5.0}});
  CHECK(line(*stocked, "sheet/eva-firm/5")->buy == 0.0);
  CHECK(line(*stocked, "sheet/eva-firm/5")->price == 0.0);
  CHECK(line(*stocked, "glue/contact")->buy == line(*list, "glue/contact")->need - 5.0);
  const std::string csv = shopping_csv(*list);
  CHECK(std::count(csv.begin(), csv.end(), '\n') == static_cast<long>(list->lines.size()) + 1);
  CHECK(csv.find("\"EVA foam sheet, firm, 5 mm, 1000 x 600 mm\",") != std::string::npos);
  CHECK(shopping(build, {}, test::chain()->materials()).error().where == "foam/shopping");
}

TEST_CASE("a piece larger than the sheet is offered a larger one that is sold, and that mends it",
    "[builds][remarks][nest]") {
  Build b = test::demo();
  b.foam.sheet = {150.0, 150.0};
  const auto stopped = [](const Derived& d) -> const Remark* {
    for (const Remark& r : d.remarks)
      if (r.id == "chain.stopped") return &r;
    return nullptr;
  };
  const Derived small = test::chain()->derive(b);
  const Remark* r = stopped(small);
  REQUIRE(r != nullptr);
  REQUIRE_FALSE(r->remedies.empty());
  CHECK(r->remedies[0].act == "set-sheet 1000 600");
  CHECK(stopped(test::chain()->derive(*apply_act(b, r->remedies[0].act))) == nullptr);
}

TEST_CASE("heat on what must not be heated, and bends too tight, are remarked on with a way on",
    "[builds][remarks][materials]") {
  Build b = test::demo();
  const auto find = [](const Derived& d, const char* id) -> const Remark* {
    for (const Remark& r : d.remarks)
      if (r.id == id) return &r;
    return nullptr;
  };
  CHECK(find(test::chain()->derive(b), "foam.heat") == nullptr);
  b.foam.foam = "insulation-board", b.foam.thickness_mm = 10.0;
  const Derived board = test::chain()->derive(b);
  const Remark* heat = find(board, "foam.heat");
  REQUIRE(heat != nullptr);
  CHECK(heat->sentence.find("shrinks") != std::string::npos);
  CHECK(find(test::chain()->derive(*apply_act(b, heat->remedies[0].act)), "foam.heat") == nullptr);
  const Remark* bend = find(board, "foam.bend");
  REQUIRE(bend != nullptr);
  CHECK(*bend->measured < *bend->limit);
}

TEST_CASE("edges, margins, offcuts, held copies and rules of order are kept in the file", "[builds][noggin]") {
  Build b = test::demo();
  b.foam.cuts = {{1, "belt", EdgeCut::laced, 9.0}};
  b.foam.margins = {12, 20, 8, 0.6, 0.2};
  b.foam.offcuts = {{3, "odd \u201cblue\u201d", "eva-firm", 5.0, {{0, 0}, {120, 0}, {90, 80.5}}, Day{20500}}};
  b.foam.held = {{"crown", 1, 2, Vec2(10.25, -3), 1.5}};
  b.foam.nest_tries = 40, b.foam.turn_freely = false;
  b.foam.own_kind = *test::chain()->materials().foam("floor-mat");
  b.order = {{"lid", "cover", "it does not go through afterwards"}};
  const auto back = build_from_bytes(*build_bytes(b));
  REQUIRE(back);
  CHECK(*back == b);
}

TEST_CASE(
    "the maker's own sequence holds where no rule forbids it, and goes through the file", "[builds][assembly][order]") {
  Build b = *demo_by_name("ferry-keeper", Day{20731});
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const auto names_of = [&](const Build& build) {
    const auto sheet = assemble(build, d, test::chain()->materials());
    REQUIRE(sheet);
    std::vector<std::string> names;
    for (const int i : sheet->order) names.push_back((*d.pieces)[static_cast<std::size_t>(i)].name);
    return names;
  };
  const auto usual = names_of(b);
  REQUIRE(usual.size() >= 3);
  auto swapped = usual;
  std::swap(swapped[0], swapped[1]);
  b = with_sequence(b, swapped);
  CHECK(names_of(b) == swapped);
  // A rule of the maker's own comes before the wish.
  b.order.push_back({usual[0], usual[1], "it is under it"});
  const auto ruled = names_of(b);
  CHECK(std::find(ruled.begin(), ruled.end(), usual[0]) < std::find(ruled.begin(), ruled.end(), usual[1]));
  CHECK(build_from_bytes(*build_bytes(b)).value() == b);
  // Only some named: those change places among themselves, a name that is gone is passed over.
  b.order.clear();
  b = with_sequence(b, {usual[2], "a piece that was", usual[0]});
  const auto some = names_of(b);
  CHECK(some[0] == usual[2]);
  CHECK(some[1] == usual[1]);
  CHECK(some[2] == usual[0]);
}

TEST_CASE("a warm piece is bent over a former rounder than the form, a cold one is held by its seams",
    "[builds][assembly][bend]") {
  Build b = test::demo();
  b.foam.heated = true;
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const auto prepared = [&](const Build& build) {
    std::string all;
    const auto sheet = assemble(build, d, test::chain()->materials());
    REQUIRE(sheet);
    for (const BuildStep& step : sheet->steps)
      if (step.kind == StepKind::prepare)
        for (const std::string& line : step.lines) all += line + "\n";
    return all;
  };
  const Piece& first = *std::find_if(
      d.pieces->begin(), d.pieces->end(), [](const Piece& p) { return p.bend_across_mm > 0.0 && p.panel.valid(); });
  const double keeps = foam_of(b.foam, test::chain()->materials())->keeps_bend_heated;
  REQUIRE(keeps == Approx(0.8));
  const int former = static_cast<int>(5.0 * std::round(0.2 * keeps * first.bend_across_mm));
  CHECK(prepared(b).find("over a former " + std::to_string(former) + " mm across") != std::string::npos);
  b.foam.heated = false;
  CHECK(prepared(b).find("former") == std::string::npos);
  CHECK(prepared(b).find("held by its seams") != std::string::npos);
}
