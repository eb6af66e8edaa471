#include "core/make/carve.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kLeastMm = 3.0;
constexpr double kWorthMitreDeg = 1.0;  // less is cut square
constexpr double kMostMitreDeg = 60.0;

struct Base {
  Vec3 middle, normal;
  double off_mm = 0.0;
};

/// The plane that lies best through the largest border.
std::optional<Base> base_of(const Mesh& open) {
  const auto loops = border_loops(open);
  if (loops.empty()) return std::nullopt;
  const auto length = [&](const std::vector<int>& loop) {
    double sum = 0.0;
    for (std::size_t i = 0; i < loop.size(); ++i)
      sum += (open.vertices[loop[(i + 1) % loop.size()]] - open.vertices[loop[i]]).norm();
    return sum;
  };
  const auto& loop = *std::max_element(
      loops.begin(), loops.end(), [&](const auto& a, const auto& b) { return length(a) < length(b); });
  Base base;
  base.middle = Vec3::Zero();
  for (const int v : loop) base.middle += open.vertices[v] / static_cast<double>(loop.size());
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (const int v : loop) spread += (open.vertices[v] - base.middle) * (open.vertices[v] - base.middle).transpose();
  base.normal = Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(spread).eigenvectors().col(0);
  for (const int v : loop)
    base.off_mm = std::max(base.off_mm, std::abs(base.normal.dot(open.vertices[v] - base.middle)));
  return base;
}

Vec2 extent(const Rings& rings) {
  Vec2 low = Vec2::Constant(1e300), high = -low;
  for (const auto& ring : rings)
    for (const Vec2& p : ring) low = low.cwiseMin(p), high = high.cwiseMax(p);
  return high - low;
}

Rings prepared(const Rings& silhouette, double spare) {
  Rings rings = offset_region(silhouette, spare);
  for (auto& ring : rings) ring = thinned(ring, kOnTheLineMm);
  return rings;
}

}  // namespace

Result<CarvePlan> plan_carving(const Body& body, const CarveOptions& options) {
  if (options.heights_mm.empty())
    return fail(Errc::empty_input, "There is no block to carve: this kind has no thickness.", "way");
  const OwnAxes& a = options.axes;
  const Box box = box_of(body.solid.vertices);
  const Vec3 middle = 0.5 * (box.low + box.high);
  CarvePlan plan;
  plan.front = prepared(silhouette(body.solid, {middle, a.across, a.along}), options.spare_mm);
  plan.side = prepared(silhouette(body.solid, {middle, -a.deep, a.along}), options.spare_mm);
  const Vec2 front = extent(plan.front), side = extent(plan.side);
  plan.block_mm = {front.x(), std::max(front.y(), side.y()), side.x()};
  if (plan.block_mm.minCoeff() - 2.0 * options.spare_mm < kLeastMm)
    return fail(Errc::degenerate_shape,
        "The " + body.name + " is only " + fixed(plan.block_mm.minCoeff() - 2.0 * options.spare_mm, 1) +
            " mm thick: cut it from sheet, there is nothing to carve.",
        "way");
  if (auto base = base_of(body.open)) {
    plan.base_off_flat_mm = base->off_mm;
    if (base->normal.dot(a.along) < 0.0) base->normal = -base->normal;
    // Height of the base over a step across and a step to the front.
    const double up = std::max(base->normal.dot(a.along), 1e-6);
    plan.mitre_front_deg = degrees(std::atan2(-base->normal.dot(a.across), up));
    plan.mitre_side_deg = degrees(std::atan2(-base->normal.dot(a.deep), up));
    // A border that lies along the block is an opening in its side, not a foot.
    plan.has_base = std::max(std::abs(plan.mitre_front_deg), std::abs(plan.mitre_side_deg)) <= kMostMitreDeg;
    if (!plan.has_base) plan.mitre_front_deg = plan.mitre_side_deg = plan.base_off_flat_mm = 0.0;
  }
  // Layers lie flat against the thinnest way through the block.
  const double thin = plan.block_mm.minCoeff();
  std::vector<double> heights = options.heights_mm;
  std::sort(heights.begin(), heights.end());
  const auto single = std::find_if(heights.begin(), heights.end(), [&](double h) { return h >= thin; });
  plan.layer_mm = single != heights.end() ? *single : heights.back();
  plan.layers = std::max(1, static_cast<int>(std::ceil(thin / plan.layer_mm - 1e-9)));
  plan.form_mm3 = std::abs(volume_mm3(body.solid)), plan.block_mm3 = plan.block_mm.prod();
  return plan;
}

std::vector<Piece> carve_templates(const CarvePlan& plan, const Body& body, double card_mm) {
  std::vector<Piece> pieces;
  for (const auto& [rings, name, side] : {std::tuple(&plan.front, "front template", "front of the block"),
           std::tuple(&plan.side, "side template", "wearer's left of the block")}) {
    const auto outer = std::max_element(rings->begin(), rings->end(),
        [](const auto& a, const auto& b) { return signed_area_mm2(a) < signed_area_mm2(b); });
    std::vector<std::vector<Vec2>> holes;
    for (const auto& ring : *rings)
      if (signed_area_mm2(ring) < -100.0 && inside(*outer, ring.front())) holes.push_back(ring);
    Piece piece = plate_piece(body.name + ", " + name, static_cast<int>(pieces.size()) + 1, *outer, holes, card_mm);
    piece.stuff = "card", piece.face_up = side;
    piece.notes.push_back("block " + fixed(plan.block_mm.x(), 0) + " x " + fixed(plan.block_mm.y(), 0) + " x " +
        fixed(plan.block_mm.z(), 0) + " mm");
    const double mitre = pieces.empty()
        ? plan.mitre_front_deg
        : -plan.mitre_side_deg;  // seen from the wearer's left the front lies on the left
    if (plan.has_base && std::abs(mitre) >= kWorthMitreDeg)
      piece.notes.push_back("foot " + fixed(std::abs(mitre), 0) + "\u00b0, higher on the " +
          (mitre > 0.0 ? "right" : "left") + " as seen here");
    pieces.push_back(std::move(piece));
  }
  return pieces;
}

std::vector<std::string> carve_steps(const CarvePlan& plan, const Body& body) {
  std::vector<std::string> steps;
  const std::string size = fixed(plan.block_mm.x(), 0) + " wide, " + fixed(plan.block_mm.y(), 0) + " high, " +
      fixed(plan.block_mm.z(), 0) + " mm deep";
  steps.push_back(plan.layers == 1 ? "Cut a block " + size + "."
                                   : "Glue " + std::to_string(plan.layers) + " layers of " + fixed(plan.layer_mm, 0) +
              " mm and cut a block " + size + ".");
  if (plan.has_base && std::max(std::abs(plan.mitre_front_deg), std::abs(plan.mitre_side_deg)) >= kWorthMitreDeg)
    steps.push_back("Foot first, while all sides are square: saw it at " + fixed(std::abs(plan.mitre_front_deg), 0) +
        " degrees seen from the front, higher on the wearer's " + (plan.mitre_front_deg > 0.0 ? "left" : "right") +
        ", and " + fixed(std::abs(plan.mitre_side_deg), 0) + " degrees from the side, higher " +
        (plan.mitre_side_deg > 0.0 ? "in front" : "behind") + ".");
  if (plan.base_off_flat_mm > 2.0)
    steps.push_back(
        "Hollow the foot until it sits: its rim leaves a plane by up to " + fixed(plan.base_off_flat_mm, 0) + " mm.");
  steps.push_back("Draw the front template on the front, the side template on the wearer's left.");
  steps.push_back(
      "Cut along the front template right through; pin the offcuts back on, so that the block lies flat again.");
  steps.push_back("Turn it and cut along the side template; take the offcuts away.");
  steps.push_back(
      "Take off the four corners, then the eight that leaves, then round it; look along it against the light as you "
      "go.");
  if (body.paired)
    steps.push_back(
        "Cut the second block with both templates turned over: it is the mirror image. Carve both side by side, stage "
        "by stage.");
  return steps;
}

}  // namespace awl
