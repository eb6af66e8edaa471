#include "core/io/shop_book.hpp"

#include <catch2/catch.hpp>
#include <sqlite3.h>

#include "core/io/wearers_csv.hpp"
#include "support/bench_data.hpp"

using namespace awl;
using M = MeasureId;

namespace {

TapeSheet a_sheet(double hc_mm, int day) {
  TapeSheet sheet = sheet_of({{M::HC, hc_mm}, {M::HL, 195}});
  sheet.day = Day{day}, sheet.by = "the workshop", sheet.people = "adult";
  sheet.head[M::HC] = {hc_mm, hc_mm + 2.0, 3.0, Day{day}, "a helper"};
  sheet.body[BodyMeasure::hand] = 212.0;
  sheet.accepted = {M::HL};
  return sheet;
}

/// Another program at work on the same file.
class Other {
 public:
  explicit Other(const std::filesystem::path& path) { REQUIRE(sqlite3_open(path.string().c_str(), &db_) == SQLITE_OK); }
  ~Other() { sqlite3_close(db_); }
  Other(const Other&) = delete;
  Other& operator=(const Other&) = delete;
  void run(const std::string& sql) {
    CAPTURE(sql);
    REQUIRE(sqlite3_exec(db_, sql.c_str(), nullptr, nullptr, nullptr) == SQLITE_OK);
  }

 private:
  sqlite3* db_ = nullptr;
};

}  // namespace

TEST_CASE("a wearer's dated measures come back from the book as they were", "[io][book]") {
  const test::TempFolder folder;
  int ferry = 0;
  {
    auto book = ShopBook::open(folder / "shop.db");
    REQUIRE(book);
    ferry = *book->add_wearer("Ferry Keeper", "left-handed, wears glasses");
    REQUIRE(book->add_wearer("Almanac Seller", ""));
    REQUIRE(book->add_sheet(ferry, a_sheet(571, 20000)));
    REQUIRE(book->add_sheet(ferry, a_sheet(574, 20400)));
  }
  const auto book = ShopBook::open(folder / "shop.db");
  const auto all = book->wearers();
  REQUIRE(all->size() == 2);
  CHECK((*all)[0].name == "Almanac Seller");
  CHECK((*all)[1].sheets == 2);
  CHECK((*all)[1].last == Day{20400});
  const auto sheets = book->sheets(ferry);
  REQUIRE(sheets->size() == 2);
  CHECK((*sheets)[0].sheet == a_sheet(574, 20400));
  CHECK((*sheets)[1].sheet == a_sheet(571, 20000));
  CHECK(book->sheet((*sheets)[1].id)->sheet == a_sheet(571, 20000));
}

TEST_CASE("wearers are found by a part of their name or note, whatever its signs", "[io][book]") {
  const test::TempFolder folder;
  auto book = ShopBook::open(folder / "shop.db");
  REQUIRE(book->add_wearer("Toll Clerk", "pays 50% ahead"));
  REQUIRE(book->add_wearer("Reed Mask", "wide_brim"));
  const auto found = [&](const char* words) { return book->wearers(words)->size(); };
  CHECK(found("toll") == 1);
  CHECK(found("50%") == 1);
  CHECK(found("e_b") == 1);
  CHECK(found("e%k") == 0);
  CHECK(found("'; DROP TABLE wearer; --") == 0);
  CHECK(found("") == 2);
}

TEST_CASE("what was removed can be brought back until the book is opened again", "[io][book]") {
  const test::TempFolder folder;
  {
    auto book = ShopBook::open(folder / "shop.db");
    const int id = *book->add_wearer("Marsh Guard", "");
    const int sheet = *book->add_sheet(id, a_sheet(580, 1));
    REQUIRE(book->remove_sheet(sheet));
    CHECK(book->sheets(id)->empty());
    REQUIRE(book->restore_sheet(sheet));
    CHECK(book->sheets(id)->size() == 1);
    REQUIRE(book->remove_wearer(id));
    CHECK(book->wearers()->empty());
    REQUIRE(book->restore_wearer(id));
    CHECK(book->sheets(id)->size() == 1);
    REQUIRE(book->remove_wearer(id));
    CHECK_FALSE(book->remove_wearer(id));
  }
  Other look(folder / "shop.db");
  REQUIRE(ShopBook::open(folder / "shop.db"));
  CHECK(ShopBook::open(folder / "shop.db")->wearers()->empty());
  CHECK(ShopBook::open(folder / "shop.db")->sheet(1).error().code == Errc::unknown_name);
}

TEST_CASE("names are wanted and numbers must be known", "[io][book]") {
  const test::TempFolder folder;
  auto book = ShopBook::open(folder / "shop.db");
  CHECK(book->add_wearer("  ", "").error().code == Errc::empty_input);
  CHECK(book->add_sheet(77, a_sheet(570, 1)).error().code == Errc::unknown_name);
  CHECK(book->change_wearer(77, "x", "").error().code == Errc::unknown_name);
  const int id = *book->add_wearer("Eel Catcher", "");
  REQUIRE(book->change_wearer(id, "Eel Catcher the younger", "n"));
  CHECK((*book->wearers())[0].name == "Eel Catcher the younger");
}

TEST_CASE("a book of the first schema is brought up to date with all it holds", "[io][book]") {
  const test::TempFolder folder;
  REQUIRE(shop_book::migrate(folder / "old.db", 1));
  {
    Other old(folder / "old.db");
    old.run(
        "INSERT INTO wearer(id, name) VALUES(3, 'Lamp Post'); INSERT INTO sheet(id, wearer, day) VALUES(5, 3, 19000); "
        "INSERT INTO reading(sheet, code, mm) VALUES(5, 'HC', 566.5);");
  }
  const auto book = ShopBook::open(folder / "old.db");
  REQUIRE(book);
  const auto sheets = book->sheets(3);
  REQUIRE(sheets->size() == 1);
  CHECK((*sheets)[0].sheet.head.at(M::HC).first_mm == 566.5);
  CHECK((*sheets)[0].sheet.people == "auto");
  CHECK((*sheets)[0].sheet.day == Day{19000});
}

TEST_CASE("a newer book is refused and left as it is", "[io][book]") {
  const test::TempFolder folder;
  REQUIRE(ShopBook::open(folder / "new.db"));
  Other(folder / "new.db").run("PRAGMA user_version = 9");
  const auto refused = ShopBook::open(folder / "new.db");
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::newer_file);
  CHECK(refused.error().text.find("tables 9") != std::string::npos);
}

TEST_CASE("a book whose head is spoilt is mended, and its log is not lost", "[io][book]") {
  const test::TempFolder folder;
  const auto path = folder / "shop.db";
  {
    auto book = ShopBook::open(path);
    REQUIRE(book);
    REQUIRE(book->add_wearer("Heron Warden", "in the book"));
    // What a crash leaves: the book and its unmerged log, copied while it is open.
    for (const char* ending : {"", "-wal", "-shm"})
      if (std::filesystem::exists(path.string() + ending))
        std::filesystem::copy_file(path.string() + ending, (folder / "crash.db").string() + ending);
  }
  const auto crashed = folder / "crash.db";
  REQUIRE(std::filesystem::file_size(crashed.string() + "-wal") > 0);
  std::string bytes = *read_file(crashed);
  bytes.resize(std::max<std::size_t>(bytes.size(), 4096), '\0');
  bytes.replace(0, 16, "spoiltspoiltspoi");
  REQUIRE(write_file_safely(crashed, bytes));
  std::string told;
  auto book = ShopBook::open(crashed, &told);
  REQUIRE(book);
  CAPTURE(told);
  CHECK(told.find("crash.db.damaged") != std::string::npos);
  CHECK(std::filesystem::file_size((folder / "crash.db.damaged").string() + "-wal") > 0);
  const auto wearers = book->wearers();
  REQUIRE(wearers);
  REQUIRE(wearers->size() == 1);
  CHECK(wearers->front().name == "Heron Warden");
}

TEST_CASE("a second damage does not overwrite what the first set aside", "[io][book]") {
  const test::TempFolder folder;
  const auto path = folder / "shop.db";
  for (const char* name : {"first", "second"}) {
    REQUIRE(write_file_safely(path, std::string(8192, *name)));
    std::string told;
    REQUIRE(ShopBook::open(path, &told));
    CHECK(told.find("damaged") != std::string::npos);
    for (const char* ending : {"", "-wal", "-shm"}) std::filesystem::remove(path.string() + ending);
  }
  CHECK(read_file(folder / "shop.db.damaged")->front() == 'f');
  CHECK(read_file(folder / "shop.db.damaged-2")->front() == 's');
}

TEST_CASE("another window's start forgets nothing that this one could bring back", "[io][book]") {
  const test::TempFolder folder;
  const auto path = folder / "shop.db";
  auto first = ShopBook::open(path);
  REQUIRE(first);
  const int id = first->add_wearer("Ferry Keeper", "").value();
  REQUIRE(first->remove_wearer(id));
  {
    const auto second = ShopBook::open(path);
    REQUIRE(second);
  }
  REQUIRE(first->restore_wearer(id));
  CHECK(first->wearers()->size() == 1);
  REQUIRE(first->remove_wearer(id));
  first = ShopBook::open(folder / "other.db");  // the only window closes
  const auto later = ShopBook::open(path);
  REQUIRE(later);
  CHECK(later->wearers()->empty());
}

TEST_CASE("names that are not UTF-8 in an old book are read as Latin-1", "[io][book]") {
  const test::TempFolder folder;
  const auto path = folder / "shop.db";
  {
    auto book = ShopBook::open(path);
    REQUIRE(book->add_wearer("Zo\xEB", ""));
  }
  CHECK(ShopBook::open(path)->wearers()->front().name == "Zo\u00eb");
}

TEST_CASE("a damaged book is set aside and a new one begun, and that is told", "[io][book]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "shop.db", std::string(8192, 'x')));
  std::string told;
  const auto book = ShopBook::open(folder / "shop.db", &told);
  REQUIRE(book);
  CHECK(book->wearers()->empty());
  CHECK(told.find("shop.db.damaged") != std::string::npos);
  CHECK(read_file(folder / "shop.db.damaged")->size() == 8192);
}

TEST_CASE("a book another program holds is a sentence, not a hang", "[io][book]") {
  const test::TempFolder folder;
  auto book = ShopBook::open(folder / "shop.db");
  Other other(folder / "shop.db");
  other.run("BEGIN EXCLUSIVE");
  const auto refused = book->add_wearer("Otter Pup", "");
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::locked);
  other.run("ROLLBACK");
  CHECK(book->add_wearer("Otter Pup", ""));
}

TEST_CASE("a folder that cannot be written is a sentence", "[io][book]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "file", "x"));
  CHECK(ShopBook::open(folder / "file" / "shop.db").error().code == Errc::cannot_write);
}

TEST_CASE("wearers written as CSV are read back as they count", "[io][csv]") {
  NamedSheet plain{"Ferry Keeper, the elder", sheet_of({{M::HC, 571.5}, {M::PD, 63.25}})};
  plain.sheet.day = Day{20000}, plain.sheet.by = "the \"workshop\"", plain.sheet.people = "child-11";
  plain.sheet.body[BodyMeasure::wrist] = 166.0;
  const auto back = wearers_from_csv(wearers_csv({plain, {"Reed Mask", sheet_of({{M::HL, 190}})}}));
  REQUIRE(back);
  REQUIRE(back->size() == 2);
  CHECK((*back)[0] == plain);
  // What counts is written: two readings and hair become one value.
  const auto counted = wearers_from_csv(wearers_csv({{"X", a_sheet(580, 1)}}));
  CHECK((*counted)[0].sheet.head.at(M::HC).first_mm ==
      Approx(a_sheet(580, 1).head.at(M::HC).skin_mm(M::HC)).margin(0.01));
}

TEST_CASE("tables as makers keep them are understood", "[io][csv]") {
  const auto semicolons =
      wearers_from_csv("\xEF\xBB\xBFwearer;HC [cm];HL;day\r\nFerry Keeper;57,2;195;2026-03-01\r\n\r\n");
  REQUIRE(semicolons);
  CHECK((*semicolons)[0].sheet.head.at(M::HC).first_mm == Approx(572.0));
  CHECK((*semicolons)[0].sheet.day == *parse_day("2026-03-01"));
  const auto inches = wearers_from_csv("wearer,HC (in),HB\nA,22 1/2,15 cm\nB,,152\n");
  REQUIRE(inches);
  CHECK((*inches)[0].sheet.head.at(M::HC).first_mm == Approx(571.5));
  CHECK((*inches)[0].sheet.head.at(M::HB).first_mm == Approx(150.0));
  CHECK((*inches)[1].sheet.head.size() == 1);
  CHECK(wearers_from_csv("wearer\tHC\nA\t56,5 cm\n")->at(0).sheet.head.at(M::HC).first_mm == Approx(565.0));
}

TEST_CASE("what cannot be read in a table names its line and column", "[io][csv]") {
  const auto [text, part] =
      GENERATE(table<const char*, const char*>({{"wearer,HC,hat size\nA,570,7\n", "Line 1, column 3 (hat size)"},
          {"wearer,HC [ells]\nA,5\n", "Line 1, column 2"}, {"HC\n570\n", "no column \"wearer\""},
          {"wearer,HC\nA,57,2\n", "Line 2 has 3 cells where the heading has 2"},
          {"wearer,HC\nA,570\nB,abc\n", "Line 3, column 2 (HC)"}, {"wearer,HC\nA,57\n", "57.0 cm"},
          {"wearer,day\nA,yesterday\n", "Line 2, column 2 (day)"}, {"wearer,HC\n,570\n", "Line 2 names no wearer"},
          {"wearer,by\n\"A,B\n", "never closed"}, {"", "empty"}}));
  CAPTURE(text);
  const auto refused = wearers_from_csv(text);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find(part) != std::string::npos);
}

TEST_CASE("offcuts, own materials, stock and running waits outlive the program", "[io][book][stock]") {
  const test::TempFolder folder;
  int kept = 0, wait = 0;
  {
    auto book = ShopBook::open(folder / "shop.db");
    REQUIRE(book);
    kept = book->keep_offcut({0, "odd \u201cgreen\u201d", "eva-firm", 5.0, {{10, 10}, {210, 10}, {210, 110}, {60, 130}},
                                 Day{20700}})
               .value();
    CHECK(book->keep_offcut({0, "bow", "eva-firm", 5.0, {{0, 0}, {100, 100}, {100, 0}, {0, 100}}, Day{20700}})
              .error()
              .code == Errc::overlap);
    Foam own = *load_materials(data_folder() / "materials")->foam("eva-firm");
    own.sold[0].price = 21.5;
    REQUIRE(book->keep_kind(own));
    own.density_kg_m3 = 0.0;
    CHECK(book->keep_kind(own).error().code == Errc::out_of_range);
    REQUIRE(book->set_stock("sheet/eva-firm/5", 3.0));
    REQUIRE(book->set_stock("sheet/eva-firm/5", 2.0));
    CHECK(book->set_stock("tape", -1.0).error().where == "stock/tape");
    wait = book->start_wait({0, "Seam A", "cut the rim", "fumes", 1'900'000'000, 1'900'000'720, 1'900'002'160}).value();
    CHECK_FALSE(book->start_wait({0, "backwards", "", "", 100, 50, 0}));
  }
  auto book = ShopBook::open(folder / "shop.db");
  REQUIRE(book);
  const auto offcuts = book->offcuts();
  REQUIRE(offcuts->size() == 1);
  CHECK(offcuts->at(0).name == "odd \u201cgreen\u201d");
  CHECK(offcuts->at(0).outline[0] == Vec2(0, 0));
  CHECK(offcuts->at(0).outline[3] == Vec2(50, 120));
  CHECK(book->own_kinds()->at(0).sold[0].price == 21.5);
  CHECK(book->stock()->at("sheet/eva-firm/5") == 2.0);
  REQUIRE(book->waits()->size() == 1);
  CHECK(book->waits()->at(0).ready_s == 1'900'000'720);
  CHECK(book->waits()->at(0).id == wait);
  REQUIRE(book->end_wait(wait));
  CHECK(book->waits()->empty());
  CHECK(book->end_wait(wait).error().code == Errc::unknown_name);
  REQUIRE(book->remove_offcut(kept));
  CHECK(book->offcuts()->empty());
  REQUIRE(book->restore_offcut(kept));
  CHECK(book->offcuts()->size() == 1);
  REQUIRE(book->drop_kind("eva-firm"));
  CHECK(book->own_kinds()->empty());
}

TEST_CASE("an offcut whose outline was spoilt in the file is named, not stumbled over", "[io][book][stock]") {
  const test::TempFolder folder;
  for (const char* spoilt : {"nonsense", "[[1],[2]]", "{\"a\":1}", "[[\"x\",2]]"}) {
    auto book = ShopBook::open(folder / "shop.db");
    REQUIRE(book);
    if (book->offcuts() && book->offcuts()->empty())
      REQUIRE(book->keep_offcut({0, "green", "eva-firm", 5.0, {{0, 0}, {200, 0}, {200, 100}}, Day{20700}}));
    sqlite3* db = nullptr;
    REQUIRE(sqlite3_open((folder / "shop.db").string().c_str(), &db) == SQLITE_OK);
    CHECK(sqlite3_exec(db, ("UPDATE offcut SET outline = '" + std::string(spoilt) + "'").c_str(), nullptr, nullptr,
              nullptr) == SQLITE_OK);
    sqlite3_close(db);
    const auto list = book->offcuts();
    CAPTURE(spoilt);
    REQUIRE_FALSE(list);
    CHECK(list.error().code == Errc::bad_file);
    CHECK(list.error().text.find("green") != std::string::npos);
  }
}

TEST_CASE("a book of the second kind of tables gets the new ones, its wearers kept", "[io][book]") {
  const test::TempFolder folder;
  REQUIRE(shop_book::migrate(folder / "old.db", 2));
  auto book = ShopBook::open(folder / "old.db");
  REQUIRE(book);
  CHECK(book->add_wearer("Reed Mask", ""));
  CHECK(book->offcuts()->empty());
  CHECK(book->stock()->empty());
}
