#pragma once
#include <functional>
#include <string>
#include <type_traits>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

/// A flag is said yes or no and kept as such; a number has a unit of its own; a word is an id out of a list of
/// materials or sizes, which only those who have the list can check.
enum class DialKind { length, angle, share, count, choice, flag, number, word };

/// One thing a maker sets on a form, or about how it is made: what it is called, when one would turn it, and how far it
/// goes.
struct DialFacts {
  std::string id;     ///< "length"; of repeated things "ring2.grow"
  std::string label;  ///< "Length along the spine"
  std::string tip;    ///< when one would use it
  DialKind kind = DialKind::length;
  double least = 0.0, most = 0.0;         ///< millimetres, degrees, shares of one, or a count
  std::vector<std::string> options = {};  ///< of a choice, in the order of its values
  std::string group = {};                 ///< dials decided together
  std::vector<std::string> said = {};     ///< what a choice's options are called on the screen; none: by their words
  std::string unit = {};                  ///< of a number, with a space before it: " h"
  int decimals = 0;                       ///< of a number
  std::string zero = {};  ///< not empty: 0 may be, whatever `least` is, and means this: "as usual for the age"
  std::string key = {};   ///< its name in files, if that is not the id
  bool later = false;     ///< files older than it lack it, and mean its usual value

  const std::string& file_key() const { return key.empty() ? id : key; }
};

/// A dial bound to the field of a spec it turns. Valid while the spec lives.
struct Dial {
  DialFacts facts;
  std::function<double()> value;
  std::function<void(double)> turn;
  std::function<std::string()> word = {};  ///< of a word alone; its value is 0
  std::function<void(std::string)> say = {};
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
  Dials& flag(std::string id, bool& field, std::string label, std::string tip);
  /// `unit` with a space before it.
  Dials& number(std::string id, double& field, DialRange range, std::string unit, int decimals, std::string label,
      std::string tip);
  Dials& word(std::string id, std::string& field, std::string label, std::string tip);
  // Of the dial added last:
  /// Its name in files.
  Dials& key(std::string name);
  /// What its options are called on the screen, in their order.
  Dials& said(std::vector<std::string> names);
  /// Nothing may be as well, and means this.
  Dials& or_zero(std::string meaning);
  /// Older files lack it.
  Dials& later();
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
/// Sets the dial of this id to what a text says: a number, one of its words, "yes" or "no", or any word. Errors:
/// unknown_name with the words there are; out_of_range as turn_dial; those of number_in.
Result<void> set_dial(
    const std::vector<Dial>& dials, const std::string& id, const std::string& to, const std::string& where);
/// Turns the dial of this id. Errors: unknown_name; out_of_range naming the nearest value that is allowed.
Result<void> turn_dial(const std::vector<Dial>& dials, const std::string& id, double value, const std::string& where);

/// A value as a maker reads it, without its unit when it is a share or a count; of a word nothing.
std::string dial_text(const DialFacts& facts, double value);

}  // namespace awl
