// The house rules that a program can check: who includes whom, and how long files and functions may be.
#include <algorithm>
#include <array>
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>
#include <sstream>

namespace fs = std::filesystem;

namespace {

const fs::path kRoot = NOGGIN_AWL_SOURCE;

std::vector<fs::path> sources(const fs::path& below) {
  std::vector<fs::path> found;
  for (const auto& entry : fs::recursive_directory_iterator(kRoot / below))
    if (entry.path().extension() == ".cpp" || entry.path().extension() == ".hpp") found.push_back(entry.path());
  std::sort(found.begin(), found.end());
  return found;
}

std::vector<std::string> lines_of(const fs::path& path) {
  std::ifstream in(path);
  std::vector<std::string> lines;
  for (std::string line; std::getline(in, line);) lines.push_back(line);
  return lines;
}

/// Characters of UTF-8, not bytes.
long columns_of(const std::string& line) {
  return std::count_if(line.begin(), line.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; });
}

/// "core/head", "print", "app" ... of a path below src.
std::string place_of(const std::string& relative) {
  std::istringstream in(relative);
  std::string first, second;
  std::getline(in, first, '/');
  std::getline(in, second, '/');
  return first == "core" ? first + "/" + second : first;
}

struct Function {
  fs::path file;
  int line = 0, length = 0;
};

/// Functions by counting braces: a block with a parameter list before it, in nothing but namespaces and types.
std::vector<Function> functions_in(const fs::path& path) {
  std::vector<Function> found;
  std::vector<bool> is_scope;
  int function_at = -1;
  std::size_t function_depth = 0;
  std::string header;
  const auto lines = lines_of(path);
  static const std::regex noise(R"("(\\.|[^"\\])*"|'(\\.|[^'\\])'|//.*)");
  static const std::regex scope(R"((^|[\s;}])(namespace|class|struct|enum|union|extern)\b)");
  for (int i = 0; i < static_cast<int>(lines.size()); ++i) {
    const std::string line = std::regex_replace(lines[i], noise, "\"\"");
    for (const char c : line) {
      if (c == '{') {
        const bool opens_scope = std::regex_search(header, scope) && header.find('(') == std::string::npos;
        if (!opens_scope && function_at < 0 && header.find('(') != std::string::npos)
          function_at = i, function_depth = is_scope.size();
        is_scope.push_back(opens_scope);
        header.clear();
      } else if (c == '}') {
        if (!is_scope.empty()) is_scope.pop_back();
        if (function_at >= 0 && is_scope.size() == function_depth) {
          found.push_back({path, function_at + 1, i - function_at + 1});
          function_at = -1;
        }
        header.clear();
      } else if (c == ';') {
        header.clear();
      } else {
        header += c;
      }
    }
    header += ' ';
  }
  return found;
}

}  // namespace

TEST_CASE("an area includes only areas above it, and arrows point down", "[rules]") {
  const std::vector<std::string> order{"core/base", "core/geom", "core/stuff", "core/head", "core/form", "core/seam",
      "core/piece", "core/make", "core/stock", "core/dress", "core/fit", "core/coat", "core/builds", "core/derived",
      "core/judge", "core/chain", "core/steps", "core/io"};
  const auto rank = [&](const std::string& place) {
    return std::find(order.begin(), order.end(), place) - order.begin();
  };
  const std::regex include(R"re(#include "([a-z]+/[^"]+)")re");
  int checked = 0;
  for (const fs::path& path : sources("src")) {
    const std::string from = place_of(fs::relative(path, kRoot / "src").string());
    for (const std::string& line : lines_of(path)) {
      std::smatch match;
      if (!std::regex_search(line, match, include)) continue;
      const std::string to = place_of(match[1]);
      CAPTURE(path.string(), line);
      ++checked;
      if (from.rfind("core/", 0) == 0) {
        REQUIRE(rank(to) < static_cast<long>(order.size()));
        CHECK(rank(to) <= rank(from));
      } else if (from == "print") {
        CHECK((to == "print" || to.rfind("core/", 0) == 0));
      } else {
        CHECK((to == from || to == "print" || to.rfind("core/", 0) == 0));
      }
    }
  }
  CHECK(checked > 200);
}

TEST_CASE("the core links no Qt", "[rules]") {
  const std::regex qt(R"(#include <Q[A-Z]|#include <Qt)");
  for (const fs::path& path : sources("src/core"))
    for (const std::string& line : lines_of(path)) {
      CAPTURE(path.string(), line);
      REQUIRE_FALSE(std::regex_search(line, qt));
    }
}

TEST_CASE("a station is named only in its own folder and in the list of all", "[rules]") {
  for (const fs::path& path : sources("src/app")) {
    const std::string at = fs::relative(path, kRoot / "src").string();
    if (at == "app/shell/stations.cpp") continue;
    const std::string own = "#include \"" + fs::path(at).parent_path().string() + "/";
    for (const std::string& line : lines_of(path)) {
      CAPTURE(path.string(), line);
      if (line.find("#include \"app/stations/") != std::string::npos) CHECK(line.starts_with(own));
    }
  }
}

TEST_CASE("within the window arrows point from shell to stations to what they are made of", "[rules]") {
  const std::vector<std::string> order{
      "app/desk", "app/widgets", "app/stand", "app/mat", "app/station", "app/stations", "app/shell", "app"};
  const std::regex include(R"re(#include "(app/[^"]+)")re");
  const auto rank = [&](const std::string& file) {
    std::string folder = fs::path(file).parent_path().string();
    if (folder.starts_with("app/stations")) folder = "app/stations";
    return std::find(order.begin(), order.end(), folder) - order.begin();
  };
  int checked = 0;
  for (const fs::path& path : sources("src/app")) {
    const std::string from = fs::relative(path, kRoot / "src").string();
    for (const std::string& line : lines_of(path)) {
      std::smatch match;
      if (!std::regex_search(line, match, include)) continue;
      CAPTURE(from, line);
      REQUIRE(rank(match[1]) < static_cast<long>(order.size()));
      CHECK(rank(match[1]) <= rank(from));
      ++checked;
    }
  }
  CHECK(checked > 100);
}

TEST_CASE("files stay under 600 lines", "[rules]") {
  std::vector<std::size_t> lengths;
  for (const char* below : {"src", "tools", "bench", "tests"})
    for (const fs::path& path : sources(below)) {
      lengths.push_back(lines_of(path).size());
      CAPTURE(path.string());
      CHECK(lengths.back() <= 600);
    }
  std::sort(lengths.begin(), lengths.end());
  CHECK(lengths[lengths.size() / 2] <= 200);
}

TEST_CASE("no line is over 120 columns", "[rules]") {
  for (const char* below : {"src", "tools", "bench", "tests"})
    for (const fs::path& path : sources(below)) {
      const auto lines = lines_of(path);
      for (std::size_t i = 0; i < lines.size(); ++i)
        if (columns_of(lines[i]) > 120) FAIL_CHECK(path.string() << ":" << i + 1);
    }
}

TEST_CASE("no folder of the core holds more than 25 files, headers and sources counted by name", "[rules]") {
  std::map<std::string, std::set<std::string>> names;
  for (const fs::path& path : sources("src/core")) names[path.parent_path().string()].insert(path.stem().string());
  for (const auto& [folder, files] : names) {
    CAPTURE(folder);
    CHECK(files.size() <= 25);
  }
}

TEST_CASE("functions stay short: median under 10 lines, 95 of 100 under 50, none over 80", "[rules]") {
  std::vector<int> lengths;
  for (const char* below : {"src", "tools", "bench"})
    for (const fs::path& path : sources(below))
      for (const Function& f : functions_in(path)) {
        lengths.push_back(f.length);
        CAPTURE(f.file.string(), f.line, f.length);
        CHECK(f.length <= 80);
      }
  REQUIRE(lengths.size() > 400);
  std::sort(lengths.begin(), lengths.end());
  CHECK(lengths[lengths.size() / 2] < 10);
  CHECK(lengths[lengths.size() * 95 / 100] < 50);
}

TEST_CASE("every source that CMake should build is listed, by its whole path", "[rules]") {
  const std::pair<const char*, const char*> lists[] = {{"src/core", "src/core/CMakeLists.txt"},
      {"src/print", "src/print/CMakeLists.txt"}, {"src/cli", "src/cli/CMakeLists.txt"},
      {"src/app", "src/app/CMakeLists.txt"}, {"tests", "tests/CMakeLists.txt"}, {"bench", "bench/CMakeLists.txt"},
      {"tools", "tools/CMakeLists.txt"}};
  for (const auto& [below, list] : lists) {
    std::string text;
    for (const std::string& line : lines_of(kRoot / list)) text += " " + line + " ";
    for (const fs::path& path : sources(below)) {
      if (path.extension() != ".cpp") continue;
      const std::string relative = fs::relative(path, kRoot / below).string();
      CAPTURE(list, relative);
      // A whole word: "cover.cpp" is not found in "form/cover.cpp".
      const bool listed = std::regex_search(
          text, std::regex("[\\s(]" + std::regex_replace(relative, std::regex("\\."), "\\.") + "[\\s)]"));
      CHECK(listed);
    }
  }
}

TEST_CASE("numbers are read in one way, which no locale changes", "[rules]") {
  const std::regex bare(
      R"(\b(ato[filq]|atoll|strto(d|f|l|ul)|sto([idlf]|ul|ll|ull|ld)|sscanf|as_double|as_float)\s*\()");
  const std::regex noise(R"("(\\.|[^"\\])*"|//.*)");
  const std::array roots{"ato", "sto", "strto", "sscanf", "as_double", "as_float"};  // a look before the slow search
  std::size_t lines = 0;
  for (const char* where : {"src", "tests", "bench"})
    for (const fs::path& path : sources(where))
      for (const std::string& line : lines_of(path)) {
        ++lines;
        if (std::none_of(
                roots.begin(), roots.end(), [&](const char* root) { return line.find(root) != std::string::npos; }))
          continue;
        if (!std::regex_search(std::regex_replace(line, noise, "\"\""), bare)) continue;
        FAIL_CHECK(path.string() << ": " << line);
      }
  CHECK(lines > 40000);
}

TEST_CASE("files are written in one way, which knows whether the bytes arrived", "[rules]") {
  const std::regex other(R"(\b(std::ofstream|std::fopen|QSaveFile)\b)");
  for (const fs::path& path : sources("src")) {
    if (path.filename() == "data_files.cpp") continue;
    for (const std::string& line : lines_of(path)) {
      CAPTURE(path.string(), line);
      CHECK_FALSE(std::regex_search(line, other));
    }
  }
}
