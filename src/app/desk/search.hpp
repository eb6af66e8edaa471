#pragma once
#include <QFutureWatcher>
#include <QProgressBar>
#include <QPromise>
#include <QPushButton>
#include <QtConcurrentRun>
#include <functional>
#include <optional>

#include "core/base/give_way.hpp"
#include "core/base/guard.hpp"
#include "core/base/progress.hpp"
#include "core/base/result.hpp"

namespace awl {

/// Work off the interface thread that a maker waits for, with its progress bar and the button that stops it.
///
/// Ownership: bar and button belong to their window, and may serve several searches of which one runs at a time.
template <class T>
class Search {
 public:
  using Work = std::function<Result<T>(const Progress&)>;
  using Found = std::function<void(Result<T>)>;

  /// `found` is called on the interface thread, also with Errc::cancelled. No bar: it runs unseen.
  Search(QObject* owner, Found found, QProgressBar* bar = nullptr, QPushButton* stop_button = nullptr)
      : m_bar(bar), m_stop(stop_button) {
    QObject::connect(&m_watcher, &QFutureWatcher<Result<T>>::finished, owner, [this, found = std::move(found)] {
      if (m_bar != nullptr) m_bar->hide();
      if (m_stop != nullptr) m_stop->setEnabled(false);
      const bool none = m_watcher.isCanceled() || m_watcher.future().resultCount() == 0;
      found(none ? Result<T>(fail(Error{Errc::cancelled, "Stopped; nothing was changed.", {}})) : m_watcher.result());
    });
    if (m_bar != nullptr)
      QObject::connect(&m_watcher, &QFutureWatcher<Result<T>>::progressValueChanged, m_bar, &QProgressBar::setValue);
    if (m_stop != nullptr) QObject::connect(m_stop, &QPushButton::clicked, owner, [this] { stop(); });
  }
  ~Search() {
    stop();
    m_watcher.waitForFinished();
  }
  Search(const Search&) = delete;
  Search& operator=(const Search&) = delete;

  bool isRunning() const { return m_watcher.isRunning(); }
  void stop() { m_watcher.cancel(); }
  void begin(Work work) {
    if (m_bar != nullptr) m_bar->setValue(0), m_bar->show();
    if (m_stop != nullptr) m_stop->setEnabled(true);
    m_watcher.setFuture(QtConcurrent::run([work = std::move(work)](QPromise<Result<T>>& promise) {
      give_way();
      promise.setProgressRange(0, 100);
      promise.addResult(guarded("working beside the window", [&] {
        return work(Progress([&](double done) {
          promise.setProgressValue(static_cast<int>(100.0 * done));
          return !promise.isCanceled();
        }));
      }));
    }));
  }

 private:
  QFutureWatcher<Result<T>> m_watcher;
  QProgressBar* m_bar;
  QPushButton* m_stop;
};

}  // namespace awl
