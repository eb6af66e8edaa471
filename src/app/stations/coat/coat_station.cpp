#include "app/stations/coat/coat_station.hpp"

#include <QDateTime>
#include <QHBoxLayout>
#include <QSignalBlocker>
#include <limits>

#include "app/widgets/text.hpp"
#include "core/base/numbers.hpp"
#include "core/steps/shopping.hpp"

namespace awl {
namespace {

template <class Products>
std::vector<std::pair<std::string, QString>> choicesOf(const Products& products) {
  std::vector<std::pair<std::string, QString>> out;
  for (const auto& p : products) out.push_back({p.id, qs(p.name)});
  return out;
}

Moment clockNow() {
  const QDateTime at = QDateTime::currentDateTime();
  return midnight_of(Day{static_cast<int>(kEpoch.daysTo(at.date()))}) + at.time().hour() * 60 + at.time().minute();
}

QString daysText(const std::vector<Day>& days) {
  QStringList words;
  for (const Day day : days) words << qs(day.spoken());
  return words.join(QStringLiteral(", "));
}

/// What paint lies on by the time a step is done: seals and paints, by the rules' names.
bool isDoneBy(const Plan& plan, const QString& chosen, const std::string& id) {
  if (chosen.isEmpty()) return true;
  for (const PlannedStep& s : plan.steps) {
    if (s.id == id) return true;
    if (qs(s.id) == chosen) return false;
  }
  return false;
}

/// The last step of a rule and scope; empty if there is none.
std::string lastOf(const Plan& plan, const std::string& prefix) {
  std::string last;
  for (const PlannedStep& s : plan.steps)
    if (s.id.starts_with(prefix)) last = s.id;
  return last;
}

}  // namespace

CoatStation::CoatStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("coat"), tr("Coat"), parent), now(clockNow), m_page(new PlanPage(this)),
      m_start(new QDateEdit(this)), m_due(new QDateEdit(this)), m_closedDay(new QDateEdit(this)),
      m_outdoorDay(new QDateEdit(this)), m_opens(new QTimeEdit(this)), m_closedText(new QLabel(this)),
      m_outdoorText(new QLabel(this)), m_needs(new QLabel(this)), m_quote(new QLabel(this)) {
  addProducts();
  addWays();
  addDrawer(QStringLiteral("colours"), tr("Colours"), tr("Which colour goes where, and in what order it is masked."));
  m_colours = new ColourTray(*this, place);
  addDays();
  addRoom();
  addNeeds();
  addPrice();
  m_column->addStretch(1);
  connect(&drawers(), &Drawers::opened, this, [this] { showPrice(); });
  connect(m_page, &PlanPage::beginWanted, this, &CoatStation::begin);
  connect(m_page, &PlanPage::tickWanted, this, &CoatStation::tick);
  connect(&m_page->days(), &PlanView::stepChosen, this, [this](const QString& id) {
    m_chosen = id == m_chosen ? QString() : id;
    m_page->days().setChosen(m_chosen);
    showLook();
    emit standChanged();
  });
}

void CoatStation::act(const QString& label, const std::string& act) {
  m_document.change(label, [&](const Build& b) -> Result<Build> {
    auto next = apply_act(b, act);
    if (!next) return next;
    if (auto good = check_inputs(*next); !good) return fail(good);
    return next;
  });
}

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
  m_joint = new QComboBox(this);
  m_joint->setObjectName(QStringLiteral("coat-joint"));
  m_joint->setAccessibleName(tr("Joint"));
  m_joint->setToolTip(tr("The seams of a part, or a part on another."));
  m_jointGlue = new QComboBox(this);
  m_jointGlue->setObjectName(QStringLiteral("coat-joint-glue"));
  m_jointGlue->setAccessibleName(tr("Its glue"));
  m_jointGlue->setToolTip(tr("What its faces do not bear is not planned on them."));
  m_jointGlue->addItem(tr("the build's"), QStringLiteral("-"));
  for (const Glue& g : m.glues) m_jointGlue->addItem(qs(g.name), qs(g.id));
  joints->addRow(tr("Joint"), m_joint);
  joints->addRow(tr("Glue"), m_jointGlue);
  connect(m_joint, &QComboBox::activated, this, [this] { showJoints(m_document.build()); });
  connect(m_jointGlue, &QComboBox::activated, this, [this](int index) {
    if (m_joint->currentIndex() < 0) return;
    act(tr("Glue of a joint"),
        "glue-joint " + m_jointGlue->itemData(index).toString().toStdString() + " " +
            m_joint->currentText().toStdString());
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
  const QLocale english(QLocale::English);
  for (int d = 0; d < 7; ++d) {
    auto* button = m_week[static_cast<std::size_t>(d)] = new QToolButton(this);
    button->setObjectName(QStringLiteral("coat-weekday-%1").arg(d));
    button->setText(english.standaloneDayName(d + 1, QLocale::ShortFormat));
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

const PlannedStep* CoatStation::step(const QString& id) const {
  if (m_shown.plan)
    for (const PlannedStep& s : m_shown.plan->steps)
      if (qs(s.id) == id) return &s;
  return nullptr;
}

/// Writes down the time, here and in the book.
void CoatStation::begin(const QString& id) {
  const PlannedStep* s = step(id);
  if (s == nullptr) return;
  m_begun = id;
  m_begunAt = now();
  m_page->setGoingOn(id, qs(clock_text(m_begunAt)));
  const auto job = m_place.book.jobOf(m_document.build());
  if (!job) return emit told(qs(job.error().text));
  const auto book = m_place.book.get();
  if (!book) return emit told(qs(book.error().text));
  const auto work =
      JobPages(**book).begin_work({0, *job, s->stage, s->id, m_begunAt, {}, static_cast<double>(s->hands_min)});
  m_work = work.value_or(0);
  if (!work) emit told(qs(work.error().text));
}

/// Ticked off now: begun when it was begun, or so long ago as it takes. Its wait runs on the clock from here.
void CoatStation::tick(const QString& id, bool done) {
  if (!done) return act(tr("Take a tick back"), "untick " + id.toStdString());
  const PlannedStep* s = step(id);
  if (s == nullptr) return;
  const PlannedStep planned = *s;
  const Moment end = now();
  Moment start = m_begun == id ? m_begunAt : end - planned.hands_min;
  if (start > end) {
    emit told(tr("The clock was set back: the step counts from now."));
    start = end;
  }
  if (m_begun == id) {
    const auto book = m_place.book.get();
    if (book && m_work != 0)
      if (const auto ended = JobPages(**book).end_work(m_work, end); !ended) emit told(qs(ended.error().text));
    m_begun.clear();
    m_work = 0;
    m_page->setGoingOn({}, {});
  }
  act(tr("Tick off"), "tick " + planned.id + " " + iso_text(start) + " " + iso_text(end));
  if (planned.ready > planned.end)
    emit waitWanted(qs(planned.name).section(QLatin1Char(','), 0, 0), static_cast<double>(planned.ready - planned.end),
        0.0, {}, {});
}

/// The look after the chosen step, or finished.
void CoatStation::showLook() {
  m_look = nullptr;
  const Build& build = m_document.build();
  if (!m_shown.form || !m_shown.plan || build.making != Making::parts) return;
  auto look = std::make_shared<PaintedLook>();
  const Plan& plan = *m_shown.plan;
  look->on = m_shown.form;
  look->rgb_of_face.assign(m_shown.form->surface.mesh.triangles.size(), -1);
  const std::string sealed = lastOf(plan, "seal/");
  if (!sealed.empty() && isDoneBy(plan, m_chosen, sealed)) look->rest = 0x8d8980;
  const auto painted = [&](int area) {
    const std::string last = lastOf(plan, "paint/" + std::to_string(area) + "/");
    return !last.empty() && isDoneBy(plan, m_chosen, last);
  };
  std::map<int, int> rgb;
  for (const ColourArea& a : build.coat.areas)
    if (const Pigment* p = find_pigment(build.coat, a.pigment); p != nullptr && painted(a.id)) rgb[a.id] = p->rgb;
  if (m_shown.colours) {
    const ColourMap& map = *m_shown.colours;
    for (std::size_t f = 0; f < std::min(map.area_of_face.size(), look->rgb_of_face.size()); ++f)
      if (const auto at = rgb.find(map.area_of_face[f]); at != rgb.end()) look->rgb_of_face[f] = at->second;
    for (const auto& [detail, area] : map.details)
      if (const auto at = rgb.find(area); at != rgb.end()) look->rgb_of_detail[detail] = at->second;
  }
  const std::string clear = lastOf(plan, "clear/");
  look->gloss = !clear.empty() && isDoneBy(plan, m_chosen, clear) ? 0.16f : 0.07f;
  m_look = std::move(look);
}

StandChoice CoatStation::standChoice() const {
  StandChoice choice;
  choice.painted = m_look;
  choice.seams = false;
  choice.numbers = false;
  return choice;
}

/// A place on what is worn chooses its colour.
void CoatStation::wornClicked(const Vec3& place) {
  if (!m_shown.form || !m_shown.colours) return;
  const Mesh& mesh = m_shown.form->faces.outer;
  const auto& triangles = m_shown.form->surface.mesh.triangles;
  double least = std::numeric_limits<double>::max();
  int area = 0;
  for (std::size_t f = 0; f < triangles.size(); ++f) {
    const Vec3 middle =
        (mesh.vertices[triangles[f][0]] + mesh.vertices[triangles[f][1]] + mesh.vertices[triangles[f][2]]) / 3.0;
    if (const double d = (middle - place).squaredNorm(); d < least) {
      least = d;
      area = m_shown.colours->area_of_face[f];
    }
  }
  if (area != 0) m_colours->choose(area);
}

void CoatStation::showJoints(const Build& build) {
  const QString kept = m_joint->currentText();
  const QSignalBlocker quiet(m_joint);
  m_joint->clear();
  if (m_shown.form) {
    for (const auto& form : m_shown.form->parts) m_joint->addItem(qs(form->name));
    for (const Part& part : build.parts)
      if (const Part* on = part.on != 0 ? find_part(build, part.on) : nullptr)
        m_joint->addItem(qs(part.name + " on " + on->name));
  }
  m_joint->setCurrentIndex(std::max(0, m_joint->findText(kept)));
  QString glue = QStringLiteral("-");
  for (const JointGlue& j : build.coat.joint_glues)
    if (qs(j.joint) == m_joint->currentText()) glue = qs(j.glue);
  m_jointGlue->setCurrentIndex(std::max(0, m_jointGlue->findData(glue)));
}

void CoatStation::showDays(const Build& build) {
  const CoatSpec& s = build.coat;
  const QSignalBlocker a(m_start), b(m_due), c(m_hours), d(m_opens);
  m_start->setDate(kEpoch.addDays(s.start.number));
  m_due->setDate(kEpoch.addDays(s.due.number));
  m_hours->setValue(s.hours_a_day);
  m_opens->setTime(QTime(0, 0).addSecs(static_cast<int>(std::lround(s.opens_h * 3600.0))));
  if (m_closedDay->date() < m_start->date()) m_closedDay->setDate(m_start->date());
  if (m_outdoorDay->date() < m_start->date()) m_outdoorDay->setDate(m_start->date());
  for (std::size_t k = 0; k < 7; ++k) m_week[k]->setChecked(k < s.open_on.size() && s.open_on[k]);
  m_closedText->setText(daysText(s.closed));
  m_closedText->setVisible(!s.closed.empty());
  std::vector<Day> outdoors;
  for (const OutdoorDay& day : s.outdoors) outdoors.push_back(day.day);
  m_outdoorsNamed->setChecked(s.names_outdoors);
  m_outdoorText->setText(daysText(outdoors));
  m_outdoorText->setVisible(!outdoors.empty());
}

void CoatStation::showNeeds() {
  if (!m_shown.plan) return m_needs->clear();
  QStringList lines{tr("Hands on: %1").arg(qs(hands_text(m_shown.plan->hands_min)))};
  double dry = 0.0, tape = 0.0;
  for (const Need& need : m_shown.plan->needs) {
    lines << (need.cans > 0 ? tr("%1: about %2 ml, %3")
                                  .arg(qs(need.name), qs(fixed(need.ml, 0)),
                                      need.cans == 1 ? tr("one can") : tr("%1 cans").arg(need.cans))
                            : tr("%1: about %2 ml").arg(qs(need.name), qs(fixed(need.ml, 0))));
    dry += need.dry_g;
  }
  for (const PlannedMask& mask : m_shown.plan->masking) tape += mask.tape_mm;
  if (tape > 0.0) lines << tr("Masking tape: about %1 m").arg(qs(fixed(tape / 1000.0, 1)));
  if (dry > 0.0) lines << tr("Dry, the coats weigh about %1 g.").arg(qs(fixed(dry, 0)));
  m_needs->setText(lines.join(QLatin1Char('\n')));
}

/// Asks book and shop only while somebody looks.
void CoatStation::showPrice() {
  if (drawers().open() != QLatin1String("price")) return;
  if (!m_shown.complete()) return m_quote->setText(tr("No price while the build is not whole."));
  const Build& build = m_document.build();
  std::map<std::string, std::vector<StageLog>> logs;
  std::map<std::string, double> stock;
  if (const auto book = m_place.book.get())
    if (auto known = JobPages(**book).logs()) logs = std::move(*known);
  const auto list = shopping(build, m_shown, m_place.chain.materials(), stock);
  if (!list) return m_quote->setText(qs(list.error().text));
  const WholeTime time = whole_time(stage_times(*m_shown.plan, logs));
  const Quote quote = quote_of(list->price, time, build.coat.rates);
  QStringList lines{tr("Ask for %1").arg(qs(fixed(quote.price, 2))),
      tr("Four times of five it comes to %1 to %2.")
          .arg(qs(fixed(quote.price_p80.first, 0)), qs(fixed(quote.price_p80.second, 0))),
      tr("About %1 hours (%2 to %3), %4.")
          .arg(qs(fixed(quote.hours, 1)), qs(fixed(time.p80_min.first / 60.0, 1)),
              qs(fixed(time.p80_min.second / 60.0, 1)),
              time.logs > 0 ? tr("from %1 of your own times").arg(time.logs)
                            : tr("by the rules alone: nothing is logged yet")),
      tr("Materials %1").arg(qs(fixed(quote.materials, 2)))};
  if (!list->all_priced) lines << tr("Some things have no price yet; they are not in it.");
  m_quote->setText(lines.join(QLatin1Char('\n')));
}

void CoatStation::entered() { showPrice(); }

void CoatStation::show(const Build& build, const Derived& derived) {
  m_shown = derived;
  m_page->show(derived.plan, build.coat);
  m_page->setVisible(derived.plan != nullptr);
  if (!m_chosen.isEmpty() && step(m_chosen) == nullptr) m_chosen.clear();
  m_page->days().setChosen(m_chosen);
  const CoatSpec& s = build.coat;
  showChoice(m_glue, s.glue);
  showChoice(m_seal, s.seal);
  showChoice(m_paint, s.paint);
  showChoice(m_clear, s.clear);
  showChoice(m_seams, s.fill_seams ? "fill" : name_of(s.bare_seams));
  showChoice(m_buildUp, name_of(s.build_up));
  showChoice(m_shade, name_of(s.shade));
  const QSignalBlocker a(m_sealCoats), b(m_clearCoats), c(m_passes), d(m_hands), e(m_places), f(m_temperature),
      g(m_damp), h(m_rate), i(m_margin), j(m_overheads), k(m_waste);
  m_sealCoats->setValue(s.seal_coats);
  m_clearCoats->setValue(s.clear_coats);
  m_passes->setValue(s.fill_passes);
  m_passes->setEnabled(s.fill_seams);
  m_hands->setValue(s.hands);
  m_places->setValue(s.drying_places);
  m_temperature->setValue(s.temperature_c);
  m_damp->setValue(100.0 * s.damp);
  m_rate->setValue(s.rates.rate);
  m_margin->setValue(100.0 * s.rates.margin);
  m_overheads->setValue(100.0 * s.rates.overheads);
  m_waste->setValue(100.0 * s.rates.waste);
  m_heatSeal->setChecked(s.heat_seal);
  m_tapeInside->setChecked(s.tape_inside);
  m_sandBetween->setChecked(s.sand_between);
  m_dryBrush->setChecked(s.dry_brush);
  m_fan->setChecked(s.fan);
  m_longer->setChecked(s.search_longer);
  showJoints(build);
  showDays(build);
  showNeeds();
  showPrice();
  m_colours->show(build, derived);
  showLook();
}

}  // namespace awl
