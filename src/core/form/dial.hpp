#pragma once
#include <functional>
#include <string>
#include <type_traits>
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

/// How far a dial goes: millimetres, degrees, shares of one, or a count.
struct DialRange {
  double least = 0.0, most = 0.0;
};

/// Gathers the dials of a spec, group by group, in the order a maker meets them. The fields must outlive the dials.
class Dials {
 public:
  /// The dials that follow are decided together, under this title.
  Dials& group(std::string title);
  Dials& length(std::string id, double& field_mm, DialRange range, std::string label, std::string tip);
  Dials& angle(std::string id, double& field_deg, DialRange range, std::string label, std::string tip);
  Dials& share(std::string id, double& field, DialRange range, std::string label, std::string tip);
  Dials& count(std::string id, int& field, DialRange range, std::string label, std::string tip);
  Dials& yes_no(std::string id, bool& field, std::string label, std::string tip);
  /// One of several, in the order of the enumeration's values.
  template <class Choice>
  requires std::is_enum_v<Choice> Dials& choice(
      std::string id, Choice& field, std::vector<std::string> options, std::string label, std::string tip) {
    return add_choice(
        std::move(id), std::move(options), std::move(label), std::move(tip),
        [&field] { return static_cast<double>(field); },
        [&field](double v) { field = static_cast<Choice>(static_cast<int>(v)); });
  }
  /// Dials of a spec inside this one, with groups of their own.
  Dials& add(std::vector<Dial> others);
  std::vector<Dial> all() && { return std::move(all_); }

 private:
  Dials& add(DialFacts facts, std::function<double()> value, std::function<void(double)> turn);
  Dials& add_number(DialKind kind, std::string id, double& field, DialRange range, std::string label, std::string tip);
  Dials& add_choice(std::string id, std::vector<std::string> options, std::string label, std::string tip,
      std::function<double()> value, std::function<void(double)> turn);

  std::string group_;
  std::vector<Dial> all_;
};

/// Errors: out_of_range with the value, its limits and `where`/id.
Result<void> check_dials(const std::vector<Dial>& dials, const std::string& where);
/// Turns the dial of this id. Errors: unknown_name; out_of_range naming the nearest value that is allowed.
Result<void> turn_dial(const std::vector<Dial>& dials, const std::string& id, double value, const std::string& where);

/// A value as a maker reads it, without its unit when it is a share or a count.
std::string dial_text(const DialFacts& facts, double value);

}  // namespace awl
