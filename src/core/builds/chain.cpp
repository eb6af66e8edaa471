#include "core/builds/chain.hpp"

#include <algorithm>
#include <deque>
#include <mutex>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

/// Remembers the last few results under their inputs.
template <class Key, class Value>
class Memo {
 public:
  using Held = std::shared_ptr<const Value>;

  Result<Held> get(const Key& key, const std::function<Result<Value>()>& make) {
    for (const auto& [known, value] : entries_)
      if (known == key) return value;
    auto made = make();
    if (!made) return tl::make_unexpected(made.error());
    entries_.push_front({key, std::make_shared<const Value>(std::move(*made))});
    if (entries_.size() > kKept) entries_.pop_back();
    return entries_.front().second;
  }

 private:
  static constexpr std::size_t kKept = 4;
  std::deque<std::pair<Key, Held>> entries_;
};

/// The part of a form and its seams that no wearer's measure touches.
struct BlankKey {
  Making making;
  FoamHeadSpec foam_head;
  HoodEdge edge;
  double edge_up_mm, face_wider_mm;
  SeamSpec seams;
  bool operator==(const BlankKey&) const = default;
};
struct SeamedBlank {
  SeamMesh seams;
  Riders riders;
  std::vector<ModeColumns> samples;  ///< how some places of the form move, for the short list
};
struct HeadKey {
  WearerMeasures measures;
  HeldScan scan;
  bool operator==(const HeadKey&) const = default;
};
struct HeadWithTapes {
  Headform head;
  std::vector<TapePath> tapes;
  std::shared_ptr<const ScanFit> scan;
};
struct CheckKey {
  HeadKey head;
  double neck_up_mm;
  bool mirrored;
  std::map<std::string, double> built;
  bool operator==(const CheckKey&) const = default;
};
struct Checked {
  std::shared_ptr<const CheckPlan> plan;
  std::shared_ptr<const BuiltForm> built;
  std::optional<Error> error;
};
struct FormKey {
  CheckKey check;
  bool fit_to_built;
  Making making;
  FoamHeadSpec foam_head;
  HoodSpec hood;
  SeamSpec seams;
  double plate_mm;  ///< thickness of a headform's plates; 0 for a hood
  bool operator==(const FormKey&) const = default;
};
struct SuggestKey {
  CheckKey check;
  FoamHeadSpec foam_head;
  FoamSpec foam;
  bool operator==(const SuggestKey&) const = default;
};
struct PanelKey {
  FormKey form;
  double thickness_mm;
  bool operator==(const PanelKey&) const = default;
};
struct LayoutKey {
  PanelKey panels;
  SheetSize sheet;
  double gap_mm;
  bool operator==(const LayoutKey&) const = default;
};
struct PlanKey {
  PanelKey panels;
  std::string foam;
  CoatSpec coat;
  bool operator==(const PlanKey&) const = default;
};

constexpr double kBustFootMm = -157.0;  // the neck of a headform of foam is cut here, over the foot's rounded edge
constexpr int kSamples = 300;
constexpr int kShortList = 6;

double loop_length(const Mesh& mesh, const std::vector<int>& loop) {
  double sum = 0.0;
  for (std::size_t i = 0; i < loop.size(); ++i) sum += (mesh.vertices[loop[(i + 1) % loop.size()]] - mesh.vertices[loop[i]]).norm();
  return sum;
}

double lowest_border_girth(const Mesh& mesh) {
  double girth = 0.0, lowest = 1e300;
  for (const auto& loop : border_loops(mesh)) {
    double y = 0.0;
    for (const int v : loop) y += mesh.vertices[v].y() / static_cast<double>(loop.size());
    if (y < lowest) lowest = y, girth = loop_length(mesh, loop);
  }
  return girth;
}

}  // namespace

struct Chain::Shop {
  std::shared_ptr<const HeadFitter> fitter;
  std::shared_ptr<const HoodMaker> hoods;
  std::shared_ptr<const BustMaker> busts;
  Materials materials;
  std::vector<StepRule> rules;

  std::mutex door;
  Memo<HeadKey, HeadWithTapes> heads;
  Memo<BlankKey, SeamedBlank> blanks;
  Memo<CheckKey, Checked> checks;
  Memo<FormKey, HoodForm> forms;
  Memo<PanelKey, PanelSet> panels;
  Memo<PanelKey, std::vector<Piece>> pieces;
  Memo<LayoutKey, Layout> layouts;
  Memo<PlanKey, Plan> plans;
  Memo<SuggestKey, int> plans_of_heads;

  Result<std::shared_ptr<const SeamedBlank>> blank(const Build& b) {
    const BlankKey key{b.making, b.foam_head, b.hood.edge, b.hood.edge_up_mm, b.hood.face_wider_mm, b.seams};
    return blanks.get(key, [&]() -> Result<SeamedBlank> {
      const bool bust = b.making == Making::headform;
      const auto trimmed = bust ? busts->blank(b.foam_head) : hoods->blank(b.hood);
      if (!trimmed) return tl::make_unexpected(trimmed.error());
      auto seams = bust ? Result<SeamMesh>(cut_head(trimmed->half, trimmed->midline, head_seam_plans()[std::max(0, b.foam_head.plan)])) : cut_by_preset(trimmed->half, trimmed->midline, b.seams);
      if (!seams) return tl::make_unexpected(seams.error());
      Riders riders = bust ? BustMaker::riders(seams->mesh.vertices, seams->twin_of) : hoods->riders(seams->mesh.vertices, seams->twin_of);
      std::vector<ModeColumns> samples;
      const int step = std::max<int>(1, static_cast<int>(riders.size()) / kSamples);
      for (int i = 0; i < static_cast<int>(riders.size()); i += step) samples.push_back(riders.modes(i));
      return SeamedBlank{std::move(*seams), std::move(riders), std::move(samples)};
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
    if (built) checked.built = std::make_shared<const BuiltForm>(std::move(*built));
    else checked.error = built.error();
    return checked;
  }

  Result<HeadWithTapes> make_head(const HeadKey& key, const Progress& progress) const {
    if (key.scan.ready()) return scanned_head(key, progress);
    auto head = fitter->fit(key.measures);
    if (!head) return tl::make_unexpected(head.error());
    auto tapes = tape_paths(*fitter, *head);
    return HeadWithTapes{std::move(*head), std::move(tapes), nullptr};
  }

  /// The head of a scan, tapes joining in; they are shown as given.
  Result<HeadWithTapes> scanned_head(const HeadKey& key, const Progress& progress) const {
    auto fit = fit_scan(*fitter, *key.scan.scan, key.measures, progress);
    if (!fit) return tl::make_unexpected(fit.error());
    HeadWithTapes made{fit->head, {}, nullptr};
    for (Reading& r : made.head.readings) r.band_mm = std::max(1.0, fit->p95_mm);
    for (const auto& [id, mm] : key.measures.set) made.head.readings[index_of(id)].given = true, made.head.readings[index_of(id)].given_mm = mm;
    if (fit->covered_share < 0.85)
      made.head.remarks.push_back({"head.scan-cover", Severity::note, "scan", "The scan covers " + fixed(100.0 * fit->covered_share, 0) + " % of the head; the rest is filled in from proportions and tapes.", 100.0 * fit->covered_share, 85.0, {}});
    made.tapes = tape_paths(*fitter, made.head);
    made.scan = std::make_shared<const ScanFit>(std::move(*fit));
    return made;
  }

  /// What to measure first for the form of this build, and what next.
  void list_telling(const Build& b, const WearerMeasures& wearer, Derived& d) {
    const auto seamed = blank(b);
    if (!seamed) return;
    const Centre& centre = fitter->centre_for(wearer);
    d.short_list = most_telling(centre, {}, (*seamed)->samples, kShortList);
    const auto next = most_telling(centre, wearer.set, (*seamed)->samples, 1);
    if (!next.empty()) d.next = next.front();
  }

  Result<HoodForm> make_form(const Build& b, const Derived& d, const Progress& progress) {
    const auto seamed = blank(b);
    if (!seamed) return tl::make_unexpected(seamed.error());
    HoodForm form;
    form.surface = (*seamed)->seams;
    const bool bust = b.making == Making::headform;
    const Headform meant = meant_head(*d.head, bust && b.foam_head.mirrored);
    auto& places = form.surface.mesh.vertices;
    places = (*seamed)->riders.carried(meant.coefficients);
    if (bust) {
      form.surface_is_outside = true, form.head_plan = b.foam_head.plan;
      auto plates = neck_plates(form.surface.mesh, b.foam.thickness_mm, b.foam_head.pipe_mm);
      if (!plates) return tl::make_unexpected(plates.error());
      form.plates = std::move(*plates);
    } else {
      const bool as_built = b.fit_to_built && d.built;
      if (as_built)
        for (Vec3& p : places) p = d.built->shape(p);
      const auto clearance = settle_on_head(form.surface.mesh, as_built ? d.built->mesh : d.head->mesh, b.hood.ease_mm(), progress);
      if (!clearance) return tl::make_unexpected(clearance.error());
      form.clearance = *clearance;
    }
    form.lower_girth_mm = lowest_border_girth(form.surface.mesh);
    form.area_mm2 = area_mm2(form.surface.mesh);
    return form;
  }

  PanelOptions panel_options(const Build& b) const {
    PanelOptions options;
    options.thickness_mm = b.foam.thickness_mm;
    options.form_is_outside = b.making == Making::headform;
    return options;
  }

  /// The seam plan with the least seam whose panels the foam bears; beyond that the first that is near enough, so that a
  /// maker is not sent to forty pieces for the sake of one nose.
  Result<int> suggest_plan(Build b, const Derived& d, const Progress& progress) {
    constexpr double kNearEnough = 1.5;
    const auto foam = materials.foam(b.foam.foam);
    const double limit = !foam ? 0.04 : b.foam.heated ? foam->strain_heated : foam->strain_cold;
    const int count = static_cast<int>(head_seam_plans().size());
    int near_enough = -1;
    for (b.foam_head.plan = 0; b.foam_head.plan < count; ++b.foam_head.plan) {
      const auto span = progress.span(static_cast<double>(b.foam_head.plan) / count, (b.foam_head.plan + 1.0) / count);
      const auto form = make_form(b, d, span);
      if (!form) return tl::make_unexpected(form.error());
      const auto set = make_panels(form->surface, panel_options(b), span);
      if (!set) return tl::make_unexpected(set.error());
      double worst = 0.0;
      for (const Panel& p : set->panels) worst = std::max(worst, p.overlaps ? 1.0 : p.strain.p99);
      if (worst <= limit) return b.foam_head.plan;
      if (worst <= kNearEnough * limit && near_enough < 0) near_enough = b.foam_head.plan;
      if (near_enough >= 0) break;
    }
    return near_enough >= 0 ? near_enough : count - 1;
  }

  std::vector<Piece> make_all_pieces(const Build& b, const Derived& d) const {
    auto all = make_pieces(*d.panels, b.foam.thickness_mm);
    if (!d.form->plates) return all;
    for (const BuiltMark& mark : d.check->marks) add_cross(all, *d.panels, mark.at, mark.name);
    const auto holes = [&] { return d.form->plates->pipe.empty() ? std::vector<std::vector<Vec2>>{} : std::vector<std::vector<Vec2>>{d.form->plates->pipe}; };
    const int count = static_cast<int>(all.size());
    all.push_back(plate_piece("neck plate, inside", count + 1, d.form->plates->neck, holes(), b.foam.thickness_mm));
    all.push_back(plate_piece("base, under it", count + 2, d.form->plates->base, holes(), b.foam.thickness_mm));
    return all;
  }
};

Chain::Chain() : shop_(std::make_unique<Shop>()) {}
Chain::~Chain() = default;
const HeadFitter& Chain::fitter() const { return *shop_->fitter; }
const Materials& Chain::materials() const { return shop_->materials; }

Result<std::shared_ptr<const Chain>> Chain::load(const std::filesystem::path& data) {
  const std::shared_ptr<Chain> chain(new Chain);
  Shop& shop = *chain->shop_;
  auto fitter = HeadFitter::load(data / "headform");
  if (!fitter) return tl::make_unexpected(fitter.error());
  shop.fitter = *fitter;
  auto hoods = HoodMaker::load(data / "headform", shop.fitter);
  if (!hoods) return tl::make_unexpected(hoods.error());
  shop.hoods = *hoods;
  auto busts = BustMaker::load(data / "headform");
  if (!busts) return tl::make_unexpected(busts.error());
  shop.busts = *busts;
  auto materials = load_materials(data / "materials");
  if (!materials) return tl::make_unexpected(materials.error());
  shop.materials = std::move(*materials);
  auto rules = load_step_rules(data / "rules" / "finishing.json");
  if (!rules) return tl::make_unexpected(rules.error());
  shop.rules = std::move(*rules);
  return std::shared_ptr<const Chain>(chain);
}

Result<Headform> Chain::head_of(const TapeSheet& sheet) const {
  if (auto good = check_sheet(sheet, shop_->fitter->populations()); !good) return tl::make_unexpected(good.error());
  return shop_->fitter->fit(sheet.measures());
}

Result<void> Chain::check(const Build& build) const {
  if (auto good = check_build(build, shop_->materials, shop_->fitter->populations()); !good) return good;
  const std::lock_guard lock(shop_->door);
  const auto blank = shop_->blank(build);
  if (!blank) return tl::make_unexpected(blank.error());
  return {};
}

Derived Chain::derive(const Build& asked, const Progress& progress, const StageDone& stage_done) const {
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
    const HeadKey head_key{wearer, b.scan};
    const CheckKey check_key{head_key, b.foam_head.neck_up_mm, b.foam_head.mirrored, b.built};
    const auto head = shop.heads.get(head_key, [&] { return shop.make_head(head_key, progress.span(0.0, 0.02)); });
    if (!head) return void(d.error = head.error());
    d.tapes = std::shared_ptr<const std::vector<TapePath>>(*head, &(*head)->tapes);
    const std::shared_ptr<const Headform> form_of_head(*head, &(*head)->head);
    const auto checked = shop.checks.get(check_key, [&]() -> Result<Checked> { return shop.make_check(*form_of_head, check_key); });
    d.scan = (*head)->scan;
    d.check = (*checked)->plan, d.built = (*checked)->built, d.check_error = (*checked)->error;
    shop.list_telling(b, wearer, d);
    stage(d.head, Result<std::shared_ptr<const Headform>>(form_of_head));
    if (b.making == Making::headform && b.foam_head.plan < 0) {
      const auto plan = shop.plans_of_heads.get({check_key, b.foam_head, b.foam}, [&] { return shop.suggest_plan(b, d, progress.span(0.02, 0.3)); });
      if (!plan) return void(d.error = plan.error());
      b.foam_head.plan = **plan;
    }
    const FormKey form_key{check_key, b.fit_to_built, b.making, b.foam_head, b.hood, b.seams, b.making == Making::headform ? b.foam.thickness_mm : 0.0};
    const PanelKey panel_key{form_key, b.foam.thickness_mm};
    if (!stage(d.form, shop.forms.get(form_key, [&] { return shop.make_form(b, d, progress.span(0.05, 0.3)); }))) return;
    if (!stage(d.panels, shop.panels.get(panel_key, [&] { return make_panels(d.form->surface, shop.panel_options(b), progress.span(0.3, 0.85)); }))) return;
    if (!stage(d.pieces, shop.pieces.get(panel_key, [&]() -> Result<std::vector<Piece>> { return shop.make_all_pieces(b, d); }))) return;
    NestOptions nesting;
    nesting.gap_mm = b.foam.gap_mm;
    if (!stage(d.layout, shop.layouts.get({panel_key, b.foam.sheet, b.foam.gap_mm}, [&] { return nest(*d.pieces, b.foam.sheet, nesting, progress.span(0.85, 0.98)); }))) return;
    WorkSize size{0, d.panels->seam_total_mm() / 1000.0, d.form->area_mm2 * 1e-6};
    for (const Piece& p : *d.pieces) size.pieces += p.copies;
    stage(d.plan, shop.plans.get({panel_key, b.foam.foam, b.coat}, [&] { return plan_finishing(b.coat, b.foam.foam, size, shop.materials, shop.rules); }));
  };
  run();
  d.remarks = judge(b, d, shop.materials);
  return d;
}

}  // namespace awl
