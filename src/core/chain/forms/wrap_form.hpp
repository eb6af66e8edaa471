#pragma once
#include "core/builds/part.hpp"
#include "core/chain/forms/worn_head.hpp"
#include "core/chain/step.hpp"
#include "core/derived/part_form.hpp"

namespace awl {

// What of a wrap no wearer's measure touches is made once; on each head it is only carried along.

/// A wrap's shell on the template, with its shapes under the tape.
struct WrapShellStep {
  /// Without its openings: they are cut later. Its edges count, since no more tape is laid than they need.
  struct Inputs {
    WrapSpec spec;
    bool operator==(const Inputs&) const = default;
  };
  using Made = Mesh;
  static constexpr std::size_t kKept = 6;
  /// Errors: those of WrapMaker::shell; cancelled.
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// That shell with its openings and seams cut, and how it rides along with a head.
struct WrapBlankStep {
  struct Inputs {
    WrapSpec spec;  ///< hair and padding set to nothing: they come later
    SeamSpec seams;
    std::vector<DrawnSeam> drawn;  ///< inked ones
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    SeamMesh seams;
    Riders riders;
    std::vector<ModeColumns> samples;  ///< how some of its places move with the modes
    std::vector<FeatureLine> features;
    std::vector<Handle> handles;
  };
  static constexpr std::size_t kKept = 8;
  /// The inputs for a wrap with this spec. Contract: the part is a wrap.
  static Inputs of(const Part& wrap, WrapSpec spec);
  /// Errors: those of the wrap, its seams and its lines; cancelled.
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// The last of `stack`, a wrap, over what lies below it, settled on the head. Errors: those of its blank; cancelled.
Result<PartForm> wrap_form(
    Shop& shop, const std::vector<Part>& stack, const WornHead& worn, double foam_mm, const Progress& progress);

/// Whether a wrap's edges leave anything; quick, without a wearer. Wraps with shapes under the tape are taken as they
/// are. Errors: those of the wrap, with "parts/NUMBER/..." as the place; cancelled.
Result<void> try_wrap(Shop& shop, const Part& wrap, const Progress& progress = {});

}  // namespace awl
