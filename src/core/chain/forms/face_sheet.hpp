#pragma once
#include "core/chain/forms/worn_head.hpp"
#include "core/chain/step.hpp"
#include "core/derived/part_form.hpp"
#include "core/form/plate.hpp"

namespace awl {

/// A shell over the face laid flat, for plates that are bent onto it.
struct FaceSheetStep {
  struct Inputs {
    WornHead worn;
    double ease_mm = 0.0;
    FaceReach reach;
    bool operator==(const Inputs&) const = default;
  };
  using Made = FaceSheet;
  static constexpr std::size_t kKept = 3;
  /// Errors: those of WrapMaker::face_patch, of settling and of flattening.
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// Gives the sheets over this head's face. The shop must outlive it.
FaceSheetMaker face_maker(Shop& shop, const WornHead& worn);

/// A plate's sheet as it is drawn on: holes, and the face's landmarks where it follows the face. Errors: those of
/// plate_map.
Result<PlateLayout> plate_layout(Shop& shop, const PlateSpec& spec, const Site& site, const WornHead& worn);

}  // namespace awl
