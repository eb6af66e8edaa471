#pragma once
#include <algorithm>
#include <string>

#include "core/base/random.hpp"
#include "core/coat/work/project.hpp"

namespace awl::support {

/// A made-up finishing plan of some 20 to 80 steps: parts that are cut, brushed and joined, coated in turns, painted
/// outdoors or not, joined to the whole; with closed and wet days, one or two pairs of hands, one to five drying
/// places.
class RandomProject {
 public:
  static Project make(std::uint64_t seed) { return RandomProject(seed).build(); }

 private:
  explicit RandomProject(std::uint64_t seed) : random_(seed * 7919 + 13) {}

  int step(const std::string& id, int least, int most) {
    WorkStep s;
    s.id = id;
    s.title = id;
    s.hands_min = kSlotMin * between(least / kSlotMin, most / kSlotMin);
    p_.steps.push_back(s);
    return static_cast<int>(p_.steps.size()) - 1;
  }
  int between(int least, int most) { return least + random_.below(static_cast<std::size_t>(most - least + 1)); }
  bool chance(double of) { return random_.uniform() < of; }
  void link(int from, int to, int wait = 0) { p_.links.push_back({from, to, wait, {}, {}, "it goes on after"}); }

  /// Brushed, and joined while it grabs.
  int join(int after, const std::string& id) {
    const int brush = step(id + "/brush", 10, 40), close = step(id + "/join", 10, 45);
    if (after >= 0) link(after, brush);
    const int wait = kSlotMin * between(2, 4);
    p_.links.push_back({brush, close, wait, wait + kSlotMin * between(3, 9), {}, "it grabs for a while"});
    if (chance(0.2)) p_.steps[close].hands = hands_;
    return close;
  }

  /// Coats of one product, some with a window within which the next must come.
  int coats(int after, const std::string& id) {
    const int n = between(1, 3), wait = 30 * between(1, 6), dries = 30 * between(2, 16);
    const bool window = chance(0.14), outdoors = chance(0.25);
    int last = after;
    for (int k = 0; k < n; ++k) {
      const int coat = step(id + "/" + std::to_string(k + 1), 15, 60);
      p_.steps[coat].outdoors = outdoors;
      p_.steps[coat].dries_min = k + 1 < n ? wait : dries;
      p_.steps[coat].places = 1;
      if (k == 0)
        link(last, coat, last_dry_);
      else
        p_.links.push_back({last, coat, wait, window ? std::optional(wait + 60 * between(1, 4)) : std::nullopt,
            window ? std::optional(wait + 60 * between(20, 48)) : std::nullopt, "the coat below is dry"});
      last = coat;
    }
    last_dry_ = dries;
    return last;
  }

  void calendar() {
    hands_ = chance(0.4) ? 2 : 1;
    p_.start = midnight_of(Day{20794});
    const int opens = 60 * between(8, 15), long_min = 30 * between(6, 16);
    p_.days.usual = {{opens, std::min(opens + long_min, 22 * 60), hands_}};
    if (chance(0.3)) p_.days.usual.push_back({6 * 60, 7 * 60 + 30, 1});
    std::vector<Span> outdoors;
    for (int d = 0; d < 120; ++d) {
      const Day day{20794 + d};
      if (chance(0.15)) p_.days.closed.insert(day);
      if (chance(0.65)) outdoors.push_back({midnight_of(day) + 6 * 60, midnight_of(day) + 20 * 60});
      if (chance(0.06)) p_.days.on[day] = {{9 * 60, 18 * 60, hands_}};
    }
    p_.days.outdoors = outdoors;
    p_.places = between(1, 5);
  }

  Project build() {
    calendar();
    const int cut = step("cut", 40, 120);
    p_.steps[cut].may_pause = chance(0.5);
    std::vector<int> ends;
    const int parts = between(2, 7);
    for (int k = 0; k < parts; ++k) {
      const std::string id = "part" + std::to_string(k);
      last_dry_ = 0;
      int at = step(id + "/shape", 15, 60);
      link(cut, at);
      const int joins = chance(0.06) ? 1 : 0;
      for (int j = 0; j < joins; ++j) at = join(at, id + "/seam" + std::to_string(j));
      if (chance(0.4)) {
        const int fill = step(id + "/fill", 10, 40), sand = step(id + "/sand", 15, 60);
        link(at, fill);
        link(fill, sand, 30 * between(2, 6));
        at = sand;
      }
      at = coats(at, id + "/seal");
      if (chance(0.8)) at = coats(at, id + "/paint");
      ends.push_back(at);
      dries_.push_back(last_dry_);
      for (int k2 = 0; k2 < between(0, 3); ++k2) link(cut, step(id + "/lining" + std::to_string(k2), 10, 40));
    }
    int whole = ends.front(), dry = dries_.front();
    for (std::size_t k = 1; k < ends.size(); ++k) {
      const std::string id = "whole/" + std::to_string(k);
      const int brush = step(id + "/brush", 10, 20), close = step(id + "/join", 10, 30);
      link(whole, brush, dry);
      link(ends[k], brush, dries_[k]);
      p_.links.push_back({brush, close, 10, 30, {}, "it grabs for a while"});
      whole = close;
      dry = 0;
    }
    last_dry_ = dry;
    const int clear = coats(whole, "clear");
    const int last = step("strap", 20, 60);
    link(clear, last, last_dry_);
    return p_;
  }

  Random random_;
  Project p_;
  int hands_ = 1, last_dry_ = 0;
  std::vector<int> dries_;
};

inline Project random_project(std::uint64_t seed) { return RandomProject::make(seed); }

}  // namespace awl::support
