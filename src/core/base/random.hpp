#pragma once
#include <cmath>
#include <cstdint>

namespace awl {

/// Seeded random numbers that are the same on every machine (splitmix64; the standard library's
/// distributions are not). Source: Steele, Lea & Flood 2014 (bibliography: steele2014).
class Random {
 public:
  explicit Random(std::uint64_t seed) : state_(seed) {}

  std::uint64_t next() {
    std::uint64_t z = (state_ += 0x9e3779b97f4a7c15ull);
    z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ull;
    z = (z ^ (z >> 27)) * 0x94d049bb133111ebull;
    return z ^ (z >> 31);
  }

  double uniform(double low = 0.0, double high = 1.0) {
    return low + (high - low) * static_cast<double>(next() >> 11) * 0x1.0p-53;
  }

  /// A whole number from 0 to n - 1. Contract: n > 0.
  int below(std::size_t n) { return static_cast<int>(next() % n); }

  /// Standard normal deviate (Box-Muller, one of the pair).
  double normal() {
    const double u = 1.0 - uniform();
    return std::sqrt(-2.0 * std::log(u)) * std::cos(6.283185307179586 * uniform());
  }

 private:
  std::uint64_t state_;
};

}  // namespace awl
