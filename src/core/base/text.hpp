#pragma once
#include <optional>
#include <string>
#include <string_view>

#include "core/base/result.hpp"

namespace awl {

/// The one way of reading numbers: '.' is the point whatever the locale, and the whole text is the number.
///
/// Errors: not_a_number quoting the text; infinity and what is no number are refused alike.
Result<double> number_in(std::string_view text);
/// The same for whole numbers that fit in 32 bits. Errors: not_a_number; out_of_range.
Result<int> whole_in(std::string_view text);

/// Takes a finite number off the front of `rest`; none, and `rest` as it was, if there is none.
std::optional<double> take_number(std::string_view& rest);

/// A line taken word by word, split at white space.
class Words {
 public:
  explicit Words(std::string_view text) : rest_(text) {}
  /// The next word; empty at the end.
  std::string_view next();
  /// Errors: those of number_in and whole_in; empty_input at the end.
  Result<double> number();
  Result<int> whole();
  /// All that is left, without the white space before it.
  std::string_view rest();
  bool at_end();

 private:
  std::string_view rest_;
};

/// A text short enough to stand in a sentence: the first `most` characters and an ellipsis, never half a character.
std::string excerpt(std::string_view text, std::size_t most = 60);
/// The same between quotation marks.
std::string in_quotes(std::string_view text, std::size_t most = 60);

/// A cell of a CSV table, between quotation marks, those in it doubled.
std::string csv_field(std::string_view text);

/// Where the first byte stands that is not UTF-8; npos if all of it is.
std::size_t first_not_utf8(std::string_view text);

/// The text as UTF-8: what is not is taken for Latin-1, so that an old entry stays readable.
std::string in_utf8(std::string text);

/// Errors: bad_file naming line and character of the first byte that is not UTF-8. `what` begins the sentence.
Result<void> check_utf8(std::string_view text, const std::string& what);

}  // namespace awl
