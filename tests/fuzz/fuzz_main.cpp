// Feeds every reader with spoilt inputs and tells what went wrong.
//   noggin-awl-fuzz [--reader NAME] [--seed N] [--count N] [--keep FOLDER]
// Without a reader named, those that go on to whole verbs and derivations get a twentieth of the count.
// Under address and undefined checks: cmake --preset asan, then build/asan/tests/noggin-awl-fuzz.
#include <sys/resource.h>

#include <cstdio>
#include <fstream>

#include "core/base/text.hpp"
#include "fuzz/readers.hpp"

using namespace awl;

namespace {

struct Asked {
  std::string reader, keep;
  int seed = 1, count = 1000;
};

Asked asked_of(int argc, char** argv) {
  Asked asked;
  for (int i = 1; i + 1 < argc; i += 2) {
    const std::string word = argv[i], value = argv[i + 1];
    if (word == "--reader") asked.reader = value;
    if (word == "--keep") asked.keep = value;
    if (word == "--seed") asked.seed = whole_in(value).value_or(1);
    if (word == "--count") asked.count = whole_in(value).value_or(1000);
  }
  return asked;
}

long megabytes() {
  rusage usage{};
  getrusage(RUSAGE_SELF, &usage);
  return usage.ru_maxrss / 1024;
}

/// Kept before it is read: an input that ends the program is still there afterwards.
void keep(const std::string& folder, const std::string& name, const std::string& bytes) {
  if (folder.empty()) return;
  std::ofstream(folder + "/" + name, std::ios::binary) << bytes;
}

int feed(const fuzz::Reader& reader, const Asked& asked) {
  int faults = 0, accepted = 0;
  double longest = 0.0;
  const int count = std::max(1, asked.count / (asked.reader.empty() ? reader.one_of : 1));
  for (int i = 0; i < count; ++i) {
    fuzz::Mutator mutator(static_cast<std::uint64_t>(asked.seed) * 1'000'003u + static_cast<std::uint64_t>(i));
    const std::string bytes = reader.make(mutator);
    keep(asked.keep, reader.name + "-now", bytes);
    const fuzz::Verdict verdict = fuzz::run(reader, bytes);
    accepted += verdict.accepted ? 1 : 0;
    longest = std::max(longest, verdict.seconds);
    if (i % 10'000 == 9'999)
      std::fprintf(stderr, "%s: %d of %d, %d faults\n", reader.name.c_str(), i + 1, count, faults);
    if (verdict.fault.empty()) continue;
    if (++faults <= 20)
      std::printf("%s seed %d input %d: %s\n", reader.name.c_str(), asked.seed, i, verdict.fault.c_str());
    keep(asked.keep, reader.name + "-" + std::to_string(asked.seed) + "-" + std::to_string(i), bytes);
  }
  std::printf("%-16s %d inputs, %d accepted, %d faults, longest %.2f s, %ld MB\n", reader.name.c_str(), count, accepted,
      faults, longest, megabytes());
  std::fflush(stdout);
  return faults;
}

}  // namespace

int main(int argc, char** argv) {
  std::setvbuf(stdout, nullptr, _IOLBF, BUFSIZ);  // a campaign that is stopped has told what it found
  const Asked asked = asked_of(argc, argv);
  int faults = 0;
  for (const fuzz::Reader& reader : fuzz::readers())
    if (asked.reader.empty() || asked.reader == reader.name) faults += feed(reader, asked);
  return faults == 0 ? 0 : 1;
}
