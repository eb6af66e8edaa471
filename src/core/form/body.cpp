#include "core/form/body.hpp"

#include <Eigen/Geometry>
#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

constexpr double kBodyEdgeMm = 6.0;

/// Where a body stands: its middle, and the seat's axes, the side one to the wearer's left for one on the middle line.
struct BodyFrame {
  Vec3 middle, side, up, out;
  bool half = false;     ///< only where `side` is positive
  bool flipped = false;  ///< side x up runs against out
  double home_x = 0.0;
};

/// A surface being put together in the body's own frame: across, up and outwards.
class BodyMesh {
 public:
  BodyMesh(Draft& draft, const BodyFrame& frame, const Vec3& size) : draft_(draft), frame_(frame), size_(size) {}

  int corner(const Vec3& own) {
    const double x = frame_.half && std::abs(own.x()) < 1e-9 ? 0.0 : own.x();
    Vec3 at = frame_.middle + x * frame_.side + own.y() * frame_.up + own.z() * frame_.out;
    if (frame_.half && x == 0.0) at.x() = 0.0;
    draft_.mesh.vertices.push_back(at);
    draft_.home.push_back(
        Vec3(frame_.home_x, 0, 0) + 200.0 * Vec3(x / size_.x(), own.y() / size_.y(), own.z() / size_.z()));
    return static_cast<int>(draft_.mesh.vertices.size()) - 1;
  }
  /// Counter-clockwise seen from outside, in the own frame.
  void triangle(int a, int b, int c) {
    if (frame_.flipped) std::swap(b, c);
    draft_.mesh.triangles.push_back({a, b, c});
  }
  void seam(int a, int b, int label) { draft_.seams[edge_of(a, b)] = label; }

 private:
  Draft& draft_;
  const BodyFrame& frame_;
  Vec3 size_;
};

/// A place of a profile: how far out of the foot to the top, the radius there as a share of half the breadth, and
/// whether a seam runs round it.
struct ProfileRing {
  double out = 0.0, share = 0.0;
  bool corner = false;
};

std::vector<ProfileRing> ball_profile(double deep_mm, double wide_mm) {
  const int rows = std::max(8, static_cast<int>(std::ceil(0.5 * kPi * std::max(deep_mm, wide_mm) / kBodyEdgeMm)));
  std::vector<ProfileRing> rings;
  for (int i = 0; i <= rows; ++i) {
    const double e = kPi * i / rows;
    rings.push_back({-0.5 * deep_mm * std::cos(e), i == 0 || i == rows ? 0.0 : std::sin(e), false});
  }
  return rings;
}

std::vector<ProfileRing> disc_profile(double deep_mm, double wide_mm, double rim_mm) {
  const double half = 0.5 * wide_mm, round = std::min({rim_mm, 0.49 * deep_mm, 0.8 * half});
  std::vector<ProfileRing> rings;
  const int rows = std::max(3, static_cast<int>(std::ceil((half - round) / kBodyEdgeMm)));
  for (int i = 0; i <= rows; ++i) rings.push_back({-0.5 * deep_mm, (half - round) / half * i / rows, i == rows});
  const int turns = round > 0.5 ? 4 : 0;  // sharp: the wall begins where the face ends
  for (int k = 1; k <= turns; ++k) {
    const double a = 0.5 * kPi * k / turns;
    rings.push_back({-0.5 * deep_mm + round * (1.0 - std::cos(a)), (half - round + round * std::sin(a)) / half, false});
  }
  const double wall = deep_mm - 2.0 * round;
  const int steps = std::max(1, static_cast<int>(std::ceil(wall / kBodyEdgeMm)));
  for (int i = 1; i <= steps; ++i) rings.push_back({-0.5 * deep_mm + round + wall * i / steps, 1.0, false});
  if (turns == 0) rings.back().corner = true;
  const std::size_t below = rings.size();
  for (std::size_t i = below - static_cast<std::size_t>(steps) - 1; i-- > 0;) {
    ProfileRing other = rings[i];
    other.out = -other.out;
    rings.push_back(other);
  }
  return rings;
}

/// A drawn profile from its foot to its top, both ends drawn in to the axis.
Result<std::vector<ProfileRing>> drawn_profile(const BodySpec& spec) {
  auto points = outline_of(spec);
  if (points.size() < 2)
    return fail(Errc::degenerate_shape, "An outline to be turned has two points at least.", "body/outline");
  double low = 1e300, high = -1e300, most = 0.0;
  for (const CurvePoint& p : points)
    low = std::min(low, p.at.y()), high = std::max(high, p.at.y()), most = std::max(most, p.at.x());
  if (high - low < 1.0 || most < 1.0)
    return fail(Errc::degenerate_shape, "The outline to be turned has no height or no breadth.", "body/outline");
  for (CurvePoint& p : points) {
    if (p.at.x() < -1e-9)
      return fail(Errc::degenerate_shape,
          "The outline to be turned crosses its axis by " + fixed(-p.at.x(), 1) + " mm; draw it on one side.",
          "body/outline");
    p.at = Vec2(p.at.x() / most, (p.at.y() - low) / (high - low));
  }
  const double half = 0.5 * std::max(spec.wide_mm, spec.tall_mm);
  for (CurvePoint& p : points) p.at = Vec2(p.at.x() * half, (p.at.y() - 0.5) * spec.deep_mm);
  if (points.front().at.x() > 0.0)
    points.insert(points.begin(), {Vec2(0.0, points.front().at.y()), true}), points[1].corner = true;
  if (points.back().at.x() > 0.0)
    points.back().corner = true, points.push_back({Vec2(0.0, points.back().at.y()), true});
  std::vector<ProfileRing> rings;
  const auto line = smooth_curve(points, false, 0.8 * kBodyEdgeMm);
  for (std::size_t i = 0; i < line.size(); ++i) {
    const bool end = i == 0 || i + 1 == line.size();
    if (!end && line[i].x() < 0.2)
      return fail(Errc::degenerate_shape, "The outline to be turned touches its axis on the way; only its ends may.",
          "body/outline");
    const bool corner = !end && std::any_of(points.begin(), points.end(), [&](const CurvePoint& p) {
      return p.corner && p.at.x() > 0.2 && (p.at - line[i]).norm() < 1e-6;
    });
    rings.push_back({line[i].y(), end ? 0.0 : line[i].x() / half, corner});
  }
  return rings;
}

/// Rings about the outward axis, cut lengthwise in strips and round at corners.
void add_turned(
    Draft& draft, const BodySpec& spec, const BodyFrame& frame, const std::vector<ProfileRing>& rings, bool strips) {
  BodyMesh mesh(draft, frame, {spec.wide_mm, spec.tall_mm, spec.deep_mm});
  const int pieces = strips ? spec.strips : 1;
  const double girth = 0.5 * kPi * (spec.wide_mm + spec.tall_mm);
  int columns = pieces * std::max(2, static_cast<int>(std::round(girth / (kBodyEdgeMm * pieces))));
  columns = std::clamp(columns, 12, 160);
  columns -= columns % pieces;
  if (frame.half && columns % 2 != 0) columns *= 2;
  const int across = frame.half ? columns / 2 : columns, count = across + (frame.half ? 1 : 0);
  const int foot = mesh.corner({0, 0, rings.front().out});
  std::vector<std::vector<int>> rows;
  for (std::size_t r = 1; r + 1 < rings.size(); ++r) {
    std::vector<int> row;
    for (int c = 0; c < count; ++c) {
      const double a = kTwoPi * c / columns;
      const double s = frame.half && 2 * c == columns ? 0.0 : std::sin(a);
      row.push_back(mesh.corner(
          {0.5 * spec.wide_mm * rings[r].share * s, 0.5 * spec.tall_mm * rings[r].share * std::cos(a), rings[r].out}));
    }
    rows.push_back(std::move(row));
  }
  const int top = mesh.corner({0, 0, rings.back().out});
  for (int c = 0; c < across; ++c) {
    const int d = (c + 1) % count;
    mesh.triangle(foot, rows[0][c], rows[0][d]);
    for (std::size_t r = 0; r + 1 < rows.size(); ++r)
      mesh.triangle(rows[r][c], rows[r + 1][c], rows[r][d]), mesh.triangle(rows[r][d], rows[r + 1][c], rows[r + 1][d]);
    mesh.triangle(rows.back()[c], top, rows.back()[d]);
  }
  // A disc's flat faces need no strips: only its wall is cut once.
  std::size_t first = 0, last = rows.size();
  if (!strips) {
    while (first < rows.size() && !rings[first + 1].corner) ++first;
    last = rows.size();
    while (last > 0 && !rings[last].corner) --last;
  }
  for (int k = 0; k < pieces; ++k) {
    const int column = k * columns / pieces;
    if (column > across || (!frame.half && column == columns)) break;
    const int label = draft.seam(strips ? "strip " + std::to_string(k + 1) : "wall");
    if (strips) mesh.seam(foot, rows[0][column], label), mesh.seam(rows.back()[column], top, label);
    for (std::size_t r = first; r + 1 < last; ++r) mesh.seam(rows[r][column], rows[r + 1][column], label);
  }
  int ring = 0;
  for (std::size_t r = 0; r < rows.size(); ++r) {
    if (!rings[r + 1].corner) continue;
    const int label = draft.seam("round " + std::to_string(++ring));
    for (int c = 0; c < across; ++c) mesh.seam(rows[r][c], rows[r][(c + 1) % count], label);
  }
}

/// Six faces, their edges seams.
void add_box(Draft& draft, const BodySpec& spec, const BodyFrame& frame) {
  const Vec3 size(spec.wide_mm, spec.tall_mm, spec.deep_mm);
  BodyMesh mesh(draft, frame, size);
  std::array<int, 3> steps{};
  for (int k = 0; k < 3; ++k)
    steps[k] = 2 * std::clamp(static_cast<int>(std::ceil(size[k] / (2.0 * kBodyEdgeMm))), 1, 40);
  std::map<std::array<int, 3>, int> known;
  const auto corner = [&](const std::array<int, 3>& at) {
    const auto it = known.find(at);
    if (it != known.end()) return it->second;
    Vec3 own;
    for (int k = 0; k < 3; ++k) own[k] = size[k] * (static_cast<double>(at[k]) / steps[k] - 0.5);
    return known[at] = mesh.corner(own);
  };
  const char* names[3][2] = {{"inner", "outer"}, {"lower", "upper"}, {"back", "front"}};
  std::map<std::string, int> labels;
  const auto on_edge = [&](const std::array<int, 3>& p, const std::array<int, 3>& q, int a, int b) {
    if (frame.half && p[0] * 2 == steps[0] && q[0] * 2 == steps[0]) return;
    std::string name;
    int sides = 0;
    for (int k = 0; k < 3; ++k)
      if (p[k] == q[k] && (p[k] == 0 || p[k] == steps[k])) {
        const bool high = p[k] != 0;
        name += (name.empty() ? "" : " ") + std::string(names[k][high ? 1 : 0]);
        ++sides;
      }
    if (sides < 2) return;
    const auto [it, fresh] = labels.try_emplace(name, 0);
    if (fresh) it->second = draft.seam(name);
    mesh.seam(a, b, it->second);
  };
  for (int axis = 0; axis < 3; ++axis)
    for (const int high : {0, 1}) {
      if (frame.half && axis == 0 && high == 0) continue;
      const int u = (axis + 1) % 3, v = (axis + 2) % 3;
      for (int i = u == 0 && frame.half ? steps[0] / 2 : 0; i < steps[u]; ++i)
        for (int j = v == 0 && frame.half ? steps[0] / 2 : 0; j < steps[v]; ++j) {
          std::array<std::array<int, 3>, 4> at{};
          for (int k = 0; k < 4; ++k) {
            at[k][axis] = high != 0 ? steps[axis] : 0;
            at[k][u] = i + (k == 1 || k == 2 ? 1 : 0), at[k][v] = j + (k >= 2 ? 1 : 0);
          }
          std::array<int, 4> w{};
          for (int k = 0; k < 4; ++k) w[k] = corner(at[k]);
          if (high != 0)
            mesh.triangle(w[0], w[1], w[2]), mesh.triangle(w[0], w[2], w[3]);
          else
            mesh.triangle(w[0], w[2], w[1]), mesh.triangle(w[0], w[3], w[2]);
          for (int k = 0; k < 4; ++k) on_edge(at[k], at[(k + 1) % 4], w[k], w[(k + 1) % 4]);
        }
    }
}

/// Edges across the region from rim to rim get a corner in their middle, or both skins would meet along them.
void part_chords(FlatMesh& flat) {
  std::map<std::pair<int, int>, int> sides, middles;
  for (const Tri& t : flat.triangles)
    for (int k = 0; k < 3; ++k) ++sides[edge_of(t[k], t[(k + 1) % 3])];
  std::vector<char> rim(flat.vertices.size(), 0);
  for (const auto& [edge, count] : sides)
    if (count == 1) rim[edge.first] = rim[edge.second] = 1;
  for (const auto& [edge, count] : sides) {
    if (count != 2 || rim[edge.first] == 0 || rim[edge.second] == 0) continue;
    middles[edge] = static_cast<int>(flat.vertices.size());
    flat.vertices.push_back(0.5 * (flat.vertices[edge.first] + flat.vertices[edge.second]));
  }
  std::vector<Tri> todo = std::move(flat.triangles);
  flat.triangles.clear();
  while (!todo.empty()) {
    const Tri t = todo.back();
    todo.pop_back();
    int k = 0;
    while (k < 3 && middles.count(edge_of(t[k], t[(k + 1) % 3])) == 0) ++k;
    if (k == 3) {
      flat.triangles.push_back(t);
      continue;
    }
    const int a = t[k], b = t[(k + 1) % 3], c = t[(k + 2) % 3], m = middles.at(edge_of(a, b));
    todo.push_back({a, m, c});
    todo.push_back({m, b, c});
  }
}

/// Heights of a skin blown up over a flat region: the root of what solves the Poisson equation with nothing on its rim.
Eigen::VectorXd blown_up(const FlatMesh& flat, const std::vector<char>& rim) {
  const int n = static_cast<int>(flat.vertices.size());
  std::vector<int> number(n, -1);
  int count = 0;
  for (int v = 0; v < n; ++v)
    if (rim[v] == 0) number[v] = count++;
  std::vector<Eigen::Triplet<double>> entries;
  Eigen::VectorXd load = Eigen::VectorXd::Zero(count), heights = Eigen::VectorXd::Zero(n);
  if (count == 0) return heights;
  for (const Tri& t : flat.triangles) {
    const Vec2 e[3] = {flat.vertices[t[2]] - flat.vertices[t[1]], flat.vertices[t[0]] - flat.vertices[t[2]],
        flat.vertices[t[1]] - flat.vertices[t[0]]};
    const double area = 0.5 * std::abs(e[0].x() * e[1].y() - e[0].y() * e[1].x());
    if (area < 1e-12) continue;
    for (int i = 0; i < 3; ++i) {
      if (number[t[i]] < 0) continue;
      load[number[t[i]]] += area / 3.0;
      for (int j = 0; j < 3; ++j)
        if (number[t[j]] >= 0) entries.emplace_back(number[t[i]], number[t[j]], e[i].dot(e[j]) / (4.0 * area));
    }
  }
  Eigen::SparseMatrix<double> matrix(count, count);
  matrix.setFromTriplets(entries.begin(), entries.end());
  const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(matrix);
  const Eigen::VectorXd solved = solver.solve(load);
  for (int v = 0; v < n; ++v)
    if (number[v] >= 0) heights[v] = std::sqrt(std::max(0.0, solved[number[v]]));
  return heights;
}

/// An outline blown up to both sides, a seam along it.
Result<void> add_inflated(Draft& draft, const BodySpec& spec, const BodyFrame& frame) {
  auto line = smooth_curve(outline_of(spec), true, kBodyEdgeMm);
  if (line.size() < 3) return fail(Errc::degenerate_shape, "An outline has three points at least.", "body/outline");
  Vec2 low = line[0], high = line[0];
  for (const Vec2& p : line) low = low.cwiseMin(p), high = high.cwiseMax(p);
  if ((high - low).minCoeff() < 1.0)
    return fail(Errc::degenerate_shape, "The outline has no breadth or no height.", "body/outline");
  // Its own size does not matter: the dials say how large it is.
  for (Vec2& p : line)
    p = Vec2((p.x() - 0.5 * (low.x() + high.x())) * spec.wide_mm / (high.x() - low.x()),
        (p.y() - 0.5 * (low.y() + high.y())) * spec.tall_mm / (high.y() - low.y()));
  Rings rings{line};
  if (frame.half) {
    const double far = spec.wide_mm + spec.tall_mm;
    rings = common(rings, {{Vec2(0, -far), Vec2(far, -far), Vec2(far, far), Vec2(0, far)}});
    std::sort(rings.begin(), rings.end(),
        [](const auto& a, const auto& b) { return signed_area_mm2(a) > signed_area_mm2(b); });
    if (rings.empty()) return fail(Errc::degenerate_shape, "Nothing of the outline lies to the left.", "body/outline");
    for (Vec2& p : rings.front())
      if (std::abs(p.x()) < 2e-3) p.x() = 0.0;
  }
  // Blown up as a whole, so that the middle line is no rim: a half is solved on its whole.
  auto flat = triangulate(rings.front(), {}, kBodyEdgeMm);
  if (!flat) return fail(flat.error().code, flat.error().text, "body/outline");
  part_chords(*flat);
  std::map<std::pair<int, int>, int> sides;
  for (const Tri& t : flat->triangles)
    for (int k = 0; k < 3; ++k) ++sides[edge_of(t[k], t[(k + 1) % 3])];
  const auto in_middle = [&](int v) { return frame.half && std::abs(flat->vertices[v].x()) < 1e-6; };
  std::vector<char> rim(flat->vertices.size(), 0);
  for (const auto& [edge, count] : sides)
    if (count == 1 && !(in_middle(edge.first) && in_middle(edge.second))) rim[edge.first] = rim[edge.second] = 1;
  const Eigen::VectorXd heights = blown_up(*flat, rim);
  const double most = std::max(1e-9, heights.maxCoeff());
  BodyMesh mesh(draft, frame, {spec.wide_mm, spec.tall_mm, spec.deep_mm});
  std::vector<int> front, back;
  for (std::size_t v = 0; v < flat->vertices.size(); ++v) {
    const Vec2& p = flat->vertices[v];
    const double h = 0.5 * spec.deep_mm * heights[static_cast<int>(v)] / most;
    front.push_back(mesh.corner({p.x(), p.y(), h}));
    back.push_back(rim[v] != 0 ? front.back() : mesh.corner({p.x(), p.y(), -h}));
  }
  for (const Tri& t : flat->triangles) {
    mesh.triangle(front[t[0]], front[t[1]], front[t[2]]);
    mesh.triangle(back[t[0]], back[t[2]], back[t[1]]);
  }
  const int label = draft.seam("rim");
  for (const auto& [edge, count] : sides)
    if (count == 1 && rim[edge.first] != 0 && rim[edge.second] != 0 &&
        !(in_middle(edge.first) && in_middle(edge.second)))
      mesh.seam(front[edge.first], front[edge.second], label);
  return {};
}

CurvePoint round_at(double x, double y) { return {{x, y}, false}; }
CurvePoint sharp_at(double x, double y) { return {{x, y}, true}; }

}  // namespace

std::vector<CurvePoint> outline_of(const BodySpec& spec) {
  if (spec.kind != BodyKind::turned && spec.kind != BodyKind::inflated) return {};
  if (!spec.outline.empty()) return spec.outline;
  if (spec.kind == BodyKind::turned)  // a knob on a neck
    return {sharp_at(22, 0), round_at(13, 10), round_at(11, 24), round_at(22, 42), round_at(26, 58), round_at(18, 74),
        sharp_at(0, 84)};
  return {sharp_at(0, 50), round_at(22, 24), round_at(30, -6), round_at(18, -36), sharp_at(0, -50), round_at(-18, -36),
      round_at(-30, -6), round_at(-22, 24)};  // a leaf
}

std::vector<Dial> dials_of(BodySpec& s) {
  const std::string body = "Body";
  Dials dials;
  dials.group(body);
  dials.choice("kind", s.kind, {"ball", "disc", "box", "outline turned", "outline blown up"}, "What it is",
      "An outline is drawn, or taken from a picture.");
  dials.length("wide", s.wide_mm, {8, 600}, "Across", "To both sides.");
  dials.length("tall", s.tall_mm, {8, 600}, "Up", "Along what it sits on.");
  dials.length("deep", s.deep_mm, {4, 600}, "Outwards", "From its foot to its top.");
  dials.length("sunk", s.sunk_mm, {-100, 300}, "Sunk in",
      "How far its foot lies below what it sits on; a minus lifts it off. Let it meet that, and it is cut there.");
  dials.choice("sides", s.sides, {"a pair", "on the middle line", "one by itself"}, "How many",
      "A pair is mirrored; on the middle line both its sides are alike.");
  dials.count("strips", s.strips, {2, 16}, "Strips", "Balls and turned ones: more lie flatter.");
  dials.length("rim", s.rim_mm, {0, 60}, "Rounding of a disc's rim", "None is a sharp edge.");
  dials.add(dials_of(s.seat));
  return std::move(dials).all();
}

Result<Draft> draft_body(const BodySpec& asked, const Site& site) {
  BodySpec spec = asked;
  if (auto good = check_dials(dials_of(spec), "body"); !good) return fail(good);
  const bool middle = spec.sides == BodySides::middle;
  if (middle) spec.seat = in_middle(spec.seat), spec.seat.spin_deg = std::abs(spec.seat.spin_deg) < 90.0 ? 0.0 : 180.0;
  const auto seat = seat_frame(site, spec.seat);
  if (!seat) return fail(seat);
  BodyFrame frame{seat->origin + (0.5 * spec.deep_mm - spec.sunk_mm) * seat->out, seat->side, seat->up, seat->out};
  frame.half = middle;
  if (middle && frame.side.x() < 0.0) frame.side = -frame.side;
  if (middle) frame.middle.x() = 0.0, frame.side = Vec3::UnitX(), frame.up.x() = frame.out.x() = 0.0;
  frame.flipped = frame.side.cross(frame.up).dot(frame.out) < 0.0;
  frame.home_x = spec.sides == BodySides::pair ? kPairHomeMm : 0.0;
  Draft draft;
  draft.outside = true, draft.mirrored = spec.sides != BodySides::one;
  switch (spec.kind) {
    case BodyKind::ball:
      add_turned(draft, spec, frame, ball_profile(spec.deep_mm, std::max(spec.wide_mm, spec.tall_mm)), true);
      break;
    case BodyKind::disc:
      add_turned(
          draft, spec, frame, disc_profile(spec.deep_mm, std::max(spec.wide_mm, spec.tall_mm), spec.rim_mm), false);
      break;
    case BodyKind::box:
      add_box(draft, spec, frame);
      break;
    case BodyKind::turned: {
      const auto rings = drawn_profile(spec);
      if (!rings) return fail(rings);
      add_turned(draft, spec, frame, *rings, true);
      break;
    }
    case BodyKind::inflated:
      if (auto done = add_inflated(draft, spec, frame); !done) return fail(done);
      break;
  }
  if (spec.sides == BodySides::pair)
    for (const Vec3& p : draft.mesh.vertices)
      if (p.x() < 0.5)
        return fail(Errc::degenerate_shape,
            "The pair meets in the middle of the head: one reaches " + fixed(0.5 - p.x(), 0) +
                " mm past it. Make it smaller, sit it further round, or choose one on the middle line.",
            "body/seat.around");
  draft.handles.push_back({"deep", frame.middle + 0.5 * spec.deep_mm * frame.out, frame.out, 1.0});
  draft.handles.push_back({"wide", frame.middle + 0.5 * spec.wide_mm * frame.side, frame.side, 2.0});
  draft.handles.push_back({"tall", frame.middle + 0.5 * spec.tall_mm * frame.up, frame.up, 2.0});
  return draft;
}

}  // namespace awl
