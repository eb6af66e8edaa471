#include "core/io/shop_jobs.hpp"

#include <catch2/catch.hpp>
#include <sqlite3.h>

#include "core/base/data_files.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

const std::string kPng = std::string("\x89PNG\r\n\x1a\n", 8) + "otterpicturebytes";

struct OpenBook {
  test::TempFolder folder;
  std::filesystem::path path = folder / "shop.db";
  ShopBook book = *ShopBook::open(path);
  JobPages pages{book};
};

Job job_for(int wearer) {
  Job j;
  j.uid = job_uid("Otter Pup", "Otter Pup");
  j.title = "Otter Pup";
  j.wearer = wearer;
  j.wishes = "whiskers that bend";
  j.due = Day{20810};
  return j;
}

void run_plain(const std::filesystem::path& path, const std::string& sql) {
  sqlite3* db = nullptr;
  REQUIRE(sqlite3_open(path.string().c_str(), &db) == SQLITE_OK);
  CHECK(sqlite3_exec(db, sql.c_str(), nullptr, nullptr, nullptr) == SQLITE_OK);
  sqlite3_close(db);
}

}  // namespace

TEST_CASE("a book of any earlier tables keeps its rows and gets jobs", "[io][book][jobs]") {
  const int from = GENERATE(1, 2, 3, 4);
  const test::TempFolder folder;
  const auto path = folder / "old.db";
  REQUIRE(shop_book::migrate(path, from));
  run_plain(path,
      "INSERT INTO wearer(id, name) VALUES(3, 'Lamp Post'); INSERT INTO sheet(id, wearer, day) VALUES(5, 3, 19000)");
  if (from == 4)
    run_plain(path,
        "INSERT INTO job(id, uid, title) VALUES(9, 'old', 'Reed Mask'); INSERT INTO work(job, stage, began, ended) "
        "VALUES(9, 'cut', 10, 30)");
  if (from == 3)
    run_plain(path, "INSERT INTO wait(label, meanwhile, caution, started, ready) VALUES('seal', '', '', 10, 20)");
  auto book = ShopBook::open(path);
  REQUIRE(book);
  CHECK(book->wearers()->front().name == "Lamp Post");
  if (from == 3) CHECK(book->waits()->front().label == "seal");
  JobPages pages(*book);
  CHECK(pages.jobs()->size() == (from == 4 ? 1 : 0));
  if (from == 4) CHECK(pages.work(9)->front().note.empty());
  const auto id = pages.keep(job_for(3));
  REQUIRE(id);
  CHECK((*pages.job_of(job_for(3).uid))->wearer == 3);
}

TEST_CASE("a job is kept under its uid, changed and taken out", "[io][book][jobs]") {
  OpenBook b;
  Job j = job_for(0);
  const int id = *b.pages.keep(j);
  j.title = "Otter Pup, second";
  j.price_cents = 41500;
  CHECK(*b.pages.keep(j) == id);
  REQUIRE(b.pages.jobs()->size() == 1);
  const Job kept = **b.pages.job_of(j.uid);
  CHECK(kept.title == "Otter Pup, second");
  CHECK(kept.price_cents == 41500);
  CHECK(kept.due == Day{20810});
  CHECK_FALSE(*b.pages.job_of("nobody"));
  j.title = "  ";
  CHECK(b.pages.keep(j).error().code == Errc::empty_input);
  j = job_for(77);
  j.uid = "another";
  CHECK(b.pages.keep(j).error().code == Errc::unknown_name);
  CHECK(b.pages.remove(id));
  CHECK(b.pages.jobs()->empty());
  CHECK(b.pages.restore(id));
  CHECK(b.pages.jobs()->size() == 1);
}

TEST_CASE("hours are what passes between beginning and ending, whatever the clock does", "[io][book][jobs]") {
  OpenBook b;
  const int job = *b.pages.keep(job_for(0));
  const int first = *b.pages.begin_work({0, job, "cut", "cut/all/1", 1000, {}, 60});
  CHECK(b.pages.going_on(job)->value().id == first);
  // Beginning the next ends the one before.
  const int second = *b.pages.begin_work({0, job, "glue", "glue/hood/1", 1090, {}, 30});
  CHECK(b.pages.work(job)->front().ended == 1090);
  CHECK(b.pages.end_work(second, 1000).error().text.find("clock set back") != std::string::npos);
  CHECK(b.pages.end_work(second, 1120));
  CHECK_FALSE(*b.pages.going_on(job));
  // The clock is set back while something goes on: it then counts as nothing.
  (void)b.pages.begin_work({0, job, "cut", "cut/all/2", 2000, {}, 60});
  (void)b.pages.begin_work({0, job, "cut", "cut/all/3", 1500, {}, 60});
  CHECK(b.pages.work(job)->size() == 4);
  const auto logs = *b.pages.logs();
  REQUIRE(logs.at("glue").size() == 1);
  CHECK(logs.at("glue")[0] == StageLog{30.0, 30.0});
  CHECK(logs.at("cut")[0].actual_min == Approx(90.0));
  CHECK(b.pages.logs(job)->empty());
}

TEST_CASE(
    "words are found in wishes, fittings and changes, by their beginnings and without accents", "[io][book][jobs]") {
  OpenBook b;
  const int job = *b.pages.keep(job_for(0));
  Fitting f{0, job, Day{20800}, Day{0}, "pinches at the caf\xC3\xA9 ear"};
  f.id = *b.pages.keep(f);
  CHECK(b.pages.keep(FoamChange{0, job, Day{20801}, 2, "left temple", "taken in by 4 mm", false}));
  CHECK(b.pages.search("whisk")->size() == 1);
  CHECK(b.pages.search("cafe")->front().kind == "fitting");
  CHECK(b.pages.search("temple taken")->front().kind == "foam");
  CHECK(b.pages.search("\"quoted")->empty());
  CHECK(b.pages.search("  ")->empty());
  f.note = "sits well";
  CHECK(b.pages.keep(f));
  CHECK(b.pages.search("pinches")->empty());
  CHECK(b.pages.drop_fitting(f.id));
  CHECK(b.pages.search("sits")->empty());
  CHECK(b.pages.fittings(job)->empty());
  CHECK(b.pages.changes(job)->front().place == "left temple");
}

TEST_CASE("only pictures are kept as pictures", "[io][book][jobs]") {
  OpenBook b;
  const int job = *b.pages.keep(job_for(0));
  CHECK(b.pages.add({0, job, 0, 500, "cut/all/1", "", "no picture"}).error().code == Errc::bad_file);
  const int id = *b.pages.add({0, job, 0, 500, "cut/all/1", "all pieces", kPng});
  CHECK(b.pages.photos(job)->front().note == "all pieces");
  CHECK(*b.pages.picture(id) == kPng);
  CHECK(b.pages.picture(99).error().code == Errc::unknown_name);
  CHECK(b.pages.drop_photo(id));
  CHECK(b.pages.photos(job)->empty());
}

TEST_CASE("what is forgotten is gone from every byte of the book", "[io][book][jobs]") {
  const test::TempFolder folder;
  const auto path = folder / "shop.db";
  {
    auto book = *ShopBook::open(path);
    JobPages pages(book);
    const int wearer = *book.add_wearer("Quillfeather", "left handed");
    TapeSheet sheet;
    sheet.head[MeasureId::HC].first_mm = 512.0;
    CHECK(book.add_sheet(wearer, sheet));
    const int job = *pages.keep(job_for(wearer));
    CHECK(pages.keep(Fitting{0, job, Day{20800}, Day{20800}, "ticklish behind the ears"}));
    CHECK(pages.add({0, 0, wearer, 500, "", "", kPng}));
    CHECK(pages.give({0, job, Day{20790}, "for Quillfeather", 41500}));
    (void)pages.begin_work({0, job, "cut", "cut/all/1", 100, 160, 60});
    const auto all = pages.all_of(wearer);
    REQUIRE(all);
    CHECK(all->sheets.size() == 1);
    CHECK(all->photos.size() == 1);
    CHECK(all->fittings.size() == 1);
    const auto files = carry_out(*all, folder / "out");
    REQUIRE(files);
    CHECK(files->size() == 3);
    CHECK(read_file(folder / "out" / "notes.txt")->find("ticklish") != std::string::npos);
    REQUIRE(pages.forget(wearer));
    // Prices and hours stay.
    CHECK(pages.quotes(job)->front().price_cents == 41500);
    CHECK(pages.work(job)->size() == 1);
    CHECK(pages.forget(wearer).error().code == Errc::unknown_name);
    for (const char* ending : {"", "-wal"}) {
      if (!std::filesystem::exists(path.string() + ending)) continue;
      const std::string bytes = *read_file(path.string() + ending);
      for (const char* word : {"Quillfeather", "ticklish", "otterpicturebytes", "whiskers", "otter-pup"})
        CHECK(bytes.find(word) == std::string::npos);
    }
  }
}

TEST_CASE("while somebody reads the book the log is not cut, and that is said", "[io][book][jobs]") {
  OpenBook b;
  const int wearer = *b.book.add_wearer("Quillfeather", "");
  sqlite3* reader = nullptr;
  REQUIRE(sqlite3_open(b.path.string().c_str(), &reader) == SQLITE_OK);
  CHECK(sqlite3_exec(reader, "BEGIN; SELECT COUNT(*) FROM wearer", nullptr, nullptr, nullptr) == SQLITE_OK);
  const auto forgotten = b.pages.forget(wearer);
  REQUIRE_FALSE(forgotten);
  CHECK(forgotten.error().code == Errc::locked);
  CHECK(b.book.wearers()->empty());
  sqlite3_close(reader);
}

TEST_CASE("a picture's note goes with it", "[io][book][jobs]") {
  OpenBook b;
  const int job = *b.pages.keep(job_for(0));
  const int id = *b.pages.add({0, job, 0, 500, "", "moulded beak", kPng});
  CHECK(b.pages.search("moulded")->size() == 1);
  CHECK(b.pages.drop_photo(id));
  CHECK(b.pages.search("moulded")->empty());
}

TEST_CASE("two windows see each other's jobs", "[io][book][jobs]") {
  OpenBook b;
  auto second = *ShopBook::open(b.path);
  JobPages other(second);
  CHECK(b.pages.keep(job_for(0)));
  REQUIRE(other.jobs()->size() == 1);
  CHECK(other.remove(other.jobs()->front().id));
  CHECK(b.pages.jobs()->empty());
}

TEST_CASE("notes on steps are found, changed, and gone with their line", "[io][book][jobs]") {
  OpenBook b;
  const int job = *b.pages.keep(job_for(0));
  const int work = *b.pages.begin_work({0, job, "fill", "fill/all/1", 600, {}, 30.0});
  CHECK(b.pages.note_work(work, "thinner passes over the cheek"));
  REQUIRE(b.pages.search("cheek")->size() == 1);
  CHECK(b.pages.search("cheek")->front().kind == "note");
  CHECK(b.pages.note_work(work, "two passes are enough"));
  CHECK(b.pages.search("cheek")->empty());
  CHECK(b.pages.work(job)->front().note == "two passes are enough");
  CHECK(b.pages.drop_work(work));
  CHECK(b.pages.search("enough")->empty());
  CHECK(b.pages.note_work(work, "x").error().code == Errc::unknown_name);
}

TEST_CASE("files that hold a wearer's measures are known until they are gone", "[io][book][jobs]") {
  OpenBook b;
  const int wearer = *b.book.add_wearer("Otter Pup", "");
  const int job = *b.pages.keep(job_for(wearer));
  const auto build = b.folder / "otter.noggin", gone = b.folder / "gone.pdf";
  REQUIRE(write_file_safely(build, "a build"));
  REQUIRE(write_file_safely(b.folder / "otter.noggin~", "the one before"));
  for (const auto& file : {build, gone, build}) CHECK(b.pages.wrote(job, file));
  const auto files = *b.pages.files_of(wearer);
  REQUIRE(files.size() == 2);
  CHECK(files[0] == build);
  CHECK(files[1] == b.folder / "otter.noggin~");
  CHECK(b.pages.files_of(wearer + 1)->empty());
  const int work = *b.pages.begin_work({0, job, "fill", "fill/all/1", 600, {}, 30.0});
  CHECK(b.pages.note_work(work, "whiskertrouble"));
  CHECK(b.pages.all_of(wearer)->files.size() == 2);
  CHECK(b.pages.all_of(wearer)->work.size() == 1);
  const auto out = carry_out(*b.pages.all_of(wearer), b.folder / "out");
  REQUIRE(out);
  CHECK(read_file(b.folder / "out" / "notes.txt")->find("whiskertrouble") != std::string::npos);
  CHECK(b.pages.forget(wearer));
  const auto bytes = read_file(b.path);
  REQUIRE(bytes);
  for (const char* word : {"whiskertrouble", "otter.noggin"}) CHECK(bytes->find(word) == std::string::npos);
}
