#include "app/stations/head/check_tray.hpp"

#include <QHeaderView>
#include <cmath>

#include "core/base/numbers.hpp"
#include "app/widgets/text.hpp"

namespace awl {
CheckTray::CheckTray(Station* station, Document& document, TrayGroup* group)
    : QObject(station), m_document(document), m_table(new QTableWidget(0, 3, station)),
      m_findings(new QLabel(station)) {
  group->addText(tr("After gluing: print the sheet, read the distances on the form, type them here."));
  auto* sheet = new QPushButton(tr("Print the check sheet\u2026"), station);
  sheet->setObjectName(QStringLiteral("check-sheet"));
  sheet->setToolTip(tr("One page: the marks in three views, and each distance with what it should read."));
  group->body()->addWidget(sheet);
  connect(sheet, &QPushButton::clicked, this, &CheckTray::sheetWanted);
  m_table->setObjectName(QStringLiteral("check-table"));
  m_table->setAccessibleName(tr("Distances on the headform as built"));
  m_table->setHorizontalHeaderLabels({tr("Distance"), tr("Should"), tr("Reads")});
  m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  m_table->verticalHeader()->hide();
  m_table->setShowGrid(false);
  m_table->setAlternatingRowColors(true);
  m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  for (int c : {1, 2})
    m_table->horizontalHeader()->setSectionResizeMode(c, QHeaderView::Fixed), m_table->setColumnWidth(c, 68);
  m_table->setMinimumHeight(250);
  group->body()->addWidget(m_table);
  connect(m_table, &QTableWidget::itemChanged, this, &CheckTray::entered);
  m_findings->setObjectName(QStringLiteral("check-findings"));
  m_findings->setWordWrap(true);
  group->body()->addWidget(m_findings);
  m_fit = station->addChoice(group, QStringLiteral("fit-to"), tr("Make wraps over"),
      tr("The form as built, if it is what you will glue and try on."),
      {{"wearer", tr("The wearer")}, {"built", tr("The form as built")}},
      [](Build& b, const std::string& id) { b.fit_to_built = id == "built"; });
}

void CheckTray::entered(QTableWidgetItem* item) {
  if (m_filling || item->column() != 2) return;
  const std::string id = m_table->item(item->row(), 0)->data(Qt::UserRole).toString().toStdString();
  const QString typed = item->text().trimmed();
  const auto refuse = [&](const QString& sentence) {
    m_filling = true;
    item->setToolTip(sentence);
    item->setForeground(QColor(0xa3, 0x26, 0x1b));
    m_filling = false;
    emit told(sentence);
  };
  std::optional<double> mm;
  if (!typed.isEmpty()) {
    const auto value = parse_length(typed.toStdString(), m_document.build().shown);
    if (!value) return refuse(qs(value.error().text));
    mm = *value;
  }
  const bool known = m_document.edit(tr("Check: %1").arg(QString::fromStdString(id)), [&](Build& next) {
    if (mm)
      next.built[id] = *mm;
    else
      next.built.erase(id);
  });
  if (!known) refuse(tr("This reading was not taken."));
}

bool CheckTray::focusDistance(const QString& id) {
  for (int row = 0; row < m_table->rowCount(); ++row) {
    if (m_table->item(row, 0)->data(Qt::UserRole).toString() != id) continue;
    m_table->setCurrentCell(row, 2);
    m_table->setFocus(Qt::OtherFocusReason);
    return true;
  }
  return false;
}

void CheckTray::show(const Build& build, const Derived& d) {
  Station::showChoice(m_fit, build.fit_to_built ? "built" : "wearer");
  m_fit->setEnabled(d.built != nullptr);
  if (!d.check) return;
  m_filling = true;
  m_table->setRowCount(static_cast<int>(d.check->distances.size()));
  for (int row = 0; row < m_table->rowCount(); ++row) {
    const BuiltDistance& distance = d.check->distances[row];
    const QString texts[] = {
        QString::fromStdString(distance.id), qs(format_length(distance.target_mm, build.shown, false)), {}};
    for (int c = 0; c < 3; ++c) {
      if (m_table->item(row, c) == nullptr) m_table->setItem(row, c, new QTableWidgetItem);
      if (c < 2)
        m_table->item(row, c)->setText(texts[c]),
            m_table->item(row, c)->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    }
    m_table->item(row, 0)->setData(Qt::UserRole, texts[0]);
    m_table->item(row, 0)->setToolTip(texts[0]);
    QTableWidgetItem* reads = m_table->item(row, 2);
    const auto given = build.built.find(distance.id);
    const QString text = given == build.built.end() ? QString() : qs(format_length(given->second, build.shown, false));
    const bool wrong = !reads->toolTip().isEmpty() && given == build.built.end();
    if (wrong) continue;
    reads->setText(text);
    reads->setToolTip({});
    reads->setData(Qt::ForegroundRole, {});
  }
  m_filling = false;
  showFindings(build, d);
}

void CheckTray::showFindings(const Build& build, const Derived& d) {
  if (!d.built)
    return m_findings->setText(
        tr("Nothing read yet. Six readings already tell the size, all of them the crookedness."));
  QString text = tr("<b>%1 of %2 read.</b>").arg(build.built.size()).arg(d.check->distances.size());
  if (d.built->findings.empty()) text += tr("<br>As it was meant, as far as these readings tell.");
  for (const Finding& f : d.built->findings) text += QStringLiteral("<br>\u25b8 ") + qs(f.sentence).toHtmlEscaped();
  m_findings->setText(text);
}

}  // namespace awl
