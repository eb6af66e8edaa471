#include "app/stations/head/foam_head_tray.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/stuff/bears.hpp"
#include "print/text.hpp"

namespace awl {

FoamHeadTray::FoamHeadTray(Station* station, Document& document, const Chain& chain, TrayGroup* group)
    : QObject(station), m_group(group), m_chain(chain),
      m_mirrored(new QCheckBox(tr("Draw one half and flip it"), station)), m_summary(new QLabel(station)) {
  m_making = station->addChoice(group, QStringLiteral("making"), tr("Now making"),
      tr("What Seams, Foam and Coat work on: the parts that are worn, or the headform they are built on."),
      {{"parts", tr("What is worn")}, {"headform", tr("The headform itself")}},
      [](Build& b, const std::string& id) { b.making = *making_from(id); });
  m_way = station->addChoice(group, QStringLiteral("head-way"), tr("Made as"),
      tr("A skin is light and hollow; slabs and a block are solid; a net of card is quick and only checks the size; a "
         "cast fills the wrap of film and tape."),
      {{"skin", tr("Skin of sheet pieces")}, {"slabs", tr("Slabs, stacked")}, {"carve", tr("Carved from a block")},
          {"net", tr("Paper net, with card")}, {"cast", tr("Cast in a wrap")}},
      [](Build& b, const std::string& id) {
        if (const auto way = way_from(id)) b.head_way.way = *way;
      });
  std::vector<std::pair<std::string, QString>> blocks, plans{{"-1", tr("Suggested")}};
  for (std::size_t i = 0; i < head_seam_plans().size(); ++i) {
    const HeadSeams& plan = head_seam_plans()[i];
    plans.push_back({std::to_string(i),
        tr("%1 pieces a side").arg(plan.gores_per_side * static_cast<int>(plan.belts_mm.size() + 1))});
  }
  for (const Foam& f : chain.materials().foams)
    if (f.kind == SheetKind::block || f.kind == SheetKind::board || f.kind == SheetKind::foam)
      blocks.push_back({f.id, QString::fromStdString(f.name)});
  m_block = station->addChoice(group, QStringLiteral("head-block"), tr("Cut from"),
      tr("The stack takes whichever of its thicknesses wastes least."), blocks,
      [](Build& b, const std::string& id) { b.head_way.block = id; });
  m_shell = station->addChoice(group, QStringLiteral("head-shell"), tr("Its shell"),
      tr("What the wrap is of. Plaster bandage only over a headform, never on a face."),
      {{"tape", tr("Film and tape")}, {"card", tr("Strips of card")}, {"bandage", tr("Plaster bandage")}},
      [](Build& b, const std::string& id) {
        if (const auto shell = cast_shell_from(id)) b.head_way.shell = *shell;
      });
  m_fill = station->addChoice(group, QStringLiteral("head-fill"), tr("Filled with"),
      tr("Foam is light, plaster heavy and stands well, offcuts cost nothing."),
      {{"expanding", tr("Expanding foam")}, {"plaster", tr("Plaster, as a wall")}, {"scraps", tr("Offcuts and glue")}},
      [](Build& b, const std::string& id) {
        if (const auto fill = cast_fill_from(id)) b.head_way.fill = *fill;
      });
  m_plan = station->addChoice(group, QStringLiteral("head-plan"), tr("Cut into"),
      tr("Suggested: the least seam whose pieces this foam can follow."), plans,
      [](Build& b, const std::string& id) { b.foam_head.plan = whole_in(id).value_or(-1); });
  m_only = {{m_block, {Way::slabs, Way::carve}}, {m_shell, {Way::cast}}, {m_fill, {Way::cast}}, {m_plan, {Way::skin}}};
  m_neck = station->addLength(group, QStringLiteral("neck-up"), tr("Shorten the neck"),
      tr("The neck is cut off level; a shorter one stands lower."), QStringLiteral("headform/neck"),
      [](Build& b, double mm) { b.foam_head.neck_up_mm = mm; });
  m_pipe = station->addLength(group, QStringLiteral("pipe"), tr("Pipe fitting"),
      tr("Diameter of a pipe let into both plates, to set the head on a stand; 0 for none."),
      QStringLiteral("headform/pipe"), [](Build& b, double mm) { b.foam_head.pipe_mm = mm; });
  m_mirrored->setObjectName(QStringLiteral("head-mirrored"));
  m_mirrored->setToolTip(
      tr("A crooked head then becomes the mean of its sides. Off: every piece is drawn for its own side."));
  group->body()->addWidget(m_mirrored);
  connect(m_mirrored, &QCheckBox::clicked, this, [&document](bool on) {
    document.change(tr("Draw one half"), [on](const Build& b) -> Result<Build> {
      Build next = b;
      next.foam_head.mirrored = on;
      return next;
    });
  });
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
  Station::showChoice(m_plan, std::to_string(build.foam_head.plan));
  m_neck->showValue(build.foam_head.neck_up_mm, build.shown);
  m_pipe->showValue(build.foam_head.pipe_mm, build.shown);
  m_mirrored->setChecked(build.foam_head.mirrored);
  const bool ours = build.making == Making::headform;
  Station::showChoice(m_way, name_of(build.head_way.way));
  Station::showChoice(m_block, build.head_way.block);
  Station::showChoice(m_shell, name_of(build.head_way.shell));
  Station::showChoice(m_fill, name_of(build.head_way.fill));
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
