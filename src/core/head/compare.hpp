#pragma once
#include "core/head/headform.hpp"

namespace awl {

/// How far one surface stands off another, place by place.
struct DistanceMap {
  std::vector<double> mm;  ///< per vertex of the first: + it stands outside the second, - inside
  double most_mm = 0.0;    ///< largest by size
  double p95_mm = 0.0;     ///< of the size, over vertices
  double mean_mm = 0.0;    ///< signed
  int furthest = -1;       ///< vertex of the largest
};

/// Distance of every vertex of `mesh` from the surface of `other`.
DistanceMap distance_map(const Mesh& mesh, const Mesh& other);

/// Each vertex against the mirror image of the head: zero all over for a symmetric one.
DistanceMap left_against_right(const Headform& head);

/// A place in words by the nearest landmark: "left ear top", "crown".
std::string spoken_place(const Headform& head, const Vec3& place);

}  // namespace awl
