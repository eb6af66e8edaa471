#include "core/io/batch.hpp"

#include <map>

#include "core/base/data_files.hpp"
#include "core/io/build_file.hpp"
#include "core/io/drawing_file.hpp"

namespace awl {

Build for_wearer(const Build& build, const NamedSheet& wearer) {
  Build next = build;
  next.tape = wearer.sheet, next.wearer = wearer.wearer, next.built.clear(), next.scan = {}, next.fit_to_built = false;
  return next;
}

std::vector<std::string> names_for(const std::vector<NamedSheet>& wearers) {
  std::vector<std::string> names;
  std::map<std::string, int> used;
  for (const NamedSheet& w : wearers) {
    std::string name = w.wearer.empty() ? "nobody" : w.wearer;
    for (char& c : name)
      if (c == '/' || c == '\\' || c == '.') c = '-';
    if (const int count = ++used[name]; count > 1) name += " " + std::to_string(count);  // nobody's build is written over another's
    names.push_back(name);
  }
  return names;
}

Result<Regraded> regrade(const Chain& chain, const Build& build, const Derived& before, const NamedSheet& wearer, const std::filesystem::path& stem, const Progress& progress) {
  const Build next = for_wearer(build, wearer);
  const Derived d = chain.derive(next, progress);
  if (d.error) return fail(d.error->code, d.error->code == Errc::cancelled ? d.error->text : wearer.wearer + ": " + d.error->text, d.error->where);
  Regraded made{wearer.wearer, stem.string() + ".noggin", stem.string() + ".svg", static_cast<int>(d.pieces->size()), d.layout->sheets, {}, d.remarks};
  if (before.pieces) made.changes = changes_between(*before.pieces, *d.pieces);
  if (auto saved = save_build(made.build, next); !saved) return tl::make_unexpected(saved.error());
  if (auto saved = write_file_safely(made.sheets, sheets_svg(*d.pieces, *d.layout, next.name)); !saved) return tl::make_unexpected(saved.error());
  return made;
}

}  // namespace awl
