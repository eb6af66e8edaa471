#pragma once
#include "core/coat/plan.hpp"
#include "core/derived/part_form.hpp"
#include "core/head/built_form.hpp"
#include "core/head/tape_path.hpp"
#include "core/head/telling.hpp"
#include "core/make/way.hpp"
#include "core/seam/alter.hpp"
#include "core/seam/panels.hpp"

namespace awl {

struct ColourMap;
struct Dressed;
struct Worn;

/// Both faces of the sheets a form is made of, vertex by vertex: what is seen of it.
struct SheetFaces {
  Mesh outer, inner;
};
SheetFaces faces_of(const SeamMesh& form, const std::vector<FormSpan>& spans);
/// The same of parts each by itself, as they are cut to each other.
SheetFaces faces_of(const std::vector<std::shared_ptr<const PartForm>>& parts, const std::vector<FormSpan>& spans);

/// What is being made, with its seams cut into it: all parts on the wearer's head, or the headform itself.
struct Form {
  std::vector<std::shared_ptr<const PartForm>>
      parts;                    ///< one each, in the build's order; those that failed are left out
  SeamMesh surface;             ///< all of them as one
  std::vector<FormSpan> spans;  ///< whose is what
  SheetFaces faces;             ///< of the surface
  bool is_headform = false;
  std::optional<NeckPlates> plates;  ///< of a headform
  int head_plan = -1;                ///< seam plan used for a headform
  Clearance clearance;               ///< of the part that falls shortest of its ease
  double lower_girth_mm = 0.0;       ///< narrowest opening the head goes through; 0 without one
  double area_mm2 = 0.0;
  const PartForm* of(int part) const;
  /// The same; of a part that is one skin with another the form it had before.
  const PartForm* shape_of(int part) const;
  /// The form a part is in: its own, or that of the one it is one skin with; null if it could not be made.
  const PartForm* holding(int part) const;
};

/// A seam left unequal by taking in or letting out, and whether going on with the next seam would even it.
struct LeftUnequal {
  UnequalSeam seam;
  std::optional<Alteration> also;  ///< what would even it: the same again where the seam goes on
};

/// For each part the way it is made, in the form's order; null for a skin.
using HeldWays = std::vector<std::shared_ptr<const MadeWay>>;

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
  int head_plan = -1;                ///< seam plan of a headform, the maker's or the one suggested
  std::shared_ptr<const Form> form;
  std::vector<Error> part_errors;  ///< parts that could not be made, with their places; the others go on without them
  std::shared_ptr<const PanelSet> panels;
  std::vector<std::shared_ptr<const PanelSet>> part_panels;  ///< the same, each part's by itself
  /// For each part, which of its seams were left unequal by altering.
  std::vector<std::shared_ptr<const std::vector<LeftUnequal>>> unequal;
  HeldWays ways;                                       ///< one for each of the form's parts; null where it is a skin
  std::shared_ptr<const std::vector<Yield>> fittings;  ///< of slits and of what holds; null without any
  /// Of each of the build's details and of the feet of parts that sit on parts; null without any.
  std::shared_ptr<const std::vector<std::shared_ptr<const Dressed>>> dressed;
  std::shared_ptr<const std::vector<Piece>> pieces;
  std::shared_ptr<const Layout> layout;
  std::shared_ptr<const ColourMap> colours;  ///< where they lie; null without any
  std::shared_ptr<const Plan> plan;
  std::shared_ptr<const Worn> worn;  ///< on the wearer's own head; comes after all else, null until then
  std::vector<Remark> remarks;       ///< of all stages reached, most serious first
  std::optional<Error> error;        ///< why the chain stopped
  /// Whether the panels of a span of the form are cut from sheet; otherwise that part is made some other way.
  bool is_skin(int span) const { return span >= static_cast<int>(ways.size()) || !ways[span]; }
  bool complete() const { return plan != nullptr && !error; }
};

/// All that ways of making, slits, holds and details come to.
std::vector<const Yield*> yields_of(const Derived& derived);

/// The name of the part each piece is cut for, to sort files by.
std::function<std::string(const Piece&)> part_names(const Build& build, const Derived& derived);

}  // namespace awl
