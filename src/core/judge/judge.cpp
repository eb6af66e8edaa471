#include "core/judge/judge.hpp"

#include <array>

#include "core/base/numbers.hpp"
#include "core/derived/colour_map.hpp"
#include "core/judge/finer_cuts.hpp"

namespace awl {
namespace {

/// Ways on where a piece is larger than the sheet: a larger one that is sold, or another cut through its part.
std::vector<Remedy> larger_sheets(const Build& build, const Materials& materials, const std::string& piece) {
  std::vector<Remedy> ways;
  const auto foam = foam_of(build.foam, materials);
  const SoldSheet* larger = nullptr;
  for (const SoldSheet& s : foam ? foam->sold : std::vector<SoldSheet>{}) {
    const double area = s.width_mm * s.height_mm;
    if (std::abs(s.thickness_mm - build.foam.thickness_mm) < 0.05 &&
        area > build.foam.sheet.width_mm * build.foam.sheet.height_mm &&
        (larger == nullptr || area < larger->width_mm * larger->height_mm))
      larger = &s;
  }
  if (larger != nullptr)
    ways.push_back({"Take the sheet of " + fixed(larger->width_mm, 0) + " x " + fixed(larger->height_mm, 0) + " mm",
        "set-sheet " + fixed(larger->width_mm, 0) + " " + fixed(larger->height_mm, 0)});
  for (const Part& p : build.parts)
    if (piece == p.name || piece.starts_with(p.name + ",") || build.parts.size() == 1) {
      const auto cuts = finer_cuts(build, p.id);
      ways.insert(ways.end(), cuts.begin(), cuts.end());
      break;
    }
  return ways;
}

/// Why the chain stopped, and ways on.
void judge_stop(const Case& c, Remarks& remarks) {
  const auto& error = c.derived.error;
  if (!error || error->code == Errc::cancelled) return;
  auto made = remarks.stop("chain.stopped", error->where, error->text);
  if (error->code == Errc::not_a_disk) made.offer(opening_cuts(c.build, error->where));
  if (error->where.starts_with("pieces/")) made.offer(larger_sheets(c.build, c.materials, error->where.substr(7)));
  if (error->where == "foam/layout" && !c.build.foam.held.empty()) made.offer("Lay everything out again", "drop-held");
}

/// In the order of the work: of two remarks as serious the earlier judge's comes first.
constexpr std::array<Judge, 9> kJudges{
    judge_head, judge_form, judge_seams, judge_foam, judge_seam_sides, judge_fit, judge_dress, judge_coat, judge_stop};

}  // namespace

void judge_coat(const Case& c, Remarks& remarks) {
  for (const Yield* y : yields_of(c.derived)) remarks.add(y->remarks);
  if (c.derived.plan) remarks.add(c.derived.plan->remarks);
  if (!c.derived.colours) return;
  for (const Error& lost : c.derived.colours->lost_lines) remarks.warn("coat.lost-line", lost.where, lost.text);
  for (const Error& lost : c.derived.colours->lost)
    remarks.warn("coat.lost-area", lost.where, lost.text)
        .offer("Take the area away", "drop-area " + lost.where.substr(lost.where.rfind('/') + 1));
}

std::vector<Remark> judge(const Build& build, const Derived& derived, const Materials& materials) {
  Remarks remarks;
  for (const Judge one : kJudges) one({build, derived, materials}, remarks);
  return std::move(remarks).sorted();
}

}  // namespace awl
