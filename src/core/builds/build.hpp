#pragma once
#include <memory>
#include <optional>
#include <string>

#include "core/base/units.hpp"
#include "core/coat/coat_spec.hpp"
#include "core/dress/detail.hpp"
#include "core/fit/spec.hpp"
#include "core/builds/order.hpp"
#include "core/builds/part.hpp"
#include "core/builds/version.hpp"
#include "core/head/scan.hpp"
#include "core/head/tape_sheet.hpp"
#include "core/seam/alter.hpp"
#include "core/seam/correction.hpp"
#include "core/stock/nest.hpp"

namespace awl {

/// The foam the pieces are cut from.
struct FoamSpec {
  std::string foam = "eva-firm";
  double thickness_mm = 5.0;
  bool heated = true;  ///< pieces are stretched with heat before gluing
  SheetSize sheet{1000.0, 600.0};
  double gap_mm = 4.0;
  bool guides = false;        ///< centre and level lines, and where front, back and sides are on rings
  bool notched = false;       ///< marks across seams are cut into the edges, for templates of card
  bool slotted = false;       ///< slots drawn on pieces that are bent tighter than their sheet bears
  int nest_tries = 1;         ///< orders of the pieces tried on the sheet
  bool turn_freely = true;    ///< false: the sheet has a grain
  std::vector<SeamCut> cuts;  ///< seams that are cut otherwise than by the rule
  Margins margins;
  std::vector<Offcut> offcuts;   ///< those of the shop book this build may be cut from
  std::vector<HeldCopy> held;    ///< copies laid down by hand
  std::optional<Foam> own_kind;  ///< the kind as the shop book has it, if not as in the data
  bool operator==(const FoamSpec&) const = default;
};

/// Without those of its margins.
std::vector<Dial> dials_of(FoamSpec& spec);

/// The kind a build is cut from: its own copy of it, or the data's. Errors: unknown_name.
Result<Foam> foam_of(const FoamSpec& spec, const Materials& materials);

/// What is being cut: the parts that are worn, or the headform they are built on.
enum class Making { parts, headform };
const char* name_of(Making making);  ///< "parts", "headform"
Result<Making> making_from(const std::string& name);

/// A scan shared between copies of a build; compared by what is in it.
struct HeldScan {
  std::shared_ptr<const Scan> scan;
  bool used = true;  ///< the headform follows it; otherwise it is only kept
  bool operator==(const HeldScan& o) const {
    return used == o.used && (scan == o.scan || (scan && o.scan && *scan == *o.scan));
  }
  /// True once enough places are shown on it.
  bool ready() const { return used && scan && scan->marks.size() >= 3; }
};

/// From where a form is compared with a picture, or just looked at.
enum class LookFrom { front, left, right, back, top };
inline constexpr int kLooks = 5;
const char* name_of(LookFrom look);  ///< "front", "left", "right", "back", "top"
Result<LookFrom> look_from(const std::string& name);

/// A picture pinned behind the form, true to size.
struct Reference {
  LookFrom look = LookFrom::front;
  std::string file;                          ///< its name, for the maker
  std::shared_ptr<const std::string> bytes;  ///< PNG or JPEG as it came
  double mm_per_pixel = 1.0;
  Vec2 origin_px = Vec2::Zero();  ///< the pixel that lies before the middle of the head
  bool operator==(const Reference& o) const {
    return look == o.look && file == o.file && mm_per_pixel == o.mm_per_pixel && origin_px == o.origin_px &&
        (bytes == o.bytes || (bytes && o.bytes && *bytes == *o.bytes));
  }
};

/// Everything a maker has decided; the inputs of the whole chain and nothing computed. A value: copy it freely.
struct Build {
  std::string name = "Untitled build";
  std::string wearer;
  LengthUnit shown = LengthUnit::mm;
  TapeSheet tape;
  std::set<Extra> extras;  ///< what it has beside the form, and so what else must be measured
  HeldScan scan;
  Making making = Making::parts;
  FoamHeadSpec foam_head;
  WaySpec head_way;  ///< of a headform: how it is made
  std::map<std::string, double>
      built;                        ///< distances read on the headform as built, mm, by their name on the check sheet
  bool fit_to_built = false;        ///< wraps are made over the form as built, not over the wearer
  std::vector<Part> parts{Part{}};  ///< in the order they are put on; later ones may sit on earlier ones
  std::vector<Alteration> alterations;  ///< taken in, let out and cut on the foam, in the order they were made
  std::vector<Correction> corrections;  ///< outlines that come out truer; at most one a part
  std::vector<Reference> references;    ///< at most one for each side
  std::set<LookFrom> compared;          ///< sides the maker has held against a picture
  FoamSpec foam;
  std::vector<OrderRule> order;       ///< what must go on before what, beside the rules that hold anyway
  std::vector<std::string> sequence;  ///< pieces by name, as the maker would put them on where the rules leave it open
  CoatSpec coat;
  DressSpec dress;  ///< details on its parts
  FitSpec fit;      ///< how it goes on and holds, and what else is inside
  std::string notes;
  std::vector<Version> versions;  ///< kept ones, the oldest first
  int stems_from = 0;             ///< the version what is now was last kept as or gone back to; 0: none
  bool operator==(const Build&) const = default;
};

/// The part of this id; null if the build has none.
const Part* find_part(const Build& build, int id);
Part* find_part(Build& build, int id);
/// The first wrap of a build. Contract: it has one.
Part& first_wrap(Build& build);
inline const Part& first_wrap(const Build& build) { return first_wrap(const_cast<Build&>(build)); }
inline WrapSpec& wrap_of(Build& build) { return std::get<WrapSpec>(first_wrap(build).shape); }
inline const WrapSpec& wrap_of(const Build& build) { return std::get<WrapSpec>(first_wrap(build).shape); }

/// Adds a part with a number and a name of its own, on another part or the head. Errors: out_of_range beyond 24 parts.
Result<int> add_part(Build& build, Part part, int on = 0);
/// Adds an alteration with a number of its own. Errors: unknown_name for its part; those of check_alteration.
Result<int> add_alteration(Build& build, Alteration alteration);
/// Where a part sits that is one of a pair, or one of them by itself; null for all else.
const Seat* aside_seat(const Part& part);
/// Takes a part away, with what was altered on it; what sat on it sits on what it sat on. Errors: unknown_name.
Result<void> remove_part(Build& build, int id);
/// Turns a dial of a part. Errors: unknown_name, out_of_range.
Result<Build> turn_dial(const Build& build, int part, const std::string& dial, double value);

/// A copy laid down by hand, or moved; and let go again.
Build with_held(Build build, const HeldCopy& copy);
Build without_held(Build build, const std::string& piece, int copy);

/// Whether the build is one at all: every number within what can be, every id its own, every part on an earlier one, no
/// list longer than a bench could use. Nothing that fails this may be derived, saved or read. Errors: out_of_range,
/// too_large, with the place.
Result<void> check_inputs(const Build& build);
/// The same and what depends on the material at hand and on the wearer, in the order of the chain. Does not build
/// anything.
Result<void> check_build(const Build& build, const Materials& materials, const std::vector<Population>& people);

/// Whether each glue, seal, paint and clear coat of a finish that was not chosen before is one there is. A build that
/// comes with others is kept and opened; it cannot be planned. Errors: unknown_name, with the place.
Result<void> check_products(const CoatSpec& coat, const CoatSpec& before, const Materials& materials);

/// The demo's hood: the base of the Heron Warden of the Saltmarsh Lantern Walk, all made up. `today` starts its plan.
Build demo_build(Day today);
/// One part of the Saltmarsh Lantern Walk.
struct DemoEntry {
  std::string id, name, about;
  std::function<Build(Day today)> make;
};
/// All ten, made up, for five different wearers; the showpiece first.
const std::vector<DemoEntry>& demo_gallery();
/// Errors: unknown_name with the names there are. "heron-warden" is the showpiece.
Result<Build> demo_by_name(const std::string& name, Day today);

/// Carries out a remark's remedy ("set-gores 5", "swap-measures HL HB"). Errors: unknown_name for an act that is no
/// change of a build, or for a measure it does not have.
Result<Build> apply_act(const Build& build, const std::string& act);

}  // namespace awl
