#pragma once

namespace awl {
class Chain;
}

namespace awl::bench {

/// What trying demos on takes, and its parts.
void worn_jobs(const Chain& chain);

}  // namespace awl::bench
