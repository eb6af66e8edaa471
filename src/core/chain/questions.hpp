#pragma once
#include "core/fit/opening_view.hpp"
#include "core/builds/build.hpp"
#include "core/chain/chain.hpp"
#include "core/seam/suggest.hpp"

// Short questions to a chain. A derivation under way lets them pass and then goes on.

namespace awl {

/// How long whoever asks can wait; none: as long as it takes.
using Patience = std::optional<std::chrono::milliseconds>;

/// The headform of measures that are not the build's: another wearer, another date. Errors: those of HeadFitter::fit.
Result<Headform> head_of(const Chain& chain, const TapeSheet& sheet);

/// check_build and whether the wraps' edges leave anything. What is not known in time is taken for good: the derivation
/// will say.
Result<void> check(const Chain& chain, const Build& build, Patience patience = {});

/// Whether one part of a build can be made on its wearer, with the sentence if not.
/// Errors: those of the part's form; cancelled if it was not known in time.
Result<void> try_part(const Chain& chain, const Build& build, int part, Patience patience = {});

/// Turns one dial of a part and makes its form. A value at which the form cannot be made is refused with the nearest
/// that works, between the one there is and the one asked for (found by halving, to a millimetre, degree or hundredth,
/// as far as there is time). What is not known in time is let pass: the derivation will say.
/// Errors: unknown_name, out_of_range; those of the form's source, the sentence naming the nearest that works.
Result<Build> turn(
    const Chain& chain, const Build& build, int part, const std::string& dial, double value, Patience patience = {});

/// A part sat on the spot of the stand that was pointed at: of the head, or of the earlier part that is nearest there.
/// Errors: those of host_at; cancelled if there was no time.
Result<Part> seated_at(const Chain& chain, const Build& build, const Derived& derived, int part, const Vec3& place,
    Patience patience = {});

/// Lines that would cut one part so that it lies flat, by the foam's own tolerance unless one is given: several
/// suggestions, side by side. Errors: those of the part's form; cancelled; no_solution.
Result<std::vector<Suggestion>> suggest(const Chain& chain, const Build& build, int part,
    std::optional<double> tolerance = {}, const Progress& progress = {});

/// All that is said of a derived build as worn on its wearer's head: nothing where nothing of it is. Takes about as
/// long as a derivation, so it is asked beside the chain. Errors: unknown_name; cancelled.
Result<std::shared_ptr<const Worn>> worn(
    const Chain& chain, const Build& build, const Derived& derived, const Progress& progress = {});

/// The same put to what was derived, its remarks judged anew. What cannot be said is left out; cancelled: as it was.
Derived with_worn(const Chain& chain, const Build& build, Derived derived, const Progress& progress = {});

/// What is left of the sight with one part as the build has it, the others as they were derived: roughly, for while an
/// opening is dragged. Nothing where nothing is worn before eyes. Errors: those of the part's form; cancelled.
Result<std::shared_ptr<const Worn>> look_out(
    const Chain& chain, const Build& build, const Derived& derived, int part, const Progress& progress = {});

/// A wrap's eye holes ready to be looked through while their edge is dragged.
class OpeningLook {
 public:
  OpeningLook(OpeningView view, std::shared_ptr<const Worn> before)
      : view_(std::move(view)), before_(std::move(before)) {}
  /// The report with the sight this part leaves: its form must be as it was, but for the eye holes. Cost: 2 to 10 ms.
  std::shared_ptr<const Worn> through(const Part& part) const;

 private:
  OpeningView view_;
  std::shared_ptr<const Worn> before_;
};

/// Traces once what is seen past a wrap whose eye holes are filled. Null where the part is no wrap of sheet, or nothing
/// is worn before eyes. Errors: those of the part's form; cancelled. Cost: 0.1 to 0.3 s.
Result<std::shared_ptr<const OpeningLook>> look_through_opening(
    const Chain& chain, const Build& build, const Derived& derived, int part, const Progress& progress = {});

/// Roughly what one part's panels come to, for while a line is dragged: a rigid map only, sides not joined, so that the
/// strain reads a little high. Errors: those of the part's form and of make_panels.
Result<std::shared_ptr<const PanelSet>> sketch(
    const Chain& chain, const Build& build, int part, const Progress& progress = {});

}  // namespace awl
