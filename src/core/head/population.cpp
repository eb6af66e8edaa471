#include "core/head/population.hpp"

#include <cmath>

#include "core/base/data_files.hpp"
#include "core/base/json_reader.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

using M = MeasureId;
constexpr double kRangeSd = 3.6;  // workshop value: further out is a slip rather than a child

/// Pairs that are easily written into each other's field.
constexpr std::pair<M, M> kConfused[] = {{M::HL, M::HB}, {M::HC, M::CCC}, {M::TOP, M::BNA}, {M::EEF, M::EEB},
    {M::FH, M::FW}, {M::FW, M::JW}, {M::HC, M::NC}, {M::HH, M::HL}};

/// The measure whose mean stands for one that comes once for each side.
struct Sided {
  M side, mean;
  double share;
};
constexpr Sided kSided[] = {{M::EHL, M::EH, 1.0}, {M::EHR, M::EH, 1.0}, {M::EPL, M::EP, 1.0}, {M::EPR, M::EP, 1.0},
    {M::CEL, M::CE, 1.0}, {M::CER, M::CE, 1.0}, {M::HBL, M::HB, 0.5}, {M::HBR, M::HB, 0.5}};

Population adults() {
  Population p{"adult", "Adult", 1.0};
  for (const MeasureFacts& f : measure_facts()) {
    const int i = index_of(f.id);
    p.mean_mm[i] = f.mean_mm, p.sd_mm[i] = f.sd_mm, p.least_mm[i] = f.least_mm, p.most_mm[i] = f.most_mm;
  }
  return p;
}

Population children(const JsonAt& j) {
  Population p{j.at("id"), j.at("name"), j.at("share")};
  const double sd_share = j.at("sd_share");
  const JsonAt means = j.at("mean_mm");
  for (const MeasureFacts& f : measure_facts()) {
    const auto sided =
        std::find_if(std::begin(kSided), std::end(kSided), [&](const Sided& s) { return s.side == f.id; });
    const bool own = sided == std::end(kSided);
    const int i = index_of(f.id);
    p.mean_mm[i] =
        own ? means.at(f.code).get<double>() : sided->share * means.at(facts_of(sided->mean).code).get<double>();
    p.sd_mm[i] = sd_share * f.sd_mm;
    p.least_mm[i] = std::floor(p.mean_mm[i] - kRangeSd * p.sd_mm[i]),
    p.most_mm[i] = std::ceil(p.mean_mm[i] + kRangeSd * p.sd_mm[i]);
  }
  return p;
}

/// What may have happened to a value out of range: a slipped unit, or the field next door.
std::string likely_slip(MeasureId id, double value_mm, double least_mm, double most_mm) {
  const auto would_fit = [&](double v) { return v >= least_mm && v <= most_mm; };
  const auto unit = [&](double number, const char* symbol) {
    return " Was " + fixed(number, 1) + " " + symbol + " meant?";
  };
  if (would_fit(value_mm / 25.4)) return unit(value_mm / 25.4, "mm");
  if (would_fit(value_mm * 25.4)) return unit(value_mm, "in");
  if (would_fit(value_mm * 10.0)) return unit(value_mm, "cm");
  if (would_fit(value_mm / 10.0)) return unit(value_mm / 10.0, "mm");
  for (const auto& [a, b] : kConfused) {
    if (id != a && id != b) continue;
    const MeasureFacts& other = facts_of(id == a ? b : a);
    if (std::abs(value_mm - other.mean_mm) < 2.5 * other.sd_mm)
      return " It would do for the " + spoken_name(other.id) + ": is it in the wrong field?";
  }
  return {};
}

Error out_of_range(const MeasureFacts& f, double value_mm, const std::string& whose, double least, double most) {
  return {Errc::out_of_range,
      std::string(f.name) + " of " + fixed(value_mm, 0) + " mm is outside " + whose + " (" + fixed(least, 0) + " to " +
          fixed(most, 0) + " mm)." + likely_slip(f.id, value_mm, least, most),
      f.code};
}

}  // namespace

Result<void> check_possible(MeasureId id, double value_mm) {
  const MeasureFacts& f = facts_of(id);
  const double least = std::floor(0.5 * f.least_mm), most = std::ceil(1.25 * f.most_mm);
  if (value_mm >= least && value_mm <= most) return {};
  return fail(out_of_range(f, value_mm, "what heads of any age measure", least, most));
}

Result<std::vector<Population>> load_populations(const std::filesystem::path& file) {
  const auto text = read_file(file);
  if (!text) return fail(text);
  std::vector<Population> all{adults()};
  const auto json = json_in(*text, "The file " + file.filename().string());
  if (!json) return fail(json);
  const auto read = read_json(*json, "", [&](const JsonAt& j) {
    for (const JsonAt& one : j.at("populations").all()) all.push_back(children(one));
    return true;
  });
  if (!read) return fail(Errc::bad_file, file.filename().string() + ": " + read.error().text, file.string());
  double others = 0.0;
  for (std::size_t i = 1; i < all.size(); ++i) others += all[i].share;
  if (others >= 1.0)
    return fail(
        Errc::bad_file, file.filename().string() + ": the shares of the children add up to 1 or more.", file.string());
  all[0].share = 1.0 - others;
  return all;
}

Result<void> check_measure(
    MeasureId id, double value_mm, const std::vector<Population>& all, const std::string& people) {
  const MeasureFacts& f = facts_of(id);
  if (!std::isfinite(value_mm)) return fail(Errc::not_a_number, std::string(f.name) + " is not a number.", f.code);
  double least = 1e300, most = -1e300;
  for (const Population& p : all)
    if (people == "auto" || people == p.id)
      least = std::min(least, p.least_mm[index_of(id)]), most = std::max(most, p.most_mm[index_of(id)]);
  if (most < least)
    return fail(Errc::unknown_name,
        "There are no measures of people called " + in_quotes(people) +
            "; there are auto, adult and child-2 to child-14.",
        "people");
  if (value_mm >= least && value_mm <= most) return {};
  const auto chosen = std::find_if(all.begin(), all.end(), [&](const Population& p) { return p.id == people; });
  const std::string whose = chosen == all.end() ? "what heads measure"
      : chosen->id == "adult"                   ? "what heads of adults measure"
                                                : "what heads of this age measure (" + chosen->name + ")";
  return fail(out_of_range(f, value_mm, whose, least, most));
}

Result<void> check_measures(const WearerMeasures& measures, const std::vector<Population>& all) {
  if (measures.set.empty())
    return fail(
        Errc::empty_input, "No measure was given; one is enough, the head circumference says most.", "measures");
  for (const auto& [id, value_mm] : measures.set)
    if (auto good = check_measure(id, value_mm, all, measures.people); !good) return good;
  return {};
}

}  // namespace awl
