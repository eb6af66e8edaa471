#include "app/station/station.hpp"

#include <QPushButton>
#include <QSignalBlocker>
#include <algorithm>

namespace awl {

Station::Station(const Workplace& place, const QString& id, const QString& word, QWidget* parent)
    : QWidget(parent), m_place(place), m_document(place.document), m_column(new QVBoxLayout),
      m_drawers(new Drawers(id, this)), m_id(id), m_word(word) {
  setObjectName(QStringLiteral("station-") + id);
  auto* whole = new QVBoxLayout(this);
  whole->setContentsMargins(0, 0, 0, 0);
  whole->setSpacing(0);
  whole->addLayout(m_column);
  whole->addWidget(m_drawers, 1);
  m_column->setSpacing(8);
  connect(m_drawers, &Drawers::opened, this, &Station::drawerOpened);
  connect(&place.document, &Document::refused, this, [this](const QString& sentence) {
    if (m_asking != nullptr) m_asking->refuse(sentence);
  });
}

bool Station::isOf(const Remark& remark, std::initializer_list<const char*> areas) {
  return std::any_of(areas.begin(), areas.end(), [&](const char* area) { return remark.id.starts_with(area); });
}

bool Station::focusPlace(const QString& where) {
  const auto it = m_places.find(where);
  if (it == m_places.end()) return false;
  focusOn(it->second);
  return true;
}

void Station::addDrawer(const QString& id, const QString& word, const QString& tip) {
  if (m_drawers->isEmpty() && m_column->count() > 0) m_column->setContentsMargins(12, 10, 12, 0);
  m_column = m_drawers->add(id, word, tip);
}

void Station::focusOn(QWidget* control) {
  m_drawers->reveal(control);
  control->setFocus(Qt::OtherFocusReason);
}

bool Station::submit(LengthField* field, const QString& label, const Document::Change& change) {
  m_asking = field;
  const bool done = m_document.change(label, change);
  m_asking = nullptr;
  return done;
}

LengthField* Station::addLength(TrayGroup* group, const QString& name, const QString& label, const QString& tip,
    const QString& place, const std::function<void(Build&, double)>& apply) {
  auto* field = new LengthField(name, label, tip, group->place());
  group->addRow(label, field);
  if (!place.isEmpty()) m_places[place] = field;
  connect(field, &LengthField::entered, this, [this, field, label, apply](double mm) {
    submit(field, label, [&](const Build& b) -> Result<Build> {
      Build next = b;
      apply(next, mm);
      return next;
    });
  });
  return field;
}

QComboBox* Station::addChoice(TrayGroup* group, const QString& name, const QString& label, const QString& tip,
    const std::vector<std::pair<std::string, QString>>& choices,
    const std::function<void(Build&, const std::string&)>& apply) {
  auto* box = new QComboBox(group->place());
  box->setObjectName(name);
  box->setAccessibleName(label);
  box->setToolTip(tip);
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  box->setMinimumContentsLength(15);
  for (const auto& [id, text] : choices) box->addItem(text, QString::fromStdString(id));
  group->addRow(label, box);
  if (apply)
    connect(box, &QComboBox::activated, this, [this, box, label, apply](int index) {
      const std::string id = box->itemData(index).toString().toStdString();
      m_document.edit(label, [&](Build& next) { apply(next, id); });
    });
  return box;
}

QPushButton* Station::addButton(TrayGroup* group, const QString& name, const QString& text, const QString& tip,
    const std::function<void()>& press) {
  auto* button = new QPushButton(text, group->place());
  button->setObjectName(name);
  button->setToolTip(tip);
  group->body()->addWidget(button);
  connect(button, &QPushButton::clicked, this, press);
  return button;
}

void Station::showChoice(QComboBox* box, const std::string& id) {
  const QSignalBlocker quiet(box);
  box->setCurrentIndex(box->findData(QString::fromStdString(id)));
}

TrayGroup* Station::addGroup(const QString& title, bool open) {
  auto* group = new TrayGroup(title, open, this);
  m_column->addWidget(group);
  return group;
}

}  // namespace awl
