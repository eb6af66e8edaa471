#pragma once
#include "core/seam/cutter.hpp"
#include "core/seam/seam_mesh.hpp"

namespace awl {

/// A seam drawn on a form as with a marker. It is kept in the form's own frame (Draft::home), so that it rides along when
/// the form is changed or made for another wearer.
struct DrawnSeam {
  int id = 1;
  std::string name = "seam 1";
  std::vector<Vec3> points;   ///< markers, in home coordinates
  bool closed = false;
  bool inked = false;         ///< cuts; otherwise a pencil line that only shows
  bool mirrored = true;       ///< the same on the other side
  bool hidden = false, locked = false;
  bool operator==(const DrawnSeam&) const = default;
};

/// Errors: degenerate_shape below two markers (three when closed), out_of_range above 60 or for places that are no numbers.
Result<void> check_drawn(const DrawnSeam& seam);

/// Smooth line through markers, steps of at most `step_mm`: a centripetal Catmull-Rom spline, which makes no loops.
/// Source: yuksel2011.
std::vector<Vec3> smooth_through(const std::vector<Vec3>& points, bool closed, double step_mm);

/// Goes between a form as it stands on a wearer and its own frame. Ownership: copies what it needs.
class Places {
 public:
  /// `home` empty: the form is its own frame.
  Places(const Mesh& form, const std::vector<Vec3>& home);
  Vec3 on_form(const Vec3& home) const;
  Vec3 at_home(const Vec3& on_form) const;
  /// How far a place of the home frame lies out over the form's edge; 0 over the form.
  double beyond_edge(const Vec3& home) const;

 private:
  Mesh form_;
  std::vector<Vec3> home_;
  Nearest near_form_, near_home_;
  std::set<int> border_;
};

/// A drawn seam on the form as it stands: for showing, pointing at and dragging.
struct DrawnLine {
  DrawnSeam seam;
  std::vector<Vec3> markers, line;  ///< on the form's surface
  std::vector<Vec3> image;          ///< of a mirrored one, the line on the other side
};
std::vector<DrawnLine> lines_on(const Places& places, const std::vector<DrawnSeam>& seams);

/// Cuts the inked mirrored seams into a draft, on its half if it has one; then the pencil lines change nothing.
/// Errors: those of Cutter::draw, with "seams/ID" as the place.
Result<void> draw_on(Draft& draft, const std::vector<DrawnSeam>& seams);

/// Cuts the inked seams of one side only into a whole form; it is no mirror image any more.
Result<void> draw_one_sided(SeamMesh& form, const std::vector<DrawnSeam>& seams);

/// Seams that are there already as drawn ones, to be dragged: those of the wearer's left and of the middle.
std::vector<DrawnSeam> drawn_from(const SeamMesh& form, double off_mm = 1.2);

}  // namespace awl
