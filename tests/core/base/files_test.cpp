#include <catch2/catch.hpp>
#include <set>

#include "core/base/data_files.hpp"
#include "core/base/file_lock.hpp"
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

TEST_CASE("a link stays a link, and who may read a file stays as it was", "[base][files]") {
  const test::TempFolder folder;
  const auto real = folder / "real.txt", link = folder / "link.txt";
  REQUIRE(write_file_safely(real, "first"));
  std::filesystem::permissions(real, std::filesystem::perms::owner_read | std::filesystem::perms::owner_write);
  std::filesystem::create_symlink("real.txt", link);
  REQUIRE(write_file_safely(link, "second", true));
  CHECK(std::filesystem::is_symlink(link));
  CHECK(*read_file(real) == "second");
  CHECK(*read_file(folder / "real.txt~") == "first");
  CHECK((std::filesystem::status(real).permissions() & std::filesystem::perms::all) ==
      (std::filesystem::perms::owner_read | std::filesystem::perms::owner_write));
}

TEST_CASE("a full disk is told, and nothing is spoilt or left behind", "[base][files]") {
  const test::TempFolder folder;
  CHECK(write_file_safely("/dev/full", "bytes").error().code == Errc::cannot_write);
  CHECK(std::filesystem::is_character_file("/dev/full"));
  CHECK(write_file_safely("/dev/null", "bytes"));
  CHECK(std::filesystem::is_character_file("/dev/null"));
  // A place that takes no more: a file system as small as a quota is, where one can be had; else a folder without
  // rights.
  const auto kept = folder / "kept.txt";
  REQUIRE(write_file_safely(kept, "old"));
  REQUIRE(write_file_safely(kept, "new", true));
  CHECK_FALSE(write_file_safely(folder / "none" / "deep.txt", "x"));
  CHECK(*read_file(folder / "kept.txt~") == "old");
  CHECK(*read_file(kept) == "new");
  CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 2);
}

TEST_CASE("what is kept from others is its owner's alone, but for a group that may write", "[base][files]") {
  namespace fs = std::filesystem;
  const test::TempFolder folder;
  const fs::path file = folder.path() / "kept";
  const auto mode = [&] { return static_cast<unsigned>(fs::status(file).permissions()); };
  keep_from_others(file);
  CHECK(mode() == 0600u);
  for (const auto& [before, after] :
      {std::pair{0644u, 0600u}, {0640u, 0600u}, {0664u, 0660u}, {0666u, 0660u}, {0400u, 0400u}, {0600u, 0600u}}) {
    fs::permissions(file, static_cast<fs::perms>(before));
    keep_from_others(file);
    CHECK(mode() == after);
  }
}

TEST_CASE("names that cannot be files are sentences", "[base][files]") {
  const test::TempFolder folder;
  for (const std::filesystem::path& path : {std::filesystem::path(), folder.path(), folder.path() / "",
           std::filesystem::path("/proc/none/x"), folder.path() / std::string(300, 'n')}) {
    CAPTURE(path.string());
    const auto wrote = write_file_safely(path, "x");
    REQUIRE_FALSE(wrote);
    CHECK(wrote.error().code == Errc::cannot_write);
    CHECK(wrote.error().text.size() <= kLongestSentence);
  }
  CHECK(std::filesystem::is_empty(folder.path()));
}

TEST_CASE("a file's mark differs after every write", "[base][files]") {
  const test::TempFolder folder;
  const auto path = folder / "a.txt";
  CHECK(file_mark(path).empty());
  std::set<std::string> marks;
  for (int i = 0; i < 20; ++i) {
    REQUIRE(write_file_safely(path, "same"));
    marks.insert(file_mark(path));
  }
  CHECK(marks.size() == 20);
  CHECK(file_mark(path) == file_mark(path));
}

TEST_CASE("a lock is held by one, shared by many, and gone with its holder", "[base][files]") {
  const test::TempFolder folder;
  const auto path = folder / "lock";
  auto alone = FileLock::try_take(path, FileLock::Kind::alone);
  REQUIRE(alone);
  CHECK_FALSE(FileLock::try_take(path, FileLock::Kind::shared));
  alone->share();
  const auto beside = FileLock::try_take(path, FileLock::Kind::shared);
  CHECK(beside);
  CHECK_FALSE(FileLock::try_take(path, FileLock::Kind::alone));
  alone.reset();
  CHECK_FALSE(FileLock::try_take(path, FileLock::Kind::alone));
}

TEST_CASE("a file larger than is asked for is refused, not read", "[base][files]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "a", std::string(5000, 'x')));
  CHECK(read_file(folder / "a", 4000).error().code == Errc::too_large);
  CHECK(read_file("/dev/zero", 1 << 22).error().code == Errc::too_large);
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
  std::vector<Remark> r{{"a", Severity::note, {}, {}, {}, {}, {}}, {"b", Severity::stop, {}, {}, {}, {}, {}},
      {"c", Severity::note, {}, {}, {}, {}, {}}, {"d", Severity::warning, {}, {}, {}, {}, {}}};
  sort_remarks(r);
  CHECK((r[0].id + r[1].id + r[2].id + r[3].id) == "bdac");
}
