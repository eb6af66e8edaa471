#include "core/io/drawing_file.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kBetweenSheetsMm = 20.0;

std::string escaped(const std::string& text) {
  std::string out;
  for (const char c : text) {
    if (c == '&')
      out += "&amp;";
    else if (c == '<')
      out += "&lt;";
    else if (c == '>')
      out += "&gt;";
    else if (c == '"')
      out += "&quot;";
    else
      out += c;
  }
  return out;
}

const char* stroke_of(Layer layer) {
  switch (layer) {
    case Layer::cut:
      return "stroke=\"#1d2733\" stroke-width=\"0.3\" fill=\"none\"";
    case Layer::fold:
      return "stroke=\"#1d2733\" stroke-width=\"0.2\" stroke-dasharray=\"3 1.5\" fill=\"none\"";
    case Layer::ticks:
      return "stroke=\"#1d2733\" stroke-width=\"0.25\" fill=\"none\"";
    case Layer::tilt:
      return "stroke=\"#8a3b12\" stroke-width=\"0.2\" fill=\"none\"";
    case Layer::sheet:
      return "stroke=\"#9a9384\" stroke-width=\"0.3\" fill=\"none\"";
    case Layer::draw:
      return "stroke=\"#2f6b5e\" stroke-width=\"0.2\" fill=\"none\"";
    case Layer::drill:
      return "stroke=\"#6a3b8a\" stroke-width=\"0.2\" fill=\"none\"";
    case Layer::text:
      return "stroke=\"#1d2733\" stroke-width=\"0.2\" fill=\"none\"";
  }
  return "";
}

/// Writes marks with y turned downwards: page y = `height` - y.
class SvgWriter {
 public:
  SvgWriter(double width, double height, const std::string& title) : height_(height) {
    out_ = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" +
        fixed(width, 3) + "mm\" height=\"" + fixed(height, 3) + "mm\" viewBox=\"0 0 " + fixed(width, 3) + " " +
        fixed(height, 3) + "\">\n<title>" + escaped(title) + "</title>\n";
  }
  void say(const std::string& text) { out_ += "<desc>" + escaped(text) + "</desc>\n"; }
  void open(const std::string& id, const std::string& extra = {}) {
    out_ += "<g id=\"" + escaped(id) + "\"" + extra + ">\n";
  }
  void close() { out_ += "</g>\n"; }

  /// All marks of one piece, one group per layer.
  void layers(const std::vector<const Mark*>& marks, const std::string& prefix, const Vec2& shift) {
    for (const Layer layer :
        {Layer::sheet, Layer::cut, Layer::fold, Layer::ticks, Layer::text, Layer::tilt, Layer::draw, Layer::drill}) {
      if (std::none_of(marks.begin(), marks.end(), [&](const Mark* m) { return m->layer == layer; })) continue;
      open(prefix + name_of(layer), std::string(" class=\"") + name_of(layer) + "\" " + stroke_of(layer));
      for (const Mark* m : marks)
        if (m->layer == layer) mark(*m, shift);
      close();
    }
  }

  std::string finish() { return std::move(out_) + "</svg>\n"; }

 private:
  std::string x(double v) const { return fixed(v, 4); }
  std::string y(double v) const { return fixed(height_ - v, 4); }

  void mark(const Mark& m, const Vec2& shift) {
    if (m.line.empty()) return text(m, shift);
    const auto place = [&](const Vec2& p) { return x(p.x() + shift.x()) + " " + y(p.y() + shift.y()); };
    out_ += "<path d=\"";
    if (!m.curve.empty()) {
      out_ += "M" + place(m.curve.front().p[0]);
      for (const Cubic& c : m.curve) out_ += " C" + place(c.p[1]) + " " + place(c.p[2]) + " " + place(c.p[3]);
    } else {
      for (std::size_t i = 0; i < m.line.size(); ++i) out_ += (i == 0 ? "M" : " L") + place(m.line[i]);
    }
    out_ += std::string(m.closed ? " Z" : "") + "\"" + (m.filled ? " fill=\"#8a3b12\"" : "") + "/>\n";
  }

  void text(const Mark& m, const Vec2& shift) {
    const std::string px = x(m.at.x() + shift.x()), py = y(m.at.y() + shift.y());
    // Capital height is 0.72 of the font size; the baseline lies half of it under the centre.
    out_ += "<text x=\"" + px + "\" y=\"" + py + "\" dy=\"" + fixed(0.5 * m.height_mm, 3) +
        "\" font-family=\"Inter, sans-serif\" font-size=\"" + fixed(m.height_mm / 0.72, 3) +
        "\" text-anchor=\"middle\" fill=\"#1d2733\" stroke=\"none\"";
    if (m.angle_rad != 0.0)
      out_ += " transform=\"rotate(" + fixed(-degrees(m.angle_rad), 3) + " " + px + " " + py + ")\"";
    out_ += ">" + escaped(m.text) + "</text>\n";
  }

  double height_;
  std::string out_;
};

/// What a reader may want to know of a piece.
std::string facts_of(const Piece& piece) {
  return " data-name=\"" + escaped(piece.name) + "\" data-thickness-mm=\"" + fixed(piece.thickness_mm, 2) + "\"";
}

std::vector<const Mark*> all_marks(const Drawing& drawing) {
  std::vector<const Mark*> marks;
  for (const Mark& m : drawing.marks) marks.push_back(&m);
  return marks;
}

std::string upper(std::string text) {
  for (char& c : text) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
  return text;
}

std::string dxf_vertex(Layer layer, const Vec2& p, double bulge) {
  return "0\nVERTEX\n8\n" + upper(name_of(layer)) + "\n10\n" + fixed(p.x(), 4) + "\n20\n" + fixed(p.y(), 4) +
      "\n30\n0.0\n" + (bulge != 0.0 ? "42\n" + fixed(bulge, 7) + "\n" : "");
}

/// `arcs`: curves as arcs of circles that meet smoothly, else as their points.
std::string dxf_line(const Mark& m, const Vec2& shift, bool arcs) {
  std::string out = "0\nPOLYLINE\n8\n" + upper(name_of(m.layer)) + "\n66\n1\n70\n" + (m.closed ? "1" : "0") +
      "\n10\n0.0\n20\n0.0\n30\n0.0\n";
  if (arcs && !m.curve.empty()) {
    constexpr double kArcOffMm = 0.05;
    // A step's bulge stands at the place it begins; of a closed line the last one ends where the first began.
    Vec2 from = m.curve.front().p[0];
    auto steps = arcs_of(m.curve, kArcOffMm);
    for (const ArcStep& step : steps) out += dxf_vertex(m.layer, from + shift, step.bulge), from = step.to;
    if (!m.closed) out += dxf_vertex(m.layer, from + shift, 0.0);
  } else {
    for (const Vec2& p : m.line) out += dxf_vertex(m.layer, p + shift, 0.0);
  }
  return out + "0\nSEQEND\n";
}

std::string dxf_text(const Mark& m, const Vec2& shift) {
  std::string ascii;
  for (const char c : m.text)
    ascii += static_cast<unsigned char>(c) < 128 ? c : (static_cast<unsigned char>(c) == 0xc2 ? '\0' : 'd');
  ascii.erase(std::remove(ascii.begin(), ascii.end(), '\0'), ascii.end());
  const std::string x = fixed(m.at.x() + shift.x(), 4), y = fixed(m.at.y() + shift.y(), 4);
  return "0\nTEXT\n8\n" + upper(name_of(m.layer)) + "\n10\n" + x + "\n20\n" + y + "\n30\n0.0\n40\n" +
      fixed(m.height_mm, 3) + "\n1\n" + ascii + "\n50\n" + fixed(degrees(m.angle_rad), 3) + "\n72\n1\n11\n" + x +
      "\n21\n" + y + "\n31\n0.0\n73\n2\n";
}

}  // namespace

std::string sheets_svg(const std::vector<Piece>& pieces, const Layout& layout, const std::string& title) {
  const SheetSize room = room_of(layout);
  const double step = room.width_mm + kBetweenSheetsMm;
  SvgWriter svg(std::max(1, layout.sheets) * step - kBetweenSheetsMm, room.height_mm, title);
  for (int s = 0; s < layout.sheets; ++s) {
    const Vec2 shift(s * step, 0.0);
    svg.open("sheet-" + std::to_string(s + 1));
    Layout empty = layout;
    empty.placements.clear();
    const Drawing border = draw_sheet(pieces, empty, s);
    svg.layers(all_marks(border), "sheet-" + std::to_string(s + 1) + "-", shift);
    std::map<int, int> copies;
    for (const Placement& p : layout.placements) {
      const int copy = ++copies[p.piece.value];
      if (p.sheet != s) continue;
      const Piece& piece = pieces[p.piece.value];
      const Drawing drawing = placed(draw_piece(piece, p.pose.flipped ? Copy::right : Copy::left), p.pose);
      const std::string id =
          "piece-" + std::to_string(piece.number) + (copy > 1 ? "-copy-" + std::to_string(copy) : "");
      svg.open(id, facts_of(piece));
      svg.layers(all_marks(drawing), id + "-", shift);
      svg.close();
    }
    svg.close();
  }
  return svg.finish();
}

std::string mat_svg(
    const Drawing& cuts, const std::vector<Piece>& pieces, const SheetSize& mat, const std::string& title) {
  SvgWriter svg(mat.width_mm, mat.height_mm, title);
  svg.say("Cut in this order, as one group; do not sort. Foam for a machine is backed with tape.");
  svg.open("mat");
  std::map<std::string, int> used;
  for (std::size_t i = 0; i < cuts.marks.size();) {
    const Piece& piece = pieces[cuts.marks[i].piece.value];
    // A piece's strokes follow each other; its outline ends a copy.
    std::vector<const Mark*> own;
    bool outline = false;
    for (; i < cuts.marks.size() && cuts.marks[i].piece == piece.id && !outline; ++i) {
      own.push_back(&cuts.marks[i]);
      outline = piece.copies > 1 && cuts.marks[i].closed && cuts.marks[i].line.size() == piece.knife_line().size();
    }
    const std::string id = "piece-" + std::to_string(piece.number);
    const int copy = ++used[id];
    const std::string name = id + (copy > 1 ? "-copy-" + std::to_string(copy) : "");
    svg.open(name, facts_of(piece));
    svg.layers(own, name + "-", Vec2::Zero());
    svg.close();
  }
  svg.close();
  return svg.finish();
}

std::string sheets_dxf(const std::vector<Piece>& pieces, const Layout& layout, DxfLines lines) {
  std::string out =
      "0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1009\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n";
  for (int s = 0; s < layout.sheets; ++s) {
    const Vec2 shift(s * (room_of(layout).width_mm + kBetweenSheetsMm), 0.0);
    for (const Mark& m : draw_sheet(pieces, layout, s).marks)
      out += m.line.empty() ? dxf_text(m, shift) : dxf_line(m, shift, lines == DxfLines::arcs);
  }
  return out + "0\nENDSEC\n0\nEOF\n";
}

std::string pieces_csv(const std::vector<Piece>& pieces) {
  std::string out = "number,name,cut,thickness_mm,area_mm2,seams,bending\n";
  for (const Piece& p : pieces) {
    std::string letters;
    for (const PieceEdge& e : p.edges)
      if (!e.letter.empty()) letters += (letters.empty() ? "" : " ") + e.letter;
    out += std::to_string(p.number) + ",\"" + p.name + "\",\"" + p.cut_note() + "\"," + fixed(p.thickness_mm, 1) + "," +
        fixed(p.area_mm2, 0) + "," + letters + ",\"" + p.heat_note + "\"\n";
  }
  return out;
}

std::string drawing_svg(const Drawing& drawing, const std::string& title) {
  Vec2 low = Vec2::Constant(1e300), high = -low;
  for (const Mark& m : drawing.marks)
    for (const Vec2& p : m.line) low = low.cwiseMin(p), high = high.cwiseMax(p);
  if (low.x() > high.x()) low = high = Vec2::Zero();
  const Vec2 margin(5.0, 5.0);
  SvgWriter svg((high - low).x() + 10.0, (high - low).y() + 10.0, title);
  svg.layers(all_marks(drawing), "", margin - low);
  return svg.finish();
}

}  // namespace awl
