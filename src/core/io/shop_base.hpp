#pragma once
#include <sqlite3.h>

#include <functional>
#include <optional>

#include "core/base/file_lock.hpp"
#include "core/base/text.hpp"
#include "core/io/shop_book.hpp"

// Inside io only: the shop book's connection, and SQLite's statements as values.

namespace awl {

/// The connection and the one place where SQLite's codes become sentences.
/// A book's file that this program has open. To open it once more beside SQLite and close it would let go of the locks
/// SQLite holds on it (fcntl(2)). Threads: any.
class OpenBook {
 public:
  explicit OpenBook(std::filesystem::path path);
  ~OpenBook();
  OpenBook(const OpenBook&) = delete;
  OpenBook& operator=(const OpenBook&) = delete;
  static bool is_open(const std::filesystem::path& path);

 private:
  std::filesystem::path path_;
};

struct ShopBook::Base {
  std::filesystem::path path;
  sqlite3* db = nullptr;
  std::optional<OpenBook> is_open;  ///< once it has shown itself sound
  std::optional<FileLock> lock;     ///< shared by all who have the book open; alone at the first

  Base() = default;
  Base(const Base&) = delete;
  Base& operator=(const Base&) = delete;
  ~Base() { sqlite3_close(db); }

  tl::unexpected<Error> failed() const {
    const int code = sqlite3_errcode(db);
    const std::string name = path.filename().string();
    if (code == SQLITE_BUSY || code == SQLITE_LOCKED)
      return fail(Errc::locked, "The shop book " + name + " is held by another program; close that and try again.",
          path.string());
    if (code == SQLITE_CORRUPT || code == SQLITE_NOTADB)
      return fail(Errc::bad_file, "The shop book " + name + " is damaged.", path.string());
    return fail(Errc::cannot_write, "The shop book " + path.string() + " cannot be used: " + sqlite3_errmsg(db) + ".",
        path.string());
  }
  Result<std::vector<BookSheet>> sheets_of(int wearer) const;
  Result<void> run(const char* sql) const {
    if (sqlite3_exec(db, sql, nullptr, nullptr, nullptr) != SQLITE_OK) return failed();
    return {};
  }
};

namespace shop_book {

/// One prepared statement; values are bound in order.
class Statement {
 public:
  Statement(sqlite3* db, const char* sql) : db_(db) {
    ok_ = sqlite3_prepare_v2(db, sql, -1, &statement_, nullptr) == SQLITE_OK;
  }
  ~Statement() { sqlite3_finalize(statement_); }
  Statement(const Statement&) = delete;
  Statement& operator=(const Statement&) = delete;

  Statement& with(int value) { return ok_ = ok_ && sqlite3_bind_int(statement_, ++bound_, value) == SQLITE_OK, *this; }
  Statement& with_large(std::int64_t value) {
    return ok_ = ok_ && sqlite3_bind_int64(statement_, ++bound_, value) == SQLITE_OK, *this;
  }
  Statement& with(double value) {
    return ok_ = ok_ && sqlite3_bind_double(statement_, ++bound_, value) == SQLITE_OK, *this;
  }
  Statement& with(const std::string& value) {
    return ok_ = ok_ &&
               sqlite3_bind_text(
                   statement_, ++bound_, value.data(), static_cast<int>(value.size()), SQLITE_TRANSIENT) == SQLITE_OK,
           *this;
  }
  Statement& with_bytes(const std::string& bytes) {
    return ok_ = ok_ &&
               sqlite3_bind_blob64(statement_, ++bound_, bytes.data(), bytes.size(), SQLITE_TRANSIENT) == SQLITE_OK,
           *this;
  }
  Statement& with(const std::optional<double>& value) {
    if (value) return with(*value);
    return ok_ = ok_ && sqlite3_bind_null(statement_, ++bound_) == SQLITE_OK, *this;
  }
  /// True while there is a row; `good()` tells the end from a failure.
  bool step() {
    const int code = ok_ ? sqlite3_step(statement_) : SQLITE_ERROR;
    ok_ = code == SQLITE_ROW || code == SQLITE_DONE;
    return code == SQLITE_ROW;
  }
  bool good() const { return ok_; }
  int changed() const { return sqlite3_changes(db_); }
  int number(int column) const { return sqlite3_column_int(statement_, column); }
  std::int64_t large(int column) const { return sqlite3_column_int64(statement_, column); }
  double real(int column) const { return sqlite3_column_double(statement_, column); }
  std::string bytes(int column) const {
    const auto* blob = static_cast<const char*>(sqlite3_column_blob(statement_, column));
    return blob == nullptr ? std::string()
                           : std::string(blob, static_cast<std::size_t>(sqlite3_column_bytes(statement_, column)));
  }
  bool is_null(int column) const { return sqlite3_column_type(statement_, column) == SQLITE_NULL; }
  std::string text(int column) const {
    const auto* bytes = reinterpret_cast<const char*>(sqlite3_column_text(statement_, column));
    return bytes == nullptr
        ? std::string()
        : in_utf8(std::string(bytes, static_cast<std::size_t>(sqlite3_column_bytes(statement_, column))));
  }

 private:
  sqlite3* db_;
  sqlite3_stmt* statement_ = nullptr;
  int bound_ = 0;
  bool ok_ = false;
};

/// All or nothing: rolls back unless kept.
class Transaction {
 public:
  explicit Transaction(sqlite3* db)
      : db_(db), open_(sqlite3_exec(db, "BEGIN IMMEDIATE", nullptr, nullptr, nullptr) == SQLITE_OK) {}
  ~Transaction() {
    if (open_) sqlite3_exec(db_, "ROLLBACK", nullptr, nullptr, nullptr);
  }
  Transaction(const Transaction&) = delete;
  Transaction& operator=(const Transaction&) = delete;
  bool begun() const { return open_; }
  bool keep() { return open_ = sqlite3_exec(db_, "COMMIT", nullptr, nullptr, nullptr) != SQLITE_OK, !open_; }

 private:
  sqlite3* db_;
  bool open_;
};

/// Runs a statement that must touch one row.
inline Result<void> touch(const std::function<tl::unexpected<Error>()>& failed, Statement& s, int id) {
  s.step();
  if (!s.good()) return failed();
  if (s.changed() == 0)
    return fail(Errc::unknown_name, "Number " + std::to_string(id) + " is not in the shop book.", "book");
  return {};
}

}  // namespace shop_book

}  // namespace awl
