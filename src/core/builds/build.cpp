#include "core/builds/build.hpp"

#include <algorithm>

#include "core/base/text.hpp"

namespace awl {

std::vector<Dial> dials_of(FoamSpec& f) {
  constexpr DialRange kSide{50, 5000};
  Dials dials;
  dials.word("kind", f.foam, "Kind", "What the pieces are cut from. Values are workshop values; try a scrap.")
      .key("foam")
      .length("thickness", f.thickness_mm, {0.2, 120}, "Foam thickness",
          "Thicker foam holds its shape; the pattern grows with it.")
      .key("thickness_mm")
      .flag("heated", f.heated, "Stretch with heat", "Pieces are stretched warm before they are glued.")
      .length("width", f.sheet.width_mm, kSide, "Sheet width", "Of the sheet as you buy it.")
      .key("sheet_width_mm")
      .length("height", f.sheet.height_mm, kSide, "Sheet height", "Of the sheet as you buy it.")
      .key("sheet_height_mm")
      .length("gap", f.gap_mm, {0, 50}, "Between pieces", "Room for the knife.")
      .key("gap_mm")
      .flag("guides", f.guides, "Guide lines on the pieces",
          "Draws the wearer's middle and levels every 50 mm on each piece, and marks on level seams where front, back "
          "and sides are.")
      .later()
      .flag("slotted", f.slotted, "Slots where a piece bends too tight",
          "Where a piece is bent one way tighter than its sheet bears, slots on the inside let it: drawn with their "
          "depth, width and spacing.")
      .later()
      .flag("notched", f.notched, "Notches instead of inner marks",
          "For templates of card: what meets across a seam is cut into both edges, where a pencil going round finds "
          "it.")
      .later()
      .count("tries", f.nest_tries, {1, 2000}, "Lay it out",
          "A search tries other orders of the pieces and keeps what takes least of the sheet. It goes on while you "
          "work.")
      .key("nest_tries")
      .flag("turn-freely", f.turn_freely, "Pieces may be turned", "Off: the sheet has a grain or a texture.")
      .key("turn_freely");
  return std::move(dials).all();
}

Result<Foam> foam_of(const FoamSpec& spec, const Materials& materials) {
  if (spec.own_kind && spec.own_kind->id == spec.foam) return *spec.own_kind;
  return materials.foam(spec.foam);
}

const char* name_of(Making making) { return making == Making::parts ? "parts" : "headform"; }

Result<Making> making_from(const std::string& name) {
  for (const Making m : {Making::parts, Making::headform})
    if (name == name_of(m)) return m;
  return fail(Errc::unknown_name, "A build makes its parts or a headform, not " + in_quotes(name) + ".");
}

const char* name_of(LookFrom look) {
  constexpr const char* kNames[kLooks] = {"front", "left", "right", "back", "top"};
  return kNames[static_cast<int>(look)];
}

Result<LookFrom> look_from(const std::string& name) {
  for (int i = 0; i < kLooks; ++i)
    if (name == name_of(static_cast<LookFrom>(i))) return static_cast<LookFrom>(i);
  return fail(
      Errc::unknown_name, "A form is looked at from the front, left, right, back or top, not from \"" + name + "\".");
}

const Part* find_part(const Build& build, int id) { return find_part(const_cast<Build&>(build), id); }

Part* find_part(Build& build, int id) {
  for (Part& p : build.parts)
    if (p.id == id) return &p;
  return nullptr;
}

Part& first_wrap(Build& build) {
  for (Part& p : build.parts)
    if (std::holds_alternative<WrapSpec>(p.shape)) return p;
  throw ContractViolation("first_wrap: the build has no wrap");
}

Result<int> add_part(Build& build, Part part, int on) {
  constexpr std::size_t kMost = 24;
  if (build.parts.size() >= kMost)
    return fail(Errc::out_of_range, "A build holds up to " + std::to_string(kMost) + " parts.", "parts");
  part.id = 1;
  for (const Part& p : build.parts) part.id = std::max(part.id, p.id + 1);
  part.on = find_part(build, on) != nullptr ? on : 0;
  const std::string base = part.name;
  const auto taken = [&](const std::string& name) {
    return std::any_of(build.parts.begin(), build.parts.end(), [&](const Part& p) { return p.name == name; });
  };
  for (int n = 2; taken(part.name); ++n) part.name = base + " " + std::to_string(n);
  build.parts.push_back(part);
  return part.id;
}

const Seat* aside_seat(const Part& part) {
  if (const auto* sweep = std::get_if<SweepSpec>(&part.shape)) return sweep->pair ? &sweep->seat : nullptr;
  if (const auto* plate = std::get_if<PlateSpec>(&part.shape))
    return plate->on_fold || plate->upright ? nullptr : &plate->seat;
  if (const auto* body = std::get_if<BodySpec>(&part.shape))
    return body->sides == BodySides::middle ? nullptr : &body->seat;
  return nullptr;
}

Result<int> add_alteration(Build& build, Alteration alteration) {
  if (find_part(build, alteration.part) == nullptr)
    return fail(Errc::unknown_name, "There is no part number " + std::to_string(alteration.part) + ".", "alterations");
  for (const Alteration& a : build.alterations) alteration.id = std::max(alteration.id, a.id + 1);
  if (auto good = check_alteration(alteration); !good) return fail(good);
  build.alterations.push_back(alteration);
  return alteration.id;
}

Result<void> remove_part(Build& build, int id) {
  const Part* gone = find_part(build, id);
  if (gone == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  const int below = gone->on;
  for (Part& p : build.parts)
    if (p.on == id) p = sat_on(std::move(p), below);
  for (Part& p : build.parts) std::erase_if(p.meets, [id](const Meet& m) { return m.with == id; });
  build.parts.erase(build.parts.begin() + (gone - build.parts.data()));
  std::erase_if(build.alterations, [id](const Alteration& a) { return a.part == id; });
  std::erase_if(build.corrections, [id](const Correction& c) { return c.part == id; });
  std::erase_if(build.dress.details, [id](const Detail& d) { return d.part == id; });
  std::erase_if(build.fit.slits, [id](const Slit& s) { return s.part == id; });
  std::erase_if(build.fit.holds, [id](const Hold& h) { return h.part == id; });
  std::erase_if(build.fit.cutouts, [id](const Cutout& c) { return c.part == id; });
  return {};
}

Result<Build> turn_dial(const Build& build, int id, const std::string& dial, double value) {
  Build next = build;
  Part* part = find_part(next, id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(id) + ".", "parts");
  auto turned = with_dial(*part, dial, value);
  if (!turned) return fail(turned);
  *part = std::move(*turned);
  return next;
}

Build without_held(Build build, const std::string& piece, int copy) {
  std::erase_if(build.foam.held, [&](const HeldCopy& h) { return h.piece == piece && h.copy == copy; });
  return build;
}

Build with_held(Build build, const HeldCopy& copy) {
  build = without_held(std::move(build), copy.piece, copy.copy);
  build.foam.held.push_back(copy);
  return build;
}

}  // namespace awl
