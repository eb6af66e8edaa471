#include "app/station/dial_fields.hpp"

#include <QSignalBlocker>
#include <algorithm>
#include <cmath>

#include "app/widgets/text.hpp"
#include "core/builds/settings.hpp"

namespace awl {
namespace {

/// Of numbers that are offered, in rising order, the first that is no less; else the last.
int nextOffered(const QComboBox& box, double value) {
  for (int i = 0; i < box.count(); ++i)
    if (box.itemData(i).toDouble() >= value - 1e-9) return i;
  return box.count() - 1;
}

}  // namespace

DialFields::DialFields(Station* station, std::vector<DialFacts> facts, std::function<std::string()> place)
    : QObject(station), m_station(station), m_facts(std::move(facts)), m_place(std::move(place)) {}

DialFields::DialFields(Station* station, std::vector<DialFacts> facts, const std::string& place)
    : DialFields(station, std::move(facts), [place] { return place; }) {
  m_always = place;
}

const DialFacts& DialFields::factsOf(const std::string& dial) const {
  const auto at = std::find_if(m_facts.begin(), m_facts.end(), [&](const DialFacts& f) { return f.id == dial; });
  expects(at != m_facts.end(), "DialFields: no such dial");
  return *at;
}

void DialFields::turn(const DialFacts& f, double value, LengthField* asking) {
  const std::string place = m_place();
  if (place.empty()) return;
  const Document::Change change = [&](const Build& b) { return with_setting(b, place, f.id, value); };
  if (asking != nullptr)
    m_station->submit(asking, qs(f.label), change);
  else
    m_station->change(qs(f.label), change, f.kind == DialKind::flag ? QString() : qs(place + "/" + f.id));
}

void DialFields::say(const DialFacts& f, const std::string& to) {
  const std::string place = m_place();
  if (place.empty()) return;
  m_station->change(qs(f.label), [&](const Build& b) { return with_setting(b, place + "/" + f.id, to); }, {});
}

QWidget* DialFields::makeSpin(const DialFacts& f, QWidget* parent) {
  if (f.kind == DialKind::count) {
    auto* box = new QSpinBox(parent);
    box->setRange(f.zero.empty() ? static_cast<int>(f.least) : 0, static_cast<int>(f.most));
    if (!f.zero.empty()) box->setSpecialValueText(qs(f.zero));
    connect(box, &QSpinBox::valueChanged, this, [this, f](int n) { turn(f, n); });
    return box;
  }
  const double times = f.kind == DialKind::share ? 100.0 : 1.0;
  auto* box = new QDoubleSpinBox(parent);
  box->setDecimals(f.kind == DialKind::number ? f.decimals : 0);
  box->setRange(times * f.least, times * f.most);
  box->setSingleStep(f.kind == DialKind::number && f.decimals > 0 ? 0.5 : 1.0);
  box->setSuffix(f.kind == DialKind::share ? tr(" %")
          : f.kind == DialKind::angle      ? QStringLiteral("\u00b0")
                                           : qs(f.unit));
  connect(box, &QDoubleSpinBox::valueChanged, this, [this, f, times](double v) { turn(f, v / times); });
  return box;
}

QWidget* DialFields::makeField(const QString& name, const DialFacts& f, QWidget* parent) {
  QWidget* made = nullptr;
  if (f.kind == DialKind::length) {
    auto* field = new LengthField(name, qs(f.label), qs(f.tip), parent);
    connect(field, &LengthField::entered, this, [this, f, field](double mm) { turn(f, mm, field); });
    return field;
  }
  if (f.kind == DialKind::choice || f.kind == DialKind::word) {
    auto* box = new QComboBox(parent);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(15);
    for (std::size_t i = 0; i < f.options.size(); ++i)
      box->addItem(qs(f.said.empty() ? f.options[i] : f.said[i]), QString::fromStdString(f.options[i]));
    connect(
        box, &QComboBox::activated, this, [this, f, box](int i) { say(f, box->itemData(i).toString().toStdString()); });
    made = box;
  } else if (f.kind == DialKind::flag) {
    auto* box = new QCheckBox(qs(f.label), parent);
    connect(box, &QCheckBox::clicked, this, [this, f](bool on) { turn(f, on ? 1.0 : 0.0); });
    made = box;
  } else {
    made = makeSpin(f, parent);
  }
  made->setObjectName(name);
  made->setAccessibleName(qs(f.label));
  made->setToolTip(qs(f.tip));
  return made;
}

QWidget* DialFields::field(const QString& name, const std::string& dial, QWidget* parent) {
  const DialFacts& f = factsOf(dial);
  QWidget* made = makeField(name, f, parent != nullptr ? parent : m_station);
  m_held.push_back({made, f});
  if (!m_always.empty()) m_station->leadTo(made, qs(m_always + "/" + dial));
  return made;
}

QWidget* DialFields::make(TrayGroup* group, const QString& name, const std::string& dial) {
  QWidget* made = field(name, dial, group->place());
  if (factsOf(dial).kind == DialKind::flag)
    group->body()->addWidget(made);
  else
    group->addRow(qs(factsOf(dial).label), made);
  return made;
}

QComboBox* DialFields::addChoice(TrayGroup* group, const QString& name, const std::string& dial,
    const std::vector<std::pair<std::string, QString>>& choices) {
  DialFacts f = factsOf(dial);
  f.kind = DialKind::choice, f.options.clear(), f.said.clear();
  auto* box = qobject_cast<QComboBox*>(makeField(name, f, group->place()));
  for (const auto& [value, text] : choices) box->addItem(text, QString::fromStdString(value));
  m_held.push_back({box, f});
  if (!m_always.empty()) m_station->leadTo(box, qs(m_always + "/" + dial));
  group->addRow(qs(f.label), box);
  return box;
}

QComboBox* DialFields::addSome(
    TrayGroup* group, const QString& name, const std::string& dial, const std::vector<std::string>& words) {
  const DialFacts& f = factsOf(dial);
  std::vector<std::pair<std::string, QString>> choices;
  for (const std::string& word : words) {
    const auto at = std::find(f.options.begin(), f.options.end(), word);
    expects(at != f.options.end(), "DialFields::addSome: no such word");
    choices.push_back({word, qs(f.said.empty() ? word : f.said[static_cast<std::size_t>(at - f.options.begin())])});
  }
  return addChoice(group, name, dial, choices);
}

void DialFields::showIn(QWidget* field, const Dial& d, LengthUnit unit) {
  const QSignalBlocker quiet(field);
  if (auto* length = qobject_cast<LengthField*>(field)) return length->showValue(d.value(), unit);
  if (auto* box = qobject_cast<QCheckBox*>(field)) return box->setChecked(d.value() > 0.5);
  if (auto* whole = qobject_cast<QSpinBox*>(field)) return whole->setValue(static_cast<int>(d.value()));
  if (auto* number = qobject_cast<QDoubleSpinBox*>(field))
    return number->setValue((d.facts.kind == DialKind::share ? 100.0 : 1.0) * d.value());
  auto* box = qobject_cast<QComboBox*>(field);
  if (d.facts.kind != DialKind::word && d.facts.kind != DialKind::choice)
    return box->setCurrentIndex(nextOffered(*box, d.value()));
  const QString said =
      QString::fromStdString(d.facts.kind == DialKind::word ? d.word() : dial_text(d.facts, d.value()));
  // A word the tray does not offer is one all the same: a magnet of another size, a sheet the shop no longer has.
  if (d.facts.kind == DialKind::word && !said.isEmpty() && box->findData(said) < 0) box->addItem(said, said);
  box->setCurrentIndex(box->findData(said));
}

void DialFields::show(const Build& build) {
  Build copy = build;
  const std::string place = m_place();
  const auto dials = place.empty() ? Result<std::vector<Dial>>(fail(Errc::unknown_name, {})) : dials_at(copy, place);
  for (const Held& h : m_held) {
    const Dial* dial = nullptr;
    if (dials)
      for (const Dial& d : *dials)
        if (d.facts.id == h.facts.id) dial = &d;
    if (dial != nullptr)
      showIn(h.field, *dial, build.shown);
    else if (auto* length = qobject_cast<LengthField*>(h.field))
      length->showValue(std::nullopt, build.shown);
  }
}

}  // namespace awl
