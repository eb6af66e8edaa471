#include "core/steps/assembly.hpp"

#include <algorithm>
#include <map>
#include <set>

#include "core/base/numbers.hpp"
#include "core/derived/stuffs.hpp"
#include "core/piece/fold.hpp"

namespace awl {
namespace {

constexpr const char* kStepKinds[] = {"cut", "prepare", "compare", "dry fit", "glue", "close", "before it is worn"};

constexpr const char* kDrilling =
    "Drilling: clamp it, goggles, no gloves or loose sleeves at the drill, a helper to hold what is large.";
constexpr const char* kWearing =
    "It takes sight and hearing, and it gets hot: stairs, traffic and crowds with a handler; a rest and a drink every "
    "quarter of an hour; off at once when dizzy. It is no protective headgear.";

std::string listed(const std::vector<std::string>& words) {
  std::string text;
  for (std::size_t i = 0; i < words.size(); ++i)
    text += (i == 0 ? "" : i + 1 == words.size() ? " and " : ", ") + words[i];
  return text;
}

/// The sentence about how one edge is cut: its tilt, and how far that changes along it.
std::string edge_words(const PieceEdge& edge, double thickness_mm) {
  if (std::abs(edge.tilt_deg) < least_tilt_deg(thickness_mm) &&
      (edge.cut == EdgeCut::tilted || edge.cut == EdgeCut::square))
    return "cut square";
  if (edge.cut == EdgeCut::two_cuts && edge.margin_mm > 0.0)
    return "first square " + fixed(edge.margin_mm, 1) +
        " mm outside the line, where the outer line is drawn; then the wedge off, from that edge to the line on the "
        "inside";
  if (edge.cut != EdgeCut::tilted) return words_of(edge.cut);
  std::vector<double> tilts = edge.tilts_deg;
  std::sort(tilts.begin(), tilts.end());
  const double low = tilts.empty() ? edge.tilt_deg : tilts[tilts.size() / 10],
               high = tilts.empty() ? edge.tilt_deg : tilts[tilts.size() - 1 - tilts.size() / 10];
  const std::string side = edge.tilt_deg > 0.0 ? "the outer face longer" : "the outer face shorter";
  const double least = std::min(std::abs(low), std::abs(high)), most = std::max(std::abs(low), std::abs(high));
  if (low * high > 0.0 && most - least > 6.0)
    return "blade from " + fixed(least, 0) + " to " + fixed(most, 0) + " degrees along it, " + side;
  return "blade at " + fixed(std::abs(edge.tilt_deg), 0) + " degrees, " + side;
}

class Writer {
 public:
  Writer(const Build& build, const Derived& d, const Materials& materials, const Foam& foam, const Glue& glue)
      : build_(build), d_(d), materials_(materials), foam_(foam), glue_(glue) {}

  Assembly run(std::vector<int> order) {
    sheet_.order = std::move(order);
    cut();
    prepare();
    int part = -1;
    for (const int i : sheet_.order) {
      const Piece& piece = (*d_.pieces)[i];
      if (piece.part != 0) other_way(piece.part);
      if (!piece.panel.valid()) continue;
      const int span = d_.panels->panels[piece.panel.value].part;
      if (span != part) {
        end_part(part);
        start_part(part = span);
      }
      put_on(piece);
    }
    end_part(part);
    plates();
    wear();
    return std::move(sheet_);
  }

 private:
  BuildStep& add(StepKind kind, std::string title) {
    BuildStep step;
    step.kind = kind, step.title = std::move(title);
    step.there.assign(on_.begin(), on_.end());
    sheet_.steps.push_back(std::move(step));
    return sheet_.steps.back();
  }

  std::string number(const Piece& p) const { return std::to_string(p.number) + ", " + p.name; }
  std::string length(double mm) const { return format_length(std::round(mm), build_.shown); }

  void cut() {
    BuildStep& step = add(StepKind::cut, "Cut the pieces");
    int copies = 0;
    for (const Piece& p : *d_.pieces) copies += p.copies;
    step.lines.push_back(std::to_string(copies) + " pieces of " + std::to_string(d_.pieces->size()) +
        " patterns. First apart, roughly; then along the line, inside it, in one pull.");
    for (const Piece& p : *d_.pieces)
      if (p.copies == 2) {
        step.lines.push_back("Those marked \"cut 2, flip 1\" are a pair: turn the pattern over for the second.");
        break;
      }
    step.lines.push_back(
        "Write number, letters and ticks on the inside of every piece before it leaves the sheet; photograph them all "
        "laid out.");
    step.caution = cutting_caution();
    std::set<std::string> told;
    for (const Piece& p : *d_.pieces)
      for (const PieceEdge& e : p.edges)
        if (!e.letter.empty() && told.insert(e.letter).second && (e.cut != EdgeCut::square))
          step.lines.push_back("Seam " + e.letter + ": " + edge_words(e, p.thickness_mm) + ".");
  }

  /// Blades, dust of ground edges, and what each material gives off or leaves sharp.
  std::string cutting_caution() const {
    std::vector<std::string> cautions{"Fresh blade, cut away from the hand that holds."};
    std::map<std::string, std::string> by_stuff;
    bool grinds = false;
    for (const Piece& p : *d_.pieces) {
      const Foam stuff = stuff_of_piece(p);
      by_stuff[stuff.name] = stuff.cutting_caution;
      for (const PieceEdge& e : p.edges)
        grinds = grinds || (is_tilted(e.cut) && std::abs(e.tilt_deg) >= least_tilt_deg(p.thickness_mm));
    }
    // Of several materials each by its name.
    for (const auto& [name, caution] : by_stuff)
      if (!caution.empty()) cautions.push_back(by_stuff.size() > 1 ? name + ": " + caution : caution);
    if (grinds) cautions.push_back("Edges tilted on a sander or with a rotary tool make dust: mask and goggles.");
    if (build_.foam.margins.kerf_mm > 0.0)
      cautions.push_back(
          "A laser only with its air drawn off, never left alone, and never on rigid PVC: its gas is poisonous.");
    return joined_cautions(cautions);
  }

  Foam stuff_of_piece(const Piece& p) const { return stuff_of(build_, p, materials_).value_or(foam_); }
  Foam stuff_of_panel(PanelId id) const {
    return stuff_of_span(build_, d_, d_.panels->panels[id.value].part, materials_).value_or(foam_);
  }

  /// What a piece is bent over: warm sheet gives back some of its bend, so that the former is rounder than the form.
  std::string former_of(const Piece& p, bool warm) const {
    const double keeps = stuff_of_piece(p).keeps_bend_heated;
    if (p.bend_across_mm <= 0.0) return {};
    if (!warm) return ", held by its seams";
    if (!(keeps > 0.0 && keeps < 0.99)) return {};
    return ", over a former " + fixed(5.0 * std::round(0.2 * keeps * p.bend_across_mm), 0) +
        " mm across: cooled, it opens to that";
  }

  /// Shaping, by what the material of each piece bears: with heat, with heat outdoors, by hand.
  void prepare() {
    enum Manner { kHeat, kOutdoors, kByHand, kManners };
    constexpr const char* kTitles[kManners] = {"Shape the pieces with heat, before gluing",
        "Shape these with heat outdoors, before gluing", "Bend the pieces by hand, before gluing"};
    std::vector<std::string> lines[kManners], cautions[kManners];
    bool pair = false;
    for (const int i : sheet_.order) {
      const Piece& p = (*d_.pieces)[i];
      if (p.heat_note.empty() || p.heat_note == "stays flat") continue;
      const Verdict heat = heat_on(stuff_of_piece(p));
      const Manner manner = !build_.foam.heated || !heat.allowed ? kByHand : heat.outdoors ? kOutdoors : kHeat;
      lines[manner].push_back(number(p) + ": " + p.heat_note + former_of(p, manner != kByHand) + ".");
      cautions[manner].push_back(heat.allowed ? manner == kByHand ? std::string() : heat.caution : heat.why);
      pair = pair || (p.copies == 2 && manner != kByHand);
    }
    for (int m = 0; m < kManners; ++m) {
      if (lines[m].empty()) continue;
      BuildStep& step = add(StepKind::prepare, kTitles[m]);
      step.lines = std::move(lines[m]);
      if (m != kByHand && pair)
        step.lines.push_back("Both of a pair one after the other, the second the other way round.");
      step.caution = joined_cautions(cautions[m]);
    }
  }

  void start_part(int span) {
    const std::string name = d_.panels->spans[span].name;
    if (build_.making == Making::parts) {
      BuildStep& look = add(StepKind::compare, "Hold the " + name + " against your pictures, before any glue");
      std::vector<std::string> missing;
      for (int i = 0; i < kLooks; ++i)
        if (build_.compared.count(static_cast<LookFrom>(i)) == 0) missing.push_back(name_of(static_cast<LookFrom>(i)));
      look.lines.push_back(missing.empty()
              ? "It was compared from every side; look once more at the pieces taped together."
              : "Not compared yet from the " + listed(missing) + ". Only the front looked at costs a rebuilt back.");
    }
    BuildStep& dry = add(StepKind::dry_fit, "Tape the " + name + " together dry and try it");
    for (const Panel& p : d_.panels->panels)
      if (p.part == span) dry.adds.push_back(p.id);
    dry.lines.push_back("Tape or pins along every seam, letters to letters, ticks to ticks.");
    dry.lines.push_back(build_.making == Making::parts
            ? "On the headform and on the wearer. Leave it a night and look again."
            : "Measure it with the check sheet.");
    if (const auto least = part_on(span); !least.empty())
      dry.lines.push_back("Try it on the " + least + " as well: that is on before it.");
    if (build_.making != Making::parts || span >= static_cast<int>(d_.form->parts.size())) return;
    if (const Part* part = find_part(build_, d_.form->parts[span]->part))
      fit_out(part->id, stuff_of(build_, d_, *part, materials_).value_or(foam_), false);
  }

  /// Slabs, a block, a net, a visor: all of it in one step, once.
  void other_way(int part) {
    if (!made_.insert(part).second) return;
    const auto way = std::find_if(d_.ways.begin(), d_.ways.end(), [&](const auto& w) { return w && w->part == part; });
    const Part* of = find_part(build_, part);
    if (way == d_.ways.end() || of == nullptr) return;
    const Foam stuff = stuff_of(build_, d_, *of, materials_).value_or(foam_);
    fit_out(part, stuff, false);
    for (const BenchStep& s : (*way)->steps) take_over(s, stuff);
    fix_on(*of, stuff);
    fit_out(part, stuff, true);
  }

  /// A step as a yield has it, with the glue its material bears.
  void take_over(const BenchStep& from, const Foam& stuff) {
    BuildStep& step = add(from.glued ? StepKind::glue : StepKind::prepare, from.title);
    step.lines = from.lines;
    if (from.glued) glue_lines(step, from.stuff.empty() ? stuff : materials_.foam(from.stuff).value_or(stuff), stuff);
    step.caution = joined_cautions({from.caution, step.caution});
  }

  /// Slits, details, and what holds a part: what comes before its pieces are joined, or once it is whole.
  void fit_out(int part, const Foam& stuff, bool at_end) {
    for (const Yield* y : yields_of(d_)) {
      const bool is_way = std::any_of(d_.ways.begin(), d_.ways.end(), [y](const auto& w) { return w.get() == y; });
      if (y->part != part || is_way) continue;
      for (const BenchStep& s : y->steps)
        if (s.at_end == at_end) take_over(s, stuff);
    }
  }

  /// A part that is whole is set on the one below it.
  void end_part(int span) {
    if (span < 0 || build_.making != Making::parts || span >= static_cast<int>(d_.form->parts.size())) return;
    const Part* part = find_part(build_, d_.form->parts[span]->part);
    if (part == nullptr) return;
    const Foam stuff = stuff_of(build_, d_, *part, materials_).value_or(foam_);
    fix_on(*part, stuff);
    fit_out(part->id, stuff, true);
  }

  void fix_on(const Part& part, const Foam& stuff) {
    const Part* below = find_part(build_, part.on);
    if (below == nullptr || part.way.way == Way::net || below->way.way == Way::net) return;
    BuildStep& step = add(StepKind::glue, "Fix the " + part.name + " on the " + below->name);
    step.lines.push_back("Hold it there with tape or pins first, look from all sides, mark its foot all round.");
    step.lines.push_back("Where it comes off again for packing: straps, laces or magnets instead of glue.");
    glue_lines(step, stuff, stuff_of(build_, d_, *below, materials_).value_or(foam_));
  }

  std::string part_on(int span) const {
    if (build_.making != Making::parts || span >= static_cast<int>(d_.form->parts.size())) return {};
    const Part* part = find_part(build_, d_.form->parts[span]->part);
    const Part* below = part != nullptr ? find_part(build_, part->on) : nullptr;
    return below != nullptr ? below->name : std::string();
  }

  /// Joins a piece (both of a pair) to what is there, along all seams that can be closed now.
  void put_on(const Piece& piece) {
    const std::vector<PanelId> panels = piece.panels();
    std::set<PanelId> after = on_;
    after.insert(panels.begin(), panels.end());
    std::vector<std::string> darts, folded, to;
    std::vector<SeamId> seams;
    std::set<std::string> letters, told;
    double mm = 0.0;
    Foam other = stuff_of_piece(piece);
    for (const Seam& s : d_.panels->seams) {
      if (!after.count(s.panels[0]) || !after.count(s.panels[1]) || done_.count(s.id)) continue;
      done_.insert(s.id);
      if (std::find(piece.folds.begin(), piece.folds.end(), s.id) != piece.folds.end()) {
        if (!fold_groove(piece.thickness_mm, degrees(s.mean_turn_rad)).needed()) continue;
        seams.push_back(s.id), mm += s.length_3d_mm;
        if (told.insert(s.letter).second)
          folded.push_back("Fold it at " + s.letter + ": the groove as it is written there, glue on its walls, close.");
        continue;
      }
      seams.push_back(s.id), mm += s.length_3d_mm;
      for (const PanelId side : s.panels)
        if (const Foam met = stuff_of_panel(side); met.id != stuff_of_piece(piece).id) other = met;
      if (s.panels[0] == s.panels[1])
        darts.push_back(
            "Close the dart " + s.letter + " of " + std::to_string(piece.number) + " from its tip outwards.");
      else if (letters.insert(s.letter).second)
        to.push_back(join_words(piece, s, panels));
    }
    const bool alone = to.empty();
    const std::string what = number(piece) + (piece.twin ? " (left and right)" : "");
    BuildStep& step = add(StepKind::glue, alone ? "Begin with " + what : "Glue on " + what);
    step.adds = panels, step.seams = seams, step.seam_mm = mm;
    step.lines = folded;
    step.lines.insert(step.lines.end(), darts.begin(), darts.end());
    step.lines.insert(step.lines.end(), to.begin(), to.end());
    if (seams.empty())
      step.lines.push_back("Lay it ready; nothing is glued yet.");
    else
      glue_lines(step, stuff_of_piece(piece), other);
    on_ = std::move(after);
  }

  std::string join_words(const Piece& piece, const Seam& s, const std::vector<PanelId>& panels) const {
    const bool own_first = std::find(panels.begin(), panels.end(), s.panels[0]) != panels.end();
    const PanelId other = own_first ? s.panels[1] : s.panels[0];
    std::string other_words = "its other half";
    for (const Piece& p : *d_.pieces)
      if (const auto made = p.panels(); p.id != piece.id && std::find(made.begin(), made.end(), other) != made.end())
        other_words = std::to_string(p.number) + ", " + p.name;
    std::string edge;
    for (const PieceEdge& e : piece.edges)
      if (e.letter == s.letter) edge = edge_words(e, piece.thickness_mm);
    return "Seam " + s.letter + " to " + other_words + ", " + length(s.length_3d_mm) +
        (edge.empty() ? "." : ": " + edge + ".");
  }

  /// How two faces are joined: with the maker's glue if both bear it, else with one that they bear, and why.
  void glue_lines(BuildStep& step, const Foam& one, const Foam& other) const {
    const auto served = glue_for(materials_, glue_, one, other);
    if (!served) {
      step.lines.push_back("Sew, rivet or lace it: " + served.error().text);
      return;
    }
    const Glue& glue = served->product;
    step.glue = glue;
    step.wait_min = glue_wait_min(glue, 1, DryingHelp::none);
    if (!served->as_asked) step.lines.push_back(served->why + " Take " + glue.name + " here.");
    if (glue.open_min > 0.0) {
      step.lines.push_back(
          "Cement on both faces, thin; join when dull and touch-dry. It grabs at once: begin at one tick, keep the "
          "rest apart with paper, work along.");
      step.meanwhile = "brush the next seam, or cut a piece that is still to cut";
    } else if (glue.base == "hot") {
      step.lines.push_back("A hand's breadth at a time: it sets in seconds.");
    } else if (glue.base == "epoxy") {
      step.lines.push_back("Mix as its label says, thin on both faces, tape or clamp it until it is hard.");
    } else {
      step.lines.push_back("Join at one tick and go along; there are some seconds to shift it.");
    }
    step.caution = glue_on(glue, one, other).caution;
  }

  void plates() {
    std::vector<std::string> lines;
    bool drilled = false;
    for (const Piece& p : *d_.pieces)
      if (!p.panel.valid() && p.part == 0)
        lines.push_back(number(p) + ", stays flat."), drilled = drilled || !p.holes.empty();
    if (lines.empty()) return;
    BuildStep& step = add(StepKind::close, "Close it");
    step.lines = std::move(lines);
    step.lines.push_back("All that goes inside must be inside before.");
    glue_lines(step, foam_, foam_);
    if (drilled) step.caution = joined_cautions({step.caution, kDrilling});
  }

  /// What every closed form does to its wearer, said where it is first put on.
  void wear() {
    if (build_.making != Making::parts || sheet_.steps.empty()) return;
    BuildStep& step = add(StepKind::wear, "Before it is worn");
    step.lines.push_back("Look and feel inside: no wire, mesh end, staple or hard edge towards the head.");
    step.lines.push_back(
        "Ten minutes at home, somebody with you: what is seen in front, below and beside; what is heard; how warm it "
        "gets; how fast it comes off.");
    step.caution = kWearing;
  }

  const Build& build_;
  const Derived& d_;
  const Materials& materials_;
  const Foam& foam_;
  const Glue& glue_;
  Assembly sheet_;
  std::set<PanelId> on_;
  std::set<SeamId> done_;
  std::set<int> made_;
};

/// The pieces' own order, but that those the maker has put in a sequence change places among themselves.
std::vector<int> wished_order(const std::vector<std::string>& names, const std::vector<std::string>& sequence) {
  std::vector<int> order(names.size()), places, named;
  for (std::size_t i = 0; i < names.size(); ++i) order[i] = static_cast<int>(i);
  for (const std::string& name : sequence)
    for (std::size_t i = 0; i < names.size(); ++i)
      if (names[i] == name && std::find(named.begin(), named.end(), static_cast<int>(i)) == named.end())
        named.push_back(static_cast<int>(i));
  places = named;
  std::sort(places.begin(), places.end());
  for (std::size_t k = 0; k < named.size(); ++k) order[places[k]] = named[k];
  return order;
}

}  // namespace

Build with_sequence(Build build, std::vector<std::string> names) { return build.sequence = std::move(names), build; }

const char* name_of(StepKind kind) { return kStepKinds[static_cast<int>(kind)]; }

double glue_wait_min(const Glue& glue, int layer, DryingHelp help) {
  const double by_layer = glue.wait_min * (layer <= 1 ? 1.0 : 0.75);  // a second coat soaks in less
  const double helped = by_layer * (help == DryingHelp::none ? 1.0 : help == DryingHelp::fan ? 0.65 : 0.45);
  return glue.id == "contact" ? std::clamp(helped, 5.0, 15.0) : helped;
}

double glue_open_min(const Glue& glue) { return glue.open_min > 0.0 ? glue.open_min : 0.5; }

std::vector<OrderRule> given_rules(const Build& build) {
  std::vector<OrderRule> rules;
  if (build.making != Making::parts) return rules;
  for (const Part& part : build.parts)
    if (const Part* below = find_part(build, part.on)) rules.push_back({below->name, part.name, "it sits on it"});
  return rules;
}

Result<Assembly> assemble(const Build& build, const Derived& d, const Materials& materials) {
  if (!d.pieces || d.pieces->empty() || !d.panels || !d.form)
    return fail(Errc::empty_input, "There are no pieces to put together yet.", "order");
  const auto foam = foam_of(build.foam, materials);
  if (!foam) return fail(foam);
  const auto glue = materials.glue(build.coat.glue);
  if (!glue) return fail(glue);
  std::vector<std::string> names;
  for (const Piece& p : *d.pieces) names.push_back(p.name);
  std::vector<OrderRule> rules;
  for (OrderRule& r : given_rules(build)) {
    const auto there = [&](const std::string& w) {
      return std::any_of(
          names.begin(), names.end(), [&](const std::string& n) { return n == w || n.starts_with(w + ","); });
    };
    if (there(r.first) && there(r.then)) rules.push_back(std::move(r));
  }
  rules.insert(rules.end(), build.order.begin(), build.order.end());
  const auto wished = wished_order(names, build.sequence);
  std::vector<std::string> in_wish;
  for (const int i : wished) in_wish.push_back(names[i]);
  const auto order = in_order(in_wish, rules);
  if (!order) return fail(order);
  std::vector<int> kept;
  for (const int i : *order) kept.push_back(wished[i]);
  return Writer(build, d, materials, *foam, *glue).run(std::move(kept));
}

}  // namespace awl
