#include <sstream>

#include "core/base/data_files.hpp"
#include "core/base/json_reader.hpp"
#include "core/base/text.hpp"
#include "core/base/units.hpp"
#include "core/io/measures_file.hpp"

namespace awl {
namespace {

Result<MeasureSet> measures_from_json(const std::string& text) {
  const auto json = json_in(text, "The measures file");
  if (!json) return fail(json);
  return read_json(*json, "", [](const JsonAt& j) {
    const double unit_mm = mm_per(taken(unit_from_symbol(j.value("units", "mm"))));
    MeasureSet set;
    for (const auto& [code, value] : j.at("measures").items())
      set[taken(measure_from_code(code))] = value.number() * unit_mm;
    return set;
  });
}

Result<MeasureSet> measures_from_csv(const std::string& text) {
  MeasureSet set;
  std::istringstream in(text);
  int number = 0;
  for (std::string line; std::getline(in, line);) {
    ++number;
    if (!line.empty() && line.back() == '\r') line.pop_back();
    if (line.empty() || line[0] == '#') continue;
    const auto comma = line.find_first_of(",;");
    const std::string at = "line " + std::to_string(number);
    if (comma == std::string::npos)
      return fail(Errc::bad_file,
          "Line " + std::to_string(number) + " of the measures has no comma: " + in_quotes(line) + ".", at);
    const auto id = measure_from_code(line.substr(0, comma));
    if (!id) return fail(id.error().code, "Line " + std::to_string(number) + ": " + id.error().text, at);
    const auto mm = parse_length(line.substr(comma + 1), LengthUnit::mm);
    if (!mm) return fail(mm.error().code, "Line " + std::to_string(number) + ": " + mm.error().text, at);
    set[*id] = *mm;
  }
  return set;
}

}  // namespace

Result<MeasureSet> measures_from_text(const std::string& text) {
  if (auto good = check_utf8(text, "The measures file"); !good) return fail(good);
  const auto first = text.find_first_not_of(" \t\r\n");
  auto set = first != std::string::npos && text[first] == '{' ? measures_from_json(text) : measures_from_csv(text);
  if (!set) return set;
  if (set->empty())
    return fail(
        Errc::empty_input, "No measure was given; one is enough, the head circumference says most.", "measures");
  for (const auto& [id, mm] : *set)
    if (auto good = check_possible(id, mm); !good) return fail(good);
  return set;
}

Result<MeasureSet> read_measures(const std::filesystem::path& path) {
  const auto text = read_file(path);
  if (!text) return fail(text);
  return measures_from_text(*text);
}

}  // namespace awl
