#pragma once
#include <concepts>
#include <memory>
#include <optional>

#include "core/base/progress.hpp"
#include "core/base/result.hpp"

namespace awl {

struct Build;
struct Derived;
class Shop;

/// What is made once and shared; the memory of a step keeps it alive.
template <class T>
using Held = std::shared_ptr<const T>;

/// One remembered step of the chain. `run` is pure: it sees its Inputs and the shop's data, never a Build. Heavy inputs
/// are Held and compared by identity.
template <class S>
concept Step = std::equality_comparable<typename S::Inputs> &&
    requires(Shop& shop, const typename S::Inputs& in, const Progress& progress) {
  { S::run(shop, in, progress) } -> std::same_as<Result<typename S::Made>>;
  { S::kKept } -> std::convertible_to<std::size_t>;  // how many of its results are remembered
};

/// A step with a place in what is derived.
template <class S>
concept Stage = Step<S> &&
    requires(const Shop& shop, const Build& build, Derived& derived, Held<typename S::Made> made) {
  // The only look at the build; none: there is nothing to do. An error stops the chain.
  { S::inputs(shop, build, derived) } -> std::same_as<Result<std::optional<typename S::Inputs>>>;
  { S::keep(derived, made) } -> std::same_as<void>;
  { S::kShare } -> std::convertible_to<double>;  // of the time all stages take
  { S::kTold } -> std::convertible_to<bool>;     // whether those who watch are shown what there is after it
};

}  // namespace awl
