#pragma once
#include <QLineEdit>
#include <optional>

#include "core/base/units.hpp"

namespace awl {

/// A length as makers type it. Wrong input stays, is marked and explained; nothing is replaced silently.
class LengthField : public QLineEdit {
  Q_OBJECT

 public:
  explicit LengthField(const QString& name, const QString& accessible, const QString& tip, QWidget* parent = nullptr);

  /// What the build says; left alone while the typed text is wrong, unless the value itself changed.
  void showValue(std::optional<double> value_mm, LengthUnit unit);
  void showEstimate(double value_mm, double band_mm);
  void refuse(const QString& sentence);
  bool isWrong() const { return !m_sentence.isEmpty(); }
  QString sentence() const { return m_sentence; }

 signals:
  void entered(double value_mm);
  void emptied();
  void sentenceChanged(const QString& sentence);

 protected:
  bool event(QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void finish();
  void setSentence(const QString& sentence);

  std::optional<double> m_value_mm;
  LengthUnit m_unit = LengthUnit::mm;
  QString m_sentence, m_shown;
};

}  // namespace awl
