#pragma once
#include "core/seam/panels.hpp"
#include "core/seam/shell_energy.hpp"

namespace awl {

/// A panel set as sheets joined along their seams: what ShellEnergy takes, its unknowns numbered from 0.
struct JoinedSheets {
  bool half = false;           ///< the left half of an exactly mirrored set stands for both
  std::vector<Vec3> meant;     ///< of the sheet's middle layer, per vertex of the set's form
  std::vector<int> vertex_of;  ///< unknown -> vertex of the form
  std::vector<int> number;     ///< vertex of the form -> unknown; -1 where no sheet is, or in the other half
  std::vector<int> middle;     ///< unknowns that stay in x = 0
  std::vector<ShellEnergy::Face> faces;
  std::vector<std::pair<int, int>> source;  ///< per face: panel, triangle of its own
  std::vector<ShellEnergy::Hinge> hinges;

  /// Places of the unknowns as they are meant.
  std::vector<Vec3> start() const;
  /// Per vertex of the form: where unknowns are, or their mirror images; elsewhere as meant.
  std::vector<Vec3> whole(const std::vector<Vec3>& places, const std::vector<int>& twin_of) const;
};

/// Within a panel a sheet rests flat but for the share of its bend it keeps; at a seam it rests as far turned as the
/// blade was tilted for. Contract: panels lie flat. Source: docs/formulas/glue-up.md.
JoinedSheets joined_sheets(const PanelSet& set, double keeps_bend);

/// Laid over what is meant without stretching, vertex for vertex, each by its area (umeyama1991).
void lay_over(std::vector<Vec3>& places, const std::vector<Vec3>& meant, const std::vector<double>& area);

/// A third of the area of the triangles round every vertex.
std::vector<double> vertex_areas(const Mesh& mesh);

}  // namespace awl
