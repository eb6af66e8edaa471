#pragma once
#include <algorithm>

#include "core/base/json_reader.hpp"
#include "core/base/text.hpp"
#include "core/form/dial.hpp"

namespace awl {

/// Dials by their ids; those of choices by their words, so that a later order changes no file.
inline Json json_of_dials(const std::vector<Dial>& dials, Json json = Json::object()) {
  for (const Dial& d : dials) {
    if (d.facts.kind == DialKind::choice)
      json[d.facts.id] = dial_text(d.facts, d.value());
    else
      json[d.facts.id] = d.value();
  }
  return json;
}

/// Turns every dial the file knows; what was made later than the file keeps its usual value. Refuses a word a choice
/// does not have.
inline void take_dials(const JsonAt& json, const std::vector<Dial>& dials) {
  for (const Dial& d : dials) {
    const auto held = json.find(d.facts.id);
    if (!held) continue;
    if (d.facts.kind != DialKind::choice) {
      d.turn(held->number());
      continue;
    }
    const auto& words = d.facts.options;
    const auto at = std::find(words.begin(), words.end(), held->get<std::string>());
    if (at == words.end())
      held->refuse(Errc::unknown_name, "(" + d.facts.label + ") cannot be " + in_quotes(held->text()));
    d.turn(static_cast<double>(at - words.begin()));
  }
}

}  // namespace awl
