#pragma once
#include <sys/resource.h>
#include <unistd.h>

namespace awl {

/// From now on the calling thread, and those it begins, let others go first: what a hand waits for comes before what is
/// worked out beside it. Costs nothing where a core is free. Linux: the niceness of one thread.
inline void give_way() {
  constexpr int kNice = 10;
  (void)setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), kNice);
}

}  // namespace awl
