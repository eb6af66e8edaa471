#include "app/widgets/length_field.hpp"
#include "print/text.hpp"

#include <QKeyEvent>
#include <QStyle>
#include <cmath>

namespace awl {

LengthField::LengthField(const QString& name, const QString& accessible, const QString& tip, QWidget* parent)
    : QLineEdit(parent) {
  setObjectName(name);
  setAccessibleName(accessible);
  setToolTip(tip);
  setMinimumWidth(96);
  connect(this, &QLineEdit::editingFinished, this, &LengthField::finish);
}

void LengthField::showValue(std::optional<double> value_mm, LengthUnit unit) {
  const bool same = value_mm == m_value_mm && unit == m_unit;
  if (isWrong() && same) return;
  m_value_mm = value_mm;
  m_unit = unit;
  if (value_mm) setPlaceholderText({});
  m_shown = value_mm ? QString::fromStdString(format_length(*value_mm, unit)) : QString();
  if (text() != m_shown) setText(m_shown);
  setSentence({});
}

void LengthField::showEstimate(double value_mm, double band_mm) {
  if (m_value_mm) return;
  const bool inch = m_unit == LengthUnit::inch;
  const auto whole = [&](double mm) { return inch ? mm : std::round(mm); };
  const auto text = [&](double mm) { return QString::fromStdString(format_length(whole(mm), m_unit, false)); };
  const QString shown = QString::fromStdString(format_length(whole(value_mm), m_unit));
  setPlaceholderText(tr("about %1 \u00b1 %2").arg(shown, text(std::max(inch ? 1.6 : 1.0, band_mm))));
}

void LengthField::refuse(const QString& sentence) { setSentence(sentence); }

void LengthField::setSentence(const QString& sentence) {
  if (m_sentence == sentence) return;
  m_sentence = sentence;
  setProperty("wrong", !sentence.isEmpty());
  style()->unpolish(this);
  style()->polish(this);
  setAccessibleDescription(sentence);
  emit sentenceChanged(sentence);
}

/// While nothing is half typed, undo and redo are the build's, not the field's.
bool LengthField::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride && text() == m_shown) {
    auto* key = static_cast<QKeyEvent*>(event);
    if (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) {
      key->ignore();
      return false;
    }
  }
  return QLineEdit::event(event);
}

void LengthField::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape) {
    setText(m_shown);
    setSentence({});
    return;
  }
  QLineEdit::keyPressEvent(event);
}

void LengthField::finish() {
  const QString typed = text().trimmed();
  if (typed == m_shown) return setSentence({});
  if (typed.isEmpty()) {
    setSentence({});
    emit emptied();
    return;
  }
  const auto value = parse_length(typed.toStdString(), m_unit);
  if (!value) return setSentence(qs(value.error().text));
  setSentence({});
  emit entered(*value);
}

}  // namespace awl
