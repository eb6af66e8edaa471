#pragma once
#include <functional>

#include "core/fit/sight.hpp"

namespace awl {

/// Sight through an opening whose edge is moved: all rays are traced once with the opening filled, those that only its
/// fill stops are kept with where they meet both faces, and an edge is tried by asking whether those places are open.
///
/// Accuracy: as the trace, but that a cut straight through the sheet is taken as ruled from face to face.
/// Cost: 20 to 60 ms to make, 2 to 10 ms to ask, in steps of 1.5 degrees. Source: docs/formulas/fit-sight.md, "an edge
/// that is dragged".
class OpeningView {
 public:
  /// `filled`: the part without its opening, its solid's vertices those of the outer, then of the inner face; `home`:
  /// the place each vertex of a face is asked by. Errors of meaning: none; without the places of the eyes nothing is
  /// seen.
  OpeningView(const FitHead& head, const std::vector<FitPart>& others, const FitPart& filled,
      const std::vector<Vec3>& home, const FitRules& rules, const SightOptions& options);

  /// What is seen where the places that answer true are open. What a millimetre of edge adds is not told.
  std::optional<Sight> seen(const std::function<bool(const Vec3& home)>& open) const;
  /// How many rays only the fill stops.
  std::size_t rays() const;

 private:
  struct Ray {
    int cell = 0;
    float light = 0.0f;  ///< past all else
    int first = 0, count = 0;
  };
  struct Field {
    EyeField beside;  ///< of rays the fill does not stop
    std::vector<Ray> rays;
    std::vector<Vec3> homes;
  };
  Field traced(const class EyeRays& rays, bool ahead, const FitPart& filled, const std::vector<Vec3>& home) const;
  EyeField with(const Field& field, const std::function<bool(const Vec3&)>& open) const;

  FitRules rules_;
  SightOptions options_;
  SightGrid grid_;
  std::array<Vec3, 2> pupils_{};
  std::array<std::array<Field, 2>, 2> fields_;  ///< eye, ahead or looked at
  bool has_eyes_ = false;
};

}  // namespace awl
