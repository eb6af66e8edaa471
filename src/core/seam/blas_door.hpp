#pragma once
#include <mutex>

namespace awl {

/// Held while a solver calls BLAS from this thread.
///
/// OpenBLAS built without threads gives wrong numbers to two threads that call it at once, without a word (seen with
/// Debian's libopenblas0-serial 0.3.21); one at a time may call it then, and with any other BLAS all may. One built
/// with threads is told to use one: matrices here are too small for more, and what runs side by side are whole parts.
/// CHOLMOD's own threads are told to stay away too: it asks for four a supernode, and they wait longer than they work
/// (a showpiece corrected: 32 s so, 22 s without; minutes where the cores are not all free).
class BlasDoor {
 public:
  BlasDoor();

 private:
  std::unique_lock<std::mutex> alone_;
};

}  // namespace awl
