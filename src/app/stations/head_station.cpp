#include "app/stations/head_station.hpp"

#include <QHeaderView>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

HeadStation::HeadStation(Document& document, QWidget* parent)
    : Station(document, QStringLiteral("head"), tr("Head"), parent), m_table(new QTableWidget(kMeasureCount, 2, this)), m_summary(new QLabel(this)) {
  TrayGroup* group = addGroup(tr("What a tape on it reads"));
  m_summary->setObjectName(QStringLiteral("head-summary"));
  m_summary->setWordWrap(true);
  group->body()->addWidget(m_summary);
  m_table->setObjectName(QStringLiteral("head-readings"));
  m_table->setAccessibleName(tr("Readings of the headform"));
  m_table->setHorizontalHeaderLabels({tr("Measure"), tr("Reads")});
  m_table->verticalHeader()->hide();
  m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  m_table->setSelectionMode(QAbstractItemView::NoSelection);
  m_table->setFocusPolicy(Qt::StrongFocus);
  m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  m_table->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  m_table->setMinimumHeight(430);
  for (int i = 0; i < kMeasureCount; ++i)
    for (int column = 0; column < 2; ++column) m_table->setItem(i, column, new QTableWidgetItem(column == 0 ? QString(QLatin1String(measure_facts()[i].name)) : QString()));
  group->body()->addWidget(m_table);
  m_column->addStretch(1);
}

void HeadStation::show(const Build& build, const Derived& derived) {
  if (!derived.head) return;
  double furthest = 0.0;
  int given = 0;
  for (int i = 0; i < kMeasureCount; ++i) {
    const Reading& r = derived.head->readings[i];
    const auto text = [&](double mm) { return QString::fromStdString(format_length(mm, build.shown)); };
    const QString band = QString::fromStdString(format_length(std::max(1.0, std::round(r.band_mm)), build.shown, false));
    m_table->item(i, 1)->setText(r.given ? tr("%1 \u2713 tape").arg(text(r.reads_mm)) : tr("%1 \u00b1 %2").arg(text(std::round(r.reads_mm)), band));
    QFont font = m_table->font();
    font.setItalic(!r.given);
    for (int column = 0; column < 2; ++column) m_table->item(i, column)->setFont(font);
    if (r.given) ++given, furthest = std::max(furthest, std::abs(r.given_mm - r.reads_mm));
  }
  m_summary->setText(tr("%1 of %2 measures are from the tape; the headform meets them within %3 mm. Slanted rows are estimated.")
                         .arg(given).arg(kMeasureCount).arg(QString::fromStdString(fixed(std::max(0.1, furthest), 1))));
}

}  // namespace awl
