#pragma once
#include <string>
#include <vector>

#include "core/head/compare.hpp"

namespace awl {

/// Ways in which a headform that was built differs from the one that was meant.
enum class Flaw { size, left, right, front, back, height, neck, twist, lean_side, lean_forward };
inline constexpr int kFlawCount = 10;
using Flaws = Eigen::Matrix<double, kFlawCount, 1>;
/// Unit of a flaw: "%", "mm" or "degrees".
const char* unit_of(Flaw flaw);

/// A headform bent by its flaws: places of the form that was meant -> places of the one that stands there.
///
/// size scales from the foot; left, right, front, back push out one side of the head, full at its widest; height lifts
/// the crown; neck widens it; twist turns the crown against the foot (+ to the wearer's left); lean tips to the left /
/// forward.
struct BuiltShape {
  Flaws flaws = Flaws::Zero();
  double foot_y_mm = -165.0, crown_y_mm = 128.0;
  double left_mm = 76.0, right_mm = 76.0, front_mm = 100.0, back_mm = 98.0, neck_mm = 55.0;  ///< where each is full
  Vec3 operator()(const Vec3& meant) const;
};

/// A place marked on the form, on the pattern piece and on the check sheet.
struct BuiltMark {
  std::string name;  ///< "crown", "left ear", "foot front"
  Vec3 at;
};

/// One distance of the check sheet.
struct BuiltDistance {
  std::string id;           ///< "crown to foot left"
  int from = -1, to = -1;   ///< marks; -1 for a girth
  std::vector<Vec3> round;  ///< the way of a girth's tape, closed; empty for a straight distance
  double target_mm = 0.0, tolerance_mm = 2.0;
};

/// Everything the check of one headform needs: its marks and the distances that show size, crookedness and twist.
struct CheckPlan {
  std::vector<BuiltMark> marks;
  std::vector<BuiltDistance> distances;
  BuiltShape meant;  ///< without flaws
};

/// The shortest list of distances from which every flaw of 1 mm or 1 degree can be told, by greedy choice on the
/// posterior. `foot_y_mm` is where the neck is cut off. Source: docs/formulas/built-form.md.
CheckPlan plan_check(const HeadFitter& fitter, const Headform& head, double foot_y_mm);

/// One flaw that is there, in words.
struct Finding {
  Flaw flaw;
  double amount = 0.0, sd = 0.0;
  std::string sentence, remedy;
  Vec3 at = Vec3::Zero();  ///< where it shows most, on the form as built
};

/// What the distances say about the form that stands there.
struct BuiltForm {
  BuiltShape shape;
  Flaws sd = Flaws::Zero();
  std::vector<Finding> findings;     ///< the largest first
  std::vector<std::string> doubted;  ///< distances that do not go with the others
  Mesh mesh;                         ///< the headform as built
  DistanceMap map;                   ///< of the mesh from the headform that was meant
};

/// Fits the flaws to what was read. Any subset of the plan's distances will do.
///
/// Errors: empty_input; unknown_name for a distance that is not on the sheet; out_of_range when a reading is further
/// than
///         80 mm from its target, with both.
Result<BuiltForm> judge_built(
    const CheckPlan& plan, const Headform& head, const std::map<std::string, double>& readings);

}  // namespace awl
