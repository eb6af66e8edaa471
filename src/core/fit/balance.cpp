#include "core/fit/balance.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kNmPerGmm = kGravity * 1e-6;  // grams times millimetres
constexpr double kKgCm2PerGmm2 = 1e-5;

}  // namespace

Balance balance_of(const FitHead& head, const std::vector<FitPart>& parts, const std::vector<Load>& loads,
    const FitRules& rules, bool child) {
  const Vec3 joint = head.skull_joint();
  Balance b;
  Vec3 first = Vec3::Zero();
  double inertia = 0.0;
  const auto add = [&](double mass, const Vec3& at, double own) {
    b.mass_g += mass, first += mass * at;
    const Vec3 r = at - joint;
    inertia += own + mass * (r.x() * r.x() + r.z() * r.z());
  };
  for (const FitPart& p : parts) add(p.mass_g, p.centre, p.inertia_g_mm2);
  for (const Load& l : loads) add(l.mass_g, l.at, 0.0);
  if (b.mass_g > 0.0) b.centre = first / b.mass_g;
  b.forward_nm = kNmPerGmm * (first.z() - b.mass_g * joint.z());
  b.side_nm = kNmPerGmm * first.x();
  b.inertia_kg_cm2 = kKgCm2PerGmm2 * inertia;
  const double own =
      (child ? rules.balance.child_head_kg : rules.balance.head_kg) * 1000.0 * rules.balance.head_before_mm;
  b.share = b.forward_nm / (kNmPerGmm * own);
  return b;
}

std::optional<double> counterweight_g(const FitHead& head, double forward_nm, double target_nm, double z_mm) {
  const double arm = head.skull_joint().z() - z_mm;
  if (arm <= 0.0) return std::nullopt;
  return std::max(0.0, (forward_nm - target_nm) / (kNmPerGmm * arm));
}

double counterweight_z_mm(const FitHead& head, double forward_nm, double target_nm, double mass_g) {
  return head.skull_joint().z() - (forward_nm - target_nm) / (kNmPerGmm * std::max(mass_g, 1e-9));
}

std::optional<double> tips_at_deg(const std::vector<Vec3>& contacts, const Vec3& centre) {
  if (contacts.empty()) return std::nullopt;
  double front = -1e300, height = 0.0;
  for (const Vec3& p : contacts)
    if (p.z() > front) front = p.z(), height = p.y();
  const double above = centre.y() - height;
  if (above <= 1.0) return std::nullopt;  // it hangs below what carries it
  return std::max(0.0, degrees(std::atan2(front - centre.z(), above)));
}

}  // namespace awl
