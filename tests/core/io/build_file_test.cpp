#include "core/io/build_file.hpp"

#include <catch2/catch.hpp>

#include "core/base/random.hpp"
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

TEST_CASE("the same build gives the same bytes", "[io][noggin]") { CHECK(*build_bytes(test::demo()) == *build_bytes(test::demo())); }

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
  const std::string command = "cd " + folder.path().string() + " && python3 -c \"import zipfile; z=zipfile.ZipFile('n.noggin','w'); z.write('build.json')\"";
  REQUIRE(std::system(command.c_str()) == 0);
  const auto newer = open_build(folder / "n.noggin");
  REQUIRE_FALSE(newer);
  CHECK(newer.error().code == Errc::newer_file);
  CHECK(newer.error().text.find("99") != std::string::npos);
  CHECK(newer.error().text.find("up to 6") != std::string::npos);
}

TEST_CASE("scrambled archives never do harm", "[io][noggin][fuzz]") {
  const std::string good = *build_bytes(test::demo());
  Random random(23);
  for (int round = 0; round < 400; ++round) {
    std::string bytes = good;
    for (int k = 0; k < 1 + round % 6; ++k) bytes[random.next() % bytes.size()] = static_cast<char>(random.next());
    if (round % 3 == 0) bytes.resize(random.next() % bytes.size());
    const auto read = build_from_bytes(bytes);
    if (!read) REQUIRE_FALSE(read.error().text.empty());
  }
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
  const auto [text, where] = GENERATE(table<const char*, const char*>({{"HC,570\nHQ,12\n", "Line 2"}, {"HC 570\n", "Line 1"}, {"HC,abc\n", "Line 1"}, {"{\"measures\":{\"HC\":\"x\"}}", "HC"},
                                                                       {"{\"units\":\"ell\",\"measures\":{\"HC\":1}}", "ell"}, {"{\"measures\":{}}", "No measure"}, {"{broken", "JSON"},
                                                                       {"HC,57\n", "57.0 cm"}, {"", "No measure"}}));
  CAPTURE(text);
  const auto read = measures_from_text(text);
  REQUIRE_FALSE(read);
  CHECK(read.error().text.find(where) != std::string::npos);
}
