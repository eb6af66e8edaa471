#include "app/stand/stand_scene.hpp"

#include <tuple>
#include <Eigen/Geometry>
#include <cmath>
#include <map>

#include "app/stand/stand_bodies.hpp"
#include "core/base/numbers.hpp"
#include "core/dress/dressed.hpp"
#include "core/geom/solid.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

const Vec3f kFoam(0.86f, 0.80f, 0.68f), kFoamInside(0.66f, 0.60f, 0.50f);

std::vector<int> ownersOf(const PanelSet& set) {
  std::vector<int> owner(set.form.mesh.triangles.size(), -1);
  for (const Panel& p : set.panels)
    for (const int f : p.faces) owner[f] = p.id.value;
  return owner;
}

/// Mean of the signed strains round each vertex of the form.
std::vector<float> strainAtVertices(const PanelSet& set) {
  std::vector<float> sum(set.form.mesh.vertices.size(), 0.0f);
  std::vector<int> count(sum.size(), 0);
  for (const Panel& p : set.panels) {
    const auto& strains = p.mirror_of ? set.panels[p.mirror_of->value].face_strain : p.face_strain;
    for (std::size_t i = 0; i < p.faces.size(); ++i)
      for (const int v : set.form.mesh.triangles[p.faces[i]]) sum[v] += static_cast<float>(strains[i]), ++count[v];
  }
  for (std::size_t v = 0; v < sum.size(); ++v) sum[v] /= static_cast<float>(std::max(count[v], 1));
  return sum;
}

/// The sheet's edge along every border, from the inner to the outer face.
StandBody rimOf(const Mesh& inner, const Mesh& outer) {
  Mesh rim;
  for (const auto& loop : border_loops(inner)) {
    const int first = static_cast<int>(rim.vertices.size()), n = static_cast<int>(loop.size());
    for (const int v : loop) rim.vertices.push_back(inner.vertices[v]), rim.vertices.push_back(outer.vertices[v]);
    for (int i = 0; i < n; ++i) {
      const int a = first + 2 * i, b = first + 2 * ((i + 1) % n);
      rim.triangles.push_back({a, b, a + 1});
      rim.triangles.push_back({a + 1, b, b + 1});
    }
  }
  return bodyOf(rim, Vec3f(0.80f, 0.73f, 0.60f));
}

Vec3f centreOf(const Mesh& mesh, const std::vector<int>& faces) {
  Vec3 sum = Vec3::Zero();
  double area = 0.0;
  for (const int f : faces) {
    const Tri& t = mesh.triangles[f];
    const double a = area_vector(mesh, t).norm();
    sum += a / 3.0 * (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]);
    area += a;
  }
  const Vec3 mean = sum / area;
  Vec3 best = mesh.vertices[mesh.triangles[faces[0]][0]];
  for (const int f : faces)
    for (const int v : mesh.triangles[f])
      if ((mesh.vertices[v] - mean).squaredNorm() < (best - mean).squaredNorm()) best = mesh.vertices[v];
  return best.cast<float>();
}

/// Panels that belong to the form as it stands; while a form is being changed its old panels are not shown on it.
const PanelSet* panelsOf(const Derived& d) {
  if (!d.panels) return nullptr;
  return !d.form || d.panels->form.mesh.vertices == d.form->surface.mesh.vertices ? d.panels.get() : nullptr;
}

/// Every panel moved out of its neighbours' way: straight away from the middle, and along where it looks.
void addApart(StandScene& scene, const Derived& d, const PanelSet& set, double apart_mm) {
  const Mesh outer = sheet_face(set.form.mesh, set.spans, true), inner = sheet_face(set.form.mesh, set.spans, false);
  const Box all = box_of(outer.vertices);
  const Vec3 middle = 0.5 * (all.low + all.high);
  Mesh face, back;
  std::vector<int> owner;
  std::map<int, Vec3> moved;
  for (const Panel& p : set.panels) {
    Vec3 looks = Vec3::Zero(), centre = Vec3::Zero();
    std::map<int, int> fresh;
    for (const int f : p.faces) {
      looks += area_vector(outer, outer.triangles[f]);
      for (const int v : outer.triangles[f]) centre += outer.vertices[v] / (3.0 * static_cast<double>(p.faces.size()));
    }
    const Vec3 by = moved[p.id.value] =
        apart_mm * (looks.normalized() + 0.8 * (centre - middle).normalized()).normalized();
    for (const int f : p.faces) {
      Tri t = outer.triangles[f];
      for (int& v : t) {
        const auto [it, added] = fresh.try_emplace(v, static_cast<int>(face.vertices.size()));
        if (added) face.vertices.push_back(outer.vertices[v] + by), back.vertices.push_back(inner.vertices[v] + by);
        v = it->second;
      }
      face.triangles.push_back(t), owner.push_back(p.id.value);
    }
    // Letters stand at the middle of each stretch of seam, a little inside.
    std::map<int, std::vector<Vec3>> along;
    for (const BorderEdge& e : p.border)
      if (e.seam.valid()) along[e.seam.value].push_back(outer.vertices[p.vertex_of[e.a]]);
    for (const auto& [seam, places] : along)
      if (!set.seams[seam].letter.empty())
        scene.overlay.words.push_back(
            {(0.88 * places[places.size() / 2] + 0.12 * centre + by).cast<float>(), set.seams[seam].letter, -1});
  }
  back.triangles = face.triangles;
  StandBody shell = bodyOf(face, kFoam);
  shell.gloss = 0.05f, shell.owner = owner;
  scene.worn = static_cast<int>(scene.bodies.size());
  scene.bodies.push_back(std::move(shell));
  scene.bodies.push_back(rimOf(back, face));
  for (Tri& t : back.triangles) std::swap(t[1], t[2]);
  scene.bodies.push_back(bodyOf(back, kFoamInside));
  for (const Piece& piece : d.pieces ? *d.pieces : std::vector<Piece>{})
    for (const PanelId panel : piece.panels())
      if (panel.value < static_cast<int>(set.panels.size()))
        scene.overlay.words.push_back(
            {centreOf(outer, set.panels[panel.value].faces) + moved[panel.value].cast<float>(),
                std::to_string(piece.number), panel.value});
}

std::vector<Vec3f> thinned(const std::vector<Vec3>& line) {
  std::vector<Vec3f> points;
  for (const Vec3& p : line) points.push_back(p.cast<float>());
  return points;
}

/// A straight line in enough steps that parts of it can be hidden.
std::vector<Vec3f> stepped(const Vec3& from, const Vec3& to) {
  std::vector<Vec3f> points;
  constexpr int kSteps = 40;
  for (int i = 0; i <= kSteps; ++i)
    points.push_back((from + (to - from) * (static_cast<double>(i) / kSteps)).cast<float>());
  return points;
}

/// Both faces of what is worn: as the chain or the sketch has made them, unless something moved since.
SheetFaces facesOf(const Derived& d, const StandChoice& choice, const SeamMesh& form,
    const std::vector<FormSpan>& spans, const WornMap* map) {
  if (choice.sketch && choice.sketch_faces && !map) return *choice.sketch_faces;
  if (!map && d.form && d.form->spans == spans && d.form->surface.mesh.vertices == form.mesh.vertices)
    return {{d.form->faces.outer.vertices, form.mesh.triangles}, {d.form->faces.inner.vertices, form.mesh.triangles}};
  SeamMesh moved = form;
  if (map)
    for (std::size_t v = 0; v < map->moved.size(); ++v) moved.mesh.vertices[v] += map->moved[v];
  return faces_of(moved, spans);
}

/// Of what a detail is seen to be, and how it shines.
struct MatterLook {
  Vec3f colour;
  float gloss;
};
MatterLook lookOf(Matter matter) {
  switch (matter) {
    case Matter::metal:
      return {Vec3f(0.66f, 0.58f, 0.42f), 0.55f};
    case Matter::cloth:
      return {Vec3f(0.36f, 0.27f, 0.24f), 0.03f};
    case Matter::clear:
      return {Vec3f(0.30f, 0.38f, 0.42f), 0.8f};
    case Matter::hair:
      return {Vec3f(0.55f, 0.40f, 0.27f), 0.15f};
    case Matter::horn:
      return {Vec3f(0.93f, 0.90f, 0.80f), 0.35f};
    case Matter::lamp:
      return {Vec3f(1.0f, 0.88f, 0.45f), 0.6f};
    case Matter::cord:
      return {Vec3f(0.24f, 0.21f, 0.20f), 0.05f};
    case Matter::foam:
      break;
  }
  return {Vec3f(0.70f, 0.58f, 0.42f), 0.08f};
}

/// Details as solids, those of one matter and one paint as one body.
void addDetails(StandScene& scene, const Derived& d, const PaintedLook* painted) {
  std::map<std::pair<Matter, int>, Mesh> all;
  std::map<const Yield*, int> paint;
  if (painted != nullptr && d.dressed)
    for (const auto& one : *d.dressed)
      if (const auto rgb = painted->rgb_of_detail.find(one->detail); rgb != painted->rgb_of_detail.end())
        paint[&one->yield] = rgb->second;
  for (const Yield* y : yields_of(d)) {
    const auto rgb = paint.find(y);
    for (const YieldSolid& solid : y->solids)
      add_mesh(all[{solid.matter, rgb == paint.end() ? -1 : rgb->second}], solid.mesh);
  }
  for (const auto& [kind, mesh] : all) {
    const MatterLook look = lookOf(kind.first);
    StandBody body = bodyOf(mesh, kind.second >= 0 ? colourOf(kind.second) : look.colour);
    body.gloss = kind.second >= 0 && painted != nullptr ? painted->gloss : look.gloss;
    scene.bodies.push_back(std::move(body));
  }
}

void addWorn(StandScene& scene, const Derived& d, const StandChoice& choice) {
  const PanelSet* panels = choice.sketch ? choice.sketch.get() : panelsOf(d);
  const WornMap* map =
      choice.worn_map && panels != nullptr && choice.worn_map->on.get() == panels ? choice.worn_map.get() : nullptr;
  if (panels && choice.apart_mm > 0.0) return addApart(scene, d, *panels, choice.apart_mm);
  const SeamMesh& form = panels ? panels->form : d.form->surface;
  const auto& spans = panels ? panels->spans : d.form->spans;
  const auto [outer, inner_face] = facesOf(d, choice, form, spans, map);
  const PaintedLook* painted =
      map != nullptr || choice.strain ? nullptr : paintedOn(d, choice.painted.get(), outer.triangles.size());
  StandBody shell = bodyOf(painted != nullptr && painted->ground ? painted->ground->outer : outer, kFoam);
  shell.gloss = 0.05f;
  if (panels) shell.owner = ownersOf(*panels);
  if (map && !map->mm.empty()) {
    shell.look = StandBody::Look::strain, shell.tolerance = static_cast<float>(map->range_mm / 1.5);
    shell.strain.assign(map->mm.begin(), map->mm.end());
    scene.overlay.legend = {map->low, map->high};
  } else if (panels && choice.strain)
    shell.look = StandBody::Look::strain, shell.strain = strainAtVertices(*panels);
  if (painted != nullptr) paintShell(shell, *painted);
  scene.worn = static_cast<int>(scene.bodies.size());
  scene.bodies.push_back(std::move(shell));
  Mesh inner = inner_face;
  for (Tri& t : inner.triangles) std::swap(t[1], t[2]);
  scene.bodies.push_back(bodyOf(inner, painted != nullptr ? colourOf(painted->inside) : kFoamInside));
  scene.bodies.push_back(rimOf(inner_face, outer));
  if (painted != nullptr) scene.bodies.back().colour = colourOf(painted->rest);
  if (choice.details && !choice.strain && !choice.sketch && !map) addDetails(scene, d, painted);
  if (!choice.seams) return;
  // Seams of what is not made from sheet are nobody's business; how it is cut instead is.
  std::vector<char> skin(outer.vertices.size(), 1);
  int first = 0;
  for (std::size_t s = 0; s < spans.size(); ++s) {
    if (!d.is_skin(static_cast<int>(s))) std::fill(skin.begin() + first, skin.begin() + first + spans[s].vertices, 0);
    first += spans[s].vertices;
  }
  for (const auto& [edge, id] : form.seam_of)
    if (skin[edge.first])
      scene.overlay.lines.push_back(
          {{outer.vertices[edge.first].cast<float>(), outer.vertices[edge.second].cast<float>()},
              StandOverlay::Ink::seam});
  for (const Yield* y : yields_of(d))
    for (const auto& line : y->lines) {
      StandOverlay::Line drawn;
      drawn.points = line.size() == 2 ? stepped(line.front(), line.back()) : thinned(line);
      drawn.ink = StandOverlay::Ink::seam, drawn.straight = line.size() == 2;
      scene.overlay.lines.push_back(std::move(drawn));
    }
  if (!panels || !d.pieces || choice.sketch || !choice.numbers) return;
  for (const Piece& piece : *d.pieces)
    for (const PanelId panel : piece.panels())
      if (panel.value < static_cast<int>(panels->panels.size()))
        scene.overlay.words.push_back(
            {centreOf(outer, panels->panels[panel.value].faces), std::to_string(piece.number), panel.value});
}

void addTapes(StandScene& scene, const Derived& d, const StandChoice& choice) {
  if (!d.tapes) return;
  for (const TapePath& path : *d.tapes) {
    const bool lit = choice.lit == path.id;
    const Reading& reading = d.head->reading(path.id);
    if (path.line.size() < 2 || !(lit || (choice.tapes && reading.given) || choice.guessed_tapes)) continue;
    StandOverlay::Line line;
    line.points = path.straight ? stepped(path.line.front(), path.line.back()) : thinned(path.line);
    line.ink = lit ? StandOverlay::Ink::lit : reading.given ? StandOverlay::Ink::tape : StandOverlay::Ink::guess;
    line.measure = index_of(path.id);
    line.straight = path.straight;
    scene.overlay.lines.push_back(std::move(line));
    const std::string value =
        format_length(reading.given ? reading.reads_mm : std::round(reading.reads_mm), choice.unit);
    scene.overlay.callouts.push_back({static_cast<int>(scene.overlay.lines.size()) - 1,
        qs(facts_of(path.id).name).toStdString() + "  " +
            (reading.given ? value : qs("about " + value).toStdString())});
  }
}

void addContours(StandScene& scene, const Mesh& mesh) {
  const Box box = box_of(mesh.vertices);
  constexpr double kStepMm = 20.0;
  for (double y = kStepMm * std::ceil(box.low.y() / kStepMm) + 1e-3; y < box.high.y(); y += kStepMm)
    for (const auto& line : section_lines(mesh, {Vec3(0, y, 0), Vec3::UnitY()}))
      scene.overlay.lines.push_back({thinned(line), StandOverlay::Ink::contour});
  for (const auto& line : section_lines(mesh, {Vec3(1e-3, 0, 0), Vec3::UnitX()}))
    scene.overlay.lines.push_back({thinned(line), StandOverlay::Ink::contour});
}

/// As many of the points as the eye can tell apart.
std::vector<Vec3> someOf(const std::vector<Vec3>& points) {
  constexpr std::size_t kMost = 20000;
  const std::size_t step = std::max<std::size_t>(1, points.size() / kMost);
  std::vector<Vec3> some;
  for (std::size_t i = 0; i < points.size(); i += step) some.push_back(points[i]);
  return some;
}

/// Points as small flakes that can be lit and picked, facing away from `middle`.
StandBody flakesOf(const std::vector<Vec3>& points, const Vec3& middle, const Vec3f& colour, double size_mm) {
  StandBody body;
  body.colour = colour;
  for (const Vec3& p : points) {
    const Vec3 n = (p - middle).normalized();
    const Vec3 u = n.cross(std::abs(n.y()) < 0.9 ? Vec3::UnitY() : Vec3::UnitX()).normalized(), v = n.cross(u);
    const int first = static_cast<int>(body.places.size());
    for (int k = 0; k < 3; ++k) {
      const double a = kTwoPi * k / 3.0;
      body.places.push_back((p + size_mm * (std::cos(a) * u + std::sin(a) * v)).cast<float>());
      body.normals.push_back(n.cast<float>());
    }
    body.triangles.push_back({first, first + 1, first + 2});
  }
  return body;
}

const Vec3f kScanSkin(0.28f, 0.62f, 0.50f), kScanHair(0.78f, 0.42f, 0.22f);

/// The scan alone, its middle in the middle of the stand, with the places already shown on it.
void addRawScan(StandScene& scene, const Scan& scan) {
  const Box box = box_of(scan.mesh.vertices);
  const Vec3 middle = 0.5 * (box.low + box.high);
  if (scan.mesh.triangles.empty())
    scene.bodies.push_back(flakesOf(someOf(scan.mesh.vertices), middle, kScanSkin, 2.4));
  else
    scene.bodies.push_back(bodyOf(scan.mesh, kScanSkin));
  for (Vec3f& p : scene.bodies.back().places) p -= middle.cast<float>();
  for (const auto& [mark, at] : scan.marks)
    scene.overlay.words.push_back({(at - middle).cast<float>(), name_of(mark), -1, true});
}

/// Skin coloured by how far it stands off the headform, hair and cloth that were left aside in one colour of their own.
void addFittedScan(StandScene& scene, const ScanFit& fit, LengthUnit unit) {
  constexpr double kFullMm = 2.0;
  std::vector<Vec3> skin, hair;
  std::vector<float> off;
  const std::size_t step = std::max<std::size_t>(1, fit.points.size() / 20000);
  for (std::size_t i = 0; i < fit.points.size(); i += step) {
    (fit.used[i] ? skin : hair).push_back(fit.points[i]);
    if (fit.used[i]) off.insert(off.end(), 3, static_cast<float>(fit.off_mm[i]));
  }
  const Vec3 middle(0, 20, 0);
  StandBody flakes = flakesOf(skin, middle, kScanSkin, 1.5);
  flakes.look = StandBody::Look::strain;
  flakes.tolerance = static_cast<float>(kFullMm / 1.5);
  flakes.strain = std::move(off);
  flakes.shadeless = true;
  scene.bodies.push_back(std::move(flakes));
  scene.bodies.push_back(flakesOf(hair, middle, kScanHair, 1.3));
  scene.bodies.back().shadeless = true;
  scene.overlay.legend = {"scan " + format_length(kFullMm, unit) + " in", format_length(kFullMm, unit) + " out"};
}

/// Cards where they lie on this wearer's head: seen at once, before the tape has followed them.
void addCards(StandScene& scene, const Derived& d, const std::vector<Card>& cards) {
  for (const Card& card : cards) {
    const Mesh half = shape_of(card).half;
    const auto places =
        Riders(half.vertices, std::vector<double>(half.vertices.size(), 0.0)).carried(d.head->coefficients);
    for (const double side : {1.0, -1.0})
      for (const Tri& t : half.triangles) {
        std::vector<Vec3f> loop;
        for (const int v : {t[0], t[1], t[2], t[0]})
          loop.push_back(Vec3(side * places[v].x(), places[v].y(), places[v].z()).cast<float>());
        scene.overlay.lines.push_back({loop, StandOverlay::Ink::feature});
      }
  }
}

/// Points of edges and rims stand close together: "edge3", "eye7".
bool isRimPoint(const std::string& dial) {
  return dial.find('.') == std::string::npos && !dial.empty() && dial.back() >= '0' && dial.back() <= '9';
}

/// Named lines of the part at hand, and what can be taken hold of on it.
void addPartAtHand(StandScene& scene, const Derived& d, const StandChoice& choice) {
  if (d.head && !choice.cards.empty()) addCards(scene, d, choice.cards);
  const PartForm* form = d.form ? d.form->shape_of(choice.part) : nullptr;
  if (form == nullptr) return;
  if (choice.features)
    for (const FeatureLine& line : form->features)
      scene.overlay.lines.push_back({thinned(line.line), StandOverlay::Ink::feature});
  if (choice.handles)
    for (const Handle& h : form->handles)
      scene.overlay.grips.push_back({h.at.cast<float>(), (h.along / std::max(std::abs(h.per_mm), 1e-9)).cast<float>(),
          h.dial, {}, false, isRimPoint(h.dial)});
}

/// Drawn seams of the part at hand: pencil, ink, and the markers of those that may be moved.
void addDrawnLines(StandScene& scene, const Derived& d, const StandChoice& choice) {
  const PartForm* form = d.form ? d.form->shape_of(choice.part) : nullptr;
  if (!choice.lines || form == nullptr || !choice.ground) return;
  // Lines lie on the form; what is seen is the outside of its foam.
  const auto lifted = [&](const Vec3& p) { return choice.ground->lifted(p); };
  const auto add = [&](const DrawnLine& line, bool lit) {
    for (const auto* places : {&line.line, &line.image}) {
      StandOverlay::Line shown;
      shown.ink = lit                         ? StandOverlay::Ink::lit
          : line.seam.role == LineRole::hides ? StandOverlay::Ink::feature
          : line.seam.role == LineRole::shows ? StandOverlay::Ink::guess
          : line.seam.cuts()                  ? StandOverlay::Ink::seam
                                              : StandOverlay::Ink::pencil;
      for (const Vec3& p : *places) shown.points.push_back(lifted(p).cast<float>());
      scene.overlay.lines.push_back(std::move(shown));
    }
    if (line.seam.locked || line.seam.hidden) return;
    for (std::size_t i = 0; i < line.markers.size(); ++i)
      scene.overlay.grips.push_back({lifted(line.markers[i]).cast<float>(), Vec3f::UnitY(),
          "seam" + std::to_string(line.seam.id) + "." + std::to_string(i), {}, true});
  };
  const auto is_loose = [&](int id) {
    return std::any_of(choice.loose.begin(), choice.loose.end(), [id](const DrawnLine& l) { return l.seam.id == id; });
  };
  for (const DrawnLine& line : form->drawn)
    if (!line.seam.hidden && !is_loose(line.seam.id)) add(line, line.seam.id == choice.lit_line);
  for (const DrawnLine& line : choice.loose) add(line, true);
}

/// A cut through everything, with its breadth and depth.
void addSection(StandScene& scene, const Derived& d, const StandChoice& choice) {
  const auto cut = [&](const Mesh& mesh, const std::string& name) {
    Box box;
    for (const auto& line : section_lines(mesh, *choice.section)) {
      scene.overlay.lines.push_back({thinned(line), StandOverlay::Ink::lit});
      for (const Vec3& p : line) box.include(p);
    }
    if (box.high.x() < box.low.x()) return;
    const Vec3 size = box.size();
    const bool level = std::abs(choice.section->normal.y()) > 0.5, upright = std::abs(choice.section->normal.x()) > 0.5;
    const double across = upright ? size.z() : size.x(), along = level ? size.z() : size.y();
    scene.overlay.callouts.push_back({static_cast<int>(scene.overlay.lines.size()) - 1,
        qs(name).toStdString() + "  " + format_length(std::round(across), choice.unit) + " x " +
            format_length(std::round(along), choice.unit)});
  };
  if (d.head && choice.head) cut(d.head->mesh, "head");
  if (!d.form || !choice.hood) return;
  for (const auto& part : d.form->parts)
    cut(sheet_face(part->surface.mesh, {span_of(part->surface, part->name, part->outside, part->thickness_mm)}, true),
        part->name);
}

/// The headform in foam stands in the head's own place.
bool isFoamHead(const Derived& d, const StandChoice& choice) { return choice.hood && d.form && d.form->is_headform; }

void addHead(StandScene& scene, const Derived& d, const StandChoice& choice) {
  if (isFoamHead(d, choice)) return scene.bodies.push_back(plinth());
  StandBody body = bodyOf(choice.instead ? *choice.instead : d.head->mesh, kStandBlue);
  if (choice.map && choice.map->mm.size() == body.places.size()) {
    scene.overlay.legend = {format_length(choice.map_range_mm, choice.unit) + " in",
        format_length(choice.map_range_mm, choice.unit) + " out"};
    body.look = StandBody::Look::strain;
    body.tolerance = static_cast<float>(choice.map_range_mm / 1.5);
    body.strain.assign(choice.map->mm.begin(), choice.map->mm.end());
  }
  scene.bodies.push_back(std::move(body));
  if (!choice.shoulders) scene.bodies.push_back(plinth());
  addTapes(scene, d, choice);
  if (choice.scan && d.scan && !choice.map) addFittedScan(scene, *d.scan, choice.unit);
  if (choice.contours) addContours(scene, choice.instead ? *choice.instead : d.head->mesh);
  if (!choice.landmarks) return;
  for (int i = 0; i < kLandmarkCount; ++i)
    scene.overlay.words.push_back({d.head->landmarks[i].cast<float>(), name_of(static_cast<Landmark>(i)), -1, true});
}

}  // namespace

namespace {

/// Whether two choices show the same bodies: all but what is laid over them.
bool showSameBodies(const StandChoice& a, const StandChoice& b) {
  const auto flags = [](const StandChoice& c) {
    return std::tuple(c.head, c.hood, c.strain, c.seams, c.apart_mm, c.tapes, c.guessed_tapes, c.landmarks, c.contours,
        c.lit, c.scan, c.map_range_mm, c.unit, c.part, c.handles, c.features, c.shoulders, c.shoulder_mm, c.details,
        c.numbers);
  };
  const auto held = [](const StandChoice& c) {
    return std::tuple(c.map, c.instead, c.raw_scan, c.worn_map, c.sketch, c.inside, c.painted);
  };
  const bool same_cut = a.section.has_value() == b.section.has_value() &&
      (!a.section || (a.section->origin == b.section->origin && a.section->normal == b.section->normal));
  return flags(a) == flags(b) && held(a) == held(b) && a.cards == b.cards && same_cut;
}

bool isSameDerived(const Derived& a, const Derived& b) {
  const auto held = [](const Derived& d) { return std::tuple(d.head, d.tapes, d.scan, d.form, d.panels, d.pieces); };
  return held(a) == held(b) && a.ways == b.ways && a.fittings == b.fittings && a.dressed == b.dressed;
}

void addBodies(StandScene& scene, const Derived& d, const StandChoice& choice) {
  if (choice.raw_scan) return addRawScan(scene, *choice.raw_scan);
  if (d.head && choice.head) addHead(scene, d, choice);
  if (d.form && choice.hood && choice.head)
    for (const auto& part : d.form->parts)
      for (StandBody& limb : limbsOf(*part)) scene.bodies.push_back(std::move(limb));
  if (d.head && choice.shoulders) scene.bodies.push_back(shouldersOf(*d.head, choice.shoulder_mm));
  if (choice.hood && d.form) addWorn(scene, d, choice);
  for (const Mesh& thing : choice.inside ? *choice.inside : std::vector<Mesh>{})
    scene.bodies.push_back(bodyOf(thing, Vec3f(0.32f, 0.46f, 0.52f)));
  if (choice.section) addSection(scene, d, choice);
  addPartAtHand(scene, d, choice);
}

void addLaidOver(StandScene& scene, const Derived& d, const StandChoice& choice) {
  if (choice.raw_scan) return;
  addDrawnLines(scene, d, choice);
  for (const Handle& h : choice.own_handles)
    scene.overlay.grips.push_back({h.at.cast<float>(), (h.along / std::max(std::abs(h.per_mm), 1e-9)).cast<float>(),
        h.dial, {}, false, isRimPoint(h.dial)});
  for (const auto& line : choice.own_lines) scene.overlay.lines.push_back({thinned(line), StandOverlay::Ink::lit});
  for (const Vec3& p : choice.spots) scene.overlay.words.push_back({p.cast<float>(), "here", -1, true});
}

}  // namespace

StandScene makeStandScene(const Derived& d, const StandChoice& choice) {
  StandScene scene;
  addBodies(scene, d, choice);
  addLaidOver(scene, d, choice);
  return scene;
}

const StandScene& StandSceneMaker::scene(const Derived& derived, const StandChoice& choice, bool& same) {
  same = m_made && isSameDerived(m_derived, derived) && showSameBodies(m_choice, choice);
  if (!same) {
    m_bodies = {};
    addBodies(m_bodies, derived, choice);
    m_derived = derived;
    m_choice = choice;
    m_scene.bodies = m_bodies.bodies;
    m_scene.worn = m_bodies.worn;
    m_bodies.bodies.clear();
    m_made = true;
  }
  m_scene.overlay = m_bodies.overlay;
  addLaidOver(m_scene, derived, choice);
  return m_scene;
}

}  // namespace awl
