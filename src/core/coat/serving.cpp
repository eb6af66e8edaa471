#include "core/coat/serving.hpp"

#include <algorithm>

namespace awl {
namespace {

struct Products {
  Glue glue;
  Coating seal, paint, clear;
};

Result<Products> find_products(const CoatSpec& spec, const Materials& m) {
  const auto g = m.glue(spec.glue);
  auto s = m.seal(spec.seal), c = m.clear(spec.clear);
  auto p = m.paint(spec.paint);
  if (!g) return fail(g);
  for (const auto* coating : {&s, &p, &c})
    if (!*coating) return fail(*coating);
  if (spec.seal_coats > 0 && s->coats > 0) s->coats = spec.seal_coats;
  if (spec.clear_coats > 0 && c->coats > 0) c->coats = spec.clear_coats;
  return Products{*g, *s, *p, *c};
}

/// What lies under a clear coat is oil colour: only what is not made with water holds on it.
Result<Serving<Coating>> clear_on_oil(const Coating& asked, const Foam& below, const Materials& m) {
  if (asked.coats == 0 || asked.base != "water") return coat_for(m.clears, asked, below, true);
  const std::string why = asked.name + " does not hold on oil shading.";
  for (const Coating& other : m.clears)
    if (other.coats > 0 && other.base != "water" && coat_on(other, below, true).allowed)
      return Serving<Coating>{other, false, why};
  const auto none = m.clear("none");
  if (!none) return fail(none);
  return Serving<Coating>{*none, false, why};
}

Result<Served::Coats> serve_coats(const CoatSpec& spec, const StuffWork& work, const Products& p, const Materials& m) {
  auto seal = coat_for(m.seals, p.seal, work.stuff, false);
  if (!seal) return fail(seal);
  const bool sealed = seal->product.coats > 0;
  auto paint = coat_for(m.paints, p.paint, work.stuff, sealed);
  auto clear =
      spec.shade == Shade::oil ? clear_on_oil(p.clear, work.stuff, m) : coat_for(m.clears, p.clear, work.stuff, sealed);
  if (!paint) return fail(paint);
  if (!clear) return fail(clear);
  return Served::Coats{&work, std::move(*seal), std::move(*paint), std::move(*clear)};
}

/// Soft upholstery foam glued to every material there is; the first glue that all bear.
Result<Serving<Glue>> serve_padding(const FinishWork& work, const Glue& asked, const Materials& m) {
  const auto soft = m.foam("soft-block");
  Serving<Glue> serving{asked, true, {}};
  if (!soft) return serving;
  for (const StuffWork& w : work.stuffs) {
    if (!w.worn) continue;
    auto one = glue_for(m, serving.product, *soft, w.stuff);
    if (!one) return fail(one);
    if (!one->as_asked) serving = std::move(*one);
  }
  return serving;
}

Result<Glue> asked_for(const CoatSpec& spec, const JointWork& joint, const Glue& usual, const Materials& m) {
  for (const JointGlue& own : spec.joint_glues)
    if (own.joint == joint.name) return m.glue(own.glue);
  return usual;
}

Result<void> serve_areas(
    const CoatSpec& spec, const FinishWork& work, const Products& p, const Materials& m, Served& to) {
  for (const AreaWork& a : work.areas) {
    const auto area =
        std::find_if(spec.areas.begin(), spec.areas.end(), [&](const ColourArea& one) { return one.id == a.id; });
    if (area == spec.areas.end() || !takes_coats(a.below)) continue;
    const auto asked = area->paint.empty() ? Result<Coating>(p.paint) : m.paint(area->paint);
    if (!asked) return fail(asked);
    const auto seal = coat_for(m.seals, p.seal, a.below, false);
    auto paint = coat_for(m.paints, *asked, a.below, seal && seal->product.coats > 0);
    if (!paint) return fail(paint);
    const int coats = area->coats > 0 ? area->coats : paint->product.coats;
    to.areas.push_back({&a, &*area, std::move(*paint), coats});
  }
  return {};
}

}  // namespace

bool Served::any_hot_glue() const {
  return std::any_of(joints.begin(), joints.end(), [](const Joint& j) { return j.glue.product.base == "hot"; });
}

Result<Served> serve(const CoatSpec& spec, const FinishWork& work, const Materials& materials) {
  const auto products = find_products(spec, materials);
  if (!products) return fail(products);
  Served served;
  for (const JointWork& joint : work.joints) {
    const auto asked = asked_for(spec, joint, products->glue, materials);
    if (!asked) return fail(asked);
    auto glue = glue_for(materials, *asked, joint.one, joint.other);
    if (!glue) return fail(glue);
    served.joints.push_back({&joint, std::move(*glue)});
  }
  for (const StuffWork& w : work.stuffs) {
    if (!w.worn) continue;
    if (!takes_coats(w.stuff)) {
      served.masked.push_back(w.stuff.name);
      continue;
    }
    auto coats = serve_coats(spec, w, *products, materials);
    if (!coats) return fail(coats);
    served.coats.push_back(std::move(*coats));
  }
  if (auto good = serve_areas(spec, work, *products, materials, served); !good) return fail(good);
  auto padding = serve_padding(work, products->glue, materials);
  if (!padding) return fail(padding);
  served.padding = std::move(*padding);
  return served;
}

}  // namespace awl
