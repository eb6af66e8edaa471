#pragma once
#include "app/stand/painted_look.hpp"
#include "core/chain/chain.hpp"
#include "core/head/compare.hpp"
#include "core/geom/section.hpp"
#include "core/head/scan.hpp"
#include "core/derived/part_ground.hpp"

namespace awl {

/// Distances painted on what is worn, and where it moves to while they are shown.
struct WornMap {
  std::shared_ptr<const PanelSet> on;  ///< shown only while this is what is worn
  std::vector<double> mm;              ///< per vertex of its form
  std::vector<Vec3> moved;             ///< per vertex; empty: it stays
  double range_mm = 6.0;               ///< full colour
  std::string low, high;               ///< words at both ends of the ramp
};

/// What the stand shows at a station.
struct StandChoice {
  bool head = true, hood = true;
  bool strain = false;
  bool seams = true;
  double apart_mm = 0.0;       ///< pieces drawn apart, each with its number and the letters of its seams
  bool tapes = false;          ///< where the measured tapes run, with their values
  bool guessed_tapes = false;  ///< the estimated ones too
  bool landmarks = false, contours = false;
  std::optional<MeasureId> lit = {};            ///< the measure being entered
  std::shared_ptr<const DistanceMap> map = {};  ///< painted on the head
  std::shared_ptr<const Mesh> instead = {};     ///< shown in the headform's place: the form as built
  std::shared_ptr<const Scan> raw_scan = {};    ///< a scan alone, in its own frame, to show places on
  bool scan = false;                            ///< the fitted scan's points over the head
  double map_range_mm = 4.0;                    ///< full colour of the map; a contour runs at two thirds of it
  LengthUnit unit = LengthUnit::mm;
  int part = 0;  ///< the part at hand: its lines and handles are shown
  bool handles = false, features = false;
  std::vector<Card> cards = {};                  ///< shown as they lie on the head, while the tape over them is laid
  bool lines = false;                            ///< drawn seams of the part at hand, with their markers
  int lit_line = 0;                              ///< the drawn seam that is chosen
  std::vector<DrawnLine> loose = {};             ///< lines being drawn or dragged, shown as they are now
  std::shared_ptr<const WornMap> worn_map = {};  ///< in place of the strain
  std::shared_ptr<const PanelSet> sketch = {};   ///< roughly what the panels come to while a line is dragged
  std::shared_ptr<const SheetFaces> sketch_faces = {};   ///< of the sketch
  std::shared_ptr<const PartGround> ground = {};         ///< of the part at hand, where lines are shown
  std::shared_ptr<const PaintedLook> painted = {};       ///< in its colours, instead of bare foam
  double seen_from_m = 0.0;                              ///< only what is made out from so far; 0: all there is
  std::vector<Vec3> spots = {};                          ///< places to be looked at
  std::shared_ptr<const std::vector<Mesh>> inside = {};  ///< things put between head and shell
  std::vector<Handle> own_handles = {};                  ///< grips of the station's own
  std::vector<std::vector<Vec3>> own_lines = {};         ///< lit lines of the station's own
  bool details = true;                                   ///< what parts are dressed with
  bool numbers = true;                                   ///< of pieces, at their middles
  bool shoulders = false;                                ///< a person's outline below the head, for proportion
  double shoulder_mm = 0.0;                              ///< its breadth; 0: estimated from the head
  std::optional<Plane> section = {};                     ///< a cut through head and parts, with its size
};

/// Lines and words laid over the bodies.
struct StandOverlay {
  enum class Ink { seam, contour, tape, guess, lit, feature, pencil };
  struct Line {
    std::vector<Vec3f> points;
    Ink ink = Ink::seam;
    int measure = -1;       ///< index of the measure whose tape it is
    bool straight = false;  ///< a ruler through the air: shown dashed where the head hides it
  };
  struct Word {
    Vec3f at;
    std::string text;
    int owner = -1;
    bool dot = false;
  };
  /// A value set beside the picture, with a leader to the best visible place of its line.
  struct Callout {
    int line = -1;
    std::string text;
  };
  std::vector<Line> lines;
  std::vector<Word> words;
  std::vector<Callout> callouts;
  /// A place to take hold of; moving it along `along` turns a dial.
  /// `free`: it goes anywhere on the surface instead, and is a marker of a drawn seam.
  struct Grip {
    Vec3f at, along;
    std::string dial, label;
    bool free = false, small = false;
  };
  std::vector<Grip> grips;
  std::vector<std::string> legend;  ///< words at both ends of the colour ramp; empty without one
};

struct StandScene {
  std::vector<StandBody> bodies;
  int worn = -1;  ///< the body that is the outside of what is worn
  StandOverlay overlay;
};

/// Head, what is worn with its true thickness, and the plinth, as bodies to be lit.
StandScene makeStandScene(const Derived& derived, const StandChoice& choice);

/// Makes scenes one after the other. What a drag changes, lines and places laid over the bodies, is renewed without
/// making the bodies again.
class StandSceneMaker {
 public:
  /// The scene of this choice. `same`: its bodies are those of the scene before.
  const StandScene& scene(const Derived& derived, const StandChoice& choice, bool& same);

 private:
  Derived m_derived;
  StandChoice m_choice;
  StandScene m_bodies, m_scene;
  bool m_made = false;
};

}  // namespace awl
