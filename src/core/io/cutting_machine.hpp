#pragma once
#include <memory>
#include <string>
#include <vector>

#include "core/stock/output.hpp"

namespace awl {

/// A machine that cuts, as its owner knows it. Workshop values.
struct MachineFacts {
  std::string name = "simulated machine";
  MachineMat mat;
  double cut_mm_s = 40.0, travel_mm_s = 150.0;
  double lift_s = 0.2;           ///< for the knife to go down and up again
  double blade_mm = 6.0;         ///< how far it reaches down
  double depth_a_pass_mm = 3.0;  ///< it cuts at once
  bool backed = true;            ///< the foam's back is taped, so that cut pieces stay where they are
  bool operator==(const MachineFacts&) const = default;
};

/// One stroke of the knife, mat coordinates (mm, y upwards).
struct CutMove {
  std::vector<Vec2> line;
  bool closed = false;
  std::string piece;  ///< the group it belongs to: "piece-3"
  std::string name;   ///< what the maker calls it
  double thickness_mm = 0.0;
};

/// One mat's worth of strokes, in the order they are cut.
struct CutJob {
  std::string name;
  double width_mm = 0.0, height_mm = 0.0;
  std::vector<CutMove> moves;
};

/// One SVG a mat: pieces in their order, one group each, holes before outlines, not to be sorted again by the machine.
std::vector<std::string> machine_svgs(const std::vector<Piece>& pieces, const Layout& layout,
    const std::vector<MatWindow>& windows, const MachineMat& mat, const std::string& title);

/// Reads such a file. Errors: bad_file naming what is missing or wrong.
Result<CutJob> read_cut_job(const std::string& svg);

/// Something the machine has to say.
struct MachineEvent {
  enum class Kind { blade_short, out_of_mat, loose, finished };
  Kind kind = Kind::finished;
  double at_s = 0.0;
  std::string piece;
  Vec2 where = Vec2::Zero();
  std::string sentence;
  int pieces = 1;  ///< how many it is about
};

/// Where it is.
struct MachineState {
  double at_s = 0.0, total_s = 0.0;
  Vec2 knife = Vec2::Zero();
  bool down = false, running = false;
  std::size_t move = 0;   ///< the stroke it is at; past the last when finished
  double along_mm = 0.0;  ///< of that stroke and pass
  int pass = 0;
};

/// What a driver of a real machine would be too: it is given a job, runs it, tells where it is and what went wrong.
class CuttingMachine {
 public:
  virtual ~CuttingMachine() = default;
  virtual const MachineFacts& facts() const = 0;
  /// Errors: empty_input for a job without strokes; whatever keeps it from starting.
  virtual Result<void> load(CutJob job) = 0;
  virtual void start() = 0;
  virtual void stop() = 0;
  /// Lets time pass; a real driver asks its machine. False once it is finished or stopped.
  virtual bool advance(double seconds) = 0;
  virtual MachineState state() const = 0;
  virtual const std::vector<MachineEvent>& events() const = 0;
};

/// A machine that is not there: times every stroke and finds what would go wrong.
///
/// Shape: a stroke takes as many passes as the thickness asks; a piece is loose from the end of its closed outline on,
/// so that any
///        later stroke of the same piece drags it, unless its back is taped.
std::unique_ptr<CuttingMachine> simulated_machine(const MachineFacts& facts);

}  // namespace awl
