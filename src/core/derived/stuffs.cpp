#include "core/derived/stuffs.hpp"

#include <algorithm>

namespace awl {
namespace {

constexpr const char* kTemplates = "card";  // what paper nets are cut from

/// Whether a kind is only a help on the way: card for templates is neither glued into the part nor painted.
bool is_worn(const Part* part) { return part == nullptr || part->way.way != Way::net; }

class Collector {
 public:
  Collector(const Build& build, const Derived& d, const Materials& materials)
      : build_(build), d_(d), materials_(materials) {}

  Result<FinishWork> run() {
    work_.heated = build_.foam.heated;
    for (std::size_t i = 0; i < d_.form->parts.size(); ++i)
      if (auto good = add_span(static_cast<int>(i)); !good) return fail(good);
    if (auto good = count_pieces(); !good) return fail(good);
    return std::move(work_);
  }

 private:
  const Part* part_of(int span) const {
    return build_.making == Making::parts ? find_part(build_, d_.form->parts[span]->part) : nullptr;
  }

  StuffWork& of(const Foam& stuff) {
    const auto at = std::find_if(
        work_.stuffs.begin(), work_.stuffs.end(), [&](const StuffWork& w) { return w.stuff.id == stuff.id; });
    if (at != work_.stuffs.end()) return *at;
    work_.stuffs.push_back({stuff, {}, {}, false, false});
    return work_.stuffs.back();
  }

  void join(const Foam& one, const Foam& other, double seam_m) {
    for (JointWork& j : work_.joints)
      if ((j.one.id == one.id && j.other.id == other.id) || (j.one.id == other.id && j.other.id == one.id))
        return void(j.seam_m += seam_m);
    work_.joints.push_back({one, other, seam_m});
  }

  Result<void> add_span(int span) {
    const Part* part = part_of(span);
    const auto stuff = stuff_of_span(build_, d_, span, materials_);
    if (!stuff) return fail(stuff);
    if (!is_worn(part)) return {};
    StuffWork& work = of(*stuff);
    work.worn = true;
    work.parts.push_back(d_.form->parts[span]->name);
    work.size.area_m2 += d_.form->parts[span]->area_mm2 * 1e-6;
    double seam_m = 0.0;
    for (const Seam& s : d_.panels->seams)
      if (s.panels[0].valid() && d_.panels->panels[s.panels[0].value].part == span) seam_m += s.length_3d_mm / 1000.0;
    work.size.seam_m += seam_m;
    join(*stuff, *stuff, seam_m);
    const Part* below = part != nullptr && part->on != 0 ? find_part(build_, part->on) : nullptr;
    if (below == nullptr || !is_worn(below)) return {};
    const auto under = stuff_of(build_, d_, *below, materials_);
    if (!under) return fail(under);
    join(*stuff, *under, 0.0);
    return {};
  }

  Result<void> count_pieces() {
    for (const Piece& p : *d_.pieces) {
      const auto stuff = stuff_of(build_, p, materials_);
      if (!stuff) return fail(stuff);
      StuffWork& work = of(*stuff);
      work.size.pieces += p.copies;
      work.bent = work.bent || (!p.heat_note.empty() && p.heat_note != "stays flat");
    }
    return {};
  }

  const Build& build_;
  const Derived& d_;
  const Materials& materials_;
  FinishWork work_;
};

}  // namespace

Result<Foam> stuff_of(const Build& build, const Derived& d, const Part& part, const Materials& materials) {
  const bool made = std::any_of(d.ways.begin(), d.ways.end(), [&](const auto& w) { return w && w->part == part.id; });
  switch (made ? part.way.way : Way::skin) {
    case Way::slabs:
    case Way::carve:
      return materials.foam(part.way.block);
    case Way::net:
      return materials.foam(kTemplates);
    case Way::drawn:
      return materials.foam(part.way.sheet);
    case Way::skin:
      break;
  }
  if (!part.stuff.empty()) return materials.foam(part.stuff);
  return foam_of(build.foam, materials);
}

Result<Foam> stuff_of_span(const Build& build, const Derived& d, int span, const Materials& materials) {
  const bool parts = d.form && build.making == Making::parts && span < static_cast<int>(d.form->parts.size());
  const Part* part = parts ? find_part(build, d.form->parts[span]->part) : nullptr;
  return part != nullptr ? stuff_of(build, d, *part, materials) : foam_of(build.foam, materials);
}

Result<Foam> stuff_of(const Build& build, const Piece& piece, const Materials& materials) {
  return piece.stuff.empty() ? foam_of(build.foam, materials) : materials.foam(piece.stuff);
}

Result<FinishWork> finish_work(const Build& build, const Derived& derived, const Materials& materials) {
  return Collector(build, derived, materials).run();
}

}  // namespace awl
