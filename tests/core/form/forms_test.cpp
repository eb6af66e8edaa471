#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"
#include "core/chain/questions.hpp"
#include "support/bench_data.hpp"
#include "support/effort.hpp"
#include "support/numbers.hpp"
#include "support/self_intersection.hpp"

using namespace awl;

namespace {

/// A build of one preset for a wearer of these measures, and nothing else.
Build wearing(const char* preset, const MeasureSet& tapes, const char* people = "adult") {
  Build b = test::demo();
  b.parts.clear();
  (void)add_part(b, *part_from_preset(preset));
  b.tape = sheet_of(tapes, people);
  return b;
}

/// Edges used by one triangle only, two, or more.
struct EdgeCount {
  int border = 0, wrong = 0;
};
EdgeCount edges_of(const Mesh& mesh) {
  EdgeCount count;
  for (const auto& e : topology_of(mesh).edges) {
    count.border += e.right < 0 ? 1 : 0;
    count.wrong += e.more > 0 ? 1 : 0;
  }
  return count;
}

}  // namespace

TEST_CASE("every ready start is made for a usual, a child's and a very large head", "[form][presets]") {
  for (const PartPreset& preset : part_presets())
    for (const auto& [tapes, people] :
        {std::pair{&test::kUsual, "adult"}, {&test::kChild, "child-5"}, {&test::kHuge, "adult"}}) {
      CAPTURE(preset.id, people, tapes->at(MeasureId::HC));
      Build b = wearing(preset.thing != "Covers and linings" ? preset.id.c_str()
              : preset.id == "brim-layer"                    ? "cone-hat"
                                                             : "hood",
          *tapes, people);
      if (preset.thing == "Covers and linings") REQUIRE(add_part(b, preset.make(), b.parts.front().id));
      const Derived d = test::chain()->derive(b);
      if (d.error) UNSCOPED_INFO(d.error->text);
      for (const Error& e : d.part_errors) UNSCOPED_INFO(e.text);
      REQUIRE(d.form);
      CHECK(d.part_errors.empty());
      REQUIRE(d.complete());
      CHECK(edges_of(d.form->surface.mesh).wrong == 0);
      for (const Panel& p : d.panels->panels) {
        CHECK(p.flipped == 0);
        CHECK_FALSE(p.overlaps);
      }
      for (const Piece& p : *d.pieces) CHECK(p.area_mm2 > 10.0);
      for (const Seam& s : d.panels->seams) CHECK(std::abs(s.side_mm[0] - s.side_mm[1]) <= 0.05);
    }
}

TEST_CASE("a part follows the head it is put on", "[form][regrade]") {
  for (const char* id : {"hood", "cone-hat", "great-helm", "bowl-helm", "eye-mask", "full-mask"}) {
    CAPTURE(id);
    const Derived small = test::chain()->derive(wearing(id, test::kChild, "child-5")),
                  large = test::chain()->derive(wearing(id, test::kHuge));
    REQUIRE(small.complete());
    REQUIRE(large.complete());
    CHECK(large.form->area_mm2 > 1.08 * small.form->area_mm2);
    CHECK(large.pieces->size() == small.pieces->size());
  }
}

TEST_CASE("straight bands unroll with no more than five hundredths of a percent of error", "[form][rings]") {
  for (const char* id : {"cone-hat", "great-helm", "lantern-helm", "arm-guard"}) {
    CAPTURE(id);
    Build b = wearing(id, test::kUsual);
    if (auto* rings = std::get_if<RingsSpec>(&b.parts[0].shape))
      rings->brim = {}, rings->face = FaceKind::none, rings->cap = CapKind::none;
    const Derived d = test::chain()->derive(b);
    REQUIRE(d.complete());
    for (const Panel& p : d.panels->panels) {
      CHECK(p.strain.max <= 5e-4);
      for (const BorderEdge& e : p.border) {
        const double solid = (p.solid.vertices[e.a] - p.solid.vertices[e.b]).norm(),
                     flat = (p.flat[e.a] - p.flat[e.b]).norm();
        CHECK(flat == Approx(solid).epsilon(5e-4));
      }
    }
  }
}

TEST_CASE("a cylinder of rings unrolls to the rectangle of its girth", "[form][rings]") {
  Build b = wearing("great-helm", test::kUsual);
  auto& rings = std::get<RingsSpec>(b.parts[0].shape);
  rings.rings = {{RingFrom::crown, -40}, {RingFrom::crown, 20}};  // so near the crown both are the same oval
  rings.bands = {{}}, rings.cap = CapKind::none, rings.face = FaceKind::none;
  b.foam.foam = "eva-firm", b.foam.thickness_mm = 5.0;
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  REQUIRE(d.pieces->size() == 1);
  const Oval oval = oval_over(*d.head, d.head->at(Landmark::vertex).y()).grown(rings.ease_mm);
  // Laid flat is the middle of the sheet: half its thickness further out.
  CHECK((*d.pieces)[0].area_mm2 == Approx(60.0 * (oval.girth_mm() + kTwoPi * 2.5)).epsilon(0.003));
  CHECK(d.form->lower_girth_mm == Approx(oval.girth_mm()).epsilon(1e-6));
}

TEST_CASE("numbers outside are refused with the nearest that works", "[form][dials]") {
  const Part horn = *part_from_preset("horn");
  const auto refused = with_dial(horn, "length", 5000.0);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("5000 mm") != std::string::npos);
  CHECK(refused.error().text.find("nearest that works is 1500 mm") != std::string::npos);
  CHECK(refused.error().where == "parts/1/length");
  CHECK(with_dial(horn, "feathers", 1.0).error().code == Errc::unknown_name);
  Build b = wearing("horn", test::kUsual);
  auto& s = std::get<SweepSpec>(b.parts[0].shape);
  s.length_mm = 90, s.curl_deg = 400;
  const auto tight = try_part(*test::chain(), b, 1);
  REQUIRE_FALSE(tight);
  CHECK(tight.error().text.find("too tight") != std::string::npos);
  s.length_mm = 900, s.curl_deg = 540, s.base_wide_mm = s.base_deep_mm = 60, s.taper = 4;
  const auto coils = try_part(*test::chain(), b, 1);
  REQUIRE_FALSE(coils);
  CHECK(coils.error().text.find("run into each other") != std::string::npos);
  CHECK(coils.error().where.rfind("parts/1/", 0) == 0);
}

TEST_CASE("the length that is said to clear a tight bend does clear it", "[form][sweep]") {
  Build b = wearing("horn", test::kUsual);
  auto& s = std::get<SweepSpec>(b.parts[0].shape);
  s.length_mm = 60, s.curl_deg = -170;
  const auto refused = try_part(*test::chain(), b, 1);
  REQUIRE_FALSE(refused);
  const auto at = refused.error().text.find("A length of ");
  REQUIRE(at != std::string::npos);
  s.length_mm = test::numbers_in(refused.error().text, at).at(0);
  const auto cleared = try_part(*test::chain(), b, 1);
  INFO((cleared ? std::string() : cleared.error().text));
  CHECK(cleared);
}

TEST_CASE("random turns of the dials give sound forms or a sentence", "[form][property]") {
  Random random(21);
  const int rounds = test::tries(3, 30);
  int made = 0, told = 0, uncrossed = 0;
  for (const PartPreset& preset : part_presets()) {
    for (int round = 0; round < rounds; ++round) {
      Build b = wearing(preset.id.c_str(), test::kUsual);
      for (const Dial& d : dials_of(b.parts[0])) {
        if (random.uniform(0, 1) > 0.25 || d.facts.kind == DialKind::choice) continue;
        const double now = d.value(), reach = 0.12 * (d.facts.most - d.facts.least);
        const double to = std::clamp(now + random.uniform(-reach, reach), d.facts.least, d.facts.most);
        d.turn(d.facts.kind == DialKind::count ? std::round(to) : to);
      }
      CAPTURE(preset.id, round);
      if (auto good = try_part(*test::chain(), b, 1); !good) {
        ++told;
        CHECK(good.error().text.size() > 20);
        CHECK(good.error().where.rfind("parts/1", 0) == 0);
        continue;
      }
      ++made;
      const Derived d = test::formed(b);
      REQUIRE(d.form);
      const Mesh& mesh = d.form->surface.mesh;
      CHECK(edges_of(mesh).wrong == 0);
      for (const Vec3& p : mesh.vertices) CHECK(p.allFinite());
      for (const Tri& t : mesh.triangles) CHECK(area_vector(mesh, t).norm() > 1e-9);
      // What hangs on another or is laid in layers may touch it; nothing may cut itself.
      const auto piece = connected_parts(mesh, [](int, int) { return true; });
      for (int k = 0; k <= *std::max_element(piece.begin(), piece.end()); ++k) {
        std::vector<int> faces, old;
        for (int f = 0; f < static_cast<int>(piece.size()); ++f)
          if (piece[f] == k) faces.push_back(f);
        CHECK_FALSE(test::crosses_itself(part_of(mesh, faces, old)));
        ++uncrossed;
      }
    }
  }
  CAPTURE(made, told, uncrossed);
  CHECK(uncrossed > 40 * rounds / 3);
  CHECK(made >= 3 * told);
}

TEST_CASE("forms of one piece cut nothing of themselves", "[form][self-intersection]") {
  for (const char* id :
      {"hood", "full-mask", "cone-hat", "tall-hat", "great-helm", "lantern-helm", "petal-dome", "horn", "ram-horn",
          "tusk", "tentacle", "swept-crest", "tail", "goggle-barrels", "eye-mask", "tiara", "cat-ears"}) {
    CAPTURE(id);
    const Derived d = test::formed(wearing(id, test::kUsual));
    REQUIRE(d.form);
    CHECK_FALSE(test::crosses_itself(d.form->surface.mesh));
  }
}

TEST_CASE("a horn is cut by what it sits on and stands wholly outside of it", "[form][sweep]") {
  Build b = wearing("hood", test::kUsual);
  (void)add_part(b, *part_from_preset("horn"), 1);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const PartForm *hood = d.form->of(1), *horn = d.form->of(2);
  REQUIRE(horn != nullptr);
  const Mesh outer = sheet_face(hood->surface.mesh,
      {{"hood", static_cast<int>(hood->surface.mesh.vertices.size()),
          static_cast<int>(hood->surface.mesh.triangles.size()), false, hood->thickness_mm}},
      true);
  const Nearest on_hood(outer);
  double deepest = 1e9;
  for (const Vec3& p : horn->surface.mesh.vertices) deepest = std::min(deepest, on_hood.to(p).signed_mm);
  for (const auto& loop : border_loops(horn->surface.mesh))
    for (const int v : loop) CHECK(std::abs(on_hood.to(horn->surface.mesh.vertices[v]).signed_mm) < 0.6);
  CHECK(deepest > -0.6);
  CHECK(border_loops(horn->surface.mesh).size() == 2);  // one base each, nothing else open
}

TEST_CASE("a pair of horns is one outline to cut twice and flip once", "[form][sweep]") {
  Build b = wearing("horn", test::kUsual);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  for (const Piece& p : *d.pieces) {
    CHECK(p.copies == 2);
    CHECK(p.twin.has_value());
  }
}

TEST_CASE("the tongue curls by what its longer layer is longer", "[form][sweep]") {
  TongueSpec t;
  t.length_mm = 160, t.thick_mm = 6, t.thin_mm = 2, t.longer_mm = 8;
  CHECK(curl_radius_mm(t) == Approx(80.0));
  Build b = wearing("tongue", test::kUsual);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  REQUIRE(d.pieces->size() == 2);
  double tall[2];
  for (int i = 0; i < 2; ++i) {
    double low = 1e9, high = -1e9;
    for (const Vec2& p : (*d.pieces)[i].outline) low = std::min(low, p.y()), high = std::max(high, p.y());
    tall[i] = high - low;
  }
  CHECK(std::abs(tall[0] - tall[1]) == Approx(8.0).epsilon(0.02));
}

TEST_CASE("a plate is cut as it was drawn, its eye holes before the wearer's pupils", "[form][plate]") {
  const Derived d = test::chain()->derive(wearing("eye-mask", test::kUsual));
  REQUIRE(d.complete());
  REQUIRE(d.pieces->size() == 1);
  const Piece& piece = d.pieces->front();
  CHECK(piece.holes.size() == 2);
  const PlateLayout& layout = *d.form->parts[0]->plate;
  Vec2 pupil = Vec2::Zero();
  for (const auto& [name, at] : layout.marks)
    if (name == "pupil" && at.x() > 0.0) pupil = at;
  CHECK((polygon_centre(layout.holes[1]) - pupil).norm() < 0.5);
  // What lies on the head reads the same lengths as the sheet.
  const Panel& panel = d.panels->panels[0];
  CHECK(panel.given_flat);
  CHECK(panel.strain.p99 < 0.02);
  const Derived wide = test::chain()->derive(wearing(
      "eye-mask", {{MeasureId::HC, 566.0}, {MeasureId::HL, 196.0}, {MeasureId::HB, 153.0}, {MeasureId::PD, 70.0}}));
  REQUIRE(wide.complete());
  CHECK(polygon_centre(wide.form->parts[0]->plate->holes[1]).x() > polygon_centre(layout.holes[1]).x() + 2.0);
}

TEST_CASE("a plate bent onto the head itself lies on it wherever it sits, the right way up", "[form][plate]") {
  for (const double up : {-30.0, 0.0, 20.0, 44.0, 70.0, 88.0}) {
    CAPTURE(up);
    Build b = wearing("emblem", test::kUsual);
    auto& spec = std::get<PlateSpec>(b.parts[0].shape);
    spec.bend = Bend::face, spec.seat.up_deg = up, spec.ease_mm = 2.0;
    const Derived d = test::chain()->derive(b);
    CAPTURE(d.error ? d.error->text : std::string());
    REQUIRE(d.complete());
    const Mesh& plate = d.form->parts[0]->surface.mesh;
    CHECK(d.form->parts[0]->area_mm2 > 1000.0);
    const Nearest skin(d.head->mesh);
    double far = 0.0;
    for (const Vec3& p : plate.vertices) {
      REQUIRE(p.allFinite());
      far = std::max(far, (skin.to(p).point - p).norm());
    }
    CHECK(far < 35.0);
    // What is drawn above is nearer to the crown, which lies ahead of all these places on the way up.
    const Vec3 crown = d.head->at(Landmark::vertex);
    const auto& home = d.form->parts[0]->surface.home;
    REQUIRE(home.size() == plate.vertices.size());
    std::size_t high = 0, low = 0;
    for (std::size_t v = 0; v < home.size(); ++v) {
      if (home[v].y() > home[high].y()) high = v;
      if (home[v].y() < home[low].y()) low = v;
    }
    if (up < 80.0) CHECK((plate.vertices[high] - crown).norm() < (plate.vertices[low] - crown).norm());
  }
}

TEST_CASE("an outline that crosses itself is refused with its layer", "[form][plate]") {
  Build b = wearing("buckle", test::kUsual);
  auto& outline = std::get<PlateSpec>(b.parts[0].shape).layers[0].outline;
  std::swap(outline[1].at, outline[4].at);
  const auto refused = try_part(*test::chain(), b, 1);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("Layer 1") != std::string::npos);
  CHECK(refused.error().text.find("crosses") != std::string::npos);
}

TEST_CASE("a crest on edge is cut to the head below it", "[form][plate]") {
  const Derived d = test::chain()->derive(wearing("sandwich-crest", test::kUsual));
  REQUIRE(d.form);
  const Nearest head(d.head->mesh);
  double least = 1e9;
  for (const Vec3& p : d.form->surface.mesh.vertices) least = std::min(least, head.to(p).signed_mm);
  CHECK(least > -0.6);
  CHECK(least < 1.5);
}

TEST_CASE("shapes under the tape push it out, and their ridge lies on it", "[form][wrap]") {
  Build plain = wearing("half-mask", test::kUsual), beaked = plain;
  std::get<WrapSpec>(beaked.parts[0].shape).cards = {{CardKind::beak, 90, 54, 30, 0, 0, 30, 1.0}};
  const Derived without = test::chain()->derive(plain), with = test::chain()->derive(beaked);
  REQUIRE(with.complete());
  CHECK(
      box_of(with.form->surface.mesh.vertices).high.z() > box_of(without.form->surface.mesh.vertices).high.z() + 55.0);
  CHECK(with.form->clearance.least_mm >= 0.9 * 5.0);
  const PartForm& form = *with.form->parts[0];
  REQUIRE_FALSE(form.features.empty());
  CHECK(form.features[0].name == "beak ridge");
  const Nearest surface(form.surface.mesh);
  for (const Vec3& p : form.features[0].line) CHECK(std::abs(surface.to(p).signed_mm) < 0.1);
  bool handle = false;
  for (const Handle& h : form.handles) handle = handle || h.dial == "card1.reach";
  CHECK(handle);
}

TEST_CASE("a second skin lies over the first by its foam and its ease", "[form][wrap]") {
  Build b = wearing("hood", test::kUsual);
  Part over = *part_from_preset("skull-cap");
  std::get<WrapSpec>(over.shape).hair_mm = 0, std::get<WrapSpec>(over.shape).padding_mm = 2;
  over.seams.stagger = true;
  (void)add_part(b, over, 1);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const double first = wrap_of(b).ease_mm() + 5.0 + 2.0;
  CHECK(d.form->of(2)->ease_mm == Approx(first));
  CHECK(d.form->of(2)->clearance.least_mm >= 0.95 * first);
}

TEST_CASE("a one-sided wrap is no mirror image and says so by its pieces", "[form][wrap]") {
  Build b = wearing("hood", test::kUsual);
  std::get<WrapSpec>(b.parts[0].shape).left_up_mm = 40;
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const Box box = box_of(d.form->surface.mesh.vertices);
  double left = 1e9, right = 1e9;
  for (const Vec3& p : d.form->surface.mesh.vertices)
    (p.x() > 50 ? left : right) = std::min(p.x() > 50 ? left : right, std::abs(p.x()) > 50 ? p.y() : 1e9);
  CHECK(left > right + 15.0);
  CHECK(box.size().x() > 150.0);
  for (const Piece& p : *d.pieces) CHECK(p.copies == 1);
}

TEST_CASE("an arm guard that does not slip over the hand says by how much", "[form][limb]") {
  Build b = wearing("arm-guard", test::kUsual);
  b.tape.body = {{BodyMeasure::wrist, 160.0}, {BodyMeasure::forearm, 260.0}, {BodyMeasure::hand, 260.0}};
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const auto slip =
      std::find_if(d.remarks.begin(), d.remarks.end(), [](const Remark& r) { return r.id == "form.slip-on"; });
  REQUIRE(slip != d.remarks.end());
  CHECK(*slip->measured == Approx(160.0 + kTwoPi * 10.0).epsilon(1e-6));
  CHECK(*slip->limit == 260.0);
  std::get<LimbSpec>(b.parts[0].shape).overlap_mm = -60;
  const Derived open = test::chain()->derive(b);
  CHECK(std::none_of(open.remarks.begin(), open.remarks.end(), [](const Remark& r) { return r.id == "form.slip-on"; }));
}

TEST_CASE("a sandwiched crest has a core of its own thickness behind the rims", "[form][plate]") {
  Build b = wearing("sandwich-crest", test::kUsual);
  auto& spec = std::get<PlateSpec>(b.parts[0].shape);
  REQUIRE(spec.layers.size() == 2);
  spec.core_mm = 12, spec.core_in_mm = 4, spec.layers[0].bevel_deg = 30, spec.layer_mm = 4;
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  std::map<double, int> by_thickness;
  double core_area = 0.0, face_area = 0.0;
  for (const Piece& p : *d.pieces) {
    by_thickness[p.thickness_mm] += p.copies;
    (p.thickness_mm == 12.0 ? core_area : face_area) = p.area_mm2;
  }
  CHECK(by_thickness[12.0] == 1);
  CHECK(by_thickness[4.0] == 2);
  CHECK(core_area < face_area);
  int bevelled = 0;
  for (const Piece& p : *d.pieces)
    for (const PieceEdge& e : p.edges) bevelled += std::abs(e.tilt_deg - 30.0) < 1e-9 ? 1 : 0;
  CHECK(bevelled == 1);
  spec.core_in_mm = 30;
  spec.layers[0].outline =
      spec.layers[1].outline = {{{0, 0}, true}, {{30, 0}, true}, {{30, 90}, true}, {{0, 90}, true}};
  const auto nothing = try_part(*test::chain(), b, 1);
  REQUIRE_FALSE(nothing);
  CHECK(nothing.error().text.find("Nothing is left of the core") != std::string::npos);
}

TEST_CASE("the layers of a tongue are cut from foam of their own thickness", "[form][sweep]") {
  Build b = wearing("tongue", test::kUsual);
  auto& spec = std::get<TongueSpec>(b.parts[0].shape);
  spec.thick_mm = 6, spec.thin_mm = 2;
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  std::set<double> thick;
  for (const Piece& p : *d.pieces) thick.insert(p.thickness_mm);
  CHECK(thick == std::set<double>{2.0, 6.0});
  CHECK(d.layout->sheets == 2);  // each on a sheet of its own
}
