#include "core/form/import.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <functional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geom/remesh.hpp"

namespace awl {
namespace {

constexpr double kLargestMm = 5000.0;

Eigen::Matrix3d turned(const ImportSpec& s) {
  return (Eigen::AngleAxisd(radians(s.turn_deg), Vec3::UnitY()) * Eigen::AngleAxisd(radians(s.tip_deg), Vec3::UnitX()) *
      Eigen::AngleAxisd(radians(s.roll_deg), Vec3::UnitZ()))
      .toRotationMatrix();
}

void set_turn(ImportSpec& s, const Eigen::Matrix3d& turn) {
  s.tip_deg = degrees(std::asin(std::clamp(-turn(1, 2), -1.0, 1.0)));
  s.turn_deg = degrees(std::atan2(turn(0, 2), turn(2, 2)));
  s.roll_deg = degrees(std::atan2(turn(1, 0), turn(1, 1)));
}

Vec3 middle_of(const Mesh& mesh) {
  const Box box = box_of(mesh.vertices);
  return 0.5 * (box.low + box.high);
}

/// A half that was cut lies a rounding error or a scaling beside the plane it is mirrored in.
void lay_half_in_plane(Mesh& half) {
  constexpr double kInPlaneMm = 1e-4;
  const double off = box_of(half.vertices).low.x();
  for (Vec3& p : half.vertices) {
    p.x() -= off;
    if (p.x() < kInPlaneMm) p.x() = 0.0;
  }
}

Result<void> evened_and_trimmed(Draft& draft, const ImportSpec& spec) {
  if (spec.edge_mm > 0.0) {
    const Nearest skin(draft.mesh);
    RemeshGoal goal;
    goal.edge_mm = [&](const Vec3&) { return spec.edge_mm; };
    goal.project = [&](const Vec3& p, bool on_border) { return on_border ? p : skin.to(p).point; };
    goal.passes = 3;
    draft.mesh = remesh(std::move(draft.mesh), goal);
  }
  const Box box = box_of(draft.mesh.vertices);
  if (spec.cut_low > 0.0)
    trim(draft, [&](const Vec3& p) { return p.y() - (box.low.y() + spec.cut_low * box.size().y()); });
  if (spec.cut_high < 1.0)
    trim(draft, [&](const Vec3& p) { return box.low.y() + spec.cut_high * box.size().y() - p.y(); });
  if (spec.cut_back > 0.0)
    trim(draft, [&](const Vec3& p) { return p.z() - (box.low.z() + spec.cut_back * box.size().z()); });
  if (draft.mesh.triangles.empty())
    return fail(Errc::degenerate_shape, "The cuts leave nothing of " + spec.file + ".", "import/cut-low");
  if (spec.mirror) {
    trim(draft, [](const Vec3& p) { return p.x(); });
    for (Vec3& p : draft.mesh.vertices)
      if (std::abs(p.x()) < 1e-6) p.x() = 0.0;
    if (draft.mesh.triangles.empty())
      return fail(Errc::degenerate_shape,
          "Nothing of " + excerpt(spec.file) +
              " lies on the left side of the head; move it aside, or let both sides differ.",
          "import/mirror");
    draft.mirrored = true;
  }
  return {};
}

/// The turn that brings an axis up: a quarter or half of a turn about another axis.
Eigen::Matrix3d standing(const Vec3& up) {
  if (up.y() < -0.9) return Eigen::AngleAxisd(kPi, Vec3::UnitZ()).toRotationMatrix();
  return Eigen::Quaterniond::FromTwoVectors(up, Vec3::UnitY()).toRotationMatrix();
}

/// Workshop values: an opening is at least so long round, against the size; so deep a shell against its opening's
/// breadth is worn over the head, a flatter one before the face; a foot is so much of the surface, in so thin a layer.
constexpr double kOpeningShare = 0.9, kDeepShare = 0.75, kStraightCos = 0.95, kFootShare = 0.02, kFootLayer = 0.02,
                 kFootCos = 0.98;

struct Opening {
  Vec3 out = Vec3::Zero();  ///< unit, out of the mesh
  double round = 0.0, breadth = 0.0;
};

/// The longest border, if it is long enough to be a neck's or a mask's.
std::optional<Opening> largest_opening(const Mesh& mesh, const Box& box) {
  std::optional<Opening> best;
  for (const auto& loop : border_loops(mesh)) {
    Opening o;
    Vec3 middle = Vec3::Zero();
    for (const int v : loop) middle += mesh.vertices[v] / static_cast<double>(loop.size());
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const Vec3 a = mesh.vertices[loop[i]] - middle, b = mesh.vertices[loop[(i + 1) % loop.size()]] - middle;
      o.round += (b - a).norm(), o.out += 0.5 * a.cross(b);
    }
    if (o.round < kOpeningShare * box.size().maxCoeff() || (best && best->round >= o.round)) continue;
    o.breadth = o.round / kPi;
    // Whichever way the loop runs: away from the rest.
    if (o.out.dot(middle - 0.5 * (box.low + box.high)) < 0.0) o.out = -o.out;
    if (o.out.norm() < 1e-9) continue;
    o.out.normalize();
    best = o;
  }
  return best;
}

Vec3 nearest_axis(const Vec3& way) {
  Eigen::Index k = 0;
  way.cwiseAbs().maxCoeff(&k);
  return way[k] < 0.0 ? Vec3(-Vec3::Unit(k)) : Vec3(Vec3::Unit(k));
}

/// The side of the box on which much of the surface lies flat, if there is one and but one.
std::optional<Vec3> flat_foot(const Mesh& mesh, const Box& box, const std::function<bool(const Vec3&)>& may) {
  const double all = area_mm2(mesh);
  std::optional<Vec3> foot;
  double most = kFootShare * all;
  for (Eigen::Index k = 0; k < 3; ++k)
    for (const double sign : {-1.0, 1.0}) {
      const Vec3 out = sign * Vec3::Unit(k);
      if (!may(out)) continue;
      const double end = sign < 0.0 ? box.low[k] : box.high[k];
      double flat = 0.0;
      for (const Tri& t : mesh.triangles) {
        const Vec3 n = area_vector(mesh, t);
        const double at = (mesh.vertices[t[0]][k] + mesh.vertices[t[1]][k] + mesh.vertices[t[2]][k]) / 3.0;
        if (n.dot(out) > kFootCos * n.norm() && std::abs(at - end) < kFootLayer * box.size()[k]) flat += 0.5 * n.norm();
      }
      if (flat > most) most = flat, foot = out;
    }
  return foot;
}

}  // namespace

bool ImportSpec::operator==(const ImportSpec& o) const {
  const auto rest = [](const ImportSpec& s) {
    return std::tie(s.file, s.to_mm, s.scale, s.turn_deg, s.tip_deg, s.roll_deg, s.aside_mm, s.up_mm, s.forward_mm,
        s.edge_mm, s.foam_mm, s.mirror, s.cut_low, s.cut_high, s.cut_back, s.belts, s.cut_middle, s.cut_across, s.face);
  };
  const auto same = [](const auto& a, const auto& b) { return a == b || (a && b && *a == *b); };
  return rest(*this) == rest(o) && same(mesh, o.mesh) && same(cut, o.cut);
}

std::vector<double> ImportSpec::cut_facts() const {
  std::vector<double> facts{edge_mm, foam_mm, mirror ? 1.0 : 0.0, cut_low, cut_high, cut_back};
  if (mirror) facts.insert(facts.end(), {turn_deg, roll_deg, aside_mm});
  return facts;
}

Result<Draft> draft_import(const ImportSpec& asked, const Site& site) {
  ImportSpec spec = asked;
  if (auto good = check_dials(dials_of(spec), "import"); !good) return fail(good);
  if (!spec.mesh || spec.mesh->triangles.empty())
    return fail(Errc::empty_input, "No mesh has been brought in yet.", "import/file");
  Draft draft;
  draft.mirrored = false, draft.outside = spec.face != ImportFace::inside;
  const bool cut = spec.stands_cut();
  if (cut)
    draft.mesh = spec.cut->mesh, draft.seams = spec.cut->seams, draft.seam_names = spec.cut->seam_names;
  else
    draft.mesh = *spec.mesh;
  const Vec3 from = cut ? Vec3(Vec3::Zero()) : middle_of(draft.mesh);
  const Vec3 to = site.middle() + Vec3(spec.aside_mm, spec.up_mm, spec.forward_mm);
  const Eigen::Matrix3d turn = turned(spec);
  for (Vec3& p : draft.mesh.vertices) p = to + spec.to_mm * spec.scale * (turn * (p - from));
  if (const double large = box_of(draft.mesh.vertices).size().maxCoeff(); !(large <= kLargestMm))
    return fail(Errc::out_of_range,
        excerpt(spec.file) + " comes to " + fixed(large, 0) + " mm; up to " + fixed(kLargestMm, 0) +
            " mm can be worn. Is it in another unit?",
        "import/scale");
  if (cut) {
    draft.mirrored = spec.mirror;
    if (spec.mirror) lay_half_in_plane(draft.mesh);
  } else if (auto trimmed = evened_and_trimmed(draft, spec); !trimmed) {
    return fail(trimmed);
  }
  const Box left = box_of(draft.mesh.vertices);
  const Vec3 c = 0.5 * (left.low + left.high);
  draft.handles = {{"aside", {left.high.x(), c.y(), c.z()}, Vec3::UnitX(), 1.0},
      {"up", {c.x(), left.high.y(), c.z()}, Vec3::UnitY(), 1.0},
      {"forward", {c.x(), c.y(), left.high.z()}, Vec3::UnitZ(), 1.0}};
  // Grips beside those of the axes turn it: a millimetre along the arc is this many degrees.
  const auto turning = [&](const char* dial, const Vec3& arm, const Vec3& along) {
    draft.handles.push_back({dial, to + arm, along, degrees(1.0 / arm.norm())});
  };
  const Vec3 half = 0.5 * left.size();
  turning("turn", Vec3(half.x() + 15.0, 0, 0), -Vec3::UnitZ());
  turning("tip", Vec3(0, half.y() + 15.0, 0), Vec3::UnitZ());
  turning("roll", Vec3(-half.x() - 15.0, 0, 0), -Vec3::UnitY());
  drop_unused(draft);
  for (const Vec3& p : draft.mesh.vertices)
    draft.home.push_back(turn.transpose() * (p - to) / (spec.to_mm * spec.scale));
  return draft;
}

UnitGuess guess_unit(const Mesh& mesh, const Headform& head, const Vec3& up) {
  struct Unit {
    double to_mm;
    const char* name;
  };
  constexpr Unit kUnits[] = {{1.0, "millimetres"}, {10.0, "centimetres"}, {25.4, "inches"}, {1000.0, "metres"}};
  const Vec3 size = (standing(up) * box_of(mesh.vertices).size()).cwiseAbs();  // up is an axis: sides change places
  const double across = std::max(size.x(), size.z()), worn = head.reading(MeasureId::HL).reads_mm;
  UnitGuess best;
  double off = 1e300;
  for (const Unit& u : kUnits) {
    const double wrong = std::abs(std::log(std::max(across, 1e-9) * u.to_mm / worn));
    if (wrong < off) off = wrong, best.to_mm = u.to_mm, best.name = u.name;
  }
  const double fits = std::max((head.reading(MeasureId::HB).reads_mm + 30.0) / std::max(size.x() * best.to_mm, 1e-9),
      (worn + 30.0) / std::max(size.z() * best.to_mm, 1e-9));
  best.scale_to_fit = fits;
  best.sentence = "Taken to be in " + std::string(best.name) + ": " + fixed(size.x() * best.to_mm, 0) + " mm wide, " +
      fixed(size.y() * best.to_mm, 0) + " mm high and " + fixed(size.z() * best.to_mm, 0) + " mm deep beside a head " +
      fixed(worn, 0) + " mm long. To go round this head with 15 mm to spare it would be scaled by " + fixed(fits, 2) +
      ".";
  return best;
}

ImportSpec with_up(ImportSpec spec, const Vec3& up) {
  set_turn(spec, standing(up));
  return spec;
}

UpGuess guess_up(const Mesh& mesh, const std::optional<Vec3>& mirror) {
  const Box box = box_of(mesh.vertices);
  const auto may = [&](const Vec3& way) { return !mirror || std::abs(way.dot(*mirror)) < 0.5; };
  const auto stood = [](const Vec3& up, const std::string& why) {
    UpGuess guess;
    guess.up = up;
    if (up.y() < 0.9)
      guess.sentence = why + ": it was stood up by that. If it lies wrong, turn it with Turn, Tip and Roll.";
    return guess;
  };
  // One that looks aslant tells nothing: of a neck it may be below as well as behind.
  const auto opening = largest_opening(mesh, box);
  if (opening && opening->out.dot(nearest_axis(opening->out)) > kStraightCos) {
    const Vec3 out = nearest_axis(opening->out);
    const double deep = std::abs(box.size().dot(out));
    if (deep >= kDeepShare * opening->breadth && may(out))
      return stood(-out, "Its largest opening is taken to be below");
    // Shallow: a mask, open behind. What is left of the axes is its height; the file's own way along it.
    for (const Vec3& way : {Vec3(Vec3::UnitY()), Vec3(Vec3::UnitZ()), Vec3(Vec3::UnitX())})
      if (may(way) && std::abs(way.dot(out)) < 0.5) return stood(way, "Its opening is taken to be behind");
  }
  if (const auto foot = flat_foot(mesh, box, may)) return stood(-*foot, "It stands on a flat foot");
  return {};
}

ImportSpec with_sides_alike(ImportSpec spec, const Vec3& normal) {
  const Vec3 now = turned(spec) * normal;
  const Vec3 side = now.x() < 0.0 ? Vec3(-Vec3::UnitX()) : Vec3(Vec3::UnitX());
  set_turn(spec, Eigen::Quaterniond::FromTwoVectors(now, side).toRotationMatrix() * turned(spec));
  spec.mirror = true;
  return spec;
}

Result<ImportSpec> matched(const ImportSpec& spec, const Site& site, const std::array<Vec3, 3>& on_mesh,
    const std::array<Vec3, 3>& on_head, bool keep_scale) {
  const auto spread = [](const std::array<Vec3, 3>& p) { return (p[1] - p[0]).cross(p[2] - p[0]).norm(); };
  if (spread(on_mesh) < 1e-9 || spread(on_head) < 10.0)
    return fail(Errc::degenerate_shape, "The three places lie on one line; show one further aside.", "import/match");
  // Places are shown where the mesh stands now; back to its own frame first.
  const Vec3 at = site.middle() + Vec3(spec.aside_mm, spec.up_mm, spec.forward_mm);
  const Eigen::Matrix3d now = turned(spec);
  Eigen::Matrix3d source, target;
  for (int i = 0; i < 3; ++i)
    source.col(i) = now.transpose() * (on_mesh[i] - at) / (spec.to_mm * spec.scale), target.col(i) = on_head[i];
  const Eigen::Matrix4d found = Eigen::umeyama(source, target, !keep_scale);
  const double scale = keep_scale ? 1.0 : found.block<3, 1>(0, 0).norm();
  Eigen::Matrix3d turn = found.block<3, 3>(0, 0) / scale;
  ImportSpec next = spec;
  const double total = keep_scale ? spec.to_mm * spec.scale : scale;
  next.scale = total / spec.to_mm;
  set_turn(next, turn);
  Vec3 goal = Vec3::Zero(), start = Vec3::Zero();
  for (int i = 0; i < 3; ++i) goal += target.col(i) / 3.0, start += source.col(i) / 3.0;
  const Vec3 place = goal - total * (turn * start) - site.middle();
  next.aside_mm = place.x(), next.up_mm = place.y(), next.forward_mm = place.z();
  return next;
}

std::vector<Dial> dials_of(ImportSpec& s) {
  const std::string size = "Size and place", cut = "Cutting";
  Dials dials;
  dials.group(size);
  dials.share("unit", s.to_mm, {0.001, 1000}, "Millimetres in a unit",
      "1 for millimetres, 10 for centimetres, 25.4 for inches.");
  dials.share("scale", s.scale, {0.01, 100}, "Scale", "Beyond its own size.");
  dials.angle("turn", s.turn_deg, {-180, 180}, "Turned", "About the upright axis.");
  dials.angle("tip", s.tip_deg, {-180, 180}, "Tipped forward", "About the side axis.");
  dials.angle("roll", s.roll_deg, {-180, 180}, "Rolled", "About the forward axis.");
  dials.length("aside", s.aside_mm, {-600, 600}, "Moved aside", "To the wearer's left.");
  dials.length("up", s.up_mm, {-600, 600}, "Moved up", "From the middle of the head.");
  dials.length("forward", s.forward_mm, {-600, 600}, "Moved forward", "From the middle of the head.");
  dials.group(cut);
  dials.length("foam", s.foam_mm, {0, 40}, "Rounded to sheet of",
      "What foam of that thickness cannot show is rounded off, spikes are taken off; none leaves it as it came.");
  dials.choice("face", s.face, {"outside", "middle", "inside"}, "It is the foam's",
      "Hollowed out to a shell: within the mesh, half within it, or round it, as over a body.");
  dials.yes_no("mirror", s.mirror, "Both sides alike", "The right side is made the image of the left.");
  dials.length("edge", s.edge_mm, {0, 40}, "Evened to edges of",
      "None leaves the mesh as it came; 6 to 10 mm is good for foam.");
  dials.share("cut-low", s.cut_low, {0, 0.95}, "Cut away below", "Share of its height.");
  dials.share("cut-high", s.cut_high, {0.05, 1}, "Cut away above", "Share of its height that stays.");
  dials.share("cut-back", s.cut_back, {0, 0.95}, "Cut away behind", "Share of its depth.");
  dials.count("belts", s.belts, {0, 12}, "Level seams", "At equal heights.");
  dials.yes_no("middle", s.cut_middle, "Seam down the middle", "Left and right apart.");
  dials.yes_no("across", s.cut_across, "Seam across", "Front and back apart.");

  return std::move(dials).all();
}

}  // namespace awl
