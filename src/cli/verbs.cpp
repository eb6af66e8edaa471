#include "cli/verbs.hpp"

#include <QByteArray>
#include <QGuiApplication>
#include <algorithm>
#include <chrono>
#include <clocale>
#include <filesystem>
#include <map>
#include <memory>
#include <mutex>

#include "cli/verb_help.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/chain/chain.hpp"
#include "core/chain/questions.hpp"
#include "core/chain/to_cut.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/offset.hpp"
#include "core/io/build_file.hpp"
#include "core/io/cutting_machine.hpp"
#include "core/io/drawing_file.hpp"
#include "core/io/measures_file.hpp"
#include "core/io/small_files.hpp"
#include "core/io/batch.hpp"
#include "core/piece/changes.hpp"
#include "print/bench_pages.hpp"
#include "print/build_sheet.hpp"
#include "print/fonts.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {
namespace {

/// "sheets.svg" and "horns" make "sheets-horns.svg".
std::string beside(const std::string& path, const std::string& name) {
  if (name.empty()) return path;
  const std::filesystem::path file(path);
  return (file.parent_path() / (file.stem().string() + "-" + name + file.extension().string())).string();
}

template <class Note>
int write_mats(const VerbOptions& o, const Build& build, const Derived& d, const Note& note) {
  MachineMat mat;
  const auto by = std::min(o.mat.find('x'), o.mat.size());
  const auto width = number_in(std::string_view(o.mat).substr(0, by)),
             height = number_in(std::string_view(o.mat).substr(std::min(by + 1, o.mat.size())));
  if (!o.mat.empty() && !(width && height))
    throw Failed{
        {Errc::not_a_number, in_quotes(o.mat) + " is no mat; write its width and length in mm: 300x600.", "--mat"}};
  if (!o.mat.empty()) mat.width_mm = *width, mat.height_mm = *height;
  if (!(mat.width_mm >= 50.0 && mat.width_mm <= 5000.0 && mat.height_mm >= 50.0 && mat.height_mm <= 5000.0))
    throw Failed{{Errc::out_of_range,
        "A mat of " + fixed(mat.width_mm, 0) + " by " + fixed(mat.height_mm, 0) + " mm is outside 50 to 5000 mm.",
        "--mat"}};
  const auto svgs = machine_svgs(*d.pieces, *d.layout, need(mat_windows(*d.pieces, *d.layout, mat)), mat, build.name);
  need(make_folder(o.machine));
  for (std::size_t i = 0; i < svgs.size(); ++i) {
    const std::string path = (std::filesystem::path(o.machine) / ("mat-" + std::to_string(i + 1) + ".svg")).string();
    need(write_file_safely(path, svgs[i]));
    note("machine", path);
  }
  return static_cast<int>(svgs.size());
}

void print_remarks(const std::vector<Remark>& remarks, std::ostream& out) {
  for (const Remark& r : remarks) out << name_of(r.severity) << ": " << r.sentence << "\n";
}

/// A complete derivation, or the sentence why there is none.
Derived derived(const Chain& shop, const Build& build) {
  Derived d = shop.derive(build);
  if (d.error) throw Failed{*d.error};
  return d;
}

/// Fonts need an application object; verbs that print make one for a moment.
class PrintRoom {
 public:
  PrintRoom() {
    if (QGuiApplication::instance() != nullptr) return;
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    application_ = std::make_unique<QGuiApplication>(argc_, argv_);
    std::setlocale(LC_NUMERIC, "C");  // Qt takes the user's; numbers in files are everybody's
    loadShippedFonts();
  }

 private:
  int argc_ = 1;
  char name_[16] = "noggin-awl-cli";
  char* argv_[2] = {name_, nullptr};
  std::unique_ptr<QGuiApplication> application_;
};

/// What is loaded from the data folder, once a process: where one runs many verbs, the next finds it there.
template <class T, class Load>
std::shared_ptr<const T> once_a_process(Load load) {
  static std::mutex door;
  static std::filesystem::path from;
  static std::shared_ptr<const T> held;
  const std::lock_guard one(door);
  if (held == nullptr || from != data_folder()) held = need(load()), from = data_folder();
  return held;
}

std::shared_ptr<const HeadFitter> head_fitter() {
  return once_a_process<HeadFitter>([] { return HeadFitter::load(data_folder() / "headform"); });
}

double average_ms(int rounds, const std::function<void(int)>& work) {
  const Stopwatch watch;
  for (int i = 0; i < rounds; ++i) work(i);
  return watch.ms() / rounds;
}

}  // namespace

namespace {

/// Every measure as the contract has it: given, read, estimated with its band.
Json measures_json(const Headform& form) {
  Json list;
  for (const MeasureFacts& f : measure_facts()) {
    const Reading& r = form.reading(f.id);
    Json j = {{"given_mm", r.given ? Json(r.given_mm) : Json(nullptr)}, {"reads_mm", rounded(r.reads_mm, 3)},
        {"estimated", !r.given}};
    if (!r.given) j["band_mm"] = rounded(r.band_mm, 2);
    list[f.code] = j;
  }
  return list;
}

}  // namespace

Result<void> verbFit(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const WearerMeasures wearer{need(read_measures(o.measures)), o.people, {}};
    const auto fitter = head_fitter();
    const Stopwatch watch;
    const Headform form = need(fitter->fit(wearer));
    const double ms = watch.ms();
    if (!o.mesh.empty()) need(write_mesh(o.mesh, form.mesh));
    if (o.json) {
      out << line_of(Json{{"measures", measures_json(form)}, {"fit_ms", rounded(ms, 3)}, {"flipped", form.flipped},
          {"people", form.people}, {"remarks", remarks_json(form.remarks)}});
      return;
    }
    for (const MeasureFacts& f : measure_facts()) {
      const Reading& r = form.reading(f.id);
      out << f.code << "\t" << fixed(r.reads_mm, 1) << " mm" << (r.given ? "" : "\testimated +- " + fixed(r.band_mm, 1))
          << "\n";
    }
    print_remarks(form.remarks, out);
  });
}

std::shared_ptr<const Chain> chain() {
  return once_a_process<Chain>([] { return Chain::load(data_folder()); });
}

Result<void> verbScan(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    Scan scan{thinned_scan(need(read_scan_file(o.input))), need(scan_marks_from(need(read_file(o.marks))))};
    const ScanUnit unit = need(guess_scan_unit(scan.mesh));
    for (Vec3& p : scan.mesh.vertices) p *= unit.to_mm;
    for (auto& [mark, at] : scan.marks) at *= unit.to_mm;
    WearerMeasures tapes;
    if (!o.measures.empty()) tapes.set = need(read_measures(o.measures));
    const auto fitter = head_fitter();
    const Stopwatch watch;
    const ScanFit fit = need(fit_scan(*fitter, scan, tapes));
    const double ms = watch.ms();
    if (!o.mesh.empty()) need(write_mesh(o.mesh, fit.head.mesh));
    const Json j = {{"unit", unit.name}, {"used_share", rounded(fit.used_share, 4)},
        {"covered_share", rounded(fit.covered_share, 4)}, {"p95_mm", rounded(fit.p95_mm, 3)}, {"ms", rounded(ms, 1)},
        {"measures", measures_json(fit.head)}};
    if (o.json)
      out << line_of(j);
    else
      out << fixed(100.0 * fit.used_share, 0) << " % of the points lie on the head, 95 of 100 within "
          << fixed(fit.p95_mm, 1) << " mm; " << fixed(100.0 * fit.covered_share, 0) << " % of it was seen\n";
  });
}

Result<void> verbCheck(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    Build build = need(open_build(o.input));
    if (!o.readings.empty())
      for (const auto& [id, mm] : need(check_readings_from(need(read_file(o.readings))))) build.built[id] = mm;
    need(check_inputs(build));
    const auto shop = chain();
    const Derived d = derived(*shop, build);
    if (d.check_error) throw Failed{*d.check_error};
    if (!o.pdf.empty()) {
      const PrintRoom room;
      need(writeCheckSheet(QString::fromStdString(o.pdf), build, d, Paper::a4));
    }
    Json distances = Json::array(), findings = Json::array();
    for (const BuiltDistance& one : d.check->distances) {
      distances.push_back(
          {{"id", one.id}, {"target_mm", rounded(one.target_mm, 2)}, {"tolerance_mm", one.tolerance_mm}});
      if (!o.json && !d.built) out << one.id << "\t" << fixed(one.target_mm, 1) << " mm\n";
    }
    if (d.built)
      for (const Finding& f : d.built->findings) {
        findings.push_back({{"sentence", f.sentence}, {"remedy", f.remedy}, {"amount", rounded(f.amount, 2)},
            {"unit", unit_of(f.flaw)}});
        if (!o.json) out << f.sentence << " " << f.remedy << "\n";
      }
    if (o.json)
      out << line_of(Json{{"distances", distances}, {"findings", findings}, {"remarks", remarks_json(d.remarks)}});
  });
}

Result<void> verbNew(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const auto now = std::chrono::floor<std::chrono::days>(std::chrono::system_clock::now());
    const Day today =
        o.today.empty() ? Day{static_cast<int>(now.time_since_epoch().count())} : need(parse_day(o.today));
    need(save_build(o.output, need(demo_by_name(o.demo, today))));
    out << o.output << "\n";
  });
}

Result<void> verbExport(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const auto shop = chain();
    const Build build = need(open_build(o.input));
    const Derived d = derived(*shop, build);
    Json wrote = Json::object();
    const auto note = [&](const char* kind, const std::string& path) {
      wrote[kind] = path;
      if (!o.json) out << path << "\n";
    };
    if (!o.pdf.empty()) {
      const PrintRoom room;
      TileOptions options;
      options.paper = need(paperFrom(o.paper));
      options.of = need(pagesOf(o.pages)), options.part_of = part_names(build, d);
      options.title = QString::fromStdString(build.name);
      const TiledPdf made = need(writeTiledPdf(QString::fromStdString(o.pdf), *d.pieces, *d.layout, options));
      wrote["pages"] = made.pages, wrote["joins"] = made.joins;
      note("pdf", o.pdf);
    }
    const OutputPer per = need(output_per_from(o.per));
    for (const Output& one : outputs_of(*d.pieces, *d.layout, per, part_names(build, d))) {
      const std::string title = one.name.empty() ? build.name : build.name + ", " + one.name;
      if (!o.svg.empty())
        need(write_file_safely(beside(o.svg, one.name), sheets_svg(*d.pieces, one.layout, title))),
            note("svg", beside(o.svg, one.name));
      if (!o.dxf.empty())
        need(write_file_safely(beside(o.dxf, one.name),
            sheets_dxf(*d.pieces, one.layout, o.curves == "chords" ? DxfLines::chords : DxfLines::arcs))),
            note("dxf", beside(o.dxf, one.name));
    }
    if (!o.machine.empty()) wrote["mats"] = write_mats(o, build, d, note);
    if (!o.csv.empty()) need(write_file_safely(o.csv, pieces_csv(*d.pieces))), note("csv", o.csv);
    if (!o.sheet.empty()) {
      const PrintRoom room;
      wrote["steps"] =
          need(writeBuildSheet(QString::fromStdString(o.sheet), build, d, shop->materials(), need(paperFrom(o.paper))));
      note("build_sheet", o.sheet);
    }
    if (!o.shopping.empty()) {
      const Shopping list = need(shopping(build, d, shop->materials()));
      need(write_file_safely(o.shopping, shopping_csv(list)));
      wrote["price"] = list.price;
      note("shopping", o.shopping);
    }
    if (!o.mesh.empty())
      need(write_mesh(o.mesh, sheet_solid(d.form->surface.mesh, d.form->spans))), note("mesh", o.mesh);
    if (o.json) out << line_of(wrote);
  });
}

namespace {

Json changes_json(const std::vector<PieceChange>& changes) {
  Json all = Json::array();
  for (const PieceChange& c : changes)
    if (c.kind != PieceChange::Kind::same)
      all.push_back({{"piece", c.number}, {"name", c.name}, {"most_mm", rounded(c.most_mm, 2)},
          {"area_mm2", rounded(c.area_mm2, 0)}, {"sentence", c.sentence()}});
  return all;
}

/// One build for each wearer of a table, with all its sheets.
void regrade_all(
    const VerbOptions& o, const Chain& shop, const Build& build, const Derived& before, std::ostream& out) {
  if (o.folder.empty()) throw Failed{{Errc::empty_input, "Say where the builds go: --folder.", "--folder"}};
  need(make_folder(o.folder));
  Json all = Json::array();
  const auto wearers = need(wearers_from_csv(need(read_file(o.wearers))));
  const auto names = names_for(wearers);
  for (std::size_t i = 0; i < wearers.size(); ++i) {
    const Stopwatch watch;
    const Regraded r = need(regrade(shop, build, before, wearers[i], std::filesystem::path(o.folder) / names[i]));
    all.push_back({{"wearer", r.wearer}, {"build", r.build.string()}, {"sheets_svg", r.sheets.string()},
        {"ms", rounded(watch.ms(), 2)}, {"pieces", r.pieces}, {"sheets", r.sheet_count},
        {"changes", changes_json(r.changes)}, {"remarks", remarks_json(r.remarks)}});
    if (!o.json)
      out << r.wearer << ": " << r.pieces << " pieces on " << r.sheet_count << " sheets, " << r.build.string() << "\n";
  }
  if (o.json) out << line_of(Json{{"builds", all}});
}

}  // namespace

Result<void> verbRegrade(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const auto shop = chain();
    Build build = need(open_build(o.input));
    const Derived before = derived(*shop, build);  // what stood on the screen before; the regrade is timed from there
    if (!o.wearers.empty()) return regrade_all(o, *shop, build, before, out);
    if (o.measures.empty() || o.output.empty())
      throw Failed{{Errc::empty_input, "A regrade needs --measures and -o, or --wearers and --folder.", "regrade"}};
    build.tape = sheet_of(need(read_measures(o.measures)));
    const Stopwatch watch;
    const Derived d = derived(*shop, build);
    const double ms = watch.ms();
    need(save_build(o.output, build));
    const auto changes = changes_between(*before.pieces, *d.pieces);
    if (o.json) {
      out << line_of(Json{{"ms", rounded(ms, 2)}, {"pieces", d.pieces->size()}, {"sheets", d.layout->sheets},
          {"changes", changes_json(changes)}, {"remarks", remarks_json(d.remarks)}});
      return;
    }
    out << o.output << ": " << d.pieces->size() << " pieces on " << d.layout->sheets << " sheets\n";
    for (const PieceChange& c : changes)
      if (c.kind != PieceChange::Kind::same) out << "  " << c.sentence() << "\n";
    print_remarks(d.remarks, out);
  });
}

Result<void> verbRemarks(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const auto shop = chain();
    const Build build = need(open_build(o.input));
    const Derived d = with_worn(*shop, build, shop->derive(build));
    if (o.json)
      out << line_of(Json{{"remarks", remarks_json(d.remarks)}});
    else
      print_remarks(d.remarks, out);
  });
}

Result<void> verbBench(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] {
    const Stopwatch loading;  // what an earlier verb loaded is not counted
    const auto shop = need(Chain::load(data_folder()));
    const double load_ms = loading.ms();
    Build build = demo_build(Day{20000});
    const auto set = build.tape.measures();
    const Headform start = need(shop->fitter().fit(set));
    const double cold = average_ms(50, [&](int) { need(shop->fitter().fit(set)); });
    const double warm = average_ms(50, [&](int) { need(shop->fitter().fit(set, &start.coefficients)); });
    derived(*shop, build);
    const double regrade =
        average_ms(6, [&](int i) { build.tape.set(MeasureId::HC, 570.0 + 2.0 * i), derived(*shop, build); });
    const Json j = {{"load_ms", rounded(load_ms, 2)}, {"fit_cold_ms", rounded(cold, 3)},
        {"fit_warm_ms", rounded(warm, 3)}, {"regrade_ms", rounded(regrade, 1)}};
    if (o.json)
      out << line_of(j);
    else
      for (const auto& [key, value] : j.items()) out << key << "\t" << value << "\n";
  });
}

}  // namespace awl
