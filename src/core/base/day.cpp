#include "core/base/day.hpp"

#include <chrono>
#include <cstdio>

namespace awl {
namespace {

std::chrono::year_month_day civil(Day day) { return std::chrono::sys_days(std::chrono::days(day.number)); }

}  // namespace

std::string Day::iso() const {
  const auto c = civil(*this);
  char text[32];
  std::snprintf(text, sizeof text, "%04d-%02u-%02u", static_cast<int>(c.year()), static_cast<unsigned>(c.month()), static_cast<unsigned>(c.day()));
  return text;
}

std::string Day::spoken() const {
  static const char* const kDays[] = {"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"};
  static const char* const kMonths[] = {"Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"};
  const auto c = civil(*this);
  const std::chrono::weekday w(std::chrono::sys_days{c});
  return std::string(kDays[w.c_encoding()]) + " " + std::to_string(static_cast<unsigned>(c.day())) + " " + kMonths[static_cast<unsigned>(c.month()) - 1];
}

Result<Day> parse_day(const std::string& text) {
  int y = 0;
  unsigned m = 0, d = 0;
  char rest = 0;
  const bool read = std::sscanf(text.c_str(), "%d-%u-%u%c", &y, &m, &d, &rest) == 3;
  const std::chrono::year_month_day c{std::chrono::year(y), std::chrono::month(m), std::chrono::day(d)};
  if (!read || !c.ok()) return fail(Errc::not_a_number, "\"" + text + "\" is no day; write it like 2026-12-05.");
  return Day{static_cast<int>(std::chrono::sys_days(c).time_since_epoch().count())};
}

}  // namespace awl
