#pragma once

namespace awl::bench {

/// Ten generated jobs of 40 to 90 copies with bays and tips, laid out as the first bitmap nester did (2 mm cells, four
/// turns, bottom-left, by size) and by search; prints density of the used length, ratio and time of each.
void nest_jobs();

}  // namespace awl::bench
