#include "bench/mesh_jobs.hpp"

#include <sys/resource.h>

#include <cmath>
#include <cstdio>
#include <stdexcept>
#include <string>

#include "bench/figure.hpp"
#include "core/geom/mending/mend.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/mending/thinned.hpp"

namespace awl::bench {
namespace {

/// A globe with hills in 1,000 rings of 1,000.
Mesh scanned() {
  constexpr int kRound = 1000;
  Mesh globe;
  for (int j = 1; j < kRound; ++j)
    for (int i = 0; i < kRound; ++i) {
      const double u = 2.0 * EIGEN_PI * i / kRound, v = EIGEN_PI * j / kRound;
      const double r = 100.0 + 6.0 * std::sin(5.0 * u) * std::sin(4.0 * v) + 2.0 * std::cos(11.0 * v);
      globe.vertices.emplace_back(r * std::sin(v) * std::cos(u), r * std::cos(v), r * std::sin(v) * std::sin(u));
    }
  const auto at = [](int i, int j) { return (j - 1) * kRound + i % kRound; };
  for (int j = 1; j + 1 < kRound; ++j)
    for (int i = 0; i < kRound; ++i) {
      globe.triangles.push_back({at(i, j), at(i + 1, j + 1), at(i, j + 1)});
      globe.triangles.push_back({at(i, j), at(i + 1, j), at(i + 1, j + 1)});
    }
  return globe;
}

template <class Work>
auto once(const std::string& name, Work&& work) {
  const double start = now_ms();
  auto made = work();
  std::printf("%-42s\t%.3f\n", name.c_str(), now_ms() - start);
  if (!made) throw std::runtime_error(name + ": " + made.error().text);
  return std::move(*made);
}

}  // namespace

void mesh_jobs() {
  const std::string bytes = once("scan_write_ms", [] { return mesh_bytes(scanned(), "stl"); });
  const Mesh raw = once("scan_read_ms", [&] { return mesh_from_bytes(bytes, "stl"); });
  (void)once("scan_thinned_ms", [&] { return thinned(raw, 2 * kFineEnough); });
  (void)once("scan_mend_ms", [&] { return mend(raw); });
  rusage used{};
  getrusage(RUSAGE_SELF, &used);
  std::printf("%-42s\t%.0f\n", "scan_most_memory_mb", static_cast<double>(used.ru_maxrss) / 1024.0);
}

}  // namespace awl::bench
