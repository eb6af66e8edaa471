#include "app/stations/foam/machine_tray.hpp"

#include <QSettings>
#include <QStandardPaths>
#include <cmath>
#include <set>

#include "app/stations/foam/cut_rehearsal.hpp"
#include "core/base/numbers.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

QSettings settings() {
  return {QStandardPaths::writableLocation(QStandardPaths::AppConfigLocation) + QStringLiteral("/machine.ini"),
      QSettings::IniFormat};
}

}  // namespace

MachineTray::MachineTray(Station* station, Document& document)
    : QObject(station), m_station(station), m_document(document),
      m_backed(new QCheckBox(tr("The foam's back is taped"), station)), m_said(nullptr),
      m_save(new QPushButton(tr("Save for the machine\u2026"), station)),
      m_rehearse(new QPushButton(tr("Rehearse the cut"), station)) {
  load();
  TrayGroup* group = station->addGroup(tr("Cutting machine"));
  addFact(group, "machine-width", tr("Mat width"), tr("What the machine can reach across."), 50.0, 3000.0,
      m_facts.mat.width_mm);
  addFact(
      group, "machine-height", tr("Mat length"), tr("What it can reach along."), 50.0, 5000.0, m_facts.mat.height_mm);
  addFact(group, "machine-overlap", tr("Overlap"),
      tr("Kept when a sheet is moved on, so that pieces on the border are whole on one mat."), 0.0, 500.0,
      m_facts.mat.overlap_mm);
  addFact(group, "machine-blade", tr("Blade reaches"), tr("How deep it gets at most."), 0.5, 60.0, m_facts.blade_mm);
  addFact(
      group, "machine-pass", tr("Depth a pass"), tr("How deep it cuts at once."), 0.2, 60.0, m_facts.depth_a_pass_mm);
  m_backed->setObjectName(QStringLiteral("machine-backed"));
  m_backed->setToolTip(
      tr("Tape over the whole back keeps cut pieces where they are; cut to the tape, not through it."));
  group->body()->addWidget(m_backed);
  connect(m_backed, &QCheckBox::clicked, this, [this](bool on) { m_facts.backed = on, keep(), tell(); });
  m_said = group->addText({});
  m_said->setObjectName(QStringLiteral("machine-said"));
  m_rehearse->setObjectName(QStringLiteral("machine-rehearse"));
  m_rehearse->setToolTip(
      tr("Runs the files on a machine that is not there: how long it takes and what would go wrong."));
  m_save->setObjectName(QStringLiteral("machine-save"));
  m_save->setToolTip(
      tr("One SVG a mat: pieces in their order, holes before outlines. Do not let the machine sort them again."));
  group->body()->addWidget(m_rehearse);
  group->body()->addWidget(m_save);
  connect(m_rehearse, &QPushButton::clicked, this, &MachineTray::rehearse);
  connect(m_save, &QPushButton::clicked, this, &MachineTray::saveWanted);
}

void MachineTray::addFact(TrayGroup* group, const char* name, const QString& label, const QString& tip, double least,
    double most, double& value) {
  auto* field = new LengthField(QLatin1String(name), label, tip, m_station);
  group->addRow(label, field);
  m_fields.emplace_back(field, &value);
  connect(field, &LengthField::entered, this, [this, field, least, most, label, &value](double mm) {
    const LengthUnit unit = m_document.build().shown;
    if (!(mm >= least && mm <= most))
      return field->refuse(
          tr("%1 is outside %2 to %3.").arg(label, qs(format_length(least, unit)), qs(format_length(most, unit))));
    value = mm;
    keep();
    tell();
  });
}

void MachineTray::load() {
  const QSettings kept = settings();
  const auto number = [&](const char* key, double& value) { value = kept.value(QLatin1String(key), value).toDouble(); };
  number("width_mm", m_facts.mat.width_mm), number("height_mm", m_facts.mat.height_mm),
      number("overlap_mm", m_facts.mat.overlap_mm), number("blade_mm", m_facts.blade_mm),
      number("pass_mm", m_facts.depth_a_pass_mm);
  m_facts.backed = kept.value(QStringLiteral("backed"), m_facts.backed).toBool();
}

void MachineTray::keep() {
  QSettings kept = settings();
  const auto number = [&](const char* key, double value) { kept.setValue(QLatin1String(key), value); };
  number("width_mm", m_facts.mat.width_mm), number("height_mm", m_facts.mat.height_mm),
      number("overlap_mm", m_facts.mat.overlap_mm), number("blade_mm", m_facts.blade_mm),
      number("pass_mm", m_facts.depth_a_pass_mm);
  kept.setValue(QStringLiteral("backed"), m_facts.backed);
}

Result<std::vector<std::string>> MachineTray::files() const {
  if (!m_derived.layout || !m_derived.pieces)
    return fail(Errc::empty_input, "There are no sheets to cut yet.", "machine");
  const auto windows = mat_windows(*m_derived.pieces, *m_derived.layout, m_facts.mat);
  if (!windows) return fail(windows);
  return machine_svgs(*m_derived.pieces, *m_derived.layout, *windows, m_facts.mat, m_document.build().name);
}

void MachineTray::tell() {
  for (const auto& [field, value] : m_fields) field->showValue(*value, m_document.build().shown);
  m_backed->setChecked(m_facts.backed);
  const auto svgs = files();
  m_rehearse->setEnabled(svgs.has_value());
  m_save->setEnabled(svgs.has_value());
  if (!svgs) return m_said->setText(qs(svgs.error().text));
  double seconds = 0.0;
  int short_blade = 0;
  for (const std::string& svg : *svgs) {
    auto job = read_cut_job(svg);
    if (!job) continue;
    auto machine = simulated_machine(m_facts);
    if (!machine->load(std::move(*job))) continue;
    seconds += machine->state().total_s;
    for (const MachineEvent& e : machine->events())
      short_blade += e.kind == MachineEvent::Kind::blade_short ? e.pieces : 0;
  }
  int parts = 0;
  if (const auto windows = mat_windows(*m_derived.pieces, *m_derived.layout, m_facts.mat)) {
    std::set<int> cut;
    for (const MatWindow& w : *windows) cut.insert(w.in_parts.begin(), w.in_parts.end());
    parts = static_cast<int>(cut.size());
  }
  QString text = tr("%1 mats, about %2 min of cutting.").arg(svgs->size()).arg(std::ceil(seconds / 60.0));
  if (parts > 0)
    text +=
        tr(" %n piece(s) are larger than the mat and cut in parts: move the sheet on by its marks.", nullptr, parts);
  if (short_blade > 0)
    text += tr(" The blade is too short for %n of them: finish those with a knife.", nullptr, short_blade);
  m_said->setText(text);
}

void MachineTray::show(const Build&, const Derived& derived) {
  if (m_derived.layout && derived.layout == m_derived.layout && derived.pieces == m_derived.pieces) return;
  m_derived = derived;
  tell();
}

void MachineTray::rehearse() {
  auto svgs = files();
  if (!svgs) return emit told(qs(svgs.error().text));
  auto* dialog = new CutRehearsal(std::move(*svgs), m_facts, m_station->window());
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->show();
}

}  // namespace awl
