#pragma once
#include <complex>

#include "core/dress/form_line.hpp"

namespace awl {

/// What the grain keeps to where no stroke tells it: the same slope all round (to level lines, of a sweep to its
/// spine), or nothing but its own smoothness over the form.
enum class GrainFollows { slope, form };

/// Which way the grain runs over all of a face: as smooth as the form allows and along the strokes it was told. A
/// direction without a sense. Source: bibliography knoppel2013; docs/formulas/dress-lines.md.
class GrainField {
 public:
  /// Contract: the strokes lie on the site's outer face. Keeps a reference to the site.
  GrainField(const DressSite& site, const std::vector<FormLine>& told, GrainFollows follows);

  /// Unit, in the face; zero where no told stroke reaches over the surface.
  Vec3 along(const NearestHit& hit) const;
  /// From a place both ways along the grain, so far in all; it ends at the rim.
  std::vector<Vec3> stroke(const Vec3& middle, double long_mm) const;

 private:
  Vec3 at_corner(int vertex) const;
  double angle_of(int vertex, const Vec3& direction) const;
  const DressSite& site_;
  std::vector<Vec3> east_;                   ///< unit tangent at each vertex: angle 0
  std::vector<std::complex<double>> twice_;  ///< twice the angle, so that both senses are one
};

}  // namespace awl
