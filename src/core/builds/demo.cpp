#include "core/builds/demo_coat.hpp"
#include "core/builds/demo_dress.hpp"

namespace awl {
namespace {

using M = MeasureId;

/// Five wearers, all made up.
enum class Who { warden, keeper, seller, ram, pup };

void measure(Build& b, Who who, Day day) {
  const auto set = [&](const char* people, const MeasureSet& tapes) {
    b.tape.people = people, b.tape.day = day, b.tape.by = "the workshop";
    for (const auto& [id, mm] : tapes) b.tape.set(id, mm);
  };
  switch (who) {
    case Who::warden:
      return set(
          "adult", {{M::HC, 584.0}, {M::HL, 201.0}, {M::HB, 158.0}, {M::TOP, 352.0}, {M::FH, 121.0}, {M::NC, 385.0}});
    case Who::keeper:
      return set(
          "adult", {{M::HC, 601.0}, {M::HL, 207.0}, {M::HB, 163.0}, {M::FH, 126.0}, {M::NC, 412.0}, {M::PD, 66.0}});
    case Who::seller:
      return set("adult", {{M::HC, 541.0}, {M::HL, 187.0}, {M::HB, 147.0}, {M::FH, 111.0}, {M::PD, 60.0}});
    case Who::ram:
      return set("adult", {{M::HC, 566.0}, {M::HL, 196.0}, {M::HB, 153.0}, {M::TOP, 345.0}});
    case Who::pup:
      return set("child-5", {{M::HC, 512.0}, {M::HL, 178.0}, {M::HB, 141.0}, {M::FH, 95.0}});
  }
}

Build start(const char* name, Who who, Day today, const char* notes) {
  Build b;
  b.name = b.wearer = name;
  measure(b, who, today);
  b.parts.clear();
  b.coat.start = today, b.coat.due = Day{today.number + 14};
  b.notes = notes;
  return b;
}

Part preset(const char* id) { return *part_from_preset(id); }

template <class Spec>
Spec& spec_of(Part& part) {
  return std::get<Spec>(part.shape);
}

Build heron_warden(Day today) {
  Build b = start(
      "Heron Warden", Who::warden, today, "Beaked cowl helm with crest for the Saltmarsh Lantern Walk; the showpiece.");
  Part cowl = preset("cowl");
  auto& w = spec_of<WrapSpec>(cowl);
  w.padding_mm = 8, w.ear_hole_mm = 26;
  w.cards = {{CardKind::brow_ridge, 16, 62, 26, 6, 0, 4, 1.5}};
  cowl.seams.gores_per_side = 4;
  const int on = *add_part(b, cowl);
  Part mask = preset("half-mask");
  auto& m = spec_of<WrapSpec>(mask);
  mask.name = "beak";
  m.cards = {{CardKind::beak, 105, 54, 30, 0, 0, 34, 1.0}};
  m.padding_mm = 9, m.hair_mm = 0;
  mask.meets = {{on, MeetHow::edge}};  // it fills the cowl's face
  const int beak = *add_part(b, mask);
  add_part(b, cut_to_base(preset("swept-crest"), on), on);
  b.fit.slits = {{.id = 1, .part = on, .long_mm = 120.0, .opens_mm = 142.0}};
  b.fit.holds = {{.id = 1, .part = beak}};
  return b;
}

Build ferry_keeper(Day today) {
  Build b = start("Ferry Keeper", Who::keeper, today, "Tapered great helm with cap, strips and rivets.");
  add_part(b, preset("great-helm"));
  return b;
}

Build almanac_seller(Day today) {
  Build b = start("Almanac Seller", Who::seller, today, "Cone hat with brim, covered in printed leaves.");
  const int hat = *add_part(b, preset("cone-hat"));
  Part buckle = preset("buckle");
  auto& s = spec_of<PlateSpec>(buckle);
  s.seat.up_deg = 36, s.ease_mm = 0, s.bend = Bend::round;
  add_part(b, buckle, hat);
  return b;
}

Build toll_clerk(Day today) {
  Build b = start("Toll Clerk", Who::keeper, today, "Curved tall hat with a rolled brim and a badge.");
  const int hat = *add_part(b, preset("tall-hat"));
  Part badge = preset("emblem");
  spec_of<PlateSpec>(badge).seat.up_deg = 44, spec_of<PlateSpec>(badge).ease_mm = 0;
  add_part(b, badge, hat);
  Part tubes = preset("goggle-barrels");
  tubes.name = "eye tubes";
  add_part(b, tubes);
  return b;
}

Build thicket_ram(Day today) {
  Build b = start("Thicket Ram", Who::ram, today, "Curled horns on a band, held by magnets; long ears below them.");
  RingsSpec band;
  band.rings = {{RingFrom::hat_line, -4, 0}, {RingFrom::last_ring, 34, 1}};
  band.bands = {{}};
  Part strip;
  strip.name = "band", strip.shape = band;
  const int on = *add_part(b, strip);
  const int horns = *add_part(b, preset("ram-horn"), on);
  b.fit.holds = {
      {.id = 1, .part = horns, .by = HoldBy::magnets, .between_mm = 1.5}, {.id = 2, .part = on, .by = HoldBy::band}};
  return b;
}

Build reed_mask(Day today) {
  Build b = start("Reed Mask", Who::seller, today, "Four-panel face mask.");
  Part mask = preset("full-mask");
  spec_of<WrapSpec>(mask).cards = {
      {CardKind::cheek_plane, 14, 50, 34, 0, 0, 0, 2}, {CardKind::chin, 14, 40, 24, 0, 0, 4, 2}};
  b.fit.holds = {{.id = 1, .part = *add_part(b, mask)}};
  return b;
}

Build eel_catcher(Day today) {
  Build b = start("Eel Catcher", Who::keeper, today, "Helm with sweeping jaws for the teeth.");
  const int hood = *add_part(b, preset("hood"));
  Part jaws = preset("tusk");
  jaws.name = "jaws";
  auto& s = spec_of<SweepSpec>(jaws);
  s.seat = {.around_deg = 66, .up_deg = -34, .splay_deg = -62}, s.length_mm = 190, s.curl_deg = -8, s.base_wide_mm = 30,
  s.base_deep_mm = 46, s.tip_share = 0.22, s.lens = 0.7, s.strips = 2,
  s.tip_open = true;  // a plug of solid foam goes in
  add_part(b, cut_to_base(std::move(jaws), hood), hood);
  Part fin = preset("sandwich-crest");
  add_part(b, fin, hood);
  add_part(b, preset("tongue"));
  return b;
}

Build lamp_post(Day today) {
  Build b = start("Lamp Post", Who::warden, today, "Robot-like lantern helm with visor and lights.");
  const int drum = *add_part(b, preset("lantern-helm"));
  Part tubes = preset("goggle-barrels");
  auto& s = spec_of<SweepSpec>(tubes);
  tubes.name = "aerials";
  s.seat = {.around_deg = 60, .up_deg = 66}, s.length_mm = 90, s.base_wide_mm = s.base_deep_mm = 26, s.tip_share = 0.5;
  add_part(b, cut_to_base(std::move(tubes), drum), drum);
  b.fit.rooms = {{.id = 1,
      .kind = RoomKind::battery,
      .size_mm = {62.0, 90.0, 20.0},
      .at_mm = {0.0, 20.0, -116.5},
      .mass_g = 180.0}};
  return b;
}

Build marsh_guard(Day today) {
  Build b = start("Marsh Guard", Who::keeper, today, "Bowl helm with laced neck plates.");
  Part bowl = preset("bowl-helm");
  spec_of<RingsSpec>(bowl).neck_rows = 0;  // its plates hang laced instead
  b.fit.holds = {{.id = 1, .part = *add_part(b, bowl), .by = HoldBy::chin_strap}};
  add_part(b, preset("arm-guard"));
  b.extras.insert(Extra::arm_guards);
  return b;
}

/// A bite out of an outline, in its outer edge below the tip.
void tear(std::vector<CurvePoint>& outline) {
  std::size_t at = 0;
  for (std::size_t i = 1; i < outline.size(); ++i)
    if (!outline[i].corner && outline[i].at.sum() > outline[at].at.sum()) at = i;
  const Vec2 edge = outline[at].at, in = -edge.normalized(), along(-in.y(), in.x());
  const std::vector<CurvePoint> bite{{edge - 7.0 * along, true}, {edge + 13.0 * in - 2.0 * along, true},
      {edge + 8.0 * in + 3.0 * along, true}, {edge + 6.0 * along, true}};
  outline.erase(outline.begin() + static_cast<long>(at));
  outline.insert(outline.begin() + static_cast<long>(at), bite.begin(), bite.end());
}

Build otter_pup(Day today) {
  Build b = start("Otter Pup", Who::pup, today, "Soft animal head for a child.");
  Part head = preset("cowl");
  head.name = "otter head", head.seams.gores_per_side = 5;
  auto& w = spec_of<WrapSpec>(head);
  w.padding_mm = 10, w.face_wider_mm = -4;
  w.cards = {{CardKind::brow_ridge, 18, 50, 34, 10, 0, -4, 8}, {CardKind::crest, 8, 180, 20, 0, 0, 0, 8}};
  const int on = *add_part(b, head);
  Part snout = preset("half-mask");
  auto& m = spec_of<WrapSpec>(snout);
  snout.name = "snout", snout.seams.gores_per_side = 3, snout.seams.belt = true, snout.seams.belt_up_mm = -8;
  m.cards = {{CardKind::muzzle, 24, 64, 40, 8, 0, 2, 15}};
  m.front_up_mm = -36, m.side_up_mm = 6, m.padding_mm = 12;
  add_part(b, snout);
  Part ears = preset("cat-ears");
  auto& e = spec_of<PlateSpec>(ears);
  e.seat.around_deg = 62, e.seat.up_deg = 48;
  for (CurvePoint& p : e.layers[0].outline) p.at *= 0.6, p.corner = false;
  e.cup_mm = 30, e.lip_deg = 20;
  // Each its own: the left one is torn at its outer edge.
  Part right = ears;
  right.name = "right ear", ears.name = "torn ear";
  e.one_sided = true;
  auto& whole = spec_of<PlateSpec>(right);
  whole.one_sided = true, whole.seat.around_deg = -62;
  tear(e.layers[0].outline);
  add_part(b, ears, on), add_part(b, right, on);
  b.fit.slits = {
      {.id = 1, .part = on, .at = SlitAt::sides, .by = ClosedBy::elastic, .long_mm = 105.0, .opens_mm = 103.0}};
  return b;
}

DemoEntry dressed_demo(const char* id, const char* name, const char* about, Build (*make)(Day)) {
  return {id, name, about, [id, make](Day today) {
            Build b = make(today);
            dress_demo(b, id);
            coat_demo(b, id);
            return b;
          }};
}

}  // namespace

const std::vector<DemoEntry>& demo_gallery() {
  static const std::vector<DemoEntry> entries{
      dressed_demo("heron-warden", "Heron Warden", "Beaked cowl helm with crest", heron_warden),
      dressed_demo("ferry-keeper", "Ferry Keeper", "Tapered great helm", ferry_keeper),
      dressed_demo("almanac-seller", "Almanac Seller", "Cone hat with brim", almanac_seller),
      dressed_demo("toll-clerk", "Toll Clerk", "Curved tall hat", toll_clerk),
      dressed_demo("thicket-ram", "Thicket Ram", "Curled horns on a band", thicket_ram),
      dressed_demo("reed-mask", "Reed Mask", "Four-panel face mask", reed_mask),
      dressed_demo("eel-catcher", "Eel Catcher", "Helm with sweeping jaws", eel_catcher),
      dressed_demo("lamp-post", "Lamp Post", "Robot-like lantern helm", lamp_post),
      dressed_demo("marsh-guard", "Marsh Guard", "Bowl helm with neck plates", marsh_guard),
      dressed_demo("otter-pup", "Otter Pup", "Soft animal head", otter_pup),
  };
  return entries;
}

Build demo_build(Day today) {
  Build b = start("Heron Warden, hood", Who::warden, today,
      "Beaked cowl helm with crest for the Saltmarsh Lantern Walk. This hood is its base.");
  b.wearer = "Heron Warden";
  Part hood = preset("hood");
  spec_of<WrapSpec>(hood).padding_mm = 8.0;
  add_part(b, hood);
  b.coat.due = Day{today.number + 11};
  return b;
}

Result<Build> demo_by_name(const std::string& name, Day today) {
  if (name == "hood") return demo_build(today);
  std::string known = "hood";
  for (const DemoEntry& entry : demo_gallery()) {
    if (entry.id == name) return entry.make(today);
    known += ", " + entry.id;
  }
  return fail(Errc::unknown_name, "There is no demo called \"" + name + "\"; there are " + known + ".");
}

}  // namespace awl
