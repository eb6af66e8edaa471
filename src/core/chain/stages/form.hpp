#pragma once
#include "core/chain/forms/worn_head.hpp"
#include "core/chain/stages/meet.hpp"
#include "core/chain/step.hpp"
#include "core/derived/derived.hpp"
#include "core/form/foam_head.hpp"

namespace awl {

/// Every part's form on the wearer. One that cannot be made is told of and left out, with what sits on it.
struct FormStage {
  struct Inputs {
    std::vector<std::vector<Part>> stacks;  ///< each part after all it sits on
    WornHead worn;
    LimbMeasures arm;
    double foam_mm = 0.0;
    std::vector<PartsMeet> meets;  ///< in the order they are cut
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    Held<Form> form;
    std::vector<Error> left_out;
  };
  static constexpr std::size_t kKept = 8;
  static constexpr double kShare = 0.25;
  static constexpr bool kTold = true;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// Several parts as one form.
struct JoinFormsStep {
  using Inputs = std::vector<Held<PartForm>>;
  using Made = Form;
  static constexpr std::size_t kKept = 8;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// A part and all it sits on, the lowest first; how they are made and decked out is left away.
std::vector<Part> stack_of(const Build& build, const Part& part);
LimbMeasures arm_of(const TapeSheet& tape);

/// The seam plan of a headform in foam, where the maker left it open: the one with the least seam whose panels the foam
/// bears; beyond that the first that is near enough, so that nobody is sent to forty pieces for the sake of one nose.
struct HeadPlanStage {
  struct Inputs {
    Held<Headform> head;
    FoamHeadSpec foam_head;
    double thickness_mm = 0.0, bears_strain = 0.0;
    bool operator==(const Inputs&) const = default;
  };
  using Made = int;
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.03;
  static constexpr bool kTold = false;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// The headform itself as the form, when that is what is made.
struct FoamHeadStage {
  struct Inputs {
    Held<Headform> head;
    FoamHeadSpec foam_head;
    double thickness_mm = 0.0;
    bool operator==(const Inputs&) const = default;
  };
  using Made = Form;
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.01;
  static constexpr bool kTold = true;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

/// The part of a headform and its seams that no wearer's measure touches.
struct FoamHeadBlankStep {
  using Inputs = FoamHeadSpec;
  struct Made {
    SeamMesh seams;
    Riders riders;
  };
  static constexpr std::size_t kKept = 4;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

}  // namespace awl
