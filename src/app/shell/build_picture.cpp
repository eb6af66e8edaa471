#include "app/shell/build_picture.hpp"

#include <QBuffer>
#include <cmath>

#include "app/stand/stand_scene.hpp"
#include "core/base/data_files.hpp"
#include "core/builds/fresh.hpp"

namespace awl {
namespace {

constexpr int kStartPx = 176;

}  // namespace

QImage pictureOf(const Chain& chain, const Build& build, QSize size, const std::atomic<bool>& wanted) {
  const Derived d = chain.derive(build, Progress([&](double) { return wanted.load(); }));
  if (!d.head || !d.form) return {};
  StandChoice choice;
  choice.seams = false;
  StandScene scene = makeStandScene(d, choice);
  Box box;
  for (const Vec3& p : d.form->surface.mesh.vertices) box.include(p);
  if (build.making == Making::parts)
    for (const Vec3& p : d.head->mesh.vertices) box.include(p);
  StandCamera camera;
  camera.target = (0.5 * (box.low + box.high)).cast<float>();
  camera.distance = static_cast<float>(box.size().norm() / (2.0 * std::tan(0.5 * camera.field)) * 0.92);
  if (!bakeLight(scene.bodies, 48, [&] { return wanted.load(); })) return {};
  StandRaster raster;
  return raster.render(scene.bodies, camera, size, 2, {}).scaled(size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

Result<void> writeStartPictures(const Chain& chain, const QString& folder) {
  const std::atomic<bool> wanted{true};
  std::vector<std::string> ids{kHeadformStart};
  for (const PartPreset* p : first_starts()) ids.push_back(p->id);
  for (const std::string& id : ids) {
    FreshBuild wish;
    wish.start = id;
    const auto build = fresh_build(wish, chain.materials(), chain.fitter().populations());
    if (!build) return fail(build);
    QBuffer png;
    png.open(QIODevice::WriteOnly);
    pictureOf(chain, *build, {kStartPx, kStartPx}, wanted).save(&png, "PNG");
    if (auto written = write_file_safely(
            (folder + QStringLiteral("/") + QString::fromStdString(id) + QStringLiteral(".png")).toStdString(),
            png.data().toStdString());
        !written)
      return written;
  }
  return {};
}

}  // namespace awl
