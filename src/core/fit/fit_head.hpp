#pragma once
#include <array>
#include <optional>

#include "core/geom/nearest.hpp"
#include "core/head/template.hpp"

namespace awl {

/// Signed distances from a closed surface on a grid, for asking very often.
///
/// Accuracy: within 25 mm of the surface 0.3 mm rms at 5 mm (worst in creases); further off several mm.
class DistanceGrid {
 public:
  explicit DistanceGrid(const Mesh& closed, const Nearest& near, double step_mm = 5.0);
  double at(const Vec3& p) const;  ///< negative inside

 private:
  Vec3 origin_;
  double step_;
  int nx_, ny_, nz_;
  std::vector<float> values_;
  float value(int x, int y, int z) const { return values_[(static_cast<std::size_t>(z) * ny_ + y) * nx_ + x]; }
};

/// What a tape reads round the head, level by level and pitched: the hull of a plane's section.
class GirthTable {
 public:
  static constexpr double kPitchStepDeg = 5.0, kLevelStepMm = 4.0;
  static constexpr int kPitches = 17;  ///< from -40 to 40 degrees about `tilt_deg`

  /// Planes with the normal (0, cos, sin) of each pitch. Cost: 25 to 45 ms for 20,000 triangles.
  GirthTable(const Mesh& head, double tilt_deg);
  /// The girth in the plane `level_mm` along its normal from the origin; 0 where it passes beside the head.
  double at(int pitch, double level_mm) const;
  /// The largest girth between two levels.
  double most(int pitch, double from_mm, double to_mm) const;
  double pitch_deg(int pitch) const { return (pitch - kPitches / 2) * kPitchStepDeg; }

 private:
  double low_ = 0.0;
  std::vector<std::vector<double>> rows_;
};

/// A wearer's head made ready to be asked about what is worn.
///
/// Ownership: shares its trees between copies. Immutable.
class FitHead {
 public:
  using Places = std::array<std::optional<Vec3>, kLandmarkCount>;

  /// `folded`: the head with its ears folded against it, as what goes on finds it; the head itself if they stay.
  FitHead(Mesh mesh, Mesh folded, Places places);

  const Mesh& mesh() const { return mesh_; }
  const Mesh& folded() const { return folded_; }
  const Nearest& near() const { return near_; }
  const std::optional<Vec3>& at(Landmark place) const { return places_[static_cast<int>(place)]; }
  /// Between the ear flaps; the origin where they are not known.
  Vec3 between_ears() const;
  /// The joint under the skull, about which a nod begins. Source: docs/formulas/fit-turning.md.
  Vec3 skull_joint() const { return between_ears() + Vec3(0.0, -23.0, -10.0); }
  Vec3 mid_neck() const { return between_ears() + Vec3(0.0, -75.0, -25.0); }
  /// Signed distance from the folded head.
  double folded_mm(const Vec3& p) const { return grid().at(p); }
  /// The name of the place nearest to a point: "the left ear flap".
  std::string nearest_place(const Vec3& p) const;

 private:
  const DistanceGrid& grid() const;
  Mesh mesh_, folded_;
  Places places_;
  Nearest near_;
  struct Later;
  std::shared_ptr<Later> later_;  ///< the grid, made when it is first asked
};

/// A wearer's head with its ears folded: skin where an ear was, and so much of the ear on it. `head` is the template
/// carried to the wearer, vertex for vertex.
Mesh folded_ears(const HeadTemplate& from, const Mesh& head, double left_mm);

}  // namespace awl
