#include "core/base/units.hpp"

#include <catch2/catch.hpp>
#include <tuple>

#include "core/base/day.hpp"

using namespace awl;

TEST_CASE("lengths are read the way makers type them", "[base][units]") {
  const auto [text, unit, mm] = GENERATE(table<const char*, LengthUnit, double>({{"57 cm", LengthUnit::mm, 570.0},
      {"22 1/2 in", LengthUnit::mm, 571.5}, {"22.5\"", LengthUnit::cm, 571.5}, {"570", LengthUnit::mm, 570.0},
      {"57", LengthUnit::cm, 570.0}, {"2*6+3", LengthUnit::mm, 15.0}, {"2*6+3 cm", LengthUnit::mm, 150.0},
      {"56,5 cm", LengthUnit::mm, 565.0}, {"3/4 in", LengthUnit::mm, 19.05}, {"1 ft 2 in", LengthUnit::mm, 355.6},
      {" 12mm ", LengthUnit::inch, 12.0}, {"(2+3)*4", LengthUnit::mm, 20.0}, {"10 cm - 5 mm", LengthUnit::mm, 95.0},
      {"57 cm/2", LengthUnit::mm, 285.0}, {"-5", LengthUnit::mm, -5.0}, {"1 cm + 2", LengthUnit::mm, 12.0}}));
  CAPTURE(text);
  const auto read = parse_length(text, unit);
  REQUIRE(read);
  CHECK(*read == Approx(mm).margin(1e-9));
}

TEST_CASE("what is no length is refused with the text and what is wrong", "[base][units]") {
  const auto [text, code] = GENERATE(
      table<const char*, Errc>({{"", Errc::empty_input}, {"   ", Errc::empty_input}, {"abc", Errc::not_a_number},
          {"57 furlong", Errc::wrong_unit}, {"12 +", Errc::not_a_number}, {"3 cm * 2 cm", Errc::wrong_unit},
          {"4/0", Errc::not_a_number}, {"57 cm cm", Errc::not_a_number}, {"(57 cm) cm", Errc::wrong_unit},
          {"(2+3", Errc::not_a_number}, {"12..5", Errc::not_a_number}, {"1e400", Errc::wrong_unit}}));
  CAPTURE(text);
  const auto read = parse_length(text, LengthUnit::mm);
  REQUIRE_FALSE(read);
  CHECK(read.error().code == code);
  if (code == Errc::not_a_number) CHECK(read.error().text.find(text) != std::string::npos);
}

TEST_CASE("a length written and read again is the same to a sixteenth", "[base][units][property]") {
  const auto unit = GENERATE(LengthUnit::mm, LengthUnit::cm, LengthUnit::inch);
  const auto mm = GENERATE(take(60, random(1.0, 900.0)));
  const std::string text = format_length(mm, unit);
  CAPTURE(text);
  const auto back = parse_length(text, unit);
  REQUIRE(back);
  CHECK(*back ==
      Approx(mm).margin(unit == LengthUnit::inch ? 25.4 / 32 + 1e-9
              : unit == LengthUnit::cm           ? 0.5 + 1e-9
                                                 : 0.0501));
}

TEST_CASE("inches are shown as fractions in lowest terms", "[base][units]") {
  CHECK(format_length(571.5, LengthUnit::inch) == "22 1/2 in");
  CHECK(format_length(25.4, LengthUnit::inch) == "1 in");
  CHECK(format_length(25.4 * 3 / 16, LengthUnit::inch) == "3/16 in");
  CHECK(format_length(563.0, LengthUnit::mm) == "563 mm");
  CHECK(format_length(563.0, LengthUnit::cm) == "56.3 cm");
}

TEST_CASE("days are read, written and spoken, and no such day is refused", "[base][day]") {
  const auto day = parse_day("2026-11-24");
  REQUIRE(day);
  CHECK(day->iso() == "2026-11-24");
  CHECK(day->spoken() == "Tue 24 Nov");
  CHECK(Day{day->number + 7}.iso() == "2026-12-01");
  for (const char* wrong : {"2026-02-30", "24.11.2026", "", "2026-11-24x"}) CHECK_FALSE(parse_day(wrong));
}
