#pragma once
#include "core/seam/drawn.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// A line of a part that details may follow, on the outer face of its foam.
struct SiteLine {
  std::string name;      ///< of a seam or feature; of a foot the guest's
  std::vector<Vec3> at;  ///< closed ones do not repeat their first place
  bool closed = false;
};

/// What stands on a part: the rim of a guest's base as far as it lies on this one.
struct SiteFoot {
  int guest = 0;
  std::string name;
  double wall_mm = 5.0;         ///< the guest's thickness
  bool pair = false;            ///< it has an image on the other side
  std::vector<SiteLine> lines;  ///< on the outer face, stretch by stretch
  double corner_rad = 1.5708;   ///< between this face, outside the foot, and the guest's wall, in the mean
};

/// One part made ready to be dressed: both faces of its sheet, its own frame, its lines. Ownership: copies what it
/// needs. Immutable.
class DressSite {
 public:
  struct Source {
    int part = 0;
    std::string name;
    const SeamMesh* form = nullptr;
    FormSpan span;
    std::vector<FeatureLine> features;
    bool sweep = false;  ///< its own frame runs along a spine
  };
  explicit DressSite(const Source& source);
  /// A mesh from elsewhere: its outer face, of no thickness, its own frame. `cuts`: its seams.
  static DressSite of_mesh(const SeamMesh& mesh);

  int part = 0;
  std::string name;
  double thickness_mm = 0.0;
  bool mirrored = false;
  Mesh outer, inner;
  std::vector<Vec3> normals;   ///< of the outer face, smooth, unit
  std::vector<Vec3> spine;     ///< of a sweep, from its base to its tip, of the wearer's left one; else empty
  std::vector<double> along;   ///< of a sweep, per vertex how far from its base by its own frame; else empty
  double edge_mm = 5.0;        ///< mean edge
  std::vector<SiteLine> rims;  ///< the lowest first, each begun at its front; the surface lies on the left
  std::vector<SiteLine> seams, features;
  std::vector<SiteFoot> feet;  ///< of parts that sit on it; put there by whoever knows them

  /// Straight onto the outer face.
  NearestHit hit(const Vec3& p) const { return near_.to(p); }
  Vec3 onto(const Vec3& p) const { return near_.to(p).point; }
  Vec3 normal_at(const NearestHit& hit) const { return value_at(hit, outer, normals).normalized(); }
  /// The same place on the inner face.
  Vec3 inside_of(const NearestHit& hit) const { return value_at(hit, outer, inner.vertices); }
  /// Between the outer face and the form's own frame.
  Vec3 at_home(const Vec3& on_outer) const;
  Vec3 from_home(const Vec3& home) const;

 private:
  Mesh form_;
  Nearest near_;
  std::shared_ptr<const Places> places_;
};

/// Edges of a seam in the order they are walked, as lines; closed where it closes.
std::vector<SiteLine> seam_lines(const SeamMesh& form, const Mesh& outer);

/// Length of a line, its closing stretch too.
double length_of(const std::vector<Vec3>& line, bool closed);

}  // namespace awl
