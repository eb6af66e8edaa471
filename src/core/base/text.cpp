#include "core/base/text.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace awl {
namespace {

bool is_space(char c) { return c == ' ' || (c >= '\t' && c <= '\r'); }

std::string_view without_sign(std::string_view text) {
  const bool plus = text.size() > 1 && text[0] == '+' && text[1] != '-' && text[1] != '+';
  return plus ? text.substr(1) : text;
}

tl::unexpected<Error> no_number(std::string_view text) {
  if (text.empty()) return fail(Errc::empty_input, "A number is wanted, and there is none.");
  return fail(Errc::not_a_number, in_quotes(text) + " is no number.");
}

/// Bytes of the character that begins here, or 0 if it is not UTF-8. Source: The Unicode Standard, table 3-7.
std::size_t utf8_length(std::string_view t) {
  const auto byte = [&](std::size_t i) { return i < t.size() ? static_cast<unsigned char>(t[i]) : 0u; };
  const auto follows = [&](std::size_t i) { return (byte(i) & 0xC0u) == 0x80u; };
  const unsigned a = byte(0), b = byte(1);
  if (a < 0x80u) return 1;
  if (a < 0xC2u || a > 0xF4u || !follows(1)) return 0;
  if (a < 0xE0u) return 2;
  const bool overlong = (a == 0xE0u && b < 0xA0u) || (a == 0xF0u && b < 0x90u);
  const bool beyond = (a == 0xEDu && b > 0x9Fu) || (a == 0xF4u && b > 0x8Fu);
  if (overlong || beyond || !follows(2)) return 0;
  if (a < 0xF0u) return 3;
  return follows(3) ? 4 : 0;
}

}  // namespace

Result<double> number_in(std::string_view text) {
  std::string_view rest = text;
  const auto value = take_number(rest);
  if (!value || !rest.empty()) return no_number(text);
  return *value;
}

Result<int> whole_in(std::string_view text) {
  const std::string_view digits = without_sign(text);
  int value = 0;
  const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
  if (error == std::errc::result_out_of_range)
    return fail(Errc::out_of_range, in_quotes(text) + " is too large a number.");
  if (error != std::errc() || end != digits.data() + digits.size()) return no_number(text);
  return value;
}

std::optional<double> take_number(std::string_view& rest) {
  const std::string_view from = without_sign(rest);
  double value = 0.0;
  const auto [end, error] = std::from_chars(from.data(), from.data() + from.size(), value);
  if (error != std::errc() || !std::isfinite(value)) return std::nullopt;
  rest = from.substr(static_cast<std::size_t>(end - from.data()));
  return value;
}

std::string_view Words::rest() {
  rest_.remove_prefix(static_cast<std::size_t>(std::find_if_not(rest_.begin(), rest_.end(), is_space) - rest_.begin()));
  return rest_;
}

bool Words::at_end() { return rest().empty(); }

std::string_view Words::next() {
  const std::string_view from = rest();
  const auto length = static_cast<std::size_t>(std::find_if(from.begin(), from.end(), is_space) - from.begin());
  rest_.remove_prefix(length);
  return from.substr(0, length);
}

Result<double> Words::number() { return number_in(next()); }
Result<int> Words::whole() { return whole_in(next()); }

std::string excerpt(std::string_view text, std::size_t most) {
  std::string out;
  std::size_t at = 0;
  for (std::size_t count = 0; at < text.size() && count < most; ++count) {
    const std::size_t length = utf8_length(text.substr(at));
    // What is no character, or would break the line, is shown as a question mark.
    if (length == 0 || (length == 1 && static_cast<unsigned char>(text[at]) < 0x20))
      out += '?';
    else
      out += text.substr(at, length);
    at += std::max<std::size_t>(length, 1);
  }
  return at < text.size() ? out + "\u2026" : out;
}

std::string csv_field(std::string_view text) {
  std::string out = "\"";
  for (const char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
  return out + "\"";
}

std::string in_quotes(std::string_view text, std::size_t most) { return "\"" + excerpt(text, most) + "\""; }

std::size_t first_not_utf8(std::string_view text) {
  for (std::size_t at = 0; at < text.size();) {
    const std::size_t length = utf8_length(text.substr(at));
    if (length == 0) return at;
    at += length;
  }
  return std::string_view::npos;
}

std::string in_utf8(std::string text) {
  if (first_not_utf8(text) == std::string::npos) return text;
  std::string out;
  for (const char c : text) {
    const auto byte = static_cast<unsigned char>(c);
    if (byte < 0x80u)
      out += c;
    else
      out += {static_cast<char>(0xC0u | (byte >> 6)), static_cast<char>(0x80u | (byte & 0x3Fu))};
  }
  return out;
}

Result<void> check_utf8(std::string_view text, const std::string& what) {
  const std::size_t at = first_not_utf8(text);
  if (at == std::string_view::npos) return {};
  const std::string_view before = text.substr(0, at);
  const auto line = 1 + std::count(before.begin(), before.end(), '\n');
  const std::size_t begun = before.rfind('\n') == std::string_view::npos ? 0 : before.rfind('\n') + 1;
  const std::string column = std::to_string(at - begun + 1), number = std::to_string(line);
  return fail(Errc::bad_file,
      what + " is not in UTF-8: line " + number + ", character " + column +
          ". Save it as UTF-8 (Unicode) and try again.",
      "line " + number);
}

}  // namespace awl
