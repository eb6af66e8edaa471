#pragma once
#include <map>
#include <memory>
#include <tuple>

#include "core/coat/work/project.hpp"

namespace awl {

/// Slots a step takes.
inline int slots_of(int minutes) { return (minutes + kSlotMin - 1) / kSlotMin; }

/// Where one kind of step could lie on an empty bench, slot by slot.
struct StepSlots {
  std::vector<int> next_start;  ///< the first start from here on; TimeTable::end() if none
  std::vector<int> finish;      ///< of a step that starts here; -1 where none can
  std::vector<int> last_start;  ///< the last start of a step that is done by here; -1 if none
  /// The first start of a step that is not done before `slot`.
  int start_done_from(int slot) const;
  bool pauses = false;  ///< runs over closed hours
};

/// The project's days in slots of five minutes, from midnight of the first day.
///
/// Cost: a byte or two a slot; StepSlots are made once for all steps alike.
class TimeTable {
 public:
  TimeTable(const Project& project, int days);

  int end() const { return static_cast<int>(hands_.size()); }
  int hands_at(int slot) const { return hands_[slot]; }
  bool takes(const WorkStep& step, int slot) const {
    return hands_[slot] >= step.hands && (!step.outdoors || outdoors_[slot] != 0);
  }
  const StepSlots& of(int step) const { return *of_step_[step]; }
  int length_of(int step) const { return length_[step]; }

  Moment moment_of(int slot) const { return origin_ + static_cast<Moment>(slot) * kSlotMin; }
  /// The slot that begins at or after a moment; the last that begins at or before it.
  int slot_from(Moment moment) const;
  int slot_until(Moment moment) const;
  Moment origin() const { return origin_; }

 private:
  StepSlots slots_for(const WorkStep& step, int length, bool pauses) const;
  Moment origin_;
  std::vector<std::uint8_t> hands_, outdoors_;
  std::vector<int> length_;
  std::map<std::tuple<int, int, bool, bool>, std::unique_ptr<StepSlots>> kinds_;
  std::vector<const StepSlots*> of_step_;
};

}  // namespace awl
