#pragma once
#include <variant>

#include "core/dress/kinds/buckle.hpp"
#include "core/dress/kinds/damage.hpp"
#include "core/dress/kinds/filling.hpp"
#include "core/dress/kinds/grain.hpp"
#include "core/dress/kinds/grid.hpp"
#include "core/dress/kinds/lacing.hpp"
#include "core/dress/kinds/lens.hpp"
#include "core/dress/kinds/lights.hpp"
#include "core/dress/kinds/outline.hpp"
#include "core/dress/kinds/rib.hpp"
#include "core/dress/kinds/scales.hpp"
#include "core/dress/kinds/scored.hpp"
#include "core/dress/kinds/strip.hpp"
#include "core/dress/kinds/studs.hpp"
#include "core/dress/kinds/teeth.hpp"
#include "core/dress/kinds/tufts.hpp"
#include "core/dress/kinds/wedge.hpp"
#include "core/dress/kinds/wire.hpp"

namespace awl {

/// Every kind of detail there is. A further one is its own two files in kinds/ and a word here.
using DetailShape = std::variant<Strip, Studs, HoleField, Scored, Damage, Scales, Teeth, LacedPlates, Tufts, Lens,
    Lights, Wire, Filling, Rib, Buckle, Outline, Grain, Wedge>;

}  // namespace awl
