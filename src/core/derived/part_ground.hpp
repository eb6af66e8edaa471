#pragma once
#include "core/derived/part_form.hpp"
#include "core/geom/nearest.hpp"
#include "core/seam/drawn.hpp"

namespace awl {

/// A place drawn near something is drawn to it.
struct Snap {
  Vec3 place = Vec3::Zero();
  std::string to;  ///< "the middle line", "beak ridge", "a seam", "the edge", a landmark; empty: it stays
};

/// One part's form made ready to be pointed at and drawn on: whatever a move of the mouse asks is found without
/// building a tree anew. Ownership: shares form and head. Immutable.
class PartGround {
 public:
  PartGround(std::shared_ptr<const PartForm> form, std::shared_ptr<const Headform> head);

  const PartForm& form() const { return *form_; }
  bool is_of(const PartForm* form, const Headform* head) const { return form_.get() == form && head_.get() == head; }
  const Places& places() const { return places_; }
  /// Straight onto the form.
  Vec3 onto(const Vec3& place) const { return near_.to(place).point; }
  /// From the form to where it is seen: the outside of its foam.
  Vec3 lifted(const Vec3& on_form) const { return value_at(near_.to(on_form), outer_, outer_.vertices); }
  /// A place of the form, drawn to what it is near to: the middle line, a seam, an edge, a line, a landmark.
  Snap snapped(const Vec3& place, double reach_mm = 6.0) const;

 private:
  std::shared_ptr<const PartForm> form_;
  std::shared_ptr<const Headform> head_;
  Nearest near_;
  Places places_;
  Mesh outer_;
  bool mirrored_;
  std::vector<std::pair<Vec3, Vec3>> edges_;             ///< of its border
  std::vector<std::pair<Vec3, const char*>> landmarks_;  ///< over the places of the head that are near
};

}  // namespace awl
