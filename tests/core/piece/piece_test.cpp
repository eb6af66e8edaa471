#include "core/piece/piece.hpp"

#include <catch2/catch.hpp>

#include "core/piece/drawing.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

bool contains(const Drawing& drawing, Layer layer, const std::string& text) {
  return std::any_of(drawing.marks.begin(), drawing.marks.end(),
      [&](const Mark& m) { return m.layer == layer && m.text.find(text) != std::string::npos; });
}

}  // namespace

TEST_CASE("ticks pair up exactly on both sides of every seam", "[piece][ticks]") {
  // letter, number -> where along the seam, on each piece that has it
  std::map<std::pair<int, int>, std::vector<double>> along;
  for (const Piece& piece : *test::derived().pieces)
    for (const PieceEdge& edge : piece.edges)
      for (const Tick& t : edge.ticks) along[{edge.seam.value, t.number}].push_back(t.along_mm);
  REQUIRE(along.size() > 20);
  for (const auto& [tick, places] : along) {
    const std::string& name = test::derived().panels->seams[tick.first].name;
    CAPTURE(name, tick.second);
    // The centre line's other side is the flipped copy of the same piece.
    CHECK(places.size() == (name.find("centre") == 0 ? 1u : 2u));
    for (const double at : places) CHECK(at == places[0]);
  }
}

TEST_CASE("from tick to tick both pieces measure the same", "[piece][ticks]") {
  std::map<int, std::map<int, std::vector<double>>>
      from_first;  // seam -> tick -> flat distance along the edge from tick 1
  for (const Piece& piece : *test::derived().pieces)
    for (const PieceEdge& edge : piece.edges) {
      if (edge.ticks.size() < 2) continue;
      const auto arc = [&](const Tick& t) {
        double sum = 0.0;
        for (std::size_t i = 0; i + 1 < edge.line.size(); ++i) {
          const Vec2 d = edge.line[i + 1] - edge.line[i];
          const double s = (t.at - edge.line[i]).dot(d) / d.norm();
          if (s >= -1e-6 && s <= d.norm() + 1e-6 &&
              std::abs((t.at - edge.line[i]).x() * d.y() - (t.at - edge.line[i]).y() * d.x()) < 1e-6 * d.norm())
            return sum + s;
          sum += d.norm();
        }
        return sum;
      };
      for (std::size_t k = 1; k < edge.ticks.size(); ++k)
        from_first[edge.seam.value][std::min(edge.ticks[k].number, edge.ticks[k - 1].number)].push_back(
            std::abs(arc(edge.ticks[k]) - arc(edge.ticks[k - 1])));
    }
  int compared = 0;
  for (const auto& [seam, ticks] : from_first)
    for (const auto& [number, lengths] : ticks)
      for (const double l : lengths) {
        CHECK(l == Approx(lengths[0]).margin(0.02));
        ++compared;
      }
  CHECK(compared > 20);
}

TEST_CASE("every piece is a simple outline that carries its marks inside", "[piece][drawing]") {
  for (const Piece& piece : *test::derived().pieces) {
    CAPTURE(piece.name);
    CHECK(piece.area_mm2 > 1000.0);
    CHECK_FALSE(crosses_itself(piece.outline));
    const Drawing drawing = draw_piece(piece);
    for (const Mark& m : drawing.marks) {
      if (m.layer == Layer::cut) continue;
      if (!m.text.empty()) CHECK(inside(piece.outline, m.at));
      for (std::size_t i = 1; i < m.line.size(); ++i) CHECK(inside(piece.outline, m.line[i]));
    }
    CHECK(contains(drawing, Layer::text, std::to_string(piece.number)));
    CHECK(contains(drawing, Layer::text, piece.cut_note()));
    CHECK(contains(drawing, Layer::text, "5 mm"));
  }
}

TEST_CASE("every seam's letter stands on both pieces", "[piece][drawing]") {
  std::map<std::string, int> pieces_with;
  for (const Piece& piece : *test::derived().pieces) {
    const Drawing drawing = draw_piece(piece);
    for (const PieceEdge& edge : piece.edges)
      if (!edge.letter.empty() && edge.length_mm > 30.0 && contains(drawing, Layer::text, edge.letter))
        ++pieces_with[edge.letter];
  }
  for (const Seam& s : test::derived().panels->seams) {
    CAPTURE(s.name);
    CHECK(pieces_with[s.letter] >= (s.name.find("centre") == 0 ? 1 : 2));
  }
}

TEST_CASE("seam letters keep clear of the words on a piece", "[piece][drawing]") {
  int compared = 0;
  for (const Piece& piece : *test::derived().pieces) {
    const Drawing drawing = draw_piece(piece, Copy::left);
    for (const Mark& letter : drawing.marks)
      for (const Mark& word : drawing.marks) {
        if (letter.layer != Layer::text || letter.text.size() != 1 || word.layer != Layer::text || word.text.size() < 3)
          continue;
        const Vec2 off = (letter.at - word.at).cwiseAbs();
        CAPTURE(piece.name, letter.text, word.text);
        CHECK((off.x() > 0.5 * text_width_mm(word.text, word.height_mm) ||
            off.y() > 0.5 * (word.height_mm + letter.height_mm)));
        ++compared;
      }
  }
  CHECK(compared > 20);
}

TEST_CASE("mirrored panels are one piece to cut twice and flip once", "[piece]") {
  const auto& pieces = *test::derived().pieces;
  CHECK(pieces.size() * 2 == test::derived().panels->panels.size());
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    CHECK(pieces[i].number == static_cast<int>(i) + 1);
    CHECK(pieces[i].copies == 2);
    CHECK(pieces[i].twin.has_value());
    CHECK(pieces[i].cut_note() == "cut 2, flip 1");
    CHECK(pieces[i].name.find("left") == std::string::npos);
  }
}

TEST_CASE("a crooked head makes left and right pieces of their own", "[piece]") {
  Build build = test::demo();
  build.tape.set(MeasureId::HBL, 81.0);
  build.tape.set(MeasureId::HBR, 77.0);
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.complete());
  CHECK(d.pieces->size() == d.panels->panels.size());
  for (const Piece& p : *d.pieces) CHECK(p.cut_note() == "cut 1");
}

TEST_CASE("a placed copy keeps its lengths, and a flipped one its readable text", "[piece][drawing]") {
  const Piece& piece = test::derived().pieces->front();
  const Drawing plain = draw_piece(piece, Copy::right);
  const Pose pose{Vec2(100, 50), 0.7, true};
  const Drawing moved = placed(plain, pose);
  REQUIRE(moved.marks.size() == plain.marks.size());
  for (std::size_t i = 0; i < plain.marks.size(); ++i) {
    const auto length = [](const Mark& m) {
      double sum = 0.0;
      for (std::size_t k = 0; k + 1 < m.line.size(); ++k) sum += (m.line[k + 1] - m.line[k]).norm();
      return sum;
    };
    if (!plain.marks[i].closed) CHECK(length(moved.marks[i]) == Approx(length(plain.marks[i])).margin(1e-9));
    if (!plain.marks[i].text.empty()) CHECK(moved.marks[i].angle_rad == Approx(0.7));
  }
  CHECK(signed_area_mm2(moved.marks[0].line) == Approx(piece.area_mm2));
  CHECK(contains(moved, Layer::text, "right"));
}

TEST_CASE("tilt wedges stand only where the blade is worth setting", "[piece][drawing]") {
  Piece piece = test::derived().pieces->front();
  for (PieceEdge& e : piece.edges) e.tilt_deg = 0.5;
  const auto wedges = [](const Drawing& d) {
    return std::count_if(
        d.marks.begin(), d.marks.end(), [](const Mark& m) { return m.layer == Layer::tilt && m.filled; });
  };
  CHECK(wedges(draw_piece(piece)) == 0);
  for (PieceEdge& e : piece.edges) e.tilt_deg = -14.0, e.cut = EdgeCut::tilted;
  const Drawing tilted = draw_piece(piece);
  CHECK(wedges(tilted) >= 1);
  CHECK(contains(tilted, Layer::tilt, "14"));
}
