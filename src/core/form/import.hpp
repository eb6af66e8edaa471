#pragma once
#include <memory>
#include <optional>

#include "core/form/seat.hpp"

namespace awl {

/// An imported mesh cut into panels along edges of its own, in the frame of the part (Draft::home): what a suggestion
/// for it came to. Of a mesh whose sides are made alike it is the x >= 0 half.
struct CutMesh {
  Mesh mesh;
  EdgeLabels seams;
  std::vector<std::string> seam_names;
  std::vector<double> cut_for;  ///< the import's `cut_facts` then; of others it does not stand
  bool operator==(const CutMesh&) const = default;
};

/// Which face of the foam a mesh made elsewhere is: outside, the shell lies within it; inside, round it.
enum class ImportFace { outside, middle, inside };

/// A mesh made elsewhere, brought to scale and put on the head.
struct ImportSpec {
  std::shared_ptr<const Mesh> mesh;  ///< mended, in the file's own units; shared between copies of a build
  std::string file;                  ///< its name, for the maker
  double to_mm = 1.0;                ///< millimetres in a unit of the file
  double scale = 1.0;                ///< beyond that
  double turn_deg = 0.0, tip_deg = 0.0, roll_deg = 0.0;  ///< about the upright, side and forward axes
  double aside_mm = 0.0, up_mm = 0.0, forward_mm = 0.0;  ///< where its middle goes, from the middle of the head
  double edge_mm = 0.0;                                  ///< 0: as it came; else evened to this edge length
  double foam_mm = 0.0;  ///< what is finer than this is rounded off and spikes are taken off; 0: as it came
  ImportFace face = ImportFace::outside;
  bool mirror = false;                   ///< the side at x < 0 is made the image of the other
  double cut_low = 0.0, cut_high = 1.0;  ///< shares of its height cut away below and above
  double cut_back = 0.0;                 ///< share of its depth cut away at the back
  int belts = 0;
  bool cut_middle = true, cut_across = false;
  std::shared_ptr<const CutMesh> cut;  ///< its panels, once a suggestion was taken; shared between copies of a build
  /// What a cut mesh cannot follow: how finely it is shown, what is cut away, and of one whose sides are alike the
  /// turns that would take its halves apart.
  std::vector<double> cut_facts() const;
  bool stands_cut() const { return cut && cut->cut_for == cut_facts(); }
  bool operator==(const ImportSpec& o) const;
};
std::vector<Dial> dials_of(ImportSpec& spec);

/// The mesh where it goes, and what is cut away gone. Seams are laid by planes afterwards.
/// Errors: empty_input without a mesh; degenerate_shape if the cuts leave nothing.
Result<Draft> draft_import(const ImportSpec& spec, const Site& site);

/// Which unit a mesh must be in to be worn on this head, by its size.
struct UnitGuess {
  double to_mm = 1.0;
  const char* name = "mm";
  double scale_to_fit = 1.0;  ///< with that unit, the further scale at which it would just go round the head
  std::string sentence;       ///< what was guessed and why
};
/// `up`: which way of its own is up.
UnitGuess guess_unit(const Mesh& mesh, const Headform& head, const Vec3& up = Vec3::UnitY());

/// Which way of a mesh made elsewhere is up, by its opening (a neck's is below it, a mask's behind) or by a flat foot.
struct UpGuess {
  Vec3 up = Vec3::UnitY();  ///< an axis of its own frame
  std::string sentence;     ///< why, where that is not its y; else empty
};
/// `mirror`: the normal of its mirror plane, where it has one; that way is not up.
UpGuess guess_up(const Mesh& mesh, const std::optional<Vec3>& mirror);
/// Stood up by the least turn so that this way of its own is up.
ImportSpec with_up(ImportSpec spec, const Vec3& up);

/// Turned by the least turn so that its mirror plane, of this normal in its own frame, stands upright along the head,
/// and both sides made alike.
ImportSpec with_sides_alike(ImportSpec spec, const Vec3& normal);

/// Turn, scale and place so that three places of the mesh come nearest to three places of the head (least squares).
/// Source: umeyama1991. Errors: degenerate_shape if the three places lie on a line.
Result<ImportSpec> matched(const ImportSpec& spec, const Site& site, const std::array<Vec3, 3>& on_mesh,
    const std::array<Vec3, 3>& on_head, bool keep_scale);

}  // namespace awl
