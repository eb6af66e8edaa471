#include "core/piece/piece_mark.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr double kReachMm = 15.0, kOnLineMm = 4.0, kBesideMm = 2.5, kRimMm = 0.8;

/// Where a place of the form lies on one of the pieces.
struct OnPiece {
  Piece* piece = nullptr;
  Vec2 at = Vec2::Zero();
};

class Placer {
 public:
  Placer(std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of)
      : pieces_(pieces), panels_(panels), part_of_(part_of) {
    for (const Panel& panel : panels.panels) trees_.emplace_back(panel.solid);
  }

  OnPiece at(const Vec3& place, int part) const {
    double best = kReachMm;
    OnPiece found;
    for (Piece& piece : pieces_) {
      if (!piece.panel.valid()) continue;
      const Panel& panel = panels_.panels[piece.panel.value];
      if (part != 0 && part_of_[panel.part] != part) continue;
      const NearestHit hit = trees_[piece.panel.value].to(place);
      const double off = (hit.point - place).norm();
      if (hit.triangle < 0 || off >= best) continue;
      // What lies beside a piece has its nearest place on the rim, and belongs to the next one or to a flipped copy.
      const Vec2 flat = value_at(hit, panel.solid, panel.flat);
      if (off > 0.5 * panel.thickness_mm + kBesideMm && distance_to_outline(piece.outline, flat) < kRimMm) continue;
      best = off;
      found = {&piece, flat};
    }
    return found;
  }

 private:
  std::vector<Piece>& pieces_;
  const PanelSet& panels_;
  const std::vector<int>& part_of_;
  std::vector<Nearest> trees_;
};

std::vector<Vec2> circle(const Vec2& middle, double radius_mm) {
  constexpr int kCorners = 20;
  std::vector<Vec2> ring;
  for (int i = 0; i < kCorners; ++i) {
    const double a = kTwoPi * i / kCorners;
    ring.push_back(middle + radius_mm * Vec2(std::cos(a), std::sin(a)));
  }
  return ring;
}

/// Whether a stretch runs along an edge of its piece: the knife is there already.
bool along_edge(const Piece& piece, const std::vector<Vec2>& line) {
  std::size_t near = 0;
  for (const Vec2& p : line) near += distance_to_outline(piece.outline, p) < kOnLineMm ? 1 : 0;
  return 2 * near > line.size();
}

void put_line(const Placer& placer, const PieceMark& mark) {
  Piece* on = nullptr;
  std::vector<Vec2> stretch;
  const auto end = [&] {
    if (on != nullptr && stretch.size() > 1) {
      if (mark.kind == PieceMark::Kind::line)
        on->guides.push_back(stretch);
      else if (!along_edge(*on, stretch))
        on->clips.push_back(stretch);
    }
    stretch.clear();
  };
  for (const Vec3& p : mark.line) {
    const OnPiece at = placer.at(p, mark.part);
    if (at.piece != on) end();
    on = at.piece;
    if (on != nullptr) stretch.push_back(at.at);
  }
  end();
}

/// A hole by its rim: cut out where it lies on one piece, else cut along on each.
void put_rim(const Placer& placer, const PieceMark& mark) {
  Piece* on = placer.at(mark.line.front(), mark.part).piece;
  std::vector<Vec2> rim;
  for (const Vec3& p : mark.line) {
    const OnPiece at = placer.at(p, mark.part);
    if (at.piece != on) on = nullptr;
    rim.push_back(at.at);
  }
  if (on != nullptr && std::all_of(rim.begin(), rim.end(), [&](const Vec2& p) { return inside(on->outline, p); })) {
    on->area_mm2 -= std::abs(signed_area_mm2(rim));
    on->holes.push_back(std::move(rim));
    return;
  }
  PieceMark along = mark;
  along.kind = PieceMark::Kind::cut;
  along.line.push_back(along.line.front());
  put_line(placer, along);
}

}  // namespace

void put_marks(std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of,
    const std::vector<PieceMark>& marks) {
  if (marks.empty()) return;
  const Placer placer(pieces, panels, part_of);
  for (const PieceMark& mark : marks) {
    if (mark.line.empty()) continue;
    if (mark.kind == PieceMark::Kind::cut || mark.kind == PieceMark::Kind::line) {
      put_line(placer, mark);
      continue;
    }
    if (mark.kind == PieceMark::Kind::hole && mark.line.size() > 2) {
      put_rim(placer, mark);
      continue;
    }
    const OnPiece at = placer.at(mark.line.front(), mark.part);
    if (at.piece == nullptr) continue;
    if (mark.kind == PieceMark::Kind::cross) {
      at.piece->crosses.push_back({at.at, mark.name});
      continue;
    }
    // A hole that would run over the piece's edge would tear: it is only marked.
    if (inside(at.piece->outline, at.at) && distance_to_outline(at.piece->outline, at.at) > mark.radius_mm + 1.0) {
      at.piece->holes.push_back(circle(at.at, mark.radius_mm));
      at.piece->area_mm2 -= kPi * mark.radius_mm * mark.radius_mm;
    } else {
      at.piece->crosses.push_back({at.at, mark.name});
    }
  }
}

}  // namespace awl
