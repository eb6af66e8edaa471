#include "core/form/foam_head.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/polygon.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kFootMm = -165.0;
constexpr double kMostNeckUpMm = 60.0;
constexpr double kLeastPipeMm = 10.0, kMostPipeMm = 80.0;
constexpr double kRimMm = 12.0;  // foam left round the pipe: workshop value
constexpr double kTipDeg = 10.0;
constexpr double kLeastBaseMm = 15.0;  // the base stands out at least so far beyond the neck

/// Centre of the foam's weight: the shell is equally thick all over.
Vec3 centre_of_shell(const Mesh& mesh) {
  Vec3 sum = Vec3::Zero();
  double area = 0.0;
  for (const Tri& t : mesh.triangles) {
    const double a = area_vector(mesh, t).norm();
    sum += a / 3.0 * (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]);
    area += a;
  }
  return sum / area;
}

std::vector<Vec2> circle_round(const Vec2& centre, double radius_mm) {
  constexpr int kCorners = 72;
  std::vector<Vec2> ring;
  for (int i = 0; i < kCorners; ++i)
    ring.push_back(centre + radius_mm * Vec2(std::cos(kTwoPi * i / kCorners), std::sin(kTwoPi * i / kCorners)));
  return ring;
}

/// The open foot as seen from above: x to the left, z forward.
Result<std::vector<Vec2>> foot_of(const Mesh& bust) {
  const auto loops = border_loops(bust);
  if (loops.size() != 1) return fail(Errc::degenerate_shape, "The headform has no single open foot.", "headform/neck");
  std::vector<Vec2> foot;
  for (const int v : loops[0]) foot.push_back({bust.vertices[v].x(), bust.vertices[v].z()});
  if (signed_area_mm2(foot) < 0.0) std::reverse(foot.begin(), foot.end());
  return foot;
}

}  // namespace

std::vector<Dial> dials_of(FoamHeadSpec& s) {
  Dials dials;
  dials
      .length("neck", s.neck_up_mm, {0, kMostNeckUpMm}, "Shorten the neck",
          "The neck is cut off level; a shorter one stands lower.")
      .key("neck_up_mm")
      .length("pipe", s.pipe_mm, {kLeastPipeMm, kMostPipeMm}, "Pipe fitting",
          "Diameter of a pipe let into both plates, to set the head on a stand; 0 for none.")
      .key("pipe_mm")
      .or_zero("none")
      .flag("mirrored", s.mirrored, "Draw one half and flip it",
          "A crooked head then becomes the mean of its sides. Off: every piece is drawn for its own side.")
      .count("plan", s.plan, {-1, static_cast<double>(head_seam_plans().size()) - 1.0}, "Cut into",
          "Suggested: the least seam whose pieces this foam can follow.");
  return std::move(dials).all();
}

Result<void> check_foam_head(const FoamHeadSpec& spec) {
  FoamHeadSpec copy = spec;
  return check_dials(dials_of(copy), "headform");
}

const std::vector<HeadSeams>& head_seam_plans() {
  static const std::vector<HeadSeams> plans{{{-70.0}, 2}, {{38.0, -70.0}, 2}, {{38.0, -30.0, -90.0}, 2},
      {{40.0, -66.0}, 3}, {{40.0, -28.0, -90.0}, 3}, {{58.0, 14.0, -36.0, -92.0}, 3}};
  return plans;
}

Result<std::shared_ptr<const BustMaker>> BustMaker::load(const std::filesystem::path& folder) {
  auto half = read_mesh(folder / "bust.ply");
  if (!half) return fail(half);
  auto maker = std::make_shared<BustMaker>();
  maker->half_ = std::move(*half);
  return std::shared_ptr<const BustMaker>(maker);
}

Result<HalfBlank> BustMaker::blank(const FoamHeadSpec& spec) const {
  if (auto good = check_foam_head(spec); !good) return fail(good);
  HalfBlank blank{half_, {}, {}};
  EdgeLabels held = mirror_line(blank.half);
  // A little over the foot's rounded edge, so that the cut is clean.
  const double level = kFootMm + spec.neck_up_mm + 8.0;
  const auto above = [=](const Vec3& p) { return p.y() - level; };
  split_along(blank.half, above, held);
  blank.half = keep_where(blank.half, above, held);
  blank.midline = mirror_line(blank.half);
  return blank;
}

Riders BustMaker::riders(const std::vector<Vec3>& places, std::vector<int> twin_of) {
  return Riders(places, std::vector<double>(places.size(), 0.0), std::move(twin_of));
}

Result<NeckPlates> neck_plates(const Mesh& bust, double thickness_mm, double pipe_mm) {
  const auto foot = foot_of(bust);
  if (!foot) return fail(foot);
  NeckPlates plates;
  const auto inner = offset_polygon(*foot, -thickness_mm);
  if (inner.size() != 1)
    return fail(Errc::degenerate_shape,
        "The neck is too narrow for foam of " + fixed(thickness_mm, 0) + " mm: nothing is left inside it.",
        "headform/neck");
  plates.neck = inner.front();
  const Vec3 weight = centre_of_shell(bust);
  plates.balance = {weight.x(), weight.z()};
  const double height_mm = weight.y() - box_of(bust.vertices).low.y() + thickness_mm;
  // Every edge of the base lies at least this far from under the weight.
  const double reach_mm = height_mm * std::tan(radians(kTipDeg));
  const Vec2 middle = polygon_centre(plates.neck);
  const double nearest = distance_to_outline(*foot, plates.balance) * (inside(*foot, plates.balance) ? 1.0 : -1.0);
  plates.base = offset_polygon(*foot, std::max(kLeastBaseMm, reach_mm - nearest)).front();
  if (pipe_mm <= 0.0) return plates;
  const double room_mm = 2.0 * (distance_to_outline(plates.neck, middle) - kRimMm);
  if (pipe_mm > room_mm)
    return fail(Errc::degenerate_shape,
        "A pipe fitting of " + fixed(pipe_mm, 0) + " mm does not fit the neck: " + fixed(std::max(room_mm, 0.0), 0) +
            " mm is the most that leaves foam round it.",
        "headform/pipe");
  plates.pipe = circle_round(middle, 0.5 * pipe_mm);
  return plates;
}

}  // namespace awl
