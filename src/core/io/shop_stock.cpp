#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/io/foam_json.hpp"
#include "core/io/shop_base.hpp"

namespace awl {

using shop_book::Statement;
using shop_book::touch;

Result<std::vector<Offcut>> ShopBook::offcuts() const {
  Statement s(base_->db,
      "SELECT id, name, foam, thickness_mm, outline, day FROM offcut WHERE removed = 0 ORDER BY day DESC, id DESC");
  std::vector<Offcut> list;
  while (s.step()) {
    const auto json = json_in(s.text(4), "The outline of offcut " + in_quotes(s.text(1)) + " in the shop book");
    if (!json) return fail(Errc::bad_file, json.error().text, base_->path.string());
    const auto outline = read_json(*json, "", outline_from_json);
    if (!outline)
      return fail(Errc::bad_file,
          "The outline of offcut " + in_quotes(s.text(1)) +
              " in the shop book is not readable: " + outline.error().text,
          base_->path.string());
    list.push_back({s.number(0), s.text(1), s.text(2), s.real(3), *outline, Day{s.number(5)}});
  }
  if (!s.good()) return base_->failed();
  return list;
}

Result<int> ShopBook::keep_offcut(const Offcut& offcut) {
  const auto made = make_offcut(offcut);
  if (!made) return fail(made);
  Statement s(base_->db, "INSERT INTO offcut(name, foam, thickness_mm, outline, day) VALUES(?, ?, ?, ?, ?)");
  s.with(made->name)
      .with(made->foam)
      .with(made->thickness_mm)
      .with(outline_to_json(made->outline).dump())
      .with(made->kept.number)
      .step();
  if (!s.good()) return base_->failed();
  return static_cast<int>(sqlite3_last_insert_rowid(base_->db));
}

Result<void> ShopBook::remove_offcut(int id) {
  Statement s(base_->db, "UPDATE offcut SET removed = 1 WHERE id = ? AND removed = 0");
  return touch([this] { return base_->failed(); }, s.with(id), id);
}

Result<void> ShopBook::restore_offcut(int id) {
  Statement s(base_->db, "UPDATE offcut SET removed = 0 WHERE id = ? AND removed = 1");
  return touch([this] { return base_->failed(); }, s.with(id), id);
}

Result<std::vector<Foam>> ShopBook::own_kinds() const {
  Statement s(base_->db, "SELECT text FROM material ORDER BY id");
  std::vector<Foam> list;
  while (s.step()) {
    auto kind = foam_from_text(s.text(0));
    if (!kind) return fail(kind);
    list.push_back(std::move(*kind));
  }
  if (!s.good()) return base_->failed();
  return list;
}

Result<void> ShopBook::keep_kind(const Foam& kind) {
  if (auto good = check_foam_kind(kind); !good) return good;
  Statement s(
      base_->db, "INSERT INTO material(id, text) VALUES(?, ?) ON CONFLICT(id) DO UPDATE SET text = excluded.text");
  s.with(kind.id).with(foam_text(kind)).step();
  if (!s.good()) return base_->failed();
  return {};
}

Result<void> ShopBook::drop_kind(const std::string& id) {
  Statement s(base_->db, "DELETE FROM material WHERE id = ?");
  s.with(id).step();
  if (!s.good()) return base_->failed();
  return {};
}

Result<std::map<std::string, double>> ShopBook::stock() const {
  Statement s(base_->db, "SELECT what, amount FROM stock");
  std::map<std::string, double> all;
  while (s.step()) all[s.text(0)] = s.real(1);
  if (!s.good()) return base_->failed();
  return all;
}

Result<void> ShopBook::set_stock(const std::string& what, double amount) {
  if (!(amount >= 0.0 && amount <= 1e6))
    return fail(Errc::out_of_range, "A stock of " + fixed(amount, 1) + " is outside 0 to 1000000.", "stock/" + what);
  Statement s(base_->db,
      "INSERT INTO stock(what, amount) VALUES(?, ?) ON CONFLICT(what) DO UPDATE SET amount = excluded.amount");
  s.with(what).with(amount).step();
  if (!s.good()) return base_->failed();
  return {};
}

Result<std::vector<RunningWait>> ShopBook::waits() const {
  Statement s(
      base_->db, "SELECT id, label, meanwhile, caution, started, ready, open_until FROM wait ORDER BY ready, id");
  std::vector<RunningWait> list;
  while (s.step()) list.push_back({s.number(0), s.text(1), s.text(2), s.text(3), s.large(4), s.large(5), s.large(6)});
  if (!s.good()) return base_->failed();
  return list;
}

Result<int> ShopBook::start_wait(const RunningWait& wait) {
  if (wait.ready_s < wait.started_s) return fail(Errc::out_of_range, "A wait cannot end before it begins.", "wait");
  Statement s(
      base_->db, "INSERT INTO wait(label, meanwhile, caution, started, ready, open_until) VALUES(?, ?, ?, ?, ?, ?)");
  s.with(wait.label)
      .with(wait.meanwhile)
      .with(wait.caution)
      .with_large(wait.started_s)
      .with_large(wait.ready_s)
      .with_large(wait.open_until_s)
      .step();
  if (!s.good()) return base_->failed();
  return static_cast<int>(sqlite3_last_insert_rowid(base_->db));
}

Result<void> ShopBook::end_wait(int id) {
  Statement s(base_->db, "DELETE FROM wait WHERE id = ?");
  return touch([this] { return base_->failed(); }, s.with(id), id);
}

}  // namespace awl
