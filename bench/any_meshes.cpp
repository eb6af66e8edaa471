// How many panels meshes made elsewhere come to: noggin-awl-any-meshes FOLDER | FILE...
//
// Any mesh files will do; Debian's libcgal-demo carries some 140 (data.tar.gz, meshes/), which are fetched and not kept
// here: see docs/formulas/parting.md. Each is scaled to 280 mm, sheet 5 mm, tolerance 6 %, without slits. What is cut
// is laid flat once more on four times the triangles, and its outlines are drawn a millimetre wider: do they still
// clear themselves? Processor seconds are those of all cores together.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <ctime>
#include <filesystem>

#include "core/geom/mending/mend.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/polygon.hpp"
#include "core/seam/finer.hpp"
#include "core/seam/parting/parted_form.hpp"

namespace awl {
namespace {

constexpr double kSizeMm = 280.0;
constexpr double kSeenMm2 = 10.0;  // less is a curl at a corner that a knife does not follow

struct Tally {
  std::vector<int> panels;
  std::vector<double> small_s, large_s;  ///< of up to 6,000 triangles, and of more
  int within = 0, refused = 0, flips = 0, overlaps = 0, fine_flips = 0, fine_overlaps = 0, fine_large = 0, wide = 0;
};

std::vector<Vec2> outline_of(const Panel& panel) {
  std::vector<Vec2> outline;
  for (const BorderEdge& e : panel.border) outline.push_back(panel.flat[e.a]);
  return outline;
}

/// Whether an outline a millimetre wider meets itself: a gap it had is closed into a hole.
bool meets_itself_wider(const Panel& panel) {
  return !panel.overlaps && offset_polygon(outline_of(panel), 1.0).size() > 1;
}

/// How much of a panel lies over itself.
double overlap_mm2(const Panel& panel) {
  const std::vector<Vec2> outline = outline_of(panel);
  return signed_area_mm2(outline) - region_area_mm2(united({outline}));
}

double middle_of(std::vector<double> values) {
  if (values.empty()) return 0.0;
  std::sort(values.begin(), values.end());
  return values[values.size() / 2];
}

void cut_one(const std::filesystem::path& file, Tally& tally) {
  const std::string name = file.filename().string();
  const auto refuse = [&](const Error& e) {
    ++tally.refused;
    std::printf("%-28s refused: %s\n", name.c_str(), e.text.c_str());
  };
  const auto raw = read_mesh(file);
  if (!raw) return refuse(raw.error());
  const auto mended = mend(*raw);
  if (!mended) return refuse(mended.error());
  Mesh mesh = mended->mesh;
  const Box box = box_of(mesh.vertices);
  for (Vec3& p : mesh.vertices) p = kSizeMm / box.size().maxCoeff() * (p - 0.5 * (box.low + box.high));
  AnyMeshOptions options;
  options.slits = false;
  const std::clock_t began = std::clock();
  const auto began_wall = std::chrono::steady_clock::now();
  const auto made = part_any_mesh(mesh, options);
  if (!made) return refuse(made.error());
  const double seconds = static_cast<double>(std::clock() - began) / CLOCKS_PER_SEC,
               wall = std::chrono::duration<double>(std::chrono::steady_clock::now() - began_wall).count();
  PanelOptions flat;
  flat.thickness_mm = options.thickness_mm;
  flat.least_mm2 = 0.0;
  const auto set = make_panels(made->form, flat);
  if (!set) return refuse(set.error());
  double worst = 0.0;
  int flips = 0, overlaps = 0, wide = 0, fine_flips = 0, fine_overlaps = 0, fine_large = 0;
  for (const Panel& p : set->panels) {
    worst = std::max(worst, p.strain.p99);
    flips += p.flipped;
    overlaps += p.overlaps ? 1 : 0;
    wide += meets_itself_wider(p) ? 1 : 0;
  }
  const auto fine = make_panels(finer(*set).form, flat);
  if (!fine) return refuse(fine.error());
  for (const Panel& p : fine->panels) {
    fine_flips += p.flipped;
    fine_overlaps += p.overlaps ? 1 : 0;
    fine_large += p.overlaps && overlap_mm2(p) > kSeenMm2 ? 1 : 0;
  }
  tally.panels.push_back(static_cast<int>(set->panels.size()));
  tally.within += worst <= 1.1 * options.tolerance ? 1 : 0;
  tally.flips += flips;
  tally.overlaps += overlaps;
  tally.fine_flips += fine_flips, tally.fine_overlaps += fine_overlaps, tally.fine_large += fine_large,
      tally.wide += wide;
  (raw->triangles.size() <= 6000 ? tally.small_s : tally.large_s).push_back(wall);
  std::printf(
      "%-28s raw %6zu panels %3zu p99 %.4f flips %d overlaps %d finer %d %d (%d) wider %d seam %.2f m told %zu "
      "cpu %.1f s, %.1f s%s\n",
      name.c_str(), raw->triangles.size(), set->panels.size(), worst, flips, overlaps, fine_flips, fine_overlaps,
      fine_large, wide, set->seam_total_mm() / 1000.0, made->said.size(), seconds, wall,
      made->form.twin_of.empty() ? "" : " mirrored");
  std::fflush(stdout);
}

}  // namespace
}  // namespace awl

int main(int argc, char** argv) {
  std::vector<std::filesystem::path> files;
  for (int i = 1; i < argc; ++i) {
    if (!std::filesystem::is_directory(argv[i])) {
      files.emplace_back(argv[i]);
      continue;
    }
    for (const auto& entry : std::filesystem::directory_iterator(argv[i])) files.push_back(entry.path());
  }
  std::sort(files.begin(), files.end());
  awl::Tally tally;
  for (const auto& file : files) awl::cut_one(file, tally);
  std::sort(tally.panels.begin(), tally.panels.end());
  if (!tally.panels.empty())
    std::printf("%zu cut, %d within 1.1 of the tolerance, median %d panels, %d flips, %d overlaps, %d refused\n",
        tally.panels.size(), tally.within, tally.panels[tally.panels.size() / 2], tally.flips, tally.overlaps,
        tally.refused);
  std::printf(
      "on four times the triangles %d flips, %d overlaps (%d of over 10 mm2); a millimetre wider %d meet themselves; "
      "seconds: up to 6,000 triangles median %.1f, more %.1f\n",
      tally.fine_flips, tally.fine_overlaps, tally.fine_large, tally.wide, awl::middle_of(tally.small_s),
      awl::middle_of(tally.large_s));
  return 0;
}
