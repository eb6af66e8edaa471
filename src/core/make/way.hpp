#pragma once
#include <optional>
#include <string>
#include <vector>

#include "core/base/progress.hpp"
#include "core/base/remark.hpp"
#include "core/base/result.hpp"
#include "core/form/dial.hpp"
#include "core/make/yield.hpp"

namespace awl {

/// Corners of an outline nearer than this to the line through their neighbours are left out.
inline constexpr double kOnTheLineMm = 0.05;

/// How a part is made in a material.
enum class Way { skin, slabs, carve, net, drawn, cast };
const char* name_of(Way way);  ///< "skin", "slabs", "carve", "net", "drawn", "cast"
Result<Way> way_from(const std::string& name);

/// A direction of the wearer's head: slabs are stacked along it, a visor is pulled towards it.
enum class Axis { up, front, side, own };
const char* name_of(Axis axis);  ///< "up", "front", "side", "own": along the part's own longest extent
Result<Axis> axis_from(const std::string& name);

/// What a cast's shell is of, and what it is filled with.
enum class CastShell { tape, card, bandage };
enum class CastFill { expanding, plaster, scraps };
const char* name_of(CastShell shell);  ///< "tape", "card", "bandage"
const char* name_of(CastFill fill);    ///< "expanding", "plaster", "scraps"
Result<CastShell> cast_shell_from(const std::string& name);
Result<CastFill> cast_fill_from(const std::string& name);

/// What the maker chose about it; what another way needs is kept while it is not used.
struct WaySpec {
  Way way = Way::skin;
  Axis along = Axis::up;             ///< slabs are stacked along it
  std::string block = "soft-block";  ///< the kind slabs and blocks are cut from
  double wall_mm = 0.0;              ///< slabs: 0 is solid right through
  double spare_mm = 2.0;             ///< slabs and blocks: left on for carving
  int net_faces = 300;               ///< paper net, up to 1000
  double net_tab_mm = 6.0;
  Axis pull = Axis::front;            ///< drawn visor: the side that looks out of the press
  std::string sheet = "clear-sheet";  ///< the kind it is drawn from
  double sheet_mm = 1.5;
  double skirt_mm = 20.0;  ///< added to the buck below the visor's edge
  double clamp_mm = 25.0;  ///< held by the frame all round
  CastShell shell = CastShell::tape;
  CastFill fill = CastFill::expanding;
  bool operator==(const WaySpec&) const = default;
};

std::vector<Dial> dials_of(WaySpec& spec);
/// Errors: out_of_range naming the value and its limits.
Result<void> check_way(const WaySpec& spec);

/// A body of a part, closed, and whether its mirror image is wanted too.
struct Body {
  Mesh solid;  ///< outer face, borders filled
  Mesh open;   ///< the same surface before
  bool paired = false;
  std::string name;  ///< "horns", "ears 2"
};

/// The separate bodies of a part's outer face; of an exactly mirrored pair the wearer's left one. `mirrored`: the
/// second half of the triangles is the image of the first.
std::vector<Body> bodies_of(const Mesh& outer, bool mirrored, const std::string& name);

/// What making a part some way comes to: its one step has the facts, then what to do.
struct MadeWay : Yield {
  Way way = Way::skin;
  std::optional<Mesh> buck;  ///< what a visor is drawn over, closed
};

}  // namespace awl
