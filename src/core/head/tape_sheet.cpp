#include "core/head/tape_sheet.hpp"

#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kMostHairMm = 40.0;
constexpr double kMostSpreadShare = 0.12;  // further apart, the two readings are not of the same thing
constexpr double kSpreadTolerances = 2.5;  // workshop value

struct ExtraFacts {
  Extra id;
  const char *code, *name;
  std::vector<BodyMeasure> needs;
};
const std::vector<ExtraFacts>& extra_facts() {
  using B = BodyMeasure;
  static const std::vector<ExtraFacts> facts{{Extra::chin_strap, "chin-strap", "a chin strap", {B::chin_strap}},
      {Extra::back_strap, "back-strap", "a strap round the back", {B::back_strap}},
      {Extra::shoulder_piece, "shoulder-piece", "a shoulder piece", {B::shoulders}},
      {Extra::arm_guards, "arm-guards", "arm guards", {B::wrist, B::hand, B::forearm}}};
  return facts;
}
const ExtraFacts& facts_of(Extra extra) { return extra_facts()[static_cast<std::size_t>(extra)]; }

}  // namespace

const std::array<BodyFacts, kBodyMeasureCount>& body_facts() {
  using B = BodyMeasure;
  static const std::array<BodyFacts, kBodyMeasureCount> facts{{
      {B::shoulders, "SHW", "Shoulder width", "Straight, across the back from one shoulder point to the other.", 220,
          560},
      {B::chin_strap, "CHS", "Strap under the chin",
          "From above one ear down under the chin and up to above the other.", 280, 620},
      {B::back_strap, "BKS", "Strap round the back",
          "From one temple round the back of the head, at the height the strap will sit, to the other.", 200, 480},
      {B::wrist, "WRG", "Wrist girth", "Round the wrist just above the bones.", 100, 260},
      {B::hand, "HDG", "Hand girth", "Round the knuckles with the thumb laid in: what a guard must pass over.", 130,
          330},
      {B::forearm, "FAG", "Forearm girth", "Round the thickest part below the elbow, fist closed.", 140, 420},
  }};
  return facts;
}
const BodyFacts& facts_of(BodyMeasure id) { return body_facts()[static_cast<std::size_t>(id)]; }

Result<BodyMeasure> body_measure_from_code(std::string_view code) {
  for (const BodyFacts& f : body_facts())
    if (code == f.code) return f.id;
  return fail(Errc::unknown_name, "There is no body measure called \"" + std::string(code) + "\".", std::string(code));
}

const char* code_of(Extra extra) { return facts_of(extra).code; }
const char* name_of(Extra extra) { return facts_of(extra).name; }
std::vector<BodyMeasure> needed_by(Extra extra) { return facts_of(extra).needs; }
Result<Extra> extra_from_code(std::string_view code) {
  for (const ExtraFacts& f : extra_facts())
    if (code == f.code) return f.id;
  return fail(Errc::unknown_name,
      "A build has chin-strap, back-strap, shoulder-piece or arm-guards, not \"" + std::string(code) + "\".",
      std::string(code));
}

void TapeSheet::set(MeasureId id, double first_mm) {
  TapeEntry& entry = head[id];
  entry.first_mm = first_mm;
  entry.day = day, entry.by = by;
}

WearerMeasures TapeSheet::measures() const {
  WearerMeasures wearer{{}, people, accepted};
  for (const auto& [id, entry] : head) wearer.set[id] = entry.skin_mm(id);
  return wearer;
}

TapeSheet sheet_of(const MeasureSet& measures, const std::string& people) {
  TapeSheet sheet;
  sheet.people = people;
  for (const auto& [id, mm] : measures) sheet.head[id].first_mm = mm;
  return sheet;
}

Result<void> check_sheet(const TapeSheet& sheet, const std::vector<Population>& all) {
  for (const auto& [id, e] : sheet.head) {
    const MeasureFacts& f = facts_of(id);
    if (!(e.over_hair_mm >= 0.0 && e.over_hair_mm <= kMostHairMm))
      return fail(Errc::out_of_range,
          "Hair of " + fixed(e.over_hair_mm, 1) + " mm under the tape is outside 0 to " + fixed(kMostHairMm, 0) +
              " mm.",
          std::string(f.code) + "/hair");
    if (e.second_mm && !(e.spread_mm() <= kMostSpreadShare * e.first_mm))
      return fail(Errc::out_of_range,
          "A second reading of " + fixed(*e.second_mm, 0) + " mm is not the same " + spoken_name(id) +
              " as the first of " + fixed(e.first_mm, 0) + " mm.",
          std::string(f.code) + "/second");
  }
  for (const auto& [id, mm] : sheet.body) {
    const BodyFacts& f = facts_of(id);
    if (!(mm >= f.least_mm && mm <= f.most_mm))
      return fail(Errc::out_of_range,
          std::string(f.name) + " of " + fixed(mm, 0) + " mm is outside " + fixed(f.least_mm, 0) + " to " +
              fixed(f.most_mm, 0) + " mm.",
          f.code);
  }
  return check_measures(sheet.measures(), all);
}

std::vector<Remark> judge_sheet(const TapeSheet& sheet, const std::set<Extra>& extras) {
  std::vector<Remark> remarks;
  for (const auto& [id, e] : sheet.head) {
    const MeasureFacts& f = facts_of(id);
    if (e.spread_mm() <= kSpreadTolerances * f.tolerance_mm) continue;
    remarks.push_back({"tape.spread", Severity::warning, f.code,
        "The two readings of the " + spoken_name(id) + " lie " + fixed(e.spread_mm(), 0) + " mm apart; " +
            fixed(kSpreadTolerances * f.tolerance_mm, 0) + " mm is usual. Take it a third time.",
        e.spread_mm(), kSpreadTolerances * f.tolerance_mm, {{"Measure again", std::string("edit-measure ") + f.code}}});
  }
  for (const Extra extra : extras)
    for (const BodyMeasure need : needed_by(extra)) {
      if (sheet.body.count(need)) continue;
      const BodyFacts& f = facts_of(need);
      remarks.push_back({"tape.todo", Severity::note, f.code,
          std::string(f.name) + " is still to be measured: " + name_of(extra) +
              (extra == Extra::arm_guards ? " wait for it." : " waits for it."),
          {}, {}, {{"Enter it", std::string("edit-measure ") + f.code}}});
    }
  return remarks;
}

}  // namespace awl
