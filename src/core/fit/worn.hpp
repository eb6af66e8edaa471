#pragma once
#include "core/base/progress.hpp"
#include "core/fit/air.hpp"
#include "core/fit/balance.hpp"
#include "core/fit/clearance.hpp"
#include "core/fit/fittings.hpp"
#include "core/fit/going_on.hpp"
#include "core/fit/hold.hpp"
#include "core/fit/rooms.hpp"
#include "core/fit/sight.hpp"
#include "core/fit/turning.hpp"

namespace awl {

/// What is asked about things worn together on one head.
struct WornQuestion {
  SightOptions sight;
  GoingOnOptions going_on;
  double touch_mm = 1.0;
  double layers_mm = 0.0;  ///< for room, where a part has none of its own
  std::optional<Torso> body;
  std::vector<Load> loads;
  std::vector<Room> rooms;
  bool child = false;
  bool squeeze = false;  ///< each part's own layers give way while it goes on
};

/// All that can be said of what is worn before it is cut.
struct Worn {
  FitRules rules;  ///< it was worked out by, and is judged by
  std::optional<Sight> sight;
  std::vector<GoingOn> going_on;         ///< one for each part that lies on the head
  std::vector<PartClearance> clearance;  ///< the same
  std::vector<EarRoom> ears;
  std::optional<Turning> turning;
  Balance balance;
  std::optional<double> tips_at_deg;
  Air air;
  std::optional<double> chin_strap_mm;
  std::vector<HoldCheck> holds;
  std::vector<RoomCheck> rooms;
  static constexpr double kRestsMm = 3.0;  ///< nearer than this the head carries it
  /// The part that is hardest to put on; null without one.
  const GoingOn* tightest() const;
};

/// Errors: cancelled. Source: docs/formulas/fit-*.md.
Result<Worn> worn_on(const FitHead& head, const std::vector<FitPart>& parts, const WornQuestion& question,
    const FitRules& rules, const Progress& progress = {});

}  // namespace awl
