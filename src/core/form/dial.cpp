#include "core/form/dial.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

Result<void> check_value(const DialFacts& f, double value, const std::string& where) {
  if (std::isfinite(value) && value >= f.least - 1e-9 && value <= f.most + 1e-9) return {};
  const double nearest = std::isfinite(value) ? std::clamp(value, f.least, f.most) : f.least;
  return fail(Errc::out_of_range,
      f.label + ": " + dial_text(f, value) + " is outside " + dial_text(f, f.least) + " to " + dial_text(f, f.most) +
          "; the nearest that works is " + dial_text(f, nearest) + ".",
      where + "/" + f.id);
}

}  // namespace

Dial dial(DialFacts facts, int& field) {
  facts.kind = DialKind::count;
  return {std::move(facts), [&field] { return static_cast<double>(field); },
      [&field](double v) { field = static_cast<int>(std::lround(v)); }};
}

Dial dial(DialFacts facts, bool& field) {
  facts.kind = DialKind::choice, facts.options = {"no", "yes"}, facts.least = 0.0, facts.most = 1.0;
  return {std::move(facts), [&field] { return field ? 1.0 : 0.0; }, [&field](double v) { field = v > 0.5; }};
}

std::string dial_text(const DialFacts& facts, double value) {
  if (!std::isfinite(value)) return "no number";
  switch (facts.kind) {
    case DialKind::length:
      return fixed(value, std::abs(value - std::round(value)) < 0.05 ? 0 : 1) + " mm";
    case DialKind::angle:
      return fixed(value, 0) + " degrees";
    case DialKind::share:
      return fixed(value, 2);
    case DialKind::count:
      return fixed(value, 0);
    case DialKind::choice:
      break;
  }
  const auto i = static_cast<std::size_t>(std::clamp(value, 0.0, static_cast<double>(facts.options.size()) - 1.0));
  return facts.options.empty() ? std::string() : facts.options[i];
}

Result<void> check_dials(const std::vector<Dial>& dials, const std::string& where) {
  for (const Dial& d : dials)
    if (auto good = check_value(d.facts, d.value(), where); !good) return good;
  return {};
}

Result<void> turn_dial(const std::vector<Dial>& dials, const std::string& id, double value, const std::string& where) {
  for (const Dial& d : dials) {
    if (d.facts.id != id) continue;
    if (auto good = check_value(d.facts, value, where); !good) return good;
    d.turn(value);
    return {};
  }
  return fail(Errc::unknown_name, "There is nothing called \"" + id + "\" to set on this part.", where);
}

}  // namespace awl
