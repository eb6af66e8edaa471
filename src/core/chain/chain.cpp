#include "core/chain/chain.hpp"

#include <atomic>

#include "core/base/guard.hpp"
#include "core/chain/door.hpp"
#include "core/chain/shop.hpp"
#include "core/chain/stages.hpp"
#include "core/judge/judge.hpp"

namespace awl {
namespace {

/// One derivation on its way through the stages.
struct Run {
  Shop& shop;
  const Build& build;
  const Progress& progress;
  const Chain::StageDone& stage_done;
  Derived derived = {};
  double done = 0.0;

  /// False: the chain stops here, `derived.error` says why.
  template <Stage S>
  bool stage() {
    const double from = done;
    done += S::kShare / Stages::kWhole;
    const auto in = S::inputs(shop, build, derived);
    if (!in) return stop(in.error());
    if (!*in) return true;
    const auto made = shop.make<S>(**in, progress.span(from, done));
    if (!made) return stop(made.error());
    S::keep(derived, *made);
    if (S::kTold && stage_done) stage_done(derived);
    return true;
  }

  bool stop(const Error& why) {
    derived.error = why;
    return false;
  }
};

}  // namespace

Chain::Chain() : door_(std::make_unique<Door>()) {}
Chain::~Chain() = default;
const HeadFitter& Chain::fitter() const { return shop_->fitter(); }
const Materials& Chain::materials() const { return shop_->materials(); }

Chain::Visit::Visit(const Chain& chain, std::optional<std::chrono::milliseconds> within)
    : chain_(chain), inside_(chain.door_->enter_briefly(within)) {}

Chain::Visit::~Visit() {
  if (inside_) chain_.door_->leave();
}

Result<std::shared_ptr<const Chain>> Chain::load(const std::filesystem::path& data) {
  auto shop = Shop::load(data);
  if (!shop) return fail(shop);
  const std::shared_ptr<Chain> chain(new Chain);
  chain->shop_ = std::move(*shop);
  return std::shared_ptr<const Chain>(chain);
}

Derived Chain::derive(const Build& asked, const Progress& progress, const StageDone& stage_done) const {
  std::atomic<bool> stopped{false};
  const Progress polite([&](double done) {
    if (!progress.keep_going(done)) stopped = true;
    return !door_->is_asked() && !stopped;
  });
  for (;;) {
    Derived d = derive_guarded(asked, polite, stage_done);
    const bool cancelled = d.error && d.error->code == Errc::cancelled;
    // Cancelled, but not by the caller: somebody at the door. What is done is remembered, so going on loses little.
    if (!cancelled || stopped) return d;
  }
}

/// Nothing that goes wrong inside ends the program: what was reached stands, and the rest is a sentence.
Derived Chain::derive_guarded(const Build& asked, const Progress& progress, const StageDone& stage_done) const {
  Derived reached;
  const auto keep = [&](const Derived& so_far) {
    reached = so_far;
    if (stage_done) stage_done(so_far);
  };
  const auto done = guarded("working out the build", [&]() -> Result<Derived> {
    if (auto good = check_inputs(asked); !good) return fail(good);
    return derive_once(asked, progress, keep);
  });
  if (done) return *done;
  reached.error = done.error();
  reached.remarks.push_back({"chain.stopped", Severity::stop, done.error().where, done.error().text, {}, {}, {}});
  sort_remarks(reached.remarks);
  return reached;
}

Derived Chain::derive_once(const Build& build, const Progress& progress, const StageDone& stage_done) const {
  door_->enter();
  struct Leaving {
    Door& door;
    ~Leaving() { door.leave(); }
  } const leaving{*door_};
  Run run{*shop_, build, progress, stage_done};
  Stages::run([&]<class S>() { return run.template stage<S>(); });
  run.derived.remarks = judge(build, run.derived, shop_->materials());
  return std::move(run.derived);
}

}  // namespace awl
