#include "app/desk/tab_order.hpp"

#include <QGridLayout>
#include <algorithm>
#include <unordered_set>
#include <vector>

namespace awl {
namespace {

struct Order {
  std::vector<QWidget*> widgets;
  std::unordered_set<const QWidget*> known;
};

void collect(QWidget& widget, Order& order);

void collect(QLayout& layout, Order& order) {
  std::vector<std::pair<std::pair<int, int>, QLayoutItem*>> items;
  for (int i = 0; i < layout.count(); ++i) {
    int row = i, column = 0, rows = 0, columns = 0;
    if (auto* grid = qobject_cast<QGridLayout*>(&layout)) grid->getItemPosition(i, &row, &column, &rows, &columns);
    items.push_back({{row, column}, layout.itemAt(i)});
  }
  std::stable_sort(items.begin(), items.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  for (const auto& [at, item] : items) {
    if (item->widget() != nullptr) collect(*item->widget(), order);
    if (item->layout() != nullptr) collect(*item->layout(), order);
  }
}

/// What is in a layout comes first, then what is not, in the order it was made.
void collect(QWidget& widget, Order& order) {
  if (!order.known.insert(&widget).second) return;
  order.widgets.push_back(&widget);
  if (widget.layout() != nullptr) collect(*widget.layout(), order);
  for (QObject* child : widget.children())
    if (auto* w = qobject_cast<QWidget*>(child); w != nullptr && !w->isWindow()) collect(*w, order);
}

bool stops(const QWidget& w) {
  return (w.focusPolicy() & Qt::TabFocus) == Qt::TabFocus && w.focusProxy() == nullptr && w.isVisible() &&
      w.isEnabled();
}

}  // namespace

bool moveFocusAsTheEye(QWidget& top, bool next) {
  Order found;
  collect(top, found);
  const auto& order = found.widgets;
  const QWidget* now = top.window()->focusWidget();
  while (now != nullptr && now->focusProxy() != nullptr) now = now->focusProxy();
  const auto at = std::find(order.begin(), order.end(), now);
  const int n = static_cast<int>(order.size()), from = static_cast<int>(at - order.begin());
  for (int k = 1; k <= n; ++k) {
    QWidget* to = order[static_cast<std::size_t>(((next ? from + k : from - k) % n + n) % n)];
    if (!stops(*to)) continue;
    to->setFocus(next ? Qt::TabFocusReason : Qt::BacktabFocusReason);
    if (top.window()->focusWidget() != now) return true;  // it may not want them just now
  }
  return false;
}

}  // namespace awl
