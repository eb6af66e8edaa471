#pragma once
#include "core/base/progress.hpp"
#include "core/base/random.hpp"
#include "core/seam/parting/patchwork.hpp"

namespace awl::parting {

/// What may be joined, and which first.
struct JoinRule {
  double limit = 0.06;  ///< of the rigid map's strain
  double noise = 0.0;   ///< of the rank
  Random* random = nullptr;
  std::function<bool(int one, int other)> allowed = {};  ///< none: all
};

/// Joins patches of a patchwork while their joint strain, measured, stays within a limit: the least strained with the
/// longest arc first. Trials are kept by the numbers of patches, so what was tried once is never tried again.
class Joiner {
 public:
  /// False if cancelled.
  bool run(Patchwork& work, const JoinRule& rule, const Progress& progress = {});
  /// Measures patches that were made anew.
  void measure(Patchwork& work, const std::vector<int>& patches, double limit);
  /// Joins where the minimax finish alone allows it, whole arcs first, else parts of them: the rest stays a slit. With
  /// `crumbs_mm2` only patches smaller than that are joined to others, over folds too.
  bool run_by_finish(
      Patchwork& work, double tolerance, bool slits, const Progress& progress = {}, double crumbs_mm2 = 0.0);

 private:
  using Key = std::tuple<int, int, int, int>;

  static Key key_of(const Arc& arc);
  const std::vector<Arc>& arcs_of(const Patchwork& work, int one, int other);
  void forget_round(const Patchwork& work, int patch);

  std::map<std::pair<int, int>, std::vector<Arc>> arcs_;
  std::map<Key, Judged> known_;
};

}  // namespace awl::parting
