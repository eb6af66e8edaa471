#include "core/seam/alter.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/seam/follow.hpp"

namespace awl {
namespace {

constexpr double kNothingMm = 1e-6;
constexpr double kDecayMm = 30.0;  // the neighbouring edge takes an end's move up within this, or four times the move

using EdgeKey = std::pair<int, int>;

/// How far each vertex of an altered line moves, by the form's vertices.
using Amounts = std::map<int, double>;

/// Chains of edges from end to end, the upper (or front) end first; where along each vertex lies, 0 to 1.
Amounts amounts_along(const std::set<EdgeKey>& edges, const std::vector<Vec3>& places, const Alteration& a) {
  std::map<int, std::vector<int>> next;
  for (const auto& [p, q] : edges) next[p].push_back(q), next[q].push_back(p);
  const auto earlier = [&](int v, int w) {
    const double dy = places[v].y() - places[w].y();
    return std::abs(dy) > 1.0 ? dy > 0.0 : places[v].z() > places[w].z();
  };
  Amounts amounts;
  while (!next.empty()) {
    int start = -1;
    for (const auto& [v, others] : next)
      if (others.size() == 1 && (start < 0 || earlier(v, start))) start = v;
    if (start < 0)
      for (const auto& [v, others] : next)
        if (start < 0 || earlier(v, start)) start = v;
    std::vector<int> chain{start};
    std::vector<double> at{0.0};
    for (int now = start;;) {
      const auto& others = next[now];
      const auto on = std::find_if(
          others.begin(), others.end(), [&](int w) { return std::find(chain.begin(), chain.end(), w) == chain.end(); });
      if (on == others.end()) break;
      at.push_back(at.back() + (places[*on] - places[now]).norm());
      chain.push_back(now = *on);
    }
    const double whole = std::max(at.back(), 1e-9);
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const double s = at[i] / whole;  // the parabola through the three amounts
      amounts[chain[i]] =
          a.first_mm * (1 - s) * (1 - 2 * s) + a.middle_mm * 4 * s * (1 - s) + a.last_mm * s * (2 * s - 1);
      next.erase(chain[i]);
    }
  }
  return amounts;
}

Vec2 inward(const Vec2& a, const Vec2& b) { return Vec2(a.y() - b.y(), b.x() - a.x()).normalized(); }

/// Where the border vertices of a flat panel go; `moved` says which border edges are altered and `amount` by how much.
std::map<int, Vec2> border_moves(const Panel& p, const std::vector<char>& moved, const Amounts& amount, double share) {
  const int n = static_cast<int>(p.border.size());
  std::map<int, Vec2> moves;
  const auto flat = [&](int i) { return p.flat[p.border[((i % n) + n) % n].a]; };
  const auto is_moved = [&](int i) { return moved[((i % n) + n) % n] != 0; };
  std::vector<Vec2> step(n, Vec2::Zero());
  for (int i = 0; i < n; ++i) {
    const bool before = is_moved(i - 1), after = is_moved(i);
    if (!before && !after) continue;
    const double mm = share * amount.at(p.vertex_of[p.border[i].a]);
    Vec2 normal = Vec2::Zero();
    if (before) normal += inward(flat(i - 1), flat(i));
    if (after) normal += inward(flat(i), flat(i + 1));
    normal.normalize();
    step[i] = mm * normal;
    if (before && after) continue;
    // An end: along the neighbouring edge, so that this one only gets shorter or longer.
    const Vec2 aside = (before ? flat(i + 1) - flat(i) : flat(i - 1) - flat(i)).normalized();
    if (aside.dot(normal) > 0.5) step[i] = mm / aside.dot(normal) * aside;
  }
  // Beyond an end the neighbouring edge takes the move up.
  for (int i = 0; i < n; ++i) {
    const bool before = is_moved(i - 1), after = is_moved(i);
    if (before == after || step[i].norm() < kNothingMm) continue;
    const double reach = std::max(kDecayMm, 4.0 * step[i].norm());
    double along = 0.0;
    for (int k = 1; k < n; ++k) {
      const int at = ((before ? i + k : i - k) % n + n) % n, from = ((before ? i + k - 1 : i - k + 1) % n + n) % n;
      along += (flat(at) - flat(from)).norm();
      if (along >= reach || is_moved(before ? at - 1 : at)) break;
      step[at] += (1.0 - along / reach) * step[i];
    }
  }
  for (int i = 0; i < n; ++i) moves[p.border[i].a] = step[i];
  for (const auto& hole : p.holes)
    for (const int v : hole) moves.try_emplace(v, Vec2::Zero());
  return moves;
}

/// Where the flat panel lies once its border was moved.
std::vector<Vec2> lies_moved(const Panel& p, const std::map<int, Vec2>& moves) {
  std::vector<int> moved;
  Eigen::MatrixXd by(static_cast<Eigen::Index>(2 * moves.size()), 1);
  for (const auto& [v, move] : moves) {
    by.block<2, 1>(static_cast<Eigen::Index>(2 * moved.size()), 0) = move;
    moved.push_back(v);
  }
  const Eigen::MatrixXd all = followed(p, moved, by);
  std::vector<Vec2> flat = p.flat;
  for (std::size_t v = 0; v < flat.size(); ++v) flat[v] += all.block<2, 1>(static_cast<Eigen::Index>(2 * v), 0);
  return flat;
}

bool lies_well(const Panel& p, const std::vector<Vec2>& flat) {
  if (count_flips(p.solid, flat) > p.flipped) return false;
  std::vector<Vec2> outline;
  for (const BorderEdge& e : p.border) outline.push_back(flat[e.a]);
  return p.overlaps || !crosses_itself(outline);
}

Error at(const Alteration& a, Errc code, const std::string& text) {
  return {code, text, "alterations/" + std::to_string(a.id)};
}

/// The edges of the form an alteration is at: a seam's, or the free ones of a panel.
std::set<EdgeKey> own_edges(const PanelSet& set, const Alteration& a) {
  std::set<EdgeKey> edges;
  if (!a.seam.empty()) {
    for (const auto& [edge, id] : set.form.seam_of)
      if (set.form.seam_names[id.value] == a.seam) edges.insert(edge);
  } else {
    for (const Panel& p : set.panels)
      if (p.name == a.panel)
        for (const BorderEdge& e : p.border)
          if (!e.seam.valid()) edges.insert(edge_of(p.vertex_of[e.a], p.vertex_of[e.b]));
  }
  return edges;
}

bool has_image(const PanelSet& set, const Alteration& a) { return a.mirrored && !set.form.twin_of.empty(); }

/// The same with those of its mirror image.
std::set<EdgeKey> edges_of(const PanelSet& set, const Alteration& a) {
  auto edges = own_edges(set, a);
  if (has_image(set, a))
    for (const auto& [p, q] : std::set<EdgeKey>(edges)) edges.insert(edge_of(set.form.twin_of[p], set.form.twin_of[q]));
  return edges;
}

/// Whether the alteration is for this panel: it names none, this one, or, mirrored, its image.
bool concerns(const PanelSet& set, const Panel& p, const Alteration& a) {
  if (a.panel.empty() || p.name == a.panel) return true;
  if (!a.mirrored) return false;
  const auto named =
      std::find_if(set.panels.begin(), set.panels.end(), [&](const Panel& o) { return o.name == a.panel; });
  return named != set.panels.end() &&
      ((p.mirror_of && *p.mirror_of == named->id) || (named->mirror_of && *named->mirror_of == p.id));
}

/// How much of the move a panel bears, in eighths of it.
double most_share(const Panel& p, const std::vector<char>& moved, const Amounts& amounts, double share) {
  for (int eighths = 7; eighths > 0; --eighths)
    if (lies_well(p, lies_moved(p, border_moves(p, moved, amounts, share * eighths / 8.0)))) return eighths / 8.0;
  return 0.0;
}

Result<void> apply(PanelSet& set, const Alteration& a, const std::vector<Vec3>& places) {
  const auto edges = edges_of(set, a);
  if (edges.empty())
    return fail(at(a, Errc::unknown_name,
        a.seam.empty()
            ? "The piece " + a.panel + " that was altered at its free edge is not there any more, or has none."
            : "The seam " + a.seam + " that was altered is not there any more."));
  // Along the seam itself: its image may meet it at the crown, and is no part of its length.
  Amounts amounts = amounts_along(own_edges(set, a), places, a);
  if (has_image(set, a))
    for (const auto& [v, mm] : Amounts(amounts)) amounts.try_emplace(set.form.twin_of[v], mm);
  bool any = false;
  for (Panel& p : set.panels) {
    if (!concerns(set, p, a) || p.mirror_of) continue;
    std::vector<char> moved;
    for (const BorderEdge& e : p.border)
      moved.push_back(edges.count(edge_of(p.vertex_of[e.a], p.vertex_of[e.b])) != 0 ? 1 : 0);
    if (std::count(moved.begin(), moved.end(), 1) == 0) continue;
    any = true;
    const double share = a.seam.empty() || !a.panel.empty() ? 1.0 : 0.5;
    auto flat = lies_moved(p, border_moves(p, moved, amounts, share));
    if (!lies_well(p, flat)) {
      const double most = most_share(p, moved, amounts, share);
      return fail(at(a, Errc::out_of_range,
          "The piece " + p.name + " would cross itself when it is altered by " +
              fixed(std::max({std::abs(a.first_mm), std::abs(a.middle_mm), std::abs(a.last_mm)}), 1) + " mm there; " +
              (most > 0.0 ? "about " + fixed(100.0 * most, 0) + " % of that works." : "it bears nothing more there.")));
    }
    if (p.before.empty()) p.before = p.flat;
    p.flat = std::move(flat);
  }
  if (!any)
    return fail(at(a, Errc::unknown_name,
        "The piece " + a.panel + " that was altered does not lie at the seam " + a.seam + " any more."));
  return {};
}

/// Pairs that are altered on one side only are no pairs any more.
void part_pairs(PanelSet& set, const std::vector<Alteration>& alterations) {
  for (const Alteration& a : alterations) {
    if (a.mirrored) continue;
    const auto edges = edges_of(set, a);
    std::set<int> touched;
    for (const Panel& p : set.panels)
      for (const BorderEdge& e : p.border)
        if (edges.count(edge_of(p.vertex_of[e.a], p.vertex_of[e.b])) != 0 && concerns(set, p, a))
          touched.insert(p.id.value);
    for (Panel& p : set.panels)
      if (p.mirror_of && (touched.count(p.id.value) != 0 || touched.count(p.mirror_of->value) != 0)) {
        const Panel& left = set.panels[p.mirror_of->value];
        p.strain = left.strain, p.face_strain = left.face_strain, p.mirror_of.reset();
      }
  }
}

/// Both sides of every stretch of seam between two panels, lower panel number first.
struct SeamStretch {
  double mm[2] = {0.0, 0.0};
  std::set<int> along;  // vertices of the form
};
std::map<std::array<int, 3>, SeamStretch> stretches_of(const PanelSet& set) {
  std::map<EdgeKey, std::vector<std::pair<const Panel*, const BorderEdge*>>> sides;
  for (const Panel& p : set.panels)
    for (const BorderEdge& e : p.border)
      if (e.seam.valid()) sides[edge_of(p.vertex_of[e.a], p.vertex_of[e.b])].push_back({&p, &e});
  std::map<std::array<int, 3>, SeamStretch> stretches;
  for (const auto& [edge, both] : sides) {
    if (both.size() != 2) continue;
    SeamStretch& s = stretches[{both[0].second->seam.value, both[0].first->id.value, both[1].first->id.value}];
    s.along.insert({edge.first, edge.second});
    for (int k = 0; k < 2; ++k)
      s.mm[k] += (both[k].first->flat[both[k].second->a] - both[k].first->flat[both[k].second->b]).norm();
  }
  return stretches;
}

void measure_sides(PanelSet& set) {
  for (Seam& s : set.seams) s.side_mm = {0.0, 0.0};
  for (const auto& [key, stretch] : stretches_of(set))
    for (int k = 0; k < 2; ++k) set.seams[key[0]].side_mm[k] += stretch.mm[k];
}

}  // namespace

Result<void> check_alteration(const Alteration& a) {
  const std::string where = "alterations/" + std::to_string(a.id);
  if (a.seam.empty() && a.panel.empty())
    return fail(Errc::empty_input, "Say at which seam, or at which piece's free edge.", where);
  for (const double mm : {a.first_mm, a.middle_mm, a.last_mm})
    if (!(std::abs(mm) <= kMostAlteredMm))
      return fail(Errc::out_of_range,
          fixed(mm, 1) + " mm is too much to take in or let out at one seam; " + fixed(kMostAlteredMm, 0) +
              " mm is the most.",
          where);
  return {};
}

std::string words_of(const Alteration& a) {
  const double most = std::abs(a.middle_mm) >= std::max(std::abs(a.first_mm), std::abs(a.last_mm)) ? a.middle_mm
      : std::abs(a.first_mm) > std::abs(a.last_mm)                                                 ? a.first_mm
                                                                                                   : a.last_mm;
  const bool even = a.first_mm == a.middle_mm && a.last_mm == a.middle_mm;
  const std::string at =
      a.seam.empty() ? "the free edge of " + a.panel : "seam " + a.seam + (a.panel.empty() ? "" : ", on " + a.panel);
  return fixed(std::abs(most), 1) + " mm " +
      (a.on_foam           ? "cut off on the foam"
              : most < 0.0 ? "let out"
                           : "taken in") +
      " at " + at + (even ? "" : ", tapering") + (a.note.empty() ? "" : ": " + a.note);
}

Result<PanelSet> alter(PanelSet set, const std::vector<Alteration>& alterations) {
  std::vector<Vec3> places = set.form.mesh.vertices;
  for (const Panel& p : set.panels)
    for (std::size_t v = 0; v < p.vertex_of.size(); ++v) places[p.vertex_of[v]] = p.solid.vertices[v];
  part_pairs(set, alterations);
  for (const Alteration& a : alterations) {
    if (auto good = check_alteration(a); !good) return fail(good);
    if (auto done = apply(set, a, places); !done) return fail(done);
  }
  for (Panel& right : set.panels) {
    if (!right.mirror_of) continue;
    const Panel& left = set.panels[right.mirror_of->value];
    right.flat = left.flat, right.before = left.before;
    for (auto* flat : {&right.flat, &right.before})
      for (Vec2& p : *flat) p.x() = -p.x();
  }
  measure_sides(set);
  return set;
}

Result<void> alter_one(const PanelSet& set, const Alteration& alteration) {
  auto altered = alter(set, {alteration});
  if (!altered) return fail(altered);
  return {};
}

std::vector<RimGirth> rim_girths(const PanelSet& set) {
  std::map<EdgeKey, std::pair<double, double>> length;
  for (const Panel& p : set.panels)
    for (const BorderEdge& e : p.border) {
      if (e.seam.valid()) continue;
      const double after = (p.flat[e.a] - p.flat[e.b]).norm();
      length[edge_of(p.vertex_of[e.a], p.vertex_of[e.b])] = {
          p.before.empty() ? after : (p.before[e.a] - p.before[e.b]).norm(), after};
    }
  std::vector<RimGirth> rims;
  for (const auto& loop : border_loops(set.form.mesh)) {
    RimGirth rim;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const auto it = length.find(edge_of(loop[i], loop[(i + 1) % loop.size()]));
      rim.at += set.form.mesh.vertices[loop[i]] / static_cast<double>(loop.size());
      if (it != length.end()) rim.before_mm += it->second.first, rim.after_mm += it->second.second;
    }
    rims.push_back(rim);
  }
  return rims;
}

namespace {

/// The seam that leads straight on where one that was altered meets this one, on the other side of it.
std::string goes_on(const PanelSet& set, const Seam& unequal) {
  std::set<int> own;
  for (const auto& [edge, id] : set.form.seam_of)
    if (id == unequal.id) own.insert(edge.first), own.insert(edge.second);
  std::map<int, double> changed;  // seam -> by how much its panels' flats moved along it
  for (const Panel& p : set.panels)
    if (!p.before.empty())
      for (const BorderEdge& e : p.border)
        if (e.seam.valid() && e.seam != unequal.id) changed[e.seam.value] += (p.flat[e.a] - p.before[e.a]).norm();
  std::string best;
  double straightest = -0.6;
  const auto& places = set.form.mesh.vertices;
  for (const int v : own) {
    std::vector<std::pair<int, Vec3>> here;  // seams that end here, and where they lead
    for (const auto& [edge, id] : set.form.seam_of)
      if (id != unequal.id && (edge.first == v || edge.second == v))
        here.push_back({id.value, (places[edge.first == v ? edge.second : edge.first] - places[v]).normalized()});
    for (const auto& [seam, leads] : here)
      for (const auto& [other, back] : here)
        if (seam != other && changed[other] > 1.0 && changed[seam] < 0.5 * changed[other] &&
            leads.dot(back) < straightest)
          straightest = leads.dot(back), best = set.form.seam_names[seam];
  }
  return best;
}

}  // namespace

std::vector<UnequalSeam> unequal_seams(const PanelSet& set, double least_mm) {
  std::vector<UnequalSeam> unequal;
  std::set<int> free;
  for (const auto& loop : border_loops(set.form.mesh)) free.insert(loop.begin(), loop.end());
  for (const auto& [key, stretch] : stretches_of(set)) {
    const double by = stretch.mm[0] - stretch.mm[1];
    if (std::abs(by) <= least_mm) continue;
    unequal.push_back({SeamId{key[0]}, PanelId{key[by > 0.0 ? 1 : 2]}, PanelId{key[by > 0.0 ? 2 : 1]}, std::abs(by),
        std::max(stretch.mm[0], stretch.mm[1]), goes_on(set, set.seams[key[0]]),
        std::any_of(stretch.along.begin(), stretch.along.end(), [&](int v) { return free.count(v) != 0; })});
  }
  return unequal;
}

}  // namespace awl
