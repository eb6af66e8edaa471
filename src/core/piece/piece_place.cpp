#include "core/piece/piece_place.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kOnPieceMm = 15.0, kBesidePieceMm = 2.5, kPieceRimMm = 0.8, kSnapMm = 3.0;

Vec3 across(const Vec3& p) { return {-p.x(), p.y(), p.z()}; }

}  // namespace

PiecePlaces::PiecePlaces(const std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of)
    : pieces_(pieces), panels_(panels), part_of_(part_of) {
  for (const Panel& panel : panels.panels) trees_.emplace_back(panel.solid);
}

OnPiece PiecePlaces::on_piece(const Vec3& place, int part) const {
  double best = kOnPieceMm;
  OnPiece found;
  for (std::size_t i = 0; i < pieces_.size(); ++i) {
    const Piece& piece = pieces_[i];
    if (!piece.panel.valid()) continue;
    for (const bool flipped : {false, true}) {
      if (flipped && !piece.twin) continue;
      const Panel& panel = panels_.panels[piece.panel.value];
      if (part != 0 && part_of_[panel.part] != part) continue;
      const Vec3 seen = flipped ? across(place) : place;
      const auto hit = trees_[piece.panel.value].within(seen, best);
      if (!hit) continue;
      const double off = (hit->point - seen).norm();
      if (off >= best) continue;
      // What lies beside a piece has its nearest place on the rim, and belongs to the next one.
      const Vec2 flat = value_at(*hit, panel.solid, panel.flat);
      if (off > 0.5 * panel.thickness_mm + kBesidePieceMm && distance_to_outline(piece.outline, flat) < kPieceRimMm)
        continue;
      best = off;
      found = {static_cast<int>(i), flat, flipped};
    }
  }
  return found;
}

Result<Vec3> PiecePlaces::on_form(int index, const Vec2& flat, bool flipped) const {
  const Piece& piece = pieces_[index];
  if (!piece.panel.valid())
    return fail(Errc::unknown_name,
        "The piece " + piece.name + " is no part of the form's surface; a place on it is none on the form.");
  const Panel& panel = panels_.panels[piece.panel.value];
  double least = 1e300;
  Vec3 found = Vec3::Zero();
  for (const Tri& t : panel.solid.triangles) {
    const auto corner = [&](int k) { return Vec3(panel.flat[t[k]].x(), panel.flat[t[k]].y(), 0.0); };
    const Vec3 w = closest_weights({flat.x(), flat.y(), 0.0}, corner(0), corner(1), corner(2));
    const double off = (w[0] * corner(0) + w[1] * corner(1) + w[2] * corner(2) - Vec3(flat.x(), flat.y(), 0.0)).norm();
    if (off >= least) continue;
    least = off;
    found = w[0] * panel.solid.vertices[t[0]] + w[1] * panel.solid.vertices[t[1]] + w[2] * panel.solid.vertices[t[2]];
    if (off < 1e-9) break;
  }
  if (least > kSnapMm)
    return fail(Errc::out_of_range,
        "This place lies " + fixed(least, 0) + " mm beside the piece " + piece.name + "; " + fixed(kSnapMm, 0) +
            " mm can be.");
  return flipped ? across(found) : found;
}

}  // namespace awl
