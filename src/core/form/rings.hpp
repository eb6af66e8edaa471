#pragma once
#include "core/form/oval.hpp"
#include "core/form/seat.hpp"

namespace awl {

/// From where the height of a ring is counted.
enum class RingFrom { chin, mouth, brow, hat_line, crown, last_ring };

/// One oval of a stack. Its outline starts from what the head itself needs at that height.
struct Ring {
  RingFrom from = RingFrom::hat_line;
  double up_mm = 0.0;                      ///< above that place
  double grow_mm = 0.0;                    ///< all round, beyond the head's own oval and the ease
  double wider_mm = 0.0, longer_mm = 0.0;  ///< breadth and length beyond that
  double forward_mm = 0.0;                 ///< moved to the front
  double lean_deg = 0.0;                   ///< front up (+) or down (-)
  double side_drop_mm = 0.0;               ///< sides lower than front and back, as on the top of a curved hat
  bool operator==(const Ring&) const = default;
};

enum class BandKind { straight, bulged };
struct Band {
  BandKind kind = BandKind::straight;
  double bulge_mm = 0.0;  ///< out (+) or waisted (-) in its middle
  bool operator==(const Band&) const = default;
};

enum class CapKind { none, flat, domed, pointed };
enum class FaceKind { none, slits, window, whole_face };
enum class OvalKind { head, ellipse, squarish };

/// A brim round the lowest ring.
struct Brim {
  double front_mm = 0.0, side_mm = 0.0, back_mm = 0.0;  ///< width; all 0: no brim
  double droop_deg = 0.0;                               ///< below level
  double curl_mm = 0.0;                                 ///< sides rolled up by
  bool halves = false;                                  ///< cut at the front too
  bool any() const { return front_mm > 0.0 || side_mm > 0.0 || back_mm > 0.0; }
  bool operator==(const Brim&) const = default;
};

/// A stack of ovals with bands between them: hats, helms, domes, drums.
struct RingsSpec {
  double ease_mm = 8.0;   ///< hair and padding
  double tilt_deg = 0.0;  ///< of the whole stack, back (+) or forward
  OvalKind oval = OvalKind::head;
  std::vector<Ring> rings;  ///< from below, two to eight
  std::vector<Band> bands;  ///< one less
  CapKind cap = CapKind::none;
  double cap_mm = 0.0;  ///< height of a domed or pointed cap
  Brim brim;
  double peak_mm = 0.0, peak_half_deg = 65.0, peak_droop_deg = 15.0;  ///< a peak over the brow alone
  int neck_rows = 0;                                                  ///< rows of plates hung round the neck
  double neck_row_mm = 45.0, neck_flare_deg = 18.0, neck_from_deg = 75.0;
  FaceKind face = FaceKind::none;
  double face_open_mm = 0.0;  ///< wider (+) or closer (-) all round than the wearer's own eyes or face
  int pieces_round = 1;       ///< 1: cut at the back; an even number: as many petals or staves
  double thickness_mm = 5.0;  ///< of the foam, so that rows of plates clear each other
  bool operator==(const RingsSpec&) const = default;
};
std::vector<Dial> dials_of(RingsSpec& spec);

/// The stack on this wearer. The surface is the inner face of the foam.
///
/// Shape:  straight bands join places whose tangents lie in one plane, so they are developable and unroll exactly, also
///         between ovals of different shape or lean (docs/formulas/rings.md).
/// Errors: out_of_range for a dial; degenerate_shape where rings do not rise, cross, or leave an oval no room, with the
///         place and the nearest value that works.
Result<Draft> draft_rings(const RingsSpec& spec, const Site& site);

/// The oval the wearer's head needs at a height: everything above it must pass through. Units: millimetres.
Oval oval_over(const Headform& head, double height_mm);

}  // namespace awl
