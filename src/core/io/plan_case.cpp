#include "core/io/plan_case.hpp"

#include "core/base/data_files.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

Moment moment_in(const JsonAt& from) { return taken(parse_moment(from.text())); }

Day day_in(const std::string& text) { return taken(parse_day(text)); }

std::vector<BenchHours> hours_in(const JsonAt& from) {
  std::vector<BenchHours> hours;
  for (const JsonAt& one : from.all()) {
    if (one.size() < 2 || one.size() > 3) one.refuse(Errc::bad_file, "is no [from, to, hands]");
    BenchHours h{taken(parse_hour(one.at(std::size_t{0}).text())), taken(parse_hour(one.at(1).text())), 1};
    if (one.size() == 3) h.hands = one.at(2).whole(0, 2);
    hours.push_back(h);
  }
  return hours;
}

Span span_in(const JsonAt& from) {
  if (from.size() != 2) from.refuse(Errc::bad_file, "is no [from, to]");
  const Span span{moment_in(from.at(std::size_t{0})), moment_in(from.at(1))};
  if (span.from >= span.to) from.refuse(Errc::out_of_range, "ends before it begins");
  return span;
}

WorkStep step_in(const JsonAt& from) {
  WorkStep s;
  s.id = from.at("id").text();
  s.title = from.value("title", s.id);
  s.stage = from.value("stage", "");
  s.scope = from.value("scope", "");
  s.hands_min = from.at("hands_min").whole();
  s.hands = from.value("hands", 1);
  s.may_pause = from.value("may_pause", false);
  s.outdoors = from.value("outdoors", false);
  s.dries_min = from.value("dries_min", 0);
  s.places = from.value("places", s.dries_min > 0 ? 1 : 0);
  if (const auto cautions = from.find("cautions"))
    for (const JsonAt& one : cautions->all()) s.cautions.push_back(one.text());
  return s;
}

int step_named(const JsonAt& from, const Project& p) {
  const int index = p.index_of(from.text());
  if (index < 0) from.refuse(Errc::unknown_name, "names the step " + in_quotes(from.text()) + ", which is not there");
  return index;
}

WorkLink link_in(const JsonAt& from, const Project& p) {
  WorkLink l;
  l.from = step_named(from.at("from"), p);
  l.to = step_named(from.at("to"), p);
  l.wait_min = from.value("wait_min", 0);
  if (const auto within = from.find("within_min")) l.within_min = within->whole();
  if (const auto again = from.find("or_after_min")) l.or_after_min = again->whole();
  l.why = from.value("why", "");
  return l;
}

Project project_in(const JsonAt& from) {
  Project p;
  p.start = moment_in(from.at("start"));
  if (const auto due = from.find("due")) p.due = moment_in(*due);
  if (const auto open = from.find("open")) p.days.usual = hours_in(*open);
  if (const auto on = from.find("open_on"))
    for (const auto& [day, hours] : on->items()) p.days.on[day_in(day)] = hours_in(hours);
  if (const auto closed = from.find("closed"))
    for (const JsonAt& day : closed->all()) p.days.closed.insert(day_in(day.text()));
  if (const auto outdoor = from.find("outdoor")) {
    p.days.outdoors.emplace();
    for (const JsonAt& span : outdoor->all()) p.days.outdoors->push_back(span_in(span));
  }
  p.places = from.value("places", 1);
  for (const JsonAt& step : from.at("steps").all()) p.steps.push_back(step_in(step));
  if (const auto links = from.find("links"))
    for (const JsonAt& link : links->all()) p.links.push_back(link_in(link, p));
  if (const auto done = from.find("done"))
    for (const JsonAt& tick : done->all())
      p.done.push_back({tick.at("id").text(), moment_in(tick.at("start")), moment_in(tick.at("end"))});
  return p;
}

}  // namespace

Result<Project> project_from_json(const Json& json) {
  auto project = read_json(json, "", project_in);
  if (!project) return project;
  if (auto good = check_project(*project); !good) return fail(good);
  return project;
}

Result<Project> plan_case_from(const std::string& text) {
  const auto json = json_in(text, "The plan's file");
  if (!json) return fail(json);
  return project_from_json(*json);
}

Result<Project> read_plan_case(const std::filesystem::path& file) {
  const auto bytes = read_file(file);
  if (!bytes) return fail(bytes);
  return plan_case_from(*bytes);
}

}  // namespace awl
