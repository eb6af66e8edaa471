#include "app/stations/form/form_station.hpp"

namespace awl {

/// The showpiece with its parts, and a plate on the drawing table.
std::vector<Shot> FormStation::shots() {
  return {{id(),
              [this](Photographer& at) -> QWidget* {
                constexpr int kCrest = 3;
                at.open("heron-warden");
                at.takeInHand(kCrest);
                drawers().setOpen(QStringLiteral("shape"));
                at.look(0.72f, 0.08f);
                return nullptr;
              }},
      {QStringLiteral("plate"), [](Photographer& at) -> QWidget* {
         at.alter([](Build& b) { b.parts.clear(); });
         at.trigger("add-face-plate");
         at.look(0.4f, 0.05f);
         return nullptr;
       }}};
}

}  // namespace awl
