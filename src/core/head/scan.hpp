#pragma once
#include "core/base/progress.hpp"
#include "core/head/compare.hpp"

namespace awl {

/// A head scan: points, perhaps with triangles, in the scanner's own frame, millimetres.
struct Scan {
  Mesh mesh;                       ///< triangles may be missing: a cloud of points
  std::map<Landmark, Vec3> marks;  ///< places shown by the maker, on the scan
  bool operator==(const Scan&) const = default;
};

/// What unit a scan of a head must be in, by its size: factor to millimetres and the unit's name.
struct ScanUnit {
  double to_mm = 1.0;
  const char* name = "mm";
};
/// Errors: degenerate_shape if no unit makes it the size of a head, with its size.
Result<ScanUnit> guess_scan_unit(const Mesh& scan);

/// Scanners give millions of points where a head needs thousands: beyond `most` points every n-th is kept, without
/// triangles.
Mesh thinned_scan(Mesh scan, std::size_t most = 200'000);

/// Landmarks a maker is asked for, in this order: brow, tip of the nose, left and right ear flap, crown.
const std::vector<Landmark>& scan_landmarks();

/// A headform fitted to a scan.
struct ScanFit {
  Headform head;               ///< its mesh also follows what the modes cannot
  std::vector<Vec3> points;    ///< the scan in the head frame
  std::vector<char> used;      ///< per point: it lies on the head (1), or was taken for hair, cloth or noise (0)
  std::vector<double> off_mm;  ///< per point: distance from the headform, + outside
  double used_share = 0.0, p95_mm = 0.0;  ///< of the points used
  double covered_share = 0.0;             ///< of the headform's area above the neck, that has data
};

/// Lays the scan on the head by its landmarks, then fits modes and pose together to point-to-plane distances that count
/// less the further they are (Tukey), with tapes, if any, in the same sum; then lets the surface follow what is left,
/// smoothly.
///
/// Missing parts are filled from proportions. Hair stands out and is left aside.
/// Errors: empty_input with fewer than 3 landmarks or 200 points; degenerate_shape if landmarks lie in a line or no
///         head is found near them; cancelled.
/// Source: docs/formulas/scan.md. Cost: about half a second.
Result<ScanFit> fit_scan(
    const HeadFitter& fitter, const Scan& scan, const WearerMeasures& tapes, const Progress& progress = {});

/// How a simulated scanner works: where it is blind, how it trembles, and the hair it cannot see through.
struct ScannerHabits {
  int points = 12000;
  double noise_mm = 0.6;
  double missing_share = 0.3;
  double hair_mm = 22.0;  ///< how far a tuft stands off the crown; 0: none
  std::uint64_t seed = 3;
};
/// A stand-in for a scanner: walks round a head that is known and sees it in its own frame.
struct SimulatedScan {
  Scan scan;
  std::vector<char> is_hair;     ///< per point
  std::vector<Vec3> true_place;  ///< per point, on the head in the head frame
};
SimulatedScan simulate_scan(const Headform& truth, const ScannerHabits& habits);

}  // namespace awl
