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

Remarks::Made Remarks::add(Remark remark) {
  all_.push_back(std::move(remark));
  return Made(all_.back());
}

void Remarks::add(const std::vector<Remark>& remarks) { all_.insert(all_.end(), remarks.begin(), remarks.end()); }

Remarks::Made Remarks::note(std::string id, std::string where, std::string sentence) {
  return add({std::move(id), Severity::note, std::move(where), std::move(sentence), {}, {}, {}});
}

Remarks::Made Remarks::warn(std::string id, std::string where, std::string sentence) {
  return add({std::move(id), Severity::warning, std::move(where), std::move(sentence), {}, {}, {}});
}

Remarks::Made Remarks::stop(std::string id, std::string where, std::string sentence) {
  return add({std::move(id), Severity::stop, std::move(where), std::move(sentence), {}, {}, {}});
}

std::vector<Remark> Remarks::sorted() && {
  sort_remarks(all_);
  return std::move(all_);
}

}  // namespace awl
