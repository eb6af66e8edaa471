#pragma once
#include "core/form/seat.hpp"

namespace awl {

enum class BaseCut { by_surface, by_lean };

/// A tapering section along a bent spine: horns, tusks, tentacles, crests, tails, tubes.
struct SweepSpec {
  Seat seat;
  bool pair = true;                                 ///< mirrored; otherwise on the middle line
  bool one_sided = false;                           ///< of a pair only one; sat round to the right its mirror image
  double length_mm = 260.0;                         ///< along the spine
  double curl_deg = 90.0;                           ///< how far the spine turns in its own plane from base to tip
  double tighten = 0.0;                             ///< -1: bends at the base, 0: evenly, 1: at the tip
  double rise_deg = 0.0;                            ///< how far that plane itself turns: a helix
  double wave_deg = 0.0;                            ///< bends there and back on the way
  double base_wide_mm = 60.0, base_deep_mm = 60.0;  ///< section at the base, across and along the seat's up
  double tip_share = 0.0;                           ///< size at the tip; 0 is a point
  double taper = 1.0;                               ///< 1: evenly, more: stays thick longer
  double edge_sharp = 0.0;                          ///< 0 oval .. 1 a sharp keel on the outer side
  double lens = 0.0;  ///< 0 oval .. 1 drawn out to an edge on both sides: flat cheeks that unroll well
  int ridges = 0;     ///< rings raised along the length
  double ridge_mm = 3.0;
  double twist_deg = 0.0;  ///< of the section along the length
  BaseCut base = BaseCut::by_surface;
  double base_lean_deg = 0.0;  ///< of a base cut by an angle
  int strips = 2;              ///< strips it is cut in lengthwise
  int lengths = 1;             ///< and lengths one after the other: a strip that curls once round would lie over itself
  int branches = 0;            ///< tines of an antler
  double branch_mm = 90.0, branch_from = 0.35, branch_turn_deg = 50.0;
  bool tip_open = false;  ///< a tube stays open at its end
  bool operator==(const SweepSpec&) const = default;
};
std::vector<Dial> dials_of(SweepSpec& spec);
/// What is kept of what it does not have now.
std::vector<Dial> hidden_dials_of(SweepSpec& spec);

/// The sweep on this wearer and host; the surface is the outer face of the foam.
///
/// Shape:  the frame turns as little as it can along the spine (rotation-minimising), plus the twist asked for. Closed
/// at
///         its tip but for tubes, open at its base, which lies on the host or in a plane.
/// Errors: out_of_range for a dial; degenerate_shape where the section is thicker than the bend of its spine allows or
///         turns run into each other, with the value and the nearest that works.
Result<Draft> draft_sweep(const SweepSpec& spec, const Site& site);

/// Where the spine runs, for lines on the stand and for strips.
std::vector<Vec3> spine_of(const SweepSpec& spec, const SeatFrame& frame);

/// A tongue of two layers glued at the tip and the root: the longer one curls it.
struct TongueSpec {
  Seat seat;
  double length_mm = 160.0, width_mm = 46.0, tip_mm = 14.0;
  double thick_mm = 6.0, thin_mm = 2.0;  ///< of the two layers
  double longer_mm = 8.0;                ///< the outer, thin layer is longer by this much: it gives the curl
  bool operator==(const TongueSpec&) const = default;
};
std::vector<Dial> dials_of(TongueSpec& spec);
/// Radius of the curl: both layers keep their own length, R + (thick + thin) / 2 over R = (L + d) / L.
double curl_radius_mm(const TongueSpec& spec);
Result<Draft> draft_tongue(const TongueSpec& spec, const Site& site);

}  // namespace awl
