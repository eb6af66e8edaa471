#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include "app/stations/foam/bench_sheet.hpp"
#include "app/stations/foam/foam_station.hpp"

namespace awl {

/// The sheets, the build sheet of the showpiece cut partly from an odd offcut, and horns in slabs.
std::vector<Shot> FoamStation::shots() {
  return {{id()},
      {QStringLiteral("build-sheet"),
          [this](Photographer& at) -> QWidget* {
            constexpr int kStep = 6;
            at.open("heron-warden");
            auto* name = qobject_cast<QLineEdit*>(at.control("offcut-name"));
            drawers().reveal(name);
            name->setText(tr("left of the crest"));
            qobject_cast<QLineEdit*>(at.control("offcut-outline"))
                ->setText(QStringLiteral("0,0 450,0 380,300 200,240 40,310"));
            qobject_cast<QPushButton*>(at.control("offcut-add"))->click();
            qobject_cast<QListWidget*>(at.control("offcuts"))->item(0)->setCheckState(Qt::Checked);
            at.waitWhile([] { return false; });
            readSheet();
            auto* sheet = window()->findChild<BenchSheet*>();
            sheet->goTo(kStep);
            return sheet;
          }},
      {QStringLiteral("making"), [this](Photographer& at) -> QWidget* {
         at.open("thicket-ram");
         int horn = 0;
         at.alter([&](Build& b) {
           for (Part& p : b.parts)
             if (std::holds_alternative<SweepSpec>(p.shape))
               p.way.way = Way::slabs, p.way.along = Axis::side, horn = p.id;
         });
         at.takeInHand(horn);
         drawers().reveal(at.control("way-facts"));
         return nullptr;
       }}};
}

}  // namespace awl
