#include "core/seam/truing.hpp"

#include <Eigen/Cholesky>
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geom/nearest.hpp"
#include "core/seam/finer.hpp"
#include "core/seam/joined_sheets.hpp"
#include "core/seam/truing_moves.hpp"

namespace awl {
namespace {

// Weights of what counts, against a millimetre off over a square millimetre. Workshop values.
constexpr double kGirth = 100.0, kRimLength = 10.0, kSeam = 300.0, kStiff = 200.0, kStrain = 100.0, kStrainAt = 0.04;
constexpr double kLongestMoveMm = 8.0, kDamping = 1e-3, kEasier = 0.3, kHarder = 8.0;
constexpr int kStepTries = 5, kWarmSteps = 20;
constexpr double kP95GainMm = 0.01, kMostGainMm = 0.02;
constexpr double kStep = 1e-5;       // of differences, mm
constexpr double kLeastShare = 0.2;  // of its area a flat triangle keeps
constexpr int kHoldBacks = 2;
constexpr double kDearer = 4.0, kWorthwhile = 0.98;

using Flats = std::vector<std::vector<Vec2>>;
using Eigen::Index;

Flats flats_of(const PanelSet& set) {
  Flats flats;
  for (const Panel& p : set.panels) flats.push_back(p.flat);
  return flats;
}

PanelSet with_flats(PanelSet set, const Flats& flats) {
  for (std::size_t p = 0; p < set.panels.size(); ++p) set.panels[p].flat = flats[p];
  return set;
}

double turned_area(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }

/// What a flat triangle's stretch to its glued place counts, as a row: steep beyond four per cent.
double strain_row(const std::array<Vec2, 3>& flat, const std::array<Vec3, 3>& at) {
  const TriangleFrame rest = frame_of_triangle(
      Vec3(flat[0].x(), flat[0].y(), 0), Vec3(flat[1].x(), flat[1].y(), 0), Vec3(flat[2].x(), flat[2].y(), 0));
  Eigen::Matrix<double, 3, 2> f = Eigen::Matrix<double, 3, 2>::Zero();
  for (int k = 0; k < 3; ++k) f += at[k] * rest.gradients.col(k).transpose();
  const double e = (0.5 * (f.transpose() * f - Eigen::Matrix2d::Identity())).norm();
  return std::sqrt(rest.area_mm2) * std::min((e / kStrainAt) * (e / kStrainAt), 9.0) * e;
}

/// A rim's edges, by vertices of the form; of a half those of the half, which count twice.
struct RimLoop {
  std::vector<std::pair<int, int>> edges;
  double meant_mm = 0.0;
};

using ByRow = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>;

/// Rows that are to be small, and how they change with the numbers that move outlines.
struct Rows {
  Eigen::VectorXd value;
  ByRow change;
};

/// The state of one round: where outlines lie, and what gluing them came to.
struct State {
  Flats flats;
  std::vector<Vec3> places;  ///< of the unknowns, laid over the form
  std::vector<Vec3> whole;   ///< the same per vertex of the form
  Eigen::VectorXd rows;
  double cost = 0.0;
  TruthTold told;
};

class Truing {
 public:
  Truing(const PanelSet& set, const TruingOptions& options)
      : set_(set), options_(options), sheets_(joined_sheets(set, options.glue.keeps_bend)),
        moves_(set, sheets_.half, options.knot_mm),
        drawn_(flats_of(set)), form_{sheets_.meant, set.form.mesh.triangles}, surface_(form_),
        areas_(vertex_areas(form_)), normals_(vertex_normals(form_)) {
    find_rims();
    pairs_ = seam_pairs(set, sheets_.half);
    for (const TruingMoves::OfPanel& of : moves_.panels()) of_panel_[of.panel] = &of;
  }

  /// Where it lies once glued as drawn.
  Result<State> begin(const GluedUp& as_drawn, const Progress& progress) {
    State state;
    state.flats = drawn_;
    for (const int v : sheets_.vertex_of) state.places.push_back(as_drawn.places[v]);
    if (sheets_.half)
      for (const int v : sheets_.middle) state.places[v].x() = 0.0;
    return glued(std::move(state), options_.glue.most_steps, progress);
  }

  /// One step of Gauss and Newton with damping; nothing if none betters it.
  Result<std::optional<State>> step(const State& from, const Progress& progress) {
    const auto rows = rows_with_change(from);
    if (!rows) return fail(Errc::no_solution, "The glued pieces cannot be reckoned any further.");
    const Index n = rows->change.cols();
    Eigen::MatrixXd square = Eigen::MatrixXd::Zero(n, n);
    square.selfadjointView<Eigen::Lower>().rankUpdate(rows->change.transpose());
    const Eigen::VectorXd slope = rows->change.transpose() * rows->value;
    for (int attempt = 0; attempt < kStepTries; ++attempt) {
      if (!progress.keep_going(0.3 + 0.7 * attempt / kStepTries)) return fail(Errc::cancelled, "Stopped.");
      Eigen::MatrixXd damped = square;
      for (Index i = 0; i < n; ++i) damped(i, i) += damping_ * square(i, i) + 1e-9;
      const Eigen::VectorXd all = damped.ldlt().solve(-slope);
      const double hoped = (rows->value + rows->change * all).squaredNorm();
      if (hoped > kWorthwhile * from.cost) break;
      const Eigen::VectorXd by = all.head(moves_.count());
      State next;
      next.flats = moves_.moved(set_, from.flats, by);
      if (const double longest = longest_move(from.flats, next.flats); longest > kLongestMoveMm)
        next.flats = moves_.moved(set_, from.flats, kLongestMoveMm / longest * by);
      even_seams(set_, sheets_.half, next.flats);
      if (sound(next.flats)) {
        next.places = from.places;
        auto made = glued(std::move(next), kWarmSteps, progress.span(0.3, 1.0));
        if (!made && made.error().code == Errc::cancelled) return fail(made);
        if (made && made->cost < from.cost) {
          damping_ *= kEasier;
          return std::optional<State>(std::move(*made));
        }
      }
      damping_ *= kHarder;
    }
    return std::optional<State>();
  }

 private:
  void find_rims() {
    for (const auto& loop : border_loops(form_)) {
      RimLoop rim;
      for (std::size_t i = 0; i < loop.size(); ++i) {
        const int a = loop[i], b = loop[(i + 1) % loop.size()];
        if (sheets_.number[a] < 0 || sheets_.number[b] < 0) continue;
        rim.edges.emplace_back(a, b), rim.meant_mm += (sheets_.meant[a] - sheets_.meant[b]).norm();
        // Across the edge, in the surface: away from what is left of it.
        const Vec3 along = (sheets_.meant[b] - sheets_.meant[a]).normalized();
        for (const int v : {a, b}) across_.try_emplace(v, Vec3::Zero()).first->second += along.cross(normals_[v]);
      }
      if (!rim.edges.empty()) rims_.push_back(std::move(rim));
    }
    for (auto& [v, way] : across_) way.normalize();
  }

  double longest_move(const Flats& from, const Flats& to) const {
    double longest = 0.0;
    for (std::size_t p = 0; p < from.size(); ++p)
      for (std::size_t v = 0; v < from[p].size(); ++v) longest = std::max(longest, (from[p][v] - to[p][v]).norm());
    return longest;
  }

  /// No triangle turns over or shrinks to a needle.
  bool sound(const Flats& flats) const {
    for (const TruingMoves::OfPanel& of : moves_.panels()) {
      const Panel& p = set_.panels[static_cast<std::size_t>(of.panel)];
      const auto &now = flats[static_cast<std::size_t>(of.panel)], &was = drawn_[static_cast<std::size_t>(of.panel)];
      for (const Tri& t : p.solid.triangles) {
        const double area = turned_area(now[t[1]] - now[t[0]], now[t[2]] - now[t[0]]),
                     drawn = turned_area(was[t[1]] - was[t[0]], was[t[2]] - was[t[0]]);
        if (drawn > 0.0 && area < kLeastShare * drawn) return false;
      }
    }
    return true;
  }

  JoinedSheets sheets_at(const Flats& flats) const {
    return joined_sheets(with_flats(set_, flats), options_.glue.keeps_bend);
  }

  Result<State> glued(State state, int steps, const Progress& progress) {
    JoinedSheets sheets = sheets_at(state.flats);
    ShellEnergy energy(static_cast<int>(state.places.size()), std::move(sheets.faces), std::move(sheets.hinges),
        options_.glue.squeeze);
    energy.hold_in_middle(sheets_.middle);
    const auto outcome = energy.minimise(state.places, steps, options_.glue.still_mm, progress);
    if (outcome.cancelled) return fail(Errc::cancelled, "Stopped.");
    std::vector<Vec3> whole = sheets_.whole(state.places, set_.form.twin_of);
    lay_over(whole, sheets_.meant, areas_);
    for (std::size_t i = 0; i < state.places.size(); ++i) state.places[i] = whole[sheets_.vertex_of[i]];
    if (sheets_.half)
      for (const int v : sheets_.middle) state.places[v].x() = 0.0;
    state.rows = rows_of(state);
    state.cost = state.rows.squaredNorm();
    state.told = told(whole);
    state.whole = std::move(whole);
    return state;
  }

  TruthTold told(const std::vector<Vec3>& whole) const {
    std::vector<std::pair<double, double>> by_size;
    double all = 0.0, sum = 0.0;
    TruthTold told;
    for (std::size_t v = 0; v < whole.size(); ++v) {
      if (areas_[v] <= 0.0) continue;
      const double off = (whole[v] - surface_.to(whole[v]).point).norm();
      by_size.emplace_back(off, areas_[v]), all += areas_[v];
      told.most_mm = std::max(told.most_mm, off);
    }
    std::sort(by_size.begin(), by_size.end());
    for (const auto& [off, a] : by_size)
      if ((sum += a) <= 0.95 * all) told.p95_mm = off;
    return told;
  }

  const Vec3& at(const State& s, int form_vertex) const { return s.places[sheets_.number[form_vertex]]; }

  Index row_count() const {
    Index rows = static_cast<Index>(
        sheets_.vertex_of.size() + across_.size() + rims_.size() + sheets_.source.size() + pairs_.size());
    for (const TruingMoves::OfPanel& of : moves_.panels())
      rows += 5 * static_cast<Index>(set_.panels[static_cast<std::size_t>(of.panel)].border.size());
    return rows;
  }

  /// How a row changes: with places of unknowns, and with flat places of a panel.
  struct Derivative {
    std::vector<std::pair<int, Vec3>> places;
    struct OfFlat {
      int panel, vertex;
      Vec2 by;
    };
    std::vector<OfFlat> flat;
  };

  /// Every row in turn, with what it depends on.
  template <class Take>
  void each_row(const State& s, bool with_change, Take&& take) const {
    for (std::size_t i = 0; i < s.places.size(); ++i) {
      const int v = sheets_.vertex_of[i];
      const NearestHit hit = surface_.to(s.places[i]);
      const Vec3 normal = area_vector(form_, form_.triangles[hit.triangle]).normalized();
      const double weight = std::sqrt(areas_[v]);
      Derivative d;
      if (with_change) d.places = {{static_cast<int>(i), weight * normal}};
      take(weight * normal.dot(s.places[i] - hit.point), d);
    }
    for (const auto& [v, way] : across_) {
      const double weight = std::sqrt(areas_[v]);
      Derivative d;
      if (with_change) d.places = {{sheets_.number[v], weight * way}};
      take(weight * way.dot(at(s, v) - sheets_.meant[v]), d);
    }
    for (const RimLoop& rim : rims_) {
      const double times = kGirth * (sheets_.half ? 2.0 : 1.0);
      double girth = 0.0;
      Derivative d;
      for (const auto& [a, b] : rim.edges) {
        const Vec3 edge = at(s, b) - at(s, a);
        girth += edge.norm();
        if (!with_change) continue;
        d.places.emplace_back(sheets_.number[b], times * edge.normalized());
        d.places.emplace_back(sheets_.number[a], -times * edge.normalized());
      }
      take(times * (girth - rim.meant_mm), d);
    }
    for (std::size_t f = 0; f < sheets_.source.size(); ++f) take_strain(s, f, with_change, take);
    for (const SeamPair& pair : pairs_) take_pair(s, pair, with_change, take);
    for (const TruingMoves::OfPanel& of : moves_.panels()) take_border(s, of, with_change, take);
  }

  template <class Take>
  void take_strain(const State& s, std::size_t f, bool with_change, Take& take) const {
    const auto [p, t] = sheets_.source[f];
    const Tri& tri = set_.panels[static_cast<std::size_t>(p)].solid.triangles[t];
    const auto& flats = s.flats[static_cast<std::size_t>(p)];
    const double weight = kStrain * options_.strain;
    std::array<Vec2, 3> flat{flats[tri[0]], flats[tri[1]], flats[tri[2]]};
    std::array<Vec3, 3> at{};
    for (int k = 0; k < 3; ++k) at[k] = s.places[sheets_.faces[f].vertices[k]];
    Derivative d;
    if (with_change) {
      for (int k = 0; k < 3; ++k) {
        Vec3 by = Vec3::Zero();
        Vec2 by_flat = Vec2::Zero();
        for (int c = 0; c < 3; ++c) by[c] = slope([&] { return strain_row(flat, at); }, at[k][c]);
        for (int c = 0; c < 2; ++c) by_flat[c] = slope([&] { return strain_row(flat, at); }, flat[k][c]);
        d.places.emplace_back(sheets_.faces[f].vertices[k], weight * by);
        d.flat.push_back({p, tri[k], weight * by_flat});
      }
    }
    take(weight * strain_row(flat, at), d);
  }

  /// Both sides of a seam's edge equally long.
  template <class Take>
  void take_pair(const State& s, const SeamPair& pair, bool with_change, Take& take) const {
    Derivative d;
    double gap = 0.0, weight = 0.0;
    for (const SeamPair::Side& side : {pair.one, pair.other}) {
      const auto& flat = s.flats[static_cast<std::size_t>(side.panel)];
      const Vec2 edge = flat[side.b] - flat[side.a];
      if (weight == 0.0) weight = kSeam / std::sqrt(std::max(edge.norm(), 1e-3));
      const double times = gap == 0.0 ? weight : -weight;
      gap += times * edge.norm();
      if (!with_change) continue;
      d.flat.push_back({side.panel, side.b, times * edge.normalized()});
      d.flat.push_back({side.panel, side.a, -times * edge.normalized()});
    }
    take(gap, d);
  }

  template <class Of>
  static double slope(Of&& of, double& at) {
    const double was = at;
    at = was + kStep;
    const double high = of();
    at = was - kStep;
    const double low = of();
    at = was;
    return (high - low) / (2.0 * kStep);
  }

  /// Rims keep to their drawn length, outlines stay, and are stiff.
  template <class Take>
  void take_border(const State& s, const TruingMoves::OfPanel& of, bool with_change, Take& take) const {
    const Panel& p = set_.panels[static_cast<std::size_t>(of.panel)];
    const auto &now = s.flats[static_cast<std::size_t>(of.panel)], &was = drawn_[static_cast<std::size_t>(of.panel)];
    const std::size_t n = p.border.size();
    const auto vertex = [&](std::size_t i) { return p.border[i % n].a; };
    for (std::size_t i = 0; i < n; ++i) {
      const int a = vertex(i), b = vertex(i + 1), before = vertex(i + n - 1);
      const double drawn = (p.solid.vertices[a] - p.solid.vertices[b]).norm(), mm = (was[b] - was[a]).norm(),
                   back = (was[a] - was[before]).norm(), each = 0.5 * (mm + back);
      Derivative d;
      double length = 0.0;
      if (!p.border[i].seam.valid()) {
        const Vec2 edge = now[b] - now[a];
        const double weight = kRimLength / std::sqrt(std::max(drawn, 1e-3));
        length = weight * (edge.norm() - drawn);
        if (with_change)
          d.flat = {{of.panel, b, weight * edge.normalized()}, {of.panel, a, -weight * edge.normalized()}};
      }
      take(length, d);
      for (const int c : {0, 1}) {
        const double weight = options_.stay * std::sqrt(each);
        Derivative stay;
        if (with_change) stay.flat = {{of.panel, a, weight * Vec2::Unit(c)}};
        take(weight * (now[a] - was[a])[c], stay);
        // The second derivative of the move along the border.
        const double stiff = kStiff * std::sqrt(each), by_next = 1.0 / (mm * each), by_last = 1.0 / (back * each);
        const auto move = [&](int v) { return (now[v] - was[v])[c]; };
        Derivative bend;
        if (with_change)
          bend.flat = {{of.panel, b, stiff * by_next * Vec2::Unit(c)},
              {of.panel, before, stiff * by_last * Vec2::Unit(c)},
              {of.panel, a, -stiff * (by_next + by_last) * Vec2::Unit(c)}};
        take(
            at_corner(of.panel, i) ? 0.0 : stiff * (by_next * (move(b) - move(a)) - by_last * (move(a) - move(before))),
            at_corner(of.panel, i) ? Derivative{} : bend);
      }
    }
  }

  /// Corners of the drawing may turn as they like.
  bool at_corner(int panel, std::size_t i) const {
    const auto& line = set_.panels[static_cast<std::size_t>(panel)];
    const std::size_t n = line.border.size();
    return line.border[i].seam != line.border[(i + n - 1) % n].seam;
  }

  Eigen::VectorXd rows_of(const State& s) const {
    Eigen::VectorXd rows(row_count());
    Index r = 0;
    each_row(s, false, [&](double value, const Derivative&) { rows[r++] = value; });
    return rows;
  }

  /// Places answer to moves of outlines as the glued sheets are stiff there. Rigid motions are free besides.
  std::optional<Rows> rows_with_change(const State& s) const {
    const JoinedSheets sheets = sheets_at(s.flats);
    ShellEnergy energy(static_cast<int>(s.places.size()), sheets.faces, sheets.hinges, options_.glue.squeeze);
    energy.hold_in_middle(sheets_.middle);
    const auto unknowns = static_cast<Index>(3 * s.places.size());
    Eigen::MatrixXd loads = Eigen::MatrixXd::Zero(unknowns, moves_.count());
    for (std::size_t f = 0; f < sheets.faces.size(); ++f) add_load(s, sheets.faces[f], sheets.source[f], loads);
    const auto answers = energy.response(s.places, -loads);
    if (!answers) return std::nullopt;
    const ByRow response = *answers, rigid = rigid_motions(s);
    Rows rows;
    rows.value.resize(row_count());
    rows.change = ByRow::Zero(row_count(), moves_.count() + rigid.cols());
    Index r = 0;
    each_row(s, true, [&](double value, const Derivative& d) {
      rows.value[r] = value;
      for (const auto& [i, by] : d.places) {
        rows.change.row(r).head(moves_.count()) += by.transpose() * response.middleRows<3>(3 * i);
        rows.change.row(r).tail(rigid.cols()) += by.transpose() * rigid.middleRows<3>(3 * i);
      }
      for (const auto& [panel, v, by] : d.flat) {
        const TruingMoves::OfPanel& of = *of_panel_.at(panel);
        const Eigen::RowVectorXd own = by.transpose() * of.flat.middleRows<2>(2 * v);
        for (std::size_t c = 0; c < of.columns.size(); ++c) rows.change(r, of.columns[c]) += own[static_cast<Index>(c)];
      }
      ++r;
    });
    return rows;
  }

  /// How the pull of one face on its corners changes with its flat places.
  void add_load(
      const State& s, const ShellEnergy::Face& face, const std::pair<int, int>& source, Eigen::MatrixXd& loads) const {
    const auto [p, t] = source;
    const Tri& tri = set_.panels[static_cast<std::size_t>(p)].solid.triangles[t];
    const auto& flats = s.flats[static_cast<std::size_t>(p)];
    const TruingMoves::OfPanel& of = *of_panel_.at(p);
    std::array<Vec2, 3> flat{flats[tri[0]], flats[tri[1]], flats[tri[2]]};
    const std::array<Vec3, 3> corners{
        s.places[face.vertices[0]], s.places[face.vertices[1]], s.places[face.vertices[2]]};
    const auto pull = [&] {
      ShellEnergy::Face own = face;
      own.rest = frame_of_triangle(
          Vec3(flat[0].x(), flat[0].y(), 0), Vec3(flat[1].x(), flat[1].y(), 0), Vec3(flat[2].x(), flat[2].y(), 0));
      return ShellEnergy::pull_of(own, corners, options_.glue.squeeze);
    };
    Eigen::Matrix<double, 9, 6> change;
    for (int k = 0; k < 3; ++k)
      for (int c = 0; c < 2; ++c) {
        const double was = flat[k][c];
        flat[k][c] = was + kStep;
        const Eigen::Matrix<double, 9, 1> high = pull();
        flat[k][c] = was - kStep;
        const Eigen::Matrix<double, 9, 1> low = pull();
        flat[k][c] = was;
        change.col(2 * k + c) = (high - low) / (2.0 * kStep);
      }
    Eigen::MatrixXd moves(6, of.flat.cols());
    for (int k = 0; k < 3; ++k) moves.middleRows<2>(2 * k) = of.flat.middleRows<2>(2 * tri[k]);
    const Eigen::MatrixXd made = change * moves;
    for (int k = 0; k < 3; ++k)
      for (std::size_t c = 0; c < of.columns.size(); ++c)
        loads.block<3, 1>(3 * face.vertices[k], of.columns[c]) += made.block<3, 1>(3 * k, static_cast<Index>(c));
  }

  /// Of a half those that keep the middle in x = 0.
  Eigen::MatrixXd rigid_motions(const State& s) const {
    const Index n = static_cast<Index>(s.places.size());
    Eigen::MatrixXd rigid = Eigen::MatrixXd::Zero(3 * n, sheets_.half ? 3 : 6);
    constexpr double kArm = 0.01;  // turns count by a hundredth of a radian a unit
    for (Index i = 0; i < n; ++i) {
      const Vec3& p = s.places[static_cast<std::size_t>(i)];
      const auto turn = [&](const Vec3& axis) { return Vec3(kArm * axis.cross(p)); };
      Index c = 0;
      if (!sheets_.half) rigid.block<3, 1>(3 * i, c++) = Vec3::UnitX();
      rigid.block<3, 1>(3 * i, c++) = Vec3::UnitY();
      rigid.block<3, 1>(3 * i, c++) = Vec3::UnitZ();
      rigid.block<3, 1>(3 * i, c++) = turn(Vec3::UnitX());
      if (sheets_.half) continue;
      rigid.block<3, 1>(3 * i, c++) = turn(Vec3::UnitY());
      rigid.block<3, 1>(3 * i, c++) = turn(Vec3::UnitZ());
    }
    return rigid;
  }

  const PanelSet& set_;
  TruingOptions options_;
  JoinedSheets sheets_;
  TruingMoves moves_;
  Flats drawn_;
  Mesh form_;
  Nearest surface_;
  std::vector<double> areas_;
  std::vector<Vec3> normals_;
  std::vector<RimLoop> rims_;
  std::vector<SeamPair> pairs_;
  std::map<int, Vec3> across_;
  std::map<int, const TruingMoves::OfPanel*> of_panel_;
  double damping_ = kDamping;
};

double strain_glued(const PanelSet& set, const GluedUp& glued) {
  double worst = 0.0;
  for (const Panel& p : set.panels) {
    Mesh at = p.solid;
    for (std::size_t v = 0; v < at.vertices.size(); ++v) at.vertices[v] = glued.places[p.vertex_of[v]];
    worst = std::max(worst, summarise(at, p.flat).p99);
  }
  return worst;
}

void measure_moves(Trued& trued, const PanelSet& set) {
  std::vector<double> moved;
  for (std::size_t p = 0; p < set.panels.size(); ++p)
    for (const BorderEdge& e : set.panels[p].border)
      moved.push_back((trued.flat[p][e.a] - set.panels[p].flat[e.a]).norm());
  if (moved.empty()) return;
  std::sort(moved.begin(), moved.end());
  trued.moved_p50_mm = moved[moved.size() / 2], trued.moved_p95_mm = moved[moved.size() * 95 / 100],
  trued.moved_most_mm = moved.back();
}

/// Rounds until they gain nothing worth a round.
Result<State> trued_state(
    const PanelSet& set, const GluedUp& as_drawn, const TruingOptions& options, int& rounds, const Progress& progress) {
  Truing truing(set, options);
  auto state = truing.begin(as_drawn, progress.span(0.0, 0.1));
  if (!state) return state;
  for (rounds = 0; rounds < options.rounds; ++rounds) {
    const auto span = progress.span(0.1 + 0.9 * rounds / options.rounds, 0.1 + 0.9 * (rounds + 1.0) / options.rounds);
    if (!span.keep_going(0.0)) return fail(Errc::cancelled, "Stopped.");
    auto next = truing.step(*state, span);
    if (!next) return fail(next);
    if (!*next) break;
    const TruthTold was = state->told;
    state = std::move(**next);
    if (was.p95_mm - state->told.p95_mm < kP95GainMm && was.most_mm - state->told.most_mm < kMostGainMm) break;
  }
  return state;
}

/// On the finer mesh, begun where the coarse one came to rest.
Result<GluedUp> glue_fine(const PanelSet& coarse, const GluedUp& glued, const PanelSet& fine,
    const GlueUpOptions& options, const Progress& progress) {
  std::vector<Vec3> moves;
  for (std::size_t v = 0; v < glued.places.size(); ++v) moves.push_back(glued.places[v] - glued.meant[v]);
  std::vector<Vec3> start = joined_sheets(fine, options.keeps_bend).meant;
  const auto carried = finer_moves(coarse, fine, moves);
  for (std::size_t v = 0; v < start.size(); ++v) start[v] += carried[v];
  return glue_up_from(std::move(start), fine, options, progress);
}

bool comes_out_better(const Trued& trued) {
  const auto worth = [](const TruthTold& t) { return t.p95_mm + 0.25 * t.most_mm + 0.25 * t.rim_mm; };
  return worth(trued.after) < worth(trued.before) && worth(trued.finer_after) < worth(trued.finer_before);
}

Trued left_as_drawn(Trued trued, const PanelSet& set) {
  trued.flat = flats_of(set), trued.after = trued.before, trued.finer_after = trued.finer_before;
  trued.moved_p50_mm = trued.moved_p95_mm = trued.moved_most_mm = 0.0;
  return trued;
}

/// Outlines as far as they may go, and how they come out, into `trued`.
Result<void> attempt(const PanelSet& set, const GluedUp& as_drawn, const TruingOptions& options, Trued& trued,
    const Progress& progress) {
  auto state = trued_state(set, as_drawn, options, trued.rounds, progress.span(0.0, 0.7));
  if (!state) return fail(state);
  const PanelSet made = with_flats(set, state->flats), fine_made = finer(made);
  const auto after = glue_up_from(state->whole, made, options.glue, progress.span(0.7, 0.75));
  if (!after) return fail(after);
  const auto fine_after = glue_fine(made, *after, fine_made, options.glue, progress.span(0.75, 1.0));
  if (!fine_after) return fail(fine_after);
  trued.after = told_of(made, *after), trued.finer_after = told_of(fine_made, *fine_after);
  trued.flat = std::move(state->flats);
  measure_moves(trued, set);
  return {};
}

}  // namespace

TruthTold told_of(const PanelSet& set, const GluedUp& glued) {
  TruthTold told{glued.p95_mm, glued.most_mm, 0.0, strain_glued(set, glued)};
  for (const GluedRim& rim : glued.rims)
    told.rim_mm = std::max(told.rim_mm, std::abs(rim.glued_girth_mm - rim.girth_mm));
  return told;
}

Result<Trued> true_outlines(const PanelSet& set, const TruingOptions& options, const Progress& progress) {
  if (set.panels.empty()) return fail(Errc::empty_input, "There is no piece to correct.", "panels");
  const auto glued = glue_up(set, options.glue, progress.span(0.0, 0.05));
  if (!glued) return fail(glued);
  Trued trued;
  trued.before = told_of(set, *glued);
  if (glued->p95_mm < options.near_enough_mm) return trued.near_enough = true, left_as_drawn(std::move(trued), set);
  TruingOptions now = options;
  const PanelSet fine = finer(set);
  // How it comes out as drawn on the finer mesh is not needed before there is something to hold it against.
  std::optional<Result<GluedUp>> fine_glued;
  Result<void> first;
  SideBySide both(progress.span(0.05, 0.5), {0.3, 0.7});
  parallel_for(2, [&](int job) {
    if (job == 0)
      first = attempt(set, *glued, now, trued, both.of(1));
    else
      fine_glued = glue_fine(set, *glued, fine, options.glue, both.of(0));
  });
  if (!first) return fail(first);
  if (!*fine_glued) return fail(*fine_glued);
  trued.finer_before = told_of(fine, **fine_glued);
  for (int held_back = 0; !(trued.better = comes_out_better(trued)) && held_back < kHoldBacks; ++held_back) {
    now.stay *= kDearer;
    const double from = 0.5 + 0.5 * held_back / kHoldBacks;
    if (auto made = attempt(set, *glued, now, trued, progress.span(from, from + 0.5 / kHoldBacks)); !made)
      return fail(made);
  }
  return trued.better ? std::move(trued) : left_as_drawn(std::move(trued), set);
}

}  // namespace awl
