#include "core/base/moment.hpp"

#include <cctype>

#include "core/base/text.hpp"

namespace awl {
namespace {

std::string two_digits(int number) {
  const std::string text = std::to_string(number);
  return text.size() < 2 ? "0" + text : text;
}

bool is_two_digits(const std::string& text, std::size_t at) {
  return at + 2 <= text.size() && std::isdigit(static_cast<unsigned char>(text[at])) != 0 &&
      std::isdigit(static_cast<unsigned char>(text[at + 1])) != 0;
}

}  // namespace

Day day_of(Moment moment) {
  const Moment days = moment / kDayMin;
  return Day{static_cast<int>(moment % kDayMin < 0 ? days - 1 : days)};
}

int minute_of_day(Moment moment) { return static_cast<int>(moment - midnight_of(day_of(moment))); }

std::string hour_text(int minute) { return two_digits(minute / 60) + ":" + two_digits(minute % 60); }

std::string iso_text(Moment moment) { return day_of(moment).iso() + "T" + hour_text(minute_of_day(moment)); }

Result<int> parse_hour(const std::string& text) {
  if (text.size() == 5 && text[2] == ':' && is_two_digits(text, 0) && is_two_digits(text, 3)) {
    const int hour = (text[0] - '0') * 10 + text[1] - '0', minute = (text[3] - '0') * 10 + text[4] - '0';
    if (minute < 60 && (hour < 24 || (hour == 24 && minute == 0))) return hour * 60 + minute;
  }
  return fail(Errc::not_a_number, "The time of day " + in_quotes(text) + " is not written as 09:30.");
}

Result<Moment> parse_moment(const std::string& text) {
  const std::size_t cut = text.find('T');
  const bool seconds = cut != std::string::npos && text.size() == cut + 9 && text[cut + 6] == ':';
  if (cut != std::string::npos && (text.size() == cut + 6 || seconds)) {
    const auto day = parse_day(text.substr(0, cut));
    const auto minute = parse_hour(text.substr(cut + 1, 5));
    if (day && minute) return midnight_of(*day) + *minute;
  }
  return fail(Errc::not_a_number, "The time " + in_quotes(text) + " is not written as 2026-12-07T09:30.");
}

}  // namespace awl
