#include "core/piece/fair_outlines.hpp"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/seam/borders.hpp"

namespace awl {
namespace {

constexpr double kEvenMm = 1e-4, kTangentArmMm = 10.0;
// A border that is rough was not drawn so: it follows a mesh's edges, and is smoothed for good. Workshop values.
constexpr double kRoughShare = 1.5, kRoughestMm = 2.0, kRoughShortestMm = 16.0;
constexpr int kEvenRounds = 6, kTries = 4;

/// A stretch and the other side of its seam, in the direction of the first.
struct Run {
  BorderSpot first;                 ///< its first edge
  std::optional<BorderSpot> other;  ///< the edge beside the first one, where there is another side
  std::size_t count = 0;            ///< edges
  bool closed = false;
  CurveFitOptions fit_options;
  FittedRows fit;
};

std::vector<Run> runs_of(const Borders& borders, const PanelSet& set, const FairOptions& options) {
  std::vector<Run> runs;
  std::vector<std::vector<char>> done;
  for (int p = 0; p < static_cast<int>(set.panels.size()); ++p) done.emplace_back(borders.size(p), 0);
  const auto take = [&](const BorderSpot& first, bool closed) {
    Run run;
    run.first = first, run.closed = closed;
    BorderSpot at = first;
    do {
      done[static_cast<std::size_t>(at.panel)][at.at] = 1, ++run.count;
      if (const BorderSpot& beside = borders.partner(at); beside.there())
        done[static_cast<std::size_t>(beside.panel)][beside.at] = 1;
      at = borders.next(at);
    } while (at != first && !borders.corner(at));
    const bool given = set.panels[static_cast<std::size_t>(first.panel)].given_flat;
    run.fit_options = options.fit;
    if (given) run.fit_options.off_mm = options.given_off_mm;
    double rough = borders.rough_mm(first.panel);
    if (borders.partner(first).there()) {
      run.other = borders.partner(first);
      rough = std::max(rough, borders.rough_mm(run.other->panel));
    }
    if (rough > 0.0) {
      run.fit_options.off_mm = std::clamp(kRoughShare * rough, options.fit.off_mm, kRoughestMm);
      run.fit_options.shortest_mm = kRoughShortestMm;
    }
    runs.push_back(std::move(run));
  };
  for (const bool closed : {false, true})
    for (int p = 0; p < static_cast<int>(set.panels.size()); ++p)
      for (std::size_t i = 0; i < borders.size(p); ++i)
        if (!done[static_cast<std::size_t>(p)][i] && (closed || borders.corner({p, i}))) take({p, i}, closed);
  return runs;
}

/// The points of a run's sides, each in the direction of the first.
std::vector<std::vector<Vec2>> rows_of(const Borders& borders, const Run& run) {
  std::vector<std::vector<Vec2>> rows(run.other ? 2 : 1);
  const std::size_t points = run.closed ? run.count : run.count + 1;
  for (std::size_t k = 0; k < points; ++k) {
    rows[0].push_back(borders.flat(borders.next(run.first, k)));
    if (!run.other) continue;
    // The other side runs the other way: its edge beside the first one ends where the first one begins.
    const std::size_t n = borders.size(run.other->panel);
    rows[1].push_back(borders.flat({run.other->panel, (run.other->at + 1 + n - k % n) % n}));
  }
  return rows;
}

/// Everything that may be moved so that sides come out equally long: corners, shared by what meets in them, knots and
/// tangents. Tangents count by an arm, so that a unit of each moves the line about as far.
class Evening {
 public:
  Evening(const Borders& borders, std::vector<Run>& runs) : borders_(borders), runs_(runs) {
    for (std::size_t r = 0; r < runs.size(); ++r) number(r);
  }

  /// Answers the largest difference that is left.
  double run() {
    double worst = 0.0;
    for (int round = 0;; ++round) {
      measure();
      worst = rest_.size() == 0 ? 0.0 : rest_.cwiseAbs().maxCoeff();
      if (worst < kEvenMm || round == kEvenRounds) return worst;
      Eigen::SparseMatrix<double> j(rest_.size(), 2 * count_);
      j.setFromTriplets(entries_.begin(), entries_.end());
      Eigen::SparseMatrix<double> square = j * j.transpose();
      for (Eigen::Index i = 0; i < square.rows(); ++i) square.coeffRef(i, i) += 1e-9;
      const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(square);
      if (solver.info() != Eigen::Success) return worst;
      move(j.transpose() * solver.solve(-rest_));
    }
  }

 private:
  struct Numbers {
    std::vector<std::vector<int>> knots, tangents;  // by row and break
  };

  void number(std::size_t r) {
    Run& run = runs_[r];
    Numbers own;
    const std::size_t breaks = run.fit.breaks.size();
    for (std::size_t row = 0; row < run.fit.knots.size(); ++row) {
      std::vector<int> knots, tangents;
      for (std::size_t i = 0; i < breaks; ++i) {
        const bool again = run.closed && i + 1 == breaks;
        const bool end = !run.closed && (i == 0 || i + 1 == breaks);
        knots.push_back(again ? knots.front() : end ? corner(run, row, i != 0) : count_++);
        tangents.push_back(again ? tangents.front() : count_++);
      }
      own.knots.push_back(std::move(knots)), own.tangents.push_back(std::move(tangents));
    }
    numbers_.push_back(std::move(own));
  }

  int corner(const Run& run, std::size_t row, bool last) {
    BorderSpot at = row == 0 ? run.first : *run.other;
    const std::size_t n = borders_.size(at.panel);
    if (row == 0)
      at = borders_.next(at, last ? run.count : 0);
    else
      at.at = (at.at + 1 + n - (last ? run.count % n : 0)) % n;
    const auto [found, fresh] = corners_.try_emplace({at.panel, at.at}, count_);
    if (fresh) ++count_;
    return found->second;
  }

  void measure() {
    entries_.clear();
    std::vector<double> rest;
    for (std::size_t r = 0; r < runs_.size(); ++r) {
      if (!runs_[r].other) continue;
      for (std::size_t s = 0; s + 1 < runs_[r].fit.breaks.size(); ++s)
        for (const double from : {0.0, 0.5}) {
          const int line = static_cast<int>(rest.size());
          rest.push_back(half(r, 0, s, from, line, 1.0) - half(r, 1, s, from, line, -1.0));
        }
    }
    rest_ = Eigen::Map<Eigen::VectorXd>(rest.data(), static_cast<Eigen::Index>(rest.size()));
  }

  /// Length of half a cubic; how it changes with what may be moved is put in the line.
  double half(std::size_t r, std::size_t row, std::size_t span, double from, int line, double sign) {
    const FittedRows& fit = runs_[r].fit;
    std::array<Vec2, 4> by;
    const double mm = length_and_change(fit.cubic(row, span), from, from + 0.5, by);
    const double third = (fit.breaks[span + 1] - fit.breaks[span]) / 3.0;
    const Numbers& own = numbers_[r];
    put(line, own.knots[row][span], sign * (by[0] + by[1]));
    put(line, own.knots[row][span + 1], sign * (by[2] + by[3]));
    put(line, own.tangents[row][span], sign * third / kTangentArmMm * by[1]);
    put(line, own.tangents[row][span + 1], -sign * third / kTangentArmMm * by[2]);
    return mm;
  }

  void put(int line, int number, const Vec2& by) {
    entries_.emplace_back(line, 2 * number, by.x());
    entries_.emplace_back(line, 2 * number + 1, by.y());
  }

  void move(const Eigen::VectorXd& by) {
    for (std::size_t r = 0; r < runs_.size(); ++r) {
      FittedRows& fit = runs_[r].fit;
      for (std::size_t row = 0; row < fit.knots.size(); ++row)
        for (std::size_t i = 0; i < fit.breaks.size(); ++i) {
          fit.knots[row][i] += by.segment<2>(2 * numbers_[r].knots[row][i]);
          fit.tangents[row][i] += by.segment<2>(2 * numbers_[r].tangents[row][i]) / kTangentArmMm;
        }
    }
  }

  const Borders& borders_;
  std::vector<Run>& runs_;
  std::vector<Numbers> numbers_;
  std::map<std::pair<int, std::size_t>, int> corners_;
  int count_ = 0;
  std::vector<Eigen::Triplet<double>> entries_;
  Eigen::VectorXd rest_;
};

/// How far along each point of a run lies: the mean of its sides.
std::vector<double> lengths_along(const Run& run) {
  std::vector<double> at(run.count + 1, 0.0);
  const std::size_t rows = run.fit.knots.size();
  for (std::size_t row = 0; row < rows; ++row) {
    const Curve curve = run.fit.curve(row);
    std::size_t span = 0;
    double behind = 0.0;
    for (std::size_t k = 0; k <= run.count; ++k) {
      const double u = k < run.fit.at.size() ? run.fit.at[k] : run.fit.breaks.back();
      while (span + 2 < run.fit.breaks.size() && u > run.fit.breaks[span + 1]) behind += length_mm(curve[span++]);
      const double t = (u - run.fit.breaks[span]) / (run.fit.breaks[span + 1] - run.fit.breaks[span]);
      at[k] += (behind + length_mm(curve[span], 0.0, std::min(t, 1.0))) / static_cast<double>(rows);
    }
  }
  return at;
}

std::vector<FairPanel> panels_from(const Borders& borders, const PanelSet& set, const std::vector<Run>& runs) {
  std::vector<FairPanel> panels(set.panels.size());
  for (const Run& run : runs) {
    std::vector<double> at = lengths_along(run);
    panels[static_cast<std::size_t>(run.first.panel)].stretches.push_back(
        {run.first.at, run.count, run.fit.curve(0), at});
    if (!run.other) continue;
    const std::size_t n = borders.size(run.other->panel);
    std::reverse(at.begin(), at.end());
    const double whole = at.front();
    for (double& mm : at) mm = whole - mm;
    panels[static_cast<std::size_t>(run.other->panel)].stretches.push_back(
        {(run.other->at + n - (run.count - 1) % n) % n, run.count, reversed(run.fit.curve(1)), std::move(at)});
  }
  for (FairPanel& panel : panels)
    std::sort(panel.stretches.begin(), panel.stretches.end(),
        [](const FairStretch& a, const FairStretch& b) { return a.first < b.first; });
  return panels;
}

/// Where a line stays far off its points it has a corner that its turns did not tell.
bool add_hidden_corners(Borders& borders, const std::vector<Run>& runs) {
  constexpr double kCornerOffs = 3.0;
  bool any = false;
  for (const Run& run : runs) {
    if (run.fit.worst_mm <= kCornerOffs * run.fit_options.off_mm) continue;
    const BorderSpot at = borders.next(run.first, static_cast<std::size_t>(run.fit.worst));
    if (borders.corner(at)) continue;
    borders.add_corner(at), any = true;
  }
  return any;
}

}  // namespace

std::vector<Vec2> FairPanel::outline() const {
  std::vector<Vec2> points;
  for (const FairStretch& s : stretches) {
    const auto line = points_of(s.curve, kDrawnOffMm, kDrawnChordMm);
    points.insert(points.end(), line.begin(), line.end() - 1);
  }
  return points;
}

FairOutlines fair_outlines(const PanelSet& set, const FairOptions& options) {
  Borders borders(set, options.corner_deg);
  FairOutlines made;
  for (int round = 0; round < kTries; ++round) {
    std::vector<Run> runs;
    for (int corners = 0; corners <= kTries; ++corners) {
      runs = runs_of(borders, set, options);
      parallel_for(static_cast<int>(runs.size()), [&](int i) {
        Run& run = runs[static_cast<std::size_t>(i)];
        run.fit = fit_rows(rows_of(borders, run), run.closed, run.fit_options);
      });
      if (corners == kTries || !add_hidden_corners(borders, runs)) break;
    }
    made.uneven_mm = Evening(borders, runs).run();
    made.panels = panels_from(borders, set, runs);
    bool crossed = false;
    for (std::size_t p = 0; p < set.panels.size(); ++p)
      if (!set.panels[p].overlaps && crosses_itself(made.panels[p].outline()))
        borders.keep_chords(static_cast<int>(p)), crossed = true;
    if (!crossed) break;
  }
  for (std::size_t p = 0; p < set.panels.size(); ++p) {
    const Panel& panel = set.panels[p];
    for (const auto& loop : panel.holes) {
      std::vector<Vec2> rim;
      for (const int v : loop) rim.push_back(panel.flat[v]);
      CurveFitOptions fit = options.fit;
      if (panel.given_flat) fit.off_mm = options.given_off_mm;
      made.panels[p].holes.push_back(fit_outline(rim, options.corner_deg, fit));
    }
    for (const FairStretch& s : made.panels[p].stretches) made.cubics += static_cast<int>(s.curve.size());
  }
  return made;
}

}  // namespace awl
