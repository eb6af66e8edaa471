#pragma once
#include <filesystem>
#include <string>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

/// What a step does that some material may not bear: it is then planned for those that do, and for each in its own way.
enum class StepAct { other, cut, heat_shape, heat_seal, glue, glue_in, detail, sand, seal, paint, clear };

/// One rule step of data/rules/finishing.json.
struct StepRule {
  std::string id, name, when, caution;
  std::string stage;  ///< under which its hours are logged
  StepAct act = StepAct::other;
  std::string turn;  ///< of act detail: which details
  std::vector<std::string> after;
  double base_min = 0.0, per_piece = 0.0, per_m = 0.0, per_m2 = 0.0, wait_min = 0.0;
  int repeat = 1;
  int hands = 1;
  bool meanwhile = false, may_pause = false;
};

/// Errors: cannot_read; bad_file; no_solution when the rules run in a circle (the circle is named).
Result<std::vector<StepRule>> load_step_rules(const std::filesystem::path& file);
Result<void> check_order(const std::vector<StepRule>& rules);

}  // namespace awl
