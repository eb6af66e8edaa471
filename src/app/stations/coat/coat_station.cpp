#include "app/stations/coat/coat_station.hpp"

#include <QSignalBlocker>

#include "core/base/numbers.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

template <class Products>
std::vector<std::pair<std::string, QString>> choicesOf(const Products& products) {
  std::vector<std::pair<std::string, QString>> out;
  for (const auto& p : products) out.push_back({p.id, QString::fromStdString(p.name)});
  return out;
}

}  // namespace

CoatStation::CoatStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("coat"), tr("Coat"), parent),
      m_fill(new QCheckBox(tr("Fill and sand the seams"), this)),
      m_heatSeal(new QCheckBox(tr("Heat-seal the foam first"), this)), m_start(new QDateEdit(this)),
      m_due(new QDateEdit(this)), m_hours(new QDoubleSpinBox(this)), m_plan(new PlanView),
      m_page(new QScrollArea(this)) {
  m_page->setWidgetResizable(true);
  m_page->setFrameShape(QFrame::NoFrame);
  m_page->setWidget(m_plan);
  const Materials& m = place.chain.materials();
  addDrawer(QStringLiteral("products"), tr("Products"), tr("Glue, seal, paint and clear coat."));
  TrayGroup* products = addGroup(tr("Glue and coats"));
  m_glue =
      addChoice(products, QStringLiteral("coat-glue"), tr("Glue"), tr("Each has its own wait and its own caution."),
          choicesOf(m.glues), [](Build& b, const std::string& id) { b.coat.glue = id; });
  m_seal = addChoice(products, QStringLiteral("coat-seal"), tr("Seal"),
      tr("Foam drinks paint: something must close it first."), choicesOf(m.seals),
      [](Build& b, const std::string& id) { b.coat.seal = id; });
  m_paint = addChoice(products, QStringLiteral("coat-paint"), tr("Paint"), tr("Must stay on the seal below it."),
      choicesOf(m.paints), [](Build& b, const std::string& id) { b.coat.paint = id; });
  m_clear = addChoice(products, QStringLiteral("coat-clear"), tr("Clear coat"), tr("Keeps the paint from rubbing off."),
      choicesOf(m.clears), [](Build& b, const std::string& id) { b.coat.clear = id; });
  m_fill->setObjectName(QStringLiteral("coat-fill"));
  m_heatSeal->setObjectName(QStringLiteral("coat-heat-seal"));
  products->body()->addWidget(m_fill);
  products->body()->addWidget(m_heatSeal);
  connect(m_fill, &QCheckBox::clicked, this,
      [this](bool on) { m_document.edit(tr("Fill seams"), [on](Build& next) { next.coat.fill_seams = on; }); });
  connect(m_heatSeal, &QCheckBox::clicked, this,
      [this](bool on) { m_document.edit(tr("Heat-seal"), [on](Build& next) { next.coat.heat_seal = on; }); });
  addDrawer(QStringLiteral("days"), tr("Days"), tr("When you begin, when it must be done, hours a day."));
  addDays(addGroup(tr("Days")));
  addDrawer(QStringLiteral("needs"), tr("Needs"), tr("Amounts of what it takes."));
  TrayGroup* needs = addGroup(tr("What it takes"));
  m_needs = needs->addText({});
  m_needs->setObjectName(QStringLiteral("coat-needs"));
  needs->addText(tr("Amounts, waits and cautions are workshop values: the label of what you bought wins."));
  m_column->addStretch(1);
}

void CoatStation::addDays(TrayGroup* group) {
  const auto day = [&](QDateEdit* edit, const QString& name, const QString& label, auto member) {
    edit->setObjectName(name);
    edit->setAccessibleName(label);
    edit->setCalendarPopup(true);
    edit->setDisplayFormat(QStringLiteral("ddd d MMM yyyy"));
    group->addRow(label, edit);
    connect(edit, &QDateEdit::dateChanged, this, [this, label, member](const QDate& date) {
      m_document.edit(
          label, [&](Build& next) { (next.coat.*member).number = static_cast<int>(kEpoch.daysTo(date)); }, label);
    });
  };
  day(m_start, QStringLiteral("coat-start"), tr("Start"), &CoatSpec::start);
  day(m_due, QStringLiteral("coat-due"), tr("Must be ready"), &CoatSpec::due);
  m_hours->setObjectName(QStringLiteral("coat-hours"));
  m_hours->setAccessibleName(tr("Hours a day at the bench"));
  m_hours->setRange(0.5, 14.0);
  m_hours->setSingleStep(0.5);
  m_hours->setDecimals(1);
  group->addRow(tr("Hours a day"), m_hours);
  connect(m_hours, &QDoubleSpinBox::valueChanged, this, [this](double h) {
    m_document.edit(
        tr("Hours a day"), [h](Build& next) { next.coat.hours_a_day = h; }, QStringLiteral("hours"));
  });
}

void CoatStation::show(const Build& build, const Derived& derived) {
  m_plan->show(derived.plan, build.coat);
  showChoice(m_glue, build.coat.glue), showChoice(m_seal, build.coat.seal), showChoice(m_paint, build.coat.paint),
      showChoice(m_clear, build.coat.clear);
  m_fill->setChecked(build.coat.fill_seams);
  m_heatSeal->setChecked(build.coat.heat_seal);
  const QSignalBlocker a(m_start), b(m_due), c(m_hours);
  m_start->setDate(kEpoch.addDays(build.coat.start.number));
  m_due->setDate(kEpoch.addDays(build.coat.due.number));
  m_hours->setValue(build.coat.hours_a_day);
  if (!derived.plan) return;
  QStringList lines{tr("Hands on: %1").arg(QString::fromStdString(duration_text(derived.plan->hands_min)))};
  for (const Need& need : derived.plan->needs)
    lines << tr("%1: about %2 ml").arg(QString::fromStdString(need.name), QString::fromStdString(fixed(need.ml, 0)));
  m_needs->setText(lines.join(QLatin1Char('\n')));
}

}  // namespace awl
