#pragma once
#include "core/make/way.hpp"

namespace awl {

struct NetOptions {
  int faces = 300;                                    ///< about so many, at most 1000
  double tab_mm = 6.0;                                ///< 0: none, everything is taped
  double page_wide_mm = 190.0, page_high_mm = 277.0;  ///< no island is larger
  unsigned seed = 7;
};

/// A paper model's islands, each in one piece and without overlap.
struct NetIsland {
  std::vector<int> faces;                 ///< of the plan's mesh
  std::vector<std::array<Vec2, 3>> flat;  ///< their corners, in the order of the face's own
};

/// An edge that is cut: two rims of islands that are glued together under one number.
struct NetJoin {
  int number = 0;
  std::array<int, 2> face{-1, -1};  ///< the first carries the tab
  std::array<int, 2> side{0, 0};    ///< edge of that face: from corner k to k + 1
  double tab_mm = 0.0;              ///< 0: no room, tape it
  double length_mm = 0.0;
};

struct NetPlan {
  Mesh mesh;  ///< with so many faces
  std::vector<NetIsland> islands;
  std::vector<NetJoin> joins;
  int folds = 0;
  double off_mm = 0.0;  ///< how far the faces are from the form at most
};

/// A quick paper model of a form, to check its size before any foam is cut.
///
/// Shape:  the form is evened to the wanted count of faces; islands grow face by face, flattest folds first, each
/// placement tried
///         against all of its island; several orders are tried and the one with the fewest islands, then the least cut,
///         is kept.
/// Errors: out_of_range for a count outside 20 to 1000; degenerate_shape for a form without area; cancelled.
/// Source: docs/formulas/making.md, "paper net".
Result<NetPlan> plan_net(const Mesh& form, const NetOptions& options, const Progress& progress = {});

/// The islands as pieces of paper: outlines with tabs, folds as guides, an edge number on both sides of every cut.
std::vector<Piece> net_pieces(const NetPlan& plan, const std::string& name, double paper_mm);

}  // namespace awl
