#pragma once
#include <QString>
#include <string>

namespace awl {

/// The core speaks UTF-8; the window and the pages QString.
inline QString qs(const std::string& text) { return QString::fromStdString(text); }

}  // namespace awl
