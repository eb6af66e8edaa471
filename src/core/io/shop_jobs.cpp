#include "core/io/shop_jobs.hpp"

#include <algorithm>
#include <cctype>
#include <sstream>

#include "core/base/data_files.hpp"
#include "core/io/shop_base.hpp"
#include "core/io/wearers_csv.hpp"

namespace awl {
namespace {

using shop_book::Statement;
using shop_book::Transaction;

constexpr std::size_t kMostPhotoBytes = std::size_t{20} << 20;

constexpr const char* kJobColumns =
    "SELECT id, uid, title, COALESCE(wearer, 0), build_file, wishes, better, price_cents, deposit_cents, deposit_day, "
    "agreed, due, handed_over FROM job ";

Job job_row(const Statement& s) {
  Job j;
  j.id = s.number(0);
  j.uid = s.text(1);
  j.title = s.text(2);
  j.wearer = s.number(3);
  j.build_file = s.text(4);
  j.wishes = s.text(5);
  j.better = s.text(6);
  if (!s.is_null(7)) j.price_cents = s.number(7);
  j.deposit_cents = s.number(8);
  j.deposit_day = Day{s.number(9)};
  j.agreed = Day{s.number(10)};
  j.due = Day{s.number(11)};
  j.handed_over = Day{s.number(12)};
  return j;
}

Work work_row(const Statement& s) {
  Work w;
  w.id = s.number(0);
  w.job = s.number(1);
  w.stage = s.text(2);
  w.step = s.text(3);
  w.began = s.large(4);
  if (!s.is_null(5)) w.ended = s.large(5);
  w.rule_min = s.real(6);
  w.note = s.text(7);
  return w;
}
constexpr const char* kWorkColumns =
    "SELECT id, COALESCE(job, 0), stage, step, began, ended, rule_min, note FROM work ";

bool is_picture(const std::string& bytes) {
  return bytes.starts_with("\x89PNG\r\n\x1a\n") || bytes.starts_with("\xff\xd8\xff");
}

/// Words as FTS5 takes them: each in quotes, the beginning of a word will do.
std::string query_of(const std::string& words) {
  std::istringstream in(words);
  std::string query;
  for (std::string word; in >> word;) {
    std::string quoted;
    for (const char c : word) quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
    query += (query.empty() ? "\"" : " \"") + quoted + "\"*";
  }
  return query;
}

/// What is searched of one thing: what was there goes, what there is comes.
bool index(sqlite3* db, int job, const std::string& kind, const std::string& was, const std::string& text) {
  Statement gone(db, "DELETE FROM words WHERE job = ? AND kind = ? AND text = ?");
  gone.with(job).with(kind).with(was).step();
  if (!gone.good()) return false;
  if (text.empty()) return true;
  Statement put(db, "INSERT INTO words(job, kind, text) VALUES(?, ?, ?)");
  put.with(job).with(kind).with(text).step();
  return put.good();
}

std::string text_of(sqlite3* db, const char* sql, int id) {
  Statement s(db, sql);
  s.with(id);
  return s.step() ? s.text(0) : std::string();
}

}  // namespace

std::string job_uid(const std::string& build, const std::string& wearer) {
  // A name may be of any letters: those beyond ASCII stand as their numbers.
  constexpr const char* kHex = "0123456789abcdef";
  std::string uid;
  for (const char c : build + " for " + wearer) {
    const auto byte = static_cast<unsigned char>(c);
    if (std::isalnum(byte) != 0)
      uid += static_cast<char>(std::tolower(byte));
    else if (byte < 0x80)
      uid += '-';
    else
      (uid += kHex[byte >> 4]) += kHex[byte & 15];
  }
  return uid;
}

Result<std::vector<Job>> JobPages::jobs() const {
  Statement s(base_.db, (std::string(kJobColumns) + "WHERE removed = 0 ORDER BY id DESC").c_str());
  std::vector<Job> list;
  while (s.step()) list.push_back(job_row(s));
  if (!s.good()) return base_.failed();
  return list;
}

Result<std::optional<Job>> JobPages::job_of(const std::string& uid) const {
  Statement s(base_.db, (std::string(kJobColumns) + "WHERE uid = ? AND removed = 0").c_str());
  s.with(uid);
  std::optional<Job> found;
  if (s.step()) found = job_row(s);
  if (!s.good()) return base_.failed();
  return found;
}

Result<int> JobPages::keep(const Job& j) {
  if (j.title.find_first_not_of(" \t\r\n") == std::string::npos || j.uid.empty())
    return fail(Errc::empty_input, "A job in the book needs a title.", "book/title");
  Transaction all(base_.db);
  if (!all.begun()) return base_.failed();
  Statement s(base_.db,
      "INSERT INTO job(uid, title, wearer, build_file, wishes, better, price_cents, deposit_cents, deposit_day, "
      "agreed, "
      "due, handed_over) VALUES(?1, ?2, NULLIF(?3, 0), ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12) ON CONFLICT(uid) DO "
      "UPDATE "
      "SET title = ?2, wearer = NULLIF(?3, 0), build_file = ?4, wishes = ?5, better = ?6, price_cents = ?7, "
      "deposit_cents = ?8, deposit_day = ?9, agreed = ?10, due = ?11, handed_over = ?12, removed = 0");
  s.with(j.uid).with(j.title).with(j.wearer).with(j.build_file).with(j.wishes).with(j.better);
  s.with(j.price_cents ? std::optional<double>(*j.price_cents) : std::nullopt);
  s.with(j.deposit_cents)
      .with(j.deposit_day.number)
      .with(j.agreed.number)
      .with(j.due.number)
      .with(j.handed_over.number);
  s.step();
  if (!s.good()) {
    if (sqlite3_extended_errcode(base_.db) == SQLITE_CONSTRAINT_FOREIGNKEY)
      return fail(
          Errc::unknown_name, "Wearer number " + std::to_string(j.wearer) + " is not in the shop book.", "book");
    return base_.failed();
  }
  Statement id(base_.db, "SELECT id FROM job WHERE uid = ?");
  id.with(j.uid);
  if (!id.step()) return base_.failed();
  const int job = id.number(0);
  for (const auto& [kind, text] :
      {std::pair<const char*, const std::string&>{"title", j.title}, {"wishes", j.wishes}, {"better", j.better}}) {
    Statement gone(base_.db, "DELETE FROM words WHERE job = ? AND kind = ?");
    gone.with(job).with(std::string(kind)).step();
    if (!gone.good() || !index(base_.db, job, kind, {}, text)) return base_.failed();
  }
  if (!all.keep()) return base_.failed();
  return job;
}

Result<void> JobPages::remove(int job) {
  Statement s(base_.db, "UPDATE job SET removed = 1 WHERE id = ? AND removed = 0");
  return shop_book::touch([this] { return base_.failed(); }, s.with(job), job);
}
Result<void> JobPages::restore(int job) {
  Statement s(base_.db, "UPDATE job SET removed = 0 WHERE id = ? AND removed = 1");
  return shop_book::touch([this] { return base_.failed(); }, s.with(job), job);
}

Result<std::vector<Fitting>> JobPages::fittings(int job) const {
  Statement s(base_.db, "SELECT id, job, due, done, note FROM fitting WHERE job = ? ORDER BY due, id");
  s.with(job);
  std::vector<Fitting> list;
  while (s.step()) list.push_back({s.number(0), s.number(1), Day{s.number(2)}, Day{s.number(3)}, s.text(4)});
  if (!s.good()) return base_.failed();
  return list;
}

Result<int> JobPages::keep(const Fitting& f) {
  Transaction all(base_.db);
  if (!all.begun()) return base_.failed();
  const std::string was = text_of(base_.db, "SELECT note FROM fitting WHERE id = ?", f.id);
  Statement s(base_.db,
      f.id == 0 ? "INSERT INTO fitting(job, due, done, note) VALUES(?, ?, ?, ?)"
                : "UPDATE fitting SET job = ?, due = ?, done = ?, note = ? WHERE id = ?");
  s.with(f.job).with(f.due.number).with(f.done.number).with(f.note);
  if (f.id != 0) s.with(f.id);
  s.step();
  if (!s.good()) return base_.failed();
  const int id = f.id != 0 ? f.id : static_cast<int>(sqlite3_last_insert_rowid(base_.db));
  if (!index(base_.db, f.job, "fitting", was, f.note) || !all.keep()) return base_.failed();
  return id;
}

Result<void> JobPages::drop_fitting(int id) {
  Statement words(base_.db,
      "DELETE FROM words WHERE kind = 'fitting' AND EXISTS(SELECT 1 FROM fitting f WHERE f.id = ? AND f.job = "
      "words.job "
      "AND f.note = words.text)");
  words.with(id).step();
  if (!words.good()) return base_.failed();
  Statement s(base_.db, "DELETE FROM fitting WHERE id = ?");
  return shop_book::touch([this] { return base_.failed(); }, s.with(id), id);
}

Result<std::vector<Photo>> JobPages::photos(int job) const {
  Statement s(base_.db,
      "SELECT id, COALESCE(job, 0), COALESCE(wearer, 0), taken, step, note FROM photo WHERE job = ? ORDER BY taken, "
      "id");
  s.with(job);
  std::vector<Photo> list;
  while (s.step()) list.push_back({s.number(0), s.number(1), s.number(2), s.large(3), s.text(4), s.text(5), {}});
  if (!s.good()) return base_.failed();
  return list;
}

Result<std::string> JobPages::picture(int photo) const {
  Statement s(base_.db, "SELECT bytes FROM photo WHERE id = ?");
  s.with(photo);
  if (s.step()) return s.bytes(0);
  if (!s.good()) return base_.failed();
  return fail(Errc::unknown_name, "There is no picture number " + std::to_string(photo) + " in the book.", "book");
}

Result<int> JobPages::add(const Photo& p) {
  if (p.bytes.size() > kMostPhotoBytes)
    return fail(Errc::too_large, "The picture has " + std::to_string(p.bytes.size() >> 20) + " MB; 20 MB are the most.",
        "book/photo");
  if (!is_picture(p.bytes)) return fail(Errc::bad_file, "This is no picture: PNG or JPEG is taken.", "book/photo");
  Transaction all(base_.db);
  if (!all.begun()) return base_.failed();
  Statement s(base_.db,
      "INSERT INTO photo(job, wearer, taken, step, note, bytes) VALUES(NULLIF(?, 0), NULLIF(?, 0), ?, ?, ?, ?)");
  s.with(p.job).with(p.wearer).with_large(p.taken).with(p.step).with(p.note).with_bytes(p.bytes).step();
  if (!s.good()) return base_.failed();
  const int id = static_cast<int>(sqlite3_last_insert_rowid(base_.db));
  if (!index(base_.db, p.job, "picture", {}, p.note) || !all.keep()) return base_.failed();
  return id;
}

Result<void> JobPages::drop_photo(int id) {
  Statement words(base_.db,
      "DELETE FROM words WHERE kind = 'picture' AND EXISTS(SELECT 1 FROM photo p WHERE p.id = ? AND p.job = words.job "
      "AND "
      "p.note = words.text)");
  words.with(id).step();
  if (!words.good()) return base_.failed();
  Statement s(base_.db, "DELETE FROM photo WHERE id = ?");
  return shop_book::touch([this] { return base_.failed(); }, s.with(id), id);
}

Result<std::vector<FoamChange>> JobPages::changes(int job) const {
  Statement s(base_.db,
      "SELECT id, job, day, version, place, text, on_pattern FROM foam_change WHERE job = ? ORDER BY day, id");
  s.with(job);
  std::vector<FoamChange> list;
  while (s.step())
    list.push_back({s.number(0), s.number(1), Day{s.number(2)}, s.number(3), s.text(4), s.text(5), s.number(6) != 0});
  if (!s.good()) return base_.failed();
  return list;
}

Result<int> JobPages::keep(const FoamChange& c) {
  if (c.text.empty()) return fail(Errc::empty_input, "Say what was changed on the foam.", "book/change");
  Transaction all(base_.db);
  if (!all.begun()) return base_.failed();
  const std::string was = text_of(base_.db, "SELECT place || ' ' || text FROM foam_change WHERE id = ?", c.id);
  Statement s(base_.db,
      c.id == 0
          ? "INSERT INTO foam_change(job, day, version, place, text, on_pattern) VALUES(?, ?, ?, ?, ?, ?)"
          : "UPDATE foam_change SET job = ?, day = ?, version = ?, place = ?, text = ?, on_pattern = ? WHERE id = ?");
  s.with(c.job).with(c.day.number).with(c.version).with(c.place).with(c.text).with(c.on_pattern ? 1 : 0);
  if (c.id != 0) s.with(c.id);
  s.step();
  if (!s.good()) return base_.failed();
  const int id = c.id != 0 ? c.id : static_cast<int>(sqlite3_last_insert_rowid(base_.db));
  if (!index(base_.db, c.job, "foam", was, c.place + " " + c.text) || !all.keep()) return base_.failed();
  return id;
}

Result<int> JobPages::begin_work(const Work& w) {
  Transaction all(base_.db);
  if (!all.begun()) return base_.failed();
  // What is still going on ends here, or as it began if the clock was set back.
  Statement end(base_.db, "UPDATE work SET ended = MAX(began, ?) WHERE job = ? AND ended IS NULL");
  end.with_large(w.began).with(w.job).step();
  if (!end.good()) return base_.failed();
  Statement s(base_.db, "INSERT INTO work(job, stage, step, began, rule_min) VALUES(NULLIF(?, 0), ?, ?, ?, ?)");
  s.with(w.job).with(w.stage).with(w.step).with_large(w.began).with(w.rule_min).step();
  if (!s.good()) return base_.failed();
  const int id = static_cast<int>(sqlite3_last_insert_rowid(base_.db));
  if (!all.keep()) return base_.failed();
  return id;
}

Result<void> JobPages::end_work(int id, Moment ended) {
  Statement began(base_.db, "SELECT began FROM work WHERE id = ?");
  began.with(id);
  if (began.step() && ended < began.large(0))
    return fail(Errc::out_of_range,
        "It would end at " + iso_text(ended) + ", before it began at " + iso_text(began.large(0)) +
            ": was the clock set back?",
        "book/work");
  Statement s(base_.db, "UPDATE work SET ended = ? WHERE id = ?");
  return shop_book::touch([this] { return base_.failed(); }, s.with_large(ended).with(id), id);
}

Result<std::vector<Work>> JobPages::work(int job) const {
  Statement s(base_.db, (std::string(kWorkColumns) + "WHERE job = ? ORDER BY began, id").c_str());
  s.with(job);
  std::vector<Work> list;
  while (s.step()) list.push_back(work_row(s));
  if (!s.good()) return base_.failed();
  return list;
}

Result<std::optional<Work>> JobPages::going_on(int job) const {
  Statement s(base_.db, (std::string(kWorkColumns) + "WHERE job = ? AND ended IS NULL ORDER BY id DESC").c_str());
  s.with(job);
  std::optional<Work> found;
  if (s.step()) found = work_row(s);
  if (!s.good()) return base_.failed();
  return found;
}

Result<void> JobPages::note_work(int id, const std::string& note) {
  Transaction all(base_.db);
  if (!all.begun()) return base_.failed();
  Statement was(base_.db, "SELECT COALESCE(job, 0), note FROM work WHERE id = ?");
  was.with(id);
  const bool there = was.step();
  if (there && !index(base_.db, was.number(0), "note", was.text(1), note)) return base_.failed();
  Statement s(base_.db, "UPDATE work SET note = ? WHERE id = ?");
  if (auto done = shop_book::touch([this] { return base_.failed(); }, s.with(note).with(id), id); !done) return done;
  if (!all.keep()) return base_.failed();
  return {};
}

Result<void> JobPages::wrote(int job, const std::filesystem::path& file) {
  Statement s(base_.db, "INSERT OR IGNORE INTO written(job, path) VALUES(?, ?)");
  s.with(job).with(std::filesystem::absolute(file).lexically_normal().string()).step();
  if (!s.good()) return base_.failed();
  return {};
}

Result<std::vector<std::filesystem::path>> JobPages::files_of(int wearer) const {
  Statement s(
      base_.db, "SELECT DISTINCT path FROM written WHERE job IN (SELECT id FROM job WHERE wearer = ?) ORDER BY path");
  s.with(wearer);
  std::vector<std::filesystem::path> files;
  std::error_code ignored;
  while (s.step())
    for (const char* ending : {"", "~"})
      if (const std::filesystem::path file = s.text(0) + ending; std::filesystem::is_regular_file(file, ignored))
        files.push_back(file);
  if (!s.good()) return base_.failed();
  return files;
}

Result<void> JobPages::drop_work(int id) {
  if (auto gone = note_work(id, {}); !gone) return gone;
  Statement s(base_.db, "DELETE FROM work WHERE id = ?");
  return shop_book::touch([this] { return base_.failed(); }, s.with(id), id);
}

Result<std::map<std::string, std::vector<StageLog>>> JobPages::logs(int but_job) const {
  // A step done in several goes has its rule counted once.
  Statement s(base_.db,
      "SELECT stage, SUM(rule), SUM(took) FROM (SELECT job, stage, step, MAX(rule_min) AS rule, SUM(ended - began) AS "
      "took FROM work WHERE ended IS NOT NULL AND COALESCE(job, 0) <> ? GROUP BY job, stage, step) GROUP BY job, stage "
      "ORDER BY job, stage");
  s.with(but_job);
  std::map<std::string, std::vector<StageLog>> logs;
  while (s.step())
    if (s.real(1) > 0.0 && s.real(2) > 0.0) logs[s.text(0)].push_back({s.real(1), s.real(2)});
  if (!s.good()) return base_.failed();
  return logs;
}

Result<int> JobPages::give(const GivenQuote& q) {
  Statement s(base_.db, "INSERT INTO quote(job, day, text, price_cents) VALUES(?, ?, ?, ?)");
  s.with(q.job).with(q.day.number).with(q.text).with(q.price_cents).step();
  if (!s.good()) return base_.failed();
  return static_cast<int>(sqlite3_last_insert_rowid(base_.db));
}

Result<std::vector<GivenQuote>> JobPages::quotes(int job) const {
  Statement s(base_.db, "SELECT id, job, day, text, price_cents FROM quote WHERE job = ? ORDER BY day, id");
  s.with(job);
  std::vector<GivenQuote> list;
  while (s.step()) list.push_back({s.number(0), s.number(1), Day{s.number(2)}, s.text(3), s.number(4)});
  if (!s.good()) return base_.failed();
  return list;
}

Result<std::vector<Found>> JobPages::search(const std::string& words) const {
  std::vector<Found> list;
  const std::string query = query_of(words);
  if (query.empty()) return list;
  Statement s(base_.db,
      "SELECT w.job, w.kind, w.text FROM words w JOIN job j ON j.id = w.job AND j.removed = 0 WHERE words MATCH ? "
      "ORDER "
      "BY rank LIMIT 200");
  s.with(query);
  while (s.step()) list.push_back({s.number(0), s.text(1), s.text(2)});
  if (!s.good()) return base_.failed();
  return list;
}

}  // namespace awl
