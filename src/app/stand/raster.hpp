#pragma once
#include <Eigen/Core>
#include <QImage>
#include <array>
#include <cstdint>
#include <functional>
#include <vector>

namespace awl {

using Vec3f = Eigen::Vector3f;

/// One lit body of the picture. All arrays per vertex have the same length.
struct StandBody {
  enum class Look { plain, strain };
  std::vector<Vec3f> places, normals;
  std::vector<float> light;   ///< ambient light that reaches the vertex, 0..1; empty: all
  std::vector<float> strain;  ///< signed, per vertex, for Look::strain
  std::vector<std::array<int, 3>> triangles;
  std::vector<int> owner;    ///< per triangle: panel number, or -1
  std::vector<Vec3f> paint;  ///< per triangle, in place of the colour; empty: none
  Vec3f colour{0.7f, 0.7f, 0.7f};
  Look look = Look::plain;
  float tolerance = 0.0f;  ///< of this body's strain or distances; 0: that of the picture
  float gloss = 0.12f;
  bool shadeless = false;  ///< loose points: neither shaded by others nor shading them
};

/// Where the eye is: it looks at `target` from `distance`, turned by yaw (0 = wearer's front) and pitch.
struct StandCamera {
  Vec3f target{0.0f, -12.0f, 0.0f};
  float yaw = 0.45f, pitch = 0.12f, distance = 1150.0f;
  float field = 0.42f;  ///< vertical field of view in radians
};

/// The software renderer: z-buffer and triangle numbers first, then every visible pixel is lit once.
class StandRaster {
 public:
  struct Pick {
    int body = -1, triangle = -1;
  };
  struct Options {
    int owner_lit = -1;       ///< panel shown as pointed at
    float tolerance = 0.04f;  ///< strain at which a contour is drawn
    bool dark = false;
  };

  /// Renders at `scale` times the size, for smoothing by the caller. Rows are split over the cores.
  QImage render(const std::vector<StandBody>& bodies, const StandCamera& camera, QSize size, double scale,
      const Options& options);

  /// What is seen at a pixel of the size asked for, whatever the scale.
  Pick pick(QPoint at) const;
  /// Place of a point in the picture rendered, z its depth.
  Vec3f project(const Vec3f& p) const;
  /// True if nothing stands in front of the point by more than `slack_mm`.
  bool visible(const Vec3f& p, float slack_mm) const;

 private:
  struct Cell {
    float depth;
    std::int32_t triangle;  ///< into m_all, -1: background
    float u, v;
  };
  struct Corner {
    Vec3f screen;
  };
  struct Face {
    int body, triangle;
  };

  static constexpr int kBands = 8;
  void sortIntoBands(const std::vector<StandBody>& bodies, int part);
  void fillRows(const std::vector<StandBody>& bodies, const std::vector<int>& faces, int from, int to);
  void lightRows(const std::vector<StandBody>& bodies, int from, int to, const Options& options, QImage& image) const;
  QRgb lit(const std::vector<StandBody>& bodies, const Cell& cell, const Options& options) const;

  int m_width = 0, m_height = 0;
  double m_scale = 1.0;
  Vec3f m_eye, m_right, m_up, m_back, m_key;
  float m_focal = 1.0f;
  std::vector<Face> m_all;
  std::array<std::array<std::vector<int>, kBands>, kBands> m_bands;  ///< by part of all, then by band of rows
  std::vector<std::vector<Vec3f>> m_screen;
  std::vector<Cell> m_cells;
};

/// Ambient light at the vertices of all bodies: the share of the sky each sees. Cost: rays * vertices; stops when
/// `wanted` is false.
bool bakeLight(std::vector<StandBody>& bodies, int rays, const std::function<bool()>& wanted);

/// Colour of a signed strain on the ramp (blue squeezed, orange stretched), for legend and mat.
Vec3f strainColour(float strain, float tolerance);

}  // namespace awl
