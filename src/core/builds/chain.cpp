#include "core/builds/chain.hpp"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <mutex>
#include <thread>

#include "core/base/guard.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/builds/chain_keys.hpp"
#include "core/builds/stuffs.hpp"
#include "core/builds/to_cut.hpp"

namespace awl {
namespace {

constexpr double kBustFootMm = -157.0;  // the neck of a headform of foam is cut here, over the foot's rounded edge
constexpr int kShortList = 6;

/// All parts as one form.
Form joined(const std::vector<HeldForm>& parts) {
  Form form;
  form.parts = parts;
  std::vector<const SeamMesh*> surfaces;
  double worst = 1e300;
  for (const HeldForm& p : parts) {
    surfaces.push_back(&p->surface);
    form.spans.push_back(span_of(p->surface, p->name, p->outside, p->thickness_mm));
    form.area_mm2 += p->area_mm2;
    if (p->lower_girth_mm > 0.0 && (form.lower_girth_mm == 0.0 || p->lower_girth_mm < form.lower_girth_mm))
      form.lower_girth_mm = p->lower_girth_mm;
    if (p->ease_mm > 0.0 && p->clearance.least_mm - p->ease_mm < worst)
      worst = p->clearance.least_mm - p->ease_mm, form.clearance = p->clearance;
  }
  form.surface = join_forms(surfaces);
  return form;
}

/// A part and all it sits on, the lowest first.
std::vector<Part> stack_of(const Build& b, const Part& part) {
  std::vector<Part> stack{part};
  while (stack.front().on != 0) {
    const Part* below = find_part(b, stack.front().on);
    if (below == nullptr) break;
    expects(stack.size() <= b.parts.size(), "stack_of: a part sits on itself");
    stack.insert(stack.begin(), *below);
  }
  for (Part& p : stack) p.way = {};  // a form is the same however it is made
  return stack;
}

LimbMeasures arm_of(const TapeSheet& tape) {
  const auto mm = [&](BodyMeasure id) { return tape.body.count(id) != 0 ? tape.body.at(id) : 0.0; };
  return {mm(BodyMeasure::wrist), mm(BodyMeasure::forearm), mm(BodyMeasure::hand)};
}

}  // namespace

struct Chain::Shop {
  std::shared_ptr<const HeadFitter> fitter;
  std::shared_ptr<const WrapMaker> hoods;
  std::shared_ptr<const BustMaker> busts;
  Materials materials;
  std::vector<StepRule> rules;

  std::mutex door;
  std::atomic<int> waiting{0};  ///< short questions at the door; a derivation under way lets them pass
  Memo<HeadKey, HeadWithTapes> heads;
  Memo<BustKey, SeamedBust> blanks;
  Memo<CheckKey, Checked> checks;
  Memo<BustFormKey, Form> bust_forms;
  Memo<std::vector<HeldForm>, Form> forms{8};
  Memo<HeldForm, PanelSet> panels{40};
  Memo<HeldForm, PanelSet> uncut{16};
  Memo<AlterKey, PanelSet> altered{16};
  Memo<std::vector<HeldPanels>, PanelSet> panel_sets{8};
  Memo<WayKey, MadeWay> ways{24};
  Memo<PiecesKey, std::vector<Piece>> pieces{8};
  Memo<LayoutKey, Layout> layouts;
  Memo<PlanKey, Plan> plans;
  Memo<SuggestKey, int> plans_of_heads;
  std::unique_ptr<FormShop> maker;
  mutable ScanNumbers scan_numbers;

  Result<std::shared_ptr<const SeamedBust>> bust_blank(const FoamHeadSpec& spec) {
    return blanks.get({spec}, [&]() -> Result<SeamedBust> {
      const auto trimmed = busts->blank(spec);
      if (!trimmed) return fail(trimmed);
      SeamMesh seams = cut_head(trimmed->half, trimmed->midline, head_seam_plans()[std::max(0, spec.plan)]);
      Riders riders = BustMaker::riders(seams.mesh.vertices, seams.twin_of);
      return SeamedBust{std::move(seams), std::move(riders)};
    });
  }

  /// The head a form is built to: of a mirrored headform the mean of both sides.
  Headform meant_head(const Headform& head, bool mirrored) const {
    constexpr int kAsymmetric = kModeCount - kSymmetricModes;
    if (!mirrored || head.coefficients.tail<kAsymmetric>().isZero(0.0)) return head;
    Coefficients c = head.coefficients;
    c.tail<kAsymmetric>().setZero();
    return fitter->shape(c);
  }

  Checked make_check(const Headform& head, const CheckKey& key) const {
    Checked checked;
    const Headform meant = meant_head(head, key.mirrored);
    checked.plan = std::make_shared<const CheckPlan>(plan_check(*fitter, meant, kBustFootMm + key.neck_up_mm));
    if (key.built.empty()) return checked;
    auto built = judge_built(*checked.plan, meant, key.built);
    if (built)
      checked.built = std::make_shared<const BuiltForm>(std::move(*built));
    else
      checked.error = built.error();
    return checked;
  }

  Result<HeadWithTapes> make_head(const HeadKey& key, const Progress& progress) const {
    if (key.scan.ready()) return scanned_head(key, progress);
    auto head = fitter->fit(key.measures);
    if (!head) return fail(head);
    auto tapes = tape_paths(*fitter, *head);
    return HeadWithTapes{std::move(*head), std::move(tapes), nullptr};
  }

  /// The head of a scan, tapes joining in; they are shown as given.
  Result<HeadWithTapes> scanned_head(const HeadKey& key, const Progress& progress) const {
    auto fit = fit_scan(*fitter, *key.scan.scan, key.measures, progress);
    if (!fit) return fail(fit);
    HeadWithTapes made{fit->head, {}, nullptr};
    for (Reading& r : made.head.readings) r.band_mm = std::max(1.0, fit->p95_mm);
    for (const auto& [id, mm] : key.measures.set)
      made.head.readings[index_of(id)].given = true, made.head.readings[index_of(id)].given_mm = mm;
    if (fit->covered_share < 0.85)
      made.head.remarks.push_back({"head.scan-cover", Severity::note, "scan",
          "The scan covers " + fixed(100.0 * fit->covered_share, 0) +
              " % of the head; the rest is filled in from proportions and tapes.",
          100.0 * fit->covered_share, 85.0, {}});
    made.tapes = tape_paths(*fitter, made.head);
    made.scan = std::make_shared<const ScanFit>(std::move(*fit));
    return made;
  }

  /// What to measure first for the forms of this build, and what next. Without a wrap an open-face hood stands for
  /// them.
  void list_telling(const Build& b, const WearerMeasures& wearer, Derived& d) {
    Part wrap;
    for (const Part& p : b.parts)
      if (std::holds_alternative<WrapSpec>(p.shape)) {
        wrap = p;
        auto& spec = std::get<WrapSpec>(wrap.shape);
        spec.cards.clear(), spec.tight_mm = WrapSpec{}.tight_mm;  // laying tape over cards for this would take too long
        break;
      }
    const auto samples = maker->samples(wrap);
    if (!samples) return;
    const Centre& centre = fitter->centre_for(wearer);
    d.short_list = most_telling(centre, {}, **samples, kShortList);
    const auto next = most_telling(centre, wearer.set, **samples, 1);
    if (!next.empty()) d.next = next.front();
  }

  Result<Form> make_bust(const Build& b, const Derived& d) {
    const auto seamed = bust_blank(b.foam_head);
    if (!seamed) return fail(seamed);
    const Headform meant = meant_head(*d.head, b.foam_head.mirrored);
    PartForm form;
    form.name = "headform", form.outside = true, form.thickness_mm = b.foam.thickness_mm;
    form.surface = (*seamed)->seams;
    form.surface.mesh.vertices = (*seamed)->riders.carried(meant.coefficients);
    form.area_mm2 = area_mm2(form.surface.mesh);
    auto plates = neck_plates(form.surface.mesh, b.foam.thickness_mm, b.foam_head.pipe_mm);
    if (!plates) return fail(plates);
    Form whole = joined({std::make_shared<const PartForm>(std::move(form))});
    whole.is_headform = true, whole.head_plan = b.foam_head.plan, whole.plates = std::move(*plates);
    return whole;
  }

  static PanelOptions panel_options(const PartForm& form) {
    PanelOptions options;
    options.name = form.name;
    options.thickness_mm = form.thickness_mm, options.form_is_outside = form.outside;
    const bool detailed = form.ease_mm == 0.0 || form.clearance.mean_mm == 0.0;
    if (detailed && form.name != "headform") options.least_mm2 = 0.0;
    return options;
  }

  WornHead worn(const Build& b, const CheckKey& check, const Derived& d) const {
    const bool to_built = b.fit_to_built && d.built;
    const int scan = check.head.scan.ready() ? scan_numbers.of(check.head.scan.scan) : 0;
    return {key_of(check, to_built, scan), d.head.get(), to_built ? d.built.get() : nullptr};
  }

  Result<std::shared_ptr<const Headform>> head_of(const Build& b) {
    const CheckKey key = check_key_of(b);
    const auto held = heads.get(key.head, [&] { return make_head(key.head, {}); });
    if (!held) return fail(held);
    return std::shared_ptr<const Headform>(*held, &(*held)->head);
  }

  /// One part's form on this head.
  Result<HeldForm> form_on(
      const Build& b, const Part& part, const std::shared_ptr<const Headform>& head, const Progress& progress) {
    Derived d;
    d.head = head;
    return maker->form(stack_of(b, part), worn(b, check_key_of(b), d), arm_of(b.tape), b.foam.thickness_mm, progress);
  }

  /// Every part's form; one that cannot be made is told of and left out, with what sits on it.
  Result<std::shared_ptr<const Form>> make_parts(
      const Build& b, const CheckKey& check, Derived& d, const Progress& progress) {
    const WornHead on = worn(b, check, d);
    std::vector<HeldForm> made;
    for (std::size_t i = 0; i < b.parts.size(); ++i) {
      const double n = static_cast<double>(b.parts.size());
      auto form = maker->form(
          stack_of(b, b.parts[i]), on, arm_of(b.tape), b.foam.thickness_mm, progress.span(i / n, (i + 1) / n));
      if (form)
        made.push_back(*form);
      else if (form.error().code == Errc::cancelled)
        return fail(form);
      else
        d.part_errors.push_back(form.error());
    }
    if (made.empty()) {
      if (!d.part_errors.empty()) return fail(d.part_errors.front());
      return fail(Errc::empty_input, "This build has no part yet: add one at Form.", "parts");
    }
    return forms.get(made, [&]() -> Result<Form> { return joined(made); });
  }

  /// One part's panels, taken in and let out as the maker did. What cannot be done any more is told of and left out.
  Result<HeldPanels> panels_of(
      const Build& b, const HeldForm& part, std::vector<Error>& errors, const Progress& progress) {
    auto set = panels.get(part, [&] { return make_panels(part->surface, panel_options(*part), progress); });
    AlterKey key{set ? *set : nullptr, {}};
    for (const Alteration& a : b.alterations)
      if (a.part == part->part) key.alterations.push_back(a);
    while (set && !key.alterations.empty()) {
      auto done = altered.get(key, [&] { return alter(*key.panels, key.alterations); });
      if (done) return done;
      errors.push_back(done.error());
      const auto id = whole_in(done.error().where.substr(done.error().where.rfind('/') + 1));
      // An error about none of them: then all are left out, rather than none for ever.
      if (std::erase_if(key.alterations, [&](const Alteration& a) { return id && a.id == *id; }) == 0)
        key.alterations.clear();
    }
    return set;
  }

  Result<HeldPanels> make_panel_sets(const Build& b, Derived& d, const Progress& progress) {
    const Form& form = *d.form;
    auto& sets = d.part_panels;
    const double n = static_cast<double>(form.parts.size());
    for (std::size_t i = 0; i < form.parts.size(); ++i) {
      const HeldForm& part = form.parts[i];
      auto set = panels_of(b, part, d.part_errors, progress.span(i / n, (i + 1) / n));
      const Part* of = find_part(b, part->part);
      // What is not made from sheet need not lie flat.
      if (!set && set.error().code != Errc::cancelled && of != nullptr && of->way.way != Way::skin)
        set = uncut.get(part, [&]() -> Result<PanelSet> {
          return PanelSet{
              part->surface, {span_of(part->surface, part->name, part->outside, part->thickness_mm)}, {}, {}};
        });
      if (set)
        sets.push_back(*set);
      else if (set.error().code == Errc::cancelled || form.parts.size() == 1)
        return fail(set);
      else
        return fail(
            set.error().code, "The " + part->name + ": " + set.error().text, "parts/" + std::to_string(part->part));
    }
    if (sets.size() == 1) return sets.front();
    return panel_sets.get(sets, [&]() -> Result<PanelSet> { return join_panels(sets); });
  }

  /// The seam plan with the least seam whose panels the foam bears; beyond that the first that is near enough, so that
  /// a maker is not sent to forty pieces for the sake of one nose.
  Result<int> suggest_plan(Build b, const Derived& d, const Progress& progress) {
    constexpr double kNearEnough = 1.5;
    const auto foam = foam_of(b.foam, materials);
    const double limit = !foam ? 0.04 : bears_strain(*foam, b.foam.heated);
    const int count = static_cast<int>(head_seam_plans().size());
    int near_enough = -1;
    for (b.foam_head.plan = 0; b.foam_head.plan < count; ++b.foam_head.plan) {
      const auto span = progress.span(static_cast<double>(b.foam_head.plan) / count, (b.foam_head.plan + 1.0) / count);
      const auto form = make_bust(b, d);
      if (!form) return fail(form);
      const auto set = make_panels(form->surface, panel_options(*form->parts.front()), span);
      if (!set) return fail(set);
      double worst = 0.0;
      for (const Panel& p : set->panels) worst = std::max(worst, p.overlaps ? 1.0 : p.strain.p99);
      if (worst <= limit) return b.foam_head.plan;
      if (worst <= kNearEnough * limit && near_enough < 0) near_enough = b.foam_head.plan;
      if (near_enough >= 0) break;
    }
    return near_enough >= 0 ? near_enough : count - 1;
  }
};

/// Holds the door for a short question.
class Chain::ShortVisit {
 public:
  explicit ShortVisit(Shop& shop) : shop_(shop) {
    ++shop_.waiting;
    shop_.door.lock();
    --shop_.waiting;
  }
  ~ShortVisit() { shop_.door.unlock(); }
  ShortVisit(const ShortVisit&) = delete;
  ShortVisit& operator=(const ShortVisit&) = delete;

 private:
  Shop& shop_;
};

Chain::Chain() : shop_(std::make_unique<Shop>()) {}
Chain::~Chain() = default;
const HeadFitter& Chain::fitter() const { return *shop_->fitter; }
const Materials& Chain::materials() const { return shop_->materials; }

Result<std::shared_ptr<const Chain>> Chain::load(const std::filesystem::path& data) {
  const std::shared_ptr<Chain> chain(new Chain);
  Shop& shop = *chain->shop_;
  auto fitter = HeadFitter::load(data / "headform");
  if (!fitter) return fail(fitter);
  shop.fitter = *fitter;
  auto hoods = WrapMaker::load(data / "headform", shop.fitter);
  if (!hoods) return fail(hoods);
  shop.hoods = *hoods;
  shop.maker = std::make_unique<FormShop>(shop.fitter, shop.hoods);
  auto busts = BustMaker::load(data / "headform");
  if (!busts) return fail(busts);
  shop.busts = *busts;
  auto materials = load_materials(data / "materials");
  if (!materials) return fail(materials);
  shop.materials = std::move(*materials);
  auto rules = load_step_rules(data / "rules" / "finishing.json");
  if (!rules) return fail(rules);
  shop.rules = std::move(*rules);
  return std::shared_ptr<const Chain>(chain);
}

Result<Headform> Chain::head_of(const TapeSheet& sheet) const {
  if (auto good = check_sheet(sheet, shop_->fitter->populations()); !good) return fail(good);
  return shop_->fitter->fit(sheet.measures());
}

const PartForm* Form::of(int part) const {
  for (const auto& p : parts)
    if (p->part == part) return p.get();
  return nullptr;
}

Result<void> Chain::check(const Build& build) const {
  if (auto good = check_build(build, shop_->materials, shop_->fitter->populations()); !good) return good;
  const ShortVisit visit(*shop_);
  for (const Part& p : build.parts)
    if (std::holds_alternative<WrapSpec>(p.shape))
      if (auto good = shop_->maker->try_wrap(p); !good) return good;
  return {};
}

Result<std::shared_ptr<const PanelSet>> Chain::sketch(const Build& build, int id, const Progress& progress) const {
  const Part* part = find_part(build, id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  HeldForm form;
  {
    const ShortVisit visit(*shop_);
    const auto head = shop_->head_of(build);
    if (!head) return fail(head);
    const auto made = shop_->form_on(build, *part, *head, progress.span(0.0, 0.5));
    if (!made) return fail(made);
    form = *made;
  }
  PanelOptions rough = Shop::panel_options(*form);
  rough.flatten.minimax = false, rough.flatten.rigid_rounds = 16, rough.match_seams = false;
  auto set = make_panels(form->surface, rough, progress.span(0.5, 1.0));
  if (!set) return fail(set);
  return std::make_shared<const PanelSet>(std::move(*set));
}

Result<void> Chain::try_part(const Build& build, int id) const {
  const Part* part = find_part(build, id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  if (auto good = check_part(*part); !good) return good;
  const ShortVisit visit(*shop_);
  // Laying the tape anew takes its time; whether the edges leave anything is told without what lies under it.
  if (const auto* wrap = std::get_if<WrapSpec>(&part->shape); wrap != nullptr && !wrap->cards.empty())
    return shop_->maker->try_wrap(*part);
  const auto head = shop_->head_of(build);
  if (!head) return {};  // the tapes are at fault, not the part
  const auto form = shop_->form_on(build, *part, *head, {});
  if (!form) return fail(form);
  return {};
}

Result<std::vector<Suggestion>> Chain::suggest(
    const Build& build, int id, std::optional<double> tolerance, const Progress& progress) const {
  Build plain = build;
  Part* part = find_part(plain, id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  const auto strips = part->drawn;
  part->seams.preset = SeamPreset::none, part->own_seams = false, part->drawn.clear();
  const auto foam = foam_of(build.foam, shop_->materials);
  if (!foam) return fail(foam);
  const double bears = bears_strain(*foam, build.foam.heated);
  HeldForm form;
  {
    const ShortVisit visit(*shop_);
    const auto head = shop_->head_of(plain);
    if (!head) return fail(head);
    const auto made = shop_->form_on(plain, *part, *head, progress.span(0.0, 0.1));
    if (!made) return fail(made);
    form = *made;
  }
  const Draft draft = undrawn(*form);
  std::vector<SuggestOptions> ways;
  for (const auto& [keep_middle, share] : {std::pair{true, 1.0}, {false, 1.0}, {true, 0.6}}) {
    SuggestOptions way;
    way.tolerance = share * tolerance.value_or(bears), way.thickness_mm = form->thickness_mm,
    way.outside = form->outside, way.keep_middle = keep_middle, way.strips = strips;
    if (keep_middle || (draft.mirrored && !mirror_line(draft.mesh).empty())) ways.push_back(way);
  }
  std::vector<Suggestion> found;
  for (std::size_t i = 0; i < ways.size(); ++i) {
    auto one = suggest_panels(draft, ways[i],
        progress.span(0.1 + 0.9 * static_cast<double>(i) / ways.size(), 0.1 + 0.9 * (i + 1.0) / ways.size()));
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

Result<Build> Chain::turn(const Build& build, int id, const std::string& dial, double value) const {
  auto asked = turn_dial(build, id, dial, value);
  if (!asked) return asked;
  const auto refused = try_part(*asked, id);
  if (refused) return asked;
  const Part* part = find_part(build, id);
  Part copy = *part;
  const auto all = dials_of(copy);
  const auto facts = std::find_if(all.begin(), all.end(), [&](const Dial& d) { return d.facts.id == dial; })->facts;
  const auto now = dial_value(*part, dial);
  if (facts.kind == DialKind::choice || !now || !try_part(build, id)) return fail(refused);
  const double step = facts.kind == DialKind::share ? 0.01 : 1.0, way = value > *now ? 1.0 : -1.0;
  double good = *now, bad = value;
  while (std::abs(bad - good) > 1.01 * step) {
    // Round figures: what is named is what a maker would type.
    const double mid = step * std::round(0.5 * (good + bad) / step);
    if ((mid - good) * way <= 0.0 || (bad - mid) * way <= 0.0) break;
    const auto tried = turn_dial(build, id, dial, mid);
    (tried && try_part(*tried, id) ? good : bad) = mid;
  }
  Error error = refused.error();
  const std::string text = facts.kind == DialKind::length ? fixed(good, 0) + " mm" : dial_text(facts, good);
  error.text += good == *now ? " Nothing between it and what there is, " + text + ", works either."
                             : " The nearest that works is " + text + ".";
  return fail(error);
}

Derived Chain::derive(const Build& asked, const Progress& progress, const StageDone& stage_done) const {
  std::atomic<bool> stopped{false};
  const Progress polite([&](double done) {
    if (!progress.keep_going(done)) stopped = true;
    return shop_->waiting == 0 && !stopped;
  });
  for (;;) {
    Derived d = derive_guarded(asked, polite, stage_done);
    const bool cancelled = d.error && d.error->code == Errc::cancelled;
    if (!cancelled || stopped) return d;
    // Not the caller, but somebody at the door: what is done is remembered, so going on loses little.
    while (shop_->waiting > 0) std::this_thread::sleep_for(std::chrono::milliseconds(1));
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

Derived Chain::derive_once(const Build& asked, const Progress& progress, const StageDone& stage_done) const {
  Shop& shop = *shop_;
  const std::lock_guard lock(shop.door);
  Build b = asked;
  Derived d;
  const auto stage = [&](auto& slot, auto result) {
    if (!result) return d.error = result.error(), false;
    slot = *result;
    if (stage_done) stage_done(d);
    return true;
  };
  const auto run = [&] {
    const WearerMeasures wearer = b.tape.measures();
    const CheckKey check_key = check_key_of(b);
    const auto head =
        shop.heads.get(check_key.head, [&] { return shop.make_head(check_key.head, progress.span(0.0, 0.02)); });
    if (!head) return void(d.error = head.error());
    d.tapes = std::shared_ptr<const std::vector<TapePath>>(*head, &(*head)->tapes);
    const std::shared_ptr<const Headform> form_of_head(*head, &(*head)->head);
    const auto checked =
        shop.checks.get(check_key, [&]() -> Result<Checked> { return shop.make_check(*form_of_head, check_key); });
    d.scan = (*head)->scan;
    d.check = (*checked)->plan, d.built = (*checked)->built, d.check_error = (*checked)->error;
    shop.list_telling(b, wearer, d);
    stage(d.head, Result<std::shared_ptr<const Headform>>(form_of_head));
    const bool bust = b.making == Making::headform;
    if (bust && b.foam_head.plan < 0) {
      const auto plan = shop.plans_of_heads.get(
          {check_key, b.foam_head, b.foam.foam, b.foam.thickness_mm, b.foam.heated, b.foam.own_kind},
          [&] { return shop.suggest_plan(b, d, progress.span(0.02, 0.3)); });
      if (!plan) return void(d.error = plan.error());
      b.foam_head.plan = **plan;
    }
    const auto form = bust
        ? shop.bust_forms.get({check_key, b.foam_head, b.foam.thickness_mm}, [&] { return shop.make_bust(b, d); })
        : shop.make_parts(b, check_key, d, progress.span(0.05, 0.3));
    if (!stage(d.form, form)) return;
    if (!stage(d.panels, shop.make_panel_sets(b, d, progress.span(0.3, 0.75)))) return;
    auto ways = make_ways(b, d.form->parts, shop.materials, shop.ways, d.part_errors, progress.span(0.75, 0.85));
    if (!ways) return void(d.error = ways.error());
    d.ways = std::move(*ways);
    if (!stage(d.pieces,
            shop.pieces.get({d.panels, d.form, b.foam.cuts, b.foam.margins, b.alterations, d.ways},
                [&]() -> Result<std::vector<Piece>> {
                  return pieces_of(b, *d.panels, *d.form, d.check.get(), d.ways, &shop.materials);
                })))
      return;
    NestOptions nesting;
    nesting.gap_mm = b.foam.gap_mm, nesting.tries = b.foam.nest_tries, nesting.turn_freely = b.foam.turn_freely;
    if (nesting.tries > 1) nesting.cell_mm = 1.0, nesting.turns = 32;  // a search is worth finer cells and more turns
    NestStock stock = stock_of(b.foam);
    stock.others = sheets_for(*d.pieces, shop.materials);
    if (!stage(d.layout,
            shop.layouts.get({d.pieces, b.foam.sheet, b.foam.gap_mm, nesting.tries, nesting.turn_freely, stock},
                [&] { return nest(*d.pieces, b.foam.sheet, nesting, stock, progress.span(0.85, 0.98)); })))
      return;
    const auto work = finish_work(b, d, shop.materials);
    if (!work) return void(d.error = work.error());
    stage(d.plan,
        shop.plans.get({*work, b.coat}, [&] { return plan_finishing(b.coat, *work, shop.materials, shop.rules); }));
  };
  run();
  d.remarks = judge(b, d, shop.materials);
  return d;
}

}  // namespace awl
