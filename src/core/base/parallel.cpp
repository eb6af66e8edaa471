#include "core/base/parallel.hpp"

#include <algorithm>
#include <condition_variable>
#include <exception>
#include <mutex>
#include <system_error>
#include <thread>
#include <vector>

namespace awl {

/// The threads of one outermost parallel_for, and the loops that are open: its own and those its jobs began.
class Crew {
 public:
  explicit Crew(int cores) : cores_(cores) {}
  ~Crew() {
    {
      const std::lock_guard lock(door_);
      over_ = true;
    }
    changed_.notify_all();
    for (auto& thread : threads_) thread.join();
  }
  Crew(const Crew&) = delete;
  Crew& operator=(const Crew&) = delete;

  /// That of the work the calling thread is part of; null outside of any.
  static Crew*& here() {
    static thread_local Crew* crew = nullptr;
    return crew;
  }

  void run(int count, const std::function<void(int)>& job) {
    Loop loop{count, &job};
    std::unique_lock lock(door_);
    loops_.push_back(&loop);
    call(count - 1);
    while (loop.is_open()) one_of(loop, lock);
    if (loop.running > 0) {
      loop.is_waited_for = true;
      lend();
      changed_.wait(lock, [&] { return loop.running == 0; });
    }
    std::erase(loops_, &loop);
    lock.unlock();
    if (loop.thrown) std::rethrow_exception(loop.thrown);
  }

  void lend_core() {
    const std::lock_guard lock(door_);
    lend();
  }
  void take_core() {
    const std::lock_guard lock(door_);
    ++active_;
  }

 private:
  struct Loop {
    int count;
    const std::function<void(int)>* job;
    int next = 0, running = 0;
    bool is_waited_for = false;
    std::exception_ptr thrown = nullptr;
    bool is_open() const { return next < count; }
  };

  /// The outermost that has jobs left.
  Loop* open() const {
    const auto at = std::find_if(loops_.begin(), loops_.end(), [](const Loop* l) { return l->is_open(); });
    return at == loops_.end() ? nullptr : *at;
  }

  void one_of(Loop& loop, std::unique_lock<std::mutex>& lock) {
    const int i = loop.next++;
    ++loop.running;
    lock.unlock();
    std::exception_ptr thrown;
    try {
      (*loop.job)(i);
    } catch (...) {
      thrown = std::current_exception();
    }
    lock.lock();
    if (thrown && !loop.thrown) loop.thrown = thrown, loop.next = loop.count;
    if (--loop.running > 0 || loop.is_open()) return;
    // Who waits has a core again from now on, so that nobody takes one job more meanwhile.
    if (loop.is_waited_for) ++active_;
    changed_.notify_all();
  }

  /// Wakes threads for so many jobs, or begins some, as far as cores are free.
  void call(int jobs) {
    constexpr std::size_t kMostThreads = 256;
    const int wanted = std::min(jobs, cores_ - active_);
    if (wanted <= 0) return;
    try {
      for (int fresh = wanted - sleeping_; fresh > 0 && threads_.size() < kMostThreads; --fresh)
        threads_.emplace_back([this] { help(); });
    } catch (const std::system_error&) {
      // The machine gives no more threads: those there are do it.
    }
    changed_.notify_all();
  }

  void lend() {
    --active_;
    if (open() != nullptr) call(1);
  }

  void help() {
    here() = this;
    std::unique_lock lock(door_);
    while (!over_) {
      Loop* loop = active_ < cores_ ? open() : nullptr;
      if (loop == nullptr) {
        ++sleeping_;
        changed_.wait(lock);
        --sleeping_;
        continue;
      }
      ++active_;
      for (; loop != nullptr && active_ <= cores_; loop = open()) one_of(*loop, lock);
      --active_;
    }
  }

  const int cores_;
  std::mutex door_;
  std::condition_variable changed_;
  std::vector<Loop*> loops_;  ///< the outer before those inside it
  std::vector<std::thread> threads_;
  int active_ = 1;  ///< at work; the outermost caller is one
  int sleeping_ = 0;
  bool over_ = false;
};

void parallel_for(int count, const std::function<void(int)>& job) {
  if (count == 1) return job(0);
  if (Crew* const crew = Crew::here()) return crew->run(count, job);
  struct Outermost {
    Crew crew{static_cast<int>(std::max(1u, std::thread::hardware_concurrency()))};
    Outermost() { Crew::here() = &crew; }
    ~Outermost() { Crew::here() = nullptr; }
  } outermost;
  outermost.crew.run(count, job);
}

LentCore::LentCore() : crew_(Crew::here()) {
  if (crew_ != nullptr) crew_->lend_core();
}

LentCore::~LentCore() {
  if (crew_ != nullptr) crew_->take_core();
}

}  // namespace awl
