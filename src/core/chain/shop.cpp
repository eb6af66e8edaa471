#include "core/chain/shop.hpp"

namespace awl {

Result<std::unique_ptr<Shop>> Shop::load(const std::filesystem::path& data) {
  std::unique_ptr<Shop> shop(new Shop);
  auto fitter = HeadFitter::load(data / "headform");
  if (!fitter) return fail(fitter);
  auto wraps = WrapMaker::load(data / "headform", *fitter);
  if (!wraps) return fail(wraps);
  auto busts = BustMaker::load(data / "headform");
  if (!busts) return fail(busts);
  auto materials = load_materials(data / "materials");
  if (!materials) return fail(materials);
  auto rules = load_step_rules(data / "rules" / "finishing.json");
  if (!rules) return fail(rules);
  const auto fit_rules = load_fit_rules(data / "rules");
  if (!fit_rules) return fail(fit_rules);
  shop->fit_rules_ = *fit_rules;
  const auto dress_rules = load_dress_rules(data / "rules");
  if (!dress_rules) return fail(dress_rules);
  shop->dress_rules_ = *dress_rules;
  shop->fitter_ = *fitter;
  shop->wraps_ = *wraps;
  shop->busts_ = *busts;
  shop->materials_ = std::move(*materials);
  shop->rules_ = std::move(*rules);
  return shop;
}

}  // namespace awl
