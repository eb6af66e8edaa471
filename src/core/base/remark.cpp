#include "core/base/remark.hpp"

#include <algorithm>

namespace awl {

const char* name_of(Severity severity) {
  return severity == Severity::stop ? "stop" : severity == Severity::warning ? "warning" : "note";
}

void sort_remarks(std::vector<Remark>& remarks) {
  std::stable_sort(
      remarks.begin(), remarks.end(), [](const Remark& a, const Remark& b) { return a.severity > b.severity; });
}

}  // namespace awl
