#include "core/steps/care.hpp"

#include <algorithm>
#include <array>

#include "core/base/numbers.hpp"
#include "core/derived/stuffs.hpp"
#include "core/fit/worn.hpp"

namespace awl {
namespace {

constexpr double kPaddingMm = 40.0;
/// Boxes as they are sold, longest side first.
constexpr std::array<std::array<double, 3>, 7> kBoxesMm{{{300, 200, 150}, {400, 300, 200}, {400, 300, 300},
    {500, 400, 300}, {600, 400, 400}, {600, 500, 500}, {800, 600, 500}}};

std::array<double, 3> sorted(const Vec3& v) {
  std::array<double, 3> s{v.x(), v.y(), v.z()};
  std::sort(s.begin(), s.end(), std::greater<>());
  return s;
}

void pack(CareSheet& care) {
  const auto need = sorted(care.size_mm + Vec3::Constant(2.0 * kPaddingMm));
  for (const auto& box : kBoxesMm)
    if (box[0] >= need[0] && box[1] >= need[1] && box[2] >= need[2]) {
      care.box_mm = {box[0], box[1], box[2]};
      return;
    }
  care.stock_box = false;
  care.box_mm = {need[0], need[1], need[2]};
}

std::string size_text(const Vec3& v) {
  return fixed(v.x(), 0) + " x " + fixed(v.y(), 0) + " x " + fixed(v.z(), 0) + " mm";
}

}  // namespace

CareSheet care_sheet(const Build& build, const Derived& d, const Materials& materials) {
  CareSheet care;
  Box box = box_of(d.form->faces.outer.vertices);
  for (const Yield* y : yields_of(d))
    for (const YieldSolid& s : y->solids)
      for (const Vec3& p : s.mesh.vertices) {
        box.low = box.low.cwiseMin(p);
        box.high = box.high.cwiseMax(p);
      }
  care.size_mm = box.high - box.low;
  if (d.worn) care.mass_g = d.worn->balance.mass_g;
  pack(care);
  const auto holds = [&](HoldBy by) {
    return std::any_of(build.fit.holds.begin(), build.fit.holds.end(), [by](const Hold& h) { return h.by == by; });
  };
  bool soft_when_hot = false, cloth = false, clear = false;
  if (const auto work = finish_work(build, d, materials))
    for (const StuffWork& w : work->stuffs) {
      soft_when_hot = soft_when_hot || w.stuff.kind == SheetKind::thermoplastic;
      cloth = cloth || w.stuff.kind == SheetKind::fabric;
      clear = clear || w.stuff.kind == SheetKind::clear || w.stuff.light > 0.0;
    }
  const bool battery = std::any_of(
      build.fit.rooms.begin(), build.fit.rooms.end(), [](const Room& r) { return r.kind == RoomKind::battery; });
  std::vector<std::string> on{"Sit down. Hold it by its rims, not by what stands out."};
  for (const Slit& s : build.fit.slits)
    if (const Part* part = find_part(build, s.part))
      on.push_back("Open the " + part->name + " before it goes on, and close it once it sits.");
  on.push_back("Off at once when dizzy, hot or short of breath; a rest and a drink every quarter of an hour.");
  on.push_back(
      "It takes sight and hearing: stairs, traffic and crowds with somebody by you. It protects from nothing.");
  care.sections.push_back({"Putting it on and off", on});
  care.sections.push_back({"After wearing",
      {"Open, with air from below, until the inside is dry: linings and padding mould.",
          "Wipe the inside with a damp cloth and mild soap; nothing with solvent, no machine.",
          cloth ? "Cloth: brush it dry; stains with a damp cloth only." : "Dust: a soft brush."}});
  std::vector<std::string> keep{soft_when_hot || build.coat.glue == "hot-glue"
          ? "Never in a hot car or by a heater: what holds it, or what it is made of, softens."
          : "Not in a hot car or by a heater: foam warps and glue softens.",
      "On a stand or stuffed with paper, nothing on top of it."};
  if (clear) keep.push_back("What is looked through: water and a soft cloth; window cleaner fogs it.");
  if (holds(HoldBy::magnets))
    keep.push_back(
        "Magnets: away from cards, phones and children; never near a pacemaker or other implant. They pinch.");
  if (battery) keep.push_back("Battery out before it is packed; never charged inside or unwatched.");
  care.sections.push_back({"Keeping it", keep});
  std::vector<std::string> spare{"A little of each paint in a closed jar, and an offcut of the foam."};
  if (holds(HoldBy::elastic)) spare.push_back("Elastic and snaps: it tires within a year or two.");
  if (holds(HoldBy::magnets)) spare.push_back("Two magnets of the same size, marked which way they face.");
  care.sections.push_back({"Spare parts", spare});
  std::vector<std::string> packing{"It measures " + size_text(care.size_mm) +
          (care.mass_g > 0.0 ? " and weighs about " + fixed(care.mass_g, 0) + " g." : "."),
      (care.stock_box ? "Box: " : "No box that is sold is large enough; have one made: ") + size_text(care.box_mm) +
          ", with 40 mm of padding on every side.",
      "Soft paper against the paint, the tips free, nothing pressed flat."};
  care.sections.push_back({"Packing", packing});
  return care;
}

}  // namespace awl
