#include "core/form/wrap.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/form/closing.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr double kMostLayerMm = 40.0;
constexpr double kMostEaseMm = 50.0;
constexpr double kLeastAreaMm2 = 8000.0;
constexpr double kLeastMaskMm2 = 2000.0;
constexpr double kSpareMm = 24.0;  // tape beyond the edges, to be trimmed

bool is_small(WrapEdge edge) {
  return edge == WrapEdge::half_mask || edge == WrapEdge::full_mask || edge == WrapEdge::neck_piece;
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

const std::vector<std::string>& wrap_edge_names() {
  static const std::vector<std::string> names{
      "skull-cap", "open-face", "full-cowl", "half-mask", "full-mask", "neck-piece"};
  return names;
}

const char* name_of(WrapEdge edge) { return wrap_edge_names()[static_cast<std::size_t>(edge)].c_str(); }

Result<WrapEdge> wrap_edge_from(const std::string& name) {
  const auto& names = wrap_edge_names();
  const auto at = std::find(names.begin(), names.end(), name);
  if (at != names.end()) return static_cast<WrapEdge>(at - names.begin());
  return fail(Errc::unknown_name,
      "A wrap is a skull-cap, open-face, full-cowl, half-mask, full-mask or neck-piece, not \"" + name + "\".");
}

Result<void> check_wrap(const WrapSpec& spec) {
  WrapSpec copy = spec;
  if (auto good = check_dials(dials_of(copy), "form"); !good) return good;
  if (spec.ease_mm() >= 2.0 && spec.ease_mm() <= kMostEaseMm) return {};
  return fail(Errc::out_of_range,
      "The ease of all layers together of " + fixed(spec.ease_mm(), 1) + " mm is outside 2 to " +
          fixed(kMostEaseMm, 0) + " mm.",
      "form/ease");
}

namespace {

/// Dials of the points that are dragged on the stand; few will type them. Those of what it has, or those of what it has
/// not now.
void add_points(Dials& dials, WrapSpec& s, bool had) {
  const auto add = [&](auto& points, const char* id, const char* label, const char* tip, double least, double most,
                       const char* group, std::size_t from, std::size_t to, bool here) {
    if (here != had) return;
    dials.group(group);
    for (std::size_t i = from; i < to; ++i)
      dials.length(
          id + std::to_string(i + 1), points[i], {least, most}, std::string(label) + " " + std::to_string(i + 1), tip);
  };
  add(s.edge_mm, "edge", "Edge point",
      "From the front round to the back, of a mask from the chin up to the brow: a plus takes away. Or drag its grip "
      "on the stand.",
      -60, 90, "The edge, point by point", 0, s.edge_mm.size(), true);
  add(s.left_mm, "left", "Left edge point", "On the left, beyond what the right has: a plus takes away.", -60, 90,
      "The left edge, point by point", 1, s.left_mm.size() - 1, s.one_sided);
  const std::size_t face = s.edge == WrapEdge::full_cowl ? s.face_mm.size() : s.edge == WrapEdge::open_face ? 3 : 0;
  for (const bool here : {true, false})
    add(s.face_mm, "face", "Face point", "From the top down: a plus opens wider.", -40, 40,
        "The face opening, point by point", here ? 0 : face, here ? face : s.face_mm.size(), here);
  add(s.eye_mm, "eye", "Eye point", "From the outer corner upwards and round: a plus opens wider.", -20, 30,
      "The eye holes, point by point", 0, s.eye_mm.size(), s.eye_wide_mm > 0.0 && s.eye_tall_mm > 0.0);
  add(s.mouth_mm, "mouth", "Mouth point", "From the top down: a plus opens wider.", -20, 30,
      "The mouth, point by point", 0, s.mouth_mm.size(), s.mouth_wide_mm > 0.0 && s.mouth_tall_mm > 0.0);
  add(s.ear_mm, "ear", "Ear point", "From its front upwards and round: a plus opens wider.", -20, 30,
      "The ear holes, point by point", 0, s.ear_mm.size(), s.ear_hole_mm > 0.0);
}

}  // namespace

std::vector<Dial> dials_of(WrapSpec& s) {
  const std::string cover = "What it covers", room = "Room under it", edges = "Edges", holes = "Openings",
                    tape = "The tape";
  Dials dials;
  dials.group(cover);
  dials.choice("edge", s.edge, {"skull cap", "open-face hood", "full cowl", "half mask", "full mask", "neck piece"},
      "Covers", "How much of the head it covers. Its edges follow the wearer's ears, jaw and brow.");
  dials.group(room);
  dials.length(
      "hair", s.hair_mm, {0, kMostLayerMm}, "Hair or wig", "Thickness of pressed hair, a wig or a wig cap on stage.");
  dials.length(
      "padding", s.padding_mm, {0, kMostLayerMm}, "Padding", "Foam or cloth glued inside so that it sits firm.");
  dials.group(edges);
  dials.length("up", s.edge_up_mm, {-40, 120}, "Raise the lower edge", "More neck freedom; a minus lowers it.");
  dials.length("front-up", s.front_up_mm, {-40, 80}, "Raise it in front", "At the front alone.");
  dials.length("side-up", s.side_up_mm, {-40, 80}, "Raise it at the sides", "Over the ears and jaws.");
  dials.length("back-up", s.back_up_mm, {-40, 80}, "Raise it at the back", "Of a mask: how far round it reaches.");
  dials.length("left-up", s.left_up_mm, {-40, 120}, "Raise the left side alone",
      "For a one-sided shape; the pieces are then no longer mirrored.");
  dials.yes_no("one-sided", s.one_sided, "Left side drawn by itself",
      "Its edge gets grips of its own; the right side keeps the others.");
  dials.length(
      "face", s.face_wider_mm, {-30, 30}, "Open the face wider", "All round the face opening; a minus closes it.");
  dials.group(holes);
  dials.length("eye-wide", s.eye_wide_mm, {0, 70}, "Eye holes, wide", "Placed over the wearer's pupils.");
  dials.length("eye-tall", s.eye_tall_mm, {0, 50}, "Eye holes, tall", "None: no holes.");
  dials.length("eye-aside", s.eye_aside_mm, {-15, 25}, "Eye holes, outwards", "From the pupils.");
  dials.length("eye-higher", s.eye_higher_mm, {-20, 25}, "Eye holes, higher", "From the pupils.");
  dials.angle("eye-tilt", s.eye_tilt_deg, {-45, 45}, "Eye holes, slanted", "Outer end raised.");
  dials.length("mouth-wide", s.mouth_wide_mm, {0, 90}, "Mouth, wide", "Placed over the wearer's mouth.");
  dials.length("mouth-tall", s.mouth_tall_mm, {0, 60}, "Mouth, tall", "None: no hole.");
  dials.length("ear-hole", s.ear_hole_mm, {0, 60}, "Ear holes", "Across, over the ear flaps: hearing and heat.");
  dials.group(tape);
  dials.length("tight", s.tight_mm, {45, 120}, "Tightness of the tape",
      "Hollows narrower than this are bridged; less follows the face.");

  for (std::size_t i = 0; i < s.cards.size(); ++i) dials.add(dials_of(s.cards[i], static_cast<int>(i) + 1));
  add_points(dials, s, true);
  return std::move(dials).all();
}

std::vector<Dial> hidden_dials_of(WrapSpec& s) {
  Dials dials;
  add_points(dials, s, false);
  return std::move(dials).all();
}

Result<std::shared_ptr<const WrapMaker>> WrapMaker::load(
    const std::filesystem::path& folder, std::shared_ptr<const HeadFitter> fitter) {
  auto half = read_mesh(folder / "shell.ply");
  if (!half) return fail(half);
  auto maker = std::make_shared<WrapMaker>();
  maker->fitter_ = std::move(fitter);
  maker->shell_half_ = std::move(*half);
  return maker;
}

const Nearest& WrapMaker::near_template() const {
  std::call_once(asked_, [this] { near_template_.emplace(fitter_->head().mesh); });
  return *near_template_;
}

Result<Mesh> WrapMaker::shell(const WrapSpec& spec, const Progress& progress) const {
  const WrapSpec plain;
  if (spec.cards.empty() && spec.tight_mm == plain.tight_mm) return shell_half_;
  ClosingOptions options;
  options.tightness_mm = spec.tight_mm, options.ease_mm = kShellEaseMm;
  options.edge_mm = is_small(spec.edge) ? 4.5 : 7.2, options.cell_mm = is_small(spec.edge) ? 6.0 : 7.2,
  options.far_cell_mm = 11.0, options.passes = 2, options.fairing_rounds = 24;
  options.wanted = [&](const Vec3& p) { return covered_by_either(spec, p) + kSpareMm; };
  return closing_shell_half(near_template(), CardField(spec.cards), options, progress);
}

Result<HalfBlank> WrapMaker::blank(const WrapSpec& spec) const {
  auto whole = shell(spec);
  return whole ? blank(spec, *whole) : Result<HalfBlank>(fail(whole));
}

Result<HalfBlank> WrapMaker::blank(const WrapSpec& spec, const Mesh& shell_half) const {
  if (auto good = check_wrap(spec); !good) return fail(good);
  HalfBlank blank{shell_half, {}, {}};
  EdgeLabels held = mirror_line(blank.half);
  const auto inside = [&](const Vec3& p) { return covered_by_either(spec, p); };
  split_along(blank.half, inside, held);
  blank.half = largest_part(keep_where(blank.half, inside, held));
  const double area = area_mm2(blank.half), least = is_small(spec.edge) ? kLeastMaskMm2 : kLeastAreaMm2;
  held = mirror_line(blank.half);
  if (area < least || held.empty() || euler_characteristic(blank.half) != 1)
    return fail(Errc::degenerate_shape,
        "With the lower edge raised by " + fixed(spec.edge_up_mm, 0) + " mm and the face opening widened by " +
            fixed(spec.face_wider_mm, 0) + " mm only " + fixed(2.0 * area / 100.0, 0) +
            " cm\u00b2 of it is left; at least " + fixed(2.0 * least / 100.0, 0) + " cm\u00b2 in one piece is needed.",
        "form/edge");
  const auto outside = openings_of(spec);
  split_along(blank.half, outside, held, 0.1);
  blank.half = largest_part(keep_where(blank.half, outside, held));
  blank.midline = mirror_line(blank.half);
  if (blank.midline.empty() ||
      euler_characteristic(blank.half) != 2 - static_cast<int>(border_loops(blank.half).size()))
    return fail(Errc::degenerate_shape, "The openings cut it apart; make them smaller or further from its edge.",
        "form/eye-wide");
  for (const auto& loop : border_loops(blank.half))
    for (const int v : loop)
      if (std::abs(outside(blank.half.vertices[v])) < 1e-6) blank.opening.insert(v);
  return blank;
}

Result<HalfBlank> WrapMaker::face_patch(double middle_y_mm, double side_mm, double tall_mm) const {
  constexpr double kRoundMm = 96.0;  // millimetres of shell to a radian of azimuth
  HalfBlank patch{shell_half_, {}, {}};
  EdgeLabels held = mirror_line(patch.half);
  const auto inside = [&](const Vec3& p) {
    const double u = azimuth(p) * kRoundMm / side_mm, v = (p.y() - middle_y_mm) / tall_mm;
    return p.z() < -60.0
        ? -1.0
        : (1.0 - std::pow(std::pow(u, 4.0) + std::pow(std::abs(v), 4.0), 0.25)) * std::min(side_mm, tall_mm);
  };
  split_along(patch.half, inside, held);
  patch.half = largest_part(keep_where(patch.half, inside, held));
  patch.midline = mirror_line(patch.half);
  if (patch.midline.empty() || euler_characteristic(patch.half) != 1)
    return fail(Errc::degenerate_shape,
        "The plate does not lie on the face here; move it, or bend it round the head instead.", "plate/bend");
  return patch;
}

void WrapMaker::describe(const WrapSpec& spec, const HalfBlank& blank, Draft& draft) const {
  for (std::size_t i = 0; i < spec.cards.size(); ++i) {
    const CardShape card = shape_of(spec.cards[i]);
    const std::string id = "card" + std::to_string(i + 1) + ".";
    draft.features.push_back({std::string(name_of(spec.cards[i].kind)) + " ridge", card.ridge});
    draft.handles.push_back({id + "reach", card.tip, card.outward, 1.0});
    draft.handles.push_back({id + "droop", card.tip, -Vec3::UnitY(), 1.0});
  }
  std::vector<int> lower, rims;
  for (const auto& loop : border_loops(blank.half))
    for (const int v : loop) (is_on_lower_edge(spec, blank.half.vertices[v]) ? lower : rims).push_back(v);
  for (const EdgeGrip& grip : edge_grips(spec)) {
    Vec3 wanted = grip.near;
    wanted.x() = std::abs(wanted.x());
    const std::vector<int>& among = grip.lower_edge ? lower : rims;
    double off = 1e300;
    Vec3 best = Vec3::Zero();
    for (const int v : among) {
      const Vec3& p = blank.half.vertices[v];
      const double d =
          grip.lower_edge ? 85.0 * std::abs(angle_round(spec, p) - angle_round(spec, wanted)) : (p - wanted).norm();
      if (d < off) off = d, best = p;
    }
    if (off > (grip.lower_edge ? 12.0 : 45.0)) continue;  // an edge that does not come by here
    if (grip.near.x() < 0.0) best.x() = -best.x();
    draft.handles.push_back({grip.dial, best, grip.along, 1.0});
  }
}

Riders WrapMaker::riders(const std::vector<Vec3>& places, std::vector<int> twin_of) const {
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

/// The clearance of a form whose vertices are known to be so far off the head.
Clearance clearance_with(const Mesh& form, const Nearest& near_head, const std::vector<double>& off_mm) {
  Clearance clearance{1e300, 0.0};
  for (const double mm : off_mm)
    clearance.least_mm = std::min(clearance.least_mm, mm), clearance.mean_mm += mm / static_cast<double>(off_mm.size());
  // The middle of a triangle is no nearer than a corner is, less the way there: only what is nearer than the least
  // corner counts, and need be looked for no farther off.
  const double least = clearance.least_mm;
  std::vector<double> middles(form.triangles.size(), least);
  parallel_each(form.triangles.size(), [&](std::size_t f) {
    const Tri& t = form.triangles[f];
    const Vec3 middle = (form.vertices[t[0]] + form.vertices[t[1]] + form.vertices[t[2]]) / 3.0;
    double bound = -1e300;
    for (const int v : t) bound = std::max(bound, off_mm[v] - (form.vertices[v] - middle).norm());
    if (bound >= least) return;
    if (const auto hit = near_head.within(middle, std::max(std::abs(bound), std::abs(least))))
      middles[f] = hit->signed_mm;
  });
  for (const double mm : middles) clearance.least_mm = std::min(clearance.least_mm, mm);
  return clearance;
}

}  // namespace

Result<Clearance> settle_on_head(Mesh& shell, const Mesh& head, double ease_mm, const Progress& progress) {
  constexpr int kRounds = 6;
  constexpr double kSagMm = 0.4;  // a 6 mm edge over the rim of an ear dips that far between its ends
  const Nearest near_head(head);
  const Topology topo = topology_of(shell);
  std::vector<char> in_plane;
  for (const Vec3& p : shell.vertices) in_plane.push_back(std::abs(p.x()) < 1e-9 ? 1 : 0);
  std::vector<double> push(shell.vertices.size(), ease_mm - WrapMaker::kShellEaseMm), off(push.size());
  for (int round = 0; round < kRounds; ++round) {
    if (!progress.keep_going(static_cast<double>(round) / kRounds)) return fail(Errc::cancelled, "Stopped.");
    const auto normals = broad_normals(shell, topo);
    for (std::size_t v = 0; v < push.size(); ++v) {
      shell.vertices[v] += push[v] * normals[v];
      if (in_plane[v]) shell.vertices[v].x() = 0.0;
    }
    parallel_each(push.size(), [&](std::size_t v) { off[v] = near_head.to(shell.vertices[v]).signed_mm; });
    double most = 0.0;
    for (std::size_t v = 0; v < push.size(); ++v) {
      push[v] = std::max(0.0, ease_mm + kSagMm - off[v]);
      most = std::max(most, push[v]);
    }
    if (most < 0.5 * kSagMm) break;
    spread_upwards(push, topo);
  }
  return clearance_with(shell, near_head, off);
}

Clearance clearance_of(const Mesh& form, const Mesh& head) {
  const Nearest near_head(head);
  std::vector<double> off(form.vertices.size());
  parallel_each(off.size(), [&](std::size_t v) { off[v] = near_head.to(form.vertices[v]).signed_mm; });
  return clearance_with(form, near_head, off);
}

}  // namespace awl
