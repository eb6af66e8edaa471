#include "app/desk/recovery.hpp"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QUuid>

#include "core/base/data_files.hpp"
#include "core/io/build_file.hpp"

namespace awl {
namespace {

const QString kEnding = QStringLiteral(".noggin"), kLock = QStringLiteral(".lock"), kFrom = QStringLiteral(".from");

QString beside(const QString& file, const QString& ending) { return file.chopped(kEnding.size()) + ending; }

std::string local(const QString& path) { return path.toStdString(); }

void removeAll(const QString& file) {
  for (const QString& one : {file, file + QLatin1Char('~'), beside(file, kFrom), beside(file, kLock)})
    QFile::remove(one);
}

}  // namespace

QString Recovery::folder() {
  QString state = qEnvironmentVariable("XDG_STATE_HOME");
  if (state.isEmpty()) state = QDir::homePath() + QStringLiteral("/.local/state");
  return state + QStringLiteral("/noggin-awl/recovery");
}

Recovery::Recovery()
    : m_file(folder() + QLatin1Char('/') + QUuid::createUuid().toString(QUuid::WithoutBraces) + kEnding) {}

Recovery::~Recovery() {
  // A window that ends without a word (a crash of another part) leaves its work to be found; without work only the lock
  // goes.
  if (!QFile::exists(m_file)) QFile::remove(beside(m_file, kLock));
}

Result<void> Recovery::write(const Build& build, const QString& path) {
  if (auto made = make_folder(local(folder())); !made) return made;
  QFile::setPermissions(
      folder(), QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);  // measures of people are in it
  if (!m_lock) m_lock = FileLock::try_take(local(beside(m_file, kLock)), FileLock::Kind::alone);
  if (auto from = write_file_safely(local(beside(m_file, kFrom)), path.toStdString()); !from) return from;
  const auto bytes = build_bytes(build);
  if (!bytes) return fail(bytes);
  return write_file_safely(local(m_file), *bytes);
}

void Recovery::drop() {
  removeAll(m_file);  // before the lock goes: nobody may take it for lost work in between
  m_lock.reset();
}

std::vector<Recovery::Left> Recovery::left() {
  std::vector<Left> found;
  const QDir there(folder());
  for (const QFileInfo& info : there.entryInfoList({QLatin1Char('*') + kEnding}, QDir::Files, QDir::Time)) {
    const QString file = info.absoluteFilePath();
    auto lock = FileLock::try_take(local(beside(file, kLock)), FileLock::Kind::alone);
    if (!lock) continue;  // its window lives
    const auto from = read_file(local(beside(file, kFrom)));
    found.push_back({file, from ? QString::fromStdString(*from) : QString(), info.lastModified(), std::move(*lock)});
  }
  // What earlier versions left: one file for all windows.
  const QFileInfo old(QFileInfo(folder()).absolutePath() + QStringLiteral("/recovery.noggin"));
  if (old.exists())
    if (auto lock = FileLock::try_take(local(beside(old.absoluteFilePath(), kLock)), FileLock::Kind::alone))
      found.push_back({old.absoluteFilePath(), {}, old.lastModified(), std::move(*lock)});
  return found;
}

Result<Build> Recovery::Left::read() const { return open_build(local(file)); }
void Recovery::Left::throwAway() const { removeAll(file); }

QString Recovery::Left::setAside() const {
  QString aside = file + QStringLiteral(".damaged");
  for (int n = 2; QFile::exists(aside); ++n) aside = file + QStringLiteral(".damaged-%1").arg(n);
  QFile::rename(file, aside);
  QFile::remove(beside(file, kFrom));
  QFile::remove(beside(file, kLock));
  return aside;
}

}  // namespace awl
