#include "app/station/dial_tray.hpp"
#include "print/text.hpp"

#include <QSignalBlocker>
#include <cmath>

namespace awl {

DialTray::DialTray(Station* station, QVBoxLayout* column, QString before, QString prefix)
    : QObject(station), m_station(station), m_column(column), m_before(std::move(before)), m_prefix(std::move(prefix)) {
}

QWidget* DialTray::field(const QString& dial) const {
  const auto it = m_fields.find(dial);
  return it == m_fields.end() ? nullptr : it->second;
}

QWidget* DialTray::makeField(const DialFacts& f) {
  const QString id = QString::fromStdString(f.id), label = qs(f.label), tip = qs(f.tip), name = m_prefix + id;
  if (f.kind == DialKind::length) {
    auto* field = new LengthField(name, label, tip, m_station);
    connect(field, &LengthField::entered, this, [this, id, label](double mm) { emit turned(id, label, mm, {}); });
    return field;
  }
  if (f.kind == DialKind::choice) {
    auto* box = new QComboBox(m_station);
    for (const std::string& option : f.options) box->addItem(qs(option), QString::fromStdString(option));
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(12);
    connect(box, &QComboBox::activated, this, [this, id, label](int index) { emit turned(id, label, index, {}); });
    box->setObjectName(name), box->setAccessibleName(label), box->setToolTip(tip);
    return box;
  }
  auto* spin = new QDoubleSpinBox(m_station);
  spin->setObjectName(name), spin->setAccessibleName(label), spin->setToolTip(tip);
  spin->setKeyboardTracking(false);
  spin->setDecimals(f.kind == DialKind::share ? 2 : 0);
  spin->setSingleStep(f.kind == DialKind::share ? 0.05 : f.kind == DialKind::angle ? 5.0 : 1.0);
  spin->setSuffix(f.kind == DialKind::angle ? QStringLiteral("\u00b0") : QString());
  spin->setRange(f.least, f.most);
  spin->setMinimumSize(104, 32);
  connect(spin, &QDoubleSpinBox::valueChanged, this,
      [this, id, label](double value) { emit turned(id, label, value, QStringLiteral("spin-") + id); });
  return spin;
}

void DialTray::rebuild(std::vector<Dial>& dials, int part) {
  for (TrayGroup* group : m_groups) {
    if (auto* title = group->findChild<QToolButton*>(); title != nullptr && title->isChecked())
      m_open.insert(group->title());
    else
      m_open.erase(group->title());
    m_column->removeWidget(group);
    group->hide();
    group->deleteLater();
  }
  m_groups.clear(), m_fields.clear(), m_ids.clear();
  int place = m_column->indexOf(m_station->findChild<QWidget*>(m_before));
  std::map<std::string, TrayGroup*> by_title;
  for (const Dial& d : dials) {
    TrayGroup*& group = by_title[d.facts.group];
    if (group == nullptr) {
      const QString title = qs(d.facts.group);
      const bool known = m_part == part && m_seen.count(title) != 0;
      group = new TrayGroup(title, known ? m_open.count(title) != 0 : m_groups.size() < 2, m_station);
      m_seen.insert(title);
      m_column->insertWidget(place++, group);
      m_groups.push_back(group);
    }
    QWidget* made = makeField(d.facts);
    group->addRow(qs(d.facts.label), made);
    m_fields[QString::fromStdString(d.facts.id)] = made;
    m_ids << QString::fromStdString(d.facts.id + d.facts.group);
  }
  m_column->invalidate();
  m_station->updateGeometry();
}

void DialTray::show(const Part* part, LengthUnit unit) {
  Part copy = part != nullptr ? *part : Part{};
  show(part != nullptr ? dials_of(copy) : std::vector<Dial>{}, part != nullptr ? part->id : -1, unit);
}

void DialTray::show(std::vector<Dial> dials, int id, LengthUnit unit) {
  QStringList ids;
  for (const Dial& d : dials) ids << QString::fromStdString(d.facts.id + d.facts.group);
  if (ids != m_ids || id != m_part) {
    rebuild(dials, id);
    m_part = id;
  }
  for (const Dial& d : dials) {
    QWidget* widget = m_fields[QString::fromStdString(d.facts.id)];
    const double value = d.value();
    if (auto* length = qobject_cast<LengthField*>(widget))
      length->showValue(value, unit);
    else if (auto* box = qobject_cast<QComboBox*>(widget)) {
      const QSignalBlocker quiet(box);
      box->setCurrentIndex(static_cast<int>(value));
    } else if (auto* spin = qobject_cast<QDoubleSpinBox*>(widget)) {
      const QSignalBlocker quiet(spin);
      spin->setValue(value);
    }
  }
}

}  // namespace awl
