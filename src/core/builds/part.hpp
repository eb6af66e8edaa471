#pragma once
#include <variant>

#include "core/form/body.hpp"
#include "core/form/cover.hpp"
#include "core/form/import.hpp"
#include "core/form/limb.hpp"
#include "core/form/plate.hpp"
#include "core/form/rings.hpp"
#include "core/form/sweep.hpp"
#include "core/form/wrap.hpp"
#include "core/make/way.hpp"
#include "core/seam/drawn.hpp"
#include "core/seam/meeting/meeting.hpp"

namespace awl {

/// One form of a build, by the source it comes from.
using Shape =
    std::variant<WrapSpec, RingsSpec, SweepSpec, TongueSpec, PlateSpec, LimbSpec, ImportSpec, CoverSpec, BodySpec>;
/// "Wrap", "Rings", "Sweep", "Plate", "Import", "Cover" or "Body".
const char* source_of(const Shape& shape);
const char* kind_of(const Shape& shape);  ///< the word in files: "wrap", "rings", "sweep", "tongue", "plate", "limb",
                                          ///< "import", "cover", "body"

/// A part of a build: its form, and what it sits on.
struct Part {
  int id = 1;  ///< stays the same for good; 0 is the head
  std::string name = "hood";
  Shape shape = WrapSpec{};
  int on = 0;                    ///< the part it sits on, or 0 for the head; always an earlier one
  SeamSpec seams;                ///< of a wrap
  bool own_seams = true;         ///< of anything else: those its source gives it
  std::vector<DrawnSeam> drawn;  ///< beside those, in the order they are cut
  double thickness_mm = 0.0;     ///< 0: that of the build's foam
  std::string stuff;             ///< the kind of sheet it is cut from, as in data/materials; empty: the build's foam
  WaySpec way;                   ///< skin of sheet, slabs, carved, a paper net, drawn
  std::vector<Meet> meets;       ///< earlier parts it is cut to
  bool operator==(const Part&) const = default;
};

/// The part cut as a way was suggested, in place of its own seams and of lines that cut it; or, in pencil, only shown.
struct Suggestion;
Part with_way(Part part, const Suggestion& way, bool ink);

/// A part that stands on another, its foot cut to that where it is one that grows out of it: horns, tubes, bodies.
Part cut_to_base(Part part, int on);
/// On another part, or the head (0); what its foot was cut to follows.
Part sat_on(Part part, int host);

/// Where it sits, if that is told by a seat; null for what is wrapped, ringed, brought in or covers.
Seat* seat_of(Part& part);

/// Every dial of a part, its source's own first.
std::vector<Dial> dials_of(Part& part);
/// What is kept of what it does not have now.
std::vector<Dial> hidden_dials_of(Part& part);
/// The value of one dial. Errors: unknown_name.
Result<double> dial_value(const Part& part, const std::string& id);
/// Errors: those of turn_dial.
Result<Part> with_dial(Part part, const std::string& id, double value);
/// All dials within their limits. Errors: out_of_range.
Result<void> check_part(const Part& part);

/// A ready start for a part.
struct PartPreset {
  std::string id, label, thing, tip;  ///< "ram-horn", "Ram's horn", "Horns and tusks", when one would use it
  std::function<Part()> make;
};
const std::vector<PartPreset>& part_presets();
/// The things ready starts are sorted by, in the order a maker looks for them: "Helms", "Hats", ...
const std::vector<std::string>& things();
/// Errors: unknown_name.
Result<Part> part_from_preset(const std::string& id);

}  // namespace awl
