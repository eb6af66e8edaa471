#pragma once
#include "core/geom/open_field.hpp"
#include "core/seam/meeting/meeting.hpp"

namespace awl {

/// The middle layer of a form's sheet, to be cut: of an exactly mirrored form its x >= 0 half. Its draft's homes are
/// the same places on the form itself.
class MiddleSheet {
 public:
  /// `halved`: of an exactly mirrored form only that half.
  explicit MiddleSheet(const MeetSide& side, bool halved = true);

  Draft draft;
  /// All of it, both sides.
  Mesh whole() const { return both(draft.mesh); }
  /// One face of the sheet, both sides.
  Mesh face(bool outer) const;

  /// Carries on every rim that runs towards the field's surface, along its own surface, until it is well below it.
  /// Answers how far above it the farthest of them was; one that was farther than `reach_mm` stays.
  double carry_on(const OpenField& field, double reach_mm);
  /// Cuts away where `f` < 0. Of what was carried on only that stays which hangs together with what there was before.
  void cut(const std::function<double(const Vec3&)>& f);

  /// Only connected parts of some size: crumbs of less than a share of the largest are left out.
  void drop_crumbs(double share);

  /// Stretches of the rim outside the mirror plane, the surface on their left; closed ones repeat no corner.
  std::vector<std::pair<std::vector<int>, bool>> rims() const;
  /// Whether a corner was made, or moved, by a cut.
  bool is_cut(int v) const {
    return before_.count({draft.mesh.vertices[v].x(), draft.mesh.vertices[v].y(), draft.mesh.vertices[v].z()}) == 0;
  }
  bool in_mirror(int v) const { return draft.mirrored && draft.mesh.vertices[v].x() == 0.0; }
  /// New corners on the rim from `a` to `b`, its neighbour there, in this order. Answers their numbers.
  std::vector<int> split_rim(int a, int b, const std::vector<Vec3>& at);
  /// Moves corners, and the form with them; what is drawn on it goes along.
  void move(const std::vector<Vec3>& by);
  /// Another sheet becomes one with this one: corners of its are the same as corners here, `seam` runs where they meet.
  /// Contract: both halved or neither, one thickness, `same` in the order of the seam.
  void take_in(const MiddleSheet& other, const std::map<int, int>& same, const std::string& seam);

  /// The form again, with its seams and their names, and the middle layer that was cut.
  SeamMesh form() const;

 private:
  /// From the form to the middle layer along the form's planes; 0 of one cut flat.
  double to_middle_mm() const;
  Mesh both(const Mesh& half) const;
  void add_skirt(const std::vector<int>& chain, bool closed, double long_mm);
  /// Makes what is known of the form known by the corners there are now.
  void settle();

  MeetSide side_;
  Mesh form_;  ///< the half form as it was, carried on
  std::vector<Vec3> home_;
  std::vector<Vec2> flat_;
  std::vector<int> sheet_;
  std::vector<int> image_;            ///< of each seam, the one on the other side
  using Key = std::array<double, 3>;  ///< a place, exactly
  std::set<Key> before_;
  std::map<std::pair<Key, Key>, double> tilts_;  ///< of rims cut before, by the places of their ends
};

/// A surface carried on by `mm` past its rims, along itself; small openings are closed.
Mesh carried_on(const Mesh& mesh, double mm);

}  // namespace awl
