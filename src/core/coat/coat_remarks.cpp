#include <algorithm>
#include <set>

#include "core/base/numbers.hpp"
#include "core/coat/plan.hpp"

namespace awl {
namespace {

class CoatJudge {
 public:
  CoatJudge(const CoatSpec& spec, const Served& served, const FinishWork& work)
      : spec_(spec), served_(served), work_(work) {}

  std::vector<Remark> run(const Plan& plan) {
    for (const Served::Coats& c : served_.coats) judge_coats(c);
    for (const Served::Area& a : served_.areas) judge_area(a);
    judge_glue();
    judge_not_borne();
    judge_inside();
    judge_days(plan);
    return std::move(remarks_);
  }

 private:
  void warn(std::string id, std::string sentence, std::vector<Remedy> remedies) {
    for (const Remark& r : remarks_)
      if (r.sentence == sentence) return;
    remarks_.push_back({std::move(id), Severity::warning, "coat", std::move(sentence), {}, {}, std::move(remedies)});
  }

  const StuffWork* work_of(const Foam& foam) const {
    for (const StuffWork& w : work_.stuffs)
      if (w.stuff.id == foam.id) return &w;
    return nullptr;
  }

  void judge_coats(const Served::Coats& c) {
    const Foam& foam = c.work->stuff;
    const Coating &seal = c.seal.product, &paint = c.paint.product;
    if (seal.coats == 0 && foam.pores != Pores::closed) {
      const bool rubber = foam.solvent == Solvent::bears;
      warn("coat.unsealed", "Paint on raw " + foam.name + " flakes off where it bends: seal it first.",
          {rubber ? Remedy{"Seal with rubber coat", "set-seal rubber"}
                  : Remedy{"Seal with wood glue and water", "set-seal glue-coats"}});
    } else if (seal.coats > 0 && served_.areas.empty()) {
      judge_hold(seal, paint);
    }
    if (!spec_.heat_seal && foam.heat_seal && heat_on(foam).allowed && seal.id != "rubber" && seal.coats > 0)
      warn("coat.no-heat-seal", foam.name + " drinks " + seal.name + " if its pores are open: heat-seal it before.",
          {{"Heat-seal first", "set-heat-seal on"}});
    for (const Coating* coat : {&seal, &paint, &c.clear.product})
      if (coat->coats > 0 && c.work->flexes && coat->stretch < foam.flex)
        warn("coat.cracks", coat->name + " cracks where the " + foam.name + " bends: it gives less than the sheet.",
            coat == &seal        ? std::vector<Remedy>{{"Seal with rubber coat", "set-seal rubber"}}
                : coat == &paint ? std::vector<Remedy>{{"Paint with acrylic", "set-paint acrylic"}}
                                 : std::vector<Remedy>{{"Take the matt clear coat", "set-clear matt"}});
  }

  void judge_hold(const Coating& seal, const Coating& paint) {
    if (std::find(seal.holds.begin(), seal.holds.end(), paint.kind) == seal.holds.end())
      warn("coat.paint-on-seal", paint.name + " does not stay on " + seal.name + ".",
          {{"Paint with acrylic", "set-paint acrylic"}});
  }

  void judge_area(const Served::Area& a) {
    const auto below = std::find_if(served_.coats.begin(), served_.coats.end(),
        [&](const Served::Coats& c) { return c.work->stuff.id == a.work->below.id; });
    if (below == served_.coats.end()) return;
    const Coating& seal = below->seal.product;
    if (seal.coats > 0) judge_hold(seal, a.paint.product);
    if (a.paint.product.needs == "smooth" && (seal.coats == 0 || !(seal.sand_between && spec_.sand_between)))
      warn("coat.metal",
          a.paint.product.name + " shows every pore of the " + a.area->name + ": seal with primer and sand first.",
          {{"Seal with primer", "set-seal primer"}});
  }

  /// A glue not borne somewhere; the remedy is one that serves everywhere, if there is one.
  void judge_glue() {
    std::set<std::string> told;
    for (const Served::Joint& j : served_.joints) {
      if (j.glue.as_asked || !told.insert(j.glue.why).second) continue;
      const Glue& instead = j.glue.product;
      const bool everywhere = std::all_of(served_.joints.begin(), served_.joints.end(),
          [&](const Served::Joint& k) { return glue_on(instead, k.joint->one, k.joint->other).allowed; });
      warn("coat.glue", j.glue.why + " There the plan takes " + instead.name + ".",
          everywhere ? std::vector<Remedy>{{"Take " + instead.name + " everywhere", "set-glue " + instead.id}}
                     : std::vector<Remedy>{});
    }
    if (!served_.padding.as_asked && told.insert(served_.padding.why).second)
      remarks_.push_back({"coat.padding", Severity::note, "coat",
          served_.padding.why + " The padding goes in with " + served_.padding.product.name + ".", {}, {}, {}});
    if (served_.any_hot_glue() && spec_.heat_seal)
      remarks_.push_back({"coat.reheated", Severity::note, "coat",
          "Heat after hot glue softens its joints: the plan heat-seals before gluing.", {}, {}, {}});
  }

  /// Coats and heat that were asked for and are not borne.
  void judge_not_borne() {
    for (const Served::Coats& c : served_.coats)
      for (const Serving<Coating>* s : {&c.seal, &c.paint, &c.clear})
        if (!s->as_asked)
          warn("coat.not-borne",
              s->why + " On the " + c.work->stuff.name +
                  (s->product.coats > 0 ? " the plan takes " + s->product.name + "." : " the plan leaves it out."),
              spec_.shade == Shade::oil && s == &c.clear ? std::vector<Remedy>{{"Shade with a wash", "set-shade wash"}}
                                                         : std::vector<Remedy>{});
    for (const StuffWork& w : work_.stuffs)
      if (const Verdict heat = heat_on(w.stuff); work_.heated && w.bent && heat.outdoors)
        warn("coat.outdoors",
            w.stuff.name +
                " is shaped with heat outdoors only, with a respirator meant for it: hot, it gives off harmful gas.",
            {{"Bend it cold", "set-heated off"}});
  }

  void judge_inside() {
    if (spec_.build_up == BuildUp::clay)
      remarks_.push_back({"coat.filler", Severity::note, "coat",
          "Soft filler goes mushy from sweat: only outside, and under a coat of seal.", {}, {},
          {{"Build up with layers", "set-build-up layers"}}});
  }

  void judge_days(const Plan& plan) {
    if (plan.spare_min < 0.0) {
      Remark late{"coat.late", Severity::stop, "coat",
          "Not ready by " + spec_.due.spoken() + ": it misses the day by " + duration_text(-plan.spare_min) +
              (plan.found.proven_best ? ". No other order is faster." : "."),
          -plan.spare_min, 0.0, {}};
      if (spec_.hours_a_day < 8.0 && spec_.opens_h + 8.0 <= 24.0)
        late.remedies.push_back({"Work 8 hours a day", "set-hours 8"});
      if (!plan.found.proven_best && !spec_.search_longer)
        late.remedies.push_back({"Search longer for a better order", "search-longer on"});
      if (spec_.drying_places < 4)
        late.remedies.push_back(
            {"Make room for two more coats to dry", "set-places " + std::to_string(spec_.drying_places + 2)});
      remarks_.push_back(std::move(late));
    }
    for (const std::string& id : plan.found.undone)
      if (const int i = plan.project.index_of(id); i >= 0)
        warn("coat.brush-again",
            "\"" + plan.project.steps[i].title + "\" must be done again: what had to follow it came too late.", {});
  }

  const CoatSpec& spec_;
  const Served& served_;
  const FinishWork& work_;
  std::vector<Remark> remarks_;
};

}  // namespace

std::vector<Remark> coat_remarks(const CoatSpec& spec, const FinishWork& work, const Served& served, const Plan& plan) {
  return CoatJudge(spec, served, work).run(plan);
}

}  // namespace awl
