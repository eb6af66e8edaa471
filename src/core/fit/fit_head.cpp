#include "core/fit/fit_head.hpp"

#include <algorithm>
#include <cmath>
#include <mutex>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kGridMarginMm = 30.0, kExactMm = 25.0;
constexpr int kCoarse = 4;  // steps of the grid between nodes that are always asked

double mix(double a, double b, double t) { return a + t * (b - a); }

}  // namespace

DistanceGrid::DistanceGrid(const Mesh& closed, const Nearest& near, double step_mm) : step_(step_mm) {
  const Box box = box_of(closed.vertices);
  origin_ = box.low - Vec3::Constant(kGridMarginMm);
  const Vec3 size = box.size() + Vec3::Constant(2.0 * kGridMarginMm);
  const auto nodes = [&](double mm) { return kCoarse * (static_cast<int>(mm / (kCoarse * step_mm)) + 1) + 1; };
  nx_ = nodes(size.x()), ny_ = nodes(size.y()), nz_ = nodes(size.z());
  values_.assign(static_cast<std::size_t>(nx_) * ny_ * nz_, 0.0f);
  const auto node = [&](int x, int y, int z) -> float& {
    return values_[(static_cast<std::size_t>(z) * ny_ + y) * nx_ + x];
  };
  const auto ask = [&](int x, int y, int z) {
    node(x, y, z) = static_cast<float>(near.to(origin_ + step_ * Vec3(x, y, z)).signed_mm);
  };
  parallel_for((nz_ - 1) / kCoarse + 1, [&](int k) {
    for (int y = 0; y < ny_; y += kCoarse)
      for (int x = 0; x < nx_; x += kCoarse) ask(x, y, k * kCoarse);
  });
  // Between them exactly only near the surface; elsewhere what the coarse nodes say is near enough.
  const double reach = kExactMm + 0.5 * kCoarse * step_;
  parallel_for(nz_, [&](int z) {
    const int z0 = std::min(z / kCoarse * kCoarse, nz_ - 1 - kCoarse);
    const double tz = static_cast<double>(z - z0) / kCoarse;
    for (int y = 0; y < ny_; ++y) {
      const int y0 = std::min(y / kCoarse * kCoarse, ny_ - 1 - kCoarse);
      const double ty = static_cast<double>(y - y0) / kCoarse;
      for (int x = 0; x < nx_; ++x) {
        if (x % kCoarse == 0 && y % kCoarse == 0 && z % kCoarse == 0) continue;
        const int x0 = std::min(x / kCoarse * kCoarse, nx_ - 1 - kCoarse);
        const double tx = static_cast<double>(x - x0) / kCoarse;
        double plane[2];
        for (int k = 0; k < 2; ++k) {
          const int at = z0 + k * kCoarse;
          plane[k] = mix(mix(node(x0, y0, at), node(x0 + kCoarse, y0, at), tx),
              mix(node(x0, y0 + kCoarse, at), node(x0 + kCoarse, y0 + kCoarse, at), tx), ty);
        }
        const double rough = mix(plane[0], plane[1], tz);
        if (std::abs(rough) > reach)
          node(x, y, z) = static_cast<float>(rough);
        else
          ask(x, y, z);
      }
    }
  });
}

double DistanceGrid::at(const Vec3& p) const {
  const Vec3 g = (p - origin_) / step_;
  const Vec3 held(
      std::clamp(g.x(), 0.0, nx_ - 1.001), std::clamp(g.y(), 0.0, ny_ - 1.001), std::clamp(g.z(), 0.0, nz_ - 1.001));
  const int x = static_cast<int>(held.x()), y = static_cast<int>(held.y()), z = static_cast<int>(held.z());
  const double tx = held.x() - x, ty = held.y() - y, tz = held.z() - z;
  const double low =
      mix(mix(value(x, y, z), value(x + 1, y, z), tx), mix(value(x, y + 1, z), value(x + 1, y + 1, z), tx), ty);
  const double high = mix(mix(value(x, y, z + 1), value(x + 1, y, z + 1), tx),
      mix(value(x, y + 1, z + 1), value(x + 1, y + 1, z + 1), tx), ty);
  return mix(low, high, tz) + step_ * (g - held).norm();
}

GirthTable::GirthTable(const Mesh& head, double tilt_deg) {
  std::set<std::pair<int, int>> pairs;
  for (const Tri& t : head.triangles)
    for (int k = 0; k < 3; ++k) pairs.insert(std::minmax(t[k], t[(k + 1) % 3]));
  const std::vector<std::pair<int, int>> edges(pairs.begin(), pairs.end());
  double reach = 0.0;
  for (const Vec3& p : head.vertices) reach = std::max(reach, std::hypot(p.y(), p.z()));
  low_ = -kLevelStepMm * std::ceil(reach / kLevelStepMm);
  const int levels = static_cast<int>(-2.0 * low_ / kLevelStepMm) + 1;
  rows_.resize(kPitches);
  parallel_for(kPitches, [&](int p) {
    const double a = radians(tilt_deg + pitch_deg(p)), c = std::cos(a), s = std::sin(a);
    std::vector<std::vector<Vec2>> cut(levels);
    const auto level = [&](const Vec3& v) { return (c * v.y() + s * v.z() - low_) / kLevelStepMm; };
    for (const auto& [i, j] : edges) {
      const Vec3 &u = head.vertices[i], &v = head.vertices[j];
      const double lu = level(u), lv = level(v);
      const int from = static_cast<int>(std::ceil(std::min(lu, lv))),
                to = static_cast<int>(std::floor(std::max(lu, lv)));
      for (int k = std::max(from, 0); k <= std::min(to, levels - 1); ++k) {
        const double t = lu == lv ? 0.0 : (k - lu) / (lv - lu);
        const Vec3 at = u + t * (v - u);
        cut[k].push_back({at.x(), c * at.z() - s * at.y()});
      }
    }
    auto& row = rows_[p];
    row.assign(levels, 0.0);
    for (int k = 0; k < levels; ++k)
      if (cut[k].size() > 2) row[k] = tape_round_mm(cut[k]);
  });
}

double GirthTable::at(int pitch, double level_mm) const {
  const auto& row = rows_[pitch];
  const double k = (level_mm - low_) / kLevelStepMm;
  if (k < 0.0 || k > static_cast<double>(row.size()) - 1.0) return 0.0;
  const int i = std::min(static_cast<int>(k), static_cast<int>(row.size()) - 2);
  return mix(row[i], row[i + 1], k - i);
}

double GirthTable::most(int pitch, double from_mm, double to_mm) const {
  double most = std::max(at(pitch, from_mm), at(pitch, to_mm));
  const auto& row = rows_[pitch];
  const int from = static_cast<int>(std::ceil((std::min(from_mm, to_mm) - low_) / kLevelStepMm)),
            to = static_cast<int>(std::floor((std::max(from_mm, to_mm) - low_) / kLevelStepMm));
  for (int k = std::max(from, 0); k <= std::min(to, static_cast<int>(row.size()) - 1); ++k)
    most = std::max(most, row[k]);
  return most;
}

struct FitHead::Later {
  std::once_flag once;
  std::optional<DistanceGrid> grid;
};

FitHead::FitHead(Mesh mesh, Mesh folded, Places places)
    : mesh_(std::move(mesh)), folded_(std::move(folded)), places_(std::move(places)), near_(mesh_),
      later_(std::make_shared<Later>()) {}

const DistanceGrid& FitHead::grid() const {
  std::call_once(later_->once, [&] { later_->grid.emplace(folded_, folded_ == mesh_ ? near_ : Nearest(folded_)); });
  return *later_->grid;
}

Vec3 FitHead::between_ears() const {
  const auto &left = at(Landmark::tragion_l), &right = at(Landmark::tragion_r);
  return left && right ? Vec3(0.5 * (*left + *right)) : Vec3(Vec3::Zero());
}

std::string FitHead::nearest_place(const Vec3& p) const {
  int best = -1;
  double least = 1e300;
  for (int i = 0; i < kLandmarkCount; ++i)
    if (places_[i] && (*places_[i] - p).squaredNorm() < least) least = (*places_[i] - p).squaredNorm(), best = i;
  if (best < 0) return p.x() > 0.0 ? "the wearer's left" : "the wearer's right";
  const std::string side = places_[best]->x() > 5.0 ? "left " : places_[best]->x() < -5.0 ? "right " : "";
  std::string name = name_of(static_cast<Landmark>(best));
  // "behind the left ear", "between the brows", "the left ear flap"
  if (const auto the = name.find(" the "); the != std::string::npos && name.find(" of ") == std::string::npos)
    return name.insert(the + 5, side);
  return "the " + side + name;
}

Mesh folded_ears(const HeadTemplate& from, const Mesh& head, double left_mm) {
  expects(head.vertices.size() == from.mesh.vertices.size(), "folded_ears: the head is no carried template");
  Mesh folded = head;
  for (std::size_t v = 0; v < folded.vertices.size(); ++v) {
    if (from.off_skin_mm[v] <= left_mm) continue;
    const Vec3 skin = from.bare.project(from.mesh.vertices[v]);
    folded.vertices[v] += skin + left_mm * from.bare.gradient(skin).normalized() - from.mesh.vertices[v];
  }
  return folded;
}

}  // namespace awl
