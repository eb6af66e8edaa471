#include "app/shell/drag_bench.hpp"

#include <QElapsedTimer>
#include <QMouseEvent>
#include <cstdio>

#include "core/dress/detail.hpp"
#include "core/make/yield.hpp"

namespace awl {
namespace {

void wait(MainWindow& window, int ms) {
  QElapsedTimer clock;
  clock.start();
  while (clock.elapsed() < ms || (ms == 0 && window.deriver().isBusy()))
    QApplication::processEvents(QEventLoop::AllEvents, 5);
}

void send(StandView& stand, QEvent::Type type, QPointF at) {
  const Qt::MouseButtons held = type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton;
  QMouseEvent event(
      type, at, stand.mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held, Qt::NoModifier);
  QApplication::sendEvent(&stand, &event);
}

/// From press to release, forty moves. Milliseconds of the slowest event.
double drag(BenchApplication& app, MainWindow& window, const QString& name) {
  StandView& stand = window.stand();
  int grip = -1;
  for (int i = 0; i < static_cast<int>(stand.grips().size()); ++i)
    if (stand.grips()[i].dial == name.toStdString()) grip = i;
  if (grip < 0) return -1.0;
  const QPointF from = stand.gripPlace(grip);
  wait(window, 300);
  (void)app.takeLongestMs();
  send(stand, QEvent::MouseButtonPress, from);
  for (int i = 1; i <= 40; ++i) {
    send(stand, QEvent::MouseMove, from + QPointF(0.5 * i, 0.25 * i));
    wait(window, 16);
  }
  send(stand, QEvent::MouseButtonRelease, from + QPointF(20.0, 10.0));
  wait(window, 0);
  std::printf("# its longest event was of type %d\n", app.longestWas());
  return app.takeLongestMs();
}

/// Pictures a second of a part with this many rivets on it, turned a little each time, as it is painted while it moves.
double framesWithRivets(MainWindow& window, int rivets, int& made) {
  Build build = *demo_by_name("ferry-keeper", window.document().build().coat.start);
  build.dress = {};
  Detail detail;
  detail.id = 1, detail.name = "rivets";
  Studs studs;
  studs.rows = 12, studs.apart_mm = 9, studs.across_mm = 3, studs.bore_mm = 1;
  studs.spacing.keeps = Keeps::count, studs.spacing.count = rivets / studs.rows;
  detail.shape = studs;
  detail.track.from = TrackFrom::rim, detail.track.off_mm = 20;
  build.dress.details = {detail};
  window.document().replace(build, {});
  wait(window, 0);
  // Trying on and the light of the room are worked out beside the window: they are over before this is measured.
  while (window.deriver().isFitting()) wait(window, 100);
  window.stand().finishedPicture();
  made = 0;
  for (const Yield* y : yields_of(window.deriver().latest()))
    for (const YieldSolid& solid : y->solids) made += static_cast<int>(solid.mesh.vertices.size()) / 18;
  StandChoice choice;
  const StandScene scene = makeStandScene(window.deriver().latest(), choice);
  StandRaster raster;
  StandRaster::Options options;
  QElapsedTimer clock;
  clock.start();
  constexpr int kFrames = 60;
  StandCamera camera;
  for (int i = 0; i < kFrames; ++i) {
    camera.yaw += 0.02f;
    (void)raster.render(scene.bodies, camera, window.stand().size(), 1, options);
  }
  return 1000.0 * kFrames / static_cast<double>(std::max<qint64>(1, clock.elapsed()));
}

}  // namespace

void benchDrags(BenchApplication& app, MainWindow& window) {
  window.document().replace(*demo_by_name("heron-warden", window.document().build().coat.start), {});
  wait(window, 0);
  window.showStation(QStringLiteral("form"));
  const Part& wrap = first_wrap(window.document().build());
  window.document().takeInHand(wrap.id);
  wait(window, 500);
  std::printf("drag_grip_worst_ms\t%.1f\n", drag(app, window, QStringLiteral("edge4")));
  window.document().edit(QStringLiteral("Draw a seam"), [](Build& next) {
    DrawnSeam line;
    line.id = 1;
    line.name = "down the side";
    line.inked = true;
    line.points = {Vec3(0, 110, 40), Vec3(60, 70, 30), Vec3(85, 20, 20), Vec3(80, -30, 10)};
    first_wrap(next).drawn.push_back(line);
  });
  wait(window, 0);
  window.showStation(QStringLiteral("seams"));
  window.stand().look(0.9f, 0.14f);
  wait(window, 500);
  std::printf("drag_marker_worst_ms\t%.1f\n", drag(app, window, QStringLiteral("seam1.2")));
  window.document().edit(QStringLiteral("Put it on"), [](Build& next) {
    Detail line;
    line.id = 999, line.name = "drawn";
    line.shape = Studs{};
    line.track.points = {Vec3(0, 110, 40), Vec3(60, 70, 30), Vec3(85, 20, 20), Vec3(80, -30, 10)};
    next.dress.details.insert(next.dress.details.begin(), line);
  });
  wait(window, 0);
  window.showStation(QStringLiteral("dress"));
  window.station().focusPlace(QStringLiteral("dress/999"));
  window.stand().look(0.9f, 0.14f);
  wait(window, 800);
  std::printf("drag_detail_worst_ms\t%.1f\n", drag(app, window, QStringLiteral("seam999.2")));
  int made = 0;
  const double frames = framesWithRivets(window, 2004, made);
  std::printf("stand_rivets\t%d\nstand_rivets_frames_per_s\t%.1f\n", made, frames);
  std::fflush(stdout);
}

}  // namespace awl
