#pragma once
#include <string>

#include "core/stock/nest.hpp"

namespace awl {

/// SVG in true millimetres, y downwards: one group per placed piece, in it one group per layer (cut, ticks, text,
/// tilt).
///
/// `title` names the drawing. Sheets stand side by side, 20 mm apart.
std::string sheets_svg(const std::vector<Piece>& pieces, const Layout& layout, const std::string& title);

/// One mat of a cutting machine: one group per piece in the order the marks come, nothing but what is cut; the file
/// says it is not to be sorted again.
std::string mat_svg(
    const Drawing& cuts, const std::vector<Piece>& pieces, const SheetSize& mat, const std::string& title);

/// What curves become in a DXF: polylines with bulges, which stay smooth, or with none, for programs that read no more.
enum class DxfLines { arcs, chords };
/// DXF (R12, millimetres), the same lines on layers CUT, TICKS, TEXT, TILT, SHEET; arcs lie within 0.05 mm of curves.
std::string sheets_dxf(const std::vector<Piece>& pieces, const Layout& layout, DxfLines lines = DxfLines::arcs);

/// One line a piece: number, name, copies, thickness, area, seams, how it is bent. Lengths in millimetres, '.'
/// decimals.
std::string pieces_csv(const std::vector<Piece>& pieces);

/// Any drawing as SVG, for single panels and tests.
std::string drawing_svg(const Drawing& drawing, const std::string& title);

}  // namespace awl
