#include "cli/cli.hpp"

#include <catch2/catch.hpp>
#include <fstream>
#include <sstream>

#include "core/base/json_reader.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/build_file.hpp"
#include "core/io/shop_jobs.hpp"
#include "support/bench_data.hpp"
#include "support/plain_shapes.hpp"
#include "support/shell.hpp"
#include "support/solids.hpp"

using namespace awl;
using test::Ran;
using test::run;

TEST_CASE("fit reports every measure, given or estimated, and writes the headform", "[cli][fit]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "m.json", R"({"units":"mm","measures":{"HC":560,"HL":195}})"));
  const Ran r = run({"fit", (folder / "m.json").string(), "--mesh", (folder / "h.stl").string(), "--json"});
  REQUIRE(r.code == 0);
  const Json j = r.json();
  CHECK(j["measures"].size() == kMeasureCount);
  CHECK(j["measures"]["HC"]["given_mm"] == 560.0);
  CHECK(j["measures"]["HC"]["reads_mm"].get<double>() == Approx(560.0).margin(2.0));
  CHECK(j["measures"]["HC"]["estimated"] == false);
  CHECK(j["measures"]["HB"]["estimated"] == true);
  CHECK(j["measures"]["HB"]["given_mm"].is_null());
  CHECK(j["flipped"] == 0);
  CHECK(j["fit_ms"].get<double>() > 0.0);
  const auto mesh = read_mesh(folder / "h.stl");
  REQUIRE(mesh);
  CHECK(border_loops(*mesh).empty());
}

TEST_CASE("fit tells contradictions as remarks and refuses what is no head", "[cli][fit]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "odd.csv", "HC,540\nHL,200\nHB,158\n"));
  const Json j = run({"fit", (folder / "odd.csv").string(), "--json"}).json();
  REQUIRE_FALSE(j["remarks"].empty());
  CHECK(j["remarks"][0]["where"] == "HC");
  CHECK(j["remarks"][0]["severity"] == "warning");
  CHECK(j["remarks"][0]["measured"] == 540.0);
  REQUIRE(write_file_safely(folder / "inch.json", R"({"units":"in","measures":{"HC":560}})"));
  const Ran refused = run({"fit", (folder / "inch.json").string(), "--json"});
  CHECK(refused.code == 1);
  CHECK(refused.out.empty());
  CHECK(refused.err.find("560.0 mm meant") != std::string::npos);
}

TEST_CASE("panels cuts a mesh, lays it flat and reports both sides of each seam", "[cli][panels]") {
  const test::TempFolder folder;
  const Mesh half = test::frustum(60, 40, 80, 30);
  REQUIRE(write_mesh(folder / "cone.obj", half));
  Json cuts;
  cuts["cuts"] =
      Json::array({Json::array({Json::array({0, 0, 60}), Json::array({0, 40, 50}), Json::array({0, 80, 40})})});
  REQUIRE(write_file_safely(folder / "cuts.json", cuts.dump()));
  const Ran r = run({"panels", (folder / "cone.obj").string(), "--cuts", (folder / "cuts.json").string(), "--svg",
      (folder / "p.svg").string(), "--json"});
  REQUIRE(r.code == 0);
  const Json j = r.json();
  REQUIRE(j["panels"].size() == 2);
  for (const Json& p : j["panels"]) {
    CHECK(p["strain"]["max"].get<double>() < 0.003);
    CHECK(p["flipped"] == 0);
    CHECK(p["overlaps"] == false);
    CHECK(p["darts"] == 0);
    CHECK(p["outline_mm"].size() > 20);
  }
  REQUIRE(j["seams"].size() == 1);
  CHECK(j["seams"][0]["length_3d_mm"].get<double>() == Approx(std::hypot(80.0, 20.0)).margin(0.2));
  CHECK(j["seams"][0]["side_mm"][0].get<double>() == Approx(j["seams"][0]["side_mm"][1].get<double>()).margin(0.05));
  CHECK(read_file(folder / "p.svg")->find("</svg>") != std::string::npos);
}

TEST_CASE("panels with a thickness flattens the middle layer", "[cli][panels]") {
  const test::TempFolder folder;
  REQUIRE(write_mesh(folder / "half.ply", test::frustum(50, 50, 60, 40)));
  const auto area = [&](const char* t) {
    return run({"panels", (folder / "half.ply").string(), "--thickness", t, "--json"})
        .json()["panels"][0]["area_mm2"]
        .get<double>();
  };
  CHECK(area("10") / area("0") == Approx(1.1).epsilon(0.01));
}

TEST_CASE("what panels cannot do is one sentence and exit 1", "[cli][panels]") {
  const test::TempFolder folder;
  REQUIRE(write_mesh(folder / "cube.obj", test::cube(20)));
  const Ran closed = run({"panels", (folder / "cube.obj").string(), "--json"});
  CHECK(closed.code == 1);
  CHECK(closed.out.empty());
  CHECK(closed.err.find("cut") != std::string::npos);
  CHECK(run({"panels", "/nowhere.obj"}).code == 1);
  CHECK(run({"panels", (folder / "cube.obj").string(), "--thickness", "-3"}).err.find("-3.0 mm") != std::string::npos);
  REQUIRE(write_file_safely(folder / "bad.json", "[1,2"));
  CHECK(run({"panels", (folder / "cube.obj").string(), "--cuts", (folder / "bad.json").string()}).code == 1);
}

TEST_CASE("a build is made, exported, remarked on and regraded from the shell", "[cli][builds]") {
  const test::TempFolder folder;
  const std::string build = (folder / "h.noggin").string();
  REQUIRE(run({"new", "--demo", "hood", "-o", build, "--today", "2026-10-05"}).code == 0);
  CHECK(*open_build(build) == demo_build(*parse_day("2026-10-05")));
  const Ran out = run({"export", build, "--pdf", (folder / "p.pdf").string(), "--paper", "letter", "--svg",
      (folder / "p.svg").string(), "--dxf", (folder / "p.dxf").string(), "--csv", (folder / "p.csv").string(), "--mesh",
      (folder / "p.obj").string(), "--build-sheet", (folder / "b.pdf").string(), "--shopping",
      (folder / "s.csv").string(), "--json"});
  REQUIRE(out.code == 0);
  CHECK(out.json()["steps"].get<int>() > 6);
  CHECK(out.json()["price"].get<double>() == Approx(48.0));  // a sheet, and a can each of three coats
  CHECK(out.json()["pages"].get<int>() > 3);
  for (const char* name : {"p.pdf", "p.svg", "p.dxf", "p.csv", "p.obj", "b.pdf", "s.csv"})
    CHECK(std::filesystem::file_size(folder / name) > 200);
  CHECK(run({"remarks", build, "--json"}).json()["remarks"].empty());
  REQUIRE(write_file_safely(folder / "m.csv", "HC,61 cm\nHL,21 cm\n"));
  const Ran regraded = run(
      {"regrade", build, "--measures", (folder / "m.csv").string(), "-o", (folder / "n.noggin").string(), "--json"});
  REQUIRE(regraded.code == 0);
  CHECK(regraded.json()["pieces"] == 7);
  CHECK(regraded.json()["ms"].get<double>() > 0.0);
  CHECK(open_build(folder / "n.noggin")->tape.head.at(MeasureId::HC).first_mm == 610.0);
}

TEST_CASE("a build is tried on from the shell, and a case answered", "[cli][worn]") {
  const test::TempFolder folder;
  const std::string build = (folder / "mask.noggin").string();
  REQUIRE(run({"new", "--demo", "reed-mask", "-o", build, "--today", "2026-12-01"}).code == 0);
  const Ran told = run({"worn", build, "--json"});
  REQUIRE(told.code == 0);
  const Json json = told.json();
  CHECK(json.at("sight").at("kept").get<double>() == Approx(0.33).margin(0.04));
  CHECK(json.at("sight").at("left").at("unaided_sr").get<double>() > 4.0);
  CHECK(json.at("sight").at("meridians_deg").at("left").size() == 2);
  CHECK(json.at("going_on").at("passes").get<bool>());
  CHECK(json.at("balance").at("mass_g").get<double>() > 5.0);
  CHECK(json.at("turning").at("turn_deg").size() == 2);
  CHECK(json.at("hold").size() == 1);
  CHECK(json.at("air").at("open_mm2").get<double>() > 100.0);
  CHECK(json.at("ms").get<double>() < 20000.0);
  CHECK(run({"worn", build}).out.find("Sight: about") != std::string::npos);
  REQUIRE(write_file_safely(folder / "case.json",
      R"({"hold":[{"kind":"magnets","r1_mm":5,"t1_mm":3,"br1_t":1.3,"r2_mm":5,"t2_mm":3,"br2_t":1.3,"gap_mm":3}]})"));
  const Ran answered = run({"worn", "--case", (folder / "case.json").string(), "--json"});
  REQUIRE(answered.code == 0);
  CHECK(answered.json().at("hold").at(0).at("force_n").get<double>() == Approx(5.432).epsilon(1e-3));
  CHECK(answered.json().at("sight").is_null());
  CHECK(run({"worn", "--json"}).code == 1);
  CHECK(run({"worn", build, "--case", "x.json"}).code == 2);
}

TEST_CASE("a mesh and a build are dressed from the shell", "[cli][dress]") {
  const test::TempFolder folder;
  const std::string mesh = (folder / "ball.obj").string();
  REQUIRE(write_mesh(mesh, test::upper_half(test::icosphere(90.0, 4))));
  REQUIRE(write_file_safely(folder / "d.json",
      R"({"details":[{"id":1,"kind":"strip","line":{"round_mm":40},"wide_mm":12,"thick_mm":2,"lap_mm":0},)"
      R"({"id":2,"kind":"spaced","what":"rivet","line":{"beside":{"of":1,"mm":12}},"pitch_mm":30}]})"));
  const Ran told = run({"dress", mesh, "--details", (folder / "d.json").string(), "--json"});
  INFO(told.err);
  REQUIRE(told.code == 0);
  const Json json = told.json();
  REQUIRE(json.at("details").size() == 2);
  const double around = 2.0 * 3.14159265 * std::sqrt(90.0 * 90.0 - 40.0 * 40.0);
  CHECK(json.at("details").at(0).at("line").at("length_mm").get<double>() == Approx(around).epsilon(0.01));
  CHECK(json.at("details").at(0).at("pieces").at(0).at("sides_mm").size() == 2);
  CHECK(json.at("details").at(1).at("count").get<int>() > 8);
  CHECK(json.at("details").at(1).at("places").size() == json.at("details").at(1).at("count").get<std::size_t>());
  CHECK(json.at("shopping").size() == 1);
  CHECK(json.at("steps").size() == 3);
  for (const char* bad : {R"({"details":[{"kind":"hat"}]})", R"({"details":[{"kind":"strip","line":{}}]})",
           R"({"details":[{"kind":"strip","line":{"round_mm":4000}}]})", R"({"details":[{"kind":"strip","wide":-4}]})",
           "{"}) {
    REQUIRE(write_file_safely(folder / "bad.json", bad));
    const Ran r = run({"dress", mesh, "--details", (folder / "bad.json").string(), "--json"});
    CAPTURE(bad, r.err);
    CHECK(r.code == 1);
    CHECK(r.out.empty());
    CHECK(r.err.size() < 400);
  }
  const std::string build = (folder / "ferry.noggin").string();
  REQUIRE(run({"new", "--demo", "ferry-keeper", "-o", build, "--today", "2026-12-01"}).code == 0);
  const Ran dressed = run({"dress", build, "--json"});
  REQUIRE(dressed.code == 0);
  CHECK(dressed.json().at("details").size() >= 6);
  CHECK(dressed.json().at("marks").size() > 20);
  CHECK(run({"dress", build}).out.find("rivets") != std::string::npos);
}

TEST_CASE("a project is planned from the shell, with its calendar and its table", "[cli][plan]") {
  const test::TempFolder folder;
  const auto spec = folder / "p.json";
  REQUIRE(write_file_safely(spec,
      R"({"start":"2026-12-07T00:00","due":"2026-12-09T09:00","open":[["09:00","13:00",1]],
"steps":[{"id":"a","hands_min":60,"title":"Seal"},{"id":"b","hands_min":45}],
"links":[{"from":"a","to":"b","wait_min":30,"within_min":120,"or_after_min":1440,"why":"dry"}]})"));
  const auto ics = folder / "p.ics", csv = folder / "p.csv";
  Ran r = run({"plan", "--spec", spec.string(), "--json", "--ics", ics.string(), "--csv", csv.string()});
  REQUIRE(r.code == 0);
  const Json j = r.json();
  CHECK(j["ready"] == "2026-12-07T11:15");
  CHECK(j["bound"] == "2026-12-07T11:15");
  CHECK(j["proven_best"] == true);
  CHECK(j["spare_min"] == 2745);
  CHECK(j["steps"][0]["title"] == "Seal");
  CHECK(j["steps"][1]["start"] == "2026-12-07T10:30");
  CHECK(j["steps"][1]["why_after"][0]["id"] == "a");
  CHECK(read_file(csv)->find("\"Seal\"") != std::string::npos);
  const std::string first = *read_file(ics);
  CHECK(first.find("UID:p.a@noggin-awl\r\nSEQUENCE:0") != std::string::npos);
  CHECK(run({"plan", "--spec", spec.string(), "--ics", ics.string()}).code == 0);
  CHECK(read_file(ics)->find("SEQUENCE:1") == std::string::npos);
  r = run({"plan", "--spec", spec.string(), "--now", "2026-12-07T10:00", "--ics", ics.string()});
  CHECK(r.code == 0);
  CHECK(r.out.find("Ready Mon 7 Dec at 12:15") != std::string::npos);
  CHECK(read_file(ics)->find("UID:p.a@noggin-awl\r\nSEQUENCE:1") != std::string::npos);
  CHECK(run({"plan"}).code == 1);
  CHECK(run({"plan", "--spec", spec.string(), "--now", "soon"}).err.find("2026-12-07T09:30") != std::string::npos);
}

TEST_CASE("a build is planned and priced from the shell, and hours of the book move the price", "[cli][plan]") {
  const test::TempFolder folder;
  const auto build = folder / "f.noggin", book = folder / "shop.db";
  REQUIRE(run({"new", "--demo", "ferry-keeper", "-o", build.string(), "--today", "2026-12-07"}).code == 0);
  const Json plan = run({"plan", build.string(), "--json"}).json();
  CHECK(plan["steps"].size() > 25);
  CHECK(plan["masking"].size() == 4);
  CHECK(plan["needs"].size() >= 4);
  const Json quote = run({"quote", build.string(), "--json", "--book", book.string()}).json();
  CHECK(quote["hours"]["logs"] == 0);
  CHECK(quote["price"].get<double>() > quote["materials"].get<double>());
  {
    auto shop = *ShopBook::open(book);
    JobPages pages(shop);
    const int job = *pages.keep(Job{0, "other", "Other", 0, {}, {}, {}, {}, 0, {}, {}, {}, {}});
    for (const Json& stage : quote["stages"]) {
      const int work = *pages.begin_work({0, job, stage["stage"], "x", 1000, {}, 60.0});
      CHECK(pages.end_work(work, 1180));
    }
  }
  const Json slow = run({"quote", build.string(), "--json", "--book", book.string()}).json();
  CHECK(slow["hours"]["logs"].get<int>() == static_cast<int>(quote["stages"].size()));
  CHECK(slow["price"].get<double>() > 1.3 * quote["price"].get<double>());
  CHECK(run({"book", "jobs", "--book", book.string(), "--json"}).json()[0]["title"] == "Other");
  CHECK(run({"book", "work", "1", "--book", book.string(), "--csv", (folder / "w.csv").string()}).code == 0);
  CHECK(read_file(folder / "w.csv")->find("\"cut\"") != std::string::npos);
  CHECK(run({"book", "search", "Oth", "--book", book.string(), "--json"}).json().size() == 1);
  CHECK(run({"book", "forget", "Nobody", "--book", book.string()}).err.find("Nobody called") != std::string::npos);
  {
    auto shop = *ShopBook::open(book);
    (void)shop.add_wearer("Quill", "");
  }
  CHECK(run({"book", "wearers", "--book", book.string()}).out.find("Quill") != std::string::npos);
  CHECK(run({"book", "carry-out", "Quill", "--book", book.string()}).code == 1);
  CHECK(run({"book", "carry-out", "Quill", "--book", book.string(), "--folder", (folder / "q").string()}).code == 0);
  CHECK(std::filesystem::exists(folder / "q" / "measures.csv"));
  CHECK(run({"book", "forget", "Quill", "--book", book.string()}).code == 0);
  CHECK(run({"book", "wearers", "--book", book.string(), "--json"}).json().empty());
}

TEST_CASE("wrong usage is exit 2, help is exit 0", "[cli]") {
  CHECK(run({}).code == 2);
  CHECK(run({"dance"}).code == 2);
  CHECK(run({"fit"}).code == 2);
  CHECK(run({"export", "x", "--paper", "a7"}).code == 2);
  const Ran help = run({"--help"});
  CHECK(help.code == 0);
  CHECK(help.out.find("protective") != std::string::npos);
}

TEST_CASE("failures keep standard output empty and say one sentence", "[cli]") {
  for (const auto& words :
      std::vector<std::vector<std::string>>{{"fit", "/nowhere.json", "--json"}, {"export", "/nowhere.noggin", "--json"},
          {"remarks", "/nowhere.noggin", "--json"}, {"new", "--demo", "nobody", "-o", "/tmp/x.noggin"}}) {
    const Ran r = run(words);
    CHECK(r.code == 1);
    CHECK(r.out.empty());
    CHECK(std::count(r.err.begin(), r.err.end(), '\n') == 1);
  }
}

TEST_CASE("bench prints its figures as one object", "[cli]") {
  const Json j = run({"bench", "--json"}).json();
  CAPTURE(j.dump());
  for (const char* key : {"load_ms", "fit_cold_ms", "fit_warm_ms", "regrade_ms"}) CHECK(j[key].get<double>() > 0.0);
}

TEST_CASE("a scan is fitted from the shell, its unit told by its size", "[cli][scan]") {
  const test::TempFolder folder;
  const Headform truth = test::fitter().shape(test::fitter().adults().mean);
  Mesh scan = truth.mesh;
  for (Vec3& p : scan.vertices) p *= 0.1;
  REQUIRE(write_mesh(folder / "scan.ply", scan));
  std::string marks = "{";
  for (const auto& [name, l] :
      {std::pair{"glabella", Landmark::glabella}, {"tragion_l", Landmark::tragion_l}, {"vertex", Landmark::vertex}}) {
    const Vec3 p = 0.1 * truth.at(l);
    marks += std::string(marks.size() > 1 ? "," : "") + "\"" + name + "\":[" + std::to_string(p.x()) + "," +
        std::to_string(p.y()) + "," + std::to_string(p.z()) + "]";
  }
  REQUIRE(write_file_safely(folder / "marks.json", marks + "}"));
  const Ran ran = run({"scan", (folder / "scan.ply").string(), "--marks", (folder / "marks.json").string(), "--mesh",
      (folder / "out.obj").string(), "--json"});
  REQUIRE(ran.code == 0);
  CHECK(ran.json()["unit"] == "cm");
  CHECK(ran.json()["p95_mm"].get<double>() < 1.5);
  CHECK(ran.json()["measures"]["HC"]["reads_mm"].get<double>() ==
      Approx(truth.reading(MeasureId::HC).reads_mm).margin(2.0));
  CHECK(read_mesh(folder / "out.obj"));
  REQUIRE(write_file_safely(folder / "marks.json", "{\"elbow\":[0,0,0]}"));
  CHECK(run({"scan", (folder / "scan.ply").string(), "--marks", (folder / "marks.json").string()}).code == 1);
}

TEST_CASE("the check sheet is printed from the shell and readings are judged", "[cli][check]") {
  const test::TempFolder folder;
  const std::string build = (folder / "b.noggin").string(), sheet = (folder / "sheet.pdf").string();
  REQUIRE(run({"new", "--demo", "hood", "-o", build, "--today", "2026-10-05"}).code == 0);
  const Ran plain = run({"check", build, "--sheet", sheet, "--json"});
  REQUIRE(plain.code == 0);
  CHECK(std::filesystem::file_size(sheet) > 8000);
  const auto distances = plain.json()["distances"];
  REQUIRE(distances.size() >= 10);
  // Everything two per cent large.
  std::string readings = "{";
  for (const auto& d : distances)
    readings += (readings.size() > 1 ? ",\"" : "\"") + d["id"].get<std::string>() +
        "\":" + std::to_string(1.02 * d["target_mm"].get<double>());
  REQUIRE(write_file_safely(folder / "r.json", readings + "}"));
  const Ran judged = run({"check", build, "--readings", (folder / "r.json").string(), "--json"});
  REQUIRE(judged.code == 0);
  CHECK(judged.json()["findings"][0]["sentence"].get<std::string>().find("too large") != std::string::npos);
  REQUIRE(write_file_safely(folder / "r.json", "{\"nose to toe\":100}"));
  const Ran refused = run({"check", build, "--readings", (folder / "r.json").string()});
  CHECK(refused.code == 1);
  CHECK(refused.err.find("nose to toe") != std::string::npos);
}

TEST_CASE("a child's measures are fitted as a child's, or held against whom one names", "[cli][fit]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "m.json", R"({"units":"mm","measures":{"HC":511,"HL":178,"FH":95}})"));
  const Ran told = run({"fit", (folder / "m.json").string(), "--json"});
  REQUIRE(told.code == 0);
  CHECK(told.json()["people"] == "child-5");
  const Ran adult = run({"fit", (folder / "m.json").string(), "--people", "adult", "--json"});
  CHECK(adult.code == 1);
  CHECK(adult.err.find("99 to 137") != std::string::npos);
}

TEST_CASE("panels are suggested and darted from the shell, within the tolerance that was asked", "[cli][panels]") {
  const test::TempFolder folder;
  Mesh cap = test::ball(95.0, 12.0);
  EdgeLabels held;
  const auto above = [](const Vec3& p) { return p.y() - 5.0; };
  split_along(cap, above, held);
  cap = keep_where(cap, above, held);
  REQUIRE(write_mesh(folder / "cap.ply", cap));
  const std::string mesh = (folder / "cap.ply").string();
  const Json plain = run({"panels", mesh, "--json"}).json();
  REQUIRE(plain["panels"].size() == 1);
  const Ran suggested = run({"panels", mesh, "--suggest", "--tolerance", "0.05", "--json"});
  INFO(suggested.err);
  REQUIRE(suggested.code == 0);
  const Json j = suggested.json();
  CHECK(j["panels"].size() >= 2);
  CHECK(j["seam_total_mm"].get<double>() < 800.0);
  for (const Json& p : j["panels"]) {
    CHECK(
        p["strain"]["p99"].get<double>() < 0.055);  // joined to its neighbours it may give a little more than by itself
    CHECK(p["flipped"] == 0);
  }
  const Ran darted = run({"panels", mesh, "--darts", "--tolerance", "0.06", "--json"});
  INFO(darted.err);
  REQUIRE(darted.code == 0);
  const Json d = darted.json();
  REQUIRE(d["panels"].size() == 1);
  CHECK(d["panels"][0]["darts"].get<int>() >= 1);
  CHECK(d["panels"][0]["strain"]["p99"].get<double>() < 0.7 * plain["panels"][0]["strain"]["p99"].get<double>());
}

TEST_CASE("a table of wearers gives each their own build and sheets, and says what changed per piece",
    "[cli][builds][regrade]") {
  const test::TempFolder folder;
  const std::string build = (folder / "b.noggin").string(), out = (folder / "all").string();
  REQUIRE(run({"new", "--demo", "hood", "-o", build, "--today", "2026-10-05"}).code == 0);
  REQUIRE(write_file_safely(folder / "w.csv",
      "wearer,day,by,people,HC,HL,HB\nToll Clerk,2026-10-01,,adult,601,205,160\nOtter "
      "Pup,2026-10-01,,child-5,512,178,141\n"));
  const Ran r = run({"regrade", build, "--wearers", (folder / "w.csv").string(), "--folder", out, "--json"});
  INFO(r.err);
  REQUIRE(r.code == 0);
  const Json j = r.json();
  REQUIRE(j["builds"].size() == 2);
  for (const Json& one : j["builds"]) {
    CHECK(std::filesystem::exists(one["build"].get<std::string>()));
    CHECK(std::filesystem::file_size(one["sheets_svg"].get<std::string>()) > 1000);
    CHECK(one["pieces"] == 7);
    REQUIRE_FALSE(one["changes"].empty());
    CHECK(one["changes"][0]["sentence"].get<std::string>().find("its edge moves by") != std::string::npos);
  }
  CHECK(
      j["builds"][0]["changes"][0]["area_mm2"].get<double>() > j["builds"][1]["changes"][0]["area_mm2"].get<double>());
  const auto clerk = open_build(j["builds"][0]["build"].get<std::string>());
  REQUIRE(clerk);
  CHECK(clerk->wearer == "Toll Clerk");
  CHECK(run({"regrade", build, "--wearers", (folder / "w.csv").string(), "--json"}).code == 1);
  CHECK(run({"regrade", build, "--json"}).code == 1);
}

TEST_CASE("files are made one a piece, whole sheets as pages, and a machine's mats, from the shell", "[cli][builds]") {
  const test::TempFolder folder;
  const std::string build = (folder / "b.noggin").string();
  REQUIRE(run({"new", "--demo", "reed-mask", "-o", build}).code == 0);
  const Ran out = run({"export", build, "--svg", (folder / "p.svg").string(), "--dxf", (folder / "p.dxf").string(),
      "--per", "piece", "--pdf", (folder / "whole.pdf").string(), "--paper", "sheet", "--machine",
      (folder / "mats").string(), "--mat", "300x400", "--json"});
  REQUIRE(out.code == 0);
  const Json j = out.json();
  CHECK(j["mats"].get<int>() >= 1);
  int svgs = 0, dxfs = 0, mats = 0;
  for (const auto& file : std::filesystem::directory_iterator(folder.path()))
    svgs += file.path().extension() == ".svg", dxfs += file.path().extension() == ".dxf";
  for (const auto& file : std::filesystem::directory_iterator(folder / "mats"))
    mats += file.path().extension() == ".svg";
  CHECK(svgs > 1);
  CHECK(svgs == dxfs);
  CHECK(mats == j["mats"].get<int>());
  CHECK(std::filesystem::exists(folder / "whole.pdf"));
  const Ran wrong = run({"export", build, "--machine", (folder / "mats").string(), "--mat", "300"});
  CHECK(wrong.code == 1);
  CHECK(wrong.err.find("300x600") != std::string::npos);
  CHECK(run({"export", build, "--per", "shoe"}).code == 2);
}

TEST_CASE("outlines are corrected from the shell, and curves go to files as arcs or chords", "[cli][builds]") {
  const test::TempFolder folder;
  const auto file = [&](const char* name) { return (folder / name).string(); };
  Build b = *demo_by_name("thicket-ram", Day{20731});
  std::erase_if(b.parts, [](const Part& p) { return p.name != "band"; });
  REQUIRE(b.parts.size() == 1);
  b.dress = {}, b.fit = {}, b.coat.areas.clear(), b.coat.joint_looks.clear(), b.alterations.clear();
  REQUIRE(save_build(file("band.noggin"), b));
  const Ran made = run({"correct", file("band.noggin"), "-o", file("truer.noggin"), "--json"});
  CAPTURE(made.err);
  REQUIRE(made.code == 0);
  const Json j = made.json();
  REQUIRE(j["corrected"].size() == 1);
  CHECK(j["corrected"][0]["part"] == b.parts[0].id);
  CHECK(j["corrected"][0]["p95_after_mm"].get<double>() < j["corrected"][0]["p95_before_mm"].get<double>());
  CHECK(j["said"][0].get<std::string>().find("instead of") != std::string::npos);
  const auto read = open_build(file("truer.noggin"));
  REQUIRE(read);
  REQUIRE(read->corrections.size() == 1);
  // Done again it is done anew, from the drawn outlines.
  const Ran again = run({"correct", file("truer.noggin"), "-o", file("again.noggin"), "--json"});
  REQUIRE(again.code == 0);
  CHECK(again.json()["replaced"] == 1);
  CHECK(again.json()["corrected"] == j["corrected"]);
  const Ran nobody = run({"correct", file("band.noggin"), "-o", file("x.noggin"), "--part", "77"});
  CHECK(nobody.code == 1);
  CHECK(nobody.err.find("77") != std::string::npos);
  CHECK_FALSE(std::filesystem::exists(file("x.noggin")));

  REQUIRE(run({"export", file("truer.noggin"), "--dxf", file("arcs.dxf"), "--svg", file("a.svg")}).code == 0);
  REQUIRE(run({"export", file("truer.noggin"), "--dxf", file("chords.dxf"), "--curves", "chords"}).code == 0);
  REQUIRE(run({"export", file("band.noggin"), "--svg", file("b.svg")}).code == 0);
  const auto holds = [&](const char* name, const char* what) {
    return read_file(folder / name).value().find(what) != std::string::npos;
  };
  CHECK(holds("arcs.dxf", "\n42\n"));
  CHECK_FALSE(holds("chords.dxf", "\n42\n"));
  CHECK(holds("a.svg", " C"));
  CHECK(read_file(folder / "a.svg").value() != read_file(folder / "b.svg").value());
  CHECK(run({"export", file("band.noggin"), "--dxf", file("c.dxf"), "--curves", "waves"}).code == 2);
}

TEST_CASE("a full disk behind any output is a failure, never a silent success", "[cli][hostile]") {
  const test::TempFolder folder;
  const std::string build = (folder / "b.noggin").string();
  REQUIRE(run({"new", "--demo", "reed-mask", "-o", build}).code == 0);
  for (const char* to : {"--pdf", "--svg", "--dxf", "--csv", "--build-sheet", "--shopping"}) {
    CAPTURE(to);
    const Ran r = run({"export", build, to, "/dev/full"});
    CHECK(r.code == 1);
    CHECK(r.err.find("/dev") != std::string::npos);
  }
  CHECK(run({"check", build, "--sheet", "/dev/full"}).code == 1);
  CHECK(run({"new", "--demo", "hood", "-o", "/dev/full"}).code == 1);
  std::ofstream full("/dev/full");
  std::ostringstream err;
  const char* words[] = {"noggin-awl-cli", "remarks", build.c_str(), "--json"};
  CHECK(runCommand(4, words, full, err) == 1);
  CHECK(err.str().find("standard output") != std::string::npos);
}

TEST_CASE("names that are no places are sentences", "[cli][hostile]") {
  const test::TempFolder folder;
  const std::string build = (folder / "b.noggin").string();
  REQUIRE(run({"new", "--demo", "reed-mask", "-o", build}).code == 0);
  REQUIRE(write_file_safely(folder / "file", "x"));
  for (const std::vector<std::string>& words :
      std::vector<std::vector<std::string>>{{"export", build, "--machine", (folder / "file").string() + "/"},
          {"new", "--demo", "hood", "-o", ""}, {"export", build, "--svg", ""},
          {"regrade", build, "--wearers", build, "--folder", (folder / "file").string()},
          {"export", build, "--machine", (folder / "m").string(), "--mat", "330,5x600"}}) {
    CAPTURE(words);
    const Ran r = run(words);
    if (words[0] == "export" && words[2] == "--svg") continue;  // an empty name is as if it were not given
    CHECK(r.code == 1);
    CHECK_FALSE(r.err.empty());
    CHECK(r.err.find("filesystem") == std::string::npos);
  }
}

TEST_CASE("marks, measures, cuts and readings that are none are refused by place", "[cli][hostile]") {
  const test::TempFolder folder;
  const auto file = [&](const char* name, const std::string& text) {
    REQUIRE(write_file_safely(folder / name, text));
    return (folder / name).string();
  };
  const std::string mesh = file("m.obj", *mesh_bytes(test::ball(80.0, 16.0), "obj"));
  const auto refused = [&](const std::vector<std::string>& words, const char* says) {
    const Ran r = run(words);
    CAPTURE(words, r.err);
    CHECK(r.code == 1);
    CHECK(r.err.find(says) != std::string::npos);
    CHECK(r.err.find("exception") == std::string::npos);
    CHECK(r.err.size() <= kLongestSentence + 1);
  };
  refused({"scan", mesh, "--marks", file("a.json", R"({"glabella":["a",1,2]})")}, "glabella/1 is not a number");
  refused({"scan", mesh, "--marks", file("b.json", "null")}, "should hold named values");
  refused({"scan", mesh, "--marks", file("c.json", R"({"glabella":[1e308,1,2]})")}, "1.0e+308");
  refused({"fit", file("d.json", R"({"units":5,"measures":{"HC":560}})")}, "units is not a text");
  refused({"fit", file("e.csv", "HC," + std::string(2'000'000, '('))}, "Line 1");
  refused({"panels", mesh, "--cuts", file("f.json", R"({"cuts":[[[0,1],[1,2,3]]]})")}, "cuts/1/1/3 is missing");
  refused({"panels", mesh, "--cuts", file("g.json", std::string(100'000, '['))}, "nested");
}

TEST_CASE("a mesh wound both ways is set right, and that is said", "[cli][panels]") {
  const test::TempFolder folder;
  Mesh mesh = test::grid_hemisphere(90.0);
  std::swap(mesh.triangles[5][0], mesh.triangles[5][1]);
  REQUIRE(write_mesh(folder / "m.obj", mesh));
  const Ran r = run({"panels", (folder / "m.obj").string(), "--json"});
  REQUIRE(r.code == 0);
  CHECK(r.json()["panels"].size() == 1);
  REQUIRE(r.json()["said"].size() == 1);
  CHECK(r.json()["said"][0].get<std::string>().find("1 triangle was wound") != std::string::npos);
}

TEST_CASE("numbers come out alike under any locale", "[cli][locale]") {
  const test::TempFolder folder;
  const std::string build = (folder / "b.noggin").string();
  REQUIRE(run({"new", "--demo", "reed-mask", "-o", build, "--today", "2026-10-05"}).code == 0);
  REQUIRE(run({"export", build, "--pdf", (folder / "p.pdf").string(), "--machine", (folder / "mats").string(), "--mat",
                  "330.5x610.5"})
              .code == 0);
  CHECK(read_file(folder / "mats" / "mat-1.svg")->find("width=\"330.5") != std::string::npos);
  const Json panels = run({"remarks", build, "--json"}).json();
  for (const Json& r : panels["remarks"]) CHECK(r["id"] != "chain.stopped");
}
