#pragma once
#include "core/base/random.hpp"
#include "core/builds/build.hpp"
#include "core/builds/demo_coat.hpp"

namespace awl::support {

/// Changes of the kinds makers make, over all that a build holds; some are refused.
class RandomEdits {
 public:
  explicit RandomEdits(std::uint64_t seed) : random_(seed) {}

  Result<Build> next(const Build& build) {
    switch (random_.below(9)) {
      case 0:
        return apply_act(build, act(build));
      case 1:
      case 2:
        return turned(build);
      case 3:
        return measured(build);
      case 4:
        return dressed(build);
      case 5:
        return parts(build);
      case 6:
        return coloured(build);
      case 7:
        return drawn(build);
      default:
        return worn(build);
    }
  }
  Random& random() { return random_; }

 private:
  template <class List>
  auto& any(List& list) {
    return list[static_cast<std::size_t>(random_.below(list.size()))];
  }
  bool chance(double share) { return random_.uniform() < share; }

  std::string act(const Build& build) {
    const std::vector<std::string> acts{"set-thickness " + std::to_string(2 + random_.below(9)), "set-heated on",
        "set-heated off", "set-slots on", "set-slots off", "set-sheet 1000 600", "set-sheet 700 500", "set-hours 2.5",
        "set-gores " + std::to_string(1 + random_.below(8)), "set-belt on", "set-belt off", "set-places 2",
        "search-longer off", "set-way " + std::to_string(any(build.parts).id) + " slabs",
        "set-way " + std::to_string(any(build.parts).id) + " skin", "scale-tapes 0.99", "swap-measures HL HB",
        "no-such-act 3", "set-thickness thick"};
    return any(acts);
  }

  /// One dial of a part, a detail or a seat, anywhere in its range and now and then beyond.
  Result<Build> turned(Build build) {
    Part& part = any(build.parts);
    const bool of_detail = !build.dress.details.empty() && chance(0.3);
    const auto dials = of_detail ? dials_of(any(build.dress.details)) : dials_of(part);
    if (dials.empty()) return build;
    const Dial& dial = any(dials);
    const double beyond = chance(0.05) ? 2.0 : 1.0;
    double value = random_.uniform(dial.facts.least, beyond * dial.facts.most);
    if (dial.facts.kind == DialKind::count || dial.facts.kind == DialKind::choice) value = std::round(value);
    if (!of_detail) {
      auto turned = with_dial(part, dial.facts.id, value);
      if (!turned) return fail(turned);
      part = std::move(*turned);
    } else {
      dial.turn(value);
    }
    return checked(std::move(build));
  }

  Result<Build> measured(Build build) {
    const MeasureFacts& facts = measure_facts()[static_cast<std::size_t>(random_.below(measure_facts().size()))];
    build.tape.set(facts.id, facts.mean_mm + facts.sd_mm * random_.uniform(-2.0, 2.0));
    if (chance(0.1)) build.wearer = "wearer " + std::to_string(random_.below(1000));
    return checked(std::move(build));
  }

  Result<Build> dressed(Build build) {
    auto& details = build.dress.details;
    if (!details.empty() && chance(0.55)) {
      details.erase(details.begin() + random_.below(details.size()));
      return checked(std::move(build));
    }
    Detail detail;
    for (const Detail& d : details) detail.id = std::max(detail.id, d.id);
    ++detail.id;
    detail.part = any(build.parts).id;
    detail.shape = any(detail_kinds());
    detail.track.from = chance(0.5) ? TrackFrom::rim : TrackFrom::drawn;
    if (detail.track.from == TrackFrom::drawn)
      for (int k = 0; k < 3; ++k)
        detail.track.points.push_back(
            {random_.uniform(0.0, 90.0), random_.uniform(-60.0, 110.0), random_.uniform(-90.0, 90.0)});
    details.push_back(std::move(detail));
    return checked(std::move(build));
  }

  Result<Build> parts(Build build) {
    if (build.parts.size() > 1 && chance(0.5)) {
      if (auto gone = remove_part(build, build.parts.back().id); !gone) return fail(gone);
      return checked(std::move(build));
    }
    auto part = part_presets()[static_cast<std::size_t>(random_.below(part_presets().size()))].make();
    if (auto added = add_part(build, std::move(part), chance(0.3) ? build.parts.front().id : 0); !added)
      return fail(added);
    return checked(std::move(build));
  }

  Result<Build> coloured(Build build) {
    auto& areas = build.coat.areas;
    if (!areas.empty() && chance(0.5)) {
      areas.erase(areas.begin() + random_.below(areas.size()));
      return checked(std::move(build));
    }
    ColourArea area;
    area.name = "area " + std::to_string(random_.below(1000));
    area.of = (chance(0.5) ? "part " : "inside ") + std::to_string(any(build.parts).id);
    area.pigment = build.coat.pigments.size() > 40
        ? any(build.coat.pigments).id
        : add_pigment(build, "colour", static_cast<int>(random_.next() & 0xffffff));
    if (auto added = add_area(build, area); !added) return fail(added);
    return checked(std::move(build));
  }

  Result<Build> drawn(Build build) {
    Part& part = any(build.parts);
    if (!part.drawn.empty() && chance(0.55)) {
      part.drawn.erase(part.drawn.begin() + random_.below(part.drawn.size()));
      return checked(std::move(build));
    }
    DrawnSeam line;
    for (const DrawnSeam& s : part.drawn) line.id = std::max(line.id, s.id + 1);
    line.name = "line " + std::to_string(line.id);
    for (int k = 0; k < 4; ++k)
      line.points.push_back({random_.uniform(5.0, 90.0), random_.uniform(-80.0, 110.0), random_.uniform(-90.0, 90.0)});
    line.closed = chance(0.3), line.inked = chance(0.2), line.mirrored = chance(0.8);
    line.role = chance(0.3) ? LineRole::colours : LineRole::cut;
    part.drawn.push_back(std::move(line));
    return checked(std::move(build));
  }

  Result<Build> worn(Build build) {
    auto& fit = build.fit;
    if (chance(0.5)) {
      if (!fit.slits.empty()) return fit.slits.clear(), checked(std::move(build));
      fit.slits.push_back({.id = 1, .part = any(build.parts).id});
    } else {
      if (!fit.holds.empty()) return fit.holds.clear(), checked(std::move(build));
      fit.holds.push_back({.id = 1, .part = any(build.parts).id});
    }
    return checked(std::move(build));
  }

  static Result<Build> checked(Build build) {
    if (auto good = check_inputs(build); !good) return fail(good);
    return build;
  }

  Random random_;
};

}  // namespace awl::support
