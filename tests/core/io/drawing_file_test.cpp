#include "core/io/drawing_file.hpp"

#include <catch2/catch.hpp>
#include <regex>
#include <sstream>

#include "core/base/text.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

std::size_t count(const std::string& text, const std::string& what) {
  std::size_t n = 0;
  for (auto at = text.find(what); at != std::string::npos; at = text.find(what, at + 1)) ++n;
  return n;
}

/// Points of the cut outline of one piece group, millimetres, y upwards again.
std::vector<Vec2> outline_in_svg(const std::string& svg, const std::string& group, double height) {
  const auto at = svg.find("<g id=\"" + group + "-cut\"");
  REQUIRE(at != std::string::npos);
  const auto from = svg.find("path d=\"", at) + 8, to = svg.find('"', from);
  std::istringstream in(std::regex_replace(svg.substr(from, to - from), std::regex("[MLZ]"), " "));
  std::vector<Vec2> points;
  for (double x, y; in >> x >> y;) points.push_back({x, height - y});
  return points;
}

}  // namespace

TEST_CASE("SVG is in true millimetres with one group a copy and named layers", "[io][svg]") {
  const std::string svg = sheets_svg(*test::derived().pieces, *test::derived().layout, "Heron & Co <test>");
  CHECK(svg.find("width=\"1000.000mm\" height=\"600.000mm\" viewBox=\"0 0 1000.000 600.000\"") != std::string::npos);
  CHECK(svg.find("<title>Heron &amp; Co &lt;test&gt;</title>") != std::string::npos);
  CHECK(count(svg, "class=\"cut\"") == test::derived().layout->placements.size());
  CHECK(count(svg, "class=\"ticks\"") == test::derived().layout->placements.size());
  CHECK(count(svg, "class=\"text\"") == test::derived().layout->placements.size());
  for (const Piece& p : *test::derived().pieces) {
    CHECK(count(svg, "<g id=\"piece-" + std::to_string(p.number) + "\" ") == 1);
    CHECK(count(svg, "<g id=\"piece-" + std::to_string(p.number) + "-copy-2\" ") == 1);
  }
  CHECK(count(svg, "<g") == count(svg, "</g>"));
}

TEST_CASE("an outline in the SVG is the piece, to a hundredth of a millimetre", "[io][svg]") {
  const std::string svg = sheets_svg(*test::derived().pieces, *test::derived().layout, "t");
  std::map<int, int> copies;
  for (const Placement& p : test::derived().layout->placements) {
    const Piece& piece = (*test::derived().pieces)[p.piece.value];
    const int copy = ++copies[p.piece.value];
    const std::string id = "piece-" + std::to_string(piece.number) + (copy > 1 ? "-copy-" + std::to_string(copy) : "");
    const auto points = outline_in_svg(svg, id, test::derived().layout->sheet.height_mm);
    REQUIRE(points.size() == piece.outline.size());
    double worst = 0.0;
    for (const Vec2& q : piece.outline) {
      double best = 1e9;
      for (const Vec2& s : points) best = std::min(best, (p.pose(q) - s).norm());
      worst = std::max(worst, best);
    }
    CAPTURE(id);
    CHECK(worst < 0.01);
    CHECK(std::abs(signed_area_mm2(points)) == Approx(piece.area_mm2).epsilon(1e-5));
  }
}

TEST_CASE("DXF carries the same outlines on its layers", "[io][dxf]") {
  const std::string dxf = sheets_dxf(*test::derived().pieces, *test::derived().layout);
  CHECK(dxf.find("AC1009") != std::string::npos);
  CHECK(dxf.substr(dxf.size() - 6) == "0\nEOF\n");
  std::istringstream in(dxf);
  std::size_t outlines = 0, vertices = 0;
  std::string code, value, entity, layer;
  while (std::getline(in, code) && std::getline(in, value)) {
    if (code == "0") entity = value;
    if (code == "8") {
      layer = value;
      outlines += entity == "POLYLINE" && layer == "CUT" ? 1 : 0;
      vertices += entity == "VERTEX" && layer == "CUT" ? 1 : 0;
    }
  }
  std::size_t expected = 0;
  for (const Placement& p : test::derived().layout->placements)
    expected += (*test::derived().pieces)[p.piece.value].outline.size();
  CHECK(outlines == test::derived().layout->placements.size());
  CHECK(vertices == expected);
  for (const char c : dxf) REQUIRE(static_cast<unsigned char>(c) < 128);
}

TEST_CASE("the list of pieces has a line for each", "[io][csv]") {
  const std::string csv = pieces_csv(*test::derived().pieces);
  CHECK(count(csv, "\n") == test::derived().pieces->size() + 1);
  CHECK(csv.find("bend round about") != std::string::npos);
  CHECK(csv.find("1,\"" + test::derived().pieces->front().name + "\",\"cut 2, flip 1\",5.0,") != std::string::npos);
}

TEST_CASE("any drawing can be written alone", "[io][svg]") {
  const std::string svg = drawing_svg(draw_piece(test::derived().pieces->front()), "one");
  CHECK(count(svg, "class=\"cut\"") == 1);
  CHECK(drawing_svg({}, "none").find("</svg>") != std::string::npos);
}

TEST_CASE("outlines in the DXF are the pieces', to a hundredth of a millimetre", "[io][dxf]") {
  const Layout& layout = *test::derived().layout;
  std::istringstream in(sheets_dxf(*test::derived().pieces, layout));
  std::vector<Vec2> corners;
  std::string code, value, entity, layer;
  Vec2 at = Vec2::Zero();
  while (std::getline(in, code) && std::getline(in, value)) {
    if (code == "0") entity = value;
    if (code == "8") layer = value;
    if (code == "10") at.x() = number_in(value).value();
    if (code == "20" && entity == "VERTEX" && layer == "CUT") at.y() = number_in(value).value(), corners.push_back(at);
  }
  constexpr double kBetweenSheetsMm = 20.0;
  double worst = 0.0;
  for (const Placement& p : layout.placements)
    for (const Vec2& q : (*test::derived().pieces)[p.piece.value].knife_line()) {
      const Vec2 wanted = p.pose(q) + Vec2(p.sheet * (room_of(layout).width_mm + kBetweenSheetsMm), 0.0);
      double best = 1e9;
      for (const Vec2& c : corners) best = std::min(best, (c - wanted).norm());
      worst = std::max(worst, best);
    }
  CHECK(worst < 0.01);
}
