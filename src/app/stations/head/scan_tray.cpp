#include "app/stations/head/scan_tray.hpp"

#include <QGridLayout>

#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/chain/questions.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

QString placeName(Landmark landmark) {
  QString name = QLatin1String(name_of(landmark));
  if (landmark == Landmark::tragion_l) name = QStringLiteral("left ") + name;
  if (landmark == Landmark::tragion_r) name = QStringLiteral("right ") + name;
  return name.at(0).toUpper() + name.mid(1);
}

}  // namespace

ScanTray::ScanTray(Station* station, Document& document, const Chain& chain, TrayGroup* group)
    : QObject(station), m_document(document), m_use(new QCheckBox(tr("The headform follows the scan"), station)),
      m_remove(new QPushButton(tr("Remove the scan"), station)), m_state(new QLabel(station)) {
  connect(addButtons(station, group), &QPushButton::clicked, this, [this, &chain] { simulate(chain); });
}

QPushButton* ScanTray::addButtons(QWidget* parent, TrayGroup* group) {
  auto* open = new QPushButton(tr("Read a scan\u2026"), parent);
  auto* simulated = new QPushButton(tr("Try a simulated scan"), parent);
  open->setObjectName(QStringLiteral("scan-read"));
  open->setToolTip(tr("A mesh or a cloud of points of a head: PLY, OBJ, STL or OFF."));
  simulated->setObjectName(QStringLiteral("scan-simulated"));
  simulated->setToolTip(tr("No scanner at hand? This one walks round a made-up head, partly blind, and sees hair."));
  for (QPushButton* b : {open, simulated}) group->body()->addWidget(b);
  group->addText(
      tr("Show these places on it: press one, then click the place on the stand. Three are enough, five are better."));
  auto* grid = new QGridLayout;
  int at = 0;
  for (const Landmark landmark : scan_landmarks()) {
    auto* button = new QPushButton(parent);
    button->setObjectName(QStringLiteral("scan-place-%1").arg(static_cast<int>(landmark)));
    button->setToolTip(tr("Press, then click the place on the scan."));
    button->setCheckable(true);
    grid->addWidget(button, at / 2, at % 2);
    m_places[landmark] = button;
    connect(button, &QPushButton::clicked, this,
        [this, landmark](bool on) { mark(on ? std::optional(landmark) : std::nullopt); });
    ++at;
  }
  group->body()->addLayout(grid);
  m_use->setObjectName(QStringLiteral("scan-use"));
  m_remove->setObjectName(QStringLiteral("scan-remove"));
  m_remove->setToolTip(tr("The headform goes back to the tapes alone."));
  m_state->setObjectName(QStringLiteral("scan-state"));
  m_state->setWordWrap(true);
  m_state->setProperty("quiet", true);
  for (QWidget* w : {static_cast<QWidget*>(m_use), static_cast<QWidget*>(m_state), static_cast<QWidget*>(m_remove)})
    group->body()->addWidget(w);
  connect(open, &QPushButton::clicked, this, &ScanTray::fileWanted);
  connect(m_use, &QCheckBox::clicked, this,
      [this](bool on) { change(tr("Follow the scan"), [on](HeldScan& s) { s.used = on; }); });
  connect(m_remove, &QPushButton::clicked, this, [this] {
    mark(std::nullopt);
    change(tr("Remove the scan"), [](HeldScan& s) { s = {}; });
  });
  return simulated;
}

void ScanTray::change(const QString& label, const std::function<void(HeldScan&)>& edit) {
  m_document.edit(label, [&](Build& next) { edit(next.scan); });
}

void ScanTray::mark(std::optional<Landmark> landmark) {
  if (!m_document.build().scan.scan) landmark.reset();
  m_marking = landmark;
  for (const auto& [place, button] : m_places) button->setChecked(landmark == place);
  emit standChanged();
}

std::shared_ptr<const Scan> ScanTray::rawScan() const { return m_marking ? m_document.build().scan.scan : nullptr; }

void ScanTray::placeClicked(const Vec3& at) {
  const auto held = m_document.build().scan.scan;
  if (!m_marking || !held) return;
  const Box box = box_of(held->mesh.vertices);
  const Landmark place = *m_marking;
  const Vec3 on_scan = at + 0.5 * (box.low + box.high);
  // The next place that is still wanted.
  std::optional<Landmark> next;
  for (const Landmark l : scan_landmarks())
    if (l != place && !held->marks.count(l) && !next) next = l;
  change(placeName(place), [&](HeldScan& s) {
    auto scan = std::make_shared<Scan>(*s.scan);
    scan->marks[place] = on_scan;
    s.scan = std::move(scan);
  });
  mark(next);
}

void ScanTray::read(const QString& path) {
  auto mesh = read_scan_file(path.toStdString());
  if (!mesh) return emit told(qs(mesh.error().text));
  const auto unit = guess_scan_unit(*mesh);
  if (!unit) return emit told(qs(unit.error().text));
  for (Vec3& p : mesh->vertices) p *= unit->to_mm;
  const Scan scan{thinned_scan(std::move(*mesh)), {}};
  change(tr("Read a scan"), [&](HeldScan& s) { s = {std::make_shared<const Scan>(scan), true}; });
  mark(scan_landmarks().front());
}

void ScanTray::simulate(const Chain& chain) {
  const auto head = head_of(chain,
      sheet_of({{MeasureId::HC, 574.0}, {MeasureId::HL, 199.0}, {MeasureId::NP, 23.0}, {MeasureId::EP, 23.0},
                   {MeasureId::JW, 121.0}},
          "adult"));
  if (!head) return;
  ScannerHabits habits;
  habits.seed = 8;
  const Scan scan = simulate_scan(*head, habits).scan;
  mark(std::nullopt);
  change(tr("Simulated scan"), [&](HeldScan& s) { s = {std::make_shared<const Scan>(scan), true}; });
}

void ScanTray::show(const Build& build, const Derived& d) {
  const auto& scan = build.scan.scan;
  for (const auto& [place, button] : m_places) {
    button->setText((scan && scan->marks.count(place) ? QStringLiteral("\u2713 ") : QString()) + placeName(place));
    button->setEnabled(scan != nullptr);
  }
  m_use->setEnabled(scan != nullptr);
  m_use->setChecked(scan && build.scan.used);
  m_remove->setEnabled(scan != nullptr);
  if (!scan) return m_state->setText(tr("No scan. The headform is made from the tapes."));
  const QString size = tr("%1 points. ").arg(scan->mesh.vertices.size());
  if (scan->marks.size() < 3)
    return m_state->setText(size + tr("%1 of at least 3 places are shown.").arg(scan->marks.size()));
  if (!build.scan.used || !d.scan) return m_state->setText(size + tr("It is kept, but not followed."));
  m_state->setText(size +
      tr("%1 % lie on the head, 95 in 100 of them within %2 mm; the rest is taken for hair or cloth and left aside. %3 "
         "% of the head was seen.")
          .arg(qRound(100.0 * d.scan->used_share))
          .arg(QString::fromStdString(fixed(d.scan->p95_mm, 1)))
          .arg(qRound(100.0 * d.scan->covered_share)));
}

}  // namespace awl
