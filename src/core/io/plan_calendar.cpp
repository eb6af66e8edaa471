#include "core/io/plan_calendar.hpp"

#include <algorithm>
#include <map>

#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr std::size_t kMostOctets = 75;

bool is_continuation(char c) { return (static_cast<unsigned char>(c) & 0xc0U) == 0x80U; }

/// One content line, folded: a space begins each line that goes on.
void put_line(std::string& out, const std::string& line) {
  std::size_t from = 0;
  std::size_t room = kMostOctets;
  while (line.size() - from > room) {
    std::size_t to = from + room;
    while (to > from && is_continuation(line[to])) --to;
    out += line.substr(from, to - from) + "\r\n ";
    from = to;
    room = kMostOctets - 1;
  }
  out += line.substr(from) + "\r\n";
}

std::string calendar_escaped(const std::string& text) {
  std::string out;
  for (const char c : in_utf8(text)) {
    if (c == '\\' || c == ';' || c == ',')
      (out += '\\') += c;
    else if (c == '\n')
      out += "\\n";
    else if (static_cast<unsigned char>(c) >= 0x20)
      out += c;
  }
  return out;
}

std::string calendar_unescaped(const std::string& text) {
  std::string out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] != '\\' || i + 1 == text.size()) {
      out += text[i];
      continue;
    }
    ++i;
    out += text[i] == 'n' || text[i] == 'N' ? '\n' : text[i];
  }
  return out;
}

/// "20261207T090000"
std::string stamp_text(Moment moment) {
  std::string text = iso_text(moment) + "00";
  std::erase_if(text, [](char c) { return c == '-' || c == ':'; });
  return text;
}

std::optional<Moment> stamp_in(const std::string& text) {
  if (text.size() < 13) return std::nullopt;
  const auto moment = parse_moment(text.substr(0, 4) + "-" + text.substr(4, 2) + "-" + text.substr(6, 2) + "T" +
      text.substr(9, 2) + ":" + text.substr(11, 2));
  return moment ? std::optional(*moment) : std::nullopt;
}

/// Lines of a file with their foldings undone.
std::vector<std::string> unfolded(const std::string& text) {
  std::vector<std::string> lines;
  for (std::size_t from = 0; from < text.size();) {
    const std::size_t end = std::min(text.find('\n', from), text.size());
    std::string line = text.substr(from, end - from);
    if (!line.empty() && line.back() == '\r') line.pop_back();
    if (!line.empty() && (line.front() == ' ' || line.front() == '\t') && !lines.empty())
      lines.back() += line.substr(1);
    else
      lines.push_back(std::move(line));
    from = end + 1;
  }
  return lines;
}

void put_event(std::string& out, const CalendarEvent& e, int sequence, Moment stamp, bool cancelled) {
  put_line(out, "BEGIN:VEVENT");
  put_line(out, "UID:" + calendar_escaped(e.uid));
  put_line(out, "SEQUENCE:" + std::to_string(sequence));
  put_line(out, "DTSTAMP:" + stamp_text(stamp));
  put_line(out, "DTSTART:" + stamp_text(e.start));
  put_line(out, "DTEND:" + stamp_text(e.end));
  put_line(out, "SUMMARY:" + calendar_escaped(e.summary));
  if (!e.description.empty()) put_line(out, "DESCRIPTION:" + calendar_escaped(e.description));
  put_line(out, e.busy ? "TRANSP:OPAQUE" : "TRANSP:TRANSPARENT");
  if (cancelled) put_line(out, "STATUS:CANCELLED");
  if (e.busy && !cancelled) {
    for (const char* line : {"BEGIN:VALARM", "ACTION:DISPLAY", "TRIGGER:-PT10M"}) put_line(out, line);
    put_line(out, "DESCRIPTION:" + calendar_escaped(e.summary));
    put_line(out, "END:VALARM");
  }
  put_line(out, "END:VEVENT");
}

}  // namespace

std::vector<CalendarEvent> events_of(const std::vector<PlannedStep>& steps, const std::string& uid) {
  std::vector<CalendarEvent> events;
  for (const PlannedStep& s : steps) {
    events.push_back({uid + "." + s.id + "@noggin-awl", s.name, s.caution, s.start, s.end, true});
    if (s.ready > s.end)
      events.push_back({uid + "." + s.id + ".ready@noggin-awl", "Ready from " + clock_text(s.ready) + ": " + s.name, {},
          s.end, s.ready, false});
  }
  return events;
}

std::string plan_csv(const std::vector<PlannedStep>& steps) {
  std::string out = "id,step,stage,start,end,ready,hands_min,hands,outdoors,done,slack_min,caution\n";
  for (const PlannedStep& s : steps) {
    out += csv_field(s.id) + "," + csv_field(s.name) + "," + csv_field(s.stage) + "," + iso_text(s.start) + "," +
        iso_text(s.end) + "," + iso_text(s.ready) + ",";
    out += std::to_string(s.hands_min) + "," + std::to_string(s.hands) + "," + (s.outdoors ? "yes" : "no") + "," +
        (s.done ? "yes" : "no") + "," + std::to_string(s.slack_min) + "," + csv_field(s.caution) + "\n";
  }
  return out;
}

std::vector<ReadEvent> events_in(const std::string& text) {
  std::vector<ReadEvent> events;
  bool inside = false, alarm = false;
  for (const std::string& line : unfolded(text)) {
    const std::size_t colon = line.find(':');
    const std::string name = line.substr(0, std::min(colon, line.find(';'))),
                      value = colon == std::string::npos ? "" : line.substr(colon + 1);
    if (name == "BEGIN" && value == "VEVENT") {
      events.emplace_back();
      inside = true;
    } else if (name == "END" && value == "VEVENT") {
      inside = false;
    } else if (value == "VALARM") {
      alarm = name == "BEGIN";
    } else if (inside && !alarm) {
      ReadEvent& e = events.back();
      if (name == "UID") e.event.uid = calendar_unescaped(value);
      if (name == "SUMMARY") e.event.summary = calendar_unescaped(value);
      if (name == "DESCRIPTION") e.event.description = calendar_unescaped(value);
      if (name == "TRANSP") e.event.busy = value != "TRANSPARENT";
      if (name == "STATUS") e.cancelled = value == "CANCELLED";
      if (name == "SEQUENCE") e.sequence = std::clamp(whole_in(value).value_or(0), 0, 1'000'000);
      if (name == "DTSTART") e.event.start = stamp_in(value).value_or(0);
      if (name == "DTEND") e.event.end = stamp_in(value).value_or(0);
    }
  }
  return events;
}

std::string calendar_text(const std::vector<CalendarEvent>& events, const std::string& before, Moment stamp) {
  std::map<std::string, ReadEvent> earlier;
  for (ReadEvent& e : events_in(before)) earlier[e.event.uid] = std::move(e);
  std::string out;
  for (const char* line :
      {"BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Noggin Awl//Finishing plan//EN", "CALSCALE:GREGORIAN"})
    put_line(out, line);
  for (const CalendarEvent& e : events) {
    const auto was = earlier.find(e.uid);
    int sequence = 0;
    if (was != earlier.end()) {
      const bool moved = was->second.cancelled || was->second.event.start != e.start || was->second.event.end != e.end;
      sequence = was->second.sequence + (moved ? 1 : 0);
      earlier.erase(was);
    }
    put_event(out, e, sequence, stamp, false);
  }
  for (const auto& [uid, was] : earlier)
    if (!was.cancelled) put_event(out, was.event, was.sequence + 1, stamp, true);
  put_line(out, "END:VCALENDAR");
  return out;
}

}  // namespace awl
