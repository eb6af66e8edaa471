#include "core/stock/materials.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"

namespace awl {
namespace {

using Json = nlohmann::json;

constexpr const char* kKinds[] = {"foam", "block", "board", "thermoplastic", "rigid", "clear", "card", "fabric", "mesh"};

/// Throws Json::exception for what is missing, and fail's error as text for an unknown kind.
Foam foam_of(const Json& j) {
  Foam f;
  f.id = j.at("id"), f.name = j.at("name"), f.thickness_mm = j.at("thickness_mm").get<std::vector<double>>(), f.density_kg_m3 = j.at("density_kg_m3");
  f.strain_cold = j.at("strain_cold"), f.strain_heated = j.at("strain_heated"), f.heat_seal = j.at("heat_seal"), f.sands = j.at("sands");
  f.squeeze_stiffness = j.at("squeeze_stiffness"), f.keeps_bend_heated = j.at("keeps_bend_heated");
  f.kind = sheet_kind_from(j.at("kind").get<std::string>()).value_or(SheetKind::foam);
  f.bend_cold = j.at("bend_cold"), f.bend_heated = j.at("bend_heated");
  for (const Json& s : j.at("sold")) f.sold.push_back({s.at(0), s.at(1), s.at(2), s.at(3)});
  for (const Json& t : j.at("taboos")) f.taboos.push_back({t.at("what"), t.at("why")});
  f.seam_margin_mm = j.value("seam_margin_mm", 0.0), f.rim_margin_mm = j.value("rim_margin_mm", 0.0), f.hole_margin_mm = j.value("hole_margin_mm", 0.0);
  f.forming_low_c = j.at("forming_c").at(0), f.forming_high_c = j.at("forming_c").at(1);
  f.forming_caution = j.at("forming_caution"), f.light = j.value("light", 0.0);
  return f;
}

Json json_of(const Foam& f) {
  Json sold = Json::array(), taboos = Json::array();
  for (const SoldSheet& s : f.sold) sold.push_back({s.width_mm, s.height_mm, s.thickness_mm, s.price});
  for (const Taboo& t : f.taboos) taboos.push_back({{"what", t.what}, {"why", t.why}});
  return {{"id", f.id}, {"name", f.name}, {"kind", name_of(f.kind)}, {"thickness_mm", f.thickness_mm}, {"density_kg_m3", f.density_kg_m3},
          {"strain_cold", f.strain_cold}, {"strain_heated", f.strain_heated}, {"bend_cold", f.bend_cold}, {"bend_heated", f.bend_heated},
          {"heat_seal", f.heat_seal}, {"sands", f.sands}, {"squeeze_stiffness", f.squeeze_stiffness}, {"keeps_bend_heated", f.keeps_bend_heated},
          {"sold", sold}, {"taboos", taboos}, {"seam_margin_mm", f.seam_margin_mm}, {"rim_margin_mm", f.rim_margin_mm}, {"hole_margin_mm", f.hole_margin_mm},
          {"forming_c", {f.forming_low_c, f.forming_high_c}}, {"forming_caution", f.forming_caution}, {"light", f.light}};
}

Glue glue_of(const Json& j) {
  return {j.at("id"), j.at("name"), j.at("caution"), j.at("hands_min_per_m"), j.at("wait_min"), j.at("cure_min"), j.at("ml_per_m"), j.at("not_on")};
}

Coating coating_of(const Json& j) {
  return {j.at("id"), j.at("name"), j.value("kind", ""), j.at("caution"), j.at("coats"), j.at("hands_min_per_m2"), j.at("wait_min"),
          j.value("last_wait_min", j.at("wait_min").get<double>()), j.at("ml_per_m2"), j.value("holds", std::vector<std::string>())};
}

Result<Json> read_json(const std::filesystem::path& path) {
  const auto bytes = read_file(path);
  if (!bytes) return tl::make_unexpected(bytes.error());
  Json json = Json::parse(*bytes, nullptr, false);
  if (json.is_discarded()) return fail(Errc::bad_file, "The file " + path.string() + " is not readable JSON.");
  return json;
}

template <class T>
Result<T> find(const std::vector<T>& all, const std::string& id, const char* what) {
  for (const T& item : all)
    if (item.id == id) return item;
  return fail(Errc::unknown_name, "There is no " + std::string(what) + " called \"" + id + "\" in the material data.", id);
}

}  // namespace

const char* name_of(SheetKind kind) { return kKinds[static_cast<int>(kind)]; }

Result<SheetKind> sheet_kind_from(const std::string& name) {
  for (int i = 0; i < static_cast<int>(std::size(kKinds)); ++i)
    if (name == kKinds[i]) return static_cast<SheetKind>(i);
  return fail(Errc::unknown_name, "There is no kind of sheet called \"" + name + "\".", name);
}

const Taboo* Foam::taboo(const std::string& what) const {
  for (const Taboo& t : taboos)
    if (t.what == what) return &t;
  return nullptr;
}

Result<void> check_foam_kind(const Foam& f) {
  const auto refuse = [&](const std::string& what, double value, double low, double high) {
    return fail(Errc::out_of_range, "The " + what + " of \"" + f.name + "\" is " + fixed(value, 3) + "; it must be " + fixed(low, 3) + " to " + fixed(high, 3) + ".", "materials/" + f.id);
  };
  if (f.id.empty() || f.name.empty()) return fail(Errc::out_of_range, "A material needs a name.", "materials");
  if (f.thickness_mm.empty()) return fail(Errc::out_of_range, "\"" + f.name + "\" needs at least one thickness.", "materials/" + f.id);
  const struct { const char* what; double value, low, high; } limits[] = {
      {"density", f.density_kg_m3, 1.0, 20000.0}, {"cold stretch", f.strain_cold, 0.0, 2.0}, {"heated stretch", f.strain_heated, 0.0, 2.0}, {"cold bend", f.bend_cold, 0.001, 2.0},
      {"heated bend", f.bend_heated, 0.001, 2.0}, {"stiffness when squeezed", f.squeeze_stiffness, 0.01, 2.0}, {"share of a bend kept", f.keeps_bend_heated, 0.0, 1.0},
      {"seam margin", f.seam_margin_mm, 0.0, 60.0}, {"rim margin", f.rim_margin_mm, 0.0, 60.0}, {"hole margin", f.hole_margin_mm, 0.0, 60.0}, {"share of light let through", f.light, 0.0, 1.0}, {"lowest forming temperature", f.forming_low_c, 0.0, 400.0},
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
    const auto same = std::find_if(materials.foams.begin(), materials.foams.end(), [&](const Foam& known) { return known.id == f.id; });
    if (same != materials.foams.end()) *same = f;
    else materials.foams.push_back(f);
  }
  return materials;
}

std::string foam_text(const Foam& foam) { return json_of(foam).dump(); }

Result<Foam> foam_from_text(const std::string& text) {
  const Json json = Json::parse(text, nullptr, false);
  if (json.is_discarded()) return fail(Errc::bad_file, "A material is not readable JSON.", "materials");
  try {
    Foam foam = foam_of(json);
    if (auto good = check_foam_kind(foam); !good) return tl::make_unexpected(good.error());
    return foam;
  } catch (const Json::exception& e) {
    return fail(Errc::bad_file, std::string("A material is not complete: ") + e.what() + ".", "materials");
  }
}

Result<Foam> Materials::foam(const std::string& id) const { return find(foams, id, "foam"); }
Result<Glue> Materials::glue(const std::string& id) const { return find(glues, id, "glue"); }
Result<Coating> Materials::seal(const std::string& id) const { return find(seals, id, "seal"); }
Result<Coating> Materials::paint(const std::string& id) const { return find(paints, id, "paint"); }
Result<Coating> Materials::clear(const std::string& id) const { return find(clears, id, "clear coat"); }

Result<Materials> load_materials(const std::filesystem::path& folder) {
  Materials m;
  const auto foams = read_json(folder / "foams.json"), glues = read_json(folder / "glues.json"), coats = read_json(folder / "coats.json");
  for (const auto* read : {&foams, &glues, &coats})
    if (!*read) return tl::make_unexpected(read->error());
  try {
    for (const Json& j : foams->at("foams")) m.foams.push_back(foam_of(j));
    for (const Json& j : glues->at("glues")) m.glues.push_back(glue_of(j));
    for (const Json& j : coats->at("seals")) m.seals.push_back(coating_of(j));
    for (const Json& j : coats->at("paints")) m.paints.push_back(coating_of(j));
    for (const Json& j : coats->at("clears")) m.clears.push_back(coating_of(j));
  } catch (const Json::exception& e) {
    return fail(Errc::bad_file, "The material data in " + folder.string() + " is not complete: " + e.what() + ".");
  }
  for (const Foam& f : m.foams)
    if (auto good = check_foam_kind(f); !good) return tl::make_unexpected(good.error());
  return m;
}

}  // namespace awl
