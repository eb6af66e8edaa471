#include "core/derived/part_lines.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/derived/whereabouts.hpp"
#include "core/dress/dress.hpp"

namespace awl {

DressSite dress_site(const PartForm& form, bool sweep) {
  DressSite::Source source;
  source.part = form.part, source.name = form.name, source.form = &form.surface;
  source.span = span_of(form.surface, form.name, form.outside, form.thickness_mm);
  source.features = form.features, source.sweep = sweep;
  return DressSite(source);
}

std::vector<PartLine> part_lines(const DressSite& site, const PartForm& form) {
  std::vector<PartLine> all;
  const Box box = box_of(form.surface.mesh.vertices);
  for (std::size_t i = 0; i < site.rims.size(); ++i) {
    const SiteLine& rim = site.rims[i];
    Vec3 middle = Vec3::Zero();
    for (const Vec3& p : rim.at) middle += p / static_cast<double>(rim.at.size());
    const double length = length_of(rim.at, true);
    PartLine line;
    line.track.from = TrackFrom::rim, line.track.number = static_cast<int>(i) + 1;
    constexpr double kOpeningMm = 450.0;  // shorter ones are eyes and vents
    line.words = "rim " + std::to_string(i + 1) + ": " +
        (length < kOpeningMm ? std::string("an opening") +
                    (middle.x() > 5.0           ? ", left"
                            : middle.x() < -5.0 ? ", right"
                                                : "")
                             : edge_words(box, middle));
    line.length_mm = length;
    all.push_back(std::move(line));
  }
  const auto add_named = [&](const std::vector<SiteLine>& lines, TrackFrom from, const char* before) {
    for (const SiteLine& l : lines) {
      const auto same = std::find_if(
          all.begin(), all.end(), [&](const PartLine& p) { return p.track.from == from && p.track.name == l.name; });
      if (same != all.end()) {
        same->length_mm = std::max(same->length_mm, length_of(l.at, l.closed));
        continue;
      }
      PartLine line;
      line.track.from = from, line.track.name = l.name;
      line.words = before + l.name, line.length_mm = length_of(l.at, l.closed);
      all.push_back(std::move(line));
    }
  };
  add_named(site.features, TrackFrom::feature, "line: ");
  add_named(site.seams, TrackFrom::seam, "seam: ");
  for (const SiteFoot& foot : site.feet) {
    PartLine line;
    line.track.from = TrackFrom::foot, line.track.number = foot.guest;
    line.words = "round the foot of the " + foot.name;
    for (const SiteLine& l : foot.lines) line.length_mm = std::max(line.length_mm, length_of(l.at, l.closed));
    all.push_back(std::move(line));
  }
  return all;
}

Result<std::shared_ptr<const DressSite>> site_to_dress(const Build& build, const Derived& derived, int part) {
  const Part* of = find_part(build, part);
  const PartForm* form = derived.form && of != nullptr ? derived.form->of(part) : nullptr;
  if (form == nullptr)
    return fail(Errc::unknown_name, "Part number " + std::to_string(part) + " has no form yet.", "parts");
  auto site = std::make_shared<DressSite>(dress_site(*form, std::holds_alternative<SweepSpec>(of->shape)));
  for (const auto& guest : derived.form->parts)
    if (const Part* other = find_part(build, guest->part); other != nullptr && other->on == part)
      add_foot(*site, dress_site(*guest, false));
  return std::shared_ptr<const DressSite>(std::move(site));
}

}  // namespace awl
