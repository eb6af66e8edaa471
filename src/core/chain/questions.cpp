#include "core/chain/questions.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/guard.hpp"
#include "core/base/numbers.hpp"
#include "core/chain/forms/forms.hpp"
#include "core/chain/forms/wrap_form.hpp"
#include "core/chain/shop.hpp"
#include "core/chain/stages/fitting.hpp"
#include "core/chain/stages/form.hpp"
#include "core/chain/stages/head.hpp"
#include "core/chain/stages/panels.hpp"
#include "core/derived/seating.hpp"
#include "core/judge/judge.hpp"

namespace awl {
namespace {

using Clock = std::chrono::steady_clock;

/// What is left of somebody's patience.
class Waiting {
 public:
  explicit Waiting(Patience patience) : until_(patience ? std::optional(Clock::now() + *patience) : std::nullopt) {}
  bool over() const { return until_ && Clock::now() >= *until_; }
  Patience left() const {
    if (!until_) return {};
    const auto left = std::chrono::duration_cast<std::chrono::milliseconds>(*until_ - Clock::now());
    return std::max(left, std::chrono::milliseconds(0));
  }
  Progress progress() const {
    if (!until_) return {};
    return Progress([this](double) { return !over(); });
  }

 private:
  std::optional<Clock::time_point> until_;
};

tl::unexpected<Error> too_late() { return fail(Errc::cancelled, "This was not known in time."); }

tl::unexpected<Error> no_part(int id) {
  return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
}

Result<Held<Headform>> head_in(Shop& shop, const Build& build, const Progress& progress = {}) {
  const auto made = shop.make<HeadStage>({build.tape.measures(), build.scan}, progress);
  if (!made) return fail(made);
  return (*made)->head;
}

/// One part's form on the build's wearer. Errors: those of the head, then those of the form.
Result<Held<PartForm>> form_in(Shop& shop, const Build& build, const Part& part, const Progress& progress) {
  const auto head = head_in(shop, build, progress);
  if (!head) return fail(head);
  WornHead worn{*head, nullptr};
  if (build.fit_to_built) {
    const auto& spec = build.foam_head;
    const auto check = shop.make<CheckStage>({*head, spec.neck_up_mm, spec.mirrored, build.built});
    if (!check) return fail(check);
    worn.built = (*check)->built;
  }
  return shop.make<PartFormStep>({stack_of(build, part), worn, arm_of(build.tape), build.foam.thickness_mm}, progress);
}

Result<void> try_part(const Chain& chain, const Build& build, int id, const Waiting& waiting) {
  const Part* part = find_part(build, id);
  if (part == nullptr) return no_part(id);
  if (auto good = check_part(*part); !good) return good;
  const Chain::Visit visit(chain, waiting.left());
  if (!visit) return too_late();
  // Laying the tape anew takes its time; whether the edges leave anything is told without what lies under it.
  if (const auto* wrap = std::get_if<WrapSpec>(&part->shape); wrap != nullptr && !wrap->cards.empty())
    return try_wrap(visit.shop(), *part, waiting.progress());
  if (!head_in(visit.shop(), build)) return {};  // the tapes are at fault, not the part
  const auto form = form_in(visit.shop(), build, *part, waiting.progress());
  if (!form) return fail(form);
  return {};
}

/// The value nearest to the one asked for at which the form can be made, by halving; none if there was no time.
std::optional<double> nearest_that_works(const Chain& chain, const Build& build, int id, const DialFacts& facts,
    double now, double asked, const Waiting& waiting) {
  const double step = facts.kind == DialKind::share ? 0.01 : 1.0, way = asked > now ? 1.0 : -1.0;
  double good = now, bad = asked;
  while (std::abs(bad - good) > 1.01 * step) {
    // Round figures: what is named is what a maker would type.
    const double mid = step * std::round(0.5 * (good + bad) / step);
    if ((mid - good) * way <= 0.0 || (bad - mid) * way <= 0.0) break;
    const auto tried = turn_dial(build, id, facts.id, mid);
    const auto works = tried ? try_part(chain, *tried, id, waiting) : Result<void>(fail(tried));
    if (!works && works.error().code == Errc::cancelled) return {};
    (works ? good : bad) = mid;
  }
  return good;
}

}  // namespace

Result<Part> seated_at(
    const Chain& chain, const Build& build, const Derived& derived, int id, const Vec3& place, Patience patience) {
  const Part* part = find_part(build, id);
  if (part == nullptr) return no_part(id);
  const auto host = host_at(*part, build, derived, place);
  if (!host) return fail(host);
  if (*host == 0) return seated_on(*part, 0, box_of(derived.head->mesh.vertices), place);
  const Waiting waiting(patience);
  const Chain::Visit visit(chain, waiting.left());
  if (!visit) return too_late();
  const auto form = form_in(visit.shop(), build, *find_part(build, *host), waiting.progress());
  if (!form) return fail(form);
  return seated_on(*part, *host, box_of(outer_face(**form).vertices), place);
}

Result<Headform> head_of(const Chain& chain, const TapeSheet& sheet) {
  if (auto good = check_sheet(sheet, chain.fitter().populations()); !good) return fail(good);
  return chain.fitter().fit(sheet.measures());
}

Result<void> check(const Chain& chain, const Build& build, Patience patience) {
  if (auto good = check_build(build, chain.materials(), chain.fitter().populations()); !good) return good;
  const Waiting waiting(patience);
  const Chain::Visit visit(chain, waiting.left());
  if (!visit) return {};
  for (const Part& p : build.parts)
    if (std::holds_alternative<WrapSpec>(p.shape))
      if (auto good = try_wrap(visit.shop(), p, waiting.progress()); !good && good.error().code != Errc::cancelled)
        return good;
  return {};
}

Result<void> try_part(const Chain& chain, const Build& build, int id, Patience patience) {
  return try_part(chain, build, id, Waiting(patience));
}

Result<Build> turn(
    const Chain& chain, const Build& build, int id, const std::string& dial, double value, Patience patience) {
  const Waiting waiting(patience);
  auto asked = turn_dial(build, id, dial, value);
  if (!asked) return asked;
  const auto refused = try_part(chain, *asked, id, waiting);
  if (refused || refused.error().code == Errc::cancelled) return asked;
  const Part* part = find_part(build, id);
  Part copy = *part;
  const auto all = dials_of(copy);
  const auto facts = std::find_if(all.begin(), all.end(), [&](const Dial& d) { return d.facts.id == dial; })->facts;
  const auto now = dial_value(*part, dial);
  if (facts.kind == DialKind::choice || !now || !try_part(chain, build, id, waiting)) return fail(refused);
  const auto good = nearest_that_works(chain, build, id, facts, *now, value, waiting);
  if (!good) return fail(refused);
  Error error = refused.error();
  const std::string text = facts.kind == DialKind::length ? fixed(*good, 0) + " mm" : dial_text(facts, *good);
  error.text += *good == *now ? " Nothing between it and what there is, " + text + ", works either."
                              : " The nearest that works is " + text + ".";
  return fail(error);
}

Result<std::shared_ptr<const PanelSet>> sketch(
    const Chain& chain, const Build& build, int id, const Progress& progress) {
  const Part* part = find_part(build, id);
  if (part == nullptr) return no_part(id);
  Held<PartForm> form;
  {
    const Chain::Visit visit(chain);
    const auto made = form_in(visit.shop(), build, *part, progress.span(0.0, 0.5));
    if (!made) return fail(made);
    form = *made;
  }
  PanelOptions rough = panel_options(*form);
  rough.flatten.minimax = false;
  rough.flatten.rigid_rounds = 16;
  rough.match_seams = false;
  auto set = make_panels(form->surface, rough, progress.span(0.5, 1.0));
  if (!set) return fail(set);
  return std::make_shared<const PanelSet>(std::move(*set));
}

Result<std::shared_ptr<const Worn>> worn(
    const Chain& chain, const Build& build, const Derived& derived, const Progress& progress) {
  const Chain::Visit visit(chain);
  const auto question = worn_question(visit.shop(), build, derived);
  if (!question) return fail(question);
  if (!*question) return std::shared_ptr<const Worn>();
  return visit.shop().make<WornStep>(**question, progress);
}

Result<std::shared_ptr<const Worn>> look_out(
    const Chain& chain, const Build& build, const Derived& derived, int id, const Progress& progress) {
  constexpr double kRoughDeg = 1.5;
  const Part* part = find_part(build, id);
  if (part == nullptr) return no_part(id);
  if (!derived.worn) return std::shared_ptr<const Worn>();
  const Chain::Visit visit(chain);
  Shop& shop = visit.shop();
  auto question = worn_question(shop, build, derived);
  if (!question) return fail(question);
  if (!*question) return std::shared_ptr<const Worn>();
  for (FitPartStep::Inputs& one : (*question)->parts)
    if (one.form->part == id) {
      const auto form = form_in(shop, build, *part, progress);
      if (!form) return fail(form);
      one.form = *form;
    }
  return look_through(shop, **question, *derived.worn, kRoughDeg, progress);
}

std::shared_ptr<const Worn> OpeningLook::through(const Part& part) const {
  const auto* wrap = std::get_if<WrapSpec>(&part.shape);
  if (wrap == nullptr) return before_;
  Worn now = *before_;
  now.sight = view_.seen([outside = openings_of(*wrap)](const Vec3& home) { return outside(home) < 0.0; });
  return std::make_shared<const Worn>(std::move(now));
}

Result<std::shared_ptr<const OpeningLook>> look_through_opening(
    const Chain& chain, const Build& build, const Derived& derived, int id, const Progress& progress) {
  constexpr double kRoughDeg = 1.5;
  using Made = std::shared_ptr<const OpeningLook>;
  const Part* part = find_part(build, id);
  if (part == nullptr) return no_part(id);
  if (!derived.worn || part->way.way != Way::skin || !std::holds_alternative<WrapSpec>(part->shape)) return Made();
  Part filled = *part;
  auto& wrap = std::get<WrapSpec>(filled.shape);
  wrap.eye_wide_mm = wrap.eye_tall_mm = 0.0;
  const Chain::Visit visit(chain);
  Shop& shop = visit.shop();
  const auto question = worn_question(shop, build, derived);
  if (!question) return fail(question);
  if (!*question) return Made();
  const auto form = form_in(shop, build, filled, progress);
  if (!form) return fail(form);
  auto view = opening_view(shop, **question, *form, kRoughDeg, progress);
  if (!view) return fail(view);
  if (!*view) return Made();
  return std::make_shared<const OpeningLook>(std::move(**view), derived.worn);
}

Derived with_worn(const Chain& chain, const Build& build, Derived derived, const Progress& progress) {
  if (derived.error) return derived;
  const auto fit = guarded("fitting it on the head", [&] { return worn(chain, build, derived, progress); });
  if (!fit || !*fit) return derived;
  derived.worn = *fit;
  derived.remarks = judge(build, derived, chain.materials());
  return derived;
}

Result<std::vector<Suggestion>> suggest(
    const Chain& chain, const Build& build, int id, std::optional<double> tolerance, const Progress& progress) {
  Build plain = build;
  Part* part = find_part(plain, id);
  if (part == nullptr) return no_part(id);
  const auto strips = part->drawn;
  part->seams.preset = SeamPreset::none;
  part->own_seams = false;
  part->drawn.clear();
  auto* import = std::get_if<ImportSpec>(&part->shape);
  if (import != nullptr) import->cut.reset();
  const auto foam = foam_of(build.foam, chain.materials());
  if (!foam) return fail(foam);
  const double bears = bears_strain(*foam, build.foam.heated);
  Held<PartForm> form;
  {
    const Chain::Visit visit(chain);
    const auto made = form_in(visit.shop(), plain, *part, progress.span(0.0, 0.1));
    if (!made) return fail(made);
    form = *made;
  }
  const Draft draft = undrawn(*form);
  std::vector<SuggestOptions> asked;
  for (const auto& [keep_middle, share] : {std::pair{true, 1.0}, {false, 1.0}, {true, 0.6}}) {
    SuggestOptions one;
    one.tolerance = share * tolerance.value_or(bears);
    one.thickness_mm = form->thickness_mm;
    one.outside = form->outside;
    one.keep_middle = keep_middle;
    one.strips = strips;
    one.exact = import != nullptr;
    if (keep_middle || (draft.mirrored && !mirror_line(draft.mesh).empty())) asked.push_back(one);
  }
  std::vector<Suggestion> found;
  const double n = static_cast<double>(asked.size());
  for (std::size_t i = 0; i < asked.size(); ++i) {
    const double from = static_cast<double>(i) / n;
    auto one = suggest_panels(draft, asked[i], progress.span(0.1 + 0.9 * from, 0.1 + 0.9 * (from + 1.0 / n)));
    if (!one && one.error().code == Errc::cancelled) return fail(one);
    if (one) found.push_back(std::move(*one));
  }
  if (found.empty())
    return fail(Errc::no_solution,
        "No way was found to cut the " + part->name +
            " so that it lies flat; draw a seam that opens it, and try again.",
        "parts/" + std::to_string(id));
  return found;
}

}  // namespace awl
