#pragma once
#include <QWidget>
#include <algorithm>
#include <memory>

#include "app/widgets/theme.hpp"
#include "print/sight_map.hpp"

namespace awl {

/// What is left of the wearer's view, as a round map in their own eyes; what the bare head would see is its outline.
class SightView : public QWidget {
  Q_OBJECT

 public:
  explicit SightView(QWidget* parent = nullptr);
  using QWidget::show;
  void show(std::shared_ptr<const Worn> worn);
  void setDark(bool dark);
  /// Whose view it is, beside another: a version's name.
  void setTitle(const QString& title);
  /// What a place of the map is: "seen with both eyes", "covered". Empty beside it.
  QString wordsAt(QPointF at) const;
  SightMap map() const;
  QSize sizeHint() const override { return {300, 390}; }
  bool hasPicture() const { return m_worn && m_worn->sight; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override { m_map = {}; }
  bool event(QEvent* event) override;

 private:
  bool isNarrow() const { return width() < 250.0 * std::min(1.45, typeScale(*this)); }
  std::shared_ptr<const Worn> m_worn;
  QImage m_map;
  QString m_title;
  bool m_dark = false;
};

}  // namespace awl
