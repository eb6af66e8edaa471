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

void CoatStation::addProducts() {
  const Materials& m = m_place.chain.materials();
  addDrawer(QStringLiteral("products"), tr("Products"), tr("Glue, seal, paint and clear coat."));
  TrayGroup* products = addGroup(tr("Glue and coats"));
  m_coat->addChoice(products, QStringLiteral("coat-glue"), "glue", choicesOf(m.glues));
  m_coat->addChoice(products, QStringLiteral("coat-seal"), "seal", choicesOf(m.seals));
  m_coat->add<QSpinBox>(products, QStringLiteral("coat-seal-coats"), "seal-coats");
  m_coat->addChoice(products, QStringLiteral("coat-paint"), "paint", choicesOf(m.paints));
  m_coat->addChoice(products, QStringLiteral("coat-clear"), "clear", choicesOf(m.clears));
  m_coat->add<QSpinBox>(products, QStringLiteral("coat-clear-coats"), "clear-coats");
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
  m_passes = m_coat->add<QSpinBox>(seams, QStringLiteral("coat-passes"), "passes");
  m_coat->add<QComboBox>(seams, QStringLiteral("coat-build-up"), "build-up");
  m_coat->add<QCheckBox>(seams, QStringLiteral("coat-tape"), "tape");
  m_coat->add<QCheckBox>(seams, QStringLiteral("coat-heat-seal"), "heat-seal");
  m_coat->add<QCheckBox>(seams, QStringLiteral("coat-sand-between"), "sand-between");
  addSeamLooks();
  TrayGroup* paint = addGroup(tr("On the paint"));
  m_coat->add<QComboBox>(paint, QStringLiteral("coat-shade"), "shade");
  m_coat->add<QCheckBox>(paint, QStringLiteral("coat-dry-brush"), "dry-brush");
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
  m_coat->add<QDoubleSpinBox>(group, QStringLiteral("coat-hours"), "hours");
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
  m_coat->add<QCheckBox>(group, QStringLiteral("coat-outdoors-named"), "outdoors-named");
  dayList(m_outdoorDay, m_outdoorText, QStringLiteral("coat-outdoor"), tr("Outdoors on"), [](Build& next, Day day) {
    auto& days = next.coat.outdoors;
    if (std::erase_if(days, [day](const OutdoorDay& d) { return d.day == day; }) == 0) days.push_back({day});
    std::sort(days.begin(), days.end(), [](const OutdoorDay& a, const OutdoorDay& b) { return a.day < b.day; });
  });
}

void CoatStation::addRoom() {
  addDrawer(QStringLiteral("room"), tr("Room"), tr("Hands, drying places, warmth and damp."));
  TrayGroup* group = addGroup(tr("Who and where"));
  m_coat->add<QSpinBox>(group, QStringLiteral("coat-hands"), "hands");
  m_coat->add<QSpinBox>(group, QStringLiteral("coat-places"), "places");
  TrayGroup* room = addGroup(tr("Where it dries"));
  m_coat->add<QDoubleSpinBox>(room, QStringLiteral("coat-temperature"), "temperature");
  m_coat->add<QDoubleSpinBox>(room, QStringLiteral("coat-damp"), "damp");
  m_coat->add<QCheckBox>(room, QStringLiteral("coat-fan"), "fan");
  room->addText(
      tr("Waits grow in the cold and the damp; how much is a workshop value, not measured. They are never shorter than "
         "the label's."));
  TrayGroup* search = addGroup(tr("The order"));
  m_coat->add<QCheckBox>(search, QStringLiteral("coat-longer"), "longer");
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
  for (const char* dial : {"rate", "waste", "overheads", "margin", "round"})
    m_rates->add<QDoubleSpinBox>(rates, QStringLiteral("coat-") + QLatin1String(dial), dial);
  addButton(group, QStringLiteral("coat-quote-pdf"), tr("Print the quote\u2026"),
      tr("For the customer: price, range, what is in it."), [this] { emit exportWanted(QStringLiteral("quote-pdf")); });
}

}  // namespace awl
