#include "app/tray/order_tray.hpp"

#include <QSignalBlocker>

#include "core/builds/assembly.hpp"

namespace awl {
namespace {

QString qs(const std::string& s) { return QString::fromStdString(s); }

}  // namespace

OrderTray::OrderTray(Station* station, Document& document, const Chain& chain)
    : QObject(station), m_document(document), m_chain(chain), m_list(new QListWidget(station)), m_first(new QComboBox(station)), m_then(new QComboBox(station)), m_why(new QLineEdit(station)),
      m_add(new QPushButton(tr("Add this rule"), station)), m_drop(new QPushButton(tr("Drop it"), station)), m_said(nullptr) {
  TrayGroup* group = station->addGroup(tr("What goes on before what"), false);
  m_said = group->addText({});
  m_said->setObjectName(QStringLiteral("order-said"));
  m_list->setObjectName(QStringLiteral("order-rules"));
  m_list->setAccessibleName(tr("Rules of order"));
  m_list->setWordWrap(true);
  m_list->setFixedHeight(92);
  group->body()->addWidget(m_list);
  const struct { QComboBox* box; const char* name; QString label, tip; } rows[] = {
      {m_first, "order-first", tr("First"), tr("A whole part, or one piece.")}, {m_then, "order-then", tr("then"), tr("What can only go on after it: the cover after the lid, a part that slides over a tube after the tube.")}};
  for (const auto& row : rows) {
    row.box->setObjectName(QLatin1String(row.name));
    row.box->setAccessibleName(row.label);
    row.box->setToolTip(row.tip);
    row.box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    row.box->setMinimumContentsLength(15);
    group->addRow(row.label, row.box);
  }
  m_why->setObjectName(QStringLiteral("order-why"));
  m_why->setAccessibleName(tr("Why"));
  m_why->setPlaceholderText(tr("does not go through afterwards"));
  group->addRow(tr("Why"), m_why);
  auto* buttons = new QHBoxLayout;
  m_add->setObjectName(QStringLiteral("order-add"));
  m_add->setToolTip(tr("The build sheet keeps to it. A circle is refused."));
  m_drop->setObjectName(QStringLiteral("order-drop"));
  m_drop->setToolTip(tr("Drops the chosen rule of your own."));
  buttons->addWidget(m_add), buttons->addWidget(m_drop);
  group->body()->addLayout(buttons);
  connect(m_add, &QPushButton::clicked, this, &OrderTray::add);
  connect(m_drop, &QPushButton::clicked, this, &OrderTray::drop);
}

void OrderTray::show(const Build& build, const Derived& derived) {
  m_derived = derived;
  m_list->clear();
  for (const OrderRule& r : given_rules(build)) {
    auto* item = new QListWidgetItem(tr("%1, then %2: %3").arg(qs(r.first), qs(r.then), qs(r.why)), m_list);
    item->setFlags(Qt::ItemIsEnabled);
    item->setData(Qt::UserRole, -1);
  }
  for (int i = 0; i < static_cast<int>(build.order.size()); ++i) {
    const OrderRule& r = build.order[i];
    auto* item = new QListWidgetItem(tr("%1, then %2%3").arg(qs(r.first), qs(r.then), r.why.empty() ? QString() : QStringLiteral(": ") + qs(r.why)), m_list);
    item->setData(Qt::UserRole, i);
  }
  QStringList names;
  if (build.making == Making::parts && build.parts.size() > 1)
    for (const Part& p : build.parts) names << qs(p.name);
  if (derived.pieces)
    for (const Piece& p : *derived.pieces) names << qs(p.name);
  names.removeDuplicates();
  for (QComboBox* box : {m_first, m_then}) {
    const QSignalBlocker quiet(box);
    const QString before = box->currentText();
    box->clear();
    box->addItems(names);
    box->setCurrentIndex(std::max(0, box->findText(before)));
  }
  m_drop->setEnabled(!build.order.empty());
  m_add->setEnabled(names.size() > 1);
  const auto sheet = assemble(build, derived, m_chain.materials());
  m_said->setText(sheet ? tr("%1 steps. Within these rules the sheet keeps the pieces' own numbers.").arg(sheet->steps.size()) : qs(sheet.error().text));
}

void OrderTray::add() {
  const OrderRule rule{m_first->currentText().toStdString(), m_then->currentText().toStdString(), m_why->text().trimmed().toStdString()};
  Build next = m_document.build();
  next.order.push_back(rule);
  if (const auto sheet = assemble(next, m_derived, m_chain.materials()); !sheet) return m_said->setText(qs(sheet.error().text));
  m_document.change(tr("Rule of order"), [next](const Build&) -> Result<Build> { return next; });
  m_why->clear();
}

void OrderTray::drop() {
  const auto* item = m_list->currentItem();
  const int at = item != nullptr ? item->data(Qt::UserRole).toInt() : -1;
  if (at < 0) return m_said->setText(tr("Choose a rule of your own in the list first; the others hold anyway."));
  m_document.change(tr("Rule of order"), [at](const Build& b) -> Result<Build> {
    Build next = b;
    if (at < static_cast<int>(next.order.size())) next.order.erase(next.order.begin() + at);
    return next;
  });
}

}  // namespace awl
