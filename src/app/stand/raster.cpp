#include "app/stand/raster.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/random.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr float kNear = 20.0f;

Vec3f mix(const Vec3f& a, const Vec3f& b, float t) { return a + t * (b - a); }

QRgb toRgb(const Vec3f& c) {
  // A soft shoulder instead of a hard cut at white.
  const auto channel = [](float v) {
    return static_cast<int>(255.0f * std::clamp(v / (0.85f + 0.15f * std::max(v, 1.0f)), 0.0f, 1.0f));
  };
  return qRgb(channel(c.x()), channel(c.y()), channel(c.z()));
}

}  // namespace

Vec3f strainColour(float strain, float tolerance) {
  const float t = std::clamp(std::abs(strain) / (1.5f * tolerance), 0.0f, 1.0f);
  const Vec3f rest(0.93f, 0.91f, 0.86f), squeezed(0.12f, 0.36f, 0.66f), stretched(0.85f, 0.45f, 0.08f);
  return mix(rest, strain < 0.0f ? squeezed : stretched, t);
}

Vec3f StandRaster::project(const Vec3f& p) const {
  const Vec3f q = p - m_eye;
  const float depth = -m_back.dot(q);
  const float f = m_focal / std::max(depth, 1e-3f);
  return {0.5f * m_width + f * m_right.dot(q), 0.5f * m_height - f * m_up.dot(q), depth};
}

QImage StandRaster::render(
    const std::vector<StandBody>& bodies, const StandCamera& camera, QSize size, double scale, const Options& options) {
  m_scale = scale;
  m_width = std::max(1, static_cast<int>(size.width() * scale));
  m_height = std::max(1, static_cast<int>(size.height() * scale));
  const float cy = std::cos(camera.yaw), sy = std::sin(camera.yaw), cp = std::cos(camera.pitch),
              sp = std::sin(camera.pitch);
  m_back = Vec3f(sy * cp, sp, cy * cp);
  m_right = Vec3f(cy, 0.0f, -sy);
  m_up = m_back.cross(m_right);
  m_eye = camera.target + camera.distance * m_back;
  m_focal = 0.5f * m_height / std::tan(0.5f * camera.field);
  m_cells.assign(static_cast<std::size_t>(m_width) * m_height, {std::numeric_limits<float>::max(), -1, 0.0f, 0.0f});
  m_all.clear();
  m_screen.resize(bodies.size());
  for (int b = 0; b < static_cast<int>(bodies.size()); ++b) {
    m_screen[b].resize(bodies[b].places.size());
    for (int t = 0; t < static_cast<int>(bodies[b].triangles.size()); ++t) m_all.push_back({b, t});
  }
  parallel_for(kBands, [&](int part) {
    for (std::size_t b = 0; b < bodies.size(); ++b) {
      const std::size_t n = bodies[b].places.size();
      for (std::size_t v = n * part / kBands; v < n * (part + 1) / kBands; ++v)
        m_screen[b][v] = project(bodies[b].places[v]);
    }
  });
  QImage image(m_width, m_height, QImage::Format_RGB32);
  m_key = (-0.55f * m_right + 0.75f * m_up + 0.75f * m_back).normalized();
  parallel_for(kBands, [&](int part) { sortIntoBands(bodies, part); });
  parallel_for(kBands, [&](int band) {
    const int from = m_height * band / kBands, to = m_height * (band + 1) / kBands;
    for (const auto& part : m_bands) fillRows(bodies, part[band], from, to);
    lightRows(bodies, from, to, options, image);
  });
  return image;
}

/// Each triangle of one part of all to the bands of rows it reaches into, in their order.
void StandRaster::sortIntoBands(const std::vector<StandBody>& bodies, int part) {
  for (auto& band : m_bands[part]) band.clear();
  const float band_rows = static_cast<float>(m_height) / kBands;
  const std::size_t n = m_all.size();
  for (std::size_t i = n * part / kBands; i < n * (part + 1) / kBands; ++i) {
    const auto& t = bodies[m_all[i].body].triangles[m_all[i].triangle];
    const auto& s = m_screen[m_all[i].body];
    const float a = s[t[0]].y(), b = s[t[1]].y(), c = s[t[2]].y();
    const float low = std::min({a, b, c}), high = std::max({a, b, c});
    if (!(high >= 0.0f) || !(low < static_cast<float>(m_height))) continue;
    const int first = std::clamp(static_cast<int>(low / band_rows) - 1, 0, kBands - 1),
              last = std::clamp(static_cast<int>(high / band_rows) + 1, 0, kBands - 1);
    for (int band = first; band <= last; ++band)
      if (high >= static_cast<float>(m_height * band / kBands) &&
          low < static_cast<float>(m_height * (band + 1) / kBands))
        m_bands[part][band].push_back(static_cast<int>(i));
  }
}

void StandRaster::fillRows(const std::vector<StandBody>& bodies, const std::vector<int>& faces, int from, int to) {
  for (const int i : faces) {
    const auto& t = bodies[m_all[i].body].triangles[m_all[i].triangle];
    const auto& s = m_screen[m_all[i].body];
    const Vec3f &a = s[t[0]], &b = s[t[1]], &c = s[t[2]];
    const float low = std::min({a.y(), b.y(), c.y()}), high = std::max({a.y(), b.y(), c.y()});
    if (high < from || low >= to || a.z() < kNear || b.z() < kNear || c.z() < kNear) continue;
    // Only pixels whose middle lies within the triangle's frame: most triangles are smaller than a few pixels.
    const int y0 = std::max(from, static_cast<int>(std::ceil(low - 0.5f))),
              y1 = std::min(to - 1, static_cast<int>(std::floor(high - 0.5f)));
    if (y0 > y1) continue;
    const int x0 = std::max(0, static_cast<int>(std::ceil(std::min({a.x(), b.x(), c.x()}) - 0.5f))),
              x1 = std::min(m_width - 1, static_cast<int>(std::floor(std::max({a.x(), b.x(), c.x()}) - 0.5f)));
    if (x0 > x1) continue;
    const float area = (b.x() - a.x()) * (c.y() - a.y()) - (b.y() - a.y()) * (c.x() - a.x());
    if (std::abs(area) < 1e-6f) continue;
    const float inverse = 1.0f / area;
    for (int y = y0; y <= y1; ++y) {
      Cell* row = &m_cells[static_cast<std::size_t>(y) * m_width];
      const float py = y + 0.5f;
      for (int x = x0; x <= x1; ++x) {
        const float px = x + 0.5f;
        const float u = ((px - a.x()) * (c.y() - a.y()) - (py - a.y()) * (c.x() - a.x())) * inverse;
        const float v = ((b.x() - a.x()) * (py - a.y()) - (b.y() - a.y()) * (px - a.x())) * inverse;
        if (u < 0.0f || v < 0.0f || u + v > 1.0f) continue;
        const float depth = a.z() + u * (b.z() - a.z()) + v * (c.z() - a.z());
        if (depth < row[x].depth) row[x] = {depth, i, u, v};
      }
    }
  }
}

void StandRaster::lightRows(
    const std::vector<StandBody>& bodies, int from, int to, const Options& options, QImage& image) const {
  const Vec3f top = options.dark ? Vec3f(0.16f, 0.17f, 0.19f) : Vec3f(0.90f, 0.89f, 0.85f);
  const Vec3f bottom = options.dark ? Vec3f(0.09f, 0.10f, 0.11f) : Vec3f(0.78f, 0.77f, 0.73f);
  for (int y = from; y < to; ++y) {
    auto* line = reinterpret_cast<QRgb*>(image.scanLine(y));
    const QRgb paper = toRgb(mix(top, bottom, static_cast<float>(y) / m_height));
    const Cell* row = &m_cells[static_cast<std::size_t>(y) * m_width];
    for (int x = 0; x < m_width; ++x) line[x] = row[x].triangle < 0 ? paper : lit(bodies, row[x], options);
  }
}

QRgb StandRaster::lit(const std::vector<StandBody>& bodies, const Cell& cell, const Options& options) const {
  const Face face = m_all[cell.triangle];
  const StandBody& body = bodies[face.body];
  const auto& t = body.triangles[face.triangle];
  const float w0 = 1.0f - cell.u - cell.v;
  const auto blend = [&](const std::vector<float>& of) {
    return w0 * of[t[0]] + cell.u * of[t[1]] + cell.v * of[t[2]];
  };
  Vec3f n = (w0 * body.normals[t[0]] + cell.u * body.normals[t[1]] + cell.v * body.normals[t[2]]).normalized();
  const Vec3f place = w0 * body.places[t[0]] + cell.u * body.places[t[1]] + cell.v * body.places[t[2]];
  const Vec3f view = (m_eye - place).normalized();
  if (n.dot(view) < 0.0f) n = -n;
  Vec3f colour = body.paint.empty() ? body.colour : body.paint[static_cast<std::size_t>(face.triangle)];
  if (body.look == StandBody::Look::strain && !body.strain.empty()) {
    const float s = blend(body.strain);
    const float tolerance = body.tolerance > 0.0f ? body.tolerance : options.tolerance;
    colour = strainColour(s, tolerance);
    if (std::abs(std::abs(s) - tolerance) < 0.03f * tolerance) colour = Vec3f(0.15f, 0.12f, 0.1f);
  }
  if (body.shadeless) return toRgb(colour);
  const bool pointed = options.owner_lit >= 0 && !body.owner.empty() && body.owner[face.triangle] == options.owner_lit;
  if (pointed) colour = mix(colour, Vec3f(0.95f, 0.72f, 0.20f), 0.55f);
  // Key from the upper left of the viewer, sky and bounce by height, a thin rim, a soft highlight.
  const float ambient = body.light.empty() ? 1.0f : blend(body.light);
  const float lambert = std::max(0.0f, n.dot(m_key)) * (0.45f + 0.55f * ambient);
  const float sky = 0.5f + 0.5f * n.y();
  const float away = 1.0f - std::max(0.0f, n.dot(view)), rim = away * away * away;
  const Vec3f half = (m_key + view).normalized();
  const float facing = std::max(0.0f, n.dot(half)), p4 = facing * facing * facing * facing, p8 = p4 * p4;
  const float shine = body.gloss * p8 * p8 * p8 * p4 * ambient;  // to the 28th
  const Vec3f fill = ambient * mix(Vec3f(0.38f, 0.35f, 0.32f), Vec3f(0.50f, 0.52f, 0.56f), sky);
  Vec3f light = fill + lambert * Vec3f(0.74f, 0.71f, 0.66f) + rim * ambient * Vec3f(0.10f, 0.11f, 0.13f);
  // A colour that means something must be readable in the shade too.
  if (body.look == StandBody::Look::strain) light = mix(light, Vec3f::Constant(0.92f), 0.6f);
  return toRgb(colour.cwiseProduct(light) + Vec3f::Constant(shine));
}

StandRaster::Pick StandRaster::pick(QPoint at) const {
  const int x = static_cast<int>(std::floor((at.x() + 0.5) * m_scale)),
            y = static_cast<int>(std::floor((at.y() + 0.5) * m_scale));
  if (x < 0 || y < 0 || x >= m_width || y >= m_height) return {};
  const int i = m_cells[static_cast<std::size_t>(y) * m_width + x].triangle;
  return i < 0 ? Pick{} : Pick{m_all[i].body, m_all[i].triangle};
}

bool StandRaster::visible(const Vec3f& p, float slack_mm) const {
  const Vec3f s = project(p);
  const int x = static_cast<int>(s.x()), y = static_cast<int>(s.y());
  if (s.z() < kNear || x < 0 || y < 0 || x >= m_width || y >= m_height) return false;
  return m_cells[static_cast<std::size_t>(y) * m_width + x].depth > s.z() - slack_mm;
}

bool bakeLight(std::vector<StandBody>& bodies, int rays, const std::function<bool()>& wanted) {
  Mesh all;
  for (const StandBody& body : bodies) {
    if (body.shadeless) continue;
    const int first = static_cast<int>(all.vertices.size());
    for (const Vec3f& p : body.places) all.vertices.push_back(p.cast<double>());
    for (const auto& t : body.triangles) all.triangles.push_back({t[0] + first, t[1] + first, t[2] + first});
  }
  const Nearest scene(all);
  Random random(11);
  std::vector<Vec3> sphere;
  while (static_cast<int>(sphere.size()) < rays) {
    const Vec3 d(random.uniform(-1, 1), random.uniform(-1, 1), random.uniform(-1, 1));
    if (d.squaredNorm() <= 1.0 && d.squaredNorm() > 0.01) sphere.push_back(d.normalized());
  }
  for (StandBody& body : bodies) {
    body.light.assign(body.places.size(), 1.0f);
    if (body.shadeless) continue;
    for (std::size_t v = 0; v < body.places.size(); ++v) {
      if (v % 512 == 0 && !wanted()) return false;
      const Vec3 n = body.normals[v].cast<double>(), p = body.places[v].cast<double>() + 0.4 * n;
      double open = 0.0, total = 0.0;
      for (const Vec3& d : sphere) {
        const Vec3 direction = n.dot(d) < 0.0 ? Vec3(-d) : d;
        const double weight = n.dot(direction);
        total += weight;
        if (!scene.blocked(p, direction, 140.0)) open += weight;
      }
      body.light[v] = static_cast<float>(0.18 + 0.82 * open / std::max(total, 1e-9));
    }
  }
  return true;
}

}  // namespace awl
