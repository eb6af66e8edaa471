#include "core/fit/sight_words.hpp"

#include <algorithm>
#include <cmath>
#include <deque>
#include <functional>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

class Teller {
 public:
  Teller(Sight& sight, const FitRules::Sight& rules, const SightOptions& options)
      : sight_(sight), rules_(rules), options_(options), grid_(sight.grid) {}

  void run() {
    shares();
    zones();
    meridians();
    floor();
    blind();
  }

 private:
  const EyeField& ahead(int eye) const { return sight_.eyes[eye].ahead; }
  const EyeField& looked(int eye) const { return sight_.eyes[eye].looked; }
  bool light(const EyeField& field, int cell) const { return field.through[cell] >= rules_.least_through; }
  bool open_ahead(int cell) const { return ahead(0).open[cell] || ahead(1).open[cell]; }
  bool seen_ahead(int cell) const { return light(ahead(0), cell) || light(ahead(1), cell); }
  bool open_any(int cell) const { return open_ahead(cell) || looked(0).open[cell] || looked(1).open[cell]; }
  bool seen_any(int cell) const { return seen_ahead(cell) || light(looked(0), cell) || light(looked(1), cell); }

  void shares() {
    double open = 0, kept = 0, both = 0, kept_both = 0, look = 0, kept_look = 0;
    for (const auto& ring : grid_.rings())
      for (int c = ring.first; c < ring.first + ring.count; ++c) {
        const double w = ring.weight_sr;
        open += w * open_ahead(c), kept += w * std::max(ahead(0).through[c], ahead(1).through[c]);
        const bool two = ahead(0).open[c] && ahead(1).open[c];
        both += w * two, kept_both += two ? w * std::min(ahead(0).through[c], ahead(1).through[c]) : 0.0;
        look += w * (looked(0).open[c] || looked(1).open[c]);
        kept_look += w * (light(looked(0), c) || light(looked(1), c));
      }
    sight_.kept = open > 0 ? kept / open : 0.0;
    sight_.kept_both = both > 0 ? kept_both / both : 0.0;
    sight_.looked = look > 0 ? kept_look / look : 0.0;
  }

  void zone(const char* id, const char* words, bool any, const std::vector<Vec3>& directions) {
    double open = 0, seen = 0;
    for (const Vec3& d : directions) {
      const int c = grid_.cell(d);
      if (!(any ? open_any(c) : open_ahead(c))) continue;
      open += 1.0;
      seen += any ? seen_any(c) : seen_ahead(c);
    }
    sight_.zones.push_back({id, words, open > 0 ? seen / open : 0.0, open > 0});
  }

  static std::vector<Vec3> window(double az_from, double az_to, double el_from, double el_to) {
    std::vector<Vec3> all;
    for (double el = el_from; el <= el_to + 1e-9; el += 1.0)
      for (double az = az_from; az <= az_to + 1e-9; az += 1.0 / std::max(0.2, std::cos(radians(el))))
        all.push_back({std::cos(radians(el)) * std::sin(radians(az)), std::sin(radians(el)),
            std::cos(radians(el)) * std::cos(radians(az))});
    return all;
  }

  /// Directions to the ground ahead, `lower_m` below the wearer's own, with the head nodded.
  std::vector<Vec3> ground(double from_m, double to_m, double aside_m, double lower_m, double nod_deg) const {
    std::vector<Vec3> all;
    const double c = std::cos(radians(nod_deg)), s = std::sin(radians(nod_deg));
    for (int i = 0; i <= 12; ++i)
      for (int k = -6; k <= 6; ++k) {
        const Vec3 to(
            aside_m * k / 6.0, -options_.eye_height_mm / 1000.0 - lower_m, from_m + (to_m - from_m) * i / 12.0);
        all.push_back(Vec3(to.x(), c * to.y() + s * to.z(), c * to.z() - s * to.y()).normalized());
      }
    return all;
  }

  void zones() {
    std::vector<Vec3> cone;
    for (const Vec3& d : window(-15, 15, -15, 15))
      if (d.z() > std::cos(radians(15.0))) cone.push_back(d);
    zone("ahead", "straight ahead", true, cone);
    zone("floor", "the floor a step ahead", true, ground(1.0, 1.4, 0.3, 0.0, 0.0));
    zone("stair", "the first stair down, head bent", true, ground(0.3, 0.6, 0.3, 0.17, options_.nod_deg));
    zone("hands", "your own hands at work", true, window(-30, 30, -50, -30));
    zone("left", "to the left", false, window(45, 100, -20, 20));
    zone("right", "to the right", false, window(-100, -45, -20, 20));
    zone("above", "above", false, window(-30, 30, 25, 60));
  }

  void meridians() {
    constexpr const char* kWords[] = {
        "left", "up and left", "up", "up and right", "right", "down and right", "down", "down and left"};
    for (int m = 0; m < 8; ++m) {
      const double a = radians(45.0 * m);
      Sight::Meridian meridian{kWords[m], 0.0, 0.0};
      bool kept = true;
      for (double off = 0.5; off < 130.0; off += 0.5) {
        const double t = radians(off);
        const int c = grid_.cell({std::sin(t) * std::cos(a), std::sin(t) * std::sin(a), std::cos(t)});
        if (!open_ahead(c)) break;
        meridian.bare_deg = off;
        // From the edge of what is seen ahead: what lies before a covered middle counts as seen from there on.
        if (seen_ahead(c)) meridian.kept_deg = off;
        kept = kept && seen_ahead(c);
      }
      sight_.meridians.push_back(meridian);
    }
  }

  /// Rings straight ahead that are seen, from the horizon down: the first run gives the nearest floor, later ones are
  /// windows below. The lowest ray alone would lie.
  void floor() {
    const int horizon = grid_.ring_of(-1e-6);
    std::vector<bool> seen(horizon + 1, false);
    for (int r = horizon; r >= 0; --r) {
      const auto& ring = grid_.rings()[r];
      for (int i = 0; i < ring.count && !seen[r]; ++i)
        seen[r] = std::abs(grid_.azimuth_deg(r, i)) <= 10.0 && seen_any(ring.first + i);
    }
    const double h = options_.eye_height_mm / 1000.0;
    const auto reach = [&](double down_deg) { return h / std::tan(radians(std::clamp(down_deg, 0.5, 89.5))); };
    bool first = true;
    for (int r = horizon; r >= 0;) {
      if (!seen[r]) {
        --r;
        continue;
      }
      const double from = -grid_.rings()[r].high_deg;
      while (r >= 0 && seen[r]) --r;
      const double to = -grid_.rings()[r + 1].low_deg;
      if (first && from < kHorizonDeg) {
        sight_.floor_level_m = reach(std::min(to, kSteepestDeg));
        sight_.floor_nod_m = reach(std::min(to + kNodDeg, kSteepestDeg));
      } else if (from < kSteepestDeg) {
        sight_.windows.push_back({reach(std::min(to, kSteepestDeg)), reach(from)});
      }
      first = false;
    }
  }

  /// Connected cells that either eye is open to and neither sees.
  void blind() {
    std::vector<int> ring_at(grid_.size()), label(grid_.size(), -1);
    for (int r = 0; r < static_cast<int>(grid_.rings().size()); ++r)
      std::fill_n(ring_at.begin() + grid_.rings()[r].first, grid_.rings()[r].count, r);
    const auto hidden = [&](int c) { return open_ahead(c) && !seen_ahead(c); };
    for (int start = 0; start < grid_.size(); ++start) {
      if (label[start] >= 0 || !hidden(start)) continue;
      BlindPlace place;
      place.is_bar = true, place.low_deg = 90.0, place.high_deg = -90.0;
      Vec3 middle = Vec3::Zero();
      double least_az = 1e9, most_az = -1e9;
      std::deque<int> todo{start};
      label[start] = start;
      while (!todo.empty()) {
        const int c = todo.front(), r = ring_at[c];
        todo.pop_front();
        const auto& ring = grid_.rings()[r];
        const double az = grid_.azimuth_deg(r, c - ring.first);
        place.sr += ring.weight_sr;
        middle += ring.weight_sr * grid_.direction(r, c - ring.first);
        place.low_deg = std::min(place.low_deg, ring.low_deg), place.high_deg = std::max(place.high_deg, ring.high_deg);
        least_az = std::min(least_az, az), most_az = std::max(most_az, az);
        each_neighbour(r, c - ring.first, [&](int other) {
          if (!open_ahead(other)) place.is_bar = false;
          if (label[other] < 0 && hidden(other)) label[other] = start, todo.push_back(other);
        });
      }
      if (place.sr < rules_.bar_sr) continue;
      middle.normalize();
      place.az_deg = degrees(std::atan2(middle.x(), middle.z()));
      place.el_deg = degrees(std::asin(std::clamp(middle.y(), -1.0, 1.0)));
      place.wide_deg = most_az - least_az;
      place.words = words_of(place);
      sight_.blind.push_back(std::move(place));
    }
    std::sort(
        sight_.blind.begin(), sight_.blind.end(), [](const BlindPlace& a, const BlindPlace& b) { return a.sr > b.sr; });
  }

  void each_neighbour(int r, int i, const std::function<void(int)>& use) const {
    const auto& ring = grid_.rings()[r];
    use(ring.first + (i + 1) % ring.count);
    use(ring.first + (i + ring.count - 1) % ring.count);
    for (const int to : {r - 1, r + 1}) {
      if (to < 0 || to >= static_cast<int>(grid_.rings().size())) continue;
      const auto& other = grid_.rings()[to];
      const int from = i * other.count / ring.count,
                until = std::min(((i + 1) * other.count - 1) / ring.count, other.count - 1);
      for (int k = from; k <= until; ++k) use(other.first + k);
    }
  }

  static std::string words_of(const BlindPlace& p) {
    const auto whole = [](double deg) { return fixed(std::abs(deg), 0); };
    const std::string level = p.high_deg <= 0.0 ? whole(p.high_deg) + " to " + whole(p.low_deg) + " degrees below"
        : p.low_deg >= 0.0                      ? whole(p.low_deg) + " to " + whole(p.high_deg) + " degrees above"
                           : "from " + whole(p.low_deg) + " degrees below to " + whole(p.high_deg) + " above";
    const std::string side = std::abs(p.az_deg) < 8.0 ? "" : p.az_deg > 0.0 ? ", to the left" : ", to the right";
    return (p.is_bar ? "a bar " : "a place ") + whole(p.wide_deg) + " degrees wide, " + level + " the level" + side;
  }

  static constexpr double kHorizonDeg = 2.0, kSteepestDeg = 80.0, kNodDeg = 20.0;
  Sight& sight_;
  const FitRules::Sight& rules_;
  const SightOptions& options_;
  const SightGrid& grid_;
};

}  // namespace

void tell_sight(Sight& sight, const FitRules& rules, const SightOptions& options) {
  Teller(sight, rules.sight, options).run();
}

}  // namespace awl
