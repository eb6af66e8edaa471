#include <QCheckBox>
#include <QPushButton>
#include <QTableWidget>

#include "app/stations/seams/seams_station.hpp"

namespace awl {

/// Seams by a preset, one drawn by hand, and the pieces glued up.
std::vector<Shot> SeamsStation::shots() {
  return {{id()},
      {QStringLiteral("drawn"),
          [this](Photographer& at) -> QWidget* {
            at.alter([](Build& b) {
              DrawnSeam line;
              line.name = "over the ear", line.inked = true;
              line.points = {Vec3(0, 66, 108), Vec3(48, 64, 84), Vec3(80, 52, 30), Vec3(88, 40, -30), Vec3(60, 46, -90),
                  Vec3(0, 50, -112)};
              b.parts.front().seams.belt = false;
              b.parts.front().drawn.push_back(line);
            });
            at.look(0.9f, 0.14f);
            auto* lines = qobject_cast<QTableWidget*>(at.control("seam-lines"));
            drawers().reveal(lines);
            lines->selectRow(0);
            return nullptr;
          }},
      {QStringLiteral("glued"),
          [this](Photographer& at) -> QWidget* {
            qobject_cast<QPushButton*>(at.control("glue-up"))->click();
            at.waitWhile([&] { return at.control("glue-stop")->isEnabled(); });
            drawers().reveal(at.control("glue-findings"));
            return nullptr;
          },
          [this] { findChild<QCheckBox*>(QStringLiteral("glue-show"))->setChecked(false); }}};
}

}  // namespace awl
