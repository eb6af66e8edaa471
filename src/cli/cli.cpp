#include "cli/cli.hpp"

#include <CLI/CLI.hpp>
#include <array>

#include "cli/verbs.hpp"

namespace awl {
namespace {

struct Verb {
  CLI::App* app;
  Result<void> (*run)(const VerbOptions&, std::ostream&);
};

/// What is told of a build, or of a case by itself: worn, dress.
std::array<Verb, 2> declare_told(CLI::App& app, VerbOptions& o) {
  const auto json = [&](CLI::App* verb) {
    return verb->add_flag("--json", o.json, "One JSON object on standard output"), verb;
  };
  CLI::App* worn =
      json(app.add_subcommand("worn", "What is worn on its head: going on, sight, turning, balance, hold"));
  auto* worn_build = worn->add_option("build", o.input, "The .noggin file");
  worn->add_option("--case", o.worn_case, "A head and what is on it as JSON, see docs/formats/worn-case.md")
      ->excludes(worn_build);
  CLI::App* dress = json(app.add_subcommand("dress", "What details of a build come to; or of a mesh, with --details"));
  dress->add_option("build", o.input, "The .noggin file, or a mesh")->required();
  dress->add_option("--details", o.details, "Details for a mesh as JSON, see docs/formats/dress-case.md");
  dress->add_option("--cuts", o.cuts, "Where the mesh is cut, as for panels");
  return {{{worn, verbWorn}, {dress, verbDress}}};
}

/// Days, prices and the shop's records: plan, quote, book.
std::array<Verb, 3> declare_shop(CLI::App& app, VerbOptions& o) {
  const auto json = [&](CLI::App* verb) {
    return verb->add_flag("--json", o.json, "One JSON object on standard output"), verb;
  };
  CLI::App* plan =
      json(app.add_subcommand("plan", "The finishing plan of a build, or of a project of steps and links"));
  auto* build = plan->add_option("build", o.input, "The .noggin file");
  plan->add_option("--spec", o.spec, "A project as JSON, see docs/formats/plan-case.md")->excludes(build);
  plan->add_option("--now", o.now, "Nothing unticked begins before, like 2026-12-08T10:15");
  plan->add_option("--ics", o.ics, "Write it as iCalendar; a file that is there counts its changes on");
  plan->add_option("--csv", o.csv, "Write it as a table");
  plan->add_flag("--longer", o.longer, "Search for a better order for a second or two");
  CLI::App* quote = json(app.add_subcommand("quote", "What a build would cost, with its range"));
  quote->add_option("build", o.input, "The .noggin file")->required();
  quote->add_option("--book", o.book, "The shop book the hours are learned from");
  CLI::App* book = json(app.add_subcommand("book", "Lists and exports of the shop book"));
  book->add_option("what", o.input, "jobs, wearers, work, search, carry-out or forget")
      ->required()
      ->check(CLI::IsMember({"jobs", "wearers", "work", "search", "carry-out", "forget"}));
  book->add_option(
      "which", o.which, "Of search: words; of work: a job's number; of carry-out and forget: a wearer's name");
  book->add_option("--book", o.book, "The shop book; the usual one if not given");
  book->add_option("--folder", o.folder, "Of carry-out: where the files go");
  book->add_option("--csv", o.csv, "Of jobs, wearers and work: write them as a table");
  return {{{plan, verbPlan}, {quote, verbQuote}, {book, verbBook}}};
}

CLI::App* declare_picture(CLI::App& app, VerbOptions& o) {
  CLI::App* picture = app.add_subcommand("picture", "The picture a build was saved with");
  picture->add_option("build", o.input, "The .noggin file")->required();
  picture->add_option("-o,--output", o.output, "The PNG file")->required();
  picture->add_option("--size", o.size_px, "Its longer side in pixels, 16 to 1024");
  return picture;
}

CLI::App* declare_export(CLI::App& app, VerbOptions& o) {
  CLI::App* out = app.add_subcommand("export", "Sheets, lists and meshes of a build");
  out->add_option("build", o.input, "The .noggin file")->required();
  out->add_option("--pdf", o.pdf, "Tiled PDF at 1:1");
  out->add_option("--paper", o.paper, "a4, a3, letter, roll (610 mm wide) or sheet (one page a sheet)")
      ->check(CLI::IsMember({"a4", "a3", "letter", "roll", "sheet"}));
  out->add_option("--pages", o.pages, "Small pages show: patterns, each once, whole where it fits; or sheets")
      ->check(CLI::IsMember({"patterns", "sheets"}));
  out->add_option("--svg", o.svg, "Sheets as SVG");
  out->add_option("--dxf", o.dxf, "Sheets as DXF");
  out->add_option("--curves", o.curves, "Of --dxf: arcs of circles, or chords for programs that read none")
      ->check(CLI::IsMember({"arcs", "chords"}));
  out->add_option("--per", o.per, "A file of --svg and --dxf for: all, sheet, part or piece")
      ->check(CLI::IsMember({"all", "sheet", "part", "piece"}));
  out->add_option("--machine", o.machine, "Folder for a cutting machine's files, one SVG a mat");
  out->add_option("--mat", o.mat, "Of --machine: WIDTHxLENGTH of its mat, mm");
  out->add_option("--csv", o.csv, "List of pieces");
  out->add_option("--build-sheet", o.sheet, "How it is put together, step by step, as PDF");
  out->add_option("--shopping", o.shopping, "What it takes and what that costs, as CSV");
  out->add_option("--mesh", o.mesh, "The hood as .obj, .stl or .ply");
  return out;
}

CLI::App* declare_correct(CLI::App& app, VerbOptions& o) {
  CLI::App* correct = app.add_subcommand("correct", "Outlines corrected so that what is glued comes out truer");
  correct->add_option("build", o.input, "The .noggin file")->required();
  correct->add_option("-o,--output", o.output, "The new .noggin file")->required();
  correct->add_option("--part", o.part, "Number of the part; 0 for all of them");
  correct->add_flag("--closer", o.closer, "Outlines may move by several millimetres, where that brings it nearer");
  correct->add_flag("--json", o.json, "One JSON object on standard output");
  return correct;
}

/// What can be set in a build, and changes of it.
std::array<Verb, 2> declare_changes(CLI::App& app, VerbOptions& o) {
  CLI::App* settings = app.add_subcommand("settings", "All that can be set in a build, with its limits");
  settings->add_option("build", o.input, "The .noggin file")->required();
  settings->add_flag("--json", o.json, "One JSON object on standard output");
  CLI::App* change = app.add_subcommand("change", "The same build with acts carried out, one after the other");
  change->add_option("build", o.input, "The .noggin file")->required();
  change->add_option("--act", o.acts, "\"set foam/gap 5\", or the act of a remark (remarks --json)")
      ->required()
      ->allow_extra_args(false);
  change->add_option("-o,--output", o.output, "The new .noggin file")->required();
  change->add_flag("--json", o.json, "One JSON object on standard output");
  return {{{settings, verbSettings}, {change, verbChange}}};
}

std::vector<Verb> declare(CLI::App& app, VerbOptions& o) {
  const auto json = [&](CLI::App* verb) {
    return verb->add_flag("--json", o.json, "One JSON object on standard output"), verb;
  };
  CLI::App* fit = json(app.add_subcommand("fit", "Headform from tape measures"));
  fit->add_option("measures", o.measures, "Measures file, JSON or CSV")->required();
  fit->add_option("--mesh", o.mesh, "Write the headform as .obj, .stl or .ply");
  fit->add_option("--people", o.people, "auto, adult, or a child's band such as child-5");

  CLI::App* scan = json(app.add_subcommand("scan", "Headform from a scan and the places shown on it"));
  scan->add_option("scan", o.input, "Scan, PLY, OBJ, STL or OFF, with or without triangles")->required();
  scan->add_option("--marks", o.marks,
          "Places as JSON: {\"glabella\":[x,y,z],\"pronasale\":..,\"tragion_l\":..,\"tragion_r\":..,\"vertex\":..}")
      ->required();
  scan->add_option("--measures", o.measures, "Tapes that join in, JSON or CSV");
  scan->add_option("--mesh", o.mesh, "Write the headform as .obj, .stl or .ply");

  CLI::App* check =
      json(app.add_subcommand("check", "Check sheet of a build's headform, and what readings on the built one say"));
  check->add_option("build", o.input, "The .noggin file")->required();
  check->add_option("--sheet", o.pdf, "Write the check sheet as PDF");
  check->add_option("--readings", o.readings, "Readings in mm as JSON: {\"crown to back\":136.5,...}");

  CLI::App* panels = json(app.add_subcommand("panels", "Cut a mesh and lay its panels flat"));
  panels->add_option("mesh", o.input, "Mesh file, millimetres")->required();
  auto* cuts = panels->add_option("--cuts", o.cuts, "Cuts as JSON: {\"cuts\":[[[x,y,z],...],...]}");
  panels->add_option("--tolerance", o.tolerance, "Strain the material bears (0.04 is 4 %)");
  panels->add_option("--thickness", o.thickness_mm, "Sheet thickness in mm; the mesh is its inner face");
  panels->add_option("--svg", o.svg, "Write the flat panels");
  panels->add_flag("--suggest", o.suggest, "Look for cuts that keep every panel within the tolerance")->excludes(cuts);
  panels->add_flag("--slits", o.slits, "Suggested panels may have slits where that saves one");
  panels->add_flag("--darts", o.darts, "Add darts to panels beyond the tolerance");

  CLI::App* fresh = app.add_subcommand("new", "A new build from a demo");
  fresh
      ->add_option("--demo", o.demo,
          "hood, heron-warden, ferry-keeper, almanac-seller, toll-clerk, thicket-ram, reed-mask, eel-catcher, "
          "lamp-post, marsh-guard or otter-pup")
      ->required();
  fresh->add_option("-o,--output", o.output, "The .noggin file")->required();
  fresh->add_option("--today", o.today, "Start day of its plan, like 2026-12-01");

  CLI::App* out = json(declare_export(app, o));

  CLI::App* regrade = json(app.add_subcommand("regrade", "The same build for another wearer"));
  regrade->add_option("build", o.input, "The .noggin file")->required();
  auto* one = regrade->add_option("--measures", o.measures, "Measures file, JSON or CSV");
  auto* many =
      regrade->add_option("--wearers", o.wearers, "Table of wearers as the shop book writes it: one build for each");
  one->excludes(many);
  auto* file = regrade->add_option("-o,--output", o.output, "The new .noggin file");
  auto* folder = regrade->add_option("--folder", o.folder, "Of --wearers: where the builds and their sheets (SVG) go");
  file->excludes(folder), file->needs(one), folder->needs(many);

  CLI::App* remarks = json(app.add_subcommand("remarks", "What is wrong with a build"));
  remarks->add_option("build", o.input, "The .noggin file")->required();
  const auto told = declare_told(app, o);
  const auto shop = declare_shop(app, o);
  const auto changes = declare_changes(app, o);
  CLI::App* bench = json(app.add_subcommand("bench", "Times of the main steps on this machine"));
  return {{fit, verbFit}, {panels, verbPanels}, {fresh, verbNew}, {out, verbExport}, {regrade, verbRegrade},
      {remarks, verbRemarks}, {scan, verbScan}, {check, verbCheck}, told[0], told[1], shop[0], shop[1], shop[2],
      changes[0], changes[1], {declare_correct(app, o), verbCorrect}, {declare_picture(app, o), verbPicture},
      {bench, verbBench}};
}

}  // namespace

int runCommand(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
  CLI::App app{
      "Noggin Awl from a shell: headforms, panels, pieces and plans. Nothing made with it is protective headgear."};
  app.require_subcommand(1);
  VerbOptions options;
  const auto verbs = declare(app, options);
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    return app.exit(e, out, err) == 0 ? 0 : 2;
  }
  for (const Verb& verb : verbs) {
    if (!verb.app->parsed()) continue;
    auto done = verb.run(options, out);
    // What was said must have arrived: a full disk behind standard output is a failure like any other.
    if (done && !out.flush())
      done = fail(Errc::cannot_write, "The answer could not be written: standard output takes no more.");
    if (done) return 0;
    err << short_enough(done.error().text) << "\n";
    return 1;
  }
  return 2;
}

}  // namespace awl
