#pragma once
#include <filesystem>
#include <memory>

#include "core/head/tape_sheet.hpp"

namespace awl {

/// Version of the database's tables; docs/formats/shop-book.md.
inline constexpr int kShopBookSchema = 2;

/// One wearer as the book lists them.
struct BookWearer {
  int id = 0;
  std::string name, note;
  int sheets = 0;
  Day last;  ///< day of the newest sheet; Day{0} without one
};

/// One dated set of measures.
struct BookSheet {
  int id = 0;
  int wearer = 0;
  TapeSheet sheet;
};

/// Wearers and what they measured on which day, in an SQLite file that outlives all builds.
///
/// Ownership: holds the connection; move only. Write-ahead log, foreign keys on. One thread at a time.
/// Errors of all members: locked (another program holds the file), bad_file, cannot_write; unknown_name for ids that
///         are not there. Nothing is half-written: every call is one transaction.
class ShopBook {
 public:
  /// Opens or makes the book; older schemas are migrated, newer ones refused. A damaged file is set aside as
  /// NAME.damaged and a new book begun; `told` then says so.
  static Result<ShopBook> open(const std::filesystem::path& path, std::string* told = nullptr);
  ~ShopBook();
  ShopBook(ShopBook&&) noexcept;
  ShopBook& operator=(ShopBook&&) noexcept;

  /// Those whose name or note contains the words, by name.
  Result<std::vector<BookWearer>> wearers(const std::string& search = {}) const;
  /// Dated sets of one wearer, newest first.
  Result<std::vector<BookSheet>> sheets(int wearer) const;
  Result<BookSheet> sheet(int id) const;

  Result<int> add_wearer(const std::string& name, const std::string& note);
  Result<void> change_wearer(int id, const std::string& name, const std::string& note);
  Result<int> add_sheet(int wearer, const TapeSheet& sheet);
  /// Removed things stay in the file until it is opened the next time, so that they can be brought back.
  Result<void> remove_wearer(int id);
  Result<void> restore_wearer(int id);
  Result<void> remove_sheet(int id);
  Result<void> restore_sheet(int id);

 private:
  struct Base;
  explicit ShopBook(std::unique_ptr<Base> base);
  std::unique_ptr<Base> base_;
};

namespace shop_book {
/// Brings tables to schema `to`, from whatever they are; for ShopBook::open and for tests of older files.
Result<void> migrate(const std::filesystem::path& path, int to);
}  // namespace shop_book

}  // namespace awl
