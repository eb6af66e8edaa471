#include <catch2/catch.hpp>
#include <fstream>

#include "core/base/data_files.hpp"
#include "core/base/parallel.hpp"
#include "core/base/progress.hpp"
#include "core/base/remark.hpp"
#include "support/bench_data.hpp"

using namespace awl;

TEST_CASE("a file is replaced whole and nothing is left beside it", "[base][files]") {
  const test::TempFolder folder;
  const auto path = folder / "a.txt";
  REQUIRE(write_file_safely(path, "first"));
  REQUIRE(write_file_safely(path, "second"));
  CHECK(*read_file(path) == "second");
  CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 1);
}

TEST_CASE("a folder that cannot be written is named and the old file stays", "[base][files]") {
  const test::TempFolder folder;
  const auto blocked = folder / "file";
  REQUIRE(write_file_safely(blocked, "x"));
  const auto wrote = write_file_safely(blocked / "below.txt", "y");
  REQUIRE_FALSE(wrote);
  CHECK(wrote.error().code == Errc::cannot_write);
  CHECK(wrote.error().text.find(blocked.string()) != std::string::npos);
  CHECK(*read_file(blocked) == "x");
}

TEST_CASE("reading what is not there, or a folder, is a sentence", "[base][files]") {
  const test::TempFolder folder;
  CHECK(read_file(folder / "none").error().code == Errc::cannot_read);
  CHECK(read_file(folder.path()).error().text.find("folder") != std::string::npos);
}

TEST_CASE("a span of progress maps onto its part of the whole", "[base][progress]") {
  std::vector<double> seen;
  const Progress whole([&](double f) { return seen.push_back(f), f < 0.6; });
  const Progress part = whole.span(0.5, 1.0).span(0.0, 0.5);
  CHECK(part.keep_going(0.0));
  CHECK_FALSE(part.keep_going(1.0));
  CHECK(seen == std::vector<double>{0.5, 0.75});
  CHECK(Progress().keep_going(0.3));
}

TEST_CASE("parallel work does every job once", "[base][parallel]") {
  std::vector<int> done(1000, 0);
  parallel_for(1000, [&](int i) { ++done[i]; });
  CHECK(done == std::vector<int>(1000, 1));
}

TEST_CASE("remarks stand most serious first and keep their order otherwise", "[base][remark]") {
  std::vector<Remark> r{{"a", Severity::note, {}, {}, {}, {}, {}}, {"b", Severity::stop, {}, {}, {}, {}, {}}, {"c", Severity::note, {}, {}, {}, {}, {}}, {"d", Severity::warning, {}, {}, {}, {}, {}}};
  sort_remarks(r);
  CHECK((r[0].id + r[1].id + r[2].id + r[3].id) == "bdac");
}
