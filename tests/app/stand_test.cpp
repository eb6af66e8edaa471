#include <QSignalSpy>
#include <QTest>
#include <QWheelEvent>
#include <algorithm>
#include <catch2/catch.hpp>
#include <set>

#include "app/mat/mat_view.hpp"
#include "app/stand/stand_view.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

StandBody square(float z, Vec3f colour) {
  StandBody b;
  for (const auto& [x, y] : {std::pair{-100.f, -100.f}, {100.f, -100.f}, {100.f, 100.f}, {-100.f, 100.f}})
    b.places.push_back({x, y, z}), b.normals.push_back({0, 0, 1});
  b.triangles = {{0, 1, 2}, {0, 2, 3}};
  b.colour = colour;
  return b;
}

double brightness(const QImage& image, QRect part) {
  double sum = 0.0;
  for (int y = part.top(); y <= part.bottom(); ++y)
    for (int x = part.left(); x <= part.right(); ++x) sum += qGray(image.pixel(x, y));
  return sum / (part.width() * part.height());
}

}  // namespace

TEST_CASE("what is nearer hides what is behind it, and is what is picked", "[app][raster]") {
  StandRaster raster;
  StandCamera camera;
  camera.target = Vec3f::Zero();
  camera.yaw = camera.pitch = 0.0f;
  const QImage image =
      raster.render({square(0, {0.9f, 0.1f, 0.1f}), square(50, {0.1f, 0.9f, 0.1f})}, camera, {200, 200}, 1, {});
  const QColor middle = image.pixelColor(100, 100);
  CHECK(middle.green() > 2 * middle.red());
  CHECK(raster.pick({100, 100}).body == 1);
  CHECK(raster.pick({2, 2}).body == -1);
  camera.yaw = static_cast<float>(M_PI);
  raster.render({square(0, {0.9f, 0.1f, 0.1f}), square(50, {0.1f, 0.9f, 0.1f})}, camera, {200, 200}, 1, {});
  CHECK(raster.pick({100, 100}).body == 0);
}

TEST_CASE("points are projected where they are drawn", "[app][raster]") {
  StandRaster raster;
  StandCamera camera;
  camera.yaw = 0.6f;
  camera.pitch = -0.3f;
  const auto body = square(10, {0.5f, 0.5f, 0.5f});
  raster.render({body}, camera, {300, 240}, 2, {});
  const Vec3f corner = 0.9f * body.places[2] + 0.1f * body.places[0];
  const Vec3f s = raster.project(corner);
  CHECK(raster.pick(QPoint(static_cast<int>(s.x() / 2), static_cast<int>(s.y() / 2))).body == 0);
  CHECK(raster.visible(corner, 2.0f));
  CHECK_FALSE(raster.visible(corner - Vec3f(0, 0, 30), 2.0f));
}

TEST_CASE("a triangle behind the eye is not drawn", "[app][raster]") {
  StandRaster raster;
  StandCamera camera;
  camera.target = Vec3f::Zero();
  camera.yaw = camera.pitch = 0.0f;
  raster.render({square(1200, {1, 1, 1})}, camera, {100, 100}, 1, {});
  CHECK(raster.pick({50, 50}).body == -1);
}

TEST_CASE("corners that see less sky get less light", "[app][raster]") {
  // A floor with a wall on it: next to the wall it is darker than far away.
  StandBody floor, wall;
  for (int j = 0; j <= 10; ++j)
    for (int i = 0; i <= 10; ++i) floor.places.push_back({20.f * i, 0, 20.f * j}), floor.normals.push_back({0, 1, 0});
  for (int j = 0; j < 10; ++j)
    for (int i = 0; i < 10; ++i)
      floor.triangles.push_back({j * 11 + i, j * 11 + i + 11, j * 11 + i + 1}),
          floor.triangles.push_back({j * 11 + i + 1, j * 11 + i + 11, j * 11 + i + 12});
  wall.places = {{0, 0, 0}, {0, 200, 0}, {0, 200, 200}, {0, 0, 200}};
  wall.normals.assign(4, {1, 0, 0});
  wall.triangles = {{0, 1, 2}, {0, 2, 3}};
  std::vector<StandBody> bodies{floor, wall};
  REQUIRE(bakeLight(bodies, 200, [] { return true; }));
  CHECK(bodies[0].light[5 * 11 + 1] < bodies[0].light[5 * 11 + 5]);
  CHECK(bodies[0].light[5 * 11 + 5] <= bodies[0].light[5 * 11 + 9]);
  CHECK_FALSE(bakeLight(bodies, 8, [] { return false; }));
}

TEST_CASE("strain colours tell direction and are pale near nothing", "[app][raster]") {
  const Vec3f none = strainColour(0.0f, 0.04f), out = strainColour(0.06f, 0.04f), in = strainColour(-0.06f, 0.04f);
  CHECK(out.x() > out.z() + 0.3f);
  CHECK(in.z() > in.x() + 0.3f);
  CHECK(none.minCoeff() > 0.8f);
}

TEST_CASE("the head on the stand is a lit, round thing in the middle of the picture", "[app][stand]") {
  StandView view;
  view.resize(500, 500);
  view.show(test::derived(), {true, false, false, false}, 0.04);
  view.look(0.3f, 0.1f);
  const QImage image = view.finishedPicture();
  REQUIRE(image.size() == QSize(500, 500));
  // Key light from the upper left: that side of the skull is brighter than the lower right.
  CHECK(brightness(image, {200, 130, 30, 30}) > brightness(image, {280, 300, 30, 30}) + 15.0);
  std::set<QRgb> tones;
  for (int y = 100; y < 400; y += 2)
    for (int x = 150; x < 350; x += 2) tones.insert(image.pixel(x, y));
  CHECK(tones.size() > 400);
}

TEST_CASE("dragging turns the view, the wheel comes nearer, keys choose sides", "[app][stand]") {
  StandView view;
  view.resize(400, 400);
  view.show(test::derived(), {}, 0.04);
  view.show();
  const float yaw = view.camera().yaw;
  QTest::mousePress(&view, Qt::LeftButton, {}, {200, 200});
  QMouseEvent move(
      QEvent::MouseMove, QPointF(260, 220), view.mapToGlobal(QPointF(260, 220)), Qt::NoButton, Qt::LeftButton, {});
  QApplication::sendEvent(&view, &move);
  QTest::mouseRelease(&view, Qt::LeftButton, {}, {260, 220});
  CHECK(view.camera().yaw != Approx(yaw));
  const float distance = view.camera().distance;
  QWheelEvent wheel({200, 200}, view.mapToGlobal(QPointF(200, 200)), {}, {0, 240}, {}, {}, Qt::NoScrollPhase, false);
  QApplication::sendEvent(&view, &wheel);
  CHECK(view.camera().distance < distance);
  QTest::keyClick(&view, Qt::Key_F);
  CHECK(view.camera().yaw == 0.0f);
  QTest::keyClick(&view, Qt::Key_B);
  CHECK(view.camera().yaw == Approx(M_PI));
  QTest::keyClick(&view, Qt::Key_T);
  CHECK(view.camera().pitch > 1.4f);
  QTest::keyClick(&view, Qt::Key_Down);
  CHECK(view.camera().pitch < 1.4f);
}

TEST_CASE(
    "what was brought into view whole stays whole in a narrower window, until the maker comes nearer", "[app][stand]") {
  StandView view;
  view.resize(800, 600);
  view.show(test::derived(), {}, 0.04);
  view.show();
  QTest::keyClick(&view, Qt::Key_A);
  const float wide = view.camera().distance;
  view.resize(300, 600);
  QApplication::processEvents();
  const float narrow = view.camera().distance;
  CHECK(narrow > 1.2f * wide);
  view.resize(800, 600);
  QApplication::processEvents();
  CHECK(view.camera().distance == Approx(wide));
  QWheelEvent wheel({200, 200}, view.mapToGlobal(QPointF(200, 200)), {}, {0, 240}, {}, {}, Qt::NoScrollPhase, false);
  QApplication::sendEvent(&view, &wheel);
  const float near = view.camera().distance;
  view.resize(300, 600);
  QApplication::processEvents();
  CHECK(view.camera().distance == near);  // a place looked at closely stays where it is
}

TEST_CASE("from the front the left and right panels of a pair stand mirrored", "[app][stand]") {
  StandView view;
  view.resize(400, 400);
  view.show(test::derived(), {}, 0.04);
  view.look(0.0f, 0.0f);
  int pairs = 0;
  for (int y = 60; y < 300; y += 12)
    for (int x = 110; x < 195; x += 12) {
      // The wearer's left (+x) is on the right of the picture.
      const int right = view.panelAt({x, y}), left = view.panelAt({399 - x, y});
      if (right < 0 || left < 0) continue;
      const auto& panel = test::derived().panels->panels[right];
      if (!panel.mirror_of) continue;
      pairs += panel.mirror_of->value == left ? 1 : 0;
    }
  CHECK(pairs > 20);
}

TEST_CASE("on a large window what is pointed at is found while the view still turns", "[app][stand]") {
  StandView small, large;
  small.resize(450, 250), large.resize(1800, 1000);
  for (StandView* view : {&small, &large}) {
    view->show(test::derived(), {}, 0.04);
    view->look(0.4f, 0.1f);  // painted coarsely until it stands still
  }
  REQUIRE(large.camera().distance == Approx(small.camera().distance).epsilon(0.02));
  int met = 0;
  for (int y = 40; y < 210; y += 10)
    for (int x = 150; x < 300; x += 10) {
      const auto coarse = large.surfaceAt({4 * x + 2, 4 * y + 2}), plain = small.surfaceAt({x, y});
      if (!coarse || !plain || (*coarse - *plain).norm() > 12.0f) continue;
      ++met;
    }
  CHECK(met > 40);
  CHECK_FALSE(large.surfaceAt({5, 5}));
}

TEST_CASE("the mat finds its copies, zooms about the pointer and fits again", "[app][mat]") {
  MatView mat;
  mat.resize(600, 500);
  mat.show(test::derived(), false, 0.04);
  for (int i = 0; i < static_cast<int>(mat.items().size()); ++i) {
    CHECK(mat.itemAt(mat.middleOf(i)) == i);
    CHECK(QRectF(mat.rect()).contains(mat.middleOf(i)));
  }
  const QPointF at = mat.middleOf(3);
  QWheelEvent wheel(at, mat.mapToGlobal(at), {}, {0, 1440}, {}, {}, Qt::NoScrollPhase, false);
  QApplication::sendEvent(&mat, &wheel);
  CHECK((mat.middleOf(3) - at).manhattanLength() < 0.01);
  CHECK_FALSE(QRectF(mat.rect()).contains(mat.middleOf(0)));
  QTest::keyClick(&mat, Qt::Key_0);
  CHECK(QRectF(mat.rect()).contains(mat.middleOf(0)));
}

TEST_CASE("an empty mat says so, and a flipped copy makes the right-hand panel", "[app][mat]") {
  MatView mat;
  mat.resize(300, 300);
  mat.show({}, false, 0.04);
  CHECK(mat.items().empty());
  CHECK_FALSE(mat.grab().isNull());
  mat.show(test::derived(), true, 0.04);
  for (const auto& item : mat.items())
    CHECK(test::derived().panels->panels[item.panel].mirror_of.has_value() == item.pose.flipped);
  QSignalSpy pointed(&mat, &MatView::panelPointed);
  QTest::mouseClick(&mat, Qt::LeftButton, {}, mat.middleOf(2).toPoint());
  QEvent leave(QEvent::Leave);
  QApplication::sendEvent(&mat, &leave);
  CHECK(pointed.last()[0].toInt() == -1);
}

TEST_CASE("where strain is shown, what has none is seen all the same, in evening light too", "[app][mat]") {
  Derived d = test::derived();
  auto pieces = std::make_shared<std::vector<Piece>>(*d.pieces);
  const Placement placed = d.layout->placements.front();
  (*pieces)[placed.piece.value].panel = {}, (*pieces)[placed.piece.value].twin.reset();
  d.pieces = pieces;
  for (const bool dark : {false, true}) {
    MatView mat;
    mat.resize(1400, 1000);
    mat.setDark(dark);
    mat.show(d, true, 0.04);
    const QImage seen = mat.grab().toImage();
    // In the middle of what is seen round a place of it: a mark may run through the place itself.
    const QPoint at = mat.middleOf(0).toPoint() + QPoint(0, 14);
    std::vector<int> grays;
    for (int x = -10; x <= 10; ++x)
      for (int y = -10; y <= 10; ++y) grays.push_back(qGray(seen.pixel(at + QPoint(x, y))));
    std::nth_element(grays.begin(), grays.begin() + grays.size() / 2, grays.end());
    const int mat_gray = qGray(seen.pixel(seen.width() / 2, 4)), piece = grays[grays.size() / 2];
    CAPTURE(dark, mat_gray, piece);
    CHECK(piece > mat_gray + 30);  // a bare sheet is less bright
  }
}

TEST_CASE("values stand beside the head without covering each other, and can be clicked", "[app][stand]") {
  StandView view;
  view.resize(700, 600);
  StandChoice choice;
  choice.hood = choice.seams = false;
  choice.tapes = choice.guessed_tapes = true;
  view.show(test::derived(), choice, 0.04);
  view.show();
  view.look(0.3f, 0.1f);
  view.grab();
  // Walk down both margins: each label is met once, in one piece.
  for (const int x : {14, 686}) {
    std::vector<int> met;
    for (int y = 0; y < 600; ++y) {
      const int measure = view.measureAt(QPointF(x, y));
      if (measure >= 0 && (met.empty() || met.back() != measure)) met.push_back(measure);
    }
    const std::set<int> once(met.begin(), met.end());
    CHECK(once.size() == met.size());
    CHECK(met.size() >= 5);
  }
}

TEST_CASE("a distance map brings its ramp, and loose points do not darken the head", "[app][stand]") {
  StandView view;
  view.resize(600, 500);
  StandChoice choice;
  choice.hood = choice.seams = false;
  view.show(test::derived(), choice, 0.04);
  const QImage plain = view.finishedPicture();
  DistanceMap map;
  map.mm.assign(test::derived().head->mesh.vertices.size(), 3.0);
  choice.map = std::make_shared<const DistanceMap>(map);
  choice.map_range_mm = 3.0;
  CHECK(makeStandScene(test::derived(), choice).overlay.legend.size() == 2);
  view.show(test::derived(), choice, 0.04);
  const QImage orange = view.finishedPicture();
  const QColor middle = orange.pixelColor(300, 200);
  CHECK(middle.red() > middle.blue() + 60);
  CHECK(plain.pixelColor(300, 200).blue() >= plain.pixelColor(300, 200).red());
}

TEST_CASE("a scan alone stands in the middle with its places, ready to be pointed at", "[app][stand][scan]") {
  StandView view;
  view.resize(500, 500);
  Scan scan;
  scan.mesh.vertices = test::derived().head->mesh.vertices;
  for (Vec3& p : scan.mesh.vertices) p += Vec3(300, 40, -900);
  scan.marks[Landmark::vertex] = test::derived().head->at(Landmark::vertex) + Vec3(300, 40, -900);
  StandChoice choice;
  choice.raw_scan = std::make_shared<const Scan>(scan);
  const StandScene scene = makeStandScene(test::derived(), choice);
  REQUIRE(scene.bodies.size() == 1);
  CHECK(scene.overlay.words.size() == 1);
  view.show(test::derived(), choice, 0.04);
  view.look(0.0f, 0.0f);
  const auto at = view.surfaceAt({250, 250});
  REQUIRE(at);
  CHECK(at->norm() < 160.0f);
  CHECK_FALSE(view.surfaceAt({3, 3}));
}

TEST_CASE("a part in slabs shows where they meet, not seams nobody cuts", "[app][stand][make]") {
  Build b = *demo_by_name("thicket-ram", Day{20731});
  const Derived skins = test::chain()->derive(b);
  REQUIRE(skins.complete());
  for (Part& p : b.parts)
    if (std::holds_alternative<SweepSpec>(p.shape)) p.way.way = Way::slabs;
  const Derived slabs = test::chain()->derive(b);
  REQUIRE(slabs.complete());
  StandChoice choice;
  choice.seams = true;
  const auto count = [&](const Derived& d) {
    std::pair<std::size_t, std::size_t> lines_words{0, 0};
    const StandScene scene = makeStandScene(d, choice);
    for (const auto& line : scene.overlay.lines) lines_words.first += line.ink == StandOverlay::Ink::seam ? 1 : 0;
    lines_words.second = scene.overlay.words.size();
    return lines_words;
  };
  const auto before = count(skins), after = count(slabs);
  std::size_t levels = 0;
  for (const auto& way : slabs.ways)
    if (way) levels += way->lines.size();
  CHECK(levels > 4);
  CHECK(after.first < before.first);
  CHECK(after.first >= levels);
  CHECK(after.second < before.second);
}
