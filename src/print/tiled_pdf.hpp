#pragma once
#include <QPagedPaintDevice>
#include <QSizeF>
#include <QString>

#include "core/stock/paper.hpp"

namespace awl {

/// Sheets of paper to glue together, a roll as wide as plotters have, or one page as large as the foam.
enum class Paper { a4, letter, a3, roll, sheet };
const char* name_of(Paper paper);                  ///< "a4", "letter", "a3", "roll", "sheet"
Result<Paper> paperFrom(const std::string& name);  ///< Errors: unknown_name

/// What lies on pages to glue together: the patterns, each once and whole where it fits one; or the sheets of foam, all
/// copies as they are laid out. A roll and a whole sheet show sheets.
enum class PagesOf { patterns, sheets };
const char* name_of(PagesOf what);                 ///< "patterns", "sheets"
Result<PagesOf> pagesOf(const std::string& name);  ///< Errors: unknown_name

struct TileOptions {
  Paper paper = Paper::a4;
  PagesOf of = PagesOf::sheets;
  std::function<std::string(const Piece&)> part_of = {};  ///< patterns of one part share pages
  double margin_mm = 8.0;                                 ///< most printers reach that far
  double overlap_mm = 10.0;                               ///< shared by neighbouring pages
  double roll_mm = 610.0;                                 ///< width of a roll
  QSizeF page_mm = {};                                    ///< of a printer's own paper, in place of `paper`
  bool test_only = false;                                 ///< the first page alone, to measure its square
  QString title = {};
};

struct TiledPdf {
  int pages = 0;
  int joins = 0;              ///< neighbouring pages to glue together
  int columns = 0, rows = 0;  ///< of the largest, empty tiles counted
};

/// Patterns or sheets at exactly 1:1 on pages to glue together, after a page with the map of all pages.
///
/// Every page carries a 100 mm test square where no line runs through it, or one of half that side, or two test lines;
/// join marks in its overlaps, its place in the map and what lies on it. Pages with nothing to cut are left out.
/// Errors: cannot_write; out_of_range when a page has no room.
Result<TiledPdf> writeTiledPdf(
    const QString& path, const std::vector<Piece>& pieces, const Layout& layout, const TileOptions& options);

/// The same on a printer, or its preview, whose page is `page_mm` and whose whole paper is painted on. False for
/// `keep_going` stops after a page. Errors: out_of_range as above; cannot_write if the device takes nothing.
Result<TiledPdf> printTiled(QPagedPaintDevice& device, const std::vector<Piece>& pieces, const Layout& layout,
    const TileOptions& options, const std::function<bool(int page)>& keep_going = {});

/// Colour of the test square; nothing else on the pages has it.
inline constexpr unsigned kTestSquareColour = 0x1f6f8b;
inline constexpr double kTestSquareMm = 100.0;

}  // namespace awl
