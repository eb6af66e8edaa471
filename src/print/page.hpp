#pragma once
#include <QPainter>
#include <QPdfWriter>

#include "core/base/result.hpp"
#include "print/tiled_pdf.hpp"

// Inside print only.

namespace awl {

/// Pages whose unit is the millimetre, written from the top down.
class Page {
 public:
  Page(const QString& path, Paper paper, const QString& title);
  bool good() const { return m_good; }
  QPainter& painter() { return m_painter; }
  double left() const { return kMargin; }
  double width() const { return m_size.width() - 2.0 * kMargin; }
  double y() const { return m_y; }
  /// Millimetres left above the lower margin.
  double room() const { return m_size.height() - kMargin - m_y; }
  void skip(double mm) { m_y += mm; }
  void fresh();

  /// Words broken into lines within the width from `indent` on, or `wide` if it is given.
  void text(const QString& words, double capital, bool bold = false, double indent = 0.0, double wide = 0.0, const QColor& colour = QColor(0x1d, 0x27, 0x33));
  /// How tall `text` would be.
  double tall(const QString& words, double capital, bool bold = false, double indent = 0.0, double wide = 0.0) const;
  /// Words starting at `x` on the line in hand.
  void at(double x, const QString& words, double capital, bool bold = false, const QColor& colour = QColor(0x1d, 0x27, 0x33));
  void rule(double thick = 0.2);
  bool finish() { return m_painter.end(); }

 private:
  static constexpr double kMargin = 14.0;
  QStringList lines(const QString& words, double capital, bool bold, double indent, double wide) const;

  QPdfWriter m_writer;
  QPainter m_painter;
  QSizeF m_size;
  bool m_good = false;
  double m_y = kMargin;
};

inline tl::unexpected<Error> cannotWrite(const QString& path) { return fail(Errc::cannot_write, "The page could not be written to " + path.toStdString() + ".", path.toStdString()); }

}  // namespace awl
