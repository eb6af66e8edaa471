#include "app/stations/tape_station.hpp"

#include <QApplication>

namespace awl {

TapeStation::TapeStation(Document& document, QWidget* parent) : Station(document, QStringLiteral("tape"), tr("Tape"), parent) {
  using M = MeasureId;
  TrayGroup* first = addGroup(tr("Measure these first"));
  first->addText(tr("Tape snug, not tight, hair pressed flat. Type 57 cm, 22 1/2 in or 570; leave out what you do not know."));
  for (const M id : {M::HC, M::HL, M::HB, M::TOP, M::FH, M::NC}) addMeasure(first, id);
  TrayGroup* skull = addGroup(tr("More of the skull"), false);
  for (const M id : {M::BNA, M::EEF, M::EEB, M::CCC, M::HH, M::TW, M::HBL, M::HBR}) addMeasure(skull, id);
  TrayGroup* face = addGroup(tr("Face and ears"), false);
  for (const M id : {M::FW, M::JW, M::PD, M::NP, M::CE, M::EH, M::EP, M::EHL, M::EHR, M::EPL, M::EPR, M::CEL, M::CER}) addMeasure(face, id);
  m_how = new QLabel(this);
  m_how->setObjectName(QStringLiteral("how"));
  m_how->setWordWrap(true);
  m_how->setMinimumHeight(64);
  m_how->setAlignment(Qt::AlignTop);
  m_column->addWidget(m_how);
  m_column->addStretch(1);
  connect(qApp, &QApplication::focusChanged, this, [this](QWidget*, QWidget* now) {
    for (const auto& [id, field] : m_fields)
      if (field == now) m_how->setText(QStringLiteral("<b>%1.</b> %2").arg(QLatin1String(facts_of(id).name), QLatin1String(facts_of(id).how)));
  });
}

void TapeStation::addMeasure(TrayGroup* group, MeasureId id) {
  const MeasureFacts& f = facts_of(id);
  LengthField* field = addLength(group, QStringLiteral("measure-") + QLatin1String(f.code), QLatin1String(f.name), QLatin1String(f.how), QLatin1String(f.code),
                                 [id](Build& b, double mm) { b.measures[id] = mm; });
  field->setMinimumWidth(128);
  connect(field, &LengthField::emptied, this, [this, field, id] {
    submit(field, tr("Leave out %1").arg(QLatin1String(facts_of(id).name)), [id](const Build& b) -> Result<Build> {
      Build next = b;
      next.measures.erase(id);
      return next;
    });
  });
  m_fields[id] = field;
}

void TapeStation::show(const Build& build, const Derived& derived) {
  for (const auto& [id, field] : m_fields) {
    const auto given = build.measures.find(id);
    field->showValue(given == build.measures.end() ? std::nullopt : std::optional(given->second), build.shown);
    if (derived.head) field->showEstimate(derived.head->reading(id).reads_mm, derived.head->reading(id).band_mm);
  }
}

}  // namespace awl
