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

/// The part of a hood and its seams that no wearer's measure touches.
struct BlankKey {
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
struct HeadWithTapes {
  Headform head;
  std::vector<TapePath> tapes;
};
struct FormKey {
  WearerMeasures measures;
  HoodSpec hood;
  SeamSpec seams;
  bool operator==(const FormKey&) const = default;
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
  Materials materials;
  std::vector<StepRule> rules;

  std::mutex door;
  Memo<WearerMeasures, HeadWithTapes> heads;
  Memo<BlankKey, SeamedBlank> blanks;
  Memo<FormKey, HoodForm> forms;
  Memo<PanelKey, PanelSet> panels;
  Memo<PanelKey, std::vector<Piece>> pieces;
  Memo<LayoutKey, Layout> layouts;
  Memo<PlanKey, Plan> plans;

  Result<std::shared_ptr<const SeamedBlank>> blank(const Build& b) {
    const BlankKey key{b.hood.edge, b.hood.edge_up_mm, b.hood.face_wider_mm, b.seams};
    return blanks.get(key, [&]() -> Result<SeamedBlank> {
      const auto trimmed = hoods->blank(b.hood);
      if (!trimmed) return tl::make_unexpected(trimmed.error());
      auto seams = cut_by_preset(trimmed->half, trimmed->midline, b.seams);
      if (!seams) return tl::make_unexpected(seams.error());
      Riders riders = hoods->riders(seams->mesh.vertices, seams->twin_of);
      std::vector<ModeColumns> samples;
      const int step = std::max<int>(1, static_cast<int>(riders.size()) / kSamples);
      for (int i = 0; i < static_cast<int>(riders.size()); i += step) samples.push_back(riders.modes(i));
      return SeamedBlank{std::move(*seams), std::move(riders), std::move(samples)};
    });
  }

  Result<HeadWithTapes> make_head(const WearerMeasures& wearer) const {
    auto head = fitter->fit(wearer);
    if (!head) return tl::make_unexpected(head.error());
    auto tapes = tape_paths(*fitter, *head);
    return HeadWithTapes{std::move(*head), std::move(tapes)};
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

  Result<HoodForm> make_form(const Build& b, const Headform& head, const Progress& progress) {
    const auto seamed = blank(b);
    if (!seamed) return tl::make_unexpected(seamed.error());
    HoodForm form{(*seamed)->seams, {}, 0.0, 0.0};
    form.surface.mesh.vertices = (*seamed)->riders.carried(head.coefficients);
    const auto clearance = settle_on_head(form.surface.mesh, head.mesh, b.hood.ease_mm(), progress);
    if (!clearance) return tl::make_unexpected(clearance.error());
    form.clearance = *clearance;
    form.lower_girth_mm = lowest_border_girth(form.surface.mesh);
    form.area_mm2 = area_mm2(form.surface.mesh);
    return form;
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

Derived Chain::derive(const Build& b, const Progress& progress, const StageDone& stage_done) const {
  Shop& shop = *shop_;
  const std::lock_guard lock(shop.door);
  Derived d;
  const auto stage = [&](auto& slot, auto result) {
    if (!result) return d.error = result.error(), false;
    slot = *result;
    if (stage_done) stage_done(d);
    return true;
  };
  const auto run = [&] {
    const WearerMeasures wearer = b.tape.measures();
    const FormKey form_key{wearer, b.hood, b.seams};
    const PanelKey panel_key{form_key, b.foam.thickness_mm};
    const auto head = shop.heads.get(wearer, [&] { return shop.make_head(wearer); });
    if (!head) return void(d.error = head.error());
    shop.list_telling(b, wearer, d);
    d.tapes = std::shared_ptr<const std::vector<TapePath>>(*head, &(*head)->tapes);
    stage(d.head, Result<std::shared_ptr<const Headform>>(std::shared_ptr<const Headform>(*head, &(*head)->head)));
    if (!stage(d.form, shop.forms.get(form_key, [&] { return shop.make_form(b, *d.head, progress.span(0.05, 0.3)); }))) return;
    PanelOptions options;
    options.thickness_mm = b.foam.thickness_mm;
    if (!stage(d.panels, shop.panels.get(panel_key, [&] { return make_panels(d.form->surface, options, progress.span(0.3, 0.85)); }))) return;
    if (!stage(d.pieces, shop.pieces.get(panel_key, [&]() -> Result<std::vector<Piece>> { return make_pieces(*d.panels, b.foam.thickness_mm); }))) return;
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
