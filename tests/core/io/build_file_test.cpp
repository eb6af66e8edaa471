#include "core/io/build_file.hpp"

#include <catch2/catch.hpp>

#include "core/base/json_reader.hpp"
#include "core/base/random.hpp"
#include "core/io/measures_file.hpp"
#include "core/io/wearers_csv.hpp"
#include "core/io/zip_file.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

Build random_build(std::uint64_t seed) {
  Random r(seed);
  Build b = test::demo();
  b.name = "Reed Mask \u2116 " + std::to_string(seed) + " \"quoted\" \n line";
  b.shown = static_cast<LengthUnit>(r.next() % 3);
  b.tape.head.clear();
  for (const MeasureFacts& f : measure_facts())
    if (r.next() % 2 == 0) b.tape.set(f.id, r.uniform(f.least_mm, f.most_mm));
  wrap_of(b).edge = static_cast<WrapEdge>(r.next() % 6);
  wrap_of(b).hair_mm = r.uniform(1, 20);
  wrap_of(b).edge_up_mm = r.uniform(-20, 20);
  first_wrap(b).seams.preset = static_cast<SeamPreset>(r.next() % 2);
  first_wrap(b).seams.gores_per_side = 1 + static_cast<int>(r.next() % 8);
  first_wrap(b).seams.belt = r.next() % 2 == 0;
  b.foam.sheet = {r.uniform(100, 2000), r.uniform(100, 2000)};
  b.coat.heat_seal = r.next() % 2 == 0;
  b.coat.hours_a_day = r.uniform(1, 10);
  return b;
}

}  // namespace

TEST_CASE("a build saved and opened again is identical", "[io][noggin][property]") {
  const test::TempFolder folder;
  const Build build = random_build(GENERATE(range(1, 20)));
  REQUIRE(save_build(folder / "a.noggin", build));
  const auto back = open_build(folder / "a.noggin");
  REQUIRE(back);
  CHECK(*back == build);
}

TEST_CASE("the same build gives the same bytes", "[io][noggin]") {
  CHECK(*build_bytes(test::demo()) == *build_bytes(test::demo()));
}

TEST_CASE("saving over a build keeps the previous one beside it", "[io][noggin]") {
  const test::TempFolder folder;
  Build build = test::demo();
  REQUIRE(save_build(folder / "a.noggin", build));
  build.name = "second";
  REQUIRE(save_build(folder / "a.noggin", build));
  CHECK(open_build(folder / "a.noggin")->name == "second");
  CHECK(build_from_bytes(*read_file(folder / "a.noggin~"))->name == test::demo().name);
}

TEST_CASE("damaged, foreign and newer files are refused with a plain sentence", "[io][noggin]") {
  const std::string good = *build_bytes(test::demo());
  CHECK(build_from_bytes("").error().code == Errc::bad_file);
  CHECK(build_from_bytes("This is a shopping list.").error().text.find("no .noggin file") != std::string::npos);
  CHECK(build_from_bytes(good.substr(0, good.size() / 2)).error().code == Errc::bad_file);
  std::string damaged = good;
  for (std::size_t i = good.size() / 3; i < good.size() / 3 + 40; ++i) damaged[i] = static_cast<char>(~damaged[i]);
  CHECK_FALSE(build_from_bytes(damaged));
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "odd.noggin", "PK nonsense"));
  CHECK(open_build(folder / "odd.noggin").error().text.rfind("odd.noggin", 0) == 0);
  CHECK(open_build(folder / "none.noggin").error().code == Errc::cannot_read);
}

TEST_CASE("a build of the first format is carried over, its measures those of an adult", "[io][noggin]") {
  const auto old = open_build(std::filesystem::path(NOGGIN_AWL_SOURCE) / "tests/golden/format-1.noggin");
  REQUIRE(old);
  CHECK(old->name == "Heron Warden, hood");
  CHECK(old->tape.people == "adult");
  CHECK(old->tape.head.at(MeasureId::HC).first_mm == 584.0);
  CHECK(old->tape.head.size() == 6);
  CHECK(old->extras.empty());
}

TEST_CASE("a build of the third format is carried over, its lines seams as they were", "[io][noggin]") {
  const auto old = open_build(std::filesystem::path(NOGGIN_AWL_SOURCE) / "tests/golden/format-3.noggin");
  REQUIRE(old);
  REQUIRE(old->parts[0].drawn.size() == 1);
  CHECK(old->parts[0].drawn[0].role == LineRole::cut);
  CHECK(old->parts[0].drawn[0].cuts());
  CHECK(old->alterations.empty());
  CHECK(old->versions.empty());
  CHECK(*build_from_bytes(*build_bytes(*old)) == *old);
}

TEST_CASE("what was noted with a measure is kept with it", "[io][noggin]") {
  Build build = test::demo();
  build.tape.people = "auto";
  build.tape.head[MeasureId::HC] = {586.0, 588.0, 3.5, Day{20000}, "the helper"};
  build.tape.body[BodyMeasure::wrist] = 171.0;
  build.tape.accepted = {MeasureId::HB};
  build.extras = {Extra::arm_guards, Extra::chin_strap};
  build.making = Making::headform, build.foam_head = {12.0, 40.0, false, 2}, build.fit_to_built = true;
  build.built = {{"crown to back", 136.5}, {"round the neck", 381.0}};
  const auto back = build_from_bytes(*build_bytes(build));
  REQUIRE(back);
  CHECK(back->tape == build.tape);
  CHECK(*back == build);
}

TEST_CASE("a newer format is refused with both versions", "[io][noggin]") {
  // Made by another program: this one never writes a newer format.
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "build.json", "{\"format_version\": 99}"));
  const std::string command = "cd " + folder.path().string() +
      " && python3 -c \"import zipfile; z=zipfile.ZipFile('n.noggin','w'); z.write('build.json')\"";
  REQUIRE(std::system(command.c_str()) == 0);
  const auto newer = open_build(folder / "n.noggin");
  REQUIRE_FALSE(newer);
  CHECK(newer.error().code == Errc::newer_file);
  CHECK(newer.error().text.find("99") != std::string::npos);
  CHECK(newer.error().text.find("up to 6") != std::string::npos);
}

namespace {

/// The demo's build.json, changed, in a sound archive with what else stood in it.
std::string altered(const std::function<void(Json&)>& edit, const Entries& more = {}) {
  const std::string good = *build_bytes(test::demo());
  auto zip = ZipFile::open(good);
  Json json = *json_in(*zip->entry("build.json"), "It");
  edit(json);
  Entries entries{{"build.json", json.dump()}};
  entries.insert(entries.end(), more.begin(), more.end());
  return *zipped(entries);
}

void check_refused(const std::string& bytes, const char* words) {
  const auto read = build_from_bytes(bytes);
  REQUIRE_FALSE(read);
  CAPTURE(read.error().text);
  CHECK(read.error().text.find(words) != std::string::npos);
  CHECK(read.error().text.size() <= kLongestSentence);
  CHECK(read.error().text.find("exception") == std::string::npos);
}

}  // namespace

TEST_CASE("builds that would end or stall the program are refused with value and place", "[io][noggin][hostile]") {
  const auto part = [](Json& j) -> Json& { return j["parts"][0]; };
  check_refused(altered([&](Json& j) { part(j)["mesh"] = "part-1.ply"; }), "no mesh brought in");
  check_refused(altered([&](Json& j) { j["foam"]["gap_mm"] = 1e308; }), "gap_mm is 1.0e+308");
  check_refused(altered([&](Json& j) { j["foam"]["gap_mm"] = -1000; }), "-1000");
  check_refused(altered([&](Json& j) { j["foam"]["margins"]["kerf_mm"] = -50; }),
      "What the cut takes: -50 mm is outside 0 mm to 60 mm");
  check_refused(altered([&](Json& j) { j["foam"]["margins"]["rim_mm"] = 1e7; }), "Along free edges: 10000000 mm");
  check_refused(altered([&](Json& j) { j["foam"]["thickness_mm"] = -5; }), "Foam thickness: -5 mm");
  check_refused(altered([&](Json& j) { part(j)["thickness_mm"] = -5; }), "thickness of -5.0 mm");
  check_refused(altered([&](Json& j) { j["foam"]["nest_tries"] = 1000000000; }), "1000000000");
  check_refused(altered([&](Json& j) { part(j)["on"] = part(j)["id"]; }), "made before it");
  check_refused(altered([&](Json& j) { j["parts"].push_back(part(j)); }), "among the parts");
  check_refused(altered([&](Json& j) {
    Json second = part(j);
    second["id"] = 2, second["on"] = 1, part(j)["on"] = 2;
    j["parts"].push_back(second);
  }),
      "made before it");
  check_refused(altered([](Json& j) { j["format_version"] = 4294967302ll; }), "format");
  check_refused(altered([](Json& j) { j["name"] = std::string(70'000, 'x'); }), "70000 letters");
  check_refused(altered([](Json& j) { j["coat"]["hours_a_day"] = "four"; }), "coat/hours_a_day is not a number");
  check_refused(altered([](Json& j) { j.erase("tape"); }), "tape is missing");
}

TEST_CASE("archives that ask for more than a build has are refused", "[io][noggin][hostile]") {
  const auto version = [](int id) {
    return Json{{"id", id}, {"name", "v"}, {"note", ""}, {"day", "2026-01-01"}, {"from", 0}};
  };
  const std::string held = *build_bytes(test::demo());
  check_refused(altered(
                    [&](Json& j) {
                      for (int i = 0; i < 2000; ++i) j["versions"].push_back(version(1));
                    },
                    {{"version-1.noggin", held}}),
      "versions");
  check_refused(altered(
                    [&](Json& j) {
                      j["versions"] = {version(1), version(1)};
                    },
                    {{"version-1.noggin", held}}),
      "among the versions");
  check_refused(altered(
                    [&](Json& j) {
                      for (int i = 0; i < 300; ++i)
                        j["references"].push_back(
                            {{"from", "front"}, {"file", "a.png"}, {"mm_per_pixel", 1.0}, {"origin_px", {0, 0}}});
                    },
                    {{"picture-front", std::string(1000, 'p')}}),
      "two pictures from the front");
  Entries many;
  for (int i = 0; i < 500; ++i) many.push_back({"entry-" + std::to_string(i), "x"});
  check_refused(altered([](Json&) {}, many), "400 entries");
  check_refused(*zipped({{"build.json", std::string(1'000'000, '[')}}), "nested deeper");
  check_refused(*zipped({{"build.json", std::string(std::size_t{65} << 20, ' ')}}), "64 MB");
}

TEST_CASE("JSON altered inside a sound archive is a build or a sentence", "[io][noggin][fuzz]") {
  Random random(31);
  const std::vector<Json> values{nullptr, true, -1, 0, 1e308, -1e9, "", "x", std::string(500, 'y'), Json::array(),
      Json::object(), 4294967299ll, 0.5};
  int refused = 0;
  for (int round = 0; round < 600; ++round) {
    const std::string bytes = altered([&](Json& j) {
      for (int k = 0; k < 1 + round % 3; ++k) {
        const Json flat = j.flatten();
        auto at = flat.begin();
        std::advance(at, static_cast<long>(random.next() % flat.size()));
        Json& target = j[Json::json_pointer(at.key())];
        target = values[random.next() % values.size()];
      }
    });
    const auto read = build_from_bytes(bytes);
    if (read) continue;
    ++refused;
    CAPTURE(read.error().text);
    REQUIRE_FALSE(read.error().text.empty());
    REQUIRE(read.error().text.size() <= kLongestSentence);
    REQUIRE(read.error().text.find("exception") == std::string::npos);
    REQUIRE(read.error().code != Errc::internal);
  }
  CHECK(refused > 200);
}

TEST_CASE("a save that fails keeps the file and the one before it", "[io][noggin]") {
  const test::TempFolder folder;
  Build build = test::demo();
  build.name = "first";
  REQUIRE(save_build(folder / "a.noggin", build));
  build.name = "second";
  REQUIRE(save_build(folder / "a.noggin", build));
  build.foam.gap_mm = -1.0;  // nothing that could not be read again is written
  CHECK_FALSE(save_build(folder / "a.noggin", build));
  CHECK(open_build(folder / "a.noggin")->name == "second");
  CHECK(build_from_bytes(*read_file(folder / "a.noggin~"))->name == "first");
  CHECK(save_build("/dev/full", test::demo()).error().code == Errc::cannot_write);
}

TEST_CASE("text that is not UTF-8 does not keep a build from being saved, nor get into it", "[io][noggin]") {
  Build build = test::demo();
  build.wearer = "Zo\xEB";
  const auto bytes = build_bytes(build);
  REQUIRE_FALSE(bytes);
  CHECK(bytes.error().text.find("wearer") != std::string::npos);
  const auto table = wearers_from_csv("wearer,HC\nZo\xEB,560\n");
  REQUIRE_FALSE(table);
  CHECK(table.error().text.find("line 2, character 3") != std::string::npos);
}

TEST_CASE("an unwritable place is named and nothing is lost", "[io][noggin]") {
  const test::TempFolder folder;
  REQUIRE(save_build(folder / "a.noggin", test::demo()));
  const auto saved = save_build((folder / "a.noggin") / "b.noggin", test::demo());
  REQUIRE_FALSE(saved);
  CHECK(saved.error().code == Errc::cannot_write);
  CHECK(open_build(folder / "a.noggin")->name == test::demo().name);
}

TEST_CASE("measures are read from JSON in any unit and from CSV as makers type", "[io][measures]") {
  const auto mm = measures_from_text(R"({"units":"mm","measures":{"HC":560,"HL":195}})");
  REQUIRE(mm);
  CHECK(mm->at(MeasureId::HC) == 560.0);
  const auto inch = measures_from_text(R"({"units":"in","measures":{"HC":22}})");
  CHECK(inch->at(MeasureId::HC) == Approx(558.8));
  CHECK(measures_from_text(R"({"measures":{"HC":560}})")->size() == 1);
  const auto csv = measures_from_text("# a head\nHC,22 1/16 in\r\nHL;19,5 cm\n\n");
  REQUIRE(csv);
  CHECK(csv->at(MeasureId::HC) == Approx(22.0625 * 25.4));
  CHECK(csv->at(MeasureId::HL) == Approx(195.0));
}

TEST_CASE("measures that cannot be read say in which line or key", "[io][measures]") {
  const auto [text, where] = GENERATE(
      table<const char*, const char*>({{"HC,570\nHQ,12\n", "Line 2"}, {"HC 570\n", "Line 1"}, {"HC,abc\n", "Line 1"},
          {"{\"measures\":{\"HC\":\"x\"}}", "HC"}, {"{\"units\":\"ell\",\"measures\":{\"HC\":1}}", "ell"},
          {"{\"measures\":{}}", "No measure"}, {"{broken", "JSON"}, {"HC,57\n", "57.0 cm"}, {"", "No measure"}}));
  CAPTURE(text);
  const auto read = measures_from_text(text);
  REQUIRE_FALSE(read);
  CHECK(read.error().text.find(where) != std::string::npos);
}

TEST_CASE(
    "a file of every format there ever was opens, is worked out, and is saved as today's", "[io][files][golden]") {
  const test::TempFolder folder;
  const std::pair<const char*, std::size_t> golden[] = {
      {"format-1", 1}, {"format-2", 1}, {"format-3", 1}, {"format-4", 1}, {"format-5", 2}, {"format-6", 2}};
  for (const auto& [name, least_parts] : golden) {
    CAPTURE(name);
    const auto old =
        open_build(std::filesystem::path(NOGGIN_AWL_SOURCE) / "tests/golden" / (std::string(name) + ".noggin"));
    REQUIRE(old);
    CHECK(old->parts.size() >= least_parts);
    CHECK(test::formed(*old).form != nullptr);
    REQUIRE(save_build(folder / "today.noggin", *old));
    const auto again = open_build(folder / "today.noggin");
    REQUIRE(again);
    CHECK(*again == *old);
  }
}

TEST_CASE("whatever the dials of a part stand at, it is read back as it was written", "[io][files][property]") {
  Random random(31);
  int read_back = 0;
  for (const PartPreset& preset : part_presets())
    for (int round = 0; round < 12; ++round) {
      Build build = test::demo();
      build.parts.push_back(preset.make());
      Part& part = build.parts.back();
      part.id = 77;
      for (int turns = 0; turns < 16; ++turns) {
        auto dials = dials_of(part);  // some come and go with what is chosen
        if (turns % 2 == 0)
          dials.erase(std::remove_if(
                          dials.begin(), dials.end(), [](const Dial& d) { return d.facts.kind != DialKind::choice; }),
              dials.end());
        if (dials.empty()) continue;
        const Dial& dial = dials[static_cast<std::size_t>(random.below(dials.size()))];
        const DialFacts& facts = dial.facts;
        const bool measured =
            facts.kind == DialKind::length || facts.kind == DialKind::angle || facts.kind == DialKind::share;
        const double value = random.uniform(facts.least, facts.most);
        REQUIRE(turn_dial(dials, facts.id, measured ? value : std::round(value), "parts/77"));
      }
      INFO(preset.id << " " << round);
      const auto bytes = build_bytes(build);
      if (!bytes) {
        CHECK(bytes.error().text.size() > 20);  // dials that are each good, and not together
        continue;
      }
      ++read_back;
      const auto read = build_from_bytes(*bytes);
      if (!read) FAIL_CHECK(read.error().text);
      if (read) CHECK(*read == build);
    }
  CHECK(read_back > 300);
}

TEST_CASE("points of openings it does not have now are kept for when it has them again", "[io][files]") {
  Build build = test::demo();
  WrapSpec& wrap = wrap_of(build);
  wrap.eye_wide_mm = 0.0, wrap.eye_mm[2] = 4.5;
  wrap.mouth_mm[1] = -2.0, wrap.left_mm[3] = 7.25, wrap.ear_mm[0] = 3.0;
  wrap.edge = WrapEdge::skull_cap, wrap.face_mm[1] = 6.0;
  const auto read = build_from_bytes(*build_bytes(build));
  REQUIRE(read);
  CHECK(*read == build);
  // The way a seat is not told by, also where it is nothing and a new one is not.
  for (const SeatBy by : {SeatBy::angles, SeatBy::spot}) {
    Build sat = test::demo();
    SweepSpec horn;
    horn.seat.by = by, horn.seat.up_deg = horn.seat.spot_up = horn.seat.spot_front = 0.0;
    horn.pair = false, horn.one_sided = true;
    sat.parts.push_back(Part{});
    sat.parts.back().id = 77, sat.parts.back().shape = horn;
    const auto held = build_from_bytes(*build_bytes(sat));
    REQUIRE(held);
    CHECK(*held == sat);
  }
  // What was never drawn stands in no file.
  CHECK(hidden_dials_of(first_wrap(build)).size() > 10);
  Build plain = test::demo();
  const std::string bytes = *build_bytes(plain);
  auto zip = ZipFile::open(bytes);
  REQUIRE(zip);
  const std::string json = *zip->entry("build.json");
  for (const Dial& d : hidden_dials_of(first_wrap(plain)))
    CHECK(json.find("\"" + d.facts.id + "\"") == std::string::npos);
}
