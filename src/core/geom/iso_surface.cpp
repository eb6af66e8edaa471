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

Result<Mesh> distance_surface(const Grid& grid, const std::function<double(const Vec3&)>& distance,
    const Progress& progress, const std::function<double(const Vec3&)>& wanted_at, DistanceBand* band) {
  constexpr int kBlock = 4;
  const auto [nx, ny, nz] = grid.cells;
  const int bx = (nx + kBlock - 1) / kBlock, by = (ny + kBlock - 1) / kBlock, bz = (nz + kBlock - 1) / kBlock;
  const auto corner = [&](int x, int y, int z) { return static_cast<std::size_t>((z * (ny + 1) + y) * (nx + 1) + x); };
  std::vector<float> values(corner(nx, ny, nz) + 1, 0.0f);
  std::vector<char> near_block(static_cast<std::size_t>(bx) * by * bz, 0), exact(values.size(), 0);
  const double reach = 0.5 * std::sqrt(3.0) * kBlock * grid.cell_mm * 1.01;
  std::vector<float> middles(near_block.size());
  parallel_for(bz, [&](int z) {
    for (int y = 0; y < by; ++y)
      for (int x = 0; x < bx; ++x) {
        const std::size_t b = (static_cast<std::size_t>(z) * by + y) * bx + x;
        const Vec3 middle = grid.low + grid.cell_mm * kBlock * Vec3(x + 0.5, y + 0.5, z + 0.5);
        middles[b] = 1e9f;
        if (wanted_at && wanted_at(middle) < 0.0) continue;
        middles[b] = static_cast<float>(distance(middle));
        near_block[b] = std::abs(middles[b]) <= reach ? 1 : 0;
      }
  });
  if (!progress.keep_going(0.3)) return fail(Errc::cancelled, "Stopped.");
  const auto each_corner = [&](int x, int y, int z, auto&& visit) {
    for (int k = z * kBlock; k <= std::min(nz, (z + 1) * kBlock); ++k)
      for (int j = y * kBlock; j <= std::min(ny, (y + 1) * kBlock); ++j)
        for (int i = x * kBlock; i <= std::min(nx, (x + 1) * kBlock); ++i) visit(corner(i, j, k), i, j, k);
  };
  std::vector<std::array<int, 3>> wanted;
  for (int pass = 0; pass < 2; ++pass)
    for (int z = 0; z < bz; ++z)
      for (int y = 0; y < by; ++y)
        for (int x = 0; x < bx; ++x) {
          const std::size_t b = (static_cast<std::size_t>(z) * by + y) * bx + x;
          if ((near_block[b] != 0) != (pass == 0)) continue;
          each_corner(x, y, z, [&](std::size_t c, int i, int j, int k) {
            if (exact[c] != 0) return;
            if (pass == 1) return void(values[c] = middles[b]);  // only its sign matters
            exact[c] = 1;
            wanted.push_back({i, j, k});
          });
        }
  constexpr int kSlices = 64;
  parallel_for(kSlices, [&](int slice) {
    for (std::size_t i = slice * wanted.size() / kSlices; i < (slice + 1) * wanted.size() / kSlices; ++i) {
      const auto [x, y, z] = wanted[i];
      values[corner(x, y, z)] = static_cast<float>(distance(grid.low + grid.cell_mm * Vec3(x, y, z)));
    }
  });
  if (!progress.keep_going(0.9)) return fail(Errc::cancelled, "Stopped.");
  if (band != nullptr) band->grid_ = grid, band->values_ = values, band->exact_ = exact;
  Marcher marcher(grid, std::move(values));
  for (int z = 0; z < bz; ++z)
    for (int y = 0; y < by; ++y)
      for (int x = 0; x < bx; ++x) {
        if (near_block[(static_cast<std::size_t>(z) * by + y) * bx + x] == 0) continue;
        for (int k = z * kBlock; k < std::min(nz, (z + 1) * kBlock); ++k)
          for (int j = y * kBlock; j < std::min(ny, (y + 1) * kBlock); ++j)
            for (int i = x * kBlock; i < std::min(nx, (x + 1) * kBlock); ++i) marcher.cell(i, j, k);
      }
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
