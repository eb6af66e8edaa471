#include "app/stations/seams/line_tray.hpp"

#include <QHeaderView>
#include <QShortcut>
#include <QSignalBlocker>
#include <algorithm>
#include <cmath>

#include "app/widgets/pick_table.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "core/stuff/bears.hpp"
#include "core/chain/questions.hpp"
#include "print/text.hpp"

namespace awl {

LineTray::LineTray(Station* station, Document& document, const Chain& chain)
    : QObject(station), m_station(station), m_document(document), m_chain(chain) {
  makeDrawing(station->addGroup(tr("Draw seams on the form")));
  makeSuggestions(station->addGroup(tr("Suggested panels"), false));
  connect(&document, &Document::partTaken, this, [this] { setDrawing(false); });
}

QPushButton* LineTray::addButton(QBoxLayout* row, const char* name, const QString& text, const QString& tip) {
  auto* button = new QPushButton(text, m_station);
  button->setObjectName(QLatin1String(name));
  button->setToolTip(tip);
  row->addWidget(button, 1);
  return button;
}

void LineTray::makeDrawing(TrayGroup* group) {
  auto* row = new QHBoxLayout;
  m_draw = addButton(row, "seam-draw", tr("Draw a seam"),
      tr("Click along the form where it should be cut. Places near a ridge, a seam, the middle line or a landmark are "
         "drawn to it."));
  m_draw->setCheckable(true);
  m_close = addButton(row, "seam-close", tr("Close it"), tr("Joins the end of the line to its beginning: a ring."));
  group->body()->addLayout(row);
  m_mirrored = new QCheckBox(tr("The same on the other side"), m_station);
  m_mirrored->setObjectName(QStringLiteral("seam-mirrored"));
  m_mirrored->setToolTip(tr("Off where the wearer or the character is one-sided."));
  m_mirrored->setChecked(true);
  group->body()->addWidget(m_mirrored);
  m_hint = group->addText({});
  m_hint->setObjectName(QStringLiteral("seam-hint"));
  connect(m_draw, &QPushButton::toggled, this, &LineTray::setDrawing);
  connect(m_close, &QPushButton::clicked, this, [this] {
    if (m_drawing) return;
    changeChosen(tr("Close a seam"), [](DrawnSeam& s) { s.closed = !s.closed; });
  });
  const auto key = [this](Qt::Key k, auto act) {
    auto* shortcut = new QShortcut(QKeySequence(k), m_station->window() != nullptr ? m_station->window() : m_station);
    shortcut->setContext(Qt::WindowShortcut);
    shortcut->setEnabled(false);
    connect(shortcut, &QShortcut::activated, this, act);
    connect(m_draw, &QPushButton::toggled, shortcut, &QShortcut::setEnabled);
  };
  key(Qt::Key_Return, [this] { finishLine(); });
  key(Qt::Key_Escape, [this] { setDrawing(false); });
  key(Qt::Key_Backspace, [this] {
    if (!m_line.empty()) m_line.pop_back();
    emit m_station->standChanged();
  });
  makeLines(group);
}

void LineTray::makeLines(TrayGroup* group) {
  m_table = new QTableWidget(0, 3, m_station);
  m_table->setObjectName(QStringLiteral("seam-lines"));
  m_table->setAccessibleName(tr("Drawn seams"));
  m_table->setToolTip(tr("Pencil lines only show; inked ones cut, in this order. Double-click a name to change it."));
  m_table->setHorizontalHeaderLabels({tr("Line"), tr("Cuts"), tr("Length")});
  m_table->verticalHeader()->hide();
  m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
  m_table->setSelectionMode(QAbstractItemView::SingleSelection);
  m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  setTypeHeight(*m_table, 136, 136);
  group->body()->addWidget(m_table);
  connect(m_table, &QTableWidget::itemSelectionChanged, this, [this] { showRole(), emit m_station->standChanged(); });
  connect(m_table, &QTableWidget::cellChanged, this, [this](int row, int column) {
    const QString name = m_table->item(row, column)->text().trimmed();
    if (column == 0 && !name.isEmpty())
      changeChosen(tr("Name a seam"), [&](DrawnSeam& s) { s.name = name.toStdString(); });
  });
  auto* first = new QHBoxLayout;
  m_ink = addButton(first, "seam-ink", tr("Ink"), tr("From pencil, which only shows, to ink, which cuts; and back."));
  m_side = addButton(first, "seam-side", tr("One side"), tr("Only on the side it was drawn on, or on both."));
  m_delete = addButton(first, "seam-delete", tr("Delete"), tr("Undo brings it back."));
  auto* second = new QHBoxLayout;
  m_hide = addButton(second, "seam-hide", tr("Hide"), tr("Does not show; an inked one still cuts."));
  m_lock = addButton(second, "seam-lock", tr("Lock"), tr("Its markers cannot be dragged by mistake."));
  m_takeUp = addButton(second, "seam-take-up", tr("Free the preset"),
      tr("Makes lines with markers of the seams this part has by its preset, to be dragged one by one."));
  group->body()->addLayout(first);
  group->body()->addLayout(second);
  m_own = new QCheckBox(tr("Seams the form brings itself"), m_station);
  m_own->setObjectName(QStringLiteral("seam-own"));
  m_own->setToolTip(tr("Of rings, sweeps and plates: strips and bands. Off: only what is drawn cuts."));
  group->body()->addWidget(m_own);
  connect(m_own, &QCheckBox::clicked, this,
      [this](bool on) { change(tr("The form's own seams"), [on](Part& p) { p.own_seams = on; }); });
  connect(m_ink, &QPushButton::clicked, this,
      [this] { changeChosen(tr("Ink or pencil"), [](DrawnSeam& s) { s.inked = !s.inked; }); });
  connect(m_side, &QPushButton::clicked, this,
      [this] { changeChosen(tr("One side or both"), [](DrawnSeam& s) { s.mirrored = !s.mirrored; }); });
  connect(m_hide, &QPushButton::clicked, this,
      [this] { changeChosen(tr("Hide a seam"), [](DrawnSeam& s) { s.hidden = !s.hidden; }); });
  connect(m_lock, &QPushButton::clicked, this,
      [this] { changeChosen(tr("Lock a seam"), [](DrawnSeam& s) { s.locked = !s.locked; }); });
  connect(m_delete, &QPushButton::clicked, this, [this] {
    if (const int id = chosen(); id > 0)
      change(tr("Delete a seam"),
          [id](Part& p) { std::erase_if(p.drawn, [id](const DrawnSeam& s) { return s.id == id; }); });
  });
  connect(m_takeUp, &QPushButton::clicked, this, &LineTray::freeSeams);
  makeRole(group);
}

/// What the chosen line is for, and how wide a strip it stands for.
void LineTray::makeRole(TrayGroup* group) {
  m_role = new QComboBox(m_station);
  m_role->setObjectName(QStringLiteral("seam-role"));
  m_role->setAccessibleName(tr("What the chosen line is for"));
  m_role->setToolTip(
      tr("A line can also say where seams hide, under a crest, behind an ear disc, under a trim, or where none should "
         "be. Suggested panels and darts keep to it. Or where two colours meet: what lies between such lines is "
         "painted by itself, at Coat."));
  for (const auto& [role, text] : {std::pair{LineRole::cut, tr("A seam")}, {LineRole::hides, tr("Seams hide along it")},
           {LineRole::shows, tr("No seams along it")}, {LineRole::colours, tr("Colours meet along it")}})
    m_role->addItem(text, QLatin1String(name_of(role)));
  group->addRow(tr("The chosen line is"), m_role);
  m_reach = new LengthField(QStringLiteral("seam-reach"), tr("Reach of the strip to each side"),
      tr("Half the width of the crest, disc or trim that lies there."), m_station);
  group->addRow(tr("to each side"), m_reach);
  connect(m_role, &QComboBox::activated, this, [this] {
    const LineRole role = *line_role_from(m_role->currentData().toString().toStdString());
    changeChosen(tr("What a line is for"), [role](DrawnSeam& s) { s.role = role; });
  });
  connect(m_reach, &LengthField::entered, this, [this](double mm) {
    if (!(mm >= 2.0 && mm <= 150.0)) return m_reach->refuse(tr("From 2 to 150 mm to each side."));
    changeChosen(tr("Width of a strip"), [mm](DrawnSeam& s) { s.reach_mm = mm; });
  });
}

void LineTray::freeSeams() {
  const PartForm* now = form();
  if (now == nullptr) return;
  auto lines = drawn_from(now->surface);
  if (lines.empty()) return say(tr("This part has no seams to free."));
  change(tr("Free the preset"), [&](Part& p) {
    for (DrawnSeam s : p.drawn)
      if (s.role != LineRole::cut) s.id = static_cast<int>(lines.size()) + 1, lines.push_back(std::move(s));
    p.drawn = lines, p.own_seams = false;
    p.seams.preset = SeamPreset::none;
  });
  say(tr("Its seams are lines now: drag their markers, or a whole one with Shift."));
}

void LineTray::makeSuggestions(TrayGroup* group) {
  group->addText(
      tr("Good on smooth forms. Of detailed ones you know better where a cut hides; draw those, and let darts do the "
         "rest."));
  auto* row = new QHBoxLayout;
  m_suggest = addButton(row, "seam-suggest", tr("Suggest panels"),
      tr("Looks for cuts that let every panel lie flat within what the foam bears; takes some seconds."));
  m_cancel = addButton(row, "seam-suggest-cancel", tr("Stop"), tr("Stops looking; nothing is changed."));
  group->body()->addLayout(row);
  m_progress = new QProgressBar(m_station);
  m_progress->setObjectName(QStringLiteral("seam-progress"));
  m_progress->setRange(0, 100);
  m_progress->hide();
  group->body()->addWidget(m_progress);
  m_ways = new QTableWidget(0, 3, m_station);
  m_ways->setObjectName(QStringLiteral("seam-ways"));
  m_ways->setAccessibleName(tr("Ways to cut it"));
  m_ways->setHorizontalHeaderLabels({tr("Panels"), tr("Seam"), tr("Worst gives")});
  asPickTable(m_ways);
  m_ways->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  setTypeHeight(*m_ways, 128, 128);
  group->body()->addWidget(m_ways);
  auto* take = new QHBoxLayout;
  m_pencil = addButton(take, "seam-way-pencil", tr("In pencil"),
      tr("Lays the lines on the form without cutting, in place of those there are."));
  m_inkWay = addButton(take, "seam-way-ink", tr("Cut it so"),
      tr("Takes this way in place of the seams there are. Undo brings them back."));
  group->body()->addLayout(take);
  makeDarts(group);
  connect(m_suggest, &QPushButton::clicked, this, &LineTray::suggest);
  m_search = std::make_unique<Search<Ways>>(
      this, [this](const Result<Ways>& ways) { showWays(ways); }, m_progress, m_cancel);
  m_dartSearch = std::make_unique<Search<Darts>>(
      this, [this](const Result<Darts>& darts) { dartsFound(darts); }, m_progress, m_cancel);
  m_sketching = std::make_unique<Search<Sketch>>(this, [this](const Result<Sketch>& sketch) { sketched(sketch); });
  connect(m_pencil, &QPushButton::clicked, this, [this] { takeWay(false); });
  connect(m_inkWay, &QPushButton::clicked, this, [this] { takeWay(true); });
  connect(m_darts, &QPushButton::clicked, this, [this] { addDarts(m_panel); });
}

void LineTray::makeDarts(TrayGroup* group) {
  m_darts = new QPushButton(tr("Add darts to the chosen piece"), m_station);
  m_darts->setObjectName(QStringLiteral("seam-darts"));
  m_darts->setToolTip(
      tr("Slits from its edge that let a dome lie flat. On a saddle they cannot help; it is split there instead."));
  group->body()->addWidget(m_darts);
  m_most = new QSpinBox(m_station);
  m_most->setObjectName(QStringLiteral("dart-most"));
  m_most->setAccessibleName(tr("Darts in a piece at most"));
  m_most->setToolTip(tr("Every dart is a seam to glue."));
  m_most->setRange(1, 12);
  m_most->setValue(DartOptions{}.most);
  group->addRow(tr("Darts, at most"), m_most);
  m_longest = new LengthField(QStringLiteral("dart-longest"), tr("Longest dart"),
      tr("Short ones hide better; long ones let a dome lie flatter."), m_station);
  group->addRow(tr("None longer than"), m_longest);
  connect(m_longest, &LengthField::entered, this, [this](double mm) {
    if (!(mm >= 10.0 && mm <= 400.0)) return m_longest->refuse(tr("From 10 to 400 mm."));
    m_longestMm = mm;
  });
}

const PartForm* LineTray::form() const { return m_form ? m_form->of(m_document.partAtHand()) : nullptr; }

int LineTray::chosen() const {
  const auto rows = m_table->selectionModel()->selectedRows();
  return rows.isEmpty() ? 0 : m_table->item(rows.front().row(), 0)->data(Qt::UserRole).toInt();
}

void LineTray::say(const QString& text) { m_hint->setText(text); }

bool LineTray::change(const QString& label, const std::function<void(Part&)>& edit) {
  return m_document.changePart(m_document.partAtHand(), label, [&](Part p) -> Result<Part> { return edit(p), p; });
}

bool LineTray::changeChosen(const QString& label, const std::function<void(DrawnSeam&)>& edit) {
  const int id = chosen();
  if (id == 0) return say(tr("Choose a line in the list first.")), false;
  return change(label, [&](Part& p) {
    for (DrawnSeam& s : p.drawn)
      if (s.id == id) edit(s);
  });
}

void LineTray::setDrawing(bool on) {
  if (on && form() == nullptr) on = false;
  const bool was = m_drawing;
  m_drawing = on;
  m_line.clear();
  if (m_draw->isChecked() != on) m_draw->setChecked(on);
  if (!on) m_drawnFor = LineRole::cut;
  if (on && m_drawnFor == LineRole::colours)
    say(
        tr("Click along the form where two colours meet, from edge to edge or round a patch. Return ends the line, "
           "Backspace takes back a place, Escape drops it."));
  else if (on)
    say(tr("Click along the form. Return ends the line, Backspace takes back a place, Escape drops it."));
  else if (was)
    m_hint->clear();
  if (on != was) emit m_station->standChanged();
}

const PartGround* LineTray::ground() const {
  const PartForm* now = form();
  if (now == nullptr || !m_head) return nullptr;
  if (!m_ground || !m_ground->is_of(now, m_head.get()))
    for (const auto& held : m_form->parts)
      if (held.get() == now) m_ground = std::make_shared<const PartGround>(held, m_head);
  return m_ground.get();
}

void LineTray::drawFor(LineRole role) {
  setDrawing(false);
  m_drawnFor = role;
  setDrawing(true);
  if (!m_drawing) m_drawnFor = LineRole::cut;
}

void LineTray::placeClicked(const Vec3& place) {
  const PartGround* now = ground();
  if (!m_drawing || now == nullptr) return;
  // Clicks fall on the outside of the foam; the line lies on the form itself.
  const Snap snap = now->snapped(now->onto(place));
  m_line.push_back(now->places().at_home(snap.place));
  say(snap.to.empty() ? tr("%1 places. Return ends the line.").arg(m_line.size())
                      : tr("%1 places, the last on %2. Return ends the line.").arg(m_line.size()).arg(qs(snap.to)));
  emit m_station->standChanged();
}

void LineTray::finishLine() {
  if (m_line.size() < 2) return say(tr("A line needs two places at least."));
  DrawnSeam seam;
  seam.points = m_line, seam.mirrored = m_mirrored->isChecked(), seam.role = m_drawnFor;
  const bool done = change(tr("Draw a seam"), [&](Part& p) {
    for (const DrawnSeam& s : p.drawn) seam.id = std::max(seam.id, s.id + 1);
    seam.name = "line " + std::to_string(seam.id);
    p.drawn.push_back(seam);
  });
  if (!done) return;
  setDrawing(false);
  say(seam.role == LineRole::colours
          ? tr("Drawn. Close it if it goes round a patch; its colours are chosen at Coat, under Colours.")
          : tr("Drawn in pencil. Ink it to cut there."));
  if (m_table->rowCount() > 0) m_table->selectRow(m_table->rowCount() - 1);
}

void LineTray::markerMoved(const QString& marker, const Vec3& place, bool whole, bool last) {
  const QStringList name = marker.split(QLatin1Char('.'));
  const PartGround* now = ground();
  if (name.size() != 2 || now == nullptr || part() == nullptr) return;
  const int id = name[0].mid(4).toInt();
  const std::size_t index = name[1].toUInt();
  for (const DrawnSeam& s : part()->drawn)
    if (s.id == id && (!m_isDragging || m_dragged.id != id)) m_dragged = s, m_isDragging = true;
  if (!m_isDragging || index >= m_dragged.points.size()) return;
  const Snap snap = now->snapped(now->onto(place));
  const Vec3 to = now->places().at_home(snap.place), by = to - m_dragged.points[index];
  if (whole)
    for (Vec3& p : m_dragged.points) p += by;
  else
    m_dragged.points[index] = to;
  m_snapped = snap.to.empty() ? QString() : tr("on %1").arg(qs(snap.to));
  emit gripText(m_snapped);
  if (!last) return renewSketch(), emit m_station->standChanged();
  m_isDragging = m_sketchAgain = false;
  m_sketching->stop();
  m_sketch = {};
  const DrawnSeam moved = m_dragged;
  change(whole ? tr("Move a seam") : tr("Move a marker"), [&](Part& p) {
    for (DrawnSeam& s : p.drawn)
      if (s.id == id) s = moved;
  });
  emit m_station->standChanged();
}

/// What the panels come to with the line as it is dragged, one reckoning at a time.
void LineTray::renewSketch() {
  const int id = m_document.partAtHand();
  if (!m_dragged.cuts() || m_sketching->isRunning()) return void(m_sketchAgain = m_dragged.cuts());
  m_sketchAgain = false;
  Build build = m_document.build();
  Part* at = find_part(build, id);
  if (at == nullptr || !m_form) return;
  for (DrawnSeam& s : at->drawn)
    if (s.id == m_dragged.id) s = m_dragged;
  auto sets = m_partPanels;
  std::size_t index = 0;
  while (index < m_form->parts.size() && m_form->parts[index]->part != id) ++index;
  if (index >= sets.size()) return;
  m_sketching->begin([chain = &m_chain, build = std::move(build), id, sets = std::move(sets), index](
                         const Progress& progress) mutable -> Result<Sketch> {
    auto set = sketch(*chain, build, id, progress);
    if (!set) return fail(set);
    sets[index] = *set;
    Sketch made{sets.size() == 1 ? *set : std::make_shared<const PanelSet>(join_panels(sets)), nullptr};
    made.faces = std::make_shared<const SheetFaces>(faces_of(made.panels->form, made.panels->spans));
    return made;
  });
}

void LineTray::sketched(const Result<Sketch>& sketch) {
  if (!m_isDragging) return;
  if (sketch) {
    m_sketch = *sketch;
    double worst = 0.0;
    const Panel* at = nullptr;
    for (const Panel& p : m_sketch.panels->panels)
      if (p.part < static_cast<int>(m_form->parts.size()) && m_form->parts[p.part]->part == m_document.partAtHand() &&
          p.strain.p99 > worst)
        worst = p.strain.p99, at = &p;
    if (at != nullptr)
      emit gripText((m_snapped.isEmpty() ? QString() : m_snapped + QStringLiteral("\n")) +
          tr("about %1 %, %2").arg(QString::fromStdString(fixed(100.0 * worst, 1)), QString::fromStdString(at->name)));
    emit m_station->standChanged();
  } else if (sketch.error().code != Errc::cancelled)
    emit gripText(qs(sketch.error().text));
  if (m_sketchAgain) renewSketch();
}

void LineTray::apply(StandChoice& choice) const {
  const PartGround* now = ground();
  if (now == nullptr) return;
  choice.ground = m_ground;
  choice.lit_line = chosen();
  choice.part = m_document.partAtHand();
  choice.lines = true;
  if (m_isDragging) {
    choice.sketch = m_sketch.panels;
    choice.sketch_faces = m_sketch.faces;
  }
  std::vector<DrawnSeam> loose;
  if (m_isDragging) loose.push_back(m_dragged);
  if (m_line.size() > 0) {
    DrawnSeam drawn;
    drawn.id = -1, drawn.points = m_line, drawn.mirrored = m_mirrored->isChecked();
    loose.push_back(drawn);
  }
  if (!loose.empty()) choice.loose = lines_on(now->places(), loose);
}

void LineTray::showTable(const Build& build) {
  const QSignalBlocker quiet(m_table);
  const int before = chosen();
  const Part* now = part();
  const PartForm* made = form();
  m_table->setRowCount(now != nullptr ? static_cast<int>(now->drawn.size()) : 0);
  for (int row = 0; row < m_table->rowCount(); ++row) {
    const DrawnSeam& s = now->drawn[row];
    double length = 0.0;
    if (made != nullptr)
      for (const DrawnLine& line : made->drawn)
        if (line.seam.id == s.id)
          for (std::size_t i = 0; i + 1 < line.line.size(); ++i) length += (line.line[i + 1] - line.line[i]).norm();
    auto* name = new QTableWidgetItem(QString::fromStdString(s.name) + (s.hidden ? tr(" (hidden)") : QString()) +
        (s.locked ? tr(" (locked)") : QString()));
    name->setData(Qt::UserRole, s.id);
    auto* cuts = new QTableWidgetItem((s.role == LineRole::hides            ? tr("hides seams")
                                              : s.role == LineRole::shows   ? tr("keep clear")
                                              : s.role == LineRole::colours ? tr("colours meet")
                                              : s.inked                     ? tr("ink")
                                                                            : tr("pencil")) +
        (s.mirrored ? QString() : tr(", one side")));
    auto* size = new QTableWidgetItem(QString::fromStdString(format_length(std::round(length), build.shown)));
    for (auto* item : {cuts, size}) item->setFlags(item->flags() & ~Qt::ItemIsEditable);
    m_table->setItem(row, 0, name), m_table->setItem(row, 1, cuts), m_table->setItem(row, 2, size);
    if (s.id == before) m_table->selectRow(row);
  }
}

void LineTray::showRole() {
  const Part* now = part();
  const DrawnSeam* line = nullptr;
  for (std::size_t i = 0; now != nullptr && i < now->drawn.size(); ++i)
    if (now->drawn[i].id == chosen()) line = &now->drawn[i];
  m_role->setEnabled(line != nullptr);
  m_reach->setEnabled(line != nullptr && line->is_strip());
  if (line == nullptr) return;
  Station::showChoice(m_role, name_of(line->role));
  m_reach->showValue(line->reach_mm, m_document.build().shown);
}

void LineTray::show(const Build& build, const Derived& derived) {
  m_form = derived.form, m_panels = derived.panels, m_head = derived.head, m_partPanels = derived.part_panels;
  showTable(build);
  showRole();
  const Part* now = part();
  const bool worn = now != nullptr && build.making == Making::parts,
             wrap = worn && std::holds_alternative<WrapSpec>(now->shape);
  for (QWidget* w : {static_cast<QWidget*>(m_draw), static_cast<QWidget*>(m_suggest), static_cast<QWidget*>(m_takeUp),
           static_cast<QWidget*>(m_darts)})
    w->setEnabled(worn);
  for (QPushButton* b : {m_ink, m_side, m_delete, m_hide, m_lock, m_close}) b->setEnabled(worn && !now->drawn.empty());
  m_own->setVisible(worn && !wrap);
  m_longest->showValue(m_longestMm, build.shown);
  const QSignalBlocker quiet(m_own);
  m_own->setChecked(now != nullptr && now->own_seams);
  m_cancel->setEnabled(m_search->isRunning() || m_dartSearch->isRunning());
  for (QPushButton* b : {m_pencil, m_inkWay}) b->setEnabled(!m_found.empty());
}

void LineTray::suggest() {
  if (m_search->isRunning() || m_dartSearch->isRunning()) return;
  m_found.clear();
  m_ways->setRowCount(0);
  m_search->begin([chain = &m_chain, build = m_document.build(), id = m_document.partAtHand()](
                      const Progress& progress) { return awl::suggest(*chain, build, id, {}, progress); });
}

void LineTray::showWays(const Result<Ways>& ways) {
  if (!ways) return say(qs(ways.error().text));
  m_found = *ways;
  m_ways->setRowCount(static_cast<int>(m_found.size()));
  for (int row = 0; row < m_ways->rowCount(); ++row) {
    const Suggestion& way = m_found[row];
    const auto length = [&](double mm) {
      return QString::fromStdString(format_length(std::round(mm), m_document.build().shown));
    };
    const QString seam = way.seam_mm - way.seen_mm < 1.0
        ? length(way.seam_mm)
        : tr("%1, %2 seen").arg(length(way.seam_mm), length(way.seen_mm)),
                  gives =
                      QString::fromStdString(fixed(100.0 * way.worst, 1)) + (way.meets ? tr(" %") : tr(" %, too much"));
    int column = 0;
    for (const QString& text : {QString::number(way.panels), seam, gives})
      m_ways->setItem(row, column++, new QTableWidgetItem(text));
  }
  m_ways->selectRow(0);
  for (QPushButton* b : {m_pencil, m_inkWay}) b->setEnabled(!m_found.empty());
  say(tr("%1 ways found. Choose one, look at it in pencil, or cut it so.").arg(m_found.size()));
}

void LineTray::takeWay(bool ink) {
  const auto rows = m_ways->selectionModel()->selectedRows();
  if (rows.isEmpty() || rows.front().row() >= static_cast<int>(m_found.size()))
    return say(tr("Choose one of the ways first."));
  const Suggestion way = m_found[rows.front().row()];
  change(ink ? tr("Cut it as suggested") : tr("Suggested lines in pencil"),
      [&](Part& p) { p = with_way(std::move(p), way, ink); });
}

namespace {

/// Whether a panel of a mirrored form is its own mirror image.
bool liesAcross(const Panel& panel) {
  const Box box = box_of(panel.solid.vertices);
  return box.low.x() < -1.0 && box.high.x() > 1.0;
}

}  // namespace

void LineTray::panelChosen(int panel) { m_panel = panel; }

void LineTray::addDarts(int panel) {
  if (m_dartSearch->isRunning() || m_search->isRunning()) return;
  if (!m_panels || panel < 0 || panel >= static_cast<int>(m_panels->panels.size()))
    return say(tr("Choose a piece first, in the table, on the stand or on the mat."));
  const Panel& p = m_panels->panels[panel];
  const Panel& left = p.mirror_of ? m_panels->panels[p.mirror_of->value] : p;
  if (!m_form || left.part >= static_cast<int>(m_form->parts.size()) || left.given_flat)
    return say(tr("A plate is cut as it was drawn; darts are for what is curved."));
  m_dartPart = m_form->parts[left.part]->part;
  const auto foam = foam_of(m_document.build().foam, m_chain.materials());
  const PartForm& on = *m_form->parts[left.part];
  DartOptions options;
  options.most = m_most->value(), options.longest_mm = m_longestMm;
  const Part* made = find_part(m_document.build(), m_dartPart);
  if (const Strips strips(
          Places(on.surface.mesh, on.surface.home), made != nullptr ? made->drawn : std::vector<DrawnSeam>{});
      !strips.empty())
    options.spare = [strips](const Vec3& place) { return strips.shows(place); };
  options.mirrored = !p.mirror_of && is_mirrored(m_form->parts[left.part]->surface) && liesAcross(left);
  options.tolerance = !foam ? 0.04 : bears_strain(*foam, m_document.build().foam.heated);
  m_dartSearch->begin(
      [solid = left.solid, options](const Progress& progress) { return propose_darts(solid, options, progress); });
}

void LineTray::dartsFound(const Result<Darts>& darts) {
  if (!darts) return say(qs(darts.error().text));
  if (darts->saddle)
    return say(
        tr("This piece bends both ways, like a saddle: a dart would make it lie over itself. Split it by a seam "
           "instead."));
  if (darts->lines.empty())
    return say(darts->meets ? tr("It lies flat as it is; no dart is needed.")
                            : tr("No dart was found that helps. Split the piece by a seam."));
  const PartForm* on = m_form ? m_form->of(m_dartPart) : nullptr;
  if (on == nullptr) return;
  m_document.takeInHand(m_dartPart);
  const Places places(on->surface.mesh, on->surface.home);
  const bool mirrored = is_mirrored(on->surface);
  const bool done = change(tr("Add darts"), [&](Part& p) {
    int next = 1, count = 0;
    for (const DrawnSeam& s : p.drawn) next = std::max(next, s.id + 1), count += s.name.rfind("dart", 0) == 0 ? 1 : 0;
    for (const CutLine& line : darts->lines) {
      DrawnSeam seam;
      seam.id = next++, seam.name = "dart " + std::to_string(++count), seam.inked = true, seam.mirrored = mirrored;
      for (const Vec3& at : {line.front(), line[line.size() / 2], line.back()})
        seam.points.push_back(places.at_home(at));
      p.drawn.push_back(std::move(seam));
    }
  });
  if (done)
    say(
        tr("By itself the piece gave by %1 %, with darts by %2 %; what it gives joined to its neighbours stands in the "
           "table.")
            .arg(QString::fromStdString(fixed(100.0 * darts->before, 1)),
                QString::fromStdString(fixed(100.0 * darts->after, 1))));
}

}  // namespace awl
