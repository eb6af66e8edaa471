#pragma once

namespace awl {

/// Makes the shipped fonts known to Qt and the default; call once after the application object exists.
void loadShippedFonts();

}  // namespace awl
