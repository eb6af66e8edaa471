#pragma once
#include "app/shell/bench_application.hpp"
#include "app/shell/main_window.hpp"

namespace awl {

/// Drags a grip and a marker over the showpiece as a hand would, and prints the longest either kept the window from
/// answering: "drag_grip_worst_ms", "drag_marker_worst_ms".
void benchDrags(BenchApplication& app, MainWindow& window);

}  // namespace awl
