#include "core/seam/borders.hpp"

#include <Eigen/QR>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/curve_fit.hpp"

namespace awl {
namespace {

constexpr int kWide = 3;
constexpr double kRoughMm = 0.3, kRoughCorner = 2.4;  // workshop values

/// How far the points of a closed line lie off the cubics through three neighbours on each side, by the median: up to
/// 0.16 mm on forms drafted here, 0.5 to 1.6 where a border zigzags along the edges of a mesh.
double roughness_mm(const std::vector<Vec2>& line) {
  const auto n = static_cast<long>(line.size());
  if (n < 2 * kWide + 2) return 0.0;
  std::vector<double> off;
  for (long i = 0; i < n; ++i) {
    Eigen::Matrix<double, 2 * kWide, 4> a;
    Eigen::Matrix<double, 2 * kWide, 2> b;
    double u[2 * kWide + 1];
    for (int k = -kWide; k <= kWide; ++k) {
      const auto at = [&](int j) -> const Vec2& { return line[static_cast<std::size_t>((i + j + n) % n)]; };
      u[k + kWide] = k == -kWide ? 0.0 : u[k + kWide - 1] + (at(k) - at(k - 1)).norm();
    }
    for (int k = -kWide, row = 0; k <= kWide; ++k) {
      if (k == 0) continue;
      const double x = (u[k + kWide] - u[kWide]) / std::max(u[2 * kWide], 1e-9);
      a.row(row) << 1.0, x, x * x, x * x * x;
      b.row(row++) = line[static_cast<std::size_t>((i + k + n) % n)].transpose();
    }
    const Eigen::Matrix<double, 4, 2> c = a.colPivHouseholderQr().solve(b);
    off.push_back((c.row(0).transpose() - line[static_cast<std::size_t>(i)]).norm());
  }
  std::sort(off.begin(), off.end());
  return off[off.size() / 2];
}

bool turns(const std::vector<Vec2>& line, std::size_t i, double limit) {
  return std::abs(turn_at(line, true, i, 1)) > limit && std::abs(turn_at(line, true, i, kWide)) > limit;
}

}  // namespace

Borders::Borders(const PanelSet& set, double corner_deg) : set_(set) {
  std::map<std::pair<SeamId, std::pair<int, int>>, std::vector<BorderSpot>> sides;
  for (std::size_t p = 0; p < set.panels.size(); ++p) {
    const Panel& panel = set.panels[p];
    flat_.emplace_back();
    for (std::size_t i = 0; i < panel.border.size(); ++i) {
      const BorderEdge& e = panel.border[i];
      flat_.back().push_back(panel.flat[e.a]);
      if (e.seam.valid())
        sides[{e.seam, edge_of(panel.vertex_of[e.a], panel.vertex_of[e.b])}].push_back({static_cast<int>(p), i});
    }
    const double rough = panel.given_flat ? 0.0 : roughness_mm(flat_.back());
    rough_mm_.push_back(rough > kRoughMm ? rough : 0.0);
    partner_.emplace_back(panel.border.size());
    corner_.emplace_back(panel.border.size(), 0);
  }
  for (const auto& [key, both] : sides)
    if (both.size() == 2) partner(both[0]) = both[1], partner(both[1]) = both[0];
  find_corners(radians(corner_deg));
}

void Borders::keep_chords(int panel) {
  for (std::size_t i = 0; i < size(panel); ++i) set_corner({panel, i});
  spread();
}

void Borders::add_corner(const BorderSpot& vertex) {
  set_corner(vertex);
  spread();
}

void Borders::find_corners(double limit) {
  for (int p = 0; p < static_cast<int>(flat_.size()); ++p)
    for (std::size_t i = 0; i < size(p); ++i) {
      const double turn = rough_mm(p) > 0.0 ? kRoughCorner * limit : limit;
      const BorderSpot v{p, i}, in = before(v);
      const auto& border = set_.panels[static_cast<std::size_t>(p)].border;
      const bool other_seam = border[i].seam != border[in.at].seam;
      const BorderSpot &there = partner(v), &was = partner(in);
      const bool tip = there == in;  // of a dart: its sides lie on each other
      const bool breaks = tip || there.there() != was.there() || (there.there() && next(there) != was);
      if (other_seam || breaks || turns(outline(p), i, turn)) set_corner(v);
    }
  spread();
}

void Borders::spread() {
  for (bool any = true; any;) {
    any = false;
    for (int p = 0; p < static_cast<int>(flat_.size()); ++p)
      for (std::size_t i = 0; i < size(p); ++i) {
        if (!corner({p, i})) continue;
        for (const BorderSpot& edge : {BorderSpot{p, i}, before({p, i})}) {
          const BorderSpot& other = partner(edge);
          if (!other.there()) continue;
          const BorderSpot vertex = edge.at == i ? next(other) : other;
          if (!corner(vertex)) set_corner(vertex), any = true;
        }
      }
  }
}

}  // namespace awl
