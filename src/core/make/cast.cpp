#include "core/make/cast.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kTapeMm = 50.0, kTapeLayers = 3.0, kTapeLapped = 1.35;  // a strip covers half of the one before
constexpr double kBandageMm2 = 0.3e6, kBandageLayers = 4.0;              // a roll of 100 mm by 3 m
constexpr double kSpareShare = 1.1;

constexpr std::array<CastFacts, 3> kFills{
    CastFacts{"expanding foam", 0.035, 0.0, 0.0, 60.0, 2.0, 24.0, 0.0,
        "Foam from cans or two parts sets hot and gives off vapours while it does: gloves, goggles, outdoors or in a "
        "draught, as its label says. Never over a person, nor in a closed shell without a vent."},
    CastFacts{"plaster", 1.15, 1.35, 0.95, 0.0, 0.4, 48.0, 15.0,
        "Plaster heats up as it sets and burns skin that is held in it: never over a person, never a hand in the "
        "bowl. Mask for its dust; none of it down the drain."},
    CastFacts{"offcuts and glue", 0.12, 0.0, 0.0, 40.0, 1.0, 24.0, 0.0,
        "Contact glue in a closed form stays wet and its vapours stay in it: use water-based glue, and leave the foot "
        "open."}};

double foot_height(const Mesh& open) {
  double low = 1e300;
  for (const auto& loop : border_loops(open)) {
    double y = 0.0;
    for (const int v : loop) y += open.vertices[v].y() / static_cast<double>(loop.size());
    low = std::min(low, y);
  }
  return low;
}

/// Up the middle of the back, from the foot to the highest place.
std::vector<Vec3> line_up_the_back(const Mesh& open) {
  std::vector<Vec3> best;
  for (const auto& line : section_lines(open, {Vec3::Zero(), Vec3::UnitX()})) {
    const auto top =
        std::max_element(line.begin(), line.end(), [](const Vec3& a, const Vec3& b) { return a.y() < b.y(); });
    for (const auto& half : {std::vector<Vec3>(line.begin(), top + 1), std::vector<Vec3>(top, line.end())}) {
      double z = 0.0;
      for (const Vec3& p : half) z += p.z() / static_cast<double>(half.size());
      double best_z = 0.0;
      for (const Vec3& p : best) best_z += p.z() / static_cast<double>(best.size());
      if (half.size() > 2 && (best.empty() || z < best_z)) best = half;
    }
  }
  return best;
}

std::string kilos(double kg) { return fixed(kg, kg < 1.0 ? 2 : 1) + " kg"; }

}  // namespace

const CastFacts& facts_of(CastFill fill) { return kFills[static_cast<std::size_t>(fill)]; }

Result<CastPlan> plan_cast(const Body& body, const WaySpec& spec) {
  constexpr double kLeastLitres = 0.02;
  const CastFacts& facts = facts_of(spec.fill);
  if (border_loops(body.open).empty())
    return fail(Errc::degenerate_shape,
        "The " + body.name +
            " is closed all round and has no foot to be filled by; cut it open, or make it another way.",
        "way");
  CastPlan plan;
  plan.form_litres = std::abs(volume_mm3(body.solid)) * 1e-6;
  if (plan.form_litres < kLeastLitres)
    return fail(Errc::degenerate_shape,
        "The " + body.name + " holds " + fixed(1000.0 * plan.form_litres, 0) +
            " ml only: carve it, or cut it from sheet.",
        "way");
  plan.shell_mm2 = area_mm2(body.open);
  const Box box = box_of(body.open.vertices);
  const double deep = box.high.y() - foot_height(body.open);
  if (facts.wall_mm > 0.0) {
    constexpr double kCoatMm = 5.0;
    plan.litres = std::min(plan.form_litres, plan.shell_mm2 * facts.wall_mm * 1e-6);
    plan.pours = static_cast<int>(std::ceil(facts.wall_mm / kCoatMm));
  } else {
    plan.litres = plan.form_litres;
    plan.pours = std::max(1, static_cast<int>(std::ceil(deep / facts.layer_mm)));
  }
  plan.hours = (plan.pours - 1) * facts.wait_h + facts.whole_h;
  plan.dry_kg = plan.litres * facts.dry_kg_l;
  plan.mixed_kg = plan.litres * (facts.powder_kg_l > 0.0 ? facts.powder_kg_l + facts.water_kg_l : facts.dry_kg_l);
  plan.cut = line_up_the_back(body.open);
  for (std::size_t i = 0; i + 1 < plan.cut.size(); ++i) plan.cut_mm += (plan.cut[i + 1] - plan.cut[i]).norm();
  return plan;
}

std::vector<std::string> cast_steps(const CastPlan& plan, const Body& body, const WaySpec& spec) {
  const CastFacts& facts = facts_of(spec.fill);
  std::vector<std::string> steps;
  if (spec.shell == CastShell::tape)
    steps.push_back(
        "Wrap film over the head and three layers of tape over that, each strip half over the last. On a "
        "person: hair and skull alone, face and throat free, a second person there, scissors at hand; stop "
        "when told to.");
  else if (spec.shell == CastShell::card)
    steps.push_back("Glue strips of card over film on a headform, two layers crosswise; let it dry overnight.");
  else
    steps.push_back(
        "Lay plaster bandage in four layers over film on a headform, never on a face: it grows warm and "
        "heavy, and nobody breathes through it. Let it harden for an hour.");
  steps.push_back("Cut it open up the middle of the back, " + fixed(plan.cut_mm, 0) +
      " mm from the foot to the crown, with blunt scissors; lift it off, and close the cut with tape outside and in.");
  steps.push_back(
      "Stand it on its crown in a box of rags so that it keeps its shape; check width and depth against "
      "the tapes before anything is poured.");
  const std::string each =
      facts.wait_h < 1.0 ? fixed(60.0 * facts.wait_h, 0) + " minutes" : fixed(facts.wait_h, 0) + " hours";
  if (facts.wall_mm > 0.0)
    steps.push_back("Mix " + kilos(plan.litres * facts.powder_kg_l / plan.pours) + " of powder into " +
        kilos(plan.litres * facts.water_kg_l / plan.pours) + " of water for each of " + std::to_string(plan.pours) +
        " coats; swill it round until it stands, " + each + " between coats, to a wall of " + fixed(facts.wall_mm, 0) +
        " mm. Lay bandage into the second.");
  else if (spec.fill == CastFill::expanding)
    steps.push_back("Fill in " + std::to_string(plan.pours) + " layers of " + fixed(facts.layer_mm, 0) +
        " mm at most, half of it at a time, for it rises; damp each, wait " + each +
        " between, and leave the foot open for what comes out.");
  else
    steps.push_back("Stuff it in " + std::to_string(plan.pours) + " layers of " + fixed(facts.layer_mm, 0) +
        " mm, offcuts wetted with glue and pressed into every hollow first; wait " + each + " between.");
  steps.push_back("Leave it for " + fixed(facts.whole_h, 0) + " hours. Cut the foot level" +
      (plan.cut_mm > 0.0 ? ", open the shell along the same cut" : "") + " and peel it off; the " + body.name +
      " weighs about " + kilos(plan.dry_kg) + " when it is dry.");
  return steps;
}

std::vector<Want> cast_wants(const CastPlan& plan, const WaySpec& spec) {
  const CastFacts& facts = facts_of(spec.fill);
  std::vector<Want> wants;
  const auto want = [&](const char* id, const char* what, double need, const char* unit, const char* why) {
    wants.push_back({id, what, std::ceil(10.0 * kSpareShare * need) / 10.0, unit, why});
  };
  if (spec.shell == CastShell::tape)
    want("cast-tape", "Strong tape, 50 mm", plan.shell_mm2 * kTapeLayers * kTapeLapped / kTapeMm * 1e-3, "m",
        "three layers of wrap");
  if (spec.shell == CastShell::card)
    want("cast-card", "Thin card in strips", 2.0 * plan.shell_mm2 * 1e-6, "m\u00b2", "two layers of wrap");
  if (spec.shell == CastShell::bandage)
    wants.push_back({"cast-bandage", "Plaster bandage, 100 mm by 3 m",
        std::ceil(kSpareShare * kBandageLayers * plan.shell_mm2 / kBandageMm2), "pieces", "four layers of shell"});
  want("cast-film", "Stretch film", 2.0 * plan.shell_mm2 * 1e-6, "m\u00b2", "below the wrap");
  if (facts.powder_kg_l > 0.0)
    want("cast-plaster", "Casting plaster", plan.litres * facts.powder_kg_l, "kg", "the cast");
  else if (spec.fill == CastFill::expanding)
    want("cast-foam", "Expanding foam, as set", plan.litres, "l", "the cast");
  else
    want("cast-scraps", "Foam offcuts, pressed", plan.litres, "l", "the filling");
  return wants;
}

}  // namespace awl
