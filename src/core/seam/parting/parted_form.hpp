#pragma once
#include "core/geom/nearest.hpp"
#include "core/seam/parting/parting.hpp"
#include "core/seam/seam_mesh.hpp"

namespace awl {

/// A cut of a parted surface, from corner to corner of panels, or round.
struct PartedLine {
  std::vector<Vec3> points;
  bool closed = false;
  bool in_plane = false;  ///< of a half: lies in x = 0
};
std::vector<PartedLine> lines_of(const parting::Patchwork& work);

/// The middle of the sheet that lies on a surface, so far outwards. `mirrored`: what lies in x = 0 stays there.
Mesh sheet_middle(const Mesh& surface, double off_mm, bool mirrored);

/// A surface and the middle of the sheet that lies on it: what is parted, since it is what is laid flat.
class SheetMiddle {
 public:
  /// As of sheet_middle.
  SheetMiddle(Mesh surface, double off_mm, bool mirrored);
  const Mesh& middle() const { return middle_; }
  const Mesh& surface() const { return surface_; }
  /// Places of the middle brought back to the surface.
  std::vector<Vec3> on_surface(const std::vector<Vec3>& places) const;
  /// A patchwork of the middle, settled on the middle of the surface its vertices lie on by now, and brought there.
  /// Errors: cancelled.
  Result<parting::Patchwork> laid_on(
      parting::Patchwork work, const parting::PartingOptions& options, const Progress& progress = {}) const;

 private:
  double off_mm_;
  Mesh surface_, middle_;
  Nearest near_;
  bool mirrored_;
};

/// A parted surface as a draft with seams; of a half the half.
Draft draft_of_patchwork(const parting::Patchwork& work);
/// The same as a whole form.
SeamMesh seams_of(const parting::Patchwork& work);

struct AnyMeshOptions {
  double tolerance = 0.06;
  double thickness_mm = 5.0;  ///< of the sheet: what is finer is rounded off
  bool outside = false;       ///< the mesh is the sheet's outer face, else its inner one
  bool slits = true;
  bool mirror = true;  ///< looked for; where there is a plane both sides are cut alike
};

/// How it is parted before panels are joined to their neighbours, which makes them give a little more.
parting::PartingOptions parting_options(const AnyMeshOptions& options);

/// Panels that give too much once they are joined to their neighbours, with sides as long as each other, are opened;
/// counted rounds. `work` lies on the surface. Errors: cancelled.
Result<void> open_where_joined(parting::Patchwork& work, const AnyMeshOptions& options, const Progress& progress = {});

/// Smooths the cuts on the surface as a hand would draw them, once all else is settled: less and less where panels
/// would then give more than they may. `work` lies on the sheet's surface; `worst`: what its panels give so far.
void fair_cuts(parting::Patchwork& work, const SheetMiddle& sheet, const AnyMeshOptions& options, double worst);

/// Any mended mesh brought down to what foam can show, and cut into few panels.
struct AnyMesh {
  SeamMesh form;
  double worst = 0.0;             ///< p99 strain of the worst panel, as it was parted
  bool turned = false;            ///< its mirror plane was laid into x = 0
  std::vector<std::string> said;  ///< what was done, and what foam cannot show, in sentences
};

/// Contract: mended. Errors: degenerate_shape; cancelled; no_solution. Source: docs/formulas/parting.md.
/// Cost: 4 to 15 s.
Result<AnyMesh> part_any_mesh(const Mesh& mesh, const AnyMeshOptions& options, const Progress& progress = {});

}  // namespace awl
