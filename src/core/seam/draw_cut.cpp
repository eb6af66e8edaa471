#include "core/seam/draw_cut.hpp"

namespace awl {
namespace {

constexpr double kReachMm = 3.0;  // what a hand misses a rim by

}  // namespace

Result<SeamMesh> draw_cuts(const Mesh& mesh, const std::vector<CutLine>& cuts) {
  for (const auto& e : topology_of(mesh).edges)
    if (e.more > 0)
      return fail(Errc::bad_file,
          "The mesh is no surface: one of its edges belongs to " + std::to_string(e.more + 2) + " triangles.");
  Draft draft;
  draft.mirrored = false, draft.mesh = mesh;
  Cutter cutter(std::move(draft));
  for (std::size_t i = 0; i < cuts.size(); ++i)
    if (auto drawn = cutter.draw(cuts[i], "cut " + std::to_string(i + 1), {kReachMm, false}); !drawn)
      return fail(drawn.error().code, "Cut " + std::to_string(i + 1) + ": " + drawn.error().text,
          "cuts/" + std::to_string(i + 1));
  const Draft cut = std::move(cutter).take();
  SeamMesh out;
  out.mesh = cut.mesh, out.seam_names = cut.seam_names;
  for (const auto& [edge, label] : cut.seams) out.seam_of[edge] = SeamId{label};
  return out;
}

}  // namespace awl
