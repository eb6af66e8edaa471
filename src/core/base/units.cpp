#include "core/base/units.hpp"

#include <cctype>
#include <charconv>
#include <cmath>
#include <numeric>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

struct Quantity {
  double value = 0.0;
  bool is_length = false;  // true: value is in millimetres
};

constexpr std::size_t kMostTyped = 200;  // brackets and signs nest, so this bounds how deep reading goes

/// Recursive-descent reader of one length expression.
class LengthReader {
 public:
  LengthReader(std::string_view text, LengthUnit shown) : text_(text), shown_(shown) {}

  Result<double> read() {
    if (text_.size() > kMostTyped)
      return fail(Errc::too_large,
          "A length of " + std::to_string(text_.size()) + " characters is none; up to " + std::to_string(kMostTyped) +
              " are read.");
    skip_space();
    if (at_end()) return fail(Errc::empty_input, "Nothing was typed; a length is wanted, for example 57 cm.");
    auto sum = read_sum();
    if (!sum) return fail(sum);
    skip_space();
    if (!at_end()) return unreadable();
    if (!sum->is_length) sum->value *= trailing_only_unit_.value_or(mm_per(shown_)), sum->is_length = true;
    if (!std::isfinite(sum->value)) return fail(Errc::not_a_number, typed() + " does not come to a number.");
    return sum->value;
  }

 private:
  bool at_end() const { return at_ >= text_.size(); }
  char peek() const { return at_end() ? '\0' : text_[at_]; }
  void skip_space() {
    while (!at_end() && std::isspace(static_cast<unsigned char>(peek()))) ++at_;
  }
  bool take(char wanted) {
    skip_space();
    if (peek() != wanted) return false;
    ++at_;
    return true;
  }
  std::string typed() const { return awl::in_quotes(text_); }
  tl::unexpected<Error> unreadable() const {
    return fail(Errc::not_a_number,
        typed() + " cannot be read as a length from character " + std::to_string(at_ + 1) +
            " on; type for example 57 cm, 22 1/2 in or 2*6+3.");
  }

  Result<Quantity> read_sum() {
    auto sum = read_product();
    while (sum) {
      skip_space();
      const char op = peek();
      const bool juxtaposed = sum->is_length && (std::isdigit(static_cast<unsigned char>(op)) != 0);
      if (op != '+' && op != '-' && !juxtaposed) break;
      if (!juxtaposed) ++at_;
      auto next = read_product();
      if (!next) return next;
      add(*sum, *next, op == '-' ? -1.0 : 1.0);
    }
    return sum;
  }

  void add(Quantity& sum, Quantity next, double sign) const {
    if (sum.is_length != next.is_length) {
      Quantity& plain = sum.is_length ? next : sum;
      plain = {plain.value * mm_per(shown_), true};
    }
    sum.value += sign * next.value;
  }

  Result<Quantity> read_product() {
    auto product = read_signed();
    while (product) {
      const bool times = take('*');
      if (!times && !take('/')) break;
      auto next = read_signed();
      if (!next) return next;
      if (next->is_length && (product->is_length || !times))
        return fail(
            Errc::wrong_unit, typed() + " multiplies or divides by a length; only plain numbers may scale one.");
      product->value = times ? product->value * next->value : product->value / next->value;
      product->is_length = product->is_length || next->is_length;
    }
    return product;
  }

  Result<Quantity> read_signed() {
    if (take('-')) {
      auto value = read_signed();
      if (value) value->value = -value->value;
      return value;
    }
    if (!take('(')) return read_number();
    auto inner = read_sum();
    if (!inner) return inner;
    if (!take(')')) return unreadable();
    return with_unit(*inner);
  }

  std::optional<double> digits() {
    skip_space();
    std::size_t end = at_;
    std::string number;
    for (; end < text_.size(); ++end) {
      const char c = text_[end];
      if (std::isdigit(static_cast<unsigned char>(c)))
        number += c;
      else if ((c == '.' || c == ',') && number.find('.') == std::string::npos)
        number += '.';
      else
        break;
    }
    if (number.empty() || number == ".") return std::nullopt;
    at_ = end;
    double value = 0.0, scale = 1.0;
    bool fraction = false;
    for (const char c : number) {
      if (c == '.')
        fraction = true;
      else
        value = value * 10.0 + (c - '0'), scale *= fraction ? 10.0 : 1.0;
    }
    return value / scale;
  }

  /// A number, a fraction like `3/4` or a mixed one like `22 1/2`, with its unit if one follows.
  Result<Quantity> read_number() {
    const auto whole = digits();
    if (!whole) return skip_space(), unreadable();
    double value = *whole;
    const std::size_t after_whole = at_;
    const bool spaced = std::isspace(static_cast<unsigned char>(peek())) != 0;
    const auto top = spaced ? digits() : std::nullopt;
    const auto bottom = take('/') ? digits() : std::nullopt;
    if (bottom && *bottom == 0.0) return unreadable();
    if (bottom)
      value = top ? value + *top / *bottom : value / *bottom;
    else
      at_ = after_whole;
    return with_unit({value, false});
  }

  Result<Quantity> with_unit(Quantity quantity) {
    const std::size_t before = at_;
    skip_space();
    std::string word;
    while (!at_end() && (std::isalpha(static_cast<unsigned char>(peek())) || peek() == '"' || peek() == '\''))
      word += static_cast<char>(std::tolower(static_cast<unsigned char>(text_[at_++])));
    if (word.empty()) return at_ = before, quantity;
    const double scale = scale_of(word);
    if (scale == 0.0)
      return fail(Errc::wrong_unit,
          "The unit " + awl::in_quotes(word, 20) + " in " + typed() + " is not known; use mm, cm, m, in or ft.");
    if (quantity.is_length) return fail(Errc::wrong_unit, typed() + " gives two units to one number.");
    skip_space();
    if (at_end() && !seen_unit_ && saw_plain_before(before)) {
      trailing_only_unit_ = scale;
      return quantity;
    }
    seen_unit_ = true;
    return Quantity{quantity.value * scale, true};
  }

  /// True when an operator stands before this number: then a lone last unit is meant for the whole.
  bool saw_plain_before(std::size_t end) const {
    return text_.substr(0, end).find_first_of("+-*/", 1) != std::string_view::npos;
  }

  static double scale_of(const std::string& word) {
    if (word == "mm") return 1.0;
    if (word == "cm") return 10.0;
    if (word == "m") return 1000.0;
    if (word == "in" || word == "inch" || word == "inches" || word == "\"" || word == "''") return 25.4;
    if (word == "ft" || word == "'") return 304.8;
    return 0.0;
  }

  std::string_view text_;
  LengthUnit shown_;
  std::size_t at_ = 0;
  bool seen_unit_ = false;
  std::optional<double> trailing_only_unit_;
};

std::string inch_text(double inches) {
  const long sixteenths = std::lround(std::abs(inches) * 16.0);
  const long whole = sixteenths / 16, rest = sixteenths % 16;
  std::string text = inches < 0 && sixteenths > 0 ? "-" : "";
  if (whole > 0 || rest == 0) text += std::to_string(whole);
  if (rest == 0) return text;
  const long common = std::gcd(rest, 16L);
  return text + (whole > 0 ? " " : "") + std::to_string(rest / common) + "/" + std::to_string(16 / common);
}

}  // namespace

std::string fixed(double value, int decimals) {
  constexpr double kTooLongToWrite = 1e15;
  char buffer[64];
  if (!std::isfinite(value)) return std::isnan(value) ? "no number" : value < 0.0 ? "-infinity" : "infinity";
  const double unit = std::pow(10.0, decimals);
  const double rounded = std::round(value * unit) / unit;
  const bool plain = std::abs(value) < kTooLongToWrite;
  const auto end = plain ? std::to_chars(buffer, buffer + sizeof buffer, rounded == 0.0 ? 0.0 : rounded,
                               std::chars_format::fixed, decimals)
                               .ptr
                         : std::to_chars(buffer, buffer + sizeof buffer, value, std::chars_format::scientific, 1).ptr;
  return {buffer, end};
}

double mm_per(LengthUnit unit) { return unit == LengthUnit::mm ? 1.0 : unit == LengthUnit::cm ? 10.0 : 25.4; }

const char* symbol_of(LengthUnit unit) { return unit == LengthUnit::mm ? "mm" : unit == LengthUnit::cm ? "cm" : "in"; }

Result<LengthUnit> unit_from_symbol(std::string_view symbol) {
  if (symbol == "mm") return LengthUnit::mm;
  if (symbol == "cm") return LengthUnit::cm;
  if (symbol == "in" || symbol == "inch") return LengthUnit::inch;
  return fail(Errc::wrong_unit, "The unit " + in_quotes(symbol, 20) + " is not known; use mm, cm or in.");
}

Result<double> parse_length(std::string_view text, LengthUnit shown) { return LengthReader(text, shown).read(); }

std::string format_length(double length_mm, LengthUnit shown, bool with_symbol) {
  const std::string tail = with_symbol ? std::string(" ") + symbol_of(shown) : std::string();
  if (shown == LengthUnit::inch) return inch_text(length_mm / 25.4) + tail;
  const double value = length_mm / mm_per(shown);
  const int decimals = shown == LengthUnit::cm ? 1 : (std::abs(value - std::round(value)) < 0.05 ? 0 : 1);
  return fixed(value, decimals) + tail;
}

}  // namespace awl
