#pragma once
#include "core/chain/chain.hpp"

namespace awl::bench {

/// What dressing the demos takes, all details anew and one of them.
void dress_jobs(const Chain& chain);

}  // namespace awl::bench
