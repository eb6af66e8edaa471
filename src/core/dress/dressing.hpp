#pragma once
#include "core/dress/distance.hpp"
#include "core/dress/dressed.hpp"
#include "core/dress/rules.hpp"
#include "core/dress/spacing.hpp"
#include "core/form/dial.hpp"
#include "core/stuff/bears.hpp"

namespace awl {

struct Detail;

/// What a kind is made along: a line; a line or a place; a line if it was given one; nothing.
enum class LineNeed { line, place, if_given, none };

/// What a kind of detail works with, and what it fills. Ownership: keeps references; lives while one detail is made.
struct Dressing {
  const DressSite& site;
  const Detail& detail;
  const DressRules& rules;
  const Foam& stuff;             ///< what its own pieces are cut from
  const Foam& host;              ///< what it sits on
  const std::string& host_kind;  ///< the host's sheet, to name in pieces: empty for the build's own foam
  std::vector<FormLine> lines;   ///< its own line, and its image; a place is a line of one place
  Dressed& out;

  std::string where() const;
  double thickness_mm(double usual_mm) const;
  int sides() const { return static_cast<int>(lines.size()); }
  bool one_sided() const;

  void remark(const char* id, Severity severity, std::string sentence, std::optional<double> measured = {},
      std::optional<double> limit = {}, std::vector<Remedy> remedies = {});
  /// An act that turns a dial of this detail.
  std::string turn_act(const char* dial, double value) const;
  void fact(std::string sentence) { out.yield.facts.push_back(std::move(sentence)); }
  void want(const std::string& id, const std::string& what, double need, const std::string& unit = "pieces");
  void step(std::string title, std::vector<std::string> told, std::string caution, bool glued, bool at_end);
  /// Holes and traces in the frame of the outline; the piece has its own, about its middle.
  Piece& piece(const std::string& name, std::vector<Vec2> outline, double thickness_mm, int copies,
      std::vector<std::vector<Vec2>> holes = {}, std::vector<PieceTrace> traces = {});
  /// A line drawn on the pieces below, and a bore drilled through them.
  void trace(const std::vector<Vec3>& line, bool closed, TraceKind kind, const std::string& label);
  void bore(const Vec3& at, double across_mm, const std::string& label = {});
  /// A hole cut through them.
  void hole(const Vec3& at, double across_mm);
  void hole(const std::vector<Vec3>& rim);
  void solid(Matter matter, Mesh mesh, double mass_g, bool hides = true, double light = 0.0, double thick_mm = 0.0);
  void place(const FormLine::At& at, double size_mm, bool image);
  /// A place to take hold of: dragged along by a millimetre it turns a dial by so much.
  void grip(const char* dial, const Vec3& at, const Vec3& along, double per_mm = 1.0) {
    out.grips.push_back({dial, at, along, per_mm});
  }
  /// Grams of a volume of what its pieces are cut from.
  double grams(double volume_mm3) const { return volume_mm3 * 1e-6 * stuff.density_kg_m3; }
  /// A strip along one line, mitred at its corners, parted where it is too long or would lie over itself; its pieces
  /// and facts. How long it is in all.
  double add_strip(const FormLine& line, StripOptions options, const std::string& name, double lap_mm);
};

/// "24 mm"
std::string in_mm(double value);
/// "1 rivet", "20 rivets"
std::string counted(int count, const std::string& what);

// Cautions that stand at steps of several kinds.
inline constexpr const char* kBladeCaution = "Fresh blade, cut away from the hand that holds.";
inline constexpr const char* kDrillCaution =
    "Drill over a block with a helper or a clamp, hair tied back, goggles on; not towards a hand, never on a wearer.";
inline constexpr const char* kBurnCaution =
    "Burning gives off fumes: outdoors or under an extractor, with a respirator the label asks for; park the hot tip "
    "in its stand.";

}  // namespace awl
