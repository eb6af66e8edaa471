#include "print/fonts.hpp"

#include <QFont>
#include <QFontDatabase>
#include <QGuiApplication>

static void initResources() { Q_INIT_RESOURCE(noggin); }

namespace awl {

void loadShippedFonts() {
  initResources();
  for (const char* file : {":/fonts/Inter-Regular.otf", ":/fonts/Inter-SemiBold.otf", ":/fonts/Inter-Bold.otf",
           ":/fonts/JetBrainsMono-Regular.ttf"})
    QFontDatabase::addApplicationFont(file);
  QGuiApplication::setFont(QFont(QStringLiteral("Inter"), 11));
}

}  // namespace awl
