// A document under edits without end. NOGGIN_AWL_HARD=1 makes a million of them: ./run hard.
#include <QUndoStack>
#include <algorithm>

#include "app/desk/document.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"
#include "support/effort.hpp"
#include "support/memory.hpp"
#include "support/random_edits.hpp"

using namespace awl;
using awl::test::held_mb;

namespace {

std::string inputs_of(const Build& build) { return *build_bytes(build); }

/// What a stage that failed would have been made of may be there, and nothing made of what it lacks.
bool nothing_behind_a_failed_stage(const Derived& d) {
  const bool there[] = {d.head != nullptr, d.form != nullptr, d.panels != nullptr, d.pieces != nullptr,
      d.layout != nullptr, d.plan != nullptr};
  return std::is_sorted(std::begin(there), std::end(there), std::greater<>());
}

}  // namespace

TEST_CASE("edits without end are undone one by one to what there was, and every build is read back", "[app][long]") {
  const int edits = test::tries(4'000, 1'000'000), stretch = 500;
  support::RandomEdits make(77);
  Document document(test::chain(), *demo_by_name("heron-warden", Day{20794}));
  document.setPatience(std::chrono::milliseconds(0));
  std::shared_ptr<Build> before = std::make_shared<Build>(document.build());
  int taken = 0, refused = 0;
  double held = 0.0;
  for (int i = 0; i < edits; ++i) {
    if (i % 20'000 == 19'999) {
      const auto& gallery = demo_gallery();
      document.replace(gallery[static_cast<std::size_t>(i / 20'000) % gallery.size()].make(Day{20794}), {});
      *before = document.build();
    }
    const auto next = make.next(document.build());
    if (!next) {
      ++refused;
      REQUIRE_FALSE(next.error().text.empty());
      continue;
    }
    taken += document.edit(QStringLiteral("edit"), [&](Build& b) { b = *next; }) ? 1 : 0;
    if (i % stretch != stretch - 1) continue;
    // Some way back and forth again; what is read back from a file is what was written.
    const Build now = document.build();
    const int steps = document.undoStack().index();
    for (int k = 0; k < steps; ++k) document.undoStack().undo();
    REQUIRE(document.build() == *before);
    for (int k = 0; k < steps; ++k) document.undoStack().redo();
    REQUIRE(document.build() == now);
    const auto read = build_from_bytes(inputs_of(now));
    REQUIRE(read);
    REQUIRE(*read == now);
    document.replace(now, {});
    *before = now;
    if (i == 10 * stretch - 1 || i == 6 * stretch - 1) held = held_mb();
  }
  CAPTURE(taken, refused, held, held_mb());
  CHECK(taken > edits / 3);
  CHECK(refused > 0);
  // Nothing is held on to: no more than a fifth and 60 MB over what there was in the beginning.
  CHECK(held_mb() < 1.2 * held + 60.0);
}

TEST_CASE("after any edits the chain that remembers says what a fresh one says", "[app][long]") {
  const int rounds = test::tries(3, 300), edits = 12;
  support::RandomEdits make(4);
  for (int round = 0; round < rounds; ++round) {
    CAPTURE(round);
    const auto& gallery = demo_gallery();
    Build build = gallery[static_cast<std::size_t>(round) % gallery.size()].make(Day{20794});
    for (int k = 0; k < edits; ++k) {
      const auto next = make.next(build);
      if (!next) continue;
      build = *next;
      if (k % 4 == 3) (void)test::chain()->derive(build);
    }
    const auto fresh = Chain::load(data_folder());
    REQUIRE(fresh);
    const Derived one = test::chain()->derive(build), other = (*fresh)->derive(build);
    CHECK(one.error.has_value() == other.error.has_value());
    if (one.error) CHECK(one.error->text == other.error->text);
    REQUIRE((one.pieces != nullptr) == (other.pieces != nullptr));
    if (one.pieces) {
      REQUIRE(one.pieces->size() == other.pieces->size());
      for (std::size_t i = 0; i < one.pieces->size(); ++i)
        CHECK((*one.pieces)[i].knife_line() == (*other.pieces)[i].knife_line());
    }
    REQUIRE(one.remarks.size() == other.remarks.size());
    for (std::size_t i = 0; i < one.remarks.size(); ++i) CHECK(one.remarks[i].sentence == other.remarks[i].sentence);
  }
}

TEST_CASE("derivations without end are each whole or told, and hold on to nothing", "[app][long]") {
  const int derivations = test::tries(6, 10'000), settled = derivations / 4;
  support::RandomEdits make(91);
  const auto& gallery = demo_gallery();
  Build build = gallery.front().make(Day{20794});
  int whole = 0;
  double held = 0.0;
  for (int i = 0; i < derivations; ++i) {
    CAPTURE(i);
    if (i % 25 == 24) build = gallery[static_cast<std::size_t>(i / 25) % gallery.size()].make(Day{20794});
    if (const auto next = make.next(build)) build = *next;
    const Derived derived = test::chain()->derive(build);
    REQUIRE(derived.complete() == !derived.error.has_value());
    REQUIRE(nothing_behind_a_failed_stage(derived));
    if (derived.error) CHECK_FALSE(derived.error->text.empty());
    whole += derived.error ? 0 : 1;
    if (i == settled) held = held_mb();
    if (test::hard() && i % 500 == 499) UNSCOPED_INFO("after " << i + 1 << " derivations " << held_mb() << " MB");
  }
  CAPTURE(whole, held, held_mb());
  CHECK(whole > derivations / 2);
  if (test::hard()) CHECK(held_mb() < 1.2 * held + 60.0);
}
