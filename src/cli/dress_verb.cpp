#include "cli/mesh_input.hpp"
#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/base/numbers.hpp"
#include "core/chain/chain.hpp"
#include "core/chain/to_cut.hpp"
#include "core/io/build_file.hpp"
#include "core/io/dress_case.hpp"
#include "core/piece/piece_mark.hpp"
#include "core/piece/piece_place.hpp"
#include "core/seam/draw_cut.hpp"

namespace awl {
namespace {

/// What is told of: details as they came out, and the pieces that carry their marks.
struct Told {
  std::vector<const Dressed*> dressed;
  std::vector<Piece> pieces;
  PanelSet panels;
  std::vector<int> part_of;
};

Json flat_json(const std::vector<Vec2>& line) {
  Json all = Json::array();
  for (const Vec2& p : line) all.push_back({rounded(p.x(), 3), rounded(p.y(), 3)});
  return all;
}

Json pieces_json(const Dressed& d) {
  Json all = Json::array();
  for (const Piece& p : d.yield.pieces) {
    Json piece{{"name", p.name}, {"copies", p.copies}, {"thickness_mm", rounded(p.thickness_mm, 2)},
        {"outline_mm", flat_json(p.outline)}};
    for (const auto& [name, strip] : d.strips)
      if (name == p.name) {
        piece["length_mm"] = rounded(strip.length_mm, 3);
        piece["sides_mm"] = {rounded(strip.left_mm, 3), rounded(strip.right_mm, 3)};
        piece["radius_mm"] = strip.radius_mm ? Json(rounded(*strip.radius_mm, 3)) : Json();
        piece["angle_rad"] = rounded(std::abs(strip.turn_rad), 5);
        piece["straight_strain"] = rounded(strip.straight_strain, 5);
        piece["lie_strain"] = rounded(strip.lie_strain, 5);
      }
    all.push_back(std::move(piece));
  }
  return all;
}

Json detail_json(const Dressed& d, const Told& told, const PiecePlaces& places) {
  Json json{{"id", d.detail}, {"kind", d.kind}, {"name", d.name}, {"count", d.count},
      {"pitch_mm", rounded(d.pitch_mm, 4)}, {"dropped", d.dropped}, {"with_spare", d.with_spare},
      {"length_mm", rounded(d.length_mm, 3)}, {"open", rounded(d.open_share, 5)}, {"pieces", pieces_json(d)},
      {"facts", d.yield.facts}};
  if (!d.lines.empty())
    json["line"] = {{"length_mm", rounded(d.lines.front().length_mm, 3)}, {"closed", d.lines.front().closed},
        {"turn_rad", rounded(d.lines.front().turn_rad, 5)}, {"kg_max", rounded(d.lines.front().kg_max, 6)}};
  json["rows"] = Json::array();
  for (const DressRow& r : d.rows) json["rows"].push_back({{"length_mm", rounded(r.length_mm, 3)}, {"count", r.count}});
  json["places"] = Json::array();
  for (const DressPlace& p : d.places) {
    const OnPiece on = places.on_piece(p.at, d.yield.part);
    json["places"].push_back({{"at", {rounded(p.at.x(), 4), rounded(p.at.y(), 4), rounded(p.at.z(), 4)}},
        {"along_mm", rounded(p.along_mm, 3)}, {"size_mm", rounded(p.size_mm, 3)},
        {"piece", on.there() ? Json(told.pieces[on.piece].name) : Json()},
        {"flat", on.there() ? Json{rounded(on.at.x(), 4), rounded(on.at.y(), 4)} : Json()}});
  }
  return json;
}

Json told_json(const Told& told) {
  const PiecePlaces places(told.pieces, told.panels, told.part_of);
  Json details = Json::array(), marks = Json::array(), shopping = Json::array(), steps = Json::array();
  std::vector<Remark> remarks;
  for (const Dressed* d : told.dressed) {
    details.push_back(detail_json(*d, told, places));
    for (const Want& w : d->yield.wants)
      shopping.push_back({{"id", w.id}, {"what", w.what}, {"need", w.need}, {"unit", w.unit}, {"why", w.why}});
    for (const BenchStep& s : d->yield.steps)
      steps.push_back({{"title", s.title}, {"lines", s.lines}, {"caution", s.caution}});
    remarks.insert(remarks.end(), d->yield.remarks.begin(), d->yield.remarks.end());
  }
  for (const Piece& p : told.pieces)
    for (const PieceTrace& t : p.traces)
      marks.push_back({{"piece", p.name}, {"kind", name_of(t.kind)}, {"label", t.label}, {"side", name_of(t.side)},
          {"closed", t.closed}, {"bore_mm", rounded(t.bore_mm, 2)}, {"line", flat_json(t.line)}});
  sort_remarks(remarks);
  return {{"details", details}, {"marks", marks}, {"shopping", shopping}, {"steps", steps},
      {"remarks", remarks_json(remarks)}};
}

void print_told(const Told& told, std::ostream& out) {
  for (const Dressed* d : told.dressed) {
    out << d->name << "\n";
    for (const std::string& fact : d->yield.facts) out << "  " << fact << "\n";
    for (const Remark& r : d->yield.remarks) out << "  " << name_of(r.severity) << ": " << r.sentence << "\n";
  }
}

void tell(const VerbOptions& o, const Told& told, const Stopwatch& watch, std::ostream& out) {
  if (!o.json) return print_told(told, out);
  Json json = told_json(told);
  json["ms"] = rounded(watch.ms(), 1);
  out << line_of(json);
}

void dress_build(const VerbOptions& o, std::ostream& out) {
  const auto shop = chain();
  const Build build = need(open_build(o.input));
  const Stopwatch watch;
  const Derived d = shop->derive(build);
  if (d.error) throw Failed{*d.error};
  Told told;
  if (d.dressed)
    for (const auto& one : *d.dressed) told.dressed.push_back(one.get());
  told.pieces = *d.pieces, told.panels = *d.panels;
  for (const auto& part : d.form->parts) told.part_of.push_back(part->part);
  tell(o, told, watch, out);
}

void dress_mesh(const VerbOptions& o, std::ostream& out) {
  const Stopwatch watch;
  const DressRules rules = need(load_dress_rules(data_folder() / "rules"));
  const Materials materials = need(load_materials(data_folder() / "materials"));
  std::vector<std::string> said;
  const SeamMesh seamed = need(draw_cuts(sound_mesh(o, said), read_cuts(o.cuts)));
  const DressSite site = DressSite::of_mesh(seamed);
  const DressSpec spec = need(read_dress_case(o.details, site));
  const Foam foam = need(materials.foam("eva-firm"));
  std::vector<Dressed> all;
  all.reserve(spec.details.size());
  for (const Detail& detail : spec.details) {
    const std::vector<FormLine>* beside_lines = nullptr;
    for (const Dressed& other : all)
      if (detail.track.from == TrackFrom::beside && other.detail == detail.track.number) beside_lines = &other.lines;
    DressStuffs stuffs{detail.stuff.empty() ? foam : need(materials.foam(detail.stuff)), foam, {}};
    all.push_back(dressed(detail, site, stuffs, rules, beside_lines));
  }
  Told told;
  told.part_of = {site.part};
  PanelOptions options;
  options.thickness_mm = 0.0, options.form_is_outside = true;
  // A mesh that does not lie flat as it is cut has details all the same, only no pieces to mark.
  if (auto panels = make_panels(seamed, options)) {
    told.panels = std::move(*panels);
    told.pieces = make_pieces(told.panels);
    std::vector<PieceMark> marks;
    for (const Dressed& d : all) marks.insert(marks.end(), d.yield.marks.begin(), d.yield.marks.end());
    put_marks(told.pieces, told.panels, told.part_of, marks);
  }
  for (const Dressed& d : all) told.dressed.push_back(&d);
  tell(o, told, watch, out);
}

}  // namespace

Result<void> verbDress(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] { o.details.empty() ? dress_build(o, out) : dress_mesh(o, out); });
}

}  // namespace awl
