#pragma once
#include <string>
#include <vector>

#include "core/base/json_reader.hpp"
#include "core/base/random.hpp"

namespace awl::fuzz {

/// Spoils text and bytes as damage, slips and malice do: the same spoiling for the same seed.
class Mutator {
 public:
  explicit Mutator(std::uint64_t seed) : random_(seed) {}

  std::uint64_t below(std::uint64_t n) { return n == 0 ? 0 : random_.next() % n; }
  bool one_in(std::uint64_t n) { return below(n) == 0; }

  /// One to several changes of bytes: flipped, cut short, doubled, moved, replaced by numbers and words that hurt.
  std::string bytes(std::string text) {
    const std::uint64_t changes = 1 + (one_in(3) ? below(6) : 0);
    for (std::uint64_t i = 0; i < changes; ++i) change(text);
    return text;
  }

  /// One to three values of JSON changed in kind, size or place.
  Json json(Json whole) {
    const std::uint64_t changes = 1 + (one_in(3) ? below(3) : 0);
    for (std::uint64_t i = 0; i < changes; ++i) {
      const Json flat = whole.flatten();
      if (flat.empty()) return whole;
      auto at = flat.begin();
      std::advance(at, static_cast<long>(below(flat.size())));
      Json::json_pointer place(at.key());
      // Now and then what holds the value, so that lists and objects are lost as well.
      for (std::uint64_t up = below(6); up < 2 && !place.empty(); ++up) place = place.parent_pointer();
      spoil(whole[place]);
    }
    return whole;
  }

 private:
  void change(std::string& text) {
    const std::uint64_t at = below(text.size() + 1);
    switch (below(9)) {
      case 0:
        if (!text.empty()) text[at % text.size()] = static_cast<char>(random_.next());
        break;
      case 1:
        text.resize(at);
        break;
      case 2:
        text.insert(at, text.substr(below(text.size() + 1), 1 + below(64)));
        break;
      case 3:
        text.erase(at, 1 + below(16));
        break;
      case 4:
        text.insert(at, words()[below(words().size())]);
        break;
      case 5:
        replace_number(text, at);
        break;
      case 6:
        text.insert(at, std::string(1 + below(200), words()[below(words().size())][0]));
        break;
      case 7:
        if (text.size() > 8)
          std::swap_ranges(text.begin(), text.begin() + static_cast<long>(text.size() / 4),
              text.begin() + static_cast<long>(text.size() / 2));
        break;
      default:
        for (int k = 0; k < 4 && at + static_cast<std::uint64_t>(k) < text.size(); ++k)
          text[at + static_cast<std::uint64_t>(k)] = static_cast<char>(0xFF);
    }
  }

  /// The run of digits nearest behind a place becomes another number.
  void replace_number(std::string& text, std::uint64_t from) {
    const std::size_t begin = text.find_first_of("0123456789", from);
    if (begin == std::string::npos) return;
    const std::size_t end = text.find_first_not_of("0123456789.", begin);
    text.replace(begin, (end == std::string::npos ? text.size() : end) - begin, numbers()[below(numbers().size())]);
  }

  void spoil(Json& value) {
    switch (below(10)) {
      case 0:
        value = nullptr;
        break;
      case 1:
        value = true;
        break;
      case 2:
        value = -1;
        break;
      case 3:
        value = *number_of(numbers()[below(numbers().size())]);
        break;
      case 4:
        value = words()[below(words().size())];
        break;
      case 5:
        value = Json::array();
        break;
      case 6:
        value = Json::object();
        break;
      case 7:
        if (value.is_array() && !value.empty())
          value.push_back(value[0]);
        else
          value = Json::array({value, value});
        break;
      case 8:
        if (value.is_number()) value = value.get<double>() * (one_in(2) ? 1.01 : -3.0);
        break;
      default:
        value = std::string(below(3000), 'n');
    }
  }

  static std::optional<Json> number_of(const std::string& text) {
    const Json json = Json::parse(text, nullptr, false);
    return json.is_discarded() ? Json(0.5) : json;
  }
  static const std::vector<std::string>& numbers() {
    static const std::vector<std::string> all{"0", "-1", "1e308", "-1e308", "1e-308", "4294967299", "2147483648",
        "9.2e18", "0.1", "99999999999999999999", "1e999", "3.5", "nan", "65536", "-0"};
    return all;
  }
  static const std::vector<std::string>& words() {
    static const std::vector<std::string> all{"\n", "\r", "\"", "(", "-", ",", ";", "{", "[", "\xFF", "\xEB",
        "\xC3\x28", std::string(1, '\0'), "f ", "v ", "nan", "inf", "vertex", "\t", "endloop", "../", "%s%n", "1/0",
        "'"};
    return all;
  }

  Random random_;
};

}  // namespace awl::fuzz
