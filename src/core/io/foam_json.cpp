#include "core/io/foam_json.hpp"

#include "core/io/codec/foam_json.hpp"

namespace awl {

Json outline_to_json(const std::vector<Vec2>& outline) { return json_of(outline); }

std::vector<Vec2> outline_from_json(const JsonAt& json) {
  std::vector<Vec2> outline;
  take(json, outline);
  return outline;
}

Json foam_to_json(const FoamSpec& foam) {
  Json j = spec_to_json(foam);
  if (foam.own_kind) j["own_kind"] = Json::parse(foam_text(*foam.own_kind));
  return j;
}

FoamSpec foam_from_json(const JsonAt& j) {
  FoamSpec foam = spec_from_json<FoamSpec>(j);
  for (Offcut& o : foam.offcuts) o = taken(make_offcut(std::move(o)));
  if (const auto own = j.find("own_kind")) foam.own_kind = foam_from_json_at(*own);
  return foam;
}

void migrate_foam_from_4(Json& foam) {
  foam["nest_tries"] = 1, foam["turn_freely"] = true;
  foam["cuts"] = foam["offcuts"] = foam["held"] = Json::array();
  foam["margins"] = spec_to_json(Margins{});
}

}  // namespace awl
