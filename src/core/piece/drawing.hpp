#pragma once
#include "core/piece/piece.hpp"

namespace awl {

/// Layers of every drawing, by the names they carry in files.
enum class Layer { cut, fold, ticks, text, tilt, sheet, draw, drill };
const char* name_of(Layer layer);

/// One thing drawn, millimetres, y upwards.
struct Mark {
  Layer layer = Layer::cut;
  PieceId piece;           ///< invalid for what belongs to the sheet
  std::vector<Vec2> line;  ///< a polyline, or empty for text
  Curve curve;             ///< the same as cubics, where they are known: what files and paper draw
  bool closed = false, filled = false;
  std::string text;
  Vec2 at = Vec2::Zero();  ///< centre of the text
  double height_mm = 0.0;  ///< capital height of the text
  double angle_rad = 0.0;
};

/// The one list that mat, PDF, SVG and DXF all draw: what is seen is what is cut.
struct Drawing {
  std::vector<Mark> marks;
};

/// What a drawn piece is for: the pattern of all its copies, or one copy laid on a sheet.
enum class Copy { pattern, left, right };

/// Outline, ticks, letters, tilt wedges, number, name and directions of one piece. All marks lie inside the outline.
Drawing draw_piece(const Piece& piece, Copy copy = Copy::pattern);

/// The drawing put in its place; text of a flipped copy stays readable.
Drawing placed(const Drawing& drawing, const Pose& pose);

/// Width of a text relative to its capital height, as drawn everywhere.
double text_width_mm(const std::string& text, double height_mm);

}  // namespace awl
