#include "core/piece/drawing.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kTickMm = 6.0;
constexpr double kTickNumberMm = 2.6;
constexpr double kLeastTiltDeg = 2.0;  // less is not worth setting the blade for

class PieceDrawer {
 public:
  PieceDrawer(const Piece& piece, Copy copy) : piece_(piece), copy_(copy) {}

  Drawing run() {
    // Holes first: once its outline is cut a piece hangs by nothing.
    for (std::size_t h = 0; h < piece_.holes.size(); ++h) {
      Mark cut = line(Layer::cut, piece_.holes[h]);
      cut.closed = true;
      if (h < piece_.hole_curves.size()) cut.curve = piece_.hole_curves[h];
      drawing_.marks.push_back(cut);
    }
    Mark outline = line(Layer::cut, piece_.knife_line());
    outline.closed = true;
    outline.curve = piece_.knife;
    drawing_.marks.push_back(outline);
    if (!piece_.cut_line.empty()) {
      Mark fold = line(Layer::fold, piece_.outline);
      fold.closed = true;
      drawing_.marks.push_back(fold);
    }
    for (const auto& clip : piece_.clips) {
      Mark cut = line(Layer::fold, clip);
      cut.closed = clip.size() > 2;
      drawing_.marks.push_back(cut);
    }
    for (const auto& guide : piece_.guides) drawing_.marks.push_back(line(Layer::fold, guide));
    draw_label();
    for (const PieceTrace& trace : piece_.traces) draw_trace(trace);
    for (const PieceCross& cross : piece_.crosses) draw_cross(cross);
    for (const PieceEdge& edge : piece_.edges) draw_edge(edge);
    return std::move(drawing_);
  }

 private:
  Mark line(Layer layer, std::vector<Vec2> points) const {
    Mark m;
    m.layer = layer, m.piece = piece_.id, m.line = std::move(points);
    return m;
  }

  bool fits(const Vec2& at, double radius) const {
    return inside(piece_.outline, at) && distance_to_outline(piece_.outline, at) >= radius;
  }

  void put_text(Layer layer, const std::string& text, const Vec2& at, double height, double angle = 0.0) {
    Mark m;
    m.layer = layer, m.piece = piece_.id, m.text = text, m.at = at, m.height_mm = height, m.angle_rad = angle;
    drawing_.marks.push_back(std::move(m));
  }

  /// A place to find again on the glued form; near an edge its arms stay inside.
  void draw_cross(const PieceCross& cross) {
    for (const Vec2& arm : {Vec2(2.5, 0.0), Vec2(-2.5, 0.0), Vec2(0.0, 2.5), Vec2(0.0, -2.5)})
      if (fits(cross.at + arm, 0.1)) drawing_.marks.push_back(line(Layer::text, {cross.at, cross.at + arm}));
    constexpr double kHeight = 2.6;
    const double reach = 0.5 * text_width_mm(cross.name, kHeight) + 3.5;
    for (const Vec2& off :
        {Vec2(0.0, 5.0), Vec2(0.0, -5.0), Vec2(reach, 0.0), Vec2(-reach, 0.0), Vec2(reach, 5.0), Vec2(-reach, 5.0)})
      if (fits(cross.at + off, 0.45 * reach) && !on_words(cross.at + off, kHeight))
        return put_text(Layer::text, cross.name, cross.at + off, kHeight);
  }

  /// A line that is not cut. On the pattern of both copies, what one of them alone carries says so.
  void draw_trace(const PieceTrace& trace) {
    if ((copy_ == Copy::left && trace.side == TraceSide::right) ||
        (copy_ == Copy::right && trace.side == TraceSide::left))
      return;
    const Layer layer = trace.kind == TraceKind::drill ? Layer::drill : Layer::draw;
    std::string label = trace.label;
    if (copy_ == Copy::pattern && trace.side != TraceSide::both && !label.empty())
      label += std::string(", ") + name_of(trace.side) + " only";
    constexpr double kHeight = 2.6;
    if (trace.line.size() == 1) {
      constexpr int kCorners = 16;
      const double r = std::max(0.5 * trace.bore_mm, 0.5);
      Mark ring = line(layer, {});
      for (int i = 0; i < kCorners; ++i) {
        const double a = 2.0 * kPi * i / kCorners;
        ring.line.push_back(trace.line[0] + r * Vec2(std::cos(a), std::sin(a)));
      }
      ring.closed = true;
      drawing_.marks.push_back(ring);
      if (!label.empty()) word_beside(trace.line[0], label, kHeight, r);
      return;
    }
    Mark m = line(layer, trace.line);
    m.closed = trace.closed;
    drawing_.marks.push_back(m);
    if (!label.empty()) word_beside(trace.line[trace.line.size() / 2], label, kHeight, 0.0);
  }

  /// A word near a place, where it finds room on the piece.
  void word_beside(const Vec2& at, const std::string& text, double height, double clear_mm) {
    const double reach = 0.5 * text_width_mm(text, height);
    for (const Vec2& off : {Vec2(0.0, 3.0 + clear_mm), Vec2(0.0, -3.0 - clear_mm), Vec2(reach + 2.0 + clear_mm, 0.0),
             Vec2(-reach - 2.0 - clear_mm, 0.0), Vec2(0.0, 8.0 + clear_mm), Vec2(0.0, -8.0 - clear_mm)})
      if (fits(at + off, 0.55 * height) && fits(at + off + Vec2(reach, 0.0), 0.4 * height) &&
          fits(at + off - Vec2(reach, 0.0), 0.4 * height) && !on_words(at + off, height))
        return put_text(Layer::text, text, at + off, height);
  }

  void draw_edge(const PieceEdge& edge) {
    for (const Tick& tick : edge.ticks) draw_tick(edge, tick);
    const double letter = piece_.letter_mm;
    if (!edge.seam.valid() && edge.letter.empty()) return draw_foot(edge);
    if (edge.letter.empty() || edge.length_mm < 2.4 * letter) return;
    // The letter stands beside the middle of its edge, nudged along until it fits inside.
    for (const double f : {0.5, 0.42, 0.58, 0.34, 0.66, 0.25, 0.75}) {
      Vec2 direction;
      const Vec2 on = point_at(edge, f * edge.length_mm, direction);
      const Vec2 inward(-direction.y(), direction.x());
      const Vec2 at = on + 1.7 * letter * inward;
      if (!fits(at, 0.8 * letter) || near_tick(edge, on) || on_words(at, 0.7 * letter)) continue;
      put_text(Layer::text, edge.letter, at, letter);
      if (edge.cut == EdgeCut::tilted &&
          std::abs(edge.tilt_deg) >= std::max(kLeastTiltDeg, least_tilt_deg(piece_.thickness_mm)))
        draw_wedge(edge.tilt_deg, on, direction, inward);
      return;
    }
  }

  /// The blade's tilt along a free edge that is cut to another part: it changes on the way, so it stands every so
  /// often.
  void draw_foot(const PieceEdge& edge) {
    constexpr double kEveryMm = 55.0;
    if (edge.tilts_deg.size() + 1 != edge.line.size()) return;
    double along = 0.0, due = 0.5 * std::min(kEveryMm, edge.length_mm);
    for (std::size_t i = 0; i + 1 < edge.line.size(); ++i) {
      const Vec2 step = edge.line[i + 1] - edge.line[i];
      const double length = step.norm();
      if (along + length >= due && length > 1e-6) {
        const Vec2 direction = step / length, inward(-direction.y(), direction.x());
        if (std::abs(edge.tilts_deg[i]) >= std::max(kLeastTiltDeg, least_tilt_deg(piece_.thickness_mm)))
          draw_wedge(edge.tilts_deg[i], edge.line[i] + (due - along) * direction, direction, inward);
        due += kEveryMm;
      }
      along += length;
    }
  }

  /// True if a round spot would touch a word already put on the piece.
  bool on_words(const Vec2& at, double radius) const {
    return std::any_of(drawing_.marks.begin(), drawing_.marks.end(), [&](const Mark& m) {
      const Vec2 off = (at - m.at).cwiseAbs();
      return m.layer == Layer::text && !m.text.empty() && off.x() < 0.5 * text_width_mm(m.text, m.height_mm) + radius &&
          off.y() < 0.7 * m.height_mm + radius;
    });
  }

  bool near_tick(const PieceEdge& edge, const Vec2& on) const {
    return std::any_of(edge.ticks.begin(), edge.ticks.end(), [&](const Tick& t) { return (t.at - on).norm() < 5.0; });
  }

  static Vec2 point_at(const PieceEdge& edge, double along, Vec2& direction) {
    for (std::size_t i = 0; i + 1 < edge.line.size(); ++i) {
      const Vec2 step = edge.line[i + 1] - edge.line[i];
      direction = step.normalized();
      if (along <= step.norm()) return edge.line[i] + along * direction;
      along -= step.norm();
    }
    return edge.line.back();
  }

  void draw_tick(const PieceEdge& edge, const Tick& tick) {
    double length = kTickMm;
    while (length > 1.5 && !fits(tick.at + length * tick.inward, 0.4)) length *= 0.7;
    drawing_.marks.push_back(line(Layer::ticks, {tick.at, tick.at + length * tick.inward}));
    const Vec2 at = tick.at + (kTickMm + 2.4) * tick.inward;
    if (!tick.word.empty()) return word_beside(at, tick.word, kTickNumberMm, 0.0);
    if (!edge.letter.empty() && fits(at, kTickNumberMm))
      put_text(Layer::ticks, std::to_string(tick.number), at, kTickNumberMm);
  }

  /// A small triangle inside the edge: pointing out for a ridge, in for a furrow, the blade's tilt beside it.
  void draw_wedge(double tilt_deg, const Vec2& on, const Vec2& direction, const Vec2& inward) {
    const bool ridge = tilt_deg > 0.0;
    const Vec2 foot = on + 10.0 * direction + 1.5 * inward;
    const Vec2 tip = foot + (ridge ? 0.0 : 4.5) * inward, base = foot + (ridge ? 4.5 : 0.0) * inward;
    if (!fits(foot + 4.5 * inward, 1.0) || !fits(foot, 0.5)) return;
    Mark wedge = line(Layer::tilt, {tip, base + 2.2 * direction, base - 2.2 * direction});
    wedge.closed = wedge.filled = true;
    drawing_.marks.push_back(wedge);
    const Vec2 text_at = foot + 9.5 * direction + 3.0 * inward;
    if (fits(text_at, 2.5)) put_text(Layer::tilt, fixed(std::abs(tilt_deg), 0) + "\u00b0", text_at, 3.0);
  }

  void arrow(const Vec2& from, const Vec2& direction, double length) {
    const Vec2 to = from + length * direction, side(-direction.y(), direction.x());
    drawing_.marks.push_back(line(Layer::text, {from, to}));
    drawing_.marks.push_back(
        line(Layer::text, {to - 3.0 * direction + 1.6 * side, to, to - 3.0 * direction - 1.6 * side}));
  }

  void draw_label() {
    const double room = piece_.label_room_mm;
    const double big = std::clamp(0.28 * room, 4.0, 14.0), small = std::clamp(0.11 * room, 2.4, 5.0);
    const Vec2 c = piece_.label_at;
    put_text(Layer::text, std::to_string(piece_.number), c + Vec2(0, 0.9 * small + 0.55 * big), big);
    const bool paired = piece_.copies == 2 && copy_ != Copy::pattern;
    const std::string thick =
        fixed(piece_.thickness_mm,
            piece_.thickness_mm < 3.0 && piece_.thickness_mm != std::round(piece_.thickness_mm) ? 1 : 0) +
        " mm";
    std::vector<std::string> lines = {paired ? piece_.name + (copy_ == Copy::left ? ", left" : ", right") : piece_.name,
        copy_ == Copy::pattern ? piece_.cut_note() + ", " + thick : thick, piece_.face_up};
    lines.insert(lines.end(), piece_.notes.begin(), piece_.notes.end());
    double y = -0.6 * small;
    for (const std::string& text : lines) {
      const double width = 1.7 * room;
      const double height = std::min(small, small * width / std::max(text_width_mm(text, small), 1e-9));
      put_text(Layer::text, text, c + Vec2(0, y), height);
      y -= 1.7 * small;
    }
    if (room < 16.0) return;
    const Vec2 top = c + Vec2(0, 0.9 * small + 1.25 * big + 1.0);
    const double length = std::clamp(0.2 * room, 5.0, 12.0);
    if (fits(top + Vec2(0, length + 5.0), 1.0)) {
      arrow(top, Vec2::UnitY(), length);
      put_text(Layer::text, "TOP", top + Vec2(0, length + 2.8), 2.6);
    }
    if (!piece_.front || std::abs(piece_.front->y()) > 0.75) return;
    const Vec2 side(piece_.front->x() > 0 ? 1.0 : -1.0, 0.0);
    const Vec2 from = c + Vec2(side.x() * 0.75 * big, 0.9 * small + 0.55 * big);
    if (!fits(from + (length + 8.0) * side, 2.0)) return;
    arrow(from, side, length);
    put_text(Layer::text, "FRONT", from + (0.5 * length) * side + Vec2(0, 3.2), 2.4);
  }

  const Piece& piece_;
  Copy copy_;
  Drawing drawing_;
};

}  // namespace

const char* name_of(Layer layer) {
  switch (layer) {
    case Layer::cut:
      return "cut";
    case Layer::fold:
      return "fold";
    case Layer::ticks:
      return "ticks";
    case Layer::text:
      return "text";
    case Layer::tilt:
      return "tilt";
    case Layer::sheet:
      return "sheet";
    case Layer::draw:
      return "draw";
    case Layer::drill:
      return "drill";
  }
  return "";
}

Drawing draw_piece(const Piece& piece, Copy copy) { return PieceDrawer(piece, copy).run(); }

Drawing placed(const Drawing& drawing, const Pose& pose) {
  Drawing out = drawing;
  for (Mark& m : out.marks) {
    for (Vec2& p : m.line) p = pose(p);
    for (Cubic& c : m.curve)
      for (Vec2& p : c.p) p = pose(p);
    m.at = pose(m.at);
    m.angle_rad = pose.angle_rad + (pose.flipped ? -m.angle_rad : m.angle_rad);
    if (pose.flipped && m.closed && !m.filled) {
      std::reverse(m.line.begin(), m.line.end());
      m.curve = reversed(m.curve);
    }
  }
  return out;
}

double text_width_mm(const std::string& text, double height_mm) {
  return 0.82 * height_mm * static_cast<double>(text.size());
}

}  // namespace awl
