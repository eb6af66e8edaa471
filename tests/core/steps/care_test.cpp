#include "core/steps/care.hpp"

#include <catch2/catch.hpp>

#include "core/steps/shopping.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

struct Made {
  Build build;
  Derived derived;
  CareSheet care;
};

Made made(const char* demo, const std::function<void(Build&)>& change = {}) {
  Made m;
  m.build = *demo_by_name(demo, Day{20794});
  if (change) change(m.build);
  m.derived = test::chain()->derive(m.build);
  REQUIRE(m.derived.complete());
  m.care = care_sheet(m.build, m.derived, test::chain()->materials());
  return m;
}

bool says(const CareSheet& care, const std::string& words) {
  for (const CareSheet::Section& s : care.sections)
    for (const std::string& line : s.lines)
      if (line.find(words) != std::string::npos) return true;
  return false;
}

std::vector<double> sides(const Vec3& v) {
  std::vector<double> s{v.x(), v.y(), v.z()};
  std::sort(s.begin(), s.end());
  return s;
}

}  // namespace

TEST_CASE("every box holds what goes into it with padding on all sides", "[steps][care][demos]") {
  for (const DemoEntry& entry : demo_gallery()) {
    CAPTURE(entry.id);
    const Made m = made(entry.id.c_str());
    const auto in = sides(m.care.size_mm), box = sides(m.care.box_mm);
    for (std::size_t k = 0; k < 3; ++k) CHECK(box[k] >= in[k] + 80.0 - 1e-6);
    CHECK(says(m.care, "mould"));
    CHECK(says(m.care, "protects from nothing"));
  }
}

TEST_CASE("what is told of keeping follows from what it is made of and held by", "[steps][care]") {
  const Made ram = made("thicket-ram");
  CHECK(says(ram.care, "pacemaker"));
  CHECK(says(ram.care, "which way they face"));
  const Made helm = made("ferry-keeper");
  CHECK_FALSE(says(helm.care, "pacemaker"));
  const Made hot = made("ferry-keeper", [](Build& b) { b.coat.glue = "hot-glue"; });
  CHECK(says(hot.care, "what holds it"));
  const Made powered = made("lamp-post");
  CHECK(says(powered.care, "Battery out"));
  const Made slit = made("heron-warden");
  CHECK(says(slit.care, "Open the cowl"));
}

TEST_CASE("coats are bought by the can, beside what the shop has", "[steps][shopping]") {
  const Made m = made("ferry-keeper");
  const auto list = shopping(m.build, m.derived, test::chain()->materials());
  REQUIRE(list);
  const auto line = [](const Shopping& l, const std::string& id) {
    const auto at = std::find_if(l.lines.begin(), l.lines.end(), [&](const Purchase& p) { return p.id == id; });
    REQUIRE(at != l.lines.end());
    return *at;
  };
  const Purchase rubber = line(*list, "coat/Rubber coat");
  CHECK(rubber.buy == 750.0);
  CHECK(rubber.price == 22.0);
  CHECK(rubber.need < rubber.buy);
  const auto stocked = shopping(m.build, m.derived, test::chain()->materials(), {{"coat/Rubber coat", 750.0}});
  REQUIRE(stocked);
  CHECK(line(*stocked, "coat/Rubber coat").buy == 0.0);
  CHECK(stocked->price == Approx(list->price - 22.0));
}
