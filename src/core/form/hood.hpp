#pragma once
#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "core/base/progress.hpp"
#include "core/base/remark.hpp"
#include "core/geom/split.hpp"
#include "core/head/headform.hpp"

namespace awl {

/// How far down a hood reaches; every edge follows the wearer's landmarks.
enum class HoodEdge { skull_cap, open_face, full_cowl };
const char* name_of(HoodEdge edge);  ///< "skull-cap", "open-face", "full-cowl"
Result<HoodEdge> hood_edge_from(const std::string& name);

/// What a maker decides about a hood.
struct HoodSpec {
  HoodEdge edge = HoodEdge::open_face;
  double hair_mm = 4.0;        ///< hair or wig under the hood
  double padding_mm = 6.0;     ///< foam or cloth padding
  double edge_up_mm = 0.0;     ///< raises (+) or lowers (-) the lower edge
  double face_wider_mm = 0.0;  ///< opens (+) or closes (-) the face opening all round
  double ease_mm() const { return hair_mm + padding_mm; }
  bool operator==(const HoodSpec&) const = default;
};

/// Errors: out_of_range with the layer or edge, its value and its limit.
Result<void> check_hood(const HoodSpec& spec);

/// The x >= 0 half of a trimmed shell on the template, ready for seams. Nothing of a wearer is in it.
struct HoodBlank {
  Mesh half;
  EdgeLabels midline;  ///< its border in x = 0
};

/// Everything prepared once for hoods. Immutable; share it between threads.
class HoodMaker {
 public:
  /// Errors: cannot_read, bad_file.
  static Result<std::shared_ptr<const HoodMaker>> load(const std::filesystem::path& folder, std::shared_ptr<const HeadFitter> fitter);

  /// Trims the template's shell along the edges. Errors: those of check_hood; degenerate_shape if nothing usable is left.
  Result<HoodBlank> blank(const HoodSpec& spec) const;

  /// How places of a blank ride along with the head. `twin_of` as for Riders.
  Riders riders(const std::vector<Vec3>& places, std::vector<int> twin_of) const;

  /// The ease the template's shell was made with.
  static constexpr double kShellEaseMm = 10.0;

 private:
  std::shared_ptr<const HeadFitter> fitter_;
  Mesh shell_half_;
};

/// Clearance of a form from a head.
struct Clearance {
  double least_mm = 0.0, mean_mm = 0.0;
};

/// Moves a carried shell to the wanted ease and mends every place that comes nearer.
///
/// `places` are the shell's vertices after carrying (made with HoodMaker::kShellEaseMm). Along the normals: first the
/// difference of the eases, then three rounds of max(0, ease - distance), smoothed but never reduced.
/// Source: docs/formulas/headform.md, "shell of fixed connectivity".
/// Errors: cancelled.
Result<Clearance> settle_on_head(Mesh& shell, const Mesh& head, double ease_mm, const Progress& progress = {});

/// Least and mean distance of the form's vertices and face centres from the head.
Clearance clearance_of(const Mesh& form, const Mesh& head);

}  // namespace awl
