#include "core/head/gauge.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/geom/section.hpp"

namespace awl {
namespace {

using M = MeasureId;
using L = Landmark;
constexpr int kCandidates = 14;
constexpr double kEarRootMm = 11.0;  // round the back the tape lies over the root of the ear

}  // namespace

Gauge::Gauge(const HeadTemplate& head, const Coefficients& at, const std::vector<Vec3>& shape,
    const std::array<char, kMeasureCount>& wanted, bool follow)
    : head_(&head), at_(at), shape_(&shape), wanted_(wanted), follow_(follow) {
  for (const auto& [mean, left, right] :
      {std::array{M::EH, M::EHL, M::EHR}, {M::EP, M::EPL, M::EPR}, {M::CE, M::CEL, M::CER}})
    if (wants(mean)) wanted_[index_of(left)] = wanted_[index_of(right)] = 1;
  cut_loops();
  pick_extremes();
  shape_ = nullptr;
}

void Gauge::add(Points& to, const EdgePoint& e) const {
  to.now.push_back(e.on(*shape_));
  if (follow_) to.modes.push_back((1 - e.t) * head_->riders.modes(e.from) + e.t * head_->riders.modes(e.to));
}

void Gauge::add(Points& to, Landmark l) const {
  to.now.push_back(where(l, at_));
  if (follow_) to.modes.push_back(moves(l));
}

Vec3 Gauge::where(const Points& points, std::size_t i, const Coefficients& c) const {
  return follow_ ? Vec3(points.now[i] + points.modes[i] * (c - at_)) : points.now[i];
}

Vec3 Gauge::where(Landmark l, const Coefficients& c) const { return head_->landmarks.at(static_cast<int>(l), c); }

void Gauge::cut_loops() {
  const auto level_through = [&](L a, L b) {
    return Plane{where(a, at_), Vec3::UnitX().cross(where(a, at_) - where(b, at_)).normalized()};
  };
  cut_loop(M::HC, level_through(L::glabella, L::opisthocranion), -50, 200);
  cut_loop(M::CCC, level_through(L::vertex, L::submandibular), -150, 200);
  cut_loop(M::NC, Plane{where(L::larynx, at_), Vec3(0, 0.988, 0.151).normalized()}, -400, -85);
  cut_arc(M::TOP, {L::tragion_l, L::vertex, L::tragion_r});
  cut_arc(M::BNA, {L::glabella, L::vertex, L::inion});
  cut_arc(M::EEF, {L::tragion_l, L::glabella, L::tragion_r});
  cut_arc(M::EEB, {L::tragion_l, L::inion, L::tragion_r});
}

void Gauge::cut_loop(MeasureId id, const Plane& plane, double least_y_mm, double most_y_mm) {
  if (!wants(id)) return;
  Loop& loop = loops_[id];
  const auto frame = frame_of(plane);
  loop.u = frame.u, loop.v = frame.v;
  const auto& off = head_->off_skin_mm;
  const auto found = crossings(id == M::EEB ? head_->edges : head_->skin_edges, *shape_, plane);
  loop.points.now.reserve(found.size() + 2);
  if (follow_) loop.points.modes.reserve(found.size() + 2);
  for (const EdgePoint& e : found) {
    const double y = e.on(head_->riders.places()).y();
    if (y < least_y_mm || y > most_y_mm || (1 - e.t) * off[e.from] + e.t * off[e.to] > kEarRootMm) continue;
    add(loop.points, e);
  }
}

void Gauge::cut_arc(MeasureId id, std::array<Landmark, 3> through) {
  if (!wants(id)) return;
  const Vec3 a = where(through[0], at_), mid = where(through[1], at_), b = where(through[2], at_);
  cut_loop(id, plane_through(a, mid, b), -400, 400);
  Loop& loop = loops_[id];
  const Vec3 chord = (b - a).normalized(), side = (mid - a) - (mid - a).dot(chord) * chord;
  Points kept;
  add(kept, through[0]), add(kept, through[2]);
  for (std::size_t i = 0; i < loop.points.now.size(); ++i) {
    if (side.dot(loop.points.now[i] - a) <= 0.0) continue;
    kept.now.push_back(loop.points.now[i]);
    if (follow_) kept.modes.push_back(loop.points.modes[i]);
  }
  loop.points = std::move(kept);
  loop.open = true;
}

void Gauge::pick_extremes() {
  const auto pick = [&](Extreme& e, const std::vector<int>& region, int axis, double sign) {
    std::vector<std::pair<double, int>> best;
    for (const int v : region) best.push_back({-sign * (*shape_)[v][axis], v});
    const auto count = std::min<std::size_t>(follow_ ? kCandidates : 1, best.size());
    std::partial_sort(best.begin(), best.begin() + static_cast<long>(count), best.end());
    e.axis = axis, e.sign = sign;
    for (std::size_t i = 0; i < count; ++i) add(e.candidates, {best[i].second, best[i].second, 0.0});
  };
  const auto& r = head_->regions;
  if (wants(M::HB) || wants(M::HBL)) pick(left_, r.cranium, 0, 1.0);
  if (wants(M::HB) || wants(M::HBR)) pick(right_, r.cranium, 0, -1.0);
  if (wants(M::FW)) pick(face_left_, r.cheeks, 0, 1.0), pick(face_right_, r.cheeks, 0, -1.0);
  if (wants(M::HH)) pick(crown_, r.crown, 1, 1.0), pick(chin_, r.under_chin, 1, -1.0);
  if (wants(M::TW)) pick(back_, r.back, 2, -1.0);
  if (!wants(M::HL)) return;
  for (const int v : r.midline_back) add(midline_back_, EdgePoint{v, v, 0.0});
}

double Gauge::tape(const Loop& loop, const Coefficients& c, Row* row) const {
  const std::size_t count = loop.points.now.size();
  std::vector<Vec3> points(count);
  std::vector<Vec2> flat(count);
  for (std::size_t i = 0; i < count; ++i) {
    points[i] = where(loop.points, i, c);
    flat[i] = {loop.u.dot(points[i]), loop.v.dot(points[i])};
  }
  const std::vector<int> hull = convex_hull(flat);
  double length = 0.0;
  if (row != nullptr) row->setZero();
  const auto step_to = [&](int from, int to, double sign) {
    const Vec3 step = points[to] - points[from];
    length += sign * step.norm();
    if (row != nullptr)
      *row += sign * step.normalized().transpose() * (loop.points.modes[to] - loop.points.modes[from]);
  };
  for (std::size_t i = 0; i < hull.size(); ++i) step_to(hull[i], hull[(i + 1) % hull.size()], 1.0);
  if (loop.open) step_to(0, 1, -1.0);
  return length;
}

std::size_t Gauge::extreme_index(const Extreme& e, const Coefficients& c) const {
  double best = -1e300;
  std::size_t chosen = 0;
  for (std::size_t i = 0; i < e.candidates.now.size(); ++i)
    if (const double score = e.sign * where(e.candidates, i, c)[e.axis]; score > best) best = score, chosen = i;
  return chosen;
}

std::size_t Gauge::furthest_back(const Coefficients& c) const {
  const Vec3 brow = where(L::glabella, c);
  double best = 0.0;
  std::size_t chosen = 0;
  for (std::size_t i = 0; i < midline_back_.now.size(); ++i)
    if (const double d = (where(midline_back_, i, c) - brow).norm(); d > best) best = d, chosen = i;
  return chosen;
}

double Gauge::extreme(const Extreme& e, const Coefficients& c, Row* row) const {
  const std::size_t chosen = extreme_index(e, c);
  const double best = e.sign * where(e.candidates, chosen, c)[e.axis];
  if (row != nullptr && follow_) *row = e.sign * e.candidates.modes[chosen].row(e.axis);
  return best;
}

double Gauge::straight(Landmark a, Landmark b, const Coefficients& c, Row* row) const {
  const Vec3 step = where(b, c) - where(a, c);
  if (row != nullptr) *row = step.normalized().transpose() * (moves(b) - moves(a));
  return step.norm();
}

void Gauge::read_straights(const Coefficients& c, MeasureVector& reads, MeasureJacobian* jacobian) const {
  const auto put = [&](M id, double value, const Row& row) {
    reads[index_of(id)] = value;
    if (jacobian != nullptr) jacobian->row(index_of(id)) = row;
  };
  const auto one = [&](M id, L a, L b) {
    if (!wants(id)) return;
    Row row;
    const double value = straight(a, b, c, &row);
    put(id, value, row);
  };
  const auto along = [&](M id, L from, L to, int axis, double sign) {
    if (!wants(id)) return;
    put(id, sign * (where(to, c) - where(from, c))[axis], sign * (moves(to) - moves(from)).row(axis));
  };
  const auto mean = [&](M id, M left, M right) {
    if (!wants(id)) return;
    Row row = Row::Zero();
    if (jacobian != nullptr) row = 0.5 * (jacobian->row(index_of(left)) + jacobian->row(index_of(right)));
    put(id, 0.5 * (reads[index_of(left)] + reads[index_of(right)]), row);
  };
  one(M::FH, L::sellion, L::menton), one(M::JW, L::gonion_l, L::gonion_r), one(M::PD, L::pupil_l, L::pupil_r);
  one(M::EHL, L::ear_top_l, L::ear_bottom_l), one(M::EHR, L::ear_top_r, L::ear_bottom_r);
  one(M::CEL, L::tragion_l, L::menton), one(M::CER, L::tragion_r, L::menton);
  along(M::EPL, L::behind_ear_l, L::ear_outer_l, 0, 1.0), along(M::EPR, L::behind_ear_r, L::ear_outer_r, 0, -1.0);
  along(M::NP, L::subnasale, L::pronasale, 2, 1.0);
  mean(M::EH, M::EHL, M::EHR), mean(M::EP, M::EPL, M::EPR), mean(M::CE, M::CEL, M::CER);
}

void Gauge::read_extremes(const Coefficients& c, MeasureVector& reads, MeasureJacobian* jacobian) const {
  Row a = Row::Zero(), b = Row::Zero();
  const auto put = [&](M id, double value, const Row& row) {
    reads[index_of(id)] = value;
    if (jacobian != nullptr) jacobian->row(index_of(id)) = row;
  };
  const auto both = [&](M id, const Extreme& first, const Extreme& second) {
    if (!wants(id)) return;
    const double value = extreme(first, c, &a) + extreme(second, c, &b);
    put(id, value, a + b);
  };
  both(M::HB, left_, right_), both(M::FW, face_left_, face_right_), both(M::HH, crown_, chin_);
  if (wants(M::HBL)) reads[index_of(M::HBL)] = extreme(left_, c, &a), put(M::HBL, reads[index_of(M::HBL)], a);
  if (wants(M::HBR)) reads[index_of(M::HBR)] = extreme(right_, c, &a), put(M::HBR, reads[index_of(M::HBR)], a);
  if (wants(M::TW)) {
    const double value = extreme(back_, c, &a) + 0.5 * (where(L::tragion_l, c) + where(L::tragion_r, c)).z();
    put(M::TW, value, a + 0.5 * (moves(L::tragion_l) + moves(L::tragion_r)).row(2));
  }
  if (!wants(M::HL)) return;
  const Vec3 brow = where(L::glabella, c);
  const std::size_t chosen = furthest_back(c);
  const double best = (where(midline_back_, chosen, c) - brow).norm();
  if (follow_ && jacobian != nullptr)
    a = (where(midline_back_, chosen, c) - brow).normalized().transpose() *
        (midline_back_.modes[chosen] - moves(L::glabella));
  put(M::HL, best, a);
}

void Gauge::read(const Coefficients& c, MeasureVector& reads, MeasureJacobian* jacobian) const {
  reads.setZero();
  if (jacobian != nullptr) jacobian->setZero();
  Row row;
  for (const auto& [id, loop] : loops_) {
    reads[index_of(id)] = tape(loop, c, jacobian != nullptr ? &row : nullptr);
    if (jacobian != nullptr) jacobian->row(index_of(id)) = row;
  }
  read_straights(c, reads, jacobian);
  read_extremes(c, reads, jacobian);
}

std::vector<Vec3> Gauge::path(MeasureId id, const Coefficients& c) const {
  if (!wants(id)) return {};
  const auto found = loops_.find(id);
  if (found == loops_.end()) return straight_path(id, c);
  const Loop& loop = found->second;
  std::vector<Vec3> places;
  std::vector<Vec2> flat;
  for (std::size_t i = 0; i < loop.points.now.size(); ++i) {
    places.push_back(where(loop.points, i, c));
    flat.push_back({loop.u.dot(places.back()), loop.v.dot(places.back())});
  }
  std::vector<int> hull = convex_hull(flat);
  if (hull.empty()) return {};
  std::vector<Vec3> line;
  if (!loop.open) {
    for (const int i : hull) line.push_back(places[i]);
    line.push_back(line.front());
    return line;
  }
  // From one end to the other, the way that does not go straight across.
  std::rotate(hull.begin(), std::find(hull.begin(), hull.end(), 0), hull.end());
  if (hull.size() > 1 && hull[1] == 1) std::reverse(hull.begin() + 1, hull.end());
  for (const int i : hull) line.push_back(places[i]);
  return line;
}

std::vector<Vec3> Gauge::straight_path(MeasureId id, const Coefficients& c) const {
  const auto at = [&](L l) { return where(l, c); };
  const auto of = [&](const Extreme& e) { return where(e.candidates, extreme_index(e, c), c); };
  const auto moved = [](Vec3 p, int axis, double to) { return p[axis] = to, p; };
  switch (id) {
    case M::HL:
      return {at(L::glabella), where(midline_back_, furthest_back(c), c)};
    case M::HB:
      return {of(left_), moved(of(left_), 0, of(right_).x())};
    case M::HBL:
      return {moved(of(left_), 0, 0.0), of(left_)};
    case M::HBR:
      return {moved(of(right_), 0, 0.0), of(right_)};
    case M::FW:
      return {of(face_left_), moved(of(face_left_), 0, of(face_right_).x())};
    case M::FH:
      return {at(L::sellion), at(L::menton)};
    case M::JW:
      return {at(L::gonion_l), at(L::gonion_r)};
    case M::PD:
      return {at(L::pupil_l), at(L::pupil_r)};
    case M::EH:
    case M::EHL:
      return {at(L::ear_top_l), at(L::ear_bottom_l)};
    case M::EHR:
      return {at(L::ear_top_r), at(L::ear_bottom_r)};
    case M::EP:
    case M::EPL:
      return {moved(at(L::ear_outer_l), 0, at(L::behind_ear_l).x()), at(L::ear_outer_l)};
    case M::EPR:
      return {moved(at(L::ear_outer_r), 0, at(L::behind_ear_r).x()), at(L::ear_outer_r)};
    case M::NP:
      return {moved(at(L::pronasale), 2, at(L::subnasale).z()), at(L::pronasale)};
    case M::CE:
    case M::CEL:
      return {at(L::tragion_l), at(L::menton)};
    case M::CER:
      return {at(L::tragion_r), at(L::menton)};
    case M::HH:
      return {of(crown_), moved(of(crown_), 1, of(chin_).y())};
    case M::TW:
      return {at(L::tragion_l), moved(at(L::tragion_l), 2, of(back_).z())};
    default:
      return {};
  }
}

}  // namespace awl
