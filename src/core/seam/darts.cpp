#include "core/seam/darts.hpp"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"

namespace awl {
namespace {

constexpr double kRunStepMm = 8.0;
constexpr double kLeastDartMm = 12.0;
constexpr double kMiddleMm = 7.0;     // a dart so near to the middle line lies in it
constexpr double kLeastRound = 0.18;  // 4 pi A / P^2 of what is left: less is a ribbon nobody wants to glue
constexpr int kBorderTries = 20;

std::vector<double> curvature_of(const Mesh& mesh) {
  std::vector<double> k(mesh.vertices.size(), kTwoPi);
  for (const Tri& t : mesh.triangles)
    for (int i = 0; i < 3; ++i) {
      const Vec3 a = (mesh.vertices[t[(i + 1) % 3]] - mesh.vertices[t[i]]).normalized(),
                 b = (mesh.vertices[t[(i + 2) % 3]] - mesh.vertices[t[i]]).normalized();
      k[t[i]] -= std::acos(std::clamp(a.dot(b), -1.0, 1.0));
    }
  for (const auto& loop : border_loops(mesh))
    for (const int v : loop) k[v] = 0.0;
  return k;
}

/// The panel with cuts in it: how it lies flat, and how far it is from lying flat.
struct Tried {
  Strain strain;
  double even = 1e9;  ///< the eighth-power mean of the strain: what the worst places say, smoothly
  bool good = false;  ///< one piece, nothing turned over, nothing overlapping
};

class DartBoard {
 public:
  DartBoard(const Mesh& panel, const DartOptions& options) : panel_(panel), options_(options) {}

  Result<void> start(const Progress& progress) {
    auto flattener = Flattener::of(panel_);
    if (!flattener) return fail(flattener);
    if (auto flat = flattener->flatten({}, progress); !flat) return flat;
    uv_ = flattener->uv();
    strain_ = summarise(panel_, uv_);
    Mesh sheet{{}, panel_.triangles};
    for (const Vec2& p : uv_) sheet.vertices.push_back({p.x(), p.y(), 0.0});
    sheet_ = std::make_unique<Nearest>(sheet);
    border_ = border_loops(panel_).front();
    tip_ = dart_tip(panel_);
    return {};
  }

  /// A straight line of the flat panel, in space. Empty if it runs out of the panel or over what is to be spared.
  CutLine lifted(const Vec2& from, const Vec2& to) const {
    const int steps = std::max(1, static_cast<int>(std::ceil((to - from).norm() / kRunStepMm)));
    CutLine line;
    for (int i = 0; i <= steps; ++i) {
      const Vec2 at = from + (to - from) * (static_cast<double>(i) / steps);
      const NearestHit hit = sheet_->to({at.x(), at.y(), 0.0});
      if (std::abs(hit.signed_mm) > 1.5) return {};
      line.push_back(value_at(hit, panel_, panel_.vertices));
      if (options_.mirrored && line.back().x() < -kMiddleMm) return {};  // its image is tried
      if (options_.spare && options_.spare(line.back())) return {};
    }
    if (options_.mirrored && in_middle(line))
      for (Vec3& p : line) p.x() = 0.0;
    return line;
  }

  static bool in_middle(const CutLine& line) {
    return std::all_of(line.begin(), line.end(), [](const Vec3& p) { return std::abs(p.x()) < kMiddleMm; });
  }

  /// What is cut: on a panel across the middle, the images as well.
  std::vector<CutLine> with_images(std::vector<CutLine> lines) const {
    const std::size_t count = options_.mirrored ? lines.size() : 0;
    for (std::size_t i = 0; i < count; ++i) {
      if (in_middle(lines[i])) continue;
      lines.push_back(lines[i]);
      for (Vec3& p : lines.back()) p.x() = -p.x();
    }
    return lines;
  }

  Tried tried(const std::vector<CutLine>& own, bool finish) const {
    const auto lines = with_images(own);
    Tried result;
    Draft draft;
    draft.mirrored = false, draft.mesh = panel_;
    Cutter cutter(std::move(draft));
    for (std::size_t i = 0; i < lines.size(); ++i)
      if (!cutter.draw(lines[i], "dart " + std::to_string(i + 1), {4.0, false})) return result;
    PanelOptions flat;
    flat.thickness_mm = 0.0, flat.match_seams = finish, flat.least_mm2 = 0.0;
    if (!finish) flat.flatten.rigid_rounds = 14, flat.flatten.minimax = false;
    const auto set = make_panels(seams_of(std::move(cutter).take()), flat);
    if (!set || set->panels.size() != 1) return result;
    const Panel& p = set->panels[0];
    result.strain = p.strain;
    double sum = 0.0, area = 0.0, round = 0.0;
    for (std::size_t f = 0; f < p.face_strain.size(); ++f) {
      const double a = area_vector(p.solid, p.solid.triangles[f]).norm();
      sum += a * std::pow(std::abs(p.face_strain[f]), 8.0), area += a;
    }
    for (const BorderEdge& e : p.border) round += (p.flat[e.a] - p.flat[e.b]).norm();
    result.even = std::pow(sum / area, 1.0 / 8.0);
    // The slits themselves lengthen the border; what matters is that the rest is no ribbon.
    double slits = 0.0;
    for (const CutLine& line : lines) slits += 2.0 * length_of(line);
    result.good =
        p.flipped == 0 && !p.overlaps && 2.0 * kPi * area / std::pow(std::max(round - slits, 1.0), 2) > kLeastRound;
    return result;
  }

  static double length_of(const CutLine& line) {
    double sum = 0.0;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) sum += (line[i + 1] - line[i]).norm();
    return sum;
  }
  static double length_of(const std::vector<CutLine>& lines) {
    double sum = 0.0;
    for (const CutLine& line : lines) sum += length_of(line);
    return sum;
  }

  /// The border place the flat direction from the tip leads to.
  std::optional<Vec2> border_from(const Vec2& tip, double angle_rad) const {
    const Vec2 way(std::cos(angle_rad), std::sin(angle_rad));
    double best = 1e300;
    for (std::size_t i = 0; i < border_.size(); ++i) {
      const Vec2 a = uv_[border_[i]] - tip, b = uv_[border_[(i + 1) % border_.size()]] - tip, e = b - a;
      const double det = way.x() * -e.y() + way.y() * e.x();
      if (std::abs(det) < 1e-12) continue;
      const double t = (-a.x() * e.y() + a.y() * e.x()) / det, s = (way.x() * a.y() - way.y() * a.x()) / det;
      if (s >= 0.0 && s <= 1.0 && t > 1.0) best = std::min(best, t);
    }
    return best < 1e300 ? std::optional(Vec2(tip + best * way)) : std::nullopt;
  }

  /// Equal angles round the tip; the shortest star that comes within the tolerance.
  std::optional<std::vector<CutLine>> star(const Progress& progress) const {
    const Vec2 tip = uv_[tip_];
    std::optional<std::vector<CutLine>> best;
    if (options_.mirrored) return best;  // a star round the tip knows no sides
    double best_mm = 1e300;
    for (int count = 1; count <= options_.most; ++count)
      for (const double share : {0.55, 0.7, 0.85})
        for (int phase = 0; phase < 3; ++phase) {
          if (!progress.keep_going((count - 1.0) / options_.most)) return best;
          std::vector<CutLine> lines;
          for (int k = 0; k < count; ++k)
            if (const auto edge = border_from(tip, kTwoPi * (k + phase / 3.0) / count))
              if (auto line = lifted(*edge, *edge + share * (tip - *edge));
                  line.size() > 1 && length_of(line) <= options_.longest_mm)
                lines.push_back(std::move(line));
          const double length = length_of(lines);
          if (static_cast<int>(lines.size()) != count || length >= best_mm) continue;
          // The finish takes off about a third; what is far off is not worth it.
          const Tried quick = tried(lines, false);
          if (!quick.good || quick.strain.p95 > 1.7 * options_.tolerance) continue;
          const Tried full = tried(lines, true);
          if (full.good && full.strain.p99 <= options_.tolerance) best = lines, best_mm = length;
        }
    return best;
  }

  /// One dart after another, each the one that helps most for its length.
  std::vector<CutLine> greedy(const Progress& progress) const {
    std::vector<CutLine> lines;
    Tried now = tried(lines, true);
    while (static_cast<int>(lines.size()) < options_.most && now.strain.p99 > options_.tolerance) {
      if (!progress.keep_going(static_cast<double>(lines.size()) / options_.most)) break;
      std::vector<CutLine> tries;
      for (const Vec2& aim : aims())
        for (int i = 0; i < kBorderTries; ++i) {
          const Vec2 from = uv_[border_[static_cast<std::size_t>(i) * border_.size() / kBorderTries]];
          for (const double share : {0.5, 0.7, 0.85}) {
            auto line = lifted(from, from + share * (aim - from));
            if (line.size() > 1 && length_of(line) >= kLeastDartMm && length_of(line) <= options_.longest_mm)
              tries.push_back(std::move(line));
          }
        }
      const Tried base = tried(lines, false);
      std::vector<std::pair<double, int>> scores(tries.size(), {1e300, -1});
      const double size = std::sqrt(area_mm2(panel_));
      parallel_for(static_cast<int>(tries.size()), [&](int i) {
        auto with = lines;
        with.push_back(tries[i]);
        const Tried t = tried(with, false);
        scores[i] = {t.good ? std::log(t.even / base.even) + 0.15 * length_of(tries[i]) / size : 1e300, i};
      });
      std::sort(scores.begin(), scores.end());
      const CutLine* taken = nullptr;
      Tried best = now;
      for (std::size_t k = 0; k < scores.size() && k < 3 && scores[k].first < 0.0; ++k) {
        auto with = lines;
        with.push_back(tries[scores[k].second]);
        const Tried t = tried(with, true);
        if (t.good && t.strain.p99 < best.strain.p99 - 1e-4) best = t, taken = &tries[scores[k].second];
      }
      if (taken == nullptr) break;
      lines.push_back(*taken), now = best;
    }
    return lines;
  }

  const Strain& strain() const { return strain_; }

 private:
  std::vector<Vec2> aims() const {
    Vec2 by_strain = Vec2::Zero();
    double weight = 0.0;
    const auto strains = triangle_strains(panel_, uv_);
    for (std::size_t f = 0; f < strains.size(); ++f) {
      const Tri& t = panel_.triangles[f];
      const double w = area_vector(panel_, t).norm() * std::pow(std::abs(strains[f]), 3.0);
      by_strain += w / 3.0 * (uv_[t[0]] + uv_[t[1]] + uv_[t[2]]), weight += w;
    }
    return {uv_[tip_], by_strain / std::max(weight, 1e-300)};
  }

  const Mesh& panel_;
  const DartOptions& options_;
  std::vector<Vec2> uv_;
  Strain strain_;
  std::unique_ptr<Nearest> sheet_;
  std::vector<int> border_;
  int tip_ = 0;
};

}  // namespace

double gathered_curvature(const Mesh& panel) {
  double sum = 0.0;
  for (const double k : curvature_of(panel)) sum += k;
  return sum;
}

int dart_tip(const Mesh& panel) {
  const int n = static_cast<int>(panel.vertices.size());
  const auto curvature = curvature_of(panel);
  std::vector<char> held(n, 0);
  for (const auto& loop : border_loops(panel))
    for (const int v : loop) held[v] = 1;
  std::vector<Eigen::Triplet<double>> entries;
  for (const Tri& t : panel.triangles) {
    const TriangleFrame frame = frame_of_triangle(panel.vertices[t[0]], panel.vertices[t[1]], panel.vertices[t[2]]);
    for (int i = 0; i < 3; ++i)
      for (int j = 0; j < 3; ++j)
        if (!held[t[i]] && !held[t[j]])
          entries.emplace_back(t[i], t[j], frame.area_mm2 * frame.gradients.col(i).dot(frame.gradients.col(j)));
  }
  for (int v = 0; v < n; ++v) entries.emplace_back(v, v, held[v] ? 1.0 : 1e-12);
  Eigen::SparseMatrix<double> laplacian(n, n);
  laplacian.setFromTriplets(entries.begin(), entries.end());
  Eigen::VectorXd rhs(n);
  for (int v = 0; v < n; ++v) rhs[v] = held[v] ? 0.0 : curvature[v];
  const Eigen::VectorXd s = Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>>(laplacian).solve(rhs);
  int best = 0;
  for (int v = 1; v < n; ++v)
    if (std::abs(s[v]) > std::abs(s[best])) best = v;
  return best;
}

Result<Darts> propose_darts(const Mesh& panel, const DartOptions& options, const Progress& progress) {
  DartBoard board(panel, options);
  if (auto good = board.start(progress.span(0.0, 0.1)); !good) return fail(good);
  Darts darts;
  darts.before = darts.after = board.strain().p99;
  if (darts.before <= options.tolerance) return darts.meets = true, darts;
  if (gathered_curvature(panel) < 0.0) return darts.saddle = true, darts;
  auto lines = board.greedy(progress.span(0.1, 0.7));
  const auto star = board.star(progress.span(0.7, 1.0));
  if (!progress.keep_going(1.0)) return fail(Errc::cancelled, "Stopped.");
  Tried best = board.tried(lines, true);
  if (star && (best.strain.p99 > options.tolerance || DartBoard::length_of(*star) < DartBoard::length_of(lines)))
    lines = *star, best = board.tried(lines, true);
  if (!best.good || best.strain.p99 >= darts.before) return darts;
  darts.lines = lines, darts.after = best.strain.p99, darts.length_mm = DartBoard::length_of(lines);
  darts.meets = darts.after <= options.tolerance;
  return darts;
}

}  // namespace awl
