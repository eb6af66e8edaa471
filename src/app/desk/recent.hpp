#pragma once
#include <QStringList>

namespace awl {

/// Builds opened or saved of late, the last first; kept between sessions. Files that are gone stay until they are
/// asked for, so that a drive that is not in is not forgotten.
class Recent {
 public:
  static constexpr int kMost = 12;
  static QStringList list();
  static void add(const QString& path);
  static void remove(const QString& path);
};

}  // namespace awl
