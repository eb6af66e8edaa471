#include "print/tiled_pdf.hpp"

#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPainterPath>
#include <QPdfWriter>
#include <array>
#include <cmath>
#include <optional>

#include "core/base/numbers.hpp"
#include "print/page.hpp"
#include "print/paint_drawing.hpp"
#include "print/pens.hpp"
#include "print/text.hpp"

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

/// A sheet or a pattern, and the pages that show it.
struct Tiled {
  Drawing drawing;
  Spread spread;
  QString title, letter;  ///< letter: before the names of its pages; of single pages their whole name
};

class Tiler {
 public:
  Tiler(QPagedPaintDevice& device, std::vector<Tiled> all, const TileOptions& options, QSizeF page)
      : device_(device), all_(std::move(all)), options_(options), page_(page) {
    area_ = QSizeF(page_.width() - 2 * options.margin_mm, page_.height() - 2 * options.margin_mm - kFooterMm);
    step_ = QSizeF(area_.width() - options.overlap_mm, area_.height() - options.overlap_mm);
  }

  TiledPdf run(const std::function<bool(int page)>& keep_going) {
    TiledPdf made{1, 0, 0, 0};
    if (!painter_.begin(&device_)) return {};
    mapPage();
    for (const Tiled& one : all_) {
      if (options_.test_only) break;
      made.joins += one.spread.joins();
      made.columns = std::max(made.columns, one.spread.columns), made.rows = std::max(made.rows, one.spread.rows);
      for (int row = 0; row < one.spread.rows; ++row)
        for (int column = 0; column < one.spread.columns; ++column) {
          if (!one.spread.uses(column, row)) continue;
          if (keep_going && !keep_going(made.pages)) return painter_.end(), made;
          device_.newPage();
          tilePage(one, column, row);
          ++made.pages;
        }
    }
    painter_.end();
    return made;
  }

 private:
  QRectF tile(int column, int row) const {
    return {column * step_.width(), row * step_.height(), area_.width(), area_.height()};
  }
  static QString name(const Tiled& one, int column, int row) {
    if (one.spread.columns * one.spread.rows == 1 && !one.letter.isEmpty()) return one.letter;
    const QString place = QString::fromStdString(letter_of(row)) + QString::number(column + 1);
    return one.letter.isEmpty() ? place : one.letter + QStringLiteral(" ") + place;
  }

  void inMillimetres() {
    painter_.save();
    const double dots = device_.logicalDpiX() / 25.4;
    painter_.scale(dots, dots);
  }

  /// Sheet coordinates (y up from the lower left) to this page.
  void tilePage(const Tiled& one, int column, int row) {
    inMillimetres();
    const QRectF t = tile(column, row);
    const QPointF corner(options_.margin_mm, options_.margin_mm);
    const QRectF frame(corner, area_);
    const TestMark mark = clearMark(one.drawing, t, frame);
    testMark(mark);
    painter_.save();
    painter_.setClipRect(frame);
    painter_.translate(corner.x() - t.left(), corner.y() + t.bottom());
    paintDrawing(painter_, one.drawing);
    painter_.restore();
    joinMarks(one, frame, column, row);
    footer(one, column, row, mark);
    painter_.restore();
  }

  /// What is measured on a page: a square, or where that has no room a line along and one up.
  struct TestMark {
    double side_mm = kTestSquareMm;
    std::optional<QPointF> square = {};  ///< its corner
    QPointF along = {}, up = {};         ///< where the lines begin
  };

  /// The whole square where no line runs through it, else half of it, else two lines as long as its sides, or half as
  /// long; where all of that is run through the whole square where the fewest lines are.
  TestMark clearMark(const Drawing& drawing, const QRectF& tile, const QRectF& frame) const {
    constexpr double kBarMm = 4.0;
    const auto place = [&](double wide, double high) { return clearPlace(drawing, tile, frame, {wide, high}); };
    const Place whole = place(kTestSquareMm, kTestSquareMm);
    if (whole.lines < 1.0) return {kTestSquareMm, whole.corner};
    const double half_mm = 0.5 * kTestSquareMm;
    if (const Place half = place(half_mm, half_mm); half.lines < 1.0) return {half_mm, half.corner};
    for (const double side : {kTestSquareMm, half_mm}) {
      const Place along = place(side, kBarMm);
      const Place up =
          clearPlace(drawing, tile, frame, {kBarMm, side}, {along.corner, QSizeF(side, kBarMm)});  // not across it
      if (along.lines < 1.0 && up.lines < 1.0)
        return {side, {}, along.corner + QPointF(0.0, kBarMm - 1.0), up.corner + QPointF(kBarMm - 1.0, side)};
    }
    return {kTestSquareMm, whole.corner};
  }

  struct Place {
    QPointF corner;
    double lines = 0.0;  ///< run through it
  };
  /// Where on a page something of a size has the fewest lines through it.
  Place clearPlace(const Drawing& drawing, const QRectF& tile, const QRectF& frame, const QSizeF& size,
      const QRectF& taken = {}) const {
    constexpr double kGridMm = 2.5, kPlacesMm = 1.0, kClearMm = 3.0;
    const int wide = static_cast<int>(frame.width() / kGridMm), high = static_cast<int>(frame.height() / kGridMm);
    std::vector<int> hits(static_cast<std::size_t>(wide * high), 0);
    const auto hit = [&](const Vec2& p) {
      const int x = static_cast<int>(std::floor((p.x() - tile.left()) / kGridMm)),
                y = static_cast<int>(std::floor((tile.bottom() - p.y()) / kGridMm));
      if (x >= 0 && y >= 0 && x < wide && y < high) hits[static_cast<std::size_t>(y * wide + x)] = 1;
    };
    for (const Mark& m : drawing.marks) {
      if (m.layer == Layer::sheet) continue;
      const double wide_mm = m.line.empty() ? text_width_mm(m.text, m.height_mm) : 0.0;
      const Vec2 on(std::cos(m.angle_rad), std::sin(m.angle_rad)), over(-on.y(), on.x());
      for (double up = -0.7 * m.height_mm; m.line.empty() && up <= 0.7 * m.height_mm; up += kPlacesMm)
        for (double along = -0.5 * wide_mm; along <= 0.5 * wide_mm; along += kPlacesMm)
          hit(m.at + along * on + up * over);
      const std::size_t n = m.line.size();
      for (std::size_t i = 0; i + (m.closed ? 0 : 1) < n; ++i) {
        const Vec2 &a = m.line[i], &b = m.line[(i + 1) % n];
        const int steps = std::max(1, static_cast<int>(std::ceil((b - a).norm() / kPlacesMm)));
        for (int k = 0; k <= steps; ++k) hit(a + (b - a) * k / steps);
      }
    }
    for (int y = 0; y < high && !taken.isEmpty(); ++y)
      for (int x = 0; x < wide; ++x)
        if (taken.intersects(QRectF(frame.topLeft() + kGridMm * QPointF(x, y), QSizeF(kGridMm, kGridMm))))
          hits[static_cast<std::size_t>(y * wide + x)] = 1;
    // Sums of all hits above and to the left: what lies in a rectangle is told by its four corners.
    std::vector<int> sums(static_cast<std::size_t>((wide + 1) * (high + 1)), 0);
    const auto sum = [&](int x, int y) -> int& { return sums[static_cast<std::size_t>(y * (wide + 1) + x)]; };
    for (int y = 0; y < high; ++y)
      for (int x = 0; x < wide; ++x)
        sum(x + 1, y + 1) = hits[static_cast<std::size_t>(y * wide + x)] + sum(x, y + 1) + sum(x + 1, y) - sum(x, y);
    const int w = static_cast<int>(std::ceil((size.width() + kClearMm) / kGridMm)),
              h = static_cast<int>(std::ceil((size.height() + kClearMm) / kGridMm));
    Place best{frame.center() - QPointF(0.5 * size.width(), 0.5 * size.height()), 1e300};
    for (int y = 0; y + h <= high; ++y)
      for (int x = 0; x + w <= wide; ++x) {
        const double cost = 1e-3 * std::hypot(x - 0.5 * (wide - w), y - 0.5 * (high - h)) + sum(x + w, y + h) -
            sum(x, y + h) - sum(x + w, y) + sum(x, y);
        if (cost < best.lines)
          best.lines = cost,
          best.corner = frame.topLeft() + QPointF(x * kGridMm + 0.5 * kClearMm, y * kGridMm + 0.5 * kClearMm);
      }
    return best;
  }

  void testMark(const TestMark& mark) {
    const QColor colour = QColor::fromRgb(kTestSquareColour);
    painter_.setBrush(Qt::NoBrush);
    painter_.setPen(QPen(colour, 0.12, Qt::SolidLine, Qt::SquareCap, Qt::MiterJoin));
    const long side = std::lround(mark.side_mm);
    if (mark.square) {
      const QRectF square(*mark.square, QSizeF(mark.side_mm, mark.side_mm));
      painter_.drawRect(square);
      paintText(painter_, printed("test square: %1 mm").arg(side), {square.center().x(), square.bottom() - 2.2}, 2.0,
          0.0, colour);
      return;
    }
    // With the same ends as a square's side, so that a rule is laid on alike.
    constexpr double kEndMm = 1.0, kUpwardsDeg = -90.0;
    for (const bool up : {false, true}) {
      const QPointF from = up ? mark.up : mark.along,
                    step = up ? QPointF(0.0, -mark.side_mm) : QPointF(mark.side_mm, 0),
                    end = up ? QPointF(kEndMm, 0.0) : QPointF(0.0, kEndMm);
      painter_.drawLine(from, from + step);
      for (const QPointF& at : {from, from + step}) painter_.drawLine(at - end, at + end);
      const QPointF middle = from + 0.5 * step + (up ? QPointF(-1.4, 0.0) : QPointF(0.0, -1.0));
      paintText(painter_, printed("test line: %1 mm").arg(side), middle, 1.6, up ? kUpwardsDeg : 0.0, colour);
    }
  }

  /// Dashed overlap lines where a page is glued on, with half diamonds that close with the neighbour's.
  void joinMarks(const Tiled& one, const QRectF& frame, int column, int row) {
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
    const auto both = [&](int c, int r, int c2, int r2) { return name(one, c, r) + "+" + name(one, c2, r2); };
    for (const double f : {0.2, 0.8}) {
      const double y = frame.top() + f * frame.height(), x = frame.left() + f * frame.width();
      if (one.spread.uses(column - 1, row)) diamond({frame.left() + 0.5 * o, y}, both(column - 1, row, column, row));
      if (one.spread.uses(column + 1, row)) diamond({frame.right() - 0.5 * o, y}, both(column, row, column + 1, row));
      if (one.spread.uses(column, row - 1)) diamond({x, frame.bottom() - 0.5 * o}, both(column, row - 1, column, row));
      if (one.spread.uses(column, row + 1)) diamond({x, frame.top() + 0.5 * o}, both(column, row, column, row + 1));
    }
  }

  void footer(const Tiled& one, int column, int row, const TestMark& mark) {
    const double y = page_.height() - options_.margin_mm - kFooterMm + 3.0, x = options_.margin_mm;
    const auto left = [&](const QString& text, double line, double height, bool bold) {
      paintText(painter_, text, {x + 0.5 * textWidth(text, height, bold), y + line}, height, 0.0, kInk, bold);
    };
    left(name(one, column, row), 5.0, 6.0, true);
    left(QStringLiteral("%1, %2").arg(options_.title, one.title), 12.0, 2.4, false);
    const QString measure = mark.square ? printed("Print at 100 %. Measure the square first: %1 mm each way.")
                                        : printed("Print at 100 %. Measure both test lines first: %1 mm each.");
    left(measure.arg(std::lround(mark.side_mm)), 16.0, 2.2, false);
    const double h = kFooterMm - 5.0, w = std::min(h * one.spread.room.width_mm / one.spread.room.height_mm, 70.0);
    map(one, QRectF(page_.width() - options_.margin_mm - w, y, w, h), column, row, false);
  }

  void map(const Tiled& one, const QRectF& place, int column, int row, bool named) {
    const SheetSize& room = one.spread.room;
    const double scale = std::min(place.width() / room.width_mm, place.height() / room.height_mm);
    painter_.save();
    painter_.translate(place.left(), place.top() + scale * room.height_mm);
    painter_.scale(scale, scale);
    DrawingStyle style;
    style.cut_mm = style.thin_mm = 0.12 / scale;
    style.fill = QColor(0xee, 0xe8, 0xda);
    Drawing outlines;
    for (const Mark& m : one.drawing.marks)
      if (m.layer == Layer::cut || m.layer == Layer::fold || m.layer == Layer::sheet) outlines.marks.push_back(m);
    for (int r = 0; r < one.spread.rows; ++r)
      for (int c = 0; c < one.spread.columns; ++c)
        if (one.spread.uses(c, r)) mapTile(room, c, r, c == column && r == row, scale);
    paintDrawing(painter_, outlines, style);
    for (int r = 0; named && r < one.spread.rows; ++r)
      for (int c = 0; c < one.spread.columns; ++c)
        if (one.spread.uses(c, r))
          paintText(painter_, name(one, c, r), mapBox(room, c, r).center(), std::min(3.0 / scale, 0.12 * step_.width()),
              0.0, QColor(0x8a, 0x3b, 0x12), true);
    painter_.restore();
  }

  /// The part of the sheet that a page adds, y downwards.
  QRectF mapBox(const SheetSize& room, int c, int r) const {
    const QPointF low(c * step_.width(), r * step_.height());
    const double w = std::min(step_.width(), room.width_mm - low.x()),
                 h = std::min(step_.height(), room.height_mm - low.y());
    return {low.x(), -low.y() - h, w, h};
  }

  void mapTile(const SheetSize& room, int c, int r, bool here, double scale) {
    const QRectF box = mapBox(room, c, r);
    if (here) painter_.fillRect(box, QColor(0xf2, 0xc1, 0x4e));
    painter_.setPen(QPen(kSquareFaint, 0.1 / scale));
    painter_.setBrush(Qt::NoBrush);
    painter_.drawRect(box);
  }

  /// Where each map goes at this scale, in rows; empty if they need more height.
  std::vector<QRectF> mapPlaces(double scale, const QRectF& room) const {
    constexpr double kBetweenMm = 5.0, kTitleMm = 6.0;
    std::vector<QRectF> places;
    double x = room.left(), y = room.top(), row = 0.0;
    for (const Tiled& one : all_) {
      const QSizeF size(scale * one.spread.room.width_mm, scale * one.spread.room.height_mm);
      if (x > room.left() && x + size.width() > room.right())
        x = room.left(), y += row + kBetweenMm + kTitleMm, row = 0.0;
      if (size.width() > room.width() || y + kTitleMm + size.height() > room.bottom()) return {};
      places.push_back({QPointF(x, y + kTitleMm), size});
      x += size.width() + kBetweenMm, row = std::max(row, size.height());
    }
    return places;
  }

  void mapPage() {
    inMillimetres();
    const double left = options_.margin_mm + 4.0, width = page_.width() - 2 * left;
    paintText(painter_, options_.title, {0.5 * page_.width(), 22.0}, 6.0, 0.0, kInk, true);
    paintText(painter_,
        printed("Map of the pages. Print all at 100 %, measure the test square, then glue them letter to letter."),
        {0.5 * page_.width(), 32.0}, 2.6, 0.0, kInk);
    paintText(painter_,
        printed("Blades: fresh, cut away from the hand. Nothing made from this is protective headgear."),
        {0.5 * page_.width(), 38.0}, 2.6, 0.0, kInk);
    const double square = page_.height() - kFooterMm - 108.0;
    const QRectF room(left, 44.0, width, std::max(30.0, square - 48.0));
    constexpr double kLeastScale = 0.004, kSmaller = 0.93;
    double scale = 0.2;
    std::vector<QRectF> places = mapPlaces(scale, room);
    while (places.empty() && !all_.empty() && scale > kLeastScale) places = mapPlaces(scale *= kSmaller, room);
    for (std::size_t i = 0; i < places.size(); ++i) {
      if (all_[i].letter.isEmpty())
        paintText(painter_, all_[i].title, {places[i].left() + 14.0, places[i].top() - 2.6}, 2.4, 0.0, kInk, true);
      map(all_[i], places[i], -1, -1, true);
    }
    testMark({kTestSquareMm, QPointF(left + 0.5 * (width - kTestSquareMm), square)});
    painter_.restore();
  }

  QPagedPaintDevice& device_;
  std::vector<Tiled> all_;
  TileOptions options_;
  QPainter painter_;
  QSizeF page_, area_, step_;
};

/// The sheets of a layout, each over pages of this size.
std::vector<Tiled> tiledSheets(const std::vector<Piece>& pieces, const Layout& layout, const PaperPage& page) {
  const SheetSize room = room_of(layout);
  const double across = page.width_mm - page.overlap_mm, up = page.height_mm - page.overlap_mm;
  const auto tilesFor = [&](double length, double step) {
    return std::max(1, static_cast<int>(std::ceil((length - page.overlap_mm) / step)));
  };
  std::vector<Tiled> all;
  for (int s = 0; s < layout.sheets; ++s) {
    Tiled one;
    one.drawing = draw_sheet(pieces, layout, s);
    one.title = printed("sheet %1 of %2").arg(s + 1).arg(layout.sheets);
    one.spread.room = room;
    one.spread.columns = tilesFor(room.width_mm, across), one.spread.rows = tilesFor(room.height_mm, up);
    for (int row = 0; row < one.spread.rows; ++row)
      for (int column = 0; column < one.spread.columns; ++column) {
        const QRectF t(column * across, row * up, page.width_mm, page.height_mm);
        one.spread.used.push_back(std::any_of(one.drawing.marks.begin(), one.drawing.marks.end(),
            [&](const Mark& m) { return m.layer == Layer::cut && bounds(m).intersects(t); }));
      }
    all.push_back(std::move(one));
  }
  return all;
}

Result<std::vector<Tiled>> tiledPatterns(
    const std::vector<Piece>& pieces, const PaperPage& page, const std::function<std::string(const Piece&)>& part_of) {
  auto spreads = spread_on_paper(pieces, page, part_of);
  if (!spreads) return fail(spreads);
  std::vector<Tiled> all;
  for (Spread& s : *spreads) {
    Tiled one;
    one.drawing = drawing_of(s, pieces);
    one.title = qs(s.title), one.letter = QString::number(all.size() + 1);
    one.spread = std::move(s);
    all.push_back(std::move(one));
  }
  return all;
}

}  // namespace

const char* name_of(Paper paper) { return kPapers[static_cast<std::size_t>(paper)]; }

Result<Paper> paperFrom(const std::string& name) {
  for (std::size_t i = 0; i < kPapers.size(); ++i)
    if (name == kPapers[i]) return static_cast<Paper>(i);
  return fail(Errc::unknown_name, "\"" + name + "\" is no paper; there are: a4, letter, a3, roll, sheet.");
}

const char* name_of(PagesOf what) { return what == PagesOf::patterns ? "patterns" : "sheets"; }

Result<PagesOf> pagesOf(const std::string& name) {
  for (const PagesOf what : {PagesOf::patterns, PagesOf::sheets})
    if (name == name_of(what)) return what;
  return fail(Errc::unknown_name, "Pages show patterns or sheets, not \"" + name + "\".");
}

Result<TiledPdf> printTiled(QPagedPaintDevice& device, const std::vector<Piece>& pieces, const Layout& layout,
    const TileOptions& options, const std::function<bool(int page)>& keep_going) {
  const QSizeF paper = options.page_mm.isValid() ? options.page_mm : pageOf(options, room_of(layout));
  const PaperPage page{
      paper.width() - 2 * options.margin_mm, paper.height() - 2 * options.margin_mm - kFooterMm, options.overlap_mm};
  if (std::min(page.width_mm, page.height_mm) - page.overlap_mm < kTestSquareMm)
    return fail(Errc::out_of_range,
        "The margins leave no room for the 100 mm test square on " +
            (options.page_mm.isValid() ? fixed(paper.width(), 0) + " x " + fixed(paper.height(), 0) + " mm"
                                       : std::string(name_of(options.paper))) +
            ".");
  const bool patterns =
      options.of == PagesOf::patterns && options.paper != Paper::roll && options.paper != Paper::sheet;
  auto all = patterns ? tiledPatterns(pieces, page, options.part_of)
                      : Result<std::vector<Tiled>>(tiledSheets(pieces, layout, page));
  if (!all) return fail(all);
  const TiledPdf made = Tiler(device, std::move(*all), options, paper).run(keep_going);
  if (made.pages == 0) return fail(Errc::cannot_write, "The printer took nothing; is it switched on and known?");
  return made;
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
    const auto painted = printTiled(writer, pieces, layout, options);
    if (!painted) return fail(painted);
    made = *painted;
  }
  if (auto written = writePdf(path, bytes, true); !written) return fail(written);
  return made;
}

}  // namespace awl
