#include "core/seam/parting/parted_form.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/form/foam_shape.hpp"
#include "core/geom/mending/even.hpp"
#include "core/geom/mirror_plane.hpp"
#include "core/geom/offset.hpp"
#include "core/seam/panels.hpp"
#include "core/seam/parting/opening.hpp"
#include "core/seam/parting/straighten.hpp"

namespace awl {
namespace {

using parting::Patchwork;

// Workshop values.
constexpr double kMirrorShare = 0.006, kMirrorThickness = 0.15;  // of the size; of the sheet
constexpr double kTooSmallMm2 = 400.0;
constexpr int kTriangles = 4000;
constexpr int kNeedleRounds = 4;
constexpr double kBesideMirrorMm = 0.01;  // what is in the mirror line only is its own image
constexpr double kNeedleDeg = 3.0;
constexpr int kJoinedRounds = 8;
constexpr int kFairRounds = 5, kFairAttempts = 3;
constexpr int kFewEnough = 12;  // mirrored panels: without the mirror it is not tried then
constexpr double kJoinedOver = 1.08, kOpenedTo = 0.8, kAloneShare = 0.97, kFairedMay = 1.02;  // of the tolerance

/// The x >= 0 half, evened, its border in x = 0; empty if the plane does not cut it cleanly.
Mesh half_of(const Mesh& whole) {
  Draft draft;
  draft.mesh = whole;
  // A sheet that lies in the plane belongs to neither half.
  constexpr double kBesidePlaneMm = 0.5;
  for (const Tri& t : whole.triangles)
    if (std::all_of(t.begin(), t.end(), [&](int v) { return std::abs(whole.vertices[v].x()) < kBesidePlaneMm; }))
      return {};
  trim(draft, [](const Vec3& p) { return p.x(); });
  drop_unused(draft);
  constexpr double kInPlaneMm = 1e-6;

  for (Vec3& p : draft.mesh.vertices)
    if (std::abs(p.x()) < kInPlaneMm) p.x() = 0.0;
  const auto even = evened_to(draft.mesh, kTriangles / 2, true);
  if (!even) return {};
  Draft half;
  half.mesh = *even;
  for (const Vec3& p : half.mesh.vertices)
    if (p.x() < -0.5) return {};
  for (Vec3& p : half.mesh.vertices) p.x() = std::max(p.x(), 0.0);
  // A triangle all in the plane is its own image: with it the whole would have that place twice.
  std::erase_if(half.mesh.triangles, [&](const Tri& t) {
    return std::all_of(t.begin(), t.end(), [&](int v) { return half.mesh.vertices[v].x() == 0.0; });
  });
  drop_unused(half);
  return mirror_line(half.mesh).empty() ? Mesh{} : half.mesh;
}

double cost_of(const Patchwork& work, double tolerance) {
  const double over = std::max(0.0, parting::worst_of(work) / tolerance - 1.1);
  // Of two alike one is drawn and turned over: half the work of thinking, if not of cutting.
  const double panels = work.is_half() ? 0.75 * work.panels() : work.panels();
  return panels + work.seam_mm() / std::sqrt(std::max(1.0, work.whole_area())) + 20.0 * over;
}

double middle_off_mm(const AnyMeshOptions& options) { return (options.outside ? -0.5 : 0.5) * options.thickness_mm; }

/// Panels of a patchwork on the sheet's surface, joined to their neighbours with sides as long as each other.
Result<PanelSet> joined_panels(const Patchwork& work, const AnyMeshOptions& options) {
  PanelOptions flat;
  flat.thickness_mm = options.thickness_mm;
  flat.form_is_outside = options.outside;
  flat.least_mm2 = 0.0;
  return make_panels(seams_of(work), flat);
}

double strain_told(const Panel& p) { return p.overlaps || p.flipped > 0 ? 1.0 : p.strain.p99; }

/// What panels give beyond the tolerance, in all: each by how far, an octave more counting half as much as one more.
double beyond(const PanelSet& set, double tolerance) {
  double sum = 0.0;
  for (const Panel& p : set.panels)
    if (const double times = strain_told(p) / tolerance; times > kJoinedOver) sum += 1.0 + 0.5 * std::log2(times);
  return sum;
}

/// Where a panel lies over itself, of the edges that cross those with the shortest way between them; the corner is the
/// deepest on that way. Nothing if none cross.
std::optional<parting::Lap> lap_of(const Panel& panel) {
  const std::size_t n = panel.border.size();
  const auto at = [&](std::size_t i) -> const Vec2& { return panel.flat[panel.border[i % n].a]; };
  std::size_t first = 0, fewest = n;
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t k = 2; k < fewest && k + 1 < n; ++k)
      if (edges_cross(at(i), at(i + 1), at(i + k), at(i + k + 1))) first = i, fewest = k;
  if (fewest == n) return {};
  std::size_t deepest = first + 1;
  double most = -1e300;  // turned to the right: into the panel
  for (std::size_t i = first + 1; i <= first + fewest; ++i) {
    const Vec2 in = at(i) - at(i + n - 1), out = at(i + 1) - at(i);
    const double right = -std::atan2(in.x() * out.y() - in.y() * out.x(), in.dot(out));
    if (right > most) most = right, deepest = i;
  }
  const auto face_at = [&](const BorderEdge& e) {
    for (std::size_t t = 0; t < panel.solid.triangles.size(); ++t) {
      const Tri& tri = panel.solid.triangles[t];
      if (std::count(tri.begin(), tri.end(), e.a) + std::count(tri.begin(), tri.end(), e.b) == 2) return panel.faces[t];
    }
    return -1;
  };
  return parting::Lap{panel.vertex_of[panel.border[deepest % n].a], face_at(panel.border[first]),
      face_at(panel.border[(first + fewest) % n])};
}

/// Joined to their neighbours panels give more than alone: those that then give too much are opened. Answers whether
/// any was.
bool open_joined(Patchwork& work, const PanelSet& set, const Mesh& middle, const AnyMeshOptions& options) {
  std::map<int, double> strain;
  std::map<int, parting::Lap> laps;
  for (const Panel& p : set.panels) {
    const auto lap = p.overlaps ? lap_of(p) : std::nullopt;
    for (const int f : p.faces)
      if (f < static_cast<int>(work.patch_of.size())) {
        const int patch = work.patch_of[static_cast<std::size_t>(f)];
        double& worst = strain[patch];
        worst = std::max(worst, strain_told(p));
        if (lap) laps[patch] = *lap;
      }
  }
  const auto places = work.mesh.vertices;
  work.mesh.vertices = middle.vertices;
  const auto lap_at = [&](int id) {
    const auto at = laps.find(id);
    return at != laps.end() ? std::optional(at->second) : std::nullopt;
  };
  bool any = false;
  const std::vector<char> cut = work.cut;
  for (const auto& [id, worst] : strain)
    if (worst > kJoinedOver * options.tolerance)
      any = !parting::open_hot(work, id, kOpenedTo * options.tolerance, options.slits, lap_at(id)).empty() || any;
  if (any) {
    for (std::size_t e = 0; e < cut.size(); ++e)
      if (work.cut[e] != cut[e]) work.stays_cut.insert(static_cast<int>(e));
    parting::PartingOptions parting;
    parting.tolerance = options.tolerance;
    if (auto dealt = parting::without_crumbs(work, parting)) work = std::move(*dealt);
  }
  work.mesh.vertices = places;
  return any;
}

void tell_small(const Patchwork& work, std::vector<std::string>& said) {
  int small = 0;
  Vec3 at = Vec3::Zero();
  for (const auto& [id, p] : work.patches)
    if ((p.sewn ? 2.0 : 1.0) * p.area_mm2 < kTooSmallMm2) {
      const Tri& t = work.mesh.triangles[static_cast<std::size_t>(p.faces.front())];
      if (small++ == 0) at = work.mesh.vertices[static_cast<std::size_t>(t[0])];
    }
  if (small == 0) return;
  said.push_back((small == 1 ? "One panel is" : std::to_string(small) + " panels are") +
      " smaller than 4 cm\u00b2, too small for foam of this sheet; the first lies at (" + fixed(at.x(), 0) + ", " +
      fixed(at.y(), 0) + ", " + fixed(at.z(), 0) + "). Carve it of a solid piece.");
}

}  // namespace

Mesh sheet_middle(const Mesh& surface, double off_mm, bool mirrored) {
  if (off_mm == 0.0) return surface;
  Mesh middle = sheet_offset(surface, std::vector<double>(surface.vertices.size(), off_mm));
  for (std::size_t v = 0; mirrored && v < middle.vertices.size(); ++v) {
    double& x = middle.vertices[v].x();
    x = surface.vertices[v].x() == 0.0 ? 0.0 : std::max(x, kBesideMirrorMm);
  }
  return middle;
}

SheetMiddle::SheetMiddle(Mesh surface, double off_mm, bool mirrored)
    : off_mm_(off_mm), surface_(std::move(surface)), middle_(sheet_middle(surface_, off_mm, mirrored)), near_(middle_),
      mirrored_(mirrored) {}

Result<Patchwork> SheetMiddle::laid_on(
    Patchwork work, const parting::PartingOptions& options, const Progress& progress) const {
  Mesh surface{on_surface(work.mesh.vertices), work.mesh.triangles};
  Mesh middle = sheet_middle(surface, off_mm_, mirrored_);
  // Where sliding left a needle, its corners go back to where they came from.
  for (int round = 0; round < kNeedleRounds; ++round) {
    bool any = false;
    for (const Tri& t : middle.triangles) {
      if (smallest_angle_deg({{middle.vertices[t[0]], middle.vertices[t[1]], middle.vertices[t[2]]}, {{0, 1, 2}}}) >
          kNeedleDeg)
        continue;
      for (const int v : t) {
        any = any || surface.vertices[v] != surface_.vertices[v];
        surface.vertices[v] = surface_.vertices[v];
      }
    }
    if (!any) break;
    middle = sheet_middle(surface, off_mm_, mirrored_);
  }
  work.mesh.vertices = std::move(middle.vertices);
  auto done = parting::settled(std::move(work), options, progress);
  if (done) done->mesh.vertices = std::move(surface.vertices);
  return done;
}

std::vector<Vec3> SheetMiddle::on_surface(const std::vector<Vec3>& places) const {
  std::vector<Vec3> back;
  back.reserve(places.size());
  for (const Vec3& p : places) {
    back.push_back(value_at(near_.to(p), middle_, surface_.vertices));
    if (mirrored_ && p.x() == 0.0) back.back().x() = 0.0;
  }
  return back;
}

std::vector<PartedLine> lines_of(const Patchwork& work) {
  const auto wanted = [&](std::size_t e) { return work.cut[e] && !work.is_free_border(static_cast<int>(e)); };
  std::map<int, std::vector<int>> round;  // vertex to its cut edges
  std::set<int> ends;
  for (std::size_t e = 0; e < work.topo.edges.size(); ++e) {
    const auto& edge = work.topo.edges[e];
    for (const int v : {edge.a, edge.b}) {
      if (wanted(e)) round[v].push_back(static_cast<int>(e));
      if (work.is_free_border(static_cast<int>(e))) ends.insert(v);
    }
  }
  const auto is_end = [&](int v) {
    const auto& edges = round.at(v);
    return edges.size() != 2 || ends.count(v) != 0 ||
        work.mirror[static_cast<std::size_t>(edges[0])] != work.mirror[static_cast<std::size_t>(edges[1])];
  };
  std::set<int> used;
  std::vector<PartedLine> lines;
  const auto follow = [&](int from, int first) {
    PartedLine line;
    line.in_plane = work.mirror[static_cast<std::size_t>(first)] != 0;
    line.points.push_back(work.mesh.vertices[static_cast<std::size_t>(from)]);
    int v = from, e = first;
    while (used.insert(e).second) {
      const auto& edge = work.topo.edges[static_cast<std::size_t>(e)];
      v = edge.a == v ? edge.b : edge.a;
      line.points.push_back(work.mesh.vertices[static_cast<std::size_t>(v)]);
      if (v == from || is_end(v)) break;
      const auto& on = round.at(v);
      e = on[0] == e ? on[1] : on[0];
    }
    line.closed = v == from && line.points.size() > 3;
    if (line.closed) line.points.pop_back();
    lines.push_back(std::move(line));
  };
  for (const bool rings : {false, true})
    for (const auto& [v, edges] : round)
      if (rings || is_end(v))
        for (const int e : edges)
          if (used.count(e) == 0) follow(v, e);
  return lines;
}

Draft draft_of_patchwork(const Patchwork& work) {
  Draft draft;
  draft.mesh = work.mesh;
  draft.mirrored = work.is_half();
  std::map<std::pair<int, int>, int> name_of;  // patches on both sides to a seam
  for (std::size_t e = 0; e < work.topo.edges.size(); ++e) {
    const auto& edge = work.topo.edges[e];
    if (!work.cut[e] || work.is_free_border(static_cast<int>(e))) continue;
    const int left = work.patch_of[static_cast<std::size_t>(edge.left)];
    const int right = edge.right >= 0 ? work.patch_of[static_cast<std::size_t>(edge.right)] : left;
    const auto [at, fresh] = name_of.try_emplace(edge_of(left, right), 0);
    if (fresh)
      at->second = draft.seam(left == right && edge.right >= 0 ? "dart " + std::to_string(name_of.size())
                                                               : "seam " + std::to_string(name_of.size()));
    draft.seams[edge_of(edge.a, edge.b)] = at->second;
  }
  return draft;
}

SeamMesh seams_of(const Patchwork& work) { return seams_of(draft_of_patchwork(work)); }

parting::PartingOptions parting_options(const AnyMeshOptions& options) {
  parting::PartingOptions parting;
  parting.tolerance = kAloneShare * options.tolerance;
  parting.slits = options.slits;
  return parting;
}

Result<void> open_where_joined(Patchwork& work, const AnyMeshOptions& options, const Progress& progress) {
  const Mesh middle = sheet_middle(work.mesh, middle_off_mm(options), work.is_half());
  auto set = joined_panels(work, options);
  if (!set) return {};
  Patchwork best = work;
  double least = beyond(*set, options.tolerance);
  for (int round = 0; round < kJoinedRounds; ++round) {
    if (!progress.keep_going(static_cast<double>(round) / kJoinedRounds)) return fail(Errc::cancelled, "Stopped.");
    if (!open_joined(work, *set, middle, options)) break;
    set = joined_panels(work, options);
    if (!set) break;  // a cut that leaves a ring
    if (const double now = beyond(*set, options.tolerance); now <= least) least = now, best = work;
  }
  work = std::move(best);
  return {};
}

void fair_cuts(Patchwork& work, const SheetMiddle& sheet, const AnyMeshOptions& options, double worst) {
  // What is over already may stay so, and get no worse.
  std::map<int, double> may;
  if (worst > options.tolerance) {
    const auto as_it_is = joined_panels(work, options);
    if (!as_it_is) return;
    for (const Panel& p : as_it_is->panels) may[p.faces.front()] = kFairedMay * strain_told(p);
  }
  const Nearest surface(sheet.surface());
  std::vector<int> rounds(work.mesh.triangles.size(), kFairRounds);  // by triangle, alike in a panel
  for (int attempt = 0; attempt < kFairAttempts; ++attempt) {
    Patchwork faired = work;
    for (int round = 1; round <= kFairRounds; ++round) {
      std::set<int> among;
      for (const auto& [id, patch] : faired.patches)
        if (rounds[static_cast<std::size_t>(patch.faces.front())] >= round) among.insert(id);
      if (!among.empty()) parting::slide(faired, surface, among, 1);
    }
    const auto set = joined_panels(faired, options);
    if (!set) return;
    bool over = false;
    for (const Panel& p : set->panels) {
      const auto was = may.find(p.faces.front());
      if (strain_told(p) <= std::max(kFairedMay * options.tolerance, was != may.end() ? was->second : 0.0)) continue;
      over = true;
      for (const int f : p.faces)
        if (f < static_cast<int>(rounds.size())) rounds[static_cast<std::size_t>(f)] /= 4;
    }
    if (over) continue;
    // Only places were moved: patches keep what was measured of them.
    work.mesh.vertices = std::move(faired.mesh.vertices);
    return;
  }
}

Result<AnyMesh> part_any_mesh(const Mesh& mesh, const AnyMeshOptions& options, const Progress& progress) {
  FoamShapeOptions shaping;
  shaping.thickness_mm = options.thickness_mm;
  shaping.triangles = kTriangles;
  auto shape = foam_shape(mesh, shaping, progress.span(0.0, 0.1));
  if (!shape) return fail(shape);
  AnyMesh made;
  made.said = shape->words();
  const double size = box_of(shape->mesh.vertices).size().maxCoeff();
  std::vector<std::pair<Mesh, bool>> ways{{shape->mesh, false}};
  if (options.mirror) {
    const double within = std::max(kMirrorShare * size, kMirrorThickness * options.thickness_mm);
    if (const auto plane = mirror_plane_of(shape->mesh, within)) {
      const bool upright = std::abs(plane->normal.x()) > 1.0 - 1e-6 && std::abs(plane->d) < 0.5;
      const Mesh turned = upright ? shape->mesh : with_plane_upright(shape->mesh, *plane);
      if (Mesh half = half_of(turned); !half.triangles.empty()) {
        ways.insert(ways.begin(), {std::move(half), true});
        made.turned = !upright;
      }
    }
  }
  // The mirrored way where it costs nothing: both sides alike are cut from one template turned over.
  const double off_mm = middle_off_mm(options);
  std::optional<Patchwork> best;
  double least = 0.0;
  for (std::size_t k = 0; k < ways.size(); ++k) {
    if (best && parting::worst_of(*best) <= 1.1 * options.tolerance && best->panels() <= kFewEnough) break;
    const parting::PartingOptions parting = parting_options(options);
    const double each = 0.85 / static_cast<double>(ways.size()), from = 0.1 + each * static_cast<double>(k);
    const SheetMiddle sheet(ways[k].first, off_mm, ways[k].second);
    auto work =
        parting::part_surface(sheet.middle(), ways[k].second, {}, parting, progress.span(from, from + 0.8 * each));
    if (!work) return fail(work);
    work = sheet.laid_on(std::move(*work), parting, progress.span(from + 0.8 * each, from + each));
    if (!work) return fail(work);
    const double cost = cost_of(*work, options.tolerance);
    if (!best || cost < least) best = std::move(*work), least = cost;
  }
  if (!best->is_half()) made.turned = false;
  if (made.turned) made.said.push_back("It is its own mirror image, and was turned so that its middle lies in x = 0.");
  if (auto opened = open_where_joined(*best, options, progress.span(0.95, 1.0)); !opened) return fail(opened);
  made.worst = parting::worst_of(*best);
  fair_cuts(*best, SheetMiddle(ways[best->is_half() ? 0 : ways.size() - 1].first, off_mm, best->is_half()), options,
      made.worst);
  tell_small(*best, made.said);
  made.form = seams_of(*best);
  return made;
}

}  // namespace awl
