#include "app/stations/form/seat_row.hpp"

#include <QHBoxLayout>
#include <QPushButton>

#include "core/chain/questions.hpp"
#include "print/text.hpp"

namespace awl {

SeatRow::SeatRow(Station* station, Document& document, const Chain& chain, TrayGroup* group, QLabel* said)
    : QObject(station), m_document(document), m_chain(chain), m_across(new QPushButton(tr("Copy across"), station)),
      m_put(new QPushButton(tr("Put it on a spot"), station)), m_said(said) {
  m_across->setObjectName(QStringLiteral("part-across"));
  m_across->setToolTip(tr("Of a pair: each side gets one of its own, to be made unlike. What is on it goes along."));
  m_put->setObjectName(QStringLiteral("part-spot"));
  m_put->setCheckable(true);
  m_put->setToolTip(
      tr("Then click where it is to sit: on the head, or anywhere on a part made before it. It goes along\n"
         "with that when the head changes."));
  auto* row = new QHBoxLayout;
  row->addWidget(m_put, 1);
  row->addWidget(m_across, 1);
  group->body()->addLayout(row);
  connect(m_put, &QPushButton::toggled, this, &SeatRow::wait);
  connect(m_across, &QPushButton::clicked, this, [this] {
    const int id = m_document.partAtHand();
    m_document.change(
        tr("Copy across"), [id](const Build& b) { return apply_act(b, "copy-part-across " + std::to_string(id)); });
  });
}

void SeatRow::wait(bool on) {
  m_for = on ? m_document.partAtHand() : 0;
  m_said->setText(on ? tr("Click the spot on the stand: on the head, or on a part made before this one.") : QString());
}

void SeatRow::show(const Part* part, const Derived& derived) {
  m_derived = derived;
  Part copy = part != nullptr ? *part : Part{};
  const bool seated = part != nullptr && seat_of(copy) != nullptr;
  m_across->setVisible(part != nullptr && aside_seat(*part) != nullptr);
  m_put->setVisible(seated);
  if (m_put->isChecked() && (!seated || part->id != m_for)) m_put->setChecked(false);
}

bool SeatRow::takes(const Vec3& place) {
  if (!m_put->isChecked()) return false;
  const Part* part = find_part(m_document.build(), m_document.partAtHand());
  if (part == nullptr) return false;
  auto seated = seated_at(m_chain, m_document.build(), m_derived, part->id, place, m_document.patience());
  if (!seated) return m_said->setText(qs(seated.error().text)), true;  // another click may hit
  m_put->setChecked(false);
  m_document.changePart(part->id, tr("Put on a spot"), [&](const Part&) -> Result<Part> { return *seated; });
  return true;
}

}  // namespace awl
