#pragma once
#include <QAction>
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QLabel>
#include <QPushButton>
#include <QSettings>
#include <QSpinBox>
#include <QToolButton>
#include <QTest>

#include "app/shell/main_window.hpp"
#include "support/bench_data.hpp"

namespace awl::test {

/// The window with the demo in it, used as a person would: by finding, clicking and typing.
class Bench {
 public:
  enum class Drawers { closed, as_left };
  /// As for somebody who opens the program for the first time, unless its drawers are to be as they were left.
  explicit Bench(Drawers drawers = Drawers::closed) : window((forget(drawers), chain()), demo()) {
    window.askUnsaved = [] { return 1; };
    window.stand().setRough(true);
    window.document().setPatience({});  // a busy machine must not change what a test sees
    window.show();
    settle();
  }
  ~Bench() { window.close(); }

  void settle() {
    for (int i = 0; i < 8000 && window.deriver().isBusy(); ++i) QTest::qWait(5);
    REQUIRE_FALSE(window.deriver().isBusy());
    QApplication::processEvents();
    for (int i = 0; i < 2000 && window.stand().isPainting(); ++i) QTest::qWait(2);
    REQUIRE_FALSE(window.stand().isPainting());
  }

  template <class W>
  W& find(const char* name) {
    auto* widget = window.findChild<W*>(QString::fromLatin1(name));
    INFO("looking for " << name);
    REQUIRE(widget != nullptr);
    // Whoever looks for it at the open station opens the drawer it lies in.
    if constexpr (std::is_base_of_v<QWidget, W>)
      if (!window.station().drawers().shows(widget)) window.station().drawers().reveal(widget);
    return *widget;
  }

  /// Opens the drawer a control lies in, by its word.
  void reveal(const QWidget& control) {
    for (QWidget* up = control.parentWidget(); up != nullptr; up = up->parentWidget()) {
      if (!up->objectName().startsWith(QLatin1String("drawer-"))) continue;
      const QString tab = QStringLiteral("tab-") + up->objectName().mid(7);
      auto* word = window.findChild<QToolButton*>(tab);
      REQUIRE(word != nullptr);
      if (!word->isChecked()) QTest::mouseClick(word, Qt::LeftButton);
      QApplication::processEvents();
      return;
    }
  }

  /// Opens a drawer by its name: "foam-print".
  void open(const char* drawer) {
    QTest::mouseClick(&find<QToolButton>((std::string("tab-") + drawer).c_str()), Qt::LeftButton);
    QApplication::processEvents();
  }

  void go(const char* station) {
    QTest::mouseClick(&find<QPushButton>((std::string("rail-") + station).c_str()), Qt::LeftButton);
    REQUIRE(window.stationId() == QLatin1String(station));
    QApplication::processEvents();
  }

  void type(const char* field, const char* text) {
    auto& edit = find<QLineEdit>(field);
    reveal(edit);
    edit.setFocus();
    edit.selectAll();
    if (*text == '\0')
      QTest::keyClick(&edit, Qt::Key_Delete);
    else
      QTest::keyClicks(&edit, QString::fromUtf8(text));
    QTest::keyClick(&edit, Qt::Key_Return);
    settle();
  }

  /// Unfolds a group of the tray, by its title's object name.
  void unfold(const char* group) {
    auto& title = find<QToolButton>(group);
    reveal(title);
    if (!title.isChecked()) QTest::mouseClick(&title, Qt::LeftButton);
  }

  void choose(const char* box, const char* id) {
    auto& combo = find<QComboBox>(box);
    reveal(combo);
    const int index = combo.findData(QString::fromLatin1(id));
    REQUIRE(index >= 0);
    combo.setCurrentIndex(index);
    emit combo.activated(index);
    settle();
  }

  void click(const char* button) {
    auto& press = find<QPushButton>(button);
    reveal(press);
    QTest::mouseClick(&press, Qt::LeftButton);
    settle();
  }

  void trigger(const char* action) {
    find<QAction>(action).trigger();
    settle();
  }
  /// Pressed where the focus is, as a person does.
  void press(Qt::KeyboardModifiers modifiers) {
    QWidget* focus = window.focusWidget() != nullptr ? window.focusWidget() : &window;
    QTest::keyClick(focus, Qt::Key_Z, modifiers);
    settle();
  }
  void undo() { press(Qt::ControlModifier); }
  void redo() { press(Qt::ControlModifier | Qt::ShiftModifier); }

  QString text(const char* label) { return find<QLabel>(label).text(); }
  QString field(const char* name) { return find<QLineEdit>(name).text(); }
  const Build& build() { return window.document().build(); }
  const Derived& derived() { return window.deriver().latest(); }

  MainWindow window;

 private:
  static void forget(Drawers drawers) {
    if (drawers == Drawers::closed) QSettings().remove(QStringLiteral("drawers"));
    QSettings().remove(QStringLiteral("next"));
  }
};

}  // namespace awl::test
