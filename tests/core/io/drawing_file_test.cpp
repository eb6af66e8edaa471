#include "core/io/drawing_file.hpp"

#include <Eigen/Geometry>
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

/// Points of the cut outline of one piece group, millimetres, y upwards again; curves drawn out.
std::vector<Vec2> outline_in_svg(const std::string& svg, const std::string& group, double height) {
  const auto at = svg.find("<g id=\"" + group + "-cut\"");
  REQUIRE(at != std::string::npos);
  const auto from = svg.find("path d=\"", at) + 8, to = svg.find('"', from);
  std::istringstream in(svg.substr(from, to - from));
  std::vector<Vec2> points;
  const auto place = [&] {
    double x = 0.0, y = 0.0;
    in >> x >> y;
    return Vec2(x, height - y);
  };
  for (char stroke; in >> stroke;) {
    if (stroke == 'Z') continue;
    if (stroke != 'C') {
      points.push_back(place());
      continue;
    }
    Cubic c;
    c.p[0] = points.back();
    for (int k = 1; k < 4; ++k) c.p[static_cast<std::size_t>(k)] = place();
    for (int k = 1; k <= 40; ++k) points.push_back(c.at(k / 40.0));
  }
  return points;
}

/// How far a place lies off a closed line.
double off_line(const std::vector<Vec2>& line, const Vec2& p) { return distance_to_outline(line, p); }

/// Outlines of a DXF's cut layer, arcs drawn out.
std::vector<std::vector<Vec2>> outlines_in_dxf(const std::string& dxf) {
  struct Step {
    Vec2 at = Vec2::Zero();
    double bulge = 0.0;
  };
  std::vector<std::vector<Step>> lines;
  std::istringstream in(dxf);
  std::string code, value, entity, layer;
  Vec2 at = Vec2::Zero();
  while (std::getline(in, code) && std::getline(in, value)) {
    if (code == "0") entity = value;
    if (code == "8") layer = value;
    if (code == "8" && entity == "POLYLINE" && layer == "CUT") lines.emplace_back();
    if (entity != "VERTEX" || layer != "CUT") continue;
    if (code == "10") at.x() = number_in(value).value();
    if (code == "20") at.y() = number_in(value).value(), lines.back().push_back({at, 0.0});
    if (code == "42") lines.back().back().bulge = number_in(value).value();
  }
  std::vector<std::vector<Vec2>> drawn;
  for (const auto& line : lines) {
    drawn.emplace_back();
    for (std::size_t i = 0; i < line.size(); ++i) {
      const Vec2 a = line[i].at, b = line[(i + 1) % line.size()].at, chord = b - a;
      const double angle = 4.0 * std::atan(line[i].bulge);
      drawn.back().push_back(a);
      if (std::abs(angle) < 1e-9) continue;
      // Round the centre: the chord seen under the whole angle.
      const Vec2 left(-chord.y(), chord.x()), centre = 0.5 * (a + b) + 0.5 / std::tan(0.5 * angle) * left;
      for (int k = 1; k < 20; ++k)
        drawn.back().push_back(centre + Eigen::Rotation2Dd(angle * k / 20.0) * Vec2(a - centre));
    }
  }
  return drawn;
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
    double worst = 0.0;
    for (const Vec2& q : piece.outline) worst = std::max(worst, off_line(points, p.pose(q)));
    CAPTURE(id);
    CHECK(worst < 0.01);
    CHECK(std::abs(signed_area_mm2(points)) == Approx(piece.area_mm2).epsilon(5e-4));
  }
}

TEST_CASE("DXF carries the same outlines on its layers", "[io][dxf]") {
  const std::string dxf = sheets_dxf(*test::derived().pieces, *test::derived().layout, DxfLines::chords);
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

TEST_CASE("outlines in the DXF are the pieces', as arcs within a twentieth, as chords to a hundredth", "[io][dxf]") {
  const Layout& layout = *test::derived().layout;
  const auto lines = GENERATE(DxfLines::arcs, DxfLines::chords);
  const auto outlines = outlines_in_dxf(sheets_dxf(*test::derived().pieces, layout, lines));
  REQUIRE(outlines.size() == layout.placements.size());
  constexpr double kBetweenSheetsMm = 20.0;
  double worst = 0.0;
  std::size_t points = 0, k = 0;
  for (const Placement& p : layout.placements) {
    const auto& drawn = outlines[k++];
    std::vector<Vec2> wanted;
    for (const Vec2& q : (*test::derived().pieces)[p.piece.value].knife_line())
      wanted.push_back(p.pose(q) + Vec2(p.sheet * (room_of(layout).width_mm + kBetweenSheetsMm), 0.0));
    for (const Vec2& q : wanted) worst = std::max(worst, off_line(drawn, q));
    for (const Vec2& q : drawn) worst = std::max(worst, off_line(wanted, q));
    points += drawn.size();
  }
  CHECK(points > 300);
  // What lies between two chords of the piece itself may be 0.02 off.
  CHECK(worst < (lines == DxfLines::arcs ? 0.075 : 0.01));
}

TEST_CASE("arcs of the DXF meet smoothly and are fewer than its chords", "[io][dxf]") {
  const Layout& layout = *test::derived().layout;
  const std::string arcs = sheets_dxf(*test::derived().pieces, layout, DxfLines::arcs),
                    chords = sheets_dxf(*test::derived().pieces, layout, DxfLines::chords);
  CHECK(count(arcs, "\n42\n") > 50);
  CHECK(count(chords, "\n42\n") == 0);
  CHECK(count(arcs, "0\nVERTEX\n8\nCUT\n") < count(chords, "0\nVERTEX\n8\nCUT\n"));
}
