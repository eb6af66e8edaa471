#include "app/desk/book.hpp"

#include <QDir>
#include <QFileInfo>
#include <QSettings>
#include <QSignalBlocker>

#include "core/base/data_files.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

const QString kFolderKey = QStringLiteral("prefs/book"), kFile = QStringLiteral("/shop-book.db");
constexpr int kTypingRestMs = 600;  // longer than between two letters, shorter than anybody waits

}  // namespace

Book::Book(QObject* parent) : QObject(parent) {
  m_rest.setSingleShot(true);
  m_rest.setInterval(kTypingRestMs);
  connect(&m_rest, &QTimer::timeout, this, &Book::writeWaiting);
}

Book::~Book() { writeWaiting(); }

QString Book::path() {
  const QString folder = QSettings().value(kFolderKey).toString();
  return folder.isEmpty() ? usualPath() : folder + kFile;
}

Result<void> Book::moveTo(const QString& folder) {
  const QString from = path(), to = folder.isEmpty() ? usualPath() : folder + kFile;
  if (from == to) return {};
  const QFileInfo there(QFileInfo(to).absolutePath());
  const auto refuse = [&](const char* why) {
    return fail(Errc::cannot_write,
        "The shop book cannot be kept in " + there.filePath().toStdString() + ": " + why + " It stays where it is.");
  };
  if (!folder.isEmpty() && !there.isDir()) return refuse("there is no such folder.");
  if (!folder.isEmpty() && !there.isWritable()) return refuse("nothing can be written there.");
  writeWaiting();
  m_book.reset(), m_removed.clear();  // closed: all of it is in its file
  if (QFile::exists(from) && !QFile::exists(to) && !QFile::copy(from, to)) return refuse("it could not be copied.");
  QSettings().setValue(kFolderKey, folder);
  emit changed();
  return {};
}

QString Book::usualPath() {
  const QString home = qEnvironmentVariable("XDG_DATA_HOME", QDir::homePath() + QStringLiteral("/.local/share"));
  return home + QStringLiteral("/noggin-awl") + kFile;
}

void Book::whenHandsRest(const QString& name, std::function<Result<void>(ShopBook&)> write) {
  std::erase_if(m_waiting, [&](const Waiting& w) { return w.name == name; });
  m_waiting.push_back({name, std::move(write)});
  m_rest.start();
}

void Book::writeWaiting() {
  m_rest.stop();
  for (const Waiting& w : std::exchange(m_waiting, {})) {
    const auto book = opened();
    const auto written = book ? w.write(**book) : Result<void>(fail(book));
    if (!written) emit told(qs(written.error().text));
  }
}

Result<ShopBook*> Book::get() {
  writeWaiting();
  return opened();
}

Result<ShopBook*> Book::opened() {
  if (m_book) return &*m_book;
  std::string sentence;
  auto opened = ShopBook::open(path().toStdString(), &sentence);
  if (!opened) return fail(opened);
  m_book = std::move(*opened);
  if (!sentence.empty()) emit told(qs(sentence));
  return &*m_book;
}

Result<int> Book::put(const std::string& wearer, const TapeSheet& sheet) {
  const auto book = get();
  if (!book) return fail(book);
  const auto all = (*book)->wearers();
  if (!all) return fail(all);
  int id = 0;
  for (const BookWearer& w : *all)
    if (w.name == wearer) id = w.id;
  if (id == 0) {
    const auto added = (*book)->add_wearer(wearer, {});
    if (!added) return added;
    id = *added;
  }
  const auto added = (*book)->add_sheet(id, sheet);
  if (added) emit changed();
  return added;
}

Result<int> Book::jobOf(const Build& build) {
  const auto book = get();
  if (!book) return fail(book);
  JobPages pages(**book);
  const std::string uid = job_uid(build.name, build.wearer);
  const auto known = pages.job_of(uid);
  if (!known) return fail(known);
  if (*known) return (*known)->id;
  Job job;
  job.uid = uid;
  job.title = build.name;
  job.due = build.coat.due;
  const auto all = (*book)->wearers();
  if (!all) return fail(all);
  for (const BookWearer& w : *all)
    if (w.name == build.wearer) job.wearer = w.id;
  const auto made = pages.keep(job);
  if (made) emit changed();
  return made;
}

void Book::wrote(const Build& build, const QString& file) {
  const auto book = get();
  if (!book) return;
  const auto wearers = (*book)->wearers();
  const bool known =
      wearers && std::any_of(wearers->begin(), wearers->end(), [&](const auto& w) { return w.name == build.wearer; });
  if (!known) return;
  if (const auto job = jobOf(build)) (void)JobPages(**book).wrote(*job, file.toStdString());
}

Result<int> Book::readCsv(const QString& file) {
  const auto text = read_file(file.toStdString());
  if (!text) return fail(text);
  const auto table = wearers_from_csv(*text);
  if (!table) return fail(table);
  Result<int> added = 0;
  {
    const QSignalBlocker until_all_are_in(this);
    for (const NamedSheet& named : *table)
      if (added) added = put(named.wearer, named.sheet);
  }
  emit changed();
  if (!added) return added;
  return static_cast<int>(table->size());
}

Result<void> Book::writeCsv(const QString& file) {
  const auto book = get();
  if (!book) return fail(book);
  const auto all = (*book)->wearers();
  if (!all) return fail(all);
  std::vector<NamedSheet> table;
  for (const BookWearer& w : *all) {
    const auto sheets = (*book)->sheets(w.id);
    if (!sheets) return fail(sheets);
    for (const BookSheet& s : *sheets) table.push_back({w.name, s.sheet});
  }
  return write_file_safely(file.toStdString(), wearers_csv(table));
}

Result<void> Book::removeWearer(int id) {
  const auto book = get();
  if (!book) return fail(book);
  if (auto done = (*book)->remove_wearer(id); !done) return done;
  m_removed.push_back({true, id});
  emit changed();
  return {};
}

Result<void> Book::removeSheet(int id) {
  const auto book = get();
  if (!book) return fail(book);
  if (auto done = (*book)->remove_sheet(id); !done) return done;
  m_removed.push_back({false, id});
  emit changed();
  return {};
}

Result<void> Book::bringBack() {
  const auto book = get();
  if (!book) return fail(book);
  if (m_removed.empty()) return {};
  const Removed last = m_removed.back();
  if (auto done = last.wearer ? (*book)->restore_wearer(last.id) : (*book)->restore_sheet(last.id); !done) return done;
  m_removed.pop_back();
  emit changed();
  return {};
}

}  // namespace awl
