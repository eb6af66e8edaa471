#include <QListWidget>

#include "core/steps/assembly.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

/// A demo as it is before anybody thought of where to cut it: wraps without a seam, all else in as few pieces as its
/// source knows.
Build bare(const DemoEntry& entry) {
  Build b = entry.make(Day{20731});
  for (Part& part : b.parts) {
    part.seams = {};
    part.seams.preset = SeamPreset::none, part.seams.belt = false;
    part.drawn.clear();
    if (auto* rings = std::get_if<RingsSpec>(&part.shape)) rings->pieces_round = 1;
    if (auto* sweep = std::get_if<SweepSpec>(&part.shape)) sweep->strips = 1, sweep->lengths = 1;
  }
  return b;
}

std::vector<Remark> of_seams(Bench& bench) {
  std::vector<Remark> found;
  for (const Remark& r : bench.derived().remarks)
    if (r.id == "seam.strain" || r.id == "seam.overlap" || r.id == "form.part" || r.id == "chain.stopped")
      found.push_back(r);
  return found;
}

/// Presses the first remedy of the first remark about seams, stepping to it as a maker would. False if there is none.
bool press_remedy(Bench& bench) {
  const auto about = of_seams(bench);
  for (const Remark& wanted : about) {
    if (wanted.remedies.empty()) continue;
    for (std::size_t step = 0; step <= bench.derived().remarks.size(); ++step) {
      if (bench.text("remark-text") == QString::fromStdString(wanted.sentence)) {
        QTest::mouseClick(&bench.find<QPushButton>("remark-remedy"), Qt::LeftButton);
        bench.settle();
        return true;
      }
      QTest::mouseClick(&bench.find<QPushButton>("remark-next"), Qt::LeftButton);
    }
  }
  return false;
}

void take_from_bare(const std::string& id) {
  Bench bench;
  const auto entry =
      std::find_if(demo_gallery().begin(), demo_gallery().end(), [&](const DemoEntry& e) { return e.id == id; });
  REQUIRE(entry != demo_gallery().end());
  bench.window.document().replace(bare(*entry), {});
  bench.settle();
  bench.go("form");
  auto& parts = bench.find<QListWidget>("parts");
  REQUIRE(parts.count() == static_cast<int>(bench.build().parts.size()));
  // Every wrap in hand once: gores as its maker would begin, the rest by what the remarks offer.
  const Build meant = entry->make(Day{20731});
  for (int row = 0; row < parts.count(); ++row) {
    const Part& part = meant.parts[row];
    if (!std::holds_alternative<WrapSpec>(part.shape)) continue;
    bench.go("form");
    parts.setCurrentRow(row);
    bench.settle();
    bench.go("seams");
    bench.choose("seam-preset", "gores");
    bench.find<QSpinBox>("gores").setValue(part.seams.gores_per_side);
    bench.settle();
    if (!part.seams.belt) continue;
    QTest::mouseClick(
        &bench.find<QCheckBox>("belt"), Qt::LeftButton, {}, QPoint(8, bench.find<QCheckBox>("belt").height() / 2));
    bench.settle();
    bench.type("belt-up", std::to_string(part.seams.belt_up_mm).c_str());
  }
  bench.go("seams");
  for (int presses = 0; presses < 14 && !of_seams(bench).empty() && press_remedy(bench); ++presses) {
  }
  for (const Remark& r : of_seams(bench)) {
    CAPTURE(r.sentence);
    CHECK(r.sentence.empty());
  }
  REQUIRE(bench.derived().complete());
  const Foam foam = *foam_of(bench.build().foam, test::chain()->materials());
  for (const Panel& p : bench.derived().panels->panels) {
    CAPTURE(p.name);
    CHECK(p.strain.p99 <= foam.strain_heated);
    CHECK(p.flipped == 0);
    CHECK_FALSE(p.overlaps);
  }
  for (const Seam& s : bench.derived().panels->seams) CHECK(std::abs(s.side_mm[0] - s.side_mm[1]) <= 0.05);
  // And so to the build sheet.
  CHECK(assemble(bench.build(), bench.derived(), test::chain()->materials()));
}

}  // namespace

// One case each, so that one that fails does not hide the others. All of them: from bare to good pieces, in the window.
TEST_CASE("the Heron Warden is taken from bare to good pieces", "[app][seams][demos]") {
  take_from_bare("heron-warden");
}
TEST_CASE("the Ferry Keeper is taken from bare to good pieces", "[app][seams][demos]") {
  take_from_bare("ferry-keeper");
}
TEST_CASE("the Almanac Seller is taken from bare to good pieces", "[app][seams][demos]") {
  take_from_bare("almanac-seller");
}
TEST_CASE("the Toll Clerk is taken from bare to good pieces", "[app][seams][demos]") { take_from_bare("toll-clerk"); }
TEST_CASE("the Thicket Ram is taken from bare to good pieces", "[app][seams][demos]") { take_from_bare("thicket-ram"); }
TEST_CASE("the Reed Mask is taken from bare to good pieces", "[app][seams][demos]") { take_from_bare("reed-mask"); }
TEST_CASE("the Eel Catcher is taken from bare to good pieces", "[app][seams][demos]") { take_from_bare("eel-catcher"); }
TEST_CASE("the Lamp Post is taken from bare to good pieces", "[app][seams][demos]") { take_from_bare("lamp-post"); }
TEST_CASE("the Marsh Guard is taken from bare to good pieces", "[app][seams][demos]") { take_from_bare("marsh-guard"); }
TEST_CASE("the Otter Pup is taken from bare to good pieces", "[app][seams][demos]") { take_from_bare("otter-pup"); }
