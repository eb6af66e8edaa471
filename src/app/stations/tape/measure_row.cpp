#include "app/stations/tape/measure_row.hpp"
#include "print/text.hpp"

#include <QGridLayout>

namespace awl {

MeasureRow::MeasureRow(const MeasureFacts& facts, QWidget* parent)
    : QWidget(parent), m_name(new QLabel(qs(facts.name), this)), m_sentence(new QLabel(this)), m_note(new QLabel(this)),
      m_field(new LengthField(QStringLiteral("measure-") + QLatin1String(facts.code), qs(facts.name),
          QStringLiteral("%1\n%2").arg(qs(facts.how), qs(facts.decides)), this)),
      m_plain(qs(facts.name)) {
  setObjectName(QStringLiteral("row-") + QLatin1String(facts.code));
  m_name->setWordWrap(true);
  m_name->setBuddy(m_field);
  m_name->setToolTip(m_field->toolTip());
  m_field->setFixedWidth(158);
  m_sentence->setObjectName(m_field->objectName() + QStringLiteral("-sentence"));
  m_sentence->setProperty("sentence", true);
  m_note->setObjectName(m_field->objectName() + QStringLiteral("-note"));
  m_note->setProperty("quiet", true);
  for (QLabel* label : {m_sentence, m_note}) label->setWordWrap(true), label->hide();
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setHorizontalSpacing(8);
  grid->setVerticalSpacing(2);
  grid->setColumnStretch(0, 1);
  grid->addWidget(m_name, 0, 0);
  grid->addWidget(m_field, 0, 1);
  grid->addWidget(m_sentence, 1, 0, 1, 2);
  grid->addWidget(m_note, 2, 0, 1, 2);
  connect(m_field, &LengthField::sentenceChanged, this, [this](const QString& text) {
    m_sentence->setText(text);
    m_sentence->setVisible(!text.isEmpty());
  });
}

void MeasureRow::setNext(bool next) {
  m_name->setText(next ? QStringLiteral("<b>\u2192 %1</b>").arg(m_plain) : m_plain);
}

void MeasureRow::setNote(const QString& note) {
  m_note->setText(note);
  m_note->setVisible(!note.isEmpty());
}

}  // namespace awl
