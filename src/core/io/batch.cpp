#include "core/io/batch.hpp"

#include <set>

#include "core/base/data_files.hpp"
#include "core/base/text.hpp"
#include "core/io/build_file.hpp"
#include "core/io/drawing_file.hpp"

namespace awl {

Build for_wearer(const Build& build, const NamedSheet& wearer) {
  Build next = build;
  next.tape = wearer.sheet, next.wearer = wearer.wearer, next.built.clear(), next.scan = {}, next.fit_to_built = false;
  return next;
}

std::vector<std::string> names_for(const std::vector<NamedSheet>& wearers) {
  constexpr std::size_t kMostLetters = 60;  // some disks hold no longer names than 255 bytes, endings included
  std::vector<std::string> names;
  std::set<std::string> used;
  for (const NamedSheet& w : wearers) {
    std::string plain = w.wearer.empty() ? "nobody" : excerpt(w.wearer, kMostLetters);
    for (char& c : plain)
      if (c == '/' || c == '\\' || c == '.') c = '-';
    // Nobody's build is written over another's, nor over one whose name happens to end in a number.
    std::string name = plain;
    for (int n = 2; !used.insert(name).second; ++n) name = plain + " " + std::to_string(n);
    names.push_back(name);
  }
  return names;
}

Result<Regraded> regrade(const Chain& chain, const Build& build, const Derived& before, const NamedSheet& wearer,
    const std::filesystem::path& stem, const Progress& progress) {
  const Build next = for_wearer(build, wearer);
  const Derived d = chain.derive(next, progress);
  if (d.error)
    return fail(d.error->code, d.error->code == Errc::cancelled ? d.error->text : wearer.wearer + ": " + d.error->text,
        d.error->where);
  Regraded made{wearer.wearer, stem.string() + ".noggin", stem.string() + ".svg", static_cast<int>(d.pieces->size()),
      d.layout->sheets, {}, d.remarks};
  if (before.pieces) made.changes = changes_between(*before.pieces, *d.pieces);
  if (auto saved = save_build(made.build, next); !saved) return fail(saved);
  if (auto saved = write_file_safely(made.sheets, sheets_svg(*d.pieces, *d.layout, next.name)); !saved)
    return fail(saved);
  return made;
}

}  // namespace awl
