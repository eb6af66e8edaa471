#include "app/stations/tape/tape_station.hpp"

#include <QApplication>
#include <QCoreApplication>
#include <QSignalBlocker>
#include <set>

#include "app/stations/tape/tape_picture.hpp"
#include "core/chain/questions.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

bool isOfFace(MeasureId id) {
  using M = MeasureId;
  static const std::set<MeasureId> face{
      M::FH, M::FW, M::JW, M::PD, M::NP, M::CE, M::EH, M::EP, M::EHL, M::EHR, M::EPL, M::EPR, M::CEL, M::CER};
  return face.count(id) > 0;
}

}  // namespace

TapeStation::TapeStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("tape"), tr("Tape"), parent), m_card(new MeasureCard(this)),
      m_next(new QLabel(this)), m_held(new QLabel(this)), m_day(new QDateEdit(this)), m_by(new QLineEdit(this)),
      m_socket(new QLineEdit(QStringLiteral("noggin-awl-tape"), this)), m_connect(new QPushButton(this)),
      m_press(new QPushButton(this)), m_tapeState(new QLabel(this)) {
  m_column->addWidget(m_card);
  addDrawer(QStringLiteral("first"), tr("First"), tr("What tells most about this head, for this build."));
  m_first = addGroup(tr("Measure these first"));
  m_next->setObjectName(QStringLiteral("next-measure"));
  m_next->setWordWrap(true);
  m_next->setProperty("quiet", true);
  m_first->body()->addWidget(m_next);
  addDrawer(QStringLiteral("skull"), tr("Skull"), tr("All other measures of the skull."));
  m_skull = addGroup(tr("More of the skull"));
  addDrawer(QStringLiteral("face"), tr("Face"), tr("Face and ears, each side by itself where a head is crooked."));
  m_face = addGroup(tr("Face and ears"));
  for (const MeasureFacts& f : measure_facts()) addMeasure(f.id);
  addBeside();
  addWhose(place.chain);
  addDigitalTape(place.chain);
  m_column->addStretch(1);
  connect(m_card->second(), &LengthField::entered, this, [this](double mm) {
    changeEntry(m_card->second(), tr("Second reading"), [mm](TapeEntry& e) { e.second_mm = mm; });
  });
  connect(m_card->second(), &LengthField::emptied, this,
      [this] { changeEntry(m_card->second(), tr("Second reading"), [](TapeEntry& e) { e.second_mm.reset(); }); });
  connect(m_card->hair(), &LengthField::entered, this,
      [this](double mm) { changeEntry(m_card->hair(), tr("Over hair"), [mm](TapeEntry& e) { e.over_hair_mm = mm; }); });
  connect(m_card->hair(), &LengthField::emptied, this,
      [this] { changeEntry(m_card->hair(), tr("Over hair"), [](TapeEntry& e) { e.over_hair_mm = 0.0; }); });
  connect(qApp, &QApplication::focusChanged, this, [this](QWidget*, QWidget* now) {
    for (const auto& [id, row] : m_rows)
      if (row->field() == now) pick(id);
  });
}

// Focus still moves while the fields are being destroyed; nobody listens any more then.
TapeStation::~TapeStation() { qApp->disconnect(this); }

void TapeStation::addMeasure(MeasureId id) {
  const MeasureFacts& f = facts_of(id);
  auto* row = new MeasureRow(f, this);
  m_rows[id] = row;
  (isOfFace(id) ? m_face : m_skull)->body()->addWidget(row);
  const QString name = qs(f.name);
  connect(row->field(), &LengthField::entered, this, [this, row, id, name](double mm) {
    submit(row->field(), name, [id, mm](const Build& b) -> Result<Build> {
      Build next = b;
      next.tape.set(id, mm);
      return next;
    });
  });
  connect(row->field(), &LengthField::emptied, this, [this, row, id, name] {
    submit(row->field(), tr("Leave out %1").arg(name), [id](const Build& b) -> Result<Build> {
      Build next = b;
      next.tape.head.erase(id);
      next.tape.accepted.erase(id);
      return next;
    });
  });
}

void TapeStation::addBeside() {
  addDrawer(QStringLiteral("beside"), tr("Beside"), tr("What else this build will have."));
  TrayGroup* group = addGroup(tr("Beside the head"));
  group->addText(tr("What else will this build have? What it needs is listed as still to measure."));
  for (int i = 0; i < kExtraCount; ++i) {
    const Extra extra = static_cast<Extra>(i);
    QString words = QLatin1String(name_of(extra));
    words[0] = words[0].toUpper();
    auto* box = new QCheckBox(words, this);
    box->setObjectName(QStringLiteral("extra-") + QLatin1String(code_of(extra)));
    group->body()->addWidget(box);
    m_extras[extra] = box;
    connect(box, &QCheckBox::clicked, this, [this, extra, words](bool on) {
      m_document.edit(words, [extra, on](Build& next) {
        if (on)
          next.extras.insert(extra);
        else
          next.extras.erase(extra);
      });
    });
  }
  addDrawer(QStringLiteral("body"), tr("Body"), tr("Shoulders, arms and hands, as far as the build needs them."));
  TrayGroup* body = addGroup(tr("Of the body"));
  for (const BodyFacts& f : body_facts()) {
    LengthField* field = addLength(body, QStringLiteral("measure-") + QLatin1String(f.code), qs(f.name), qs(f.how),
        QLatin1String(f.code), [id = f.id](Build& b, double mm) { b.tape.body[id] = mm; });
    m_body[f.id] = field;
    connect(field, &LengthField::emptied, this, [this, field, id = f.id] {
      submit(field, tr("Leave out"), [id](const Build& b) -> Result<Build> {
        Build next = b;
        next.tape.body.erase(id);
        return next;
      });
    });
  }
}

void TapeStation::addWhose(const Chain& chain) {
  addDrawer(QStringLiteral("whose"), tr("Whose"), tr("Whose head it is, and who measured it when."));
  TrayGroup* group = addGroup(tr("Whose head, when, by whom"));
  std::vector<std::pair<std::string, QString>> choices{{"auto", tr("Told by the measures")}};
  for (const Population& p : chain.fitter().populations()) choices.push_back({p.id, qs(p.name)});
  m_people = addChoice(group, QStringLiteral("people"), tr("Held against"),
      tr("Whose proportions fill in what was not measured. A child is no small adult."), choices,
      [](Build& b, const std::string& id) { b.tape.people = id; });
  m_held->setObjectName(QStringLiteral("people-held"));
  m_held->setProperty("quiet", true);
  m_held->setWordWrap(true);
  group->body()->addWidget(m_held);
  m_day->setObjectName(QStringLiteral("tape-day"));
  m_day->setAccessibleName(tr("Measured on"));
  m_day->setToolTip(tr("Goes with every measure entered from now on."));
  m_day->setCalendarPopup(true);
  m_day->setLocale(spokenLocale());
  m_day->setDisplayFormat(QStringLiteral("ddd d MMM yyyy"));
  group->addRow(tr("Measured on"), m_day);
  m_by->setObjectName(QStringLiteral("tape-by"));
  m_by->setAccessibleName(tr("Measured by"));
  m_by->setToolTip(tr("Goes with every measure entered from now on."));
  group->addRow(tr("Measured by"), m_by);
  connect(m_day, &QDateEdit::userDateChanged, this, [this](QDate day) {
    m_document.edit(
        tr("Measured on"), [n = static_cast<int>(kEpoch.daysTo(day))](Build& next) { next.tape.day = Day{n}; },
        QStringLiteral("tape-day"));
  });
  connect(m_by, &QLineEdit::editingFinished, this, [this] {
    m_document.edit(
        tr("Measured by"), [who = m_by->text().trimmed().toStdString()](Build& next) { next.tape.by = who; });
  });
}

void TapeStation::addDigitalTape(const Chain& chain) {
  addDrawer(QStringLiteral("digital"), tr("Digital"), tr("A tape that sends its readings."));
  TrayGroup* group = addGroup(tr("Digital tape"));
  m_socket->setObjectName(QStringLiteral("tape-socket"));
  m_socket->setAccessibleName(tr("Socket of the tape"));
  m_socket->setToolTip(tr("Local socket the tape listens on; docs/formats/digital-tape.md."));
  group->addRow(tr("Socket"), m_socket);
  m_tapeState->setObjectName(QStringLiteral("tape-state"));
  m_tapeState->setWordWrap(true);
  group->body()->addWidget(m_tapeState);
  auto* practice = new QPushButton(tr("Practise with a simulated tape"), this);
  m_connect->setObjectName(QStringLiteral("tape-connect"));
  m_connect->setToolTip(tr("Each press of the tape's button fills the measure in hand and goes on to the next."));
  m_press->setObjectName(QStringLiteral("tape-press"));
  m_press->setText(tr("Press the simulated tape's button"));
  m_press->setToolTip(tr("Measures a made-up head, with a hand that trembles a little."));
  m_press->hide();
  practice->setObjectName(QStringLiteral("tape-practise"));
  practice->setToolTip(tr("No tape at hand? This one measures a made-up head."));
  for (QPushButton* button : {m_connect, practice, m_press}) group->body()->addWidget(button);
  connect(m_connect, &QPushButton::clicked, this, [this] {
    m_tape.state() == DigitalTape::State::off ? m_tape.connectTo(m_socket->text()) : m_tape.disconnectTape();
  });
  connect(practice, &QPushButton::clicked, this, [this, &chain] { practise(chain); });
  connect(m_press, &QPushButton::clicked, this, [this] { m_practice->press(); });
  connect(&m_tape, &DigitalTape::stateChanged, this, &TapeStation::showTape);
  connect(&m_tape, &DigitalTape::reading, this, &TapeStation::takeReading);
  m_tape.want(QLatin1String(facts_of(m_picked).code));
  showTape();
}

void TapeStation::practise(const Chain& chain) {
  if (m_practice == nullptr) {
    const auto head =
        head_of(chain, sheet_of({{MeasureId::HC, 571.0}, {MeasureId::HB, 154.0}, {MeasureId::FH, 119.0}}, "adult"));
    if (!head) return;
    const auto truth = [readings = head->readings](const QString& code) -> std::optional<double> {
      const auto id = measure_from_code(code.toStdString());
      if (!id) return std::nullopt;
      return readings[index_of(*id)].reads_mm;
    };
    m_practice = new SimulatedTape(truth, {}, this);
    const QString socket = QStringLiteral("noggin-awl-practice-%1").arg(QCoreApplication::applicationPid());
    if (QString problem; !m_practice->listen(socket, &problem))
      return emit told(tr("The simulated tape cannot start: %1.").arg(problem));
    m_socket->setText(socket);
  }
  m_press->show();
  m_tape.connectTo(m_socket->text());
}

void TapeStation::showTape() {
  const bool off = m_tape.state() == DigitalTape::State::off;
  m_connect->setText(off ? tr("Connect the tape") : tr("Disconnect"));
  m_socket->setEnabled(off);
  m_press->setEnabled(m_tape.state() == DigitalTape::State::ready);
  m_tapeState->setText(off ? tr("No tape connected.")
          : m_tape.state() == DigitalTape::State::ready
          ? tr("Connected: %1. It fills the measure in hand.").arg(m_tape.name())
          : tr("No answer from %1; looking for it again every second.").arg(m_tape.socket()));
}

/// Fills the measure in hand and goes on to the next one that is empty, the short list first.
void TapeStation::takeReading(double mm) {
  LengthField* field = m_rows.at(m_picked)->field();
  const bool done = submit(field, tr("Digital tape"), [id = m_picked, mm](const Build& b) -> Result<Build> {
    Build next = b;
    next.tape.set(id, mm);
    return next;
  });
  if (!done) return;
  std::vector<MeasureId> order = m_shortList;
  for (const MeasureFacts& f : measure_facts()) order.push_back(f.id);
  for (const MeasureId id : order)
    if (!m_document.build().tape.head.count(id) && m_rows.at(id)->isVisibleTo(this))
      return void(focusPlace(QLatin1String(facts_of(id).code)));
}

StandChoice TapeStation::standChoice() const {
  StandChoice choice;
  choice.hood = choice.seams = false;
  choice.tapes = true;
  choice.lit = m_picked;
  choice.unit = m_document.build().shown;
  return choice;
}

void TapeStation::changeEntry(LengthField* field, const QString& label, const Edit& edit) {
  submit(field, label, [id = m_picked, edit](const Build& b) -> Result<Build> {
    Build next = b;
    const auto entry = next.tape.head.find(id);
    if (entry == next.tape.head.end())
      return fail(Errc::empty_input, "Enter the first reading of the " + spoken_name(id) + " before a second one.",
          facts_of(id).code);
    edit(entry->second);
    return next;
  });
}

void TapeStation::pick(MeasureId id) {
  if (m_picked == id) return;
  m_picked = id;
  m_tape.want(QLatin1String(facts_of(id).code));
  showCard(m_document.build(), m_derived);
  emit standChanged();
}

bool TapeStation::focusPlace(const QString& where) {
  const auto id = measure_from_code(where.section(QLatin1Char('/'), 0, 0).toStdString());
  if (!id) return Station::focusPlace(where);
  MeasureRow* row = m_rows.at(*id);
  focusOn(row->field());
  row->field()->selectAll();
  pick(*id);
  return true;
}

void TapeStation::setDark(bool dark) {
  m_dark = dark;
  m_pictured.first = nullptr;
  showCard(m_document.build(), m_derived);
}

/// The short list stands in the first group, the most telling on top; everything else where it belongs.
void TapeStation::sortRows(const std::vector<Telling>& shortList) {
  std::vector<MeasureId> ids;
  for (const Telling& t : shortList) ids.push_back(t.id);
  if (ids.empty() || ids == m_shortList) return;
  for (const MeasureId id : m_shortList)
    if (std::find(ids.begin(), ids.end(), id) == ids.end())
      (isOfFace(id) ? m_face : m_skull)->body()->addWidget(m_rows.at(id));
  for (const MeasureId id : ids) m_first->body()->addWidget(m_rows.at(id));
  m_first->body()->addWidget(m_next);
  m_shortList = ids;
}

void TapeStation::resizeEvent(QResizeEvent* event) {
  Station::resizeEvent(event);
  m_card->giveRoom(height());
}

void TapeStation::showCard(const Build& build, const Derived& derived) {
  const auto entry = build.tape.head.find(m_picked);
  if (derived.head && m_pictured != std::pair(derived.head, m_picked)) {
    m_picture = tapePicture(derived, m_picked, m_card->pictureSize(), devicePixelRatioF(), m_dark);
    m_pictured = {derived.head, m_picked};
  }
  m_card->show(m_picked, entry == build.tape.head.end() ? nullptr : &entry->second, build.shown, m_picture);
}

void TapeStation::showWhose(const Build& build, const Derived& derived) {
  showChoice(m_people, build.tape.people);
  const QSignalBlocker quiet(m_day);
  m_day->setDate(kEpoch.addDays(build.tape.day.number));
  if (!m_by->hasFocus()) m_by->setText(QString::fromStdString(build.tape.by));
  for (const auto& [extra, box] : m_extras) box->setChecked(build.extras.count(extra) > 0);
  for (const auto& [id, field] : m_body) {
    const auto given = build.tape.body.find(id);
    field->showValue(given == build.tape.body.end() ? std::nullopt : std::optional(given->second), build.shown);
  }
  if (!derived.head) return;
  const int index = m_people->findData(QString::fromStdString(derived.head->people));
  m_held->setText(
      derived.head->people_inferred ? tr("The measures speak for: %1.").arg(m_people->itemText(index)) : QString());
  m_held->setVisible(derived.head->people_inferred);
}

void TapeStation::show(const Build& build, const Derived& derived) {
  m_derived = derived;
  sortRows(derived.short_list);
  const auto length = [&](double mm) { return QString::fromStdString(format_length(mm, build.shown)); };
  for (const auto& [id, row] : m_rows) {
    const auto given = build.tape.head.find(id);
    const bool there = given != build.tape.head.end();
    row->field()->showValue(there ? std::optional(given->second.first_mm) : std::nullopt, build.shown);
    if (derived.head) row->field()->showEstimate(derived.head->reading(id).reads_mm, derived.head->reading(id).band_mm);
    row->setNext(derived.next && derived.next->id == id && !there);
    const bool corrected = there && (given->second.second_mm || given->second.over_hair_mm > 0.0);
    row->setNote(corrected ? tr("counts as %1").arg(length(given->second.skin_mm(id))) : QString());
  }
  if (derived.next)
    m_next->setText(derived.next->share < 0.01
            ? tr("Enough is known for this build; more measures would change little.")
            : tr("Next would tell most: %1 (%2 % of what is still unsure).")
                  .arg(qs(spoken_name(derived.next->id)))
                  .arg(qRound(100.0 * derived.next->share)));
  showWhose(build, derived);
  showCard(build, derived);
}

}  // namespace awl
