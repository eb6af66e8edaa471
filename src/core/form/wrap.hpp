#pragma once
#include <filesystem>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

#include "core/base/progress.hpp"
#include "core/base/remark.hpp"
#include "core/form/draft.hpp"
#include "core/form/under_tape.hpp"
#include "core/form/wrap_edges.hpp"
#include "core/head/headform.hpp"

namespace awl {

/// What of the head a wrap covers; every edge follows the wearer's landmarks.
enum class WrapEdge { skull_cap, open_face, full_cowl, half_mask, full_mask, neck_piece };
const char* name_of(WrapEdge edge);  ///< "skull-cap", "open-face", "full-cowl", "half-mask", "full-mask", "neck-piece"
Result<WrapEdge> wrap_edge_from(const std::string& name);
const std::vector<std::string>& wrap_edge_names();

/// What a maker decides about a skin of tape over the headform.
struct WrapSpec {
  WrapEdge edge = WrapEdge::open_face;
  double hair_mm = 4.0;                                          ///< hair or wig under it
  double padding_mm = 6.0;                                       ///< foam or cloth padding
  double edge_up_mm = 0.0;                                       ///< raises (+) or lowers (-) the lower edge
  double front_up_mm = 0.0, side_up_mm = 0.0, back_up_mm = 0.0;  ///< the same at one place of it
  EdgePoints edge_mm{};                                          ///< and point by point, drawn by its grips
  double left_up_mm = 0.0;                      ///< raises the edge on the wearer's left alone: a one-sided wrap
  bool one_sided = false;                       ///< the left side has grips of its own
  EdgePoints left_mm{};                         ///< how much more it is raised there; nothing in front and behind
  double face_wider_mm = 0.0;                   ///< opens (+) or closes (-) the face opening all round
  MiddleRimPoints face_mm{};                    ///< and point by point, outwards
  double eye_wide_mm = 0.0, eye_tall_mm = 0.0;  ///< holes over the pupils; 0: none
  double eye_aside_mm = 0.0, eye_higher_mm = 0.0, eye_tilt_deg = 0.0;
  RimPoints eye_mm{};
  double mouth_wide_mm = 0.0, mouth_tall_mm = 0.0;  ///< over the mouth
  MiddleRimPoints mouth_mm{};
  double ear_hole_mm = 0.0;  ///< over the ear flaps
  RimPoints ear_mm{};
  double tight_mm = 60.0;   ///< hollows narrower than this are bridged by the tape
  std::vector<Card> cards;  ///< shapes under the tape
  double ease_mm() const { return hair_mm + padding_mm; }
  bool is_one_sided() const { return one_sided || left_up_mm != 0.0; }
  bool operator==(const WrapSpec&) const = default;
};
std::vector<Dial> dials_of(WrapSpec& spec);
/// Points of edges and openings it does not have now: kept for when it has them again, and shown nowhere.
std::vector<Dial> hidden_dials_of(WrapSpec& spec);

/// Errors: out_of_range with the layer or edge, its value and its limit.
Result<void> check_wrap(const WrapSpec& spec);

/// The x >= 0 half of a trimmed shell on the template, ready for seams. Nothing of a wearer is in it. Of a one-sided
/// wrap it has what either side covers.
struct HalfBlank {
  Mesh half;
  EdgeLabels midline;     ///< its border in x = 0
  std::set<int> opening;  ///< vertices on the rims of eye, mouth and ear holes
};

/// Everything prepared once for hoods. Immutable; share it between threads.
class WrapMaker {
 public:
  /// Errors: cannot_read, bad_file.
  static Result<std::shared_ptr<const WrapMaker>> load(
      const std::filesystem::path& folder, std::shared_ptr<const HeadFitter> fitter);

  /// The template's shell for this tape and the shapes under it. Without shapes and at the usual tightness it is ready;
  /// otherwise the tape is laid anew. Errors: out_of_range, cancelled.
  Result<Mesh> shell(const WrapSpec& spec, const Progress& progress = {}) const;

  /// Trims a shell along the edges and openings. Errors: those of check_wrap; degenerate_shape if nothing usable is
  /// left.
  Result<HalfBlank> blank(const WrapSpec& spec) const;
  Result<HalfBlank> blank(const WrapSpec& spec, const Mesh& shell) const;

  /// The shell round a place of the middle line, as far as asked: what plates are bent onto.
  /// Errors: degenerate_shape if nothing of the shell is there.
  Result<HalfBlank> face_patch(double middle_y_mm, double side_mm, double tall_mm) const;

  /// Named lines and handles of a wrap on the template, ready to ride: ridges of the cards and the edge.
  void describe(const WrapSpec& spec, const HalfBlank& blank, Draft& draft) const;

  /// How places of a blank ride along with the head. `twin_of` as for Riders.
  Riders riders(const std::vector<Vec3>& places, std::vector<int> twin_of) const;

  /// The ease the template's shell was made with.
  static constexpr double kShellEaseMm = 10.0;

 private:
  const Nearest& near_template() const;

  std::shared_ptr<const HeadFitter> fitter_;
  Mesh shell_half_;
  mutable std::once_flag asked_;
  mutable std::optional<Nearest> near_template_;
};

/// Clearance of a form from a head.
struct Clearance {
  double least_mm = 0.0, mean_mm = 0.0;
};

/// Moves a carried shell to the wanted ease and mends every place that comes nearer.
///
/// `places` are the shell's vertices after carrying (made with WrapMaker::kShellEaseMm). Along the normals: first the
/// difference of the eases, then three rounds of max(0, ease - distance), smoothed but never reduced.
/// Source: docs/formulas/headform.md, "shell of fixed connectivity".
/// Errors: cancelled.
Result<Clearance> settle_on_head(Mesh& shell, const Mesh& head, double ease_mm, const Progress& progress = {});

/// Least and mean distance of the form's vertices and face centres from the head.
Clearance clearance_of(const Mesh& form, const Mesh& head);

}  // namespace awl
