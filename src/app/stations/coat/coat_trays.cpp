#include <QHBoxLayout>
#include <QSignalBlocker>

#include "app/stations/coat/coat_station.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

template <class Products>
std::vector<std::pair<std::string, QString>> choicesOf(const Products& products) {
  std::vector<std::pair<std::string, QString>> out;
  for (const auto& p : products) out.push_back({p.id, qs(p.name)});
  return out;
}

}  // namespace

QSpinBox* CoatStation::addWhole(
    TrayGroup* group, const QString& name, const QString& label, int least, int most, int FinishSpec::*field) {
  auto* box = new QSpinBox(this);
  box->setObjectName(name);
  box->setAccessibleName(label);
  box->setRange(least, most);
  if (least == 0) box->setSpecialValueText(tr("as the product says"));
  group->addRow(label, box);
  connect(box, &QSpinBox::valueChanged, this, [this, label, name, field](int n) {
    m_document.edit(
        label, [&](Build& next) { next.coat.*field = n; }, name);
  });
  return box;
}

QCheckBox* CoatStation::addCheck(
    TrayGroup* group, const QString& name, const QString& text, const QString& tip, bool FinishSpec::*field) {
  auto* box = new QCheckBox(text, this);
  box->setObjectName(name);
  box->setToolTip(tip);
  group->body()->addWidget(box);
  connect(box, &QCheckBox::clicked, this,
      [this, text, field](bool on) { m_document.edit(text, [&](Build& next) { next.coat.*field = on; }); });
  return box;
}

QDoubleSpinBox* CoatStation::addNumber(TrayGroup* group, const QString& name, const QString& label, double least,
    double most, const std::function<double&(CoatSpec&)>& field) {
  auto* box = new QDoubleSpinBox(this);
  box->setObjectName(name);
  box->setAccessibleName(label);
  box->setRange(least, most);
  box->setDecimals(most > 50.0 ? 0 : 1);
  group->addRow(label, box);
  connect(box, &QDoubleSpinBox::valueChanged, this, [this, label, name, field](double v) {
    m_document.edit(
        label, [&](Build& next) { field(next.coat) = v; }, name);
  });
  return box;
}

void CoatStation::addProducts() {
  const Materials& m = m_place.chain.materials();
  addDrawer(QStringLiteral("products"), tr("Products"), tr("Glue, seal, paint and clear coat."));
  TrayGroup* products = addGroup(tr("Glue and coats"));
  m_glue =
      addChoice(products, QStringLiteral("coat-glue"), tr("Glue"), tr("Each has its own wait and its own caution."),
          choicesOf(m.glues), [](Build& b, const std::string& id) { b.coat.glue = id; });
  m_seal = addChoice(products, QStringLiteral("coat-seal"), tr("Seal"),
      tr("Foam drinks paint: something must close it first."), choicesOf(m.seals),
      [](Build& b, const std::string& id) { b.coat.seal = id; });
  m_sealCoats =
      addWhole(products, QStringLiteral("coat-seal-coats"), tr("Coats of seal"), 0, 12, &FinishSpec::seal_coats);
  m_paint = addChoice(products, QStringLiteral("coat-paint"), tr("Paint"), tr("Must stay on the seal below it."),
      choicesOf(m.paints), [](Build& b, const std::string& id) { b.coat.paint = id; });
  m_clear = addChoice(products, QStringLiteral("coat-clear"), tr("Clear coat"), tr("Keeps the paint from rubbing off."),
      choicesOf(m.clears), [](Build& b, const std::string& id) { b.coat.clear = id; });
  m_clearCoats =
      addWhole(products, QStringLiteral("coat-clear-coats"), tr("Clear coats"), 0, 12, &FinishSpec::clear_coats);
  TrayGroup* joints = addGroup(tr("Another glue for one joint"), false);
  m_joint = addJoints(joints, QStringLiteral("coat-joint"));
  m_jointGlue = new QComboBox(this);
  m_jointGlue->setObjectName(QStringLiteral("coat-joint-glue"));
  m_jointGlue->setAccessibleName(tr("Its glue"));
  m_jointGlue->setToolTip(tr("What its faces do not bear is not planned on them."));
  m_jointGlue->addItem(tr("the build's"), QStringLiteral("-"));
  for (const Glue& g : m.glues) m_jointGlue->addItem(qs(g.name), QString::fromStdString(g.id));
  joints->addRow(tr("Glue"), m_jointGlue);
  connect(m_jointGlue, &QComboBox::activated, this, [this](int index) {
    if (m_joint->currentIndex() < 0) return;
    act(tr("Glue of a joint"),
        "glue-joint " + m_jointGlue->itemData(index).toString().toStdString() + " " +
            m_joint->currentText().toStdString());
  });
}

/// A list of the joints there are; what is said of the chosen one is shown beside.
QComboBox* CoatStation::addJoints(TrayGroup* group, const QString& name) {
  auto* box = new QComboBox(this);
  box->setObjectName(name);
  box->setAccessibleName(tr("Joint"));
  box->setToolTip(tr("The seams of a part, or a part on another."));
  group->addRow(tr("Joint"), box);
  connect(box, &QComboBox::activated, this, [this] { showJoints(m_document.build()); });
  return box;
}

void CoatStation::addSeamLooks() {
  TrayGroup* group = addGroup(tr("Another way with one joint's seams"), false);
  m_seamJoint = addJoints(group, QStringLiteral("coat-seam-joint"));
  m_seamLook = new QComboBox(this);
  m_seamLook->setObjectName(QStringLiteral("coat-seam-look"));
  m_seamLook->setAccessibleName(tr("Its seams"));
  m_seamLook->setToolTip(tr("What is done with them before sealing."));
  for (const auto& [look, text] : {std::pair{"-", tr("as the build's")}, {"fill", tr("Fill and sand")},
           {"sand", tr("Sand only")}, {"cover", tr("Cover with a strip")}, {"leave", tr("Leave them to be seen")}})
    m_seamLook->addItem(text, QLatin1String(look));
  group->addRow(tr("Seams"), m_seamLook);
  connect(m_seamLook, &QComboBox::activated, this, [this](int index) {
    if (m_seamJoint->currentIndex() < 0) return;
    act(tr("Seams of a joint"),
        "seam-joint " + m_seamLook->itemData(index).toString().toStdString() + " " +
            m_seamJoint->currentText().toStdString());
  });
}

void CoatStation::addWays() {
  addDrawer(QStringLiteral("ways"), tr("Ways"), tr("Seams, build-ups, sealing with heat, shading."));
  TrayGroup* seams = addGroup(tr("Foam"));
  m_seams = addChoice(seams, QStringLiteral("coat-seams"), tr("Seams"), tr("What is done with them before sealing."),
      {{"fill", tr("Fill and sand")}, {"sand", tr("Sand only")}, {"cover", tr("Cover with a strip")},
          {"leave", tr("Leave them to be seen")}},
      [](Build& b, const std::string& id) {
        b.coat.fill_seams = id == "fill";
        if (const auto look = seam_look_from(id)) b.coat.bare_seams = *look;
      });
  m_passes = addWhole(seams, QStringLiteral("coat-passes"), tr("Passes of filler"), 1, 9, &FinishSpec::fill_passes);
  m_buildUp = addChoice(seams, QStringLiteral("coat-build-up"), tr("Built up with"),
      tr("Brows, cheeks, ridges put on after gluing."),
      {{"none", tr("nothing")}, {"clay", tr("soft filler")}, {"layers", tr("layers of thin foam")}},
      [](Build& b, const std::string& id) {
        if (const auto with = build_up_from(id)) b.coat.build_up = *with;
      });
  m_tapeInside = addCheck(seams, QStringLiteral("coat-tape"), tr("Tape the seams from inside"),
      tr("Backs thin foam; keeps glue from showing."), &FinishSpec::tape_inside);
  m_heatSeal = new QCheckBox(tr("Heat-seal the foam first"), this);
  m_heatSeal->setObjectName(QStringLiteral("coat-heat-seal"));
  m_heatSeal->setToolTip(tr("Closes the pores, where the material bears heat."));
  seams->body()->addWidget(m_heatSeal);
  connect(m_heatSeal, &QCheckBox::clicked, this,
      [this](bool on) { m_document.edit(tr("Heat-seal"), [on](Build& next) { next.coat.heat_seal = on; }); });
  m_sandBetween = addCheck(seams, QStringLiteral("coat-sand-between"), tr("Sand between coats that want it"),
      tr("Primer and house paint."), &FinishSpec::sand_between);
  addSeamLooks();
  TrayGroup* paint = addGroup(tr("On the paint"));
  m_shade =
      addChoice(paint, QStringLiteral("coat-shade"), tr("Hollows"), tr("Darkened, so that shapes read from afar."),
          {{"none", tr("as they are")}, {"wash", tr("with a wash")}, {"oil", tr("with oil colour, dries for days")}},
          [](Build& b, const std::string& id) {
            if (const auto shade = shade_from(id)) b.coat.shade = *shade;
          });
  m_dryBrush = addCheck(paint, QStringLiteral("coat-dry-brush"), tr("Dry-brush edges and raised lines"),
      tr("Lights what stands proud."), &FinishSpec::dry_brush);
}

void CoatStation::addDay(
    TrayGroup* group, QDateEdit* edit, const QString& name, const QString& label, Day CoatSpec::*field) {
  edit->setObjectName(name);
  edit->setAccessibleName(label);
  edit->setCalendarPopup(true);
  edit->setLocale(spokenLocale());
  edit->setDisplayFormat(QStringLiteral("ddd d MMM yyyy"));
  group->addRow(label, edit);
  connect(edit, &QDateEdit::dateChanged, this, [this, label, field](const QDate& date) {
    m_document.edit(
        label, [&](Build& next) { (next.coat.*field).number = static_cast<int>(kEpoch.daysTo(date)); }, label);
  });
}

void CoatStation::addDays() {
  addDrawer(QStringLiteral("days"), tr("Days"), tr("When you begin, when it must be done, hours at the bench."));
  TrayGroup* group = addGroup(tr("Days"));
  addDay(group, m_start, QStringLiteral("coat-start"), tr("Start"), &CoatSpec::start);
  addDay(group, m_due, QStringLiteral("coat-due"), tr("Must be ready"), &CoatSpec::due);
  m_opens->setObjectName(QStringLiteral("coat-opens"));
  m_opens->setDisplayFormat(QStringLiteral("HH:mm"));
  group->addRow(tr("Bench opens"), m_opens);
  connect(m_opens, &QTimeEdit::timeChanged, this, [this](const QTime& time) {
    const double h = time.hour() + time.minute() / 60.0;
    m_document.edit(
        tr("Bench opens"), [h](Build& next) { next.coat.opens_h = h; }, QStringLiteral("opens"));
  });
  m_hours = new QDoubleSpinBox(this);
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
  auto* week = new QHBoxLayout;
  const QLocale own = spokenLocale();
  for (int d = 0; d < 7; ++d) {
    auto* button = m_week[static_cast<std::size_t>(d)] = new QToolButton(this);
    button->setObjectName(QStringLiteral("coat-weekday-%1").arg(d));
    button->setText(own.standaloneDayName(d + 1, QLocale::ShortFormat));
    button->setToolTip(tr("Open or closed every week"));
    button->setCheckable(true);
    week->addWidget(button);
    connect(button, &QToolButton::clicked, this, [this, d](bool on) {
      m_document.edit(tr("Open days"), [&](Build& next) { next.coat.open_on[static_cast<std::size_t>(d)] = on; });
    });
  }
  week->addStretch(1);
  group->body()->addLayout(week);
  const auto dayList = [&](QDateEdit* edit, QLabel* text, const QString& name, const QString& label,
                           const std::function<void(Build&, Day)>& toggle) {
    edit->setObjectName(name);
    edit->setAccessibleName(label);
    edit->setCalendarPopup(true);
    edit->setLocale(spokenLocale());
    edit->setDisplayFormat(QStringLiteral("ddd d MMM yyyy"));
    auto* row = new QHBoxLayout;
    auto* put = new QPushButton(tr("Name it"), this);
    put->setObjectName(name + QStringLiteral("-put"));
    put->setToolTip(tr("Names the day, or takes it back."));
    row->addWidget(edit, 1);
    row->addWidget(put);
    group->body()->addWidget(new QLabel(label, this));
    group->body()->addLayout(row);
    text->setWordWrap(true);
    text->setProperty("quiet", true);
    group->body()->addWidget(text);
    connect(put, &QPushButton::clicked, this, [this, edit, label, toggle] {
      const Day day{static_cast<int>(kEpoch.daysTo(edit->date()))};
      m_document.edit(label, [&](Build& next) { toggle(next, day); });
    });
  };
  dayList(m_closedDay, m_closedText, QStringLiteral("coat-closed"), tr("Closed on"), [](Build& next, Day day) {
    auto& days = next.coat.closed;
    if (std::erase(days, day) == 0) days.push_back(day);
    std::sort(days.begin(), days.end());
  });
  m_outdoorsNamed = addCheck(group, QStringLiteral("coat-outdoors-named"), tr("Outdoors only on days I name"),
      tr("For spraying, and for what gives off harmful gas."), &FinishSpec::names_outdoors);
  dayList(m_outdoorDay, m_outdoorText, QStringLiteral("coat-outdoor"), tr("Outdoors on"), [](Build& next, Day day) {
    auto& days = next.coat.outdoors;
    if (std::erase_if(days, [day](const OutdoorDay& d) { return d.day == day; }) == 0) days.push_back({day});
    std::sort(days.begin(), days.end(), [](const OutdoorDay& a, const OutdoorDay& b) { return a.day < b.day; });
  });
}

void CoatStation::addRoom() {
  addDrawer(QStringLiteral("room"), tr("Room"), tr("Hands, drying places, warmth and damp."));
  TrayGroup* group = addGroup(tr("Who and where"));
  m_hands = addWhole(group, QStringLiteral("coat-hands"), tr("Pairs of hands"), 1, 2, &FinishSpec::hands);
  m_places = addWhole(
      group, QStringLiteral("coat-places"), tr("Coats that can dry at once"), 1, 20, &FinishSpec::drying_places);
  TrayGroup* room = addGroup(tr("Where it dries"));
  m_temperature = addNumber(room, QStringLiteral("coat-temperature"), tr("Degrees Celsius"), 2.0, 45.0,
      [](CoatSpec& s) -> double& { return s.temperature_c; });
  m_damp = addNumber(
      room, QStringLiteral("coat-damp"), tr("Damp, percent"), 5.0, 98.0, [](CoatSpec& s) -> double& { return s.damp; });
  m_damp->disconnect(this);
  connect(m_damp, &QDoubleSpinBox::valueChanged, this, [this](double percent) {
    m_document.edit(
        tr("Damp"), [percent](Build& next) { next.coat.damp = percent / 100.0; }, QStringLiteral("damp"));
  });
  m_fan = addCheck(
      room, QStringLiteral("coat-fan"), tr("A fan moves the air"), tr("Not towards wet spray."), &FinishSpec::fan);
  room->addText(
      tr("Waits grow in the cold and the damp; how much is a workshop value, not measured. They are never shorter than "
         "the label's."));
  TrayGroup* search = addGroup(tr("The order"));
  m_longer = addCheck(search, QStringLiteral("coat-longer"), tr("Search longer for a better order"),
      tr("Takes a second or two at every change."), &FinishSpec::search_longer);
}

void CoatStation::addNeeds() {
  addDrawer(QStringLiteral("needs"), tr("Needs"), tr("Amounts of what it takes; the plan to carry about."));
  TrayGroup* needs = addGroup(tr("What it takes"));
  m_needs->setObjectName(QStringLiteral("coat-needs"));
  m_needs->setWordWrap(true);
  needs->body()->addWidget(m_needs);
  needs->addText(tr("Amounts, waits and cautions are workshop values: the label of what you bought wins."));
  TrayGroup* out = addGroup(tr("To carry about"));
  for (const auto& [kind, text, tip] :
      {std::tuple{"plan-pdf", tr("Print the plan\u2026"), tr("Days, steps and cautions on paper.")},
          {"plan-ics", tr("Write a calendar\u2026"),
              tr("For a phone: written over the last one, it moves what has moved.")},
          {"care-pdf", tr("Print care and packing\u2026"), tr("For the wearer.")}})
    addButton(out, QStringLiteral("coat-%1").arg(QLatin1String(kind)), text, tip,
        [this, k = QString::fromLatin1(kind)] { emit exportWanted(k); });
}

void CoatStation::addPrice() {
  addDrawer(QStringLiteral("price"), tr("Price"), tr("What to ask for it, with its range."));
  TrayGroup* group = addGroup(tr("A quote"));
  m_quote->setObjectName(QStringLiteral("coat-quote"));
  m_quote->setWordWrap(true);
  group->body()->addWidget(m_quote);
  TrayGroup* rates = addGroup(tr("Reckoned with"));
  m_rate = addNumber(rates, QStringLiteral("coat-rate"), tr("Price of an hour"), 0.0, 10'000.0,
      [](CoatSpec& s) -> double& { return s.rates.rate; });
  m_rate->setDecimals(2);
  const auto percent = [&](const QString& name, const QString& label, double QuoteRates::*field) {
    QDoubleSpinBox* box =
        addNumber(rates, name, label, 0.0, 500.0, [](CoatSpec& s) -> double& { return s.rates.rate; });
    box->disconnect(this);
    connect(box, &QDoubleSpinBox::valueChanged, this, [this, label, name, field](double v) {
      m_document.edit(
          label, [&](Build& next) { next.coat.rates.*field = v / 100.0; }, name);
    });
    return box;
  };
  m_waste = percent(QStringLiteral("coat-waste"), tr("Waste of materials, percent"), &QuoteRates::waste);
  m_overheads = percent(QStringLiteral("coat-overheads"), tr("Overheads, percent of labour"), &QuoteRates::overheads);
  m_margin = percent(QStringLiteral("coat-margin"), tr("Margin, percent"), &QuoteRates::margin);
  addButton(group, QStringLiteral("coat-quote-pdf"), tr("Print the quote\u2026"),
      tr("For the customer: price, range, what is in it."), [this] { emit exportWanted(QStringLiteral("quote-pdf")); });
}

}  // namespace awl
