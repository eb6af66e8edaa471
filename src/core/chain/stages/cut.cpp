#include "core/chain/stages/cut.hpp"

#include "core/chain/shop.hpp"
#include "core/chain/ways.hpp"
#include "core/dress/dressed.hpp"

namespace awl {

Result<std::optional<WayStage::Inputs>> WayStage::inputs(const Shop&, const Build& build, const Derived& derived) {
  Inputs in{derived.form, {}};
  for (const auto& form : derived.form->parts) {
    const Part* part = build.making == Making::parts ? find_part(build, form->part) : nullptr;
    in.ways.push_back(part != nullptr ? part->way : derived.form->is_headform ? build.head_way : WaySpec{});
  }
  return in;
}

Result<MadeWay> WayStep::run(Shop& shop, const Inputs& in, const Progress& progress) {
  return make_way(*in.form, in.way, shop.materials(), progress);
}

Result<WayStage::Made> WayStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  Made made;
  std::vector<WayStep::Inputs> wanted;
  for (std::size_t i = 0; i < in.ways.size(); ++i)
    if (in.ways[i].way != Way::skin) wanted.push_back({in.form->parts[i], in.ways[i]});
  const auto done = shop.make_all<WayStep>(wanted, progress);
  auto next = done.begin();
  for (const WaySpec& spec : in.ways) {
    made.ways.emplace_back();
    if (spec.way == Way::skin) continue;
    const auto& way = *next++;
    if (way)
      made.ways.back() = *way;
    else if (way.error().code == Errc::cancelled)
      return fail(way);
    else
      made.left_out.push_back(way.error());
  }
  return made;
}

void WayStage::keep(Derived& derived, const Held<Made>& made) {
  derived.ways = made->ways;
  derived.part_errors.insert(derived.part_errors.end(), made->left_out.begin(), made->left_out.end());
}

Result<std::optional<PieceStage::Inputs>> PieceStage::inputs(const Shop&, const Build& build, const Derived& derived) {
  return Inputs{
      derived.panels, derived.form, derived.check, derived.ways, derived.fittings, derived.dressed, cut_choices(build)};
}

Result<std::vector<Piece>> PieceStage::run(Shop& shop, const Inputs& in, const Progress&) {
  std::vector<const Yield*> more;
  if (in.fittings)
    for (const Yield& y : *in.fittings) more.push_back(&y);
  if (in.dressed)
    for (const auto& one : *in.dressed) more.push_back(&one->yield);
  return pieces_of(in.choices, *in.panels, *in.form, in.check.get(), in.ways, &shop.materials(), more);
}

void PieceStage::keep(Derived& derived, const Held<Made>& made) { derived.pieces = made; }

Result<std::optional<LayoutStage::Inputs>> LayoutStage::inputs(
    const Shop& shop, const Build& build, const Derived& derived) {
  Inputs in{derived.pieces, build.foam.sheet, {}, stock_of(build.foam)};
  in.nesting.gap_mm = build.foam.gap_mm;
  in.nesting.tries = build.foam.nest_tries;
  in.nesting.turn_freely = build.foam.turn_freely;
  if (in.nesting.tries > 1) {  // a search is worth finer cells and more turns
    in.nesting.cell_mm = 1.0;
    in.nesting.turns = 32;
  }
  in.stock.others = sheets_for(*derived.pieces, shop.materials());
  return in;
}

Result<Layout> LayoutStage::run(Shop&, const Inputs& in, const Progress& progress) {
  return nest(*in.pieces, in.sheet, in.nesting, in.stock, progress);
}

void LayoutStage::keep(Derived& derived, const Held<Made>& made) { derived.layout = made; }

}  // namespace awl
