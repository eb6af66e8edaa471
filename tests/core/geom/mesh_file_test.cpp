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
  const auto stl = mesh_from_bytes(
      "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 "
      "0\nendloop\nendfacet\nendsolid\n",
      "stl");
  REQUIRE(stl);
  CHECK(stl->triangles.size() == 1);
  const auto ply = mesh_from_bytes(
      "ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face "
      "1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n4 0 1 2 3\n",
      "ply");
  REQUIRE(ply);
  CHECK(area_mm2(*ply) == Approx(1.0));
  const auto off = mesh_from_bytes("OFF\n3 1 0\n0 0 0\n2 0 0\n0 2 0\n3 0 1 2\n", "off");
  REQUIRE(off);
  CHECK(area_mm2(*off) == Approx(2.0));
}

TEST_CASE("coloured OFF, faces of four in text STL, and PLY of either end are read", "[geom][files]") {
  const auto off = mesh_from_bytes(
      "COFF # coloured\n4 1 0\n0 0 0 255 0 0 255\n1 0 0 0 255 0 255\n1 1 0 0 0 255 255\n0 1 0 9 9 9 255\n4 0 1 2 3 200 "
      "100 50\n",
      "off");
  REQUIRE(off);
  CHECK(area_mm2(*off) == Approx(1.0));
  const auto stl = mesh_from_bytes(
      "solid q\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 1 1 0\nvertex 0 1 "
      "0\nendloop\nendfacet\nendsolid\n",
      "stl");
  REQUIRE(stl);
  CHECK(stl->triangles.size() == 2);
  CHECK(area_mm2(*stl) == Approx(1.0));
  std::string big =
      "ply\nformat binary_big_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float "
      "z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n";
  const auto put = [&](std::initializer_list<unsigned char> bytes) {
    for (const unsigned char b : bytes) big += static_cast<char>(b);
  };
  put({0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0x40, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0x40, 0, 0, 0, 0, 0, 0,
      0});
  put({3, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 2});
  const auto ply = mesh_from_bytes(big, "ply");
  REQUIRE(ply);
  CHECK(area_mm2(*ply) == Approx(2.0));
}

TEST_CASE("files that lie about themselves are refused with what is wrong", "[geom][files]") {
  const auto says = [](const std::string& bytes, const char* ending, const char* words) {
    const auto read = mesh_from_bytes(bytes, ending);
    REQUIRE_FALSE(read);
    CAPTURE(read.error().text);
    CHECK(read.error().text.find(words) != std::string::npos);
  };
  says("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 4294967299\n", "obj", "point 4294967299");
  says("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 99999999999999999999\n", "obj", "no number of a point");
  says("v 0 0 0\nv 1 0 0\nv 0 9.2e18 0\nf 1 2 3\n", "obj", "9.2e+18 mm away");
  says("v 0 0 0\nv 1,5 0 0\n", "obj", "Line 2");
  const std::string head =
      "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face "
      "1\nproperty list uchar int vertex_indices\nend_header";
  says(head, "ply", "too small");
  says(
      "ply\nformat binary_little_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float "
      "z\nend_header",
      "ply", "too small");
  says("ply\nformat ascii 1.0\nelement vertex 99999999999\nproperty float x\nend_header\n", "ply", "that cannot be");
  says(head + "\n0 0 0\n1 0 0\n0 1 0\n-3 0 1 2\n", "ply", "-3 corners");
  says(head + "\n0 0 0\n1 0 0\n0 1 0\n3 0 1 -2\n", "ply", "uses point -1");
  says("OFF\n3 1 0\n0 0 0\n2 0 0\n", "off", "announces 3 points and has 2");
  const std::string stl = *mesh_bytes(test::cube(10.0), "stl");
  says(stl.substr(0, stl.size() - 4), "stl", "which take 684 bytes, and has 680");
  CHECK(mesh_from_bytes(stl + "    ", "stl")->triangles.size() == 12);
}

TEST_CASE("what is no mesh is refused with what is wrong", "[geom][files]") {
  CHECK(
      mesh_from_bytes("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n", "obj").error().text.find("point 9") != std::string::npos);
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
    for (int k = 0; k < 3 && !bytes.empty(); ++k)
      bytes[random.next() % bytes.size()] = static_cast<char>(random.next());
    const auto read = mesh_from_bytes(bytes, ending);
    if (!read)
      REQUIRE_FALSE(read.error().text.empty());
    else
      for (const Tri& t : read->triangles)
        for (const int v : t) REQUIRE((v >= 0 && v < static_cast<int>(read->vertices.size())));
  }
}
