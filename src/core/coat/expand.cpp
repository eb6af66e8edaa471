#include "core/coat/expand.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/numbers.hpp"
#include "core/coat/colour.hpp"

namespace awl {
namespace {

// Workshop values.
constexpr double kPutOnMin = 10.0;         // getting glue, brush and clamps out
constexpr double kBrushShare = 0.4;        // of the work on a glued seam
constexpr double kLongestBrushMin = 15.0;  // so that the first metre still grabs when the last is brushed
constexpr double kJoinedOnM = 0.25;        // seam taken for a part on another whose foot is not known, m
constexpr double kTapeMinPerM = 4.0;
constexpr double kMixMin = 3.0;  // to stir one mix of a fade and lay it into the last

/// What one act of a rule comes to on the things that bear it in the same way.
struct WorkGroup {
  std::string of;     ///< the product, or the materials if they are not all there are
  std::string scope;  ///< for ids: does not change with words
  WorkSize size;
  std::string caution;
  bool outdoors = false;
  const Glue* glue = nullptr;
  const Coating* coating = nullptr;
  int coats = 0;
  double hands_min = 0.0;  ///< of a detail; of a coat, beside what its area takes
};

bool is_outdoors(const std::string& caution) { return caution.find("utdoors") != std::string::npos; }

/// Turns the rules into steps and links.
class Expander {
 public:
  Expander(const CoatSpec& spec, const Served& served, const FinishWork& work)
      : spec_(spec), served_(served), work_(work) {}

  Expansion run(std::vector<StepRule> rules) {
    if (served_.any_hot_glue()) seal_before_hot_glue(rules);
    Project& p = made_.project;
    p.start = midnight_of(spec_.start);
    p.due = midnight_of(spec_.due) + std::lround(spec_.opens_h * 60.0);
    p.days = work_days(spec_);
    p.places = spec_.drying_places;
    if (const auto now = parse_moment(spec_.now); now) p.now = *now;
    order_areas();
    for (const StepRule& rule : rules) {
      if (rule.act == StepAct::paint && !served_.areas.empty())
        paint_areas(rule);
      else if (rule.act == StepAct::glue)
        for (const Served::Joint& j : served_.joints) join(rule, j);
      else
        for (const WorkGroup& group : groups_of(rule)) add(rule, group);
    }
    for (const StepRule& rule : rules)
      for (const int first : firsts_[rule.id])
        for (const std::string& before : rule.after) link(rules, before, first);
    for (const TickedStep& tick : ticked_steps(spec_))
      if (p.index_of(tick.id) >= 0) p.done.push_back(tick);
    return std::move(made_);
  }

 private:
  /// Heat softens hot glue: foam is heat-sealed before.
  static void seal_before_hot_glue(std::vector<StepRule>& rules) {
    for (StepRule& rule : rules) {
      if (rule.act == StepAct::heat_seal) rule.after = {"dry-fit"};
      if (rule.act == StepAct::glue) rule.after.push_back("heat-seal");
    }
  }

  double factor(const std::string& base) const {
    return drying_factor({spec_.temperature_c, spec_.damp, spec_.fan}, base);
  }
  /// A wait is never shorter than the label's.
  int wait_of(double label_min, const std::string& base) const {
    return static_cast<int>(std::lround(label_min * std::max(1.0, factor(base))));
  }

  int put(const StepRule& rule, const WorkGroup& group, const std::string& number, const std::string& title,
      double hands_min) {
    WorkStep s;
    s.id = rule.id + "/" + group.scope + "/" + number;
    s.title = title;
    s.stage = rule.stage;
    s.scope = group.of;
    if (!group.caution.empty()) s.cautions.push_back(group.caution);
    s.hands_min = static_cast<int>(std::lround(hands_min));
    s.hands = std::min(rule.hands, spec_.hands);
    s.may_pause = rule.may_pause;
    s.outdoors = group.outdoors;
    made_.project.steps.push_back(std::move(s));
    return static_cast<int>(made_.project.steps.size()) - 1;
  }

  void put_link(int from, int to, std::string why, double wait_min) {
    for (WorkLink& l : made_.project.links)
      if (l.from == from && l.to == to) return;
    made_.project.links.push_back({from, to, static_cast<int>(std::lround(wait_min)), {}, {}, std::move(why)});
  }

  static std::string titled(const StepRule& rule, const std::string& of) {
    return of.empty() ? rule.name : rule.name + ": " + of;
  }
  static std::string numbered(const std::string& title, int k, int count) {
    return count > 1 ? title + ", " + std::to_string(k + 1) + " of " + std::to_string(count) : title;
  }

  /// Steps of one group, one after the other.
  void add(const StepRule& rule, const WorkGroup& group) {
    const bool coat = group.coating != nullptr;
    const int count = coat ? group.coats : rule.id == "fill" ? spec_.fill_passes : rule.repeat;
    const double hands = coat         ? 5.0 + group.hands_min + group.coating->hands_min_per_m2 * group.size.area_m2
        : rule.act == StepAct::detail ? group.hands_min
                                      : rule.base_min + rule.per_piece * group.size.pieces +
            rule.per_m * group.size.seam_m + rule.per_m2 * group.size.area_m2;
    int last = -1;
    for (int k = 0; k < count; ++k) {
      const int step = put(rule, group, std::to_string(k + 1), numbered(titled(rule, group.of), k, count), hands);
      WorkStep& s = made_.project.steps[step];
      if (coat) {
        s.dries_min =
            wait_of(k + 1 < count ? group.coating->wait_min : group.coating->last_wait_min, group.coating->base);
        s.places = s.dries_min > 0 ? 1 : 0;
      } else {
        s.dries_min = wait_of(rule.wait_min,
            rule.id == "oil"                             ? "oil"
                : rule.id == "fill" || rule.id == "wash" ? "water"
                                                         : "");
      }
      if (k == 0)
        firsts_[rule.id].push_back(step);
      else
        follow(group, rule, last, step);
      last = step;
    }
    if (last >= 0) lasts_[rule.id].push_back(last);
  }

  /// The next coat: dry, sanded where the coat wants it, and within its window.
  void follow(const WorkGroup& group, const StepRule& rule, int last, int step) {
    const Coating* coating = group.coating;
    const int wait = made_.project.steps[last].dries_min;
    if (coating != nullptr && coating->sand_between && spec_.sand_between && rule.act == StepAct::seal) {
      const std::string number =
          std::to_string(firsts_of(rule)) + "s" + std::to_string(made_.project.steps[last].id.back() - '0');
      WorkGroup sanding = group;
      sanding.caution = "Dust: mask and goggles.";
      sanding.outdoors = false;
      sanding.of.clear();
      const int sand =
          put(rule, sanding, "sand-" + number, "Sand between coats, 320 grit", 5.0 + 20.0 * group.size.area_m2);
      put_link(last, sand, "the coat is dry", wait);
      put_link(sand, step, "it is smooth and free of dust", 0);
      return;
    }
    WorkLink l{last, step, wait, {}, {}, "the coat below is dry"};
    if (coating != nullptr && coating->within_min > 0.0) {
      const double f = factor(coating->base);
      l.within_min = std::max(wait, static_cast<int>(coating->within_min * f));
      l.or_after_min = std::max(*l.within_min, wait_of(coating->or_after_min, coating->base));
      l.why = "the coat below is dry, and not so old that the next wrinkles it";
    }
    made_.project.links.push_back(std::move(l));
  }
  int firsts_of(const StepRule& rule) { return static_cast<int>(firsts_[rule.id].size()); }

  /// Brushed and joined while it grabs, so much at a time; or in one go where the glue does not wait.
  void join(const StepRule& rule, const Served::Joint& j) {
    const Glue& glue = j.glue.product;
    const double seam_m = std::max(j.joint->seam_m, j.joint->on.empty() ? 0.0 : kJoinedOnM);
    if (seam_m <= 0.0) return;
    WorkGroup group{j.joint->name + ", " + glue.name, j.joint->name + "/" + glue.id, {},
        joined_cautions({rule.caution, glue.caution}),
        is_outdoors(glue.caution) && glue.base == "solvent" && glue.id == "spray-glue", &glue};
    const double work = glue.hands_min_per_m * seam_m;
    const std::string what =
        j.joint->on.empty() ? "the seams of the " + j.joint->part : "the " + j.joint->part + " on the " + j.joint->on;
    const int passes =
        glue.open_min > 0.0 ? std::max(1, static_cast<int>(std::ceil(work * kBrushShare / kLongestBrushMin))) : 1;
    int last = -1;
    for (int k = 0; k < passes; ++k) {
      const std::string number = std::to_string(k + 1);
      int first = -1, end = -1;
      if (glue.open_min > 0.0) {
        first = put(rule, group, number + "a", numbered("Brush " + glue.name + " on " + what, k, passes),
            kPutOnMin / passes + work * kBrushShare / passes);
        end = put(
            rule, group, number + "b", numbered("Join " + what, k, passes), 2.0 + work * (1.0 - kBrushShare) / passes);
        const int wait = static_cast<int>(std::lround(glue.wait_min * std::clamp(factor(glue.base), 0.5, 2.0)));
        made_.project.links.push_back(
            {first, end, wait, wait + static_cast<int>(glue.open_min), {}, "it is touch-dry, and still grabs"});
      } else {
        first = end = put(rule, group, number, "Glue " + what + " with " + glue.name, kPutOnMin + work + glue.wait_min);
      }
      if (last >= 0)
        put_link(last, first, "one stretch after the other", 0);
      else
        begun_[j.joint->name] = first;
      last = end;
    }
    made_.project.steps[last].dries_min = wait_of(glue.cure_min, glue.base == "water" ? "water" : "");
    joined_[j.joint->name] = last;
    firsts_[rule.id].push_back(begun_[j.joint->name]);
    lasts_[rule.id].push_back(last);
    for (const std::string* part : {&j.joint->part, &j.joint->on})
      if (const auto own = joined_.find(*part); !j.joint->on.empty() && own != joined_.end())
        put_link(own->second, begun_[j.joint->name], "its own seams hold", 0);
  }

  /// Whether the maker wants this step at all.
  bool is_wanted(const StepRule& r) const {
    if (const auto looks = looks_for(r); !looks.empty()) return seams_of(looks) > 0.0;
    if (r.when == "heat-seal") return spec_.heat_seal;
    if (r.when == "tape") return spec_.tape_inside;
    if (r.when == "clay") return spec_.build_up == BuildUp::clay;
    if (r.when == "layers") return spec_.build_up == BuildUp::layers;
    if (r.when == "wash") return spec_.shade == Shade::wash;
    if (r.when == "oil") return spec_.shade == Shade::oil;
    if (r.when == "dry-brush") return spec_.dry_brush;
    return true;
  }

  SeamLook look_of(const JointWork& joint) const {
    for (const JointLook& j : spec_.joint_looks)
      if (j.joint == joint.name) return j.look;
    return spec_.fill_seams ? SeamLook::fill : spec_.bare_seams;
  }
  /// Of which seams a step is; empty: of none in particular.
  static std::vector<SeamLook> looks_for(const StepRule& r) {
    if (r.when == "fill") return {SeamLook::fill};
    if (r.when == "sand") return {SeamLook::fill, SeamLook::sand};
    if (r.when == "cover") return {SeamLook::cover};
    return {};
  }
  /// What share of all seams is treated so, by length; a part that only touches another counts as a little.
  double seams_of(const std::vector<SeamLook>& looks, std::string* names = nullptr) const {
    double all = 0.0, some = 0.0;
    for (const JointWork& j : work_.joints) {
      const double m = std::max(j.seam_m, 1e-3);
      all += m;
      if (std::find(looks.begin(), looks.end(), look_of(j)) == looks.end()) continue;
      some += m;
      if (names != nullptr) *names += (names->empty() ? "" : ", ") + j.name;
    }
    if (names != nullptr && some >= all) names->clear();
    if (all > 0.0) return some / all;
    const SeamLook usual = spec_.fill_seams ? SeamLook::fill : spec_.bare_seams;
    return std::find(looks.begin(), looks.end(), usual) != looks.end() ? 1.0 : 0.0;
  }

  std::vector<WorkGroup> groups_of(const StepRule& rule) const {
    if (!is_wanted(rule)) return {};
    switch (rule.act) {
      case StepAct::heat_shape:
        return heated_groups(
            rule, [](const StuffWork& w) { return w.bent; }, work_.heated);
      case StepAct::heat_seal:
        return heated_groups(
            rule, [](const StuffWork& w) { return w.stuff.heat_seal; }, true);
      case StepAct::seal:
        return coat_groups(rule, &Served::Coats::seal);
      case StepAct::paint:
        return coat_groups(rule, &Served::Coats::paint);
      case StepAct::clear:
        return coat_groups(rule, &Served::Coats::clear);
      case StepAct::detail:
        return detail_groups(rule);
      default:
        return {whole_group(rule)};
    }
  }

  /// Everything at once, with what its act calls for.
  WorkGroup whole_group(const StepRule& rule) const {
    WorkGroup group{{}, "all", work_.whole(), rule.caution};
    std::vector<std::string> cautions{rule.caution};
    if (rule.act == StepAct::cut)
      for (const StuffWork& w : work_.stuffs)
        if (!w.stuff.cutting_caution.empty())
          cautions.push_back(
              work_.stuffs.size() > 1 ? w.stuff.name + ": " + w.stuff.cutting_caution : w.stuff.cutting_caution);
    if (rule.act == StepAct::glue_in) {
      group.of = served_.padding.product.name;
      cautions.push_back(served_.padding.product.caution);
    }
    if (const auto looks = looks_for(rule); !looks.empty()) group.size.seam_m *= seams_of(looks, &group.of);
    group.caution = joined_cautions(cautions);
    return group;
  }

  /// Materials that bear heat: those that do so indoors together, those that must be outdoors apart.
  template <class Wants>
  std::vector<WorkGroup> heated_groups(const StepRule& rule, Wants wants, bool heated) const {
    std::vector<WorkGroup> groups;
    for (const bool outdoors : {false, true}) {
      WorkGroup group;
      std::string names;
      std::vector<std::string> cautions{rule.caution};
      std::size_t count = 0;
      for (const StuffWork& w : work_.stuffs) {
        const Verdict heat = heat_on(w.stuff);
        if (!heated || !wants(w) || !heat.allowed || heat.outdoors != outdoors) continue;
        add_to(group.size, w.size);
        names += (count++ > 0 ? ", " : "") + w.stuff.name;
        cautions.push_back(work_.stuffs.size() > 1 ? w.stuff.name + ": " + heat.caution : heat.caution);
      }
      if (count == 0) continue;
      if (outdoors || count < work_.stuffs.size()) group.of = names + (outdoors ? ", outdoors" : "");
      group.scope = outdoors ? "outdoors" : "all";
      group.caution = joined_cautions(cautions);
      group.outdoors = outdoors;
      groups.push_back(std::move(group));
    }
    return groups;
  }

  std::vector<WorkGroup> coat_groups(const StepRule& rule, Serving<Coating> Served::Coats::*which) const {
    std::vector<WorkGroup> groups;
    for (const Served::Coats& c : served_.coats) {
      const Coating& coating = (c.*which).product;
      if (coating.coats == 0) continue;
      auto at =
          std::find_if(groups.begin(), groups.end(), [&](const WorkGroup& g) { return g.coating->id == coating.id; });
      if (at == groups.end())
        at = groups.insert(at,
            WorkGroup{
                coating.name, coating.id, {}, {}, is_outdoors(coating.caution), nullptr, &coating, coating.coats});
      add_to(at->size, c.work->size);
    }
    for (WorkGroup& g : groups) g.caution = joined_cautions({rule.caution, g.coating->caution, unpainted()});
    return groups;
  }

  /// What is looked through is masked, whatever is put on.
  std::string unpainted() const {
    std::string mask;
    for (const std::string& name : served_.masked) mask += (mask.empty() ? "Mask the " : " and the ") + name;
    return mask.empty() ? mask : mask + ".";
  }

  std::vector<WorkGroup> detail_groups(const StepRule& rule) const {
    constexpr std::pair<const char*, DetailTurn> kTurns[] = {{"before-glue", DetailTurn::before_glue},
        {"before-seal", DetailTurn::before_seal}, {"after-paint", DetailTurn::after_paint}, {"last", DetailTurn::last}};
    std::vector<WorkGroup> groups;
    for (const DetailWork& d : work_.details)
      for (const auto& [word, turn] : kTurns)
        if (rule.turn == word && d.turn == turn) {
          WorkGroup group{d.name + (d.part.empty() ? "" : " (" + d.part + ")"), d.id, {},
              joined_cautions({rule.caution, d.caution})};
          group.hands_min = d.hands_min;
          groups.push_back(std::move(group));
        }
    return groups;
  }

  /// The order that takes least tape.
  void order_areas() {
    if (served_.areas.empty()) return;
    MaskingQuestion q;
    const auto lengths = [&](const std::vector<std::vector<double>>& from) {
      std::vector<std::vector<double>> to;
      for (const Served::Area& a : served_.areas) {
        to.emplace_back();
        for (const Served::Area& b : served_.areas) to.back().push_back(from[index_of(a)][index_of(b)]);
      }
      return to;
    };
    for (const Served::Area& a : served_.areas) {
      const Pigment* pigment = find_pigment(spec_, a.area->pigment);
      MaskArea m;
      m.name = a.area->name;
      m.sprayed = a.paint.product.sprayed;
      m.hard_edge = a.area->hard_edge;
      m.lightness = lightness_of(static_cast<unsigned>(pigment != nullptr ? pigment->rgb : 0x808080));
      m.bears_tape = a.area->bears_tape;
      m.area_mm2 = a.work->area_m2 * 1e6;
      m.bare_mm = work_.bare_mm[index_of(a)];
      q.areas.push_back(std::move(m));
    }
    q.border_mm = lengths(work_.border_mm);
    q.reach_mm = lengths(work_.reach_mm);
    if (auto order = masking_order(q)) {
      made_.masking = std::move(*order);
      return;
    } else
      made_.unmaskable = order.error();
    for (int k = 0; k < static_cast<int>(q.areas.size()); ++k) made_.masking.steps.push_back({k, {}, 0.0, 0.0, 0.0, 0});
  }
  std::size_t index_of(const Served::Area& a) const { return static_cast<std::size_t>(a.work - work_.areas.data()); }

  /// Area by area: masked where it must be, then its coats.
  void paint_areas(const StepRule& rule) {
    int before = -1;
    std::map<int, int> painted;  // area to its last coat
    for (const MaskingStep& m : made_.masking.steps) {
      const Served::Area& a = served_.areas[static_cast<std::size_t>(m.area)];
      const Coating& coating = a.paint.product;
      const int mixes = mixes_of(*a.area);
      WorkGroup group{a.area->name + ", " + coating.name +
              (mixes > 1 ? ", fading " + std::string(name_of(a.area->fades)) + " in " + std::to_string(mixes) + " mixes"
                         : ""),
          std::to_string(a.area->id), {0, 0.0, a.work->area_m2},
          joined_cautions({rule.caution, coating.caution, unpainted(),
              m.tape_mm > 0.0 ? "Peel the tape while the last coat is still soft." : ""}),
          is_outdoors(coating.caution), nullptr, &coating, a.coats + (m.darker_below > 0 ? 1 : 0)};
      group.hands_min = mixes > 1 ? kMixMin * mixes : 0.0;
      int mask = -1;
      if (m.tape_mm > 0.0) {
        WorkGroup masking = group;
        masking.caution.clear();
        masking.outdoors = false;
        mask = put(rule, masking, "mask",
            "Mask for the " + a.area->name + ": " + fixed(m.tape_mm / 1000.0, 1) + " m of tape" + over(m),
            5.0 + kTapeMinPerM * m.tape_mm / 1000.0);
        for (const int covered : m.covers)
          put_link(
              painted[covered], mask, "what is taped over is dry", made_.project.steps[painted[covered]].dries_min);
        firsts_[rule.id].push_back(mask);
      }
      const std::size_t at = firsts_[rule.id].size();
      add(rule, group);
      const int first = firsts_[rule.id][at];
      if (mask >= 0) put_link(mask, first, "what must stay clean is taped over", 0);
      if (before >= 0) put_link(before, mask >= 0 ? mask : first, "in the order that takes least tape", 0);
      before = painted[m.area] = lasts_[rule.id].back();
    }
  }
  /// Mixes of paint from its colour to what it fades to; 0: it does not fade.
  int mixes_of(const ColourArea& area) const {
    const Pigment *from = find_pigment(spec_, area.pigment), *to = find_pigment(spec_, area.fades_to);
    if (from == nullptr || to == nullptr || from->rgb == to->rgb) return 0;
    return gradient_mixes(static_cast<unsigned>(from->rgb), static_cast<unsigned>(to->rgb));
  }
  std::string over(const MaskingStep& m) const {
    std::string names;
    for (const int covered : m.covers)
      names += (names.empty() ? ", over " : ", ") + served_.areas[static_cast<std::size_t>(covered)].area->name;
    return names;
  }

  /// A step that is left out hands its own conditions on.
  void link(const std::vector<StepRule>& rules, const std::string& before, int to) {
    const auto rule = std::find_if(rules.begin(), rules.end(), [&](const StepRule& r) { return r.id == before; });
    if (const auto it = lasts_.find(before); it != lasts_.end()) {
      for (const int last : it->second) {
        const WorkStep& s = made_.project.steps[last];
        put_link(last, to, s.dries_min > 0 ? "it is dry" : "it goes on after", s.dries_min);
      }
      return;
    }
    if (rule == rules.end()) return;
    for (const std::string& earlier : rule->after) link(rules, earlier, to);
  }

  const CoatSpec& spec_;
  const Served& served_;
  const FinishWork& work_;
  Expansion made_;
  std::map<std::string, std::vector<int>> firsts_, lasts_;
  std::map<std::string, int> begun_, joined_;
};

}  // namespace

void add_to(WorkSize& sum, const WorkSize& more) {
  sum.pieces += more.pieces;
  sum.seam_m += more.seam_m;
  sum.area_m2 += more.area_m2;
}

WorkSize FinishWork::whole() const {
  WorkSize sum;
  for (const StuffWork& w : stuffs) add_to(sum, w.size);
  return sum;
}

FinishWork work_on(const Foam& foam, const WorkSize& size) {
  FinishWork work;
  work.stuffs = {{foam, {}, size, true, true, false}};
  work.joints = {{foam, foam, size.seam_m, "form", "form", {}}};
  return work;
}

Expansion expand(
    const CoatSpec& spec, const Served& served, const FinishWork& work, const std::vector<StepRule>& rules) {
  return Expander(spec, served, work).run(rules);
}

}  // namespace awl
