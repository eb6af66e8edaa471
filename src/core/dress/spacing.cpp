#include "core/dress/spacing.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

bool barred(double mm, const std::vector<std::pair<double, double>>& bars) {
  return std::any_of(bars.begin(), bars.end(), [mm](const auto& b) { return mm > b.first && mm < b.second; });
}

/// Each free stretch by itself: one in the middle of a short one, else even with both ends used.
Spacing shared(double length_mm, const SpacingRule& rule, const std::vector<std::pair<double, double>>& bars) {
  Spacing made;
  double from = rule.ends_mm;
  const auto fill = [&](double to) {
    const double l = to - from;
    if (l < 0.0) return;
    if (l < 0.5 * rule.pitch_mm) {
      made.along_mm.push_back(from + 0.5 * l);
      return;
    }
    const int n = std::max(1, static_cast<int>(std::round(l / rule.pitch_mm))) + 1;
    for (int i = 0; i < n; ++i) made.along_mm.push_back(from + l * i / (n - 1));
  };
  for (const auto& [a, b] : bars) {
    fill(std::min(a, length_mm - rule.ends_mm));
    from = std::max(from, b);
  }
  fill(length_mm - rule.ends_mm);
  made.pitch_mm = rule.pitch_mm;
  return made;
}

}  // namespace

Result<Spacing> spaced(
    double length_mm, bool closed, const SpacingRule& rule, const std::vector<std::pair<double, double>>& bars) {
  const double usable = closed ? length_mm : length_mm - 2.0 * rule.ends_mm;
  if (!(usable > 0.0) || (rule.keeps == Keeps::pitch && rule.pitch_mm > usable))
    return fail(Errc::out_of_range,
        "The line has " + fixed(std::max(usable, 0.0), 0) + " mm of room" + (closed ? "" : " between its ends") +
            ", less than one pitch of " + fixed(rule.pitch_mm, 0) + " mm; take " +
            fixed(std::max(1.0, 0.5 * usable), 0) + " mm or less.");
  if (rule.near_seam == NearSeam::share && !bars.empty() && rule.keeps == Keeps::pitch)
    return shared(length_mm, rule, bars);
  Spacing made;
  const int asked = rule.keeps == Keeps::count ? rule.count : 0;
  if (closed) {
    const int n = std::max(1, asked > 0 ? asked : static_cast<int>(std::round(usable / rule.pitch_mm)));
    made.pitch_mm = usable / n;
    for (int i = 0; i < n; ++i) made.along_mm.push_back((i + (rule.half_on ? 0.5 : 0.0)) * made.pitch_mm);
  } else {
    int n = std::max(2, asked > 0 ? asked : static_cast<int>(std::round(usable / rule.pitch_mm)) + 1);
    if (asked == 1) n = 1;
    made.pitch_mm = n > 1 ? usable / (n - 1) : usable;
    if (n == 1) made.along_mm.push_back(0.5 * length_mm);
    for (int i = 0; n > 1 && i < n - (rule.half_on ? 1 : 0); ++i)
      made.along_mm.push_back(rule.ends_mm + (i + (rule.half_on ? 0.5 : 0.0)) * made.pitch_mm);
  }
  if (rule.near_seam != NearSeam::even) {
    const auto before = made.along_mm.size();
    std::erase_if(made.along_mm, [&](double mm) { return barred(mm, bars); });
    made.dropped = static_cast<int>(before - made.along_mm.size());
  }
  return made;
}

std::vector<std::pair<double, double>> too_near(
    const FormLine& line, const std::vector<const SiteLine*>& others, double mm) {
  std::vector<char> near(line.size(), 0);
  for (const SiteLine* other : others) {
    const std::size_t n = other->at.size();
    for (std::size_t k = 0; k + (other->closed ? 0 : 1) < n; ++k) {
      const Vec3 &a = other->at[k], &b = other->at[(k + 1) % n];
      const Vec3 middle = 0.5 * (a + b);
      const double reach = mm + 0.5 * (b - a).norm();
      for (std::size_t i = 0; i < line.size(); ++i) {
        if (near[i] || (line.at[i] - middle).squaredNorm() > reach * reach) continue;
        near[i] = (closest_on_stretch(line.at[i], a, b) - line.at[i]).norm() < mm;
      }
    }
  }
  std::vector<std::pair<double, double>> bars;
  for (std::size_t i = 0; i < near.size(); ++i) {
    if (!near[i]) continue;
    const double at = static_cast<double>(i) * line.step_mm;
    if (!bars.empty() && bars.back().second >= at - line.step_mm)
      bars.back().second = at + 0.5 * line.step_mm;
    else
      bars.push_back({at - 0.5 * line.step_mm, at + 0.5 * line.step_mm});
  }
  return bars;
}

}  // namespace awl
