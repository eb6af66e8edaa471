#pragma once
#include "core/stuff/materials.hpp"

namespace awl {

/// Whether a material bears something, asked of this one place: no step, remark, remedy or page advises heat, a glue or
/// a coat without it.
struct Verdict {
  bool allowed = true;
  bool outdoors = false;  ///< allowed outdoors only
  std::string why;        ///< the whole sentence if it is not allowed
  std::string caution;    ///< to stand at the step that does it
};

/// Hot air, an oven, a hot iron on it.
Verdict heat_on(const Foam& foam);
/// The strain a sheet bears, as |e|: that of warm sheet only where heat is borne.
double bears_strain(const Foam& foam, bool heated);
/// A glue between two materials: both faces count.
Verdict glue_on(const Glue& glue, const Foam& one, const Foam& other);
/// A coat on a material; `sealed`: coats that it bears lie between.
Verdict coat_on(const Coating& coat, const Foam& below, bool sealed);
/// Whether it is painted over at all: what is looked through is masked instead.
bool takes_coats(const Foam& foam);

/// A product for one use: the one asked for if it is borne, else one that serves instead.
template <class Product>
struct Serving {
  Product product;
  bool as_asked = true;
  std::string why;  ///< what the one asked for would do
};
/// Errors: unknown_name if no glue there is may join the two; the sentence names them.
Result<Serving<Glue>> glue_for(const Materials& materials, const Glue& asked, const Foam& one, const Foam& other);
/// Of seals, paints or clear coats alike. A seal that is left out stays left out. Errors: unknown_name if none serves.
Result<Serving<Coating>> coat_for(
    const std::vector<Coating>& offered, const Coating& asked, const Foam& below, bool sealed);

/// Cautions in one text, each once.
std::string joined_cautions(const std::vector<std::string>& cautions);

}  // namespace awl
