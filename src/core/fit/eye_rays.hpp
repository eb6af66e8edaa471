#pragma once
#include "core/fit/sight.hpp"

namespace awl {

/// Where light goes that ends at one eye.
///
/// Ownership: keeps references to the head and the rules, and pointers to the parts.
class EyeRays {
 public:
  EyeRays(const FitHead& head, const std::vector<FitPart>& parts, const FitRules::Sight& rules, const Vec3& pupil);

  bool in_field(bool ahead, const Vec3& d) const;
  /// Nothing of the wearer's own head in the way; lids and lashes give way.
  bool bare(bool ahead, const Vec3& d) const;
  /// Share of the light that comes in from there.
  double through(bool ahead, const Vec3& d) const;
  /// Where a ray of this direction begins.
  Vec3 start(bool ahead, const Vec3& d) const;
  const Vec3& entrance() const { return entrance_; }
  double outwards() const { return outwards_; }

 private:
  Vec3 origin(bool ahead) const { return ahead ? entrance_ : turn_; }
  double through_part(const FitPart& part, const Vec3& from, const Vec3& d) const;

  const FitHead& head_;
  const FitRules::Sight& rules_;
  Vec3 turn_, entrance_;
  double outwards_;
  std::vector<const FitPart*> opaque_, clear_;
};

}  // namespace awl
