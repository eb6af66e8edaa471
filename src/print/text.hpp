#pragma once
#include <QString>
#include <string>

namespace awl {

/// What the core says, in the language of the program: it speaks English in UTF-8. Names a maker gave stay what they
/// are.
QString qs(const std::string& text);

}  // namespace awl
