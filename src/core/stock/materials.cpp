#include "core/stock/materials.hpp"

#include <nlohmann/json.hpp>

#include "core/base/data_files.hpp"

namespace awl {
namespace {

using Json = nlohmann::json;

Foam foam_of(const Json& j) {
  return {j.at("id"), j.at("name"), j.at("thickness_mm"), j.at("density_kg_m3"), j.at("strain_cold"), j.at("strain_heated"), j.at("heat_seal"), j.at("sands"), j.at("squeeze_stiffness"), j.at("keeps_bend_heated")};
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
  return m;
}

}  // namespace awl
