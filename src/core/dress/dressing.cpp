#include "core/dress/dressing.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/polygon.hpp"
#include "core/seam/flatten.hpp"

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

void Dressing::add_strip(const FormLine& line, StripOptions o, const std::string& name, double lap_mm) {
  o.more_end_mm += line.closed ? lap_mm : 0.0;
  const FlatStrip flat = flat_strip(site, line, o);
  constexpr double kRoomMm = 950.0;  // of a usual sheet
  out.strips.push_back({name, flat});
  const std::size_t n = flat.middle.size();
  const auto stretch = [&](int k, int of) {
    const std::size_t a = k * (n - 1) / of, b = (k + 1) * (n - 1) / of;
    std::vector<Vec2> outline(flat.right.begin() + static_cast<long>(a), flat.right.begin() + static_cast<long>(b) + 1);
    for (std::size_t i = b + 1; i-- > a;) outline.push_back(flat.left[i]);
    return outline;
  };
  // Equal lengths, so many that none lies over itself.
  constexpr int kMostLengths = 12;
  int lengths = lengths_of(flat, kRoomMm, o.wide_mm);
  const auto over_itself = [&] {
    for (int k = 0; k < lengths; ++k)
      if (crosses_itself(stretch(k, lengths))) return true;
    return false;
  };
  while (lengths < kMostLengths && over_itself()) ++lengths;
  if (over_itself())
    return remark("folds", Severity::warning,
        "it turns so sharply that a strip " + in_mm(o.wide_mm) +
            " wide lies over itself; make it narrower, or draw it as two.",
        o.wide_mm, {}, {{"Half as wide", turn_act("wide", std::max(3.0, std::floor(0.5 * o.wide_mm)))}});
  if (lengths == 1)
    piece(name, flat.outline, o.thick_mm, 1);
  else
    for (int k = 0; k < lengths; ++k)
      piece(name + ", length " + std::to_string(k + 1), stretch(k, lengths), o.thick_mm, 1);
  std::string words = name + ": " + in_mm(flat.length_mm) + " x " + in_mm(o.wide_mm);
  if (flat.radius_mm)
    words += ", an arc of radius " + in_mm(*flat.radius_mm) + " over " + fixed(degrees(std::abs(flat.turn_rad)), 0) +
        " degrees";
  if (lengths > 1) words += ", in " + std::to_string(lengths) + " lengths";
  fact(words + ".");
  if (flat.radius_mm && *flat.radius_mm > o.wide_mm)
    fact("A left-over ring from " + in_mm(*flat.radius_mm - 0.5 * o.wide_mm) + " to " +
        in_mm(*flat.radius_mm + 0.5 * o.wide_mm) + " of radius serves as it is.");
  const double most = bears_strain(stuff, true);
  const Strip* strip = std::get_if<Strip>(&detail.shape);
  const bool folded = strip != nullptr && strip->lies == Strip::Lies::over_edge;
  if (!o.straight && flat.straight_strain > rules.notice_strain && flat.straight_strain <= most)
    fact("Cut straight instead, its edges stretch " + fixed(100.0 * flat.straight_strain, 1) + " %: it bears that.");
  if (o.straight && flat.straight_strain > most)
    remark("pucker", Severity::warning,
        "cut straight it puckers: its edges stretch " + fixed(100.0 * flat.straight_strain, 1) + " %, it bears " +
            fixed(100.0 * most, 1) + " %. " +
            (folded ? "Make it narrower, or lay a strip beside the edge." : "Cut it curved, or make it narrower."),
        flat.straight_strain, most,
        {folded ? Remedy{"Narrower",
                      turn_act("wide", std::max(3.0, std::floor(o.wide_mm * 0.4 * most / flat.straight_strain)))}
                : Remedy{"Cut it curved", turn_act("straight", 0)}});
  if (std::abs(flat.lie_strain) > most)
    remark("dome", Severity::warning,
        "it lies on a dome: however it is cut, its edges give by " + fixed(100.0 * std::abs(flat.lie_strain), 1) +
            " %, and it bears " + fixed(100.0 * most, 1) + " %. Make it narrower.",
        std::abs(flat.lie_strain), most,
        {{"Narrower",
            turn_act("wide", std::max(4.0, std::floor(o.wide_mm * std::sqrt(most / std::abs(flat.lie_strain)))))}});
}

}  // namespace awl
