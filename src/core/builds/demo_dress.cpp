#include "core/builds/demo_dress.hpp"

namespace awl {
namespace {

/// Puts details on a demo, one after the other.
class Dresser {
 public:
  explicit Dresser(Build& build) : build_(build) {}

  Detail& put(int part, const char* name, DetailShape shape) {
    Detail d;
    d.id = static_cast<int>(build_.dress.details.size()) + 1;
    d.part = part, d.name = name, d.shape = std::move(shape);
    build_.dress.details.push_back(std::move(d));
    return build_.dress.details.back();
  }
  Detail& rim(int part, const char* name, DetailShape shape, int rim, double off_mm = 0.0) {
    Detail& d = put(part, name, std::move(shape));
    d.track.from = TrackFrom::rim, d.track.number = rim, d.track.off_mm = off_mm;
    return d;
  }
  Detail& feature(int part, const char* name, DetailShape shape, const char* line, double off_mm = 0.0) {
    Detail& d = put(part, name, std::move(shape));
    d.track.from = TrackFrom::feature, d.track.name = line, d.track.off_mm = off_mm;
    return d;
  }
  Detail& seam(int part, const char* name, DetailShape shape, const char* seam, double off_mm = 0.0) {
    Detail& d = put(part, name, std::move(shape));
    d.track.from = TrackFrom::seam, d.track.name = seam, d.track.off_mm = off_mm;
    return d;
  }
  Detail& drawn(int part, const char* name, DetailShape shape, std::vector<Vec3> home) {
    Detail& d = put(part, name, std::move(shape));
    d.track.points = std::move(home);
    return d;
  }
  Detail& level(int part, const char* name, DetailShape shape, const Vec3& home) {
    Detail& d = drawn(part, name, std::move(shape), {home});
    d.track.from = TrackFrom::round;
    return d;
  }

 private:
  Build& build_;
};

Studs rivets(double across, double pitch) {
  Studs s;
  s.across_mm = across, s.spacing.pitch_mm = pitch;
  return s;
}

void heron(Dresser d) {
  Detail& plumes = d.rim(3, "plumes",
      Scales{.tip = Scales::Tip::feather, .long_mm = 60, .exposed_mm = 40, .wide_mm = 26, .lift_mm = 10}, 1);
  plumes.stuff = "eva-soft";
  d.rim(2, "eye lenses", Lens{.of = Lens::Of::tinted, .hold_mm = 7}, 1);
  d.drawn(1, "ear discs", Lens{.of = Lens::Of::foam, .rise_mm = 9, .across_mm = 74}, {{98, 4, -8}});
  d.drawn(1, "ear bosses", Lens{.of = Lens::Of::foam, .rise_mm = 8, .across_mm = 34}, {{98, 4, -8}}).thickness_mm = 12;
  d.rim(1, "brow rim", Strip{.wide_mm = 16}, 2, 9).stuff = "eva-soft";
}

void ferry(Dresser d) {
  d.level(1, "cross strip", Strip{.wide_mm = 30}, {0, 128, 100}).thickness_mm = 4;
  d.drawn(1, "nose strip", Strip{.wide_mm = 30, .fold_end = true, .layers_below = 1},
       {{0, 190, 100}, {0, 120, 100}, {0, 60, 100}, {0, 14, 100}})
      .thickness_mm = 4;
  d.rim(1, "lower rim", Strip{.lies = Strip::Lies::over_edge, .wide_mm = 16}, 1).thickness_mm = 3;
  Studs through = rivets(9, 32);
  through.over_mm = 4;
  d.level(1, "rivets of the cross strip", through, {0, 128, 100});
  d.rim(1, "rivets above the rim", rivets(8, 34), 1, 30);
  d.drawn(1, "breaths, right",
       HoleField{.wide_mm = 64, .high_mm = 42, .across_mm = 5, .pitch_mm = 12, .pitch_up_mm = 10}, {{-50, 45, 86}})
      .mirrored = false;
  d.put(1, "battle marks", Damage{.of = Damage::Of::both, .count = 16, .least_mm = 7, .most_mm = 30}).mirrored = false;
}

void almanac(Dresser d) {
  Detail& ribbon = d.feature(1, "ribbon", Strip{.wide_mm = 34}, "lower edge", 22);
  ribbon.stuff = "fabric", ribbon.thickness_mm = 1;
  d.seam(1, "stitches",
      Studs{.what = Studs::What::stitch, .across_mm = 16, .bore_mm = 2, .spacing = {.pitch_mm = 26, .ends_mm = 24}},
      "cap 1");
  d.drawn(1, "buckle of the ribbon", Buckle{.strap_mm = 34, .strap_thick_mm = 1, .bar_mm = 8, .open_mm = 26},
      {{0, 62, 100}});
  d.rim(1, "brim wire", Wire{.use = Wire::Use::along, .thick_mm = 2}, 1, 6);
  d.rim(1, "brim rim", Strip{.wide_mm = 14}, 1, 8).stuff = "fabric";
  d.put(1, "filling of the tip", Filling{.share = 0.25});
}

void toll(Dresser d) {
  Detail& band = d.level(1, "hat band", Strip{.wide_mm = 26}, {0, 26, 100});
  band.stuff = "fabric", band.thickness_mm = 1;
  d.level(1, "studs of the band", Studs{.what = Studs::What::stud, .across_mm = 10, .spacing = {.pitch_mm = 40}},
      {0, 26, 100});
  Detail& sweat = d.level(1, "sweatband", Strip{.lies = Strip::Lies::inside, .wide_mm = 28}, {0, 12, 100});
  sweat.stuff = "fabric", sweat.thickness_mm = 1.5;
  d.rim(3, "lenses of the tubes", Lens{.of = Lens::Of::clear, .hold_mm = 4, .behind = false}, 1);
}

void ram(Dresser d) {
  d.rim(2, "scales of the horns",
       Scales{.tip = Scales::Tip::pointed, .long_mm = 32, .exposed_mm = 19, .wide_mm = 24, .lift_mm = 2}, 1)
      .stuff = "eva-soft";
  d.put(2, "wire of the horns", Wire{.use = Wire::Use::spine, .thick_mm = 3});
  d.feature(1, "studs of the band", Studs{.what = Studs::What::stud, .across_mm = 9, .spacing = {.pitch_mm = 34}},
      "lower edge", 17);
}

void reed(Dresser d) {
  d.drawn(1, "grain", Grain{.apart_mm = 15, .long_mm = 30}, {{16, 62, 110}, {20, 40, 112}, {22, 24, 112}});
  d.drawn(1, "grain of the cheeks",
      Scored{.how = Scored::How::carve, .depth_mm = 1.5, .beside = 4, .apart_mm = 8, .taper = 0.12},
      {{34, -16, 96}, {48, -34, 84}, {52, -54, 72}});
  d.rim(1, "mouth cloth", Lens{.of = Lens::Of::cloth, .hold_mm = 10}, 1);
  d.rim(1, "burned rims", Scored{.how = Scored::How::burn, .depth_mm = 1.5}, 3, 6);
}

void eel(Dresser d) {
  Detail& upper = d.rim(1, "upper teeth",
      Teeth{.count = 15, .gap_mm = 3, .margin_mm = 4, .least = 0.5, .high_mm = 36, .uneven = 0.12, .gum_mm = 9}, 1);
  upper.track.start = 0.0, upper.track.end = 0.24;
  d.seam(2, "teeth of the jaws",
      Teeth{.count = 11,
          .gap_mm = 3,
          .margin_mm = 10,
          .least = 0.45,
          .high_mm = 26,
          .uneven = 0.15,
          .down = false,
          .gum_mm = 7},
      "strip 1 left");
  d.drawn(1, "scales of the neck", Scored{.how = Scored::How::open, .depth_mm = 2, .beside = 3, .apart_mm = 14},
      {{70, 60, -60}, {86, 20, -60}, {84, -30, -62}});
}

void lamp(Dresser d) {
  d.drawn(1, "visor", Wedge{.wide_mm = 9, .high_mm = 34},
       {{-82, 102, 57}, {-42, 102, 91}, {0, 102, 100}, {42, 102, 91}, {82, 102, 57}})
      .mirrored = false;
  d.rim(1, "window mesh", Lens{.of = Lens::Of::mesh, .hold_mm = 12}, 2);
  d.drawn(1, "eye, left", Lens{.of = Lens::Of::tinted, .rise_mm = 12, .across_mm = 58}, {{42, 68, 90}}).mirrored =
      false;
  d.drawn(1, "eye, right", Lens{.of = Lens::Of::tinted, .rise_mm = 8, .across_mm = 36}, {{-42, 68, 90}}).mirrored =
      false;
  d.rim(1, "lamps", Lights{.spacing = {.pitch_mm = 48}, .across_mm = 10, .each_ma = 20, .battery_mah = 2600}, 1, 26);
  d.drawn(1, "antennae", Wire{.use = Wire::Use::antenna, .thick_mm = 3, .long_mm = 110, .bend_deg = 35, .bead_mm = 14},
      {{70, 96, -50}});
  d.rim(1, "lower rim", Strip{.lies = Strip::Lies::over_edge, .wide_mm = 12}, 1);
}

void marsh(Dresser d) {
  d.drawn(1, "breathing holes",
      HoleField{.wide_mm = 70, .high_mm = 40, .across_mm = 6, .pitch_mm = 13, .pitch_up_mm = 11}, {{88, 118, 20}});
  Detail& plates = d.rim(1, "laced plates",
      LacedPlates{.path = LacedPlates::Path::crossed, .rows = 3, .high_mm = 44, .flare = 0.06, .pitch_mm = 26}, 1);
  plates.track.start = 0.17, plates.track.end = 0.83;
  d.feature(1, "rivets of the bowl", rivets(9, 36), "ring 2", -14);
  d.drawn(1, "crown strip", Strip{.wide_mm = 34},
       {{0, 105, 100}, {0, 130, 60}, {0, 150, 0}, {0, 130, -60}, {0, 105, -100}})
      .thickness_mm = 4;
}

void otter(Dresser d) {
  d.feature(1, "mane", Tufts{.rows = 5, .pitch_mm = 12, .wide_mm = 20, .overlap = 0.35, .long_mm = 42, .lift_mm = 20},
      "crest ridge");
  d.rim(1, "ruff", Tufts{.rows = 3, .pitch_mm = 13, .wide_mm = 22, .overlap = 0.3, .long_mm = 44, .lift_mm = 16}, 1);
  d.rim(2, "eye lenses", Lens{.of = Lens::Of::clear, .hold_mm = 7}, 2);
  d.drawn(2, "nose", Lens{.of = Lens::Of::foam, .rise_mm = 13, .across_mm = 34}, {{0, 0, 139}});
  d.put(3, "scars of the torn ear", Damage{.of = Damage::Of::gouges, .count = 3, .least_mm = 6, .most_mm = 13});
}

}  // namespace

void dress_demo(Build& build, const std::string& id) {
  const Dresser d(build);
  if (id == "heron-warden") return heron(d);
  if (id == "ferry-keeper") return ferry(d);
  if (id == "almanac-seller") return almanac(d);
  if (id == "toll-clerk") return toll(d);
  if (id == "thicket-ram") return ram(d);
  if (id == "reed-mask") return reed(d);
  if (id == "eel-catcher") return eel(d);
  if (id == "lamp-post") return lamp(d);
  if (id == "marsh-guard") return marsh(d);
  if (id == "otter-pup") return otter(d);
}

}  // namespace awl
