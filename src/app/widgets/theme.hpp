#pragma once

namespace awl {

/// Workshop at daylight, or the same bench in the evening; `points` is the base size of the type (11 or 14).
void applyTheme(bool dark, int points);

}  // namespace awl
