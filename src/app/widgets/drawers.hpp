#pragma once
#include <QButtonGroup>
#include <QLayout>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

namespace awl {

/// Widgets side by side as far as there is room, then in further rows.
class RowsLayout : public QLayout {
 public:
  explicit RowsLayout(int spacing) : m_spacing(spacing) {}
  ~RowsLayout() override;
  void addItem(QLayoutItem* item) override { m_items.push_back(item); }
  int count() const override { return static_cast<int>(m_items.size()); }
  QLayoutItem* itemAt(int index) const override { return index < count() && index >= 0 ? m_items[index] : nullptr; }
  QLayoutItem* takeAt(int index) override;
  bool hasHeightForWidth() const override { return true; }
  int heightForWidth(int width) const override { return arrange({0, 0, width, 0}, false); }
  void setGeometry(const QRect& rect) override;
  QSize sizeHint() const override { return minimumSize(); }
  QSize minimumSize() const override;

 private:
  int arrange(const QRect& rect, bool place) const;
  std::vector<QLayoutItem*> m_items;
  int m_spacing;
};

/// A station's tray: a row of words, behind each a drawer; one is open at a time. Which one is remembered.
class Drawers : public QWidget {
  Q_OBJECT

 public:
  /// `name`: under which it remembers; drawers' words are "tab-NAME-ID".
  explicit Drawers(const QString& name, QWidget* parent = nullptr);

  /// A further drawer, and the column its contents go into. The first one is open unless another is remembered.
  QVBoxLayout* add(const QString& id, const QString& word, const QString& tip);
  bool isEmpty() const { return m_ids.isEmpty(); }
  /// The word of the open drawer; empty without drawers.
  QString openWord() const { return m_tabs->checkedButton() != nullptr ? m_tabs->checkedButton()->text() : QString(); }
  /// The word of the drawer this widget lies in; empty if it is in none.
  QString wordOf(const QWidget* widget) const;
  QString open() const { return m_ids.value(m_stack->currentIndex()); }
  /// False if there is no such drawer.
  bool setOpen(const QString& id);
  /// Whether this widget lies in the open drawer, or in none of them.
  bool shows(const QWidget* widget) const;
  /// Opens the drawer this widget lies in, and what is folded about it, and brings it into view.
  void reveal(QWidget* widget);
  /// The next drawer, or with -1 the one before, round and round.
  void step(int by);

 signals:
  void opened(const QString& id);

 private:
  int drawerOf(const QWidget* widget) const;

  QString m_name;
  QStringList m_ids;
  QWidget* m_words;
  QButtonGroup* m_tabs;
  QStackedWidget* m_stack;
};

}  // namespace awl
