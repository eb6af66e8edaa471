#include "core/form/ring_mesh.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kHome = 100.0;

}  // namespace

Vec3 RingCurve::operator()(double a) const {
  const Vec2 p = oval.point(a);
  const double z = p.y() - pivot_mm, half = std::max(0.5 * oval.breadth_mm(), 1.0);
  return {p.x(), height_mm + z * std::sin(lean_rad) - side_drop_mm * (p.x() / half) * (p.x() / half),
      pivot_mm + z * std::cos(lean_rad)};
}

Vec3 RingCurve::tangent(double a) const {
  return {std::cos(a), -std::sin(a) * std::sin(lean_rad), -std::sin(a) * std::cos(lean_rad)};
}
Vec3 RingCurve::outward(double a) const {
  return {std::sin(a), std::cos(a) * std::sin(lean_rad), std::cos(a) * std::cos(lean_rad)};
}

double developable_partner(const RingCurve& from, double a, const RingCurve& to) {
  if (a <= 0.0 || a >= kPi) return a;
  const Vec3 p = from(a), t = from.tangent(a);
  const auto off = [&](double b) { return t.cross(to.tangent(b)).dot(to(b) - p); };
  const double at_a = off(a);
  if (std::abs(at_a) < 1e-9) return a;
  for (double reach = 0.02; reach < 1.2; reach *= 1.4)
    for (const double sign : {1.0, -1.0}) {
      const double b = std::clamp(a + sign * reach, 0.0, kPi);
      if ((off(b) < 0.0) == (at_a < 0.0)) continue;
      double low = a, high = b;
      for (int i = 0; i < 60; ++i) {
        const double mid = 0.5 * (low + high);
        ((off(mid) < 0.0) == (at_a < 0.0) ? low : high) = mid;
      }
      return 0.5 * (low + high);
    }
  return a;
}

RingMesh::RingMesh(const RingCurve& lowest, int columns, std::vector<int> cuts, const Oval& mean)
    : columns_(columns), cuts_(std::move(cuts)), lowest_(lowest), top_(lowest),
      lowest_angles_(mean.even_angles(columns)), angles_(lowest_angles_) {
  expects(columns % 16 == 0, "RingMesh: columns must be divisible by 16");
  std::vector<Vec3> places;
  for (const double a : angles_) places.push_back(lowest(a));
  lowest_row_ = row_ = add_row(places, kHome, 0.0);
}

RingMesh::Row RingMesh::add_row(const std::vector<Vec3>& places, double radius, double height) {
  Row row;
  for (std::size_t i = 0; i < places.size(); ++i) {
    row.push_back(static_cast<int>(draft_.mesh.vertices.size()));
    draft_.mesh.vertices.push_back(places[i]);
    const double a = kPi * static_cast<double>(i) / static_cast<double>(places.size() - 1);
    draft_.home.push_back(
        {i == 0 || i + 1 == places.size() ? 0.0 : radius * std::sin(a), height, radius * std::cos(a)});
    if (i == 0 || i + 1 == places.size()) draft_.mesh.vertices.back().x() = 0.0;
  }
  return row;
}

/// Triangles between two rows of which only every stride-th place is used; the outside is to the right of upwards.
void RingMesh::join(const Row& lower, const Row& upper, int lower_stride, int upper_stride) {
  const int most = std::max(lower_stride, upper_stride);
  for (int i = 0; i + most <= columns_; i += most) {
    if (lower_stride == upper_stride) {
      const int a = lower[i], b = lower[i + most], c = upper[i + most], d = upper[i];
      const auto& v = draft_.mesh.vertices;
      if ((v[a] - v[c]).squaredNorm() < (v[b] - v[d]).squaredNorm())
        draft_.mesh.triangles.push_back({a, b, c}), draft_.mesh.triangles.push_back({a, c, d});
      else
        draft_.mesh.triangles.push_back({a, b, d}), draft_.mesh.triangles.push_back({b, c, d});
    } else if (lower_stride < upper_stride) {
      const int a = lower[i], m = lower[i + lower_stride], b = lower[i + most], c = upper[i + most], d = upper[i];
      for (const Tri& t : {Tri{a, m, d}, Tri{m, b, c}, Tri{m, c, d}}) draft_.mesh.triangles.push_back(t);
    } else {
      const int a = lower[i], b = lower[i + most], c = upper[i + most], m = upper[i + upper_stride], d = upper[i];
      for (const Tri& t : {Tri{a, b, m}, Tri{b, c, m}, Tri{a, m, d}}) draft_.mesh.triangles.push_back(t);
    }
  }
}

void RingMesh::label_row(const Row& row, const std::string& name) {
  const int label = draft_.seam(name);
  for (int i = 0; i < columns_; ++i) draft_.seams[edge_of(row[i], row[i + 1])] = label;
}

void RingMesh::label_columns(const std::vector<Row>& rows, const std::vector<int>& cuts, const std::string& name) {
  for (std::size_t k = 0; k < cuts.size(); ++k) {
    const int label = draft_.seam(cuts.size() == 1 ? name : name + " " + std::to_string(k + 1));
    for (std::size_t r = 0; r + 1 < rows.size(); ++r)
      draft_.seams[edge_of(rows[r][cuts[k]], rows[r + 1][cuts[k]])] = label;
  }
}

Result<void> RingMesh::add_band(const RingCurve& next, double bulge_mm, double row_mm) {
  ++bands_;
  std::vector<double> partners;
  for (const double a : angles_) partners.push_back(developable_partner(top_, a, next));
  for (std::size_t i = 0; i + 1 < partners.size(); ++i)
    if (partners[i + 1] <= partners[i] + 1e-6)
      return fail(Errc::degenerate_shape,
          "Band " + std::to_string(bands_) +
              " cannot join its two rings: they differ too much in lean or outline. Less lean, or a taller band, "
              "works.",
          "rings/band" + std::to_string(bands_) + ".kind");
  double tall = 0.0;
  for (std::size_t i = 0; i < partners.size(); ++i)
    tall = std::max(tall, (next(partners[i]) - top_(angles_[i])).norm());
  const int count =
      std::max(2, static_cast<int>(std::ceil(tall / (bulge_mm == 0.0 ? row_mm : std::min(row_mm, 10.0)))));
  std::vector<Row> rows{row_};
  for (int r = 1; r <= count; ++r) {
    const double t = static_cast<double>(r) / count;
    std::vector<Vec3> places;
    for (std::size_t i = 0; i < partners.size(); ++i) {
      const Vec3 out = ((1.0 - t) * top_.outward(angles_[i]) + t * next.outward(partners[i])).normalized();
      places.push_back((1.0 - t) * top_(angles_[i]) + t * next(partners[i]) + 4.0 * t * (1.0 - t) * bulge_mm * out);
    }
    rows.push_back(add_row(places, kHome, kHome * (bands_ - 1 + t)));
    join(rows[r - 1], rows[r], 1, 1);
  }
  if (bands_ > 1) label_row(row_, "ring " + std::to_string(bands_));
  label_columns(rows, cuts_, "band " + std::to_string(bands_));
  row_ = rows.back(), top_ = next, angles_ = partners;
  return {};
}

Vec3 RingMesh::add_cap(bool pointed, double height_mm) {
  constexpr double kFull = 2.0 / 2.4;  // a skull is fuller than an ellipse
  const bool flat = height_mm == 0.0;
  const Vec3 front = draft_.mesh.vertices[row_.front()], back = draft_.mesh.vertices[row_.back()];
  const Vec3 centre = 0.5 * (front + back);
  const double reach = 0.5 * (front - back).norm(), slope = (front.y() - back.y()) / (front.z() - back.z());
  const int count = std::max(4, static_cast<int>(std::ceil(std::hypot(reach, height_mm) / 14.0)));
  const double spacing = kPi * reach / columns_;
  std::vector<Row> rows{row_};
  std::vector<int> strides{1};
  for (int r = 1; r < count; ++r) {
    const double t = static_cast<double>(r) / count;
    const double scale = pointed || flat ? 1.0 - t : std::pow(std::cos(0.5 * kPi * t), kFull),
                 rise = flat ? 0.0
        : pointed            ? height_mm * t
                             : height_mm * std::pow(std::sin(0.5 * kPi * t), kFull);
    std::vector<Vec3> places;
    for (const int v : row_) {
      const Vec3 off = draft_.mesh.vertices[v] - centre;
      // What the ring drops at its sides a flat top follows as a cylinder, which still unrolls.
      const double leant = slope * off.z(), dropped = off.y() - leant;
      const double lift = scale * leant + (flat ? scale * scale : scale) * dropped;
      places.push_back(centre + Vec3(scale * off.x(), lift + rise, scale * off.z()));
    }
    int stride = strides.back();
    if (scale * spacing * stride < 0.45 * spacing && stride < 16) stride *= 2;
    rows.push_back(add_row(places, kHome * (1.0 - t), kHome * (bands_ + 0.5 * t)));
    strides.push_back(stride);
    join(rows[r - 1], rows[r], strides[r - 1], stride);
  }
  const int tip = static_cast<int>(draft_.mesh.vertices.size());
  draft_.mesh.vertices.push_back(centre + Vec3(0.0, height_mm, 0.0));
  draft_.home.push_back({0.0, kHome * (bands_ + 0.5), 0.0});
  for (int i = 0; i < columns_; i += strides.back())
    draft_.mesh.triangles.push_back({rows.back()[i], rows.back()[i + strides.back()], tip});
  label_row(row_, "cap");
  if (!flat) {
    rows.push_back(Row(columns_ + 1, tip));
    label_columns(rows, cuts_, "cap");
  }
  return draft_.mesh.vertices[tip];
}

void RingMesh::add_skirt(const std::string& name, int count, const std::function<Vec3(double, double)>& place,
    const std::vector<int>& cuts) {
  std::vector<Row> rows{lowest_row_};
  for (int r = 1; r <= count; ++r) {
    std::vector<Vec3> places;
    for (const double a : lowest_angles_) places.push_back(place(a, static_cast<double>(r) / count));
    const double t = static_cast<double>(r) / count;
    rows.push_back(add_row(places, kHome * (1.0 + 0.7 * t), -0.1 * kHome * t));
    join(rows[r], rows[r - 1], 1, 1);
  }
  label_row(lowest_row_, name);
  label_columns(rows, cuts, name);
}

void hang_sheet(
    Draft& draft, int number, const SheetArc& arc, double depth_mm, const std::function<Vec3(double, double)>& place) {
  const int across = std::max(8, static_cast<int>(std::ceil((arc.to_rad - arc.from_rad) * 110.0 / 9.0))),
            down = std::max(2, static_cast<int>(std::ceil(depth_mm / 12.0)));
  const int first = static_cast<int>(draft.mesh.vertices.size());
  for (int r = 0; r <= down; ++r)
    for (int i = 0; i <= across; ++i) {
      draft.mesh.vertices.push_back(
          place(arc.from_rad + (arc.to_rad - arc.from_rad) * i / across, static_cast<double>(r) / down));
      const double a = arc.from_rad + (arc.to_rad - arc.from_rad) * i / across, radius = 2.5 * kHome;
      draft.home.push_back(
          {radius * std::sin(a), -kHome * (1.2 * number + static_cast<double>(r) / down), radius * std::cos(a)});
      if ((i == 0 && arc.from_middle) || (i == across && arc.to_middle)) draft.mesh.vertices.back().x() = 0.0;
    }
  for (int r = 0; r < down; ++r)
    for (int i = 0; i < across; ++i) {
      const int a = first + r * (across + 1) + i, b = a + 1, c = a + across + 1, d = c + 1;
      draft.mesh.triangles.push_back({a, c, b});
      draft.mesh.triangles.push_back({b, c, d});
    }
}

}  // namespace awl
