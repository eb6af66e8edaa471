#include "core/coat/work/time_table.hpp"

#include <catch2/catch.hpp>

#include "core/coat/work/generation.hpp"
#include "support/random_project.hpp"

using namespace awl;

namespace {

Project one_step(int hands_min, bool may_pause) {
  Project p;
  p.start = midnight_of(Day{20794});
  WorkStep s;
  s.id = "a";
  s.hands_min = hands_min;
  s.may_pause = may_pause;
  p.steps = {s};
  return p;
}

int slot(int hour, int minute, int day = 0) { return (day * 24 * 60 + hour * 60 + minute) / kSlotMin; }

}  // namespace

TEST_CASE("a step that cannot be laid down lies in one opening", "[coat][work]") {
  Project p = one_step(60, false);
  p.days.usual = {{9 * 60, 11 * 60, 1}, {14 * 60, 15 * 60, 1}};
  const TimeTable table(p, 2);
  const StepSlots& slots = table.of(0);
  CHECK_FALSE(slots.pauses);
  CHECK(slots.next_start[0] == slot(9, 0));
  CHECK(slots.finish[slot(9, 0)] == slot(10, 0));
  CHECK(slots.finish[slot(10, 5)] == -1);
  CHECK(slots.next_start[slot(10, 5)] == slot(14, 0));
  CHECK(slots.next_start[slot(14, 5)] == slot(9, 0, 1));
  CHECK(slots.last_start[slot(13, 0)] == slot(10, 0));
  CHECK(slots.start_done_from(slot(10, 30)) == slot(9, 30));
  CHECK(slots.start_done_from(slot(11, 5)) == slot(14, 0));
}

TEST_CASE("a step that may be laid down needs half an hour before closing to be begun", "[coat][work]") {
  Project p = one_step(90, true);
  p.days.usual = {{9 * 60, 11 * 60, 1}};
  const TimeTable table(p, 3);
  const StepSlots& slots = table.of(0);
  CHECK(slots.finish[slot(10, 30)] == slot(10, 0, 1));
  CHECK(slots.finish[slot(10, 35)] == -1);
  // Openings shorter than that are taken from their beginning.
  p.days.usual = {{9 * 60, 9 * 60 + 20, 1}};
  const TimeTable brief(p, 10);
  CHECK(brief.of(0).finish[slot(9, 0)] == slot(9, 10, 4));
  CHECK(brief.of(0).finish[slot(9, 5)] == -1);
}

TEST_CASE("what is longer than any opening is laid down though it may not be, on any table", "[coat][work]") {
  Project p = one_step(180, false);
  p.days.usual = {{9 * 60, 11 * 60, 1}};
  CHECK(TimeTable(p, 3).of(0).pauses);
  // One long day far ahead would hold it, so it is not cut up, whether the table reaches there or not.
  p.days.on[Day{20794 + 30}] = {{9 * 60, 13 * 60, 1}};
  CHECK_FALSE(TimeTable(p, 3).of(0).pauses);
  CHECK(TimeTable(p, 3).of(0).next_start[0] == TimeTable(p, 3).end());
  CHECK(TimeTable(p, 40).of(0).next_start[0] == slot(9, 0, 30));
  // Closed, it does not count.
  p.days.closed.insert(Day{20794 + 30});
  CHECK(TimeTable(p, 3).of(0).pauses);
}

TEST_CASE("outdoors is where the days and the bench's hours overlap", "[coat][work]") {
  Project p = one_step(60, false);
  p.steps[0].outdoors = true;
  p.days.usual = {{9 * 60, 13 * 60, 1}};
  const Moment day = midnight_of(Day{20795});
  p.days.outdoors = std::vector<Span>{{day + 11 * 60 + 30, day + 20 * 60}};
  const TimeTable table(p, 3);
  CHECK(table.of(0).next_start[0] == slot(11, 30, 1));
  CHECK(table.of(0).finish[slot(12, 0, 1)] == slot(13, 0, 1));
  CHECK(table.of(0).finish[slot(12, 5, 1)] == -1);
}

TEST_CASE("ends never fall as starts rise, and each lies on open slots alone", "[coat][work][property]") {
  for (std::uint64_t seed = 0; seed < 12; ++seed) {
    const Project p = support::random_project(seed);
    const TimeTable table(p, 25);
    for (int i = 0; i < static_cast<int>(p.steps.size()); ++i) {
      const StepSlots& slots = table.of(i);
      int last = -1;
      bool rises = true, open = true, next = true;
      for (int s = 0; s < table.end(); ++s) {
        next = next && (slots.next_start[s] >= s) && (slots.finish[s] < 0 || slots.next_start[s] == s);
        if (slots.finish[s] < 0) continue;
        rises = rises && slots.finish[s] >= last;
        last = slots.finish[s];
        int worked = 0;
        for (int t = s; t < slots.finish[s]; ++t) worked += table.takes(p.steps[i], t) ? 1 : 0;
        open = open && worked == table.length_of(i) && (slots.pauses || slots.finish[s] - s == worked);
      }
      CAPTURE(seed, p.steps[i].id);
      CHECK(rises);
      CHECK(open);
      CHECK(next);
    }
  }
}

TEST_CASE("a generation of the same keys is the same, and limits are kept", "[coat][work][property]") {
  for (std::uint64_t seed = 0; seed < 10; ++seed) {
    CAPTURE(seed);
    const Project p = support::random_project(seed);
    const TimeTable table(p, 120);
    Generation generation(p, table);
    ScheduleKeys keys{generation.tails(1.0), std::vector<char>(p.links.size(), 0), std::vector<int>(p.steps.size(), 0)};
    const auto first = generation.run(keys), again = generation.run(keys);
    REQUIRE(first);
    REQUIRE(again);
    CHECK(first->start == again->start);
    // Limited to its own starts it is what it was; held back, nothing begins earlier than it may.
    std::vector<std::vector<int>> own;
    for (const int start : first->start) own.push_back({start});
    generation.limit_to(own);
    generation.be_limited(true);
    const auto limited = generation.run(keys);
    REQUIRE(limited);
    CHECK(limited->start == first->start);
    generation.be_limited(false);
    keys.not_before.assign(p.steps.size(), 300);
    const auto late = generation.run(keys);
    REQUIRE(late);
    CHECK(*std::min_element(late->start.begin(), late->start.end()) >= 300);
  }
}
