#include "app/stations/coat/coat_station.hpp"

#include <QDateTime>
#include <QHBoxLayout>
#include <QSignalBlocker>
#include <limits>

#include "app/widgets/text.hpp"
#include "core/base/numbers.hpp"
#include "core/steps/shopping.hpp"
#include "print/money.hpp"

namespace awl {
namespace {

Moment clockNow() {
  const QDateTime at = QDateTime::currentDateTime();
  return midnight_of(Day{static_cast<int>(kEpoch.daysTo(at.date()))}) + at.time().hour() * 60 + at.time().minute();
}

QString daysText(const std::vector<Day>& days) {
  QStringList words;
  for (const Day day : days) words << qs(day.spoken());
  return words.join(QStringLiteral(", "));
}

/// Products and days, then how it is finished.
std::vector<DialFacts> coatFacts() {
  CoatSpec spec;
  std::vector<DialFacts> facts = dial_facts<FinishSpec>();
  for (const Dial& d : own_dials_of(spec)) facts.push_back(d.facts);
  return facts;
}

}  // namespace

CoatStation::CoatStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("coat"), tr("Coat"), parent), now(clockNow), m_page(new PlanPage(this)),
      m_coat(new DialFields(this, coatFacts(), "coat")),
      m_rates(new DialFields(this, dial_facts<QuoteRates>(), "quote")), m_start(new QDateEdit(this)),
      m_due(new QDateEdit(this)), m_closedDay(new QDateEdit(this)), m_outdoorDay(new QDateEdit(this)),
      m_opens(new QTimeEdit(this)), m_closedText(new QLabel(this)), m_outdoorText(new QLabel(this)),
      m_needs(new QLabel(this)), m_quote(new QLabel(this)) {
  addProducts();
  addWays();
  addDrawer(QStringLiteral("colours"), tr("Colours"), tr("Which colour goes where, and in what order it is masked."));
  m_colours = new ColourTray(*this, place);
  addDays();
  addRoom();
  addNeeds();
  addPrice();
  m_column->addStretch(1);
  connect(&drawers(), &Drawers::opened, this, [this] { showPrice(), emit standChanged(); });
  connect(m_page, &PlanPage::beginWanted, this, &CoatStation::begin);
  connect(m_page, &PlanPage::tickWanted, this, &CoatStation::tick);
  connect(m_page, &PlanPage::noteWanted, this, &CoatStation::note);
  connect(m_colours, &ColourTray::farChanged, this, &CoatStation::standChanged);
  connect(m_colours, &ColourTray::lineWanted, this, [this] { emit actWanted(QStringLiteral("draw-colour-line")); });
  connect(&m_page->days(), &PlanView::stepChosen, this, [this](const QString& id) {
    m_chosen = id == m_chosen ? QString() : id;
    m_page->setChosen(m_chosen);
    m_look = lookAfter(m_document.build(), m_shown, m_chosen);
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

const PlannedStep* CoatStation::step(const QString& id) const {
  if (m_shown.plan)
    for (const PlannedStep& s : m_shown.plan->steps)
      if (QString::fromStdString(s.id) == id) return &s;
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

StandChoice CoatStation::standChoice() const {
  StandChoice choice;
  choice.painted = m_look;
  choice.seams = false;
  choice.numbers = false;
  choice.seen_from_m = m_colours->seenFrom();
  if (drawers().open() == QLatin1String("colours")) choice.own_lines = m_colours->offeredBorder();
  return choice;
}

/// A place on what is worn chooses its colour.
void CoatStation::wornClicked(const Vec3& place) {
  if (!m_shown.form || !m_shown.colours) return;
  const auto& ground = m_shown.colours->ground;
  const Mesh& mesh = ground ? ground->outer : m_shown.form->faces.outer;
  const auto& triangles = mesh.triangles;
  double least = std::numeric_limits<double>::max();
  int face = -1;
  for (std::size_t f = 0; f < triangles.size(); ++f) {
    const Vec3 middle =
        (mesh.vertices[triangles[f][0]] + mesh.vertices[triangles[f][1]] + mesh.vertices[triangles[f][2]]) / 3.0;
    if (const double d = (middle - place).squaredNorm(); d < least) {
      least = d;
      face = static_cast<int>(f);
    }
  }
  if (face >= 0) m_colours->point(face);
}

void CoatStation::showJoints(const Build& build) {
  for (QComboBox* box : {m_joint, m_seamJoint}) {
    const QString kept = box->currentText();
    const QSignalBlocker quiet(box);
    box->clear();
    if (m_shown.form) {
      for (const auto& form : m_shown.form->parts) box->addItem(qs(form->name));
      for (const Part& part : build.parts)
        if (const Part* on = part.on != 0 ? find_part(build, part.on) : nullptr)
          box->addItem(qs(part.name + " on " + on->name));
    }
    box->setCurrentIndex(std::max(0, box->findText(kept)));
  }
  QString look = QStringLiteral("-");
  for (const JointLook& j : build.coat.joint_looks)
    if (qs(j.joint) == m_seamJoint->currentText()) look = QLatin1String(name_of(j.look));
  m_seamLook->setCurrentIndex(std::max(0, m_seamLook->findData(look)));
  QString glue = QStringLiteral("-");
  for (const JointGlue& j : build.coat.joint_glues)
    if (qs(j.joint) == m_joint->currentText()) glue = QString::fromStdString(j.glue);
  m_jointGlue->setCurrentIndex(std::max(0, m_jointGlue->findData(glue)));
}

void CoatStation::showDays(const Build& build) {
  const CoatSpec& s = build.coat;
  const QSignalBlocker a(m_start), b(m_due), c(m_opens);
  m_start->setDate(kEpoch.addDays(s.start.number));
  m_due->setDate(kEpoch.addDays(s.due.number));
  m_opens->setTime(QTime(0, 0).addSecs(static_cast<int>(std::lround(s.opens_h * 3600.0))));
  if (m_closedDay->date() < m_start->date()) m_closedDay->setDate(m_start->date());
  if (m_outdoorDay->date() < m_start->date()) m_outdoorDay->setDate(m_start->date());
  for (std::size_t k = 0; k < 7; ++k) m_week[k]->setChecked(k < s.open_on.size() && s.open_on[k]);
  m_closedText->setText(daysText(s.closed));
  m_closedText->setVisible(!s.closed.empty());
  std::vector<Day> outdoors;
  for (const OutdoorDay& day : s.outdoors) outdoors.push_back(day.day);
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
  QStringList lines{tr("Ask for %1").arg(money(quote.price)),
      tr("Four times of five it comes to %1 to %2.")
          .arg(money(quote.price_p80.first, 0), money(quote.price_p80.second, 0)),
      tr("About %1 hours (%2 to %3), %4.")
          .arg(qs(fixed(quote.hours, 1)), qs(fixed(time.p80_min.first / 60.0, 1)),
              qs(fixed(time.p80_min.second / 60.0, 1)),
              time.logs > 0 ? tr("from %1 of your own times").arg(time.logs)
                            : tr("by the rules alone: nothing is logged yet")),
      tr("Materials %1").arg(money(quote.materials))};
  if (!list->all_priced) lines << tr("Some things have no price yet; they are not in it.");
  m_quote->setText(lines.join(QLatin1Char('\n')));
}

void CoatStation::entered() {
  showPrice();
  showFittings();
}

/// When the wearer comes, as the book has it; a build that is not in the book yet has no fittings.
void CoatStation::showFittings() {
  std::map<Day, QString> days;
  const Build& build = m_document.build();
  if (const auto book = m_place.book.get()) {
    const JobPages pages(**book);
    const auto job = pages.job_of(job_uid(build.name, build.wearer));
    const auto fittings =
        job && *job ? pages.fittings((*job)->id) : Result<std::vector<Fitting>>(std::vector<Fitting>{});
    if (fittings)
      for (const Fitting& f : *fittings) days[f.due] = qs(f.note);
  }
  m_page->days().setFittings(std::move(days));
}

/// Into the book: to the hours of the step if there are any, else to a line of its own.
void CoatStation::note(const QString& id, const QString& text) {
  const PlannedStep* s = step(id);
  if (s == nullptr) return;
  const auto job = m_place.book.jobOf(m_document.build());
  const auto book = m_place.book.get();
  if (!job || !book) return emit told(qs(!job ? job.error().text : book.error().text));
  JobPages pages(**book);
  const auto all = pages.work(*job);
  if (!all) return emit told(qs(all.error().text));
  int at = 0;
  std::string words = text.toStdString();
  for (const Work& w : *all)
    if (w.step == s->id) {
      at = w.id;
      words = w.note.empty() ? text.toStdString() : w.note + " " + text.toStdString();
    }
  if (at == 0) {
    const auto made = pages.begin_work({0, *job, s->stage, s->id, now(), {}, 0.0});
    if (!made) return emit told(qs(made.error().text));
    at = *made;
    if (const auto ended = pages.end_work(at, now()); !ended) return emit told(qs(ended.error().text));
  }
  const auto noted = pages.note_work(at, words);
  emit told(noted ? tr("Noted in the book.") : qs(noted.error().text));
}

void CoatStation::show(const Build& build, const Derived& derived) {
  m_shown = derived;
  m_page->show(derived.plan, build.coat);
  m_page->setVisible(derived.plan != nullptr);
  if (!m_chosen.isEmpty() && step(m_chosen) == nullptr) m_chosen.clear();
  m_page->setChosen(m_chosen);
  const CoatSpec& s = build.coat;
  m_coat->show(build);
  m_rates->show(build);
  showChoice(m_seams, s.fill_seams ? "fill" : name_of(s.bare_seams));
  m_passes->setEnabled(s.fill_seams);
  showJoints(build);
  showDays(build);
  showNeeds();
  showPrice();
  m_colours->show(build, derived);
  m_look = lookAfter(build, derived, m_chosen);
}

std::vector<Shot> CoatStation::shots() {
  return {{id(), [this](Photographer& at) -> QWidget* {
             at.open("heron-warden");
             drawers().setOpen(QStringLiteral("colours"));
             at.look(0.55f, 0.10f);
             return nullptr;
           }}};
}

}  // namespace awl
