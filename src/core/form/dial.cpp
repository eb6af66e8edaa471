#include "core/form/dial.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

Result<void> check_value(const DialFacts& f, double value, const std::string& where) {
  if (f.kind == DialKind::word || (value == 0.0 && !f.zero.empty())) return {};
  if (std::isfinite(value) && value >= f.least - 1e-9 && value <= f.most + 1e-9) return {};
  const double nearest = std::isfinite(value) ? std::clamp(value, f.least, f.most) : f.least;
  return fail(Errc::out_of_range,
      f.label + ": " + dial_text(f, value) + " is outside " + dial_text(f, f.least) + " to " + dial_text(f, f.most) +
          "; the nearest that works is " + dial_text(f, nearest) + (f.zero.empty() ? "" : ", or 0: " + f.zero) + ".",
      where + "/" + f.id);
}

/// "leave, sand or cover"
std::string one_of(const std::vector<std::string>& words) {
  std::string list;
  for (std::size_t i = 0; i < words.size(); ++i)
    list += (i == 0 ? "" : i + 1 == words.size() ? " or " : ", ") + words[i];
  return list;
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

Dials& Dials::flag(std::string id, bool& field, std::string label, std::string tip) {
  return add(
      {std::move(id), std::move(label), std::move(tip), DialKind::flag, 0.0, 1.0},
      [&field] { return field ? 1.0 : 0.0; }, [&field](double v) { field = v > 0.5; });
}

Dials& Dials::number(std::string id, double& field, DialRange range, std::string unit, int decimals, std::string label,
    std::string tip) {
  add_number(DialKind::number, std::move(id), field, range, std::move(label), std::move(tip));
  all_.back().facts.unit = std::move(unit), all_.back().facts.decimals = decimals;
  return *this;
}

Dials& Dials::word(std::string id, std::string& field, std::string label, std::string tip) {
  add(
      {std::move(id), std::move(label), std::move(tip), DialKind::word}, [] { return 0.0; }, [](double) {});
  all_.back().word = [&field] { return field; };
  all_.back().say = [&field](std::string to) { field = std::move(to); };
  return *this;
}

Dials& Dials::key(std::string name) {
  all_.back().facts.key = std::move(name);
  return *this;
}

Dials& Dials::said(std::vector<std::string> names) {
  expects(names.size() == all_.back().facts.options.size(), "Dials::said: one name for each option");
  all_.back().facts.said = std::move(names);
  return *this;
}

Dials& Dials::or_zero(std::string meaning) {
  all_.back().facts.zero = std::move(meaning);
  return *this;
}

Dials& Dials::later() {
  all_.back().facts.later = true;
  return *this;
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
    case DialKind::number:
      return fixed(value, std::abs(value - std::round(value)) < 1e-9 ? 0 : facts.decimals) + facts.unit;
    case DialKind::flag:
      return value > 0.5 ? "yes" : "no";
    case DialKind::word:
      return {};
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

Result<void> set_dial(
    const std::vector<Dial>& dials, const std::string& id, const std::string& to, const std::string& where) {
  const auto known = std::find_if(dials.begin(), dials.end(), [&](const Dial& d) { return d.facts.id == id; });
  if (known == dials.end()) return turn_dial(dials, id, 0.0, where);
  const DialFacts& f = known->facts;
  if (f.kind == DialKind::word) return known->say(to), Result<void>{};
  if (f.kind != DialKind::choice && f.kind != DialKind::flag) {
    const auto value = number_in(to);
    if (!value) return fail(value.error().code, f.label + ": " + value.error().text, where + "/" + id);
    return turn_dial(dials, id, *value, where);
  }
  const std::vector<std::string> words = f.kind == DialKind::flag ? std::vector<std::string>{"no", "yes"} : f.options;
  const auto at = std::find(words.begin(), words.end(), to);
  if (at != words.end()) return turn_dial(dials, id, static_cast<double>(at - words.begin()), where);
  return fail(Errc::unknown_name, f.label + " cannot be " + in_quotes(to, 30) + "; it can be " + one_of(words) + ".",
      where + "/" + id);
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
