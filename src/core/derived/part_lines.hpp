#pragma once
#include "core/derived/derived.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/site.hpp"

namespace awl {

/// A line a part has of itself, for a detail to follow.
struct PartLine {
  Track track;
  std::string words;  ///< "the lower edge", "seam ridge", "round the foot of the crest"
  double length_mm = 0.0;
};

/// Every rim, seam, named line and foot of one of the form's parts, the longest stretch of each name once.
/// Contract: `site` is of that part.
std::vector<PartLine> part_lines(const DressSite& site, const PartForm& form);

/// A part of the form as a place to dress, with the feet of those that sit on it. Errors: unknown_name.
Result<std::shared_ptr<const DressSite>> site_to_dress(const Build& build, const Derived& derived, int part);

/// One part as a place to dress, without feet.
DressSite dress_site(const PartForm& form, bool sweep);

}  // namespace awl
