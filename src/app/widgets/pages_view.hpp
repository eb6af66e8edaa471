#pragma once
#include <QImage>
#include <vector>

#include "app/desk/tab_order.hpp"

namespace awl {

/// Pages looked at before, or instead of, being saved: one below the other, as wide as the window.
class PagesView : public EyeDialog {
  Q_OBJECT

 public:
  /// `words`: what the pages say, for whoever has them read aloud.
  PagesView(const QString& title, std::vector<QImage> pages, const QString& words, QWidget* parent);

 signals:
  void saveWanted();
};

}  // namespace awl
