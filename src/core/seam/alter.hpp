#pragma once
#include "core/seam/panels.hpp"

namespace awl {

/// A pattern taken in or let out at a seam or a free edge, tapering along it; or what was cut off on the foam itself.
struct Alteration {
  int id = 1;
  int part = 1;
  std::string seam;       ///< the seam's name in its part; empty: the free edge of `panel`
  std::string panel;      ///< of a seam: only this panel's side; empty: half on each side
  double first_mm = 0.0;  ///< at the upper (or front) end: + taken in, - let out
  double middle_mm = 6.0;
  double last_mm = 0.0;  ///< at the lower end
  bool mirrored = true;  ///< the same on the other side
  bool on_foam = false;  ///< was cut on the glued foam already; kept so that the next pattern has it
  std::string note;
  bool operator==(const Alteration&) const = default;
};

inline constexpr double kMostAlteredMm = 60.0;

/// Errors: out_of_range above 60 mm or for no number; empty_input without seam and panel.
Result<void> check_alteration(const Alteration& alteration);
/// "6 mm taken in at seam belt left", "4 mm cut off on the foam at ...".
std::string words_of(const Alteration& alteration);

/// Moves the edges concerned in the flat panels; a panel follows harmonically, so that marks ride along. Where an edge
/// ends, the neighbouring edge is shortened along itself.
///
/// `set` is of one part. One-sided alterations part a mirrored pair into two pieces of their own.
/// Errors: those of check_alteration; unknown_name for a seam or panel that is not there any more; out_of_range with
/// the most
///         it bears if a piece would turn over or cross itself. The place is "alterations/ID".
Result<PanelSet> alter(PanelSet set, const std::vector<Alteration>& alterations);

/// Whether one more alteration could be made on such panels. Errors: those of alter.
Result<void> alter_one(const PanelSet& set, const Alteration& alteration);

/// How long a free edge of the form is on the flat pieces, before and after they were altered.
struct RimGirth {
  Vec3 at = Vec3::Zero();
  double before_mm = 0.0, after_mm = 0.0;
};
std::vector<RimGirth> rim_girths(const PanelSet& set);

/// A stretch of seam between two panels whose sides are not equally long any more.
struct UnequalSeam {
  SeamId seam;
  PanelId longer, shorter;
  double by_mm = 0.0, of_mm = 0.0;  ///< how much longer, and how long
  std::string
      go_on;  ///< name of the seam that goes on beyond it, where taking in the same may even it out; empty: none
  bool to_free_edge = false;  ///< it ends at a free edge of the form: what is too long stands out there and is trimmed
};
/// Those unequal by more than `least_mm`.
std::vector<UnequalSeam> unequal_seams(const PanelSet& set, double least_mm = 1.0);

}  // namespace awl
