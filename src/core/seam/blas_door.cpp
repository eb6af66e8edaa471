#include "core/seam/blas_door.hpp"

#include <dlfcn.h>
#include <omp.h>

namespace awl {
namespace {

/// Of OpenBLAS, which need not be the BLAS that is there: found by name.
template <class Function>
Function* of_openblas(const char* name) {
  return reinterpret_cast<Function*>(dlsym(RTLD_DEFAULT, name));
}

bool one_at_a_time() {
  if (auto* set_threads = of_openblas<void(int)>("openblas_set_num_threads")) set_threads(1);
  auto* kind = of_openblas<int()>("openblas_get_parallel");
  constexpr int kWithoutThreads = 0;
  return kind != nullptr && kind() == kWithoutThreads;
}

}  // namespace

BlasDoor::BlasDoor() {
  static const bool alone = one_at_a_time();
  static std::mutex door;
  if (alone) alone_ = std::unique_lock(door);
  omp_set_max_active_levels(0);  // of the calling thread alone
}

}  // namespace awl
