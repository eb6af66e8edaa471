#pragma once
#include <array>
#include <functional>
#include <string>
#include <vector>

#include "core/geom/mesh.hpp"

namespace awl {

struct WrapSpec;

/// Where the lower edge (of a mask: its rim) can be taken hold of: every 30 degrees from the front round to the back,
/// of a mask from the chin round to the brow. Millimetres by which the edge goes up there, or in: a plus takes away.
inline constexpr int kEdgePoints = 7;
using EdgePoints = std::array<double, kEdgePoints>;

/// Where the rim of an opening on the middle line can be taken hold of: above, obliquely above, beside, obliquely
/// below, below. Millimetres outwards.
inline constexpr int kMiddleRimPoints = 5;
using MiddleRimPoints = std::array<double, kMiddleRimPoints>;
/// The same all round an opening aside: every 45 degrees from its outer end upwards and round.
inline constexpr int kRimPoints = 8;
using RimPoints = std::array<double, kRimPoints>;

/// Angle round the head from the wearer's front, 0 to pi, the same on both sides; of a place on the template.
double azimuth(const Vec3& p);

/// Smooth closed curve through values at equal angles: a cubic through four neighbours (Catmull-Rom).
double round_value(const std::vector<double>& values, double angle_rad);

/// Positive where a wrap's coverage is, negative beyond its edges; about millimetres. `left` asks for the wearer's left
/// side of a one-sided wrap.
double covered(const WrapSpec& spec, const Vec3& p, bool left);
/// What either side covers: what must be laid with tape.
double covered_by_either(const WrapSpec& spec, const Vec3& p);
/// Positive outside the openings of eyes, mouth and ears.
double outside_openings(const WrapSpec& spec, const Vec3& p);
/// The same, for asking very often.
std::function<double(const Vec3&)> openings_of(const WrapSpec& spec);

/// Whether a place of the border lies on the lower edge (of a mask: its rim), of either side.
bool is_on_lower_edge(const WrapSpec& spec, const Vec3& p);

/// A grip on an edge or rim before it is looked for on the surface: about where, and which dial it turns.
struct EdgeGrip {
  std::string dial;
  Vec3 near = Vec3::Zero(), along = Vec3::UnitY();
  bool lower_edge = false;  ///< on the lower edge, else on the rim of an opening
};
std::vector<EdgeGrip> edge_grips(const WrapSpec& spec);

/// Angle of a place round the lower edge of a wrap, 0 to pi: from the front, of a mask from the chin.
double angle_round(const WrapSpec& spec, const Vec3& p);

}  // namespace awl
