#include <cstdlib>

#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/base/text.hpp"
#include "core/io/shop_jobs.hpp"

namespace awl {
namespace {

std::filesystem::path usual_book() {
  const char* data = std::getenv("XDG_DATA_HOME");
  const char* home = std::getenv("HOME");
  const std::filesystem::path folder = data != nullptr && *data != '\0'
      ? std::filesystem::path(data)
      : std::filesystem::path(home != nullptr ? home : ".") / ".local/share";
  return folder / "noggin-awl" / "shop-book.db";
}

std::string day_text(Day day) { return day.number != 0 ? day.iso() : std::string(); }

/// A table that is written as JSON, CSV or plain lines alike.
struct Table {
  std::vector<std::string> heads;
  std::vector<std::vector<Json>> rows;
};

std::string cell_text_of(const Json& cell) {
  return cell.is_string() ? cell.get<std::string>() : cell.is_null() ? std::string() : cell.dump();
}

void tell(const Table& table, const VerbOptions& o, std::ostream& out) {
  if (!o.csv.empty()) {
    std::string text;
    for (std::size_t i = 0; i < table.heads.size(); ++i) text += (i > 0 ? "," : "") + table.heads[i];
    text += "\n";
    for (const auto& row : table.rows) {
      for (std::size_t i = 0; i < row.size(); ++i) text += (i > 0 ? "," : "") + csv_field(cell_text_of(row[i]));
      text += "\n";
    }
    need(write_file_safely(o.csv, text));
  }
  if (o.json) {
    Json list = Json::array();
    for (const auto& row : table.rows) {
      Json one = Json::object();
      for (std::size_t i = 0; i < row.size(); ++i) one[table.heads[i]] = row[i];
      list.push_back(std::move(one));
    }
    out << line_of(list);
    return;
  }
  for (const auto& row : table.rows) {
    for (std::size_t i = 0; i < row.size(); ++i) out << (i > 0 ? "\t" : "") << cell_text_of(row[i]);
    out << "\n";
  }
}

Table jobs_table(const JobPages& pages) {
  Table t{{"id", "uid", "title", "wearer", "agreed", "due", "handed_over", "price_cents"}, {}};
  for (const Job& j : need(pages.jobs()))
    t.rows.push_back({j.id, j.uid, j.title, j.wearer, day_text(j.agreed), day_text(j.due), day_text(j.handed_over),
        j.price_cents ? Json(*j.price_cents) : Json()});
  return t;
}

Table work_table(const JobPages& pages, const std::string& which) {
  Table t{{"job", "stage", "step", "began", "ended", "rule_min", "note"}, {}};
  std::vector<int> jobs;
  if (which.empty())
    for (const Job& j : need(pages.jobs())) jobs.push_back(j.id);
  else
    jobs.push_back(need(whole_in(which)));
  for (const int job : jobs)
    for (const Work& w : need(pages.work(job)))
      t.rows.push_back({w.job, w.stage, w.step, iso_text(w.began), w.ended ? Json(iso_text(*w.ended)) : Json(),
          rounded(w.rule_min, 1), w.note});
  return t;
}

int wearer_named(const ShopBook& book, const std::string& name) {
  for (const BookWearer& w : need(book.wearers()))
    if (w.name == name) return w.id;
  throw Failed{{Errc::unknown_name, "Nobody called " + in_quotes(name) + " is in the shop book.", "book"}};
}

void tell_book(const VerbOptions& o, std::ostream& out) {
  ShopBook book = need(ShopBook::open(o.book.empty() ? usual_book() : std::filesystem::path(o.book)));
  JobPages pages(book);
  if (o.input == "jobs") return tell(jobs_table(pages), o, out);
  if (o.input == "work") return tell(work_table(pages, o.which), o, out);
  if (o.input == "wearers") {
    Table t{{"id", "name", "note", "sets", "last"}, {}};
    for (const BookWearer& w : need(book.wearers()))
      t.rows.push_back({w.id, w.name, w.note, w.sheets, day_text(w.last)});
    return tell(t, o, out);
  }
  if (o.input == "search") {
    Table t{{"job", "kind", "text"}, {}};
    for (const Found& f : need(pages.search(o.which))) t.rows.push_back({f.job, f.kind, f.text});
    return tell(t, o, out);
  }
  const int wearer = wearer_named(book, o.which);
  if (o.input == "forget") {
    need(pages.forget(wearer));
    out << (o.json ? line_of({{"forgotten", o.which}})
                   : "Forgotten. Builds, their copies and what was carried out may still hold measures.\n");
    return;
  }
  if (o.folder.empty()) throw Failed{{Errc::empty_input, "Name a --folder to carry it out to.", "book"}};
  Json files = Json::array();
  for (const auto& file : need(carry_out(need(pages.all_of(wearer)), o.folder))) files.push_back(file.string());
  out << (o.json ? line_of({{"files", files}}) : std::to_string(files.size()) + " files.\n");
}

}  // namespace

Result<void> verbBook(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] { tell_book(o, out); });
}

}  // namespace awl
