#include "core/geom/orient.hpp"

#include <algorithm>

namespace awl {
namespace {

/// Whether a triangle runs from a to b.
bool runs(const Tri& t, int a, int b) {
  return (t[0] == a && t[1] == b) || (t[1] == a && t[2] == b) || (t[2] == a && t[0] == b);
}

class Winder {
 public:
  explicit Winder(Mesh mesh)
      : mesh_(std::move(mesh)), topo_(topology_of(mesh_)), state_(mesh_.triangles.size(), kUnseen) {}

  Result<Oriented> run() && {
    for (const auto& e : topo_.edges)
      if (e.more > 0)
        return fail(Errc::bad_file,
            "The mesh is no surface: one of its edges belongs to " + std::to_string(e.more + 2) + " triangles.");
    Oriented made;
    for (int f = 0; f < static_cast<int>(state_.size()); ++f) {
      if (state_[f] != kUnseen) continue;
      if (!spread(f))
        return fail(
            Errc::not_a_disk, "The mesh has one side only, like a twisted band: it has no outside to cut from.");
      settle(made);
    }
    made.mesh = std::move(mesh_);
    return made;
  }

 private:
  enum : char { kUnseen, kKept, kTurned };

  /// Marks a connected piece from one triangle on; false if it comes back the other way round.
  bool spread(int from) {
    piece_ = {from};
    state_[from] = kKept;
    closed_ = true;
    for (std::size_t i = 0; i < piece_.size(); ++i) {
      const int f = piece_[i];
      for (const int k : topo_.edges_of[f]) {
        const auto& e = topo_.edges[k];
        const int other = e.left == f ? e.right : e.left;
        if (other < 0) {
          closed_ = false;
          continue;
        }
        const bool against = runs(mesh_.triangles[f], e.a, e.b) == runs(mesh_.triangles[other], e.a, e.b);
        const char wanted = (state_[f] == kTurned) != against ? kTurned : kKept;
        if (state_[other] != kUnseen && state_[other] != wanted) return false;
        if (state_[other] == kUnseen) state_[other] = wanted, piece_.push_back(other);
      }
    }
    return true;
  }

  void settle(Oriented& made) {
    const auto turned = std::count_if(piece_.begin(), piece_.end(), [&](int f) { return state_[f] == kTurned; });
    const bool most_are_turned = 2 * turned > static_cast<long>(piece_.size());
    for (const int f : piece_)
      if ((state_[f] == kTurned) != most_are_turned) turn(f), ++made.turned;
    if (!closed_) return;
    Mesh piece{mesh_.vertices, {}};
    for (const int f : piece_) piece.triangles.push_back(mesh_.triangles[f]);
    if (volume_mm3(piece) >= 0.0) return;
    for (const int f : piece_) turn(f);
    made.inside_out = true;
  }

  void turn(int f) { std::swap(mesh_.triangles[f][1], mesh_.triangles[f][2]); }

  Mesh mesh_;
  Topology topo_;
  std::vector<char> state_;
  std::vector<int> piece_;
  bool closed_ = true;
};

}  // namespace

Result<Oriented> oriented(Mesh mesh) { return Winder(std::move(mesh)).run(); }

}  // namespace awl
