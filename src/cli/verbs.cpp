#include "cli/verbs.hpp"

#include <QByteArray>
#include <QGuiApplication>
#include <algorithm>
#include <chrono>
#include <cmath>
#include <memory>
#include <nlohmann/json.hpp>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/builds/chain.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/offset.hpp"
#include "core/io/build_file.hpp"
#include "core/io/drawing_file.hpp"
#include "core/seam/draw_cut.hpp"
#include "print/bench_pages.hpp"
#include "print/fonts.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {
namespace {

using Json = nlohmann::ordered_json;

class Stopwatch {
 public:
  double ms() const { return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start_).count(); }

 private:
  std::chrono::steady_clock::time_point start_ = std::chrono::steady_clock::now();
};

double rounded(double value, int decimals) {
  const double unit = std::pow(10.0, decimals);
  return std::round(value * unit) / unit;
}

/// Leaves a verb with the failure of a step.
struct Failed { Error error; };

template <class T>
T need(Result<T> result) {
  if (!result) throw Failed{result.error()};
  return std::move(*result);
}
void need(Result<void> result) {
  if (!result) throw Failed{result.error()};
}

template <class Work>
Result<void> guarded(Work work) {
  try {
    work();
    return {};
  } catch (const Failed& failed) {
    return tl::make_unexpected(failed.error);
  }
}

Json remarks_json(const std::vector<Remark>& remarks) {
  Json list = Json::array();
  for (const Remark& r : remarks) {
    Json j = {{"id", r.id}, {"severity", name_of(r.severity)}, {"where", r.where}, {"sentence", r.sentence}};
    if (r.measured) j["measured"] = rounded(*r.measured, 3);
    if (r.limit) j["limit"] = rounded(*r.limit, 3);
    if (!r.remedies.empty()) j["remedy"] = r.remedies.front().text;
    list.push_back(std::move(j));
  }
  return list;
}

void print_remarks(const std::vector<Remark>& remarks, std::ostream& out) {
  for (const Remark& r : remarks) out << name_of(r.severity) << ": " << r.sentence << "\n";
}

std::shared_ptr<const Chain> chain() { return need(Chain::load(data_folder())); }

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
    loadShippedFonts();
  }

 private:
  int argc_ = 1;
  char name_[16] = "noggin-awl-cli";
  char* argv_[2] = {name_, nullptr};
  std::unique_ptr<QGuiApplication> application_;
};

Json panel_json(const Panel& p) {
  Json outline = Json::array();
  for (const BorderEdge& e : p.border) outline.push_back({rounded(p.flat[e.a].x(), 4), rounded(p.flat[e.a].y(), 4)});
  return {{"id", p.name},
          {"triangles", p.solid.triangles.size()},
          {"area_mm2", rounded(area_mm2(p.solid), 2)},
          {"strain", {{"max", rounded(p.strain.max, 6)}, {"p99", rounded(p.strain.p99, 6)}, {"p95", rounded(p.strain.p95, 6)}, {"mean", rounded(p.strain.mean, 6)}}},
          {"flipped", p.flipped},
          {"overlaps", p.overlaps},
          {"darts", 0},
          {"outline_mm", outline}};
}

std::vector<CutLine> read_cuts(const std::string& path) {
  if (path.empty()) return {};
  const Json j = Json::parse(need(read_file(path)), nullptr, false);
  try {
    std::vector<CutLine> cuts;
    for (const Json& cut : j.at("cuts")) {
      CutLine line;
      for (const Json& p : cut) line.push_back(Vec3(p.at(0).get<double>(), p.at(1).get<double>(), p.at(2).get<double>()));
      cuts.push_back(std::move(line));
    }
    return cuts;
  } catch (const Json::exception&) {
    throw Failed{{Errc::bad_file, "The cuts file " + path + " is not {\"cuts\":[[[x,y,z],...],...]}.", path}};
  }
}

void write_panels_svg(const std::string& path, const PanelSet& set) {
  Drawing drawing;
  double x = 0.0;
  for (const Panel& p : set.panels) {
    Mark outline;
    outline.closed = true;
    Vec2 low = Vec2::Constant(1e300), high = -low;
    for (const BorderEdge& e : p.border) outline.line.push_back(p.flat[e.a]), low = low.cwiseMin(outline.line.back()), high = high.cwiseMax(outline.line.back());
    for (Vec2& q : outline.line) q += Vec2(x, 0.0) - low;
    Mark label;
    label.layer = Layer::text, label.text = p.name, label.height_mm = 6.0, label.at = Vec2(x, 0.0) + 0.5 * (high - low);
    drawing.marks.push_back(outline);
    drawing.marks.push_back(label);
    x += (high - low).x() + 10.0;
  }
  need(write_file_safely(path, drawing_svg(drawing, "panels")));
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
    Json j = {{"given_mm", r.given ? Json(r.given_mm) : Json(nullptr)}, {"reads_mm", rounded(r.reads_mm, 3)}, {"estimated", !r.given}};
    if (!r.given) j["band_mm"] = rounded(r.band_mm, 2);
    list[f.code] = j;
  }
  return list;
}

Json readable_json(const std::string& path) {
  const Json j = Json::parse(need(read_file(path)), nullptr, false);
  if (!j.is_object()) throw Failed{{Errc::bad_file, path + " is no JSON object.", path}};
  return j;
}

std::map<Landmark, Vec3> read_marks(const std::string& path) {
  const std::pair<const char*, Landmark> names[] = {{"glabella", Landmark::glabella}, {"pronasale", Landmark::pronasale}, {"tragion_l", Landmark::tragion_l}, {"tragion_r", Landmark::tragion_r}, {"vertex", Landmark::vertex}};
  std::map<Landmark, Vec3> marks;
  const Json whole = readable_json(path);
  for (const auto& [name, at] : whole.items()) {
    const auto known = std::find_if(std::begin(names), std::end(names), [&, word = name](const auto& n) { return word == n.first; });
    if (known == std::end(names)) throw Failed{{Errc::unknown_name, "\"" + name + "\" is no place asked for on a scan; there are glabella, pronasale, tragion_l, tragion_r and vertex.", name}};
    if (!at.is_array() || at.size() != 3) throw Failed{{Errc::bad_file, "The place " + name + " is not [x,y,z].", name}};
    marks[known->second] = Vec3(at[0].get<double>(), at[1].get<double>(), at[2].get<double>());
  }
  return marks;
}

}  // namespace

Result<void> verbFit(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    const WearerMeasures wearer{need(read_measures(o.measures)), o.people, {}};
    const auto fitter = need(HeadFitter::load(data_folder() / "headform"));
    const Stopwatch watch;
    const Headform form = need(fitter->fit(wearer));
    const double ms = watch.ms();
    if (!o.mesh.empty()) need(write_mesh(o.mesh, form.mesh));
    if (o.json) {
      out << Json{{"measures", measures_json(form)}, {"fit_ms", rounded(ms, 3)}, {"flipped", form.flipped}, {"people", form.people}, {"remarks", remarks_json(form.remarks)}}.dump() << "\n";
      return;
    }
    for (const MeasureFacts& f : measure_facts()) {
      const Reading& r = form.reading(f.id);
      out << f.code << "\t" << fixed(r.reads_mm, 1) << " mm" << (r.given ? "" : "\testimated +- " + fixed(r.band_mm, 1)) << "\n";
    }
    print_remarks(form.remarks, out);
  });
}

Result<void> verbScan(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    Scan scan{thinned_scan(need(read_scan_file(o.input))), read_marks(o.marks)};
    const ScanUnit unit = need(guess_scan_unit(scan.mesh));
    for (Vec3& p : scan.mesh.vertices) p *= unit.to_mm;
    for (auto& [mark, at] : scan.marks) at *= unit.to_mm;
    WearerMeasures tapes;
    if (!o.measures.empty()) tapes.set = need(read_measures(o.measures));
    const auto fitter = need(HeadFitter::load(data_folder() / "headform"));
    const Stopwatch watch;
    const ScanFit fit = need(fit_scan(*fitter, scan, tapes));
    const double ms = watch.ms();
    if (!o.mesh.empty()) need(write_mesh(o.mesh, fit.head.mesh));
    const Json j = {{"unit", unit.name}, {"used_share", rounded(fit.used_share, 4)}, {"covered_share", rounded(fit.covered_share, 4)}, {"p95_mm", rounded(fit.p95_mm, 3)}, {"ms", rounded(ms, 1)}, {"measures", measures_json(fit.head)}};
    if (o.json) out << j.dump() << "\n";
    else out << fixed(100.0 * fit.used_share, 0) << " % of the points lie on the head, 95 of 100 within " << fixed(fit.p95_mm, 1) << " mm; " << fixed(100.0 * fit.covered_share, 0) << " % of it was seen\n";
  });
}

Result<void> verbCheck(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    const auto shop = chain();
    Build build = need(open_build(o.input));
    const Json readings = o.readings.empty() ? Json::object() : readable_json(o.readings);
    for (const auto& [id, mm] : readings.items()) {
      if (!mm.is_number()) throw Failed{{Errc::not_a_number, "The reading " + id + " is not a number.", id}};
      build.built[id] = mm.get<double>();
    }
    const Derived d = derived(*shop, build);
    if (d.check_error) throw Failed{*d.check_error};
    if (!o.pdf.empty()) {
      const PrintRoom room;
      need(writeCheckSheet(QString::fromStdString(o.pdf), build, d, Paper::a4));
    }
    Json distances = Json::array(), findings = Json::array();
    for (const BuiltDistance& one : d.check->distances) {
      distances.push_back({{"id", one.id}, {"target_mm", rounded(one.target_mm, 2)}, {"tolerance_mm", one.tolerance_mm}});
      if (!o.json && !d.built) out << one.id << "\t" << fixed(one.target_mm, 1) << " mm\n";
    }
    if (d.built)
      for (const Finding& f : d.built->findings) {
        findings.push_back({{"sentence", f.sentence}, {"remedy", f.remedy}, {"amount", rounded(f.amount, 2)}, {"unit", unit_of(f.flaw)}});
        if (!o.json) out << f.sentence << " " << f.remedy << "\n";
      }
    if (o.json) out << Json{{"distances", distances}, {"findings", findings}, {"remarks", remarks_json(d.remarks)}}.dump() << "\n";
  });
}

Result<void> verbPanels(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    const Stopwatch watch;
    if (!(o.thickness_mm >= 0.0 && o.thickness_mm <= 100.0)) throw Failed{{Errc::out_of_range, "A thickness of " + fixed(o.thickness_mm, 1) + " mm is outside 0 to 100 mm.", "--thickness"}};
    if (!(o.tolerance > 0.0 && o.tolerance <= 1.0)) throw Failed{{Errc::out_of_range, "A tolerance of " + fixed(o.tolerance, 3) + " is outside 0 to 1 (0.04 is 4 %).", "--tolerance"}};
    SeamMesh seamed = need(draw_cuts(need(read_mesh(o.input)), read_cuts(o.cuts)));
    PanelOptions options;
    options.thickness_mm = o.thickness_mm;
    const PanelSet set = need(make_panels(std::move(seamed), options));
    const double ms = watch.ms();
    if (!o.svg.empty()) write_panels_svg(o.svg, set);
    Json panels = Json::array(), seams = Json::array();
    for (const Panel& p : set.panels) panels.push_back(panel_json(p));
    for (const Seam& s : set.seams)
      if (!s.letter.empty()) seams.push_back({{"id", s.letter}, {"length_3d_mm", rounded(s.length_3d_mm, 4)}, {"side_mm", {rounded(s.side_mm[0], 4), rounded(s.side_mm[1], 4)}}});
    if (o.json) {
      out << Json{{"panels", panels}, {"seams", seams}, {"seam_total_mm", rounded(set.seam_total_mm(), 3)}, {"tolerance", o.tolerance}, {"ms", rounded(ms, 2)}}.dump() << "\n";
      return;
    }
    for (const Panel& p : set.panels)
      out << "panel " << p.name << ": " << p.solid.triangles.size() << " triangles, strain " << fixed(100 * p.strain.p99, 2) << " % (worst " << fixed(100 * p.strain.max, 2) << " %)"
          << (p.strain.p99 > o.tolerance ? ", beyond the tolerance" : "") << (p.overlaps ? ", lies over itself" : "") << "\n";
  });
}

Result<void> verbNew(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    const auto now = std::chrono::floor<std::chrono::days>(std::chrono::system_clock::now());
    const Day today = o.today.empty() ? Day{static_cast<int>(now.time_since_epoch().count())} : need(parse_day(o.today));
    need(save_build(o.output, need(demo_by_name(o.demo, today))));
    out << o.output << "\n";
  });
}

Result<void> verbExport(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
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
      options.paper = o.paper == "letter" ? Paper::letter : Paper::a4;
      options.title = QString::fromStdString(build.name);
      wrote["pages"] = need(writeTiledPdf(QString::fromStdString(o.pdf), *d.pieces, *d.layout, options)).pages;
      note("pdf", o.pdf);
    }
    if (!o.svg.empty()) need(write_file_safely(o.svg, sheets_svg(*d.pieces, *d.layout, build.name))), note("svg", o.svg);
    if (!o.dxf.empty()) need(write_file_safely(o.dxf, sheets_dxf(*d.pieces, *d.layout))), note("dxf", o.dxf);
    if (!o.csv.empty()) need(write_file_safely(o.csv, pieces_csv(*d.pieces))), note("csv", o.csv);
    if (!o.mesh.empty()) need(write_mesh(o.mesh, sheet_solid(d.form->surface.mesh, d.form->spans))), note("mesh", o.mesh);
    if (o.json) out << wrote.dump() << "\n";
  });
}

Result<void> verbRegrade(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    const auto shop = chain();
    Build build = need(open_build(o.input));
    derived(*shop, build);  // what stood on the screen before; the regrade is timed from there
    build.tape = sheet_of(need(read_measures(o.measures)));
    const Stopwatch watch;
    const Derived d = derived(*shop, build);
    const double ms = watch.ms();
    need(save_build(o.output, build));
    if (o.json) out << Json{{"ms", rounded(ms, 2)}, {"pieces", d.pieces->size()}, {"sheets", d.layout->sheets}, {"remarks", remarks_json(d.remarks)}}.dump() << "\n";
    else out << o.output << ": " << d.pieces->size() << " pieces on " << d.layout->sheets << " sheets\n", print_remarks(d.remarks, out);
  });
}

Result<void> verbRemarks(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    const auto shop = chain();
    const Derived d = shop->derive(need(open_build(o.input)));
    if (o.json) out << Json{{"remarks", remarks_json(d.remarks)}}.dump() << "\n";
    else print_remarks(d.remarks, out);
  });
}

Result<void> verbBench(const VerbOptions& o, std::ostream& out) {
  return guarded([&] {
    const Stopwatch loading;
    const auto shop = chain();
    const double load_ms = loading.ms();
    Build build = demo_build(Day{20000});
    const auto set = build.tape.measures();
    const Headform start = need(shop->fitter().fit(set));
    const double cold = average_ms(50, [&](int) { need(shop->fitter().fit(set)); });
    const double warm = average_ms(50, [&](int) { need(shop->fitter().fit(set, &start.coefficients)); });
    derived(*shop, build);
    const double regrade = average_ms(6, [&](int i) { build.tape.set(MeasureId::HC, 570.0 + 2.0 * i), derived(*shop, build); });
    const Json j = {{"load_ms", rounded(load_ms, 2)}, {"fit_cold_ms", rounded(cold, 3)}, {"fit_warm_ms", rounded(warm, 3)}, {"regrade_ms", rounded(regrade, 1)}};
    if (o.json) out << j.dump() << "\n";
    else
      for (const auto& [key, value] : j.items()) out << key << "\t" << value << "\n";
  });
}

}  // namespace awl
