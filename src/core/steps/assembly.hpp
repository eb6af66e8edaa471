#pragma once
#include "core/derived/derived.hpp"

namespace awl {

enum class StepKind { cut, prepare, compare, dry_fit, glue, close, wear };
const char* name_of(StepKind kind);

/// One step of putting a build together, in a maker's words.
struct BuildStep {
  StepKind kind = StepKind::glue;
  std::string title;               ///< "Glue 3, gore side, to 1 and 2"
  std::vector<std::string> lines;  ///< what to do, one thing each
  std::vector<PanelId> adds;       ///< panels that come on with this step
  std::vector<PanelId> there;      ///< panels that are together before it
  std::vector<SeamId> seams;       ///< closed in it
  double seam_mm = 0.0;
  std::optional<Glue> glue;  ///< what it is joined with, borne by both faces
  double wait_min = 0.0;     ///< until the glue may be joined; 0: none
  std::string caution;       ///< empty: none
  std::string meanwhile;     ///< what to do while it waits
};

/// The build sheet: pieces in the order they are put together.
struct Assembly {
  std::vector<int> order;  ///< indices of the pieces
  std::vector<BuildStep> steps;
};

/// What helps cement to dry.
enum class DryingHelp { none, fan, hair_dryer };

/// Minutes until a glued face may be joined: longer for every coat that soaks in, shorter with help; contact cement
/// stays within its 5 to 15 minutes. Workshop values. `layer` counts from 1.
double glue_wait_min(const Glue& glue, int layer, DryingHelp help);
/// How long after that it may still be joined before it must be brushed again. Workshop value.
double glue_open_min(const Glue& glue);

/// Rules that hold for every build of parts: what sits on something goes on after it.
std::vector<OrderRule> given_rules(const Build& build);

/// The build with its pieces in this order (by name), as far as the rules allow.
Build with_sequence(Build build, std::vector<std::string> names);

/// The order in which pieces go together and every step of it: cutting, heat, comparing, the dry fit, then piece by
/// piece along their seams, each with its tilt, its wait and its caution. Heat and glue are those that the materials at
/// hand bear. Where the rules leave it open the maker's own sequence holds, else the pieces' numbers.
///
/// Errors: empty_input without pieces; those of in_order.
Result<Assembly> assemble(const Build& build, const Derived& derived, const Materials& materials);

}  // namespace awl
