#include "app/stations/head/head_station.hpp"

#include <QHeaderView>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/chain/questions.hpp"
#include "app/widgets/text.hpp"

namespace awl {
HeadStation::HeadStation(const Workplace& place, QWidget* parent)
    : Station(place, QStringLiteral("head"), tr("Head"), parent), m_chain(place.chain), m_book(place.book),
      m_against(new QComboBox(this)), m_said(new QLabel(this)), m_summary(new QLabel(this)),
      m_table(new QTableWidget(kMeasureCount, 2, this)) {
  addStandGroup();
  addReadings();
  addDrawer(QStringLiteral("foam"), tr("In foam"), tr("A pattern of the headform itself, to build on."));
  m_foam = new FoamHeadTray(this, place.chain, addGroup(tr("Build it in foam")));
  addDrawer(QStringLiteral("check"), tr("Check"), tr("What to measure on the form you built, and what that says."));
  m_checkGroup = addGroup(tr("Check the built form"));
  m_check = new CheckTray(this, place.document, m_checkGroup);
  addDrawer(QStringLiteral("scan"), tr("Scan"), tr("A head from a mesh of points, tapes joining in."));
  m_scanGroup = addGroup(tr("From a scan"));
  m_scan = new ScanTray(this, place.document, place.chain, m_scanGroup);
  addHandGroup();
  m_column->addStretch(1);
  connect(m_check, &CheckTray::sheetWanted, this, [this] { emit exportWanted(QStringLiteral("check-sheet")); });
  connect(m_check, &CheckTray::told, this, &Station::told);
  connect(m_scan, &ScanTray::told, this, &Station::told);
  connect(m_scan, &ScanTray::fileWanted, this, [this] {
    const QString path = m_place.asking.path(false, tr("Read a scan"), {}, tr("Scans (*.ply *.obj *.stl *.off)"));
    if (!path.isEmpty()) m_scan->read(path);
  });
  connect(m_scan, &ScanTray::standChanged, this, &Station::standChanged);
}

QCheckBox* HeadStation::addToggle(TrayGroup* group, const QString& name, const QString& text, const QString& tip) {
  auto* box = new QCheckBox(text, this);
  box->setObjectName(name);
  box->setToolTip(tip);
  group->body()->addWidget(box);
  connect(box, &QCheckBox::toggled, this, [this] { emit standChanged(); });
  return box;
}

void HeadStation::addStandGroup() {
  addDrawer(QStringLiteral("stand"), tr("Stand"), tr("What the stand shows of this head."));
  TrayGroup* group = addGroup(tr("On the stand"));
  m_tapes = addToggle(group, QStringLiteral("show-tapes"), tr("Tapes that were measured"),
      tr("Where they run, and what the headform reads there."));
  m_guessed = addToggle(
      group, QStringLiteral("show-guessed"), tr("Tapes that are estimated"), tr("Dashed: nobody measured them."));
  m_landmarks = addToggle(group, QStringLiteral("show-landmarks"), tr("Landmarks"),
      tr("The places that edges, seams and openings follow."));
  m_contours = addToggle(
      group, QStringLiteral("show-contours"), tr("Level lines every 20 mm"), tr("Sections, to judge how round it is."));
  {
    const QSignalBlocker quiet(m_tapes);
    m_tapes->setChecked(true);
  }
  m_against->setObjectName(QStringLiteral("against"));
  m_against->setAccessibleName(tr("Coloured against"));
  m_against->setToolTip(tr("Colours say how far the head stands out or lies in, in millimetres, beside another head."));
  m_against->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  m_against->setMinimumContentsLength(15);
  group->addRow(tr("Coloured against"), m_against);
  m_said->setObjectName(QStringLiteral("against-said"));
  m_said->setWordWrap(true);
  m_said->setProperty("quiet", true);
  group->body()->addWidget(m_said);
  fillFixed();
  connect(&m_book, &Book::changed, this, &HeadStation::fillOthers);
  connect(m_against, &QComboBox::activated, this, [this] { emit renewWanted(); });
}

void HeadStation::fillFixed() {
  m_against->clear();
  m_against->addItem(tr("Nothing"), QStringLiteral("none"));
  m_against->addItem(tr("Its own other side"), QStringLiteral("sides"));
  m_against->addItem(tr("The form as built"), QStringLiteral("built"));
}

/// Nothing, its own mirror image, the form as built, and every dated head of the book.
void HeadStation::fillOthers() {
  const QVariant before = m_against->currentData();
  fillFixed();
  if (const auto book = m_book.get())
    if (const auto wearers = (*book)->wearers())
      for (const BookWearer& w : *wearers)
        if (const auto sheets = (*book)->sheets(w.id))
          for (const BookSheet& s : *sheets)
            m_against->addItem(tr("%1, %2").arg(qs(w.name), qs(s.sheet.day.iso())), s.id);
  m_against->setCurrentIndex(std::max(0, m_against->findData(before)));
}

void HeadStation::entered() { fillOthers(); }

void HeadStation::addReadings() {
  addDrawer(QStringLiteral("readings"), tr("Readings"), tr("What a tape laid on this headform reads."));
  TrayGroup* group = addGroup(tr("What a tape on it reads"));
  m_summary->setObjectName(QStringLiteral("head-summary"));
  m_summary->setWordWrap(true);
  group->body()->addWidget(m_summary);
  m_table->setObjectName(QStringLiteral("head-readings"));
  m_table->setAccessibleName(tr("Readings of the headform"));
  m_table->setHorizontalHeaderLabels({tr("Measure"), tr("Reads")});
  m_table->verticalHeader()->hide();
  m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  m_table->setSelectionMode(QAbstractItemView::NoSelection);
  m_table->setFocusPolicy(Qt::StrongFocus);
  m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  m_table->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  m_table->setMinimumHeight(330);
  for (int i = 0; i < kMeasureCount; ++i)
    for (int column = 0; column < 2; ++column)
      m_table->setItem(
          i, column, new QTableWidgetItem(column == 0 ? QString(QLatin1String(measure_facts()[i].name)) : QString()));
  group->body()->addWidget(m_table);
}

void HeadStation::addHandGroup() {
  addDrawer(QStringLiteral("files"), tr("Take away"), tr("Pages to wrap it by hand, and meshes."));
  TrayGroup* group = addGroup(tr("By hand, and as a mesh"));
  const auto button = [&](const QString& name, const QString& text, const QString& tip, auto&& press) {
    auto* b = new QPushButton(text, this);
    b->setObjectName(name);
    b->setToolTip(tip);
    group->body()->addWidget(b);
    connect(b, &QPushButton::clicked, this, press);
  };
  button(QStringLiteral("wrap-guide"), tr("Print the wrapping guide\u2026"),
      tr("Film and tape on a real head: the cautions, the steps, and this build's seams to draw on it."),
      [this] { emit exportWanted(QStringLiteral("wrap-guide")); });
  button(QStringLiteral("mesh-headform"), tr("Save the headform as a mesh\u2026"),
      tr("Closed, in millimetres, for printing or sculpting: OBJ, STL or PLY."),
      [this] { emit exportWanted(QStringLiteral("headform")); });
  button(QStringLiteral("mesh-hood"), tr("Save what is worn as a mesh\u2026"),
      tr("With its thickness, closed, in millimetres: OBJ, STL or PLY."),
      [this] { emit exportWanted(QStringLiteral("hood")); });
  group->addText(tr("Wrapping: never over nose and mouth, never alone, cut at the back with blunt-nosed scissors."));
}

StandChoice HeadStation::standChoice() const {
  StandChoice choice;
  const bool foam = m_document.build().making == Making::headform && !m_tapes->isChecked();
  choice.hood = choice.seams = foam;
  choice.tapes = m_tapes->isChecked(), choice.guessed_tapes = m_guessed->isChecked();
  choice.landmarks = m_landmarks->isChecked(), choice.contours = m_contours->isChecked();
  choice.unit = m_document.build().shown;
  choice.map = m_map, choice.map_range_mm = m_range, choice.instead = m_instead;
  choice.raw_scan = m_scan->rawScan();
  choice.scan = true;
  return choice;
}

bool HeadStation::focusPlace(const QString& where) {
  if (where.startsWith(QLatin1String("check"))) {
    drawers().reveal(m_checkGroup);
    return m_check->focusDistance(where.mid(6)) || where == QLatin1String("check");
  }
  if (where.startsWith(QLatin1String("scan"))) return drawers().reveal(m_scanGroup), true;
  return Station::focusPlace(where);
}

/// The colours that were asked for, and what they say in words.
void HeadStation::compare(const Build& build, const Derived& d) {
  m_map.reset(), m_instead.reset();
  m_said->clear();
  const QString kind = m_against->currentData().toString();
  if (!d.head || kind == QLatin1String("none")) return m_said->hide();
  m_said->show();
  const auto length = [&](double mm) { return qs(format_length(std::round(10.0 * mm) / 10.0, build.shown)); };
  const auto tell = [&](const DistanceMap& map, const Mesh& mesh, const QString& words) {
    if (std::abs(map.most_mm) < 0.05) return m_said->setText(tr("No difference."));
    m_said->setText(words.arg(length(std::abs(map.most_mm)), map.most_mm > 0 ? tr("out") : tr("in"),
        qs(spoken_place(*d.head, mesh.vertices[map.furthest]))));
  };
  if (kind == QLatin1String("sides")) {
    m_map = std::make_shared<const DistanceMap>(left_against_right(*d.head));
    tell(*m_map, d.head->mesh, tr("Furthest it stands %2 %1 from its other side, at the %3."));
  } else if (kind == QLatin1String("built")) {
    if (!d.built) return m_said->setText(tr("Nothing was read on the built form yet."));
    m_map = std::shared_ptr<const DistanceMap>(d.built, &d.built->map),
    m_instead = std::shared_ptr<const Mesh>(d.built, &d.built->mesh);
    tell(*m_map, d.built->mesh, tr("The form as built stands %2 furthest, by %1, at the %3."));
  } else {
    const auto book = m_book.get();
    if (!book) return m_said->setText(qs(book.error().text));
    const auto sheet = (*book)->sheet(m_against->currentData().toInt());
    if (!sheet) return m_said->setText(qs(sheet.error().text));
    // Fitted once, not whenever something is shown.
    if (!m_other || m_other->first != sheet->sheet) {
      auto fitted = head_of(m_chain, sheet->sheet);
      if (!fitted) return m_said->setText(qs(fitted.error().text));
      m_other = std::pair(sheet->sheet, std::move(*fitted));
    }
    m_map = std::make_shared<const DistanceMap>(distance_map(d.head->mesh, m_other->second.mesh));
    tell(*m_map, d.head->mesh, tr("Furthest it stands %2 %1 beside that head, at the %3; orange is out, blue is in."));
  }
  m_range = std::max(1.5, std::ceil(2.0 * m_map->p95_mm) / 2.0);
}

void HeadStation::show(const Build& build, const Derived& derived) {
  compare(build, derived);
  showReadings(build, derived);
  m_foam->show(build, derived);
  m_check->show(build, derived);
  m_scan->show(build, derived);
}

void HeadStation::showReadings(const Build& build, const Derived& derived) {
  if (!derived.head) return;
  double furthest = 0.0;
  int given = 0;
  for (int i = 0; i < kMeasureCount; ++i) {
    const Reading& r = derived.head->readings[i];
    const auto text = [&](double mm) { return qs(format_length(mm, build.shown)); };
    const QString band = qs(format_length(std::max(1.0, std::round(r.band_mm)), build.shown, false));
    m_table->item(i, 1)->setText(r.given ? tr("%1 \u2713 tape").arg(text(r.reads_mm))
                                         : tr("%1 \u00b1 %2").arg(text(std::round(r.reads_mm)), band));
    QFont font = m_table->font();
    font.setItalic(!r.given);
    for (int column = 0; column < 2; ++column) m_table->item(i, column)->setFont(font);
    if (r.given) ++given, furthest = std::max(furthest, std::abs(r.given_mm - r.reads_mm));
  }
  m_summary->setText(
      tr("%1 of %2 measures are from the tape; the headform meets them within %3 mm. Slanted rows are estimated.")
          .arg(given)
          .arg(kMeasureCount)
          .arg(qs(fixed(std::max(0.1, furthest), 1))));
}

}  // namespace awl
