#include "core/coat/step_rule.hpp"

#include <algorithm>
#include <functional>
#include <map>

#include "core/base/data_files.hpp"
#include "core/base/json_reader.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

StepRule rule_from(const JsonAt& j) {
  constexpr std::pair<const char*, StepAct> kActs[] = {{"", StepAct::other}, {"cut", StepAct::cut},
      {"heat-shape", StepAct::heat_shape}, {"heat-seal", StepAct::heat_seal}, {"glue", StepAct::glue},
      {"glue-in", StepAct::glue_in}, {"detail", StepAct::detail}, {"sand", StepAct::sand}, {"seal", StepAct::seal},
      {"paint", StepAct::paint}, {"clear", StepAct::clear}};
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
  r.stage = j.value("stage", r.id), r.turn = j.value("turn", ""), r.hands = j.value("hands", 1);
  r.may_pause = j.value("may_pause", false);
  return r;
}

}  // namespace

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

}  // namespace awl
