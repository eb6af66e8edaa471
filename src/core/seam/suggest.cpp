#include "core/seam/suggest.hpp"

#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/mending/even.hpp"

#include "core/seam/parting/parted_form.hpp"

namespace awl {
namespace {

constexpr double kJoinShare = 0.8;        // joined only where both together stay this far below the tolerance
constexpr double kScreenToFinish = 0.62;  // what the finish makes of the strain of a rigid map, on gores and caps
constexpr double kLeastPanelMm2 = 1500.0;
constexpr int kSmoothing = 12;
constexpr double kDrawnUnder = 1.8;  // times the strip's reach
constexpr int kTries = 3, kPartingTries = 2;
constexpr std::size_t kGentleTriangles = 8000;
constexpr int kFewPanels = 8;  // of the whole: what the grouping makes of a gentle form
constexpr int kPartedTriangles = 4000;
constexpr double kPartedMarkerMm = 12.0;
constexpr int kMostPartedMarkers = 58;
constexpr double kNearlyMet = 1.02;
constexpr double kHopeless = 0.2;  // horns and tubes: their own strips are better

/// Groups faces of a surface so that each group lies flat.
class Grouping {
 public:
  Grouping(const Mesh& mesh, const Strips& strips, bool mirrored, const SuggestOptions& options)
      : mesh_(mesh), topo_(topology_of(mesh)), mirrored_(mirrored), keep_middle_(options.keep_middle) {
    for (const Tri& t : mesh.triangles) {
      const Vec3 n = area_vector(mesh, t);
      area_.push_back(0.5 * n.norm()), normal_.push_back(n.normalized());
      middle_.push_back((mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0);
    }
    for (const auto& e : topo_.edges)
      cost_.push_back((mesh.vertices[e.a] - mesh.vertices[e.b]).norm() *
          (strips.empty() ? 1.0 : strips.weight(0.5 * (mesh.vertices[e.a] + mesh.vertices[e.b]))));
    group_ = connected_parts(mesh, [](int, int) { return true; });
    count_ = group_.empty() ? 0 : *std::max_element(group_.begin(), group_.end()) + 1;
  }

  /// Parts groups until all lie within the tolerance, then joins what may be joined. False if cancelled.
  bool run(double tolerance, int most, const Progress& progress) {
    std::vector<double> strain;
    for (int round = 0; round < 4 * most; ++round) {
      if (!progress.keep_going(0.7 * round / (4.0 * most))) return false;
      measure(strain);
      int worst = -1;
      for (int g = 0; g < count_; ++g)
        if (whole_.count(g) == 0 && (worst < 0 || strain[g] > strain[worst])) worst = g;
      if (worst < 0 || strain[worst] <= tolerance || count_ >= most) break;
      if (!part(worst, false) && !part(worst, true)) {
        whole_.insert(worst);  // too small, or it falls back together: leave it
        continue;
      }
      strain[worst] = -1.0, strain.resize(count_, -1.0);
    }
    measure(strain);
    while (join(strain, kJoinShare * tolerance))
      if (!progress.keep_going(0.8)) return false;
    return true;
  }

  const std::vector<int>& groups() const { return group_; }

 private:
  std::vector<int> faces_of(int g) const {
    std::vector<int> faces;
    for (int f = 0; f < static_cast<int>(group_.size()); ++f)
      if (group_[f] == g) faces.push_back(f);
    return faces;
  }

  /// The group as it would be cut: with its mirror image where it lies across the middle.
  Mesh cut_out(const std::vector<int>& faces) const {
    std::vector<int> old;
    Mesh part = part_of(mesh_, faces, old);
    if (!mirrored_ || !keep_middle_) return part;
    const bool across = !mirror_line(part).empty();
    return across ? mirror_half(part).mesh : part;
  }

  /// Quick measure: a rigid map and what the finish would make of it. What is no disk cannot stay.
  double strain_of(const std::vector<int>& faces) const {
    const Mesh part = cut_out(faces);
    const auto loops = border_loops(part);
    if (loops.size() != 1) return 1.0;
    auto flattener = Flattener::of(part);
    if (!flattener) return 1.0;
    FlattenOptions quick;
    quick.rigid_rounds = 20, quick.minimax = false;
    if (!flattener->flatten(quick)) return 1.0;
    std::vector<Vec2> outline;
    for (const int v : loops[0]) outline.push_back(flattener->uv()[v]);
    if (crosses_itself(outline)) return 1.0;
    return kScreenToFinish * summarise(part, flattener->uv()).p99;
  }

  void measure(std::vector<double>& strain) const {
    strain.resize(count_, -1.0);
    std::vector<int> todo;
    for (int g = 0; g < count_; ++g)
      if (strain[g] < 0.0) todo.push_back(g);
    parallel_for(static_cast<int>(todo.size()), [&](int i) { strain[todo[i]] = strain_of(faces_of(todo[i])); });
  }

  /// Parts a group in two by the normals (two means along their widest spread), or only by where its faces lie.
  bool part(int g, bool by_place) {
    const auto faces = faces_of(g);
    double all = 0.0;
    Vec3 mean = Vec3::Zero();
    for (const int f : faces) all += area_[f], mean += area_[f] * normal_[f];
    if (all < 2.0 * kLeastPanelMm2) return false;
    mean /= all;
    Vec3 centre = Vec3::Zero();
    double size = 0.0;
    for (const int f : faces) centre += area_[f] / all * middle_[f];
    for (const int f : faces) size += area_[f] / all * (middle_[f] - centre).squaredNorm();
    size = std::sqrt(std::max(size, 1e-9));
    // Where a face looks counts most; where it lies keeps groups in one piece.
    const auto trait = [&](int f) {
      Eigen::Matrix<double, 6, 1> x;
      x << (by_place ? 0.0 : 1.0) * (normal_[f] - mean), (by_place ? 1.0 : 0.35) * (middle_[f] - centre) / size;
      return x;
    };
    Eigen::Matrix<double, 6, 6> spread = Eigen::Matrix<double, 6, 6>::Zero();
    for (const int f : faces) spread += area_[f] * trait(f) * trait(f).transpose();
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix<double, 6, 6>> axes(spread);
    const Eigen::Matrix<double, 6, 1> axis = axes.eigenvectors().col(5);
    std::vector<char> side(group_.size(), 0);
    for (const int f : faces) side[f] = trait(f).dot(axis) > 0.0 ? 1 : 0;
    for (int round = 0; round < 8; ++round) {
      Eigen::Matrix<double, 6, 1> at[2] = {Eigen::Matrix<double, 6, 1>::Zero(), Eigen::Matrix<double, 6, 1>::Zero()};
      double weight[2] = {1e-12, 1e-12};
      for (const int f : faces)
        at[static_cast<int>(side[f])] += area_[f] * trait(f), weight[static_cast<int>(side[f])] += area_[f];
      for (int k = 0; k < 2; ++k) at[k] /= weight[k];
      for (const int f : faces) side[f] = (trait(f) - at[1]).squaredNorm() < (trait(f) - at[0]).squaredNorm() ? 1 : 0;
    }
    even_out(g, side);
    const int fresh = count_;
    std::vector<int> moved = group_;
    for (const int f : faces)
      if (side[f]) moved[f] = fresh;
    std::swap(group_, moved);
    ++count_;
    settle(g), settle(fresh);
    if (faces_of(g).empty() || faces_of(fresh).empty()) {
      std::swap(group_, moved), --count_;
      return false;
    }
    return true;
  }

  /// Majority among neighbours, by the cost of the edges between: ragged borders become short ones.
  void even_out(int g, std::vector<char>& side) const {
    for (int round = 0; round < 6; ++round) {
      std::vector<double> pull(side.size(), 0.0);
      for (std::size_t i = 0; i < topo_.edges.size(); ++i) {
        const auto& e = topo_.edges[i];
        if (e.right < 0 || group_[e.left] != g || group_[e.right] != g) continue;
        const double length = cost_[i];
        pull[e.left] += side[e.right] ? length : -length, pull[e.right] += side[e.left] ? length : -length;
      }
      for (std::size_t f = 0; f < side.size(); ++f)
        if (group_[f] == g && pull[f] != 0.0) side[f] = pull[f] > 0.0 ? 1 : 0;
    }
  }

  /// Islands of a group go to the neighbour they share most border with.
  void settle(int g) {
    for (int round = 0; round < 40; ++round) {
      const auto faces = faces_of(g);
      if (faces.empty()) return;
      std::vector<int> old;
      const Mesh own = part_of(mesh_, faces, old);
      const auto piece = connected_parts(own, [](int, int) { return true; });
      const int pieces = *std::max_element(piece.begin(), piece.end()) + 1;
      if (pieces < 2) return;
      std::vector<double> area(pieces, 0.0);
      for (std::size_t i = 0; i < faces.size(); ++i) area[piece[i]] += area_[faces[i]];
      const int least = static_cast<int>(std::min_element(area.begin(), area.end()) - area.begin());
      std::map<int, double> shared;
      std::set<int> island;
      for (std::size_t i = 0; i < faces.size(); ++i)
        if (piece[i] == least) island.insert(faces[i]);
      for (const auto& e : topo_.edges) {
        if (e.right < 0 || island.count(e.left) == island.count(e.right)) continue;
        const int other = island.count(e.left) != 0 ? e.right : e.left;
        if (group_[other] != g) shared[group_[other]] += (mesh_.vertices[e.a] - mesh_.vertices[e.b]).norm();
      }
      if (shared.empty()) return;
      const int heir = std::max_element(shared.begin(), shared.end(), [](const auto& a, const auto& b) {
        return a.second < b.second;
      })->first;
      for (const int f : island) group_[f] = heir;
    }
  }

  /// Joins the two neighbours with the dearest common border among those that lie flat together.
  bool join(std::vector<double>& strain, double limit) {
    std::map<std::pair<int, int>, double> shared;
    for (std::size_t i = 0; i < topo_.edges.size(); ++i)
      if (const auto& e = topo_.edges[i]; e.right >= 0 && group_[e.left] != group_[e.right])
        shared[edge_of(group_[e.left], group_[e.right])] += cost_[i];
    std::vector<std::pair<double, std::pair<int, int>>> pairs;
    for (const auto& [pair, length] : shared)
      if (tried_.count(pair) == 0) pairs.push_back({length, pair});
    std::sort(pairs.rbegin(), pairs.rend());
    for (const auto& [length, pair] : pairs) {
      auto faces = faces_of(pair.first);
      const auto more = faces_of(pair.second);
      faces.insert(faces.end(), more.begin(), more.end());
      const double together = strain_of(faces);
      if (together > limit) {
        tried_.insert(pair);
        continue;
      }
      for (const int f : more) group_[f] = pair.first;
      strain[pair.first] = together;
      std::erase_if(tried_, [&](const auto& p) { return p.first == pair.first || p.second == pair.first; });
      return true;
    }
    return false;
  }

  const Mesh& mesh_;
  Topology topo_;
  bool mirrored_, keep_middle_;
  std::vector<double> area_, cost_;  // cost: of an edge as a seam, its length weighed by where it lies
  std::vector<Vec3> normal_, middle_;
  std::vector<int> group_;
  int count_ = 0;
  std::set<int> whole_;
  std::set<std::pair<int, int>> tried_;
};

/// Chains of edges between groups, from junction to junction or round.
std::vector<std::vector<int>> border_chains(const Mesh& mesh, const std::vector<int>& group) {
  const Topology topo = topology_of(mesh);
  std::map<int, std::vector<int>> next;
  std::set<int> ends;
  for (const auto& e : topo.edges) {
    if (e.right < 0) {
      ends.insert(e.a), ends.insert(e.b);
      continue;
    }
    if (group[e.left] != group[e.right]) next[e.a].push_back(e.b), next[e.b].push_back(e.a);
  }
  const auto is_end = [&](int v) { return ends.count(v) != 0 || next.at(v).size() != 2; };
  EdgeSet used;
  std::vector<std::vector<int>> chains;
  const auto follow = [&](int from, int to) {
    std::vector<int> chain{from};
    for (int before = from, now = to;;) {
      used.insert(edge_of(before, now));
      chain.push_back(now);
      if (is_end(now) || now == from) break;
      const auto& ways = next.at(now);
      const int on = ways[0] == before ? ways[1] : ways[0];
      if (used.count(edge_of(now, on)) != 0) break;
      before = now, now = on;
    }
    chains.push_back(std::move(chain));
  };
  for (const bool rings : {false, true})
    for (const auto& [v, ways] : next)
      if (rings || is_end(v))
        for (const int w : ways)
          if (used.count(edge_of(v, w)) == 0) follow(v, w);
  return chains;
}

/// A chain as a smooth drawn seam on the surface: arcs are relaxed with their ends held, then few markers are kept.
DrawnSeam as_seam(const std::vector<int>& chain, const Mesh& mesh, const Nearest& surface, const Places& places,
    const Strips& strips, int number) {
  std::vector<Vec3> line;
  for (const int v : chain) line.push_back(mesh.vertices[v]);
  const bool closed = chain.size() > 3 && chain.front() == chain.back();
  if (closed) line.pop_back();
  const int n = static_cast<int>(line.size());
  for (int round = 0; round < kSmoothing; ++round) {
    std::vector<Vec3> next = line;
    for (int i = closed ? 0 : 1; i < (closed ? n : n - 1); ++i)
      next[i] = surface.to(0.5 * line[i] + 0.25 * (line[(i + n - 1) % n] + line[(i + 1) % n])).point;
    // A seam that runs beside a strip that hides it is drawn under it.
    for (int i = 0; round >= kSmoothing / 2 && i < n; ++i)
      if (const auto hidden = strips.hidden_place(next[i], kDrawnUnder))
        next[i] = surface.to(0.6 * next[i] + 0.4 * *hidden).point;
    line = std::move(next);
  }
  DrawnSeam seam;
  seam.id = number, seam.name = "seam " + std::to_string(number), seam.inked = true, seam.closed = closed;
  double length = 0.0;
  for (int i = 0; i + 1 < n; ++i) length += (line[i + 1] - line[i]).norm();
  const int markers = std::clamp(static_cast<int>(std::round(length / 30.0)), 2, 24) + (closed ? 2 : 0);
  double along = 0.0;
  int taken = 0;
  for (int i = 0; i < n; ++i) {
    const bool last = i + 1 == n;
    if ((last && !closed) || along >= taken * length / markers - 1e-9)
      seam.points.push_back(places.at_home(line[i])), ++taken;
    if (!last) along += (line[i + 1] - line[i]).norm();
  }
  return seam;
}

/// The middle line of a half, as a seam down the middle.
std::vector<DrawnSeam> middle_seams(const Draft& half) {
  SeamMesh line;
  line.mesh = half.mesh, line.home = half.home;
  for (const auto& [edge, label] : mirror_line(half.mesh)) line.seam_of[edge] = SeamId{0};
  line.seam_names = {"centre line"};
  auto drawn = drawn_from(line);
  for (DrawnSeam& s : drawn) s.mirrored = true;
  return drawn;
}

struct Outcome {
  int panels;
  double seam_mm, worst;
};
Outcome outcome_of(const PanelSet& set) {
  Outcome outcome{static_cast<int>(set.panels.size()), set.seam_total_mm(), 0.0};
  for (const Panel& p : set.panels)
    outcome.worst = std::max(outcome.worst, p.overlaps || p.flipped > 0 ? 1.0 : p.strain.p99);
  return outcome;
}

double middle_off_mm(const SuggestOptions& options) { return (options.outside ? -0.5 : 0.5) * options.thickness_mm; }

tl::unexpected<Error> no_way() {
  return fail(Errc::no_solution,
      "No way was found to cut this form so that it lies flat; keep the strips and bands it brings itself, or draw a "
      "seam that opens it and try again.");
}

PanelOptions flat_options(const SuggestOptions& options, bool match_seams) {
  PanelOptions flat;
  flat.thickness_mm = options.thickness_mm, flat.form_is_outside = options.outside;
  flat.match_seams = match_seams;
  return flat;
}

AnyMeshOptions sheet_of(const SuggestOptions& options) {
  AnyMeshOptions sheet;
  sheet.tolerance = options.tolerance, sheet.thickness_mm = options.thickness_mm;
  sheet.outside = options.outside, sheet.slits = options.slits;
  return sheet;
}

double seen_of(const PanelSet& set, const Strips& strips) {
  double seen_mm = 0.0;
  for (const auto& [edge, id] : set.form.seam_of) {
    const Vec3 &a = set.form.mesh.vertices[edge.first], &b = set.form.mesh.vertices[edge.second];
    if (!strips.hides(0.5 * (a + b))) seen_mm += (a - b).norm();
  }
  return seen_mm;
}

/// What is told is what comes out: joined to their neighbours panels may give a little more.
Result<Suggestion> told(Suggestion best, const Draft& draft, const SuggestOptions& options, const Strips& strips,
    const Progress& progress) {
  const PanelOptions flat = flat_options(options, true);
  const auto joined = panels_with(draft, best.seams, flat, progress);
  if (!joined) return fail(joined);
  const Outcome outcome = outcome_of(*joined);
  best.seen_mm = seen_of(*joined, strips);
  best.seam_mm = outcome.seam_mm, best.worst = outcome.worst, best.meets = outcome.worst <= options.tolerance;
  return best;
}

/// A cut of a parted surface as a drawn seam: its points at even distances.
DrawnSeam as_seam(const PartedLine& line, const Nearest& surface, const Places& places, int number) {
  DrawnSeam seam;
  seam.id = number, seam.name = "seam " + std::to_string(number), seam.inked = true, seam.closed = line.closed;
  std::vector<Vec3> way = line.points;
  if (line.closed) way.push_back(way.front());
  std::vector<double> along{0.0};
  for (std::size_t i = 1; i < way.size(); ++i) along.push_back(along.back() + (way[i] - way[i - 1]).norm());
  const int count =
      std::clamp(static_cast<int>(std::round(along.back() / kPartedMarkerMm)), line.closed ? 4 : 1, kMostPartedMarkers);
  std::size_t at = 1;
  for (int k = 0; k <= count - (line.closed ? 1 : 0); ++k) {
    const double s = along.back() * k / count;
    while (at + 1 < way.size() && along[at] < s) ++at;
    const double t = std::clamp((s - along[at - 1]) / std::max(1e-9, along[at] - along[at - 1]), 0.0, 1.0);
    const Vec3 p = (1.0 - t) * way[at - 1] + t * way[at];
    seam.points.push_back(places.at_home(surface.to(p).point));
  }
  return seam;
}

/// The draft's surface as it is parted: about four thousand even triangles.
Result<Mesh> even_surface(const Draft& draft) {
  const int wanted = draft.mirrored ? kPartedTriangles / 2 : kPartedTriangles;
  const auto have = static_cast<double>(draft.mesh.triangles.size());
  if (have > 0.6 * wanted && have < 1.8 * wanted && smallest_angle_deg(draft.mesh) > 8.0) return draft.mesh;
  return evened_to(draft.mesh, wanted, draft.mirrored);
}

/// By measured strain, on any form; drawn into it, and measured there.
Result<Suggestion> by_parting(const Draft& draft, const SuggestOptions& options, const Progress& progress) {
  const Places places(draft.mesh, draft.home);
  const Nearest surface(draft.mesh);
  const Strips strips(places, options.strips, draft.mirrored);
  const auto even = even_surface(draft);
  if (!even) return fail(even);
  const SheetMiddle sheet(*even, middle_off_mm(options), draft.mirrored);
  Suggestion best;
  parting::PartingOptions parting;
  parting.tolerance = options.tolerance;
  parting.slits = options.slits;
  parting.sews = options.keep_middle;
  std::function<double(const Vec3&)> weight;
  if (!strips.empty()) weight = [&](const Vec3& p) { return strips.weight(p); };
  for (int round = 0; round < kPartingTries; ++round) {
    const auto span = progress.span(0.97 * round / kPartingTries, 0.97 * (round + 1.0) / kPartingTries);
    auto work = parting::part_surface(sheet.middle(), draft.mirrored, weight, parting, span.span(0.0, 0.6));
    if (!work) return fail(work);
    Suggestion next;
    work = sheet.laid_on(std::move(*work), parting, span.span(0.6, 0.8));
    if (!work) return fail(work);
    for (const PartedLine& line : lines_of(*work)) {
      if (line.in_plane) continue;
      next.seams.push_back(as_seam(line, surface, places, static_cast<int>(next.seams.size()) + 1));
    }
    if (draft.mirrored && !options.keep_middle)
      for (DrawnSeam& s : middle_seams(draft)) next.seams.push_back(std::move(s));
    auto set = panels_with(draft, next.seams, flat_options(options, false), span.span(0.8, 1.0));
    if (!set && set.error().code == Errc::cancelled) return fail(set);
    if (set) {
      const Outcome outcome = outcome_of(*set);
      next.panels = outcome.panels, next.seam_mm = outcome.seam_mm, next.worst = outcome.worst;
      next.meets = outcome.worst <= options.tolerance;
      if (best.panels == 0 || next.worst < best.worst) best = next;
      if (best.meets) break;
      parting.tolerance *= std::clamp(0.95 * options.tolerance / outcome.worst, 0.6, 0.95);
    } else {
      ++parting.seed;
    }
  }
  if (best.panels == 0 || best.worst > kHopeless) return no_way();
  return told(std::move(best), draft, options, strips, progress.span(0.97, 1.0));
}

/// A parted surface in a draft's home frame, which turns, moves and scales it and no more; of a mirrored one the half.
CutMesh cut_at_home(const parting::Patchwork& work, const Draft& draft) {
  const Draft cut = draft_of_patchwork(work);
  CutMesh made{cut.mesh, cut.seams, cut.seam_names, {}};
  if (draft.home.empty()) return made;
  const auto n = static_cast<Eigen::Index>(draft.home.size());
  Eigen::Matrix3Xd from(3, n), to(3, n);
  for (Eigen::Index v = 0; v < n; ++v) from.col(v) = draft.mesh.vertices[v], to.col(v) = draft.home[v];
  const Eigen::Matrix4d home = Eigen::umeyama(from, to, true);
  for (Vec3& p : made.mesh.vertices) p = home.topLeftCorner<3, 3>() * p + home.topRightCorner<3, 1>();
  return made;
}

/// A surface parted along its own edges, and what comes out.
struct ExactWay {
  Outcome outcome;
  double seen_mm = 0.0;
  parting::Patchwork work;
};
Result<ExactWay> measured(
    parting::Patchwork work, const SuggestOptions& options, const Strips& strips, const Progress& progress) {
  PanelOptions flat = flat_options(options, true);
  flat.least_mm2 = 0.0;
  const auto set = make_panels(seams_of(work), flat, progress);
  if (!set) return fail(set);
  return ExactWay{outcome_of(*set), seen_of(*set, strips), std::move(work)};
}

Result<ExactWay> part_exactly(const SheetMiddle& sheet, const Draft& draft, const SuggestOptions& options,
    parting::PartingOptions parting, const Progress& progress) {
  const Places places(draft.mesh, draft.home);
  const Strips strips(places, options.strips, draft.mirrored);
  std::function<double(const Vec3&)> weight;
  if (!strips.empty()) weight = [&](const Vec3& p) { return strips.weight(p); };
  auto work = parting::part_surface(sheet.middle(), draft.mirrored, weight, parting, progress.span(0.0, 0.7));
  if (!work) return fail(work);
  work = sheet.laid_on(std::move(*work), parting, progress.span(0.7, 0.85));
  if (!work) return fail(work);
  if (auto opened = open_where_joined(*work, sheet_of(options), progress.span(0.85, 0.95)); !opened)
    return fail(opened);
  return measured(std::move(*work), options, strips, progress.span(0.95, 1.0));
}

/// By measured strain, on any form, along edges of its surface evened: no line is drawn anew.
Result<Suggestion> by_exact_parting(const Draft& draft, const SuggestOptions& options, const Progress& progress) {
  const auto even = even_surface(draft);
  if (!even) return fail(even);
  const SheetMiddle sheet(*even, middle_off_mm(options), draft.mirrored);
  parting::PartingOptions parting = parting_options(sheet_of(options));
  parting.sews = options.keep_middle;
  std::optional<ExactWay> best;
  for (int round = 0; round < kPartingTries; ++round) {
    const auto span = progress.span(1.0 * round / kPartingTries, (round + 1.0) / kPartingTries);
    auto way = part_exactly(sheet, draft, options, parting, span);
    if (!way && (way.error().code == Errc::cancelled || !best)) return fail(way);
    if (way && (!best || way->outcome.worst < best->outcome.worst)) best = std::move(*way);
    if (best->outcome.worst <= kNearlyMet * options.tolerance) break;
    parting.tolerance *= std::clamp(options.tolerance / best->outcome.worst, 0.7, 0.95), ++parting.seed;
  }
  if (best->outcome.worst > kHopeless) return no_way();
  const Places places(draft.mesh, draft.home);
  fair_cuts(best->work, sheet, sheet_of(options), best->outcome.worst);
  auto faired = measured(std::move(best->work), options, Strips(places, options.strips, draft.mirrored), {});
  if (!faired) return fail(faired);
  best = std::move(*faired);
  Suggestion found;
  found.panels = best->outcome.panels, found.seam_mm = best->outcome.seam_mm, found.worst = best->outcome.worst;
  found.meets = found.worst <= kNearlyMet * options.tolerance, found.seen_mm = best->seen_mm;
  const Nearest surface(draft.mesh);
  for (const PartedLine& line : lines_of(best->work))
    if (!line.in_plane) found.seams.push_back(as_seam(line, surface, places, static_cast<int>(found.seams.size()) + 1));
  found.cut = std::make_shared<const CutMesh>(cut_at_home(best->work, draft));
  return found;
}

/// Faces grouped by where they look: for gentle forms.
Result<Suggestion> by_normals(const Draft& draft, const SuggestOptions& options, const Progress& progress) {
  const Mesh grouped = sheet_middle(draft.mesh, middle_off_mm(options), draft.mirrored);
  const Places places(draft.mesh, draft.home);
  const Nearest surface(draft.mesh);
  const Strips strips(places, options.strips, draft.mirrored);
  const PanelOptions flat = flat_options(options, false);
  Suggestion best;
  double tolerance = options.tolerance;
  for (int round = 0; round < kTries; ++round) {
    const auto span = progress.span(0.97 * round / kTries, 0.97 * (round + 1.0) / kTries);
    Grouping grouping(grouped, strips, draft.mirrored, options);
    if (!grouping.run(tolerance, options.most_panels, span.span(0.0, 0.7))) return fail(Errc::cancelled, "Stopped.");
    Suggestion next;
    if (draft.mirrored && !options.keep_middle) next.seams = middle_seams(draft);
    for (const auto& chain : border_chains(draft.mesh, grouping.groups()))
      if (chain.size() > 2)
        next.seams.push_back(
            as_seam(chain, draft.mesh, surface, places, strips, static_cast<int>(next.seams.size()) + 1));
    auto set = panels_with(draft, next.seams, flat, span.span(0.7, 1.0));
    if (!set && set.error().code == Errc::cancelled) return fail(set);
    if (set) {
      const Outcome outcome = outcome_of(*set);
      next.panels = outcome.panels, next.seam_mm = outcome.seam_mm, next.worst = outcome.worst,
      next.meets = outcome.worst <= options.tolerance;
      if (best.panels == 0 || next.worst < best.worst) best = next;
      if (best.meets) break;
      tolerance *= std::clamp(0.95 * options.tolerance / outcome.worst, 0.5, 0.9);
    } else {
      tolerance *= 0.75;
    }
  }
  if (best.panels == 0 || best.worst > kHopeless) return no_way();
  return told(std::move(best), draft, options, strips, progress.span(0.97, 1.0));
}

}  // namespace

Result<PanelSet> panels_with(
    Draft draft, const std::vector<DrawnSeam>& seams, const PanelOptions& options, const Progress& progress) {
  if (auto drawn = draw_on(draft, seams); !drawn) return fail(drawn);
  return make_panels(seams_of(draft), options, progress);
}

Result<Suggestion> suggest_panels(const Draft& plain, const SuggestOptions& options, const Progress& progress) {
  Draft draft = plain;
  draft.seams.clear(), draft.seam_names.clear();
  if (options.exact) return by_exact_parting(draft, options, progress);
  const bool gentle = draft.mirrored && draft.mesh.triangles.size() <= kGentleTriangles;
  std::optional<Result<Suggestion>> grouped;
  if (gentle) grouped = by_normals(draft, options, progress.span(0.0, 0.4));
  if (grouped && *grouped && (*grouped)->meets && (*grouped)->panels <= kFewPanels) return *grouped;
  if (grouped && !*grouped && grouped->error().code == Errc::cancelled) return *grouped;
  if (gentle && !options.parts) return *grouped;
  auto parted = by_parting(draft, options, progress.span(gentle ? 0.4 : 0.0, 1.0));
  if (!grouped || !*grouped) return parted;
  if (!parted && parted.error().code != Errc::cancelled) return *grouped;
  if (!parted) return parted;
  const auto rank = [](const Suggestion& s) { return std::tuple(s.meets ? 0.0 : s.worst, s.panels, s.seam_mm); };
  return rank(*parted) < rank(**grouped) ? parted : *grouped;
}

}  // namespace awl
