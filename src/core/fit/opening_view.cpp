#include "core/fit/opening_view.hpp"

#include <algorithm>

#include "core/base/parallel.hpp"
#include "core/fit/eye_rays.hpp"
#include "core/fit/sight_words.hpp"

namespace awl {
namespace {

constexpr int kRingsAtOnce = 8;
constexpr int kMostFaces = 40;

/// Where a ray meets the fill, as the places it is asked by. None: it meets an edge of the sheet, which stays.
std::optional<std::vector<Vec3>> faces_met(
    const FitPart& filled, const std::vector<Vec3>& home, const Vec3& from, const Vec3& d) {
  std::vector<Vec3> met;
  const int n = static_cast<int>(home.size());
  double at = 1e-2;
  while (const auto hit = filled.near->first_hit(from, d, at)) {
    const Tri& t = filled.solid.triangles[hit->triangle];
    const bool outer = t[0] < n;
    if ((t[1] < n) != outer || (t[2] < n) != outer) return std::nullopt;
    const auto& v = filled.solid.vertices;
    const Vec3 w = closest_weights(from + hit->along_mm * d, v[t[0]], v[t[1]], v[t[2]]);
    met.push_back(w[0] * home[t[0] % n] + w[1] * home[t[1] % n] + w[2] * home[t[2] % n]);
    at = hit->along_mm + 1e-2;
    if (static_cast<int>(met.size()) > kMostFaces) return std::nullopt;
  }
  return met;
}

}  // namespace

OpeningView::OpeningView(const FitHead& head, const std::vector<FitPart>& others, const FitPart& filled,
    const std::vector<Vec3>& home, const FitRules& rules, const SightOptions& options)
    : rules_(rules), options_(options), grid_(options.step_deg) {
  expects(filled.solid.vertices.size() == 2 * home.size(), "OpeningView: one place for each vertex of a face");
  const auto &left = head.at(Landmark::pupil_l), &right = head.at(Landmark::pupil_r);
  if (!left || !right) return;
  has_eyes_ = true;
  pupils_ = {*left, *right};
  for (int eye = 0; eye < 2; ++eye) {
    const EyeRays rays(head, others, rules_.sight, pupils_[eye]);
    for (const int field : {0, 1}) fields_[eye][field] = traced(rays, field == 0, filled, home);
  }
}

OpeningView::Field OpeningView::traced(
    const EyeRays& rays, bool ahead, const FitPart& filled, const std::vector<Vec3>& home) const {
  Field field;
  field.beside.open.assign(grid_.size(), 0);
  field.beside.through.assign(grid_.size(), 0.0f);
  struct Found {
    std::vector<Ray> rays;
    std::vector<Vec3> homes;
  };
  const int rings = static_cast<int>(grid_.rings().size()), blocks = (rings + kRingsAtOnce - 1) / kRingsAtOnce;
  std::vector<Found> found(blocks);
  parallel_for(blocks, [&](int block) {
    for (int r = block * kRingsAtOnce; r < std::min(rings, (block + 1) * kRingsAtOnce); ++r) {
      const auto& ring = grid_.rings()[r];
      for (int i = 0; i < ring.count; ++i) {
        const Vec3 d = grid_.direction(r, i);
        if (!rays.bare(ahead, d)) continue;
        field.beside.open[ring.first + i] = 1;
        const auto light = static_cast<float>(rays.through(ahead, d));
        if (light <= 0.0f) continue;
        const auto met = faces_met(filled, home, rays.start(ahead, d), d);
        if (!met) continue;
        if (met->empty()) {
          field.beside.through[ring.first + i] = light;
          continue;
        }
        Found& mine = found[block];
        mine.rays.push_back(
            {ring.first + i, light, static_cast<int>(mine.homes.size()), static_cast<int>(met->size())});
        mine.homes.insert(mine.homes.end(), met->begin(), met->end());
      }
    }
  });
  for (const Found& one : found) {
    const int at = static_cast<int>(field.homes.size());
    for (Ray ray : one.rays) ray.first += at, field.rays.push_back(ray);
    field.homes.insert(field.homes.end(), one.homes.begin(), one.homes.end());
  }
  return field;
}

EyeField OpeningView::with(const Field& field, const std::function<bool(const Vec3&)>& open) const {
  EyeField made = field.beside;
  const int rays = static_cast<int>(field.rays.size()), blocks = (rays + 511) / 512;
  parallel_for(blocks, [&](int block) {
    for (int i = block * 512; i < std::min(rays, (block + 1) * 512); ++i) {
      const Ray& ray = field.rays[i];
      const auto first = field.homes.begin() + ray.first;
      if (std::all_of(first, first + ray.count, std::cref(open))) made.through[ray.cell] = ray.light;
    }
  });
  for (const auto& ring : grid_.rings())
    for (int c = ring.first; c < ring.first + ring.count; ++c)
      made.unaided_sr += ring.weight_sr * made.open[c], made.kept_sr += ring.weight_sr * made.through[c];
  return made;
}

std::optional<Sight> OpeningView::seen(const std::function<bool(const Vec3&)>& open) const {
  if (!has_eyes_) return std::nullopt;
  Sight sight;
  sight.grid = grid_;
  sight.eye_height_mm = options_.eye_height_mm;
  sight.least_through = rules_.sight.least_through;
  for (int eye = 0; eye < 2; ++eye) {
    sight.eyes[eye].pupil = pupils_[eye];
    sight.eyes[eye].ahead = with(fields_[eye][0], open);
    sight.eyes[eye].looked = with(fields_[eye][1], open);
  }
  tell_sight(sight, rules_, options_);
  return sight;
}

std::size_t OpeningView::rays() const {
  std::size_t sum = 0;
  for (const auto& eye : fields_)
    for (const Field& field : eye) sum += field.rays.size();
  return sum;
}

}  // namespace awl
