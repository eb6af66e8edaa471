#include <QDir>
#include <QStandardPaths>

#include "app/shell/bench_application.hpp"
#include "app/widgets/theme.hpp"
#include "print/fonts.hpp"
#include "support/catch_runner.hpp"

// Test discovery runs this binary while building, where there is no screen.
int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM") && !qEnvironmentVariableIsSet("DISPLAY"))
    qputenv("QT_QPA_PLATFORM", "offscreen");
  const QString state =
      QDir::tempPath() + QStringLiteral("/noggin-awl-test-state-%1").arg(QCoreApplication::applicationPid());
  qputenv("XDG_STATE_HOME", state.toLocal8Bit());
  qputenv("XDG_DATA_HOME", state.toLocal8Bit());
  qputenv("HOME", state.toLocal8Bit());  // settings: tests that run side by side have each their own
  int qt_argc = 1;
  awl::BenchApplication app(qt_argc, argv);
  QStandardPaths::setTestModeEnabled(true);
  awl::loadShippedFonts();
  awl::applyTheme(false, 100);
  const int failed = awl::test::run_tests(argc, argv);
  QDir(state).removeRecursively();
  return failed;
}
