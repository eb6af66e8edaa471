#include "core/builds/version.hpp"

#include <algorithm>

#include "core/builds/build.hpp"

namespace awl {
namespace {

constexpr std::size_t kMostVersions = 40;

/// The inputs alone, as a version holds them.
Build bare(Build build) {
  build.versions.clear(), build.stems_from = 0;
  return build;
}

Error no_such(int id) {
  return {Errc::unknown_name, "There is no version " + std::to_string(id) + " in this build.",
      "versions/" + std::to_string(id)};
}

}  // namespace

bool Version::operator==(const Version& o) const {
  return id == o.id && name == o.name && note == o.note && day == o.day && from == o.from &&
      (held == o.held || (held && o.held && *held == *o.held));
}

const Version* find_version(const Build& build, int id) {
  const auto it =
      std::find_if(build.versions.begin(), build.versions.end(), [id](const Version& v) { return v.id == id; });
  return it == build.versions.end() ? nullptr : &*it;
}

bool is_as(const Build& build, const Version& version) { return version.held && bare(build) == *version.held; }

Result<Build> keep_version(const Build& build, const std::string& name, const std::string& note, Day day) {
  if (name.empty()) return fail(Errc::empty_input, "A version needs a name, so that it is found again.", "versions");
  if (build.versions.size() >= kMostVersions)
    return fail(Errc::out_of_range,
        "There are " + std::to_string(kMostVersions) + " versions already; forget one first.", "versions");
  Build next = build;
  Version kept{1, name, note, day, build.stems_from, std::make_shared<const Build>(bare(build))};
  for (const Version& v : build.versions) kept.id = std::max(kept.id, v.id + 1);
  next.stems_from = kept.id;
  next.versions.push_back(std::move(kept));
  return next;
}

Result<Build> go_back(const Build& build, int id, Day day) {
  const Version* to = find_version(build, id);
  if (to == nullptr || !to->held) return fail(no_such(id));
  Build from = build;
  if (std::none_of(build.versions.begin(), build.versions.end(), [&](const Version& v) { return is_as(build, v); })) {
    auto kept = keep_version(build, "before going back to " + to->name, {}, day);
    if (!kept) return kept;
    from = std::move(*kept);
  }
  Build next = *find_version(from, id)->held;
  next.versions = from.versions, next.stems_from = id;
  return next;
}

Result<Build> forget_version(const Build& build, int id) {
  const Version* gone = find_version(build, id);
  if (gone == nullptr) return fail(no_such(id));
  Build next = build;
  const int heir = gone->from;
  std::erase_if(next.versions, [id](const Version& v) { return v.id == id; });
  for (Version& v : next.versions)
    if (v.from == id) v.from = heir;
  if (next.stems_from == id) next.stems_from = heir;
  return next;
}

Result<Build> describe_version(const Build& build, int id, const std::string& name, const std::string& note) {
  if (find_version(build, id) == nullptr) return fail(no_such(id));
  if (name.empty())
    return fail(
        Errc::empty_input, "A version needs a name, so that it is found again.", "versions/" + std::to_string(id));
  Build next = build;
  for (Version& v : next.versions)
    if (v.id == id) v.name = name, v.note = note;
  return next;
}

}  // namespace awl
