#pragma once
#include "core/chain/questions.hpp"
#include "support/bench_data.hpp"

namespace awl::test {

inline Build demo_of(const char* id) { return *demo_by_name(id, Day{20731}); }

/// Derived whole, and tried on.
inline Derived tried(const Build& build) {
  const Derived d = with_worn(*chain(), build, chain()->derive(build));
  if (d.error) UNSCOPED_INFO(d.error->text);
  REQUIRE_FALSE(d.error);
  return d;
}

}  // namespace awl::test
