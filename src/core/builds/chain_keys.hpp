#pragma once
#include <deque>

#include "core/base/numbers.hpp"
#include "core/builds/chain.hpp"

// Inside builds only: the inputs under which the chain remembers what it made.

namespace awl {

using HeldForm = std::shared_ptr<const PartForm>;
using HeldPanels = std::shared_ptr<const PanelSet>;

/// The part of a headform and its seams that no wearer's measure touches.
struct BustKey {
  FoamHeadSpec foam_head;
  bool operator==(const BustKey&) const = default;
};
struct SeamedBust {
  SeamMesh seams;
  Riders riders;
};
struct HeadKey {
  WearerMeasures measures;
  HeldScan scan;
  bool operator==(const HeadKey&) const = default;
};
struct HeadWithTapes {
  Headform head;
  std::vector<TapePath> tapes;
  std::shared_ptr<const ScanFit> scan;
};
struct CheckKey {
  HeadKey head;
  double neck_up_mm;
  bool mirrored;
  std::map<std::string, double> built;
  bool operator==(const CheckKey&) const = default;
};
struct Checked {
  std::shared_ptr<const CheckPlan> plan;
  std::shared_ptr<const BuiltForm> built;
  std::optional<Error> error;
};
struct BustFormKey {
  CheckKey check;
  FoamHeadSpec foam_head;
  double foam_mm;
  bool operator==(const BustFormKey&) const = default;
};
struct SuggestKey {
  CheckKey check;
  FoamHeadSpec foam_head;
  std::string foam;
  double thickness_mm;
  bool heated;
  std::optional<Foam> own_kind;
  bool operator==(const SuggestKey&) const = default;
};
struct AlterKey {
  HeldPanels panels;
  std::vector<Alteration> alterations;
  bool operator==(const AlterKey&) const = default;
};
struct PiecesKey {
  HeldPanels panels;
  std::shared_ptr<const Form> form;
  std::vector<SeamCut> cuts;
  Margins margins;
  std::vector<Alteration> alterations;
  HeldWays ways;
  bool operator==(const PiecesKey&) const = default;
};
struct LayoutKey {
  std::shared_ptr<const std::vector<Piece>> pieces;
  SheetSize sheet;
  double gap_mm;
  int tries;
  bool turn_freely;
  NestStock stock;
  bool operator==(const LayoutKey&) const = default;
};
struct PlanKey {
  FinishWork work;
  CoatSpec coat;
  bool operator==(const PlanKey&) const = default;
};

inline CheckKey check_key_of(const Build& b) {
  return {{b.tape.measures(), b.scan}, b.foam_head.neck_up_mm, b.foam_head.mirrored, b.built};
}

/// Numbers for scans: each its own as long as it is remembered, and never one that another had.
class ScanNumbers {
 public:
  int of(const std::shared_ptr<const Scan>& scan) {
    constexpr std::size_t kKept = 16;
    for (const auto& [held, number] : known_)
      if (held == scan) return number;
    known_.push_front({scan, ++last_});
    if (known_.size() > kKept) known_.pop_back();
    return last_;
  }

 private:
  std::deque<std::pair<std::shared_ptr<const Scan>, int>> known_;
  int last_ = 0;
};

/// A key that differs whenever the head or the form as built does. `scan`: the number of the scan it follows.
inline std::string key_of(const CheckKey& check, bool to_built, int scan) {
  std::string key = check.head.measures.people;
  for (const auto& [id, mm] : check.head.measures.set)
    key += "|" + std::to_string(static_cast<int>(id)) + ":" + fixed(mm, 4);
  for (const MeasureId id : check.head.measures.accepted) key += "|ok" + std::to_string(static_cast<int>(id));
  if (scan > 0) key += "|scan" + std::to_string(scan);
  if (!to_built) return key;
  key += "|built" + fixed(check.neck_up_mm, 4) + (check.mirrored ? "m" : "");
  for (const auto& [id, mm] : check.built) key += "|" + id + ":" + fixed(mm, 4);
  return key;
}

}  // namespace awl
