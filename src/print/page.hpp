#pragma once
#include <QBuffer>
#include <QImage>
#include <QPainter>
#include <QPdfWriter>

#include "core/base/data_files.hpp"
#include "print/tiled_pdf.hpp"

// Inside print only.

namespace awl {

/// Pages whose unit is the millimetre, drawn from the top down in memory and then written as one file.
class Page {
 public:
  Page(Paper paper, const QString& title);
  /// Pages to be looked at instead, drawn so many pixels wide.
  Page(Paper paper, int pixels_wide);
  QPainter& painter() { return m_painter; }
  double left() const { return kMargin; }
  double width() const { return m_size.width() - 2.0 * kMargin; }
  double y() const { return m_y; }
  /// Millimetres left above the lower margin.
  double room() const { return m_size.height() - kMargin - m_y; }
  void skip(double mm) { m_y += mm; }
  void fresh();

  /// Words broken into lines within the width from `indent` on, or `wide` if it is given.
  void text(const QString& words, double capital, bool bold = false, double indent = 0.0, double wide = 0.0,
      const QColor& colour = QColor(0x1d, 0x27, 0x33));
  /// How tall `text` would be.
  double tall(const QString& words, double capital, bool bold = false, double indent = 0.0, double wide = 0.0) const;
  /// Words starting at `x` on the line in hand.
  void at(double x, const QString& words, double capital, bool bold = false,
      const QColor& colour = QColor(0x1d, 0x27, 0x33));
  void rule(double thick = 0.2);
  /// Errors: cannot_write with the reason; a file that was there stays then.
  Result<void> writeTo(const QString& path);
  /// The pages drawn so far, of those to be looked at.
  std::vector<QImage> images();

 private:
  static constexpr double kMargin = 14.0;
  void beginImage();
  QStringList lines(const QString& words, double capital, bool bold, double indent, double wide) const;

  QBuffer m_bytes;
  QPdfWriter m_writer;
  int m_pixels = 0;  ///< not 0: onto images
  std::vector<QImage> m_images;
  QPainter m_painter;
  QSizeF m_size;
  double m_y = kMargin;
};

/// What a finished PDF in memory is written by. Errors: cannot_write.
Result<void> writePdf(const QString& path, QBuffer& bytes, bool drawn);

}  // namespace awl
