#pragma once
#include "core/builds/build.hpp"
#include "core/builds/memo.hpp"
#include "core/head/built_form.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// What the drawing table shows of a plate: how the wearer's face lies behind the flat sheet.
struct PlateLayout {
  Vec2 scale = Vec2::Ones();                        ///< template millimetres to this wearer's
  std::vector<std::vector<Vec2>> holes;             ///< on the sheet
  std::vector<std::pair<std::string, Vec2>> marks;  ///< places of the face, on the sheet
};

/// One part's form on one wearer, with its seams cut into it.
struct PartForm {
  int part = 0;
  std::string name;
  SeamMesh surface;  ///< inner or outer face of the foam, see `outside`
  bool outside = false;
  double thickness_mm = 5.0;
  std::vector<FeatureLine> features;
  std::vector<Handle> handles;
  Clearance clearance;   ///< of its inner face from the head; none measured for parts away from the head
  double ease_mm = 0.0;  ///< what it should keep
  double lower_girth_mm = 0.0, area_mm2 = 0.0;
  std::vector<Remark> remarks;
  std::optional<PlateLayout> plate;
  std::vector<DrawnLine> drawn;  ///< pencil and ink, as they lie on it
};

/// A form as a draft to draw on, its half where it is exactly mirrored; without its seams unless they are to stay.
Draft undrawn(const PartForm& form, bool keep_seams = false);

/// Which head a form is made on: the inputs of the head and, when asked, of the form as built.
struct WornHead {
  std::string key;  ///< differs whenever anything below does
  const Headform* head = nullptr;
  const BuiltForm* built = nullptr;  ///< not null: wraps are made over it
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
  /// are.
  Result<void> try_wrap(const Part& part);

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
    std::string worn;
    double arm[3];
    double foam_mm;
    bool operator==(const FormKey& o) const {
      return stack == o.stack && worn == o.worn && std::equal(arm, arm + 3, o.arm) && foam_mm == o.foam_mm;
    }
  };
  struct SheetKey {
    std::string worn;
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
  Result<Site> site_of(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm, double foam_mm);
  Result<PlateLayout> layout_of(const PlateSpec& spec, const Site& site, const WornHead& worn);
  FaceSheetMaker face_maker(const WornHead& worn);
  Result<FaceSheet> face_sheet(const WornHead& worn, double ease_mm, const FaceReach& reach) const;

  std::shared_ptr<const HeadFitter> fitter_;
  std::shared_ptr<const WrapMaker> wraps_;
  Memo<ShellKey, Mesh> shells_{6};
  Memo<BlankKey, SeamedBlank> blanks_{8};
  Memo<SheetKey, FaceSheet> sheets_{3};
  Memo<FormKey, PartForm> forms_{40};
};

}  // namespace awl
