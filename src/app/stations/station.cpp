#include "app/stations/station.hpp"

#include <QSignalBlocker>
#include <algorithm>

#include "app/stations/book_station.hpp"
#include "app/stations/coat_station.hpp"
#include "app/stations/foam_station.hpp"
#include "app/stations/form_station.hpp"
#include "app/stations/head_station.hpp"
#include "app/stations/seams_station.hpp"
#include "app/stations/tape_station.hpp"

namespace awl {

Station::Station(Document& document, const QString& id, const QString& word, QWidget* parent)
    : QWidget(parent), m_document(document), m_column(new QVBoxLayout(this)), m_id(id), m_word(word) {
  setObjectName(QStringLiteral("station-") + id);
  m_column->setContentsMargins(12, 10, 12, 12);
  m_column->setSpacing(8);
  connect(&document, &Document::refused, this, [this](const QString& sentence) {
    if (m_asking != nullptr) m_asking->refuse(sentence);
  });
}

bool Station::isOf(const Remark& remark, std::initializer_list<const char*> areas) {
  return std::any_of(areas.begin(), areas.end(), [&](const char* area) { return remark.id.starts_with(area); });
}

bool Station::focusPlace(const QString& where) {
  const auto it = m_places.find(where);
  if (it == m_places.end()) return false;
  it->second->setFocus(Qt::OtherFocusReason);
  return true;
}

bool Station::submit(LengthField* field, const QString& label, const Document::Change& change) {
  m_asking = field;
  const bool done = m_document.change(label, change);
  m_asking = nullptr;
  return done;
}

LengthField* Station::addLength(TrayGroup* group, const QString& name, const QString& label, const QString& tip,
    const QString& place, const std::function<void(Build&, double)>& apply) {
  auto* field = new LengthField(name, label, tip, this);
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
  auto* box = new QComboBox(this);
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
      m_document.change(label, [&](const Build& b) -> Result<Build> {
        Build next = b;
        apply(next, id);
        return next;
      });
    });
  return box;
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

std::vector<Station*> makeStations(Document& document, const Chain& chain, Book& book, QWidget* parent) {
  return {new TapeStation(document, chain, parent), new HeadStation(document, chain, book, parent),
      new FormStation(document, chain, parent), new SeamsStation(document, chain, parent),
      new FoamStation(document, chain, book, parent), new CoatStation(document, chain, parent),
      new BookStation(document, chain, book, parent)};
}

}  // namespace awl
