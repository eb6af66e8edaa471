#include "core/base/parallel.hpp"

#include <algorithm>
#include <atomic>
#include <catch2/catch.hpp>
#include <stdexcept>
#include <thread>
#include <vector>

#include "core/chain/memo.hpp"

using namespace awl;

namespace {

const int kCores = static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));

void work_a_while() { std::this_thread::sleep_for(std::chrono::milliseconds(2)); }

/// Counts who is at work at once.
struct AtWork {
  std::atomic<int> now{0}, most{0};
  void in() {
    const int n = ++now;
    int known = most;
    while (n > known && !most.compare_exchange_weak(known, n)) {
    }
  }
  void out() { --now; }
};

}  // namespace

TEST_CASE(
    "every job is done once, whatever is inside it, by no more at once than there are cores", "[base][parallel]") {
  constexpr int kOuter = 7, kInner = 9, kLeast = 3;
  std::vector<std::atomic<int>> done(kOuter * kInner * kLeast);
  AtWork at_work;
  parallel_for(kOuter, [&](int i) {
    parallel_for(kInner, [&](int j) {
      parallel_for(kLeast, [&](int k) {
        at_work.in();
        ++done[static_cast<std::size_t>((i * kInner + j) * kLeast + k)];
        work_a_while();
        at_work.out();
      });
    });
  });
  CHECK(std::all_of(done.begin(), done.end(), [](const auto& times) { return times == 1; }));
  CHECK(at_work.most <= kCores);
  CHECK(at_work.most >= std::min(2, kCores));
  parallel_for(0, [&](int) { FAIL("there is nothing to do"); });
}

TEST_CASE("a core that becomes free helps where one long job has many of its own", "[base][parallel]") {
  if (kCores < 2) return;
  std::atomic<int> by_others{0};
  parallel_for(2, [&](int job) {
    if (job == 1) return;  // done at once: its core is free from then on
    const auto own = std::this_thread::get_id();
    work_a_while();
    parallel_for(40, [&](int) {
      work_a_while();
      if (std::this_thread::get_id() != own) ++by_others;
    });
  });
  CHECK(by_others >= 5);
}

TEST_CASE(
    "what a job throws comes to the caller, from inside others too, and the next work goes on", "[base][parallel]") {
  std::atomic<int> begun{0};
  const auto failing = [&] {
    parallel_for(4, [&](int i) {
      parallel_for(1000, [&](int j) {
        ++begun;
        if (i == 1 && j == 3) throw std::runtime_error("the fourth");
      });
    });
  };
  CHECK_THROWS_WITH(failing(), "the fourth");
  std::atomic<int> done{0};
  parallel_for(64, [&](int) { ++done; });
  CHECK(done == 64);
}

TEST_CASE("what two ask for at once is made by one of them; who waits hears of its error", "[chain][parallel]") {
  Memo<int, int> memo(4);
  std::atomic<int> made{0};
  std::vector<std::shared_ptr<const int>> got(8);
  parallel_for(8, [&](int i) {
    got[static_cast<std::size_t>(i)] = *memo.get(7, [&]() -> Result<int> {
      ++made;
      work_a_while();
      return 49;
    });
  });
  CHECK(made == 1);
  CHECK(std::all_of(got.begin(), got.end(), [&](const auto& one) { return one == got[0] && *one == 49; }));

  std::atomic<int> tried{0}, told{0};
  const auto refused = [&]() -> Result<int> {
    ++tried;
    work_a_while();
    return fail(Errc::no_solution, "It cannot be.");
  };
  parallel_for(2, [&](int) {
    const auto asked = memo.get(8, refused);
    if (!asked && asked.error().text == "It cannot be.") ++told;
  });
  CHECK(told == 2);
  CHECK(tried <= 2);
  CHECK_FALSE(memo.get(8, refused));  // an error is not remembered
  CHECK(tried >= 2);

  // What throws is no answer: who waited makes it himself, and nobody waits for ever.
  std::atomic<int> thrown{0};
  const auto once = [&]() -> Result<int> {
    if (thrown++ == 0) {
      work_a_while();
      throw std::runtime_error("gone");
    }
    return 81;
  };
  CHECK_THROWS_WITH(parallel_for(2, [&](int) { (void)memo.get(9, once); }), "gone");
  CHECK(**memo.get(9, once) == 81);
}

TEST_CASE("what is made may ask for more of its kind", "[chain][parallel]") {
  Memo<int, int> memo(40);
  const std::function<Result<int>(int)> sum_to = [&](int n) -> Result<int> {
    if (n == 0) return 0;
    const auto below = memo.get(n - 1, [&] { return sum_to(n - 1); });
    if (!below) return fail(below);
    return **below + n;
  };
  std::vector<int> sums(30);
  parallel_for(30, [&](int n) { sums[static_cast<std::size_t>(n)] = **memo.get(n, [&] { return sum_to(n); }); });
  for (int n = 0; n < 30; ++n) CHECK(sums[static_cast<std::size_t>(n)] == n * (n + 1) / 2);
}
