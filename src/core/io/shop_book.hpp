#pragma once
#include <cstdint>
#include <filesystem>
#include <map>
#include <memory>

#include "core/head/tape_sheet.hpp"
#include "core/stuff/materials.hpp"
#include "core/stock/offcut.hpp"

namespace awl {

/// Version of the database's tables; docs/formats/shop-book.md.
inline constexpr int kShopBookSchema = 5;

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

/// Something that dries while the clock runs. Times in seconds since 1970, UTC, so that they go on over a restart.
struct RunningWait {
  int id = 0;
  std::string label, meanwhile, caution;
  std::int64_t started_s = 0, ready_s = 0;
  std::int64_t open_until_s = 0;  ///< past that it does not grab any more and is brushed again; 0: no such end
  bool operator==(const RunningWait&) const = default;
};

/// Wearers and what they measured on which day, materials, stock, offcuts and waits, in an SQLite file that outlives
/// all builds.
///
/// Ownership: holds the connection; move only. Write-ahead log, foreign keys on. One thread at a time.
/// Errors of all members: locked (another program holds the file), bad_file, cannot_write; unknown_name for ids that
///         are not there. Nothing is half-written: every call is one transaction.
class ShopBook {
 public:
  /// Opens or makes the book; older schemas are migrated, newer ones refused. A damaged file is set aside with its log
  /// as NAME.damaged, or with a number if there is one already, and a new book begun; `told` then says so. What was
  /// taken out is forgotten when nobody else has the book open.
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

  /// Newest first.
  Result<std::vector<Offcut>> offcuts() const;
  /// Errors: also those of make_offcut.
  Result<int> keep_offcut(const Offcut& offcut);
  Result<void> remove_offcut(int id);
  Result<void> restore_offcut(int id);

  /// The maker's own kinds of sheet; the same id overwrites. Errors: also those of check_foam_kind.
  Result<std::vector<Foam>> own_kinds() const;
  Result<void> keep_kind(const Foam& kind);
  Result<void> drop_kind(const std::string& id);

  /// What is in stock, by Purchase::id. Errors: out_of_range below 0.
  Result<std::map<std::string, double>> stock() const;
  Result<void> set_stock(const std::string& what, double amount);

  Result<std::vector<RunningWait>> waits() const;
  Result<int> start_wait(const RunningWait& wait);
  Result<void> end_wait(int id);

 private:
  friend class JobPages;
  struct Base;
  static Result<ShopBook> open_sound(const std::filesystem::path& path);
  static Result<void> keep_journal(Base& base);
  explicit ShopBook(std::unique_ptr<Base> base);
  std::unique_ptr<Base> base_;
};

namespace shop_book {
/// Brings tables to schema `to`, from whatever they are; for ShopBook::open and for tests of older files.
Result<void> migrate(const std::filesystem::path& path, int to);
}  // namespace shop_book

}  // namespace awl
