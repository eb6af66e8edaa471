#include "core/io/zip_file.hpp"

#include <zip.h>

#include <algorithm>
#include <cstdio>

#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr zip_uint64_t kMostEntryBytes = 64u << 20;
constexpr zip_int64_t kMostEntries = 400;
constexpr zip_int64_t kAnyDay = 315532800;  // a fixed time, so that the same build gives the same bytes

struct SourceCloser {
  void operator()(zip_source_t* source) const { zip_source_free(source); }
};
using Source = std::unique_ptr<zip_source_t, SourceCloser>;

struct ErrorSlot {
  zip_error_t error;
  ErrorSlot() { zip_error_init(&error); }
  ~ErrorSlot() { zip_error_fini(&error); }
  ErrorSlot(const ErrorSlot&) = delete;
  ErrorSlot& operator=(const ErrorSlot&) = delete;
};

bool add_entry(zip_t* zip, const std::string& name, const std::string& content) {
  zip_source_t* entry = zip_source_buffer(zip, content.data(), content.size(), 0);
  if (entry == nullptr) return false;
  const zip_int64_t index = zip_file_add(zip, name.c_str(), entry, ZIP_FL_ENC_UTF_8);
  if (index < 0) return zip_source_free(entry), false;
  zip_file_set_mtime(zip, static_cast<zip_uint64_t>(index), kAnyDay, 0);
  return true;
}

/// What a written source holds; empty if it cannot be read back.
std::string bytes_of(zip_source_t* source) {
  if (zip_source_open(source) != 0) return {};
  zip_source_seek(source, 0, SEEK_END);
  std::string bytes(static_cast<std::size_t>(std::max<zip_int64_t>(0, zip_source_tell(source))), '\0');
  zip_source_seek(source, 0, SEEK_SET);
  const zip_int64_t read = zip_source_read(source, bytes.data(), bytes.size());
  zip_source_close(source);
  return read == static_cast<zip_int64_t>(bytes.size()) ? bytes : std::string();
}

}  // namespace

Result<std::string> zipped(const Entries& entries) {
  const auto failed = [] { return fail(Errc::cannot_write, "The build could not be packed."); };
  ErrorSlot slot;
  const Source target(zip_source_buffer_create(nullptr, 0, 0, &slot.error));
  if (!target) return failed();
  zip_source_keep(target.get());
  zip_t* zip = zip_open_from_source(target.get(), ZIP_TRUNCATE, &slot.error);
  if (zip == nullptr) return zip_source_free(target.get()), failed();
  for (const auto& [name, content] : entries)
    if (!add_entry(zip, name, content)) return zip_discard(zip), failed();
  if (zip_close(zip) != 0) return zip_discard(zip), failed();
  std::string bytes = bytes_of(target.get());
  if (bytes.empty()) return failed();
  return bytes;
}

struct ZipFile::Handle {
  zip_t* zip;
  explicit Handle(zip_t* open) : zip(open) {}
  Handle(const Handle&) = delete;
  Handle& operator=(const Handle&) = delete;
  ~Handle() { zip_discard(zip); }
};

ZipFile::ZipFile(std::unique_ptr<Handle> handle, std::shared_ptr<Budget> budget)
    : handle_(std::move(handle)), budget_(std::move(budget)) {}
ZipFile::ZipFile(ZipFile&&) noexcept = default;
ZipFile& ZipFile::operator=(ZipFile&&) noexcept = default;
ZipFile::~ZipFile() = default;

Result<ZipFile> ZipFile::open(const std::string& bytes, std::shared_ptr<Budget> budget) {
  ErrorSlot slot;
  Source source(zip_source_buffer_create(bytes.data(), bytes.size(), 0, &slot.error));
  zip_t* zip = source ? zip_open_from_source(source.get(), ZIP_RDONLY | ZIP_CHECKCONS, &slot.error) : nullptr;
  if (zip == nullptr) return fail(Errc::bad_file, "This is no .noggin file, or it is damaged or cut short.");
  (void)source.release();  // the archive's now
  auto handle = std::make_unique<Handle>(zip);
  if (zip_get_num_entries(zip, 0) > kMostEntries)
    return fail(Errc::bad_file,
        "This archive has more than " + std::to_string(kMostEntries) + " entries; it is no .noggin file.");
  return ZipFile(std::move(handle), std::move(budget));
}

Result<std::string> ZipFile::entry(const std::string& name) {
  zip_stat_t stat;
  if (zip_stat(handle_->zip, name.c_str(), 0, &stat) != 0)
    return fail(Errc::bad_file, "This archive holds no " + excerpt(name) + "; it is no .noggin file.", excerpt(name));
  if (!read_.insert(name).second)
    return fail(Errc::bad_file, "Two things in this file are said to stand in " + excerpt(name) + "; it is damaged.",
        excerpt(name));
  if (stat.size > kMostEntryBytes)
    return fail(
        Errc::too_large, "The " + excerpt(name) + " in this file is larger than 64 MB; it is damaged.", excerpt(name));
  if (stat.size > budget_->bytes)
    return fail(Errc::too_large, "What this file holds comes to more than 512 MB; it is damaged.", excerpt(name));
  budget_->bytes -= stat.size;
  std::string text(stat.size, '\0');
  zip_file_t* file = zip_fopen_index(handle_->zip, stat.index, 0);
  const bool read = file != nullptr && zip_fread(file, text.data(), stat.size) == static_cast<zip_int64_t>(stat.size);
  if (file != nullptr && zip_fclose(file) != 0)
    return fail(Errc::bad_file, "The .noggin file is damaged: its checksum does not agree.", excerpt(name));
  if (!read) return fail(Errc::bad_file, "The .noggin file is damaged or cut short.", excerpt(name));
  return text;
}

}  // namespace awl
