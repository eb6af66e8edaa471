#include "core/io/worn_case.hpp"

#include <algorithm>

#include "core/base/data_files.hpp"
#include "core/base/json_reader.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geom/mesh_file.hpp"

namespace awl {
namespace {

constexpr const char* kPlaceNames[kLandmarkCount] = {"glabella", "sellion", "pronasale", "subnasale", "stomion",
    "pogonion", "menton", "submandibular", "larynx", "vertex", "opisthocranion", "inion", "nape", "euryon_l",
    "tragion_l", "ear_top_l", "ear_bottom_l", "ear_outer_l", "behind_ear_l", "zygion_l", "gonion_l", "cheilion_l",
    "pupil_l", "alare_l", "euryon_r", "tragion_r", "ear_top_r", "ear_bottom_r", "ear_outer_r", "behind_ear_r",
    "zygion_r", "gonion_r", "cheilion_r", "pupil_r", "alare_r"};
constexpr double kMostMm = 10'000.0;
constexpr double kMostHeadMm = 600.0, kMostPartMm = 3000.0;
constexpr std::size_t kMostParts = 60, kMostTriangles = 400'000;

Vec3 place(const JsonAt& from) {
  if (from.size() != 3) from.refuse(Errc::bad_file, "is not a place [x, y, z]");
  Vec3 p;
  for (std::size_t k = 0; k < 3; ++k) p[static_cast<int>(k)] = from.at(k).number(-kMostMm, kMostMm);
  return p;
}

/// A mesh no larger than what it can be.
Mesh mesh_at(const JsonAt& from, const std::filesystem::path& beside, double most_mm) {
  const std::filesystem::path path(from.text());
  // Beside the case, else from where the command was given.
  std::error_code none;
  const bool is_beside = !path.is_absolute() && std::filesystem::exists(beside / path, none);
  Mesh mesh = taken(read_mesh(is_beside ? beside / path : path));
  if (mesh.triangles.size() > kMostTriangles)
    from.refuse(Errc::too_large, "has more than " + std::to_string(kMostTriangles) + " triangles");
  const double size = mesh.vertices.empty() ? 0.0 : box_of(mesh.vertices).size().maxCoeff();
  if (size > most_mm)
    from.refuse(Errc::out_of_range,
        "is " + fixed(size, 0) + " mm large; " + fixed(most_mm, 0) + " mm are the most. Meshes are in millimetres");
  return mesh;
}

Magnet magnet_in(const JsonAt& from, const std::string& number) {
  return {from.at("r" + number + "_mm").number(0.5, 100.0), from.at("t" + number + "_mm").number(0.1, 100.0),
      from.at("br" + number + "_t").number(0.05, 2.0)};
}

HoldAsked hold_in(const JsonAt& from) {
  HoldAsked asked;
  const std::string kind = from.at("kind").text();
  if (kind == "magnets" || kind == "magnet-steel") {
    asked.kind = kind == "magnets" ? HoldAsked::Kind::magnets : HoldAsked::Kind::magnet_steel;
    asked.one = magnet_in(from, "1");
    if (kind == "magnets") asked.other = magnet_in(from, "2");
    asked.gap_mm = from.at("gap_mm").number(0.0, 200.0);
  } else if (kind == "lacing") {
    asked.kind = HoldAsked::Kind::lacing;
    const std::string way = from.value("way", "crossed");
    if (way != "crossed" && way != "straight")
      from.at("way").refuse(Errc::unknown_name, "is neither crossed nor straight");
    asked.lacing = {way == "crossed" ? LacingWay::crossed : LacingWay::straight, from.at("pairs").whole(1, 200),
        from.at("pitch_mm").number(0.0, 500.0), from.at("width_mm").number(0.0, 500.0),
        from.at("tails_mm").number(0.0, 5000.0)};
  } else {
    from.at("kind").refuse(Errc::unknown_name, "is no magnets, magnet-steel or lacing");
  }
  return asked;
}

void parts_in(WornCase& c, const JsonAt& from, const std::filesystem::path& beside) {
  if (from.size() > kMostParts) from.refuse(Errc::too_large, "has more than " + std::to_string(kMostParts) + " parts");
  for (const JsonAt& one : from.all()) {
    FitPart part = fit_part_of(mesh_at(one.at("mesh"), beside, kMostPartMm), *c.head);
    part.part = static_cast<int>(c.parts.size()) + 1, part.name = "part " + std::to_string(part.part);
    part.stiff = one.value("stiff", false);
    if (const auto density = one.find("density_kg_m3")) {
      const SolidMass mass = mass_of(part.solid, density->number(0.0, 30'000.0));
      part.mass_g = mass.mass_g, part.centre = mass.centre, part.inertia_g_mm2 = mass.inertia_g_mm2;
      c.weighs = true;
    }
    if (const auto through = one.find("let_through")) part.look = {ThroughLook::Kind::flat, through->number(0.0, 1.0)};
    c.parts.push_back(std::move(part));
  }
}

void question_in(WornCase& c, const JsonAt& from) {
  WornQuestion& q = c.question;
  q.layers_mm = q.going_on.layers_mm = from.has("layers_mm") ? from.at("layers_mm").number(0.0, 200.0) : 0.0;
  const double gives = from.has("eps") ? from.at("eps").number(0.0, 2.0) : 0.0;
  for (FitPart& p : c.parts) p.gives = gives, p.layers_mm = q.layers_mm;
  q.going_on.press_mm = from.has("press_mm") ? from.at("press_mm").number(0.0, 100.0) : 0.0;
  q.touch_mm = from.has("touch_mm") ? from.at("touch_mm").number(0.0, 100.0) : 1.0;
  if (from.has("axis")) {
    const std::string axis = from.at("axis").text();
    if (axis != "down" && axis != "back") from.at("axis").refuse(Errc::unknown_name, "is neither down nor back");
    q.going_on.from = axis == "down" ? WayOn::from_above : WayOn::from_the_front;
  }
  if (const auto plane = from.find("body_plane_y")) {
    q.body.emplace();
    q.body->plane_mm = plane->number(-kMostMm, kMostMm);
  }
  if (const auto height = from.find("eye_height_mm")) q.sight.eye_height_mm = height->number(100.0, 3000.0);
  if (const auto fittings = from.find("fittings"))
    for (const JsonAt& one : fittings->all()) {
      q.loads.push_back({"fitting", one.at("mass_g").number(0.0, 50'000.0), place(one.at("at"))});
      c.weighs = true;
    }
  if (const auto at = from.find("weight_at")) c.weight_at_mm = at->number(-kMostMm, kMostMm);
  if (const auto g = from.find("weight_g")) c.weight_g = g->number(0.1, 50'000.0);
  if (const auto target = from.find("target_nm")) c.target_nm = target->number(-100.0, 100.0);
  if (const auto hold = from.find("hold"))
    for (const JsonAt& one : hold->all()) c.hold.push_back(hold_in(one));
}

WornCase case_in(const JsonAt& from, const std::filesystem::path& beside) {
  WornCase c;
  FitHead::Places places;
  if (const auto marks = from.find("landmarks"))
    for (const auto& [name, at] : marks->items()) {
      const auto mark = landmark_from(name);
      if (!mark) at.refuse(mark.error().code, "is no place of a head");
      places[static_cast<int>(*mark)] = place(at);
    }
  Mesh head;
  if (const auto mesh = from.find("head")) head = mesh_at(*mesh, beside, kMostHeadMm);
  if (volume_mm3(head) < 0.0)  // wound inside out
    for (Tri& t : head.triangles) std::swap(t[1], t[2]);
  if (head.triangles.empty()) {
    // Where nothing is asked of the head a point far away stands in for it.
    head.vertices = {{0, -1e4, 0}, {1, -1e4, 0}, {0, -1e4, 1}, {0, -1e4 - 1, 0}};
    head.triangles = {{0, 2, 1}, {0, 1, 3}, {1, 2, 3}, {2, 0, 3}};
  }
  c.head = std::make_shared<const FitHead>(head, head, places);
  if (const auto parts = from.find("parts")) parts_in(c, *parts, beside);
  question_in(c, from);
  return c;
}

}  // namespace

Result<Landmark> landmark_from(const std::string& name) {
  std::string plain;
  for (const char ch : name)
    plain += ch == ' ' || ch == '-' ? '_' : static_cast<char>(ch >= 'A' && ch <= 'Z' ? ch + 32 : ch);
  if (plain.ends_with("_left")) plain.resize(plain.size() - 3);
  if (plain.ends_with("_right")) plain.resize(plain.size() - 4);
  for (int i = 0; i < kLandmarkCount; ++i)
    if (plain == kPlaceNames[i]) return static_cast<Landmark>(i);
  return fail(Errc::unknown_name, "There is no place of the head called " + in_quotes(name) + ".");
}

FitPart fit_part_of(Mesh mesh, const FitHead& head) {
  FitPart part;
  part.closed = is_closed(mesh);
  if (part.closed && volume_mm3(mesh) < 0.0)
    for (Tri& t : mesh.triangles) std::swap(t[1], t[2]);
  part.solid = std::move(mesh);
  part.near = std::make_shared<const Nearest>(part.solid);
  part.rims = rims_of(part.solid);
  if (!part.closed) {
    part.inner = part.solid;
    return part;
  }
  std::vector<int> facing;
  for (int f = 0; f < static_cast<int>(part.solid.triangles.size()); ++f) {
    const Tri& t = part.solid.triangles[f];
    const Vec3 middle = (part.solid.vertices[t[0]] + part.solid.vertices[t[1]] + part.solid.vertices[t[2]]) / 3.0;
    const NearestHit hit = head.near().to(middle);
    const Vec3 towards = hit.signed_mm < 0.0 ? Vec3(middle - hit.point) : Vec3(hit.point - middle);
    if (area_vector(part.solid, t).normalized().dot(towards.normalized()) > 0.3) facing.push_back(f);
  }
  if (facing.empty()) {  // one closed sheet all round the head
    part.closed = false;
    part.inner = part.solid;
    return part;
  }
  std::vector<int> unused;
  part.inner = part_of(part.solid, facing, unused);
  return part;
}

Result<WornCase> worn_case_in(const std::string& text, const std::filesystem::path& beside) {
  const auto json = json_in(text, "The case");
  if (!json) return fail(json);
  return read_json(*json, "case", [&](const JsonAt& from) { return case_in(from, beside); });
}

Result<WornCase> read_worn_case(const std::filesystem::path& path) {
  const auto text = read_file(path, std::uintmax_t{16} << 20);
  if (!text) return fail(text);
  return worn_case_in(*text, path.parent_path());
}

}  // namespace awl
