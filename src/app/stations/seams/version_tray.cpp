#include "app/stations/seams/version_tray.hpp"
#include "app/widgets/text.hpp"
#include "app/widgets/theme.hpp"

#include <QDate>
#include <QHeaderView>
#include <QSignalBlocker>
#include <algorithm>
#include <cmath>

namespace awl {
VersionTray::VersionTray(Station* station, Document& document, const Chain& chain)
    : QObject(station), m_station(station), m_document(document), m_chain(chain), m_name(new QLineEdit(station)),
      m_note(new QLineEdit(station)), m_table(new QTableWidget(0, 3, station)),
      m_show(new QCheckBox(tr("Lay it over what is now"), station)), m_said(nullptr),
      m_search(this, [this](const Result<Difference>& found) { compared(found); }) {
  TrayGroup* group = station->addGroup(tr("Versions of the pattern"));
  m_name->setObjectName(QStringLiteral("version-name"));
  m_name->setAccessibleName(tr("Name of the version"));
  m_name->setPlaceholderText(tr("Name: first cut"));
  m_note->setObjectName(QStringLiteral("version-note"));
  m_note->setAccessibleName(tr("What is to be said of it"));
  m_note->setPlaceholderText(tr("Note: 12 mm too big at the temples"));
  group->body()->addWidget(m_name);
  group->body()->addWidget(m_note);
  auto* first = new QHBoxLayout;
  m_keep = addButton(first, "version-keep", tr("Keep this version"),
      tr("Keeps all there is now, measures and choices too, so that it can be laid over and gone back to."));
  group->body()->addLayout(first);
  makeTable(group);
  auto* second = new QHBoxLayout;
  m_compare = addButton(second, "version-compare", tr("Compare"),
      tr("Its outlines dashed on the mat, the distance between both forms on the stand."));
  m_back = addButton(second, "version-back", tr("Go back to it"),
      tr("What is now is kept as a version first. What you keep next branches off from there."));
  m_forget = addButton(second, "version-forget", tr("Forget"), tr("Drops the version; undo brings it back."));
  group->body()->addLayout(second);
  m_show->setObjectName(QStringLiteral("version-show"));
  group->body()->addWidget(m_show);
  m_said = group->addText(tr("Nothing kept yet. Keep a version before you change a pattern that was cut."));
  m_said->setObjectName(QStringLiteral("version-said"));
  connect(m_keep, &QPushButton::clicked, this, &VersionTray::keep);
  connect(m_name, &QLineEdit::returnPressed, this, &VersionTray::keep);
  connect(m_compare, &QPushButton::clicked, this, &VersionTray::compare);
  connect(m_show, &QCheckBox::toggled, this, [this] { emit m_station->standChanged(); });
  connect(m_back, &QPushButton::clicked, this, [this] {
    if (const int id = chosen())
      m_document.change(tr("Go back to a version"), [id](const Build& b) { return go_back(b, id, today()); });
  });
  connect(m_forget, &QPushButton::clicked, this, [this] {
    if (const int id = chosen())
      m_document.change(tr("Forget a version"), [id](const Build& b) { return forget_version(b, id); });
  });
}

QPushButton* VersionTray::addButton(QBoxLayout* row, const char* name, const QString& text, const QString& tip) {
  auto* button = new QPushButton(text, m_station);
  button->setObjectName(QLatin1String(name));
  button->setToolTip(tip);
  row->addWidget(button, 1);
  return button;
}

void VersionTray::makeTable(TrayGroup* group) {
  m_table->setObjectName(QStringLiteral("versions"));
  m_table->setAccessibleName(tr("Versions of the pattern"));
  m_table->setToolTip(tr("Double-click a name or a note to change it."));
  m_table->setHorizontalHeaderLabels({tr("Version"), tr("Day"), tr("Note")});
  m_table->verticalHeader()->hide();
  m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
  m_table->setSelectionMode(QAbstractItemView::SingleSelection);
  m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  m_table->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
  setTypeHeight(*m_table, 128, 128);
  group->body()->addWidget(m_table);
  connect(m_table, &QTableWidget::cellChanged, this, [this](int row, int) {
    const int id = m_table->item(row, 0)->data(Qt::UserRole).toInt();
    const std::string name = m_table->item(row, 0)->text().trimmed().toStdString(),
                      note = m_table->item(row, 2)->text().trimmed().toStdString();
    m_document.change(tr("Describe a version"), [&](const Build& b) { return describe_version(b, id, name, note); });
  });
}

int VersionTray::chosen() const {
  const auto rows = m_table->selectionModel()->selectedRows();
  if (!rows.isEmpty()) return m_table->item(rows.front().row(), 0)->data(Qt::UserRole).toInt();
  m_said->setText(tr("Choose a version in the list first."));
  return 0;
}

void VersionTray::show(const Build& build, const Derived& derived) {
  m_derived = derived;
  const QSignalBlocker quiet(m_table);
  const auto rows = m_table->selectionModel()->selectedRows();
  const int before = rows.isEmpty() ? 0 : m_table->item(rows.front().row(), 0)->data(Qt::UserRole).toInt();
  m_table->setRowCount(static_cast<int>(build.versions.size()));
  for (int row = 0; row < m_table->rowCount(); ++row) {
    const Version& v = build.versions[row];
    const Version* from = find_version(build, v.from);
    auto* name = new QTableWidgetItem(QString::fromStdString(v.name));
    name->setData(Qt::UserRole, v.id);
    name->setToolTip(
        from != nullptr ? tr("Stems from %1").arg(QString::fromStdString(from->name)) : tr("The first of its line"));
    if (v.id == build.stems_from) {
      QFont bold = name->font();
      bold.setBold(true);
      name->setFont(bold);
    }
    auto* day = new QTableWidgetItem(QString::fromStdString(v.day.iso()));
    day->setFlags(day->flags() & ~Qt::ItemIsEditable);
    m_table->setItem(row, 0, name), m_table->setItem(row, 1, day),
        m_table->setItem(row, 2, new QTableWidgetItem(QString::fromStdString(v.note)));
    if (v.id == before) m_table->selectRow(row);
  }
  for (QPushButton* b : {m_compare, m_back, m_forget}) b->setEnabled(!build.versions.empty());
  m_show->setEnabled(m_difference && m_asked == derived.panels);
}

void VersionTray::keep() {
  const std::string name = m_name->text().trimmed().toStdString(), note = m_note->text().trimmed().toStdString();
  if (!m_document.change(tr("Keep a version"), [&](const Build& b) { return keep_version(b, name, note, today()); }))
    return m_name->setFocus();
  m_name->clear(), m_note->clear();
  m_said->setText(tr("Kept. Save the build, and it is kept on disk too."));
}

void VersionTray::compare() {
  const int id = chosen();
  const Version* version = find_version(m_document.build(), id);
  if (version == nullptr || m_search.isRunning() || !m_derived.panels) return;
  m_asked = m_derived.panels;
  m_said->setText(tr("Making \u201c%1\u201d anew to compare it\u2026").arg(QString::fromStdString(version->name)));
  m_search.begin(
      [held = version->held, present = m_derived, chain = &m_chain](const Progress& progress) -> Result<Difference> {
        const Derived former = chain->derive(*held, progress);
        if (former.error && former.error->code == Errc::cancelled) return fail(*former.error);
        return difference_between(former, present);
      });
}

void VersionTray::compared(const Result<Difference>& found) {
  if (!found) return m_said->setText(qs(found.error().text));
  m_difference = *found;
  auto map = std::make_shared<WornMap>();
  map->on = m_asked, map->mm = m_difference->off_mm;
  // The contour, at two thirds of the range, stays clear of what an even change of size gives everywhere.
  map->range_mm = std::clamp(std::ceil(1.5 * (m_difference->most_mm + 0.3)), 2.0, 45.0);
  const LengthUnit unit = m_document.build().shown;
  const std::string range = format_length(map->range_mm, unit);
  map->low = range + " less", map->high = range + " more";
  m_map = map;
  int changed = 0;
  QStringList lines;
  for (const PieceChange& c : m_difference->pieces) {
    if (c.kind == PieceChange::Kind::same) continue;
    ++changed;
    if (lines.size() < 8) lines << qs(c.sentence());
  }
  m_said->setText(changed == 0
          ? tr("No piece differs; the forms are nowhere more than %1 apart.")
                .arg(QString::fromStdString(format_length(0.1 * std::round(10.0 * m_difference->most_mm), unit)))
          : tr("%1 pieces differ, the forms by %2 at most.\n")
                  .arg(changed)
                  .arg(QString::fromStdString(format_length(0.1 * std::round(10.0 * m_difference->most_mm), unit))) +
              lines.join(QLatin1Char('\n')));
  m_show->setEnabled(m_asked == m_derived.panels);
  m_show->setChecked(true);
  emit m_station->standChanged();
}

void VersionTray::apply(StandChoice& choice) const {
  if (m_difference && m_show->isChecked() && m_asked == m_derived.panels) choice.worn_map = m_map;
}

std::vector<PieceChange> VersionTray::former() const {
  return m_difference && m_show->isChecked() && m_asked == m_derived.panels ? m_difference->pieces
                                                                            : std::vector<PieceChange>{};
}

}  // namespace awl
