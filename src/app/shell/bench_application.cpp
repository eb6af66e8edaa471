#include "app/shell/bench_application.hpp"

#include <QElapsedTimer>
#include <algorithm>
#include <clocale>

#include "core/base/guard.hpp"

namespace awl {

BenchApplication::BenchApplication(int& argc, char** argv) : QApplication(argc, argv) {
  setWindowIcon(QIcon(QStringLiteral(":/icon/noggin-awl-256.png")));
  setDesktopFileName(QStringLiteral("org.noggin_awl.NogginAwl"));
  setOrganizationName(QStringLiteral("noggin-awl"));  // settings have a folder of their own
  setApplicationName(QStringLiteral("noggin-awl"));
  setStyle(QStringLiteral("Fusion"));
  // Qt takes the user's locale for the whole program; numbers in files and formulas are everybody's.
  std::setlocale(LC_NUMERIC, "C");
}

bool BenchApplication::notify(QObject* receiver, QEvent* event) {
  QElapsedTimer clock;
  clock.start();
  const QEvent::Type type = event->type();
  ++m_depth;
  const auto handled =
      guarded("doing what was asked", [&]() -> Result<bool> { return QApplication::notify(receiver, event); });
  if (--m_depth == 0)
    if (const double ms = 1e-6 * static_cast<double>(clock.nsecsElapsed()); ms > m_longestMs)
      m_longestMs = ms, m_longestWas = static_cast<int>(type);
  if (handled) return *handled;
  if (m_telling || !onFault) return false;
  m_telling = true;
  (void)guarded("telling of it", [&]() -> Result<void> {
    onFault(handled.error());
    return {};
  });
  m_telling = false;
  return false;
}

}  // namespace awl
