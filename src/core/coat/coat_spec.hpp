#pragma once
#include <string>
#include <vector>

#include "core/base/day.hpp"
#include "core/coat/learn.hpp"
#include "core/coat/work/project.hpp"
#include "core/form/dial.hpp"

namespace awl {

/// What is done with a seam before it is sealed; `fill`: filled, then sanded.
enum class SeamLook { leave, sand, cover, fill };
/// What a part's shape is built up with where it wants more.
enum class BuildUp { none, clay, layers };
/// How hollows are darkened.
enum class Shade { none, wash, oil };
/// Along what an area fades from one colour to another.
enum class FadeWay { down, back, outwards };
const char* name_of(SeamLook look);
const char* name_of(BuildUp with);
const char* name_of(Shade shade);
const char* name_of(FadeWay way);
Result<SeamLook> seam_look_from(const std::string& word);
Result<BuildUp> build_up_from(const std::string& word);
Result<Shade> shade_from(const std::string& word);
Result<FadeWay> fade_way_from(const std::string& word);

/// One of the maker's own colours.
struct Pigment {
  int id = 0;
  std::string name;
  int rgb = 0x808080;
  bool operator==(const Pigment&) const = default;
};

/// Where one colour goes.
struct ColourArea {
  int id = 0;
  std::string name;
  std::string of;  ///< "part 2", "panel 2 crown", "detail 5", "inside 2", "field 2 0 80 95": docs/formats/noggin.md
  int pigment = 0;
  std::string paint;       ///< a product; empty: the build's
  bool hard_edge = false;  ///< its border is sharp, though it be brushed
  bool bears_tape = true;  ///< it may be taped over once it is dry
  int coats = 0;           ///< 0: as the product says
  int fades_to = 0;        ///< the pigment it ends in; 0: one colour
  FadeWay fades = FadeWay::down;
  bool operator==(const ColourArea&) const = default;
};

/// Another glue than the build's for one joint, by its name.
struct JointGlue {
  std::string joint, glue;
  bool operator==(const JointGlue&) const = default;
};

/// Another way with the seams of one joint than the build's, by its name.
struct JointLook {
  std::string joint;
  SeamLook look = SeamLook::leave;
  bool operator==(const JointLook&) const = default;
};

/// A day on which work outdoors can be done, minutes since midnight.
struct OutdoorDay {
  Day day;
  int from_min = 9 * 60, to_min = 16 * 60;
  bool operator==(const OutdoorDay&) const = default;
};

/// A step ticked off, at its real times.
struct StepTick {
  std::string step;
  std::string start, end;  ///< "2026-12-07T09:00"
  bool operator==(const StepTick&) const = default;
};

/// How it is finished, in which colours, and when there is time for it.
struct FinishSpec {
  SeamLook bare_seams = SeamLook::leave;  ///< of seams that are not filled; never `fill`
  std::vector<JointLook> joint_looks;
  int fill_passes = 2;
  BuildUp build_up = BuildUp::none;
  bool tape_inside = false;
  bool sand_between = true;             ///< coats that want it
  int seal_coats = 0, clear_coats = 0;  ///< 0: as the product says
  Shade shade = Shade::wash;
  bool dry_brush = true;
  std::vector<JointGlue> joint_glues;
  std::vector<Pigment> pigments;
  std::vector<ColourArea> areas;
  double read_at_m = 8.0;  ///< from where lines are to be read

  int hands = 1;  ///< pairs of hands at the bench
  int drying_places = 2;
  std::vector<bool> open_on{true, true, true, true, true, true, true};  ///< Monday to Sunday
  std::vector<Day> closed;
  bool names_outdoors = false;  ///< work outdoors only on the days named
  std::vector<OutdoorDay> outdoors;
  double temperature_c = 20.0, damp = 0.5;  ///< of the drying room; relative humidity 0 to 1
  bool fan = false;
  std::vector<StepTick> ticks;
  std::string now;  ///< nothing unticked begins before; empty: from the start on
  bool search_longer = false;
  QuoteRates rates;
  bool operator==(const FinishSpec&) const = default;
};

/// What a maker decides about finishing.
struct CoatSpec : FinishSpec {
  std::string glue = "contact", seal = "rubber", paint = "acrylic", clear = "matt";
  bool fill_seams = true;
  bool heat_seal = true;
  Day start, due;
  double hours_a_day = 4.0;  ///< at the bench, from opens_h on
  double opens_h = 9.0;
  bool operator==(const CoatSpec&) const = default;
};

std::vector<Dial> dials_of(FinishSpec& spec);
/// Those of its own: products, and hours at the bench.
std::vector<Dial> own_dials_of(CoatSpec& spec);

/// Whether it can be kept at all: colours, numbers, ticks. Errors: out_of_range, unknown_name, too_large, not_a_number,
/// with "coat/..." as the place.
Result<void> check_finish(const FinishSpec& spec);
/// And whether it can be planned: hours and days. Errors: those of check_finish; out_of_range.
Result<void> check_coat(const CoatSpec& spec);

/// The days of the spec as they are planned with, so many days on from the start.
WorkDays work_days(const CoatSpec& spec);
/// Its ticks; those that cannot be read are left out (check_coat refuses them).
std::vector<TickedStep> ticked_steps(const FinishSpec& spec);

/// How much longer, or shorter, something dries than at 20 degrees and half damp: 0.5 to 6.
///
/// Source: docs/formulas/coat-schedule.md, workshop values; not measured.
struct DryingRoom {
  double temperature_c = 20.0, damp = 0.5;
  bool fan = false;
};
double drying_factor(const DryingRoom& room, const std::string& base, double thickness = 1.0);

const Pigment* find_pigment(const FinishSpec& spec, int id);

}  // namespace awl
