#pragma once
#include "core/fit/fit_part.hpp"
#include "core/fit/going_on.hpp"
#include "core/fit/rules.hpp"
#include "core/fit/spec.hpp"
#include "core/make/yield.hpp"

namespace awl {

/// What slits, holds and rooms come to in the build: holes, strips and marks on pieces, shopping and steps.
///
/// Errors: none; what cannot be placed (a slit in a part without a rim, a strap without a head to lie on) is said in
/// the yield's remarks, with a way on.
std::vector<Yield> fittings_of(
    const FitHead& head, const std::vector<FitPart>& parts, const FitSpec& spec, const FitRules& rules);

/// Whether this is the slit, or the parting, of a part.
bool closes(const Yield& fitting, int part);
/// Whether this is what a hold comes to.
bool is_of(const Yield& fitting, const Hold& hold);

/// A slit's way up from the rim on a part's inner face, rim first; empty where the part has no rim there.
/// `side`: 0 behind, + to the left, - to the right.
std::vector<Vec3> slit_path(const FitHead& head, const FitPart& part, int side, double long_mm);

/// Grams a hold of this part must keep: its own, and of all that sits on it.
double carried_g(const std::vector<FitPart>& parts, const FitPart& part);

/// Whether what does not pass by itself goes on opened: parted in halves, or by slits as far as it lacks.
bool goes_on_opened(const FitSpec& spec, const GoingOn& on);

/// What one hold needs and has.
struct HoldCheck {
  int hold = 0;
  std::optional<double> force_n;  ///< none: it holds what it is sewn to, and is not reckoned
  double needed_n = 0.0;
  bool falls_short() const { return force_n && *force_n < needed_n; }
  std::string words;
};
/// One for each hold of a spec whose part is there.
std::vector<HoldCheck> check_holds(
    const FitHead& head, const std::vector<FitPart>& parts, const FitSpec& spec, const FitRules& rules);

}  // namespace awl
