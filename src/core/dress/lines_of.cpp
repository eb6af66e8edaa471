#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/dress.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

struct Traced {
  std::vector<Vec3> at;
  bool closed = false;
};

Error wrong(const Detail& d, Errc code, const std::string& text) {
  return {code, d.name + ": " + text, "dress/" + std::to_string(d.id)};
}

std::string names_in(const std::vector<SiteLine>& lines) {
  std::string all;
  for (const SiteLine& l : lines)
    if (all.find(l.name) == std::string::npos) all += (all.empty() ? "" : ", ") + l.name;
  return all.empty() ? "none" : all;
}

Vec3 across_middle(const Vec3& p) { return {-p.x(), p.y(), p.z()}; }

/// The stretch of this name that is nearest to the first marker, else the longest on the wearer's left.
const SiteLine* named_line(const std::vector<SiteLine>& lines, const Track& t, const DressSite& site) {
  const SiteLine* best = nullptr;
  double most = -1e300;
  for (const SiteLine& l : lines) {
    if (l.name != t.name) continue;
    double score = length_of(l.at, l.closed);
    if (!t.points.empty()) {
      const Vec3 asked = site.from_home(t.points.front());
      double least = 1e300;
      for (const Vec3& p : l.at) least = std::min(least, (p - asked).norm());
      score = -least;
    } else if (site.mirrored && l.at[l.at.size() / 2].x() < -1.0) {
      score *= 0.5;
    }
    if (score > most) most = score, best = &l;
  }
  return best;
}

tl::expected<Traced, Error> drawn(const Detail& d, const DressSite& site) {
  const Track& t = d.track;
  std::vector<Vec3> markers;
  for (const Vec3& p : t.points) markers.push_back(site.from_home(p));
  if (markers.empty())
    return tl::unexpected(wrong(d, Errc::empty_input, "it has no place yet; click on the form to give it one."));
  if (markers.size() == 1) return Traced{markers, false};
  const bool closed = t.closed && markers.size() > 2;
  const auto smooth = smooth_through(markers, closed, 2.0);
  const auto on = laid_on(site, smooth, closed);
  double off = 0.0;
  for (std::size_t i = 0; i < smooth.size(); ++i) off = std::max(off, (site.onto(smooth[i]) - smooth[i]).norm());
  if (const double apart = 0.5 * length_of(markers, closed) / static_cast<double>(markers.size());
      off > std::max(25.0, apart))
    return tl::unexpected(wrong(d, Errc::out_of_range,
        "its line leaves the form by " + fixed(off, 0) +
            " mm between two markers; put markers nearer to each other there."));
  return Traced{on, closed};
}

tl::expected<Traced, Error> level_round(const Detail& d, const DressSite& site) {
  if (d.track.points.empty())
    return tl::unexpected(wrong(d, Errc::empty_input, "it has no height yet; click on the form to give it one."));
  // A hair off, so that it runs along no row of corners.
  const double y = site.from_home(d.track.points.front()).y() + 1e-6 * site.edge_mm;
  Traced best;
  double most = 0.0;
  for (auto& line : section_lines(site.outer, {Vec3(0.0, y, 0.0), Vec3::UnitY()})) {
    const bool closed = line.size() > 3 && (line.front() - line.back()).norm() < 1e-9;
    if (closed) line.pop_back();
    if (const double length = length_of(line, closed); length > most) most = length, best = {std::move(line), closed};
  }
  if (best.at.size() < 2)
    return tl::unexpected(wrong(d, Errc::out_of_range, "the part has nothing at a height of " + fixed(y, 0) + " mm."));
  if (!best.closed) return best;
  const auto front = std::max_element(best.at.begin(), best.at.end(),
      [](const Vec3& a, const Vec3& b) { return a.z() - 0.01 * std::abs(a.x()) < b.z() - 0.01 * std::abs(b.x()); });
  // Begun exactly in front where it crosses the middle there.
  const std::size_t n = best.at.size(), i = static_cast<std::size_t>(front - best.at.begin());
  std::rotate(best.at.begin(), front, best.at.end());
  for (const std::size_t j : {(i + 1) % n, (i + n - 1) % n}) {
    const Vec3 &a = best.at.front(), b = best.at[(j + n - i) % n];
    if (a.x() * b.x() < 0.0) {
      const Vec3 middle = a + a.x() / (a.x() - b.x()) * (b - a);
      if ((middle - a).norm() < 1e-9) break;
      if ((j + n - i) % n == 1)
        best.at.push_back(best.at.front()), best.at.front() = middle;
      else
        best.at.insert(best.at.begin(), middle);
      break;
    }
  }
  return best;
}

tl::expected<Traced, Error> traced(const Detail& d, const DressSite& site, const std::vector<FormLine>* beside_lines) {
  const Track& t = d.track;
  const auto of_named = [&](const std::vector<SiteLine>& lines, const char* what) -> tl::expected<Traced, Error> {
    if (const SiteLine* line = named_line(lines, t, site)) return Traced{line->at, line->closed};
    return tl::unexpected(wrong(d, Errc::unknown_name,
        "the part " + site.name + " has no " + what + " called \"" + t.name + "\"; it has " + names_in(lines) + "."));
  };
  switch (t.from) {
    case TrackFrom::drawn:
      return drawn(d, site);
    case TrackFrom::way: {
      if (t.points.size() < 2)
        return tl::unexpected(
            wrong(d, Errc::empty_input, "the shortest way needs both its ends; click on the form twice."));
      const auto way = shortest_way(site, site.from_home(t.points.front()), site.from_home(t.points.back()));
      if (!way) return tl::unexpected(wrong(d, way.error().code, way.error().text));
      return Traced{*way, false};
    }
    case TrackFrom::round:
      return level_round(d, site);
    case TrackFrom::rim:
      if (t.number >= 1 && t.number <= static_cast<int>(site.rims.size()))
        return Traced{site.rims[t.number - 1].at, true};
      return tl::unexpected(wrong(d, Errc::unknown_name,
          "the part " + site.name + " has " + std::to_string(site.rims.size()) + " rims, not " +
              std::to_string(t.number) + "."));
    case TrackFrom::seam:
      return of_named(site.seams, "seam");
    case TrackFrom::feature:
      return of_named(site.features, "line");
    case TrackFrom::foot:
      for (const SiteFoot& foot : site.feet)
        if (foot.guest == t.number && !foot.lines.empty()) {
          const auto longest =
              std::max_element(foot.lines.begin(), foot.lines.end(), [](const SiteLine& a, const SiteLine& b) {
                return length_of(a.at, a.closed) < length_of(b.at, b.closed);
              });
          return Traced{longest->at, longest->closed};
        }
      return tl::unexpected(
          wrong(d, Errc::unknown_name, "no part number " + std::to_string(t.number) + " sits on " + site.name + "."));
    case TrackFrom::beside:
      if (beside_lines != nullptr && !beside_lines->empty())
        return Traced{beside_lines->front().at, beside_lines->front().closed};
      return tl::unexpected(wrong(d, Errc::unknown_name, "the detail it lies beside has no line."));
  }
  return Traced{};
}

/// How far two lines are from being the same.
bool same_line(const FormLine& a, const FormLine& b) {
  for (std::size_t i = 0; i < a.size(); i += std::max<std::size_t>(1, a.size() / 12)) {
    double least = 1e300;
    for (std::size_t j = 0; j < b.size(); ++j)
      least = std::min(least, (closest_on_stretch(a.at[i], b.at[j], b.at[b.next(j)]) - a.at[i]).norm());
    if (least > 1.0) return false;
  }
  return true;
}

}  // namespace

Result<std::vector<FormLine>> lines_of(
    const Detail& detail, const DressSite& site, const std::vector<FormLine>* beside_lines) {
  const auto found = traced(detail, site, beside_lines);
  if (!found) return tl::unexpected(found.error());
  const Track& t = detail.track;
  // Turns between markers are evened out over what lies between them.
  const double spacing = t.from == TrackFrom::drawn && found->at.size() > 2
      ? length_of(found->at, found->closed) / static_cast<double>(std::max<std::size_t>(1, t.points.size()))
      : 0.0;
  FormLine line = line_through(site, found->at, found->closed, std::clamp(spacing, 0.0, 60.0));
  if (found->at.size() > 1) {
    auto moved = beside(site, line, t.off_mm);
    if (!moved) return tl::unexpected(wrong(detail, moved.error().code, moved.error().text));
    line = stretch_of(site, *moved, t.start, t.end);
    const bool own = t.from == TrackFrom::rim || t.from == TrackFrom::seam || t.from == TrackFrom::foot;
    if (!(own && t.off_mm == 0.0) && crosses_itself(line, 0.7))
      return tl::unexpected(wrong(detail, Errc::degenerate_shape, "its line crosses itself; draw it as two."));
  }
  std::vector<FormLine> lines{std::move(line)};
  if (!detail.mirrored || !site.mirrored) return lines;
  constexpr double kMiddleMm = 4.0;  // so near to the middle it is its own image
  if (std::all_of(
          lines.front().at.begin(), lines.front().at.end(), [](const Vec3& p) { return std::abs(p.x()) < kMiddleMm; }))
    return lines;
  FormLine image = lines.front();
  for (Vec3& p : image.at) p = across_middle(p);
  for (Vec3& n : image.normal) n = across_middle(n);
  // Walked the other way, so that its left is the image of the left.
  const auto turned = [&](auto& all) { std::reverse(all.begin() + (image.closed ? 1 : 0), all.end()); };
  turned(image.at), turned(image.normal), turned(image.turn);
  if (lines.front().size() == 1 || !same_line(lines.front(), image)) lines.push_back(std::move(image));
  return lines;
}

}  // namespace awl
