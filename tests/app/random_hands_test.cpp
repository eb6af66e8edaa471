// Hands that do anything at all at the window: hours of use in minutes. NOGGIN_AWL_HARD=1 makes it long: ./run hard.
#include <QAbstractItemView>
#include <QAbstractSpinBox>
#include <QClipboard>
#include <QDropEvent>
#include <QHelpEvent>
#include <QMenu>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QSlider>
#include <QTimer>
#include <QWheelEvent>

#include "app/shell/bench_application.hpp"
#include "core/base/data_files.hpp"
#include "core/base/random.hpp"
#include "support/bench_window.hpp"
#include "support/differing.hpp"
#include "support/effort.hpp"
#include "support/memory.hpp"

using namespace awl;
using awl::test::held_mb;

namespace {

QStringList grumbles;  // what Qt itself complained of

void listen(QtMsgType type, const QMessageLogContext&, const QString& words) {
  // The offscreen platform says these of itself.
  for (const char* known : {"This plugin does not support", "XDG_RUNTIME_DIR"})
    if (words.contains(QLatin1String(known))) return;
  if (type != QtDebugMsg && type != QtInfoMsg) grumbles << words;
}

class Hands {
 public:
  Hands(std::uint64_t seed, test::Bench& bench, const test::TempFolder& folder)
      : m_random(seed), m_window(bench.window) {
    m_window.asking.path = [this, &folder](bool save, const QString&, const QString& suggested, const QString&) {
      if (m_random.below(3) == 0) return QString();
      const QString ending = suggested.section(QLatin1Char('.'), -1);
      const QString path = QString::fromStdString((folder / "kept").string()) + QLatin1Char('.') + ending;
      return save || QFile::exists(path) ? path : QString();
    };
    m_window.asking.folder = [&folder](const QString&) { return QString::fromStdString((folder / "").string()); };
    for (const char* ending : {"noggin", "csv", "obj", "stl", "png", "txt", "toml", "missing"})
      m_files << QString::fromStdString((folder / "kept").string()) + QLatin1Char('.') + QLatin1String(ending);
    REQUIRE(write_file_safely(folder / "kept.txt", "reed & moss\n"));
    m_window.askUnsaved = [this] { return 1 + m_random.below(2); };
    m_window.askOver = [this](const QString&) { return m_random.below(3); };
    m_window.askRecovered = [this](const QString&) { return m_random.below(3); };
    // Whatever opens in front is answered or put away, also from within what waits for it.
    watchFront();
  }
  /// The window stays: it asks nobody who is gone.
  ~Hands() {
    m_window.asking.path = [](bool, const QString&, const QString&, const QString&) { return QString(); };
    m_window.asking.folder = [](const QString&) { return QString(); };
    m_window.askUnsaved = [] { return 1; };
    m_window.askOver = m_window.askRecovered = [](const QString&) { return 0; };
  }

  void act() {
    if (m_window.isAtStart() && m_random.below(4) == 0) m_window.showStation(QStringLiteral("tape"));
    switch (m_random.below(18)) {
      case 0:
        return travel();
      case 1:
        return openDrawer();
      case 2:
        return undoOrRedo();
      case 3:
      case 4:
        return drag(m_random.below(3) == 0 ? static_cast<QWidget*>(&m_window.mat()) : &m_window.stand());
      case 5:
        return chooseAct();
      case 6:
        return pressKey();
      case 7:
        return turnWheel();
      case 8:
        return point();
      case 9:
        return resize();
      case 10:
        return m_random.below(2) == 0 ? paste() : drop();
      default:
        return useSomething();
    }
  }
  const QString& last() const { return m_last; }

 private:
  template <class T>
  T* any(const QList<T*>& all) {
    return all.isEmpty() ? nullptr : all[m_random.below(static_cast<std::size_t>(all.size()))];
  }
  template <class T>
  QList<T*> usable(QWidget* in) {
    QList<T*> all;
    for (T* one : in->findChildren<T*>())
      if (one->isVisible() && one->isEnabled()) all << one;
    return all;
  }
  void note(const char* what, const QObject* on) {
    m_last = QLatin1String(what) + QLatin1Char(' ') +
        (on != nullptr ? QLatin1String(on->metaObject()->className()) + QLatin1Char(' ') + on->objectName()
                       : QString());
  }

  void travel() {
    const QStringList all{"tape", "head", "form", "seams", "foam", "fit", "dress", "coat", "book"};
    m_last = QStringLiteral("station ") + all[m_random.below(static_cast<std::size_t>(all.size()))];
    m_window.showStation(m_last.section(QLatin1Char(' '), 1));
  }
  void openDrawer() { m_window.stepDrawer(m_random.below(2) == 0 ? 1 : -1), m_last = QStringLiteral("drawer"); }
  void undoOrRedo() {
    QUndoStack& stack = m_window.document().undoStack();
    m_last = QStringLiteral("undo or redo");
    for (int k = m_random.below(4); k >= 0; --k) m_random.below(3) == 0 ? stack.redo() : stack.undo();
  }

  void drag(QWidget* on) {
    note("drag", on);
    if (!on->isVisible()) return;
    const auto somewhere = [&] {
      return QPoint(m_random.below(static_cast<std::size_t>(std::max(1, on->width()))),
          m_random.below(static_cast<std::size_t>(std::max(1, on->height()))));
    };
    const Qt::MouseButton button = m_random.below(4) == 0 ? Qt::RightButton : Qt::LeftButton;
    const Qt::KeyboardModifiers with = m_random.below(5) == 0 ? Qt::ShiftModifier : Qt::NoModifier;
    QPoint at = somewhere();
    QTest::mousePress(on, button, with, at);
    for (int k = m_random.below(4); k > 0; --k) QTest::mouseMove(on, at = somewhere());
    QTest::mouseRelease(on, button, with, at);
    if (m_random.below(4) == 0) QTest::mouseDClick(on, Qt::LeftButton, with, somewhere());
  }

  /// The wheel over anything: most of it scrolls, a field that has no keys must keep what it says.
  void turnWheel() {
    QWidget* on = m_random.below(2) == 0 ? any(usable<QWidget>(&m_window.station())) : &m_window.stand();
    if (m_random.below(4) == 0) on = &m_window.mat();
    note("wheel", on);
    if (on == nullptr || !on->isVisible()) return;
    const QPointF at(on->rect().center());
    const auto with = m_random.below(4) == 0 ? Qt::ControlModifier : Qt::NoModifier;
    const QPointer<QWidget> still(on);
    for (int k = m_random.below(6); k >= 0 && still; --k) {
      const QPoint by(0, m_random.below(2) == 0 ? 120 : -120);
      QWheelEvent event(at, on->mapToGlobal(at), {}, by, Qt::NoButton, with, Qt::NoScrollPhase, false);
      QApplication::sendEvent(on, &event);
    }
  }

  /// Pointed at, asked for its tip, or for a menu of its own.
  void point() {
    QWidget* on = any(usable<QWidget>(&m_window));
    note("point at", on);
    if (on == nullptr) return;
    const QPoint at = on->rect().center();
    const QPointer<QWidget> still(on);
    QTest::mouseMove(on, at);
    if (!still) return;
    if (m_random.below(2) == 0) {
      QHelpEvent tip(QEvent::ToolTip, at, on->mapToGlobal(at));
      QApplication::sendEvent(on, &tip);
    } else {
      QContextMenuEvent menu(QContextMenuEvent::Mouse, at, on->mapToGlobal(at));
      QApplication::sendEvent(on, &menu);
    }
  }

  void resize() {
    const QSize sizes[] = {{800, 600}, {1280, 800}, {1000, 700}, {1920, 1080}, {1, 1}};
    m_last = QStringLiteral("resize");
    m_window.resize(sizes[m_random.below(std::size(sizes))]);
    if (m_random.below(6) == 0) m_window.showMinimized(), QApplication::processEvents(), m_window.showNormal();
  }

  void paste() {
    QWidget* on = m_window.focusWidget();
    note("paste", on);
    if (on == nullptr) return;
    const QStringList texts{QStringLiteral("570"), QStringLiteral("5\n6\n7"), QStringLiteral("<b>x</b>\t12,5 cm"),
        QString(20'000, QLatin1Char('7')), QString(QChar(0xD800)) + QChar(0)};
    QApplication::clipboard()->setText(texts[m_random.below(static_cast<std::size_t>(texts.size()))]);
    for (const Qt::Key key : {Qt::Key_A, m_random.below(3) == 0 ? Qt::Key_X : Qt::Key_V})
      if ((on = m_window.focusWidget()) != nullptr) QTest::keyClick(on, key, Qt::ControlModifier);
  }

  void drop() {
    m_last = QStringLiteral("drop");
    if (QApplication::activeModalWidget() != nullptr) return;
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(m_files[m_random.below(static_cast<std::size_t>(m_files.size()))])});
    QDropEvent event({200.0, 200.0}, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&m_window, &event);
  }

  void chooseAct() {
    QList<QAction*> all;
    for (QAction* one : m_window.findChildren<QAction*>())
      if (one->isEnabled() && one->isVisible() && one->menu() == nullptr &&
          one->objectName() != QLatin1String("act-quit") && one->objectName() != QLatin1String("act-window"))
        all << one;
    QAction* one = any(all);
    note("choose", one);
    if (one != nullptr) one->trigger();
  }

  void pressKey() {
    static const QList<Qt::Key> keys{Qt::Key_Tab, Qt::Key_Backtab, Qt::Key_Escape, Qt::Key_Delete, Qt::Key_Return,
        Qt::Key_Space, Qt::Key_Left, Qt::Key_Right, Qt::Key_Up, Qt::Key_Down, Qt::Key_PageUp, Qt::Key_PageDown,
        Qt::Key_Home, Qt::Key_End, Qt::Key_Plus, Qt::Key_Minus, Qt::Key_F1, Qt::Key_A, Qt::Key_7};
    QWidget* on = m_window.focusWidget() != nullptr ? m_window.focusWidget() : &m_window;
    note("key", on);
    for (int k = m_random.below(5); k >= 0; --k) {
      const auto with = m_random.below(6) == 0 ? Qt::ControlModifier : Qt::NoModifier;
      QTest::keyClick(on, keys[m_random.below(static_cast<std::size_t>(keys.size()))], with);
      if ((on = m_window.focusWidget()) == nullptr) return;
    }
  }

  void useSomething() {
    QWidget* in = m_random.below(4) == 0 ? static_cast<QWidget*>(&m_window) : &m_window.station();
    switch (m_random.below(8)) {
      case 0:
        return choose(any(usable<QComboBox>(in)));
      case 1:
      case 2:
        return typeIn(any(usable<QLineEdit>(in)));
      case 7:
        if (auto* edit = any(usable<QPlainTextEdit>(in)))
          note("write in", edit), edit->insertPlainText(QStringLiteral("a crest\nthat folds \u2713 "));
        return;
      case 3:
        if (auto* list = any(usable<QAbstractItemView>(in))) pick(*list);
        return;
      case 4:
        if (auto* slider = any(usable<QSlider>(in)))
          note("slide", slider),
              slider->setValue(slider->minimum() +
                  m_random.below(static_cast<std::size_t>(slider->maximum() - slider->minimum() + 1)));
        return;
      default:
        if (auto* button = any(usable<QAbstractButton>(in)))
          note("click", button), QTest::mouseClick(button, Qt::LeftButton);
    }
  }

  void choose(QComboBox* box) {
    note("choose in", box);
    if (box == nullptr || box->count() == 0) return;
    const int index = m_random.below(static_cast<std::size_t>(box->count()));
    box->setCurrentIndex(index);
    emit box->activated(index);
  }

  void typeIn(QLineEdit* edit) {
    static const QStringList words{QString(), "0", "-1", "12.5", "560", "1e9", "22 3/8 in", "3,5 cm", "reed & moss",
        "%1 %n", "99999999999999999999", "nan", "\u00e4\u00f6\u00fc \u2713", "1:30", "2026-12-18", "<b>x</b>"};
    note("type in", edit);
    if (edit == nullptr || edit->isReadOnly()) return;
    const QPointer<QLineEdit> still(edit);
    edit->setFocus();
    edit->selectAll();
    const QString& text = words[m_random.below(static_cast<std::size_t>(words.size()))];
    if (text.isEmpty())
      QTest::keyClick(edit, Qt::Key_Delete);
    else
      edit->insert(text);
    if (still && m_random.below(5) != 0) QTest::keyClick(edit, Qt::Key_Return);
  }

  void pick(QAbstractItemView& list) {
    note("pick in", &list);
    const auto* model = list.model();
    if (model == nullptr || model->rowCount() == 0) return;
    const QModelIndex row = model->index(m_random.below(static_cast<std::size_t>(model->rowCount())),
        m_random.below(static_cast<std::size_t>(std::max(1, model->columnCount()))));
    list.scrollTo(row);
    QTest::mouseClick(list.viewport(), Qt::LeftButton, {}, list.visualRect(row).center());
  }

  /// Always a new timer: one that is being handled does not come again from within.
  void watchFront() {
    QTimer::singleShot(3, &m_front, [this] {
      watchFront();
      answer();
    });
  }

  void answer() {
    if (QWidget* popup = QApplication::activePopupWidget()) {
      if (m_random.below(2) == 0)
        for (int k = m_random.below(6); k >= 0; --k) QTest::keyClick(popup, Qt::Key_Down);
      QTest::keyClick(popup, m_random.below(2) == 0 ? Qt::Key_Return : Qt::Key_Escape);
      if (QApplication::activePopupWidget() == popup) popup->close();
      return;
    }
    // What is in front of all keeps hands off the rest.
    QWidget* in_front = QApplication::activeModalWidget();
    for (QWidget* other : in_front != nullptr ? QWidgetList{in_front} : QApplication::topLevelWidgets()) {
      if (other == &m_window || !other->isVisible() || m_random.below(6) != 0) continue;
      auto* button = m_random.below(2) == 0 ? any(usable<QAbstractButton>(other)) : nullptr;
      if (button != nullptr)
        QTest::mouseClick(button, Qt::LeftButton);
      else
        other->close();
      return;
    }
  }

  Random m_random;
  MainWindow& m_window;
  QObject m_front;
  QStringList m_files;  ///< what may lie there to be dropped
  QString m_last;
};

}  // namespace

TEST_CASE("hands that do anything at all find no fault, and what they made is read back", "[app][long][hands]") {
  const char* wished = std::getenv("NOGGIN_AWL_SEED");
  const int acts = test::tries(250, 60'000), stretch = 25;
  const test::TempFolder folder;
  test::Bench bench;
  QStringList faults;
  auto& app = dynamic_cast<BenchApplication&>(*QCoreApplication::instance());
  QString doing;
  app.onFault = [&](const Error& fault) {
    faults << doing + QStringLiteral(": ") + QString::fromStdString(fault.text);
  };
  grumbles.clear();
  const auto before = qInstallMessageHandler(&listen);
  double held = 0.0;
  {
    Hands hands(wished != nullptr ? std::strtoull(wished, nullptr, 10) : 41, bench, folder);
    for (int i = 0; i < acts; ++i) {
      hands.act();
      doing = hands.last();
      if (test::hard() && i % 200 == 0)
        std::printf("%d %s %.0f MB\n", i, qPrintable(doing), held_mb()), std::fflush(stdout);
      QApplication::processEvents();
      INFO("after act " << i << ", " << doing.toStdString());
      REQUIRE(test::lost_on_reading(bench.build()) == "");
      if (i % stretch != stretch - 1) continue;
      // Until all is known, what is worn too: what is remembered of it is counted below.
      const auto& deriver = bench.window.deriver();
      for (int k = 0; k < 20'000 && (deriver.isBusy() || deriver.isFitting()); ++k) QTest::qWait(2);
      REQUIRE_FALSE(deriver.isBusy());
      CHECK(faults.join(QLatin1Char('\n')).toStdString() == "");
      CHECK(grumbles.join(QLatin1Char('\n')).toStdString() == "");
      faults.clear(), grumbles.clear();
      if (i == acts / 3 / stretch * stretch + stretch - 1) held = held_mb();
    }
  }
  qInstallMessageHandler(before);
  app.onFault = {};
  for (QWidget* other : QApplication::topLevelWidgets())
    if (other != &bench.window) other->close();
  bench.window.takePreferences(Preferences{}, false);
  CAPTURE(held, held_mb());
  CHECK(held_mb() < 1.5 * held + 100.0);
}
