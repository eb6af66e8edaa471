#include "core/judge/next.hpp"

#include "core/base/numbers.hpp"
#include "core/builds/fresh.hpp"

namespace awl {
namespace {

/// The station after one, in words: what awaits there.
struct GoOn {
  const char *from, *to, *word, *why;
};
constexpr GoOn kGoOns[] = {
    {"tape", "head", "Head", "Look whether that is the head you know."},
    {"head", "form", "Form", "There the thing itself is made over it."},
    {"form", "seams", "Seams", "There it comes apart into panels that lie flat."},
    {"seams", "foam", "Foam", "There the pieces lie on sheets, to be printed and cut."},
    {"fit", "dress", "Dress", "There trims, rivets, plates and fur are put on."},
    {"dress", "coat", "Coat", "There it is glued, sealed and painted, to the day it is worn."},
};

Remark step(const char* id, std::string where, std::string sentence, Remedy remedy) {
  return {id, Severity::note, std::move(where), std::move(sentence), {}, {},
      {std::move(remedy), {"Not again", std::string("ignore-next ") + id}}};
}

std::optional<Remark> measure_first(const Build& build, const Derived& d) {
  if (const auto hc = build.tape.head.find(MeasureId::HC); hc != build.tape.head.end() && hc->second.by == kAssumedBy)
    return step("next.own-head", "HC",
        "Next: measure round the head. What stands there is an average adult's, so that nothing fits anybody yet.",
        {"Measure it", "edit-measure HC"});
  constexpr double kTells = 0.01;  // of what is uncertain about the head: workshop value
  if (d.next && d.next->share >= kTells) {
    const MeasureFacts& facts = facts_of(d.next->id);
    return step("next.measure", facts.code,
        "Next: measure " + std::string(facts.name) + ", for " + fixed(100.0 * d.next->share, 0) +
            " % of what is guessed about this head.",
        {"Measure it", "edit-measure " + std::string(facts.code)});
  }
  return std::nullopt;
}

std::optional<Remark> of_station(const std::string& station, const Build& build, const Derived& d) {
  if (station == "form" && build.making == Making::parts && build.parts.empty())
    return step(
        "next.part", "parts", "Next: add a part. The list is sorted by the thing.", {"Show the parts", "go form"});
  if (station == "foam" && d.layout && d.pieces)
    return step("next.print", "print",
        "Next: print the patterns, measure the square on the first page, and cut one piece to try; then look at Fit, "
        "before the rest is cut.",
        {"Print", "print-patterns"});
  return std::nullopt;
}

}  // namespace

std::optional<Remark> next_step(
    const std::string& station, const Build& build, const Derived& derived, const std::set<std::string>& ignored) {
  const auto wanted = [&](const std::optional<Remark>& r) { return r && ignored.count(r->id) == 0; };
  if (station == "tape" || station == "head")
    if (auto measure = measure_first(build, derived); wanted(measure)) return measure;
  if (auto own = of_station(station, build, derived); wanted(own)) return own;
  for (const GoOn& on : kGoOns)
    if (station == on.from) {
      auto go = step("next.go-on", {}, "Next: " + std::string(on.word) + ". " + on.why,
          {"Go to " + std::string(on.word), "go " + std::string(on.to)});
      if (wanted(go)) return go;
    }
  return std::nullopt;
}

}  // namespace awl
