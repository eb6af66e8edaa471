#pragma once
#include <filesystem>
#include <memory>

#include "core/base/result.hpp"
#include "core/head/field.hpp"
#include "core/head/landmarks.hpp"
#include "core/head/modes.hpp"

namespace awl {

/// The shipped head before it is fitted: mesh, landmarks and how each place of it moves.
struct HeadTemplate {
  Mesh mesh;                                   ///< whole, exactly symmetric
  std::vector<int> twin_of;                    ///< vertex -> mirror image
  Riders riders;                               ///< the mesh's vertices
  Riders landmarks;                            ///< in the order of Landmark
  std::vector<double> off_skin_mm;             ///< per vertex: distance from the head without ears
  std::vector<std::array<int, 2>> edges;       ///< all edges of the mesh
  std::vector<std::array<int, 2>> skin_edges;  ///< those that are not on an ear
  /// Vertices among which extremes are looked for.
  struct Regions {
    std::vector<int> cranium, cheeks, crown, under_chin, back, midline_back;
  } regions;
  Field bare;  ///< the field without ears
};

/// Reads data/headform. Errors: cannot_read, bad_file.
Result<std::shared_ptr<const HeadTemplate>> load_head_template(const std::filesystem::path& folder);

}  // namespace awl
