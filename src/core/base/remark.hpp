#pragma once
#include <optional>
#include <string>
#include <vector>

namespace awl {

enum class Severity { note, warning, stop };

/// "note", "warning" or "stop".
const char* name_of(Severity severity);

/// A judgement about the work: what is wrong, why it matters, and the act that mends it.
struct Remark {
  std::string id;        ///< stable name of the kind, for example "head.contradiction"
  Severity severity = Severity::note;
  std::string where;     ///< the place, for example "HC" or "panels/crown left"
  std::string sentence;
  std::optional<double> measured, limit;
  std::string remedy;      ///< what to press; empty if there is nothing to press
  std::string remedy_act;  ///< machine name of the act with its value, for example "set-gores 4"
  bool operator==(const Remark&) const = default;
};

/// Most serious first, otherwise as they came.
void sort_remarks(std::vector<Remark>& remarks);

}  // namespace awl
