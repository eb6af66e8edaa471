#include "app/stations/foam/shop_tray.hpp"

#include <QHeaderView>

#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "app/widgets/text.hpp"
#include "print/money.hpp"

namespace awl {
namespace {

constexpr int kHave = 2;
}  // namespace

ShopTray::ShopTray(Station* station, Document& document, const Chain& chain, Book& book)
    : QObject(station), m_document(document), m_chain(chain), m_book(book), m_table(new QTableWidget(0, 4, station)),
      m_print(new QPushButton(tr("Print the list\u2026"), station)),
      m_csv(new QPushButton(tr("Save it\u2026"), station)), m_total(nullptr) {
  TrayGroup* group = station->addGroup(tr("Shopping and cost"));
  m_total = group->addText({});
  m_total->setObjectName(QStringLiteral("shopping-total"));
  m_total->setProperty("figure", true);
  m_table->setObjectName(QStringLiteral("shopping"));
  m_table->setAccessibleName(tr("What to buy"));
  m_table->setToolTip(tr("Write what you have under \u201cHave\u201d: it stays in the shop book and is taken off."));
  m_table->setHorizontalHeaderLabels({tr("What"), tr("Need"), tr("Have"), tr("Buy")});
  m_table->verticalHeader()->hide();
  m_table->setWordWrap(true);
  m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  for (int c = 1; c < 4; ++c) m_table->horizontalHeader()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
  setTypeHeight(*m_table, 300, 300);
  group->body()->addWidget(m_table);
  auto* row = new QHBoxLayout;
  m_print->setObjectName(QStringLiteral("export-shopping"));
  m_print->setToolTip(tr("With a box to tick on each line."));
  m_csv->setObjectName(QStringLiteral("export-shopping-csv"));
  m_csv->setToolTip(tr("As a table."));
  row->addWidget(m_print), row->addWidget(m_csv);
  group->body()->addLayout(row);
  connect(m_print, &QPushButton::clicked, this, [this] { emit exportWanted(QStringLiteral("shopping")); });
  connect(m_csv, &QPushButton::clicked, this, [this] { emit exportWanted(QStringLiteral("shopping-csv")); });
  connect(m_table, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
    if (m_filling || item->column() != kHave) return;
    bool number = false;
    const double amount = item->text().trimmed().isEmpty()
        ? 0.0
        : QString(item->text()).replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&number);
    if (!item->text().trimmed().isEmpty() && !number)
      return m_total->setText(tr("\u201c%1\u201d is no number.").arg(item->text()));
    const auto shop = m_book.get();
    if (!shop) return m_total->setText(qs(shop.error().text));
    if (auto done = (*shop)->set_stock(item->data(Qt::UserRole).toString().toStdString(), amount); !done)
      return m_total->setText(qs(done.error().text));
    renewBook();
  });
}

void ShopTray::renewBook() {
  const auto book = m_book.get();
  if (!book) return;
  if (const auto stock = (*book)->stock()) m_stock = *stock;
  fill();
}

void ShopTray::show(const Build&, const Derived& derived) {
  m_derived = derived;
  fill();
}

void ShopTray::fill() {
  const auto list = shopping(m_document.build(), m_derived, m_chain.materials(), m_stock);
  m_print->setEnabled(list.has_value());
  m_csv->setEnabled(list.has_value());
  m_filling = true;
  m_table->setRowCount(list ? static_cast<int>(list->lines.size()) : 0);
  if (!list) {
    m_total->setText(qs(list.error().text));
    m_filling = false;
    return;
  }
  for (int row = 0; row < m_table->rowCount(); ++row) {
    const Purchase& p = list->lines[row];
    const QString price = p.buy <= 0.0 ? QString() : p.priced ? tr(", %1").arg(money(p.price)) : QString();
    const QString unit =
        p.need == 1.0 && p.unit.size() > 2 ? qs(p.unit.substr(0, p.unit.size() - 1)) : qs(p.unit);  // "1 sheet"
    const QString texts[] = {qs(p.what), QStringLiteral("%1 %2").arg(qs(fixed(p.need, 0)), unit),
        p.have > 0.0 ? qs(fixed(p.have, 0)) : QString(),
        p.buy > 0.0 ? qs(fixed(p.buy, 0)) + price : QStringLiteral("\u2013")};
    for (int c = 0; c < 4; ++c) {
      auto* item = new QTableWidgetItem(texts[c]);
      item->setToolTip(c == 0 ? qs(p.what + ": " + p.why) : QString());
      item->setData(Qt::UserRole, QString::fromStdString(p.id));
      if (c != kHave) item->setFlags(item->flags() & ~Qt::ItemIsEditable);
      m_table->setItem(row, c, item);
    }
  }
  m_table->resizeRowsToContents();
  m_filling = false;
  m_total->setText(tr("%1 of foam to buy, %2 m to cut%3")
                       .arg(money(list->price), qs(fixed(list->cut_mm / 1000.0, 1)),
                           list->all_priced ? QString() : tr("; glue, tape and coats are not priced")));
}

}  // namespace awl
