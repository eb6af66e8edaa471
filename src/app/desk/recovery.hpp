#pragma once
#include <QDateTime>
#include <QString>
#include <optional>
#include <vector>

#include "core/base/file_lock.hpp"
#include "core/builds/build.hpp"

namespace awl {

/// One window's copy of its unsaved work, in a file of its own in the XDG state folder.
///
/// A lock beside it is held while the window lives, so that no other takes a living window's work for lost. Beside it
/// stands, too, which file the work belongs to.
class Recovery {
 public:
  Recovery();
  ~Recovery();
  Recovery(const Recovery&) = delete;
  Recovery& operator=(const Recovery&) = delete;

  /// Writes the build and the path of its file (empty without one). Errors: cannot_write.
  Result<void> write(const Build& build, const QString& path);
  /// The work is safe elsewhere, or thrown away on purpose.
  void drop();
  QString file() const { return m_file; }

  /// Work of a window that is gone. Nobody else is offered it while this is held.
  struct Left {
    QString file, path;  ///< the copy, and the file its work belongs to
    QDateTime written;
    FileLock lock;
    /// Errors: those of open_build.
    Result<Build> read() const;
    /// Gone for good.
    void throwAway() const;
    /// Kept under another name, so that it is not offered again. The new name.
    QString setAside() const;
  };
  /// The newest first.
  static std::vector<Left> left();
  static QString folder();

 private:
  QString m_file;
  std::optional<FileLock> m_lock;
};

}  // namespace awl
