#include "core/dress/form_line.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <optional>
#include <queue>

#include "core/base/numbers.hpp"
#include "core/dress/distance.hpp"

namespace awl {
namespace {

constexpr double kLineStepMm = 3.0, kLineSmoothMm = 18.0;

std::vector<Vec3> in_even_steps(const std::vector<Vec3>& line, bool closed, int steps) {
  const double length = length_of(line, closed), step = length / steps;
  std::vector<Vec3> even;
  const std::size_t n = line.size();
  double walked = 0.0;
  std::size_t i = 0;
  for (int k = 0; k < steps + (closed ? 0 : 1); ++k) {
    const double want = k * step;
    for (;;) {
      const std::size_t j = (i + 1) % n;
      const double long_mm = (line[j] - line[i]).norm();
      const bool last = closed ? i + 1 >= n : i + 2 >= n;
      if (walked + long_mm >= want - 1e-9 || last) {
        const double t = long_mm > 1e-12 ? std::clamp((want - walked) / long_mm, 0.0, 1.0) : 0.0;
        even.push_back(line[i] + t * (line[j] - line[i]));
        break;
      }
      walked += long_mm, ++i;
    }
  }
  return even;
}

/// Every turn spread over its neighbours by a tent; what all of them come to stays.
std::vector<double> spread(const std::vector<double>& turn, double step_mm, double half_mm, bool closed) {
  const int n = static_cast<int>(turn.size()), reach = std::max(0, static_cast<int>(half_mm / std::max(step_mm, 1e-9)));
  std::vector<double> even(turn.size(), 0.0);
  for (int i = 0; i < n; ++i) {
    double whole = 0.0;
    for (int pass = 0; pass < 2; ++pass)
      for (int k = -reach; k <= reach; ++k) {
        const double w = 1.0 - std::abs(k) * step_mm / (half_mm + step_mm);
        const int to = closed ? ((i + k) % n + n) % n : i + k;
        // At an open end the first and the last place have no turn.
        if (!closed && (to < 1 || to > n - 2)) continue;
        if (pass == 0)
          whole += w;
        else if (whole > 0.0)
          even[to] += turn[i] * w / whole;
      }
  }
  return even;
}

}  // namespace

double angle_about(const Vec3& from, const Vec3& to, const Vec3& normal) {
  const Vec3 a = in_plane(from, normal), b = in_plane(to, normal);
  return std::atan2(normal.dot(a.cross(b)), a.dot(b));
}

Vec3 FormLine::along(std::size_t i) const { return in_plane(at[next(i)] - at[before(i)], normal[i]).normalized(); }

Vec3 FormLine::left(std::size_t i) const { return normal[i].cross(along(i)); }

FormLine::At FormLine::at_mm(double mm) const {
  if (closed) mm -= length_mm * std::floor(mm / length_mm);
  const double share = std::clamp(mm / std::max(step_mm, 1e-9), 0.0, static_cast<double>(closed ? size() : size() - 1));
  const std::size_t i = std::min(static_cast<std::size_t>(share), size() - 1), j = next(i);
  const double t = share - static_cast<double>(i);
  At place;
  if (size() == 1) {  // a place: level, or to the left where the face looks up
    place.at = at[0], place.normal = normal[0];
    const Vec3 level = Vec3::UnitY().cross(place.normal);
    place.along = in_plane(level.norm() > 0.1 ? level : Vec3(Vec3::UnitX()), place.normal).normalized();
    place.left = place.normal.cross(place.along);
    return place;
  }
  place.at = (1.0 - t) * at[i] + t * at[j];
  place.normal = ((1.0 - t) * normal[i] + t * normal[j]).normalized();
  place.along = in_plane((1.0 - t) * along(i) + t * along(j), place.normal).normalized();
  place.left = place.normal.cross(place.along);
  place.along_mm = mm;
  return place;
}

std::vector<Vec3> laid_on(const DressSite& site, const std::vector<Vec3>& line, bool closed) {
  const double most = std::clamp(0.5 * site.edge_mm, 0.8, 3.0);
  std::vector<Vec3> all;
  for (std::size_t i = 0; i + (closed ? 0 : 1) < line.size(); ++i) {
    const Vec3 &a = line[i], &b = line[(i + 1) % line.size()];
    const int steps = std::max(1, static_cast<int>(std::ceil((b - a).norm() / most)));
    for (int k = 0; k < steps; ++k) all.push_back(site.onto(a + (b - a) * (static_cast<double>(k) / steps)));
  }
  if (!closed && !line.empty()) all.push_back(site.onto(line.back()));
  return all;
}

FormLine line_through(const DressSite& site, const std::vector<Vec3>& on_face, bool closed, double smooth_mm) {
  FormLine line;
  line.closed = closed;
  const auto dense = laid_on(site, on_face, closed);
  line.length_mm = length_of(dense, closed);
  if (dense.size() < 2 || line.length_mm < 1e-6) {
    line.at = dense;
    for (const Vec3& p : dense) line.normal.push_back(site.normal_at(site.hit(p)));
    line.turn.assign(dense.size(), 0.0);
    return line;
  }
  const int steps = std::max(closed ? 8 : 2, static_cast<int>(std::round(line.length_mm / kLineStepMm)));
  line.step_mm = line.length_mm / steps;
  for (const Vec3& p : in_even_steps(dense, closed, steps)) {
    const NearestHit hit = site.hit(p);
    line.at.push_back(hit.point), line.normal.push_back(site.normal_at(hit));
  }
  std::vector<double> turn(line.size(), 0.0);
  for (std::size_t i = 0; i < line.size(); ++i)
    if (closed || (i > 0 && i + 1 < line.size()))
      turn[i] = angle_about(line.at[i] - line.at[line.before(i)], line.at[line.next(i)] - line.at[i], line.normal[i]);
  line.turn = spread(turn, line.step_mm, smooth_mm > 0.0 ? smooth_mm : kLineSmoothMm, closed);
  for (const double t : line.turn) line.turn_rad += t, line.kg_max = std::max(line.kg_max, std::abs(t) / line.step_mm);
  return line;
}

Vec3 shot(const DressSite& site, const Vec3& from, const Vec3& direction, double mm, double* gone_mm) {
  const double step = std::clamp(0.25 * site.edge_mm, 0.5, 2.0);
  NearestHit now = site.hit(from);
  Vec3 way = in_plane(direction, site.normal_at(now)).normalized();
  double gone = 0.0;
  while (gone < mm - 1e-6) {
    const double want = std::min(step, mm - gone);
    const NearestHit to = site.hit(now.point + want * way);
    const double came = (to.point - now.point).norm();
    if (came < 0.3 * want) break;  // the rim
    // Carried along without turning in the surface.
    const Vec3 normal = site.normal_at(to);
    way = in_plane(Eigen::Quaterniond::FromTwoVectors(site.normal_at(now), normal) * way, normal).normalized();
    gone += came, now = to;
  }
  if (gone_mm != nullptr) *gone_mm = gone;
  return now.point;
}

namespace {

/// Where shots of a sharp corner cross: the line of that distance on its side, which has the corner. Nothing where
/// there is none of about its length.
std::optional<FormLine> beside_by_distance(const DressSite& site, const FormLine& line, double off_mm) {
  const double across = std::abs(off_mm);
  const auto far = distance_over(site.outer, line.at, line.closed, across + 4.0 * site.edge_mm);
  std::optional<FormLine> best;
  for (SiteLine& level : level_lines(site.outer, far, across)) {
    if (!level.closed || level.at.size() < 8) continue;
    // On its side: by the place of the line each is nearest to.
    double on_side = 0.0;
    const std::size_t every = std::max<std::size_t>(1, level.at.size() / 24);
    for (std::size_t k = 0; k < level.at.size(); k += every) {
      std::size_t near = 0;
      for (std::size_t i = 1; i < line.size(); ++i)
        if ((line.at[i] - level.at[k]).squaredNorm() < (line.at[near] - level.at[k]).squaredNorm()) near = i;
      on_side += (level.at[k] - line.at[near]).dot(line.left(near)) * off_mm > 0.0 ? 1.0 : -1.0;
    }
    if (on_side <= 0.0) continue;
    const std::size_t first =
        static_cast<std::size_t>(std::min_element(level.at.begin(), level.at.end(), [&](const Vec3& a, const Vec3& b) {
          return (a - line.at[0]).squaredNorm() < (b - line.at[0]).squaredNorm();
        }) - level.at.begin());
    std::rotate(level.at.begin(), level.at.begin() + static_cast<long>(first), level.at.end());
    if ((level.at[level.at.size() / 12 + 1] - level.at[0]).dot(line.along(0)) < 0.0)
      std::reverse(level.at.begin() + 1, level.at.end());
    FormLine found = line_through(site, level.at, true);
    if (!best || found.length_mm > best->length_mm) best = std::move(found);
  }
  return best;
}

}  // namespace

Result<FormLine> beside(const DressSite& site, const FormLine& line, double off_mm) {
  if (off_mm == 0.0) return line;
  std::vector<Vec3> moved;
  std::vector<double> came;
  const double across = std::abs(off_mm);
  bool crossed = false;
  for (std::size_t i = 0; i < line.size(); ++i) {
    double gone = 0.0;
    const Vec3 at = shot(site, line.at[i], off_mm > 0.0 ? line.left(i) : Vec3(-line.left(i)), across, &gone);
    came.push_back(gone);
    if (gone < across - 1.0) continue;  // at a corner of a rim a shot may miss the face
    // Where shots of a sharp corner crowd together only one is kept.
    if (!moved.empty() && (at - moved.back()).norm() < 0.3 * line.step_mm) continue;
    crossed |= !moved.empty() && (at - moved.back()).dot(line.along(i)) < -0.3 * line.step_mm;
    moved.push_back(at);
  }
  // One in six may miss; where more do, the line itself leaves the form.
  std::sort(came.begin(), came.end());
  const double least = came.empty() ? 0.0 : came[came.size() / 6];
  if (least < across - 1.0)
    return fail(Errc::out_of_range,
        "A line " + fixed(across, 0) + " mm beside this one leaves the form; " + fixed(std::max(0.0, least), 0) +
            " mm can be.");
  if (crossed && line.closed)
    if (auto by_distance = beside_by_distance(site, line, off_mm)) return *by_distance;
  if (moved.size() < 3) return fail(Errc::degenerate_shape, "A line beside this one would shrink to a point.");
  return line_through(site, moved, line.closed);
}

FormLine::At upright_at(const DressSite& site, const Vec3& p) {
  const NearestHit hit = site.hit(p);
  FormLine::At at;
  at.at = hit.point, at.normal = site.normal_at(hit);
  const Vec3 up = std::abs(at.normal.y()) < 0.95 ? Vec3(Vec3::UnitY()) : Vec3(Vec3::UnitZ());
  at.left = in_plane(up, at.normal).normalized();
  at.along = at.left.cross(at.normal);
  return at;
}

Vec3 over_face(const DressSite& site, const FormLine::At& at, double along_mm, double left_mm) {
  const double far = std::hypot(along_mm, left_mm);
  return far < 1e-9 ? at.at : shot(site, at.at, along_mm * at.along + left_mm * at.left, far);
}

std::vector<Vec2> square_round(double wide_mm, double high_mm, int steps_a_side) {
  const Vec2 half(0.5 * wide_mm, 0.5 * high_mm);
  const Vec2 corners[] = {-half, {half.x(), -half.y()}, half, {-half.x(), half.y()}};
  std::vector<Vec2> round;
  for (int s = 0; s < 4; ++s)
    for (int i = 0; i < steps_a_side; ++i)
      round.push_back(corners[s] + (corners[(s + 1) % 4] - corners[s]) * (static_cast<double>(i) / steps_a_side));
  return round;
}

Result<std::vector<Vec3>> shortest_way(const DressSite& site, const Vec3& from, const Vec3& to) {
  const Mesh& mesh = site.outer;
  std::vector<std::vector<int>> round(mesh.vertices.size());
  for (const Tri& t : mesh.triangles)
    for (int k = 0; k < 3; ++k) round[t[k]].push_back(t[(k + 1) % 3]), round[t[k]].push_back(t[(k + 2) % 3]);
  const auto corner = [&](const Vec3& p) {
    const NearestHit hit = site.hit(p);
    int k = 0;
    hit.weights.maxCoeff(&k);
    return mesh.triangles[hit.triangle][k];
  };
  const int start = corner(from), goal = corner(to);
  std::vector<double> far(mesh.vertices.size(), 1e300);
  std::vector<int> came(mesh.vertices.size(), -1);
  using Entry = std::pair<double, int>;
  std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
  far[start] = 0.0, open.push({0.0, start});
  while (!open.empty()) {
    const auto [d, v] = open.top();
    open.pop();
    if (d > far[v]) continue;
    if (v == goal) break;
    for (const int w : round[v])
      if (const double there = d + (mesh.vertices[w] - mesh.vertices[v]).norm(); there < far[w])
        far[w] = there, came[w] = v, open.push({there, w});
  }
  if (far[goal] > 1e299) return fail(Errc::not_a_disk, "Both ends of the line lie on parts that are not joined.");
  std::vector<Vec3> way{site.onto(to)};
  for (int v = goal; v >= 0; v = came[v]) way.push_back(mesh.vertices[v]);
  way.push_back(site.onto(from));
  std::reverse(way.begin(), way.end());
  // Few places first, then twice as many, each drawn to the middle of its neighbours.
  constexpr int kRounds = 60;
  const double length = length_of(way, false);
  for (int steps = 4;; steps *= 2) {
    way = in_even_steps(way, false, steps);
    for (int r = 0; r < kRounds; ++r)
      for (std::size_t i = 1; i + 1 < way.size(); ++i) way[i] = site.onto(0.5 * (way[i - 1] + way[i + 1]));
    if (length / steps <= site.edge_mm || steps > 512) break;
  }
  return way;
}

bool crosses_itself(const FormLine& line, double mm) {
  const std::size_t n = line.size(),
                    apart = static_cast<std::size_t>(std::ceil(6.0 * mm / std::max(line.step_mm, 0.1)));
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t j = i + apart; j < n; ++j) {
      if (line.closed && n - (j - i) < apart) break;
      if ((line.at[i] - line.at[j]).squaredNorm() < mm * mm) return true;
    }
  return false;
}

FormLine stretch_of(const DressSite& site, const FormLine& line, double from, double to) {
  if (from <= 0.0 && to >= 1.0) return line;
  std::vector<Vec3> part;
  const double a = std::clamp(from, 0.0, 1.0) * line.length_mm, b = std::clamp(to, 0.0, 1.0) * line.length_mm;
  const int steps = std::max(2, static_cast<int>(std::round((b - a) / std::max(line.step_mm, 0.5))));
  for (int i = 0; i <= steps; ++i) {
    const double mm = a + (b - a) * i / steps;
    part.push_back(line.at_mm(line.closed ? std::min(mm, line.length_mm - 1e-9) : mm).at);
  }
  return line_through(site, part, false);
}

}  // namespace awl
