#pragma once
#include <string>
#include <vector>

#include "core/coat/plan.hpp"

namespace awl {

/// One entry of a calendar.
struct CalendarEvent {
  std::string uid;  ///< stays the same as long as it is the same thing to do
  std::string summary, description;
  Moment start = 0, end = 0;
  bool busy = true;  ///< false: it only dries; nobody has to be there
  bool operator==(const CalendarEvent&) const = default;
};

/// A plan's steps and what dries between them. `uid`: of the job; with a step's id it names an event for good.
std::vector<CalendarEvent> events_of(const std::vector<PlannedStep>& steps, const std::string& uid);

/// The steps as a table: id, step, stage, start, end, ready, minutes, hands, outdoors, done, slack, caution.
std::string plan_csv(const std::vector<PlannedStep>& steps);

/// iCalendar (RFC 5545) of a plan: local times without a zone, an alarm ten minutes before what takes hands.
///
/// `before`: the text exported last, if there is one. What has moved since counts one change more; what is gone is
/// cancelled once. `stamp`: the time of export.
/// Accuracy: lines are folded at 75 octets and never within a character.
std::string calendar_text(const std::vector<CalendarEvent>& events, const std::string& before, Moment stamp);

/// Of a calendar that was exported: what is read again to count changes. Unknown lines are passed over.
struct ReadEvent {
  CalendarEvent event;
  int sequence = 0;
  bool cancelled = false;
};
std::vector<ReadEvent> events_in(const std::string& text);

}  // namespace awl
