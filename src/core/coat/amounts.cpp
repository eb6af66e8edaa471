#include "core/coat/amounts.hpp"

#include <cmath>

namespace awl {

CoatAmount amount_of(const CoatUse& u) {
  CoatAmount a;
  if (u.area_m2 <= 0.0 || u.coats <= 0) return a;
  const double on_it_ml = u.area_m2 * u.coats * u.ml_per_m2;
  a.ml = on_it_ml / (1.0 - u.overspray) * (1.0 + u.waste);
  a.cans = u.can_ml > 0.0 ? static_cast<int>(std::ceil(a.ml / u.can_ml - 1e-9)) : 0;
  a.dry_g = on_it_ml * u.density_g_ml * u.solids;
  a.film_mm = a.dry_g / u.area_m2 / 1000.0;
  return a;
}

double overspray_of(bool sprayed, bool airbrush) { return !sprayed ? 0.0 : airbrush ? 0.25 : 0.4; }

}  // namespace awl
