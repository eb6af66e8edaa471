#pragma once
#include <typeindex>
#include <unordered_map>

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

/// What all steps of the chain share: the data they work from, and what each of them remembers. One thread at a time.
class Shop {
 public:
  /// Errors: cannot_read, bad_file.
  static Result<std::unique_ptr<Shop>> load(const std::filesystem::path& data_folder);

  /// What a step makes of these inputs, made anew only if it is not remembered. Errors: those of the step.
  template <Step S>
  Result<Held<typename S::Made>> make(const typename S::Inputs& in, const Progress& progress = {}) {
    auto& memo = memos_[std::type_index(typeid(S))];
    if (!memo) memo = std::make_shared<Memo<typename S::Inputs, typename S::Made>>(S::kKept);
    const auto held = std::static_pointer_cast<Memo<typename S::Inputs, typename S::Made>>(memo);
    return held->get(in, [&] { return S::run(*this, in, progress); });
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
  std::shared_ptr<const HeadFitter> fitter_;
  std::shared_ptr<const WrapMaker> wraps_;
  std::shared_ptr<const BustMaker> busts_;
  Materials materials_;
  std::vector<StepRule> rules_;
  FitRules fit_rules_;
  DressRules dress_rules_;
  std::unordered_map<std::type_index, std::shared_ptr<void>> memos_;
};

}  // namespace awl
