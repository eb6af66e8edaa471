#pragma once
#include "app/shell/main_window.hpp"

namespace awl {

/// One picture of each main view of the demo into a folder, for the documentation and for looking at.
void takePictures(MainWindow& window, const QString& folder);

}  // namespace awl
