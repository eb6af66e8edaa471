#pragma once
#include "core/dress/detail.hpp"

namespace awl {

/// What a detail is made of and sits on, and what lines there are beside.
struct DressStuffs {
  Foam own, host;
  std::string host_kind;  ///< of the host's sheet; empty: the build's foam
  bool operator==(const DressStuffs&) const = default;
};

/// The line of a detail, and its image on the other side. `beside`: the lines of the detail it lies beside.
/// Errors: unknown_name, out_of_range, degenerate_shape with "dress/ID": what is not there, and what there is.
Result<std::vector<FormLine>> lines_of(
    const Detail& detail, const DressSite& site, const std::vector<FormLine>* beside_lines);

/// One detail made on a part. What is wrong with it stands in its yield's remarks; it then has no pieces.
Dressed dressed(const Detail& detail, const DressSite& site, const DressStuffs& stuffs, const DressRules& rules,
    const std::vector<FormLine>* beside_lines);

/// Where parts sit on this one: outlines, middles, levels and glue areas on its pieces.
Dressed footprints(const DressSite& site);

/// The foot of a guest on a host, as far as the guest's base rim lies on it. Empty where it does not.
std::vector<SiteLine> foot_of(const DressSite& host, const DressSite& guest);
/// The same kept with the host, if it lies there.
void add_foot(DressSite& host, const DressSite& guest);

}  // namespace awl
