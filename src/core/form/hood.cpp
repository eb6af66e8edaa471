#include "core/form/hood.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr double kMostLayerMm = 40.0;
constexpr double kMostEaseMm = 50.0;
constexpr double kLeastAreaMm2 = 8000.0;

const Vec3& mark(Landmark l) { return template_landmarks()[static_cast<int>(l)]; }

/// Angle round the head from the wearer's front, 0 to pi, the same on both sides.
double azimuth(const Vec3& p) { return std::atan2(std::abs(p.x()), p.z() + 5.0); }

/// Height of a lower edge that runs round the head: `front`, `side` and `back` are its heights there.
double edge_height(const Vec3& p, double front, double side, double back) {
  const double a = azimuth(p);
  const double mean = 0.5 * (front + back), second = 0.5 * (mean - side);
  return 0.5 * (mean + side) + 0.5 * (front - back) * std::cos(a) + second * std::cos(2.0 * a);
}

/// Positive outside a face opening that is an upright superellipse of azimuth and height. Below its middle it closes
/// again only if `closed`.
double outside_face(const Vec3& p, double top, double bottom, double half_angle_rad, bool closed) {
  constexpr double kRoundMm = 85.0;  // millimetres to a radian of azimuth
  const double cy = 0.5 * (top + bottom), half_height = 0.5 * (top - bottom);
  const double u = azimuth(p) / half_angle_rad, w = closed ? std::abs(p.y() - cy) / half_height : std::max(0.0, p.y() - cy) / half_height;
  const double radius = std::pow(std::pow(u, 2.6) + std::pow(w, 2.6), 1.0 / 2.6);
  return (radius - 1.0) * std::min(kRoundMm * half_angle_rad, half_height);
}

using L = Landmark;

double keep_cap(const Vec3& p, double up) {
  const double front = mark(L::glabella).y() + 26, side = mark(L::ear_top_l).y() + 12, back = mark(L::inion).y() + 14;
  return p.y() - up - edge_height(p, front, side, back);
}

double keep_open_face(const Vec3& p, double up, double wider) {
  const double side = mark(L::gonion_l).y() - 10, back = mark(L::nape).y() - 8;
  const double lower = p.y() - up - edge_height(p, side - 4, side, back);
  const double top = mark(L::glabella).y() + 14 + wider, bottom = mark(L::pogonion).y();
  return smooth_min(lower, outside_face(p, top, bottom, 0.88 + wider / 85.0, false), 24.0);
}

double keep_cowl(const Vec3& p, double up, double wider) {
  const double lower = p.y() - up - edge_height(p, mark(L::larynx).y() - 10, mark(L::larynx).y() - 6, mark(L::nape).y() - 62);
  const double top = mark(L::glabella).y() + 14 + wider, bottom = mark(L::stomion).y() - 13 - wider;
  return std::min(lower, outside_face(p, top, bottom, 0.68 + wider / 85.0, true));
}

double keep(const HoodSpec& spec, const Vec3& p) {
  switch (spec.edge) {
    case HoodEdge::skull_cap: return keep_cap(p, spec.edge_up_mm);
    case HoodEdge::open_face: return keep_open_face(p, spec.edge_up_mm, spec.face_wider_mm);
    case HoodEdge::full_cowl: return keep_cowl(p, spec.edge_up_mm, spec.face_wider_mm);
  }
  return 1.0;
}

Mesh largest_part(const Mesh& mesh) {
  const auto part = connected_parts(mesh, [](int, int) { return true; });
  if (part.empty()) return {};
  std::vector<int> size(static_cast<std::size_t>(*std::max_element(part.begin(), part.end())) + 1, 0);
  for (const int p : part) ++size[p];
  const int biggest = static_cast<int>(std::max_element(size.begin(), size.end()) - size.begin());
  std::vector<int> faces, old;
  for (int f = 0; f < static_cast<int>(part.size()); ++f)
    if (part[f] == biggest) faces.push_back(f);
  return part_of(mesh, faces, old);
}

}  // namespace

const char* name_of(HoodEdge edge) {
  return edge == HoodEdge::skull_cap ? "skull-cap" : edge == HoodEdge::open_face ? "open-face" : "full-cowl";
}

Result<HoodEdge> hood_edge_from(const std::string& name) {
  for (const auto edge : {HoodEdge::skull_cap, HoodEdge::open_face, HoodEdge::full_cowl})
    if (name == name_of(edge)) return edge;
  return fail(Errc::unknown_name, "A hood's edge is skull-cap, open-face or full-cowl, not \"" + name + "\".");
}

Result<void> check_hood(const HoodSpec& spec) {
  const auto within = [](double value, double least, double most, const char* what, const char* where) -> Result<void> {
    if (std::isfinite(value) && value >= least && value <= most) return {};
    return fail(Errc::out_of_range, std::string(what) + " of " + fixed(value, 1) + " mm is outside " + fixed(least, 0) + " to " + fixed(most, 0) + " mm.", where);
  };
  for (const auto& checked : {within(spec.hair_mm, 0, kMostLayerMm, "Hair or wig", "form/hair"),
                              within(spec.padding_mm, 0, kMostLayerMm, "Padding", "form/padding"),
                              within(spec.ease_mm(), 2, kMostEaseMm, "The ease of all layers together", "form/ease"),
                              within(spec.edge_up_mm, -40, 120, "Raising the lower edge", "form/edge"),
                              within(spec.face_wider_mm, -30, 30, "Widening the face opening", "form/face")})
    if (!checked) return checked;
  return {};
}

Result<std::shared_ptr<const HoodMaker>> HoodMaker::load(const std::filesystem::path& folder, std::shared_ptr<const HeadFitter> fitter) {
  auto half = read_mesh(folder / "shell.ply");
  if (!half) return tl::make_unexpected(half.error());
  auto maker = std::make_shared<HoodMaker>();
  maker->fitter_ = std::move(fitter);
  maker->shell_half_ = std::move(*half);
  return maker;
}

Result<HoodBlank> HoodMaker::blank(const HoodSpec& spec) const {
  if (auto good = check_hood(spec); !good) return tl::make_unexpected(good.error());
  HoodBlank blank{shell_half_, {}};
  EdgeLabels held = mirror_line(blank.half);
  const auto inside = [&](const Vec3& p) { return keep(spec, p); };
  split_along(blank.half, inside, held);
  blank.half = largest_part(keep_where(blank.half, inside, held));
  blank.midline = mirror_line(blank.half);
  const double area = area_mm2(blank.half);
  if (area < kLeastAreaMm2 || blank.midline.empty() || euler_characteristic(blank.half) != 1)
    return fail(Errc::degenerate_shape,
                "With the lower edge raised by " + fixed(spec.edge_up_mm, 0) + " mm and the face opening widened by " + fixed(spec.face_wider_mm, 0) +
                    " mm only " + fixed(2.0 * area / 100.0, 0) + " cm2 of the hood is left; at least " + fixed(2.0 * kLeastAreaMm2 / 100.0, 0) +
                    " cm2 in one piece is needed.",
                "form/edge");
  return blank;
}

Riders HoodMaker::riders(const std::vector<Vec3>& places, std::vector<int> twin_of) const {
  std::vector<double> off;
  off.reserve(places.size());
  for (std::size_t i = 0; i < places.size(); ++i) {
    if (!twin_of.empty() && twin_of[i] < static_cast<int>(i)) {
      off.push_back(off[twin_of[i]]);
      continue;
    }
    // Only what stands further off than the shell's own ease, and near the ear, follows the ear's stand-off.
    const Vec3 q(std::abs(places[i].x()), places[i].y(), places[i].z());
    const double near_ear = 1.0 - smoothstep(0.7, 1.9, (q - Vec3(78, 1, -12)).cwiseQuotient(Vec3(24, 44, 34)).norm());
    off.push_back(near_ear * std::max(0.0, fitter_->head().bare(places[i]) - kShellEaseMm));
  }
  return Riders(places, off, std::move(twin_of));
}

namespace {

/// Normals averaged over a few rings, so that small triangles beside seams do not fold when moved far.
std::vector<Vec3> broad_normals(const Mesh& mesh, const Topology& topo) {
  std::vector<Vec3> normals(mesh.vertices.size(), Vec3::Zero());
  for (const Tri& t : mesh.triangles)
    for (const int v : t) normals[v] += area_vector(mesh, t);
  for (int ring = 0; ring < 8; ++ring) {
    std::vector<Vec3> sum(normals.size());
    for (std::size_t v = 0; v < sum.size(); ++v) sum[v] = normals[v].normalized();
    normals = sum;
    for (const auto& e : topo.edges) normals[e.a] += sum[e.b], normals[e.b] += sum[e.a];
  }
  for (Vec3& n : normals) n.normalize();
  return normals;
}

/// The largest of itself and the mean of its neighbours, a few times: smoothed but never reduced.
void spread_upwards(std::vector<double>& push, const Topology& topo) {
  for (int ring = 0; ring < 6; ++ring) {
    std::vector<double> sum(push.size(), 0.0);
    std::vector<int> count(push.size(), 0);
    for (const auto& e : topo.edges) sum[e.a] += push[e.b], sum[e.b] += push[e.a], ++count[e.a], ++count[e.b];
    for (std::size_t v = 0; v < push.size(); ++v)
      if (count[v] > 0) push[v] = std::max(push[v], sum[v] / count[v]);
  }
}

}  // namespace

Result<Clearance> settle_on_head(Mesh& shell, const Mesh& head, double ease_mm, const Progress& progress) {
  constexpr int kRounds = 6;
  constexpr double kSagMm = 0.4;  // a 6 mm edge over the rim of an ear dips that far between its ends
  const Nearest near_head(head);
  const Topology topo = topology_of(shell);
  std::vector<char> in_plane;
  for (const Vec3& p : shell.vertices) in_plane.push_back(std::abs(p.x()) < 1e-9 ? 1 : 0);
  std::vector<double> push(shell.vertices.size(), ease_mm - HoodMaker::kShellEaseMm);
  for (int round = 0; round < kRounds; ++round) {
    if (!progress.keep_going(static_cast<double>(round) / kRounds)) return fail(Errc::cancelled, "Stopped.");
    const auto normals = broad_normals(shell, topo);
    for (std::size_t v = 0; v < push.size(); ++v) {
      shell.vertices[v] += push[v] * normals[v];
      if (in_plane[v]) shell.vertices[v].x() = 0.0;
    }
    double most = 0.0;
    for (std::size_t v = 0; v < push.size(); ++v) {
      push[v] = std::max(0.0, ease_mm + kSagMm - near_head.to(shell.vertices[v]).signed_mm);
      most = std::max(most, push[v]);
    }
    if (most < 0.5 * kSagMm) break;
    spread_upwards(push, topo);
  }
  return clearance_of(shell, head);
}

Clearance clearance_of(const Mesh& form, const Mesh& head) {
  const Nearest near_head(head);
  Clearance clearance{1e300, 0.0};
  const auto note = [&](const Vec3& p) {
    const double d = near_head.to(p).signed_mm;
    clearance.least_mm = std::min(clearance.least_mm, d);
    return d;
  };
  for (const Vec3& p : form.vertices) clearance.mean_mm += note(p) / static_cast<double>(form.vertices.size());
  for (const Tri& t : form.triangles) note((form.vertices[t[0]] + form.vertices[t[1]] + form.vertices[t[2]]) / 3.0);
  return clearance;
}

}  // namespace awl
