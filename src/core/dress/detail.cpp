#include "core/dress/detail.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr const char* kTracks[] = {"drawn", "way", "round", "rim", "seam", "feature", "foot", "beside"};

template <std::size_t... I>
std::vector<DetailShape> one_of_each(std::index_sequence<I...>) {
  return {DetailShape(std::variant_alternative_t<I, DetailShape>{})...};
}

std::string place_of(const Detail& d) { return "dress/" + std::to_string(d.id); }

Result<void> check_track(const DressSpec& spec, const Detail& d) {
  const Track& t = d.track;
  if (t.points.size() > kMostDetailMarkers)
    return fail(Errc::too_large,
        d.name + " has " + std::to_string(t.points.size()) + " markers; " + std::to_string(kMostDetailMarkers) +
            " are the most.",
        place_of(d));
  for (const Vec3& p : t.points)
    if (!p.allFinite() || p.norm() > 1e5)
      return fail(Errc::out_of_range, "A marker of " + d.name + " is nowhere near the form.", place_of(d));
  if (!(t.start >= 0.0 && t.end <= 1.0 && t.end - t.start >= 0.01))
    return fail(Errc::out_of_range,
        d.name + " goes from " + fixed(t.start, 2) + " to " + fixed(t.end, 2) + " of its line; from 0 to 1, forwards.",
        place_of(d));
  if (!(std::abs(t.off_mm) <= 600.0))
    return fail(Errc::out_of_range, d.name + " lies " + fixed(t.off_mm, 0) + " mm beside its line; 600 mm is the most.",
        place_of(d));
  if (t.number < 0 || t.number > 100000)
    return fail(Errc::out_of_range,
        "There is no number " + std::to_string(t.number) + " for the line of " + d.name + ".", place_of(d));
  if (t.from != TrackFrom::beside) return {};
  // Only beside one that is made before it: no rings of details.
  for (const Detail& other : spec.details) {
    if (other.id == d.id) break;
    if (other.id == t.number && other.part == d.part) return {};
  }
  return fail(Errc::unknown_name,
      d.name + " lies beside detail " + std::to_string(t.number) +
          ", and no detail before it on its part has that number.",
      place_of(d));
}

}  // namespace

const char* name_of(TrackFrom from) { return kTracks[static_cast<int>(from)]; }

Result<TrackFrom> track_from(const std::string& name) {
  for (int i = 0; i < static_cast<int>(std::size(kTracks)); ++i)
    if (name == kTracks[i]) return static_cast<TrackFrom>(i);
  return fail(Errc::unknown_name,
      "A line comes from drawn, way, round, rim, seam, feature, foot or beside, not from \"" + name + "\".");
}

const Detail* find_detail(const DressSpec& spec, int id) {
  const auto at = std::find_if(spec.details.begin(), spec.details.end(), [id](const Detail& d) { return d.id == id; });
  return at == spec.details.end() ? nullptr : &*at;
}

Detail* find_detail(DressSpec& spec, int id) {
  return const_cast<Detail*>(find_detail(static_cast<const DressSpec&>(spec), id));
}

const char* kind_of(const DetailShape& shape) {
  return std::visit([](const auto& s) { return std::decay_t<decltype(s)>::kKind; }, shape);
}

const char* label_of(const DetailShape& shape) {
  return std::visit([](const auto& s) { return std::decay_t<decltype(s)>::kLabel; }, shape);
}

LineNeed needs_of(const DetailShape& shape) {
  return std::visit(
      [](const auto& s) {
        if constexpr (requires { s.needs(); })
          return s.needs();
        else
          return LineNeed::line;
      },
      shape);
}

const std::vector<DetailShape>& detail_kinds() {
  static const auto kinds = one_of_each(std::make_index_sequence<std::variant_size_v<DetailShape>>{});
  return kinds;
}

Result<DetailShape> detail_shape_from(const std::string& kind) {
  std::string all;
  for (const DetailShape& shape : detail_kinds()) {
    if (kind == kind_of(shape)) return shape;
    all += (all.empty() ? "" : ", ") + std::string(kind_of(shape));
  }
  return fail(Errc::unknown_name, "There is no kind of detail called \"" + kind + "\"; there are " + all + ".");
}

std::vector<Dial> dials_of(Detail& d) {
  Dials dials;
  dials.add(std::visit([](auto& s) { return dials_of(s); }, d.shape));
  dials.group("Its line")
      .length("off", d.track.off_mm, {-600, 600}, "Moved beside it",
          "From a rim inwards; of others to the left, - to the right.")
      .share("line-start", d.track.start, {0, 0.99}, "Begins at", "Share of the line.")
      .share("line-end", d.track.end, {0.01, 1}, "Ends at", "Share of the line.")
      .length("sheet", d.thickness_mm, {0, 60}, "Sheet it is cut from", "0: as usual for what it is.");
  return std::move(dials).all();
}

Result<void> check_dress(const DressSpec& spec) {
  if (spec.details.size() > kMostDetails)
    return fail(Errc::too_large,
        "A build holds up to " + std::to_string(kMostDetails) + " details, not " + std::to_string(spec.details.size()) +
            ".",
        "dress");
  std::set<int> ids;
  for (const Detail& d : spec.details) {
    if (d.id < 1 || !ids.insert(d.id).second)
      return fail(Errc::out_of_range, "Two details cannot share the number " + std::to_string(d.id) + ".", "dress");
    if (d.name.empty() || d.name.size() > 80)
      return fail(Errc::out_of_range, "A detail's name has 1 to 80 letters.", place_of(d));
    Detail copy = d;
    if (auto good = check_dials(dials_of(copy), place_of(d)); !good) return good;
    if (auto good = check_track(spec, d); !good) return good;
  }
  return {};
}

}  // namespace awl
