#pragma once
#include "app/stand/raster.hpp"
#include "core/builds/chain.hpp"

namespace awl {

/// What the stand shows at a station.
struct StandChoice {
  bool head = true, hood = true;
  bool strain = false;
  bool seams = true;
};

/// Lines and words laid over the bodies.
struct StandOverlay {
  struct Line { std::vector<Vec3f> points; bool strong = false; };
  struct Word { Vec3f at; std::string text; int owner = -1; };
  std::vector<Line> lines;
  std::vector<Word> words;
};

struct StandScene {
  std::vector<StandBody> bodies;
  StandOverlay overlay;
};

/// Head, hood with its true thickness and the plinth, as bodies to be lit.
StandScene makeStandScene(const Derived& derived, const StandChoice& choice, double thickness_mm);

}  // namespace awl
