#include <algorithm>
#include <map>

#include "core/base/text.hpp"
#include "core/builds/area_acts.hpp"

namespace awl {
namespace {

using Changed = Result<Build>;

Result<Detail*> detail_in(Build& build, Words& words) {
  const auto id = words.whole();
  if (!id) return fail(id.error().code, "Which detail: " + id.error().text);
  if (Detail* d = find_detail(build.dress, *id)) return d;
  return fail(Errc::unknown_name, "There is no detail number " + std::to_string(*id) + ".", "dress");
}

int next_detail(const DressSpec& spec) {
  int most = 0;
  for (const Detail& d : spec.details) most = std::max(most, d.id);
  return most + 1;
}

/// A name no other detail of the build has: "strip", "strip 2".
std::string free_name(const DressSpec& spec, const std::string& wanted) {
  const auto taken = [&](const std::string& name) {
    return std::any_of(spec.details.begin(), spec.details.end(), [&](const Detail& d) { return d.name == name; });
  };
  if (!taken(wanted)) return wanted;
  int n = 2;
  while (taken(wanted + " " + std::to_string(n))) ++n;
  return wanted + " " + std::to_string(n);
}

/// "rim 2", "seam ridge", "foot 3", "beside 1 20", "round", "drawn"
Result<void> set_track(Track& track, Words& words) {
  const auto from = track_from(std::string(words.next()));
  if (!from) return fail(from);
  track.from = *from;
  if (*from == TrackFrom::rim || *from == TrackFrom::foot || *from == TrackFrom::beside) {
    const auto number = words.whole();
    if (!number) return fail(number.error().code, "The number of the line: " + number.error().text);
    track.number = *number;
    if (!words.at_end()) {
      const auto off = words.number();
      if (!off) return fail(off);
      track.off_mm = *off;
    }
  } else if (*from == TrackFrom::seam || *from == TrackFrom::feature) {
    track.name = std::string(words.rest());
  }
  return {};
}

/// "add-detail strip 1 rim 2": kind, part, line.
Changed add_detail(Build next, Words& words) {
  const auto shape = detail_shape_from(std::string(words.next()));
  if (!shape) return fail(shape);
  const auto part = words.whole();
  if (!part) return fail(part.error().code, "On which part: " + part.error().text);
  if (find_part(next, *part) == nullptr)
    return fail(Errc::unknown_name, "There is no part number " + std::to_string(*part) + ".", "parts");
  Detail detail;
  detail.id = next_detail(next.dress), detail.part = *part, detail.shape = *shape;
  detail.name = free_name(next.dress, kind_of(*shape));
  if (!words.at_end())
    if (auto set = set_track(detail.track, words); !set) return fail(set);
  next.dress.details.push_back(std::move(detail));
  return next;
}

/// "hold-rim 1 2": a strip inside a part's rim that keeps it as long and as wide as the form's.
Changed hold_rim(Build next, Words& words) {
  constexpr double kBandMm = 25.0;
  const auto part = words.whole(), rim = words.whole();
  if (!part) return fail(part.error().code, "On which part: " + part.error().text);
  if (!rim) return fail(rim.error().code, "Which of its rims: " + rim.error().text);
  const Part* on = find_part(next, *part);
  if (on == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(*part) + ".", "parts");
  Detail detail;
  detail.id = next_detail(next.dress), detail.part = *part;
  detail.shape = Strip{.lies = Strip::Lies::inside, .wide_mm = kBandMm};
  detail.name = free_name(next.dress, "band in the rim of the " + on->name);
  detail.track.from = TrackFrom::rim, detail.track.number = *rim;
  next.dress.details.push_back(std::move(detail));
  return next;
}

/// How one seam of a part is cut, whatever the rule says.
Changed with_cut(Build next, Words& words, EdgeCut cut, std::string* seam, int* part) {
  const auto id = words.whole();
  if (!id) return fail(id.error().code, "Which part: " + id.error().text);
  if (find_part(next, *id) == nullptr)
    return fail(Errc::unknown_name, "There is no part number " + std::to_string(*id) + ".", "parts");
  const std::string name(words.rest());
  if (name.empty()) return fail(Errc::empty_input, "Which of its seams is meant?", "seams");
  std::erase_if(next.foam.cuts, [&](const SeamCut& c) { return c.part == *id && c.seam == name; });
  next.foam.cuts.push_back({*id, name, cut});
  if (seam != nullptr) *seam = name, *part = *id;
  return next;
}

/// "cut-seam overlap 1 gore 2"
Changed cut_seam(Build next, Words& words) {
  const auto cut = edge_cut_from(std::string(words.next()));
  if (!cut) return fail(cut);
  return with_cut(std::move(next), words, *cut, nullptr, nullptr);
}

/// "strip-seam 1 gore 2": cut square, with a strip over it.
Changed strip_seam(Build next, Words& words) {
  constexpr double kCoverMm = 20.0;
  std::string seam;
  int part = 0;
  auto cut = with_cut(std::move(next), words, EdgeCut::square, &seam, &part);
  if (!cut) return cut;
  Detail detail;
  detail.id = next_detail(cut->dress), detail.part = part;
  detail.shape = Strip{.lies = Strip::Lies::on_face, .wide_mm = kCoverMm};
  detail.name = free_name(cut->dress, "strip over " + seam);
  detail.track.from = TrackFrom::seam, detail.track.name = seam;
  cut->dress.details.push_back(std::move(detail));
  return cut;
}

Changed drop_detail(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  const int gone = (*detail)->id;
  for (const Detail& d : next.dress.details)
    if (d.track.from == TrackFrom::beside && d.track.number == gone)
      return fail(Errc::unknown_name,
          d.name + " lies beside " + (*detail)->name + "; take that away first, or give it another line.",
          "dress/" + std::to_string(d.id));
  next.dress.details.erase(next.dress.details.begin() + (*detail - next.dress.details.data()));
  return next;
}

/// "set-detail 3 wide 24"
Changed set_detail(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  const std::string dial(words.next());
  const auto value = words.number();
  if (!value) return fail(value);
  if (auto turned = turn_dial(dials_of(**detail), dial, *value, "dress/" + std::to_string((*detail)->id)); !turned)
    return fail(turned);
  return next;
}

/// "line-of-detail 3 rim 1"
Changed line_of_detail(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  if (auto set = set_track((*detail)->track, words); !set) return fail(set);
  return next;
}

Changed name_detail(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  (*detail)->name = std::string(words.rest());
  return next;
}

/// "side-of-detail 3 one", "side-of-detail 3 both"
Changed side_of_detail(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  (*detail)->mirrored = words.next() != "one";
  return next;
}

/// "stuff-of-detail 3 eva-soft"; without a word the host's own.
Changed stuff_of_detail(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  (*detail)->stuff = std::string(words.rest());
  return next;
}

/// A marker at the end of a drawn line, in the form's own frame.
Changed mark_detail(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  Vec3 at;
  for (int k = 0; k < 3; ++k) {
    const auto mm = words.number();
    if (!mm) return fail(mm);
    at[k] = *mm;
  }
  (*detail)->track.points.push_back(at);
  return next;
}

/// On the other side too, but by itself: from then on it may be unlike.
Changed copy_across(Build next, Words& words) {
  const auto detail = detail_in(next, words);
  if (!detail) return fail(detail);
  if ((*detail)->track.from != TrackFrom::drawn && (*detail)->track.from != TrackFrom::way)
    return fail(Errc::unknown_name,
        "Only a line that was drawn can be copied across; " + (*detail)->name + " follows a line both sides share.",
        "dress");
  Detail copy = **detail;
  (*detail)->mirrored = copy.mirrored = false;
  for (Vec3& p : copy.track.points) p.x() = -p.x();
  copy.track.off_mm = -copy.track.off_mm;
  copy.id = next_detail(next.dress), copy.name = free_name(next.dress, (*detail)->name + ", right");
  next.dress.details.push_back(std::move(copy));
  return next;
}

/// One of a pair, on the side where its seat is or on the other.
void sit_alone(Part& part, bool other_side) {
  if (auto* sweep = std::get_if<SweepSpec>(&part.shape)) sweep->one_sided = true;
  if (auto* plate = std::get_if<PlateSpec>(&part.shape)) plate->one_sided = true;
  Seat* seat = seat_of(part);
  if (seat == nullptr) return;
  if (other_side) *seat = across(*seat);
  if (auto* body = std::get_if<BodySpec>(&part.shape)) {
    body->sides = BodySides::one;
    if (other_side) seat->spin_deg = -seat->spin_deg, seat->splay_deg = -seat->splay_deg;
  }
}

/// What is painted on one part is painted on the other: "part 2", "inside 2", "panel 2 crown".
void copy_colours(CoatSpec& coat, int from, int to) {
  const auto areas = coat.areas;
  for (ColourArea area : areas) {
    Words words(area.of);
    const std::string what(words.next());
    const auto part = words.whole();
    if (what == "detail" || !part || *part != from) continue;
    const std::string rest(words.rest());
    area.of = what + " " + std::to_string(to) + (rest.empty() ? "" : " " + rest);
    for (const ColourArea& other : coat.areas) area.id = std::max(area.id, other.id + 1);
    coat.areas.push_back(std::move(area));
  }
}

/// "copy-part-across 3": a pair becomes one on each side, with its details, holds and colours, to be made unlike.
Changed copy_part_across(Build next, Words& words) {
  const auto id = words.whole();
  if (!id) return fail(id.error().code, "Which part: " + id.error().text);
  Part* part = find_part(next, *id);
  if (part == nullptr) return fail(Errc::unknown_name, "There is no part number " + std::to_string(*id) + ".", "parts");
  const Seat* seat = aside_seat(*part);
  if (seat == nullptr)
    return fail(Errc::out_of_range,
        "The " + part->name +
            " stands on the middle line or covers both sides: there is no other side to copy it to. "
            "Horns, ears and bodies that are pairs can be.",
        "parts/" + std::to_string(*id));
  const bool left = !seat->on_right();
  Part copy = *part;
  sit_alone(*part, false), sit_alone(copy, true);
  copy.name = part->name + (left ? ", right" : ", left");
  for (DrawnSeam& seam : copy.drawn)
    for (Vec3& p : seam.points) p.x() = -p.x();
  const int on = part->on;
  const auto made = add_part(next, std::move(copy), on);
  if (!made) return fail(made);
  std::map<int, int> copied;  // details: what each became
  const auto details = next.dress.details;
  for (Detail d : details) {
    if (d.part != *id) continue;
    if (d.track.from == TrackFrom::foot) continue;  // what stands there stands on the one side
    if (d.track.from == TrackFrom::beside && copied.count(d.track.number) == 0) continue;
    if (d.track.from == TrackFrom::beside) d.track.number = copied[d.track.number];
    copied[d.id] = next_detail(next.dress);
    d.id = next_detail(next.dress), d.part = *made;
    d.name = free_name(next.dress, d.name + (left ? ", right" : ", left"));
    for (Vec3& p : d.track.points) p.x() = -p.x();
    if (d.track.from == TrackFrom::drawn || d.track.from == TrackFrom::way) d.track.off_mm = -d.track.off_mm;
    next.dress.details.push_back(std::move(d));
  }
  const auto holds = next.fit.holds;
  for (Hold h : holds) {
    if (h.part != *id) continue;
    h.part = *made, h.id = 0;
    for (const Hold& other : next.fit.holds) h.id = std::max(h.id, other.id);
    ++h.id;
    next.fit.holds.push_back(std::move(h));
  }
  copy_colours(next.coat, *id, *made);
  return next;
}

}  // namespace

const std::vector<ActOf>& dress_acts() {
  static const std::vector<ActOf> acts{{"add-detail", add_detail}, {"hold-rim", hold_rim}, {"cut-seam", cut_seam},
      {"strip-seam", strip_seam}, {"drop-detail", drop_detail}, {"set-detail", set_detail},
      {"line-of-detail", line_of_detail}, {"name-detail", name_detail}, {"side-of-detail", side_of_detail},
      {"stuff-of-detail", stuff_of_detail}, {"mark-detail", mark_detail}, {"copy-across", copy_across},
      {"copy-part-across", copy_part_across}};
  return acts;
}

}  // namespace awl
