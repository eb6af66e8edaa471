#include "app/stations/form_station.hpp"

#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

FormStation::FormStation(Document& document, QWidget* parent) : Station(document, QStringLiteral("form"), tr("Form"), parent) {
  TrayGroup* shape = addGroup(tr("The hood"));
  m_edge = addChoice(shape, QStringLiteral("hood-edge"), tr("Reaches down to"), tr("How much of the head the hood covers. Its edges follow the wearer's ears, jaw and brow."),
                     {{"skull-cap", tr("Skull cap")}, {"open-face", tr("Open-face hood")}, {"full-cowl", tr("Full cowl")}},
                     [](Build& b, const std::string& id) { b.hood.edge = *hood_edge_from(id); });
  TrayGroup* ease = addGroup(tr("Room under it"));
  m_hair = addLength(ease, QStringLiteral("ease-hair"), tr("Hair or wig"), tr("Thickness of pressed hair, a wig or a wig cap on stage."), QStringLiteral("form/hair"),
                     [](Build& b, double mm) { b.hood.hair_mm = mm; });
  m_padding = addLength(ease, QStringLiteral("ease-padding"), tr("Padding"), tr("Foam or cloth glued inside so that it sits firm."), QStringLiteral("form/padding"),
                        [](Build& b, double mm) { b.hood.padding_mm = mm; });
  m_ease = ease->addText({});
  m_ease->setObjectName(QStringLiteral("ease-total"));
  m_ease->setProperty("figure", true);
  TrayGroup* edges = addGroup(tr("Edges"), false);
  m_up = addLength(edges, QStringLiteral("edge-up"), tr("Raise the lower edge"), tr("More neck freedom; a minus lowers it."), QStringLiteral("form/edge"),
                   [](Build& b, double mm) { b.hood.edge_up_mm = mm; });
  m_face = addLength(edges, QStringLiteral("face-wider"), tr("Open the face wider"), tr("All round the face opening; a minus closes it."), QStringLiteral("form/face"),
                     [](Build& b, double mm) { b.hood.face_wider_mm = mm; });
  TrayGroup* facts = addGroup(tr("What came out"));
  m_facts = facts->addText({});
  m_facts->setObjectName(QStringLiteral("form-facts"));
  m_column->addStretch(1);
}

void FormStation::show(const Build& build, const Derived& derived) {
  showChoice(m_edge, name_of(build.hood.edge));
  m_hair->showValue(build.hood.hair_mm, build.shown);
  m_padding->showValue(build.hood.padding_mm, build.shown);
  m_up->showValue(build.hood.edge_up_mm, build.shown);
  m_face->showValue(build.hood.face_wider_mm, build.shown);
  m_face->setEnabled(build.hood.edge != HoodEdge::skull_cap);
  const auto length = [&](double mm) { return QString::fromStdString(format_length(mm, build.shown)); };
  m_ease->setText(tr("Together %1 of ease").arg(length(build.hood.ease_mm())));
  if (!derived.form) return;
  if (derived.form->surface_is_outside) return m_facts->setText(tr("Now making the headform itself: see Head. Outside: %1 cm\u00b2").arg(QString::fromStdString(fixed(derived.form->area_mm2 / 100.0, 0))));
  m_facts->setText(tr("Nearest to the head: %1 mm\nRound the lower edge: %2\nOutside: %3 cm\u00b2")
                       .arg(QString::fromStdString(fixed(derived.form->clearance.least_mm, 1)), length(std::round(derived.form->lower_girth_mm)),
                            QString::fromStdString(fixed(derived.form->area_mm2 / 100.0, 0))));
}

}  // namespace awl
