#pragma once
#include <mutex>
#include <typeindex>
#include <unordered_map>

#include "core/base/parallel.hpp"
#include "core/chain/memo.hpp"
#include "core/chain/step.hpp"
#include "core/coat/plan.hpp"
#include "core/dress/rules.hpp"
#include "core/fit/rules.hpp"
#include "core/form/foam_head.hpp"
#include "core/form/wrap.hpp"
#include "core/head/headform.hpp"
#include "core/stuff/materials.hpp"

namespace awl {

/// What all steps of the chain share: the data they work from, and what each of them remembers. Steps of one derivation
/// may ask from several threads.
class Shop {
 public:
  /// Errors: cannot_read, bad_file.
  static Result<std::unique_ptr<Shop>> load(const std::filesystem::path& data_folder);

  /// What a step makes of these inputs, made anew only if it is not remembered. Errors: those of the step.
  template <Step S>
  Result<Held<typename S::Made>> make(const typename S::Inputs& in, const Progress& progress = {}) {
    return memory_of<S>().get(in, [&] { return S::run(*this, in, progress); });
  }

  /// The same of many inputs side by side, in their order. Errors: those of the step; cancelled.
  template <Step S>
  std::vector<Result<Held<typename S::Made>>> make_all(
      const std::vector<typename S::Inputs>& in, const Progress& progress = {}) {
    std::vector<Result<Held<typename S::Made>>> made(in.size(), fail(Errc::cancelled, "Stopped."));
    SideBySide told(progress, std::vector<double>(in.size(), 1.0));
    parallel_for(static_cast<int>(in.size()), [&](int i) {
      const auto at = static_cast<std::size_t>(i);
      const Progress own = told.of(at);
      if (own.keep_going(0.0)) made[at] = make<S>(in[at], own);
    });
    return made;
  }

  const HeadFitter& fitter() const { return *fitter_; }
  const WrapMaker& wraps() const { return *wraps_; }
  const BustMaker& busts() const { return *busts_; }
  const Materials& materials() const { return materials_; }
  const std::vector<StepRule>& rules() const { return rules_; }
  const FitRules& fit_rules() const { return fit_rules_; }
  const DressRules& dress_rules() const { return dress_rules_; }

 private:
  Shop() = default;

  template <Step S>
  Memo<typename S::Inputs, typename S::Made>& memory_of() {
    const std::lock_guard lock(door_);
    auto& memo = memos_[std::type_index(typeid(S))];
    if (!memo) memo = std::make_shared<Memo<typename S::Inputs, typename S::Made>>(S::kKept);
    return *std::static_pointer_cast<Memo<typename S::Inputs, typename S::Made>>(memo);
  }

  std::shared_ptr<const HeadFitter> fitter_;
  std::shared_ptr<const WrapMaker> wraps_;
  std::shared_ptr<const BustMaker> busts_;
  Materials materials_;
  std::vector<StepRule> rules_;
  FitRules fit_rules_;
  DressRules dress_rules_;
  std::mutex door_;
  std::unordered_map<std::type_index, std::shared_ptr<void>> memos_;
};

}  // namespace awl
