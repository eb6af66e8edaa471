#include "core/coat/plan.hpp"

#include <algorithm>
#include <functional>
#include <cmath>
#include <map>
#include <set>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr double kDayMin = 24.0 * 60.0;

/// One task after coats and passes have been counted out.
struct Task {
  PlannedStep step;
  std::vector<int> after;
  bool meanwhile = false;
  double chain_min = 0.0;  ///< longest way from here to the end
};

struct Products {
  Glue glue;
  Coating seal, paint, clear;
};

Result<Products> find_products(const CoatSpec& spec, const Materials& m) {
  const auto g = m.glue(spec.glue);
  const auto s = m.seal(spec.seal), p = m.paint(spec.paint), c = m.clear(spec.clear);
  if (!g) return fail(g);
  for (const auto* coating : {&s, &p, &c})
    if (!*coating) return fail(*coating);
  return Products{*g, *s, *p, *c};
}

/// What one act of a rule comes to on the materials that bear it in the same way.
struct WorkGroup {
  std::string of;  ///< the product, or the materials if they are not all there are
  WorkSize size;
  std::string caution;
  bool outdoors = false;
  const Glue* glue = nullptr;
  const Coating* coating = nullptr;
};

void add_to(WorkSize& sum, const WorkSize& more) {
  sum.pieces += more.pieces;
  sum.seam_m += more.seam_m;
  sum.area_m2 += more.area_m2;
}

/// Which products serve where: every joint its glue, every material its coats, and what was not borne.
struct Served {
  struct Joint {
    const JointWork* joint;
    Serving<Glue> glue;
  };
  struct Coats {
    const StuffWork* work;
    Serving<Coating> seal, paint, clear;
  };
  std::vector<Joint> joints;
  std::vector<Coats> coats;         ///< of materials that are painted
  std::vector<std::string> masked;  ///< names of those that are not
  Serving<Glue> padding;            ///< holds soft foam in every part
};

Result<Served::Coats> serve_coats(const StuffWork& work, const Products& p, const Materials& m) {
  auto seal = coat_for(m.seals, p.seal, work.stuff, false);
  if (!seal) return fail(seal);
  const bool sealed = seal->product.coats > 0;
  auto paint = coat_for(m.paints, p.paint, work.stuff, sealed);
  auto clear = coat_for(m.clears, p.clear, work.stuff, sealed);
  if (!paint) return fail(paint);
  if (!clear) return fail(clear);
  return Served::Coats{&work, std::move(*seal), std::move(*paint), std::move(*clear)};
}

/// Soft upholstery foam glued to every material there is; the first glue that all bear.
Result<Serving<Glue>> serve_padding(const FinishWork& work, const Glue& asked, const Materials& m) {
  const auto soft = m.foam("soft-block");
  Serving<Glue> serving{asked, true, {}};
  if (!soft) return serving;
  for (const StuffWork& w : work.stuffs) {
    if (!w.worn) continue;
    auto one = glue_for(m, serving.product, *soft, w.stuff);
    if (!one) return fail(one);
    if (!one->as_asked) serving = std::move(*one);
  }
  return serving;
}

Result<Served> serve(const FinishWork& work, const Products& products, const Materials& materials) {
  Served served;
  for (const JointWork& joint : work.joints) {
    auto glue = glue_for(materials, products.glue, joint.one, joint.other);
    if (!glue) return fail(glue);
    served.joints.push_back({&joint, std::move(*glue)});
  }
  for (const StuffWork& w : work.stuffs) {
    if (!w.worn) continue;
    if (!takes_coats(w.stuff)) {
      served.masked.push_back(w.stuff.name);
      continue;
    }
    auto coats = serve_coats(w, products, materials);
    if (!coats) return fail(coats);
    served.coats.push_back(std::move(*coats));
  }
  auto padding = serve_padding(work, products.glue, materials);
  if (!padding) return fail(padding);
  served.padding = std::move(*padding);
  return served;
}

/// Turns the rules into tasks: left-out steps vanish, coats follow each other, each material goes its own way.
class TaskList {
 public:
  TaskList(const CoatSpec& spec, const Served& served, const FinishWork& work)
      : spec_(spec), served_(served), work_(work) {}

  std::vector<Task> build(const std::vector<StepRule>& rules) {
    for (const StepRule& rule : rules)
      for (const WorkGroup& group : groups_of(rule)) add(rule, group);
    for (const StepRule& rule : rules)
      for (const int first : firsts_[rule.id])
        for (const std::string& before : rule.after) link(rules, before, tasks_[first].after);
    return std::move(tasks_);
  }

 private:
  struct Amounts {
    double hands = 0.0, wait = 0.0, last_wait = 0.0;
    int count = 1;
  };

  void add(const StepRule& rule, const WorkGroup& group) {
    const Amounts a = amounts(rule, group);
    const std::string name = rule.name + (group.of.empty() ? "" : ": " + group.of);
    for (int k = 0; k < a.count; ++k) {
      Task task;
      task.step.id = rule.id, task.step.caution = group.caution, task.step.outdoors = group.outdoors;
      task.step.name = a.count > 1 ? name + ", " + std::to_string(k + 1) + " of " + std::to_string(a.count) : name;
      task.step.hands_min = a.hands, task.step.wait_min = k + 1 < a.count ? a.wait : a.last_wait;
      task.meanwhile = rule.meanwhile;
      const int index = static_cast<int>(tasks_.size());
      if (k > 0) task.after.push_back(index - 1);
      if (k == 0) firsts_[rule.id].push_back(index);
      if (k + 1 == a.count) lasts_[rule.id].push_back(index);
      tasks_.push_back(std::move(task));
    }
  }

  Amounts amounts(const StepRule& r, const WorkGroup& g) const {
    if (g.glue != nullptr && r.act == StepAct::glue)
      return {10.0 + g.glue->hands_min_per_m * g.size.seam_m + g.glue->wait_min, 0.0, g.glue->cure_min, 1};
    if (g.coating != nullptr)
      return {5.0 + g.coating->hands_min_per_m2 * g.size.area_m2, g.coating->wait_min, g.coating->last_wait_min,
          g.coating->coats};
    return {r.base_min + r.per_piece * g.size.pieces + r.per_m * g.size.seam_m + r.per_m2 * g.size.area_m2, r.wait_min,
        r.wait_min, r.repeat};
  }

  /// Whether the maker wants this step at all.
  bool is_wanted(const StepRule& r) const {
    return (r.when != "fill" || spec_.fill_seams) && (r.when != "heat-seal" || spec_.heat_seal);
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
      case StepAct::glue:
        return glue_groups(rule);
      case StepAct::seal:
        return coat_groups(rule, &Served::Coats::seal);
      case StepAct::paint:
        return coat_groups(rule, &Served::Coats::paint);
      case StepAct::clear:
        return coat_groups(rule, &Served::Coats::clear);
      default:
        return {whole_group(rule)};
    }
  }

  /// Everything at once, with what its act calls for.
  WorkGroup whole_group(const StepRule& rule) const {
    WorkGroup group{{}, work_.whole(), rule.caution, false, nullptr, nullptr};
    std::vector<std::string> cautions{rule.caution};
    if (rule.act == StepAct::cut)
      for (const StuffWork& w : work_.stuffs)
        if (!w.stuff.cutting_caution.empty())
          cautions.push_back(
              work_.stuffs.size() > 1 ? w.stuff.name + ": " + w.stuff.cutting_caution : w.stuff.cutting_caution);
    if (rule.act == StepAct::glue_in)
      group.of = served_.padding.product.name, cautions.push_back(served_.padding.product.caution);
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
      std::vector<std::string> cautions;
      cautions.push_back(rule.caution);
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
      group.caution = joined_cautions(cautions), group.outdoors = outdoors;
      groups.push_back(std::move(group));
    }
    return groups;
  }

  std::vector<WorkGroup> glue_groups(const StepRule& rule) const {
    std::vector<WorkGroup> groups;
    for (const Served::Joint& j : served_.joints) {
      auto at = std::find_if(
          groups.begin(), groups.end(), [&](const WorkGroup& g) { return g.glue->id == j.glue.product.id; });
      if (at == groups.end())
        at = groups.insert(at,
            WorkGroup{j.glue.product.name, {}, joined_cautions({rule.caution, j.glue.product.caution}), false,
                &j.glue.product, nullptr});
      at->size.seam_m += j.joint->seam_m;
    }
    return groups;
  }

  std::vector<WorkGroup> coat_groups(const StepRule& rule, Serving<Coating> Served::Coats::*which) const {
    std::vector<WorkGroup> groups;
    for (const Served::Coats& c : served_.coats) {
      const Coating& coating = (c.*which).product;
      auto at =
          std::find_if(groups.begin(), groups.end(), [&](const WorkGroup& g) { return g.coating->id == coating.id; });
      if (at == groups.end())
        at = groups.insert(at,
            WorkGroup{coating.name, {}, {}, coating.caution.find("utdoors") != std::string::npos, nullptr, &coating});
      add_to(at->size, c.work->size);
    }
    std::string mask;
    for (const std::string& name : served_.masked) mask += (mask.empty() ? "Mask the " : " and the ") + name;
    for (WorkGroup& g : groups)
      g.caution = joined_cautions({rule.caution, g.coating->caution, mask.empty() ? mask : mask + "."});
    return groups;
  }

  /// A step that is left out hands its own conditions on.
  void link(const std::vector<StepRule>& rules, const std::string& before, std::vector<int>& after) const {
    if (const auto it = lasts_.find(before); it != lasts_.end()) {
      for (const int last : it->second)
        if (std::find(after.begin(), after.end(), last) == after.end()) after.push_back(last);
      return;
    }
    for (const StepRule& rule : rules)
      if (rule.id == before)
        for (const std::string& earlier : rule.after) link(rules, earlier, after);
  }

  const CoatSpec& spec_;
  const Served& served_;
  const FinishWork& work_;
  std::vector<Task> tasks_;
  std::map<std::string, std::vector<int>> firsts_, lasts_;
};

/// Latest first: how long everything that hangs on a task takes.
void measure_chains(std::vector<Task>& tasks) {
  for (std::size_t round = 0; round < tasks.size(); ++round)
    for (Task& t : tasks) {
      const double own = t.chain_min + t.step.hands_min + t.step.wait_min;
      for (const int before : t.after) tasks[before].chain_min = std::max(tasks[before].chain_min, own);
    }
}

/// Hours at the bench: hands-on work is done only in them, waits run on.
class BenchHours {
 public:
  BenchHours(double opens_h, double hours) : opens_(opens_h * 60.0), open_min_(hours * 60.0) {}
  double next_open(double t) const {
    const double day = std::floor(t / kDayMin) * kDayMin;
    if (t < day + opens_) return day + opens_;
    return t < day + opens_ + open_min_ - 1e-9 ? t : day + kDayMin + opens_;
  }
  /// A step is not begun so late that it would run past closing, unless it is longer than a whole day at the bench.
  double start_for(double t, double hands) const {
    const double at = next_open(t), closes = std::floor(at / kDayMin) * kDayMin + opens_ + open_min_;
    return at + hands <= closes + 1e-9 || hands > open_min_ ? at : next_open(closes);
  }

 private:
  double opens_, open_min_;
};

/// One pair of hands. A step outside its chain's turn may fill a wait if it is marked so.
void put_in_calendar(std::vector<Task>& tasks, const BenchHours& bench, Plan& plan) {
  std::vector<char> done(tasks.size(), 0);
  double now = 0.0;
  for (std::size_t n = 0; n < tasks.size(); ++n) {
    int best = -1;
    double best_start = 1e300;
    const auto ready_at = [&](const Task& t) {
      double ready = now;
      for (const int before : t.after) ready = std::max(ready, done[before] ? tasks[before].step.ready_min() : 1e300);
      return ready;
    };
    for (int i = 0; i < static_cast<int>(tasks.size()); ++i) {
      if (done[i]) continue;
      const double ready = ready_at(tasks[i]);
      if (ready > 1e299) continue;
      const double start = bench.start_for(ready, tasks[i].step.hands_min);
      if (start < best_start - 1e-9 ||
          (std::abs(start - best_start) <= 1e-9 && tasks[i].chain_min > tasks[best].chain_min))
        best = i, best_start = start;
    }
    if (best < 0) break;
    Task& task = tasks[best];
    task.step.start_min = best_start;
    task.step.fills_wait =
        task.meanwhile && std::any_of(plan.steps.begin(), plan.steps.end(), [&](const PlannedStep& s) {
          return s.done_min() <= best_start + 1e-9 && s.ready_min() > best_start + 1.0;
        });
    done[best] = 1;
    now = task.step.done_min();
    plan.steps.push_back(task.step);
    plan.hands_min += task.step.hands_min;
    plan.waiting_min += task.step.wait_min;
    plan.ready_min = std::max(plan.ready_min, task.step.ready_min());
  }
}

class Judge {
 public:
  Judge(const CoatSpec& spec, const Served& served, const FinishWork& work)
      : spec_(spec), served_(served), work_(work) {}

  std::vector<Remark> run(const Plan& plan) {
    judge_coats();
    judge_glue();
    judge_not_borne();
    if (plan.spare_min < 0.0) {
      Remark late{"coat.late", Severity::stop, "coat",
          "Not ready by " + spec_.due.spoken() + ": it misses the day by " + duration_text(-plan.spare_min) + ".",
          -plan.spare_min, 0.0, {}};
      if (spec_.hours_a_day < 8.0) late.remedies.push_back({"Work 8 hours a day", "set-hours 8"});
      remarks_.push_back(std::move(late));
    }
    return std::move(remarks_);
  }

 private:
  void warn(std::string id, std::string sentence, std::vector<Remedy> remedies) {
    remarks_.push_back({std::move(id), Severity::warning, "coat", std::move(sentence), {}, {}, std::move(remedies)});
  }

  void judge_coats() {
    for (const Served::Coats& c : served_.coats) {
      const Foam& foam = c.work->stuff;
      const Coating &seal = c.seal.product, &paint = c.paint.product;
      if (seal.coats == 0 && foam.pores != Pores::closed) {
        const bool rubber = foam.solvent == Solvent::bears;
        warn("coat.unsealed", "Paint on raw " + foam.name + " flakes off where it bends: seal it first.",
            {rubber ? Remedy{"Seal with rubber coat", "set-seal rubber"}
                    : Remedy{"Seal with wood glue and water", "set-seal glue-coats"}});
      } else if (seal.coats > 0 && std::find(seal.holds.begin(), seal.holds.end(), paint.kind) == seal.holds.end()) {
        warn("coat.paint-on-seal", paint.name + " does not stay on " + seal.name + ".",
            {{"Paint with acrylic", "set-paint acrylic"}});
      }
      if (!spec_.heat_seal && foam.heat_seal && heat_on(foam).allowed && seal.id != "rubber" && seal.coats > 0)
        warn("coat.no-heat-seal", foam.name + " drinks " + seal.name + " if its pores are open: heat-seal it before.",
            {{"Heat-seal first", "set-heat-seal on"}});
    }
  }

  /// A glue not borne somewhere; the remedy is one that serves everywhere, if there is one.
  void judge_glue() {
    std::set<std::string> told;
    for (const Served::Joint& j : served_.joints) {
      if (j.glue.as_asked || !told.insert(j.glue.why).second) continue;
      const Glue& instead = j.glue.product;
      const bool everywhere = std::all_of(served_.joints.begin(), served_.joints.end(),
          [&](const Served::Joint& k) { return glue_on(instead, k.joint->one, k.joint->other).allowed; });
      warn("coat.glue", j.glue.why + " There the plan takes " + instead.name + ".",
          everywhere ? std::vector<Remedy>{{"Take " + instead.name + " everywhere", "set-glue " + instead.id}}
                     : std::vector<Remedy>{});
    }
    if (!served_.padding.as_asked && told.insert(served_.padding.why).second)
      remarks_.push_back({"coat.padding", Severity::note, "coat",
          served_.padding.why + " The padding goes in with " + served_.padding.product.name + ".", {}, {}, {}});
  }

  /// Coats and heat that were asked for and are not borne.
  void judge_not_borne() {
    std::set<std::string> told;
    for (const Served::Coats& c : served_.coats)
      for (const Serving<Coating>* s : {&c.seal, &c.paint, &c.clear})
        if (!s->as_asked && told.insert(s->why).second)
          warn("coat.not-borne", s->why + " On the " + c.work->stuff.name + " the plan takes " + s->product.name + ".",
              {});
    for (const StuffWork& w : work_.stuffs) {
      const Verdict heat = heat_on(w.stuff);
      if (work_.heated && w.bent && heat.outdoors)
        warn("coat.outdoors",
            w.stuff.name +
                " is shaped with heat outdoors only, with a respirator meant for it: hot, it gives off harmful gas.",
            {{"Bend it cold", "set-heated off"}});
    }
  }

  const CoatSpec& spec_;
  const Served& served_;
  const FinishWork& work_;
  std::vector<Remark> remarks_;
};

Result<void> check(const CoatSpec& spec) {
  if (!(spec.hours_a_day >= 0.5 && spec.hours_a_day <= 16.0))
    return fail(Errc::out_of_range, fixed(spec.hours_a_day, 1) + " hours a day at the bench is outside 0.5 to 16.",
        "coat/hours");
  if (!(spec.opens_h >= 0.0 && spec.opens_h + spec.hours_a_day <= 24.0))
    return fail(Errc::out_of_range,
        "A bench that opens at " + fixed(spec.opens_h, 0) + " h for " + fixed(spec.hours_a_day, 1) +
            " hours runs past midnight.",
        "coat/hours");
  if (spec.due < spec.start)
    return fail(Errc::out_of_range,
        "The due day " + spec.due.iso() + " lies before the start on " + spec.start.iso() + ".", "coat/due");
  return {};
}

/// Names a circle in the rules if there is one.
Result<void> check_order(const std::vector<StepRule>& rules) {
  std::map<std::string, const StepRule*> by_id;
  for (const StepRule& r : rules) by_id[r.id] = &r;
  std::map<std::string, int> state;  // 1 on the way, 2 done
  std::vector<std::string> way;
  const std::function<bool(const std::string&)> circles = [&](const std::string& id) {
    if (state[id] == 2 || by_id.count(id) == 0) return false;
    way.push_back(id);
    if (state[id] == 1) return true;
    state[id] = 1;
    for (const std::string& before : by_id[id]->after)
      if (circles(before)) return true;
    state[id] = 2;
    way.pop_back();
    return false;
  };
  for (const StepRule& r : rules) {
    if (!circles(r.id)) continue;
    std::string text;
    for (auto it = std::find(way.begin(), way.end(), way.back()); it != way.end(); ++it)
      text += (text.empty() ? "" : " after ") + *it;
    return fail(Errc::no_solution, "The order rules run in a circle: " + text + ".", "rules");
  }
  return {};
}

}  // namespace

namespace {

StepRule rule_from(const JsonAt& j) {
  constexpr std::pair<const char*, StepAct> kActs[] = {{"", StepAct::other}, {"cut", StepAct::cut},
      {"heat-shape", StepAct::heat_shape}, {"heat-seal", StepAct::heat_seal}, {"glue", StepAct::glue},
      {"glue-in", StepAct::glue_in}, {"sand", StepAct::sand}, {"seal", StepAct::seal}, {"paint", StepAct::paint},
      {"clear", StepAct::clear}};
  StepRule r;
  r.id = j.at("id"), r.name = j.at("name"), r.when = j.value("when", ""), r.caution = j.value("caution", "");
  const std::string act = j.value("act", "");
  const auto known = std::find_if(std::begin(kActs), std::end(kActs), [&](const auto& a) { return act == a.first; });
  if (known == std::end(kActs))
    j.at("act").refuse(Errc::unknown_name, "is " + in_quotes(act) + ", an act that is not known");
  r.act = known->second;
  if (const auto after = j.find("after"))
    for (const JsonAt& before : after->all()) r.after.push_back(before);
  r.base_min = j.value("base_min", 0.0), r.per_piece = j.value("per_piece", 0.0), r.per_m = j.value("per_m", 0.0),
  r.per_m2 = j.value("per_m2", 0.0), r.wait_min = j.value("wait_min", 0.0);
  r.repeat = j.value("repeat", 1), r.meanwhile = j.value("meanwhile", false);
  return r;
}

/// What is needed of each product, as the steps use it.
void list_needs(const Served& served, Plan& plan) {
  const auto add = [&](const std::string& name, double ml) {
    for (Need& n : plan.needs)
      if (n.name == name) return void(n.ml += ml);
    plan.needs.push_back({name, ml});
  };
  for (const Served::Joint& j : served.joints) add(j.glue.product.name, j.glue.product.ml_per_m * j.joint->seam_m);
  for (const auto which : {&Served::Coats::seal, &Served::Coats::paint, &Served::Coats::clear})
    for (const Served::Coats& c : served.coats)
      if (const Coating& coating = (c.*which).product; coating.coats > 0)
        add(coating.name, coating.coats * coating.ml_per_m2 * c.work->size.area_m2);
}

}  // namespace

WorkSize FinishWork::whole() const {
  WorkSize sum;
  for (const StuffWork& w : stuffs) add_to(sum, w.size);
  return sum;
}

FinishWork work_on(const Foam& foam, const WorkSize& size) {
  return {{{foam, {}, size, true, true}}, {{foam, foam, size.seam_m}}, true};
}

Result<std::vector<StepRule>> load_step_rules(const std::filesystem::path& file) {
  const auto bytes = read_file(file);
  if (!bytes) return fail(bytes);
  const auto json = json_in(*bytes, "The file " + file.string());
  if (!json) return fail(json);
  auto rules = read_json(*json, "", [](const JsonAt& j) {
    std::vector<StepRule> list;
    for (const JsonAt& one : j.at("steps").all()) list.push_back(rule_from(one));
    return list;
  });
  if (!rules)
    return fail(Errc::bad_file, "The order rules in " + file.string() + " cannot be read: " + rules.error().text,
        rules.error().where);
  if (auto good = check_order(*rules); !good) return fail(good);
  return rules;
}

Result<Plan> plan_finishing(
    const CoatSpec& spec, const FinishWork& work, const Materials& materials, const std::vector<StepRule>& rules) {
  if (auto good = check(spec); !good) return fail(good);
  if (auto good = check_order(rules); !good) return fail(good);
  const auto products = find_products(spec, materials);
  if (!products) return fail(products);
  const auto served = serve(work, *products, materials);
  if (!served) return fail(served);
  std::vector<Task> tasks = TaskList(spec, *served, work).build(rules);
  measure_chains(tasks);
  Plan plan;
  put_in_calendar(tasks, BenchHours(spec.opens_h, spec.hours_a_day), plan);
  plan.ready_day = Day{spec.start.number + static_cast<int>(std::floor(plan.ready_min / kDayMin))};
  // It must lie ready in the morning of the due day, when the bench opens.
  plan.spare_min = (spec.due.number - spec.start.number) * kDayMin + spec.opens_h * 60.0 - plan.ready_min;
  list_needs(*served, plan);
  plan.remarks = Judge(spec, *served, work).run(plan);
  return plan;
}

std::string clock_text(double minutes) {
  const int m = static_cast<int>(std::lround(minutes)) % static_cast<int>(kDayMin);
  const std::string h = std::to_string(m / 60), rest = std::to_string(m % 60);
  return (h.size() < 2 ? "0" + h : h) + ":" + (rest.size() < 2 ? "0" + rest : rest);
}

std::string duration_text(double minutes) {
  const long m = std::lround(minutes);
  const long days = m / 1440, hours = m / 60 % 24, rest = m % 60;
  if (days > 0)
    return std::to_string(days) + (days == 1 ? " day" : " days") +
        (hours > 0 ? " " + std::to_string(hours) + " h" : "");
  if (hours > 0) return std::to_string(hours) + " h" + (rest > 0 ? " " + std::to_string(rest) + " min" : "");
  return std::to_string(rest) + " min";
}

}  // namespace awl
