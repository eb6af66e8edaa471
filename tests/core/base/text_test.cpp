#include "core/base/text.hpp"

#include <catch2/catch.hpp>
#include <clocale>
#include <cmath>
#include <cstdlib>

#include "core/base/json_reader.hpp"
#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/base/units.hpp"

using namespace awl;

TEST_CASE("numbers are read with a point, whatever the locale", "[base][text][locale]") {
  CHECK(*number_in("2.5") == 2.5);
  CHECK(*number_in("-0.125") == -0.125);
  CHECK(*number_in("+7") == 7.0);
  CHECK(*number_in("1e-3") == 0.001);
  CHECK(*whole_in("42") == 42);
  CHECK(*parse_length("56,5 cm", LengthUnit::mm) == Approx(565.0));
  CHECK(fixed(2.25, 2) == "2.25");
  std::string_view rest = "12.5 30.25";
  CHECK(*take_number(rest) == 12.5);
  CHECK(rest == " 30.25");
}

TEST_CASE("the run under a decimal comma really has one", "[base][text][locale]") {
  // CMake sets it for the second run of these tests; without the locale that run would prove nothing.
  if (std::getenv("NOGGIN_AWL_EXPECT_COMMA") == nullptr) return;
  CHECK(std::string(std::localeconv()->decimal_point) == ",");
}

TEST_CASE("what is no number is refused with what stood there", "[base][text]") {
  for (const char* text : {"", "x", "2,5", "1.2.3", "nan", "inf", "1e999", "0x10", "5 mm", "--3", "+-3"}) {
    CAPTURE(text);
    const auto read = number_in(text);
    REQUIRE_FALSE(read);
    CHECK((*text == '\0' || read.error().text.find(text) != std::string::npos));
  }
  CHECK(whole_in("4294967299").error().code == Errc::out_of_range);
  CHECK(whole_in("2.5").error().code == Errc::not_a_number);
}

TEST_CASE("a number written is the number read again", "[base][text][property]") {
  Random random(5);
  for (int i = 0; i < 500; ++i) {
    const double value = random.normal() * std::pow(10.0, random.uniform(-3.0, 6.0));
    CHECK(*number_in(fixed(value, 6)) == Approx(value).margin(1e-6));
  }
}

TEST_CASE("huge numbers are written short, and what is none in words", "[base][text]") {
  CHECK(fixed(1e308, 0).size() < 12);
  CHECK(fixed(-1e20, 3).size() < 12);
  CHECK(fixed(std::nan(""), 1) == "no number");
  CHECK(fixed(-0.001, 1) == "0.0");
}

TEST_CASE("an act's words are taken one by one", "[base][text]") {
  Words words("  turn 3 seat.gap  4.5 and the rest ");
  CHECK(words.next() == "turn");
  CHECK(*words.whole() == 3);
  CHECK(words.next() == "seat.gap");
  CHECK(*words.number() == 4.5);
  CHECK(words.rest() == "and the rest ");
  Words none("   ");
  CHECK(none.at_end());
  CHECK(none.number().error().code == Errc::empty_input);
}

TEST_CASE("an excerpt never ends within a character", "[base][text]") {
  CHECK(excerpt("abc", 5) == "abc");
  CHECK(excerpt("\u00e9\u00e9\u00e9\u00e9", 2) == "\u00e9\u00e9\u2026");
  CHECK(excerpt("a\xff\nb") == "a??b");
  CHECK(in_quotes("x") == "\"x\"");
  const std::string text = short_enough(std::string(300, 'a') + std::string(300, 'b') + "\u2116 end");
  CHECK(text.size() <= kLongestSentence);
  CHECK(first_not_utf8(text) == std::string::npos);
  CHECK(text.ends_with("end"));
}

TEST_CASE("text that is not UTF-8 is found by line and character, or taken for Latin-1", "[base][text]") {
  CHECK(check_utf8("caf\u00e9 \u2116 \U0001F600", "It"));
  const auto bad = check_utf8("one\ntwo\xEBthree", "The table");
  REQUIRE_FALSE(bad);
  CHECK(bad.error().text.find("line 2, character 4") != std::string::npos);
  for (const char* text : {"\xC0\x80", "\xED\xA0\x80", "\xF5\x80\x80\x80", "\xE2\x82", "\x80", "\xF0\x8F\xBF\xBF"})
    CHECK_FALSE(check_utf8(text, "It"));
  CHECK(in_utf8("Zo\xEB") == "Zo\u00eb");
  CHECK(in_utf8("Zo\u00eb") == "Zo\u00eb");
}

TEST_CASE("lengths typed beyond reason are a sentence, not a crash", "[base][units]") {
  for (const std::string& text : {std::string(2'000'000, '('), std::string(2'000'000, '-'), std::string(100'000, '9'),
           std::string(190, '('), std::string(190, '-') + "3"}) {
    const auto read = parse_length(text, LengthUnit::mm);
    if (!read) CHECK(read.error().text.size() <= kLongestSentence);
  }
  CHECK_FALSE(parse_length(std::string(2'000'000, '('), LengthUnit::mm));
}

TEST_CASE("JSON is read by its budget, and what passes it is told without a library's words", "[base][json]") {
  const auto says = [](const std::string& text, const char* words) {
    const auto json = json_in(text, "The file");
    REQUIRE_FALSE(json);
    CAPTURE(json.error().text);
    CHECK(json.error().text.find(words) != std::string::npos);
    CHECK(json.error().text.find("json.exception") == std::string::npos);
    CHECK(json.error().text.size() <= kLongestSentence);
  };
  CHECK(json_in("{\"a\":[1,2.5,true,\"x\"]}", "The file"));
  says(std::string(1'000'000, '['), "nested deeper");
  std::string keys = "{";
  for (int i = 0; i < 200'000; ++i) keys += (i > 0 ? ",\"" : "\"") + std::to_string(i) + "\":1";
  says(keys + "}", "4000 entries");
  says("{\"a\":1,\n \"b\":}", "line 2, character");
  says("{\"a\":1e999}", "goes wrong");
  says("\"Zo\xEB\"", "UTF-8");
  says("", "line 1");
}

TEST_CASE("values of JSON are taken with their place", "[base][json]") {
  const Json json =
      *json_in(R"({"parts":[{"id":1,"name":"hood","mm":2.5,"on":true},{"id":1.5,"mm":1e12,"name":7}]})", "It");
  const auto refusal = [&](auto read) {
    const auto got = read_json(json, "", read);
    REQUIRE_FALSE(got);
    return got.error().text;
  };
  const auto first = read_json(json, "", [](const JsonAt& j) {
    const JsonAt p = j.at("parts").at(0);
    const std::string name = p.at("name");
    const double mm = p.at("mm");
    const int id = p.at("id");
    const bool on = p.at("on");
    return name == "hood" && mm == 2.5 && id == 1 && on && p.value("none", 3.0) == 3.0;
  });
  CHECK(first.value());
  CHECK(refusal([](const JsonAt& j) {
    return j.at("parts").at(1).at("id").whole();
  }).find("parts/2/id is 1.500, not a whole number") != std::string::npos);
  CHECK(refusal([](const JsonAt& j) {
    return j.at("parts").at(1).at("mm").number();
  }).find("parts/2/mm is 1000000000000") != std::string::npos);
  CHECK(refusal([](const JsonAt& j) { return j.at("parts").at(1).at("name").text(); }).find("is not a text") !=
      std::string::npos);
  CHECK(refusal([](const JsonAt& j) { return j.at("parts").at(2).place(); }).find("parts/3 is missing") !=
      std::string::npos);
  CHECK(refusal([](const JsonAt& j) { return j.at("foam").place(); }).find("foam is missing") != std::string::npos);
}
