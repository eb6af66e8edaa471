#include "core/head/measures.hpp"

#include <cctype>

#include "core/base/numbers.hpp"

namespace awl {

using M = MeasureId;

bool is_sided(MeasureId id) {
  return id == M::EHL || id == M::EHR || id == M::EPL || id == M::EPR || id == M::CEL || id == M::CER || id == M::HBL ||
      id == M::HBR;
}

const std::array<MeasureFacts, kMeasureCount>& measure_facts() {
  static const std::array<MeasureFacts, kMeasureCount> facts{{
      {M::HC, "HC", "Head circumference",
          "Round the head: over the brow in front, over the fullest part behind, above the ears.",
          "How big everything is. The one measure no build goes without.", Tool::tape, Side::left, 558, 18, 510, 640, 2,
          kTwoPi},
      {M::HL, "HL", "Head length", "Straight, from between the brows to the furthest point of the back of the head.",
          "Front to back: without it the oval is guessed.", Tool::ruler_and_helper, Side::left, 193, 7.5, 172, 219, 1,
          1},
      {M::HB, "HB", "Head breadth", "Straight, across the widest part above the ears.",
          "Side to side: with the length it gives the oval.", Tool::ruler_and_helper, Side::top, 151, 6.2, 135, 174, 1,
          2},
      {M::TOP, "TOP", "Ear to ear over the top", "From the flap in front of one ear over the crown to the other.",
          "How high the crown stands, so how deep a hood or hat sits.", Tool::tape_and_helper, Side::front, 341, 13,
          305, 395, 3, kPi},
      {M::BNA, "BNA", "Brow to nape over the crown", "From between the brows over the crown to the bump at the back.",
          "How far the middle seam runs over the head.", Tool::tape_and_helper, Side::left, 349, 14, 312, 400, 3, kPi},
      {M::EEF, "EEF", "Ear to ear round the brow", "From one ear flap across the brow to the other.",
          "How the brow is rounded; where a face edge lies.", Tool::tape, Side::front, 279, 11, 250, 320, 3, 0},
      {M::EEB, "EEB", "Ear to ear round the back", "From one ear flap round the bump at the back to the other.",
          "How full the back of the head is.", Tool::tape_and_helper, Side::back, 256, 11, 227, 296, 3, kPi},
      {M::CCC, "CCC", "Crown and chin", "Right round: over the crown, down before the ears and under the chin.",
          "Whether a cowl or chin piece closes under the chin.", Tool::tape, Side::front, 609, 24, 545, 702, 4, kPi},
      {M::FH, "FH", "Face height", "Straight, from the dip of the nose between the eyes to under the chin.",
          "Where eyes, nose and mouth of a mask come.", Tool::ruler, Side::left, 118, 7, 99, 137, 1, 0},
      {M::FW, "FW", "Face width", "Straight, across the cheekbones.", "How wide a mask or face opening must be.",
          Tool::ruler_and_helper, Side::front, 138, 7.2, 119, 158, 1, 0},
      {M::JW, "JW", "Jaw width", "Straight, between the corners of the jaw.", "How a cowl or jaw piece narrows.",
          Tool::ruler_and_helper, Side::front, 114, 8.5, 92, 136, 2, 0},
      {M::PD, "PD", "Pupil distance", "Straight, between the pupils while looking far ahead.",
          "How far apart eye holes and lenses stand.", Tool::ruler_and_helper, Side::front, 63, 3.6, 53, 73, 0.5, 0},
      {M::EH, "EH", "Ear height", "Straight, from the top to the bottom of the ear; the mean of both.",
          "How long an ear relief must be.", Tool::ruler_and_helper, Side::left, 63, 4.3, 52, 75, 1, 0},
      {M::EHL, "EHL", "Ear height, left", "Straight, from the top to the bottom of the left ear.",
          "How long the left ear relief must be.", Tool::ruler_and_helper, Side::left, 63, 4.3, 52, 75, 1, 0},
      {M::EHR, "EHR", "Ear height, right", "Straight, from the top to the bottom of the right ear.",
          "How long the right ear relief must be.", Tool::ruler_and_helper, Side::left, 63, 4.3, 52, 75, 1, 0},
      {M::EP, "EP", "Ear stand-off", "How far the ear stands off the head behind it; the mean of both.",
          "How far the ears push the sides out.", Tool::ruler_and_helper, Side::back, 19.5, 3.3, 10, 29, 1, 0},
      {M::EPL, "EPL", "Ear stand-off, left", "How far the left ear stands off the head behind it.",
          "How far the left ear pushes its side out.", Tool::ruler_and_helper, Side::back, 19.5, 3.3, 10, 29, 1, 0},
      {M::EPR, "EPR", "Ear stand-off, right", "How far the right ear stands off the head behind it.",
          "How far the right ear pushes its side out.", Tool::ruler_and_helper, Side::back, 19.5, 3.3, 10, 29, 1, 0},
      {M::NP, "NP", "Nose depth", "From the tip of the nose back to where the lip begins.",
          "How much room a mask needs over the nose.", Tool::ruler, Side::left, 20.5, 2.2, 15, 26, 1, 0},
      {M::NC, "NC", "Neck circumference", "Round the neck, level with the Adam's apple.",
          "How a cowl closes, and what must pass over the head.", Tool::tape, Side::front, 362, 32, 280, 455, 4, 0},
      {M::CE, "CE", "Chin to ear", "Straight, from the ear flap to under the chin; the mean of both.",
          "Where a chin strap or jaw edge runs.", Tool::ruler_and_helper, Side::left, 144, 6.8, 126, 163, 2, 0},
      {M::CEL, "CEL", "Chin to ear, left", "Straight, from the left ear flap to under the chin.",
          "Where the left jaw edge runs.", Tool::ruler_and_helper, Side::left, 144, 6.8, 126, 163, 2, 0},
      {M::CER, "CER", "Chin to ear, right", "Straight, from the right ear flap to under the chin.",
          "Where the right jaw edge runs.", Tool::ruler_and_helper, Side::left, 144, 6.8, 126, 163, 2, 0},
      {M::HH, "HH", "Head height", "Upright, from the crown down to under the chin; back against a wall helps.",
          "How tall a full helmet is inside.", Tool::ruler_and_helper, Side::left, 226, 10, 200, 258, 2, 1},
      {M::TW, "TW", "Ear to back wall", "Back of the head against a wall: from the ear flap to the wall.",
          "How far back the head reaches behind the ears.", Tool::ruler_and_helper, Side::left, 95.5, 6, 80, 110, 2, 1},
      {M::HBL, "HBL", "Half breadth, left", "From the middle line to the widest part on the left.",
          "Whether the head is wider on the left.", Tool::ruler_and_helper, Side::top, 75.5, 3.2, 66, 87, 1, 1},
      {M::HBR, "HBR", "Half breadth, right", "From the middle line to the widest part on the right.",
          "Whether the head is wider on the right.", Tool::ruler_and_helper, Side::top, 75.5, 3.2, 66, 87, 1, 1},
  }};
  return facts;
}

const MeasureFacts& facts_of(MeasureId id) { return measure_facts()[index_of(id)]; }

Result<MeasureId> measure_from_code(std::string_view code) {
  for (const auto& facts : measure_facts())
    if (code == facts.code) return facts.id;
  return fail(Errc::unknown_name,
      "There is no measure called \"" + std::string(code) +
          "\"; HC is the head circumference, HL its length, HB its breadth.",
      std::string(code));
}

const char* name_of(Tool tool) {
  constexpr const char* names[] = {"tape", "ruler", "tape and a helper", "ruler and a helper"};
  return names[static_cast<int>(tool)];
}

std::string spoken_name(MeasureId id) {
  std::string name = facts_of(id).name;
  name[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(name[0])));
  return name;
}

}  // namespace awl
