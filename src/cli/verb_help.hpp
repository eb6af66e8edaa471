#pragma once
#include <chrono>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/result.hpp"

// What every verb is written with.
namespace awl {

using Json = nlohmann::ordered_json;

class Stopwatch {
 public:
  double ms() const { return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start_).count(); }

 private:
  std::chrono::steady_clock::time_point start_ = std::chrono::steady_clock::now();
};

inline double rounded(double value, int decimals) {
  const double unit = std::pow(10.0, decimals);
  return std::round(value * unit) / unit;
}

/// Leaves a verb with the failure of a step.
struct Failed { Error error; };

template <class T>
T need(Result<T> result) {
  if (!result) throw Failed{result.error()};
  return std::move(*result);
}
inline void need(Result<void> result) {
  if (!result) throw Failed{result.error()};
}

template <class Work>
Result<void> guarded(Work work) {
  try {
    work();
    return {};
  } catch (const Failed& failed) {
    return tl::make_unexpected(failed.error);
  }
}

}  // namespace awl
