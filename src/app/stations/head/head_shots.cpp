#include <QCheckBox>
#include <QComboBox>
#include <QPushButton>
#include <cmath>

#include "app/stations/head/head_station.hpp"

namespace awl {
namespace {

/// What a crooked form reads, built after the plan of the check.
std::map<std::string, double> crookedReadings(const CheckPlan& plan) {
  BuiltShape crooked = plan.meant;
  crooked.flaws[static_cast<int>(Flaw::left)] = 5.0, crooked.flaws[static_cast<int>(Flaw::twist)] = 4.0;
  std::map<std::string, double> built;
  for (const BuiltDistance& d : plan.distances)
    if (d.round.empty())
      built[d.id] = std::round((crooked(plan.marks[d.to].at) - crooked(plan.marks[d.from].at)).norm());
  return built;
}

}  // namespace

/// The headform, the check of a crooked one, and a scan.
std::vector<Shot> HeadStation::shots() {
  const auto only = [this](const QString& title) {
    for (TrayGroup* group : findChildren<TrayGroup*>())
      if (group->title() == title) drawers().reveal(group), group->setOpen(true);
  };
  const auto compareWith = [this](const char* what) {
    auto* against = findChild<QComboBox*>(QStringLiteral("against"));
    against->setCurrentIndex(what != nullptr ? against->findData(QLatin1String(what)) : 0);
    emit against->activated(against->currentIndex());
  };
  auto* tapes = findChild<QCheckBox*>(QStringLiteral("show-tapes"));
  return {{id()},
      {QStringLiteral("built-check"),
          [only, compareWith, tapes](Photographer& at) -> QWidget* {
            at.alter(
                [](Build& b) { b.making = Making::headform, b.foam.thickness_mm = 10.0, b.foam_head.pipe_mm = 50.0; });
            at.alter([&](Build& b) {
              b.making = Making::parts, b.foam.thickness_mm = 5.0;
              b.built = crookedReadings(*at.derived().check);
            });
            only(tr("Check the built form"));
            tapes->setChecked(false);
            compareWith("built");
            return nullptr;
          },
          [compareWith, tapes] { compareWith(nullptr), tapes->setChecked(true); }},
      {QStringLiteral("scan"),
          [only, tapes](Photographer& at) -> QWidget* {
            tapes->setChecked(false);
            only(tr("From a scan"));
            qobject_cast<QPushButton*>(at.control("scan-simulated"))->click();
            at.waitWhile([] { return false; });
            return nullptr;
          },
          [tapes] { tapes->setChecked(true); }}};
}

}  // namespace awl
