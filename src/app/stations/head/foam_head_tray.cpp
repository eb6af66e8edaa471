#include "app/stations/head/foam_head_tray.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/stuff/bears.hpp"
#include "print/text.hpp"

namespace awl {

FoamHeadTray::FoamHeadTray(Station* station, const Chain& chain, TrayGroup* group)
    : QObject(station), m_group(group), m_chain(chain),
      m_fields(new DialFields(station, dial_facts<FoamHeadSpec>(), "headform")),
      m_made(new DialFields(station, dial_facts<WaySpec>(), "headform/way")), m_summary(new QLabel(station)) {
  m_making = station->addChoice(group, QStringLiteral("making"), tr("Now making"),
      tr("What Seams, Foam and Coat work on: the parts that are worn, or the headform they are built on."),
      {{"parts", tr("What is worn")}, {"headform", tr("The headform itself")}},
      [](Build& b, const std::string& id) { b.making = *making_from(id); });
  m_way = m_made->addSome(group, QStringLiteral("head-way"), "way", {"skin", "slabs", "carve", "net", "cast"});
  m_way->setToolTip(
      tr("A skin is light and hollow; slabs and a block are solid; a net of card is quick and only checks the size; a "
         "cast fills the wrap of film and tape."));
  std::vector<std::pair<std::string, QString>> blocks, plans{{"-1", tr("Suggested")}};
  for (std::size_t i = 0; i < head_seam_plans().size(); ++i) {
    const HeadSeams& plan = head_seam_plans()[i];
    plans.push_back({std::to_string(i),
        tr("%1 pieces a side").arg(plan.gores_per_side * static_cast<int>(plan.belts_mm.size() + 1))});
  }
  for (const Foam& f : chain.materials().foams)
    if (f.kind == SheetKind::block || f.kind == SheetKind::board || f.kind == SheetKind::foam)
      blocks.push_back({f.id, QString::fromStdString(f.name)});
  QWidget* block = m_made->addChoice(group, QStringLiteral("head-block"), "block", blocks);
  QWidget* shell = m_made->add<QComboBox>(group, QStringLiteral("head-shell"), "shell");
  QWidget* fill = m_made->add<QComboBox>(group, QStringLiteral("head-fill"), "fill");
  m_plan = m_fields->addChoice(group, QStringLiteral("head-plan"), "plan", plans);
  m_only = {{block, {Way::slabs, Way::carve}}, {shell, {Way::cast}}, {fill, {Way::cast}}, {m_plan, {Way::skin}}};
  m_neck = m_fields->add<LengthField>(group, QStringLiteral("neck-up"), "neck");
  m_pipe = m_fields->add<LengthField>(group, QStringLiteral("pipe"), "pipe");
  m_mirrored = m_fields->add<QCheckBox>(group, QStringLiteral("head-mirrored"), "mirrored");
  m_summary->setObjectName(QStringLiteral("foam-head-summary"));
  m_summary->setWordWrap(true);
  m_summary->setProperty("quiet", true);
  group->body()->addWidget(m_summary);
}

QString FoamHeadTray::tellWay(const Derived& d) const {
  if (d.ways.empty() || !d.ways.front()) {
    for (const Error& e : d.part_errors)
      if (e.where == "parts/0/way") return qs(e.text);
    return tr("Being worked out\u2026");
  }
  QStringList lines;
  for (const std::string& fact : d.ways.front()->facts) lines << qs(fact);
  for (const BenchStep& step : d.ways.front()->steps)
    if (!step.caution.empty()) lines << qs(step.caution);
  return lines.join(QLatin1Char('\n'));
}

void FoamHeadTray::show(const Build& build, const Derived& d) {
  Station::showChoice(m_making, name_of(build.making));
  m_fields->show(build);
  m_made->show(build);
  const bool ours = build.making == Making::headform;
  m_group->showRow(m_way, ours);
  for (const auto& [field, ways] : m_only)
    m_group->showRow(
        field, (ours || field == m_plan) && std::find(ways.begin(), ways.end(), build.head_way.way) != ways.end());
  for (QWidget* w : {static_cast<QWidget*>(m_plan), static_cast<QWidget*>(m_neck), static_cast<QWidget*>(m_pipe),
           static_cast<QWidget*>(m_mirrored)})
    w->setEnabled(ours);
  if (!ours)
    return m_summary->setText(
        tr("Choose the headform to get its pattern: skin of the wearer outside, a plate inside the neck, and a base it "
           "stands on."));
  if (!d.panels || !d.pieces || !d.form || !d.form->is_headform)
    return m_summary->setText(tr("Being worked out\u2026"));
  if (build.head_way.way != Way::skin) return m_summary->setText(tellWay(d));
  double worst = 0.0, tightest = 1e300;
  int copies = 0;
  for (const Piece& p : *d.pieces) {
    copies += p.copies;
    if (p.panel.valid()) tightest = std::min(tightest, 2.0 * bend_radius_mm(d.panels->panels[p.panel.value]));
  }
  for (const Panel& p : d.panels->panels) worst = std::max(worst, p.strain.p99);
  const auto foam = foam_of(build.foam, m_chain.materials());
  const Verdict heat = foam ? heat_on(*foam) : Verdict{};
  const bool warm = build.foam.heated && heat.allowed;
  const QString how = warm
      ? tr("Warm each piece and stretch it over something round, about %1 across for the tightest, before gluing.")
      : tr("Bend each piece by hand over something round, about %1 across for the tightest, before gluing.");
  m_summary->setText(
      tr("%1 parts of %2 pieces, %3 of seam. The worst must give by %4 %. %5 Ears are left off. %6")
          .arg(copies)
          .arg(d.pieces->size())
          .arg(QString::fromStdString(format_length(std::round(d.panels->seam_total_mm()), build.shown)),
              QString::fromStdString(fixed(100.0 * worst, 1)),
              how.arg(QString::fromStdString(format_length(10.0 * std::round(0.1 * tightest), build.shown))),
              qs(warm ? heat.caution : heat.why)));
}

}  // namespace awl
