#include "core/base/guard.hpp"

#include <catch2/catch.hpp>
#include <filesystem>

#include "core/base/parallel.hpp"

using namespace awl;

TEST_CASE("whatever is thrown behind a door becomes a sentence", "[base][guard]") {
  const auto error_of = [](auto thrown) {
    const auto done = guarded("counting", [&]() -> Result<int> {
      thrown();
      return 1;
    });
    REQUIRE_FALSE(done);
    CHECK(done.error().text.find("std::") == std::string::npos);
    CHECK(done.error().text.find("basic_string") == std::string::npos);
    return done.error();
  };
  CHECK(error_of([] { throw ContractViolation("promise"); }).code == Errc::internal);
  CHECK(error_of([] { throw ContractViolation("promise"); }).where == "promise");
  CHECK(error_of([] { throw std::bad_alloc(); }).code == Errc::too_large);
  CHECK(error_of([] { std::vector<int>().reserve(std::vector<int>().max_size() + 1); }).code == Errc::too_large);
  CHECK(error_of([] { (void)std::filesystem::file_size("/no/such/file"); }).text.find("/no/such/file") !=
      std::string::npos);
  CHECK(error_of([] { (void)std::string().at(7); }).code == Errc::internal);
  CHECK(error_of([] { throw 5; }).code == Errc::internal);
  CHECK(guarded("counting", []() -> Result<int> { return 7; }).value() == 7);
}

TEST_CASE("what a helper of parallel work throws reaches the caller", "[base][parallel]") {
  std::atomic<int> done{0};
  CHECK_THROWS_AS(parallel_for(1000,
                      [&](int i) {
                        if (i == 17) throw ContractViolation("in a helper");
                        ++done;
                      }),
      ContractViolation);
  CHECK(done < 1000);
}
