#include "cli/mesh_input.hpp"

#include "cli/verb_help.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mending/mend.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/orient.hpp"
#include "core/io/small_files.hpp"

namespace awl {

std::vector<CutLine> read_cuts(const std::string& path) {
  if (path.empty()) return {};
  return need(cuts_from(need(read_file(path))));
}

Mesh sound_mesh(const VerbOptions& o, std::vector<std::string>& said) {
  constexpr int kMostTriangles = 150'000;
  constexpr double kLargestMm = 10'000.0;
  Oriented wound = need(oriented(need(read_mesh(o.input))));
  if (const double large = box_of(wound.mesh.vertices).size().maxCoeff(); large > kLargestMm)
    throw Failed{{Errc::out_of_range,
        "The mesh comes to " + fixed(large, 0) + " mm; up to " + fixed(kLargestMm, 0) +
            " mm can be cut. Is it in another unit?",
        o.input}};
  if (wound.turned > 0)
    said.push_back(std::to_string(wound.turned) + (wound.turned == 1 ? " triangle was" : " triangles were") +
        " wound the other way round than the rest, and turned.");
  if (wound.inside_out) said.push_back("The mesh was inside out, and was turned.");
  const auto count = wound.mesh.triangles.size();
  if (count <= kMostTriangles) return std::move(wound.mesh);
  Mesh coarse = need(simplified(wound.mesh, kFineEnough));
  said.push_back("The mesh was brought down from " + std::to_string(count) + " to " +
      std::to_string(coarse.triangles.size()) + " triangles: more are finer than foam can show.");
  return coarse;
}

}  // namespace awl
