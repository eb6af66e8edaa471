#pragma once
#include <map>
#include <string>
#include <vector>

#include "core/head/landmarks.hpp"
#include "core/seam/cutter.hpp"

namespace awl {

// Short lists somebody wrote beside a mesh or a build, as JSON; numbers in millimetres, or in the mesh's own unit.

/// Places marked on a scan: {"glabella":[x,y,z], ...}; the others are pronasale, tragion_l, tragion_r and vertex.
/// Errors: bad_file, too_large, unknown_name of a place that is not asked for.
Result<std::map<Landmark, Vec3>> scan_marks_from(const std::string& text);

/// Cuts over a mesh: {"cuts":[[[x,y,z], ...], ...]}, at most 500 of 5000 places each. Errors: bad_file, too_large.
Result<std::vector<CutLine>> cuts_from(const std::string& text);

/// What was read on a built headform: {"crown to back":136.5, ...}; whether there is such a distance the check says.
/// Errors: bad_file, too_large, out_of_range.
Result<std::map<std::string, double>> check_readings_from(const std::string& text);

}  // namespace awl
