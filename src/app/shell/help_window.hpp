#pragma once
#include <QLineEdit>
#include <QListWidget>
#include <QTextBrowser>

#include "app/shell/help_pages.hpp"
#include "app/desk/tab_order.hpp"

namespace awl {

/// The help, offline: pages on the left, searched by any words of them; read on the right.
class HelpWindow : public EyeDialog {
  Q_OBJECT

 public:
  HelpWindow(std::vector<HelpPage> pages, QWidget* parent);

  /// Opens a page, at the heading of that name if it has one, and below it at a word, which is then marked. False if
  /// there is no such page.
  bool showPage(const QString& id, const QString& heading = {}, const QString& marked = {});
  QString pageId() const;

 private:
  void search(const QString& words);
  void showRow(int row);

  std::vector<HelpPage> m_pages;
  QLineEdit* m_search;
  QListWidget* m_list;
  QTextBrowser* m_text;
};

}  // namespace awl
