#include "core/coat/work/audit.hpp"

#include <algorithm>

namespace awl {
namespace {

/// Stretches in which a step of so many hands may be worked at, between two days, joined where they touch.
std::vector<Span> openings(const Project& p, const WorkStep& step, Day first, Day last) {
  std::vector<Span> all;
  for (Day day = first; day <= last; ++day.number) {
    if (p.days.closed.count(day) > 0) continue;
    const auto own = p.days.on.find(day);
    std::vector<BenchHours> hours = own == p.days.on.end() ? p.days.usual : own->second;
    std::sort(hours.begin(), hours.end(), [](const auto& a, const auto& b) { return a.from_min < b.from_min; });
    for (const BenchHours& h : hours) {
      if (h.hands < step.hands) continue;
      std::vector<Span> parts{{midnight_of(day) + h.from_min, midnight_of(day) + h.to_min}};
      if (step.outdoors && p.days.outdoors) {
        const Span whole = parts.front();
        parts.clear();
        for (const Span& out : *p.days.outdoors)
          if (std::max(out.from, whole.from) < std::min(out.to, whole.to))
            parts.push_back({std::max(out.from, whole.from), std::min(out.to, whole.to)});
        std::sort(parts.begin(), parts.end(), [](const Span& a, const Span& b) { return a.from < b.from; });
      }
      for (const Span& part : parts) {
        if (!all.empty() && all.back().to >= part.from)
          all.back().to = std::max(all.back().to, part.to);
        else
          all.push_back(part);
      }
    }
  }
  return all;
}

int hands_open(const Project& p, Moment at) {
  const Day day = day_of(at);
  if (p.days.closed.count(day) > 0) return 0;
  const auto own = p.days.on.find(day);
  int most = 0;
  for (const BenchHours& h : own == p.days.on.end() ? p.days.usual : own->second)
    if (minute_of_day(at) >= h.from_min && minute_of_day(at) < h.to_min) most = std::max(most, h.hands);
  return most;
}

/// The stretches a placed step is really worked at.
std::vector<Span> worked(const PlacedStep& at) {
  std::vector<Span> parts;
  Moment from = at.start;
  for (const Span& pause : at.pauses) {
    parts.push_back({from, pause.from});
    from = pause.to;
  }
  parts.push_back({from, at.end});
  return parts;
}

class Audit {
 public:
  Audit(const Project& p, const Schedule& s) : p_(p), s_(s) {}

  std::vector<std::string> run() {
    if (s_.steps.size() != p_.steps.size()) return {"The schedule has another number of steps."};
    Moment ready = p_.start;
    for (int i = 0; i < static_cast<int>(p_.steps.size()); ++i) {
      if (!s_.steps[i].done) look_at(i);
      ready = std::max(ready, ready_of(p_.steps[i], s_.steps[i]));
    }
    if (ready != s_.ready) broken_.push_back("It says ready at " + iso_text(s_.ready) + ", not " + iso_text(ready));
    for (const WorkLink& l : p_.links)
      if (!s_.steps[l.to].done) look_at(l);
    look_at_hands();
    look_at_places();
    return std::move(broken_);
  }

 private:
  void look_at(int i) {
    const WorkStep& step = p_.steps[i];
    const PlacedStep& at = s_.steps[i];
    const Moment earliest = std::max(p_.start, p_.now.value_or(p_.start));
    if (at.start < earliest) broken_.push_back(step.id + " starts at " + iso_text(at.start) + ", too early");
    const auto open = openings(p_, step, day_of(at.start), day_of(at.end));
    Moment sum = 0;
    for (const Span& part : worked(at)) {
      sum += part.to - part.from;
      const bool inside = part.from == part.to ||
          std::any_of(open.begin(), open.end(), [&](const Span& o) { return o.from <= part.from && part.to <= o.to; });
      if (!inside) broken_.push_back(step.id + " is worked at while it is closed, from " + iso_text(part.from));
    }
    if (sum != (step.hands_min + kSlotMin - 1) / kSlotMin * kSlotMin)
      broken_.push_back(step.id + " takes " + std::to_string(sum) + " minutes");
    if (at.pauses.empty() || step.may_pause) return;
    // Only what is longer than any opening may be laid down: some opening of a long while about it would hold it.
    for (const Span& o : openings(p_, step, day_of(p_.start), Day{day_of(at.end).number + 60}))
      if (o.to - o.from >= sum) return broken_.push_back(step.id + " is interrupted though an opening would hold it");
  }

  void look_at(const WorkLink& l) {
    const Moment lag = s_.steps[l.to].start - s_.steps[l.from].end;
    if (lag < l.wait_min || (l.within_min && lag > *l.within_min && !(l.or_after_min && lag >= *l.or_after_min)))
      broken_.push_back(p_.steps[l.to].id + " comes " + std::to_string(lag) + " minutes after " + p_.steps[l.from].id);
  }

  void look_at_hands() {
    std::vector<std::pair<Moment, int>> events;
    for (std::size_t i = 0; i < p_.steps.size(); ++i)
      if (!s_.steps[i].done)
        for (const Span& part : worked(s_.steps[i]))
          if (part.from < part.to) {
            events.push_back({part.from, p_.steps[i].hands});
            events.push_back({part.to, -p_.steps[i].hands});
          }
    std::sort(events.begin(), events.end());
    // Hands come and go by the calendar too: looked at minute by minute of the grid between two events.
    int busy = 0;
    for (std::size_t k = 0; k < events.size(); ++k) {
      busy += events[k].second;
      if (k + 1 == events.size() || busy == 0) continue;
      for (Moment t = events[k].first; t < events[k + 1].first; t += kSlotMin)
        if (busy > hands_open(p_, t)) {
          broken_.push_back("More hands than there are at " + iso_text(t));
          break;
        }
    }
  }

  void look_at_places() {
    std::vector<std::pair<Moment, int>> events;
    for (std::size_t i = 0; i < p_.steps.size(); ++i) {
      if (p_.steps[i].places == 0 || p_.steps[i].dries_min == 0) continue;
      const Moment end = s_.steps[i].end;
      events.push_back({end, p_.steps[i].places});
      events.push_back({end + p_.steps[i].dries_min, -p_.steps[i].places});
    }
    std::sort(events.begin(), events.end());
    int taken = 0;
    for (const auto& [when, change] : events)
      if ((taken += change) > p_.places)
        return broken_.push_back("More coats dry than there are places at " + iso_text(when));
  }

  const Project& p_;
  const Schedule& s_;
  std::vector<std::string> broken_;
};

}  // namespace

std::vector<std::string> broken_by(const Project& project, const Schedule& schedule) {
  return Audit(project, schedule).run();
}

}  // namespace awl
