#include "core/builds/settings.hpp"

#include <algorithm>

#include "core/base/text.hpp"

namespace awl {
namespace {

template <class T>
void add_each(std::vector<std::string>& places, const std::vector<T>& all, const std::string& of) {
  for (const T& one : all) places.push_back(of + std::to_string(one.id));
}

/// What comes before the first slash, taken off `rest`.
std::string take_step(std::string& rest) {
  const auto slash = rest.find('/');
  const std::string step = rest.substr(0, slash);
  rest = slash == std::string::npos ? std::string() : rest.substr(slash + 1);
  return step;
}

using Found = std::optional<std::vector<Dial>>;

template <class T>
Found of_number(std::vector<T>& all, const std::string& number) {
  const auto id = whole_in(number);
  if (!id) return {};
  const auto at = std::find_if(all.begin(), all.end(), [&](const T& one) { return one.id == *id; });
  if (at == all.end()) return {};
  return dials_of(*at);
}

Found in_part(Build& build, std::string rest) {
  const auto id = whole_in(take_step(rest));
  Part* part = id ? find_part(build, *id) : nullptr;
  if (part == nullptr) return {};
  if (rest.empty()) return dials_of(*part);
  if (rest == "way") return dials_of(part->way);
  if (rest == "seams" && std::holds_alternative<WrapSpec>(part->shape)) return dials_of(part->seams);
  return {};
}

Found in_fit(FitSpec& fit, std::string rest) {
  if (rest.empty()) return dials_of(fit);
  const std::string list = take_step(rest);
  if (list == "slit") return of_number(fit.slits, rest);
  if (list == "hold") return of_number(fit.holds, rest);
  if (list == "room") return of_number(fit.rooms, rest);
  if (list == "cutout") return of_number(fit.cutouts, rest);
  return {};
}

Found found(Build& build, const std::string& place) {
  if (place == "foam") return dials_of(build.foam);
  if (place == "foam/margins") return dials_of(build.foam.margins);
  if (place == "headform") return dials_of(build.foam_head);
  if (place == "headform/way") return dials_of(build.head_way);
  if (place == "quote") return dials_of(build.coat.rates);
  if (place == "coat") {
    std::vector<Dial> all = own_dials_of(build.coat);
    for (Dial& d : dials_of(static_cast<FinishSpec&>(build.coat))) all.push_back(std::move(d));
    return all;
  }
  std::string rest = place;
  const std::string area = take_step(rest);
  if (area == "parts") return in_part(build, rest);
  if (area == "fit") return in_fit(build.fit, rest);
  if (area == "dress") return of_number(build.dress.details, rest);
  return {};
}

}  // namespace

std::vector<std::string> dial_places(const Build& b) {
  std::vector<std::string> places{"headform", "headform/way"};
  for (const Part& p : b.parts) {
    const std::string of = "parts/" + std::to_string(p.id);
    places.push_back(of);
    if (std::holds_alternative<WrapSpec>(p.shape)) places.push_back(of + "/seams");
    places.push_back(of + "/way");
  }
  places.insert(places.end(), {"foam", "foam/margins", "fit"});
  add_each(places, b.fit.slits, "fit/slit/");
  add_each(places, b.fit.holds, "fit/hold/");
  add_each(places, b.fit.rooms, "fit/room/");
  add_each(places, b.fit.cutouts, "fit/cutout/");
  add_each(places, b.dress.details, "dress/");
  places.insert(places.end(), {"coat", "quote"});
  return places;
}

Result<std::vector<Dial>> dials_at(Build& build, const std::string& place) {
  if (auto dials = found(build, place)) return std::move(*dials);
  return fail(Errc::unknown_name, "There is no place " + in_quotes(place) + " with something to set in this build.");
}

Result<Build> with_setting(Build build, const std::string& place, const std::string& dial, double value) {
  const auto dials = dials_at(build, place);
  if (!dials) return fail(dials);
  if (auto good = turn_dial(*dials, dial, value, place); !good) return fail(good);
  return build;
}

Result<Build> with_setting(Build build, const std::string& setting, const std::string& to) {
  const auto slash = setting.rfind('/');
  if (slash == std::string::npos)
    return fail(Errc::unknown_name, in_quotes(setting) + " is no place and dial, as in foam/gap.");
  const std::string place = setting.substr(0, slash);
  const auto dials = dials_at(build, place);
  if (!dials) return fail(dials);
  if (auto good = set_dial(*dials, setting.substr(slash + 1), to, place); !good) return fail(good);
  return build;
}

}  // namespace awl
