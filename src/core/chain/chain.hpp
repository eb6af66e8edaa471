#pragma once
#include <chrono>
#include <filesystem>
#include <functional>
#include <memory>

#include "core/base/progress.hpp"
#include "core/derived/derived.hpp"
#include "core/head/headform.hpp"
#include "core/stuff/materials.hpp"

namespace awl {

class Door;
class Shop;

/// The one chain of derivation: tape measures -> headform -> form -> panels -> pieces -> sheets -> plan.
///
/// Every stage is a pure function of its inputs and remembered under exactly those, so a change renews only what hangs
/// on it. Threads: derive may be called from any thread; calls wait for each other. Short questions
/// (chain/questions.hpp) are let pass by a derivation under way.
class Chain {
 public:
  /// Loads what all builds share. Errors: cannot_read, bad_file.
  static Result<std::shared_ptr<const Chain>> load(const std::filesystem::path& data_folder);
  ~Chain();

  using StageDone = std::function<void(const Derived& so_far)>;
  /// `stage_done` is called after the stages worth seeing with what there is so far.
  Derived derive(const Build& build, const Progress& progress = {}, const StageDone& stage_done = {}) const;

  const HeadFitter& fitter() const;
  const Materials& materials() const;

  /// Somebody inside the chain for a short question.
  class Visit {
   public:
    /// Waits for who is inside, at most `within` if that is given.
    explicit Visit(const Chain& chain, std::optional<std::chrono::milliseconds> within = {});
    ~Visit();
    Visit(const Visit&) = delete;
    Visit& operator=(const Visit&) = delete;
    /// False if the wait was too short: then nothing may be asked.
    explicit operator bool() const { return inside_; }
    Shop& shop() const { return *chain_.shop_; }

   private:
    const Chain& chain_;
    bool inside_;
  };

 private:
  Chain();
  Derived derive_guarded(const Build& build, const Progress& progress, const StageDone& stage_done) const;
  Derived derive_once(const Build& build, const Progress& progress, const StageDone& stage_done) const;
  std::unique_ptr<Door> door_;
  std::unique_ptr<Shop> shop_;
};

}  // namespace awl
