#include "core/base/moment.hpp"

#include <catch2/catch.hpp>

#include "core/base/random.hpp"

using namespace awl;

TEST_CASE("moments are read as they are written, before 1970 too", "[base][moment][property]") {
  Random random(3);
  for (int i = 0; i < 400; ++i) {
    const Moment at = static_cast<Moment>(random.uniform(-40'000'000.0, 60'000'000.0));
    const auto back = parse_moment(iso_text(at));
    CAPTURE(iso_text(at));
    REQUIRE(back);
    CHECK(*back == at);
    CHECK(minute_of_day(at) >= 0);
    CHECK(minute_of_day(at) < kDayMin);
    CHECK(midnight_of(day_of(at)) + minute_of_day(at) == at);
  }
}

TEST_CASE("midnight belongs to the day it begins", "[base][moment]") {
  CHECK(day_of(0) == Day{0});
  CHECK(day_of(kDayMin) == Day{1});
  CHECK(day_of(kDayMin - 1) == Day{0});
  CHECK(day_of(-1) == Day{-1});
  CHECK(minute_of_day(-1) == kDayMin - 1);
  CHECK(iso_text(midnight_of(Day{20794}) + 9 * 60 + 5) == "2026-12-07T09:05");
}

TEST_CASE("seconds may follow a time, and a day may end at 24:00", "[base][moment]") {
  CHECK(*parse_moment("2026-12-07T09:05:00") == *parse_moment("2026-12-07T09:05"));
  CHECK(*parse_moment("2026-12-07T24:00") == *parse_moment("2026-12-08T00:00"));
  CHECK(*parse_hour("24:00") == 1440);
  CHECK(hour_text(1440) == "24:00");
  CHECK(hour_text(65) == "01:05");
}

TEST_CASE("times that are none are quoted back with how they are written", "[base][moment]") {
  for (const char* text : {"", "T", "2026-12-07", "09:30", "2026-12-07 09:30", "2026-12-07T9:30", "2026-12-07T25:00",
           "2026-12-07T09:60", "2026-13-07T09:30", "2026-12-07T09:3x", "2026-12-07T09:30Z", "2026-12-07T09:30:5"}) {
    CAPTURE(text);
    const auto refused = parse_moment(text);
    REQUIRE_FALSE(refused);
    CHECK(refused.error().code == Errc::not_a_number);
    CHECK(refused.error().text.find("2026-12-07T09:30") != std::string::npos);
  }
  for (const char* text : {"", "9:30", "24:01", "-1:00", "09:5", "09-30"}) {
    CAPTURE(text);
    CHECK_FALSE(parse_hour(text));
  }
}
