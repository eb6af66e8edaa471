#pragma once
#include <optional>
#include <string>
#include <vector>

namespace awl {

enum class Severity { note, warning, stop };

/// "note", "warning" or "stop".
const char* name_of(Severity severity);

/// One act that mends what a remark found.
struct Remedy {
  std::string text;  ///< on the button
  std::string act;   ///< machine name of the act with its value, for example "set-gores 4"
  bool operator==(const Remedy&) const = default;
};

/// A judgement about the work: what is wrong, why it matters, and the act that mends it.
struct Remark {
  std::string id;  ///< stable name of the kind, for example "head.contradiction"
  Severity severity = Severity::note;
  std::string where;  ///< the place, for example "HC" or "panels/crown left"
  std::string sentence;
  std::optional<double> measured, limit;
  std::vector<Remedy> remedies;  ///< what to press, the best first; empty if there is nothing to press
  bool operator==(const Remark&) const = default;
};

/// Most serious first, otherwise as they came.
void sort_remarks(std::vector<Remark>& remarks);

}  // namespace awl
