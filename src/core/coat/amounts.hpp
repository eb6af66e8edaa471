#pragma once

namespace awl {

/// What a coat comes to on an area, from the litre to the gram.
struct CoatUse {
  double area_m2 = 0.0;
  int coats = 0;
  double ml_per_m2 = 0.0;  ///< that stays on the surface, each coat
  double overspray = 0.0;  ///< share that goes past it
  double waste = 0.1;      ///< stays in tin, tray and brush
  double can_ml = 250.0;   ///< as it is sold
  double density_g_ml = 1.0;
  double solids = 0.4;  ///< by mass: what stays when it is dry
};

struct CoatAmount {
  double ml = 0.0;  ///< to have at hand
  int cans = 0;
  double dry_g = 0.0;  ///< on the wearer's head
  double film_mm = 0.0;
};

/// Errors: none; nothing of no area. Source: docs/formulas/coat-amounts.md.
CoatAmount amount_of(const CoatUse& use);

/// What gets past a brush, an airbrush, a spray can; workshop values.
double overspray_of(bool sprayed, bool airbrush);

}  // namespace awl
