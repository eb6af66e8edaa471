#pragma once
#include "core/base/day.hpp"

namespace awl {

/// A time on the shop's own clock, in minutes from the beginning of 1970-01-01; no time zone, so that a plan reads the
/// same in summer and winter.
using Moment = long;

inline constexpr Moment kDayMin = 24 * 60;
inline constexpr Moment kNever = 1'000'000'000'000;

inline Moment midnight_of(Day day) { return static_cast<Moment>(day.number) * kDayMin; }
Day day_of(Moment moment);
/// Minutes since midnight, 0 to 1439.
int minute_of_day(Moment moment);

/// "2026-12-07T09:00"
std::string iso_text(Moment moment);
/// Reads the same; seconds (":00") may follow. Errors: not_a_number with the text.
Result<Moment> parse_moment(const std::string& text);

/// "14:05" of minutes since midnight; 1440 is "24:00".
std::string hour_text(int minute);
/// Reads "14:05" and "24:00". Errors: not_a_number with the text.
Result<int> parse_hour(const std::string& text);

}  // namespace awl
