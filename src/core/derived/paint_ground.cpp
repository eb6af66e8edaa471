#include "core/derived/paint_ground.hpp"

#include <algorithm>
#include <map>

#include "core/base/text.hpp"
#include "core/dress/dressed.hpp"
#include "core/dress/kinds/scored.hpp"
#include "core/geom/solid.hpp"
#include "core/seam/cutter.hpp"

namespace awl {
namespace {

constexpr double kLandMm = 10.0;     // a line that ends so near to an edge or to another line is meant to reach it
constexpr double kImageMm = 3.0;     // so near to the form its image must be to be a place of it
constexpr std::size_t kTried = 600;  // places of a field tried for the one farthest inside

struct ColourLine {
  std::string name;
  CutLine at;
};

bool is_worked_in(const Dressed& one, int part) { return one.yield.part == part && one.kind == Scored::kKind; }

/// Whether anything parts the colours of one part: most have nothing, and are not looked at further.
bool is_parted(const PartForm& form, const std::vector<std::shared_ptr<const Dressed>>* dressed) {
  return std::any_of(form.drawn.begin(), form.drawn.end(),
             [](const DrawnLine& line) { return line.seam.role == LineRole::colours; }) ||
      (dressed != nullptr && std::any_of(dressed->begin(), dressed->end(), [&](const auto& one) {
        return is_worked_in(*one, form.part);
      }));
}

/// Lines at which colours meet, on the outer face of one part.
std::vector<ColourLine> colour_lines(const PartForm& form, const Mesh& surface, const Mesh& outer,
    const std::vector<std::shared_ptr<const Dressed>>* dressed) {
  std::vector<ColourLine> lines;
  const Nearest near(surface);
  for (const DrawnLine& line : form.drawn) {
    if (line.seam.role != LineRole::colours) continue;
    for (const auto* at : {&line.line, &line.image}) {
      if (at->size() < 2) continue;
      CutLine lifted;
      for (const Vec3& p : *at) lifted.push_back(value_at(near.to(p), outer, outer.vertices));
      lines.push_back({line.seam.name, std::move(lifted)});
    }
  }
  if (dressed != nullptr)
    for (const auto& one : *dressed) {
      if (!is_worked_in(*one, form.part)) continue;
      for (const FormLine& line : one->lines) {
        lines.push_back({one->name, line.at});
        if (line.closed) lines.back().at.push_back(line.at.front());
      }
    }
  return lines;
}

/// Numbers of the pieces triangles fall into when they do not hold together across these edges.
std::vector<int> parted_by(const Mesh& mesh, const EdgeLabels& cuts) {
  std::map<std::pair<int, int>, std::vector<int>> faces_on;
  for (int f = 0; f < static_cast<int>(mesh.triangles.size()); ++f)
    for (int k = 0; k < 3; ++k)
      if (const auto e = edge_of(mesh.triangles[f][k], mesh.triangles[f][(k + 1) % 3]); cuts.count(e) == 0)
        faces_on[e].push_back(f);
  std::vector<std::vector<int>> next(mesh.triangles.size());
  for (const auto& [edge, faces] : faces_on)
    for (std::size_t i = 1; i < faces.size(); ++i) {
      next[faces[0]].push_back(faces[i]);
      next[faces[i]].push_back(faces[0]);
    }
  std::vector<int> number(mesh.triangles.size(), -1);
  int count = 0;
  for (int start = 0; start < static_cast<int>(number.size()); ++start) {
    if (number[start] >= 0) continue;
    std::vector<int> open{start};
    number[start] = count;
    while (!open.empty()) {
      const int f = open.back();
      open.pop_back();
      for (const int to : next[f])
        if (number[to] < 0) number[to] = count, open.push_back(to);
    }
    ++count;
  }
  return number;
}

Vec3 middle_of_face(const Mesh& mesh, int face) {
  const Tri& t = mesh.triangles[face];
  return (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0;
}

/// Edges at which a field ends.
std::vector<std::pair<int, int>> ends_of(const Mesh& mesh, const PaintField& field) {
  std::map<std::pair<int, int>, int> seen;
  for (const int f : field.faces)
    for (int k = 0; k < 3; ++k) ++seen[edge_of(mesh.triangles[f][k], mesh.triangles[f][(k + 1) % 3])];
  std::vector<std::pair<int, int>> ends;
  for (const auto& [edge, times] : seen)
    if (times == 1) ends.push_back(edge);
  return ends;
}

/// The centre of the triangle that is farthest from where the field ends.
Vec3 well_inside(const Mesh& mesh, const PaintField& field) {
  const std::size_t step = 1 + field.faces.size() / kTried;
  Vec3 best = middle_of_face(mesh, field.faces.front());
  double most = -1.0;
  for (std::size_t i = 0; i < field.faces.size(); i += step) {
    const Vec3 at = middle_of_face(mesh, field.faces[i]);
    double least = 1e300;
    for (const auto& [a, b] : field.ends)
      least = std::min(least, (0.5 * (mesh.vertices[a] + mesh.vertices[b]) - at).squaredNorm());
    if (least > most) most = least, best = at;
  }
  return best;
}

Mesh triangles_of(const Mesh& mesh, const FormSpan& span, int first_vertex, int first_triangle) {
  Mesh part;
  part.vertices.assign(mesh.vertices.begin() + first_vertex, mesh.vertices.begin() + first_vertex + span.vertices);
  for (int f = first_triangle; f < first_triangle + span.triangles; ++f) {
    Tri t = mesh.triangles[f];
    for (int& v : t) v -= first_vertex;
    part.triangles.push_back(t);
  }
  return part;
}

/// One part of the form, cut along its lines.
struct CutPart {
  Mesh surface, outer;
  std::vector<int> face_of;  ///< the part's triangle each lies in
  std::vector<int> field_of;
};

CutPart cut_part(const SheetFaces& faces, const std::vector<ColourLine>& lines, std::vector<Error>& lost) {
  const Mesh &outer = faces.outer, &surface = faces.inner;
  CutPart made;
  Draft draft;
  draft.mesh = outer, draft.home = surface.vertices, draft.mirrored = false;
  Cutter cutter(draft);
  for (const ColourLine& line : lines)
    if (const auto cut = cutter.draw(line.at, line.name, {kLandMm, false}); !cut)
      lost.push_back(
          {cut.error().code, "The line " + in_quotes(line.name) + " could not be followed: " + cut.error().text, {}});
  draft = std::move(cutter).take();
  made.outer = draft.mesh;
  made.surface.vertices = draft.home, made.surface.triangles = draft.mesh.triangles;
  made.field_of = parted_by(draft.mesh, draft.seams);
  const Nearest near(outer);
  for (int f = 0; f < static_cast<int>(draft.mesh.triangles.size()); ++f)
    made.face_of.push_back(near.to(middle_of_face(draft.mesh, f)).triangle);
  return made;
}

/// Where the fields of one part lie, and which is whose image.
void describe(PaintGround& made, int known, int first, const SheetFaces& faces, const PartForm& form) {
  const Mesh &outer = faces.outer, &surface = faces.inner;
  const Places places(surface, form.surface.home);
  const Nearest near(outer);
  Mesh cut;
  cut.vertices = made.outer.vertices;
  cut.triangles.assign(made.outer.triangles.begin() + first, made.outer.triangles.end());
  const Nearest near_cut(cut);
  const Box box = box_of(outer.vertices);
  for (std::size_t k = static_cast<std::size_t>(known); k < made.fields.size(); ++k) {
    PaintField& field = made.fields[k];
    field.ends = ends_of(made.outer, field);
    field.within = well_inside(made.outer, field);
    field.seed = places.at_home(value_at(near.to(field.within), surface, surface.vertices));
    field.share = (field.within - box.low).cwiseQuotient((box.high - box.low).cwiseMax(1.0));
    const Vec3 image(-field.within.x(), field.within.y(), field.within.z());
    if (const NearestHit hit = near_cut.to(image); (hit.point - image).norm() < kImageMm)
      field.image = made.field_of[static_cast<std::size_t>(first + hit.triangle)];
  }
}

}  // namespace

std::shared_ptr<const PaintGround> paint_ground(
    const Form& form, const std::vector<std::shared_ptr<const Dressed>>* dressed) {
  const auto parted = [&](const auto& part) { return is_parted(*part, dressed); };
  if (std::none_of(form.parts.begin(), form.parts.end(), parted)) return nullptr;
  auto made = std::make_shared<PaintGround>();
  int vertex = 0, triangle = 0;
  for (std::size_t i = 0; i < form.parts.size(); ++i) {
    const FormSpan& span = form.spans[i];
    const Mesh surface = triangles_of(form.surface.mesh, span, vertex, triangle);
    Mesh outer = triangles_of(form.faces.outer, span, vertex, triangle);
    std::vector<ColourLine> lines;
    if (parted(form.parts[i])) lines = colour_lines(*form.parts[i], surface, outer, dressed);
    CutPart part{surface, outer, {}, {}};
    if (!lines.empty()) part = cut_part({outer, surface}, lines, made->lost);
    const int first = static_cast<int>(made->face_of.size()), known = static_cast<int>(made->fields.size());
    for (std::size_t f = 0; f < part.outer.triangles.size(); ++f) {
      made->face_of.push_back(triangle + (lines.empty() ? static_cast<int>(f) : part.face_of[f]));
      made->field_of.push_back(lines.empty() ? -1 : known + part.field_of[f]);
      if (lines.empty()) continue;
      made->fields.resize(std::max(made->fields.size(), static_cast<std::size_t>(made->field_of.back()) + 1));
      PaintField& field = made->fields[made->field_of.back()];
      field.part = form.parts[i]->part;
      field.faces.push_back(first + static_cast<int>(f));
      field.area_mm2 += 0.5 * area_vector(part.surface, part.surface.triangles[f]).norm();
    }
    add_mesh(made->outer, part.outer);
    add_mesh(made->surface, part.surface);
    made->spans.push_back(static_cast<int>(part.outer.triangles.size()));
    if (!lines.empty()) describe(*made, known, first, {surface, outer}, *form.parts[i]);
    vertex += span.vertices, triangle += span.triangles;
  }
  return made;
}

std::vector<int> fields_at(const PaintGround& ground, const Form& form, int part, const Vec3& seed, bool both_sides) {
  int first = 0;
  for (std::size_t i = 0; i < form.parts.size(); ++i) {
    const PartForm& held = *form.parts[i];
    if (held.part != part) {
      first += ground.spans[i];
      continue;
    }
    if (ground.spans[i] == 0 || ground.field_of[first] < 0) return {};
    Mesh own;
    own.vertices = ground.surface.vertices;
    own.triangles.assign(
        ground.surface.triangles.begin() + first, ground.surface.triangles.begin() + first + ground.spans[i]);
    const Nearest near(own);
    const Vec3 at = Places(held.surface.mesh, held.surface.home).on_form(seed);
    std::vector<int> fields{ground.field_of[first + near.to(at).triangle]};
    if (both_sides) {
      const NearestHit image = near.to(Vec3(-at.x(), at.y(), at.z()));
      const bool there = (image.point - Vec3(-at.x(), at.y(), at.z())).norm() < kImageMm;
      if (there && ground.field_of[first + image.triangle] != fields[0])
        fields.push_back(ground.field_of[first + image.triangle]);
    }
    return fields;
  }
  return {};
}

}  // namespace awl
