#include "core/geom/curve_fit.hpp"

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kStiffnessMm3 = 1e-3;  // against points' distances squared: settles, does not pull
constexpr int kWideChords = 3;

/// A C1 spline of Hermite cubics over given breaks, fitted to rows.
class RowFit {
 public:
  RowFit(const std::vector<std::vector<Vec2>>& rows, FittedRows& fit) : rows_(rows), fit_(fit) {}

  void run() {
    const auto spans = static_cast<Eigen::Index>(fit_.breaks.size()) - 1;
    const Eigen::Index nodes = fit_.closed ? spans : spans + 1, n = 2 * nodes;
    const auto columns = static_cast<Eigen::Index>(2 * rows_.size());
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(n, n), b = Eigen::MatrixXd::Zero(n, columns);
    for (std::size_t j = 0; j < fit_.at.size(); ++j) {
      const auto [span, t] = place(fit_.at[j]);
      const double d = width(span);
      const std::array<double, 4> h = hermite(t, d);
      const auto at = columns_of(span, nodes);
      for (std::size_t r = 0; r < 4; ++r) {
        for (std::size_t c = 0; c < 4; ++c) a(at[r], at[c]) += h[r] * h[c];
        for (std::size_t k = 0; k < rows_.size(); ++k)
          b.block<1, 2>(at[r], static_cast<Eigen::Index>(2 * k)) += h[r] * rows_[k][j].transpose();
      }
    }
    for (Eigen::Index s = 0; s < spans; ++s) stiffen(a, s, nodes);
    if (!fit_.closed) hold_ends(a, b);
    const Eigen::MatrixXd x = a.ldlt().solve(b);
    fit_.knots.assign(rows_.size(), {}), fit_.tangents.assign(rows_.size(), {});
    for (std::size_t k = 0; k < rows_.size(); ++k)
      for (Eigen::Index i = 0; i <= spans; ++i) {
        const Eigen::Index node = i % nodes, column = static_cast<Eigen::Index>(2 * k);
        fit_.knots[k].push_back(x.block<1, 2>(2 * node, column).transpose());
        fit_.tangents[k].push_back(x.block<1, 2>(2 * node + 1, column).transpose());
      }
  }

  /// Farthest any point lies off, by span; the worst one of all is kept with the fit.
  std::vector<double> off_by_span() {
    std::vector<double> worst(fit_.breaks.size() - 1, 0.0);
    fit_.worst_mm = 0.0, fit_.worst = -1;
    for (std::size_t j = 0; j < fit_.at.size(); ++j) {
      const auto [span, t] = place(fit_.at[j]);
      for (std::size_t k = 0; k < rows_.size(); ++k) {
        const double off = (fit_.cubic(k, static_cast<std::size_t>(span)).at(t) - rows_[k][j]).norm();
        double& most = worst[static_cast<std::size_t>(span)];
        most = std::max(most, off);
        if (off > fit_.worst_mm) fit_.worst_mm = off, fit_.worst = static_cast<int>(j);
      }
    }
    return worst;
  }

  /// Halves spans that are over; false if none may be.
  bool halve(const std::vector<double>& worst, const CurveFitOptions& options) {
    std::vector<double> more{fit_.breaks.front()};
    bool any = false;
    for (std::size_t s = 0; s + 1 < fit_.breaks.size(); ++s) {
      const double from = fit_.breaks[s], to = fit_.breaks[s + 1], middle = 0.5 * (from + to);
      const auto between = [&](double low, double high) {
        return std::count_if(fit_.at.begin(), fit_.at.end(), [&](double u) { return u >= low && u <= high; });
      };
      const bool may = 0.5 * (to - from) >= options.shortest_mm && between(from, middle) >= options.fewest &&
          between(middle, to) >= options.fewest;
      if (worst[s] > options.off_mm && may) more.push_back(middle), any = true;
      more.push_back(to);
    }
    fit_.breaks = std::move(more);
    return any;
  }

 private:
  double width(Eigen::Index span) const {
    return fit_.breaks[static_cast<std::size_t>(span) + 1] - fit_.breaks[static_cast<std::size_t>(span)];
  }
  std::pair<Eigen::Index, double> place(double u) const {
    const auto next = std::upper_bound(fit_.breaks.begin() + 1, fit_.breaks.end() - 1, u);
    const auto span = static_cast<Eigen::Index>(next - fit_.breaks.begin()) - 1;
    return {span, (u - fit_.breaks[static_cast<std::size_t>(span)]) / width(span)};
  }
  static std::array<double, 4> hermite(double t, double d) {
    return {(1.0 + 2.0 * t) * (1.0 - t) * (1.0 - t), d * t * (1.0 - t) * (1.0 - t), t * t * (3.0 - 2.0 * t),
        d * t * t * (t - 1.0)};
  }
  std::array<Eigen::Index, 4> columns_of(Eigen::Index span, Eigen::Index nodes) const {
    const Eigen::Index next = (span + 1) % (fit_.closed ? nodes : nodes + 1);
    return {2 * span, 2 * span + 1, 2 * next, 2 * next + 1};
  }
  /// The integral of the second derivative squared, over a span.
  void stiffen(Eigen::MatrixXd& a, Eigen::Index span, Eigen::Index nodes) const {
    const double d = width(span), k = kStiffnessMm3 / (d * d * d);
    const double m[4][4] = {{12, 6 * d, -12, 6 * d}, {6 * d, 4 * d * d, -6 * d, 2 * d * d}, {-12, -6 * d, 12, -6 * d},
        {6 * d, 2 * d * d, -6 * d, 4 * d * d}};
    const auto at = columns_of(span, nodes);
    for (std::size_t r = 0; r < 4; ++r)
      for (std::size_t c = 0; c < 4; ++c) a(at[r], at[c]) += k * m[r][c];
  }
  /// First and last knot lie where the first and last point do.
  void hold_ends(Eigen::MatrixXd& a, Eigen::MatrixXd& b) const {
    const Eigen::Index last = a.rows() - 2;
    for (const Eigen::Index i : {Eigen::Index(0), last}) {
      Eigen::RowVectorXd value(b.cols());
      for (std::size_t k = 0; k < rows_.size(); ++k)
        value.segment<2>(static_cast<Eigen::Index>(2 * k)) = (i == 0 ? rows_[k].front() : rows_[k].back()).transpose();
      b -= a.col(i) * value;
      a.row(i).setZero(), a.col(i).setZero();
      a(i, i) = 1.0;
      b.row(i) = value;
    }
  }

  const std::vector<std::vector<Vec2>>& rows_;
  FittedRows& fit_;
};

}  // namespace

Cubic FittedRows::cubic(std::size_t row, std::size_t span) const {
  const double third = (breaks[span + 1] - breaks[span]) / 3.0;
  const Vec2 &a = knots[row][span], &b = knots[row][span + 1];
  return {{a, a + third * tangents[row][span], b - third * tangents[row][span + 1], b}};
}

Curve FittedRows::curve(std::size_t row) const {
  Curve made;
  for (std::size_t s = 0; s + 1 < breaks.size(); ++s) made.push_back(cubic(row, s));
  return made;
}

FittedRows fit_rows(const std::vector<std::vector<Vec2>>& rows, bool closed, const CurveFitOptions& options) {
  FittedRows fit;
  fit.closed = closed;
  const std::size_t n = rows.front().size(), steps = closed ? n : n - 1;
  double u = 0.0;
  for (std::size_t j = 0; j < steps; ++j) {
    fit.at.push_back(u);
    double mean = 0.0;
    for (const auto& row : rows) mean += (row[(j + 1) % n] - row[j]).norm() / static_cast<double>(rows.size());
    u += mean;
  }
  if (!closed) fit.at.push_back(u);
  // Round a closed line two cubics have too few ways to turn.
  fit.breaks = closed ? std::vector<double>{0.0, 0.25 * u, 0.5 * u, 0.75 * u, u} : std::vector<double>{0.0, u};
  RowFit rowing(rows, fit);
  do {
    rowing.run();
  } while (rowing.halve(rowing.off_by_span(), options));
  return fit;
}

double turn_at(const std::vector<Vec2>& points, bool closed, std::size_t i, int chords) {
  const auto n = static_cast<long>(points.size()), at = static_cast<long>(i);
  const auto place = [&](long k) -> const Vec2& {
    return points[static_cast<std::size_t>(closed ? ((k % n) + n) % n : std::clamp(k, 0L, n - 1))];
  };
  const Vec2 in = place(at) - place(at - chords), out = place(at + chords) - place(at);
  return std::atan2(in.x() * out.y() - in.y() * out.x(), in.dot(out));
}

Curve fit_outline(const std::vector<Vec2>& outline, double corner_deg, const CurveFitOptions& options) {
  std::vector<Vec2> points;
  for (const Vec2& p : outline)
    if (points.empty() || (p - points.back()).norm() > 1e-6) points.push_back(p);
  while (points.size() > 1 && (points.front() - points.back()).norm() <= 1e-6) points.pop_back();
  if (points.size() < 3) return {};
  const double limit = radians(corner_deg);
  std::vector<std::size_t> corners;
  for (std::size_t i = 0; i < points.size(); ++i)
    if (std::abs(turn_at(points, true, i, 1)) > limit && std::abs(turn_at(points, true, i, kWideChords)) > limit)
      corners.push_back(i);
  if (corners.empty() && points.size() >= 4) return fit_rows({points}, true, options).curve(0);
  if (corners.empty()) corners.push_back(0);
  Curve curve;
  for (std::size_t k = 0; k < corners.size(); ++k) {
    const std::size_t from = corners[k], to = corners[(k + 1) % corners.size()];
    std::vector<Vec2> run{points[from]};
    for (std::size_t i = from; run.size() == 1 || i != to;) i = (i + 1) % points.size(), run.push_back(points[i]);
    const Curve part = fit_rows({run}, false, options).curve(0);
    curve.insert(curve.end(), part.begin(), part.end());
  }
  return curve;
}

}  // namespace awl
