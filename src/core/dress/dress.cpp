#include "core/dress/dress.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

double area_of(const std::vector<Vec3>& outline) {
  Vec3 middle = Vec3::Zero(), area = Vec3::Zero();
  for (const Vec3& p : outline) middle += p / static_cast<double>(outline.size());
  for (std::size_t i = 0; i < outline.size(); ++i)
    area += 0.5 * (outline[i] - middle).cross(outline[(i + 1) % outline.size()] - middle);
  return area.norm();
}

void add_trace(
    Yield& y, const std::vector<Vec3>& line, bool closed, TraceKind kind, const std::string& label, bool paired) {
  PieceMark mark{PieceMark::Kind::trace, line, 0.0, label, y.part, kind, paired};
  if (closed) mark.line.push_back(line.front());
  if (mark.line.size() > 1) y.marks.push_back(std::move(mark));
}

/// A foot's middle line and levels across it, where they cross its outline.
void add_guides(Yield& y, const DressSite& site, const SiteLine& foot, bool paired) {
  constexpr double kLevelMm = 20.0;
  Box box;
  for (const Vec3& p : foot.at) box.include(p);
  const Vec3 middle = 0.5 * (box.low + box.high);
  const auto across = [&](int axis, double value, TraceKind kind) {
    std::vector<Vec3> ends;
    for (std::size_t i = 0; i < foot.at.size(); ++i) {
      const Vec3 &a = foot.at[i], &b = foot.at[(i + 1) % foot.at.size()];
      if ((a[axis] < value) == (b[axis] < value)) continue;
      ends.push_back(a + (value - a[axis]) / (b[axis] - a[axis]) * (b - a));
    }
    if (ends.size() < 2) return;
    add_trace(y, laid_on(site, {ends[0], ends[1]}, false), false, kind, {}, paired);
  };
  across(box.low.x() < 0.0 && box.high.x() > 0.0 ? 0 : 2, box.low.x() < 0.0 && box.high.x() > 0.0 ? 0.0 : middle.z(),
      TraceKind::centre);
  for (double h = kLevelMm * std::ceil(box.low.y() / kLevelMm); h < box.high.y(); h += kLevelMm)
    across(1, h + 1e-4, TraceKind::level);
}

/// Of every line: how far it is moved beside itself, and where an open stretch of it begins and ends.
void add_line_grips(Dressing& d) {
  if (d.lines.empty() || d.lines.front().size() < 2 || needs_of(d.detail.shape) == LineNeed::place) return;
  const FormLine& line = d.lines.front();
  const Track& track = d.detail.track;
  const FormLine::At third = line.at_mm(line.length_mm / 3.0);
  if (track.from != TrackFrom::drawn && track.from != TrackFrom::way) d.grip("off", third.at, third.left);
  if (line.closed) return;
  const double whole = line.length_mm / std::max(0.01, track.end - track.start);
  const FormLine::At first = line.at_mm(0.0), last = line.at_mm(line.length_mm);
  d.grip("line-start", first.at, first.along, 1.0 / whole);
  d.grip("line-end", last.at, last.along, 1.0 / whole);
}

}  // namespace

Dressed dressed(const Detail& detail, const DressSite& site, const DressStuffs& stuffs, const DressRules& rules,
    const std::vector<FormLine>* beside_lines) {
  Dressed out;
  out.detail = detail.id, out.kind = kind_of(detail.shape), out.name = detail.name;
  out.yield.part = site.part, out.yield.name = detail.name;
  const auto refused = [&](const Error& why) {
    out.yield.remarks.push_back({"dress.line", Severity::warning, "dress/" + std::to_string(detail.id), why.text, {},
        {}, {{"Take it away", "drop-detail " + std::to_string(detail.id)}}});
  };
  const LineNeed need = needs_of(detail.shape);
  const bool given = detail.track.from != TrackFrom::drawn || !detail.track.points.empty();
  if (need != LineNeed::none && (need != LineNeed::if_given || given)) {
    auto lines = lines_of(detail, site, beside_lines);
    if (!lines) return refused(lines.error()), out;
    out.lines = std::move(*lines);
    if (need != LineNeed::place && (out.lines.front().size() < 2 || out.lines.front().length_mm < 3.0))
      return refused({Errc::degenerate_shape,
                 detail.name + ": it is made along a line, and this is a place; click on the form once more.", {}}),
             out;
  }
  Dressing d{site, detail, rules, stuffs.own, stuffs.host, stuffs.host_kind, out.lines, out};
  std::visit([&](const auto& shape) { put_on(shape, d); }, detail.shape);
  add_line_grips(d);
  // What is glued on is what its pieces are cut from.
  for (BenchStep& step : out.yield.steps)
    if (step.glued) step.stuff = out.yield.pieces.empty() ? detail.stuff : out.yield.pieces.front().stuff;
  return out;
}

std::vector<SiteLine> foot_of(const DressSite& host, const DressSite& guest) {
  constexpr double kSpareMm = 3.0;
  const double reach = guest.thickness_mm + kSpareMm;
  std::vector<SiteLine> feet;
  for (const SiteLine& rim : guest.rims) {
    // As far as the rim lies on the host's outer face, and not past the host's own rim.
    std::vector<char> lies(rim.at.size(), 0);
    std::vector<Vec3> on(rim.at.size());
    std::size_t count = 0;
    for (std::size_t i = 0; i < rim.at.size(); ++i) {
      const NearestHit hit = host.hit(rim.at[i]);
      on[i] = hit.point;
      const Vec3 off = rim.at[i] - hit.point, normal = host.normal_at(hit);
      const double aside = (off - normal.dot(off) * normal).norm();
      lies[i] = off.norm() < reach && aside < 0.6 * std::max(1.0, off.norm()) + 0.5;
      count += lies[i] ? 1 : 0;
    }
    if (count < 3) continue;
    if (count == rim.at.size()) {
      feet.push_back({guest.name, on, true});
      continue;
    }
    const std::size_t n = rim.at.size();
    std::size_t start = 0;
    while (lies[start]) ++start;  // a place that does not, to begin at
    SiteLine stretch{guest.name, {}, false};
    for (std::size_t k = 1; k <= n; ++k) {
      const std::size_t i = (start + k) % n;
      if (lies[i]) stretch.at.push_back(on[i]);
      if ((!lies[i] || k == n) && !stretch.at.empty()) {
        if (stretch.at.size() > 2) feet.push_back(stretch);
        stretch.at.clear();
      }
    }
  }
  return feet;
}

void add_foot(DressSite& host, const DressSite& guest) {
  SiteFoot foot{guest.part, guest.name, guest.thickness_mm, guest.mirrored, foot_of(host, guest)};
  // The wall stands square where both faces' normals are; where they agree the face goes on into it.
  double sum = 0.0;
  int count = 0;
  for (const SiteLine& line : foot.lines)
    for (const Vec3& p : line.at) {
      const double across = host.normal_at(host.hit(p)).dot(guest.normal_at(guest.hit(p)));
      sum += std::acos(std::clamp(-across, -1.0, 1.0)), ++count;
    }
  if (count > 0) foot.corner_rad = sum / count;
  if (!foot.lines.empty()) host.feet.push_back(std::move(foot));
}

Dressed footprints(const DressSite& site) {
  Dressed out;
  out.kind = "feet", out.name = site.name + ", what sits on it";
  out.yield.part = site.part, out.yield.name = out.name;
  BenchStep step;
  step.at_end = false;
  step.title = "Draw on the " + site.name + " what will sit on it";
  for (const SiteFoot& foot : site.feet) {
    double length = 0.0, area = 0.0;
    for (const SiteLine& line : foot.lines) {
      length += length_of(line.at, line.closed);
      const bool left = !site.mirrored || !foot.pair || line.at[line.at.size() / 2].x() >= 0.0;
      add_trace(out.yield, laid_on(site, line.at, line.closed), line.closed, TraceKind::foot,
          left ? foot.name : std::string(), true);
      if (!line.closed) continue;
      area += area_of(line.at);
      add_guides(out.yield, site, line, true);
      const FormLine along = line_through(site, line.at, true);
      // The glue lies between the outline and the same a wall further in, whichever way the rim runs.
      Vec3 middle = Vec3::Zero();
      for (const Vec3& p : along.at) middle += p / static_cast<double>(along.size());
      const double inwards = along.left(0).dot(middle - along.at[0]) > 0.0 ? foot.wall_mm : -foot.wall_mm;
      if (const auto in = beside(site, along, inwards)) add_trace(out.yield, in->at, true, TraceKind::glue, {}, true);
    }
    step.lines.push_back("The outline of " + foot.name + ", " + fixed(length, 0) + " mm round" +
        (area > 0.0 ? ", is drawn with its middle, levels every 20 mm and its glue area."
                    : ", as far as it lies on it, is drawn."));
    out.count += static_cast<int>(foot.lines.size());
    out.feet_mm.push_back({foot.name, length});
  }
  if (out.count > 0) {
    step.lines.push_back("Keep these lines when the pieces are cut; they show where it sits.");
    out.yield.steps.push_back(std::move(step));
  }
  return out;
}

}  // namespace awl
