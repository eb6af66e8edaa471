#include "cli/cli.hpp"

#include <catch2/catch.hpp>
#include <sstream>

#include "core/base/json_reader.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"
#include "support/shell.hpp"

using namespace awl;
using test::Ran;
using test::run;

TEST_CASE("settings lists all that can be set, and change sets it or carries out a remark's act", "[cli]") {
  const test::TempFolder folder;
  const std::string from = (folder / "a.noggin").string(), to = (folder / "b.noggin").string();
  REQUIRE(run({"new", "--demo", "hood", "-o", from}).code == 0);
  const Json settings = run({"settings", from, "--json"}).json()["settings"];
  REQUIRE(settings.size() > 100);
  const auto named = [&](const std::string& name) {
    for (const Json& s : settings)
      if (s["setting"] == name) return s;
    return Json();
  };
  CHECK(named("foam/gap")["value"] == 4.0);
  CHECK(named("foam/gap")["most"] == 50.0);
  CHECK(named("coat/shade")["options"].size() == 3);
  CHECK(run({"settings", from}).out.find("foam/gap = 4 mm (0 mm to 50 mm): Between pieces\n") != std::string::npos);

  const Ran done = run({"change", from, "--act", "set foam/gap 7", "--act", "set-gores 5", "-o", to, "--json"});
  REQUIRE(done.code == 0);
  const auto changed = open_build(to);
  REQUIRE(changed);
  CHECK(changed->foam.gap_mm == 7.0);
  CHECK(changed->parts.front().seams.gores_per_side == 5);

  // Nothing is written where one of several cannot be.
  const std::string none = (folder / "c.noggin").string();
  const Ran refused = run({"change", from, "--act", "set foam/gap 7", "--act", "set foam/gap 700", "-o", none});
  CHECK(refused.code == 1);
  CHECK(refused.err.find("700 mm is outside 0 mm to 50 mm") != std::string::npos);
  CHECK(run({"change", from, "--act", "set foam/kind granite", "-o", none}).err.find("granite") != std::string::npos);
  CHECK_FALSE(std::filesystem::exists(none));
}

TEST_CASE("a product there is not is refused where it is chosen, and kept where a build came with it", "[cli]") {
  const test::TempFolder folder;
  const std::string from = (folder / "a.noggin").string(), to = (folder / "b.noggin").string();
  REQUIRE(run({"new", "--demo", "hood", "-o", from}).code == 0);
  for (const char* act : {"set-glue moonshine", "set-seal moonshine", "set coat/paint moonshine", "set-clear moonshine",
           "glue-joint moonshine crown on hood"}) {
    CAPTURE(act);
    const Ran refused = run({"change", from, "--act", act, "-o", to});
    CHECK(refused.code == 1);
    CHECK(refused.err.find("called \"moonshine\" in the material data") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(to));
  }
  auto other = open_build(from);
  REQUIRE(other);
  other->coat.glue = "moonshine";
  REQUIRE(save_build(from, *other));
  REQUIRE(run({"change", from, "--act", "set foam/gap 7", "-o", to}).code == 0);
  const auto changed = open_build(to);
  REQUIRE(changed);
  CHECK(changed->coat.glue == "moonshine");
  CHECK(changed->foam.gap_mm == 7.0);
  CHECK(run({"change", from, "--act", "set-seal moonshine", "-o", to}).code == 1);
}
