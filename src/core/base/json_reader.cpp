#include "core/base/json_reader.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

/// Counts what is parsed, and stops at the first that passes the budget. Nothing is built.
class Counter : public nlohmann::json_sax<Json> {
 public:
  explicit Counter(const JsonBudget& budget) : budget_(budget) {}

  const std::string& passed() const { return passed_; }
  std::size_t stopped_at() const { return stopped_at_; }

  bool null() override { return value(); }
  bool boolean(bool) override { return value(); }
  bool number_integer(number_integer_t) override { return value(); }
  bool number_unsigned(number_unsigned_t) override { return value(); }
  bool number_float(number_float_t, const string_t&) override { return value(); }
  bool string(string_t&) override { return value(); }
  bool binary(binary_t&) override { return value(); }
  bool start_object(std::size_t) override { return open(); }
  bool start_array(std::size_t) override { return open(); }
  bool key(string_t&) override {
    if (++keys_.back() <= budget_.keys) return true;
    return stop("has more than " + std::to_string(budget_.keys) + " entries in one place");
  }
  bool end_object() override { return close(); }
  bool end_array() override { return close(); }
  bool parse_error(std::size_t position, const std::string&, const nlohmann::detail::exception&) override {
    stopped_at_ = position;
    return false;
  }

 private:
  bool stop(std::string why) {
    passed_ = std::move(why);
    return false;
  }
  bool value() {
    return ++values_ <= budget_.values || stop("holds more than " + std::to_string(budget_.values) + " values");
  }
  bool open() {
    keys_.push_back(0);
    if (keys_.size() > budget_.depth) return stop("is nested deeper than " + std::to_string(budget_.depth) + " levels");
    return value();
  }
  bool close() {
    keys_.pop_back();
    return true;
  }

  const JsonBudget& budget_;
  std::string passed_;
  std::size_t stopped_at_ = 0, values_ = 0;
  std::vector<std::size_t> keys_;
};

std::string line_and_column(const std::string& text, std::size_t at) {
  const std::size_t end = std::min(at == 0 ? 0 : at - 1, text.size());
  const auto line = 1 + std::count(text.begin(), text.begin() + static_cast<long>(end), '\n');
  const std::size_t begun = end == 0 ? std::string::npos : text.rfind('\n', end - 1);
  return "line " + std::to_string(line) + ", character " +
      std::to_string(end - (begun == std::string::npos ? 0 : begun + 1) + 1);
}

}  // namespace

Result<Json> json_in(const std::string& text, const std::string& what, const JsonBudget& budget) {
  if (text.size() > budget.bytes)
    return fail(
        Errc::too_large, what + " is larger than " + std::to_string(budget.bytes >> 20) + " MB; it is damaged.");
  if (auto good = check_utf8(text, what); !good) return fail(good);
  Counter counter(budget);
  if (!Json::sax_parse(text, &counter)) {
    if (!counter.passed().empty()) return fail(Errc::too_large, what + " " + counter.passed() + "; it is damaged.");
    return fail(Errc::bad_file,
        what + " is not readable JSON: it breaks off or goes wrong at " + line_and_column(text, counter.stopped_at()) +
            ".");
  }
  return Json::parse(text, nullptr, false);
}

std::string JsonAt::named() const { return place_.empty() ? "The whole of it" : "The value " + excerpt(place_, 80); }

void JsonAt::refuse(Errc code, const std::string& is) const {
  throw JsonRefused{{code, short_enough(named() + " " + is + "."), place_}};
}

JsonAt JsonAt::at(const std::string& key) const {
  if (!json_->is_object()) refuse(Errc::bad_file, "should hold named values");
  const auto found = json_->find(key);
  const std::string place = place_.empty() ? key : place_ + "/" + key;
  if (found == json_->end()) JsonAt(*json_, place).refuse(Errc::bad_file, "is missing");
  return {*found, place};
}

JsonAt JsonAt::at(std::size_t index) const {
  const std::string place = (place_.empty() ? "" : place_ + "/") + std::to_string(index + 1);
  if (!json_->is_array()) refuse(Errc::bad_file, "should be a list");
  if (index >= json_->size()) JsonAt(*json_, place).refuse(Errc::bad_file, "is missing");
  return {(*json_)[index], place};
}

std::optional<JsonAt> JsonAt::find(const std::string& key) const {
  if (!has(key)) return std::nullopt;
  return at(key);
}

std::vector<JsonAt> JsonAt::all() const {
  if (!json_->is_array()) refuse(Errc::bad_file, "should be a list");
  std::vector<JsonAt> list;
  for (std::size_t i = 0; i < json_->size(); ++i) list.push_back(at(i));
  return list;
}

std::vector<std::pair<std::string, JsonAt>> JsonAt::items() const {
  if (!json_->is_object()) refuse(Errc::bad_file, "should hold named values");
  std::vector<std::pair<std::string, JsonAt>> list;
  for (const auto& [key, value] : json_->items())
    list.push_back({key, JsonAt(value, place_.empty() ? key : place_ + "/" + key)});
  return list;
}

double JsonAt::number(double least, double most) const {
  if (!json_->is_number()) refuse(Errc::not_a_number, "is not a number");
  const double value = json_->get<double>();
  if (std::isfinite(value) && value >= least && value <= most) return value;
  refuse(Errc::out_of_range, "is " + fixed(value, 2) + ", outside " + fixed(least, 0) + " to " + fixed(most, 0));
}

int JsonAt::whole(int least, int most) const {
  if (!json_->is_number()) refuse(Errc::not_a_number, "is not a number");
  const double value = json_->get<double>();
  if (std::isfinite(value) && value != std::floor(value))
    refuse(Errc::not_a_number, "is " + fixed(value, 3) + ", not a whole number");
  if (value >= least && value <= most) return static_cast<int>(value);
  refuse(Errc::out_of_range,
      "is " + fixed(value, 0) + ", outside " + std::to_string(least) + " to " + std::to_string(most));
}

bool JsonAt::flag() const {
  if (!json_->is_boolean()) refuse(Errc::bad_file, "is neither true nor false");
  return json_->get<bool>();
}

std::string JsonAt::text(std::size_t most) const {
  if (!json_->is_string()) refuse(Errc::bad_file, "is not a text");
  const auto& value = json_->get_ref<const std::string&>();
  if (value.size() > most)
    refuse(Errc::too_large,
        "is a text of " + std::to_string(value.size()) + " letters; " + std::to_string(most) + " are the most");
  return value;
}

}  // namespace awl
