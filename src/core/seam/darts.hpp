#pragma once
#include <functional>

#include "core/base/progress.hpp"
#include "core/seam/cutter.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// What a dart may be like.
struct DartOptions {
  double tolerance = 0.04;  ///< p99 strain to come below
  int most = 6;             ///< darts in one panel
  double longest_mm = 400.0;
  bool mirrored =
      false;  ///< the panel lies across the middle line: every dart gets its image, one near the line lies in it
  /// Where a cut must not begin or run: the front that shows. None: anywhere.
  std::function<bool(const Vec3&)> spare = {};
};

/// Darts for one panel: each from its border to a place inside, in space, on the panel's own surface.
struct Darts {
  std::vector<CutLine> lines;  ///< of a mirrored panel, without the images
  double length_mm = 0.0;
  double before = 0.0, after = 0.0;  ///< p99 strain
  bool saddle = false;  ///< the panel bends both ways: a dart would make it overlap itself, split it instead
  bool meets = false;
};

/// How much curvature a panel holds, by sign: the turning its triangles lack of a plane, in radians. A dome is
/// positive.
double gathered_curvature(const Mesh& panel);
/// Where a dome is tightest: the largest of the conformal factor that would flatten it.
/// Source: docs/formulas/flattening.md, "darts": L s = K, s = 0 on the border (Yamabe).
int dart_tip(const Mesh& panel);

/// Proposes darts: straight lines in the flat panel, tried as a star round its tip and one by one from the border; the
/// shorter way that comes within the tolerance is taken. Errors: cancelled; those of Flattener.
Result<Darts> propose_darts(const Mesh& panel, const DartOptions& options, const Progress& progress = {});

}  // namespace awl
