#pragma once
#include "core/derived/derived.hpp"
#include "core/seam/correction.hpp"

namespace awl {

/// Outlines of parts corrected so that they come out nearer to their forms.
struct CorrectedForm {
  std::vector<Correction> corrections;  ///< of the parts that gain by it
  std::vector<std::string> said;        ///< of every part, what it gains or why it is left as it is
};

/// `part`: its number; 0 for all that are made of sheet. `closer`: outlines may move by several millimetres where that
/// brings it nearer; else by about one. Parts altered by hand are left as they were made.
/// Errors: cancelled; empty_input while there are no panels; unknown_name. Cost: 1 to 20 s a part, side by side.
Result<CorrectedForm> correct_outlines(const Derived& derived, const Build& build, const Materials& materials, int part,
    bool closer, const Progress& progress = {});

}  // namespace awl
