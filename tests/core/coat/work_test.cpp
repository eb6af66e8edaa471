#include <catch2/catch.hpp>

#include <functional>

#include "core/coat/work/audit.hpp"
#include "core/coat/work/bound.hpp"
#include "core/coat/work/slack.hpp"
#include "core/io/plan_case.hpp"
#include "support/random_project.hpp"

using namespace awl;

namespace {

Project project_of(const std::string& text) {
  const auto json = json_in(text, "A test");
  REQUIRE(json);
  const auto project = project_from_json(*json);
  CAPTURE(project ? std::string() : project.error().text);
  REQUIRE(project);
  return *project;
}

std::string ready_of_case(const std::string& rest, const std::string& now = {}) {
  Project p = project_of(R"({"start":"2026-12-07T00:00",)" + rest + "}");
  if (!now.empty()) p.now = *parse_moment(now);
  const auto found = find_schedule(p);
  REQUIRE(found);
  CHECK(broken_by(without_undone(p, found->undone), found->schedule).empty());
  return iso_text(found->schedule.ready);
}

const std::string kTwoCoats =
    R"("steps":[{"id":"a","hands_min":60},{"id":"b","hands_min":45}],
"links":[{"from":"a","to":"b","wait_min":30,"within_min":120,"or_after_min":1440}])";

/// The earliest ready time of a small project, by trying every start of every step on the grid.
int exhaustive_ready(const Project& p, int days) {
  const TimeTable table(p, days);
  const int n = static_cast<int>(p.steps.size());
  std::vector<int> start(n, -1);
  int best = table.end();
  const std::vector<int> order = in_working_order(p);
  const std::function<void(int)> place = [&](int k) {
    if (k == n) {
      Schedule s;
      for (int i = 0; i < n; ++i) {
        const int finish = table.of(i).finish[start[i]];
        s.steps.push_back({table.moment_of(start[i]), table.moment_of(finish), {}, false});
        s.ready = std::max(s.ready, ready_of(p.steps[i], s.steps.back()));
      }
      if (table.slot_from(s.ready) < best && broken_by(p, s).empty()) best = table.slot_from(s.ready);
      return;
    }
    const int i = order[k];
    for (int t = 0; t < best; ++t) {
      if (table.of(i).finish[t] < 0) continue;
      bool allowed = true;
      for (const WorkLink& l : p.links)
        if (l.to == i) {
          const int lag = (t - table.of(l.from).finish[start[l.from]]) * kSlotMin;
          allowed = allowed && lag >= l.wait_min &&
              (!l.within_min || lag <= *l.within_min || (l.or_after_min && lag >= *l.or_after_min));
        }
      if (!allowed) continue;
      start[i] = t;
      place(k + 1);
    }
  };
  place(0);
  return best;
}

/// Three steps, with waits and windows, on short days.
Project small_project(std::uint64_t seed) {
  Random random(seed);
  Project p;
  p.start = midnight_of(Day{20794});
  p.days.usual = {{9 * 60, 9 * 60 + 30 * (2 + random.below(3)), 1}};
  p.places = 1 + random.below(2);
  for (int i = 0; i < 3; ++i) {
    WorkStep s;
    s.id = std::string(1, static_cast<char>('a' + i));
    s.hands_min = 15 * (1 + random.below(3));
    s.dries_min = random.below(2) * 45;
    s.places = s.dries_min > 0 ? 1 : 0;
    p.steps.push_back(s);
  }
  for (int i = 0; i < 2; ++i)
    for (int j = i + 1; j < 3; ++j) {
      if (random.uniform() < 0.4) continue;
      WorkLink l{i, j, 15 * random.below(4), {}, {}, ""};
      if (random.uniform() < 0.4) l.within_min = l.wait_min + 15 * random.below(4);
      if (l.within_min && random.uniform() < 0.7) l.or_after_min = *l.within_min + 600;
      p.links.push_back(l);
    }
  return p;
}

}  // namespace

TEST_CASE("plans worked out by hand come out as they must", "[coat][work]") {
  CHECK(ready_of_case(R"("open":[["09:00","13:00",1]],)" + kTwoCoats) == "2026-12-07T11:15");
  CHECK(ready_of_case(R"("open":[["09:00","10:30",1]],)" + kTwoCoats) == "2026-12-09T09:45");
  CHECK(ready_of_case(
            R"("open":[["09:00","13:00",1]],"closed":["2026-12-08"],
"steps":[{"id":"a","hands_min":300,"may_pause":true}])") == "2026-12-09T10:00");
  const std::string coats =
      R"("open":[["09:00","13:00",1]],"steps":[{"id":"a","hands_min":30,"dries_min":120},
{"id":"b","hands_min":30,"dries_min":120}],"places":)";
  CHECK(ready_of_case(coats + "1") == "2026-12-07T13:30");
  CHECK(ready_of_case(coats + "2") == "2026-12-07T12:00");
  CHECK(ready_of_case(
            R"("open":[["09:00","13:00",1]],"outdoor":[["2026-12-08T10:00","2026-12-08T15:00"]],
"steps":[{"id":"a","hands_min":60,"outdoors":true}])") == "2026-12-08T11:00");
  CHECK(ready_of_case(
            R"("open":[["09:00","10:45",1]],"steps":[{"id":"a","hands_min":60},{"id":"b","hands_min":30},
{"id":"c","hands_min":30}],"links":[{"from":"a","to":"b"},{"from":"b","to":"c","wait_min":15,"within_min":45}])") ==
      "2026-12-08T10:15");
}

TEST_CASE("a step that needs two pairs of hands waits until there are two", "[coat][work]") {
  CHECK(ready_of_case(
            R"("open":[["09:00","13:00",1]],"open_on":{"2026-12-09":[["16:00","18:00",2]]},
"steps":[{"id":"a","hands_min":60,"hands":2}])") == "2026-12-09T17:00");
}

TEST_CASE("what is ticked stays where it was, and the rest is planned from now on", "[coat][work]") {
  const std::string done =
      R"("open":[["09:00","13:00",1]],"done":[{"id":"a","start":"2026-12-07T09:00","end":"2026-12-07T10:00"}],)";
  CHECK(ready_of_case(done + kTwoCoats, "2026-12-07T11:15") == "2026-12-07T12:00");
  // The window is missed: the coat cures, and the next comes a day after the real end.
  CHECK(ready_of_case(done + kTwoCoats, "2026-12-07T12:30") == "2026-12-08T10:45");
  // Joined too late to grab: it is brushed again.
  const std::string brush =
      R"("steps":[{"id":"a","hands_min":60},{"id":"b","hands_min":45}],
"links":[{"from":"a","to":"b","wait_min":30,"within_min":60}])";
  Project p = project_of(R"({"start":"2026-12-07T00:00",)" + done + brush + "}");
  p.now = *parse_moment("2026-12-07T11:15");
  const auto found = find_schedule(p);
  REQUIRE(found);
  CHECK(found->undone == std::vector<std::string>{"a"});
  CHECK_FALSE(found->schedule.steps[0].done);
  CHECK(found->schedule.steps[0].start >= *p.now);
}

TEST_CASE("random plans break nothing, and the bound never refutes what was found", "[coat][work][property]") {
  for (std::uint64_t seed = 0; seed < 60; ++seed) {
    CAPTURE(seed);
    const Project p = support::random_project(seed);
    ScheduleSearch search;
    search.generations = 120;
    const auto found = find_schedule(p, search);
    REQUIRE(found);
    CHECK(broken_by(p, found->schedule).empty());
    CHECK(found->bound <= found->schedule.ready);
    const TimeTable table(p, found->days);
    const LowerBound bound(p, table);
    CHECK_FALSE(bound.is_impossible(table.slot_from(found->schedule.ready)));
    // A search that does not know the bound never beats it.
    search.stop_at_bound = false;
    search.seed = seed + 100;
    const auto blind = find_schedule(p, search);
    REQUIRE(blind);
    CHECK(blind->schedule.ready >= found->bound);
    // Counted, not timed: the same twice.
    CHECK(find_schedule(p, search)->schedule == blind->schedule);
  }
}

TEST_CASE("what is proved best day by day is beaten by no longer search", "[coat][work][property]") {
  int by_days = 0;
  for (std::uint64_t seed = 112; seed < 150; ++seed) {
    CAPTURE(seed);
    const Project p = support::random_project(seed);
    ScheduleSearch short_one, proving, long_one;
    short_one.generations = proving.generations = 300;
    proving.prove = true;
    long_one.generations = 2000, long_one.stop_at_bound = false, long_one.seed = seed + 900;
    const auto plain = find_schedule(p, short_one), found = find_schedule(p, proving),
               best = find_schedule(p, long_one);
    REQUIRE(found);
    CHECK(found->schedule == plain->schedule);
    CHECK(found->bound >= plain->bound);
    CHECK(best->schedule.ready >= found->bound);
    by_days += found->proven_best && !plain->proven_best ? 1 : 0;
    const TimeTable table(p, best->days);
    CHECK_FALSE(LowerBound(p, table).is_impossible_by_days(table.slot_from(best->schedule.ready)));
  }
  CHECK(by_days > 0);
}

TEST_CASE("small plans are as good as any there is", "[coat][work][property]") {
  int best = 0;
  for (std::uint64_t seed = 0; seed < 60; ++seed) {
    CAPTURE(seed);
    const Project p = small_project(seed);
    const auto found = find_schedule(p);
    const TimeTable table(p, 3);
    const int ready = exhaustive_ready(p, 3);
    if (!found) {
      CHECK(ready >= table.end());  // windows that no day holds
      continue;
    }
    const int reached = static_cast<int>((found->schedule.ready - table.origin()) / kSlotMin);
    if (ready >= table.end()) continue;  // it does not fit into three days
    CHECK((found->bound - table.origin()) / kSlotMin <= ready);
    CHECK(reached >= ready);
    best += reached == ready ? 1 : 0;
  }
  CHECK(best >= 50);
}

TEST_CASE("an audit finds every rule that is broken", "[coat][work]") {
  const Project p = project_of(
      R"({"start":"2026-12-07T00:00","open":[["09:00","13:00",1]],
"steps":[{"id":"a","hands_min":60,"dries_min":60},{"id":"b","hands_min":30,"dries_min":60}],
"links":[{"from":"a","to":"b","wait_min":60}]})");
  const auto found = find_schedule(p);
  REQUIRE(found);
  REQUIRE(broken_by(p, found->schedule).empty());
  const auto breaks = [&](const std::function<void(Schedule&)>& spoil) {
    Schedule s = found->schedule;
    spoil(s);
    return !broken_by(p, s).empty();
  };
  const auto shift = [](PlacedStep& step, int min) {
    step.start += min;
    step.end += min;
  };
  CHECK(breaks([&](Schedule& s) { shift(s.steps[1], -30); }));
  CHECK(breaks([&](Schedule& s) { shift(s.steps[0], -60); }));
  CHECK(breaks([](Schedule& s) { s.ready += 5; }));
  CHECK(breaks([](Schedule& s) { s.steps[0].end -= 5; }));
}

TEST_CASE("slack is what a step may wait and not what it may not", "[coat][work]") {
  const Project p = project_of(
      R"({"start":"2026-12-07T00:00","open":[["09:00","13:00",1]],"steps":[{"id":"a","hands_min":60},
{"id":"b","hands_min":30},{"id":"free","hands_min":30}],"links":[{"from":"a","to":"b","wait_min":60}]})");
  const auto found = find_schedule(p);
  REQUIRE(found);
  const std::vector<int> slack = slack_min(p, *found);
  CHECK(slack[0] == 0);
  CHECK(slack[2] >= 25);
  const auto slips = what_slips(p, *found, "a", 45);
  REQUIRE(slips);
  CHECK(slips->ready == found->schedule.ready + 45);
  CHECK(what_slips(p, *found, "nothing", 5).error().code == Errc::unknown_name);
}

TEST_CASE("what cannot be planned is said in a sentence", "[coat][work]") {
  const auto refused = [](const std::string& text) {
    const auto json = json_in(text, "A test");
    REQUIRE(json);
    const auto project = project_from_json(*json);
    if (!project) return project.error();
    const auto found = find_schedule(*project);
    REQUIRE_FALSE(found);
    return found.error();
  };
  const std::string start = R"({"start":"2026-12-07T00:00",)";
  CHECK(refused(start +
            R"("steps":[{"id":"a","hands_min":5},{"id":"b","hands_min":5}],"links":[{"from":"a","to":"b"},
{"from":"b","to":"a"}]})")
            .text.find("in a circle: a, then b") != std::string::npos);
  CHECK(
      refused(start + R"("open":[],"steps":[{"id":"a","hands_min":5}]})").text.find("never open") != std::string::npos);
  CHECK(refused(start + R"("outdoor":[],"steps":[{"id":"a","hands_min":5,"outdoors":true}]})").where == "steps/a");
  CHECK(refused(start + R"("steps":[{"id":"a","hands_min":5,"hands":2}]})").text.find("two pairs of hands") !=
      std::string::npos);
  CHECK(refused(start + R"("steps":[{"id":"a","hands_min":5}],"links":[{"from":"a","to":"c"}]})").code ==
      Errc::unknown_name);
  CHECK(refused(start + R"("steps":[{"id":"a","hands_min":5},{"id":"a","hands_min":5}]})").code == Errc::out_of_range);
  CHECK(refused(start +
            R"("steps":[{"id":"a","hands_min":5}],
"done":[{"id":"a","start":"2026-12-07T10:00","end":"2026-12-07T09:00"}]})")
            .text.find("clock set back") != std::string::npos);
  CHECK(refused(start +
            R"("steps":[{"id":"a","hands_min":60},{"id":"b","hands_min":60}],)"
            R"("links":[{"from":"a","to":"b","wait_min":900,"within_min":910}]})")
            .text.find("lets \"b\" follow \"a\"") != std::string::npos);
  CHECK(refused(R"({"start":"today","steps":[]})").code == Errc::not_a_number);
}

TEST_CASE("a plan may be stopped while it is searched", "[coat][work]") {
  ScheduleSearch search;
  search.stop_at_bound = false;
  search.generations = 100'000;
  const auto stopped = find_schedule(support::random_project(3), search, Progress([](double) { return false; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
}
