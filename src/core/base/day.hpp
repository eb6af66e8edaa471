#pragma once
#include <string>

#include "core/base/result.hpp"

namespace awl {

/// A calendar day as a count from 1970-01-01; the core never asks what day it is.
struct Day {
  int number = 0;
  auto operator<=>(const Day&) const = default;
  /// "2026-11-24"
  std::string iso() const;
  /// "Tue 24 Nov"
  std::string spoken() const;
};

/// Reads "2026-11-24". Errors: not_a_number with the text.
Result<Day> parse_day(const std::string& text);

}  // namespace awl
