#pragma once
#include "core/coat/masking.hpp"
#include "core/stuff/bears.hpp"

namespace awl {

/// How much work something is.
struct WorkSize {
  int pieces = 0;  ///< to cut; small ones count as shares of one
  double seam_m = 0.0, area_m2 = 0.0;
  bool operator==(const WorkSize&) const = default;
};

/// All that is made of one kind of sheet.
struct StuffWork {
  Foam stuff;
  std::vector<std::string> parts;  ///< by name
  WorkSize size;
  bool bent = true;     ///< some of its pieces do not stay flat
  bool worn = true;     ///< it ends up on the wearer: is glued and painted; false for templates of card
  bool flexes = false;  ///< it is thin or soft enough to move as it is worn
  bool operator==(const StuffWork&) const = default;
};

/// Where two faces are glued: the seams of a part, or a part on another.
struct JointWork {
  Foam one, other;
  double seam_m = 0.0;
  std::string name;      ///< "hood", "crest on hood"
  std::string part, on;  ///< names; `on` is empty for a part's own seams
  bool operator==(const JointWork&) const = default;
};

/// When a detail goes on.
enum class DetailTurn { before_glue, before_seal, after_paint, last };

/// What a detail, a slit or a hold takes beside its pieces.
struct DetailWork {
  std::string id, name, part;
  DetailTurn turn = DetailTurn::before_seal;
  double hands_min = 0.0;
  bool glued = false;
  bool burns = false;  ///< worked with heat
  std::string caution;
  std::string stuff;  ///< what is joined, as in data/materials; empty: more of the part's own
  bool operator==(const DetailWork&) const = default;
};

/// One colour area with what it measures and what it lies on.
struct AreaWork {
  int id = 0;
  std::string name;
  double area_m2 = 0.0;
  Foam below;
  bool operator==(const AreaWork&) const = default;
};

/// What a plan is made for.
struct FinishWork {
  std::vector<StuffWork> stuffs;
  std::vector<JointWork> joints;
  std::vector<DetailWork> details;
  std::vector<AreaWork> areas;                           ///< those of the spec that are found on the form
  std::vector<std::vector<double>> border_mm, reach_mm;  ///< between those
  std::vector<double> bare_mm;                           ///< of each, along what is never painted
  bool heated = true;  ///< pieces are stretched with heat where their material bears it
  bool operator==(const FinishWork&) const = default;
  WorkSize whole() const;
};
/// Work on one kind alone.
FinishWork work_on(const Foam& foam, const WorkSize& size);
void add_to(WorkSize& sum, const WorkSize& more);

}  // namespace awl
