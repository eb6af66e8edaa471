#pragma once
#include "core/base/result.hpp"
#include "core/dress/site.hpp"

namespace awl {

/// What of a vector lies in the plane of a unit normal.
inline Vec3 in_plane(const Vec3& v, const Vec3& normal) { return v - normal.dot(v) * normal; }
/// From one direction to another about a normal, radians, + to the left.
double angle_about(const Vec3& from, const Vec3& to, const Vec3& normal);

/// A line on a part in even steps, with how it turns there. Source: docs/formulas/dress-lines.md.
struct FormLine {
  std::vector<Vec3> at;      ///< on the outer face; a closed one does not repeat its first place
  std::vector<Vec3> normal;  ///< unit, smooth, outwards
  std::vector<double> turn;  ///< radians in the surface at each place, + to the left
  bool closed = false;
  double length_mm = 0.0, step_mm = 0.0;
  double turn_rad = 0.0;  ///< all of it
  double kg_max = 0.0;    ///< most turn per millimetre, by size

  std::size_t size() const { return at.size(); }
  std::size_t next(std::size_t i) const { return closed ? (i + 1) % at.size() : std::min(i + 1, at.size() - 1); }
  std::size_t before(std::size_t i) const { return i > 0 ? i - 1 : closed ? at.size() - 1 : 0; }
  /// Unit direction at a place, and square to it in the surface, to the left.
  Vec3 along(std::size_t i) const;
  Vec3 left(std::size_t i) const;
  /// A place so far along it. Contract: 0..length; of a closed one any number.
  struct At {
    Vec3 at, along, left, normal;
    double along_mm = 0.0;
  };
  At at_mm(double mm) const;
};

/// Straight chords between places, put on the outer face in steps no longer than half an edge.
std::vector<Vec3> laid_on(const DressSite& site, const std::vector<Vec3>& line, bool closed);

/// The line through places on the face. `smooth_mm`: how far its turn is evened out; 0: as usual.
FormLine line_through(const DressSite& site, const std::vector<Vec3>& on_face, bool closed, double smooth_mm = 0.0);

/// The line beside another, `off_mm` to its left over the surface: every place shot straight (straightest geodesics).
/// Errors: out_of_range where it leaves the form, with how far it can go.
Result<FormLine> beside(const DressSite& site, const FormLine& line, double off_mm);

/// From a place straight over the surface; ends at the rim. `gone_mm` receives how far it came.
Vec3 shot(const DressSite& site, const Vec3& from, const Vec3& direction, double mm, double* gone_mm = nullptr);

/// A place of the face with its directions level and upright; where the face looks up, towards the front.
FormLine::At upright_at(const DressSite& site, const Vec3& p);
/// So far along and to the left of a place, straight over the surface.
Vec3 over_face(const DressSite& site, const FormLine::At& at, double along_mm, double left_mm);
/// A square round the origin in even steps, counter-clockwise; its last place is not its first.
std::vector<Vec2> square_round(double wide_mm, double high_mm, int steps_a_side);

/// The shortest way over the outer face from place to place. Errors: not_a_disk if they are not joined.
Result<std::vector<Vec3>> shortest_way(const DressSite& site, const Vec3& from, const Vec3& to);

/// Whether a line runs over itself: two stretches apart along it come nearer than `mm`.
bool crosses_itself(const FormLine& line, double mm);

/// A stretch of a line, from one share of its length to another.
FormLine stretch_of(const DressSite& site, const FormLine& line, double from, double to);

}  // namespace awl
