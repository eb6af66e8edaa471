#pragma once

#include <regex>
#include <string>
#include <vector>

#include "core/base/text.hpp"

namespace awl::test {

/// The numbers of a sentence from a place on, in their order; whatever the locale.
inline std::vector<double> numbers_in(const std::string& sentence, std::size_t from = 0) {
  static const std::regex number(R"(-?[0-9]+(\.[0-9]+)?)");
  const std::string text = sentence.substr(from);
  std::vector<double> found;
  for (std::sregex_iterator at(text.begin(), text.end(), number), end; at != end; ++at)
    found.push_back(number_in(at->str()).value());
  return found;
}

}  // namespace awl::test
