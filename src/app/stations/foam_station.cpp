#include "app/stations/foam_station.hpp"

#include <QGridLayout>
#include <QPushButton>

#include "core/base/numbers.hpp"

namespace awl {

FoamStation::FoamStation(Document& document, const Chain& chain, QWidget* parent)
    : Station(document, QStringLiteral("foam"), tr("Foam"), parent), m_chain(chain), m_heated(new QCheckBox(tr("Stretch the pieces with heat"), this)) {
  TrayGroup* foam = addGroup(tr("The foam"));
  std::vector<std::pair<std::string, QString>> foams;
  for (const Foam& f : chain.materials().foams) foams.push_back({f.id, QString::fromStdString(f.name)});
  m_foam = addChoice(foam, QStringLiteral("foam-kind"), tr("Kind"), tr("What the pieces are cut from. Values are workshop values; try a scrap."), foams, [&chain](Build& b, const std::string& id) {
    b.foam.foam = id;
    const auto kind = chain.materials().foam(id);
    // The nearest thickness this kind comes in.
    if (kind) b.foam.thickness_mm = *std::min_element(kind->thickness_mm.begin(), kind->thickness_mm.end(), [&](double a, double c) { return std::abs(a - b.foam.thickness_mm) < std::abs(c - b.foam.thickness_mm); });
  });
  m_thickness = addChoice(foam, QStringLiteral("foam-thickness"), tr("Thickness"), tr("Thicker foam holds its shape; the pattern grows with it."), {}, [](Build& b, const std::string& id) { b.foam.thickness_mm = std::stod(id); });
  m_heated->setObjectName(QStringLiteral("foam-heated"));
  m_heated->setToolTip(tr("Heated foam bears about twice the stretch of cold foam. Gloves, and air the room."));
  foam->body()->addWidget(m_heated);
  connect(m_heated, &QCheckBox::clicked, this, [this](bool on) {
    m_document.change(tr("Stretch with heat"), [on](const Build& b) -> Result<Build> { Build next = b; next.foam.heated = on; return next; });
  });
  TrayGroup* sheet = addGroup(tr("The sheet"));
  m_width = addLength(sheet, QStringLiteral("sheet-width"), tr("Width"), tr("Of the sheet as you buy it."), QStringLiteral("foam/sheet"), [](Build& b, double mm) { b.foam.sheet.width_mm = mm; });
  m_height = addLength(sheet, QStringLiteral("sheet-height"), tr("Height"), tr("Of the sheet as you buy it."), {}, [](Build& b, double mm) { b.foam.sheet.height_mm = mm; });
  m_gap = addLength(sheet, QStringLiteral("sheet-gap"), tr("Between pieces"), tr("Room for the knife."), QStringLiteral("foam/gap"), [](Build& b, double mm) { b.foam.gap_mm = mm; });
  m_summary = sheet->addText({});
  m_summary->setObjectName(QStringLiteral("foam-summary"));
  m_summary->setProperty("figure", true);
  TrayGroup* out = addGroup(tr("Print and cut"));
  auto* grid = new QGridLayout;
  const std::pair<const char*, QString> buttons[] = {{"pdf-a4", tr("Print pattern, A4\u2026")}, {"pdf-letter", tr("Letter\u2026")}, {"svg", tr("Save SVG\u2026")}, {"dxf", tr("Save DXF\u2026")}, {"csv", tr("Piece list\u2026")}};
  int at = 0;
  for (const auto& [kind, text] : buttons) {
    auto* button = new QPushButton(text, this);
    button->setObjectName(QStringLiteral("export-") + QLatin1String(kind));
    button->setToolTip(at < 2 ? tr("True-scale pages to glue together, with a 100 mm test square on each.") : tr("For a cutting machine or a list."));
    if (at == 0) button->setProperty("act", true);
    const QString wanted = QLatin1String(kind);
    connect(button, &QPushButton::clicked, this, [this, wanted] { emit exportWanted(wanted); });
    at == 0 ? grid->addWidget(button, 0, 0, 1, 2) : grid->addWidget(button, (at + 1) / 2, (at + 1) % 2);
    ++at;
  }
  out->body()->addLayout(grid);
  out->addText(tr("Fresh blade, cut away from the hand, inside the line you traced."));
  m_column->addStretch(1);
}

void FoamStation::offerThickness(const Build& build) {
  if (m_offered == build.foam.foam) return;
  const auto foam = m_chain.materials().foam(build.foam.foam);
  if (!foam) return;
  m_offered = build.foam.foam;
  m_thickness->clear();
  for (const double t : foam->thickness_mm) m_thickness->addItem(tr("%1 mm").arg(t), QString::number(t));
}

void FoamStation::show(const Build& build, const Derived& derived) {
  offerThickness(build);
  showChoice(m_foam, build.foam.foam);
  showChoice(m_thickness, QString::number(build.foam.thickness_mm).toStdString());
  m_heated->setChecked(build.foam.heated);
  m_width->showValue(build.foam.sheet.width_mm, build.shown);
  m_height->showValue(build.foam.sheet.height_mm, build.shown);
  m_gap->showValue(build.foam.gap_mm, build.shown);
  for (const char* kind : {"pdf-a4", "pdf-letter", "svg", "dxf", "csv"})
    findChild<QPushButton*>(QStringLiteral("export-") + QLatin1String(kind))->setEnabled(derived.layout != nullptr);
  if (!derived.layout || !derived.pieces) return m_summary->setText(tr("No sheets yet."));
  m_summary->setText(tr("%1 copies of %2 pieces on %3, %4 % of it used")
                         .arg(derived.layout->placements.size()).arg(derived.pieces->size())
                         .arg(derived.layout->sheets == 1 ? tr("1 sheet") : tr("%1 sheets").arg(derived.layout->sheets), QString::fromStdString(fixed(100.0 * derived.layout->density, 0))));
}

}  // namespace awl
