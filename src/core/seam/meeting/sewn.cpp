#include "core/seam/meeting/sewn.hpp"

#include <Eigen/Geometry>
#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>
#include <tuple>

#include "core/base/numbers.hpp"
#include "core/geom/box_tree.hpp"
#include "core/geom/offset.hpp"
#include "core/seam/meeting/middle_sheet.hpp"
#include "core/seam/meeting/rim_tilt.hpp"

namespace awl {
namespace {

constexpr double kOneCornerMm = 1.2;  // corners of both rims nearer than this become one
constexpr double kFarthestMm = 45.0;  // an edge farther off than this is not drawn to the other: workshop value
constexpr double kLeastGapMm = 0.3;   // corners drawn to one place of a rim stand this far apart along it
constexpr double kCrumbShare = 0.05;

/// Rims of a whole surface as polylines to be asked.
class RimLines {
 public:
  explicit RimLines(const Mesh& mesh)
      : mesh_(mesh), loops_(border_loops(mesh)), stretches_(stretches_of(mesh, loops_)), near_(stretches_) {
    for (std::size_t l = 0; l < loops_.size(); ++l) {
      auto& at = along_.emplace_back(1, 0.0);
      for (std::size_t i = 0; i < count(l); ++i) {
        at.push_back(at.back() + (corner(l, i + 1) - corner(l, i)).norm());
        of_.push_back({l, i});
      }
    }
  }
  struct Place {
    std::size_t loop = 0, step = 0;  ///< from corner `step` to the one after it
    double share = 0.0, far_mm = 1e300;
    Vec3 at = Vec3::Zero();
  };
  Place nearest(const Vec3& p) const {
    Place best;
    const ClosestTriangle found = near_.closest(stretches_, p);
    if (found.triangle < 0) return best;
    std::tie(best.loop, best.step) = of_[found.triangle];
    best.at = closest_on_stretch(p, corner(best.loop, best.step), corner(best.loop, best.step + 1), &best.share);
    best.far_mm = (p - best.at).norm();
    // A corner belongs to the stretch that begins there.
    if (best.share == 1.0) best.step = (best.step + 1) % count(best.loop), best.share = 0.0;
    return best;
  }
  const Vec3& corner(std::size_t loop, std::size_t i) const {
    return mesh_.vertices[loops_[loop][i % loops_[loop].size()]];
  }
  std::size_t count(std::size_t loop) const { return loops_[loop].size(); }
  double round_mm(std::size_t loop) const { return along_[loop].back(); }
  /// How far along its loop a place is, from the loop's first corner on.
  double along(const Place& place) const {
    const auto& at = along_[place.loop];
    return at[place.step] + place.share * (at[place.step + 1] - at[place.step]);
  }
  /// The place that far along a loop, which goes round and round.
  Place place_at(std::size_t loop, double along) const {
    const auto& at = along_[loop];
    along -= at.back() * std::floor(along / at.back());
    const auto after = std::upper_bound(at.begin() + 1, at.end() - 1, along);
    const auto step = static_cast<std::size_t>(after - at.begin()) - 1;
    Place place{loop, step, std::clamp((along - at[step]) / std::max(at[step + 1] - at[step], 1e-12), 0.0, 1.0)};
    place.at = corner(loop, step) + place.share * (corner(loop, step + 1) - corner(loop, step));
    return place;
  }

 private:
  /// Every stretch as a triangle without area.
  static Mesh stretches_of(const Mesh& mesh, const std::vector<std::vector<int>>& loops) {
    Mesh stretches{mesh.vertices, {}};
    for (const auto& loop : loops)
      for (std::size_t i = 0; i < loop.size(); ++i) {
        const int to = loop[(i + 1) % loop.size()];
        stretches.triangles.push_back({loop[i], to, to});
      }
    return stretches;
  }

  const Mesh& mesh_;
  std::vector<std::vector<int>> loops_;
  std::vector<std::vector<double>> along_;  ///< up to each corner, and all round
  const Mesh stretches_;
  const BoxTree near_;
  std::vector<std::pair<std::size_t, std::size_t>> of_;  ///< loop and step of each stretch
};

/// How far a place lies within another form's openings, across its surface; negative over the form itself.
class WithinOpening {
 public:
  explicit WithinOpening(const Mesh& mesh) : field_(mesh), normals_(vertex_normals(mesh)), rims_(field_.mesh()) {}
  double operator()(const Vec3& p) const {
    const NearestHit hit = field_.hit(p);
    if (!field_.past(hit)) return -rims_.nearest(hit.point).far_mm;
    const Vec3 n = value_at(hit, field_.mesh(), normals_).normalized(), off = p - hit.point;
    return (off - off.dot(n) * n).norm();
  }
  const RimLines& rims() const { return rims_; }
  Vec3 normal_at(const Vec3& p) const { return value_at(field_.hit(p), field_.mesh(), normals_).normalized(); }

 private:
  OpenField field_;
  std::vector<Vec3> normals_;
  RimLines rims_;
};

/// Moves that are given at some corners and fade smoothly to none within `reach_mm` of them: least second differences.
std::vector<Vec3> faded(const Mesh& mesh, const std::map<int, Vec3>& given, double reach_mm) {
  const int n = static_cast<int>(mesh.vertices.size());
  std::vector<int> number(n, -1);
  int count = 0;
  for (int v = 0; v < n; ++v) {
    if (given.count(v) != 0) continue;
    double far = 1e300;
    for (const auto& [w, move] : given) far = std::min(far, (mesh.vertices[v] - mesh.vertices[w]).norm());
    if (far < reach_mm) number[v] = count++;
  }
  std::vector<Vec3> moves(n, Vec3::Zero());
  for (const auto& [v, move] : given) moves[v] = move;
  if (count == 0) return moves;
  std::vector<std::set<int>> round(n);
  for (const Tri& t : mesh.triangles)
    for (int k = 0; k < 3; ++k) round[t[k]].insert(t[(k + 1) % 3]), round[t[k]].insert(t[(k + 2) % 3]);
  // Rows of the second difference at every corner near what moves.
  std::vector<Eigen::Triplet<double>> entries;
  Eigen::MatrixX3d right = Eigen::MatrixX3d::Zero(n, 3);
  for (int v = 0; v < n; ++v) {
    const auto put = [&](int w, double value) {
      if (number[w] >= 0)
        entries.emplace_back(v, number[w], value);
      else
        right.row(v) -= value * moves[w].transpose();
    };
    put(v, 1.0);
    for (const int w : round[v]) put(w, -1.0 / static_cast<double>(round[v].size()));
  }
  Eigen::SparseMatrix<double> rows(n, count);
  rows.setFromTriplets(entries.begin(), entries.end());
  const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(rows.transpose() * rows);
  const Eigen::MatrixX3d solved = solver.solve(rows.transpose() * right);
  for (int v = 0; v < n; ++v)
    if (number[v] >= 0) moves[v] = solved.row(number[v]).transpose();
  return moves;
}

/// Values nearest to the given ones, by weighted squares, that never fall: neighbours that would are pooled to their
/// mean. Source: bibliography barlow1972, pool adjacent violators.
std::vector<double> never_falling(const std::vector<double>& values, const std::vector<double>& weights) {
  struct Pool {
    double sum = 0.0, weight = 0.0;
    std::size_t count = 0;
  };
  std::vector<Pool> pools;
  for (std::size_t i = 0; i < values.size(); ++i) {
    pools.push_back({weights[i] * values[i], weights[i], 1});
    while (pools.size() > 1) {
      const Pool last = pools.back();
      Pool& before = pools[pools.size() - 2];
      if (before.sum / before.weight <= last.sum / last.weight) break;
      before.sum += last.sum, before.weight += last.weight, before.count += last.count;
      pools.pop_back();
    }
  }
  std::vector<double> out;
  for (const Pool& pool : pools) out.insert(out.end(), pool.count, pool.sum / pool.weight);
  return out;
}

using Places = std::map<int, RimLines::Place>;

/// Places of neighbours on a rim, moved along the other's by as little as does until they follow each other against
/// its direction and none lies on another. Those in the mirror plane stay.
void set_apart(const RimLines& rims, const MiddleSheet& sheet, const std::vector<int>& run, Places& places) {
  constexpr double kStays = 1e6;
  std::vector<double> even, weights;
  double at = 0.0;
  for (std::size_t i = 0; i < run.size(); ++i) {
    const RimLines::Place& place = places.at(run[i]);
    const double on = -rims.along(place) - at, round = rims.round_mm(place.loop);
    at += i == 0 ? on : on - round * std::round(on / round);
    even.push_back(at - kLeastGapMm * static_cast<double>(i));
    weights.push_back(sheet.in_mirror(run[i]) ? kStays : 1.0);
  }
  const std::vector<double> apart = never_falling(even, weights);
  for (std::size_t i = 0; i < run.size(); ++i) {
    RimLines::Place& place = places.at(run[i]);
    if (std::abs(apart[i] - even[i]) > 1e-9 && !sheet.in_mirror(run[i]))
      place = rims.place_at(place.loop, -(apart[i] + kLeastGapMm * static_cast<double>(i)));
  }
}

/// Where the corners of a chain that were cut are drawn to, set apart run by run.
void set_chain_apart(
    const RimLines& rims, const MiddleSheet& sheet, std::vector<int> chain, bool closed, Places& places) {
  const auto goes_on = [&](int v, int w) {
    const auto p = places.find(v), q = places.find(w);
    return p != places.end() && q != places.end() && p->second.loop == q->second.loop;
  };
  if (closed) {  // begun where a run ends, or where two neighbours are farthest from each other
    double widest = -1.0;
    std::size_t first = 0;
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const int v = chain[(i + chain.size() - 1) % chain.size()], w = chain[i];
      const double far = goes_on(v, w) ? (places.at(v).at - places.at(w).at).norm() : 1e300;
      if (far > widest) widest = far, first = i;
    }
    std::rotate(chain.begin(), chain.begin() + static_cast<long>(first), chain.end());
  }
  for (std::size_t i = 0, end = 0; i < chain.size(); i = end) {
    for (end = i + 1; end < chain.size() && goes_on(chain[end - 1], chain[end]);) ++end;
    if (end - i > 1)
      set_apart(rims, sheet, {chain.begin() + static_cast<long>(i), chain.begin() + static_cast<long>(end)}, places);
  }
}

/// Where each corner of a sheet's rim that was cut is drawn to on the other's rims: the nearest place, or a corner of
/// theirs near by if it is no other's already; no two on one place.
Places drawn_to(const MiddleSheet& sheet, const RimLines& rims) {
  Places places;
  std::set<std::pair<std::size_t, std::size_t>> taken;
  for (const auto& [chain, closed] : sheet.rims()) {
    for (const int v : chain) {
      if (!sheet.is_cut(v)) continue;
      RimLines::Place place = rims.nearest(sheet.draft.mesh.vertices[v]);
      const double step = (rims.corner(place.loop, place.step + 1) - rims.corner(place.loop, place.step)).norm();
      const std::size_t after = (place.step + 1) % rims.count(place.loop);
      if (place.share * step < kOneCornerMm && taken.insert({place.loop, place.step}).second)
        place.share = 0.0;
      else if ((1.0 - place.share) * step < kOneCornerMm && taken.insert({place.loop, after}).second)
        place.step = after, place.share = 0.0;
      place.at = rims.corner(place.loop, place.step) +
          place.share * (rims.corner(place.loop, place.step + 1) - rims.corner(place.loop, place.step));
      places[v] = place;
    }
    set_chain_apart(rims, sheet, chain, closed, places);
  }
  for (auto& [v, place] : places)
    if (sheet.in_mirror(v)) place.at.x() = 0.0;
  return places;
}

/// Corners of the other's rim that lie between two places of it, walked against its direction; nothing if that is not
/// the short way.
std::vector<Vec3> between(const RimLines& rims, const RimLines::Place& from, const RimLines::Place& to) {
  std::vector<Vec3> all;
  if (from.loop != to.loop) return all;
  const std::size_t n = rims.count(from.loop);
  const std::size_t steps = (from.step + n - to.step) % n;
  if (steps > n / 4) return all;
  for (std::size_t k = 0; k < steps; ++k) {
    const Vec3& p = rims.corner(from.loop, from.step + n - k);
    const Vec3& last = all.empty() ? from.at : all.back();
    if ((p - last).norm() > 0.5 * kOneCornerMm && (p - to.at).norm() > 0.5 * kOneCornerMm) all.push_back(p);
  }
  return all;
}

}  // namespace

Result<Met> edge_to_edge(const MeetSide& upper, const MeetSide& lower) {
  MiddleSheet sheet(upper);
  const MiddleSheet other(lower, false);
  const Mesh there = other.whole();
  const WithinOpening within(there);
  const double before = area_mm2(sheet.draft.mesh);
  sheet.cut([&](const Vec3& p) { return within(p); });
  if (sheet.draft.mesh.triangles.empty())
    return fail(Errc::degenerate_shape,
        "The " + upper.name + " lies over the " + lower.name + " all round, and fills no opening of it.", "meets");
  if (area_mm2(sheet.draft.mesh) > before - 1.0)
    return fail(Errc::no_solution,
        "The " + upper.name + " nowhere reaches the rim of the " + lower.name + "; make it wider, or move it.",
        "meets");
  sheet.drop_crumbs(kCrumbShare);

  // The corners that lie over the rim are drawn to it.
  const Places places = drawn_to(sheet, within.rims());
  std::map<int, Vec3> moves;
  double farthest = 0.0;
  for (const auto& [v, place] : places) {
    moves[v] = place.at - sheet.draft.mesh.vertices[v];
    farthest = std::max(farthest, moves[v].norm());
  }
  if (moves.size() < 2)
    return fail(Errc::no_solution,
        "The " + upper.name + " nowhere reaches the rim of the " + lower.name + "; make it wider, or move it.",
        "meets");
  if (farthest > kFarthestMm)
    return fail(Errc::no_solution,
        "The edge of the " + upper.name + " lies up to " + fixed(farthest, 0) + " mm from the rim of the " +
            lower.name + "; edges are drawn together over " + fixed(kFarthestMm, 0) +
            " mm at most. Give both about the same distance from the head.",
        "meets");
  sheet.move(faded(sheet.draft.mesh, moves, std::max(30.0, 3.0 * farthest)));
  for (const auto& [chain, closed] : sheet.rims())
    for (std::size_t i = 0; i + (closed ? 0 : 1) < chain.size(); ++i) {
      const int a = chain[i], b = chain[(i + 1) % chain.size()];
      if (places.count(a) != 0 && places.count(b) != 0)
        sheet.split_rim(a, b, between(within.rims(), places.at(a), places.at(b)));
    }

  Met met;
  met.upper = sheet.form();
  const Mesh here = sheet.whole();
  const RimLines own(here);
  const OpenField near_here(here);
  const auto normals = vertex_normals(here);
  const auto mitre = [](const Vec3& one, const Vec3& other_one) { return Vec3(one + other_one); };
  const Rim rim = tilt_rims(
      met.upper, here, [&](const Vec3& p) { return within.rims().nearest(p).far_mm < kOnCutMm; },
      [&](const Vec3& p, const Vec3& own_normal) { return mitre(own_normal, within.normal_at(p)); });
  met.lower = *lower.form;
  tilt_rims(
      *met.lower, middle_of(lower), [&](const Vec3& p) { return own.nearest(p).far_mm < 0.5; },
      [&](const Vec3& p, const Vec3& own_normal) {
        return mitre(own_normal, value_at(near_here.hit(p), here, normals).normalized());
      });
  met.line_mm = rim.mm, met.steepest_deg = steepest_deg(rim);
  return met;
}

namespace {

struct Node {
  double at_mm = 0.0;
  int one = -1, other = -1;  ///< corner of either rim; -1: none there yet
};

/// Both rims as one row of corners along the first: near ones are one, the rest are to be made on the other.
std::vector<Node> woven(
    const MiddleSheet& a, const std::vector<int>& one, const MiddleSheet& b, std::vector<int> other, bool closed) {
  std::reverse(other.begin(), other.end());
  std::vector<double> at(one.size() + 1, 0.0);
  for (std::size_t i = 0; i < one.size(); ++i)
    at[i + 1] = at[i] + (a.draft.mesh.vertices[one[(i + 1) % one.size()]] - a.draft.mesh.vertices[one[i]]).norm();
  const std::size_t steps = closed ? one.size() : one.size() - 1;
  const auto along = [&](const Vec3& p) {
    double best = 1e300, where = 0.0;
    for (std::size_t i = 0; i < steps; ++i) {
      double share = 0.0;
      const Vec3 q = closest_on_stretch(
          p, a.draft.mesh.vertices[one[i]], a.draft.mesh.vertices[one[(i + 1) % one.size()]], &share);
      if ((p - q).norm() < best) best = (p - q).norm(), where = at[i] + share * (at[i + 1] - at[i]);
    }
    return where;
  };
  std::vector<double> places;
  for (const int w : other) places.push_back(along(b.draft.mesh.vertices[w]));
  if (closed) {
    const auto first = std::min_element(places.begin(), places.end()) - places.begin();
    std::rotate(places.begin(), places.begin() + first, places.end());
    std::rotate(other.begin(), other.begin() + first, other.end());
  }
  std::vector<Node> nodes;
  for (std::size_t i = 0; i < one.size(); ++i) nodes.push_back({at[i], one[i], -1});
  std::size_t from = 0;
  const std::size_t count = nodes.size();
  double last = -1.0;
  for (std::size_t k = 0; k < other.size(); ++k) {
    places[k] = std::max(places[k], last);
    const bool end = !closed && (k == 0 || k + 1 == other.size());
    std::size_t best = count;
    double near = end ? 1e300 : kOneCornerMm;
    for (std::size_t i = from; i < count; ++i)
      if (const double far = std::abs(nodes[i].at_mm - places[k]);
          far < near && (!end || i == (k == 0 ? 0 : count - 1)))
        near = far, best = i;
    if (best < count) {
      nodes[best].other = other[k], from = best + 1, last = nodes[best].at_mm;
    } else {
      last = places[k] + 1e-6;
      nodes.push_back({last, -1, other[k]});
    }
  }
  std::stable_sort(nodes.begin(), nodes.end(), [](const Node& p, const Node& q) { return p.at_mm < q.at_mm; });
  return nodes;
}

/// Makes the corners of `there` that `here` lacks, between those it has.
void make_corners(MiddleSheet& here, int Node::*mine, const MiddleSheet& there, int Node::*theirs,
    std::vector<Node>& nodes, bool closed, bool forwards) {
  const std::size_t n = nodes.size();
  std::size_t start = 0;
  while (start < n && nodes[start].*mine < 0) ++start;
  for (std::size_t k = 0; k < n;) {
    const std::size_t i = (start + k) % n;
    std::size_t run = 1;
    while (run < n && nodes[(i + run) % n].*mine < 0) ++run;
    const std::size_t j = (i + run) % n;
    if (run > 1 && (closed || i + run < n)) {
      std::vector<Vec3> at;
      for (std::size_t s = 1; s < run; ++s) at.push_back(there.draft.mesh.vertices[nodes[(i + s) % n].*theirs]);
      if (!forwards) std::reverse(at.begin(), at.end());
      auto made = forwards ? here.split_rim(nodes[i].*mine, nodes[j].*mine, at)
                           : here.split_rim(nodes[j].*mine, nodes[i].*mine, at);
      if (!forwards) std::reverse(made.begin(), made.end());
      for (std::size_t s = 1; s < run; ++s) nodes[(i + s) % n].*mine = made[s - 1];
    }
    k += run;
  }
}

/// The rim of a sheet where a function is zero, as stretches.
std::vector<std::pair<std::vector<int>, bool>> cut_rims(
    const MiddleSheet& sheet, const std::function<double(const Vec3&)>& f) {
  std::vector<std::pair<std::vector<int>, bool>> all;
  for (const auto& [chain, closed] : sheet.rims())
    if (std::all_of(chain.begin(), chain.end(), [&](int v) { return std::abs(f(sheet.draft.mesh.vertices[v])) < 0.1; }))
      all.push_back({chain, closed});
  return all;
}

}  // namespace

Result<Met> one_skin(const MeetSide& upper, const MeetSide& lower) {
  if (std::abs(upper.thickness_mm - lower.thickness_mm) > 1e-6)
    return fail(Errc::out_of_range,
        "The " + upper.name + " is of " + fixed(upper.thickness_mm, 1) + " mm and the " + lower.name + " of " +
            fixed(lower.thickness_mm, 1) + " mm; one skin is of one thickness.",
        "meets");
  for (const MeetSide* side : {&upper, &lower})
    if (!side->form->flat.empty() || !side->form->sheets.empty())
      return fail(
          Errc::no_solution, "The " + side->name + " is cut flat and cannot be one skin with another part.", "meets");
  const bool halved = is_mirrored(*upper.form) && is_mirrored(*lower.form);
  MiddleSheet a(upper, halved), b(lower, halved);
  const OpenField field(carried_on(b.whole(), kFarthestMm));
  if (const double far = a.carry_on(field, kFarthestMm); far > kFarthestMm)
    return fail(Errc::no_solution,
        "The " + upper.name + " ends " + fixed(far, 0) + " mm above the " + lower.name + "; skins meet within " +
            fixed(kFarthestMm, 0) + " mm.",
        "meets");
  const OpenField tube(a.whole());
  const double before = area_mm2(b.draft.mesh);
  a.cut(field), b.cut(tube);
  if (a.draft.mesh.triangles.empty() || b.draft.mesh.triangles.empty())
    return fail(Errc::degenerate_shape,
        "One of the " + upper.name + " and the " + lower.name + " lies wholly inside the other.", "meets");
  a.drop_crumbs(kCrumbShare), b.drop_crumbs(kCrumbShare);
  const auto ones = cut_rims(a, field), others = cut_rims(b, tube);
  if (ones.empty() || ones.size() != others.size())
    return fail(Errc::no_solution,
        "The " + upper.name + " and the " + lower.name +
            " do not cross along lines that close, so they cannot be one skin; move the " + upper.name +
            " well within the " + lower.name + ".",
        "meets");
  Met met;
  met.hole_mm2 = (before - area_mm2(b.draft.mesh)) * (halved ? 2.0 : 1.0);
  std::map<int, int> same;
  for (const auto& [one, closed] : ones) {
    const auto middle = [](const MiddleSheet& s, const std::vector<int>& chain) {
      Vec3 sum = Vec3::Zero();
      for (const int v : chain) sum += s.draft.mesh.vertices[v] / static_cast<double>(chain.size());
      return sum;
    };
    const auto other = std::min_element(others.begin(), others.end(), [&](const auto& p, const auto& q) {
      return (middle(b, p.first) - middle(a, one)).norm() < (middle(b, q.first) - middle(a, one)).norm();
    });
    if (other->second != closed)
      return fail(Errc::no_solution,
          "The line where the " + upper.name + " and the " + lower.name + " cross runs over an edge; move it.",
          "meets");
    auto nodes = woven(a, one, b, other->first, closed);
    const MiddleSheet a_before = a;
    make_corners(a, &Node::one, b, &Node::other, nodes, closed, true);
    make_corners(b, &Node::other, a_before, &Node::one, nodes, closed, false);
    for (const Node& node : nodes) same[node.one] = node.other;
    for (std::size_t i = 0; i + (closed ? 0 : 1) < nodes.size(); ++i)
      met.line_mm +=
          (a.draft.mesh.vertices[nodes[(i + 1) % nodes.size()].one] - a.draft.mesh.vertices[nodes[i].one]).norm() *
          (halved ? 2.0 : 1.0);
  }
  for (const auto& [one, other] : same) b.draft.mesh.vertices[other] = a.draft.mesh.vertices[one];
  b.take_in(a, same, upper.name + " on " + lower.name);
  met.lower = b.form();
  return met;
}

}  // namespace awl
