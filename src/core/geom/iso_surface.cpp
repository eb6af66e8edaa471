#include "core/geom/iso_surface.hpp"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "core/base/parallel.hpp"

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
      for (int x = 0; x <= nx; ++x)
        values.push_back(static_cast<float>(field(grid.low + grid.cell_mm * Vec3(x, y, z))));
  }
  Marcher marcher(grid, std::move(values));
  for (int z = 0; z < nz; ++z)
    for (int y = 0; y < ny; ++y)
      for (int x = 0; x < nx; ++x) marcher.cell(x, y, z);
  return marcher.take();
}

namespace {

/// Which of a grid's corners a surface needs to know exactly: all of the small blocks it may pass. Blocks of four cells
/// a side are told by their middle to be too far off, those that are not by the middles of their eighths.
class NearCorners {
 public:
  static constexpr int kBlock = 4, kEighth = 2;

  NearCorners(const Grid& grid, const std::function<double(const Vec3&)>& distance) : grid_(grid), distance_(distance) {
    for (int k = 0; k < 3; ++k) {
      corners_[k] = grid.cells[k] + 1;
      blocks_[k] = (grid.cells[k] + kBlock - 1) / kBlock;
      eighths_[k] = 2 * blocks_[k];
    }
    values.assign(static_cast<std::size_t>(corners_[0]) * corners_[1] * corners_[2], 0.0f);
    exact.assign(values.size(), 0);
    middles_.assign(static_cast<std::size_t>(eighths_[0]) * eighths_[1] * eighths_[2], 0.0f);
    near_.assign(middles_.size(), 0);
  }

  /// Looks at all blocks; where `wanted_at` of a middle is below 0 there is nothing. `beyond_mm`: so far past what the
  /// surface passes is known exactly too.
  void look(const std::function<double(const Vec3&)>& wanted_at, double beyond_mm) {
    const double half = 0.5 * std::sqrt(3.0) * grid_.cell_mm * 1.01;
    parallel_for(blocks_[2], [&](int z) {
      for (int y = 0; y < blocks_[1]; ++y)
        for (int x = 0; x < blocks_[0]; ++x) {
          const Vec3 middle = place(kBlock * Vec3(x + 0.5, y + 0.5, z + 0.5));
          double mm = 1e9;
          if (!wanted_at || wanted_at(middle) >= 0.0) mm = distance_(middle);
          const bool passed = std::abs(mm) <= kBlock * half + beyond_mm;
          for (int e = 0; e < 8; ++e) {
            const int i = 2 * x + (e & 1), j = 2 * y + ((e >> 1) & 1), k = 2 * z + ((e >> 2) & 1);
            const double own = passed ? distance_(place(kEighth * Vec3(i + 0.5, j + 0.5, k + 0.5))) : mm;
            middles_[eighth(i, j, k)] = static_cast<float>(own);
            near_[eighth(i, j, k)] = passed && std::abs(own) <= kEighth * half + beyond_mm ? 1 : 0;
          }
        }
    });
  }

  /// Works the near corners out; of the others only the sign is right.
  void measure() {
    std::vector<std::array<int, 3>> wanted;
    for (const bool of_near : {true, false})
      for_each_eighth([&](int x, int y, int z, bool is_near) {
        if (is_near != of_near) return;
        for (int k = kEighth * z; k <= std::min(corners_[2] - 1, kEighth * (z + 1)); ++k)
          for (int j = kEighth * y; j <= std::min(corners_[1] - 1, kEighth * (y + 1)); ++j)
            for (int i = kEighth * x; i <= std::min(corners_[0] - 1, kEighth * (x + 1)); ++i) {
              const std::size_t c = corner(i, j, k);
              if (exact[c] != 0) continue;
              values[c] = middles_[eighth(x, y, z)];
              if (!is_near) continue;
              exact[c] = 1;
              if (i % kEighth == 0 || j % kEighth == 0 || k % kEighth == 0) wanted.push_back({i, j, k});
            }
      });
    parallel_each(wanted.size(), [&](std::size_t i) {
      const auto [x, y, z] = wanted[i];
      values[corner(x, y, z)] = static_cast<float>(distance_(place(Vec3(x, y, z))));
    });
  }

  /// Cells the surface may pass.
  void for_each_cell(const std::function<void(int, int, int)>& each) const {
    const auto end = [&](int axis, int block) { return std::min(corners_[axis] - 1, kBlock * (block + 1)); };
    for (int z = 0; z < blocks_[2]; ++z)
      for (int y = 0; y < blocks_[1]; ++y)
        for (int x = 0; x < blocks_[0]; ++x)
          for (int k = kBlock * z; k < end(2, z); ++k)
            for (int j = kBlock * y; j < end(1, y); ++j)
              for (int i = kBlock * x; i < end(0, x); ++i)
                if (near_[eighth(i / kEighth, j / kEighth, k / kEighth)] != 0) each(i, j, k);
  }

  std::vector<float> values;  ///< by corner
  std::vector<char> exact;

 private:
  Vec3 place(const Vec3& cells) const { return grid_.low + grid_.cell_mm * cells; }
  std::size_t corner(int x, int y, int z) const {
    return (static_cast<std::size_t>(z) * corners_[1] + y) * corners_[0] + x;
  }
  std::size_t eighth(int x, int y, int z) const {
    return (static_cast<std::size_t>(z) * eighths_[1] + y) * eighths_[0] + x;
  }
  template <class Each>
  void for_each_eighth(Each each) const {
    for (int z = 0; z < eighths_[2]; ++z)
      for (int y = 0; y < eighths_[1]; ++y)
        for (int x = 0; x < eighths_[0]; ++x) each(x, y, z, near_[eighth(x, y, z)] != 0);
  }

  const Grid grid_;
  const std::function<double(const Vec3&)>& distance_;
  std::array<int, 3> corners_{}, blocks_{}, eighths_{};
  std::vector<float> middles_;  ///< of eighths
  std::vector<char> near_;
};

}  // namespace

Result<Mesh> distance_surface(const Grid& grid, const std::function<double(const Vec3&)>& distance,
    const Progress& progress, const std::function<double(const Vec3&)>& wanted_at, DistanceBand* band) {
  constexpr double kBandCells = 0.75;  // a band is asked about places so far off the surface
  NearCorners corners(grid, distance);
  corners.look(wanted_at, band != nullptr ? kBandCells * grid.cell_mm : 0.0);
  if (!progress.keep_going(0.3)) return fail(Errc::cancelled, "Stopped.");
  corners.measure();
  if (!progress.keep_going(0.9)) return fail(Errc::cancelled, "Stopped.");
  if (band != nullptr) band->grid_ = grid, band->values_ = corners.values, band->exact_ = corners.exact;
  Marcher marcher(grid, corners.values);
  corners.for_each_cell([&](int x, int y, int z) { marcher.cell(x, y, z); });
  return marcher.take();
}

std::optional<double> DistanceBand::at(const Vec3& p) const {
  const Vec3 q = (p - grid_.low) / grid_.cell_mm;
  int i[3];
  double f[3];
  for (int k = 0; k < 3; ++k) {
    if (q[k] < -1e-9 || q[k] > grid_.cells[k]) return std::nullopt;
    i[k] = std::clamp(static_cast<int>(std::floor(q[k])), 0, grid_.cells[k] - 1);
    f[k] = q[k] - i[k];
  }
  double sum = 0.0;
  for (int c = 0; c < 8; ++c) {
    const int x = i[0] + (c & 1), y = i[1] + ((c >> 1) & 1), z = i[2] + ((c >> 2) & 1);
    const std::size_t at = static_cast<std::size_t>((z * (grid_.cells[1] + 1) + y) * (grid_.cells[0] + 1) + x);
    if (exact_[at] == 0) return std::nullopt;
    sum += ((c & 1) ? f[0] : 1 - f[0]) * (((c >> 1) & 1) ? f[1] : 1 - f[1]) * (((c >> 2) & 1) ? f[2] : 1 - f[2]) *
        values_[at];
  }
  return sum;
}

std::optional<Vec3> DistanceBand::onto(Vec3 p, bool keep_x) const {
  const double h = 0.25 * grid_.cell_mm;
  for (int step = 0; step < 2; ++step) {
    const auto d = at(p);
    if (!d) return std::nullopt;
    Vec3 slope = Vec3::Zero();
    for (int k = keep_x ? 1 : 0; k < 3; ++k) {
      const auto up = at(p + h * Vec3::Unit(k)), down = at(p - h * Vec3::Unit(k));
      // On the grid's own side there is no step outwards: one-sided there.
      if (!up && !down) return std::nullopt;
      slope[k] = up && down ? (*up - *down) / (2.0 * h) : up ? (*up - *d) / h : (*d - *down) / h;
    }
    const double steep = slope.squaredNorm();
    if (steep < 0.05) return std::nullopt;
    p -= *d / steep * slope;
  }
  return p;
}

}  // namespace awl
