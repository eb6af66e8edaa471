#include "core/head/tape_path.hpp"

namespace awl {

std::vector<TapePath> tape_paths(const HeadFitter& fitter, const Headform& head) {
  std::array<char, kMeasureCount> all;
  all.fill(1);
  const Gauge gauge(fitter.head(), head.coefficients, head.mesh.vertices, all, false);
  std::vector<TapePath> paths;
  for (const MeasureFacts& f : measure_facts())
    paths.push_back({f.id, gauge.path(f.id, head.coefficients), !is_tape(f.id)});
  return paths;
}

}  // namespace awl
