#include "core/form/sweep.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kStepMm = 7.0;

/// One place of the spine: where it is and how the section stands there.
struct Station {
  Vec3 at, along, wide, deep;
  double share = 0.0;  ///< 0 at the base, 1 at the tip; negative below the base
};

/// How sharply the spine turns at a share of its length, in radians over the whole length.
double bend_at(const SweepSpec& s, double t) {
  const double weight = 1.0 + s.tighten * (2.0 * t - 1.0);
  return radians(s.curl_deg) * weight + radians(s.wave_deg) * kTwoPi * std::cos(kTwoPi * t) * 0.5;
}

/// Walks along the spine turning the frame about its own axes; the section's frame turns as little as it can.
std::vector<Station> stations_of(const SweepSpec& s, const SeatFrame& frame, double sunk_mm) {
  const int count = std::max(8, static_cast<int>(std::ceil(s.length_mm / kStepMm)));
  const double step = s.length_mm / count;
  std::vector<Station> all;
  for (int i = static_cast<int>(std::ceil(sunk_mm / step)); i > 0; --i)
    all.push_back(
        {frame.origin - i * step * frame.out, frame.out, frame.side, frame.up, -static_cast<double>(i) / count});
  Vec3 at = frame.origin, along = frame.out, axis = frame.side;  // bends about `axis`, away from up
  Eigen::Matrix3d section;
  section << frame.side, frame.up, frame.out;
  for (int i = 0; i <= count; ++i) {
    const double t = static_cast<double>(i) / count;
    const Eigen::AngleAxisd twist(radians(s.twist_deg) * t, along);
    all.push_back({at, along, twist * section.col(0), twist * section.col(1), t});
    const double mid = t + 0.5 / count;
    const Eigen::AngleAxisd bend(bend_at(s, mid) / count, axis);
    const Eigen::AngleAxisd turn(radians(s.rise_deg) / count, along);
    at += step * (Eigen::AngleAxisd(0.5 * bend_at(s, mid) / count, axis) * along);
    section = bend * section;
    along = section.col(2).normalized();
    axis = turn * (bend * axis);
    axis = (axis - axis.dot(along) * along).normalized();
  }
  return all;
}

double size_at(const SweepSpec& s, double t) {
  if (t <= 0.0) return 1.0;
  return s.tip_share + (1.0 - s.tip_share) * (1.0 - std::pow(t, s.taper));
}

/// A place of the section, `phi` from the deep axis; 1 at the base size. Half a turn mirrors on the deep axis.
Vec3 section_at(const SweepSpec& s, const Station& st, double phi) {
  const double size = size_at(s, st.share);
  const double raised = s.ridges > 0 && st.share > 0.0
      ? s.ridge_mm * size * std::pow(0.5 + 0.5 * std::cos(kTwoPi * s.ridges * st.share), 2)
      : 0.0;
  const double outer = (s.curl_deg < 0.0 ? -1.0 : 1.0) * std::cos(phi);  // the keel is on the outside of the bend
  const double keel = 1.0 + s.edge_sharp * 0.55 * std::pow(std::max(0.0, outer), 6) -
      s.edge_sharp * 0.25 * std::pow(std::abs(std::sin(phi)), 2) * std::max(0.0, outer);
  const double w = 0.5 * s.base_wide_mm * size + raised, d = (0.5 * s.base_deep_mm * size + raised) * keel;
  return st.at + w * std::sin(phi) * std::pow(std::abs(std::sin(phi)), s.lens) * st.wide + d * std::cos(phi) * st.deep;
}

/// The tube of a spine. With `half` only phi in 0..pi, its border in the mirror plane.
class Tube {
 public:
  /// `home`: where its own frame stands, a plain cylinder 100 round and 600 long.
  Tube(const SweepSpec& s, std::vector<Station> stations, bool half, const Vec3& home)
      : s_(s), stations_(std::move(stations)), half_(half), home_(home) {
    const double girth = kPi * (0.5 * (s.base_wide_mm + s.base_deep_mm));
    const int strips = std::max(1, s.strips);
    const int per_strip = std::max(1, static_cast<int>(std::round(girth / (8.0 * strips * 4.0)))) * 4;
    columns_ = std::min(16, per_strip) * strips;
    if (half_) columns_ += columns_ % 2;
    count_ = half_ ? columns_ / 2 + 1 : columns_;
    turn_ = half_ && stations_.front().wide.x() < 0.0 ? -1.0 : 1.0;
  }

  void add_to(Draft& draft, const std::string& name) {
    build_rows(draft);
    close_tip(draft);
    label(draft, name);
  }

 private:
  int at(int row, int column) const { return first_ + row * count_ + (half_ ? column : column % columns_); }

  void build_rows(Draft& draft) {
    first_ = static_cast<int>(draft.mesh.vertices.size());
    rows_ = static_cast<int>(stations_.size());
    for (const Station& st : stations_) base_row_ += st.share < 0.0 ? 1 : 0;
    if (s_.tip_share <= 0.02 && !s_.tip_open) --rows_;  // the last place is the tip itself
    for (int r = 0; r < rows_; ++r)
      for (int c = 0; c < count_; ++c) {
        const double a = kTwoPi * c / columns_;
        draft.mesh.vertices.push_back(section_at(s_, stations_[r], turn_ * a));
        draft.home.push_back(home_ +
            Vec3(half_ && 2 * c == columns_ ? 0.0 : 100.0 * std::sin(a), 600.0 * stations_[r].share,
                100.0 * std::cos(a)));
        if (half_ && (c == 0 || c == count_ - 1)) draft.mesh.vertices.back().x() = 0.0;
      }
    const int across = half_ ? count_ - 1 : columns_;
    for (int r = 0; r + 1 < rows_; ++r)
      for (int c = 0; c < across; ++c) {
        const int a = at(r, c), b = at(r, c + 1), d = at(r + 1, c), e = at(r + 1, c + 1);
        put(draft, {a, d, b});
        put(draft, {b, d, e});
      }
  }

  /// On the back the wearer's left is on the other hand of the section.
  void put(Draft& draft, Tri t) const {
    if (turn_ < 0.0) std::swap(t[1], t[2]);
    draft.mesh.triangles.push_back(t);
  }

  void close_tip(Draft& draft) {
    if (s_.tip_open) return;
    tip_ = static_cast<int>(draft.mesh.vertices.size());
    const Station& last = stations_.back();
    const double round = s_.tip_share > 0.02 ? 0.15 * s_.tip_share * (s_.base_wide_mm + s_.base_deep_mm) : 0.0;
    draft.mesh.vertices.push_back(last.at + round * last.along);
    draft.home.push_back(home_ + Vec3(0, 650.0, 0));
    if (half_) draft.mesh.vertices.back().x() = 0.0;
    for (int c = 0; c < (half_ ? count_ - 1 : columns_); ++c)
      put(draft, {at(rows_ - 1, c), tip_, at(rows_ - 1, c + 1)});
  }

  void label(Draft& draft, const std::string& name) {
    for (int k = 0; k < s_.strips; ++k) {
      const int column = k * columns_ / s_.strips;
      if (half_ && column > columns_ / 2) break;
      const int label = draft.seam(name + (s_.strips == 1 ? "" : " " + std::to_string(k + 1)));
      for (int r = 0; r + 1 < rows_; ++r) draft.seams[edge_of(at(r, column), at(r + 1, column))] = label;
      if (tip_ >= 0) draft.seams[edge_of(at(rows_ - 1, column), tip_)] = label;
    }
    for (int k = 1; k < s_.lengths; ++k) {
      const int row = base_row_ + k * (rows_ - 1 - base_row_) / s_.lengths,
                label = draft.seam("across " + std::to_string(k));
      for (int c = 0; c < (half_ ? count_ - 1 : columns_); ++c)
        draft.seams[edge_of(at(row, c), at(row, c + 1))] = label;
    }
  }

  const SweepSpec& s_;
  std::vector<Station> stations_;
  bool half_;
  Vec3 home_;
  double turn_ = 1.0;
  int columns_ = 0, count_ = 0, rows_ = 0, base_row_ = 0, first_ = 0, tip_ = -1;
};

/// Thickest section in the plane of the bend against the radius of the bend, and turns that would meet.
Result<void> check_room(const SweepSpec& s, const std::vector<Station>& stations) {
  double worst = 0.0, at_mm = 0.0;
  for (const Station& st : stations) {
    if (st.share < 0.0) continue;
    const double radius = s.length_mm / std::max(std::abs(bend_at(s, st.share)), 1e-9),
                 half =
                     0.5 * std::max(s.base_deep_mm, s.twist_deg == 0.0 ? 0.0 : s.base_wide_mm) * size_at(s, st.share);
    if (half / radius > worst) worst = half / radius, at_mm = st.share * s.length_mm;
  }
  if (worst > 0.92)
    return fail(Errc::degenerate_shape,
        "The bend " + fixed(at_mm, 0) +
            " mm from the base is too tight for how thick it is there; the inside would fold. A length of " +
            fixed(std::ceil(s.length_mm * worst / 0.92), 0) + " mm works, or a base " +
            fixed(std::floor(s.base_deep_mm * 0.92 / worst), 0) + " mm deep.",
        "sweep/curl");
  for (std::size_t i = 0; i < stations.size(); ++i)
    for (std::size_t j = i + 1; j < stations.size(); ++j) {
      if (stations[i].share < 0.0) continue;
      const double apart = (stations[i].at - stations[j].at).norm(),
                   along = (stations[j].share - stations[i].share) * s.length_mm;
      const double thick = 0.5 * std::max(s.base_wide_mm, s.base_deep_mm);
      const double need =
          thick * (size_at(s, stations[i].share) + size_at(s, stations[j].share)) * (s.edge_sharp > 0.0 ? 1.5 : 1.0) +
          (s.ridges > 0 ? 2.0 * s.ridge_mm : 0.0);
      if (along > 1.6 * need && apart < 0.98 * need)
        return fail(Errc::degenerate_shape,
            "Turns of it run into each other: " + fixed(apart, 0) + " mm apart where " + fixed(need, 0) +
                " mm is needed. Rise more, curl less, or make it longer: " +
                fixed(std::ceil(1.05 * s.length_mm * need / std::max(apart, 1.0)), 0) + " mm would clear it.",
            "sweep/curl");
    }
  return {};
}

void cut_base(Draft& draft, const SweepSpec& spec, const Site& site, const SeatFrame& frame) {
  if (spec.base == BaseCut::by_lean) {
    const Vec3 n = Eigen::AngleAxisd(radians(spec.base_lean_deg), frame.side) * frame.out;
    trim(draft, [&](const Vec3& p) { return (p - frame.origin).dot(n); });
    return;
  }
  trim(draft, [&](const Vec3& p) { return site.above(p) - spec.seat.gap_mm; });
}

/// Tines grow from the beam, each cut off at its skin.
void add_branches(Draft& draft, const SweepSpec& spec, const std::vector<Station>& beam) {
  Draft stem;
  SweepSpec plain = spec;
  plain.ridges = 0, plain.strips = 2, plain.lengths = 1;
  Tube(plain, beam, false, Vec3::Zero()).add_to(stem, "");
  const Nearest near_stem(stem.mesh);
  for (int k = 0; k < spec.branches; ++k) {
    const double t = spec.branch_from + (0.92 - spec.branch_from) * k / std::max(1, spec.branches);
    const Station* root = &beam.back();
    for (const Station& st : beam)
      if (st.share >= t) {
        root = &st;
        break;
      }
    SweepSpec tine = spec;
    tine.length_mm = spec.branch_mm * (1.0 - 0.18 * k), tine.curl_deg = -28.0, tine.rise_deg = 0.0, tine.wave_deg = 0.0,
    tine.branches = 0, tine.ridges = 0, tine.strips = 3, tine.lengths = 1, tine.tighten = 0.0, tine.twist_deg = 0.0;
    const double size = 0.74 * size_at(spec, root->share);
    tine.base_wide_mm = size * spec.base_wide_mm, tine.base_deep_mm = size * spec.base_deep_mm, tine.tip_share = 0.0;
    const Eigen::AngleAxisd away(-radians(spec.branch_turn_deg), root->wide);
    SeatFrame frame;
    frame.origin = root->at, frame.out = away * root->along, frame.side = root->wide,
    frame.up = frame.out.cross(frame.side);
    Draft one;
    Tube(tine, stations_of(tine, frame, 0.0), false, Vec3(1000.0, 1500.0 * (k + 1), 0.0))
        .add_to(one, "tine " + std::to_string(k + 1));
    trim(one, [&](const Vec3& p) { return near_stem.to(p).signed_mm; });
    const Vec3 tip = stations_of(tine, frame, 0.0).back().at;
    keep_parts(one, [&](const Vec3& p) { return (p - tip).norm() < 1.0; });
    append(draft, one);
  }
}

}  // namespace

std::vector<Vec3> spine_of(const SweepSpec& spec, const SeatFrame& frame) {
  std::vector<Vec3> line;
  for (const Station& st : stations_of(spec, frame, 0.0)) line.push_back(st.at);
  return line;
}

Result<Draft> draft_sweep(const SweepSpec& asked, const Site& site) {
  SweepSpec spec = asked;
  if (auto good = check_dials(dials_of(spec), "sweep"); !good) return fail(good);
  if (!spec.pair)
    spec.seat = in_middle(spec.seat), spec.rise_deg = 0.0, spec.twist_deg = 0.0,
    spec.seat.spin_deg = std::abs(spec.seat.spin_deg) < 90.0 ? 0.0 : 180.0;
  const bool one = spec.pair && spec.one_sided, right = one && spec.seat.on_right();
  if (right) spec.seat = across(spec.seat);
  const auto frame = seat_frame(site, spec.seat);
  if (!frame) return fail(frame);
  const double sunk = spec.base == BaseCut::by_lean
      ? 0.5 * spec.base_deep_mm * std::tan(radians(std::abs(spec.base_lean_deg))) + 8.0
      : 0.8 * std::max(spec.base_wide_mm, spec.base_deep_mm);
  const auto stations = stations_of(spec, *frame, sunk);
  if (auto good = check_room(spec, stations); !good) return fail(good);
  Draft draft;
  draft.outside = true, draft.mirrored = !one;
  Tube(spec, stations, !spec.pair, Vec3(spec.pair ? 1000.0 : 0.0, 0.0, 0.0)).add_to(draft, "strip");
  cut_base(draft, spec, site, *frame);
  const Station& last = stations.back();
  const double reach = spec.tip_open ? 0.6 * spec.tip_share * std::max(spec.base_wide_mm, spec.base_deep_mm) + 1.0
                                     : 0.3 * spec.tip_share * (spec.base_wide_mm + spec.base_deep_mm) + 1.0;
  keep_parts(draft, [&](const Vec3& p) { return (p - last.at).norm() < reach; });
  if (draft.mesh.triangles.empty())
    return fail(Errc::degenerate_shape,
        "Nothing of it stands out of what it sits on; lift it off the surface or make it longer.", "sweep/seat.gap");
  if (spec.pair && spec.branches > 0) add_branches(draft, spec, stations);
  if (spec.pair && !one)
    for (const Vec3& p : draft.mesh.vertices)
      if (p.x() < 0.5)
        return fail(Errc::degenerate_shape,
            "The pair meets in the middle of the head: one reaches " + fixed(0.5 - p.x(), 0) +
                " mm past it. Spread it by a few degrees, or sit it further round.",
            "sweep/splay");
  draft.features.push_back({"spine", spine_of(spec, *frame)});
  draft.handles.push_back({"length", last.at, last.along, 1.0});
  const Station& mid = stations[stations.size() - stations.size() / 3];
  const double turning = degrees(1.0 / std::max(30.0, 0.4 * spec.length_mm));
  draft.handles.push_back(
      {"curl", mid.at + 0.5 * spec.base_deep_mm * size_at(spec, mid.share) * mid.deep, -mid.deep, turning});
  draft.handles.push_back(
      {"wide", section_at(spec, stations[stations.size() / 6 + 1], 0.5 * kPi), stations.front().wide, 2.0});
  if (right) reflect(draft);
  return draft;
}

namespace {

void add_one_side(Dials& dials, SweepSpec& s) {
  dials.yes_no("one", s.one_sided, "On one side only", "The wearer's left; sat round to the right its mirror image.");
}

}  // namespace

std::vector<Dial> hidden_dials_of(SweepSpec& s) {
  Dials dials;
  if (!s.pair) add_one_side(dials, s);
  dials.add(hidden_dials_of(s.seat));
  return std::move(dials).all();
}

std::vector<Dial> dials_of(SweepSpec& s) {
  const std::string spine = "Spine", section = "Section", base = "Base and cutting", tines = "Tines";
  Dials dials;
  dials.group(spine);
  dials.length(
      "length", s.length_mm, {30, 1500}, "Length along the spine", "From the base to the tip, round the bends.");
  dials.angle("curl", s.curl_deg, {-540, 540}, "Curl", "How far it turns from base to tip; 360 is a full turn.");
  dials.share("tighten", s.tighten, {-1, 1}, "Where it bends", "Minus: near the base, plus: near the tip.");
  dials.angle("rise", s.rise_deg, {-360, 360}, "Winds out of its plane",
      "Makes a curl into a helix, so that turns pass each other.");
  dials.angle("wave", s.wave_deg, {-90, 90}, "Wave", "Bends there and back, as a tentacle does.");
  dials.group(section);
  dials.length("wide", s.base_wide_mm, {8, 220}, "Base, across", "Size of the section at its base.");
  dials.length("deep", s.base_deep_mm, {8, 400}, "Base, along", "Size in the plane it bends in.");
  dials.share("tip", s.tip_share, {0, 1.5}, "Size at the tip", "Share of the base; none is a point.");
  dials.share("taper", s.taper, {0.4, 4}, "Taper", "One is even; more stays thick longer.");
  dials.share("keel", s.edge_sharp, {0, 1}, "Keel", "A sharp edge on the outer side.");
  dials.share("lens", s.lens, {0, 1}, "Lens", "Drawn out to an edge before and behind; its cheeks lie flat.");
  dials.count("ridges", s.ridges, {0, 40}, "Rings raised along it", "As on a ram's horn.");
  dials.length("ridge", s.ridge_mm, {0, 12}, "Height of the rings", "Above the plain horn.");
  dials.angle("twist", s.twist_deg, {-360, 360}, "Twist", "The section turns on its way to the tip.");
  dials.group(base);
  dials.yes_no("pair", s.pair, "Mirrored pair", "Left and right; otherwise one on the middle line.");
  if (s.pair) add_one_side(dials, s);
  dials.choice(
      "base", s.base, {"by the surface", "at an angle"}, "Base cut", "By what it sits on, or straight at an angle.");
  dials.angle("base.lean", s.base_lean_deg, {-60, 60}, "Angle of the cut", "From square across.");
  dials.count("strips", s.strips, {1, 8}, "Strips", "Lengthwise pieces; more lie flatter.");
  dials.count("lengths", s.lengths, {1, 6}, "Lengths", "Cut across as well; what curls once round must be.");
  dials.yes_no("open", s.tip_open, "Open at the end", "For tubes and barrels.");
  dials.group(tines);
  dials.count("branches", s.branches, {0, 5}, "Tines", "Branches of an antler.");
  dials.length("branch.length", s.branch_mm, {25, 300}, "Longest tine", "The others are shorter.");
  dials.share("branch.from", s.branch_from, {0.1, 0.8}, "First tine", "Share of the way from base to tip.");
  dials.angle("branch.turn", s.branch_turn_deg, {25, 90}, "Tines stand off by", "From the beam.");

  dials.add(dials_of(s.seat));
  return std::move(dials).all();
}

double curl_radius_mm(const TongueSpec& spec) {
  const double apart = 0.5 * (spec.thick_mm + spec.thin_mm);
  return spec.longer_mm < 1e-6 ? 1e6 : apart * spec.length_mm / spec.longer_mm;
}

Result<Draft> draft_tongue(const TongueSpec& asked, const Site& site) {
  TongueSpec spec = asked;
  if (auto good = check_dials(dials_of(spec), "tongue"); !good) return fail(good);
  spec.seat = in_middle(spec.seat);
  spec.seat.spin_deg = 0.0;
  const double radius = curl_radius_mm(spec), turn = spec.length_mm / radius;
  if (turn > 1.85 * kPi)
    return fail(Errc::degenerate_shape,
        "With one layer " + fixed(spec.longer_mm, 1) + " mm longer it would roll up " + fixed(degrees(turn), 0) +
            " degrees and meet itself; " + fixed(std::floor(10.0 * spec.longer_mm * 1.8 * kPi / turn) / 10.0, 1) +
            " mm works.",
        "tongue/longer");
  const auto frame = seat_frame(site, spec.seat);
  if (!frame) return fail(frame);
  Draft draft;
  draft.outside = true;
  // Both layers lie at their own middle: the long one outside of the curl. Each is a bent strip, so its sheet is known.
  const auto layer = [&](double off_mm, double thick_mm, const std::string& name) {
    const int rows = static_cast<int>(std::ceil(spec.length_mm / 5.0)), across = 6,
              first = static_cast<int>(draft.mesh.vertices.size());
    for (int r = 0; r <= rows; ++r) {
      const double t = static_cast<double>(r) / rows,
                   half = 0.5 * (spec.width_mm + (spec.tip_mm - spec.width_mm) * t * t) *
          (t > 0.9 ? std::sqrt(std::max(0.02, 1.0 - std::pow((t - 0.9) / 0.1, 2) * 0.75)) : 1.0);
      const double angle = turn * t, out = (radius + off_mm) * std::sin(angle),
                   down = (radius + off_mm) * (1.0 - std::cos(angle)) - off_mm;
      for (int c = 0; c <= across; ++c) {
        const double x = half * c / across;
        draft.mesh.vertices.push_back(Vec3(0, 0, 0) + frame->at(0.0, -down, out) + x * Vec3::UnitX());
        if (c == 0) draft.mesh.vertices.back().x() = 0.0;
        draft.flat.push_back({x, -(radius + off_mm) * angle});
        draft.home.push_back({x, draft.flat.back().y(), 60.0 * static_cast<double>(draft.sheets.size())});
        draft.sheet_of.push_back(static_cast<int>(draft.sheets.size()));
      }
    }
    for (int r = 0; r < rows; ++r)
      for (int c = 0; c < across; ++c) {
        const int a = first + r * (across + 1) + c, b = a + 1, d = a + across + 1, e = d + 1;
        draft.mesh.triangles.push_back({a, d, b});
        draft.mesh.triangles.push_back({b, d, e});
      }
    draft.sheets.push_back({thick_mm, 0.0});
    draft.features.push_back({name, {draft.mesh.vertices[first], draft.mesh.vertices[first + rows * (across + 1)]}});
  };
  layer(0.0, spec.thin_mm, "short layer");
  layer(0.5 * (spec.thick_mm + spec.thin_mm), spec.thick_mm, "long layer");
  draft.handles.push_back({"length", draft.mesh.vertices[draft.mesh.vertices.size() - 7], frame->out, 1.0});
  return draft;
}

std::vector<Dial> dials_of(TongueSpec& s) {
  const std::string group = "Tongue";
  Dials dials;
  dials.group(group);
  dials.length("length", s.length_mm, {40, 600}, "Length", "Of the shorter layer.");
  dials.length("width", s.width_mm, {15, 150}, "Width at the root", "Across.");
  dials.length("tip", s.tip_mm, {4, 150}, "Width at the tip", "Across.");
  dials.length("thick", s.thick_mm, {2, 12}, "Thick layer", "The one that shows below.");
  dials.length("thin", s.thin_mm, {1, 10}, "Thin layer", "The one that pulls.");
  dials.length(
      "longer", s.longer_mm, {0.5, 60}, "Longer by", "How much longer the outer layer is; this makes the curl.");

  dials.add(dials_of(s.seat));
  return std::move(dials).all();
}

}  // namespace awl
