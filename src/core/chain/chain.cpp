#include "core/chain/chain.hpp"

#include <atomic>
#include <tuple>

#include "core/base/guard.hpp"
#include "core/base/parallel.hpp"
#include "core/chain/door.hpp"
#include "core/chain/shop.hpp"
#include "core/chain/stages.hpp"
#include "core/judge/judge.hpp"

namespace awl {
namespace {

/// One stage of a derivation: what it is asked with, and what it made; none where there is nothing to do.
template <Stage S>
struct Turn {
  Result<std::optional<typename S::Inputs>> in = std::optional<typename S::Inputs>();
  std::optional<Result<Held<typename S::Made>>> made;
};

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
  bool stage(std::type_identity<S>) {
    return stage(std::type_identity<Abreast<S>>());
  }

  /// Stages abreast: all look, all run, and what they made is put in its place in their order, up to one that failed.
  template <Stage... S>
  bool stage(std::type_identity<Abreast<S...>>) {
    const double from = done;
    done += Abreast<S...>::kShare / Stages::kWhole;
    SideBySide told(progress.span(from, done), {S::kShare...});
    std::tuple<Turn<S>...> turns;
    (void)(look(std::get<Turn<S>>(turns)) && ...);
    const std::vector<std::function<void(const Progress&)>> jobs{
        [&](const Progress& own) { make(std::get<Turn<S>>(turns), own); }...};
    parallel_for(static_cast<int>(jobs.size()), [&](int i) { jobs[i](told.of(static_cast<std::size_t>(i))); });
    if (!(keep(std::get<Turn<S>>(turns)) && ...)) return false;
    if (stage_done && ((S::kTold && std::get<Turn<S>>(turns).made) || ...)) stage_done(derived);
    return true;
  }

  /// False: it cannot be asked, nor what comes after it.
  template <Stage S>
  bool look(Turn<S>& turn) {
    turn.in = S::inputs(shop, build, derived);
    return turn.in.has_value();
  }
  template <Stage S>
  void make(Turn<S>& turn, const Progress& own) {
    if (turn.in && *turn.in) turn.made = shop.make<S>(**turn.in, own);
  }
  template <Stage S>
  bool keep(const Turn<S>& turn) {
    if (!turn.in) return stop(turn.in.error());
    if (!turn.made) return true;
    if (!*turn.made) return stop(turn.made->error());
    S::keep(derived, **turn.made);
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
  Stages::run([&](auto entry) { return run.stage(entry); });
  run.derived.remarks = judge(build, run.derived, shop_->materials());
  return std::move(run.derived);
}

}  // namespace awl
