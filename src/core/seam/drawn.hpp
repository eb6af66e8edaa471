#pragma once
#include <optional>

#include "core/seam/cutter.hpp"
#include "core/seam/seam_mesh.hpp"

namespace awl {

/// What a drawn line is for.
enum class LineRole {
  cut,     ///< a seam: cuts once it is inked
  hides,   ///< a strip of the form where seams do not show: under a crest, behind an ear disc, under a trim
  shows,   ///< a strip that is seen first: no seam, no dart
  colours  ///< two colours meet along it; nothing is cut
};
const char* name_of(LineRole role);  ///< "cut", "hides", "shows", "colours"
Result<LineRole> line_role_from(const std::string& name);

/// A seam drawn on a form as with a marker. It is kept in the form's own frame (Draft::home), so that it rides along
/// when the form is changed or made for another wearer.
struct DrawnSeam {
  int id = 1;
  std::string name = "seam 1";
  std::vector<Vec3> points;  ///< markers, in home coordinates
  bool closed = false;
  bool inked = false;    ///< cuts; otherwise a pencil line that only shows
  bool mirrored = true;  ///< the same on the other side
  bool hidden = false, locked = false;
  LineRole role = LineRole::cut;
  double reach_mm = 25.0;  ///< of a strip: to each side of its line
  bool is_strip() const { return role == LineRole::hides || role == LineRole::shows; }
  bool cuts() const { return role == LineRole::cut && inked; }
  bool operator==(const DrawnSeam&) const = default;
};

/// Errors: degenerate_shape below two markers (three when closed), out_of_range above 60, for places that are no
/// numbers, or
///         for a strip narrower than 2 mm or wider than 150 mm to a side.
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

/// Which strips of a form hide a seam, and which must be kept clear of one. Ownership: copies what it needs.
class Strips {
 public:
  /// `half`: the places are of a mirrored half; images lie beyond it.
  Strips(const Places& places, const std::vector<DrawnSeam>& lines, bool half = false);
  bool empty() const { return strips_.empty(); }
  bool hides(const Vec3& place) const { return within(place, LineRole::hides) > 0.0; }
  bool shows(const Vec3& place) const { return within(place, LineRole::shows) > 0.0; }
  /// How a seam's length counts at a place: less where it hides, more where it shows.
  double weight(const Vec3& place) const;
  /// Where a seam near a hiding strip would hide best: the closest place of its line, if it is within `reach` times its
  /// reach.
  std::optional<Vec3> hidden_place(const Vec3& place, double reach) const;

 private:
  struct Strip {
    LineRole role;
    double reach_mm;
    std::vector<Vec3> line;
  };
  double within(const Vec3& place, LineRole role) const;
  std::vector<Strip> strips_;
};

/// Cuts the inked mirrored seams into a draft, on its half if it has one; then the pencil lines change nothing.
/// Errors: those of Cutter::draw, with "seams/ID" as the place.
Result<void> draw_on(Draft& draft, const std::vector<DrawnSeam>& seams);

/// Cuts the inked seams of one side only into a whole form; it is no mirror image any more.
Result<void> draw_one_sided(SeamMesh& form, const std::vector<DrawnSeam>& seams);

/// Seams that are there already as drawn ones, to be dragged: those of the wearer's left and of the middle.
std::vector<DrawnSeam> drawn_from(const SeamMesh& form, double off_mm = 1.2);

}  // namespace awl
