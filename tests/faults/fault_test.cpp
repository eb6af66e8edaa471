#include <sys/wait.h>
#include <unistd.h>

#include <catch2/catch.hpp>
#include <csignal>
#include <filesystem>
#include <set>

#include "core/base/data_files.hpp"
#include "core/base/disk.hpp"
#include "core/base/file_lock.hpp"
#include "core/base/random.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/build_file.hpp"
#include "core/io/shop_book.hpp"
#include "core/io/shop_jobs.hpp"
#include "support/effort.hpp"
#include "support/failing_calls.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;
using awl::test::FailingCalls;
using awl::test::PoorDisk;
namespace fs = std::filesystem;

namespace {

using Manner = FailingCalls::Manner;

/// A folder of its own, empty.
fs::path fresh_folder() {
  const fs::path folder = fs::temp_directory_path() / ("noggin-awl-faults-" + std::to_string(::getpid()));
  fs::remove_all(folder);
  fs::create_directories(folder);
  return folder;
}

/// Some disks keep what is still open about for a moment.
void clear_away(const fs::path& folder) {
  std::error_code ignored;
  fs::remove_all(folder, ignored);
}

std::set<std::string> names_in(const fs::path& folder) {
  std::set<std::string> names;
  for (const auto& entry : fs::directory_iterator(folder)) names.insert(entry.path().filename().string());
  return names;
}

/// Something that is done to files, with what must hold whatever failed on the way.
struct FileAct {
  std::string name;
  std::function<void(const fs::path&)> prepare;
  std::function<Result<void>(const fs::path&)> run;
  std::function<void(const fs::path&, bool said_done)> check;
};

/// Runs an act through every single failing point, in one manner of failing. Answers how many there were.
int through_all(const FileAct& act, Manner manner) {
  int points = 0;
  for (int nth = 1;; ++nth) {
    const fs::path folder = fresh_folder();
    act.prepare(folder);
    Result<void> done;
    bool struck = false;
    std::string at;
    {
      const FailingCalls failing(nth, manner);
      done = act.run(folder);
      struck = FailingCalls::struck(), at = FailingCalls::last();
    }
    INFO(act.name << ", call " << nth << " (" << at << ") fails, manner " << static_cast<int>(manner)
                  << (done ? ", said to be done" : ", said: " + done.error().text));
    if (!done) {
      CHECK(done.error().text.size() > 20);
      CHECK(done.error().text.back() == '.');
    }
    act.check(folder, done.has_value());
    fs::remove_all(folder);
    if (!struck) break;
    ++points;
    REQUIRE(nth < 5000);
  }
  return points;
}

Build build_named(const char* name) {
  Build b = demo_build(Day{20731});
  b.name = name;
  return b;
}

FileAct saving(bool over) {
  FileAct act;
  act.name = over ? "save over" : "save anew";
  act.prepare = [over](const fs::path& f) {
    if (over) REQUIRE(save_build(f / "a.noggin", build_named("before")));
  };
  act.run = [](const fs::path& f) { return save_build(f / "a.noggin", build_named("after")); };
  act.check = [over](const fs::path& f, bool done) {
    const auto now = open_build(f / "a.noggin");
    if (over || done) REQUIRE(now);
    if (now) CHECK((now->name == "after" || (!done && now->name == "before")));
    if (done) CHECK(now->name == "after");
    // Nothing half-written lies about.
    for (const std::string& name : names_in(f)) CHECK((name == "a.noggin" || name == "a.noggin~"));
    if (fs::exists(f / "a.noggin~")) CHECK(open_build(f / "a.noggin~"));
  };
  return act;
}

FileAct in_book(const std::string& name, const std::function<Result<void>(ShopBook&)>& change,
    const std::function<void(const ShopBook&, bool done)>& check) {
  FileAct act;
  act.name = name;
  act.prepare = [](const fs::path& f) {
    auto book = ShopBook::open(f / "book.db");
    REQUIRE(book);
    const auto id = book->add_wearer("Reed", "kept");
    REQUIRE(id);
    TapeSheet sheet;
    sheet.set(MeasureId::HC, 566.0);
    sheet.day = Day{20731};
    REQUIRE(book->add_sheet(*id, sheet));
    REQUIRE(book->set_stock("glue", 3.5));
  };
  act.run = [change](const fs::path& f) -> Result<void> {
    std::string told;
    auto book = ShopBook::open(f / "book.db", &told);
    if (!book) return fail(book);
    CHECK(told == "");
    return change(*book);
  };
  act.check = [check](const fs::path& f, bool done) {
    std::string told;
    const auto book = ShopBook::open(f / "book.db", &told);
    REQUIRE(book);
    CHECK(told == "");
    for (const std::string& there : names_in(f)) CHECK(there.find("damaged") == std::string::npos);
    const auto wearers = book->wearers("Reed");
    REQUIRE(wearers);
    REQUIRE(wearers->size() == 1);
    CHECK(wearers->front().note == "kept");
    CHECK(wearers->front().sheets == 1);
    CHECK(book->stock()->at("glue") == Approx(3.5));
    check(*book, done);
  };
  return act;
}

constexpr int kLantern = 1;  // the first of a book

/// A book with one wearer of whom it holds a sheet, a job, a picture and what was said of a fitting.
void with_lantern(const fs::path& folder) {
  auto book = ShopBook::open(folder / "book.db");
  REQUIRE(book);
  REQUIRE(book->add_wearer("Lantern", "said by the wearer") == kLantern);
  TapeSheet sheet;
  sheet.set(MeasureId::HC, 566.0);
  sheet.day = Day{20731};
  REQUIRE(book->add_sheet(kLantern, sheet));
  JobPages pages(*book);
  Job job;
  job.uid = "one", job.title = "a lamp", job.wearer = kLantern;
  const auto id = pages.keep(job);
  REQUIRE(id);
  Fitting fitting;
  fitting.job = *id, fitting.note = "it rubs behind the ear";
  REQUIRE(pages.keep(fitting));
}

/// Somebody is forgotten: wholly, or not at all and said.
FileAct forgetting() {
  return {"forget a wearer", [](const fs::path& f) { with_lantern(f); },
      [](const fs::path& f) -> Result<void> {
        auto book = ShopBook::open(f / "book.db");
        if (!book) return fail(book);
        return JobPages(*book).forget(kLantern);
      },
      [](const fs::path& f, bool done) {
        std::string told;
        auto book = ShopBook::open(f / "book.db", &told);
        REQUIRE(book);
        CHECK(told == "");
        const auto there = book->wearers("Lantern");
        REQUIRE(there);
        const auto found = JobPages(*book).search("ear");
        REQUIRE(found);
        if (done) CHECK(there->empty());
        // The name and what was said go together.
        CHECK(there->empty() == found->empty());
      }};
}

std::vector<FileAct> all_acts() {
  std::vector<FileAct> acts{saving(false), saving(true)};
  acts.push_back({"save a mesh", [](const fs::path&) {},
      [](const fs::path& f) { return write_mesh(f / "ball.stl", test::grid_sphere(50.0)); },
      [](const fs::path& f, bool done) {
        if (done) CHECK(read_mesh(f / "ball.stl"));
        CHECK(names_in(f).size() <= 1);
        if (fs::exists(f / "ball.stl")) CHECK(read_mesh(f / "ball.stl"));
      }});
  acts.push_back({"open a build", [](const fs::path& f) { REQUIRE(save_build(f / "a.noggin", build_named("kept"))); },
      [](const fs::path& f) -> Result<void> {
        const auto build = open_build(f / "a.noggin");
        if (!build) return fail(build);
        CHECK(build->name == "kept");
        return {};
      },
      [](const fs::path& f, bool) { CHECK(open_build(f / "a.noggin")->name == "kept"); }});
  acts.push_back(in_book(
      "add a wearer",
      [](ShopBook& book) -> Result<void> {
        const auto id = book.add_wearer("Lantern", "new");
        if (!id) return fail(id);
        return {};
      },
      [](const ShopBook& book, bool done) {
        const auto found = book.wearers("Lantern");
        REQUIRE(found);
        CHECK(found->size() <= 1);
        if (done) CHECK(found->size() == 1);
      }));
  acts.push_back(in_book(
      "count what is in stock", [](ShopBook& book) -> Result<void> { return book.set_stock("own", 2.0); },
      [](const ShopBook& book, bool done) {
        const auto stock = book.stock();
        REQUIRE(stock);
        if (done) CHECK(stock->at("own") == Approx(2.0));
      }));
  acts.push_back({"begin a book", [](const fs::path&) {},
      [](const fs::path& f) -> Result<void> {
        auto book = ShopBook::open(f / "book.db");
        if (!book) return fail(book);
        const auto id = book->add_wearer("Reed", "");
        if (!id) return fail(id);
        return {};
      },
      [](const fs::path& f, bool done) {
        std::string told;
        const auto book = ShopBook::open(f / "book.db", &told);
        REQUIRE(book);
        CHECK(told == "");
        if (done) CHECK(book->wearers()->size() == 1);
      }});
  acts.push_back(forgetting());
  acts.push_back({"carry out a wearer's record", [](const fs::path& f) { with_lantern(f); },
      [](const fs::path& f) -> Result<void> {
        auto book = ShopBook::open(f / "book.db");
        if (!book) return fail(book);
        const auto record = JobPages(*book).all_of(kLantern);
        if (!record) return fail(record);
        const auto files = carry_out(*record, f / "out");
        if (!files) return fail(files);
        CHECK(files->size() > 1);
        return {};
      },
      [](const fs::path& f, bool done) {
        if (done) CHECK(names_in(f / "out").size() > 1);
        // What is there is whole: no file that was begun lies about.
        if (fs::exists(f / "out"))
          for (const std::string& name : names_in(f / "out")) {
            CHECK(name.find(".part") == std::string::npos);
            CHECK(fs::file_size(f / "out" / name) > 0);
          }
        CHECK(ShopBook::open(f / "book.db")->wearers("Lantern")->size() == 1);
      }});
  return acts;
}

}  // namespace

TEST_CASE("Every file call may fail once: a sentence each time, nothing lost, nothing half-written") {
  int points = 0;
  for (const FileAct& act : all_acts()) points += through_all(act, Manner::once);
  WARN("failing points: " << points);
  CHECK(points > 150);
}

TEST_CASE("A disk that is gone from some call on loses nothing either") {
  for (const FileAct& act : all_acts()) CHECK(through_all(act, Manner::from_there) > 0);
}

TEST_CASE("A disk that is full in the middle of a write keeps what there was") {
  for (const FileAct& act : all_acts())
    if (act.name != "open a build") CHECK(through_all(act, Manner::short_write) > 0);
}

TEST_CASE("A program killed while it saves leaves a whole file, and a book that opens") {
  const int kills = test::tries(40, 400);
  const fs::path folder = fresh_folder();
  REQUIRE(save_build(folder / "a.noggin", build_named("0")));
  {
    auto book = ShopBook::open(folder / "book.db");
    REQUIRE(book);
    REQUIRE(book->add_wearer("Reed", ""));
  }
  Random random(9);
  std::size_t wearers = 1;
  for (int i = 0; i < kills; ++i) {
    const pid_t child = ::fork();
    REQUIRE(child >= 0);
    if (child == 0) {
      auto book = ShopBook::open(folder / "book.db");
      for (int n = 1;; ++n) {
        (void)save_build(folder / "a.noggin", build_named(std::to_string(n).c_str()));
        if (book) (void)book->add_wearer("Number " + std::to_string(n), "");
      }
    }
    ::usleep(static_cast<useconds_t>(random.uniform(500, 60'000)));
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    INFO("kill " << i);
    const auto build = open_build(folder / "a.noggin");
    REQUIRE(build);
    CHECK_FALSE(build->name.empty());
    std::string told;
    const auto book = ShopBook::open(folder / "book.db", &told);
    REQUIRE(book);
    CHECK(told == "");
    const auto now = book->wearers()->size();
    CHECK(now >= wearers);
    wearers = now;
  }
  clear_away(folder);
}

TEST_CASE("Programs that write one book and one file at once lose nothing of each other's") {
  const fs::path folder = fresh_folder();
  REQUIRE(save_build(folder / "a.noggin", build_named("0")));
  REQUIRE(ShopBook::open(folder / "book.db"));
  constexpr int kPrograms = 3, kEach = 25;
  std::vector<pid_t> children;
  for (int who = 0; who < kPrograms; ++who) {
    const pid_t child = ::fork();
    REQUIRE(child >= 0);
    if (child == 0) {
      // Answers how many of its calls were not done; each of those must have said why.
      int refused = 0;
      for (int n = 0; n < kEach; ++n) {
        const std::string name = std::to_string(who) + " wrote " + std::to_string(n);
        auto book = ShopBook::open(folder / "book.db");
        const auto added = book ? book->add_wearer(name, "") : fail(book);
        if (!added) refused += added.error().text.size() > 20 ? 1 : 100;
        if (const auto saved = save_build(folder / "a.noggin", build_named(name.c_str())); !saved) refused += 100;
        // Whatever it is by now, it is whole.
        if (!open_build(folder / "a.noggin")) refused += 100;
      }
      ::_exit(std::min(refused, 255));
    }
    children.push_back(child);
  }
  int refused = 0;
  for (const pid_t child : children) {
    int status = 0;
    ::waitpid(child, &status, 0);
    REQUIRE(WIFEXITED(status));
    refused += WEXITSTATUS(status);
  }
  CAPTURE(refused);
  CHECK(refused < 100);
  std::string told;
  const auto book = ShopBook::open(folder / "book.db", &told);
  REQUIRE(book);
  CHECK(told == "");
  std::set<std::string> names;
  const auto wearers = book->wearers();
  REQUIRE(wearers);
  for (const BookWearer& w : *wearers) names.insert(w.name);
  CHECK(static_cast<int>(names.size()) == kPrograms * kEach - refused);
  const auto build = open_build(folder / "a.noggin");
  REQUIRE(build);
  CHECK(build->name.find(" wrote ") != std::string::npos);
  for (const std::string& name : names_in(folder))
    CHECK((name.rfind("a.noggin", 0) == 0 || name.rfind("book.db", 0) == 0));
  CHECK(names_in(folder).count("a.noggin~") == 1);
  clear_away(folder);
}

TEST_CASE("A disk without modes, flushing, links, locks and shared memory keeps builds and books all the same") {
  const bool is_far = GENERATE(true, false);
  const fs::path folder = fresh_folder();
  {
    const PoorDisk poor(folder.string(), is_far);
    REQUIRE(save_build(folder / "a.noggin", build_named("first")));
    REQUIRE(save_build(folder / "a.noggin", build_named("second")));
    CHECK(open_build(folder / "a.noggin")->name == "second");
    CHECK(open_build(folder / "a.noggin~")->name == "first");
    const fs::path book = folder / "book.db";
    {
      auto one = ShopBook::open(book);
      INFO((one ? "" : one.error().text));
      REQUIRE(one);
      auto other = ShopBook::open(book);
      REQUIRE(other);
      REQUIRE(one->add_wearer("Reed", "kept"));
      REQUIRE(other->add_wearer("Moss", "kept too"));
      CHECK(one->wearers()->size() == 2);
      CHECK(names_in(folder).count("book.db-wal") == 0);
    }
    CHECK(ShopBook::open(book)->wearers()->size() == 2);
    // Who is there first is told by a lock of this machine.
    auto held = FileLock::try_take(folder / "mine.lock", FileLock::Kind::alone);
    REQUIRE(held);
    CHECK_FALSE(FileLock::try_take(folder / "mine.lock", FileLock::Kind::alone));
    CHECK_FALSE(FileLock::try_take(folder / "mine.lock", FileLock::Kind::shared));
    CHECK(FileLock::try_take(folder / "other.lock", FileLock::Kind::alone));
    held.reset();
    CHECK(FileLock::try_take(folder / "mine.lock", FileLock::Kind::alone));
    CHECK(PoorDisk::refused() > 5);
  }
  clear_away(folder);
}

TEST_CASE("A book that was kept here and now lies on another machine gives its shared log up") {
  const fs::path folder = fresh_folder(), book = folder / "book.db";
  if (is_far(folder)) return clear_away(folder);  // tried on such a disk: there is no here
  const auto keeps_log = [&] {
    // "File format write version" of the head: 2 with a shared log, 1 without (sqlite.org, "Database File Format").
    return read_file(book)->at(18) == 2;
  };
  REQUIRE(ShopBook::open(book)->add_wearer("Reed", "kept"));
  CHECK(keeps_log());
  {
    const PoorDisk poor(folder.string(), true);
    CHECK(ShopBook::open(book)->wearers()->size() == 1);
    CHECK_FALSE(keeps_log());
  }
  CHECK(ShopBook::open(book)->wearers()->size() == 1);
  CHECK(keeps_log());
  clear_away(folder);
}

TEST_CASE("A file with a name as long as a disk allows is saved, and over itself") {
  const fs::path folder = fresh_folder(), file = folder / (std::string(255 - 7, 'n') + ".noggin");
  REQUIRE(save_build(file, build_named("first")));
  REQUIRE(save_build(file, build_named("second")));
  CHECK(open_build(file)->name == "second");
  for (const std::string& name : names_in(folder)) CHECK(name.rfind("nnn", 0) == 0);
  clear_away(folder);
}

TEST_CASE("What belongs to somebody else is refused in words and stays as it is") {
  const fs::path folder = fresh_folder();
  if (is_far(folder)) return clear_away(folder);  // tried on a disk that may know no owners
  REQUIRE(save_build(folder / "a.noggin", build_named("theirs")));
  {
    auto book = ShopBook::open(folder / "book.db");
    REQUIRE(book);
    REQUIRE(book->add_wearer("Reed", "kept"));
  }
  const std::string before = *read_file(folder / "a.noggin");
  // A book is its owner's alone; the build is here made so too, and the folder closed to writing.
  fs::permissions(folder / "a.noggin", fs::perms::owner_read | fs::perms::owner_write);
  fs::permissions(folder,
      fs::perms::owner_all | fs::perms::group_read | fs::perms::group_exec | fs::perms::others_read |
          fs::perms::others_exec);
  CHECK((fs::status(folder / "book.db").permissions() & (fs::perms::group_all | fs::perms::others_all)) ==
      fs::perms::none);
  if (::geteuid() != 0) {
    WARN("only the super-user can become another user: the rest is not tried");
    fs::remove_all(folder);
    return;
  }
  const pid_t child = ::fork();
  REQUIRE(child >= 0);
  if (child == 0) {
    constexpr uid_t kNobody = 65534;
    if (::setgid(kNobody) != 0 || ::setuid(kNobody) != 0) ::_exit(100);
    int wrong = 0;
    const auto in_words = [&](const Error& e) { return e.text.size() > 20 && e.text.find(".") != std::string::npos; };
    const auto open = open_build(folder / "a.noggin");
    wrong += open || !in_words(open.error()) ? 1 : 0;
    const auto saved = save_build(folder / "a.noggin", build_named("mine"));
    wrong += saved || !in_words(saved.error()) ? 2 : 0;
    std::string told;
    const auto book = ShopBook::open(folder / "book.db", &told);
    wrong += book || !told.empty() || !in_words(book.error()) ? 4 : 0;
    ::_exit(wrong);
  }
  int status = 0;
  ::waitpid(child, &status, 0);
  REQUIRE(WIFEXITED(status));
  CHECK(WEXITSTATUS(status) == 0);
  CHECK(*read_file(folder / "a.noggin") == before);
  for (const std::string& name : names_in(folder)) CHECK(name.find("damaged") == std::string::npos);
  CHECK(ShopBook::open(folder / "book.db")->wearers("Reed")->size() == 1);
  clear_away(folder);
}
