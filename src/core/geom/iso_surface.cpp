#include "core/geom/iso_surface.hpp"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace awl {
namespace {

/// Six tetrahedra of the cube round its main diagonal; corner bits are x, y, z.
constexpr int kTetrahedra[6][4] = {{0, 1, 3, 7}, {0, 3, 2, 7}, {0, 2, 6, 7}, {0, 6, 4, 7}, {0, 4, 5, 7}, {0, 5, 1, 7}};

class Marcher {
 public:
  Marcher(const Grid& grid, std::vector<float> values) : grid_(grid), values_(std::move(values)) {}

  int index(int x, int y, int z) const { return (z * (grid_.cells[1] + 1) + y) * (grid_.cells[0] + 1) + x; }

  void cell(int x, int y, int z) {
    int corner[8];
    for (int c = 0; c < 8; ++c) corner[c] = index(x + (c & 1), y + ((c >> 1) & 1), z + ((c >> 2) & 1));
    for (const auto& tet : kTetrahedra) tetrahedron(corner[tet[0]], corner[tet[1]], corner[tet[2]], corner[tet[3]]);
  }

  Mesh take() { return std::move(mesh_); }

 private:
  Vec3 place(int i) const {
    const int nx = grid_.cells[0] + 1, ny = grid_.cells[1] + 1;
    return grid_.low + grid_.cell_mm * Vec3(i % nx, (i / nx) % ny, i / (nx * ny));
  }

  int vertex(int a, int b) {
    if (a > b) std::swap(a, b);
    const std::uint64_t key = (static_cast<std::uint64_t>(a) << 32) | static_cast<std::uint32_t>(b);
    const auto [it, fresh] = known_.try_emplace(key, static_cast<int>(mesh_.vertices.size()));
    if (fresh) {
      const double t = std::clamp<double>(values_[a] / (values_[a] - values_[b]), 0.02, 0.98);
      mesh_.vertices.push_back(place(a) + t * (place(b) - place(a)));
    }
    return it->second;
  }

  /// Corners are given with positive orientation, so the faces come out with the inside behind them.
  void tetrahedron(int a, int b, int c, int d) {
    int corners[4] = {a, b, c, d};
    int inside = 0;
    for (const int i : corners) inside += values_[i] < 0.0f ? 1 : 0;
    if (inside == 0 || inside == 4) return;
    const bool turned = sort_inside_first(corners);
    const auto emit = [&](int p, int q, int r) {
      if (turned) std::swap(q, r);
      mesh_.triangles.push_back({p, q, r});
    };
    const int p = corners[0], q = corners[1], r = corners[2], s = corners[3];
    if (inside == 1) {
      emit(vertex(p, q), vertex(p, r), vertex(p, s));
    } else if (inside == 3) {
      emit(vertex(s, p), vertex(s, q), vertex(s, r));
    } else {
      emit(vertex(p, r), vertex(p, s), vertex(q, s));
      emit(vertex(p, r), vertex(q, s), vertex(q, r));
    }
  }

  /// Bubble sort that keeps count of swaps: an odd count turns the tetrahedron inside out.
  bool sort_inside_first(int (&corners)[4]) const {
    bool turned = false;
    for (int pass = 0; pass < 3; ++pass)
      for (int i = 0; i + 1 < 4; ++i)
        if (values_[corners[i]] >= 0.0f && values_[corners[i + 1]] < 0.0f)
          std::swap(corners[i], corners[i + 1]), turned = !turned;
    return turned;
  }

  Grid grid_;
  std::vector<float> values_;
  std::unordered_map<std::uint64_t, int> known_;
  Mesh mesh_;
};

}  // namespace

Grid grid_over(const Vec3& low, const Vec3& high, double cell_mm) {
  Grid grid{low, cell_mm, {}};
  for (int k = 0; k < 3; ++k) grid.cells[k] = std::max(1, static_cast<int>(std::ceil((high[k] - low[k]) / cell_mm)));
  return grid;
}

Result<Mesh> iso_surface(const Grid& grid, const std::function<double(const Vec3&)>& field, const Progress& progress) {
  const auto [nx, ny, nz] = grid.cells;
  std::vector<float> values;
  values.reserve(static_cast<std::size_t>(nx + 1) * (ny + 1) * (nz + 1));
  for (int z = 0; z <= nz; ++z) {
    if (!progress.keep_going(0.9 * z / (nz + 1))) return fail(Errc::cancelled, "Stopped.");
    for (int y = 0; y <= ny; ++y)
      for (int x = 0; x <= nx; ++x) values.push_back(static_cast<float>(field(grid.low + grid.cell_mm * Vec3(x, y, z))));
  }
  Marcher marcher(grid, std::move(values));
  for (int z = 0; z < nz; ++z)
    for (int y = 0; y < ny; ++y)
      for (int x = 0; x < nx; ++x) marcher.cell(x, y, z);
  return marcher.take();
}

}  // namespace awl
