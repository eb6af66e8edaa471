#include "print/tiled_pdf.hpp"

#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPainterPath>
#include <QPdfWriter>
#include <array>
#include <cmath>

#include "core/base/numbers.hpp"
#include "print/page.hpp"
#include "print/paint_drawing.hpp"
#include "print/pens.hpp"

namespace awl {
namespace {

constexpr double kFooterMm = 24.0;
constexpr double kLeastPageMm = 210.0;  // the map and the test square want room
const QColor kSquareFaint(0xb8, 0xb0, 0x9f);

QRectF bounds(const Mark& m) {
  QRectF box;
  for (const Vec2& p : m.line) {
    const QRectF point(p.x() - 0.01, p.y() - 0.01, 0.02, 0.02);
    box = box.isNull() ? point : box.united(point);
  }
  return box;
}

constexpr std::array<const char*, 5> kPapers{"a4", "letter", "a3", "roll", "sheet"};

/// A roll lies across: its width is the page's height, its length follows the sheet.
QSizeF pageOf(const TileOptions& options, const SheetSize& room) {
  const double wide = room.width_mm + 2 * options.margin_mm, high = room.height_mm + 2 * options.margin_mm + kFooterMm;
  switch (options.paper) {
    case Paper::a4:
      return {210.0, 297.0};
    case Paper::letter:
      return {215.9, 279.4};
    case Paper::a3:
      return {297.0, 420.0};
    case Paper::roll:
      return {std::max(wide, kLeastPageMm), std::min(std::max(high, kLeastPageMm), options.roll_mm)};
    case Paper::sheet:
      return {std::max(wide, kLeastPageMm), std::max(high, kLeastPageMm)};
  }
  return {};
}

/// The same by its name where it has one: printers know those to the point.
QPageSize pageSizeOf(const TileOptions& options, const SheetSize& room) {
  switch (options.paper) {
    case Paper::a4:
      return QPageSize(QPageSize::A4);
    case Paper::letter:
      return QPageSize(QPageSize::Letter);
    case Paper::a3:
      return QPageSize(QPageSize::A3);
    default:
      return QPageSize(pageOf(options, room), QPageSize::Millimeter, QString(), QPageSize::ExactMatch);
  }
}

/// Lays the tiles of one sheet over pages.
class Tiler {
 public:
  Tiler(QPdfWriter& writer, const std::vector<Piece>& pieces, const Layout& layout, const TileOptions& options)
      : writer_(writer), layout_(layout), options_(options) {
    room_ = room_of(layout);
    page_ = pageOf(options, room_);
    area_ = QSizeF(page_.width() - 2 * options.margin_mm, page_.height() - 2 * options.margin_mm - kFooterMm);
    step_ = QSizeF(area_.width() - options.overlap_mm, area_.height() - options.overlap_mm);
    columns_ = tilesFor(room_.width_mm, step_.width());
    rows_ = tilesFor(room_.height_mm, step_.height());
    for (int s = 0; s < layout.sheets; ++s) drawings_.push_back(draw_sheet(pieces, layout, s));
  }

  bool roomy() const { return step_.width() >= kTestSquareMm && step_.height() >= kTestSquareMm; }

  TiledPdf run() {
    painter_.begin(&writer_);
    mapPage();
    int pages = 1;
    for (int s = 0; s < layout_.sheets; ++s)
      for (int row = 0; row < rows_; ++row)
        for (int column = 0; column < columns_; ++column) {
          if (!used(s, column, row)) continue;
          writer_.newPage();
          tilePage(s, column, row);
          ++pages;
        }
    painter_.end();
    return {pages, columns_, rows_};
  }

 private:
  int tilesFor(double length, double step) const {
    return std::max(1, static_cast<int>(std::ceil((length - options_.overlap_mm) / step)));
  }
  QRectF tile(int column, int row) const {
    return {column * step_.width(), row * step_.height(), area_.width(), area_.height()};
  }
  static QString name(int column, int row) {
    return QString::fromStdString(letter_of(row)) + QString::number(column + 1);
  }

  bool used(int sheet, int column, int row) const {
    const QRectF t = tile(column, row);
    for (const Mark& m : drawings_[sheet].marks)
      if (m.layer == Layer::cut && bounds(m).intersects(t)) return true;
    return false;
  }

  void inMillimetres() {
    painter_.save();
    const double dots = writer_.resolution() / 25.4;
    painter_.scale(dots, dots);
  }

  /// Sheet coordinates (y up from the lower left) to this page.
  void tilePage(int sheet, int column, int row) {
    inMillimetres();
    const QRectF t = tile(column, row);
    const QPointF corner(options_.margin_mm, options_.margin_mm);
    const QRectF frame(corner, area_);
    testSquare(frame);
    painter_.save();
    painter_.setClipRect(frame);
    painter_.translate(corner.x() - t.left(), corner.y() + t.bottom());
    paintDrawing(painter_, drawings_[sheet]);
    painter_.restore();
    joinMarks(frame, column, row);
    footer(sheet, column, row);
    painter_.restore();
  }

  void testSquare(const QRectF& frame) {
    const QRectF square(frame.center().x() - 0.5 * kTestSquareMm, frame.center().y() - 0.5 * kTestSquareMm,
        kTestSquareMm, kTestSquareMm);
    const QColor colour = QColor::fromRgb(kTestSquareColour);
    painter_.setBrush(Qt::NoBrush);
    painter_.setPen(QPen(colour, 0.12, Qt::SolidLine, Qt::SquareCap, Qt::MiterJoin));
    painter_.drawRect(square);
    paintText(painter_, QStringLiteral("test square: 100 mm"), {square.center().x(), square.bottom() - 2.2}, 2.0, 0.0,
        colour);
  }

  /// Dashed overlap lines, with half diamonds that close with the neighbour's.
  void joinMarks(const QRectF& frame, int column, int row) {
    painter_.setPen(QPen(kSquareFaint, 0.15, Qt::DashLine));
    painter_.setBrush(Qt::NoBrush);
    painter_.drawRect(frame);
    const double o = options_.overlap_mm;
    const auto diamond = [&](QPointF at, const QString& label) {
      painter_.setPen(QPen(kInk, 0.18));
      painter_.drawPolygon(
          QPolygonF{{at + QPointF(-3, 0), at + QPointF(0, -3), at + QPointF(3, 0), at + QPointF(0, 3)}});
      paintText(painter_, label, at + QPointF(0, 4.6), 1.7, 0.0, kInk);
    };
    for (const double f : {0.2, 0.8}) {
      const double y = frame.top() + f * frame.height(), x = frame.left() + f * frame.width();
      if (column > 0) diamond({frame.left() + 0.5 * o, y}, name(column - 1, row) + "+" + name(column, row));
      if (column + 1 < columns_) diamond({frame.right() - 0.5 * o, y}, name(column, row) + "+" + name(column + 1, row));
      if (row > 0) diamond({x, frame.bottom() - 0.5 * o}, name(column, row - 1) + "+" + name(column, row));
      if (row + 1 < rows_) diamond({x, frame.top() + 0.5 * o}, name(column, row) + "+" + name(column, row + 1));
    }
  }

  void footer(int sheet, int column, int row) {
    const double y = page_.height() - options_.margin_mm - kFooterMm + 3.0, x = options_.margin_mm;
    const auto left = [&](const QString& text, double line, double height, bool bold) {
      paintText(painter_, text, {x + 0.5 * textWidth(text, height, bold), y + line}, height, 0.0, kInk, bold);
    };
    left(name(column, row), 5.0, 6.0, true);
    left(QStringLiteral("%1, sheet %2 of %3").arg(options_.title).arg(sheet + 1).arg(layout_.sheets), 12.0, 2.4, false);
    left(QStringLiteral("Print at 100 %. Measure the square first: 100 mm each way."), 16.0, 2.2, false);
    const double h = kFooterMm - 5.0, w = h * room_.width_mm / room_.height_mm;
    map(QRectF(page_.width() - options_.margin_mm - w, y, w, h), sheet, column, row, false);
  }

  void map(const QRectF& place, int sheet, int column, int row, bool named) {
    const double scale = place.width() / room_.width_mm;
    painter_.save();
    painter_.translate(place.left(), place.bottom());
    painter_.scale(scale, scale);
    DrawingStyle style;
    style.cut_mm = style.thin_mm = 0.12 / scale;
    style.fill = QColor(0xee, 0xe8, 0xda);
    Drawing outlines;
    for (const Mark& m : drawings_[sheet].marks)
      if (m.layer == Layer::cut || m.layer == Layer::fold || m.layer == Layer::sheet) outlines.marks.push_back(m);
    for (int r = 0; r < rows_; ++r)
      for (int c = 0; c < columns_; ++c) mapTile(c, r, c == column && r == row, scale);
    paintDrawing(painter_, outlines, style);
    for (int r = 0; named && r < rows_; ++r)
      for (int c = 0; c < columns_; ++c)
        if (used(sheet, c, r))
          paintText(painter_, name(c, r), mapBox(c, r).center(), 3.0 / scale, 0.0, QColor(0x8a, 0x3b, 0x12), true);
    painter_.restore();
  }

  /// The part of the sheet that a page adds, y downwards.
  QRectF mapBox(int c, int r) const {
    const QPointF low(c * step_.width(), r * step_.height());
    const double w = std::min(step_.width(), room_.width_mm - low.x()),
                 h = std::min(step_.height(), room_.height_mm - low.y());
    return {low.x(), -low.y() - h, w, h};
  }

  void mapTile(int c, int r, bool here, double scale) {
    const QRectF box = mapBox(c, r);
    if (here) painter_.fillRect(box, QColor(0xf2, 0xc1, 0x4e));
    painter_.setPen(QPen(kSquareFaint, 0.1 / scale));
    painter_.setBrush(Qt::NoBrush);
    painter_.drawRect(box);
  }

  void mapPage() {
    inMillimetres();
    const double left = options_.margin_mm + 4.0, width = page_.width() - 2 * left;
    paintText(painter_, options_.title, {0.5 * page_.width(), 22.0}, 6.0, 0.0, kInk, true);
    paintText(painter_,
        QStringLiteral(
            "Map of the pages. Print all at 100 %, measure the test square, then glue them letter to letter."),
        {0.5 * page_.width(), 32.0}, 2.6, 0.0, kInk);
    paintText(painter_,
        QStringLiteral("Blades: fresh, cut away from the hand. Nothing made from this is protective headgear."),
        {0.5 * page_.width(), 38.0}, 2.6, 0.0, kInk);
    const double height = width * room_.height_mm / room_.width_mm;
    const double fit =
        std::min(1.0, (page_.height() - kFooterMm - 160.0) / std::max(1.0, layout_.sheets * (height + 14.0)));
    double y = 48.0;
    for (int s = 0; s < layout_.sheets; ++s) {
      paintText(painter_, QStringLiteral("Sheet %1").arg(s + 1), {left + 8.0, y}, 2.6, 0.0, kInk, true);
      map(QRectF(left, y + 4.0, width * fit, height * fit), s, -1, -1, true);
      y += (height + 14.0) * fit + 4.0;
    }
    testSquare(QRectF(left, page_.height() - kFooterMm - 108.0, width, 104.0));
    painter_.restore();
  }

  QPdfWriter& writer_;
  const Layout& layout_;
  TileOptions options_;
  QPainter painter_;
  SheetSize room_;
  QSizeF page_, area_, step_;
  int columns_ = 0, rows_ = 0;
  std::vector<Drawing> drawings_;
};

}  // namespace

const char* name_of(Paper paper) { return kPapers[static_cast<std::size_t>(paper)]; }

Result<Paper> paperFrom(const std::string& name) {
  for (std::size_t i = 0; i < kPapers.size(); ++i)
    if (name == kPapers[i]) return static_cast<Paper>(i);
  return fail(Errc::unknown_name, "\"" + name + "\" is no paper; there are: a4, letter, a3, roll, sheet.");
}

Result<TiledPdf> writeTiledPdf(
    const QString& path, const std::vector<Piece>& pieces, const Layout& layout, const TileOptions& options) {
  QBuffer bytes;
  bytes.open(QIODevice::WriteOnly);
  TiledPdf made;
  {
    QPdfWriter writer(&bytes);
    writer.setPageSize(pageSizeOf(options, room_of(layout)));
    writer.setPageMargins(QMarginsF(0, 0, 0, 0));
    writer.setResolution(1200);
    writer.setTitle(options.title);
    Tiler tiler(writer, pieces, layout, options);
    if (!tiler.roomy())
      return fail(Errc::out_of_range,
          "The margins leave no room for the 100 mm test square on " + std::string(name_of(options.paper)) + ".");
    made = tiler.run();
  }
  if (auto written = writePdf(path, bytes, true); !written) return fail(written);
  return made;
}

}  // namespace awl
