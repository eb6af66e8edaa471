#pragma once
#include <QLabel>

#include "app/widgets/length_field.hpp"
#include "core/head/measures.hpp"

namespace awl {

/// One measure of the tray: its name, its field with the estimate in it, a line under it when there is something to
/// say.
class MeasureRow : public QWidget {
  Q_OBJECT

 public:
  MeasureRow(const MeasureFacts& facts, QWidget* parent);

  LengthField* field() const { return m_field; }
  /// Marks the measure that would tell most now.
  void setNext(bool next);
  /// Small print: spread of two readings, hair taken off.
  void setNote(const QString& note);

 private:
  QLabel *m_name, *m_sentence, *m_note;
  LengthField* m_field;
  QString m_plain;
};

}  // namespace awl
