#include "core/chain/stages/meet.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/chain/shop.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

Remark told(const PartForm& upper, int lower, Severity severity, const std::string& words) {
  const std::string id = std::to_string(upper.part), with = std::to_string(lower);
  return {
      "form.meets", severity, "parts/" + id, words, {}, {}, {{"Let them be apart", "part-from " + id + " " + with}}};
}

/// A form that stays as it was and says why.
Held<PartForm> saying(const PartForm& form, Remark remark) {
  auto told = std::make_shared<PartForm>(form);
  told->remarks.push_back(std::move(remark));
  return told;
}

void take(PartForm& form, const SeamMesh& surface, const MetFact& fact) {
  constexpr double kOnFormMm = 8.0;  // a grip farther off has nothing to hold on to any more
  form.surface = surface;
  form.same_sheet = nullptr;
  const Nearest near(surface.mesh);
  std::erase_if(form.handles, [&](const Handle& h) { return std::abs(near.to(h.at).signed_mm) > kOnFormMm; });
  form.area_mm2 = area_mm2(surface.mesh);
  form.met.push_back(fact);
}

}  // namespace

std::vector<PartsMeet> meets_of(const Build& build) {
  std::vector<PartsMeet> all;
  for (const Part& part : build.parts)
    for (const Meet& meet : part.meets) {
      PartsMeet one{part.id, meet.with, meet, {}};
      const Part* other = find_part(build, meet.with);
      if (meet.how == MeetHow::skin && other != nullptr) {
        if (part.way.way != Way::skin || other->way.way != Way::skin)
          one.unlike = "one of them is not made of flat panels";
        else if (part.stuff != other->stuff)
          one.unlike = "they are cut from two kinds of sheet";
      }
      all.push_back(std::move(one));
    }
  return all;
}

Result<MeetStep::Made> MeetStep::run(Shop&, const Inputs& in, const Progress&) {
  constexpr double kMostBladeDeg = 45.0;
  const PartForm &upper = *in.upper, &lower = *in.lower;
  const MeetSide above{&upper.surface, upper.outside, upper.thickness_mm, upper.name},
      below{&lower.surface, lower.outside, lower.thickness_mm, lower.name};
  auto met = meet(above, below, in.face->surface, in.how);
  if (!met) return Made{saying(upper, told(upper, lower.part, Severity::warning, met.error().text)), nullptr};
  MetFact fact{lower.part, in.how.how, met->line_mm, met->steepest_deg, met->hole_mm2, false};
  Made made;
  if (in.how.how != MeetHow::skin) {
    auto cut = std::make_shared<PartForm>(upper);
    take(*cut, met->upper, fact);
    if (met->steepest_deg > kMostBladeDeg)
      cut->remarks.push_back(told(upper, lower.part, Severity::note,
          "Where the " + upper.name + " meets the " + lower.name + " the blade would lean " +
              fixed(met->steepest_deg, 0) + " degrees from square; a hand cuts " + fixed(kMostBladeDeg, 0) +
              ". Cut there at that, and sand the foot or fill the gap."));
    made.upper = cut;
  }
  if (met->lower) {
    auto opened = std::make_shared<PartForm>(lower);
    fact.with = upper.part, fact.lower = true;
    if (in.how.how == MeetHow::edge) {
      opened->surface.rim_tilt = met->lower->rim_tilt;
      opened->same_sheet = lower.same_sheet ? lower.same_sheet : in.lower;
      opened->met.push_back(fact);
    } else {
      take(*opened, *met->lower, fact);
    }
    if (in.how.how == MeetHow::skin) {
      opened->joined.push_back(in.upper);
      opened->joined.insert(opened->joined.end(), upper.joined.begin(), upper.joined.end());
      opened->features.insert(opened->features.end(), upper.features.begin(), upper.features.end());
      opened->drawn.insert(opened->drawn.end(), upper.drawn.begin(), upper.drawn.end());
      opened->remarks.insert(opened->remarks.end(), upper.remarks.begin(), upper.remarks.end());
    }
    made.lower = opened;
  }
  return made;
}

Result<void> meet_parts(Shop& shop, std::vector<Held<PartForm>>& parts, const std::vector<PartsMeet>& meets) {
  std::vector<Held<PartForm>> faces = parts;
  std::map<int, int> in;  // a part that is one skin with another: in which
  const auto at = [&](int id) {
    while (in.count(id) != 0) id = in.at(id);
    for (std::size_t i = 0; i < parts.size(); ++i)
      if (parts[i] && parts[i]->part == id) return i;
    return parts.size();
  };
  for (const PartsMeet& one : meets) {
    const std::size_t u = at(one.upper), l = at(one.lower);
    if (u == parts.size() || l == u) continue;
    if (l == parts.size() || !one.unlike.empty()) {
      const std::string why = l == parts.size() ? "the other could not be made" : one.unlike;
      parts[u] = saying(*parts[u],
          told(*parts[u], one.lower, Severity::warning,
              "The " + parts[u]->name + " is not cut to the part it meets: " + why + "."));
      continue;
    }
    // What only sits asks for the sheet alone, so that it is not cut anew for the rims of what it sits on.
    const bool whole = one.how.how == MeetHow::sits && parts[l]->same_sheet;
    const auto met = shop.make<MeetStep>({parts[u], whole ? parts[l]->same_sheet : parts[l], faces[l], one.how});
    if (!met) return fail(met);
    if ((*met)->lower) parts[l] = (*met)->lower;
    if ((*met)->upper) {
      parts[u] = faces[u] = (*met)->upper;
      continue;
    }
    faces[l] = parts[l];
    in[parts[u]->part] = parts[l]->part;
    parts[u] = nullptr, faces[u] = nullptr;
  }
  std::erase(parts, nullptr);
  return {};
}

}  // namespace awl
