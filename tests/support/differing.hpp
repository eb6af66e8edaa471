#pragma once
#include <string>

#include "core/builds/build.hpp"
#include "core/io/build_file.hpp"

namespace awl::test {

/// Which parts of two builds differ, by name; empty if they are equal.
inline std::string differing(const Build& a, const Build& b) {
  std::string names;
  const auto look = [&](const char* name, bool same) {
    if (!same) names += (names.empty() ? "" : ", ") + std::string(name);
  };
  look("name", a.name == b.name), look("wearer", a.wearer == b.wearer), look("shown", a.shown == b.shown);
  look("tape", a.tape == b.tape), look("extras", a.extras == b.extras), look("scan", a.scan == b.scan);
  look("making", a.making == b.making), look("foam head", a.foam_head == b.foam_head);
  look("head's way", a.head_way == b.head_way), look("built", a.built == b.built);
  look("fit to built", a.fit_to_built == b.fit_to_built), look("parts", a.parts == b.parts);
  look("alterations", a.alterations == b.alterations), look("corrections", a.corrections == b.corrections);
  look("references", a.references == b.references), look("compared", a.compared == b.compared);
  look("foam", a.foam == b.foam), look("order", a.order == b.order), look("sequence", a.sequence == b.sequence);
  look("coat", a.coat == b.coat), look("dress", a.dress == b.dress), look("fit", a.fit == b.fit);
  look("notes", a.notes == b.notes), look("versions", a.versions == b.versions);
  look("stems from", a.stems_from == b.stems_from);
  if (names.empty() && !(a == b)) names = "what is not looked at";
  return names;
}

/// What of a build is not the same once it is written and read again; empty if all is.
inline std::string lost_on_reading(const Build& build) {
  const auto bytes = build_bytes(build);
  if (!bytes) return "not written: " + bytes.error().text;
  const auto read = build_from_bytes(*bytes);
  if (!read) return "not read: " + read.error().text;
  return differing(*read, build);
}

}  // namespace awl::test
