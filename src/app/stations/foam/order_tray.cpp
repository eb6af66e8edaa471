#include "app/stations/foam/order_tray.hpp"

#include <QSignalBlocker>

#include "app/widgets/theme.hpp"
#include "core/steps/assembly.hpp"
#include "app/widgets/text.hpp"

namespace awl {
OrderTray::OrderTray(Station* station, Document& document, const Chain& chain)
    : QObject(station), m_document(document), m_chain(chain), m_list(new QListWidget(station)),
      m_pieces(new QListWidget(station)), m_first(new QComboBox(station)), m_then(new QComboBox(station)),
      m_why(new QLineEdit(station)), m_add(new QPushButton(tr("Add this rule"), station)),
      m_drop(new QPushButton(tr("Drop it"), station)), m_up(new QPushButton(tr("Sooner"), station)),
      m_down(new QPushButton(tr("Later"), station)), m_again(new QPushButton(tr("By number"), station)),
      m_said(nullptr) {
  TrayGroup* group = station->addGroup(tr("What goes on before what"));
  m_said = group->addText({});
  m_said->setObjectName(QStringLiteral("order-said"));
  m_pieces->setObjectName(QStringLiteral("order-pieces"));
  m_pieces->setAccessibleName(tr("Pieces in the order they are put on"));
  m_pieces->setToolTip(tr("Drag a piece to where you would put it on; what a rule does not allow goes back."));
  m_pieces->setDragDropMode(QAbstractItemView::InternalMove);
  setTypeHeight(*m_pieces, 150, 150);
  group->body()->addWidget(m_pieces);
  connect(m_pieces->model(), &QAbstractItemModel::rowsMoved, this, &OrderTray::takeSequence);
  auto* moves = new QHBoxLayout;
  const struct {
    QPushButton* button;
    const char* name;
    QString tip;
  } moving[] = {{m_up, "order-up", tr("The chosen piece one place sooner.")},
      {m_down, "order-down", tr("The chosen piece one place later.")},
      {m_again, "order-again", tr("Back to the pieces' own numbers.")}};
  for (const auto& b : moving) {
    b.button->setObjectName(QLatin1String(b.name));
    b.button->setToolTip(b.tip);
    moves->addWidget(b.button);
  }
  group->body()->addLayout(moves);
  connect(m_up, &QPushButton::clicked, this, [this] { moveChosen(-1); });
  connect(m_down, &QPushButton::clicked, this, [this] { moveChosen(1); });
  connect(m_again, &QPushButton::clicked, this, [this] {
    m_document.change(tr("Order of pieces"), [](const Build& b) -> Result<Build> { return with_sequence(b, {}); });
  });
  m_list->setObjectName(QStringLiteral("order-rules"));
  m_list->setAccessibleName(tr("Rules of order"));
  m_list->setWordWrap(true);
  setTypeHeight(*m_list, 92, 92);
  group->body()->addWidget(m_list);
  const struct {
    QComboBox* box;
    const char* name;
    QString label, tip;
  } rows[] = {{m_first, "order-first", tr("First"), tr("A whole part, or one piece.")},
      {m_then, "order-then", tr("then"),
          tr("What can only go on after it: the cover after the lid, a part that slides over a tube after the tube.")}};
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
    auto* item = new QListWidgetItem(
        tr("%1, then %2%3").arg(qs(r.first), qs(r.then), r.why.empty() ? QString() : QStringLiteral(": ") + qs(r.why)),
        m_list);
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
  m_said->setText(!sheet ? qs(sheet.error().text)
          : build.sequence.empty()
          ? tr("%1 steps. Within these rules the sheet keeps the pieces' own numbers.").arg(sheet->steps.size())
          : tr("%1 steps, in your own order as far as the rules allow.").arg(sheet->steps.size()));
  const QString chosen =
      m_pieces->currentItem() != nullptr ? m_pieces->currentItem()->data(Qt::UserRole).toString() : QString();
  m_pieces->clear();
  for (const int i : sheet ? sheet->order : std::vector<int>{}) {
    const Piece& p = (*derived.pieces)[static_cast<std::size_t>(i)];
    auto* item = new QListWidgetItem(tr("%1  %2").arg(p.number).arg(qs(p.name)), m_pieces);
    item->setData(Qt::UserRole, QString::fromStdString(p.name));
    if (QString::fromStdString(p.name) == chosen) m_pieces->setCurrentItem(item);
  }
  m_again->setEnabled(!build.sequence.empty());
  m_up->setEnabled(m_pieces->count() > 1), m_down->setEnabled(m_pieces->count() > 1);
}

void OrderTray::add() {
  const OrderRule rule{
      m_first->currentText().toStdString(), m_then->currentText().toStdString(), m_why->text().trimmed().toStdString()};
  Build next = m_document.build();
  next.order.push_back(rule);
  if (const auto sheet = assemble(next, m_derived, m_chain.materials()); !sheet)
    return m_said->setText(qs(sheet.error().text));
  m_document.change(tr("Rule of order"), [next](const Build&) -> Result<Build> { return next; });
  m_why->clear();
}

void OrderTray::takeSequence() {
  std::vector<std::string> names;
  for (int i = 0; i < m_pieces->count(); ++i)
    names.push_back(m_pieces->item(i)->data(Qt::UserRole).toString().toStdString());
  // The list is filled anew from the build: not while it is still moving its rows.
  QMetaObject::invokeMethod(
      this,
      [this, names] {
        const auto sheet = assemble(with_sequence(m_document.build(), names), m_derived, m_chain.materials());
        bool kept = sheet.has_value();
        for (std::size_t k = 0; kept && k < names.size(); ++k)
          kept = (*m_derived.pieces)[static_cast<std::size_t>(sheet->order[k])].name == names[k];
        m_document.change(
            tr("Order of pieces"), [&](const Build& b) -> Result<Build> { return with_sequence(b, names); });
        if (!kept)
          m_said->setText(tr("A rule below does not allow that place; it went to the nearest that it allows."));
      },
      Qt::QueuedConnection);
}

void OrderTray::moveChosen(int by) {
  const int row = m_pieces->currentRow(), to = row + by;
  if (row < 0) return m_said->setText(tr("Choose a piece in the list first."));
  if (to < 0 || to >= m_pieces->count()) return;
  auto* item = m_pieces->takeItem(row);
  m_pieces->insertItem(to, item);
  m_pieces->setCurrentRow(to);
  takeSequence();
}

void OrderTray::drop() {
  const auto* item = m_list->currentItem();
  const int at = item != nullptr ? item->data(Qt::UserRole).toInt() : -1;
  if (at < 0) return m_said->setText(tr("Choose a rule of your own in the list first; the others hold anyway."));
  m_document.edit(tr("Rule of order"), [at](Build& next) {
    if (at < static_cast<int>(next.order.size())) next.order.erase(next.order.begin() + at);
  });
}

}  // namespace awl
