#include "core/io/dress_case.hpp"

#include <algorithm>

#include "core/base/data_files.hpp"
#include "core/base/json_reader.hpp"
#include "core/geom/section.hpp"
#include "core/io/codec/dials.hpp"

namespace awl {
namespace {

Vec3 place_in(const JsonAt& from, const DressSite& site) {
  constexpr double kFarthestMm = 10'000.0;
  if (from.size() != 3) from.refuse(Errc::bad_file, "is not a place [x, y, z]");
  Vec3 p;
  for (std::size_t k = 0; k < 3; ++k) p[static_cast<int>(k)] = from.at(k).number(-kFarthestMm, kFarthestMm);
  return site.at_home(site.onto(p));
}

std::vector<Vec3> places_in(const JsonAt& from, const DressSite& site) {
  if (from.size() > kMostDetailMarkers)
    from.refuse(Errc::too_large,
        "has " + std::to_string(from.size()) + " places; " + std::to_string(kMostDetailMarkers) + " are the most");
  std::vector<Vec3> all;
  for (const JsonAt& p : from.all()) all.push_back(place_in(p, site));
  return all;
}

/// A place of the part at a height, to tell that height by.
Vec3 place_at_height(const JsonAt& from, const DressSite& site, double y) {
  const auto lines = section_lines(site.outer, {Vec3(0.0, y, 0.0), Vec3::UnitY()});
  if (lines.empty()) {
    const Box box = box_of(site.outer.vertices);
    from.refuse(Errc::out_of_range,
        "is a height the part does not reach; it goes from " + std::to_string(static_cast<int>(box.low.y())) + " to " +
            std::to_string(static_cast<int>(box.high.y())) + " mm");
  }
  return site.at_home(lines.front().front());
}

Track track_in(const JsonAt& from, const DressSite& site) {
  Track t;
  if (const auto round = from.find("round_mm")) {
    t.from = TrackFrom::round, t.points = {place_at_height(*round, site, round->number())};
  } else if (const auto drawn = from.find("drawn")) {
    t.from = TrackFrom::drawn, t.points = places_in(*drawn, site), t.closed = from.value("closed", false);
  } else if (const auto rim = from.find("rim")) {
    t.from = TrackFrom::rim, t.number = rim->whole(0, 1000);
  } else if (const auto seam = from.find("seam")) {
    t.from = TrackFrom::seam, t.name = seam->text();
  } else if (const auto feature = from.find("feature")) {
    t.from = TrackFrom::feature, t.name = feature->text();
  } else if (const auto foot = from.find("foot")) {
    t.from = TrackFrom::foot, t.number = foot->whole(0, 1000);
  } else if (const auto beside = from.find("beside")) {
    t.from = TrackFrom::beside, t.number = beside->at("of").whole(0, 10000),
    t.off_mm = beside->at("mm").number(-600.0, 600.0);
  } else if (const auto way = from.find("way")) {
    t.from = TrackFrom::way, t.points = places_in(*way, site);
  } else {
    from.refuse(Errc::bad_file, "names no round_mm, drawn, rim, seam, feature, foot, beside or way");
  }
  if (const auto off = from.find("off_mm")) t.off_mm = off->number(-600.0, 600.0);
  return t;
}

/// The names the case has for dials that are called otherwise.
DetailShape shape_in(const JsonAt& from) {
  const std::string kind = from.at("kind").text();
  DetailShape shape = taken(detail_shape_from(kind == "spaced" ? "studs" : kind));
  take_dials(from, std::visit([](auto& s) { return dials_of(s); }, shape));
  const auto mm = [&](const char* key, double& field) {
    if (const auto held = from.find(key)) field = held->number(0.0, 10'000.0);
  };
  const auto whole = [&](const char* key, int& field) {
    if (const auto held = from.find(key)) field = held->whole(0, 100'000);
  };
  if (auto* strip = std::get_if<Strip>(&shape)) {
    mm("wide_mm", strip->wide_mm), mm("lap_mm", strip->lap_mm);
    if (const auto fold = from.find("fold_mm")) strip->fold_start = strip->fold_end = fold->number(0.0, 10'000.0) > 0.0;
  } else if (auto* studs = std::get_if<Studs>(&shape)) {
    mm("pitch_mm", studs->spacing.pitch_mm), mm("ends_mm", studs->spacing.ends_mm);
    mm("keep_out_mm", studs->spacing.keep_out_mm);
    if (from.has("count")) studs->spacing.keeps = Keeps::count, whole("count", studs->spacing.count);
    if (const auto rule = from.find("rule")) {
      const std::string word = rule->text();
      if (word != "even" && word != "skip" && word != "share")
        rule->refuse(Errc::unknown_name, "is no even, skip or share");
      studs->spacing.near_seam = word == "even" ? NearSeam::even : word == "skip" ? NearSeam::skip : NearSeam::share;
    }
  } else if (auto* outline = std::get_if<Outline>(&shape)) {
    mm("radius_mm", outline->radius_mm);
  } else if (auto* tufts = std::get_if<Tufts>(&shape)) {
    mm("pitch_mm", tufts->pitch_mm), mm("wide_mm", tufts->wide_mm);
  } else if (auto* scales = std::get_if<Scales>(&shape)) {
    mm("long_mm", scales->long_mm), mm("exposed_mm", scales->exposed_mm), mm("wide_mm", scales->wide_mm);
  } else if (auto* teeth = std::get_if<Teeth>(&shape)) {
    mm("gap_mm", teeth->gap_mm), mm("margin_mm", teeth->margin_mm), mm("high_mm", teeth->high_mm);
  } else if (auto* lacing = std::get_if<LacedPlates>(&shape)) {
    lacing->rows = 0;
    mm("pitch_mm", lacing->pitch_mm), mm("apart_mm", lacing->apart_mm), mm("tail_mm", lacing->tail_mm);
  }
  return shape;
}

Detail detail_in(const JsonAt& from, const DressSite& site, int number) {
  Detail d;
  d.id = from.value("id", number), d.part = site.part;
  d.shape = shape_in(from);
  d.name = from.value("name", kind_of(d.shape));
  if (const auto thick = from.find("thick_mm")) d.thickness_mm = thick->number(0.0, 60.0);
  d.mirrored = from.value("mirrored", true);
  if (const auto line = from.find("line")) {
    d.track = track_in(*line, site);
  } else if (const auto at = from.find("at")) {
    d.track.points = {place_in(*at, site)};
  } else if (from.has("length_mm")) {
    from.refuse(Errc::bad_file, "has a length and no line");
  }
  return d;
}

}  // namespace

Result<DressSpec> dress_case_from(const std::string& text, const DressSite& site, const std::string& where) {
  const auto json = json_in(text, "The details");
  if (!json) return fail(json);
  auto spec = read_json(*json, where, [&](const JsonAt& from) {
    const JsonAt list = from.at("details");
    if (list.size() > kMostDetails)
      list.refuse(Errc::too_large,
          "are " + std::to_string(list.size()) + "; " + std::to_string(kMostDetails) + " are the most");
    DressSpec read;
    for (const JsonAt& one : list.all())
      read.details.push_back(detail_in(one, site, static_cast<int>(read.details.size()) + 1));
    return read;
  });
  if (!spec) return fail(spec);
  if (auto good = check_dress(*spec); !good) return fail(good);
  return spec;
}

Result<DressSpec> read_dress_case(const std::filesystem::path& path, const DressSite& site) {
  const auto text = read_file(path);
  if (!text) return fail(text);
  return dress_case_from(*text, site, path.filename().string());
}

}  // namespace awl
