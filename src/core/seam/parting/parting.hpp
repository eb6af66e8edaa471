#pragma once
#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/seam/parting/patchwork.hpp"

namespace awl::parting {

struct PartingOptions {
  double tolerance = 0.06;  ///< p99 strain every panel should stay below
  int seeds = 90;           ///< of a whole form; half as many of a half
  int rounds = 10;          ///< of the search; counted, so that the same comes out twice
  bool slits = true;        ///< darts may be left where that saves a panel
  bool sews = true;         ///< of a half: panels may lie across its mirror line
  std::uint64_t seed = 1;
};

/// Parts an even surface into few disks that lie flat within a tolerance: seeds that look one way, joined by measured
/// strain, borders straightened, searched by taking apart and joining anew; what is still over is cut through its hot
/// place.
///
/// `mirrored`: the x >= 0 half of a form. `weight`: what a seam costs at a place, 1 as usual.
/// Contract: about 4,000 even triangles (form/foam_shape). Errors: cancelled; no_solution where even one triangle's
/// patch cannot be laid flat. Source: docs/formulas/parting.md. Cost: 3 to 10 s on 4,000 triangles.
Result<Patchwork> part_surface(Mesh surface, bool mirrored, const std::function<double(const Vec3&)>& weight,
    const PartingOptions& options, const Progress& progress = {});

/// Measures a patchwork anew whose vertices were moved, opens what is over and joins what may be; no vertex moves.
/// Errors: cancelled.
Result<Patchwork> settled(Patchwork work, const PartingOptions& options, const Progress& progress = {});

/// Gives patches smaller than 2 cm2 to their neighbours where those bear it; no vertex moves. Errors: cancelled.
Result<Patchwork> without_crumbs(Patchwork work, const PartingOptions& options, const Progress& progress = {});

/// The worst strain of any panel; 1 where one turns over or crosses itself.
double worst_of(const Patchwork& work);

}  // namespace awl::parting
