#include <algorithm>

#include "core/base/data_files.hpp"
#include "core/io/shop_base.hpp"
#include "core/io/shop_jobs.hpp"
#include "core/io/wearers_csv.hpp"

namespace awl {

using shop_book::Statement;
using shop_book::Transaction;

Result<WearerRecord> JobPages::all_of(int wearer) const {
  WearerRecord r;
  Statement who(base_.db, "SELECT id, name, note FROM wearer WHERE id = ?");
  who.with(wearer);
  if (!who.step()) {
    if (!who.good()) return base_.failed();
    return fail(Errc::unknown_name, "Wearer number " + std::to_string(wearer) + " is not in the shop book.", "book");
  }
  r.wearer = {who.number(0), who.text(1), who.text(2), 0, {}};
  const auto sheets = base_.sheets_of(wearer);
  if (!sheets) return fail(sheets);
  r.sheets = *sheets;
  r.wearer.sheets = static_cast<int>(r.sheets.size());
  const auto all = jobs();
  if (!all) return fail(all);
  for (const Job& j : *all) {
    if (j.wearer != wearer) continue;
    const auto fits = fittings(j.id);
    const auto foam = changes(j.id);
    const auto hours = work(j.id);
    if (!fits) return fail(fits);
    if (!foam) return fail(foam);
    if (!hours) return fail(hours);
    r.jobs.push_back(j);
    r.fittings.insert(r.fittings.end(), fits->begin(), fits->end());
    r.work.insert(r.work.end(), hours->begin(), hours->end());
    r.changes.insert(r.changes.end(), foam->begin(), foam->end());
  }
  Statement s(base_.db,
      "SELECT id, COALESCE(job, 0), COALESCE(wearer, 0), taken, step, note, bytes FROM photo WHERE wearer = ?1 OR job "
      "IN "
      "(SELECT id FROM job WHERE wearer = ?1) ORDER BY taken, id");
  s.with(wearer);
  while (s.step())
    r.photos.push_back({s.number(0), s.number(1), s.number(2), s.large(3), s.text(4), s.text(5), s.bytes(6)});
  if (!s.good()) return base_.failed();
  const auto files = files_of(wearer);
  if (!files) return fail(files);
  r.files = *files;
  return r;
}

Result<void> JobPages::forget(int wearer) {
  // Rows alone leave their bytes in free pages, in the log and in the search index.
  constexpr const char* kOfJobs = "(SELECT id FROM job WHERE wearer = ?)";
  const std::string of_jobs = kOfJobs;
  {
    Transaction all(base_.db);
    if (!all.begun()) return base_.failed();
    for (const std::string& sql :
        {"DELETE FROM words WHERE job IN " + of_jobs, "DELETE FROM photo WHERE job IN " + of_jobs,
            std::string("DELETE FROM photo WHERE wearer = ?"), "DELETE FROM fitting WHERE job IN " + of_jobs,
            "DELETE FROM foam_change WHERE job IN " + of_jobs, "UPDATE quote SET text = '' WHERE job IN " + of_jobs,
            "UPDATE work SET note = '' WHERE job IN " + of_jobs, "DELETE FROM written WHERE job IN " + of_jobs,
            "UPDATE wait SET label = '', meanwhile = '' WHERE job IN " + of_jobs,
            std::string("UPDATE job SET uid = 'forgotten-' || id, title = 'Forgotten', wishes = '', better = '', "
                        "build_file = '' WHERE wearer = ?"),
            std::string("DELETE FROM reading WHERE sheet IN (SELECT id FROM sheet WHERE wearer = ?)"),
            std::string("DELETE FROM sheet WHERE wearer = ?"),
            std::string("UPDATE job SET wearer = NULL WHERE wearer = ?")}) {
      Statement s(base_.db, sql.c_str());
      s.with(wearer).step();
      if (!s.good()) return base_.failed();
    }
    Statement s(base_.db, "DELETE FROM wearer WHERE id = ?");
    if (auto gone = shop_book::touch([this] { return base_.failed(); }, s.with(wearer), wearer); !gone) return gone;
    if (!all.keep()) return base_.failed();
  }
  for (const char* sql : {"INSERT INTO words(words) VALUES('optimize')", "VACUUM"})
    if (auto done = base_.run(sql); !done) return done;
  // A log that somebody still reads is not cut: that is no failure of SQLite's, but a word in its answer.
  Statement cut(base_.db, "PRAGMA wal_checkpoint(TRUNCATE)");
  if (!cut.step()) return base_.failed();
  if (cut.number(0) != 0)
    return fail(Errc::locked,
        "They are forgotten, but another window reads the shop book: until it is closed its log holds traces of them.",
        base_.path.string());
  return {};
}

Result<std::vector<std::filesystem::path>> carry_out(const WearerRecord& r, const std::filesystem::path& folder) {
  if (auto made = make_folder(folder); !made) return fail(made);
  std::vector<std::filesystem::path> files;
  const auto put = [&](const std::string& name, const std::string& bytes) -> Result<void> {
    files.push_back(folder / name);
    return write_file_safely(files.back(), bytes);
  };
  std::vector<NamedSheet> table;
  for (const BookSheet& s : r.sheets) table.push_back({r.wearer.name, s.sheet});
  if (auto done = put("measures.csv", wearers_csv(table)); !done) return fail(done);
  std::string text = r.wearer.name + "\n" + r.wearer.note + "\n";
  const auto on = [](Day day) { return day.number != 0 ? day.iso() : std::string("not yet"); };
  for (const Job& j : r.jobs) {
    text += "\n" + j.title + ", agreed " + on(j.agreed) + ", due " + on(j.due) + ", handed over " + on(j.handed_over) +
        "\n";
    if (!j.wishes.empty()) text += "Wishes: " + j.wishes + "\n";
    if (!j.better.empty()) text += "To do better: " + j.better + "\n";
    for (const Fitting& f : r.fittings)
      if (f.job == j.id) text += "Fitting of " + on(f.due) + ": " + f.note + "\n";
    for (const FoamChange& c : r.changes)
      if (c.job == j.id) text += "Changed on the foam on " + on(c.day) + ", " + c.place + ": " + c.text + "\n";
    for (const Work& w : r.work)
      if (w.job == j.id && !w.note.empty())
        text += "Noted at " + w.step + ", " + iso_text(w.began) + ": " + w.note + "\n";
  }
  if (auto done = put("notes.txt", text); !done) return fail(done);
  for (const Photo& p : r.photos)
    if (auto done =
            put("picture-" + std::to_string(p.id) + (p.bytes.starts_with("\x89PNG") ? ".png" : ".jpg"), p.bytes);
        !done)
      return fail(done);
  return files;
}

}  // namespace awl
