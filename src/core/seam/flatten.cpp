#include "core/seam/flatten.hpp"

#include <algorithm>
#include <cmath>

#include "core/seam/rigid_map.hpp"
#include "core/seam/start_maps.hpp"
#include "core/seam/stretch_energy.hpp"

namespace awl {
namespace {

constexpr double kNothingToGain = 2e-4;  // below this strain the finish is not worth its time

double psi_of_strain(double e) {
  const double s = 1.0 + e;
  return 0.5 * (s * s + 1.0 / (s * s)) - 1.0;
}

}  // namespace

struct Flattener::State {
  Mesh panel;
  std::vector<TriangleFrame> frames;
  Mesh bridged;  ///< the panel with its openings closed by fans; the panel itself without any
  std::vector<TriangleFrame> bridged_frames;
  std::vector<int> border;
  std::vector<Vec2> uv;
  std::unique_ptr<StretchEnergy> energy;

  StretchEnergy& newton() {
    if (!energy) energy = std::make_unique<StretchEnergy>(panel, frames);
    return *energy;
  }
  /// By how much the lengths of all wanted edges together are off.
  double off_length_mm(const std::vector<EdgeTarget>& targets) const {
    double off = 0.0;
    for (const EdgeTarget& t : targets) off += std::abs((uv[t.a] - uv[t.b]).norm() - t.length_mm);
    return off;
  }
  bool rigid(int rounds);
  bool is_finite() const {
    return std::all_of(uv.begin(), uv.end(), [](const Vec2& p) { return p.allFinite(); });
  }
  bool even_out(const FlattenOptions& options, double spring_weight, const Progress& progress);
};

/// As rigid as possible, from the panel unrolled; where that turns triangles over, from the conformal map. False if
/// that does so too: then uv is a start for the finish (the conformal map, or the one on a circle if even that is
/// turned over).
bool Flattener::State::rigid(int rounds) {
  const std::size_t own = panel.vertices.size();
  RigidMap map(bridged, bridged_frames);
  if (!map.is_solvable()) {
    uv.assign(own, Vec2::Constant(std::nan("")));
    return true;  // nothing to start from: told of where the map is taken
  }
  uv = map.unrolled();
  map.improve(uv, rounds);
  std::vector<Vec2> conformal;
  if (count_flips(panel, uv) > 0) {
    uv = conformal = start_maps::conformal(bridged, bridged_frames, border);
    map.improve(uv, rounds);
  }
  const bool turned_over = count_flips(panel, uv) > 0;
  if (turned_over) uv = count_flips(panel, conformal) == 0 ? conformal : start_maps::circle(bridged, border);
  uv.resize(own);
  return !turned_over;
}

/// The p-norm finish in up to five stages, each measured against what the last one reached.
bool Flattener::State::even_out(const FlattenOptions& options, double spring_weight, const Progress& progress) {
  const double most_p = spring_weight > 0.0 ? std::min(options.finish_p, kMatchedP) : options.finish_p;
  int stage = 0;
  for (double p = 2.0; p <= most_p; p *= 2.0) {
    const double p99 = summarise(panel, uv).p99;
    if (p99 < kNothingToGain) break;
    const StretchEnergy::Finish finish{10.0, p, psi_of_strain(p99)};
    if (!newton().minimise(
            uv, finish, spring_weight, options.newton_steps, progress.span(stage / 5.0, (stage + 1) / 5.0)))
      return false;
    ++stage;
  }
  return true;
}

Flattener::Flattener(std::unique_ptr<State> state) : state_(std::move(state)) {}
Flattener::~Flattener() = default;
Flattener::Flattener(Flattener&&) noexcept = default;
Flattener& Flattener::operator=(Flattener&&) noexcept = default;

const std::vector<Vec2>& Flattener::uv() const { return state_->uv; }

namespace {

tl::unexpected<Error> too_unequal() {
  return fail(Errc::no_solution,
      "A panel cannot be laid flat: its triangles are too thin or too unequal to reckon with. Even the mesh, or mend "
      "it where it was made.");
}

double length_of(const Mesh& mesh, const std::vector<int>& loop) {
  double sum = 0.0;
  for (std::size_t i = 0; i < loop.size(); ++i)
    sum += (mesh.vertices[loop[(i + 1) % loop.size()]] - mesh.vertices[loop[i]]).norm();
  return sum;
}

/// Closes a border by a fan to its middle.
void bridge(Mesh& mesh, const std::vector<int>& loop) {
  Vec3 middle = Vec3::Zero();
  for (const int v : loop) middle += mesh.vertices[v] / static_cast<double>(loop.size());
  const int hub = static_cast<int>(mesh.vertices.size());
  mesh.vertices.push_back(middle);
  for (std::size_t i = 0; i < loop.size(); ++i) mesh.triangles.push_back({loop[(i + 1) % loop.size()], loop[i], hub});
}

}  // namespace

Result<Flattener> Flattener::of(const Mesh& panel, int holes) {
  auto state = std::make_unique<State>();
  state->panel = panel;
  auto loops = border_loops(panel);
  const int borders = static_cast<int>(loops.size());
  if (panel.triangles.empty() || loops.empty() || euler_characteristic(panel) != 2 - borders || borders > 1 + holes) {
    const std::string what = loops.empty() ? "is closed all round" : "has " + std::to_string(loops.size()) + " borders";
    return fail(Errc::not_a_disk,
        "A panel of " + std::to_string(panel.triangles.size()) + " triangles " + what +
            "; only a patch with one border can be laid flat. Add a cut that opens it.");
  }
  std::stable_sort(loops.begin(), loops.end(),
      [&](const auto& a, const auto& b) { return length_of(panel, a) > length_of(panel, b); });
  state->border = loops[0];
  state->bridged = panel;
  for (std::size_t i = 1; i < loops.size(); ++i) bridge(state->bridged, loops[i]);
  for (const Tri& t : state->bridged.triangles) {
    state->bridged_frames.push_back(
        frame_of_triangle(state->bridged.vertices[t[0]], state->bridged.vertices[t[1]], state->bridged.vertices[t[2]]));
    if (!(state->bridged_frames.back().area_mm2 > 1e-9))
      return fail(Errc::degenerate_shape,
          "A triangle of the panel has no area; the mesh must be mended before it is laid flat.");
  }
  state->frames.assign(
      state->bridged_frames.begin(), state->bridged_frames.begin() + static_cast<long>(panel.triangles.size()));
  return Flattener(std::move(state));
}

Result<void> Flattener::flatten(const FlattenOptions& options, const Progress& progress) {
  State& s = *state_;
  const auto stopped = [] { return fail(Errc::cancelled, "Stopped."); };
  if (!progress.keep_going(0.0)) return stopped();
  const bool turned_over = !s.rigid(options.rigid_rounds);
  if (!s.is_finite()) return too_unequal();
  if (turned_over) {
    if (count_flips(s.panel, s.uv) > 0)
      return fail(Errc::no_solution, "A panel could not be laid flat without turning triangles over.");
    if (!s.newton().minimise(s.uv, {}, 0.0, 4 * options.newton_steps, progress.span(0.1, 0.4))) return stopped();
  }
  if (!progress.keep_going(0.4)) return stopped();
  if (options.minimax && !s.even_out(options, 0.0, progress.span(0.4, 1.0))) return stopped();
  return s.is_finite() ? Result<void>() : too_unequal();
}

Result<void> Flattener::match_edges(
    const std::vector<EdgeTarget>& targets, const FlattenOptions& options, const Progress& progress) {
  State& s = *state_;
  if (targets.empty()) return {};
  s.newton().set_springs(targets);
  // First to the lengths with the plain energy, then even the strain out with the lengths held.
  int stage = 0;
  for (const double weight : {1e3, 1e5}) {
    if (!s.newton().minimise(s.uv, {}, weight, options.newton_steps, progress.span(stage / 6.0, (stage + 1) / 6.0)))
      return fail(Errc::cancelled, "Stopped.");
    ++stage;
  }
  if (options.minimax && !s.even_out(options, 1e6, progress.span(0.35, 0.9))) return fail(Errc::cancelled, "Stopped.");
  // Long narrow strips need more than that to come to length.
  constexpr double kNearMm = 0.01;
  for (double weight = 1e7; weight <= 1e8 && s.off_length_mm(targets) > kNearMm; weight *= 10.0)
    if (!s.newton().minimise(s.uv, {}, weight, options.newton_steps, progress.span(0.9, 1.0)))
      return fail(Errc::cancelled, "Stopped.");
  return s.is_finite() ? Result<void>() : too_unequal();
}

bool edges_cross(const Vec2& a, const Vec2& b, const Vec2& c, const Vec2& d) {
  const auto side = [](const Vec2& p, const Vec2& q, const Vec2& r) {
    return (q.x() - p.x()) * (r.y() - p.y()) - (q.y() - p.y()) * (r.x() - p.x());
  };
  return side(a, b, c) * side(a, b, d) < 0.0 && side(c, d, a) * side(c, d, b) < 0.0;
}

bool crosses_itself(const std::vector<Vec2>& outline) {
  const std::size_t n = outline.size();
  for (std::size_t i = 0; i < n; ++i) {
    const Vec2 &a = outline[i], &b = outline[(i + 1) % n];
    const Vec2 low = a.cwiseMin(b), high = a.cwiseMax(b);
    for (std::size_t j = i + 2; j < n; ++j) {
      if (i == 0 && j == n - 1) continue;
      const Vec2 &c = outline[j], &d = outline[(j + 1) % n];
      if (std::min(c.x(), d.x()) > high.x() || std::max(c.x(), d.x()) < low.x() || std::min(c.y(), d.y()) > high.y() ||
          std::max(c.y(), d.y()) < low.y())
        continue;
      if (edges_cross(a, b, c, d)) return true;
    }
  }
  return false;
}

}  // namespace awl
