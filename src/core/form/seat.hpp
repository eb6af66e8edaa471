#pragma once
#include "core/form/dial.hpp"
#include "core/form/draft.hpp"
#include "core/geom/open_field.hpp"
#include "core/geom/section.hpp"
#include "core/head/headform.hpp"

namespace awl {

/// What a form is sized from and sits on: the wearer's head, and the outside of whatever it is put on.
class Site {
 public:
  /// Sits on the bare head, which must outlive the site.
  explicit Site(const Headform& head);
  /// Sits on another part, whose outer face may have borders, and where that ends on the head.
  Site(const Headform& head, const Mesh& host);

  const Headform& head() const { return *head_; }
  /// Distance from what it sits on, negative below its outside.
  double above(const Vec3& p) const;
  /// Where a plane cuts the head and the host, as lines.
  std::vector<std::vector<Vec3>> section(const Plane& plane) const;
  /// Outermost place of the host seen from outside along a direction from the middle of the head.
  std::optional<Vec3> outermost(const Vec3& direction) const;
  /// The place of what it sits on that is nearest, and which way that faces there, evened over a base's breadth.
  struct Spot {
    Vec3 at, out;
  };
  Spot spot(const Vec3& near) const;
  /// Of what it sits on.
  Box box() const { return box_of(host_ ? host_->mesh().vertices : head_->mesh.vertices); }
  /// Middle of the head: between the ear flaps, raised to the middle of the skull.
  Vec3 middle() const;

 private:
  const Headform* head_;
  Nearest near_head_;
  std::optional<OpenField> host_;
};

/// How a place to sit is told: round the head, or on a spot of what it sits on.
enum class SeatBy { angles, spot };

/// Where a part sits. Angles are those of the head, so that a seat means the same place on every wearer; a spot lies in
/// shares of the size of what it sits on, so that it goes along with that.
struct Seat {
  SeatBy by = SeatBy::angles;
  double around_deg = 0.0;                 ///< from the wearer's front towards the left
  double up_deg = 40.0;                    ///< above the middle of the head; 90 is the crown
  double spot_across = 0.0;                ///< from the wearer's middle to the left, by how far its farther side goes
  double spot_up = 0.5, spot_front = 0.5;  ///< from its lowest to its highest place, from its back to its front
  double spin_deg = 0.0;                   ///< turned in its own base
  double lean_deg = 0.0;                   ///< tipped away from upright on its base, upwards
  double splay_deg = 0.0;                  ///< tipped sideways, to the wearer's left
  double gap_mm = 0.0;                     ///< off the surface
  bool operator==(const Seat&) const = default;
  bool on_right() const { return (by == SeatBy::spot ? spot_across : around_deg) < 0.0; }
};
std::vector<Dial> dials_of(Seat& seat);
/// What is kept of the other way to tell the place.
std::vector<Dial> hidden_dials_of(Seat& seat);
/// On the wearer's other side; tips and turns as they are.
Seat across(Seat seat);
/// On the middle line, in front or behind, not tipped aside.
Seat in_middle(Seat seat);
/// On the spot of a host nearest to a place.
Seat on_spot(Seat seat, const Box& host, const Vec3& place);

/// Axes of a seat: out of the surface, up along it, and to the side (up x out).
struct SeatFrame {
  Vec3 origin, out, up, side;
  Vec3 at(double along_side, double along_up, double along_out) const {
    return origin + along_side * side + along_up * up + along_out * out;
  }
};
/// Errors: no_solution if the host has nothing in that direction. On a spot up is the wearer's up, or on a level place
/// backwards.
Result<SeatFrame> seat_frame(const Site& site, const Seat& seat);

}  // namespace awl
