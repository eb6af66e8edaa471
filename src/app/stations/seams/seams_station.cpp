#include "app/stations/seams/seams_station.hpp"

#include <QHeaderView>
#include <QPainter>
#include <QSignalBlocker>
#include <cmath>

#include "app/stand/ramp.hpp"
#include "app/widgets/pick_table.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "print/text.hpp"

namespace awl {

StrainLegend::StrainLegend(QWidget* parent) : QWidget(parent) { setTypeHeight(*this, 46, 46); }

void StrainLegend::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  paintRamp(painter, QRectF(0, 0, width(), 16));
  painter.setPen(palette().color(QPalette::WindowText));
  const double side = 0.27 * width(), high = height() - 22.0;
  drawFitted(painter, QRectF(0, 19, side, high), Qt::AlignLeft, tr("squeezed"));
  drawFitted(painter, QRectF(side, 19, width() - 2.0 * side, high), Qt::AlignHCenter, tr("| the foam's limit |"));
  drawFitted(painter, QRectF(width() - side, 19, side, high), Qt::AlignRight, tr("stretched"));
}

namespace {

/// The wrap whose seams the tray shows: the one at hand, or the first there is.
const Part* wrapAtHand(const Build& build, const Document& document) {
  const Part* part = find_part(build, document.partAtHand());
  if (part != nullptr && std::holds_alternative<WrapSpec>(part->shape)) return part;
  for (const Part& p : build.parts)
    if (std::holds_alternative<WrapSpec>(p.shape)) return &p;
  return nullptr;
}

}  // namespace

SeamsStation::SeamsStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("seams"), tr("Seams"), parent),
      m_seams(new DialFields(this, dial_facts<SeamSpec>(),
          [&document = place.document] {
            const Part* wrap = wrapAtHand(document.build(), document);
            return wrap != nullptr ? "parts/" + std::to_string(wrap->id) + "/seams" : std::string();
          })),
      m_apart(new QCheckBox(tr("Show the pieces apart"), this)), m_table(new QTableWidget(0, 2, this)),
      m_summary(new QLabel(this)) {
  Document& document = place.document;
  const Chain& chain = place.chain;
  addDrawer(QStringLiteral("cut"), tr("Cut"), tr("Where seams run by rule."));
  TrayGroup* where = addGroup(tr("Where it is cut"));
  m_headform =
      where->addText(tr("Now making the headform itself: how it is cut is chosen at Head, under \u201cBuild it in "
                        "foam\u201d. These seams are for what is worn."));
  m_headform->setObjectName(QStringLiteral("seams-headform"));
  m_preset = m_seams->add<QComboBox>(where, QStringLiteral("seam-preset"), "preset");
  m_gores = m_seams->add<QSpinBox>(where, QStringLiteral("gores"), "gores");
  m_middle = m_seams->add<LengthField>(where, QStringLiteral("middle-width"), "middle");
  m_belt = m_seams->add<QCheckBox>(where, QStringLiteral("belt"), "belt");
  m_beltUp = m_seams->add<LengthField>(where, QStringLiteral("belt-up"), "belt-up");
  leadTo(m_middle, QStringLiteral("seams/middle"));
  leadTo(m_beltUp, QStringLiteral("seams/belt-up"));
  m_apart->setObjectName(QStringLiteral("pieces-apart"));
  m_apart->setToolTip(
      tr("Every piece drawn away from its neighbours, with its number and the letters of its seams: to see what meets "
         "what before gluing."));
  where->body()->addWidget(m_apart);
  connect(m_apart, &QCheckBox::toggled, this, [this] { emit standChanged(); });
  addDrawer(QStringLiteral("lines"), tr("Lines"), tr("Seams and lines of your own, suggestions and darts."));
  m_lines = new LineTray(this, document, chain);
  connect(m_lines, &LineTray::gripText, this, &Station::gripText);
  addDrawer(QStringLiteral("strain"), tr("Strain"), tr("How far each panel must give."));
  TrayGroup* strain = addGroup(tr("How far the foam must give"));
  strain->body()->addWidget(new StrainLegend(this));
  m_summary->setObjectName(QStringLiteral("strain-summary"));
  m_summary->setWordWrap(true);
  strain->body()->addWidget(m_summary);
  m_table->setObjectName(QStringLiteral("strain-table"));
  m_table->setAccessibleName(tr("Strain of each panel"));
  m_table->setHorizontalHeaderLabels({tr("Piece"), tr("Must give")});
  asPickTable(m_table);
  m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  m_table->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  setTypeHeight(*m_table, 250, QWIDGETSIZE_MAX);
  strain->body()->addWidget(m_table);
  connect(m_table, &QTableWidget::cellClicked, this, [this](int row, int) {
    const int panel = m_table->item(row, 0)->data(Qt::UserRole).toInt();
    m_lines->panelChosen(panel);
    emit panelChosen(panel);
  });
  addDrawer(QStringLiteral("glue"), tr("Glue-up"), tr("What comes out when the flat pieces are glued."));
  m_glue = new GlueTray(this, document, chain);
  addDrawer(QStringLiteral("alter"), tr("Alter"), tr("Take in, let out, and what was cut on the foam."));
  m_alter = new AlterTray(this, document);
  addDrawer(QStringLiteral("versions"), tr("Versions"), tr("Keep this state, go back, compare."));
  m_versions = new VersionTray(this, document, chain);
  m_column->addStretch(1);
}

StandChoice SeamsStation::standChoice() const {
  StandChoice choice{true, true, true, true};
  if (m_apart->isChecked())
    choice.apart_mm = 55.0, choice.strain = choice.seams = false;
  else
    m_lines->apply(choice), m_glue->apply(choice), m_versions->apply(choice);
  return choice;
}

void SeamsStation::show(const Build& build, const Derived& derived) {
  const Part* wrap = wrapAtHand(build, m_document);
  const SeamSpec seams = wrap != nullptr ? wrap->seams : SeamSpec{};
  const bool gores = seams.preset == SeamPreset::gores, hood = build.making == Making::parts && wrap != nullptr;
  m_headform->setVisible(!hood);
  if (build.making == Making::parts)
    m_headform->setText(tr(
        "Nothing here is wrapped in tape. How rings, sweeps and plates are cut is set at Form, with the part itself."));
  else
    m_headform->setText(
        tr("Now making the headform itself: how it is cut is chosen at Head, under \u201cBuild it in foam\u201d. These "
           "seams are for what is worn."));
  m_preset->setEnabled(hood);
  m_seams->show(build);
  m_gores->setEnabled(gores && hood);
  m_belt->setEnabled(hood && seams.preset != SeamPreset::none);
  m_middle->setEnabled(hood && seams.preset == SeamPreset::side_middle_side);
  m_lines->show(build, derived);
  m_glue->show(derived);
  m_alter->show(build, derived);
  m_versions->show(build, derived);
  m_beltUp->setEnabled(seams.belt && hood && seams.preset != SeamPreset::none);
  showTable(build, derived);
}

void SeamsStation::showTable(const Build& build, const Derived& derived) {
  if (!derived.panels || !derived.pieces) return;
  m_table->setRowCount(static_cast<int>(derived.pieces->size()));
  double worst = 0.0;
  for (int row = 0; row < m_table->rowCount(); ++row) {
    const Piece& piece = (*derived.pieces)[row];
    if (piece.panel.value >= static_cast<int>(derived.panels->panels.size())) return;
    Strain strain;
    for (const PanelId id : piece.panels())
      if (const Strain& one = derived.panels->panels[id.value].strain; one.p99 > strain.p99) strain = one;
    worst = std::max(worst, strain.p99);
    auto* name =
        new QTableWidgetItem(QStringLiteral("%1  %2").arg(piece.number).arg(QString::fromStdString(piece.name)));
    name->setData(Qt::UserRole, piece.panel.value);
    name->setToolTip(qs(piece.heat_note));
    m_table->setItem(row, 0, name);
    m_table->setItem(row, 1,
        new QTableWidgetItem(piece.panel.valid()
                ? QStringLiteral("%1 %").arg(QString::fromStdString(fixed(100.0 * strain.p99, 1)))
                : tr("flat")));
  }
  m_summary->setText(
      tr("%1 pieces to cut, %2 of seam. The worst must give by %3 %.")
          .arg(derived.panels->panels.size())
          .arg(QString::fromStdString(format_length(std::round(derived.panels->seam_total_mm()), build.shown)),
              QString::fromStdString(fixed(100.0 * worst, 1))));
}

bool SeamsStation::knowsAct(const QString& act) const {
  return act.startsWith(QLatin1String("add-darts ")) || act.startsWith(QLatin1String("move-seams ")) ||
      act == QLatin1String("draw-colour-line");
}

void SeamsStation::carryOut(const QString& act) {
  drawers().setOpen(QStringLiteral("lines"));
  if (act.startsWith(QLatin1String("add-darts "))) return m_lines->addDarts(act.mid(10).toInt());
  if (act == QLatin1String("draw-colour-line")) return m_lines->drawFor(LineRole::colours);
  m_document.takeInHand(act.mid(11).toInt());
  m_lines->freeSeams();
}

}  // namespace awl
