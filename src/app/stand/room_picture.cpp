#include "app/stand/room_picture.hpp"

#include <QPainter>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/mesh.hpp"

namespace awl {
namespace {

constexpr double kFieldRad = 1.80;  // upright
constexpr double kTileMm = 250.0, kNearLight = 0.02;

/// Bodies of one colour, put together from flat tiles: small ones, since none may reach behind the eye.
class Builder {
 public:
  explicit Builder(Vec3f colour) : colour_(colour) {}
  void face(const Vec3& corner, const Vec3& along, const Vec3& up) {
    const int n = std::max(1, static_cast<int>(std::ceil(along.norm() / kTileMm))),
              m = std::max(1, static_cast<int>(std::ceil(up.norm() / kTileMm)));
    for (int i = 0; i < n; ++i)
      for (int k = 0; k < m; ++k) {
        const int first = static_cast<int>(mesh_.vertices.size());
        for (const auto& [a, b] : {std::pair{i, k}, {i + 1, k}, {i + 1, k + 1}, {i, k + 1}})
          mesh_.vertices.push_back(corner + along * a / n + up * b / m);
        mesh_.triangles.push_back({first, first + 1, first + 2});
        mesh_.triangles.push_back({first, first + 2, first + 3});
      }
  }
  void box(const Vec3& low, const Vec3& high) {
    const Vec3 s = high - low;
    const Vec3 x(s.x(), 0, 0), y(0, s.y(), 0), z(0, 0, s.z());
    face(low, x, y), face(low + z, x, y), face(low, z, y), face(low + x, z, y), face(low + y, x, z), face(low, x, z);
  }
  /// A barrel between two heights, its radius changing.
  void barrel(const Vec3& foot, double tall, double wide_low, double wide_high, double deep_share) {
    constexpr int kSides = 16;
    const int first = static_cast<int>(mesh_.vertices.size());
    for (int ring = 0; ring < 2; ++ring)
      for (int k = 0; k < kSides; ++k) {
        const double a = kTwoPi * k / kSides, r = ring == 0 ? wide_low : wide_high;
        mesh_.vertices.push_back(foot + Vec3(r * std::sin(a), ring * tall, deep_share * r * std::cos(a)));
      }
    for (int k = 0; k < kSides; ++k) {
      const int l = (k + 1) % kSides;
      mesh_.triangles.push_back({first + k, first + l, first + kSides + l});
      mesh_.triangles.push_back({first + k, first + kSides + l, first + kSides + k});
    }
  }
  void ball(const Vec3& middle, double radius) {
    for (int i = 0; i < 6; ++i) {
      const double a = kPi * i / 6.0, b = kPi * (i + 1) / 6.0;
      barrel(middle - Vec3(0, radius * std::cos(a), 0), radius * (std::cos(a) - std::cos(b)), radius * std::sin(a),
          radius * std::sin(b), 1.0);
    }
  }
  StandBody body() const {
    StandBody body;
    for (const Tri& t : mesh_.triangles) {
      const Vec3f n = area_vector(mesh_, t).normalized().cast<float>();
      const int first = static_cast<int>(body.places.size());
      for (const int v : t) {
        const Vec3f p = mesh_.vertices[v].cast<float>();
        body.places.push_back(p);
        body.normals.push_back(n.dot(p) < 0.0f ? n : Vec3f(-n));  // towards the eye
      }
      body.triangles.push_back({first, first + 1, first + 2});
    }
    body.colour = colour_, body.gloss = 0.0f, body.shadeless = true;
    return body;
  }

 private:
  Vec3f colour_;
  Mesh mesh_;
};

void addPerson(std::vector<StandBody>& room, const Vec3& feet, double tall_mm, Vec3f coat) {
  Builder cloth(coat), skin(Vec3f(0.80f, 0.62f, 0.50f));
  cloth.barrel(feet, 0.48 * tall_mm, 130.0, 170.0, 0.7);
  cloth.barrel(feet + Vec3(0, 0.48 * tall_mm, 0), 0.36 * tall_mm, 180.0, 210.0, 0.6);
  skin.barrel(feet + Vec3(0, 0.83 * tall_mm, 0), 0.05 * tall_mm, 60.0, 55.0, 1.0);
  skin.ball(feet + Vec3(0, 0.93 * tall_mm, 0), 0.07 * tall_mm);
  room.push_back(cloth.body()), room.push_back(skin.body());
}

}  // namespace

std::vector<StandBody> makeRoom(double h) {
  std::vector<StandBody> room;
  Builder floor(Vec3f(0.66f, 0.58f, 0.46f)), wall(Vec3f(0.78f, 0.78f, 0.72f)), frame(Vec3f(0.36f, 0.27f, 0.19f)),
      beyond(Vec3f(0.52f, 0.62f, 0.66f)), step(Vec3f(0.52f, 0.44f, 0.34f)), edge(Vec3f(0.87f, 0.72f, 0.24f));
  // The floor, but where the stairs go down: on the wearer's left, from a step ahead on.
  floor.face({-2500, -h, -1500}, {2700, 0, 0}, {0, 0, 5500});
  floor.face({200, -h, -1500}, {2300, 0, 0}, {0, 0, 2300});
  for (int i = 0; i < 9; ++i) {
    const double y = -h - 170.0 * (i + 1), z = 800.0 + 280.0 * i;
    step.face({200, y, z}, {1500, 0, 0}, {0, 0, 280});
    step.face({200, y, z}, {1500, 0, 0}, {0, 170, 0});
    edge.face({200, y + 172, z - 22}, {1500, 0, 0}, {0, 0, 44});
  }
  wall.face({200, -h - 1600, 800}, {0, 1600, 0}, {0, 0, 3200});
  // The wall ahead with a doorway, and what is beyond.
  wall.face({-2500, -h, 4000}, {900, 0, 0}, {0, 2600, 0});
  wall.face({-700, -h, 4000}, {3200, 0, 0}, {0, 2600, 0});
  wall.face({-1600, -h + 2050, 4000}, {900, 0, 0}, {0, 550, 0});
  beyond.face({-2500, -h, 6500}, {4000, 0, 0}, {0, 2600, 0});
  frame.box({-1680, -h, 3940}, {-1600, -h + 2120, 4010});
  frame.box({-700, -h, 3940}, {-620, -h + 2120, 4010});
  frame.box({-1680, -h + 2050, 3940}, {-620, -h + 2130, 4010});
  wall.face({-2500, -h, -1500}, {0, 2600, 0}, {0, 0, 5500});
  wall.face({2500, -h - 1600, -1500}, {0, 4200, 0}, {0, 0, 5500});
  for (Builder* b : {&floor, &wall, &frame, &beyond, &step, &edge}) room.push_back(b->body());
  addPerson(room, {-300, -h, 2700}, 1720.0, Vec3f(0.56f, 0.20f, 0.18f));
  addPerson(room, {-1900, -h, 1700}, 1600.0, Vec3f(0.20f, 0.34f, 0.44f));
  addPerson(room, {1700, -h, 300}, 1800.0, Vec3f(0.30f, 0.38f, 0.22f));
  addPerson(room, {-900, -h, 1300}, 1050.0, Vec3f(0.72f, 0.52f, 0.16f));
  return room;
}

/// How much of the light comes through, over the picture; coarse, then made smooth.
QImage shadeOf(const Sight& s, QSize size) {
  const QSize coarse(std::max(1, size.width() / 2), std::max(1, size.height() / 2));
  QImage shade(coarse, QImage::Format_ARGB32_Premultiplied);
  const double focal = 0.5 * coarse.height() / std::tan(0.5 * kFieldRad);
  for (int y = 0; y < coarse.height(); ++y) {
    auto* line = reinterpret_cast<QRgb*>(shade.scanLine(y));
    for (int x = 0; x < coarse.width(); ++x) {
      double light = 0.0;
      for (const auto& [dx, dy] : {std::pair{0.25, 0.25}, {0.75, 0.25}, {0.25, 0.75}, {0.75, 0.75}}) {
        const Vec3 d(-(x + dx - 0.5 * coarse.width()), 0.5 * coarse.height() - (y + dy), focal);
        const int cell = s.grid.cell(d);
        double most = 0.0;
        for (const Eye& eye : s.eyes)
          most = std::max<double>({most, eye.ahead.through[cell], eye.looked.through[cell]});
        light += 0.25 * most;
      }
      const int alpha = static_cast<int>(std::lround(255.0 * (1.0 - std::max(light, kNearLight))));
      line[x] = qPremultiply(qRgba(18, 20, 24, alpha));
    }
  }
  return shade.scaled(size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

QImage roomPicture(
    const std::vector<StandBody>& room, const QImage& shade, QSize size, double left_deg, double down_deg) {
  StandCamera camera;
  // The camera looks from its back to its target; the wearer looks along +z.
  camera.yaw = static_cast<float>(kPi + radians(left_deg)), camera.pitch = static_cast<float>(radians(down_deg));
  camera.field = static_cast<float>(kFieldRad), camera.distance = 1.0f;
  const float cp = std::cos(camera.pitch), sp = std::sin(camera.pitch);
  camera.target = -camera.distance * Vec3f(std::sin(camera.yaw) * cp, sp, std::cos(camera.yaw) * cp);
  StandRaster raster;
  QImage image = raster.render(room, camera, size, 1, {});
  QPainter painter(&image);
  painter.drawImage(0, 0, shade);
  return image;
}

QImage wearersPicture(const Worn& worn) {
  constexpr QSize kSize(720, 540);
  constexpr double kBentDeg = 12.0;
  if (!worn.sight) return {};
  return roomPicture(makeRoom(worn.sight->eye_height_mm), shadeOf(*worn.sight, kSize), kSize, 0.0, kBentDeg);
}

}  // namespace awl
