#include "core/derived/stuffs.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/derived/colour_map.hpp"
#include "core/dress/dressed.hpp"

namespace awl {
namespace {

// Workshop values: what a detail takes at the bench, and up to what thickness foam moves as it is worn.
constexpr double kDetailMin = 5.0, kStepMin = 4.0, kPieceMin = 1.0;
constexpr double kFlexingMm = 6.0;
constexpr double kWholePieceMm = 500.0, kLeastShare = 0.2;  // round its outline, and of the time a whole one takes
constexpr const char* kTemplates = "card";                  // what paper nets are cut from

/// Whether a kind is only a help on the way: card for templates is neither glued into the part nor painted.
bool is_worn(const Part* part) { return part == nullptr || part->way.way != Way::net; }

class Collector {
 public:
  Collector(const Build& build, const Derived& d, const Materials& materials)
      : build_(build), d_(d), materials_(materials) {}

  Result<FinishWork> run() {
    work_.heated = build_.foam.heated;
    for (std::size_t i = 0; i < d_.form->parts.size(); ++i)
      if (auto good = add_span(static_cast<int>(i)); !good) return fail(good);
    if (auto good = count_pieces(); !good) return fail(good);
    for (StuffWork& work : work_.stuffs)
      work.flexes = work.worn && work.stuff.flex >= 2 && build_.foam.thickness_mm <= kFlexingMm;
    add_details();
    if (auto good = add_areas(); !good) return fail(good);
    return std::move(work_);
  }

 private:
  const Part* part_of(int span) const {
    return build_.making == Making::parts ? find_part(build_, d_.form->parts[span]->part) : nullptr;
  }

  StuffWork& of(const Foam& stuff) {
    const auto at = std::find_if(
        work_.stuffs.begin(), work_.stuffs.end(), [&](const StuffWork& w) { return w.stuff.id == stuff.id; });
    if (at != work_.stuffs.end()) return *at;
    work_.stuffs.push_back({stuff, {}, {}, false, false, false});
    return work_.stuffs.back();
  }

  /// The length a part stands on another along, as far as it is known.
  double foot_m(const std::string& guest) const {
    double mm = 0.0;
    if (d_.dressed)
      for (const auto& one : *d_.dressed)
        for (const auto& [name, length] : one->feet_mm)
          if (name == guest) mm += length;
    return mm / 1000.0;
  }

  Result<void> add_span(int span) {
    const Part* part = part_of(span);
    const auto stuff = stuff_of_span(build_, d_, span, materials_);
    if (!stuff) return fail(stuff);
    if (!is_worn(part)) return {};
    StuffWork& work = of(*stuff);
    work.worn = true;
    work.parts.push_back(d_.form->parts[span]->name);
    work.size.area_m2 += d_.form->parts[span]->area_mm2 * 1e-6;
    double seam_m = 0.0;
    for (const Seam& s : d_.panels->seams)
      if (s.panels[0].valid() && d_.panels->panels[s.panels[0].value].part == span) seam_m += s.length_3d_mm / 1000.0;
    work.size.seam_m += seam_m;
    const std::string& name = d_.form->parts[span]->name;
    work_.joints.push_back({*stuff, *stuff, seam_m, name, name, {}});
    const Part* below = part != nullptr && part->on != 0 ? find_part(build_, part->on) : nullptr;
    if (below == nullptr || !is_worn(below)) return {};
    const auto under = stuff_of(build_, d_, *below, materials_);
    if (!under) return fail(under);
    work_.joints.push_back({*stuff, *under, foot_m(name), name + " on " + below->name, name, below->name});
    return {};
  }

  /// A small piece is traced and cut sooner than a large one.
  static double share_of(const Piece& p) {
    double round = 0.0;
    for (std::size_t i = 0; i < p.outline.size(); ++i)
      round += (p.outline[(i + 1) % p.outline.size()] - p.outline[i]).norm();
    return std::clamp(round / kWholePieceMm, kLeastShare, 1.0);
  }

  Result<void> count_pieces() {
    std::map<std::string, double> shares;
    for (const Piece& p : *d_.pieces) {
      const auto stuff = stuff_of(build_, p, materials_);
      if (!stuff) return fail(stuff);
      StuffWork& work = of(*stuff);
      shares[stuff->id] += share_of(p) * p.copies;
      work.bent = work.bent || (!p.heat_note.empty() && p.heat_note != "stays flat");
    }
    for (StuffWork& work : work_.stuffs) work.size.pieces = static_cast<int>(std::ceil(shares[work.stuff.id] - 1e-9));
    return {};
  }

  /// When what it is made of goes on: what is looked through and hangs last, teeth and lamps after paint.
  static DetailTurn turn_of(const Yield& y) {
    DetailTurn turn = DetailTurn::before_seal;
    bool early = !y.steps.empty();
    for (const BenchStep& step : y.steps) early = early && !step.at_end;
    if (early && y.solids.empty()) return DetailTurn::before_glue;
    // What only cuts into the foam, or opens it, is done before anything closes its pores.
    if (y.pieces.empty() && y.wants.empty()) return DetailTurn::before_seal;
    for (const YieldSolid& s : y.solids) {
      if (s.matter == Matter::horn || s.matter == Matter::lamp || s.matter == Matter::metal)
        turn = std::max(turn, DetailTurn::after_paint);
      if (s.matter == Matter::clear || s.matter == Matter::hair || s.matter == Matter::cord ||
          s.matter == Matter::cloth)
        turn = DetailTurn::last;
    }
    return turn;
  }

  /// What slits, holds and details take beside their pieces, which are cut with the others.
  void add_details() {
    int number = 0;
    const auto add = [&](const Yield& y, const std::string& id) {
      if (y.steps.empty()) return;
      DetailWork work;
      work.id = id;
      work.name = y.name;
      const Part* part = find_part(build_, y.part);
      work.part = part != nullptr && y.name.find(part->name) == std::string::npos ? part->name : std::string();
      work.turn = turn_of(y);
      std::vector<std::string> cautions;
      std::size_t lines = 0;
      for (const BenchStep& step : y.steps) {
        cautions.push_back(step.caution);
        lines += step.lines.size();
        work.glued = work.glued || step.glued;
        if (!step.stuff.empty()) work.stuff = step.stuff;
      }
      work.caution = joined_cautions(cautions);
      int pieces = 0;
      for (const Piece& p : y.pieces) pieces += p.copies;
      work.hands_min = kDetailMin + kStepMin * static_cast<double>(y.steps.size() + lines) + kPieceMin * pieces;
      work_.details.push_back(std::move(work));
    };
    if (d_.fittings)
      for (const Yield& y : *d_.fittings) add(y, "fitting-" + std::to_string(++number));
    if (d_.dressed)
      for (const auto& one : *d_.dressed)
        if (one->detail != 0) add(one->yield, "detail-" + std::to_string(one->detail));
  }

  Result<void> add_areas() {
    if (!d_.colours) return {};
    const ColourMap& map = *d_.colours;
    work_.border_mm = map.border_mm;
    work_.reach_mm = map.reach_mm;
    work_.bare_mm = map.bare_mm;
    for (std::size_t i = 0; i < map.areas.size(); ++i) {
      const auto area = std::find_if(build_.coat.areas.begin(), build_.coat.areas.end(),
          [&](const ColourArea& a) { return a.id == map.areas[i]; });
      const Part* part = find_part(build_, map.part[i]);
      if (area == build_.coat.areas.end() || part == nullptr) continue;
      const auto below = stuff_of(build_, d_, *part, materials_);
      if (!below) return fail(below);
      work_.areas.push_back({area->id, area->name, map.area_mm2[i] * 1e-6, *below});
    }
    return {};
  }

  const Build& build_;
  const Derived& d_;
  const Materials& materials_;
  FinishWork work_;
};

}  // namespace

namespace {

/// What a way is made of, where that is another kind than its sheet.
std::optional<Result<Foam>> stuff_of(const WaySpec& way, const Materials& materials) {
  switch (way.way) {
    case Way::slabs:
    case Way::carve:
      return materials.foam(way.block);
    case Way::net:
      return materials.foam(kTemplates);
    case Way::drawn:
      return materials.foam(way.sheet);
    case Way::skin:
    case Way::cast:
      break;
  }
  return std::nullopt;
}

}  // namespace

Result<Foam> stuff_of(const Build& build, const Derived& d, const Part& part, const Materials& materials) {
  const bool made = std::any_of(d.ways.begin(), d.ways.end(), [&](const auto& w) { return w && w->part == part.id; });
  if (made)
    if (const auto own = stuff_of(part.way, materials)) return *own;
  if (!part.stuff.empty()) return materials.foam(part.stuff);
  return foam_of(build.foam, materials);
}

Result<Foam> stuff_of_span(const Build& build, const Derived& d, int span, const Materials& materials) {
  const bool parts = d.form && build.making == Making::parts && span < static_cast<int>(d.form->parts.size());
  const Part* part = parts ? find_part(build, d.form->parts[span]->part) : nullptr;
  if (part == nullptr && d.form && d.form->is_headform && !d.ways.empty() && d.ways.front())
    if (const auto own = stuff_of(build.head_way, materials)) return *own;
  return part != nullptr ? stuff_of(build, d, *part, materials) : foam_of(build.foam, materials);
}

Result<Foam> stuff_of(const Build& build, const Piece& piece, const Materials& materials) {
  return piece.stuff.empty() ? foam_of(build.foam, materials) : materials.foam(piece.stuff);
}

Result<FinishWork> finish_work(const Build& build, const Derived& derived, const Materials& materials) {
  return Collector(build, derived, materials).run();
}

}  // namespace awl
