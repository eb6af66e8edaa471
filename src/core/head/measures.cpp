#include "core/head/measures.hpp"

#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

const std::array<MeasureFacts, kMeasureCount>& measure_facts() {
  using M = MeasureId;
  static const std::array<MeasureFacts, kMeasureCount> facts{{
      {M::HC, "HC", "Head circumference", "Round the head: over the brow in front, over the fullest part behind, above the ears.", 558, 18, 510, 640, 2},
      {M::HL, "HL", "Head length", "Straight, from between the brows to the furthest point of the back of the head.", 193, 7.5, 172, 219, 1},
      {M::HB, "HB", "Head breadth", "Straight, across the widest part above the ears.", 151, 6.2, 135, 174, 1},
      {M::TOP, "TOP", "Ear to ear over the top", "From the flap in front of one ear over the crown to the other.", 341, 13, 305, 395, 3},
      {M::BNA, "BNA", "Brow to nape over the crown", "From between the brows over the crown to the bump at the back.", 349, 14, 312, 400, 3},
      {M::EEF, "EEF", "Ear to ear round the brow", "From one ear flap across the brow to the other.", 279, 11, 250, 320, 3},
      {M::EEB, "EEB", "Ear to ear round the back", "From one ear flap round the bump at the back to the other.", 256, 11, 227, 296, 3},
      {M::CCC, "CCC", "Crown and chin", "Right round: over the crown, down before the ears and under the chin.", 609, 24, 545, 702, 4},
      {M::FH, "FH", "Face height", "Straight, from the dip of the nose between the eyes to under the chin.", 118, 7, 99, 137, 1},
      {M::FW, "FW", "Face width", "Straight, across the cheekbones.", 138, 7.2, 119, 158, 1},
      {M::JW, "JW", "Jaw width", "Straight, between the corners of the jaw.", 114, 8.5, 92, 136, 2},
      {M::PD, "PD", "Pupil distance", "Straight, between the pupils while looking far ahead.", 63, 3.6, 53, 73, 0.5},
      {M::EH, "EH", "Ear height", "Straight, from the top to the bottom of the ear; the mean of both.", 63, 4.3, 52, 75, 1},
      {M::EHL, "EHL", "Ear height, left", "Straight, from the top to the bottom of the left ear.", 63, 4.3, 52, 75, 1},
      {M::EHR, "EHR", "Ear height, right", "Straight, from the top to the bottom of the right ear.", 63, 4.3, 52, 75, 1},
      {M::EP, "EP", "Ear stand-off", "How far the ear stands off the head behind it; the mean of both.", 19.5, 3.3, 10, 29, 1},
      {M::EPL, "EPL", "Ear stand-off, left", "How far the left ear stands off the head behind it.", 19.5, 3.3, 10, 29, 1},
      {M::EPR, "EPR", "Ear stand-off, right", "How far the right ear stands off the head behind it.", 19.5, 3.3, 10, 29, 1},
      {M::NP, "NP", "Nose depth", "From the tip of the nose back to where the lip begins.", 20.5, 2.2, 15, 26, 1},
      {M::NC, "NC", "Neck circumference", "Round the neck, level with the Adam's apple.", 362, 32, 280, 455, 4},
      {M::CE, "CE", "Chin to ear", "Straight, from the ear flap to under the chin; the mean of both.", 144, 6.8, 126, 163, 2},
      {M::CEL, "CEL", "Chin to ear, left", "Straight, from the left ear flap to under the chin.", 144, 6.8, 126, 163, 2},
      {M::CER, "CER", "Chin to ear, right", "Straight, from the right ear flap to under the chin.", 144, 6.8, 126, 163, 2},
      {M::HH, "HH", "Head height", "Upright, from the crown down to under the chin; back against a wall helps.", 226, 10, 200, 258, 2},
      {M::TW, "TW", "Ear to back wall", "Back of the head against a wall: from the ear flap to the wall.", 95.5, 6, 80, 110, 2},
      {M::HBL, "HBL", "Half breadth, left", "From the middle line to the widest part on the left.", 75.5, 3.2, 66, 87, 1},
      {M::HBR, "HBR", "Half breadth, right", "From the middle line to the widest part on the right.", 75.5, 3.2, 66, 87, 1},
  }};
  return facts;
}

const MeasureFacts& facts_of(MeasureId id) { return measure_facts()[index_of(id)]; }

Result<MeasureId> measure_from_code(std::string_view code) {
  for (const auto& facts : measure_facts())
    if (code == facts.code) return facts.id;
  return fail(Errc::unknown_name, "There is no measure called \"" + std::string(code) + "\"; HC is the head circumference, HL its length, HB its breadth.",
              std::string(code));
}

Result<void> check_measure(MeasureId id, double value_mm) {
  const MeasureFacts& f = facts_of(id);
  if (!std::isfinite(value_mm)) return fail(Errc::not_a_number, std::string(f.name) + " is not a number.", f.code);
  if (value_mm >= f.least_mm && value_mm <= f.most_mm) return {};
  std::string text = std::string(f.name) + " of " + fixed(value_mm, 0) + " mm is outside what heads measure (" + fixed(f.least_mm, 0) +
                     " to " + fixed(f.most_mm, 0) + " mm).";
  const auto would_fit = [&](double v) { return v >= f.least_mm && v <= f.most_mm; };
  const auto hint = [&](double number, const char* unit) { return " Was " + fixed(number, 1) + " " + unit + " meant?"; };
  if (would_fit(value_mm / 25.4)) text += hint(value_mm / 25.4, "mm");
  else if (would_fit(value_mm * 25.4)) text += hint(value_mm, "in");
  else if (would_fit(value_mm * 10.0)) text += hint(value_mm, "cm");
  else if (would_fit(value_mm / 10.0)) text += hint(value_mm / 10.0, "mm");
  return fail(Errc::out_of_range, text, f.code);
}

Result<void> check_measures(const MeasureSet& measures) {
  if (measures.empty()) return fail(Errc::empty_input, "No measure was given; one is enough, the head circumference says most.", "measures");
  for (const auto& [id, value_mm] : measures)
    if (auto good = check_measure(id, value_mm); !good) return good;
  return {};
}

}  // namespace awl
