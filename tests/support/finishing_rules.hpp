#pragma once
#include <catch2/catch.hpp>

#include "core/base/data_files.hpp"
#include "core/coat/step_rule.hpp"

namespace awl::test {

/// The shipped order rules, loaded once for a test program.
inline const std::vector<StepRule>& finishing_rules() {
  static const auto loaded = load_step_rules(data_folder() / "rules" / "finishing.json");
  REQUIRE(loaded);
  return *loaded;
}

}  // namespace awl::test
