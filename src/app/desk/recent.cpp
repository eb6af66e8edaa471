#include "app/desk/recent.hpp"

#include <QFileInfo>
#include <QSettings>

namespace awl {
namespace {

const QString kRecentKey = QStringLiteral("recent/builds");

}  // namespace

QStringList Recent::list() { return QSettings().value(kRecentKey).toStringList(); }

void Recent::add(const QString& path) {
  const QString whole = QFileInfo(path).absoluteFilePath();
  QStringList all = list();
  all.removeAll(whole);
  all.prepend(whole);
  while (all.size() > kMost) all.removeLast();
  QSettings().setValue(kRecentKey, all);
}

void Recent::remove(const QString& path) {
  QStringList all = list();
  all.removeAll(path);
  QSettings().setValue(kRecentKey, all);
}

}  // namespace awl
