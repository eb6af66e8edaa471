#include "core/io/small_files.hpp"

#include <algorithm>

#include "core/base/json_reader.hpp"

namespace awl {
namespace {

Vec3 place_in(const JsonAt& from) { return {from.at(0).number(), from.at(1).number(), from.at(2).number()}; }

template <class Read>
auto read_list(const std::string& text, const char* what, Read read) -> decltype(read_json(Json(), "", read)) {
  const auto json = json_in(text, what);
  if (!json) return fail(json);
  return read_json(*json, "", std::move(read));
}

}  // namespace

Result<std::map<Landmark, Vec3>> scan_marks_from(const std::string& text) {
  static constexpr std::pair<const char*, Landmark> kNames[] = {{"glabella", Landmark::glabella},
      {"pronasale", Landmark::pronasale}, {"tragion_l", Landmark::tragion_l}, {"tragion_r", Landmark::tragion_r},
      {"vertex", Landmark::vertex}};
  return read_list(text, "The marks file", [](const JsonAt& j) {
    std::map<Landmark, Vec3> marks;
    for (const auto& [name, at] : j.items()) {
      const auto known = std::find_if(
          std::begin(kNames), std::end(kNames), [&, word = name](const auto& n) { return word == n.first; });
      if (known == std::end(kNames))
        at.refuse(Errc::unknown_name,
            "is no place asked for on a scan; there are glabella, pronasale, tragion_l, tragion_r and vertex");
      if (at.size() != 3) at.refuse(Errc::bad_file, "is not [x,y,z]");
      marks[known->second] = place_in(at);
    }
    return marks;
  });
}

Result<std::vector<CutLine>> cuts_from(const std::string& text) {
  constexpr std::size_t kMostCuts = 500, kMostPlaces = 5000;
  return read_list(text, "The cuts file", [&](const JsonAt& j) {
    std::vector<CutLine> cuts;
    for (const JsonAt& cut : j.at("cuts").all()) {
      if (cuts.size() >= kMostCuts)
        cut.refuse(Errc::too_large, "is one cut too many; " + std::to_string(kMostCuts) + " are the most");
      if (cut.size() > kMostPlaces)
        cut.refuse(Errc::too_large,
            "has " + std::to_string(cut.size()) + " places; " + std::to_string(kMostPlaces) + " are the most");
      CutLine line;
      for (const JsonAt& p : cut.all()) line.push_back(place_in(p));
      cuts.push_back(std::move(line));
    }
    return cuts;
  });
}

Result<std::map<std::string, double>> check_readings_from(const std::string& text) {
  return read_list(text, "The readings file", [](const JsonAt& j) {
    std::map<std::string, double> readings;
    for (const auto& [id, mm] : j.items()) readings[id] = mm.number();
    return readings;
  });
}

}  // namespace awl
