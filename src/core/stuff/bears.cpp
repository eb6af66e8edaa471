#include "core/stuff/bears.hpp"

#include <algorithm>

namespace awl {
namespace {

Verdict not_allowed(std::string why) {
  Verdict verdict;
  verdict.allowed = false;
  verdict.why = std::move(why);
  return verdict;
}

/// Glues made with a solvent, and vapours that do what one does.
bool is_solvent(const std::string& base) { return base == "solvent" || base == "cyano"; }

/// What a glue does to one face; empty if the face bears it.
std::string harm_of(const Glue& glue, const Foam& face) {
  const Taboo* taboo = face.taboo(glue.id);
  if (taboo == nullptr && glue.base == "solvent") taboo = face.taboo("solvent");
  if (taboo != nullptr) return glue.name + " must not meet " + face.name + ": " + taboo->why + ".";
  if (is_solvent(glue.base) && face.solvent == Solvent::eaten) return glue.name + " eats " + face.name + ".";
  if (is_solvent(glue.base) && face.solvent == Solvent::fogged) return glue.name + " fogs " + face.name + ".";
  if (glue.base == "hot" && face.solvent == Solvent::eaten) return glue.name + " melts a hole in " + face.name + ".";
  if (glue.base == "cyano" && face.pores == Pores::soaks && face.flex == 3)
    return glue.name + " soaks into " + face.name + ", sets hard and scratches.";
  if (std::find(glue.not_on.begin(), glue.not_on.end(), face.id) != glue.not_on.end())
    return glue.name + " must not meet " + face.name + ".";
  return {};
}

}  // namespace

Verdict heat_on(const Foam& foam) {
  const Taboo* taboo = foam.taboo("heat");
  if (taboo != nullptr) return not_allowed("No heat on " + foam.name + ": " + taboo->why + ".");
  if (foam.heat == Heat::never || foam.forming_high_c <= 0.0)
    return not_allowed("No heat on " + foam.name + ": it is not formed by heat.");
  Verdict verdict;
  verdict.outdoors = foam.heat == Heat::outdoors || foam.taboo("heat indoors") != nullptr;
  verdict.caution = verdict.outdoors && foam.forming_caution.find("utdoors") == std::string::npos
      ? "Outdoors only, with a respirator meant for it: hot, it gives off harmful gas. " + foam.forming_caution
      : foam.forming_caution;
  if (verdict.caution.empty())
    verdict.caution = "Hot air burns: gloves, air the room, park the gun away from the bench.";
  return verdict;
}

double bears_strain(const Foam& foam, bool heated) {
  return heated && heat_on(foam).allowed ? foam.strain_heated : foam.strain_cold;
}

Verdict glue_on(const Glue& glue, const Foam& one, const Foam& other) {
  for (const Foam* face : {&one, &other})
    if (std::string harm = harm_of(glue, *face); !harm.empty()) return not_allowed(std::move(harm));
  Verdict verdict;
  verdict.caution = glue.caution;
  return verdict;
}

Verdict coat_on(const Coating& coat, const Foam& below, bool sealed) {
  const bool solvent = coat.base == "solvent" && coat.coats > 0;
  if (solvent && below.solvent == Solvent::fogged) return not_allowed(coat.name + " fogs " + below.name + ": mask it.");
  if (solvent && !sealed && (below.solvent == Solvent::eaten || below.taboo("solvent") != nullptr))
    return not_allowed(coat.name + " eats " + below.name + ": water-based coats first.");
  Verdict verdict;
  verdict.caution = coat.caution;
  return verdict;
}

bool takes_coats(const Foam& foam) {
  return foam.kind != SheetKind::clear && foam.kind != SheetKind::mesh && foam.light <= 0.0;
}

Result<Serving<Glue>> glue_for(const Materials& materials, const Glue& asked, const Foam& one, const Foam& other) {
  const Verdict verdict = glue_on(asked, one, other);
  if (verdict.allowed) return Serving<Glue>{asked, true, {}};
  // What sets slowly on two closed faces serves least; epoxy needs no air.
  const bool closed = one.pores == Pores::closed && other.pores == Pores::closed;
  std::vector<const char*> order{"contact-water", "epoxy", "hot-glue", "contact", "instant"};
  if (closed) std::swap(order[0], order[1]);
  for (const char* id : order)
    if (const auto glue = materials.glue(id); glue && glue_on(*glue, one, other).allowed)
      return Serving<Glue>{*glue, false, verdict.why};
  for (const Glue& glue : materials.glues)
    if (glue_on(glue, one, other).allowed) return Serving<Glue>{glue, false, verdict.why};
  return fail(Errc::unknown_name,
      "No glue there is may join " + one.name + " and " + other.name + ": sew, rivet or lace them. " + verdict.why,
      "coat");
}

Result<Serving<Coating>> coat_for(
    const std::vector<Coating>& offered, const Coating& asked, const Foam& below, bool sealed) {
  const Verdict verdict = coat_on(asked, below, sealed);
  if (verdict.allowed) return Serving<Coating>{asked, true, {}};
  for (const Coating& coat : offered)
    if (coat.coats > 0 && coat_on(coat, below, sealed).allowed) return Serving<Coating>{coat, false, verdict.why};
  return fail(Errc::unknown_name, "No coat there is may go on " + below.name + ". " + verdict.why, "coat");
}

std::string joined_cautions(const std::vector<std::string>& cautions) {
  std::string text;
  std::vector<std::string> told;
  for (const std::string& one : cautions) {
    if (one.empty() || std::find(told.begin(), told.end(), one) != told.end()) continue;
    told.push_back(one);
    text += (text.empty() ? "" : " ") + one;
  }
  return text;
}

}  // namespace awl
