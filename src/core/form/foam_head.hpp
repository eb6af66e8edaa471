#pragma once
#include "core/form/dial.hpp"
#include "core/form/wrap.hpp"

namespace awl {

/// What a maker decides about a headform of sheet foam. The wearer's skin is the outside of the foam.
struct FoamHeadSpec {
  double neck_up_mm = 0.0;  ///< shortens the neck from its foot, 165 mm under the ear flaps
  double pipe_mm = 0.0;     ///< diameter of a pipe fitting let into both plates; 0: none
  bool mirrored = true;     ///< one half drawn, the other flipped: the mean of both sides of a crooked head
  int plan = -1;            ///< number of a seam plan; -1: suggested for the foam
  bool operator==(const FoamHeadSpec&) const = default;
};

std::vector<Dial> dials_of(FoamHeadSpec& spec);
/// Errors: out_of_range with the value and its limits.
Result<void> check_foam_head(const FoamHeadSpec& spec);

/// Seams good for heads: horizontal belts by their height over the ear flaps, and gores from the crown down to the
/// foot.
struct HeadSeams {
  std::vector<double> belts_mm;
  int gores_per_side = 2;  ///< 2: one seam from ear to ear
};
/// Plans from few long pieces to many short ones.
const std::vector<HeadSeams>& head_seam_plans();

/// The template's bust, prepared once: no ears, hollows narrower than a fist bridged.
class BustMaker {
 public:
  /// Errors: cannot_read, bad_file.
  static Result<std::shared_ptr<const BustMaker>> load(const std::filesystem::path& folder);

  /// The x >= 0 half cut off level at the neck. Errors: those of check_foam_head.
  Result<HalfBlank> blank(const FoamHeadSpec& spec) const;
  static Riders riders(const std::vector<Vec3>& places, std::vector<int> twin_of);

 private:
  Mesh half_;
};

/// Plates that close the neck and let the form stand.
struct NeckPlates {
  std::vector<Vec2> neck;       ///< fits inside the foam of the neck; x to the wearer's left, y forward
  std::vector<Vec2> base;       ///< stands on the bench
  std::vector<Vec2> pipe;       ///< hole in both; empty without a pipe
  Vec2 balance = Vec2::Zero();  ///< where the weight falls
};

/// Plates for a carried bust with its foot open. The base reaches so far that the form tips only beyond 10 degrees.
///
/// Errors: degenerate_shape if the neck is too narrow for the foam or the pipe, with both values.
Result<NeckPlates> neck_plates(const Mesh& bust, double thickness_mm, double pipe_mm);

}  // namespace awl
