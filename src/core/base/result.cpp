#include "core/base/result.hpp"

namespace awl {

const char* name_of(Errc code) {
  switch (code) {
    case Errc::not_a_number:
      return "not_a_number";
    case Errc::wrong_unit:
      return "wrong_unit";
    case Errc::out_of_range:
      return "out_of_range";
    case Errc::empty_input:
      return "empty_input";
    case Errc::degenerate_shape:
      return "degenerate_shape";
    case Errc::bad_file:
      return "bad_file";
    case Errc::newer_file:
      return "newer_file";
    case Errc::cannot_read:
      return "cannot_read";
    case Errc::cannot_write:
      return "cannot_write";
    case Errc::locked:
      return "locked";
    case Errc::not_a_disk:
      return "not_a_disk";
    case Errc::overlap:
      return "overlap";
    case Errc::no_solution:
      return "no_solution";
    case Errc::unknown_name:
      return "unknown_name";
    case Errc::too_large:
      return "too_large";
    case Errc::changed_elsewhere:
      return "changed_elsewhere";
    case Errc::cancelled:
      return "cancelled";
    case Errc::internal:
      return "internal";
  }
  return "unknown";
}

std::string short_enough(std::string sentence) {
  if (sentence.size() <= kLongestSentence) return sentence;
  const auto begins_a_character = [&](std::size_t at) {
    return (static_cast<unsigned char>(sentence[at]) & 0xC0u) != 0x80u;
  };
  // The end is kept as well: it mostly says what will do instead.
  std::size_t head = kLongestSentence * 2 / 3, tail = sentence.size() - (kLongestSentence - head - 8);
  while (head > 0 && !begins_a_character(head)) --head;
  while (tail < sentence.size() && !begins_a_character(tail)) ++tail;
  return sentence.substr(0, head) + " \u2026 " + sentence.substr(tail);
}

}  // namespace awl
