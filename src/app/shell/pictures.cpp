#include "app/shell/pictures.hpp"

#include <QAction>
#include <QApplication>
#include <QDateEdit>
#include <QDir>
#include <QTemporaryDir>

#include "app/shell/gallery.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

/// Takes them in the window as it stands.
class InWindow : public Photographer {
 public:
  explicit InWindow(MainWindow& window) : m_window(window) {}

  void open(const char* demo) override { lay(*demo_by_name(demo, m_window.document().build().coat.start)); }
  void alter(const std::function<void(Build&)>& edit) override {
    m_window.document().edit(QStringLiteral("for a picture"), [&](Build& next) { edit(next); });
    settle();
  }
  void takeInHand(int part) override { m_window.document().takeInHand(part), settle(); }
  void waitWhile(const std::function<bool()>& busy) override {
    while (busy()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
    settle();
  }
  void look(float turn, float tilt) override { m_window.stand().look(turn, tilt); }
  const Derived& derived() const override { return m_window.deriver().latest(); }
  QWidget* control(const char* name) override {
    auto* found = m_window.findChild<QWidget*>(QLatin1String(name));
    expects(found != nullptr, "no such control");
    return found;
  }
  void trigger(const char* action) override {
    m_window.findChild<QAction*>(QLatin1String(action))->trigger();
    settle();
  }

  /// Another build, and what follows of it, all of it in view.
  void lay(const Build& build) {
    m_window.document().replace(build, {});
    settle();
    m_window.stand().frameAll();
  }
  /// Lets events run until the chain has finished and what is worn was tried on.
  void settle() {
    while (m_window.deriver().isBusy() || m_window.deriver().isFitting())
      QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
    QApplication::processEvents();
  }

 private:
  MainWindow& m_window;
};

void takeShot(MainWindow& window, InWindow& by, const Shot& shot, const QString& folder) {
  QWidget* alone = shot.pose(by);
  for (int i = 0; i < 3; ++i) QApplication::processEvents();
  window.stand().finishedPicture();
  (alone != nullptr ? *alone : static_cast<QWidget&>(window))
      .grab()
      .save(folder + QLatin1Char('/') + shot.name + QStringLiteral(".png"));
  if (alone != nullptr) alone->close();
  shot.after();
}

void takeGallery(MainWindow& window, const QString& folder) {
  Gallery gallery(&window, window.document().build().coat.start);
  gallery.show();
  while (!gallery.isFinished()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
  QApplication::processEvents();
  gallery.grab().save(folder + QStringLiteral("/gallery.png"));
}

/// The start page with builds of late on it, and the help.
void takeFirstPictures(MainWindow& window, const QString& folder) {
  const QTemporaryDir saved;
  InWindow by(window);
  window.showStation(QStringLiteral("form"));
  for (const char* demo : {"heron-warden", "ferry-keeper", "otter-pup", "lamp-post", "thicket-ram"}) {
    const Build build = *demo_by_name(demo, window.document().build().coat.start);
    by.lay(build);
    window.stand().finishedPicture();
    window.saveTo(saved.filePath(QString::fromStdString(build.name)));
  }
  window.showStart(true);
  // The same on whatever day it is taken: what is due is due after the demos' day.
  if (auto* due = window.findChild<QDateEdit*>(QStringLiteral("start-due")))
    due->setDate(kEpoch.addDays(window.document().build().coat.due.number));
  QApplication::processEvents();
  window.grab().save(folder + QStringLiteral("/start.png"));
  window.showHelp(QStringLiteral("station-foam"));
  QApplication::processEvents();
  window.help()->grab().save(folder + QStringLiteral("/help.png"));
  window.help()->hide();
}

}  // namespace

void takePictures(MainWindow& window, const QString& folder) {
  QDir().mkpath(folder);
  QApplication::setCursorFlashTime(0);  // or the same window gives two pictures
  InWindow by(window);
  by.settle();
  const Build first = window.document().build();
  for (Station* station : window.stations())
    for (const Shot& shot : station->shots()) {
      by.lay(first);
      window.stand().look(0.45f, 0.12f);
      window.showStation(station->id());
      takeShot(window, by, shot, folder);
    }
  by.lay(first);
  takeGallery(window, folder);
  takeFirstPictures(window, folder);
}

}  // namespace awl
