#pragma once
#include <memory>
#include <string>

#include "core/base/units.hpp"
#include "core/coat/plan.hpp"
#include "core/form/hood.hpp"
#include "core/head/scan.hpp"
#include "core/head/tape_sheet.hpp"
#include "core/seam/seam_mesh.hpp"
#include "core/stock/nest.hpp"

namespace awl {

/// The foam the pieces are cut from.
struct FoamSpec {
  std::string foam = "eva-firm";
  double thickness_mm = 5.0;
  bool heated = true;            ///< pieces are stretched with heat before gluing
  SheetSize sheet{1000.0, 600.0};
  double gap_mm = 4.0;
  bool operator==(const FoamSpec&) const = default;
};

/// What is being cut: the hood that is worn, or the headform it is built on.
enum class Making { hood, headform };
const char* name_of(Making making);  ///< "hood", "headform"
Result<Making> making_from(const std::string& name);

/// A scan shared between copies of a build; compared by what is in it.
struct HeldScan {
  std::shared_ptr<const Scan> scan;
  bool used = true;      ///< the headform follows it; otherwise it is only kept
  bool operator==(const HeldScan& o) const { return used == o.used && (scan == o.scan || (scan && o.scan && *scan == *o.scan)); }
  /// True once enough places are shown on it.
  bool ready() const { return used && scan && scan->marks.size() >= 3; }
};

/// Everything a maker has decided; the inputs of the whole chain and nothing computed. A value: copy it freely.
struct Build {
  std::string name = "Untitled build";
  std::string wearer;
  LengthUnit shown = LengthUnit::mm;
  TapeSheet tape;
  std::set<Extra> extras;        ///< what it has beside the form, and so what else must be measured
  HeldScan scan;
  Making making = Making::hood;
  FoamHeadSpec foam_head;
  std::map<std::string, double> built;  ///< distances read on the headform as built, mm, by their name on the check sheet
  bool fit_to_built = false;            ///< the hood is made over the form as built, not over the wearer
  HoodSpec hood;
  SeamSpec seams;
  FoamSpec foam;
  CoatSpec coat;
  std::string notes;
  bool operator==(const Build&) const = default;
};

/// Numbers against their limits, in the order of the chain. Does not build anything.
Result<void> check_build(const Build& build, const Materials& materials, const std::vector<Population>& people);

/// The demo: the Heron Warden of the Saltmarsh Lantern Walk, all made up. `today` starts its plan.
Build demo_build(Day today);
/// Errors: unknown_name; at present there is "heron-warden".
Result<Build> demo_by_name(const std::string& name, Day today);

/// Carries out a remark's remedy ("set-gores 5", "swap-measures HL HB"). Errors: unknown_name for an act that is no change
/// of a build, or for a measure it does not have.
Result<Build> apply_act(const Build& build, const std::string& act);

}  // namespace awl
