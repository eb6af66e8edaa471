#include "core/builds/part.hpp"

namespace awl {
namespace {

Part part(const char* name, Shape shape) {
  Part p;
  p.name = name, p.shape = std::move(shape);
  return p;
}

Part wrap(const char* name, WrapEdge edge, const std::function<void(WrapSpec&, SeamSpec&)>& edit = {}) {
  WrapSpec w;
  w.edge = edge;
  Part p = part(name, w);
  if (edit) edit(std::get<WrapSpec>(p.shape), p.seams);
  return p;
}

RingsSpec stack(std::vector<Ring> rings) {
  RingsSpec s;
  s.bands.assign(rings.size() - 1, {});
  s.rings = std::move(rings);
  return s;
}

Part cone_hat() {
  RingsSpec s = stack({{RingFrom::hat_line, -2, 0}, {RingFrom::last_ring, 40, -2}});
  s.cap = CapKind::pointed, s.cap_mm = 290, s.brim = {75, 62, 75, 8, 0, false}, s.pieces_round = 2, s.tilt_deg = 6;
  return part("cone hat", s);
}
Part tall_hat() {
  RingsSpec s = stack({{RingFrom::hat_line, -2, 0}, {RingFrom::last_ring, 150, 7, 0, 6, 0, 0, 14}});
  s.bands[0] = {BandKind::bulged, -7};
  s.cap = CapKind::flat, s.brim = {52, 44, 56, 4, 20, true}, s.pieces_round = 2;
  return part("tall hat", s);
}
Part great_helm() {
  RingsSpec s = stack({{RingFrom::chin, -12, 8, 0, 10, 4}, {RingFrom::brow, 14, 9, 0, 8, 3}, {RingFrom::crown, 26, 3}});
  s.cap = CapKind::flat, s.face = FaceKind::slits, s.pieces_round = 1;
  return part("great helm", s);
}
Part bowl_helm() {
  RingsSpec s = stack({{RingFrom::brow, -2, 12}, {RingFrom::last_ring, 28, 12}});
  s.cap = CapKind::domed, s.cap_mm = 4, s.pieces_round = 8, s.peak_mm = 42, s.neck_rows = 3, s.neck_row_mm = 46;
  return part("bowl helm", s);
}
Part petal_dome() {
  RingsSpec s = stack({{RingFrom::hat_line, 0, 8}, {RingFrom::last_ring, 20, 8}});
  s.cap = CapKind::domed, s.cap_mm = 3, s.pieces_round = 10;
  return part("petal dome", s);
}
Part lantern_helm() {
  RingsSpec s = stack({{RingFrom::chin, -24, 26, 10}, {RingFrom::crown, 34, 26, 10}});
  s.oval = OvalKind::squarish, s.cap = CapKind::flat, s.face = FaceKind::window, s.pieces_round = 2;
  return part("lantern helm", s);
}

SweepSpec sweep(Seat seat, double length, double curl, double base) {
  SweepSpec s;
  s.seat = seat, s.length_mm = length, s.curl_deg = curl, s.base_wide_mm = s.base_deep_mm = base, s.strips = 4;
  return s;
}
Part horn() { return part("horns", sweep({.around_deg = 38, .up_deg = 44, .lean_deg = 10}, 200, -75, 46)); }
Part ram_horn() {
  SweepSpec s = sweep({.around_deg = 58, .up_deg = 34, .lean_deg = -8, .splay_deg = 10}, 520, 430, 62);
  s.rise_deg = 150, s.tighten = 0.25, s.taper = 1.3, s.ridges = 14, s.ridge_mm = 2.0, s.strips = 8, s.lengths = 2,
  s.tip_share = 0.06;
  return part("ram's horns", s);
}
Part antler() {
  SweepSpec s = sweep({.around_deg = 40, .up_deg = 52, .lean_deg = 4, .splay_deg = 14}, 330, -60, 36);
  s.branches = 3, s.taper = 1.3, s.branch_mm = 130;
  return part("antlers", s);
}
Part tusk() {
  return part("tusks", sweep({.around_deg = 22, .up_deg = -46, .lean_deg = -20, .splay_deg = 8}, 130, -100, 26));
}
Part tentacle() {
  SweepSpec s = sweep({.around_deg = 24, .up_deg = -38, .lean_deg = -40, .splay_deg = 10}, 300, 60, 34);
  s.wave_deg = 40, s.taper = 1.2;
  return part("tentacles", s);
}
Part swept_crest() {
  SweepSpec s = sweep({.around_deg = 0, .up_deg = 66, .lean_deg = 30}, 330, -64, 34);
  s.pair = false, s.base_deep_mm = 96, s.lens = 0.8, s.taper = 1.5, s.strips = 2;
  return part("swept crest", s);
}
Part tail() {
  SweepSpec s = sweep({.around_deg = 180, .up_deg = -18, .lean_deg = -40}, 420, -110, 52);
  s.pair = false, s.wave_deg = 20, s.taper = 1.2;
  return part("tail", s);
}
Part barrels() {
  SweepSpec s = sweep({.around_deg = 22, .up_deg = -9, .lean_deg = 4, .splay_deg = -10}, 42, 0, 46);
  s.tip_share = 0.86, s.tip_open = true, s.strips = 1, s.taper = 1;
  return part("goggle barrels", s);
}
Part tongue() {
  TongueSpec s;
  s.seat = {.around_deg = 0, .up_deg = -40, .lean_deg = -18};
  return part("tongue", s);
}

CurvePoint p(double x, double y, bool corner = false) { return {{x, y}, corner}; }

PlateSpec plate(Seat seat, Bend bend, std::vector<std::vector<CurvePoint>> layers) {
  PlateSpec s;
  s.seat = seat, s.bend = bend;
  for (auto& outline : layers) s.layers.push_back({std::move(outline), true, 0.0});
  return s;
}
Part face_plate() {
  PlateSpec s = plate({.around_deg = 0, .up_deg = -10}, Bend::round,
      {{p(0, 46, true), p(38, 50), p(66, 34), p(70, 0), p(60, -40), p(38, -80), p(0, -98, true)},
          {p(0, 42, true), p(30, 44), p(58, 28), p(64, 16, true), p(40, 17), p(12, 12), p(8, -20), p(13, -40),
              p(0, -46, true)}});
  s.holes = {{HoleFor::eye, 40, 17, 0, 0, 8}, {HoleFor::mouth, 46, 9, 0, 0, 0, 3}};
  s.layers[1].holes = false;
  return part("face plate", s);
}
Part eye_mask() {
  PlateSpec s = plate({.around_deg = 0, .up_deg = -8}, Bend::round,
      {{p(0, 20, true), p(26, 27), p(58, 32), p(82, 40, true), p(74, 4), p(54, -24), p(28, -30), p(12, -16),
          p(0, -6, true)}});
  s.holes = {{HoleFor::eye, 34, 18, 0, 0, 8}};
  return part("eye mask", s);
}
Part jaw() {
  PlateSpec s = plate({.around_deg = 0, .up_deg = -53}, Bend::round,
      {{p(0, 6, true), p(36, 10), p(80, 34), p(130, 60), p(176, 68), p(190, 54), p(180, 40), p(130, 22), p(76, -26),
          p(32, -44), p(0, -48, true)}});
  return part("jaw", s);
}
Part tiara() {
  PlateSpec s = plate({.around_deg = 0, .up_deg = 12}, Bend::cone,
      {{p(0, 62, true), p(10, 30), p(34, 26), p(74, 44), p(108, 96, true), p(104, 40), p(92, 8), p(60, -4),
          p(0, -8, true)}});
  s.slope_deg = 12, s.follows_face = false;
  return part("tiara", s);
}
Part ears(const char* name, double tall, double wide, Seat seat) {
  PlateSpec s = plate(seat, Bend::cup,
      {{p(-0.5 * wide, -14), p(-0.5 * wide, 0.3 * tall), p(-0.14 * wide, 0.8 * tall), p(0, tall, true),
          p(0.2 * wide, 0.78 * tall), p(0.5 * wide, 0.28 * tall), p(0.5 * wide, -14), p(0, -22)}});
  s.on_fold = false, s.standing = true, s.follows_face = false, s.cup_mm = 0.62 * wide, s.lip_deg = 40,
  s.lip_mm = 0.16 * wide;
  return part(name, s);
}
Part buckle() {
  PlateSpec s = plate({.around_deg = 0, .up_deg = -52}, Bend::flat,
      {{p(0, 22, true), p(26, 22, true), p(30, 18), p(30, -18), p(26, -22, true), p(0, -22, true)}});
  s.follows_face = false, s.ease_mm = 2, s.holes = {{HoleFor::free, 40, 30, 0, 0, 0, 6}};
  return part("buckle", s);
}
Part emblem() {
  PlateSpec s = plate({.around_deg = 0, .up_deg = 24}, Bend::round,
      {{p(0, 34, true), p(22, 24), p(28, 0), p(16, -22), p(0, -34, true)},
          {p(0, 20, true), p(8, 8, true), p(18, 4, true), p(9, -4, true), p(10, -18, true), p(0, -10, true)}});
  s.follows_face = false;
  return part("emblem", s);
}
Part sandwich_crest() {
  PlateSpec s = plate({.around_deg = 0, .up_deg = 84}, Bend::flat,
      {{p(112, -60), p(128, -18), p(96, 34), p(36, 62), p(-34, 52), p(-82, 10), p(-96, -40, true), p(-60, -60),
          p(60, -70)}});
  s.on_fold = false, s.upright = true, s.follows_face = false, s.ease_mm = 0, s.core_mm = 12, s.layer_mm = 5;
  s.layers.push_back(s.layers[0]);
  return part("crest", s);
}

Part body(const char* name, BodyKind kind, const Vec3& size, Seat seat) {
  BodySpec s;
  s.kind = kind, s.seat = seat, s.wide_mm = size.x(), s.tall_mm = size.y(), s.deep_mm = size.z();
  return part(name, s);
}

std::vector<PartPreset> bodies() {
  return {
      {"ball", "Balls", "Balls and blocks", "A pair of balls or eggs, in strips.",
          [] {
            Part p = body("balls", BodyKind::ball, {64, 64, 64}, {.around_deg = 40, .up_deg = 44});
            std::get<BodySpec>(p.shape).strips = 8;
            return p;
          }},
      {"disc", "Discs", "Balls and blocks", "Two flat faces and a wall round them: ear pieces, wheels, medals.",
          [] {
            Part p = body("discs", BodyKind::disc, {76, 76, 34}, {.around_deg = 90, .up_deg = -8});
            std::get<BodySpec>(p.shape).sunk_mm = 20;
            return p;
          }},
      {"box", "Box", "Balls and blocks", "Six flat faces: a lamp, a pack, a plinth.",
          [] {
            Part p = body("box", BodyKind::box, {60, 50, 46}, {.around_deg = 0, .up_deg = 84});
            std::get<BodySpec>(p.shape).sides = BodySides::middle;
            return p;
          }},
      {"knob", "Knob, turned", "Balls and blocks", "An outline turned about its axis, as on a lathe.",
          [] {
            Part p = body("knob", BodyKind::turned, {52, 52, 84}, {.around_deg = 0, .up_deg = 88});
            std::get<BodySpec>(p.shape).sides = BodySides::middle, std::get<BodySpec>(p.shape).strips = 8;
            return p;
          }},
      {"leaf", "Leaf, blown up", "Balls and blocks",
          "An outline blown up like a cushion; the outline may be a picture's.",
          [] {
            Part p = body("leaves", BodyKind::inflated, {70, 110, 22},
                {.around_deg = 64, .up_deg = 30, .lean_deg = -78});  // stands on its edge
            std::get<BodySpec>(p.shape).sunk_mm = 11;
            return p;
          }},
  };
}

std::vector<PartPreset> worn() {
  const auto masked = [](WrapSpec& w, SeamSpec& s) {
    w.hair_mm = 0, w.padding_mm = 5, w.tight_mm = 50, w.eye_wide_mm = 36, w.eye_tall_mm = 20, s.gores_per_side = 1,
    s.belt = false;
  };
  return {
      {"hood", "Hood", "Hoods and caps", "A base over the head that leaves the face free.",
          [] { return wrap("hood", WrapEdge::open_face); }},
      {"cowl", "Cowl", "Hoods and caps", "Over head and neck, with an opening for the face.",
          [] { return wrap("cowl", WrapEdge::full_cowl); }},
      {"skull-cap", "Skull cap", "Hoods and caps", "A base for what sits on the crown.",
          [] { return wrap("skull cap", WrapEdge::skull_cap, [](WrapSpec&, SeamSpec& s) { s.belt = false; }); }},
      {"half-mask", "Half mask", "Masks", "Over eyes and nose.",
          [=] { return wrap("half mask", WrapEdge::half_mask, masked); }},
      {"full-mask", "Full mask", "Masks", "Over the whole face, in four panels.",
          [=] {
            return wrap("full mask", WrapEdge::full_mask, [=](WrapSpec& w, SeamSpec& s) {
              masked(w, s), w.mouth_wide_mm = 46, w.mouth_tall_mm = 14, s.belt = true, s.belt_up_mm = -22;
            });
          }},
      {"neck-piece", "Neck piece", "Neck and arms", "A collar below the jaw.",
          [] {
            return wrap("neck piece", WrapEdge::neck_piece,
                [](WrapSpec&, SeamSpec& s) { s.gores_per_side = 2, s.belt = false; });
          }},
      {"arm-guard", "Arm guards", "Neck and arms", "Round the forearms, from wrist and forearm girth.",
          [] { return part("arm guards", LimbSpec{}); }},
      {"cone-hat", "Cone hat with brim", "Hats", "A sweatband, a cover in two halves, a brim.", cone_hat},
      {"tall-hat", "Curved tall hat", "Hats", "A waisted crown with a curved top.", tall_hat},
      {"great-helm", "Tapered great helm", "Helms", "A straight band round the face, a taper, a flat top.", great_helm},
      {"bowl-helm", "Bowl helm with neck plates", "Helms", "A dome, a peak, rows of plates round the neck.", bowl_helm},
      {"petal-dome", "Dome of petals", "Helms", "A cap of ten petals.", petal_dome},
      {"lantern-helm", "Drum-like lantern helm", "Helms", "Straight sides and a window.", lantern_helm},
      {"goggle-barrels", "Goggle barrels", "Fittings", "Oblique tubes before the eyes.", barrels},
      {"horn", "Horns", "Horns and tusks", "A pair, hooked forward or back.", horn},
      {"ram-horn", "Ram's horns", "Horns and tusks", "A pair that curls more than once round.", ram_horn},
      {"antler", "Antlers", "Horns and tusks", "A beam with tines.", antler},
      {"tusk", "Tusks", "Horns and tusks", "A pair at the jaw.", tusk},
      {"tentacle", "Tentacles", "Crests and tails", "A waving pair.", tentacle},
      {"swept-crest", "Swept crest", "Crests and tails", "A keel over the middle of the head.", swept_crest},
      {"tail", "Tail", "Crests and tails", "Hangs at the back.", tail},
      {"tongue", "Tongue", "Crests and tails", "A thick and a thin layer; the longer one curls it.", tongue},
      {"face-plate", "Layered face plate", "Masks", "Flat layers bent onto the face.", face_plate},
      {"eye-mask", "Eye mask", "Masks", "One sheet over the eyes.", eye_mask},
      {"jaw", "Moving jaw", "Masks", "From ear to ear below the mouth; hung on a hinge at Fit, the chin works it.",
          jaw},
      {"tiara", "Tiara with wings", "Fittings", "Stands on the curve of the brow.", tiara},
      {"cat-ears", "Cat-like ears", "Ears", "Short and wide, with a curled lip.",
          [] { return ears("ears", 84, 74, {.around_deg = 58, .up_deg = 58}); }},
      {"long-ears", "Long ears", "Ears", "Tall and narrow.",
          [] { return ears("long ears", 190, 62, {.around_deg = 66, .up_deg = 52, .lean_deg = 22}); }},
      {"cover", "Cover", "Covers and linings",
          "A skin over the part it sits on: fabric, thermoplastic, a second layer.",
          [] { return part("cover", CoverSpec{}); }},
      {"lining", "Lining", "Covers and linings", "On the inside of the part it sits on, cut flush.",
          [] {
            return part("lining", CoverSpec{CoverFace::inside, CoverOver::all, 0.0, 0.0});
          }},
      {"brim-layer", "Second brim", "Covers and linings", "Doubles a hat's brim from below.",
          [] {
            return part("second brim", CoverSpec{CoverFace::inside, CoverOver::brim, 0.0, 0.0});
          }},
      {"buckle", "Buckle", "Fittings", "A frame for a strap.", buckle},
      {"emblem", "Emblem", "Fittings", "Two layers on the brow.", emblem},
      {"sandwich-crest", "Sandwiched crest", "Crests and tails", "Two sheets round a core, on edge.", sandwich_crest},
  };
}

}  // namespace

const std::vector<std::string>& things() {
  static const std::vector<std::string> all{"Hoods and caps", "Masks", "Hats", "Helms", "Horns and tusks", "Ears",
      "Crests and tails", "Neck and arms", "Fittings", "Balls and blocks", "Covers and linings"};
  return all;
}

const std::vector<PartPreset>& part_presets() {
  static const std::vector<PartPreset> presets = [] {
    auto all = worn();
    for (PartPreset& body : bodies()) all.push_back(std::move(body));
    return all;
  }();
  return presets;
}

}  // namespace awl
