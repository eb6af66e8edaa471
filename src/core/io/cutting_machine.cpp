#include "core/io/cutting_machine.hpp"

#include <algorithm>
#include <cmath>
#include <pugixml.hpp>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/io/drawing_file.hpp"

namespace awl {
namespace {

constexpr int kDeepestGroup = 50;

double length_of(const CutMove& m) {
  double sum = 0.0;
  for (std::size_t i = 0; i + 1 < m.line.size(); ++i) sum += (m.line[i + 1] - m.line[i]).norm();
  return sum + (m.closed && m.line.size() > 1 ? (m.line.front() - m.line.back()).norm() : 0.0);
}

Vec2 point_along(const CutMove& m, double along) {
  const std::size_t n = m.line.size();
  for (std::size_t i = 0; i + (m.closed ? 0 : 1) < n; ++i) {
    const Vec2 &a = m.line[i], &b = m.line[(i + 1) % n];
    const double step = (b - a).norm();
    if (along <= step && step > 0.0) return a + along / step * (b - a);
    along -= step;
  }
  return m.closed ? m.line.front() : m.line.back();
}

/// "M1 2 L3 4 C5 6 7 8 9 10 Z" as we write it; y is turned upwards again, curves become chords.
Result<CutMove> move_from(std::string_view data, double height) {
  constexpr double kChordOffMm = 0.02, kLongestChordMm = 10.0;
  CutMove move;
  const auto next_place = [height](std::string_view& at) -> std::optional<Vec2> {
    const auto next = [&at] {
      at.remove_prefix(std::min(at.find_first_not_of(" ,\n"), at.size()));
      return take_number(at);
    };
    const auto x = next(), y = next();
    return x && y ? std::optional(Vec2(*x, height - *y)) : std::nullopt;
  };
  for (std::string_view at = data; !at.empty();) {
    const char stroke = at.front();
    if (std::string_view("MLCZ ,\n").find(stroke) == std::string_view::npos)
      return fail(Errc::bad_file,
          "A path of the file has " + in_quotes(at.substr(0, 1)) + "; strokes M, L, C and Z alone are cut.");
    at.remove_prefix(1);
    if (stroke == 'Z') move.closed = true;
    if (stroke != 'M' && stroke != 'L' && stroke != 'C') continue;
    if (stroke == 'M' && !move.line.empty())
      return fail(Errc::bad_file, "A path of the file has several lines in one; each stroke must stand alone.");
    std::vector<Vec2> places;
    for (int k = stroke == 'C' ? 3 : 1; k > 0; --k) {
      const auto place = next_place(at);
      if (!place || (stroke == 'C' && move.line.empty()))
        return fail(Errc::bad_file, "A path of the file breaks off: " + in_quotes(data, 40) + ".");
      places.push_back(*place);
    }
    if (stroke == 'C')
      places = points_of({{{move.line.back(), places[0], places[1], places[2]}}}, kChordOffMm, kLongestChordMm),
      places.erase(places.begin());
    move.line.insert(move.line.end(), places.begin(), places.end());
  }
  // A curve that comes back to where it began ends in its first point.
  if (move.closed && move.line.size() > 2 && (move.line.front() - move.line.back()).norm() < 1e-3) move.line.pop_back();
  return move;
}

double millimetres(const pugi::xml_node& svg, const char* name) {
  const std::string_view value = svg.attribute(name).as_string();
  return value.ends_with("mm") ? number_in(value.substr(0, value.size() - 2)).value_or(0.0) : 0.0;
}

class Simulated : public CuttingMachine {
 public:
  explicit Simulated(MachineFacts facts) : facts_(std::move(facts)) {}

  const MachineFacts& facts() const override { return facts_; }

  Result<void> load(CutJob job) override {
    if (job.moves.empty()) return fail(Errc::empty_input, "There is nothing to cut in this file.", "machine");
    job_ = std::move(job), state_ = {}, events_.clear(), told_.clear(), done_.clear();
    for (const CutMove& m : job_.moves)
      state_.total_s += travel_s(m) + passes(m) * length_of(m) / facts_.cut_mm_s + facts_.lift_s,
          last_ = m.closed ? m.line.front() : m.line.back();
    last_ = Vec2::Zero();
    tell_short_blade();
    return {};
  }
  void start() override { state_.running = !job_.moves.empty() && state_.move < job_.moves.size(); }
  void stop() override { state_.running = false; }
  MachineState state() const override { return state_; }
  const std::vector<MachineEvent>& events() const override { return events_; }

  bool advance(double seconds) override {
    while (state_.running && seconds > 0.0) seconds = step(seconds);
    return state_.running;
  }

 private:
  double travel_s(const CutMove& m) const { return (m.line.front() - last_).norm() / facts_.travel_mm_s; }
  int passes(const CutMove& m) const {
    return std::max(
        1, static_cast<int>(std::ceil(std::min(m.thickness_mm, facts_.blade_mm) / facts_.depth_a_pass_mm - 1e-9)));
  }

  /// One phase, or as much of it as the time allows: going there, cutting, lifting. Gives back the time left.
  double step(double seconds) {
    const CutMove& m = job_.moves[state_.move];
    if (!state_.down) {
      const double needed = std::max(0.0, travel_s(m) - travelled_);
      if (seconds < needed)
        return pass_time(seconds, travelled_, [&] {
          state_.knife = last_ + std::min(1.0, travelled_ / std::max(1e-9, travel_s(m))) * (m.line.front() - last_);
        });
      pass_time(needed, travelled_, [] {});
      state_.down = true, state_.knife = m.line.front();
      begin(m);
      return seconds - needed;
    }
    const double whole = passes(m) * length_of(m) / facts_.cut_mm_s, needed = whole - cut_;
    if (needed > 0.0) {
      const double now = std::min(seconds, needed);
      pass_time(now, cut_, [] {});
      const double along = cut_ * facts_.cut_mm_s, length = std::max(1e-9, length_of(m));
      state_.pass = std::min(passes(m) - 1, static_cast<int>(along / length));
      state_.along_mm = along - state_.pass * length;
      state_.knife = point_along(m, state_.along_mm);
      return seconds - now;
    }
    const double now = std::min(seconds, facts_.lift_s - lifted_);
    pass_time(now, lifted_, [] {});
    if (lifted_ >= facts_.lift_s - 1e-12) finish(m);
    return seconds - now;
  }

  template <class Then>
  double pass_time(double seconds, double& phase, Then then) {
    phase += seconds, state_.at_s += seconds;
    then();
    return 0.0;
  }

  /// One sentence for all of them.
  void tell_short_blade() {
    std::set<std::string> pieces;
    const CutMove* first = nullptr;
    for (const CutMove& m : job_.moves)
      if (m.thickness_mm > facts_.blade_mm + 1e-9 && pieces.insert(m.piece).second && first == nullptr) first = &m;
    if (first == nullptr) return;
    const int count = static_cast<int>(pieces.size());
    events_.push_back({MachineEvent::Kind::blade_short, 0.0, first->piece, first->line.front(),
        "The blade reaches " + fixed(facts_.blade_mm, 1) + " mm down, the sheet is " + fixed(first->thickness_mm, 1) +
            " mm thick: finish " + (count == 1 ? words(*first) : std::to_string(count) + " pieces") +
            " with a knife, or set a longer blade.",
        count});
  }

  static std::string words(const CutMove& m) { return m.name.empty() ? m.piece : m.name; }

  void begin(const CutMove& m) {
    if (!facts_.backed && done_.count(m.piece) != 0)
      tell(MachineEvent::Kind::loose, m, m.line.front(),
          words(m) +
              " is cut loose before all of its lines are cut: the knife would drag it. Tape the back of the foam, or "
              "cut its holes first.");
    for (const Vec2& p : m.line)
      if (p.x() < -0.01 || p.y() < -0.01 || p.x() > facts_.mat.width_mm + 0.01 || p.y() > facts_.mat.height_mm + 0.01)
        return tell(MachineEvent::Kind::out_of_mat, m, p,
            words(m) + " leaves the mat at " + fixed(p.x(), 0) + ", " + fixed(p.y(), 0) + " mm; the mat is " +
                fixed(facts_.mat.width_mm, 0) + " x " + fixed(facts_.mat.height_mm, 0) + " mm.");
  }

  void finish(const CutMove& m) {
    last_ = m.closed ? m.line.front() : m.line.back();
    // Its outline is the longest of a piece's strokes: from then on it hangs by nothing.
    double longest = 0.0;
    for (const CutMove& other : job_.moves)
      if (other.piece == m.piece) longest = std::max(longest, length_of(other));
    if (m.closed && length_of(m) >= longest - 1e-9) done_.insert(m.piece);
    ++state_.move;
    state_.down = false, state_.along_mm = 0.0, state_.pass = 0, travelled_ = cut_ = lifted_ = 0.0;
    if (state_.move < job_.moves.size()) return;
    state_.running = false;
    events_.push_back({MachineEvent::Kind::finished, state_.at_s, {}, state_.knife, "Finished.", 0});
  }

  /// Each kind once a piece: nobody reads the same sentence forty times.
  void tell(MachineEvent::Kind kind, const CutMove& m, const Vec2& where, std::string sentence) {
    if (told_.insert({kind, m.piece}).second)
      events_.push_back({kind, state_.at_s, m.piece, where, std::move(sentence), 1});
  }

  MachineFacts facts_;
  CutJob job_;
  MachineState state_;
  std::vector<MachineEvent> events_;
  std::set<std::pair<MachineEvent::Kind, std::string>> told_;
  std::set<std::string> done_;
  Vec2 last_ = Vec2::Zero();
  double travelled_ = 0.0, cut_ = 0.0, lifted_ = 0.0;
};

}  // namespace

std::vector<std::string> machine_svgs(const std::vector<Piece>& pieces, const Layout& layout,
    const std::vector<MatWindow>& windows, const MachineMat& mat, const std::string& title) {
  std::vector<std::string> files;
  for (std::size_t i = 0; i < windows.size(); ++i) {
    Drawing cuts;
    for (Mark& m : draw_window(pieces, layout, windows[i], mat).marks)
      if (m.layer == Layer::cut) cuts.marks.push_back(std::move(m));
    files.push_back(mat_svg(cuts, pieces, {mat.width_mm, mat.height_mm},
        title + ", mat " + std::to_string(i + 1) + " of " + std::to_string(windows.size())));
  }
  return files;
}

Result<CutJob> read_cut_job(const std::string& text) {
  pugi::xml_document document;
  if (const auto read = document.load_buffer(text.data(), text.size()); !read)
    return fail(Errc::bad_file,
        "The file is no readable SVG: it goes wrong at its letter " + std::to_string(read.offset + 1) + ".");
  const pugi::xml_node svg = document.child("svg");
  CutJob job;
  job.name = svg.child("title").text().as_string();
  job.width_mm = millimetres(svg, "width"), job.height_mm = millimetres(svg, "height");
  if (!(job.width_mm > 0.0 && job.height_mm > 0.0))
    return fail(Errc::bad_file, "The SVG does not say how large it is in millimetres.");
  Result<void> good;
  const auto take = [&](const pugi::xml_node& group, const auto& self, CutMove of, bool cut, int depth) -> void {
    if (depth > kDeepestGroup)
      return void(good = fail(Errc::too_large,
                      "The groups of the SVG are nested deeper than " + std::to_string(kDeepestGroup) + " levels."));
    const std::string id = group.attribute("id").as_string();
    if (const auto written = group.attribute("data-thickness-mm")) {
      const auto thickness = number_in(written.as_string());
      if (!thickness)
        return void(good = fail(Errc::bad_file,
                        "The thickness of " + in_quotes(id) + " in the SVG: " + thickness.error().text));
      of.piece = id, of.thickness_mm = *thickness, of.name = group.attribute("data-name").as_string();
    }
    cut = cut || std::string(group.attribute("class").as_string()) == "cut";
    for (const pugi::xml_node& child : group.children()) {
      if (std::string(child.name()) == "g") self(child, self, of, cut, depth + 1);
      if (std::string(child.name()) != "path" || !cut || !good) continue;
      auto move = move_from(child.attribute("d").as_string(), job.height_mm);
      if (!move)
        good = fail(move);
      else if (move->line.size() > 1)
        move->piece = of.piece, move->name = of.name, move->thickness_mm = of.thickness_mm,
        job.moves.push_back(std::move(*move));
    }
  };
  take(svg, take, {}, false, 0);
  if (!good) return fail(good);
  return job;
}

std::unique_ptr<CuttingMachine> simulated_machine(const MachineFacts& facts) {
  return std::make_unique<Simulated>(facts);
}

}  // namespace awl
