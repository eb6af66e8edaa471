#include "core/seam/parting/parting.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/geom/mending/even.hpp"
#include "core/seam/panels.hpp"
#include "core/seam/parting/joining.hpp"
#include "core/seam/parting/opening.hpp"
#include "core/seam/parting/parted_form.hpp"
#include "core/seam/parting/seeds.hpp"
#include "core/seam/parting/straighten.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;
using parting::Patchwork;

namespace {

Mesh even_of(const Mesh& mesh, double edge_mm) {
  EvenGoal goal;
  goal.edge_mm = edge_mm;
  return *evened(mesh, goal);
}

/// A ball with bumps, as nobody would draw it.
Mesh lumpy(int seed) {
  Random random(static_cast<std::uint64_t>(seed));
  std::vector<std::pair<Vec3, double>> bumps;
  for (int i = 0; i < 6; ++i)
    bumps.push_back(
        {Vec3(random.normal(), random.normal(), random.normal()).normalized(), random.uniform(-18.0, 40.0)});
  Mesh mesh = test::icosphere(100.0, 4);
  for (Vec3& p : mesh.vertices) {
    const Vec3 n = p.normalized();
    for (const auto& [at, high] : bumps) p += n * high * std::exp(-10.0 * (n - at).squaredNorm());
  }
  return even_of(mesh, 11.0);
}

std::vector<int> all_faces(const Patchwork& work) {
  std::vector<int> faces;
  for (int f = 0; f < static_cast<int>(work.mesh.triangles.size()); ++f) faces.push_back(f);
  return faces;
}

void check_whole(const Patchwork& work) {
  std::size_t faces = 0;
  for (const auto& [id, patch] : work.patches) {
    CAPTURE(id);
    CHECK(work.copy_of(patch.faces).disk);
    faces += patch.faces.size();
    double area = 0.0;
    for (const int f : patch.faces) {
      CHECK(work.patch_of[static_cast<std::size_t>(f)] == id);
      area += work.area(f);
    }
    CHECK(patch.area_mm2 == Approx(area));
  }
  CHECK(faces == work.mesh.triangles.size());
}

}  // namespace

TEST_CASE("seeds are disks whatever the surface, closed, pierced or in several pieces", "[seam][parting]") {
  Mesh two = even_of(test::torus(90.0, 35.0), 12.0);
  const int n = static_cast<int>(two.vertices.size());
  for (const Vec3& p : even_of(test::icosphere(40.0, 3), 12.0).vertices) two.vertices.push_back(p + Vec3(400, 0, 0));
  for (const Tri& t : even_of(test::icosphere(40.0, 3), 12.0).triangles)
    two.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
  for (const Mesh& mesh : {lumpy(3), two, even_of(test::cylinder(60.0, 200.0), 12.0)})
    for (const int count : {1, 2, 7, 60}) {
      CAPTURE(count, mesh.triangles.size());
      Patchwork work(mesh, false, {});
      parting::seed(work, all_faces(work), count);
      check_whole(work);
    }
}

TEST_CASE("joining along one arc leaves disks, and no pair is left that would lie flat", "[seam][parting]") {
  Patchwork work(lumpy(1), false, {});
  parting::Joiner joiner;
  const auto seeds = parting::seed(work, all_faces(work), 40);
  joiner.measure(work, seeds, 0.08);
  const double seam = work.seam_mm();
  REQUIRE(joiner.run(work, {0.08, 0.0, nullptr, {}}));
  check_whole(work);
  CHECK(work.patches.size() < seeds.size() / 2);
  CHECK(work.seam_mm() < seam);
  for (const auto& [id, patch] : work.patches)
    if (!patch.bad) CHECK(patch.rigid <= 0.08);
  bool stopped = false;
  Patchwork other(lumpy(1), false, {});
  joiner.measure(other, parting::seed(other, all_faces(other), 40), 0.08);
  CHECK_FALSE(joiner.run(
      other, {0.08, 0.0, nullptr, {}}, Progress([&](double) { return std::exchange(stopped, true) == false; })));
}

TEST_CASE("borders are straightened and slid without coming apart", "[seam][parting]") {
  Patchwork work(lumpy(2), false, {});
  const Nearest surface(work.mesh);
  parting::Joiner joiner;
  joiner.measure(work, parting::seed(work, all_faces(work), 40), 0.09);
  REQUIRE(joiner.run(work, {0.09, 0.0, nullptr, {}}));
  const double before = work.seam_mm();
  std::set<int> ids;
  for (const auto& [id, p] : work.patches) ids.insert(id);
  parting::straighten(work, ids, 0.09);
  check_whole(work);
  const double straight = work.seam_mm();
  CHECK(straight <= before);
  ids.clear();
  for (const auto& [id, p] : work.patches) ids.insert(id);
  parting::slide(work, surface, ids, 8);
  check_whole(work);
  CHECK(work.seam_mm() < straight);
  for (const Vec3& p : work.mesh.vertices) CHECK(std::abs(surface.to(p).signed_mm) < 0.05);
  for (const Tri& t : work.mesh.triangles) CHECK(area_vector(work.mesh, t).norm() > 1e-6);
}

TEST_CASE("a patch that gives too much is cut through its hot place", "[seam][parting]") {
  const Mesh dome = even_of(test::upper_half(test::icosphere(100.0, 4)), 10.0);
  Patchwork work(dome, false, {});
  const int id = work.set_patch(all_faces(work));
  const auto before = parting::judge_finish(work.copy_of(work.patches.at(id).faces), 8);
  REQUIRE(before.rigid > 0.1);
  Patchwork halves = work;
  const auto cut = parting::open_hot(halves, id, 0.06, false);
  REQUIRE(cut.size() == 2);
  check_whole(halves);
  for (const int half : cut) CHECK(halves.patches.at(half).finish < before.rigid);
  const auto opened = parting::open_hot(work, id, 0.06, true);
  check_whole(work);
  CHECK(opened.size() <= 2);
}

TEST_CASE("plain bodies come apart into few panels, the same twice", "[seam][parting]") {
  struct Body {
    const char* name;
    Mesh mesh;
    int most;
  };
  for (const Body& body : {Body{"sphere", even_of(test::icosphere(140.0, 4), 14.0), 5},
           {"torus", even_of(test::torus(100.0, 40.0), 13.0), 7}, {"lumpy", lumpy(4), 9}}) {
    CAPTURE(body.name);
    parting::PartingOptions options;
    options.rounds = 4;
    options.seeds = 60;
    const auto work = parting::part_surface(body.mesh, false, {}, options);
    REQUIRE(work);
    check_whole(*work);
    CHECK(parting::worst_of(*work) <= options.tolerance);
    CHECK(work->panels() <= body.most);
    const auto again = parting::part_surface(body.mesh, false, {}, options);
    CHECK(again->cut == work->cut);
    CHECK(again->mesh.vertices == work->mesh.vertices);
    const auto stopped = parting::part_surface(body.mesh, false, {}, options, Progress([](double) { return false; }));
    CHECK(stopped.error().code == Errc::cancelled);
  }
}

TEST_CASE("seams are drawn to where they cost less", "[seam][parting]") {
  const Mesh ball = even_of(test::icosphere(120.0, 4), 13.0);
  parting::PartingOptions options;
  options.rounds = 3;
  const auto cheap = [](const Vec3& p) { return p.z() < 0.0 ? 0.3 : 3.0; };
  const auto share_behind = [](const Patchwork& work) {
    double behind = 0.0, all = 0.0;
    for (std::size_t e = 0; e < work.topo.edges.size(); ++e)
      if (work.cut[e]) {
        const auto& edge = work.topo.edges[e];
        const double mm = work.edge_mm(static_cast<int>(e));
        all += mm;
        if (work.mesh.vertices[static_cast<std::size_t>(edge.a)].z() < 0.0) behind += mm;
      }
    return behind / all;
  };
  const auto plain = parting::part_surface(ball, false, {}, options);
  const auto hidden = parting::part_surface(ball, false, cheap, options);
  REQUIRE(plain);
  REQUIRE(hidden);
  CHECK(share_behind(*hidden) > share_behind(*plain));
}

TEST_CASE("any mesh becomes panels that lie flat joined to each other", "[seam][parting]") {
  AnyMeshOptions options;
  const auto made = part_any_mesh(lumpy(5), options);
  REQUIRE(made);
  PanelOptions flat;
  flat.thickness_mm = options.thickness_mm;
  flat.least_mm2 = 0.0;
  const auto set = make_panels(made->form, flat);
  REQUIRE(set);
  CHECK(set->panels.size() <= 12);
  for (const Panel& p : set->panels) {
    CAPTURE(p.name);
    CHECK(p.flipped == 0);
    CHECK_FALSE(p.overlaps);
    CHECK(p.strain.p99 <= 1.1 * options.tolerance);
  }
  for (const Seam& s : set->seams) CHECK(s.side_mm[0] == Approx(s.side_mm[1]).epsilon(0.01));
  // It can be stopped at any time, also while joined panels are looked at.
  for (const int after : {1, 3, 8, 20}) {
    int asked = 0;
    const auto stopped = part_any_mesh(lumpy(5), options, Progress([&](double) { return ++asked <= after; }));
    CHECK(stopped.error().code == Errc::cancelled);
  }
}

TEST_CASE("what is its own image is cut alike on both sides, however it was turned", "[seam][parting]") {
  Mesh egg = even_of(test::icosphere(100.0, 4), 11.0);
  for (Vec3& p : egg.vertices) {
    p.y() *= 1.3;
    if (p.z() > 0.0) p.z() *= 1.6;
    p.x() *= 0.8;
  }
  const Eigen::Matrix3d turn = Eigen::AngleAxisd(0.4, Vec3(1, 2, 0.5).normalized()).toRotationMatrix();
  for (Vec3& p : egg.vertices) p = turn * p + Vec3(30, -20, 10);
  const auto made = part_any_mesh(egg, {});
  REQUIRE(made);
  if (!made->form.twin_of.empty()) {
    CHECK(is_mirrored(made->form));
    CHECK(made->turned);
  }
  AnyMeshOptions plain;
  plain.mirror = false;
  const auto whole = part_any_mesh(egg, plain);
  REQUIRE(whole);
  CHECK(whole->form.twin_of.empty());
  CHECK_FALSE(whole->turned);
}

TEST_CASE("cuts of a parted form are smoothed at the end, and no panel gives too much for it", "[seam][parting]") {
  AnyMeshOptions options;
  options.tolerance = 0.08, options.mirror = false;
  const SheetMiddle sheet(lumpy(3), 0.5 * options.thickness_mm, false);
  const auto parting = parting_options(options);
  auto work = parting::part_surface(sheet.middle(), false, {}, parting);
  REQUIRE(work);
  work = sheet.laid_on(std::move(*work), parting);
  REQUIRE(work);
  const auto cut_mm = [](const Patchwork& of) {
    double sum = 0.0;
    for (std::size_t e = 0; e < of.topo.edges.size(); ++e)
      if (of.cut[e] && !of.is_free_border(static_cast<int>(e))) sum += of.edge_mm(static_cast<int>(e));
    return sum;
  };
  const auto worst = [&](const Patchwork& of) {
    PanelOptions flat;
    flat.thickness_mm = options.thickness_mm, flat.least_mm2 = 0.0;
    const auto set = make_panels(seams_of(of), flat);
    REQUIRE(set);
    double most = 0.0;
    for (const Panel& panel : set->panels) {
      CHECK(panel.flipped == 0);
      most = std::max(most, panel.strain.p99);
    }
    return most;
  };
  const double before = worst(*work), was_mm = cut_mm(*work);
  Patchwork faired = *work;
  fair_cuts(faired, sheet, options, before);
  CHECK(cut_mm(faired) < 0.995 * was_mm);
  CHECK(worst(faired) <= 1.021 * std::max(options.tolerance, before));
  // Cut along the same edges: only places moved, and on the surface.
  CHECK(faired.cut == work->cut);
  const Nearest surface(sheet.surface());
  for (const Vec3& at : faired.mesh.vertices) CHECK((surface.to(at).point - at).norm() < 1e-6);
}
