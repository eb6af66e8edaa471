#pragma once
#include <QFutureWatcher>
#include <QObject>
#include <QString>
#include <QTimer>
#include <QUndoStack>
#include <functional>
#include <memory>

#include "app/desk/recovery.hpp"
#include "core/chain/questions.hpp"

namespace awl {

/// The open build and the one door through which it changes.
class Document : public QObject {
  Q_OBJECT

 public:
  using Change = std::function<Result<Build>(const Build&)>;

  Document(std::shared_ptr<const Chain> chain, Build build, QObject* parent = nullptr);
  ~Document() override;

  const Build& build() const { return *m_now; }
  QUndoStack& undoStack() { return m_undo; }
  QString path() const { return m_path; }
  bool isSaved() const { return m_undo.isClean() && !m_path.isEmpty(); }
  bool hasUnsavedWork() const { return !m_undo.isClean(); }

  /// How long a change may keep the window waiting to be looked at; what is not known by then is let pass, and the
  /// derivation says. None: as long as it takes.
  Patience patience() const { return m_patience; }
  void setPatience(Patience patience) { m_patience = patience; }

  /// A labelled, pure change from build to build. Refused changes leave everything as it was and emit refused().
  /// Changes with the same non-empty gesture merge into one undo step.
  bool change(const QString& label, const Change& change, const QString& gesture = {});
  /// The same for a change that is never refused by itself: whatever it makes of the build is then looked at.
  bool edit(const QString& label, const std::function<void(Build&)>& edit, const QString& gesture = {});

  /// The same for one part, whose form must come out: a shape that cannot be is refused before it is in the build.
  bool changePart(
      int part, const QString& label, const std::function<Result<Part>(Part)>& edit, const QString& gesture = {});

  /// The part being worked on; 0 if the build has none. Not part of the build, so not undone.
  int partAtHand() const;
  void takeInHand(int part);

  /// Puts another build in place; the undo history starts anew, and its recovery copy goes.
  void replace(Build build, const QString& path);
  /// Puts work in place that a window left behind: it belongs to `path`, or to no file, and is not saved.
  void recover(Build build, const QString& path);
  /// A PNG of the build as it looks now, kept in its file for lists of files; empty if there is none.
  std::function<std::string()> picture;
  /// Written beside the window, which goes on painting meanwhile on a slow disk; what is typed and clicked waits.
  /// Errors: changed_elsewhere if the file it was opened from is not as it was then, unless `over` allows it; locked
  /// while a file is being written or read already; those of save_build.
  Result<void> save(const QString& path, bool over = false);
  /// Read in the same way. Errors: locked; those of open_build.
  Result<void> open(const QString& path);
  /// Whether a file is being written or read: the window may not be closed now.
  bool isAtFile() const { return m_isAtFile; }

  /// Unsaved work is written every 20 s of change, and offered at the next start: here and now, true if it is safe; or
  /// beside the window, which does not wait for it.
  bool writeRecovery();
  void autosave();
  void dropRecovery();
  QString recoveryFile() const { return m_recovery.file(); }

 signals:
  void changed();
  void partTaken(int part);
  void savedStateChanged();
  void refused(const QString& sentence, const QString& where);

 private:
  friend class SwapBuilds;
  void show(std::shared_ptr<const Build> build);
  bool apply(const QString& label, const Change& change, const QString& gesture, Patience patience);

  std::shared_ptr<const Chain> m_chain;
  Patience m_patience = std::chrono::milliseconds(15);
  std::shared_ptr<const Build> m_now;
  QUndoStack m_undo;
  QString m_path;
  std::string m_mark;  ///< of the file as it was when it was opened or saved
  int m_part = 0;
  template <class T>
  Result<T> beside(std::function<Result<T>()> work);
  void takeAutosaved();

  QTimer m_autosave;
  Recovery m_recovery;  ///< used by one at a time: m_autosaving is waited for first
  std::shared_ptr<const Build> m_written;
  QFutureWatcher<Result<void>> m_autosaving;
  bool m_isAtFile = false;
};

}  // namespace awl
