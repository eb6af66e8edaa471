#include "core/dress/dressing.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/polygon.hpp"

namespace awl {

std::string in_mm(double value) {
  return fixed(value, std::abs(value) < 20.0 && std::abs(value - std::round(value)) > 0.05 ? 1 : 0) + " mm";
}

std::string counted(int count, const std::string& what) {
  const bool es = what.ends_with("ch") || what.ends_with("s");
  if (what == "tooth") return std::to_string(count) + (count == 1 ? " tooth" : " teeth");
  return std::to_string(count) + " " + what + (count == 1 ? "" : es ? "es" : "s");
}

std::string Dressing::where() const { return "dress/" + std::to_string(detail.id); }

double Dressing::thickness_mm(double usual_mm) const {
  return detail.thickness_mm > 0.0 ? detail.thickness_mm : usual_mm;
}

bool Dressing::one_sided() const { return !detail.mirrored && site.mirrored; }

void Dressing::remark(const char* id, Severity severity, std::string sentence, std::optional<double> measured,
    std::optional<double> limit, std::vector<Remedy> remedies) {
  out.yield.remarks.push_back({std::string("dress.") + id, severity, where(), detail.name + ": " + std::move(sentence),
      measured, limit, std::move(remedies)});
}

std::string Dressing::turn_act(const char* dial, double value) const {
  return "set-detail " + std::to_string(detail.id) + " " + dial + " " + fixed(value, 2);
}

void Dressing::want(const std::string& id, const std::string& what, double need, const std::string& unit) {
  out.yield.wants.push_back({"dress/" + id, what, need, unit, detail.name});
}

void Dressing::step(std::string title, std::vector<std::string> told, std::string caution, bool glued, bool at_end) {
  out.yield.steps.push_back({std::move(title), std::move(told), std::move(caution), glued, at_end});
}

Piece& Dressing::piece(const std::string& name, std::vector<Vec2> outline, double thick_mm, int copies,
    std::vector<std::vector<Vec2>> holes, std::vector<PieceTrace> traces) {
  if (signed_area_mm2(outline) < 0.0) std::reverse(outline.begin(), outline.end());
  for (auto& hole : holes)
    if (signed_area_mm2(hole) > 0.0) std::reverse(hole.begin(), hole.end());
  const Vec2 middle = polygon_centre(outline);
  for (PieceTrace& trace : traces)
    for (Vec2& p : trace.line) p -= middle;
  Piece made = plate_piece(name, 1, std::move(outline), std::move(holes), thick_mm);
  made.traces = std::move(traces);
  made.part = site.part, made.copies = copies, made.face_up = "any side up";
  made.front.reset();
  made.stuff = !detail.stuff.empty() ? detail.stuff : host_kind;
  out.yield.pieces.push_back(std::move(made));
  return out.yield.pieces.back();
}

void Dressing::trace(const std::vector<Vec3>& line, bool closed, TraceKind kind, const std::string& label) {
  PieceMark mark{PieceMark::Kind::trace, line, 0.0, label, site.part, kind, !one_sided()};
  if (closed && !line.empty()) mark.line.push_back(line.front());
  if (mark.line.size() > 1) out.yield.marks.push_back(std::move(mark));
}

void Dressing::bore(const Vec3& at, double across_mm, const std::string& label) {
  out.yield.marks.push_back(
      {PieceMark::Kind::trace, {at}, 0.5 * across_mm, label, site.part, TraceKind::drill, !one_sided()});
}

void Dressing::hole(const Vec3& at, double across_mm) {
  out.yield.marks.push_back(
      {PieceMark::Kind::hole, {at}, 0.5 * across_mm, {}, site.part, TraceKind::drill, !one_sided()});
}

void Dressing::hole(const std::vector<Vec3>& rim) {
  out.yield.marks.push_back({PieceMark::Kind::hole, rim, 0.0, {}, site.part, TraceKind::drill, !one_sided()});
}

void Dressing::solid(Matter matter, Mesh mesh, double mass_g, bool hides, double light, double thick_mm) {
  if (mesh.triangles.empty()) return;
  out.yield.solids.push_back({matter, std::move(mesh), mass_g, hides, light, thick_mm});
}

void Dressing::place(const FormLine::At& at, double size_mm, bool image) {
  out.places.push_back({at.at, at.normal, at.along_mm, size_mm, image});
}

}  // namespace awl
