#include "core/base/text.hpp"
#include "core/io/build_json.hpp"
#include "core/io/foam_json.hpp"

namespace awl {
namespace {

/// Format 1 knew one value a measure, of adults.
void migrate_from_1(Json& j) {
  Json head = Json::object();
  for (const auto& [code, mm] : j.at("measures_mm").items()) head[code] = {{"first_mm", mm}};
  j["tape"] = {{"people", "adult"}, {"day", Day{}.iso()}, {"by", ""}, {"head", head}, {"body_mm", Json::object()},
      {"accepted", Json::array()}};
  j["extras"] = Json::array();
  j["making"] = "hood", j["built_mm"] = Json::object(), j["fit_to_built"] = false;
  j["foam_head"] = {{"neck_up_mm", 0.0}, {"pipe_mm", 0.0}, {"mirrored", true}, {"plan", -1}};
}

void migrate_from_4(Json& j) {
  migrate_foam_from_4(j.at("foam"));
  j["order"] = Json::array();
}

/// Format 2 knew one hood.
void migrate_from_2(Json& j) {
  const Json hood = j.at("hood");
  Json seams = j.at("seams");
  seams["stagger"] = false;
  const std::map<std::string, std::string> words{
      {"skull-cap", "skull cap"}, {"open-face", "open-face hood"}, {"full-cowl", "full cowl"}};
  const std::string edge = hood.at("edge");
  if (words.count(edge) == 0)
    throw JsonRefused{{Errc::bad_file, "The hood's edge " + in_quotes(edge) + " is not known.", "hood/edge"}};
  j["parts"] = Json::array(
      {{{"id", 1}, {"name", "hood"}, {"kind", "wrap"}, {"on", 0}, {"thickness_mm", 0.0}, {"cards", 0}, {"seams", seams},
          {"dials",
              {{"edge", words.at(edge)}, {"hair", hood.at("hair_mm")}, {"padding", hood.at("padding_mm")},
                  {"up", hood.at("edge_up_mm")}, {"face", hood.at("face_wider_mm")}}}}});
  j["references"] = Json::array(), j["compared"] = Json::array();
  if (j.at("making") == "hood") j["making"] = name_of(Making::parts);
}

/// Format 3 knew lines that cut and nothing else, no alterations and no versions.
void migrate_from_3(Json& j) {
  for (Json& part : j.at("parts"))
    if (const auto drawn = part.find("drawn"); drawn != part.end())
      for (Json& seam : *drawn) seam["role"] = name_of(LineRole::cut), seam["reach_mm"] = DrawnSeam{}.reach_mm;
  j["alterations"] = Json::array(), j["versions"] = Json::array(), j["stems_from"] = 0;
}

}  // namespace

Result<void> migrate(Json& json, int from) {
  try {
    if (from < 2) migrate_from_1(json);
    if (from < 3) migrate_from_2(json);
    if (from < 4) migrate_from_3(json);
    if (from < 5) migrate_from_4(json);
    return {};
  } catch (const JsonRefused& refused) {
    return fail(refused.error);
  } catch (const Json::exception&) {
    return fail(Errc::bad_file,
        "It is of format " + std::to_string(from) + ", and a value of that format is missing or of the wrong kind.");
  }
}

}  // namespace awl
