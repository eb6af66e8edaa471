#include "core/head/scan.hpp"

#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/nearest.hpp"
#include "support/bench_data.hpp"

using namespace awl;
using M = MeasureId;

namespace {

/// A head no combination of modes can make: a random one with soft swellings of a few millimetres.
Headform odd_head(std::uint64_t seed, double swelling_mm) {
  test::Subjects subjects(seed);
  Coefficients c = subjects.coefficients();
  Headform head = test::fitter().shape(test::fitter().adults().mean + 0.8 * c);
  Random random(seed + 1000);
  const auto normals = vertex_normals(head.mesh);
  for (int k = 0; k < 6; ++k) {
    const Vec3 centre = 90.0 * Vec3(random.normal(), random.normal(), random.normal()).normalized();
    const double height = swelling_mm * random.uniform(-1.0, 1.0);
    for (std::size_t v = 0; v < normals.size(); ++v)
      head.mesh.vertices[v] += height * bell((head.mesh.vertices[v] - centre).norm(), 30.0) * normals[v];
  }
  return head;
}

/// Error of the fitted surface where there was data: 95 % of the true places of skin points lie within this.
double p95_where_seen(const ScanFit& fit, const SimulatedScan& sim) {
  const Nearest near(fit.head.mesh);
  std::vector<double> errors;
  for (std::size_t i = 0; i < sim.true_place.size(); ++i)
    if (!sim.is_hair[i] && sim.true_place[i].y() > -100.0)
      errors.push_back(std::abs(near.to(sim.true_place[i]).signed_mm));
  std::sort(errors.begin(), errors.end());
  return errors[errors.size() * 95 / 100];
}

}  // namespace

TEST_CASE("a scan with 30 % missing and a tuft of hair gives the head within 1.5 mm where there was data",
    "[head][scan][property]") {
  const auto seed = static_cast<std::uint64_t>(GENERATE(range(1, 9)));
  const Headform truth = odd_head(seed, 2.5);
  ScannerHabits habits;
  habits.seed = seed;
  SimulatedScan sim = simulate_scan(truth, habits);
  if (sim.scan.marks.size() < 3) {  // the blind spots took too many places: the maker shows others
    habits.seed += 50;
    sim = simulate_scan(truth, habits);
  }
  REQUIRE(sim.scan.marks.size() >= 3);
  const auto fit = fit_scan(test::fitter(), sim.scan, {{}, "adult", {}});
  REQUIRE(fit);
  CAPTURE(seed, fit->used_share, fit->covered_share);
  CHECK(p95_where_seen(*fit, sim) < 1.5);
  CHECK(fit->head.smallest_angle_deg > 8.0);
  CHECK(fit->covered_share < 0.9);
  CHECK(fit->covered_share > 0.45);
  int hair = 0, hair_used = 0;
  for (std::size_t i = 0; i < sim.is_hair.size(); ++i)
    if (sim.is_hair[i] && (fit->points[i] - sim.true_place[i]).norm() > 8.0) ++hair, hair_used += fit->used[i];
  if (hair > 50) CHECK(hair_used < 0.1 * hair);
}

TEST_CASE("tapes tell what the scanner did not see", "[head][scan]") {
  const Headform truth = odd_head(31, 0.0);
  ScannerHabits habits;
  habits.missing_share = 0.55, habits.seed = 77;
  const SimulatedScan sim = simulate_scan(truth, habits);
  REQUIRE(sim.scan.marks.size() >= 3);
  const auto blind = fit_scan(test::fitter(), sim.scan, {{}, "adult", {}});
  const auto told = fit_scan(test::fitter(), sim.scan,
      {{{M::HC, truth.reading(M::HC).reads_mm}, {M::HL, truth.reading(M::HL).reads_mm}}, "adult", {}});
  REQUIRE((blind && told));
  const auto off = [&](const ScanFit& fit) {
    return std::abs(fit.head.reading(M::HC).reads_mm - truth.reading(M::HC).reads_mm) +
        std::abs(fit.head.reading(M::HL).reads_mm - truth.reading(M::HL).reads_mm);
  };
  CHECK(off(*told) < 3.0);
  CHECK(off(*told) <= off(*blind) + 0.5);
}

TEST_CASE("units of a scan are told by its size", "[head][scan]") {
  const Mesh head = test::fitter().head().mesh;
  for (const auto& [factor, name] : {std::pair{1.0, "mm"}, {0.1, "cm"}, {1.0 / 25.4, "inches"}, {0.001, "metres"}}) {
    Mesh scaled = head;
    for (Vec3& p : scaled.vertices) p *= factor;
    const auto unit = guess_scan_unit(scaled);
    REQUIRE(unit);
    CHECK(std::string(unit->name) == name);
    CHECK(unit->to_mm * factor == Approx(1.0));
  }
  Mesh absurd = head;
  for (Vec3& p : absurd.vertices) p *= 40.0;
  CHECK(guess_scan_unit(absurd).error().code == Errc::degenerate_shape);
}

TEST_CASE("scans that cannot be placed are refused with a sentence", "[head][scan]") {
  SimulatedScan sim = simulate_scan(odd_head(5, 0.0), {4000, 0.5, 0.0, 0.0, 5});
  Scan scan = sim.scan;
  scan.marks.erase(Landmark::vertex), scan.marks.erase(Landmark::tragion_l), scan.marks.erase(Landmark::tragion_r);
  CHECK(fit_scan(test::fitter(), scan, {{}, "adult", {}}).error().code == Errc::empty_input);
  scan = sim.scan;
  scan.mesh.vertices.resize(100);
  CHECK(fit_scan(test::fitter(), scan, {{}, "adult", {}}).error().where == "scan");
  scan = sim.scan;
  for (auto& [mark, at] : scan.marks) at = Vec3(static_cast<double>(mark), 0, 0);
  CHECK(fit_scan(test::fitter(), scan, {{}, "adult", {}}).error().text.find("one line") != std::string::npos);
  CHECK(fit_scan(test::fitter(), sim.scan, {{}, "adult", {}}, Progress([](double) { return false; })).error().code ==
      Errc::cancelled);
}

TEST_CASE("a cloud of points is read from a file as a scan, not as a mesh", "[head][scan][files]") {
  const std::string ply =
      "ply\nformat ascii 1.0\nelement vertex 2\nproperty float x\nproperty float y\nproperty float z\nend_header\n0 0 "
      "0\n1 2 3\n";
  CHECK_FALSE(mesh_from_bytes(ply, "ply"));
  const auto scan = scan_from_bytes(ply, "ply");
  REQUIRE(scan);
  CHECK(scan->vertices[1] == Vec3(1, 2, 3));
  CHECK_FALSE(scan_from_bytes("ply\nformat ascii 1.0\nend_header\n", "ply"));
}

TEST_CASE("a scan of millions of points is thinned evenly, a small one left as it is", "[head][scan]") {
  Mesh cloud;
  for (int i = 0; i < 1001; ++i) cloud.vertices.push_back(Vec3(i, 0, 0));
  cloud.triangles = {{0, 1, 2}};
  CHECK(thinned_scan(cloud, 1001) == cloud);
  const Mesh thin = thinned_scan(cloud, 100);
  CHECK(thin.vertices.size() <= 100);
  CHECK(thin.vertices.size() >= 90);
  CHECK(thin.triangles.empty());
  CHECK(thin.vertices.back().x() > 980);
}
