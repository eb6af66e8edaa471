#include "core/fit/eye_rays.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kHorizonMm = 1e5, kLooksFromMm = 10.5;

}  // namespace

EyeRays::EyeRays(
    const FitHead& head, const std::vector<FitPart>& parts, const FitRules::Sight& rules, const Vec3& pupil)
    : head_(head), rules_(rules), turn_(pupil - rules.turn_behind_mm * Vec3::UnitZ()),
      entrance_(pupil - rules.entrance_behind_mm * Vec3::UnitZ()), outwards_(pupil.x() >= 0.0 ? 1.0 : -1.0) {
  for (const FitPart& p : parts) (p.look.kind == ThroughLook::Kind::none ? opaque_ : clear_).push_back(&p);
}

bool EyeRays::in_field(bool ahead, const Vec3& d) const {
  const double off = std::acos(std::clamp(d.z(), -1.0, 1.0));
  return off <= radians(field_limit_deg(rules_, ahead, std::atan2(d.y(), d.x() * outwards_)));
}

bool EyeRays::bare(bool ahead, const Vec3& d) const {
  if (!in_field(ahead, d)) return false;
  const Vec3 from = origin(ahead);
  // Where the ray leaves the round of the lids.
  const Vec3 off = from - turn_;
  const double along = off.dot(d);
  const double leaves =
      -along + std::sqrt(std::max(0.0, along * along - off.squaredNorm() + rules_.lids_mm * rules_.lids_mm));
  return !head_.near().blocked(from + std::max(leaves, 0.0) * d, d, kHorizonMm);
}

Vec3 EyeRays::start(bool ahead, const Vec3& d) const { return origin(ahead) + (ahead ? 0.0 : kLooksFromMm) * d; }

double EyeRays::through(bool ahead, const Vec3& d) const {
  const Vec3 from = start(ahead, d);
  for (const FitPart* p : opaque_)
    if (p->near->blocked(from, d, kHorizonMm)) return 0.0;
  double light = 1.0;
  for (const FitPart* p : clear_) light *= through_part(*p, from, d);
  return light;
}

/// Every sheet that is passed takes its share; of a closed body with two faces both count as one sheet.
double EyeRays::through_part(const FitPart& part, const Vec3& from, const Vec3& d) const {
  double light = 1.0, at = 1e-2;
  int faces = 0;
  while (const auto hit = part.near->first_hit(from, d, at)) {
    if (!part.closed || faces % 2 == 0) {
      const Vec3 n = area_vector(part.solid, part.solid.triangles[hit->triangle]).normalized();
      light *= light_through(part.look, n.dot(d));
    }
    ++faces;
    at = hit->along_mm + 1e-2;
    if (light < 1e-4 || faces > 40) break;
  }
  return light;
}

}  // namespace awl
