#include "core/base/progress.hpp"

#include <catch2/catch.hpp>

#include "core/base/parallel.hpp"

using namespace awl;

TEST_CASE("jobs side by side tell one progress that only rises, by what each is of the work", "[base][progress]") {
  double told = 0.0;
  bool fell = false;
  const Progress whole([&](double fraction) {
    fell = fell || fraction < told;
    told = fraction;
    return true;
  });
  SideBySide jobs(whole.span(0.2, 1.0), {30.0, 10.0, 0.0});
  CHECK(jobs.of(0).keep_going(0.5));
  CHECK(told == Approx(0.2 + 0.8 * 15.0 / 40.0));
  CHECK(jobs.of(1).keep_going(1.0));
  CHECK(told == Approx(0.2 + 0.8 * 25.0 / 40.0));
  jobs.of(0).keep_going(0.25);  // a job that begins its next step a little back
  CHECK(told == Approx(0.2 + 0.8 * 25.0 / 40.0));
  parallel_for(2, [&](int job) {
    for (int i = 0; i <= 1000; ++i) jobs.of(static_cast<std::size_t>(job)).keep_going(1e-3 * i);
  });
  CHECK(told == Approx(1.0));
  CHECK_FALSE(fell);
}

TEST_CASE("every job hears that somebody asked to stop", "[base][progress]") {
  const Progress stopped([](double) { return false; });
  SideBySide jobs(stopped, {1.0, 1.0});
  CHECK_FALSE(jobs.of(0).keep_going(0.0));
  CHECK_FALSE(jobs.of(1).keep_going(0.5));
}
