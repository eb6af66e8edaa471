#pragma once
#include <chrono>
#include <cmath>
#include <memory>

#include "core/base/data_files.hpp"
#include "core/base/guard.hpp"
#include "core/base/json_reader.hpp"
#include "core/base/remark.hpp"

// What every verb is written with.
namespace awl {

class Chain;

class Stopwatch {
 public:
  double ms() const {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start_).count();
  }

 private:
  std::chrono::steady_clock::time_point start_ = std::chrono::steady_clock::now();
};

inline double rounded(double value, int decimals) {
  const double unit = std::pow(10.0, decimals);
  return std::round(value * unit) / unit;
}

/// Leaves a verb with the failure of a step.
struct Failed {
  Error error;
};

template <class T>
T need(Result<T> result) {
  if (!result) throw Failed{result.error()};
  return std::move(*result);
}
inline void need(Result<void> result) {
  if (!result) throw Failed{result.error()};
}

/// A verb's work: what a step failed at, and whatever is thrown besides, becomes its failure.
template <class Work>
Result<void> as_verb(Work work) {
  return guarded("carrying out the command", [&]() -> Result<void> {
    try {
      work();
      return {};
    } catch (const Failed& failed) {
      return fail(failed.error);
    }
  });
}

/// The chain, loaded once a process: where one process runs many verbs, what one has worked out is there for the next.
std::shared_ptr<const Chain> chain();

/// One JSON object as a line; text that is not UTF-8 (a file's name may be anything) has question marks in it.
inline std::string line_of(const Json& json) {
  return json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
}

inline Json remarks_json(const std::vector<Remark>& remarks) {
  Json list = Json::array();
  for (const Remark& r : remarks) {
    Json j = {{"id", r.id}, {"severity", name_of(r.severity)}, {"where", r.where}, {"sentence", r.sentence}};
    if (r.measured) j["measured"] = rounded(*r.measured, 3);
    if (r.limit) j["limit"] = rounded(*r.limit, 3);
    if (!r.remedies.empty()) j["remedy"] = r.remedies.front().text;
    if (!r.remedies.empty() && !r.remedies.front().act.empty()) j["act"] = r.remedies.front().act;
    list.push_back(std::move(j));
  }
  return list;
}

}  // namespace awl
