#include "core/stuff/materials.hpp"

#include <algorithm>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr const char* kKinds[] = {
    "foam", "block", "board", "thermoplastic", "rigid", "clear", "card", "fabric", "mesh"};
constexpr const char* kHeats[] = {"yes", "outdoors", "never"};
constexpr const char* kSolvents[] = {"bears", "eaten", "fogged"};
constexpr const char* kPores[] = {"open", "closed", "soaks"};

/// One of a few words. Contract: in read_json.
template <class Value, std::size_t N>
Value word_from(const JsonAt& j, const char* const (&words)[N]) {
  const std::string word = j;
  std::string all;
  for (std::size_t i = 0; i < N; ++i) {
    if (word == words[i]) return static_cast<Value>(i);
    all += (i == 0 ? "" : ", ") + std::string(words[i]);
  }
  j.refuse(Errc::unknown_name, "is " + in_quotes(word, 30) + ", not one of " + all);
}

/// Facts that came later than some files.
void take_facts(Foam& f, const JsonAt& j) {
  f = with_usual_facts(std::move(f));
  if (const auto heat = j.find("heat")) f.heat = word_from<Heat>(*heat, kHeats);
  if (const auto solvent = j.find("solvent")) f.solvent = word_from<Solvent>(*solvent, kSolvents);
  if (const auto pores = j.find("pores")) f.pores = word_from<Pores>(*pores, kPores);
  if (const auto flex = j.find("flex")) f.flex = flex->whole(0, 3);
  f.cutting_caution = j.value("cutting_caution", "");
}

Json json_of(const Foam& f) {
  Json sold = Json::array(), taboos = Json::array();
  for (const SoldSheet& s : f.sold) sold.push_back({s.width_mm, s.height_mm, s.thickness_mm, s.price});
  for (const Taboo& t : f.taboos) taboos.push_back({{"what", t.what}, {"why", t.why}});
  return {{"id", f.id}, {"name", f.name}, {"kind", name_of(f.kind)}, {"thickness_mm", f.thickness_mm},
      {"density_kg_m3", f.density_kg_m3}, {"strain_cold", f.strain_cold}, {"strain_heated", f.strain_heated},
      {"bend_cold", f.bend_cold}, {"bend_heated", f.bend_heated}, {"heat_seal", f.heat_seal}, {"sands", f.sands},
      {"squeeze_stiffness", f.squeeze_stiffness}, {"keeps_bend_heated", f.keeps_bend_heated}, {"sold", sold},
      {"taboos", taboos}, {"seam_margin_mm", f.seam_margin_mm}, {"rim_margin_mm", f.rim_margin_mm},
      {"hole_margin_mm", f.hole_margin_mm}, {"forming_c", {f.forming_low_c, f.forming_high_c}},
      {"forming_caution", f.forming_caution}, {"light", f.light}, {"heat", name_of(f.heat)},
      {"solvent", name_of(f.solvent)}, {"pores", name_of(f.pores)}, {"flex", f.flex},
      {"cutting_caution", f.cutting_caution}};
}

std::vector<std::string> words_of(const JsonAt& j) {
  std::vector<std::string> words;
  for (const JsonAt& word : j.all()) words.push_back(word);
  return words;
}

Glue glue_of(const JsonAt& j) {
  Glue g{j.at("id"), j.at("name"), j.at("caution"), j.at("hands_min_per_m"), j.at("wait_min"), j.at("cure_min"),
      j.at("ml_per_m"), words_of(j.at("not_on")), j.at("base")};
  g.open_min = j.value("open_min", 0.0);
  return g;
}

Coating coating_of(const JsonAt& j) {
  const auto holds = j.find("holds");
  Coating c{j.at("id"), j.at("name"), j.value("kind", ""), j.at("caution"), j.at("coats"), j.at("hands_min_per_m2"),
      j.at("wait_min"), j.value("last_wait_min", j.at("wait_min").number()), j.at("ml_per_m2"),
      holds ? words_of(*holds) : std::vector<std::string>{}, j.value("base", "")};
  c.within_min = j.value("within_min", 0.0);
  c.or_after_min = j.value("or_after_min", 0.0);
  c.sand_between = j.value("sand_between", false);
  c.sprayed = j.value("sprayed", false);
  c.stretch = j.value("stretch", 2);
  c.needs = j.value("needs", "");
  c.can_ml = j.value("can_ml", 250.0);
  c.price = j.value("price", 0.0);
  c.density_g_ml = j.value("density_g_ml", 1.1);
  c.solids = j.value("solids", 0.4);
  return c;
}

/// What one of the shipped files holds, by `read`.
template <class Read>
Result<void> read_data(const std::filesystem::path& path, Read read) {
  const auto bytes = read_file(path);
  if (!bytes) return fail(bytes);
  const auto json = json_in(*bytes, "The file " + path.string());
  if (!json) return fail(json);
  const auto done = read_json(*json, "", [&](const JsonAt& j) { return read(j), true; });
  if (!done)
    return fail(Errc::bad_file, "The material data in " + path.string() + " is not complete: " + done.error().text,
        done.error().where);
  return {};
}

template <class T>
Result<T> find(const std::vector<T>& all, const std::string& id, const char* what) {
  for (const T& item : all)
    if (item.id == id) return item;
  return fail(Errc::unknown_name,
      "There is no " + std::string(what) + " called " + in_quotes(id) + " in the material data.", excerpt(id));
}

}  // namespace

const char* name_of(Heat heat) { return kHeats[static_cast<int>(heat)]; }
const char* name_of(Solvent solvent) { return kSolvents[static_cast<int>(solvent)]; }
const char* name_of(Pores pores) { return kPores[static_cast<int>(pores)]; }
const char* name_of(SheetKind kind) { return kKinds[static_cast<int>(kind)]; }

Result<SheetKind> sheet_kind_from(const std::string& name) {
  for (int i = 0; i < static_cast<int>(std::size(kKinds)); ++i)
    if (name == kKinds[i]) return static_cast<SheetKind>(i);
  return fail(Errc::unknown_name, "There is no kind of sheet called " + in_quotes(name) + ".", excerpt(name));
}

Foam with_usual_facts(Foam f) {
  using K = SheetKind;
  f.heat = f.taboo("heat") != nullptr || f.forming_high_c <= 0.0 ? Heat::never
      : f.taboo("heat indoors") != nullptr || f.kind == K::rigid ? Heat::outdoors
                                                                 : Heat::yes;
  f.solvent = f.kind == K::clear                                                             ? Solvent::fogged
      : f.kind == K::board || f.taboo("contact") != nullptr || f.taboo("solvent") != nullptr ? Solvent::eaten
                                                                                             : Solvent::bears;
  f.pores = f.kind == K::block || f.kind == K::card || f.kind == K::fabric ? Pores::soaks
      : f.kind == K::foam || f.kind == K::mesh                             ? Pores::open
                                                                           : Pores::closed;
  f.flex = f.kind == K::block || f.kind == K::fabric || f.kind == K::mesh ? 3
      : f.kind == K::foam                                                 ? 2
      : f.kind == K::card || f.kind == K::clear                           ? 1
                                                                          : 0;
  return f;
}

const Taboo* Foam::taboo(const std::string& what) const {
  for (const Taboo& t : taboos)
    if (t.what == what) return &t;
  return nullptr;
}

Result<void> check_foam_kind(const Foam& f) {
  const auto refuse = [&](const std::string& what, double value, double low, double high) {
    return fail(Errc::out_of_range,
        "The " + what + " of \"" + f.name + "\" is " + fixed(value, 3) + "; it must be " + fixed(low, 3) + " to " +
            fixed(high, 3) + ".",
        "materials/" + f.id);
  };
  if (f.id.empty() || f.name.empty()) return fail(Errc::out_of_range, "A material needs a name.", "materials");
  if (f.thickness_mm.empty())
    return fail(Errc::out_of_range, "\"" + f.name + "\" needs at least one thickness.", "materials/" + f.id);
  const struct {
    const char* what;
    double value, low, high;
  } limits[] = {{"density", f.density_kg_m3, 1.0, 20000.0}, {"cold stretch", f.strain_cold, 0.0, 2.0},
      {"heated stretch", f.strain_heated, 0.0, 2.0}, {"cold bend", f.bend_cold, 0.001, 2.0},
      {"heated bend", f.bend_heated, 0.001, 2.0}, {"stiffness when squeezed", f.squeeze_stiffness, 0.01, 2.0},
      {"share of a bend kept", f.keeps_bend_heated, 0.0, 1.0}, {"seam margin", f.seam_margin_mm, 0.0, 60.0},
      {"rim margin", f.rim_margin_mm, 0.0, 60.0}, {"hole margin", f.hole_margin_mm, 0.0, 60.0},
      {"share of light let through", f.light, 0.0, 1.0}, {"lowest forming temperature", f.forming_low_c, 0.0, 400.0},
      {"highest forming temperature", f.forming_high_c, f.forming_low_c, 400.0}};
  for (const auto& l : limits)
    if (!(l.value >= l.low && l.value <= l.high)) return refuse(l.what, l.value, l.low, l.high);
  for (const double t : f.thickness_mm)
    if (!(t >= 0.2 && t <= 120.0)) return refuse("thickness", t, 0.2, 120.0);
  for (const SoldSheet& s : f.sold) {
    for (const double side : {s.width_mm, s.height_mm})
      if (!(side >= 50.0 && side <= 5000.0)) return refuse("sheet side", side, 50.0, 5000.0);
    if (!(s.price >= 0.0 && s.price <= 1e6)) return refuse("price", s.price, 0.0, 1e6);
  }
  return {};
}

Materials with_own(Materials materials, const std::vector<Foam>& own) {
  for (const Foam& f : own) {
    const auto same = std::find_if(
        materials.foams.begin(), materials.foams.end(), [&](const Foam& known) { return known.id == f.id; });
    if (same != materials.foams.end())
      *same = f;
    else
      materials.foams.push_back(f);
  }
  return materials;
}

std::string foam_text(const Foam& foam) { return json_of(foam).dump(-1, ' ', false, Json::error_handler_t::replace); }

Foam foam_from_json_at(const JsonAt& j) {
  Foam f;
  f.id = j.at("id"), f.name = j.at("name"), f.density_kg_m3 = j.at("density_kg_m3");
  for (const JsonAt& t : j.at("thickness_mm").all()) f.thickness_mm.push_back(t);
  f.strain_cold = j.at("strain_cold"), f.strain_heated = j.at("strain_heated"), f.heat_seal = j.at("heat_seal"),
  f.sands = j.at("sands");
  f.squeeze_stiffness = j.at("squeeze_stiffness"), f.keeps_bend_heated = j.at("keeps_bend_heated");
  f.kind = word_from<SheetKind>(j.at("kind"), kKinds);
  f.bend_cold = j.at("bend_cold"), f.bend_heated = j.at("bend_heated");
  for (const JsonAt& s : j.at("sold").all()) f.sold.push_back({s.at(0), s.at(1), s.at(2), s.at(3)});
  for (const JsonAt& t : j.at("taboos").all()) f.taboos.push_back({t.at("what"), t.at("why")});
  f.seam_margin_mm = j.value("seam_margin_mm", 0.0), f.rim_margin_mm = j.value("rim_margin_mm", 0.0),
  f.hole_margin_mm = j.value("hole_margin_mm", 0.0);
  f.forming_low_c = j.at("forming_c").at(0), f.forming_high_c = j.at("forming_c").at(1);
  f.forming_caution = j.at("forming_caution"), f.light = j.value("light", 0.0);
  take_facts(f, j);
  taken(check_foam_kind(f));
  return f;
}

Result<Foam> foam_from_text(const std::string& text) {
  const auto json = json_in(text, "A material");
  if (!json) return fail(json);
  auto foam = read_json(*json, "", foam_from_json_at);
  if (!foam) return fail(Errc::bad_file, "A material is not complete: " + foam.error().text, "materials");
  return foam;
}

Result<Foam> Materials::foam(const std::string& id) const { return find(foams, id, "foam"); }
Result<Glue> Materials::glue(const std::string& id) const { return find(glues, id, "glue"); }
Result<Coating> Materials::seal(const std::string& id) const { return find(seals, id, "seal"); }
Result<Coating> Materials::paint(const std::string& id) const { return find(paints, id, "paint"); }
Result<Coating> Materials::clear(const std::string& id) const { return find(clears, id, "clear coat"); }

const Coating* Materials::coating(const std::string& id) const {
  for (const auto* products : {&seals, &paints, &clears})
    for (const Coating& c : *products)
      if (c.id == id && c.coats > 0) return &c;
  return nullptr;
}

Result<Materials> load_materials(const std::filesystem::path& folder) {
  Materials m;
  const auto all = [](const JsonAt& j, const char* key, auto& list, auto read) {
    for (const JsonAt& one : j.at(key).all()) list.push_back(read(one));
  };
  if (auto good =
          read_data(folder / "foams.json", [&](const JsonAt& j) { all(j, "foams", m.foams, foam_from_json_at); });
      !good)
    return fail(good);
  if (auto good = read_data(folder / "glues.json", [&](const JsonAt& j) { all(j, "glues", m.glues, glue_of); }); !good)
    return fail(good);
  if (auto good = read_data(folder / "coats.json",
          [&](const JsonAt& j) {
            all(j, "seals", m.seals, coating_of);
            all(j, "paints", m.paints, coating_of);
            all(j, "clears", m.clears, coating_of);
          });
      !good)
    return fail(good);
  return m;
}

}  // namespace awl
