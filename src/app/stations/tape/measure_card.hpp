#pragma once
#include <QFrame>
#include <QLabel>

#include "app/widgets/length_field.hpp"
#include "core/head/tape_sheet.hpp"

namespace awl {

/// Everything about the measure in hand: a picture of where the tape runs, how, with what, why, and the second reading.
class MeasureCard : public QFrame {
  Q_OBJECT

 public:
  explicit MeasureCard(QWidget* parent = nullptr);

  void show(MeasureId measure, const TapeEntry* entry, LengthUnit unit, const QImage& picture);
  using QWidget::show;
  QSize pictureSize() const { return {322, 138}; }
  /// In a low window the picture gives way, not the words.
  void giveRoom(int height);
  LengthField* second() const { return m_second; }
  LengthField* hair() const { return m_hair; }

 private:
  void fitPicture();
  void holdHeight();

  QImage m_image;
  QLabel *m_picture, *m_title, *m_how, *m_facts, *m_spread;
  LengthField *m_second, *m_hair;
};

}  // namespace awl
