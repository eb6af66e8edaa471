#include "core/io/plan_calendar.hpp"

#include <catch2/catch.hpp>
#include <sstream>

#include "core/base/random.hpp"
#include "core/base/text.hpp"

using namespace awl;

namespace {

/// Words of one to four bytes a character, with all that must be escaped.
std::string any_words(Random& random, int most) {
  constexpr const char* kBits[] = {
      "a", " ", "seal", ",", ";", "\\", "\n", "\xC3\xA9", "\xE2\x80\x93", "\xF0\x9F\xAA\xB6", ":", "BEGIN"};
  std::string text;
  for (int n = random.below(static_cast<std::size_t>(most)); n > 0; --n) text += kBits[random.below(std::size(kBits))];
  return text;
}

std::vector<CalendarEvent> any_events(std::uint64_t seed, int n) {
  Random random(seed);
  std::vector<CalendarEvent> events;
  for (int i = 0; i < n; ++i) {
    const Moment start = midnight_of(Day{20794}) + random.below(20000);
    events.push_back({"job." + std::to_string(i) + "@noggin-awl", any_words(random, 40), any_words(random, 80), start,
        start + 5 + random.below(300), random.uniform() < 0.7});
  }
  return events;
}

}  // namespace

TEST_CASE("no line of a calendar is longer than 75 octets, nor cut within a character", "[io][calendar][property]") {
  for (std::uint64_t seed = 0; seed < 40; ++seed) {
    const std::string text = calendar_text(any_events(seed, 25), {}, 0);
    std::size_t from = 0;
    for (std::size_t end; (end = text.find("\r\n", from)) != std::string::npos; from = end + 2) {
      const std::string line = text.substr(from, end - from);
      CAPTURE(seed, line);
      REQUIRE(line.size() <= 75);
      REQUIRE(first_not_utf8(line) == std::string::npos);
      REQUIRE(line.find('\n') == std::string::npos);
    }
    REQUIRE(from == text.size());
  }
}

TEST_CASE("what is written into a calendar is read again as it was", "[io][calendar]") {
  for (std::uint64_t seed = 100; seed < 120; ++seed) {
    const auto events = any_events(seed, 20);
    const auto read = events_in(calendar_text(events, {}, 0));
    REQUIRE(read.size() == events.size());
    for (std::size_t i = 0; i < events.size(); ++i) CHECK(read[i].event == events[i]);
  }
}

TEST_CASE("a second export counts on only what has moved, and cancels once what is gone", "[io][calendar]") {
  auto events = any_events(7, 6);
  const std::string first = calendar_text(events, {}, 0);
  const std::string same = calendar_text(events, first, 60);
  for (const ReadEvent& e : events_in(same)) CHECK(e.sequence == 0);
  events[2].start += 30;
  events[2].end += 30;
  const std::string moved = calendar_text(events, same, 120);
  for (const ReadEvent& e : events_in(moved)) CHECK(e.sequence == (e.event.uid == events[2].uid ? 1 : 0));
  const CalendarEvent gone = events.back();
  events.pop_back();
  const auto after = events_in(calendar_text(events, moved, 180));
  REQUIRE(after.size() == 6);
  CHECK(after.back().event.uid == gone.uid);
  CHECK(after.back().cancelled);
  CHECK(events_in(calendar_text(events, calendar_text(events, moved, 180), 240)).size() == 5);
}

TEST_CASE("a calendar that is none is begun anew", "[io][calendar]") {
  CHECK(events_in("nothing of the kind\r\n:::\r\n").empty());
  CHECK(events_in(calendar_text(any_events(1, 2), "BEGIN:VEVENT\r\nDTSTART:x\r\n", 0)).size() >= 2);
}
