#pragma once
#include <functional>
#include <memory>
#include <optional>

#include "core/builds/form_shop.hpp"
#include "core/builds/ways.hpp"
#include "core/seam/suggest.hpp"
#include "core/head/built_form.hpp"
#include "core/head/tape_path.hpp"
#include "core/head/telling.hpp"

namespace awl {

/// What is being made, with its seams cut into it: all parts on the wearer's head, or the headform itself.
struct Form {
  std::vector<std::shared_ptr<const PartForm>>
      parts;                    ///< one each, in the build's order; those that failed are left out
  SeamMesh surface;             ///< all of them as one
  std::vector<FormSpan> spans;  ///< whose is what
  bool is_headform = false;
  std::optional<NeckPlates> plates;  ///< of a headform
  int head_plan = -1;                ///< seam plan used for a headform
  Clearance clearance;               ///< of the part that falls shortest of its ease
  double lower_girth_mm = 0.0;       ///< narrowest opening the head goes through; 0 without one
  double area_mm2 = 0.0;
  const PartForm* of(int part) const;
};

/// What the chain has made of a build. A stage that failed, and those behind it, are null.
struct Derived {
  std::shared_ptr<const Headform> head;
  std::shared_ptr<const std::vector<TapePath>> tapes;  ///< where each measure runs on it
  std::shared_ptr<const ScanFit> scan;                 ///< if the headform follows a scan
  std::vector<Telling> short_list;                     ///< what to measure first for this build, the most telling first
  std::optional<Telling> next;                         ///< what would tell most now
  std::shared_ptr<const CheckPlan> check;              ///< what to measure on the headform as built
  std::shared_ptr<const BuiltForm> built;              ///< what that says; null while nothing was read
  std::optional<Error> check_error;  ///< a reading that cannot be of this form; the chain goes on without the check
  std::shared_ptr<const Form> form;
  std::vector<Error> part_errors;  ///< parts that could not be made, with their places; the others go on without them
  std::shared_ptr<const PanelSet> panels;
  std::vector<std::shared_ptr<const PanelSet>> part_panels;  ///< the same, each part's by itself
  std::vector<std::shared_ptr<const MadeWay>> ways;  ///< one for each of the form's parts; null where it is a skin
  std::shared_ptr<const std::vector<Piece>> pieces;
  std::shared_ptr<const Layout> layout;
  std::shared_ptr<const Plan> plan;
  std::vector<Remark> remarks;  ///< of all stages reached, most serious first
  std::optional<Error> error;   ///< why the chain stopped
  /// Whether the panels of a span of the form are cut from sheet; otherwise that part is made some other way.
  bool is_skin(int span) const { return span >= static_cast<int>(ways.size()) || !ways[span]; }
  bool complete() const { return plan != nullptr && !error; }
};

/// The one chain of derivation: tape measures -> headform -> form -> panels -> pieces -> sheets -> plan.
///
/// Every stage is a pure function of its inputs and remembered under exactly those, so a change renews only what hangs
/// on it. Threads: derive may be called from any thread; calls wait for each other.
class Chain {
 public:
  /// Loads what all builds share. Errors: cannot_read, bad_file.
  static Result<std::shared_ptr<const Chain>> load(const std::filesystem::path& data_folder);
  ~Chain();

  using StageDone = std::function<void(const Derived& so_far)>;
  /// `stage_done` is called after each stage with what there is so far.
  Derived derive(const Build& build, const Progress& progress = {}, const StageDone& stage_done = {}) const;

  /// The headform of measures that are not the build's: another wearer, another date. Errors: those of HeadFitter::fit.
  Result<Headform> head_of(const TapeSheet& sheet) const;

  /// Whether one part of a build can be made on its wearer, with the sentence if not. A derivation under way lets it
  /// pass and then goes on.
  Result<void> try_part(const Build& build, int part) const;

  /// Turns one dial of a part and makes its form. A value at which the form cannot be made is refused with the nearest
  /// that works, between the one there is and the one asked for (found by halving, to a millimetre, degree or
  /// hundredth). Errors: unknown_name, out_of_range; those of the form's source, the sentence naming the nearest that
  /// works.
  Result<Build> turn(const Build& build, int part, const std::string& dial, double value) const;

  /// Lines that would cut one part so that it lies flat, by the foam's own tolerance unless one is given: several ways,
  /// side by side. A derivation under way lets it pass. Errors: those of the part's form; cancelled; no_solution.
  Result<std::vector<Suggestion>> suggest(
      const Build& build, int part, std::optional<double> tolerance = {}, const Progress& progress = {}) const;

  /// Roughly what one part's panels come to, for while a line is dragged: a rigid map only, sides not joined, so that
  /// the strain reads a little high. A derivation under way lets it pass. Errors: those of the part's form and of
  /// make_panels.
  Result<std::shared_ptr<const PanelSet>> sketch(const Build& build, int part, const Progress& progress = {}) const;

  /// check_build and whether the hood's edges leave anything.
  Result<void> check(const Build& build) const;

  const HeadFitter& fitter() const;
  const Materials& materials() const;

 private:
  Chain();
  struct Shop;
  class ShortVisit;
  Derived derive_guarded(const Build& build, const Progress& progress, const StageDone& stage_done) const;
  Derived derive_once(const Build& build, const Progress& progress, const StageDone& stage_done) const;
  std::unique_ptr<Shop> shop_;
};

/// Remarks that need several stages: strain against the foam, opening against the head, sheets.
std::vector<Remark> judge(const Build& build, const Derived& derived, const Materials& materials);

}  // namespace awl
