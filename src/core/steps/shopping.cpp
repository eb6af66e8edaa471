#include "core/steps/shopping.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/piece/fold.hpp"
#include "core/stuff/bears.hpp"

namespace awl {
namespace {

constexpr double kGlueSheetMm = 5.0;  // the sheet a glue's ml per metre are of
constexpr double kBladeM = 4.0;       // of 5 mm foam, until a snapped blade drags
constexpr double kTapeSpareShare = 1.15;

double length_mm(const std::vector<Vec2>& line, bool closed) {
  double sum = 0.0;
  for (std::size_t i = 0; i + (closed ? 0 : 1) < line.size(); ++i)
    sum += (line[(i + 1) % line.size()] - line[i]).norm();
  return sum;
}

class Lister {
 public:
  explicit Lister(const std::map<std::string, double>& stock) : stock_(stock) {}

  /// `sold_by`: the smallest amount that can be bought; price for one of that. No price known: negative.
  void add(const std::string& id, const std::string& what, double need, const std::string& unit, double sold_by,
      double price, const std::string& why) {
    if (need <= 0.0) return;
    Purchase p{id, what, need, unit, 0.0, 0.0, 0.0, price >= 0.0, why};
    if (const auto s = stock_.find(id); s != stock_.end()) p.have = s->second;
    const double missing = std::max(0.0, need - p.have);
    const double packs = std::ceil(missing / sold_by - 1e-9);
    p.buy = packs * sold_by;
    p.price = price >= 0.0 ? packs * price : 0.0;
    list.price += p.price;
    list.all_priced = list.all_priced && (p.priced || p.buy == 0.0);
    list.lines.push_back(std::move(p));
  }

  Shopping list;

 private:
  const std::map<std::string, double>& stock_;
};

std::string trimmed(double v) {
  std::string text = fixed(v, 1);
  return text.ends_with(".0") ? text.substr(0, text.size() - 2) : text;
}

/// New sheets of one kind: the build's own (no stuff), or another.
void add_sheets(Lister& lister, const Layout& layout, const Foam& foam, const std::string& stuff) {
  std::map<double, int> fresh, from_offcuts;
  std::map<double, SheetSize> size_of;
  for (const Blank& b : layout.blanks) {
    if (b.stuff != stuff) continue;
    ++(b.offcut != 0 ? from_offcuts : fresh)[b.thickness_mm];
    if (b.offcut != 0) continue;
    Vec2 high = Vec2::Zero();
    for (const Vec2& p : b.outline) high = high.cwiseMax(p);
    size_of[b.thickness_mm] = {high.x(), high.y()};
  }
  for (const auto& [mm, count] : fresh) {
    double price = -1.0;
    const SheetSize& sheet = size_of.at(mm);
    for (const SoldSheet& s : foam.sold) {
      const bool same = std::abs(s.thickness_mm - mm) < 0.05;
      const bool size = (s.width_mm == sheet.width_mm && s.height_mm == sheet.height_mm) ||
          (s.width_mm == sheet.height_mm && s.height_mm == sheet.width_mm);
      if (same && size)
        price = s.price;
      else if (same && price < 0.0)
        price = s.price * sheet.width_mm * sheet.height_mm /
            (s.width_mm * s.height_mm);  // by area, where that size has no price of its own
    }
    const std::string used =
        from_offcuts.count(mm) ? "; " + std::to_string(from_offcuts[mm]) + " from offcuts beside" : "";
    lister.add("sheet/" + foam.id + "/" + trimmed(mm),
        foam.name + ", " + trimmed(mm) + " mm, " + trimmed(sheet.width_mm) + " x " + trimmed(sheet.height_mm) + " mm",
        count, "sheets", 1.0, price, "as laid out" + used);
  }
}

/// What all yields want; the same thing for several of them once.
std::vector<Want> wants_of(const Derived& d) {
  std::vector<Want> all;
  for (const Yield* y : yields_of(d))
    for (const Want& w : y->wants) {
      const auto same = std::find_if(all.begin(), all.end(), [&](const Want& o) { return o.id == w.id; });
      if (same == all.end()) {
        all.push_back(w);
        continue;
      }
      same->need += w.need;
      same->why += "; " + w.why;
    }
  return all;
}

}  // namespace

Result<Shopping> shopping(
    const Build& build, const Derived& d, const Materials& materials, const std::map<std::string, double>& stock) {
  if (!d.layout || !d.pieces || !d.panels)
    return fail(
        Errc::empty_input, "There are no sheets laid out yet; the shopping list follows them.", "foam/shopping");
  const auto foam = foam_of(build.foam, materials);
  if (!foam) return fail(foam);
  const auto asked = materials.glue(build.coat.glue);
  if (!asked) return fail(asked);
  // What the build's own foam does not bear is not bought for it.
  const auto served = glue_for(materials, *asked, *foam, *foam);
  if (!served) return fail(served);
  const Glue* glue = &served->product;
  Lister lister(stock);
  add_sheets(lister, *d.layout, *foam, {});
  std::set<std::string> others;
  for (const Blank& b : d.layout->blanks)
    if (!b.stuff.empty()) others.insert(b.stuff);
  for (const std::string& stuff : others)
    if (const auto kind = materials.foam(stuff)) add_sheets(lister, *d.layout, *kind, stuff);
  double tape_mm = 0.0, blades = 0.0, glued_mm = 0.0;
  for (const Piece& p : *d.pieces) {
    double cut = length_mm(p.knife_line(), true);
    for (const auto& hole : p.holes) cut += length_mm(hole, true);
    lister.list.cut_mm += cut * p.copies;
    blades += cut * p.copies * p.thickness_mm / kGlueSheetMm / (1000.0 * kBladeM);
    for (const PieceEdge& e : p.edges) {
      if (!e.seam.valid()) continue;
      const double face = e.cut == EdgeCut::flap || e.cut == EdgeCut::overlap
          ? std::max(e.margin_mm, 12.0)
          : p.thickness_mm / std::max(0.3, std::cos(radians(is_tilted(e.cut) ? e.tilt_deg : 0.0)));
      if (e.cut == EdgeCut::taped)
        tape_mm += 0.5 * e.length_mm * p.copies;
      else if (e.cut != EdgeCut::laced && e.cut != EdgeCut::trench)
        lister.list.joint_mm2 += e.length_mm * face * p.copies, glued_mm += 0.5 * e.length_mm * p.copies;
    }
  }
  // Grooves within pieces are glued along both walls.
  for (const Piece& p : *d.pieces)
    for (const Seam& s : d.panels->seams) {
      if (std::find(p.folds.begin(), p.folds.end(), s.id) == p.folds.end()) continue;
      if (const auto groove = fold_groove(p.thickness_mm, degrees(s.mean_turn_rad)); groove.needed())
        lister.list.joint_mm2 += 2.0 * groove.wall_mm() * s.length_3d_mm, glued_mm += s.length_3d_mm;
    }
  double skin_seams_mm = 0.0;
  for (const Seam& s : d.panels->seams)
    if (d.is_skin(d.panels->panels[s.panels[0].value].part)) skin_seams_mm += s.length_3d_mm;
  for (const Yield* y : yields_of(d)) lister.list.joint_mm2 += y->glue_mm2;
  const double ml = glue->ml_per_m * lister.list.joint_mm2 / (2.0 * kGlueSheetMm * 1000.0);
  lister.add("glue/" + glue->id, glue->name, std::ceil(ml), "ml", 1.0, -1.0,
      trimmed(glued_mm / 1000.0) + " m of seam, both faces: " + trimmed(lister.list.joint_mm2 / 100.0) + " cm\u00b2");
  lister.add("tape", "Masking tape, for the dry fit" + std::string(tape_mm > 0.0 ? " and taped seams" : ""),
      std::ceil(kTapeSpareShare * (skin_seams_mm + tape_mm) / 1000.0), "m", 1.0, -1.0, "every seam once");
  lister.add("blade", "Blade lengths", std::ceil(blades), "pieces", 1.0, -1.0,
      trimmed(lister.list.cut_mm / 1000.0) + " m to cut, tilted edges slower");
  for (const Want& w : wants_of(d)) lister.add(w.id, w.what, w.need, w.unit, 1.0, -1.0, w.why);
  if (d.plan)
    for (const Need& n : d.plan->needs)
      if (n.name != glue->name) {
        const auto other = std::find_if(
            materials.glues.begin(), materials.glues.end(), [&](const Glue& g) { return g.name == n.name; });
        if (other != materials.glues.end()) {
          lister.add("glue/" + other->id, n.name, std::ceil(n.ml), "ml", 1.0, -1.0, "as the finishing plan says");
          continue;
        }
        const Coating* coat = materials.coating(n.id);
        lister.add("coat/" + n.name, n.name, std::ceil(n.ml), "ml", coat != nullptr ? coat->can_ml : 1.0,
            coat != nullptr && coat->price > 0.0 ? coat->price : -1.0, "as the finishing plan says");
      }
  return std::move(lister.list);
}

std::string shopping_csv(const Shopping& list) {
  std::string out = "what,need,unit,have,buy,price,why\n";
  for (const Purchase& p : list.lines)
    out += csv_field(p.what) + "," + trimmed(p.need) + "," + p.unit + "," + trimmed(p.have) + "," + trimmed(p.buy) +
        "," + (p.priced ? fixed(p.price, 2) : "") + "," + csv_field(p.why) + "\n";
  return out;
}

}  // namespace awl
