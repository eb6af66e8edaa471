#include "core/geom/mesh_file.hpp"

#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "support/bench_data.hpp"
#include "support/solids.hpp"

using namespace awl;

TEST_CASE("a mesh written and read again is the same surface", "[geom][files]") {
  const std::string ending = GENERATE("obj", "stl", "ply");
  CAPTURE(ending);
  const Mesh ball = test::ball(50.0, 10.0);
  const auto bytes = mesh_bytes(ball, ending);
  REQUIRE(bytes);
  const auto back = mesh_from_bytes(*bytes, ending);
  REQUIRE(back);
  CHECK(back->vertices.size() == ball.vertices.size());
  CHECK(back->triangles.size() == ball.triangles.size());
  CHECK(volume_mm3(*back) == Approx(volume_mm3(ball)).epsilon(1e-5));
  if (ending == "ply") CHECK(*back == ball);
}

TEST_CASE("text kinds of STL, PLY and OFF are read, polygons fanned", "[geom][files]") {
  const auto stl = mesh_from_bytes("solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid\n", "stl");
  REQUIRE(stl);
  CHECK(stl->triangles.size() == 1);
  const auto ply = mesh_from_bytes("ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n4 0 1 2 3\n", "ply");
  REQUIRE(ply);
  CHECK(area_mm2(*ply) == Approx(1.0));
  const auto off = mesh_from_bytes("OFF\n3 1 0\n0 0 0\n2 0 0\n0 2 0\n3 0 1 2\n", "off");
  REQUIRE(off);
  CHECK(area_mm2(*off) == Approx(2.0));
}

TEST_CASE("what is no mesh is refused with what is wrong", "[geom][files]") {
  CHECK(mesh_from_bytes("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n", "obj").error().text.find("point 9") != std::string::npos);
  CHECK(mesh_from_bytes("v 0 0 x\n", "obj").error().text.find("Line 1") != std::string::npos);
  CHECK(mesh_from_bytes("v 0 0 nan\nv 1 0 0\nv 0 1 0\nf 1 2 3\n", "obj").error().code == Errc::bad_file);
  CHECK(mesh_from_bytes("", "obj").error().text.find("no triangles") != std::string::npos);
  CHECK(mesh_from_bytes("rubbish", "stl").error().code == Errc::bad_file);
  CHECK(mesh_from_bytes("x", "fbx").error().code == Errc::unknown_name);
}

TEST_CASE("cut short or scrambled files never do harm", "[geom][files][fuzz]") {
  const std::string ending = GENERATE("obj", "stl", "ply", "off");
  const Mesh cube = test::cube(10.0);
  const std::string whole = ending == "off" ? "OFF\n3 1 0\n0 0 0\n2 0 0\n0 2 0\n3 0 1 2\n" : *mesh_bytes(cube, ending);
  Random random(3);
  for (int round = 0; round < 300; ++round) {
    std::string bytes = whole.substr(0, random.next() % (whole.size() + 1));
    for (int k = 0; k < 3 && !bytes.empty(); ++k) bytes[random.next() % bytes.size()] = static_cast<char>(random.next());
    const auto read = mesh_from_bytes(bytes, ending);
    if (!read) REQUIRE_FALSE(read.error().text.empty());
    else
      for (const Tri& t : read->triangles)
        for (const int v : t) REQUIRE((v >= 0 && v < static_cast<int>(read->vertices.size())));
  }
}
