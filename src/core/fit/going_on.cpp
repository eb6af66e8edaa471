#include "core/fit/going_on.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kRingStepMm = 5.0, kWayStepMm = 4.0, kDescentMm = 2.0, kPointMm = 6.0, kFrontal = 0.8;
constexpr double kLongestSlitMm = 160.0;
constexpr double kEdgeMm = 0.5;       // a slice just at the upper rim meets parts of it only
constexpr double kMostPoints = 5000;  // of a stiff shell

struct GirthRing {
  double at_mm = 0.0;  ///< from the lowest place of the rim, into the part
  double girth_mm = 0.0;
  bool open = false;
};

/// Girths of an inner face, ring by ring from its rim: hulls of its slices. A ring is open only if its gap reaches the
/// rim; eye and mouth holes are bridged by their chords.
std::vector<GirthRing> rings_of(const Mesh& inner, const RimEntry& entry) {
  const Plane base{entry.middle, entry.into};
  const PlaneFrame frame = frame_of(base);
  double low = 1e300, high = -1e300, rim_sum = 0.0, top = -1e300;
  std::vector<Vec2> rim;
  for (const Vec3& p : entry.rim) {
    const double h = base.height(p);
    low = std::min(low, h), high = std::max(high, h), rim_sum += h;
    rim.push_back(frame(p));
  }
  for (const Vec3& p : inner.vertices) top = std::max(top, base.height(p));
  std::vector<GirthRing> rings{{rim_sum / static_cast<double>(entry.rim.size()) - low, tape_round_mm(rim), false}};
  const int count = static_cast<int>((top - low - kEdgeMm) / kRingStepMm) + 1;
  std::vector<std::vector<Vec2>> cut(count);
  const auto level = [&](const Vec3& p) { return (base.height(p) - low) / kRingStepMm; };
  for (const Tri& t : inner.triangles)
    for (int k = 0; k < 3; ++k) {
      const Vec3 &u = inner.vertices[t[k]], &v = inner.vertices[t[(k + 1) % 3]];
      const double lu = level(u), lv = level(v);
      for (int i = std::max(0, static_cast<int>(std::ceil(std::min(lu, lv))));
           i <= std::min(count - 1, static_cast<int>(std::floor(std::max(lu, lv)))); ++i) {
        const double s = lu == lv ? 0.0 : (i - lu) / (lv - lu);
        cut[i].push_back(frame(u + s * (v - u)));
      }
    }
  for (int i = 1; i < count; ++i) {  // the rim itself stands for the first
    const double at = i * kRingStepMm;
    if (cut[i].size() > 2) rings.push_back({at, tape_round_mm(cut[i]), at < high - low - 1e-6});
  }
  return rings;
}

/// The best way through the girths of the head: of all ways that pitch by at most five degrees a step the one whose
/// tightest moment is least tight.
class Passage {
 public:
  Passage(const FitHead& head, const FitPart& part, const RimEntry& entry, double layers_mm, double seats_at)
      : part_(part), seats_at_(seats_at), rings_(rings_of(part.inner, entry)),
        table_(head.folded(), degrees(std::atan2(entry.into.z(), entry.into.y()))), more_mm_(kTwoPi * layers_mm) {
    rim_level_ = entry.into.dot(entry.middle);
    double low = 0.0;
    for (const Vec3& p : entry.rim) low = std::min(low, entry.into.dot(p - entry.middle));
    rim_level_ += low;
    double highest = -1e300;
    for (const Vec3& p : head.folded().vertices) highest = std::max(highest, entry.into.dot(p));
    steps_ = std::max(1, static_cast<int>(std::ceil((highest + 20.0 - rim_level_) / kWayStepMm)));
    known_.resize(steps_ + 1);
    for (auto& row : known_) row.fill(-3.0);
  }

  void run(GoingOn& on) {
    on.straight = best(0).worst;
    on.stretch = best(kMiddle).worst;
    tell(on, best(kMiddle).path);
    // What is shown is the way that pitches least of those that pass, a slit being open.
    double least = 1e300;
    for (const GirthRing& r : rings_)
      if (!r.open && r.girth_mm > 1.0) least = std::min(least, r.girth_mm);
    const double gives = on.gives + part_.opened_mm / least;
    for (const int most : {0, 2, 4, 6}) {
      const Way easier = best(most);
      if (easier.worst > gives) continue;
      GoingOn shown = on;
      shown.way.clear();
      shown.pitch_deg = shown.rests_up_mm = 0.0;
      tell(shown, easier.path);
      on.way = std::move(shown.way), on.pitch_deg = shown.pitch_deg, on.rests_up_mm = shown.rests_up_mm;
      break;
    }
  }

 private:
  static constexpr int kMiddle = GirthTable::kPitches / 2;
  struct Way {
    double worst = 0.0;
    std::vector<std::pair<int, int>> path;  ///< step and pitch, from far to its place
  };

  /// Of all ways that pitch by at most so many steps of five degrees the one whose tightest moment is least tight; of
  /// equal ones the straighter.
  Way best(int most_pitch) const {
    std::vector<std::array<double, GirthTable::kPitches>> worst(steps_ + 1);
    std::vector<std::array<int, GirthTable::kPitches>> from(steps_ + 1);
    for (int k = steps_; k >= 0; --k)
      for (int p = kMiddle - most_pitch; p <= kMiddle + most_pitch; ++p) {
        from[k][p] = p;
        worst[k][p] = stretch(p, k);
        if (k == steps_) continue;
        int next = p;
        for (const int q : {p - 1, p + 1})
          if (std::abs(q - kMiddle) <= most_pitch &&
              (worst[k + 1][q] < worst[k + 1][next] - 1e-12 ||
                  (worst[k + 1][q] < worst[k + 1][next] + 1e-12 && std::abs(q - kMiddle) < std::abs(next - kMiddle))))
            next = q;
        from[k][p] = next;
        worst[k][p] = std::max(worst[k][p], worst[k + 1][next]);
      }
    Way way{worst[0][kMiddle], {}};
    for (int k = 0, p = kMiddle; k <= steps_; ++k) {
      way.path.push_back({k, p});
      p = from[k][p];
    }
    std::reverse(way.path.begin(), way.path.end());
    return way;
  }

  double stretch(int pitch, int step) const {
    double& known = known_[static_cast<std::size_t>(step)][static_cast<std::size_t>(pitch)];
    if (known > -2.0) return known;
    double most = -1.0;
    for (const GirthRing& r : rings_)
      if (!r.open && r.girth_mm > 1.0) most = std::max(most, needs(pitch, step, r) / r.girth_mm - 1.0);
    return known = most;
  }
  /// The girth of the head that ring goes over between this step and the one before.
  double needs(int pitch, int step, const GirthRing& r) const {
    const double level = rim_level_ + r.at_mm + step * kWayStepMm;
    const double n = table_.most(pitch, level, step == steps_ ? level : level + kWayStepMm);
    return n > 0.0 ? n + more_mm_ : 0.0;
  }

  void tell(GoingOn& on, const std::vector<std::pair<int, int>>& path) const {
    std::vector<double> most(rings_.size(), 0.0);
    bool sits = false;
    for (const auto& [step, pitch] : path) {
      WayMoment moment{step * kWayStepMm, table_.pitch_deg(pitch), 0.0, stretch(pitch, step), 0.0};
      if (std::abs(moment.pitch_deg) > std::abs(on.pitch_deg)) on.pitch_deg = moment.pitch_deg;
      for (std::size_t j = 0; j < rings_.size(); ++j) most[j] = std::max(most[j], needs(pitch, step, rings_[j]));
      if (!sits && moment.stretch > seats_at_) sits = true, on.rests_up_mm = moment.up_mm;
      on.way.push_back(moment);
    }
    on.short_mm = -1e300;
    double last = 0.0, opens = 0.0;
    for (std::size_t j = 0; j < rings_.size(); ++j) {
      const double lacks = most[j] - rings_[j].girth_mm * (1.0 + (rings_[j].open ? 0.0 : part_.gives));
      if (rings_[j].open) {
        on.spread_mm = std::max(on.spread_mm, lacks);
        continue;
      }
      if (most[j] <= 0.0) continue;
      if (lacks > on.short_mm) on.short_mm = lacks, on.ring_mm = rings_[j].at_mm, on.ring_girth_mm = rings_[j].girth_mm;
      if (lacks > 0.0) last = std::max(last, rings_[j].at_mm), opens = std::max(opens, lacks);
    }
    if (on.short_mm < -1e299) on.short_mm = 0.0;
    on.passes = opens <= 0.0;
    on.slit_mm = opens > 0.0 ? last : 0.0;
    on.opens_mm = opens;
  }

  const FitPart& part_;
  double seats_at_;
  std::vector<GirthRing> rings_;
  GirthTable table_;
  double more_mm_, rim_level_ = 0.0;
  int steps_ = 1;
  mutable std::vector<std::array<double, GirthTable::kPitches>> known_;
};

/// Girths say nothing of forward and back: at each moment the shift at which least of it would be in the head.
void shift_along(GoingOn& on, const FitHead& head, const FitPart& part) {
  constexpr double kRoughMm = 14.0, kReachMm = 72.0, kStepMm = 8.0;
  const auto points = spread_points(part.inner, kRoughMm);
  double before = 0.0;
  for (auto moment = on.way.rbegin(); moment != on.way.rend(); ++moment) {
    // From its place outwards, so that it ends where it sits and never leaps.
    if (moment == on.way.rbegin()) continue;
    double least = 1e300, best = before;
    for (const double by : {0.0, -kStepMm, kStepMm}) {
      WayMoment tried = *moment;
      tried.across_mm = std::clamp(before + by, -kReachMm, kReachMm);
      double most = 0.0;
      for (const Vec3& p : points) most = std::max(most, -head.folded_mm(on_the_way(on, tried, p)));
      if (most < least - 1e-6) least = most, best = tried.across_mm;
    }
    moment->across_mm = before = best;
  }
}

/// A stiff shell moved step by step: at each the pitch and shift that press least.
class Descent {
 public:
  Descent(const FitHead& head, const FitPart& part, const GoingOnOptions& options, GoingOn& on)
      : head_(head), options_(options), on_(on),
        points_(spread_points(part.inner, std::max(kPointMm, std::sqrt(area_mm2(part.inner) / kMostPoints)))) {}

  void run() {
    WayMoment place;
    place.overlap_mm = overlap(place, &deepest_);
    on_.overlap_mm = std::max(0.0, place.overlap_mm);
    if (on_.overlap_mm > 0.0) on_.overlap_at = head_.nearest_place(deepest_);
    double start = 0.0;
    for (WayMoment far; start < 400.0; start += 20.0) {
      far.up_mm = start;
      if (overlap(far) < -5.0 && beyond(start)) break;
    }
    std::vector<WayMoment> way;
    WayMoment now;
    for (now.up_mm = start; now.up_mm >= 0.0; now.up_mm -= kDescentMm) {
      const double share = start > 0.0 ? now.up_mm / start : 0.0;
      settle(now, share);
      if (now.overlap_mm > options_.press_mm) break;
      way.push_back(now);
    }
    if (now.up_mm < 0.0) {
      on_.stops_short_mm = 0.0;
    } else {
      // Between the last place that was free and the first that is not.
      WayMoment high = way.empty() ? now : way.back(), low = now;
      for (int i = 0; i < 8; ++i) {
        WayMoment middle = high;
        middle.up_mm = 0.5 * (high.up_mm + low.up_mm);
        settle(middle, 0.0);
        (middle.overlap_mm > options_.press_mm ? low : high) = middle;
      }
      on_.stops_short_mm = high.up_mm;
      way.push_back(high);
    }
    if (on_.stiff || on_.way.empty()) on_.way = std::move(way);
  }

 private:
  double overlap(const WayMoment& step, Vec3* where = nullptr) const {
    double most = -1e300;
    for (const Vec3& p : points_) {
      const Vec3 at = on_the_way(on_, step, p);
      const double deep = options_.layers_mm - head_.folded_mm(at);
      if (deep > most) {
        most = deep;
        if (where != nullptr) *where = at;
      }
    }
    return most;
  }
  /// Whether the whole rim is out of the head's way.
  bool beyond(double up) const {
    double low = 1e300, high = -1e300;
    for (const Vec3& p : points_) low = std::min(low, on_.towards.dot(p));
    for (const Vec3& p : head_.folded().vertices) high = std::max(high, on_.towards.dot(p));
    return low + up > high || on_.from != WayOn::from_above;
  }
  /// Pattern search in pitch and shift, by 4, 2 and 1; at its place it must be straight again.
  void settle(WayMoment& step, double free_share) const {
    step.overlap_mm = overlap(step);
    if (step.overlap_mm <= options_.press_mm) return;
    for (const double by : {4.0, 2.0, 1.0})
      for (bool moved = true; moved;) {
        moved = false;
        for (const auto& [pitch, across] : {std::pair{by, 0.0}, {-by, 0.0}, {0.0, by}, {0.0, -by}}) {
          WayMoment other = step;
          other.pitch_deg += pitch, other.across_mm += across;
          const double most_deg = 4.0 + 36.0 * free_share, most_mm = 3.0 + 60.0 * free_share;
          if (std::abs(other.pitch_deg) > most_deg || std::abs(other.across_mm) > most_mm) continue;
          other.overlap_mm = overlap(other);
          if (other.overlap_mm < step.overlap_mm - 1e-6) step = other, moved = true;
        }
        if (step.overlap_mm <= options_.press_mm) return;
      }
  }

  const FitHead& head_;
  const GoingOnOptions& options_;
  GoingOn& on_;
  std::vector<Vec3> points_;
  Vec3 deepest_ = Vec3::Zero();
};

}  // namespace

const char* name_of(WayOn way) {
  constexpr const char* kNames[] = {"from above", "from the front", "from below"};
  return kNames[static_cast<int>(way)];
}

std::vector<Vec3> spread_points(const Mesh& mesh, double apart_mm) {
  constexpr double kMost = 60'000.0;
  const double apart = std::max(apart_mm, std::sqrt(area_mm2(mesh) / kMost));
  std::vector<Vec3> points;
  std::set<std::array<int, 3>> taken;
  const auto add = [&](const Vec3& p) {
    const std::array<int, 3> cell{static_cast<int>(std::floor(p.x() / apart)),
        static_cast<int>(std::floor(p.y() / apart)), static_cast<int>(std::floor(p.z() / apart))};
    if (taken.insert(cell).second) points.push_back(p);
  };
  for (const Tri& t : mesh.triangles) {
    // Rows along the longest side, so that a sliver takes no more of them than it is high.
    int k = 0;
    const auto side = [&](int i) { return (mesh.vertices[t[(i + 1) % 3]] - mesh.vertices[t[i]]).norm(); };
    for (int i = 1; i < 3; ++i)
      if (side(i) > side(k)) k = i;
    const Vec3 &a = mesh.vertices[t[k]], &b = mesh.vertices[t[(k + 1) % 3]], &tip = mesh.vertices[t[(k + 2) % 3]];
    const double height = area_vector(mesh, t).norm() / std::max(side(k), 1e-12);
    const int rows = std::max(1, static_cast<int>(std::ceil(height / apart)));
    for (int r = 0; r <= rows; ++r) {
      const Vec3 from = tip + (a - tip) * r / rows, to = tip + (b - tip) * r / rows;
      const int n = std::max(1, static_cast<int>(std::ceil((to - from).norm() / apart)));
      for (int i = 0; i <= n; ++i) add(from + (to - from) * i / n);
    }
  }
  return points;
}

std::optional<RimEntry> entry_of(const Mesh& inner, const Vec3& neck) {
  const auto loops = border_loops(inner);
  if (loops.empty()) return std::nullopt;
  const std::vector<int>* chosen = nullptr;
  double lowest = 1e300, longest = 0.0;
  bool round_neck = false;
  for (const auto& loop : loops) {
    std::vector<Vec2> flat;
    double length = 0.0, height = 0.0;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const Vec3 &p = inner.vertices[loop[i]], &q = inner.vertices[loop[(i + 1) % loop.size()]];
      flat.push_back({p.x(), p.z()});
      length += (q - p).norm(), height += p.y() / static_cast<double>(loop.size());
    }
    int turns = 0;  // round the neck, seen from above
    for (std::size_t i = 0; i < flat.size(); ++i) {
      const Vec2 a = flat[i] - Vec2(neck.x(), neck.z()), b = flat[(i + 1) % flat.size()] - Vec2(neck.x(), neck.z());
      if ((a.y() < 0.0) == (b.y() < 0.0)) continue;
      if (a.x() - a.y() * (b.x() - a.x()) / (b.y() - a.y()) > 0.0) turns += a.y() < 0.0 ? 1 : -1;
    }
    if (turns != 0 && (!round_neck || height < lowest)) {
      chosen = &loop, lowest = height, round_neck = true;
    } else if (!round_neck && length > longest) {
      chosen = &loop, longest = length;
    }
  }
  RimEntry entry;
  for (const int v : *chosen) entry.rim.push_back(inner.vertices[v]);
  Vec3 normal = Vec3::Zero(), whole = Vec3::Zero();
  for (std::size_t i = 0; i < entry.rim.size(); ++i) {
    normal += entry.rim[i].cross(entry.rim[(i + 1) % entry.rim.size()]);
    entry.middle += entry.rim[i] / static_cast<double>(entry.rim.size());
  }
  for (const Vec3& p : inner.vertices) whole += p / static_cast<double>(inner.vertices.size());
  if (normal.norm() < 1e-6) return std::nullopt;
  entry.into = normal.normalized();
  if (entry.into.dot(whole - entry.middle) < 0.0) entry.into = -entry.into;
  return entry;
}

Vec3 on_the_way(const GoingOn& way, const WayMoment& step, const Vec3& place) {
  const double a = radians(step.pitch_deg), c = std::cos(a), s = std::sin(a);
  const Vec3 across = way.from == WayOn::from_the_front ? Vec3(Vec3::UnitY()) : Vec3(Vec3::UnitZ());
  const Vec3 r = place - way.about;
  return way.about + Vec3(r.x(), c * r.y() - s * r.z(), s * r.y() + c * r.z()) + step.up_mm * way.towards +
      step.across_mm * across;
}

namespace {

Vec3 towards_of(WayOn way) {
  return way == WayOn::from_the_front ? Vec3(Vec3::UnitZ())
      : way == WayOn::from_below      ? Vec3(-Vec3::UnitY())
                                      : Vec3(Vec3::UnitY());
}

/// The way an opening says: a mask's is at its back, a chin guard's above, everything else's below.
WayOn natural_way(const std::optional<RimEntry>& entry) {
  if (entry && std::abs(entry->into.z()) > kFrontal) return WayOn::from_the_front;
  if (entry && entry->into.y() < -kFrontal) return WayOn::from_below;
  return WayOn::from_above;
}

/// One way of a stiff part, tried.
GoingOn descended(
    const GoingOn& as, WayOn from, const FitHead& head, const FitPart& part, const GoingOnOptions& options) {
  GoingOn on = as;
  if (from != on.from) on.from = from, on.towards = towards_of(from), on.way.clear();
  Descent(head, part, options, on).run();
  if (on.stiff) on.passes = on.stops_short_mm <= 0.0, on.rests_up_mm = on.stops_short_mm;
  return on;
}

}  // namespace

GoingOn going_on(const FitHead& head, const FitPart& part, const FitRules& rules, const GoingOnOptions& options) {
  GoingOn on;
  on.part = part.part, on.name = part.name, on.gives = part.stiff ? 0.0 : part.gives, on.stiff = part.stiff;
  for (const Vec3& p : part.inner.vertices) on.about += p / static_cast<double>(part.inner.vertices.size());
  const auto entry = entry_of(part.inner, head.mid_neck());
  on.from = options.from.value_or(natural_way(entry));
  on.towards = towards_of(on.from);
  const bool over = on.from == WayOn::from_above;
  // What goes over the head comes down along the direction it opens to.
  if (over && entry && entry->into.y() > 0.0 && !options.from) on.towards = entry->into;
  if (entry && over) {
    on.has_rings = true;
    Passage(head, part, *entry, options.layers_mm, rules.going_on.seats_at).run(on);
    if (!part.stiff) shift_along(on, head, part);
    if (on.slit_mm > 0.0) {
      on.slit_mm += rules.going_on.slit_spare_mm;
      // Longer than it must be, so that it opens far enough; beyond that two.
      const double longer = std::max(on.slit_mm, on.opens_mm / rules.going_on.slit_opens_share);
      on.slits = longer > kLongestSlitMm ? 2 : 1;
      if (on.slits == 1) on.slit_mm = longer;
    }
  }
  if (!over || part.stiff || !on.has_rings) {
    on.stiff = on.stiff || !over || !on.has_rings;
    const GoingOn as = on;
    on = descended(as, as.from, head, part, options);
    // A way that does not end at its place: the others too.
    for (const WayOn other : {WayOn::from_the_front, WayOn::from_below, WayOn::from_above}) {
      if (on.passes || options.from || other == as.from) continue;
      GoingOn tried = descended(as, other, head, part, options);
      if (tried.stops_short_mm < on.stops_short_mm - 1.0) on = std::move(tried);
    }
  }
  return on;
}

}  // namespace awl
