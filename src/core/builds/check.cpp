#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/builds/build.hpp"

namespace awl {
namespace {

constexpr double kLeastPartMm = 0.3, kMostPartMm = 40.0;
constexpr double kMostOutlineMm = 5000.0;
constexpr std::size_t kMostParts = 24, kMostLines = 200, kMostDrawnPoints = 500, kMostAlterations = 500,
                      kMostList = 2000, kMostVersionsHeld = 40;
constexpr std::size_t kMostNameBytes = 200, kMostNote = 20'000;
constexpr int kMostId = 1'000'000;

/// One number of a build against what it may be.
struct Limit {
  const char* what;
  double value, least, most;
  const char* where;
  int decimals = 1;
  const char* unit = " mm";
};

Result<void> within(const std::string& of, const std::string& at, const std::vector<Limit>& limits) {
  for (const Limit& l : limits)
    if (!(l.value >= l.least && l.value <= l.most))
      return fail(Errc::out_of_range,
          of + l.what + " of " + fixed(l.value, l.decimals) + l.unit + " is outside " +
              fixed(l.least, l.least == std::floor(l.least) ? 0 : 1) + " to " + fixed(l.most, 0) + l.unit + ".",
          at + l.where);
  return {};
}

Result<void> not_more(const char* what, std::size_t count, std::size_t most, const std::string& where) {
  if (count <= most) return {};
  return fail(Errc::too_large,
      "A build holds up to " + std::to_string(most) + " " + what + ", not " + std::to_string(count) + ".", where);
}

Result<void> check_text(const char* what, const std::string& text, std::size_t most, const std::string& where) {
  if (text.size() > most)
    return fail(Errc::too_large,
        std::string(what) + " has " + std::to_string(text.size()) + " letters; " + std::to_string(most) +
            " are the most.",
        where);
  return check_utf8(text, what);
}

Result<void> first_of(std::initializer_list<Result<void>> checks) {
  for (const auto& good : checks)
    if (!good) return good;
  return {};
}

/// Ids that are numbers of their own. `what`: "parts".
template <class T>
Result<void> own_ids(const std::vector<T>& all, const char* what) {
  std::set<int> seen;
  for (const T& one : all)
    if (one.id < 1 || one.id > kMostId || !seen.insert(one.id).second)
      return fail(Errc::out_of_range,
          "The number " + std::to_string(one.id) + " among the " + what +
              " of this build is taken or none; each has its own from 1 on.",
          what);
  return {};
}

Result<void> check_outline(const std::vector<CurvePoint>& outline, const std::string& at) {
  if (auto good = not_more("corners of an outline", outline.size(), kMostDrawnPoints, at); !good) return good;
  for (const CurvePoint& p : outline)
    if (!p.at.allFinite() || p.at.norm() > kMostOutlineMm)
      return fail(Errc::out_of_range,
          "A corner of the outline lies " + fixed(p.at.norm(), 0) + " mm away; " + fixed(kMostOutlineMm, 0) +
              " mm is the farthest.",
          at);
  return {};
}

Result<void> check_plate(const PlateSpec& plate, const std::string& at) {
  for (const PlateLayer& layer : plate.layers) {
    if (!(std::abs(layer.bevel_deg) <= 80.0))
      return fail(Errc::out_of_range, "A bevel of " + fixed(layer.bevel_deg, 0) + " degrees is outside -80 to 80.", at);
    if (auto good = check_outline(layer.outline, at); !good) return good;
  }
  return not_more("layers of a plate", plate.layers.size(), 64, at);
}

Result<void> check_one_part(const Build& build, std::size_t i) {
  const Part& part = build.parts[i];
  const std::string at = "parts/" + std::to_string(part.id);
  if (auto good = first_of({check_text("The name of a part", part.name, kMostNameBytes, at),
          not_more("lines on a part", part.drawn.size(), kMostLines, at)});
      !good)
    return good;
  bool known = part.on == 0;
  for (std::size_t k = 0; k < i; ++k) known = known || build.parts[k].id == part.on;
  if (!known)
    return fail(Errc::out_of_range,
        "The part " + in_quotes(part.name) + " must sit on the head or on a part made before it.", at + "/on");
  if (auto good = not_more("parts it meets", part.meets.size(), kMostParts, at); !good) return good;
  for (std::size_t m = 0; m < part.meets.size(); ++m) {
    const Meet& meet = part.meets[m];
    const auto same = [&](const Meet& other) { return other.with == meet.with; };
    if (std::none_of(build.parts.begin(), build.parts.begin() + static_cast<long>(i),
            [&](const Part& other) { return other.id == meet.with; }))
      return fail(Errc::out_of_range,
          "The part " + in_quotes(part.name) + " is cut to part number " + std::to_string(meet.with) +
              ", which is none made before it.",
          at + "/meets");
    if (std::any_of(part.meets.begin(), part.meets.begin() + static_cast<long>(m), same))
      return fail(Errc::out_of_range,
          "The part " + in_quotes(part.name) + " is cut to part number " + std::to_string(meet.with) +
              " twice; once is the most.",
          at + "/meets");
    if (auto good = check_meet(meet); !good)
      return fail(good.error().code, "The " + excerpt(part.name) + ": " + good.error().text, at + "/meets");
  }
  if (part.thickness_mm != 0.0)
    if (auto good = within("The " + excerpt(part.name) + ": a thickness", at,
            {{"", part.thickness_mm, kLeastPartMm, kMostPartMm, "/thickness"}});
        !good)
      return good;
  if (auto good = check_way(part.way); !good)
    return fail(
        good.error().code, "The " + excerpt(part.name) + ": " + good.error().text, at + "/" + good.error().where);
  if (const auto* plate = std::get_if<PlateSpec>(&part.shape))
    if (auto good = check_plate(*plate, at); !good) return good;
  if (const auto* body = std::get_if<BodySpec>(&part.shape))
    if (auto good = check_outline(body->outline, at); !good) return good;
  return check_part(part);
}

Result<void> check_head_way(const WaySpec& way) {
  const auto good = check_way(way);
  if (!good) return fail(good.error().code, good.error().text, "headform/" + good.error().where);
  return {};
}

Result<void> check_parts(const Build& build) {
  if (auto good = first_of({not_more("parts", build.parts.size(), kMostParts, "parts"), own_ids(build.parts, "parts")});
      !good)
    return good;
  for (std::size_t i = 0; i < build.parts.size(); ++i)
    if (auto good = check_one_part(build, i); !good) return good;
  return {};
}

Result<void> check_alterations(const Build& build) {
  if (auto good = first_of({not_more("alterations", build.alterations.size(), kMostAlterations, "alterations"),
          own_ids(build.alterations, "alterations")});
      !good)
    return good;
  for (const Alteration& a : build.alterations)
    if (auto good =
            first_of({check_alteration(a), check_text("The note of an alteration", a.note, kMostNote, "alterations")});
        !good)
      return good;
  return {};
}

/// What a panel's border may be moved by: far beyond what correcting asks for.
Result<void> check_corrections(const Build& build) {
  constexpr double kMostMoveMm = 60.0;
  constexpr std::size_t kMostPanels = 400;
  if (auto good = not_more("parts", build.corrections.size(), kMostParts, "corrections"); !good) return good;
  std::set<int> parts;
  for (const Correction& c : build.corrections) {
    const std::string where = "corrections/" + std::to_string(c.part);
    if (!parts.insert(c.part).second)
      return fail(Errc::out_of_range,
          "Outlines of part number " + std::to_string(c.part) + " are corrected twice; once is the most.", where);
    if (auto good = not_more("pieces", c.panels.size(), kMostPanels, where); !good) return good;
    for (const Correction::OfPanel& panel : c.panels)
      for (const Vec2& move : panel.moves)
        if (!(move.norm() <= kMostMoveMm))
          return fail(Errc::out_of_range,
              "An outline of " + in_quotes(panel.panel) + " is moved by more than " + fixed(kMostMoveMm, 0) + " mm.",
              where);
  }
  return {};
}

Result<void> check_foam_numbers(const FoamSpec& f) {
  FoamSpec copy = f;
  if (auto good = check_dials(dials_of(copy), "foam"); !good) return good;
  if (auto good = check_dials(dials_of(copy.margins), "foam/margins"); !good) return good;
  for (const SeamCut& cut : f.cuts)
    if (auto good = within("The ", "foam/cuts/", {{"margin at a seam", cut.margin_mm, 0.0, 60.0, "margin"}}); !good)
      return good;
  for (const HeldCopy& held : f.held)
    if (auto good = within("A piece laid by hand: ", "foam/held/",
            {{"a place", held.at.x(), -1e4, 1e4, "x", 0}, {"a place", held.at.y(), -1e4, 1e4, "y", 0},
                {"an angle", held.angle_rad, -100.0, 100.0, "angle", 1, " radians"},
                {"a number of a copy", static_cast<double>(held.copy), 0.0, 1.0, "copy", 0, ""},
                {"a number of a sheet", static_cast<double>(held.blank), 0.0, 1000.0, "blank", 0, ""}});
        !good)
      return good;
  return first_of({not_more("seams cut otherwise", f.cuts.size(), kMostList, "foam/cuts"),
      not_more("offcuts", f.offcuts.size(), kMostList, "foam/offcuts"),
      not_more("pieces laid by hand", f.held.size(), kMostList, "foam/held")});
}

Result<void> check_records(const Build& b) {
  if (auto good = first_of({check_text("The build's name", b.name, kMostNameBytes, "name"),
          check_text("The wearer's name", b.wearer, kMostNameBytes, "wearer"),
          check_text("The notes", b.notes, kMostNote, "notes"),
          not_more("rules of order", b.order.size(), kMostList, "order"),
          not_more("pieces in an order", b.sequence.size(), kMostList, "order"),
          not_more("versions", b.versions.size(), kMostVersionsHeld, "versions"), own_ids(b.versions, "versions"),
          not_more("readings", b.built.size(), kMostList, "check")});
      !good)
    return good;
  std::set<LookFrom> looks;
  for (const Reference& r : b.references) {
    if (!looks.insert(r.look).second)
      return fail(Errc::out_of_range,
          "There are two pictures from the " + std::string(name_of(r.look)) + "; one from each side can be.",
          "references");
    if (!(r.mm_per_pixel > 1e-4 && r.mm_per_pixel < 1e4) || !r.origin_px.allFinite())
      return fail(Errc::out_of_range,
          "The picture from the " + std::string(name_of(r.look)) + " has no size that can be.", "references");
  }
  for (const auto& [id, mm] : b.built)
    if (!(mm > 0.0 && mm < kMostOutlineMm))
      return fail(Errc::out_of_range,
          "The reading " + in_quotes(id) + " of " + fixed(mm, 1) + " mm is outside 0 to " + fixed(kMostOutlineMm, 0) +
              " mm.",
          "check/" + excerpt(id));
  return {};
}

/// What only the kinds of sheet there are can tell.
Result<void> check_materials(const Build& build, const Materials& materials) {
  for (const Part& part : build.parts)
    if (const auto kind = part.stuff.empty() ? Result<Foam>(Foam{}) : materials.foam(part.stuff); !kind)
      return fail(kind.error().code, "The " + excerpt(part.name) + ": " + kind.error().text,
          "parts/" + std::to_string(part.id) + "/stuff");
  const auto foam = foam_of(build.foam, materials);
  if (!foam) return fail(foam);
  const auto& offered = foam->thickness_mm;
  if (std::find(offered.begin(), offered.end(), build.foam.thickness_mm) != offered.end()) return {};
  std::string list;
  for (const double t : offered) list += (list.empty() ? "" : ", ") + fixed(t, t == std::floor(t) ? 0 : 1);
  return fail(Errc::out_of_range,
      foam->name + " is not to be had " + fixed(build.foam.thickness_mm, 1) + " mm thick; it comes in " + list + " mm.",
      "foam/thickness");
}

/// Slits, holds and rooms: their numbers, ids of their own, and parts there are.
Result<void> check_fit_numbers(const Build& build) {
  if (auto good = check_fit(build.fit); !good) return good;
  for (const auto& good : {own_ids(build.fit.slits, "slits"), own_ids(build.fit.holds, "holds"),
           own_ids(build.fit.rooms, "rooms"), own_ids(build.fit.cutouts, "cutouts")})
    if (!good) return good;
  const auto there = [&](int part) { return find_part(build, part) != nullptr; };
  for (const Slit& s : build.fit.slits)
    if (!there(s.part))
      return fail(
          Errc::unknown_name, "A slit is in part number " + std::to_string(s.part) + ", which there is not.", "fit");
  for (const Hold& h : build.fit.holds)
    if (!there(h.part))
      return fail(
          Errc::unknown_name, "A hold is of part number " + std::to_string(h.part) + ", which there is not.", "fit");
  return {};
}

/// Details: their numbers, and parts there are.
Result<void> check_details(const Build& build) {
  if (auto good = check_dress(build.dress); !good) return good;
  for (const Detail& d : build.dress.details)
    if (find_part(build, d.part) == nullptr)
      return fail(Errc::unknown_name, d.name + " is on part number " + std::to_string(d.part) + ", which there is not.",
          "dress/" + std::to_string(d.id));
  return {};
}

}  // namespace

Result<void> check_inputs(const Build& build) {
  return first_of({check_records(build), check_foam_head(build.foam_head), check_head_way(build.head_way),
      check_parts(build), check_alterations(build), check_corrections(build), check_foam_numbers(build.foam),
      check_fit_numbers(build), check_details(build), check_finish(build.coat)});
}

Result<void> check_products(const CoatSpec& coat, const CoatSpec& before, const Materials& materials) {
  using Ids = std::set<std::string>;
  const auto glues = [](const CoatSpec& c) {
    Ids ids{c.glue};
    for (const JointGlue& j : c.joint_glues) ids.insert(j.glue);
    return ids;
  };
  const auto paints = [](const CoatSpec& c) {
    Ids ids{c.paint};
    for (const ColourArea& a : c.areas)
      if (!a.paint.empty()) ids.insert(a.paint);
    return ids;
  };
  const auto there = [](const Ids& now, const Ids& had, const char* where, const auto& find) -> Result<void> {
    for (const std::string& id : now)
      if (const auto found = find(id); !found && had.count(id) == 0)
        return fail(found.error().code, found.error().text, where);
    return {};
  };
  return first_of({there(glues(coat), glues(before), "coat/glue", [&](const auto& id) { return materials.glue(id); }),
      there({coat.seal}, {before.seal}, "coat/seal", [&](const auto& id) { return materials.seal(id); }),
      there(paints(coat), paints(before), "coat/paint", [&](const auto& id) { return materials.paint(id); }),
      there({coat.clear}, {before.clear}, "coat/clear", [&](const auto& id) { return materials.clear(id); })});
}

Result<void> check_build(const Build& build, const Materials& materials, const std::vector<Population>& people) {
  const bool scan_alone = build.scan.ready() && build.tape.head.empty();
  if (auto good = check_sheet(build.tape, people); !scan_alone && !good) return good;
  if (auto good = check_inputs(build); !good) return good;
  return check_materials(build, materials);
}

}  // namespace awl
