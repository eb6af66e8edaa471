#pragma once
#include "core/base/remark.hpp"
#include "core/head/gauge.hpp"

namespace awl {

/// One measure of a fitted head.
struct Reading {
  bool given = false;
  double given_mm = 0.0;   ///< what the tape said, if given
  double reads_mm = 0.0;   ///< what a tape on the headform reads
  double band_mm = 0.0;    ///< one standard deviation of an estimated measure
};

/// A wearer's headform: the template carried to their measures.
struct Headform {
  Coefficients coefficients = Coefficients::Zero();
  Mesh mesh;
  std::array<Vec3, kLandmarkCount> landmarks;
  std::array<Reading, kMeasureCount> readings;
  int flipped = 0;                  ///< triangles turned over against the template
  double smallest_angle_deg = 0.0;
  bool loosened = false;            ///< tolerances were doubled to keep the mesh sound
  std::vector<Remark> remarks;

  const Vec3& at(Landmark l) const { return landmarks[static_cast<int>(l)]; }
  const Reading& reading(MeasureId id) const { return readings[index_of(id)]; }
};

/// Everything that is prepared once and shared by all fits. Immutable; share it between threads.
class HeadFitter {
 public:
  /// Errors: those of load_head_template.
  static Result<std::shared_ptr<const HeadFitter>> load(const std::filesystem::path& folder);

  /// The headform that meets the given tapes; all other measures come out as estimates.
  ///
  /// Minimises sum ((m_i(c) - t_i) / (0.2 tol_i))^2 + sum ((c_k - c0_k) / s_k)^2 by Levenberg-Marquardt on material
  /// sections, cut twice. `start` (the last fit while a field changes) saves a cut.
  /// Errors: empty_input, out_of_range (see check_measures).
  Result<Headform> fit(const MeasureSet& measures, const Coefficients* start = nullptr) const;

  /// The head of these coefficients, its tapes read anew; nothing is fitted.
  Headform shape(const Coefficients& c) const;

  const HeadTemplate& head() const { return *head_; }
  const Coefficients& mean() const { return mean_; }
  /// Readings of the mean head and their exact change per mode there.
  const MeasureVector& mean_reads() const { return mean_reads_; }
  const MeasureJacobian& jacobian() const { return jacobian_; }

 private:
  struct Target {
    std::array<char, kMeasureCount> wanted{};
    MeasureVector value_mm = MeasureVector::Zero(), sigma_mm = MeasureVector::Ones();
    bool crooked = false;  ///< asymmetric modes may move
    Coefficients prior = Coefficients::Zero(), prior_sd = Coefficients::Ones();
  };
  Coefficients descend(const Gauge& gauge, const Target& target, Coefficients c) const;
  Target target_for(const MeasureSet& measures, double loosen) const;
  void fill_readings(Headform& form, const MeasureSet& measures) const;

  std::shared_ptr<const HeadTemplate> head_;
  std::shared_ptr<const Gauge> mean_gauge_;
  Coefficients mean_ = Coefficients::Zero();
  MeasureVector mean_reads_ = MeasureVector::Zero();
  MeasureJacobian jacobian_ = MeasureJacobian::Zero();
};

}  // namespace awl
