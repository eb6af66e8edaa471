#pragma once
#include <memory>
#include <optional>
#include <vector>

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/seam/strain.hpp"

namespace awl {

/// How a panel is flattened. The defaults are what the product uses.
struct FlattenOptions {
  int rigid_rounds = 20;  ///< as-rigid-as-possible rounds
  bool minimax = true;    ///< lower the worst place, not only the mean
  double finish_p = 32;   ///< by p-norms up to this; while edges are matched up to kMatchedP
  int newton_steps = 12;  ///< at most, per stage
};

/// Above this p-norm the finish is too stiff to reach the lengths of seams as well.
inline constexpr double kMatchedP = 8.0;

/// A wanted length for one border edge of a panel (the mean of both sides of its seam).
struct EdgeTarget {
  int a = -1, b = -1;
  double length_mm = 0.0;
};

/// Lays one disk-shaped panel flat with the least strain, then keeps it to be adjusted.
///
/// Least-squares conformal start (mean-value map on a circle if that turns triangles over), as-rigid-as-possible,
/// then projected Newton on psi = (s^2 + s^-2)/2 - 1 of both stretches and its p-norm finish.
/// Source: docs/formulas/flattening.md. Ownership: keeps what it needs of the panel.
class Flattener {
 public:
  /// `holes`: so many borders beside the outer (longest) one may be rims of openings; they are bridged for the first
  /// map only. Errors: not_a_disk unless the panel has one border, or that many more, and would be a disk with its
  /// openings closed;
  ///         degenerate_shape for a triangle without area.
  static Result<Flattener> of(const Mesh& panel, int holes = 0);
  ~Flattener();
  Flattener(Flattener&&) noexcept;
  Flattener& operator=(Flattener&&) noexcept;

  /// Errors: cancelled; no_solution if a triangle stays turned over.
  Result<void> flatten(const FlattenOptions& options, const Progress& progress = {});

  /// Pulls border edges to their wanted lengths, strain kept as even as may be. Call after flatten.
  Result<void> match_edges(
      const std::vector<EdgeTarget>& targets, const FlattenOptions& options, const Progress& progress = {});

  const std::vector<Vec2>& uv() const;

 private:
  struct State;
  explicit Flattener(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

/// True if the edges ab and cd cross, each within the other.
bool edges_cross(const Vec2& a, const Vec2& b, const Vec2& c, const Vec2& d);

/// True if the closed outline crosses itself.
bool crosses_itself(const std::vector<Vec2>& outline);

}  // namespace awl
