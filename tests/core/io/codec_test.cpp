#include <catch2/catch.hpp>
#include <set>

#include "core/io/codec/dress_json.hpp"
#include "core/io/codec/fit_json.hpp"
#include "core/io/codec/coat_json.hpp"
#include "core/io/codec/foam_json.hpp"
#include "core/io/codec/seam_json.hpp"
#include "support/shaker.hpp"

using namespace awl;

namespace {

/// Every field altered, written, read back the same; and nothing written is as it usually is.
/// `later`: fields that files of before lack; they then keep their usual value.
template <class S>
void survives_shaking(const char* what, const std::set<std::string>& later = {}) {
  CAPTURE(what);
  S shaken;
  test::Shaker shaker;
  fields(shaker, shaken);
  const Json usual = spec_to_json(S{}), json = spec_to_json(shaken);
  for (const auto& [key, value] : json.items()) {
    CAPTURE(key);
    CHECK(value != usual.at(key));
  }
  const auto back = read_json(json, "", spec_from_json<S>);
  INFO((back ? std::string() : back.error().text));
  REQUIRE(back);
  CHECK(*back == shaken);
  // Each is asked for by its own key: without it there is a sentence that names it.
  for (const auto& [key, value] : json.items()) {
    Json without = json;
    without.erase(key);
    const auto refused = read_json(without, "", spec_from_json<S>);
    CAPTURE(key);
    if (later.count(key) != 0) {
      REQUIRE(refused);
      CHECK(spec_to_json(*refused).at(key) == usual.at(key));
      continue;
    }
    REQUIRE_FALSE(refused);
    CHECK(refused.error().text.find(key) != std::string::npos);
  }
}

struct Later {
  double old_mm = 1.0;
  std::string added = "as usual";
  bool operator==(const Later&) const = default;
};
template <class C>
void fields(C& c, Later& s) {
  c.value("old_mm", s.old_mm);
  c.also("added", s.added);
}

}  // namespace

TEST_CASE("every field of every spec survives saving, however it is altered", "[io][codec][property]") {
  survives_shaking<SeamSpec>("seams");
  survives_shaking<Track>("line of a detail");
  survives_shaking<Slit>("slit");
  survives_shaking<Hold>("hold");
  survives_shaking<Room>("room");
  survives_shaking<Cutout>("cutout");
  survives_shaking<FitSpec>("fit");
  survives_shaking<DrawnSeam>("drawn seam");
  survives_shaking<Alteration>("alteration");
  survives_shaking<Version>("version");
  survives_shaking<Margins>("margins");
  survives_shaking<SeamCut>("cut");
  survives_shaking<Offcut>("offcut");
  survives_shaking<HeldCopy>("held copy");
  survives_shaking<FoamSpec>("foam", {"guides", "notched", "slotted"});
  survives_shaking<WaySpec>("way", {"shell", "fill"});
  survives_shaking<Meet>("meet");
  survives_shaking<OrderRule>("order");
  survives_shaking<FoamHeadSpec>("foam head");
  survives_shaking<CoatSpec>("coat", {"finish"});
  survives_shaking<FinishSpec>("finish");
  survives_shaking<Pigment>("pigment");
  survives_shaking<ColourArea>("colour area");
  survives_shaking<OutdoorDay>("outdoor day");
  survives_shaking<StepTick>("tick");
  survives_shaking<QuoteRates>("rates");
}

TEST_CASE("every dial of every kind of detail survives saving, and a word it does not have is refused", "[io][codec]") {
  int dials = 0;
  for (const DetailShape& kind : detail_kinds()) {
    Detail detail;
    detail.id = 3, detail.name = "detail", detail.shape = kind;
    for (const Dial& d : dials_of(detail)) {
      const bool whole = d.facts.kind == DialKind::count || d.facts.kind == DialKind::choice;
      const double most =
          d.facts.kind == DialKind::choice ? static_cast<double>(d.facts.options.size()) - 1.0 : d.facts.most;
      const double to = d.facts.least + 0.61 * (most - d.facts.least);
      d.turn(whole ? std::round(to) : to);
      ++dials;
    }
    const DressSpec spec{{detail}, false};
    Json json = spec_to_json(spec);
    const auto back = read_json(json, "", spec_from_json<DressSpec>);
    INFO(kind_of(kind) << " " << (back ? std::string() : back.error().text));
    REQUIRE(back);
    CHECK(*back == spec);
    json["details"][0]["shape"]["kind"] = "hat";
    CHECK_FALSE(read_json(json, "", spec_from_json<DressSpec>));
  }
  CHECK(dials > 100);
}

TEST_CASE("a field added later keeps its usual value in files that lack it", "[io][codec]") {
  const auto old = read_json(Json{{"old_mm", 4.0}}, "", spec_from_json<Later>);
  REQUIRE(old);
  CHECK(*old == Later{4.0, "as usual"});
}
