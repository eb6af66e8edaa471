#include "app/stations/book/job_tray.hpp"

#include <QDateTime>
#include <QHBoxLayout>
#include <QScopedValueRollback>
#include <QSignalBlocker>
#include <cmath>

#include "app/widgets/text.hpp"
#include "app/widgets/picture_file.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/coat/plan.hpp"
#include "print/money.hpp"

namespace awl {
namespace {

/// A day that is not yet shows as this one.
const QDate kNoDay(2000, 1, 1);

QDate dateOf(Day day) { return day.number != 0 ? kEpoch.addDays(day.number) : kNoDay; }
Day dayOf(const QDate& date) { return date == kNoDay ? Day{0} : Day{static_cast<int>(kEpoch.daysTo(date))}; }

QDateEdit* makeDay(const QString& name, const QString& label, QWidget* parent) {
  auto* edit = new QDateEdit(parent);
  edit->setObjectName(name);
  edit->setAccessibleName(label);
  edit->setCalendarPopup(true);
  edit->setLocale(spokenLocale());
  edit->setDisplayFormat(QStringLiteral("ddd d MMM yyyy"));
  edit->setMinimumDate(kNoDay);
  edit->setSpecialValueText(JobTray::tr("not yet"));
  edit->setDate(kNoDay);
  return edit;
}

}  // namespace

JobTray::JobTray(Station& station, const Workplace& place) : QWidget(&station), m_station(station), m_place(place) {
  hide();
  addAgreed();
  addFittings();
  addLog();
  addFind();
}

template <class T>
bool JobTray::good(const Result<T>& result) {
  if (!result) emit m_station.told(qs(result.error().text));
  return result.has_value();
}

std::optional<JobPages> JobTray::pages() {
  const auto book = m_place.book.get();
  if (!good(book)) return std::nullopt;
  return JobPages(**book);
}

int JobTray::jobHere() {
  const auto job = m_place.book.jobOf(m_place.document.build());
  return good(job) ? *job : 0;
}

void JobTray::change(const QString& field, const std::function<void(Job&)>& edit) {
  if (m_showing) return;
  const Build& build = m_place.document.build();
  const std::string uid = job_uid(build.name, build.wearer);
  const bool begins = m_job.id == 0 || m_job.uid != uid;
  if (begins) {
    const QScopedValueRollback<bool> what_is_typed_stays(m_showing, true);
    if (jobHere() == 0) return;
    auto book = pages();
    const auto begun = book ? book->job_of(uid) : Result<std::optional<Job>>(std::nullopt);
    if (!good(begun) || !*begun) return;
    m_job = **begun;
  }
  edit(m_job);
  // Where another window has struck the page meanwhile, it is written anew as it stands here.
  m_place.book.whenHandsRest(field + qs(uid), [edit, here = m_job](ShopBook& book) -> Result<void> {
    JobPages jobs(book);
    const auto known = jobs.job_of(here.uid);
    if (!known) return fail(known);
    Job job = known->value_or(here);
    edit(job);
    if (const auto kept = jobs.keep(job); !kept) return fail(kept);
    return {};
  });
  if (begins) renew();
}

QPlainTextEdit* JobTray::addText(TrayGroup* group, const QString& name, const QString& label, std::string Job::*field) {
  auto* edit = new QPlainTextEdit(this);
  edit->setObjectName(name);
  edit->setAccessibleName(label);
  setTypeHeight(*edit, 72, 72);
  edit->setTabChangesFocus(true);
  group->body()->addWidget(new QLabel(label, this));
  group->body()->addWidget(edit);
  connect(edit, &QPlainTextEdit::textChanged, this, [this, edit, field] {
    change(edit->objectName(), [field, text = edit->toPlainText().toStdString()](Job& j) { j.*field = text; });
  });
  return edit;
}

QDoubleSpinBox* JobTray::addMoney(
    TrayGroup* group, const QString& name, const QString& label, const std::function<void(Job&, int)>& put) {
  auto* box = new QDoubleSpinBox(this);
  box->setObjectName(name);
  box->setAccessibleName(label);
  box->setRange(0.0, 1e6);
  box->setDecimals(2);
  group->addRow(label, box);
  connect(box, &QDoubleSpinBox::valueChanged, this, [this, name, put](double amount) {
    change(name, [put, cents = static_cast<int>(std::lround(amount * 100.0))](Job& j) { put(j, cents); });
  });
  return box;
}

void JobTray::addDay(TrayGroup* group, const QString& name, const QString& label, Day Job::*field) {
  QDateEdit* edit = makeDay(name, label, this);
  group->addRow(label, edit);
  m_days.push_back({edit, field});
  connect(edit, &QDateEdit::dateChanged, this,
      [this, name, field](const QDate& date) { change(name, [field, day = dayOf(date)](Job& j) { j.*field = day; }); });
}

void JobTray::addAgreed() {
  m_station.addDrawer(QStringLiteral("job"), tr("Agreed"), tr("What was wished and agreed for this build, and when."));
  TrayGroup* group = m_station.addGroup(tr("This commission"));
  m_wishes = addText(group, QStringLiteral("job-wishes"), tr("Wishes"), &Job::wishes);
  m_price = addMoney(
      group, QStringLiteral("job-price"), tr("Price agreed"), [](Job& j, int cents) { j.price_cents = cents; });
  m_deposit =
      addMoney(group, QStringLiteral("job-deposit"), tr("Deposit"), [](Job& j, int cents) { j.deposit_cents = cents; });
  addDay(group, QStringLiteral("job-deposit-day"), tr("Deposit paid"), &Job::deposit_day);
  addDay(group, QStringLiteral("job-agreed"), tr("Agreed on"), &Job::agreed);
  addDay(group, QStringLiteral("job-due"), tr("Due"), &Job::due);
  addDay(group, QStringLiteral("job-handed"), tr("Handed over"), &Job::handed_over);
  m_better = addText(group, QStringLiteral("job-better"), tr("To do better"), &Job::better);
}

void JobTray::addFittings() {
  m_station.addDrawer(
      QStringLiteral("fittings"), tr("Fittings"), tr("When it was tried on, and what was found and changed."));
  TrayGroup* group = m_station.addGroup(tr("Fittings"));
  m_fittings = new QListWidget(this);
  m_fittings->setObjectName(QStringLiteral("job-fittings"));
  m_fittings->setAccessibleName(tr("Fittings and changes"));
  setTypeHeight(*m_fittings, 150, 150);
  m_fittings->setWordWrap(true);
  group->body()->addWidget(m_fittings);
  m_fitDay = makeDay(QStringLiteral("job-fit-day"), tr("Day of the fitting"), this);
  m_fitDay->setDate(QDate::currentDate());
  m_fitNote = new QLineEdit(this);
  m_fitNote->setObjectName(QStringLiteral("job-fit-note"));
  m_fitNote->setPlaceholderText(tr("What was found, or is to be tried"));
  group->addRow(tr("Day"), m_fitDay);
  group->body()->addWidget(m_fitNote);
  m_station.addButton(group, QStringLiteral("job-fit-add"), tr("Write the fitting down"),
      tr("Into the book, under this build; one that is still to come stands in the plan's days too."), [this] {
        auto book = pages();
        const int job = jobHere();
        if (!book || job == 0) return;
        const Day day = dayOf(m_fitDay->date());
        if (good(book->keep(Fitting{0, job, day, day <= today() ? day : Day{0}, m_fitNote->text().toStdString()}))) {
          m_fitNote->clear();
          renew();
        }
      });
  TrayGroup* foam = m_station.addGroup(tr("Changed on the foam"));
  m_changePlace = new QLineEdit(this);
  m_changePlace->setObjectName(QStringLiteral("job-change-place"));
  m_changePlace->setPlaceholderText(tr("Where: left temple"));
  m_changeText = new QLineEdit(this);
  m_changeText->setObjectName(QStringLiteral("job-change-text"));
  m_changeText->setPlaceholderText(tr("What: taken in by 4 mm"));
  foam->body()->addWidget(m_changePlace);
  foam->body()->addWidget(m_changeText);
  m_station.addButton(foam, QStringLiteral("job-change-add"), tr("Write the change down"),
      tr("So that the next one has it in its pattern."), [this] {
        auto book = pages();
        const int job = jobHere();
        if (!book || job == 0) return;
        if (good(book->keep(FoamChange{0, job, today(), m_place.document.build().stems_from,
                m_changePlace->text().toStdString(), m_changeText->text().toStdString(), false}))) {
          m_changePlace->clear();
          m_changeText->clear();
          renew();
        }
      });
}

void JobTray::addLog() {
  m_station.addDrawer(QStringLiteral("log"), tr("Log"), tr("Hours at the bench and pictures of this build."));
  TrayGroup* group = m_station.addGroup(tr("Hours"));
  m_hours = group->addText({});
  m_hours->setObjectName(QStringLiteral("job-hours"));
  m_work = new QListWidget(this);
  m_work->setObjectName(QStringLiteral("job-work"));
  m_work->setAccessibleName(tr("Hours at the bench"));
  setTypeHeight(*m_work, 150, 150);
  m_work->setWordWrap(true);
  group->body()->addWidget(m_work);
  m_station.addButton(group, QStringLiteral("job-work-gone"), tr("Strike the chosen line"),
      tr("Forgotten to end it, or ended by mistake."), [this] {
        auto book = pages();
        if (book && m_work->currentItem() != nullptr &&
            good(book->drop_work(m_work->currentItem()->data(Qt::UserRole).toInt())))
          renew();
      });
  TrayGroup* photos = m_station.addGroup(tr("Pictures"));
  m_photos = new QListWidget(this);
  m_photos->setObjectName(QStringLiteral("job-photos"));
  m_photos->setAccessibleName(tr("Pictures of this build"));
  m_photos->setIconSize(QSize(64, 64));
  setTypeHeight(*m_photos, 150, 150);
  photos->body()->addWidget(m_photos);
  m_station.addButton(
      photos, QStringLiteral("job-photo-add"), tr("Add a picture\u2026"), tr("PNG or JPEG, kept in the book."), [this] {
        const QString path = m_place.asking.path(false, tr("A picture"), {}, tr("Pictures (*.png *.jpg *.jpeg)"));
        if (!path.isEmpty()) addPicture(path);
      });
  m_station.addButton(
      photos, QStringLiteral("job-photo-gone"), tr("Take the chosen one out"), tr("Out of the book for good."), [this] {
        auto book = pages();
        if (book && m_photos->currentItem() != nullptr &&
            good(book->drop_photo(m_photos->currentItem()->data(Qt::UserRole).toInt())))
          renew();
      });
}

void JobTray::addPicture(const QString& path) {
  auto book = pages();
  const int job = jobHere();
  constexpr qint64 kMostMb = 20;  // as the book keeps
  const auto bytes = pictureBytes(path, kMostMb);
  if (!book || job == 0 || !good(bytes)) return;
  Photo photo;
  photo.job = job;
  photo.taken = midnight_of(today()) + QTime::currentTime().hour() * 60 + QTime::currentTime().minute();
  photo.bytes = bytes->toStdString();
  if (const auto now = book->going_on(job); now && *now) photo.step = (*now)->step;
  if (good(book->add(photo))) renew();
}

void JobTray::addFind() {
  m_station.addDrawer(
      QStringLiteral("find"), tr("Find"), tr("Words in wishes, fittings, changes and notes of all builds."));
  TrayGroup* group = m_station.addGroup(tr("In all jobs"));
  m_search = new QLineEdit(this);
  m_search->setObjectName(QStringLiteral("job-search"));
  m_search->setAccessibleName(tr("Words to look for"));
  m_search->setPlaceholderText(tr("Words, or how they begin"));
  m_search->setClearButtonEnabled(true);
  group->body()->addWidget(m_search);
  m_found = new QListWidget(this);
  m_found->setObjectName(QStringLiteral("job-found"));
  m_found->setAccessibleName(tr("Found"));
  m_found->setWordWrap(true);
  m_found->setMinimumHeight(260);
  group->body()->addWidget(m_found);
  m_foundNone = group->addText(tr("Nothing found."));
  m_foundNone->hide();
  connect(m_search, &QLineEdit::textChanged, this, [this](const QString& words) {
    m_found->clear();
    auto book = pages();
    if (!book) return;
    const auto found = book->search(words.toStdString());
    const auto jobs = book->jobs();
    if (!good(found) || !good(jobs)) return;
    for (const Found& f : *found) {
      QString title;
      for (const Job& j : *jobs)
        if (j.id == f.job) title = qs(j.title);
      m_found->addItem(tr("%1, %2: %3").arg(title, qs(f.kind), qs(f.text)));
    }
    m_foundNone->setVisible(found->empty() && !words.trimmed().isEmpty());
  });
}

/// What was asked for it against what the hours have come to.
QString JobTray::quoteAgainst(const GivenQuote& quote, double worked_min) const {
  const double labour = worked_min / 60.0 * m_place.document.build().coat.rates.rate;
  return tr("Quoted %1 on %2; the hours come to %3 so far, before materials.")
      .arg(money(quote.price_cents / 100.0), qs(quote.day.spoken()), money(labour));
}

void JobTray::showLog(JobPages& book, int job) {
  const auto work = book.work(job);
  if (!good(work)) return;
  double sum = 0.0, rules = 0.0;
  for (const Work& w : *work) {
    const double took = w.ended ? static_cast<double>(*w.ended - w.began) : 0.0;
    sum += took;
    if (w.ended) rules += w.rule_min;
    QString line = tr("%1 %2, %3: %4")
                       .arg(qs(day_of(w.began).spoken()), qs(clock_text(w.began)), qs(w.stage),
                           w.ended ? qs(hands_text(took)) : tr("goes on"));
    if (!w.note.empty()) line += QStringLiteral(". ") + qs(w.note);
    auto* item = new QListWidgetItem(line, m_work);
    item->setData(Qt::UserRole, w.id);
  }
  m_hours->setText(work->empty()
          ? tr("Nothing is logged yet. Begin and tick off steps at Coat; the hours come here, and estimates learn from "
               "them.")
          : tr("%1 at the bench; the rules said %2.").arg(qs(hands_text(sum)), qs(hands_text(rules))));
  const auto quotes = book.quotes(job);
  if (!good(quotes)) return;
  if (!quotes->empty() && sum > 0.0)
    m_hours->setText(m_hours->text() + QLatin1Char(' ') + quoteAgainst(quotes->back(), sum));
  const auto photos = book.photos(job);
  if (!good(photos)) return;
  for (const Photo& p : *photos) {
    QPixmap picture;
    if (const auto bytes = book.picture(p.id))
      if (const auto read = pictureFrom(QByteArray::fromStdString(*bytes), {}, 3 * m_photos->iconSize().width()))
        picture = QPixmap::fromImage(*read);
    auto* item = new QListWidgetItem(QIcon(picture),
        p.step.empty() ? qs(day_of(p.taken).spoken())
                       : tr("%1, at %2").arg(qs(day_of(p.taken).spoken()), qs(p.step).section(QLatin1Char('/'), 0, 0)),
        m_photos);
    item->setData(Qt::UserRole, p.id);
  }
}

void JobTray::show(const Build& build) {
  if (!m_job.uid.empty() && m_job.uid != job_uid(build.name, build.wearer)) renew();
}

void JobTray::renew() {
  if (m_showing) return;
  auto book = pages();
  if (!book) return;
  const Build& build = m_place.document.build();
  Job none;
  none.uid = job_uid(build.name, build.wearer);
  const auto known = book->job_of(none.uid);
  if (!good(known)) return;
  m_job = known->value_or(none);
  m_showing = true;
  for (const auto& [box, text] : {std::pair{m_wishes, &m_job.wishes}, {m_better, &m_job.better}})
    if (box->toPlainText() != qs(*text)) box->setPlainText(qs(*text));
  m_price->setValue(m_job.price_cents.value_or(0) / 100.0);
  m_deposit->setValue(m_job.deposit_cents / 100.0);
  for (const DayField& day : m_days) day.edit->setDate(dateOf(m_job.*day.field));
  m_showing = false;
  m_fittings->clear();
  m_work->clear();
  m_photos->clear();
  if (m_job.id == 0)
    return m_hours->setText(tr("This build is not in the book yet; what you write here begins its page."));
  const auto fittings = book->fittings(m_job.id);
  const auto changes = book->changes(m_job.id);
  if (!good(fittings) || !good(changes)) return;
  for (const Fitting& f : *fittings) m_fittings->addItem(tr("Fitting %1: %2").arg(qs(f.due.spoken()), qs(f.note)));
  for (const FoamChange& c : *changes)
    m_fittings->addItem(tr("Foam %1, %2: %3").arg(qs(c.day.spoken()), qs(c.place), qs(c.text)));
  showLog(*book, m_job.id);
}

}  // namespace awl
