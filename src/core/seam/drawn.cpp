#include "core/seam/drawn.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kLedEveryMm = 9.0;    // between places a cut is led through
constexpr double kMostSteps = 1000.0;  // between two markers, however far apart
constexpr double kSeamReachMm = 5.0;   // an end so near to a seam or border is put on it
constexpr double kBeyondMm = 3.0;
constexpr double kMostMarkers = 60;
constexpr double kLeastReachMm = 2.0, kMostReachMm = 150.0;
constexpr double kHiddenWeight = 0.35,
                 kShownWeight = 4.0;  // workshop values: a seam under a strip costs a third, one in front four times

Mesh at_home(const Mesh& form, const std::vector<Vec3>& home) {
  return home.empty() ? form : Mesh{home, form.triangles};
}

/// One span of the spline between b and c, `t` from 0 to 1; knots by the square root of the distances.
Vec3 centripetal(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d, double t) {
  const auto gap = [](const Vec3& p, const Vec3& q) { return std::sqrt(std::max((q - p).norm(), 1e-9)); };
  const double t0 = 0.0, t1 = t0 + gap(a, b), t2 = t1 + gap(b, c), t3 = t2 + gap(c, d), x = t1 + t * (t2 - t1);
  const auto mix = [x](const Vec3& p, const Vec3& q, double from, double to) {
    return Vec3(((to - x) * p + (x - from) * q) / (to - from));
  };
  const Vec3 a1 = mix(a, b, t0, t1), a2 = mix(b, c, t1, t2), a3 = mix(c, d, t2, t3);
  return mix(mix(a1, a2, t0, t2), mix(a2, a3, t1, t3), t1, t2);
}

/// The cut of a drawn seam on a draft, as places of the draft.
CutLine cut_of(const DrawnSeam& seam, const Places& places, bool fold, bool image) {
  CutLine line = smooth_through(seam.points, seam.closed, kLedEveryMm);
  for (Vec3& p : line) {
    if (image) p.x() = -p.x();
    if (fold) p.x() = std::abs(p.x());
  }
  // What was drawn out over the form's edge ends there.
  const auto beyond = [&](const Vec3& p) { return places.beyond_edge(p) > kBeyondMm; };
  if (!seam.closed) {
    while (line.size() > 2 && beyond(line.back()) && beyond(line[line.size() - 2])) line.pop_back();
    while (line.size() > 2 && beyond(line[0]) && beyond(line[1])) line.erase(line.begin());
  }
  for (Vec3& p : line) p = places.on_form(p);
  return line;
}

/// Middles of chains in order, from end to end.
std::vector<int> ordered(const std::vector<std::pair<int, int>>& edges, bool& closed) {
  std::map<int, std::vector<int>> next;
  for (const auto& [a, b] : edges) next[a].push_back(b), next[b].push_back(a);
  int start = edges.front().first;
  closed = true;
  for (const auto& [v, others] : next)
    if (others.size() == 1) {
      start = v, closed = false;
      break;
    }
  std::vector<int> chain{start};
  for (int before = -1, now = start;;) {
    int to = -1;
    for (const int w : next[now])
      if (w != before) {
        to = w;
        break;
      }
    if (to < 0 || to == start) break;
    chain.push_back(to), before = now, now = to;
    if (chain.size() > next.size()) break;
  }
  return chain;
}

/// As few of the points as keep the line within `off_mm` (Douglas and Peucker).
void keep_few(const std::vector<Vec3>& line, std::size_t from, std::size_t to, double off_mm, std::vector<char>& kept) {
  double worst = 0.0;
  std::size_t at = from;
  const Vec3 along = line[to] - line[from];
  for (std::size_t i = from + 1; i < to; ++i) {
    const double t = std::clamp((line[i] - line[from]).dot(along) / std::max(along.squaredNorm(), 1e-12), 0.0, 1.0);
    const double d = (line[from] + t * along - line[i]).norm();
    if (d > worst) worst = d, at = i;
  }
  if (worst <= off_mm) return;
  kept[at] = 1;
  keep_few(line, from, at, off_mm, kept), keep_few(line, at, to, off_mm, kept);
}

}  // namespace

Result<void> check_drawn(const DrawnSeam& seam) {
  const std::string where = "seams/" + std::to_string(seam.id);
  const std::size_t least = seam.closed ? 3 : 2;
  if (seam.points.size() < least)
    return fail(Errc::degenerate_shape,
        "The seam " + seam.name + " has " + std::to_string(seam.points.size()) + " markers; it needs " +
            std::to_string(least) + ".",
        where);
  if (seam.points.size() > kMostMarkers)
    return fail(Errc::out_of_range,
        "The seam " + seam.name + " has " + std::to_string(seam.points.size()) + " markers; 60 is the most.", where);
  for (const Vec3& p : seam.points)
    if (!p.allFinite() || p.norm() > 1e5)
      return fail(Errc::out_of_range, "A marker of the seam " + seam.name + " is nowhere near the form.", where);
  if (seam.is_strip() && !(seam.reach_mm >= kLeastReachMm && seam.reach_mm <= kMostReachMm))
    return fail(Errc::out_of_range,
        "The strip along " + seam.name + " reaches " + fixed(seam.reach_mm, 0) +
            " mm to each side; 2 to 150 mm can be.",
        where);
  return {};
}

const char* name_of(LineRole role) {
  switch (role) {
    case LineRole::cut:
      return "cut";
    case LineRole::hides:
      return "hides";
    case LineRole::shows:
      return "shows";
    case LineRole::colours:
      return "colours";
  }
  return "cut";
}

Result<LineRole> line_role_from(const std::string& name) {
  for (const auto role : {LineRole::cut, LineRole::hides, LineRole::shows, LineRole::colours})
    if (name == name_of(role)) return role;
  return fail(Errc::unknown_name,
      "A line is drawn to cut, because a seam hides there, because that place shows, or for colours to meet, not as "
      "\"" +
          name + "\".");
}

Strips::Strips(const Places& places, const std::vector<DrawnSeam>& lines, bool half) {
  for (DrawnLine& on : lines_on(places, lines)) {
    if (!on.seam.is_strip()) continue;
    if (half && on.seam.mirrored) {
      on.image = on.line;
      for (Vec3& p : on.image) p.x() = -p.x();
    }
    strips_.push_back({on.seam.role, on.seam.reach_mm, on.line});
    if (!on.image.empty()) strips_.push_back({on.seam.role, on.seam.reach_mm, on.image});
  }
}

/// How deep inside strips of that kind a place lies, as a share of their reach; 0 outside.
double Strips::within(const Vec3& place, LineRole role) const {
  double deepest = 0.0;
  for (const Strip& s : strips_) {
    if (s.role != role) continue;
    for (std::size_t i = 0; i + 1 < s.line.size(); ++i)
      deepest =
          std::max(deepest, 1.0 - (closest_on_stretch(place, s.line[i], s.line[i + 1]) - place).norm() / s.reach_mm);
  }
  return deepest;
}

double Strips::weight(const Vec3& place) const {
  return hides(place) ? kHiddenWeight : shows(place) ? kShownWeight : 1.0;
}

std::optional<Vec3> Strips::hidden_place(const Vec3& place, double reach) const {
  std::optional<Vec3> best;
  double nearest = 1e300;
  for (const Strip& s : strips_) {
    if (s.role != LineRole::hides) continue;
    for (std::size_t i = 0; i + 1 < s.line.size(); ++i) {
      const Vec3 at = closest_on_stretch(place, s.line[i], s.line[i + 1]);
      const double mm = (at - place).norm();
      if (mm < reach * s.reach_mm && mm < nearest) nearest = mm, best = at;
    }
  }
  return best;
}

std::vector<Vec3> smooth_through(const std::vector<Vec3>& points, bool closed, double step_mm) {
  const int n = static_cast<int>(points.size());
  if (n < 2) return points;
  const auto at = [&](int i) -> Vec3 {
    if (closed) return points[((i % n) + n) % n];
    if (i < 0) return 2.0 * points[0] - points[1];
    if (i >= n) return 2.0 * points[n - 1] - points[n - 2];
    return points[i];
  };
  std::vector<Vec3> line{points[0]};
  for (int i = 0; i < (closed ? n : n - 1); ++i) {
    const int steps = static_cast<int>(std::clamp(std::ceil((at(i + 1) - at(i)).norm() / step_mm), 1.0, kMostSteps));
    for (int k = 1; k <= steps; ++k)
      line.push_back(
          k == steps ? at(i + 1) : centripetal(at(i - 1), at(i), at(i + 1), at(i + 2), static_cast<double>(k) / steps));
  }
  return line;
}

Places::Places(const Mesh& form, const std::vector<Vec3>& home)
    : form_(form), home_(home), near_form_(form), near_home_(awl::at_home(form, home)) {
  for (const auto& loop : border_loops(form_)) border_.insert(loop.begin(), loop.end());
}

Vec3 Places::on_form(const Vec3& home) const { return value_at(near_home_.to(home), form_, form_.vertices); }
Vec3 Places::at_home(const Vec3& on_form) const {
  return value_at(near_form_.to(on_form), form_, home_.empty() ? form_.vertices : home_);
}

double Places::beyond_edge(const Vec3& home) const {
  const NearestHit hit = near_home_.to(home);
  int corners = 0;
  for (int k = 0; k < 3; ++k) {
    if (hit.weights[k] < 1e-6) continue;
    ++corners;
    if (border_.count(form_.triangles[hit.triangle][k]) == 0) return 0.0;
  }
  return corners < 3 ? (hit.point - home).norm() : 0.0;
}

std::vector<DrawnLine> lines_on(const Places& places, const std::vector<DrawnSeam>& seams) {
  std::vector<DrawnLine> lines;
  for (const DrawnSeam& seam : seams) {
    DrawnLine on{seam, {}, cut_of(seam, places, false, false), {}};
    for (const Vec3& p : seam.points) on.markers.push_back(places.on_form(p));
    if (seam.mirrored) on.image = cut_of(seam, places, false, true);
    lines.push_back(std::move(on));
  }
  return lines;
}

Result<void> draw_on(Draft& draft, const std::vector<DrawnSeam>& seams) {
  const auto wanted = [&](const DrawnSeam& s) { return s.cuts() && (s.mirrored || !draft.mirrored); };
  if (std::none_of(seams.begin(), seams.end(), wanted)) return {};
  const Places places(draft.mesh, draft.home);
  const bool half = draft.mirrored;
  Cutter cutter(std::move(draft));
  for (const DrawnSeam& seam : seams) {
    if (!wanted(seam)) continue;
    for (const bool image : {false, true}) {
      if (image && (half || !seam.mirrored)) continue;
      if (auto drawn = cutter.draw(cut_of(seam, places, half, image),
              seam.name +
                  (half || !seam.mirrored ? ""
                          : image         ? " right"
                                          : " left"),
              {kSeamReachMm, half});
          !drawn) {
        draft = std::move(cutter).take();
        return fail(drawn.error().code, drawn.error().text, "seams/" + std::to_string(seam.id));
      }
    }
  }
  draft = std::move(cutter).take();
  return {};
}

Result<void> draw_one_sided(SeamMesh& form, const std::vector<DrawnSeam>& seams) {
  std::vector<DrawnSeam> own;
  for (const DrawnSeam& s : seams)
    if (s.cuts() && !s.mirrored) own.push_back(s);
  if (own.empty()) return {};
  Draft draft = draft_of(std::move(form));
  auto drawn = draw_on(draft, own);
  form = seams_of(draft);
  return drawn;
}

std::vector<DrawnSeam> drawn_from(const SeamMesh& form, double off_mm) {
  std::map<int, std::vector<std::pair<int, int>>> edges;
  for (const auto& [edge, id] : form.seam_of) edges[id.value].push_back(edge);
  const std::vector<Vec3>& places = form.home.empty() ? form.mesh.vertices : form.home;
  std::vector<DrawnSeam> drawn;
  for (const auto& [id, chain] : edges) {
    bool closed = false;
    std::vector<Vec3> line;
    for (const int v : ordered(chain, closed)) line.push_back(places[v]);
    if (line.size() < 2) continue;
    double aside = 0.0, off_plane = 0.0;
    for (const Vec3& p : line) aside += p.x(), off_plane = std::max(off_plane, std::abs(p.x()));
    const bool mirrored = !form.twin_of.empty();
    if (mirrored && aside < -1e-6 && off_plane > 1e-6) continue;  // its image is on the left
    std::vector<char> kept(line.size(), 0);
    kept.front() = kept.back() = 1;
    keep_few(line, 0, line.size() - 1, off_mm, kept);
    if (closed) kept[line.size() / 3] = kept[2 * line.size() / 3] = 1;
    DrawnSeam seam;
    seam.id = static_cast<int>(drawn.size()) + 1, seam.inked = true, seam.closed = closed, seam.mirrored = mirrored;
    seam.name = form.seam_names[id];
    if (const auto at = seam.name.rfind(" left"); mirrored && at != std::string::npos && at + 5 == seam.name.size())
      seam.name.erase(at);
    for (std::size_t i = 0; i < line.size(); ++i)
      if (kept[i]) seam.points.push_back(line[i]);
    drawn.push_back(std::move(seam));
  }
  return drawn;
}

}  // namespace awl
