#pragma once
#include "core/builds/build.hpp"
#include "core/chain/step.hpp"
#include "core/derived/derived.hpp"
#include "core/dress/dress.hpp"

namespace awl {

/// A part made ready to be dressed, with the feet of those that sit on it.
struct DressSiteStep {
  struct Inputs {
    Held<PartForm> form;
    bool sweep = false;
    std::vector<Held<PartForm>> guests;
    bool operator==(const Inputs&) const = default;
  };
  using Made = DressSite;
  static constexpr std::size_t kKept = 48;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// One detail on its part.
struct DetailStep {
  struct Inputs {
    Held<DressSite> site;
    Detail detail;
    DressStuffs stuffs;
    Held<Dressed> beside;  ///< what it lies beside; null for none
    bool operator==(const Inputs&) const = default;
  };
  using Made = Dressed;
  static constexpr std::size_t kKept = 160;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// Where parts sit on a part.
struct FeetStep {
  using Inputs = Held<DressSite>;
  using Made = Dressed;
  static constexpr std::size_t kKept = 48;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// All details of a build, and the feet of its parts. Nothing to do where there are neither.
struct DressStage {
  struct One {
    DressSiteStep::Inputs site;
    DressStuffs stuffs;
    bool feet = false;
    bool operator==(const One&) const = default;
  };
  struct Inputs {
    std::vector<One> parts;  ///< those with details or feet
    std::vector<Detail> details;
    bool operator==(const Inputs&) const = default;
  };
  using Made = std::vector<Held<Dressed>>;
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.03;
  static constexpr bool kTold = false;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

}  // namespace awl
