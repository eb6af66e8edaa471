#pragma once
#include <functional>

#include "core/stock/nest.hpp"

namespace awl {

/// What one file holds: everything, or a file for each sheet, part or piece.
enum class OutputPer { all, sheet, part, piece };
const char* name_of(OutputPer per);  ///< "all", "sheet", "part", "piece"
Result<OutputPer> output_per_from(const std::string& name);

/// One file's worth: a layout to hand to any writer, and what to call it.
struct Output {
  std::string name;  ///< "", "sheet-2", "horns", "07-gore-side": for the file's name
  Layout layout;
};

/// One sheet alone.
Layout only_sheet(const Layout& layout, int sheet);
/// Only the copies of some pieces, where they lie; sheets without one are left out.
Layout only_pieces(
    const std::vector<Piece>& pieces, const Layout& layout, const std::function<bool(const Piece&)>& wanted);
/// A piece's copies alone, side by side, on a sheet just as large as they are.
Layout one_piece(const Piece& piece, double margin_mm = 5.0);

/// The files of a layout. `part_of` names the part of each piece.
std::vector<Output> outputs_of(const std::vector<Piece>& pieces, const Layout& layout, OutputPer per,
    const std::function<std::string(const Piece&)>& part_of);

/// A sheet on a cutting machine's mat, moved on as often as it is longer or wider than the mat.
struct MatWindow {
  int sheet = 0;
  Vec2 low = Vec2::Zero();      ///< corner of the mat on the sheet
  std::vector<int> placements;  ///< of the layout: those cut whole here
  std::vector<int> in_parts;    ///< larger than the mat: cut here as far as it reaches
};

struct MachineMat {
  double width_mm = 300.0, height_mm = 600.0;
  double overlap_mm =
      20.0;  ///< kept between two windows, so that what lies on the border is whole in one of them where it can be
  bool operator==(const MachineMat&) const = default;
};

/// Which copy is cut on which window, in the order of the pieces, each whole on the first window that holds it; what no
/// window holds is cut in parts, told by `in_parts`.
///
/// Errors: out_of_range for a mat smaller than 50 mm or an overlap of more than half of it.
Result<std::vector<MatWindow>> mat_windows(
    const std::vector<Piece>& pieces, const Layout& layout, const MachineMat& mat);

/// All lines to cut on one window, in mat coordinates, cut off at its edges for what is cut in parts.
Drawing draw_window(
    const std::vector<Piece>& pieces, const Layout& layout, const MatWindow& window, const MachineMat& mat);

}  // namespace awl
