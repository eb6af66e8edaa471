#include "bench/dress_jobs.hpp"

#include "bench/figure.hpp"
#include "core/chain/shop.hpp"
#include "core/chain/stages/dress.hpp"
#include "core/derived/part_lines.hpp"

namespace awl::bench {

void dress_jobs(const Chain& chain) {
  for (const DemoEntry& entry : demo_gallery()) {
    const Build build = entry.make(Day{20000});
    const Derived d = chain.derive(build);
    const Chain::Visit visit(chain);
    const Shop& shop = visit.shop();
    const auto asked = DressStage::inputs(shop, build, d);
    if (!asked || !*asked) continue;
    const std::string of = "dress_" + entry.id + "_";
    std::vector<DressSite> sites;
    figure(of + "sites_ms", [&] {
      sites.clear();
      for (const auto& one : (*asked)->parts) sites.push_back(dress_site(*one.site.form, one.site.sweep));
    });
    const auto all = [&](const DressSpec& spec) {
      std::size_t n = 0;
      for (const Detail& detail : spec.details)
        for (std::size_t i = 0; i < sites.size(); ++i)
          if (sites[i].part == detail.part)
            n += dressed(detail, sites[i], (*asked)->parts[i].stuffs, shop.dress_rules(), nullptr).places.size();
      return n;
    };
    figure(of + "all_ms", [&] { (void)all(build.dress); });
    DressSpec one;
    if (!build.dress.details.empty()) one.details = {build.dress.details.front()};
    figure(of + "one_ms", [&] { (void)all(one); });
    if (!sites.empty() && !build.dress.details.empty())
      figure(of + "line_ms", [&] {
        for (const DressSite& site : sites)
          if (site.part == one.details.front().part) (void)lines_of(one.details.front(), site, nullptr);
      });
  }
}

}  // namespace awl::bench
