#include "app/stations/book/book_page.hpp"
#include "app/widgets/text.hpp"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace awl {
namespace {

QTableWidgetItem* cell(const QString& text, int id = 0) {
  auto* item = new QTableWidgetItem(text);
  item->setData(Qt::UserRole, id);
  return item;
}

}  // namespace

BookPage::BookPage(QWidget* parent)
    : QWidget(parent), m_search(new QLineEdit(this)), m_wearers(makeTable(QStringLiteral("book-wearers"), tr("Wearers"),
                                                          {tr("Wearer"), tr("Sets"), tr("Last measured")})),
      m_sheets(makeTable(QStringLiteral("book-sheets"), tr("Dated measures"),
          {tr("Measured"), tr("By"), tr("Round"), tr("Measures")})),
      m_compare(makeTable(QStringLiteral("book-compare"), tr("What changed"),
          {tr("Measure"), tr("Before"), tr("After"), tr("Change")})),
      m_empty(new QLabel(this)), m_title(new QLabel(this)) {
  setObjectName(QStringLiteral("book"));
  m_search->setObjectName(QStringLiteral("book-search"));
  m_search->setAccessibleName(tr("Find a wearer"));
  m_search->setToolTip(tr("A part of the name or of the note."));
  m_search->setPlaceholderText(tr("Find a wearer"));
  m_search->setClearButtonEnabled(true);
  m_empty->setObjectName(QStringLiteral("book-empty"));
  m_empty->setWordWrap(true);
  m_empty->setProperty("quiet", true);
  m_title->setObjectName(QStringLiteral("book-title"));
  m_title->setProperty("figure", true);
  m_title->setWordWrap(true);
  m_sheets->setSelectionMode(QAbstractItemView::ExtendedSelection);
  m_sheets->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
  m_sheets->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
  m_compare->setSelectionMode(QAbstractItemView::NoSelection);
  auto* left = new QVBoxLayout;
  left->addWidget(m_search);
  left->addWidget(m_wearers, 1);
  left->addWidget(m_empty);
  auto* right = new QVBoxLayout;
  right->addWidget(m_sheets, 2);
  right->addWidget(m_title);
  right->addWidget(m_compare, 3);
  auto* both = new QHBoxLayout(this);
  both->setContentsMargins(16, 14, 16, 14);
  both->setSpacing(16);
  both->addLayout(left, 4);
  both->addLayout(right, 5);
  connect(m_search, &QLineEdit::textChanged, this, &BookPage::searchChanged);
  connect(m_wearers, &QTableWidget::itemSelectionChanged, this, &BookPage::wearerChosen);
  connect(m_sheets, &QTableWidget::itemSelectionChanged, this, [this] {
    showComparison();
    emit sheetsChosen();
  });
}

QTableWidget* BookPage::makeTable(const QString& name, const QString& accessible, const QStringList& headings) {
  auto* table = new QTableWidget(0, static_cast<int>(headings.size()), this);
  table->setObjectName(name);
  table->setAccessibleName(accessible);
  table->setHorizontalHeaderLabels(headings);
  table->verticalHeader()->hide();
  table->setShowGrid(false);
  table->setAlternatingRowColors(true);
  table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->setSelectionMode(QAbstractItemView::SingleSelection);
  table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  return table;
}

void BookPage::showWearers(const std::vector<BookWearer>& wearers, int chosen) {
  const QSignalBlocker quiet(m_wearers);
  m_wearers->setRowCount(static_cast<int>(wearers.size()));
  m_wearers->clearSelection();
  for (int row = 0; row < m_wearers->rowCount(); ++row) {
    const BookWearer& w = wearers[row];
    m_wearers->setItem(row, 0, cell(qs(w.name), w.id));
    m_wearers->setItem(row, 1, cell(QString::number(w.sheets)));
    m_wearers->setItem(row, 2, cell(w.last == Day{} ? QString() : qs(w.last.iso())));
    if (w.id == chosen) m_wearers->selectRow(row);
  }
  m_empty->setVisible(wearers.empty());
  m_empty->setText(search().isEmpty() ? tr("The book is empty. Put this build's measures in, read a table, or take the "
                                           "demo's wearers: the buttons are on the right.")
                                      : tr("Nobody in the book answers to \"%1\".").arg(search()));
}

void BookPage::showSheets(const std::vector<BookSheet>& sheets, LengthUnit unit) {
  const std::vector<int> before = chosenSheets();
  const bool same_wearer = !before.empty() &&
      std::any_of(sheets.begin(), sheets.end(), [&](const BookSheet& s) { return s.id == before.front(); });
  m_shown = sheets, m_unit = unit;
  {
    const QSignalBlocker quiet(m_sheets);
    m_sheets->setRowCount(static_cast<int>(sheets.size()));
    m_sheets->clearSelection();
    for (int row = 0; row < m_sheets->rowCount(); ++row) {
      const TapeSheet& s = sheets[row].sheet;
      const auto hc = s.head.find(MeasureId::HC);
      m_sheets->setItem(row, 0, cell(s.day == Day{} ? tr("no date") : qs(s.day.iso()), sheets[row].id));
      m_sheets->setItem(row, 1, cell(qs(s.by)));
      m_sheets->setItem(
          row, 2, cell(hc == s.head.end() ? QString() : qs(format_length(hc->second.skin_mm(MeasureId::HC), unit))));
      m_sheets->setItem(row, 3, cell(QString::number(s.head.size() + s.body.size())));
    }
    // The newest is chosen, and with it the one before, so that what changed is seen at once.
    QItemSelectionModel* selection = m_sheets->selectionModel();
    for (int row = 0; row < m_sheets->rowCount(); ++row) {
      const bool was = std::find(before.begin(), before.end(), sheets[row].id) != before.end();
      if (same_wearer ? was : row < 2)
        selection->select(m_sheets->model()->index(row, 0), QItemSelectionModel::Select | QItemSelectionModel::Rows);
    }
    if (m_sheets->selectedItems().isEmpty() && m_sheets->rowCount() > 0) m_sheets->selectRow(0);
  }
  showComparison();
  emit sheetsChosen();
}

int BookPage::wearer() const {
  const auto rows = m_wearers->selectionModel()->selectedRows();
  return rows.isEmpty() ? 0 : rows.first().data(Qt::UserRole).toInt();
}

std::vector<int> BookPage::chosenSheets() const {
  std::vector<int> rows;
  for (const QModelIndex& index : m_sheets->selectionModel()->selectedRows()) rows.push_back(index.row());
  std::sort(rows.begin(), rows.end(), std::greater<>());
  if (rows.size() > 2) rows = {rows.front(), rows.back()};
  std::vector<int> ids;
  for (const int row : rows) ids.push_back(m_sheets->item(row, 0)->data(Qt::UserRole).toInt());
  return ids;
}

/// One set as it stands, or two beside each other with the difference.
void BookPage::showComparison() {
  const std::vector<int> chosen = chosenSheets();
  const auto find = [&](int id) {
    return std::find_if(m_shown.begin(), m_shown.end(), [&](const BookSheet& s) { return s.id == id; });
  };
  m_compare->setRowCount(0);
  m_compare->setVisible(!chosen.empty());
  m_title->setText(chosen.size() == 2 ? tr("What changed between the two")
          : chosen.size() == 1        ? tr("What was measured (choose two to compare)")
                                      : QString());
  if (chosen.empty()) return;
  const TapeSheet& before = find(chosen.front())->sheet;
  const TapeSheet& after = find(chosen.back())->sheet;
  m_compare->setColumnHidden(1, chosen.size() < 2);
  m_compare->setColumnHidden(3, chosen.size() < 2);
  m_compare->horizontalHeaderItem(2)->setText(chosen.size() < 2 ? tr("Reads") : tr("After"));
  const auto add = [&](const char* name, std::optional<double> was, std::optional<double> is) {
    if (!was && !is) return;
    const int row = m_compare->rowCount();
    m_compare->insertRow(row);
    const auto text = [&](std::optional<double> mm) {
      return mm ? qs(format_length(*mm, m_unit)) : QStringLiteral("\u2013");
    };
    m_compare->setItem(row, 0, cell(QLatin1String(name)));
    m_compare->setItem(row, 1, cell(text(was)));
    m_compare->setItem(row, 2, cell(text(is)));
    const double by = was && is ? *is - *was : 0.0;
    m_compare->setItem(row, 3,
        cell(!was || !is ? QString()
                : std::abs(by) < 0.05
                ? tr("same")
                : (by > 0 ? QStringLiteral("+") : QStringLiteral("\u2212")) + qs(format_length(std::abs(by), m_unit))));
  };
  const auto skin = [](const TapeSheet& s, MeasureId id) {
    const auto e = s.head.find(id);
    return e == s.head.end() ? std::nullopt : std::optional(e->second.skin_mm(id));
  };
  const auto body = [](const TapeSheet& s, BodyMeasure id) {
    const auto e = s.body.find(id);
    return e == s.body.end() ? std::nullopt : std::optional(e->second);
  };
  for (const MeasureFacts& f : measure_facts()) add(f.name, skin(before, f.id), skin(after, f.id));
  for (const BodyFacts& f : body_facts()) add(f.name, body(before, f.id), body(after, f.id));
}

}  // namespace awl
