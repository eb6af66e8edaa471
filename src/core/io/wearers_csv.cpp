#include "core/io/wearers_csv.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/base/units.hpp"

namespace awl {
namespace {

constexpr std::size_t kMostName = 200, kMostRows = 20'000;

std::string cell_text(const std::string& text) {
  if (text.find_first_of(",\"\r\n") == std::string::npos) return text;
  std::string out = "\"";
  for (const char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
  return out + "\"";
}

struct Table {
  std::vector<std::vector<std::string>> rows;
  std::vector<int> line_of;  ///< line each row begins on
};

std::string trimmed(const std::string& s) {
  const auto from = s.find_first_not_of(" \t\r"), to = s.find_last_not_of(" \t\r");
  return from == std::string::npos ? std::string() : s.substr(from, to - from + 1);
}

/// Rows and cells; quoted cells may hold separators and line ends.
Result<Table> split(const std::string& text, char separator) {
  Table table;
  std::vector<std::string> row;
  std::string cell;
  bool in_quotes = false;
  int line = 1, began = 1;
  const auto end_row = [&] {
    row.push_back(trimmed(cell));
    cell.clear();
    if (row.size() > 1 || !row[0].empty()) table.rows.push_back(row), table.line_of.push_back(began);
    row.clear();
    began = line;
  };
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (c == '\n') ++line;
    if (in_quotes) {
      if (c != '"')
        cell += c;
      else if (i + 1 < text.size() && text[i + 1] == '"')
        cell += text[i++];
      else
        in_quotes = false;
    } else if (c == '"' && trimmed(cell).empty())
      cell.clear(), in_quotes = true;
    else if (c == separator)
      row.push_back(trimmed(cell)), cell.clear();
    else if (c == '\n')
      end_row();
    else
      cell += c;
  }
  if (in_quotes)
    return fail(Errc::bad_file, "Line " + std::to_string(began) + ": a quotation mark is never closed.",
        "line " + std::to_string(began));
  if (!cell.empty() || !row.empty()) end_row();
  return table;
}

/// What one column holds.
struct Column {
  enum class Kind { wearer, day, by, people, head, body } kind = Kind::wearer;
  MeasureId head = MeasureId::HC;
  BodyMeasure body = BodyMeasure::shoulders;
  LengthUnit unit = LengthUnit::mm;
};

Result<Column> column_from(const std::string& heading) {
  Column c;
  std::string name = heading;
  if (const auto open = heading.find_first_of("[("); open != std::string::npos) {
    const auto close = heading.find_first_of("])", open);
    const auto unit =
        unit_from_symbol(heading.substr(open + 1, close == std::string::npos ? std::string::npos : close - open - 1));
    if (!unit) return fail(Errc::wrong_unit, unit.error().text);
    c.unit = *unit, name = trimmed(heading.substr(0, open));
  }
  const std::pair<const char*, Column::Kind> words[] = {{"wearer", Column::Kind::wearer}, {"day", Column::Kind::day},
      {"by", Column::Kind::by}, {"people", Column::Kind::people}};
  for (const auto& [word, kind] : words)
    if (name == word) return c.kind = kind, c;
  if (const auto id = measure_from_code(name)) return c.kind = Column::Kind::head, c.head = *id, c;
  if (const auto id = body_measure_from_code(name)) return c.kind = Column::Kind::body, c.body = *id, c;
  return fail(Errc::unknown_name,
      in_quotes(heading) +
          " is no column of a table of wearers; there are wearer, day, by, people and the codes of measures such as "
          "HC.");
}

Result<void> put(NamedSheet& to, const Column& c, const std::string& cell) {
  if (cell.empty()) return {};
  switch (c.kind) {
    case Column::Kind::wearer:
    case Column::Kind::by:
      if (cell.size() > kMostName)
        return fail(Errc::too_large,
            "A name of " + std::to_string(cell.size()) + " letters is too long; " + std::to_string(kMostName) +
                " are the most.");
      (c.kind == Column::Kind::by ? to.sheet.by : to.wearer) = cell;
      return {};
    case Column::Kind::people:
      to.sheet.people = cell;
      return {};
    case Column::Kind::day: {
      const auto day = parse_day(cell);
      if (!day) return fail(day);
      to.sheet.day = *day;
      return {};
    }
    default:
      break;
  }
  const auto mm = parse_length(cell, c.unit);
  if (!mm) return fail(mm);
  if (c.kind == Column::Kind::body) {
    to.sheet.body[c.body] = *mm;
    return {};
  }
  if (auto good = check_possible(c.head, *mm); !good) return good;
  to.sheet.head[c.head].first_mm = *mm;
  return {};
}

char separator_of(const std::string& text) {
  const std::string heading = text.substr(0, text.find('\n'));
  const auto count = [&](char c) { return std::count(heading.begin(), heading.end(), c); };
  return count('\t') > 0 ? '\t' : count(';') > 0 ? ';' : ',';
}

std::string place(int line, std::size_t column, const std::string& heading) {
  return "Line " + std::to_string(line) + ", column " + std::to_string(column + 1) + " (" + excerpt(heading, 40) +
      "): ";
}

}  // namespace

std::string wearers_csv(const std::vector<NamedSheet>& wearers) {
  std::string out = "wearer,day,by,people";
  for (const MeasureFacts& f : measure_facts()) out += std::string(",") + f.code;
  for (const BodyFacts& f : body_facts()) out += std::string(",") + f.code;
  out += "\n";
  const auto number = [](double mm) {
    std::string s = fixed(mm, 2);
    s.erase(s.find_last_not_of('0') + 1);
    return s.back() == '.' ? s.substr(0, s.size() - 1) : s;
  };
  for (const NamedSheet& w : wearers) {
    out += cell_text(w.wearer) + "," + (w.sheet.day != Day{} ? w.sheet.day.iso() : "") + "," + cell_text(w.sheet.by) +
        "," + w.sheet.people;
    for (const MeasureFacts& f : measure_facts()) {
      const auto e = w.sheet.head.find(f.id);
      out += "," + (e == w.sheet.head.end() ? std::string() : number(e->second.skin_mm(f.id)));
    }
    for (const BodyFacts& f : body_facts())
      out += "," + (w.sheet.body.count(f.id) ? number(w.sheet.body.at(f.id)) : std::string());
    out += "\n";
  }
  return out;
}

Result<std::vector<NamedSheet>> wearers_from_csv(const std::string& raw) {
  const std::string text = raw.rfind("\xEF\xBB\xBF", 0) == 0 ? raw.substr(3) : raw;
  if (auto good = check_utf8(text, "The table of wearers"); !good) return fail(good);
  const auto table = split(text, separator_of(text));
  if (!table) return fail(table);
  if (table->rows.empty())
    return fail(Errc::empty_input, "This table of wearers is empty; its first line names the columns.", "line 1");
  if (table->rows.size() > kMostRows)
    return fail(Errc::too_large,
        "This table has " + std::to_string(table->rows.size()) + " lines; " + std::to_string(kMostRows) +
            " are the most.",
        "line 1");
  const auto& headings = table->rows[0];
  std::vector<Column> columns;
  for (std::size_t i = 0; i < headings.size(); ++i) {
    const auto column = column_from(headings[i]);
    if (!column) return fail(column.error().code, place(1, i, headings[i]) + column.error().text, "line 1");
    columns.push_back(*column);
  }
  if (std::none_of(columns.begin(), columns.end(), [](const Column& c) { return c.kind == Column::Kind::wearer; }))
    return fail(Errc::bad_file, "The table has no column \"wearer\".", "line 1");
  std::vector<NamedSheet> list;
  for (std::size_t r = 1; r < table->rows.size(); ++r) {
    const auto& row = table->rows[r];
    const int line = table->line_of[r];
    const std::string where = "line " + std::to_string(line);
    if (row.size() != columns.size())
      return fail(Errc::bad_file,
          "Line " + std::to_string(line) + " has " + std::to_string(row.size()) + " cells where the heading has " +
              std::to_string(columns.size()) + ". A decimal comma needs ';' between the cells, or quotation marks.",
          where);
    NamedSheet named;
    for (std::size_t i = 0; i < row.size(); ++i)
      if (auto good = put(named, columns[i], row[i]); !good)
        return fail(good.error().code, place(line, i, headings[i]) + good.error().text, where);
    if (named.wearer.empty())
      return fail(Errc::empty_input, "Line " + std::to_string(line) + " names no wearer.", where);
    list.push_back(std::move(named));
  }
  return list;
}

}  // namespace awl
