#include "core/base/day.hpp"

#include <chrono>
#include <cstdio>

#include "core/base/text.hpp"

namespace awl {
namespace {

std::chrono::year_month_day civil(Day day) { return std::chrono::sys_days(std::chrono::days(day.number)); }

}  // namespace

std::string Day::iso() const {
  const auto c = civil(*this);
  char text[32];
  std::snprintf(text, sizeof text, "%04d-%02u-%02u", static_cast<int>(c.year()), static_cast<unsigned>(c.month()),
      static_cast<unsigned>(c.day()));
  return text;
}

std::string Day::spoken() const {
  static const char* const kDays[] = {"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"};
  static const char* const kMonths[] = {
      "Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"};
  const auto c = civil(*this);
  const std::chrono::weekday w(std::chrono::sys_days{c});
  return std::string(kDays[w.c_encoding()]) + " " + std::to_string(static_cast<unsigned>(c.day())) + " " +
      kMonths[static_cast<unsigned>(c.month()) - 1];
}

Result<Day> parse_day(const std::string& text) {
  const auto no_day = [&] {
    return fail(Errc::not_a_number, in_quotes(text) + " is no day; write it like 2026-12-05.");
  };
  const auto first = text.find('-'), second = text.find('-', first == std::string::npos ? first : first + 1);
  if (second == std::string::npos || text[0] == '+') return no_day();
  const auto y = whole_in(text.substr(0, first)), m = whole_in(text.substr(first + 1, second - first - 1)),
             d = whole_in(text.substr(second + 1));
  if (!y || !m || !d || *y < 1600 || *y > 9999 || *m < 1 || *m > 12 || *d < 1 || *d > 31) return no_day();
  const std::chrono::year_month_day c{std::chrono::year(*y), std::chrono::month(*m), std::chrono::day(*d)};
  if (!c.ok()) return no_day();
  return Day{static_cast<int>(std::chrono::sys_days(c).time_since_epoch().count())};
}

}  // namespace awl
