#pragma once
#include "core/judge/case.hpp"

namespace awl {

/// All that is to be said of a build as far as it was derived, most serious first.
std::vector<Remark> judge(const Build& build, const Derived& derived, const Materials& materials);

}  // namespace awl
