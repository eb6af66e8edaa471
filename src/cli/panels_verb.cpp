#include <set>

#include "cli/mesh_input.hpp"
#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mending/mend.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/nearest.hpp"
#include "core/geom/orient.hpp"
#include "core/io/drawing_file.hpp"
#include "core/seam/darts.hpp"
#include "core/seam/draw_cut.hpp"
#include "core/seam/parting/parted_form.hpp"
#include "core/seam/suggest.hpp"

namespace awl {
namespace {

Json panel_json(const PanelSet& set, const Panel& p) {
  Json outline = Json::array();
  std::set<int> darts;
  for (const BorderEdge& e : p.border)
    if (e.seam.valid() && set.form.seam_names[e.seam.value].rfind("dart", 0) == 0) darts.insert(e.seam.value);
  for (const BorderEdge& e : p.border) outline.push_back({rounded(p.flat[e.a].x(), 4), rounded(p.flat[e.a].y(), 4)});
  return {{"id", p.name}, {"triangles", p.solid.triangles.size()}, {"area_mm2", rounded(area_mm2(p.solid), 2)},
      {"strain",
          {{"max", rounded(p.strain.max, 6)}, {"p99", rounded(p.strain.p99, 6)}, {"p95", rounded(p.strain.p95, 6)},
              {"mean", rounded(p.strain.mean, 6)}}},
      {"flipped", p.flipped}, {"overlaps", p.overlaps}, {"darts", darts.size()}, {"outline_mm", outline}};
}

void write_panels_svg(const std::string& path, const PanelSet& set) {
  Drawing drawing;
  double x = 0.0;
  for (const Panel& p : set.panels) {
    Mark outline;
    outline.closed = true;
    Vec2 low = Vec2::Constant(1e300), high = -low;
    for (const BorderEdge& e : p.border)
      outline.line.push_back(p.flat[e.a]), low = low.cwiseMin(outline.line.back()),
                                           high = high.cwiseMax(outline.line.back());
    for (Vec2& q : outline.line) q += Vec2(x, 0.0) - low;
    Mark label;
    label.layer = Layer::text, label.text = p.name, label.height_mm = 6.0, label.at = Vec2(x, 0.0) + 0.5 * (high - low);
    drawing.marks.push_back(outline);
    drawing.marks.push_back(label);
    x += (high - low).x() + 10.0;
  }
  need(write_file_safely(path, drawing_svg(drawing, "panels")));
}

/// A mesh as a draft to draw on: its x >= 0 half where its right side is the image of its left one.
Draft half_if_mirrored(const Mesh& mesh) {
  constexpr double kImageMm = 0.5;
  Draft draft;
  draft.mirrored = false, draft.mesh = mesh;
  const Nearest skin(mesh);
  for (const Vec3& p : mesh.vertices)
    if (std::abs(skin.to(Vec3(-p.x(), p.y(), p.z())).signed_mm) > kImageMm) return draft;
  Draft half = draft;
  half.mirrored = true;
  trim(half, [](const Vec3& p) { return p.x(); });
  for (Vec3& p : half.mesh.vertices)
    if (std::abs(p.x()) < 1e-6) p.x() = 0.0;
  return mirror_line(half.mesh).empty() ? draft : half;
}

/// Of a gentle mirrored form with an opening, the way within the tolerance that has the least seam; without one, the
/// one that comes nearest.
std::optional<SeamMesh> suggested_as_is(const Mesh& mesh, const VerbOptions& o) {
  constexpr std::size_t kGentleTriangles = 8000;
  const Draft draft = half_if_mirrored(mesh);
  if (!draft.mirrored || border_loops(mesh).empty() || mesh.triangles.size() > kGentleTriangles) return std::nullopt;
  std::optional<Suggestion> best;
  for (const bool keep_middle : {true, false}) {
    if (!keep_middle && !draft.mirrored) continue;
    SuggestOptions options;
    options.tolerance = o.tolerance, options.thickness_mm = o.thickness_mm, options.keep_middle = keep_middle;
    options.parts = false;
    const auto way = suggest_panels(draft, options);
    if (!way) continue;
    const Suggestion& one = *way;
    const auto rank = [](const Suggestion& s) { return std::pair(s.meets ? 0.0 : s.worst, s.seam_mm); };
    if (!best || rank(one) < rank(*best)) best = one;
  }
  if (!best || !best->meets) return std::nullopt;
  Draft cut = draft;
  need(draw_on(cut, best->seams));
  return seams_of(cut);
}

/// Any other is brought down to what foam can show, and parted by measured strain.
SeamMesh suggested(const Mesh& mesh, const VerbOptions& o, std::vector<std::string>& said) {
  if (auto gentle = suggested_as_is(mesh, o)) return std::move(*gentle);
  AnyMeshOptions options;
  options.tolerance = o.tolerance;
  options.thickness_mm = o.thickness_mm;
  options.slits = o.slits;
  AnyMesh made = need(part_any_mesh(mesh, options));
  said.insert(said.end(), made.said.begin(), made.said.end());
  return std::move(made.form);
}

/// Darts in every panel beyond the tolerance.
SeamMesh darted(const SeamMesh& seamed, const PanelSet& set, double tolerance) {
  Cutter cutter(draft_of(seamed));
  int number = 0;
  for (const Panel& p : set.panels) {
    if (p.strain.p99 <= tolerance) continue;
    DartOptions options;
    options.tolerance = tolerance;
    for (const CutLine& line : need(propose_darts(p.solid, options)).lines)
      need(cutter.draw(line, "dart " + std::to_string(++number), {6.0, false}));
  }
  return seams_of(std::move(cutter).take());
}

}  // namespace

Result<void> verbPanels(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const Stopwatch watch;
    if (!(o.thickness_mm >= 0.0 && o.thickness_mm <= 100.0))
      throw Failed{{Errc::out_of_range, "A thickness of " + fixed(o.thickness_mm, 1) + " mm is outside 0 to 100 mm.",
          "--thickness"}};
    if (!(o.tolerance > 0.0 && o.tolerance <= 1.0))
      throw Failed{{Errc::out_of_range, "A tolerance of " + fixed(o.tolerance, 3) + " is outside 0 to 1 (0.04 is 4 %).",
          "--tolerance"}};
    std::vector<std::string> said;
    const Mesh mesh = sound_mesh(o, said);
    SeamMesh seamed = o.suggest ? suggested(mesh, o, said) : need(draw_cuts(mesh, read_cuts(o.cuts)));
    PanelOptions options;
    options.thickness_mm = o.thickness_mm;
    if (o.suggest) options.least_mm2 = 0.0;  // small panels are told, not given away
    PanelSet set = need(make_panels(seamed, options));
    if (o.darts) set = need(make_panels(darted(set.form, set, o.tolerance), options));
    const double ms = watch.ms();
    if (!o.svg.empty()) write_panels_svg(o.svg, set);
    Json panels = Json::array(), seams = Json::array();
    for (const Panel& p : set.panels) panels.push_back(panel_json(set, p));
    for (const Seam& s : set.seams)
      if (!s.letter.empty())
        seams.push_back({{"id", s.letter}, {"length_3d_mm", rounded(s.length_3d_mm, 4)},
            {"side_mm", {rounded(s.side_mm[0], 4), rounded(s.side_mm[1], 4)}}});
    if (o.json) {
      out << line_of(Json{{"said", said}, {"panels", panels}, {"seams", seams},
          {"seam_total_mm", rounded(set.seam_total_mm(), 3)}, {"tolerance", o.tolerance}, {"ms", rounded(ms, 2)}});
      return;
    }
    for (const std::string& sentence : said) out << sentence << "\n";
    for (const Panel& p : set.panels)
      out << "panel " << p.name << ": " << p.solid.triangles.size() << " triangles, strain "
          << fixed(100 * p.strain.p99, 2) << " % (worst " << fixed(100 * p.strain.max, 2) << " %)"
          << (p.strain.p99 > o.tolerance ? ", beyond the tolerance" : "") << (p.overlaps ? ", lies over itself" : "")
          << "\n";
  });
}

}  // namespace awl
