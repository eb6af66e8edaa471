#pragma once
#include <stdexcept>
#include <string>
#include <tl/expected.hpp>
#include <utility>

namespace awl {

/// What kind of expected failure happened; the sentence for the maker is in Error::text.
enum class Errc {
  not_a_number,
  wrong_unit,
  out_of_range,
  empty_input,
  degenerate_shape,
  bad_file,
  newer_file,
  cannot_read,
  cannot_write,
  locked,
  not_a_disk,
  overlap,
  no_solution,
  unknown_name,
  too_large,
  changed_elsewhere,
  cancelled,
  internal,
};

/// Short stable name of a code, as the command line prints it.
const char* name_of(Errc code);

/// An expected failure: one sentence with the value and the limit, and the place it concerns.
struct Error {
  Errc code = Errc::no_solution;
  std::string text;
  std::string where;
  bool operator==(const Error&) const = default;
};

template <class T>
using Result = tl::expected<T, Error>;

/// Longest sentence a maker is shown, in bytes; what is longer is cut in its middle.
inline constexpr std::size_t kLongestSentence = 400;
std::string short_enough(std::string sentence);

inline tl::unexpected<Error> fail(Errc code, std::string text, std::string where = {}) {
  return tl::make_unexpected(Error{code, short_enough(std::move(text)), std::move(where)});
}
/// Hands an error on.
inline tl::unexpected<Error> fail(Error error) { return tl::make_unexpected(std::move(error)); }
template <class T>
tl::unexpected<Error> fail(const Result<T>& failed) {
  return fail(failed.error());
}

/// A caller's bug. Thrown also in release builds and caught only at the top of a program.
struct ContractViolation : std::logic_error {
  using std::logic_error::logic_error;
};

/// Checks a promise between callers; never used for input from outside.
inline void expects(bool promise, const char* what) {
  if (!promise) throw ContractViolation(what);
}

}  // namespace awl
