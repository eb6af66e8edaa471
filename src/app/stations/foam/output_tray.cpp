#include "app/stations/foam/output_tray.hpp"

#include <QGridLayout>

namespace awl {

OutputTray::OutputTray(Station* station)
    : QObject(station), m_station(station), m_read(new QPushButton(tr("Put it together, step by step"), station)) {
  TrayGroup* group = station->addGroup(tr("Print, cut and glue"));
  m_paper = station->addChoice(group, QStringLiteral("print-paper"), tr("Paper"),
      tr("All at exactly 1:1. Small pages are glued together letter to letter; a roll and a whole sheet are for print "
         "shops."),
      {{"a4", tr("A4 pages")}, {"a3", tr("A3 pages")}, {"letter", tr("Letter pages")},
          {"roll", tr("Roll, 610 mm wide")}, {"sheet", tr("One page a sheet")}},
      {});
  m_pages = station->addChoice(group, QStringLiteral("print-pages"), tr("Pages show"),
      tr("Patterns need the fewest pages and joins: a pair is one pattern, traced again turned over. The sheets show "
         "every copy where it lies on the foam. A roll and a whole sheet always show sheets."),
      {{"", tr("Each pattern once")}, {"-sheets", tr("The sheets as laid out")}}, {});
  QPushButton* print = addButton(
      "export-pdf", tr("Pattern as PDF\u2026"), tr("True-scale pages with a 100 mm test square on each."), [this] {
        return QStringLiteral("pdf-") + m_paper->currentData().toString() + m_pages->currentData().toString();
      });
  print->setProperty("act", true);
  group->body()->addWidget(print);
  group->body()->addWidget(addButton("print-to-printer", tr("Print to a printer\u2026"),
      tr("Choose printer and paper, print a test page first, look at the pages."),
      [] { return QStringLiteral("printer"); }));
  m_per = station->addChoice(group, QStringLiteral("file-per"), tr("Files"),
      tr("One file, or one for each sheet, part or piece, named after it."),
      {{"", tr("All in one")}, {"-sheet", tr("One a sheet")}, {"-part", tr("One a part")},
          {"-piece", tr("One a piece")}},
      {});
  m_curves = station->addChoice(group, QStringLiteral("dxf-curves"), tr("DXF curves"),
      tr("Arcs of circles stay smooth at any size. Programs that read no arcs take short straight lines."),
      {{"", tr("As arcs")}, {"-chords", tr("As short lines")}}, {});
  auto* grid = new QGridLayout;
  grid->addWidget(addButton("export-svg", tr("Save SVG\u2026"), tr("For a cutting machine or a drawing program."),
                      [this] { return QStringLiteral("svg") + m_per->currentData().toString(); }),
      0, 0);
  grid->addWidget(addButton("export-dxf", tr("Save DXF\u2026"), tr("For a cutting machine or another drawing program."),
                      [this] {
                        return QStringLiteral("dxf") + m_per->currentData().toString() +
                            m_curves->currentData().toString();
                      }),
      0, 1);
  grid->addWidget(addButton("export-csv", tr("Piece list\u2026"), tr("Pieces, sizes and notes as a table."),
                      [] { return QStringLiteral("csv"); }),
      1, 0);
  grid->addWidget(addButton("export-build-sheet", tr("Build sheet\u2026"),
                      tr("Pieces in glue order with pictures, seams, tilts, waits and cautions, to print."),
                      [] { return QStringLiteral("build-sheet"); }),
      1, 1);
  m_read->setObjectName(QStringLiteral("sheet-open"));
  m_read->setToolTip(tr("The build sheet on screen, in large type, with the glue clock at hand."));
  m_read->setProperty("act", true);
  grid->addWidget(m_read, 2, 0, 1, 2);
  connect(m_read, &QPushButton::clicked, this, &OutputTray::sheetWanted);
  group->body()->addLayout(grid);
  group->addText(tr("Fresh blade, cut away from the hand, inside the line you traced."));
}

QPushButton* OutputTray::addButton(
    const char* name, const QString& text, const QString& tip, const std::function<QString()>& kind) {
  auto* button = new QPushButton(text, m_station);
  button->setObjectName(QLatin1String(name));
  button->setToolTip(tip);
  connect(button, &QPushButton::clicked, this, [this, kind] { emit exportWanted(kind()); });
  m_files.push_back(button);
  return button;
}

void OutputTray::show(const Derived& derived) {
  for (QPushButton* b : m_files) b->setEnabled(derived.layout != nullptr);
  m_read->setEnabled(derived.pieces != nullptr);
}

}  // namespace awl
