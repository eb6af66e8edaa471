#pragma once
#include <catch2/catch.hpp>
#include <filesystem>
#include <string>
#include <unistd.h>

#include "core/base/data_files.hpp"
#include "core/base/random.hpp"
#include "core/chain/chain.hpp"

namespace awl::test {

/// Loaded once for a test program; all of it is immutable.
inline const HeadFitter& fitter() {
  static const auto loaded = HeadFitter::load(data_folder() / "headform");
  REQUIRE(loaded);
  return **loaded;
}

inline const std::shared_ptr<const Chain>& chain() {
  static const auto loaded = Chain::load(data_folder());
  REQUIRE(loaded);
  return *loaded;
}

inline const Materials& materials() { return chain()->materials(); }

/// Tapes of a usual, a very large and a child's head.
inline const MeasureSet kUsual{{MeasureId::HC, 566.0}, {MeasureId::HL, 196.0}, {MeasureId::HB, 153.0}};
inline const MeasureSet kHuge{{MeasureId::HC, 632.0}, {MeasureId::HL, 216.0}, {MeasureId::HB, 171.0}};
inline const MeasureSet kChild{{MeasureId::HC, 512.0}, {MeasureId::HL, 178.0}, {MeasureId::HB, 141.0}};

inline Build demo() { return demo_build(Day{20731}); }

/// The demo run through the whole chain, once for a test program.
inline const Derived& derived() {
  static const Derived d = chain()->derive(demo());
  REQUIRE(d.complete());
  return d;
}

/// The form alone: what comes after it is not waited for.
inline Derived formed(const Build& build) {
  Derived kept;
  bool there = false;
  (void)chain()->derive(build, Progress([&](double) { return !there; }), [&](const Derived& d) {
    if (d.form) kept = d, there = true;
  });
  return kept;
}

/// Measures of plausible random heads: modes drawn normally, cut at 2.2 sigma, inside the sane ranges.
class Subjects {
 public:
  explicit Subjects(std::uint64_t seed, const std::string& people = "adult")
      : random_(seed), centre_(&fitter().centre_for({{}, people, {}})) {}

  Coefficients coefficients() {
    Coefficients c;
    for (int k = 0; k < kModeCount; ++k) {
      double z = 3.0;
      while (std::abs(z) > 2.2) z = random_.normal();
      c[k] = z * mode_sd()[k];
    }
    return c;
  }

  MeasureVector next() {
    while (true) {
      const MeasureVector m = centre_->reads + centre_->jacobian * coefficients();
      bool sane = true;
      for (const MeasureFacts& f : measure_facts())
        sane = sane && check_measure(f.id, m[index_of(f.id)], fitter().populations(), centre_->people.id).has_value();
      if (sane) return m;
    }
  }

 private:
  Random random_;
  const Centre* centre_;
};

inline MeasureSet pick(const MeasureVector& all, std::initializer_list<MeasureId> ids) {
  MeasureSet set;
  for (const MeasureId id : ids) set[id] = all[index_of(id)];
  return set;
}

/// A folder of its own for each test, gone afterwards.
class TempFolder {
 public:
  TempFolder() {
    static int count = 0;
    path_ = std::filesystem::temp_directory_path() /
        ("noggin-awl-test-" + std::to_string(::getpid()) + "-" + std::to_string(++count));
    std::filesystem::create_directories(path_);
  }
  ~TempFolder() {
    std::error_code ignored;
    std::filesystem::remove_all(path_, ignored);
  }
  std::filesystem::path operator/(const std::string& name) const { return path_ / name; }
  const std::filesystem::path& path() const { return path_; }

 private:
  std::filesystem::path path_;
};

}  // namespace awl::test
