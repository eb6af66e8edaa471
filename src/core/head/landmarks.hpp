#pragma once
#include <array>

#include "core/geom/mesh.hpp"

namespace awl {

/// Named places of the head; the left one of a pair is at +x.
enum class Landmark {
  glabella,
  sellion,
  pronasale,
  subnasale,
  stomion,
  pogonion,
  menton,
  submandibular,
  larynx,
  vertex,
  opisthocranion,
  inion,
  nape,
  euryon_l,
  tragion_l,
  ear_top_l,
  ear_bottom_l,
  ear_outer_l,
  behind_ear_l,
  zygion_l,
  gonion_l,
  cheilion_l,
  pupil_l,
  alare_l,
  euryon_r,
  tragion_r,
  ear_top_r,
  ear_bottom_r,
  ear_outer_r,
  behind_ear_r,
  zygion_r,
  gonion_r,
  cheilion_r,
  pupil_r,
  alare_r,
};
inline constexpr int kLandmarkCount = 35;

/// Where they are on the template, millimetres in the head frame. Source: docs/formulas/headform.md.
const std::array<Vec3, kLandmarkCount>& template_landmarks();
inline const Vec3& template_place(Landmark landmark) { return template_landmarks()[static_cast<int>(landmark)]; }
const char* name_of(Landmark landmark);

}  // namespace awl
