#include "cli/mesh_input.hpp"

#include "cli/verb_help.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mending/mend.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/orient.hpp"

namespace awl {

std::vector<CutLine> read_cuts(const std::string& path) {
  if (path.empty()) return {};
  return read_json_file(path, "The cuts file", [](const JsonAt& j) {
    constexpr std::size_t kMostCuts = 500, kMostPlaces = 5000;
    std::vector<CutLine> cuts;
    for (const JsonAt& cut : j.at("cuts").all()) {
      if (cuts.size() >= kMostCuts)
        cut.refuse(Errc::too_large, "is one cut too many; " + std::to_string(kMostCuts) + " are the most");
      if (cut.size() > kMostPlaces)
        cut.refuse(Errc::too_large,
            "has " + std::to_string(cut.size()) + " places; " + std::to_string(kMostPlaces) + " are the most");
      CutLine line;
      for (const JsonAt& p : cut.all()) line.push_back(Vec3(p.at(0).number(), p.at(1).number(), p.at(2).number()));
      cuts.push_back(std::move(line));
    }
    return cuts;
  });
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
