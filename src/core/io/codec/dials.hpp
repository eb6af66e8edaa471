#pragma once
#include <algorithm>

#include "core/base/json_reader.hpp"
#include "core/base/text.hpp"
#include "core/form/dial.hpp"

namespace awl {

/// One dial's value as files have it: choices by their words, so that a later order changes no file.
inline Json json_of_dial(const Dial& d) {
  switch (d.facts.kind) {
    case DialKind::choice:
      return dial_text(d.facts, d.value());
    case DialKind::flag:
      return d.value() > 0.5;
    case DialKind::word:
      return d.word();
    default:
      return d.value();
  }
}

/// Refuses a word a choice does not have.
inline void take_dial(const JsonAt& held, const Dial& d) {
  if (d.facts.kind == DialKind::flag) return d.turn(held.flag() ? 1.0 : 0.0);
  if (d.facts.kind == DialKind::word) return d.say(held.get<std::string>());
  if (d.facts.kind != DialKind::choice) return d.turn(held.number());
  const auto& words = d.facts.options;
  const auto at = std::find(words.begin(), words.end(), held.get<std::string>());
  if (at == words.end()) held.refuse(Errc::unknown_name, "(" + d.facts.label + ") cannot be " + in_quotes(held.text()));
  d.turn(static_cast<double>(at - words.begin()));
}

/// Dials by their ids: those of parts and details, which come and go.
inline Json json_of_dials(const std::vector<Dial>& dials, Json json = Json::object()) {
  for (const Dial& d : dials) json[d.facts.id] = json_of_dial(d);
  return json;
}

/// Turns every dial the file knows; what was made later than the file keeps its usual value.
inline void take_dials(const JsonAt& json, const std::vector<Dial>& dials) {
  for (const Dial& d : dials)
    if (const auto held = json.find(d.facts.id)) take_dial(*held, d);
}

/// Dials of a spec, by their names in files, among its other fields.
inline void put_dials(Json& json, const std::vector<Dial>& dials) {
  for (const Dial& d : dials)
    json[d.facts.file_key()] = d.facts.kind == DialKind::count ? Json(static_cast<int>(d.value())) : json_of_dial(d);
}

/// Each must be there, but those made later than the file. A count must be whole.
inline void get_dials(const JsonAt& json, const std::vector<Dial>& dials) {
  for (const Dial& d : dials) {
    const char* key = d.facts.file_key().c_str();
    if (d.facts.later && !json.has(key)) continue;
    const JsonAt held = json.at(key);
    if (d.facts.kind == DialKind::count)
      d.turn(held.get<int>());
    else
      take_dial(held, d);
  }
}

}  // namespace awl
