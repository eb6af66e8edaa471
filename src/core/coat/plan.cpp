#include "core/coat/plan.hpp"

#include <algorithm>
#include <functional>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"

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
  Foam foam;
  Glue glue;
  Coating seal, paint, clear;
};

Result<Products> find_products(const CoatSpec& spec, const std::string& foam, const Materials& m) {
  const auto f = m.foam(foam);
  const auto g = m.glue(spec.glue);
  const auto s = m.seal(spec.seal), p = m.paint(spec.paint), c = m.clear(spec.clear);
  if (!f) return tl::make_unexpected(f.error());
  if (!g) return tl::make_unexpected(g.error());
  for (const auto* coating : {&s, &p, &c})
    if (!*coating) return tl::make_unexpected(coating->error());
  return Products{*f, *g, *s, *p, *c};
}

/// Turns the rules into tasks: left-out steps vanish, coats follow each other.
class TaskList {
 public:
  TaskList(const CoatSpec& spec, const Products& products, const WorkSize& size) : spec_(spec), products_(products), size_(size) {}

  std::vector<Task> build(const std::vector<StepRule>& rules) {
    for (const StepRule& rule : rules) {
      const auto [name, hands, wait, last_wait, count, caution] = amounts(rule);
      for (int k = 0; k < count; ++k) {
        Task task;
        task.step = {rule.id, count > 1 ? name + ", " + std::to_string(k + 1) + " of " + std::to_string(count) : name, caution, 0, hands, k + 1 < count ? wait : last_wait, false};
        task.meanwhile = rule.meanwhile;
        if (k > 0) task.after.push_back(static_cast<int>(tasks_.size()) - 1);
        tasks_.push_back(task);
        (k == 0 ? first_ : last_)[rule.id] = static_cast<int>(tasks_.size()) - 1;
        last_[rule.id] = static_cast<int>(tasks_.size()) - 1;
      }
    }
    for (const StepRule& rule : rules) {
      if (first_.count(rule.id) == 0) continue;
      for (const std::string& before : rule.after) link(rules, before, tasks_[first_[rule.id]].after);
    }
    return std::move(tasks_);
  }

 private:
  struct Amounts {
    std::string name;
    double hands, wait, last_wait;
    int count;
    std::string caution;
  };

  Amounts amounts(const StepRule& r) const {
    const bool used = (r.when != "fill" || spec_.fill_seams) && (r.when != "heat-seal" || (spec_.heat_seal && products_.foam.heat_seal));
    if (r.glue) return {r.name + ": " + products_.glue.name, 10.0 + products_.glue.hands_min_per_m * size_.seam_m + products_.glue.wait_min, 0, products_.glue.cure_min, 1, products_.glue.caution};
    if (!r.product.empty()) {
      const Coating& c = r.product == "seal" ? products_.seal : r.product == "paint" ? products_.paint : products_.clear;
      return {r.name + ": " + c.name, 5.0 + c.hands_min_per_m2 * size_.area_m2, c.wait_min, c.last_wait_min, c.coats, c.caution};
    }
    const double hands = r.base_min + r.per_piece * size_.pieces + r.per_m * size_.seam_m + r.per_m2 * size_.area_m2;
    return {r.name, hands, r.wait_min, r.wait_min, used ? r.repeat : 0, r.caution};
  }

  /// A step that is left out hands its own conditions on.
  void link(const std::vector<StepRule>& rules, const std::string& before, std::vector<int>& after) const {
    if (const auto it = last_.find(before); it != last_.end()) {
      if (std::find(after.begin(), after.end(), it->second) == after.end()) after.push_back(it->second);
      return;
    }
    for (const StepRule& rule : rules)
      if (rule.id == before)
        for (const std::string& earlier : rule.after) link(rules, earlier, after);
  }

  const CoatSpec& spec_;
  const Products& products_;
  const WorkSize& size_;
  std::vector<Task> tasks_;
  std::map<std::string, int> first_, last_;
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
class Bench {
 public:
  Bench(double opens_h, double hours) : opens_(opens_h * 60.0), open_min_(hours * 60.0) {}
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
void put_in_calendar(std::vector<Task>& tasks, const Bench& bench, Plan& plan) {
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
      if (start < best_start - 1e-9 || (std::abs(start - best_start) <= 1e-9 && tasks[i].chain_min > tasks[best].chain_min)) best = i, best_start = start;
    }
    if (best < 0) break;
    Task& task = tasks[best];
    task.step.start_min = best_start;
    task.step.fills_wait = task.meanwhile && std::any_of(plan.steps.begin(), plan.steps.end(), [&](const PlannedStep& s) { return s.done_min() <= best_start + 1e-9 && s.ready_min() > best_start + 1.0; });
    done[best] = 1;
    now = task.step.done_min();
    plan.steps.push_back(task.step);
    plan.hands_min += task.step.hands_min;
    plan.waiting_min += task.step.wait_min;
    plan.ready_min = std::max(plan.ready_min, task.step.ready_min());
  }
}

std::vector<Remark> judge(const CoatSpec& spec, const Products& p, const Plan& plan) {
  std::vector<Remark> remarks;
  const auto warn = [&](std::string id, std::string sentence, std::string remedy, std::string act) {
    remarks.push_back({std::move(id), Severity::warning, "coat", std::move(sentence), {}, {}, {{std::move(remedy), std::move(act)}}});
  };
  if (p.seal.coats == 0)
    warn("coat.unsealed", "Paint on raw foam flakes off where it bends: seal it first.", "Seal with rubber coat", "set-seal rubber");
  else if (std::find(p.seal.holds.begin(), p.seal.holds.end(), p.paint.kind) == p.seal.holds.end())
    warn("coat.paint-on-seal", p.paint.name + " does not stay on " + p.seal.name + ".", "Paint with acrylic", "set-paint acrylic");
  if (!spec.heat_seal && p.foam.heat_seal && p.seal.id != "rubber" && p.seal.coats > 0)
    warn("coat.no-heat-seal", p.foam.name + " drinks " + p.seal.name + " if its pores are open: heat-seal it before.", "Heat-seal first", "set-heat-seal on");
  if (std::find(p.glue.not_on.begin(), p.glue.not_on.end(), p.foam.id) != p.glue.not_on.end())
    warn("coat.glue", p.glue.name + " attacks " + p.foam.name + ".", "Take water-based contact cement", "set-glue contact-water");
  if (plan.spare_min < 0.0) {
    Remark late{"coat.late", Severity::stop, "coat", "Not ready by " + spec.due.spoken() + ": it misses the day by " + duration_text(-plan.spare_min) + ".", -plan.spare_min, 0.0, {}};
    if (spec.hours_a_day < 8.0) late.remedies.push_back({"Work 8 hours a day", "set-hours 8"});
    remarks.push_back(late);
  }
  return remarks;
}

Result<void> check(const CoatSpec& spec) {
  if (!(spec.hours_a_day >= 0.5 && spec.hours_a_day <= 16.0))
    return fail(Errc::out_of_range, fixed(spec.hours_a_day, 1) + " hours a day at the bench is outside 0.5 to 16.", "coat/hours");
  if (!(spec.opens_h >= 0.0 && spec.opens_h + spec.hours_a_day <= 24.0))
    return fail(Errc::out_of_range, "A bench that opens at " + fixed(spec.opens_h, 0) + " h for " + fixed(spec.hours_a_day, 1) + " hours runs past midnight.", "coat/hours");
  if (spec.due < spec.start) return fail(Errc::out_of_range, "The due day " + spec.due.iso() + " lies before the start on " + spec.start.iso() + ".", "coat/due");
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
    for (auto it = std::find(way.begin(), way.end(), way.back()); it != way.end(); ++it) text += (text.empty() ? "" : " after ") + *it;
    return fail(Errc::no_solution, "The order rules run in a circle: " + text + ".", "rules");
  }
  return {};
}

}  // namespace

Result<std::vector<StepRule>> load_step_rules(const std::filesystem::path& file) {
  const auto bytes = read_file(file);
  if (!bytes) return tl::make_unexpected(bytes.error());
  std::vector<StepRule> rules;
  try {
    const nlohmann::json all = nlohmann::json::parse(*bytes);
    for (const auto& j : all.at("steps"))
      rules.push_back({j.at("id"), j.at("name"), j.value("when", ""), j.value("product", ""), j.value("caution", ""), j.value("after", std::vector<std::string>()),
                       j.value("base_min", 0.0), j.value("per_piece", 0.0), j.value("per_m", 0.0), j.value("per_m2", 0.0), j.value("wait_min", 0.0), j.value("repeat", 1),
                       j.value("glue", false), j.value("meanwhile", false)});
  } catch (const nlohmann::json::exception& e) {
    return fail(Errc::bad_file, "The order rules in " + file.string() + " cannot be read: " + e.what() + ".");
  }
  if (auto good = check_order(rules); !good) return tl::make_unexpected(good.error());
  return rules;
}

Result<Plan> plan_finishing(const CoatSpec& spec, const std::string& foam, const WorkSize& size, const Materials& materials, const std::vector<StepRule>& rules) {
  if (auto good = check(spec); !good) return tl::make_unexpected(good.error());
  if (auto good = check_order(rules); !good) return tl::make_unexpected(good.error());
  const auto products = find_products(spec, foam, materials);
  if (!products) return tl::make_unexpected(products.error());
  std::vector<Task> tasks = TaskList(spec, *products, size).build(rules);
  measure_chains(tasks);
  Plan plan;
  put_in_calendar(tasks, Bench(spec.opens_h, spec.hours_a_day), plan);
  plan.ready_day = Day{spec.start.number + static_cast<int>(std::floor(plan.ready_min / kDayMin))};
  // It must lie ready in the morning of the due day, when the bench opens.
  plan.spare_min = (spec.due.number - spec.start.number) * kDayMin + spec.opens_h * 60.0 - plan.ready_min;
  plan.needs.push_back({products->glue.name, products->glue.ml_per_m * size.seam_m});
  for (const Coating* c : {&products->seal, &products->paint, &products->clear})
    if (c->coats > 0) plan.needs.push_back({c->name, c->coats * c->ml_per_m2 * size.area_m2});
  plan.remarks = judge(spec, *products, plan);
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
  if (days > 0) return std::to_string(days) + (days == 1 ? " day" : " days") + (hours > 0 ? " " + std::to_string(hours) + " h" : "");
  if (hours > 0) return std::to_string(hours) + " h" + (rest > 0 ? " " + std::to_string(rest) + " min" : "");
  return std::to_string(rest) + " min";
}

}  // namespace awl
