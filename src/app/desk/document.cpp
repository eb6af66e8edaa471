#include "app/desk/document.hpp"

#include <QEventLoop>
#include <QFileInfo>
#include <QFutureWatcher>
#include <QScopedValueRollback>
#include <QUndoCommand>
#include <QtConcurrentRun>

#include "core/base/data_files.hpp"
#include "core/base/guard.hpp"
#include "core/io/build_file.hpp"
#include "core/chain/questions.hpp"
#include "print/text.hpp"

namespace awl {

/// Undo step that swaps two whole values; steps of one gesture merge.
class SwapBuilds : public QUndoCommand {
 public:
  SwapBuilds(Document& document, const QString& label, std::shared_ptr<const Build> next, QString gesture)
      : QUndoCommand(label), m_document(document), m_before(document.m_now), m_after(std::move(next)),
        m_gesture(std::move(gesture)) {}

  int id() const override { return m_gesture.isEmpty() ? -1 : 1; }
  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = dynamic_cast<const SwapBuilds*>(other);
    if (next == nullptr || next->m_gesture != m_gesture) return false;
    m_after = next->m_after;
    setObsolete(*m_after == *m_before);
    return true;
  }
  void undo() override { m_document.show(m_before); }
  void redo() override { m_document.show(m_after); }

 private:
  Document& m_document;
  std::shared_ptr<const Build> m_before, m_after;
  QString m_gesture;
};

Document::Document(std::shared_ptr<const Chain> chain, Build build, QObject* parent)
    : QObject(parent), m_chain(std::move(chain)), m_now(std::make_shared<const Build>(std::move(build))) {
  m_autosave.setInterval(20'000);
  m_autosave.setSingleShot(true);
  connect(&m_autosave, &QTimer::timeout, this, &Document::autosave);
  connect(&m_autosaving, &QFutureWatcher<Result<void>>::finished, this, &Document::takeAutosaved);
  // Some hours of work; what is further back is kept as versions. Without a limit it would only ever grow.
  constexpr int kMostUndone = 2000;
  m_undo.setUndoLimit(kMostUndone);
  connect(&m_undo, &QUndoStack::cleanChanged, this, &Document::savedStateChanged);
}

Document::~Document() { m_autosaving.waitForFinished(); }

bool Document::change(const QString& label, const Change& change, const QString& gesture) {
  return apply(label, change, gesture, gesture.isEmpty() || !m_patience ? m_patience : std::chrono::milliseconds(0));
}

bool Document::apply(const QString& label, const Change& change, const QString& gesture, Patience patience) {
  auto next = change(*m_now);
  const auto refuse = [&](const Error& error) {
    emit refused(qs(error.text), QString::fromStdString(error.where));
    return false;
  };
  if (!next) return refuse(next.error());
  if (*next == *m_now) return true;
  if (auto good = check(*m_chain, *next, patience); !good) return refuse(good.error());
  m_undo.push(new SwapBuilds(*this, label, std::make_shared<const Build>(std::move(*next)), gesture));
  return true;
}

bool Document::edit(const QString& label, const std::function<void(Build&)>& edit, const QString& gesture) {
  return change(
      label,
      [&](const Build& b) -> Result<Build> {
        Build next = b;
        edit(next);
        return next;
      },
      gesture);
}

bool Document::changePart(
    int id, const QString& label, const std::function<Result<Part>(Part)>& edit, const QString& gesture) {
  // The part is tried here, within the hand's patience: what can be looked at without waiting is looked at after that.
  return apply(
      label,
      [&](const Build& b) -> Result<Build> {
        const Part* now = find_part(b, id);
        if (now == nullptr) return fail(Errc::unknown_name, "There is no part to change; add one at Form.");
        auto changed = edit(*now);
        if (!changed) return fail(changed);
        Build next = b;
        *find_part(next, id) = std::move(*changed);
        if (auto good = try_part(*m_chain, next, id, m_patience); !good && good.error().code != Errc::cancelled)
          return fail(good);
        return next;
      },
      gesture, m_patience ? std::chrono::milliseconds(0) : m_patience);
}

void Document::show(std::shared_ptr<const Build> build) {
  m_now = std::move(build);
  if (!m_autosave.isActive()) m_autosave.start();
  emit changed();
}

int Document::partAtHand() const {
  if (find_part(*m_now, m_part) != nullptr) return m_part;
  return m_now->parts.empty() ? 0 : m_now->parts.front().id;
}

void Document::takeInHand(int part) {
  if (part == m_part) return;
  m_part = part;
  emit partTaken(part);
}

void Document::replace(Build build, const QString& path) {
  m_undo.clear();
  m_undo.setClean();
  m_path = path;
  m_mark = file_mark(path.toStdString());
  dropRecovery();
  m_now = std::make_shared<const Build>(std::move(build));
  emit changed();
  emit savedStateChanged();
}

void Document::recover(Build build, const QString& path) {
  replace(std::move(build), path);
  m_undo.resetClean();
  writeRecovery();
  emit savedStateChanged();
}

Result<void> Document::save(const QString& path, bool over) {
  if (!over && path == m_path && !m_mark.empty() && file_mark(path.toStdString()) != m_mark)
    return fail(Errc::changed_elsewhere,
        QFileInfo(path).fileName().toStdString() +
            " was changed by another window or program since it was opened here.",
        path.toStdString());
  const auto saved_build = m_now;
  const std::string file = path.toStdString(), shown = picture ? picture() : std::string();
  auto saved = beside<void>(
      [&, saved_build] { return guarded("saving the file", [&] { return save_build(file, *saved_build, shown); }); });
  if (!saved) return saved;
  m_path = path;
  m_mark = file_mark(file);
  if (m_now == saved_build) m_undo.setClean(), dropRecovery();
  emit savedStateChanged();
  return {};
}

/// Work on a file in a thread of its own; the window goes on painting meanwhile, what is typed and clicked waits.
template <class T>
Result<T> Document::beside(std::function<Result<T>()> work) {
  if (m_isAtFile) return fail(Errc::locked, "A file is being written or read already; wait for it.");
  const QScopedValueRollback atFile(m_isAtFile, true);
  QEventLoop waiting;
  QFutureWatcher<Result<T>> working;
  QObject::connect(&working, &QFutureWatcher<Result<T>>::finished, &waiting, &QEventLoop::quit);
  working.setFuture(QtConcurrent::run(std::move(work)));
  waiting.exec(QEventLoop::ExcludeUserInputEvents);
  return working.result();
}

Result<void> Document::open(const QString& path) {
  auto build = beside<Build>(
      [file = path.toStdString()] { return guarded("opening the file", [&] { return open_build(file); }); });
  if (!build) return fail(build);
  replace(std::move(*build), path);
  return {};
}

void Document::autosave() {
  if (m_undo.isClean() || m_autosaving.isRunning()) return;
  m_written = m_now;
  m_autosaving.setFuture(QtConcurrent::run([this, build = m_now, path = m_path] {
    return guarded("keeping a copy", [&] { return m_recovery.write(*build, path); });
  }));
}

void Document::takeAutosaved() {
  const auto saved = m_autosaving.result();
  if (!saved) emit refused(qs(saved.error().text), QStringLiteral("recovery copy"));
  if (m_now != m_written && !m_undo.isClean()) m_autosave.start();
  m_written.reset();
}

bool Document::writeRecovery() {
  if (m_undo.isClean()) return true;
  m_autosaving.waitForFinished();
  const auto saved = m_recovery.write(*m_now, m_path);
  if (!saved) emit refused(qs(saved.error().text), QStringLiteral("recovery copy"));
  return saved.has_value();
}

void Document::dropRecovery() {
  m_autosaving.waitForFinished();
  m_autosave.stop();
  m_recovery.drop();
}

}  // namespace awl
