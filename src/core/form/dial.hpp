#pragma once
#include <functional>
#include <string>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

enum class DialKind { length, angle, share, count, choice };

/// One number a maker sets on a form: what it is called, when one would turn it, and how far it goes.
struct DialFacts {
  std::string id;     ///< "length"; of repeated things "ring2.grow"
  std::string label;  ///< "Length along the spine"
  std::string tip;    ///< when one would use it
  DialKind kind = DialKind::length;
  double least = 0.0, most = 0.0;         ///< millimetres, degrees, shares of one, or a count
  std::vector<std::string> options = {};  ///< of a choice, in the order of its values
  std::string group = {};                 ///< dials decided together
};

/// A dial bound to the field of a spec it turns. Valid while the spec lives.
struct Dial {
  DialFacts facts;
  std::function<double()> value;
  std::function<void(double)> turn;
};

inline Dial dial(DialFacts facts, double& field) {
  return {std::move(facts), [&field] { return field; }, [&field](double v) { field = v; }};
}
template <class Choice>
requires std::is_enum_v<Choice> Dial dial(DialFacts facts, Choice& field) {
  facts.kind = DialKind::choice;
  facts.most = static_cast<double>(facts.options.size()) - 1.0;
  return {std::move(facts), [&field] { return static_cast<double>(field); },
      [&field](double v) { field = static_cast<Choice>(static_cast<int>(v)); }};
}
Dial dial(DialFacts facts, int& field);
Dial dial(DialFacts facts, bool& field);

/// Errors: out_of_range with the value, its limits and `where`/id.
Result<void> check_dials(const std::vector<Dial>& dials, const std::string& where);
/// Turns the dial of this id. Errors: unknown_name; out_of_range naming the nearest value that is allowed.
Result<void> turn_dial(const std::vector<Dial>& dials, const std::string& id, double value, const std::string& where);

/// A value as a maker reads it, without its unit when it is a share or a count.
std::string dial_text(const DialFacts& facts, double value);

}  // namespace awl
