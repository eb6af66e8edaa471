#include "core/seam/seam_mesh.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr int kMidline = 0;

int highest_of_midline(const Draft& half) {
  int best = half.seams.begin()->first.first;
  for (const auto& [edge, label] : half.seams)
    for (const int v : {edge.first, edge.second})
      if (half.mesh.vertices[v].y() > half.mesh.vertices[best].y()) best = v;
  return best;
}

void add_seam(Draft& half, const std::string& name, const std::function<double(const Vec3&)>& f) {
  const Split split = split_draft(half, f);
  const int label = half.seam(name);
  for (const auto& edge : split.curve) half.seams.try_emplace(edge, label);
}

/// Staggered gores lie half a step round, so that none falls on the middle line.
void cut_gores(Draft& half, int gores, bool stagger) {
  const Vec3 pole = half.mesh.vertices[highest_of_midline(half)];
  for (int k = 1; k < gores + (stagger ? 1 : 0); ++k) {
    const double a = kPi * (stagger ? k - 0.5 : k) / gores, s = std::sin(a), c = std::cos(a);
    add_seam(half, "gore " + std::to_string(k), [=](const Vec3& p) { return p.x() * c - (p.z() - pole.z()) * s; });
  }
}

/// Draft of a mirrored form, with every label's image.
SeamMesh mirrored_draft(const Draft& draft) {
  SeamMesh whole;
  Mirrored both = mirror_half(draft.mesh);
  whole.mesh = std::move(both.mesh), whole.twin_of = std::move(both.twin_of);
  for (const int v : draft.opening) whole.opening.insert(v), whole.opening.insert(whole.twin_of[v]);
  if (!draft.flat.empty()) {
    whole.flat.assign(whole.mesh.vertices.size(), Vec2::Zero());
    for (std::size_t v = 0; v < draft.flat.size(); ++v) {
      whole.flat[whole.twin_of[v]] = Vec2(-draft.flat[v].x(), draft.flat[v].y());
      whole.flat[v] = draft.flat[v];
    }
  }
  if (!draft.home.empty()) {
    whole.home.assign(whole.mesh.vertices.size(), Vec3::Zero());
    for (std::size_t v = 0; v < draft.home.size(); ++v) {
      whole.home[whole.twin_of[v]] = Vec3(-draft.home[v].x(), draft.home[v].y(), draft.home[v].z());
      whole.home[v] = draft.home[v];
    }
  }
  whole.sheets = draft.sheets;
  if (!draft.sheet_of.empty()) {
    whole.sheet_of.assign(whole.mesh.vertices.size(), 0);
    for (std::size_t v = 0; v < draft.sheet_of.size(); ++v)
      whole.sheet_of[v] = whole.sheet_of[whole.twin_of[v]] = draft.sheet_of[v];
  }
  std::vector<std::vector<std::pair<int, int>>> edges(draft.seam_names.size());
  for (const auto& [edge, label] : draft.seams) edges[label].push_back(edge);
  const auto add = [&](const std::string& name, const std::vector<std::pair<int, int>>& chain, bool image) {
    const SeamId id{static_cast<int>(whole.seam_names.size())};
    whole.seam_names.push_back(name);
    for (const auto& e : chain)
      whole.seam_of[image ? edge_of(whole.twin_of[e.first], whole.twin_of[e.second]) : e] = id;
  };
  const auto lies_in_middle = [&](const std::pair<int, int>& e) {
    return whole.twin_of[e.first] == e.first && whole.twin_of[e.second] == e.second;
  };
  for (std::size_t label = 0; label < edges.size(); ++label) {
    if (edges[label].empty()) continue;
    const bool middle = std::all_of(edges[label].begin(), edges[label].end(), lies_in_middle);
    add(draft.seam_names[label] + (middle ? "" : " left"), edges[label], false);
    if (!middle) add(draft.seam_names[label] + " right", edges[label], true);
  }
  return whole;
}

}  // namespace

void separate_chains(SeamMesh& seams) {
  // A line that ran along a free edge cuts nothing there.
  for (const auto& e : topology_of(seams.mesh).edges)
    if (e.right < 0) seams.seam_of.erase(edge_of(e.a, e.b));
  std::map<int, std::vector<std::pair<int, int>>> touching;
  for (const auto& [edge, id] : seams.seam_of)
    touching[edge.first].push_back(edge), touching[edge.second].push_back(edge);
  std::map<std::pair<int, int>, SeamId> renewed;
  std::vector<std::string> names;
  std::map<int, int> parts;
  // In an order that a mirror does not change, so that the first part of a seam on the left is the first on the right.
  std::vector<std::pair<std::pair<int, int>, std::pair<int, int>>> starts;
  for (const auto& [edge, id] : seams.seam_of) {
    const auto image = seams.twin_of.empty() ? edge : edge_of(seams.twin_of[edge.first], seams.twin_of[edge.second]);
    starts.push_back({std::min(edge, image), edge});
  }
  std::sort(starts.begin(), starts.end());
  for (const auto& [order, start] : starts) {
    const SeamId id = seams.seam_of.at(start);
    if (renewed.count(start) != 0) continue;
    const int part = ++parts[id.value];
    names.push_back(seams.seam_names[id.value] + (part > 1 ? ", part " + std::to_string(part) : ""));
    std::vector<std::pair<int, int>> todo{start};
    while (!todo.empty()) {
      const auto edge = todo.back();
      todo.pop_back();
      if (!renewed.try_emplace(edge, SeamId{static_cast<int>(names.size()) - 1}).second) continue;
      for (const int v : {edge.first, edge.second})
        for (const auto& next : touching[v])
          if (seams.seam_of.at(next) == id && renewed.count(next) == 0) todo.push_back(next);
    }
  }
  seams.seam_of = std::move(renewed);
  seams.seam_names = std::move(names);
}

const char* name_of(SeamPreset preset) {
  return preset == SeamPreset::gores ? "gores" : preset == SeamPreset::none ? "none" : "side-middle-side";
}

Result<SeamPreset> seam_preset_from(const std::string& name) {
  for (const auto preset : {SeamPreset::gores, SeamPreset::side_middle_side, SeamPreset::none})
    if (name == name_of(preset)) return preset;
  return fail(Errc::unknown_name,
      "Seams are laid as gores, side-middle-side or none but what is drawn, not as \"" + name + "\".");
}

std::vector<Dial> dials_of(SeamSpec& s) {
  Dials dials;
  dials
      .choice("preset", s.preset, {"gores", "side-middle-side", "none"}, "Seams run",
          "Gores meet at the crown; side, middle, side keeps the middle of the head whole.")
      .said({"As gores from the crown", "Side, middle, side", "Only where drawn"})
      .count("gores", s.gores_per_side, {1, 8}, "Gores a side", "More gores lie flatter but are more to glue.")
      .key("gores_per_side")
      .length("middle", s.middle_mm, {40, 150}, "Middle strip", "Width of the strip over the crown.")
      .key("middle_mm")
      .flag("belt", s.belt, "A belt seam round the head", "Takes the strain out of the bulge over the ears.")
      .length("belt-up", s.belt_up_mm, {-60, 90}, "Belt above the ear flaps",
          "Level with the middle of the ear lies flattest.")
      .key("belt_up_mm")
      .flag("stagger", s.stagger, "Between the seams below",
          "Of an outer layer: its seams lie between those of the layer under it.");
  return std::move(dials).all();
}

Result<void> check_seams(const SeamSpec& spec) {
  SeamSpec copy = spec;
  return check_dials(dials_of(copy), "seams");
}

namespace {

/// A half on the template, its middle line labelled.
Draft half_draft(const Mesh& half, const EdgeLabels& midline) {
  Draft draft;
  draft.mesh = half, draft.seams = midline, draft.seam_names = {"centre line"};
  return draft;
}

/// The middle line is no seam after all.
void leave_middle_whole(Draft& draft) {
  std::erase_if(draft.seams, [](const auto& edge) { return edge.second == kMidline; });
}

}  // namespace

Result<Draft> half_by_preset(const Mesh& half, const EdgeLabels& midline, const SeamSpec& spec) {
  if (auto good = check_seams(spec); !good) return fail(good);
  expects(!midline.empty(), "half_by_preset: the half has no midline");
  Draft cut = half_draft(half, midline);
  constexpr double kStaggerMm = 24.0;
  const double aside = spec.stagger ? kStaggerMm : 0.0;
  if (spec.preset == SeamPreset::gores) cut_gores(cut, spec.gores_per_side, spec.stagger);
  if (spec.preset == SeamPreset::side_middle_side)
    add_seam(cut, "side", [&](const Vec3& p) { return p.x() - 0.5 * spec.middle_mm - aside; });
  if (spec.belt && spec.preset != SeamPreset::none)
    add_seam(cut, "belt", [&](const Vec3& p) { return p.y() - spec.belt_up_mm - aside; });
  if (spec.preset != SeamPreset::gores || spec.stagger) leave_middle_whole(cut);
  return cut;
}

Result<SeamMesh> cut_by_preset(const Mesh& half, const EdgeLabels& midline, const SeamSpec& spec) {
  auto cut = half_by_preset(half, midline, spec);
  if (!cut) return fail(cut);
  return seams_of(*cut);
}

SeamMesh cut_head(const Mesh& half, const EdgeLabels& midline, const HeadSeams& plan) {
  expects(!midline.empty(), "cut_head: the half has no midline");
  Draft cut = half_draft(half, midline);
  cut_gores(cut, plan.gores_per_side, false);
  for (std::size_t i = 0; i < plan.belts_mm.size(); ++i)
    add_seam(cut, "belt " + std::to_string(i + 1), [y = plan.belts_mm[i]](const Vec3& p) { return p.y() - y; });
  return seams_of(cut);
}

bool is_mirrored(const SeamMesh& form) {
  constexpr double kMirrorMm = 1e-6;
  if (form.twin_of.empty()) return false;
  for (std::size_t v = 0; v < form.twin_of.size(); ++v) {
    const Vec3 &p = form.mesh.vertices[v], &q = form.mesh.vertices[form.twin_of[v]];
    if ((Vec3(-q.x(), q.y(), q.z()) - p).norm() > kMirrorMm) return false;
  }
  return true;
}

Draft draft_of(SeamMesh form) {
  Draft draft;
  draft.mirrored = false;
  draft.mesh = std::move(form.mesh), draft.seam_names = std::move(form.seam_names),
  draft.opening = std::move(form.opening);
  draft.flat = std::move(form.flat), draft.home = std::move(form.home), draft.sheets = std::move(form.sheets),
  draft.sheet_of = std::move(form.sheet_of);
  for (const auto& [edge, id] : form.seam_of) draft.seams[edge] = id.value;
  return draft;
}

SeamMesh seams_of(const Draft& draft) {
  SeamMesh seams;
  if (draft.mirrored)
    seams = mirrored_draft(draft);
  else {
    seams.mesh = draft.mesh, seams.opening = draft.opening, seams.flat = draft.flat, seams.home = draft.home,
    seams.sheets = draft.sheets, seams.sheet_of = draft.sheet_of;
    for (const std::string& name : draft.seam_names) seams.seam_names.push_back(name);
    for (const auto& [edge, label] : draft.seams) seams.seam_of[edge] = SeamId{label};
  }
  separate_chains(seams);
  return seams;
}

void cut_by_planes(Draft& cut, const PlaneSeams& spec) {
  const Box box = box_of(cut.mesh.vertices);
  const Vec3 middle = 0.5 * (box.low + box.high);
  if (spec.middle && cut.mirrored) {
    const int label = cut.seam("middle");
    for (const auto& [edge, line] : mirror_line(cut.mesh)) cut.seams[edge] = label;
  } else if (spec.middle) {
    add_seam(cut, "middle", [&](const Vec3& p) { return p.x() - middle.x(); });
  }
  if (spec.cross) add_seam(cut, "across", [&](const Vec3& p) { return p.z() - middle.z(); });
  for (int k = 1; k <= spec.belts; ++k)
    add_seam(cut, "belt " + std::to_string(k),
        [&, y = box.low.y() + box.size().y() * k / (spec.belts + 1)](const Vec3& p) { return p.y() - y; });
}

}  // namespace awl
