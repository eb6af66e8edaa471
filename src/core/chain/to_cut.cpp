#include "core/chain/to_cut.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/chain/forms/cover.hpp"
#include "core/piece/fold.hpp"
#include "core/piece/piece_mark.hpp"
#include "core/stuff/bears.hpp"

namespace awl {
namespace {

bool ends_with(const std::string& whole, const std::string& end) { return whole == end || whole.ends_with(", " + end); }

/// The name a seam carries in the joined set, by its part.
std::string joined_seam_name(const Form& form, int part, const std::string& seam) {
  const PartForm* of = form.parts.size() > 1 ? form.of(part) : nullptr;
  return of != nullptr ? of->name + ", " + seam : seam;
}

/// What was cut on the foam, printed on the pieces it touched, so that nobody cuts it off again.
void note_on_foam(
    std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of, const Alteration& a) {
  for (Piece& piece : pieces) {
    if (!piece.panel.valid()) continue;
    const Panel& panel = panels.panels[piece.panel.value];
    if (panel.part >= static_cast<int>(part_of.size()) || part_of[panel.part] != a.part) continue;
    const bool named = !a.panel.empty() && ends_with(panel.name, a.panel);
    const bool at_seam = a.panel.empty() &&
        std::any_of(piece.edges.begin(), piece.edges.end(),
            [&](const PieceEdge& e) { return e.seam.valid() && ends_with(panels.seams[e.seam.value].name, a.seam); });
    if (named || at_seam)
      piece.notes.push_back(fixed(std::max({std::abs(a.first_mm), std::abs(a.middle_mm), std::abs(a.last_mm)}), 1) +
          " mm was cut on the foam: in this line");
  }
}

/// Where a plane of the wearer's passes a flat panel, as a line drawn on its piece.
void add_guide(Piece& piece, const Panel& panel, int axis, double at_mm, TraceKind kind, const std::string& label) {
  constexpr double kShortestMm = 12.0;
  Mesh flat{{}, panel.solid.triangles};
  std::vector<double> values;
  for (const Vec2& p : panel.flat) flat.vertices.emplace_back(p.x(), p.y(), 0.0);
  for (const Vec3& p : panel.solid.vertices) values.push_back(p[axis] - at_mm);
  for (const auto& line : zero_lines(flat, values)) {
    double length = 0.0;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) length += (line[i + 1] - line[i]).norm();
    if (length < kShortestMm) continue;
    PieceTrace trace;
    for (const Vec3& p : line) trace.line.push_back(p.head<2>());
    trace.kind = kind, trace.label = label;
    piece.traces.push_back(std::move(trace));
  }
}

/// The wearer's middle, and levels by their height over the ear flaps.
void add_guides(Piece& piece, const PanelSet& panels) {
  constexpr double kEveryMm = 50.0, kHair = 1e-3;  // off the mesh's own edges
  if (!piece.panel.valid()) return;
  const Panel& panel = panels.panels[piece.panel.value];
  if (panel.given_flat) return;
  const Box box = box_of(panel.solid.vertices);
  if (box.low.x() < -1.0 && box.high.x() > 1.0) add_guide(piece, panel, 0, kHair, TraceKind::centre, "middle");
  for (double h = kEveryMm * std::ceil(box.low.y() / kEveryMm); h < box.high.y(); h += kEveryMm)
    add_guide(piece, panel, 1, h + kHair, TraceKind::level, "level " + fixed(h, 0));
}

void other_ways(
    std::vector<Piece>& pieces, const PanelSet& panels, const HeldWays& ways, const std::vector<const Yield*>& more) {
  const auto made = [&](int span) { return span < static_cast<int>(ways.size()) ? ways[span].get() : nullptr; };
  std::erase_if(
      pieces, [&](const Piece& p) { return p.panel.valid() && made(panels.panels[p.panel.value].part) != nullptr; });
  for (const auto& way : ways)
    if (way) pieces.insert(pieces.end(), way->pieces.begin(), way->pieces.end());
  for (const Yield* y : more) pieces.insert(pieces.end(), y->pieces.begin(), y->pieces.end());
  for (std::size_t i = 0; i < pieces.size(); ++i)
    pieces[i].id = PieceId{static_cast<int>(i)}, pieces[i].number = static_cast<int>(i) + 1;
}

const Part* part_in(const CutChoices& choices, int id) {
  const auto at = std::find_if(choices.parts.begin(), choices.parts.end(), [&](const Part& p) { return p.id == id; });
  return at == choices.parts.end() ? nullptr : &*at;
}

/// The maker's margins, those usual for a part's own kind, and what a cover is wrapped round.
Margins margins_of(const CutChoices& choices, const Part& part, const Materials* materials) {
  Margins margins = choices.margins;
  if (const auto kind =
          materials != nullptr && !part.stuff.empty() ? materials->foam(part.stuff) : Result<Foam>(fail(Error{})))
    margins.seam_mm = kind->seam_margin_mm, margins.rim_mm = kind->rim_margin_mm,
    margins.hole_mm = kind->hole_margin_mm;
  if (const auto* cover = std::get_if<CoverSpec>(&part.shape)) {
    const Part* below = part_in(choices, part.on);
    margins.rim_mm =
        wrap_margin_mm(*cover, below != nullptr && below->thickness_mm > 0.0 ? below->thickness_mm : choices.foam_mm);
  }
  return margins;
}

/// Slots on every piece whose sheet does not bear its bend otherwise.
void slot_pieces(
    std::vector<Piece>& pieces, const CutChoices& choices, const PanelSet& panels, const Materials& materials) {
  for (Piece& piece : pieces) {
    if (!piece.panel.valid() || panels.panels[piece.panel.value].given_flat) continue;
    const auto foam = materials.foam(piece.stuff.empty() ? choices.foam : piece.stuff);
    if (!foam) continue;
    const bool warm = choices.heated && heat_on(*foam).allowed;
    draw_slots(piece, panels.panels[piece.panel.value], warm ? foam->bend_heated : foam->bend_cold);
  }
}

}  // namespace

CutChoices cut_choices(const Build& build) {
  CutChoices choices;
  choices.parts = build.parts, choices.cuts = build.foam.cuts, choices.margins = build.foam.margins;
  choices.foam_mm = build.foam.thickness_mm;
  for (const Alteration& a : build.alterations)
    if (a.on_foam) choices.on_foam.push_back(a);
  choices.guides = build.foam.guides;
  choices.notched = build.foam.notched, choices.slotted = build.foam.slotted, choices.foam = build.foam.foam,
  choices.heated = build.foam.heated;
  return choices;
}

NestStock stock_of(const FoamSpec& foam) {
  NestStock stock;
  for (const Offcut& o : foam.offcuts)
    if (o.foam == foam.foam) stock.offcuts.push_back(o);
  stock.held = foam.held;
  return stock;
}

std::vector<Piece> pieces_of(const CutChoices& choices, const PanelSet& panels, const Form& form,
    const CheckPlan* check, const HeldWays& ways, const Materials* materials, const std::vector<const Yield*>& more) {
  TickRule ticks;
  ticks.quarters = choices.guides;
  auto all = make_pieces(panels, ticks);
  if (choices.guides)
    for (Piece& piece : all) add_guides(piece, panels);
  std::vector<int> part_of;
  for (const auto& part : form.parts) part_of.push_back(part->part);
  std::vector<SeamCut> cuts = choices.cuts;
  for (SeamCut& c : cuts) c.seam = joined_seam_name(form, c.part, c.seam);
  std::map<int, Margins> own;
  for (const int id : part_of)
    if (const Part* part = part_in(choices, id)) own[id] = margins_of(choices, *part, materials);
  set_edges(all, panels, part_of, cuts, choices.margins, own);
  for (Piece& piece : all)
    if (const Part* part =
            piece.panel.valid() ? part_in(choices, part_of[panels.panels[piece.panel.value].part]) : nullptr)
      piece.stuff = part->stuff;
  for (const Alteration& a : choices.on_foam) note_on_foam(all, panels, part_of, a);
  std::vector<PieceMark> marks;
  for (const Yield* y : more) marks.insert(marks.end(), y->marks.begin(), y->marks.end());
  put_marks(all, panels, part_of, marks);
  if (form.plates && check != nullptr)
    for (const BuiltMark& mark : check->marks) add_cross(all, panels, mark.at, mark.name);
  if (choices.slotted && materials != nullptr) slot_pieces(all, choices, panels, *materials);
  fold_pieces(all, panels);
  for (Piece& piece : all) {
    if (piece.also.empty()) continue;
    const auto mine = own.find(part_of[panels.panels[piece.panel.value].part]);
    set_knife_line(piece, mine != own.end() ? mine->second : choices.margins);
  }
  if (choices.notched)
    for (Piece& piece : all) cut_notches(piece);
  other_ways(all, panels, ways, more);
  if (!form.plates) return all;
  const auto holes = [&] {
    return form.plates->pipe.empty() ? std::vector<std::vector<Vec2>>{}
                                     : std::vector<std::vector<Vec2>>{form.plates->pipe};
  };
  const int count = static_cast<int>(all.size());
  all.push_back(plate_piece("neck plate, inside", count + 1, form.plates->neck, holes(), choices.foam_mm));
  all.push_back(plate_piece("base, under it", count + 2, form.plates->base, holes(), choices.foam_mm));
  return all;
}

}  // namespace awl
