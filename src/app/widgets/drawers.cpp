#include "app/widgets/drawers.hpp"

#include <QScrollArea>
#include <QSettings>
#include <QToolButton>
#include <algorithm>

#include "app/widgets/tray_group.hpp"

namespace awl {

RowsLayout::~RowsLayout() {
  for (QLayoutItem* item : m_items) delete item;
}

QLayoutItem* RowsLayout::takeAt(int index) {
  if (index < 0 || index >= count()) return nullptr;
  QLayoutItem* item = m_items[index];
  m_items.erase(m_items.begin() + index);
  return item;
}

void RowsLayout::setGeometry(const QRect& rect) {
  QLayout::setGeometry(rect);
  arrange(rect, true);
}

QSize RowsLayout::minimumSize() const {
  QSize size(0, 0);
  for (const QLayoutItem* item : m_items) size = size.expandedTo(item->minimumSize());
  const QMargins m = contentsMargins();
  return size + QSize(m.left() + m.right(), m.top() + m.bottom());
}

int RowsLayout::arrange(const QRect& rect, bool place) const {
  const QRect inside = rect.marginsRemoved(contentsMargins());
  int x = inside.x(), y = inside.y(), row = 0;
  for (QLayoutItem* item : m_items) {
    const QSize size = item->sizeHint();
    if (x > inside.x() && x + size.width() > inside.right() + 1) {
      x = inside.x();
      y += row + m_spacing;
      row = 0;
    }
    if (place) item->setGeometry({{x, y}, size});
    x += size.width() + m_spacing;
    row = std::max(row, size.height());
  }
  return y + row + contentsMargins().bottom() - rect.y();
}

Drawers::Drawers(const QString& name, QWidget* parent)
    : QWidget(parent), m_name(name), m_words(new QWidget(this)), m_tabs(new QButtonGroup(this)),
      m_stack(new QStackedWidget(this)) {
  auto* rows = new RowsLayout(4);
  rows->setContentsMargins(12, 10, 12, 6);
  m_words->setLayout(rows);
  m_words->setProperty("drawerWords", true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  column->addWidget(m_words);
  column->addWidget(m_stack, 1);
  connect(m_tabs, &QButtonGroup::idClicked, this, [this](int i) { setOpen(m_ids[i]); });
}

QVBoxLayout* Drawers::add(const QString& id, const QString& word, const QString& tip) {
  auto* tab = new QToolButton(m_words);
  tab->setObjectName(QStringLiteral("tab-%1-%2").arg(m_name, id));
  tab->setText(word);
  tab->setToolTip(tip);
  tab->setAccessibleName(word);
  tab->setCheckable(true);
  tab->setFocusPolicy(Qt::StrongFocus);
  tab->setProperty("drawerWord", true);
  m_words->layout()->addWidget(tab);
  m_tabs->addButton(tab, static_cast<int>(m_ids.size()));
  auto* scroll = new QScrollArea(m_stack);
  scroll->setObjectName(QStringLiteral("drawer-%1-%2").arg(m_name, id));
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setFrameShape(QFrame::NoFrame);
  auto* inside = new QWidget(scroll);
  inside->setProperty("drawer", true);
  auto* whole = new QVBoxLayout(inside);
  whole->setContentsMargins(12, 2, 12, 12);
  auto* contents = new QVBoxLayout;
  contents->setSpacing(8);
  whole->addLayout(contents);
  whole->addStretch(1);
  scroll->setWidget(inside);
  scroll->viewport()->setAutoFillBackground(false);
  inside->setAutoFillBackground(false);
  m_stack->addWidget(scroll);
  m_ids << id;
  const QString kept = QSettings().value(QStringLiteral("drawers/") + m_name).toString();
  if (m_ids.size() == 1 || kept == id) {
    m_stack->setCurrentIndex(static_cast<int>(m_ids.size()) - 1);
    tab->setChecked(true);
  }
  return contents;
}

bool Drawers::setOpen(const QString& id) {
  const auto index = static_cast<int>(m_ids.indexOf(id));
  if (index < 0) return false;
  m_tabs->button(index)->setChecked(true);
  if (m_stack->currentIndex() == index) return true;
  m_stack->setCurrentIndex(index);
  QSettings().setValue(QStringLiteral("drawers/") + m_name, id);
  emit opened(id);
  return true;
}

int Drawers::drawerOf(const QWidget* widget) const {
  for (int i = 0; i < m_stack->count(); ++i)
    if (m_stack->widget(i)->isAncestorOf(widget)) return i;
  return -1;
}

QString Drawers::wordOf(const QWidget* widget) const {
  const int drawer = drawerOf(widget);
  return drawer < 0 ? QString() : m_tabs->button(drawer)->text();
}

bool Drawers::shows(const QWidget* widget) const {
  const int drawer = drawerOf(widget);
  return drawer < 0 || drawer == m_stack->currentIndex();
}

void Drawers::reveal(QWidget* widget) {
  const int drawer = drawerOf(widget);
  if (drawer < 0) return;
  setOpen(m_ids[drawer]);
  for (QWidget* w = widget->parentWidget(); w != nullptr && w != m_stack; w = w->parentWidget())
    if (auto* group = qobject_cast<TrayGroup*>(w)) group->setOpen(true);
  static_cast<QScrollArea*>(m_stack->widget(drawer))->ensureWidgetVisible(widget);
}

void Drawers::step(int by) {
  const auto count = static_cast<int>(m_ids.size());
  if (count == 0) return;
  setOpen(m_ids[(m_stack->currentIndex() + by + count) % count]);
  // The next Tab leads into it.
  if (m_tabs->checkedButton() != nullptr) m_tabs->checkedButton()->setFocus(Qt::ShortcutFocusReason);
}

}  // namespace awl
