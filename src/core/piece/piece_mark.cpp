#include "core/piece/piece_mark.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/piece/piece_place.hpp"

namespace awl {
namespace {

constexpr double kOnLineMm = 4.0;

/// Pieces, and where places of the form lie on them.
struct Placer {
  std::vector<Piece>& pieces;
  PiecePlaces places;
  OnPiece at(const Vec3& place, int part) const { return places.on_piece(place, part); }
  Piece& of(const OnPiece& on) const { return pieces[on.piece]; }
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

/// Where a line leaves one piece and enters the next, found by halving: both ends lie at their seam.
std::pair<OnPiece, OnPiece> seam_between(
    const Placer& placer, int part, Vec3 from, OnPiece left, Vec3 to, OnPiece entered) {
  constexpr int kHalvings = 12;
  for (int i = 0; i < kHalvings; ++i) {
    const Vec3 middle = 0.5 * (from + to);
    const OnPiece at = placer.at(middle, part);
    if (at.same_copy(left))
      from = middle, left = at;
    else
      to = middle, entered = at;
  }
  return {left, entered};
}

/// What is drawn of a line on one piece. Of a mirrored pair the pattern carries what is on both sides once.
void put_stretch(
    const Placer& placer, const PieceMark& mark, const OnPiece& on, const std::vector<Vec2>& stretch, bool whole) {
  if (!on.there() || stretch.size() < 2) return;
  if (on.flipped && mark.paired) return;
  Piece& piece = placer.of(on);
  if (mark.kind == PieceMark::Kind::line) {
    piece.guides.push_back(stretch);
  } else if (mark.kind == PieceMark::Kind::cut) {
    if (!along_edge(piece, stretch)) piece.clips.push_back(stretch);
  } else {
    PieceTrace trace{stretch, whole, mark.trace, mark.name, TraceSide::both, 0.0};
    if (!mark.paired && piece.twin) trace.side = on.flipped ? TraceSide::right : TraceSide::left;
    if (whole) trace.line.pop_back();
    piece.traces.push_back(std::move(trace));
  }
}

void put_line(const Placer& placer, const PieceMark& mark) {
  struct Stretch {
    OnPiece on;
    std::vector<Vec2> line;
  };
  std::vector<Stretch> stretches;
  std::vector<OnPiece> all(mark.line.size());
  parallel_each(all.size(), [&](std::size_t i) { all[i] = placer.at(mark.line[i], mark.part); });
  OnPiece on;
  for (std::size_t i = 0; i < mark.line.size(); ++i) {
    const OnPiece& at = all[i];
    if (i == 0 || !at.same_copy(on)) {
      OnPiece entered = at;
      if (i > 0) {
        const auto [left, begun] = seam_between(placer, mark.part, mark.line[i - 1], on, mark.line[i], at);
        if (left.there()) stretches.back().line.push_back(left.at);
        entered = begun;
      }
      stretches.push_back({at, {}});
      if (i > 0 && entered.same_copy(at) && at.there()) stretches.back().line.push_back(entered.at);
    }
    on = at;
    if (at.there()) stretches.back().line.push_back(at.at);
  }
  if (stretches.empty()) return;
  const bool closed = mark.line.size() > 3 && (mark.line.front() - mark.line.back()).norm() < 1e-6;
  const bool whole = closed && stretches.size() == 1;
  // A ring that began in the middle of a piece is one stretch there, not two.
  if (closed && stretches.size() > 1 && stretches.front().on.same_copy(stretches.back().on)) {
    auto& first = stretches.front().line;
    first.insert(first.begin(), stretches.back().line.begin(), stretches.back().line.end());
    stretches.pop_back();
  }
  for (const Stretch& s : stretches) put_stretch(placer, mark, s.on, s.line, whole);
}

/// A bore: its middle and size, on the copies that have it.
void put_bore(const PieceMark& mark, const OnPiece& at, Piece& piece) {
  if (at.flipped && mark.paired) return;
  PieceTrace trace{{at.at}, false, TraceKind::drill, mark.name, TraceSide::both, 2.0 * mark.radius_mm};
  if (!mark.paired && piece.twin) trace.side = at.flipped ? TraceSide::right : TraceSide::left;
  piece.traces.push_back(std::move(trace));
}

/// A hole by its rim: cut out where it lies on one piece, else cut along on each.
void put_rim(const Placer& placer, const PieceMark& mark) {
  const OnPiece first = placer.at(mark.line.front(), mark.part);
  Piece* on = first.there() ? &placer.of(first) : nullptr;
  std::vector<Vec2> rim;
  for (const Vec3& p : mark.line) {
    const OnPiece at = placer.at(p, mark.part);
    if (!at.same_copy(first) || at.flipped) on = nullptr;
    rim.push_back(at.at);
  }
  if (!mark.paired && on != nullptr && on->twin) on = nullptr;  // one copy of the two alone
  if (on != nullptr && std::all_of(rim.begin(), rim.end(), [&](const Vec2& p) { return inside(on->outline, p); })) {
    on->area_mm2 -= std::abs(signed_area_mm2(rim));
    on->holes.push_back(std::move(rim));
    return;
  }
  PieceMark along = mark;
  along.kind = mark.paired ? PieceMark::Kind::cut : PieceMark::Kind::trace;
  along.line.push_back(along.line.front());
  put_line(placer, along);
}

}  // namespace

void put_marks(std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of,
    const std::vector<PieceMark>& marks) {
  if (marks.empty()) return;
  const Placer placer{pieces, {pieces, panels, part_of}};
  for (const PieceMark& mark : marks) {
    if (mark.line.empty()) continue;
    if (mark.kind == PieceMark::Kind::cut || mark.kind == PieceMark::Kind::line ||
        (mark.kind == PieceMark::Kind::trace && mark.line.size() > 1)) {
      put_line(placer, mark);
      continue;
    }
    if (mark.kind == PieceMark::Kind::hole && mark.line.size() > 2) {
      put_rim(placer, mark);
      continue;
    }
    const OnPiece at = placer.at(mark.line.front(), mark.part);
    if (!at.there()) continue;
    Piece& piece = placer.of(at);
    if (mark.kind == PieceMark::Kind::trace) {
      put_bore(mark, at, piece);
      continue;
    }
    if (mark.kind == PieceMark::Kind::hole && !mark.paired && piece.twin) {
      put_bore(mark, at, piece);  // bored into one of the two copies alone
      continue;
    }
    if (at.flipped) continue;  // the pattern of the pair carries what is on its own side
    if (mark.kind == PieceMark::Kind::cross) {
      piece.crosses.push_back({at.at, mark.name});
      continue;
    }
    // A hole that would run over the piece's edge would tear: it is only marked.
    if (inside(piece.outline, at.at) && distance_to_outline(piece.outline, at.at) > mark.radius_mm + 1.0) {
      piece.holes.push_back(circle(at.at, mark.radius_mm));
      piece.area_mm2 -= kPi * mark.radius_mm * mark.radius_mm;
    } else {
      piece.crosses.push_back({at.at, mark.name});
    }
  }
}

}  // namespace awl
