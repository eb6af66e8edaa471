#include "core/make/paper_net.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <map>
#include <queue>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/geom/nearest.hpp"
#include "core/geom/remesh.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

using Flat = std::array<Vec2, 3>;
constexpr double kTouchMm = 1e-6;  // faces that share an edge overlap by less than this
constexpr int kOrders = 10;        // of growing, tried one after the other

double flat_cross(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }

/// Whether two convex shapes overlap by more than a touch: no edge of either parts them.
template <std::size_t N, std::size_t M>
bool overlap(const std::array<Vec2, N>& a, const std::array<Vec2, M>& b) {
  const auto parted = [](const auto& from, const auto& others) {
    for (std::size_t i = 0; i < from.size(); ++i) {
      const Vec2 &p = from[i], d = (from[(i + 1) % from.size()] - p).normalized();
      if (std::all_of(others.begin(), others.end(), [&](const Vec2& q) { return flat_cross(d, q - p) <= kTouchMm; }))
        return true;
    }
    return false;
  };
  return !parted(a, b) && !parted(b, a);
}

/// A move in the plane: turn, then shift.
struct Move {
  Eigen::Rotation2Dd turn{0.0};
  Vec2 by = Vec2::Zero();
  Vec2 operator()(const Vec2& p) const { return turn * p + by; }
};

/// The move that takes `from` to `to`, both of the same length.
Move move_onto(const Vec2& from_a, const Vec2& from_b, const Vec2& to_a, const Vec2& to_b) {
  const Vec2 f = from_b - from_a, t = to_b - to_a;
  Move m;
  m.turn = Eigen::Rotation2Dd(std::atan2(flat_cross(f, t), f.dot(t)));
  m.by = 0.5 * (to_a + to_b) - m.turn * (0.5 * (from_a + from_b));
  return m;
}

/// Which face lies beyond each side of each.
struct Neighbours {
  std::vector<std::array<int, 3>> face, side;
};

Neighbours neighbours_of(const Mesh& mesh) {
  Neighbours n;
  n.face.assign(mesh.triangles.size(), {-1, -1, -1});
  n.side = n.face;
  std::map<std::pair<int, int>, std::pair<int, int>> open;
  for (int f = 0; f < static_cast<int>(mesh.triangles.size()); ++f)
    for (int k = 0; k < 3; ++k) {
      const int a = mesh.triangles[f][k], b = mesh.triangles[f][(k + 1) % 3];
      if (const auto other = open.find({b, a}); other != open.end()) {
        const auto [g, j] = other->second;
        n.face[f][k] = g, n.side[f][k] = j, n.face[g][j] = f, n.side[g][j] = k;
        open.erase(other);
      } else {
        open[{a, b}] = {f, k};
      }
    }
  return n;
}

/// One way of cutting the mesh into islands.
class Unfolder {
 public:
  Unfolder(const Mesh& mesh, const Neighbours& next, const NetOptions& options)
      : mesh_(mesh), next_(next), options_(options) {
    own_.reserve(mesh.triangles.size());
    for (const Tri& t : mesh.triangles) {
      const Vec3 e = mesh.vertices[t[1]] - mesh.vertices[t[0]], g = mesh.vertices[t[2]] - mesh.vertices[t[0]];
      const double x = g.dot(e.normalized());
      own_.push_back({Vec2(0, 0), Vec2(e.norm(), 0), Vec2(x, std::sqrt(std::max(0.0, g.squaredNorm() - x * x)))});
    }
  }

  /// `flatness`: how much an even fold counts against nearness to the island's first face.
  bool grow(double flatness, Random& random, const Progress& progress) {
    const int n = static_cast<int>(mesh_.triangles.size());
    island_of.assign(n, -1), flat.assign(n, {});
    folded.assign(n, {false, false, false});
    members.clear();
    int placed = 0, seed = static_cast<int>(random.next() % static_cast<unsigned>(n));
    while (placed < n) {
      if (!progress.keep_going(static_cast<double>(placed) / n)) return false;
      if (island_of[seed] >= 0)
        seed = static_cast<int>(std::find(island_of.begin(), island_of.end(), -1) - island_of.begin());
      const int island = static_cast<int>(members.size());
      members.emplace_back();
      put(seed, own_[seed], island);
      grow_from(seed, island, flatness, random);
      placed += static_cast<int>(members[island].size());
    }
    merge();
    close_flat_rounds();
    return true;
  }

  double cut_mm() const {
    double sum = 0.0;
    for (std::size_t f = 0; f < flat.size(); ++f)
      for (int k = 0; k < 3; ++k)
        if (next_.face[f][k] >= 0 && !folded[f][k]) sum += 0.5 * (flat[f][(k + 1) % 3] - flat[f][k]).norm();
    return sum;
  }
  int islands() const {
    return static_cast<int>(std::count_if(members.begin(), members.end(), [](const auto& m) { return !m.empty(); }));
  }

  std::vector<int> island_of;
  std::vector<Flat> flat;
  std::vector<std::array<bool, 3>> folded;
  std::vector<std::vector<int>> members;

 private:
  void put(int face, const Flat& at, int island) {
    flat[face] = at, island_of[face] = island, members[island].push_back(face);
  }

  Flat laid_beside(int face, int side) const {
    const int f = next_.face[face][side], k = next_.side[face][side];
    const Move m = move_onto(own_[f][k], own_[f][(k + 1) % 3], flat[face][(side + 1) % 3], flat[face][side]);
    return {m(own_[f][0]), m(own_[f][1]), m(own_[f][2])};
  }

  bool fits_page(
      const std::vector<int>& faces, const Flat* more, const Move* moved, const std::vector<int>* others) const {
    Vec2 low = Vec2::Constant(1e300), high = -low;
    const auto take = [&](const Vec2& p) { low = low.cwiseMin(p), high = high.cwiseMax(p); };
    for (const int f : faces)
      for (const Vec2& p : flat[f]) take(p);
    if (more != nullptr)
      for (const Vec2& p : *more) take(p);
    if (others != nullptr)
      for (const int f : *others)
        for (const Vec2& p : flat[f]) take((*moved)(p));
    const Vec2 size = (high - low) + Vec2::Constant(2.0 * options_.tab_mm);
    return size.maxCoeff() <= std::max(options_.page_wide_mm, options_.page_high_mm) &&
        size.minCoeff() <= std::min(options_.page_wide_mm, options_.page_high_mm);
  }

  bool free_of(const std::vector<int>& faces, const Flat& at) const {
    return std::none_of(faces.begin(), faces.end(), [&](int f) { return overlap(flat[f], at); });
  }

  void grow_from(int seed, int island, double flatness, Random& random) {
    struct Step {
      double rank;
      int face, side;
    };
    const auto later = [](const Step& a, const Step& b) { return a.rank > b.rank; };
    std::priority_queue<Step, std::vector<Step>, decltype(later)> steps(later);
    const auto offer = [&](int face) {
      for (int k = 0; k < 3; ++k) {
        const int f = next_.face[face][k];
        if (f < 0 || island_of[f] >= 0) continue;
        const double turn = std::acos(std::clamp(area_vector(mesh_, mesh_.triangles[face])
                                                     .normalized()
                                                     .dot(area_vector(mesh_, mesh_.triangles[f]).normalized()),
            -1.0, 1.0));
        const double far = (flat[face][k] - flat[seed][0]).norm() / options_.page_high_mm;
        steps.push({flatness * turn + (1.0 - flatness) * far + 0.02 * random.uniform(), face, k});
      }
    };
    offer(seed);
    while (!steps.empty()) {
      const Step s = steps.top();
      steps.pop();
      const int f = next_.face[s.face][s.side];
      if (island_of[f] >= 0) continue;
      const Flat at = laid_beside(s.face, s.side);
      if (!free_of(members[island], at) || !fits_page(members[island], &at, nullptr, nullptr)) continue;
      put(f, at, island);
      folded[s.face][s.side] = folded[f][next_.side[s.face][s.side]] = true;
      offer(f);
    }
  }

  /// Joins islands by any edge they share, as long as the smaller one finds room beside the larger.
  void merge() {
    for (bool any = true; any;) {
      any = false;
      for (int f = 0; f < static_cast<int>(flat.size()); ++f)
        for (int k = 0; k < 3; ++k)
          if (next_.face[f][k] >= 0 && island_of[next_.face[f][k]] != island_of[f] &&
              members[island_of[f]].size() >= members[island_of[next_.face[f][k]]].size())
            any = join(f, k) || any;
    }
  }

  bool join(int f, int k) {
    const int g = next_.face[f][k], j = next_.side[f][k];
    auto &to = members[island_of[f]], &from = members[island_of[g]];
    const Move m = move_onto(flat[g][j], flat[g][(j + 1) % 3], flat[f][(k + 1) % 3], flat[f][k]);
    if (!fits_page(to, nullptr, &m, &from)) return false;
    for (const int h : from)
      if (!free_of(to, {m(flat[h][0]), m(flat[h][1]), m(flat[h][2])})) return false;
    for (const int h : from) {
      for (Vec2& p : flat[h]) p = m(p);
      island_of[h] = island_of[f];
      to.push_back(h);
    }
    from.clear();
    folded[f][k] = folded[g][j] = true;
    return true;
  }

  /// Where both sides of a cut came to lie on each other there is nothing to cut.
  void close_flat_rounds() {
    for (std::size_t f = 0; f < flat.size(); ++f)
      for (int k = 0; k < 3; ++k) {
        const int g = next_.face[f][k], j = next_.side[f][k];
        if (g < 0 || island_of[g] != island_of[f]) continue;
        if ((flat[f][k] - flat[g][(j + 1) % 3]).norm() < 1e-4 && (flat[f][(k + 1) % 3] - flat[g][j]).norm() < 1e-4)
          folded[f][k] = folded[g][j] = true;
      }
  }

  const Mesh& mesh_;
  const Neighbours& next_;
  const NetOptions& options_;
  std::vector<Flat> own_;
};

std::array<Vec2, 4> tab_on(const Flat& face, int side, double mm) {
  const Vec2 &a = face[side], &b = face[(side + 1) % 3], d = (b - a).normalized(), out(d.y(), -d.x());
  const double inset = std::min(mm, 0.3 * (b - a).norm());
  return {a, a + inset * d + mm * out, b - inset * d + mm * out, b};
}

/// Numbers for every cut, a tab on whichever side has room for one.
void add_joins(NetPlan& plan, const Unfolder& cut, const Neighbours& next, const NetOptions& options) {
  std::vector<std::vector<std::array<Vec2, 4>>> tabs(cut.members.size());
  const auto has_room = [&](int face, const std::array<Vec2, 4>& tab) {
    const int island = cut.island_of[face];
    return std::none_of(cut.members[island].begin(), cut.members[island].end(),
               [&](int f) { return overlap(cut.flat[f], tab); }) &&
        std::none_of(tabs[island].begin(), tabs[island].end(), [&](const auto& t) { return overlap(t, tab); });
  };
  for (int f = 0; f < static_cast<int>(cut.flat.size()); ++f)
    for (int k = 0; k < 3; ++k) {
      const int g = next.face[f][k], j = next.side[f][k];
      if (g < 0 || cut.folded[f][k] || g < f || (g == f && j < k)) continue;
      NetJoin join{static_cast<int>(plan.joins.size()) + 1, {f, g}, {k, j}, 0.0,
          (cut.flat[f][(k + 1) % 3] - cut.flat[f][k]).norm()};
      for (double mm = options.tab_mm; join.tab_mm == 0.0 && mm >= 1.0; mm *= 0.5)
        for (int turn = 0; turn < 2 && join.tab_mm == 0.0; ++turn) {
          const auto tab = tab_on(cut.flat[join.face[0]], join.side[0], mm);
          if (has_room(join.face[0], tab))
            join.tab_mm = mm, tabs[cut.island_of[join.face[0]]].push_back(tab);
          else
            std::swap(join.face[0], join.face[1]), std::swap(join.side[0], join.side[1]);
        }
      plan.joins.push_back(join);
    }
}

/// The form with about so many faces, never more than 1000.
Mesh evened(const Mesh& form, int faces) {
  const Nearest skin(form);
  RemeshGoal goal;
  goal.project = [&](const Vec3& p, bool on_border) { return on_border ? p : skin.to(p).point; };
  double edge = std::sqrt(4.0 * area_mm2(form) / (std::sqrt(3.0) * faces));
  Mesh mesh;
  for (int round = 0; round < 6; ++round) {
    goal.edge_mm = [edge](const Vec3&) { return edge; };
    mesh = remesh(form, goal);
    const double got = static_cast<double>(mesh.triangles.size());
    if (got <= 1.05 * faces && got <= 1000.0 && got >= 0.7 * faces) break;
    edge *= std::clamp(std::sqrt(got / (0.93 * faces)), 0.7, 1.6);
  }
  return mesh;
}

}  // namespace

Result<NetPlan> plan_net(const Mesh& form, const NetOptions& options, const Progress& progress) {
  if (options.faces < 20 || options.faces > 1000)
    return fail(
        Errc::out_of_range, "A paper net of " + std::to_string(options.faces) + " faces is outside 20 to 1000.", "way");
  if (form.triangles.empty() || area_mm2(form) < 1.0)
    return fail(Errc::degenerate_shape, "There is no surface to make a paper net of.", "way");
  if (!progress.keep_going(0.0)) return fail(Errc::cancelled, "Stopped.");
  NetPlan plan;
  plan.mesh = static_cast<int>(form.triangles.size()) <= options.faces ? form : evened(form, options.faces);
  const Nearest skin(form), net(plan.mesh);
  for (const Vec3& p : form.vertices) plan.off_mm = std::max(plan.off_mm, (net.to(p).point - p).norm());
  const Neighbours next = neighbours_of(plan.mesh);
  std::optional<Unfolder> best;
  Random random(options.seed);
  for (int i = 0; i < kOrders; ++i) {
    Unfolder one(plan.mesh, next, options);
    if (!one.grow(i % 3 == 0 ? 1.0 : i % 3 == 1 ? 0.5 : 0.1, random, progress.span(0.3 + 0.06 * i, 0.36 + 0.06 * i)))
      return fail(Errc::cancelled, "Stopped.");
    if (!best || std::pair(one.islands(), one.cut_mm()) < std::pair(best->islands(), best->cut_mm()))
      best.emplace(std::move(one));
  }
  add_joins(plan, *best, next, options);
  for (const auto& faces : best->members) {
    if (faces.empty()) continue;
    NetIsland island{faces, {}};
    for (const int f : faces) island.flat.push_back(best->flat[f]);
    plan.islands.push_back(std::move(island));
  }
  std::stable_sort(plan.islands.begin(), plan.islands.end(),
      [](const NetIsland& a, const NetIsland& b) { return a.faces.size() > b.faces.size(); });
  for (std::size_t f = 0; f < best->flat.size(); ++f)
    for (int k = 0; k < 3; ++k) plan.folds += best->folded[f][k] && next.face[f][k] > static_cast<int>(f) ? 1 : 0;
  return plan;
}

std::vector<Piece> net_pieces(const NetPlan& plan, const std::string& name, double paper_mm) {
  std::map<std::pair<int, int>, const NetJoin*> join_at;
  for (const NetJoin& j : plan.joins)
    for (int i = 0; i < 2; ++i) join_at[{j.face[i], j.side[i]}] = &j;
  const Neighbours next = neighbours_of(plan.mesh);
  std::vector<Piece> pieces;
  for (const NetIsland& island : plan.islands) {
    std::map<int, const Flat*> at;
    for (std::size_t i = 0; i < island.faces.size(); ++i) at[island.faces[i]] = &island.flat[i];
    const auto is_fold = [&](int f, int k) { return next.face[f][k] >= 0 && join_at.count({f, k}) == 0; };
    // The rims, walked side by side with the island on the left; the longest is its outline, others are holes.
    std::map<std::pair<int, int>, bool> walked;
    std::vector<std::vector<Vec2>> loops;
    std::vector<std::vector<PieceEdge>> edges;
    Rings guides;
    for (const int f0 : island.faces)
      for (int k0 = 0; k0 < 3; ++k0) {
        if (is_fold(f0, k0)) {
          if (f0 < next.face[f0][k0]) guides.push_back({(*at[f0])[k0], (*at[f0])[(k0 + 1) % 3]});
          continue;
        }
        if (walked[{f0, k0}]) continue;
        loops.emplace_back(), edges.emplace_back();
        for (int f = f0, k = k0; !walked[{f, k}];) {
          walked[{f, k}] = true;
          const Vec2 &a = (*at[f])[k], &b = (*at[f])[(k + 1) % 3];
          loops.back().push_back(a);
          PieceEdge edge;
          edge.line = {a, b}, edge.length_mm = (b - a).norm(), edge.cut = EdgeCut::square;
          if (const auto j = join_at.find({f, k}); j != join_at.end()) {
            edge.letter = std::to_string(j->second->number);
            if (j->second->tab_mm > 0.0 && j->second->face[0] == f && j->second->side[0] == k) {
              const auto tab = tab_on(*at[f], k, j->second->tab_mm);
              loops.back().insert(loops.back().end(), {tab[1], tab[2]});
              guides.push_back({a, b});
            }
          }
          edges.back().push_back(std::move(edge));
          for (k = (k + 1) % 3; is_fold(f, k);) {
            const int g = next.face[f][k], j = next.side[f][k];
            f = g, k = (j + 1) % 3;
          }
        }
      }
    const auto outer = std::max_element(loops.begin(), loops.end(),
        [](const auto& a, const auto& b) { return signed_area_mm2(a) < signed_area_mm2(b); });
    std::vector<std::vector<Vec2>> holes;
    for (auto it = loops.begin(); it != loops.end(); ++it)
      if (it != outer) holes.push_back(*it);
    const Vec2 middle = polygon_centre(*outer);
    Piece piece = plate_piece(name + ", net " + std::to_string(pieces.size() + 1), static_cast<int>(pieces.size()) + 1,
        *outer, holes, paper_mm);
    piece.edges.clear();
    for (auto& rim : edges)
      for (PieceEdge& e : rim) {
        for (Vec2& p : e.line) p -= middle;
        piece.edges.push_back(std::move(e));
      }
    for (auto& guide : guides)
      for (Vec2& p : guide) p -= middle;
    piece.guides = std::move(guides);
    piece.stuff = "card", piece.face_up = "printed side out", piece.front.reset();
    double mean = 0.0;
    for (const PieceEdge& e : piece.edges) mean += e.length_mm / static_cast<double>(piece.edges.size());
    piece.letter_mm = std::clamp(0.12 * mean, 1.6, 4.0);
    pieces.push_back(std::move(piece));
  }
  return pieces;
}

}  // namespace awl
