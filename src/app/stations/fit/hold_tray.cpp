#include "app/stations/fit/hold_tray.hpp"

#include <QSignalBlocker>

#include "app/widgets/text.hpp"
#include "app/widgets/theme.hpp"
#include "print/fit_words.hpp"

namespace awl {
namespace {

/// What a way of holding is called.
QString textOf(HoldBy by) {
  for (const DialFacts& f : dial_facts<Hold>())
    if (f.id == "by") return qs(f.said[static_cast<std::size_t>(by)]);
  return {};
}

std::vector<std::pair<std::string, QString>> holdChoices() {
  std::vector<std::pair<std::string, QString>> choices;
  for (const HoldBy by :
      {HoldBy::elastic, HoldBy::chin_strap, HoldBy::magnets, HoldBy::band, HoldBy::tabs, HoldBy::clips, HoldBy::jaw})
    choices.push_back({name_of(by), textOf(by)});
  return choices;
}

}  // namespace

HoldTray::HoldTray(Station* station, Document& document)
    : QObject(station), m_station(station), m_document(document), m_holds(new QListWidget(station)),
      m_fields(new DialFields(station, dial_facts<Hold>(), [this] {
        const Hold* h = hold();
        return h != nullptr ? "fit/hold/" + std::to_string(h->id) : std::string();
      })) {
  TrayGroup* group = station->addGroup(tr("What holds it"));
  m_holds->setObjectName(QStringLiteral("fit-holds"));
  m_holds->setAccessibleName(tr("Holds"));
  setTypeHeight(*m_holds, 0, 86);
  group->body()->addWidget(m_holds);
  connect(m_holds, &QListWidget::currentRowChanged, this,
      [this] { emit m_station->renewWanted(), emit m_station->standChanged(); });
  m_none = group->addText(tr("Nothing holds it yet but its own shape."));
  m_part = station->addChoice(group, QStringLiteral("fit-hold-part"), tr("Part"), tr("What is held."), {}, {});
  m_kind = station->addChoice(
      group, QStringLiteral("fit-hold-kind"), tr("By"), tr("Several may share a part."), holdChoices(), {});
  station->addButton(group, QStringLiteral("fit-hold-add"), tr("Hold it so"),
      tr("Its holes, marks, shopping and steps go into the build."), [this] {
        act(tr("Hold"),
            "add-hold " + std::to_string(m_part->currentData().toInt()) + " " +
                m_kind->currentData().toString().toStdString());
        m_holds->setCurrentRow(m_holds->count() - 1);
      });
  TrayGroup* facts = m_facts = station->addGroup(tr("The one chosen"));
  m_count = m_fields->add<QSpinBox>(facts, QStringLiteral("fit-hold-count"), "count");
  std::vector<std::pair<std::string, QString>> sizes;
  for (const char* size : {"8 x 3 N42", "10 x 3 N42", "12 x 3 N42", "15 x 5 N42", "20 x 3 N42", "10 x 3 N52"})
    sizes.push_back({size, QLatin1String(size)});
  m_magnet = m_fields->addChoice(facts, QStringLiteral("fit-magnet"), "magnet", sizes);
  m_steel = m_fields->add<QCheckBox>(facts, QStringLiteral("fit-steel"), "steel");
  m_between = m_fields->add<LengthField>(facts, QStringLiteral("fit-between"), "between");
  m_wide = m_fields->add<LengthField>(facts, QStringLiteral("fit-wide"), "wide");
  m_words = facts->addText({});
  m_words->setObjectName(QStringLiteral("fit-hold-words"));
  m_gone =
      station->addButton(facts, QStringLiteral("fit-hold-gone"), tr("Take it away"), tr("It holds no longer."), [this] {
        if (const Hold* h = hold()) act(tr("Take it away"), "drop-hold " + std::to_string(h->id));
      });
}

void HoldTray::act(const QString& label, const std::string& act) {
  m_document.change(label, [&](const Build& b) { return apply_act(b, act); });
}

const Hold* HoldTray::hold() const {
  const auto& all = m_document.build().fit.holds;
  const int row = m_holds->currentRow();
  return row >= 0 && row < static_cast<int>(all.size()) ? &all[row] : nullptr;
}

void HoldTray::reveal(int hold) {
  const auto& all = m_document.build().fit.holds;
  for (std::size_t i = 0; i < all.size(); ++i)
    if (hold == all[i].id) m_holds->setCurrentRow(static_cast<int>(i));
  m_station->focusOn(m_holds);
}

void HoldTray::show(const Build& build, const Derived& derived) {
  const QSignalBlocker quiet(m_holds);
  const QSignalBlocker held(m_part);
  const QVariant part = m_part->currentData();
  m_part->clear();
  for (const Part& p : build.parts) m_part->addItem(qs(p.name), p.id);
  m_part->setCurrentIndex(std::max(0, m_part->findData(part)));
  const int row = m_holds->currentRow();
  m_holds->clear();
  for (const Hold& h : build.fit.holds) {
    const Part* of = find_part(build, h.part);
    m_holds->addItem(tr("%1: %2").arg(of != nullptr ? qs(of->name) : QString(), textOf(h.by).toLower()));
  }
  m_holds->setCurrentRow(
      build.fit.holds.empty() ? -1 : std::clamp(row, 0, static_cast<int>(build.fit.holds.size()) - 1));
  const Hold* h = hold();
  const bool magnets = h != nullptr && h->by == HoldBy::magnets,
             strap = h != nullptr && (h->by == HoldBy::elastic || h->by == HoldBy::chin_strap);
  m_facts->showRow(m_count, h != nullptr && !strap && h->by != HoldBy::band && h->by != HoldBy::jaw);
  m_facts->showRow(m_magnet, magnets);
  m_steel->setVisible(magnets);
  m_facts->showRow(m_between, magnets || (h != nullptr && h->by == HoldBy::tabs));
  m_facts->showRow(m_wide, strap);
  m_holds->setVisible(!build.fit.holds.empty());
  m_none->setVisible(build.fit.holds.empty());
  m_facts->setVisible(h != nullptr);
  m_fields->show(build);
  m_words->setText(h != nullptr ? answered(holdWords(derived, *h)) : QString());
}

}  // namespace awl
