#include "core/judge/finer_cuts.hpp"

#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr double kBluntTip = 0.1;  // a wider tip ends in a dome no strip lies flat round: workshop value

}  // namespace

std::vector<Remedy> finer_cuts(const Build& build, int id) {
  const Part* part = find_part(build, id);
  if (part == nullptr) return {};
  const std::string number = std::to_string(id);
  if (std::holds_alternative<WrapSpec>(part->shape)) {
    if (!part->seams.belt) return {{"Add a belt seam over the ears", "set-belt on " + number}};
    if (part->seams.preset != SeamPreset::gores) return {{"Cut it in four gores a side", "set-gores 4 " + number}};
    if (part->seams.gores_per_side < 8)
      return {
          {"Cut one more gore a side", "set-gores " + std::to_string(part->seams.gores_per_side + 1) + " " + number}};
  }
  if (const auto* rings = std::get_if<RingsSpec>(&part->shape); rings != nullptr && rings->pieces_round < 16)
    return {{"Cut it in more pieces round",
        "turn " + number + " pieces " + std::to_string(rings->pieces_round < 2 ? 2 : rings->pieces_round + 2)}};
  if (const auto* sweep = std::get_if<SweepSpec>(&part->shape);
      sweep != nullptr && !sweep->tip_open && sweep->tip_share > kBluntTip)
    return {{"Leave the tip open, for a plug of solid foam", "turn " + number + " open 1"},
        {"Cut it in one more strip", "turn " + number + " strips " + std::to_string(std::min(8, sweep->strips + 1))}};
  if (const auto* sweep = std::get_if<SweepSpec>(&part->shape); sweep != nullptr && sweep->strips < 8)
    return {{"Cut it in one more strip", "turn " + number + " strips " + std::to_string(sweep->strips + 1)}};
  if (const auto* import = std::get_if<ImportSpec>(&part->shape); import != nullptr && import->belts < 12)
    return {{"Add a level seam", "turn " + number + " belts " + std::to_string(import->belts + 1)}};
  return {};
}

std::vector<Remedy> opening_cuts(const Build& build, const std::string& where) {
  if (where.rfind("parts/", 0) != 0) return {};
  const int id = whole_in(where.substr(6, where.find('/', 6) - 6)).value_or(0);
  const Part* part = find_part(build, id);
  if (part != nullptr && std::holds_alternative<WrapSpec>(part->shape) && part->seams.preset == SeamPreset::none)
    return {{"Cut it in two gores a side", "set-gores 2 " + std::to_string(id)}};
  return finer_cuts(build, id);
}

std::vector<Remedy> splits(const Build& build, int id) {
  const Part* part = find_part(build, id);
  if (part == nullptr) return {};
  const std::string number = std::to_string(id);
  if (const auto* rings = std::get_if<RingsSpec>(&part->shape);
      rings != nullptr && !rings->brim.halves && rings->brim.any())
    return {{"Cut the brim in halves", "turn " + number + " brim.halves 1"}};
  if (const auto* sweep = std::get_if<SweepSpec>(&part->shape); sweep != nullptr && sweep->lengths < 6)
    return {{"Cut it in one more length", "turn " + number + " lengths " + std::to_string(sweep->lengths + 1)}};
  return finer_cuts(build, id);
}

}  // namespace awl
