#include "core/geom/mending/mend.hpp"

#include <CGAL/Polygon_mesh_processing/connected_components.h>
#include <CGAL/Polygon_mesh_processing/orient_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/orientation.h>
#include <CGAL/Polygon_mesh_processing/polygon_soup_to_polygon_mesh.h>
#include <CGAL/Polygon_mesh_processing/repair.h>
#include <CGAL/Polygon_mesh_processing/repair_degeneracies.h>
#include <CGAL/Polygon_mesh_processing/repair_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/self_intersections.h>
#include <CGAL/Polygon_mesh_processing/stitch_borders.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/Bounded_normal_change_filter.h>
#include <CGAL/Surface_mesh_simplification/edge_collapse.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <unordered_map>

#include "core/geom/mending/cgal_mesh.hpp"
#include "core/geom/mending/thinned.hpp"

namespace awl {
namespace {

namespace PMP = CGAL::Polygon_mesh_processing;
namespace SMS = CGAL::Surface_mesh_simplification;
using Surface = CgalSurface;
using Point = CgalKernel::Point_3;

/// Far more triangles than wanted go in a hurry first: the good way takes 40 microseconds for each.
constexpr std::size_t kFarMore = 4;
constexpr int kHurryLeaves = 2;

struct CellHash {
  std::size_t operator()(const std::array<long long, 3>& cell) const {
    std::uint64_t h = 0;
    for (const long long x : cell) h = (h ^ static_cast<std::uint64_t>(x)) * 0x9e3779b97f4a7c15ull, h ^= h >> 29;
    return static_cast<std::size_t>(h);
  }
};

/// One sentence, with the count; nothing for none.
void say(std::vector<std::string>& to, long count, const std::string& one, const std::string& many) {
  if (count == 1)
    to.push_back("1 " + one + ".");
  else if (count > 1)
    to.push_back(std::to_string(count) + " " + many + ".");
}

/// Corners nearer than a millionth of the mesh's size are one: without this a noisy soup falls to pieces. Triangles
/// left with fewer than three go.
Mesh welded(const Mesh& raw) {
  const double cell = std::max(1e-6 * box_of(raw.vertices).size().norm(), 1e-12);
  std::unordered_map<std::array<long long, 3>, int, CellHash> known;
  known.reserve(raw.vertices.size());
  std::vector<int> of;
  of.reserve(raw.vertices.size());
  Mesh mesh;
  for (const Vec3& p : raw.vertices) {
    const std::array<long long, 3> key{
        std::llround(p.x() / cell), std::llround(p.y() / cell), std::llround(p.z() / cell)};
    const auto [it, fresh] = known.try_emplace(key, static_cast<int>(mesh.vertices.size()));
    if (fresh) mesh.vertices.push_back(p);
    of.push_back(it->second);
  }
  for (const Tri& t : raw.triangles) {
    const Tri now{of[t[0]], of[t[1]], of[t[2]]};
    if (now[0] != now[1] && now[1] != now[2] && now[2] != now[0]) mesh.triangles.push_back(now);
  }
  return mesh;
}

bool joins_edge_to_edge(const Mesh& mesh) {
  const Topology topo = topology_of(mesh);
  return std::none_of(topo.edges.begin(), topo.edges.end(), [](const auto& e) { return e.more > 0; });
}

Result<void> check_numbers(const Mesh& raw) {
  if (raw.triangles.empty()) return fail(Errc::empty_input, "There is no triangle in this mesh.");
  for (const Vec3& p : raw.vertices)
    if (!p.allFinite()) return fail(Errc::bad_file, "A corner of this mesh is no number.");
  for (const Tri& t : raw.triangles)
    for (const int v : t)
      if (v < 0 || v >= static_cast<int>(raw.vertices.size()))
        return fail(Errc::bad_file,
            "A triangle of this mesh names corner " + std::to_string(v) + " of " + std::to_string(raw.vertices.size()) +
                ".");
  return {};
}

/// Crumbs: parts with less than a thousandth of the whole area.
long drop_crumbs(Surface& surface) {
  auto part = surface.add_property_map<Surface::Face_index, std::size_t>("f:part").first;
  const std::size_t parts = PMP::connected_components(surface, part);
  std::vector<double> area(parts, 0.0);
  double all = 0.0;
  for (const auto f : surface.faces()) {
    const auto h = surface.halfedge(f);
    const double a = std::sqrt(CGAL::squared_area(surface.point(surface.source(h)), surface.point(surface.target(h)),
        surface.point(surface.target(surface.next(h)))));
    area[part[f]] += a, all += a;
  }
  std::vector<std::size_t> gone;
  for (std::size_t k = 0; k < parts; ++k)
    if (area[k] < 1e-3 * all) gone.push_back(k);
  if (!gone.empty()) PMP::remove_connected_components(surface, gone, part), surface.collect_garbage();
  surface.remove_property_map(part);
  return static_cast<long>(gone.size());
}

/// Parts wholly inside another's box with almost its shape: a wall drawn with both its faces.
bool has_double_walls(const Mesh& mesh) {
  const auto part = connected_parts(mesh, [](int, int) { return true; });
  const int count = part.empty() ? 0 : 1 + *std::max_element(part.begin(), part.end());
  std::vector<Box> box(static_cast<std::size_t>(count));
  for (std::size_t f = 0; f < part.size(); ++f)
    for (const int v : mesh.triangles[f]) box[part[f]].include(mesh.vertices[v]);
  for (int a = 0; a < count; ++a)
    for (int b = 0; b < count; ++b) {
      if (a == b) continue;
      const Vec3 in = box[a].low - box[b].low, out = box[b].high - box[a].high;
      if (in.minCoeff() > 0.0 && out.minCoeff() > 0.0 && box[a].size().norm() > 0.7 * box[b].size().norm()) return true;
    }
  return false;
}

}  // namespace

Mesh plain(const CgalSurface& surface) {
  Mesh mesh;
  std::vector<int> number(surface.num_vertices(), -1);  // with those removed
  for (const auto v : surface.vertices()) {
    number[v] = static_cast<int>(mesh.vertices.size());
    const CgalKernel::Point_3& p = surface.point(v);
    mesh.vertices.emplace_back(p.x(), p.y(), p.z());
  }
  for (const auto f : surface.faces()) {
    Tri t{};
    int k = 0;
    for (const auto v : CGAL::vertices_around_face(surface.halfedge(f), surface))
      if (k < 3) t[static_cast<std::size_t>(k++)] = number[v];
    mesh.triangles.push_back(t);
  }
  return mesh;
}

CgalSurface surface_of(const Mesh& mesh) {
  CgalSurface surface;
  std::vector<CgalSurface::Vertex_index> of;
  for (const Vec3& p : mesh.vertices) of.push_back(surface.add_vertex(CgalKernel::Point_3(p.x(), p.y(), p.z())));
  for (const Tri& t : mesh.triangles) surface.add_face(of[t[0]], of[t[1]], of[t[2]]);
  return surface;
}

namespace {

/// Stops at so many edges, or when the maker has had enough.
class CountOrCancel {
 public:
  CountOrCancel(std::size_t edges, const Progress& progress, bool& cancelled)
      : edges_(edges), progress_(progress), cancelled_(cancelled) {}

  template <class Cost, class Profile>
  bool operator()(const Cost&, const Profile&, std::size_t initial, std::size_t now) const {
    constexpr std::size_t kAskEvery = 2048;
    if (now % kAskEvery == 0 &&
        !progress_.keep_going(static_cast<double>(initial - now) / std::max<std::size_t>(1, initial - edges_)))
      cancelled_ = true;
    return cancelled_ || now < edges_;
  }

 private:
  std::size_t edges_;
  const Progress& progress_;
  bool& cancelled_;
};

tl::unexpected<Error> stopped() { return fail(Errc::cancelled, "Stopped; nothing was changed."); }

Result<void> bring_down(Surface& surface, int wanted, const Progress& progress) {
  double hurried = 0.0;
  if (surface.number_of_faces() > kFarMore * static_cast<std::size_t>(wanted)) {
    hurried = 0.5;
    const auto thin = thinned(plain(surface), kHurryLeaves * wanted, progress.span(0.0, hurried));
    if (!thin) return fail(thin);
    surface = surface_of(*thin);
  }
  bool cancelled = false;
  const Progress rest = progress.span(hurried, 1.0);
  // Nothing is turned over: what is would cut through what lies beside it.
  SMS::edge_collapse(surface, CountOrCancel(static_cast<std::size_t>(wanted) * 3 / 2, rest, cancelled),
      CGAL::parameters::filter(SMS::Bounded_normal_change_filter<>()));
  surface.collect_garbage();
  if (cancelled) return stopped();
  return {};
}

}  // namespace

Result<Mended> mend(const Mesh& raw, int most, const Progress& progress) {
  if (auto good = check_numbers(raw); !good) return fail(good);
  Mended mended;
  Mesh joined = welded(raw);
  say(mended.did, static_cast<long>(raw.vertices.size() - joined.vertices.size()),
      "corner was joined to another at the same place", "corners were joined to others at the same place");
  if (!progress.keep_going(0.05)) return stopped();
  const std::size_t came = joined.triangles.size(), shrunk = raw.triangles.size() - came;
  // Far too many go at once where that spoils nothing that is mended below.
  if (came > kFarMore * static_cast<std::size_t>(most) && joins_edge_to_edge(joined)) {
    auto thin = thinned(joined, kHurryLeaves * most, progress.span(0.05, 0.2));
    if (!thin) return fail(thin);
    joined = std::move(*thin);
  }
  std::vector<Point> points;
  std::vector<std::vector<std::size_t>> polygons;
  for (const Vec3& p : joined.vertices) points.emplace_back(p.x(), p.y(), p.z());
  for (const Tri& t : joined.triangles)
    polygons.push_back(
        {static_cast<std::size_t>(t[0]), static_cast<std::size_t>(t[1]), static_cast<std::size_t>(t[2])});
  const std::size_t before = polygons.size();
  PMP::repair_polygon_soup(points, polygons);
  say(mended.did, static_cast<long>(shrunk + before - polygons.size()),
      "triangle that was double or had no area was dropped", "triangles that were double or had no area were dropped");
  if (!progress.keep_going(0.22)) return stopped();
  const std::size_t corners = points.size();
  PMP::orient_polygon_soup(points, polygons);
  say(mended.did, static_cast<long>(points.size() - corners), "place where sheets met in more than one edge was parted",
      "places where sheets met in more than one edge were parted");
  if (polygons.empty() || !PMP::is_polygon_soup_a_polygon_mesh(polygons))
    return fail(
        Errc::degenerate_shape, "This mesh is no surface even after mending: its triangles do not join edge to edge.");
  if (!progress.keep_going(0.25)) return stopped();
  Surface surface;
  PMP::polygon_soup_to_polygon_mesh(points, polygons, surface);
  if (!progress.keep_going(0.3)) return stopped();
  if (surface.number_of_faces() > static_cast<std::size_t>(most)) {
    const auto was = std::max<std::size_t>(came, surface.number_of_faces());
    if (auto down = bring_down(surface, most, progress.span(0.3, 0.8)); !down) return fail(down);
    mended.did.push_back("It was brought down from " + std::to_string(was) + " to " +
        std::to_string(surface.number_of_faces()) + " triangles: more are finer than foam can show.");
  }
  if (!progress.keep_going(0.8)) return stopped();
  say(mended.did, static_cast<long>(PMP::stitch_borders(surface)), "open seam was stitched",
      "open seams were stitched");
  say(mended.did, static_cast<long>(PMP::duplicate_non_manifold_vertices(surface)),
      "corner shared by two sheets was doubled", "corners shared by two sheets were doubled");
  const auto faces = surface.number_of_faces();
  PMP::remove_degenerate_faces(surface);
  surface.collect_garbage();
  say(mended.did, static_cast<long>(faces) - static_cast<long>(surface.number_of_faces()), "sliver was removed",
      "slivers were removed");
  say(mended.did, drop_crumbs(surface), "loose crumb was dropped", "loose crumbs were dropped");
  if (surface.number_of_faces() == 0)
    return fail(Errc::degenerate_shape, "Nothing of this mesh is left after mending.");
  if (CGAL::is_closed(surface) && !PMP::is_outward_oriented(surface)) {
    PMP::reverse_face_orientations(surface);
    mended.did.push_back("It was inside out, and was turned.");
  }
  mended.crosses_itself = PMP::does_self_intersect(surface);
  if (mended.crosses_itself)
    mended.asks.push_back(
        "Its surface cuts through itself. It is left so, since cutting loses shape: try it at Mend, or mend it where "
        "it was made.");
  mended.mesh = plain(surface);
  mended.openings = static_cast<int>(border_loops(mended.mesh).size());
  if (mended.openings > 0)
    mended.asks.push_back(std::to_string(mended.openings) + (mended.openings == 1 ? " opening is" : " openings are") +
        " kept. Are all of them wanted: neck, eyes, face?");
  if (has_double_walls(mended.mesh))
    mended.asks.push_back(
        "It seems to have an inner and an outer wall. Foam wants one of them: keep the outer one at Mend.");
  return mended;
}

Result<Mesh> simplified(const Mesh& mesh, int wanted, const Progress& progress) {
  if (wanted < 50)
    return fail(
        Errc::out_of_range, std::to_string(wanted) + " triangles are too few to keep a shape; 50 is the least.");
  if (static_cast<int>(mesh.triangles.size()) <= wanted) return mesh;
  Surface surface = surface_of(mesh);
  if (surface.number_of_faces() == 0)
    return fail(Errc::degenerate_shape, "This mesh is no surface: its triangles do not join edge to edge.");
  if (auto down = bring_down(surface, wanted, progress); !down) return fail(down);
  return plain(surface);
}

}  // namespace awl
