#include "print/page.hpp"

#include "print/paint_drawing.hpp"
#include "print/pens.hpp"

namespace awl {
Page::Page(Paper paper, const QString& title)
    : m_writer(&m_bytes), m_size(paper == Paper::letter ? QSizeF(215.9, 279.4) : QSizeF(210.0, 297.0)) {
  m_bytes.open(QIODevice::WriteOnly);
  m_writer.setResolution(600);
  m_writer.setPageSize(paper == Paper::letter ? QPageSize(QPageSize::Letter) : QPageSize(QPageSize::A4));
  m_writer.setPageMargins(QMarginsF(0, 0, 0, 0));
  m_writer.setTitle(title);
  m_painter.begin(&m_writer);
  m_painter.scale(m_writer.resolution() / 25.4, m_writer.resolution() / 25.4);
}

Page::Page(Paper paper, int pixels_wide)
    : m_writer(&m_bytes), m_pixels(pixels_wide),
      m_size(paper == Paper::letter ? QSizeF(215.9, 279.4) : QSizeF(210.0, 297.0)) {
  beginImage();
}

void Page::beginImage() {
  const double scale = m_pixels / m_size.width();
  m_images.emplace_back(m_pixels, qRound(scale * m_size.height()), QImage::Format_RGB32);
  m_images.back().fill(Qt::white);
  m_painter.begin(&m_images.back());
  m_painter.setRenderHint(QPainter::Antialiasing);
  m_painter.setRenderHint(QPainter::SmoothPixmapTransform);
  m_painter.scale(scale, scale);
}

std::vector<QImage> Page::images() {
  m_painter.end();
  return std::move(m_images);
}

Result<void> Page::writeTo(const QString& path) { return writePdf(path, m_bytes, m_painter.end()); }

Result<void> writePdf(const QString& path, QBuffer& bytes, bool drawn) {
  const QByteArray& pdf = bytes.data();
  if (!drawn || pdf.isEmpty())
    return fail(Errc::cannot_write, "The pages for " + path.toStdString() + " could not be drawn.", path.toStdString());
  return write_file_safely(path.toStdString(), {pdf.constData(), static_cast<std::size_t>(pdf.size())});
}

void Page::fresh() {
  if (m_pixels > 0) {
    m_painter.end();
    beginImage();
  } else {
    m_writer.newPage();
  }
  m_y = kMargin;
}

QStringList Page::lines(const QString& words, double capital, bool bold, double indent, double wide) const {
  const double room = wide > 0.0 ? wide : width() - indent;
  QStringList out;
  QString line;
  for (const QString& word : words.split(QLatin1Char(' '))) {
    const QString longer = line.isEmpty() ? word : line + QLatin1Char(' ') + word;
    if (!line.isEmpty() && textWidth(longer, capital, bold) > room)
      out << line, line = word;
    else
      line = longer;
  }
  if (!line.isEmpty()) out << line;
  return out;
}

void Page::text(const QString& words, double capital, bool bold, double indent, double wide, const QColor& colour) {
  for (const QString& line : lines(words, capital, bold, indent, wide)) {
    at(left() + indent, line, capital, bold, colour);
    m_y += 2.0 * capital;
  }
}

double Page::tall(const QString& words, double capital, bool bold, double indent, double wide) const {
  return 2.0 * capital * static_cast<double>(lines(words, capital, bold, indent, wide).size());
}

void Page::at(double x, const QString& words, double capital, bool bold, const QColor& colour) {
  paintText(m_painter, words, {x + 0.5 * textWidth(words, capital, bold), m_y + capital}, capital, 0.0, colour, bold);
}

void Page::rule(double thick) {
  m_painter.setPen(QPen(kRule, thick));
  m_painter.drawLine(QPointF(left(), m_y), QPointF(left() + width(), m_y));
}

}  // namespace awl
