#include "fuzz/readers.hpp"

#include <algorithm>
#include <ctime>
#include <map>
#include <set>
#include <sstream>

#include "cli/cli.hpp"
#include "core/base/guard.hpp"
#include "core/form/foam_shape.hpp"
#include "core/geom/mending/mend.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/orient.hpp"
#include "core/io/batch.hpp"
#include "core/io/build_file.hpp"
#include "core/io/cutting_machine.hpp"
#include "core/io/dress_case.hpp"
#include "core/io/measures_file.hpp"
#include "core/io/plan_case.hpp"
#include "core/io/small_files.hpp"
#include "core/io/wearers_csv.hpp"
#include "core/io/worn_case.hpp"
#include "core/io/zip_file.hpp"
#include "core/seam/draw_cut.hpp"
#include "core/seam/panels.hpp"
#include "support/bench_data.hpp"
#include "support/plain_shapes.hpp"

namespace awl::fuzz {
namespace {

/// Loaded once; the fixtures of the tests check as they load, and so need a test around them.
const Chain& chain() {
  static const auto loaded = Chain::load(data_folder());
  return **loaded;
}

/// By the processor's clock, so that a busy machine makes no fault.
double seconds_since(std::clock_t start) { return static_cast<double>(std::clock() - start) / CLOCKS_PER_SEC; }

/// Small meshes to spoil, in every kind of file.
std::string mesh_seed(const std::string& ending, Mutator& m) {
  static const std::vector<Mesh> meshes{test::icosphere(80.0, 1), test::upper_half(test::icosphere(80.0, 2)),
      test::box(60.0), test::structured(6, 4, true, false, [](double u, double v) {
        return Vec3(40.0 * std::cos(kTwoPi * u), 60.0 * v, 40.0 * std::sin(kTwoPi * u));
      })};
  const Mesh& mesh = meshes[m.below(meshes.size())];
  const auto text_of = [&](auto write) {
    std::string out;
    write(out);
    return out;
  };
  const auto point = [&](int v) {
    return std::to_string(static_cast<int>(mesh.vertices[v].x())) + " " +
        std::to_string(static_cast<int>(mesh.vertices[v].y())) + " " +
        std::to_string(static_cast<int>(mesh.vertices[v].z()));
  };
  if (ending == "off")
    return text_of([&](std::string& out) {
      out = "OFF\n" + std::to_string(mesh.vertices.size()) + " " + std::to_string(mesh.triangles.size()) + " 0\n";
      for (std::size_t v = 0; v < mesh.vertices.size(); ++v) out += point(static_cast<int>(v)) + "\n";
      for (const Tri& t : mesh.triangles)
        out += "3 " + std::to_string(t[0]) + " " + std::to_string(t[1]) + " " + std::to_string(t[2]) + "\n";
    });
  if (ending == "stl" && m.one_in(2))
    return text_of([&](std::string& out) {
      out = "solid s\n";
      for (const Tri& t : mesh.triangles)
        out += "facet normal 0 0 1\nouter loop\nvertex " + point(t[0]) + "\nvertex " + point(t[1]) + "\nvertex " +
            point(t[2]) + "\nendloop\nendfacet\n";
      out += "endsolid s\n";
    });
  if (ending == "ply" && m.one_in(2))
    return text_of([&](std::string& out) {
      out = "ply\nformat ascii 1.0\nelement vertex " + std::to_string(mesh.vertices.size()) +
          "\nproperty float x\nproperty float y\nproperty float z\nelement face " +
          std::to_string(mesh.triangles.size()) + "\nproperty list uchar int vertex_indices\nend_header\n";
      for (std::size_t v = 0; v < mesh.vertices.size(); ++v) out += point(static_cast<int>(v)) + "\n";
      for (const Tri& t : mesh.triangles)
        out += "3 " + std::to_string(t[0]) + " " + std::to_string(t[1]) + " " + std::to_string(t[2]) + "\n";
    });
  return *mesh_bytes(mesh, ending);
}

/// What is done with a mesh that was read: wound one way, cut along nothing and laid flat.
Result<void> use_mesh(const std::string& bytes, const std::string& ending) {
  const auto read = mesh_from_bytes(bytes, ending);
  if (!read) return fail(read);
  const auto wound = oriented(*read);
  if (!wound) return fail(wound);
  const auto cut = draw_cuts(wound->mesh, {});
  if (!cut) return fail(cut);
  const auto set = make_panels(*cut, {});
  if (!set) return fail(set);
  return {};
}

/// As a mesh is brought in: read, mended, and of some evened to what foam can show. What comes out must be a surface.
Result<void> bring_in(const std::string& bytes, bool as_foam) {
  // The first letter says what kind of file it is.
  static const std::map<char, std::string> kinds{{'o', "obj"}, {'s', "stl"}, {'p', "ply"}, {'f', "off"}};
  const auto kind = kinds.find(bytes.empty() ? 'o' : bytes.front());
  if (kind == kinds.end()) return fail(Errc::bad_file, "It is no kind of mesh.");
  const auto read = mesh_from_bytes(bytes.substr(1), kind->second);
  if (!read) return fail(read);
  const auto mended = mend(*read, 4000);
  if (!mended) return fail(mended);
  const auto sound = [](const Mesh& mesh) {
    std::map<std::pair<int, int>, int> faces;
    for (const Tri& t : mesh.triangles)
      for (int k = 0; k < 3; ++k) ++faces[std::minmax(t[k], t[(k + 1) % 3])];
    return std::all_of(mesh.vertices.begin(), mesh.vertices.end(), [](const Vec3& p) { return p.allFinite(); }) &&
        std::all_of(faces.begin(), faces.end(), [](const auto& at) { return at.second <= 2; });
  };
  if (mended->mesh.triangles.empty() || !sound(mended->mesh))
    return fail(Errc::internal, "what was mended is no surface");
  for (const auto* said : {&mended->did, &mended->asks})
    for (const std::string& words : *said)
      if (words.empty() || words.size() > kLongestSentence)
        return fail(Errc::internal, "no sentence of what was mended");
  if (!as_foam) return {};
  FoamShapeOptions options;
  options.triangles = 400;
  const auto shape = foam_shape(mended->mesh, options);
  if (!shape) return fail(shape);
  if (shape->mesh.triangles.empty() || !sound(shape->mesh))
    return fail(Errc::internal, "what was evened is no surface");
  return {};
}

Reader mended_reader(const std::string& name, bool as_foam) {
  return {name,
      [](Mutator& m) {
        static const std::vector<std::string> endings{"obj", "stl", "ply", "off"};
        const std::string& ending = endings[m.below(endings.size())];
        return std::string(1, ending == "off" ? 'f' : ending.front()) + m.bytes(mesh_seed(ending, m));
      },
      [as_foam](const std::string& bytes) { return bring_in(bytes, as_foam); }, as_foam ? kOneOfWhole : 1};
}

Reader mesh_reader(const std::string& ending) {
  return {ending, [ending](Mutator& m) { return m.bytes(mesh_seed(ending, m)); },
      [ending](const std::string& bytes) { return use_mesh(bytes, ending); }};
}

/// Builds of today, and one of each format there ever was.
const std::vector<std::string>& sound_builds() {
  static const std::vector<std::string> all = [] {
    std::vector<std::string> made;
    for (const DemoEntry& entry : demo_gallery()) made.push_back(*build_bytes(entry.make(Day{20731})));
    for (const auto& entry : std::filesystem::directory_iterator(NOGGIN_AWL_SOURCE "/tests/golden"))
      if (entry.path().extension() == ".noggin") made.push_back(*read_file(entry.path()));
    std::sort(made.begin(), made.end());
    return made;
  }();
  return all;
}

/// A build with one of everything that stands beside its JSON: a scan, a mesh brought in and cut, a picture, a version.
Build full_build() {
  Build build = demo_build(Day{20731});
  Scan scan{test::icosphere(80.0, 1), {}};
  for (const Landmark l : scan_landmarks()) scan.marks[l] = scan.mesh.vertices[scan.marks.size()];
  build.scan = {std::make_shared<const Scan>(std::move(scan)), true};
  ImportSpec import;
  import.mesh = std::make_shared<const Mesh>(test::icosphere(60.0, 1));
  import.file = "ball.stl";
  CutMesh cut{*import.mesh, {}, {"round"}, import.cut_facts()};
  const Tri& t = cut.mesh.triangles.front();
  cut.seams[edge_of(t[0], t[1])] = cut.seams[edge_of(t[1], t[2])] = 0;
  import.cut = std::make_shared<const CutMesh>(std::move(cut));
  Part part;
  part.id = 9, part.name = "ball", part.shape = import;
  build.parts.push_back(part);
  Reference picture;
  picture.file = "front.png";
  picture.bytes = std::make_shared<const std::string>("\x89PNG\r\n\x1a\n, as far as the reader of builds looks");
  build.references.push_back(picture);
  if (auto kept = keep_version(build, "first", "before the ball", Day{20731})) build = *kept;
  return build;
}

/// What stands beside the JSON spoilt, or the JSON, or left out.
std::string spoilt_beside(Mutator& m) {
  static const std::string sound = *build_bytes(full_build());
  static const std::vector<std::string> names{
      "build.json", "scan.ply", "part-9.ply", "part-9-cut.ply", "picture-front", "version-1.noggin"};
  auto zip = ZipFile::open(sound);
  const std::size_t hit = m.below(names.size());
  Entries entries;
  for (std::size_t i = 0; i < names.size(); ++i) {
    auto bytes = zip->entry(names[i]);
    if (!bytes || (i == hit && m.one_in(12))) continue;
    entries.push_back({names[i], i == hit ? m.bytes(*bytes) : std::move(*bytes)});
  }
  return *zipped(entries);
}

std::string spoilt_inside(Mutator& m) {
  const std::string& bytes = sound_builds()[m.below(sound_builds().size())];
  auto zip = ZipFile::open(bytes);
  const std::string text = *zip->entry("build.json");
  const std::string spoilt =
      m.one_in(4) ? m.bytes(text) : m.json(Json::parse(text)).dump(-1, ' ', false, Json::error_handler_t::replace);
  return *zipped({{"build.json", spoilt}});
}

/// A build that could be read is worked out, stopped after a while as a maker would.
Result<void> use_build(const std::string& bytes, bool derive) {
  const auto build = build_from_bytes(bytes);
  if (!build) return fail(build);
  if (auto back = build_bytes(*build); !back) return fail(back);
  if (!derive) return {};
  const std::clock_t start = std::clock();
  const Derived d = chain().derive(*build, Progress([&](double) { return seconds_since(start) < 0.5 * kMostSeconds; }));
  if (d.error) return fail(*d.error);
  return {};
}

/// A verb of the command line that reads one spoilt file beside a sound one.
Result<void> use_verb(std::vector<std::string> words) {
  words.insert(words.begin(), "noggin-awl-cli");
  std::vector<const char*> argv;
  for (const auto& w : words) argv.push_back(w.c_str());
  std::ostringstream out, err;
  if (runCommand(static_cast<int>(argv.size()), argv.data(), out, err) == 0) return {};
  return fail(err.str().find("of its own") != std::string::npos ? Errc::internal : Errc::bad_file, err.str());
}

/// A file of JSON that is read beside a mesh or a build, and the verb that works from it.
struct SmallFile {
  std::string name, seed;
  std::function<Result<void>(const std::string& text)> read;
  std::string verb;
  std::function<std::vector<std::string>(const test::TempFolder&, const std::string& file)> words;
};

/// Two readers: of the file alone, and of the whole verb, which takes a hundred times as long.
void add_readers(std::vector<Reader>& all, const SmallFile& file) {
  const auto folder = std::make_shared<test::TempFolder>();
  const auto spoilt = [seed = file.seed](Mutator& m) {
    return m.one_in(2) ? m.bytes(seed) : m.json(Json::parse(seed)).dump(-1, ' ', false, Json::error_handler_t::replace);
  };
  all.push_back({file.name, spoilt, file.read});
  all.push_back({file.verb, spoilt,
      [=](const std::string& bytes) -> Result<void> {
        const std::filesystem::path path = *folder / (file.name + ".json");
        if (auto wrote = write_file_safely(path, bytes); !wrote) return wrote;
        return use_verb(file.words(*folder, path.string()));
      },
      kOneOfWhole});
}

/// Whether it could be read.
template <class T>
Result<void> done(const Result<T>& read) {
  if (!read) return fail(read);
  return {};
}

/// A head as a scan of few points, so that what lies behind a good fit is reached.
const Headform& scanned_head() {
  static const Headform head = chain().fitter().shape(chain().fitter().adults().mean);
  return head;
}

std::string sound_marks() {
  Json marks;
  for (const auto& [name, landmark] : {std::pair{"glabella", Landmark::glabella}, {"pronasale", Landmark::pronasale},
           {"tragion_l", Landmark::tragion_l}, {"tragion_r", Landmark::tragion_r}, {"vertex", Landmark::vertex}}) {
    const Vec3 p = scanned_head().at(landmark);
    marks[name] = {std::round(p.x()), std::round(p.y()), std::round(p.z())};
  }
  return marks.dump();
}

std::string mesh_in(const test::TempFolder& folder, const std::string& name, const Mesh& mesh) {
  const std::filesystem::path path = folder / name;
  if (!std::filesystem::exists(path)) (void)write_mesh(path, mesh);
  return path.string();
}

std::string head_in(const test::TempFolder& folder) { return mesh_in(folder, "head.ply", scanned_head().mesh); }

const Mesh& half_ball() {
  static const Mesh ball = test::upper_half(test::icosphere(90.0, 2));
  return ball;
}

std::string ball_in(const test::TempFolder& folder) { return mesh_in(folder, "ball.obj", half_ball()); }

SmallFile marks_file() {
  return {"marks", sound_marks(), [](const std::string& text) { return done(scan_marks_from(text)); }, "scan-verb",
      [](const test::TempFolder& folder, const std::string& file) {
        return std::vector<std::string>{"scan", head_in(folder), "--marks", file};
      }};
}

SmallFile cuts_file() {
  return {"cuts", R"({"cuts":[[[90,0,0],[60,60,10],[0,88,0],[-60,60,-10],[-90,0,0]],[[0,0,90],[0,88,0],[0,0,-90]]]})",
      [](const std::string& text) { return done(cuts_from(text)); }, "panels-verb",
      [](const test::TempFolder& folder, const std::string& file) {
        return std::vector<std::string>{"panels", ball_in(folder), "--cuts", file, "--json"};
      }};
}

SmallFile worn_case_file() {
  const auto beside = std::make_shared<test::TempFolder>();
  return {"worn-case",
      R"({"head":"ball.obj","landmarks":{"pupil_l":[31,0,80],"pupil_r":[-31,0,80]},"layers_mm":2,"axis":"down",)"
      R"("parts":[{"mesh":"ball.obj","stiff":true,"density_kg_m3":100},{"mesh":"ball.obj","let_through":0.4}],)"
      R"("fittings":[{"mass_g":150,"at":[0,0,130]}],"weight_at":-120,"target_nm":0.1,"body_plane_y":-170,)"
      R"("hold":[{"kind":"magnet-steel","r1_mm":5,"t1_mm":3,"br1_t":1.3,"gap_mm":3}]})",
      [beside](const std::string& text) {
        (void)ball_in(*beside);
        return done(worn_case_in(text, beside->path()));
      },
      "worn-verb",
      [](const test::TempFolder& folder, const std::string& file) {
        (void)ball_in(folder);
        return std::vector<std::string>{"worn", "--case", file, "--json"};
      }};
}

SmallFile dress_case_file() {
  return {"dress-case",
      R"({"details":[{"id":1,"kind":"strip","line":{"round_mm":40},"wide_mm":20,"thick_mm":2,"lap_mm":5},)"
      R"({"id":2,"kind":"spaced","what":"rivet","line":{"rim":1,"off_mm":12},)"
      R"("pitch_mm":25,"rule":"skip","keep_out_mm":4},)"
      R"({"id":3,"kind":"tufts","line":{"rim":1},"rows":2,"pitch_mm":12,"wide_mm":20,"overlap":0.4},)"
      R"({"id":4,"kind":"teeth","line":{"drawn":[[90,0,0],[60,60,10],[0,88,0]]},"count":7,"gap_mm":2},)"
      R"({"id":5,"kind":"damage","seed":3,"count":4},{"id":6,"kind":"lens","at":[60,60,10],"across":20}]})",
      [](const std::string& text) {
        static const DressSite site = DressSite::of_mesh(*draw_cuts(half_ball(), {}));
        return done(dress_case_from(text, site, "details.json"));
      },
      "dress-verb",
      [](const test::TempFolder& folder, const std::string& file) {
        return std::vector<std::string>{"dress", ball_in(folder), "--details", file, "--json"};
      }};
}

SmallFile plan_case_file() {
  return {"plan-case",
      R"({"start":"2026-12-07T00:00","due":"2026-12-20T09:00","open":[["09:00","13:00",1],["15:00","18:30",2]],)"
      R"("open_on":{"2026-12-08":[["16:00","18:00",2]]},"closed":["2026-12-09"],)"
      R"("outdoor":[["2026-12-08T10:00","2026-12-12T15:00"]],"places":2,)"
      R"("steps":[{"id":"a","hands_min":60,"dries_min":90},{"id":"b","hands_min":300,"may_pause":true},)"
      R"({"id":"c","hands_min":20,"hands":2},{"id":"d","hands_min":45,"outdoors":true,"dries_min":30}],)"
      R"("links":[{"from":"a","to":"d","wait_min":30,"within_min":120,"or_after_min":1440},)"
      R"({"from":"b","to":"c","wait_min":10,"within_min":40}],)"
      R"("done":[{"id":"a","start":"2026-12-07T09:00","end":"2026-12-07T10:00"}]})",
      [](const std::string& text) { return done(plan_case_from(text)); }, "plan-verb",
      [](const test::TempFolder&, const std::string& file) {
        return std::vector<std::string>{"plan", "--spec", file, "--json", "--now", "2026-12-07T11:00"};
      }};
}

SmallFile readings_file() {
  return {"readings", R"({"crown to back":136.5,"round the neck":381.0,"crown to left":120})",
      [](const std::string& text) { return done(check_readings_from(text)); }, "check-verb",
      [](const test::TempFolder& folder, const std::string& file) {
        const std::filesystem::path path = folder / "hood.noggin";
        if (!std::filesystem::exists(path)) (void)save_build(path, test::demo());
        return std::vector<std::string>{"check", path.string(), "--readings", file};
      }};
}

}  // namespace

std::vector<Reader> readers() {
  std::vector<Reader> all{mesh_reader("obj"), mesh_reader("stl"), mesh_reader("ply"), mesh_reader("off"),
      mended_reader("mended", false), mended_reader("as-foam", true)};
  const auto suggest_folder = std::make_shared<test::TempFolder>();
  all.push_back({"suggest", [](Mutator& m) { return m.bytes(mesh_seed("off", m)); },
      [suggest_folder](const std::string& bytes) -> Result<void> {
        const std::filesystem::path file = *suggest_folder / "m.off";
        if (auto wrote = write_file_safely(file, bytes); !wrote) return wrote;
        return use_verb({"panels", file.string(), "--suggest", "--darts", "--json"});
      },
      kOneOfWhole});
  all.push_back({"noggin-outside", [](Mutator& m) { return m.bytes(sound_builds()[m.below(sound_builds().size())]); },
      [](const std::string& bytes) { return use_build(bytes, false); }});
  all.push_back({"noggin-inside", spoilt_inside, [](const std::string& bytes) { return use_build(bytes, false); }});
  all.push_back({"noggin-beside", spoilt_beside, [](const std::string& bytes) { return use_build(bytes, false); }});
  all.push_back(
      {"noggin-derived", spoilt_inside, [](const std::string& bytes) { return use_build(bytes, true); }, kOneOfWhole});
  all.push_back({"csv",
      [](Mutator& m) {
        return m.bytes(
            "wearer,day,by,people,HC [cm],HL,HB\nHeron Warden,2026-05-01,me,adult,58.4,200,152\n\"Reed; "
            "\"\"Mask\"\"\",,,auto,57,,\nFerry Keeper,2026-06-01,\"you, too\",adult,22 1/2 in,195,150\n");
      },
      [](const std::string& bytes) -> Result<void> {
        const auto table = wearers_from_csv(bytes);
        if (!table) return fail(table);
        const auto names = names_for(*table);
        if (std::set<std::string>(names.begin(), names.end()).size() != names.size())
          return fail(Errc::internal, "two builds of one name");
        return {};
      }});
  all.push_back({"measures",
      [](Mutator& m) {
        return m.bytes(m.one_in(2) ? R"({"units":"mm","measures":{"HC":560,"HL":195,"HB":151,"TOP":130}})"
                                   : "# a head\nHC,22 1/16 in\r\nHL;19,5 cm\nHB,2*70+11\n");
      },
      [](const std::string& bytes) -> Result<void> {
        const auto set = measures_from_text(bytes);
        if (!set) return fail(set);
        const auto head = chain().fitter().fit({*set, "auto", {}});
        if (!head) return fail(head);
        return {};
      }});
  all.push_back({"acts",
      [](Mutator& m) {
        static const std::vector<std::string> acts{"turn 1 padding 4", "use-expected HC 571.5", "take-in 1 4 2 0 belt",
            "set-gores 5 1", "set-sheet 600 400", "scale-tapes 0.98", "set-way 1 slabs", "set-hours 2.5",
            "swap-measures HL HB", "set-thickness 5", "set foam/gap 5", "set parts/1/way/wall 12", "set coat/shade oil",
            "set foam/margins/kerf 0.2", "set headform/plan 3", "set foam/notched yes"};
        return m.bytes(acts[m.below(acts.size())]);
      },
      [](const std::string& bytes) -> Result<void> {
        static const Build build = test::demo();
        const auto done = apply_act(build, bytes);
        if (!done) return fail(done);
        return check_inputs(*done);
      }});
  all.push_back({"cut-job",
      [](Mutator& m) {
        return m.bytes(
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"300mm\" height=\"200mm\" viewBox=\"0 0 300 200\"><g "
            "id=\"p1\" class=\"cut\" data-thickness-mm=\"5\" data-name=\"crown\"><path d=\"M10 10 L90 10 L90 80 "
            "Z\"/><path d=\"M20 20 L40 44\"/></g></svg>");
      },
      [](const std::string& bytes) -> Result<void> {
        auto job = read_cut_job(bytes);
        if (!job) return fail(job);
        return simulated_machine({})->load(std::move(*job));
      }});
  for (const SmallFile& file :
      {marks_file(), cuts_file(), worn_case_file(), dress_case_file(), plan_case_file(), readings_file()})
    add_readers(all, file);
  return all;
}

Verdict run(const Reader& reader, const std::string& bytes) {
  Verdict verdict;
  const std::clock_t start = std::clock();
  std::string thrown;
  Result<void> read;
  try {
    read = reader.read(bytes);
  } catch (const std::exception& e) {
    thrown = e.what();
  }
  verdict.seconds = seconds_since(start);
  verdict.accepted = thrown.empty() && read.has_value();
  if (!thrown.empty())
    verdict.fault = "an exception got out: " + thrown;
  else if (verdict.seconds > kMostSeconds)
    verdict.fault = "took " + std::to_string(verdict.seconds) + " s";
  if (read || !thrown.empty()) return verdict;
  const Error& e = read.error();
  const auto has = [&](const char* word) { return e.text.find(word) != std::string::npos; };
  if (e.code == Errc::internal)
    verdict.fault = "a mistake of its own: " + e.text + " (" + e.where + ")";
  else if (e.text.empty())
    verdict.fault = "no sentence";
  else if (e.text.size() > kLongestSentence + 1)
    verdict.fault = "a sentence of " + std::to_string(e.text.size()) + " bytes";
  else if (has("exception") || has("json.") || has("std::") || has("basic_string") || has("libzip") || has("Eigen"))
    verdict.fault = "a library's words: " + e.text;
  return verdict;
}

}  // namespace awl::fuzz
