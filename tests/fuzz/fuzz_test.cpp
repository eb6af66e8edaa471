#include <catch2/catch.hpp>

#include "core/base/data_files.hpp"
#include "fuzz/readers.hpp"

using namespace awl;

TEST_CASE("spoilt inputs of every kind are read or refused with a sentence", "[fuzz]") {
  for (const fuzz::Reader& reader : fuzz::readers()) {
    // What takes longer is fed less; hours of all of it are run by hand (noggin-awl-fuzz).
    const int count = reader.name == "noggin-derived"               ? 12
        : reader.name == "suggest"                                  ? 40
        : reader.name == "as-foam"                                  ? 60
        : reader.name == "scan-verb" || reader.name == "check-verb" ? 60
                                                                    : 400;
    int accepted = 0;
    for (int i = 0; i < count; ++i) {
      fuzz::Mutator mutator(9'000'000u + static_cast<std::uint64_t>(i));
      const fuzz::Verdict verdict = fuzz::run(reader, reader.make(mutator));
      CAPTURE(reader.name, i, verdict.seconds);
      REQUIRE(verdict.fault == "");
      accepted += verdict.accepted ? 1 : 0;
    }
    CAPTURE(reader.name, accepted);
    CHECK(accepted < count);
    // So few spoilt builds get past the archive and the checks that none may among so few.
    if (!reader.name.starts_with("noggin-")) CHECK(accepted > 0);
  }
}

TEST_CASE("inputs that once did harm do none", "[fuzz]") {
  const std::filesystem::path corpus = std::filesystem::path(NOGGIN_AWL_SOURCE) / "tests/fuzz/corpus";
  int read = 0;
  for (const fuzz::Reader& reader : fuzz::readers())
    for (const auto& entry : std::filesystem::directory_iterator(corpus)) {
      if (!entry.path().filename().string().starts_with(reader.name + "-")) continue;
      const auto bytes = read_file(entry.path());
      REQUIRE(bytes);
      CAPTURE(entry.path().string());
      CHECK(fuzz::run(reader, *bytes).fault == "");
      ++read;
    }
  CHECK(read > 0);
}
