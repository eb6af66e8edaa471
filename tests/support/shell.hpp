#pragma once
#include <sstream>
#include <string>
#include <vector>

#include "cli/cli.hpp"
#include "core/base/json_reader.hpp"

namespace awl::test {

/// What the command line said.
struct Ran {
  int code;
  std::string out, err;
  Json json() const { return Json::parse(out); }
};

inline Ran run(std::vector<std::string> words) {
  words.insert(words.begin(), "noggin-awl-cli");
  std::vector<const char*> argv;
  for (const auto& w : words) argv.push_back(w.c_str());
  std::ostringstream out, err;
  const int code = runCommand(static_cast<int>(argv.size()), argv.data(), out, err);
  return {code, out.str(), err.str()};
}

}  // namespace awl::test
