#pragma once
#include "core/base/remark.hpp"
#include "core/head/gauge.hpp"
#include "core/head/population.hpp"

namespace awl {

/// One measure of a fitted head.
struct Reading {
  bool given = false;
  double given_mm = 0.0;  ///< what the tape said, if given
  double reads_mm = 0.0;  ///< what a tape on the headform reads
  double band_mm = 0.0;   ///< one standard deviation of an estimated measure
};

/// A wearer's headform: the template carried to their measures.
struct Headform {
  Coefficients coefficients = Coefficients::Zero();
  Mesh mesh;
  std::array<Vec3, kLandmarkCount> landmarks;
  std::array<Reading, kMeasureCount> readings;
  int flipped = 0;  ///< triangles turned over against the template
  double smallest_angle_deg = 0.0;
  bool loosened = false;  ///< tolerances were doubled to keep the mesh sound
  std::string people;     ///< population it was held against, chosen or inferred
  bool people_inferred = false;
  std::vector<Remark> remarks;

  const Vec3& at(Landmark l) const { return landmarks[static_cast<int>(l)]; }
  const Reading& reading(MeasureId id) const { return readings[index_of(id)]; }
};

/// The mean head of a population, and how its tapes change with the modes there.
struct Centre {
  Population people;
  Coefficients mean = Coefficients::Zero();
  MeasureVector reads = MeasureVector::Zero();
  MeasureJacobian jacobian = MeasureJacobian::Zero();
  Eigen::Matrix<double, kMeasureCount, kMeasureCount>
      covariance;  ///< of the measures, without the tape's own tolerance
  std::shared_ptr<const Gauge> gauge;
};

/// Everything that is prepared once and shared by all fits. Immutable; share it between threads.
class HeadFitter {
 public:
  /// Errors: those of load_head_template.
  static Result<std::shared_ptr<const HeadFitter>> load(const std::filesystem::path& folder);

  /// The headform that meets the given tapes; all other measures come out as estimates.
  ///
  /// Minimises sum ((m_i(c) - t_i) / (0.2 tol_i))^2 + sum ((c_k - c0_k) / s_k)^2 by Levenberg-Marquardt on material
  /// sections, cut twice. `start` (the last fit while a field changes) saves a cut. c0 is the mean head of the people
  /// chosen, or of those the measures speak for.
  /// Errors: empty_input, out_of_range, unknown_name (see check_measures).
  Result<Headform> fit(const WearerMeasures& wearer, const Coefficients* start = nullptr) const;
  Result<Headform> fit(const MeasureSet& measures, const Coefficients* start = nullptr) const;

  /// The head of these coefficients, its tapes read anew; nothing is fitted.
  Headform shape(const Coefficients& c) const;

  const HeadTemplate& head() const { return *head_; }
  const std::vector<Population>& populations() const { return populations_; }
  const Centre& adults() const { return centres_.front(); }
  /// The people of this id, or for "auto" those whose heads explain the measures best.
  const Centre& centre_for(const WearerMeasures& wearer) const;

 private:
  struct Target {
    std::array<char, kMeasureCount> wanted{};
    MeasureVector value_mm = MeasureVector::Zero(), sigma_mm = MeasureVector::Ones();
    bool crooked = false;  ///< asymmetric modes may move
    Coefficients prior = Coefficients::Zero(), prior_sd = Coefficients::Ones();
  };
  Coefficients descend(const Gauge& gauge, const Target& target, Coefficients c) const;
  Target target_for(const Centre& centre, const MeasureSet& measures, double loosen) const;
  void add_centre(const Population& people);
  void fill_readings(Headform& form, const Centre& centre, const MeasureSet& measures) const;

  std::shared_ptr<const HeadTemplate> head_;
  std::vector<Population> populations_;
  std::vector<Centre> centres_;
};

}  // namespace awl
