#pragma once
#include <string>
#include <utility>
#include <vector>

#include "core/base/result.hpp"
#include "core/form/dial.hpp"

namespace awl {

/// What is logged of one stage of one build.
struct StageLog {
  double rule_min = 0.0;    ///< what the rule said
  double actual_min = 0.0;  ///< what it took
  bool operator==(const StageLog&) const = default;
};

/// How long a stage takes this maker, from the rule and what was logged.
struct StageTime {
  std::string stage;
  double rule_min = 0.0;
  int logs = 0;
  double median_min = 0.0;
  std::pair<double, double> p50_min, p80_min;  ///< ranges that hold half, and four fifths, of the time
  double mean_min = 0.0, variance_min2 = 0.0;  ///< to be added up
  double nu = 0.0;                             ///< degrees of freedom behind the ranges
};

/// The rule weighed against the logs: normal in the logarithm of actual over rule, with what is known of makers before.
/// Logs without both times are left out.
/// Source: docs/formulas/coat-learning.md.
StageTime stage_time(const std::string& stage, double rule_min, const std::vector<StageLog>& logs);

/// A whole build: means and variances added, a lognormal fitted to them.
struct WholeTime {
  double median_min = 0.0, mean_min = 0.0;
  std::pair<double, double> p50_min, p80_min;
  int logs = 0;
};
WholeTime whole_time(const std::vector<StageTime>& stages);

/// What a maker asks for, in the shop's own money.
struct QuoteRates {
  double rate = 18.0;      ///< an hour
  double waste = 0.12;     ///< of materials
  double overheads = 0.2;  ///< of labour
  double margin = 0.15;    ///< of all
  double round_to = 5.0;
  bool operator==(const QuoteRates&) const = default;
};
std::vector<Dial> dials_of(QuoteRates& rates);
/// Errors: out_of_range with the rate and its limits.
Result<void> check_rates(const QuoteRates& rates);

struct Quote {
  double materials = 0.0, waste = 0.0, hours = 0.0, labour = 0.0, overheads = 0.0, margin = 0.0;
  double exact = 0.0;  ///< before rounding up
  double price = 0.0;
  std::pair<double, double> price_p80;  ///< of the hours' range
};
Quote quote_of(double materials, const WholeTime& time, const QuoteRates& rates);

}  // namespace awl
