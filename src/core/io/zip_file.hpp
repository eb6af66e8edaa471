#pragma once
#include <cstdint>
#include <memory>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

/// Names and bytes of the entries, in order.
using Entries = std::vector<std::pair<std::string, std::string>>;

/// The bytes of a ZIP archive of these entries; the same entries give the same bytes. Errors: cannot_write.
Result<std::string> zipped(const Entries& entries);

/// An archive from outside, opened once. Every entry is read once at the most, and all together no more than a budget.
///
/// Ownership: holds a view of `bytes`, which must outlive it.
class ZipFile {
 public:
  /// Bytes all entries of an archive, and of the archives in it, may come to.
  struct Budget {
    std::uint64_t bytes = std::uint64_t{512} << 20;
  };
  /// Errors: bad_file for what is no archive, is cut short, or holds more entries than a build has.
  static Result<ZipFile> open(const std::string& bytes, std::shared_ptr<Budget> budget = std::make_shared<Budget>());
  /// Errors: bad_file if it is not there, was read before or is damaged; too_large beyond 64 MB or the budget.
  Result<std::string> entry(const std::string& name);
  const std::shared_ptr<Budget>& budget() const { return budget_; }

  ZipFile(ZipFile&&) noexcept;
  ZipFile& operator=(ZipFile&&) noexcept;
  ~ZipFile();

 private:
  struct Handle;
  ZipFile(std::unique_ptr<Handle> handle, std::shared_ptr<Budget> budget);
  std::unique_ptr<Handle> handle_;
  std::shared_ptr<Budget> budget_;
  std::set<std::string> read_;
};

}  // namespace awl
