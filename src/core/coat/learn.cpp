#include "core/coat/learn.hpp"

#include <boost/math/distributions/normal.hpp>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

// In double alone: longer numbers would be set up at every start of the program, asked for or not.
using Plainly = boost::math::policies::policy<boost::math::policies::promote_double<false>>;

// Workshop values: how far makers differ, how far jobs of one maker scatter, and how many jobs that is worth.
constexpr double kBetweenMakers = 0.5, kBetweenJobs = 0.35, kWorth = 4.0;

std::pair<double, double> range(double middle, double factor_log) {
  return {middle * std::exp(-factor_log), middle * std::exp(factor_log)};
}

double priced(double materials, double hours, const QuoteRates& r) {
  return (materials * (1.0 + r.waste) + hours * r.rate * (1.0 + r.overheads)) * (1.0 + r.margin);
}

double rounded_up(double price, double to) { return to > 0.0 ? std::ceil(price / to - 1e-9) * to : price; }

}  // namespace

StageTime stage_time(const std::string& stage, double rule_min, const std::vector<StageLog>& logs) {
  StageTime t;
  t.stage = stage;
  t.rule_min = rule_min;
  double sum = 0.0, squares = 0.0;
  for (const StageLog& log : logs) {
    if (!(log.rule_min > 0.0 && log.actual_min > 0.0)) continue;
    const double y = std::log(log.actual_min / log.rule_min);
    ++t.logs;
    sum += y;
    squares += y * y;
  }
  const double n = t.logs, mean = t.logs > 0 ? sum / n : 0.0;
  const double scatter = t.logs > 0 ? std::max(0.0, squares - n * mean * mean) : 0.0;
  t.nu = kWorth + std::max(0.0, n - 1.0);
  const double s2 = (kWorth * kBetweenJobs * kBetweenJobs + scatter) / t.nu;
  const double v = 1.0 / (1.0 / (kBetweenMakers * kBetweenMakers) + n / s2);
  const double m = v * n * mean / s2;
  const double spread = std::sqrt(v + s2);
  const boost::math::students_t_distribution<double, Plainly> student(t.nu);
  t.median_min = rule_min * std::exp(m);
  t.p50_min = range(t.median_min, boost::math::quantile(student, 0.75) * spread);
  t.p80_min = range(t.median_min, boost::math::quantile(student, 0.90) * spread);
  t.mean_min = t.median_min * std::exp((v + s2) / 2.0);
  t.variance_min2 = t.mean_min * t.mean_min * (std::exp(v + s2) - 1.0);
  return t;
}

WholeTime whole_time(const std::vector<StageTime>& stages) {
  WholeTime w;
  double variance = 0.0;
  for (const StageTime& s : stages) {
    w.mean_min += s.mean_min;
    variance += s.variance_min2;
    w.logs += s.logs;
  }
  if (w.mean_min <= 0.0) return w;
  const double s2 = std::log(1.0 + variance / (w.mean_min * w.mean_min));
  w.median_min = w.mean_min * std::exp(-s2 / 2.0);
  const boost::math::normal_distribution<double, Plainly> normal;
  w.p50_min = range(w.median_min, boost::math::quantile(normal, 0.75) * std::sqrt(s2));
  w.p80_min = range(w.median_min, boost::math::quantile(normal, 0.90) * std::sqrt(s2));
  return w;
}

std::vector<Dial> dials_of(QuoteRates& r) {
  Dials dials;
  dials.number("rate", r.rate, {0, 10'000}, "", 2, "Price of an hour", "In the shop's own money.")
      .share("waste", r.waste, {0, 2}, "Waste of materials", "Of what is bought, so much is left over or spoilt.")
      .share("overheads", r.overheads, {0, 5}, "Overheads", "Of labour: rent, tools, power, getting about.")
      .share("margin", r.margin, {0, 5}, "Margin", "Of all of it.")
      .number("round", r.round_to, {0, 1'000}, "", 2, "Rounded up to", "A price is a multiple of this.")
      .key("round_to");
  return std::move(dials).all();
}

Result<void> check_rates(const QuoteRates& rates) {
  QuoteRates copy = rates;
  return check_dials(dials_of(copy), "quote");
}

Quote quote_of(double materials, const WholeTime& time, const QuoteRates& r) {
  Quote q;
  q.materials = materials;
  q.waste = materials * r.waste;
  q.hours = time.median_min / 60.0;
  q.labour = q.hours * r.rate;
  q.overheads = q.labour * r.overheads;
  q.exact = priced(materials, q.hours, r);
  q.margin = q.exact - q.exact / (1.0 + r.margin);
  q.price = rounded_up(q.exact, r.round_to);
  q.price_p80 = {rounded_up(priced(materials, time.p80_min.first / 60.0, r), r.round_to),
      rounded_up(priced(materials, time.p80_min.second / 60.0, r), r.round_to)};
  return q;
}

}  // namespace awl
