#pragma once
#include "core/derived/part_form.hpp"
#include "core/chain/memo.hpp"
#include "core/form/foam_shape.hpp"
#include "core/head/built_form.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// Which head a form is made on, and when asked the form as built; compared by identity.
struct WornHead {
  std::shared_ptr<const Headform> head;
  std::shared_ptr<const BuiltForm> built;  ///< not null: wraps are made over it
  bool operator==(const WornHead&) const = default;
};

/// Makes forms of parts and remembers them. Not safe for several threads at once.
class FormShop {
 public:
  FormShop(std::shared_ptr<const HeadFitter> fitter, std::shared_ptr<const WrapMaker> wraps);

  /// The form of the last of `stack`, which sits on the one before it and so on down to the head.
  /// Errors: those of its source, with "parts/NUMBER/..." as the place.
  using Held = std::shared_ptr<const PartForm>;
  Result<Held> form(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm, double foam_mm,
      const Progress& progress = {});

  /// Whether a wrap's edges leave anything; quick, without a wearer. Wraps with shapes under the tape are taken as they
  /// are. Errors: those of the wrap; cancelled.
  Result<void> try_wrap(const Part& part, const Progress& progress = {});

  /// How some places of a wrap move with the modes, for the short list of measures.
  Result<std::shared_ptr<const std::vector<ModeColumns>>> samples(const Part& wrap);

 private:
  struct SeamedBlank {
    SeamMesh seams;
    Riders riders;
    std::vector<ModeColumns> samples;
    std::vector<FeatureLine> features;
    std::vector<Handle> handles;
  };
  struct ShellKey {
    WrapSpec
        spec;  ///< without its openings: they are cut later. Its edges count, since no more tape is laid than they need
    bool operator==(const ShellKey&) const = default;
  };
  struct BlankKey {
    WrapSpec spec;  ///< hair and padding set to nothing: they come later
    SeamSpec seams;
    std::vector<DrawnSeam> drawn;  ///< inked ones
    bool operator==(const BlankKey&) const = default;
  };
  struct FormKey {
    std::vector<Part> stack;
    WornHead worn;
    LimbMeasures arm;
    double foam_mm;
    bool operator==(const FormKey&) const = default;
  };
  struct SheetKey {
    WornHead worn;
    double ease_mm;
    FaceReach reach;
    bool operator==(const SheetKey&) const = default;
  };

  Result<std::shared_ptr<const SeamedBlank>> blank(const WrapSpec& spec, const Part& part, const Progress& progress);
  Result<SeamedBlank> seamed(
      const WrapSpec& spec, const std::vector<DrawnSeam>& drawn, const HalfBlank& trimmed, SeamMesh cut) const;
  Result<PartForm> make(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm, double foam_mm,
      const Progress& progress);
  Result<PartForm> wrap(const std::vector<Part>& stack, const WornHead& worn, double foam_mm, const Progress& progress);
  Result<PartForm> cover(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm, double foam_mm,
      const Progress& progress);
  Result<PartForm> carried(
      const SeamedBlank& blank, const WornHead& worn, double ease_mm, const Progress& progress) const;
  /// A mesh made elsewhere as foam can show it, in its own frame.
  Result<std::shared_ptr<const FoamShape>> shaped(const ImportSpec& spec, const Progress& progress);
  Result<Site> site_of(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm, double foam_mm);
  Result<PlateLayout> layout_of(const PlateSpec& spec, const Site& site, const WornHead& worn);
  FaceSheetMaker face_maker(const WornHead& worn);
  Result<FaceSheet> face_sheet(const WornHead& worn, double ease_mm, const FaceReach& reach) const;

  std::shared_ptr<const HeadFitter> fitter_;
  std::shared_ptr<const WrapMaker> wraps_;
  Memo<ShellKey, Mesh> shells_{6};
  Memo<BlankKey, SeamedBlank> blanks_{8};
  Memo<SheetKey, FaceSheet> sheets_{3};
  struct ShapeKey {
    std::shared_ptr<const Mesh> mesh;
    double to_mm, foam_mm;
    bool operator==(const ShapeKey&) const = default;
  };
  Memo<ShapeKey, FoamShape> shapes_{4};
  Memo<FormKey, PartForm> forms_{40};
};

}  // namespace awl
