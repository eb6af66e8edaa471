#include "core/io/shop_base.hpp"

#include <cstdint>
#include <mutex>
#include <set>

#include "core/base/data_files.hpp"
#include "core/base/disk.hpp"

namespace awl {
namespace {

constexpr int kBusyMs = 1500;

/// Each step brings the tables from its index to the next version.
constexpr const char* kTableSteps[kShopBookSchema] = {
    // 1: wearers and one value a measure
    "CREATE TABLE wearer(id INTEGER PRIMARY KEY, name TEXT NOT NULL);"
    "CREATE TABLE sheet(id INTEGER PRIMARY KEY, wearer INTEGER NOT NULL REFERENCES wearer(id) ON DELETE CASCADE, day "
    "INTEGER NOT NULL DEFAULT 0);"
    "CREATE TABLE reading(sheet INTEGER NOT NULL REFERENCES sheet(id) ON DELETE CASCADE, code TEXT NOT NULL, mm REAL "
    "NOT NULL, PRIMARY KEY(sheet, code));",
    // 2: notes, removal with undo, who measured, people, second readings, hair, body measures
    "ALTER TABLE wearer ADD COLUMN note TEXT NOT NULL DEFAULT '';"
    "ALTER TABLE wearer ADD COLUMN removed INTEGER NOT NULL DEFAULT 0;"
    "ALTER TABLE sheet ADD COLUMN removed INTEGER NOT NULL DEFAULT 0;"
    "ALTER TABLE sheet ADD COLUMN by_whom TEXT NOT NULL DEFAULT '';"
    "ALTER TABLE sheet ADD COLUMN people TEXT NOT NULL DEFAULT 'auto';"
    "ALTER TABLE reading ADD COLUMN second_mm REAL;"
    "ALTER TABLE reading ADD COLUMN over_hair_mm REAL NOT NULL DEFAULT 0;"
    "ALTER TABLE reading ADD COLUMN day INTEGER NOT NULL DEFAULT 0;"
    "ALTER TABLE reading ADD COLUMN by_whom TEXT NOT NULL DEFAULT '';"
    "ALTER TABLE reading ADD COLUMN accepted INTEGER NOT NULL DEFAULT 0;"
    "CREATE INDEX sheet_of_wearer ON sheet(wearer, day);",
    // 3: offcuts, the maker's own materials, what is in stock, waits that run
    "CREATE TABLE offcut(id INTEGER PRIMARY KEY, name TEXT NOT NULL, foam TEXT NOT NULL, thickness_mm REAL NOT NULL, "
    "outline TEXT NOT NULL, day INTEGER NOT NULL DEFAULT 0, removed INTEGER NOT NULL DEFAULT 0);"
    "CREATE TABLE material(id TEXT PRIMARY KEY, text TEXT NOT NULL);"
    "CREATE TABLE stock(what TEXT PRIMARY KEY, amount REAL NOT NULL);"
    "CREATE TABLE wait(id INTEGER PRIMARY KEY, label TEXT NOT NULL, meanwhile TEXT NOT NULL, caution TEXT NOT NULL, "
    "started INTEGER NOT NULL, ready INTEGER NOT NULL, open_until INTEGER NOT NULL DEFAULT 0);",
    // 4: jobs with their fittings, pictures, hours, ticks, quotes and changes on the foam; days; what is searched
    "CREATE TABLE job(id INTEGER PRIMARY KEY, uid TEXT NOT NULL UNIQUE, title TEXT NOT NULL, wearer INTEGER REFERENCES "
    "wearer(id) ON DELETE SET NULL, build_file TEXT NOT NULL DEFAULT '', wishes TEXT NOT NULL DEFAULT '', price_cents "
    "INTEGER, deposit_cents INTEGER NOT NULL DEFAULT 0, deposit_day INTEGER NOT NULL DEFAULT 0, agreed INTEGER NOT "
    "NULL DEFAULT 0, due INTEGER NOT NULL DEFAULT 0, handed_over INTEGER NOT NULL DEFAULT 0, better TEXT NOT NULL "
    "DEFAULT '', removed INTEGER NOT NULL DEFAULT 0);"
    "CREATE TABLE fitting(id INTEGER PRIMARY KEY, job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE, due "
    "INTEGER NOT NULL, done INTEGER NOT NULL DEFAULT 0, note TEXT NOT NULL DEFAULT '');"
    "CREATE TABLE photo(id INTEGER PRIMARY KEY, job INTEGER REFERENCES job(id) ON DELETE CASCADE, wearer INTEGER "
    "REFERENCES wearer(id) ON DELETE CASCADE, taken INTEGER NOT NULL, step TEXT NOT NULL DEFAULT '', note TEXT NOT "
    "NULL DEFAULT '', bytes BLOB NOT NULL);"
    "CREATE TABLE work(id INTEGER PRIMARY KEY, job INTEGER REFERENCES job(id) ON DELETE CASCADE, stage TEXT NOT NULL, "
    "step TEXT NOT NULL DEFAULT '', began INTEGER NOT NULL, ended INTEGER, rule_min REAL NOT NULL DEFAULT 0, "
    "CHECK(ended IS NULL OR ended >= began));"
    "CREATE TABLE ticked(job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE, step TEXT NOT NULL, began INTEGER "
    "NOT NULL, ended INTEGER NOT NULL, PRIMARY KEY(job, step));"
    "CREATE TABLE quote(id INTEGER PRIMARY KEY, job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE, day INTEGER "
    "NOT NULL, text TEXT NOT NULL, price_cents INTEGER NOT NULL);"
    "CREATE TABLE foam_change(id INTEGER PRIMARY KEY, job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE, day "
    "INTEGER NOT NULL, version INTEGER NOT NULL DEFAULT 0, place TEXT NOT NULL, text TEXT NOT NULL, on_pattern INTEGER "
    "NOT NULL DEFAULT 0);"
    "CREATE TABLE outdoor_day(day INTEGER PRIMARY KEY, from_min INTEGER NOT NULL, to_min INTEGER NOT NULL);"
    "CREATE TABLE closed_day(day INTEGER PRIMARY KEY);"
    "ALTER TABLE wait ADD COLUMN job INTEGER REFERENCES job(id) ON DELETE CASCADE;"
    "ALTER TABLE wait ADD COLUMN step TEXT NOT NULL DEFAULT '';"
    "ALTER TABLE wait ADD COLUMN closed_from INTEGER NOT NULL DEFAULT 0;"
    "ALTER TABLE wait ADD COLUMN closed_until INTEGER NOT NULL DEFAULT 0;"
    "CREATE INDEX photo_of_wearer ON photo(wearer);"
    "CREATE INDEX work_of_stage ON work(stage, ended);"
    "CREATE VIRTUAL TABLE words USING fts5(job UNINDEXED, kind UNINDEXED, text, tokenize='unicode61 remove_diacritics "
    "2');",
    // 5: notes on steps; files that were written of a job
    "ALTER TABLE work ADD COLUMN note TEXT NOT NULL DEFAULT '';"
    "CREATE TABLE written(job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE, path TEXT NOT NULL, PRIMARY "
    "KEY(job, path));",
};

}  // namespace

namespace {

using shop_book::Statement;
using shop_book::Transaction;

int schema_of(sqlite3* db) {
  Statement s(db, "PRAGMA user_version");
  return s.step() ? s.number(0) : -1;
}

bool is_sound(sqlite3* db) {
  Statement s(db, "PRAGMA quick_check(1)");
  return s.step() && s.text(0) == "ok";
}

bool write_readings(sqlite3* db, int sheet, const TapeSheet& tape) {
  constexpr const char* sql =
      "INSERT INTO reading(sheet, code, mm, second_mm, over_hair_mm, day, by_whom, accepted) VALUES(?,?,?,?,?,?,?,?)";
  for (const auto& [id, e] : tape.head) {
    Statement s(db, sql);
    s.with(sheet)
        .with(std::string(facts_of(id).code))
        .with(e.first_mm)
        .with(e.second_mm)
        .with(e.over_hair_mm)
        .with(e.day.number)
        .with(e.by)
        .with(tape.accepted.count(id) ? 1 : 0);
    s.step();
    if (!s.good()) return false;
  }
  for (const auto& [id, mm] : tape.body) {
    Statement s(db, sql);
    s.with(sheet)
        .with(std::string(facts_of(id).code))
        .with(mm)
        .with(std::optional<double>())
        .with(0.0)
        .with(0)
        .with(std::string())
        .with(0);
    s.step();
    if (!s.good()) return false;
  }
  return true;
}

bool read_readings(sqlite3* db, BookSheet& to) {
  Statement s(db,
      "SELECT code, mm, second_mm, over_hair_mm, day, by_whom, accepted FROM reading WHERE sheet = ? ORDER BY rowid");
  s.with(to.id);
  while (s.step()) {
    if (const auto body = body_measure_from_code(s.text(0))) {
      to.sheet.body[*body] = s.real(1);
      continue;
    }
    const auto id = measure_from_code(s.text(0));
    if (!id) continue;  // of a version that knew more measures
    TapeEntry& e = to.sheet.head[*id];
    e.first_mm = s.real(1), e.over_hair_mm = s.real(3), e.day = Day{s.number(4)}, e.by = s.text(5);
    if (!s.is_null(2)) e.second_mm = s.real(2);
    if (s.number(6) != 0) to.sheet.accepted.insert(*id);
  }
  return s.good();
}

constexpr const char* kSheetColumns = "SELECT id, wearer, day, by_whom, people FROM sheet ";

BookSheet sheet_row(const Statement& s) {
  BookSheet b;
  b.id = s.number(0), b.wearer = s.number(1);
  b.sheet.day = Day{s.number(2)}, b.sheet.by = s.text(3), b.sheet.people = s.text(4);
  return b;
}

std::string escaped_for_like(const std::string& words) {
  std::string out = "%";
  for (const char c : words) {
    if (c == '%' || c == '_' || c == '\\') out += '\\';
    out += c;
  }
  return out + "%";
}

}  // namespace

namespace {

struct OpenBooks {
  std::mutex door;
  std::multiset<std::filesystem::path> paths;
};

OpenBooks& open_books() {
  static OpenBooks all;
  return all;
}

}  // namespace

OpenBook::OpenBook(std::filesystem::path path) : path_(std::move(path)) {
  const std::lock_guard lock(open_books().door);
  open_books().paths.insert(path_);
}

OpenBook::~OpenBook() {
  const std::lock_guard lock(open_books().door);
  open_books().paths.extract(path_);
}

bool OpenBook::is_open(const std::filesystem::path& path) {
  const std::lock_guard lock(open_books().door);
  return open_books().paths.count(path) != 0;
}

ShopBook::ShopBook(std::unique_ptr<Base> base) : base_(std::move(base)) {}
ShopBook::~ShopBook() = default;
ShopBook::ShopBook(ShopBook&&) noexcept = default;
ShopBook& ShopBook::operator=(ShopBook&&) noexcept = default;

Result<void> shop_book::migrate(const std::filesystem::path& path, int to) {
  sqlite3* db = nullptr;
  const int opened = sqlite3_open(path.string().c_str(), &db);
  const std::unique_ptr<sqlite3, decltype(&sqlite3_close)> closing(db, &sqlite3_close);
  if (opened != SQLITE_OK)
    return fail(Errc::cannot_write, "The shop book " + path.string() + " cannot be opened.", path.string());
  sqlite3_busy_timeout(db, kBusyMs);
  Transaction all(db);
  const auto failed = [&] {
    const int code = sqlite3_errcode(db);
    if (code == SQLITE_NOTADB || code == SQLITE_CORRUPT)
      return fail(Errc::bad_file, "The shop book is damaged.", path.string());
    if (code == SQLITE_BUSY || code == SQLITE_LOCKED)
      return fail(Errc::locked,
          "The shop book " + path.filename().string() + " is held by another program; close that and try again.",
          path.string());
    return fail(Errc::cannot_write,
        "The shop book " + path.string() + " cannot be brought up to date: " + sqlite3_errmsg(db) + ".", path.string());
  };
  if (!all.begun()) return failed();
  for (int at = schema_of(db); at < to; ++at) {
    const std::string mark = "PRAGMA user_version = " + std::to_string(at + 1);
    if (at < 0 || sqlite3_exec(db, kTableSteps[at], nullptr, nullptr, nullptr) != SQLITE_OK ||
        sqlite3_exec(db, mark.c_str(), nullptr, nullptr, nullptr) != SQLITE_OK)
      return failed();
  }
  if (!all.keep()) return failed();
  return {};
}

namespace {

constexpr std::string_view kMagic{"SQLite format 3\0", 16};
constexpr const char *kShared = "PRAGMA journal_mode = WAL", *kPlain = "PRAGMA journal_mode = DELETE";
constexpr const char *kAlone = "PRAGMA locking_mode = EXCLUSIVE", *kTogether = "PRAGMA locking_mode = NORMAL";
constexpr const char* kRead = "SELECT COUNT(*) FROM sqlite_master";
constexpr const char* kEndings[] = {"", "-wal", "-shm"};

/// What stands at the head of every database; SQLite must not touch a file without it, nor the log beside it.
bool has_magic(const std::filesystem::path& path) {
  if (OpenBook::is_open(path)) return true;
  const auto bytes = read_file(path);  // one that cannot be read is left to SQLite, which will say why
  return !bytes || bytes->empty() || std::string_view(*bytes).starts_with(kMagic);
}

/// Whether its head says that it was kept with a shared log ("file format write version").
bool says_shared_log(const std::filesystem::path& path) {
  if (OpenBook::is_open(path)) return false;
  const auto bytes = read_file(path);
  return bytes && bytes->size() > 18 && (*bytes)[18] == 2;
}

/// A sound book whose log needs memory that cannot be shared where it lies now: alone it is read without. What cannot
/// be done stays for whoever opens it next to tell.
void leave_shared_log(const std::filesystem::path& path) {
  sqlite3* db = nullptr;
  if (sqlite3_open(path.string().c_str(), &db) == SQLITE_OK) {
    sqlite3_busy_timeout(db, kBusyMs);
    sqlite3_exec(db, kAlone, nullptr, nullptr, nullptr);
    if (schema_of(db) >= 0 && is_sound(db))
      sqlite3_exec(db, kPlain, nullptr, nullptr, nullptr);
    else
      sqlite3_db_config(db, SQLITE_DBCONFIG_NO_CKPT_ON_CLOSE, 1, nullptr);
  }
  sqlite3_close(db);
}

/// A name beside the book that nothing has yet.
std::filesystem::path name_for_damaged(const std::filesystem::path& path) {
  std::error_code ignored;
  std::filesystem::path aside = path.string() + ".damaged";
  for (int n = 2; std::filesystem::exists(aside, ignored); ++n) aside = path.string() + ".damaged-" + std::to_string(n);
  return aside;
}

/// Book and log kept under another name; the book itself stays if `copy`. Errors: cannot_write.
Result<std::filesystem::path> set_aside(const std::filesystem::path& path, bool copy) {
  const std::filesystem::path aside = name_for_damaged(path);
  for (const char* ending : kEndings) {
    std::error_code error;
    const std::filesystem::path from = path.string() + ending;
    if (!std::filesystem::exists(from, error)) continue;
    if (copy)
      std::filesystem::copy_file(from, aside.string() + ending, error);
    else
      std::filesystem::rename(from, aside.string() + ending, error);
    if (error)
      return fail(Errc::bad_file,
          "The shop book " + path.string() + " is damaged and cannot be set aside: " + error.message() + ".",
          path.string());
  }
  return aside;
}

/// A book whose first bytes alone are spoilt is whole again with them.
bool mended_head(const std::filesystem::path& path) {
  auto bytes = read_file(path);
  if (!bytes || bytes->size() < 512) return false;
  bytes->replace(0, kMagic.size(), kMagic);
  return write_file_safely(path, *bytes).has_value();
}

/// Rows that were taken out for good: not while another window could still bring them back.
constexpr const char* kForget =
    "DELETE FROM sheet WHERE removed = 1; DELETE FROM wearer WHERE removed = 1; DELETE FROM offcut WHERE removed = 1; "
    "DELETE FROM words WHERE job IN (SELECT id FROM job WHERE removed = 1); DELETE FROM job WHERE removed = 1";

}  // namespace

Result<ShopBook> ShopBook::open(const std::filesystem::path& path, std::string* told) {
  if (auto made = make_folder(path.parent_path()); !made) return fail(made);
  const auto tell = [&](std::string sentence) {
    if (told != nullptr) *told = std::move(sentence);
  };
  const bool begins_well = has_magic(path);
  if (begins_well) {
    auto book = open_sound(path);
    if (book || book.error().code != Errc::bad_file) return book;
    // Damaged is what can be read and is damaged still when it is looked at once more.
    if (const auto bytes = read_file(path); !bytes) return fail(bytes);
    book = open_sound(path);
    if (book || book.error().code != Errc::bad_file) return book;
  }
  const auto aside = set_aside(path, !begins_well);
  if (!aside) return fail(aside);
  if (!begins_well && mended_head(path))
    if (auto book = open_sound(path)) {
      tell("The head of the shop book was damaged and is mended; as it was it is kept as " +
          aside->filename().string() + ".");
      return book;
    }
  for (const char* ending : kEndings) {
    std::error_code gone;
    std::filesystem::remove(path.string() + ending, gone);  // kept aside, all of it
  }
  auto book = open_sound(path);
  if (book) tell("The shop book was damaged. It is kept as " + aside->filename().string() + "; a new one was begun.");
  return book;
}

/// A log that several read through shared memory is for disks of this machine alone (sqlite.org, "WAL"); elsewhere a
/// journal beside the book. Errors: as Base::failed.
Result<void> ShopBook::keep_journal(Base& base) {
  if (is_far(base.path)) {
    (void)base.run(kPlain);  // while another window holds the log still it stays
    return {};
  }
  auto shared = base.run(kShared);
  if (shared) shared = base.run(kRead);  // only a reader is told that it failed
  if (shared || (sqlite3_errcode(base.db) & 0xff) != SQLITE_IOERR) return shared;
  // No memory can be shared here, and the book may say by now that it has such a log: alone it is read without.
  sqlite3_close(base.db);
  base.db = nullptr;
  if (sqlite3_open(base.path.string().c_str(), &base.db) != SQLITE_OK) return base.failed();
  sqlite3_busy_timeout(base.db, kBusyMs);
  for (const char* sql : {kAlone, kPlain, kTogether, kRead})
    if (auto done = base.run(sql); !done) return done;
  return {};
}

/// Opens what begins as a database does. Errors: bad_file if it is damaged further in; nothing is changed then, in its
/// log neither.
Result<ShopBook> ShopBook::open_sound(const std::filesystem::path& path) {
  auto base = std::make_unique<Base>();
  base->path = path;
  const std::string lock_name = path.string() + ".lock";
  base->lock = FileLock::try_take(lock_name, FileLock::Kind::alone);
  const bool is_only_one = base->lock.has_value();
  if (!is_only_one) base->lock = FileLock::try_take(lock_name, FileLock::Kind::shared);
  keep_from_others(path);
  if (is_far(path) && says_shared_log(path)) leave_shared_log(path);
  if (sqlite3_open(path.string().c_str(), &base->db) != SQLITE_OK)
    return fail(
        Errc::cannot_write, "The shop book " + path.string() + " cannot be opened or made there.", path.string());
  sqlite3_busy_timeout(base->db, kBusyMs);
  const int schema = schema_of(base->db);
  const int code = sqlite3_errcode(base->db);
  // A full disk, or one that cannot be read now, is no damage of the book.
  if (code == SQLITE_BUSY || code == SQLITE_LOCKED || (schema < 0 && code != SQLITE_CORRUPT && code != SQLITE_NOTADB))
    return base->failed();
  if (schema < 0 || !is_sound(base->db)) {
    if (sqlite3_errcode(base->db) == SQLITE_BUSY) return base->failed();
    sqlite3_db_config(base->db, SQLITE_DBCONFIG_NO_CKPT_ON_CLOSE, 1, nullptr);
    return fail(Errc::bad_file, "The shop book " + path.filename().string() + " is damaged.", path.string());
  }
  if (schema > kShopBookSchema)
    return fail(Errc::newer_file,
        "The shop book was written by a newer version of Noggin Awl (tables " + std::to_string(schema) +
            "; this one knows up to " + std::to_string(kShopBookSchema) + ").",
        path.string());
  if (auto done = shop_book::migrate(path, kShopBookSchema); !done) return fail(done);
  if (auto kept = keep_journal(*base); !kept) return fail(kept);
  for (const char* sql : {"PRAGMA foreign_keys = ON", is_only_one ? kForget : ""})
    if (auto done = base->run(sql); !done) return fail(done);
  if (is_only_one && base->lock) base->lock->share();
  base->is_open.emplace(path);
  return ShopBook(std::move(base));
}

Result<std::vector<BookWearer>> ShopBook::wearers(const std::string& search) const {
  Statement s(base_->db,
      "SELECT w.id, w.name, w.note, COUNT(s.id), COALESCE(MAX(s.day), 0) FROM wearer w LEFT JOIN sheet s ON s.wearer = "
      "w.id AND s.removed = 0 "
      "WHERE w.removed = 0 AND (w.name LIKE ?1 ESCAPE '\\' OR w.note LIKE ?1 ESCAPE '\\') GROUP BY w.id ORDER BY "
      "w.name COLLATE NOCASE, w.id");
  s.with(escaped_for_like(search));
  std::vector<BookWearer> list;
  while (s.step()) list.push_back({s.number(0), s.text(1), s.text(2), s.number(3), Day{s.number(4)}});
  if (!s.good()) return base_->failed();
  return list;
}

Result<std::vector<BookSheet>> ShopBook::Base::sheets_of(int wearer) const {
  Statement s(db, (std::string(kSheetColumns) + "WHERE wearer = ? AND removed = 0 ORDER BY day DESC, id DESC").c_str());
  s.with(wearer);
  std::vector<BookSheet> list;
  while (s.step()) list.push_back(sheet_row(s));
  if (!s.good()) return failed();
  for (BookSheet& b : list)
    if (!read_readings(db, b)) return failed();
  return list;
}

Result<std::vector<BookSheet>> ShopBook::sheets(int wearer) const { return base_->sheets_of(wearer); }

Result<BookSheet> ShopBook::sheet(int id) const {
  Statement s(base_->db, (std::string(kSheetColumns) + "WHERE id = ?").c_str());
  s.with(id);
  if (!s.step()) {
    if (!s.good()) return base_->failed();
    return fail(
        Errc::unknown_name, "There is no set of measures number " + std::to_string(id) + " in the shop book.", "book");
  }
  BookSheet b = sheet_row(s);
  if (!read_readings(base_->db, b)) return base_->failed();
  return b;
}

Result<int> ShopBook::add_wearer(const std::string& name, const std::string& note) {
  if (name.find_first_not_of(" \t\r\n") == std::string::npos)
    return fail(Errc::empty_input, "A wearer in the book needs a name, even a made-up one.", "book/name");
  Statement s(base_->db, "INSERT INTO wearer(name, note) VALUES(?, ?)");
  s.with(name).with(note).step();
  if (!s.good()) return base_->failed();
  return static_cast<int>(sqlite3_last_insert_rowid(base_->db));
}

using shop_book::touch;

Result<void> ShopBook::change_wearer(int id, const std::string& name, const std::string& note) {
  Statement s(base_->db, "UPDATE wearer SET name = ?, note = ? WHERE id = ?");
  s.with(name).with(note).with(id);
  return touch([this] { return base_->failed(); }, s, id);
}

Result<int> ShopBook::add_sheet(int wearer, const TapeSheet& sheet) {
  Transaction all(base_->db);
  if (!all.begun()) return base_->failed();
  Statement s(base_->db, "INSERT INTO sheet(wearer, day, by_whom, people) VALUES(?, ?, ?, ?)");
  s.with(wearer).with(sheet.day.number).with(sheet.by).with(sheet.people).step();
  if (!s.good()) {
    if (sqlite3_extended_errcode(base_->db) == SQLITE_CONSTRAINT_FOREIGNKEY)
      return fail(Errc::unknown_name, "Wearer number " + std::to_string(wearer) + " is not in the shop book.", "book");
    return base_->failed();
  }
  const int id = static_cast<int>(sqlite3_last_insert_rowid(base_->db));
  if (!write_readings(base_->db, id, sheet) || !all.keep()) return base_->failed();
  return id;
}

Result<void> ShopBook::remove_wearer(int id) {
  Statement s(base_->db, "UPDATE wearer SET removed = 1 WHERE id = ? AND removed = 0");
  return touch([this] { return base_->failed(); }, s.with(id), id);
}
Result<void> ShopBook::restore_wearer(int id) {
  Statement s(base_->db, "UPDATE wearer SET removed = 0 WHERE id = ? AND removed = 1");
  return touch([this] { return base_->failed(); }, s.with(id), id);
}
Result<void> ShopBook::remove_sheet(int id) {
  Statement s(base_->db, "UPDATE sheet SET removed = 1 WHERE id = ? AND removed = 0");
  return touch([this] { return base_->failed(); }, s.with(id), id);
}
Result<void> ShopBook::restore_sheet(int id) {
  Statement s(base_->db, "UPDATE sheet SET removed = 0 WHERE id = ? AND removed = 1");
  return touch([this] { return base_->failed(); }, s.with(id), id);
}

}  // namespace awl
