#pragma once
#include "core/dress/flat_strip.hpp"
#include "core/form/draft.hpp"
#include "core/make/yield.hpp"

namespace awl {

/// A row of things as it came out.
struct DressRow {
  double length_mm = 0.0;
  int count = 0;
};

/// Where one thing stands on the form.
struct DressPlace {
  Vec3 at = Vec3::Zero(), normal = Vec3::UnitY();
  double along_mm = 0.0, size_mm = 0.0;
  bool image = false;  ///< on the other side, of a mirrored one
};

/// One detail as it came out on this wearer.
struct Dressed {
  int detail = 0;
  std::string kind, name;
  Yield yield;
  std::vector<FormLine> lines;  ///< its own, and its image
  int count = 0;                ///< of one side
  double pitch_mm = 0.0;
  int dropped = 0;
  std::vector<DressRow> rows;
  int with_spare = 0;  ///< on both sides
  double length_mm = 0.0, open_share = 0.0;
  std::vector<std::pair<std::string, double>> feet_mm;  ///< of feet: which part stands there, and along what length
  std::vector<DressPlace> places;
  std::vector<Handle> grips;  ///< places to take hold of on the form: each turns one of the detail's dials
  std::vector<std::pair<std::string, FlatStrip>> strips;  ///< by the name of their piece, before they are parted
};

}  // namespace awl
