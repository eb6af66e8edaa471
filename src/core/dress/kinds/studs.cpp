#include "core/dress/kinds/studs.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

const char* word_of(Studs::What what) {
  constexpr const char* kWords[] = {"rivet", "stud", "screw", "spike", "hole", "eyelet", "stitch"};
  return kWords[static_cast<int>(what)];
}

/// Seams, rims and openings to keep clear of.
std::vector<const SiteLine*> kept_clear(const DressSite& site) {
  std::vector<const SiteLine*> all;
  for (const SiteLine& l : site.seams) all.push_back(&l);
  for (const SiteLine& l : site.rims) all.push_back(&l);
  return all;
}

class StudSetter {
 public:
  StudSetter(const Studs& studs, Dressing& d) : s_(studs), d_(d) {}

  Result<void> row(const FormLine& line, bool image, bool half_on) {
    SpacingRule rule = s_.spacing;
    rule.half_on = rule.half_on != half_on;
    std::vector<std::pair<double, double>> bars;
    if (rule.near_seam != NearSeam::even && rule.keep_out_mm > 0.0)
      bars = too_near(line, kept_clear(d_.site), rule.keep_out_mm);
    const auto made = spaced(line.length_mm, line.closed, rule, bars);
    if (!made) return fail(made);
    for (const double mm : made->along_mm) set(line.at_mm(mm), image);
    all += static_cast<int>(made->along_mm.size());
    if (image) return {};
    d_.out.count += static_cast<int>(made->along_mm.size()), d_.out.dropped += made->dropped;
    d_.out.pitch_mm = made->pitch_mm;
    d_.out.rows.push_back({line.length_mm, static_cast<int>(made->along_mm.size())});
    return {};
  }
  void finish() {
    if (!heads.triangles.empty()) d_.solid(matter(), std::move(heads), all * each_g(), false);
  }
  int all = 0;

 private:
  Matter matter() const { return s_.what == Studs::What::stitch ? Matter::cord : Matter::metal; }
  double each_g() const {
    if (s_.what == Studs::What::hole) return 0.0;
    return d_.rules.rivet_g_mm3 * s_.across_mm * s_.across_mm * std::max(2.0, 0.3 * s_.across_mm);
  }

  void set(const FormLine::At& foot, bool image) {
    d_.place(foot, s_.across_mm, image);
    FormLine::At at = foot;
    at.at += s_.over_mm * at.normal;
    switch (s_.what) {
      case Studs::What::hole:
        d_.hole(foot.at, s_.across_mm);
        add(ring_on(at, s_.across_mm, 0.8, 0.6));
        return;
      case Studs::What::eyelet:
        d_.hole(foot.at, s_.bore_mm);
        add(ring_on(at, s_.bore_mm, 0.5 * std::max(1.5, s_.across_mm - s_.bore_mm), 1.2));
        return;
      case Studs::What::stitch: {
        const Vec3 a = 0.4 * s_.across_mm * at.along, b = 0.5 * s_.across_mm * at.left;
        for (const double side : {1.0, -1.0}) {
          const Vec3 p = d_.site.onto(at.at + a + side * b), q = d_.site.onto(at.at - a - side * b);
          d_.bore(p, s_.bore_mm), d_.bore(q, s_.bore_mm);
          add(bar_along({p + 0.8 * at.normal, at.at + 1.6 * at.normal, q + 0.8 * at.normal}, 1.8));
        }
        return;
      }
      case Studs::What::spike:
        d_.bore(foot.at, s_.bore_mm);
        add(cone_on(at.at, at.along, at.normal, s_.across_mm, s_.across_mm, 1.6 * s_.across_mm));
        return;
      default:
        d_.bore(foot.at, s_.bore_mm);
        add(dome_on(at, s_.across_mm, (s_.what == Studs::What::screw ? 0.18 : 0.32) * s_.across_mm));
    }
  }
  void add(const Mesh& mesh) { add_mesh(heads, mesh); }

  const Studs& s_;
  Dressing& d_;
  Mesh heads;
};

void bore_step(const Studs& s, Dressing& d, int all) {
  std::vector<std::string> lines{"Bore " + in_mm(s.bore_mm) + " at every drill mark, " +
      std::to_string(s.what == Studs::What::stitch ? 4 * all : all) + " in all, while the pieces lie flat."};
  if (s.over_mm > 0.0)
    lines.push_back("What lies over them hides the bores: once it is glued bore on through it from inside.");
  d.step("Bore for " + d.detail.name, std::move(lines), kDrillCaution, false, false);
}

void tell(const Studs& s, Dressing& d, int all) {
  const std::string what = word_of(s.what);
  const int spare = std::max(1, static_cast<int>(std::ceil(d.rules.spare_share * all - 1e-9)));
  d.out.with_spare = all + spare;
  d.fact(counted(d.out.count, what) + (d.sides() > 1 ? " a side" : "") + ", " + fixed(d.out.pitch_mm, 1) +
      " mm from middle to middle" +
      (d.out.dropped > 0 ? ", " + std::to_string(d.out.dropped) + " left out at seams" : "") + ".");
  const bool bought = s.what != Studs::What::hole && s.what != Studs::What::stitch;
  if (bought)
    d.want(what + "/" + fixed(s.across_mm, 0),
        std::string(1, static_cast<char>(std::toupper(what[0]))) + what.substr(1) + "s, " + in_mm(s.across_mm) +
            " head, shank " + in_mm(s.bore_mm) + " and " + in_mm(d.site.thickness_mm + s.over_mm) + " of foam",
        all + spare);
  if (s.what == Studs::What::stitch)
    d.want("thread", "Waxed thread",
        std::ceil(all * (2.0 * std::hypot(0.8, 1.0) * s.across_mm + 2.0 * d.site.thickness_mm + s.spacing.pitch_mm) *
            1.2 / 100.0) /
            10.0,
        "m");
  if (s.what == Studs::What::hole || s.what == Studs::What::eyelet)
    d.step("Punch the holes of " + d.detail.name,
        {"Punch " + std::to_string(all) + " holes of " + in_mm(s.what == Studs::What::hole ? s.across_mm : s.bore_mm) +
            " while the pieces lie flat."},
        "Punch on a board, hand out of the way.", false, false);
  else
    bore_step(s, d, all);
  if (s.what == Studs::What::hole) return;
  d.step(s.what == Studs::What::stitch ? "Sew the stitches of " + d.detail.name : "Set " + d.detail.name,
      {s.what == Studs::What::stitch ? "Two legs cross over the line; knot inside."
                                     : "Set them once the part is whole and sealed; a drop of glue inside holds each.",
          "Points and ends inside: file them flat or cover them."},
      s.what == Studs::What::stitch ? "Push the needle away from the other hand."
                                    : "Goggles while setting; ends inside scratch.",
      false, true);
}

}  // namespace

void add_spacing(Dials& dials, SpacingRule& rule) {
  dials.group("How they stand")
      .choice("keeps", rule.keeps, {"pitch", "count"}, "Kept when the size changes",
          "Made for another wearer: their distance stays, or their number.")
      .length("pitch", rule.pitch_mm, {2, 300}, "From middle to middle", "The nearest that comes out even is taken.")
      .count("count", rule.count, {1, 400}, "How many", "Where their number is kept.")
      .length("ends", rule.ends_mm, {0, 200}, "Free at both ends", "Of an open line.")
      .length("keep-out", rule.keep_out_mm, {0, 60}, "Clear of seams and rims by", "A bore in a seam lets it open.")
      .choice("near-seam", rule.near_seam, {"stay even", "leave out", "share out"}, "Where a seam is in the way",
          "Stay even all the same, leave those out, or share each free stretch out evenly.");
}

void add_spacing_grip(Dressing& d, const SpacingRule& rule) {
  if (rule.keeps != Keeps::pitch || d.out.places.size() < 2 || d.out.places[1].image) return;
  const Vec3 &first = d.out.places[0].at, &second = d.out.places[1].at;
  if ((second - first).norm() > 1e-6) d.grip("pitch", second, (second - first).normalized());
}

std::vector<Dial> dials_of(Studs& s) {
  Dials dials;
  dials.group("What is set")
      .choice("what", s.what, {"rivet", "stud", "screw", "spike", "hole", "eyelet", "stitch"}, "What",
          "Stitches are crosses over the line, four bores each.")
      .length("across", s.across_mm, {1, 80}, "Across", "Of the head; of a hole its width; of a stitch its reach.")
      .length("bore", s.bore_mm, {0.5, 30}, "Bore", "What is drilled for the shank or thread.");
  add_spacing(dials, s.spacing);
  dials.group("Rows")
      .count("rows", s.rows, {1, 12}, "Rows", "Further rows to the line's left; from a rim inwards.")
      .length("apart", s.apart_mm, {2, 100}, "Rows apart", "From row to row.")
      .length(
          "over", s.over_mm, {0, 40}, "Through a strip of", "What lies between them and the part: the shank is longer.")
      .yes_no("staggered", s.staggered, "Half a pitch on", "Every other row stands between those of the row before.");
  return std::move(dials).all();
}

void put_on(const Studs& s, Dressing& d) {
  StudSetter setter(s, d);
  for (std::size_t k = 0; k < d.lines.size(); ++k)
    for (int r = 0; r < s.rows; ++r) {
      const auto line = beside(d.site, d.lines[k], r * s.apart_mm);
      const auto done = line ? setter.row(*line, k == 1, s.staggered && r % 2 == 1) : Result<void>(fail(line));
      if (!done) return d.remark("room", Severity::warning, done.error().text);
    }
  setter.finish();
  add_spacing_grip(d, s.spacing);
  if (s.rows > 1)
    if (const auto second = beside(d.site, d.lines.front(), s.apart_mm)) {
      const FormLine::At at = second->at_mm(0.25 * second->length_mm);
      d.grip("apart", at.at, at.left);
    }
  tell(s, d, setter.all);
  const double edge = d.rules.edge_bores * s.bore_mm;
  for (const FormLine& line : d.lines) {
    if (s.what == Studs::What::stitch || s.spacing.near_seam != NearSeam::even) break;
    std::vector<const SiteLine*> rims;
    for (const SiteLine& r : d.site.rims) rims.push_back(&r);
    if (!too_near(line, rims, edge).empty()) {
      d.remark("tears-out", Severity::warning,
          "its bores of " + in_mm(s.bore_mm) + " stand nearer to an edge than " + in_mm(edge) +
              ", two bores: they tear out. Move the line in.",
          s.bore_mm, edge, {{"Move it in", d.turn_act("off", d.detail.track.off_mm + std::ceil(edge))}});
      break;
    }
  }
}

}  // namespace awl
