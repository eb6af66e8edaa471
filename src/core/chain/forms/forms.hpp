#pragma once
#include "core/builds/part.hpp"
#include "core/chain/forms/worn_head.hpp"
#include "core/chain/step.hpp"
#include "core/derived/part_form.hpp"
#include "core/form/foam_shape.hpp"

namespace awl {

/// The form of the last of a stack, which sits on the one before it and so on down to the head.
struct PartFormStep {
  struct Inputs {
    std::vector<Part> stack;  ///< never empty; the lowest first
    WornHead worn;
    LimbMeasures arm;
    double foam_mm = 0.0;
    bool operator==(const Inputs&) const = default;
  };
  using Made = PartForm;
  static constexpr std::size_t kKept = 40;
  /// Errors: those of its source, with "parts/NUMBER/..." as the place; cancelled.
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// A mesh made elsewhere as foam can show it, in its own frame.
struct FoamShapeStep {
  struct Inputs {
    std::shared_ptr<const Mesh> mesh;
    double to_mm = 1.0, foam_mm = 0.0;
    bool operator==(const Inputs&) const = default;
  };
  using Made = FoamShape;
  static constexpr std::size_t kKept = 4;
  /// Errors: those of foam_shape; cancelled.
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// What a part is thick: by itself, else as the build's foam.
double own_foam_mm(const Part& part, double foam_mm);
/// What cuts; pencil lines change nothing but what is shown.
std::vector<DrawnSeam> inked_of(std::vector<DrawnSeam> seams);
/// An error of a form, as one of the part it is the form of.
Error at_part(Error error, int id);

}  // namespace awl
