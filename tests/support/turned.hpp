#pragma once
#include <cmath>
#include <functional>

#include "core/base/numbers.hpp"
#include "core/seam/seam_mesh.hpp"

namespace awl::test {

/// A surface of revolution about y with seams down `seams` meridians; `radius` and `height` over 0..1 from the foot up.
/// A top radius of 0 is one vertex. `corner`: the sides between seams are flat across, so that the whole is a pyramid
/// of petals.
inline SeamMesh turned(const std::function<double(double)>& radius, const std::function<double(double)>& height,
    int rows, int around, int seams, bool corner = false) {
  SeamMesh form;
  const bool pole = radius(1.0) < 1e-9;
  const int per = around / seams, last = pole ? rows - 1 : rows;
  for (int i = 0; i <= last; ++i)
    for (int k = 0; k < around; ++k) {
      const double s = static_cast<double>(i) / rows, a = kTwoPi * k / around, r = radius(s);
      Vec3 p(r * std::sin(a), height(s), r * std::cos(a));
      if (corner) {
        const double a0 = kTwoPi * (k / per) / seams, a1 = a0 + kTwoPi / seams, t = static_cast<double>(k % per) / per;
        p = (1 - t) * Vec3(r * std::sin(a0), height(s), r * std::cos(a0)) +
            t * Vec3(r * std::sin(a1), height(s), r * std::cos(a1));
      }
      form.mesh.vertices.push_back(p);
    }
  const int top = static_cast<int>(form.mesh.vertices.size());
  if (pole) form.mesh.vertices.push_back({0, height(1.0), 0});
  const auto at = [&](int i, int k) { return pole && i == rows ? top : i * around + k % around; };
  for (int i = 0; i < rows; ++i)
    for (int k = 0; k < around; ++k) {
      form.mesh.triangles.push_back({at(i, k), at(i, k + 1), at(i + 1, k)});
      if (at(i + 1, k) != at(i + 1, k + 1))
        form.mesh.triangles.push_back({at(i, k + 1), at(i + 1, k + 1), at(i + 1, k)});
      if (k % per == 0) form.seam_of[edge_of(at(i, k), at(i + 1, k))] = SeamId{k / per};
    }
  for (int s = 0; s < seams; ++s) form.seam_names.push_back("seam " + std::to_string(s + 1));
  return form;
}

}  // namespace awl::test
