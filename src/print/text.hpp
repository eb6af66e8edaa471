#pragma once
#include <QLocale>
#include <QString>
#include <string>

namespace awl {

/// What the core says, in the language of the program: it speaks English in UTF-8. Names a maker gave stay what they
/// are.
QString qs(const std::string& text);
/// How days and months are called in the language of the program.
QLocale spokenLocale();
/// A text of a printed page, in the language of the program.
QString printed(const char* text);

}  // namespace awl
