#include "app/stations/dress/dress_station.hpp"

#include <QSignalBlocker>
#include <algorithm>
#include <cmath>

#include "app/station/grip_drag.hpp"
#include "app/widgets/text.hpp"
#include "core/base/numbers.hpp"
#include "core/derived/left_rings.hpp"
#include "core/dress/dressed.hpp"
#include "core/piece/piece_place.hpp"

namespace awl {
namespace {

constexpr double kPickMm = 14.0;

/// Words for what a line comes from where a part has none of itself.
const std::vector<std::pair<TrackFrom, QString>>& freeLines() {
  static const std::vector<std::pair<TrackFrom, QString>> all{{TrackFrom::drawn, DressStation::tr("Drawn on the form")},
      {TrackFrom::round, DressStation::tr("Level round, at a height")},
      {TrackFrom::way, DressStation::tr("Shortest way between two places")}};
  return all;
}

std::string number(double value) { return fixed(value, 3); }

bool sameLine(const Track& a, const Track& b) { return a.from == b.from && a.name == b.name && a.number == b.number; }

}  // namespace

DressStation::DressStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("dress"), tr("Dress"), parent), m_list(new QListWidget(this)),
      m_looking(this, [this](Result<std::vector<PartLine>> found) {
        m_lines = found ? *found : std::vector<PartLine>{};
        showLines();
      }) {
  addList();
  addLine();
  addShape();
  addNumbers();
  m_column->addStretch(1);
  connect(&drawers(), &Drawers::opened, this, [this] { renewLines(); });
  connect(&m_document, &Document::partTaken, this, [this] { setDrawing(false); });
}

void DressStation::act(const QString& label, const std::string& act, const QString& gesture) {
  m_document.change(
      label,
      [&](const Build& b) -> Result<Build> {
        auto next = apply_act(b, act);
        if (!next) return next;
        if (auto good = check_inputs(*next); !good) return fail(good);
        return next;
      },
      gesture);
}

void DressStation::addList() {
  addDrawer(
      QStringLiteral("details"), tr("Details"), tr("What is put on, in the order it is put on; and what can be."));
  TrayGroup* group = addGroup(tr("On the parts"));
  m_list->setObjectName(QStringLiteral("dress-list"));
  m_list->setAccessibleName(tr("Details"));
  m_list->setMinimumHeight(150);
  group->body()->addWidget(m_list);
  m_none =
      group->addText(tr("Nothing is put on yet. Choose a kind below, add it, then click on the form where it goes."));
  connect(m_list, &QListWidget::currentRowChanged, this, [this](int row) {
    if (row >= 0) choose(m_list->item(row)->data(Qt::UserRole).toInt());
  });
  auto* row = new QHBoxLayout;
  m_gone = new QPushButton(tr("Take it off"), this);
  m_gone->setObjectName(QStringLiteral("dress-gone"));
  m_gone->setToolTip(tr("Undo brings it back."));
  m_across = new QPushButton(tr("Copy across"), this);
  m_across->setObjectName(QStringLiteral("dress-across"));
  m_across->setToolTip(tr("The other side gets one of its own, to be made unlike."));
  row->addWidget(m_gone), row->addWidget(m_across);
  group->body()->addLayout(row);
  connect(m_gone, &QPushButton::clicked, this, [this] {
    if (const Detail* d = chosen()) act(tr("Take it off"), "drop-detail " + std::to_string(d->id));
  });
  connect(m_across, &QPushButton::clicked, this, [this] {
    if (const Detail* d = chosen()) act(tr("Copy across"), "copy-across " + std::to_string(d->id));
  });
  m_name = new QLineEdit(this);
  m_name->setObjectName(QStringLiteral("dress-name"));
  m_name->setAccessibleName(tr("Name of the detail"));
  group->addRow(tr("Called"), m_name);
  connect(m_name, &QLineEdit::editingFinished, this, [this] {
    const Detail* d = chosen();
    const QString name = m_name->text().trimmed();
    if (d != nullptr && !name.isEmpty() && name.toStdString() != d->name)
      act(tr("Name it"), "name-detail " + std::to_string(d->id) + " " + name.toStdString());
  });
  m_both = new QCheckBox(tr("The same on the other side"), this);
  m_both->setObjectName(QStringLiteral("dress-both"));
  m_both->setToolTip(tr("Off for a scar, a torn ear, what is worn on one side."));
  group->body()->addWidget(m_both);
  connect(m_both, &QCheckBox::clicked, this, [this](bool on) {
    if (const Detail* d = chosen())
      act(tr("One side or both"), "side-of-detail " + std::to_string(d->id) + (on ? " both" : " one"));
  });
  TrayGroup* more = addGroup(tr("Put on another"));
  m_part = addChoice(more, QStringLiteral("dress-part"), tr("On"), tr("The part it sits on."), {}, {});
  connect(m_part, &QComboBox::activated, this, [this](int i) { m_document.takeInHand(m_part->itemData(i).toInt()); });
  std::vector<std::pair<std::string, QString>> kinds;
  for (const DetailShape& shape : detail_kinds()) kinds.push_back({kind_of(shape), QString::fromUtf8(label_of(shape))});
  m_kind = addChoice(more, QStringLiteral("dress-kind"), tr("Kind"), tr("What is put on."), kinds, {});
  addButton(more, QStringLiteral("dress-add"), tr("Put it on"),
      tr("Then click on the form where it goes, or give it a line of the part at Line."),
      [this] {
        const int before = static_cast<int>(m_document.build().dress.details.size());
        act(tr("Put it on"),
            "add-detail " + m_kind->currentData().toString().toStdString() + " " +
                std::to_string(m_part->currentData().toInt()));
        const auto& all = m_document.build().dress.details;
        if (static_cast<int>(all.size()) <= before) return;
        choose(all.back().id);
        drawers().setOpen(QStringLiteral("line"));
        m_draw->setChecked(needs_of(all.back().shape) != LineNeed::none);
      })
      ->setProperty("act", true);
}

void DressStation::addLine() {
  addDrawer(QStringLiteral("line"), tr("Line"), tr("Where it goes: a line drawn on the form, or one the part has."));
  TrayGroup* group = addGroup(tr("Where it goes"));
  m_line = addChoice(group, QStringLiteral("dress-line"), tr("Along"),
      tr("Rims, seams, ridges, feet of what sits on it, or a line of your own."), {}, {});
  connect(m_line, &QComboBox::activated, this, [this] { takeLine(); });
  auto* row = new QHBoxLayout;
  m_draw = new QPushButton(tr("Draw it"), this);
  m_draw->setObjectName(QStringLiteral("dress-draw"));
  m_draw->setCheckable(true);
  m_draw->setProperty("act", true);
  m_draw->setToolTip(
      tr("Click along the form, or on a flat piece where you measured it. One click is a place. Drag markers to move "
         "them, with Shift the whole line."));
  m_clear = new QPushButton(tr("Begin anew"), this);
  m_clear->setObjectName(QStringLiteral("dress-clear"));
  m_clear->setToolTip(tr("Its markers go; undo brings them back."));
  row->addWidget(m_draw), row->addWidget(m_clear);
  group->body()->addLayout(row);
  connect(m_draw, &QPushButton::toggled, this, &DressStation::setDrawing);
  connect(m_clear, &QPushButton::clicked, this, [this] {
    if (const Detail* d = chosen())
      m_document.edit(tr("Begin anew"), [id = d->id](Build& b) { find_detail(b.dress, id)->track.points.clear(); });
  });
  m_hint = group->addText({});
  m_hint->setObjectName(QStringLiteral("dress-hint"));
  m_lineWords = group->addText({});
  m_lineWords->setObjectName(QStringLiteral("dress-line-words"));
  auto* end = new QWidget(this);
  end->setObjectName(QStringLiteral("dress-line-end"));
  m_column->addWidget(end);
  m_lineDials = new DialTray(this, m_column, end->objectName(), QStringLiteral("dress-dial-"));
}

void DressStation::addShape() {
  addDrawer(QStringLiteral("shape"), tr("Shape"), tr("How large, how many, of what."));
  auto* end = new QWidget(this);
  end->setObjectName(QStringLiteral("dress-shape-end"));
  m_column->addWidget(end);
  m_shape = new DialTray(this, m_column, end->objectName(), QStringLiteral("dress-dial-"));
  TrayGroup* stuff = addGroup(tr("Cut from"));
  std::vector<std::pair<std::string, QString>> kinds{{"", tr("The same as its part")}};
  for (const Foam& f : m_place.chain.materials().foams) kinds.push_back({f.id, qs(f.name)});
  m_stuff =
      addChoice(stuff, QStringLiteral("dress-stuff"), tr("Kind"), tr("What its own pieces are cut from."), kinds, {});
  connect(m_stuff, &QComboBox::activated, this, [this] {
    if (const Detail* d = chosen())
      act(tr("Cut from"),
          "stuff-of-detail " + std::to_string(d->id) + " " + m_stuff->currentData().toString().toStdString());
  });
  for (DialTray* tray : {m_shape, m_lineDials})
    connect(tray, &DialTray::turned, this,
        [this](const QString& dial, const QString& label, double value, const QString& gesture) {
          const Detail* d = chosen();
          if (d == nullptr) return;
          const std::string words =
              "set-detail " + std::to_string(d->id) + " " + dial.toStdString() + " " + number(value);
          auto* field =
              qobject_cast<LengthField*>((m_shape->field(dial) != nullptr ? m_shape : m_lineDials)->field(dial));
          if (field == nullptr) return act(label, words, gesture);
          submit(field, label, [words](const Build& b) { return apply_act(b, words); });
        });
}

void DressStation::addNumbers() {
  addDrawer(QStringLiteral("numbers"), tr("Numbers"), tr("What it comes to: lengths, counts, pieces, what to buy."));
  m_numbers = addGroup(tr("What it comes to"))->addText({});
  m_numbers->setObjectName(QStringLiteral("dress-numbers"));
  TrayGroup* feet = addGroup(tr("Parts on parts"));
  m_feet = new QCheckBox(tr("Draw feet on the pieces below"), this);
  m_feet->setObjectName(QStringLiteral("dress-feet"));
  m_feet->setToolTip(tr("Outline, middle, levels and glue area of every part that sits on another."));
  feet->body()->addWidget(m_feet);
  connect(m_feet, &QCheckBox::clicked, this,
      [this](bool on) { m_document.edit(tr("Feet on the pieces"), [on](Build& b) { b.dress.footprints = on; }); });
}

const Detail* DressStation::chosen() const { return find_detail(m_document.build().dress, m_chosen); }

void DressStation::choose(int id) {
  const Detail* d = find_detail(m_document.build().dress, id);
  if (d == nullptr || id == m_chosen) return;
  m_draw->setChecked(false);
  m_chosen = id;
  if (m_document.partAtHand() != d->part) m_document.takeInHand(d->part);
  showList(m_document.build());
  showChosen(m_document.build());
  renewLines();
  emit standChanged();
}

const PartForm* DressStation::formOf(int part) const { return m_shown.form ? m_shown.form->of(part) : nullptr; }

const PartGround* DressStation::ground() const {
  const Detail* d = chosen();
  const PartForm* now = d != nullptr ? formOf(d->part) : nullptr;
  if (now == nullptr || !m_shown.head) return nullptr;
  if (!m_ground || !m_ground->is_of(now, m_shown.head.get()))
    for (const auto& held : m_shown.form->parts)
      if (held.get() == now) m_ground = std::make_shared<const PartGround>(held, m_shown.head);
  return m_ground.get();
}

const Dressed* DressStation::dressedOf(int detail) const {
  if (m_shown.dressed)
    for (const auto& one : *m_shown.dressed)
      if (one->detail == detail) return one.get();
  return nullptr;
}

DrawnSeam DressStation::lineOf(const Detail& detail) const {
  DrawnSeam seam;
  seam.id = detail.id, seam.name = detail.name, seam.points = detail.track.points;
  seam.closed = detail.track.closed && seam.points.size() > 2;
  seam.mirrored = detail.mirrored;
  return seam;
}

void DressStation::setDrawing(bool on) {
  const Detail* d = chosen();
  if (on && d == nullptr) {
    m_draw->setChecked(false);
    return emit told(tr("Put a detail on first; then draw where it goes."));
  }
  m_drawing = on;
  if (m_draw->isChecked() != on) m_draw->setChecked(on);
  if (on && d->track.from != TrackFrom::drawn && d->track.from != TrackFrom::way && d->track.from != TrackFrom::round)
    act(tr("Line"), "line-of-detail " + std::to_string(d->id) + " drawn");
  m_hint->setText(on ? tr("Click on the form: one place, or several for a line. Near a rim, a seam, a ridge or the "
                          "middle a click is drawn to it.")
                     : QString());
  emit standChanged();
}

/// The detail gets the line that is chosen in the list.
void DressStation::takeLine() {
  const Detail* d = chosen();
  const int row = m_line->currentIndex();
  if (d == nullptr || row < 0) return;
  const int free_lines = static_cast<int>(freeLines().size());
  m_document.edit(tr("Line"), [&, id = d->id](Build& b) {
    Track& track = find_detail(b.dress, id)->track;
    if (row < free_lines) {
      track.from = freeLines()[row].first;
    } else if (row - free_lines < static_cast<int>(m_lines.size())) {
      const Track& of = m_lines[row - free_lines].track;
      track.from = of.from, track.name = of.name, track.number = of.number;
      track.points.clear();
    } else if (m_line->itemData(row).isValid()) {
      track.from = TrackFrom::beside, track.number = m_line->itemData(row).toInt();
      if (track.off_mm == 0.0) track.off_mm = 15.0;
    }
  });
  setDrawing(row < free_lines);
}

void DressStation::mark(const Vec3& on_form) {
  const Detail* d = chosen();
  const PartGround* now = ground();
  if (d == nullptr || now == nullptr) return;
  const Snap snap = now->snapped(on_form);
  const Vec3 at = now->places().at_home(snap.place);
  m_document.edit(tr("A marker"), [&, id = d->id](Build& b) {
    Track& track = find_detail(b.dress, id)->track;
    if (track.from == TrackFrom::round) track.points.clear();
    if (track.from == TrackFrom::way && track.points.size() > 1) track.points.pop_back();
    track.points.push_back(at);
  });
  const auto& points = chosen()->track.points;
  QString words = snap.to.empty() ? QString() : tr("On %1. ").arg(qs(snap.to));
  if (points.size() > 1) {
    const auto lines = lines_on(now->places(), {lineOf(*chosen())});
    words += tr("%1 long.")
                 .arg(qs(format_length(
                     std::round(length_of(lines.front().line, lines.front().seam.closed)), m_document.build().shown)));
  }
  m_hint->setText(words + QLatin1Char(' ') + tr("Click on, or press Draw it again to end."));
}

void DressStation::wornClicked(const Vec3& place) {
  const PartGround* now = ground();
  if (m_drawing && now != nullptr) return mark(now->onto(place));
  // Beside drawing a click chooses what is there.
  double least = kPickMm;
  int found = 0;
  if (m_shown.dressed)
    for (const auto& one : *m_shown.dressed) {
      if (one->detail == 0) continue;
      for (const DressPlace& p : one->places)
        if (const double d = (p.at - place).norm(); d < least) least = d, found = one->detail;
      for (const FormLine& line : one->lines)
        for (std::size_t i = 0; i < line.size(); ++i)
          if (const double d = (line.at[i] - place).norm(); d < least) least = d, found = one->detail;
    }
  if (found != 0) choose(found);
}

void DressStation::markerMoved(const QString& marker, const Vec3& place, bool whole, bool last) {
  const QStringList name = marker.split(QLatin1Char('.'));
  const PartGround* now = ground();
  const Detail* d = chosen();
  if (name.size() != 2 || now == nullptr || d == nullptr || name[0].mid(4).toInt() != d->id) return;
  const std::size_t index = name[1].toUInt();
  if (!m_dragged || m_dragged->id != d->id) m_dragged = *d;
  auto& points = m_dragged->track.points;
  if (index >= points.size()) return;
  const Snap snap = now->snapped(now->onto(place));
  const Vec3 to = now->places().at_home(snap.place), by = to - points[index];
  if (whole)
    for (Vec3& p : points) p += by;
  else
    points[index] = to;
  const auto lines = lines_on(now->places(), {lineOf(*m_dragged)});
  QString words = points.size() > 1
      ? qs(format_length(
            std::round(length_of(lines.front().line, lines.front().seam.closed)), m_document.build().shown))
      : QString();
  if (!snap.to.empty()) words += (words.isEmpty() ? QString() : QStringLiteral(", ")) + tr("on %1").arg(qs(snap.to));
  emit gripText(words);
  if (last) {
    const auto moved = points;
    const int id = d->id;
    m_dragged.reset();
    m_document.edit(whole ? tr("Move a line") : tr("Move a marker"),
        [&](Build& b) { find_detail(b.dress, id)->track.points = moved; });
  }
  emit standChanged();
}

/// One drag is one undo; a value that cannot be leaves the one before.
void DressStation::gripMoved(const QString& dial, double by, bool last) {
  const Detail* d = chosen();
  if (d == nullptr) return;
  Detail copy = *d;
  const auto dials = dials_of(copy);
  if (m_grip != dial) {
    const auto now =
        std::find_if(dials.begin(), dials.end(), [&](const Dial& one) { return one.facts.id == dial.toStdString(); });
    if (now == dials.end()) return;
    m_grip = dial, m_gripStart = now->value();
  }
  const GripValue to = gripValue(dials, dial, m_gripStart + by, m_document.build().shown);
  act(tr("Drag"), "set-detail " + std::to_string(d->id) + " " + dial.toStdString() + " " + number(to.value),
      QStringLiteral("dress-grip-%1-%2-%3").arg(d->id).arg(dial).arg(m_gripStart));
  emit gripText(to.text);
  if (last) m_grip.clear();
}

/// A place measured on the foam becomes a place on the form.
void DressStation::pieceClicked(int piece, const Vec2& at, bool flipped) {
  const Detail* d = chosen();
  const PartGround* now = ground();
  if (!m_drawing || d == nullptr || now == nullptr || !m_shown.pieces || !m_shown.panels || !m_shown.form) return;
  std::vector<int> part_of;
  for (const auto& part : m_shown.form->parts) part_of.push_back(part->part);
  const auto place = PiecePlaces(*m_shown.pieces, *m_shown.panels, part_of).on_form(piece, at, flipped);
  if (!place) return emit told(qs(place.error().text));
  mark(now->onto(*place));
}

StandChoice DressStation::standChoice() const {
  StandChoice choice;
  choice.unit = m_document.build().shown;
  choice.numbers = false;  // they would lie over what is looked at
  const Detail* d = chosen();
  if (d == nullptr) return choice;
  choice.part = d->part;
  const Detail& now = m_dragged && m_dragged->id == d->id ? *m_dragged : *d;
  const bool drawn =
      now.track.from == TrackFrom::drawn || now.track.from == TrackFrom::way || now.track.from == TrackFrom::round;
  if (const PartGround* on = ground(); on != nullptr && drawn && !now.track.points.empty()) {
    choice.lines = true, choice.lit_line = -1, choice.ground = m_ground;
    choice.loose = lines_on(on->places(), {lineOf(now)});
    if (now.track.from != TrackFrom::drawn)
      for (DrawnLine& line : choice.loose) line.line.clear(), line.image.clear();
  }
  if (const Dressed* made = dressedOf(d->id); made != nullptr && !m_dragged)
    for (const FormLine& line : made->lines) {
      std::vector<Vec3> shown = line.at;
      if (line.closed && !shown.empty()) shown.push_back(shown.front());
      if (shown.size() > 1) choice.own_lines.push_back(std::move(shown));
    }
  if (const Dressed* made = dressedOf(d->id); made != nullptr && !m_drawing) choice.own_handles = made->grips;
  return choice;
}

bool DressStation::focusPlace(const QString& where) {
  if (!where.startsWith(QLatin1String("dress"))) return false;
  choose(where.mid(6).toInt());
  return focusOn(m_list), true;
}

QString DressStation::helpPage(const QWidget& control) const {
  const Detail* d = chosen();
  return d != nullptr && control.objectName().startsWith(QLatin1String("dress-dial-"))
      ? QStringLiteral("detail-") + QLatin1String(kind_of(d->shape))
      : QString();
}

void DressStation::entered() {
  const auto& all = m_document.build().dress.details;
  if (chosen() == nullptr && !all.empty()) choose(all.front().id);
  renewLines();
}

/// Which lines the part has, looked for beside the window.
void DressStation::renewLines() {
  const Detail* d = chosen();
  const PartForm* form = d != nullptr ? formOf(d->part) : nullptr;
  if (form == nullptr || form == m_linesOf || drawers().open() != QLatin1String("line")) return;
  m_linesOf = form;
  m_looking.begin([build = m_document.build(), derived = m_shown, part = d->part](
                      const Progress&) -> Result<std::vector<PartLine>> {
    const auto site = site_to_dress(build, derived, part);
    if (!site) return fail(site);
    return part_lines(**site, *derived.form->of(part));
  });
}

void DressStation::showLines() {
  const QSignalBlocker quiet(m_line);
  const LengthUnit unit = m_document.build().shown;
  m_line->clear();
  const Detail* d = chosen();
  m_line->setEnabled(d != nullptr);
  if (d == nullptr) return;
  int now = -1;
  for (const auto& [from, words] : freeLines()) {
    m_line->addItem(words);
    if (d->track.from == from) now = m_line->count() - 1;
  }
  for (const PartLine& line : m_lines) {
    m_line->addItem(tr("%1, %2").arg(qs(line.words), qs(format_length(std::round(line.length_mm), unit))));
    if (sameLine(line.track, d->track)) now = m_line->count() - 1;
  }
  for (const Detail& other : m_document.build().dress.details) {
    if (other.id == d->id) break;
    if (other.part != d->part) continue;
    m_line->addItem(tr("beside %1").arg(qs(other.name)), other.id);
    if (d->track.from == TrackFrom::beside && d->track.number == other.id) now = m_line->count() - 1;
  }
  if (now < 0) {  // not looked up yet, or not there: called by its own words
    const bool named = d->track.from == TrackFrom::seam || d->track.from == TrackFrom::feature;
    m_line->addItem(
        qs(name_of(d->track.from)) + QLatin1Char(' ') + (named ? qs(d->track.name) : QString::number(d->track.number)));
    now = m_line->count() - 1;
  }
  m_line->setCurrentIndex(now);
}

void DressStation::showList(const Build& build) {
  const QSignalBlocker quiet(m_list), still(m_part);
  m_list->clear();
  int row = -1;
  for (const Detail& d : build.dress.details) {
    const Part* part = find_part(build, d.part);
    auto* item = new QListWidgetItem(
        build.parts.size() > 1 && part != nullptr ? tr("%1, on the %2").arg(qs(d.name), qs(part->name)) : qs(d.name),
        m_list);
    item->setData(Qt::UserRole, d.id);
    item->setToolTip(QString::fromUtf8(label_of(d.shape)));
    if (d.id == m_chosen) row = m_list->count() - 1;
  }
  m_list->setCurrentRow(row);
  m_list->setVisible(!build.dress.details.empty());
  m_none->setVisible(build.dress.details.empty());
  m_part->clear();
  for (const Part& p : build.parts) m_part->addItem(qs(p.name), p.id);
  m_part->setCurrentIndex(std::max(0, m_part->findData(m_document.partAtHand())));
}

void DressStation::showChosen(const Build& build) {
  const Detail* d = chosen();
  for (QWidget* w : {static_cast<QWidget*>(m_gone), static_cast<QWidget*>(m_across), static_cast<QWidget*>(m_name),
           static_cast<QWidget*>(m_both), static_cast<QWidget*>(m_draw), static_cast<QWidget*>(m_clear),
           static_cast<QWidget*>(m_stuff)})
    w->setEnabled(d != nullptr);
  m_feet->setChecked(build.dress.footprints);
  if (d == nullptr) {
    m_name->clear();
    m_shape->show(std::vector<Dial>{}, -1, build.shown), m_lineDials->show(std::vector<Dial>{}, -1, build.shown);
    m_lineWords->clear();
    m_numbers->setText(tr("Nothing is chosen."));
    return showLines();
  }
  m_across->setEnabled(d->mirrored && (d->track.from == TrackFrom::drawn || d->track.from == TrackFrom::way));
  if (!m_name->hasFocus()) m_name->setText(qs(d->name));
  m_both->setChecked(d->mirrored);
  showChoice(m_stuff, d->stuff);
  Detail copy = *d;
  std::vector<Dial> shape, line;
  for (Dial& dial : dials_of(copy))
    (dial.facts.group == "Its line" && dial.facts.id != "sheet" ? line : shape).push_back(std::move(dial));
  if (!shape.empty()) shape.back().facts.group = shape.front().facts.group;  // its thickness, with the rest
  m_shape->show(std::move(shape), d->id, build.shown);
  m_lineDials->show(std::move(line), d->id, build.shown);
  showLines();
  const Dressed* made = dressedOf(d->id);
  QStringList words, numbers;
  if (made != nullptr && !made->lines.empty() && made->lines.front().size() > 1)
    words << tr("%1 long%2.")
                 .arg(qs(format_length(std::round(made->lines.front().length_mm), build.shown)),
                     made->lines.front().closed ? tr(", all round") : QString());
  if (made != nullptr) {
    for (const std::string& fact : made->yield.facts) numbers << qs(fact);
    if (const auto rings = rings_that_serve(build, m_shown, *made, m_place.chain.materials()))
      for (const std::string& ring : *rings) numbers << qs(ring);
    for (const Want& w : made->yield.wants)
      numbers << tr("To buy: %1, %2 %3.")
                     .arg(qs(w.what), qs(fixed(w.need, w.need < 10.0 && w.unit == "m" ? 1 : 0)), qs(w.unit));
    if (!made->yield.pieces.empty())
      numbers << tr("%n piece(s) of its own on the sheets.", nullptr, static_cast<int>(made->yield.pieces.size()));
  }
  m_lineWords->setText(words.join(QLatin1Char('\n')));
  m_numbers->setText(numbers.isEmpty() ? tr("Being worked out\u2026") : numbers.join(QLatin1Char('\n')));
}

void DressStation::show(const Build& build, const Derived& derived) {
  m_shown = derived;
  if (chosen() == nullptr) m_chosen = build.dress.details.empty() ? 0 : build.dress.details.front().id;
  showList(build);
  showChosen(build);
  renewLines();
}

std::vector<Shot> DressStation::shots() {
  return {{id(), [](Photographer& at) -> QWidget* {
             at.open("ferry-keeper");
             at.look(0.55f, 0.10f);
             return nullptr;
           }}};
}

}  // namespace awl
