#include "core/head/scan.hpp"

#include <Eigen/Cholesky>
#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <Eigen/LU>
#include <Eigen/SVD>
#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/random.hpp"
#include "core/geom/nearest.hpp"
#include "core/head/contradictions.hpp"

namespace awl {
namespace {

using L = Landmark;
constexpr int kPose = 6, kUnknowns = kModeCount + kPose;
constexpr int kMostPoints = 4500;
constexpr double kPointSdMm = 0.8, kMarkSdMm = 4.0;
constexpr double kNeckMm = -120.0;  // below, clothes are likelier than skin
constexpr double kFollowMm = 7.0;   // how far the surface may follow the points beyond the modes

struct Pose {
  Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
  Vec3 shift = Vec3::Zero();
  Vec3 operator()(const Vec3& p) const { return turn * p + shift; }
};

/// Rotation and shift that bring `from` nearest to `to`. Source: bibliography umeyama1991.
Result<Pose> pose_between(const std::vector<Vec3>& from, const std::vector<Vec3>& to) {
  Vec3 a = Vec3::Zero(), b = Vec3::Zero();
  const double n = static_cast<double>(from.size());
  for (std::size_t i = 0; i < from.size(); ++i) a += from[i] / n, b += to[i] / n;
  Eigen::Matrix3d h = Eigen::Matrix3d::Zero();
  for (std::size_t i = 0; i < from.size(); ++i) h += (to[i] - b) * (from[i] - a).transpose();
  const Eigen::JacobiSVD<Eigen::Matrix3d> svd(h, Eigen::ComputeFullU | Eigen::ComputeFullV);
  if (svd.singularValues()[1] < 0.01 * svd.singularValues()[0])
    return fail(Errc::degenerate_shape,
        "The places shown on the scan lie in one line; show one more beside it, an ear flap for instance.",
        "scan/marks");
  Eigen::Matrix3d flip = Eigen::Matrix3d::Identity();
  flip(2, 2) = (svd.matrixU() * svd.matrixV().transpose()).determinant() < 0.0 ? -1.0 : 1.0;
  Pose pose;
  pose.turn = svd.matrixU() * flip * svd.matrixV().transpose();
  pose.shift = b - pose.turn * a;
  return pose;
}

double tukey(double r, double reach) {
  const double u = r / reach;
  return std::abs(u) >= 1.0 ? 0.0 : (1.0 - u * u) * (1.0 - u * u);
}

/// Hair stands outside the skin and never inside: outwards a distance counts less soon.
double trust(double off_mm, double reach_mm) { return tukey(off_mm, off_mm > 0.0 ? 0.65 * reach_mm : 1.6 * reach_mm); }

/// How far each point may be believed by the smoothness of its neighbourhood: skin is a thin sheet there, hair is
/// thick.
std::vector<double> smoothness(const std::vector<Vec3>& points) {
  constexpr double kNearMm = 10.0, kThickMm = 1.7;
  std::vector<double> belief(points.size(), 1.0);
  constexpr int kParts = 16;
  const int count = static_cast<int>(points.size());
  parallel_for(kParts, [&](int part) {
    for (int i = count * part / kParts; i < count * (part + 1) / kParts; ++i) {
      Vec3 mean = Vec3::Zero();
      Eigen::Matrix3d square = Eigen::Matrix3d::Zero();
      int neighbours = 0;
      for (const Vec3& q : points) {
        const Vec3 d = q - points[i];
        if (d.squaredNorm() > kNearMm * kNearMm) continue;
        mean += d, square += d * d.transpose(), ++neighbours;
      }
      if (neighbours < 6) continue;
      mean /= neighbours;
      const Eigen::Matrix3d spread = square / neighbours - mean * mean.transpose();
      const double thick = std::sqrt(std::max(
          0.0, Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(spread, Eigen::EigenvaluesOnly).eigenvalues()[0]));
      belief[i] = 1.0 / (1.0 + std::pow(thick / kThickMm, 4.0));
    }
  });
  return belief;
}

class ScanFitter {
 public:
  ScanFitter(const HeadFitter& fitter, const Scan& scan, const WearerMeasures& tapes)
      : fitter_(fitter), scan_(scan), tapes_(tapes), centre_(fitter.centre_for(tapes)), c_(centre_.mean) {
    const auto& all = scan.mesh.vertices;
    const std::size_t step = std::max<std::size_t>(1, all.size() / kMostPoints);
    for (std::size_t i = 0; i < all.size(); i += step) sample_.push_back(all[i]);
    belief_ = smoothness(sample_);
  }

  Result<void> place_by_marks() {
    std::vector<Vec3> from, to;
    for (const auto& [mark, at] : scan_.marks) from.push_back(at), to.push_back(place_of(mark));
    const auto pose = pose_between(from, to);
    if (!pose) return fail(pose);
    pose_ = *pose;
    return {};
  }

  /// Rounds with an ever shorter reach; each finds the closest places anew.
  Result<void> fit(const Progress& progress) {
    const double reaches[] = {40.0, 30.0, 22.0, 16.0, 12.0, 9.0, 7.0, 6.0, 5.0, 4.5, 4.0, 4.0, 4.0, 4.0};
    int round = 0;
    for (const double reach : reaches) {
      if (!progress.keep_going(static_cast<double>(round) / std::size(reaches)))
        return fail(Errc::cancelled, "Stopped.");
      // Size and pose first, the finer modes when those are found.
      step(reach, round < 4);
      ++round;
    }
    return {};
  }

  Headform head() const { return fitter_.shape(c_); }
  const Pose& pose() const { return pose_; }
  const Coefficients& coefficients() const { return c_; }
  const Centre& centre() const { return centre_; }

 private:
  using Unknowns = Eigen::Matrix<double, kUnknowns, 1>;
  using Square = Eigen::Matrix<double, kUnknowns, kUnknowns>;

  Vec3 place_of(L mark) const { return fitter_.head().landmarks.at(static_cast<int>(mark), c_); }

  void add(Square& h, Unknowns& g, const Unknowns& row, double residual, double weight) const {
    h.selfadjointView<Eigen::Lower>().rankUpdate(row, weight);
    g -= weight * residual * row;
  }

  void step(double reach, bool coarse) {
    const Mesh mesh{fitter_.head().riders.carried(c_), fitter_.head().mesh.triangles};
    const Nearest near(mesh);
    Square h = Square::Zero();
    Unknowns g = Unknowns::Zero();
    const Coefficients sd = mode_sd();
    for (int k = 0; k < kModeCount; ++k) {
      const double slack = coarse && k > 4 ? 0.1 * sd[k] : sd[k];
      h(k, k) += 1.0 / (slack * slack);
      g[k] += (centre_.mean[k] - c_[k]) / (slack * slack);
    }
    const double share = std::min(1.0, 1200.0 / static_cast<double>(sample_.size())) / (kPointSdMm * kPointSdMm);
    for (std::size_t i = 0; i < sample_.size(); ++i)
      add_point(h, g, pose_(sample_[i]), near, mesh, reach, share * belief_[i]);
    for (const auto& [mark, at] : scan_.marks) add_mark(h, g, mark, pose_(at));
    add_tapes(h, g, mesh);
    h.triangularView<Eigen::StrictlyUpper>() = h.transpose();
    const Unknowns move = h.ldlt().solve(g);
    c_ += move.head<kModeCount>();
    const Vec3 spin = move.segment<3>(kModeCount);
    const Eigen::Matrix3d turn = spin.norm() < 1e-12
        ? Eigen::Matrix3d(Eigen::Matrix3d::Identity())
        : Eigen::AngleAxisd(spin.norm(), spin.normalized()).toRotationMatrix();
    pose_.turn = turn * pose_.turn;
    pose_.shift = turn * pose_.shift + move.tail<3>();
  }

  void add_point(
      Square& h, Unknowns& g, const Vec3& p, const Nearest& near, const Mesh& mesh, double reach, double share) const {
    if (p.y() < kNeckMm) return;
    const NearestHit hit = near.to(p);
    const double weight = share * trust(hit.signed_mm, reach);
    if (weight <= 0.0) return;
    const Tri& t = mesh.triangles[hit.triangle];
    const Vec3 n = area_vector(mesh, t).normalized();
    Eigen::Matrix<double, 3, kModeCount> moves = Eigen::Matrix<double, 3, kModeCount>::Zero();
    for (int k = 0; k < 3; ++k) moves += hit.weights[k] * fitter_.head().riders.modes(t[k]);
    Unknowns row;
    row.head<kModeCount>() = -(n.transpose() * moves).transpose();
    row.segment<3>(kModeCount) = p.cross(n);
    row.tail<3>() = n;
    add(h, g, row, n.dot(p - hit.point), weight);
  }

  void add_mark(Square& h, Unknowns& g, L mark, const Vec3& p) const {
    const Vec3 off = p - place_of(mark);
    const ModeColumns moves = fitter_.head().landmarks.modes(static_cast<int>(mark));
    for (int axis = 0; axis < 3; ++axis) {
      Unknowns row;
      const Vec3 n = Vec3::Unit(axis);
      row.head<kModeCount>() = -moves.row(axis).transpose();
      row.segment<3>(kModeCount) = p.cross(n);
      row.tail<3>() = n;
      add(h, g, row, off[axis], 1.0 / (kMarkSdMm * kMarkSdMm));
    }
  }

  void add_tapes(Square& h, Unknowns& g, const Mesh& mesh) const {
    if (tapes_.set.empty()) return;
    std::array<char, kMeasureCount> wanted{};
    for (const auto& [id, mm] : tapes_.set) wanted[index_of(id)] = 1;
    MeasureVector reads;
    MeasureJacobian jacobian;
    Gauge(fitter_.head(), c_, mesh.vertices, wanted, true).read(c_, reads, &jacobian);
    for (const auto& [id, mm] : tapes_.set) {
      Unknowns row = Unknowns::Zero();
      row.head<kModeCount>() = jacobian.row(index_of(id)).transpose();
      const double sd = facts_of(id).tolerance_mm;
      add(h, g, row, reads[index_of(id)] - mm, 1.0 / (sd * sd));
    }
  }

  const HeadFitter& fitter_;
  const Scan& scan_;
  const WearerMeasures& tapes_;
  const Centre& centre_;
  Coefficients c_;
  Pose pose_;
  std::vector<Vec3> sample_;
  std::vector<double> belief_;  ///< per sample: skin rather than hair
};

/// Lets the surface follow the points beyond what the modes can: a smooth push along the normals, nothing where no data
/// is. Minimises sum w (d - r)^2 + stiff sum over edges (d_i - d_j)^2 + soft sum d^2.
std::vector<double> follow(const Mesh& mesh, const std::vector<Vec3>& points, std::vector<double>& data) {
  constexpr double kStiff = 6.0, kSoft = 0.02;
  const auto n = static_cast<Eigen::Index>(mesh.vertices.size());
  const Nearest near(mesh);
  Eigen::VectorXd rhs = Eigen::VectorXd::Zero(n), weight = Eigen::VectorXd::Constant(n, kSoft);
  for (const Vec3& p : points) {
    if (p.y() < kNeckMm) continue;
    const NearestHit hit = near.to(p);
    const double w = trust(hit.signed_mm, 5.0);
    if (w <= 0.0) continue;
    for (int k = 0; k < 3; ++k) {
      const int v = mesh.triangles[hit.triangle][k];
      data[v] += w * hit.weights[k];
      weight[v] += w * hit.weights[k];
      rhs[v] += w * hit.weights[k] * hit.signed_mm;
    }
  }
  std::vector<Eigen::Triplet<double>> entries;
  for (Eigen::Index v = 0; v < n; ++v) entries.emplace_back(v, v, weight[v]);
  for (const auto& e : topology_of(mesh).edges) {
    entries.emplace_back(e.a, e.a, kStiff), entries.emplace_back(e.b, e.b, kStiff);
    entries.emplace_back(e.a, e.b, -kStiff), entries.emplace_back(e.b, e.a, -kStiff);
  }
  Eigen::SparseMatrix<double> system(n, n);
  system.setFromTriplets(entries.begin(), entries.end());
  const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(system);
  const Eigen::VectorXd d = solver.solve(rhs);
  std::vector<double> push(mesh.vertices.size());
  for (Eigen::Index v = 0; v < n; ++v) push[v] = std::clamp(d[v], -kFollowMm, kFollowMm);
  return push;
}

void judge_points(ScanFit& fit) {
  const Nearest near(fit.head.mesh);
  std::vector<double> sizes;
  for (const Vec3& p : fit.points) {
    const double off = near.to(p).signed_mm;
    fit.off_mm.push_back(off);
    fit.used.push_back(p.y() >= kNeckMm && trust(off, 4.0) > 0.0 ? 1 : 0);
    if (fit.used.back()) sizes.push_back(std::abs(off));
  }
  fit.used_share = static_cast<double>(sizes.size()) / static_cast<double>(std::max<std::size_t>(1, fit.points.size()));
  if (sizes.empty()) return;
  const auto at = sizes.begin() + static_cast<long>(sizes.size() * 95 / 100);
  std::nth_element(sizes.begin(), at, sizes.end());
  fit.p95_mm = *at;
}

double covered(const Mesh& mesh, const std::vector<double>& data) {
  double with = 0.0, all = 0.0;
  for (const Tri& t : mesh.triangles) {
    if (mesh.vertices[t[0]].y() < kNeckMm) continue;
    const double a = area_vector(mesh, t).norm();
    all += a;
    if (data[t[0]] + data[t[1]] + data[t[2]] > 0.3) with += a;
  }
  return all > 0.0 ? with / all : 0.0;
}

}  // namespace

Result<ScanUnit> guess_scan_unit(const Mesh& scan) {
  const double size = box_of(scan.vertices).size().norm();
  for (const auto& unit : {ScanUnit{1.0, "mm"}, {10.0, "cm"}, {25.4, "inches"}, {1000.0, "metres"}})
    if (size * unit.to_mm > 200.0 && size * unit.to_mm < 750.0 && (unit.to_mm != 25.4 || size * 10.0 < 200.0))
      return unit;
  return fail(Errc::degenerate_shape,
      "The scan is " + fixed(size, 2) + " units from corner to corner; in no usual unit is that the size of a head.",
      "scan");
}

Mesh thinned_scan(Mesh scan, std::size_t most) {
  if (scan.vertices.size() <= most) return scan;
  Mesh thin;
  const std::size_t step = (scan.vertices.size() + most - 1) / most;
  for (std::size_t i = 0; i < scan.vertices.size(); i += step) thin.vertices.push_back(scan.vertices[i]);
  return thin;
}

const std::vector<Landmark>& scan_landmarks() {
  static const std::vector<Landmark> marks{L::glabella, L::pronasale, L::tragion_l, L::tragion_r, L::vertex};
  return marks;
}

Result<ScanFit> fit_scan(
    const HeadFitter& fitter, const Scan& scan, const WearerMeasures& tapes, const Progress& progress) {
  if (scan.marks.size() < 3)
    return fail(Errc::empty_input,
        "Show at least 3 places on the scan; " + std::to_string(scan.marks.size()) + " are shown.", "scan/marks");
  if (scan.mesh.vertices.size() < 200)
    return fail(Errc::empty_input,
        "A scan of " + std::to_string(scan.mesh.vertices.size()) + " points is too thin; 200 are the least.", "scan");
  if (!tapes.set.empty())
    if (auto good = check_measures(tapes, fitter.populations()); !good) return fail(good);
  ScanFitter work(fitter, scan, tapes);
  if (auto placed = work.place_by_marks(); !placed) return fail(placed);
  if (auto fitted = work.fit(progress.span(0.0, 0.8)); !fitted) return fail(fitted);
  ScanFit fit;
  fit.head = work.head();
  fit.head.people = work.centre().people.id;
  for (const Vec3& p : scan.mesh.vertices) fit.points.push_back(work.pose()(p));
  std::vector<double> data(fit.head.mesh.vertices.size(), 0.0);
  const auto push = follow(fit.head.mesh, fit.points, data);
  const auto normals = vertex_normals(fit.head.mesh);
  for (std::size_t v = 0; v < push.size(); ++v) fit.head.mesh.vertices[v] += push[v] * normals[v];
  fit.head.smallest_angle_deg = smallest_angle_deg(fit.head.mesh);
  judge_points(fit);
  fit.covered_share = covered(fit.head.mesh, data);
  if (fit.used_share < 0.15)
    return fail(Errc::degenerate_shape,
        "Only " + fixed(100.0 * fit.used_share, 0) +
            " % of the scan lies on a head placed like that; show the places on it again.",
        "scan/marks");
  return fit;
}

SimulatedScan simulate_scan(const Headform& truth, const ScannerHabits& habits) {
  Random random(habits.seed);
  std::vector<double> sum{0.0};
  for (const Tri& t : truth.mesh.triangles) sum.push_back(sum.back() + area_vector(truth.mesh, t).norm());
  const auto normals = vertex_normals(truth.mesh);
  const Eigen::Matrix3d turn =
      Eigen::AngleAxisd(random.uniform(-0.6, 0.6), Vec3(random.normal(), random.normal(), random.normal()).normalized())
          .toRotationMatrix();
  const Vec3 shift(random.uniform(-80, 80), random.uniform(-80, 80), random.uniform(200, 500));
  // Blind spots: cones of directions from the middle of the head, more until enough is missing.
  std::vector<std::pair<Vec3, double>> blind;
  const auto missing = [&](const Vec3& p) {
    return std::any_of(
        blind.begin(), blind.end(), [&](const auto& cone) { return cone.first.dot(p.normalized()) > cone.second; });
  };
  const auto missing_share = [&] {
    int gone = 0;
    for (const Vec3& p : truth.mesh.vertices) gone += missing(p) ? 1 : 0;
    return static_cast<double>(gone) / static_cast<double>(truth.mesh.vertices.size());
  };
  while (habits.missing_share > 0.0 && missing_share() < habits.missing_share)
    blind.push_back({Vec3(random.normal(), random.normal(), random.normal()).normalized(), random.uniform(0.86, 0.95)});
  const Vec3 tuft = Vec3(random.uniform(-0.5, 0.5), 0.8, random.uniform(-0.8, 0.1)).normalized();
  SimulatedScan sim;
  while (static_cast<int>(sim.scan.mesh.vertices.size()) < habits.points) {
    const auto at = std::upper_bound(sum.begin(), sum.end(), random.uniform(0.0, sum.back())) - sum.begin() - 1;
    const Tri& t =
        truth.mesh.triangles[std::min<std::size_t>(static_cast<std::size_t>(at), truth.mesh.triangles.size() - 1)];
    double u = random.uniform(), v = random.uniform();
    if (u + v > 1.0) u = 1.0 - u, v = 1.0 - v;
    const auto mix = [&](const std::vector<Vec3>& of) {
      return Vec3((1.0 - u - v) * of[t[0]] + u * of[t[1]] + v * of[t[2]]);
    };
    const Vec3 place = mix(truth.mesh.vertices), n = mix(normals).normalized();
    if (missing(place) || place.y() < -150.0) continue;
    const double hair =
        habits.hair_mm * smoothstep(0.80, 0.92, tuft.dot(place.normalized())) * random.uniform(0.55, 1.0);
    sim.true_place.push_back(place);
    sim.is_hair.push_back(hair > 2.5 ? 1 : 0);
    sim.scan.mesh.vertices.push_back(turn * (place + (hair + habits.noise_mm * random.normal()) * n) + shift);
  }
  for (const L mark : scan_landmarks())
    if (!missing(truth.at(mark)))
      sim.scan.marks[mark] =
          turn * (truth.at(mark) + 1.5 * Vec3(random.normal(), random.normal(), random.normal())) + shift;
  return sim;
}

}  // namespace awl
