#pragma once
#include <memory>
#include <string>

#include "core/geom/nearest.hpp"

namespace awl {

/// How light passes what a part is made of.
struct ThroughLook {
  enum class Kind { none, flat, sheet, woven, holes, cloth };
  Kind kind = Kind::none;
  double share = 0.0;    ///< straight through: of the light; of mesh and holes the open share
  double hole_mm = 2.0;  ///< of a sheet with holes: their diameter
  double thick_mm = 1.0;
  bool operator==(const ThroughLook&) const = default;
};
/// The share of the light that passes a sheet met at an angle. Source: docs/formulas/fit-sight.md eq. (3)-(6).
double light_through(const ThroughLook& look, double cosine);

/// A stretch of an edge that can limit the view, with the normal of the face it bounds.
struct RimStretch {
  Vec3 a, b, normal;
};

/// One thing worn on the head, as the fit sees it.
struct FitPart {
  int part = 0;
  std::string name;
  Mesh solid;           ///< what stands in the way of light and skin: closed with its thickness, or a sheet
  bool closed = false;  ///< the solid has an inside
  Mesh inner;           ///< its face towards the head, open at its rims
  bool stiff = false;   ///< it cannot be stretched while going on
  double mass_g = 0.0;
  Vec3 centre = Vec3::Zero();               ///< of its mass
  int bodies = 1;                           ///< 2: a mirrored pair, each held by itself
  double own_mass_g = 0.0;                  ///< of one of them
  double arm_mm = 0.0, half_base_mm = 0.0;  ///< from the middle of its base to its mass, and half the base's width
  std::vector<Vec3> base;                   ///< its base's rim where it meets what it sits on, of one body
  bool on_head = true;                      ///< it lies on the head itself, not on another part
  int sits_on = 0;                          ///< the part it sits on; 0: the head
  bool takes_heat = true;                   ///< what it is of may be formed warm
  bool is_mask = false;                     ///< worn before the face alone
  double thick_mm = 5.0;
  std::string stuff;           ///< as in data/materials; empty: the build's foam
  double inertia_g_mm2 = 0.0;  ///< about the upright axis through its own centre
  ThroughLook look;
  double opened_mm = 0.0;               ///< by its slits, while it goes on
  double gives = 0.0;                   ///< how much longer its rim may be pulled, as a share
  double layers_mm = 0.0;               ///< hair and padding meant below it
  std::shared_ptr<const Nearest> near;  ///< of the solid
  std::vector<RimStretch> rims;         ///< of the solid: edges that can limit a view
};

/// Edges of a mesh that can limit a view: its borders and those it turns at by more than 40 degrees.
std::vector<RimStretch> rims_of(const Mesh& mesh);

/// Mass, centre and inertia of a closed solid of one density. Errors of meaning: none; a solid that is open counts as
/// closed towards the origin.
struct SolidMass {
  double mass_g = 0.0;
  Vec3 centre = Vec3::Zero();
  double inertia_g_mm2 = 0.0;  ///< about the upright axis through the centre
};
SolidMass mass_of(const Mesh& solid, double density_kg_m3);
bool is_closed(const Mesh& mesh);

}  // namespace awl
