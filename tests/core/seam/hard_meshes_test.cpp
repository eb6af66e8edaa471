#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/random.hpp"
#include "core/geom/mending/mend.hpp"
#include "core/seam/panels.hpp"
#include "core/seam/parting/parted_form.hpp"
#include "support/effort.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

/// A head-like lump, 280 mm long: what everything else here is a spoilt copy of.
Mesh lump(int times, const std::function<double(const Vec3&)>& more = {}) {
  Mesh mesh = test::icosphere(1.0, times);
  for (Vec3& p : mesh.vertices) {
    const auto bump = [&](const Vec3& at, double high, double wide) {
      const double angle = std::acos(std::clamp(p.dot(at.normalized()), -1.0, 1.0));
      return high * std::exp(-angle * angle / (2.0 * wide * wide));
    };
    const double r = 120.0 + bump({0, -0.3, 1}, 30.0, 0.35) - bump({0, 0.2, -1}, 12.0, 0.5) + (more ? more(p) : 0.0);
    p = r * Vec3(0.9 * p.x(), p.y(), p.z());
  }
  return mesh;
}

void put_beside(Mesh& to, const Mesh& more) {
  const int n = static_cast<int>(to.vertices.size());
  to.vertices.insert(to.vertices.end(), more.vertices.begin(), more.vertices.end());
  for (const Tri& t : more.triangles) to.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
}

Mesh scaled(Mesh mesh, double by) {
  for (Vec3& p : mesh.vertices) p *= by;
  return mesh;
}

struct Hard {
  const char* name;
  std::size_t most;  ///< panels
  Mesh mesh;
};

std::vector<Hard> hard_meshes() {
  std::vector<Hard> all;
  Random random(21);
  Mesh noise = lump(4);
  for (Vec3& p : noise.vertices) p += Vec3(random.uniform(-2, 2), random.uniform(-2, 2), random.uniform(-2, 2));
  all.push_back({"noise", 8, noise});
  Mesh flipped = lump(4);
  for (Tri& t : flipped.triangles)
    if (random.below(2) == 0) std::swap(t[1], t[2]);
  all.push_back({"half the faces flipped", 8, flipped});
  Mesh holes = lump(4);
  std::erase_if(holes.triangles, [&](const Tri& t) {
    const Vec3 n = holes.vertices[t[0]].normalized();
    return n.dot(Vec3(1, 0.2, 0).normalized()) > 0.99 || n.dot(Vec3(-0.3, 1, 0.2).normalized()) > 0.995;
  });
  all.push_back({"holes", 8, holes});
  Mesh fin = lump(4);
  put_beside(fin, {{{0, 90, -60}, {0, 90, 60}, {0, 190, 30}, {0, 190, -30}}, {{0, 1, 2}, {0, 2, 3}}});
  all.push_back({"a fin without thickness", 10, fin});
  Mesh shells = lump(4);
  put_beside(shells, scaled(lump(3), 0.9)), put_beside(shells, scaled(lump(3), 0.7));
  all.push_back({"three shells", 24, shells});
  Mesh edge = lump(4);
  edge.vertices.push_back({0, 0, 260});
  edge.triangles.push_back({edge.triangles[0][0], edge.triangles[0][1], static_cast<int>(edge.vertices.size()) - 1});
  all.push_back({"an edge of three triangles", 8, edge});
  Mesh uneven = test::welded(test::structured(
      240, 14, true, false, [](double u, double v) { return test::on_sphere(120.0, u, std::pow(v, 1.6)); }));
  all.push_back({"very uneven", 10, uneven});
  Mesh cutting = scaled(lump(4), 0.8);
  Mesh other = test::icosphere(70.0, 4);
  for (Vec3& p : other.vertices) p += Vec3(0, 95, 20);
  put_beside(cutting, other);
  all.push_back({"it cuts itself", 24, cutting});
  all.push_back({"nine needles", 40, lump(5, [](const Vec3& n) {
                   double out = 0.0;
                   for (int i = 0; i < 9; ++i) {
                     const double a = 2.399963 * i, y = 1.0 - 2.0 * (i + 0.5) / 9.0, s = std::sqrt(1.0 - y * y);
                     const double angle =
                         std::acos(std::clamp(n.dot(Vec3(s * std::cos(a), y, s * std::sin(a))), -1.0, 1.0));
                     out = std::max(out, 110.0 * std::max(0.0, 1.0 - angle / 0.06));
                   }
                   return out;
                 })});
  return all;
}

}  // namespace

TEST_CASE("nine hard meshes become panels that lie flat, or say in words why not", "[seam][parting][hard][property]") {
  for (const Hard& hard : hard_meshes()) {
    INFO(hard.name);
    const auto mended = mend(hard.mesh);
    if (!mended) {
      CHECK(mended.error().text.size() > 20);
      continue;
    }
    AnyMeshOptions options;
    options.slits = false;
    const auto made = part_any_mesh(mended->mesh, options);
    if (!made) {
      CHECK(made.error().text.size() > 20);
      FAIL_CHECK(made.error().text);
      continue;
    }
    PanelOptions flat;
    flat.thickness_mm = options.thickness_mm, flat.least_mm2 = 0.0;
    const auto set = make_panels(made->form, flat);
    REQUIRE(set);
    double worst = 0.0;
    for (const Panel& p : set->panels) {
      worst = std::max(worst, p.strain.p99);
      CHECK(p.flipped == 0);
      CHECK_FALSE(p.overlaps);
    }
    INFO(set->panels.size() << " panels, worst " << worst);
    CHECK(worst <= 1.1 * options.tolerance);
    CHECK(set->panels.size() <= hard.most);
    if (test::hard()) std::printf("%-28s %zu panels, worst %.4f\n", hard.name, set->panels.size(), worst);
  }
}
