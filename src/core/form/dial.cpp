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

Dials& Dials::group(std::string title) {
  group_ = std::move(title);
  return *this;
}

Dials& Dials::add(DialFacts facts, std::function<double()> value, std::function<void(double)> turn) {
  facts.group = group_;
  all_.push_back({std::move(facts), std::move(value), std::move(turn)});
  return *this;
}

Dials& Dials::add(std::vector<Dial> others) {
  for (Dial& d : others) all_.push_back(std::move(d));
  return *this;
}

Dials& Dials::add_number(
    DialKind kind, std::string id, double& field, DialRange range, std::string label, std::string tip) {
  return add(
      {std::move(id), std::move(label), std::move(tip), kind, range.least, range.most}, [&field] { return field; },
      [&field](double v) { field = v; });
}

Dials& Dials::add_choice(std::string id, std::vector<std::string> options, std::string label, std::string tip,
    std::function<double()> value, std::function<void(double)> turn) {
  const double most = static_cast<double>(options.size()) - 1.0;
  return add({std::move(id), std::move(label), std::move(tip), DialKind::choice, 0.0, most, std::move(options)},
      std::move(value), std::move(turn));
}

Dials& Dials::length(std::string id, double& field_mm, DialRange range, std::string label, std::string tip) {
  return add_number(DialKind::length, std::move(id), field_mm, range, std::move(label), std::move(tip));
}

Dials& Dials::angle(std::string id, double& field_deg, DialRange range, std::string label, std::string tip) {
  return add_number(DialKind::angle, std::move(id), field_deg, range, std::move(label), std::move(tip));
}

Dials& Dials::share(std::string id, double& field, DialRange range, std::string label, std::string tip) {
  return add_number(DialKind::share, std::move(id), field, range, std::move(label), std::move(tip));
}

Dials& Dials::count(std::string id, int& field, DialRange range, std::string label, std::string tip) {
  return add(
      {std::move(id), std::move(label), std::move(tip), DialKind::count, range.least, range.most},
      [&field] { return static_cast<double>(field); },
      [&field](double v) { field = static_cast<int>(std::lround(v)); });
}

Dials& Dials::yes_no(std::string id, bool& field, std::string label, std::string tip) {
  return add_choice(
      std::move(id), {"no", "yes"}, std::move(label), std::move(tip), [&field] { return field ? 1.0 : 0.0; },
      [&field](double v) { field = v > 0.5; });
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
