#include "core/stock/offcut.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

double side_of(const Vec2& a, const Vec2& b, const Vec2& c) {
  return (b.x() - a.x()) * (c.y() - a.y()) - (b.y() - a.y()) * (c.x() - a.x());
}

bool cross(const Vec2& a, const Vec2& b, const Vec2& c, const Vec2& d) {
  return side_of(a, b, c) * side_of(a, b, d) < 0.0 && side_of(c, d, a) * side_of(c, d, b) < 0.0;
}

}  // namespace

Result<Offcut> make_offcut(Offcut raw) {
  constexpr double kLeastMm2 = 400.0, kMostMm = 5000.0;
  auto& line = raw.outline;
  const std::string of = raw.name.empty() ? "The offcut" : "The offcut \"" + raw.name + "\"";
  line.erase(std::unique(line.begin(), line.end(), [](const Vec2& a, const Vec2& b) { return (a - b).norm() < 1e-6; }),
      line.end());
  while (line.size() > 1 && (line.front() - line.back()).norm() < 1e-6) line.pop_back();
  const std::size_t n = line.size();
  if (n < 3)
    return fail(Errc::degenerate_shape, of + " has " + std::to_string(n) + " corners; it needs three at least.",
        "offcuts/outline");
  if (!(raw.thickness_mm >= 0.2 && raw.thickness_mm <= 120.0))
    return fail(Errc::out_of_range, of + " is " + fixed(raw.thickness_mm, 1) + " mm thick; 0.2 to 120 mm will do.",
        "offcuts/thickness");
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t j = i + 2; j < n; ++j)
      if (!(i == 0 && j == n - 1) && cross(line[i], line[(i + 1) % n], line[j], line[(j + 1) % n]))
        return fail(Errc::overlap,
            "The outline of " + (raw.name.empty() ? "the offcut" : "\"" + raw.name + "\"") +
                " crosses itself: between corners " + std::to_string(i + 1) + " and " +
                std::to_string((i + 1) % n + 1) + " it meets the side from " + std::to_string(j + 1) + " to " +
                std::to_string((j + 1) % n + 1) + ".",
            "offcuts/outline");
  if (signed_area_mm2(line) < 0.0) std::reverse(line.begin(), line.end());
  Vec2 low = line[0], high = low;
  for (const Vec2& p : line) low = low.cwiseMin(p), high = high.cwiseMax(p);
  if (signed_area_mm2(line) < kLeastMm2)
    return fail(Errc::degenerate_shape,
        of + " has only " + fixed(signed_area_mm2(line) / 100.0, 1) +
            " cm\u00b2; less than 4 cm\u00b2 is not worth keeping.",
        "offcuts/outline");
  if ((high - low).maxCoeff() > kMostMm)
    return fail(Errc::out_of_range, of + " is " + fixed((high - low).maxCoeff(), 0) + " mm long; 5000 mm is the most.",
        "offcuts/outline");
  for (Vec2& p : line) p -= low;
  return raw;
}

}  // namespace awl
