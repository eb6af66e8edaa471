#include "bench/worn_jobs.hpp"

#include <cstdio>

#include "bench/figure.hpp"
#include "core/chain/chain.hpp"
#include "core/chain/shop.hpp"
#include "core/chain/stages/fitting.hpp"

namespace awl::bench {
void worn_jobs(const Chain& chain) {
  for (const char* id : {"reed-mask", "lamp-post", "ferry-keeper", "heron-warden"}) {
    const Build build = *demo_by_name(id, Day{20000});
    const Derived d = chain.derive(build);
    const Chain::Visit visit(chain);
    Shop& shop = visit.shop();
    const auto question = worn_question(shop, build, d);
    if (!question || !*question) continue;
    const FitRules& rules = shop.fit_rules();
    const std::string of = std::string("worn_") + id + "_";
    const double start = now_ms();
    const auto head = shop.make<FitHeadStep>({d.head, build.fit.wig_mm});
    std::vector<FitPart> parts;
    for (const auto& one : (*question)->parts) parts.push_back(**shop.make<FitPartStep>(one));
    (void)(*head)->folded_mm(Vec3::Zero());
    std::printf("%-42s\t%.3f\n", (of + "ready_ms").c_str(), now_ms() - start);
    SightOptions sight;
    sight.refine = false;
    figure(of + "sight_ms", [&] { (void)sight_of(**head, parts, rules, sight); });
    figure(of + "going_on_ms", [&] {
      for (const FitPart& p : parts)
        if (p.on_head) (void)going_on(**head, p, rules, {0.5 * p.layers_mm, rules.going_on.press_hair_mm, {}});
    });
    figure(of + "clearance_ms", [&] {
      for (const FitPart& p : parts)
        if (p.on_head) (void)clearance_inside(**head, p, rules, {p.layers_mm, 1.0});
    });
    WornQuestion all;
    all.squeeze = true, all.sight = sight;
    figure(of + "all_ms", [&] { (void)worn_on(**head, parts, all, rules); });
  }
}

}  // namespace awl::bench
