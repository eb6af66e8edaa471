#include "app/stations/fit/fit_station.hpp"

#include <QSignalBlocker>
#include <cmath>
#include <utility>

#include "app/stand/room_picture.hpp"
#include "app/stations/fit/trying_on.hpp"
#include "app/widgets/pages_view.hpp"
#include "print/fit_report.hpp"
#include "print/fit_words.hpp"
#include "app/widgets/text.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "core/chain/questions.hpp"

namespace awl {
namespace {

constexpr int kWaySteps = 100, kPlayMs = 40;
constexpr int kStills = 5, kStillMs = 700;  // where nothing is to move

const std::vector<std::pair<std::string, QString>>& roomChoices() {
  static const std::vector<std::pair<std::string, QString>> choices{{"glasses", FitStation::tr("Glasses")},
      {"battery", FitStation::tr("Battery")}, {"fan", FitStation::tr("Fan")},
      {"electronics", FitStation::tr("Electronics")}, {"padding", FitStation::tr("Padding block")},
      {"counterweight", FitStation::tr("Counterweight")}};
  return choices;
}
QString textOf(const std::vector<std::pair<std::string, QString>>& choices, const std::string& id) {
  for (const auto& [key, text] : choices)
    if (key == id) return text;
  return {};
}

}  // namespace

FitStation::FitStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("fit"), tr("Fit"), parent),
      m_fit(new DialFields(this, dial_facts<FitSpec>(), "fit")),
      m_slits(new DialFields(this, dial_facts<Slit>(),
          [this] { return slit() != nullptr ? "fit/slit/" + std::to_string(slit()->id) : std::string(); })),
      m_roomDials(new DialFields(this, dial_facts<Room>(),
          [this] { return room() != nullptr ? "fit/room/" + std::to_string(room()->id) : std::string(); })),
      m_beside(new QWidget(this)), m_sight(new SightView(m_beside)), m_other(new SightView(m_beside)),
      m_room(new RoomView(m_beside)), m_way(new QSlider(Qt::Horizontal, this)), m_rooms(new QListWidget(this)),
      m_comparing(this,
          [this](Result<std::shared_ptr<const Worn>> found) {
            m_other->show(found ? *found : nullptr);
            if (!found && found.error().code != Errc::cancelled) emit told(qs(found.error().text));
          }),
      m_grip(place.document, place.chain), m_looking(this, [this](Result<std::shared_ptr<const Worn>> found) {
        if (found && *found) m_sight->show(*found), m_room->show(*found);
        if (std::exchange(m_lookAgain, false)) lookOut();
      }) {
  m_beside->setObjectName(QStringLiteral("fit-beside"));
  auto* column = new QVBoxLayout(m_beside);
  column->setContentsMargins(4, 0, 4, 4);
  auto* maps = new QHBoxLayout;
  maps->addWidget(m_sight);
  maps->addWidget(m_other);
  m_other->setObjectName(QStringLiteral("sight-map-other"));
  m_other->hide();
  column->addLayout(maps, 3);
  column->addWidget(m_room, 2);
  addGoingOn();
  addSight();
  addInside();
  addMoving();
  addDrawer(QStringLiteral("hold"), tr("Hold"), tr("What keeps each part where it is, at a nod and a shake."));
  m_hold = new HoldTray(this, place.document);
  m_column->addStretch(1);
  m_drawer = drawers().open();
  connect(&drawers(), &Drawers::opened, this, [this](const QString& id) {
    m_drawer = id;
    emit standChanged();  // each has grips of its own
  });
  connect(&m_play, &QTimer::timeout, this, [this] {
    if (m_way->value() >= kWaySteps) return m_play.stop(), m_playButton->setText(tr("Show it going on"));
    m_way->setValue(m_way->value() + (isStill() ? kWaySteps / kStills : 2));
  });
}

QLabel* FitStation::addWords(TrayGroup* group, const QString& name) {
  QLabel* words = group->addText({});
  words->setObjectName(name);
  return words;
}

void FitStation::act(const QString& label, const std::string& act) {
  m_document.change(label, [&](const Build& b) { return apply_act(b, act); });
}

void FitStation::addGoingOn() {
  addDrawer(QStringLiteral("on"), tr("Put on"), tr("Whether each part passes over the head, and what would help."));
  TrayGroup* group = addGroup(tr("Does it go on?"));
  m_part = addChoice(group, QStringLiteral("fit-part"), tr("Part"), tr("The part that is put on."), {}, {});
  connect(m_part, &QComboBox::activated, this, [this] {
    m_way->setValue(kWaySteps);
    emit renewWanted();
  });
  m_onWords = addWords(group, QStringLiteral("fit-on-words"));
  m_way->setObjectName(QStringLiteral("fit-way"));
  m_way->setAccessibleName(tr("Along its way on"));
  m_way->setToolTip(tr("Drag to move the part along its way, from off the head to its place."));
  m_way->setRange(0, kWaySteps);
  m_way->setValue(kWaySteps);
  group->body()->addWidget(m_way);
  connect(m_way, &QSlider::valueChanged, this, [this] { emit standChanged(); });
  m_playButton = addButton(group, QStringLiteral("fit-play"), tr("Show it going on"),
      tr("A short motion on the stand, by the best way there is."), [this] {
        m_way->setValue(0);
        m_play.start(isStill() ? kStillMs : kPlayMs);
      });
  TrayGroup* slits = addGroup(tr("If it does not: a slit"));
  m_slitWords = addWords(slits, QStringLiteral("fit-slit-words"));
  m_closedBy = m_slits->addSome(slits, QStringLiteral("fit-closed-by"), "by", {"lacing", "elastic"});
  const auto slit = [this](const char* at) {
    const GoingOn* on = goingOn();
    const double opens = on != nullptr ? std::max(20.0, std::ceil(on->opens_mm)) : 40.0,
                 length = on != nullptr && on->slit_mm > 0.0 ? 5.0 * std::ceil(on->slit_mm / 5.0) : 100.0;
    emit lookWanted(QLatin1String(at) == QLatin1String("back") ? QStringLiteral("back") : QStringLiteral("left"));
    act(tr("Slit"),
        "add-slit " + std::to_string(m_part->currentData().toInt()) + " " + at + " " + fixed(length, 0) + " " +
            fixed(opens, 0) + " " + m_closedBy->currentData().toString().toStdString());
  };
  m_slitBack = addButton(slits, QStringLiteral("fit-slit-back"), tr("Slit it at the back"),
      tr("As long as it must be; the pieces get it with its holes and a strip behind."), [slit] { slit("back"); });
  m_slitSides = addButton(slits, QStringLiteral("fit-slit-sides"), tr("Slit it at both sides"),
      tr("For an even opening, or where the back is seen."), [slit] { slit("sides"); });
  addButton(slits, QStringLiteral("fit-halves"), tr("Part it in two halves"),
      tr("From ear to ear, with magnets along the cut: for what is stiff, or must come off at once."), [this] {
        emit lookWanted(QStringLiteral("left"));
        act(tr("Two halves"), "add-slit " + std::to_string(m_part->currentData().toInt()) + " halves 100 40 magnets");
      });
  m_slitLong = m_slits->add<LengthField>(slits, QStringLiteral("fit-slit-long"), "long");
  m_slitOpens = m_slits->add<LengthField>(slits, QStringLiteral("fit-slit-opens"), "opens");
  m_slitGone =
      addButton(slits, QStringLiteral("fit-slit-gone"), tr("Close it again"), tr("The rim closes again."), [this] {
        if (const Slit* s = this->slit()) act(tr("Take the slit away"), "drop-slit " + std::to_string(s->id));
      });
}

void FitStation::addSight() {
  addDrawer(QStringLiteral("sight"), tr("Sight"), tr("What is left of the view, in words; the map beside shows it."));
  TrayGroup* group = addGroup(tr("What the wearer sees"));
  m_sightWords = addWords(group, QStringLiteral("fit-sight-words"));
  m_eyeHeight = m_fit->add<LengthField>(group, QStringLiteral("fit-eye-height"), "eye-height");
  m_against = addChoice(group, QStringLiteral("fit-against"), tr("Beside it"),
      tr("The view out of a kept version, on the same head."), {}, {});
  connect(m_against, &QComboBox::activated, this, &FitStation::compare);
  group->addText(
      tr("About: two millimetres in the place of an eye change it by a point or two. Stairs, traffic and crowds "
         "with a handler."));
}

void FitStation::addInside() {
  addDrawer(
      QStringLiteral("inside"), tr("Inside"), tr("Where it presses or gapes, ears, and what else must find room."));
  TrayGroup* group = addGroup(tr("Room round the head"));
  m_colours = new QCheckBox(tr("Colour the stand by room"), this);
  m_colours->setObjectName(QStringLiteral("fit-colours"));
  m_colours->setToolTip(tr("Blue presses, plain is as meant, orange stands off."));
  group->body()->addWidget(m_colours);
  connect(m_colours, &QCheckBox::toggled, this, [this] { emit standChanged(); });
  m_insideWords = addWords(group, QStringLiteral("fit-inside-words"));
  addButton(group, QStringLiteral("fit-ears"), tr("Cut holes for the ears"),
      tr("Along each ear's own outline with a margin, in the part chosen at Put on."), [this] {
        act(tr("Holes for the ears"), "add-cutout " + std::to_string(m_part->currentData().toInt()) + " ears");
      });
  addButton(group, QStringLiteral("fit-nose"), tr("Form it warm onto the nose"),
      tr("Outlines the zone on the pieces of the part chosen at Put on, where its foam bears heat."),
      [this] { act(tr("Zone of the nose"), "add-cutout " + std::to_string(m_part->currentData().toInt()) + " nose"); });
  m_fit->add<LengthField>(group, QStringLiteral("fit-wig"), "wig");
  TrayGroup* things = addGroup(tr("What else is inside"));
  m_rooms->setObjectName(QStringLiteral("fit-rooms"));
  m_rooms->setAccessibleName(tr("Things inside"));
  setTypeHeight(*m_rooms, 0, 56);
  things->body()->addWidget(m_rooms);
  connect(m_rooms, &QListWidget::currentRowChanged, this, [this] { emit renewWanted(); });
  m_roomKind = addChoice(things, QStringLiteral("fit-room-kind"), tr("Put in"),
      tr("As usual for its kind; change its size below, drag its grips on the stand."), roomChoices(), {});
  addButton(things, QStringLiteral("fit-room-add"), tr("Put it in"), tr("Where it usually goes."), [this] {
    act(tr("Put in"), "add-room " + m_roomKind->currentData().toString().toStdString());
    m_rooms->setCurrentRow(m_rooms->count() - 1);
  });
  m_roomFacts = new QWidget(this);
  auto* grid = new QGridLayout(m_roomFacts);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setVerticalSpacing(2);
  const auto add = [&](const std::string& dial, int row, int column) {
    QWidget* field = m_roomDials->field(QStringLiteral("fit-room-") + QString::fromStdString(dial), dial);
    grid->addWidget(new QLabel(field->accessibleName(), m_roomFacts), row, column);
    grid->addWidget(field, row + 1, column);
    field->setMinimumWidth(60);
  };
  const std::string axes[] = {"across", "up", "deep"};
  for (int k = 0; k < 3; ++k) add(axes[k], 0, k), add("at-" + axes[k], 2, k);
  things->body()->addWidget(m_roomFacts);
  m_roomGone =
      addButton(things, QStringLiteral("fit-room-gone"), tr("Take it out"), tr("It is inside no longer."), [this] {
        if (const Room* r = room()) act(tr("Take it out"), "drop-room " + std::to_string(r->id));
      });
}

void FitStation::addMoving() {
  addDrawer(QStringLiteral("moving"), tr("Move"), tr("How far the head turns, what it weighs, and air."));
  m_movingWords = addWords(addGroup(tr("Turning the head")), QStringLiteral("fit-moving-words"));
  TrayGroup* balance = addGroup(tr("On the neck"));
  m_balanceWords = addWords(balance, QStringLiteral("fit-balance-words"));
  addButton(balance, QStringLiteral("fit-battery-back"), tr("Put a battery at the back"),
      tr("It has to go somewhere: behind it trims a heavy front."),
      [this] { act(tr("Battery at the back"), "add-room battery"); });
  TrayGroup* air = addGroup(tr("Air and heat"));
  m_airWords = addWords(air, QStringLiteral("fit-air-words"));
  addButton(air, QStringLiteral("fit-vents"), tr("Put vents in behind"),
      tr("Five holes across the back of the part chosen at Put on: warm air leaves there."),
      [this] { act(tr("Vents"), "add-cutout " + std::to_string(m_part->currentData().toInt()) + " vents-back"); });
  addButton(air, QStringLiteral("fit-report-look"), tr("Look at the fit report\u2026"),
      tr("The page as it is printed, on the screen."), [this] { lookAtReport(); });
  addButton(air, QStringLiteral("fit-report"), tr("Print the fit report\u2026"),
      tr("What was checked, what it says, pictures and cautions, for maker and wearer."),
      [this] { emit exportWanted(QStringLiteral("fit-report")); });
}

void FitStation::lookAtReport() {
  constexpr int kPixelsWide = 860;
  const Build& build = m_document.build();
  auto pages = fitReportImages(build, m_shown, m_shown.worn ? wearersPicture(*m_shown.worn) : QImage(), kPixelsWide);
  if (!pages) return void(emit told(qs(pages.error().text)));
  const QStringList words{
      sightWords(m_shown), insideWords(m_shown), movingWords(m_shown), balanceWords(m_shown), airWords(m_shown)};
  auto* view = new PagesView(tr("Fit report"), std::move(*pages), words.join(QLatin1Char('\n')), this);
  connect(view, &PagesView::saveWanted, this, [this] { emit exportWanted(QStringLiteral("fit-report")); });
  view->show();
}

const GoingOn* FitStation::goingOn() const {
  if (!m_shown.worn) return nullptr;
  for (const GoingOn& g : m_shown.worn->going_on)
    if (g.part == m_part->currentData().toInt()) return &g;
  return nullptr;
}

const Slit* FitStation::slit() const {
  for (const Slit& s : m_document.build().fit.slits)
    if (s.part == m_part->currentData().toInt()) return &s;
  return nullptr;
}

const Room* FitStation::room() const {
  const auto& all = m_document.build().fit.rooms;
  const int row = m_rooms->currentRow();
  return row >= 0 && row < static_cast<int>(all.size()) ? &all[row] : nullptr;
}

/// Who comes here sees it worn.
void FitStation::entered() {
  m_play.stop();
  m_way->setValue(kWaySteps);
}

/// While an opening is dragged the map follows, roughly; the whole of it comes at rest.
void FitStation::lookOut() {
  if (m_looking.isRunning()) return void(m_lookAgain = true);
  m_looking.begin(
      [&chain = m_place.chain, build = m_document.build(), derived = m_shown, part = m_part->currentData().toInt(),
          opening = m_opening](const Progress& progress) -> Result<std::shared_ptr<const Worn>> {
        if (*opening == nullptr) {
          auto ready = look_through_opening(chain, build, derived, part, progress);
          if (!ready) return fail(ready);
          *opening = std::move(*ready);
        }
        if (*opening == nullptr) return look_out(chain, build, derived, part, progress);
        return (*opening)->through(*find_part(build, part));
      });
}

void FitStation::gripMoved(const QString& dial, double by, bool last) {
  const Part* part = find_part(m_document.build(), m_part->currentData().toInt());
  if (part != nullptr && dial.startsWith(QLatin1String("eye"))) {
    if (m_grip.begins(dial)) m_opening = std::make_shared<Opening>();
    emit gripText(m_grip.moved(*part, dial, by, last));
    return lookOut();
  }
  const Room* now = room();
  if (now == nullptr || !dial.startsWith(QLatin1String("room."))) return;
  const int axis = dial.mid(5).toInt();
  if (m_dragged != dial) m_dragged = dial, m_dragStart = now->at_mm[axis];
  const double to = std::round(m_dragStart + by);
  m_document.edit(
      tr("Move it"),
      [&, id = now->id](Build& b) {
        for (Room& r : b.fit.rooms)
          if (r.id == id) r.at_mm[axis] = to;
      },
      QStringLiteral("fit-") + dial);
  emit gripText(qs(format_length(to, m_document.build().shown)));
  if (last) m_dragged.clear();
}

StandChoice FitStation::standChoice() const {
  StandChoice choice;
  choice.unit = m_document.build().shown;
  choice.seams = m_way->value() >= kWaySteps;
  choice.worn_map = tryingOn(
      m_shown, m_document.build(), goingOn(), static_cast<double>(m_way->value()) / kWaySteps, m_colours->isChecked());
  choice.shoulders = true;
  const auto body = m_document.build().tape.body.find(BodyMeasure::shoulders);
  if (body != m_document.build().tape.body.end()) choice.shoulder_mm = body->second;
  const auto& rooms = m_document.build().fit.rooms;
  if (!rooms.empty()) {
    auto bodies = std::make_shared<std::vector<Mesh>>();
    for (const Room& r : rooms) bodies->push_back(body_of(r));
    choice.inside = bodies;
  }
  if (m_way->value() >= kWaySteps && m_drawer == QLatin1String("on"))
    choice.own_lines =
        fittingLines(m_shown, [part = m_part->currentData().toInt()](const Yield& y) { return closes(y, part); });
  if (const Hold* h = m_hold->hold(); h != nullptr && m_drawer == QLatin1String("hold"))
    choice.own_lines = fittingLines(m_shown, [h](const Yield& y) { return is_of(y, *h); });
  // The edges of eye holes: what is dragged there is seen in the map at once.
  const PartForm* form =
      m_shown.form && m_way->value() >= kWaySteps ? m_shown.form->of(m_part->currentData().toInt()) : nullptr;
  if (form != nullptr && m_drawer == QLatin1String("sight"))
    for (const Handle& h : form->handles)
      if (h.dial.starts_with("eye")) choice.own_handles.push_back(h);
  if (const Room* r = room(); r != nullptr && m_drawer == QLatin1String("inside")) {
    for (int k = 0; k < 3; ++k)
      choice.own_handles.push_back(
          {"room." + std::to_string(k), r->at_mm + (0.5 * r->size_mm[k] + 14.0) * Vec3::Unit(k), Vec3::Unit(k), 1.0});
  }
  return choice;
}

bool FitStation::focusPlace(const QString& where) {
  if (!where.startsWith(QLatin1String("fit"))) return false;
  const QString rest = where.mid(4);
  if (rest.startsWith(QLatin1String("sight"))) return focusOn(m_eyeHeight), true;
  const int number = rest.section(QLatin1Char('/'), 1, 1).toInt();
  if (rest.startsWith(QLatin1String("hold"))) return m_hold->reveal(number), true;
  if (rest.startsWith(QLatin1String("room"))) {
    const auto& all = m_document.build().fit.rooms;
    for (std::size_t i = 0; i < all.size(); ++i)
      if (number == all[i].id) m_rooms->setCurrentRow(static_cast<int>(i));
    return focusOn(m_rooms), true;
  }
  if (rest.startsWith(QLatin1String("ear"))) return focusOn(m_colours), true;
  if (rest.startsWith(QLatin1String("turning")) || rest.startsWith(QLatin1String("balance")) ||
      rest.startsWith(QLatin1String("air")))
    return drawers().reveal(m_movingWords), true;
  const int index = m_part->findData(rest.section(QLatin1Char('/'), 0, 0).toInt());
  if (index >= 0) m_part->setCurrentIndex(index);
  return focusOn(m_part), true;
}

void FitStation::showGoingOn(const Build& build) {
  {
    const QSignalBlocker quiet(m_part);
    const QVariant part = m_part->currentData();
    m_part->clear();
    for (const Part& p : build.parts)
      if (p.on == 0 && !std::holds_alternative<LimbSpec>(p.shape)) m_part->addItem(qs(p.name), p.id);
    m_part->setCurrentIndex(std::max(0, m_part->findData(part)));
  }
  const GoingOn* on = goingOn();
  m_onWords->setText(!m_shown.worn ? tr("Being tried on\u2026")
          : on != nullptr          ? answered(goingOnWords(*on, build))
                                   : tr("Nothing here goes over the head."));
  m_way->setEnabled(on != nullptr && !on->way.empty());
  m_playButton->setEnabled(m_way->isEnabled());
  const Slit* s = slit();
  m_slitWords->setText(s != nullptr ? fittingWords(m_shown, s->part, tr("No slit.")) : tr("None yet."));
  m_slits->show(build);
  for (QWidget* w :
      {static_cast<QWidget*>(m_slitLong), static_cast<QWidget*>(m_slitOpens), static_cast<QWidget*>(m_slitGone)})
    w->setEnabled(s != nullptr);
}

void FitStation::showInside(const Build& build) {
  m_insideWords->setText(insideWords(m_shown));
  const QSignalBlocker quiet(m_rooms);
  const int row = m_rooms->currentRow();
  m_rooms->clear();
  for (const Room& r : build.fit.rooms) {
    const RoomCheck* check = nullptr;
    if (m_shown.worn)
      for (const RoomCheck& c : m_shown.worn->rooms)
        if (c.room == r.id) check = &c;
    m_rooms->addItem(textOf(roomChoices(), name_of(r.kind)) +
        (check == nullptr     ? QString()
                : check->fits ? tr(": fits")
                              : tr(": does not fit")));
  }
  m_rooms->setCurrentRow(
      build.fit.rooms.empty() ? -1 : std::clamp(row, 0, static_cast<int>(build.fit.rooms.size()) - 1));
  const Room* r = room();
  m_roomDials->show(build);
  m_rooms->setVisible(!build.fit.rooms.empty());
  m_roomFacts->setVisible(r != nullptr);
  m_roomGone->setVisible(r != nullptr);
}

void FitStation::showVersions(const Build& build) {
  const QSignalBlocker quiet(m_against);
  m_against->clear();
  m_against->addItem(tr("Nothing"), 0);
  for (const Version& v : build.versions) m_against->addItem(qs(v.name), v.id);
  const int at = m_against->findData(m_compared);
  if (at < 0) m_compared = 0, m_other->hide();
  m_against->setCurrentIndex(std::max(0, at));
  m_against->setEnabled(!build.versions.empty());
}

/// Tries a kept version on beside the window.
void FitStation::compare() {
  m_compared = m_against->currentData().toInt();
  const Version* version = find_version(m_document.build(), m_compared);
  m_comparing.stop();
  m_other->setVisible(version != nullptr);
  m_sight->setTitle(version != nullptr ? tr("Now") : QString());
  if (version == nullptr) return;
  m_other->setTitle(qs(version->name));
  m_other->show(nullptr);
  m_comparing.begin([&chain = m_place.chain, held = version->held](
                        const Progress& progress) -> Result<std::shared_ptr<const Worn>> {
    const Derived d = with_worn(chain, *held, chain.derive(*held, progress.span(0.0, 0.5)), progress.span(0.5, 1.0));
    if (d.error) return fail(*d.error);
    return d.worn;
  });
}

void FitStation::showWords() {
  m_sightWords->setText(answered(sightWords(m_shown)));
  m_movingWords->setText(answered(movingWords(m_shown)));
  m_balanceWords->setText(answered(balanceWords(m_shown)));
  m_airWords->setText(airWords(m_shown));
}

void FitStation::show(const Build& build, const Derived& derived) {
  m_shown = derived;
  showGoingOn(build);
  showInside(build);
  m_hold->show(build, derived);
  showVersions(build);
  showWords();
  m_fit->show(build);
  const double eyes = build.fit.eye_height_mm > 0.0 ? build.fit.eye_height_mm
      : derived.worn && derived.worn->sight         ? derived.worn->sight->eye_height_mm
                                                    : 0.0;
  m_eyeHeight->showValue(eyes > 0.0 ? std::optional(eyes) : std::nullopt, build.shown);
  // While the new one is being tried on, the map of the one before stays.
  if (derived.worn || derived.error) m_sight->show(derived.worn), m_room->show(derived.worn);
  m_beside->setVisible(m_sight->hasPicture());
}

std::vector<Shot> FitStation::shots() {
  return {{id(), [](Photographer& at) -> QWidget* {
             at.open("heron-warden");
             at.waitWhile([&] { return at.derived().worn == nullptr; });
             at.look(0.7f, 0.10f);
             return nullptr;
           }}};
}

}  // namespace awl
